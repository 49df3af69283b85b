"""A slice by name -> the lines that put it into somebody else's page: HTML, or a rule of CSS."""

from __future__ import annotations

import posixpath
import re

from riffler.errors import RifflerError
from riffler.site import images, pieces, stylesheet
from riffler.site.templates import Site
from riffler.site.wrapping import wrapped

#: A class as HTML and CSS can both write it without escapes.
_CLASS = re.compile(r"-?[A-Za-z_][\w-]*")


def lines(
    site: Site,
    name: str,
    *,
    css: bool = False,
    css_class: str = "",
    alt: str | None = None,
    loading: str = "",
    sizes: str = "",
) -> str:
    """The HTML for a picture; the CSS where that is wanted, and for what no `img` shows.

    URLs in HTML are as seen from the output folder, in CSS from its style sheets. Raises
    WrittenError for a slice that is not there or not cut, RifflerError for a class CSS can't name.
    """
    sheet = site.links(posixpath.join(site.project.settings.folders.styles, stylesheet.FILE))
    regions = (region for region in site.regions if region.slice == name and not region.when)
    region = next(regions, None)
    if region is not None:
        return stylesheet.region_rule(region, _selector(css_class)).rstrip()
    piece = pieces.find(site.pieces, name, site.written)
    if css or piece.role.is_styled:
        return "\n".join(stylesheet.rules(piece, sheet, _selector(css_class))).rstrip()
    links = site.links("index.html")
    line = images.image(piece, links, css_class=css_class, alt=alt, loading=loading, sizes=sizes)
    return "\n".join(wrapped(str(line)))


def _selector(css_class: str) -> str:
    """What selects elements of these classes; empty for none."""
    names = css_class.split()
    for name in names:
        if not _CLASS.fullmatch(name):
            raise RifflerError(f'"{name}" is no class that a style sheet can name.')
    return "".join(f".{name}" for name in names)
