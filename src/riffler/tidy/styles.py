"""Styles and attributes -> as few attributes as say the same. SVG 2, sections 6.5 and 6.6."""

from __future__ import annotations

import re
from collections.abc import Iterator

from lxml import etree

from riffler.mockup.svg import lengths
from riffler.mockup.svg.style import declared
from riffler.mockup.xml import local_name
from riffler.tidy.colors import shortest
from riffler.tidy.definitions import GRADIENTS
from riffler.tidy.drawing import Drawing, computed, is_in, says
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

#: Children of a group that paint nothing.
_SILENT = {"title", "desc", "defs", "style"}

_RELATIVE = re.compile(r"\d(em|ex|ch|rem)\b")


def to_attributes(drawing: Drawing) -> None:
    """Say with attributes what styles say, where there is an attribute for it."""
    if drawing.has_sheet:
        return
    for element in drawing.elements():
        said_value = element.get("style")
        if said_value is None:
            continue
        kept = {}
        for name, (value, _) in declared(said_value).items():
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
    is_plain, values = _has_no_text(drawing), set(_values(drawing))
    idle = (*OF_TEXT, *(() if "currentColor" in values else ("color",))) if is_plain else ()
    for element in drawing.elements():
        for key in COLORS:
            if (value := element.get(key)) is not None:
                element.set(key, shortest(value))
        if drawing.has_sheet or element in moving:
            continue
        _pop(element, idle)
        if element not in reused:
            _drop_meaningless(element)
            _pop(element, tuple(key for key in _presented(element) if _holds_anyway(element, key)))
    if not drawing.has_sheet and not reused and not moving:
        for element in reversed(list(drawing.elements())):
            _drop_unheard(element)


def _has_no_text(drawing: Drawing) -> bool:
    """Whether no font is looked at: there is no text, and no length that depends on one."""
    if any(local_name(element) == "text" for element in drawing.elements()):
        return False
    return not any(map(_RELATIVE.search, _values(drawing)))


def _values(drawing: Drawing) -> Iterator[str]:
    """What every attribute says."""
    return (str(v) for element in drawing.elements() for v in element.attrib.values())


def _presented(element: etree._Element) -> list[str]:
    """The properties that the element says."""
    return [str(key) for key in element.attrib if key in PRESENTATION]


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
    return value if number is None else f"{number:.9g}"


def _drop_meaningless(element: etree._Element) -> None:
    """Drop properties that mean nothing for what the element paints."""
    name = local_name(element)
    if name in (*GRADIENTS, "stop"):
        _drop_around_colors(element)
    if name in SHAPES or name == "g":
        _pop(element, ("overflow",))  # of viewports alone
        if element.get("display") != "none":
            _pop(element, ("display",))
    if name in SHAPES:
        _drop_of_paint(element)


def _drop_around_colors(element: etree._Element) -> None:
    """Drop what gradients and their stops say beside their colours."""
    kept = ("color", "color-interpolation", "stop-color", "stop-opacity")
    _pop(element, tuple(key for key in _presented(element) if key not in kept))
    if local_name(element) == "radialGradient" and not says(element, "href"):
        for focus, center in (("fx", "cx"), ("fy", "cy")):
            if element.get(focus) == element.get(center):
                element.attrib.pop(focus, None)


def _drop_of_paint(shape: etree._Element) -> None:
    """Drop what a shape says of paint that it does not have."""
    name = local_name(shape)
    if computed(shape, "stroke") == "none":
        _pop(shape, OF_STROKES)
    if computed(shape, "fill") == "none" or name == "line":
        _pop(shape, ("fill-opacity", "fill-rule"))
    if name in ("rect", "circle", "ellipse", "line"):
        _pop(shape, ("fill-rule",))
    if not is_in(shape, "clipPath"):
        _pop(shape, ("clip-rule",))


def _drop_unheard(group: etree._Element) -> None:
    """Drop what a group says to its children when none of them listens."""
    drawn = [child for child in group if local_name(child) not in _SILENT]
    inside = {local_name(inner) for inner in group.iter()}
    if local_name(group) not in ("g", "svg", "a") or not drawn or inside & {"text", "use"}:
        return
    if not RESOURCES & {local_name(child) for child in drawn}:
        keys = [key for key in _presented(group) if key in INHERITED]
        _pop(group, tuple(key for key in keys if all(says(child, key) for child in drawn)))
        _drop_of_others(group, inside)


def _drop_of_others(group: etree._Element, inside: set[str]) -> None:
    """Drop what a group says of strokes and of clips where there are none."""
    if computed(group, "stroke") == "none" and not any(says(e, "stroke") for e in group.iter()):
        _pop(group, OF_STROKES)
    if "clipPath" not in inside and not is_in(group, "clipPath"):
        _pop(group, ("clip-rule",))
