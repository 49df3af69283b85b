"""Edges that lie one or two pixels beside a layer's edge."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from typing import Literal

from riffler.cutlist.resolved import ResolvedSlice
from riffler.geometry import Box
from riffler.mockup.model import Layer
from riffler.plan.finding import Finding
from riffler.plan.page import Page

#: Pixels by which an edge may be beside by mistake; more is meant.
OFF = 2

#: A layer's edge counts when it runs along so much of the slice's.
ALONG = 0.6

Side = Literal["left", "top", "right", "bottom"]


def check(pages: Sequence[Page]) -> Iterator[Finding]:
    """Every edge that was written in numbers, against the straight edges of the layers."""
    for page in pages:
        # large layers last: they are decoded beside the small ones
        layers = sorted(page.reading.drawings(), key=lambda one: one.box.area if one.box else 0)
        boxes = [(layer, box) for layer in layers if (box := _box(page, layer))]
        for one in page.pictures:
            if one.box_from == "numbers" and one.role != "tile":
                yield from _check(page, one, boxes)


def _box(page: Page, layer: Layer) -> Box | None:
    if not page.bench.renderer.mockup.shows(layer):
        return None
    return page.reading.renderer.solid_box(layer.address)


def _check(page: Page, one: ResolvedSlice, boxes: Sequence[tuple[Layer, Box]]) -> Iterator[Finding]:
    canvas = _edges(page.canvas)
    for side, edge in _edges(one.box).items():
        if edge == canvas[side]:
            continue
        near: list[tuple[int, Side, Layer]] = []
        for layer, box in boxes:
            if not _runs_along(one.box, box, side):
                continue
            for layer_side in _parallel(side):
                off = _edges(box)[layer_side] - edge
                if abs(off) <= OFF:
                    near.append((off, layer_side, layer))
        if not near or any(off == 0 for off, _, _ in near):
            continue
        straight = [
            found for found in near
            if not page.reading.is_words(found[2]) and page.reading.verdict(found[2]).is_rectangle
        ]  # fmt: skip
        if straight:
            off, layer_side, layer = min(straight, key=lambda found: abs(found[0]))
            yield page.finding(
                "beside", one,
                f"Its {side} edge at {edge} is {abs(off)} px beside the {layer_side} edge of "
                f"{layer.address} at {edge + off}.",
                f"Move it to {edge + off}.",
                place=_line(one.box, side, off), pixels=abs(off),
            )  # fmt: skip


def _edges(box: Box) -> dict[Side, int]:
    return {"left": box.x, "top": box.y, "right": box.right, "bottom": box.bottom}


def _parallel(side: Side) -> tuple[Side, Side]:
    return ("left", "right") if side in ("left", "right") else ("top", "bottom")


def _runs_along(box: Box, layer: Box, side: Side) -> bool:
    if side in ("left", "right"):
        return min(box.bottom, layer.bottom) - max(box.y, layer.y) >= ALONG * box.height
    return min(box.right, layer.right) - max(box.x, layer.x) >= ALONG * box.width


def _line(box: Box, side: Side, off: int) -> Box:
    """The strip between the edge and where it should be."""
    edge = _edges(box)[side]
    first, last = sorted((edge, edge + off))
    if side in ("left", "right"):
        return Box.from_edges(first, box.y, last, box.bottom)
    return Box.from_edges(box.x, first, box.right, last)
