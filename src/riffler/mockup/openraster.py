"""An OpenRaster file -> a Mockup. OpenRaster 0.0.6: file layout, layer stack."""

from __future__ import annotations

import math
import struct
from dataclasses import dataclass

from lxml import etree

from riffler.errors import MockupError
from riffler.files import as_typed
from riffler.geometry import Box, Size
from riffler.mockup import address
from riffler.mockup.archive import Archive
from riffler.mockup.bounds import refuse_many, refuse_size
from riffler.mockup.model import Layer, LayerKind, Mockup, Nature
from riffler.mockup.xml import local_name, parse
from riffler.project.limits import Limits

MIME_TYPE = b"image/openraster"
STACK = "stack.xml"
MERGED = "mergedimage.png"

#: `composite-op` values that are blend modes of W3C Compositing and Blending Level 1.
_BLENDS = {
    "svg:src-over": "normal",
    **{
        f"svg:{mode}": mode
        for mode in [
            "multiply",
            "screen",
            "overlay",
            "darken",
            "lighten",
            "color-dodge",
            "color-burn",
            "hard-light",
            "soft-light",
            "difference",
            "exclusion",
            "hue",
            "saturation",
            "color",
            "luminosity",
        ]
    },
}

#: `composite-op` values that are Porter-Duff operators (section 9.1), by the section's names.
_OPERATORS = {
    "svg:plus": "plus-lighter",
    "svg:dst-in": "destination-in",
    "svg:dst-out": "destination-out",
    "svg:src-atop": "source-atop",
    "svg:dst-atop": "destination-atop",
}

_PNG_SIGNATURE = b"\x89PNG\r\n\x1a\n"

#: Signature, chunk length and name, width, height: all a layer's size needs.
_PNG_HEADER = struct.Struct(">8sI4sII")


@dataclass(frozen=True)
class _Reading:
    """What is the same for every layer of the file while it is read."""

    archive: Archive
    limits: Limits
    names: frozenset[str]

    def fail(self, message: str, advice: str = "") -> MockupError:
        return MockupError(f"{as_typed(self.archive.path)}: {message}", advice)


def read(archive: Archive, limits: Limits) -> Mockup:
    """Read the stack, not the pixels. Raises MockupError when the file is not sound."""
    path = archive.path
    reading = _Reading(archive, limits, frozenset(archive.names()))
    if "mimetype" in reading.names and archive.read("mimetype", 64).strip() != MIME_TYPE:
        raise reading.fail("the archive says it is something other than OpenRaster.")
    if STACK not in reading.names:
        raise reading.fail(f"there is no {STACK} in it, so it is no OpenRaster file.")
    image = parse(archive.read(STACK), f"{as_typed(path)}: {STACK}")
    size = Size(_whole(reading, image, "w"), _whole(reading, image, "h"))
    refuse_size(size, limits, f"{as_typed(path)}: the canvas")
    stack = next((child for child in image if local_name(child) == "stack"), None)
    if stack is None:
        raise reading.fail(f"{STACK} has no stack of layers.")
    layers = _children(reading, stack, "", (0, 0), 1)
    refuse_many(layers, limits, as_typed(path))
    return Mockup(
        path, size, layers, Nature.LAYERED, archive, resolution=_resolution(reading, image)
    )


def _children(
    reading: _Reading, stack: etree._Element, parent: str, offset: tuple[int, int], depth: int
) -> tuple[Layer, ...]:
    if depth > reading.limits.depth:
        raise reading.fail(f"groups are nested more than {reading.limits.depth} deep.")
    elements = [child for child in stack if local_name(child) in ("stack", "layer")]
    kinds = [
        LayerKind.GROUP if local_name(child) == "stack" else LayerKind.PIXELS for child in elements
    ]
    names = [child.get("name", "") for child in elements]
    ends = address.segments(zip(names, kinds, strict=True))
    return tuple(
        _layer(reading, element, address.join(parent, end), offset, depth)
        for element, end in zip(elements, ends, strict=True)
    )


def _layer(
    reading: _Reading, element: etree._Element, at: str, offset: tuple[int, int], depth: int
) -> Layer:
    x = offset[0] + _whole(reading, element, "x", 0)
    y = offset[1] + _whole(reading, element, "y", 0)
    is_group = local_name(element) == "stack"
    operation = element.get("composite-op", "svg:src-over")
    is_known = operation in _BLENDS or operation in _OPERATORS
    source = "" if is_group else _source(reading, element, at)
    return Layer(
        address=at,
        name=address.clean(element.get("name", "")),
        kind=LayerKind.GROUP if is_group else LayerKind.PIXELS,
        visible=element.get("visibility", "visible") != "hidden",
        opacity=min(1.0, max(0.0, _number(reading, element, "opacity", 1.0))),
        blend=_BLENDS.get(operation, "normal"),
        operator=_OPERATORS.get(operation, "source-over"),
        isolated=is_group and element.get("isolation", "auto") == "isolate",
        box=None if is_group else _box(reading, source, at, x, y),
        source=source,
        note="" if is_known else f"{address.clean(operation)}: unknown, drawn as normal",
        children=_children(reading, element, at, (x, y), depth + 1) if is_group else (),
    )


def _source(reading: _Reading, element: etree._Element, at: str) -> str:
    source = element.get("src", "")
    member = reading.archive.found(source)
    if member is None:
        reading.archive.refuse_outside(source)  # the clearer of the two answers
        raise reading.fail(f'layer "{at}" names "{source}", which is not in the archive.')
    return member


def _box(reading: _Reading, source: str, at: str, x: int, y: int) -> Box:
    """The layer's box, from the first bytes of its picture."""
    head = reading.archive.read(source, _PNG_HEADER.size)
    what = f'{as_typed(reading.archive.path)}: layer "{at}"'
    if len(head) == _PNG_HEADER.size and head.startswith(_PNG_SIGNATURE):
        size = Size(*_PNG_HEADER.unpack(head)[3:])
    elif source.lower().endswith(".svg"):
        from riffler.mockup.svg import document

        drawing = document.from_bytes(reading.archive.read(source), what, reading.limits)
        size = document.size_of(drawing)
    else:
        raise reading.fail(f'layer "{at}": "{source}" is not a PNG.')
    refuse_size(size, reading.limits, what)
    return Box(x, y, size.width, size.height)


def _resolution(reading: _Reading, image: etree._Element) -> tuple[float, float] | None:
    if image.get("xres") is None or image.get("yres") is None:
        return None
    return _number(reading, image, "xres", 72.0), _number(reading, image, "yres", 72.0)


def _number(reading: _Reading, element: etree._Element, name: str, default: float) -> float:
    said_value = element.get(name)
    try:
        value = default if said_value is None else float(said_value)
    except ValueError:
        value = math.nan
    if not math.isfinite(value):
        raise reading.fail(f'{STACK}: {name}="{said_value}" is not a number.')
    return value


def _whole(reading: _Reading, element: etree._Element, name: str, default: float = math.nan) -> int:
    """A whole number; fractions, which some programs write for offsets, are rounded."""
    if element.get(name) is None and math.isnan(default):
        raise reading.fail(f"{STACK} does not say the {'width' if name == 'w' else 'height'}.")
    return math.floor(_number(reading, element, name, default) + 0.5)
