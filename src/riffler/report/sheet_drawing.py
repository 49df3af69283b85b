"""Shapes and words on a sheet -> the same drawing as PNG and as SVG.

The plan's drawing is a list of shapes with two ways out, PNG and SVG, so that both look the same
and need no font of the system.
"""

from __future__ import annotations

import base64
import io
from collections.abc import Sequence
from dataclasses import dataclass, field
from functools import lru_cache
from itertools import pairwise
from typing import TYPE_CHECKING
from xml.sax.saxutils import escape, quoteattr

from riffler.project.target import OURS

if TYPE_CHECKING:
    from PIL import Image
    from PIL.ImageFont import FreeTypeFont, ImageFont

#: Shapes are drawn so many times larger and reduced, so that lines are smooth.
SMOOTH = 3

#: A font's letters reach from the baseline so far up, as a share of its size.
ASCENT = 0.74

Point = tuple[float, float]


@dataclass(frozen=True)
class Stroke:
    """How a line is drawn: colour, width in pixels, and lengths of dashes and gaps."""

    color: str
    width: float = 1.0
    dashes: tuple[float, ...] = ()


@dataclass(frozen=True)
class _Line:
    points: tuple[Point, ...]
    stroke: Stroke


@dataclass(frozen=True)
class _Area:
    x: float
    y: float
    width: float
    height: float
    fill: str
    radius: float = 0.0
    opacity: float = 1.0


@dataclass(frozen=True)
class _Text:
    x: float
    y: float
    text: str
    size: float
    color: str
    anchor: str


@dataclass(frozen=True)
class _Picture:
    x: float
    y: float
    picture: Image.Image


@dataclass
class Sheet:
    """A drawing of so many pixels; what is added later lies on top, words above all."""

    width: int
    height: int
    ground: str
    _shapes: list[_Line | _Area | _Picture] = field(default_factory=list)
    _texts: list[_Text] = field(default_factory=list)

    def line(self, points: Sequence[Point], stroke: Stroke) -> None:
        """A line through the points."""
        self._shapes.append(_Line(tuple(points), stroke))

    def frame(self, x: float, y: float, width: float, height: float, stroke: Stroke) -> None:
        """The outline of a box; the line lies on its edge."""
        corners = ((x, y), (x + width, y), (x + width, y + height), (x, y + height), (x, y))
        self._shapes.append(_Line(corners, stroke))

    def area(
        self,
        x: float,
        y: float,
        width: float,
        height: float,
        fill: str,
        *,
        radius: float = 0.0,
        opacity: float = 1.0,
    ) -> None:
        """A filled box, its corners rounded by `radius`."""
        self._shapes.append(_Area(x, y, width, height, fill, radius, opacity))

    def picture(self, x: float, y: float, picture: Image.Image) -> None:
        """A picture, pixel for pixel."""
        self._shapes.append(_Picture(x, y, picture))

    def text(
        self, x: float, y: float, text: str, size: float, color: str, *, anchor: str = "start"
    ) -> None:
        """Words on one line; `y` is their baseline, `anchor` is SVG's."""
        self._texts.append(_Text(x, y, text, size, color, anchor))

    def to_image(self) -> Image.Image:
        """The sheet in pixels."""
        from PIL import Image, ImageDraw

        whole = Image.new("RGB", (self.width, self.height), self.ground)
        layer = Image.new("RGBA", (self.width * SMOOTH, self.height * SMOOTH))
        draw = ImageDraw.Draw(layer, "RGBA")
        for shape in self._shapes:
            match shape:
                case _Picture():
                    whole.paste(shape.picture, (round(shape.x), round(shape.y)))
                case _Area():
                    _draw_area(draw, shape)
                case _Line():
                    _draw_line(draw, shape)
        anchors = {"start": "ls", "middle": "ms", "end": "rs"}
        for text in self._texts:
            draw.text(
                (text.x * SMOOTH, text.y * SMOOTH),
                text.text,
                fill=text.color,
                font=_font(text.size * SMOOTH),
                anchor=anchors[text.anchor],
            )
        smooth = layer.resize((self.width, self.height), Image.Resampling.BOX)
        whole.paste(smooth, (0, 0), smooth)
        return whole

    def to_svg(self) -> bytes:
        """The sheet as an SVG that needs no other file; its words are text."""
        head = (
            f'<svg xmlns="http://www.w3.org/2000/svg" width="{self.width}" height="{self.height}" '
            f'viewBox="0 0 {self.width} {self.height}" font-family="sans-serif">'
        )
        lines = [
            head,
            f"<!-- {OURS}, which may draw it again. -->",
            f'<rect width="100%" height="100%" fill="{self.ground}"/>',
            *map(_shape_as_svg, self._shapes),
            *map(_text_as_svg, self._texts),
            "</svg>",
        ]
        return ("\n".join(lines) + "\n").encode()


def as_png(picture: Image.Image) -> bytes:
    """A drawing as a PNG that says whose it is."""
    from PIL.PngImagePlugin import PngInfo

    info, out = PngInfo(), io.BytesIO()
    info.add_text("Software", OURS)
    picture.save(out, "PNG", optimize=True, pnginfo=info)
    return out.getvalue()


def width_of(text: str, size: float) -> float:
    """How wide words are, in pixels."""
    return _font(size * SMOOTH).getlength(text) / SMOOTH


def shortened(text: str, size: float, width: float) -> str:
    """The beginning of words that are wider than there is room for."""
    if width_of(text, size) <= width:
        return text
    while text and width_of(text + "…", size) > width:
        text = text[:-1]
    return text.rstrip() + "…"


def wrapped(text: str, size: float, width: float, most: int) -> list[str]:
    """Words on at most `most` lines; the last one is cut short where there are more."""
    lines: list[str] = []
    for word in text.split():
        if lines and width_of(f"{lines[-1]} {word}", size) <= width:
            lines[-1] += f" {word}"
        else:
            lines.append(word)
    if len(lines) > most:
        lines[most - 1] = " ".join(lines[most - 1 :])
    return [shortened(line, size, width) for line in lines[:most]]


@lru_cache
def _font(size: float) -> FreeTypeFont | ImageFont:
    from PIL import ImageFont

    return ImageFont.load_default(size)


def _draw_area(draw: object, area: _Area) -> None:
    from PIL import ImageColor, ImageDraw

    assert isinstance(draw, ImageDraw.ImageDraw)
    color = (*ImageColor.getrgb(area.fill)[:3], round(255 * area.opacity))
    left, top = area.x * SMOOTH, area.y * SMOOTH
    right, bottom = (area.x + area.width) * SMOOTH - 1, (area.y + area.height) * SMOOTH - 1
    if right < left or bottom < top:
        return
    draw.rounded_rectangle((left, top, right, bottom), area.radius * SMOOTH, fill=color)


def _draw_line(draw: object, line: _Line) -> None:
    from PIL import ImageDraw

    assert isinstance(draw, ImageDraw.ImageDraw)
    width = max(1, round(line.stroke.width * SMOOTH))
    for start, end in _dashed(line.points, line.stroke.dashes):
        points = [(x * SMOOTH, y * SMOOTH) for x, y in (start, end)]
        draw.line(points, fill=line.stroke.color, width=width)


def _dashed(points: Sequence[Point], dashes: Sequence[float]) -> list[tuple[Point, Point]]:
    """The strokes that a line is made of; dashes go on round corners."""
    segments = list(pairwise(points))
    if not dashes:
        return segments
    result, index, left = [], 0, dashes[0]
    for (x, y), (x_end, y_end) in segments:
        length = ((x_end - x) ** 2 + (y_end - y) ** 2) ** 0.5
        done = 0.0
        while done < length:
            step = min(left, length - done)
            if index % 2 == 0:
                a, b = done / length, (done + step) / length
                result.append(
                    (
                        (x + (x_end - x) * a, y + (y_end - y) * a),
                        (x + (x_end - x) * b, y + (y_end - y) * b),
                    )
                )
            done, left = done + step, left - step
            if left <= 1e-9:
                index = (index + 1) % len(dashes)
                left = dashes[index]
    return result


def _shape_as_svg(shape: _Line | _Area | _Picture) -> str:
    if isinstance(shape, _Picture):
        out = io.BytesIO()
        shape.picture.save(out, "PNG", optimize=True)
        data = base64.b64encode(out.getvalue()).decode()
        width, height = shape.picture.size
        return (
            f'<image x="{shape.x:g}" y="{shape.y:g}" width="{width}" height="{height}" '
            f'href="data:image/png;base64,{data}"/>'
        )
    if isinstance(shape, _Area):
        more = f' rx="{shape.radius:g}"' if shape.radius else ""
        more += f' fill-opacity="{shape.opacity:g}"' if shape.opacity < 1 else ""
        return (
            f'<rect x="{shape.x:g}" y="{shape.y:g}" width="{shape.width:g}" '
            f'height="{shape.height:g}" fill="{shape.fill}"{more}/>'
        )
    points = " ".join(f"{x:.1f},{y:.1f}" for x, y in shape.points)
    dashes = " ".join(f"{length:g}" for length in shape.stroke.dashes)
    more = f' stroke-dasharray="{dashes}"' if dashes else ""
    return (
        f'<polyline points="{points}" fill="none" stroke="{shape.stroke.color}" '
        f'stroke-width="{shape.stroke.width:g}"{more}/>'
    )


def _text_as_svg(text: _Text) -> str:
    anchor = f' text-anchor="{text.anchor}"' if text.anchor != "start" else ""
    length = width_of(text.text, text.size)
    return (
        f'<text x="{text.x:.1f}" y="{text.y:.1f}" font-size="{text.size:g}" '
        f"fill={quoteattr(text.color)}{anchor} "
        f'textLength="{length:.1f}" lengthAdjust="spacingAndGlyphs">{escape(text.text)}</text>'
    )
