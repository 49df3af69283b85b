"""Tidied drawings held against their sources by a renderer that had no part in them: Chromium."""

from __future__ import annotations

import base64
import random
from collections.abc import Callable
from pathlib import Path

import numpy as np
import pytest
from lxml import etree
from PIL import Image
from playwright.sync_api import Browser

from conftest import Run, shown
from making import write_project
from riffler.mockup.svg.transform import parse as parse_transform
from riffler.tidy.drawing import Drawing
from riffler.tidy.path_data import parse
from riffler.tidy.precision import Precision, digits_for
from riffler.tidy.tidying import tidy
from riffler.vector.checked import compared, tidied

COLORS = ("#c8862a", "rgb(51, 35, 26)", "seagreen", "#FFF", "url(#fade)", "url(#ring)", "none")

DEFINITIONS = """<defs><linearGradient id="fade" x1="0%" y1="0" x2="100%" y2="50%">
<stop offset="0.00" style="stop-color:#f3c25a;stop-opacity:1"/><stop offset="1" stop-color="#2f7436"/>
</linearGradient><radialGradient id="ring" gradientUnits="userSpaceOnUse" cx="40" cy="30.0" r="35"
gradientTransform="rotate(20 40 30)" xlink:href="#lent"/><linearGradient id="lent"><stop offset="0"
stop-color="#c8862a"/><stop offset="80%" stop-color="#33231a"/></linearGradient>
<clipPath id="cut"><circle cx="40" cy="30" r="26"/></clipPath><linearGradient id="unused"/>
<mask id="veil"><rect width="80" height="60" fill="#fff" fill-opacity=".6"/></mask></defs>"""

HEAD = (
    '<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" '
    'xmlns:i="http://editor.example/i" width="80" height="60" viewBox="0 0 80 60" i:v="1">'
)


class Maker:
    """Random drawings of a seed, with all that passes look at."""

    def __init__(self, seed: int) -> None:
        self._random = random.Random(seed)

    def drawing(self) -> bytes:
        parts = "".join(self.thing(2) for _ in range(self._random.randint(3, 7)))
        return f"{HEAD}<!-- {self._random.random()} -->{DEFINITIONS}{parts}</svg>".encode()

    def number(self, low: float, high: float) -> str:
        digits = self._random.choice((0, 1, 2, 4, 7))
        return f"{self._random.uniform(low, high):.{digits}f}"

    def thing(self, depth: int) -> str:
        kinds: list[Callable[[], str]] = [
            self.path,
            self.rect,
            self.circle,
            self.polygon,
            self.line,
        ]
        if depth and self._random.random() < 0.4:
            inner = "".join(self.thing(depth - 1) for _ in range(self._random.randint(0, 3)))
            return f'<g i:label="Group" id="g{self._random.random()}"{self.says()}>{inner}</g>'
        return self._random.choice(kinds)()

    def says(self) -> str:
        """Properties, as attributes or as a style; sometimes what holds anyway."""
        pick = self._random.random
        said = {}
        if pick() < 0.7:
            said["fill"] = self._random.choice(COLORS)
        if pick() < 0.5:
            said |= {"stroke": self._random.choice(COLORS[:4]), "stroke-width": self.number(0.5, 5)}
        if pick() < 0.3:
            said["stroke-linejoin"] = self._random.choice(("round", "miter", "bevel"))
        if pick() < 0.3:
            said["stroke-dasharray"] = f"{self.number(2, 6)}, {self.number(1, 3)}"
        if pick() < 0.2:
            said["opacity"] = self._random.choice(("1", ".5", "0.40000", "0"))
        if pick() < 0.2:
            said["fill-rule"] = self._random.choice(("evenodd", "nonzero"))
        if pick() < 0.1:
            said["clip-path" if pick() < 0.5 else "mask"] = (
                "url(#cut)" if pick() < 0.5 else "url(#veil)"
            )
        if said.get("mask") == "url(#cut)" or said.get("clip-path") == "url(#veil)":
            said = {key: value for key, value in said.items() if key not in ("mask", "clip-path")}
        if pick() < 0.1:
            said["display"] = self._random.choice(("none", "inline"))
        moved = f' transform="{self.transform()}"' if pick() < 0.5 else ""
        if pick() < 0.5:
            return moved + "".join(f' {key}="{value}"' for key, value in said.items())
        return (
            moved + f' style="{"; ".join(f"{k}: {v}" for k, v in said.items())}"' if said else moved
        )

    def transform(self) -> str:
        number = self.number
        return self._random.choice((
            f"translate({number(-9, 9)},{number(-9, 9)})", f"scale({number(0.6, 1.5)})",
            f"rotate({number(-40, 40)} 40 30)", f"matrix(1 0 .2 1 {number(-5, 5)} 0)",
            f"translate({number(-9, 9)}) scale(1 -1) translate(0 -60)", "scale(1)", "rotate(90 40 30)",
        ))  # fmt: skip

    def point(self) -> str:
        return f"{self.number(4, 76)},{self.number(4, 56)}"

    def path(self) -> str:
        parts = [f"M {self.point()}"]
        for _ in range(self._random.randint(1, 5)):
            kind = self._random.choice("LlHVCSQTAZ")
            if kind in "HV":
                parts.append(f"{kind} {self.number(4, 56)}")
            elif kind == "l":
                parts.append(f"l {self.number(-20, 20)} {self.number(-20, 20)}")
            elif kind == "A":
                flags = f"{self._random.randint(0, 1)} {self._random.randint(0, 1)}"
                radii = f"{self.number(3, 30)} {self.number(3, 30)} {self.number(0, 90)}"
                parts.append(f"A {radii} {flags} {self.point()}")
            elif kind == "Z":
                parts.append("z")
            else:
                count = {"L": 1, "C": 3, "S": 2, "Q": 2, "T": 1}[kind]
                parts.append(f"{kind} {' '.join(self.point() for _ in range(count))}")
        return f'<path d="{" ".join(parts)}"{self.says()}/>'

    def rect(self) -> str:
        place = f'x="{self.number(0, 40)}px" y="{self.number(0, 30)}"'
        size = f'width="{self.number(5, 40)}" height="{self.number(5, 30)}"'
        round_ = self._random.choice(("", ' rx="4"', ' rx="3" ry="6"'))
        return f"<rect {place} {size}{round_}{self.says()}/>"

    def circle(self) -> str:
        place = f'cx="{self.number(10, 70)}" cy="{self.number(10, 50)}"'
        if self._random.random() < 0.5:
            return f'<circle {place} r="{self.number(0, 15)}"{self.says()}/>'
        return (
            f'<ellipse {place} rx="{self.number(2, 15)}" ry="{self.number(2, 15)}"{self.says()}/>'
        )

    def polygon(self) -> str:
        points = " ".join(self.point() for _ in range(self._random.randint(2, 6)))
        name = self._random.choice(("polygon", "polyline"))
        return f'<{name} points="{points}"{self.says()}/>'

    def line(self) -> str:
        (x1, y1), (x2, y2) = (self.point().split(",") for _ in range(2))
        return f'<line x1="{x1}" y1="{y1}" x2="{x2}" y2="{y2}"{self.says()}/>'


def shot(browser: Browser, text: bytes | str) -> np.ndarray:
    """A drawing as an image in a page, four times its size."""
    data = text if isinstance(text, bytes) else text.encode()
    url = f"data:image/svg+xml;base64,{base64.b64encode(data).decode()}"
    markup = f'<body style="margin:0"><img src="{url}" style="display:block">'
    return shown(browser, markup, 80, 60, 4)


@pytest.mark.parametrize("seed", range(9))
def test_another_renderer_sees_no_difference(browser: Browser, seed: int) -> None:
    data = Maker(seed).drawing()
    found = tidied(data, "a.svg")
    assert found.is_changed
    assert len(found.text) < 0.9 * len(data)
    difference = compared(shot(browser, data), shot(browser, found.text))
    # The two renderers cover edges in steps of their own; what is moved or lost is far more.
    assert difference.mean < 0.35, data.decode()
    assert difference.share < 0.012, data.decode()
    assert tidied(found.text.encode(), "a.svg").text == found.text


@pytest.mark.parametrize("seed", range(100, 106))
def test_the_exact_drawing_is_the_same(browser: Browser, seed: int) -> None:
    """Without leaving out digits it differs by how an edge of a box or of a path is smoothed."""
    from riffler.tidy.tidying import FINENESS, Tidying

    data = Maker(seed).drawing()
    text = tidy(data, "a.svg", Tidying(fineness=len(FINENESS) - 1)).text
    difference = compared(shot(browser, data), shot(browser, text))
    assert difference.mean < 0.06, data.decode()
    assert difference.share < 0.008, data.decode()


# How many digits


@pytest.mark.parametrize(
    ("error", "digits"),
    [(0.5, 0), (0.05, 1), (0.0051, 2), (0.005, 2), (0.0049, 3), (6.0, 0), (0, 8)],
)
def test_digits_stay_within_an_error(error: float, digits: int) -> None:
    assert digits_for(error) == digits
    assert digits == 8 or 0.5 * 10.0**-digits <= error + 1e-9


@pytest.mark.parametrize(
    ("around", "scale"),
    [
        ("<g>{0}</g>", 1.0),
        ('<g transform="scale(4)">{0}</g>', 4.0),
        ('<g transform="scale(4)"><g transform="rotate(30) scale(.5)">{0}</g></g>', 2.0),
        ('<svg viewBox="0 0 10 10" width="40" height="40">{0}</svg>', 4.0),
        (
            '<defs><g id="a">{0}</g></defs><use href="#a" transform="scale(3)"/><use href="#a"/>',
            3.0,
        ),
        ('<clipPath clipPathUnits="objectBoundingBox">{0}</clipPath>', 1000.0),
    ],
)
def test_things_that_are_enlarged_keep_more_digits(around: str, scale: float) -> None:
    inner = '<path d="M0 0h1"/>'
    root = etree.fromstring(f'<svg xmlns="http://www.w3.org/2000/svg">{around.format(inner)}</svg>')
    precision = Precision(Drawing(root), 0.005, 0.005)
    path = next(e for e in root.iter() if str(e.tag).endswith("path"))
    assert precision.scale(path) == pytest.approx(scale)
    assert precision.grid(path).digits == digits_for(0.005 / scale)


@pytest.mark.parametrize("seed", range(12))
def test_folded_transforms_move_every_point_as_they_did(seed: int) -> None:
    maker = Maker(seed + 500)
    transform = maker.transform()
    path = f'<path transform="{transform}" d="M4 5L20 9 12 30Q3 3 9 9"/>'
    data = f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 80 60">{path}</svg>'
    text = tidy(data.encode(), "a").text
    found = etree.fromstring(text.encode())[0]
    left = parse_transform(found.get("transform"))
    wanted = parse_transform(transform)
    before, after = (parse(d) for d in ("M4 5L20 9 12 30Q3 3 9 9", found.get("d", "")))
    assert len(before) == len(after)
    for one, other in zip(before, after, strict=True):
        there = wanted.transformPoint(one.end)
        assert left.transformPoint(other.end) == pytest.approx(there, abs=0.02)


# Cutlists


STATES = """mockup = "../mockups/m.svg"
[slice.lamp]
only = ["lamp"]
save = ["svg"]
alt = ""
[slice.lamp.state.hover]
show = ["lamp/glow"]
[slice.seal]
only = ["seal"]
alt = ""
"""

LAMP = (
    '<svg xmlns="http://www.w3.org/2000/svg" width="60" height="60" viewBox="0 0 60 60">'
    '<g id="lamp"><circle id="glow" display="none" cx="20" cy="20" r="12" fill="#f3c25a"/>'
    '<rect id="post" x="10" y="10" width="20" height="20" fill="#33231a"/></g>'
    '<path id="seal" fill="#c8862a" d="M40 40h10v10H40z"/></svg>'
)

SHARED = """[favicon]
slice = "seal"
art = { 16 = "art.png" }
[sprite.all]
slices = ["seal"]
"""


def test_states_are_vector_files_too(riffler: Run, tmp_path: Path) -> None:
    root = write_project(tmp_path / "p", {"cuts/m.toml": STATES, "mockups/m.svg": LAMP})
    riffler("cut", cwd=root)
    rest, hover = ((root / f"out/images/lamp{s}.svg").read_text() for s in ("", ".hover"))
    assert "circle" not in rest
    assert "#f3c25a" in hover
    (root / "pages/index.html").write_text("<p class='piece-lamp'></p>")
    riffler("build", cwd=root)
    css = (root / "out/styles/pieces.css").read_text()
    assert "lamp.hover.svg" in css


def test_what_is_shared_follows_its_files_and_outlives_a_small_cut(
    riffler: Run, tmp_path: Path
) -> None:
    files = {"cuts/m.toml": STATES, "mockups/m.svg": LAMP, "riffler.toml": SHARED}
    root = write_project(tmp_path / "p", files)
    art = Image.new("RGBA", (16, 16), (9, 9, 200, 255))
    art.save(root / "art.png")
    riffler("cut", cwd=root)
    made = {path: path.read_bytes() for path in (root / "out").rglob("*") if path.is_file()}
    riffler("cut", "lamp", cwd=root)
    assert {path: path.read_bytes() for path in made} == made
    assert "Wrote 0" in riffler("cut", cwd=root).stdout
    Image.new("RGBA", (16, 16), (200, 9, 9, 255)).save(root / "art.png")
    said = riffler("cut", cwd=root).stdout
    assert "favicon.ico" in said
    assert (root / "out/favicon.ico").read_bytes() != made[root / "out/favicon.ico"]
    riffler("cut", "--dry-run", cwd=root)
    (root / "art.png").unlink()
    assert 'no file "art.png"' in riffler("cut", cwd=root, code=2).stderr
