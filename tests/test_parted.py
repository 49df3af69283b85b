"""What lies on a page by itself: words by inks and gaps, art by its edges, tiles, rows, shadows."""

from __future__ import annotations

import json
import tomllib
from collections.abc import Sequence
from dataclasses import replace
from pathlib import Path

import numpy as np
import pytest
from PIL import Image, ImageDraw, ImageFont
from playwright.sync_api import Browser

import planning
from conftest import Run, shown
from making import Flat, Straight, write_ora, write_project
from riffler.analyse.crops import same_picture
from riffler.analyse.drawn import style_of
from riffler.analyse.frame import frame_of
from riffler.analyse.grid import find_grid
from riffler.analyse.lettering import lettering_of
from riffler.analyse.stamped import stamped_of
from riffler.analyse.style import CLEAR
from riffler.analyse.texture import is_grain
from riffler.color import from_bytes
from riffler.geometry import Box
from riffler.plan.checks.sizes import OFF
from riffler.plan.draft.narrow import SAME_PICTURE
from riffler.plan.draft.whole import draft
from riffler.reading.judgement import Becomes, Evidence, Judgement
from riffler.reading.reading import Reading
from riffler.reading.rows import Row, rows_of
from riffler.workspace import Workspace

SIZE = (900, 700)
GROUND = Flat("ground", (0, 0, *SIZE), (244, 240, 230, 255))
INK, RED, GREEN = (40, 30, 20), (180, 40, 20), (30, 110, 60)


def reading(tmp_path: Path, *layers: Flat, size: tuple[int, int] = SIZE) -> Reading:
    path = write_ora(tmp_path / "m.ora", size, [*layers, GROUND])
    return Reading(Workspace().open(path).renderer, 1.0)


def filtered(folder: Path, steps: str) -> Judgement:
    """What is understood of a white plate in a drawing, under a filter of these steps."""
    path = folder / "m.svg"
    path.write_text(
        '<svg xmlns="http://www.w3.org/2000/svg" width="400" height="300"><defs><filter id="f">'
        f'{steps}</filter></defs><rect id="plate" x="60" y="60" width="200" height="120" '
        'fill="#fff" filter="url(#f)"/></svg>'
    )
    page = Reading(Workspace().open(path).renderer, 1.0)
    return page.judgement(page.mockup.by_address["plate"])


def runs(*words: tuple[str, tuple[int, int, int], int, int], size: int = 22) -> Straight:
    """Words in pixels, each in its ink at its place: (text, ink, right, down)."""
    picture, font = Image.new("RGBA", (640, 80)), ImageFont.load_default(size)
    for text, ink, x, y in words:
        mask = Image.new("L", picture.size)
        ImageDraw.Draw(mask).text((x, y), text, fill=255, font=font)
        inked = Image.new("RGBA", picture.size, (*ink, 0))
        inked.putalpha(mask)
        picture.alpha_composite(inked)
    return np.asarray(picture.crop(picture.getbbox()))


@pytest.mark.parametrize(
    ("words", "inks", "lines", "columns"),
    [
        ([("Thirty menders", INK, 0, 0)], 1, 1, 1),
        ([("Thirty menders", INK, 0, 0), ("in four towns", RED, 0, 30)], 2, 2, 1),
        ([("We wind clocks in", INK, 0, 0), ("Harl", RED, 190, 0)], 2, 1, 1),
        ([("Home", INK, 0, 0), ("About", INK, 120, 0), ("Bread", INK, 250, 0)], 1, 1, 3),
        ([("Total", INK, 0, 0), ("12.00", RED, 200, 0), ("Tax", INK, 0, 30),
          ("2.40", RED, 200, 30)], 2, 2, 2),
        # a gap that words beside it on another line bridge is none of the whole
        ([("Home", INK, 0, 0), ("About", INK, 150, 0), ("a line without any", INK, 0, 30)], 1, 2, 1),
    ],
)  # fmt: skip
def test_text_is_told_by_its_inks_and_parted_by_wide_gaps(
    words: Sequence[tuple[str, tuple[int, int, int], int, int]],
    inks: int, lines: int, columns: int,
) -> None:  # fmt: skip
    text = lettering_of(from_bytes(runs(*words)))
    assert text is not None
    assert (1 + len(text.others), len(text.lines), len(text.columns)) == (inks, lines, columns)
    assert {text.color, *text.others} == {f"#{bytes(ink).hex()}" for _, ink, _, _ in words}


def test_drawings_of_a_few_flat_colours_are_no_text() -> None:
    picture = Image.new("RGBA", (240, 40))
    draw = ImageDraw.Draw(picture)
    for n, color in enumerate(("#a33", "#3a3", "#33a", "#aa3", "#3aa", "#a3a")):
        draw.ellipse((40 * n, 4, 40 * n + 30, 34), fill=color)
    assert lettering_of(from_bytes(np.asarray(picture))) is None


def cut(drafted_of: Reading) -> dict[str, Box]:
    """What a draft cuts or says, by the layers of each slice."""
    drafted = draft(drafted_of.renderer, density=1.0)
    return {"+".join(sorted(new.layers)): new.box for new in drafted.slices}


def test_a_menu_in_one_layer_is_a_slice_a_link(tmp_path: Path) -> None:
    menu = runs(("Home", INK, 0, 0), ("About", INK, 120, 0), ("Bread", INK, 250, 0))
    page = reading(tmp_path, Flat("Layer 6", (100, 50, menu.shape[1], menu.shape[0]), pixels=menu))
    slices = draft(page.renderer, density=1.0).slices
    assert [new.table.role for new in slices] == ["words"] * 3
    edges = sorted((new.box.x, new.box.right) for new in slices)
    assert (edges[0][0], edges[2][1]) == pytest.approx((100, 100 + menu.shape[1]), abs=1)


def test_what_is_stuck_on_a_photograph_and_art_on_flat_ground_are_by_themselves(
    tmp_path: Path,
) -> None:
    star = planning.shape("star", 640, 160, "#d0a020", (0, 39), (20, 0), (39, 39))
    photo = Flat("photo", (0, 60, 900, 300), pixels=planning.noise(40, 900, 300, 20.0))
    flat = Flat("flat", (0, 60, 900, 300), (20, 60, 50, 255))
    for under, cuts in ((photo, {"star", "photo"}), (flat, {"star"})):
        head = Flat("head", inside=[star, under])
        found = cut(reading(tmp_path, head))
        names = {name.replace("head/", "") for name in found}
        assert names == cuts
        assert found["head/star"] == Box(640, 160, 40, 40)


def test_pictures_that_touch_are_a_gallery(tmp_path: Path) -> None:
    tiles = [
        planning.photo(f"p{n}", 100 * (n % 6), 100 + 100 * (n // 6), 100, 100) for n in range(12)
    ]
    found = cut(reading(tmp_path, Flat("gallery", inside=tiles)))
    assert set(found) == {f"gallery/p{n}" for n in range(12)}


GRAIN = planning.noise(3, 900, 700, 1.0)
CALM = (128 + (GRAIN.astype(float) - 128) / 12).clip(0, 255).astype(np.uint8)
LIT = CALM.copy()
LIT[..., :3] = (CALM[..., :3] * np.linspace(0.8, 1.1, 900)[None, :, None]).clip(0, 255)


@pytest.mark.parametrize(
    ("pixels", "is_tile"),
    [(CALM, True), (LIT, False), (planning.noise(5, 900, 700, 60.0), False)],
    ids=["grain", "a light corner", "clouds"],
)
def test_a_ground_that_is_alike_everywhere_is_a_tile(
    pixels: Straight, is_tile: bool, tmp_path: Path
) -> None:
    opaque = np.dstack((pixels[..., :3], np.full(pixels.shape[:2], 255, np.uint8)))
    page = reading(tmp_path, Flat("paper", (0, 0, *SIZE), pixels=opaque))
    judgement = page.judgement(page.mockup.by_address["paper"])
    assert (judgement.becomes is Becomes.TILE) == is_tile
    if is_tile:
        assert judgement.evidence is Evidence.GRAIN
        (slice_,) = draft(page.renderer, density=1.0).slices
        assert slice_.table.role == "tile"
        assert slice_.table.soften
        assert slice_.table.at
        x, y, width, height = slice_.table.at
        assert int(x) + int(width) + slice_.table.soften <= SIZE[0]
        assert int(y) + int(height) + slice_.table.soften <= SIZE[1]


@pytest.mark.parametrize(("spread", "is_one"), [(0.5, False), (0.9, True)])
def test_noise_that_nobody_sees_is_no_grain(spread: float, is_one: bool) -> None:
    values = np.random.default_rng(1).normal(128, spread, (400, 400)).astype(np.float32)
    assert is_grain(values) == is_one


@pytest.mark.parametrize(
    "ground",
    [
        '<rect id="ground" width="600" height="400" fill="url(#p)"/>',
        '<path id="ground" d="M0 0H600V400H0V0Z" fill="url(#p)"/>',
    ],
)
def test_a_pattern_of_the_document_is_a_tile_of_its_step(ground: str, tmp_path: Path) -> None:
    path = tmp_path / "m.svg"
    path.write_text(
        '<svg xmlns="http://www.w3.org/2000/svg" width="600" height="400"><defs><pattern id="p" '
        'patternUnits="userSpaceOnUse" width="37" height="23"><path d="M0 0h9v5z" fill="#a33"/>'
        f"</pattern></defs>{ground}</svg>"
    )
    page = Reading(Workspace().open(path).renderer, 1.0)
    judgement = page.judgement(page.mockup.by_address["ground"])
    assert (judgement.becomes, judgement.period, judgement.repeat) == (
        Becomes.TILE,
        (37, 23),
        "both",
    )


def member(n: int, x: int, y: int, size: tuple[int, int], *, has_plate: bool = True) -> Flat:
    """A picture with a title, on a plate or without one."""
    inside = [
        planning.text(f"t{n}", x + 10, y + 110, "Clover honey", 16),
        planning.photo(f"p{n}", x + 10, y + 10, 100, 80),
    ]
    if has_plate:
        inside.append(Flat(f"b{n}", (x, y, *size), (255, 250, 240, 255)))
    return Flat(f"m{n}", inside=inside)


def lined(n: int, x: int, *more: Flat) -> Flat:
    """The same with a line below its title, and more on it."""
    line = planning.text(f"l{n}", x + 10, 210, "Light and mild", 14)
    return Flat(f"m{n}", inside=[*more, line, *(member(n, x, 60, (200, 190)).inside or ())])


def one_row(page: Reading) -> Row:
    (group,) = (layer for layer in page.mockup.layers if layer.is_group)
    (row,) = rows_of(page, group, group.children)
    return row


@pytest.mark.parametrize(
    ("members", "kind", "sizes"),
    [
        ([member(n, 30 + 220 * n, 60, (200, 150 + 20 * n)) for n in range(3)], "cards", 3),
        ([member(n, 30 + 220 * n, 90 - 20 * (n == 0), (200, 150 + 20 * (n == 0)))
          for n in range(3)], "cards", 2),
        ([member(n, 30 + 220 * n, 60 - 16 * (n == 1), (200, 150 + 20 * (n == 2)))
          for n in range(3)], "cards", 2),
        ([member(n, 30 + 300 * n, 60, (0, 0), has_plate=False) for n in range(2)], "items", 1),
        ([lined(0, 30), lined(1, 260, planning.text("new", 380, 70, "New", 14))], "cards", 1),
    ],
    ids=["of three heights", "on one foot", "one higher, one taller", "two without plates",
         "two, one with a badge"],
)  # fmt: skip
def test_things_alike_may_be_of_several_sizes(
    members: list[Flat], kind: str, sizes: int, tmp_path: Path
) -> None:
    page = reading(tmp_path, Flat("cards", inside=members))
    row = one_row(page)
    assert (row.kind, len(row.members)) == (kind, len(members))
    (slice_,) = (new for new in draft(page.renderer, density=1.0).slices if new.table.times)
    assert slice_.table.times is not None
    assert slice_.table.times.total == len(members)
    assert bool(slice_.table.times.around) == (sizes > 1)
    assert len({box.size for box in slice_.boxes or (slice_.box,)}) == sizes


def test_striped_lines_are_one_row_and_a_button_below_is_none_of_it(tmp_path: Path) -> None:
    lines = [
        Flat(f"line-{n}", inside=[
            planning.text(f"a{n}", 50, 100 + 46 * n, "Clover"),
            planning.text(f"b{n}", 500, 100 + 46 * n, "12.00"),
            *([Flat(f"g{n}", (40, 92 + 46 * n, 800, 46), (220, 214, 200, 255))] if n % 2 else []),
        ])
        for n in range(5)
    ]  # fmt: skip
    button = Flat("send", inside=[
        planning.text("label", 60, 100 + 46 * 5, "Order"), planning.rounded("p", 40, 318, 110, 40, 8),
    ])  # fmt: skip
    row = one_row(reading(tmp_path, Flat("table", inside=[button, *lines])))
    assert [layer.name for layer in row.members] == [f"line-{n}" for n in range(5)]


def test_the_words_of_a_layer_follow_it_into_slices_names_and_links(
    riffler: Run, tmp_path: Path
) -> None:
    """What a cutlist says of a layer counts as read: no Tesseract is asked."""
    label = planning.text("Layer 2", 120, 310, "Menu")
    plate = planning.rounded("Layer 3", 100, 300, 110, 44, 10)
    root = write_project(tmp_path / "p", {})
    (root / "pages/menu.html").write_text("<!doctype html>")
    write_ora(root / "mockups/m.ora", SIZE, [Flat("Layer 1", inside=[label, plate]), GROUND])
    (root / "cuts/m.toml").write_text(
        'mockup = "../mockups/m.ora"\n[says]\n"Layer 1/Layer 2" = "Menu"\n'
    )
    riffler("draft", "mockups/m.ora", "--add", cwd=root)
    text = (root / "cuts/m.toml").read_text()
    assert "[slice.button-menu]" in text
    assert 'link   = "menu"' in text
    assert text.count('"Layer 1/Layer 2" = ') == 1
    (root / "cuts/m.toml").write_text(text.replace('"Layer 1/Layer 2" =', '"Layer 1/gone" ='))
    assert "Layer 1/gone" in riffler("cut", cwd=root, code=2).stderr


BLACK, WHITE = (0, 0, 0), (255, 255, 255)


@pytest.mark.parametrize(
    ("css", "shadows"),
    [
        ("0 4px 14px rgb(45 32 27 / .14)", [(0, 4, 14, (45, 32, 27))]),
        ("0 1px 2px rgb(45 32 27 / .14), 0 10px 26px rgb(45 32 27 / .14)",
         [(0, 1, 2, (45, 32, 27)), (0, 10, 26, (45, 32, 27))]),
    ],
)  # fmt: skip
def test_shadows_are_told_apart_and_their_ink_from_what_8_bits_leave(
    browser: Browser, css: str, shadows: list[tuple[int, int, int, tuple[int, int, int]]]
) -> None:
    html = (
        '<div style="position:absolute;left:60px;top:60px;width:300px;height:180px;'
        f'border-radius:16px;background:#fff;box-shadow:{css}"></div>'
    )
    fitted = style_of(from_bytes(shown(browser, html, 420, 320, 1, is_clear=True)))
    assert fitted is not None
    for shadow, (x, y, blur, ink) in zip(fitted[0].shadows, shadows, strict=True):
        assert (shadow.x, shadow.y) == pytest.approx((x, y), abs=0.5)
        assert shadow.blur == pytest.approx(blur, abs=2.2)
        color = [int(shadow.color[at : at + 2], 16) for at in (1, 3, 5)]
        assert color == pytest.approx(ink, abs=16)


def test_filters_of_several_shadows_are_read_from_the_document(tmp_path: Path) -> None:
    steps = "".join(
        f'<feGaussianBlur in="SourceAlpha" stdDeviation="{blur / 2}"/><feOffset dy="{y}" '
        f'result="o{n}"/><feFlood flood-color="#2d221b" flood-opacity=".2"/>'
        f'<feComposite in2="o{n}" operator="in" result="s{n}"/>'
        for n, (y, blur) in enumerate(((10, 26), (1, 2)))
    )
    merge = "".join(f'<feMergeNode in="{name}"/>' for name in ("s0", "s1", "SourceGraphic"))
    judgement = filtered(tmp_path, f"{steps}<feMerge>{merge}</feMerge>")
    assert judgement.is_said
    assert judgement.style is not None
    assert [(s.x, s.y, s.blur, s.color) for s in judgement.style.shadows] == [
        (0, 1, 2, "#2d221b33"), (0, 10, 26, "#2d221b33")
    ]  # fmt: skip


@pytest.mark.parametrize(("dx", "dy", "radius"), [(4, 4, 0), (-3, 5, 12), (0, 6, 20)])
def test_a_hard_shadow_is_no_part_of_the_box(dx: int, dy: int, radius: int, tmp_path: Path) -> None:
    picture = Image.new("RGBA", (200, 90))
    draw = ImageDraw.Draw(picture)
    for x, y, ink in ((30 + dx, 20 + dy, "#123"), (30, 20, "#e8b04b")):
        draw.rounded_rectangle((x, y, x + 119, y + 43), radius, fill=ink)
    pixels = np.asarray(picture)
    stamped = stamped_of(from_bytes(pixels))
    assert stamped is not None
    style, box = stamped
    assert (box, style.stops[0].color) == (Box(30, 20, 120, 44), "#e8b04b")
    assert [(s.x, s.y, s.blur, s.color) for s in style.shadows] == [(dx, dy, 0, "#112233")]
    page = reading(tmp_path, Flat("plate", (100, 100, 200, 90), pixels=pixels))
    assert page.box(page.mockup.by_address["plate"]) == Box(130, 120, 120, 44)


def test_a_thin_faint_line_around_nothing_is_a_border() -> None:
    picture = Image.new("RGBA", (300, 80))
    ImageDraw.Draw(picture).rounded_rectangle((0, 0, 299, 79), 12, outline=(255, 255, 255, 40))
    frame = frame_of(from_bytes(np.asarray(picture)))
    assert frame is not None
    assert frame.border is not None
    assert (frame.stops, frame.border.width, frame.border.color) == ((CLEAR,), 1, "#ffffff28")


CARDS = [Box(130 + 240 * n, 100, 220, 80) for n in range(4)]
DISKS = [Box(140 + 260 * n, 100, 120, 120) for n in range(4)]


@pytest.mark.parametrize(
    ("boxes", "texts", "told"),
    [
        (CARDS, [Box(130, 300 + 40 * n, 200, 20) for n in range(4)], (4, 20, "sure")),
        (
            DISKS,
            [Box(60, 300 + 40 * n, 200, 20) for n in range(4)],
            None,
        ),  # in the middle of columns
        ([Box(100 + 126 * n, 40, 124, 40) for n in range(4)], [], None),  # tabs
        ([Box(60, 90, 530, 200), Box(610, 90, 530, 200)], [], (2, 20, "sure")),
        ([Box(60, 90, 200, 40), Box(940, 90, 200, 40)], [], None),
        # three and four of one gutter lie on twelve; of two gutters neither is believed
        (
            [
                *(Box(120 + 250 * n, 90, 210, 80) for n in range(4)),
                *(Box(120 + 333 * n, 400, 294, 80) for n in range(3)),
            ],
            [],
            (12, 40, "sure"),
        ),
        (
            [
                *(Box(120 + 250 * n, 90, 210, 80) for n in range(4)),
                *(Box(120 + 330 * n, 400, 300, 80) for n in range(3)),
            ],
            [],
            None,
        ),
    ],
    ids=["cards", "disks", "tabs", "two columns", "two buttons", "three and four", "two gutters"],
)
def test_a_grid_is_sure_only_where_nothing_contradicts_it(
    boxes: list[Box], texts: list[Box], told: tuple[int, int, str] | None
) -> None:
    grid = find_grid(boxes, 1200, texts=texts)
    sure = grid if grid is not None and grid.certainty == "sure" else None
    assert (sure and (sure.columns, sure.gutter, sure.certainty)) == told


def test_the_weight_of_a_triangle_is_off_and_that_of_things_on_a_foot_is_not() -> None:
    assert 3 / 40 < OFF < 1 / 6


def test_a_badge_on_a_photograph_is_no_button(tmp_path: Path) -> None:
    badge = Flat("b", inside=[
        planning.text("Layer 2", 320, 118, "Sold out", 14), planning.rounded("Layer 3", 300, 110, 100, 32, 8)
    ])  # fmt: skip
    photo = planning.photo("photo", 100, 100, 320, 200)
    names = [
        new.name for new in draft(reading(tmp_path, badge, photo).renderer, density=1.0).slices
    ]
    assert not any(name.startswith("button") for name in names)
    alone = replace(badge, name="c")
    names = [new.name for new in draft(reading(tmp_path, alone).renderer, density=1.0).slices]
    assert any(name.startswith("button") for name in names)


def test_what_is_read_is_told_as_data(riffler: Run, tmp_path: Path) -> None:
    root = write_project(tmp_path / "p", {})
    write_ora(root / "mockups/m.ora", SIZE, [planning.text("claim", 60, 60, "Honey"), GROUND])
    done = riffler("draft", "mockups/m.ora", cwd=root)
    assert "Words in pixels were not read" in done.stdout
    told = json.loads(riffler("draft", "mockups/m.ora", "--no-read", "--json", cwd=root).stdout)
    assert told["says"] == {}


SCENE = planning.noise(21, 360, 240, 12.0)
OTHER = planning.noise(22, 360, 240, 12.0)


def scaled(pixels: Straight, width: int, height: int) -> Straight:
    return np.asarray(Image.fromarray(pixels).resize((width, height), Image.Resampling.BOX))


@pytest.mark.parametrize(
    ("first", "second", "is_same"),
    [
        (SCENE, scaled(SCENE, 180, 120), True),
        (SCENE, SCENE[:, 60:260], True),  # as high, cut at both sides
        (SCENE, scaled(SCENE[40:180], 180, 70), True),  # as wide, cut above and below
        (SCENE, OTHER, False),
        (SCENE, OTHER[:, 60:260], False),
    ],
)
def test_a_picture_is_known_in_another_crop(
    first: Straight, second: Straight, is_same: bool
) -> None:
    assert (same_picture(first, second) >= SAME_PICTURE) == is_same
    assert same_picture(second, first) == pytest.approx(same_picture(first, second))


def test_a_narrow_mockup_has_the_names_of_what_it_shows(riffler: Run, tmp_path: Path) -> None:
    """Other names, another order, other crops: the pixels and the words say which is which."""
    root = write_project(tmp_path / "p", {})
    scenes = [planning.noise(seed, 300, 200, 12.0) for seed in (31, 32, 33)]
    wide = [Flat(f"photo {n}", (30 + 320 * n, 40, 300, 200), pixels=scenes[n]) for n in range(3)]
    title = runs(("Three routes this season", INK, 0, 0))
    at = (title.shape[1], title.shape[0])
    ground = Flat("ground", (0, 0, 1000, 400), (244, 240, 230, 255))
    write_ora(
        root / "mockups/home.ora", (1000, 400),
        [Flat("heading", (30, 300, *at), pixels=title), *wide, ground],
    )  # fmt: skip
    narrow = [
        Flat(f"photo {2 - n}", (20, 120 + 260 * n, 240, 200), pixels=scenes[n][:, 30:270].copy())
        for n in range(3)
    ]
    write_ora(
        root / "mockups/home-narrow.ora", (375, 900),
        [Flat("claim", (20, 60, *at), pixels=title), *narrow,
         Flat("ground", (0, 0, 375, 900), (244, 240, 230, 255))],
    )  # fmt: skip
    riffler("draft", "mockups/home.ora", cwd=root)
    wide_text = (root / "cuts/home.toml").read_text()
    (root / "cuts/home.toml").write_text(f'{wide_text}\n[says]\nheading = "Three routes"\n')
    riffler("draft", "mockups/home-narrow.ora", "--when", "(max-width: 600px)", cwd=root)
    text = (root / "cuts/home-narrow.toml").read_text()
    only = tomllib.loads(text)["slice"]
    assert {name: table["only"] for name, table in only.items() if "only" in table} == {
        f"photo-{n}": [f"photo {2 - n}"] for n in range(3)
    }
    assert "claim" not in only  # of two texts of which one is not known nothing is believed
    assert riffler("cut", cwd=root).returncode == 0


def test_a_head_is_cut_without_what_lies_over_it(tmp_path: Path) -> None:
    plate = planning.photo("plate", 600, 220, 200, 200)
    scene = planning.noise(41, 900, 300, 20.0)
    head = Flat("head", inside=[Flat("photo", (0, 60, 900, 300), pixels=scene)])
    drafted = draft(reading(tmp_path, plate, head).renderer, density=1.0)
    (hero,) = (new for new in drafted.slices if "head/photo" in new.layers)
    assert hero.table.hide == ["kind:words", "plate"]


def test_cards_that_nobody_grouped_are_one_list_all_the_same(tmp_path: Path) -> None:
    """The regions of a draft are the same with groups and without."""
    parts = [
        [planning.text(f"t{n}", 60 + 280 * n, 330, "Clover", 20),
         planning.photo(f"p{n}", 40 + 280 * n, 100, 240, 220)]
        for n in range(3)
    ]  # fmt: skip
    apart = planning.text("claim", 60, 500, "Honey from four meadows")
    grouped = Flat("cards", inside=[Flat(f"card {n}", inside=part) for n, part in enumerate(parts)])
    regions = []
    for layers in ([grouped], [layer for part in parts for layer in part]):
        slices = draft(reading(tmp_path, apart, *layers).renderer, density=1.0).slices
        regions.append({(new.box, bool(new.table.times)) for new in slices if new.table.role})
    assert regions[0] == regions[1]
    assert len(regions[0]) == 2


def test_the_title_of_a_card_tells_its_picture_and_its_price_does_not(tmp_path: Path) -> None:
    cards = "".join(
        f'<g id="card-{n}"><rect x="{20 + 220 * n}" y="20" width="200" height="180" fill="#fffaf0"/>'
        f'<path d="M{40 + 220 * n} 30h160l-{40 + 40 * n} 80z" fill="#a33"/>'
        f'<text x="{40 + 220 * n}" y="140" font-size="20">{name}</text>'
        f'<text x="{40 + 220 * n}" y="180" font-size="30">6.50</text></g>'
        for n, name in enumerate(("Clover", "Heather", "Lime"))
    )
    path = tmp_path / "m.svg"
    path.write_text(
        '<svg xmlns="http://www.w3.org/2000/svg" width="700" height="300">'
        f'<rect width="700" height="300" fill="#f4f0e6"/><g id="cards">{cards}</g></svg>'
    )
    slices = draft(Workspace().open(path).renderer, density=1.0).slices
    told = [new.table.alt for new in slices if new.table.only]
    assert sorted(filter(None, told)) == ["Clover", "Heather", "Lime"]


def test_a_menu_in_one_layer_is_roughed_out_as_people_read_it(riffler: Run, tmp_path: Path) -> None:
    menu = runs(("Home", INK, 0, 0), ("About", INK, 120, 0), ("Bread", INK, 250, 0))
    root = write_project(tmp_path / "p", {})
    layers = [Flat("menu", (100, 50, menu.shape[1], menu.shape[0]), pixels=menu), GROUND]
    write_ora(root / "mockups/home.ora", SIZE, layers)
    riffler("draft", "mockups/home.ora", cwd=root)
    text = (root / "cuts/home.toml").read_text()
    (root / "cuts/home.toml").write_text(f'{text}\n[says]\nmenu = "Home\\tAbout\\tBread"\n')
    riffler("rough", cwd=root)
    assert "Home About Bread" in (root / "pages/index.html").read_text()
    told = json.loads(riffler("measure", "menu", "--words", "--json", cwd=root).stdout)
    assert told["lines"] == ["Home About Bread"]
