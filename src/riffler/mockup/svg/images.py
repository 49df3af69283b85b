"""A picture inside a drawing -> the edges of what it paints, from its size."""

from __future__ import annotations

import base64
import binascii
import io
from urllib.parse import unquote_to_bytes

from lxml import etree

from riffler.mockup.svg import references, shapes
from riffler.mockup.svg.shapes import Edges, UnmeasuredError

#: Formats whose pixels are opaque, or can be asked quickly.
_FORMATS = ("PNG", "JPEG", "WEBP")

#: Pixels up to which a picture is unpacked to see whether anything shows through it.
MOST_PIXELS = 4_000_000

#: Parts of an alignment: how much of what is left over lies before.
_BEFORE = {"Min": 0.0, "Mid": 0.5, "Max": 1.0}


def image_edges(element: etree._Element) -> Edges:
    """Where the picture lies in the coordinates around it. SVG 2, sections 8.7 and 12.

    Raises UnmeasuredError for pictures that show something through, and for odd ones.
    """
    x, y, width, height = (shapes.side(element, key) for key in ("x", "y", "width", "height"))
    across, down = _opaque_size(references.href(element))
    if "width" not in element.attrib or "height" not in element.attrib:
        raise UnmeasuredError
    texts = (element.get("preserveAspectRatio") or "xMidYMid meet").split()
    if texts[0] == "none" or texts[-1] == "slice":
        return x, y, x + width, y + height
    if len(texts[0]) != 8:
        raise UnmeasuredError
    before = [_BEFORE.get(texts[0][start : start + 3]) for start in (1, 5)]
    if before[0] is None or before[1] is None:
        raise UnmeasuredError
    scale = min(width / across, height / down)
    left = x + before[0] * (width - scale * across)
    top = y + before[1] * (height - scale * down)
    return left, top, left + scale * across, top + scale * down


def density_of(element: etree._Element) -> float:
    """How many pixels of its own a picture has for one unit of the drawing; 1 if it can't be told.

    The least of both ways.
    """
    try:
        pixels = _size(references.href(element), is_opaque=False)
        sides = [shapes.side(element, key) for key in ("width", "height")]
    except UnmeasuredError:
        return 1.0
    return min(many / side if side else 1.0 for many, side in zip(pixels, sides, strict=True))


def _opaque_size(link: str) -> tuple[int, int]:
    """Width and height of a picture that nothing shows through. Raises UnmeasuredError."""
    return _size(link, is_opaque=True)


def _size(link: str, *, is_opaque: bool) -> tuple[int, int]:
    from PIL import Image

    head, _, body = link.partition(",")
    if not head.startswith("data:image/"):
        raise UnmeasuredError
    try:
        data = base64.b64decode(body) if "base64" in head else unquote_to_bytes(body)
        with Image.open(io.BytesIO(data), formats=_FORMATS) as picture:
            if not is_opaque:
                return picture.size
            if picture.width * picture.height > MOST_PIXELS:
                raise UnmeasuredError
            if picture.has_transparency_data:
                lowest, _ = picture.convert("RGBA").getchannel("A").getextrema()
                if int(str(lowest)) < 255:
                    raise UnmeasuredError
            return picture.size
    except (
        OSError,
        binascii.Error,
        ValueError,
        SyntaxError,
        Image.DecompressionBombError,
    ) as error:
        raise UnmeasuredError from error
