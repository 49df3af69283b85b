"""Parts that hold one another no longer -> rows, columns, and what lies on one another.

The gaps between boxes are cut one way and then the other: Nagy and Seth, Hierarchical
representation of optically scanned documents, 1984. Columns that are not in step go before rows,
since a gap that happens to go across both of them means nothing.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from itertools import pairwise, takewhile
from typing import TypeAlias

from riffler.geometry import Box, union
from riffler.mockup import address
from riffler.reading.part import PagePart, PartKind

#: The narrowest gap between two columns, how far things beside one another may be off the same
#: height, and how high a row is at the most that is one line: in CSS pixels.
GUTTER, LEVEL, LINE = 12, 8, 80

#: A line that goes on from a text is no thicker, in CSS pixels.
LEADER = 3

#: How far a picture may reach over what it stands beside or under, as a share of the smaller side.
REACH = 0.3

_ART = (PartKind.PICTURE, PartKind.ICON)

Span: TypeAlias = tuple[int, int]


def across(box: Box) -> Span:
    """From left to right."""
    return box.x, box.right


def down(box: Box) -> Span:
    """From top to bottom."""
    return box.y, box.bottom


_WAYS: tuple[tuple[PartKind, Callable[[Box], Span]], ...] = (
    (PartKind.ROWS, down),
    (PartKind.COLUMNS, across),
)


@dataclass(frozen=True)
class Arranging:
    """How parts are put in order on a page of so many mockup pixels per CSS pixel."""

    density: float

    def cut(self, parts: Sequence[PagePart]) -> tuple[PagePart, ...]:
        """Parts in rows and columns; rows are what stands under one another without a word."""
        whole = self._arranged([in_run for part in parts for in_run in _in_runs(part, parts)])
        if whole is None:
            return ()
        return whole.parts if whole.kind is PartKind.ROWS else (whole,)

    def _arranged(self, parts: list[PagePart]) -> PagePart | None:
        if len(parts) < 2:
            return parts[0] if parts else None
        leading = {part for part in parts if self._leads(part, parts)}
        for reach in (0.0, REACH):
            for kind, span in _WAYS:
                groups = _groups(parts, span, reach)
                if kind is PartKind.ROWS and leading:
                    groups = _with_leaders(groups, leading)
                if kind is PartKind.ROWS and len(groups) > 1:
                    groups = self._columns_first(groups)
                if len(groups) > 1:
                    return self._frame(kind, [self._arranged(group) for group in groups])
        return self._pile(parts)

    def _leads(self, part: PagePart, parts: Sequence[PagePart]) -> bool:
        """Whether a thin line goes on from a text: a little under its ink, beside it."""
        box, near = part.box, LEADER * self.density
        if part.kind is not PartKind.BOX or box.height > near or box.width < 4 * near:
            return False
        return any(
            other_part.kind is PartKind.WORDS
            and other_part.box.y < box.y <= other_part.box.bottom + 2 * near
            and not (other_part.box.x < box.right and box.x < other_part.box.right)
            for other_part in parts
        )

    def _frame(self, kind: PartKind, parts: Sequence[PagePart | None]) -> PagePart:
        inner = tuple(part for part in parts if part is not None)
        whole = union(part.whole for part in inner)
        return PagePart(kind, whole, whole, parts=inner)

    def _pile(self, parts: list[PagePart]) -> PagePart:
        """What can't be cut: all that can be once something is taken off, and that upon it.

        Art is taken off before other things, and what lies on the most others.
        """
        other_parts, off = list(parts), list[PagePart]()
        while len(other_parts) > 1:
            top = max(other_parts, key=lambda part: _overlaps(part, other_parts))
            other_parts.remove(top)
            off.append(top)
            if any(len(_groups(other_parts, span)) > 1 for _, span in _WAYS):
                break
        if len(other_parts) > 1 or off[0].kind in _ART:
            return self._frame(PartKind.PILE, [self._arranged(other_parts), *reversed(off)])
        largest_first = sorted(parts, key=lambda part: (-part.whole.area, part.box.y, part.box.x))
        return self._frame(PartKind.PILE, largest_first)

    def _columns_first(self, rows: list[list[PagePart]]) -> list[list[PagePart]]:
        """Rows, with those together that are really columns which are not in step."""
        result: list[list[PagePart]] = []
        start = 0
        while start < len(rows):
            end = self._end_of_columns(rows, start)
            result.append([part for row in rows[start:end] for part in row])
            start = end
        return result

    def _end_of_columns(self, rows: Sequence[list[PagePart]], start: int) -> int:
        """Where columns end that begin at a row; the next row where there are none."""
        first = rows[start]
        gutters = self._gutters(first)
        chosen = (gutters, *([gutter] for gutter in gutters))
        best = max(_end_of_groups(rows, start, some) for some in chosen)
        if self._is_level(first) and _height(first) <= LINE * self.density:
            return best
        for gutter in gutters:
            end, steps, sides = start, 0, 0
            while end < len(rows) and not any(_crosses(part.whole, gutter) for part in rows[end]):
                if _on_both_sides(rows[end], gutter):
                    sides += 1
                    steps += not self._is_level_beside(rows[end], gutter)
                end += 1
            if sides > 1 and steps:
                best = max(best, end)
        return best

    def _gutters(self, row: Sequence[PagePart]) -> list[Span]:
        """The gaps between the parts of a row, near their right edges: text ends where it likes."""
        groups = sorted((across(part.whole) for part in row), key=lambda span: span[0])
        gaps, end = [], groups[0][1]
        for left, right in groups[1:]:
            if left - end >= GUTTER * self.density:
                gaps.append((end, left))
            end = max(end, right)
        near = max(1, round(self.density))
        return [(gap[1] - 6 * near, gap[1] - 4 * near) for gap in gaps]

    def _is_level(self, row: Sequence[PagePart]) -> bool:
        columns = _groups(row, across)
        return all(self._are_level(*map(_whole, pair)) for pair in pairwise(columns))

    def _is_level_beside(self, row: Sequence[PagePart], gutter: Span) -> bool:
        left, right = _between(row, [gutter])
        return self._are_level(_whole(left), _whole(right))

    def _are_level(self, first: Box, second: Box) -> bool:
        """Whether two boxes begin at one height, or have their middles there."""
        near = LEVEL * self.density
        middle = abs(first.y + first.bottom - second.y - second.bottom) / 2
        return abs(first.y - second.y) <= near or middle <= near


def _between(row: Sequence[PagePart], gutters: Sequence[Span]) -> list[list[PagePart]]:
    """The parts of a row by the columns that lie between gutters."""
    columns: list[list[PagePart]] = [[] for _ in range(len(gutters) + 1)]
    for part in row:
        columns[sum(part.whole.right > gutter[1] for gutter in gutters)].append(part)
    return columns


def _end_of_groups(rows: Sequence[list[PagePart]], start: int, gutters: Sequence[Span]) -> int:
    """Where columns end of which the mockup groups one at least, row after row.

    The next row where it groups none: what is alike in rows is grouped by its rows.
    """
    columns = [[*column] for column in _between(rows[start], gutters)]
    end = start + 1
    while end < len(rows) and all(len(column) for column in columns):
        if any(_crosses(part.whole, gutter) for part in rows[end] for gutter in gutters):
            break
        row = _between(rows[end], gutters)
        if not any(
            more and _is_of_group(more, column, [*columns, *row])
            for more, column in zip(row, columns, strict=True)
        ):
            break
        columns = [[*column, *more] for more, column in zip(row, columns, strict=True)]
        end += 1
    return end


def _is_of_group(
    row: Sequence[PagePart], column: Sequence[PagePart], columns: Sequence[Sequence[PagePart]]
) -> bool:
    """Whether parts stand in one group with the column above them, and no other column does."""
    parts = {*row, *column}
    if all(part.kind in _ART for part in parts):
        return False
    group = _group_of([*row, *column])
    others = [
        tuple(address.parts(part.layers[0])[: len(group)])
        for other_column in columns
        for part in other_column
        if part.layers and part not in parts
    ]
    return bool(group) and bool(others) and group not in others


def _group_of(parts: Sequence[PagePart]) -> tuple[str, ...]:
    """The names of the innermost group that all parts stand in, from the outermost."""
    paths = [address.parts(part.layers[0])[:-1] for part in parts if part.layers]
    together = zip(*paths, strict=False)
    return tuple(names[0] for names in takewhile(lambda names: len(set(names)) == 1, together))


def _crosses(box: Box, gutter: Span) -> bool:
    return box.x < gutter[1] and box.right > gutter[0]


def _on_both_sides(row: Sequence[PagePart], gutter: Span) -> bool:
    return any(part.whole.right <= gutter[0] for part in row) and any(
        part.whole.x >= gutter[1] for part in row
    )


def _whole(parts: Sequence[PagePart]) -> Box:
    return union(part.whole for part in parts)


def _height(parts: Sequence[PagePart]) -> int:
    return _whole(parts).height


def _overlaps(part: PagePart, parts: Sequence[PagePart]) -> tuple[bool, int, int]:
    """Sorts parts of a pile: art, then what lies on most others, then the smaller ones."""
    other_parts = [
        other_part
        for other_part in parts
        if other_part is not part and other_part.whole.meets(part.whole)
    ]
    return part.kind in _ART and bool(other_parts), len(other_parts), -part.whole.area


def _groups(
    parts: Sequence[PagePart], span: Callable[[Box], Span], reach: float = 0.0
) -> list[list[PagePart]]:
    """Parts with a gap between one group and the next; pictures may `reach` over it a little."""
    groups: list[list[PagePart]] = []
    ends: list[tuple[int, PagePart]] = []
    for part in sorted(parts, key=lambda part: span(part.whole)):
        start, stop = span(part.whole)
        if groups and any(start < end - _over(part, last, reach, span) for end, last in ends):
            groups[-1].append(part)
        else:
            groups.append([part])
        ends.append((stop, part))
    return groups


def _with_leaders(groups: list[list[PagePart]], leading: set[PagePart]) -> list[list[PagePart]]:
    """Rows, with lines that go on from a text in the row of the text above them."""
    result: list[list[PagePart]] = []
    for group in groups:
        if result and leading.issuperset(group):
            result[-1].extend(group)
        else:
            result.append(group)
    return result


def _over(part: PagePart, other_part: PagePart, reach: float, span: Callable[[Box], Span]) -> float:
    """How far two parts may lie over one another and still be told apart."""
    if not reach or not {part.kind, other_part.kind} & set(_ART):
        return 0
    return reach * min(stop - start for start, stop in (span(part.whole), span(other_part.whole)))


def _in_runs(part: PagePart, parts: Sequence[PagePart]) -> list[PagePart]:
    """A part with its likes, or several of them where other things stand in between."""
    members = part.members
    if len(members) < 2 or all(part.step):
        return [part]
    span = across if part.step[0] else down
    other_boxes = [second.box for first in parts if first is not part for second in first.members]
    between = [span(box) for box in other_boxes if _is_between(box, part)]
    runs: list[list[PagePart]] = []
    for member in sorted(members, key=lambda member: span(member.box)):
        if runs and not any(
            span(runs[-1][-1].box)[1] <= start and end <= span(member.box)[0]
            for start, end in between
        ):
            runs[-1].append(member)
        else:
            runs.append([member])
    return [_run(part, run) for run in runs]


def _is_between(box: Box, part: PagePart) -> bool:
    """Whether something stands among things alike, and on none of them."""
    return box.meets(part.whole) and not any(box.meets(member.box) for member in part.members)


def _run(part: PagePart, members: Sequence[PagePart]) -> PagePart:
    """Some of a row of things alike, as a row of their own."""
    if len(members) == part.count:
        return part
    whole = union(member.box for member in members)
    step = part.step if len(members) > 1 else (0, 0)
    return replace(
        members[0], whole=whole, count=len(members), step=step, others=tuple(members[1:])
    )
