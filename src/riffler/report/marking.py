"""An edit of a cutlist -> the lines that went and came."""

from __future__ import annotations

from rich.text import Text

from riffler.files import as_typed
from riffler.plain import clean
from riffler.plan.rename import Renamed
from riffler.plan.wish import Change, Marked
from riffler.report.screen import Screen
from riffler.report.wording import plural


def show_mark(screen: Screen, marked: Marked, name: str, *, is_dry: bool) -> None:
    """The changed lines with their numbers, and the box that the slice has now."""
    _show_lines(screen, marked)
    if not marked.lines:
        screen.say(f"{as_typed(marked.file)} says so already.")
        return
    verb = "Would change" if is_dry else "Changed"
    where = ""
    if (box := marked.box) is not None:
        where = f": {name} is {box.width} x {box.height} px at {box.x}, {box.y}"
    screen.say(f"{verb} {as_typed(marked.file)}{where}.")


def show_rename(screen: Screen, renamed: Renamed, *, is_dry: bool) -> None:
    """The changed lines file by file, and the lines that a person should look at."""
    for change in renamed.changes:
        if not screen.is_quiet:
            screen.line(Text(as_typed(change.file), style="bold"))
        _show_lines(screen, change)
    for mention in renamed.left:
        where = f"{as_typed(mention.file)}:{mention.line}"
        screen.say(f"{where} may mean it, too, and stays as it is: {clean(mention.text)}")
    if not renamed.changes:
        screen.say(f"The {renamed.kind} {renamed.old} is called {renamed.new} already.")
        return
    verb = "Would rename" if is_dry else "Renamed"
    files = plural(len(renamed.changes), "file")
    screen.say(f"{verb} the {renamed.kind} {renamed.old} to {renamed.new} in {files}.")
    if renamed.kind == "slice" and not is_dry:
        screen.say("Next: riffler cut")


def _show_lines(screen: Screen, change: Change) -> None:
    if screen.is_quiet:
        return
    for line in change.lines:
        style = {"-": "red", "+": "green"}[line.sign]
        text = f"{line.number:>5} {line.sign} {clean(line.text)}".rstrip()
        screen.line(Text(text, style=style))
