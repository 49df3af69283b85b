"""A page and the areas of its narrow mockup -> which things are the same in both.

Things are the same that say the same words, show the same slice, or are painted alike.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Hashable, Iterator, Sequence
from difflib import SequenceMatcher

from riffler.analyse.style import Style
from riffler.markup.absent import is_leaf
from riffler.markup.area import Area, Shape
from riffler.markup.element import Element
from riffler.markup.extents import has_ground
from riffler.markup.setting import Setting, letters_of

#: What people write into.
FIELDS = ("input", "textarea", "select")

#: How many times the words and pictures of the page what is painted alike may hold.
MORE = 1.5

#: What goes before the name of a slice in a key.
PICTURE = "\0"


class Same:
    """Finds what is shown in the narrow mockup, each thing once."""

    def __init__(self, area: Area, body: Element) -> None:
        self._every = list(area.walk())
        self._taken: set[int] = set()
        self._alike = _alike(list(_keys(body)), self._every)
        self._meant = {_drawn(area) for areas in self._alike.values() for area in areas if area}

    def words(self, text: str) -> Area | None:
        """The text that says the same; to be asked for every text of the page, in order."""
        return self._next(letters_of(text))

    def picture(self, name: str) -> Area | None:
        """What the slice of this name shows; to be asked for every picture, in order."""
        return self._next(PICTURE + name)

    def _next(self, key: str) -> Area | None:
        places = self._alike.get(key)
        area = places.pop(0) if places else None
        return self._first(iter([area])) if area is not None else None

    def box(self, area: Area) -> Area | None:
        """The next box of nothing but its ground that is painted alike."""
        return self._first(
            one_area
            for one_area in self._every
            if one_area.shape is Shape.BOX
            and one_area.ground
            and area.ground
            and one_area.ground.stops == area.ground.stops
        )

    def around(self, parts: Sequence[Area], ground: Style | None = None) -> Area | None:
        """The box with edges that holds these and no other words and pictures of the page.

        One that is painted as this `ground` may hold a few more: what lies on fields, say.
        """
        leaves = self._leaves(parts)
        holders = [
            (area, self._leaves([area])) for area in self._every if has_ground(area) and area.parts
        ]
        same = self._first(area for area, inner in holders if inner == leaves)
        if same is not None or ground is None or not leaves:
            return same
        alike = [
            (len(inner), area)
            for area, inner in holders
            if leaves <= inner
            and len(inner) <= MORE * len(leaves)
            and area.ground is not None
            and area.ground.stops == ground.stops
        ]
        return self._first(area for _, area in sorted(alike, key=lambda pair: pair[0]))

    def lies_upon(self, area: Area) -> None:
        """Take what an area holds for nothing of the boxes that it lies on."""
        self._meant -= self._leaves([area])

    def _leaves(self, areas: Sequence[Area]) -> set[Hashable]:
        """The texts and pictures in areas that are on the page too."""
        leaves = {_drawn(leaf) for area in areas for leaf in area.walk() if is_leaf(leaf)}
        return leaves & self._meant

    @property
    def spare(self) -> list[Area]:
        """The texts, pictures and boxes that are none of the page's, as far as anybody knows."""
        return [area for area in self._every if is_leaf(area) and id(area) not in self._taken]

    def _first(self, areas: Iterator[Area]) -> Area | None:
        area = next((area for area in areas if id(area) not in self._taken), None)
        if area is not None:
            self._taken.add(id(area))
        return area


def _drawn(leaf: Area) -> Hashable:
    """What tells a text or a picture from all others of its mockup, wherever it was put."""
    return leaf.layers, leaf.setting.text if leaf.setting else ""


def _key(area: Area) -> str:
    """What tells a thing that it is the same: its letters, or its slice; empty for others."""
    if area.setting is not None:
        return letters_of(area.setting.text)
    return PICTURE + area.piece.name if area.shape is Shape.PICTURE and area.piece else ""


def _keys(body: Element) -> Iterator[str]:
    """The texts and pictures of a page, in the order in which they are asked for."""
    for element in body.walk():
        shown = element.words or placeholder_of(element)
        if shown is not None:
            yield letters_of(shown.text)
        elif element.area is not None and (key := _key(element.area)):
            yield key


def placeholder_of(element: Element) -> Setting | None:
    """The words in a field, or the one that is chosen."""
    return next(element.space.words(), None) if element.tag in FIELDS else None


def _alike(keys: Sequence[str], areas: Sequence[Area]) -> dict[str, list[Area | None]]:
    """For each text and picture the areas that show the same where it stands, in order.

    Things that follow one another in both are the same; so is one that there is once in both, and
    one that there is as often. Which one of several it is, nobody knows otherwise.
    """
    areas = [area for area in areas if _key(area)]
    small = [_key(area) for area in areas]
    pairs: dict[int, int] = {}
    for block in SequenceMatcher(None, keys, small, autojunk=False).get_matching_blocks():
        pairs |= {block.a + n: block.b + n for n in range(block.size)}
    counts, small_counts = Counter(keys), Counter(small)
    for number, key in enumerate(keys):
        if number not in pairs and counts[key] == small_counts[key]:
            seen = {*pairs.values()}
            free = (n for n, other in enumerate(small) if other == key and n not in seen)
            pairs[number] = next(free)
    result: dict[str, list[Area | None]] = {}
    for number, key in enumerate(keys):
        at = pairs.get(number)
        result.setdefault(key, []).append(None if at is None else areas[at])
    return result
