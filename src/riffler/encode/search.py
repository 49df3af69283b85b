"""A picture, a codec and a visible loss -> the lowest quality that stays under it.

Codecs are not monotone in quality, so of all that passed the smallest file is taken.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from typing import TypeAlias

import numpy as np

from riffler.color import Bytes
from riffler.encode.choice import ENCODES, LEVELS, Choice
from riffler.encode.codec import LossyCodec, Rung, Try, rungs, tried
from riffler.encode.encoding import decoded
from riffler.encode.original import Original

#: Qualities that are searched, and the one below which there is none, for budgets.
LOWEST, HIGHEST, POOREST = 10, 99, 1

#: Qualities that a ladder of files is made at.
LADDER = (25, 45, 60, 72, 82, 90, 95)

#: How the logarithm of loss goes with that of how coarsely a codec quantises, before more is known.
USUAL_SLOPE = -1.1

#: A loss this near under the wanted one, as a logarithm, is near enough: an eighth.
NEAR = -0.14

#: A smaller file is worth another try when there may be one of less than this part.
WORTH = 0.98

#: A variant may lose so many times the wanted loss and that of the first one where it is judged,
#: and is taken for so much gain in the logarithm of its bytes.
NEARBY, WORSE, GAIN = 2.0, 1.25, 0.02

#: How much smaller a file gets when more loss is allowed, both in logarithms.
LOSS_IN_BYTES = 0.6

#: Pieces lose so many times more than they do in the whole where a codec looks across their seams.
SEAMS = 1.2

#: A second file is to lose a little less than would do.
SAFELY = 0.96

#: Times that the file itself is tried before its quality is raised step by step.
FILES = 2

#: How much of the way is gone that the usual slope would allow.
CAREFULLY = 0.7

#: A file may lose so much less than it might, as a logarithm, before it is tried again.
CLOSE = -0.2

#: Steps of quality by which a file is made better when a search ended without one that passes.
STRIDE = 4

Tries: TypeAlias = Mapping[int, Try]
"""What was tried, by quality."""


@dataclass(frozen=True)
class Searched:
    """A codec with a quality, whose settings are searched for."""

    codec: LossyCodec

    @property
    def name(self) -> str:
        """The format's."""
        return self.codec.name

    def encode(self, straight: Bytes, quality: int) -> bytes:
        """A file at a quality, with all effort."""
        return self.codec.best(straight, quality)

    def choose(
        self, original: Original, quality: int | str, budget: int | None = None
    ) -> Choice | None:
        """The smallest file for a quality or a level; or the best one within a budget."""
        if budget is not None:
            return within(original, self.codec, budget)
        if isinstance(quality, int):
            data = self.codec.best(original.straight, quality)
            return Choice(data, self.name, {"quality": quality})
        return search(original, self.codec, quality)

    def glance(self, original: Original, level: str) -> Try:
        """The first look at the pieces of a picture for a level."""
        codec = self.codec.variants(original)[0]
        return tried(original.small, codec, codec.begins[level], is_quick=True)

    def ladder(self, original: Original) -> Iterator[Rung]:
        """A whole ladder of qualities."""
        codec = self.codec.variants(original.small)[0]

        def made(picture: Original, number: int) -> Try:
            return tried(picture, codec, LADDER[number], is_quick=True)

        return rungs(original, made, len(LADDER))


def search(original: Original, codec: LossyCodec, level: str) -> Choice | None:
    """Bracket the lowest quality whose loss stays under that of a level.

    Quick files are looked at, of a large picture only its pieces; then the file itself is tried
    where their loss crosses the wanted one. None where the codec reaches the level at no quality.
    """
    trial = _Trial(original, LEVELS[level], codec.eases)
    if trial.most == 0:
        return None
    for variant, looks in _settled(trial, codec.variants(original.small), codec.begins[level]):
        if (found := _searched(trial, variant, looks)) is not None:
            quality, kept = found
            setting: dict[str, int | str] = {"quality": quality, **variant.setting}
            return Choice(kept.data, codec.name, setting, kept.loss, trial.encodes)
    return None


@dataclass
class _Trial:
    """A picture and the loss that is wanted, with a count of what was tried for it."""

    original: Original
    most: float
    eases: float | None
    encodes: int = 0

    @property
    def aim(self) -> float:
        """What looks may lose so that the file itself loses no more than is wanted."""
        if self.eases is None:
            return self.most
        is_all = self.original.small is self.original
        return self.most * self.eases * (1.0 if is_all else SEAMS)

    def look(self, codec: LossyCodec, quality: int) -> Try:
        """A quick file of its pieces."""
        self.encodes += 1
        return tried(self.original.small, codec, quality, is_quick=True)

    def file(self, codec: LossyCodec, quality: int) -> Try:
        """The file itself."""
        self.encodes += 1
        return tried(self.original, codec, quality, is_quick=False)


def _searched(trial: _Trial, codec: LossyCodec, looks: dict[int, Try]) -> tuple[int, Try] | None:
    """The lowest quality and its file; None where the highest one loses too much."""
    while trial.encodes < ENCODES - FILES and (quality := _next(looks, trial.aim)) is not None:
        looks[quality] = trial.look(codec, quality)
    files = _files(trial, codec, looks)
    found, quality = _smallest_passing(files, trial.most), max(files)
    while found is None and quality < HIGHEST:
        quality = min(HIGHEST, quality + STRIDE)
        files[quality] = trial.file(codec, quality)
        found = quality if files[quality].loss <= trial.most else None
    return None if found is None else (found, files[found])


def _settled(
    trial: _Trial, variants: Sequence[LossyCodec], quality: int
) -> Iterator[tuple[LossyCodec, dict[int, Try]]]:
    """The variants of a codec with their looks, the one that serves a picture best to begin with.

    Of the others only those count that are smaller for their loss, and near enough to the wanted
    one: far away it does not show whether they reach it.
    """
    looks = {variant: {quality: trial.look(variant, quality)} for variant in variants}

    def rank(variant: LossyCodec) -> tuple[bool, float]:
        look, first = looks[variant][quality], looks[variants[0]][quality]
        is_far = variant != variants[0] and (
            look.loss > NEARBY * trial.aim or look.loss > WORSE * first.loss
        )
        return is_far, _worth(look) - (GAIN if variant == variants[0] else 0.0)

    for variant in sorted(variants, key=rank):
        yield variant, looks[variant]


def _worth(look: Try) -> float:
    """The logarithm of how large a file would be at a loss of one."""
    return float(np.log(len(look.data)) + LOSS_IN_BYTES * _log(look))


def _files(trial: _Trial, codec: LossyCodec, looks: Tries) -> dict[int, Try]:
    """Try the file itself where the loss of looks crosses the wanted one, twice at the most.

    How much more it loses than the looks says where to try again.
    """
    files: dict[int, Try] = {}
    most = trial.most
    if codec.eases is None and trial.original.small is trial.original:
        quality = _smallest_passing(looks, most) or HIGHEST
        return {quality: trial.file(codec, quality)}
    quality = _crossing(looks, trial.aim)
    while quality not in files and len(files) < FILES:
        files[quality] = trial.file(codec, quality)
        seen = max(1e-6, files[quality].loss)
        if CLOSE < np.log(seen / most) <= 0:
            break
        here = float(np.exp(np.interp(_effort(quality), *_line(looks))))
        quality = _crossing(looks, SAFELY * here * most / seen)
    return files


def _smallest_passing(looks: Tries, most: float) -> int | None:
    passing = [(len(file.data), quality) for quality, file in looks.items() if file.loss <= most]
    return min(passing)[1] if passing else None


def _line(looks: Tries) -> tuple[list[float], list[float]]:
    """The effort of what was tried, rising, and the logarithms of the losses."""
    qualities = sorted(looks)
    return [*map(_effort, qualities)], [_log(looks[quality]) for quality in qualities]


def _log(look: Try) -> float:
    return float(np.log(max(1e-6, look.loss)))


def _crossing(looks: Tries, most: float) -> int:
    """The lowest quality whose loss should stay under `most`, between those that were tried."""
    passed, failed = _bracket(looks, most)
    log = float(np.log(most))
    if passed is None or failed is None:
        at = min(looks) if failed is None else max(looks)
        return _away(looks, at, log, CAREFULLY)
    above, below = _log(looks[failed]), _log(looks[passed])
    share = (above - log) / max(1e-6, above - below)
    return min(passed, max(failed + 1, _between(failed, passed, share)))


def _away(looks: Tries, quality: int, log: float, part: float) -> int:
    """Where from a quality on the loss should have this logarithm; part of the way is gone."""
    effort = _effort(quality) + part * (_log(looks[quality]) - log) / -USUAL_SLOPE
    return int(np.clip(np.ceil(102 - np.exp(-effort)), LOWEST, HIGHEST))


def _between(low: int, high: int, share: float) -> int:
    effort = (1 - share) * _effort(low) + share * _effort(high)
    return int(np.ceil(102 - np.exp(-effort)))


def _effort(quality: float) -> float:
    """What the logarithm of loss falls with: that of how coarsely a codec quantises."""
    return float(-np.log(102 - quality))


def _bracket(looks: Tries, most: float) -> tuple[int | None, int | None]:
    """The lowest quality that passes, and the highest below it that fails."""
    passed = min((quality for quality, look in looks.items() if look.loss <= most), default=None)
    beyond = HIGHEST + 1 if passed is None else passed
    failed = (quality for quality, look in looks.items() if look.loss > most and quality < beyond)
    return passed, max(failed, default=None)


def _next(looks: Tries, most: float) -> int | None:
    """Where the loss should cross `most`; None when that is hardly worth another try."""
    passed, failed = _bracket(looks, most)
    log = float(np.log(most))
    if passed is None:
        assert failed is not None
        return max(failed + 1, _away(looks, failed, log, 1.0)) if failed < HIGHEST else None
    over = _log(looks[passed]) - log
    if over > NEAR:
        return None
    if failed is None:
        return min(passed - 1, _away(looks, passed, log, CAREFULLY)) if passed > LOWEST else None
    gap = passed - failed
    if gap < 2 or len(looks[failed].data) > WORTH * len(looks[passed].data):
        return None
    under = _log(looks[failed]) - log
    share = float(np.clip(under / (under - over), 0.2, 0.85))
    return int(np.clip(_between(failed, passed, share), failed + 1, passed - 1))


def within(original: Original, codec: LossyCodec, budget: int) -> Choice:
    """The best quality whose file is no larger than a number of bytes.

    Where none is small enough, the smallest there is.
    """
    straight = original.straight
    best: tuple[int, bytes] | None = None
    low, high, encodes = POOREST, HIGHEST, 0
    smallest = (POOREST, codec.best(straight, POOREST))
    while low <= high and encodes < ENCODES - 1:
        quality = (low + high) // 2
        data = codec.best(straight, quality)
        encodes += 1
        if len(data) <= budget:
            best, low = (quality, data), quality + 1
        else:
            high = quality - 1
    quality, data = best or smallest
    seen = original.reference.loss(decoded(data))
    return Choice(data, codec.name, {"quality": quality}, seen, encodes + 1)
