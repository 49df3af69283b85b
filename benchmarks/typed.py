"""Type read from pixels: texts set by Chromium in faces that are known, held against what is read.

    python -m benchmarks.typed [--seed N] [--count N] [--show] [--words] FONT...

FONT are font files of open families. Of each text the family, weight, size, line step and letter
spacing are compared with what it was set in; with `--words` its characters are read, too.
"""

from __future__ import annotations

import argparse
import io
import random
import time
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from difflib import SequenceMatcher
from pathlib import Path

import numpy as np
from PIL import Image
from playwright.sync_api import Browser, sync_playwright

from riffler.color import Pixels, from_bytes
from riffler.mockup.font_book import Face, FontBook
from riffler.typeset.choose import type_of_pixels
from riffler.typeset.tesseract import read

SIZES = (11, 12, 13, 14, 15, 16, 17, 18, 19, 20, 22, 24, 26, 28, 32, 36, 42, 48, 60, 72)
COLORS = ("#222222", "#b8741a", "#ffffff")
WORDS = """Bees keep the meadow busy until dusk and the honey that they carry home is dark in August
light in May A jar holds a summer Adopt a hive today Visit us at Mill Lane Opening hours ten till
five Letters from our apiary Queen workers drones and a quiet winter Wax candles 24 jars 140 pounds
Swarm season begins Feed them sugar Gloves veil smoker included Thursday to Sunday""".split()


@dataclass(frozen=True)
class Text:
    """A text as it was set; lengths are CSS pixels."""

    lines: tuple[str, ...]
    face: Face
    size: float
    spacing: float
    step: float
    align: str
    color: str
    density: int


def texts(faces: Sequence[Face], seed: int, count: int) -> Iterator[Text]:
    """Texts by chance, the same for equal seeds."""
    chance = random.Random(seed)
    for _ in range(count):
        size = chance.choice(SIZES)
        lines = chance.randint(1, 5 if size < 40 else 2)
        words = max(1, round(chance.uniform(120, 420) / (size * 3)))
        spacing = 0.0 if chance.random() < 0.6 else round(chance.uniform(-0.4, 2.4), 1)
        yield Text(
            tuple(" ".join(chance.choices(WORDS, k=words + chance.randint(0, 1)))
                  for _ in range(lines)),
            chance.choice(faces), size, spacing,
            round(size * chance.choice((1.1, 1.2, 1.35, 1.5, 1.7)), 1),
            chance.choice(("left", "left", "center", "right")),
            chance.choice(COLORS), chance.choice((1, 2)),
        )  # fmt: skip


def drawn(browser: Browser, text: Text) -> Pixels:
    """The text alone, on nothing, as Chromium draws it."""
    page = browser.new_page(
        viewport={"width": 1400, "height": 640}, device_scale_factor=text.density
    )
    style = "italic" if text.face.is_italic else "normal"
    lines = "<br>".join(text.lines)
    folder = text.face.path.parent
    (folder / ".typed.html").write_text(
        f"""<style>@font-face {{ font-family: T; font-weight: 1 999;
        src: url("{text.face.path.name}") }}
        body {{ margin: 0; background: none }} p {{ position: absolute; left: 40px; top: 30px; margin: 0;
        white-space: nowrap; font: {style} {text.face.weight} {text.size}px/{text.step}px T; color: {text.color};
        font-synthesis: none;
        letter-spacing: {text.spacing}px; text-align: {text.align} }}</style><p>{lines}</p>"""
    )
    page.goto(f"file://{folder}/.typed.html")
    page.evaluate("document.fonts.ready")
    data = page.screenshot(omit_background=True)
    page.close()
    (folder / ".typed.html").unlink()
    straight = np.asarray(Image.open(io.BytesIO(data)).convert("RGBA"))
    ys, xs = np.nonzero(straight[..., 3])
    box = (slice(max(0, ys.min() - 2), ys.max() + 3), slice(max(0, xs.min() - 2), xs.max() + 3))
    return from_bytes(straight[box].copy())


def main() -> None:
    """Set, read, compare, and say how far off."""
    parser = argparse.ArgumentParser()
    parser.add_argument("fonts", nargs="+", type=Path)
    parser.add_argument("--seed", type=int, default=1)
    parser.add_argument("--count", type=int, default=200)
    parser.add_argument("--show", action="store_true")
    parser.add_argument("--words", action="store_true")
    arguments = parser.parse_args()
    faces = FontBook(tuple(arguments.fonts)).faces()
    hits = dict.fromkeys(("family", "weight", "style", "size", "spacing", "step", "align"), 0)
    counts = dict.fromkeys(hits, 0)
    slowest = took = 0.0
    characters = wrong_ones = 0
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(
            executable_path="/usr/bin/chromium", args=["--no-sandbox"]
        )
        for text in texts(faces, arguments.seed, arguments.count):
            pixels = drawn(browser, text)
            began = time.perf_counter()
            found = type_of_pixels(pixels, text.lines, faces)
            spent = time.perf_counter() - began
            took, slowest = took + spent, max(slowest, spent)
            if arguments.words and text.size >= 14:
                said = read(pixels)
                wanted, got = "\n".join(text.lines), said.text if said else ""
                blocks = SequenceMatcher(None, wanted, got, autojunk=False).get_matching_blocks()
                longest = max(len(wanted), len(got))
                characters += longest
                wrong_ones += longest - sum(block.size for block in blocks)
            if found is None:
                good = dict.fromkeys(hits, False)
            else:
                density = text.density
                good = {
                    "family": found.face.family == text.face.family,
                    "weight": found.face.weight == text.face.weight,
                    "style": found.face.is_italic == text.face.is_italic,
                    "size": abs(found.size / density - text.size) <= 0.5,
                    "spacing": abs(found.letter_spacing / density - text.spacing) <= 0.1,
                }
                if len(text.lines) > 1 and found.line_step is not None:
                    good["step"] = abs(found.line_step / density - text.step) <= 0.5
                if len(text.lines) > 2:
                    good["align"] = found.align == text.align
            for name, is_good in good.items():
                hits[name] += is_good
                counts[name] += 1
            if arguments.show and not all(good.values()):
                wrong = ", ".join(name for name, is_good in good.items() if not is_good)
                told = found and (
                    found.face.family, found.face.weight, round(found.size / text.density, 2),
                    round(found.letter_spacing / text.density, 2), found.line_step, found.align,
                    round(found.score, 3),
                )  # fmt: skip
                face = text.face
                print(
                    f"{wrong}: {text.lines} {face.family} {face.weight} {text.size} "
                    f"{text.spacing} {text.step} {text.align} {text.color} @{text.density} -> {told}"
                )
        browser.close()
    for name, count in counts.items():
        print(f"{name:8} {hits[name]} of {count}: {100 * hits[name] / max(1, count):.1f} %")
    if characters:
        right = 100 - 100 * wrong_ones / characters
        print(f"characters from 14 px up: {right:.2f} % of {characters}")
    print(f"{1000 * took / arguments.count:.0f} ms a text, at most {1000 * slowest:.0f} ms")


if __name__ == "__main__":
    main()
