"""Boxes of vector layers by their numbers, held against what the renderer draws of them."""

from __future__ import annotations

from pathlib import Path

import pytest

import riffler
from riffler.geometry import Box
from riffler.mockup.font_book import FontBook
from riffler.mockup.opening import open_mockup
from riffler.render.boxes import Extent
from riffler.render.vector import VectorEngine

FONTS = Path(riffler.__file__).parent / "demo" / "fernhollow" / "fonts"

FADING = """<defs>
  <linearGradient id="solid"><stop stop-color="#c40"/><stop offset="1" stop-color="#fb0"/></linearGradient>
  <radialGradient id="glow"><stop stop-color="#fff"/><stop offset="1" stop-opacity="0"/></radialGradient>
  <pattern id="dots" width="9" height="9" patternUnits="userSpaceOnUse"><circle r="2"/></pattern>
  <clipPath id="half"><rect x="30" y="20" width="60" height="70"/></clipPath>
  <clipPath id="soft"><rect x="30" y="20" width="60" height="70" rx="20"/></clipPath>
  <mask id="veil"><rect width="50" height="50" fill="#fff"/></mask>
</defs>"""


def boxes_of(tmp_path: Path, inside: str) -> tuple[Box | None, Box | None]:
    """What the numbers say of the one layer, and what is drawn of it, shadow and glow included."""
    path = tmp_path / "m.svg"
    path.write_text(
        f'<svg xmlns="http://www.w3.org/2000/svg" width="200" height="160">{FADING}{inside}</svg>'
    )
    mockup = open_mockup(path)
    layer = next(layer for layer in mockup.walk() if not layer.is_group)
    engine = VectorEngine(mockup, FontBook(tuple(sorted(FONTS.glob("*.ttf")))))
    return engine.measured_box(layer, Extent.PAINTED), engine.find_box(layer, Extent.PAINTED)


MEASURED = [
    '<rect x="20.4" y="30" width="50" height="40"/>',
    '<rect x="20" y="30" width="50" height="40" rx="12" stroke="#000" stroke-width="5"/>',
    '<rect x="20" y="30" width="50" height="40" transform="rotate(30 60 60)" stroke="#000"/>',
    '<circle cx="80" cy="70" r="33.3" fill="url(#solid)"/>',
    '<ellipse cx="80" cy="70" rx="40" ry="12" transform="skewX(20)"/>',
    '<line x1="20" y1="30" x2="90" y2="110" stroke="#000" stroke-width="12"/>',
    '<line x1="20" y1="30" x2="90" y2="110" stroke="#000" stroke-width="12" stroke-linecap="square"/>',
    '<line x1="20" y1="30" x2="90" y2="110" stroke="#000" stroke-width="12" stroke-linecap="round"/>',
    '<polyline points="20,90 60,30 90,90" fill="none" stroke="#000" stroke-width="10"/>',
    '<polygon points="20,90 60,30 90,90" fill="none" stroke="#000" stroke-width="10"/>',
    '<polygon points="20,90 60,30 90,90" fill="none" stroke="#000" stroke-width="10" stroke-linejoin="round"/>',
    '<polygon points="20,90 60,30 90,90" fill="none" stroke="#000" stroke-width="10" stroke-linejoin="bevel"/>',
    '<polyline points="20,90 100,80 20,70" fill="none" stroke="#000" stroke-width="6"/>',
    '<path d="M20 60c10-90 90 120 120 10s-60-90-60 20q30 40 60 10t-50 20a40 20 30 0 1-40 10z"/>',
    '<path d="M20 60C10-30 120 180 140 70" fill="none" stroke="#000" stroke-width="9"/>',
    '<g transform="matrix(1.2 .3 -.4 .9 40 10)"><path d="M10 10h60v50z" stroke="#000" stroke-width="7"/></g>',
    '<g opacity=".5" clip-path="url(#half)"><circle cx="40" cy="60" r="30"/></g>',
    '<g clip-path="url(#half)"><rect width="200" height="160"/></g>',
    '<rect width="200" height="160" clip-path="url(#soft)"/>',
    '<polygon points="20.2,10.3 80.7,14.9 60.1,70.2" shape-rendering="crispEdges"/>',
]  # fmt: skip

LETTERS = [
    '<text x="20" y="60" font-family="Fraunces" font-size="30">Honey jar</text>',
    '<text x="100" y="60" font-family="Fraunces" font-size="24" font-weight="700" text-anchor="middle">Wax</text>',
    '<text x="190" y="60" font-family="Fraunces" font-size="24" text-anchor="end" letter-spacing="4">Fig</text>',
    '<text font-family="Fraunces" font-size="20"><tspan x="20" y="50">One</tspan>\n <tspan x="30" dy="1.5em">Two and</tspan></text>',
    '<text x="20" y="60" font-family="Fraunces" font-size="20"><title>t</title>  Bee <tspan font-size="40">S</tspan>warm </text>',
]  # fmt: skip


@pytest.mark.parametrize("inside", [*MEASURED, *LETTERS])
def test_numbers_tell_the_box_that_is_drawn(tmp_path: Path, inside: str) -> None:
    measured, drawn = boxes_of(tmp_path, inside)
    assert measured
    assert drawn
    edges = [(box.x, box.y, box.right, box.bottom) for box in (measured, drawn)]
    assert max(abs(a - b) for a, b in zip(*edges, strict=True)) <= 1


@pytest.mark.parametrize(
    "inside",
    [
        '<rect width="50" height="40" fill="none"/>',
        '<rect width="50" height="40" opacity="0"/>',
        '<line x1="20" y1="30" x2="90" y2="30"/>',
        '<g clip-path="url(#half)"><rect x="120" width="50" height="40"/></g>',
        '<text x="20" y="60" fill="none">Honey</text>',
    ],
)
def test_what_is_not_seen_has_no_box(tmp_path: Path, inside: str) -> None:
    measured, drawn = boxes_of(tmp_path, inside)
    assert measured is not None
    assert not measured
    assert drawn is None


@pytest.mark.parametrize(
    "inside",
    [
        '<rect width="50" height="40" fill="url(#glow)"/>',
        '<rect width="50" height="40" fill="url(#dots)"/>',
        '<rect width="50" height="40" mask="url(#veil)"/>',
        '<rect x="10%" width="50" height="40"/>',
        '<circle cx="20" cy="20" style="r: 10px"/>',
        '<line x2="90" y2="30" stroke="#000" stroke-dasharray="9"/>',
        '<circle cx="40" cy="60" r="30" clip-path="url(#soft)"/>',
        '<text x="20 30 40" y="60" font-family="Fraunces">Wax</text>',
        '<text x="20" y="60" font-family="Fraunces" textLength="90">Wax</text>',
    ],
)
def test_what_only_drawing_tells_is_drawn(tmp_path: Path, inside: str) -> None:
    assert boxes_of(tmp_path, inside)[0] is None
