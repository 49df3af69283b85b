"""Building: pages, styles, links, what a person wrote stays."""

from __future__ import annotations

import re
from pathlib import Path

import numpy as np
import pytest
from pydantic import BaseModel

from conftest import Run
from making import tree, write_project
from riffler.project import saving, sprite_settings
from riffler.project.icon_settings import Favicon
from riffler.project.limits import Limits
from riffler.project.project import Project
from riffler.project.settings import Folders, Settings
from riffler.site import templates
from riffler.site.build import read_site
from riffler.site.tidy import tidy
from riffler.site.wrapping import wrapped

CUTLIST = """\
mockup = "../mockups/m.ora"
[slice.banner]
at = [0, 0, 100, 40]
alt = 'Bees & "friends"'
[slice.tab]
at = [0, 40, 50, 20]
link = "visit/map"
[slice.tab.state.hover]
[slice.tab.state.current]
[slice.tab.state.sold]
"""

PAGES = {
    "cuts/m.toml": CUTLIST,
    "pages/_shell.html": "<title>{{ site.title }}</title>\n{{ head() }}\n{% block b %}{% endblock %}\n",
    "pages/index.html": '{% extends "_shell.html" %}\n{% block b %}\n{{ inlay("banner", class="wide", loading="lazy") }}\n{{ link("visit/map#x") }}\n{% endblock %}\n',
    "riffler.toml": '[site]\ntitle = "B & B"\n',
    "styles/site.css": "p { color: red; width: var(--banner-width); --tab-y: 0px }\n",
}


@pytest.fixture
def project(tmp_path: Path) -> Path:
    (tmp_path / "p/pages/visit").mkdir(parents=True)
    deep = '{% extends "_shell.html" %}{% block b %}{{ inlay("tab", alt="Map") }} {{ link("index") }}<i id="x"></i>{% endblock %}'
    return write_project(tmp_path / "p", {**PAGES, "pages/visit/map.html": deep})


def test_pages_pieces_and_urls(riffler: Run, project: Path) -> None:
    riffler("cut", cwd=project)
    riffler("build", cwd=project)
    assert (project / "out/index.html").read_text() == (
        "<title>B &amp; B</title>\n"
        '<link rel="stylesheet" href="styles/pieces.css">\n'
        '<link rel="stylesheet" href="styles/site.css">\n'
        '<img class="wide" src="images/banner.png" width="100" height="40" '
        'alt="Bees &amp; &#34;friends&#34;"\n     loading="lazy">\n'
        "visit/map.html#x\n"
    )
    deep = (project / "out/visit/map.html").read_text()
    assert 'href="../styles/site.css"' in deep
    assert (
        '<a href="map.html"><img src="../images/tab.png" width="50" height="20" alt="Map"></a>'
        in deep
    )
    assert "../index.html" in deep
    styles = (project / "out/styles/pieces.css").read_text()
    assert ":root {\n  --banner-width: 100px;\n  --tab-y: 40px;\n}\n" in styles  # what is named
    assert (
        ".piece-tab {\n  width: 50px;\n  height: 20px;\n"
        '  background: url("../images/tab.png") 0 0 / 50px 20px no-repeat;\n}\n'
    ) in styles
    for selector in (
        ":hover,\n.piece-tab:focus-visible",
        "[aria-current]",
        '[data-piece-state="sold"]',
    ):
        assert f".piece-tab{selector} {{\n  background-image: url(" in styles
    assert (project / "out/styles/site.css").read_text() == PAGES["styles/site.css"]


def test_inlay_prints_the_same_with_the_prefix(riffler: Run, project: Path) -> None:
    riffler("cut", cwd=project)
    plain = riffler("inlay", "banner", cwd=project).stdout
    assert plain.startswith('<img src="images/banner.png" width="100" height="40" alt="Bees')
    (project / "riffler.toml").write_text('url-prefix = "/static"\n[folders]\nimages = "my img"\n')
    riffler("cut", cwd=project)
    prefixed = riffler("inlay", "tab", "--alt", "Map", "--class", "c", cwd=project).stdout
    assert prefixed == (
        '<a href="/static/visit/map.html"><img class="c" src="/static/my%20img/tab.png" '
        'width="50"\n    height="20" alt="Map"></a>\n'
    )
    assert not (project / "out/images").exists()


def test_pages_changed_by_hand_are_kept(riffler: Run, demo: Path) -> None:
    page = demo / "out/index.html"
    page.write_text(page.read_text() + "<!-- mine -->")
    before = tree(demo / "out")
    error = riffler("build", cwd=demo, code=2).stderr
    assert "out/index.html was changed by hand, so nothing was written." in error
    assert tree(demo / "out") == before
    riffler("build", "--force", cwd=demo)
    assert "mine" not in page.read_text()


@pytest.mark.parametrize(
    "page, line, says, advice",
    [
        ('x\n{{ inlay("tab") }}', 2, '"tab" has no alternative text', "alt="),
        ('{{ inlay("bannr") }}', 1, 'no slice "bannr"', '"banner"'),
        ('{{ inlay("banner", klass="x") }}', 1, 'knows no "klass"', '"class"'),
        ('\n\n{{ link("vist/map") }}', 3, 'no page "vist/map"', '"visit/map"'),
        ("{% if %}", 1, "", ""),
        ("a\n{{ nothing }}", 2, "'nothing' is undefined", ""),
        ('{% include "_gone.html" %}', 1, 'no template "_gone.html"', ""),
        ("{{ 1 / 0 }}", 1, "ivision by zero", ""),
    ],
)
def test_mistakes_in_templates(
    riffler: Run, project: Path, page: str, line: int, says: str, advice: str
) -> None:
    riffler("cut", cwd=project)
    (project / "pages/index.html").write_text(page)
    error = riffler("build", cwd=project, code=2).stderr
    assert error.startswith(f"riffler: pages/index.html, line {line}: ")
    assert says in error
    assert advice in error
    assert not (project / "out/index.html").exists()


def test_what_is_not_cut_yet_and_fonts_that_are_missing(riffler: Run, project: Path) -> None:
    assert "Run riffler cut first" in riffler("build", cwd=project, code=2).stderr
    riffler("cut", cwd=project)
    (project / "styles/site.css").write_text('p {}\n@font-face { src: url("../fonts/a.ttf") }\n')
    assert (
        'styles/site.css, line 2: There is no font "fonts/a.ttf"'
        in riffler("build", cwd=project, code=2).stderr
    )
    (project / "styles/pieces.css").write_text("")
    assert "another name" in riffler("build", cwd=project, code=2).stderr


def test_the_demo_is_html_a_person_would_write(built: Path) -> None:
    for path in sorted((built / "out").glob("*.html")):
        text = path.read_text(encoding="utf-8")
        assert not re.search(r"\{[{%#]|[%#}]\}", text)
        assert "\n\n\n" not in text
        assert not re.search(r"[ \t]\n", text)
        assert text.startswith("<!doctype html>\n<html lang=")
        assert text.endswith("</html>\n")
        assert tidy(text) == text
        for match in re.finditer(r'(?:href|src)="([^"#]+)', text):
            assert (path.parent / match[1]).is_file(), match[1]
        assert text.count("<h1") == 1
        assert text.count('aria-current="page"') == 1


@pytest.mark.parametrize(
    "given, expected",
    [
        ("<ul>\n<li>a\n<li>b\n</ul>", "<ul>\n  <li>a\n  <li>b\n</ul>\n"),
        ("<div>\n\n\n<p>a</p>\n\n\n<p>b</p>\n\n</div>", "<div>\n  <p>a</p>\n\n  <p>b</p>\n</div>\n"),
        ("<div><br>\n<img src=x>\n</div>", "<div><br>\n  <img src=x>\n</div>\n"),
        ("<div>\n<pre>\n  a\n\n\n b</pre>\n</div>", "<div>\n  <pre>\n  a\n\n\n b</pre>\n</div>\n"),
        ("<div>\n<a\n  href=x>y</a>\n</div>", "<div>\n  <a\n    href=x>y</a>\n</div>\n"),
        ("<p>a\n<div>\nb\n</div>", "<p>a\n<div>\n  b\n</div>\n"),
        ("<div>\n<script>\nx = `\n  b  \n\n\n`\n</script>\n</div>",
         "<div>\n  <script>\nx = `\n  b  \n\n\n`\n</script>\n</div>\n"),
        ("<head>\n<style>\n  a {}  \n</style>\n</head>", "<head>\n  <style>\n  a {}  \n</style>\n</head>\n"),
        ("<div>\n<pre>a  \n b  \n</pre>\n</div>", "<div>\n  <pre>a  \n b  \n</pre>\n</div>\n"),
        ("<div>\n<!-- a\n     b -->\n</div>", "<div>\n  <!-- a\n       b -->\n</div>\n"),
        ("</p>\n<b>x</i></b>", "</p>\n<b>x</i></b>\n"),
        ("\n\na &amp; b\n\n", "a &amp; b\n"),
        ("<svg>\n<path d='M0'/>\n<g>\n</g>\n</svg>", "<svg>\n  <path d='M0'/>\n  <g>\n  </g>\n</svg>\n"),
    ],
)  # fmt: skip
def test_tidy(given: str, expected: str) -> None:
    assert tidy(given) == expected
    assert tidy(expected) == expected


def test_every_setting_and_every_call_is_documented(project: Path) -> None:
    said = (Path(__file__).parent.parent / "docs/templates.md").read_text()
    tables: dict[str, type[BaseModel]] = {
        "folders": Folders, "defaults": saving.Settings, "favicon": Favicon, "limits": Limits,
        "sprite": sprite_settings.Sprite, "symbols": sprite_settings.Symbols, "loader": sprite_settings.Loader,
    }  # fmt: skip
    for name, field in Settings.model_fields.items():
        named = field.alias or name
        assert f"`{named}`" in said or f"`[{named}]`" in said, name
    for table, model in tables.items():
        lines = [line for line in said.splitlines() if line.startswith(f"| `[{table}]`")]
        keys = {field.alias or name for name, field in model.model_fields.items()}
        assert keys <= set(re.findall(r"`([a-z-]+)`", " ".join(lines))), table
    site = read_site(Project.at(project))
    for call in (*templates._calls(site, "index.html", {}), "page", "site"):
        assert re.search(rf"^\| `{call}\b", said, re.MULTILINE), call


LINK, WORDS = '<a href="x.html">', "Bees on their way home, three hives in a meadow at dusk"


@pytest.mark.parametrize(
    "line, lines",
    [
        (f'<img src="a.png" alt="{WORDS}">', [f'<img src="a.png" alt="{WORDS}">']),
        (
            f'<picture><source srcset="a.webp"><img src="a.png" width="9" alt="{WORDS}"></picture>',
            ["<picture>", '  <source srcset="a.webp">', f'  <img src="a.png" width="9" alt="{WORDS}">', "</picture>"],
        ),
        (
            f'{LINK}<picture><source srcset="a.webp"><img src="a.png" width="9" height="9" alt="{WORDS}"></picture></a>',
            [f"{LINK}<picture>", '  <source srcset="a.webp">',
             '  <img src="a.png" width="9" height="9"', f'       alt="{WORDS}"></picture></a>'],
        ),
        (
            f'  <img src="a-640.png" srcset="a-640.png 640w, a-1280.png 1280w, a-2560.png 2560w" alt="{WORDS}">',
            ['  <img src="a-640.png" srcset="a-640.png 640w, a-1280.png 1280w, a-2560.png 2560w"', f'       alt="{WORDS}">'],
        ),
        (f'<p>{LINK}<img src="a.png" width="9" height="9" alt="{WORDS}"></a> and on</p>', None),
    ],
)  # fmt: skip
def test_long_lines_of_pictures_are_wrapped_where_no_browser_sees_it(
    line: str, lines: list[str] | None
) -> None:
    assert list(wrapped(line)) == ([line] if lines is None else lines)
    assert "".join("".join(wrapped(line)).split()) == "".join(line.split())


BOXES = """\
<svg xmlns="http://www.w3.org/2000/svg" width="400" height="300">
<linearGradient id="g"><stop stop-color="#204060"/><stop offset="1" stop-color="#e0c0a0"/></linearGradient>
<rect id="ground" width="400" height="300" fill="#fff"/>
<rect id="round" x="20" y="20" width="160" height="100" rx="12" fill="#336699"/>
<rect id="slope" x="220" y="20" width="160" height="100" fill="url(#g)"/>
<rect id="lined" x="21" y="161" width="158" height="98" fill="#fafafa" stroke="#808080" stroke-width="2"/>
</svg>
"""


def test_plain_boxes_under_live_text_are_drawn_by_css(tmp_path: Path, riffler: Run) -> None:
    cuts = 'mockup = "../mockups/m.svg"\n[defaults]\nrole = "words"\n'
    for name, x, y in (
        ("round", 20, 20),
        ("slope", 220, 20),
        ("lined", 20, 160),
        ("bare", 220, 160),
    ):
        cuts += f"[slice.{name}]\nat = [{x}, {y}, 160, 100]\n"
    project = write_project(tmp_path / "p", {"cuts/m.toml": cuts, "mockups/m.svg": BOXES})
    riffler("cut", cwd=project)
    riffler("build", cwd=project)
    css = (project / "out/styles/pieces.css").read_text()
    rules = dict(
        re.findall(r"\.piece-(\w+) {\n  width: 160px;\n  min-height: 100px;\n([^}]*)}", css)
    )
    slope = re.fullmatch(
        r"  background: linear-gradient\(90deg, #(\w+) 0%, #(\w+) 100%\);\n", rules.pop("slope")
    )
    assert slope is not None
    ends = np.array([list(bytes.fromhex(end)) for end in slope.groups()], int)
    assert np.abs(ends - [[0x20, 0x40, 0x60], [0xE0, 0xC0, 0xA0]]).max() <= 5  # of its inner part
    assert rules == {
        "round": "  background: #336699;\n  border-radius: 12px;\n",
        "lined": "  background: #fafafa;\n  box-sizing: border-box;\n  border: 2px solid #808080;\n",
        "bare": "  background: #ffffff;\n",
    }
