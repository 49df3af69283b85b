"""Slices that were cut, with what their cutlist says of them: what pages put in place."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from markupsafe import Markup, escape

from riffler.cutlist.resolve import SAVE, CutlistFile
from riffler.errors import WrittenError, nearest
from riffler.jobs.ledger import Asset, Ledger
from riffler.site.links import Links


@dataclass(frozen=True)
class Piece:
    """A slice on the page: its picture at rest, those of its states, its words."""

    name: str
    picture: Asset
    states: Mapping[str, Asset]
    alt: str | None
    link: str | None

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
        for name, table in file.cutlist.slice.items():
            save = file.cutlist.setting(table, "save", SAVE)
            pictures = sorted(
                (asset for asset in ledger.of_slice(name) if asset.format in save),
                key=lambda asset: save.index(asset.format),
            )
            states: dict[str, Asset] = {}
            for asset in pictures:
                states.setdefault(asset.state, asset)
            if "" in states:
                rest = states.pop("")
                known = {state: states[state] for state in table.state if state in states}
                pieces[name] = Piece(name, rest, known, table.alt, table.link)
    return pieces


def find(pieces: Mapping[str, Piece], name: str, written: Sequence[str]) -> Piece:
    """A piece by name; `written` are the slices of the cutlists. Raises WrittenError."""
    if name in pieces:
        return pieces[name]
    if name in written:
        raise WrittenError(f'The slice "{name}" has not been cut yet.', "Run riffler cut first.")
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
    if piece.link is not None and linked:
        line = f'<a href="{escape(links.page(piece.link))}">{line}</a>'
    return Markup(line)  # noqa: S704 - every value in it is escaped


def whole(value: float) -> int:
    """The nearest whole number, for the attributes that take no others."""
    return math.floor(value + 0.5)
