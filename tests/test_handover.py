"""The data behind tokens, fonts and the cut sheet, on mockups drawn for it."""

from __future__ import annotations

import io
import json
import shutil
import zipfile
from pathlib import Path

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from PIL import Image

import riffler as riffler_package
from conftest import Run
from making import Flat, png, write_ora, write_project
from riffler.analyse.style import Shadow
from riffler.color import oklab
from riffler.cutsheet import packing, thumbnails
from riffler.cutsheet.gather import cut_sheet
from riffler.geometry import Box
from riffler.measure.units import Scale
from riffler.mockup.font_book import FontBook
from riffler.mockup.model import LayerText
from riffler.plain import slug
from riffler.project.project import Project
from riffler.tokens.collecting import Group, collected
from riffler.tokens.gather import type_of
from riffler.tokens.interchange import interchange
from riffler.tokens.palette import alpha, apart, hue, name_of, over
from riffler.tokens.spelling import spelled
from riffler.tokens.token import Place, Sighting, Sort, Token, Tokens, Type
from riffler.tokens.token_names import named
from riffler.typeset.glyphs import Typeface
from riffler.webfonts.characters import COMMON, needed
from riffler.webfonts.facts import facts_of
from riffler.webfonts.fallback import fallback_of
from riffler.webfonts.style_sheet import WebFace, style_sheet
from riffler.webfonts.subset import ranges
from riffler.workspace import Workspace

FONTS = Path(riffler_package.__file__).parent / "demo/fernhollow/fonts"

HERE = Place("page.svg", "a", "fill")


@pytest.mark.parametrize(
    ("color", "word"),
    [("#ffffff", "white"), ("#000000", "black"), ("#808080", "grey"), ("#d02020", "red"),
     ("#e07020", "orange"), ("#e8a830", "amber"), ("#f0e040", "yellow"), ("#90d030", "lime"),
     ("#208040", "green"), ("#209090", "teal"), ("#30b0e0", "cyan"), ("#2050c0", "blue"),
     ("#6040c0", "violet"), ("#a040b0", "purple"), ("#e060a0", "pink"), ("#6b4a24", "brown"),
     ("#f4ead6", "sand")],
)  # fmt: skip
def test_colours_have_the_names_that_people_give_them(color: str, word: str) -> None:
    assert hue(color) == word
    assert name_of(color).startswith(word)
    assert name_of(f"{color}80").endswith("-a50")


def test_lightness_is_that_of_the_paper() -> None:
    """Ottosson's own example: white is 1, and mid grey about 0.6."""
    white, grey = (oklab(np.full((1, 1, 3), value, np.uint8))[0, 0] for value in (255, 128))
    assert white == pytest.approx([1, 0, 0], abs=1e-3)
    assert grey[0] == pytest.approx(0.5999, abs=1e-3)
    assert name_of("#808080") == "grey-60"


@given(st.integers(0, 0xFFFFFF), st.integers(0, 0xFFFFFF))
def test_distance_is_one(one: int, other: int) -> None:
    a, b = f"#{one:06x}", f"#{other:06x}"
    assert apart(a, b) == pytest.approx(apart(b, a))
    assert (apart(a, b) == 0) == (a == b)


@pytest.mark.parametrize(
    ("color", "ground", "shown"),
    [("#000000", 255, 0), ("#00000080", 255, 127), ("#ffffff40", 0, 64), ("#ffffff00", 9, 9)],
)
def test_colours_lie_on_grounds(color: str, ground: int, shown: int) -> None:
    found = over(color, np.full((1, 3), ground, np.uint8))
    assert np.abs(found.astype(int) - shown).max() <= 1
    assert alpha(color) == pytest.approx(int(color[7:] or "ff", 16) / 255)


def _seen(value: str | float | Type, sort: Sort = Sort.COLOR, layer: str = "a", *,
          is_exact: bool = True, weight: float = 1.0, role: str = "fill") -> Sighting:  # fmt: skip
    return Sighting(sort, value, Place("m", layer, role), is_exact, weight)


def test_what_was_fitted_joins_what_is_said() -> None:
    seen = [_seen("#335577"), _seen("#345678", layer="b", is_exact=False),
            _seen("#445577", layer="c", is_exact=False)]  # fmt: skip
    groups = collected(seen)[Sort.COLOR]
    assert [(group.value, len(group.places)) for group in groups] == [
        ("#335577", 2),
        ("#445577", 1),
    ]
    said = collected([_seen("#335577"), _seen("#345678", layer="b")])[Sort.COLOR]
    assert len(said) == 2  # a slip in the document stays one


def test_spaces_count_from_the_second_on() -> None:
    once = _seen(24.0, Sort.SPACE)
    assert collected([once])[Sort.SPACE] == []
    often = _seen(24.0, Sort.SPACE, weight=2)
    assert [group.value for group in collected([often])[Sort.SPACE]] == [24.0]


def test_a_single_line_has_the_step_of_its_kind() -> None:
    one, many = Type(("A",), 16), Type(("A",), 16, line_height=1.5)
    groups = collected([_seen(one, Sort.TYPE), _seen(many, Sort.TYPE, "b")])[Sort.TYPE]
    assert [group.value for group in groups] == [many]
    other = Type(("A",), 16, 700)
    assert len(collected([_seen(other, Sort.TYPE), _seen(many, Sort.TYPE)])[Sort.TYPE]) == 2


@pytest.mark.parametrize(
    ("types", "names"),
    [([(16, 400, "normal")], ["body"]),
     ([(16, 400, "normal"), (40, 600, "normal"), (12, 400, "normal")],
      ["title-40", "body", "small-12"]),
     ([(16, 400, "normal"), (20, 400, "normal"), (20, 700, "normal"), (20, 400, "italic")],
      ["title-20", "title-20-bold", "title-20-italic", "body"]),
     ([(16, 400, "normal"), (16.5, 400, "normal")], ["text-16-5", "body"])],
)  # fmt: skip
def test_types_are_named_by_size(types: list[tuple[float, int, str]], names: list[str]) -> None:
    groups = [
        Group(Type(("A",), size, weight, style), [HERE], 9.0 - number)
        for number, (size, weight, style) in enumerate(types)
    ]
    tokens, unused = named({Sort.TYPE: groups}, {})
    assert [token.name for token in tokens] == names
    assert unused == []


def test_names_are_never_used_twice() -> None:
    colors = ["#c8362a", "#c7362a", "#c8372a", "#c8362b"]
    groups = [Group(color, [HERE], 1.0) for color in colors]
    tokens, unused = named({Sort.COLOR: groups}, {Sort.COLOR: {"red-55": "#123456"}})
    names = [token.name for token in tokens]
    assert len(set(names)) == 4
    assert "red-55" not in names
    assert unused == [(Sort.COLOR, "red-55")]


@pytest.mark.parametrize(
    ("sort", "value", "unit", "css"),
    [(Sort.COLOR, "#33557780", "px", "#33557780"),
     (Sort.SPACE, 24.0, "px", "24px"), (Sort.SPACE, 24.0, "rem", "1.5rem"),
     (Sort.RADIUS, "round", "px", "9999px"),
     (Sort.TYPE, Type(("Fern Sans", "serif"), 20, 600, "italic", 1.5), "px",
      'italic 600 20px/1.5 "Fern Sans", serif'),
     (Sort.SHADOW, (Shadow(0, 4, 12, "#00000033", 2), Shadow(1, -2, 3, "#fff", is_inner=True)), "px",
      "0 4px 12px 2px #00000033, inset 1px -2px 3px #fff")],
)  # fmt: skip
def test_values_are_spelled_as_css_has_them(
    sort: Sort, value: str | float | Type | tuple[Shadow, ...], unit: str, css: str
) -> None:
    assert spelled(sort, value, Scale("rem" if unit == "rem" else "px", density=2)) == css


def test_an_inner_shadow_says_so_in_the_interchange() -> None:
    shadow = (Shadow(0, 1, 2, "#00000080", is_inner=True),)
    token = Token(Sort.SHADOW, "2", shadow, (HERE,))
    data = json.loads(interchange(Tokens(("m",), (token,), (), ())))
    value = data["shadow"]["2"]["$value"]
    assert value["inset"] is True
    assert value["offsetY"] == {"value": 1, "unit": "px"}
    assert value["color"]["alpha"] == pytest.approx(0.502, abs=1e-3)


def test_type_is_said_in_css_pixels() -> None:
    words = LayerText(("a", "b"), ("A",), size=31.0, weight=600, line_step=46.5, letter_spacing=1.0)
    assert type_of(words, 2.0) == Type(("A",), 15.5, 600, "normal", 1.5, 0.5)


@given(st.sets(st.integers(0x20, 0x2FFF), min_size=1, max_size=60))
def test_ranges_hold_just_these(characters: set[int]) -> None:
    found: set[int] = set()
    for part in ranges(characters).split(", "):
        first, _, last = part.removeprefix("U+").partition("-")
        found |= set(range(int(first, 16), int(last or first, 16) + 1))
    assert found == characters


def test_characters_come_from_everything_that_pages_show(tmp_path: Path) -> None:
    root = write_project(
        tmp_path / "p",
        {"pages/index.html": "<p>&hearts; ł {{ site.title }}</p>", "riffler.toml": '[site]\ntitle = "Ω"\n',
         "styles/site.css": 'p::after { content: "\\2192" }'},
    )  # fmt: skip
    (root / "data").mkdir()
    (root / "data/bees.toml").write_text('name = "ß"')
    found = needed(Project.at(root), [], "ž")
    assert set(map(ord, "♥łΩ→ßž")) <= found
    assert found >= COMMON
    assert not any(code < 0x20 for code in found)


def test_a_style_sheet_of_fonts_keeps_hostile_names_in_quotes() -> None:
    (face,) = FontBook((FONTS / "figtree-400.ttf",)).faces()
    facts = facts_of(face)
    named_so = facts_of(face).__class__(
        **{**vars(facts), "face": face.__class__(**{**vars(face), "family": 'A"; } b { x: "'})}
    )
    made = WebFace(named_so, "../fonts/a.woff2", frozenset({65}), fallback_of(facts))
    css = style_sheet([made], "swap")
    assert '"A\\"; } b { x: \\""' in css
    assert f"--font-{slug(named_so.face.family, 'text')}:" in css
    assert css.count("@font-face") == 2


def test_a_line_is_set_as_wide_as_the_font_says() -> None:
    (face,) = FontBook((FONTS / "figtree-600.ttf",)).faces()
    typeface = Typeface.of(face)
    lines = ("Honey jars", "")
    typeface.prepare(lines)
    found = typeface.set("Honey jars", is_spaced=False)
    assert found is not None
    assert len(found.glyphs) == 9  # a space paints nothing
    assert found.counts.tolist() == [0, 1, 2, 3, 4, 6, 7, 8, 9]
    left, top, right, bottom = found.edges
    assert 0 <= left < 0.12
    assert top < -0.6
    assert 0.15 < bottom < 0.3
    assert right == pytest.approx(found.pens[-1], abs=0.6)
    assert typeface.set("", is_spaced=False) is None
    assert typeface.has(("Honey",))
    assert not typeface.has(("☃",))


@pytest.fixture
def project(tmp_path: Path) -> Path:
    layers = [
        Flat("glow", (10, 10, 40, 20), (255, 200, 90, 255), more={"visibility": "hidden"}),
        Flat("=plate", (10, 10, 40, 20), (20, 90, 60, 255)),
        Flat("ground", (0, 0, 120, 80), (244, 234, 214, 255)),
    ]
    cutlist = (
        'mockup = "../mockups/m.ora"\ndensity = 2\n[guides.y]\nfold = 40\n'
        '[slice.plate]\nonly = ["=plate"]\nsave = ["png"]\n[slice.plate.state.hover]\nshow = ["glow"]\n'
    )
    root = write_project(tmp_path / "p", {"cuts/m.toml": cutlist})
    write_ora(root / "mockups/m.ora", (120, 80), layers)
    return root


def test_the_sheet_holds_what_the_project_holds(riffler: Run, project: Path) -> None:
    riffler("cut", cwd=project)
    sheet = cut_sheet(Workspace(Project.at(project)))
    (page,) = sheet.pages
    assert (page.width, page.height, page.density, page.guides) == (
        120,
        80,
        2,
        (("y", "fold", 40),),
    )
    entries = {entry.address: (entry.sort, entry.is_shown) for entry in page.entries}
    assert entries == {
        "glow": ("layer", False), "=plate": ("layer", True), "ground": ("layer", True),
        "plate": ("slice", True),
    }  # fmt: skip
    (plate,) = (entry for entry in page.entries if entry.address == "=plate")
    assert plate.css == (("width", "20px"), ("height", "10px"), ("background", "#145a3c"))
    assert plate.colors == (("green-42", "#145a3c"),)
    (variant,) = page.variants
    assert (variant.layer, variant.name, variant.picture.box) == (
        "glow", "plate, hover", Box(10, 10, 40, 20)
    )  # fmt: skip
    with Image.open(io.BytesIO(variant.picture.data)) as image:
        middle = np.asarray(image.convert("RGB"))[10, 20].astype(int)
    assert np.abs(middle - (255, 200, 90)).max() < 8
    assert [(asset.slice, asset.state, asset.pixels) for asset in sheet.assets] == [
        ("plate", "", (40, 20)), ("plate", "hover", (40, 20))
    ]  # fmt: skip
    rows = packing.lengths(sheet).splitlines()
    assert rows[2] == "m.ora,layer,'=plate,5,5,20,10"  # no formula in a spreadsheet


def test_tall_pictures_go_in_bands(tmp_path: Path) -> None:
    ramp = np.zeros((5000, 8, 4), np.uint8)
    ramp[..., 0] = (np.arange(5000) // 20)[:, None]
    ramp[..., 3] = 255
    path = write_ora(tmp_path / "m.ora", (8, 5000), [Flat("ramp", (0, 0, 8, 5000), pixels=ramp)])
    opened = Workspace().open(path)
    found = list(thumbnails.bands(opened.renderer, opened.mockup.drawn))
    assert [one.box.height for one in found] == [2048, 2048, 904]
    whole = np.concatenate([np.asarray(Image.open(io.BytesIO(one.data))) for one in found])
    assert np.abs(whole[..., 0].astype(int) - ramp[..., 0]).max() <= 6


def test_thumbnails_are_small_and_what_is_no_picture_has_none() -> None:
    found = thumbnails.thumbnail(png(np.full((90, 900, 4), 128, np.uint8)))
    assert found is not None
    assert found.box.size.width == thumbnails.SMALL
    assert thumbnails.thumbnail(b"<svg/>") is None


def test_an_archive_without_a_project(riffler: Run, tmp_path: Path) -> None:
    write_ora(tmp_path / "m.ora", (20, 20), [Flat("a", (0, 0, 20, 20), (9, 90, 9, 255))])
    riffler("sheet", "m.ora", "--zip", "all.zip", cwd=tmp_path)
    with zipfile.ZipFile(tmp_path / "all.zip") as packed:
        assert packed.namelist() == ["README.txt", "cut-sheet.html", "lengths.csv"]
        assert {info.date_time[0] for info in packed.infolist()} == {1980}
    assert not (tmp_path / "cut-sheet.html").exists()
    first = (tmp_path / "all.zip").read_bytes()
    riffler("sheet", "m.ora", "--zip", "all.zip", cwd=tmp_path)  # ours is written again
    assert (tmp_path / "all.zip").read_bytes() == first
    (tmp_path / "all.zip").write_bytes(b"PK mine")
    riffler("sheet", "m.ora", "--zip", "all.zip", cwd=tmp_path, code=2)


def test_a_sheet_of_ours_is_written_again_and_others_stay(riffler: Run, project: Path) -> None:
    riffler("sheet", cwd=project)
    riffler("sheet", cwd=project)
    (project / "cut-sheet.html").write_text("<p>mine</p>")
    assert "not drawn by Riffler" in riffler("sheet", cwd=project, code=2).stderr
    riffler("sheet", "--force", cwd=project)


def test_too_many_drawings_are_refused(riffler: Run, project: Path) -> None:
    (project / "riffler.toml").write_text("[limits]\ndrawings = 2\n")
    for command in ("tokens", "sheet"):
        assert "too many to judge each" in riffler(command, cwd=project, code=2).stderr


def test_pins_in_an_inline_table_are_kept(riffler: Run, project: Path) -> None:
    (project / "riffler.toml").write_text('tokens = { color = { leaf = "#145a3c" } }\n')
    riffler("tokens", "--pin", cwd=project)
    told = json.loads(riffler("tokens", "--json", cwd=project).stdout)["tokens"]
    names = {one["name"]: one["pinned"] for one in told if one["sort"] == "color"}
    assert names["leaf"] is True
    assert all(names.values())


def test_fonts_of_the_system_are_told_apart(riffler: Run, tmp_path: Path) -> None:
    svg = ('<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 90 40"><text y="20" '
           'font-family="Figtree">Bees</text></svg>')  # fmt: skip
    root = write_project(tmp_path / "p", {"cuts/m.toml": 'mockup = "../mockups/m.svg"\n'})
    (root / "mockups/m.svg").write_text(svg)
    before = json.loads(riffler("fonts", "--json", cwd=root).stdout)["faces"][0]
    assert before["found"] in (None, "system")
    (root / "fonts").mkdir()
    shutil.copy(FONTS / "figtree-400.ttf", root / "fonts")
    after = json.loads(riffler("fonts", "--json", cwd=root).stdout)["faces"][0]
    assert (after["found"], after["off"]) == ("project", 0)
