"""An element of a page that is being roughed out, with its declarations."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass, field

from riffler.markup.area import Area
from riffler.markup.setting import Setting, letters_of

#: Stands between lines of words that are to be broken so.
BREAK = "\n"


#: Distances no larger than this, in CSS pixels, are how a drawing is measured: nobody meant them.
NOISE = 1.0

#: Attributes that are there or not: with their own name as value, or where a row of data says so.
#: HTML, 2.3.2.
SWITCHES = ("open", "checked")

#: The elements of headings. HTML, 4.3.6.
HEADINGS = ("h1", "h2", "h3", "h4", "h5", "h6")


class Code(str):
    """What a template runs, written as it is; every other text is words, and stays words."""

    __slots__ = ()


def printing(expression: str) -> Code:
    """Code that prints the value of an expression."""
    return Code(f"{{{{ {expression} }}}}")


@dataclass(eq=False)
class Element:
    """An element: what it is, what it is called, what is in it, what a style sheet says of it.

    `content` are elements and text: words, or `Code`; so are the values of attributes. `css` are
    declarations by property, `looks` those of its states by what follows its class, `narrow` those
    for narrow windows, `mockups` those of a narrow mockup by its media query, in which it lies as
    its `twin`. `label` is how its own words are set where they have no element. With a `loop` it
    stands for several made alike; `condition` says which rows have it, `within` what around it
    decides how it looks. `made_of` are the members of a list that it is the same part of.
    """

    tag: str
    area: Area | None = None
    name: str = ""
    attributes: dict[str, str] = field(default_factory=dict)
    content: list[Element | str] = field(default_factory=list)
    css: dict[str, str] = field(default_factory=dict)
    looks: dict[str, dict[str, str]] = field(default_factory=dict)
    narrow: dict[str, str] = field(default_factory=dict)
    mockups: dict[str, dict[str, str]] = field(default_factory=dict)
    classes: list[str] = field(default_factory=list)
    text: str = ""
    loop: Loop | None = None
    condition: str = ""
    label: Setting | None = None
    within: Element | None = None
    twin: Element | None = None
    made_of: list[Element] = field(default_factory=list)

    @property
    def inner(self) -> list[Element]:
        """The elements in it."""
        return [one for one in self.content if isinstance(one, Element)]

    @property
    def words(self) -> Setting | None:
        """How its own words are set: those of its area, or of its label."""
        return (self.area and self.area.setting) or self.label

    @property
    def space(self) -> Area:
        """The area that it takes. Raises ValueError for one that only holds others together."""
        if self.area is None:
            raise ValueError(f"<{self.tag}> takes no room of its own")
        return self.area

    @property
    def laid(self) -> Element:
        """The element that its area belongs to: itself, or the only one in it."""
        return self if self.area is not None or not self.inner else self.inner[0].laid

    def walk(self) -> Iterator[Element]:
        """The element and all in it."""
        yield self
        for element in self.inner:
            yield from element.walk()


def not_said_twice(holder: Element) -> None:
    """Leave out what is said for pictures where a text beside them says the same. WCAG, H2."""
    said = {letters_of(element.text) for element in holder.walk() if element.text}
    for element in holder.walk():
        piece = element.area.piece if element.area else None
        if element.tag == "img" and piece and piece.alt and letters_of(piece.alt) in said:
            element.attributes["alt"] = '""'


def as_link(element: Element) -> None:
    """Make a link of an element, and plain runs of all that is in it."""
    element.tag = "a"
    if element.inner:
        element.css["display"] = "block"
    for inner in element.walk():
        if inner is not element and inner.tag in ("p", "div", "a"):
            inner.tag = "span"
            inner.attributes.pop("href", None)


def is_running(element: Element) -> bool:
    """Whether it is a text with links and strong words in it."""
    return bool(element.inner) and element.area is not None and element.area.setting is not None


@dataclass(frozen=True)
class Loop:
    """What a list repeats: the file of its data, what each is called, and their values in order.

    A loop inside another takes its rows from a field of that one.
    """

    data: str
    each: str
    rows: tuple[dict[str, object], ...]
    is_inner: bool = False


@dataclass(frozen=True)
class Lengths:
    """How lengths in CSS pixels are written: as px, or as rem of 16."""

    unit: str = "px"

    def say(self, pixels: float) -> str:
        """A length: `24px`, `1.5rem`, `0`."""
        value = round(pixels, 2) / (16 if self.unit == "rem" else 1)
        text = f"{value:.4f}".rstrip("0").rstrip(".") if self.unit == "rem" else f"{value:g}"
        return "0" if text in ("0", "-0") else f"{text}{self.unit}"


def in_windows(length: float, width: float) -> str:
    """A length as a share of the window, as long in one of this width, or a hair longer."""
    return f"{math.copysign(math.ceil(1e4 * abs(length) / width) / 100, length):g}vw"


def snapped(pixels: float) -> float:
    """A length as people write it: whole pixels."""
    return float(round(pixels))


def meant(pixels: float) -> float:
    """A distance that somebody meant: whole pixels, and none where it is no more than `NOISE`."""
    return 0.0 if abs(pixels) <= NOISE else snapped(pixels)
