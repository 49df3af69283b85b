"""Layers of a pixel mockup -> decoded pixels, kept while they fit a budget of bytes."""

from __future__ import annotations

import tempfile
from collections import OrderedDict
from collections.abc import Callable
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from riffler.color import Bytes, Pixels, from_bytes
from riffler.errors import MockupError
from riffler.geometry import Box
from riffler.mockup.model import Layer

#: Decoded layers kept in memory. The 120 layers of a heavy page need about this much.
BUDGET = 160_000_000

#: A layer of more bytes than this waits in a file without a name that the system pages in.
LARGE = 24_000_000


@dataclass(frozen=True)
class Decoded:
    """A layer's pixels and what is known of them row by row.

    pixels: (H, W, 4) uint8, straight. `opaque_rows` and `painted_rows` say of each row whether
    all of it is opaque, and whether any of it is painted.
    """

    pixels: Bytes
    box: Box
    opaque_rows: npt.NDArray[np.bool_]
    painted_rows: npt.NDArray[np.bool_]

    def cut(self, area: Box) -> Pixels:
        """Premultiplied float pixels of an area inside the layer's box."""
        rows, columns = area.within(self.box)
        return from_bytes(self.pixels[rows, columns])

    def is_opaque(self, area: Box) -> bool:
        """Whether nothing shows through the layer in the rows of `area`."""
        return bool(self.opaque_rows[area.within(self.box)[0]].all())

    def is_painted(self, area: Box) -> bool:
        """Whether the layer paints anything in the rows of `area`."""
        return bool(self.painted_rows[area.within(self.box)[0]].any())


class LayerStore:
    """Decodes a layer when it is first asked for; the least used go when the budget is spent."""

    def __init__(self, decode: Callable[[Layer], Bytes], budget: int = BUDGET) -> None:
        self._decode = decode
        self._budget = budget
        self._kept: OrderedDict[str, Decoded] = OrderedDict()
        self._spent = 0

    def get(self, layer: Layer) -> Decoded:
        """The layer's pixels. Raises MockupError when they are damaged."""
        if layer.address in self._kept:
            self._kept.move_to_end(layer.address)
            return self._kept[layer.address]
        decoded = self._decoded(layer)
        self._kept[layer.address] = decoded
        self._spent += _cost(decoded)
        while self._spent > self._budget and len(self._kept) > 1:
            _, dropped = self._kept.popitem(last=False)
            self._spent -= _cost(dropped)
        return decoded

    def _decoded(self, layer: Layer) -> Decoded:
        pixels = self._decode(layer)
        box = layer.box
        if box is None or pixels.shape[:2] != (box.height, box.width):
            raise MockupError(f'Layer "{layer.address}" is not of the size that its header says.')
        alpha = pixels[..., 3]
        opaque, painted = alpha.min(axis=1) == 255, alpha.max(axis=1) > 0
        return Decoded(_aside(pixels) if pixels.nbytes > LARGE else pixels, box, opaque, painted)


def _cost(decoded: Decoded) -> int:
    return 0 if isinstance(decoded.pixels, np.memmap) else decoded.pixels.nbytes


def _aside(pixels: Bytes) -> Bytes:
    """The same pixels in a nameless file: only the rows that are drawn take up memory."""
    with tempfile.TemporaryFile() as file:
        mapped: Bytes = np.memmap(file, np.uint8, "w+", shape=pixels.shape)
    mapped[...] = pixels
    return mapped
