"""Numbers in attributes that are no paths -> as few digits as keep everything in place."""

from __future__ import annotations

import re

from lxml import etree

from riffler.mockup.svg import lengths
from riffler.mockup.xml import local_name
from riffler.tidy.drawing import Drawing
from riffler.tidy.numbers import Grid, joined, short
from riffler.tidy.precision import Precision, digits_for
from riffler.tidy.properties import DEFAULTS

#: Coordinates and lengths in the element's own units.
_PLACES = {"x", "y", "width", "height", "rx", "ry", "cx", "cy", "r", "x1", "y1", "x2", "y2", "fx",
           "fy", "fr", "dx", "dy", "stroke-width", "stroke-dashoffset"}  # fmt: skip

#: Shares and colours, of which the eye sees no thousandth.
_SHARES = {"opacity", "fill-opacity", "stroke-opacity", "stop-opacity", "flood-opacity", "offset"}

_LISTS = {"stroke-dasharray", "viewBox", "points", "stdDeviation", "values", "tableValues"}

#: Whose lengths may be shares of the box of what is painted.
_BY_BOX = {"linearGradient": "gradientUnits", "radialGradient": "gradientUnits",
           "pattern": "patternUnits", "mask": "maskUnits", "filter": "filterUnits"}  # fmt: skip

_NUMBERS = re.compile(r"[\s,]*(?:[-+]?(?:\d+\.?\d*|\.\d+)(?:[eE][-+]?\d+)?(?:[\s,]+|(?=[-+.])|$))*")


def shorten(drawing: Drawing, precision: Precision) -> None:
    """Shorten numbers, take `px` off, and drop what a length would be anyway."""
    moving = drawing.moving()
    for element in drawing.elements():
        if element in moving and local_name(element) != "svg":
            continue
        grid = precision.grid(element)
        for key in [str(key) for key in element.attrib]:
            _shorten(element, key, grid, precision)
        if drawing.has_sheet:
            continue
        for key, value in DEFAULTS.get(local_name(element), {}).items():
            if element.get(key) == value and not _is_lent(element):
                del element.attrib[key]


def _is_lent(element: etree._Element) -> bool:
    """Whether what the element leaves out would come from another; SVG 2, section 14.2."""
    return element.get("href") is not None and local_name(element) in (
        "linearGradient",
        "radialGradient",
        "pattern",
        "filter",
    )


def _shorten(element: etree._Element, key: str, grid: Grid, precision: Precision) -> None:
    said = str(element.get(key))
    name = local_name(element)
    if key in _SHARES:
        value = lengths.length(said, whole=1.0)
        if value is not None and re.fullmatch(r"[-+.\deE%\s]+", said):
            _set(element, key, short(value, 4 if key == "offset" else 3))
    elif key in _LISTS:
        if _NUMBERS.fullmatch(said) and not (key == "values" and name != "feColorMatrix"):
            finer = {"viewBox": grid.digits + 1, "values": 5, "tableValues": 4}.get(key)
            places = grid if finer is None else Grid(finer)
            _set(element, key, joined(map(places.text, lengths.numbers(said))))
    elif key in _PLACES and name not in ("text", "tspan"):
        is_share = name in _BY_BOX and element.get(_BY_BOX[name]) != ("userSpaceOnUse")
        if name == "radialGradient" or name == "linearGradient":
            is_share = is_share and element.get("href") is None
        value = lengths.length(said, whole=1.0 if is_share else None)
        if value is None or not re.fullmatch(r"\s*[-+.\deE]+(px)?\s*|[-+.\d]+%", said):
            return
        if is_share:
            grid = Grid(digits_for(precision.error / precision.reach))
        elif key.startswith("stroke"):
            grid = Grid(digits_for(precision.error / precision.scale(element) / 2) + precision.more)
        elif name == "svg" and element.getparent() is None:
            grid = Grid(grid.digits + 1)
        _set(element, key, grid.text(value))
    elif key == "stroke-miterlimit" and _NUMBERS.fullmatch(said):
        _set(element, key, short(lengths.numbers(said)[0], 3))


def _set(element: etree._Element, key: str, value: str) -> None:
    if len(value) < len(str(element.get(key))):
        element.set(key, value)
