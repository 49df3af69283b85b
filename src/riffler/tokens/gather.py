"""A reading -> every value that it uses: of each drawing, and between the parts of the page."""

from __future__ import annotations

from collections.abc import Iterator
from itertools import pairwise

from riffler.analyse.style import Style
from riffler.hexcolor import parse_hex
from riffler.measure.frame import Frame
from riffler.mockup.model import Layer, LayerText
from riffler.reading.judgement import Becomes, Evidence, Judgement
from riffler.reading.page_tree import page
from riffler.reading.part import PagePart, PartKind
from riffler.reading.reading import Reading
from riffler.reading.style_fit import by_hand
from riffler.reading.tiling import GROUND
from riffler.render.sampling import sample
from riffler.roles.words import ground
from riffler.tokens.inks import inks_of
from riffler.tokens.palette import alpha
from riffler.tokens.token import Place, Sighting, Sort, Type

#: Pictures that have no colours of their own to tell: photographs, and what fades all over.
_UNTOLD = {Evidence.RICH, Evidence.GLOW, Evidence.VEIL}

#: The largest gap or padding that is a step of spacing, in CSS pixels.
WIDEST = 160

#: Parts that have edges where their box has them; letters end where they like.
_LOOSE = {PartKind.WORDS, PartKind.PILE}

#: Parts that others lie in.
_HOLDING = {PartKind.BOX, PartKind.CARD, PartKind.ITEM, PartKind.BUTTON}


def gathered(reading: Reading, frame: Frame) -> Iterator[Sighting]:
    """Every value, drawing by drawing, then those of the page as a whole."""
    name = reading.mockup.path.name
    for layer in reading.drawings():
        yield from _of_drawing(reading, layer, name)
    width = frame.width / reading.density
    yield Sighting(Sort.WIDTH, _whole(width), Place(name, "canvas", "content"))
    yield from _spaces(page(reading), name, reading.density)


def _of_drawing(reading: Reading, layer: Layer, mockup: str) -> Iterator[Sighting]:
    judgement = reading.judgement(layer)
    match judgement.becomes:
        case Becomes.WORDS:
            yield from _of_words(reading, layer, mockup)
        case Becomes.CSS if judgement.style is not None:
            yield from _of_style(reading, layer, judgement.style, mockup, judgement.is_said)
        case Becomes.TILE:
            box = reading.box(layer)
            pixels = (
                sample(reading.renderer, box, reading.mockup.alone(layer.address)) if box else None
            )
            if pixels is not None and (color := ground(pixels)):
                role = "ground" if _is_ground(reading, layer) else "texture"
                yield Sighting(
                    Sort.COLOR, color, Place(mockup, layer.address, role), is_exact=False
                )
        case Becomes.PICTURE if judgement.evidence not in _UNTOLD and not judgement.is_rich:
            place = Place(mockup, layer.address, _role(judgement))
            for color in inks_of(reading, layer):
                yield Sighting(Sort.COLOR, color, place, is_exact=False)


def _is_ground(reading: Reading, layer: Layer) -> bool:
    """Whether it lies under a good part of the page."""
    box = reading.box(layer)
    return box is not None and box.area >= GROUND * reading.mockup.box.area


def _role(judgement: Judgement) -> str:
    return "picture" if judgement.is_rectangle else "drawing"


def _of_words(reading: Reading, layer: Layer, mockup: str) -> Iterator[Sighting]:
    place = Place(mockup, layer.address, "text")
    words = reading.words(layer)
    if words is None:
        text = reading.lettering(layer)
        if text is not None:
            yield Sighting(Sort.COLOR, text.color, place, is_exact=False)
        return
    if parse_hex(words.color) and words.text.strip():
        yield Sighting(Sort.COLOR, words.color, place, is_exact=layer.words is not None)
    if words.families and words.text.strip():
        weight = len(words.text.split())
        yield Sighting(Sort.TYPE, type_of(words, reading.density), place, weight=weight)


def type_of(words: LayerText, density: float) -> Type:
    """How text is set, in CSS pixels as people write them."""
    step = words.line_step / words.size if words.line_step and words.size else None
    return Type(
        words.families,
        round(2 * words.size / density) / 2,
        words.weight,
        words.style,
        None if step is None else round(step, 2),
        round(words.letter_spacing / density, 2) + 0.0,
    )


def _of_style(
    reading: Reading, layer: Layer, style: Style, mockup: str, is_said: bool
) -> Iterator[Sighting]:
    density = reading.density
    css = by_hand(style, density).scaled(1 / density)

    def at(role: str) -> Place:
        return Place(mockup, layer.address, role)

    is_flat = len(style.stops) == 1
    role = "gradient" if not is_flat else "ground" if _is_ground(reading, layer) else "fill"
    for stop in style.stops:
        if alpha(stop.color):
            yield Sighting(Sort.COLOR, stop.color, at(role), is_exact=is_said or is_flat)
    if css.border:
        yield Sighting(Sort.COLOR, css.border.color, at("border"), is_exact=is_said)
    box = reading.box(layer)
    if css.radii is not None and box is not None:
        half = min(box.width, box.height) / density / 2
        for radius in sorted(set(css.radii.listed) - {0.0}):
            is_round = radius >= half - 1
            yield Sighting(Sort.RADIUS, "round" if is_round else radius, at("corner"), is_said)
    if css.shadows:
        yield Sighting(Sort.SHADOW, css.shadows, at("shadow"), is_said)


def _spaces(part: PagePart, mockup: str, density: float) -> Iterator[Sighting]:
    """Gaps between parts, paddings around them, and the widths of what repeats."""
    called = part.called or str(part.kind)
    if part.count > 1 and part.others:
        width = _whole(part.box.width / density)
        yield Sighting(Sort.WIDTH, width, Place(mockup, called, "width"))
    for length, place, times in (*_gaps(part, mockup), *_paddings(part, mockup)):
        value = _whole(length / density)
        if 0 < value <= WIDEST:
            yield Sighting(Sort.SPACE, value, place, weight=times)
    for inner in part.parts:
        yield from _spaces(inner, mockup, density)


def _gaps(part: PagePart, mockup: str) -> Iterator[tuple[int, Place, int]]:
    """Between things alike, rows and columns: mockup pixels, where, how many times."""
    if part.others:
        for step, size in zip(part.step, (part.box.width, part.box.height), strict=True):
            yield step - size, Place(mockup, _called(part), "gap"), part.count - 1
    boxes = [(inner.whole, _called(inner)) for inner in part.parts if inner.kind not in _LOOSE]
    if part.kind is PartKind.COLUMNS:
        boxes.sort(key=lambda box: box[0].x)
    for (first, _), (second, called) in pairwise(boxes):
        if part.kind is PartKind.COLUMNS:
            yield second.x - first.right, Place(mockup, called, "gap"), 1
        elif part.kind is not PartKind.PILE:  # what is listed without a word stands in rows
            yield second.y - first.bottom, Place(mockup, called, "gap"), 1


def _paddings(part: PagePart, mockup: str) -> Iterator[tuple[int, Place, int]]:
    """From the left and the top of a box to what lies in it."""
    if part.kind not in _HOLDING or not part.parts:
        return
    place = Place(mockup, _called(part), "padding")
    yield min(inner.whole.x for inner in part.parts) - part.box.x, place, 1
    solid = [inner.whole.y for inner in part.parts if inner.kind not in _LOOSE]
    if solid:
        yield min(solid) - part.box.y, place, 1


def _called(part: PagePart) -> str:
    return part.called or (_called(part.parts[0]) if part.parts else str(part.kind))


def _whole(length: float) -> float:
    """A length as people write it: a whole CSS pixel where it is near one."""
    return float(round(length))
