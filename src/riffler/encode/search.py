"""A picture, a codec and a visible loss -> the lowest quality that stays under it.

Codecs are not monotone in quality, so of all that were tried the smallest file that passes is
taken, not the last one.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field, replace

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

#: Steps of quality by which a file is made better when a search ended without one that passes.
STRIDE = 4

#: Pieces are to lose a little less than would do, so that the whole passes at the first look.
SAFELY = 0.96

#: Pixels beyond which a search looks at pieces; the file it settles on is looked at whole.
PIECES_FROM, PIECE, PIECES = 180_000, 128, 14


def search(straight: Bytes, format_name: str, level: str) -> Choice:
    """Bracket the lowest quality whose loss stays under that of a level.

    straight: (H, W, 4) uint8. A large picture is looked at in pieces; when the whole of it turns
    out to lose more, the pieces have to lose less.
    """
    most, begin = LEVELS[level], BEGIN[level][format_name]
    pieces = _pieces(straight)
    reference = Reference(pieces(straight))
    whole = reference if pieces is _whole else Reference(straight)
    coder = _coder(straight, format_name, begin, reference, pieces)
    tried: dict[int, tuple[bytes, float]] = dict(coder.tried)
    wanted, quality = most, begin
    if whole is not reference:
        first, seen = tried[begin]
        wanted = SAFELY * most * seen / max(1e-6, whole.loss(decoded(first)))
    encodes = coder.encodes
    while True:
        quality = _next(tried, wanted)
        if quality in tried or encodes >= ENCODES - 1:
            passing = _smallest_passing(tried, wanted)
            if passing is None:
                break
            seen = tried[passing][1] if whole is reference else whole.loss(
                decoded(tried[passing][0])
            )  # fmt: skip
            if seen <= most:
                file = (tried[passing][0], passing, seen)
                return _finished(straight, coder, file, encodes, whole, most)
            if encodes >= ENCODES - 1:
                break
            wanted = SAFELY * tried[passing][1] * most / seen
            continue
        encodes += 1
        data = coder.encode(straight, quality)
        tried[quality] = (data, reference.loss(pieces(decoded(data))))
    quality = max(_next(tried, wanted), max(tried) if passing is None else passing)
    while True:
        quality = min(HIGHEST, quality + STRIDE if quality in tried else quality)
        data = coder.encode(straight, quality)
        seen, encodes = whole.loss(decoded(data)), encodes + 1
        if seen <= most or quality == HIGHEST:
            setting: dict[str, int | float | str] = {"quality": quality, **coder.setting}
            return Choice(data, format_name, setting, seen, encodes)
        tried[quality] = (data, seen)


@dataclass(frozen=True)
class _Coder:
    """A codec with what was settled for the picture, and the encodes that took."""

    format: str
    setting: Mapping[str, str] = field(default_factory=dict)
    tried: Mapping[int, tuple[bytes, float]] = field(default_factory=dict)
    encodes: int = 1

    def encode(self, straight: Bytes, quality: int) -> bytes:
        """A file, quickly."""
        if self.format == "jpeg":
            return jpeg.encode(straight, quality, **self.setting)
        if self.format == "webp":
            return modern.webp(straight, quality, modern.QUICK)
        return encode(straight, self.format, quality)


def _coder(
    straight: Bytes,
    format_name: str,
    begin: int,
    reference: Reference,
    pieces: Callable[[Bytes], Bytes],
) -> _Coder:
    """The first look at a picture: which tables a JPEG takes, and where the quality lies."""
    if format_name != "jpeg":
        coder = _Coder(format_name)
        data = coder.encode(straight, begin)
        return replace(coder, tried={begin: (data, reference.loss(pieces(decoded(data))))})
    looks: dict[tuple[str, str], tuple[bytes, float]] = {}

    def look(tables: str, hues: str) -> None:
        data = jpeg.encode(straight, begin, tables, hues)
        looks[tables, hues] = (data, reference.loss(pieces(decoded(data))))

    def best() -> tuple[str, str]:
        return min(looks, key=lambda key: _worth(*looks[key]))

    for tables in jpeg.MIXES:
        look(tables, "half")
    if jpeg.has_fine_hues(straight):
        look(best()[0], "full")
    tables, hues = best()
    return _Coder("jpeg", {"tables": tables, "hues": hues}, {begin: looks[best()]}, len(looks))


def _worth(data: bytes, seen: float) -> float:
    """The logarithm of how large a file would be at a loss of one."""
    return float(np.log(len(data)) + LOSS_IN_BYTES * np.log(max(seen, 1e-6)))


def _finished(
    straight: Bytes,
    coder: _Coder,
    file: tuple[bytes, int, float],
    encodes: int,
    whole: Reference,
    most: float,
) -> Choice:
    """The file that a search settled on, encoded with all effort where that is smaller."""
    data, quality, seen = file
    setting: dict[str, int | float | str] = {"quality": quality, **coder.setting}
    if coder.format == "webp":
        closer = modern.webp(straight, quality)
        its = whole.loss(decoded(closer))
        if its <= most and len(closer) < len(data):
            data, seen = closer, its
    return Choice(data, coder.format, setting, seen, encodes + (coder.format == "webp"))


def _smallest_passing(tried: Mapping[int, tuple[bytes, float]], most: float) -> int | None:
    passing = [(len(data), quality) for quality, (data, seen) in tried.items() if seen <= most]
    return min(passing)[1] if passing else None


def _next(tried: Mapping[int, tuple[bytes, float]], most: float) -> int:
    """Where the loss should cross `most`: its logarithm is nearly straight in quality.

    A quality that was tried already means that there is no better one to try.
    """
    passed = min((q for q, (_, seen) in tried.items() if seen <= most), default=HIGHEST + 1)
    failed = max(
        (q for q, (_, seen) in tried.items() if seen > most and q < passed), default=LOWEST - 1
    )
    if failed + 1 >= passed:
        return passed if passed in tried else failed
    known = sorted((quality, np.log(max(1e-6, seen))) for quality, (_, seen) in tried.items())
    near = sorted(known, key=lambda one: abs(one[1] - np.log(most)))[:2]
    quality, value = near[0]
    slope = USUAL_SLOPE
    if len(near) == 2:
        slope = min(-0.01, (value - near[1][1]) / (quality - near[1][0]))
    wanted = quality + (np.log(most) - value) / slope
    return int(np.clip(np.ceil(wanted), max(LOWEST, failed + 1), min(HIGHEST, passed - 1)))


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


def _whole(straight: Bytes) -> Bytes:
    return straight


def _pieces(straight: Bytes) -> Callable[[Bytes], Bytes]:
    """What a search looks at: all of a picture; of a large one pieces below one another.

    Half of them are those with most in them, the others lie evenly spread.
    """
    height, width = straight.shape[:2]
    if height * width <= PIECES_FROM or min(height, width) < PIECE:
        return _whole
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

    def cut(picture: Bytes) -> Bytes:
        return np.concatenate([picture[y : y + PIECE, x : x + PIECE] for y, x in kept])

    return cut
