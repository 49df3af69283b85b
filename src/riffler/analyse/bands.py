"""A flat picture -> the rows that it is stacked of: edges that go from side to side."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from riffler.geometry import Box
from riffler.render.renderer import Renderer

#: Steps of 8 bits by which two neighbouring rows differ at an edge.
EDGE = 10

#: Part of the width along which they must.
ALONG = 0.9

#: The lowest row that is one, in pixels: what is thinner is a rule or a border.
LOWEST = 16

#: Rows looked at in one piece.
BAND = 256


def row_edges(renderer: Renderer, shown: frozenset[str]) -> list[int]:
    """The rows at which another part of the page begins, from the top; the canvas ends apart."""
    edges: list[int] = []
    for y in _changes(renderer, shown):
        if y - (edges[-1] if edges else 0) >= LOWEST:
            edges.append(y)
    height = renderer.mockup.size.height
    return [y for y in edges if height - y >= LOWEST]


def _changes(renderer: Renderer, shown: frozenset[str]) -> Iterator[int]:
    canvas = renderer.mockup.box
    before: np.ndarray | None = None
    for band in canvas.bands(BAND):
        pixels = 255 * renderer.render(band, 1.0, shown)[..., :3]
        rows = pixels if before is None else np.concatenate((before[None], pixels))
        change = np.abs(np.diff(rows, axis=0)).max(axis=2)
        first = band.y + (1 if before is None else 0)
        for offset in np.flatnonzero((change >= EDGE).mean(axis=1) >= ALONG):
            yield first + int(offset)
        before = pixels[-1]


def row_boxes(canvas: Box, edges: list[int]) -> list[Box]:
    """The rows between the edges, as wide as the canvas."""
    tops, bottoms = [canvas.y, *edges], [*edges, canvas.bottom]
    return [
        Box.from_edges(canvas.x, top, canvas.right, bottom)
        for top, bottom in zip(tops, bottoms, strict=True)
    ]
