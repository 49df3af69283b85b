"""Pieces -> pieces.css: for each slice its size and place as custom properties, and a class."""

from __future__ import annotations

from collections.abc import Iterable, Iterator

from riffler.geometry import Box
from riffler.jobs.ledger import Asset, Region
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


def stylesheet(pieces: Iterable[Piece], regions: Iterable[Region], links: Links) -> str:
    """The style sheet: pieces in the order of the cutlists, then the boxes for live text."""
    pieces, regions = list(pieces), [region for region in regions if not region.when]
    if not pieces and not regions:
        return _HEADING
    properties = [line for piece in pieces for line in _properties(piece)]
    for region in regions:
        properties.extend(_box(region.slice, region.place, region.css))
        properties.append(f"  --{region.slice}-ground: {region.ground};")
    rules = [rule for piece in pieces for rule in _rules(piece, links)]
    rules.extend(_region(region) for region in regions)
    settled = "\n".join(properties)
    return f"{_HEADING}\n:root {{\n{settled}\n}}\n\n" + "\n".join(rules)


def _properties(piece: Piece) -> Iterator[str]:
    assert piece.picture.place is not None
    yield from _box(piece.name, piece.picture.place, (piece.width, piece.height))


def _box(name: str, place: Box, css: tuple[float, float]) -> Iterator[str]:
    """Place and size in CSS pixels, as custom properties."""
    density = place.width / css[0]
    values = (place.x / density, place.y / density, *css)
    for side, value in zip(("x", "y", "width", "height"), values, strict=True):
        yield f"  --{name}-{side}: {px(value)};"


def _region(region: Region) -> str:
    name, (width, height) = region.slice, region.css
    return (
        f".{CLASS}{name} {{\n"
        f"  width: {px(width)};\n"
        f"  min-height: {px(height)};\n"
        f"  background: {region.ground};\n"
        "}\n"
    )


def _rules(piece: Piece, links: Links) -> Iterator[str]:
    width, height = px(piece.width), px(piece.height)
    if piece.picture.role == "panel":
        yield _panel(piece, links)
        return
    if piece.picture.role == "tile":
        repeat = {"x": "repeat-x", "y": "repeat-y", "both": "repeat"}[piece.repeat]
        url = _url(piece.picture, links)
        yield (
            f".{CLASS}{piece.name} {{\n  background: {url} 0 0 / {width} {height} {repeat};\n}}\n"
        )
        return
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


def _panel(piece: Piece, links: Links) -> str:
    """A picture as a border image: its caps keep their size, the middle stretches or repeats.

    CSS Backgrounds and Borders 3, section 6: slices are counted in pixels of the file.
    """
    assert piece.picture.pixels is not None
    assert piece.picture.place is not None
    caps = (piece.caps.top, piece.caps.right, piece.caps.bottom, piece.caps.left)
    drawn = piece.picture.pixels.width / piece.picture.place.width
    shown = piece.width / piece.picture.place.width
    slices = " ".join(f"{cap * drawn:g}" for cap in caps)
    widths = " ".join(px(cap * shown) for cap in caps)
    middle = "round" if piece.middle == "repeat" else "stretch"
    return (
        f".{CLASS}{piece.name} {{\n"
        "  border-style: solid;\n"
        f"  border-width: {widths};\n"
        f"  border-image: {_url(piece.picture, links)} {slices} fill {middle};\n"
        "}\n"
    )


def _url(asset: Asset, links: Links) -> str:
    return f'url("{links.file(asset.file)}")'


def px(value: float) -> str:
    """A length as CSS writes it, to a thousandth of a pixel."""
    text = f"{value:.3f}".rstrip("0").rstrip(".")
    return "0px" if text in ("0", "-0") else f"{text}px"
