"""Boxes that a browser draws -> how near the browser comes to them with the CSS that we measure.

    python -m benchmarks.boxes [--seed N] [--count N] [--show]

Random corners, fills, borders and shadows over transparency, at densities 1 and 2. What is written
is drawn again by the same browser and compared: steps of 8 bits at the 95th percentile of the pixels
that either touches, and how far radii, offsets and blurs are off, in CSS pixels.
"""

from __future__ import annotations

import argparse
import io
import os
import random
import time
from collections.abc import Sequence
from dataclasses import dataclass
from itertools import permutations

import numpy as np
import numpy.typing as npt
from PIL import Image
from playwright.sync_api import Browser, sync_playwright

from riffler.analyse.drawn import style_of
from riffler.analyse.style import Shadow, Style
from riffler.color import from_bytes
from riffler.measure.css import declared
from riffler.measure.units import Scale
from riffler.reading.style_fit import by_hand

#: Room around each box, in CSS pixels, and the step that counts as touched.
ROOM, TOUCHED = 90, 2


@dataclass(frozen=True)
class Drawn:
    """A box as it is drawn: size in CSS pixels, corners, declarations, shadows, density."""

    width: int
    height: int
    radii: tuple[int, ...]
    css: str
    shadows: tuple[tuple[int, int, int, int], ...]
    density: int


def _color(chance: random.Random, alpha: float = 1.0) -> str:
    rgb = " ".join(str(chance.randint(0, 255)) for _ in range(3))
    return f"rgb({rgb} / {alpha:.2f})"


def _drawn(chance: random.Random) -> Drawn:
    width, height = chance.randint(90, 320), chance.randint(90, 240)
    one = chance.randint(0, 40)
    radii = (one,) * 4 if chance.random() < 0.6 else tuple(chance.randint(0, 40) for _ in range(4))
    stops = ", ".join(_color(chance) for _ in range(chance.choice((2, 2, 3))))
    fill = chance.choice((
        _color(chance),
        f"linear-gradient({chance.randint(0, 359)}deg, {stops})",
        (f"radial-gradient({chance.choice(('circle', 'ellipse'))} at "
        f"{chance.randint(0, 100)}% {chance.randint(0, 100)}%, {stops})"),
    ))  # fmt: skip
    border = (
        f"border:{chance.randint(1, 8)}px solid {_color(chance)};" if chance.random() < 0.5 else ""
    )
    shadows = tuple(
        (
            chance.randint(-16, 16),
            chance.randint(-16, 24),
            chance.randint(0, 36),
            chance.randint(-4, 10),
        )
        for _ in range(chance.choice((0, 1, 1, 2)))
    )
    cast = ", ".join(
        " ".join(f"{length}px" for length in shadow)
        + " "
        + _color(chance, chance.uniform(0.15, 0.8))
        for shadow in shadows
    )
    corners = " ".join(f"{radius}px" for radius in radii)
    css = f"box-sizing:border-box;{border}border-radius:{corners};background:{fill};"
    css += f"box-shadow:{cast};" if cast else ""
    return Drawn(width, height, radii, css, shadows, chance.choice((1, 2)))


def _shot(browser: Browser, box: Drawn, css: str) -> npt.NDArray[np.uint8]:
    size = {"width": box.width + 2 * ROOM, "height": box.height + 2 * ROOM}
    page = browser.new_page(viewport=size, device_scale_factor=box.density)  # type: ignore[arg-type]
    page.set_content(
        f'<body style="margin:0;background:transparent"><div style="position:absolute;left:{ROOM}px;'
        f'top:{ROOM}px;width:{box.width}px;height:{box.height}px;{css}"></div>'
    )
    picture = Image.open(io.BytesIO(page.screenshot(omit_background=True))).convert("RGBA")
    page.close()
    return np.array(picture)


def _off(one: npt.NDArray[np.uint8], other: npt.NDArray[np.uint8]) -> float:
    """The 95th percentile of the pixels that either touches, premultiplied, in steps of 8 bits."""
    a, b = (255 * from_bytes(pixels) for pixels in (one, other))
    touched = np.maximum(a, b)[..., 3] > TOUCHED
    return float(np.quantile(np.abs(a - b).max(axis=2)[touched], 0.95))


def _lengths(box: Drawn, style: Style) -> list[str]:
    """What is more off than it may be: radii and offsets by a pixel, blur by one and a half."""
    density, wrong = box.density, []
    radii = style.radii.listed if style.radii else (0.0,) * 4
    far = max(abs(a / density - b) for a, b in zip(radii, box.radii, strict=True))
    wrong += [f"radius {far:.1f}"] if far > 1 else []
    if len(style.shadows) != len(box.shadows):
        return [*wrong, f"{len(style.shadows)} shadows of {len(box.shadows)}"]
    orders = (_beside(found, box) for found in permutations(style.shadows))
    return [*wrong, *min(orders, key=len)]


def _beside(found: Sequence[Shadow], box: Drawn) -> list[str]:
    """What is off of shadows in this order: hardly anybody sees which of two lies on the other."""
    wrong = []
    for one, (x, y, blur, _) in zip(found, box.shadows, strict=True):
        far = max(abs(one.x / box.density - x), abs(one.y / box.density - y))
        wrong += [f"offset {far:.1f}"] if far > 1 else []
        far = one.blur / box.density - blur
        wrong += [f"blur {far:+.1f} of {blur}"] if abs(far) > 1.5 else []
    return wrong


def main() -> None:
    """Draw, measure, draw again, compare."""
    options = argparse.ArgumentParser()
    options.add_argument("--seed", type=int, default=1)
    options.add_argument("--count", type=int, default=60)
    options.add_argument("--show", action="store_true")
    said = options.parse_args()
    chance = random.Random(said.seed)
    chromium = os.environ.get("RIFFLER_CHROMIUM", "/usr/bin/chromium")
    near = right = 0
    times = []
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=chromium, args=["--no-sandbox"])
        for number in range(said.count):
            box = _drawn(chance)
            pixels = _shot(browser, box, box.css)
            begun = time.perf_counter()
            found = style_of(from_bytes(pixels))
            times.append(time.perf_counter() - begun)
            if found is None:
                print(f"{number:3} refused           {box.css}")
                continue
            style = by_hand(found[0], box.density)
            css = ";".join(
                f"{key}:{value}" for key, value in declared(style, Scale(density=box.density))
            )
            off, wrong = _off(pixels, _shot(browser, box, css)), _lengths(box, style)
            near, right = near + (off <= 6), right + (not wrong)
            if said.show or off > 6 or wrong:
                print(f"{number:3} {off:5.1f}  {', '.join(wrong):24} {box.css}\n{'':36}{css}")
        browser.close()
    print(f"within 6/255 at the 95th percentile: {near} of {said.count}")
    print(f"radii, offsets and blurs as near as they must be: {right} of {said.count}")
    print(f"seconds: {np.median(times):.2f} in the middle, {max(times):.2f} at worst")


if __name__ == "__main__":
    main()
