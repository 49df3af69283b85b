"""Sprites and files of symbols -> lines for the terminal."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from pathlib import Path

from riffler.files import as_typed
from riffler.output.publish import Published
from riffler.report.folders import list_files, outcome
from riffler.report.screen import Column, Screen
from riffler.report.wording import plural

#: Of what is printed as JSON.
VERSION = 1


def show_project(screen: Screen, published: Published, out: Path, *, is_dry: bool) -> None:
    """The project's sprites, and which of their files are new."""
    new = {asset.file for asset in published.written}
    rows = [
        (asset.file, f"{asset.bytes:,} B", "new" if asset.file in new else "")
        for asset in sorted(published.assets, key=lambda asset: asset.file)
    ]
    screen.table([Column("file"), Column("bytes", is_right=True), Column("")], rows)
    screen.say("")
    verb = "Would write" if is_dry else "Wrote"
    screen.say(f"{verb} {len(new)} of {plural(len(rows), 'file')} in {as_typed(out)}.")
    screen.say('sprite("NAME") and symbol("NAME") in a template show them: riffler build')


def show_files(
    screen: Screen,
    files: Mapping[str, bytes],
    sources: Sequence[Path],
    output: Path | None,
    *,
    is_dry: bool,
) -> None:
    """What was made of files, beside what they take apart from each other."""
    list_files(screen, files)
    before = sum(path.stat().st_size for path in sources)
    screen.say(f"Of {plural(len(sources), 'file')} with {before:,} B.")
    screen.say(outcome(files, output, is_dry=is_dry))
