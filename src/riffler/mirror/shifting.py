"""Where everything stands -> lengths that put it right, where it went wrong first.

What stands lower because something above it does is not at fault: of each thing only its distance
to what is around and before it counts. When nothing more is found so, what is left is made good by
the room between things. Members of a list are moved alike, as most of them need it.
"""

from __future__ import annotations

import re
from collections import Counter, defaultdict
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from itertools import pairwise
from statistics import median

from riffler.markup.area import Area, Shape
from riffler.markup.element import Element, Lengths, is_running, snapped
from riffler.markup.extents import has_ground, height_of, left_of, top_of
from riffler.markup.merging import LISTS
from riffler.mirror.deviations import NEAR, Deviation
from riffler.mirror.instances import Instance
from riffler.mirror.mending import Mend
from riffler.mirror.standing import Stand

#: The least that anything is moved by, in CSS pixels.
LEAST = 0.75

#: How far a length may be too small to be made less and is made none, in CSS pixels.
NONE = 1.0

#: A length as style sheets of ours write it.
_LENGTH = re.compile(r"(-?[\d.]+)(px|rem)?")

#: Pixels in the units of lengths.
_UNITS = {"px": 1.0, "rem": 16.0, None: 1.0}


@dataclass(frozen=True)
class _Shift:
    """A property of something that is to be so many CSS pixels more."""

    instance: Instance
    name: str
    by: float


class Shifts:
    """Finds what is to be moved on a page that stands as a browser put it."""

    def __init__(
        self,
        page: Instance,
        stands: Mapping[int, Stand],
        off: Sequence[Deviation],
        lengths: Lengths,
        *,
        is_final: bool,
    ) -> None:
        self._page, self._lengths, self._is_final = page, lengths, is_final
        self._stands = stands
        self._unlike = {id(deviation.instance) for deviation in off if deviation.is_unlike}
        self._alike: dict[int, int] = Counter(
            id(instance.rules) for instance in page.walk() if self._is_shown(instance)
        )

    def mends(self) -> Iterator[Mend]:
        """What is to be moved down or up; what has the same rules is moved alike."""
        yield from self._alike_moved(self._within(self._page))

    def across(self) -> Iterator[Mend]:
        """What is to be moved to the right or to the left, but for words in the middle."""
        yield from self._alike_moved(self._aside(self._page))

    def _alike_moved(self, moves: Iterator[_Shift]) -> Iterator[Mend]:
        shifts_of: dict[tuple[int, str], list[_Shift]] = defaultdict(list)
        for shift in moves:
            shifts_of[id(shift.instance.rules), shift.name].append(shift)
        for (rules, name), shifts in shifts_of.items():
            values = [shift.by for shift in shifts]
            values += [0.0] * (self._alike[rules] - len(shifts))
            element = shifts[0].instance.rules
            by = snapped(median(values))
            if element is None or not by:
                continue
            if (value := self._more(element, name, by)) is not None:
                yield Mend(element, {name: value})

    def _more(self, element: Element, name: str, by: float) -> str | None:
        """A length with so much more; None where it is no plain one, or would be less than none."""
        said, _, across = element.css.get(name, "0").partition(" ")
        before = _pixels(said)
        if before is None or (across and name != "gap"):
            return None
        after = before + by
        if after < 0 <= before:
            if after < -NONE:
                return None
            after = 0.0
        length = self._lengths.say(snapped(after))
        if name == "gap" and not across and _has_columns(element.css):
            across = said
        return f"{length} {across}".strip()

    def _is_shown(self, instance: Instance) -> bool:
        stand = self._stands.get(instance.number)
        return stand is not None and stand.box.height > 0

    def _within(self, instance: Instance) -> Iterator[_Shift]:
        """What is to be moved in something."""
        if instance.shown.tag == "table" or is_running(instance.shown):
            return
        children = [child for child in instance.inner if self._is_in_flow(child)]
        has_box = self._is_shown(instance)  # what has none there has its children laid by another
        if has_box and instance.area is not None and instance.rules is not None and children:
            if _is_stack(instance.rules, instance.area.shape):
                yield from self._in_stack(instance, instance.area, children)
            else:
                yield from self._beside(instance, children)
        for child in instance.inner:
            yield from self._within(child)

    def _aside(self, around: Instance) -> Iterator[_Shift]:
        """What stands farther from the left edge of what is around it than it should, or nearer."""
        if around.shown.tag == "table" or is_running(around.shown):
            return
        area = around.laid.area
        for child in around.inner:
            own, rules = child.laid.area, child.rules
            if area and own and rules and self._is_in_flow(child) and self._is_shown(around):
                left = self._stands[child.number].box.x - self._stands[around.number].box.x
                by = left_of(own) - left_of(area) - left
                is_free = has_ground(own) or rules.css.get("text-align") != "center"
                if abs(by) >= NEAR and is_free:
                    yield _Shift(child, "margin-left", by)
            yield from self._aside(child)

    def _is_in_flow(self, child: Instance) -> bool:
        css = child.rules.css if child.rules else {}
        is_placed = css.get("position") == "absolute" or "place-self" in css
        return child.laid.area is not None and self._is_shown(child) and not is_placed

    def _off(self, around: Instance, child: Instance) -> float:
        """How much lower a thing stands in what is around it than it should."""
        top = self._stands[child.number].box.y - self._stands[around.number].box.y
        own_area, area = child.laid.area, around.area
        assert own_area is not None
        assert area is not None
        return top - (top_of(own_area) - top_of(area))

    def _in_stack(
        self, around: Instance, area: Area, children: Sequence[Instance]
    ) -> Iterator[_Shift]:
        """Things under one another: each is moved by its margin, the first by the padding."""
        if around.shown.tag in LISTS:
            yield from self._in_list(around, children)
            return
        moved = excused = 0.0
        children = sorted(children, key=lambda child: self._stands[child.number].box.y)
        for number, child in enumerate(children):
            lower = self._off(around, child) + moved
            by = _least(-lower, excused - lower)
            excused += self._excess(child)
            if abs(by) < LEAST:
                continue
            pushing = _pushing(child)
            if pushing is not None or number:
                yield _Shift(pushing or child, "margin-top", by)
            else:
                yield _Shift(around, "padding-top", by)
            moved += by
        lower = self._stands[around.number].box.height + moved - height_of(area)
        by = _least(-lower, excused - lower)
        if area.ground is not None and abs(by) >= LEAST and around.rules:
            yield _Shift(around, _ending(around.rules.css, by), by)

    def _excess(self, child: Instance) -> float:
        """How much too high a thing is, where that is not made good by the room below it.

        It is mended by itself first; where something in it has a size of its own that is off, that
        is not hidden.
        """
        area = child.laid.area
        is_unlike = any(id(one) in self._unlike for one in child.walk())
        if area is None or (self._is_final and not is_unlike):
            return 0.0
        return self._stands[child.number].box.height - height_of(area)

    def _in_list(self, around: Instance, members: Sequence[Instance]) -> Iterator[_Shift]:
        """Members of a list: the first is moved by the padding, and the gap is between all."""
        firsts = [members[0]]
        for member in members[1:]:
            before, here = self._stands[firsts[-1].number].box, self._stands[member.number].box
            if here.x <= before.x + LEAST:  # the next row begins
                firsts.append(member)
        off = [self._off(around, member) for member in firsts]
        if abs(off[0]) >= LEAST:
            yield _Shift(around, "padding-top", -off[0])
        steps = [after - before for before, after in pairwise(off)]
        if steps and abs(median(steps)) >= LEAST:
            yield _Shift(around, "gap", -median(steps))

    def _beside(self, around: Instance, children: Sequence[Instance]) -> Iterator[_Shift]:
        """Things beside one another that begin at the top."""
        assert around.rules
        if around.shown.tag in LISTS:
            yield from self._in_list(around, children)
            return
        if around.rules.css.get("align-items", "start") != "start":
            return
        for child in children:
            by = -self._off(around, child)
            if abs(by) >= LEAST:
                yield _Shift(child, "margin-top", by)


def _least(first: float, second: float) -> float:
    """What both lengths have in common: nothing, where they have different signs."""
    if first * second <= 0:
        return 0.0
    return first if abs(first) < abs(second) else second


def _pushing(instance: Instance) -> Instance | None:
    """What has the margin that something begins with: itself, or the first thing in it.

    Margins of a box and of its first child become one, the larger. CSS 2.2, 8.3.1.
    """
    holders: list[Instance] = []
    at: Instance | None = instance
    while at is not None:
        css = at.rules.css if at.rules else {}
        if "margin-top" in css:
            holders.append(at)
        keeps_in = css.keys() & {"padding-top", "border", "height"}
        is_flow = css.get("display", "block") == "block" and not keeps_in
        at = at.inner[0] if is_flow and at.inner else None
    return max(holders, key=_margin, default=None)


def _margin(instance: Instance) -> float:
    """The margin above something, in CSS pixels, as far as it is a plain length."""
    return (_pixels(instance.rules.css["margin-top"]) if instance.rules else None) or 0.0


def _ending(css: Mapping[str, str], by: float) -> str:
    """What says where a box ends that is to be so much higher."""
    if "height" in css:
        return "height"
    padding = _pixels(css.get("padding-bottom", "0"))
    is_padded = padding is not None and padding >= -by > 0
    return "min-height" if "min-height" in css and not is_padded else "padding-bottom"


def _pixels(said: str) -> float | None:
    """A plain length in CSS pixels; None for any other."""
    match = _LENGTH.fullmatch(said)
    return float(match[1]) * _UNITS[match[2]] if match else None


def _has_columns(css: Mapping[str, str]) -> bool:
    """Whether a gap is between columns too."""
    return "grid-template-columns" in css or css.get("display") == "flex"


def _is_stack(rules: Element, shape: Shape) -> bool:
    """Whether what is in it stands under one another."""
    display = rules.css.get("display", "block")
    if display == "flex":
        return rules.css.get("flex-direction") == "column"
    tracks = rules.css.get("grid-template-columns", "minmax(0, 1fr)")
    return shape is not Shape.PILE and (display != "grid" or tracks == "minmax(0, 1fr)")
