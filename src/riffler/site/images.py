"""A piece -> the lines of HTML that put it into a page: `img`, and `picture` around it.

A focal point of 62 % of a picture stands at 62 % of its box, whatever is cut off, so that one
`object-position` holds for all widths.
"""

from __future__ import annotations

import math
from collections.abc import Sequence

from markupsafe import Markup, escape

from riffler.errors import WrittenError
from riffler.output.asset import CutAsset
from riffler.plain import spelled
from riffler.site.links import Links
from riffler.site.pieces import Piece
from riffler.site.stylesheet import CLASS


def image(
    piece: Piece,
    links: Links,
    *,
    css_class: str = "",
    alt: str | None = None,
    loading: str = "",
    sizes: str = "",
    linked: bool = True,
    may_be_unsaid: bool = False,
    narrow_to: int | None = None,
) -> Markup:
    """The lines that put the piece into a page: an `img`, inside its link if it has one.

    `sizes` says how wide it will be on the page, where there are files of several widths (HTML,
    4.8.4.2.2); its width in the mockup unless said. A hero gets the class that makes it fill its
    frame. Raises WrittenError when there is no alternative text, neither given nor in the cutlist,
    unless it `may_be_unsaid`, which the image is marked with; and for a panel that was cut apart.
    Pictures for narrow windows are not shown in those wider than `narrow_to` CSS pixels.
    """
    words, unsaid = _alternative(piece, alt, may_be_unsaid=may_be_unsaid)
    classes = f"{CLASS}{piece.name} {css_class}".strip() if piece.fills_its_frame else css_class
    srcset, shown = _srcset(piece.sizes, links), sizes or _usual_sizes(piece)
    attributes = {
        "class": classes,
        "src": links.file(piece.picture.file),
        "srcset": srcset,
        "sizes": shown if _is_by_width(piece.sizes) else "",
        "width": str(whole(piece.width)),
        "height": str(whole(piece.height)),
        "alt": words,
        "loading": loading,
        "data-unsaid": unsaid,
    }
    always = ("src", "width", "height", "alt")
    text = " ".join(
        f'{name}="{escape(value)}"' for name, value in attributes.items() if value or name in always
    )
    line = f"<img {text}>"
    if piece.narrow or piece.others:
        sources = "".join(
            _source(
                assets, links, sizes, _up_to(query, narrow_to), is_typed=assets is not formats[-1]
            )
            for query, formats in piece.narrow.items()
            for assets in formats
        )
        sources += "".join(_source(assets, links, shown) for assets in piece.others)
        line = f"<picture>{sources}{line}</picture>"
    if piece.link is not None and linked:
        line = f'<a href="{escape(links.page(piece.link))}">{line}</a>'
    return Markup(spelled(line, "&#x{:x};"))  # noqa: S704 - every value in it is escaped


def _up_to(query: str, width: int | None) -> str:
    """A media query that no longer holds in wider windows. Media Queries 4, 2.1."""
    if width is None:
        return query
    parts = [part.strip() for part in query.split(",")]
    alone = [f"({part})" if " or " in part else part for part in parts]
    return ", ".join(f"{part} and (max-width: {width}px)" for part in alone)


def _alternative(piece: Piece, alt: str | None, *, may_be_unsaid: bool) -> tuple[str, str]:
    """The alternative text, and what is still to be said."""
    if may_be_unsaid and alt is None and piece.alt is None:
        return _words(piece, ""), "alternative text"
    return _words(piece, alt), ""


def _words(piece: Piece, alt: str | None) -> str:
    """The alternative text. Raises WrittenError where there is none, or no single picture."""
    if piece.parts:
        raise WrittenError(
            f'"{piece.name}" is a panel in {len(piece.parts)} parts, not one picture.',
            f'Give an element the class "{CLASS}{piece.name}".',
        )
    words = alt if alt is not None else piece.alt
    if words is None:
        raise WrittenError(
            f'"{piece.name}" has no alternative text.',
            f'Say what it shows: inlay("{piece.name}", alt="..."), or alt = "..." in the cutlist; '
            'alt="" when it is mere decoration.',
        )
    return words


def _source(
    files: Sequence[CutAsset], links: Links, sizes: str, query: str = "", *, is_typed: bool = True
) -> str:
    """A source in one format; with a query for another screen, without a type for every browser."""
    css = files[0].css
    media = f'media="{escape(query)}" ' if query else ""
    form = f'type="image/{files[0].format}" ' if is_typed else ""
    size = f' width="{whole(css.width)}" height="{whole(css.height)}"' if query else ""
    shown = sizes or f"{whole(css.width)}px"
    return f"<source {media}{form}{_candidates(files, links, shown)}{size}>"


def _candidates(files: Sequence[CutAsset], links: Links, shown: str) -> str:
    """What a source chooses from, and where it needs to know, how wide the picture will be."""
    srcset = _srcset(files, links) or links.file(files[0].file)
    sizes = f' sizes="{escape(shown)}"' if _is_by_width(files) else ""
    return f'srcset="{escape(srcset)}"{sizes}'


def _usual_sizes(piece: Piece) -> str:
    """As wide as in the mockup, and no wider than the window."""
    width = f"{whole(piece.width)}px"
    return "100vw" if piece.fills_its_frame else f"(max-width: {width}) 100vw, {width}"


def _is_by_width(files: Sequence[CutAsset]) -> bool:
    return len(files) > 1 and any((asset.size or "").endswith("w") for asset in files)


def _srcset(sizes: Sequence[CutAsset], links: Links) -> str:
    """The candidates of an image; empty for a single one. HTML, 4.8.4: all by `x` or all by `w`."""
    if len(sizes) < 2:
        return ""
    by_width = _is_by_width(sizes)
    candidates = []
    for asset in sizes:
        mark = f"{asset.pixels.width}w" if by_width else asset.size
        candidates.append(f"{links.file(asset.file)} {mark}")
    return ", ".join(candidates)


def whole(value: float) -> int:
    """The nearest whole number, for the attributes that take no others."""
    return math.floor(value + 0.5)
