"""What a drawing should become on the page, and what was seen that says so.

A draft judges drawings, not names: each drawing is looked at by itself, from an even sample of its
pixels, its corners and borders from crops at full size. Siblings are alike by what they are made of
and by equal steps; names only say what a thing is called and which state a hidden layer is for,
where they say anything. A group of nothing but unnamed shapes is one drawing.
"""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum
from typing import Literal

from riffler.analyse.lettering import Lettering
from riffler.analyse.style import Style


class Becomes(StrEnum):
    """What a drawing should become on the page."""

    PICTURE = "picture"
    TILE = "tile"
    WORDS = "words"
    CSS = "css"
    NOTHING = "nothing"


class Evidence(StrEnum):
    """What was seen of a drawing that decides what it becomes."""

    TEXT = "text"
    EMPTY = "empty"
    VEIL = "veil"
    """Paint so faint all over that nothing more can be told."""
    STYLE = "style"
    """A box that a style sheet draws."""
    PERIOD = "period"
    """A texture that repeats."""
    GRAIN = "grain"
    """A texture that is the same everywhere, without a step."""
    ODD_SHAPE = "odd shape"
    """One colour or gradient in a shape that no box has."""
    SHAPES = "shapes"
    """Several shapes that are one drawing."""
    RICH = "rich"
    """As many colours as a photo has."""
    GLOW = "glow"
    """Soft all over, or in several colours."""
    ART = "art"


class Certainty(StrEnum):
    """How sure something is."""

    SURE = "sure"
    LIKELY = "likely"
    GUESS = "a guess"


#: What pixels look like may be meant otherwise; what the file says is so.
_GUESSED = {Evidence.VEIL, Evidence.GLOW}


@dataclass(frozen=True)
class Judgement:
    """What a drawing should become, why, and what was measured. Lengths are mockup pixels.

    `style` is there for what CSS draws, `text` for words that are seen as pixels; `period` for a
    texture (right, down), and which way it does `repeat`. `is_flat` says of an odd shape that it
    has one colour; `shapes` counts those of a group. `is_rectangle` says that the edges are
    straight, so that something may lie one pixel beside them. `is_said` tells what the file itself
    says from what was seen.
    """

    becomes: Becomes
    evidence: Evidence
    style: Style | None = None
    period: tuple[int, int] | None = None
    repeat: Literal["x", "y", "both"] = "both"
    text: Lettering | None = None
    is_flat: bool = False
    shapes: int = 0
    is_rectangle: bool = False
    is_rich: bool = False
    is_said: bool = False

    @property
    def certainty(self) -> Certainty:
        """Sure of what the file says and of photographs; a guess where paint is faint."""
        if self.is_said or self.evidence in (Evidence.RICH, Evidence.EMPTY):
            return Certainty.SURE
        return Certainty.GUESS if self.evidence in _GUESSED else Certainty.LIKELY

    @property
    def is_round(self) -> bool:
        """Whether CSS draws it with round corners, or as an ellipse."""
        if self.style is None:
            return False
        return self.style.radii is None or any(self.style.radii.listed)
