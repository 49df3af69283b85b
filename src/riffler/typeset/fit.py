"""Lines of ink and what they say -> the size, spacing and places at which a face lies best on them.

Sums of ink by columns and rows are fitted first, all lines together: they are quickly made for any
size. What then counts is how well the drawn letters cover the ink.

Type is found by setting the words anew: HarfBuzz sets a line as browsers do, glyphs are drawn once,
large, and their sums by columns and rows, which are quickly made for any size, are fitted to those
of the ink. Rows count little, since browsers fit the heights of letters to whole pixels; what a
size and a spacing do together is told by the width of the line, so that the two hardly depend on
one another.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from riffler.typeset.glyphs import EM, Plane, Setting, Typeface
from riffler.typeset.ink import InkLine
from riffler.typeset.laid import cover, sums
from riffler.typeset.squares import Numbers, least_squares

#: Lines that are fitted; the others follow.
LINES = 2

#: What rows count beside columns: browsers fit the heights of letters to whole pixels.
ROWS = 0.1

#: A spacing below this, in pixels, is none when that lies as well.
NO_SPACING = 0.12

#: What is so near a whole size may be that, in pixels.
NEARLY = 0.15

#: How much worse the fit without spacing may be, as a share.
AS_WELL = 1.04


@dataclass(frozen=True)
class TypeFit:
    """A face on lines of ink; lengths are pixels.

    `xs` and `ys` are where the pen begins and the baseline of each line. `score` is the share of
    ink and letters that lie on one another, 1 for all; `dark` how much ink there is for theirs.
    """

    typeface: Typeface
    size: float
    spacing: float
    xs: tuple[float, ...]
    ys: tuple[float, ...]
    score: float
    loss: float
    dark: float


def rough(typeface: Typeface, lines: Sequence[InkLine], words: Sequence[str]) -> TypeFit | None:
    """A first guess from the edges of the ink alone; None for a face without the letters."""
    settings = _settings(typeface, words, is_spaced=False)
    if settings is None:
        return None
    size, spacing = _by_edges(lines, settings)
    if not 1 < size < 1000:
        return None
    return _measured(typeface, lines, settings, _start(lines, settings, size, spacing))


def fitted(first: TypeFit, lines: Sequence[InkLine], words: Sequence[str]) -> TypeFit:
    """A closer fit of a face, with any spacing, begun from a first guess."""
    return _closer(first, lines, words, is_spaced=True)


def settled(spaced: TypeFit, lines: Sequence[InkLine], words: Sequence[str]) -> TypeFit:
    """The fit without spacing where that lies as well; every line at its own place, and scored."""
    tight = _closer(spaced, lines, words, is_spaced=False)
    is_tight = tight.loss <= spaced.loss * AS_WELL or abs(spaced.spacing) < NO_SPACING
    best = tight if is_tight else spaced
    settings = _settings(best.typeface, words, is_spaced=not is_tight)
    if settings is None:
        return best
    fits = [
        _placed(best.typeface, lines, settings, _start(lines, settings, size, best.spacing))
        for size in _meant(best.size, is_tight=is_tight)
    ]
    return max(fits, key=lambda fit: fit.score)


def _meant(size: float, *, is_tight: bool) -> tuple[float, ...]:
    """A size, and the whole one that was meant: a word in another weight makes a line wider."""
    whole = float(round(size))
    return (size, whole) if is_tight and 0.01 < abs(size - whole) <= NEARLY else (size,)


def _closer(
    first: TypeFit, lines: Sequence[InkLine], words: Sequence[str], *, is_spaced: bool
) -> TypeFit:
    """Least squares on the longest lines."""
    order = sorted(range(len(lines)), key=lambda n: lines[n].left - lines[n].right)
    kept = sorted(order[:LINES])
    some = [lines[n] for n in kept]
    settings = _settings(first.typeface, [words[n] for n in kept], is_spaced=is_spaced)
    if settings is None:
        return first
    can_space = any(setting.counts[-1] > setting.counts[0] for setting in settings)
    is_spaced = is_spaced and can_space
    size, spacing = first.size, first.spacing
    if not is_spaced:
        size, spacing = _by_width(some, settings), 0.0
    start = _start(some, settings, size, spacing)
    return _refined(first.typeface, some, settings, start, is_spaced=is_spaced)


def _settings(typeface: Typeface, words: Sequence[str], *, is_spaced: bool) -> list[Setting] | None:
    result = [typeface.set(line, is_spaced=is_spaced) for line in words]
    settings = [setting for setting in result if setting is not None]
    return settings if len(settings) == len(result) else None


def _by_width(lines: Sequence[InkLine], settings: Sequence[Setting]) -> float:
    """The size at which the lines are as wide, without spacing."""
    theirs = sum(line.right - line.left for line in lines)
    return theirs / sum(setting.edges[2] - setting.edges[0] for setting in settings)


def _by_edges(lines: Sequence[InkLine], settings: Sequence[Setting]) -> tuple[float, float]:
    """Size and spacing by least squares over the heights and widths of the ink."""
    rows, values = [], []
    for line, setting in zip(lines, settings, strict=True):
        left, top, right, bottom = setting.edges
        rows += [(bottom - top, 0.0), (right - left, float(setting.counts[-1] - setting.counts[0]))]
        values += [line.bottom - line.top, line.right - line.left]
    weights = np.array([4.0, 1.0] * len(lines))
    a, b = np.array(rows) * weights[:, None], np.array(values) * weights
    if np.abs(a[:, 1]).max() == 0:
        return float(a[:, 0] @ b / (a[:, 0] @ a[:, 0])), 0.0
    size, spacing = np.linalg.lstsq(a, b, rcond=None)[0]
    return float(size), float(spacing)


@dataclass(frozen=True)
class _Guess:
    size: float
    spacing: float
    xs: Numbers
    ys: Numbers


def _start(
    lines: Sequence[InkLine], settings: Sequence[Setting], size: float, spacing: float
) -> _Guess:
    """Pens and baselines by the left edges and the tops and bottoms of the ink."""
    xs = [
        line.left - size * setting.edges[0] - spacing * setting.counts[0]
        for line, setting in zip(lines, settings, strict=True)
    ]
    ys = [
        (line.top + line.bottom - size * (setting.edges[1] + setting.edges[3])) / 2
        for line, setting in zip(lines, settings, strict=True)
    ]
    return _Guess(size, spacing, np.array(xs), np.array(ys))


def _refined(
    typeface: Typeface,
    lines: Sequence[InkLine],
    settings: Sequence[Setting],
    guess: _Guess,
    *,
    is_spaced: bool,
) -> TypeFit:
    """Least squares over the sums of ink by columns and rows."""
    count = len(lines)
    free = 2 if is_spaced else 1
    widest = max(settings, key=lambda setting: setting.edges[2] - setting.edges[0])
    wide, letters = widest.edges[2] - widest.edges[0], widest.counts[-1] - widest.counts[0]
    begins = np.array([setting.edges[0] for setting in settings])
    firsts = np.array([setting.counts[0] for setting in settings])

    def unpacked(values: Numbers) -> _Guess:
        """From size, width of the widest line, left edges: these hardly depend on one another."""
        size = float(values[0])
        spacing = float((values[1] - size * wide) / letters) if is_spaced else 0.0
        xs = values[free : free + count] - size * begins - spacing * firsts
        return _Guess(size, spacing, xs, values[free + count :])

    def residuals(values: Numbers) -> Numbers:
        return _off(lines, settings, unpacked(values))

    head = [guess.size, guess.size * wide + guess.spacing * letters][:free]
    edges = guess.xs + guess.size * begins + guess.spacing * firsts
    start = np.array([*head, *edges, *guess.ys])
    steps = np.array([2e-3 * guess.size, 0.1][:free] + [0.05] * (2 * count))
    best = unpacked(least_squares(residuals, start, steps))
    if not 0.5 * guess.size < best.size < 2 * guess.size:
        best = guess
    return _measured(typeface, lines, settings, best)


def _off(lines: Sequence[InkLine], settings: Sequence[Setting], guess: _Guess) -> Numbers:
    """What is left of the sums, by columns then rows, of all lines.

    What is set is made as dark as the ink first: browsers thicken and thin letters a little.
    """
    across, down, their_across, their_down = [], [], [], []
    for line, setting, x, y in zip(lines, settings, guess.xs, guess.ys, strict=True):
        even = _evened(line)
        columns, rows = sums(setting, guess.size, guess.spacing, x - line.x, y - line.y, line)
        across.append(columns)
        down.append(rows * even)
        their_across.append(line.across)
        their_down.append(line.down * even)
    return np.concatenate((_left(across, their_across), _left(down, their_down)))


def _left(ours: Sequence[Plane], theirs: Sequence[Plane]) -> Numbers:
    """Their sums less ours, made as large."""
    a, b = np.concatenate(ours).astype(np.float64), np.concatenate(theirs).astype(np.float64)
    dark = float(a @ b) / max(float(a @ a), 1e-9)
    return np.asarray(min(max(dark, 0.6), 1.6) * a - b)


def _evened(line: InkLine) -> float:
    """What rows, which are longer, are weighed with."""
    height, width = line.cover.shape
    return ROWS * float(np.sqrt(height / max(1, width)))


def _measured(
    typeface: Typeface, lines: Sequence[InkLine], settings: Sequence[Setting], guess: _Guess
) -> TypeFit:
    off = _off(lines, settings, guess)
    ink = sum(float((line.across**2).sum()) for line in lines)
    loss = float(off @ off) / max(ink, 1e-9)
    xs, ys = tuple(guess.xs.tolist()), tuple(guess.ys.tolist())
    letters = sum(float(glyph.picture.sum()) for setting in settings for glyph in setting.glyphs)
    theirs = letters * (guess.size / EM) ** 2
    dark = sum(float(line.cover.sum()) for line in lines) / max(theirs, 1e-9)
    return TypeFit(typeface, guess.size, guess.spacing, xs, ys, 1 - loss, loss, dark)


def _placed(
    typeface: Typeface, lines: Sequence[InkLine], settings: Sequence[Setting], guess: _Guess
) -> TypeFit:
    """Every line at its own place, with size and spacing as they are; scored as it is drawn."""
    xs, ys = [], []
    shared = meant = 0.0
    for line, setting, x, y in zip(lines, settings, guess.xs, guess.ys, strict=True):

        def residuals(values: Numbers, line: InkLine = line, setting: Setting = setting) -> Numbers:
            at = replace(guess, xs=values[:1], ys=values[1:])
            return _off([line], [setting], at)

        best = least_squares(residuals, np.array([x, y]), np.array([0.05, 0.05]))
        xs.append(float(best[0]))
        ys.append(float(best[1]))
        drawn = cover(setting, guess.size, guess.spacing, xs[-1] - line.x, ys[-1] - line.y, line)
        shared += float(np.abs(drawn - line.cover).sum())
        meant += float(drawn.sum() + line.cover.sum())
    rough_fit = _measured(
        typeface, lines, settings, replace(guess, xs=np.array(xs), ys=np.array(ys))
    )
    return replace(rough_fit, score=1 - shared / max(meant, 1e-9))


def said(fit: TypeFit, line: InkLine, words: str) -> TypeFit | None:
    """How other words lie on a line, as large and as far apart; None for letters that it lacks."""
    if not fit.typeface.has((words,)):
        return None
    fit.typeface.prepare((words,))
    settings = _settings(fit.typeface, [words], is_spaced=bool(fit.spacing))
    if settings is None:
        return None
    start = _start([line], settings, fit.size, fit.spacing)
    return _placed(fit.typeface, [line], settings, start)


def letters_on(fit: TypeFit, line: InkLine, words: str) -> dict[int, float]:
    """The share of the ink around each letter of a line that lies on what is set, by its place."""
    setting = fit.typeface.set(words, is_spaced=True)
    if setting is None:
        return {}
    drawn = cover(setting, fit.size, fit.spacing, fit.xs[0] - line.x, fit.ys[0] - line.y, line)
    shares = {}
    for number, place in enumerate(setting.counts.tolist()):
        first, last = _columns(fit, line, setting, number)
        if last > first:
            shares[int(place)] = _shared(drawn[:, first:last], line.cover[:, first:last])
    return shares


def signs_on(fit: TypeFit, line: InkLine, words: str, place: int, signs: str) -> dict[str, float]:
    """The share of the ink around a letter of a line that lies on each of other ones set there."""
    typeface = fit.typeface
    typeface.prepare(tuple(signs))
    whole = typeface.set(words, is_spaced=True)
    places = whole.counts.tolist() if whole else []
    if whole is None or place not in places:
        return {}
    number = places.index(place)
    first, last = _columns(fit, line, whole, number)
    piece = replace(line, cover=line.cover[:, first:last], x=line.x + first)
    pen = fit.xs[0] - piece.x + fit.size * float(whole.pens[number]) + fit.spacing * place
    settings = ((sign, typeface.set(sign, is_spaced=True)) for sign in signs)
    y = fit.ys[0] - line.y
    return {
        sign: _shared(cover(setting, fit.size, 0.0, pen, y, piece), piece.cover)
        for sign, setting in settings
        if setting and last > first and typeface.has((sign,))
    }


def _columns(fit: TypeFit, line: InkLine, setting: Setting, number: int) -> tuple[int, int]:
    """From which column of a piece to which a glyph reaches."""
    scale = fit.size / EM
    pen = fit.size * float(setting.pens[number]) + fit.spacing * float(setting.counts[number])
    left = fit.xs[0] - line.x + pen + float(setting.lefts[number]) * scale
    first, last = int(left), int(left + float(setting.steps[number]) * scale) + 1
    return max(0, first), min(line.cover.shape[1], last)


def _shared(ours: Plane, theirs: Plane) -> float:
    """The share of two covers that lies on one another."""
    return float(np.minimum(ours, theirs).sum() / max(float(np.maximum(ours, theirs).sum()), 1e-9))
