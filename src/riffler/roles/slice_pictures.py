"""A slice's box and role -> the pictures it becomes: what is drawn for it, what its role makes."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from riffler.color import Pixels
from riffler.cutlist.roles import Hero, Icon, Panel, Role, Tile
from riffler.geometry import Box, Scale
from riffler.roles import framed, panel, tile
from riffler.roles.picture import DrawnPicture


@dataclass(frozen=True)
class PicturePart:
    """One picture of a slice: its name, None for the whole, and the box that is drawn for it."""

    name: str | None
    box: Box


def parts(role: Role, box: Box) -> Iterator[PicturePart]:
    """The pictures that a slice becomes in each state and size; none for a box of live text."""
    match role:
        case Panel(is_split=True):
            for name, inner in panel.parts(box, role):
                yield PicturePart(name, inner)
        case Tile():
            yield PicturePart(None, tile.drawn_box(box, role))
        case _ if role.has_files:
            yield PicturePart(None, box)


def made(role: Role, box: Box, drawn: Box, pixels: Pixels, scale: Scale) -> DrawnPicture:
    """One of its pictures, made what the role says.

    `box` is the slice's own; pixels: (H, W, 4) of `drawn`, a part of it, at `scale`.
    """
    picture = DrawnPicture(pixels, drawn)
    match role:
        case Icon():
            return framed.icon(role, box, picture, scale)
        case Hero():
            return framed.hero(role, box, picture, scale)
        case Tile():
            return tile.tile(box, picture, scale)
    return picture
