"""Roughing out rows: cells of a menu, one row among things below one another, badges on an edge."""

from __future__ import annotations

import time
from dataclasses import replace

import pytest

from riffler.analyse.style import Stop, Style
from riffler.fit import guard
from riffler.geometry import Rect
from riffler.markup.area import Area, Piece, Shape
from riffler.markup.corners import with_badges
from riffler.markup.evening import evened
from riffler.markup.extents import height_of, left_of, right_of, top_of
from riffler.markup.lines import are_lines, rows_of
from riffler.reading.part import PartKind
from test_rough import words


def boxes(*places: tuple[float, float, float, float]) -> list[Area]:
    return [Area(Shape.BOX, Rect(*place)) for place in places]


@pytest.mark.parametrize(
    ("places", "rows", "is_meant"),
    [
        ([(0, 0, 90, 20), (100, 0, 90, 20), (0, 40, 190, 20)], [2, 1], True),
        ([(0, 0, 190, 20), (0, 40, 90, 20), (100, 40, 90, 20)], [1, 2], True),
        ([(0, 0, 190, 20), (0, 40, 90, 20), (100, 40, 90, 20), (0, 80, 9, 9)], [1, 2, 1], True),
        ([(0, 0, 90, 20), (0, 40, 90, 20)], [1, 1], False),
        ([(0, 0, 90, 20), (100, 0, 90, 20)], [2], False),
        ([(0, 0, 90, 90), (0, 40, 90, 20), (100, 40, 90, 20)], [1, 2], False),  # one on another
        ([(0, 0, 9, 9), (10, 0, 9, 9), (0, 20, 9, 9), (10, 20, 9, 9)], [2, 2], False),
    ],
)
def test_one_row_among_things_below_one_another(
    places: list[tuple[float, float, float, float]], rows: list[int], *, is_meant: bool
) -> None:
    areas = boxes(*places)
    assert [len(row) for row in rows_of(areas)] == rows
    assert are_lines(areas) == is_meant


def menu(*middles: float) -> Area:
    """Words of several lengths, each in the middle of where it is put."""
    texts = [words(0, 0, "Word", width=width) for width in (40, 90, 44, 110)]
    parts = tuple(
        replace(text, box=Rect(middle - text.box.width / 2, 0, text.box.width, 24))
        for text, middle in zip(texts, middles, strict=False)
    )
    return Area(Shape.LIST, Rect(0, 0, 900, 24), parts=parts, columns=len(parts))


def test_words_at_equal_steps_whose_gaps_are_not_are_in_cells() -> None:
    row = evened(menu(100, 300, 500, 700))
    assert [(part.box.x, part.box.width) for part in row.parts] == [
        (0, 200), (200, 200), (400, 200), (600, 200),
    ]  # fmt: skip
    assert (row.pitch, row.is_centred) == (200, True)
    for uneven in (menu(100, 300, 500, 760), menu(100, 300, 500)):  # no steps; too few to tell
        assert evened(uneven) == uneven


@pytest.mark.parametrize(
    ("x", "y", "is_pinned"), [(180, -16, True), (40, -16, True), (280, 8, True), (40, 60, False)]
)
def test_a_badge_on_the_edge_of_a_box_is_out_of_the_flow(
    x: float, y: float, *, is_pinned: bool
) -> None:
    label = Area(Shape.STACK, Rect(x, y, 100, 32), PartKind.BOX, parts=(words(x + 8, y, "New"),))
    badge = replace(label, piece=Piece("new", label.box))
    card = Area(Shape.STACK, Rect(0, 0, 384, 300), parts=(badge, words(20, 120, "Jars")))
    shown = with_badges(replace(card, ground=Style((Stop(0.0, "#fffaf0"),))))
    assert any(part.is_pinned for part in shown.parts) == is_pinned


def test_a_row_is_as_large_as_the_canvas_of_its_mark() -> None:
    ink = Rect(103, 12, 25, 20)
    mark = Area(Shape.PICTURE, ink, piece=Piece("mark", Rect(100, 8, 30, 30)))
    row = Area(Shape.ROW, Rect(103, 12, 200, 24), parts=(mark, words(140, 12, "Fernhollow")))
    assert (left_of(row), right_of(row), top_of(row), height_of(row)) == (100, 303, 8, 30)


def test_a_browser_that_can_not_be_seen_for_a_moment_is_not_busy(
    monkeypatch: pytest.MonkeyPatch,
) -> None:
    families = [[], [7], [], [7]]
    monkeypatch.setattr(guard, "PAUSE", 0.01)
    monkeypatch.setattr(guard, "_browser", lambda: families.pop(0) if families else [7])
    monkeypatch.setattr(guard, "_processor_time", lambda numbers: 100.0 if numbers else 0.0)
    monkeypatch.setattr(guard, "_own_memory", lambda _: 0)
    with guard.Guard() as watching, watching.asking():
        time.sleep(0.2)
    assert watching.reason == ""
