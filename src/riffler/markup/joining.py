"""Texts that are one but were drawn a line each -> one text again."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from riffler.geometry import Rect
from riffler.markup.area import Area
from riffler.markup.setting import Setting

#: From one line to the next, in font sizes; letters this large, in CSS pixels, are a title's.
CLOSEST, FARTHEST, TITLE = 0.9, 1.75, 28

#: Lines that go on in the next take so much of the widest one.
FULL = 0.6

#: How far lines may begin beside one another, in CSS pixels.
BESIDE = 3


def joined(parts: Sequence[Area]) -> list[Area]:
    """Parts of a stack, with lines of one text together."""
    found: list[Area] = []
    for part in parts:
        before = found[-1] if found else None
        if before is not None and _goes_on(before, part):
            found[-1] = _together(before, part)
        else:
            found.append(part)
    return found


def _goes_on(before: Area, part: Area) -> bool:
    """Whether a text is the next line of the one above it."""
    one, other = before.setting, part.setting
    if one is None or other is None or one.type != other.type or part.link != before.link:
        return False
    if not one.is_said or not other.is_said or one.align != other.align:
        return False
    if abs(one.lines[0].x - other.lines[0].x) > BESIDE and one.align == "left":
        return False
    step = other.baseline - _last_baseline(one)
    if not CLOSEST * one.type.size <= step <= FARTHEST * one.type.size:
        return False
    return one.type.size >= TITLE or _breaks_here(one, other)


def _last_baseline(setting: Setting) -> float:
    return setting.baseline + setting.step * (len(setting.lines) - 1)


def _breaks_here(one: Setting, other: Setting) -> bool:
    """Whether the next word would not have had room: a line that ends early ends a text."""
    line, after = one.lines[-1], other.lines[0]
    word = after.text.split()[0]
    next_word = after.width * (len(word) + 1) / max(1, len(after.text))
    widest = max(one.width, other.width)
    return line.width >= FULL * widest and line.width + next_word > widest


def _together(before: Area, part: Area) -> Area:
    one, other = before.setting, part.setting
    assert one is not None
    assert other is not None
    step = float(round(other.baseline - _last_baseline(one)))
    lines = (*one.lines, *other.lines)
    setting = replace(
        one, lines=lines, step=step, is_step_known=True, next_words=_next_words(one, other)
    )
    box = setting.box
    return replace(
        before,
        layers=(*before.layers, *part.layers),
        setting=setting,
        box=Rect(box.x, box.y, box.width, box.height),
    )


def _next_words(one: Setting, other: Setting) -> float:
    """About how far the last line would go with the first word of the next."""
    line, after = one.lines[-1], other.lines[0]
    word = after.text.split()[0]
    further = line.width + after.width * (len(word) + 1) / max(1, len(after.text))
    return min(one.next_words, other.next_words, further)
