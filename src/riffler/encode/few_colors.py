"""A picture -> a PNG or GIF of as few colours as nobody misses, or lossless where that is best."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence

from riffler.color import Bytes
from riffler.encode import gif, png
from riffler.encode.choice import CLEAN, LEVELS, Choice, enough, preferred
from riffler.encode.codec import Rung, Try, rungs
from riffler.encode.original import Original, Reduced
from riffler.encode.palette import Palette, palette

#: A palette is taken for a PNG when it is at most this part of the lossless file.
WORTH = 0.9

#: What effort makes of a file that was quickly made, at the best.
EFFORT = 0.8

#: Colours that palettes are tried with.
PALETTES = (16, 32, 64, 128, 256)

#: Handing errors on may help where the loss is up to so many times too large.
HELPS = 1.6

#: Pieces of a picture may lose so much of what all of it may: it has more colours to share out.
PIECES_LOSE = 0.9


class Gif:
    """The GIF codec: all colours where they fit; or as few as nobody misses."""

    name = "gif"

    def encode(self, straight: Bytes, quality: int) -> bytes:  # noqa: ARG002 - it has none
        """As near as 256 colours come."""
        return self._most(Original(straight)).data

    def choose(
        self, original: Original, quality: int | str, budget: int | None = None
    ) -> Choice | None:
        """As few colours as pass a level; as many as there may be for a number.

        The original has alpha 0 or 255 alone.
        """
        if budget is not None:
            return _within(original, self.name, self._file, self._most(original), budget)
        if isinstance(quality, int):
            return self._most(original)
        most = LEVELS[quality]
        fewer = [
            self._choice(reduced) for reduced in (*few(original, most), *cleaner(original, most))
        ]
        exact = [self._most(original)] if len(original.counted.colors) <= gif.MOST else []
        return preferred(exact + fewer) if exact or fewer else None

    def _most(self, original: Original) -> Choice:
        """All colours, or as near as 256 of them come."""
        if len(original.counted.colors) <= gif.MOST:
            return Choice(self._file(palette(original.counted, gif.MOST)), self.name, {}, 0.0)
        looks = [original.reduced(gif.MOST, dither=dither) for dither in (False, True)]
        return self._choice(min(looks, key=lambda reduced: reduced.loss))

    def ladder(self, original: Original) -> Iterator[Rung]:
        """Files of ever more colours."""
        return _ladder(original, self._file)

    def _choice(self, reduced: Reduced) -> Choice:
        return Choice(self._file(reduced.palette), self.name, reduced.setting, reduced.loss)

    def _file(self, palette: Palette) -> bytes:
        return gif.encode(palette.colors, palette.indexes)


class Png:
    """The PNG codec: lossless, or a palette where that is smaller and nobody sees it."""

    name = "png"

    def encode(self, straight: Bytes, quality: int) -> bytes:  # noqa: ARG002 - it has none
        """Lossless."""
        return png.encode(straight)

    def choose(self, original: Original, quality: int | str, budget: int | None = None) -> Choice:
        """Lossless for a quality by number; a palette where a level allows one that is worth it."""
        if budget is not None:
            return _within(original, self.name, self._file, self._exact(original), budget)
        most = LEVELS[quality] if isinstance(quality, str) else 0.0
        if not self._is_worth_it(original, most):
            return self._exact(original)
        choices = [
            self._choice(reduced) for reduced in (*few(original, most), *cleaner(original, most))
        ]
        if choices and not original.is_large:
            quick = original.once("quick png", lambda: png.encode(original.straight, effort=0))
            if EFFORT * len(quick) > enough(min(len(choice.data) for choice in choices)):
                return preferred(choices)  # no effort makes the exact one as small
        return preferred([*choices, self._exact(original)])

    def ladder(self, original: Original) -> Iterator[Rung]:
        """Files of ever more colours, a little larger than they might be."""
        return _ladder(original, lambda palette: self._file(palette, effort=0))

    def _is_worth_it(self, original: Original, most: float) -> bool:
        """Whether few colours make a picture smaller than it is without loss; pieces say so."""
        small = original.small
        sizes = [len(self._file(reduced.palette, effort=0)) for reduced in few(small, most)]
        if not sizes:
            return False
        exact = small.once("quick png", lambda: png.encode(small.straight, effort=0))
        return min(sizes) <= WORTH * len(exact)

    def _choice(self, reduced: Reduced) -> Choice:
        return Choice(self._file(reduced.palette), self.name, reduced.setting, reduced.loss)

    def _exact(self, original: Original) -> Choice:
        data = original.once("png", lambda: png.encode(original.straight))
        return Choice(data, self.name, {}, 0.0)

    def _file(self, palette: Palette, effort: int = 1) -> bytes:
        return png.encode_palette(palette.colors, palette.indexes, effort)


def few(original: Original, most: float) -> list[Reduced]:
    """The smallest palettes whose loss stays under `most`: as they are, and with errors handed on.

    The pattern of errors takes bytes, so that fewer colours with it may be a larger file. There is
    none in a large picture, of which pieces say how many colours it takes at least.
    """
    if most == 0:
        return []
    if original.is_pieces:
        return _smallest(original, PIECES_LOSE * most, dither=False)
    if not original.is_large:
        plain = _smallest(original, most, dither=False)
        return [*plain, *_smallest(original, most, dither=True, below=plain)]
    least = few(original.small, most)
    counts = (count for count in PALETTES if least and count >= least[0].most)
    tries = (original.reduced(count, dither=False) for count in counts)
    return [reduced for reduced in tries if reduced.loss <= most][:1]


def cleaner(original: Original, most: float) -> list[Reduced]:
    """The smallest palettes that lose next to nothing, where others would do."""
    return few(original, CLEAN) if most > CLEAN else []


def _smallest(
    original: Original, most: float, *, dither: bool, below: Sequence[Reduced] = ()
) -> list[Reduced]:
    """The palette of the smallest count that passes, by halving; of fewer colours than others."""
    counts = [count for count in PALETTES if not below or count < below[0].most]
    low, high, best = 0, len(counts) - 1, list[Reduced]()
    while low <= high:
        middle = (low + high) // 2
        helps = not dither or original.reduced(counts[middle], dither=False).loss <= HELPS * most
        reduced = original.reduced(counts[middle], dither=dither) if helps else None
        if reduced is None or reduced.loss > most:
            low = middle + 1
        else:
            best, high = [reduced], middle - 1
    return best


def _ladder(original: Original, file: Callable[[Palette], bytes]) -> Iterator[Rung]:
    def made(picture: Original, number: int) -> Try:
        reduced = picture.reduced(PALETTES[number], dither=False)
        return Try(file(reduced.palette), reduced.loss)

    return rungs(original, made, len(PALETTES))


def _within(
    original: Original, name: str, file: Callable[[Palette], bytes], lossless: Choice, budget: int
) -> Choice:
    """The most colours whose file is no larger than a number of bytes, or the smallest file."""
    if len(lossless.data) <= budget:
        return lossless
    palettes, files = [], []
    for count in reversed(PALETTES):
        palettes.append(original.reduced(count, dither=False))
        files.append(file(palettes[-1].palette))
        if len(files[-1]) <= budget:
            break
    smallest = min(range(len(files)), key=lambda index: len(files[index]))
    if len(lossless.data) <= len(files[smallest]):
        return lossless
    reduced = palettes[smallest]
    return Choice(files[smallest], name, reduced.setting, reduced.loss, 1 + len(files))
