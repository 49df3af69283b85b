"""A reading -> the guides and the column grid that its edges ask for."""

from __future__ import annotations

from typing import Any

from riffler.cutlist.model import Edge, GridTable
from riffler.geometry import Box
from riffler.mockup.model import Layer
from riffler.plan.draft.naming import Names
from riffler.reading import layout
from riffler.reading.look import grid_of
from riffler.reading.reading import Reading

#: Layers that share an edge before it is worth a guide.
SHARED = 3


class Guides:
    """The guides of a draft while it is written: `found` has them by axis and name."""

    def __init__(self, reading: Reading, names: Names) -> None:
        self._reading, self._names = reading, names
        self.found: dict[str, dict[str, int]] = {"x": {}, "y": {}}
        self._used: set[tuple[str, int]] = set()

    def collect(self) -> None:
        """Guides: the sides of the canvas, the rows of the page, and edges that layers share."""
        canvas = self._reading.mockup.box
        shared: dict[tuple[str, int, str], list[Layer]] = {}
        self.found["x"].update({"left": 0, "right": canvas.width})
        for layer in self._reading.drawings():
            if not self._reading.mockup.shows(layer) or self._reading.is_words(layer):
                continue
            box = self._reading.box(layer)
            if box is None or not self._reading.judgement(layer).is_rectangle:
                continue
            if box.width >= layout.WHOLE_WIDTH * canvas.width and box.height < canvas.height:
                self.add("y", box.y, f"{self._names.outermost(layer)}-top")
                self.add("y", box.bottom, f"{self._names.outermost(layer)}-end")
            for axis, edge, side in (
                ("x", box.x, "left"),
                ("x", box.right, "right"),
                ("y", box.y, "top"),
                ("y", box.bottom, "end"),
            ):
                shared.setdefault((axis, edge, side), []).append(layer)
        for (axis, edge, side), layers in sorted(shared.items(), key=lambda item: item[0]):
            if len(layers) >= SHARED:
                self.add(axis, edge, f"{self._names.around(layers)}-{side}")

    def add(self, axis: str, edge: int, name: str) -> None:
        """A new guide, unless there is one at this edge, or at the end of the canvas."""
        canvas, known = self._reading.mockup.size, self.found[axis]
        whole = canvas.width if axis == "x" else canvas.height
        if 0 < edge < whole and edge not in known.values():
            known[f"{name}-{edge}" if name in known else name] = edge

    def grid(self) -> GridTable | None:
        """The column grid as a cutlist writes it, where there surely is one."""
        width = self._reading.mockup.size.width
        found_grid = grid_of(self._reading)
        if found_grid is None or found_grid.certainty != "sure":
            return None
        columns = found_grid.finer[0] if found_grid.finer else found_grid.columns
        return GridTable(
            count=columns,
            gutter=found_grid.gutter,
            from_=found_grid.left,
            to=width - found_grid.right,
        )

    def edge(self, axis: str, value: int) -> Edge:
        """An edge as it is written: a guide where there is one."""
        names = [name for name, at in self.found[axis].items() if at == value]
        if names:
            self._used.add((axis, value))
        return names[0] if names else value

    def span(self, box: Box) -> dict[str, Any]:
        """The keys x and y of a box."""
        return {
            "x": [self.edge("x", box.x), self.edge("x", box.right)],
            "y": [self.edge("y", box.y), self.edge("y", box.bottom)],
        }

    def listed(self) -> dict[str, dict[str, int]]:
        """The guides of each axis that slices lie on, from the left and from the top."""
        return {
            axis: {
                name: at
                for name, at in sorted(result.items(), key=lambda item: item[1])
                if (axis, at) in self._used
            }
            for axis, result in self.found.items()
        }
