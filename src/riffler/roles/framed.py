"""Roles `icon` and `hero`: artwork in a frame, centred on clear ground or grown to fill it."""

from __future__ import annotations

from dataclasses import replace
from typing import Literal

import numpy as np

from riffler.color import Pixels, empty
from riffler.cutlist.resolve import ResolvedSlice
from riffler.geometry import Box, Size
from riffler.roles.picture import Picture


def icon(of: ResolvedSlice, picture: Picture) -> Picture:
    """The artwork in the middle of the frame that its set shares, on clear ground."""
    frame = _frame_around(of, "center")
    canvas, (top, left) = _canvas(frame, of.box, picture.size)
    pixels = empty(canvas.height, canvas.width)
    pixels[top : top + picture.size.height, left : left + picture.size.width] = picture.pixels
    return replace(picture, pixels=pixels, place=frame)


def hero(of: ResolvedSlice, picture: Picture) -> Picture:
    """The artwork on its side of the frame; the colours of its edges go on to the frame's."""
    frame = _frame_around(of, of.place)
    canvas, (top, left) = _canvas(frame, of.box, picture.size)
    return replace(picture, pixels=_continued(picture.pixels, canvas, top, left), place=frame)


def _frame_around(of: ResolvedSlice, place: Literal["left", "center", "right"]) -> Box:
    """The frame as a box of the mockup, with the artwork at its place in it."""
    assert of.frame is not None
    spare_x, spare_y = of.frame.width - of.box.width, of.frame.height - of.box.height
    left = {"left": 0, "center": spare_x // 2, "right": spare_x}[place]
    return Box(of.box.x - left, of.box.y - spare_y // 2, of.frame.width, of.frame.height)


def _canvas(frame: Box, art: Box, drawn: Size) -> tuple[Size, tuple[int, int]]:
    """The frame in output pixels, and the artwork's top and left in it."""
    scale = drawn.width / art.width
    canvas = frame.size.scaled(scale)
    top, left = round((art.y - frame.y) * scale), round((art.x - frame.x) * scale)
    return (
        Size(max(canvas.width, left + drawn.width), max(canvas.height, top + drawn.height)),
        (top, left),
    )


def _continued(pixels: Pixels, canvas: Size, top: int, left: int) -> Pixels:
    height, width = pixels.shape[:2]
    below, right = canvas.height - top - height, canvas.width - left - width
    return np.pad(pixels, ((top, below), (left, right), (0, 0)), mode="edge")
