"""Two versions of a mockup -> both side by side, with the changes numbered on them."""

from __future__ import annotations

from collections.abc import Sequence

from PIL import Image, ImageDraw

from riffler.changes.asked import Asked
from riffler.changes.change import Change, ChangeKind
from riffler.geometry import Rect
from riffler.project.target import Target
from riffler.report import faded
from riffler.report.change_page import both
from riffler.report.changes import entries
from riffler.report.faded import NOW, WAS

#: What marks a thing that is in both versions in its place, and another.
OTHER = "#a3540f"

#: How much of the mockups shows through.
SHOWS = 0.5


def write(asked: Sequence[Asked], target: Target) -> None:
    """Draw every mockup in both versions, one pair below the other."""
    shown = [request for request in asked if request.changed.changes] or asked[:1]
    faded.write(faded.below([_drawn(request) for request in shown]), target)


def _drawn(asked: Asked) -> Image.Image:
    before, after, by = both(asked)
    sides = [faded.faded(pixels, SHOWS) for pixels in (before, after)]
    pens = [ImageDraw.Draw(side) for side in sides]
    for number, entry in enumerate(entries(asked.changed, asked.touched), 1):
        for change in entry.changes:
            for pen, box, color in zip(
                pens, (change.was, change.now), _colors(change), strict=True
            ):
                if box is not None and change.kind is not ChangeKind.PAGE:
                    _mark(pen, box.scaled(by), color, number, by)
    return faded.beside(sides)


def _colors(change: Change) -> tuple[str, str]:
    """What marks a change on the older and on the newer version."""
    goes = change.kind in (
        ChangeKind.MOVED,
        ChangeKind.RESIZED,
        ChangeKind.ADDED,
        ChangeKind.REMOVED,
    )
    return (WAS, NOW) if goes else (OTHER, OTHER)


def _mark(pen: ImageDraw.ImageDraw, box: Rect, color: str, number: int, by: float) -> None:
    width, half = max(2, round(1.5 * by)), 9 * by
    pen.rectangle(
        (box.x, box.y, max(box.x, box.right - 1), max(box.y, box.bottom - 1)),
        outline=color,
        width=width,
    )
    x, y = max(half, box.x), max(half, box.y)
    pen.ellipse((x - half, y - half, x + half, y + half), fill=color)
    pen.text((x, y), str(number), fill="white", anchor="mm", font_size=11 * by)
