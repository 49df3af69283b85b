"""Times and peak memory of drawing, as ratios against plain Pillow. By hand: make bench.

Ratios are medians of several rounds in which both sides take turns, so that they hold when the
machine's speed drifts.
"""

from __future__ import annotations

import io
import os
import statistics
import subprocess
import sys
import tempfile
import time
import xml.etree.ElementTree as ET
import zipfile
from collections.abc import Callable
from pathlib import Path

from PIL import Image

from benchmarks.generate import HEAVY, TALL, Recipe, slices, written
from riffler.geometry import Box
from riffler.mockup.opening import open_mockup
from riffler.render.layered import LayeredEngine
from riffler.render.store import LayerStore

ROUNDS = 5


def seconds(work: Callable[[], object]) -> float:
    began = time.perf_counter()
    work()
    return time.perf_counter() - began


def compare(
    name: str, ours: Callable[[], object], theirs: Callable[[], object], scale: float = 1
) -> None:
    """Print the median times and the median ratio of `ours` to `theirs` times `scale`."""
    pairs = [(seconds(ours), seconds(theirs) * scale) for _ in range(ROUNDS)]
    mine, other = (statistics.median(side) for side in zip(*pairs, strict=True))
    ratio = statistics.median(a / b for a, b in pairs)
    print(f"{name:<58} {mine * 1000:8.0f} ms {other * 1000:8.0f} ms   {ratio:5.2f}")


def plain(recipe: Recipe) -> list[tuple[int, int, Image.Image]]:
    """The layers decoded by Pillow, the lowest first."""
    with zipfile.ZipFile(written(recipe)) as archive:
        return [
            (x, y, Image.open(io.BytesIO(archive.read(f"data/{name}.png"))).convert("RGBA"))
            for name, x, y in _places(archive)
        ]


def _places(archive: zipfile.ZipFile) -> list[tuple[str, int, int]]:
    stack = ET.fromstring(archive.read("stack.xml"))[0]
    places = [(str(one.get("name")), int(one.get("x", 0)), int(one.get("y", 0))) for one in stack]
    return places[::-1]


def composed(recipe: Recipe, decoded: list[tuple[int, int, Image.Image]]) -> Image.Image:
    canvas = Image.new("RGBA", (recipe.width, recipe.height))
    for x, y, picture in decoded:
        canvas.alpha_composite(picture, (x, y))
    return canvas


def decoded_renderer(recipe: Recipe, *, without_modes: bool) -> LayeredEngine:
    """A renderer whose layers are all decoded and stay so."""
    from dataclasses import replace

    mockup = open_mockup(written(recipe))
    if without_modes:
        plain_layers = tuple(replace(layer, blend="normal") for layer in mockup.layers)
        mockup = replace(mockup, layers=plain_layers)
    renderer = LayeredEngine(mockup)
    renderer._store = LayerStore(renderer._decode, budget=4_000_000_000)
    for layer in mockup.walk():
        renderer._store.get(layer)
    return renderer


def drawing() -> None:
    decoded = plain(HEAVY)
    print(f"{'heavy mockup, layers decoded beforehand':<58} {'Riffler':>11} {'Pillow':>11}   ratio")
    renderer = decoded_renderer(HEAVY, without_modes=True)
    shown = renderer.mockup.drawn
    canvas = renderer.mockup.box
    compare(
        "full canvas, all layers plain",
        lambda: renderer.render(canvas, 1.0, shown),
        lambda: composed(HEAVY, decoded),
    )
    boxes = [Box(*box) for box in slices(HEAVY)]
    share = sum(box.area for box in boxes) / canvas.area
    compare(
        f"{len(boxes)} slices by box; Pillow: canvas time x {share:.2f} (areas)",
        lambda: [renderer.render(box, 1.0, shown) for box in boxes],
        lambda: composed(HEAVY, decoded),
        share,
    )
    compare(
        "80 slices by box; ours: canvas time x the same share",
        lambda: [renderer.render(box, 1.0, shown) for box in boxes],
        lambda: renderer.render(canvas, 1.0, shown),
        share,
    )
    with_modes = decoded_renderer(HEAVY, without_modes=False)
    compare(
        "full canvas, blend modes drawn (Pillow draws them plain)",
        lambda: with_modes.render(canvas, 1.0, shown),
        lambda: composed(HEAVY, decoded),
    )
    compare(
        "decoding every layer, apart",
        lambda: decoded_renderer(HEAVY, without_modes=False),
        lambda: plain(HEAVY),
    )


def memory(which: str) -> None:
    """Draw one slice or all of the tall mockup; print the peak memory of this process."""
    mockup = open_mockup(written(TALL))
    renderer = LayeredEngine(mockup)
    shown = mockup.drawn
    boxes = [Box(600, 9000, 600, 400)] if which == "one" else [Box(*box) for box in slices(TALL)]
    took = seconds(lambda: [renderer.render(box, 1.0, shown) for box in boxes])
    status = Path("/proc/self/status").read_text()
    peak = int(status.partition("VmHWM:")[2].split()[0]) / 1000
    print(
        f"tall mockup, {len(boxes):2} slice(s){'':<34} {took * 1000:8.0f} ms   peak {peak:.0f} MB"
    )


def planning(recipe: Recipe) -> None:
    """Draft and survey a mockup in a project of its own; whole processes, their peak memory."""
    with tempfile.TemporaryDirectory() as folder:
        root = Path(folder)
        for name in ("mockups", "cuts"):
            (root / name).mkdir()
        (root / "riffler.toml").touch()
        mockup = root / "mockups" / f"{recipe.name}.ora"
        mockup.hardlink_to(written(recipe))
        _timed(root, f"{recipe.name} mockup, draft", "draft", str(mockup), "--dry-run")
        lines = [f'mockup = "../mockups/{recipe.name}.ora"', "[defaults]", 'alt = ""']
        for index, box in enumerate(slices(recipe)):
            lines.append(f"[slice.cut-{index}]\nat = {list(box)}")
        (root / "cuts/plan.toml").write_text("\n".join(lines))
        _timed(root, f"{recipe.name} mockup, survey of {recipe.slices} slices", "survey")


def _timed(root: Path, name: str, *arguments: str) -> None:
    took = []
    for _ in range(3):
        began = time.perf_counter()
        done = subprocess.Popen(
            [sys.executable, "-m", "riffler", *arguments], cwd=root, stdout=subprocess.DEVNULL
        )
        _, _, usage = os.wait4(done.pid, 0)
        done.returncode = 0
        took.append((time.perf_counter() - began, usage.ru_maxrss / 1000))
    seconds_taken, peak = (statistics.median(side) for side in zip(*took, strict=True))
    print(f"{name:<58} {seconds_taken * 1000:8.0f} ms   peak {peak:.0f} MB")


def main() -> None:
    if sys.argv[1:2] == ["memory"]:
        memory(sys.argv[2])
        return
    # apart: a process counts the memory of the one that began it, and drawing takes much
    subprocess.run([sys.executable, "-m", "benchmarks.generate"], check=True)
    if sys.argv[1:2] == ["planning"]:
        planning(HEAVY)
        planning(TALL)
        return
    planning(HEAVY)  # first, for the same reason
    planning(TALL)
    drawing()
    for which in ("one", "all"):
        subprocess.run([sys.executable, "-m", "benchmarks.run", "memory", which], check=True)


if __name__ == "__main__":
    main()
