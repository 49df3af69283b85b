"""Masks and their parts, held against scipy, which is of another make."""

from __future__ import annotations

import numpy as np
import pytest
from scipy import ndimage

from riffler.analyse import raster


@pytest.mark.parametrize("seed", range(40))
def test_parts_holes_rims_and_depths(seed: int) -> None:
    chance = np.random.default_rng(seed)
    shape = (int(chance.integers(1, 40)), int(chance.integers(1, 40)))
    values = chance.random(shape)
    mask = values < chance.random() if seed % 2 else ndimage.gaussian_filter(values, 1.3) > 0.5
    for is_diagonal, touching in ((True, np.ones((3, 3))), (False, None)):
        labels, count = ndimage.label(mask, touching)
        parts = raster.parts_of(mask, diagonal=is_diagonal)
        places = [
            (down.start, down.stop, across.start, across.stop)
            for down, across in ndimage.find_objects(labels)
        ]
        assert parts.boxes.tolist() == [list(place) for place in places]
        assert parts.sizes.tolist() == np.bincount(labels.ravel(), minlength=count + 1)[1:].tolist()
        chosen = chance.random(count) < 0.5
        assert np.array_equal(parts.mask_of(chosen, shape), np.append(False, chosen)[labels])
    assert np.array_equal(raster.filled(mask), ndimage.binary_fill_holes(mask))
    for by in (1, 3):
        expected = ndimage.binary_erosion(np.pad(mask, by), np.ones((3, 3), bool), by)
        assert np.array_equal(raster.worn(mask, by), expected[by:-by, by:-by])
    depth = ndimage.distance_transform_edt(np.pad(mask, 1))[1:-1, 1:-1]
    for most in (3, 50):
        assert np.allclose(raster.depths(mask, most), np.minimum(depth, most))
