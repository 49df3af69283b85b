"""A written slice -> a ResolvedSlice: its box in whole pixels and the layers of every state."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path

from riffler.color import parse_hex
from riffler.cutlist.edges import position
from riffler.cutlist.model import Cutlist, Layers, SliceTable
from riffler.cutlist.shown import as_drawn, switched
from riffler.errors import AddressError, RifflerError, WrittenError
from riffler.geometry import Box, Rect, union
from riffler.mockup import address
from riffler.mockup.model import Mockup
from riffler.project.written import Keys, Written
from riffler.render.renderer import Renderer

#: What a slice becomes when nothing says otherwise.
SAVE = ("png",)

#: Quality of lossy formats, 1 to 100, when nothing says otherwise.
QUALITY = 88


@dataclass(frozen=True)
class State:
    """One look of a slice: its name, empty at rest, and the layers that are on."""

    name: str
    shown: frozenset[str]


@dataclass(frozen=True)
class ResolvedSlice:
    """A slice with nothing left to look up: box in whole mockup pixels, layers, settings."""

    name: str
    box: Box
    states: tuple[State, ...]
    density: float
    save: tuple[str, ...]
    quality: int
    ground: tuple[float, float, float] | None
    alt: str | None
    link: str | None


@dataclass(frozen=True)
class CutlistFile:
    """A cutlist on disk: what it says, and where it says it."""

    cutlist: Cutlist
    written: Written

    @classmethod
    def read(cls, path: Path) -> CutlistFile:
        """Read and check. Raises WrittenError with the line of the first mistake."""
        written = Written.read(path)
        return cls(written.check(Cutlist), written)

    @property
    def mockup_path(self) -> Path:
        """The mockup's file; a cutlist names it from its own folder."""
        return self.written.path.parent / self.cutlist.mockup

    def marked(self, mockup: Mockup) -> Mockup:
        """The mockup with the layers known that the cutlist calls words."""
        with _said_at(self, ("words",)):
            return mockup.with_words(address.find_all(mockup, self.cutlist.words))

    def resolve(self, renderer: Renderer) -> Iterator[ResolvedSlice]:
        """Every slice in the order of the file. Raises WrittenError at the key that is wrong."""
        for name, table in self.cutlist.slice.items():
            yield self._resolve(renderer, name, table)

    def _resolve(self, renderer: Renderer, name: str, table: SliceTable) -> ResolvedSlice:
        mockup, cutlist = renderer.mockup, self.cutlist
        keys = ("slice", name)
        rest = self._switch(mockup, as_drawn(mockup), table, keys, with_defaults=True)
        states = [State("", rest)]
        for state, layers in table.state.items():
            inner = (*keys, "state", state)
            states.append(State(state, self._switch(mockup, rest, layers, inner)))
        ground = cutlist.setting(table, "ground", None)
        return ResolvedSlice(
            name=name,
            box=self._box(renderer, table, keys),
            states=tuple(states),
            density=cutlist.density,
            save=tuple(dict.fromkeys(cutlist.setting(table, "save", SAVE))),
            quality=cutlist.setting(table, "quality", QUALITY),
            ground=parse_hex(ground) if ground else None,
            alt=table.alt,
            link=table.link,
        )

    def _switch(
        self,
        mockup: Mockup,
        start: frozenset[str],
        table: Layers,
        keys: Keys,
        *,
        with_defaults: bool = False,
    ) -> frozenset[str]:
        said: dict[str, list[str] | None] = {}
        for key in ("only", "show", "hide"):
            value = getattr(table, key)
            inherited = with_defaults and value is None and key != "only"
            said[key] = getattr(self.cutlist.defaults, key) if inherited else value
            with _said_at(self, ("defaults", key) if inherited else (*keys, key)):
                address.find_all(mockup, said[key] or ())
        return switched(mockup, start, **said)

    def _box(self, renderer: Renderer, table: SliceTable, keys: Keys) -> Box:
        said = [key for key in ("at", "x", "y") if getattr(table, key) is not None]
        if said == ["at"] or said == ["x", "y"]:
            box = self._written_box(table, keys)
        elif not said and table.only is not None:
            box = self._layers_box(renderer, table.only, keys)
        else:
            raise self.written.mistake(
                keys,
                "This slice has no box." if not said else "This slice's box is said by halves.",
                'Give it x and y, or at = [x, y, width, height], or only = ["a/layer"].',
            )
        box = box.grown(table.grow or 0)
        if not box & renderer.mockup.box:
            size = renderer.mockup.size
            raise self.written.mistake(
                (*keys, said[0] if said else "only"),
                f"The box ({_described(box)}) lies outside the canvas of "
                f"{size.width} x {size.height} px.",
            )
        return box

    def _written_box(self, table: SliceTable, keys: Keys) -> Box:
        guides = self.cutlist.guides
        if table.at is not None:
            with _said_at(self, (*keys, "at")):
                x, y = position(table.at[0], guides.x, "x"), position(table.at[1], guides.y, "y")
                width = position(table.at[2], {}, "widths")
                height = position(table.at[3], {}, "heights")
            key, right, bottom = "at", x + width, y + height
        else:
            assert table.x is not None
            assert table.y is not None
            with _said_at(self, (*keys, "x")):
                x, right = (position(edge, guides.x, "x") for edge in table.x)
            with _said_at(self, (*keys, "y")):
                y, bottom = (position(edge, guides.y, "y") for edge in table.y)
            key = "x" if right <= x else "y"
        if right <= x or bottom <= y:
            raise self.written.mistake(
                (*keys, key),
                f"The box is empty: from ({x:g}, {y:g}) to ({right:g}, {bottom:g}).",
                "The first edge should be left of, or above, the second.",
            )
        return Rect(x, y, right - x, bottom - y).outward()

    def _layers_box(self, renderer: Renderer, only: list[str], keys: Keys) -> Box:
        """The box around what the named layers paint, shadows included, on whole CSS pixels."""
        with _said_at(self, (*keys, "only")):
            found = address.find_all(renderer.mockup, only)
        painted = (renderer.painted_box(layer) for layer in found)
        box = union(box for box in painted if box) & renderer.mockup.box
        if not box:
            raise self.written.mistake(
                (*keys, "only"), "These layers paint nothing, so there is no box around them."
            )
        density = self.cutlist.density
        return box.aligned(int(density)) if density == int(density) else box


def _described(box: Box) -> str:
    return f"{box.x}, {box.y}, {box.width} x {box.height}"


class _said_at:  # noqa: N801 - reads as a statement
    """Gives errors that know no place the place of a key in the cutlist."""

    def __init__(self, file: CutlistFile, keys: Keys) -> None:
        self._file, self._keys = file, keys

    def __enter__(self) -> None:
        return None

    def __exit__(self, kind: object, error: BaseException | None, trace: object) -> None:
        if isinstance(error, AddressError | WrittenError) and error.place is None:
            assert isinstance(error, RifflerError)
            raise self._file.written.mistake(self._keys, error.message, error.advice) from error
