"""A filter that only lays soft shadows under or into a shape -> the shadows, their reach."""

from __future__ import annotations

import math
import re
from collections.abc import Sequence
from dataclasses import dataclass, replace
from enum import Enum, auto
from statistics import NormalDist

import tinycss2
import tinycss2.color3
from lxml import etree

from riffler.mockup.svg import lengths, style
from riffler.mockup.svg.document import SvgDocument
from riffler.mockup.svg.shapes import Edges, UnmeasuredError, number
from riffler.mockup.xml import local_name

_FUNCTION = re.compile(r"\s*drop-shadow\((.*)\)\s*", re.DOTALL)

#: What a filter function draws in is not bounded.
_ANYWHERE = ("-1000000", "-1000000", "2000000", "2000000")

_URL = re.compile(r"\s*url\(\s*['\"]?#([^'\")\s]+)['\"]?\s*\)\s*$")

#: The region of a filter that says none: Filter Effects 1, section 8.
_REGION = {"x": "-10%", "y": "-10%", "width": "120%", "height": "120%"}


@dataclass(frozen=True)
class DropShadow:
    """A copy of the outline: moved, `spread` larger on each side, blurred, in one colour.

    Lengths are the element's own; `region` is what the filter draws in. One that `is_inner` is of
    all that lies outside of the copy, and falls on the shape.
    """

    x: float
    y: float
    deviation: float
    spread: float
    color: str
    alpha: float
    region: tuple[str, str, str, str]
    is_share: bool
    is_inner: bool = False

    def reach(self, edges: Edges, faintest: float) -> Edges:
        """How far a box and its shadow are seen, where less than `faintest` of a colour is nothing.

        Raises UnmeasuredError for a box that is small beside the blur.
        """
        if self.is_inner:
            return edges
        left, top, right, bottom = edges
        far = self.spread
        if self.deviation:
            if min(right - left, bottom - top) < 6 * self.deviation or self.alpha <= 2 * faintest:
                raise UnmeasuredError
            tail = NormalDist().inv_cdf(1 - faintest / self.alpha) * self.deviation
            wide = math.floor(self.deviation * 3 * math.sqrt(2 * math.pi) / 4 + 0.5)
            far += min(tail, 1.5 * wide)  # drawn as three averages one after the other
        sides = [lengths.length(text, whole=1.0) for text in self.region]
        if None in sides:
            raise UnmeasuredError
        x, y, width, height = (side or 0.0 for side in sides)
        if self.is_share:
            x, y = left + x * (right - left), top + y * (bottom - top)
            width, height = width * (right - left), height * (bottom - top)
        return (
            max(x, min(left, left + self.x - far)),
            max(y, min(top, top + self.y - far)),
            min(x + width, max(right, right + self.x + far)),
            min(y + height, max(bottom, bottom + self.y + far)),
        )


def drop_shadows(document: SvgDocument, element: etree._Element) -> tuple[DropShadow, ...]:
    """The shadows of an element's filter, the topmost first.

    Raises UnmeasuredError for filters that do more than laying shadows under a shape.
    """
    text = str(style.own(element, "filter"))
    if function := _FUNCTION.fullmatch(text):
        return (_as_function(function[1]),)
    match = _URL.match(text)
    known_element = document.known.get(match[1]) if match else None
    if known_element is None or known_element.get("primitiveUnits") == "objectBoundingBox":
        raise UnmeasuredError
    return _Filter(known_element).shadows()


class _Of(Enum):
    """What of a copy of the outline a step holds."""

    COPY = auto()
    OUTSIDE = auto()
    """All but the copy."""
    INSIDE = auto()
    """Of all but the copy, what falls on the shape."""


@dataclass(frozen=True)
class _Painted:
    """What a step of a filter gives: a copy of the outline, the shape itself, or a flood.

    `shadows` lie below and above the shape, from the bottom; `is_shape` says that it is there.
    """

    x: float = 0.0
    y: float = 0.0
    deviation: float = 0.0
    spread: float = 0.0
    of: _Of = _Of.COPY
    ink: tuple[str, float] | None = None
    shadows: tuple[DropShadow, ...] = ()
    is_shape: bool = False

    @property
    def is_outline(self) -> bool:
        """Whether it is made of a copy of the outline and of nothing else."""
        return self.ink is None and not self.shadows

    def casts(self, *, is_inner: bool) -> bool:
        """Whether it is shadows and nothing else, all of which fall into the shape, or none."""
        is_so = all(shadow.is_inner == is_inner for shadow in self.shadows)
        return bool(self.shadows) and self.of is _Of.COPY and is_so

    @property
    def is_nothing(self) -> bool:
        """Whether it is a flood that can't be seen."""
        return self.ink is not None and self.ink[1] == 0

    @property
    def is_source(self) -> bool:
        """Whether it is the outline where it was, with nothing done to it."""
        return replace(self, is_shape=False) == _Painted()


class _Filter:
    """A filter, step by step. Filter Effects 1, section 9."""

    def __init__(self, element: etree._Element) -> None:
        self._steps = [step for step in element if isinstance(step.tag, str)]
        self._region = (
            element.get("x", _REGION["x"]),
            element.get("y", _REGION["y"]),
            element.get("width", _REGION["width"]),
            element.get("height", _REGION["height"]),
        )
        self._is_share = element.get("filterUnits") != "userSpaceOnUse"
        self._known = {"SourceGraphic": _Painted(is_shape=True), "SourceAlpha": _Painted()}
        self._last = self._known["SourceGraphic"]

    def shadows(self) -> tuple[DropShadow, ...]:
        """All of the shape, the topmost first. Raises UnmeasuredError where more is done."""
        for step in self._steps:
            self._last = self._taken(step)
            if result := step.get("result"):
                self._known[result] = self._last
        if not self._last.is_shape or not self._last.shadows:
            raise UnmeasuredError
        return self._last.shadows[::-1]

    def _taken(self, step: etree._Element) -> _Painted:
        match local_name(step):
            case "feMorphology" if self._input(step).of is _Of.COPY:
                spread = number(step.get("radius"), 0.0)
                if step.get("operator", "erode") == "erode":
                    spread = -spread
                return replace(self._outline(step), spread=spread)
            case "feGaussianBlur":
                return replace(self._outline(step), deviation=number(step.get("stdDeviation"), 0.0))
            case "feOffset":
                x, y = _offset(step)
                return replace(self._outline(step), x=x, y=y)
            case "feFlood":
                return _Painted(ink=_ink(step))
            case "feComponentTransfer" if _turns_alpha(step):
                return replace(self._outline(step), of=_Of.OUTSIDE)
            case "feColorMatrix":
                return self._colored(step)
            case "feComposite":
                return self._composed(step, self._input(step), self._input(step, "in2"))
            case "feBlend" if step.get("mode", "normal") == "normal":
                return self._merged([self._input(step, "in2"), self._input(step)])
            case "feDropShadow":
                deviation = number(step.get("stdDeviation"), 2.0)
                outline = _Painted(*_offset(step), deviation)
                own = self._inked(_Painted(ink=_ink(step)), outline)
                return self._merged([own, self._input(step)])
            case "feMerge":
                nodes = [node for node in step if isinstance(node.tag, str)]
                return self._merged([self._input(node) for node in nodes])
        raise UnmeasuredError

    def _input(self, step: etree._Element, key: str = "in") -> _Painted:
        name = step.get(key)
        result = self._known.get(name) if name else self._last
        if result is None:
            raise UnmeasuredError
        return result

    def _outline(self, step: etree._Element) -> _Painted:
        """What a step works on, which has to be a copy of the outline that it is the first to do.

        The colours of the shape do not matter: a flood takes their place.
        """
        source = self._input(step)
        done = {"feMorphology": source.spread, "feGaussianBlur": source.deviation}
        if not source.is_outline or source.of is _Of.INSIDE or done.get(local_name(step)):
            raise UnmeasuredError
        return replace(source, is_shape=False)

    def _colored(self, step: etree._Element) -> _Painted:
        """A copy in one colour, or one whose alpha is only made harder."""
        source, ink = self._input(step), _one_ink(step)
        if not source.is_outline:
            raise UnmeasuredError
        return replace(source, is_shape=False) if ink[1] > 1 else self._painted(ink, source)

    def _composed(self, step: etree._Element, upper: _Painted, lower: _Painted) -> _Painted:
        match step.get("operator", "over"):
            case "in" if lower.is_source and (upper.is_outline or upper.shadows):
                return self._clipped(upper)
            case "in":
                return self._inked(upper, lower)
            case "out":
                return self._cut_out(upper, lower)
            case "arithmetic" if _subtracts(step):
                return self._cut_out(lower, upper)
            case "atop" if lower.is_shape and upper.shadows:
                return self._merged([lower, self._clipped(upper)])
            case "over":
                return self._merged([lower, upper])
        raise UnmeasuredError

    def _clipped(self, upper: _Painted) -> _Painted:
        """What falls on the shape of all outside of a copy."""
        if upper.of is not _Of.OUTSIDE:
            raise UnmeasuredError
        inner = tuple(_as_inner(shadow) for shadow in upper.shadows)
        return _Painted(shadows=inner) if inner else replace(upper, of=_Of.INSIDE)

    def _cut_out(self, upper: _Painted, lower: _Painted) -> _Painted:
        """What is left of one thing where a copy of the outline is not."""
        if not lower.is_outline or lower.of is not _Of.COPY:
            raise UnmeasuredError
        if lower.is_source and upper.is_outline and upper.of is _Of.COPY:
            return replace(upper, is_shape=False)  # the shape covers the rest
        if upper.is_source:
            return replace(lower, of=_Of.INSIDE, is_shape=False)
        return self._inked(upper, replace(lower, of=_Of.OUTSIDE))

    def _inked(self, flood: _Painted, outline: _Painted) -> _Painted:
        if flood.ink is None or not outline.is_outline:
            raise UnmeasuredError
        return self._painted(flood.ink, outline)

    def _painted(self, ink: tuple[str, float], outline: _Painted) -> _Painted:
        place = outline.x, outline.y, outline.deviation, outline.spread
        shadow = DropShadow(*place, *ink, self._region, self._is_share)
        if outline.of is _Of.OUTSIDE:
            return _Painted(of=_Of.OUTSIDE, shadows=(shadow,))
        return _Painted(shadows=(_as_inner(shadow) if outline.of is _Of.INSIDE else shadow,))

    def _merged(self, layers: Sequence[_Painted]) -> _Painted:
        """Shadows under the shape, which is there once, and such as fall into it above."""
        result = _Painted()
        for layer in layers:
            if layer.is_nothing:
                continue
            if layer.is_shape and (result.is_shape or (result.shadows and layer.shadows)):
                raise UnmeasuredError  # a shadow of a shadow is none of the shape
            if not layer.is_shape and not layer.casts(is_inner=result.is_shape):
                raise UnmeasuredError
            shadows = (*result.shadows, *layer.shadows)
            result = _Painted(shadows=shadows, is_shape=result.is_shape or layer.is_shape)
        return result


def _as_inner(shadow: DropShadow) -> DropShadow:
    """Of all outside of the copy: the smaller that is, the farther the shadow is spread."""
    return replace(shadow, spread=-shadow.spread, is_inner=True)


def _turns_alpha(step: etree._Element) -> bool:
    """Whether what was clear becomes opaque, and the other way round."""
    functions = {local_name(part): part for part in step if isinstance(part.tag, str)}
    alpha = functions.get("feFuncA")
    return alpha is not None and (alpha.get("tableValues") or "").split() == ["1", "0"]


def _subtracts(step: etree._Element) -> bool:
    """Whether the first input is taken from the second."""
    return [number(step.get(f"k{n}"), 0.0) for n in range(1, 5)] == [0.0, -1.0, 1.0, 0.0]


def _one_ink(step: etree._Element) -> tuple[str, float]:
    """The colour and the opacity that a matrix gives all that is there, whatever it was."""
    values = [number(value) for value in re.split(r"[\s,]+", (step.get("values") or "").strip())]
    if len(values) != 20 or any(values[n] for n in range(20) if n not in (4, 9, 14, 18)):
        raise UnmeasuredError
    red, green, blue = (round(255 * min(1.0, max(0.0, values[n]))) for n in (4, 9, 14))
    return f"#{red:02x}{green:02x}{blue:02x}", values[18]


def _offset(step: etree._Element) -> tuple[float, float]:
    return number(step.get("dx"), 0.0), number(step.get("dy"), 0.0)


def _ink(step: etree._Element) -> tuple[str, float]:
    return style.own(step, "flood-color") or "black", number(style.own(step, "flood-opacity"))


def _as_function(arguments: str) -> DropShadow:
    """`drop-shadow()`, whose third length is a deviation. Filter Effects 1, section 6.1."""
    parts = [
        part
        for part in tinycss2.parse_component_value_list(arguments)
        if part.type not in ("whitespace", "comment")
    ]
    sizes = [
        lengths.length(tinycss2.serialize([part]))
        for part in parts
        if part.type in ("dimension", "number")
    ]
    colors = [part for part in parts if part.type not in ("dimension", "number")]
    ink = tinycss2.color3.parse_color(colors[0]) if colors else None
    if len(colors) != 1 or not isinstance(ink, tuple) or None in sizes or len(sizes) not in (2, 3):
        raise UnmeasuredError
    x, y, deviation = (*(size or 0.0 for size in sizes), 0.0)[:3]
    red, green, blue = (round(255 * part) for part in ink[:3])
    color = f"#{red:02x}{green:02x}{blue:02x}"
    return DropShadow(x, y, deviation, 0.0, color, ink[3], _ANYWHERE, is_share=False)
