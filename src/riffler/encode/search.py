"""A picture, a codec and a visible loss -> the lowest quality that stays under it.

Codecs are not monotone in quality, so of all that were tried the smallest file that passes is
taken, not the last one.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from typing import TypeAlias

import numpy as np

from riffler.color import Bytes
from riffler.encode.choice import ENCODES, LEVELS, Choice
from riffler.encode.codec import Effort, LossyCodec, Try, tried
from riffler.encode.encoding import decoded
from riffler.encode.visible import Reference

#: Qualities that are searched, and the one below which there is none, for budgets.
LOWEST, HIGHEST, POOREST = 20, 97, 1

#: Qualities that a ladder of files is made at.
LADDER = (25, 45, 60, 72, 82, 90, 95)

#: By how much the logarithm of loss falls with each step of quality, before more is known.
USUAL_SLOPE = -0.045

#: The most steps of quality from one try to the next.
LEAP = 24

#: A loss this near under the wanted one, as a logarithm, is near enough: a twentieth.
NEAR = -0.05

#: A smaller file is worth another try when there may be one of less than this part.
WORTH = 0.98

#: Steps of quality by which a file is made better when a search ended without one that passes.
STRIDE = 4

#: Pieces are to lose a little less than would do, so that the whole passes at the first look.
SAFELY = 0.96

#: Times that the whole of a large picture is tried.
WHOLE = 2

#: How much of the way is gone that the usual slope would allow.
CAREFULLY = 0.7

#: A whole picture may lose so much less than it might, as a logarithm, before it is tried again.
CLOSE = -0.2

#: Pixels beyond which a search looks at pieces, their side, and how many; a multiple of 16, the
#: largest block of the codecs.
PIECES_FROM, PIECE, PIECES = 120_000, 96, 8


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

    def choose(self, straight: Bytes, quality: int | str, budget: int | None = None) -> Choice:
        """The smallest file for a quality or a level; or the best one within a budget."""
        if budget is not None:
            return within(straight, self.codec, budget)
        if isinstance(quality, int):
            return Choice(self.codec.best(straight, quality), self.name, {"quality": quality})
        return search(straight, self.codec, quality)

    def ladder(self, straight: Bytes) -> Iterator[bytes]:
        """Files at a whole ladder of qualities, as large as they would be kept, or nearly so."""
        is_quick = self.codec.effort is Effort.PIXELS
        make = self.codec.quick if is_quick else self.codec.best
        return (make(straight, quality) for quality in LADDER)


def search(straight: Bytes, codec: LossyCodec, level: str) -> Choice:
    """Bracket the lowest quality whose loss stays under that of a level.

    straight: (H, W, 4) uint8. Of a large picture pieces are tried, and the whole of it only where
    their loss crosses the wanted one; when it turns out to lose more, the pieces have to lose less.
    """
    most = LEVELS[level]
    small = _pieces(straight)
    reference = Reference(small)
    settled = codec.settled(small, reference, codec.begins[level])
    codec, encodes = settled.codec, settled.encodes
    looks = {codec.begins[level]: settled.first}
    spared = 1 if small is straight else 1 + WHOLE
    while encodes < ENCODES - spared and (quality := _next(looks, most)) is not None:
        looks[quality] = tried(reference, codec.quick(small, quality))
        encodes += 1
    files, whole = looks, reference
    if small is not straight:
        files, whole = {}, Reference(straight)
        encodes += _try_whole(straight, codec, looks, files, whole, most)
    found = _smallest_passing(files, most)
    quality = max([*looks, *files])
    while found is None:
        quality = min(HIGHEST, quality + STRIDE)
        files[quality] = tried(whole, codec.quick(straight, quality))
        encodes += 1
        found = quality if files[quality].loss <= most or quality == HIGHEST else None
    kept, more = _with_all_effort(straight, codec, found, files[found], whole, most)
    setting: dict[str, int | str] = {"quality": found, **codec.setting}
    return Choice(kept.data, codec.name, setting, kept.loss, encodes + more)


def _try_whole(
    straight: Bytes,
    codec: LossyCodec,
    looks: Tries,
    files: dict[int, Try],
    whole: Reference,
    most: float,
) -> int:
    """Try the whole of a picture where its pieces' loss crosses the wanted one, twice at the most.

    How much more the whole loses than the pieces says where to try again; where it loses far less,
    the pieces are no guide, and its own loss is. Returns the encodes.
    """
    quality = _crossing(looks, SAFELY * most)
    while quality not in files and len(files) < WHOLE:
        files[quality] = tried(whole, codec.quick(straight, quality))
        seen = max(1e-6, files[quality].loss)
        away = float(np.log(seen / most))
        if CLOSE < away <= 0:
            break
        if away <= 0:
            quality = max(LOWEST, quality + int(np.ceil(CAREFULLY * away / -USUAL_SLOPE)))
        else:
            here = float(np.exp(np.interp(quality, *_line(looks))))
            quality = _crossing(looks, SAFELY * here * most / seen)
    return len(files)


def _with_all_effort(
    straight: Bytes, codec: LossyCodec, quality: int, quick: Try, whole: Reference, most: float
) -> tuple[Try, int]:
    """The file that a search ended with, encoded anew where that is smaller; and the encodes."""
    if codec.effort is Effort.NOTHING:
        return quick, 0
    data = codec.best(straight, quality)
    closer = Try(data, quick.loss) if codec.effort is Effort.BYTES else tried(whole, data)
    is_fine = closer.loss <= quick.loss or closer.loss <= most
    return (closer if len(data) < len(quick.data) and is_fine else quick), 1


def _smallest_passing(looks: Tries, most: float) -> int | None:
    passing = [(len(file.data), quality) for quality, file in looks.items() if file.loss <= most]
    return min(passing)[1] if passing else None


def _line(looks: Tries) -> tuple[list[int], list[float]]:
    """Qualities that were tried, rising, and the logarithms of their losses."""
    qualities = sorted(looks)
    return qualities, [_log(looks[quality]) for quality in qualities]


def _log(look: Try) -> float:
    return float(np.log(max(1e-6, look.loss)))


def _crossing(looks: Tries, most: float) -> int:
    """The lowest quality whose loss should stay under `most`, between those that were tried."""
    passed, failed = _bracket(looks, most)
    log = np.log(most)
    if passed is None or failed is None:
        at = min(looks) if failed is None else max(looks)
        away = (_log(looks[at]) - log) / -USUAL_SLOPE
        return int(np.clip(at + np.ceil(away), LOWEST, HIGHEST))
    above, below = _log(looks[failed]), _log(looks[passed])
    share = (above - log) / max(1e-6, above - below)
    return min(passed, failed + max(1, int(np.ceil(share * (passed - failed)))))


def _bracket(looks: Tries, most: float) -> tuple[int | None, int | None]:
    """The lowest quality that passes, and the highest below it that fails."""
    passed = min((quality for quality, look in looks.items() if look.loss <= most), default=None)
    beyond = HIGHEST + 1 if passed is None else passed
    failed = (quality for quality, look in looks.items() if look.loss > most and quality < beyond)
    return passed, max(failed, default=None)


def _next(looks: Tries, most: float) -> int | None:
    """Where the loss should cross `most`: its logarithm is nearly straight in quality.

    None when a better quality is hardly worth another try.
    """
    passed, failed = _bracket(looks, most)
    logs = {quality: float(np.log(max(1e-6, look.loss) / most)) for quality, look in looks.items()}
    if passed is None:
        assert failed is not None
        step = int(np.clip(np.ceil(logs[failed] / -USUAL_SLOPE), 2, LEAP))
        return min(HIGHEST, failed + step) if failed < HIGHEST else None
    if logs[passed] > NEAR:
        return None
    if failed is None:
        step = int(np.clip(logs[passed] / USUAL_SLOPE, 2, LEAP))
        return max(LOWEST, passed - step) if passed > LOWEST else None
    gap = passed - failed
    if gap < 2 or len(looks[failed].data) > WORTH * len(looks[passed].data):
        return None
    share = float(np.clip(logs[failed] / (logs[failed] - logs[passed]), 0.2, 0.8))
    return failed + min(gap - 1, max(1, int(np.ceil(share * gap))))


def within(straight: Bytes, codec: LossyCodec, budget: int) -> Choice:
    """The best quality whose file is no larger than a number of bytes.

    straight: (H, W, 4) uint8. Where none is small enough, the smallest there is.
    """
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
    seen = Reference(straight).loss(decoded(data))
    return Choice(data, codec.name, {"quality": quality}, seen, encodes + 1)


def _pieces(straight: Bytes) -> Bytes:
    """What a search looks at: a picture as it is; of a large one pieces below one another.

    Half of them are those with most in them, the others lie evenly spread. They lie on the grid of
    the codecs' own blocks.
    """
    height, width = straight.shape[:2]
    if height * width <= PIECES_FROM or min(height, width) < PIECE:
        return straight
    places = [
        (y, x)
        for y in range(0, height - PIECE + 1, PIECE)
        for x in range(0, width - PIECE + 1, PIECE)
    ]
    busy = sorted(
        places,
        key=lambda at: -float(straight[at[0] : at[0] + PIECE, at[1] : at[1] + PIECE, 1].std()),
    )[: PIECES // 2]
    spread = [places[int(n)] for n in np.linspace(0, len(places) - 1, PIECES - len(busy))]
    kept = sorted({*busy, *spread})
    return np.concatenate([straight[y : y + PIECE, x : x + PIECE] for y, x in kept])
