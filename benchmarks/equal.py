"""Our files against the codecs' own settings, by bytes at equal SSIMULACRA2. By hand.

    python -m benchmarks.equal [PICTURES] [CORPUS...]

For each of our files at `clear` and `fair` the bytes are found that the plain codec takes at the same
SSIMULACRA2, between the settings that lie around it: JPEG as Pillow makes it, WebP at method 6, AVIF
at speed 3. And `fair` of photographs as JPEG and AVIF beside Pillow's JPEG of quality 80.
"""

from __future__ import annotations

import io
import sys
from collections.abc import Iterator

import numpy as np
from PIL import Image

from benchmarks.corpora import Straight, corpus
from benchmarks.measured import CORPORA, cropped, measured
from riffler.encode.choose import choose
from riffler.encode.encoding import decoded

#: What the plain codecs are given.
PLAIN: dict[str, tuple[str, dict[str, int], tuple[int, ...]]] = {
    "jpeg": ("JPEG", {}, (30, 50, 65, 78, 87, 93, 97)),
    "webp": ("WEBP", {"method": 6}, (20, 45, 65, 80, 90, 97)),
    "avif": ("AVIF", {"speed": 3}, (25, 45, 60, 75, 88, 96)),
}


def plain(straight: Straight, name: str, quality: int) -> bytes:
    """A file of the codec's own settings."""
    form, settings, _ = PLAIN[name]
    out = io.BytesIO()
    opaque = straight[..., 3].min() == 255
    picture = Image.fromarray(straight).convert("RGB" if opaque else "RGBA")
    picture.save(out, form, quality=quality, **settings)
    return out.getvalue()


def similar(straight: Straight, data: bytes) -> float:
    """SSIMULACRA2 of a file."""
    return measured(straight, decoded(data), 0.0).similar


def pairs(straight: Straight, name: str) -> Iterator[tuple[int, float]]:
    """Bytes of our files, and of the plain codec at the same SSIMULACRA2, where it gets there."""
    files = [plain(straight, name, quality) for quality in PLAIN[name][2]]
    curve = sorted((similar(straight, data), np.log(len(data))) for data in files)
    seen, sizes = np.array(curve).T
    for level in ("clear", "fair"):
        choice = choose(straight, name, level)
        if choice is None or not choice.loss:
            continue
        at = similar(straight, choice.data)
        if seen[0] <= at <= seen[-1]:
            yield len(choice.data), float(np.exp(np.interp(at, seen, sizes)))


def main(count: int = 4, *names: str) -> None:
    """A line for each corpus and format, and the photographs."""
    every: dict[str, list[tuple[int, float]]] = {}
    for corpus_name in names or CORPORA:
        pictures = [cropped(picture) for picture in corpus(corpus_name)[:: max(1, 40 // count)]]
        for name in PLAIN:
            holds = [p for p in pictures[:count] if name != "jpeg" or p[..., 3].min() == 255]
            found = [pair for picture in holds for pair in pairs(picture, name)]
            every.setdefault(name, []).extend(found)
            print(f"{corpus_name:10} {name:5} {len(found):3} files  {_ratio(found)}", flush=True)
    for name, found in every.items():
        print(f"{'all':10} {name:5} {len(found):3} files  {_ratio(found)}")
    rows = []
    for picture in (cropped(one) for one in corpus("photos")[:: max(1, 40 // count)][:count]):
        theirs = plain(picture, "jpeg", 80)
        row = [len(theirs), similar(picture, theirs)]
        for name in ("jpeg", "avif"):
            choice = choose(picture, name, "fair")
            assert choice is not None
            row += [len(choice.data), similar(picture, choice.data)]
        rows.append(row)
    plain_bytes, plain_seen, jpeg, jpeg_seen, avif, avif_seen = np.array(rows).T
    print(
        f"photos at fair, to Pillow's JPEG of quality 80 ({plain_seen.mean():.1f}): JPEG "
        f"{jpeg.sum() / plain_bytes.sum():.2f} of the bytes at {jpeg_seen.mean():.1f}, AVIF "
        f"{avif.sum() / plain_bytes.sum():.2f} at {avif_seen.mean():.1f}"
    )


def _ratio(found: list[tuple[int, float]]) -> str:
    if not found:
        return "none to compare"
    shares = [ours / theirs for ours, theirs in found]
    return f"{np.exp(np.mean(np.log(shares))):.3f} of the bytes, a file; at worst {max(shares):.2f}"


if __name__ == "__main__":
    main(*(int(word) if word.isdigit() else word for word in sys.argv[1:]))  # type: ignore[arg-type]
