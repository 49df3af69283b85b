"""A long page that fits -> how long `riffler fit` takes beside the browser alone, and its memory.

    python -m benchmarks.long_page [ROUNDS]

1920 x 8000 px with 80 photographs and 80 texts in pixels. The browser alone opens the same page, asks it
the same questions and takes the same two pictures of it: as Playwright takes them, and in bands that are
packed quickly. Whole processes in turn, medians.
"""

from __future__ import annotations

import os
import shutil
import statistics
import subprocess
import sys
import tempfile
import time
from pathlib import Path

import numpy as np
from PIL import Image, ImageDraw, ImageFont
from playwright.sync_api import sync_playwright

sys.path.append(str(Path(__file__).parents[1] / "tests"))

from making import Flat, write_ora, write_project
from riffler.fit.camera import Camera
from riffler.fit.guard import Guard
from riffler.fit.tab import Session, Tab, script
from riffler.geometry import Box

WIDTH, HEIGHT, ROWS, COLUMNS = 1920, 8000, 20, 4
GROUND, INK = (246, 236, 216, 255), (58, 38, 24, 255)
FONT = Path(__file__).parents[1] / "src/riffler/demo/fernhollow/fonts/figtree-400.ttf"
STYLE = (
    "@font-face { font-family: Figtree; src: url(../fonts/figtree-400.ttf) } body { margin: 0; position: relative; "
    f"height: {HEIGHT}px; background: #f6ecd8; font: 18px/24px Figtree; color: #3a2618 }} img, p {{ position: absolute; "
    "margin: 0 }"
)


def write(root: Path) -> Path:
    """The project with its built page; returns the page."""
    chance = np.random.default_rng(5)
    font = ImageFont.truetype(str(FONT), 18)
    layers, slices, body = [], ['mockup = "../mockups/page.ora"'], ""
    for n in range(ROWS * COLUMNS):
        x, y = 20 + n % COLUMNS * 475, 40 + n // COLUMNS * 398
        wide, high = int(chance.integers(300, 440)), int(chance.integers(220, 310))
        rough = Image.fromarray(chance.integers(0, 255, (6, 8, 3), np.uint8))
        soft = np.asarray(rough.resize((wide, high), Image.Resampling.BICUBIC)).astype(float)
        pixels = np.full((high, wide, 4), 255, np.uint8)
        pixels[..., :3] = np.clip(soft + chance.normal(0, 6, (high, wide, 1)), 0, 255)
        layers.append(Flat(f"photo-{n}", (x, y, wide, high), pixels=pixels))
        text = f"Meadow number {n} by the mill"
        left, top, right, bottom = map(int, font.getbbox(text))
        picture = Image.new("RGBA", (right - left + 2, bottom - top + 2), (*INK[:3], 0))
        ImageDraw.Draw(picture).text((1 - left, 1 - top), text, font=font, fill=INK)
        at = (x + left - 1, y + high + 11 + top, *picture.size)
        layers.append(Flat(f"caption-{n}", at, pixels=np.asarray(picture)))
        slices.append(f'[slice.p{n}]\nonly = ["photo-{n}"]\nalt = ""\nsave = ["png"]')
        body += (f'<img src="images/p{n}.png" width={wide} height={high} alt="" style="left:{x}px;top:{y}px">'
                 f'<p style="left:{x}px;top:{y + high + 12}px">{text}</p>')  # fmt: skip
    write_project(root, {"cuts/page.toml": "\n".join(slices)})
    (root / "mockups/m.ora").unlink()
    (root / "fonts").mkdir()
    shutil.copy(FONT, root / "fonts")
    layers.append(Flat("ground", (0, 0, WIDTH, HEIGHT), GROUND))
    write_ora(root / "mockups/page.ora", (WIDTH, HEIGHT), layers)
    run(root, "-m", "riffler", "cut", "-q")
    page = root / "out/index.html"
    page.write_text(f"<!doctype html><html lang=en><title>x</title><style>{STYLE}</style>{body}")
    return page


def run(root: Path, *command: str) -> tuple[float, float]:
    """Seconds of a whole process, and its largest size in MB."""
    began = time.perf_counter()
    process = subprocess.Popen([sys.executable, *command], cwd=root, stdout=subprocess.DEVNULL)
    _, status, used = os.wait4(process.pid, 0)
    process.returncode = os.waitstatus_to_exitcode(status)
    assert process.returncode == 0, command
    return time.perf_counter() - began, used.ru_maxrss / 1000


def browser_alone(page: str, way: str) -> None:
    """What the browser does for `riffler fit`, and nothing else."""
    with sync_playwright() as playwright:
        program = os.environ.get("RIFFLER_CHROMIUM", "/usr/bin/chromium")
        browser = playwright.chromium.launch(executable_path=program, args=["--no-sandbox"])
        tab = browser.new_page(viewport={"width": WIDTH, "height": 900})
        tab.goto(Path(page).as_uri())
        tab.evaluate(
            "Promise.all([document.fonts.ready, ...[...document.images].map(one => one.decode())])"
        )
        watched = Tab(tab, guard := Guard())
        watched.ask(script("world.js"))
        watched.ask(script("page.js"))
        for is_clear in (False, True):
            if way == "bands":
                for _ in Camera(Session(tab, guard), 1.0).bands(Box(0, 0, WIDTH, HEIGHT)):
                    pass
            else:
                tab.screenshot(full_page=True, omit_background=is_clear)
        browser.close()


def main(rounds: int = 5) -> None:
    """Print a line for each side."""
    with tempfile.TemporaryDirectory() as name:
        root = Path(name) / "p"
        page = str(write(root))
        own = ("-m", "benchmarks.long_page", "--alone", page)
        took: dict[str, list[tuple[float, float]]] = {}
        for _ in range(rounds):
            for way in ("usual", "bands"):
                took.setdefault(f"browser alone, {way}", []).append(run(Path.cwd(), *own, way))
            for time_ in ("the first time", "again"):
                if time_ == "the first time":
                    shutil.rmtree(root / ".riffler/cache")
                took.setdefault(f"riffler fit, {time_}", []).append(
                    run(root, "-m", "riffler", "fit")
                )
    for side, every in took.items():
        seconds, peak = (statistics.median(column) for column in zip(*every, strict=True))
        print(f"{side:30} {seconds:6.2f} s   peak {peak:.0f} MB")


if __name__ == "__main__":
    if sys.argv[1:2] == ["--alone"]:
        browser_alone(*sys.argv[2:])
    else:
        main(*map(int, sys.argv[1:]))
