"""A text element -> Words: lines, family, size and the rest, lengths in mockup pixels."""

from __future__ import annotations

import re
from collections.abc import Iterator, Sequence

import tinycss2.color3
from fontTools.misc.transform import Transform
from lxml import etree

from riffler.geometry import Point
from riffler.mockup.model import LayerText
from riffler.mockup.svg import lengths, style, transform
from riffler.mockup.xml import local_name

_WEIGHTS = {"normal": 400, "bold": 700, "lighter": 300, "bolder": 700}


def read(text: etree._Element, unit: float) -> LayerText:
    """The words of a `text` element; `unit` is the length of the root's user unit."""
    enlarged = unit * transform.enlargement(_to_root(text))
    deepest = _first_with_text(text)
    em = font_size(deepest)
    lines, steps = _lines(text, em)
    spacing = lengths.length(style.inherited(deepest, "letter-spacing"), em=em) or 0.0
    return LayerText(
        lines=tuple(lines),
        families=families(style.inherited(deepest, "font-family")),
        size=round(em * enlarged, 4),
        weight=weight(style.inherited(deepest, "font-weight")),
        style=style.inherited(deepest, "font-style") or "normal",
        letter_spacing=round(spacing * enlarged, 4),
        line_step=round(steps[0] * enlarged, 4) if steps else None,
        anchor=style.inherited(deepest, "text-anchor") or "start",
        color=_color(style.inherited(deepest, "fill")),
    )


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


def _lines(text: etree._Element, em: float) -> tuple[list[str], list[float]]:
    """Lines of words, and the steps from each baseline to the next."""
    keeps_space = _keeps_space(text)
    lines, steps = [""], []
    baseline = _first(text.get("y"), em) or 0.0
    for words, step, y, is_placed in _runs(text, em):
        moved = (y - baseline if y is not None else 0.0) + step
        if moved and lines[-1].strip():
            lines.append("")
            steps.append(abs(moved))
        baseline = (y if y is not None else baseline) + step
        lines[-1] += f" {words}" if is_placed else words  # what has a place is a word of its own
    return _collapsed(lines, keeps_space=keeps_space), steps


def _collapsed(lines: Sequence[str], *, keeps_space: bool) -> list[str]:
    """Lines that say something, with their white space as it shows."""
    if keeps_space:
        kept = [part for line in lines for part in line.splitlines()]
        return [line for line in kept if line.strip()]
    joined = [" ".join(line.split()) for line in lines]
    return [line for line in joined if line]


def _keeps_space(text: etree._Element) -> bool:
    space = text.get("{http://www.w3.org/XML/1998/namespace}space")
    return space == "preserve" or (style.inherited(text, "white-space") or "").startswith("pre")


def _runs(element: etree._Element, em: float) -> Iterator[tuple[str, float, float | None, bool]]:
    """Text with the vertical step and the new baseline before it, and whether it has a place."""
    is_inner = local_name(element) != "text"
    step = (_first(element.get("dy"), em) or 0.0) if is_inner else 0.0
    y = _first(element.get("y"), em) if is_inner else None
    yield element.text or "", step, y, is_inner and bool((element.get("x") or "").strip())
    for child in element:
        if local_name(child) in ("tspan", "textPath", "a"):
            yield from _runs(child, em)
        yield child.tail or "", 0.0, None, False


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
