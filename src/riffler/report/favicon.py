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


def head(icons: MadeIcons) -> list[str]:
    """The lines for the head of a page beside the files."""
    return heading.lines(icons.assets, lambda file: file, icons.theme)


def as_data(icons: MadeIcons, written: Sequence[Path], changed: Sequence[Path]) -> dict[str, Any]:
    """What is printed as JSON."""
    judged = icons.icons.judged
    return {
        "files": [
            {
                "file": file.name,
                "format": file.format,
                "bytes": len(file.data),
                "sizes": list(file.sides),
                "rel": file.rel or None,
            }
            for file in icons.icons.files
        ],
        "written": [as_typed(path) for path in written],
        "pages": [as_typed(path) for path in changed],
        "stands_out": {"light": judged.stands_out_light, "dark": judged.stands_out_dark},
        "survives_at_16": judged.survives,
        "thinnest_at_16": judged.thinnest,
        "maskable": {"reach": judged.reach, "safe": SAFE, "is_safe": judged.is_safe},
    }


def show(
    screen: Screen,
    icons: MadeIcons,
    written: Sequence[Path],
    changed: Sequence[Path],
    *,
    is_dry: bool,
) -> None:
    """The files, how the icon stands out and what is left of it when small, and what to do next."""
    columns = [Column("file"), Column("sizes"), Column("bytes", is_right=True)]
    rows = (
        (file.name, ", ".join(map(str, file.sides)) or "any", f"{len(file.data):,} B")
        for file in icons.icons.files
    )
    screen.table(columns, rows)
    screen.say("")
    for line in _judged(icons.icons.judged):
        screen.say(line)
    screen.say("")
    screen.say(_written(written, icons, is_dry=is_dry))
    if changed:
        verb = "would change" if is_dry else "changed"
        screen.say(f"{plural(len(changed), 'page')} {verb}: {', '.join(map(as_typed, changed))}.")
    elif icons.published is not None:
        screen.say("head() in a template names them: riffler build")
    else:
        screen.say("For the head of each page:")
        for line in head(icons):
            screen.say(f"  {line}")


def _judged(judged: Judged) -> Iterator[str]:
    """What was found of the icon, in sentences."""
    for bar, share in (("light", judged.stands_out_light), ("dark", judged.stands_out_dark)):
        faint = ": hard to make out there" if share < FAINT else ""
        yield f"{share:.0%} of it stands out from a {bar} bar{faint}."
    blurred = ": draw it plainer for small sizes" if judged.survives < BLURRED else ""
    yield f"{judged.survives:.0%} of what it shows is left at 16 px{blurred}."
    if judged.thinnest is not None and judged.thinnest < 1:
        yield f"Its thinnest stroke is {judged.thinnest:g} px wide there, less than a pixel."
    if not judged.is_safe:
        yield "The maskable icon reaches beyond the zone that no mask cuts off."


def _written(written: Sequence[Path], icons: MadeIcons, *, is_dry: bool) -> str:
    if is_dry:
        return "Nothing was written: this was a dry run."
    if icons.published is None and not written:
        return "Nothing was written: -o says in which folder the files should go."
    return f"Wrote {_listed(written)}." if written else "All files are there as they are."


def _listed(written: Sequence[Path]) -> str:
    if len(written) <= 2:
        return " and ".join(map(as_typed, written))
    return f"{len(written)} files in {as_typed(written[0].parent)}"
