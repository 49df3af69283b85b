"""A text of a mockup and what the page has for it -> its place there, and all that differs."""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable, Iterator
from dataclasses import replace

from riffler.fit.expected import Expected, ExpectedThing
from riffler.fit.fault import COLOR, MEASURED, SIZING, Difference, Fault, Placed, px
from riffler.fit.seen import SeenText
from riffler.markup.inks import has_all
from riffler.markup.setting import Setting, Type, letters_of
from riffler.tokens.palette import apart

#: How far lines may stand from where a line height puts them, in CSS pixels.
ROUNDED = 1.0

#: The share of its width by which a line may be wider, set the same way.
AS_WIDE = 0.01

#: The share of its width, or CSS pixels of it, and the share of its size within which pixels leave
#: open how a text was set.
WIDE, LEAST, UNSURE = 0.03, 1.0, 0.06

#: How far sizes of type may be off, in CSS pixels, and letters from one another.
TYPE, SPACING = 0.3, 0.1


def words(
    number: int,
    thing: ExpectedThing,
    text: SeenText,
    wanted: Expected,
    is_link: Callable[[int], bool] = bool,
) -> Placed:
    """A text that the mockup says, by its lines and how it is set.

    `is_link` says of an element whether it leads elsewhere.
    """
    setting = thing.setting
    assert setting is not None
    baseline = text.lines[0].top + text.ascent
    left = min(line.x for line in setting.lines)
    right = max(line.x + line.width for line in setting.lines)
    box = text.box
    dx = {
        "left": box.x - left,
        "right": box.right - right,
        "center": (box.x + box.right - left - right) / 2,
    }[setting.align]
    dy = baseline - setting.baseline
    differences = tuple(_of_words(thing, text, wanted, is_link))
    wider = box.width - (right - left)
    is_set_alike = not any(difference.fault in SIZING for difference in differences)
    if is_set_alike and (abs(wider) <= AS_WIDE * box.width or not _is_known(setting, wanted)):
        wider = 0.0
    return Placed(
        number,
        thing,
        box,
        text.element,
        dx,
        dy,
        wider,
        _higher(thing, text),
        differences,
    )


def _is_known(setting: Setting, wanted: Expected) -> bool:
    """Whether its face has all of its letters, so that it is known how wide they are."""
    type_ = setting.type
    face = wanted.fonts.nearest(type_.family, type_.weight, is_italic=type_.is_italic)
    return face is None or has_all(face, setting.text)


def _higher(thing: ExpectedThing, text: SeenText) -> float:
    """How much higher its lines stand, one upon the other; browsers round each to whole pixels."""
    setting = thing.setting
    assert setting is not None
    more = text.lines[-1].top - text.lines[0].top - setting.step * (len(setting.lines) - 1)
    return more if abs(more) > ROUNDED else 0.0


def _of_words(
    thing: ExpectedThing, text: SeenText, wanted: Expected, is_link: Callable[[int], bool]
) -> Iterator[Difference]:
    setting = thing.setting
    assert setting is not None
    texts = [" ".join(line.text.split()) for line in setting.lines]
    shown = [" ".join(line.text.split()) for line in text.lines]
    is_same = letters_of("".join(texts)) == letters_of("".join(shown))
    if not is_same:
        yield Difference(Fault.WORDS, " ".join(texts), " ".join(shown))
    yield from of_type(_as_far_as_known(setting, text, wanted), text)
    if [letters_of(item) for item in texts] == [letters_of(item) for item in shown]:
        yield from _of_step(setting, text)
    elif is_same or len(texts) != len(shown):
        yield Difference(Fault.BREAKS, " / ".join(texts), " / ".join(shown))
    if is_same:
        yield from _of_runs(setting, text, is_link)
    if apart(setting.type.color, text.color) > (COLOR if wanted.is_vector else MEASURED):
        yield Difference(Fault.COLOR, setting.type.color, text.color)


def _of_step(setting: Setting, text: SeenText) -> Iterator[Difference]:
    """Whether its lines stand higher or lower, one upon the other."""
    if len(text.lines) > 1 and setting.is_step_known:
        step = (text.lines[-1].top - text.lines[0].top) / (len(text.lines) - 1)
        if abs(step - setting.step) * (len(text.lines) - 1) > ROUNDED:
            yield Difference(Fault.LINE_HEIGHT, px(setting.step), px(step))


def _of_runs(
    setting: Setting, text: SeenText, is_link: Callable[[int], bool]
) -> Iterator[Difference]:
    """Letters of a text that are set in a colour of their own, or lead elsewhere.

    What is underlined is surely a link; of other words only so much is said as goes with a colour.
    """
    parts = [(sign, part) for part in text.made_of for sign in letters_of(part.text)]
    begins = 0
    for number, line in enumerate(setting.lines):
        for run in (run for run in setting.runs if run.line == number):
            start = begins + len(letters_of(line.text[: run.start]))
            shown = parts[start : start + len(letters_of(line.text[run.start : run.end]))]
            if not shown:
                continue
            (part, _), *_ = Counter(one for _, one in shown).most_common(1)
            is_other = apart(run.color, part.color) > COLOR
            if is_other:
                yield Difference(Fault.COLOR, run.color, part.color, part.element)
            if (run.is_underlined or is_other) and not is_link(part.element):
                yield Difference(Fault.LINK, "a link", "plain words", part.element)
        begins += len(letters_of(line.text))


def _as_far_as_known(setting: Setting, text: SeenText, wanted: Expected) -> Type:
    """How a text should be set; what pixels can't tell from how it is set is as it is.

    Letters a little larger and nearer to one another are as wide: only a width that differs tells.
    """
    mine = setting.type
    if wanted.is_vector or len(setting.lines) != len(text.lines):
        return mine
    wide = max(line.width for line in setting.lines)
    shown = max(line.right - line.x for line in text.lines)
    is_as_wide = abs(shown - wide) <= max(LEAST, WIDE * wide)
    if is_as_wide and abs(text.size - mine.size) <= UNSURE * mine.size:
        return replace(mine, size=text.size, spacing=text.spacing)
    return mine


def of_type(mine: Type, text: SeenText) -> Iterator[Difference]:
    """What of its type a text of the page has otherwise."""
    if mine.family and mine.family.casefold() not in text.family.casefold():
        yield Difference(Fault.FAMILY, mine.family, text.family.split(",")[0].strip("\"'"))
    if abs(text.size - mine.size) >= TYPE:
        yield Difference(Fault.TYPE_SIZE, px(mine.size), px(text.size))
    if mine.family and text.weight != mine.weight:
        yield Difference(Fault.WEIGHT, str(mine.weight), str(text.weight))
    if mine.family and text.is_italic != mine.is_italic:
        wanted, found = ("normal", "italic") if text.is_italic else ("italic", "normal")
        yield Difference(Fault.STYLE, wanted, found)
    if abs(text.spacing - mine.spacing) >= SPACING:
        yield Difference(Fault.SPACING, px(mine.spacing), px(text.spacing))
