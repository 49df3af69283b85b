"""What looks at a codec's qualities say of those between and beside them."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import TypeAlias

import numpy as np

from riffler.encode.codec import LossyCodec, Try

#: Qualities that are searched, and the one below which there is none, for budgets.
LOWEST, HIGHEST, POOREST = 10, 99, 1

#: A loss this near under the wanted one, as a logarithm, is near enough: a ninth.
NEAR = -0.12

#: A smaller file is worth another try when there may be one of less than this part.
WORTH = 0.98

#: Files that go on from those that lose too much are to lose so much less than is wanted: they
#: shall pass. Looks at pieces may lie on either side.
PAST = 0.95

#: Looks at pieces this far from one another, as a logarithm, tell what lies between them.
TELLS = 0.5

#: How much of the way is gone that may lead too far down; powers that are believed, of looks whose
#: efforts are so far apart.
CAREFULLY, POWERS, APART = 0.8, (0.5, 4.0), 0.15

#: How many times more a file may lose than its pieces for that to tell of other qualities: what it
#: loses beside pieces, in a joint for one, follows another line.
BELIEVED = (0.4, 2.5)

#: The least loss that is told from none.
LEAST = 1e-6

Tries: TypeAlias = Mapping[int, Try]
"""What was tried, by quality."""


@dataclass
class LossLine:
    """What looks at a codec's qualities say of those between and beside them.

    The logarithm of loss falls with that of how coarsely the codec quantises, the *effort*.
    """

    codec: LossyCodec
    looks: Tries
    of_pieces: bool = False

    @property
    def highest(self) -> int:
        """The best quality there is."""
        return HIGHEST // self.codec.traits.step * self.codec.traits.step

    def after(self, quality: int, file: Try) -> LossLine:
        """What they say after the file of a quality has shown how much more it loses."""
        worse = float(np.clip(max(LEAST, file.loss) / self._at(quality), *BELIEVED))
        looks = {value: Try(look.data, worse * look.loss) for value, look in self.looks.items()}
        return LossLine(self.codec, {**looks, quality: file}, self.of_pieces)

    def _at(self, quality: int) -> float:
        """What looks should lose at a quality."""
        qualities = sorted(self.looks)
        efforts, logs = [*map(effort_of, qualities)], [*map(self._log, qualities)]
        effort = effort_of(quality)
        beside = effort - float(np.clip(effort, efforts[0], efforts[-1]))
        return float(np.exp(np.interp(effort, efforts, logs) - self.codec.traits.falls * beside))

    def crossing(self, most: float) -> int:
        """The lowest quality whose loss should stay under `most`."""
        passed, failed = self._bracket(most)
        if passed is None:
            return self._away(most, 1.0)
        if failed is None:
            is_near = self._log(passed) - np.log(most) > NEAR
            return passed if is_near else self._away(most, CAREFULLY)
        above, below = self._log(failed), self._log(passed)
        share = (above - np.log(most)) / max(LEAST, above - below)
        step = self.codec.traits.step
        return min(passed, max(failed + step, self._between(failed, passed, float(share))))

    def next(self, most: float) -> int | None:
        """Where the loss should cross `most`; None when that is hardly worth another look."""
        passed, failed = self._bracket(most)
        step = self.codec.traits.step
        if passed is None:
            assert failed is not None
            if failed >= self.highest:
                return None
            return max(failed + step, self._away(most if self.of_pieces else PAST * most, 1.0))
        over = self._log(passed) - float(np.log(most))
        if over > NEAR:
            return None
        if failed is None:
            below = min(passed - step, self._away(most, CAREFULLY))
            return max(LOWEST, below) if passed > LOWEST else None
        under = self._log(failed) - float(np.log(most))
        smaller = len(self.looks[failed].data) <= WORTH * len(self.looks[passed].data)
        is_told = self.of_pieces and under - over < TELLS
        if passed - failed <= step or not smaller or is_told:
            return None
        between = self._between(failed, passed, float(np.clip(under / (under - over), 0.2, 0.85)))
        return int(np.clip(between, failed + step, passed - step))

    def _log(self, quality: int) -> float:
        return log_of(self.looks[quality])

    def _bracket(self, most: float) -> tuple[int | None, int | None]:
        """The lowest quality that passes, and the highest below it that fails."""
        passed = min(
            (value for value, look in self.looks.items() if look.loss <= most), default=None
        )
        beyond = HIGHEST + 1 if passed is None else passed
        failed = (
            value for value, look in self.looks.items() if look.loss > most and value < beyond
        )
        return passed, max(failed, default=None)

    def _away(self, most: float, part: float) -> int:
        """Where beside all looks the loss should be `most`; part of the way is gone."""
        qualities = sorted(self.looks, key=lambda value: abs(self._log(value) - np.log(most)))
        near = qualities[0]
        others = [
            quality for quality in qualities if abs(effort_of(quality) - effort_of(near)) >= APART
        ]
        falls = self.codec.traits.falls
        if others:
            across = effort_of(others[0]) - effort_of(near)
            rises = (self._log(near) - self._log(others[0])) / across
            falls = float(np.clip(rises, *POWERS))
        effort = effort_of(near) + part * (self._log(near) - float(np.log(most))) / falls
        return self._quality(effort)

    def _between(self, low: int, high: int, share: float) -> int:
        return self._quality((1 - share) * effort_of(low) + share * effort_of(high))

    def _quality(self, effort: float) -> int:
        step = self.codec.traits.step
        return int(np.clip(np.ceil((102 - np.exp(-effort)) / step) * step, LOWEST, self.highest))


def log_of(look: Try) -> float:
    """The logarithm of what it loses."""
    return float(np.log(max(LEAST, look.loss)))


def effort_of(quality: float) -> float:
    """What the logarithm of loss falls with: that of how coarsely a codec quantises."""
    return float(-np.log(102 - quality))
