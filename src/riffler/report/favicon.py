"""A site's icon -> lines for the terminal, and lines in the heads of pages."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from pathlib import Path
from typing import Any

from riffler.cutting.icons import MadeIcons
from riffler.files import as_typed
from riffler.icon.judged import SAFE, Judged
from riffler.report.screen import Column, Screen
from riffler.report.wording import plural
from riffler.site import heading

#: Of what is printed as JSON.
VERSION = 1

#: A share of the icon below which it is hard to make out on a bar, and when it is small.
FAINT, BLURRED = 0.5, 0.5


def head(made: MadeIcons) -> list[str]:
    """The lines for the head of a page beside the files."""
    return heading.lines(made.assets, lambda file: file, made.theme)


def as_data(made: MadeIcons, written: Sequence[Path], changed: Sequence[Path]) -> dict[str, Any]:
    """What is printed as JSON."""
    found = made.icons.judged
    return {
        "files": [
            {
                "file": file.name,
                "format": file.format,
                "bytes": len(file.data),
                "sizes": list(file.sides),
                "rel": file.rel or None,
            }
            for file in made.icons.files
        ],
        "written": [as_typed(path) for path in written],
        "pages": [as_typed(path) for path in changed],
        "stands_out": {"light": found.stands_out_light, "dark": found.stands_out_dark},
        "survives_at_16": found.survives,
        "thinnest_at_16": found.thinnest,
        "maskable": {"reach": found.reach, "safe": SAFE, "is_safe": found.is_safe},
    }


def show(
    screen: Screen,
    made: MadeIcons,
    written: Sequence[Path],
    changed: Sequence[Path],
    *,
    is_dry: bool,
) -> None:
    """The files, how the icon stands out and what is left of it when small, and what to do next."""
    columns = [Column("file"), Column("sizes"), Column("bytes", is_right=True)]
    rows = (
        (file.name, ", ".join(map(str, file.sides)) or "any", f"{len(file.data):,} B")
        for file in made.icons.files
    )
    screen.table(columns, rows)
    screen.say("")
    for line in _judged(made.icons.judged):
        screen.say(line)
    screen.say("")
    screen.say(_written(written, made, is_dry=is_dry))
    if changed:
        verb = "would change" if is_dry else "changed"
        screen.say(f"{plural(len(changed), 'page')} {verb}: {', '.join(map(as_typed, changed))}.")
    elif made.published is not None:
        screen.say("head() in a template names them: riffler build")
    else:
        screen.say("For the head of each page:")
        for line in head(made):
            screen.say(f"  {line}")


def _judged(found: Judged) -> Iterator[str]:
    """What was found of the icon, in sentences."""
    for bar, share in (("light", found.stands_out_light), ("dark", found.stands_out_dark)):
        faint = ": hard to make out there" if share < FAINT else ""
        yield f"{share:.0%} of it stands out from a {bar} bar{faint}."
    blurred = ": draw it plainer for small sizes" if found.survives < BLURRED else ""
    yield f"{found.survives:.0%} of what it shows is left at 16 px{blurred}."
    if found.thinnest is not None and found.thinnest < 1:
        yield f"Its thinnest stroke is {found.thinnest:g} px wide there, less than a pixel."
    if not found.is_safe:
        yield "The maskable icon reaches beyond the zone that no mask cuts off."


def _written(written: Sequence[Path], made: MadeIcons, *, is_dry: bool) -> str:
    if is_dry:
        return "Nothing was written: this was a dry run."
    if made.published is None and not written:
        return "Nothing was written: -o says in which folder the files should go."
    return f"Wrote {_listed(written)}." if written else "All files are there as they are."


def _listed(written: Sequence[Path]) -> str:
    if len(written) <= 2:
        return " and ".join(map(as_typed, written))
    return f"{len(written)} files in {as_typed(written[0].parent)}"
