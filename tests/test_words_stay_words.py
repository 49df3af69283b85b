"""Words of a mockup are words in every file that is made of them, whatever language they speak."""

from __future__ import annotations

import shutil
import tomllib
from pathlib import Path
from xml.sax.saxutils import escape, quoteattr

import html5lib
import pytest
import tinycss2
from playwright.sync_api import Browser

from conftest import Run, run_here
from making import write_project

FONTS = Path(__file__).parents[1] / "src/riffler/demo/fernhollow/fonts"

#: Every syntax that we write words into, and some that others read.
SPOKEN = (
    "{{ 7*191 }}", "{% raw %}{{ 7*191 }}{% endraw %}", "{# gone #}", "{{ site.secret }}", "{{{7}}}",
    "{%- for i in range(3) -%}X{%- endfor -%}", "{{'<b>'|safe}}", "{", "{{", "}}", "{%", "%}",
    "</style><script>ran()</script>", "</title><script>ran()</script>", "--><script>ran()</script>",
    '"><img src=x onerror=ran()>', "'><img src=x onerror=ran()>", "<br>", "&lt;b&gt; & &amp; &#123;",
    "*/}body{--ran:1}/*", '\\"};body{--ran:1}', 'a"\n[slice.x]\nlink = "javascript:ran()"',
    '"""\nz = 1\n"""', "'''\nz = 1\n'''", "${ran()}", "javascript:ran()", "\\", "\\u0022 onload=ran()",
    "\u202eright to left", "a\u2028b\x7fc", "=1+1", "<!--#exec-->", "]]>",
)  # fmt: skip


#: What the cards of the example say instead of their titles: they look alike, so words become data.
ON_CARDS = {
    "Your own bees": "{{ site.secret }}", "Six jars": "{# gone #}", "Four letters": "{% raw %}",
    "A summer day": "{{ config }}", "Swarm": "<script>", "Colony": 'a "word"',
}  # fmt: skip


def drawing() -> str:
    """Everything as text, as a name, as a family and as a title; rows of like cards among them."""
    parts = []
    for number, said in enumerate(SPOKEN):
        y = 120 + 90 * number
        parts.append(
            f'<text x="640" y="{y}" font-family="Figtree" font-size="{16 if number % 3 else 30}">{escape(said)}</text>'
            f'<g id={quoteattr(said)}><circle cx="940" cy="{y}" r="20" fill="#0a7"/>'
            f'<path id={quoteattr("icon " + said)} d="M930 {y - 9}q 20 30 40 -30 t 9 40z" fill="red"/></g>'
        )
    return (
        f'<svg xmlns="http://www.w3.org/2000/svg" width="1000" height="{200 + 90 * len(SPOKEN)}">'
        f"<title>{escape(SPOKEN[0])}</title>{''.join(parts)}</svg>"
    )


def cards() -> str:
    """A page of the example with such titles."""
    text = (FONTS.parent / "mockups/hives.svg").read_text()
    for title, said in ON_CARDS.items():
        assert f">{title}<" in text
        text = text.replace(f">{title}<", f">{escape(said)}<")
    return text


def plain(text: str) -> str:
    """Words without the white space between them, and with the marks for signs not shown."""
    return "".join(text.split())


@pytest.fixture(scope="module")
def made(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """A project of it, drafted, roughed out, cut and built; not to be changed."""
    settings = '[site]\ntitle = "{{ 7*191 }}</title><script>ran()</script>"\nsecret = "S3CRET"\n'
    root = write_project(tmp_path_factory.mktemp("words") / "p", {"riffler.toml": settings})
    shutil.copytree(FONTS, root / "fonts", dirs_exist_ok=True)
    # XML 1.0, 2.2: no controls but these; the zero width ones stay
    (root / "mockups").mkdir(exist_ok=True)
    (root / "mockups/home.svg").write_text(drawing())
    for command in ("draft mockups/home.svg", "rough", "cut", "build"):
        run_here(*command.split(), cwd=root)
    return root


@pytest.fixture
def root(made: Path, tmp_path: Path) -> Path:
    """The same, to work on."""
    return shutil.copytree(made, tmp_path / "p", symlinks=True)


def test_words_are_found_as_text(made: Path, browser: Browser) -> None:
    text = (made / "out/index.html").read_text()
    page = html5lib.parse(text, treebuilder="lxml", namespaceHTMLElements=False).getroot()
    assert page.find(".//script") is None
    assert not [one for one in page.iter() if "onerror" in one.attrib or "onload" in one.attrib]
    links = [str(one.get("href")) for one in page.iter("a")]
    assert not [link for link in links if ":" in link]
    assert "S3CRET" not in text
    words = plain("".join(page.itertext()))
    assert [said for said in SPOKEN if plain(said) not in words] == []
    alts = [one.get("alt") for one in page.iter("img")]
    assert "<b>" not in text.replace("&lt;b>", "")
    assert all("1337" not in str(alt) for alt in alts)
    tab = browser.new_page()
    ran: list[object] = []
    tab.expose_function("ran", lambda *said: ran.append(said))
    tab.goto((made / "out/index.html").as_uri())
    assert tab.evaluate("getComputedStyle(document.body).getPropertyValue('--ran')") == ""
    tab.close()
    assert ran == []


def test_words_are_data_in_data_files(root: Path, riffler: Run) -> None:
    cutlist = tomllib.loads((root / "cuts/home.toml").read_text())
    assert "x" not in cutlist["slice"]
    assert not [one for one in cutlist["slice"].values() if ":" in one.get("link", "")]
    (root / "mockups/cards.svg").write_text(cards())
    for command in ("draft mockups/cards.svg", "rough mockups/cards.svg", "cut", "build"):
        riffler(*command.split(), cwd=root)
    files = [tomllib.loads(path.read_text()) for path in (root / "data").glob("*.toml")]
    rows = [row for data in files for row in data["list"]]
    values = {value for row in rows for value in row.values() if isinstance(value, str)}
    assert set(ON_CARDS.values()) <= values
    text = (root / "out/cards.html").read_text()
    page = html5lib.parse(text, treebuilder="lxml", namespaceHTMLElements=False).getroot()
    words = plain("".join(page.itertext()))
    assert [said for said in ON_CARDS.values() if plain(said) not in words] == []
    for path in (root / "out/styles").glob("*.css"):
        rules = tinycss2.parse_stylesheet(
            path.read_text(), skip_comments=True, skip_whitespace=True
        )
        assert {rule.type for rule in rules} <= {"qualified-rule", "at-rule"}


def test_words_stay_words_in_what_follows(root: Path, riffler: Run) -> None:
    """A new version, tokens, a sheet and a comparison of the same."""
    mockup = root / "mockups/home.svg"
    mockup.write_text(mockup.read_text().replace("7*191", "8*191").replace("#fee", "#eef"))
    riffler("changes", "--page", "new.html", cwd=root, code=1)
    riffler("changes", "--take", cwd=root, code=None)
    for command in ("build", "sheet", "tokens -o t.css", "tokens -o t.json"):
        riffler(*command.split(), cwd=root)
    text = (root / "out/index.html").read_text()
    page = html5lib.parse(text, treebuilder="lxml", namespaceHTMLElements=False).getroot()
    assert plain("{{ 8*191 }}") in plain("".join(page.itertext()))
    for file in ("out/index.html", "new.html", "cut-sheet.html"):
        tree = html5lib.parse(
            (root / file).read_text(), treebuilder="lxml", namespaceHTMLElements=False
        )
        scripts = ["".join(one.itertext()) for one in tree.getroot().iter("script")]
        assert not [script for script in scripts if "ran()" in script.replace('"', "")[:20]]
        assert not [one for one in tree.getroot().iter("img") if one.get("src") == "x"]
