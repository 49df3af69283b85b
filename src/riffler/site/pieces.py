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

#: Formats that browsers of some years ago do not read, the smaller first.
MODERN = ("avif", "webp")


@dataclass(frozen=True)
class Piece:
    """A slice on the page: its pictures at rest, those of its states, its words.

    `picture` is in the format that every browser reads, `sizes` are all its sizes; `others` are
    formats that not all read, the first choice first, each in all sizes. `narrow` are the pictures
    for other screens by media query, each in all its sizes.
    """

    name: str
    picture: Asset
    sizes: tuple[Asset, ...]
    others: tuple[tuple[Asset, ...], ...]
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
    states: dict[str, list[tuple[Asset, ...]]] = {}
    for state in ("", *entry.table.state):
        own = entry.table.state[state].save if state else None
        found = [asset for asset in cut if asset.state == state and not asset.when]
        if formats := _formats(found, own or save):
            states[state] = formats
    if "" not in states:
        return None
    queries = dict.fromkeys(asset.when for asset in cut if asset.when)
    *others, sizes = states.pop("")
    return Piece(
        name=entry.name,
        picture=sizes[0],
        sizes=sizes,
        others=tuple(others),
        states={state: formats[-1][0] for state, formats in states.items()},
        narrow={
            query: _formats([a for a in cut if a.when == query and not a.state], save)[-1]
            for query in queries
        },
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
    if piece.narrow or piece.others:
        sources = "".join(_source(query, found, links) for query, found in piece.narrow.items())
        sources += "".join(_typed(found, links) for found in piece.others)
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


def _typed(sizes: Sequence[Asset], links: Links) -> str:
    srcset = _srcset(sizes, links) or links.file(sizes[0].file)
    return f'<source type="image/{sizes[0].format}" srcset="{escape(srcset)}">'


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
