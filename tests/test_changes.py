"""Two versions of a mockup: what is another in the new one, each change known beforehand."""

from __future__ import annotations

import io
import json
import re
import shutil
import zipfile
from collections.abc import Callable, Sequence
from dataclasses import replace
from pathlib import Path
from typing import Any

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from PIL import Image, ImageDraw, ImageFont

from conftest import Run
from making import Flat, png, tree, write_ora, write_project
from riffler.analyse.style import Border, Radii, Shadow, Stop, Style
from riffler.changes.alike import Evidence, overlap
from riffler.changes.arrangement import _longest_rise
from riffler.changes.change import Change, ChangeKind
from riffler.changes.comparison import Changed, changed
from riffler.changes.of_boxes import differences
from riffler.changes.of_words import is_same
from riffler.changes.questions import questions
from riffler.changes.touching import Touched
from riffler.geometry import Rect
from riffler.project.project import Project
from riffler.typeset.ink import Ink
from riffler.workspace import Workspace, kept

FONTS = Path(__file__).parents[1] / "src/riffler/demo/fernhollow/fonts"

BEE = '<ellipse cx="12" cy="14" rx="5" ry="7" fill="{0}"/><circle cx="12" cy="5" r="3" fill="#33231a"/>'


def _card(number: int, x: int) -> str:
    return (
        f'<g id="card-{number}"><rect id="plate-{number}" x="{x}" y="300" width="200" height="160" rx="8" '
        f'fill="#fffaf0"/><g id="bee-{number}" transform="translate({x + 20} 320)">{BEE.format("#e2a32b")}</g>'
        f'<text id="name-{number}" x="{x + 60}" y="340" font-family="Figtree" font-size="18" '
        f'fill="#3a2618">Jar {"one two three".split()[number - 1]}</text></g>'
    )


PAGE = (
    '<rect id="ground" width="800" height="600" fill="#f6ecd8"/>'
    '<g id="head"><rect id="bar" width="800" height="80" fill="#33231a"/>'
    '<text id="brand" x="40" y="50" font-family="Fraunces" font-size="28" font-weight="600" fill="#fbf4e4">'
    "Fernhollow</text></g>"
    '<text id="title" x="40" y="150" font-family="Fraunces" font-size="40" fill="#3a2618">Honey of the year</text>'
    '<text id="claim" font-family="Figtree" font-size="18" fill="#59412a"><tspan x="40" y="190">Poured by hand,'
    '</tspan><tspan x="40" y="217">sealed with wax.</tspan></text>'
    '<g id="call"><rect id="plate" x="40" y="240" width="140" height="40" rx="6" fill="#b8741a"/>'
    '<rect id="hover" x="40" y="240" width="140" height="40" rx="6" fill="#d08a30" display="none"/>'
    '<text id="label" x="110" y="266" text-anchor="middle" font-family="Figtree" font-size="16" fill="#ffffff">'
    "Order now</text></g>"
    + "".join(_card(number, 40 + 240 * (number - 1)) for number in (1, 2, 3))
    + '<g id="foot"><rect id="band" y="520" width="800" height="80" fill="#33231a"/>'
    '<text id="note" x="40" y="566" font-family="Figtree" font-size="15" fill="#e9d9bd">Mill Lane</text></g>'
    '<text x="600" y="150" font-family="Figtree" font-size="17" fill="#7a5a10"><title>season</title>Open in May</text>'
)


def _svg(folder: Path, name: str, inside: str, size: tuple[int, int] = (800, 600)) -> Path:
    (folder / "fonts").mkdir(exist_ok=True)
    for font in FONTS.glob("*.ttf"):
        shutil.copy(font, folder / "fonts")
    path = folder / f"{name}.svg"
    path.write_text(
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{size[0]}" height="{size[1]}">{inside}</svg>'
    )
    return path


def _compared(old: Path, new: Path) -> Changed:
    workspace = Workspace.around(old)
    return changed(workspace, workspace.open(old), workspace.open(new))


def _told(change: Change) -> tuple[Any, ...]:
    """Kind, newest address, and the numbers or values of a change."""
    more: tuple[Any, ...] = ()
    if change.kind in (ChangeKind.MOVED, ChangeKind.RESIZED):
        more = tuple(by for by in (change.dx, change.dy, change.dw, change.dh))
    elif change.aspects:
        more = tuple((one.what, one.was, one.now) for one in change.aspects)
    return (change.kind.value, change.new or change.old or "", *more)


#: What is done to the page, as texts that take the place of others, and what is found.
EDITS: dict[str, tuple[list[tuple[str, str]], list[tuple[Any, ...]]]] = {
    "a box moved": (
        [('id="plate-2" x="280"', 'id="plate-2" x="286"')],
        [("moved", "card-2/plate-2", 6, 0, 0, 0)],
    ),
    "a group of shapes moved by its transform": (
        [("translate(300 320)", "translate(299 324)")],
        [("moved", "card-2/bee-2", -1, 4, 0, 0)],
    ),
    "a text moved": ([('x="40" y="566"', 'x="40" y="578"')], [("moved", "foot/note", 0, 12, 0, 0)]),
    "a text of two lines moved": (
        [('x="40" y="190"', 'x="47" y="191"'), ('x="40" y="217"', 'x="47" y="218"')],
        [("moved", "claim", 7, 1, 0, 0)],
    ),
    "a box grew": (
        [('width="140" height="40" rx="6" fill="#b8741a"', 'width="152" height="48" rx="6" fill="#b8741a"')],
        [("resized", "call/plate", 0, 0, 12, 8)],
    ),
    "a box begins later and ends where it did": (
        [('id="plate-1" x="40" y="300" width="200"', 'id="plate-1" x="43" y="300" width="197"')],
        [("resized", "card-1/plate-1", 3, 0, -3, 0)],
    ),
    "another fill": (
        [('rx="6" fill="#b8741a"', 'rx="6" fill="#b8751a"')],
        [("recoloured", "call/plate", ("fill", "#b8741a", "#b8751a"))],
    ),
    "a state that is hidden": (
        [("#d08a30", "#c07a20")],
        [("recoloured", "call/hover", ("fill", "#d08a30", "#c07a20"))],
    ),
    "another colour of a text": (
        [('fill="#e9d9bd"', 'fill="#c2185b"')],
        [("recoloured", "foot/note", ("text", "#e9d9bd", "#c2185b"))],
    ),
    "an icon in another colour": (
        [(BEE.format("#e2a32b"), BEE.format("#d2932b"))],
        [("recoloured", f"card-{n}/bee-{n}", ("colour", "#e2a32b", "#d2932b")) for n in (1, 2, 3)],
    ),
    "rounder corners": (
        [('height="80" fill="#33231a"/><text id="brand"', 'height="80" rx="12" fill="#33231a"/><text id="brand"')],
        [("restyled", "head/bar", ("radius", "none", "12px"))],
    ),
    "a border": (
        [('id="plate" x="40" y="240" width="140" height="40"',
          'id="plate" stroke="#33231a" stroke-width="2" x="41" y="241" width="138" height="38"')],
        [("restyled", "call/plate", ("border", "none", "2px solid #33231a"),
          ("radius", "6px", "7px"))],
    ),
    "half seen": (
        [('<g id="foot">', '<g id="foot" opacity="0.5">')],
        [("restyled", "foot", ("opacity", "1", "0.5"))],
    ),
    "laid over otherwise": (
        [('id="bar"', 'id="bar" style="mix-blend-mode: multiply"')],
        [("restyled", "head/bar", ("blend", "normal", "multiply"))],
    ),
    "other words": (
        [("Honey of the year", "Honey of this year")],
        [("words", "title", ("text", "Honey of the year", "Honey of this year"))],
    ),
    "other words behind what they are called": (
        [("Open in May", "Open in June")],
        [("words", "season", ("text", "Open in May", "Open in June"))],
    ),
    "other words in the middle of a button": (
        [("Order now", "Order a jar today")],
        [("words", "call/label", ("text", "Order now", "Order a jar today"))],
    ),
    "a heavier weight": (
        [('font-size="15"', 'font-size="15" font-weight="700"')],
        [("type", "foot/note", ("weight", "400", "700"))],
    ),
    "a larger size in another family": (
        [('id="title" x="40" y="150" font-family="Fraunces" font-size="40"',
          'id="title" x="40" y="150" font-family="Figtree" font-size="44"')],
        [("type", "title", ("size", "40px", "44px"), ("family", "Fraunces", "Figtree"))],
    ),
    "lines that break elsewhere": (
        [("Poured by hand,", "Poured by"), ("sealed with wax.", "hand, sealed with wax.")],
        [("type", "claim", ("lines", "Poured by hand, / sealed with wax.", "Poured by / hand, sealed with wax."))],
    ),
    "drawn anew": (
        [(f'<g id="bee-1" transform="translate(60 320)">{BEE.format("#e2a32b")}',
          '<g id="bee-1" transform="translate(60 320)"><path d="M8 2L16 12L8 21Z" fill="#e2a32b"/>')],
        [("redrawn", "card-1/bee-1")],
    ),
    "switched off": ([('id="bar"', 'id="bar" display="none"')], [("hidden", "head/bar")]),
    "switched on": ([(' display="none"', "")], [("shown", "call/hover")]),
    "a whole group switched off": ([('<g id="card-3">', '<g id="card-3" display="none">')], [("hidden", "card-3")]),
    "called otherwise": (
        [('id="plate-2"', 'id="back"')], [("renamed", "card-2/back", ("name", "plate-2", "back"))]
    ),
    "a group called otherwise": (
        [('id="call"', 'id="order"')], [("renamed", "order", ("name", "call", "order"))]
    ),
    "called otherwise and moved": (
        [('id="name-2" x="340" y="340"', 'id="what" x="350" y="340"')],
        [("moved", "card-2/what", 10, 0, 0, 0), ("renamed", "card-2/what", ("name", "name-2", "what"))],
    ),
    "called otherwise and other words": (
        [('id="note" x="40"', 'id="place" x="40"'), ("Mill Lane", "Orchard")],
        [("words", "foot/place", ("text", "Mill Lane", "Orchard")),
         ("renamed", "foot/place", ("name", "note", "place"))],
    ),
    "gone": ([('<rect id="band" y="520" width="800" height="80" fill="#33231a"/>', "")], [("removed", "foot/band")]),
    "new": (
        [("</g><text id=\"title\"", '<circle id="dot" cx="700" cy="40" r="9" fill="#e2a32b"/></g><text id="title"')],
        [("added", "head/dot")],
    ),
    "a whole group gone": ([(_card(2, 280), "")], [("removed", "card-2")]),
    "in another order, unseen": (
        [(_card(1, 40) + _card(2, 280), _card(2, 280) + _card(1, 40))], [("reordered", "")]
    ),
    "in another group": (
        [('<text id="note" x="40" y="566" font-family="Figtree" font-size="15" fill="#e9d9bd">Mill Lane</text></g>',
          '</g><text id="note" x="40" y="566" font-family="Figtree" font-size="15" fill="#e9d9bd">Mill Lane</text>')],
        [("regrouped", "note", ("group", "foot", "the top"))],
    ),
    "only other ids of what is referred to": (
        [('<rect id="ground"', '<defs><linearGradient id="unused"/></defs><rect id="ground"')], []
    ),
}  # fmt: skip


@pytest.mark.parametrize("name", EDITS)
def test_each_change_of_a_drawing_is_found_once_and_named(name: str, tmp_path: Path) -> None:
    edits, wanted = EDITS[name]
    page = PAGE
    for old, new in edits:
        assert old in page
        page = page.replace(old, new)
    found = _compared(_svg(tmp_path, "old", PAGE), _svg(tmp_path, "new", page))
    assert sorted(map(_told, found.changes)) == sorted(wanted)


def test_many_changes_at_once_with_other_names_are_each_found(tmp_path: Path) -> None:
    singles = [
        "a box moved", "a text moved", "another fill", "other words", "a heavier weight",
        "called otherwise", "a group called otherwise",
    ]  # fmt: skip
    page = PAGE
    wanted = []
    for name in singles:
        for old, new in EDITS[name][0]:
            page = page.replace(old, new)
        wanted += EDITS[name][1]
    found = _compared(_svg(tmp_path, "old", PAGE), _svg(tmp_path, "new", page))
    told = [(one[0], one[1].rpartition("/")[2], *one[2:]) for one in map(_told, found.changes)]
    renamed = {"plate-2": "back", "call": "order"}
    names = [
        (one[0], renamed.get(last := one[1].rpartition("/")[2], last), *one[2:]) for one in wanted
    ]
    assert sorted(told) == sorted(names)


def test_a_version_and_itself_are_the_same(tmp_path: Path) -> None:
    path = _svg(tmp_path, "old", PAGE)
    assert _compared(path, path).changes == ()


def test_texts_whose_font_is_missing_are_compared_as_they_are_said(tmp_path: Path) -> None:
    old = PAGE.replace('"Figtree"', '"Nowhere Sans"')
    new = old.replace("Jar two", "Jar twelve").replace('x="40" y="566"', 'x="46" y="566"')
    new = new.replace('"Nowhere Sans" font-size="16"', '"Nowhere Sans" font-size="20"')
    found = _compared(_svg(tmp_path, "old", old), _svg(tmp_path, "new", new))
    assert sorted(map(_told, found.changes), reverse=True) == [
        ("words", "card-2/name-2", ("text", "Jar two", "Jar twelve")),
        ("type", "call/label", ("size", "16px", "20px")), ("moved", "foot/note", 6, 0, 0, 0),
    ]  # fmt: skip


@pytest.mark.parametrize("names", ["", 'id="cell"'])
def test_many_alike_keep_their_order_when_all_move(names: str, tmp_path: Path) -> None:
    versions = [
        _svg(tmp_path, f"v{by}", "".join(
            f'<rect {names} x="{20 * (n % 38) + 5 + by}" y="{20 * (n // 38) + 5}" width="12" height="12"/>'
            for n in range(1026)
        )) for by in (0, 3)
    ]  # fmt: skip
    (moved,) = _compared(*versions).changes
    assert _told(moved)[2:] == (3, 0, 0, 0)
    assert len(moved.pairs) == 1026
    assert all(before == after for before, after in moved.pairs)


def test_what_moved_together_is_one_change(tmp_path: Path) -> None:
    old = _svg(tmp_path, "old", PAGE)
    lower = re.sub(r'y="(\d+)"', lambda y: f'y="{int(y[1]) + 24 * (int(y[1]) >= 300)}"', PAGE)
    lower = re.sub(r"translate\((\d+) 320\)", r"translate(\1 344)", lower)
    found = _compared(old, _svg(tmp_path, "pushed", lower, (800, 624))).changes
    assert [(one.kind, one.where, one.dy) for one in found] == [
        (ChangeKind.PAGE, "", 0), (ChangeKind.MOVED, "everything below plate", 24),
    ]  # fmt: skip
    assert len(found[1].pairs) == 11
    aside = PAGE.replace(_card(3, 520), _card(3, 530))
    one, *rest = _compared(old, _svg(tmp_path, "aside", aside)).changes
    assert not rest
    assert (one.kind, one.old, one.new, one.dx, len(one.others)) == (
        ChangeKind.MOVED,
        "card-3",
        "card-3",
        10,
        3,
    )


def test_a_row_put_in_between_is_new_and_the_others_moved(tmp_path: Path) -> None:
    """Every row has the same icon: that of the new one lies where one of the old ones lay."""

    def rows(names: Sequence[str]) -> str:
        return "".join(
            f'<g id="row"><g id="sign" transform="translate(20 {20 + 40 * n})">{BEE.format("#b8741a")}</g>'
            f'<text id="what" x="60" y="{36 + 40 * n}" font-family="Figtree" font-size="16">{name}</text></g>'
            for n, name in enumerate(names)
        )

    old = _svg(tmp_path, "old", rows(["Clover", "Heather", "Lime", "Acacia"]), (400, 240))
    new = _svg(tmp_path, "new", rows(["Clover", "Meadow", "Heather", "Lime", "Acacia"]), (400, 240))
    added, moved = _compared(old, new).changes
    assert (added.kind, added.new, len(added.others)) == (ChangeKind.ADDED, "row#4", 2)
    assert (moved.kind, moved.dy, len(moved.pairs)) == (ChangeKind.MOVED, 40, 6)


# Layers of pixels.


def _word(text: str, size: int = 28, color: str = "#3a2618") -> np.ndarray:
    """A text as a program draws it into a layer of its own."""
    font = ImageFont.truetype(str(FONTS / "figtree-400.ttf"), size)
    left, top, right, bottom = font.getbbox(text)
    image = Image.new(
        "RGBA", (int(right - left) + 2, int(bottom - top) + 2), (*bytes.fromhex(color[1:]), 0)
    )
    ImageDraw.Draw(image).text((1 - left, 1 - top), text, font=font, fill=color)
    return np.asarray(image)


def _photo(seed: int, side: int = 60) -> np.ndarray:
    make = np.random.default_rng(seed)
    rough = make.integers(0, 255, (6, 6, 3), dtype=np.uint8)
    image = Image.fromarray(rough).resize((side, side), Image.Resampling.BICUBIC).convert("RGBA")
    return np.asarray(image)


def _art(layer: str, pixels: np.ndarray, x: int, y: int) -> Flat:
    return Flat(layer, (x, y, pixels.shape[1], pixels.shape[0]), pixels=pixels)


def _stack() -> dict[str, Flat]:
    """Layers by name, the topmost first."""
    return {
        "title": _art("title", _word("Honey of the year", 36), 40, 40),
        "photo": _art("photo", _photo(1), 40, 120),
        "other": _art("other", _photo(2), 140, 120),
        "badge": Flat("badge", (300, 120, 80, 30), (184, 116, 26, 255)),
        "group": Flat("group", inside=[Flat("inner", (300, 200, 60, 40), (47, 75, 124, 255)),
                                       Flat("lower", (300, 250, 60, 20), (90, 90, 30, 255))]),
        "ground": Flat("ground", (0, 0, 480, 320), (246, 236, 216, 255)),
    }  # fmt: skip


def _moved_to(layer: Flat, x: int, y: int) -> Flat:
    return replace(layer, box=(x, y, *layer.box[2:]))


def _larger(pixels: np.ndarray, size: tuple[int, int]) -> np.ndarray:
    return np.asarray(Image.fromarray(pixels).resize(size, Image.Resampling.BICUBIC))


def _dot(side: int) -> np.ndarray:
    """A round dot, each pixel as far covered as it is."""
    fine = (np.arange(side * 16) + 0.5) / 16 - side / 2
    is_in = (fine[:, None] ** 2 + fine[None, :] ** 2) <= (side / 2) ** 2
    pixels = np.empty((side, side, 4), np.uint8)
    pixels[...] = (184, 60, 26, 0)
    pixels[..., 3] = np.round(255 * is_in.reshape(side, 16, side, 16).mean(axis=(1, 3)))
    return pixels


Edit = Callable[[dict[str, Flat]], dict[str, Flat]]


def _with(name: str, layer: Flat | None) -> Edit:
    def edit(stack: dict[str, Flat]) -> dict[str, Flat]:
        kept_ones = {key: layer if key == name else old for key, old in stack.items()}
        return {key: one for key, one in kept_ones.items() if one is not None}

    return edit


STACK = _stack()

PIXELS: dict[str, tuple[Edit, list[tuple[Any, ...]]]] = {
    "moved": (_with("photo", _moved_to(STACK["photo"], 46, 116)), [("moved", "photo", 6, -4, 0, 0)]),
    "a text moved by one": (
        _with("title", _moved_to(STACK["title"], 41, 40)), [("moved", "title", 1, 0, 0, 0)]
    ),
    "larger": (
        _with("photo", _art("photo", _larger(_photo(1), (72, 68)), 40, 120)),
        [("resized", "photo", 0, 0, 12, 8)],
    ),
    "another photograph": (_with("photo", _art("photo", _photo(9), 40, 120)), [("redrawn", "photo")]),
    "two photographs that changed places": (
        lambda stack: {
            **stack, "photo": _moved_to(stack["photo"], 140, 120), "other": _moved_to(stack["other"], 40, 120)
        },
        [("moved", "other", -100, 0, 0, 0), ("moved", "photo", 100, 0, 0, 0)],
    ),
    "another fill": (
        _with("badge", Flat("badge", (300, 120, 80, 30), (216, 186, 102, 255))),
        [("recoloured", "badge", ("fill", "#b8741a", "#d8ba66"))],
    ),
    "a thin line in another colour": (
        _with("badge", Flat("badge", (300, 120, 80, 1), (192, 225, 221, 255))),
        [("recoloured", "badge", ("fill", "#d8cfbf", "#c0e1dd"))],
    ),
    "a small dot that grew": (
        _with("badge", _art("badge", _dot(7), 300, 120)), [("resized", "badge", 0, 0, 1, 1)]
    ),
    "another colour of a text": (
        _with("title", _art("title", _word("Honey of the year", 36, "#c2185b"), 40, 40)),
        [("recoloured", "title", ("text", "#3a2618", "#c2185b"))],
    ),
    "gone": (_with("other", None), [("removed", "other")]),
    "new": (
        lambda stack: {"note": _art("note", _word("New"), 400, 20), **stack}, [("added", "note")]
    ),
    "called otherwise": (
        _with("badge", replace(STACK["badge"], name="pill")), [("renamed", "pill", ("name", "badge", "pill"))]
    ),
    "switched off": (
        _with("badge", replace(STACK["badge"], more={"visibility": "hidden"})), [("hidden", "badge")]
    ),
    "half seen, laid over otherwise": (
        _with("badge", replace(STACK["badge"], more={"opacity": "0.5", "composite-op": "svg:multiply"})),
        [("restyled", "badge", ("opacity", "1", "0.5"), ("blend", "normal", "multiply"))],
    ),
    "another order": (
        lambda stack: {key: stack[key] for key in ("title", "other", "photo", "badge", "group", "ground")},
        [("reordered", "")],
    ),
    "out of its group": (
        lambda stack: {
            **{key: one for key, one in stack.items() if key != "ground"},
            "group": Flat("group", inside=stack["group"].inside[1:] if stack["group"].inside else ()),
            "inner": Flat("inner", (300, 200, 60, 40), (47, 75, 124, 255)), "ground": stack["ground"],
        },
        [("regrouped", "inner", ("group", "group", "the top"))],
    ),
}  # fmt: skip


@pytest.mark.parametrize("name", PIXELS)
def test_each_change_of_layers_of_pixels_is_found_once_and_named(name: str, tmp_path: Path) -> None:
    edit, wanted = PIXELS[name]
    before = dict(STACK)
    if "thin" in name:
        before["badge"] = Flat("badge", (300, 120, 80, 1), (216, 207, 191, 255))
    if "dot" in name:
        before["badge"] = _art("badge", _dot(6), 300, 120)
    old = write_ora(tmp_path / "old.ora", (480, 320), list(before.values()))
    new = write_ora(tmp_path / "new.ora", (480, 320), list(edit(_stack()).values()))
    found = _compared(old, new)
    assert sorted(map(_told, found.changes)) == sorted(wanted)


@pytest.mark.parametrize(
    ("word", "kind"),
    [("Honey of this year", ChangeKind.WORDS), ("Moths by the lamp", ChangeKind.WORDS)],
)
def test_words_in_pixels_that_are_others_are_read(
    word: str, kind: ChangeKind, tmp_path: Path
) -> None:
    old = write_ora(tmp_path / "old.ora", (480, 320), list(STACK.values()))
    edit = _with("title", _art("title", _word(word, 36), 40, 40))
    new = write_ora(tmp_path / "new.ora", (480, 320), list(edit(_stack()).values()))
    (one,) = _compared(old, new).changes
    assert (one.kind, one.new) == (kind, "title")
    if one.aspects:  # where Tesseract is at hand
        assert one.aspects[0].now == word


def test_pixels_packed_otherwise_are_the_same(tmp_path: Path) -> None:
    """Another program packs the same pixels otherwise, and adds clear rims."""
    old = write_ora(tmp_path / "old.ora", (480, 320), list(STACK.values()))
    rim = np.zeros((80, 100, 4), np.uint8)
    rim[10:70, 20:80] = _photo(1)
    edit = _with("photo", _art("photo", rim, 20, 110))
    new = write_ora(tmp_path / "new.ora", (480, 320), list(edit(_stack()).values()))
    packed = tmp_path / "packed.ora"
    with zipfile.ZipFile(new) as source, zipfile.ZipFile(packed, "w") as target:
        for name in source.namelist():
            data = source.read(name)
            if name.endswith(".png"):
                out = io.BytesIO()
                Image.open(io.BytesIO(data)).save(out, "PNG", compress_level=1)
                data = out.getvalue()
            target.writestr(name, data)
    assert _compared(old, packed).changes == ()


def test_versions_of_two_densities_are_compared_in_css_pixels(tmp_path: Path) -> None:
    old = _svg(tmp_path, "page", PAGE)
    inside = PAGE.replace("Mill Lane", "Mill Road")
    (tmp_path / "page@2x.svg").write_text(
        '<svg xmlns="http://www.w3.org/2000/svg" width="1600" height="1200" viewBox="0 0 800 600">'
        f"{inside}</svg>"
    )
    found = _compared(old, tmp_path / "page@2x.svg")
    assert (found.old.density, found.new.density) == (1, 2)
    assert [_told(one) for one in found.changes] == [
        ("words", "foot/note", ("text", "Mill Lane", "Mill Road"))
    ]


# Parts.


@pytest.mark.parametrize(
    ("was", "now", "is_exact", "kinds"),
    [
        (Style((Stop(0, "#102030"),)), Style((Stop(0, "#112030"),)), False, []),
        (Style((Stop(0, "#102030"),)), Style((Stop(0, "#122030"),)), True, ["recoloured"]),
        (Style((Stop(0, "#102030"),), radii=Radii(6, 6, 6, 6)),
         Style((Stop(0, "#102030"),), radii=Radii(7, 7, 7, 7)), False, []),
        (Style((Stop(0, "#102030"),), radii=Radii(6, 6, 6, 6)),
         Style((Stop(0, "#102030"),), radii=Radii(7, 7, 7, 7)), True, ["restyled"]),
        (Style((Stop(0, "#102030"),), radii=Radii(6, 6, 6, 6)),
         Style((Stop(0, "#102030"),), radii=Radii(9, 9, 9, 9)), False, ["restyled"]),
        (Style((Stop(0, "#ffffff"),), border=Border("#000000", 1)),
         Style((Stop(0, "#ffffff"),), border=Border("#ff0000", 1)), False, ["recoloured"]),
        (Style((Stop(0, "#ffffff"),), border=Border("#000000", 1)),
         Style((Stop(0, "#ffffff"),), border=Border("#000000", 2)), False, ["restyled"]),
        (Style((Stop(0, "#7a4a20"),)), Style((Stop(0, "#ffffff"),), border=Border("#7a4a20", 1)), True,
         ["recoloured"]),
        (Style((Stop(0, "#ffffff"),), shadows=(Shadow(0, 2, 8, "#00000040"),)),
         Style((Stop(0, "#ffffff"),), shadows=(Shadow(0, 4, 12, "#0000003c"),)), False, []),
        (Style((Stop(0, "#ffffff"),), shadows=(Shadow(0, 2, 8, "#00000040"),)),
         Style((Stop(0, "#ffffff"),)), False, ["restyled"]),
        (Style((Stop(0, "#ffffff"), Stop(1, "#000000")), 180),
         Style((Stop(0, "#fffefd"), Stop(1, "#000000")), 181), False, []),
        (Style((Stop(0, "#ffffff"), Stop(1, "#000000")), 180),
         Style((Stop(0, "#ffffff"), Stop(1, "#000000")), 135), False, ["restyled"]),
        (Style((Stop(0, "#ffffff"),)), Style((Stop(0, "#ffffff"), Stop(1, "#000000")), 180), False, ["restyled"]),
        (Style((Stop(0, "#ffffff"),), radii=None),
         Style((Stop(0, "#ffffff"),), radii=Radii(20, 20, 20, 20)), False, []),
    ],
)  # fmt: skip
def test_styles_that_were_measured_may_err_and_those_that_are_said_may_not(
    was: Style, now: Style, is_exact: bool, kinds: list[str]
) -> None:
    found = [kind.value for kind, _ in differences(was, now, is_exact=is_exact)]
    assert found == kinds


def test_the_same_ink_may_lie_between_pixels() -> None:
    ink = _word("Order now", 30)[..., 3].astype(np.float32) / 255
    wide = np.pad(ink, 2).astype(np.float32)
    between = ((wide + np.roll(wide, 1, axis=1)) / 2).astype(np.float32)
    assert is_same(Ink(wide, "#000000"), Ink(between, "#000000"))
    other = (np.pad(_word("Order hot", 30)[..., 3], 2) / 255).astype(np.float32)
    width = min(wide.shape[1], other.shape[1])
    height = min(wide.shape[0], other.shape[0])
    assert not is_same(
        Ink(wide[:height, :width], "#000000"), Ink(other[:height, :width], "#000000")
    )


@given(st.permutations(range(9)))
def test_what_stays_in_order_is_a_longest_rise(places: list[int]) -> None:
    stay = _longest_rise(places)
    kept_ones = [place for index, place in enumerate(places) if index in stay]
    assert kept_ones == sorted(kept_ones)
    best = [1] * len(places)
    for end in range(len(places)):
        longest = [best[start] for start in range(end) if places[start] < places[end]]
        best[end] += max(longest, default=0)
    assert len(stay) == max(best)


PLAIN = Style(
    (Stop(0, "#808080"),),
    radii=Radii(8, 8, 8, 8),
    border=Border("#202020", 2),
    shadows=(Shadow(0, 4, 12, "#00000040"),),
)
FADING = Style((Stop(0, "#808080"), Stop(1, "#202020")), 90)


@pytest.mark.parametrize(
    ("was", "near", "far"),
    [  # what measuring may err by, and a little more
        (PLAIN, {"stops": (Stop(0, "#818080"),)}, {"stops": (Stop(0, "#828080"),)}),
        (PLAIN, {"radii": Radii(9, 8, 8, 8)}, {"radii": Radii(9.2, 8, 8, 8)}),
        (PLAIN, {"border": Border("#202020", 2.5)}, {"border": Border("#202020", 2.7)}),
        (PLAIN, {"shadows": (Shadow(3, 4, 18, "#0e000040"),)}, {"shadows": (Shadow(3.2, 4, 12, "#00000040"),)}),
        (PLAIN, {"shadows": (Shadow(0, 4, 12, "#0000004e"),)}, {"shadows": (Shadow(0, 4, 12, "#0000004f"),)}),
        (PLAIN, {"shadows": (Shadow(0, 4, 18, "#00000040"),)}, {"shadows": (Shadow(0, 4, 18.4, "#00000040"),)}),
        (FADING, {"stops": (Stop(0, "#838080"), Stop(1, "#202020"))}, {"stops": (Stop(0, "#848080"), Stop(1, "#202020"))}),
        (FADING, {"stops": (Stop(0.02, "#808080"), Stop(1, "#202020"))}, {"stops": (Stop(0.04, "#808080"), Stop(1, "#202020"))}),
        (FADING, {"angle": 92}, {"angle": 93}),
    ],
)  # fmt: skip
def test_how_far_a_measured_style_may_be_off(
    was: Style, near: dict[str, Any], far: dict[str, Any]
) -> None:
    assert [*differences(was, replace(was, **near), is_exact=False)] == []
    assert len([*differences(was, replace(was, **far), is_exact=False)]) == 1
    assert len([*differences(was, replace(was, **near), is_exact=True)]) == 1


@pytest.mark.parametrize(
    ("evidence", "is_one"),
    [
        (Evidence(1, 1, 0), True),
        (Evidence(0, 1, 0.5), True),
        (Evidence(0, 0, 1), True),
        (Evidence(0, 0.9, 0, 1), True),
        (Evidence(1, 0, 0), False),
        (Evidence(0, 1, 0), False),
        (Evidence(0.7, 0, 0.3), False),
    ],
)
def test_two_signs_make_two_drawings_one(evidence: Evidence, is_one: bool) -> None:
    assert evidence.is_enough == is_one


def test_places_count_from_where_the_neighbours_went() -> None:
    box = Rect(10, 10, 100, 20)
    assert overlap(box, Rect(10, 10, 100, 20), (0, 0)) == 1
    assert overlap(box, Rect(10, 50, 100, 20), (0, 0)) == 0
    assert overlap(box, Rect(10, 50, 100, 20), (0, 40)) == 1
    assert overlap(box, Rect(10, 12, 50, 18), (0, 0)) == pytest.approx(0.8)


# The command.


@pytest.fixture
def both(tmp_path: Path) -> tuple[Path, Path]:
    page = PAGE
    for name in (
        "a box moved",
        "other words",
        "another fill",
        "a state that is hidden",
        "called otherwise",
    ):
        for old, new in EDITS[name][0]:
            page = page.replace(old, new)
    page = page.replace('id="back" x="286"', 'id="plate-2" x="281"')
    return _svg(tmp_path, "old", PAGE), _svg(tmp_path, "new", page)


@pytest.mark.usefixtures("both")
def test_two_files_are_told_apart(riffler: Run) -> None:
    done = riffler("changes", "old.svg", "new.svg", code=1).stdout
    assert done.startswith("old.svg and new.svg\n")
    assert 'title: reads "Honey of this year" instead of "Honey of the year"' in done
    assert "plate: fill #b8751a instead of #b8741a" in done
    assert "hover: fill #c07a20 instead of #d08a30 (hidden)" in done
    assert done.rstrip().endswith("3 changes that are seen, 1 that are not.")
    assert riffler("changes", "old.svg", "old.svg").stdout.endswith("Nothing changed.\n")


@pytest.mark.usefixtures("both")
def test_the_changes_as_data(riffler: Run) -> None:
    data = json.loads(riffler("changes", "old.svg", "new.svg", "--json", code=1).stdout)
    assert (data["command"], data["version"]) == ("changes", 1)
    (mockup,) = data["mockups"]
    assert (mockup["old"], mockup["new"], mockup["density"]) == (
        "old.svg",
        "new.svg",
        {"old": 1, "new": 1},
    )
    assert mockup["matched"] == 20
    by_kind = {one["change"]: one for one in mockup["changes"] if one["shows"]}
    assert by_kind["moved"]["new"] == "card-2/plate-2"
    assert (by_kind["moved"]["dx"], by_kind["moved"]["dy"]) == (1, 0)
    assert by_kind["moved"]["was"] == {"x": 280, "y": 300, "width": 200, "height": 160}
    assert by_kind["words"]["aspects"] == [
        {"what": "text", "was": "Honey of the year", "now": "Honey of this year"}
    ]
    assert [one["number"] for one in mockup["changes"]] == [1, 2, 3, 4]


@pytest.mark.usefixtures("both")
def test_a_note_says_what_changed_and_asks(riffler: Run) -> None:
    note = riffler("changes", "old.svg", "new.svg", "--note", code=1).stdout
    assert note.startswith("Changes: old.svg and new.svg\n\n1. ")
    said, _, asked = note.partition("Questions\n")
    assert "plate-2: 1 px further right" in said
    assert "1 more that nobody sees" in said
    number = re.search(r"(\d)\. plate-2", said)
    assert number is not None
    assert f"- To {number[1]}: So little: is it meant?" in asked
    assert riffler("changes", "old.svg", "old.svg", "--note").stdout == "Nothing changed.\n"


def _asked(changes: Sequence[Change], tmp_path: Path, page: str) -> list[str]:
    found = _compared(_svg(tmp_path, "old", PAGE), _svg(tmp_path, "new", page))
    assert [one.kind for one in found.changes] == [one.kind for one in changes] or not changes
    return [
        one.text
        for one in questions(found, tuple(Touched() for _ in found.changes), "home-narrow.svg")
    ]


@pytest.mark.parametrize(
    ("old", "new", "question"),
    [
        ('rx="6" fill="#b8741a"', 'rx="6" fill="#304f8f"', "Its state for hover is as it was: is that meant?"),
        ('fill="#3a2618">Jar one', 'fill="#102030">Jar one', "3 other things keep #3a2618: is that meant?"),
        ('<rect id="band" y="520" width="800" height="80" fill="#33231a"/>', "",
         "Is it gone for good, on every page?"),
        ('<g id="foot">', '<rect id="read-more" x="600" y="200" width="90" height="30" fill="#123456"/><g id="foot">',
         "Where does it lead, and how does it look under the pointer and in focus?"),
        (BEE.format("#e2a32b") + '</g><text id="name-1"', BEE.format("#304f8f") + '</g><text id="name-1"',
         "It was one of 3 made alike: do the other 2 stay as they are?"),
        ("Mill Lane", "Mill Road", "home-narrow.svg is as it was. Does all this hold for small windows?"),
    ],
)  # fmt: skip
def test_changes_raise_questions(old: str, new: str, question: str, tmp_path: Path) -> None:
    assert old in PAGE
    assert question in _asked((), tmp_path, PAGE.replace(old, new, 1))


@pytest.mark.usefixtures("both")
def test_a_page_and_a_picture_show_both(riffler: Run, tmp_path: Path) -> None:
    said = riffler(
        "changes", "old.svg", "new.svg", "--page", "c.html", "--picture", "c.png", code=1
    ).stdout
    assert "Wrote c.html" in said
    assert "Wrote c.png" in said
    page = (tmp_path / "c.html").read_text()
    assert "Drawn by Riffler" in page
    assert page.count("data:image/png") == 4
    assert page.count('data-mark="') == 2 * 4
    assert not re.search(r"https?:", page.replace("http://www.w3.org", ""))
    with Image.open(tmp_path / "c.png") as picture:
        assert picture.size == (2 * 800 + 24, 600)
        pixels = np.asarray(picture)
    assert (pixels[300:460, 280:283] == (0x46, 0x65, 0x2A)).all(axis=2).any()
    assert (pixels[300:460, 824 + 281 : 824 + 284] == (0xC0, 0x44, 0x0F)).all(axis=2).any()
    before = tree(tmp_path)
    riffler("changes", "old.svg", "new.svg", "--page", "c.html", code=1)
    assert tree(tmp_path) == before


@pytest.mark.usefixtures("both")
@pytest.mark.parametrize(
    ("arguments", "said"),
    [
        (("old.svg", "none.svg"), "none.svg"),
        (("old.svg",), "no project"),
        (("old.svg", "new.svg", "--dry-run"), "--dry-run goes with --take"),
        (("old.svg", "new.svg", "--take"), "--take goes with the mockups of a project"),
        (("old.svg", "new.svg", "--page", "x.txt"), "should end in .html"),
        (("old.svg", "new.svg", "--picture", "old.svg"), "should end in .png"),
        (("--take",), "project"),
        (("--take", "--note"), "--take goes without --note"),
    ],
)
def test_wrong_use_is_told(
    riffler: Run, tmp_path: Path, arguments: tuple[str, ...], said: str
) -> None:
    before = tree(tmp_path)
    assert said in riffler("changes", *arguments, code=2).stderr
    assert tree(tmp_path) == before


# The version that was cut.


def _cut_project(riffler: Run, root: Path) -> Path:
    slices = (
        '[guides.y]\nphotos = 120\n\n[slice.shot]\nx = [40, 100]\ny = ["photos", 180]\nalt = ""\n\n'
        '[slice.badge]\nonly = ["badge"]\nalt = ""\nlink = "index"\n'
        '[slice.badge.state.hover]\nshow = ["group/inner"]\n'
    )
    files = {
        "cuts/home.toml": f'mockup = "../mockups/m.ora"\nwords = ["title"]\n\n{slices}',
        "pages/index.html": '<!doctype html>\n<h1>Honey of the year</h1>\n{{ inlay("badge") }}\n',
        "styles/site.css": ":root {\n  --amber: #b8741a;\n}\n",
    }
    write_project(root, files)
    write_ora(root / "mockups/m.ora", (480, 320), list(STACK.values()))
    riffler("cut", cwd=root)
    return root


def test_a_project_compares_with_what_was_cut(riffler: Run, tmp_path: Path) -> None:
    root = _cut_project(riffler, tmp_path / "p")
    assert "Nothing changed." in riffler("changes", cwd=root).stdout
    stack = _with("badge", Flat("badge", (300, 120, 80, 30), (216, 186, 102, 255)))(_stack())
    stack = _with("photo", _moved_to(STACK["photo"], 40, 128))(stack)
    write_ora(root / "mockups/m.ora", (480, 320), list(stack.values()))
    data = json.loads(riffler("changes", "--json", cwd=root, code=1).stdout)["mockups"][0]
    assert data["old"] is None
    touched = {one["change"]: one["touches"] for one in data["changes"]}
    assert touched["moved"]["slices"] == ["shot"]
    assert touched["moved"]["guides"] == ["y.photos"]
    assert touched["recoloured"]["slices"] == ["badge"]
    assert touched["recoloured"]["tokens"] == ["amber"]
    places = [(Path(one["file"]).name, one["line"]) for one in touched["recoloured"]["lines"]]
    assert places == [("site.css", 2), ("index.html", 3)]
    assert touched["recoloured"]["pages"][0] == "index"
    refused = riffler("cut", cwd=root, code=2).stderr
    assert "riffler changes --take" in refused
    riffler("cut", "--force", cwd=root)
    assert "Nothing changed." in riffler("changes", cwd=root).stdout
    assert "photo: 8 px lower" in riffler("changes", "--earlier", cwd=root, code=1).stdout


def test_a_state_is_touched_by_itself(riffler: Run, tmp_path: Path) -> None:
    root = _cut_project(riffler, tmp_path / "p")
    inner = Flat("group", inside=[Flat("inner", (300, 130, 60, 20), (9, 75, 124, 255)),
                                  Flat("lower", (300, 250, 60, 20), (90, 90, 30, 255))])  # fmt: skip
    write_ora(root / "mockups/m.ora", (480, 320), list(_with("group", inner)(_stack()).values()))
    data = json.loads(riffler("changes", "mockups/m.ora", "--json", cwd=root, code=1).stdout)
    touches = [
        one["touches"] for one in data["mockups"][0]["changes"] if one["new"] == "group/inner"
    ]
    assert any(one.get("states") == ["badge.hover"] for one in touches)


def test_versions_share_what_did_not_change(tmp_path: Path) -> None:
    root = write_project(tmp_path / "p", {})
    project, path = Project.at(root), root / "mockups/m.ora"
    noise = np.random.default_rng(3).integers(0, 255, (200, 200, 4), dtype=np.uint8)
    layers = [Flat("small", (0, 0, 8, 8)), _art("noise", noise, 0, 0)]
    write_ora(path, (300, 300), layers, **{"mergedimage.png": png(noise)})
    kept.keep(project, [path])
    parts = root / ".riffler/versions/parts"
    first = sum(one.stat().st_size for one in parts.iterdir())
    assert first < 1.1 * len(png(noise))  # the merged picture is not kept
    whole = Workspace(project).open(path).renderer
    for shade in (1, 2, 3):
        layers[0] = Flat("small", (0, 0, 8, 8), (shade, 0, 0, 255))
        write_ora(path, (300, 300), layers)
        kept.keep(project, [path])
    assert sum(one.stat().st_size for one in parts.iterdir()) < first + 2000
    found = kept.versions(project, path)
    assert len(found) == kept.MOST
    with kept.restored(project, path, found[1]) as older:
        renderer = Workspace.around(older).open(older).renderer
        box = renderer.mockup.by_address["small"]
        pixels = renderer.render(renderer.mockup.box, 1.0, frozenset(["small"]))
        assert round(float(pixels[0, 0, 0]) * 255) == 2
        assert renderer.essence("noise") == whole.essence("noise")
        assert box.box is not None
    assert not older.exists()


def test_a_drawing_is_kept_apart_from_its_pictures(tmp_path: Path) -> None:
    import base64

    root = write_project(tmp_path / "p", {})
    project, path = Project.at(root), root / "mockups/m.svg"
    data = base64.b64encode(png(_photo(4, 90))).decode()
    image = f'<image id="shot" width="90" height="90" href="data:image/png;base64,{data}"/>'
    text = f'<svg xmlns="http://www.w3.org/2000/svg" width="90" height="90">{image}</svg>'
    path.write_text(text)
    kept.keep(project, [path])
    (now,) = kept.versions(project, path)
    assert len(now.parts) == 3
    with kept.restored(project, path, now) as older:
        assert older.read_text() == text
    path.write_text(text.replace('id="shot"', 'id="bee"'))
    kept.keep(project, [path])
    newer, older_one = kept.versions(project, path)
    assert newer.parts[1] == older_one.parts[1]
    assert newer.parts[0] != older_one.parts[0]


def test_a_damaged_version_is_told(riffler: Run, tmp_path: Path) -> None:
    root = _cut_project(riffler, tmp_path / "p")
    for part in (root / ".riffler/versions/parts").iterdir():
        part.write_bytes(b"damaged")
    assert "is damaged" in riffler("changes", cwd=root, code=2).stderr
    shutil.rmtree(root / ".riffler")
    assert "is not kept yet" in riffler("changes", cwd=root, code=2).stderr
    riffler("cut", cwd=root)
    assert "Nothing changed." in riffler("changes", cwd=root).stdout
    for note in (root / ".riffler/versions").glob("*.json"):
        note.write_text(
            '{"shape": 1, "kept": [{"sha256": "x", "is_archive": true, "parts": [["a", "../../x"]]}]}'
        )
    assert "is not kept yet" in riffler("changes", cwd=root, code=2).stderr


def test_watching_and_previews_keep_nothing(riffler: Run, tmp_path: Path) -> None:
    from riffler.cutting.cut import cut

    root = write_project(
        tmp_path / "p",
        {"cuts/m.toml": 'mockup = "../mockups/m.ora"\n[slice.all]\nat = [0, 0, 9, 9]\nalt = ""\n'},
    )
    cut(Workspace(Project.at(root)), keeps=False)
    assert kept.versions(Project.at(root), root / "mockups/m.ora") == []
    riffler("cut", cwd=root)
    assert len(kept.versions(Project.at(root), root / "mockups/m.ora")) == 1
