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
    show_all: Annotated[bool, typer.Option("--all", help="Every layer and slice.")] = False,
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
    _refuse_mixed(names, of_one=css or words, show_all=show_all or as_csv)
    workspace = Workspace.around(located(Path(mockup))) if mockup else Workspace.here()
    measuring = answer.measuring(workspace, names, mockup, unit_of(unit) if unit else None, base)
    if words:
        data, show = _words(measuring, names[0])
    else:
        data, show = _answer(measuring, names, css=css, show_all=show_all or as_csv, as_csv=as_csv)
    file = as_typed(measuring.things.opened.mockup.path)
    head = {"mockup": file, "unit": measuring.scale.unit, "density": measuring.scale.density}
    if not screen.json(answer.VERSION, head | data):
        show(screen)


def _answer(
    found_measuring: Measuring, names: Sequence[str], *, css: bool, show_all: bool, as_csv: bool
) -> tuple[dict[str, Any], Callable[[Screen], None]]:
    """What is asked for, as data and as what shows it."""
    from riffler.measure import answer
    from riffler.report import measuring

    scale = found_measuring.scale
    if show_all:
        rows = list(answer.rows(found_measuring.every, scale))
        things = [answer.thing_as_data(thing, scale) for thing in found_measuring.every]
        show_rows = measuring.show_csv if as_csv else measuring.show_all
        return {"things": things}, lambda screen: show_rows(screen, rows)
    if css:
        thing, style = found_measuring.css(names[0])
        values = answer.css_as_data(thing, style, scale)
        return values, lambda screen: measuring.show_css(screen, thing, style)
    if len(names) == MOST:
        one_thing, two, apart = found_measuring.two(*names)
        values = answer.two_as_data(one_thing, two, apart, scale)
        return values, lambda screen: measuring.show_two(screen, one_thing, two, apart, scale)
    if names:
        known_measured = found_measuring.one(names[0])
        values = answer.one_as_data(known_measured, scale)
        return values, lambda screen: measuring.show_one(screen, known_measured, scale)
    page = found_measuring.document
    values = answer.document_as_data(page, scale)
    return values, lambda screen: measuring.show_document(screen, page, scale)


def _words(
    found_measuring: Measuring, name: str
) -> tuple[dict[str, Any], Callable[[Screen], None]]:
    """What a text says, as data and as what shows it."""
    from riffler.measure import answer
    from riffler.report import measuring

    thing, text, scale = (
        found_measuring.things.named(name),
        found_measuring.words(name),
        found_measuring.scale,
    )
    data = answer.words_as_data(thing, text, scale)
    return data, lambda screen: measuring.show_words(screen, thing, text, scale)


def _refuse_mixed(names: list[str], *, of_one: bool, show_all: bool) -> None:
    """Raises RifflerError for things and options that do not go together."""
    if len(names) > MOST:
        raise RifflerError("Two things are measured at a time.", "riffler measure THING OTHER")
    if show_all and (names or of_one):
        raise RifflerError("--all and --csv list every thing.", "Leave names and the like out.")
    if of_one and len(names) != 1:
        raise RifflerError("--css and --words are of one thing.", "riffler measure THING --css")


COMMAND = Command(measure)
