"""Lines of one text, and signs beside their words, that were drawn apart -> one thing again."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from riffler.geometry import Rect
from riffler.markup.area import Area, Shape
from riffler.markup.extents import is_small
from riffler.markup.sections import framed
from riffler.markup.setting import Setting
from riffler.reading.part import PartKind

#: From one line to the next, in font sizes; letters this large, in CSS pixels, are a title's.
CLOSEST, FARTHEST, TITLE = 0.9, 1.75, 28

#: Lines that go on in the next take so much of the widest one.
FULL = 0.6

#: The longest side of a sign, and how far from it its words may begin and their middle may be; by
#: how much farther anything else is, at the least; above where a page has its logo. CSS pixels.
SIGN, WORDS, LEVEL, FARTHER, HEAD = 64, 24, 8, 2, 200

#: How far lines may begin beside one another, in CSS pixels.
BESIDE = 3


def joined(parts: Sequence[Area]) -> list[Area]:
    """Parts of a stack, with lines of one text together."""
    areas: list[Area] = []
    for part in parts:
        before = areas[-1] if areas else None
        if before is not None and _goes_on(before, part):
            areas[-1] = _together(before, part)
        else:
            areas.append(part)
    return areas


def with_words(parts: Sequence[Area]) -> list[Area]:
    """Parts of a row, with each sign and the words that it stands before together.

    Such a pair that begins a row at the head of a page is a logo.
    """
    areas: list[Area] = []
    for number, part in enumerate(parts):
        if number and _stands_before(parts, number - 1):
            sign = areas.pop()
            is_logo = not areas and sign.box.y < HEAD
            kind = PartKind.LOGO if is_logo else PartKind.COLUMNS
            areas.append(replace(framed([sign, part]), shape=Shape.ROW, kind=kind))
        else:
            areas.append(part)
    return areas


def _stands_before(parts: Sequence[Area], number: int) -> bool:
    """Whether a sign and the text after it are near one another, and far from all else there is."""
    sign, text = parts[number : number + 2]
    if not is_small(sign, SIGN) or len(parts) < 3:
        return False
    if text.setting is None or len(text.setting.lines) > 1:
        return False
    gap = text.box.x - sign.box.right
    lower = text.box.y + text.box.height / 2 - sign.box.y - sign.box.height / 2
    around = [part.box.x - text.box.right for part in parts[number + 2 : number + 3]]
    around += [sign.box.x - part.box.right for part in parts[max(0, number - 1) : number]]
    is_apart = all(other > max(WORDS, FARTHER * gap) for other in around)
    return 0 <= gap <= WORDS and abs(lower) <= LEVEL and is_apart


def _goes_on(before: Area, part: Area) -> bool:
    """Whether a text is the next line of the one above it."""
    first, second = before.setting, part.setting
    if first is None or second is None or first.type != second.type or part.link != before.link:
        return False
    if not first.is_said or not second.is_said or first.align != second.align:
        return False
    if abs(first.lines[0].x - second.lines[0].x) > BESIDE and first.align == "left":
        return False
    step = second.baseline - _last_baseline(first)
    if not CLOSEST * first.type.size <= step <= FARTHEST * first.type.size:
        return False
    return first.type.size >= TITLE or _breaks_here(first, second)


def _last_baseline(setting: Setting) -> float:
    return setting.baseline + setting.step * (len(setting.lines) - 1)


def _breaks_here(first: Setting, second: Setting) -> bool:
    """Whether the next word would not have had room: a line that ends early ends a text."""
    line, after = first.lines[-1], second.lines[0]
    word = after.text.split()[0]
    next_word = after.width * (len(word) + 1) / max(1, len(after.text))
    widest = max(first.width, second.width)
    return line.width >= FULL * widest and line.width + next_word > widest


def _together(before: Area, part: Area) -> Area:
    first, second = before.setting, part.setting
    assert first is not None
    assert second is not None
    step = float(round(second.baseline - _last_baseline(first)))
    lines = (*first.lines, *second.lines)
    setting = replace(
        first, lines=lines, step=step, is_step_known=True, next_words=_next_words(first, second)
    )
    box = setting.box
    return replace(
        before,
        layers=(*before.layers, *part.layers),
        setting=setting,
        box=Rect(box.x, box.y, box.width, box.height),
    )


def _next_words(first: Setting, second: Setting) -> float:
    """About how far the last line would go with the first word of the next."""
    line, after = first.lines[-1], second.lines[0]
    word = after.text.split()[0]
    further = line.width + after.width * (len(word) + 1) / max(1, len(after.text))
    return min(first.next_words, second.next_words, further)
