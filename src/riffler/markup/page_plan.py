"""A mockup that is open -> its page as elements with classes still to be given."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, replace
from functools import partial

from riffler.cutlist.resolve import resolve
from riffler.geometry import Rect
from riffler.markup import narrow
from riffler.markup.absent import Unlike
from riffler.markup.area import Area, Piece, Shape
from riffler.markup.areas import Areas
from riffler.markup.element import Element, Lengths
from riffler.markup.elements import Elements
from riffler.markup.flow import Flow
from riffler.markup.grouping import grouped
from riffler.markup.headings import BodyType, Texts
from riffler.markup.lifting import lifted
from riffler.markup.looks import Inherited, Looks, body_of
from riffler.markup.loops import put_loops
from riffler.markup.marks import marked
from riffler.markup.narrow import Narrow
from riffler.markup.pieces import Pieces
from riffler.markup.texts import settings
from riffler.markup.type_noise import likened
from riffler.markup.whole_pixels import on_pixels
from riffler.markup.wrap import wrap_of, wrapped
from riffler.markup.zones import Zones
from riffler.mockup import address
from riffler.reading.look import reading_of
from riffler.reading.page_tree import page as parts_of
from riffler.reading.part import PartKind
from riffler.reading.reading import Reading
from riffler.typeset.layers import learn, whole, written
from riffler.workspace import Opened

#: How much larger a drawing may be in another mockup and still be the same, in CSS pixels.
ALIKE = 3

#: Share of the page that a ground covers at least to be the page's own.
GROUND = 0.98


@dataclass(frozen=True)
class Page:
    """A page that is roughed out: its body, how most text is set, its ground, its width.

    `usual` is how the body of the site is set, `set_like` how most letters of this page are.
    `missing` are pictures that no slice shows, by address, `unused` slices that the page lacks,
    `texts` all that it says, `unlike` how its narrow mockup differs in what it shows.
    """

    name: str
    body: Element
    usual: Inherited
    set_like: BodyType
    ground: str
    pieces: tuple[str, ...]
    width: float
    title: str
    families: frozenset[tuple[str, int, bool]]
    missing: tuple[str, ...]
    unused: tuple[str, ...]
    texts: tuple[str, ...]
    unlike: Unlike


@dataclass(frozen=True)
class Laid:
    """A page that is laid out, before its elements have classes: all of its rules may change.

    `narrow` is what its narrow mockup shows, if it has one; `redeclare` says again what holds for
    that when rules did change. `types` are the families, weights and slants of its texts.
    """

    name: str
    body: Element
    usual: Inherited
    lengths: Lengths
    width: float
    types: frozenset[tuple[str, int, bool]]
    narrow: Narrow | None
    redeclare: Callable[[], None]


@dataclass(frozen=True)
class Plan:
    """What is on a page, before it is written: its areas, and the slices that show them.

    `narrow` is what its narrow mockup shows.
    """

    name: str
    area: Area
    pieces: Pieces
    narrow: Narrow | None = None


def plans(
    mockups: Sequence[tuple[str, Opened]], small: Mapping[str, Opened], *, is_added: bool = False
) -> list[Plan]:
    """What is on each page; what no slice of one mockup shows may be shown by one of another.

    `small` are narrow mockups, by page; `is_added` says that there are pages with a shell already.
    """
    result = [_laid_out(opened, name) for name, opened in mockups]
    vectors = [opened.mockup.is_vector for _, opened in mockups]
    areas = likened([(area, v) for (area, _), v in zip(result, vectors, strict=True)])
    found_plans = []
    for (name, _), area, (_, pieces) in zip(mockups, areas, result, strict=True):
        seen = small.get(name)
        found_plans.append(Plan(name, grouped(area), pieces, _narrow(seen) if seen else None))
    found_plans = _agreed(found_plans, [opened.renderer.essence for _, opened in mockups])
    known_areas = [
        area
        for plan in found_plans
        for area in plan.area.walk()
        if area.shape is Shape.PICTURE and area.piece
    ]
    areas = [_filled(plan.area, known_areas) for plan in found_plans]
    areas = lifted(areas, is_added=is_added)
    return [replace(plan, area=area) for plan, area in zip(found_plans, areas, strict=True)]


def _agreed(found_plans: Sequence[Plan], essences: Sequence[Callable[[str], str]]) -> list[Plan]:
    """Plans of which each shows what was on a page before with the slice that shows it there.

    `essences` give digests of what layers paint.
    """
    before: dict[str, tuple[Area, Piece, str]] = {}

    def shown(area: Area, essence_of: Callable[[str], str]) -> Area:
        parts = tuple(shown(part, essence_of) for part in area.parts)
        if area.shape is not Shape.PICTURE or area.piece is None or not area.layers:
            return replace(area, parts=parts)
        layer = area.layers[0]
        essence = essence_of(layer)
        first, piece, known = before.setdefault(layer, (area, area.piece, essence))
        if piece.name == area.piece.name or essence != known or not _is_same(first, area):
            return area
        return replace(area, piece=_placed(piece, area.box))

    return [
        replace(plan, area=shown(plan.area, essence_of))
        for plan, essence_of in zip(found_plans, essences, strict=True)
    ]


def _placed(piece: Piece, box: Rect) -> Piece:
    """The piece that shows something of the same size elsewhere, in the middle of a box."""
    paint = piece.paint
    left, top = (box.width - paint.width) / 2, (box.height - paint.height) / 2
    return replace(piece, paint=Rect(box.x + left, box.y + top, paint.width, paint.height))


def _narrow(opened: Opened) -> Narrow:
    area, _ = _laid_out(opened)
    file, area = opened.cutlist, grouped(area)
    return Narrow(
        wrapped(area, wrap_of(area)), (file and file.cutlist.when) or "(max-width: 600px)"
    )


def _is_same(first: Area, second: Area) -> bool:
    """Whether two pictures are called the same and are as large as one another."""
    sides = (first.box.width - second.box.width, first.box.height - second.box.height)
    names = [address.plain(area.layers[0]) for area in (first, second)]
    return names[0] == names[1] and max(map(abs, sides)) <= ALIKE


def _filled(area: Area, known_areas: Sequence[Area]) -> Area:
    """An area with pieces of others for its pictures that have none."""
    piece = area.piece
    if area.shape is Shape.PICTURE and piece is None:
        same = next((one_area.piece for one_area in known_areas if _is_same(one_area, area)), None)
        if same is None:
            return area
        piece = _placed(same, area.box)
    return replace(
        area, piece=piece, parts=tuple(_filled(part, known_areas) for part in area.parts)
    )


def page_of(
    plan: Plan,
    page_named: Callable[[str], str | None],
    lengths: Lengths,
    usual: Inherited | None = None,
    look: Callable[[Laid], None] | None = None,
    set_like: BodyType | None = None,
) -> Page:
    """Rough out one mockup.

    `usual` is how the body of the site is set; of the first page it is its own. To `look` the page
    is shown when all of it is laid out, and may be mended there. `set_like` is how most letters of
    the page were set when it was roughed out before.
    """
    area, pieces, name = wrapped(plan.area, wrap_of(plan.area)), plan.pieces, plan.name
    ground, classes, root = _grounds(area)
    texts = Texts.of(root, set_like)
    body = Elements(Zones.find(root, texts), page_named).page(root)
    usual = usual or body_of(root, texts.body)
    flow = Flow(area.box.width, lengths)
    flow.page(body)
    Looks(lengths, area.box.width).of_all(body, usual)
    unlike = Unlike()
    if plan.narrow is not None:
        unlike = narrow.lay(body, plan.narrow, usual, lengths)
    put_loops(body)
    types = frozenset(
        (setting.type.family, setting.type.weight, setting.type.is_italic)
        for setting in root.words()
    )
    redeclare = partial(_redeclare, body, plan.narrow, usual, lengths)
    redeclare()
    if look is not None:
        look(Laid(name, body, usual, lengths, area.box.width, types, plan.narrow, redeclare))
    _mark_current(body)
    return Page(
        name,
        body,
        usual,
        texts.body,
        ground,
        classes,
        area.box.width,
        texts.title,
        types,
        tuple(one_area.layers[0] for one_area in area.walk() if _is_missing(one_area)),
        tuple(pieces.unused()),
        tuple(setting.text for setting in root.words() if setting.is_said),
        unlike,
    )


def _redeclare(body: Element, seen: Narrow | None, usual: Inherited, lengths: Lengths) -> None:
    """Say what holds for the narrow mockup of a page, by its rules as they are now."""
    if seen is not None:
        narrow.declare(body, seen, usual, lengths)


def _laid_out(opened: Opened, page: str = "") -> tuple[Area, Pieces]:
    """What is on a page as people lay it out, and the slices that show it."""
    area, pieces = _areas(opened, reading_of(opened), exact=True)
    return marked(replace(on_pixels(area), box=area.box), page), pieces


def areas_of(opened: Opened, reading: Reading) -> Area:
    """What is on a page, as it stands there: with settings of text, grounds and slices."""
    area, _ = _areas(opened, reading)
    return area


def _areas(opened: Opened, reading: Reading, *, exact: bool = False) -> tuple[Area, Pieces]:
    learn(reading, opened.cutlist, opened.fonts)
    values = {layer.address: whole(lines) for layer, lines in written(reading, opened.cutlist)}
    shows = reading.mockup.shows
    texts = [layer for layer in reading.drawings() if shows(layer) and reading.is_words(layer)]
    slices = resolve(opened.cutlist, opened.renderer) if opened.cutlist else ()
    pieces = Pieces(slices, reading.mockup, reading.density)
    set_ = settings(reading, opened.fonts, values, texts)
    area = Areas(reading, set_, pieces, exact=exact).page(parts_of(reading))
    size, by = reading.mockup.size, reading.density
    return replace(area, box=Rect(0, 0, size.width / by, size.height / by)), pieces


def _is_missing(area: Area) -> bool:
    return area.shape is Shape.PICTURE and area.piece is None


def _grounds(area: Area) -> tuple[str, tuple[str, ...], Area]:
    """The colour under the whole page, the pieces that lie there, and what is on them."""
    color, pieces, root = "", list[str](), area
    while len(root.parts) == 1 and root.parts[0].shape in (Shape.STACK, Shape.ROW):
        only = root.parts[0]
        if only.box.height < GROUND * area.box.height or only.box.width < GROUND * area.box.width:
            break
        if only.ground is not None:
            if len(only.ground.stops) > 1 or only.kind is not PartKind.BOX:
                break
            color = only.ground.stops[0].color
        if only.piece is not None:
            pieces.append(only.piece.name)
        root = replace(only, ground=None, piece=None, layers=(), box=area.box)
    return color, tuple(pieces), root


def _mark_current(body: Element) -> None:
    """Links of a navigation tell when they lead to the page that one is on."""
    for nav in body.walk():
        if nav.tag != "nav":
            continue
        for menu in nav.walk():
            loop = menu.loop
            for anchor in menu.walk() if loop else ():
                if (
                    loop
                    and anchor.tag == "a"
                    and f"{loop.each}.link" in anchor.attributes.get("href", "")
                ):
                    anchor.attributes["current"] = f"page == {loop.each}.link"
