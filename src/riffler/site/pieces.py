"""Slices that were cut, with what their cutlist says of them: what pages put in place."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from markupsafe import Markup, escape

from riffler.cutlist.file import CutlistFile, Entry
from riffler.cutlist.model import NO_CAPS, Caps
from riffler.cutlist.resolve import SAVE
from riffler.errors import WrittenError, nearest
from riffler.jobs.ledger import Asset, Ledger
from riffler.site.links import Links


@dataclass(frozen=True)
class Piece:
    """A slice on the page: its pictures at rest, those of its states, its words.

    `sizes` are all sizes of the picture at rest, `narrow` the pictures for other screens by media
    query, each in all its sizes.
    """

    name: str
    picture: Asset
    sizes: tuple[Asset, ...]
    states: Mapping[str, Asset]
    narrow: Mapping[str, tuple[Asset, ...]]
    alt: str | None
    link: str | None
    repeat: str = "both"
    caps: Caps = NO_CAPS
    middle: str = "stretch"

    @property
    def width(self) -> float:
        """CSS pixels."""
        assert self.picture.css is not None
        return self.picture.css[0]

    @property
    def height(self) -> float:
        """CSS pixels."""
        assert self.picture.css is not None
        return self.picture.css[1]


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
    states: dict[str, tuple[Asset, ...]] = {}
    for state in ("", *entry.table.state):
        own = entry.table.state[state].save if state else None
        found = [asset for asset in cut if asset.state == state and not asset.when]
        if sizes := _sizes(found, own or save):
            states[state] = sizes
    if "" not in states:
        return None
    queries = dict.fromkeys(asset.when for asset in cut if asset.when)
    return Piece(
        name=entry.name,
        picture=states[""][0],
        sizes=states.pop(""),
        states={state: sizes[0] for state, sizes in states.items()},
        narrow={
            query: _sizes([a for a in cut if a.when == query and not a.state], save)
            for query in queries
        },
        alt=entry.alt if entry.alt is not None else file.setting(entry, "alt", None),
        link=entry.link,
        repeat=file.setting(entry, "repeat", "both"),
        caps=file.setting(entry, "caps", NO_CAPS),
        middle=file.setting(entry, "middle", "stretch"),
    )


def _sizes(assets: Sequence[Asset], save: Sequence[str]) -> tuple[Asset, ...]:
    """The assets of the preferred format, the plain size first, then from small to large."""
    formats = [asset.format for asset in assets]
    chosen = next((form for form in (*save, *formats) if form in formats), None)
    kept = [asset for asset in assets if asset.format == chosen]
    return tuple(sorted(kept, key=_by_size))


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


def image(
    piece: Piece,
    links: Links,
    *,
    css_class: str = "",
    alt: str | None = None,
    loading: str = "",
    linked: bool = True,
) -> Markup:
    """The lines that put the piece into a page: an `img`, inside its link if it has one.

    Raises WrittenError when there is no alternative text, neither given nor in the cutlist.
    """
    words = alt if alt is not None else piece.alt
    if words is None:
        raise WrittenError(
            f'"{piece.name}" has no alternative text.',
            f'Say what it shows: inlay("{piece.name}", alt="..."), or alt = "..." in the cutlist; '
            'alt="" when it is mere decoration.',
        )
    attributes = {
        "class": css_class,
        "src": links.file(piece.picture.file),
        "srcset": _srcset(piece.sizes, links),
        "width": str(whole(piece.width)),
        "height": str(whole(piece.height)),
        "alt": words,
        "loading": loading,
    }
    always = ("src", "width", "height", "alt")
    said = " ".join(
        f'{name}="{escape(value)}"' for name, value in attributes.items() if value or name in always
    )
    line = f"<img {said}>"
    if piece.narrow:
        sources = "".join(_source(query, found, links) for query, found in piece.narrow.items())
        line = f"<picture>{sources}{line}</picture>"
    if piece.link is not None and linked:
        line = f'<a href="{escape(links.page(piece.link))}">{line}</a>'
    return Markup(line)  # noqa: S704 - every value in it is escaped


def _source(query: str, sizes: Sequence[Asset], links: Links) -> str:
    srcset = _srcset(sizes, links) or links.file(sizes[0].file)
    first = sizes[0].css
    assert first is not None
    size = f'width="{whole(first[0])}" height="{whole(first[1])}"'
    return f'<source media="{escape(query)}" srcset="{escape(srcset)}" {size}>'


def _srcset(sizes: Sequence[Asset], links: Links) -> str:
    """The candidates of an image; empty for a single one. HTML, 4.8.4: all by `x` or all by `w`."""
    if len(sizes) < 2:
        return ""
    by_width = any(asset.size.endswith("w") for asset in sizes)
    candidates = []
    for asset in sizes:
        assert asset.pixels is not None
        mark = f"{asset.pixels.width}w" if by_width else asset.size
        candidates.append(f"{links.file(asset.file)} {mark}")
    return ", ".join(candidates)


def whole(value: float) -> int:
    """The nearest whole number, for the attributes that take no others."""
    return math.floor(value + 0.5)
