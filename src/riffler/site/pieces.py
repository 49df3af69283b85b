"""Slices that were cut, with what their cutlist says of them: what pages put in place."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass

from riffler.cutlist.file import CutlistFile, Entry
from riffler.cutlist.resolved import SAVE
from riffler.cutlist.roles import Role, role_of
from riffler.errors import WrittenError, nearest
from riffler.formats import MODERN, VECTOR, superseded
from riffler.geometry import Box, union
from riffler.output.asset import CutAsset
from riffler.output.ledger import Ledger

#: Sizes that one screen pixel for each CSS pixel asks for.
PLAIN = (None, "1x")


@dataclass(frozen=True)
class Piece:
    """A slice on the page: its pictures at rest, those of its states, its words.

    `picture` is in the format that every browser reads, `sizes` are all its sizes; `others` are
    formats that not all read, the first choice first, each in all sizes. `narrow` are the pictures
    for other screens by media query, in every format as here. `parts` are those of a panel that was
    cut apart, by name. `place` is what it covers of the mockup.
    """

    name: str
    picture: CutAsset
    sizes: tuple[CutAsset, ...]
    others: tuple[tuple[CutAsset, ...], ...]
    states: Mapping[str, tuple[CutAsset, ...]]
    narrow: Mapping[str, tuple[tuple[CutAsset, ...], ...]]
    parts: Mapping[str, tuple[CutAsset, ...]]
    place: Box
    alt: str | None
    link: str | None
    role: Role

    @property
    def width(self) -> float:
        """CSS pixels."""
        return self.place.width / self.density

    @property
    def height(self) -> float:
        """CSS pixels."""
        return self.place.height / self.density

    @property
    def density(self) -> float:
        """Mockup pixels per CSS pixel."""
        return self.picture.density

    @property
    def fills_its_frame(self) -> bool:
        """Whether it covers a box of any width, with one point kept in sight."""
        return self.picture.focal is not None


def collect(files: Sequence[CutlistFile], ledger: Ledger) -> dict[str, Piece]:
    """Every slice that has been cut, in the order of the cutlists."""
    pieces = {}
    for file in files:
        if not file.cutlist.when:
            for entry in file.entries:
                if entry.name not in file.borrowed and (piece := _piece(file, entry, ledger)):
                    pieces[entry.name] = piece
    return pieces


def _piece(file: CutlistFile, entry: Entry, ledger: Ledger) -> Piece | None:
    save = file.setting(entry, "save", list(SAVE))
    cut = ledger.of_slice(entry.name)
    main = [asset for asset in cut if asset.when is None]
    other_assets = [asset for asset in main if asset.state is None]
    if not other_assets:
        return None
    *others, sizes = _formats(other_assets, save)
    plain = _plain(sizes)
    return Piece(
        name=entry.name,
        picture=plain,
        sizes=sizes,
        others=tuple(others),
        states=dict(_states(entry, main, save)),
        narrow=dict(_narrow(cut, save)),
        parts=parts_of(sizes),
        place=union(asset.place for asset in sizes if asset.size == plain.size),
        alt=entry.alt if entry.alt is not None else file.setting(entry, "alt", None),
        link=entry.link,
        role=role_of(file, entry),
    )


def _states(
    entry: Entry, main: Sequence[CutAsset], save: Sequence[str]
) -> Iterator[tuple[str, tuple[CutAsset, ...]]]:
    """Each state that was cut, in the format that every browser reads."""
    for state, table in entry.table.state.items():
        if formats := _formats([a for a in main if a.state == state], table.save or save):
            yield state, formats[-1]


def _narrow(
    cut: Sequence[CutAsset], save: Sequence[str]
) -> Iterator[tuple[str, tuple[tuple[CutAsset, ...], ...]]]:
    """The pictures for each other screen, by its media query and format."""
    for query in dict.fromkeys(asset.when for asset in cut):
        if query is not None:
            other_assets = [asset for asset in cut if asset.when == query and asset.state is None]
            yield query, tuple(_formats(other_assets, save))


def _formats(assets: Sequence[CutAsset], save: Sequence[str]) -> list[tuple[CutAsset, ...]]:
    """The assets by format in the order of preference, the one that all browsers read last.

    In each the plain size comes first, then from small to large. The last has every size, if need
    be in several formats; of the others those are left out that lack one, or are no smaller than
    one that more browsers read.
    """
    if vectors := [asset for asset in assets if asset.format == VECTOR]:
        return [tuple(vectors)]  # sharp at every size, and all browsers read it
    order = _order(assets, save)
    last = _read_by_all(assets, order)
    modern = {form: [a for a in assets if a.format == form] for form in order if form in MODERN}
    whole = {form: files for form, files in modern.items() if len(files) == len(last)}
    sizes = {form: _bytes(files) for form, files in whole.items()}
    widest = "".join(dict.fromkeys(asset.format for asset in last))
    left_out = {*superseded({widest: _bytes(last), **sizes}), widest}
    kept = [files for form, files in whole.items() if form not in left_out]
    return [tuple(sorted(files, key=_by_size)) for files in (*kept, last)]


def _order(assets: Sequence[CutAsset], save: Sequence[str]) -> list[str]:
    """The formats that there are, in the order of preference."""
    result = dict.fromkeys(asset.format for asset in assets)
    return list(dict.fromkeys(form for form in (*save, *MODERN, *result) if form in result))


def _read_by_all(assets: Sequence[CutAsset], order: Sequence[str]) -> list[CutAsset]:
    """Every size and part in the first format that all browsers read, or else the widest read."""
    ranks = sorted(order, key=lambda form: MODERN[::-1].index(form) + 1 if form in MODERN else 0)
    found_assets: dict[tuple[str | None, str | None], CutAsset] = {}
    for asset in sorted(assets, key=lambda asset: ranks.index(asset.format)):
        found_assets.setdefault((asset.size, asset.part), asset)
    return list(found_assets.values())


def _bytes(files: Sequence[CutAsset]) -> int:
    return sum(asset.bytes for asset in files)


def parts_of(files: Sequence[CutAsset]) -> dict[str, tuple[CutAsset, ...]]:
    """Each part of a panel that was cut apart, in all its sizes."""
    names = dict.fromkeys(asset.part for asset in files if asset.part)
    return {name: tuple(asset for asset in files if asset.part == name) for name in names}


def _plain(files: Sequence[CutAsset]) -> CutAsset:
    """The file for who can't choose: the plain size, or the first that is wide enough."""
    if files[0].size in PLAIN:
        return files[0]
    enough = (asset for asset in files if asset.pixels.width >= asset.css.width)
    return next(enough, files[-1])


def _by_size(asset: CutAsset) -> tuple[bool, int]:
    return asset.size not in PLAIN, asset.pixels.width


def find(pieces: Mapping[str, Piece], name: str, written: Sequence[str]) -> Piece:
    """A piece by name; `written` are the slices of the cutlists. Raises WrittenError."""
    if name in pieces:
        return pieces[name]
    if name in written:
        raise WrittenError(
            f'The slice "{name}" has not been cut yet, or is no picture.', "Run riffler cut first."
        )
    raise WrittenError(f'There is no slice "{name}".', nearest(name, written, "Slices are"))
