"""Bytes and time of our encoders against Pillow's, on the corpora. By hand: make bench."""

from __future__ import annotations

import io
import sys
import time

import numpy as np
from PIL import Image

from benchmarks.corpora import Straight, corpus
from riffler.encode import png

BARS = {"interface": 0.65, "icons": 0.80, "photos": 1.00}


def smallest_mode(straight: Straight) -> Image.Image:
    """The picture in the smallest mode that holds it, as a person who knows Pillow would save it."""
    picture = Image.fromarray(straight, "RGBA")
    alpha = straight[..., 3]
    colors = picture.getcolors(256)
    if alpha.min() == 255:
        rgb = picture.convert("RGB")
        if (straight[..., 0] == straight[..., 1]).all() and (
            straight[..., 1] == straight[..., 2]
        ).all():
            return rgb.convert("L")
        if colors is not None:
            return rgb.quantize(len(colors), Image.Quantize.MEDIANCUT, dither=Image.Dither.NONE) \
                if _exact(rgb, len(colors)) else rgb  # fmt: skip
        return rgb
    return picture


def _exact(rgb: Image.Image, count: int) -> bool:
    """Whether Pillow's own palette holds the picture without loss."""
    back = rgb.quantize(count, Image.Quantize.MEDIANCUT, dither=Image.Dither.NONE).convert("RGB")
    return bool((np.asarray(back) == np.asarray(rgb)).all())


def pillow_png(straight: Straight) -> int:
    """Bytes of the smallest of the modes that hold the picture, each optimised."""
    picture = Image.fromarray(straight, "RGBA")
    sizes = []
    for one in {id(p): p for p in (picture, smallest_mode(straight))}.values():
        out = io.BytesIO()
        one.save(out, "PNG", optimize=True)
        sizes.append(len(out.getvalue()))
    return min(sizes)


def lossless() -> None:
    print(f"{'lossless PNG':<20} {'Riffler':>10} {'Pillow':>10}  ratio   bar   s a megapixel")
    for name, bar in BARS.items():
        pictures = corpus(name)
        began = time.perf_counter()
        ours = 0
        for straight in pictures:
            data = png.encode(straight)
            ours += len(data)
        took = time.perf_counter() - began
        for straight in pictures[:6]:
            back = np.asarray(Image.open(io.BytesIO(png.encode(straight))).convert("RGBA"))
            shown = straight[..., 3] > 0
            assert (back[shown] == straight[shown]).all()
            assert (back[..., 3] == straight[..., 3]).all()
        theirs = sum(pillow_png(straight) for straight in pictures)
        area = sum(straight.shape[0] * straight.shape[1] for straight in pictures) / 1e6
        print(
            f"{name:<20} {ours:10} {theirs:10}  {ours / theirs:.3f}  {bar:.2f}   {took / area:.2f}"
        )


def main() -> None:
    parts = {"lossless": lossless}
    for name in sys.argv[1:] or parts:
        parts[name]()


if __name__ == "__main__":
    main()
