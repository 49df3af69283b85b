"""Every codec by the name of its format; and a picture with a wish -> the file that grants it."""

from __future__ import annotations

from collections.abc import Mapping

from riffler.color import Bytes
from riffler.encode.avif import Avif
from riffler.encode.choice import Choice
from riffler.encode.codec import Codec
from riffler.encode.few_colors import Gif, Png
from riffler.encode.jpeg import Jpeg
from riffler.encode.original import Original
from riffler.encode.search import Searched
from riffler.encode.webp import WebP

_ALL: tuple[Codec, ...] = (Png(), Searched(Jpeg()), WebP(), Searched(Avif()), Gif())

#: Every codec under the name of its format.
CODECS: Mapping[str, Codec] = {codec.name: codec for codec in _ALL}


def choose(
    original: Original | Bytes, format_name: str, quality: int | str, budget: int | None = None
) -> Choice | None:
    """The smallest file for a quality: a number, or a level of visible loss; or within a budget.

    The picture has no more transparency than the format holds; as pixels it is (H, W, 4) uint8. A
    budget in bytes that no setting meets gives the smallest file, a level that none reaches None.
    """
    if not isinstance(original, Original):
        original = Original(original)
    return CODECS[format_name].choose(original, quality, budget)


def encode(straight: Bytes, format_name: str, quality: int) -> bytes:
    """The picture as `format_name`; `quality`, 1..100, is for the lossy ones.

    straight: (H, W, 4) uint8, straight RGBA.
    """
    return CODECS[format_name].encode(straight, quality)
