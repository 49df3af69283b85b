"""Boxes, sizes and what becomes of pixels that are scaled: properties, held for many of them."""

from __future__ import annotations

import math
from pathlib import Path

import numpy as np
import pytest
from hypothesis import example, given, settings
from hypothesis import strategies as some
from hypothesis.extra import numpy as arrays

from riffler.color import from_bytes, to_bytes, to_encoded, to_linear, within_alpha
from riffler.geometry import Box, CssSize, EdgeName, Point, Rect, Size, union
from riffler.mockup.svg import transform
from riffler.plain import plain
from riffler.render.scaling import resized

COORDINATES = some.integers(-60, 60)
BOXES = some.builds(Box, COORDINATES, COORDINATES, some.integers(0, 50), some.integers(0, 50))
WHOLE = BOXES.filter(bool)


@some.composite
def nested(draw: some.DrawFn) -> tuple[Box, Box]:
    """A box, and one inside it."""
    outer = draw(WHOLE)
    x, y = draw(some.integers(0, outer.width - 1)), draw(some.integers(0, outer.height - 1))
    width = draw(some.integers(1, outer.width - x))
    return outer, Box(outer.x + x, outer.y + y, width, draw(some.integers(1, outer.height - y)))


def cells(box: Box) -> set[tuple[int, int]]:
    """The pixels of a box, one by one: what set arithmetic is held against."""
    return {(x, y) for x in range(box.x, box.right) for y in range(box.y, box.bottom)}


@given(BOXES, BOXES)
@example(Box(0, 0, 9, 9), Box(3, 3, 0, 2))
@example(Box(3, 3, 2, 0), Box(0, 0, 9, 9))
def test_boxes_meet_as_their_pixels_do(one: Box, other: Box) -> None:
    assert cells(one & other) == cells(one) & cells(other)
    assert one.area == len(cells(one))
    assert bool(one) is bool(cells(one))
    assert one.meets(other) is bool(cells(one) & cells(other))
    if cells(other):
        assert one.contains(other) is (cells(other) <= cells(one))


@given(WHOLE, WHOLE)
def test_a_union_is_the_smallest_box_that_holds_both(one: Box, other: Box) -> None:
    both = one | other
    assert both.contains(one)
    assert both.contains(other)
    assert both == other | one == union([one, other, Box(5, 5, 0, 0)])
    for side in ("left", "right", "top", "bottom"):
        assert cells(both.edge(side)) & (cells(one.edge(side)) | cells(other.edge(side)))


@given(WHOLE, some.integers(0, 20))
def test_growing_and_moving(box: Box, by: int) -> None:
    grown = box.grown(by)
    assert (grown.width, grown.height) == (box.width + 2 * by, box.height + 2 * by)
    assert grown.grown(-by) == box
    assert box.moved(by, -by).moved(-by, by) == box
    assert box.moved(3, 4).size == box.size


@given(WHOLE, some.integers(1, 9))
def test_aligned_is_the_smallest_box_on_the_steps(box: Box, step: int) -> None:
    whole = box.aligned(step)
    edges = (whole.x, whole.y, whole.right, whole.bottom)
    assert all(edge % step == 0 for edge in edges)
    assert whole.contains(box)
    assert all(abs(a - b) < step for a, b in zip(edges, (box.x, box.y, box.right, box.bottom), strict=True))  # fmt: skip


@given(WHOLE, some.integers(1, 20))
def test_bands_are_the_box_cut_once(box: Box, height: int) -> None:
    bands = list(box.bands(height))
    assert sum(band.area for band in bands) == box.area
    assert union(bands) == box
    assert all(band.height == height for band in bands[:-1])


@given(nested())
def test_beside_is_what_a_box_leaves_in_its_rows(boxes: tuple[Box, Box]) -> None:
    outer, inner = boxes
    rows = Box.from_edges(outer.x, inner.y, outer.right, inner.bottom)
    left = set().union(*(cells(part) for part in outer.beside(inner)))
    assert left == cells(rows) - cells(inner)


@given(nested())
def test_within_are_the_rows_and_columns_of_an_array(boxes: tuple[Box, Box]) -> None:
    outer, inner = boxes
    picture = np.zeros((outer.height, outer.width), bool)
    picture[inner.within(outer)] = True
    marked = {(outer.x + x, outer.y + y) for y, x in np.argwhere(picture).tolist()}
    assert marked == cells(inner)


@given(some.builds(Rect, *[some.floats(-50, 50)] * 2, *[some.floats(0.01, 50)] * 2))
def test_fractions_go_outward(rect: Rect) -> None:
    box = rect.outward()
    assert box.x <= rect.x + 1e-6 < box.x + 1 + 2e-6
    assert box.right + 1e-6 >= rect.x + rect.width - 1e-6
    assert box.right - 1 <= rect.x + rect.width
    assert box.bottom - 1 <= rect.y + rect.height


@given(some.builds(Size, some.integers(1, 4000), some.integers(1, 4000)), some.floats(0.001, 8))
def test_a_scaled_size_is_the_nearest_and_never_empty(size: Size, scale: float) -> None:
    scaled = size.scaled(scale)
    for side, was in ((scaled.width, size.width), (scaled.height, size.height)):
        assert side >= 1
        assert side == 1 or abs(side - was * scale) <= 0.5 + 1e-9


@pytest.mark.parametrize(
    "side, expected",
    [
        ("left", Box(3, 4, 1, 6)),
        ("right", Box(7, 4, 1, 6)),
        ("top", Box(3, 4, 5, 1)),
        ("bottom", Box(3, 9, 5, 1)),
    ],
)
def test_edges(side: EdgeName, expected: Box) -> None:
    assert Box(3, 4, 5, 6).edge(side) == expected


PICTURES = arrays.arrays(
    np.uint8, some.tuples(some.integers(1, 12), some.integers(1, 12), some.just(4))
)


@given(PICTURES)
def test_there_and_back_from_eight_bits(straight: np.ndarray) -> None:
    back = to_bytes(from_bytes(straight))
    np.testing.assert_array_equal(back[..., 3], straight[..., 3])
    seen = straight[..., 3] > 0
    np.testing.assert_array_equal(back[seen], straight[seen])
    assert (back[~seen] == 0).all()


@given(some.floats(0, 1))
def test_light_there_and_back(value: float) -> None:
    encoded = np.array([[[value]]], np.float32)
    assert abs(float(to_encoded(to_linear(encoded))[0, 0, 0]) - value) < 1e-5


@given(PICTURES, some.integers(1, 15), some.integers(1, 15))
@settings(max_examples=60)
def test_scaled_pixels_are_pixels(straight: np.ndarray, width: int, height: int) -> None:
    scaled = resized(from_bytes(straight), Size(width, height))
    assert scaled.shape == (height, width, 4)
    np.testing.assert_allclose(scaled, within_alpha(scaled), atol=1e-5)


@given(some.tuples(*[some.integers(0, 255)] * 4), some.integers(1, 20), some.integers(1, 20))
@settings(max_examples=40)
def test_one_colour_stays_that_colour(
    color: tuple[int, int, int, int], width: int, height: int
) -> None:
    picture = from_bytes(np.full((7, 9, 4), color, np.uint8))
    expected = to_bytes(picture)[0, 0].astype(int)
    found = to_bytes(resized(picture, Size(width, height))).astype(int)
    assert np.abs(found - expected).max() <= (1 if color[3] > 20 else 9)


@given(PICTURES, some.integers(2, 4))
@settings(max_examples=40)
def test_whole_reductions_keep_the_light(straight: np.ndarray, by: int) -> None:
    straight[..., 3] = 255
    large = from_bytes(np.repeat(np.repeat(straight, by, axis=0), by, axis=1))
    height, width = straight.shape[:2]
    back = to_bytes(resized(large, Size(width, height))).astype(int)
    assert np.abs(back - straight).max() <= 1


@given(PICTURES, some.integers(1, 8), some.integers(1, 8))
@settings(max_examples=60)
def test_reductions_add_no_rim_and_lose_no_light(
    straight: np.ndarray, width: int, height: int
) -> None:
    straight[..., 3] = 255
    large = from_bytes(np.repeat(np.repeat(straight, 3, axis=0), 3, axis=1))
    height, width = min(height, straight.shape[0] * 3), min(width, straight.shape[1] * 3)
    found = resized(large, Size(width, height))[..., :3]
    assert (found <= large[..., :3].max(axis=(0, 1)) + 1e-4).all()
    assert (found >= large[..., :3].min(axis=(0, 1)) - 1e-4).all()
    light, before = (to_linear(part).mean(axis=(0, 1)) for part in (found, large[..., :3]))
    np.testing.assert_allclose(light, before, atol=2e-4)


def matrix(*values: float) -> np.ndarray:
    a, b, c, d, e, f = values
    return np.array(((a, c, e), (b, d, f), (0, 0, 1)), float)


@pytest.mark.parametrize(
    "text, expected",
    [
        ("", np.eye(3)),
        (None, np.eye(3)),
        ("nonsense(3)", np.eye(3)),
        ("matrix(1 2 3 4 5 6)", matrix(1, 2, 3, 4, 5, 6)),
        ("translate(3,4)", matrix(1, 0, 0, 1, 3, 4)),
        ("translate(3)", matrix(1, 0, 0, 1, 3, 0)),
        ("scale(2 3)", matrix(2, 0, 0, 3, 0, 0)),
        ("scale(2)", matrix(2, 0, 0, 2, 0, 0)),
        ("rotate(90)", matrix(0, 1, -1, 0, 0, 0)),
        ("rotate(90 10 0)", matrix(0, 1, -1, 0, 10, -10)),
        ("skewX(45)", matrix(1, 0, 1, 1, 0, 0)),
        ("skewY(45)", matrix(1, 1, 0, 1, 0, 0)),
        ("translate(5 6) scale(2)", matrix(1, 0, 0, 1, 5, 6) @ matrix(2, 0, 0, 2, 0, 0)),
        ("scale(2),translate(5 6)", matrix(2, 0, 0, 2, 0, 0) @ matrix(1, 0, 0, 1, 5, 6)),
    ],
)
def test_transforms_as_css_transforms_1_says(text: str | None, expected: np.ndarray) -> None:
    found = transform.parse(text)
    np.testing.assert_allclose(matrix(*found), expected, atol=1e-12)
    assert math.isclose(
        transform.enlargement(found), math.sqrt(abs(np.linalg.det(expected[:2, :2]))), abs_tol=1e-12
    )


@pytest.mark.parametrize(
    "value, expected",
    [
        (Box(1, 2, 3, 4), {"x": 1, "y": 2, "width": 3, "height": 4}),
        (CssSize(480.0, 132.5), {"width": 480, "height": 132.5}),
        ((Point(0.5, 1.0), None), [{"x": 0.5, "y": 1}, None]),
        ({"a": Path("x") / "y", 3: frozenset({"b", "a"})}, {"a": "x/y", "3": ["a", "b"]}),
        ([1, 2.0, True, "2.0"], [1, 2, True, "2.0"]),
    ],
)
def test_results_as_json_holds_them(value: object, expected: object) -> None:
    assert plain(value) == expected


def test_sparse_results_leave_out_what_is_not_known() -> None:
    assert plain({"a": None, "b": [None], "c": {"d": None}}, sparse=True) == {"b": [None], "c": {}}
