"""Things of a mockup and what a page shows -> pairs: by words, by pixels, by place and colour."""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, replace
from difflib import SequenceMatcher
from functools import partial
from typing import TypeVar

import numpy as np
import numpy.typing as npt

from riffler.analyse.thumbnails import Thumbs
from riffler.fit.expected import Expected, ExpectedThing, ThingKind
from riffler.fit.lines import FAR, NEARBY, blocks, split, styles
from riffler.fit.seen import SeenBox, SeenPage, SeenPicture, SeenText, colors_in
from riffler.geometry import Rect
from riffler.markup.setting import letters_of
from riffler.tokens.palette import apart

#: Pictures that differ so little show the same.
SAME = 0.035

#: The logarithm of two ratios of sides from which pictures can't be the same.
TURNED = 0.7

#: How alike two texts are that may be one with a word changed: 0..1.
LIKE = 0.55

#: How alike a box must be in Oklab from afar.
ALIKE = 0.02

#: Costs from which two things are no pair.
NEVER = 1e6

One = TypeVar("One")
Other = TypeVar("Other")


@dataclass(frozen=True)
class Pairs:
    """What of the page each thing is; things that have no pair are missing."""

    words: dict[int, SeenText]
    pictures: dict[int, SeenPicture]
    boxes: dict[int, SeenBox]


def paired(wanted: Expected, seen: SeenPage) -> Pairs:
    """Pairs of all kinds, by the number of the thing in the mockup."""
    return Pairs(_words(wanted, seen), _pictures(wanted, seen), _boxes(wanted, seen))


def assigned(
    ones: Sequence[One], others: Sequence[Other], cost: Callable[[One, Other], float]
) -> list[tuple[int, int]]:
    """The pairs that cost least together; none that cost `NEVER`."""
    if not ones or not others:
        return []
    from scipy.optimize import linear_sum_assignment

    costs = np.array([[cost(second, first) for first in others] for second in ones])
    rows, columns = linear_sum_assignment(np.minimum(costs, NEVER))
    return [
        (int(row), int(column))
        for row, column in zip(rows, columns, strict=True)
        if costs[row, column] < NEVER
    ]


def distance(first: Rect, second: Rect) -> float:
    """How far the corners of two boxes are from one another, together."""
    return (
        abs(first.x - second.x)
        + abs(first.y - second.y)
        + abs(first.right - second.right)
        + abs(first.bottom - second.bottom)
    ) / 2


def _numbered(wanted: Expected, kind: ThingKind) -> list[tuple[int, ExpectedThing]]:
    return [(n, thing) for n, thing in enumerate(wanted.things) if thing.kind is kind]


def _words(wanted: Expected, seen: SeenPage) -> dict[int, SeenText]:
    """Texts that say the same; what is left by a few words changed; unread ones by their place."""
    things = _numbered(wanted, ThingKind.WORDS)
    texts: dict[int, SeenText] = {}
    other_texts = list(seen.texts)
    read = [(n, thing) for n, thing in things if thing.is_read]
    for gather in (blocks, styles, list):  # links of a line are texts by themselves
        other_texts = _matched(
            _left(read, texts), gather(other_texts), _is_same_text, texts, other_texts
        )
    other_texts = styles(other_texts)
    _by_line(_left(read, texts), texts, other_texts)
    other_texts = _matched(_left(read, texts), other_texts, _is_like_text, texts, other_texts)
    unread = [(n, thing) for n, thing in things if not thing.is_read]
    boxes = [thing.box for _, thing in unread]
    other_texts = [part for block in blocks(other_texts) for part in split(block, boxes)]
    for reach in (NEARBY, FAR):
        left = _left(unread, texts)
        pairs = assigned(left, other_texts, partial(_unread, reach))
        texts.update({left[row][0]: other_texts[column] for row, column in pairs})
        taken = {column for _, column in pairs}
        other_texts = [text for n, text in enumerate(other_texts) if n not in taken]
    return texts


def _left(
    things: Sequence[tuple[int, ExpectedThing]], texts: dict[int, SeenText]
) -> list[tuple[int, ExpectedThing]]:
    """The things that have no pair yet."""
    return [(n, thing) for n, thing in things if n not in texts]


def _matched(
    left: Sequence[tuple[int, ExpectedThing]],
    texts: Sequence[SeenText],
    is_alike: Callable[[str, str], bool],
    found_texts: dict[int, SeenText],
    other_texts: Sequence[SeenText],
) -> list[SeenText]:
    """Pair what says the same, what lies nearest first; returns what remains of `other_texts`."""

    def cost(pair: tuple[int, ExpectedThing], other_text: SeenText) -> float:
        text = pair[1].setting.text if pair[1].setting else ""
        return distance(pair[1].box, other_text.box) if is_alike(text, other_text.text) else NEVER

    used: set[int] = set()
    for row, column in assigned(left, texts, cost):
        found_texts[left[row][0]] = texts[column]
        used.update(id(part) for part in texts[column].made_of)
    return [text for text in other_texts if not used & {id(part) for part in text.made_of}]


def _by_line(
    left: Sequence[tuple[int, ExpectedThing]],
    texts: dict[int, SeenText],
    other_texts: Sequence[SeenText],
) -> None:
    """A text that is some lines of a longer one."""
    for number, thing in left:
        if thing.setting is None:
            continue
        lines = [letters_of(line.text) for line in thing.setting.lines]
        for text in other_texts:
            said_texts = [letters_of(line.text) for line in text.lines]
            start = next(
                (n for n in range(len(said_texts)) if said_texts[n : n + len(lines)] == lines), None
            )
            if start is not None and len(said_texts) > len(lines):
                texts[number] = replace(text, lines=text.lines[start : start + len(lines)])
                break


def _is_same_text(first: str, second: str) -> bool:
    return letters_of(first) == letters_of(second)


def _is_like_text(first: str, second: str) -> bool:
    return SequenceMatcher(None, first.casefold(), second.casefold()).ratio() >= LIKE


def _unread(reach: float, pair: tuple[int, ExpectedThing], other_text: SeenText) -> float:
    """How far a text in pixels is from one of the page; its layer may be named as it reads."""
    thing = pair[1]
    mine, box = thing.box, other_text.box
    across = min(
        abs(mine.x - box.x),
        abs(mine.right - box.right),
        abs(mine.x + mine.right - box.x - box.right) / 2,
    )
    far = across + abs(mine.y - box.y) + distance(mine, box) / 10
    if thing.setting is not None and _is_same_text(thing.setting.text, other_text.text):
        return far / 10 if far < FAR else NEVER
    return far if far < reach else NEVER


def _pictures(wanted: Expected, seen: SeenPage) -> dict[int, SeenPicture]:
    """Pictures that look the same first; then others in the same place."""
    things = _numbered(wanted, ThingKind.PICTURE)
    shown = [
        picture
        for picture in seen.pictures
        if picture.pixels is not None and picture.paint is not None
    ]
    differ = _unlike(things, wanted.looks, shown)

    def cost(value: int, other: int) -> float:
        paint = shown[other].paint
        assert paint is not None
        far = distance(things[value][1].box, paint)
        if differ[value, other] <= SAME:
            return far / 100
        near = things[value][1].box.likeness(paint) > 0.5
        return 1000 * differ[value, other] + far if near else NEVER

    pairs = assigned(range(len(things)), range(len(shown)), cost)
    return {things[row][0]: shown[column] for row, column in pairs}


def _unlike(
    things: Sequence[tuple[int, ExpectedThing]],
    looks: Mapping[int, Thumbs],
    shown: Sequence[SeenPicture],
) -> npt.NDArray[np.float64]:
    """How different pictures and those of the page look: (things, shown), 0..1."""
    differ = np.ones((len(things), len(shown)))
    columns = [
        n
        for n, picture in enumerate(shown)
        if picture.look is not None and picture.paint is not None
    ]
    if not columns:
        return differ
    theirs = np.array([shown[n].look for n in columns])
    paints = [shown[n].paint for n in columns]
    ratios = np.log([rect.width / rect.height for rect in paints if rect is not None])
    for row, (number, thing) in enumerate(things):
        if number in looks:
            turned = math.log(thing.box.width / thing.box.height) - ratios
            unlike = np.abs(theirs - looks[number]).mean(axis=(2, 3, 4)).max(axis=1) / 255
            differ[row, columns] = np.where(np.abs(turned) > TURNED, 1.0, unlike)
    return differ


def _boxes(wanted: Expected, seen: SeenPage) -> dict[int, SeenBox]:
    """Painted boxes at about the same place; of several the one in the same colours."""
    things = _numbered(wanted, ThingKind.BOX)

    def cost(pair: tuple[int, ExpectedThing], other_box: SeenBox) -> float:
        mine, far = pair[1].box, distance(pair[1].box, other_box.box)
        wider, higher = (
            abs(mine.width - other_box.box.width),
            abs(mine.height - other_box.box.height),
        )
        unlike = _unlike_paint(pair[1], other_box)
        if mine.likeness(other_box.box) < 0.2 and (
            far > FAR or min(wider, higher) > 4 or (max(wider, higher) > 4 and unlike > ALIKE)
        ):
            return NEVER
        return far + 30 * unlike

    result = assigned(things, seen.boxes, cost)
    return {things[row][0]: seen.boxes[column] for row, column in result}


def _unlike_paint(thing: ExpectedThing, box: SeenBox) -> float:
    """How far the colours of a plate are from those of an element: 0..1 and more."""
    stops = thing.style.stops if thing.style else ()
    colors = colors_in(box.image) or [box.color]
    return min((apart(stops[0].color, color) for color in colors), default=1.0) if stops else 0.0
