"""`riffler measure`: the numbers of a mockup, where the code is."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from pathlib import Path
from typing import TYPE_CHECKING, Annotated, Any

import typer

from riffler.cli import completing
from riffler.cli.command import Command
from riffler.errors import RifflerError
from riffler.files import as_typed
from riffler.project.places import located
from riffler.report.screen import Screen

if TYPE_CHECKING:
    from riffler.measure.answer import Measuring

#: Two things are measured against each other, no more.
MOST = 2


def measure(
    screen: Screen,
    names: Annotated[
        list[str] | None,
        typer.Argument(
            metavar="THING",
            help="One or two: a layer, group, slice or guide; x,y; x,y,width,height; canvas.",
            autocompletion=completing.things,
        ),
    ] = None,
    mockup: Annotated[
        str | None,
        typer.Option(
            "--in",
            metavar="MOCKUP",
            help="Of several the mockup, or its cutlist by name.",
            autocompletion=completing.cutlists,
        ),
    ] = None,
    css: Annotated[bool, typer.Option("--css", help="The style of it, to paste.")] = False,
    words: Annotated[
        bool, typer.Option("--words", help="What a text says and its type, read from pixels, too.")
    ] = False,
    every: Annotated[bool, typer.Option("--all", help="Every layer and slice.")] = False,
    as_csv: Annotated[
        bool, typer.Option("--csv", help="Every layer and slice as comma-separated values.")
    ] = False,
    unit: Annotated[
        str | None, typer.Option("--unit", metavar="UNIT", help="px, rem, vw or %.")
    ] = None,
    base: Annotated[
        float | None, typer.Option("--base", metavar="PX", min=1, help="What a rem is.")
    ] = None,
) -> None:
    """Read sizes, places, distances and styles off a mockup.

    Of one thing: its size and place, what it lies on, what is nearest on each side. Of two: how far
    apart they are and what is in line. Of none: the whole page, its rows and columns.
    """
    from riffler.measure import answer
    from riffler.measure.units import unit_of
    from riffler.workspace import Workspace

    names = names or []
    _refuse_mixed(names, of_one=css or words, every=every or as_csv)
    workspace = Workspace.around(located(Path(mockup))) if mockup else Workspace.here()
    found = answer.measuring(workspace, names, mockup, unit_of(unit) if unit else None, base)
    if words:
        data, show = _words(found, names[0])
    else:
        data, show = _answer(found, names, css=css, every=every or as_csv, as_csv=as_csv)
    file = as_typed(found.things.opened.mockup.path)
    head = {"mockup": file, "unit": found.scale.unit, "density": found.scale.density}
    if not screen.json(answer.VERSION, head | data):
        show(screen)


def _answer(
    found: Measuring, names: Sequence[str], *, css: bool, every: bool, as_csv: bool
) -> tuple[dict[str, Any], Callable[[Screen], None]]:
    """What is asked for, as data and as what shows it."""
    from riffler.measure import answer
    from riffler.report import measuring

    scale = found.scale
    if every:
        rows = list(answer.rows(found.every, scale))
        things = [answer.thing_as_data(thing, scale) for thing in found.every]
        show_rows = measuring.show_csv if as_csv else measuring.show_all
        return {"things": things}, lambda screen: show_rows(screen, rows)
    if css:
        thing, style = found.css(names[0])
        said = answer.css_as_data(thing, style, scale)
        return said, lambda screen: measuring.show_css(screen, thing, style)
    if len(names) == MOST:
        one, two, apart = found.two(*names)
        said = answer.two_as_data(one, two, apart, scale)
        return said, lambda screen: measuring.show_two(screen, one, two, apart, scale)
    if names:
        known = found.one(names[0])
        said = answer.one_as_data(known, scale)
        return said, lambda screen: measuring.show_one(screen, known, scale)
    page = found.document
    said = answer.document_as_data(page, scale)
    return said, lambda screen: measuring.show_document(screen, page, scale)


def _words(found: Measuring, name: str) -> tuple[dict[str, Any], Callable[[Screen], None]]:
    """What a text says, as data and as what shows it."""
    from riffler.measure import answer
    from riffler.report import measuring

    thing, said, scale = found.things.named(name), found.words(name), found.scale
    data = answer.words_as_data(thing, said, scale)
    return data, lambda screen: measuring.show_words(screen, thing, said, scale)


def _refuse_mixed(names: list[str], *, of_one: bool, every: bool) -> None:
    """Raises RifflerError for things and options that do not go together."""
    if len(names) > MOST:
        raise RifflerError("Two things are measured at a time.", "riffler measure THING OTHER")
    if every and (names or of_one):
        raise RifflerError("--all and --csv list every thing.", "Leave names and the like out.")
    if of_one and len(names) != 1:
        raise RifflerError("--css and --words are of one thing.", "riffler measure THING --css")


COMMAND = Command(measure)
