"""Bytes and time of our encoders against Pillow's, on the corpora. By hand: make bench."""

from __future__ import annotations

import contextlib
import io
import json
import shutil
import statistics
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable, Iterator
from pathlib import Path

import numpy as np
from PIL import Image

from benchmarks.corpora import Straight, corpus
from benchmarks.generate import HEAVY, slices, written
from benchmarks.run import seconds
from riffler.encode import jpeg, png, webp
from riffler.encode.choose import choose
from riffler.encode.palette import Counted, palette
from riffler.encode.visible import Reference

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
        ("WebP, to Pillow's best effort", webp.lossy, pillow("WEBP", method=6)),
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
        tried = (choose(straight, "jpeg", level) for straight in pictures)
        found = [choice for choice in tried if choice is not None]
        nineties = sum(len(pillow("JPEG")(straight, 90)) for straight in pictures)
        mean = np.mean([likeness(s, c.data) for s, c in zip(pictures, found, strict=True)])
        share = sum(len(one.data) for one in found) / nineties
        print(
            f"JPEG, {level}: {share:.2f} of the bytes of quality 90, structural similarity {mean:.3f}"
        )


def _ladder(save: Callable[[Straight, int], bytes], straight: Straight) -> list[bytes]:
    return [save(straight, quality) for quality in (50, 60, 68, 74, 80, 86, 92)]


def palettes() -> None:
    """Visible loss at the same number of colours, to the best of Pillow's quantisers."""
    better = equal = worse = 0
    for name in ("icons", "interface", "photos"):
        for number, straight in enumerate(corpus(name)[::2]):
            if len(np.unique(straight.view(np.uint32))) <= 256:
                continue
            reference = Reference(straight)
            for count in (16, 64, 256):
                ours = min(
                    reference.loss(palette(Counted.of(straight), count, dither=dither).straight)
                    for dither in (False, True)
                )
                theirs = min(reference.loss(one) for one in _quantised(straight, count))
                if abs(ours - theirs) < 0.0002:
                    equal += 1
                elif ours < theirs:
                    better += 1
                else:
                    worse += 1
                    print(f"  {name} {2 * number}, {count} colours: {ours:.4f} to {theirs:.4f}")
    print(f"palettes: {better} lose less, {equal} the same to 0.0002, {worse} more")


def _quantised(straight: Straight, count: int) -> Iterator[Straight]:
    picture = Image.fromarray(straight, "RGBA")
    if straight[..., 3].min() == 255:
        picture = picture.convert("RGB")
    for method in Image.Quantize:
        for dither in (Image.Dither.NONE, Image.Dither.FLOYDSTEINBERG):
            with contextlib.suppress(ValueError):  # not for this mode, or not in this build
                yield np.asarray(picture.quantize(count, method, dither=dither).convert("RGBA"))


def demo() -> None:
    """The example's files against Pillow's defaults for the same pixels and formats."""
    with tempfile.TemporaryDirectory() as folder:
        root = Path(folder) / "fernhollow"
        riffler = [sys.executable, "-m", "riffler"]
        subprocess.run([*riffler, "demo", str(root)], check=True, stdout=subprocess.DEVNULL)
        ours, theirs = dict.fromkeys(("png", "jpg"), 0), dict.fromkeys(("png", "jpg"), 0)
        took = 0.0
        for path in sorted((root / "out/images").iterdir()):
            kind = path.suffix[1:]
            if kind not in ours:
                continue
            began, out = time.perf_counter(), io.BytesIO()
            with Image.open(path) as picture:
                wide = picture.convert("RGB" if kind == "jpg" else "RGBA")
                wide.save(out, "JPEG" if kind == "jpg" else "PNG")
            took += time.perf_counter() - began
            ours[kind] += path.stat().st_size
            theirs[kind] += len(out.getvalue())
        for kind, count in ours.items():
            print(f"example, {kind}: {count} B, Pillow's defaults {theirs[kind]} B, "
                  f"{count / theirs[kind]:.2f}")  # fmt: skip
        shutil.rmtree(root / "out")
        shutil.rmtree(root / ".riffler")
        began = time.perf_counter()
        subprocess.run([*riffler, "cut", "-q"], cwd=root, check=True)
        spent = time.perf_counter() - began
        print(f"example: cut in {spent:.1f} s; encoding alone by Pillow's defaults {took:.1f} s")


def cutting() -> None:
    """The heavy mockup cut as JPEG, against a plain script, both as whole processes in turn."""
    with tempfile.TemporaryDirectory() as folder:
        root = Path(folder)
        for name in ("mockups", "cuts", "plain"):
            (root / name).mkdir()
        (root / "riffler.toml").touch()
        mockup = root / "mockups/heavy.ora"
        mockup.hardlink_to(written(HEAVY))
        boxes = root / "boxes.json"
        boxes.write_text(json.dumps([list(box) for box in slices(HEAVY)]))
        paths = (str(path) for path in (mockup, boxes, root / "plain"))
        script = [sys.executable, "-m", "benchmarks.plain", *paths]
        print(f"{'heavy mockup, 80 slices as JPEG':<42} {'Riffler':>8} {'plain':>8}  ratio")
        for name, quality in (("quality = 88", "88"), ('quality = "clear"', '"clear"')):
            plan(root, quality, 80)
            pairs = []
            for _ in range(7):
                shutil.rmtree(root / ".riffler", ignore_errors=True)
                shutil.rmtree(root / "out", ignore_errors=True)
                pairs.append((timed(root), seconds(lambda: subprocess.run(script, check=True))))
            ours, plain = (statistics.median(side) for side in zip(*pairs, strict=True))
            ratio = statistics.median(a / b for a, b in pairs)
            print(f"{name:<42} {ours:7.2f}s {plain:7.2f}s  {ratio:.2f}")
        plan(root, "88", 200)
        timed(root)
        same = statistics.median(timed(root) for _ in range(5))
        print(f"{'200 assets, nothing changed':<42} {same:7.2f}s")
        plan(root, "88", 200, moved=1)
        print(f"{'one slice of 200 changed':<42} {timed(root):7.2f}s")


def plan(root: Path, quality: str, count: int, moved: int = 0) -> None:
    """A cutlist of as many slices as wanted; the first may be a pixel narrower."""
    lines = ['mockup = "../mockups/heavy.ora"', "[defaults]", 'save = ["jpeg"]']
    lines.extend((f"quality = {quality}", 'alt = ""', 'ground = "#ffffff"'))
    boxes = slices(HEAVY)
    for index in range(count):
        x, y, width, height = boxes[index % len(boxes)]
        less = index // len(boxes) + (moved if index == 0 else 0)
        lines.append(f"[slice.cut-{index}]\nat = [{x + less}, {y}, {width - less}, {height}]")
    (root / "cuts/plan.toml").write_text("\n".join(lines))


def timed(root: Path) -> float:
    riffler = [sys.executable, "-m", "riffler", "cut", "-q"]
    return seconds(lambda: subprocess.run(riffler, cwd=root, check=True))


def main() -> None:
    parts = {
        "lossless": lossless, "palettes": palettes, "lossy": lossy, "demo": demo,
        "cutting": cutting,
    }  # fmt: skip
    for name in sys.argv[1:] or parts:
        parts[name]()


if __name__ == "__main__":
    main()
