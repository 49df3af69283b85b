"""Colours, types, spaces, radii and shadows under names, held against a page drawn for it."""

from __future__ import annotations

import json
import re
import shutil
from pathlib import Path
from typing import Any

import jsonschema
import numpy as np
import pytest
import tinycss2
from PIL import Image, ImageDraw

import riffler as riffler_package
from conftest import Run
from making import Flat, write_ora, write_project
from riffler.color import from_bytes
from riffler.tokens.inks import inks
from riffler.tokens.palette import contrast, hue

FONTS = Path(riffler_package.__file__).parent / "demo/fernhollow/fonts"

CARD = """<g id="card-{n}"><rect id="plate" x="{x}" y="200" width="250" height="180" rx="12"
 fill="#fffdf8" style="filter:drop-shadow(0 4px 6px #00000033)"/>
<text id="name" x="{inner}" y="250" font-family="Figtree" font-size="16" fill="#333333">Hive</text>
</g>"""

PAGE = """<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 900 600">
<rect id="ground" width="900" height="600" fill="#f4ead6"/>
<text id="title" x="40" y="90" font-family="Fraunces" font-size="40" font-weight="700"
 fill="#333333">Hives for hire</text>
<text id="faint" x="40" y="140" font-family="Figtree" font-size="16" fill="#a08a6a">By the month</text>
<text id="slip" x="40" y="170" font-family="Figtree" font-size="16" fill="#343434">or year</text>
{cards}
<path id="drop" d="M760 440l30 60a34 34 0 1 1 -60 0z" fill="#c8362a"/>
</svg>"""

#: What a token is, by type: Design Tokens Format Module 2025.10, sections 8 and 9.
PIXELS = {
    "type": "object",
    "properties": {"value": {"type": "number"}, "unit": {"enum": ["px", "rem"]}},
    "required": ["value", "unit"],
    "additionalProperties": False,
}
COLOR = {
    "type": "object",
    "properties": {
        "colorSpace": {"const": "srgb"},
        "components": {
            "type": "array", "minItems": 3, "maxItems": 3,
            "items": {"type": "number", "minimum": 0, "maximum": 1},
        },
        "alpha": {"type": "number", "minimum": 0, "maximum": 1},
        "hex": {"type": "string", "pattern": "^#[0-9a-f]{6}$"},
    },
    "required": ["colorSpace", "components"],
    "additionalProperties": False,
}  # fmt: skip
VALUES: dict[str, dict[str, Any]] = {
    "color": COLOR,
    "dimension": PIXELS,
    "shadow": {
        "properties": dict.fromkeys(("offsetX", "offsetY", "blur", "spread"), PIXELS)
        | {"color": COLOR},
        "required": ["color", "offsetX", "offsetY", "blur", "spread"],
    },
    "typography": {
        "properties": {
            "fontFamily": {"type": "array", "items": {"type": "string"}, "minItems": 1},
            "fontSize": PIXELS,
            "fontWeight": {"type": "number", "minimum": 1, "maximum": 1000},
            "letterSpacing": PIXELS,
            "lineHeight": {"type": "number"},
        },
        "required": ["fontFamily", "fontSize", "fontWeight", "letterSpacing", "lineHeight"],
    },
}


@pytest.fixture
def project(tmp_path: Path) -> Path:
    root = write_project(tmp_path / "p", {"cuts/page.toml": 'mockup = "../mockups/page.svg"\n'})
    shutil.copytree(FONTS, root / "fonts")
    cards = "".join(CARD.format(n=n, x=40 + 274 * n, inner=60 + 274 * n) for n in range(3))
    (root / "mockups/page.svg").write_text(PAGE.format(cards=cards))
    return root


def _found(riffler: Run, project: Path, *more: str) -> dict[tuple[str, str], Any]:
    data = json.loads(riffler("tokens", "--json", *more, cwd=project).stdout)
    return {(token["sort"], token["value"]): token for token in data["tokens"]} | {
        ("all", ""): data
    }


def test_values_are_found_and_named(riffler: Run, project: Path) -> None:
    found = _found(riffler, project)
    names = {key: (one["name"], one["uses"]) for key, one in found.items() if key[0] != "all"}
    assert names == {
        ("color", "#333333"): ("text", 4),
        ("color", "#fffdf8"): ("white-99", 3),
        ("color", "#a08a6a"): ("amber-65", 1),
        ("color", "#c8362a"): ("red-55", 1),
        ("color", "#343434"): ("grey-33", 1),
        ("color", "#f4ead6"): ("ground", 1),
        ("type", "700 40px Fraunces"): ("title-40", 1),
        ("type", "400 16px Figtree"): ("body", 5),
        ("space", "24px"): ("24", 1),
        ("radius", "12px"): ("12", 3),
        ("shadow", "0 4px 12px #00000033"): ("12", 3),
        ("width", "250px"): ("250", 1),
        ("width", "900px"): ("content", 1),
    }
    data = found["all", ""]
    assert data["near"] == [{"usual": "text", "slip": "grey-33", "sort": "color"}]
    faint = [(one["color"], one["ground"]) for one in data["contrast"] if not one["enough"]]
    assert faint == [("#a08a6a", "#f4ead6")]


def test_a_persons_names_stay(riffler: Run, project: Path) -> None:
    settings, mockup = project / "riffler.toml", project / "mockups/page.svg"
    settings.write_text('# ours\n[tokens.color]\nhoney = "#C8362A"  # the drop\n')
    assert _found(riffler, project)["color", "#c8362a"]["name"] == "honey"
    riffler("tokens", "--pin", cwd=project)
    pinned = settings.read_text()
    assert pinned.startswith('# ours\n[tokens.color]\nhoney = "#C8362A"  # the drop\n')
    settings.write_text(pinned.replace("\nground =", "\nlinen ="))
    mockup.write_text(mockup.read_text().replace("#c8362a", "#c9382c").replace("40px", "41px"))
    found = _found(riffler, project)
    assert found["color", "#f4ead6"]["name"] == "linen"
    assert found["color", "#c9382c"]["name"] == "honey"
    assert all(one["pinned"] for key, one in found.items() if key[0] != "all")
    mockup.write_text(mockup.read_text().replace("#c9382c", "#2a36c8"))
    assert {"sort": "color", "name": "honey"} in _found(riffler, project)["all", ""]["unused"]


def test_style_sheet_and_interchange(riffler: Run, project: Path) -> None:
    riffler("tokens", "-o", "t.css", "-o", "t.json", "--unit", "rem", cwd=project)
    (rule,) = tinycss2.parse_stylesheet(
        (project / "t.css").read_text(), skip_comments=True, skip_whitespace=True
    )
    declared = {
        one.name: tinycss2.serialize(one.value).strip()
        for one in tinycss2.parse_blocks_contents(rule.content)
        if one.type == "declaration"
    }
    assert declared["--color-ground"] == "#f4ead6"
    assert declared["--space-24"] == "1.5rem"
    assert declared["--type-body"] == "400 1rem Figtree"
    groups = json.loads((project / "t.json").read_text())
    tokens = [
        (group["$type"], name, token)
        for group in (group for key, group in groups.items() if not key.startswith("$"))
        for name, token in group.items() if not name.startswith("$")
    ]  # fmt: skip
    assert len(tokens) == len(declared)
    for kind, name, token in tokens:
        assert not re.search(r"[{}.]|^\$", name)
        assert set(token) <= {"$value", "$description", "$extensions", "$type"}
        jsonschema.validate(token["$value"], VALUES[kind])


@pytest.mark.parametrize(
    ("settings", "arguments", "said"),
    [
        ('[tokens.color]\nhoney = "gold"', [], 'should be a colour like "#c8862a"'),
        ('[tokens.space]\ngap = "2em"', [], 'should be a length like 24 or "24px"'),
        ('[tokens.color]\n"a b" = "#fff"', [], "tokens.color"),
        ("", ["--unit", "vw"], "px or rem"),
        ("", ["-o", "t.txt"], "should end in .css or .json"),
        ("", ["-o", "riffler.css/x.css", "-o", "styles/site.css"], ""),
    ],
)
def test_what_is_wrong_is_said(
    riffler: Run, project: Path, settings: str, arguments: list[str], said: str
) -> None:
    (project / "riffler.toml").write_text(settings)
    (project / "styles").mkdir(exist_ok=True)
    (project / "styles/site.css").write_text("p {}")
    result = riffler("tokens", *arguments, cwd=project, code=2)
    assert said in result.stderr
    assert (project / "styles/site.css").read_text() == "p {}"


def test_smoothed_edges_are_no_colours() -> None:
    image = Image.new("RGBA", (480, 480))
    draw = ImageDraw.Draw(image)
    draw.ellipse((40, 40, 440, 440), fill="#2f6b3a")
    draw.ellipse((140, 140, 340, 340), fill="#f2c14e")
    draw.line((0, 430, 480, 300), fill="#8a2f5b", width=28)
    small = np.asarray(image.resize((80, 80), Image.Resampling.BOX))
    assert set(inks(from_bytes(small))) == {"#2f6b3a", "#f2c14e", "#8a2f5b"}


def test_a_gradient_is_told_by_its_parts() -> None:
    ramp = np.linspace((40, 90, 200), (250, 200, 60), 200).round().astype(np.uint8)
    pixels = np.dstack([np.repeat(ramp[None], 40, 0), np.full((40, 200), 255, np.uint8)])
    found = inks(from_bytes(pixels))
    assert 2 <= len(found) <= 5
    assert {hue(color) for color in found} >= {"blue"}


@pytest.mark.parametrize(
    ("one", "other", "ratio"),
    [("000000", "ffffff", 21.0), ("767676", "ffffff", 4.54), ("777777", "ffffff", 4.48)],
)
def test_contrast_is_that_of_the_standard(one: str, other: str, ratio: float) -> None:
    colors = [np.frombuffer(bytes.fromhex(text), np.uint8)[None] for text in (one, other)]
    assert float(contrast(*colors)[0]) == pytest.approx(ratio, abs=0.005)


def test_text_in_pixels_and_a_hostile_name(riffler: Run, tmp_path: Path) -> None:
    name = "*/ } body { x:y /* <script>"
    write_ora(tmp_path / "*evil.ora", (60, 40), [Flat(name, (0, 0, 60, 40), (10, 120, 90, 255))])
    riffler("tokens", "*evil.ora", "-o", "t.css", cwd=tmp_path)
    rules = tinycss2.parse_stylesheet((tmp_path / "t.css").read_text(), skip_whitespace=True)
    assert [rule.type for rule in rules] == ["comment", "qualified-rule"]
    assert "#0a785a" in (tmp_path / "t.css").read_text()
