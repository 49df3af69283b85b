"""The parts that a reading found -> areas: with settings of text, grounds, pieces and links."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import replace

from riffler.analyse.style import Style
from riffler.geometry import Rect
from riffler.markup.area import Area, Shape
from riffler.markup.corners import given_out, with_badges, with_pager
from riffler.markup.evening import at_pitch, canvassed, evened, levelled, pitch_of
from riffler.markup.extents import is_button, is_label
from riffler.markup.fading import fades, sides, snapped_to
from riffler.markup.pieces import PICTURED, Pieces, Shown
from riffler.markup.setting import Setting
from riffler.mockup.model import Layer, drawings
from riffler.reading.clickable import Clickable
from riffler.reading.ending import ending
from riffler.reading.judgement import Becomes
from riffler.reading.part import PagePart, PartKind
from riffler.reading.reading import Reading
from riffler.reading.squares import Squares
from riffler.reading.states import CURRENT, States, states_of
from riffler.reading.style_fit import by_hand
from riffler.tokens.palette import alpha

#: Things in a row begin no further below one another than this share of their height.
LEVEL = 0.1

#: How far the edges of a vector may be from those of its pixels, and those of the canvas from a
#: box that fades out, in CSS pixels.
NEAR, FADED = 1.0, 8.0

_SHAPES = {PartKind.ROWS: Shape.STACK, PartKind.COLUMNS: Shape.ROW, PartKind.PILE: Shape.PILE}

#: What can have states, and what is one thing by its layers.
_CLICKED = (PartKind.TAB, PartKind.BUTTON, PartKind.CARD)


class Areas:
    """Makes areas of one page. Pictures that no slice shows have no piece.

    Where they are to be `exact`, boxes of vectors have the fractions that are drawn.
    """

    def __init__(
        self,
        reading: Reading,
        texts: dict[str, Setting],
        pieces: Pieces,
        *,
        exact: bool = False,
    ) -> None:
        self._reading, self._texts, self._pieces = reading, texts, pieces
        self._is_exact = exact and reading.mockup.is_vector
        self._squares = Squares(reading)

    def page(self, page: PagePart) -> Area:
        """The whole page."""
        self._pieces.settle(page)
        return self._frame(Shape.STACK, page.box, self._all(page.parts, ()))

    def _all(self, parts: Iterable[PagePart], shown: Sequence[Shown]) -> tuple[Area, ...]:
        areas = []
        for part in parts:
            area = self._of(part, shown)
            if area is not None:
                areas.append(area)
        return tuple(areas)

    def _of(
        self, part: PagePart, shown: Sequence[Shown], siblings: Sequence[PagePart] = ()
    ) -> Area | None:
        """A part with all that is in it; None for what a piece around it shows already."""
        if part.count > 1 and not siblings:
            return self._list(part, shown)
        if part.kind in _SHAPES:
            parts = self._all(part.parts, shown)
            if len(parts) < 2:
                return parts[0] if parts else None
            return given_out(self._frame(_SHAPES[part.kind], part.box, parts))
        if part.kind is PartKind.WORDS:
            return self._words(part)
        if part.kind in PICTURED and any(
            self._pieces.covers(one_shown, part) for one_shown in shown
        ):
            parts = self._all(part.parts, shown)
            return self._frame(Shape.STACK, part.box, parts) if parts else None
        return self._thing(part, shown, siblings)

    def _words(self, part: PagePart) -> Area | None:
        setting = self._texts.get(part.layers[0])
        if setting is None:
            return None
        area = Area(Shape.WORDS, setting.box, part.kind, part.layers, setting=setting)
        if not setting.columns:
            return replace(area, link=self._pieces.link_at(part.box))
        areas = []
        for column in setting.apart:
            link = self._pieces.link_at(column.box.scaled(self._reading.density).outward())
            areas.append(replace(area, box=column.box, setting=column, link=link))
        around = Rect.around(column.box for column in areas) or setting.box
        shape = Shape.LIST if len(areas) > 2 else Shape.ROW
        row = Area(shape, around, PartKind.ROWS, parts=tuple(areas), columns=len(areas))
        return replace(row, pitch=areas[1].box.x - areas[0].box.x) if at_pitch(row) else row

    def _frame(self, shape: Shape, box: object, parts: tuple[Area, ...]) -> Area:
        """Parts in order; their line boxes may reach beyond the box that was seen."""
        around = Rect.around(part.box for part in parts)
        return Area(shape, around or self._on_page(box), PartKind.ROWS, parts=parts)

    def _on_page(self, box: object) -> Rect:
        by = self._reading.density
        return Rect(box.x / by, box.y / by, box.width / by, box.height / by)  # type: ignore[attr-defined]

    def _thing(
        self, part: PagePart, shown: Sequence[Shown], siblings: Sequence[PagePart]
    ) -> Area | None:
        """Something with layers of its own: its ground or its picture, and what lies on it."""
        own_shown = None if _has_words(part) else self._pieces.of(part)
        if own_shown and part.kind in PICTURED and self._pieces.is_in_another(part, own_shown):
            return None
        piece = self._pieces.piece(own_shown) if own_shown else None
        states = self._states(part, siblings)
        parts = [
            one_part for one_part in part.parts if not {*states.hide_at_rest} & {*one_part.layers}
        ]
        inner = _unframed(self._all(parts, (*shown, own_shown) if own_shown else shown))
        box, link = self._on_page(part.box), self._pieces.link_at(part.box)
        area = Area(
            Shape.STACK,
            box,
            part.kind,
            part.layers,
            inner,
            piece=piece,
            link=link,
        )
        if part.kind in PICTURED:
            rows = [] if inner or piece else self._pieces.rows_of(part)
            return self._in_rows(part, rows) if rows else self._pictured(part, area)
        return self._plain(part, area, states)

    def _plain(self, part: PagePart, area: Area, states: States) -> Area | None:
        """What is no picture by itself: with its ground and states; None for nothing at all."""
        inner, piece = area.parts, area.piece
        if part.kind is PartKind.LOGO and not inner and piece:
            return self._on_square(replace(area, shape=Shape.PICTURE))
        layer, ground = (None, None) if piece else self._ground(part, states)
        area = replace(
            area,
            box=self._edges(layer, ground, area.box) if layer and ground else area.box,
            ground=ground,
            states=self._looks(states),
            shape=_shape_of(inner),
        )
        return _settled(_with_plate(area)) if inner or ground or piece else None

    def _in_rows(self, part: PagePart, rows: Sequence[Sequence[Shown]]) -> Area:
        """A picture that is cut in pieces, put together again."""
        lines = []
        for row in rows:
            pieces = [self._pieces.piece(shown) for shown in row]
            pictures = tuple(
                Area(Shape.PICTURE, piece.paint, part.kind, part.layers, piece=piece)
                for piece in pieces
            )
            lines.append(
                pictures[0] if len(row) == 1 else self._frame(Shape.ROW, part.box, pictures)
            )
        return lines[0] if len(lines) == 1 else self._frame(Shape.STACK, part.box, tuple(lines))

    def _pictured(self, part: PagePart, area: Area) -> Area | None:
        """A picture, and what lies on it in a pile with it."""
        if area.piece is not None and area.piece.is_styled:
            return replace(area, shape=_shape_of(area.parts))
        picture = self._on_square(replace(area, shape=Shape.PICTURE, parts=()))
        if not area.parts:
            return picture
        upon = Area(Shape.STACK, area.box, PartKind.ROWS, parts=area.parts)
        if len(area.parts) == 1 and (is_label(area.parts[0]) or not area.parts[0].parts):
            (upon,) = area.parts
        picture = replace(picture, tint=ending(self._reading, part))
        kind = PartKind.BUTTON if is_button(area.box, upon) else part.kind
        return with_pager(Area(Shape.PILE, area.box, kind, part.layers, (picture, upon)))

    def _on_square(self, picture: Area) -> Area:
        """A picture as large as the square that it was drawn on, if its slice shows all of that."""
        layer, piece = self._reading.mockup.by_address.get(picture.layers[0]), picture.piece
        square = self._squares.of(layer) if layer and piece else None
        if piece is None or square is None or self._on_page(square) != piece.paint:
            return picture
        return replace(picture, box=piece.paint, piece=replace(piece, on_square=True))

    def _list(self, part: PagePart, shown: Sequence[Shown]) -> Area | None:
        areas = self._members(part, shown)
        if not areas:
            return None
        across, down = part.step
        down = 0 if abs(down) < part.box.height * LEVEL else down
        areas.sort(key=lambda area: (round(area.box.y / 4) if down else 0, area.box.x))
        box = Rect.around(area.box for area in areas)
        assert box is not None
        rows = len({round(area.box.y / 4) for area in areas}) if across and down else 1
        columns = 1 if down and not across else -(-len(areas) // rows)
        pitch = pitch_of(areas[:columns], across / self._reading.density) if columns > 1 else 0.0
        parts = tuple(map(with_badges, areas))
        area = Area(Shape.LIST, box, part.kind, parts=parts, columns=columns, pitch=pitch)
        return canvassed(levelled(evened(area)))

    def _members(self, part: PagePart, shown: Sequence[Shown]) -> list[Area]:
        """Things alike; where some have edges, the others are as large without."""
        pairs = [(member, self._of(member, shown, part.members)) for member in part.members]
        areas = [(member, area) for member, area in pairs if area is not None]
        if not any(area.ground for _, area in areas):
            return [area for _, area in areas]
        return [
            area if area.ground else replace(area, box=self._on_page(member.box))
            for member, area in areas
        ]

    def _states(self, part: PagePart, siblings: Sequence[PagePart]) -> States:
        """What else it looks like, by layers."""
        layer = self._reading.mockup.by_address.get(part.layers[0])
        if layer is None or part.kind not in _CLICKED or not layer.is_group:
            return States()
        alike = [self._reading.mockup.by_address[part.layers[0]] for part in siblings]
        kind = part.kind.value
        return states_of(self._reading, Clickable(layer, kind, part.box), alike)  # type: ignore[arg-type]

    def _looks(self, states: States) -> dict[str, Style]:
        """The grounds of states that a style sheet draws."""
        found_styles = {}
        for state, addresses in states.show.items():
            layers = [self._reading.mockup.by_address[address] for address in addresses]
            drawn = [drawing for layer in layers for drawing in drawings([layer])]
            styles = [style for layer in drawn if (style := self._style(layer))]
            if styles and state in (CURRENT, "hover", "active", "focus", "disabled"):
                found_styles[state] = styles[0]
        return found_styles

    def _edges(self, layer: Layer, ground: Style, box: Rect) -> Rect:
        """A box with the edges that vectors have, where these are no others than were seen.

        One that fades out goes on where nobody sees it: to the edges of the canvas, if near.
        """
        exact = self._reading.renderer.exact_box(layer.address) if self._is_exact else None
        if fades(ground):
            return snapped_to(box, self._on_page(self._reading.mockup.box), FADED)
        if exact is None:
            return box
        drawn = exact.scaled(1 / self._reading.density)
        return drawn if sides(snapped_to(box, drawn, NEAR)) == sides(drawn) else box

    def _ground(self, part: PagePart, states: States) -> tuple[Layer | None, Style | None]:
        """What CSS draws under all that is in a part, and how: of a group the plate on it."""
        layer = self._reading.mockup.by_address[part.layers[0]]
        if not layer.is_group or part.kind is PartKind.BOX:
            return layer, self._style(layer)
        ground: tuple[Layer | None, Style | None] = (None, None)
        for inner in reversed([*drawings([layer])]):
            box = self._reading.box(inner)
            if not inner.visible or box is None or inner.address in states.hide_at_rest:
                continue
            if self._reading.judgement(inner).becomes is not Becomes.CSS:
                continue
            is_under = box.grown(round(3 * self._reading.density)).contains(part.box)
            style = self._style(inner) if is_under else None
            if style is not None and (ground[1] is None or _is_opaque(style)):
                ground = inner, style  # it covers those below
        return ground

    def _style(self, layer: Layer) -> Style | None:
        judgement = self._reading.judgement(layer)
        if judgement.becomes is not Becomes.CSS or judgement.style is None:
            return None
        style = judgement.style
        if not judgement.is_said:
            style = by_hand(style, self._reading.density)
        return style.scaled(1 / self._reading.density)


def _is_opaque(style: Style) -> bool:
    """Whether nothing is seen through a box."""
    return style.opacity == 1 and all(alpha(stop.color) == 1 for stop in style.stops)


def _has_words(part: PagePart) -> bool:
    """Whether a logo is a mark with a name beside it, and no single picture."""
    return part.kind is PartKind.LOGO and any(
        one_part.kind is PartKind.WORDS for one_part in part.walk()
    )


def _unframed(parts: tuple[Area, ...]) -> tuple[Area, ...]:
    """What is in a frame that is all there is, if it is one from top to bottom."""
    is_frame = len(parts) == 1 and parts[0].is_frame and parts[0].shape is Shape.STACK
    return parts[0].parts if is_frame else parts


def _with_plate(area: Area) -> Area:
    """A group of which only some lies on its plate, as that plate and what stands beside it."""
    only = area.parts[0] if len(area.parts) == 1 else None
    parts = only.parts if only and only.is_frame and only.shape is Shape.ROW else area.parts
    upon = tuple(part for part in parts if part.box & area.box)
    beside = tuple(part for part in parts if not part.box & area.box)
    if area.ground is None or not beside or area.kind is not PartKind.LOGO:
        return area
    plate = replace(area, kind=PartKind.BOX, parts=upon, shape=_shape_of(upon))
    order = sorted((plate, *beside), key=lambda part: part.box.x)
    around = Rect.around(part.box for part in order) or area.box
    return replace(area, shape=Shape.ROW, box=around, parts=tuple(order), ground=None)


def _settled(area: Area) -> Area:
    """A thing as large as what is in it where its edges are not seen; a row where it holds one."""
    is_loose = not area.ground and not area.piece and area.kind is not PartKind.TAB
    around = Rect.around(part.box for part in area.parts) if is_loose else None
    area = replace(area, box=around) if around else area
    only = area.parts[0] if len(area.parts) == 1 else None
    if only is not None and only.is_frame and only.shape in (Shape.ROW, Shape.PILE):
        return replace(area, shape=only.shape, parts=only.parts)
    return area


def _shape_of(parts: Sequence[Area]) -> Shape:
    return Shape.STACK if parts else Shape.BOX
