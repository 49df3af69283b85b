"""A narrow mockup's draft, beside the wide ones -> its slices under the names that they have there.

Things are matched by what they show: pictures by their pixels, be it in another crop, texts by
their words, pictures of which phones have others by the words on them. Among pictures that are
alike the words beside them decide, and then which of them comes first on the page. A name counts
by itself only where nobody knows what a text says, or for one layer in both; a number never.
"""

from __future__ import annotations

import re
from collections import defaultdict
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from itertools import groupby
from typing import TypeAlias

from riffler.analyse.crops import same_picture
from riffler.color import Bytes, to_bytes
from riffler.cutlist.file import CutlistFile
from riffler.cutlist.resolve import resolve
from riffler.geometry import Box, union
from riffler.plan.draft.drafted import Draft, DraftedSlice
from riffler.reading.reading import Reading
from riffler.render.renderer import Renderer
from riffler.typeset.layers import INSIDE
from riffler.workspace import Workspace

#: How much has to speak for two pictures being one, and of two texts how many words are shared.
SAME_PICTURE, SAME_WORDS = 0.8, 0.75

#: How much it has to be where they are called the same, without a number; and the fewest different
#: words that are hardly said twice on a page.
NAMESAKE, SENTENCE = 0.4, 4

#: What words that stand beside both of them add to that.
BESIDE = 0.1

#: Pixels along the longer side of the pictures that are held against each other.
SIDE = 96

_NUMBERED = re.compile(r"[-\s#]?\d+$")


@dataclass(frozen=True)
class _Sight:
    """What a slice shows: its words, its pixels where it has files, where on the page it is.

    `count` is how often it is repeated, `page` the cutlist that it is of, `alt` what it is called
    by the words beside it, `place` how far down the page and to the right it begins, in pixels,
    `layer` the one that it shows alone.
    """

    page: str
    name: str
    count: int
    text: frozenset[str]
    picture: Bytes | None
    alt: str | None
    place: tuple[float, float]
    layer: str


def under_wide_names(drafted: Draft, workspace: Workspace, files: Sequence[CutlistFile]) -> Draft:
    """The slices of a narrow draft that a wide mockup has as well, called as they are there."""
    own = list(_narrow(drafted))
    wide = [sight for file in files if not file.cutlist.when for sight in _wide(workspace, file)]
    called = _called(_pairs(own, wide))
    slices = [
        replace(
            new,
            name=called[new.name],
            table=new.table.model_copy(update={"alt": None, "alts": None}),
        )
        for new in drafted.slices
        if new.name in called and new.table.like in {None, *called}
    ]
    return replace(drafted, slices=tuple(new.leaning(called) for new in slices))


_Pair: TypeAlias = tuple[float, _Sight, _Sight]
"""How much speaks for two slices being one: the narrow and the wide one."""


def _pairs(own: Sequence[_Sight], wide: Sequence[_Sight]) -> list[_Pair]:
    """All that may be one."""
    return [
        (score, sight, other)
        for sight in own
        for other in wide
        if (score := _likeness(sight, other))
    ]


def _called(pairs: Sequence[_Pair]) -> dict[str, str]:
    """The wide name of each narrow slice that has one; among equals its own page comes first."""
    pages = dict.fromkeys(other.page for _, _, other in pairs)
    shared = {
        page: len(_matched([pair for pair in pairs if pair[2].page == page], {page: 0}))
        for page in pages
    }
    ordered = sorted(pages, key=lambda page: -shared[page])
    return _matched(pairs, {page: number for number, page in enumerate(ordered)})


def _matched(pairs: Sequence[_Pair], order: Mapping[str, int]) -> dict[str, str]:
    """Names by names, the surest pairs first, then by the order of pages and that on them."""
    called: dict[str, str] = {}
    ranked = [
        (-round(score, 1), order[other.page], apart, -score, sight.name, other.name)
        for (score, sight, other), apart in zip(pairs, _places_apart(pairs), strict=True)
    ]
    for *_, name, wide_name in sorted(ranked):
        if name not in called and wide_name not in called.values():
            called[name] = wide_name
    return called


def _places_apart(pairs: Sequence[_Pair]) -> Iterator[int]:
    """Of each pair how differently many of those like the other one come before its two slices."""
    rivals: dict[tuple[str, str], list[_Sight]] = defaultdict(list)
    choices: dict[tuple[str, str], list[_Sight]] = defaultdict(list)
    for _, sight, other in pairs:
        rivals[other.page, other.name].append(sight)
        choices[other.page, sight.name].append(other)
    for _, sight, other in pairs:
        own_place = _before(sight, rivals[other.page, other.name])
        yield abs(own_place - _before(other, choices[other.page, sight.name]))


def _before(sight: _Sight, others: Sequence[_Sight]) -> int:
    return sum(other.place < sight.place for other in others)


def _likeness(sight: _Sight, other: _Sight) -> float:
    """How much speaks for two slices being one; 0 where it is not enough."""
    if sight.count != other.count or (sight.picture is None) != (other.picture is None):
        return 0.0
    is_named = sight.name == other.name and not _NUMBERED.search(sight.name)
    if sight.picture is not None and other.picture is not None:
        alike = same_picture(sight.picture, other.picture)
        if alike >= (NAMESAKE if is_named else SAME_PICTURE):
            return alike + BESIDE * (sight.alt is not None and sight.alt == other.alt)
        is_same_layer = sight.layer == other.layer and not _NUMBERED.search(sight.layer)
        if sight.layer and is_same_layer:
            return NAMESAKE
        return _same_words(sight.text, other.text)  # what is said on them
    if sight.text and other.text:
        return _same_words(sight.text, other.text)
    return SAME_WORDS if is_named else 0.0


def _same_words(text: frozenset[str], other: frozenset[str]) -> float:
    """How much of two texts is the same; 0 where it is not enough."""
    fewer = min(len(text), len(other))
    shared = len(text & other)
    alike = 2 * shared / max(1, len(text) + len(other))
    if fewer >= SENTENCE and shared == fewer:  # all of the one is in the other
        alike = max(alike, SAME_WORDS)
    return alike if alike >= SAME_WORDS else 0.0


def _narrow(drafted: Draft) -> Iterator[_Sight]:
    """What the slices of a draft show."""
    reading = drafted.reading
    mockup = reading.mockup
    texts = _texts(reading, {address: said.text for address, said in drafted.says.items()})
    words = {layer.address for layer in reading.drawings() if reading.is_words(layer)}
    for new in drafted.slices:
        shown = mockup.drawn - words - _hidden(reading, new)
        if new.table.only:
            shown = frozenset[str]().union(*map(mockup.alone, new.table.only))
        boxes = new.all_boxes
        has_files = new.table.role != "words"
        picture = _drawn(reading.renderer, new.box, shown) if has_files else None
        words_inside, place = _inside(texts, boxes), _place(boxes)
        alone = "".join(new.table.only or ())
        yield _Sight("", new.name, new.count, words_inside, picture, new.table.alt, place, alone)


def _hidden(reading: Reading, new: DraftedSlice) -> frozenset[str]:
    """The layers that a slice hides, with all that is in them."""
    known = reading.mockup.by_address
    named = (known[address] for address in new.table.hide or () if address in known)
    return frozenset(below.address for layer in named for below in layer.walk())


def _wide(workspace: Workspace, file: CutlistFile) -> Iterator[_Sight]:
    """What the slices of a cutlist show."""
    opened = workspace.open(file.mockup_path, file.cutlist.canvas, file)
    reading = Reading(opened.renderer, file.cutlist.density, file.cutlist.says)
    texts = _texts(reading, file.cutlist.says)
    slices = resolve(file, opened.renderer)
    for name, group in groupby(slices, key=lambda slice_: slice_.entry.keys[1]):
        first, *others = group
        times = first.entry.table.times
        count = 1 + len(others) if times and not times.same else 1
        boxes = [first.box, *(other.box for other in others)]
        has_files = first.role.has_files
        picture = _drawn(opened.renderer, first.box, first.rest.shown) if has_files else None
        words, place, table = _inside(texts, boxes), _place(boxes), first.entry.table
        alone = "".join(table.only or ())
        yield _Sight(file.path.stem, name, count, words, picture, table.alt, place, alone)


def _place(boxes: Sequence[Box]) -> tuple[float, float]:
    """How far down and to the right boxes begin."""
    box = union(boxes)
    return box.y, box.x


def _texts(reading: Reading, says: Mapping[str, str]) -> list[tuple[Box, frozenset[str]]]:
    """The words of every text that shows, with its box."""
    result = []
    for layer in reading.drawings():
        text = layer.words.text if layer.words else says.get(layer.address, "")
        box = reading.box(layer) if text and reading.mockup.shows(layer) else None
        if box:
            result.append((box, frozenset(re.findall(r"\w+", text.casefold()))))
    return result


def _inside(texts: Sequence[tuple[Box, frozenset[str]]], boxes: Sequence[Box]) -> frozenset[str]:
    """All words that lie in some boxes."""
    return frozenset[str]().union(
        *(
            words
            for text, words in texts
            if any((text & box).area >= INSIDE * text.area for box in boxes)
        )
    )


def _drawn(renderer: Renderer, box: Box, shown: frozenset[str]) -> Bytes:
    """A picture as it shows, small: (H, W, 4) uint8, straight RGBA."""
    scale = min(1.0, SIDE / max(box.width, box.height))
    return to_bytes(renderer.render(box, scale, shown))
