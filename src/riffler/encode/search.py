"""A picture, a codec and a visible loss -> the lowest quality that stays under it.

Codecs are not monotone in quality, so of all that were tried the smallest file that passes is
taken, not the last one.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field

import numpy as np

from riffler.color import Bytes
from riffler.encode import jpeg, modern
from riffler.encode.choice import ENCODES, LEVELS, Choice
from riffler.encode.encoding import decoded, encode
from riffler.encode.visible import Reference

#: Qualities that are searched, and where a search begins: about where the level lies for photos.
LOWEST, HIGHEST = 20, 97
BEGIN = {
    "clear": {"jpeg": 82, "webp": 86, "avif": 72},
    "fair": {"jpeg": 45, "webp": 50, "avif": 45},
}

#: By how much the logarithm of loss falls with each step of quality, before more is known.
USUAL_SLOPE = -0.045

#: How much smaller a file gets when more loss is allowed, both in logarithms.
LOSS_IN_BYTES = 0.75

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


def search(straight: Bytes, format_name: str, level: str) -> Choice:
    """Bracket the lowest quality whose loss stays under that of a level.

    straight: (H, W, 4) uint8. Of a large picture pieces are tried, and the whole of it only where
    their loss crosses the wanted one; when it turns out to lose more, the pieces have to lose less.
    """
    most, begin = LEVELS[level], BEGIN[level][format_name]
    small = _pieces(straight)
    reference = Reference(small)
    coder, tried, encodes = _settled(small, reference, format_name, begin)
    spared = 1 if small is straight else 1 + WHOLE
    while encodes < ENCODES - spared and (quality := _next(tried, most)) is not None:
        tried[quality] = _seen(reference, coder.quick(small, quality))
        encodes += 1
    files, whole = tried, reference
    if small is not straight:
        files, whole = {}, Reference(straight)
        encodes += _try_whole(straight, coder, tried, files, whole, most)
    found = _smallest_passing(files, most)
    quality = max([*tried, *files])
    while found is None:
        quality = min(HIGHEST, quality + STRIDE)
        files[quality] = _seen(whole, coder.quick(straight, quality))
        encodes += 1
        found = quality if files[quality][1] <= most or quality == HIGHEST else None
    return _finished(straight, coder, found, files[found], encodes, whole, most)


def _try_whole(
    straight: Bytes,
    coder: _Coder,
    tried: Mapping[int, tuple[bytes, float]],
    files: dict[int, tuple[bytes, float]],
    whole: Reference,
    most: float,
) -> int:
    """Try the whole of a picture where its pieces' loss crosses the wanted one, twice at the most.

    How much more the whole loses than the pieces says where to try again; where it loses far less,
    the pieces are no guide, and its own loss is. Returns the encodes.
    """
    quality = _crossing(tried, SAFELY * most)
    while quality not in files and len(files) < WHOLE:
        files[quality] = _seen(whole, coder.quick(straight, quality))
        seen = max(1e-6, files[quality][1])
        away = float(np.log(seen / most))
        if CLOSE < away <= 0:
            break
        if away <= 0:
            quality = max(LOWEST, quality + int(np.ceil(CAREFULLY * away / -USUAL_SLOPE)))
        else:
            here = float(np.exp(np.interp(quality, *_line(tried))))
            quality = _crossing(tried, SAFELY * here * most / seen)
    return len(files)


def _finished(
    straight: Bytes,
    coder: _Coder,
    quality: int,
    found: tuple[bytes, float],
    encodes: int,
    whole: Reference,
    most: float,
) -> Choice:
    """The file that a search settled on, encoded with all effort where that is smaller."""
    data, seen = found
    setting: dict[str, int | float | str] = {"quality": quality, **coder.setting}
    if coder.format != "avif":
        closer = coder.best(straight, quality)
        its = seen if coder.format == "jpeg" else whole.loss(decoded(closer))
        encodes += 1
        if len(closer) < len(data) and (its <= seen or its <= most):
            data, seen = closer, its
    return Choice(data, coder.format, setting, seen, encodes)


def _seen(reference: Reference, data: bytes) -> tuple[bytes, float]:
    return data, reference.loss(decoded(data))


def quick(straight: Bytes, format_name: str, quality: int) -> bytes:
    """A file to be looked at: about as many bytes, about the same pixels, in less time."""
    if format_name == "webp":
        return modern.webp(straight, quality, modern.QUICK)
    return encode(straight, format_name, quality)


@dataclass(frozen=True)
class _Coder:
    """A codec with what was settled for the picture."""

    format: str
    setting: Mapping[str, str] = field(default_factory=dict)

    def _jpeg(self, straight: Bytes, quality: int, *, is_quick: bool) -> bytes:
        tables, hues = self.setting["tables"], self.setting["hues"]
        return jpeg.encode(straight, quality, tables, hues, is_quick=is_quick)

    def quick(self, straight: Bytes, quality: int) -> bytes:
        """A file to be looked at: about as many bytes, about the same pixels."""
        if self.format == "jpeg":
            return self._jpeg(straight, quality, is_quick=True)
        return quick(straight, self.format, quality)

    def best(self, straight: Bytes, quality: int) -> bytes:
        """A file to keep."""
        if self.format == "jpeg":
            return self._jpeg(straight, quality, is_quick=False)
        return encode(straight, self.format, quality)


def _settled(
    small: Bytes, reference: Reference, format_name: str, begin: int
) -> tuple[_Coder, dict[int, tuple[bytes, float]], int]:
    """The first look: what a JPEG takes for tables and hues, what was seen, how many encodes."""
    if format_name != "jpeg":
        coder = _Coder(format_name)
        return coder, {begin: _seen(reference, coder.quick(small, begin))}, 1
    looks: dict[tuple[str, str], tuple[bytes, float]] = {}

    def best() -> tuple[str, str]:
        return min(looks, key=lambda key: _worth(*looks[key]))

    def look(tables: str, hues: str) -> None:
        looks[tables, hues] = _seen(reference, jpeg.encode(small, begin, tables, hues))

    for tables in jpeg.MIXES:
        look(tables, "half")
    if jpeg.has_fine_hues(small):
        look(best()[0], "full")
    tables, hues = best()
    return _Coder("jpeg", {"tables": tables, "hues": hues}), {begin: looks[best()]}, len(looks)


def _worth(data: bytes, seen: float) -> float:
    """The logarithm of how large a file would be at a loss of one."""
    return float(np.log(len(data)) + LOSS_IN_BYTES * np.log(max(seen, 1e-6)))


def _smallest_passing(tried: Mapping[int, tuple[bytes, float]], most: float) -> int | None:
    passing = [(len(data), quality) for quality, (data, seen) in tried.items() if seen <= most]
    return min(passing)[1] if passing else None


def _line(tried: Mapping[int, tuple[bytes, float]]) -> tuple[list[int], list[float]]:
    """Qualities that were tried, rising, and the logarithms of their losses."""
    qualities = sorted(tried)
    return qualities, [float(np.log(max(1e-6, tried[quality][1]))) for quality in qualities]


def _crossing(tried: Mapping[int, tuple[bytes, float]], most: float) -> int:
    """The lowest quality whose loss should stay under `most`, between those that were tried."""
    passed, failed = _bracket(tried, most)
    log = np.log(most)
    if passed is None or failed is None:
        at = min(tried) if failed is None else max(tried)
        away = (float(np.log(max(1e-6, tried[at][1]))) - log) / -USUAL_SLOPE
        return int(np.clip(at + np.ceil(away), LOWEST, HIGHEST))
    above, below = (float(np.log(max(1e-6, tried[one][1]))) for one in (failed, passed))
    share = (above - log) / max(1e-6, above - below)
    return min(passed, failed + max(1, int(np.ceil(share * (passed - failed)))))


def _bracket(
    tried: Mapping[int, tuple[bytes, float]], most: float
) -> tuple[int | None, int | None]:
    """The lowest quality that passes, and the highest below it that fails."""
    passed = min((quality for quality, (_, seen) in tried.items() if seen <= most), default=None)
    beyond = HIGHEST + 1 if passed is None else passed
    failed = (quality for quality, (_, seen) in tried.items() if seen > most and quality < beyond)
    return passed, max(failed, default=None)


def _next(tried: Mapping[int, tuple[bytes, float]], most: float) -> int | None:
    """Where the loss should cross `most`: its logarithm is nearly straight in quality.

    None when a better quality is hardly worth another try.
    """
    passed, failed = _bracket(tried, most)
    logs = {quality: float(np.log(max(1e-6, seen) / most)) for quality, (_, seen) in tried.items()}
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
    if gap < 2 or len(tried[failed][0]) > WORTH * len(tried[passed][0]):
        return None
    share = float(np.clip(logs[failed] / (logs[failed] - logs[passed]), 0.2, 0.8))
    return failed + min(gap - 1, max(1, int(np.ceil(share * gap))))


def within(straight: Bytes, format_name: str, budget: int) -> Choice:
    """The best quality whose file is no larger than a number of bytes.

    straight: (H, W, 4) uint8. Where none is small enough, the smallest there is.
    """
    best: tuple[int, bytes] | None = None
    low, high, encodes = LOWEST, HIGHEST, 0
    smallest = (LOWEST, encode(straight, format_name, LOWEST))
    while low <= high and encodes < ENCODES - 1:
        quality = (low + high) // 2
        data = encode(straight, format_name, quality)
        encodes += 1
        if len(data) <= budget:
            best, low = (quality, data), quality + 1
        else:
            high = quality - 1
    quality, data = best or smallest
    seen = Reference(straight).loss(decoded(data))
    return Choice(data, format_name, {"quality": quality}, seen, encodes + 1)


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
