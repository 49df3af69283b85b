"""A flat picture -> a Mockup of a single layer."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property
from pathlib import Path

from riffler.digests import sha256_of
from riffler.errors import MockupError
from riffler.files import as_typed
from riffler.geometry import Box, Size
from riffler.mockup import address
from riffler.mockup.bounds import refuse_size
from riffler.mockup.model import Layer, LayerKind, Mockup, Nature
from riffler.project.limits import Limits

READABLE = "OpenRaster, SVG, PNG, JPEG, WebP and TIFF are read."

#: Pillow's names of the picture formats that are read, and no others.
FORMATS = ("PNG", "JPEG", "WEBP", "TIFF")

#: The tag that says how a camera was held, and its values that swap width and height.
ORIENTATION, TURNED = 0x0112, (5, 6, 7, 8)


@dataclass(frozen=True)
class FlatFile:
    """The one picture of a flat mockup, for the engine that draws pixels."""

    path: Path

    def checksum(self, name: str) -> str:  # noqa: ARG002 - there is only one
        """The hash of the file."""
        return self._hash

    @cached_property
    def _hash(self) -> str:
        return sha256_of(self.path) or ""

    def read(self, name: str) -> bytes:  # noqa: ARG002 - there is only one
        """The file as it is."""
        return self.path.read_bytes()


def read(path: Path, limits: Limits) -> Mockup:
    """Read size and orientation, not the pixels. Raises MockupError when it is no picture."""
    from PIL import Image, UnidentifiedImageError

    Image.MAX_IMAGE_PIXELS = None  # our own limit is checked before anything is unpacked
    try:
        with Image.open(path, formats=FORMATS) as picture:
            width, height = picture.size
            size = Size(width, height)
            refuse_size(size, limits, f"{as_typed(path)}: the picture")
            is_turned = picture.getexif().get(ORIENTATION) in TURNED
            if is_turned and picture.format != "TIFF":  # there Pillow has turned the size already
                size = Size(height, width)
    except UnidentifiedImageError as error:
        raise MockupError(f"{as_typed(path)} is a damaged picture, or none.", READABLE) from error
    except (OSError, SyntaxError, ValueError, Image.DecompressionBombError) as error:
        raise MockupError(f"{as_typed(path)} is damaged: {error}.") from error
    name = address.clean(path.stem) or "picture"
    end = address.segments([(name, LayerKind.PIXELS)])[0]
    layer = Layer(end, name, LayerKind.PIXELS, box=Box.of_size(size), source=str(path))
    return Mockup(path, size, (layer,), Nature.FLAT, FlatFile(path))
