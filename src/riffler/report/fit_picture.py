"""Pages compared with their mockups -> a picture of where things lie, and where they should."""

from __future__ import annotations

import io
from collections.abc import Sequence

from PIL import Image, ImageDraw

from riffler.fit.fitting import Finding, Fit
from riffler.geometry import Rect
from riffler.project.target import Target

#: Where a thing should be, where it is, and where one is that only follows.
WANTED, FOUND, FOLLOWS, PAPER = "#46652a", "#c0440f", "#c9a27a", "#fbf8f1"

#: How much of the page shows through, and pixels between pages.
SHOWS, GAP = 0.45, 24


def write(fits: Sequence[Fit], target: Target) -> None:
    """Draw every page with its findings, beside one another."""
    drawn = [_drawn(one) for one in fits]
    size = (
        sum(one.width for one in drawn) + GAP * (len(drawn) - 1), max(one.height for one in drawn),
    )  # fmt: skip
    sheet, x = Image.new("RGB", size, PAPER), 0
    for one in drawn:
        sheet.paste(one, (x, 0))
        x += one.width + GAP
    data = io.BytesIO()
    sheet.save(data, "PNG")
    target.write(data.getvalue())


def _drawn(fit: Fit) -> Image.Image:
    shot = Image.fromarray(fit.seen.shot).convert("RGBA")
    page = Image.new("RGB", shot.size, "white")
    page.paste(shot, (0, 0), shot)
    page = Image.blend(Image.new("RGB", page.size, PAPER), page, SHOWS)
    draw = ImageDraw.Draw(page)
    for number, one in enumerate(fit.findings, 1):
        _draw(draw, one, number, fit.wanted.density)
    return page


def _draw(draw: ImageDraw.ImageDraw, finding: Finding, number: int, by: float) -> None:
    for one in finding.root.followers:
        draw.rectangle(_corners(one.there, by), outline=FOLLOWS)
    root = finding.placed
    box = root.thing.box
    draw.rectangle(_corners(box, by), outline=WANTED, width=2)
    if not root.is_missing:
        now = root.there
        draw.rectangle(_corners(now, by), outline=FOUND, width=2)
        draw.line((box.x * by, box.y * by, now.x * by, now.y * by), fill=FOUND, width=2)
    x, y = box.x * by, box.y * by
    draw.ellipse((x - 10, y - 10, x + 10, y + 10), fill=FOUND)
    draw.text((x, y), str(number), fill="white", anchor="mm")


def _corners(box: Rect, by: float) -> tuple[float, float, float, float]:
    scaled = box.scaled(by)
    return scaled.x, scaled.y, scaled.right - 1, scaled.bottom - 1
