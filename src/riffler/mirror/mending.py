"""How far elements are off -> declarations that put them right, where they went wrong first.

What stands lower because something above it does is not at fault: of each thing only its distance
to what is around and before it counts. When nothing more is found so, what is left is made good by
the room between things. Members of a list are mended alike: as most of them
need it.
"""

from __future__ import annotations

import re
from collections import Counter, defaultdict
from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from itertools import pairwise
from statistics import median

from riffler.markup.area import Area, Shape
from riffler.markup.element import Element, Lengths, is_running, snapped
from riffler.markup.extents import height_of, top_of
from riffler.markup.merging import LISTS
from riffler.markup.places import widest
from riffler.mirror.deviations import Deviation
from riffler.mirror.instances import Instance
from riffler.mirror.standing import Stand
from riffler.mirror.troubles import Trouble, TroubleKind

#: The least that anything is moved by, in CSS pixels.
LEAST = 0.75

#: How far a length may be too small to be made less and is made none, in CSS pixels.
NONE = 1.0

#: A length as style sheets of ours write it.
_LENGTH = re.compile(r"(-?[\d.]+)(px|rem)?")

#: Pixels in the units of lengths.
_UNITS = {"px": 1.0, "rem": 16.0, None: 1.0}


@dataclass(frozen=True)
class Mend:
    """Declarations that may put an element right: at any width, and back in narrower windows.

    `mockups` are for windows of a narrow mockup, by its media query.
    """

    element: Element
    css: Mapping[str, str] = field(default_factory=dict)
    narrow: Mapping[str, str] = field(default_factory=dict)
    mockups: Mapping[str, dict[str, str]] = field(default_factory=dict)

    @property
    def key(self) -> tuple[int, str]:
        """What tells it from other mends."""
        return id(self.element), repr((self.css, self.narrow, self.mockups))

    def put(self) -> Callable[[], None]:
        """Declare it; calling the answer takes it back."""
        element = self.element
        css, narrow, mockups = element.css, element.narrow, element.mockups
        element.css, element.narrow = {**css, **self.css}, {**narrow, **self.narrow}
        element.mockups = {**mockups, **self.mockups}

        def undo() -> None:
            element.css, element.narrow, element.mockups = css, narrow, mockups

        return undo


def for_lines(deviations: Sequence[Deviation], lengths: Lengths) -> Iterator[Mend]:
    """Mends for texts that break where they should not, or go on where they should break."""
    for deviation in deviations:
        rules, setting = deviation.instance.rules, deviation.instance.words
        if rules is None or setting is None or not (deviation.lines or deviation.is_broken):
            continue
        if setting.rows == 1:
            yield Mend(rules, {"white-space": "nowrap"}, {"white-space": "normal"})
        elif setting.next_words >= setting.width + 1:
            width = lengths.say(widest(setting.width, setting.next_words))
            css = {"max-width": width}
            if deviation.lines > 0 or deviation.spare < 0:
                css["min-width"] = width
            yield Mend(rules, css, {"min-width": "0"} if "min-width" in css else {})


def for_absent(page: Instance, stands: Mapping[int, Stand], when: str) -> Iterator[Mend]:
    """Leaving out what a narrow mockup does not show, and stands on its page all the same."""
    numbers = {id(instance): number for number, instance in enumerate(page.walk())}

    def within(instance: Instance) -> Iterator[Mend]:
        for inner in instance.inner:
            stand = stands.get(numbers[id(inner)])
            if any(part.rules is not None for part in inner.walk()):
                yield from within(inner)
            elif stand is not None and stand.box.height > 0 and not is_running(instance.shown):
                yield Mend(inner.ruled, mockups={when: {"display": "none"}})

    yield from within(page)


def for_trouble(around: Sequence[Instance], trouble: Trouble) -> Iterator[Mend]:
    """Mends for what goes wrong in a window, to be tried one by one, the nearest things first.

    `around` are the thing and all that holds it, from the inside.
    """
    instance = trouble.instance
    piece = instance.area.piece if instance.area else None
    if trouble.kind is TroubleKind.ENLARGED and piece is not None:
        yield from _in_windows(instance, {"max-width": f"{piece.paint.width:g}px"})
    if trouble.kind is TroubleKind.DISTORTED:
        yield from _in_windows(instance, {"height": "auto"})
    if trouble.kind in (TroubleKind.OUT, TroubleKind.OVER):
        for holder in around:
            for css in _looser(holder.rules.css if holder.rules else {}):
                yield from _in_windows(holder, css)


def _in_windows(instance: Instance, css: Mapping[str, str]) -> Iterator[Mend]:
    """Declarations for windows that are narrower than the mockup, or those of the narrow one."""
    if instance.rules is not None:
        yield Mend(instance.rules, css) if instance.is_narrow else Mend(instance.rules, {}, css)


def _looser(css: Mapping[str, str]) -> Iterator[dict[str, str]]:
    """What gives way where declarations hold something to its size or its line."""
    if css.get("white-space") == "nowrap":
        yield {"white-space": "normal"}
    if "min-width" in css:
        yield {"min-width": "0"}
    if css.get("display") == "flex" and css.get("flex-direction") != "column":
        yield {"flex-wrap": "wrap"}
    if (
        "px" in css.get("grid-template-columns", "")
        and "auto-fi" not in css["grid-template-columns"]
    ):
        yield {"grid-template-columns": "minmax(0, 1fr)"}
    if "height" in css:
        yield {"height": "auto"}
    if css.get("flex") == "none" or "px" in css.get("width", ""):
        yield {"max-width": "100%", "flex": "0 1 auto"}
    yield from ({name: "0"} for name in ("margin-left", "margin-right") if name in css)


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
        self._stands = {
            id(instance): stands[number]
            for number, instance in enumerate(page.walk())
            if number in stands
        }
        self._unlike = {id(deviation.instance) for deviation in off if deviation.is_unlike}
        self._alike: dict[int, int] = Counter(
            id(instance.rules) for instance in page.walk() if self._is_shown(instance)
        )

    def mends(self) -> Iterator[Mend]:
        """All of them; what has the same rules is moved alike."""
        shifts_of: dict[tuple[int, str], list[_Shift]] = defaultdict(list)
        for shift in self._within(self._page):
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
        match = _LENGTH.fullmatch(element.css.get(name, "0"))
        if match is None:
            return None
        before = float(match[1]) * _UNITS[match[2]]
        after = before + by
        if after < 0 <= before:
            if after < -NONE:
                return None
            after = 0.0
        return self._lengths.say(snapped(after))

    def _is_shown(self, instance: Instance) -> bool:
        stand = self._stands.get(id(instance))
        return stand is not None and stand.box.height > 0

    def _within(self, instance: Instance) -> Iterator[_Shift]:
        """What is to be moved in something."""
        if instance.shown.tag == "table" or is_running(instance.shown):
            return
        children = [child for child in instance.inner if self._is_in_flow(child)]
        if instance.area is not None and instance.rules is not None and children:
            if _is_stack(instance.rules, instance.area.shape):
                yield from self._in_stack(instance, instance.area, children)
            else:
                yield from self._beside(instance, children)
        for child in instance.inner:
            yield from self._within(child)

    def _is_in_flow(self, child: Instance) -> bool:
        css = child.rules.css if child.rules else {}
        is_placed = css.get("position") == "absolute" or "place-self" in css
        return child.laid.area is not None and self._is_shown(child) and not is_placed

    def _off(self, around: Instance, child: Instance) -> float:
        """How much lower a thing stands in what is around it than it should."""
        top = self._stands[id(child)].box.y - self._stands[id(around)].box.y
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
        children = sorted(children, key=lambda child: self._stands[id(child)].box.y)
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
        lower = self._stands[id(around)].box.height + moved - height_of(area)
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
        return self._stands[id(child)].box.height - height_of(area)

    def _in_list(self, around: Instance, members: Sequence[Instance]) -> Iterator[_Shift]:
        """Members of a list: the first is moved by the padding, and the gap is between all."""
        off = [self._off(around, member) for member in members]
        if abs(off[0]) >= LEAST:
            yield _Shift(around, "padding-top", -off[0])
        steps = [after - before for before, after in pairwise(off)]
        if steps and abs(median(steps)) >= LEAST:
            yield _Shift(around, "gap", -median(steps))

    def _beside(self, around: Instance, children: Sequence[Instance]) -> Iterator[_Shift]:
        """Things beside one another that begin at the top."""
        assert around.rules
        if around.rules.css.get("align-items", "start") != "start" or around.shown.tag in LISTS:
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
    match = _LENGTH.fullmatch(instance.rules.css["margin-top"]) if instance.rules else None
    return float(match[1]) * _UNITS[match[2]] if match else 0.0


def _ending(css: Mapping[str, str], by: float) -> str:
    """What says where a box ends that is to be so much higher."""
    if "height" in css:
        return "height"
    padding = _LENGTH.fullmatch(css.get("padding-bottom", "0"))
    is_padded = padding is not None and float(padding[1]) * _UNITS[padding[2]] >= -by > 0
    return "min-height" if "min-height" in css and not is_padded else "padding-bottom"


def _is_stack(rules: Element, shape: Shape) -> bool:
    """Whether what is in it stands under one another."""
    display = rules.css.get("display", "block")
    if display == "flex":
        return rules.css.get("flex-direction") == "column"
    tracks = rules.css.get("grid-template-columns", "minmax(0, 1fr)")
    return shape is not Shape.PILE and (display != "grid" or tracks == "minmax(0, 1fr)")
