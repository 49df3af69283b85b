"""Pieces of pictures at each level, enlarged, with all three measures: docs/screenshots/levels.png.

    python -m benchmarks.levels FILE.png

One row a kind: the picture itself, then the file of the format that is chosen most for it at
`clear`, at `fair`, and one step below, with our loss, SSIMULACRA2 and the 99th percentile of FLIP.
"""

from __future__ import annotations

import sys
from pathlib import Path

import numpy as np
from PIL import Image, ImageDraw, ImageFont

from benchmarks.corpora import Straight, corpus
from benchmarks.measured import cropped, measured
from riffler.encode.choice import LEVELS
from riffler.encode.choose import CODECS, choose
from riffler.encode.codec import Try
from riffler.encode.encoding import decoded
from riffler.encode.original import Original
from riffler.encode.palette import Counted, palette
from riffler.formats import FORMATS

#: What is shown of each kind: corpus, number, format.
ROWS = (
    ("icons", 24, "avif"), ("thin", 8, "avif"), ("lines", 2, "png"), ("interface", 7, "avif"),
    ("photos", 6, "jpeg"), ("cloth", 0, "jpeg"), ("gradients", 5, "jpeg"),
)  # fmt: skip

#: The loss of what stands one step below `fair`.
BELOW = 6.0

#: Size of a piece on the page, how often it is enlarged, and what is around it.
SIDE, TIMES, GAP, LEFT, TEXT = 216, 3, 14, 104, 40

PAPER, INK, DIM = "#fbf8f1", "#2d2821", "#7d7567"


def piece(straight: Straight) -> Image.Image:
    """The middle of a picture on light squares, enlarged without smoothing."""
    side = SIDE // TIMES
    top, left = (max(0, (length - side) // 2) for length in straight.shape[:2])
    cut = Image.fromarray(straight[top : top + side, left : left + side])
    ground = Image.new("RGBA", (side, side), "#ffffff")
    ground.alpha_composite(cut, ((side - cut.width) // 2, (side - cut.height) // 2))
    return ground.resize((SIDE, SIDE), Image.Resampling.NEAREST).convert("RGB")


def at_loss(picture: Straight, name: str, level: str) -> Try | None:
    """The file of a level; below all of them, the one that is nearest to a loss."""
    original = Original(picture)
    if level in LEVELS:
        found = choose(original, name, level)
        return Try(found.data, found.loss or 0.0) if found else None
    if FORMATS[name].has_quality:
        files = (CODECS[name].encode(picture, quality) for quality in range(4, 64, 4))
    else:
        files = (rung.data for rung in CODECS[name].ladder(original) if rung.data)
    tries = (Try(data, original.reference.loss(decoded(data))) for data in files)
    return min(tries, key=lambda file: abs(file.loss - BELOW), default=None)


def draw(path: Path) -> None:
    """All rows in one picture."""
    height = (SIDE + TEXT + GAP) * len(ROWS) + TEXT + GAP
    page = Image.new("RGB", (LEFT + 4 * (SIDE + GAP) + GAP, height), PAPER)
    pen = ImageDraw.Draw(page)
    small, bold = ImageFont.load_default(13), ImageFont.load_default(17)
    for column, words in enumerate(("mockup", "clear", "fair", "one step below")):
        pen.text((LEFT + column * (SIDE + GAP), GAP), words, fill=INK, font=bold)
    for row, (kind, number, name) in enumerate(ROWS):
        picture = cropped(corpus(kind)[number])
        y = GAP + TEXT + row * (SIDE + TEXT + GAP)
        pen.text((GAP, y), kind, fill=INK, font=bold)
        pen.text((GAP, y + 24), name.upper(), fill=DIM, font=small)
        page.paste(piece(picture), (LEFT, y))
        for column, level in enumerate(("clear", "fair", "below"), start=1):
            x = LEFT + column * (SIDE + GAP)
            found = at_loss(picture, name, level)
            if found is None:
                pen.text((x, y), "out of reach", fill=DIM, font=small)
                continue
            shown = decoded(found.data)
            page.paste(piece(shown), (x, y))
            seen = measured(picture, shown, found.loss)
            said = f"{len(found.data):,} B  loss {seen.loss:.2f}"
            pen.text((x, y + SIDE + 4), said, fill=INK, font=small)
            said = f"SSIMULACRA2 {seen.similar:.0f}  FLIP {seen.flip:.2f}"
            pen.text((x, y + SIDE + 20), said, fill=DIM, font=small)
    _few(page).save(path, optimize=True)


def _few(page: Image.Image) -> Image.Image:
    """The page in few colours of ours, so that it stays small."""
    straight = np.asarray(page.convert("RGBA"))
    return Image.fromarray(palette(Counted.of(straight), 256).straight).convert("RGB")


if __name__ == "__main__":
    draw(Path(sys.argv[1]))
