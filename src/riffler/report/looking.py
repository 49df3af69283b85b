"""A mockup -> what `look` shows of it, for people and for programs."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from riffler.analyse.grid import TOLERANCE, Grid, find_grid
from riffler.files import as_typed
from riffler.geometry import Box
from riffler.mockup.fonts import FontBook, Use, uses
from riffler.mockup.model import Kind, Layer
from riffler.render.merged import Difference, against_merged
from riffler.render.probing import layers_at
from riffler.render.renderer import Renderer
from riffler.report import tree
from riffler.report.screen import Column, Screen, pixels, plural

#: The version of the JSON shape.
VERSION = 1

#: Parts of the width as people say them.
_SHARES = {"1": "whole width", "1/2": "half", "1/3": "third", "2/3": "two thirds", "1/4": "quarter"}


@dataclass(frozen=True)
class View:
    """A mockup to look at. `density` is None when no cutlist says it."""

    renderer: Renderer
    fonts: FontBook
    density: float | None

    @property
    def likely_density(self) -> float:
        """The density that the cutlist says, or the resolution hints at."""
        if self.density is not None:
            return self.density
        return self.renderer.mockup.likely_density


def show_tree(screen: Screen, view: View, *, every: bool) -> None:
    """The canvas in one line, what is to be known of the whole, then the tree."""
    renderer, mockup = view.renderer, view.renderer.mockup
    count = plural(len(mockup.by_address), "layer")
    size = pixels(mockup.size.width, mockup.size.height)
    screen.say(f"{as_typed(mockup.path)}: {size} px, {_density(view)}{count}.")
    if mockup.canvases:
        names = ", ".join(f'"{canvas.name}"' for canvas in mockup.canvases)
        screen.say(f"Canvases: {names}.")
    for note in _notes(view):
        screen.say(note)
    screen.say("")
    for line in tree.lines(mockup, lambda layer: renderer.own_box(layer.address), every=every):
        screen.line(line)


def _density(view: View) -> str:
    if view.density is not None:
        return f"density {view.density:g}, "
    if view.likely_density != 1:
        return f"probably density {view.likely_density:g}, "
    return ""


def _notes(view: View) -> list[str]:
    """What a person should know before trusting the picture."""
    notes = []
    if difference := against_merged(view.renderer):
        notes.append(_merged(difference))
    used = uses(view.renderer.mockup, view.fonts)
    for where, what in (("", "Missing fonts"), ("system", "Fonts of this system alone")):
        families = [use.family for use in used if use.found == where]
        if families:
            notes.append(f"{what}: {', '.join(families)}. riffler look --fonts says more.")
    return notes


def _merged(difference: Difference) -> str:
    if difference.place is None:
        return "The merged picture inside shows the same as these layers."
    where = difference.place
    return (
        f"The merged picture inside differs from these layers by up to {difference.furthest} of "
        f"255 in {difference.share * 100:.2g} % of its pixels, "
        f"between {where.x}, {where.y} and {where.right}, {where.bottom}."
    )


def show_point(screen: Screen, view: View, point: tuple[int, int]) -> None:
    """The colour at a pixel and the layers that paint there."""
    color, hits = layers_at(view.renderer, *point)
    seen = [hit for hit in hits if hit.is_shown]
    screen.say(f"At {point[0]}, {point[1]} the mockup is {color}; {plural(len(seen), 'layer')}.")
    if not hits:
        return
    screen.say("")
    rows = [
        (hit.address, hit.color, view.renderer.mockup.by_address[hit.address].kind,
         "" if hit.is_shown else "hidden")
        for hit in hits
    ]  # fmt: skip
    columns = (Column("layer", style="bold"), Column("its colour"), Column("kind"), Column(""))
    screen.table(columns, rows)


def show_fonts(screen: Screen, view: View) -> None:
    """The families that text asks for, and what becomes of each."""
    used = uses(view.renderer.mockup, view.fonts)
    if not used:
        screen.say("No layer holds live text, so no font is needed to draw this mockup.")
        return
    columns = (
        Column("family", style="bold"), Column("weights"), Column("words", is_right=True),
        Column("layers", is_right=True), Column("found"), Column("drawn with"),
    )  # fmt: skip
    screen.table(columns, [_font_row(use) for use in used])
    if any(use.found == "system" for use in used):
        screen.say("")
        screen.say(
            "Fonts of this system may be missing elsewhere: put their files into the project's"
        )
        screen.say("fonts folder." + ("" if view.fonts.use_system else _NOT_DRAWN))


_NOT_DRAWN = " Until then they are not drawn with, unless riffler.toml says system-fonts = true."


def _font_row(use: Use) -> tuple[str, ...]:
    found = {"project": "in the project", "system": "on this system", "": "missing"}[use.found]
    drawn = use.drawn_with if use.drawn_with != use.family else "itself"
    weights = ", ".join(map(str, use.weights))
    return use.family, weights, str(use.words), str(use.layers), found, drawn or "nothing"


def grid_of(view: View) -> Grid | None:
    """The column grid of what the mockup shows."""
    return find_grid(_blocks(view).values(), view.renderer.mockup.size.width, view.likely_density)


def _blocks(view: View) -> dict[str, Box]:
    """The solid box of every layer that shows and is not text: letters end where they like."""
    mockup = view.renderer.mockup
    found = {}
    for layer in mockup.walk():
        if mockup.shows(layer) and layer.kind not in (Kind.GROUP, Kind.WORDS):
            box = view.renderer.solid_box(layer.address)
            if box is not None:
                found[layer.address] = box
    return found


def show_grid(screen: Screen, view: View) -> None:
    """The column grid in words, and which blocks take which part of the width."""
    grid = grid_of(view)
    if grid is None:
        screen.say("No column grid explains the edges of these layers.")
        return
    density = view.likely_density
    in_css = ", ".join(f"{v / density:g}" for v in (grid.column, grid.gutter, grid.left))
    per = f" (in CSS pixels {in_css})" if density != 1 else ""
    screen.say(
        f"{grid.columns} columns of {grid.column:g} px, gutter {grid.gutter:g}, "
        f"margins {grid.left:g}{per}: {grid.certainty}, "
        f"{grid.on_grid} of {grid.edges} different edges lie on it."
    )
    if grid.finer:
        screen.say(f"The same as {grid.finer[0]} columns of {grid.finer[1]:g} px.")
    shares: dict[str, list[str]] = {}
    for address, box in _blocks(view).items():
        share = grid.share(box, TOLERANCE * density)
        if share is not None:
            shares.setdefault(str(share), []).append(address)
    if shares:
        screen.say("")
        parts = [(_SHARES.get(s, s), ", ".join(names)) for s, names in sorted(shares.items())]
        screen.table((Column("part of the width", style="bold"), Column("layers")), parts)


def as_json(
    view: View, point: tuple[int, int] | None, *, fonts: bool, grid: bool
) -> dict[str, Any]:
    """The mockup as data: sizes in mockup pixels, layers from the top of the stack."""
    mockup = view.renderer.mockup
    data: dict[str, Any] = {
        "look": VERSION,
        "mockup": as_typed(mockup.path),
        "size": {"width": mockup.size.width, "height": mockup.size.height},
        "density": view.density,
        "canvases": [
            {"name": canvas.name, "box": box_as_json(canvas.box)} for canvas in mockup.canvases
        ],
    }
    if point is not None:
        color, hits = layers_at(view.renderer, *point)
        at = [{"address": h.address, "color": h.color, "shown": h.is_shown} for h in hits]
        data["at"] = {"x": point[0], "y": point[1], "color": color, "layers": at}
    if fonts:
        data["fonts"] = [
            {"family": use.family, "weights": list(use.weights), "words": use.words,
             "layers": use.layers, "found": use.found, "drawn_with": use.drawn_with}
            for use in uses(mockup, view.fonts)
        ]  # fmt: skip
    if grid:
        data["grid"] = _grid_as_json(grid_of(view))
    if point is None and not fonts and not grid:
        data["merged"] = _merged_as_json(against_merged(view.renderer))
        data["layers"] = [_layer(view.renderer, layer) for layer in mockup.layers]
    return data


def _grid_as_json(grid: Grid | None) -> dict[str, Any] | None:
    if grid is None:
        return None
    return {
        "columns": grid.columns, "column": grid.column, "gutter": grid.gutter, "left": grid.left,
        "right": grid.right, "edges": grid.edges, "on_grid": grid.on_grid,
        "certainty": grid.certainty,
    }  # fmt: skip


def _merged_as_json(difference: Difference | None) -> dict[str, Any] | None:
    if difference is None:
        return None
    place = box_as_json(difference.place)
    return {"furthest": difference.furthest, "share": difference.share, "place": place}


def box_as_json(box: Box | None) -> dict[str, int] | None:
    """A box as every report writes it."""
    if box is None:
        return None
    return {"x": box.x, "y": box.y, "width": box.width, "height": box.height}


def _layer(renderer: Renderer, layer: Layer) -> dict[str, Any]:
    data: dict[str, Any] = {
        "address": layer.address,
        "name": layer.name,
        "kind": str(layer.kind),
        "visible": layer.visible,
        "opacity": layer.opacity,
        "blend": layer.blend,
        "operator": layer.operator,
        "isolated": layer.isolated,
        "note": layer.note,
        "box": box_as_json(renderer.own_box(layer.address)),
    }
    if layer.words is not None:
        data["words"] = {
            "lines": list(layer.words.lines),
            "families": list(layer.words.families),
            "size": layer.words.size,
            "weight": layer.words.weight,
            "style": layer.words.style,
            "letter_spacing": layer.words.letter_spacing,
            "line_step": layer.words.line_step,
            "anchor": layer.words.anchor,
            "color": layer.words.color,
        }
    data["layers"] = [_layer(renderer, child) for child in layer.children]
    return data
