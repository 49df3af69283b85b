"""Templates, styles and fonts -> pages in the output folder."""

from __future__ import annotations

import posixpath
import re
from collections.abc import Iterable, Iterator
from pathlib import Path
from typing import Literal

import tinycss2

from riffler.errors import Place, WrittenError, nearest
from riffler.files import read_whole
from riffler.output.asset import (
    CopyAsset,
    IconAsset,
    LoaderAsset,
    PageAsset,
    SpriteAsset,
    StyleAsset,
    SymbolsAsset,
)
from riffler.output.ledger import Ledger
from riffler.output.publish import Made, Published, described, publish
from riffler.project.lock import locked
from riffler.project.project import Project
from riffler.project.written import lines_of
from riffler.site import anchors, pieces, stylesheet, templates
from riffler.site.data import read_data
from riffler.site.templates import Site
from riffler.workspace.prepare import known_names, read_cutlists


def read_site(project: Project) -> Site:
    """Read cutlists, ledger and folders. Raises WrittenError for mistakes in them."""
    files, ledger = read_cutlists(project), Ledger.read(project.out)
    return Site(
        project=project,
        pieces=pieces.collect(files, ledger),
        written=known_names(files),
        regions=ledger.words,
        styles=templates.style_files(project),
        own_styles=templates.own_styles(project),
        icons=tuple(asset for asset in ledger.assets if isinstance(asset, IconAsset)),
        made_styles=tuple(
            asset.file
            for asset in ledger.assets
            if isinstance(asset, StyleAsset) and asset.made_by in ("fonts", "cut")
        ),
        shared=tuple(
            asset
            for asset in ledger.assets
            if isinstance(asset, SpriteAsset | SymbolsAsset | LoaderAsset)
        ),
        data=read_data(project),
    )


def build(project: Project, *, force: bool = False, dry_run: bool = False) -> Published:
    """Write every page, the pieces' style sheet, and copies of styles and the fonts they use.

    Raises RifflerError, with nothing written, for mistakes in templates, styles and cutlists, and
    when a page was changed by hand meanwhile.
    """
    site = read_site(project)
    environment = templates.environment(site)
    texts = {page: templates.render(site, environment, page) for page in site.pages}
    anchors.refuse_dead(site, texts)
    files = [_page(site, page, text) for page, text in texts.items()]
    copies = list(_copies(project))
    by_hand = [
        copy.data.decode(errors="replace")
        for copy in copies
        if copy.asset.file.endswith((".css", ".js"))
    ]
    files.extend((_pieces(site, [*texts.values(), *by_hand]), *copies))
    with locked(project, dry_run=dry_run):
        ledger = Ledger.read(project.out)
        answered = [asset for asset in ledger.assets if asset.made_by == "build"]
        return publish(project, ledger, files, answered, force=force, dry_run=dry_run)


def _page(site: Site, page: str, text: str) -> Made:
    file = f"{page}.html"
    template = posixpath.join(site.project.settings.folders.pages, file)
    return described(
        PageAsset, site.project, file, text.encode(), made_by="build", template=template
    )


def _pieces(site: Site, texts: Iterable[str]) -> Made:
    settings = site.project.settings
    file = posixpath.join(settings.folders.styles, stylesheet.FILE)
    text = stylesheet.stylesheet(site.pieces.values(), site.regions, site.links(file), texts)
    return described(StyleAsset, site.project, file, text.encode(), made_by="build")


def _copies(project: Project) -> Iterator[Made]:
    """The hand-written styles and scripts as they are, and every font that styles name."""
    folder, folders = project.folder("styles"), project.settings.folders
    fonts: dict[str, Path] = {}
    for path in project.sources("styles"):
        file = posixpath.join(folders.styles, path.relative_to(folder).as_posix())
        if path.name == stylesheet.FILE and path.parent == folder:
            raise WrittenError(
                f"{stylesheet.FILE} is the name of the style sheet that is made from the slices.",
                "Give the hand-written one another name.",
                Place(path),
            )
        if path.suffix == ".css":
            fonts.update(_fonts(project, path, file))
        yield _copy(project, path, file, "style")
    scripts = project.folder("scripts")
    for path in project.sources("scripts"):
        file = posixpath.join(folders.scripts, path.relative_to(scripts).as_posix())
        yield _copy(project, path, file, "script")
    for file, path in sorted(fonts.items()):
        yield _copy(project, path, file, "font")


def _copy(project: Project, path: Path, file: str, use: Literal["style", "script", "font"]) -> Made:
    source, data = project.relative(path), read_whole(path)
    return described(CopyAsset, project, file, data, made_by="build", use=use, source=source)


def _fonts(project: Project, path: Path, file: str) -> Iterator[tuple[str, Path]]:
    """The project's fonts that a style sheet names. Raises WrittenError for one that is missing."""
    own = project.settings.folders.fonts + "/"
    text = read_whole(path).decode("utf-8", "replace")
    for url, line in _urls(tinycss2.parse_stylesheet(text)):
        if re.match(r"[a-zA-Z][\w+.-]*:|[/#]", url):
            continue
        plain = re.sub(r"[?#].*", "", url)
        target = posixpath.normpath(posixpath.join(posixpath.dirname(file), plain))
        if not target.startswith(own):
            continue
        source = project.root / target
        if not source.is_file():
            known = [font.relative_to(project.root).as_posix() for font in project.fonts()]
            raise WrittenError(
                f'There is no font "{target}".',
                nearest(target, known, "Fonts are"),
                Place(path, line, text=lines_of(text)[line - 1].rstrip()),
            )
        yield target, source


def _urls(nodes: list[object]) -> Iterator[tuple[str, int]]:
    """Every url in a parsed style sheet with its line."""
    for node in nodes:
        if getattr(node, "type", "") == "url":
            yield node.value, node.source_line  # type: ignore[attr-defined]
        if getattr(node, "type", "") == "function" and node.lower_name == "url":  # type: ignore[attr-defined]
            for argument in node.arguments:  # type: ignore[attr-defined]
                if argument.type == "string":
                    yield argument.value, argument.source_line
        for inside in ("prelude", "content", "arguments"):
            yield from _urls(getattr(node, inside, None) or [])
