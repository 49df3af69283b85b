"""Icons -> how they stand out from bars, and what is left of them when they are small."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt
from lxml import etree

from riffler.color import Pixels, contrast
from riffler.mockup.svg import lengths
from riffler.mockup.xml import local_name
from riffler.tidy.drawing import Drawing, computed
from riffler.tidy.precision import Precision
from riffler.tidy.properties import SHAPES

#: Bars of browsers, light and dark, as tabs stand on them: sRGB, 0..1.
BARS = {"light": (0.965, 0.965, 0.961), "dark": (0.137, 0.133, 0.125)}

#: A part of an icon stands out from this contrast on; WCAG 2.2, 1.4.11.
ENOUGH = 3.0

#: What of a maskable icon no mask cuts off, in parts of its side from the middle.
#: Web Application Manifest, section "Icon masks and safe zone".
SAFE = 0.4


@dataclass(frozen=True)
class Judged:
    """What was found: shares from 0 to 1.

    `stands_out` are parts of the icon that have enough contrast with a light and a dark bar;
    `survives` is how much of the large icon the one of 16 px still tells; `thinnest` the width of
    the thinnest stroke there, in pixels, None where there is none; `reach` how far from the middle
    the maskable icon paints, in parts of its side.
    """

    stands_out_light: float
    stands_out_dark: float
    survives: float
    thinnest: float | None
    reach: float

    @property
    def is_safe(self) -> bool:
        """Whether masks leave all of the artwork."""
        return self.reach <= SAFE + 1e-6


def stands_out(pixels: Pixels, bar: tuple[float, float, float]) -> float:
    """The part of what is painted whose contrast with a bar is enough; its rim counts by alpha."""
    alpha = pixels[..., 3]
    ground = np.array(bar, np.float32)
    shown = pixels[..., :3] + (1 - alpha[..., None]) * ground
    is_seen = contrast(shown, ground) >= ENOUGH
    total = float(alpha.sum())
    return float((alpha * is_seen).sum()) / total if total else 0.0


def survives(small: Pixels, large: Pixels) -> float:
    """How much of what is seen in the large icon the small one tells: explained variance, R².

    large: a whole number of times as large; both are laid on a middle grey, where light and dark
    shapes both show.
    """
    times = large.shape[0] // small.shape[0]
    seen = _on_grey(np.repeat(np.repeat(small, times, axis=0), times, axis=1))
    there = _on_grey(large)
    spread = float(np.square(there - there.mean(axis=(0, 1))).sum())
    return max(0.0, 1 - float(np.square(seen - there).sum()) / spread) if spread else 1.0


def _on_grey(pixels: Pixels) -> npt.NDArray[np.float32]:
    return pixels[..., :3] + (1 - pixels[..., 3:]) * np.float32(0.5)


def reach(pixels: Pixels) -> float:
    """How far from the middle something is painted, in parts of the side."""
    side = pixels.shape[0]
    rows, columns = np.nonzero(pixels[..., 3] > 0.1)
    if not rows.size:
        return 0.0
    far = np.hypot(np.abs(rows + 0.5 - side / 2) + 0.5, np.abs(columns + 0.5 - side / 2) + 0.5)
    return float(far.max() / side)


def thinnest(svg: bytes, side: int) -> float | None:
    """The width of the thinnest stroke at a side, in pixels; None where nothing is stroked."""
    root = etree.fromstring(svg)
    box = lengths.view_box(root.get("viewBox"))
    if box is None:
        return None
    unit = side / max(box[2], box[3])
    precision = Precision(Drawing(root), 1.0, 1.0)
    widths = [
        (lengths.length(computed(element, "stroke-width")) or 0.0) * precision.scale(element) * unit
        for element in root.iter()
        if local_name(element) in SHAPES and computed(element, "stroke") != "none"
    ]
    narrowest = min((width for width in widths if width > 0), default=None)
    return None if narrowest is None or not math.isfinite(narrowest) else round(narrowest, 2)
