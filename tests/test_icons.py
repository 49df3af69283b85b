"""A site's icon: files that browsers and other readers take, small sizes, heads of pages."""

from __future__ import annotations

import base64
import io
import json
import re
import struct
import threading
from collections.abc import Iterator
from functools import partial
from http.server import SimpleHTTPRequestHandler, ThreadingHTTPServer
from pathlib import Path

import numpy as np
import pytest
from lxml import html
from PIL import IcoImagePlugin, Image
from playwright.sync_api import Browser

from conftest import Run, shown
from making import Flat, png, write_project
from riffler.color import from_bytes, to_bytes
from riffler.errors import WrittenError
from riffler.geometry import Size
from riffler.icon import dark, ico, judged, letters, reduced
from riffler.icon.art import fitted
from riffler.mockup.font_book import FontBook
from riffler.project.icon_settings import Favicon
from riffler.render.scaling import resized
from riffler.site.heading import BEGIN, END, inserted
from riffler.workspace import Workspace

MARK = (
    '<svg xmlns="http://www.w3.org/2000/svg" width="40" height="50" viewBox="0 0 40 50">'
    '<path fill="#e2a32b" d="M20 2 38 13v24L20 48 2 37V13z"/>'
    '<path fill="none" stroke="#33231a" stroke-width="4" d="M20 10v30M10 20l10 6 10-6"/></svg>'
)

SET = {
    "favicon.ico", "icon.svg", "apple-touch-icon.png", "icon-192.png", "icon-512.png",
    "icon-maskable-192.png", "icon-maskable-512.png", "app.webmanifest",
}  # fmt: skip


def entries(data: bytes) -> list[tuple[int, bytes]]:
    """The sides and bodies of an icon file, as its directory says."""
    reserved, kind, count = struct.unpack("<HHH", data[:6])
    assert (reserved, kind) == (0, 1)
    found, end = [], 6 + 16 * count
    for index in range(count):
        width, height, colors, zero, planes, bits, size, offset = struct.unpack(
            "<BBBBHHII", data[6 + 16 * index : 22 + 16 * index]
        )
        assert (height, colors, zero, planes, bits) == (width, 0, 0, 1, 32)
        assert offset == end
        end += size
        found.append((width or 256, data[offset:end]))
    assert end == len(data)
    return found


def alone(side: int, body: bytes) -> bytes:
    """One entry as a file of its own."""
    entry = struct.pack("<BBBBHHII", side % 256, side % 256, 0, 0, 1, 32, len(body), 22)
    return struct.pack("<HHH", 0, 1, 1) + entry + body


def picture(side: int) -> np.ndarray:
    """A disk that fades to its rim, every colour different: hard for masks and for codecs."""
    y, x = np.mgrid[:side, :side]
    far = np.hypot(x - side / 2 + 0.5, y - side / 2 + 0.5)
    alpha = np.clip((side / 2 - far) * 60, 0, 255)
    channels = (x * 255 / side, y * 255 / side, 255 - x * 255 / side, alpha)
    return np.stack(channels, axis=2).astype(np.uint8)


def drawn_by_browser(browser: Browser, data: bytes, side: int, ground: str) -> np.ndarray:
    """A file as Chromium draws it on a ground, (side, side, 3)."""
    url = "data:image/x-icon;base64," + base64.b64encode(data).decode()
    markup = (
        f'<body style="margin:0;background:{ground}"><img src="{url}" width="{side}" '
        'style="display:block;image-rendering:pixelated">'
    )
    return shown(browser, markup, 300, 300)[:side, :side, :3]


def test_an_icon_file_opens_everywhere(browser: Browser) -> None:
    flat = np.full((48, 48, 4), (226, 163, 43, 255), np.uint8)
    pictures = [picture(16), picture(20), picture(32), flat]
    data = ico.pack(pictures)
    bodies = entries(data)
    kinds = ["png" if body.startswith(b"\x89PNG") else "bmp" for _, body in bodies]
    assert kinds[-1] == "png"  # one colour: next to nothing
    for (side, body), one, kind in zip(bodies, pictures, kinds, strict=True):
        assert side == one.shape[0]
        other = len(ico.bitmap(one))
        assert len(body) == other if kind == "bmp" else len(body) < other
        with Image.open(io.BytesIO(data)) as file:
            assert isinstance(file, IcoImagePlugin.IcoImageFile)
            read = np.asarray(file.ico.getimage((side, side)).convert("RGBA"))
        assert (read[one[..., 3] > 0] == one[one[..., 3] > 0]).all()
        for ground, value in (("#fff", 255), ("#1e1e1e", 30)):
            alpha = one[..., 3:] / 255
            wanted = one[..., :3] * alpha + value * (1 - alpha)
            drawn = drawn_by_browser(browser, alone(side, body), side, ground)
            assert np.abs(drawn - wanted).max() <= 2


@pytest.mark.parametrize("side", [16, 20, 31, 48])
def test_a_bitmap_has_its_mask(side: int) -> None:
    one = picture(side)
    body = ico.bitmap(one)
    row = (side + 31) // 32 * 4
    assert len(body) == 40 + side * side * 4 + row * side
    assert struct.unpack("<Iii", body[:12]) == (40, side, 2 * side)
    mask = np.frombuffer(body[-row * side :], np.uint8).reshape(side, row)
    bits = np.unpackbits(mask, axis=1)[::-1, :side]
    assert (bits.astype(bool) == (one[..., 3] == 0)).all()


# The set


@pytest.fixture
def project(tmp_path: Path) -> Path:
    files = {
        "cuts/m.toml": 'mockup = "../mockups/m.svg"\n[slice.mark]\nonly = ["mark"]\nalt = ""\n',
        "mockups/m.svg": MARK.replace("<path", '<g id="mark"><path', 1).replace(
            "</svg>", "</g></svg>"
        ),
        "riffler.toml": '[site]\ntitle = "Fernhollow Apiary"\n[favicon]\nslice = "mark"\n'
        'theme = "#33231a"\nground = "#fbf4e4"\n',
        "pages/index.html": "<html><head>{{ head() }}</head><body></body></html>",
    }
    return write_project(tmp_path / "p", files)


def test_the_set_is_what_browsers_and_phones_ask_for(
    riffler: Run, project: Path, browser: Browser
) -> None:
    riffler("cut", cwd=project)
    riffler("build", cwd=project)
    out = project / "out"
    assert {path.name for path in out.iterdir() if path.is_file()} >= SET
    assert [side for side, _ in entries((out / "favicon.ico").read_bytes())] == [16, 20, 24, 32, 48]
    for name, side in (("apple-touch-icon", 180), ("icon-192", 192), ("icon-512", 512),
                       ("icon-maskable-192", 192), ("icon-maskable-512", 512)):  # fmt: skip
        with Image.open(out / f"{name}.png") as one:
            assert one.size == (side, side)
            alpha = np.asarray(one.convert("RGBA"))[..., 3]
        assert (alpha.min() == 255) == (name not in ("icon-192", "icon-512"))
    masked = np.asarray(Image.open(out / "icon-maskable-512.png").convert("RGB")).astype(int)
    painted = np.abs(masked - (0xFB, 0xF4, 0xE4)).max(axis=2) > 24
    rows, columns = np.nonzero(painted)
    far = np.hypot(rows + 0.5 - 256, columns + 0.5 - 256).max()
    assert 0.37 * 512 < far <= 0.4 * 512 + 1  # fills the safe zone, and stays within
    said = json.loads((out / "app.webmanifest").read_text())
    assert (said["name"], said["short_name"]) == ("Fernhollow Apiary", "Fernhollow")
    assert (said["theme_color"], said["background_color"]) == ("#33231a", "#fbf4e4")
    for icon in said["icons"]:
        with Image.open(out / icon["src"]) as one:
            assert icon["sizes"] == f"{one.width}x{one.height}"
        assert (icon["type"], "maskable" in icon["src"]) == (
            "image/png",
            icon["purpose"] == "maskable",
        )
    page = browser.new_page()
    failed: list[str] = []
    page.on("requestfailed", lambda request: failed.append(request.url))
    page.goto((out / "index.html").as_uri())
    links = page.eval_on_selector_all(
        "head link", "all => all.map(one => [one.rel, one.getAttribute('href'), one.sizes.value])"
    )
    page.close()
    assert [rel for rel, _, _ in links][:4] == ["icon", "icon", "apple-touch-icon", "manifest"]
    assert [sizes for _, _, sizes in links][:3] == [
        "16x16 20x20 24x24 32x32 48x48",
        "any",
        "180x180",
    ]
    assert all((out / href).is_file() for _, href, _ in links)
    assert not failed
    assert '<meta name="theme-color" content="#33231a">' in (out / "index.html").read_text()


@pytest.fixture
def served(riffler: Run, project: Path) -> Iterator[tuple[str, list[str]]]:
    """The built project on a server of this machine: its address, and what was asked for."""
    riffler("cut", cwd=project)
    riffler("build", cwd=project)
    asked: list[str] = []

    class Handler(SimpleHTTPRequestHandler):
        def log_message(self, _: str, *said: object) -> None:
            asked.append(f"{said[1]} {self.path.removeprefix('/')}")

    server = ThreadingHTTPServer(("127.0.0.1", 0), partial(Handler, directory=project / "out"))
    threading.Thread(target=server.serve_forever, daemon=True).start()
    yield f"http://127.0.0.1:{server.server_port}/", asked
    server.shutdown()
    server.server_close()


def test_chromium_takes_the_manifest_and_every_file(
    served: tuple[str, list[str]], browser: Browser
) -> None:
    address, asked = served
    context = browser.new_context()
    page = context.new_page()
    page.goto(address)
    said = context.new_cdp_session(page).send("Page.getAppManifest")
    assert (said["url"], said["errors"]) == (f"{address}app.webmanifest", [])
    hrefs = page.eval_on_selector_all("head link", "all => all.map(one => one.href)")
    pictures = [href for href in hrefs if not href.endswith((".css", ".webmanifest"))]
    pictures += [address + icon["src"] for icon in json.loads(said["data"])["icons"]]
    for url in pictures:
        size = page.evaluate(
            "async url => { const one = new Image(); one.src = url; await one.decode();"
            " return [one.naturalWidth, one.naturalHeight]; }",
            url,
        )
        assert size[0] == size[1] > 0, url
    context.close()
    assert {one.partition(" ")[2] for one in asked} >= SET
    assert [one for one in asked if not one.startswith(("200 ", "304 "))] == []


def test_the_ledger_has_figures_for_later_checks(riffler: Run, project: Path) -> None:
    riffler("favicon", cwd=project)
    ledger = json.loads((project / "out/ledger.json").read_text())
    icons = {asset["file"]: asset for asset in ledger["assets"]}
    assert set(icons) == SET
    assert all(asset["kind"] == "icon" and asset["made_by"] == "cut" for asset in icons.values())
    found = icons["favicon.ico"]["found"]
    assert set(found) == {"stands_out_light", "stands_out_dark", "survives", "reach"}
    assert found["reach"] <= 0.4
    again = json.loads(riffler("favicon", "--json", cwd=project).stdout)
    assert (again["command"], again["written"]) == ("favicon", [])


def test_a_size_can_be_drawn_by_hand(riffler: Run, project: Path) -> None:
    own = np.full((16, 16, 4), (10, 200, 30, 255), np.uint8)
    (project / "mark-16.png").write_bytes(png(own))
    toml = project / "riffler.toml"
    toml.write_text(toml.read_text() + 'art = { 16 = "mark-16.png" }\nsizes = [16, 32]\n')
    riffler("favicon", cwd=project)
    with Image.open(project / "out/favicon.ico") as file:
        assert isinstance(file, IcoImagePlugin.IcoImageFile)
        assert (np.asarray(file.ico.getimage((16, 16)).convert("RGBA")) == own).all()
    (project / "mark-16.png").write_bytes(png(own[:8]))
    assert "16 x 8 px" in riffler("favicon", cwd=project, code=2).stderr


@pytest.mark.parametrize(
    ("written", "says"),
    [
        ('file = "gone.svg"', 'no file "gone.svg"'),
        ('file = "../m.svg"', "leads out of the project"),
        ('slice = "marc"', 'no slice "marc"'),
        ('slice = "mark"\nletters = "A"', "slice and letters are two"),
        ('letters = "ABC"', "one or two letters"),
        ('letters = "A"\nfont = "Fraunces"', "no font"),
        ('slice = "mark"\nsizes = [4]', "from 8 to 256"),
        ('slice = "mark"\ncolor = "amber"', "should be a colour"),
        ('slice = "mark"\nshape = "star"', "shape"),
    ],
)
def test_a_mistake_in_the_table_is_told(
    riffler: Run, project: Path, written: str, says: str
) -> None:
    (project.parent / "m.svg").write_text(MARK)
    (project / "riffler.toml").write_text(f"[favicon]\n{written}\n")
    said = riffler("favicon", cwd=project, code=2).stderr
    assert says in said
    assert "riffler.toml" in said or "font" in said


# Letters and files, without a project


FONT = Path(__file__).parents[1] / "src/riffler/demo/fernhollow/fonts/fraunces-600.ttf"


@pytest.fixture
def lettered(tmp_path: Path) -> Path:
    (tmp_path / "riffler.toml").write_text("")
    (tmp_path / "fonts").mkdir()
    (tmp_path / "fonts/fraunces-600.ttf").write_bytes(FONT.read_bytes())
    return tmp_path


def lettering(side: int, **how: object) -> np.ndarray:
    """Letters on a shape as pixels, (side, side, 4)."""
    said = Favicon.model_validate({"letters": "FA", **how})
    svg = letters.drawing(said, FontBook((FONT,)), side)
    return to_bytes(fitted(svg, side, Workspace.around(FONT))).astype(int)


@pytest.mark.parametrize("shape", ["circle", "square", "rounded", "hexagon", "shield", "none"])
def test_letters_stand_in_the_middle_of_their_shape(shape: str) -> None:
    large = lettering(512, shape=shape, color="#c8862a", ink="#000000")
    ink = (large[..., :3].max(axis=2) < 60) & (large[..., 3] > 200)
    rows, columns = np.nonzero(ink)
    assert abs(columns.min() + columns.max() - 511) <= 4
    assert shape == "shield" or abs(rows.min() + rows.max() - 511) <= 4
    assert ink.sum() > 0.04 * ink.size
    covered = (large[..., 3] > 200).sum() / ink.size
    area = {"circle": np.pi / 4, "square": 1.0, "rounded": 0.958, "hexagon": 0.65}
    assert covered == pytest.approx(area.get(shape, covered), abs=0.01)


def test_small_letters_are_plainer() -> None:
    for side in (16, 20, 24, 32, 48):
        same = (lettering(side) == lettering(side, shadow=True, raised=True)).all()
        assert same == (side <= 24)


def test_a_gradient_goes_as_css_says() -> None:
    large = lettering(512, shape="square", gradient=["#ff0000", "#0000ff"], angle=90)
    for x in (0, 128, 384, 511):
        wanted = 255 * (x + 0.5) / 512
        assert np.abs(large[2, x, :3] - (255 - wanted, 0, wanted)).max() <= 2


def test_letters_need_no_project(riffler: Run, lettered: Path) -> None:
    said = riffler(
        "favicon", "--letters", "FA", "--font", "Fraunces", "--shape", "hexagon",
        "--color", "#f3c25a,#d08a1e", "--angle", "160", "--outline", "#33231a", "-o", "made",
        cwd=lettered,
    ).stdout  # fmt: skip
    assert {path.name for path in (lettered / "made").iterdir()} == SET
    assert "Wrote 8 files in made." in said
    touch = np.asarray(Image.open(lettered / "made/apple-touch-icon.png").convert("RGB"))
    assert touch[1, 1, 1] > touch[-2, -2, 1]  # the gradient goes on to the corners


@pytest.mark.parametrize(("name", "has_svg"), [("m.svg", True), ("m.png", False)])
def test_any_picture_can_be_the_icon(
    riffler: Run, tmp_path: Path, name: str, has_svg: bool
) -> None:
    (tmp_path / "m.svg").write_text(MARK)
    Image.fromarray(picture(120)).save(tmp_path / "m.png")
    said = riffler("favicon", name, "-o", "made", "--picture", "see.png", cwd=tmp_path).stdout
    assert (tmp_path / "made/icon.svg").exists() == has_svg
    assert "stands out from a light bar" in said
    assert 'rel="icon" href="favicon.ico"' in said
    with Image.open(tmp_path / "see.png") as one:
        assert one.size == (1280, 800)
    if not has_svg:
        return
    before = (tmp_path / "made/favicon.ico").read_bytes()
    riffler("favicon", name, "-o", "made", cwd=tmp_path)  # what is there is what would be written
    (tmp_path / "made/icon-192.png").write_bytes(b"mine")
    assert "is there already" in riffler("favicon", name, "-o", "made", cwd=tmp_path, code=2).stderr
    assert (tmp_path / "made/favicon.ico").read_bytes() == before


def test_an_icon_of_nothing_is_none(riffler: Run, tmp_path: Path) -> None:
    (tmp_path / "m.svg").write_text('<svg xmlns="http://www.w3.org/2000/svg"/>')
    said = riffler("favicon", "m.svg", "-o", "made", cwd=tmp_path, code=2).stderr
    assert "paints nothing" in said
    assert not (tmp_path / "made").exists()


def test_words_in_an_icon_need_no_font_where_it_is_shown(riffler: Run, lettered: Path) -> None:
    word = '<text x="2" y="30" font-family="Fraunces" font-size="30" font-weight="600">F</text>'
    (lettered / "m.svg").write_text(MARK.replace("</svg>", f"{word}</svg>"))
    riffler("favicon", "m.svg", "-o", "made", cwd=lettered)
    text = (lettered / "made/icon.svg").read_text()
    assert "<text" not in text
    assert text.count("<path") == 3


def test_thin_strokes_are_told(riffler: Run, tmp_path: Path) -> None:
    (tmp_path / "m.svg").write_text(MARK.replace('stroke-width="4"', 'stroke-width="1.5"'))
    said = riffler("favicon", "m.svg", cwd=tmp_path).stdout
    assert "0.48 px wide" in said  # 1.5 of 50 in 16 px
    assert "Nothing was written" in said


# What is judged, and how pixels are reduced


def test_standing_out_is_a_matter_of_contrast() -> None:
    half = np.zeros((10, 10, 4), np.float32)
    half[:5] = 1  # white
    half[5:, :, 3] = 1  # black
    assert judged.stands_out(half, (1.0, 1.0, 1.0)) == pytest.approx(0.5)
    assert judged.stands_out(half, (0.0, 0.0, 0.0)) == pytest.approx(0.5)
    assert judged.stands_out(half, (0.46, 0.46, 0.46)) == pytest.approx(1.0)  # 4.5 : 1 to both
    for level, part in ((148, 1), (149, 0)):  # on white 3.03 and 2.99 : 1; WCAG 2.2, 1.4.11
        grey = np.full((4, 4, 4), (level / 255,) * 3 + (1,), np.float32)
        assert judged.stands_out(grey, (1.0, 1.0, 1.0)) == part


def test_what_survives_is_what_is_told() -> None:
    rng = np.random.default_rng(3)
    large = np.zeros((64, 64, 4), np.float32)
    large[..., 3] = 1
    large[:, 32:, :3] = 1
    small = large[::4, ::4]
    assert judged.survives(small, large) == pytest.approx(1.0)
    noise = large.copy()
    noise[..., :3] = rng.integers(0, 2, (64, 64, 1))
    assert judged.survives(resized(noise, Size(16, 16)), noise) < 0.15


def test_reduced_pictures_keep_their_contrast() -> None:
    stripes = np.zeros((96, 96, 4), np.float32)
    stripes[..., 3] = 1
    stripes[:, (np.arange(96) // 5) % 2 == 0, :3] = 1
    plain = resized(stripes, Size(24, 24))
    better = reduced.to_side(stripes, 24)
    wanted = reduced.contrast(stripes)
    assert abs(reduced.contrast(better) - wanted) < abs(reduced.contrast(plain) - wanted)
    assert better.min() >= 0
    assert better.max() <= 1


def test_faint_colours_get_lighter_where_the_scheme_is_dark(browser: Browser) -> None:
    svg = '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 9 9"><path fill="#33231a" d="M0 0h9v9H0z"/></svg>'
    how = Favicon(slice="a")
    text = dark.with_dark(svg, how, 0.1)
    found = {}
    for scheme in ("light", "dark"):
        page = browser.new_page(color_scheme=scheme, viewport={"width": 30, "height": 30})
        url = "data:image/svg+xml;base64," + base64.b64encode(text.encode()).decode()
        page.set_content(f'<body style="margin:0"><img src="{url}" width="30">')
        shot = np.asarray(Image.open(io.BytesIO(page.screenshot())).convert("RGB"))
        found[scheme] = shot[15, 15].astype(int)
        page.close()
    assert tuple(found["light"]) == (0x33, 0x23, 0x1A)
    ground = np.full((1, 1, 4), (*found["dark"], 255), np.uint8)
    assert judged.stands_out(from_bytes(ground), judged.BARS["dark"]) == 1
    assert dark.with_dark(svg, how, 0.9) == svg
    assert dark.with_dark(svg, how.model_copy(update={"dark": "same"}), 0.1) == svg
    said = how.model_copy(update={"dark": {"#33231a": "#ffffff"}})
    assert '[fill="#33231a"]{fill:#fff}' in dark.with_dark(svg, said, 1.0)
    assert to_bytes(from_bytes(ground)).tolist() == ground.tolist()


# Heads of pages


LINES = ['<link rel="icon" href="favicon.ico">', '<link rel="manifest" href="app.webmanifest">']


@pytest.mark.parametrize(
    "page",
    [
        "<!doctype html>\n<html>\n  <head>\n    <title>a</title>\n  </head>\n  <body></body>\n</html>\n",
        "<html><head><title>a</title></head><body></body></html>",
        "<html>\r\n<head>\r\n</head>\r\n<body>\r\n</body></html>\r\n",
        "<HEAD>\n<!-- </head> -->\n<script>'</head>'</script>\n</HEAD >\n<p>x",
    ],
)
def test_lines_go_into_a_head_once_and_nothing_else_changes(page: str) -> None:
    once = inserted(page, LINES)
    assert inserted(once, LINES) == once
    assert (
        once.replace(once[once.index(BEGIN) : once.index(END) + len(END)], "").split()
        == page.split()
    )
    head = html.document_fromstring(once).find("head")
    assert head is not None
    assert [link.get("href") for link in head.iter("link")] == ["favicon.ico", "app.webmanifest"]
    changed = inserted(once, [*LINES, '<meta name="theme-color" content="#fff">'])
    assert changed.count(BEGIN) == 1
    assert "theme-color" in changed
    assert ("\r\n" in once) == ("\r\n" in page)
    assert once.replace("\r\n", "").count("\n") == 0 or "\r\n" not in page


def test_a_page_without_a_head_is_no_place() -> None:
    with pytest.raises(WrittenError):
        inserted("<p>a</p>", LINES)


def test_pages_by_hand_get_their_lines(riffler: Run, tmp_path: Path) -> None:
    (tmp_path / "m.svg").write_text(MARK)
    (tmp_path / "about").mkdir()
    page = tmp_path / "about/us.html"
    page.write_bytes("\ufeff<html>\n<head>\n</head>\n".encode())
    said = riffler("favicon", "m.svg", "-o", "img", "--into", "about/us.html", cwd=tmp_path).stdout
    assert "1 page changed: about/us.html" in said
    text = page.read_bytes().decode()
    assert text.startswith("\ufeff<html>\n<head>\n")
    hrefs = re.findall(r'href="([^"]+)"', text)
    assert hrefs[0] == "../img/favicon.ico"
    assert all((page.parent / href).is_file() for href in hrefs)
    again = riffler("favicon", "m.svg", "-o", "img", "--into", "about/us.html", cwd=tmp_path).stdout
    assert "changed" not in again
    assert page.read_bytes().decode() == text
    (tmp_path / "bad.html").write_text("<p>no head")
    for other, says in (("bad.html", "no </head>"), ("gone.html", "can't be read")):
        told = riffler(
            "favicon", "m.svg", "-o", "img", "--into", other, cwd=tmp_path, code=2
        ).stderr
        assert says in told


def test_pixels_of_a_mockup_make_an_icon_too(riffler: Run, tmp_path: Path) -> None:
    root = write_project(
        tmp_path / "p",
        {"cuts/m.toml": 'mockup = "../mockups/m.ora"\n[slice.mark]\nonly = ["red"]\nalt = ""\n',
         "riffler.toml": '[favicon]\nslice = "mark"\n'},
        [Flat("red", (10, 10, 40, 40), (200, 30, 30, 255)), Flat("paper", (0, 0, 100, 80))],
    )  # fmt: skip
    riffler("cut", cwd=root)
    assert {p.name for p in (root / "out").iterdir() if p.is_file()} == SET - {"icon.svg"} | {
        "ledger.json"
    }
    (root / "riffler.toml").write_text("")
    riffler("cut", cwd=root)
    assert not (root / "out/favicon.ico").exists()
