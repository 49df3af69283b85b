"""Layers of a pixel mockup -> decoded pixels, kept while they fit a budget of bytes."""

from __future__ import annotations

import contextlib
import tempfile
import threading
from collections import OrderedDict, deque
from collections.abc import Callable, Iterable, Sequence
from concurrent.futures import Future
from dataclasses import dataclass, field
from typing import IO, TypeAlias

import numpy as np
import numpy.typing as npt

from riffler.color import TO_UNIT, Bytes, Pixels, by_planes, from_bytes
from riffler.errors import MockupError
from riffler.geometry import Box
from riffler.mockup.model import Layer

#: Bytes of decoded layers kept in memory; the small layers of a heavy page need about this much.
BUDGET = 128_000_000

#: A layer of more bytes than this waits in a file without a name, and is read by the row.
LARGE = 24_000_000

#: Of layers with more bytes than this only one is decoded at a time, to spare memory.
HUGE = 100_000_000

#: Threads that decode ahead.
AHEAD = 2

#: Half opaque, in steps of 8 bits: shadows and glows stay below.
HALF = 127

Flags: TypeAlias = npt.NDArray[np.bool_]


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
    """A layer's pixels, straight 8-bit RGBA, and what is known of its rows and columns.

    `opaque_runs`, (H, 2), are the columns from which and up to which each row is opaque without a
    gap, both 0 where there is one. `painted_rows` and `painted_columns` say in which anything is
    painted at all, `solid_rows` and `solid_columns` in which something is more than half opaque:
    what is left of a layer without its shadow.
    """

    pixels: Bytes | Aside
    box: Box
    opaque_runs: npt.NDArray[np.int_]
    painted_rows: Flags
    painted_columns: Flags
    solid_rows: Flags
    solid_columns: Flags

    def cut(self, area: Box) -> Pixels:
        """Premultiplied float pixels of an area inside the layer's box."""
        return from_bytes(self.pixels[area.within(self.box)])

    def cover(self, area: Box, backdrop: Pixels) -> None:
        """Write an opaque area of the layer over `backdrop`."""
        straight = self.pixels[area.within(self.box)]
        np.multiply(straight, TO_UNIT, out=backdrop, casting="unsafe")

    def opaque_part(self, area: Box) -> Box:
        """The part of `area` that is opaque in all of its rows; empty when there is none."""
        runs = self.opaque_runs[area.within(self.box)[0]]
        left, right = self.box.x + int(runs[:, 0].max()), self.box.x + int(runs[:, 1].min())
        if left >= right:
            return Box(area.x, area.y, 0, 0)
        return area & Box.from_edges(left, area.y, right, area.bottom)

    def is_painted(self, area: Box) -> bool:
        """Whether the layer paints anything in the rows of `area`."""
        return bool(self.painted_rows[area.within(self.box)[0]].any())

    def painted_box(self) -> Box | None:
        """The box of all pixels that are not clear; None for an empty layer."""
        return self._around(self.painted_rows, self.painted_columns)

    def solid_box(self) -> Box | None:
        """The box of all pixels that are more than half opaque; None when there are none."""
        return self._around(self.solid_rows, self.solid_columns)

    def _around(self, rows: Flags, columns: Flags) -> Box | None:
        down, across = np.flatnonzero(rows), np.flatnonzero(columns)
        if not down.size:
            return None
        inner = Box.from_edges(across[0], down[0], across[-1] + 1, down[-1] + 1)
        return inner.moved(self.box.x, self.box.y)


class LayerStore:
    """Decodes a layer when it is first asked for; the least used go when the budget is spent."""

    def __init__(self, decode: Callable[[Layer], Iterable[Bytes]], budget: int = BUDGET) -> None:
        self._decode = decode
        self._budget = budget
        self._kept: OrderedDict[str, Decoded] = OrderedDict()
        self._spent = 0
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
        is_huge = layer.box is not None and 4 * layer.box.area > HUGE
        try:
            with self._one_huge if is_huge else contextlib.nullcontext():
                decoded = _decoded(layer, self._decode(layer))
        except BaseException as error:  # raised again for each who asks
            with self._lock:
                del self._coming[layer.address]
            coming.set_exception(error)
            return
        with self._lock:
            del self._coming[layer.address]
            self._kept[layer.address] = decoded
            self._spent += _cost(decoded)
            while self._spent > self._budget and len(self._kept) > 1:
                _, dropped = self._kept.popitem(last=False)
                self._spent -= _cost(dropped)
        coming.set_result(decoded)

    def warm(self, layers: Sequence[Layer], *, only_large: bool) -> None:
        """Begin to decode layers beside all else, the large first, as many as will be kept."""
        sizes = {layer.address: 4 * layer.box.area for layer in layers if layer.box}
        waiting = deque(sorted(layers, key=lambda one: -sizes.get(one.address, 0)))
        small = sum(size for size in sizes.values() if size <= LARGE)
        if only_large or small > self._budget:
            waiting = deque(one for one in waiting if sizes.get(one.address, 0) > LARGE)
        for _ in range(AHEAD):
            threading.Thread(target=self._decode_all, args=(waiting,), daemon=True).start()

    def _decode_all(self, waiting: deque[Layer]) -> None:
        with contextlib.suppress(IndexError):
            while True:
                layer = waiting.popleft()
                with contextlib.suppress(Exception):  # raised again where the layer is asked for
                    self.get(layer)


def _cost(decoded: Decoded) -> int:
    return decoded.pixels.nbytes if isinstance(decoded.pixels, np.ndarray) else 0


def _decoded(layer: Layer, strips: Iterable[Bytes]) -> Decoded:
    """Take in the strips of a layer, in memory or aside, and note what its rows are like."""
    box = layer.box or Box(0, 0, 0, 0)
    runs: list[npt.NDArray[np.int_]] = []
    painted: list[Flags] = []
    solid: list[Flags] = []
    columns, solid_columns = np.zeros((2, box.width), np.bool_)

    def noted(strip: Bytes) -> Bytes:
        if strip.shape[1] != box.width or sum(map(len, runs)) + len(strip) > box.height:
            raise MockupError(f'Layer "{layer.address}" is not of the size that its header says.')
        alpha = strip[..., 3]
        runs.append(_opaque_runs(alpha))
        painted.append(alpha.max(axis=1) > 0)
        np.logical_or(columns, alpha.any(axis=0), out=columns)
        half = alpha > HALF
        solid.append(np.asarray(half.any(axis=1)))
        np.logical_or(solid_columns, half.any(axis=0), out=solid_columns)
        return strip

    taken = (noted(strip) for strip in strips)
    if 4 * box.area > LARGE:
        pixels: Bytes | Aside = _aside(taken, box)
    else:
        parts = list(taken)
        pixels = by_planes(parts[0] if len(parts) == 1 else np.concatenate(parts))
    painted_rows, solid_rows = np.concatenate(painted), np.concatenate(solid)
    opaque_runs = np.concatenate(runs)
    return Decoded(pixels, box, opaque_runs, painted_rows, columns, solid_rows, solid_columns)


def _opaque_runs(alpha: npt.NDArray[np.uint8]) -> npt.NDArray[np.int_]:
    """From where and up to where each row is opaque without a gap; 0 and 0 where it has one."""
    if alpha.min(initial=255) == 255:
        return np.tile((0, alpha.shape[1]), (len(alpha), 1))
    is_opaque = alpha == 255
    first = is_opaque.argmax(axis=1)
    end = alpha.shape[1] - is_opaque[:, ::-1].argmax(axis=1)
    has_gap = np.count_nonzero(is_opaque, axis=1) != end - first
    return np.where(has_gap[:, None], 0, np.stack((first, end), axis=1))


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
    return Aside(file, box.height, box.width)
