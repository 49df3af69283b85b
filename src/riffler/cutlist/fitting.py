"""A settled slice -> whether its settings fit its role: caps, frames, seams, points."""

from __future__ import annotations

from typing import NoReturn

from riffler.cutlist.file import CutlistFile
from riffler.cutlist.model import NO_CAPS
from riffler.cutlist.resolved import ResolvedSlice
from riffler.errors import WrittenError
from riffler.geometry import Box, Size


def check(file: CutlistFile, one: ResolvedSlice, canvas: Box) -> None:
    """Raises WrittenError at the setting that does not fit."""
    match one.role:
        case "panel":
            _check_panel(file, one)
        case "tile":
            _check_tile(file, one, canvas)
        case "icon" | "hero":
            _check_frame(file, one)
    if one.focal is not None and not _holds(one.box, one.focal):
        x, y = one.focal
        _refuse(
            file, one, "focal",
            f"The point {x:g}, {y:g} is not in the box of this slice.",
            "A focal point is counted from the top left of the mockup.",
        )  # fmt: skip


def _check_panel(file: CutlistFile, one: ResolvedSlice) -> None:
    caps, box = one.caps, one.box
    if caps == NO_CAPS:
        _refuse(file, one, "role", "A panel needs caps: the parts that keep their size.",
                  "For example caps = { top = 24, bottom = 24 }")  # fmt: skip
    if caps.left + caps.right >= box.width or caps.top + caps.bottom >= box.height:
        _refuse(file, one, "caps", f"These caps leave no middle in {_size(box.size)}.")
    if one.is_split and (caps.top or caps.bottom) and (caps.left or caps.right):
        _refuse(
            file, one, "split", "A panel that is cut apart grows in one direction alone.",
            "Give it caps on two opposite sides, or leave split out to have one picture.",
        )  # fmt: skip


def _check_tile(file: CutlistFile, one: ResolvedSlice, canvas: Box) -> None:
    """A softened seam takes pixels from beyond the box, which have to be there."""
    box, soften = one.box, one.soften
    across, down = one.repeat in ("x", "both"), one.repeat in ("y", "both")
    side = min([box.width] * across + [box.height] * down)
    if soften > side // 2:
        _refuse(file, one, "soften", f"{soften} px is more than half of the tile's {side} px.")
    for is_on, room, where in (
        (across, canvas.right - box.right, "right of"),
        (down, canvas.bottom - box.bottom, "below"),
    ):
        if is_on and room < soften:
            _refuse(
                file, one, "soften",
                f"A seam is softened with {soften} px {where} the tile, and there are {room}.",
                "Take a chunk further from the edge of the canvas, or soften less.",
            )  # fmt: skip


def _check_frame(file: CutlistFile, one: ResolvedSlice) -> None:
    frame, box = one.frame, one.box
    if one.role == "hero" and frame is None:
        _refuse(file, one, "role", "A hero needs a frame to fill.",
                  "For example frame = [1920, 880]")  # fmt: skip
    if frame and (box.width > frame.width or box.height > frame.height):
        _refuse(
            file, one, "frame",
            f"The artwork ({_size(box.size)}) is larger than its frame ({_size(frame)}).",
        )  # fmt: skip


def _holds(box: Box, point: tuple[float, float]) -> bool:
    return box.x <= point[0] <= box.right and box.y <= point[1] <= box.bottom


def _size(size: Size) -> str:
    return f"{size.width} x {size.height} px"


def _refuse(
    file: CutlistFile, one: ResolvedSlice, key: str, message: str, advice: str = ""
) -> NoReturn:
    """Raise the error where the setting is written."""
    with file.said_at(one.entry, key):
        raise WrittenError(message, advice)
