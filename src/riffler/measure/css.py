"""A thing -> the declarations that a developer would write by hand, or why there are none."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace
from functools import partial

from riffler.analyse.declared import declarations
from riffler.analyse.lettering import Lettering
from riffler.analyse.style import CLEAR, Style
from riffler.geometry import Rect
from riffler.measure.units import Scale
from riffler.mockup.model import Layer, LayerText, drawings
from riffler.reading.judgement import Becomes, Judgement
from riffler.reading.reading import Reading
from riffler.reading.style_fit import by_hand
from riffler.reading.wording import reason

#: A box that covers so much of a group is the box of the group.
PLATE = 0.98

#: What CSS calls the weights that have names, and how text that is not set from the left stands.
WEIGHTS, ALIGNED = {400: "normal", 700: "bold"}, {"middle": "center", "end": "right"}


@dataclass(frozen=True)
class Css:
    """Declarations by property, in the order in which people write them.

    `of` is the layer that they were read from where that is a part of the thing; `notes` are for
    people; `refused` says why no style sheet draws it, if none does.
    """

    declarations: tuple[tuple[str, str], ...]
    of: str | None = None
    notes: tuple[str, ...] = ()
    refused: str = ""


def css_of(
    reading: Reading, layer: Layer, box: Rect, scale: Scale, *, is_fitted: bool = True
) -> Css:
    """The style of a layer, or of the box that a group lies on; `box` is the thing's own.

    What pixels show is fitted closely, which takes a second or more for a box with shadows, or else
    taken as it was judged.
    """
    if layer.is_group and (plate := _plate(reading, layer)):
        return replace(css_of(reading, plate, box, scale, is_fitted=is_fitted), of=plate.address)
    size = size_of(box, scale)
    judgement = reading.judgement(layer)
    if (style := _style(reading, layer, judgement, is_fitted)) is not None:
        return Css((*size, *declared(style, scale)))
    match judgement.becomes:
        case Becomes.WORDS if (words := reading.words(layer)) is not None:
            return Css(tuple(words_css(words, scale)), notes=words.lines)
        case Becomes.WORDS:
            text = judgement.text or reading.seen_text(layer)
            return (
                Css(tuple(_seen(text, scale)), notes=_letters(text, scale)) if text else Css(size)
            )
        case Becomes.NOTHING:
            return Css(size)
    if layer.is_group and len([*drawings([layer])]) > 1:
        return Css(size)
    why = reason(judgement, reading.density)
    return Css(size, refused=f"No style sheet draws it: {why}.")


def _style(reading: Reading, layer: Layer, judgement: Judgement, is_fitted: bool) -> Style | None:
    """The style as the document says it, or as it is fitted to the pixels."""
    if judgement.is_said or judgement.becomes not in (Becomes.CSS, Becomes.PICTURE):
        return judgement.style if judgement.becomes is Becomes.CSS else None
    style = (reading.fitted(layer) if is_fitted else None) or judgement.style
    return style and by_hand(style, reading.density)


def _plate(reading: Reading, group: Layer) -> Layer | None:
    """The lowest box in a group that covers it all and that CSS draws."""
    whole = reading.renderer.exact_box(group.address)
    parts = [part for part in drawings([group]) if part.visible and part is not group]
    for part in reversed(parts):
        box = reading.renderer.exact_box(part.address)
        if whole and box and box.width * box.height >= PLATE * whole.width * whole.height:
            return part if reading.judgement(part).becomes is Becomes.CSS else None
    return None


def size_of(box: Rect, scale: Scale) -> tuple[tuple[str, str], ...]:
    """Width and height; of what a height is a share is not known."""
    height = scale.fine.say(box.height, unit=True)
    return ("width", scale.say(box.width, unit=True)), ("height", height)


def declared(style: Style, scale: Scale) -> Iterator[tuple[str, str]]:
    """What draws a box of this style, by property; its lengths are mockup pixels.

    Lengths of decoration are no shares of anything: they stay px where sizes are per cent.
    """
    fine, px = scale.fine, replace(scale, unit="px")
    if len(style.stops) == 1 and style.stops[0] != CLEAR:
        yield "background", style.stops[0].color
    yield from declarations(style, partial(fine.say, unit=True), partial(px.say, unit=True)).items()
    if style.opacity < 1:
        yield "opacity", f"{style.opacity:.3g}"
    if style.blend != "normal":
        yield "mix-blend-mode", style.blend


def words_css(words: LayerText, scale: Scale) -> Iterator[tuple[str, str]]:
    """What sets a text so, by property."""
    fine = scale.fine
    if words.families:
        yield "font-family", ", ".join(family(name) for name in words.families)
    yield "font-size", fine.say(words.size, unit=True)
    if words.weight != 400:
        yield "font-weight", WEIGHTS.get(words.weight, str(words.weight))
    if words.style != "normal":
        yield "font-style", words.style
    if words.line_step and words.size:
        yield "line-height", f"{words.line_step / words.size:.3g}"
    if words.letter_spacing:
        yield "letter-spacing", fine.say(words.letter_spacing, unit=True)
    if words.anchor in ALIGNED:
        yield "text-align", ALIGNED[words.anchor]
    yield "color", words.color


def family(name: str) -> str:
    """The name of a family as CSS writes it: in quotes unless it is one plain word."""
    plain = name.replace("-", "").isalnum() and name.isascii() and not name[:1].isdigit()
    return name if plain else quoted(" ".join(name.split()))


def quoted(text: str) -> str:
    """A text as a string of CSS, whatever is in it. CSSOM, "serialize a string"."""
    plain = text.replace("\\", "\\\\").replace('"', '\\"')
    signs = (f"\\{ord(sign):x} " if sign < " " or sign in "\x7f<" else sign for sign in plain)
    return f'"{"".join(signs)}"'


def _seen(text: Lettering, scale: Scale) -> Iterator[tuple[str, str]]:
    fine = scale.fine
    if text.line_step:
        yield "line-height", fine.say(text.line_step, unit=True)
    yield "color", text.color


def _letters(text: Lettering, scale: Scale) -> tuple[str, ...]:
    count = len(text.lines)
    lines = f"{count} line{'s' if count > 1 else ''}"
    return (f"{lines} in pixels, small letters {scale.say(text.height, unit=True)} high",)
