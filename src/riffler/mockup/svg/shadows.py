"""A filter that does nothing but lay a soft shadow under a shape -> the shadow, and its reach."""

from __future__ import annotations

import math
import re
from dataclasses import dataclass
from statistics import NormalDist

import tinycss2
import tinycss2.color3
from lxml import etree

from riffler.mockup.svg import lengths, style
from riffler.mockup.svg.document import SvgDocument
from riffler.mockup.svg.shapes import Edges, UnmeasuredError, number
from riffler.mockup.xml import local_name

#: The steps of a shadow, as `filters` and drawing programs write them; one that is larger than what
#: throws it has another before them.
_STEPS = ["feGaussianBlur", "feOffset", "feFlood", "feComposite", "feMerge"]

_FUNCTION = re.compile(r"\s*drop-shadow\((.*)\)\s*", re.DOTALL)

#: What a filter function draws in is not bounded.
_ANYWHERE = ("-1000000", "-1000000", "2000000", "2000000")

_URL = re.compile(r"\s*url\(\s*['\"]?#([^'\")\s]+)['\"]?\s*\)\s*$")

#: The region of a filter that says none: Filter Effects 1, section 8.
_REGION = {"x": "-10%", "y": "-10%", "width": "120%", "height": "120%"}


@dataclass(frozen=True)
class DropShadow:
    """A copy of the outline: moved, `spread` larger on each side, blurred, in one colour.

    Lengths are the element's own; `region` is what the filter draws in.
    """

    x: float
    y: float
    deviation: float
    spread: float
    color: str
    alpha: float
    region: tuple[str, str, str, str]
    is_share: bool

    def reach(self, edges: Edges, faintest: float) -> Edges:
        """How far a box and its shadow are seen, where less than `faintest` of a colour is nothing.

        Raises UnmeasuredError for a box that is small beside the blur.
        """
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


def drop_shadow(document: SvgDocument, element: etree._Element) -> DropShadow:
    """The shadow of an element's filter. Raises UnmeasuredError for filters that do more."""
    text = str(style.own(element, "filter"))
    if function := _FUNCTION.fullmatch(text):
        return _as_function(function[1])
    match = _URL.match(text)
    known_element = document.known.get(match[1]) if match else None
    if known_element is None or known_element.get("primitiveUnits") == "objectBoundingBox":
        raise UnmeasuredError
    steps = {local_name(step): step for step in known_element if isinstance(step.tag, str)}
    names = [local_name(step) for step in known_element if isinstance(step.tag, str)]
    if names not in (_STEPS, ["feMorphology", *_STEPS]):
        raise UnmeasuredError
    ink, place, blur = steps["feFlood"], steps["feOffset"], steps["feGaussianBlur"]
    spread = 0.0
    if "feMorphology" in steps:
        spread = number(steps["feMorphology"].get("radius"), 0.0)
        if steps["feMorphology"].get("operator", "erode") == "erode":
            spread = -spread
    x, y, deviation = (
        number(step.get(key), default)
        for step, key, default in (
            (place, "dx", 0.0),
            (place, "dy", 0.0),
            (blur, "stdDeviation", 0.0),
        )
    )
    return DropShadow(
        x,
        y,
        deviation,
        spread,
        style.own(ink, "flood-color") or "black",
        number(style.own(ink, "flood-opacity")),
        (
            known_element.get("x", _REGION["x"]),
            known_element.get("y", _REGION["y"]),
            known_element.get("width", _REGION["width"]),
            known_element.get("height", _REGION["height"]),
        ),
        known_element.get("filterUnits") != "userSpaceOnUse",
    )


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
