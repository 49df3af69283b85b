"""Pieces -> pieces.css: for each slice its size and place as custom properties, and a class."""

from __future__ import annotations

import re
from collections.abc import Iterable, Iterator, Sequence
from itertools import chain, groupby

from riffler.csslength import px
from riffler.cutlist.model import Caps
from riffler.cutlist.roles import Panel, Tile
from riffler.geometry import Box, CssSize, Point
from riffler.output.asset import CutAsset, Region
from riffler.roles.panel import CAPS, MIDDLE
from riffler.site.links import Links
from riffler.site.pieces import Piece, parts_of

FILE = "pieces.css"

#: Begins the class of every piece, so that none meets a hand-written one.
CLASS = "piece-"

#: What of a piece a custom property says: `--smoker-width`.
PROPERTIES = ("x", "y", "width", "height", "focal", "ground")

#: States that CSS or ARIA know, and the selectors that mean them.
SELECTORS = {
    "hover": (":hover", ":focus-visible"),
    "active": (":active",),
    "focus": (":focus-visible",),
    "current": ("[aria-current]",),
    "disabled": (":disabled", '[aria-disabled="true"]'),
}

#: A custom property where it is named.
_NAMED = re.compile(r"(?<![\w-])--[\w-]+")

_HEADING = """\
/* Written by riffler build from the slices: for each a class that shows it. What your pages and
   styles name of --SLICE-x, -y, -width, -height, -focal and -ground is set as well.
   Write your own rules in another file; this one is made anew. */
"""


def stylesheet(
    pieces: Iterable[Piece], regions: Iterable[Region], links: Links, texts: Iterable[str]
) -> str:
    """The style sheet: pieces in the order of the cutlists, then the boxes for live text.

    Of the custom properties it has those that something in `texts`, pages and styles, names.
    """
    pieces, regions = list(pieces), [region for region in regions if not region.when]
    named = {name for text in texts for name in _NAMED.findall(text)}
    known_properties = chain(*map(_properties, pieces), *map(_region_properties, regions))
    used = [f"  {name}: {value};\n" for name, value in known_properties if name in named]
    parts = [_HEADING]
    if used:
        parts.append(f":root {{\n{''.join(used)}}}\n")
    parts.extend(rule for piece in pieces for rule in rules(piece, links))
    for said_texts, alike in groupby(regions, _region_declarations):
        heads = ",\n".join(f".{CLASS}{region.slice}" for region in alike)
        parts.append(_rule(heads, *said_texts))
    return "\n".join(parts)


def _properties(piece: Piece) -> Iterator[tuple[str, str]]:
    yield from _box(piece.name, piece.place, CssSize(piece.width, piece.height))
    if piece.picture.focal is not None:
        yield f"--{piece.name}-focal", position(piece.picture.focal)


def _region_properties(region: Region) -> Iterator[tuple[str, str]]:
    yield from _box(region.slice, region.place, region.css)
    if region.ground is not None:
        yield f"--{region.slice}-ground", region.ground


def _box(name: str, place: Box, css: CssSize) -> Iterator[tuple[str, str]]:
    """Place and size in CSS pixels, as custom properties."""
    density = place.width / css.width
    values = (place.x / density, place.y / density, css.width, css.height)
    for side, value in zip(PROPERTIES, values, strict=False):
        yield f"--{name}-{side}", px(value)


def region_rule(region: Region, selector: str = "") -> str:
    """The rule for a box of live text: its size, its ground, and the plain box that it fills."""
    return _rule(selector or f".{CLASS}{region.slice}", *_region_declarations(region))


def _region_declarations(region: Region) -> list[tuple[str, str]]:
    declared = {"width": px(region.css.width), "min-height": px(region.css.height)}
    if region.ground is not None:
        declared["background"] = region.ground
    return list((declared | dict(region.look or {})).items())


def rules(piece: Piece, links: Links, selector: str = "") -> Iterator[str]:
    """The rules that show a piece: as a background, a tile, the border of a panel, a full frame."""
    head = selector or f".{CLASS}{piece.name}"
    width, height = px(piece.width), px(piece.height)
    image = _image(piece.picture, piece.sizes, links)
    match piece.role:
        case Panel() as panel if piece.parts:
            yield _joined(piece, panel, links, head)
        case Panel() as panel:
            yield _bordered(piece, panel, links, head)
        case Tile() as tile:
            repeat = {"x": "repeat-x", "y": "repeat-y", "both": "repeat"}[tile.repeat]
            yield _rule(head, ("background", f"{image} 0 0 / {width} {height} {repeat}"))
        case _ if piece.picture.focal is not None:
            place = position(piece.picture.focal)
            shown = f"{image} {place} / cover no-repeat"
            yield _rule(head, ("height", height), ("background", shown))
            yield _rule(
                f"img{head}",
                ("width", "100%"),
                ("background", "none"),
                ("object-fit", "cover"),
                ("object-position", place),
            )
        case _:
            shown = f"{image} 0 0 / {width} {height} no-repeat"
            yield _rule(head, ("width", width), ("height", height), ("background", shown))
    is_bordered = isinstance(piece.role, Panel) and not piece.parts
    shows = "border-image-source" if is_bordered else "background-image"
    for state, files in piece.states.items():
        selectors = SELECTORS.get(state, (f'[data-piece-state="{state}"]',))
        heads = ",\n".join(f"{head}{pseudo}" for pseudo in selectors)
        layers = parts_of(files).values() or (files,)  # as many as at rest, in the same order
        shown = ",\n    ".join(_image(sizes[0], sizes, links) for sizes in layers)
        yield _rule(heads, (shows, shown))


def position(focal: Point) -> str:
    """A point of a picture, in parts of it, as CSS says where the picture stands in its box.

    Whatever is cut off, a point at 62 % of the picture then stands at 62 % of the box, so that it
    stays in sight; CSS Backgrounds and Borders 3, section 3.6.
    """
    return " ".join(
        f"{100 * part:.1f}".rstrip("0").rstrip(".") + "%" for part in (focal.x, focal.y)
    )


def _bordered(piece: Piece, panel: Panel, links: Links, head: str) -> str:
    """A picture as a border image: its caps keep their size, the middle stretches or repeats.

    CSS Backgrounds and Borders 3, section 6: slices are counted in pixels of the file.
    """
    drawn = piece.picture.pixels.width / piece.place.width
    slices = " ".join(f"{cap * drawn:g}" for cap in _caps(panel.caps))
    widths = " ".join(px(cap / piece.density) for cap in _caps(panel.caps))
    middle = "round" if panel.middle == "repeat" else "stretch"
    return _rule(
        head,
        ("border-style", "solid"),
        ("border-width", widths),
        ("border-image", f"{_url(piece.picture, links)} {slices} fill {middle}"),
    )


def _joined(piece: Piece, panel: Panel, links: Links, head: str) -> str:
    """The parts of a panel as backgrounds: caps in the border's area, the middle inside it.

    A box for both origin and clip keeps the middle from showing through rounded caps; CSS
    Backgrounds and Borders 3, section 3.10.
    """
    widths = " ".join(px(cap / piece.density) for cap in _caps(panel.caps))
    layers = []
    for name, files in piece.parts.items():
        width, height = px(files[0].css.width), px(files[0].css.height)
        area, repeat = "border-box", "no-repeat"
        if name == MIDDLE:
            area = "padding-box"
            if panel.middle == "repeat":
                repeat = "repeat-y" if panel.is_upright else "repeat-x"
            elif panel.is_upright:
                height = "100%"
            else:
                width = "100%"
        image = _image(files[0], files, links)
        layers.append(f"{image} {_CORNERS[name]} / {width} {height} {repeat} {area}")
    side, length = ("width", piece.width) if panel.is_upright else ("height", piece.height)
    return _rule(
        head,
        ("box-sizing", "border-box"),
        (side, px(length)),
        ("border", "solid transparent"),
        ("border-width", widths),
        ("background", ",\n    ".join(layers)),
    )


#: Where the parts of a panel stand.
_CORNERS = {
    CAPS["top"]: "0 0",
    CAPS["bottom"]: "0 100%",
    CAPS["left"]: "0 0",
    CAPS["right"]: "100% 0",
    MIDDLE: "0 0",
}


def _caps(caps: Caps) -> tuple[int, int, int, int]:
    """The caps as CSS lists sides."""
    return caps.top, caps.right, caps.bottom, caps.left


def _rule(head: str, *texts: tuple[str, str]) -> str:
    lines = "".join(f"  {name}: {value};\n" for name, value in texts)
    return f"{head} {{\n{lines}}}\n"


def _image(plain: CutAsset, files: Sequence[CutAsset], links: Links) -> str:
    """A picture; in several densities, those that the screen chooses from (CSS Images 4, 2.1).

    The finest stands first: what takes the first one has it as sharp as can be.
    """
    by_density = [asset for asset in files if (asset.size or "").endswith("x")]
    if len(by_density) < 2:
        return _url(plain, links)
    sets = ", ".join(f"{_url(asset, links)} {asset.size}" for asset in reversed(by_density))
    return f"image-set({sets})"


def _url(asset: CutAsset, links: Links) -> str:
    return f'url("{links.file(asset.file)}")'
