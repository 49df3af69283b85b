"""Pieces -> pieces.css: for each slice its size and place as custom properties, and a class."""

from __future__ import annotations

from collections.abc import Iterable, Iterator

from riffler.jobs.ledger import Asset
from riffler.site.links import Links
from riffler.site.pieces import Piece

FILE = "pieces.css"

#: Begins the class of every piece, so that none meets a hand-written one.
CLASS = "piece-"

#: States that CSS or ARIA know, and the selectors that mean them.
SELECTORS = {
    "hover": (":hover", ":focus-visible"),
    "active": (":active",),
    "focus": (":focus-visible",),
    "current": ("[aria-current]",),
    "disabled": (":disabled", '[aria-disabled="true"]'),
}

_HEADING = """\
/* Written by riffler build from the slices: size and place of each, and a class that shows it.
   Write your own rules in another file; this one is made anew. */
"""


def stylesheet(pieces: Iterable[Piece], links: Links) -> str:
    """The style sheet, in the order of the cutlists."""
    pieces = list(pieces)
    if not pieces:
        return _HEADING
    properties = "\n".join(line for piece in pieces for line in _properties(piece))
    rules = "\n".join(rule for piece in pieces for rule in _rules(piece, links))
    return f"{_HEADING}\n:root {{\n{properties}\n}}\n\n{rules}"


def _properties(piece: Piece) -> Iterator[str]:
    place, density = piece.picture.place, piece.picture.density
    assert place is not None
    assert density is not None
    for side, value in (
        ("x", place.x / density),
        ("y", place.y / density),
        ("width", piece.width),
        ("height", piece.height),
    ):
        yield f"  --{piece.name}-{side}: {px(value)};"


def _rules(piece: Piece, links: Links) -> Iterator[str]:
    width, height = px(piece.width), px(piece.height)
    yield (
        f".{CLASS}{piece.name} {{\n"
        f"  width: {width};\n"
        f"  height: {height};\n"
        f"  background: {_url(piece.picture, links)} 0 0 / {width} {height} no-repeat;\n"
        "}\n"
    )
    for state, asset in piece.states.items():
        selectors = SELECTORS.get(state, (f'[data-state="{state}"]',))
        heads = ",\n".join(f".{CLASS}{piece.name}{selector}" for selector in selectors)
        yield f"{heads} {{\n  background-image: {_url(asset, links)};\n}}\n"


def _url(asset: Asset, links: Links) -> str:
    return f'url("{links.file(asset.file)}")'


def px(value: float) -> str:
    """A length as CSS writes it, to a thousandth of a pixel."""
    text = f"{value:.3f}".rstrip("0").rstrip(".")
    return "0px" if text in ("0", "-0") else f"{text}px"
