"""What a look found -> what people read of it."""

from __future__ import annotations

from collections.abc import Sequence

from riffler.files import as_typed
from riffler.mockup.font_book import FontBook, Use, uses
from riffler.reading.density import at_a_glance
from riffler.reading.look import ColumnGrid, Look, PointLook
from riffler.reading.reading import Reading
from riffler.render.merged import PictureDifference
from riffler.report import tree
from riffler.report.screen import Column, Screen
from riffler.report.wording import pixels, plural
from riffler.workspace import Opened

#: Parts of the width as people say them.
_SHARES = {"1": "whole width", "1/2": "half", "1/3": "third", "2/3": "two thirds", "1/4": "quarter"}


def show_tree(screen: Screen, opened: Opened, look: Look, *, show_all: bool) -> None:
    """The canvas in one line, what is to be known of the whole, then the tree."""
    mockup = opened.mockup
    count = plural(len(mockup.by_address), "layer")
    size = pixels(mockup.size.width, mockup.size.height)
    screen.say(f"{as_typed(mockup.path)}: {size} px, {_density(opened)}{count}.")
    if mockup.canvases:
        names = ", ".join(f'"{canvas.name}"' for canvas in mockup.canvases)
        screen.say(f"Canvases: {names}.")
    for note in _notes(opened, look.merged):
        screen.say(note)
    screen.say("")
    for line in tree.lines(look.layers, show_all=show_all):
        screen.line(line)


def _density(opened: Opened) -> str:
    if opened.density is not None:
        return f"density {opened.density:g}, "
    if (hinted := at_a_glance(Reading(opened.renderer, 1.0))).value != 1:
        return f"probably density {hinted.value:g} ({hinted.why}), "
    return ""


def _notes(opened: Opened, merged: PictureDifference | None) -> list[str]:
    """What a person should know before trusting the picture."""
    notes = [_merged(merged)] if merged else []
    used = uses(opened.mockup, opened.fonts)
    for where, what in ((None, "Missing fonts"), ("system", "Fonts of this system alone")):
        families = [use.family for use in used if use.found == where]
        if families:
            notes.append(f"{what}: {', '.join(families)}. riffler look --fonts says more.")
    return notes


def _merged(difference: PictureDifference) -> str:
    if difference.place is None:
        return "The merged picture inside shows the same as these layers."
    where = difference.place
    return (
        f"The merged picture inside differs from these layers by up to {difference.furthest} of "
        f"255 in {difference.share * 100:.2g} % of its pixels, "
        f"between {where.x}, {where.y} and {where.right}, {where.bottom}."
    )


def show_point(screen: Screen, look: PointLook) -> None:
    """The colour at a pixel and the layers that paint there."""
    seen = [hit for hit in look.layers if hit.shown]
    screen.say(f"At {look.x}, {look.y} the mockup is {look.color}; {plural(len(seen), 'layer')}.")
    if not look.layers:
        return
    screen.say("")
    rows = [
        (hit.address, hit.color, hit.kind, "" if hit.shown else "hidden") for hit in look.layers
    ]
    columns = (Column("layer", style="bold"), Column("its colour"), Column("kind"), Column(""))
    screen.table(columns, rows)


def show_fonts(screen: Screen, used: Sequence[Use], book: FontBook) -> None:
    """The families that text asks for, and what becomes of each."""
    if not used:
        screen.say("No layer holds live text, so no font is needed to draw this mockup.")
        return
    columns = (
        Column("family", style="bold"),
        Column("weights"),
        Column("words", is_right=True),
        Column("layers", is_right=True),
        Column("found"),
        Column("drawn with"),
    )
    screen.table(columns, [_font_row(use) for use in used])
    if any(use.found == "system" for use in used):
        screen.say("")
        screen.say(
            "Fonts of this system may be missing elsewhere: put their files into the project's"
        )
        screen.say("fonts folder." + ("" if book.use_system else _NOT_DRAWN))


_NOT_DRAWN = " Until then they are not drawn with, unless riffler.toml says system-fonts = true."


def _font_row(use: Use) -> tuple[str, ...]:
    found = {"project": "in the project", "system": "on this system", None: "missing"}[use.found]
    drawn = use.drawn_with if use.drawn_with != use.family else "itself"
    weights = ", ".join(map(str, use.weights))
    return use.family, weights, str(use.words), str(use.layers), found, drawn or "nothing"


def show_grid(screen: Screen, grid: ColumnGrid | None) -> None:
    """The column grid in words, and which blocks take which part of the width."""
    if grid is None:
        screen.say("No column grid explains the edges of these layers.")
        return
    density = grid.density
    in_css = ", ".join(f"{v / density:g}" for v in (grid.column, grid.gutter, grid.left))
    per = f" (in CSS pixels {in_css})" if density != 1 else ""
    screen.say(
        f"{grid.columns} columns of {grid.column:g} px, gutter {grid.gutter:g}, "
        f"margins {grid.left:g}{per}: {grid.certainty}, "
        f"{grid.on_grid} of {grid.edges} different edges lie on it."
    )
    if grid.whole is not None:
        screen.say(f"The same as 12 columns of {grid.whole:g} px.")
    if grid.parts:
        screen.say("")
        parts = [(_SHARES.get(s, s), ", ".join(names)) for s, names in grid.parts.items()]
        screen.table((Column("part of the width", style="bold"), Column("layers")), parts)
