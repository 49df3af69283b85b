"""Drawing any box of any mockup: what must hold whatever the layers are."""

from __future__ import annotations

import tempfile
from collections.abc import Sequence
from dataclasses import replace
from pathlib import Path

import numpy as np
import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from PIL import Image, PngImagePlugin

from making import Flat, write_ora
from riffler.color import Bytes, Pixels, to_bytes
from riffler.cutlist.shown import painting, switched
from riffler.errors import MockupError
from riffler.geometry import Box, Size
from riffler.mockup.font_book import FontBook
from riffler.mockup.model import Layer, LayerKind, Mockup
from riffler.mockup.opening import open_mockup
from riffler.project.limits import Limits
from riffler.render import decode, store
from riffler.render.extent import Noting
from riffler.render.layered import LayeredEngine
from riffler.render.renderer import Renderer, open_renderer
from riffler.render.svg_drawing import draw_whole

WIDTH, HEIGHT = 60, 50
MODES = ("src-over", "multiply", "screen", "hue", "color-burn", "plus", "dst-in", "dst-out",
         "src-atop", "dst-atop")  # fmt: skip


@st.composite
def flats(draw: st.DrawFn, depth: int = 2) -> Flat:
    more = {
        "composite-op": f"svg:{draw(st.sampled_from(MODES))}",
        "opacity": str(draw(st.sampled_from((1.0, 1.0, 0.5, 0.0)))),
        "visibility": draw(st.sampled_from(("visible", "visible", "hidden"))),
        "isolation": draw(st.sampled_from(("auto", "isolate"))),
    }
    if depth and draw(st.booleans()):
        inside = draw(st.lists(flats(depth - 1), max_size=3))
        return Flat(draw(st.sampled_from(("g", ""))), inside=inside, more=more)
    width, height = draw(st.integers(1, 80)), draw(st.integers(1, 80))
    x, y = draw(st.integers(-90, 70)), draw(st.integers(-90, 70))
    seed = draw(st.integers(0, 5))
    pixels = np.random.default_rng(seed).integers(0, 256, (height, width, 4), dtype=np.uint8)
    if seed < 2:
        pixels[..., 3] = 255
    elif seed < 4:  # a soft rim round what hides all below it
        pixels[1:-1, 2:-1, 3] = 255
    return Flat("layer", (x, y, width, height), pixels=pixels, more=more)


def opened(layers: Sequence[Flat]) -> Mockup:
    with tempfile.TemporaryDirectory() as folder:
        path = write_ora(Path(folder) / "m.ora", (WIDTH, HEIGHT), layers)
        mockup = open_mockup(path)
        copy = Path(tempfile.mkdtemp()) / "m.ora"
        copy.write_bytes(path.read_bytes())
        return open_mockup(copy) if mockup else mockup


boxes = st.builds(
    Box, st.integers(-20, 70), st.integers(-20, 60), st.integers(1, 90), st.integers(1, 80)
)


def crop(whole: Pixels, box: Box) -> Pixels:
    """The part of a picture of the whole canvas, clear beyond it."""
    result = np.zeros((box.height, box.width, 4), np.float32)
    inside = box & Box(0, 0, WIDTH, HEIGHT)
    if inside:
        result[inside.within(box)] = whole[inside.within(Box(0, 0, WIDTH, HEIGHT))]
    return result


@settings(max_examples=45, suppress_health_check=list(HealthCheck))
@given(st.lists(flats(), min_size=1, max_size=5), st.lists(boxes, min_size=2, max_size=4))
def test_a_box_is_the_crop_of_the_canvas(layers: list[Flat], wanted: list[Box]) -> None:
    mockup = opened(layers)
    shown = mockup.drawn
    whole = open_renderer(mockup).render(mockup.box, 1.0, shown)
    renderer = open_renderer(mockup)
    results = [renderer.render(box, 1.0, shown) for box in wanted]
    for box, result in zip(wanted, results, strict=True):
        np.testing.assert_array_equal(result, crop(whole, box))
    again = open_renderer(mockup)
    for box, result in reversed(list(zip(wanted, results, strict=True))):
        np.testing.assert_array_equal(again.render(box, 1.0, shown), result)
    np.testing.assert_array_equal(
        renderer.render(mockup.box, 1.0, painting(mockup, shown)), whole
    )  # what is on in a hidden group never matters


def uncropped(layer: Flat) -> Flat:
    """The layer stored with much that is clear around it, as many programs do."""
    if layer.inside is not None:
        return replace(layer, inside=[uncropped(one) for one in layer.inside])
    assert layer.pixels is not None
    x, y, width, height = layer.box
    box = (x - 50, y - 60, width + 130, height + 90)
    return replace(layer, box=box, pixels=np.pad(layer.pixels, ((60, 30), (50, 80), (0, 0))))


@settings(max_examples=15, suppress_health_check=list(HealthCheck))
@given(st.lists(flats(), min_size=1, max_size=5), boxes)
def test_what_is_clear_around_a_layer_changes_nothing(layers: list[Flat], box: Box) -> None:
    tight, loose = opened(layers), opened([uncropped(layer) for layer in layers])
    one, other = open_renderer(tight), open_renderer(loose)
    np.testing.assert_array_equal(
        one.render(box, 1.0, tight.drawn), other.render(box, 1.0, loose.drawn)
    )
    for a, b in zip(tight.walk(), loose.walk(), strict=True):
        assert one.painted_box(a.address) == other.painted_box(b.address)
        assert one.solid_box(a.address) == other.solid_box(b.address)


@pytest.mark.parametrize(
    "alpha, runs",
    [
        ([[255, 255, 255]], [[0, 3]]),
        ([[9, 255, 255, 0]], [[1, 3]]),
        ([[255, 254, 255]], [[0, 0]]),
        ([[0, 0], [255, 0], [0, 255]], [[0, 0], [0, 1], [1, 2]]),
    ],
)
def test_rows_are_opaque_where_they_have_no_gap(alpha: list[list[int]], runs: object) -> None:
    rows = np.array(alpha, np.uint8)
    box = Box(5, 6, rows.shape[1], rows.shape[0])
    noting = Noting("It", box)
    for row in rows:
        noting.note(row[None])
    extent = noting.extent()
    assert extent.opaque_runs.tolist() == runs
    together = Noting("It", box)
    together.note(rows)
    assert together.extent().opaque_runs.tolist() == runs
    painted = [(x, y) for y, x in np.argwhere(rows)]
    left, top = np.min(painted, axis=0)
    right, bottom = np.max(painted, axis=0) + 1
    assert extent.painted_box() == Box.from_edges(5 + left, 6 + top, 5 + right, 6 + bottom)
    with pytest.raises(MockupError, match="It is not of the size"):
        noting.note(rows)


def test_the_second_canvas_of_pixels_is_drawn_and_measured_there(tmp_path: Path) -> None:
    layers = [
        Flat("dot", (45, 8, 10, 4), (255, 0, 0, 255)),
        Flat("all", (0, 0, 60, 20), (9, 9, 9, 255)),
    ]
    whole = open_mockup(write_ora(tmp_path / "m.ora", (60, 20), layers))
    second = replace(whole, size=Size(20, 15), origin=(40, 5))
    first, there = open_renderer(whole), open_renderer(second)
    pixels = there.render(Box(-5, 0, 30, 15), 1.0, second.drawn)
    assert not pixels[:, :5].any()  # beyond the canvas, though the file goes on
    assert not pixels[:, 25:].any()
    assert np.array_equal(pixels[:, 5:25], first.render(Box(40, 5, 20, 15), 1.0, whole.drawn))
    assert (there.painted_box("dot"), there.rough_box("dot")) == (Box(5, 3, 10, 4),) * 2
    prints = [there.fingerprint(Box(0, y, 4, 4), 1.0, second.drawn) for y in (0, 4)]
    assert prints[0] != prints[1]


@pytest.mark.parametrize(
    "box, decoded",
    [
        (Box(10, 10, 20, 20), ["card"]),
        (Box(4, 10, 20, 20), ["card", "dot", "below"]),
        (Box(0, 0, 3, 3), ["below"]),
        (Box(40, 10, 12, 12), ["card", "dot", "below"]),
    ],
)
def test_what_is_hidden_is_not_decoded(
    monkeypatch: pytest.MonkeyPatch, box: Box, decoded: list[str]
) -> None:
    card = np.full((40, 40, 4), 90, np.uint8)
    card[2:-2, 2:-2, 3] = 255
    mockup = opened([
        Flat("card", (4, 4, 40, 40), pixels=card), Flat("dot", (0, 8, 48, 20), (9, 9, 9, 99)),
        Flat("below", (0, 0, WIDTH, HEIGHT), (200, 0, 0, 255)),
    ])  # fmt: skip
    seen: list[str] = []
    usual = LayeredEngine._decode

    def noted(renderer: LayeredEngine, layer: Layer) -> object:
        seen.append(layer.name)
        return usual(renderer, layer)

    monkeypatch.setattr(LayeredEngine, "_decode", noted)
    open_renderer(mockup).render(box, 1.0, mockup.drawn)
    assert sorted(seen) == sorted(decoded)


def test_the_least_used_goes_but_no_large_layer(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(store, "LARGE", 4 * 500)
    layers = [
        Layer(name, name, LayerKind.PIXELS, box=Box(0, 0, side, side))
        for name, side in (("large", 40), ("a", 10), ("b", 10), ("c", 10))
    ]
    decoded: list[str] = []

    def decode_layer(layer: Layer) -> Bytes:
        assert layer.box is not None
        decoded.append(layer.name)
        return np.zeros((layer.box.height, layer.box.width, 4), np.uint8)

    kept = store.LayerStore(decode_layer, budget=2 * 4 * 100)
    large, a, b, c = layers
    for one in (large, a, b, a, c, a, large, b, large):
        kept.get(one)
    assert decoded == ["large", "a", "b", "c", "b"]  # b went when c came, c when b came again


@pytest.mark.parametrize("held, huge", [(0, 10**9), (10**9, 10**9), (10**9, 100)])
@pytest.mark.parametrize("mode", ["RGB", "RGBA", "P", "LA", "gamma"])
def test_large_layers_are_the_same_held_or_aside(
    monkeypatch: pytest.MonkeyPatch, tmp_path: Path, held: int, huge: int, mode: str
) -> None:
    chance = np.random.default_rng(3)
    pixels = chance.integers(0, 256, (40, 50, 4), dtype=np.uint8)
    picture = Image.fromarray(pixels).convert("RGB" if mode == "gamma" else mode)
    if mode == "gamma":
        more = PngImagePlugin.PngInfo()
        more.add(b"gAMA", (100_000).to_bytes(4, "big"))
        picture.save(tmp_path / "m.png", pnginfo=more)
    else:
        picture.save(tmp_path / "m.png")
    mockup = open_mockup(tmp_path / "m.png")
    usual = open_renderer(mockup).render(mockup.box, 1.0, mockup.drawn)
    for name, value in (("LARGE", 1000), ("HELD", held), ("HUGE", huge)):
        monkeypatch.setattr(store, name, value)
    monkeypatch.setattr(decode, "STRIP", 350)
    renderer = open_renderer(mockup)
    for box in (mockup.box, Box(7, 5, 20, 30), Box(-3, 38, 10, 10)):
        whole = np.zeros((box.height, box.width, 4), np.float32)
        inside = box & mockup.box
        whole[inside.within(box)] = usual[inside.within(mockup.box)]
        np.testing.assert_array_equal(renderer.render(box, 1.0, mockup.drawn), whole)


SVG = """<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink"
 xmlns:x="urn:any" width="120" height="90" viewBox="0 0 240 180">
<style>.gone {{ display: none }} g#styled > rect.a {{ fill: #00f }}
 rect {{ fill: #0f0 !important }} .b {{ fill: red; opacity: .5 }}</style>
<defs><linearGradient id="lg"><stop stop-color="red"/><stop offset="1" stop-color="blue"/>
</linearGradient><clipPath id="half" clipPathUnits="objectBoundingBox">
<rect width=".5" height="1"/></clipPath><path id="star" d="M0 0h20v20z"/>
<filter id="blur"><feGaussianBlur stdDeviation="4"/></filter>
<mask id="fade"><rect width="240" height="180" fill="#888"/></mask></defs>
{}</svg>"""

DRAWINGS = {
    "clip": '<g clip-path="url(#half)"><path x:label="one" d="M0 0h40v40h-40z" fill="red"/>'
    '<path x:label="two" d="M100 0h40v40h-40z" fill="blue"/></g>',
    "mask": '<g mask="url(#fade)"><path id="one" d="M0 0h40v40h-40z"/></g>',
    "filter": '<g filter="url(#blur)"><circle id="one" cx="60" cy="60" r="20"/></g>',
    "gradient": '<path id="one" d="M10 10h90v40h-90z" fill="url(#lg)" transform="rotate(20 50 50)"/>',
    "use": '<use id="one" xlink:href="#star" x="30" y="40"/>',
    "twice": '<path id="two" d="M5 5h9v9z" fill="red"/><use id="one" xlink:href="#two" x="30"/>',
    "blend": '<path d="M0 0h90v90h-90z" fill="red"/><path id="one" d="M9 9h50v50h-50z" fill="#0ff" '
    'style="mix-blend-mode:multiply"/>',
    "nested": '<svg x="20" y="20" width="60" height="60" viewBox="0 0 6 6"><path id="one" d="M0 0h3v3z"/></svg>',
    "text": '<text id="one" x="20" y="60" font-family="Figtree" font-size="30">Bees<tspan dy="30">!</tspan></text>',
    "stroke": '<path id="one" d="M30 30L90 30L60 35" fill="none" stroke="red" stroke-width="12"/>',
}


def drawing(tmp_path: Path, body: str, fonts: FontBook | None = None) -> Renderer:
    path = tmp_path / "m.svg"
    path.write_text(SVG.format(body))
    return open_renderer(open_mockup(path), fonts)


@pytest.fixture(scope="module")
def fonts() -> FontBook:
    import riffler

    folder = Path(riffler.__file__).parent / "demo/fernhollow/fonts"
    return FontBook(tuple(sorted(folder.glob("*.ttf"))))


def straight_from_the_renderer(path: Path, fonts: FontBook) -> np.ndarray:
    """The file as it is, drawn without going through our own copy of it."""
    import io

    import resvg_py
    from PIL import Image

    data = resvg_py.svg_to_bytes(
        svg_path=str(path), skip_system_fonts=True, font_files=[str(f) for f in fonts.files]
    )
    return np.asarray(Image.open(io.BytesIO(data)).convert("RGBA"), float)


@pytest.mark.parametrize("name", DRAWINGS)
def test_a_pruned_copy_draws_the_same(tmp_path: Path, fonts: FontBook, name: str) -> None:
    renderer = drawing(tmp_path, DRAWINGS[name], fonts)
    mockup = renderer.mockup
    whole = straight_from_the_renderer(mockup.path, fonts)
    assert whole[..., 3].any()
    ours = to_bytes(renderer.render(mockup.box, 1.0, mockup.drawn)).astype(float)
    box = Box(11, 7, 40, 33)
    part = to_bytes(renderer.render(box, 1.0, mockup.drawn)).astype(float)
    for mine, theirs in ((ours, whole), (part, whole[box.within(mockup.box)])):
        away = np.abs(mine - theirs).max(axis=-1)
        # edges are sampled 16 times a pixel; a sample may fall to the other side by rounding
        assert away.max() <= 16
        assert np.mean(away > 1) < 0.005


@pytest.mark.parametrize("name", DRAWINGS)
def test_painted_boxes_of_vectors(tmp_path: Path, fonts: FontBook, name: str) -> None:
    renderer = drawing(tmp_path, DRAWINGS[name], fonts)
    for layer in renderer.mockup.walk():
        shown = switched(renderer.mockup, frozenset(), only=[layer.address])
        wide = Box(-60, -45, 240, 180)
        alpha = renderer.render(wide & renderer.mockup.box, 1.0, shown)[..., 3]
        rows, columns = np.flatnonzero(alpha.any(axis=1)), np.flatnonzero(alpha.any(axis=0))
        painted = renderer.painted_box(layer.address)
        if not rows.size:
            continue
        assert painted is not None
        inside = painted & renderer.mockup.box
        expected = (columns[0], rows[0], columns[-1] + 1, rows[-1] + 1)
        edges = (inside.x, inside.y, inside.right, inside.bottom)
        assert max(abs(a - b) for a, b in zip(edges, expected, strict=True)) <= 1
        own = renderer.own_box(layer.address)
        assert own is not None
        assert painted.contains(own)
        if name == "filter" and layer.address.endswith("one"):
            assert own == Box(20, 20, 20, 20)  # radius 20 around 60, at half a pixel a unit
            # the region of a filter is a tenth of the box larger on every side: 2 px of 20
            assert painted == own.grown(2)


def test_clip_stays_in_force_for_one_child(tmp_path: Path) -> None:
    renderer = drawing(tmp_path, DRAWINGS["clip"])
    one = switched(renderer.mockup, frozenset(), only=["group#1/one"])
    alpha = renderer.render(renderer.mockup.box, 1.0, one)[..., 3]
    # the clip is the left half of both shapes' box, 0..140: all of `one`, none of `two`
    assert alpha[10, :20].min() == 1
    two = switched(renderer.mockup, frozenset(), only=["group#1/two"])
    assert not renderer.render(renderer.mockup.box, 1.0, two).any()
    assert renderer.painted_box("group#1/two") is None


def test_a_layer_that_another_uses_can_be_hidden(tmp_path: Path) -> None:
    renderer = drawing(tmp_path, DRAWINGS["twice"])
    shown = switched(renderer.mockup, renderer.mockup.drawn, hide=["two"])
    alpha = renderer.render(renderer.mockup.box, 1.0, shown)[..., 3]
    assert not alpha[:, :10].any()
    assert alpha[:, 16:24].any()


@settings(max_examples=30)
@given(st.integers(0, 75), st.integers(0, 50), st.integers(20, 50), st.integers(20, 50), st.data())
def test_a_box_of_a_drawing_is_the_crop_of_all_that_is_on(
    x: int, y: int, width: int, height: int, data: st.DataObject
) -> None:
    """What lies elsewhere is left out of a drawing; not so what a filter spreads from there."""
    names = [f"{name}-{row}{more}" for row in range(4) for name, more in (("row", ""), *(
        (name, f"-{n}") for n in range(8) for name in ("cell", "box")))]  # fmt: skip
    off = data.draw(st.lists(st.sampled_from(names), max_size=30))

    def drawing(hidden: Sequence[str]) -> str:
        def on(name: str) -> str:
            return f'id="{name}"' + ' display="none"' * (name in hidden)

        rows = "".join(
            f"<g {on(f'row-{row}')}{filtered}>"
            + "".join(
                f'<g {on(f"cell-{row}-{n}")}><rect {on(f"box-{row}-{n}")} x="{12 * n}" y="{10 * row}" width="9" '
                f'height="7" fill="#{n}{row}7"/></g>'
                for n in range(8 if row < 3 else 1)
            )
            + "</g>"
            for row, filtered in enumerate(("", ' filter="url(#far)"', "", ' filter="url(#full)"'))
        )
        return (
            '<svg xmlns="http://www.w3.org/2000/svg" width="96" height="72"><filter id="far" '
            'filterUnits="userSpaceOnUse" width="96" height="72"><feOffset dx="13" dy="30"/></filter><filter '
            'id="full" filterUnits="userSpaceOnUse" x="40" y="40" width="30" height="20"><feFlood '
            f'flood-color="#2a2"/></filter>{rows}</svg>'
        )

    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "m.svg"
        path.write_text(drawing(()))
        renderer = open_renderer(open_mockup(path))
        every = renderer.mockup.by_address
        on = frozenset(at for at in every if not set(at.split("/")) & set(off))
        box = Box(x, y, width, height) & renderer.mockup.box
        whole = draw_whole(drawing(off).encode(), "m.svg", Limits())
        drawn = to_bytes(renderer.render(box, 1.0, on))
        np.testing.assert_array_equal(drawn, whole[box.within(renderer.mockup.box)])


def test_vectors_are_drawn_at_the_scale_not_enlarged(tmp_path: Path) -> None:
    renderer = drawing(tmp_path, '<path id="one" d="M20 20h40v40h-40z"/>')
    pixels = renderer.render(Box(5, 5, 30, 30), 4.0, renderer.mockup.drawn)
    assert pixels.shape == (120, 120, 4)
    alpha = pixels[..., 3]
    assert set(np.unique(alpha)) == {0.0, 1.0}
    assert np.flatnonzero(alpha.any(axis=0))[[0, -1]].tolist() == [20, 99]  # 10..30, less 5, by 4


def test_style_sheets_hide_and_colour_as_they_say(tmp_path: Path) -> None:
    body = (
        '<g id="styled"><rect class="a" id="one" width="40" height="40" style="fill:red"/>'
        '<path class="b" id="two" d="M100 0h40v40h-40z"/><path class="gone" id="three" d="M0 90h40v40z"/>'
        '<g visibility="hidden"><path id="four" d="M0 0h9v9z"/>'
        '<path id="five" d="M200 100h20v20h-20z" visibility="visible"/></g></g>'
    )
    renderer = drawing(tmp_path, body)
    mockup = renderer.mockup
    assert [layer.address for layer in mockup.walk() if not layer.visible] == [
        "styled/group#1/four",
        "styled/three",
    ]
    pixels = to_bytes(renderer.render(mockup.box, 1.0, mockup.drawn))
    assert pixels[10, 10].tolist() == [0, 255, 0, 255]  # !important wins over style
    assert pixels[10, 60].tolist() == [255, 0, 0, 128]
    assert pixels[55, 105].tolist() == [0, 0, 0, 255]
    shown = switched(mockup, mockup.drawn, show=["styled/three"])
    assert renderer.render(mockup.box, 1.0, shown)[47, 15, 3] == 1


@pytest.mark.parametrize("scale, size", [(0.5, (40, 30)), (0.25, (20, 15)), (0.4, (32, 24))])
def test_scaling_down_keeps_the_light(tmp_path: Path, scale: float, size: tuple[int, int]) -> None:
    stripes = np.zeros((60, 80, 4), np.uint8)
    stripes[..., 3] = 255
    stripes[:, ::2, :3] = 255
    path = write_ora(tmp_path / "m.ora", (80, 60), [Flat("a", (0, 0, 80, 60), pixels=stripes)])
    mockup = open_mockup(path)
    pixels = open_renderer(mockup).render(mockup.box, scale, mockup.drawn)
    assert pixels.shape == (size[1], size[0], 4)
    assert pixels[..., 3].min() == 1
    # half the light is 0.735 encoded: 1.055 x 0.5^(1/2.4) - 0.055
    middle = pixels[5:-5, 5:-5, :3]
    assert abs(float(middle.mean()) - 0.735) < 0.01
