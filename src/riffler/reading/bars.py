"""Plain boxes of one group -> the bars of a chart among them: on one line, of several lengths."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator, Sequence

from riffler.analyse.repetition import TOLERANCE, lattice
from riffler.geometry import Box
from riffler.mockup.model import Layer, is_drawing
from riffler.reading.judgement import Becomes
from riffler.reading.reading import Reading
from riffler.reading.rows import Row

#: The fewest bars that are a chart, and how much longer the longest is than the shortest.
FEWEST, LONGER = 4, 1.15


def bars_of(reading: Reading, parent: Layer | None, layers: Sequence[Layer]) -> Iterator[Row]:
    """Boxes of one thickness that begin on one line, at equal steps, upright or lying."""
    boxes = {
        layer: box
        for layer in layers
        if layer.visible and is_drawing(layer) and (box := reading.box(layer))
    }
    for is_upright in (True, False):
        lines: dict[tuple[int, int], list[Layer]] = defaultdict(list)
        for layer, box in boxes.items():
            lines[(box.width, box.bottom) if is_upright else (box.height, box.x)].append(layer)
        for members in lines.values():
            if len(members) < FEWEST:  # others need no judgement
                continue
            plain = {
                layer: boxes[layer]
                for layer in members
                if reading.judgement(layer).becomes is Becomes.CSS
            }
            row = _row(reading, parent, plain, is_upright)
            if row is not None:
                yield row


def _row(
    reading: Reading, parent: Layer | None, boxes: dict[Layer, Box], is_upright: bool
) -> Row | None:
    lengths = [box.height if is_upright else box.width for box in boxes.values()]
    if len(boxes) < FEWEST or max(lengths) < LONGER * min(lengths):
        return None
    feet = [Box(box.x, box.bottom if is_upright else box.y, 1, 1) for box in boxes.values()]
    found_lattice = lattice(feet, round(TOLERANCE * reading.density))
    if found_lattice is None:
        return None
    members = [list(boxes)[index] for index in found_lattice.members]
    return Row(
        parent, "bars", tuple(members), tuple(boxes[layer] for layer in members), found_lattice
    )
