"""Styles and attributes -> as few attributes as say the same. SVG 2, sections 6.5 and 6.6."""

from __future__ import annotations

import re

from lxml import etree

from riffler.mockup.svg import lengths
from riffler.mockup.svg.style import declared
from riffler.mockup.xml import local_name
from riffler.tidy.colors import shortest
from riffler.tidy.drawing import Drawing, computed
from riffler.tidy.properties import (
    COLORS,
    IN_STYLE,
    INHERITED,
    OF_STROKES,
    OF_TEXT,
    OWN,
    PRESENTATION,
    RESOURCES,
    SHAPES,
)

#: Values of properties that only a style can say, which say nothing.
_IDLE = {
    "mix-blend-mode": "normal",
    "isolation": "auto",
    "transform": "none",
    "mask-type": "luminance",
}

_RELATIVE = re.compile(r"\d(em|ex|ch|rem)\b")


def to_attributes(drawing: Drawing) -> None:
    """Say with attributes what styles say, where there is an attribute for it."""
    if drawing.has_sheet:
        return
    for element in drawing.elements():
        said = element.get("style")
        if said is None:
            continue
        kept = {}
        for name, (value, _) in declared(said).items():
            if name == "marker":
                for end in ("marker-start", "marker-mid", "marker-end"):
                    element.set(end, value)
            elif name in PRESENTATION:
                element.set(name, value)
            elif (name in IN_STYLE or name.startswith("--")) and _IDLE.get(name) != value:
                kept[name] = value
        if kept:
            element.set("style", ";".join(f"{name}:{value}" for name, value in kept.items()))
        else:
            del element.attrib["style"]


def drop_idle(drawing: Drawing) -> None:
    """Shorten colours, and drop what holds anyway, or means nothing where it stands."""
    reused, moving = drawing.reused(), drawing.moving()
    names = {local_name(element) for element in drawing.elements()}
    values = [str(v) for element in drawing.elements() for v in element.attrib.values()]
    is_plain = "text" not in names and not any(map(_RELATIVE.search, values))
    for element in drawing.elements():
        for key in COLORS:
            if (said := element.get(key)) is not None:
                element.set(key, shortest(said))
        if drawing.has_sheet or element in moving:
            continue
        if is_plain:
            _pop(element, OF_TEXT)
        _drop_meaningless(element, reused)
        for key in [str(key) for key in element.attrib if key in PRESENTATION]:
            if element not in reused and _holds_anyway(element, key):
                del element.attrib[key]
    if not drawing.has_sheet and not reused and not moving:
        for element in reversed(list(drawing.elements())):
            _drop_unheard(element)


def _pop(element: etree._Element, names: tuple[str, ...]) -> None:
    for name in names:
        element.attrib.pop(name, None)


def _holds_anyway(element: etree._Element, key: str) -> bool:
    """Whether a property would be the same if the element did not say it."""
    value = str(element.get(key))
    if key in OWN:
        return value in (OWN[key], {"opacity": "1.0"}.get(key)) if OWN[key] else False
    parent = element.getparent()
    if value == "inherit":
        return True
    around = computed(parent, key) if parent is not None else INHERITED[key]
    return around is not None and _plain(around) == _plain(value)


def _plain(value: str) -> str:
    """A value so that equal ones are equal: numbers without idle zeros and units."""
    number = lengths.length(value)
    return value if number is None else f"{number:g}"


def _drop_meaningless(element: etree._Element, reused: set[etree._Element]) -> None:
    """Drop properties of a shape that mean nothing for what it paints."""
    name = local_name(element)
    if name == "stop" or name in ("linearGradient", "radialGradient"):
        for key in [str(key) for key in element.attrib if key in PRESENTATION]:
            if not key.startswith("stop-") and key not in ("color", "color-interpolation"):
                del element.attrib[key]
    if name not in SHAPES or element in reused:
        return
    if computed(element, "stroke") == "none":
        _pop(element, OF_STROKES)
    if computed(element, "fill") == "none" or name == "line":
        _pop(element, ("fill-opacity", "fill-rule"))
    if name in ("rect", "circle", "ellipse", "line"):
        _pop(element, ("fill-rule",))
    if not any(local_name(around) == "clipPath" for around in element.iterancestors()):
        _pop(element, ("clip-rule",))


def _drop_unheard(group: etree._Element) -> None:
    """Drop what a group says to its children when every one of them says it itself."""
    if local_name(group) not in ("g", "svg", "a"):
        return
    children = [
        child for child in group if local_name(child) not in ("title", "desc", "defs", "style")
    ]
    if not children or any(local_name(child) in RESOURCES for child in children):
        return
    inside = {local_name(inner) for inner in group.iter()}
    if inside & {"text", "use"}:
        return
    strokes = [computed(group, "stroke"), *(str(inner.get("stroke")) for inner in group.iter())]
    is_stroked = any(stroke not in ("none", "None") for stroke in strokes)
    in_clip = any(local_name(around) == "clipPath" for around in group.iterancestors())
    for key in [str(key) for key in group.attrib if key in INHERITED]:
        is_heard = any(child.get(key) is None for child in children)
        is_of_stroke = key in OF_STROKES and not is_stroked
        is_of_clip = key == "clip-rule" and not in_clip and "clipPath" not in inside
        if not is_heard or is_of_stroke or is_of_clip:
            del group.attrib[key]
