"""Pages against mockups: what is at fault, what only follows, and the value that would be right.

The mockup of the page here is written from what Chromium says of it, so that the page fits.
"""

from __future__ import annotations

import base64
import io
import json
import re
import subprocess
import threading
from functools import cache, partial
from http.server import SimpleHTTPRequestHandler, ThreadingHTTPServer
from pathlib import Path
from typing import Any

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as some
from lxml import etree
from PIL import Image
from playwright.sync_api import Browser
from scipy.ndimage import shift

from conftest import Run
from making import Flat, write_ora, write_project
from planning import noise
from riffler.errors import RifflerError
from riffler.fit import states
from riffler.fit.browser import address_of
from riffler.fit.chromium import Chromium
from riffler.fit.expected import Coming
from riffler.fit.expecting import expected
from riffler.fit.likeness import inked, moved
from riffler.fit.page_fit import PageFit, fit
from riffler.report.page_fit import phrases
from riffler.workspace import Workspace

FONTS = Path(__file__).parents[1] / "src/riffler/demo/fernhollow/fonts"


def png(seed: int, width: int = 160, height: int = 120) -> bytes:
    """Large soft shapes of all colours."""
    data = io.BytesIO()
    pixels = noise(seed, width, height, 9.0)
    pixels[..., 3] = 255
    Image.fromarray(pixels).save(data, "PNG")
    return data.getvalue()


PICTURES = [f"data:image/png;base64,{base64.b64encode(png(n)).decode()}" for n in range(4)]

STYLE = """
@font-face { font-family: Figtree; font-weight: 400; src: url(fonts/figtree-400.ttf) }
@font-face { font-family: Figtree; font-weight: 600; src: url(fonts/figtree-600.ttf) }
* { margin: 0; padding: 0; box-sizing: border-box }
body { width: 720px; background: #f4ead6; color: #33231a; font: 400 16px/24px Figtree }
.top { height: 80px; padding: 20px 40px; background: #3c5c2e }
.name { color: #fffaf0; font: 600 30px/40px Figtree }
.cards { display: flex; gap: 20px; padding: 30px 40px }
.card { width: 200px; height: 250px; padding: 20px; border-radius: 12px; background: #fffaf0 }
.photo { display: block; width: 160px; height: 120px }
.title { margin-top: 14px; font: 600 20px/26px Figtree }
.line { margin-top: 6px }
.note { margin: 0 40px; width: 600px }
.more { display: block; width: 140px; margin: 20px 40px; padding: 10px 0; border-radius: 8px;
  background: #e2a32b; text-align: center; font-weight: 600 }
.lid { position: absolute; z-index: 1; inset: 0; background: #33231a }
.foot { padding: 18px 40px; background: #33231a; color: #f4ead6 }
"""

CARDS = "".join(
    f'<div class="card card-{n}"><img class="photo photo-{n}" src="{PICTURES[n]}" alt="">'
    f'<h2 class="title title-{n}">{title}</h2><p class="line line-{n}">{line}</p></div>'
    for n, (title, line) in enumerate(
        [("Clover", "Pale, and early"), ("Heather", "Dark, from the moor"), ("Lime", "In July")]
    )
)
BODY = f"""<div class="top"><h1 class="name">Fernhollow</h1></div>
<div class="cards">{CARDS}</div>
<p class="note">Ten hives stand at the edge of the wood, and one at the mill, where the lime trees
flower for nine days.</p>
<a class="more" href="#">Adopt a hive</a>
<div class="foot"><p class="lane">Mill Lane, Fernhollow</p></div>"""

#: From the page to what an SVG needs of it: boxes, pictures, and texts line by line.
READ = """() => [...document.querySelectorAll("body, body *")].flatMap(e => {
  const b = e.getBoundingClientRect(), c = getComputedStyle(e), made = [];
  const box = [b.x, b.y, b.width, b.height];
  if (c.backgroundColor !== "rgba(0, 0, 0, 0)")
    made.push(["rect", box, c.backgroundColor, parseFloat(c.borderTopLeftRadius), e.className]);
  if (e.localName === "img") made.push(["image", box, e.src, 0, e.className]);
  const node = e.firstChild;
  if (node?.nodeType !== 3 || !node.textContent.trim()) return made;
  const pen = document.createElement("canvas").getContext("2d"), lines = [];
  pen.font = `${c.fontWeight} ${c.fontSize} Figtree`;
  const ascent = Math.round(pen.measureText("x").fontBoundingBoxAscent);
  [...node.textContent].forEach((sign, n) => {
    const range = document.createRange();
    range.setStart(node, n); range.setEnd(node, n + 1);
    const r = range.getBoundingClientRect();
    if (!lines.length || r.y > lines.at(-1)[1] + 4) lines.push(["", r.y, r.x]);
    lines.at(-1)[0] += sign.replace(/\\s/, " ");
  });
  const spans = lines.map(([text, y, x]) => [text.trim(), x, y + ascent]);
  return [...made, ["text", spans, c.color, [c.fontSize, c.fontWeight], e.className]];
})"""


SIDES = ("x", "y", "width", "height")

#: Words in a column that should have fallen under what is beside it.


def svg(parts: list[list[Any]]) -> str:
    made = []
    for kind, box, says, more, name in parts:
        if kind == "text":
            size, weight = more
            spans = "".join(f'<tspan x="{x}" y="{y}">{text}</tspan>' for text, x, y in box)
            made.append(
                f'<text font-family="Figtree" font-size="{size[:-2]}" font-weight="{weight}" '
                f'fill="{says}"><title>{name}</title>{spans}</text>'
            )
            continue
        x, y, width, height = box
        where = f'x="{x}" y="{y}" width="{width}" height="{height}"'
        what = f'fill="{says}" rx="{more}"' if kind == "rect" else f'href="{says}"'
        made.append(f"<{kind} {where} {what}><title>{name}</title></{kind}>")
    return f'<svg xmlns="http://www.w3.org/2000/svg" width="720" height="640">{"".join(made)}</svg>'


@pytest.fixture(scope="module")
def folder(browser: Browser, tmp_path_factory: pytest.TempPathFactory) -> Path:
    """A page and the mockup that it fits, with fonts beside them."""
    root = tmp_path_factory.mktemp("fit")
    (root / "fonts").mkdir()
    for name in ("figtree-400.ttf", "figtree-600.ttf"):
        (root / "fonts" / name).write_bytes((FONTS / name).read_bytes())
    write_page(root / "page.html")
    tab = browser.new_page(viewport={"width": 720, "height": 640})
    tab.goto((root / "page.html").as_uri())
    tab.evaluate("document.fonts.ready")
    (root / "m.svg").write_text(svg(tab.evaluate(READ)))
    tab.close()
    return root


def write_page(path: Path, change: tuple[str, str] = ("", "")) -> None:
    text = f"<!doctype html>\n<title>t</title>\n<style>{STYLE}</style>\n{BODY}\n"
    assert change[0] in text
    path.write_text(text.replace(*change, 1) if change[0] else text)


@cache
def wanted(mockup: Path, density: float = 1.0) -> Coming:
    return expected(Workspace.around(mockup).open(mockup), density)


def compared(browser: Browser, page: Path, mockup: Path, density: float = 1.0) -> PageFit:
    return fit(Chromium(browser), address_of(str(page)), wanted(mockup, density))


def test_a_page_that_fits_has_no_finding(browser: Browser, folder: Path) -> None:
    found = compared(browser, folder / "page.html", folder / "m.svg")
    assert found.findings == ()
    assert (found.count, found.fitting) == (20, 20)


#: What is changed in the page; what is named, its fault, how far it is off, how many follow, the
#: declaration that is named, and the value that would be right.
FAULTS = [
    ((".photo { display", ".photo-1 { translate: 1px 0 }\n.photo { display"),
     "photo photo-1", "moved", (1, 0, 0, 0), 0, "translate: 1px 0", "0px 0"),
    ((".photo { display", ".photo-1 { translate: 0 30px }\n.photo { display"),
     "photo photo-1", "moved", (0, 30, 0, 0), 0, "translate: 0 30px", "0 0px"),
    (("padding: 30px 40px", "padding: 60px 40px 30px"),
     "card card-0", "moved", (0, 30, 0, 0), 16, "padding: 60px 40px 30px", "30px 40px 30px"),
    ((".note { margin: 0 40px", ".note { margin: 24px 40px 0"),
     "note", "moved", (0, 24, 0, 0), 4, "margin: 24px 40px 0", "0px 40px 0"),
    (("gap: 20px", "gap: 25px"),
     "card card-1", "moved", (5, 0, 0, 0), 7, "gap: 25px", "20px"),
    ((".photo { display: block; width: 160px", ".photo { display: block; width: 170px"),
     "photo photo-0", "stretched", (0, 0, 10, 0), 0, "width: 170px", "160px"),
    (("width: 600px", "width: 320px"),
     "note", "line breaks", (0, 0, None, 24), 4, "width: 320px", None),
    (("font: 600 20px/26px", "font: 600 21px/26px"),
     "title title-0", "type size", None, 0, "font: 600 21px/26px Figtree", "600 20px/26px Figtree"),
    (("font-weight: 600 }\n.lid", "font-weight: 400 }\n.lid"),
     "more", "weight", None, 0, "font-weight: 400", "600"),
    (("background: #e2a32b", "background: #e2b32b"),
     "more#2", "colour", (0, 0, 0, 0), 0, "background: #e2b32b", "#e2a32b"),
    (("color: #fffaf0; font", "color: rgb(250, 230, 200); font"),
     "name", "colour", (0, 0, 0, 0), 0, "color: rgb(250, 230, 200)", "#fffaf0"),
    (("border-radius: 8px", "border-radius: 2px"),
     "more#2", "corners", (0, 0, 0, 0), 0, "border-radius: 2px", "8px"),
    (("Adopt a hive", "Adopt a bee"), "more", "words", None, 0, None, None),
    ((f'photo-1" src="{PICTURES[1]}"', 'photo-1" src="gone.png"'),
     "photo photo-1", "missing", (0, 0, 0, 0), 0, None, None),
    ((f'photo-1" src="{PICTURES[1]}"', f'photo-1" src="{PICTURES[3]}"'),
     "photo photo-1", "another picture", (0, 0, 0, 0), 0, None, None),
    (('<div class="foot">', '<div class="foot" style="position:relative"><i class="lid"></i>'),
     "lane", "covered", (0, 0, 0, 0), 0, None, None),
]  # fmt: skip


@pytest.mark.parametrize(
    "change, name, fault, off, followers, declared, right", FAULTS, ids=[one[2] for one in FAULTS]
)
def test_every_fault_is_found_as_the_root_that_it_is(
    browser: Browser, folder: Path, change: tuple[str, str], name: str, fault: str,
    off: tuple[float | None, ...] | None, followers: int, declared: str | None, right: str | None,
) -> None:  # fmt: skip
    page = folder / "changed.html"
    write_page(page, change)
    findings = compared(browser, page, folder / "m.svg").findings
    first = findings[0]
    assert first.placed.thing.name == name
    assert fault in [one.fault for one in first.faults]
    assert len(findings) == 1
    assert len(first.also) == (2 if fault in ("stretched", "type size") else 0)  # in each card
    placed = first.placed
    for by, found in zip(off or (), (placed.dx, placed.dy, placed.dw, placed.dh), strict=bool(off)):
        assert by is None or found == pytest.approx(by, abs=0.2)
    assert len(first.root.followers) == followers
    if declared is None:
        assert first.remedy is None
        return
    assert first.remedy is not None
    one = first.remedy.declaration
    assert f"{one.name}: {one.value}" == declared
    assert right in (None, first.remedy.value)
    lines = page.read_text().splitlines()
    assert declared in lines[one.line - 1]
    fixed = lines[one.line - 1].replace(declared, f"{one.name}: {first.remedy.value}")
    if not followers:
        return
    page.write_text("\n".join([*lines[: one.line - 1], fixed, *lines[one.line :]]))
    assert compared(browser, page, folder / "m.svg").findings == ()


def test_pictures_that_changed_places(browser: Browser, folder: Path) -> None:
    page = folder / "swapped.html"
    write_page(page)
    text = page.read_text()
    first, second = (f'photo-{n}" src="{PICTURES[n]}"' for n in (0, 1))
    swapped = text.replace(first, "~").replace(second, f'photo-1" src="{PICTURES[0]}"')
    page.write_text(swapped.replace("~", f'photo-0" src="{PICTURES[1]}"'))
    found = compared(browser, page, folder / "m.svg").findings
    assert [(one.placed.thing.name, one.faults[0].fault, one.faults[0].wanted) for one in found] == [
        ("photo photo-0", "swapped", "photo photo-1"), ("photo photo-1", "swapped", "photo photo-0"),
    ]  # fmt: skip


def test_a_page_that_moves_is_late_or_asks_elsewhere(browser: Browser, folder: Path) -> None:
    """Animations stand still, pictures below are waited for, nobody else is asked for anything."""
    asked: list[str] = []

    class Handler(SimpleHTTPRequestHandler):
        def log_request(self, *_: object) -> None:
            asked.append(self.path)

    with ThreadingHTTPServer(("127.0.0.1", 0), partial(Handler, directory=str(folder))) as server:
        threading.Thread(target=server.serve_forever, daemon=True).start()
        here = f"http://127.0.0.1:{server.server_port}"
        write_page(folder / "busy.html", (".photo { display", """
            @keyframes away { to { translate: 400px 0 } }
            .photo { animation: away 1s infinite; transition: all 9s }
            .photo { display"""))  # fmt: skip
        text = (folder / "busy.html").read_text().replace("<img ", '<img loading="lazy" ')
        spying = (
            f'<script>fetch("{here}/spy"); new Image().src = "http://fernhollow.test/spy"</script>'
        )
        (folder / "busy.html").write_text(
            text + spying + "<script>alert(1)</script>"
            '<script>document.images[0].animate([{ translate: "9px" }], { duration: 900, iterations: 1 / 0 })</script>'
        )
        assert compared(browser, folder / "busy.html", folder / "m.svg").findings == ()
        assert asked == []  # from a file nothing but files
        served = fit(Chromium(browser), f"{here}/page.html", wanted(folder / "m.svg"))
        assert served.findings == ()
        assert "/page.html" in asked
        server.shutdown()


def test_pixels_alone_tell_as_much(browser: Browser, folder: Path) -> None:
    """The same page against layers of pixels, at twice the density, texts among them."""
    tab = browser.new_page(viewport={"width": 720, "height": 640}, device_scale_factor=2)
    tab.goto((folder / "page.html").as_uri())
    tab.evaluate("document.fonts.ready")
    tab.add_style_tag(content="body { background: none !important } "
                      "body * { visibility: hidden; background: none !important }")  # fmt: skip
    layers = []
    for name in ("lane", "note", "photo-2", "photo-1", "photo-0", "name"):
        tag = tab.add_style_tag(content=f".{name} {{ visibility: visible !important }}")
        data = tab.screenshot(omit_background=True)
        tag.evaluate("tag => tag.remove()")
        layers.append(
            Flat(name, (0, 0, 1440, 1280), pixels=np.asarray(Image.open(io.BytesIO(data))))
        )
    tab.close()
    drawn = etree.fromstring((folder / "m.svg").read_bytes())
    for name, color in (("top", (60, 92, 46, 255)), ("foot", (51, 35, 26, 255))):
        rect = next(one for one in drawn if one[0].text == name)
        x, y, width, height = (round(2 * float(rect.attrib[side])) for side in SIDES)
        layers.append(Flat(name, (x, y, width, height), color))
    layers.append(Flat("ground", (0, 0, 1440, 1280), (244, 234, 214, 255)))
    write_ora(folder / "m.ora", (1440, 1280), layers)
    page = folder / "moved.html"
    for rule, *told in (
        ("translate: 0 3px", "moved", "42.48px, 29px", "42.48px, 32px"),
        ("font-weight: 400", "weight", "600", "400"), ("font-family: serif", "font", "Figtree", "serif"),
    ):  # fmt: skip
        write_page(page, (".photo { display", f".name {{ {rule} }}\n.photo {{ display"))
        found = compared(browser, page, folder / "m.ora", density=2.0).findings
        shown = {one.placed.thing.name: one for one in found}
        fault = shown["name"].faults[0]
        assert [fault.fault, fault.wanted, fault.found] == told
        assert not {"photo-0", "photo-1", "photo-2", "note", "top", "ground"} & set(shown)


@settings(max_examples=30)
@given(some.floats(-6, 6), some.floats(-6, 6), some.integers(0, 99))
def test_a_part_of_a_pixel(right: float, down: float, seed: int) -> None:
    whole = noise(seed, 120, 100, 2.0).astype(np.float64)
    whole[..., 3] = 255
    seen = shift(whole, (down, right, 0), order=1, mode="nearest").clip(0, 255).astype(np.uint8)
    x, y, sure = moved(whole[20:80, 20:100].astype(np.uint8), seen, (20, 20))
    # half way between pixels what is interpolated is blurred, and tells a little less
    assert [x, y] == pytest.approx([right, down], abs=0.2)
    assert sure > 0.8


def test_edges_lie_between_pixels() -> None:
    alpha = np.zeros((10, 12), np.uint8)
    alpha[2:8, 3:9] = 255
    alpha[2:8, 2] = 51
    alpha[8, 3:9] = 204
    assert inked(alpha) == pytest.approx((2.8, 2, 9, 8.8))
    assert inked(alpha * 0) is None


def test_the_command_says_it_and_ends_with_one(process: Run, folder: Path) -> None:
    write_page(folder / "one.html", ("gap: 20px", "gap: 25px"))
    done = process("fit", "one.html", "m.svg", "--page", "report.html", "--picture", "p.png",
                   "--force", cwd=folder, code=1)  # fmt: skip
    assert "card card-1: 5 px too far right" in done.stdout
    assert re.search(r"one\.html:\d+  \.cards \{ gap: 25px \}  ->  20px", done.stdout)
    assert "12 of 20 fit within 1 px" in done.stdout
    report = (folder / "report.html").read_text()
    assert "5 px too far right" in report
    assert not re.search(r'(?:src|href)="(?!data:)', report)
    with Image.open(folder / "p.png") as picture:
        assert picture.size == (720, 640)
    done = process("fit", "one.html", "m.svg", "--json", "--diff", cwd=folder, code=1)
    data = json.loads(done.stdout)
    finding = data["pages"][0]["findings"][0]
    assert (finding["thing"], finding["dx"], len(finding["followers"])) == ("card card-1", 5, 7)
    assert finding["remedy"]["right"] == "20px"


def test_the_patch_makes_it_fit(process: Run, folder: Path) -> None:
    write_page(folder / "two.html", ("border-radius: 12px", "border-radius: 20px"))
    patch = process("fit", "two.html", "m.svg", "--diff", cwd=folder, code=1).stdout
    subprocess.run(["git", "apply", "-"], input=patch, text=True, cwd=folder, check=True)
    assert (folder / "two.html").read_text() == (folder / "page.html").read_text()


@pytest.mark.parametrize(
    "said, error",
    [
        (("gone.html", "m.svg"), "There is no page gone.html."),
        (("page.html", "gone.svg"), "gone.svg: there is no such file."),
        (("http://fernhollow.test/", "m.svg"), "is not on this machine"),
        (("page.html",), "this is no project"),
        (("page.html", "m.svg", "--widths", "375,wide"), "widths are 200 to 4000 px"),
        (("page.html", "m.svg", "--page", "page.html"), "page.html"),
    ],
)
def test_what_can_not_be_compared(
    riffler: Run, folder: Path, said: tuple[str, ...], error: str
) -> None:
    assert error in riffler("fit", *said, cwd=folder, code=2).stderr


def test_pages_that_are_too_large_or_nowhere(process: Run, browser: Browser, folder: Path) -> None:
    for size, error in (
        ("90000px; height: 20000px", "too large to look at"),
        ("9px; height: 40000px", "px high; 32000 is the most"),
    ):
        text = f'<!doctype html><title>t</title><div style="width: {size}"></div>'
        (folder / "vast.html").write_text(text)
        with pytest.raises(RifflerError, match=error):
            compared(browser, folder / "vast.html", folder / "m.svg")
    error = process("fit", "http://127.0.0.1:9/", "m.svg", cwd=folder, code=2).stderr
    assert "did not open" in error


def test_the_pages_of_a_project(process: Run, demo: Path) -> None:
    """The example's own pages fit, wide and narrow; findings of a project can be accepted."""
    for style in (demo / "out/styles/site.css", demo / "styles/site.css"):
        style.write_text(style.read_text().replace("58px 0 20px", "64px 0 20px"))
    settings = (demo / "riffler.toml").read_text()
    (demo / "riffler.toml").write_text(
        f'{settings}\n[fit.accept]\n"hives.html: plans/title: moved" = "so"\n'
    )
    done = json.loads(process("fit", "--widths", "375", "--json", cwd=demo).stdout)
    assert done["widths"] == []
    hives, index = done["pages"]
    assert (index["things"], index["fitting"], index["findings"]) == (35, 35, [])
    assert (hives["things"], hives["findings"]) == (47, [])
    (finding,) = hives["accepted"]
    assert (finding["thing"], finding["dy"], finding["reason"]) == ("plans/title", 6, "so")
    remedy = finding["remedy"]
    assert (remedy["file"], remedy["right"]) == ("styles/site.css", "58px 0 20px")


def test_a_page_that_is_not_built(riffler: Run, tmp_path: Path) -> None:
    files = {"cuts/m.toml": 'mockup = "../mockups/m.ora"\n[slice.a]\nat = [0, 0, 9, 9]\nalt = ""\n'}
    root = write_project(tmp_path / "p", files, [Flat("a", (0, 0, 50, 50))])
    assert "riffler build" in riffler("fit", cwd=root, code=2).stderr
    assert "of the page nowhere" in riffler("fit", "nowhere", cwd=root, code=2).stderr


#: Two plates side by side and one below, and what is done to the page; what is told.
SEAMS = [
    ("", []),
    (".right { translate: 0.6px 0 }", [("right", "moved")]),
    (".right { translate: 0.45px 0 }", [("right", "gap")]),
    (".below { translate: 0 0.45px }", [("below", "gap")]),
    (".below { translate: 0 3px }", [("below", "moved")]),
    ("body { height: 430px }", [("page", "page length")]),
    (".below { height: 230px }", [("below", "size")]),
]


@pytest.mark.parametrize(("rule", "told"), SEAMS)
def test_seams_and_the_end_of_the_page(
    browser: Browser, tmp_path: Path, rule: str, told: list[tuple[str, str]]
) -> None:
    """What touches in the mockup has a seam on the page, or the page goes on, with nothing wrong."""
    style = (
        "* { margin: 0 } body { width: 400px; height: 400px; position: relative } "
        "div { position: absolute } .left { left: 0; top: 0; width: 200px; height: 200px; background: #33231a } "
        ".right { left: 200px; top: 0; width: 200px; height: 200px; background: #3c5c2e } "
        ".below { left: 0; top: 200px; width: 400px; height: 200px; background: #7a3a10 }"
    )
    body = '<div class="left"></div><div class="right"></div><div class="below"></div>'
    (tmp_path / "m.svg").write_text(
        '<svg xmlns="http://www.w3.org/2000/svg" width="400" height="400"><rect id="ground" width="400" '
        'height="400" fill="#ffffff"/><rect id="left" width="200" height="200" fill="#33231a"/><rect id="right" '
        'x="200" width="200" height="200" fill="#3c5c2e"/><rect id="below" y="200" width="400" height="200" '
        'fill="#7a3a10"/></svg>'
    )
    page = tmp_path / "page.html"
    page.write_text(f"<!doctype html><title>t</title><style>{style}{rule}</style>{body}")
    within = 0.65 if "0.6px" in rule else 1.0
    found = fit(
        Chromium(browser),
        page.as_uri(),
        expected(Workspace().open(tmp_path / "m.svg"), 1.0),
        within,
    )
    assert [(one.placed.thing.name, one.faults[0].fault) for one in found.findings] == told
    if told and told[0][1] == "gap":
        assert found.findings[0].faults[0].found == "0.45px"
    if told and told[0][1] == "page length":
        assert (found.findings[0].faults[0].wanted, found.findings[0].faults[0].found) == (
            "400px",
            "430px",
        )


@pytest.mark.parametrize(
    ("strip", "color", "told"), [(6, "#c9b6e4", 1), (6, "#241414", 0), (0, "#c9b6e4", 0)]
)
def test_a_ground_of_which_little_is_seen(
    browser: Browser, tmp_path: Path, strip: int, color: str, told: int
) -> None:
    """A ground under bands of its own colour, that all of it or all but a strip lies below."""
    bands = [(0, 400), (400 + strip, 600 - strip)]
    rects = "".join(
        f'<rect width="600" y="{y}" height="{high}" fill="#241414"/>' for y, high in bands
    )
    (tmp_path / "m.svg").write_text(
        '<svg xmlns="http://www.w3.org/2000/svg" width="600" height="1000">'
        f'<rect id="ground" width="600" height="1000" fill="#241414"/>{rects}</svg>'
    )
    divs = "".join(
        f'<div style="position:absolute;top:{y}px;width:600px;height:{high}px;background:#241414"></div>'
        for y, high in bands
    )
    page = tmp_path / "page.html"
    page.write_text(
        "<!doctype html><title>t</title><style>* { margin: 0 } "
        f".page {{ position: relative; width: 600px; height: 1000px; background: {color} }}</style>"
        f'<div class="page">{divs}</div>'
    )
    found = fit(
        Chromium(browser), page.as_uri(), expected(Workspace().open(tmp_path / "m.svg"), 1.0), 1.0
    )
    faults = [(one.faults[0].fault, one.faults[0].found) for one in found.findings]
    assert faults == [("colour", color)] * told


STATES = """
[slice.tab]
x = [40, 160]
y = [40, 80]
link = "index"
alt = ""
[slice.tab.state.hover]
show = ["glow"]
[slice.tab.state.focus]
show = ["ring"]
[slice.tab.state.current]
show = ["mark"]
[slice.tab.state.opened]
show = ["glow"]
"""

#: What the page's styles say of the tab, and what is told of its states.
HOVER, FOCUS = ".tab:hover { background: #e2a32b }", ".tab:focus { background: #7a3a10 }"
CURRENT = '.tab[aria-current="page"] { background: #2f4b7c }'
FORCED = [
    (f"{HOVER} .tab:focus-visible {{ background: #7a3a10 }} {CURRENT}", []),
    (f"li:hover .tab {{ background: #e2a32b }} {FOCUS} .tab[aria-current] {{ background: #2f4b7c }}", []),
    (FOCUS, ["in hover nothing changes", "in current nothing changes"]),
    (f"{HOVER.replace('e2a32b', 'a32be2')} {FOCUS} {CURRENT}", ["in hover #a32be2 instead of #e2a32b"]),
]  # fmt: skip


@pytest.mark.parametrize(("rules", "told"), FORCED)
def test_states_are_forced_and_held_against_the_slices(
    browser: Browser, monkeypatch: pytest.MonkeyPatch, tmp_path: Path, rules: str, told: list[str]
) -> None:
    root = write_project(tmp_path / "p", {"riffler.toml": "system-fonts = true\n"})
    (root / "mockups/m.ora").unlink()
    parts = [("ground", 0, 0, 400, 300, "#f4ead6", ""), ("plate", 40, 40, 120, 40, "#3c5c2e", "")]
    parts += [(name, 40, 40, 120, 40, color, ' display="none"') for name, color in
              (("glow", "#e2a32b"), ("ring", "#7a3a10"), ("mark", "#2f4b7c"))]  # fmt: skip
    rects = "".join(
        f'<rect id="{name}" x="{x}" y="{y}" width="{w}" height="{h}" fill="{color}"{more}/>'
        for name, x, y, w, h, color, more in parts
    )
    (root / "mockups/index.svg").write_text(
        f'<svg xmlns="http://www.w3.org/2000/svg" width="400" height="300">{rects}</svg>'
    )
    (root / "cuts/index.toml").write_text(f'mockup = "../mockups/index.svg"\n{STATES}')
    (root / "out").mkdir()
    (root / "out/index.html").write_text(
        "<!doctype html><title>t</title><style>* { margin: 0; padding: 0 } body { background: #f4ead6; height: 300px } "
        ".tab { position: absolute; left: 40px; top: 40px; width: 120px; height: 40px; background: #3c5c2e } "
        f'{rules}</style><ul style="list-style: none"><li><a class="tab" href="#"></a></li></ul>'
    )
    monkeypatch.setattr(states, "WAITS", (0, 90))
    mockup = root / "mockups/index.svg"
    coming = expected(Workspace.around(mockup).open(mockup))
    found = fit(Chromium(browser), (root / "out/index.html").as_uri(), coming)
    assert [phrases(one) for one in found.findings] == ([told] if told else [])
    if told:
        (one,) = found.findings
        assert (one.placed.thing.name, one.selector, one.key) == (
            "tab", ".tab", "index.html: tab: state",
        )  # fmt: skip
        assert found.fitting == found.count


@pytest.mark.parametrize(
    ("rule", "told"),
    [
        ("border-bottom: 1px solid #c0a070", []),
        ("border-bottom: 1px solid #704020", [("rule", "colour", 0)]),
        ("border-bottom: 1px solid #c0a070; height: 44px", [("rule", "moved", 6)]),
        ("", [("rule", "missing", 0)]),
    ],
)
def test_a_line_may_be_the_border_of_an_element(
    browser: Browser, tmp_path: Path, rule: str, told: list[tuple[str, str, float]]
) -> None:
    (tmp_path / "m.svg").write_text(
        '<svg xmlns="http://www.w3.org/2000/svg" width="300" height="200"><rect id="ground" width="300" '
        'height="200" fill="#ffffff"/><rect id="rule" x="20" y="58" width="200" height="1" fill="#c0a070"/></svg>'
    )
    page = tmp_path / "page.html"
    page.write_text(
        "<!doctype html><title>t</title><style>* { margin: 0 } body { height: 200px } "
        "p { position: absolute; left: 20px; top: 20px; width: 200px; height: 38px; "
        f"{rule} }}</style><p></p>"
    )
    found = fit(
        Chromium(browser), page.as_uri(), expected(Workspace().open(tmp_path / "m.svg"), 1.0)
    )
    assert [
        (one.placed.thing.name, one.faults[0].fault, round(one.placed.dy)) for one in found.findings
    ] == told
