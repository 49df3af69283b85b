"""A mockup -> what its page should show, read beside all else and kept until it changes."""

from __future__ import annotations

import threading
from collections.abc import Iterator, Mapping, Sequence
from concurrent.futures import Future
from dataclasses import dataclass
from pathlib import Path

import numpy as np

from riffler.analyse.thumbnails import SHAPE, Thumbs, thumbs
from riffler.cutlist.resolve import resolve
from riffler.digests import digest_of, program, sha256_of
from riffler.fit.expected import Coming, Expected, ExpectedThing, ThingKind, alone, drawn
from riffler.fit.likeness import inked
from riffler.geometry import Rect
from riffler.jobs.cache import Cache
from riffler.markup.area import Area, Shape
from riffler.markup.page_plan import areas_of
from riffler.project.places import CACHE
from riffler.reading.look import reading_of
from riffler.reading.reading import Reading
from riffler.render.renderer import Renderer
from riffler.workspace import Opened

#: The smallest thing that is looked for, in CSS pixels.
LEAST = 2.0

#: How far edges that pixels showed may lie from what a file's numbers say, in CSS pixels.
NEAR = 4.0

#: Mockups are read one after the other: together they would take as long, and more memory.
_ONE = threading.Lock()


def expected(opened: Opened, density: float | None = None, work: Path | None = None) -> Coming:
    """Begin to read all that a mockup shows; `density` is guessed where nobody says it.

    `work` is a project's work folder, where what was read is kept.
    """
    reading, future = reading_of(opened, density), Future[Expected]()
    cache = Cache(work / CACHE) if work else None

    def read() -> None:
        try:
            with _ONE:
                future.set_result(_read(opened, reading, cache))
        except BaseException as error:  # raised again for who waits
            future.set_exception(error)

    threading.Thread(target=read, daemon=True).start()
    return Coming(*_size(reading), future.result)


def _size(reading: Reading) -> tuple[float, float, float]:
    size, by = reading.mockup.size, reading.density
    return size.width / by, size.height / by, by


def _read(opened: Opened, reading: Reading, cache: Cache | None) -> Expected:
    import scipy.optimize  # noqa: F401 - pairs will need it: here it loads while a browser works

    mockup, renderer = reading.mockup, reading.renderer
    key = digest(opened, reading.density) if cache else ""
    known = cache.get(key, Known) if cache else None
    if known is None:
        known = _known(areas_of(opened, reading), renderer, reading.density)
        if cache:
            cache.put(key, known)
    looks = {n: np.frombuffer(look).reshape(SHAPE) for n, look in known.looks.items()}
    slices = tuple(resolve(opened.cutlist, renderer)) if opened.cutlist else ()
    return Expected(
        *_size(reading),
        known.things,
        looks,
        slices,
        opened.fonts,
        mockup.is_vector,
        renderer,
        drawn(renderer, mockup.box, mockup.drawn),
    )


@dataclass(frozen=True)
class Known:
    """What is known of a mockup once it was read: its things, and the bytes of their looks."""

    things: tuple[ExpectedThing, ...]
    looks: Mapping[int, bytes]


def digest(opened: Opened, density: float) -> str:
    """Tells all that things depend on: the program, the mockup, its cutlist, the typefaces."""
    file = opened.cutlist
    written = [file.written, *(part.written for part in file.included)] if file else []
    faces = [(face.path, face.path.stat()) for face in opened.fonts.faces()]
    return digest_of(
        "things",
        program(),
        sha256_of(opened.key.path),
        opened.key.canvas,
        density,
        *(one_written.text for one_written in written),
        file and file.base,
        *((path, result.st_size, result.st_mtime_ns) for path, result in faces),
    )


def _known(area: Area, renderer: Renderer, density: float) -> Known:
    things: list[ExpectedThing] = []
    looks: dict[int, bytes] = {}
    for thing, look in _things(area, renderer, density):
        sides = thing.box.width, thing.box.height
        if min(sides) >= LEAST / 2 and max(sides) >= LEAST:
            if look is not None:
                looks[len(things)] = look.tobytes()
            things.append(thing)
    return Known(tuple(things), looks)


def _things(
    area: Area, renderer: Renderer, density: float
) -> Iterator[tuple[ExpectedThing, Thumbs | None]]:
    """Things, the outermost first; pictures with what they look like."""
    name = area.piece.name if area.piece else area.layers[0] if area.layers else ""
    layers, by = area.layers, density
    if area.setting is not None:
        ink = _exact(layers, renderer, by) or _painted(layers, renderer, by)[0]
        yield (
            ExpectedThing(name, ThingKind.WORDS, ink or area.box, layers, setting=area.setting),
            None,
        )
    elif area.shape is Shape.PICTURE:
        paint, look = _painted(layers, renderer, by)
        yield ExpectedThing(name, ThingKind.PICTURE, paint or area.box, layers), look
    elif area.ground is not None and layers:
        edges = _exact(layers, renderer, by)
        box = edges if edges and _is_near(edges, area.box) else area.box
        yield ExpectedThing(name, ThingKind.BOX, box, layers, style=area.ground), None
    for part in area.parts:
        yield from _things(part, renderer, by)


def _exact(layers: Sequence[str], renderer: Renderer, density: float) -> Rect | None:
    """Where the edges of one layer lie, shadows left out, as the numbers of a vector file say."""
    if len(layers) != 1 or not renderer.mockup.is_vector:
        return None
    exact = renderer.exact_box(layers[0])
    return exact.scaled(1 / density) if exact else None


def _painted(
    layers: Sequence[str], renderer: Renderer, density: float
) -> tuple[Rect | None, Thumbs | None]:
    """The box of what layers paint, which beyond the canvas is cut off, and what they look like."""
    mockup = renderer.mockup
    boxes = [box for layer in layers if (box := renderer.painted_box(layer))]
    around = Rect.around(Rect.of(box) for box in boxes)
    inside = around.outward() & mockup.box if around else None
    if not inside:
        return None, None
    pixels = drawn(renderer, inside, alone(renderer, layers))
    sides = inked(pixels[..., 3])
    if sides is None:
        return None, None
    left, top, right, bottom = sides
    rect = Rect(inside.x + left, inside.y + top, right - left, bottom - top)
    return rect.scaled(1 / density), thumbs(pixels[rect.outward().within(inside)])


def _is_near(first: Rect, second: Rect) -> bool:
    return (
        max(
            abs(first.x - second.x),
            abs(first.y - second.y),
            abs(first.right - second.right),
            abs(first.bottom - second.bottom),
        )
        <= NEAR
    )
