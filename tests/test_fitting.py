"""Boxes in pixels: the style that is measured, drawn again by a browser, is the box."""

from __future__ import annotations

import math

import numpy as np
import pytest
from PIL import Image, ImageDraw
from playwright.sync_api import Browser

import planning
from conftest import shown
from riffler.analyse import drawn
from riffler.analyse.cast_box import cast
from riffler.analyse.cornering import one_for_all, rounded_again
from riffler.analyse.drawn import style_of
from riffler.analyse.radial import radial_of
from riffler.analyse.style import Border, Radii, Shadow, Stop, Style
from riffler.color import Bytes, from_bytes
from riffler.geometry import Box
from riffler.measure.css import declared
from riffler.measure.units import Scale, unit_of

ROOM = 70


def shot(browser: Browser, css: str, density: int) -> Bytes:
    """A box of 160 x 120 px with room around it, on nothing."""
    markup = (
        f"<body style='margin:0;background:transparent'><div style='position:absolute;left:{ROOM}px;"
        f"top:{ROOM}px;width:160px;height:120px;box-sizing:border-box;{css}'></div>"
    )
    return shown(browser, markup, 160 + 2 * ROOM, 120 + 2 * ROOM, density, is_clear=True).copy()


@pytest.mark.parametrize("density", [1, 2])
@pytest.mark.parametrize(
    "css, radii, shadows",
    [
        ("background:#3c5c2e", (0, 0, 0, 0), []),
        ("background:#c8dce8;border:3px solid #204060;border-radius:30px", (30,) * 4, []),
        ("background:linear-gradient(125deg,#203a5c,#e8a040 40%,#fff0d0);border-radius:4px 22px 0 40px",
         (4, 22, 0, 40), []),
        ("background:radial-gradient(circle at 30% 70%,#fff4d8,#7a3a1c);border-radius:12px", (12,) * 4, []),
        ("background:radial-gradient(ellipse at 60% 20%,#204060,#40c0a0,#f0f8d0)", (0,) * 4, []),
        ("background:#fbf4e4;border-radius:16px;box-shadow:3px 8px 18px 2px rgb(60 30 10 / .5)",
         (16,) * 4, [(3, 8, 18)]),
        (("background:#3050a0;border-radius:8px;box-shadow:0 2px 4px rgb(0 0 0 / .4),"
         "-6px 14px 28px 4px rgb(160 20 60 / .3)"), (8,) * 4, [(0, 2, 4), (-6, 14, 28)]),
        ("background:#e8d8b0;border-radius:14px;box-shadow:inset 2px 5px 12px rgb(0 0 0 / .5)",
         (14,) * 4, [(2, 5, 12)]),
        (("background:linear-gradient(180deg,#fffaf0,#e0c890);border:2px solid #553311;"
         "box-shadow:0 4px 12px rgb(0 0 0 / .3),inset -3px -4px 9px 2px rgb(90 40 0 / .4)"),
         (0,) * 4, [(0, 4, 12), (-3, -4, 9)]),
    ],
)  # fmt: skip
def test_a_box_is_drawn_again_as_it_was(
    browser: Browser, css: str, radii: tuple[int, ...], shadows: list[tuple[int, ...]], density: int
) -> None:
    pixels = shot(browser, css, density)
    found = style_of(from_bytes(pixels))
    assert found is not None
    style, box = found
    assert (box.x, box.y, box.width) == (ROOM * density, ROOM * density, 160 * density)
    assert near(style, density) == pytest.approx(radii, abs=1)
    assert len(style.shadows) == len(shadows)
    is_inner = ["inset" in one for one in css.partition("box-shadow:")[2].split(",")]
    assert [one.is_inner for one in style.shadows] == is_inner[: len(shadows)]
    for one, (x, y, blur) in zip(style.shadows, shadows, strict=True):
        assert (one.x / density, one.y / density) == pytest.approx((x, y), abs=1)
        assert one.blur / density == pytest.approx(blur, abs=1.5)
    written = ";".join(f"{name}:{value}" for name, value in declared(style, Scale(density=density)))
    a, b = (255 * from_bytes(one) for one in (pixels, shot(browser, written, density)))
    touched = np.maximum(a, b)[..., 3] > 2
    assert float(np.quantile(np.abs(a - b).max(axis=2)[touched], 0.95)) <= 6


def near(style: Style, density: int) -> list[float]:
    assert style.radii is not None
    return [radius / density for radius in style.radii.listed]


def test_what_no_style_sheet_draws_is_refused() -> None:
    noise = from_bytes(planning.noise(3, 90, 70))
    room = np.zeros((110, 130, 4), np.float32)
    room[20:90, 20:110] = noise
    assert style_of(room) is None
    y, x = np.mgrid[0:110, 0:130]
    room[...] = ((x + y < 140) & (x > 20) & (y > 20))[..., None]
    assert style_of(room) is None
    assert style_of(np.zeros((20, 20, 4), np.float32)) is None


@pytest.mark.parametrize(
    "fine", [4, 16]
)  # pixels of the ends are covered by 15 parts of 16, or 248
@pytest.mark.parametrize(("width", "height"), [(140, 44), (100, 32), (64, 64), (40, 120)])
def test_pills_and_discs_cast_nothing_by_their_smooth_ends(
    width: int, height: int, fine: int
) -> None:
    picture = Image.new("L", (fine * (width + 8), fine * (height + 8)))
    ends = (4 * fine, 4 * fine, fine * (width + 4) - 1, fine * (height + 4) - 1)
    ImageDraw.Draw(picture).rounded_rectangle(ends, fine * min(width, height) / 2, 255)
    alpha = np.asarray(picture.resize((width + 8, height + 8), Image.Resampling.BOX)) / 255
    found = style_of((alpha[..., None] * np.array([0.9, 0.7, 0.3, 1])).astype(np.float32))
    assert found is not None
    style, box = found
    assert box == Box(4, 4, width, height)
    assert style.shadows == ()
    if width == height:
        assert style.radii is None
    else:
        assert near(style, 1) == pytest.approx([min(width, height) / 2] * 4, abs=0.8)


@pytest.mark.parametrize(
    ("covered", "is_part"), [(0.5, False), (0.7, False), (0.8, True), (0.95, True)]
)
def test_a_line_that_a_curve_nearly_fills_belongs_to_the_box(covered: float, is_part: bool) -> None:
    height, radius = 40, 20
    rows = np.arange(height) + 0.5
    begins = radius - np.sqrt(radius**2 - (rows - radius) ** 2)
    columns = np.arange(90)
    alpha = np.clip(columns + 1 - begins[:, None] - 8, 0, 1)
    alpha[:, 8] = np.where(begins < 0.4, covered, 0)
    alpha[:, 80:] = 0
    room = np.zeros((height + 8, 90, 4), np.float32)
    room[4:-4] = alpha[..., None]
    whole = Box(9, 4, 71, height)
    wide = drawn._with_tips(room[..., 3], whole, 1.0)
    assert wide == (Box(8, 4, 72, height) if is_part else whole)


@pytest.mark.parametrize("spread", [0, 6, -5])
def test_a_shadow_is_the_blurred_box(spread: int) -> None:
    """Against the definition: the shape's pixels, blurred by three boxes two deviations wide."""
    side = 13
    big = np.zeros((200, 220))
    big[60 - spread : 140 + spread, 50 - spread : 170 + spread] = 1
    for axis in (0, 1):
        for _ in range(3):
            big = np.apply_along_axis(np.convolve, axis, big, np.full(side, 1 / side), "same")
    x, y = np.arange(20.0, 200, 9), np.arange(20.0, 180, 9)
    got = cast(x - 49.5, y - 59.5, (120, 80), (0, 0, 0, 0), (0, 0, side / 2, spread))
    assert np.abs(got - big[np.ix_(y.astype(int), x.astype(int))]).max() < 0.01


@pytest.mark.parametrize("is_circle", [True, False])
@pytest.mark.parametrize("x, y", [(0.5, 0.5), (0.1, 0.9), (0.72, 0.33), (1.0, 0.0)])
def test_the_centre_of_a_radial_gradient(x: float, y: float, is_circle: bool) -> None:
    """By the definition of `farthest-corner`; CSS Images 3, section 3.2.1."""
    width, height = 150, 90
    far_x, far_y = max(x, 1 - x) * width, max(y, 1 - y) * height
    across = math.hypot(far_x, far_y) if is_circle else far_x * math.sqrt(2)
    down = across if is_circle else far_y * math.sqrt(2)
    rows, columns = np.mgrid[0:height, 0:width] + 0.5
    place = np.hypot((columns - x * width) / across, (rows - y * height) / down)
    first, last = np.array([250, 240, 200, 255]), np.array([30, 60, 90, 255])
    values = np.round(first + (last - first) * place[..., None]).astype(np.uint8)
    found = radial_of(values, np.ones((height, width), bool))
    assert found is not None
    radial, bends = found
    assert (radial.x, radial.y) == pytest.approx((x, y), abs=0.011)
    assert radial.is_circle is is_circle
    assert [place for place, _ in bends] == [0, 1]
    for (_, color), expected in zip(bends, (first, last), strict=True):
        assert np.abs(color - expected).max() <= 3


def test_lengths_are_said_in_the_unit_but_where_it_means_something_else() -> None:
    shadow = Shadow(0, 8, 24, "#0000004d")
    style = Style(
        (Stop(0, "#ffffff"),),
        None,
        Radii(8, 8, 0, 0),
        Border("#dddddd", 2),
        (shadow,),
        0.5,
        "multiply",
    )
    for unit, radius, blur in (("px", "4px 4px 0 0", "12px"), ("rem", "0.25rem 0.25rem 0 0", "0.75rem"),
                               ("%", "4px 4px 0 0", "12px")):  # fmt: skip
        said = dict(declared(style, Scale(unit_of(unit), density=2)))
        assert said["border-radius"] == radius
        assert said["box-shadow"].split()[2] == blur
        assert said["border"] == "1px solid #dddddd"  # hairlines stay so
        assert (said["opacity"], said["mix-blend-mode"]) == ("0.5", "multiply")


@pytest.mark.parametrize("radius", [0.0, 3.0, 11.0, 26.0])
def test_corners_on_a_dark_shadow_are_told_from_it(radius: float) -> None:
    """The alpha of a box is what it covers, and of the shadow under it what that leaves."""
    height, width, room = 80, 120, 30
    box = Box(room, room, width, height)
    radii, shadow = Radii(radius, 0, 0, 0), Shadow(-4, -6, 10, "#000000c0")
    x, y = (np.arange(side + 2 * room, dtype=float) + 0.5 - room for side in (width, height))
    under = 0xC0 / 255 * cast(x, y, (width, height), radii.listed, (-4, -6, 5, 0))
    covers = np.zeros((height + 2 * room, width + 2 * room))
    covers[room : room + height, room : room + width] = 1
    places = (np.arange(8 * 40) + 0.5) / 8
    off = np.maximum(radius - places, 0)
    corner = (np.hypot(off[None], off[:, None]) <= max(radius, 1e-9)).reshape(40, 8, 40, 8)
    covers[room : room + 40, room : room + 40] = corner.mean(axis=(1, 3))
    alpha = (covers + (1 - covers) * under).astype(np.float32)
    found = rounded_again(alpha, box, Radii(radius + 2, 1, 0, 0), [shadow])
    assert found.listed == pytest.approx((radius, 0, 0, 0), abs=0.5)
    assert one_for_all(Radii(8, 9, 9.5, 9)) == Radii(9, 9, 9, 9)
    assert one_for_all(Radii(4, 9, 9, 9)).listed == (4, 9, 9, 9)
