"""Styles that a vector document says, held against a browser that draws them."""

from __future__ import annotations

from pathlib import Path

import numpy as np
import pytest
from playwright.sync_api import Browser

from conftest import shown
from riffler.analyse.declared import declarations
from riffler.analyse.style import Border, Radii, Shadow, Stop, Style
from riffler.color import to_bytes
from riffler.mockup.model import Mockup
from riffler.mockup.opening import open_mockup
from riffler.reading.vectors import declared
from riffler.render.renderer import open_renderer

DEFS = """<defs>
  <linearGradient id="down" x2="0" y2="1"><stop stop-color="#c04020"/><stop offset="1" stop-color="#f0c040"/></linearGradient>
  <linearGradient id="part" gradientUnits="userSpaceOnUse" x1="60" y1="0" x2="100" y2="0">
    <stop stop-color="#204060"/><stop offset=".5" stop-color="#80a0c0"/><stop offset="1" stop-color="#fff"/></linearGradient>
  <linearGradient id="same" href="#down"/>
  <linearGradient id="veil" x2="0" y2="1"><stop stop-color="#000"/><stop offset="1" stop-opacity="0"/></linearGradient>
  <radialGradient id="round"><stop stop-color="#000"/><stop offset="1" stop-color="#fff"/></radialGradient>
  <filter id="soft" x="-30%" y="-30%" width="160%" height="160%" color-interpolation-filters="sRGB">
    <feDropShadow dx="2" dy="5" stdDeviation="4" flood-color="#103050" flood-opacity=".5"/></filter>
  <filter id="blur"><feGaussianBlur stdDeviation="3"/></filter>
</defs>"""


def opened(tmp_path: Path, shape: str) -> Mockup:
    path = tmp_path / "m.svg"
    path.write_text(
        f'<svg xmlns="http://www.w3.org/2000/svg" width="200" height="160">{DEFS}{shape}</svg>'
    )
    return open_mockup(path)


def style_of(mockup: Mockup) -> Style | None:
    layer = next(layer for layer in mockup.walk() if not layer.is_group)
    return declared(mockup, layer)


BOX = 'x="40" y="30" width="100" height="80"'
RUST = (Stop(0.0, "#c04020"),)
SAID: list[tuple[str, tuple[int, int, int, int], Style]] = [
    (f'<rect {BOX} fill="#c04020"/>', (40, 30, 100, 80), Style(RUST)),
    ('<g transform="translate(4 6) scale(1.5)"><rect width="60" height="40" rx="8" fill="#c04020"/></g>',
     (4, 6, 90, 60), Style(RUST, radii=Radii(12, 12, 12, 12))),
    ('<path d="M52 30H140V98A12 12 0 0 1 128 110H40V42A12 12 0 0 1 52 30Z" fill="#c04020"/>',
     (40, 30, 100, 80), Style(RUST, radii=Radii(12, 0, 12, 0))),
    ('<ellipse cx="90" cy="70" rx="50" ry="40" fill="#c04020"/>', (40, 30, 100, 80), Style(RUST, radii=None)),
    ('<rect x="41" y="31" width="98" height="78" rx="9" fill="#c04020" stroke="#204060" stroke-width="2"/>',
     (40, 30, 100, 80), Style(RUST, radii=Radii(10, 10, 10, 10), border=Border("#204060", 2))),
    (f'<rect {BOX} fill="url(#down)"/>', (40, 30, 100, 80),
     Style((Stop(0.0, "#c04020"), Stop(1.0, "#f0c040")), 180)),
    (f'<rect {BOX} fill="url(#same)" opacity=".5"/>', (40, 30, 100, 80),
     Style((Stop(0.0, "#c04020"), Stop(1.0, "#f0c040")), 180, opacity=0.5)),
    (f'<rect {BOX} fill="url(#part)"/>', (40, 30, 100, 80),
     Style((Stop(0.2, "#204060"), Stop(0.4, "#80a0c0"), Stop(0.6, "#ffffff")), 90)),
    (f'<rect {BOX} rx="20" fill="url(#veil)"/>', (40, 30, 100, 80),
     Style((Stop(0.0, "#000000"), Stop(1.0, "#00000000")), 180, radii=Radii(20, 20, 20, 20))),
    (f'<rect {BOX} rx="6" fill="#c04020" filter="url(#soft)"/>', (40, 30, 100, 80),
     Style(RUST, radii=Radii(6, 6, 6, 6), shadows=(Shadow(2, 5, 8, "#10305080"),))),
]  # fmt: skip


@pytest.mark.parametrize(("shape", "box", "expected"), SAID)
def test_a_plain_shape_says_its_style_and_a_browser_draws_the_same(
    tmp_path: Path, browser: Browser, shape: str, box: tuple[int, int, int, int], expected: Style
) -> None:
    mockup = opened(tmp_path, shape)
    style = style_of(mockup)
    assert style == expected
    assert style is not None
    said = {"background": style.stops[0].color, **declarations(style)}
    if style.opacity < 1:
        said["opacity"] = f"{style.opacity}"
    left, top, width, height = box
    rules = ";".join(f"{name}:{value}" for name, value in said.items())
    markup = (
        f"<style>*{{margin:0}}</style><div style='position:absolute;left:{left}px;top:{top}px;"
        f"width:{width}px;height:{height}px;{rules}'></div>"
    )
    seen = shown(browser, markup, 200, 160, is_clear=True)
    drawn = to_bytes(open_renderer(mockup).render(mockup.box, 1.0, mockup.drawn))
    off = np.abs(_laid_down(seen) - _laid_down(drawn))[(seen[..., 3] > 0) | (drawn[..., 3] > 0)]
    assert float((off > 24).mean()) < 0.01  # edges may fall a little otherwise
    assert float(off.mean()) < 1


def _laid_down(pixels: np.ndarray) -> np.ndarray:
    """Straight pixels on white, 0..255."""
    alpha = pixels[..., 3:].astype(float) / 255
    return pixels[..., :3] * alpha + 255 * (1 - alpha)


@pytest.mark.parametrize(
    "shape",
    [
        f'<rect {BOX} fill="url(#round)"/>',
        f'<rect {BOX} fill="#c04020" fill-opacity=".5"/>',
        f'<rect {BOX} fill="#c04020" filter="url(#blur)"/>',
        f'<rect {BOX} fill="#c04020" transform="rotate(9)"/>',
        f'<rect {BOX} fill="#c04020" stroke="#000" stroke-dasharray="4"/>',
        '<path d="M40 30H140L120 110H40Z" fill="#c04020"/>',
        '<path d="M40 30H140V70H90V110H40Z" fill="#c04020"/>',
        '<text x="20" y="40">Honey</text>',
    ],
)
def test_what_a_style_sheet_does_not_draw_plainly_is_left_to_pixels(
    tmp_path: Path, shape: str
) -> None:
    assert style_of(opened(tmp_path, shape)) is None
