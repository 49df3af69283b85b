"""Straight RGBA -> WebP bytes: lossy, or lossless of all, of nearly all, or of a few colours."""

from __future__ import annotations

import io
from collections.abc import Iterator, Mapping
from dataclasses import dataclass, replace

import numpy as np

from riffler.color import Bytes
from riffler.encode.choice import LEVELS, Choice
from riffler.encode.codec import LossyCodec, Try
from riffler.encode.few_colors import fewest
from riffler.encode.hidden import spread
from riffler.encode.original import Original
from riffler.encode.search import Searched

#: The codec's effort, 0 to 6: while a search looks around, and for the file itself.
QUICK, BEST = 4, 6

#: Effort and time for lossless files by their pixels: the fewer, the more can be tried.
LOSSLESS = ((20_000, ((4, 75), (6, 100))), (500_000, ((4, 75),)), (None, ((2, 50),)))

#: Steps of 8 bits that colours may be rounded to where their neighbours are that different.
ROUNDED = (8, 16)

#: A way to a file is given up when pieces of it are this many times as large as of another.
HOPELESS = 1.5


def lossy(straight: Bytes, quality: int, effort: int = BEST) -> bytes:
    """A lossy WebP at `quality` (1..100); alpha is kept exactly.

    Invisible pixels take the colours of their neighbours, which spares icons a fifth of the bytes.

    straight: (H, W, 4) uint8, straight RGBA.
    """
    hidden = straight[..., 3] == 0
    if hidden.any():
        straight = spread(straight, hidden)
    return _saved(straight, quality=quality, method=effort, alpha_quality=100)


def lossless(straight: Bytes) -> bytes:
    """A WebP of exactly these pixels; what is invisible has the colour that takes least.

    straight: (H, W, 4) uint8, straight RGBA.
    """
    pixels = straight.shape[0] * straight.shape[1]
    efforts = next(tries for most, tries in LOSSLESS if most is None or pixels <= most)
    files = (
        _saved(straight, lossless=True, method=effort, quality=time) for effort, time in efforts
    )
    return min(files, key=len)


def exactly(original: Original) -> bytes:
    """The lossless file of a picture, made once."""
    return original.once("webp", lambda: lossless(original.straight))


def rounded(straight: Bytes, step: int) -> Bytes:
    """Colours in steps, but where all neighbours are within a step: calm ground stays as it is.

    straight: (H, W, 4) uint8, straight RGBA; step: a power of two.
    """
    colors = straight[..., :3].astype(np.int16)
    is_lively = np.zeros(straight.shape[:2], bool)
    down = (np.abs(np.diff(colors, axis=0)) >= step).any(axis=2)
    across = (np.abs(np.diff(colors, axis=1)) >= step).any(axis=2)
    for beside in (is_lively[1:], is_lively[:-1]):
        beside |= down
    for beside in (is_lively[:, 1:], is_lively[:, :-1]):
        beside |= across
    result = straight.copy()
    steps = np.clip((colors + step // 2) // step * step, 0, 255)
    result[..., :3][is_lively] = steps[is_lively]
    return result


def _saved(straight: Bytes, **settings: int) -> bytes:
    from PIL import Image

    picture = Image.fromarray(straight)
    if straight[..., 3].min(initial=255) == 255:
        picture = picture.convert("RGB")
    out = io.BytesIO()
    picture.save(out, "WEBP", **settings)
    return out.getvalue()


@dataclass(frozen=True)
class Lossy:
    """The lossy kind."""

    name = "webp"
    begins = {"clear": 90, "fair": 78}  # noqa: RUF012 - never changed
    eases = 0.96

    @property
    def setting(self) -> Mapping[str, str]:
        """Nothing beside the quality."""
        return {}

    def variants(self, original: Original) -> list[LossyCodec]:  # noqa: ARG002
        """The one there is."""
        return [self]

    def quick(self, straight: Bytes, quality: int) -> bytes:
        """A file of less effort, whose pixels are a little other."""
        return lossy(straight, quality, QUICK)

    def best(self, straight: Bytes, quality: int) -> bytes:
        """All effort."""
        return lossy(straight, quality)


class WebP:
    """The codec: the smallest of all kinds that a level allows."""

    name = "webp"
    _lossy = Searched(Lossy())

    def encode(self, straight: Bytes, quality: int) -> bytes:
        """A lossy file."""
        return self._lossy.encode(straight, quality)

    def choose(
        self, original: Original, quality: int | str, budget: int | None = None
    ) -> Choice | None:
        """The smallest file of any kind for a level; a lossy one for a number or a budget."""
        if budget is not None or isinstance(quality, int):
            return self._within(original, quality, budget)
        ways = [_exact, _rounded, _reduced]
        if LEVELS[quality] == 0:
            return _exact(original, quality)[0]
        small = len(exactly(original.small))
        first = self._lossy.glance(original, quality)
        found: list[Choice] = []
        if len(first.data) < HOPELESS * small:
            lossy = self._lossy.choose(original, quality)
            found = [lossy] if lossy is not None else []
        encodes = 1 + sum(choice.encodes for choice in found)
        near = HOPELESS if original.small is original else 1.0
        if not found or small < near * original.share * len(found[0].data):
            found += [choice for way in ways for choice in way(original, quality)]
        return replace(min(found, key=lambda choice: len(choice.data)), encodes=encodes)

    def ladder(self, original: Original) -> Iterator[Try]:
        """Lossy files."""
        return self._lossy.ladder(original)

    def _within(self, original: Original, quality: int | str, budget: int | None) -> Choice | None:
        """A lossless file where a budget has room for it."""
        if budget is not None:
            exact = _exact(original, "exact")[0]
            if len(exact.data) <= budget:
                return exact
        return self._lossy.choose(original, quality, budget)


def _exact(original: Original, level: str) -> list[Choice]:  # noqa: ARG001 - all reach it
    data = exactly(original)
    return [Choice(data, "webp", {"kind": "lossless"}, 0.0)]


def _rounded(original: Original, level: str) -> list[Choice]:
    """Rounded colours, the coarsest that a level allows."""
    for step in reversed(ROUNDED):
        pixels = rounded(original.straight, step)
        seen = original.reference.loss(pixels)
        if seen <= LEVELS[level]:
            return [Choice(lossless(pixels), "webp", {"kind": "lossless", "steps": step}, seen)]
    return []


def _reduced(original: Original, level: str) -> list[Choice]:
    found = fewest(original, LEVELS[level])
    if found is None:
        return []
    setting: dict[str, int | str] = {"kind": "lossless", "colors": len(found.palette.colors)}
    return [Choice(lossless(found.palette.straight), "webp", setting, found.loss)]
