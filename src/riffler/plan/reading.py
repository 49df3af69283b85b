"""A mockup -> what each drawing should become, picture, tile, words or plain CSS; and why."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass
from enum import StrEnum

from riffler.analyse import texture
from riffler.analyse.fill import Fill, Filling, colors_in, fill_of
from riffler.analyse.lettering import is_lettering
from riffler.analyse.outline import Outline, Shape, outline_of
from riffler.color import Pixels, empty, is_opaque
from riffler.geometry import Box
from riffler.mockup.model import Kind, Layer, Mockup, drawings, is_drawing
from riffler.mockup.svg import SvgDocument
from riffler.render.renderer import Renderer
from riffler.render.sampling import crop, sample, thinned

#: Different colours, as a share of the pixels looked at, from which a picture is a photo.
PHOTO = 0.03

#: Part of the canvas from which a layer is large enough to be the ground of the page.
GROUND = 0.3

#: Pixels along each side of the piece in which a texture's period is looked for.
PERIOD_SIDE = 1400

#: The piece of a layer, in pixels, in which letters are looked for.
PIECE_WIDTH, PIECE_HEIGHT = 1600, 700

#: The widest border that is taken for one, in CSS pixels.
BORDER = 3


class Becomes(StrEnum):
    """What a drawing should become on the page."""

    PICTURE = "picture"
    TILE = "tile"
    WORDS = "words"
    CSS = "css"
    NOTHING = "nothing"


@dataclass(frozen=True)
class Verdict:
    """What a drawing should become, and why, in the words of a person who would say it.

    `period` is the step of a texture in mockup pixels. `is_rectangle` says that its edges are
    straight, so that something may lie one pixel beside them.
    """

    becomes: Becomes
    reason: str
    period: tuple[int, int] | None = None
    is_rectangle: bool = False
    is_photo: bool = False
    is_round: bool = False


class Reading:
    """A mockup being read: verdicts and boxes are remembered while it lives."""

    def __init__(self, renderer: Renderer, density: float) -> None:
        self.renderer = renderer
        self.density = density
        self._verdicts: dict[str, Verdict] = {}
        self._words: dict[str, bool] = {}
        self._painted: list[tuple[Layer, Box]] | None = None
        self._last: tuple[str, Box, Pixels] = ("", Box(0, 0, 0, 0), empty(0, 0))

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
            found = ((layer, self.painted(layer)) for layer in self.drawings())
            self._painted = [(layer, painted) for layer, painted in found if painted]
        for layer, painted in self._painted:
            if (
                painted.x < box.x + box.width
                and painted.y < box.y + box.height
                and box.x < painted.x + painted.width
                and box.y < painted.y + painted.height
            ):
                yield layer, painted

    def box(self, layer: Layer) -> Box | None:
        """The solid box on the canvas, or the painted one of what is soft all over."""
        box = self.renderer.solid_box(layer.address)
        if box is None:
            return self.painted(layer)
        return box & self.mockup.box or None

    def painted(self, layer: Layer) -> Box | None:
        """The box of all that it paints on the canvas."""
        box = self.renderer.painted_box(layer.address)
        return (box & self.mockup.box or None) if box else None

    def is_words(self, layer: Layer) -> bool:
        """Whether it is text, said or seen."""
        if layer.kind is Kind.WORDS or not is_drawing(layer):
            return layer.kind is Kind.WORDS
        if layer.address not in self._words:
            self._words[layer.address] = self._is_lettering(layer)
        return self._words[layer.address]

    def verdict(self, layer: Layer) -> Verdict:
        """What a drawing should become; of a group that is none, whatever its parts are."""
        if layer.address not in self._verdicts:
            self._verdicts[layer.address] = self._judge(layer)
        return self._verdicts[layer.address]

    def _judge(self, layer: Layer) -> Verdict:
        if self.is_words(layer):
            return Verdict(Becomes.WORDS, "text")
        box = self.painted(layer)
        if box is None:
            return Verdict(Becomes.NOTHING, "empty")
        shown = self.mockup.alone(layer.address)
        pixels = self._sample(layer, box, shown)
        step = box.width / pixels.shape[1]
        outline = outline_of(pixels)
        if outline is None:
            return Verdict(Becomes.PICTURE, "a faint veil")
        rim = math.ceil(BORDER * self.density / step)
        fill = fill_of(pixels, rim)
        if styled := self._styled(layer, outline, fill, step):
            return styled
        if self._is_ground(box, pixels) and (tile := self._tile(box, shown)):
            return tile
        return _picture(layer, pixels, outline, fill)

    def _is_lettering(self, layer: Layer) -> bool:
        """Whether a pixel layer shows text; letters want every pixel, but not of a whole page."""
        box = self.painted(layer) if layer.kind is Kind.PIXELS else None
        if box is None or box == self.mockup.box:
            return False
        piece = Box(box.x, box.y, min(box.width, PIECE_WIDTH), min(box.height, PIECE_HEIGHT))
        pixels = self.renderer.render(piece, 1.0, self.mockup.alone(layer.address))
        self._last = (layer.address, piece, pixels)
        return is_lettering(pixels)

    def _sample(self, layer: Layer, box: Box, shown: frozenset[str]) -> Pixels:
        """Pixels of the layer, from those that were just drawn where they are all of it."""
        if self._last[:2] == (layer.address, box):
            return thinned(self._last[2])
        return sample(self.renderer, box, shown)

    def _styled(self, layer: Layer, outline: Outline, fill: Fill, step: float) -> Verdict | None:
        """The verdict for what a style sheet draws; None for anything else."""
        if fill.filling is Filling.MORE or outline.shape is Shape.ODD or outline.has_glow:
            return None
        said = [
            f"flat colour {fill.colors[0]}"
            if fill.filling is Filling.FLAT
            else f"gradient in one direction, {fill.colors[0]} to {fill.colors[1]}"
        ]
        if outline.shape is Shape.ROUNDED:
            said.append(f"rounded {outline.radius * step / self.density:.0f} px")
        if outline.shape is Shape.ELLIPSE:
            said.append("an ellipse")
        if fill.border:
            said.append(f"border {fill.border}")
        if outline.has_shadow:
            said.append("plain shadow")
        if layer.blend != "normal":
            said.append(f"blended with {layer.blend}")
        return Verdict(
            Becomes.CSS,
            ", ".join(said),
            is_rectangle=outline.shape in (Shape.RECTANGLE, Shape.ROUNDED),
            is_round=outline.shape in (Shape.ROUNDED, Shape.ELLIPSE),
        )

    def _is_ground(self, box: Box, pixels: Pixels) -> bool:
        return box.area >= GROUND * self.mockup.box.area and is_opaque(pixels)

    def _tile(self, box: Box, shown: frozenset[str]) -> Verdict | None:
        """The verdict for a texture that repeats; None when it does not."""
        if isinstance(self.mockup.source, SvgDocument):
            return None
        piece = self.renderer.render(crop(box, PERIOD_SIDE), 1.0, shown)
        found = texture.period(texture.grey(piece))
        if found is None:
            return None
        across, down = found
        return Verdict(
            Becomes.TILE, f"texture that repeats every {across} x {down} px", found,
            is_rectangle=True,
        )  # fmt: skip


def _picture(layer: Layer, pixels: Pixels, outline: Outline, fill: Fill) -> Verdict:
    colors = colors_in(pixels)
    is_rectangle = outline.shape in (Shape.RECTANGLE, Shape.ROUNDED)
    if fill.filling is not Filling.MORE:
        kind = "one colour" if fill.filling is Filling.FLAT else "one gradient"
        reason = f"odd shape in {kind}: vector or small picture"
    elif layer.is_group:
        reason = f"a drawing of {sum(1 for _ in layer.walk()) - 1} shapes"
    elif colors >= PHOTO:
        reason = "photo, or as rich as one"
    elif outline.has_glow or float((pixels[..., 3] > 0.9).mean()) < 0.1:
        reason = "soft glow"
    else:
        reason = "illustration"
    return Verdict(Becomes.PICTURE, reason, is_rectangle=is_rectangle, is_photo=colors >= PHOTO)
