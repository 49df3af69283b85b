"""Pages compared with their mockups -> a picture of where things lie, and where they should."""

from __future__ import annotations

from collections.abc import Sequence

from PIL import Image, ImageDraw

from riffler.fit.page_fit import FitFinding, PageFit
from riffler.geometry import Rect
from riffler.project.target import Target
from riffler.report import faded
from riffler.report.faded import NOW, WAS

#: Where a thing is that only follows from another.
FOLLOWS = "#c9a27a"

#: How much of the page shows through.
SHOWS = 0.45


def write(fits: Sequence[PageFit], target: Target) -> None:
    """Draw every page with its findings, beside one another."""
    faded.write(faded.beside([_drawn(fit) for fit in fits]), target)


def _drawn(fit: PageFit) -> Image.Image:
    page = faded.faded(fit.seen.shot, SHOWS)
    draw = ImageDraw.Draw(page)
    for number, finding in enumerate(fit.findings, 1):
        _draw(draw, finding, number, fit.wanted.density)
    return page


def _draw(draw: ImageDraw.ImageDraw, finding: FitFinding, number: int, by: float) -> None:
    for placed in finding.root.followers:
        draw.rectangle(_corners(placed.there, by), outline=FOLLOWS)
    root = finding.placed
    box = root.thing.box
    draw.rectangle(_corners(box, by), outline=WAS, width=2)
    if not root.is_missing:
        now = root.there
        draw.rectangle(_corners(now, by), outline=NOW, width=2)
        draw.line((box.x * by, box.y * by, now.x * by, now.y * by), fill=NOW, width=2)
    x, y = box.x * by, box.y * by
    draw.ellipse((x - 10, y - 10, x + 10, y + 10), fill=NOW)
    draw.text((x, y), str(number), fill="white", anchor="mm")


def _corners(box: Rect, by: float) -> tuple[float, float, float, float]:
    scaled = box.scaled(by)
    return scaled.x, scaled.y, scaled.right - 1, scaled.bottom - 1
