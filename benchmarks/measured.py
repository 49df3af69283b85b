"""Our levels and our visible loss, held against two independent measures. By hand.

    python -m benchmarks.measured [PICTURES] [CORPUS...]

SSIMULACRA2 (90: nobody tells even when flipped on the spot; 70: good; 30: bad) and the 99th
percentile of FLIP (Andersson et al. 2020; 0 to 1). A picture under 40 px is doubled without
smoothing; one with alpha is laid on white and on a dark grey, and the worse counts.
"""

from __future__ import annotations

import statistics
import sys
import tempfile
from dataclasses import dataclass
from pathlib import Path

import numpy as np
from flip_evaluator import evaluate
from PIL import Image
from scipy.stats import spearmanr
from ssimulacra2 import compute_ssimulacra2

from benchmarks.corpora import Straight, corpus
from riffler.color import from_bytes
from riffler.encode.choice import LEVELS
from riffler.encode.choose import CODECS, choose
from riffler.encode.encoding import decoded, holds, prepared
from riffler.encode.original import Original
from riffler.formats import FORMATS

CORPORA = ("interface", "icons", "photos", "thin", "lines", "cloth", "gradients")

#: What pictures with alpha are laid on.
GROUNDS = (255, 30)

#: Pictures with a shorter side are doubled; of larger ones the middle is measured.
SMALL, LARGE = 40, 224


@dataclass(frozen=True)
class Measured:
    """A file against its picture: SSIMULACRA2, the 99th percentile of FLIP, and our own loss."""

    similar: float
    flip: float
    loss: float


def measured(picture: Straight, shown: Straight, loss: float) -> Measured:
    """Both measures; the worse of both grounds counts."""
    grounds = GROUNDS[:1] if picture[..., 3].min() == 255 else GROUNDS
    pairs = [(doubled(laid(picture, ground)), doubled(laid(shown, ground))) for ground in grounds]
    return Measured(
        min(similar(*pair) for pair in pairs), max(_flip(*pair) for pair in pairs), loss
    )


def laid(straight: Straight, ground: int) -> Straight:
    """A picture on a grey, (H, W, 3)."""
    alpha = straight[..., 3:] / 255
    return (straight[..., :3] * alpha + ground * (1 - alpha) + 0.5).astype(np.uint8)


def doubled(pixels: Straight) -> Straight:
    """A picture as it is looked at: twice its size where it is small."""
    times = 2 if min(pixels.shape[:2]) < SMALL else 1
    return pixels.repeat(times, axis=0).repeat(times, axis=1)


def similar(first: Straight, second: Straight) -> float:
    with tempfile.TemporaryDirectory() as name:
        paths = [Path(name) / f"{number}.png" for number in range(2)]
        for path, pixels in zip(paths, (first, second), strict=True):
            Image.fromarray(pixels).save(path, compress_level=1)
        return float(compute_ssimulacra2(*map(str, paths)))


def _flip(first: Straight, second: Straight) -> float:
    pair = (pixels.astype(np.float32) / 255 for pixels in (first, second))
    errors, _, _ = evaluate(*pair, "LDR", applyMagma=False, computeMeanError=False)
    return float(np.percentile(errors, 99))


def cropped(straight: Straight) -> Straight:
    """The middle of a picture, for both measures are slow."""
    top, left = (max(0, (side - LARGE) // 2) for side in straight.shape[:2])
    return np.ascontiguousarray(straight[top : top + LARGE, left : left + LARGE])


def formats(straight: Straight) -> list[str]:
    """The lossy formats that can hold a picture; PNG and GIF with their palettes among them."""
    return [name for name in FORMATS if holds(from_bytes(straight), name)]


def at_level(straight: Straight, level: str) -> list[Measured]:
    """The files of a level that lose anything."""
    found = []
    for name in formats(straight):
        picture = prepared(from_bytes(straight), name)
        choice = choose(picture, name, level)
        if choice is not None and choice.loss:
            found.append(measured(picture, decoded(choice.data), choice.loss))
    return found


def along_ladders(straight: Straight) -> list[Measured]:
    """Files at a whole ladder of settings, to hold the order of our loss against theirs."""
    found = []
    for name in formats(straight):
        picture = prepared(from_bytes(straight), name)
        files = list(CODECS[name].ladder(Original(picture)))[::2]
        found += [measured(picture, decoded(file.data), file.loss) for file in files if file.data]
    return found


def main(count: int = 6, *names: str) -> None:
    """A table by corpus and level, and how far our order of files is theirs."""
    every: list[Measured] = []
    print(f"{'':10} {'':6} files  similar: least median  flip: most  over 0.25")
    for name in names or CORPORA:
        pictures = [cropped(picture) for picture in corpus(name)[:: max(1, 40 // count)]][:count]
        for level in list(LEVELS)[1:]:
            found = [one for picture in pictures for one in at_level(picture, level)]
            if found:
                similar, flip = [one.similar for one in found], [one.flip for one in found]
                over = sum(one > 0.25 for one in flip)
                print(
                    f"{name:10} {level:6} {len(found):5}  {min(similar):14.0f} "
                    f"{statistics.median(similar):6.0f}  {max(flip):10.2f}  {over:9}",
                    flush=True,
                )
        every += [one for picture in pictures for one in along_ladders(picture)]
    losses, similar = [one.loss for one in every], [one.similar for one in every]
    order = -spearmanr(losses, similar).statistic
    print(f"rank correlation of our loss with SSIMULACRA2, {len(every)} files: {order:.3f}")


if __name__ == "__main__":
    main(*(int(word) if word.isdigit() else word for word in sys.argv[1:]))  # type: ignore[arg-type]
