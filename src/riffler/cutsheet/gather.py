"""A project -> the data of its cut sheet."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping, Sequence
from contextlib import suppress
from dataclasses import replace
from pathlib import Path
from typing import TypeAlias

from riffler.analyse.lettering import Lettering
from riffler.cutlist.resolve import resolve_one
from riffler.cutsheet import thumbnails
from riffler.cutsheet.content import (
    SAMPLE,
    CutSheet,
    SampleFace,
    SheetAsset,
    SheetEntry,
    SheetPage,
    Variant,
)
from riffler.errors import RifflerError
from riffler.files import read_whole
from riffler.geometry import Rect
from riffler.measure.css import Css, css_of
from riffler.measure.frame import Frame, frame_of
from riffler.measure.things import NOWHERE, Things
from riffler.measure.units import Scale
from riffler.mockup import address
from riffler.mockup.model import Layer, Mockup, is_drawing
from riffler.output.asset import CutAsset, IconAsset
from riffler.output.ledger import Ledger
from riffler.project.project import Project
from riffler.reading.reading import Reading
from riffler.tokens.answer import pins_of, read, tokens_of
from riffler.tokens.gather import type_of
from riffler.tokens.spelling import spelled
from riffler.tokens.token import Sort, Tokens, Type
from riffler.webfonts.facts import Permission, facts_of
from riffler.webfonts.subset import web_font
from riffler.workspace import Opened, Workspace

Progress: TypeAlias = Callable[[str, int, int], None]

#: Hidden layers that are drawn to be switched on; more than this is no set of states.
VARIANTS = 80

Colors: TypeAlias = Mapping[tuple[str, str], Sequence[tuple[str, str]]]
"""By mockup and layer, the (name, value) of every colour that it uses."""


def cut_sheet(
    workspace: Workspace, paths: Sequence[Path] = (), progress: Progress | None = None
) -> CutSheet:
    """The sheet of these mockups, or of all that the project cuts.

    Raises RifflerError where that is none.
    """
    readings = read(workspace, paths)
    tokens = tokens_of(readings, pins_of(workspace))
    colors = _colors(tokens)
    pages = []
    for done, (opened, reading) in enumerate(readings):
        if progress:
            progress(opened.mockup.path.name, done, len(readings))
        pages.append(_page(opened, reading, colors))
    return replace(
        _framed(workspace, tokens, [opened for opened, _ in readings]), pages=tuple(pages)
    )


def _framed(workspace: Workspace, tokens: Tokens, opened: Sequence[Opened]) -> CutSheet:
    """The sheet without its pages: what the project around the mockups says."""
    faces = tuple(_faces(workspace, tokens))
    if not workspace.has_project:
        return CutSheet(opened[0].mockup.path.stem, (), (), tokens, faces=faces)
    project = workspace.project
    title = str(project.settings.site.get("title") or project.root.name)
    measure = project.settings.measure
    unit = "px" if measure.unit == "%" else measure.unit
    assets = tuple(_assets(project, opened))
    return CutSheet(title, (), assets, tokens, measure.base, unit, faces)


def _faces(workspace: Workspace, tokens: Tokens) -> Iterator[SampleFace]:
    """The faces of the types, where their files allow it."""
    types = [token.value for token in tokens.of(Sort.TYPE) if isinstance(token.value, Type)]
    wanted = {
        workspace.fonts.nearest(
            type_.families[0], type_.weight, is_italic=type_.style != "normal"
        ): None
        for type_ in types
    }
    for face in wanted:
        if face is None:
            continue
        with suppress(RifflerError):  # a damaged file is for riffler fonts to tell
            facts = facts_of(face)
            if facts.permission is Permission.ALLOWED:
                data = web_font(facts, map(ord, SAMPLE))
                yield SampleFace(face.family, facts.weight, facts.style, data)


def _colors(tokens: Tokens) -> Colors:
    result: dict[tuple[str, str], list[tuple[str, str]]] = {}
    for token in tokens.of(Sort.COLOR):
        for place in token.places:
            told = result.setdefault((place.mockup, place.layer), [])
            if (pair := (token.name, str(token.value))) not in told:
                told.append(pair)
    return result


def _page(opened: Opened, reading: Reading, colors: Colors) -> SheetPage:
    mockup, density = opened.mockup, reading.density
    frame = frame_of(opened, density)
    return SheetPage(
        mockup.path.name,
        mockup.size.width,
        mockup.size.height,
        density,
        tuple(thumbnails.bands(opened.renderer, mockup.drawn)),
        (*_layers(opened, reading, colors), *_slices(opened)),
        tuple(_variants(opened)),
        (frame.left, frame.width),
        _columns(frame),
        tuple(opened.cutlist.guides()) if opened.cutlist else (),
    )


def _columns(frame: Frame) -> tuple[tuple[float, float], ...]:
    return tuple((round(start, 3), round(end, 3)) for start, end in frame.columns)


def _layers(opened: Opened, reading: Reading, colors: Colors) -> Iterator[SheetEntry]:
    """Every layer that paints, hidden ones too, in listed order."""
    mockup = opened.mockup
    scale = Scale("px", reading.density)
    depths = _depths(mockup)
    for layer in mockup.walk():
        if any(is_drawing(group) for group in mockup.ancestors(layer.address)):
            continue  # unnamed shapes of one drawing
        box = opened.renderer.exact_box(layer.address)
        if box is None and layer.words is None:
            continue
        box = box or NOWHERE  # text whose typeface is missing is still to be read
        css = css_of(reading, layer, box, scale, is_fitted=False)
        yield _entry(reading, layer, box, css, depths, colors)


def _depths(mockup: Mockup) -> dict[str, int]:
    depths: dict[str, int] = {}
    for layer in mockup.walk():
        parent = mockup.parents.get(layer.address)
        depths[layer.address] = depths[parent] + 1 if parent else 0
    return depths


def _entry(
    reading: Reading, layer: Layer, box: Rect, css: Css, depths: Mapping[str, int], colors: Colors
) -> SheetEntry:
    mockup, words = reading.mockup, reading.words(layer)
    kind = "text" if reading.is_words(layer) else "group" if layer.is_group else "layer"
    text = reading.lettering(layer) if kind == "text" and words is None else None
    return SheetEntry(
        kind,
        address.plain(layer.address),
        layer.address,
        box,
        depths[layer.address],
        mockup.shows(layer),
        words.lines if words else (),
        spelled(Sort.TYPE, type_of(words, reading.density)) if words else _seen(text, reading),
        tuple(colors.get((mockup.path.name, layer.address), ())),
        css.declarations,
        _note(css, box),
    )


def _note(css: Css, box: Rect) -> str:
    if box is NOWHERE:
        return "not drawn: its typeface is missing"
    return css.refused or (f"by {css.of}" if css.of else "")


def _seen(text: Lettering | None, reading: Reading) -> str:
    """What pixels tell of a text's type."""
    if text is None:
        return ""
    count = len(text.lines)
    high = f"small letters {text.height / reading.density:g} px high"
    return f"in pixels: {count} line{'s' if count > 1 else ''}, {high}"


def _slices(opened: Opened) -> Iterator[SheetEntry]:
    for thing in Things(opened).slices:
        yield SheetEntry("slice", thing.name, thing.name, thing.box)


def _variants(opened: Opened) -> Iterator[Variant]:
    """The page with each hidden layer on, where it paints; of a hidden group the whole."""
    mockup, renderer = opened.mockup, opened.renderer
    states = _states(opened)
    hidden = [
        layer
        for layer in mockup.walk()
        if not layer.visible and all(group.visible for group in mockup.ancestors(layer.address))
    ]
    for layer in hidden[:VARIANTS]:
        on = mockup.drawn | {layer.address}
        box = renderer.painted_box(layer.address)
        box = box & mockup.box if box else None
        if box:
            name = states.get(layer.address, address.plain(layer.address))
            yield Variant(layer.address, name, thumbnails.picture(renderer, box, on))


def _states(opened: Opened) -> dict[str, str]:
    """What hidden layers are for: "tab-home, hover"."""
    file, result = opened.cutlist, dict[str, str]()
    if file is None:
        return result
    for entry in file.entries:
        resolved = resolve_one(file, opened.renderer, entry)
        for state in resolved.states:
            if state.name is None:
                continue
            for shown in sorted(state.shown - resolved.rest.shown):
                result.setdefault(shown, f"{entry.name}, {state.name}")
    return result


def _assets(project: Project, opened: Sequence[Opened]) -> Iterator[SheetAsset]:
    """The files that were cut of these mockups and are there, by slice."""
    names = {project.relative(one_opened.mockup.path) for one_opened in opened}
    assets = [
        asset
        for asset in Ledger.read(project.out).assets
        if isinstance(asset, CutAsset | IconAsset) and asset.mockup in names
    ]
    small: dict[str, SheetAsset] = {}
    for asset in assets:
        path = project.out / asset.file
        if not path.is_file():
            continue
        sides = (asset.pixels.width, asset.pixels.height) if isinstance(asset, CutAsset) else (0, 0)
        css = (asset.css.width, asset.css.height) if isinstance(asset, CutAsset) else (0.0, 0.0)
        small[asset.file] = SheetAsset(
            asset.slice or "",
            (asset.state or "") if isinstance(asset, CutAsset) else "icon",
            asset.file,
            asset.format,
            asset.bytes,
            sides,
            css,
            thumbnails.thumbnail(read_whole(path)),
        )
    yield from sorted(
        small.values(),
        key=lambda sheet_asset: (sheet_asset.slice, sheet_asset.state, sheet_asset.file),
    )
