"""Every recipe, run as it is written: its files in a project, cut and built, and what came of it."""

from __future__ import annotations

import json
import re
from pathlib import Path

import pytest
from PIL import Image
from playwright.sync_api import Browser

from conftest import Run

RECIPES = Path(__file__).parents[1] / "docs/recipes.md"

PAPER = "".join(
    f'<rect x="{x}" y="{y}" width="20" height="20" fill="#f2e6cc"/>'
    for y in range(0, 400, 40) for x in range(0, 600, 40)
)  # fmt: skip

MOCKUP = f"""<svg xmlns="http://www.w3.org/2000/svg" width="600" height="400">
<g id="paper"><rect id="sheet" width="600" height="400" fill="#f6ecd8"/>{PAPER}</g>
<g id="tab"><rect id="face" y="100" width="120" height="40" fill="#33231a"/>
  <rect id="glow" y="100" width="120" height="40" fill="#6b4a24" visibility="hidden"/>
  <rect id="marker" y="134" width="120" height="6" fill="#e8ad3c" visibility="hidden"/></g>
<rect id="panel" x="300" y="200" width="200" height="150" rx="16" fill="#fffaf0"/>
<g id="smoker"><circle id="bowl" cx="300" cy="300" r="60" fill="#9aa3a8"/>
  <rect id="lid" x="270" y="220" width="60" height="40" fill="#6f787c"/></g>
<path id="star" d="M100 200l8 20 21 1-16 14 6 21-19-12-19 12 6-21-16-14 21-1z" fill="#b8741a"/>
<path id="drop" d="M200 200q24 34 24 50a24 24 0 0 1-48 0q0-16 24-50z" fill="#2a86bb"/>
</svg>"""


def recipes() -> dict[str, dict[str, str]]:
    """The files of each recipe, by its heading."""
    found: dict[str, dict[str, str]] = {}
    for part in RECIPES.read_text(encoding="utf-8").split("\n## ")[1:]:
        title, _, body = part.partition("\n")
        blocks = re.findall(r"```\w+ (\S+)\n(.*?)```", body, re.DOTALL)
        found[title] = dict(blocks)
    return found


def made(riffler: Run, root: Path, files: dict[str, str]) -> Path:
    for name in ("mockups", "cuts", "pages"):
        (root / name).mkdir(parents=True)
    (root / "mockups/page.svg").write_text(MOCKUP)
    (root / "riffler.toml").write_text("")
    for name, text in files.items():
        (root / name).parent.mkdir(exist_ok=True)
        (root / name).write_text(text)
    riffler("cut", cwd=root)
    riffler("build", cwd=root)
    return root / "out"


def picture(file: Path) -> Image.Image:
    """A picture as it is shown, its file closed."""
    with Image.open(file) as image:
        return image.convert("RGBA").convert("RGB")


#: What the page of each recipe holds, and the sizes of pictures that it makes.
OUTCOMES: dict[str, tuple[tuple[str, ...], dict[str, tuple[int, int]]]] = {
    "A page of slices in rows": (
        ('alt="The gate"', 'width="600" height="200"'),
        {"head": (600, 100), "middle": (600, 200), "foot": (600, 100)},
    ),
    "Art that breaks out of its row": (('class="out"', 'alt="A bee smoker"'), {"smoker": (120, 140)}),
    "A neighbour that reaches in": (('class="piece-panel"',), {"panel": (200, 150)}),
    "Rollover tabs with the current page marked": (
        ('aria-current="page"', 'class="piece-tab"'),
        {"tab": (120, 40), "tab.hover": (120, 40), "tab.current": (120, 40)},
    ),
    "A rounded panel that grows": (('class="piece-box"',), {}),
    "A texture as ground": (('class="piece-paper"',), {"paper": (40, 40)}),
    "A hero for wide and narrow": (("(max-width: 640px)", "<picture>"), {"hero": (600, 200)}),
    "Icons alike on any colour": (("<symbol", "#8a3a1c", "<use"), {}),
    "Three cards from data": (('alt="A star"', 'alt="A drop"', "<h2>By rain</h2>"), {}),
    "A box for live text on its ground": (('class="note"',), {}),
    "Two thirds and a third": (('class="columns"',), {}),
    "Somebody else's templates": ((), {}),
    "Four pages from one shell": (("<title>Home</title>", 'href="shop.html"'), {}),
}  # fmt: skip


def test_every_recipe_is_tried() -> None:
    assert list(recipes()) == list(OUTCOMES)


@pytest.mark.parametrize("title", OUTCOMES)
def test_a_recipe_does_what_it_says(riffler: Run, tmp_path: Path, title: str) -> None:
    out = made(riffler, tmp_path / "site", recipes()[title])
    said, pictures = OUTCOMES[title]
    page = (out / "index.html").read_text() if said else ""
    for text in said:
        assert text in page, text
    ledger = json.loads((out / "ledger.json").read_text()) if (out / "ledger.json").exists() else {}
    for name, size in pictures.items():
        files = [file for file in (out / "images").iterdir() if file.stem == name]
        assert files, name
        assert {picture(file).size for file in files} == {size}
    assert ledger or not pictures


def test_what_recipes_promise_of_styles(riffler: Run, tmp_path: Path, browser: Browser) -> None:
    every = recipes()
    tabs = made(riffler, tmp_path / "tabs", every["Rollover tabs with the current page marked"])
    styles = (tabs / "styles/pieces.css").read_text()
    assert ".piece-tab:hover,\n.piece-tab:focus-visible {" in styles
    assert ".piece-tab[aria-current] {" in styles
    clean = made(riffler, tmp_path / "clean", every["A neighbour that reaches in"])
    file = next(path for path in (clean / "images").iterdir() if path.stem == "panel")
    assert picture(file).getpixel((10, 100)) == (255, 250, 240)  # no smoker
    panel = made(riffler, tmp_path / "panel", every["A rounded panel that grows"])
    assert "border-image" in (panel / "styles/pieces.css").read_text()
    note = made(riffler, tmp_path / "note", every["A box for live text on its ground"])
    pieces = (note / "styles/pieces.css").read_text()
    assert "--note-width: 160px;" in pieces
    assert "--note-ground: #fffaf0;" in pieces
    thirds = made(riffler, tmp_path / "thirds", every["Two thirds and a third"])
    page = browser.new_page(viewport={"width": 1000, "height": 400})
    (thirds / "index.html").write_text(
        '<link rel="stylesheet" href="styles/site.css"><style>body{margin:20px}</style>'
        + (thirds / "index.html").read_text()
    )
    page.goto((thirds / "index.html").as_uri())
    widths = page.evaluate("['main', 'aside'].map(n => document.querySelector(n).offsetWidth)")
    assert widths == [round((960 - 40) * 2 / 3), round((960 - 40) / 3)]
    page.set_viewport_size({"width": 500, "height": 400})
    assert page.evaluate("document.querySelector('aside').offsetWidth") == 460
    page.close()
    lines = made(riffler, tmp_path / "lines", every["Somebody else's templates"])
    said = riffler("inlay", "star", cwd=lines.parent).stdout
    assert said.startswith("<img src=")
    assert 'alt="A star"' in said
    shell = made(riffler, tmp_path / "shell", every["Four pages from one shell"])
    for name in ("index", "hives", "visit", "shop"):
        text = (shell / f"{name}.html").read_text()
        assert text.count("aria-current") == 1
        assert text.count("<a ") == 4
