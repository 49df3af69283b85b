"""Every codec by the name of its format; and a picture with a wish -> the file that grants it."""

from __future__ import annotations

from collections.abc import Mapping

from riffler.color import Bytes
from riffler.encode.choice import Choice
from riffler.encode.codec import Codec
from riffler.encode.few_colors import Gif, Png
from riffler.encode.jpeg import Jpeg
from riffler.encode.modern import Avif, WebP
from riffler.encode.search import Searched

_ALL: tuple[Codec, ...] = (Png(), Searched(Jpeg()), Searched(WebP()), Searched(Avif()), Gif())

#: Every codec under the name of its format.
CODECS: Mapping[str, Codec] = {codec.name: codec for codec in _ALL}


def choose(
    straight: Bytes, format_name: str, quality: int | str, budget: int | None = None
) -> Choice:
    """The smallest file for a quality: a number, or a level of visible loss; or within a budget.

    straight: (H, W, 4) uint8, with no more transparency than the format holds. A budget in bytes
    that no setting meets gives the smallest file.
    """
    return CODECS[format_name].choose(straight, quality, budget)


def encode(straight: Bytes, format_name: str, quality: int) -> bytes:
    """The picture as `format_name`; `quality`, 1..100, is for the lossy ones.

    straight: (H, W, 4) uint8, straight RGBA.
    """
    return CODECS[format_name].encode(straight, quality)
