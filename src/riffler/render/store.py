"""Layers of a pixel mockup -> decoded pixels, kept while they fit a budget of bytes.

Layers are decoded ahead where most will be wanted: all of them in draft and survey, in a cut of
many slices the large ones. Of very large ones only one at a time, to spare memory.

Layers are kept as far as they are painted (`SPARSE` in `render/store.py`): many programs store
every layer as large as the canvas, and a page of 180 of those would not fit, and be decoded over
and over.

Large layers stay as their codec unpacked them while they fit (`HELD` in `render/store.py`), and are
made into planes box by box. The others, and those whose colours a profile changes, wait in a
nameless temporary file and are read by the row: one slice of a tall page takes memory only for its
own rows. The C library is told to return large blocks at once.

Pixels lie plane by plane in memory while they are composed: arithmetic on long rows is several
times faster than on four channels at a time. The type stays `(H, W, 4)`; the order in memory is not
promised.
"""

from __future__ import annotations

import contextlib
import tempfile
import threading
import weakref
from collections import OrderedDict, deque
from collections.abc import Callable, Iterable, Sequence
from concurrent.futures import Future
from dataclasses import dataclass, field
from typing import IO

import numpy as np

from riffler.color import TO_UNIT, Bytes, Pixels, by_planes, empty, from_bytes
from riffler.errors import MockupError
from riffler.geometry import Box
from riffler.mockup.model import Layer
from riffler.render.decode import Unpacked
from riffler.render.extent import Extent, Noting
from riffler.render.memory import give_back_large_blocks

#: Bytes of decoded layers kept in memory; the small layers of a heavy page need about this much.
BUDGET = 128_000_000

#: A layer of more bytes than this is not made into planes as a whole. It is held as it was unpacked
#: while all of those take no more bytes than `HELD`, or waits in a file without a name.
LARGE, HELD = 24_000_000, 200_000_000

#: Of layers with more bytes than this only one is decoded at a time, to spare memory.
HUGE = 100_000_000

#: Of a layer that is painted in less than this part of its box the rest is not kept.
SPARSE = 0.5

#: Threads that decode ahead.
AHEAD = 2


@dataclass(frozen=True)
class Aside:
    """Straight pixels in a nameless file, plane by plane."""

    file: IO[bytes]
    height: int
    width: int
    lock: threading.Lock = field(default_factory=threading.Lock, repr=False)

    def __getitem__(self, area: tuple[slice, slice]) -> Bytes:
        rows, columns = area
        planes = []
        for plane in range(4):
            with self.lock:
                self.file.seek((plane * self.height + rows.start) * self.width)
                data = self.file.read((rows.stop - rows.start) * self.width)
            planes.append(np.frombuffer(data, np.uint8).reshape(-1, self.width)[:, columns])
        return np.stack(planes).transpose(1, 2, 0)


@dataclass(frozen=True)
class Decoded:
    """A layer's pixels, straight 8-bit RGBA, in memory, aside or as they were unpacked.

    They are those of the box `kept`; what else there is of the layer is clear.
    """

    pixels: Bytes | Aside | Unpacked
    extent: Extent
    kept: Box

    def cut(self, area: Box) -> Pixels:
        """Premultiplied float pixels of an area inside the layer's box."""
        part = area & self.kept
        if part == area:
            return from_bytes(self.pixels[area.within(self.kept)])
        pixels = empty(area.height, area.width)
        if part:
            pixels[part.within(area)] = from_bytes(self.pixels[part.within(self.kept)])
        return pixels

    def cover(self, area: Box, backdrop: Pixels) -> None:
        """Write an opaque area of the layer over `backdrop`."""
        straight = self.pixels[area.within(self.kept)]
        np.multiply(straight, TO_UNIT, out=backdrop, casting="unsafe")


class LayerStore:
    """Decodes a layer when it is first asked for; the least used go when the budget is spent."""

    def __init__(self, decode: Callable[[Layer], Bytes | Unpacked], budget: int = BUDGET) -> None:
        give_back_large_blocks()
        self._decode = decode
        self._budget = budget
        self._kept: OrderedDict[str, Decoded] = OrderedDict()
        self._spent, self._held = 0, 0
        self._coming: dict[str, Future[Decoded]] = {}
        self._lock, self._one_huge = threading.Lock(), threading.Lock()

    def get(self, layer: Layer) -> Decoded:
        """The layer's pixels; any thread may ask. Raises MockupError when they are damaged."""
        with self._lock:
            if layer.address in self._kept:
                self._kept.move_to_end(layer.address)
                return self._kept[layer.address]
            coming = self._coming.get(layer.address)
            if is_ours := coming is None:
                coming = self._coming[layer.address] = Future()
        if is_ours:
            self._decode_into(coming, layer)
        return coming.result()

    def _decode_into(self, coming: Future[Decoded], layer: Layer) -> None:
        """Decode a layer for all who wait for it, and keep it."""
        size = 4 * layer.box.area if layer.box else 0
        try:
            with self._one_huge if size > HUGE else contextlib.nullcontext():
                given, box = _painted(layer, self._decode(layer))
                is_plain = isinstance(given, Unpacked) and given.is_plain
                may_hold = is_plain and self._may_hold(4 * box.area)
                decoded = (_held if may_hold else _decoded)(layer, given, box)
        except BaseException as error:  # raised again for each who asks
            with self._lock:
                del self._coming[layer.address]
            coming.set_exception(error)
            return
        with self._lock:
            del self._coming[layer.address]
            self._kept[layer.address] = decoded
            self._spent += _cost(decoded)
            self._drop_unused(layer.address)
        coming.set_result(decoded)

    def _drop_unused(self, wanted: str) -> None:
        """Forget what was not used for longest; large layers stay, they do not count."""
        in_memory = [key for key, decoded in self._kept.items() if _cost(decoded) and key != wanted]
        for address in in_memory:
            if self._spent <= self._budget:
                break
            self._spent -= _cost(self._kept.pop(address))

    def _may_hold(self, size: int) -> bool:
        """Whether a large layer may stay as it was unpacked; if so, its bytes count as held."""
        with self._lock:
            may_hold = LARGE < size <= HUGE and self._held + size <= HELD
            self._held += size if may_hold else 0
        return may_hold

    def warm(self, layers: Sequence[Layer], *, only_large: bool) -> None:
        """Begin to decode layers beside all else, the large first, as many as will be kept."""
        sizes = {layer.address: 4 * layer.box.area for layer in layers if layer.box}
        waiting = deque(sorted(layers, key=lambda layer: -sizes.get(layer.address, 0)))
        small = sum(size for size in sizes.values() if size <= LARGE)
        if only_large or small > self._budget:
            waiting = deque(layer for layer in waiting if sizes.get(layer.address, 0) > LARGE)
        for _ in range(AHEAD):
            threading.Thread(target=self._decode_all, args=(waiting,), daemon=True).start()

    def _decode_all(self, waiting: deque[Layer]) -> None:
        with contextlib.suppress(IndexError):
            while True:
                layer = waiting.popleft()
                with contextlib.suppress(Exception):  # raised again where the layer is asked for
                    self.get(layer)


def _cost(decoded: Decoded) -> int:
    """Bytes of the budget that a layer takes."""
    return decoded.pixels.nbytes if isinstance(decoded.pixels, np.ndarray) else 0


def _painted(layer: Layer, given: Bytes | Unpacked) -> tuple[Bytes | Unpacked, Box]:
    """What a layer has painted, where that is a small part of what is stored, and its box."""
    box = _box(layer)
    if isinstance(given, Unpacked) and given.picture.size == (box.width, box.height):
        painted = given.painted()
        if painted is not None and painted.area < SPARSE * box.area:
            return given.part(painted), painted.moved(box.x, box.y)
    return given, box


def _held(layer: Layer, given: Bytes | Unpacked, box: Box) -> Decoded:
    """A plain layer as it was unpacked."""
    assert isinstance(given, Unpacked)
    noting = _noting(layer, box)
    noting.note(given.alpha())
    return Decoded(given, noting.extent().within(_box(layer)), box)


def _decoded(layer: Layer, given: Bytes | Unpacked, box: Box) -> Decoded:
    """A layer in planes, in memory or aside."""
    noting = _noting(layer, box)

    def noted(strip: Bytes) -> Bytes:
        noting.note(strip[..., 3])
        return strip

    strips = map(noted, given.strips() if isinstance(given, Unpacked) else (given,))
    is_large = 4 * noting.box.area > LARGE
    pixels = _aside(strips, noting.box) if is_large else _joined(list(strips))
    return Decoded(pixels, noting.extent().within(_box(layer)), box)


def _noting(layer: Layer, box: Box) -> Noting:
    return Noting(f'Layer "{layer.address}"', box)


def _box(layer: Layer) -> Box:
    return layer.box or Box(0, 0, 0, 0)


def _joined(strips: list[Bytes]) -> Bytes:
    return by_planes(strips[0] if len(strips) == 1 else np.concatenate(strips))


def _aside(strips: Iterable[Bytes], box: Box) -> Aside:
    """The strips in a nameless file. Raises MockupError when there is no room for it."""
    top = 0
    try:
        file = tempfile.TemporaryFile()  # noqa: SIM115 - lives as long as the decoded layer
        for strip in strips:
            for plane in range(4):
                file.seek((plane * box.height + top) * box.width)
                file.write(np.ascontiguousarray(strip[..., plane]).data)
            top += len(strip)
    except OSError as error:
        raise MockupError(
            f"There is no room in {tempfile.gettempdir()} to unpack a large layer: {error}.",
            "Free some space, or point TMPDIR to a larger disk.",
        ) from error
    aside = Aside(file, box.height, box.width)
    weakref.finalize(aside, file.close)
    return aside
