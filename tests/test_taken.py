"""Layers taken out of mockups of every kind of root, and what they are called."""

from __future__ import annotations

import base64
from pathlib import Path

import numpy as np
import pytest
from lxml import etree
from playwright.sync_api import Browser

from conftest import Run, shown
from making import write_project
from riffler.output.asset import IconAsset
from riffler.site.heading import lines
from riffler.vector.checked import compared

INNER = """<defs><linearGradient id="honey" gradientUnits="userSpaceOnUse" x1="30" y1="20" x2="30"
y2="60"><stop stop-color="#f3c25a"/><stop offset="1" stop-color="#d08a1e"/></linearGradient>
<clipPath id="round"><circle cx="30" cy="40" r="18"/></clipPath></defs>
<g id="all" fill="#2f7436"><g id="pot" clip-path="url(#round)"><path id="lid" d="M10 20h40v10H10z"/><path
id="jar" fill="url(#honey)" d="M14 30h32v30H14z"/></g></g>
<path id="far" fill="#33231a" d="M70 70h20v20H70z"/>"""

#: How a root says its size, and how many CSS pixels a user unit becomes.
ROOTS = [
    ('width="100" height="100"', 1.0),
    ('width="200" height="200" viewBox="0 0 100 100"', 2.0),
    ('width="100" height="100" viewBox="0 0 100 100" fill="#7a756a" stroke-width="3"', 1.0),
    ('width="120" height="100" viewBox="0 0 100 100"', 1.0),
    ('width="100" height="100" viewBox="-4 -6 100 100"', 1.0),
]


def shot(browser: Browser, data: bytes, width: float, height: float) -> np.ndarray:
    """A drawing as Chromium shows it at so many pixels."""
    url = f"data:image/svg+xml;base64,{base64.b64encode(data).decode()}"
    style = f"display:block;width:{width}px;height:{height}px"
    markup = f'<body style="margin:0"><img src="{url}" style="{style}">'
    return shown(browser, markup, round(width), round(height), 2)


@pytest.mark.parametrize(("root", "unit"), ROOTS)
def test_layers_lie_at_the_origin_and_look_the_same(
    riffler: Run, tmp_path: Path, browser: Browser, root: str, unit: float
) -> None:
    head = f'<svg xmlns="http://www.w3.org/2000/svg" {root}>'
    (tmp_path / "m.svg").write_text(f"{head}{INNER}</svg>")
    riffler("vector", "m.svg", "--only", "all/pot", "-o", "pot.svg", cwd=tmp_path)
    data = (tmp_path / "pot.svg").read_bytes()
    made = etree.fromstring(data)
    width, height = (float(made.get(key, "0")) for key in ("width", "height"))
    assert made.get("viewBox") == f"0 0 {width:g} {height:g}"
    assert (width, height) == (32 * unit, 36 * unit)  # what the clip leaves, on whole pixels
    # The same in the source: everything else off, and the window moved to where the layer lies.
    alone = etree.fromstring((tmp_path / "m.svg").read_bytes())
    alone.remove(alone[-1])
    for key in ("width", "height", "preserveAspectRatio"):
        alone.attrib.pop(key, None)
    alone.set("viewBox", "14 22 32 36")
    difference = compared(
        shot(browser, etree.tostring(alone), width, height), shot(browser, data, width, height)
    )
    assert difference.mean < 0.3
    assert difference.share < 0.01


def test_names_tell_files_apart(riffler: Run, tmp_path: Path) -> None:
    (tmp_path / "m.svg").write_text(
        '<svg xmlns="http://www.w3.org/2000/svg" width="40" height="40">'
        + "".join(
            f'<g id="{group}"><path id="Icon 1" d="M{x} 1h4v4h-4z"/></g>'
            for group, x in (("Bee!", 1), ("Leaf", 9), ("Bee?", 18))
        )
        + "</svg>"
    )
    riffler("vector", "m.svg", "--only", "**/Icon 1", "--each", "-o", "made", cwd=tmp_path)
    names = {path.name for path in (tmp_path / "made").iterdir()}
    assert names == {"bee-icon-1.svg", "leaf-icon-1.svg", "bee-icon-1-2.svg"}


def test_the_style_sheet_of_many_files_has_all_of_them(riffler: Run, tmp_path: Path) -> None:
    head = '<svg xmlns="http://www.w3.org/2000/svg" width="100" height="100">'
    faint = INNER.replace(" d=", ' opacity=".5" d=')
    (tmp_path / "m.svg").write_text(f"{head}{faint}</svg>")
    riffler(
        "vector", "m.svg", "--only", "all/pot/*", "--only", "far", "--each", "--paint", "custom",
        "--styles", "made.css", "-o", "made", cwd=tmp_path,
    )  # fmt: skip
    css = (tmp_path / "made.css").read_text()
    assert css.startswith(":root {\n  --")
    for name in ("lid-lid", "jar-jar", "far-far"):
        assert f".{name} {{\n  opacity: .5;\n}}\n" in css
    assert "--far-1: #33231a;" in css
    text = (tmp_path / "made/far.svg").read_text()
    assert 'fill="var(--far-1,#33231a)"' in text
    assert "opacity" not in text


def test_lines_of_a_head_are_escaped_and_in_order() -> None:
    usual = {"url": "", "bytes": 1, "sha256": "", "made_by": "cut"}
    icons = [
        IconAsset(file="app.webmanifest", format="webmanifest", rel="manifest", sizes=(), **usual),  # type: ignore[arg-type]
        IconAsset(file="icon-192.png", format="png", rel="", sizes=(192,), **usual),  # type: ignore[arg-type]
        IconAsset(file="icon.svg", format="svg", rel="icon", sizes=(), **usual),  # type: ignore[arg-type]
        IconAsset(file='a"b.ico', format="ico", rel="icon", sizes=(16, 32), **usual),  # type: ignore[arg-type]
    ]
    assert lines(icons, lambda file: f"/static/{file}", '#fff"') == [
        '<link rel="icon" href="/static/a&#34;b.ico" sizes="16x16 32x32">',
        '<link rel="icon" href="/static/icon.svg" type="image/svg+xml" sizes="any">',
        '<link rel="manifest" href="/static/app.webmanifest">',
        '<meta name="theme-color" content="#fff&#34;">',
    ]
    assert lines([], str, "#fff") == []


def test_a_url_prefix_holds_for_icons_and_symbols(riffler: Run, tmp_path: Path) -> None:
    head = '<svg xmlns="http://www.w3.org/2000/svg" width="100" height="100">'
    files = {
        "cuts/m.toml": 'mockup = "../mockups/m.svg"\n[slice.pot]\nonly = ["all/pot"]\nalt = ""\n',
        "mockups/m.svg": f"{head}{INNER}</svg>",
        "riffler.toml": 'url-prefix = "/static/"\n[favicon]\nslice = "pot"\n[symbols.all]\n'
        'slices = ["pot"]\n',
        "pages/sub/index.html": "<html><head>{{ head() }}</head><body>{{ symbol('pot') }}</body></html>",
    }
    root = tmp_path / "p"
    (root / "pages/sub").mkdir(parents=True)
    write_project(root, files)
    riffler("cut", cwd=root)
    riffler("build", cwd=root)
    page = (root / "out/sub/index.html").read_text()
    assert 'href="/static/favicon.ico"' in page
    assert 'href="/static/app.webmanifest"' in page
    assert page.count('id="pot"') == 1
    assert '<use href="#pot"/>' in page
    assert page.index("<symbol") < page.index("<use")
