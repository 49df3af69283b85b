"""Sizes: more pixels wanted than the mockup has, and icons of one set that are not alike."""

from __future__ import annotations

import statistics
from collections import Counter, defaultdict
from collections.abc import Iterator, Sequence

from riffler.analyse import weight
from riffler.cutlist.resolved import ResolvedSlice, scale_of
from riffler.cutlist.roles import Icon
from riffler.plan.check import Check
from riffler.plan.finding import Finding
from riffler.plan.subject import Subject
from riffler.reading.icon_sets import SET

#: The weight of an icon may be off the middle by this part of its side. That of a triangle is by a
#: sixth; what stands on a foot, as pictures of things do, is by less than a tenth.
OFF = 0.1


def _look(subject: Subject) -> Iterator[Finding]:
    """The sizes of every picture, and every set of icons."""
    for slice_ in subject.pictures:
        if not subject.mockup.is_vector:
            yield from _enlarged(subject, slice_)
    for icons in _sets(subject):
        yield from _uneven(subject, icons)
        for slice_ in icons:
            yield from _off_centre(subject, slice_)


def _enlarged(subject: Subject, slice_: ResolvedSlice) -> Iterator[Finding]:
    wanted = {
        size: scale_of(size, slice_.outer, slice_.density)
        for state in slice_.states
        for size in state.saving.sizes
    }
    too_large = {size: scale for size, scale in wanted.items() if scale > 1.001}
    if too_large:
        size, scale = max(too_large.items(), key=lambda item: item[1])
        listed = ", ".join(too_large)
        has = f"{slice_.box.width / slice_.density:g} x {slice_.box.height / slice_.density:g}"
        yield subject.finding(
            "enlarged",
            slice_,
            f"{listed}: the mockup has {slice_.box.width} x {slice_.box.height} px for {has} "
            "CSS pixels, "
            f"so {size} would be enlarged {scale:.2g} times.",
            f"Leave {listed} out, or ask for a larger original.",
            pixels=slice_.box.width,
        )


def _sets(subject: Subject) -> Iterator[list[ResolvedSlice]]:
    sets: dict[str | None, list[ResolvedSlice]] = defaultdict(list)
    for slice_ in subject.pictures:
        if isinstance(slice_.role, Icon):
            sets[slice_.group].append(slice_)
    yield from sets.values()


def _uneven(subject: Subject, icons: Sequence[ResolvedSlice]) -> Iterator[Finding]:
    if len(icons) < 2:
        return
    frames = Counter(slice_.outer for slice_ in icons)
    usual = frames.most_common(1)[0][0]
    middle = statistics.median(max(slice_.box.width, slice_.box.height) for slice_ in icons)
    for slice_ in icons:
        side = max(slice_.box.width, slice_.box.height)
        if slice_.outer != usual:
            yield subject.finding(
                "icon-size",
                slice_,
                f"Its canvas is {slice_.outer.width} x {slice_.outer.height} px, the others' "
                f"{usual.width} x {usual.height}.",
                "Take its frame away, or give the group one.",
                pixels=side,
            )
        elif not 1 / SET <= side / middle <= SET:
            yield subject.finding(
                "icon-size",
                slice_,
                f"It is {side} px along its longer side, the others of its set about {middle:g}.",
                "Draw it at the size of the others.",
                pixels=side,
            )


def _off_centre(subject: Subject, slice_: ResolvedSlice) -> Iterator[Finding]:
    """The middle of an icon's weight, alpha taken for weight, against the middle of its box."""
    if isinstance(slice_.role, Icon) and slice_.role.balance == "weight":
        return
    pixels = subject.draw(slice_)
    result = weight.middle(pixels)
    if result is None:
        return
    height, width = pixels.shape[:2]
    x, y = result[0] - width / 2, result[1] - height / 2
    side = max(width, height)
    if max(abs(x), abs(y)) > OFF * side:
        yield subject.finding(
            "icon-centre",
            slice_,
            f"Its weight is {abs(x):.0f} px {'right' if x > 0 else 'left'} and {abs(y):.0f} px "
            f"{'below' if y > 0 else 'above'} the middle of its box.",
            'Say balance = "weight", or give it a box with room on the lighter side.',
            pixels=round(max(abs(x), abs(y))),
        )


CHECK = Check(
    "sizes",
    {
        "enlarged": "a size larger than the mockup has pixels for",
        "icon-size": "an icon larger or smaller than the others of its set",
        "icon-centre": "an icon whose weight is off the middle",
    },
    each=_look,
)
