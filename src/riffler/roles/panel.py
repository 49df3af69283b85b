"""Role `panel`, cut apart: two caps and the middle between them, each a file of its own."""

from __future__ import annotations

from itertools import pairwise

from riffler.cutlist.roles import Panel
from riffler.geometry import Box

#: What the parts are called, in files and in the ledger.
MIDDLE = "middle"
CAPS = {"top": "cap-top", "bottom": "cap-bottom", "left": "cap-left", "right": "cap-right"}


def parts(box: Box, panel: Panel) -> list[tuple[str, Box]]:
    """The parts of a panel that grows one way, by name, each with its box of the mockup."""
    caps = panel.caps
    if panel.is_upright:
        edges = (box.y, box.y + caps.top, box.bottom - caps.bottom, box.bottom)
        boxes = [Box(box.x, a, box.width, b - a) for a, b in pairwise(edges)]
        names = (CAPS["top"], MIDDLE, CAPS["bottom"])
    else:
        edges = (box.x, box.x + caps.left, box.right - caps.right, box.right)
        boxes = [Box(a, box.y, b - a, box.height) for a, b in pairwise(edges)]
        names = (CAPS["left"], MIDDLE, CAPS["right"])
    return [(name, part) for name, part in zip(names, boxes, strict=True) if part]
