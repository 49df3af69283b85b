"""A draft -> the questions that a mockup leaves open, as text to send to the designer."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from itertools import pairwise

from riffler.geometry import Box
from riffler.mockup.font_book import FontBook, uses
from riffler.mockup.model import Layer
from riffler.plan.draft.drafted import Draft
from riffler.reading.clickable import Clickable
from riffler.reading.judgement import Becomes
from riffler.reading.reading import Reading
from riffler.reading.rows import Row
from riffler.reading.states import states_of

#: Things of one row that differ by up to so many CSS pixels are meant to be alike.
NEARLY = 4

#: Names in a question before the rest is counted.
NAMED = 5

#: Texts whose size differs by less than this share, but differs, are asked about.
NEARLY_SIZE = 0.1


@dataclass(frozen=True)
class Question:
    """One question: what it is about, in a word, and the sentence to send."""

    about: str
    text: str


def questions(draft: Draft, fonts: FontBook, *, has_narrow: bool) -> list[Question]:
    """Everything that the mockup does not say, in the order of the work."""
    reading = draft.reading
    asked = [
        *_fonts(draft, fonts),
        *([] if has_narrow else [_narrow(reading)]),
        *_growth(reading, draft.found.rows),
        *_states(reading, draft),
        *_dense(reading, draft),
        *_nearly(reading, draft),
    ]
    return list(dict.fromkeys(asked))


def _fonts(draft: Draft, fonts: FontBook) -> Iterator[Question]:
    reading = draft.reading
    for use in uses(reading.mockup, fonts):
        if use.found != "project":
            where = "only installed on this machine" if use.found else "missing here"
            yield Question(
                "fonts",
                f"The typeface {use.family} ({_weights(use.weights)}) is {where}. Can you send the "
                f"files with a licence for the web, or may {use.drawn_with or 'another face'} "
                "stand in?",
            )
    if any(reading.is_words(layer) and layer.words is None for layer in reading.drawings()):
        words = "" if draft.says else ", and what are the words as text"
        yield Question(
            "fonts",
            "The text is drawn as pixels. Which typefaces, sizes and line heights are "
            f"they{words}?",
        )


def _weights(weights: tuple[int, ...]) -> str:
    return "weight " + ", ".join(map(str, weights))


def _narrow(reading: Reading) -> Question:
    width = reading.mockup.size.width / reading.density
    return Question(
        "narrow",
        f"There is one width, {width:g} px. What does the page look like on a phone: which columns "
        "fall under one another, what is left out?",
    )


def _growth(reading: Reading, rows: list[Row]) -> Iterator[Question]:
    width = reading.mockup.size.width / reading.density
    yield Question(
        "growth",
        f"When the window is wider than {width:g} px: does the page stay centred at that width, or "
        "does it grow, and what fills the sides?",
    )
    for row in rows:
        name = row.parent.name if row.parent else "the page"
        many = len(row.members)
        if row.kind == "tabs":
            yield Question(
                "growth",
                f"The {many} tabs in “{name}”: do they keep their width and place when the page "
                "grows, spread out, or stay centred? What if one more comes?",
            )
        else:
            yield Question(
                "growth",
                f"The {many} {row.kind} in “{name}”: do they widen with the page, or does another "
                "fit into the row? What happens with much longer words in one of them?",
            )


def _states(reading: Reading, draft: Draft) -> Iterator[Question]:
    lacking: dict[str, list[Clickable]] = {"hover": [], "current": []}
    alike = draft.found.alike
    for clickable in draft.found.clickables:
        shown = states_of(reading, clickable, alike.get(clickable.layer.address, ())).show
        if "hover" not in shown and clickable.kind != "logo":
            lacking["hover"].append(clickable)
        if clickable.kind == "tab" and "current" not in shown:
            lacking["current"].append(clickable)
    for state, what in (
        ("hover", "under the pointer and with the keyboard's focus"),
        ("current", "for the page one is on"),
    ):
        if lacking[state]:
            names = _some([clickable.layer.address for clickable in lacking[state]])
            yield Question("states", f"What do these look like {what}: {names}?")


def _some(names: Sequence[str]) -> str:
    """A list that can be read out: the first names, and how many more there are."""
    if len(names) <= NAMED + 1:
        return ", ".join(names)
    return f"{', '.join(names[:NAMED])} and {len(names) - NAMED} more"


def _dense(reading: Reading, draft: Draft) -> Iterator[Question]:
    if reading.mockup.is_vector or reading.density >= 2:
        return
    small = [new.name for new in draft.slices if new.table.role in (None, "picture")]
    if small:
        yield Question(
            "dense screens",
            f"The mockup has {reading.density:g} pixel for each CSS pixel, so these would be soft "
            f"on dense screens: {_some(small)}. Are there larger originals?",
        )


def _nearly(reading: Reading, draft: Draft) -> Iterator[Question]:
    """Things that are almost alike, so that one of them may be a slip."""
    for row in draft.found.rows:
        yield from _nearly_sized(reading, row)
    yield from _nearly_placed(reading)
    yield from _nearly_set(reading)


def _nearly_sized(reading: Reading, row: Row) -> Iterator[Question]:
    usual = max(
        ((box.width, box.height) for box in row.boxes),
        key=[(box.width, box.height) for box in row.boxes].count,
    )
    if row.kind == "items":
        return
    for member, box in zip(row.members, row.boxes, strict=True):
        off = max(abs(box.width - usual[0]), abs(box.height - usual[1]))
        if 0 < off <= NEARLY * reading.density:
            yield Question(
                "nearly alike",
                f"{member.address} is {box.width} x {box.height} px, the others of its row are "
                f"{usual[0]} x {usual[1]}. Meant to be the same?",
            )


def _nearly_placed(reading: Reading) -> Iterator[Question]:
    """Boxes of plain style that are a hair off each other's edge, or of almost one size."""
    boxes: list[tuple[Layer, Box]] = []
    for layer in reading.drawings():
        box = reading.box(layer) if reading.mockup.shows(layer) else None
        if box is not None and reading.judgement(layer).becomes is Becomes.CSS:
            boxes.append((layer, box))
    for (a, box), (b, other_box) in pairwise(
        sorted(boxes, key=lambda item: (item[1].x, item[1].y))
    ):
        off = abs(box.x - other_box.x)
        if 0 < off <= NEARLY * reading.density / 2:
            yield Question(
                "nearly alike",
                f"{a.address} begins at {box.x}, {b.address} at {other_box.x}: {off} px apart. "
                "Meant to be in line?",
            )


def _nearly_set(reading: Reading) -> Iterator[Question]:
    sizes: dict[tuple[str, int], set[float]] = {}
    for layer in reading.mockup.walk():
        if layer.words is not None and layer.words.families:
            key = (layer.words.families[0], layer.words.weight)
            sizes.setdefault(key, set()).add(layer.words.size)
    for (family, weight), used in sizes.items():
        for small, large in pairwise(sorted(used)):
            if large - small < NEARLY_SIZE * large:
                yield Question(
                    "nearly alike",
                    f"{family} {weight} is used at {small:g} and at {large:g} px. "
                    "Are these two sizes, or one?",
                )
