"""A text in both versions -> whether its words, its type or its colour are others now."""

from __future__ import annotations

from collections.abc import Iterator
from difflib import SequenceMatcher
from typing import TypeAlias

import numpy as np
import numpy.typing as npt
from scipy import ndimage

from riffler.changes.change import Aspect, ChangeKind
from riffler.changes.version import Both
from riffler.color import Pixels, from_bytes
from riffler.errors import RifflerError
from riffler.markup.setting import letters_of
from riffler.mockup.model import LayerText
from riffler.tokens.palette import steps_apart
from riffler.typeset import tesseract as reader
from riffler.typeset.ink import Ink, ink_of, lines_of
from riffler.typeset.layers import as_words, seen_in

Found: TypeAlias = tuple[ChangeKind, tuple[Aspect, ...]]

#: How much ink two drawings of one text may differ in, as a share, and how far they may be off
#: after a blur, as a share of their ink.
INK, SAME = 0.07, 0.11

#: Levels of 255 by which the colour of thin letters may be off.
FLAT = 3

#: How alike the letters are that are read of one text set in two ways, 0..1.
READ_ALIKE = 0.82

#: How far the ends of a text move at the most when it is set otherwise, in its heights: letters
#: have room on either side, and stems and tails are not in every word.
ENDS, STEMS = 0.12, 0.32

#: What weights and the like are called, with what it says of each.
_TYPE = ("size", "weight", "family", "style", "spacing", "line step", "align", "lines")


def differences(both: Both) -> Iterator[Found]:
    """What changed of it, words first."""
    was, now = both.old.words(both.one), both.new.words(both.other)
    if was is not None and now is not None:
        yield from said(was, now)
    elif was is None and now is None:
        yield from _drawn(both)
    else:
        yield ChangeKind.REDRAWN, ()


def said(was: LayerText, now: LayerText) -> Iterator[Found]:
    """Differences between two texts as their documents say them, painted or not."""
    before, after = (" ".join(words.text.split()) for words in (was, now))
    if before != after:
        yield ChangeKind.WORDS, (Aspect("text", was.text, now.text),)
    aspects = list(_type(was, now))
    if before == after and len(was.lines) != len(now.lines):
        aspects.append(Aspect("lines", str(len(was.lines)), str(len(now.lines))))
    elif before == after and was.lines != now.lines:
        aspects.append(Aspect("lines", " / ".join(was.lines), " / ".join(now.lines)))
    if aspects:
        yield ChangeKind.TYPE, tuple(aspects)
    if was.color != now.color:
        yield ChangeKind.RECOLOURED, (Aspect("text", was.color, now.color),)


def _type(was: LayerText, now: LayerText) -> Iterator[Aspect]:
    """How the type differs; lengths are CSS pixels."""
    values = zip(_TYPE, _values(was), _values(now), strict=False)
    yield from (Aspect(what, before, after) for what, before, after in values if before != after)


def _values(words: LayerText) -> tuple[str, ...]:
    return (
        f"{words.size:.4g}px",
        str(words.weight),
        words.families[0] if words.families else "",
        words.style,
        f"{words.letter_spacing:.3g}px",
        f"{words.line_step:.4g}px" if words.line_step else "",
        words.anchor,
    )


def moved(both: Both) -> tuple[float, float, float, float]:
    """How far a text moved that is set otherwise, CSS pixels; its size is what its letters need.

    It moved across when both its ends and its middle did, by the one that moved least.
    """
    was, now, height = both.was, both.now, min(both.was.height, both.now.height)
    pens = both.old.pen(both.one), both.new.pen(both.other)
    across = [now.x - was.x, now.right - was.right, (now.x + now.right - was.x - was.right) / 2]
    down = [now.y - was.y, now.bottom - was.bottom]
    if pens[0] is not None and pens[1] is not None:
        across.append(pens[1].x - pens[0].x)
        down = [pens[1].y - pens[0].y]
        room = 0.05
    else:
        room = STEMS * height
    x, y = (min(by, key=abs) for by in (across, down))
    least = max(0.3, ENDS * height if pens[0] is None else 0.3)
    return (round(x, 2) if abs(x) > least else 0.0, round(y, 2) if abs(y) > room else 0.0, 0.0, 0.0)


def _drawn(both: Both) -> Iterator[Found]:
    """Texts in pixels: by their ink, and by what is read of them where that is another."""
    arts = both.old.art(both.one), both.new.art(both.other)
    if arts[0] is None or arts[1] is None:
        return
    before, after = (from_bytes(art.pixels) for art in arts if art)
    inks = ink_of(before), ink_of(after)
    if inks[0] is None or inks[1] is None:
        yield ChangeKind.REDRAWN, ()
        return
    if both.old.density != both.new.density or not is_same(inks[0], inks[1]):
        yield from _read(both, before, after)
    if steps_apart(inks[0].color, inks[1].color) > FLAT:
        yield ChangeKind.RECOLOURED, (Aspect("text", inks[0].color, inks[1].color),)


def is_same(first: Ink, second: Ink) -> bool:
    """Whether two drawings show one text, set in one way, moved by parts of a pixel at most."""
    sums = float(first.cover.sum()), float(second.cover.sum())
    if abs(sums[0] - sums[1]) > INK * max(sums):
        return False
    sides = zip(first.cover.shape, second.cover.shape, strict=True)
    if any(abs(mine - its) > 2 for mine, its in sides):
        return False
    return _unlike(first, second) < SAME


def _unlike(first: Ink, second: Ink) -> float:
    """How far two drawings of nearly one size are off, 0..1, as a share of their ink."""
    sides = zip(first.cover.shape, second.cover.shape, strict=True)
    shape = [max(mine, its) + 4 for mine, its in sides]
    planes: list[npt.NDArray[np.float64]] = []
    for ink in (first, second):
        plane = np.zeros(shape)
        plane[2 : 2 + ink.cover.shape[0], 2 : 2 + ink.cover.shape[1]] = ink.cover
        planes.append(ndimage.gaussian_filter(plane, 1.0))
    middles = [ndimage.center_of_mass(plane) for plane in planes]
    by = [there - here for here, there in zip(*middles, strict=True)]
    planes[0] = ndimage.shift(planes[0], by, order=1)
    return float(np.abs(planes[0] - planes[1]).sum() / (planes[0].sum() + planes[1].sum()))


def _read(both: Both, before: Pixels, after: Pixels) -> Iterator[Found]:
    """Other words, or the same in another type."""
    both.new.readings -= 1
    may_read = both.new.readings >= 0
    texts = [_lines(pixels, both.new.language) if may_read else None for pixels in (before, after)]
    if texts[0] is None or texts[1] is None:
        yield (ChangeKind.TYPE if _is_one_rhythm(before, after) else ChangeKind.WORDS), ()
        return
    letters = [letters_of(" ".join(lines)) for lines in texts if lines is not None]
    alike = SequenceMatcher(None, letters[0], letters[1], autojunk=False).ratio()
    if alike < 1 and not (alike > READ_ALIKE and _is_one_rhythm(before, after)):
        yield ChangeKind.WORDS, (Aspect("text", "\n".join(texts[0]), "\n".join(texts[1])),)
        return
    yield ChangeKind.TYPE, tuple(_set_otherwise(both, before, after, texts[0]))


def _lines(pixels: Pixels, language: str) -> tuple[str, ...] | None:
    """What is read of a text; None where nothing reads here."""
    try:
        reading = reader.read(pixels, language)
    except RifflerError:
        return None
    return reading.lines if reading else None


def _set_otherwise(
    both: Both, before: Pixels, after: Pixels, lines: tuple[str, ...]
) -> Iterator[Aspect]:
    """How its type differs, as far as the fonts at hand tell."""
    texts = []
    for version, pixels in ((both.old, before), (both.new, after)):
        words = as_words(seen_in(pixels, lines, version.opened.fonts), version.density)
        if words is None:
            return
        texts.append(version.on_page(words))
    yield from _type(texts[0], texts[1])


def _is_one_rhythm(before: Pixels, after: Pixels) -> bool:
    """Whether the ink of both is spread alike along their lines, however heavy and wide it is."""
    marks = []
    for pixels in (before, after):
        ink = ink_of(pixels)
        lines = lines_of(ink) if ink else []
        if not lines:
            return False
        whole = np.concatenate([line.across for line in lines]).astype(np.float64)
        steps = np.interp(np.linspace(0, len(whole) - 1, 400), np.arange(len(whole)), whole)
        marks.append((len(lines), ndimage.gaussian_filter1d(steps, 1.5)))
    (count, first), (other_count, second) = marks
    return count == other_count and float(np.corrcoef(first, second)[0, 1]) > 0.8
