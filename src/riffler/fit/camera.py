"""A page that is open -> its pixels, a band at a time.

The DevTools protocol hands pictures over packed quickly, not tightly: the same in half the time.
Packed, unpacked and kept, a whole page at once would take up four times what stays.
"""

from __future__ import annotations

import base64
import gc
import io
import math
from collections.abc import Iterator, Sequence
from contextlib import contextmanager
from fractions import Fraction

import numpy as np

from riffler.color import Bytes
from riffler.fit.tab import Session
from riffler.geometry import Box
from riffler.jobs.runner import Workers

#: CSS pixels of a band at the most, and the largest denominator of a density with whole bands.
HIGH, PARTS = 1024, 100

#: Bands taken ahead of the one that is looked at.
AHEAD = 2


class Camera:
    """Takes pictures of one page; boxes are in pixels of the page, `density` to a CSS pixel."""

    def __init__(self, line: Session, density: float) -> None:
        self._density, self._line = density, line

    def shot(self, box: Box) -> Bytes:
        """What the page shows in a box, (H, W, 4) uint8, straight RGBA."""
        return _unpacked(self._packed(box))

    def _packed(self, box: Box) -> str:
        by = self._density
        clip = {
            "x": box.x / by,
            "y": box.y / by,
            "width": box.width / by,
            "height": box.height / by,
            "scale": by,
        }
        values = {
            "format": "png",
            "clip": clip,
            "captureBeyondViewport": True,
            "optimizeForSpeed": True,
        }
        data: str = self._line.send("Page.captureScreenshot", values)["data"]
        gc.collect(0)  # the answer before refers to itself, and would stay with all others
        return data

    def whole(self, canvas: Box) -> Bytes:
        """All of a page as large as `canvas`, (H, W, 4) uint8."""
        pixels = np.empty((canvas.height, canvas.width, 4), np.uint8)
        for on, band in self.bands(canvas):
            pixels[on.within(canvas)] = band
        return pixels

    def bands(self, canvas: Box, among: Sequence[Box] | None = None) -> Iterator[tuple[Box, Bytes]]:
        """Bands of a page with what they show; where boxes are named, only those that meet one.

        One is unpacked while the browser takes the next.
        """
        step = Fraction(self._density).limit_denominator(PARTS).denominator
        high = round(HIGH // step * step * self._density) or canvas.height
        boxes = (on for on in canvas.bands(high) if among is None or any(on & box for box in among))
        with Workers(1) as beside:
            unpacked = ((on, beside.start(_unpacked, self._packed(on))) for on in boxes)
            yield from beside.in_order(unpacked, AHEAD)

    @contextmanager
    def on_nothing(self) -> Iterator[None]:
        """Pages without a ground of their own are clear meanwhile."""
        override = "Emulation.setDefaultBackgroundColorOverride"
        self._line.send(override, {"color": {"r": 0, "g": 0, "b": 0, "a": 0}})
        yield
        self._line.send(override)


def _unpacked(data: str) -> Bytes:
    from PIL import Image

    image = Image.open(io.BytesIO(base64.b64decode(data)))
    return np.asarray(image if image.mode == "RGBA" else image.convert("RGBA"))


def canvas(width: float, height: float, density: float) -> Box:
    """A page of a size in CSS pixels, in its own pixels; halves count as a browser counts them."""
    return Box(0, 0, math.floor(width * density + 0.5), math.floor(height * density + 0.5))
