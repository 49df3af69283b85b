"""The checks of the survey: one module each, from what is surveyed to findings."""

from __future__ import annotations

from riffler.plan.check import Check
from riffler.plan.checks import (
    beside,
    clicks,
    heroes,
    joints,
    moved,
    names,
    neighbours,
    outside,
    paint,
    panels,
    sizes,
    tiles,
    twins,
    words,
)

#: Every check, in the order in which they look.
CHECKS: tuple[Check, ...] = (
    names.CHECK,
    moved.CHECK,
    outside.CHECK,
    beside.CHECK,
    neighbours.CHECK,
    paint.CHECK,
    panels.CHECK,
    tiles.CHECK,
    joints.CHECK,
    heroes.CHECK,
    words.CHECK,
    clicks.CHECK,
    twins.CHECK,
    sizes.CHECK,
)

#: Every kind of finding with what it means, in the order in which those of one line are told.
KINDS: dict[str, str] = {kind: means for check in CHECKS for kind, means in check.kinds.items()}
