"""Pictures at equal steps with text under each, in no groups -> one region for the words of each.

Cards that nobody grouped are cards all the same: the place says which text goes with which picture.
"""

from __future__ import annotations

from collections.abc import Sequence

from riffler.analyse.repetition import TOLERANCE, Lattice, lattices
from riffler.cutlist.model import SliceTable
from riffler.geometry import Box, union
from riffler.plan.draft.drafted import DraftedSlice
from riffler.plan.draft.state import Drafting, times_of
from riffler.reading.layout import NEAR, Region

#: The fewest pictures at equal steps that make a row of things alike.
FEWEST = 3


def rows(draft: Drafting, regions: Sequence[Region]) -> list[Region]:
    """Drafts the rows there are; returns the regions that are in none of them."""
    left = list(regions)
    tolerance = round(TOLERANCE * draft.reading.density)
    for pictures in _of_one_size(draft.slices, tolerance):
        for lattice in lattices([new.box for new in pictures], tolerance):
            members = [pictures[index] for index in lattice.members]
            texts = [_below(new.box, left, draft.reading.density) for new in members]
            if len(members) >= FEWEST and len({len(found) for found in texts}) == 1 and texts[0]:
                _draft_row(draft, lattice, members, texts)
                taken = [region for found in texts for region in found]
                left = [region for region in left if region not in taken]
    return left


def _of_one_size(slices: Sequence[DraftedSlice], tolerance: int) -> list[list[DraftedSlice]]:
    """Pictures that stand alone, by their size."""
    sets: list[list[DraftedSlice]] = []
    for new in slices:
        if new.table.role is not None or new.table.times or not new.table.only:
            continue
        homes = (known for known in sets if _as_large(known[0].box, new.box, tolerance))
        home = next(homes, None)
        if home is None:
            sets.append([new])
        else:
            home.append(new)
    return sets


def _as_large(box: Box, other: Box, tolerance: int) -> bool:
    wide, high = abs(box.width - other.width), abs(box.height - other.height)
    return max(wide, high) <= 2 * tolerance


def _below(picture: Box, regions: Sequence[Region], density: float) -> list[Region]:
    """The text right under a picture and no wider, and what follows it there."""
    found: list[Region] = []
    bottom = picture.bottom
    for region in sorted(regions, key=lambda region: region.box.y):
        box, near = region.box, NEAR * density
        is_within = box.x >= picture.x - near and box.right <= picture.right + near
        if is_within and -near / 2 <= box.y - bottom <= near:
            found.append(region)
            bottom = max(bottom, box.bottom)
    return found


def _draft_row(
    draft: Drafting,
    lattice: Lattice,
    members: Sequence[DraftedSlice],
    texts: Sequence[Sequence[Region]],
) -> None:
    """One region for all, as large as the largest of them."""
    boxes = [
        union([new.box, *(region.box for region in found)])
        for new, found in zip(members, texts, strict=True)
    ]
    first = boxes[0]
    box = union(each.moved(first.x - each.x, first.y - each.y) for each in boxes)
    layers = tuple(layer.address for found in texts for region in found for layer in region.layers)
    name = draft.names.of_row(
        None, [region.layers[0] for found in texts for region in found[:1]], "items"
    )
    why = f"{len(members)} pictures alike with words under each. A region for each with its words."
    table = SliceTable(
        **draft.guides.span(box), role="words", times=times_of(lattice, len(members))
    )
    draft.add(name, table, why, layers, box)
