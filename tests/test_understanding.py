"""What a page is made of, told by shapes and repetition: nothing here is called what it is."""

from __future__ import annotations

import json
import math
from collections.abc import Iterator
from pathlib import Path

import numpy as np
import pytest
from PIL import Image, ImageDraw

import planning
from conftest import Run
from making import Flat, write_ora, write_project
from riffler.analyse.edges import corner_radius
from riffler.analyse.fill import Filling, fading_of, fill_of
from riffler.analyse.grid import find_grid
from riffler.analyse.repetition import lattices
from riffler.analyse.texture import strip_period
from riffler.color import from_bytes
from riffler.geometry import Box
from riffler.plan.draft.whole import draft
from riffler.reading import clickable
from riffler.reading.reading import Reading
from riffler.reading.states import states_of
from riffler.workspace import Workspace

GROUND = Flat("Layer 99", (0, 0, 900, 700), (244, 240, 230, 255))


def numbered() -> Iterator[str]:
    return (f"Layer {number}" for number in range(100, 999))


def reading(tmp_path: Path, *layers: Flat) -> Reading:
    path = write_ora(tmp_path / "m.ora", (900, 700), [*layers, GROUND])
    return Reading(Workspace().open(path).renderer, 1.0)


def plate(x: int, y: int, width: int, height: int, radius: int = 0) -> Flat:
    return planning.rounded(next(NAMES), x, y, width, height, radius)


NAMES = numbered()


def card(x: int, y: int, extra: tuple[Flat, ...] = ()) -> Flat:
    return Flat(next(NAMES), inside=[
        *extra,
        planning.text(next(NAMES), x + 20, y + 120, "Clover"),
        planning.text(next(NAMES), x + 20, y + 150, "Light and mild", 14),
        planning.photo(next(NAMES), x + 20, y + 20, 80, 80),
        Flat(next(NAMES), (x, y, 200, 190), (255, 250, 240, 255)),
    ])  # fmt: skip


def test_cards_are_a_row_whatever_they_are_called_and_one_may_be_odd(tmp_path: Path) -> None:
    badge = planning.text("Layer 7", 500, 60, "New", 14)
    row = Flat(
        "Layer 1", inside=[card(40 + 220 * n, 40, (badge,) if n == 2 else ()) for n in range(4)]
    )
    (found,) = clickable.find(reading(tmp_path, row)).rows
    assert (found.kind, len(found.members), found.lattice.step) == ("cards", 4, (220, 0))
    assert found.boxes[0] == Box(40, 40, 200, 190)


def test_a_list_with_a_gap_is_two_rows() -> None:
    boxes = [Box(40, 20 + 30 * n + (50 if n > 3 else 0), 90 + n, 20) for n in range(9)]
    found = lattices(boxes, 1)
    assert [(part.members, part.step) for part in found] == [
        ((0, 1, 2, 3), (0, 30)), ((4, 5, 6, 7, 8), (0, 30))
    ]  # fmt: skip
    assert lattices(boxes[:4], 1)[0].members == (0, 1, 2, 3)
    assert lattices([Box(0, 0, 9, 9), Box(50, 31, 9, 9), Box(7, 90, 9, 9)], 1) == []


@pytest.mark.parametrize(
    "width, height, radius, words, size, is_button",
    [
        (140, 44, 12, "Order now", 16, True),
        (140, 44, 0, "Order now", 16, True),  # square
        (140, 44, 22, "Order now", 16, True),
        (84, 22, 11, "closed", 12, False),  # a badge
        (42, 42, 21, "GK", 16, False),  # somebody's initials
        (420, 44, 0, "Order now", 16, False),  # a bar
        (140, 44, 12, "", 16, False),
    ],
)
def test_buttons_are_told_by_their_plates(
    width: int, height: int, radius: int, words: str, size: int, is_button: bool, tmp_path: Path
) -> None:
    label = planning.text("Layer 2", 0, 0, words or "x", size)
    x, y = 100 + (width - label.box[2]) // 2, 100 + (height - label.box[3]) // 2
    inside = [planning.text("Layer 2", x, y, words, size)] if words else []
    group = Flat("Layer 1", inside=[*inside, plate(100, 100, width, height, radius)])
    found = clickable.find(reading(tmp_path, group)).clickables
    assert [one.kind for one in found] == (["button"] if is_button else [])


def test_a_hidden_plate_makes_a_button_and_is_its_hover(tmp_path: Path) -> None:
    hidden = Flat("Layer 3", (100, 100, 84, 22), (200, 90, 40, 255), more={"visibility": "hidden"})
    group = Flat("Layer 1", inside=[
        planning.text("Layer 2", 122, 105, "closed", 12), hidden, plate(100, 100, 84, 22, 11),
    ])  # fmt: skip
    read = reading(tmp_path, group)
    (button,) = clickable.find(read).clickables
    assert states_of(read, button, ()).show == {"hover": ["Layer 1/Layer 3"]}


@pytest.mark.parametrize("angle", [30, 90, 135, 160, 180, 200])
@pytest.mark.parametrize("is_fading", [False, True])
def test_gradients_are_read_at_any_angle(angle: int, is_fading: bool) -> None:
    width, height = 120, 80
    right, lower = math.sin(math.radians(angle)), -math.cos(math.radians(angle))
    length = abs(width * right) + abs(height * lower)  # CSS Images 3, section 3.1
    y, x = np.mgrid[0:height, 0:width] + 0.5
    place = ((x - width / 2) * right + (y - height / 2) * lower) / length + 0.5
    first, last = np.array([40.0, 90, 160, 255]), np.array([200.0, 60, 40, 255])
    if is_fading:
        first, last = np.array([40.0, 90, 160, 230]), np.array([40.0, 90, 160, 0])
    straight = first + (last - first) * place[..., None]
    pixels = from_bytes(np.round(straight).astype(np.uint8))
    found = fading_of(pixels) if is_fading else fill_of(pixels)
    assert found is not None
    assert found.filling is Filling.GRADIENT
    assert found.angle is not None
    is_turned = abs(found.angle - angle) > 90  # the same line, told from its other end
    assert abs((found.angle - angle) % 180 + 1) % 180 <= 2
    ends = [
        list(bytes.fromhex(stop.color[1:].ljust(8, "f")))
        for stop in found.stops[:: len(found.stops) - 1]
    ]
    assert np.abs(np.array(ends[::-1] if is_turned else ends) - [first, last]).max() <= 4


@pytest.mark.parametrize("radius", [0, 4, 10, 24])
@pytest.mark.parametrize("shade", [0, 60])
def test_corners_are_exact(radius: int, shade: int) -> None:
    big = Image.new("L", (8 * 120, 8 * 120), shade)  # the shadow under it shows in the gap
    ImageDraw.Draw(big).rounded_rectangle((8, 8, 8 * 200, 8 * 200), 8 * radius, fill=255)
    alpha = np.asarray(big.resize((120, 120), Image.Resampling.BOX))
    pixels = from_bytes(np.dstack([np.zeros((120, 120, 3), np.uint8), alpha]))
    assert corner_radius(pixels[:41, :41]) == pytest.approx(radius, abs=0.6)


@pytest.mark.parametrize("step, found", [(8, 8), (16, 16), (0, None)])
def test_strips_repeat_along_one_way(step: int, found: int | None) -> None:
    line = np.random.default_rng(3).integers(0, 255, (9, step or 200)).astype(np.float32)
    assert strip_period(np.tile(line, (1, 200 // step if step else 1))) == found


def test_a_row_of_boxes_shows_the_grid_and_guesses_are_none() -> None:
    row = [Box(70 + 240 * n, 100, 220, 80 + n) for n in range(4)]
    grid = find_grid([*row, Box(70, 300, 300, 50), Box(500, 300, 510, 50)], 1200)
    assert grid is not None
    assert (grid.columns, grid.column, grid.gutter, grid.left, grid.certainty) == (
        4,
        220,
        20,
        70,
        "sure",
    )
    assert (
        find_grid([Box(70, 100, 220, 80), Box(330, 120, 220, 80), Box(601, 90, 211, 80)], 1200)
        is None
    )


def test_equal_pictures_are_one_file_and_an_illustration_is_one_slice(
    tmp_path: Path, riffler: Run
) -> None:
    boats = [planning.photo(f"Layer {n}", 60, 40 + 70 * n, 40, 40, seed=5) for n in range(6)]
    chance = np.random.default_rng(2)
    heap = [
        planning.shape(f"Vector {n}", 400 + int(x), 200 + int(y), "#a33", (0, 0), (39, 9), (20, 39))
        for n, (x, y) in enumerate(chance.integers(0, 90, (14, 2)))
    ]
    project = write_project(tmp_path / "p", {})
    (project / "cuts").rmdir()
    words = planning.text("Layer 50", 600, 40, "Boats to the island")
    layers = [words, *boats, Flat("Group 3", inside=heap), GROUND]
    write_ora(project / "mockups/m.ora", (900, 700), layers)
    riffler("draft", "mockups/m.ora", cwd=project)
    said = json.loads(riffler("draft", "mockups/m.ora", "--json", cwd=project).stdout)
    drawn = [one for one in said["slices"] if one["keys"].get("role") != "words"]
    keys = [one["keys"] for one in drawn]
    assert [one.get("times") for one in keys] == [{"count": 6, "y": 70, "same": True}, None]
    assert [len(one["layers"]) for one in drawn] == [6, 1]
    assert all("alt" not in one for one in keys)  # a number is no text for anybody
    riffler("cut", cwd=project)
    assert len(list((project / "out/images").iterdir())) == 2
    kinds = [
        one["kind"]
        for one in json.loads(riffler("survey", "--json", cwd=project, code=1).stdout)["findings"]
    ]
    assert kinds == ["alt", "alt"]


def test_what_nobody_named_is_called_what_it_is(tmp_path: Path) -> None:
    row = Flat("Group 1 copy", inside=[card(40 + 220 * n, 40) for n in range(4)])
    label = planning.text("Layer 2", 130, 412, "Order now", 16)
    button = Flat("Layer 1", inside=[label, plate(100, 400, 140, 44, 12)])
    nav = Flat("shop", inside=[planning.photo("IMG_0047", 500, 400, 90, 90)])
    path = write_ora(tmp_path / "m.ora", (900, 700), [row, button, nav, GROUND])
    drafted = draft(Workspace().open(path).renderer, taken=["button"])
    names = [one.name for one in drafted.slices]
    assert names == [
        "card",
        "picture",
        "picture-2",
        "picture-3",
        "picture-4",
        "button-2",
        "shop-picture",
    ]
    assert set(drafted.guides["y"]) <= {
        name for name in drafted.guides["y"] if name.startswith(("edge", "shop"))
    }
