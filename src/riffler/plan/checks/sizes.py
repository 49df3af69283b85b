"""Sizes: more pixels wanted than the mockup has, and icons of one set that are not alike."""

from __future__ import annotations

import statistics
from collections import Counter, defaultdict
from collections.abc import Iterator, Sequence

from riffler.analyse import weight
from riffler.cutlist.resolved import ResolvedSlice, scale_of
from riffler.mockup.svg import SvgDocument
from riffler.plan.finding import Finding
from riffler.plan.page import Page

#: Icons of a set whose longer sides are within this ratio look alike in size.
ALIKE = 1.3

#: The weight of an icon may be off the middle by this part of its side.
OFF = 0.06


def check(pages: Sequence[Page]) -> Iterator[Finding]:
    """The sizes of every picture, and every set of icons."""
    for page in pages:
        is_vector = isinstance(page.bench.renderer.mockup.source, SvgDocument)
        for one in page.pictures:
            if not is_vector:
                yield from _enlarged(page, one)
        for icons in _sets(page):
            yield from _uneven(page, icons)
            for one in icons:
                yield from _off_centre(page, one)


def _enlarged(page: Page, one: ResolvedSlice) -> Iterator[Finding]:
    wanted = {
        size: scale_of(size, one.outer, one.density)
        for state in one.states for size in state.saving.sizes
    }  # fmt: skip
    too_large = {size: scale for size, scale in wanted.items() if scale > 1.001}
    if too_large:
        size, scale = max(too_large.items(), key=lambda item: item[1])
        listed = ", ".join(too_large)
        has = f"{one.box.width / one.density:g} x {one.box.height / one.density:g}"
        yield page.finding(
            "enlarged", one,
            f"{listed}: the mockup has {one.box.width} x {one.box.height} px for {has} CSS pixels, "
            f"so {size} would be enlarged {scale:.2g} times.",
            f"Leave {listed} out, or ask for a larger original.", pixels=one.box.width,
        )  # fmt: skip


def _sets(page: Page) -> Iterator[list[ResolvedSlice]]:
    sets: dict[str, list[ResolvedSlice]] = defaultdict(list)
    for one in page.pictures:
        if one.role == "icon":
            sets[one.group].append(one)
    yield from sets.values()


def _uneven(page: Page, icons: Sequence[ResolvedSlice]) -> Iterator[Finding]:
    if len(icons) < 2:
        return
    frames = Counter((one.frame.width, one.frame.height) for one in icons if one.frame)
    usual = frames.most_common(1)[0][0]
    middle = statistics.median(max(one.box.width, one.box.height) for one in icons)
    for one in icons:
        side = max(one.box.width, one.box.height)
        if one.frame and (one.frame.width, one.frame.height) != usual:
            yield page.finding(
                "icon-size", one,
                f"Its canvas is {one.frame.width} x {one.frame.height} px, the others' "
                f"{usual[0]} x {usual[1]}.",
                "Take its frame away, or give the group one.", pixels=side,
            )  # fmt: skip
        elif not 1 / ALIKE <= side / middle <= ALIKE:
            yield page.finding(
                "icon-size", one,
                f"It is {side} px along its longer side, the others of its set about {middle:g}.",
                "Draw it at the size of the others.", pixels=side,
            )  # fmt: skip


def _off_centre(page: Page, one: ResolvedSlice) -> Iterator[Finding]:
    """The middle of an icon's weight, alpha taken for weight, against the middle of its box."""
    if one.balance == "weight":
        return
    pixels = page.draw(one)
    found = weight.middle(pixels)
    if found is None:
        return
    height, width = pixels.shape[:2]
    x, y = found[0] - width / 2, found[1] - height / 2
    side = max(width, height)
    if max(abs(x), abs(y)) > OFF * side:
        yield page.finding(
            "icon-centre", one,
            f"Its weight is {abs(x):.0f} px {'right' if x > 0 else 'left'} and {abs(y):.0f} px "
            f"{'below' if y > 0 else 'above'} the middle of its box.",
            'Say balance = "weight", or give it a box with room on the lighter side.',
            pixels=round(max(abs(x), abs(y))),
        )  # fmt: skip
