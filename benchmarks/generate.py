"""The heavy and the tall mockup: always the same layers, with a spread like that of real pages.

A few full-canvas layers, most under 600 x 400, two thirds opaque, the others with alpha or a
blend mode.
"""

from __future__ import annotations

import io
import random
import zipfile
from dataclasses import dataclass
from pathlib import Path

import numpy as np
from PIL import Image

MODES = ("multiply", "screen", "overlay", "soft-light", "luminosity", "color-burn")


@dataclass(frozen=True)
class Recipe:
    """How a mockup is made."""

    name: str
    width: int
    height: int
    layers: int
    slices: int
    seed: int

    @property
    def path(self) -> Path:
        return Path(__file__).parent / ".cache" / f"{self.name}.ora"


HEAVY = Recipe("heavy", 1920, 8000, 120, 80, 5)
TALL = Recipe("tall", 1920, 20000, 200, 80, 6)


def texture(chance: np.random.Generator, width: int, height: int, alpha: str) -> Image.Image:
    """A gradient with a little grain; `alpha` is "none", "soft" (a fading rim) or "clear"."""
    across, down = np.linspace(0, 1, width), np.linspace(0, 1, height)
    corners = chance.uniform(30, 225, (2, 3))
    ramp = corners[0] + (corners[1] - corners[0]) * (
        (across[None, :, None] + down[:, None, None]) / 2
    )
    grain = np.tile(chance.integers(-6, 7, (64, 64, 1)), (height // 64 + 1, width // 64 + 1, 1))
    pixels = np.clip(ramp + grain[:height, :width], 0, 255).astype(np.uint8)
    if alpha == "none":
        return Image.fromarray(pixels)
    rim = np.minimum.outer(
        np.minimum(down, 1 - down) * height, np.minimum(across, 1 - across) * width
    )
    covered = np.clip(rim / 24, 0, 1) * 255
    if alpha == "clear":
        covered[height // 3 : 2 * height // 3] = 0
    return Image.fromarray(np.dstack((pixels, covered.astype(np.uint8))))


def layers(recipe: Recipe) -> list[tuple[str, str, int, int, Image.Image]]:
    """Name, blend mode, place and picture of every layer, the topmost first."""
    plan, chance = random.Random(recipe.seed), np.random.default_rng(recipe.seed)
    found = []
    full = {recipe.layers - 1: "none", recipe.layers - 2: "clear", recipe.layers // 2: "soft"}
    for index in range(recipe.layers):
        if index in full:
            width, height, alpha = recipe.width, recipe.height, full[index]
        else:
            is_big = plan.random() < 0.08
            width = plan.randint(700, 1600) if is_big else plan.randint(40, 600)
            height = plan.randint(400, 900) if is_big else plan.randint(20, 400)
            alpha = "none" if plan.random() < 0.67 else plan.choice(("soft", "clear"))
        mode = (
            plan.choice(MODES)
            if alpha != "none" and index not in full and plan.random() < 0.4
            else "src-over"
        )
        x, y = plan.randint(0, recipe.width - width), plan.randint(0, recipe.height - height)
        found.append((f"layer-{index}", mode, x, y, texture(chance, width, height, alpha)))
    return found


def slices(recipe: Recipe) -> list[tuple[int, int, int, int]]:
    """The boxes that are cut: x, y, width, height."""
    plan, boxes = random.Random(recipe.seed + 1), []
    for _ in range(recipe.slices):
        width, height = plan.randint(100, 960), plan.randint(60, 500)
        boxes.append(
            (
                plan.randint(0, recipe.width - width),
                plan.randint(0, recipe.height - height),
                width,
                height,
            )
        )
    return boxes


def written(recipe: Recipe) -> Path:
    """The mockup's file, made when it isn't there yet."""
    path = recipe.path
    if path.exists():
        return path
    path.parent.mkdir(exist_ok=True)
    lines = []
    aside = path.with_suffix(".part")
    with zipfile.ZipFile(aside, "w") as archive:
        archive.writestr("mimetype", "image/openraster")
        for name, mode, x, y, picture in layers(recipe):
            out = io.BytesIO()
            picture.save(out, "PNG", compress_level=3)
            archive.writestr(f"data/{name}.png", out.getvalue())
            lines.append(
                f'<layer name="{name}" src="data/{name}.png" x="{x}" y="{y}" composite-op="svg:{mode}"/>'
            )
        stack = (
            f'<image w="{recipe.width}" h="{recipe.height}"><stack>{"".join(lines)}</stack></image>'
        )
        archive.writestr("stack.xml", stack)
    aside.replace(path)
    return path


if __name__ == "__main__":
    for each in (HEAVY, TALL):
        written(each)
