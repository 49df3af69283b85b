"""Bytes of a PNG, JPEG, WebP or TIFF -> straight 8-bit RGBA in sRGB."""

from __future__ import annotations

import contextlib
import io
import struct
import zlib
from collections.abc import Iterator
from dataclasses import dataclass
from typing import TYPE_CHECKING

import numpy as np
import numpy.typing as npt

from riffler.color import Bytes, to_encoded
from riffler.errors import MockupError
from riffler.geometry import Box, Size
from riffler.mockup.bounds import refuse_size
from riffler.mockup.flat import FORMATS, ORIENTATION
from riffler.project.limits import Limits

if TYPE_CHECKING:
    from PIL import Image

#: The gAMA of a picture encoded for a display of exponent 2.2: what sRGB is near enough.
USUAL_GAMMA = 0.45455

#: First bytes of a PNG, and the chunks whose checksums are held against their contents.
PNG_SIGNATURE, CHECKED = b"\x89PNG\r\n\x1a\n", (b"IHDR", b"PLTE", b"IDAT", b"tRNS")

#: Where a PNG says its bit depth, and after it its colour type. PNG 3, section 11.2.1.
PNG_DEPTH = 24

#: Pixels handed on at a time: 16 MB of RGBA.
STRIP = 4_000_000

_DAMAGE = (OSError, SyntaxError, ValueError, EOFError, zlib.error, struct.error, OverflowError)


def decode(data: bytes, what: str, limits: Limits, formats: tuple[str, ...] = FORMATS) -> Bytes:
    """The picture as straight 8-bit RGBA, upright, its profile or gamma turned into sRGB.

    `what` names the picture in errors. Raises MockupError when it is damaged or beyond the limits.
    """
    return np.concatenate(list(unpacked(data, what, limits, formats).strips()))


def unpacked(
    data: bytes, what: str, limits: Limits, formats: tuple[str, ...] = FORMATS
) -> Unpacked:
    """The picture as its codec has it, for whoever wants it piece by piece. Raises as `decode`."""
    from PIL import Image

    Image.MAX_IMAGE_PIXELS = None  # our own limit is checked before anything is unpacked
    with _told(what), Image.open(io.BytesIO(data), formats=formats) as picture:
        refuse_size(Size(*picture.size), limits, what)
        if picture.format == "PNG":
            _refuse_wrong_checksums(data)
        picture.load()
        _widen_clear_grey(picture, data)
        return Unpacked(_upright(picture), what)


@contextlib.contextmanager
def _told(what: str) -> Iterator[None]:
    """Whatever a codec finds wrong, as a MockupError about the picture called `what`."""
    try:
        yield
    except _DAMAGE as error:
        raise MockupError(f"{what} is damaged: {error}.", "Save the mockup again.") from error


@dataclass(frozen=True)
class Unpacked:
    """A picture as its codec has it, upright; `what` names it in errors."""

    picture: Image.Image
    what: str

    @property
    def is_plain(self) -> bool:
        """Whether it is RGB or RGBA in sRGB already, so that any part can be taken by itself."""
        info = self.picture.info
        is_changed = info.get("icc_profile") or _odd_gamma(info) or "transparency" in info
        return self.picture.mode in ("RGB", "RGBA") and not is_changed

    def painted(self) -> Box | None:
        """The box of what is not clear, in the picture; None where that is not quick to tell."""
        if self.picture.mode != "RGBA":
            return None
        edges = self.picture.getchannel("A").getbbox()
        return Box.from_edges(*edges) if edges else Box(0, 0, 1, 1)

    def part(self, box: Box) -> Unpacked:
        """A box of the picture."""
        cropped = self.picture.crop((box.x, box.y, box.right, box.bottom))
        cropped.info = dict(self.picture.info)
        return Unpacked(cropped, self.what)

    def strips(self) -> Iterator[Bytes]:
        """The picture as `decode` gives it, some rows at a time from the top, to spare memory."""
        width, height = self.picture.size
        rows = max(1, STRIP // width)
        with _told(self.what):
            for top in range(0, height, rows):
                strip = self.picture
                if rows < height:
                    strip = strip.crop((0, top, width, min(height, top + rows)))
                    strip.info = dict(self.picture.info)
                yield _in_srgb(_with_alpha(strip), self.picture.info)

    def alpha(self) -> npt.NDArray[np.uint8]:
        """(H, W) of a plain picture."""
        width, height = self.picture.size
        if self.picture.mode == "RGB":
            return np.full((height, width), 255, np.uint8)
        samples = self.picture.tobytes("raw", "A")
        return np.frombuffer(samples, np.uint8).reshape(height, width)

    def __getitem__(self, area: tuple[slice, slice]) -> Bytes:
        """Some rows and columns of a plain picture."""
        rows, columns = area
        box = (columns.start, rows.start, columns.stop, rows.stop)
        return _by_planes(self.picture.crop(box))


def _refuse_wrong_checksums(data: bytes) -> None:
    """Raises ValueError for a PNG with a chunk of pixels that is not what its CRC-32 says.

    The codec goes on there with blank rows. PNG 3, section 5.3.
    """
    at = len(PNG_SIGNATURE)
    while at + 12 <= len(data):
        (length,) = struct.unpack_from(">I", data, at)
        end = at + 8 + length
        chunk = data[at + 4 : at + 8]
        if chunk in CHECKED and end + 4 <= len(data):
            (value,) = struct.unpack_from(">I", data, end)
            if zlib.crc32(memoryview(data)[at + 4 : end]) != value:
                raise ValueError("the checksum of its pixels is wrong")
        at = end + 4


def _widen_clear_grey(picture: Image.Image, data: bytes) -> None:
    """Bring the clear colour of 2- and 4-bit grey to 8 bits, as the samples have been."""
    clear = picture.info.get("transparency")
    depth, kind = data[PNG_DEPTH], data[PNG_DEPTH + 1]
    if picture.format == "PNG" and kind == 0 and depth in (2, 4) and isinstance(clear, int):
        picture.info["transparency"] = clear * 255 // (2**depth - 1)


def _upright(picture: Image.Image) -> Image.Image:
    """The picture as its orientation tag means it; the same object when there is none."""
    from PIL import ImageOps

    if picture.getexif().get(ORIENTATION, 1) == 1:
        return picture
    return ImageOps.exif_transpose(picture)


def _with_alpha(picture: Image.Image) -> Image.Image:
    """RGBA, opaque RGB and CMYK as they are, all else as RGBA with its transparent colour clear."""
    from PIL import Image

    mode = picture.mode
    if mode in ("RGBA", "CMYK") or (mode == "RGB" and "transparency" not in picture.info):
        return picture
    if mode.startswith("I") or mode == "F":
        return _from_deep_grey(picture)
    clear = picture.info.get("transparency")
    if mode == "RGB" and isinstance(clear, tuple) and max(clear) > 255:
        del picture.info["transparency"]  # 16 bits were cut to 8, the clear colour was not
        pixels = np.array(picture.convert("RGBA"))
        pixels[(pixels[..., :3] == np.array(clear) >> 8).all(axis=-1)] = 0
        return Image.fromarray(pixels, "RGBA")
    return picture.convert("RGBA")


def _from_deep_grey(picture: Image.Image) -> Image.Image:
    """16-bit grey to RGBA, rounded to nearest."""
    from PIL import Image

    deep = np.asarray(picture).astype(np.int64)
    grey = ((np.clip(deep, 0, 65535) * 255 + 32767) // 65535).astype(np.uint8)
    pixels = np.full((*grey.shape, 4), 255, np.uint8)
    pixels[..., :3] = grey[..., None]
    clear = picture.info.get("transparency")
    if isinstance(clear, int):
        pixels[deep == clear] = 0
    return Image.fromarray(pixels, "RGBA")


def _in_srgb(picture: Image.Image, info: dict[str | tuple[int, int], object]) -> Bytes:
    """Straight RGBA with the embedded profile, or failing that the gamma, turned into sRGB."""
    profile, gamma = info.get("icc_profile"), _odd_gamma(info)
    if isinstance(profile, bytes) and profile:
        picture = _through_profile(picture, profile)
    elif gamma is not None:
        return _through_gamma(np.array(picture.convert("RGBA")), gamma)
    return _by_planes(picture if picture.mode in ("RGB", "RGBA") else picture.convert("RGBA"))


def _odd_gamma(info: dict[str | tuple[int, int], object]) -> float | None:
    """The gamma that a picture says it has, unless that comes near sRGB."""
    gamma = info.get("gamma")
    if isinstance(gamma, float) and "srgb" not in info and abs(gamma - USUAL_GAMMA) > 0.005:
        return gamma
    return None


def _by_planes(picture: Image.Image) -> Bytes:
    """The samples of RGB or RGBA, plane by plane in memory."""
    width, height = picture.size
    planes = np.empty((4, height, width), np.uint8)
    planes[3] = 255
    for index, band in enumerate(picture.getbands()):
        planes[index] = np.frombuffer(picture.tobytes("raw", band), np.uint8).reshape(height, width)
    return planes.transpose(1, 2, 0)


def _through_profile(picture: Image.Image, profile: bytes) -> Image.Image:
    """The picture in sRGB, relative colorimetric; unchanged when the profile can't be used."""
    from PIL import ImageCms

    try:
        source = ImageCms.ImageCmsProfile(io.BytesIO(profile))
        if "srgb" in ImageCms.getProfileDescription(source).casefold():
            return picture
        if source.profile.xcolor_space.strip() == "GRAY" and picture.mode == "RGBA":
            return _grey_through_profile(picture, source)
        changed = ImageCms.profileToProfile(
            picture,
            source,
            ImageCms.createProfile("sRGB"),
            renderingIntent=ImageCms.Intent.RELATIVE_COLORIMETRIC,
            outputMode="RGBA" if picture.mode == "RGBA" else "RGB",
        )
    except (ImageCms.PyCMSError, OSError, ValueError):
        return picture
    return changed if changed is not None else picture


def _grey_through_profile(picture: Image.Image, source: object) -> Image.Image:
    from PIL import ImageCms

    alpha, grey = picture.getchannel("A"), picture.getchannel("R")
    changed = ImageCms.profileToProfile(
        grey,
        source,  # type: ignore[arg-type]  # a profile object; the stubs ask for a name
        ImageCms.createProfile("sRGB"),
        outputMode="RGB",
    )
    if changed is None:
        return picture
    changed.putalpha(alpha)
    return changed


def _through_gamma(straight: Bytes, gamma: float) -> Bytes:
    """Undo the exponent of a gAMA chunk; PNG 3, section 13.13."""
    if not 0.01 < gamma < 100:
        return straight
    linear = ((np.arange(256) / 255) ** (1 / gamma)).astype(np.float32)
    table = (to_encoded(linear) * 255 + 0.5).astype(np.uint8)
    result = straight.copy()
    result[..., :3] = table[straight[..., :3]]
    return result
