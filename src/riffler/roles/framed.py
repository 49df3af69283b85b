"""Roles `icon` and `hero`: artwork in a frame, on clear ground or with its own ground going on."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from riffler.analyse import ground, weight
from riffler.color import Pixels, empty
from riffler.cutlist.model import Side
from riffler.cutlist.roles import Hero, Icon
from riffler.geometry import Box, EdgeName, Scale, Size
from riffler.roles.picture import DrawnPicture


def icon(role: Icon, box: Box, picture: DrawnPicture, scale: Scale) -> DrawnPicture:
    """The artwork in the frame that its set shares, on clear ground.

    Its box stands in the middle, or the middle of its weight does as far as the frame has room.
    """
    frame = _frame_around(box, role.frame or box.size, "center")
    canvas, (top, left) = _canvas(frame, box, picture.size, scale)
    middle = weight.middle(picture.pixels) if role.balance == "weight" else None
    if middle is not None:
        x, y = canvas.width / 2 - middle[0], canvas.height / 2 - middle[1]
        left = min(max(0, round(x)), canvas.width - picture.size.width)
        top = min(max(0, round(y)), canvas.height - picture.size.height)
        x0, y0 = box.x - round(left / scale), box.y - round(top / scale)
        frame = Box(x0, y0, frame.width, frame.height)
    pixels = empty(canvas.height, canvas.width)
    pixels[top : top + picture.size.height, left : left + picture.size.width] = picture.pixels
    return replace(picture, pixels=pixels, place=frame)


def hero(role: Hero, box: Box, picture: DrawnPicture, scale: Scale) -> DrawnPicture:
    """The artwork on its side of the frame; the ground at its edges goes on to the frame's."""
    frame = _frame_around(box, role.frame, role.place)
    canvas, (top, left) = _canvas(frame, box, picture.size, scale)
    pixels = picture.pixels
    art = Box(left, top, picture.size.width, picture.size.height)
    for side, count in _room(Box.of_size(canvas), art).items():
        if count > 0:
            pixels = _grown(pixels, side, count)
    return replace(picture, pixels=np.ascontiguousarray(pixels), place=frame)


def _grown(pixels: Pixels, side: EdgeName, count: int) -> Pixels:
    turned = ground.turned(pixels, side)
    whole = np.concatenate((turned, ground.continued(turned, count)), axis=1)
    return ground.turned(whole, side)


def sides_that_go_on(role: Hero, box: Box) -> list[EdgeName]:
    """The sides of a hero's artwork on which its frame has room."""
    frame = _frame_around(box, role.frame, role.place)
    return [side for side, count in _room(frame, box).items() if count > 0]


def _room(outer: Box, inner: Box) -> dict[EdgeName, int]:
    """How much of the outer box lies on each side of the inner one."""
    return {
        "left": inner.x - outer.x,
        "right": outer.right - inner.right,
        "top": inner.y - outer.y,
        "bottom": outer.bottom - inner.bottom,
    }


def _frame_around(art: Box, frame: Size, place: Side) -> Box:
    """The frame as a box of the mockup, with the artwork at its place in it."""
    spare_x, spare_y = frame.width - art.width, frame.height - art.height
    left = {"left": 0, "center": spare_x // 2, "right": spare_x}[place]
    return Box(art.x - left, art.y - spare_y // 2, frame.width, frame.height)


def _canvas(frame: Box, art: Box, drawn: Size, scale: Scale) -> tuple[Size, tuple[int, int]]:
    """The frame in output pixels, and the artwork's top and left in it.

    Both are rounded to whole pixels, and then the artwork may have to give way by one.
    """
    canvas = frame.size.scaled(scale)
    top = min(round((art.y - frame.y) * scale), canvas.height - drawn.height)
    left = min(round((art.x - frame.x) * scale), canvas.width - drawn.width)
    return canvas, (max(0, top), max(0, left))
