"""`riffler weigh`: what a slice weighs in every format, and what is seen of the loss."""

from __future__ import annotations

from collections.abc import Sequence
from pathlib import Path
from typing import TYPE_CHECKING, Annotated

import typer

from riffler.cli import completing
from riffler.cli.command import Command, Over, Versus
from riffler.errors import RifflerError
from riffler.files import as_typed
from riffler.project.places import located
from riffler.report.screen import Screen

if TYPE_CHECKING:  # it loads all that drawing needs
    from riffler.cutting.weigh import Weighed


def weigh(
    screen: Screen,
    names: Annotated[
        list[str],
        typer.Argument(
            metavar="SLICE",
            help="Slices by name, or picture files.",
            autocompletion=completing.slices,
        ),
    ],
    picture: Annotated[
        Path | None,
        typer.Option("--picture", metavar="FILE.png", help="Plot the loss against the bytes."),
    ] = None,
    page: Versus = None,
    apply: Annotated[
        bool, typer.Option("--apply", help="Write the marked formats into the cutlists.")
    ] = False,
    force: Over = False,
) -> None:
    """Compare formats and settings by bytes, visible loss and load time.

    The smallest file of the level that holds is marked. Works for any picture file, too.
    """
    from riffler.cutting.weigh import VERSION, as_data, curves
    from riffler.cutting.weigh import weigh as weigh_pictures
    from riffler.project.target import Target
    from riffler.report import weighing
    from riffler.workspace import Workspace

    for path, endings in ((picture, (".png",)), (page, (".html",))):
        if path is not None:
            Target(path, force).check(endings, [Path(name) for name in names])
    names = [str(located(Path(name))) if Path(name).suffix else name for name in names]
    with screen.progress("Weighing") as progress:
        weighings = weigh_pictures(Workspace.around(Path(names[0])), names, progress)
    written = []
    if picture is not None:
        from riffler.report import weigh_curve

        with screen.progress("Plotting") as progress:
            result = curves(weighings, progress)
        weigh_curve.write(weighings, result, Target(picture, force))
        written.append(f"Wrote {picture}: what is seen of the loss at every number of bytes.")
    if page is not None:
        from riffler.report import weigh_page

        weigh_page.write(weighings, Target(page, force))
        written.append(f"Wrote {page}: open it in a browser to compare them with your own eyes.")
    if apply:
        written += _apply(weighings)
    if screen.json(VERSION, as_data(weighings)):
        return
    weighing.show(screen, weighings)
    for line in written:
        screen.say(line)


def _apply(weighed: Sequence[Weighed]) -> list[str]:
    """Write the marked format of each slice into its cutlist, as `mark` would; says what was done.

    Raises RifflerError for a picture that is of no slice.
    """
    from riffler.formats import FORMATS
    from riffler.plan.mark import mark
    from riffler.plan.wish import Wish
    from riffler.workspace import Workspace

    formats: dict[str, list[str]] = {}
    for picture in weighed:
        if picture.source.slice is None:
            raise RifflerError(f"{picture.name} is a file: --apply writes settings of slices.")
        formats.setdefault(picture.source.slice, []).append(picture.chosen.choice.format)
    texts = []
    for name, result in formats.items():
        save = list(dict.fromkeys(result))
        marked = mark(Workspace.here(), Wish(name, "slice", {"save": save}))
        labels = " and ".join(FORMATS[item].label for item in save)
        texts.append(f"{name} is saved as {labels}: {as_typed(marked.file)}.")
    return texts


COMMAND = Command(weigh)
