"""Masks drawn by hand: their parts, holes, rims and depths."""

from __future__ import annotations

import numpy as np

from riffler.analyse import raster

DRAWN = """
##.....
##..###
..#.#.#
....###
"""

MASK = np.array([[sign == "#" for sign in row] for row in DRAWN.split()])


def test_parts_touch_at_corners_too() -> None:
    parts = raster.parts_of(MASK)
    assert parts.boxes.tolist() == [[0, 3, 0, 3], [1, 4, 4, 7]]
    assert parts.sizes.tolist() == [5, 8]
    assert raster.parts_of(np.zeros((3, 4), bool)).boxes.shape == (0, 4)


def test_holes_rims_and_depths() -> None:
    holes = np.argwhere(raster.filled(MASK) & ~MASK)
    assert holes.tolist() == [[2, 5]]
    solid = np.ones((7, 9), bool)
    assert np.argwhere(raster.worn(solid, 2)).min(axis=0).tolist() == [2, 2]
    assert raster.worn(solid, 2).sum() == 3 * 5
    assert np.array_equal(raster.worn(solid, 0), solid)
    assert raster.depths(solid, 9)[3].tolist() == [1, 2, 3, 4, 4, 4, 3, 2, 1]
    assert raster.depths(solid, 2).max() == 2
