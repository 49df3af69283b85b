"""SVG bytes -> a tidied SVG: the passes in their order, again until none changes anything.

A drawing is tidied in rounds until no pass changes its text, on coarser and coarser grounds given
up: first all numbers as short as the largest size in use allows, then with a digit more where it is
needed, then without folding transforms. The first that is drawn as its source is taken, and only if
a coarser one would not go on from there, so that tidying again changes nothing. Text with the
numbers it had is what remains when nothing else is alike.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass, replace

from riffler.mockup.svg import lengths
from riffler.project.limits import DEFAULT_LIMITS, Limits
from riffler.tidy import (
    ballast,
    definitions,
    fold,
    groups,
    hidden,
    ids,
    shapes,
    styles,
    values,
)
from riffler.tidy.drawing import Drawing, read
from riffler.tidy.precision import Precision
from riffler.tidy.writing import text_of

#: By how much a point may move, in pixels at the largest size: what eight bits of an edge tell.
TOLERANCE = 0.0205

#: The largest size in use when nothing is said, in times the drawing's own.
LARGEST = 4.0

#: From coarse to fine: digits more than the tolerance needs, how large a last digit is rounded
#: away, and the share of the tolerance by which curves may be bent.
FINENESS = (
    (0, 0, 1.0),
    (1, 3, 1.0),
    (1, 2, 1.0),
    (1, 0, 1.0),
    (1, 0, 0.1),
    (2, 0, 0.1),
    (3, 0, 0.01),
)

#: Rounds of all passes at the most; three do nearly always.
ROUNDS = 8


@dataclass(frozen=True)
class Tidying:
    """How far to go.

    `largest` is the width of the largest size in use, in CSS pixels times the density of the
    screen; None for four times the drawing's own. `tolerance` is how far a point may move there, in
    pixels. `fineness` is an index into `FINENESS`. The names of `Drawing` mean the same.
    `is_bound` leaves out what makes ids unlike those of other files; `rewrites` is False where
    every number stays as it is.
    """

    tolerance: float = TOLERANCE
    largest: float | None = None
    keeps_names: bool = False
    kept: str | None = None
    folds: bool = True
    rewrites: bool = True
    fineness: int = 0
    is_bound: bool = False


#: What holds when nothing is said.
USUAL = Tidying()


@dataclass(frozen=True)
class Tidied:
    """The text of a tidied drawing, and what was taken out of it because it runs or fetches."""

    text: str
    removed: tuple[str, ...] = ()


def tidy(
    data: bytes, what: str, tidying: Tidying = USUAL, limits: Limits = DEFAULT_LIMITS
) -> Tidied:
    """The smallest text that we know for a drawing. Raises MockupError as `drawing.read` does.

    Where a number is too large to be written anew, none is.
    """
    try:
        return _tidy(data, what, tidying, limits)
    except OverflowError:
        return _tidy(data, what, replace(tidying, rewrites=False), limits)


def _tidy(data: bytes, what: str, tidying: Tidying, limits: Limits) -> Tidied:
    drawing = read(data, what, limits)
    drawing.keeps_names, drawing.kept = tidying.keeps_names, tidying.kept
    drawing.folds = tidying.folds
    error, (more, slack, bend) = _error(drawing, tidying), FINENESS[tidying.fineness]
    precision = Precision(drawing, error, bend * error, more, slack)
    ballast.take_out(drawing)
    styles.to_attributes(drawing)
    text = before = ""
    for _ in range(ROUNDS):
        for step in PASSES if tidying.rewrites else STILL:
            step(drawing, replace(precision))
        text = text_of(drawing)
        if text == before:
            break
        before = text
    ids.shorten(drawing, are_alone=tidying.is_bound)
    return Tidied(text_of(drawing), drawing.removed)


def _of_tree(step: Callable[[Drawing], None]) -> Pass:
    """A pass that rounds nothing."""
    return lambda drawing, _: step(drawing)


Pass = Callable[[Drawing, Precision], None]

#: What is done in every round: what goes, then what is written anew, then what is said once.
BEFORE = tuple(
    map(_of_tree, (hidden.drop_hidden, definitions.settle, styles.drop_idle, groups.unwrap))
)
AFTER = tuple(map(_of_tree, (groups.lift, ballast.take_out)))
PASSES: tuple[Pass, ...] = (*BEFORE, fold.fold, shapes.settle, values.shorten, *AFTER)

#: The same without all that changes a number.
STILL = (*BEFORE, *AFTER)


def _error(drawing: Drawing, tidying: Tidying) -> float:
    """By how much a point may move, in user units of the root."""
    box = lengths.view_box(drawing.root.get("viewBox"))
    width = lengths.length(drawing.root.get("width"))
    across = box[2] if box else width or 300.0
    side = width or across
    largest = tidying.largest or LARGEST * side
    return tidying.tolerance * across / largest if largest else math.inf
