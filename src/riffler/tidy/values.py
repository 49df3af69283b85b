"""Numbers in attributes that are no paths -> as few digits as keep everything in place."""

from __future__ import annotations

import re

from lxml import etree

from riffler.mockup.svg import lengths
from riffler.mockup.svg.names import ANIMATIONS
from riffler.mockup.xml import local_name
from riffler.tidy.definitions import GRADIENTS
from riffler.tidy.drawing import Drawing, says
from riffler.tidy.numbers import Grid, joined
from riffler.tidy.path_data import is_numbers
from riffler.tidy.precision import Precision, digits_for
from riffler.tidy.properties import DEFAULTS

#: How many dashes follow one another, about: what each is longer adds up.
DASHES = 20

#: What strokes just wider than a pixel become.
HAIR = "1.001"

#: Coordinates and lengths in the element's own units.
_PLACES = {
    "x",
    "y",
    "width",
    "height",
    "rx",
    "ry",
    "cx",
    "cy",
    "r",
    "x1",
    "y1",
    "x2",
    "y2",
    "fx",
    "fy",
    "fr",
    "dx",
    "dy",
    "stroke-width",
    "stroke-dashoffset",
}

#: Shares and colours, of which the eye sees no thousandth.
_SHARES = {"opacity", "fill-opacity", "stroke-opacity", "stop-opacity", "flood-opacity", "offset"}

_LISTS = {"stroke-dasharray", "viewBox", "points", "stdDeviation", "values", "tableValues"}

#: Whose lengths may be shares of the box of what is painted.
_BY_BOX = {
    "linearGradient": "gradientUnits",
    "radialGradient": "gradientUnits",
    "pattern": "patternUnits",
    "mask": "maskUnits",
    "filter": "filterUnits",
}

#: Lists of the same name that are no numbers of a place.
_TIMES = {("values", name) for name in ANIMATIONS}

_SHARE = re.compile(r"[-+.\deE%\s]+")
_PLACE = re.compile(r"\s*[-+.\deE]+(px)?\s*|[-+.\d]+%")


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
    return says(element, "href") and local_name(element) in (*GRADIENTS, "pattern", "filter")


def _shorten(element: etree._Element, key: str, grid: Grid, precision: Precision) -> None:
    """Shorten one attribute, if it holds numbers that we know the meaning of."""
    said_value, name = str(element.get(key)), local_name(element)
    if key in _SHARES and _SHARE.fullmatch(said_value):
        _set(element, key, lengths.length(said_value, whole=1.0), Grid(4 if key == "offset" else 3))
    elif key in _PLACES and _PLACE.fullmatch(said_value) and name not in ("text", "tspan"):
        value = lengths.length(said_value, whole=1.0 if _is_share(element) else None)
        _set(element, key, value, _place_grid(element, key, grid, precision))
        if key == "stroke-width":
            _keep_wide(element, value)
    elif key == "stroke-miterlimit":
        _set(element, key, lengths.length(said_value), Grid(3))
    elif key in _LISTS and is_numbers(said_value) and (key, name) not in _TIMES:
        finer = {"viewBox": grid.digits + 1, "values": 5, "tableValues": 4}.get(key)
        places = _place_grid(element, key, grid, precision) if finer is None else Grid(finer)
        text = joined(map(places.text, lengths.numbers(said_value)))
        element.set(key, min(said_value, text, key=len))


def _keep_wide(element: etree._Element, value: float | None) -> None:
    """Keep a stroke wider than a pixel that was so: renderers draw others in another way."""
    if element.get("stroke-width") == "1" and value is not None and value > 1:
        element.set("stroke-width", HAIR)


def _is_share(element: etree._Element) -> bool:
    """Whether lengths of the element are shares of the box of what it paints."""
    units = _BY_BOX.get(local_name(element))
    is_taken = local_name(element) in GRADIENTS and says(element, "href")
    return units is not None and element.get(units) != "userSpaceOnUse" and not is_taken


def _place_grid(element: etree._Element, key: str, grid: Grid, precision: Precision) -> Grid:
    """Where a length of the element lies."""
    if _is_share(element):
        return Grid(digits_for(precision.fine / precision.reach))
    if key.startswith("stroke"):
        times = DASHES if key == "stroke-dasharray" else 2
        return Grid(digits_for(precision.fine / precision.scale(element) / times))
    return Grid(grid.digits + 1) if element.getparent() is None else grid


def _set(element: etree._Element, key: str, value: float | None, grid: Grid) -> None:
    """Say a number where that is shorter than what is said."""
    if value is not None:
        element.set(key, min(str(element.get(key)), grid.text(value), key=len))
