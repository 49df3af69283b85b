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
from riffler.analyse.exact_edges import corner_radius
from riffler.analyse.fading import fading_of
from riffler.analyse.fill import Fill, Filling, fill_of
from riffler.analyse.frame import frame_of
from riffler.analyse.grid import find_grid
from riffler.analyse.repetition import in_parts, lattices
from riffler.analyse.style import CLEAR, Border
from riffler.analyse.texture import strip_period
from riffler.color import from_bytes
from riffler.geometry import Box
from riffler.mockup.density import signs
from riffler.mockup.model import Layer, LayerKind
from riffler.plan.draft.whole import draft
from riffler.reading import clickable, layer_names
from riffler.reading.density import likely
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


def test_a_list_with_a_gap_is_one_and_two_lists_side_by_side_are_two() -> None:
    boxes = [Box(40, 20 + 30 * n + (50 if n > 3 else 0), 90 + n, 20) for n in range(9)]
    found = in_parts(boxes, 1)
    assert found is not None
    assert (found.members, found.step) == (tuple(range(9)), (0, 30))
    assert [y for _, y in found.places] == [0, 30, 60, 90, 170, 200, 230, 260, 290]
    assert (
        in_parts([box.moved(300, 11) if n > 3 else box for n, box in enumerate(boxes)], 1) is None
    )
    assert in_parts(boxes[:4], 1) is None
    assert [(part.members, part.step) for part in lattices(boxes, 1)] == [
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
@pytest.mark.parametrize("is_fading, radius", [(False, 0), (True, 0), (True, 14)])
def test_gradients_are_read_at_any_angle(angle: int, is_fading: bool, radius: int) -> None:
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
    if is_fading:
        big = Image.new("L", (8 * width, 8 * height))
        area = (0, 0, 8 * width - 1, 8 * height - 1)
        ImageDraw.Draw(big).rounded_rectangle(area, 8 * radius, fill=255)
        pixels *= np.asarray(big.resize((width, height), Image.Resampling.BOX))[..., None] / 255
        fading = fading_of(pixels)
        assert fading is not None
        assert fading.radii is not None
        assert fading.radii.listed == pytest.approx([radius] * 4, abs=1)
        found = Fill(Filling.GRADIENT, fading.stops, fading.angle)
    else:
        found = fill_of(pixels)
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
    down = [0, 70, 140, 260, 330, 400]
    boats = [planning.photo(f"Layer {n}", 60, 40 + y, 40, 40, seed=5) for n, y in enumerate(down)]
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
    run = {"count": 3, "y": 70, "same": True}
    assert [one.get("times") for one in keys] == [run, run, None]
    assert [one["box"]["y"] for one in drawn[:2]] == [40, 300]
    assert [len(one["layers"]) for one in drawn] == [6, 6, 1]
    assert f"times = {{ down = {down}, same = true }}" in (project / "cuts/m.toml").read_text()
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
    drafted = draft(Workspace().open(path).renderer)
    names = [one.name for one in drafted.slices]
    pictures = ["picture", "picture-2", "picture-3", "picture-4"]
    assert names == ["card", *pictures, "button", "shop-picture"]
    assert set(drafted.guides["y"]) <= {
        name for name in drafted.guides["y"] if name.startswith(("edge", "shop"))
    }


def test_what_another_page_has_is_left_out_only_when_it_looks_so(
    tmp_path: Path, riffler: Run
) -> None:
    def button(name: str, x: int, color: tuple[int, int, int, int]) -> Flat:
        label = planning.text("Label", x + 40, 412, name[7:].title(), 16)
        return Flat(name, inside=[label, Flat("Plate", (x, 400, 140, 44), color)])

    project = write_project(tmp_path / "p", {})
    red, blue = (160, 30, 20, 255), (20, 60, 160, 255)
    first = [button("button order", 100, red), button("button send", 400, red), GROUND]
    second = [button("button order", 300, red), button("button send", 600, blue), GROUND]
    for page, layers in (("a", first), ("b", second)):
        write_ora(project / f"mockups/{page}.ora", (900, 700), layers)
        riffler("draft", f"mockups/{page}.ora", cwd=project)
    text = (project / "cuts/b.toml").read_text()
    assert "Cut from another mockup of this project already: button-order." in text
    assert "[slice.button-send-b]" in text
    assert "[slice.button-order" not in text
    riffler("cut", cwd=project)


def framed(width: int, height: int, line: int, radius: int, *, fill: bool = False) -> Image.Image:
    """A box with a line around it; empty unless it has a fill."""
    picture = Image.new("RGBA", (width + 4, height + 4))
    draw = ImageDraw.Draw(picture)
    inside = (240, 230, 200, 255) if fill else None
    draw.rounded_rectangle((2, 2, width + 1, height + 1), radius, inside, (120, 60, 20), line)
    return picture


@pytest.mark.parametrize("line", [1, 2, 4])
@pytest.mark.parametrize("radius", [0, 8, 20])
def test_a_border_around_nothing_is_a_box_that_css_draws(line: int, radius: int) -> None:
    style = frame_of(from_bytes(np.asarray(framed(150, 44, line, radius))))
    assert style is not None
    assert style.stops == (CLEAR,)
    assert style.border == Border("#783c14", line)
    assert style.radii is not None
    assert max(abs(measured - radius) for measured in style.radii.listed) <= 1.5


def test_a_filled_box_and_two_lines_are_no_empty_frame() -> None:
    two = framed(150, 44, 2, 0)
    ImageDraw.Draw(two).rectangle((12, 10, 140, 36), None, (120, 60, 20), 2)
    for picture in (framed(150, 44, 2, 8, fill=True), two):
        assert frame_of(from_bytes(np.asarray(picture))) is None


def listed(
    badges: tuple[int, ...], *, signs: tuple[int, ...] = (24, 24, 24, 24, 24, 24)
) -> list[Flat]:
    """Rows 60 px apart: a sign of some width, a name; a badge in some of them."""
    rows = []
    for number, wide in enumerate(signs):
        top = 80 + 60 * number
        parts = [
            planning.text(next(NAMES), 120, top + 10, ("Clover", "Lime", "Heather")[number % 3]),
            planning.rounded(next(NAMES), 60 + (24 - wide) // 2, top + 8, wide, 24, wide // 2),
        ]
        if number in badges:
            plate = planning.rounded(next(NAMES), 300, top + 12, 60, 20, 10)
            parts[:0] = [planning.text(next(NAMES), 312, top + 15, "new", 12), plate]
        rows.append(Flat(next(NAMES), inside=parts))
    return rows


@pytest.mark.parametrize(
    "rows",
    [listed(()), listed((2,)), listed((0, 3, 5)), listed((1,), signs=(24, 12, 20, 24, 8, 16))],
    ids=["alike", "one badge", "three badges", "signs of several widths"],
)
def test_rows_of_a_list_stand_together_with_or_without_a_badge(
    tmp_path: Path, rows: list[Flat]
) -> None:
    found = clickable.find(reading(tmp_path, Flat("Layer 98", inside=rows)))
    (row,) = (row for row in found.rows if row.kind == "items")
    assert (len(row.members), row.lattice.step) == (6, (0, 60))


@pytest.mark.parametrize("figures", ["123456", "JFMAMJ"])
def test_single_figures_in_a_row_are_words_and_signs_are_not(tmp_path: Path, figures: str) -> None:
    buttons = [
        Flat(next(NAMES), inside=[
            planning.text(next(NAMES), 60 + 60 * n, 110, figure, 18), plate(50 + 60 * n, 100, 40, 40, 20),
        ])
        for n, figure in enumerate(figures)
    ]  # fmt: skip
    stars = [
        Flat(next(NAMES), inside=[
            planning.shape(next(NAMES), 60 + 60 * n, 310, "#a04828"), plate(50 + 60 * n, 300, 60, 60),
        ])
        for n in range(4)
    ]  # fmt: skip
    page = reading(tmp_path, Flat("Layer 98", inside=buttons), Flat("Layer 97", inside=stars))
    of = page.mockup.by_address
    said = [page.is_words(of[f"Layer 98/{button.name}"].children[0]) for button in buttons]
    drawn = [page.is_words(of[f"Layer 97/{star.name}"].children[0]) for star in stars]
    assert (all(said), any(drawn)) == (True, False)


@pytest.mark.parametrize(
    ("name", "size", "scale", "expected", "because"),
    [
        ("page.ora", (1200, 700), 1, 1.0, "letters"), ("page.ora", (1600, 900), 2, 2.0, "letters"),
        ("page@2x.ora", (1200, 700), 1, 2.0, '"@2x"'), ("phone.ora", (750, 900), 2, 2.0, "screen of 375"),
    ],
)  # fmt: skip
def test_the_density_is_told_by_what_is_there(
    tmp_path: Path, name: str, size: tuple[int, int], scale: int, expected: float, because: str
) -> None:
    lines = [
        planning.text(
            next(NAMES), 40, 40 + 40 * n * scale, "Honey from the lower meadow", 15 * scale
        )
        for n in range(8)
    ]
    path = write_ora(
        tmp_path / name, size, [*lines, Flat("ground", (0, 0, *size), (255, 255, 255, 255))]
    )
    found = likely(Reading(Workspace().open(path).renderer, 1.0))
    assert (found.value, because in found.why) == (expected, True)


def test_buttons_alike_are_one_and_the_bars_of_a_chart_have_each_its_box(
    tmp_path: Path, riffler: Run
) -> None:
    def button(y: int, words: str) -> Flat:
        plate = planning.rounded("Layer 5", 700, y, 120, 40, 6)
        return Flat("Layer 9", inside=[planning.text("Layer 4", 730, y + 12, words), plate])

    down = [40, 100, 160, 300]
    buttons = [button(y, "Order") for y in down] + [button(360, "Cancel")]
    tall = (90, 40, 120, 66, 150)
    bars = [
        Flat(f"Rechteck {n}", (60 + 40 * n, 500 - height, 28, height), (40, 90, 60, 255))
        for n, height in enumerate(tall)
    ]
    write_project(tmp_path / "p", {})
    write_ora(
        tmp_path / "p/mockups/m.ora", (900, 700), [*buttons, Flat("Chart", inside=bars), GROUND]
    )
    said = json.loads(riffler("draft", "mockups/m.ora", "--json", cwd=tmp_path / "p").stdout)
    chart = said["slices"][2]
    times = [(one["name"], one["keys"].get("times")) for one in said["slices"]]
    orders = [("button", {"count": 3, "y": 60}), ("button", {"count": 1})]
    assert times == [*orders, ("chart", chart["keys"]["times"]), ("button-5", None)]
    assert chart["box"]["height"] == 150
    assert chart["keys"]["times"] == {"around": [f"Chart/Rechteck {n}" for n in range(5)]}
    riffler("draft", "mockups/m.ora", cwd=tmp_path / "p")
    riffler("cut", cwd=tmp_path / "p")
    words = json.loads((tmp_path / "p/out/ledger.json").read_text())["words"]
    heights = [one["css"]["height"] for one in words if one["slice"].startswith("chart")]
    assert heights == list(tall)


def test_the_page_as_a_tree(tmp_path: Path, riffler: Run) -> None:
    cards = Flat("Layer 98", inside=[card(60 + 260 * n, 200) for n in range(3)])
    head = [
        planning.text("Layer 2", 60, 30, "Fernhollow"),
        Flat("Layer 3", (0, 0, 900, 90), (60, 40, 30, 255)),
    ]
    write_ora(tmp_path / "m.ora", (900, 700), [cards, *head, GROUND])
    page = json.loads(riffler("look", "m.ora", "--boxes", "--json").stdout)["page"]
    assert (page["kind"], page["box"]["width"]) == ("page", 900)
    (ground,) = page["parts"]
    bar, row = ground["parts"]
    assert [ground["kind"], bar["kind"], row["kind"]] == ["box", "box", "card"]
    assert bar["why"] == "flat colour #3c281e"
    assert [part["kind"] for part in bar["parts"]] == ["words"]
    assert (row["count"], row["step"], row["box"]["x"]) == (3, [260, 0], 60)
    assert [part["kind"] for part in row["parts"]] == ["picture", "words", "words"]
    assert {part["certainty"] for part in row["parts"]} <= {"sure", "likely"}
    said = riffler("look", "m.ora", "--boxes", "--picture", "boxes.png").stdout
    assert "one of 3 made alike, the next 260 px right" in said
    with Image.open(tmp_path / "boxes.png") as picture:
        assert picture.size == (1280, 800)


@pytest.mark.parametrize(
    "name, own, leads",
    [
        ("Group nav copy 2", "nav", False), ("Gruppe loaves – neu", "loaves", False),
        ("Frame 15", "frame-15", False), ("copy", "copy", False), ("nav-copy-copy-3", "nav", False),
        ("Read more", "read-more", True), ("More letters", "more-letters", False),
        ("link-2", "link-2", True), ("tab home", "tab-home", True), ("", "pixels", False),
    ],
)  # fmt: skip
def test_names_without_what_programs_put_round_them(name: str, own: str, leads: bool) -> None:
    assert layer_names.own_name(Layer("a", name, LayerKind.PIXELS)) == own
    assert layer_names.leads_somewhere(name) is leads


@pytest.mark.parametrize(
    "width, density", [(960, None), (640, 2.0), (750, 2.0), (1170, 3.0), (1280, None)]
)
def test_small_screens_tell_a_density(tmp_path: Path, width: int, density: float | None) -> None:
    path = write_ora(tmp_path / "m.ora", (width, 400), [Flat("ground", (0, 0, width, 400))])
    found = signs(Workspace().open(path).mockup)
    assert [sign.density for sign in found] == ([density] if density else [])
