"""A resolved slice -> whether its settings fit its role: caps, frames, seams, points."""

from __future__ import annotations

from riffler.cutlist.file import CutlistFile
from riffler.cutlist.model import NO_CAPS
from riffler.cutlist.resolved import ResolvedSlice
from riffler.cutlist.roles import Panel, Tile
from riffler.errors import WrittenError
from riffler.geometry import Box, Point, Size


def check(file: CutlistFile, slice_: ResolvedSlice, canvas: Box) -> None:
    """Raises WrittenError at the setting that does not fit."""

    def mistake(key: str, message: str, advice: str = "") -> WrittenError:
        return file.mistake(slice_.entry, key, message, advice)

    match slice_.role:
        case Panel() as panel:
            wrong = _panel(panel, slice_.box)
        case Tile() as tile:
            wrong = _tile(tile, slice_.box, canvas)
        case role:
            wrong = _frame(role.framed, slice_.box.size)
    if wrong is not None:
        raise mistake(*wrong)
    if slice_.focal is not None and not _holds(slice_.box, slice_.focal):
        raise mistake(
            "focal",
            f"The point {slice_.focal.x:g}, {slice_.focal.y:g} is not in the box of this slice.",
            "A focal point is counted from the top left of the mockup.",
        )


_Wrong = tuple[str, str, str]
"""The setting that does not fit, what is wrong with it, and advice."""


def _panel(panel: Panel, box: Box) -> _Wrong | None:
    caps = panel.caps
    if caps == NO_CAPS:
        needs = "A panel needs caps: the parts that keep their size."
        return "role", needs, "For example caps = { top = 24, bottom = 24 }"
    if caps.left + caps.right >= box.width or caps.top + caps.bottom >= box.height:
        return "caps", f"These caps leave no middle in {_size(box.size)}.", ""
    if panel.is_split and panel.is_upright and (caps.left or caps.right):
        return (
            "split",
            "A panel that is cut apart grows in one direction alone.",
            "Give it caps on two opposite sides, or leave split out to have one picture.",
        )
    return None


def _tile(tile: Tile, box: Box, canvas: Box) -> _Wrong | None:
    """A softened seam takes pixels from beyond the box, which have to be there."""
    soften = tile.soften
    side = min([box.width] * tile.goes_across + [box.height] * tile.goes_down)
    if soften > side // 2:
        return "soften", f"{soften} px is more than half of the tile's {side} px.", ""
    for is_on, room, where in (
        (tile.goes_across, canvas.right - box.right, "right of"),
        (tile.goes_down, canvas.bottom - box.bottom, "below"),
    ):
        if is_on and room < soften:
            return (
                "soften",
                f"A seam is softened with {soften} px {where} the tile, and there are {room}.",
                "Take a chunk further from the edge of the canvas, or soften less.",
            )
    return None


def _frame(frame: Size | None, art: Size) -> _Wrong | None:
    if frame and (art.width > frame.width or art.height > frame.height):
        larger = f"The artwork ({_size(art)}) is larger than its frame ({_size(frame)})."
        return "frame", larger, ""
    return None


def _holds(box: Box, point: Point) -> bool:
    return box.x <= point.x <= box.right and box.y <= point.y <= box.bottom


def _size(size: Size) -> str:
    return f"{size.width} x {size.height} px"
