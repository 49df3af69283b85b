"""A cutlist on disk -> what it and the files it includes say, slice by slice."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from functools import cached_property
from pathlib import Path
from typing import Literal, TypeAlias, TypeVar

from riffler.cutlist import sound_names
from riffler.cutlist.edges import Ruler
from riffler.cutlist.model import Cutlist, CutlistPart, Edge, SliceTable
from riffler.errors import RifflerError, WrittenError, nearest
from riffler.files import as_typed, beside, is_inside
from riffler.mockup import address
from riffler.mockup.model import Mockup
from riffler.project.saving import Settings
from riffler.project.written import Written, said_at

Value = TypeVar("Value")
Axis = Literal["x", "y"]
AXES: tuple[Axis, ...] = ("x", "y")


#: Slices of one cutlist and their states, repeated ones counted: more is not a plan.
MOST = 2_000

_NONE: Mapping[Path, Written] = {}


@dataclass(frozen=True)
class WrittenPart:
    """One file: what it says, and where it says it."""

    said: CutlistPart
    written: Written


@dataclass(frozen=True)
class Entry:
    """One slice as it is written: `name` is its own, `keys` the table it comes from.

    A repeated slice gives an entry for each of its boxes; `index` counts them from 0.
    """

    name: str
    table: SliceTable
    part: WrittenPart
    keys: tuple[str, ...]
    index: int = 0

    def mistake(self, key: str, message: str, advice: str = "") -> WrittenError:
        """An error at one of the slice's keys, ready to raise."""
        return self.part.written.mistake((*self.keys, key) if key else self.keys, message, advice)

    @property
    def alt(self) -> str | None:
        """The alternative text of this one of a row."""
        return self.table.alts[self.index] if self.table.alts else self.table.alt

    @property
    def text(self) -> str | None:
        """What the words in this one of a row say."""
        return self.table.texts[self.index] if self.table.texts else self.table.text

    @property
    def link(self) -> str | None:
        """The link target of this one of a row."""
        return self.table.links[self.index] if self.table.links else self.table.link


@dataclass(frozen=True)
class CutlistFile:
    """A cutlist with what it includes. `base` are the defaults of riffler.toml.

    `borrowed` are slices of included files that another cutlist cuts.
    """

    cutlist: Cutlist
    written: Written
    included: tuple[WrittenPart, ...] = ()
    base: Settings | None = None
    borrowed: frozenset[str] = field(default=frozenset())

    @classmethod
    def read(
        cls, path: Path, base: Settings | None = None, edited: Mapping[Path, Written] = _NONE
    ) -> CutlistFile:
        """Read and check, with all that is included; `edited` go for the files on disk.

        Raises WrittenError with the line of the first mistake.
        """
        written = edited.get(path) or Written.read(path)
        cutlist = written.check(Cutlist)
        included = tuple(
            _included(written, index, name, edited) for index, name in enumerate(cutlist.include)
        )
        file = cls(cutlist, written, included, base)
        file._check_groups()
        return file

    @cached_property
    def own(self) -> WrittenPart:
        """The cutlist itself as one of its parts."""
        return WrittenPart(self.cutlist, self.written)

    @property
    def parts(self) -> tuple[WrittenPart, ...]:
        """The cutlist and the files it includes."""
        return (self.own, *self.included)

    @property
    def path(self) -> Path:
        """The cutlist's own file."""
        return self.written.path

    @property
    def label(self) -> str | None:
        """What stands in the file names of a narrow mockup; None for the main one."""
        return self.cutlist.label if self.cutlist.when else None

    @property
    def mockup_path(self) -> Path:
        """The mockup's file; a cutlist names it from its own folder."""
        return self.path.parent / self.cutlist.mockup

    @cached_property
    def entries(self) -> tuple[Entry, ...]:
        """Every slice, the cutlist's own first. Raises WrittenError for a name used twice."""
        found_entries: dict[str, Entry] = {}
        pictures = 0
        for part in self.parts:
            for entry in _entries(part):
                if entry.name in found_entries:
                    other = as_typed(found_entries[entry.name].part.written.path)
                    raise entry.mistake("", f'There is a slice "{entry.name}" in {other} already.')
                found_entries[entry.name] = entry
                pictures += 1 + len(entry.table.state)
                if pictures > MOST:
                    raise entry.mistake("", f"There are more than {MOST:,} slices and states.")
        return tuple(found_entries.values())

    @cached_property
    def by_name(self) -> dict[str, Entry]:
        """The slices under their names."""
        return {entry.name: entry for entry in self.entries}

    def entry(self, name: str) -> Entry | None:
        """A slice by its name; None when there is none of it."""
        return self.by_name.get(name)

    def written_as(self, name: str) -> Entry | None:
        """The slice whose table is so called: of a row the first; None when there is none."""
        return next((entry for entry in self.entries if entry.keys[1] == name), None)

    def setting(self, entry: Entry, key: str, built_in: Value) -> Value:
        """What holds for one slice: what it says itself, its group, the defaults, or built in."""
        for source, _, _ in self._sources(entry):
            value: Value | None = getattr(source, key, None)
            if value is not None:
                return value
        return built_in

    def mistake(self, entry: Entry, key: str, message: str, advice: str = "") -> WrittenError:
        """An error in a setting of a slice, where the setting is written, ready to raise."""
        for source, written, keys in self._sources(entry):
            if getattr(source, key, None) is not None:
                return written.mistake((*keys, key), message, advice)
        return entry.mistake("", message, advice)

    def said_at(self, entry: Entry, key: str) -> said_at:
        """For errors in a setting of a slice: the place of the table that says it."""
        for source, written, keys in self._sources(entry):
            if getattr(source, key, None) is not None:
                return said_at(written, (*keys, key))
        return said_at(entry.part.written, entry.keys)

    def _sources(self, entry: Entry) -> Iterator[tuple[object, Written, tuple[str, ...]]]:
        """The tables that may say a setting of a slice, strongest first, and where they stand."""
        yield entry.table, entry.part.written, entry.keys
        if (name := entry.table.in_) is not None:
            for part in (entry.part, *self.parts):
                if name in part.said.group:
                    yield part.said.group[name], part.written, ("group", name)
                    break
        yield entry.part.said.defaults, entry.part.written, ("defaults",)
        yield self.cutlist.defaults, self.written, ("defaults",)
        yield self.base, entry.part.written, entry.keys

    def _check_groups(self) -> None:
        """Raises WrittenError for a slice in a group that isn't there."""
        known = list(dict.fromkeys(name for part in self.parts for name in part.said.group))
        for entry in self.entries:
            name = entry.table.in_
            if name is not None and name not in known:
                advice = nearest(name, known, "Groups are") or f"Groups stand as [group.{name}]."
                raise entry.mistake("in", f'There is no group "{name}".', advice)

    def ruler(self, axis: Axis) -> Ruler:
        """Guides and grids of an axis; the cutlist's own go before included ones."""
        guides: dict[str, Edge] = {}
        places: dict[str, Written] = {}
        for part in reversed(self.parts):
            own = getattr(part.said.guides, axis)
            guides.update(own)
            places.update(dict.fromkeys(own, part.written))
        grids = {
            name: grid
            for part in reversed(self.parts)
            for name, grid in part.said.grid.items()
            if grid.axis == axis
        }
        return Ruler(axis, guides, grids, places)

    def guides(self) -> Iterator[tuple[Axis, str, float]]:
        """Every guide: its axis, its name, and where it lies."""
        for axis in AXES:
            ruler = self.ruler(axis)
            for name in ruler.guides:
                yield axis, name, ruler.position(name)

    def words(self, mockup: Mockup, *, may_lack: bool = False) -> frozenset[str]:
        """The layers of the mockup that the cutlist calls words.

        Raises WrittenError for what leads to none, unless the mockup `may_lack` some.
        """
        named: list[_Named] = [(part.written, ("words",), part.said.words) for part in self.parts]
        named += [(self.written, ("says", layer), [layer]) for layer in self.cutlist.says]
        return _named(mockup, named, may_lack=may_lack)

    def left(self, mockup: Mockup, *, may_lack: bool = False) -> frozenset[str]:
        """The layers that the page leaves out. Raises WrittenError as `words` does."""
        named: list[_Named] = [(self.written, ("page", "leave"), self.cutlist.page.leave)]
        return _named(mockup, named, may_lack=may_lack)

    def refuse_faults(self) -> None:
        """Raises WrittenError for a name that is no sound file name."""
        for entry in self.entries:
            for name, keys in (
                (entry.name, entry.keys),
                *((state, (*entry.keys, "state", state)) for state in entry.table.state),
            ):
                if wrong := sound_names.fault(name):
                    raise entry.part.written.mistake(
                        keys, f'"{name}" {wrong}.', f'For example "{sound_names.sound(name)}".'
                    )


def _included(
    written: Written, index: int, name: str, edited: Mapping[Path, Written]
) -> WrittenPart:
    path = written.path.parent / name
    if (new := edited.get(path)) is not None:
        return WrittenPart(new.check(CutlistPart), new)
    if not path.is_file():
        advice = beside(path) or "A cutlist names it from its own folder."
        raise written.mistake(("include", index), f'There is no file "{name}".', advice)
    if not is_inside(path, written.path.parent):
        raise written.mistake(("include", index), f'"{name}" leads out of the folder by a link.')
    if name in written.data["include"][:index]:
        raise written.mistake(("include", index), f'"{name}" is included twice.')
    part = Written.read(path)
    return WrittenPart(part.check(CutlistPart), part)


def _entries(part: WrittenPart) -> Iterator[Entry]:
    for name, table in part.said.slice.items():
        keys = ("slice", name)
        times = None if table.times is None or table.times.same else table.times
        count = times.total if times else 1
        for key in ("alts", "links", "texts"):
            value = getattr(table, key)
            if value is not None and (times is None or len(value) != count):
                item = "there is one picture" if table.times else "there is no times"
                what = f"there are {count} boxes" if times else item
                raise part.written.mistake(
                    (*keys, key),
                    f"{key} has {len(value)} entries, and {what}.",
                    "It has one entry for each box of times.",
                )
        if times is None:
            yield Entry(name, table, part, keys)
            continue
        for index in range(count):
            yield Entry(f"{name}-{index + 1}", table, part, keys, index)


_Named: TypeAlias = tuple[Written, Sequence[str], Sequence[str]]
"""A file, the keys under which it says something, and the addresses that it says there."""


def _named(
    mockup: Mockup,
    named: Iterable[_Named],
    *,
    may_lack: bool,
) -> frozenset[str]:
    """The layers that addresses mean, each said in a file under a key."""
    result: set[str] = set()
    for written, keys, addresses in named:
        for one in addresses:
            try:
                with said_at(written, keys):
                    result |= address.find_all(mockup, [one])
            except RifflerError:
                if not may_lack:
                    raise
    return frozenset(result)
