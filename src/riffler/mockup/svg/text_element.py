"""A text element -> Words: lines, family, size and the rest, lengths in mockup pixels."""

from __future__ import annotations

import re
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field
from typing import TypeAlias

import tinycss2.color3
from fontTools.misc.transform import Transform
from lxml import etree

from riffler.geometry import Point
from riffler.mockup.model import LayerText, TextRun
from riffler.mockup.svg import lengths, style, transform
from riffler.mockup.xml import local_name

#: What stands at the end of words without a space before it.
_CLOSING = (".", ",", ";", ":", "!", "?", ")", "”", "’", "»", "…")

_WEIGHTS = {"normal": 400, "bold": 700, "lighter": 300, "bolder": 700}


def read(text: etree._Element, unit: float) -> LayerText:
    """The words of a `text` element; `unit` is the length of the root's user unit."""
    enlarged = unit * transform.enlargement(_to_root(text))
    deepest = _first_with_text(text)
    em = font_size(deepest)
    lines, steps = _lines(text, em)
    look = _Look.of(deepest)
    spacing = lengths.length(style.inherited(deepest, "letter-spacing"), em=em) or 0.0
    return LayerText(
        lines=tuple(line.text for line in lines),
        families=families(style.inherited(deepest, "font-family")),
        size=round(em * enlarged, 4),
        weight=look.weight,
        style=style.inherited(deepest, "font-style") or "normal",
        letter_spacing=round(spacing * enlarged, 4),
        line_step=round(steps[0] * enlarged, 4) if steps else None,
        anchor=style.inherited(deepest, "text-anchor") or "start",
        color=look.color,
        runs=tuple(_odd_runs(lines, look)),
        stops=_stops(lines, enlarged) if len(lines) == 1 else (),
    )


@dataclass(frozen=True)
class _Look:
    """How a run of letters looks, as far as runs of one text differ."""

    color: str
    weight: int
    is_italic: bool
    is_underlined: bool

    @classmethod
    def of(cls, element: etree._Element) -> _Look:
        """How the letters of an element look. A link in the text is told by its line."""
        lines = style.inherited(element, "text-decoration") or ""
        return cls(
            _color(style.inherited(element, "fill")),
            weight(style.inherited(element, "font-weight")),
            (style.inherited(element, "font-style") or "normal") != "normal",
            "underline" in lines or local_name(element) == "a",
        )


@dataclass
class _Line:
    """A line, and from where to where its runs go, each with the element that says its look.

    `places` are where letters are placed by themselves, in user units.
    """

    text: str = ""
    runs: list[tuple[int, int, etree._Element]] = field(default_factory=list)
    places: list[tuple[int, float]] = field(default_factory=list)

    def add(self, words: str, element: etree._Element, x: float | None) -> None:
        """Go on with words; what has a place is a word of its own, but for what ends a sentence."""
        if x is not None and not words.lstrip().startswith(_CLOSING):
            self.text += " "
        start = len(self.text)
        self.text += words
        self.runs.append((start, len(self.text), element))
        if x is not None:
            self.places.append((start, x))

    def collapsed(self) -> _Line:
        """The line with its white space as it shows. CSS Text 3, section 4.1."""
        line = _Line()
        place = [0]
        for sign in self.text:
            is_more = not sign.isspace() or (line.text != "" and line.text[-1] != " ")
            line.text += (" " if sign.isspace() else sign) if is_more else ""
            place.append(len(line.text))
        line.text = line.text.rstrip()
        line.runs = [(place[start], place[end], element) for start, end, element in self.runs]
        line.places = [(place[start], x) for start, x in self.places]
        return line


def _odd_runs(lines: Sequence[_Line], look: _Look) -> Iterator[TextRun]:
    """The runs that look otherwise than the text."""
    for number, line in enumerate(lines):
        for start, end, element in line.runs:
            own = _Look.of(element)
            words = line.text[start:end]
            if own != look and words.strip():
                begin = start + len(words) - len(words.lstrip())
                stop = begin + len(words.strip())
                yield TextRun(
                    number, begin, stop, own.color, own.weight, own.is_italic, own.is_underlined
                )


def _stops(lines: Sequence[_Line], enlarged: float) -> tuple[tuple[int, float], ...]:
    """Where letters after the first are placed by themselves, if the first one is, from it on."""
    (begin, first), *places = lines[0].places or [(0, 0.0)]
    return () if begin else tuple((start, round((x - first) * enlarged, 4)) for start, x in places)


def families(text: str | None) -> tuple[str, ...]:
    """A font-family list as names, in order. CSS Fonts 4, section 2.1."""
    names = (part.strip().strip("'\"").strip() for part in (text or "").split(","))
    return tuple(name for name in names if name)


def weight(text: str | None) -> int:
    """A font-weight as a number. CSS Fonts 4, section 2.2."""
    value = (text or "normal").strip().lower()
    return int(value) if re.fullmatch(r"[0-9]{1,4}", value) else _WEIGHTS.get(value, 400)


def _color(text: str | None) -> str:
    parsed = tinycss2.color3.parse_color(text or "#000")
    if not isinstance(parsed, tuple):
        return text or "#000000"  # a gradient, or a word for the colour around it
    red, green, blue = (round(value * 255) for value in parsed[:3])
    return f"#{red:02x}{green:02x}{blue:02x}"


def _first_with_text(element: etree._Element) -> etree._Element:
    for inner in element.iter():
        if isinstance(inner.tag, str) and (inner.text or "").strip():
            return inner
    return element


def font_size(element: etree._Element) -> float:
    """The computed font size in user units; CSS Fonts 4, section 2.5."""
    own = style.own(element, "font-size")
    parent = element.getparent()
    if own is None or own == "inherit":
        return font_size(parent) if parent is not None else 16.0
    around = font_size(parent) if parent is not None and own.rstrip().endswith(("em", "%")) else 16
    if own.rstrip().endswith("rem"):
        around = 16.0
    return lengths.length(own, whole=around, em=around) or 16.0


def _to_root(element: etree._Element) -> Transform:
    matrix = transform.parse(element.get("transform"))
    for around in element.iterancestors():
        matrix = transform.parse(around.get("transform")).transform(matrix)
    return matrix


def _lines(text: etree._Element, em: float) -> tuple[list[_Line], list[float]]:
    """Lines of words, and the steps from each baseline to the next."""
    lines, steps = [_Line()], list[float]()
    baseline = _first(text.get("y"), em) or 0.0
    for words, step, y, x, element in _runs(text, em):
        moved = (y - baseline if y is not None else 0.0) + step
        if moved and lines[-1].text.strip():
            lines.append(_Line())
            steps.append(abs(moved))
        baseline = (y if y is not None else baseline) + step
        lines[-1].add(words, element, x)
    if _keeps_space(text):
        kept = [part for line in lines for part in line.text.splitlines()]
        return [_Line(line) for line in kept if line.strip()], steps
    return [line for line in (line.collapsed() for line in lines) if line.text], steps


def _keeps_space(text: etree._Element) -> bool:
    space = text.get("{http://www.w3.org/XML/1998/namespace}space")
    return space == "preserve" or (style.inherited(text, "white-space") or "").startswith("pre")


_Words: TypeAlias = tuple[str, float, float | None, float | None, etree._Element]


def _runs(element: etree._Element, em: float) -> Iterator[_Words]:
    """Text with the vertical step and the new baseline before it, where it is placed, whose."""
    is_inner = local_name(element) != "text"
    step = (_first(element.get("dy"), em) or 0.0) if is_inner else 0.0
    y = _first(element.get("y"), em) if is_inner else None
    x = _first(element.get("x"), em) if is_inner else None
    yield element.text or "", step, y, x, element
    for child in element:
        if local_name(child) in ("tspan", "textPath", "a"):
            yield from _runs(child, em)
        yield child.tail or "", 0.0, None, None, element


def _first(text: str | None, em: float) -> float | None:
    """The first of a list of lengths, in user units."""
    parts = (text or "").replace(",", " ").split()
    return lengths.length(parts[0], em=em) if parts else None


def pen(text: etree._Element, matrix: Transform) -> Point:
    """Where the first letters of a text are set by their anchor, after `matrix`.

    What it says of itself counts, or the first that says it inside.
    """
    first = _first_with_text(text)
    chain = [first, *(outer for outer in first.iterancestors() if outer in text.iter())]
    places = []
    for axis in ("x", "y"):
        em = font_size(first)
        texts = [at for element in chain if (at := _first(element.get(axis), em)) is not None]
        steps = [_first(element.get(f"d{axis}"), em) or 0.0 for element in chain]
        places.append((texts[0] if texts else 0.0) + sum(steps))
    point = matrix.transformPoint((places[0], places[1]))
    return Point(*map(float, point))
