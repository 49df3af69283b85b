"""A mockup that is open -> what a first look shows: layers, fonts, grid, what is at a point."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, fields
from pathlib import Path

from riffler.analyse.grid import TOLERANCE, Grid, find_grid
from riffler.geometry import Box, Size
from riffler.mockup.font_book import Use, uses
from riffler.mockup.model import Canvas, Layer, LayerKind, LayerText
from riffler.reading.density import likely
from riffler.reading.page_tree import page
from riffler.reading.part import PagePart
from riffler.reading.reading import Reading
from riffler.render.merged import PictureDifference, against_merged
from riffler.render.probing import Hit, layers_at
from riffler.render.renderer import Renderer
from riffler.workspace import Opened

#: The version of these shapes.
VERSION = 2


@dataclass(frozen=True)
class Overview:
    """What is to be known of the whole; `density` is None when no cutlist says it."""

    mockup: Path
    size: Size
    density: float | None
    canvases: tuple[Canvas, ...]


@dataclass(frozen=True)
class LayerLook:
    """A layer with its own box, without shadow, in mockup pixels; None when it is empty."""

    address: str
    name: str
    kind: LayerKind
    visible: bool
    opacity: float
    blend: str
    operator: str
    isolated: bool
    note: str
    box: Box | None
    words: LayerText | None
    layers: tuple[LayerLook, ...]


@dataclass(frozen=True)
class Look(Overview):
    """Every layer, topmost first, and how far the merged picture inside the file is from them."""

    merged: PictureDifference | None
    layers: tuple[LayerLook, ...]


@dataclass(frozen=True)
class PointLook:
    """The colour that the mockup has at a pixel, and the layers that paint there."""

    x: int
    y: int
    color: str
    layers: tuple[Hit, ...]


@dataclass(frozen=True)
class ColumnGrid:
    """The column grid of what shows, in mockup pixels; `on_grid` of `edges` edges lie on it.

    `whole` are twelve columns with the same gutter, where they come out whole: their width.
    `density` is what it is judged at; `parts` are layers by the part of the width that they take,
    as a fraction.
    """

    columns: int
    column: float
    gutter: float
    left: float
    right: float
    edges: int
    on_grid: int
    certainty: str
    density: float
    whole: float | None
    parts: Mapping[str, tuple[str, ...]]


def overview(opened: Opened) -> Overview:
    """The whole in a line."""
    mockup = opened.mockup
    return Overview(mockup.path, mockup.size, opened.density, mockup.canvases)


def look(opened: Opened) -> Look:
    """The layers as a person looks through them."""
    renderer, whole = opened.renderer, overview(opened)
    layers = tuple(_layer(renderer, layer) for layer in opened.mockup.layers)
    return Look(
        whole.mockup, whole.size, whole.density, whole.canvases, against_merged(renderer), layers
    )


def _layer(renderer: Renderer, layer: Layer) -> LayerLook:
    same = {field.name for field in fields(LayerLook)} - {"box", "layers"}
    return LayerLook(
        **{name: getattr(layer, name) for name in same},
        box=renderer.own_box(layer.address),
        layers=tuple(_layer(renderer, child) for child in layer.children),
    )


def point(opened: Opened, x: int, y: int) -> PointLook:
    """What is at a pixel, hidden layers too. Raises RifflerError beyond the canvas."""
    color, hits = layers_at(opened.renderer, x, y)
    return PointLook(x, y, color, tuple(hits))


def fonts(opened: Opened) -> tuple[Use, ...]:
    """The families that text asks for, and what becomes of each."""
    return tuple(uses(opened.mockup, opened.fonts))


def grid(opened: Opened, density: float | None = None) -> ColumnGrid | None:
    """The column grid of what the mockup shows; None when none explains its edges.

    It is judged at the `density`, or at the one that `reading_of` finds.
    """
    reading = reading_of(opened, density)
    density, blocks = reading.density, _blocks(reading)
    found_grid = grid_of(reading)
    if found_grid is None:
        return None
    parts: dict[str, list[str]] = {}
    for address, box in blocks.items():
        share = found_grid.share(box, TOLERANCE * density)
        if share is not None:
            parts.setdefault(str(share), []).append(address)
    return ColumnGrid(
        found_grid.columns,
        found_grid.column,
        found_grid.gutter,
        found_grid.left,
        found_grid.right,
        found_grid.edges,
        found_grid.on_grid,
        found_grid.certainty,
        density,
        found_grid.finer[1] if found_grid.finer else None,
        {share: tuple(addresses) for share, addresses in sorted(parts.items())},
    )


def parts(opened: Opened) -> PagePart:
    """The page as a tree of rows, columns and the things in them."""
    return page(reading_of(opened))


def reading_of(opened: Opened, density: float | None = None) -> Reading:
    """The mockup read at a density, the one that its cutlist says, or that most speaks for."""
    reading = Reading(opened.renderer, 1.0, opened.says)
    return reading.at(density or opened.density or likely(reading).value)


def grid_of(reading: Reading) -> Grid | None:
    """The column grid of a mockup that is read."""
    texts = [
        box
        for layer in reading.drawings()
        if reading.mockup.shows(layer) and reading.is_words(layer) and (box := reading.box(layer))
    ]
    width = reading.mockup.size.width
    return find_grid(_blocks(reading).values(), width, reading.density, texts)


def _blocks(reading: Reading) -> dict[str, Box]:
    """The box of every drawing that shows and is not text: letters end where they like."""
    return {
        layer.address: box
        for layer in reading.drawings()
        if reading.mockup.shows(layer)
        and not reading.is_words(layer)
        and (box := reading.box(layer))
    }
