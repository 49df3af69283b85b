"""An edit of a cutlist -> the lines that went and came."""

from __future__ import annotations

from rich.text import Text

from riffler.files import as_typed
from riffler.plain import clean
from riffler.plan.wish import Marked
from riffler.report.screen import Screen


def show_mark(screen: Screen, done: Marked, name: str, *, is_dry: bool) -> None:
    """The changed lines with their numbers, and the box that the slice has now."""
    if not screen.is_quiet:
        for line in done.lines:
            style = {"-": "red", "+": "green"}[line.sign]
            text = f"{line.number:>5} {line.sign} {clean(line.text)}".rstrip()
            screen.line(Text(text, style=style))
    if not done.lines:
        screen.say(f"{as_typed(done.file)} says so already.")
        return
    verb = "Would change" if is_dry else "Changed"
    where = ""
    if (box := done.box) is not None:
        where = f": {name} is {box.width} x {box.height} px at {box.x}, {box.y}"
    screen.say(f"{verb} {as_typed(done.file)}{where}.")
