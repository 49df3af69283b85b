"""What is said of a box draws it again: styles held against pixels that a browser drew."""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path
from typing import Any

import numpy as np
import pytest
from playwright.sync_api import Browser

from conftest import shown
from making import Flat, write_ora
from riffler.analyse.repainted import holds
from riffler.analyse.style import Border, Radial, Radii, Shadow, Stop, Style
from riffler.color import from_bytes
from riffler.geometry import Box
from riffler.measure.css import declared
from riffler.measure.units import Scale
from riffler.reading.judgement import Becomes, Judgement
from riffler.reading.reading import Reading
from riffler.reading.wording import reason
from riffler.workspace import Workspace
from test_parted import filtered

SIZE, BOX = (420, 240), Box(60, 60, 240, 100)
GROUND = Flat("ground", (0, 0, *SIZE), (244, 240, 230, 255))


def drawn(browser: Browser, css: str) -> np.ndarray:
    """What a browser draws of a box on nothing, its sizes with the border."""
    html = (
        f'<div style="position:absolute;left:{BOX.x}px;top:{BOX.y}px;width:{BOX.width}px;'
        f'height:{BOX.height}px;box-sizing:border-box;{css}"></div>'
    )
    return shown(browser, html, *SIZE, 1, is_clear=True)


def judged(browser: Browser, css: str, folder: Path) -> tuple[Judgement, Box | None]:
    """What a draft says of a layer of pixels, and where the box lies."""
    plate = Flat("plate", (0, 0, *SIZE), pixels=drawn(browser, css))
    path = write_ora(folder / "m.ora", SIZE, [plate, GROUND])
    page = Reading(Workspace().open(path).renderer, 1.0)
    layer = page.mockup.by_address["plate"]
    return page.judgement(layer), page.box(layer)


HONEY, INK = Stop(0.0, "#e8b04b"), Stop(1.0, "#3a2a1d")
STYLES = [
    Style((HONEY,), radii=Radii(12, 0, 4, 40), border=Border("#203040", 3)),
    Style((HONEY,), radii=Radii(8, 8, 8, 8), border=Border("#203040", 6, "left")),
    Style((HONEY, INK), 30, shadows=(Shadow(0, 1, 3, "#00000066"), Shadow(0, 8, 24, "#00000044"))),
    Style((HONEY, INK), None, Radii(50, 50, 50, 50), radial=Radial(0.3, 0.2, is_circle=False)),
    Style((Stop(0, "#ffffff66"),), radii=Radii(9, 9, 9, 9), border=Border("#ffffff80", 1)),
    Style((HONEY,), border=Border("#203040", 1), shadows=(Shadow(0, 3, 6, "#00000040",
                                                                  is_inner=True),)),
    Style((HONEY,), radii=None),
]  # fmt: skip
OTHER: dict[str, dict[str, Any]] = {
    "fill": {"stops": (Stop(0.0, "#d8b04b"),)},
    "corners": {"radii": Radii(26, 26, 26, 26)},
    "border": {"border": Border("#803040", 2)},
    "side": {"border": Border("#203040", 6, "right")},
    "shadow": {"shadows": (Shadow(0, 12, 10, "#00000066"),)},
}


@pytest.mark.parametrize("style", STYLES)
def test_a_style_holds_what_a_browser_draws_of_it_and_nothing_else(
    browser: Browser, style: Style
) -> None:
    css = ";".join(f"{key}:{value}" for key, value in declared(style, Scale(density=1)))
    pixels = from_bytes(drawn(browser, css))
    assert holds(pixels, style, BOX)
    for name, change in OTHER.items():
        assert not holds(pixels, replace(style, **change), BOX), name


@pytest.mark.parametrize(
    ("css", "told"),
    [
        ("background:#fff;border-left:6px solid #c0392b",
         "flat colour #ffffff, border left 6 px #c0392b"),
        ("background:#fff;border-top:3px solid #c0392b;border-radius:6px",
         "flat colour #ffffff, rounded 6 px, border top 3 px #c0392b"),
        (("background:#fdfaf3;border:1px solid #8a7f70;border-radius:6px;"
          "box-shadow:inset 0 2px 4px #00000033"),
         ("flat colour #fdfaf3, rounded 6 px, border 1 px #8a7f70, "
          "inner shadow 0 2 4 px #000000")),
        ("background:#ffffff66;border:2px solid #ffffff80",
         "flat colour #ffffff66, border 2 px #ffffff80"),
        ("background:#e8b04b;border-radius:0 0 18px 18px",
         "flat colour #e8b04b, rounded 0 0 18 18 px"),
        ("background:linear-gradient(#e8b04b, #e8b04b00)",
         "gradient at 180 degrees, #e8b04b to #e8b04b00"),
    ],
)  # fmt: skip
def test_the_draft_says_what_was_drawn(
    browser: Browser, css: str, told: str, tmp_path: Path
) -> None:
    judgement, box = judged(browser, css, tmp_path)
    assert box == BOX
    assert reason(judgement, 1.0).startswith(told)


@pytest.mark.parametrize(
    "css",
    [
        "background:#e8b04b;border:3px dashed #203040",
        "background:#e8b04b;border:4px dotted #203040;border-radius:16px",
        "background:#e8b04b;border-radius:42% / 30%",
    ],
)
def test_what_no_style_holds_is_a_picture(browser: Browser, css: str, tmp_path: Path) -> None:
    assert judged(browser, css, tmp_path)[0].becomes is Becomes.PICTURE


SOFT = '<feOffset dy="2"/><feGaussianBlur stdDeviation="2" result="soft"/>'
HARD = "0 0 0 0 0 0 0 0 0 0 0 0 0 0 0 0 0 0 {} 0"
FLOOD = '<feFlood flood-color="#000" flood-opacity="0.2"/>'
INNER = {
    "turned": (
        '<feComponentTransfer in="SourceAlpha"><feFuncA type="table" tableValues="1 0"/>'
        f'</feComponentTransfer>{SOFT}{FLOOD}<feComposite in2="soft" operator="in"/>'
        '<feComposite in2="SourceAlpha" operator="in" result="inner"/><feMerge>'
        '<feMergeNode in="SourceGraphic"/><feMergeNode in="inner"/></feMerge>'
    ),
    "taken away": (
        '<feFlood flood-opacity="0" result="none"/>'
        '<feBlend in="SourceGraphic" in2="none" result="shape"/>'
        f'<feColorMatrix in="SourceAlpha" values="{HARD.format(127)}" result="hard"/>{SOFT}'
        '<feComposite in2="hard" operator="arithmetic" k2="-1" k3="1"/>'
        f'<feColorMatrix values="{HARD.format(0.2)}"/><feBlend in2="shape"/>'
    ),
    "cut out": (
        f'<feOffset in="SourceAlpha"/>{SOFT}<feComposite in="SourceAlpha" in2="soft" '
        f'operator="out" result="rim"/>{FLOOD}<feComposite in2="rim" operator="in"/>'
        '<feComposite in2="SourceGraphic"/>'
    ),
    "atop": (
        f'<feOffset in="SourceAlpha"/>{SOFT}{FLOOD}<feComposite in2="soft" operator="out"/>'
        '<feComposite in2="SourceGraphic" operator="atop"/>'
    ),
}


@pytest.mark.parametrize("steps", INNER.values(), ids=INNER)
def test_filters_of_inner_shadows_are_read_from_the_document(steps: str, tmp_path: Path) -> None:
    judgement = filtered(tmp_path, steps)
    assert reason(judgement, 1.0) == "flat colour #ffffff, inner shadow 0 2 4 px #00000033"
    assert judgement.is_said
