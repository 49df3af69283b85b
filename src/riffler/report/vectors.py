"""Tidied vector files -> lines for the terminal."""

from __future__ import annotations

from collections.abc import Sequence
from pathlib import Path

from riffler.errors import enumerated
from riffler.files import as_typed
from riffler.report.screen import Column, Screen
from riffler.report.wording import plural
from riffler.vector.batch import DrawingSource
from riffler.vector.tidied import VectorFile

#: Files that are listed; the sum of all is always there.
SHOWN = 40


def show(
    screen: Screen,
    sources: Sequence[DrawingSource],
    files: Sequence[VectorFile],
    written: Sequence[Path],
) -> None:
    """Bytes before and after, plain and gzipped, what is seen of it, and what was written."""
    columns = [
        Column("drawing"),
        Column("before", is_right=True),
        Column("after", is_right=True),
        Column("saved", is_right=True),
        Column("gzipped", is_right=True),
        Column("after", is_right=True),
        Column("differs", is_right=True),
    ]
    rows = [_row(source.name, [file]) for source, file in zip(sources, files, strict=True)]
    if len(rows) > SHOWN:
        rows = rows[:SHOWN]
    if len(files) > 1:
        rows.append(_row(f"all {len(files)}", files))
    screen.table(columns, rows)
    screen.say("")
    for source, file in zip(sources, files, strict=True):
        if file.removed:
            screen.say(f"{source.what}: {enumerated(file.removed)} taken out.")
        for name, color in file.colors:
            screen.say(f"{name}: {color};")
    if written:
        names = [as_typed(path) for path in written]
        text = (
            ", ".join(names)
            if len(names) <= 3
            else f"{len(names)} files in {as_typed(written[0].parent)}"
        )
        screen.say(f"Wrote {text}.")
    else:
        screen.say(f"Nothing was written: -o says where {plural(len(files), 'file')} should go.")


def _row(name: str, files: Sequence[VectorFile]) -> tuple[str, ...]:
    before, after = sum(f.before for f in files), sum(f.after for f in files)
    zipped = sum(f.zipped_before for f in files)
    return (
        name,
        f"{before:,} B",
        f"{after:,} B",
        f"{1 - after / before:.0%}" if before else "",
        f"{zipped:,} B",
        f"{sum(f.zipped_after for f in files):,} B",
        _seen(max(f.difference.mean for f in files)),
    )


def _seen(mean: float) -> str:
    """The mean difference, of 255."""
    return "nothing" if mean == 0 else f"{mean:.3f}/255"
