"""The box of a slice, however it is said: edges, place and size, layers, or another slice.

A box derived from layers is widened to whole CSS pixels, so that the picture's size on the page is
whole.
"""

from __future__ import annotations

from collections.abc import Sequence
from typing import Literal

from riffler.cutlist.edges import DEEPEST
from riffler.cutlist.file import CutlistFile, Entry
from riffler.cutlist.model import Edge
from riffler.errors import nearest
from riffler.geometry import Box, Point, Rect, union
from riffler.mockup import address
from riffler.project.written import said_at
from riffler.render.renderer import Renderer

#: Whether a box was written in numbers and guides, or found from what layers paint.
BoxFrom = Literal["numbers", "layers"]

#: A box may be so many times as large as what of it lies on the canvas.
BEYOND = 1000

_ADVICE = 'Give it x and y, or at = [x, y, width, height], or around = ["a/layer"], or only.'


class Boxes:
    """Finds the boxes of one cutlist's slices; they may lean on each other."""

    def __init__(self, file: CutlistFile, renderer: Renderer) -> None:
        self._file, self._renderer = file, renderer
        self._rulers = {"x": file.ruler("x"), "y": file.ruler("y")}
        self._found: dict[str, Box] = {}

    def of(self, entry: Entry, within: tuple[str, ...] = ()) -> Box:
        """The slice's box before it is trimmed and grown; `within` are slices that lean on it.

        Raises WrittenError at the key that is wrong.
        """
        if entry.name not in self._found:
            self._found[entry.name] = self._find(entry, within)
        return self._found[entry.name]

    def origin(self, entry: Entry) -> BoxFrom:
        """What the box was found from."""
        table = entry.table
        if table.like is not None and (table.x is None or table.y is None):
            return self.origin(self._file.by_name[table.like])
        written = table.at is not None or table.x is not None or table.y is not None
        return "numbers" if written else "layers"

    def on_canvas(self, entry: Entry, box: Box) -> Box:
        """The box itself. Raises WrittenError when none, or hardly any, of it is on the canvas."""
        on_canvas = box & self._renderer.mockup.box
        if on_canvas and on_canvas.area * BEYOND >= box.area:
            return box
        text = next(
            (
                k
                for k in ("at", "x", "y", "like", "around", "only")
                if getattr(entry.table, k) is not None
            ),
            "",
        )
        size = self._renderer.mockup.size
        raise entry.mistake(
            text,
            f"The box ({box.x}, {box.y}, {box.width} x {box.height}) lies "
            f"{'almost ' if on_canvas else ''}outside the canvas of "
            f"{size.width} x {size.height} px.",
        )

    def point(self, entry: Entry, key: str, edges: Sequence[Edge]) -> Point:
        """A place of the mockup, written under a key; for each of `times` one step on."""
        with self._file.said_at(entry, key):
            x, y = self._rulers["x"].position(edges[0]), self._rulers["y"].position(edges[1])
        across, down = entry.table.times.offset(entry.index) if entry.table.times else (0, 0)
        return Point(x + across, y + down)

    def aligned(self, box: Box) -> Box:
        """The box widened to whole CSS pixels, on the canvas."""
        return self.widened(box) & self._renderer.mockup.box

    def widened(self, box: Box) -> Box:
        """The box widened to whole CSS pixels, where those are whole mockup pixels."""
        density = self._file.cutlist.density
        return box.aligned(int(density)) if density == int(density) else box

    def _find(self, entry: Entry, within: tuple[str, ...]) -> Box:
        table = entry.table
        keys = {key for key in ("at", "x", "y", "around", "like") if getattr(table, key)}
        if table.times and table.times.around:
            if keys:
                raise entry.mistake("times", _trouble({*keys, "around"}), "Leave one of them out.")
            return self._around(entry, ("times", "around"), [table.times.around[entry.index]])
        box = self._first(entry, keys, within)
        return box.moved(*table.times.offset(entry.index)) if table.times else box

    def _first(self, entry: Entry, keys: set[str], within: tuple[str, ...]) -> Box:
        """The box that is said by these keys, which is the first of `times`."""
        table = entry.table
        if keys == {"at"}:
            box = self._placed(entry)
        elif "like" in keys and not keys & {"at", "around"} and keys != {"like", "x", "y"}:
            box = self._like(entry, within)
        elif keys == {"x", "y"}:
            box = self._spanned(entry)
        elif keys == {"around"} or (not keys and table.only):
            key = "around" if table.around else "only"
            box = self._around(entry, (key,), table.around or table.only or ())
        else:
            raise entry.mistake("", _trouble(keys), _ADVICE)
        return box

    def _placed(self, entry: Entry) -> Box:
        assert entry.table.at is not None
        x, y, width, height = entry.table.at
        with entry_at(entry, "at"):
            left, top = self._rulers["x"].position(x), self._rulers["y"].position(y)
            right = left + self._rulers["x"].position(width)
            bottom = top + self._rulers["y"].position(height)
        return self._rounded(entry, "at", left, top, right, bottom)

    def _spanned(self, entry: Entry) -> Box:
        left, right = self._span(entry, "x")
        top, bottom = self._span(entry, "y")
        return self._rounded(entry, "x" if right <= left else "y", left, top, right, bottom)

    def _span(self, entry: Entry, axis: Literal["x", "y"]) -> tuple[float, float]:
        first, second = self._edges(entry, axis)
        with entry_at(entry, axis):
            ruler = self._rulers[axis]
            return ruler.position(first), ruler.position(second, is_end=True)

    def _edges(self, entry: Entry, axis: Literal["x", "y"]) -> tuple[Edge, Edge]:
        edges = entry.table.x if axis == "x" else entry.table.y
        assert edges is not None
        return edges[0], edges[1]

    def _rounded(
        self, entry: Entry, key: str, left: float, top: float, right: float, bottom: float
    ) -> Box:
        """Fractions go outward. Raises WrittenError for an empty box."""
        if right <= left or bottom <= top:
            raise entry.mistake(
                key,
                f"The box is empty: from ({left:g}, {top:g}) to ({right:g}, {bottom:g}).",
                "The first edge should be left of, or above, the second.",
            )
        return Rect(left, top, right - left, bottom - top).outward()

    def _like(self, entry: Entry, within: tuple[str, ...]) -> Box:
        table = entry.table
        assert table.like is not None
        other_entry = self._file.entry(table.like)
        if other_entry is None:
            known_entries = self._file.by_name
            raise entry.mistake(
                "like",
                f'There is no slice "{table.like}".',
                nearest(table.like, known_entries, "Slices are"),
            )
        if len(within) > DEEPEST:
            raise entry.mistake("like", f"More than {DEEPEST} slices lean on one another.")
        if table.like in (*within, entry.name):
            raise entry.mistake("like", "These slices lean on each other in a circle.")
        box = self.of(other_entry, (*within, entry.name))
        across, down = table.by or (0, 0)
        box = box.moved(round(across), round(down))
        left, right = self._span(entry, "x") if table.x else (box.x, box.right)
        top, bottom = self._span(entry, "y") if table.y else (box.y, box.bottom)
        return self._rounded(entry, "x" if table.x else "y", left, top, right, bottom)

    def _around(self, entry: Entry, keys: tuple[str, ...], layers: Sequence[str]) -> Box:
        """The box around what the named layers paint, shadows included, on whole CSS pixels."""
        with entry_at(entry, *keys):
            addresses = address.find_all(self._renderer.mockup, layers)
        painted = (self._renderer.painted_box(layer) for layer in sorted(addresses))
        box = union(box for box in painted if box) & self._renderer.mockup.box
        if not box:
            nothing = "These layers paint nothing, so there is no box around them."
            raise entry.mistake(keys[0], nothing)
        return self.aligned(box)


def _trouble(keys: set[str]) -> str:
    """What is wrong with a box that is said by these keys."""
    if not keys:
        return "This slice has no box."
    if len(keys) > 2 or keys & {"at", "around"}:
        return "This slice's box is said twice."
    return "This slice's box is said by halves."


def entry_at(entry: Entry, *keys: str) -> said_at:
    """For errors at one of a slice's keys."""
    return said_at(entry.part.written, (*entry.keys, *keys))
