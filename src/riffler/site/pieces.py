"""Slices that were cut, with what their cutlist says of them: what pages put in place."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from riffler.cutlist.file import CutlistFile, Entry
from riffler.cutlist.model import NO_CAPS, Caps
from riffler.cutlist.resolved import SAVE
from riffler.errors import WrittenError, nearest
from riffler.geometry import Box, union
from riffler.jobs.ledger import Asset, Ledger

#: Formats that browsers of some years ago do not read, the smaller first.
MODERN = ("avif", "webp")


@dataclass(frozen=True)
class Piece:
    """A slice on the page: its pictures at rest, those of its states, its words.

    `picture` is in the format that every browser reads, `sizes` are all its sizes; `others` are
    formats that not all read, the first choice first, each in all sizes. `narrow` are the pictures
    for other screens by media query, each in all its sizes. `parts` are those of a panel that was
    cut apart, by name. `place` is what it covers of the mockup.
    """

    name: str
    picture: Asset
    sizes: tuple[Asset, ...]
    others: tuple[tuple[Asset, ...], ...]
    states: Mapping[str, tuple[Asset, ...]]
    narrow: Mapping[str, tuple[Asset, ...]]
    parts: Mapping[str, tuple[Asset, ...]]
    place: Box
    alt: str | None
    link: str | None
    repeat: str = "both"
    caps: Caps = NO_CAPS
    middle: str = "stretch"

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
        assert self.picture.density is not None
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
    states: dict[str, list[tuple[Asset, ...]]] = {}
    for state in ("", *entry.table.state):
        own = entry.table.state[state].save if state else None
        found = [asset for asset in cut if asset.state == state and not asset.when]
        if formats := _formats(found, own or save):
            states[state] = formats
    if "" not in states:
        return None
    queries = dict.fromkeys(asset.when for asset in cut if asset.when)
    whole = [asset for asset in cut if not asset.when and not asset.state]
    *others, sizes = states.pop("")
    return Piece(
        name=entry.name,
        picture=_plain(sizes),
        sizes=sizes,
        others=tuple(others),
        states={state: formats[-1] for state, formats in states.items()},
        narrow={
            query: _formats([a for a in cut if a.when == query and not a.state], save)[-1]
            for query in queries
        },
        parts=parts_of(sizes),
        place=union(asset.place for asset in whole if asset.place),
        alt=entry.alt if entry.alt is not None else file.setting(entry, "alt", None),
        link=entry.link,
        repeat=file.setting(entry, "repeat", "both"),
        caps=file.setting(entry, "caps", NO_CAPS),
        middle=file.setting(entry, "middle", "stretch"),
    )


def _formats(assets: Sequence[Asset], save: Sequence[str]) -> list[tuple[Asset, ...]]:
    """The assets by format in the order of preference, the one that all browsers read last.

    In each the plain size comes first, then from small to large.
    """
    found = list(dict.fromkeys(asset.format for asset in assets))
    wanted = [form for form in (*save, *MODERN, *found) if form in found]
    order = list(dict.fromkeys(wanted))
    compatible = [form for form in order if form not in MODERN]
    last = compatible[:1] or order[-1:]
    kept = [*(form for form in order if form in MODERN and form not in last), *last]
    return [tuple(sorted((a for a in assets if a.format == form), key=_by_size)) for form in kept]


def parts_of(files: Sequence[Asset]) -> dict[str, tuple[Asset, ...]]:
    """Each part of a panel that was cut apart, in all its sizes."""
    names = dict.fromkeys(asset.part for asset in files if asset.part)
    return {name: tuple(asset for asset in files if asset.part == name) for name in names}


def _plain(files: Sequence[Asset]) -> Asset:
    """The file for who can't choose: the plain size, or the first that is wide enough."""
    if files[0].size in ("", "1x"):
        return files[0]
    enough = (one for one in files if one.pixels and one.css and one.pixels.width >= one.css[0])
    return next(enough, files[-1])


def _by_size(asset: Asset) -> tuple[bool, int]:
    assert asset.pixels is not None
    return asset.size not in ("", "1x"), asset.pixels.width


def find(pieces: Mapping[str, Piece], name: str, written: Sequence[str]) -> Piece:
    """A piece by name; `written` are the slices of the cutlists. Raises WrittenError."""
    if name in pieces:
        return pieces[name]
    if name in written:
        raise WrittenError(
            f'The slice "{name}" has not been cut yet, or is no picture.', "Run riffler cut first."
        )
    raise WrittenError(f'There is no slice "{name}".', nearest(name, written, "Slices are"))
