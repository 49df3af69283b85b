"""Proofreading: a page with every mistake there is, each found once, in its line."""

from __future__ import annotations

import json
import shutil
from pathlib import Path
from typing import Any

import numpy as np
import pytest

from conftest import Run
from making import png
from riffler.proof.folder import Folder, candidates
from riffler.proof.styles import read_sheet

HEAD = (
    '<!doctype html>\n<html lang="en">\n<head><meta charset="utf-8"><title>Bees</title>\n'
    '<meta name="viewport" content="width=device-width"><link rel="icon" href="i.png">\n'
    '<link rel="stylesheet" href="a.css"></head>\n<body>\n'
)
FOOT = "</body>\n</html>\n"


def picture(side: int, color: int) -> bytes:
    """A square of one colour."""
    return png(np.full((side, side, 4), (color, color, color, 255), np.uint8))


def site(root: Path, body: str, **more: str | bytes) -> Path:
    """A site of one page without a mistake, but for what `body` and `more` bring."""
    files: dict[str, str | bytes] = {
        "index.html": f'{HEAD}<h1 class="big">Bees</h1>\n<img src="i.png" width="8" height="8" '
        f'alt="A bee">\n{body}\n{FOOT}',
        "a.css": ".big {\n  color: #111;\n}\n",
        "i.png": picture(8, 1),
    }
    files |= {name.replace("__", "/").replace("_dot_", "."): text for name, text in more.items()}
    for name, text in files.items():
        path = root / "site" / name
        path.parent.mkdir(parents=True, exist_ok=True)
        path.write_bytes(text if isinstance(text, bytes) else text.encode())
    return root / "site"


def found(riffler: Run, folder: Path) -> list[dict[str, Any]]:
    done = riffler("check", folder, "--json", code=None)
    data = json.loads(done.stdout)
    assert done.returncode == bool(data["findings"])
    assert data["command"] == "check"
    findings: list[dict[str, Any]] = data["findings"]
    return findings


def test_a_sound_site_has_nothing_to_find(riffler: Run, tmp_path: Path) -> None:
    assert found(riffler, site(tmp_path, "<p>Fine.</p>")) == []
    assert "Nothing to find in 1 page and 3 files." in riffler("check", tmp_path / "site").stdout


#: The body of the page begins in line 9, after a heading and a picture.
CARDS = (
    '<ul><li><img src="i.png" width="8" height="8" alt="A bee">One</li>'
    '<li><img src="j.png" width="8" height="8" alt="A jar">Two</li>'
    '<li><img src="i.png" width="8" height="8" alt="A bee">Three</li></ul>'
)


@pytest.mark.parametrize(
    "kind, line, body, more",
    [
        ("dead-link", 9, '<a href="gone.html">x</a>', {}),
        ("dead-link", 9, '<a href="sub/">x</a>', {}),
        ("dead-anchor", 9, '<a href="#gone">x</a>', {}),
        ("missing-file", 9, '<img src="gone.png" width="1" height="1" alt="">', {}),
        ("missing-file", 5, "", {"a_dot_css": ".big {\n  color: #111;\n}\n\n"
                                 "p { background: url(gone.png) }"}),
        ("unused-file", None, "", {"old_dot_png": picture(9, 2)}),
        ("picture-size", 9, '<img src="i.png" width="8" height="9.6" alt="">', {}),
        ("picture-too-large", 9, '<img src="w.png" width="8" height="8" alt="">',
         {"w_dot_png": picture(17, 7)}),
        ("alt-missing", 9, '<img src="i.png" width="8" height="8">', {}),
        ("alt-repeated", 9, '<img src="j.png" width="8" height="8" alt="A bee">',
         {"j_dot_png": picture(8, 9)}),
        ("picture-repeated", 9, CARDS, {"j_dot_png": picture(8, 9)}),
        ("heading-order", 9, "<h3>Too deep</h3>", {}),
        ("heading-order", 7, "", {"index_dot_html": HEAD + '<h3 class="big">No h1 above</h3>' + FOOT}),
        ("two-h1", 9, "<h1>Again</h1>", {}),
        ("id-twice", 10, '<p id="a">x</p>\n<p id="a">y</p>', {}),
        ("left-open", 10, "<div><p>x</p>", {}),
        ("left-open", 9, "<p>x<ul><li>y</li></ul></p>", {}),
        ("class-without-rule", 9, '<p class="lost">x</p>', {}),
        ("rule-without-element", 5, "", {"a_dot_css": ".big {\n  color: #111;\n}\n\n.lost {}\n"}),
        ("unsaid", 9, '<p data-unsaid="words">Title</p>', {}),
        ("orphan-page", None, "", {"b_dot_html": HEAD + "<h1 class='big'>B</h1>" + FOOT}),
        ("name", None, '<a href="Big.html">x</a>', {"Big_dot_html": HEAD + "<h1>B</h1>" + FOOT}),
        ("mixed-endings", None, '<a href="b.htm">x</a>', {"b_dot_htm": HEAD + "<h1>B</h1>" + FOOT}),
        ("equal-pictures", None, '<img src="j.png" width="8" height="8" alt="">',
         {"j_dot_png": picture(8, 1)}),
        ("contrast", 9, '<p style="color: #8a8a8a">Faint</p>', {}),
        ("title", 1, "", {"index_dot_html": HEAD.replace("Bees", "") + '<p class="big">x</p>' + FOOT}),
        ("language", 2, "", {"index_dot_html": HEAD.replace(' lang="en"', "") + '<p class="big">x</p>' + FOOT}),
        ("viewport", 1, "", {"index_dot_html": HEAD.replace("viewport", "other") + '<p class="big">x</p>' + FOOT}),
        ("favicon", 1, "", {"index_dot_html": HEAD.replace('rel="icon"', 'rel="preload"')
                            + '<p class="big">x</p>' + FOOT}),
    ],
)  # fmt: skip
def test_each_mistake_is_found_once(
    riffler: Run, tmp_path: Path, kind: str, line: int | None, body: str, more: dict[str, str]
) -> None:
    findings = found(riffler, site(tmp_path, body, **more))
    assert [one["kind"] for one in findings] == [kind]
    assert findings[0]["line"] == line
    assert findings[0]["message"].strip().endswith((".", "?", "}", ">"))


def test_two_pixels_for_each_are_for_dense_screens(riffler: Run, tmp_path: Path) -> None:
    body = '<img src="w.png" width="8" height="8" alt="">'
    assert found(riffler, site(tmp_path, body, w_dot_png=picture(16, 7))) == []


def test_the_demo_has_nothing_to_find_but_what_is_meant(riffler: Run, demo: Path) -> None:
    said = riffler("check", cwd=demo).stdout
    assert "Nothing to find in 4 pages" in said
    assert "4 findings accepted" in said
    riffler_toml = demo / "riffler.toml"
    text = riffler_toml.read_text()
    riffler_toml.write_text(text.replace("images/tab-hives.png", "images/tab-gone.png"))
    done = riffler("check", cwd=demo, code=1)
    assert "The same bytes as images/tab-home.png" in done.stdout
    assert 'not found any more: "equal-pictures images/tab-gone.png"' in done.stdout
    shutil.rmtree(demo / "out")
    assert "There is no folder" in riffler("check", cwd=demo, code=2).stderr


@pytest.mark.parametrize(
    "style, ratio",
    [  # WCAG 2.2: contrast ratios of #767676, and of large text, computed by its formula
        ("color: #767676; background: #fff", None),
        ("color: #777; background: #fff", "4.48"),
        ("color: #949494; background: #fff; font-size: 24px", None),
        ("color: #969696; background: #fff; font-size: 24px", "2.96"),
        ("color: #959595; background: linear-gradient(#fff, #eee)", None),
        ("color: #959595; background: #fff; position: absolute", None),
        ("color: var(--faint); background: var(--paper, #fff)", "1.61"),
    ],
)  # fmt: skip
def test_contrast_is_told_where_both_colours_are_known(
    riffler: Run, tmp_path: Path, style: str, ratio: str | None
) -> None:
    css = f":root {{ --faint: #ccc; }}\n.big {{ color: #111; }}\n.text {{ {style} }}\n"
    folder = site(tmp_path, '<div class="text"><p>Words</p></div>', a_dot_css=css)
    said = [one["message"] for one in found(riffler, folder)]
    assert said == [] if ratio is None else f"a contrast of {ratio}," in said[0]


def test_odd_folders_are_read_or_refused(riffler: Run, tmp_path: Path) -> None:
    assert "There is no folder" in riffler("check", "gone", code=2).stderr
    (tmp_path / "odd").mkdir()
    assert "0 pages" in riffler("check", "odd").stdout
    (tmp_path / "odd/index.html").write_bytes(b"\xff\xfe<p><b><i></b>" + b"<div>" * 4000)
    kinds = {one["kind"] for one in found(riffler, tmp_path / "odd")}
    assert {"left-open", "title"} <= kinds
    outside = (
        '<!doctype html><a href="https://example.invalid/x.html">a</a><a href="mailto:a@b">b</a>'
    )
    (tmp_path / "odd/index.html").write_text(outside)
    assert "dead-link" not in {one["kind"] for one in found(riffler, tmp_path / "odd")}


@pytest.mark.parametrize(
    "address, target, part",
    [
        ("map.html", "visit/map.html", ""),
        ("../index.html#top", "index.html", "top"),
        ("/styles/a%20b.css", "styles/a b.css", ""),
        ("#here", "visit/deep.html", "here"),
        ("../", "index.html", ""),
        ("/static/x.css", "x.css", ""),
        ("?page=2", "visit/deep.html", ""),
        ("https://fernhollow.example/x", None, ""),
        ("//fernhollow.example/x", None, ""),
        ("mailto:bees@fernhollow.example", None, ""),
        ("data:image/png;base64,AAAA", None, ""),
        ("", None, ""),
    ],
)
def test_addresses_mean_files(tmp_path: Path, address: str, target: str | None, part: str) -> None:
    (tmp_path / "visit").mkdir()
    (tmp_path / "visit/deep.html").write_text(f'<a href="{address}">x</a>')
    (reference,) = Folder.open(tmp_path, "/static/").references
    assert (reference.target, reference.part) == (target, part)


@pytest.mark.parametrize(
    "srcset, files",
    [
        ("a.png 1x, b.png 2x", ["a.png", "b.png"]),
        ("a.png", ["a.png"]),
        ("a,b.png 640w, c.png 1280w", ["a,b.png", "c.png"]),
        ("", []),
    ],
)
def test_candidates_of_a_srcset(srcset: str, files: list[str]) -> None:
    assert candidates(srcset) == files


@pytest.mark.parametrize(
    "drawing, size",
    [
        ('<svg xmlns="http://www.w3.org/2000/svg" width="24" height="32px"/>', (24, 32)),
        ('<svg viewBox="0 0 10.5 20"/>', (10.5, 20)),
        ('<?xml version="1.0"?><svg width="50%" viewBox="-5 -5 40,20"/>', (40, 20)),
        ("<svg/>", None),
        ("no drawing", None),
    ],
)
def test_sizes_of_drawings(tmp_path: Path, drawing: str, size: tuple[float, float] | None) -> None:
    (tmp_path / "a.svg").write_text(drawing)
    assert Folder.open(tmp_path).size("a.svg") == size


def test_sheets_tell_classes_rules_and_addresses() -> None:
    text = (
        "@import url(b.css);\n.a, p.b > .c:hover { color: red; background: url('x.png') }\n"
        "@media (max-width: 9px) { .d { background: url(y.png) } }\n:root { --ink: #111 }\n"
    )
    sheet = read_sheet("styles/a.css", text)
    assert sheet.classes == {"a": 2, "b": 2, "c": 2, "d": 3}
    assert sheet.urls == (("b.css", 1), ("x.png", 2), ("y.png", 3))
    assert [(rule.tag, rule.name) for rule in sheet.rules] == [("", "a")]
    assert sheet.properties == {"--ink": "#111"}
    assert sheet.blurred == {"c", "d"}
