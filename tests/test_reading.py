"""What is understood of drawings, as data: styles measured from pixels against the geometry drawn."""

from __future__ import annotations

from pathlib import Path

import numpy as np
import pytest
from PIL import Image, ImageDraw, ImageFilter, ImageFont

import planning
from making import Flat, Straight, write_ora
from riffler.analyse.fill import Filling, fill_of
from riffler.analyse.lettering import lettering_of
from riffler.analyse.outline import OutlineShape, outline_of
from riffler.analyse.style import Border, Radii, Shadow, Stop, Style
from riffler.color import Pixels, from_bytes
from riffler.geometry import Box
from riffler.reading import clickable, look
from riffler.reading.judgement import Becomes, Evidence, Judgement
from riffler.reading.reading import Reading
from riffler.reading.states import states_of
from riffler.reading.wording import reason
from riffler.workspace import Workspace


def pixels_of(picture: Image.Image | Straight) -> Pixels:
    return from_bytes(np.ascontiguousarray(picture))


def box(width: int, height: int, radii: tuple[int, int, int, int], color: str) -> Image.Image:
    """A box whose corners are rounded one by one, four times as large and then reduced."""
    large = Image.new("L", (4 * width, 4 * height), 255)
    draw = ImageDraw.Draw(large)
    for index, radius in enumerate(radii):
        r = 4 * radius
        if r:
            corner = Image.new("L", (r, r), 0)
            ImageDraw.Draw(corner).pieslice((0, 0, 2 * r, 2 * r), 180, 270, fill=255)
            turned = corner.rotate(-90 * index)
            x = 0 if index in (0, 3) else 4 * width - r
            y = 0 if index in (0, 1) else 4 * height - r
            large.paste(turned, (x, y))
    del draw
    alpha = large.resize((width, height), Image.Resampling.BOX)
    picture = Image.new("RGBA", (width, height), color)
    picture.putalpha(alpha)
    return picture


@pytest.mark.parametrize(
    "radii",
    [
        (0, 0, 0, 0),
        (12, 12, 12, 12),
        (20, 20, 0, 0),
        (0, 16, 16, 0),
        (6, 24, 12, 30),
        (40, 40, 40, 40),
    ],
)
def test_corners_are_measured_one_by_one(radii: tuple[int, int, int, int]) -> None:
    outline = outline_of(pixels_of(box(160, 80, radii, "#336")))
    assert outline is not None
    assert outline.shape is (OutlineShape.ROUNDED if any(radii) else OutlineShape.RECTANGLE)
    assert np.abs(np.subtract(outline.radii.listed, radii)).max() < 1.5
    assert outline.radii.is_one is (len(set(radii)) == 1)
    assert outline.shadow is None
    assert not outline.has_glow


@pytest.mark.parametrize("offset", [(0, 0), (0, 8), (6, -4)])
@pytest.mark.parametrize("blur", [8, 16])
def test_shadows_are_measured_by_how_far_they_reach(offset: tuple[int, int], blur: int) -> None:
    canvas = Image.new("RGBA", (240, 200))
    shade = Image.new("RGBA", canvas.size, (10, 20, 60, 0))
    ImageDraw.Draw(shade).rectangle(
        (60 + offset[0], 60 + offset[1], 179 + offset[0], 139 + offset[1]), fill=(10, 20, 60, 128)
    )
    # CSS Backgrounds and Borders 3, section 7.2: a Gaussian of half the blur radius
    canvas.alpha_composite(shade.filter(ImageFilter.GaussianBlur(blur / 2)))
    ImageDraw.Draw(canvas).rectangle((60, 60, 179, 139), fill=(250, 250, 240, 255))
    outline = outline_of(pixels_of(canvas))
    assert outline is not None
    assert outline.box == Box(60, 60, 120, 80)
    assert outline.shadow is not None
    shadow = outline.shadow
    assert abs(shadow.x - offset[0]) <= 1
    assert abs(shadow.y - offset[1]) <= 1
    assert abs(shadow.blur - blur) <= 0.25 * blur
    assert shadow.color.startswith("#0a14") or shadow.color.startswith("#0a15")


def ramp(stops: dict[float, tuple[int, int, int]], across: bool) -> Pixels:
    places = np.linspace(0, 1, 100)
    line = np.stack(
        [np.interp(places, list(stops), [c[n] for c in stops.values()]) for n in range(3)], axis=1
    )
    rows = np.tile(line[:, None], (1, 60, 1))
    opaque = np.full((100, 60, 1), 255.0)
    straight = np.dstack((rows, opaque)).round().astype(np.uint8)
    return pixels_of(straight.transpose(1, 0, 2) if across else straight)


@pytest.mark.parametrize("across", [False, True])
@pytest.mark.parametrize(
    "stops",
    [
        {0.0: (20, 40, 60), 1.0: (220, 200, 180)},
        {0.0: (20, 40, 60), 0.3: (200, 40, 60), 1.0: (220, 200, 180)},
        {0.0: (0, 0, 0), 0.25: (200, 0, 0), 0.75: (0, 200, 0), 1.0: (0, 0, 200)},
    ],
)
def test_gradients_are_measured_stop_by_stop(
    stops: dict[float, tuple[int, int, int]], across: bool
) -> None:
    fill = fill_of(ramp(stops, across))
    assert fill.filling is Filling.GRADIENT
    assert fill.angle == (90 if across else 180)
    assert len(fill.stops) == len(stops)
    for found, (position, color) in zip(fill.stops, stops.items(), strict=True):
        assert abs(found.position - position) <= 0.02
        value = [int(found.color[at : at + 2], 16) for at in (1, 3, 5)]
        assert np.abs(np.subtract(value, color)).max() <= 5
    assert fill.colors == (fill.stops[0].color, fill.stops[-1].color)


@pytest.mark.parametrize("width", [1, 2, 3])
def test_borders_are_measured(width: int) -> None:
    picture = Image.new("RGBA", (90, 60), "#804020")
    ImageDraw.Draw(picture).rectangle((width, width, 89 - width, 59 - width), fill="#f0e0d0")
    fill = fill_of(pixels_of(picture), rim=3)
    assert (fill.filling, fill.colors) == (Filling.FLAT, ("#f0e0d0",))
    assert fill.border is not None
    assert fill.border.color == "#804020"
    assert abs(fill.border.width - width) < 0.2
    assert fill_of(pixels_of(Image.new("RGBA", (90, 60), "#804020")), rim=3).border is None


@pytest.mark.parametrize("lines, step", [(1, None), (2, 30), (4, 26)])
def test_lines_of_letters_are_measured(lines: int, step: int | None) -> None:
    font = ImageFont.load_default(20)
    picture = Image.new("RGBA", (260, 140), (120, 30, 20, 0))
    draw = ImageDraw.Draw(picture)
    for index in range(lines):
        draw.text((6, 4 + index * (step or 0)), "Honeycombs nearby", fill=(120, 30, 20), font=font)
    found = lettering_of(pixels_of(picture))
    assert found is not None
    assert len(found.lines) == lines
    assert found.line_step == (None if step is None else pytest.approx(step, abs=1))
    top, bottom = (font.getbbox(letter)[1] for letter in "xx")
    x_height = font.getbbox("x")[3] - font.getbbox("x")[1]
    assert top == bottom
    assert x_height - 1.5 <= found.height <= 1.7 * x_height
    assert found.color == "#781e14"
    moved = found.moved(100, 50)
    assert moved.lines[0] == found.lines[0].moved(100, 50)


@pytest.fixture(scope="module")
def reading(tmp_path_factory: pytest.TempPathFactory) -> Reading:
    """A page of one drawing of every kind, on a ground that repeats."""
    tile = planning.noise(3, 60, 40, 3.0, wrap=True)
    shown: list[Flat] = [
        planning.text("label", 20, 20, "Honey and hives"),
        Flat("pill", (20, 60, 160, 80), pixels=np.asarray(box(160, 80, (20, 20, 0, 0), "#336"))),
        Flat("nothing", (0, 0, 40, 40), (0, 0, 0, 0)),
        Flat("veil", (0, 300, 60, 60), (90, 90, 90, 9)),
        planning.shape("odd", 300, 60, "#a33", (0, 0), (39, 0), (0, 39)),
        planning.photo("photo", 220, 160, 90, 60),
        Flat("", inside=[planning.photo("", 365, 65, 20, 20), planning.shape("", 360, 60, "#3a3")]),
        Flat("ground", (0, 0, 480, 400), pixels=np.tile(tile, (10, 8, 1))),
    ]
    path = write_ora(tmp_path_factory.mktemp("m") / "m.ora", (480, 400), shown)
    return Reading(Workspace().open(path).renderer, 2.0)


@pytest.mark.parametrize(
    "address, becomes, evidence, said",
    [
        ("label", Becomes.WORDS, Evidence.TEXT, "text"),
        ("pill", Becomes.CSS, Evidence.STYLE, "flat colour #333366, rounded 10 10 0 0 px"),
        ("nothing", Becomes.NOTHING, Evidence.EMPTY, "empty"),
        ("veil", Becomes.PICTURE, Evidence.VEIL, "a faint veil"),
        ("odd", Becomes.PICTURE, Evidence.ODD_SHAPE,
         "odd shape in one colour: vector or small picture"),
        ("photo", Becomes.PICTURE, Evidence.RICH, "photo, or as rich as one"),
        ("group#1", Becomes.PICTURE, Evidence.SHAPES, "a drawing of 2 shapes"),
        ("ground", Becomes.TILE, Evidence.PERIOD, "texture that repeats every 60 x 40 px"),
    ],
)  # fmt: skip
def test_every_drawing_is_judged_with_its_evidence(
    reading: Reading, address: str, becomes: Becomes, evidence: Evidence, said: str
) -> None:
    judgement = reading.judgement(reading.mockup.by_address[address])
    assert (judgement.becomes, judgement.evidence) == (becomes, evidence)
    assert reason(judgement, reading.density) == said
    assert judgement is reading.judgement(reading.mockup.by_address[address])
    assert (judgement.style is not None) is (becomes is Becomes.CSS)
    assert (judgement.text is not None) is (becomes is Becomes.WORDS)
    assert judgement.period == ((60, 40) if becomes is Becomes.TILE else None)
    assert judgement.is_round is (address == "pill")
    assert judgement.is_rectangle is (address in ("pill", "photo", "group#1", "ground"))


def test_what_is_measured_is_in_mockup_pixels(reading: Reading) -> None:
    style = reading.judgement(reading.mockup.by_address["pill"]).style
    assert style is not None
    assert style.radii is not None
    assert np.abs(np.subtract(style.radii.listed, (20, 20, 0, 0))).max() < 1
    text = reading.judgement(reading.mockup.by_address["label"]).text
    assert text is not None
    label = reading.mockup.by_address["label"].box
    assert label is not None
    assert label.contains(text.lines[0])
    assert text.lines[0].x >= 20


@pytest.mark.parametrize(
    "style, said",
    [
        (Style((Stop(0, "#112233"),)), "flat colour #112233"),
        (Style((Stop(0, "#112233"),), radii=None), "flat colour #112233, an ellipse"),
        (Style((Stop(0, "#000000"), Stop(0.4, "#999999"), Stop(1, "#ffffff")), 90),
         "gradient at 90 degrees, #000000 0 %, #999999 40 %, #ffffff 100 %"),
        (Style((Stop(0, "#112233"),), radii=Radii(8, 8, 8, 8), border=Border("#445566", 2)),
         "flat colour #112233, rounded 4 px, border 1 px #445566"),
        (Style((Stop(0, "#112233"),), shadows=(Shadow(0, 2, 8, "#000000"),), blend="multiply"),
         "flat colour #112233, shadow 0 1 4 px #000000, blended with multiply"),
    ],
)  # fmt: skip
def test_styles_in_words(style: Style, said: str) -> None:
    assert reason(Judgement(Becomes.CSS, Evidence.STYLE, style=style), 2.0) == said
    doubled = style.scaled(2)
    assert doubled.scaled(0.5) == style
    assert doubled.stops == style.stops
    if style.border is not None and doubled.border is not None:
        assert doubled.border.width == 2 * style.border.width


def test_things_to_click_and_their_states(tmp_path: Path) -> None:
    hidden = {"visibility": "hidden"}

    def tab(name: str, x: int, *, is_current: bool) -> Flat:
        return Flat(name, inside=[
            planning.text("label", x + 10, 12, "Visit", 16),
            Flat("glow", (x, 0, 80, 40), (200, 200, 90, 120), more=hidden),
            Flat("marker", (x, 36, 80, 4), (200, 30, 30, 255), more={} if is_current else hidden),
        ])  # fmt: skip

    layers = [
        Flat("nav", inside=[
            *(tab(f"tab-{n}", 20 + 90 * n, is_current=n == 0) for n in range(3)),
            Flat("bar", (0, 0, 400, 40), (40, 30, 20, 255)),
        ]),
        Flat("go", inside=[
            planning.text("say", 46, 102, "Go", 16),
            planning.rounded("plate", 20, 90, 80, 40, 12),
        ]),
        Flat("over", (20, 90, 80, 40), (9, 9, 9, 90), more=hidden),
        Flat("logo", inside=[planning.photo("art", 320, 60, 60, 60)]),
        Flat("ground", (0, 0, 400, 200), (240, 236, 228, 255)),
    ]  # fmt: skip
    path = write_ora(tmp_path / "m.ora", (400, 200), layers)
    found = clickable.find(Reading(Workspace().open(path).renderer, 1.0))
    assert [(one.layer.address, one.kind) for one in found.clickables] == [
        ("nav/tab-0", "tab"), ("nav/tab-1", "tab"), ("nav/tab-2", "tab"), ("logo", "logo"),
        ("go", "button"),
    ]  # fmt: skip
    row = found.rows[0]
    assert (row.kind, len(row.members), row.lattice.step) == ("tabs", 3, (90, 0))
    assert {one.height for one in row.boxes} == {40}
    assert row.bar is not None
    assert row.bar.name == "bar"
    reading = Reading(Workspace().open(path).renderer, 1.0)
    states = [states_of(reading, one, row.members) for one in found.clickables]
    assert states[0].show == {"hover": ["nav/tab-0/glow"], "current": ["nav/tab-0/marker"]}
    assert states[0].hide_at_rest == ["nav/tab-0/marker"]
    assert states[1].hide_at_rest == []
    assert states[4].show == {"hover": ["over"]}
    assert set(found.inside) >= {"nav/tab-1/label", "go/plate", "logo/art"}


def test_a_first_look_is_data(tmp_path: Path) -> None:
    columns = [
        Flat(f"col-{n}", (40 + 240 * n, 100, 220, 60), (9 * n, 30, 30, 255)) for n in range(4)
    ]
    path = write_ora(
        tmp_path / "m.ora", (1020, 400), [*columns, Flat("g", (0, 0, 1020, 400), (9, 9, 9, 255))]
    )
    opened = Workspace().open(path)
    seen = look.look(opened)
    assert (seen.size.width, seen.density, seen.merged) == (1020, None, None)
    assert [layer.address for layer in seen.layers] == ["col-0", "col-1", "col-2", "col-3", "g"]
    assert seen.layers[1].box == Box(280, 100, 220, 60)
    there = look.point(opened, 290, 110)
    assert (there.color, [hit.address for hit in there.layers]) == ("#091e1e", ["col-1", "g"])
    grid = look.grid(opened)
    assert grid is not None
    assert (grid.columns, grid.column, grid.gutter, grid.left, grid.right) == (4, 220, 20, 40, 40)
    assert grid.parts == {"1/4": ("col-0", "col-1", "col-2", "col-3")}
    assert grid.whole == 60  # twelve columns with the same gutter: (940 - 11 * 20) / 12
    assert look.fonts(opened) == ()
