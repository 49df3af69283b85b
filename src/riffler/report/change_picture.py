"""Two versions of a mockup -> both side by side, with the changes numbered on them."""

from __future__ import annotations

import io
from collections.abc import Sequence

from PIL import Image, ImageDraw

from riffler.changes.asked import Asked
from riffler.changes.change import Change, Kind
from riffler.color import Bytes
from riffler.geometry import Rect
from riffler.project.target import Target
from riffler.report.change_page import both
from riffler.report.changes import entries

#: What is gone or moved from, what has come or moved to, what is there in both and another.
WAS, NOW, OTHER, PAPER = "#46652a", "#c0440f", "#a3540f", "#fbf8f1"

#: How much of the mockup shows through, and pixels between pictures.
SHOWS, GAP = 0.5, 24


def write(asked: Sequence[Asked], target: Target) -> None:
    """Draw every mockup in both versions, one pair below the other."""
    drawn = [pair for one in asked if one.changed.changes for pair in [_drawn(one)]]
    if not drawn:
        drawn = [_drawn(asked[0])]
    width = max(one.width for one in drawn)
    height = sum(one.height for one in drawn) + GAP * (len(drawn) - 1)
    sheet, y = Image.new("RGB", (width, height), PAPER), 0
    for one in drawn:
        sheet.paste(one, (0, y))
        y += one.height + GAP
    data = io.BytesIO()
    sheet.save(data, "PNG")
    target.write(data.getvalue())


def _drawn(asked: Asked) -> Image.Image:
    before, after, by = both(asked)
    sides = [_faded(pixels) for pixels in (before, after)]
    pens = [ImageDraw.Draw(side) for side in sides]
    for number, entry in enumerate(entries(asked.changed, asked.touched), 1):
        for change in entry.changes:
            for pen, box, color in zip(
                pens, (change.was, change.now), _colors(change), strict=True
            ):
                if box is not None and change.kind is not Kind.PAGE:
                    _mark(pen, box.scaled(by), color, number, by)
    size = sum(side.width for side in sides) + GAP, max(side.height for side in sides)
    sheet = Image.new("RGB", size, PAPER)
    sheet.paste(sides[0], (0, 0))
    sheet.paste(sides[1], (sides[0].width + GAP, 0))
    return sheet


def _faded(pixels: Bytes) -> Image.Image:
    image = Image.fromarray(pixels)
    page = Image.new("RGB", image.size, "white")
    page.paste(image, (0, 0), image)
    return Image.blend(Image.new("RGB", page.size, PAPER), page, SHOWS)


def _colors(change: Change) -> tuple[str, str]:
    """What marks a change on the older and on the newer version."""
    goes = change.kind in (Kind.MOVED, Kind.RESIZED, Kind.ADDED, Kind.REMOVED)
    return (WAS, NOW) if goes else (OTHER, OTHER)


def _mark(pen: ImageDraw.ImageDraw, box: Rect, color: str, number: int, by: float) -> None:
    width, half = max(2, round(1.5 * by)), 9 * by
    pen.rectangle((box.x, box.y, max(box.x, box.right - 1), max(box.y, box.bottom - 1)),
                  outline=color, width=width)  # fmt: skip
    x, y = max(half, box.x), max(half, box.y)
    pen.ellipse((x - half, y - half, x + half, y + half), fill=color)
    pen.text((x, y), str(number), fill="white", anchor="mm", font_size=11 * by)
