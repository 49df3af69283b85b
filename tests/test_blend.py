"""Blend modes, operators and groups against the formulas of the standard, and against a browser."""

from __future__ import annotations

import base64
from collections.abc import Callable
from pathlib import Path

import numpy as np
import numpy.typing as npt
import pytest
from playwright.sync_api import Browser

from conftest import shown
from making import Flat, Straight, png, write_ora
from riffler.mockup.opening import open_mockup
from riffler.render.renderer import open_renderer

Color = npt.NDArray[np.float64]
SIDE = 40


# W3C Compositing and Blending Level 1, section 10, in float64 and pixel by pixel.


def hard_light(b: float, s: float) -> float:
    return b * 2 * s if s <= 0.5 else b + (2 * s - 1) - b * (2 * s - 1)


def soft_light(b: float, s: float) -> float:
    if s <= 0.5:
        return b - (1 - 2 * s) * b * (1 - b)
    d = ((16 * b - 12) * b + 4) * b if b <= 0.25 else b**0.5
    return b + (2 * s - 1) * (d - b)


def color_dodge(b: float, s: float) -> float:
    if b == 0:
        return 0
    return 1 if s == 1 else min(1, b / (1 - s))


def color_burn(b: float, s: float) -> float:
    if b == 1:
        return 1
    return 0 if s == 0 else 1 - min(1, (1 - b) / s)


SEPARABLE: dict[str, Callable[[float, float], float]] = {
    "normal": lambda b, s: s,
    "multiply": lambda b, s: b * s,
    "screen": lambda b, s: b + s - b * s,
    "overlay": lambda b, s: hard_light(s, b),
    "darken": min,
    "lighten": max,
    "color-dodge": color_dodge,
    "color-burn": color_burn,
    "hard-light": hard_light,
    "soft-light": soft_light,
    "difference": lambda b, s: abs(b - s),
    "exclusion": lambda b, s: b + s - 2 * b * s,
}


def lum(c: Color) -> float:
    return float(0.3 * c[0] + 0.59 * c[1] + 0.11 * c[2])


def sat(c: Color) -> float:
    return float(max(c) - min(c))


def set_lum(c: Color, light: float) -> Color:
    c = c + (light - lum(c))
    middle, low, high = lum(c), min(c), max(c)
    if low < 0 and middle > low:  # equal channels may miss zero by a rounding error
        c = middle + (c - middle) * middle / (middle - low)
    if high > 1 and high > middle:
        c = middle + (c - middle) * (1 - middle) / (high - middle)
    return c


def set_sat(c: Color, saturation: float) -> Color:
    low, mid, high = np.argsort(c, kind="stable")
    result = np.zeros(3)
    if c[high] > c[low]:
        result[mid] = (c[mid] - c[low]) * saturation / (c[high] - c[low])
        result[high] = saturation
    return result


WHOLE: dict[str, Callable[[Color, Color], Color]] = {
    "hue": lambda b, s: set_lum(set_sat(s, sat(b)), lum(b)),
    "saturation": lambda b, s: set_lum(set_sat(b, sat(s)), lum(b)),
    "color": lambda b, s: set_lum(s, lum(b)),
    "luminosity": lambda b, s: set_lum(b, lum(s)),
}

MODES = [*SEPARABLE, *WHOLE]


def blended(mode: str, backdrop: Color, source: Color) -> Color:
    if mode in WHOLE:
        return WHOLE[mode](backdrop, source)
    return np.array([SEPARABLE[mode](b, s) for b, s in zip(backdrop, source, strict=True)])


def laid(mode: str, backdrop: Color, source: Color) -> Color:
    """Section 5.8.1, straight colours: co = cs as (1 - ab) + cb ab (1 - as) + as ab B(cb, cs)."""
    result = np.empty_like(backdrop)
    for place in np.ndindex(backdrop.shape[:2]):
        b, s = backdrop[place], source[place]
        ab, a = b[3], s[3]
        mixed = blended(mode, b[:3], s[:3])
        premultiplied = s[:3] * a * (1 - ab) + b[:3] * ab * (1 - a) + a * ab * mixed
        alpha = a + ab - a * ab
        result[place] = [*(premultiplied / alpha if alpha else np.zeros(3)), alpha]
    return result


def random_pixels(seed: int, *, opaque: bool = False) -> Straight:
    pixels = np.random.default_rng(seed).integers(0, 256, (SIDE, SIDE, 4), dtype=np.uint8)
    pixels[:4, :, 3] = 255
    pixels[4:8, :, 3] = 0
    pixels[8:10, :, :3] = [0, 255, 128]
    pixels[10:12, :, :3] = 255
    if opaque:
        pixels[..., 3] = 255
    return pixels


def unit(pixels: Straight) -> Color:
    return pixels / 255.0


def premultiplied(straight: Color) -> Color:
    return np.concatenate((straight[..., :3] * straight[..., 3:], straight[..., 3:]), axis=-1)


def drawn(path: Path, *layers: Flat) -> Color:
    mockup = open_mockup(write_ora(path / "m.ora", (SIDE, SIDE), layers))
    return np.asarray(open_renderer(mockup).render(mockup.box, 1.0, mockup.drawn), float)


def layer(seed: int, mode: str = "normal", name: str = "", **more: str) -> Flat:
    operation = "svg:src-over" if mode == "normal" else f"svg:{mode}"
    box = (0, 0, SIDE, SIDE)
    return Flat(name, box, pixels=random_pixels(seed), more={"composite-op": operation, **more})


@pytest.mark.parametrize("mode", MODES)
def test_every_mode_alone_and_in_groups(tmp_path: Path, mode: str) -> None:
    top, middle, ground = (unit(random_pixels(seed)) for seed in (1, 2, 3))
    flat = drawn(tmp_path, layer(1, mode), layer(3))
    assert np.abs(flat - premultiplied(laid(mode, ground, top))).max() <= 1 / 255
    open_group = drawn(tmp_path, Flat("g", inside=[layer(1, mode), layer(2)]), layer(3))
    expected = laid(mode, laid("normal", ground, middle), top)
    assert np.abs(open_group - premultiplied(expected)).max() <= 1 / 255
    isolated = Flat("g", inside=[layer(1, mode), layer(2)], more={"isolation": "isolate"})
    expected = laid("normal", ground, laid(mode, middle, top))
    assert np.abs(drawn(tmp_path, isolated, layer(3)) - premultiplied(expected)).max() <= 1 / 255


@pytest.mark.parametrize(
    "more", [{"opacity": "0.4"}, {"composite-op": "svg:multiply"}, {"composite-op": "svg:hue"}]
)
def test_groups_that_are_isolated_by_what_they_do(tmp_path: Path, more: dict[str, str]) -> None:
    group = Flat("g", inside=[layer(1, "screen"), layer(2)], more=more)
    inside = laid("screen", unit(random_pixels(2)), unit(random_pixels(1)))
    inside[..., 3] *= float(more.get("opacity", "1"))
    mode = more.get("composite-op", "svg:normal").removeprefix("svg:")
    expected = laid(mode, unit(random_pixels(3)), inside)
    assert np.abs(drawn(tmp_path, group, layer(3)) - premultiplied(expected)).max() <= 1 / 255


#: Section 9.1: how much of source and backdrop stays, from their alphas.
OPERATORS: dict[str, tuple[Callable[[Color, Color], Color], Callable[[Color, Color], Color]]] = {
    "plus": (lambda s, b: np.ones_like(s), lambda s, b: np.ones_like(s)),
    "dst-in": (lambda s, b: 0 * s, lambda s, b: s),
    "dst-out": (lambda s, b: 0 * s, lambda s, b: 1 - s),
    "src-atop": (lambda s, b: b, lambda s, b: 1 - s),
    "dst-atop": (lambda s, b: 1 - b, lambda s, b: s),
}


@pytest.mark.parametrize("operator", OPERATORS)
def test_operators_also_where_the_source_is_smaller(tmp_path: Path, operator: str) -> None:
    small = random_pixels(1)[:10, :20]
    above = Flat("s", (5, 7, 20, 10), pixels=small, more={"composite-op": f"svg:{operator}"})
    source = np.zeros((SIDE, SIDE, 4))
    source[7:17, 5:25] = unit(small)
    ground = unit(random_pixels(3))
    keep_source, keep_ground = OPERATORS[operator]
    a, b = source[..., 3:], ground[..., 3:]
    expected = premultiplied(source) * keep_source(a, b) + premultiplied(ground) * keep_ground(a, b)
    result = drawn(tmp_path, above, layer(3))
    assert np.abs(result - np.minimum(expected, 1)).max() <= 1 / 255


def test_modes_as_a_browser_draws_them(tmp_path: Path, browser: Browser) -> None:
    def data_url(pixels: Straight) -> str:
        return "data:image/png;base64," + base64.b64encode(png(pixels)).decode()

    ground, source = random_pixels(3, opaque=True), random_pixels(1)
    style = "position:absolute;top:0"
    pairs = "".join(
        f'<div style="{style};left:{SIDE * at}px;isolation:isolate">'
        f'<img style="{style}" src="{data_url(ground)}">'
        f'<img style="{style};mix-blend-mode:{mode}" src="{data_url(source)}"></div>'
        for at, mode in enumerate(MODES)
    )
    markup = f'<body style="margin:0">{pairs}'
    shot = shown(browser, markup, SIDE * len(MODES), SIDE)[..., :3] / 255.0
    for at, mode in enumerate(MODES):
        theirs = shot[:, SIDE * at : SIDE * (at + 1)]
        below = Flat("b", (0, 0, SIDE, SIDE), pixels=ground)
        ours = drawn(tmp_path, layer(1, mode), below)[..., :3]
        away = np.abs(ours - theirs).max(axis=-1)
        if mode in ("color-dodge", "color-burn", "hue", "saturation"):
            assert np.mean(away <= 8 / 255) >= 0.99, mode  # 8 bits on the way are amplified
        else:
            assert away.max() <= 3.01 / 255, mode
