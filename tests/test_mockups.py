"""Reading mockups: every kind of picture, words, canvases, boxes; and what `look` says of them."""

from __future__ import annotations

import io
import itertools
import json
import struct
import zlib
from fractions import Fraction
from pathlib import Path

import numpy as np
import pytest
from PIL import Image, ImageCms

from conftest import Run
from making import Flat, png, write_ora, write_project
from riffler.analyse.grid import find_grid
from riffler.color import to_bytes
from riffler.geometry import Box
from riffler.mockup.opening import open_mockup
from riffler.mockup.svg import document
from riffler.mockup.svg.hull import hull
from riffler.project.limits import DEFAULT_LIMITS
from riffler.render.decode import decode
from riffler.render.renderer import open_renderer


def raw_png(depth: int, kind: int, samples: list[int], *chunks: tuple[bytes, bytes]) -> bytes:
    """A PNG of one row from its samples, uncompressed filters; PNG 3rd edition, section 11."""
    channels = {0: 1, 2: 3, 3: 1, 4: 2, 6: 4}[kind]
    bits = "".join(f"{sample:0{depth}b}" for sample in samples)
    bits += "0" * (-len(bits) % 8)
    row = b"\0" + int(bits, 2).to_bytes(len(bits) // 8, "big")
    header = struct.pack(">IIBBBBB", len(samples) // channels, 1, depth, kind, 0, 0, 0)
    parts = [(b"IHDR", header), *chunks, (b"IDAT", zlib.compress(row)), (b"IEND", b"")]
    body = b"".join(
        struct.pack(">I", len(data)) + name + data + struct.pack(">I", zlib.crc32(name + data))
        for name, data in parts
    )
    return b"\x89PNG\r\n\x1a\n" + body


def deep(*values: int) -> bytes:
    return struct.pack(f">{len(values)}H", *values)


PALETTE = (b"PLTE", bytes([255, 0, 0, 0, 255, 0, 0, 0, 255]))
Case = tuple[int, int, list[int], tuple[tuple[bytes, bytes], ...], list[tuple[int, ...] | None]]
CASES: dict[str, Case] = {
    "grey 1": (1, 0, [0, 1], (), [(0, 0, 0, 255), (255, 255, 255, 255)]),
    "grey 2": (2, 0, [1, 2], (), [(85, 85, 85, 255), (170, 170, 170, 255)]),
    "grey 4": (4, 0, [3, 15], (), [(51, 51, 51, 255), (255, 255, 255, 255)]),
    "grey 8": (8, 0, [7, 200], (), [(7, 7, 7, 255), (200, 200, 200, 255)]),
    "grey 16": (16, 0, [257 * 9, 65535], (), [(9, 9, 9, 255), (255, 255, 255, 255)]),
    "grey 1 clear": (1, 0, [0, 1], ((b"tRNS", deep(1)),), [(0, 0, 0, 255), None]),
    "grey 2 clear": (2, 0, [1, 2], ((b"tRNS", deep(2)),), [(85, 85, 85, 255), None]),
    "grey 4 clear": (4, 0, [3, 5], ((b"tRNS", deep(3)),), [None, (85, 85, 85, 255)]),
    "grey 8 clear": (8, 0, [7, 200], ((b"tRNS", deep(7)),), [None, (200, 200, 200, 255)]),
    "grey 16 clear": (16, 0, [514, 65535], ((b"tRNS", deep(514)),), [None, (255, 255, 255, 255)]),
    "colour 8": (8, 2, [1, 2, 3], (), [(1, 2, 3, 255)]),
    "colour 16": (16, 2, [257, 514, 771], (), [(1, 2, 3, 255)]),
    "colour 8 clear": (8, 2, [1, 2, 3, 9, 9, 9], ((b"tRNS", deep(1, 2, 3)),), [None, (9, 9, 9, 255)]),
    "colour 16 clear": (
        16, 2, [257, 514, 771, 2313, 2313, 2313], ((b"tRNS", deep(257, 514, 771)),),
        [None, (9, 9, 9, 255)],
    ),
    "palette 1": (1, 3, [0, 1], (PALETTE,), [(255, 0, 0, 255), (0, 255, 0, 255)]),
    "palette 2": (2, 3, [2, 0], (PALETTE,), [(0, 0, 255, 255), (255, 0, 0, 255)]),
    "palette 4": (4, 3, [2, 1], (PALETTE,), [(0, 0, 255, 255), (0, 255, 0, 255)]),
    "palette 8": (8, 3, [1], (PALETTE,), [(0, 255, 0, 255)]),
    "palette alpha": (8, 3, [1, 2], (PALETTE, (b"tRNS", b"\xff\x80")), [(0, 255, 0, 128), (0, 0, 255, 255)]),
    "grey alpha 8": (8, 4, [9, 128], (), [(9, 9, 9, 128)]),
    "grey alpha 16": (16, 4, [2313, 128 * 257], (), [(9, 9, 9, 128)]),
    "colour alpha 8": (8, 6, [1, 2, 3, 4], (), [(1, 2, 3, 4)]),
    "colour alpha 16": (16, 6, [257, 514, 771, 1028], (), [(1, 2, 3, 4)]),
}  # fmt: skip


@pytest.mark.parametrize("case", CASES)
def test_every_colour_type_and_depth(case: str) -> None:
    depth, kind, samples, chunks, expected = CASES[case]
    pixels = decode(raw_png(depth, kind, samples, *chunks), "it", DEFAULT_LIMITS)[0]
    for pixel, wanted in zip(pixels, expected, strict=True):
        if wanted is None:
            assert pixel[3] == 0
        else:
            assert np.abs(pixel.astype(int) - wanted).max() <= 1


def test_gamma_and_profiles_become_srgb() -> None:
    linear = raw_png(8, 2, [128, 128, 128], (b"gAMA", struct.pack(">I", 100_000)))
    # half the light, encoded: 255 (1.055 x (128/255)^(1/2.4) - 0.055) = 188
    assert decode(linear, "it", DEFAULT_LIMITS)[0, 0].tolist() == [188, 188, 188, 255]
    usual = raw_png(8, 2, [128, 0, 9], (b"gAMA", struct.pack(">I", 45455)))
    assert decode(usual, "it", DEFAULT_LIMITS)[0, 0].tolist() == [128, 0, 9, 255]
    lab = ImageCms.ImageCmsProfile(ImageCms.createProfile("XYZ")).tobytes()
    for profile, same in (
        (ImageCms.ImageCmsProfile(ImageCms.createProfile("sRGB")).tobytes(), True),
        (lab, False),
        (b"no profile at all", True),
    ):
        out = io.BytesIO()
        Image.new("RGBA", (2, 1), (200, 100, 50, 128)).save(out, "PNG", icc_profile=profile)
        pixel = decode(out.getvalue(), "it", DEFAULT_LIMITS)[0, 0].tolist()
        assert pixel[3] == 128
        assert (pixel[:3] == [200, 100, 50]) or not same


@pytest.mark.parametrize(
    "form, mode",
    [
        ("PNG", "RGBA"),
        ("JPEG", "RGB"),
        ("JPEG", "CMYK"),
        ("WEBP", "RGB"),
        ("TIFF", "RGBA"),
        ("TIFF", "L"),
    ],
)
def test_flat_pictures_upright(tmp_path: Path, form: str, mode: str) -> None:
    picture = Image.new("RGB", (40, 20), "red")
    picture.paste((0, 0, 255), (0, 0, 20, 20))
    exif = Image.Exif()
    exif[0x0112] = 6  # to be turned a quarter to the right: the left side is the top
    path = tmp_path / f"photo.{form.lower()}"
    picture.convert(mode).save(path, form, exif=exif, **({"quality": 95} if form != "TIFF" else {}))
    mockup = open_mockup(path)
    assert (mockup.size.width, mockup.size.height) == (20, 40)
    assert [layer.address for layer in mockup.walk()] == ["photo"]
    pixels = to_bytes(open_renderer(mockup).render(mockup.box, 1.0, mockup.drawn)).astype(int)
    top, bottom = pixels[8, 10], pixels[32, 10]
    if mode == "L":
        assert abs(top[0] - 29) < 3  # 0.114 of blue
        assert abs(bottom[0] - 76) < 3  # 0.299 of red
    else:
        assert top[2] > top[0] + 80
        assert bottom[0] > bottom[2] + 80


SVG = '<svg xmlns="http://www.w3.org/2000/svg" xmlns:d="urn:d" {}>{}</svg>'


@pytest.mark.parametrize(
    "attributes, size",
    [
        ('width="30" height="20"', (30, 20)),
        ('width="1in" height="0.5in"', (96, 48)),
        ('width="25.4mm" height="2.54cm"', (96, 96)),
        ('width="72pt" height="6pc"', (96, 96)),
        ('viewBox="0 0 31 17"', (31, 17)),
        ('viewBox="5 5 30 20" width="60"', (60, 40)),
        ('viewBox="0 0 30 20" width="100%" height="50%"', (30, 10)),
        ('width="10.2" height="9.5"', (11, 10)),
        ("", (300, 150)),
    ],
)  # fmt: skip
def test_sizes_in_every_unit(tmp_path: Path, attributes: str, size: tuple[int, int]) -> None:
    (tmp_path / "m.svg").write_text(SVG.format(attributes, "<rect width='9' height='9'/>"))
    mockup = open_mockup(tmp_path / "m.svg")
    assert (mockup.size.width, mockup.size.height) == size


def test_names_and_kinds_as_programs_write_them(tmp_path: Path) -> None:
    body = (
        '<rect id="a1" d:label="Plate &amp; shadow"/><g><title>Nav</title><rect id="x"/></g>'
        '<circle r="1" aria-label="Dot"/><text id="t">Hi</text><image id="photo"/><path d="M0 0"/>'
        '<switch><g systemLanguage="de"><rect id="de"/></g><g><rect id="en"/></g></switch>'
        '<d:view><d:rect id="own"/></d:view><d:path id="effect"/>'
        "<defs><rect id='unseen'/></defs><symbol id='s'/><use href='#s'/><a id='link'><rect/></a>"
    )
    (tmp_path / "m.svg").write_text(SVG.format('width="9" height="9"', body))
    assert [(layer.address, str(layer.kind)) for layer in open_mockup(tmp_path / "m.svg").walk()] == [
        ("link", "group"), ("link/vector#1", "vector"), ("vector#1", "vector"),
        ("group#1", "group"), ("group#1/group#1", "group"), ("group#1/group#1/en", "vector"),
        ("vector#2", "vector"), ("photo", "pixels"), ("t", "words"), ("Dot", "vector"),
        ("Nav", "group"), ("Nav/x", "vector"), ("Plate & shadow", "vector"),
    ]  # fmt: skip


def test_a_drawing_without_a_namespace_is_drawn(tmp_path: Path) -> None:
    (tmp_path / "m.svg").write_text(
        '<svg width="9" height="9"><rect id="r" width="4" height="9"/></svg>'
    )
    mockup = open_mockup(tmp_path / "m.svg")
    alpha = open_renderer(mockup).render(mockup.box, 1.0, mockup.drawn)[..., 3]
    assert alpha.sum() == 36


@pytest.mark.parametrize(
    "body, red",
    [
        ('<path d="M0 10h20" stroke="red" stroke-width="6pt"/>', 160),  # 8 px; CSS Values 3, 6.2
        ('<path d="M0 10h20" stroke="red" stroke-width="0.125in"/>', 240),
        ('<rect width="5" height="4" fill="red" style="fill: color(display-p3 0 1 0)"/>', 20),
        ('<style>rect { fill: red } rect { fill: nosuch }</style><rect width="5" height="4"/>', 20),
        ('<g fill="red"><rect width="5" height="4" fill="lab(50 9 9)"/></g>', 20),
        ('<style>g { fill: blue !important }</style><g style="fill: red !important"><path d="M0 0h5v4h-5"/></g>', 20),
    ],
)  # fmt: skip
def test_lengths_and_colours_inside_a_drawing(tmp_path: Path, body: str, red: int) -> None:
    (tmp_path / "m.svg").write_text(SVG.format('width="20" height="20"', body))
    mockup = open_mockup(tmp_path / "m.svg")
    pixels = open_renderer(mockup).render(mockup.box, 1.0, mockup.drawn)
    assert (pixels[..., 0].sum(), pixels[..., 1:3].sum()) == (red, 0)


def test_words_as_data(tmp_path: Path) -> None:
    body = (
        '<g transform="scale(2)" style="font-family: \'Some Serif\', serif; fill: #336699">'
        '<text id="a" x="5" y="20" font-size="10" font-weight="bold" letter-spacing=".5">'
        '<tspan x="5">Two  hives</tspan><tspan x="5" dy="15">and <tspan font-style="italic">a</tspan>'
        ' jar</tspan></text></g><text id="b" y="9" style="font: 1em x; font-size: 150%" '
        'text-anchor="middle" fill="teal">One</text><text id="c"/>'
        '<text id="d" xml:space="preserve"><tspan y="9">Kept  as it is&#10;</tspan><tspan y="29">too</tspan></text>'
    )
    (tmp_path / "m.svg").write_text(SVG.format('width="200" height="90"', body))
    layers = open_mockup(tmp_path / "m.svg").by_address
    a, b = layers["group#1/a"].words, layers["b"].words
    assert a is not None
    assert b is not None
    assert a.lines == ("Two hives", "and a jar")
    assert a.families == ("Some Serif", "serif")
    assert (a.size, a.weight, a.letter_spacing, a.line_step) == (20, 700, 1, 30)
    assert (a.color, a.anchor) == ("#336699", "start")
    assert (b.lines, b.size, b.anchor, b.color) == (("One",), 24, "middle", "#008080")
    assert b.line_step is None
    kept = layers["d"].words
    assert kept is not None
    assert (kept.lines, kept.line_step) == (("Kept  as it is", "too"), 20)


def test_several_canvases_by_name(riffler: Run, tmp_path: Path) -> None:
    body = (
        '<view id="wide" viewBox="0 0 60 40"/><view id="phone" viewBox="100 10 20 30"/>'
        '<rect id="r" x="95" y="12" width="10" height="5" fill="red"/>'
    )
    (tmp_path / "m.svg").write_text(
        SVG.format('width="240" height="80" viewBox="0 0 120 40"', body)
    )
    said = riffler("look", "m.svg").stdout
    assert 'Canvases: "wide", "phone".' in said
    phone = open_mockup(tmp_path / "m.svg", canvas="phone")
    assert (phone.size.width, phone.size.height, phone.origin) == (40, 60, (200, 20))
    pixels = open_renderer(phone).render(Box(-20, 0, 60, 60), 1.0, phone.drawn)
    columns = np.flatnonzero(pixels[..., 3].any(axis=0))
    assert (columns[0], columns[-1]) == (20, 29)  # the part on the canvas: x 100..105, by two
    assert 'Did you mean "phone"' in riffler("look", "m.svg", "--canvas", "phne", code=2).stderr


def test_look_at_a_point(riffler: Run, tmp_path: Path) -> None:
    layers = [
        Flat("lid", (0, 0, 10, 10), (0, 0, 255, 255), more={"visibility": "hidden"}),
        Flat("g", inside=[Flat("red", (5, 5, 10, 10), (255, 0, 0, 128))], more={"opacity": "0.5"}),
        Flat("away", (15, 0, 5, 5), (9, 9, 9, 255)),
        Flat("ground", (0, 0, 20, 20), (255, 255, 255, 255)),
    ]
    write_ora(tmp_path / "m.ora", (20, 20), layers)
    data = json.loads(riffler("look", "m.ora", "--at", "6, 6", "--json").stdout)
    # red at 128/255 by half a group on white: 255 (1 - 0.251) = 191
    assert data["at"] == {
        "x": 6, "y": 6, "color": "#ffbfbf",
        "layers": [
            {"address": "lid", "color": "#0000ff", "kind": "pixels", "shown": False},
            {"address": "g/red", "color": "#ff000040", "kind": "pixels", "shown": True},
            {"address": "ground", "color": "#ffffff", "kind": "pixels", "shown": True},
        ],
    }  # fmt: skip
    assert "2 layers" in riffler("look", "m.ora", "--at", "6,6").stdout
    assert "outside the canvas" in riffler("look", "m.ora", "--at", "20,0", code=2).stderr
    assert "no pixel" in riffler("look", "m.ora", "--at", "6", code=2).stderr


def test_look_at_fonts_and_picture(riffler: Run, built: Path, tmp_path: Path) -> None:
    used = json.loads(riffler("look", built / "mockups/hives.svg", "--fonts", "--json").stdout)[
        "fonts"
    ]
    assert [(u["family"], u["weights"], u["found"]) for u in used] == [
        ("Figtree", [400, 600], "project"), ("Fraunces", [400, 600], "project"),
    ]  # fmt: skip
    text = '<text font-family="No Such Serif, serif">four words of text</text><text>one</text>'
    write_project(tmp_path / "p", {})
    (tmp_path / "p/mockups/m.svg").write_text(SVG.format('width="9" height="9"', text))
    said = riffler("look", "mockups/m.svg", cwd=tmp_path / "p").stdout
    assert "Missing fonts: No Such Serif, (none named)." in said
    (tmp_path / "p/fonts").mkdir()
    for name in ("figtree-400.ttf", "fraunces-600.ttf"):
        (tmp_path / "p/fonts" / name).write_bytes((built / "fonts" / name).read_bytes())
    used = json.loads(
        riffler("look", "mockups/m.svg", "--fonts", "--json", cwd=tmp_path / "p").stdout
    )["fonts"]
    assert used[0] == {"family": "No Such Serif", "weights": [400], "words": 4, "layers": 1,
                       "found": None, "drawn_with": "Figtree"}  # fmt: skip
    riffler("look", built / "mockups/hives.svg", "--picture", "sheet.png")
    with Image.open(tmp_path / "sheet.png") as sheet:
        assert sheet.width == 1280
        assert len(sheet.convert("RGB").getcolors(1 << 20) or []) > 1000


def test_the_merged_picture_is_compared(riffler: Run, tmp_path: Path) -> None:
    red = np.full((20, 20, 4), (255, 0, 0, 255), np.uint8)
    other = red.copy()
    other[5:10, 2:6] = (0, 0, 0, 255)
    for name, merged, expected in (
        ("same", red, {"furthest": 0, "share": 0, "place": None}),
        (
            "other",
            other,
            {"furthest": 255, "share": 0.05, "place": {"x": 2, "y": 5, "width": 4, "height": 5}},
        ),
    ):
        out = io.BytesIO()
        Image.fromarray(merged).save(out, "PNG")
        write_ora(tmp_path / f"{name}.ora", (20, 20), [Flat("r", (0, 0, 20, 20), (255, 0, 0, 255))],
                  **{"mergedimage.png": out.getvalue()})  # fmt: skip
        assert json.loads(riffler("look", f"{name}.ora", "--json").stdout)["merged"] == expected
    assert (
        "differs from these layers by up to 255 of 255 in 5 %"
        in riffler("look", "other.ora").stdout
    )


def test_what_programs_add_to_the_standard(riffler: Run, tmp_path: Path) -> None:
    more = {"composite-op": "own:swirl", "own-selected": "true", "x": "1.6", "opacity": "7"}
    stack_more = {"own-collapsed": "true", "x": "2", "y": "3"}
    inner = Flat("a", (0, 0, 4, 4), (255, 0, 0, 255), more=more)
    path = write_ora(tmp_path / "m.ora", (20, 20), [Flat("g", inside=[inner], more=stack_more)])
    assert "own:swirl: unknown, drawn as normal" in riffler("look", "m.ora").stdout
    mockup = open_mockup(path)
    pixels = open_renderer(mockup).render(mockup.box, 1.0, mockup.drawn)
    rows, columns = (
        np.flatnonzero(pixels[..., 3].any(axis=1)),
        np.flatnonzero(pixels[..., 3].any(axis=0)),
    )
    assert (rows[0], rows[-1], columns[0], columns[-1]) == (3, 6, 4, 7)  # offsets add up: 2 + 1.6
    assert pixels.max() == 1


@pytest.mark.parametrize(
    "said, kept", [("/a.png", "a.png"), ("./a.png", "/a.png"), ("a.png", "./a.png")]
)
def test_slashes_before_names_mean_nothing(tmp_path: Path, said: str, kept: str) -> None:
    red = np.full((4, 4, 4), 255, np.uint8)
    stack = f'<image w="4" h="4"><stack><layer src="{said}"/></stack></image>'.encode()
    path = write_ora(tmp_path / "m.ora", (4, 4), [], stack=stack, **{kept: png(red)})
    mockup = open_mockup(path)
    assert open_renderer(mockup).render(mockup.box, 1.0, mockup.drawn).min() == 1


def test_a_damaged_layer_is_not_cut_with_blank_rows(riffler: Run, tmp_path: Path) -> None:
    whole = png(np.random.default_rng(1).integers(0, 256, (40, 40, 4), np.uint8))
    at = whole.index(b"IEND") - 8  # the last byte of the checksum before it
    damaged = whole[: at + 3] + bytes([whole[at + 3] ^ 1]) + whole[at + 4 :]
    stack = b'<image w="40" h="40"><stack><layer name="a" src="a.png"/></stack></image>'
    write_ora(tmp_path / "m.ora", (40, 40), [], stack=stack, **{"a.png": damaged})
    said = riffler("cut", "m.ora", "-o", "a.webp", cwd=tmp_path, code=2).stderr
    assert "checksum" in said


def test_an_svg_can_be_a_layer_of_pixels(riffler: Run, tmp_path: Path) -> None:
    drawing = SVG.format(
        'width="8" height="6"', '<rect width="4" height="6" fill="#0f0"/>'
    ).encode()
    stack = (
        b'<image w="20" h="20"><stack><layer name="v" src="v.svg" x="3" y="-2"/></stack></image>'
    )
    write_ora(tmp_path / "m.ora", (20, 20), [], stack=stack, **{"v.svg": drawing})
    riffler("cut", "m.ora", "--only", "v", "-o", "v.png")
    with Image.open(tmp_path / "v.png") as picture:
        assert picture.size == (4, 4)
        assert picture.convert("RGBA").getcolors() == [(16, (0, 255, 0, 255))]


@pytest.mark.parametrize(
    "columns, gutter, margin, density",
    [(12, 20, 40, 1), (12, 48, 80, 2), (4, 16, 30, 1), (5, 16, 24, 1)],
)
def test_a_column_grid_is_found(columns: int, gutter: int, margin: int, density: int) -> None:
    width = 2 * margin + (columns - 1) * gutter + columns * 50 * density
    step = 50 * density + gutter
    spans = [
        (a, b)
        for a, b in itertools.product(range(columns), range(1, columns + 1))
        if a + b <= columns
    ]
    boxes = [
        Box(margin + a * step, 0, b * step - gutter, 9)
        for a, b in spans[:: max(1, len(spans) // 14)]
    ]
    boxes += [Box(margin + 7 * index, 0, 11, 9) for index in range(5)]
    grid = find_grid(boxes, width, density)
    assert grid is not None
    assert (grid.columns, grid.column, grid.gutter, grid.left) == (
        columns,
        50 * density,
        gutter,
        margin,
    )
    assert grid.certainty in ("sure", "a guess")
    half = Box(margin, 0, width - 2 * margin, 9)
    assert grid.share(half) == Fraction(1)
    assert grid.share(Box(margin + 9, 0, 60, 9)) is None


def test_no_grid_is_made_up() -> None:
    chance = np.random.default_rng(4)
    for _ in range(10):
        lefts, widths = chance.integers(0, 800, 20), chance.integers(20, 160, 20)
        grid = find_grid(
            [Box(int(x), 0, int(w), 9) for x, w in zip(lefts, widths, strict=True)], 960
        )
        assert grid is None or grid.certainty == "a guess"


@pytest.mark.parametrize(
    "element, expected",
    [
        ('<rect x="10" y="20" width="30" height="8"/>', (10, 20, 40, 28)),
        (
            '<rect x="10" y="20" width="30" height="8" transform="translate(5 6)"/>',
            (15, 26, 45, 34),
        ),
        ('<g transform="scale(2)"><circle id="e" cx="20" cy="20" r="5"/></g>', (30, 30, 50, 50)),
        ('<ellipse cx="20" cy="20" rx="5" ry="9"/>', (15, 11, 25, 29)),
        ('<line x1="3" y1="4" x2="13" y2="24"/>', (3, 4, 13, 24)),
        ('<polygon points="1,2 9,4 5,30"/>', (1, 2, 9, 30)),
        ('<path d="M5 5 L25 9 V40 Z"/>', (5, 5, 25, 40)),
        ('<path id="p" d="M0 0 H10 V10 Z"/><use id="e" href="#p" x="40" y="3"/>', (40, 3, 50, 13)),
        ('<svg id="e"><rect width="5" height="5"/></svg>', None),
        ('<path d="nonsense"/>', None),
        ('<path id="e" d="M0 0 H9" marker-end="url(#m)"/>', None),
    ],
)
def test_where_shapes_must_lie_is_known_without_drawing(
    element: str, expected: tuple[int, int, int, int] | None
) -> None:
    inside = element if 'id="e"' in element else element.replace(" ", ' id="e" ', 1)
    text = SVG.format('width="100" height="80"', inside)
    drawing = document.from_bytes(text.encode(), "d.svg", DEFAULT_LIMITS)
    found = hull(drawing, drawing.known["e"])
    if expected is None:
        assert found is None
        return
    assert found is not None
    left, top, right, bottom = expected
    assert (found.x, found.y) == (left, top)
    assert (found.x + found.width, found.y + found.height) == (right, bottom)
