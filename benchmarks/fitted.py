"""The weights of `encode/weights.py`, fitted anew to SSIMULACRA2. By hand; takes an hour.

    python -m benchmarks.fitted [PICTURES]

Files of every corpus, by codecs of everybody at several settings and by palettes, are judged by
SSIMULACRA2; non-negative least squares (Lawson and Hanson 1974) finds for each number of scales the
weights with which our pooled maps give its own sum before its last curve, errors relative. On two
grounds the worse counts, so that the fit is repeated until it stays. What is printed is what stands
in the module, `CLEAR` of the sum counted as a loss of 1.
"""

from __future__ import annotations

import io
import sys
from collections.abc import Iterator

import numpy as np
import numpy.typing as npt
from PIL import Image
from scipy.optimize import nnls

from benchmarks.corpora import Straight, corpus
from benchmarks.measured import CORPORA, measured
from riffler.encode.encoding import decoded
from riffler.encode.visible import Reference

#: Sum before the last curve that is a loss of 1: 86 points.
CLEAR = 0.75

#: Pictures of three scales are judged by this much more strictly, since the measure scatters there.
SAFELY = 1.8

#: The curve from the sum to points, as the measure is published.
CUBIC, POWER = (2.326765642916932, -0.020884521182843837, 6.248496625763138e-05), 0.6276336467831387

#: Rounds in which the worse ground of each file is chosen anew.
ROUNDS = 8

Maps = npt.NDArray[np.float64]


def files(straight: Straight) -> Iterator[Straight]:
    """What codecs and palettes make of a picture."""
    is_opaque = straight[..., 3].min() == 255
    picture = Image.fromarray(straight).convert("RGB" if is_opaque else "RGBA")

    def saved(form: str, **settings: object) -> Straight:
        out = io.BytesIO()
        picture.save(out, form, **settings)
        return decoded(out.getvalue())

    for quality in (35, 65, 80, 92) if is_opaque else ():
        yield from (saved("JPEG", quality=quality, subsampling=kind) for kind in (0, 2))
    yield from (saved("WEBP", quality=quality) for quality in (25, 55, 80, 93))
    for quality in (35, 60, 78, 92):
        kinds = ("4:2:0", "4:4:4")
        yield from (saved("AVIF", quality=quality, speed=7, subsampling=kind) for kind in kinds)
    method = None if is_opaque else Image.Quantize.FASTOCTREE
    for count in (8, 24, 64, 192):
        yield np.asarray(picture.quantize(count, method, dither=Image.Dither.NONE).convert("RGBA"))


def sum_of(points: float) -> float:
    """The measure's sum before its last curve."""
    sums = np.linspace(0, 150, 30_001)
    cubic = sum(part * sums**power for power, part in enumerate(CUBIC, 1))
    return float(np.interp(-points, 10 * cubic**POWER - 100, sums))


def fit(maps: list[list[Maps]], sums: npt.NDArray[np.float64]) -> Maps:
    """The weights with which the worse ground of each file gives its sum."""
    worse = np.array([grounds[0].ravel() for grounds in maps])
    relative = 1 / (0.5 + sums)
    for _ in range(ROUNDS):
        weights, _ = nnls(worse * relative[:, None], sums * relative)
        worse = np.array([max((g.ravel() for g in grounds), key=weights.dot) for grounds in maps])
    return np.asarray(weights)


def main(count: int = 12) -> None:
    """Judge, fit, and print a table for each number of scales."""
    found: dict[int, list[tuple[list[Maps], float]]] = {}
    for name in CORPORA:
        for straight in corpus(name)[:: max(1, 40 // count)][:count]:
            picture = np.ascontiguousarray(straight[:340, :380])
            reference = Reference(picture)
            for shown in files(picture):
                seen = sum_of(measured(picture, shown, 0.0).similar)
                found.setdefault(reference.scales[0], []).append((reference.maps(shown), seen))
    for scales, pairs in sorted(found.items()):
        sums = np.array([seen for _, seen in pairs])
        weights = fit([maps for maps, _ in pairs], sums) / CLEAR * (SAFELY if scales == 3 else 1)
        print(f"{scales}: {len(pairs)} files")
        for row in weights.reshape(-1, 6):
            print(", ".join(f"{weight:.3g}" for weight in row) + ",")


if __name__ == "__main__":
    main(*map(int, sys.argv[1:]))
