"""A mockup -> what each drawing should become, picture, tile, words or plain CSS; and why."""

from __future__ import annotations

import math
from collections.abc import Iterable, Iterator
from dataclasses import replace

from riffler.analyse.fill import Fill, Filling, colors_in, fill_of
from riffler.analyse.lettering import Lettering, lettering_of, sign_of
from riffler.analyse.outline import Outline, OutlineShape, outline_of
from riffler.analyse.style import Stop, Style
from riffler.color import Pixels, empty
from riffler.geometry import Box, union
from riffler.mockup.model import Layer, LayerKind, LayerText, Mockup, drawings, is_drawing
from riffler.reading import tiling
from riffler.reading.exact import measured
from riffler.reading.judgement import Becomes, Evidence, Judgement
from riffler.reading.panes import held, pane_of
from riffler.reading.short_words import HIGHEST, short_word
from riffler.reading.style_fit import VEIL, by_hand, fitted
from riffler.reading.vectors import declared
from riffler.render.renderer import Renderer
from riffler.render.sampling import sample, thinned

#: How far a shadow reaches beyond a box on both sides, in its shorter sides.
SOFTEST = 1.2

#: Different colours, as a share of the pixels looked at, from which a picture is a photo.
PHOTO = 0.03

#: The piece of a layer, in pixels, in which letters are looked for.
PIECE_WIDTH, PIECE_HEIGHT = 1600, 700

#: The widest border that is taken for one, in CSS pixels.
BORDER = 3


class Reading:
    """A mockup being read; what is found is remembered. `said` are words read from pixels.

    `told` are the drawings of pixels of which somebody said that they are text: its cutlist does,
    by saying what they say.
    """

    def __init__(self, renderer: Renderer, density: float, told: Iterable[str] = ()) -> None:
        self.renderer = renderer
        self.density = density
        self.told = frozenset(told)
        self._judgements: dict[str, Judgement] = {}
        self._fitted: dict[tuple[str, float, str], Style | None] = {}
        self._boxes: dict[str, Box | None] = {}
        self._plates: dict[str, Box] = {}
        self._extents: dict[str, Box | None] = {}
        self._lettering: dict[str, Lettering | None] = {}
        self._texts: dict[str, Lettering | None] = {}
        self.said: dict[str, LayerText] = {}
        self._signs: dict[str, Lettering | None] = {}
        self._painted: list[tuple[Layer, Box]] | None = None
        self._last: tuple[str, Box, Pixels] = ("", Box(0, 0, 0, 0), empty(0, 0))

    def at(self, density: float) -> Reading:
        """The same mockup read at another density; what does not depend on it is kept."""
        other_reading = Reading(self.renderer, density, self.told)
        other_reading._texts, other_reading._boxes, other_reading.said = (
            self._texts,
            self._boxes,
            self.said,
        )
        return other_reading

    @property
    def mockup(self) -> Mockup:
        """The mockup that is read."""
        return self.renderer.mockup

    def drawings(self) -> list[Layer]:
        """Every drawing, shown or hidden, from the top of the stack."""
        return list(drawings(self.mockup.layers))

    def near(self, box: Box) -> Iterator[tuple[Layer, Box]]:
        """The drawings that paint in a box, with all that they paint, from the top of the stack."""
        if self._painted is None:
            boxes = ((layer, self.painted(layer)) for layer in self.drawings())
            self._painted = [(layer, painted) for layer, painted in boxes if painted]
        for layer, painted in self._painted:
            if box.meets(painted):
                yield layer, painted

    def box(self, layer: Layer) -> Box | None:
        """The solid box on the canvas, or the painted one of what is soft all over.

        Without a hard shadow, which is no less solid than what casts it.
        """
        if layer.address not in self._boxes:
            self._boxes[layer.address] = self._find_box(layer)
        return self._boxes[layer.address]

    def extent(self, layer: Layer) -> Box | None:
        """The box of a thing without its text, hidden layers too; with text when that is all."""
        if layer.address not in self._extents:
            parts = list(drawings([layer]))
            plain = [part for part in parts if not self.is_words(part)]
            whole = union(box for box in map(self.box, plain) if box)
            whole = whole or union(box for box in map(self.box, parts) if box)
            self._extents[layer.address] = whole or None
        return self._extents[layer.address]

    def _find_box(self, layer: Layer) -> Box | None:
        if layer.kind is LayerKind.PIXELS:
            self.judgement(layer)
        if plate := self._plates.get(layer.address):
            return plate & self.mockup.box or None
        box = self.renderer.solid_box(layer.address)
        if box is None:
            return self.painted(layer)
        return box & self.mockup.box or None

    def painted(self, layer: Layer) -> Box | None:
        """The box of all that it paints on the canvas."""
        box = self.renderer.painted_box(layer.address)
        return (box & self.mockup.box or None) if box else None

    def rough(self, layer: Layer) -> Box | None:
        """About where it lies on the canvas, by its numbers where these say it."""
        box = self.renderer.rough_box(layer.address)
        return (box & self.mockup.box or None) if box else None

    def is_words(self, layer: Layer) -> bool:
        """Whether it is text, said or seen."""
        if layer.kind is LayerKind.WORDS or not is_drawing(layer):
            return layer.kind is LayerKind.WORDS
        return self.lettering(layer) is not None

    def words(self, layer: Layer) -> LayerText | None:
        """A text as data: of the document, or as it was read from pixels."""
        return layer.words or self.said.get(layer.address)

    def lettering(self, layer: Layer) -> Lettering | None:
        """The text that a drawing of pixels shows; lines are in mockup pixels."""
        if layer.address not in self._lettering:
            is_told = layer.address in self.told
            seen = self.seen_text(layer) or (self.sign(layer) if is_told else None)
            self._lettering[layer.address] = seen or self._short_word(layer)
        return self._lettering[layer.address]

    def tell(self, addresses: Iterable[str]) -> None:
        """Know drawings for text of which nobody told before."""
        new = frozenset(addresses) - self.told
        self.told |= new
        for found in (self._lettering, self._judgements, self._boxes, self._extents):
            for address in new:
                found.pop(address, None)

    def seen_text(self, layer: Layer) -> Lettering | None:
        """The text that a drawing of pixels shows by itself."""
        if layer.address not in self._texts:
            self._texts[layer.address] = self._find_lettering(layer)
        return self._texts[layer.address]

    def _short_word(self, layer: Layer) -> Lettering | None:
        """A single letter or figure, by what stands at its place in things made alike."""
        if layer.kind is not LayerKind.PIXELS or self.mockup.is_vector:
            return None
        return short_word(self.mockup, layer, self.density, self.seen_text, self.sign)

    def sign(self, layer: Layer) -> Lettering | None:
        """A shape of pixels that may be a letter or a few; asked for once."""
        if layer.address not in self._signs:
            self._signs[layer.address] = self._find_sign(layer)
        return self._signs[layer.address]

    def _find_sign(self, layer: Layer) -> Lettering | None:
        box = self.painted(layer)
        if box is None or max(box.width, box.height) > HIGHEST * self.density:
            return None
        lettering = sign_of(self.renderer.render(box, 1.0, self.mockup.alone(layer.address)))
        return lettering and lettering.moved(box.x, box.y)

    def has_own_edges(self, layer: Layer) -> bool:
        """Whether it is a photograph with straight edges: a picture whatever lies on it."""
        judgement = self.judgement(layer)
        return judgement.is_rectangle and judgement.is_rich

    def judgement(self, layer: Layer) -> Judgement:
        """What a drawing should become; of a group that is none, whatever its parts are."""
        if layer.address not in self._judgements:
            self._judgements[layer.address] = self._judge(layer)
        return self._judgements[layer.address]

    def _judge(self, layer: Layer) -> Judgement:
        if self.is_words(layer):
            text = self._lettering.get(layer.address)
            is_said = layer.kind is LayerKind.WORDS
            return Judgement(Becomes.WORDS, Evidence.TEXT, text=text, is_said=is_said)
        box = self.painted(layer)
        if box is None:
            return Judgement(Becomes.NOTHING, Evidence.EMPTY)
        if layer.opacity > VEIL and (style := declared(self.mockup, layer)):
            return replace(_css(style), is_said=True)
        if pattern := tiling.pattern(self.renderer, layer, box):
            return pattern
        return self._seen(layer, box)

    def _seen(self, layer: Layer, box: Box) -> Judgement:
        """What the pixels say that a layer should become, by its outline and what fills it."""
        shown = self.mockup.alone(layer.address)
        pixels = self._sample(layer, box, shown)
        step = box.width / pixels.shape[1]
        outline = outline_of(pixels)
        if outline is None:
            return Judgement(Becomes.PICTURE, Evidence.VEIL)
        rim = math.ceil(BORDER * self.density / step)
        fill = fill_of(pixels, rim)
        if style := _style(layer, outline, fill):
            style = measured(self.renderer, layer, style.scaled(step), self.density)
            style = by_hand(self._as_cast(layer, style), self.density)
            if held(self.renderer, layer, style):
                return _css(style)
        if self._is_plain(outline, fill, pixels) and (exact := self.fitted(layer)):
            return _css(by_hand(exact, self.density))
        if pane := pane_of(self.renderer, layer, box, pixels, outline):
            style, plate = pane
            if plate:
                self._plates[layer.address] = plate
            style = by_hand(style, self.density)
            return _css(replace(style, opacity=layer.opacity, blend=layer.blend))
        tile = None
        if outline.shape is OutlineShape.RECTANGLE:
            tile = tiling.tile(self.renderer, box, shown, pixels, self.density)
        return tile or _picture(layer, pixels, outline, fill)

    @staticmethod
    def _is_plain(outline: Outline, fill: Fill, pixels: Pixels) -> bool:
        """Whether it may be a box after all, which takes some time to tell."""
        beyond = (pixels.shape[1] - outline.box.width, pixels.shape[0] - outline.box.height)
        if max(beyond) > SOFTEST * min(outline.box.width, outline.box.height):
            return False  # a glow, and no box with its shadow
        if fill.filling is not Filling.MORE:
            return True
        return outline.shape is not OutlineShape.ODD and colors_in(pixels) < PHOTO

    def fitted(self, layer: Layer) -> Style | None:
        """The style that all pixels of a layer show, fitted once for layers painted alike.

        None for what no style sheet draws again, by hand; lengths are mockup pixels.
        """
        paint = (self.renderer.essence(layer.address), layer.opacity, layer.blend)
        if paint not in self._fitted:
            style = fitted(self.renderer, layer, self.painted(layer))
            is_so = style and held(self.renderer, layer, by_hand(style, self.density))
            self._fitted[paint] = style if is_so else None
        return self._fitted[paint]

    def _as_cast(self, layer: Layer, style: Style) -> Style:
        """The style with the shadows that all pixels show, in lengths as people write them.

        How dark and how soft a shadow is can't be told from how far it is seen.
        """
        exact = self.fitted(layer) if style.shadows else None
        if exact is None or not exact.shadows:
            return style
        exact = by_hand(exact, self.density)
        return replace(style, shadows=exact.shadows, radii=style.radii and exact.radii)

    def _find_lettering(self, layer: Layer) -> Lettering | None:
        """Letters want every pixel, but not of a whole page."""
        is_drawn = layer.kind is LayerKind.WORDS and not self.mockup.is_vector
        box = self.painted(layer) if layer.kind is LayerKind.PIXELS or is_drawn else None
        if box is None or box == self.mockup.box:
            return None
        piece = Box(box.x, box.y, min(box.width, PIECE_WIDTH), min(box.height, PIECE_HEIGHT))
        pixels = self.renderer.render(piece, 1.0, self.mockup.alone(layer.address))
        self._last = (layer.address, piece, pixels)
        lettering = lettering_of(pixels)
        return lettering and lettering.moved(piece.x, piece.y)

    def _sample(self, layer: Layer, box: Box, shown: frozenset[str]) -> Pixels:
        """Pixels of the layer, from those that were just drawn where they are all of it."""
        if self._last[:2] == (layer.address, box):
            return thinned(self._last[2])
        return sample(self.renderer, box, shown)


def _css(style: Style) -> Judgement:
    """Of what a style sheet draws; only an ellipse has no straight edges."""
    is_rectangle = style.radii is not None
    return Judgement(Becomes.CSS, Evidence.STYLE, style=style, is_rectangle=is_rectangle)


def _style(layer: Layer, outline: Outline, fill: Fill) -> Style | None:
    """What a style sheet says to draw it, in pixels of the sample; None for anything else."""
    if fill.filling is Filling.MORE or outline.shape is OutlineShape.ODD or outline.has_glow:
        return None
    stops = fill.stops
    if layer.opacity < 1:  # it is said apart
        stops = tuple(Stop(stop.position, stop.color[:7]) for stop in stops)
    return Style(
        stops,
        fill.angle,
        None if outline.shape is OutlineShape.ELLIPSE else outline.radii,
        fill.border,
        (outline.shadow,) if outline.shadow else (),
        layer.opacity,
        layer.blend,
    )


def _picture(layer: Layer, pixels: Pixels, outline: Outline, fill: Fill) -> Judgement:
    is_rich = colors_in(pixels) >= PHOTO
    shapes = sum(1 for _ in layer.walk()) - 1 if layer.is_group else 0
    if fill.filling is not Filling.MORE:
        evidence = Evidence.ODD_SHAPE
    elif layer.is_group:
        evidence = Evidence.SHAPES
    elif is_rich:
        evidence = Evidence.RICH
    elif outline.has_glow or float((pixels[..., 3] > 0.9).mean()) < 0.1:
        evidence = Evidence.GLOW
    else:
        evidence = Evidence.ART
    return Judgement(
        Becomes.PICTURE,
        evidence,
        is_flat=fill.filling is Filling.FLAT,
        shapes=shapes,
        is_rectangle=outline.shape in (OutlineShape.RECTANGLE, OutlineShape.ROUNDED),
        is_rich=is_rich,
    )
