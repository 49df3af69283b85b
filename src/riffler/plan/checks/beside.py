"""Edges that lie one or two pixels beside a layer's edge."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from typing import Literal

from riffler.cutlist.resolved import ResolvedSlice
from riffler.cutlist.roles import Tile
from riffler.geometry import Box
from riffler.mockup.model import Layer
from riffler.plan.check import Check
from riffler.plan.finding import Finding
from riffler.plan.subject import Subject

#: Pixels by which an edge may be beside by mistake; more is meant.
OFF = 2

#: A layer's edge counts when it runs along so much of the slice's.
ALONG = 0.6

Side = Literal["left", "top", "right", "bottom"]


def _look(subject: Subject) -> Iterator[Finding]:
    """Every edge that was written in numbers, against the straight edges of the layers."""
    # large layers last: they are decoded beside the small ones
    layers = sorted(
        subject.reading.drawings(), key=lambda layer: layer.box.area if layer.box else 0
    )
    boxes = [(layer, box) for layer in layers if (box := _box(subject, layer))]
    for slice_ in subject.pictures:
        if slice_.box_from == "numbers" and not isinstance(slice_.role, Tile):
            yield from _check(subject, slice_, boxes)


def _box(subject: Subject, layer: Layer) -> Box | None:
    if not subject.mockup.shows(layer):
        return None
    return subject.reading.renderer.solid_box(layer.address)


def _check(
    subject: Subject, slice_: ResolvedSlice, boxes: Sequence[tuple[Layer, Box]]
) -> Iterator[Finding]:
    canvas = _edges(subject.canvas)
    for side, edge in _edges(slice_.box).items():
        if edge == canvas[side]:
            continue
        near: list[tuple[int, Side, Layer]] = []
        for layer, box in boxes:
            if not _runs_along(slice_.box, box, side):
                continue
            for layer_side in _parallel(side):
                off = _edges(box)[layer_side] - edge
                if abs(off) <= OFF:
                    near.append((off, layer_side, layer))
        if not near or any(off == 0 for off, _, _ in near):
            continue
        straight = [
            result
            for result in near
            if not subject.reading.is_words(result[2])
            and subject.reading.judgement(result[2]).is_rectangle
        ]
        if straight:
            off, layer_side, layer = min(straight, key=lambda result: abs(result[0]))
            yield subject.finding(
                "beside",
                slice_,
                f"Its {side} edge at {edge} is {abs(off)} px beside the {layer_side} edge of "
                f"{layer.address} at {edge + off}.",
                f"Move it to {edge + off}.",
                about=(side,),
                place=_line(slice_.box, side, off),
                pixels=abs(off),
            )


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


CHECK = Check(
    "beside",
    {
        "beside": "an edge one or two pixels beside a layer's edge",
    },
    each=_look,
)
