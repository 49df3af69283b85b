"""What a search for a level takes: files made, what is left of the loss allowed, seconds. By hand.

    python -m benchmarks.searched [PICTURES]

Then how well pieces foretell a large picture: its loss to that of its pieces at one quality.
"""

from __future__ import annotations

import statistics
import sys
import time
from collections.abc import Iterator

import numpy as np
from PIL import Image

from benchmarks.corpora import Straight, corpus
from benchmarks.measured import CORPORA
from riffler.color import is_solid
from riffler.encode.avif import Avif
from riffler.encode.choice import LEVELS
from riffler.encode.codec import LossyCodec, tried
from riffler.encode.jpeg import Jpeg
from riffler.encode.original import Original
from riffler.encode.search import search
from riffler.encode.webp import Lossy

CODECS: tuple[LossyCodec, ...] = (Jpeg(), Lossy(), Avif())

#: How large pictures are made of small ones, and the qualities at which both are compared.
SIDES, QUALITIES = (1400, 900), (50, 70, 86)


def large() -> Iterator[tuple[str, Straight]]:
    """Pictures that are judged by their pieces: sixteen of a corpus side by side, each enlarged."""
    width, height = SIDES
    for name in ("photos", "lines", "gradients", "cloth", "interface"):
        page = Image.new("RGBA", SIDES)
        for number, straight in enumerate(corpus(name)[:16]):
            part = Image.fromarray(straight).resize((width // 4, height // 4))
            page.paste(part, (width // 4 * (number % 4), height // 4 * (number // 4)))
        yield name, np.asarray(page)


def searches(count: int) -> None:
    """A line for each codec and level, over all corpora."""
    pictures = [one for name in CORPORA for one in corpus(name)[:: max(1, 40 // count)][:count]]
    pictures += [straight for _, straight in large()]
    print(f"{'':12} searches  files made  of the loss  a search")
    for codec in CODECS:
        for level in ("clear", "fair"):
            encodes, used, spent = [], [], []
            for straight in pictures:
                if codec.name == "jpeg" and not is_solid(straight):
                    continue
                began = time.perf_counter()
                found = search(Original(straight), codec, level)
                spent.append(time.perf_counter() - began)
                if found is not None:
                    encodes.append(found.encodes)
                    used.append((found.loss or 0.0) / LEVELS[level])
            print(
                f"{codec.name:5} {level:6} {len(encodes):8}  {statistics.mean(encodes):10.1f}"
                f"  {statistics.mean(used):11.2f}  {statistics.mean(spent):6.2f} s"
            )


def forecasts() -> None:
    """The loss of the whole to that of its pieces, for each codec."""
    found: dict[str, list[float]] = {}
    for _, straight in large():
        original = Original(straight)
        for codec in CODECS:
            for quality in QUALITIES:
                files = (
                    tried(one, codec, quality, is_quick=False) for one in (original, original.small)
                )
                whole, pieces = files
                found.setdefault(codec.name, []).append(whole.loss / max(1e-6, pieces.loss))
    for name, ratios in found.items():
        low, middle, high = np.quantile(ratios, (0.1, 0.5, 0.9))
        print(f"{name:5} whole to pieces: {middle:.3f}, {low:.3f} to {high:.3f} in eight of ten")


if __name__ == "__main__":
    searches(int(sys.argv[1]) if len(sys.argv) > 1 else 5)
    forecasts()
