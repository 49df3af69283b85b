"""Lines of ink -> what is to be known of their type where no font is: heights, strokes, class."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field
from typing import Literal, TypeAlias

import numpy as np
import numpy.typing as npt

from riffler.analyse.raster import parts_of
from riffler.typeset.ink import InkLine

Manner: TypeAlias = Literal["serif", "sans", "mono", "script"]

#: Serifs: runs of ink so many times as long as a stem is thick, in one of the rows at the foot of
#: letters (a share of the height of small ones), and the share of all runs there that are so.
LONGER, FOOT, WITH_SERIFS = (1.4, 4.5), 0.14, 0.72

#: Letters that hang together, as a share of all, from which it is a script.
JOINED = 0.5

#: How far the middles of letters may be off equal steps, as a share of the step.
EVEN = 0.09


@dataclass(frozen=True)
class TextShape:
    """Lengths are pixels; `capital` is None where there are no higher letters than small ones."""

    small: float
    capital: float | None
    stroke: float
    manner: Manner


@dataclass
class _Measured:
    """What is counted over all lines: heights, runs of ink, middles of letters."""

    heights: list[float] = field(default_factory=list)
    stems: list[float] = field(default_factory=list)
    feet: dict[int, list[float]] = field(default_factory=dict)
    middles: list[npt.NDArray[np.float64]] = field(default_factory=list)
    parts: int = 0


def shape_of(lines: Sequence[InkLine], words: Sequence[str]) -> TextShape | None:
    """What is measured of the letters; None where nothing stands on a line."""
    measured = _Measured()
    for line in lines:
        _count(line, measured)
    if not measured.heights or not measured.stems:
        return None
    small, stem = float(np.quantile(measured.heights, 0.3)), float(np.median(measured.stems))
    higher = [height for height in measured.heights if height > 1.18 * small]
    letters = sum(len(line.replace(" ", "")) for line in words)
    capital = float(np.median(higher)) if higher else None
    return TextShape(small, capital, stem, _manner(measured, stem, letters))


def _count(line: InkLine, measured: _Measured) -> None:
    solid = line.cover > 0.5
    parts = parts_of(solid)
    boxes = parts.boxes[parts.sizes >= 3]
    if not len(boxes):
        return
    tall = boxes[:, 1] - boxes[:, 0]
    letters = boxes[tall >= 0.35 * tall.max()]
    base = float(np.median(letters[:, 1]))
    on_base = letters[np.abs(letters[:, 1] - base) <= max(1.0, 0.06 * float(tall.max()))]
    heights = (on_base[:, 1] - on_base[:, 0]).astype(float)
    high = float(np.median(heights))
    for share in (0.4, 0.5, 0.6):
        measured.stems += _runs(solid, base - share * high)
    for row in range(1, max(2, int(FOOT * high) + 1)):
        measured.feet.setdefault(row, []).extend(_runs(solid, base - row))
    measured.parts += len(letters)
    measured.heights += heights.tolist()
    measured.middles.append(np.sort((letters[:, 2] + letters[:, 3]) / 2.0))


def _manner(measured: _Measured, stem: float, letters: int) -> Manner:
    if letters and measured.parts < JOINED * letters:
        return "script"
    if _is_even(measured.middles):
        return "mono"
    longer = max(_longer(runs, stem) for runs in measured.feet.values())
    return "serif" if longer > WITH_SERIFS else "sans"


def _runs(solid: npt.NDArray[np.bool_], at: float) -> list[float]:
    """How long the runs of ink are in a row."""
    row = solid[min(max(0, int(at)), len(solid) - 1)].astype(np.int8)
    ends = np.flatnonzero(np.diff(np.concatenate(([0], row, [0]))))
    lengths: list[float] = (ends[1::2] - ends[::2]).astype(float).tolist()
    return lengths


def _longer(runs: Sequence[float], stem: float) -> float:
    """The share of runs that are longer than a stem, as those of serifs are."""
    if not runs:
        return 0.0
    times = np.array(runs) / stem
    return float(((times > LONGER[0]) & (times < LONGER[1])).mean())


def _is_even(lines: Sequence[npt.NDArray[np.float64]]) -> bool:
    """Whether letters stand at equal steps, as those of a typewriter."""
    steps = np.concatenate([np.zeros(0), *(np.diff(middles) for middles in lines)])
    if len(steps) < 6:
        return False
    step = float(np.quantile(steps, 0.3))
    if step <= 2:
        return False
    off = np.abs(steps / step - np.round(steps / step))
    return bool(np.quantile(off, 0.85) < EVEN * 1.5 and np.median(off) < EVEN)
