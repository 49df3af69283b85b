"""How a text is set: its lines, where their pens begin and baselines lie, and how its type is."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from typing import Literal, TypeAlias

from riffler.geometry import Rect
from riffler.mockup.model import TextRun

Align: TypeAlias = Literal["left", "center", "right"]

#: The line height of a single line, in font sizes, by the least size in CSS pixels.
STEPS = ((28, 1.2), (20, 1.3), (0, 1.5))


@dataclass(frozen=True)
class Type:
    """How letters are set; `size` and `spacing` in CSS pixels. `family` is empty when not known."""

    family: str
    generic: str
    size: float
    weight: int
    is_italic: bool
    spacing: float
    color: str


@dataclass(frozen=True)
class SetLine:
    """A line: its words, where its pen begins, how far it goes, in CSS pixels."""

    text: str
    x: float
    width: float


def letters_of(text: str) -> str:
    """A text by its letters alone: without spaces, in one case."""
    return "".join(text.split()).casefold()


@dataclass(frozen=True)
class Setting:
    """A text as it is set. `baseline` is that of its first line; `step` leads to the next.

    `is_step_known` says that the step was seen between two lines. `ascent` and `descent` are what
    browsers make of the face, whole pixels. `next_words` is how far each line would go with the
    first word of the next. `is_said` tells words that somebody said from a layer's name, of which
    `seen_lines` were seen. `runs` are letters that are set otherwise. `columns` are the
    parts of a single line that wide gaps set apart, where they do.
    """

    lines: tuple[SetLine, ...]
    type: Type
    align: Align
    baseline: float
    step: float
    is_step_known: bool
    ascent: int
    descent: int
    next_words: float = math.inf
    is_said: bool = True
    seen_lines: int = 0
    runs: tuple[TextRun, ...] = ()
    columns: tuple[SetLine, ...] = ()

    @property
    def apart(self) -> tuple[Setting, ...]:
        """Each of its columns as a text by itself."""
        return tuple(replace(self, lines=(column,), columns=(), runs=()) for column in self.columns)

    @property
    def rows(self) -> int:
        """How many lines it takes: those that are said, or seen where nothing is."""
        return max(len(self.lines), self.seen_lines)

    @property
    def text(self) -> str:
        """All that it says, in one line."""
        return " ".join(line.text for line in self.lines)

    @property
    def width(self) -> float:
        """How far the widest line goes."""
        return max(line.width for line in self.lines)

    @property
    def box(self) -> Rect:
        """Its line boxes, one upon the other, in CSS pixels."""
        rise = math.floor((self.step - self.ascent - self.descent) / 2) + self.ascent
        left = min(line.x for line in self.lines)
        return Rect(left, self.baseline - rise, self.width, self.step * self.rows)

    def stepped(self, step: float) -> Setting:
        """The setting with another line height."""
        return replace(self, step=step)


def usual_step(size: float) -> float:
    """The line height of a single line of text of a size."""
    share = next(share for least, share in STEPS if size >= least)
    return whole(share * size)


def whole(step: float) -> float:
    """A line height as people write it: whole pixels."""
    return float(round(step))


def widest(needed: float, too_wide: float) -> float:
    """How wide a text may become that needs so much and goes on otherwise from so much on."""
    middle = (needed + min(too_wide, needed + 40)) / 2
    return round(middle) if too_wide - needed > 2 else round(middle, 1)
