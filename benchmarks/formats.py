"""Bytes and time of our encoders against Pillow's, on the corpora. By hand: make bench."""

from __future__ import annotations

import io
import shutil
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable
from pathlib import Path

import numpy as np
from PIL import Image

from benchmarks.corpora import Straight, corpus
from benchmarks.generate import HEAVY, slices, written
from benchmarks.run import composed, plain
from riffler.encode import jpeg, modern, png
from riffler.encode.choose import choose

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


def lossy() -> None:
    """Bytes at equal structural similarity, by a library that knows nothing of our own measure."""
    from skimage.metrics import structural_similarity

    pictures = corpus("photos")[::2]

    def likeness(straight: Straight, data: bytes) -> float:
        back = np.asarray(Image.open(io.BytesIO(data)).convert("RGB"))
        colors = straight[..., :3]
        return float(structural_similarity(colors, back, channel_axis=2, data_range=255))  # type: ignore[no-untyped-call,unused-ignore]

    def pillow(form: str, **more: int) -> Callable[[Straight, int], bytes]:
        def save(straight: Straight, quality: int) -> bytes:
            out = io.BytesIO()
            Image.fromarray(straight[..., :3].copy()).save(out, form, quality=quality, **more)
            return out.getvalue()

        return save

    for name, ours, theirs in (
        ("JPEG, to Pillow's default", jpeg.encode, pillow("JPEG")),
        ("WebP, to Pillow's best effort", modern.webp, pillow("WEBP", method=6)),
    ):
        shares = []
        for straight in pictures:
            mine = sorted((likeness(straight, data), len(data)) for data in _ladder(ours, straight))
            other = theirs(straight, 80)
            at = np.interp(likeness(straight, other), *np.array(mine).T)
            shares.append((at, len(other)))
        ratio = sum(at for at, _ in shares) / sum(size for _, size in shares)
        print(f"{name:<32} {ratio:.3f} of the bytes at the structural similarity of quality 80")
    for level in ("clear", "fair"):
        found = [choose(straight, "jpeg", level) for straight in pictures]
        nineties = sum(len(pillow("JPEG")(straight, 90)) for straight in pictures)
        mean = np.mean([likeness(s, c.data) for s, c in zip(pictures, found, strict=True)])
        share = sum(len(one.data) for one in found) / nineties
        print(
            f"JPEG, {level}: {share:.2f} of the bytes of quality 90, structural similarity {mean:.3f}"
        )


def _ladder(save: Callable[[Straight, int], bytes], straight: Straight) -> list[bytes]:
    return [save(straight, quality) for quality in (50, 60, 68, 74, 80, 86, 92)]


def cutting() -> None:
    """The heavy mockup cut as JPEG, against a plain script that composes the page once."""
    with tempfile.TemporaryDirectory() as folder:
        root = Path(folder)
        for name in ("mockups", "cuts"):
            (root / name).mkdir()
        (root / "riffler.toml").touch()
        (root / "mockups/heavy.ora").hardlink_to(written(HEAVY))
        began = time.perf_counter()
        plain_script()
        plain = time.perf_counter() - began
        print(f"{'heavy mockup, 80 slices as JPEG':<42} {'time':>8}  to a plain Pillow script")
        print(f"{'plain script, quality 88':<42} {plain:7.2f}s")
        for name, quality in (("quality = 88", "88"), ('quality = "clear"', '"clear"')):
            shutil.rmtree(root / ".riffler", ignore_errors=True)
            shutil.rmtree(root / "out", ignore_errors=True)
            plan(root, quality, 80)
            took = timed(root)
            print(f"{name:<42} {took:7.2f}s  {took / plain:.2f}")
        print(f"{'the same again, nothing changed':<42} {timed(root):7.2f}s")
        plan(root, '"clear"', 80, moved=1)
        print(f"{'one slice changed':<42} {timed(root):7.2f}s")


def plan(root: Path, quality: str, count: int, moved: int = 0) -> None:
    lines = ['mockup = "../mockups/heavy.ora"', "[defaults]", 'save = ["jpeg"]']
    lines.extend((f"quality = {quality}", 'alt = ""', 'ground = "#ffffff"'))
    for index, (x, y, width, height) in enumerate(slices(HEAVY)[:count]):
        shift = moved if index == 0 else 0
        lines.append(f"[slice.cut-{index}]\nat = [{x + shift}, {y}, {width - shift}, {height}]")
    (root / "cuts/plan.toml").write_text("\n".join(lines))


def timed(root: Path) -> float:
    began = time.perf_counter()
    subprocess.run([sys.executable, "-m", "riffler", "cut", "-q"], cwd=root, check=True)
    return time.perf_counter() - began


def plain_script() -> None:
    """What a person would write: all layers laid down once, every slice cropped and saved."""
    page = composed(HEAVY, plain(HEAVY)).convert("RGB")
    for x, y, width, height in slices(HEAVY):
        page.crop((x, y, x + width, y + height)).save(io.BytesIO(), "JPEG", quality=88)


def main() -> None:
    parts = {"lossless": lossless, "lossy": lossy, "cutting": cutting}
    for name in sys.argv[1:] or parts:
        parts[name]()


if __name__ == "__main__":
    main()
