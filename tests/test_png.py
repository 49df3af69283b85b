"""Our own PNG: every colour type and depth, without loss, in the smallest form."""

from __future__ import annotations

import io
import itertools
import struct
import zlib

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as some
from PIL import Image

from planning import noise
from riffler.encode import png
from riffler.encode.png.filters import CHANGE, by_entropy, by_repeats, by_sum, chosen, filtered

RANDOM = np.random.default_rng(4)


def rgba(grey_or_rgb: np.ndarray, alpha: np.ndarray | int = 255) -> np.ndarray:
    colors = np.asarray(grey_or_rgb, np.uint8)
    if colors.ndim == 2:
        colors = np.repeat(colors[..., None], 3, axis=2)
    full = np.broadcast_to(np.asarray(alpha, np.uint8), colors.shape[:2])
    return np.ascontiguousarray(np.dstack((colors, full)))


def some_colors(count: int, shape: tuple[int, int] = (37, 53)) -> np.ndarray:
    palette = RANDOM.permutation(4096)[:count]
    picks = palette[RANDOM.integers(0, count, shape)]
    picks.flat[:count] = palette
    return np.dstack(((picks >> 8) * 16, (picks >> 4 & 15) * 16 + 3, (picks & 15) * 16 + 7))


GREYS = RANDOM.integers(0, 256, (37, 53))
HALF = RANDOM.integers(0, 2, (37, 53)) * 255


@pytest.mark.parametrize(
    "straight, color_type, depth",
    [
        (rgba(np.full((9, 7), 255)), 0, 1),
        (rgba(GREYS // 128 * 255), 0, 1),
        (rgba(GREYS // 64 * 85), 0, 2),
        (rgba(GREYS // 16 * 17), 0, 4),
        (rgba(GREYS), 0, 8),
        (rgba(some_colors(2)), 3, 1),
        (rgba(some_colors(4)), 3, 2),
        (rgba(some_colors(16)), 3, 4),
        (rgba(some_colors(200)), 3, 8),
        (rgba(noise(1, 40, 40)[..., :3]), 2, 8),
        (rgba(GREYS, HALF), 0, 8),
        (rgba(GREYS, GREYS[::-1]), 4, 8),
        (rgba(noise(1, 37, 53)[..., :3].transpose(1, 0, 2)[:37, :53], 255), 2, 8),
        (rgba(noise(2, 53, 37)[..., :3], HALF), 2, 8),
        (rgba(noise(3, 53, 37)[..., :3], GREYS), 6, 8),
        (rgba(some_colors(5), HALF), 3, 4),
    ],
)  # fmt: skip
def test_the_smallest_kind_holds_every_visible_pixel(
    straight: np.ndarray, color_type: int, depth: int
) -> None:
    data = png.encode(straight)
    assert next(iter(chunks(data))) == b"IHDR"
    assert set(chunks(data)) <= {b"IHDR", b"PLTE", b"tRNS", b"IDAT", b"IEND"}
    header = struct.unpack(">IIBBBBB", chunks(data)[b"IHDR"])
    assert header == (straight.shape[1], straight.shape[0], depth, color_type, 0, 0, 0)
    assert_same(data, straight)
    out = io.BytesIO()
    Image.fromarray(straight, "RGBA").save(out, "PNG", optimize=True)
    assert len(data) < len(out.getvalue())
    assert png.encode(straight) == data
    assert len(png.encode(straight, effort=0)) <= 1.1 * len(data) + 20


def chunks(data: bytes) -> dict[bytes, bytes]:
    found, at = {}, 8
    while at < len(data):
        length, name = struct.unpack(">I4s", data[at : at + 8])
        body = data[at + 8 : at + 8 + length]
        assert struct.unpack(">I", data[at + 8 + length : at + 12 + length])[0] == zlib.crc32(
            name + body
        )
        found[name] = body
        at += 12 + length
    return found


def assert_same(data: bytes, straight: np.ndarray) -> None:
    with Image.open(io.BytesIO(data)) as picture:
        clear, (depth, kind) = picture.info.get("transparency"), data[24:26]
        if kind == 0 and depth in (2, 4) and clear is not None:  # Pillow widens all but this
            picture.info["transparency"] = clear * 255 // (2**depth - 1)
        back = np.asarray(picture.convert("RGBA"))
    assert (back[..., 3] == straight[..., 3]).all()
    seen = straight[..., 3] > 0
    assert (back[seen] == straight[seen]).all()


def test_an_icon_keeps_its_alpha_channel() -> None:
    data = png.encode(rgba(GREYS), keep_alpha=True)
    assert data[25] == 6
    assert_same(data, rgba(GREYS))


@settings(max_examples=60)
@given(some.integers(1, 40), some.integers(1, 40), some.integers(0, 2**32 - 1), some.integers(1, 4))
def test_any_small_picture_comes_back(height: int, width: int, seed: int, bits: int) -> None:
    chance = np.random.default_rng(seed)
    straight = (
        chance.integers(0, 1 << bits, (height, width, 4)) * (255 // ((1 << bits) - 1))
    ).astype(np.uint8)
    straight[straight[..., 3] == 0] = 0
    assert_same(png.encode(straight), straight)


@pytest.mark.parametrize("step", [1, 3, 4])
def test_filters_can_be_undone(step: int) -> None:
    rows = RANDOM.integers(0, 256, (20, 24)).astype(np.uint8)
    every = filtered(rows, step)
    for types in (
        by_sum(every),
        by_entropy(every),
        by_repeats(every),
        np.arange(20) % 5,
    ):
        stream = np.frombuffer(chosen(every, types), np.uint8).reshape(20, 25)
        assert (undone(stream, step) == rows).all()


def test_filters_by_repeats_are_the_cheapest_sequence() -> None:
    columns = np.arange(60)
    ramps = np.outer(RANDOM.integers(1, 99, 3), columns)
    dots = np.tile(RANDOM.integers(0, 256, 6), 10) * np.ones((3, 1), int)
    every = filtered((np.vstack((ramps, dots)) % 256).astype(np.uint8), 1)
    pairs = [[len(set(itertools.pairwise(r))) for r in kind.tolist()] for kind in every]

    def cost(types: tuple[int, ...]) -> int:
        changes = sum(a != b for a, b in itertools.pairwise(types))
        return sum(pairs[kind][row] for row, kind in enumerate(types)) + CHANGE * changes

    cheapest = min(map(cost, itertools.product(range(5), repeat=6)))
    assert cost(tuple(by_repeats(every).tolist())) == cheapest
    assert cheapest < min(cost((kind,) * 6) for kind in range(5))  # worth a change


def test_invisible_colors_cost_nothing() -> None:
    straight = rgba(some_colors(5), HALF)
    speckled = np.where(straight[..., 3:] == 0, noise(4, 53, 37), straight)
    speckled[..., 3] = straight[..., 3]
    straight[straight[..., 3] == 0] = 0
    assert len(np.unique(speckled.view(np.uint32))) > 256
    assert png.encode(speckled) == png.encode(straight)


def undone(stream: np.ndarray, step: int) -> np.ndarray:
    """Section 9.2 of the standard, byte by byte."""
    height, width = stream.shape[0], stream.shape[1] - 1
    rows = np.zeros((height, width), int)
    for y in range(height):
        for x in range(width):
            a = rows[y, x - step] if x >= step else 0
            b = rows[y - 1, x] if y else 0
            c = rows[y - 1, x - step] if y and x >= step else 0
            guess = a + b - c
            nearest = min((abs(guess - a), 0, a), (abs(guess - b), 1, b), (abs(guess - c), 2, c))[2]
            added = (0, a, b, (a + b) // 2, nearest)[stream[y, 0]]
            rows[y, x] = (int(stream[y, x + 1]) + int(added)) % 256
    return rows
