"""What was roughed out -> lines for the terminal, and data."""

from __future__ import annotations

from typing import Any

import typer

from riffler.markup.roughing import Roughed
from riffler.mirror.deviations import Deviation
from riffler.mirror.instances import Instance
from riffler.mirror.looking import View
from riffler.mirror.troubles import Trouble
from riffler.report.screen import Column, Screen
from riffler.report.wording import plural

#: Pictures and slices that are named; of more the number is said.
NAMED = 6

#: Letters of a text that are shown.
LETTERS = 32


def show(screen: Screen, roughed: Roughed, view: View, *, is_dry: bool) -> None:
    """The files that were written, what is left to be said, what to do next."""
    rows = [(name, str(text.count("\n"))) for name, text in roughed.files]
    screen.table([Column("file"), Column("lines", is_right=True)], rows)
    screen.say("")
    if roughed.unsaid:
        screen.say(f"Left to say: {plural(roughed.unsaid, 'thing')}, marked unsaid: riffler check")
    _name(screen, "Shown by no slice", [f"{address} ({page})" for page, address in roughed.missing])
    _name(screen, "Slices without a place", [name for _, name in roughed.unused])
    _name(screen, "Words that stand nowhere", [f'"{text}" ({page})' for page, text in roughed.lost])
    hidden = [f'"{text}" ({page})' for page, text in _hidden(roughed, view)]
    _name(screen, "Not in the narrow mockup, so hidden there", hidden)
    only = [f'"{text}" ({page})' for page, text in roughed.only]
    _name(screen, "In the narrow mockup alone, so on no page", only)
    _show_seen(screen, view)
    pages = plural(len(roughed.pages), "page")
    if is_dry:
        screen.say(f"Would rough out {pages}. Nothing was written: this was a dry run.")
        return
    screen.say(f"Roughed out {pages}. They are yours now: nothing writes over them.")
    screen.say("Next: riffler cut, then riffler build")


def _hidden(roughed: Roughed, view: View) -> list[tuple[str, str]]:
    """The texts that narrow pages leave out, by page."""
    seen = [(one.page, text) for one in view.seen for text in one.hidden]
    return list(dict.fromkeys((*roughed.hidden, *seen)))


def _show_seen(screen: Screen, view: View) -> None:
    """Where the pages stand as the mockups have them, and what does not."""
    if view.missing:
        screen.say(f"Not looked at in a browser. {view.missing}")
    for seen in view.seen:
        where = f"{seen.page} at {seen.width:g} px"
        if seen.failed:
            screen.say(f"Not looked at: {where}. {seen.failed}")
            continue
        placed = seen.things - len(seen.off)
        screen.say(f"In a browser, {where}: {placed} of {plural(seen.things, 'thing')} in place")
        _name(screen, "  Off", [_off(deviation) for deviation in seen.off])
        _name(screen, "  Wrong", [_trouble(trouble) for trouble in seen.troubles])


def _called(instance: Instance) -> str:
    """What a thing is called: by its words, or its element."""
    shown = instance.shown
    text = shown.words.text if shown.words else ""
    if text:
        return f'"{text[:LETTERS].strip()}"'
    return f"{shown.tag} {' '.join(instance.ruled.classes)}".strip()


def _trouble(trouble: Trouble) -> str:
    """What goes wrong, and where."""
    return f"{trouble.kind.value} at {trouble.width:g} px: {_called(trouble.instance)}"


def _off(deviation: Deviation) -> str:
    """What is off, and how."""
    name = _called(deviation.instance)
    if deviation.lines:
        many = plural(abs(deviation.lines), "line")
        return f"{name} {many} too {'long' if deviation.lines > 0 else 'short'}"
    if deviation.is_broken:
        return f"{name} breaks otherwise"
    sides = (
        (deviation.down, "lower", "higher"),
        (deviation.across, "to the right", "to the left"),
        (deviation.higher, "too high", "too low"),
        (deviation.wider, "too wide", "too narrow"),
    )
    length, more, less = max(sides, key=lambda side: abs(side[0]))
    return f"{name} {abs(length):.3g} px {more if length > 0 else less}"


def _name(screen: Screen, what: str, names: list[str]) -> None:
    if names:
        more = f" and {len(names) - NAMED} more" if len(names) > NAMED else ""
        screen.say(f"{what}: {', '.join(names[:NAMED])}{more}")


def print_files(screen: Screen, roughed: Roughed) -> None:
    """The files one after the other, each under its name where there are several."""
    for number, (name, text) in enumerate(roughed.files):
        if len(roughed.files) > 1:
            screen.say(f"{'' if number == 0 else chr(10)}== {name}")
        typer.echo(text, nl=False)


def as_data(roughed: Roughed, view: View) -> dict[str, Any]:
    """What is printed as JSON."""
    return {
        "pages": list(roughed.pages),
        "files": [{"file": name, "text": text} for name, text in roughed.files],
        "unsaid": roughed.unsaid,
        "missing": [{"page": page, "layer": address} for page, address in roughed.missing],
        "unused": [{"page": page, "slice": name} for page, name in roughed.unused],
        "hidden": [{"page": page, "text": text} for page, text in _hidden(roughed, view)],
        "only": [{"page": page, "name": name} for page, name in roughed.only],
        "looked_at": [
            {
                "page": seen.page,
                "width": seen.width,
                "things": seen.things,
                "off": [_off(deviation) for deviation in seen.off],
                "troubles": [_trouble(trouble) for trouble in seen.troubles],
                "failed": seen.failed,
            }
            for seen in view.seen
        ],
        "lost": [{"page": page, "text": text} for page, text in roughed.lost],
    }
