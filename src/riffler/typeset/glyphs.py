"""A face -> its glyphs as pictures, and a line of text as glyphs with their places.

HarfBuzz sets the line, as browsers do; each glyph is drawn once, large, from its outline.
"""

from __future__ import annotations

import io
from dataclasses import dataclass
from functools import lru_cache
from typing import Any

import numpy as np
import numpy.typing as npt
import uharfbuzz as harfbuzz
from fontTools.pens.svgPathPen import SVGPathPen
from PIL import Image

from riffler.mockup.font_book import Face, laid_out_with, weights_of

Plane = npt.NDArray[np.floating[Any]]

#: Pixels of a font size in the pictures of glyphs, and those around each.
EM, ROOM = 160, 4

#: What is switched off where letters are spaced out. CSS Text 3, section 8.2.
_APART = {"liga": False, "clig": False}


@dataclass(frozen=True)
class Glyph:
    """A glyph in pixels of `EM` to the font size: its picture and where that lies from the pen.

    `across` and `down` are sums of its columns and rows from its left and top, one longer.
    """

    picture: Plane
    left: float
    top: float
    across: Plane
    down: Plane

    @property
    def is_blank(self) -> bool:
        """Whether it paints nothing, as a space."""
        return self.picture.size == 0


@dataclass(frozen=True)
class Setting:
    """A line that is set: its glyphs, where each begins in font sizes, how many letters are before.

    `edges` are left, top, right and bottom of the ink in font sizes from the pen, y downwards.
    `sums` are those of all glyphs' columns one after the other, each from `starts` on and `steps`
    long; `down` are those of the whole line's rows, from `top` on, in pixels of `EM`.
    """

    glyphs: tuple[Glyph, ...]
    pens: Plane
    counts: Plane
    edges: tuple[float, float, float, float]
    sums: Plane
    starts: npt.NDArray[np.int_]
    steps: npt.NDArray[np.int_]
    lefts: Plane
    down: Plane
    top: int


def _setting(
    glyphs: list[Glyph], pens: list[float], counts: list[int], rises: list[float]
) -> Setting:
    """Glyphs as a line; `rises` are what each stands above the baseline, in font sizes."""
    lefts = np.array([glyph.left for glyph in glyphs], np.float32)
    steps = np.array([len(glyph.across) - 1 for glyph in glyphs])
    tops = [round(glyph.top - EM * rise) for glyph, rise in zip(glyphs, rises, strict=True)]
    top = min(tops)
    bottom = max(value + len(glyph.down) - 1 for value, glyph in zip(tops, glyphs, strict=True))
    rows = np.zeros(bottom - top, np.float64)
    for value, glyph in zip(tops, glyphs, strict=True):
        rows[value - top : value - top + len(glyph.down) - 1] += np.diff(glyph.down)
    begins = np.array(pens) + (lefts + ROOM) / EM
    ends = np.array(pens) + (lefts + steps - ROOM) / EM
    edges = (float(begins.min()), (top + ROOM) / EM, float(ends.max()), (bottom - ROOM) / EM)
    return Setting(
        tuple(glyphs),
        np.array(pens),
        np.array(counts, np.float64),
        edges,
        np.concatenate([glyph.across for glyph in glyphs]),
        np.concatenate(([0], np.cumsum(steps + 1)[:-1])),
        steps,
        lefts,
        _sums(rows),
        top,
    )


_BLANK = Glyph(np.zeros((0, 0), np.float32), 0.0, 0.0, *(np.zeros(1, np.float32),) * 2)


class Typeface:
    """A face that lines are set in; glyphs are drawn when they are first wanted."""

    def __init__(self, face: Face) -> None:
        self.face = face
        self._font, self._units = laid_out_with(face.path, face.weight)
        self._glyphs: dict[int, Glyph] = {}

    @classmethod
    def of(cls, face: Face) -> Typeface:
        """The typeface of a face, which is kept. Raises RifflerError for a file that is no font."""
        return _kept(face)

    @property
    def weights(self) -> tuple[int, int] | None:
        """The lightest and boldest that a variable face can be."""
        return weights_of(self._font)

    def prepare(self, lines: tuple[str, ...]) -> None:
        """Draw the glyphs of these lines, all at once."""
        wanted = {number for line in lines for number, *_ in self._shaped(line, is_spaced=False)}
        wanted |= {number for line in lines for number, *_ in self._shaped(line, is_spaced=True)}
        self._draw(sorted(wanted - set(self._glyphs)))

    def has(self, lines: tuple[str, ...]) -> bool:
        """Whether it has all letters."""
        return not any(
            number == 0 for line in lines for number, *_ in self._shaped(line, is_spaced=True)
        )

    def set(self, line: str, *, is_spaced: bool) -> Setting | None:
        """A line as glyphs; None when nothing of it is seen."""
        glyphs, pens, counts, rises, pen = [], [], [], [], 0.0
        shaped = self._shaped(line, is_spaced=is_spaced)
        for count, (number, advance, x, y) in enumerate(shaped):
            glyph = self._glyphs[number]
            if not glyph.is_blank:
                glyphs.append(glyph)
                pens.append(pen + x)
                counts.append(count)
                rises.append(y)
            pen += advance
        return _setting(glyphs, pens, counts, rises) if glyphs else None

    def _shaped(self, line: str, *, is_spaced: bool) -> list[tuple[int, float, float, float]]:
        if not line:
            return []
        buffer = harfbuzz.Buffer()
        buffer.add_str(line)
        buffer.guess_segment_properties()
        harfbuzz.shape(self._font, buffer, _APART if is_spaced else {})
        units = self._units
        return [
            (info.codepoint, at.x_advance / units, at.x_offset / units, at.y_offset / units)
            for info, at in zip(buffer.glyph_infos, buffer.glyph_positions, strict=True)
        ]

    def _draw(self, numbers: list[int]) -> None:
        """Draw glyphs beside one another in one picture, and take it apart."""
        boxes, paths, x = [], [], 0
        scale = EM / self._units
        for number in numbers:
            extents = self._font.get_glyph_extents(number)
            if extents is None or extents.width == 0 or extents.height == 0:
                self._glyphs[number] = _BLANK
                continue
            left, right = _around(extents.x_bearing * scale, extents.width * scale)
            top, bottom = _around(-extents.y_bearing * scale, -extents.height * scale)
            pen = SVGPathPen(None)
            self._font.draw_glyph_with_pen(number, pen)
            matrix = f"matrix({scale} 0 0 {-scale} {x - left} {-top})"
            paths.append(f'<path transform="{matrix}" d="{pen.getCommands()}"/>')
            boxes.append((number, x, left, top, right - left, bottom - top))
            x += right - left
        if not boxes:
            return
        high = max(box[5] for box in boxes)
        whole = _drawn(x, high, "".join(paths))
        for number, start, left, top, wide, deep in boxes:
            picture = np.ascontiguousarray(whole[:deep, start : start + wide])
            self._glyphs[number] = Glyph(
                picture,
                float(left),
                float(top),
                _sums(picture.sum(axis=0)),
                _sums(picture.sum(axis=1)),
            )


def _around(start: float, length: float) -> tuple[int, int]:
    """Whole pixels around a span, with room."""
    low, high = sorted((start, start + length))
    return int(np.floor(low)) - ROOM, int(np.ceil(high)) + ROOM


def _sums(values: Plane) -> Plane:
    return np.concatenate(([0.0], np.cumsum(values, dtype=np.float64)))


def _drawn(width: int, height: int, paths: str) -> Plane:
    """Paths in black on nothing, as coverage 0..1."""
    import resvg_py

    svg = f'<svg xmlns="http://www.w3.org/2000/svg" width="{width}" height="{height}">{paths}</svg>'
    data: Any = resvg_py.svg_to_bytes(svg_string=svg, skip_system_fonts=True)
    with Image.open(io.BytesIO(bytes(data))) as image:
        return np.asarray(image.convert("RGBA"))[..., 3].astype(np.float32) / 255


@lru_cache(512)
def _kept(face: Face) -> Typeface:
    return Typeface(face)
