"""Type read from pixels, held against what a browser was told to set; words by a made-up reader."""

from __future__ import annotations

import base64
import json
import sys
import tomllib
from dataclasses import replace
from functools import cache
from pathlib import Path
from typing import Any

import numpy as np
import pytest
from fontTools.fontBuilder import FontBuilder
from fontTools.pens.ttGlyphPen import TTGlyphPen
from fontTools.ttLib import TTFont
from fontTools.ttLib.tables.TupleVariation import TupleVariation
from PIL import Image, ImageDraw, ImageFont
from playwright.sync_api import Browser

import riffler as riffler_package
from conftest import Run, shown
from making import Flat, write_ora, write_project
from riffler.color import Pixels, from_bytes
from riffler.mockup.font_book import FontBook, laid_out_with, weights_of
from riffler.typeset.choose import type_of_pixels
from riffler.typeset.dashes import with_dashes
from riffler.typeset.glyphs import Typeface
from riffler.typeset.ink import InkLine, ink_of, lines_of
from riffler.typeset.laid import cover
from riffler.typeset.layers import as_words, seen_in
from riffler.typeset.proofreading import Proofreader
from riffler.typeset.shape import shape_of
from riffler.typeset.signs import figure_of
from riffler.typeset.squares import least_squares

FONTS = Path(riffler_package.__file__).parent / "demo/fernhollow/fonts"
BOOK = FontBook(tuple(sorted(FONTS.glob("*.ttf"))))

TITLE, LINES = (
    ("Keep bees, without",),
    ("Letters in spring, a visit", "in summer, and honey", "for all"),
)


@cache
def _url(name: str) -> str:
    data = base64.b64encode((FONTS / f"{name}.ttf").read_bytes()).decode()
    return f"data:font/ttf;base64,{data}"


def _set(browser: Browser, lines: tuple[str, ...], css: str, density: int) -> Pixels:
    """Text on nothing, as Chromium draws it."""
    faces = "".join(
        f"@font-face {{ font-family: {family}; font-weight: {weight}; font-style: {style};"
        f" src: url({_url(name)}) }}"
        for family, weight, style, name in (
            ("Figtree", 400, "normal", "figtree-400"), ("Figtree", 600, "normal", "figtree-600"),
            ("Fraunces", 600, "normal", "fraunces-600"),
            ("Fraunces", 400, "italic", "fraunces-400-italic"),
        )
    )  # fmt: skip
    html = (
        f"<style>{faces} p {{ position: absolute; margin: 0; white-space: nowrap; {css} }}</style>"
    )
    markup = f"{html}<p>{'<br>'.join(lines)}</p>"
    straight = shown(browser, markup, 700, 300, density, is_clear=True)
    rows, columns = (np.flatnonzero(straight[..., 3].any(axis=axis)) for axis in (1, 0))
    return from_bytes(straight[rows[0] - 2 : rows[-1] + 3, columns[0] - 2 : columns[-1] + 3].copy())


@pytest.mark.parametrize(
    ("lines", "css", "density", "told"),
    [
        (TITLE, "left: 9px; top: 9px; font: 600 30px Fraunces; color: #3a2618", 1,
         ("Fraunces", 600, "normal", 30, 0, None, "start", "#3a2618")),
        (LINES, "left: 9px; top: 9px; font: 15px/22px Figtree; color: #59412a", 2,
         ("Figtree", 400, "normal", 15, 0, 22, "start", "#59412a")),
        (LINES, "left: 9px; top: 9px; font: 600 13px/20px Figtree; color: #fff; text-align: center",
         1, ("Figtree", 600, "normal", 13, 0, 20, "middle", "#ffffff")),
        (LINES, ("top: 9px; font: italic 20px/30px Fraunces; letter-spacing: 1.2px; "
          "text-align: right; color: #b8741a"), 2,
         ("Fraunces", 400, "italic", 20, 1.2, 30, "end", "#b8741a")),
    ],
)  # fmt: skip
def test_type_is_told_as_it_was_set(
    browser: Browser, lines: tuple[str, ...], css: str, density: int, told: tuple[Any, ...]
) -> None:
    pixels = _set(browser, lines, css, density)
    seen = seen_in(pixels, lines, BOOK)
    assert seen.type is not None
    assert seen.type.is_sure
    words = as_words(seen, density)
    assert words is not None
    family, weight, style, size, spacing, step, anchor, color = told
    assert (words.families, words.weight, words.style) == ((family,), weight, style)
    assert words.size / density == size
    assert words.letter_spacing / density == pytest.approx(spacing, abs=0.1)
    if step is not None and words.line_step is not None:
        assert words.line_step / density == pytest.approx(step, abs=0.5)
        assert words.anchor == anchor
    assert words.color == color
    assert {one.face.family for one in seen.type.runners} == {"Figtree", "Fraunces"} - {family}


def _drawn(text: str, name: str, size: int, *, ground: str | None = None) -> Image.Image:
    """Text without hints: drawn four times as large, and reduced."""
    font = ImageFont.truetype(FONTS / name, 4 * size)
    _, _, right, bottom = (int(edge) // 4 for edge in font.getbbox(text))
    sides = (right + 24, bottom + 24)
    image = Image.new("RGBA", (4 * sides[0], 4 * sides[1]), ground or "#2b1d1200")
    ImageDraw.Draw(image).text((48, 48), text, "#2b1d12", font)
    return image.resize(sides, Image.Resampling.BOX)


def test_text_on_a_ground_of_one_colour() -> None:
    image = _drawn("Opening hours", "figtree-600.ttf", 26, ground="#f4ead6")
    found = type_of_pixels(from_bytes(np.asarray(image)), ("Opening hours",), BOOK.faces())
    assert found is not None
    assert (found.face.family, found.face.weight) == ("Figtree", 600)
    assert found.size == pytest.approx(26, abs=0.6)
    assert max(abs(int(found.color[at : at + 2], 16) - want)
               for at, want in ((1, 0x2B), (3, 0x1D), (5, 0x12))) <= 4  # fmt: skip


def test_packed_fonts_serve_as_well(tmp_path: Path) -> None:
    for name in ("figtree-400", "fraunces-600"):
        font = TTFont(FONTS / f"{name}.ttf")
        font.flavor = "woff2"
        font.save(tmp_path / f"{name}.woff2")
    (tmp_path / "broken.woff2").write_bytes(b"wOF2" + bytes(60))
    book = FontBook(tuple(sorted(tmp_path.iterdir())))
    image = _drawn("Honey and hives", "fraunces-600.ttf", 32)
    seen = seen_in(from_bytes(np.asarray(image)), ("Honey and hives",), book)
    assert seen.type is not None
    assert (seen.type.face.family, round(seen.type.size)) == ("Fraunces", 32)


def test_a_variable_face_is_tried_in_every_weight(tmp_path: Path) -> None:
    """A face that grows from light to bold: the text of its bold end is known for bold."""
    path = tmp_path / "v.ttf"
    _variable(path)
    (face,) = FontBook((path,)).faces()
    assert (face.family, face.weight) == ("Fern", 100)
    font, units = laid_out_with(path, 900)
    assert (weights_of(font), units) == ((100, 900), 1000)
    bold = Typeface(replace(face, weight=900))
    bold.prepare(("lil li",))
    setting = bold.set("lil li", is_spaced=False)
    assert setting is not None
    line = InkLine(np.zeros((60, 200), np.float32), 0, 0, 0, 0, 0, 0)
    pixels = np.zeros((60, 200, 4), np.float32)
    pixels[..., 3] = cover(setting, 48, 0, 6, 48, line)
    found = type_of_pixels(pixels, ("lil li",), [face])
    assert found is not None
    assert (found.face.weight, round(found.size)) == (900, 48)


def _variable(path: Path) -> None:
    """A font of two letters whose stems are 40 units thick, or 200 at the bold end."""

    def drawn(width: int) -> dict[str, Any]:
        glyphs = {}
        for name, height in ((".notdef", 100), ("i", 500), ("l", 800), ("space", 0)):
            pen = TTGlyphPen(None)
            if height:
                for at, corner in enumerate(
                    ((60, 0), (60, height), (60 + width, height), (60 + width, 0))
                ):
                    (pen.lineTo if at else pen.moveTo)(corner)
                pen.closePath()
            glyphs[name] = pen.glyph()
        return glyphs

    masters = {weight: drawn(width) for weight, width in ((100, 40), (900, 200))}
    builder = FontBuilder(1000, isTTF=True)
    builder.setupGlyphOrder([".notdef", "i", "l", "space"])
    builder.setupCharacterMap({ord("i"): "i", ord("l"): "l", ord(" "): "space"})
    builder.setupGlyf(masters[100])
    builder.setupHorizontalMetrics(dict.fromkeys((".notdef", "i", "l", "space"), (320, 60)))
    builder.setupHorizontalHeader(ascent=800, descent=-200)
    builder.setupNameTable({"familyName": "Fern Thin", "styleName": "Regular"})
    builder.setupOS2(usWeightClass=100)
    builder.setupPost()
    builder.setupFvar([("wght", 100, 100, 900, "Weight")], [])
    deltas = {}
    for name in ("i", "l", ".notdef"):
        grown = [(0, 0), (0, 0), (160, 0), (160, 0), *[(0, 0)] * 4]
        deltas[name] = [TupleVariation({"wght": (0.0, 1.0, 1.0)}, grown)]
    builder.setupGvar(deltas)
    builder.save(path)


def test_without_a_font_that_fits_it_is_measured() -> None:
    image = _drawn("Honey, hives and nine slow evenings", "fraunces-600.ttf", 40)
    pixels = from_bytes(np.asarray(image))
    seen = seen_in(pixels, ("Honey, hives and nine slow evenings",), FontBook(()))
    assert seen.type is None
    shape = seen.shape
    assert shape is not None
    font = ImageFont.truetype(FONTS / "fraunces-600.ttf", 40)
    small, capital = (-font.getbbox(letter, anchor="ls")[1] for letter in "xH")
    assert shape.manner == "serif"
    assert shape.small == pytest.approx(small, abs=1.5)
    assert shape.capital == pytest.approx(capital, abs=3)
    plain = ink_of(from_bytes(np.asarray(_drawn("nine hives in a minute", "figtree-400.ttf", 40))))
    assert plain is not None
    found = shape_of(lines_of(plain), ("nine hives in a minute",))
    assert found is not None
    assert found.manner == "sans"


def test_least_squares_finds_the_line() -> None:
    x = np.linspace(0, 9, 40)
    found = least_squares(lambda v: v[0] * x + v[1] - (2.5 * x - 4), np.zeros(2), np.full(2, 0.01))
    assert found == pytest.approx([2.5, -4], abs=1e-3)


#: A reader that answers what it is told, as Tesseract writes its tables.
READER = """#!{python}
import pathlib, sys
if "--version" in sys.argv:
    print("tesseract 5.3.0")
    sys.exit()
rows = pathlib.Path({answer!r}).read_text()
if rows == "no language":
    sys.exit("Error opening data file xxx.traineddata: failed loading language")
from PIL import Image
pages = Image.open(sys.argv[1]).n_frames
rows = "".join(
    "\\t".join([cells[0], str(page), *cells[2:]]) + "\\n"
    for page in range(1, pages + 1)
    for cells in (row.split("\\t") for row in rows.splitlines())
)
head = "level page_num block_num par_num line_num word_num left top width height conf text"
pathlib.Path(sys.argv[2] + ".tsv").write_text("\\t".join(head.split()) + "\\n" + rows)
"""


@pytest.fixture
def reader(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> Path:
    """What a text will be read as: lines of words, each with how certain it is."""
    folder, answer = tmp_path / "bin", tmp_path / "answer.tsv"
    folder.mkdir()
    (folder / "tesseract").write_text(READER.format(python=sys.executable, answer=str(answer)))
    (folder / "tesseract").chmod(0o755)
    monkeypatch.setenv("PATH", f"{folder}:/usr/bin:/bin")
    return answer


def _said(answer: Path, *lines: str, doubt: str = "") -> None:
    rows = [
        f"5\t1\t1\t1\t{number}\t{at}\t0\t0\t9\t9\t{30 if word == doubt else 95}\t{word}"
        for number, line in enumerate(lines, 1) for at, word in enumerate(line.split(), 1)
    ]  # fmt: skip
    answer.write_text("\n".join(rows) + "\n")


def _with_fonts(folder: Path) -> Path:
    """A project that has the fonts."""
    root = write_project(folder / "p", {})
    (root / "fonts").mkdir()
    for path in FONTS.glob("*.ttf"):
        (root / "fonts" / path.name).write_bytes(path.read_bytes())
    return root


@pytest.fixture
def project(tmp_path: Path) -> Path:
    text = np.asarray(_drawn("Adopt a hive", "figtree-600.ttf", 32))
    size = (text.shape[1], text.shape[0])
    layers = [
        Flat("title", (40, 60, *size), pixels=text),
        Flat("plate", (20, 200, 90, 60), (120, 30, 20, 255)),
        Flat("ground", (0, 0, 420, 300), (244, 234, 214, 255)),
    ]
    root = _with_fonts(tmp_path)
    write_ora(root / "mockups/m.ora", (420, 300), layers)
    return root


def test_words_are_read_kept_and_mended(riffler: Run, project: Path, reader: Path) -> None:
    _said(reader, "Adopt a bee", doubt="bee")
    riffler("draft", "mockups/m.ora", "--read", cwd=project)
    cutlist = project / "cuts/m.toml"
    written = cutlist.read_text()
    assert '# Not sure: bee\ntitle = "Adopt a bee"' in written
    reader.unlink()  # what is kept is not read again
    cutlist.write_text(written.replace("bee", "hive"))
    told = json.loads(riffler("measure", "title", "--words", "--json", cwd=project).stdout)
    assert (told["source"], told["lines"]) == ("cutlist", ["Adopt a hive"])
    assert told["css"] == {
        "font-family": "Figtree", "font-size": "32px", "font-weight": "600", "color": "#2b1d12"
    }  # fmt: skip
    css = riffler("measure", "title", "--css", cwd=project).stdout
    assert "font-size: 32px;" in css
    types = json.loads(riffler("tokens", "--json", cwd=project).stdout)["tokens"]
    assert [one["value"] for one in types if one["sort"] == "type"] == ["600 32px Figtree"]
    riffler("sheet", cwd=project)
    assert "600 32px Figtree" in (project / "cut-sheet.html").read_text()


@pytest.mark.parametrize(
    ("drawn", "read", "wanted", "is_sure"),
    [
        ("€ 135", "€ 155", "€ 135", True),
        ("€ 135", "€135", "€ 135", True),
        ("€ 35", "E35", "€ 35", True),
        ("87 %", "87%", "87 %", True),
        ("© 2031 Fernhollow", "2031 Fernhollow", "© 2031 Fernhollow", True),
        ("© 2031 Fernhollow", "© 203] Fernhollow", "© 2031 Fernhollow", True),
        ("How do I come?", "How do! come?", "How do I come?", True),
        ("Nine of a day", "Nine of a dau", "Nine of a day", True),
        ("Nine of a day", "Nine of a day", "Nine of a day", True),
        ("Nine of a day", "Honey and wax", "Honey and wax", False),
    ],
)  # fmt: skip
def test_what_was_read_is_held_against_the_letters(
    drawn: str, read: str, wanted: str, is_sure: bool
) -> None:
    pixels = from_bytes(np.asarray(_drawn(drawn, "figtree-400.ttf", 22)))
    proof = Proofreader(BOOK.faces()).read(pixels, [read])
    assert (proof.lines, proof.is_sure) == ((wanted,), is_sure)


@pytest.mark.parametrize("name", ["figtree-400.ttf", "fraunces-600.ttf"])
def test_single_figures_are_told_from_icons(name: str) -> None:
    for figure in "12345679€":
        drawn = from_bytes(np.asarray(_drawn(figure, name, 30)))
        assert figure_of(drawn, BOOK.faces()) == figure
    for shape in (
        ((12, 26), (20, 34), (36, 12)),
        ((12, 12), (34, 12), (23, 32)),
        ((12, 20), (30, 12), (30, 34)),
    ):
        image = Image.new("RGBA", (184, 184))
        ImageDraw.Draw(image).line([(4 * x, 4 * y) for x, y in shape], "#2b1d12", 16, "curve")
        icon = image.resize((46, 46), Image.Resampling.BOX)
        assert figure_of(from_bytes(np.asarray(icon)), BOOK.faces()) == ""


def test_figures_and_thin_words_are_words_from_the_first_draft_on(
    riffler: Run, tmp_path: Path, reader: Path
) -> None:
    _said(reader, "Visit")
    layers = [Flat("ground", (0, 0, 420, 300), (244, 234, 214, 255))]
    for number, figure in enumerate("123"):
        drawn = np.asarray(_drawn(figure, "fraunces-600.ttf", 40))
        layers.insert(
            0,
            Flat(
                f"number-{figure}",
                (30 + 120 * number, 30, drawn.shape[1], drawn.shape[0]),
                pixels=drawn,
            ),
        )
    root = _with_fonts(tmp_path)
    write_ora(root / "mockups/m.ora", (420, 300), layers)
    riffler("draft", "mockups/m.ora", "--read", cwd=root)
    says = tomllib.loads((root / "cuts/m.toml").read_text())["says"]
    assert says == {f"number-{figure}": figure for figure in "123"}
    drafted = riffler("draft", "mockups/m.ora", "--dry-run", "--no-read", cwd=root).stdout
    assert "number-1" in drafted
    told = json.loads(riffler("measure", "number-2", "--words", "--json", cwd=root).stdout)
    assert (told["source"], told["lines"]) == ("cutlist", ["2"])


def test_lines_are_kept_as_lines(riffler: Run, project: Path, reader: Path) -> None:
    _said(reader, "Adopt a", 'hive "today" \\o/')
    riffler("draft", "mockups/m.ora", "--read", cwd=project)
    written = (project / "cuts/m.toml").read_text()
    assert 'title = """\nAdopt a\nhive ' in written
    told = riffler("measure", "title", "--words", cwd=project).stdout
    assert 'Adopt a\n  hive "today" \\o/' in told


@pytest.mark.parametrize(
    ("thing", "answer", "said"),
    [("plate", "", "plate is no text."), ("title", "no language", 'has no words of "eng"'),
     ("20,200,90,60", "", "There are no words in"), ("title", None, "not installed")],
)  # fmt: skip
def test_what_cannot_be_read_is_said(
    riffler: Run, project: Path, reader: Path, monkeypatch: pytest.MonkeyPatch,
    thing: str, answer: str | None, said: str,
) -> None:  # fmt: skip
    if answer is None:
        monkeypatch.setenv("PATH", str(project))
    else:
        reader.write_text(answer)
    result = riffler("measure", thing, "--words", "--in", "mockups/m.ora", cwd=project, code=2)
    assert said in result.stderr


def _row(name: str, x: int) -> Flat:
    """A card: a box with a text on it."""
    text = np.asarray(_drawn("Six jars", "figtree-600.ttf", 20))
    inside = [
        Flat("label", (x + 10, 130, text.shape[1], text.shape[0]), pixels=text),
        Flat("plate", (x, 110, 150, 90), (255, 253, 248, 255)),
    ]
    return Flat(name, inside=inside)


def test_every_card_of_a_row_has_its_words(riffler: Run, tmp_path: Path, reader: Path) -> None:
    cards = [_row(f"card-{number}", 20 + 170 * number) for number in range(3)]
    ground = Flat("ground", (0, 0, 540, 300), (244, 234, 214, 255))
    root = write_project(tmp_path / "p", {})
    write_ora(root / "mockups/m.ora", (540, 300), [*cards, ground])
    _said(reader, "Six jars")
    told = json.loads(riffler("draft", "mockups/m.ora", "--read", "--json", cwd=root).stdout)
    assert told["says"] == {
        f"card-{number}/label": {"text": "Six jars", "unsure": []} for number in range(3)
    }
    assert not any("as text" in question["text"] for question in told["questions"])
    riffler("draft", "mockups/m.ora", "--read", cwd=root)
    assert '"card-0/label" = "Six jars"' in (root / "cuts/m.toml").read_text()
    assert riffler("survey", cwd=root, code=None).returncode in (0, 1)


def test_words_in_a_flat_picture_are_read_in_a_box(
    riffler: Run, tmp_path: Path, reader: Path
) -> None:
    image = Image.new("RGBA", (400, 200), "#f4ead6")
    text = _drawn("Mill Lane", "fraunces-600.ttf", 30)
    image.alpha_composite(text, (60, 40))
    image.save(tmp_path / "flat.png")
    _said(reader, "Mill Lane")
    box = f"50,35,{text.width + 20},{text.height + 10}"
    told = json.loads(
        riffler("measure", box, "--words", "--json", "--in", "flat.png", cwd=tmp_path).stdout
    )
    assert (told["source"], told["lines"]) == ("read", ["Mill Lane"])
    assert told["shape"] or told["type"]


@pytest.mark.parametrize(
    ("key", "said"),
    [('text = ["a"]', "text"), ('texts = ["a"]', "texts has 1 entries, and there is no times")],
)
def test_texts_are_checked_as_other_keys_are(
    riffler: Run, project: Path, key: str, said: str
) -> None:
    cutlist = f'mockup = "../mockups/m.ora"\n[slice.title]\nonly = ["title"]\n{key}\n'
    (project / "cuts").mkdir(exist_ok=True)
    (project / "cuts/m.toml").write_text(cutlist)
    assert said in riffler("cut", cwd=project, code=2).stderr


def test_the_language_of_words_is_checked(riffler: Run, project: Path) -> None:
    (project / "riffler.toml").write_text('[words]\nlanguage = "eng; rm -rf /"\n')
    assert "language" in riffler("measure", "title", "--words", cwd=project, code=2).stderr


def test_lines_that_touch_are_taken_apart_by_their_number() -> None:
    cover = np.zeros((40, 60), np.float32)
    for top in (2, 14, 26):
        cover[top : top + 11, 5:50:6] = 1
    cover[13:15, 20] = cover[25:27, 26] = 1  # tails that reach the next line
    pixels = np.zeros((40, 60, 4), np.float32)
    pixels[..., 3] = cover
    ink = ink_of(pixels)
    assert ink is not None
    found = lines_of(ink, 3)
    assert [round(line.top) for line in found] == pytest.approx([2, 14, 26], abs=1)
    assert [line.x + 2 for line in found] == [5, 5, 5]
    assert ink_of(np.zeros((4, 4, 4), np.float32)) is None


@pytest.mark.parametrize(
    ("drawn_text", "read_text", "wanted"),
    [
        ("10 – 16", "10 - 16", "10 – 16"),
        ("10 – 16", "10-16", "10 – 16"),
        ("Tea – and cake", "Tea - and cake", "Tea – and cake"),
        ("9 – 12 – 17", "9-12 - 17", "9 – 12 – 17"),
        ("a well-known inn", "a well-known inn", "a well-known inn"),
        ("e-mail", "e-mail", "e-mail"),
        ("10 16", "10-16", "10-16"),  # one that is not there stays as it was read
    ],
)
def test_dashes_are_those_that_are_seen(drawn_text: str, read_text: str, wanted: str) -> None:
    for name, size in (("figtree-400", 16), ("figtree-600", 24), ("fraunces-600", 24)):
        image = Image.new("L", (400, 60))
        font = ImageFont.truetype(FONTS / f"{name}.ttf", size)
        ImageDraw.Draw(image).text((20, 12), drawn_text, font=font, fill=255)
        pixels = np.zeros((60, 400, 4), np.float32)
        pixels[..., 3] = np.asarray(image, np.float32) / 255
        ink = ink_of(pixels)
        assert ink is not None
        (line,) = lines_of(ink)
        assert with_dashes(read_text, line) == wanted, name
