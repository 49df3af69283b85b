"""What a browser says of a page -> its texts, boxes and pictures; lengths in CSS pixels."""

from __future__ import annotations

import math
import re
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field, replace
from functools import cached_property

from riffler.analyse.thumbnails import Thumbs, thumbs
from riffler.color import Bytes
from riffler.fit.said import PageSaid
from riffler.geometry import Rect
from riffler.hexcolor import hex_text
from riffler.markup.setting import Setting, letters_of

#: How far the edges of something hidden may be from where it should be, in CSS pixels.
THERE = 8.0

#: Elements that a selector names at the most, from the innermost.
DEEP = 12

_NUMBERS = re.compile(r"-?\d*\.?\d+(?:e-?\d+)?")
_COLOR = re.compile(r"rgba?\([^)]*\)|color\(srgb [^)]*\)")


@dataclass(frozen=True)
class Node:
    """An element: its tag, classes, id, the number of the one around it, its box."""

    tag: str
    classes: tuple[str, ...]
    id: str
    parent: int
    box: Rect


@dataclass(frozen=True)
class SeenLine:
    """A line of text: where its letters begin and end, and its content box from top to bottom."""

    text: str
    x: float
    right: float
    top: float
    height: float


@dataclass(frozen=True)
class SeenText:
    """A text of one style with its lines. `element` and `block` are numbers of elements.

    `ascent` is how far its baselines lie under the tops of its lines. What is `is_covered` has
    another element upon it.
    """

    lines: tuple[SeenLine, ...]
    element: int
    block: int
    size: float
    weight: int
    family: str
    is_italic: bool
    color: str
    spacing: float
    ascent: float
    parts: tuple[SeenText, ...] = field(default=(), repr=False)
    is_covered: bool = False

    @property
    def made_of(self) -> tuple[SeenText, ...]:
        """The texts of the page that it is made of."""
        return self.parts or (self,)

    @property
    def style(self) -> tuple[object, ...]:
        """How it is set."""
        return (self.size, self.weight, self.family, self.is_italic, self.color)

    def with_(self, other_text: SeenText) -> SeenText:
        """Both as one, set as the longer; what stands on one line is one line."""
        lines = list(self.lines)
        for line in other_text.lines:
            last = lines[-1]
            if abs(last.top - line.top) < line.height / 2:
                text = f"{last.text} {line.text}"
                lines[-1] = replace(last, text=text, right=line.right)
            else:
                lines.append(line)
        parts = (*self.made_of, *other_text.made_of)
        main = max(parts, key=lambda part: len(part.text))
        return replace(main, lines=tuple(lines), element=self.element, parts=parts)

    @property
    def text(self) -> str:
        """All that it says, in one line."""
        return " ".join(" ".join(line.text.split()) for line in self.lines)

    @property
    def box(self) -> Rect:
        """The box around its lines."""
        left, top = min(line.x for line in self.lines), self.lines[0].top
        right = max(line.right for line in self.lines)
        return Rect(left, top, right - left, self.lines[-1].top + self.lines[-1].height - top)


@dataclass(frozen=True)
class SeenBox:
    """An element that paints: its colour, its gradient as CSS says it, corners, borders, shadow.

    `fills` says that its ground is that of the whole canvas. CSS Backgrounds 3, 2.11.2.
    """

    element: int
    box: Rect
    color: str
    image: str
    shadow: str
    radii: tuple[float, ...]
    borders: tuple[tuple[float, str], ...]
    fills: bool = False


@dataclass(frozen=True)
class SeenPicture:
    """A picture of the page: what it paints by itself, and `pixels`, which begin `at` x, y.

    `kept` are the sides whose ratio it keeps in whatever room, 0 where it is stretched to it.
    """

    element: int
    box: Rect
    natural: tuple[int, int]
    kept: tuple[float, float] = (0, 0)
    paint: Rect | None = None
    pixels: Bytes | None = field(default=None, repr=False, compare=False)
    at: tuple[int, int] = (0, 0)
    density: float = 1.0

    @property
    def inked(self) -> Bytes | None:
        """The pixels that it paints, and none around them."""
        if self.paint is None or self.pixels is None:
            return None
        by, (left, top) = self.density, self.at
        on = self.paint.scaled(by).outward()
        return self.pixels[
            max(0, on.y - top) : on.bottom - top, max(0, on.x - left) : on.right - left
        ]

    @cached_property
    def look(self) -> Thumbs | None:
        """What it paints as a small picture."""
        inked = self.inked
        return thumbs(inked) if inked is not None else None


@dataclass(frozen=True)
class SeenPage:
    """A page as it is seen at one width; `shot` are its pixels, `density` to a CSS pixel."""

    nodes: tuple[Node, ...]
    texts: tuple[SeenText, ...]
    boxes: tuple[SeenBox, ...]
    pictures: tuple[SeenPicture, ...]
    width: float
    height: float
    density: float
    shot: Bytes = field(repr=False, compare=False)
    hidden: tuple[tuple[int, Rect, str], ...] = ()
    """Elements that are not shown, with their place and what they say."""

    def hidden_as(self, box: Rect, setting: Setting | None) -> int:
        """The element that is not shown and says a text, or else has this place; -1 for none."""
        said = letters_of(setting.text) if setting else ""
        for element, rect, text in self.hidden:
            is_there = rect.width and rect.contains(box, THERE) and box.contains(rect, THERE)
            if letters_of(text) == said if said else is_there:
                return element
        return -1

    @cached_property
    def covered(self) -> frozenset[int]:
        """The elements with a text that another element lies on."""
        return frozenset(text.element for text in self.texts if text.is_covered)

    def selector(self, element: int) -> str:
        """An element as a person would point at it."""
        return selector_of(self.nodes, element)

    def around(self, element: int) -> Iterator[int]:
        """An element, and those that it is in, from the inside out."""
        while element >= 0:
            yield element
            element = self.nodes[element].parent

    def is_link(self, element: int) -> bool:
        """Whether an element, or one that it is in, leads elsewhere."""
        return any(self.nodes[one].tag in ("a", "button") for one in self.around(element))

    def is_in(self, element: int, around: int) -> bool:
        """Whether an element is another or in it."""
        return around in self.around(element)


def selector_of(nodes: Sequence[Node], element: int) -> str:
    """An element as a person would point at it: `.card .title`, `main > p`."""
    parts: list[str] = []
    while element >= 0 and len(parts) < DEEP:
        node = nodes[element]
        selector = f"#{node.id}" if node.id else f".{node.classes[0]}" if node.classes else node.tag
        parts.insert(0, selector)
        element = -1 if selector != node.tag else node.parent
    return " > ".join(parts)


def nodes_of(data: PageSaid) -> tuple[Node, ...]:
    """The elements of a page."""
    return tuple(
        Node(element.tag, element.classes, element.id, element.parent, Rect(*element.rect))
        for element in data.elements
    )


def texts_of(data: PageSaid) -> tuple[SeenText, ...]:
    """The texts of a page."""
    return tuple(
        SeenText(
            tuple(
                SeenLine(
                    _said(line.text, text.transform), line.x, line.right, line.top, line.height
                )
                for line in text.lines
            ),
            text.element,
            text.block,
            text.size,
            text.weight,
            text.family,
            text.italic,
            hexadecimal(text.color),
            text.spacing,
            text.ascent,
            is_covered=text.covered,
        )
        for text in data.texts
    )


def _said(text: str, transform: str) -> str:
    plain = text.strip()
    return plain.upper() if transform == "uppercase" else plain


def boxes_of(data: PageSaid) -> tuple[SeenBox, ...]:
    """The boxes of a page that paint."""
    return tuple(
        SeenBox(
            box.element,
            Rect(*box.rect),
            hexadecimal(box.color),
            box.image,
            box.shadow,
            box.radii,
            tuple((width, hexadecimal(color)) for width, color in box.borders),
            box.fills,
        )
        for box in data.boxes
    )


def colors_in(text: str) -> list[str]:
    """The colours that a computed value names, in order."""
    return [hexadecimal(match) for match in _COLOR.findall(text)]


def hexadecimal(text: str) -> str:
    """A computed colour as `#rrggbb`, with its alpha behind where it has one. CSS Color 4."""
    numbers = [float(match) for match in _NUMBERS.findall(text.partition("(")[2])]
    if len(numbers) < 3 or not all(map(math.isfinite, numbers)):
        return "#00000000"
    by = 255 if text.startswith("color(") else 1
    alpha = round(255 * numbers[3]) if len(numbers) > 3 else 255
    parts = (*(by * number for number in numbers[:3]), alpha)
    return hex_text(*(min(255, max(0, round(part))) for part in parts))


def lengths_in(text: str) -> Sequence[float]:
    """The numbers of a computed value whose colours are taken out."""
    return [float(match) for match in _NUMBERS.findall(_COLOR.sub("", text))]
