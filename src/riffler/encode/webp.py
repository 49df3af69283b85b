"""Straight RGBA -> WebP bytes: lossy, or lossless of all, of nearly all, or of a few colours."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from functools import partial
from typing import Literal, TypeAlias

import numpy as np

from riffler.color import Bytes, is_solid
from riffler.encode.choice import LEVELS, REAL_BYTES, Choice, preferred
from riffler.encode.codec import LossyCodec, Rung, Traits
from riffler.encode.encoding import saved
from riffler.encode.few_colors import cleaner, few
from riffler.encode.original import Original, Reduced
from riffler.encode.search import Searched, likely

#: The codec's effort, 0 to 6; less where anything is transparent, for which more takes fifty times
#: as long for a twentieth of the bytes.
BEST, WITH_ALPHA = 6, 4

#: How well alpha is kept, 0 to 100: exactly; or in fewer steps, which takes a quarter less.
FINE, COARSE = 100, 60

#: Effort and time for lossless files by their pixels: the fewer, the more can be tried.
LOSSLESS = ((20_000, ((4, 75), (6, 90))), (500_000, ((4, 75),)), (None, ((2, 50),)))

#: Steps of 8 bits that colours may be rounded to where their neighbours are that different.
ROUNDED = (8, 16)

#: Bits that a pixel takes without loss from which a picture is a photograph, for flat art takes 2
#: and cloth 3; and the pixels from which that can be said.
PHOTOGRAPH, TELLING = 4.0, 1_000

Way: TypeAlias = Callable[[Original, float], Choice | None]
"""How a file of a kind is made of a picture under a loss; None where it loses more."""

#: What a lossy file may turn out smaller by than its first look says.
UNSURE = 1.1

#: What pieces must save without all their colours for the whole to be tried.
GAIN = 0.95


def lossy(straight: Bytes, quality: int, alpha: int = FINE) -> bytes:
    """A lossy WebP at `quality` (1..100); alpha is kept as well as `alpha` says.

    straight: (H, W, 4) uint8, straight RGBA.
    """
    method = BEST if is_solid(straight) else WITH_ALPHA
    return saved(straight, "WEBP", quality=quality, method=method, alpha_quality=alpha)


def lossless(straight: Bytes) -> bytes:
    """A WebP of exactly these pixels; what is invisible has the colour that takes least.

    straight: (H, W, 4) uint8, straight RGBA.
    """
    pixels = straight.shape[0] * straight.shape[1]
    efforts = next(tries for most, tries in LOSSLESS if most is None or pixels <= most)
    files = (
        saved(straight, "WEBP", lossless=True, method=effort, quality=time)
        for effort, time in efforts
    )
    return min(files, key=len)


def exactly(original: Original) -> bytes:
    """The lossless file of a picture, made once."""
    return original.once("webp", lambda: lossless(original.straight))


def is_photograph(original: Original) -> bool:
    """Whether a picture has so much in every pixel that only a photograph can have it."""
    small = original.small
    painted = int((small.straight[..., 3] > 0).sum())
    return painted >= TELLING and 8 * len(exactly(small)) / painted > PHOTOGRAPH


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


@dataclass(frozen=True)
class Lossy:
    """The lossy kind."""

    alpha: Literal["fine", "coarse"] = "fine"

    name = "webp"
    traits = Traits(begins=84, falls=1.1)

    @property
    def setting(self) -> Mapping[str, str]:
        """Alpha, where it is coarser than it might be."""
        return {"alpha": "coarse"} if self.alpha == "coarse" else {}

    def variants(self, original: Original) -> list[LossyCodec]:
        """Coarse alpha where there is any."""
        return [self] if original.is_opaque else [self, replace(self, alpha="coarse")]

    def quick(self, straight: Bytes, quality: int) -> bytes:
        """The file itself."""
        return self.best(straight, quality)

    def best(self, straight: Bytes, quality: int) -> bytes:
        """All effort that is worth its time."""
        return lossy(straight, quality, FINE if self.alpha == "fine" else COARSE)


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
        return self.smaller(original, quality, None) or _exact(original, LEVELS[quality])

    def smaller(self, original: Original, level: str, than: int | None) -> Choice | None:
        """The smallest file of any kind for a level; None where none takes less than some bytes.

        What is hardly going to is not made.
        """
        most = LEVELS[level]
        if most == 0:
            exact = _exact(original, most)
            return exact if than is None or len(exact.data) <= than else None
        lossy = likely(self._lossy.glance(original), most)
        sizes, choices = _lossless_kinds(original, most, lossy)
        encodes = 1
        is_too_large = than is not None and not original.is_large and lossy > UNSURE * than
        if lossy < UNSURE * min(sizes, default=lossy) and not is_too_large:
            searched = self._lossy.choose(original, level)
            if searched is not None:
                choices.append(searched)
                encodes += searched.encodes
        small = [choice for choice in choices if than is None or len(choice.data) <= than]
        return replace(preferred(small), encodes=encodes) if small else None

    def ladder(self, original: Original) -> Iterator[Rung]:
        """Lossy files."""
        return self._lossy.ladder(original)

    def _within(self, original: Original, quality: int | str, budget: int | None) -> Choice | None:
        """A lossless file where a budget has room for it."""
        if budget is not None:
            exact = _exact(original, 0.0)
            if len(exact.data) <= budget:
                return exact
        return self._lossy.choose(original, quality, budget)


def _lossless_kinds(
    original: Original, most: float, likely: float
) -> tuple[list[int], list[Choice]]:
    """What pieces of a picture take in the kinds that may be smaller than a `likely` lossy file.

    And the files themselves; of a large picture only of kinds whose pieces are small.
    """
    exact = len(exactly(original.small))
    is_photo = is_photograph(original)
    gains = ((way, of_photo if is_photo else gain) for way, gain, of_photo in LOSSLESS_WAYS)
    ways = [way for way, gain in gains if exact < max(gain * likely, likely + REAL_BYTES)]
    pairs = [(way, choice) for way in ways if (choice := way(original.small, most)) is not None]
    sizes = [len(choice.data) for _, choice in pairs]
    if not original.is_large:
        return sizes, [choice for _, choice in pairs]
    near = UNSURE * min([likely, *sizes])
    return sizes, list(_of_whole(original, most, pairs, near))


def _of_whole(
    original: Original, most: float, pairs: Sequence[tuple[Way, Choice]], near: float
) -> Iterator[Choice]:
    """The files of a large picture in the kinds whose pieces are small enough."""
    exact = len(exactly(original.small))
    for way, choice in pairs:
        least = near if way is _exact else min(near, GAIN * exact)
        made_choice = way(original, most) if len(choice.data) <= least else None
        if made_choice is not None:
            yield made_choice


def _exact(original: Original, most: float) -> Choice:  # noqa: ARG001 - it loses nothing
    return Choice(exactly(original), "webp", {"kind": "lossless"}, 0.0)


def _rounded(original: Original, most: float) -> Choice | None:
    """Rounded colours, the coarsest that may be."""
    for step in reversed(ROUNDED):
        pixels, seen = original.once(("rounded", step), partial(_looked_at, original, step))
        if seen <= most:
            data = original.once(("rounded file", step), partial(lossless, pixels))
            return Choice(data, "webp", {"kind": "lossless", "steps": step}, seen)
    return None


def _looked_at(original: Original, step: int) -> tuple[Bytes, float]:
    """A picture with rounded colours, and what is seen of that."""
    pixels = rounded(original.straight, step)
    return pixels, original.reference.loss(pixels)


def _reduced(original: Original, most: float) -> Choice | None:
    """As few colours as may be; or as lose next to nothing, where that is about as small."""
    palettes = (*few(original, most), *cleaner(original, most))
    choices = [
        Choice(
            original.once(
                ("reduced", reduced.most, reduced.is_dithered), partial(_file_of, reduced)
            ),
            "webp",
            {"kind": "lossless", **reduced.setting},
            reduced.loss,
        )
        for reduced in palettes
    ]
    return preferred(choices) if choices else None


def _file_of(reduced: Reduced) -> bytes:
    return lossless(reduced.palette.straight)


#: The lossless kinds, each with how many times larger than a lossy file an exact one may be for it
#: to be worth a try, of drawings and of photographs: rounding saves a tenth, a palette up to four
#: fifths.
LOSSLESS_WAYS: tuple[tuple[Way, float, float], ...] = (
    (_exact, 1.1, 1.1),
    (_rounded, 1.3, 1.3),
    (_reduced, 5.0, 3.0),
)
