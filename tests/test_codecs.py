"""Every format as an object: what it makes is read by others, and what it says of itself is true."""

from __future__ import annotations

import io
from collections.abc import Mapping

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as some
from hypothesis.extra import numpy as arrays
from PIL import Image, ImageDraw

from making import chosen
from planning import noise, shape
from riffler.color import from_bytes
from riffler.encode.avif import Avif
from riffler.encode.choice import ENCODES, LEVELS, LOSSLESS
from riffler.encode.choose import CODECS, choose, encode
from riffler.encode.codec import LossyCodec, tried
from riffler.encode.encoding import decoded, holds, prepared
from riffler.encode.hidden import filled
from riffler.encode.jpeg import Jpeg
from riffler.encode.original import Original
from riffler.encode.search import LADDER, within
from riffler.encode.visible import Reference
from riffler.encode.webp import Lossy, WebP
from riffler.formats import FORMATS

LOSSY = (Jpeg(), Lossy(), Avif())
QUALITIES = [name for name, form in FORMATS.items() if form.has_quality]


def photo(seed: int = 4, side: int = 96) -> np.ndarray:
    soft = noise(seed, side, side, 10.0).astype(float)
    grain = np.random.default_rng(seed).normal(0, 4, (side, side, 1))
    return np.dstack(((soft[..., :3] + grain).clip(0, 255), soft[..., 3])).astype(np.uint8)


def strokes(side: int) -> np.ndarray:
    """Thin honey-coloured strokes on transparency, as icons have them."""
    picture = Image.new("RGBA", (side * 8, side * 8))
    draw = ImageDraw.Draw(picture)
    draw.ellipse((side, side, side * 7, side * 7), outline="#e2a32b", width=12)
    draw.line((side, side * 6, side * 4, side * 2, side * 7, side * 6), fill="#c0392b", width=10)
    return np.asarray(picture.resize((side, side), Image.Resampling.BOX))


def opened(data: bytes) -> Image.Image:
    picture = Image.open(io.BytesIO(data))
    picture.load()
    return picture


def test_every_format_has_its_codec_and_every_codec_its_format() -> None:
    assert list(CODECS) == list(FORMATS)
    assert [codec.name for codec in CODECS.values()] == list(FORMATS)


@pytest.mark.parametrize("name", FORMATS)
def test_files_are_what_they_say(name: str) -> None:
    straight = photo()
    first = encode(straight, name, 80)
    picture = opened(first)
    assert picture.format == {"avif": "AVIF"}.get(name, name.upper())
    assert picture.size == (96, 96)
    assert encode(straight, name, 80) == first  # the same bytes each time
    off = np.abs(decoded(first)[..., :3].astype(int) - straight[..., :3])
    assert off.mean() < (0.01 if name == "png" else 8)


@pytest.mark.parametrize("name", QUALITIES)
def test_a_number_is_that_quality(name: str) -> None:
    straight = photo()
    sizes = []
    for quality in (30, 60, 90):
        choice = chosen(straight, name, quality)
        assert (choice.format, choice.setting, choice.encodes) == (name, {"quality": quality}, 1)
        assert choice.data == encode(straight, name, quality)
        sizes.append(len(choice.data))
    assert sizes == sorted(sizes)


@pytest.mark.parametrize("codec", LOSSY, ids=lambda codec: codec.name)
def test_a_codec_settles_for_a_picture(codec: LossyCodec) -> None:
    variants = codec.variants(Original(photo()))
    assert {variant.name for variant in variants} == {codec.name}
    assert len(set(variants)) == len(variants) <= 3
    expected = {"jpeg": {"tables", "hues"}, "avif": {"hues"}, "webp": set()}[codec.name]
    assert all(set(variant.setting) == expected for variant in variants)
    assert codec.traits.begins in range(codec.traits.step, 100, codec.traits.step)
    quick, best = codec.quick(photo(), 75), codec.best(photo(), 75)
    assert np.array_equal(decoded(quick), decoded(best))
    assert codec.traits.has_quick == (quick != best)
    assert len(best) < 1.02 * len(quick)


@pytest.mark.parametrize("level", LEVELS)
@pytest.mark.parametrize("name", FORMATS)
def test_a_level_is_kept_or_refused(name: str, level: str) -> None:
    for straight in (photo(), photo(5, 400), strokes(24)):
        picture = (
            straight
            if name != "gif"
            else np.dstack((straight[..., :3], straight[..., 3:] // 255 * 255))
        )
        choice = choose(picture, name, level)
        if choice is None:  # photographs in 256 colours, thin strokes without full hues
            assert name in {"gif", "jpeg", "avif"}
            continue
        seen = Reference(picture).loss(decoded(choice.data))
        assert seen == pytest.approx(choice.loss)
        assert seen <= LEVELS[level]
        assert choice.encodes <= ENCODES + 2


def test_what_loses_nothing() -> None:
    for name in FORMATS:
        assert (choose(photo(), name, "exact") is None) == (name in {"jpeg", "avif", "gif"})
    exact = chosen(strokes(24), "webp", "exact")
    seen = strokes(24)[..., 3] > 0
    np.testing.assert_array_equal(decoded(exact.data)[seen], strokes(24)[seen])
    # flat art of thin coloured strokes: no lossy WebP comes near, and lossless ones are smaller
    clear = chosen(strokes(96), "webp", "clear")
    assert clear.setting["kind"] == "lossless"
    assert len(clear.data) <= len(chosen(strokes(96), "webp", "exact").data)
    assert len(clear.data) < 0.8 * len(chosen(strokes(96), "png", "exact").data)


@pytest.mark.parametrize("codec", LOSSY, ids=lambda codec: codec.name)
def test_the_best_within_a_budget(codec: LossyCodec) -> None:
    straight = photo()
    roomy = within(Original(straight), codec, 100_000)
    assert roomy.setting["quality"] >= 90  # type: ignore[operator]
    budget = len(roomy.data) // 2
    tight = within(Original(straight), codec, budget)
    assert len(tight.data) <= budget
    assert tight.loss is not None
    assert roomy.loss is not None
    assert tight.loss > roomy.loss
    hopeless = within(Original(straight), codec, 10)
    assert len(hopeless.data) > 10
    assert len(hopeless.data) <= len(tight.data)


@pytest.mark.parametrize("name", FORMATS)
def test_a_ladder_rises(name: str) -> None:
    straight = photo()
    files = list(CODECS[name].ladder(Original(straight)))
    assert len(files) == (len(LADDER) if FORMATS[name].has_quality else 5)
    sizes = [file.size for file in files]
    assert sizes == sorted(sizes)
    assert files[-1].loss < files[0].loss
    assert files[0].data is not None
    assert len(files[0].data) == files[0].size
    assert files[0].loss == pytest.approx(Reference(straight).loss(decoded(files[0].data)))
    if name == "gif":  # its palettes are those of png
        return
    made = list(CODECS[name].ladder(Original(photo(4, 640))))  # judged by pieces, not made whole
    assert [rung.data for rung in made] == [None] * len(made)
    assert made[-1].loss < made[0].loss


@pytest.mark.parametrize("name", ["png", "gif"])
def test_few_colours_are_kept_without_loss(name: str) -> None:
    flat = np.zeros((40, 40, 4), np.uint8)
    flat[...] = (200, 40, 40, 255)
    flat[10:30, 10:30] = (20, 20, 90, 255)
    for wish in ("clear", "fair", LOSSLESS):
        choice = chosen(flat, name, wish)
        assert choice.loss == 0
        np.testing.assert_array_equal(decoded(choice.data), flat)
    assert chosen(flat, name, "clear", 5000).loss == 0


def test_budgets_of_few_colours() -> None:
    straight = photo(6, 128)
    lossless = chosen(straight, "png", LOSSLESS)
    np.testing.assert_array_equal(decoded(lossless.data), straight)
    assert chosen(straight, "png", "clear", len(lossless.data)).data == lossless.data
    small = chosen(straight, "png", "clear", len(lossless.data) // 3)
    assert len(small.data) <= len(lossless.data) // 3
    assert 2 <= small.setting["colors"] <= 256  # type: ignore[operator]
    assert small.loss == pytest.approx(Reference(straight).loss(decoded(small.data)))
    for name in ("png", "gif"):
        hopeless = chosen(straight, name, "clear", 10)
        others = [chosen(straight, name, "clear", size) for size in (5_000, 90_000)]
        assert all(len(hopeless.data) <= len(other.data) for other in others)
    # a gradient that filters shrink to nothing: no palette of it is as small
    slope = np.zeros((256, 256, 4), np.uint8)
    slope[..., 0] = np.add.outer(np.arange(256), np.arange(256)) // 2
    slope[..., 3] = 255
    assert chosen(slope, "png", "clear", 10).data == chosen(slope, "png", LOSSLESS).data


ALPHA: Mapping[str, tuple[bool, bool, bool]] = {
    # opaque, on or off, half transparent
    "png": (True, True, True), "webp": (True, True, True), "avif": (True, True, True),
    "gif": (True, True, False), "jpeg": (True, False, False),
}  # fmt: skip


@pytest.mark.parametrize("name", FORMATS)
def test_what_a_format_can_hold(name: str) -> None:
    disc = shape("d", 0, 0, "#336699").pixels
    assert disc is not None
    hard, soft = disc.copy(), disc.copy()
    hard[..., 3] = np.where(disc[..., 3] > 127, 255, 0)
    soft[..., 3] = disc[..., 3] // 2
    opaque = disc.copy()
    opaque[..., 3] = 255
    found = tuple(holds(from_bytes(one), name) for one in (opaque, hard, soft))
    assert found == ALPHA[name]
    straight = prepared(from_bytes(soft), name, (1.0, 0.0, 0.0))
    if FORMATS[name].alpha == "full":
        np.testing.assert_array_equal(straight[..., 3], soft[..., 3])
    if FORMATS[name].alpha == "none":
        assert (straight[..., 3] == 255).all()
        assert tuple(straight[0, 0]) == (255, 0, 0, 255)  # the ground, where nothing is painted
    if FORMATS[name].alpha == "on or off":
        assert set(np.unique(straight[..., 3])) == {0, 255}


@given(
    arrays.arrays(np.uint8, some.tuples(some.integers(1, 20), some.integers(1, 20), some.just(4)))
)
@settings(max_examples=40)
def test_png_is_lossless_whatever_it_holds(straight: np.ndarray) -> None:
    back = np.asarray(opened(encode(straight, "png", 1)).convert("RGBA"))
    seen = straight[..., 3] > 0
    np.testing.assert_array_equal(back[..., 3], straight[..., 3])
    np.testing.assert_array_equal(back[seen], straight[seen])


def calm(width: int, height: int) -> np.ndarray:
    """A drawing on a soft gradient, as heroes have: nothing hides what is smeared into it."""
    down, across = np.mgrid[:height, :width]
    ground = np.dstack((40 + 60 * down / height, 30 + 40 * across / width, 70 + 30 * down / height))
    picture = Image.fromarray(ground.astype(np.uint8)).convert("RGBA")
    draw = ImageDraw.Draw(picture)
    for number in range(24):
        x, y = (number * 173) % width, (number * 97) % height
        draw.ellipse((x, y, x + 60, y + 44), fill=("#e2a32b", "#fbf4e4", "#3a2618")[number % 3])
    return np.asarray(picture)


@pytest.mark.parametrize(("codec", "off"), [(Jpeg(), 0.15), (Lossy(), 0.25), (Avif(), 0.25)])
def test_pieces_foretell_what_the_whole_loses(codec: LossyCodec, off: float) -> None:
    original = Original(calm(700, 600))
    assert original.is_large
    assert original.small.is_pieces
    for quality in (50, 80):
        whole, pieces = (
            tried(one, codec, quality, is_quick=False).loss for one in (original, original.small)
        )
        assert whole == pytest.approx(pieces, rel=off)


def test_less_effort_is_taken_where_it_costs_little() -> None:
    shot = noise(5, 340, 340, 2.0)
    shot[..., 3] = 255
    pictures = ((shot, True), (strokes(340), False), (shot[:200, :200], False))
    for straight, is_light in pictures:
        assert (chosen(straight, "avif", "fair").setting.get("effort") == "light") == is_light


@settings(max_examples=20)
@given(arrays.arrays(np.uint8, some.tuples(some.integers(1, 9), some.integers(1, 9), some.just(4))))
def test_what_is_hidden_goes_on_from_what_is_seen(straight: np.ndarray) -> None:
    straight[..., 3] = np.where(straight[..., 3] < 128, 0, 255)
    hidden = straight[..., 3] == 0
    result = filled(straight)
    assert np.array_equal(result[~hidden], straight[~hidden])
    assert np.array_equal(result[..., 3], straight[..., 3])
    if hidden.any() and not hidden.all():
        seen, found = straight[~hidden][:, :3], result[hidden][:, :3]
        assert (found >= seen.min(axis=0)).all()
        assert (found <= seen.max(axis=0)).all()


def test_no_webp_is_made_that_takes_too_many_bytes() -> None:
    original = Original(photo())
    best = WebP().choose(original, "fair")
    assert best is not None
    for room, is_made in ((len(best.data), True), (len(best.data) - 1, False), (0, False)):
        assert (WebP().smaller(original, "fair", room) is not None) == is_made
