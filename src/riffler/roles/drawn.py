"""A settled slice -> the pictures it becomes: what is drawn for it, and what its role makes."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from riffler.cutlist.resolved import ResolvedSlice
from riffler.geometry import Box, Scale
from riffler.render.renderer import Renderer
from riffler.roles import framed, panel, tile
from riffler.roles.picture import Picture


@dataclass(frozen=True)
class Part:
    """One picture of a slice: its name, empty for the whole, and the box that is drawn for it."""

    name: str
    box: Box


def parts(of: ResolvedSlice) -> Iterator[Part]:
    """The pictures that a slice becomes in each state and size; none for a box of live text."""
    match of.role:
        case "words":
            return
        case "panel" if of.is_split:
            for name, box in panel.parts(of.box, of.caps):
                yield Part(name, box)
        case "tile":
            yield Part("", tile.drawn_box(of))
        case _:
            yield Part("", of.box)


def draw(
    of: ResolvedSlice, part: Part, renderer: Renderer, scale: Scale, shown: frozenset[str]
) -> Picture:
    """One of its pictures, made what the role says."""
    picture = Picture(renderer.render(part.box, scale, shown), part.box)
    match of.role:
        case "icon":
            return framed.icon(of, picture, scale)
        case "hero":
            return framed.hero(of, picture, scale)
        case "tile":
            return tile.tile(of, picture, scale)
        case _:
            return picture
