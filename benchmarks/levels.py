"""Things in context at each level, enlarged, with what judges say: docs/screenshots/levels.png.

    python -m benchmarks.levels FILE.png

One row a kind: a thing where it stands, then the file of a format at `clear`, at `fair`, and one
step below, with our loss, SSIMULACRA2 of the thing alone, and the error after a mean over 7 px.
"""

from __future__ import annotations

import sys
from collections.abc import Iterable
from pathlib import Path

import numpy as np
from PIL import Image, ImageDraw, ImageFont

from benchmarks.context import Thing, band, things
from benchmarks.corpora import Straight
from benchmarks.measured import doubled, laid, similar
from riffler.encode.choice import LEVELS
from riffler.encode.choose import CODECS, choose
from riffler.encode.codec import Try
from riffler.encode.encoding import decoded
from riffler.encode.original import Original
from riffler.encode.palette import Counted, palette
from riffler.formats import FORMATS

#: What is shown: seed, kind, number, format, and what it is called.
ROWS = (
    (1, "icons", 3, "jpeg", "icon"), (1, "texts", 1, "jpeg", "words"),
    (1, "shadows", 1, "png", "shadow"), (1, "gradients", 5, "jpeg", "gradient"),
    (1, "photos", 0, "avif", "photograph"),
)  # fmt: skip

#: The loss of what stands one step below `fair`.
BELOW = 14.0

#: Size of a piece on the page, how often it is enlarged, and what is around it.
SIDE, TIMES, GAP, LEFT, TEXT = 256, 4, 14, 118, 40

PAPER, INK, DIM = "#fbf8f1", "#2d2821", "#7d7567"


def piece(straight: Straight, thing: Thing) -> Image.Image:
    """A corner of a thing, or the middle of one that fits, enlarged without smoothing."""
    side = SIDE // TIMES
    x0, y0, x1, y1 = thing.box
    left = x0 + min(0, (x1 - x0 - side) // 2) if x1 - x0 < side else x0
    top = y0 + min(0, (y1 - y0 - side) // 2) if y1 - y0 < side else y0
    if thing.kind == "shadows":
        left, top = x0 + 20, y1 - side - 20
    left, top = (max(0, n) for n in (left, top))
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
        make = CODECS[name].encode
        files: Iterable[bytes] = (make(picture, quality) for quality in range(4, 80, 4))
    else:
        files = (rung.data for rung in CODECS[name].ladder(original) if rung.data)
    tries = [Try(data, original.reference.loss(decoded(data))) for data in files]
    worse = [file for file in tries if file.loss > BELOW / 2]
    return min(worse or tries, key=lambda file: abs(file.loss - BELOW), default=None)


def draw(path: Path) -> None:
    """All rows in one picture."""
    height = (SIDE + TEXT + GAP) * len(ROWS) + TEXT + GAP
    page = Image.new("RGB", (LEFT + 4 * (SIDE + GAP) + GAP, height), PAPER)
    pen = ImageDraw.Draw(page)
    small, bold = ImageFont.load_default(13), ImageFont.load_default(17)
    for column, words in enumerate(("mockup", "clear", "fair", "one step below")):
        pen.text((LEFT + column * (SIDE + GAP), GAP), words, fill=INK, font=bold)
    for row, (seed, kind, number, name, called) in enumerate(ROWS):
        _, thing = list(things(seed, kind))[number]
        picture, (x0, y0, x1, y1) = thing.picture, thing.box
        y = GAP + TEXT + row * (SIDE + TEXT + GAP)
        pen.text((GAP, y), called, fill=INK, font=bold)
        pen.text((GAP, y + 24), name.upper(), fill=DIM, font=small)
        page.paste(piece(picture, thing), (LEFT, y))
        for column, level in enumerate(("clear", "fair", "below"), start=1):
            x = LEFT + column * (SIDE + GAP)
            found = at_loss(picture, name, level)
            if found is None:
                pen.text((x, y), "out of reach", fill=DIM, font=small)
                continue
            shown = decoded(found.data)
            page.paste(piece(shown, thing), (x, y))
            pair = [laid(one[y0:y1, x0:x1], 255) for one in (picture, shown)]
            said = f"{len(found.data):,} B  loss {found.loss:.2f}"
            pen.text((x, y + SIDE + 4), said, fill=INK, font=small)
            said = f"SSIMULACRA2 {similar(*map(doubled, pair)):.0f}  bands {band(*pair):.1f}"
            pen.text((x, y + SIDE + 20), said, fill=DIM, font=small)
    _few(page).save(path, optimize=True)


def _few(page: Image.Image) -> Image.Image:
    """The page in few colours of ours, so that it stays small."""
    straight = np.asarray(page.convert("RGBA"))
    return Image.fromarray(palette(Counted.of(straight), 256).straight).convert("RGB")


if __name__ == "__main__":
    draw(Path(sys.argv[1]))
