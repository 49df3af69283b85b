"""A tidied drawing -> one that a page colours, moves and reads out.

Paint becomes `currentColor` or custom properties, opacity and the width of strokes go into a style
sheet under classes that are called as the layers are.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass

from lxml import etree

from riffler.errors import RifflerError, enumerated
from riffler.mockup.svg.document import NAMESPACE
from riffler.mockup.xml import local_name
from riffler.plain import slug
from riffler.project.saving import Paint
from riffler.tidy.colors import KEYWORDS, shortest
from riffler.tidy.drawing import Drawing, computed
from riffler.tidy.writing import text_of
from riffler.vector.taken import LAYER

PAINTS: tuple[Paint, ...] = ("drawn", "current", "custom")

_PAINTS = ("fill", "stroke", "stop-color", "flood-color")

#: What goes from attributes into the style sheet.
_MOVED = ("opacity", "fill-opacity", "stroke-opacity", "stroke-width")

#: Elements whose colours are no paint: how bright they are says what is seen.
_MEASURES = {"mask", "clipPath"}


def checked_paint(text: str) -> Paint:
    """What is said for `--paint`. Raises RifflerError for what is no paint."""
    if text not in PAINTS:
        raise RifflerError(f'--paint is {enumerated(PAINTS, "or")}, not "{text}".')
    return text


@dataclass(frozen=True)
class ForPage:
    """How a drawing is made for a page.

    `stem` begins the names of custom properties and classes. `title` is read out; an empty one says
    that it is decoration, None leaves what is there.
    """

    stem: str
    paint: Paint = "drawn"
    has_hooks: bool = False
    title: str | None = None

    @property
    def is_needed(self) -> bool:
        """Whether it changes anything."""
        return self.paint != "drawn" or self.has_hooks or self.title is not None


@dataclass(frozen=True)
class Paged:
    """The text of a drawing made for a page, its style sheet, and its colours by property."""

    text: str
    styles: str = ""
    colors: tuple[tuple[str, str], ...] = ()


def made(text: str, how: ForPage) -> Paged:
    """The drawing made for a page; what it looks like stays."""
    root = etree.fromstring(text.encode())
    colors: tuple[tuple[str, str], ...] = ()
    if how.paint == "current":
        _refuse_several(_colors(root), how.stem)
        _paint(root, lambda _: "currentColor")
    elif how.paint == "custom":
        named = {
            color: f"--{how.stem}-{index}" for index, color in enumerate(_colors(root), start=1)
        }
        _paint(root, lambda color: f"var({named[color]},{color})")
        colors = tuple((name, color) for color, name in named.items())
    styles = _hook(root, how.stem) if how.has_hooks else ""
    if how.title is not None:
        _entitle(root, how.title)
    return Paged(text_of(Drawing(root)), styles, colors)


def _refuse_several(colors: Sequence[str], name: str) -> None:
    """Raises RifflerError for a drawing of several colours, which one would make a blot of."""
    if len(colors) > 1:
        raise RifflerError(
            f'"{name}" has {len(colors)} colours ({", ".join(colors[:4])}), and the colour of text '
            "is one.",
            'Let a page have each of them: paint = "custom".',
        )


def painted(root: etree._Element) -> Iterator[tuple[etree._Element, str, str]]:
    """Elements with the attribute and the colour of each of their own paints."""
    for element in root.iter():
        if not isinstance(element.tag, str):
            continue
        if any(local_name(around) in _MEASURES for around in (element, *element.iterancestors())):
            continue
        for key in _PAINTS:
            value = element.get(key)
            if value is not None and "(" not in value and value.lower() not in KEYWORDS:
                yield element, key, shortest(value)
            elif value is None and key == "stop-color" and local_name(element) == "stop":
                yield element, key, "#000"


def _says_black(root: etree._Element) -> bool:
    """Whether something is filled with what holds when nothing is said."""
    shapes = ("path", "rect", "circle", "ellipse", "polygon", "polyline", "text")
    return any(
        computed(element, "fill") == "#000"
        and not any(around.get("fill") for around in (element, *element.iterancestors()))
        for element in root.iter()
        if local_name(element) in shapes
    )


def _colors(root: etree._Element) -> list[str]:
    """Every colour once, in the order of the drawing."""
    black = ["#000"] if _says_black(root) else []
    return list(dict.fromkeys([*black, *(color for _, _, color in painted(root))]))


def _paint(root: etree._Element, new: Callable[[str], str]) -> None:
    """Let every paint be another."""
    if _says_black(root):
        root.set("fill", "#000")
    for element, key, color in list(painted(root)):
        element.set(key, new(color))


def _hook(root: etree._Element, stem: str) -> str:
    """Classes after the layers, and the rules that say what attributes said; returns the rules."""
    rules: dict[str, dict[str, str]] = {}
    taken = set[str]()
    for element in root.iter():
        layer = element.attrib.pop(LAYER, None)
        moved = {key: str(element.get(key)) for key in _MOVED if element.get(key) is not None}
        if layer is None and not moved:
            continue
        base = f"{stem}-{slug(str(layer))}" if layer else f"{stem}-part"
        name, number = base, 2
        while name in taken and rules.get(name) != moved:
            name, number = f"{base}-{number}", number + 1
        taken.add(name)
        element.set("class", " ".join(filter(None, (element.get("class"), name))))
        for key in moved:
            del element.attrib[key]
        if moved:
            rules[name] = moved
    return "".join(
        f".{name} {{\n{''.join(f'  {key}: {value};{chr(10)}' for key, value in values.items())}}}\n"
        for name, values in rules.items()
    )


def _entitle(root: etree._Element, title: str) -> None:
    """Give it words that are read out, or hide it from who would hear them. WAI-ARIA 1.2, 5.4."""
    for child in [child for child in root if local_name(child) in ("title", "desc")]:
        root.remove(child)
    for key in ("role", "aria-label", "aria-labelledby", "aria-hidden"):
        root.attrib.pop(key, None)
    if not title:
        root.set("aria-hidden", "true")
        return
    root.set("role", "img")
    element = etree.Element(f"{{{NAMESPACE}}}title")
    element.text = title
    root.insert(0, element)
