"""Elements -> the declarations of how they look: type where it differs, grounds, states."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass, replace

from riffler.analyse.style import Style
from riffler.markup.area import Area
from riffler.markup.element import Element, Lengths, in_windows
from riffler.markup.setting import Type
from riffler.measure.css import declared, family
from riffler.measure.units import Scale
from riffler.reading.states import CURRENT

#: Type from this size on, in CSS pixels, shrinks in narrower windows, to so much of it in one that
#: is as wide as a phone.
LARGE, SMALLER, PHONE = 32, 0.66, 375

#: What is no farther from the middle stands in it, in CSS pixels.
CENTRED = 3.0

#: What follows a class in the selector of a state.
SELECTORS = {
    CURRENT: ('[aria-current="page"]',),
    "hover": (":hover", ":focus-visible"),
    "active": (":active",),
    "focus": (":focus-visible",),
    "disabled": (":disabled",),
}


@dataclass(frozen=True)
class Inherited:
    """What an element has from those around it."""

    type: Type
    step: float
    align: str = "left"


class Looks:
    """Declares how the elements of a page look; type shrinks in windows narrower than `width`."""

    def __init__(self, lengths: Lengths, width: float = 0.0) -> None:
        self._say, self._width = lengths.say, width
        self._scale = Scale("rem" if lengths.unit == "rem" else "px")

    def of_all(self, element: Element, body: Inherited) -> None:
        """An element and all in it."""
        area = element.area
        if area is not None:
            css = dict(self._of(element, area, body))
            element.css = {**element.css, **css}
            if area.mark is not None:
                self._mark(element, area, area.mark)
            for state, style in area.states.items():
                for ending in SELECTORS.get(state, ()):
                    element.looks[ending] = _without(dict(self._ground(style)), css)
        for inner in element.inner:
            self.of_all(inner, body)

    def _mark(self, element: Element, area: Area, mark: Area) -> None:
        """The line that a link has on the page that it leads to: nearer in narrow windows."""
        across, width = mark.box.x - area.box.x, mark.box.width
        side, off = "bottom", area.box.bottom - mark.box.bottom
        if mark.box.y < area.box.y:
            side, off = "top", mark.box.y - area.box.y
        is_centred = abs(across + (width - area.box.width) / 2) <= CENTRED
        left = f"calc(50% - {self._say(width / 2)})" if is_centred else self._say(round(across))
        long = self._say(width)
        if element.css.get("text-align") != "center":
            element.css.setdefault("width", "fit-content")
            if is_centred and abs(width - area.box.width) <= CENTRED:  # as long as any entry is
                left, long = "0", "100%"
        element.css["position"] = "relative"
        element.looks[f"{SELECTORS[CURRENT][0]}::after"] = {
            "content": '""',
            "position": "absolute",
            side: self._clear(off),
            "left": left,
            "width": long,
            "height": self._say(mark.box.height),
            **dict(self._ground(mark.ground) if mark.ground else ()),
        }

    def _clear(self, off: float) -> str:
        """How far something hangs over its box; less in narrower windows, where lines wrap."""
        if off >= 0 or not self._width:
            return self._say(off)
        return f"max({self._say(off)}, {in_windows(off, self._width)})"

    def _of(self, element: Element, area: Area, body: Inherited) -> Iterator[tuple[str, str]]:
        if element.label is not None:
            yield from self._type(element.label.type, element.label.step, body)
        if area.setting is not None:
            yield from self._type(area.setting.type, area.setting.step, body)
        if element.tag in ("input", "select") and area.parts and (setting := area.parts[0].setting):
            yield from self._type(setting.type, setting.step, body)
        if area.ground is not None:
            yield from self._ground(area.ground)
        if element.tag == "hr" and area.ground is not None:
            yield "border", "0"
        if element.tag != "img" and area.piece is not None and "max-width" not in element.css:
            yield "max-width", "100%"  # its class says how wide the picture is

    def _type(self, type_: Type, step: float, body: Inherited) -> Iterator[tuple[str, str]]:
        """What differs from how the body is set."""
        usual = body.type
        if type_.family and type_.family != usual.family:
            yield "font-family", stack_of(type_)
        if type_.size != usual.size:
            yield "font-size", self._shrinking(type_.size)
        if type_.weight != usual.weight:
            yield "font-weight", str(type_.weight)
        if type_.is_italic != usual.is_italic:
            yield "font-style", "italic" if type_.is_italic else "normal"
        if self._shrinks(type_.size):
            yield "line-height", f"{step / type_.size:.4g}"
        elif (step, type_.size) != (body.step, usual.size):
            yield "line-height", self._say(step)
        if type_.spacing != usual.spacing:
            yield "letter-spacing", self._say(type_.spacing)
        if type_.color != usual.color:
            yield "color", type_.color

    def _shrinks(self, size: float) -> bool:
        return size >= LARGE and self._width > PHONE + 100

    def _shrinking(self, size: float) -> str:
        """A size; a large one shrinks with the window, to that on phones."""
        if not self._shrinks(size):
            return self._say(size)
        least = max(LARGE - 4, round(SMALLER * size))
        share = math.ceil(1e4 * (size - least) / (self._width - PHONE)) / 100
        start = round(least - share * PHONE / 100, 2)
        middle = f"{self._say(start)} + {share:g}vw" if start else f"{share:g}vw"
        return f"clamp({self._say(least)}, {middle}, {self._say(size)})"

    def _ground(self, style: Style) -> Iterator[tuple[str, str]]:
        """The box that CSS draws. Opacity becomes the colour's own: words on it keep theirs."""
        if style.opacity < 1:
            stops = tuple(
                replace(stop, color=_faded(stop.color, style.opacity)) for stop in style.stops
            )
            style = replace(style, stops=stops, opacity=1.0)
        for name, value in declared(style, self._scale):
            if name != "box-sizing":
                yield name, value


def _faded(color: str, opacity: float) -> str:
    alpha = int(color[7:9], 16) / 255 if len(color) > 7 else 1.0
    return f"{color[:7]}{round(255 * alpha * opacity):02x}"


def _without(css: dict[str, str], known: dict[str, str]) -> dict[str, str]:
    return {name: value for name, value in css.items() if known.get(name) != value}


def stack_of(type_: Type) -> str:
    """A family and what stands in for it."""
    return f"{family(type_.family)}, {type_.generic}" if type_.family else type_.generic


def body_of(area: Area, usual: tuple[str, float, int, str]) -> Inherited:
    """How the body of a page is set, by the text that most of it is set like."""
    for setting in area.words():
        type_ = setting.type
        if (type_.family, type_.size, type_.weight, type_.color) == usual:
            return Inherited(type_, setting.step)
    return Inherited(Type("", "sans-serif", 16.0, 400, False, 0.0, "#000000"), 24.0)
