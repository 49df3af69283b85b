"""A picture, a codec and a visible loss -> the lowest quality that stays under it.

Codecs are not monotone in quality, so of all that passed the smallest file is taken.

What was tried does not depend on what was tried before: a search asks for the same files in the
same order whether another format or level has made some of them already, so that `weigh` and `cut`
end with the same bytes.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass

import numpy as np

from riffler.color import Bytes
from riffler.encode.choice import ENCODES, LEVELS, Choice
from riffler.encode.codec import LossyCodec, Rung, Try, files_of, tried
from riffler.encode.encoding import decoded
from riffler.encode.hidden import filled
from riffler.encode.line import HIGHEST, POOREST, LossLine, Tries, effort_of, log_of
from riffler.encode.original import Original

#: The level for which a ladder settles what it has to choose besides.
USUAL = "fair"

#: Qualities that a ladder of files is made at.
LADDER = (25, 45, 60, 72, 82, 90, 95)

#: A variant may lose so many times what the first one does where it is judged; no more than that
#: where it loses so many times what is wanted.
WORSE, NEARBY = 1.4, 2.0

#: How much smaller a file gets when more loss is allowed, both in logarithms.
LOSS_IN_BYTES = 0.85

#: The least loss of a first look, in parts of the wanted one, that says how much smaller a file may
#: become; and with which power it does: alpha, and drawings, give way less than photographs.
EASIEST, GIVES_WAY = 0.25, 0.6

#: Pieces are to lose a little less than the picture may, which loses up to a tenth more, or less;
#: and still less where a file has shown that it is one that loses more.
SAFELY, MORE_SAFELY = 0.95, 0.85

#: Times that a large picture itself is tried before its quality is raised step by step.
FILES = 2

#: A large file may lose so much less than it might, as a logarithm, before it is tried again.
CLOSE = -0.4

#: Steps of quality by which a file is made better when a search ended without one that passes;
#: twice as many the next time.
STRIDE = 4


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
        return self.codec.best(filled(straight), quality)

    def choose(
        self, original: Original, quality: int | str, budget: int | None = None
    ) -> Choice | None:
        """The smallest file for a quality or a level; or the best one within a budget."""
        if budget is not None:
            return within(original, self.codec, budget)
        if isinstance(quality, int):
            data = self.codec.best(original.filled, quality)
            return Choice(data, self.name, {"quality": quality})
        return search(original, self.codec, quality)

    def glance(self, original: Original) -> Try:
        """The first look at the pieces of a picture."""
        codec = self.codec.variants(original)[0]
        return tried(original.small, codec, codec.traits.begins, is_quick=True)

    def ladder(self, original: Original) -> Iterator[Rung]:
        """A whole ladder of qualities, of the variant that serves the picture best.

        Of a large picture pieces are tried; files of it that are there already say by how much it
        is larger, and loses more.
        """
        trial = _Trial(original, LEVELS[USUAL])
        codec, _ = next(_settled(trial, self.codec.variants(original), self.codec.traits.begins))
        tries = {quality: trial.look(codec, quality) for quality in LADDER}
        if not original.is_large:
            yield from (Rung(len(file.data), file.loss, file.data) for file in tries.values())
            return
        whole = files_of(original, codec) or {LADDER[-1]: trial.file(codec, LADDER[-1])}
        pieces = {quality: trial.look(codec, quality) for quality in whole}
        efforts = [effort_of(quality) for quality in sorted(whole)]
        pairs = [(whole[quality], pieces[quality]) for quality in sorted(whole)]
        larger = [np.log(len(file.data) / len(look.data)) for file, look in pairs]
        worse = [log_of(file) - log_of(look) for file, look in pairs]
        for quality, look in tries.items():
            size, loss = (np.interp(effort_of(quality), efforts, by) for by in (larger, worse))
            yield Rung(round(len(look.data) * np.exp(size)), look.loss * float(np.exp(loss)))


def likely(look: Try, most: float) -> float:
    """About how many bytes a file of a wanted loss has, after a first look at pieces."""
    return float(len(look.data) * max(EASIEST, look.loss / most) ** GIVES_WAY)


def search(original: Original, codec: LossyCodec, level: str) -> Choice | None:
    """Bracket the lowest quality whose loss stays under that of a level.

    Of a large picture pieces are looked at; then the file itself is made where their loss crosses
    the wanted one. None where the codec reaches the level at no quality.
    """
    trial = _Trial(original, LEVELS[level])
    if trial.most == 0:
        return None
    settled = list(_settled(trial, codec.variants(original), codec.traits.begins))
    for variant, looks in settled:
        if (result := _searched(trial, variant, looks)) is not None:
            passing = [(len(result[1].data), variant, *result)]
            if not (original.is_large or codec.traits.has_quick):  # then all looks are files
                passing += [
                    (len(file.data), other_variant, quality, file)
                    for other_variant, files in settled
                    for quality, file in files.items()
                    if file.loss <= trial.most
                ]
            _, taken, quality, choice = min(passing, key=lambda entry: entry[0])
            setting: dict[str, int | str] = {"quality": quality, **taken.setting}
            return Choice(choice.data, codec.name, setting, choice.loss, trial.encodes)
    return None


@dataclass
class _Trial:
    """A picture and the loss that is wanted, with a count of what was tried for it."""

    original: Original
    most: float
    encodes: int = 0

    def aim(self, codec: LossyCodec) -> float:
        """What looks may lose so that the file itself loses no more than is wanted."""
        is_sure = codec.traits.is_local or not self.original.is_large
        return self.most if is_sure else SAFELY * self.most

    @property
    def looks(self) -> int:
        """How many looks there may be at the most."""
        return ENCODES - (FILES if self.original.is_large else 1)

    def look(self, codec: LossyCodec, quality: int) -> Try:
        """A file of its pieces, or of all of it where it is small."""
        self.encodes += 1
        return tried(self.original.small, codec, quality, is_quick=True)

    def file(self, codec: LossyCodec, quality: int) -> Try:
        """The file itself."""
        if self.original.is_large or codec.traits.has_quick:
            self.encodes += 1
        return tried(self.original, codec, quality, is_quick=False)


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
        is_far = look.loss > first.loss * (WORSE if look.loss <= NEARBY * trial.most else 1.0)
        return is_far, _worth(look) - (variant.traits.lead if variant == variants[0] else 0.0)

    for variant in sorted(variants, key=rank):
        yield variant, looks[variant]


def _worth(look: Try) -> float:
    """The logarithm of how large a file would be at a loss of one."""
    return float(np.log(len(look.data)) + LOSS_IN_BYTES * log_of(look))


def _searched(trial: _Trial, codec: LossyCodec, looks: dict[int, Try]) -> tuple[int, Try] | None:
    """The lowest quality and its file; None where the highest one loses too much."""
    line = LossLine(codec, looks, of_pieces=trial.original.is_large)
    aim = trial.aim(codec)
    while trial.encodes < trial.looks and (quality := line.next(aim)) is not None:
        looks[quality] = trial.look(codec, quality)
    if _is_out_of_reach(trial, line):
        return None
    files = _files(trial, line)
    passing, quality, stride = _smallest_passing(files, trial.most), max(files), STRIDE
    while passing is None and quality < line.highest:
        quality, stride = min(line.highest, quality + stride), 2 * stride
        files[quality] = trial.file(codec, quality)
        passing = quality if files[quality].loss <= trial.most else None
    return None if passing is None else (passing, files[passing])


def _is_out_of_reach(trial: _Trial, line: LossLine) -> bool:
    """Whether even the highest quality loses too much: no large file is made to see that."""
    if any(look.loss <= trial.most for look in line.looks.values()):
        return False
    return trial.look(line.codec, line.highest).loss > trial.most


def _files(trial: _Trial, line: LossLine) -> dict[int, Try]:
    """The file itself, of a large picture where the loss of looks crosses the wanted one.

    How much more it loses than the looks says where to try again, twice at the most.
    """
    files: dict[int, Try] = {}
    quality = line.crossing(trial.aim(line.codec))
    if not trial.original.is_large:
        quality = _smallest_passing(line.looks, trial.most) or quality
        return {quality: trial.file(line.codec, quality)}
    while quality not in files and len(files) < FILES:
        files[quality] = trial.file(line.codec, quality)
        if CLOSE < log_of(files[quality]) - np.log(trial.most) <= 0:
            break
        line = line.after(quality, files[quality])
        quality = line.crossing(
            trial.most if line.codec.traits.is_local else MORE_SAFELY * trial.most
        )
    return files


def _smallest_passing(looks: Tries, most: float) -> int | None:
    passing = [(len(file.data), quality) for quality, file in looks.items() if file.loss <= most]
    return min(passing)[1] if passing else None


def within(original: Original, codec: LossyCodec, budget: int) -> Choice:
    """The best quality whose file is no larger than a number of bytes.

    Where none is small enough, the smallest there is.
    """
    straight = original.filled
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
