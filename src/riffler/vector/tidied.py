"""An SVG and what is wanted of it -> the file, with what was saved and what is seen of it."""

from __future__ import annotations

import gzip
from dataclasses import dataclass, replace

from riffler.mockup.font_book import FontBook
from riffler.project.limits import DEFAULT_LIMITS, Limits
from riffler.render.vector import NO_FONTS
from riffler.tidy.tidying import USUAL, Tidying
from riffler.vector.checked import SAME, DrawingDifference, tidied
from riffler.vector.for_page import ForPage, made
from riffler.vector.taken import LAYER


@dataclass(frozen=True)
class VectorFile:
    """A vector file that was made.

    Sizes in bytes, plain and gzipped, of its source and of itself. `difference` is that of the
    tidied drawing, before colours are handed to the page; `removed` says what ran or led outside.
    """

    text: str
    before: int
    after: int
    zipped_before: int
    zipped_after: int
    difference: DrawingDifference = SAME
    removed: tuple[str, ...] = ()
    styles: str = ""
    colors: tuple[tuple[str, str], ...] = ()


def make(
    source: bytes,
    what: str,
    tidying: Tidying = USUAL,
    page: ForPage | None = None,
    limits: Limits = DEFAULT_LIMITS,
    *,
    fonts: FontBook = NO_FONTS,
    refuses: bool = False,
) -> VectorFile:
    """Tidy a drawing and make it for a page. Raises MockupError for one that is unsound."""
    if page is not None and page.has_hooks:
        tidying = replace(tidying, kept=LAYER)
    checked = tidied(source, what, tidying, limits, fonts=fonts, refuses=refuses)
    text, styles, colors = checked.text, "", tuple[tuple[str, str], ...]()
    if page is not None and page.is_needed:
        paged = made(text, page)
        text, styles, colors = paged.text, paged.styles, paged.colors
    data = text.encode()
    return VectorFile(
        text,
        len(source),
        len(data),
        _zipped(source),
        _zipped(data),
        checked.difference,
        checked.removed,
        styles,
        colors,
    )


def _zipped(data: bytes) -> int:
    return len(gzip.compress(data, 9, mtime=0))
