"""Members of sprites and of files of symbols, loading marks -> the HTML that shows them."""

from __future__ import annotations

import re
from collections.abc import Mapping, Sequence
from html import escape
from typing import TypeAlias

from lxml import etree
from markupsafe import Markup

from riffler.errors import WrittenError, nearest
from riffler.files import read_whole
from riffler.mockup.svg.document import NAMESPACE
from riffler.output.asset import LoaderAsset, SpriteAsset, SymbolsAsset
from riffler.project.project import Project
from riffler.site.images import whole
from riffler.sprite.sheet import CLASS
from riffler.tidy.drawing import Drawing
from riffler.tidy.writing import text_of
from riffler.vector.loader import html

#: How a sheet of symbols takes no room: one that is not displayed loses its gradients.
_HIDDEN = {"width": "0", "height": "0", "style": "position:absolute", "aria-hidden": "true"}

Shared: TypeAlias = SpriteAsset | SymbolsAsset | LoaderAsset


def sprite(shared: Sequence[Shared], name: str, alt: str, css_class: str) -> Markup:
    """A member of a sprite; without words it is decoration. Raises WrittenError for no member."""
    sprite_assets = [asset for asset in shared if isinstance(asset, SpriteAsset)]
    asset = next(
        (sprite_asset for sprite_asset in sprite_assets if name in sprite_asset.members), None
    )
    if asset is None:
        raise _unknown(
            name,
            "sprite",
            [member for sprite_asset in sprite_assets for member in sprite_asset.members],
        )
    classes = f"{CLASS}{asset.name} {CLASS}{asset.name}-{name} {css_class}".strip()
    spoken = f' role="img" aria-label="{escape(alt)}"' if alt else ' aria-hidden="true"'
    return Markup(f'<span class="{escape(classes)}"{spoken}></span>')  # noqa: S704 - all escaped


def symbol(
    shared: Sequence[Shared], name: str, alt: str, css_class: str, used: dict[str, str]
) -> Markup:
    """A symbol at its own size, coloured by what is around it; `used` notes it with its file.

    Without words it is decoration. Raises WrittenError for a name that no file has.
    """
    symbols_assets = [asset for asset in shared if isinstance(asset, SymbolsAsset)]
    asset = next(
        (symbols_asset for symbols_asset in symbols_assets if name in symbols_asset.members), None
    )
    if asset is None:
        raise _unknown(
            name,
            "symbol",
            [member for symbols_asset in symbols_assets for member in symbols_asset.members],
        )
    used[name] = asset.file
    size = asset.members[name]
    values = {
        "class": css_class,
        "width": str(whole(size.width)),
        "height": str(whole(size.height)),
        **({"role": "img", "aria-label": alt} if alt else {"aria-hidden": "true"}),
    }
    attributes = " ".join(f'{key}="{escape(value)}"' for key, value in values.items() if value)
    return Markup(f'<svg {attributes}><use href="#{name}"/></svg>')  # noqa: S704 - all escaped


def with_symbols(page: str, used: Mapping[str, str], project: Project) -> str:
    """A page with the symbols that it uses at the beginning of its body.

    So they show from a disk as from a server, with their gradients, which no browser finds in
    another file. Raises WrittenError for a page without a body.
    """
    if not used:
        return page
    body = re.search(r"<body\b[^>]*>", page, re.IGNORECASE)
    if body is None:
        raise WrittenError("A page with symbols needs a <body>.")
    symbols = []
    for file in dict.fromkeys(used.values()):
        root = etree.fromstring(read_whole(project.out / file))
        symbols += [element for element in root if used.get(element.get("id", "")) == file]
    sheet = etree.Element(root.tag, nsmap=root.nsmap)
    sheet.extend(symbols)
    for key, value in _HIDDEN.items():
        sheet.set(key, value)
    text = text_of(Drawing(sheet)).replace(f' xmlns="{NAMESPACE}"', "", 1)
    return f"{page[: body.end()]}\n{text}{page[body.end() :]}"


def loader(shared: Sequence[Shared], project: Project, name: str) -> Markup:
    """A loading mark with its status text. Raises WrittenError for a name that is none."""
    loader_assets = {asset.name: asset for asset in shared if isinstance(asset, LoaderAsset)}
    if name not in loader_assets:
        raise _unknown(name, "loader", list(loader_assets))
    asset = loader_assets[name]
    svg = read_whole(project.out / asset.file).decode()
    return Markup(html(name, svg, asset.dots, asset.text))  # noqa: S704 - our own drawing


def _unknown(name: str, what: str, known: Sequence[str]) -> WrittenError:
    advice = nearest(name, known, "There are") if known else f"[{what}] in riffler.toml makes them."
    return WrittenError(f'There is no {what} "{name}".', advice)
