"""A page and a mockup -> where they differ, what is at fault, and what would put it right.

Fitting measures, then tries: a mockup becomes the things that it shows, a page what a browser says
and paints of it; both sides are paired by words, pixels and places, never by a page's classes. An
edge that is off is explained by another thing, or its thing is a root. What would be right is found
by putting values into the open page through the DevTools protocol and measuring again. Questions go
over `fit/tab.py`, in a world of our own and within limits; the browser is started by `chromium`,
without a network, and `asked_for` answers what pages want. The page's pixels come in bands, which
keeps a long one from being there four times over; the mockup is read in a thread meanwhile, and its
things are kept with the results of tasks.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from pathlib import Path

from riffler.fit.browser import Window, name_of, opened
from riffler.fit.causes import Root, roots
from riffler.fit.chromium import Chromium
from riffler.fit.comparing import compared
from riffler.fit.expected import Coming, Expected
from riffler.fit.fault import PLACE, Difference, Fault, Placed, px
from riffler.fit.of_type import typed
from riffler.fit.pairing import paired
from riffler.fit.remedies import PageSource, Remedies, Remedy
from riffler.fit.seen import SeenPage
from riffler.fit.states import states
from riffler.fit.whole import length, seams
from riffler.geometry import Rect

#: The number of the result's shape as JSON.
VERSION = 1

#: A place that is measured is off by a distance when it is by nearly that much.
NEARLY = 0.15

#: Remedies are looked for of so many findings, the largest first.
REMEDIES = 24


@dataclass(frozen=True)
class FitFinding:
    """Something of the mockup that the page shows otherwise, the root of what follows.

    `off` is how far the edge that is off the most is, in CSS pixels; `selector` points at the
    element, and is empty for what is missing. `also` are others that the same remedy puts right.
    """

    key: str
    root: Root
    faults: tuple[Difference, ...]
    off: float
    selector: str = ""
    remedy: Remedy | None = None
    also: tuple[Placed, ...] = ()

    @property
    def placed(self) -> Placed:
        """The thing at fault."""
        return self.root.placed


@dataclass(frozen=True)
class PageFit:
    """How well a page fits a mockup. `fitting` of `count` things are no root, nor follow from one.

    `accepted` are findings that are meant, with the reasons.
    """

    page: str
    mockup: Path
    wanted: Expected
    seen: SeenPage
    count: int
    fitting: int
    findings: tuple[FitFinding, ...]
    accepted: tuple[tuple[FitFinding, str], ...] = ()

    @property
    def width(self) -> float:
        """The width of the window, in CSS pixels."""
        return self.wanted.width


def fit(
    chromium: Chromium,
    address: str,
    coming: Coming,
    within: float = 1.0,
    accept: Mapping[str, str] | None = None,
    origin: Callable[[str], str] | None = None,
) -> PageFit:
    """Compare a page with a mockup; `within` are the CSS pixels by which something is off.

    `accept` are findings that are meant, by key, with reasons; `origin` says of a file that the
    page loads which one it was copied from. Raises RifflerError where the page does not open,
    MockupError for a damaged mockup.
    """
    page = name_of(address)
    with opened(chromium, address, coming.width, coming.density, coming.height) as window:
        seen = window.look()
        wanted = coming.wait()
        pairs = paired(wanted, seen)
        placed = compared(wanted, seen, pairs)
        roots = typed(_roots(window, wanted, seen, placed, within), pairs.words, wanted)
        result = [(root, faults) for root in roots if (faults := tuple(_faults(root, within)))]
        result.sort(key=lambda pair: -round(_weight(*pair), 1))
        source, least = PageSource.of(address), _least(within)
        remedies = Remedies(window.tab, seen, placed, source, least) if result else None
        findings = [
            _found(page, root, faults, seen, remedies if number < REMEDIES else None, origin)
            for number, (root, faults) in enumerate(result)
        ]
    findings = gathered(findings, seen.is_in)
    meant = accept or {}
    wrong = {placed.number for root, _ in result for placed in (root.placed, *root.followers)}
    wrong &= {one_placed.number for one_placed in placed}
    return PageFit(
        page,
        wanted.renderer.mockup.path,
        wanted,
        seen,
        len(placed),
        len(placed) - len(wrong),
        tuple(finding for finding in findings if finding.key not in meant),
        tuple((finding, meant[finding.key]) for finding in findings if finding.key in meant),
    )


def _found(
    page: str,
    root: Root,
    faults: tuple[Difference, ...],
    seen: SeenPage,
    remedies: Remedies | None,
    origin: Callable[[str], str] | None,
) -> FitFinding:
    """A root with what is wrong with it, where it is on the page, and what would be right."""
    element = root.placed.element
    remedy = _from(remedies.of(root), origin) if remedies else None
    selector = seen.selector(element) if element >= 0 else ""
    return FitFinding(_key(page, root.placed, faults), root, faults, _off(root), selector, remedy)


def _roots(
    window: Window, wanted: Expected, seen: SeenPage, placed: Sequence[Placed], within: float
) -> list[Root]:
    """What is at fault by itself: things, the page's end, seams between things, states."""
    all_roots = roots(placed, seen)
    all_roots += [*length(wanted, seen, all_roots, within), *seams(placed, wanted, seen)]
    all_roots += states(window, wanted, seen, placed)
    return all_roots


def _from(remedy: Remedy | None, origin: Callable[[str], str] | None) -> Remedy | None:
    """A remedy in the file that its own was copied from."""
    if remedy is None or origin is None:
        return remedy
    file = origin(remedy.declaration.file)
    return replace(remedy, declaration=replace(remedy.declaration, file=file))


def gathered(
    findings: Sequence[FitFinding], is_in: Callable[[int, int], bool] = lambda *_: False
) -> list[FitFinding]:
    """Findings that one remedy puts right as one: that of the element which the others are in."""
    found_findings: dict[object, FitFinding] = {}
    for finding in findings:
        key: object = finding.placed.number
        if finding.remedy is not None:
            declaration = finding.remedy.declaration
            key = (declaration.file, declaration.line, declaration.name, finding.remedy.value)
        first = found_findings.setdefault(key, finding)
        if first is not finding:
            outer = is_in(first.placed.element, finding.placed.element)
            main, other_finding = (finding, first) if outer else (first, finding)
            root = replace(main.root, followers=(*first.root.followers, *finding.root.followers))
            found_findings[key] = replace(main, root=root, also=(*first.also, other_finding.placed))
    return list(found_findings.values())


def _key(page: str, placed: Placed, faults: Sequence[Difference]) -> str:
    return f"{page}: {placed.thing.name}: {faults[0].fault}"


def _weight(root: Root, faults: Sequence[Difference]) -> float:
    """How much is wrong: what is not there first, then by how far, and how much follows."""
    placed = root.placed
    if any(
        difference.fault in (Fault.MISSING, Fault.ANOTHER, Fault.SWAPPED) for difference in faults
    ):
        return 1000.0 + placed.thing.box.width
    return _off(root) + 0.1 * len(root.followers)


def _off(root: Root) -> float:
    """How far a thing is off by itself; of a text its place, not how far its lines go."""
    placed = root.placed
    if root.is_carried:
        return 0.0
    edges = (placed.dx, placed.dy, placed.dy + placed.dh)
    return max(abs(edge) for edge in edges) if placed.is_of_type else placed.off


def _least(within: float) -> float:
    """The CSS pixels from which something is off, as it is measured."""
    return max(within - NEARLY, PLACE)


def _faults(root: Root, within: float) -> Iterator[Difference]:
    """Everything that is wrong with a thing itself, its place and size last."""
    placed = root.placed
    yield from placed.differences
    if root.is_carried:
        return
    least = _least(within)
    box = placed.thing.box
    is_set = placed.is_of_type and bool(placed.differences)  # set otherwise, it takes other room
    if max(abs(placed.dw), abs(placed.dh)) >= least and not is_set:
        yield Difference(Fault.SIZE, _size(box), _size(placed.there))
    if max(abs(placed.dx), abs(placed.dy)) >= least and not is_set:
        yield Difference(Fault.MOVED, _place(box), _place(placed.there))


def _size(box: Rect) -> str:
    return f"{px(box.width)} x {px(box.height)}"


def _place(box: Rect) -> str:
    return f"{px(box.x)}, {px(box.y)}"
