"""Weighed pictures -> the table that people read, and the data."""

from __future__ import annotations

from collections.abc import Iterator

from riffler.cutting.weigh import LINES, Connection, Square, Weighed, Weight
from riffler.encode.choice import LEVELS
from riffler.errors import listed
from riffler.formats import FORMATS
from riffler.report.screen import Column, Screen
from riffler.report.wording import kilobytes, pixels

_COLUMNS = (
    Column("", style="bold green"),
    Column("format", style="bold"),
    Column("setting"),
    Column("bytes", True),
    Column("level"),
    Column("what is lost"),
    Column("loss", True),
    Column("transparency"),
    *(Column(line.name, True) for line in LINES),
)

#: What the levels promise.
MEANT = {
    "exact": '"Exact" loses nothing.',
    "clear": 'Nobody tells a "clear" file from the mockup side by side.',
    "fair": 'What a "fair" file loses is not seen on the page.',
}


def show(screen: Screen, weighed: list[Weighed]) -> None:
    """A table for each picture, the files that are cut marked, and the sum of those."""
    for number, picture in enumerate(weighed):
        if number:
            screen.say("")
        size = pixels(picture.source.size.width, picture.source.size.height)
        screen.line(f"{picture.name}: {size} px")
        screen.table(_COLUMNS, [_row(weight) for weight in picture.weights])
        if picture.better is not None:
            screen.say(_better(picture.better, picture.chosen))
        if picture.missed:
            screen.say(f"Out of reach: {_missed(picture)}.")
    if len(weighed) > 1:
        total = kilobytes(sum(picture.chosen.bytes for picture in weighed))
        screen.say("")
        screen.say(f"Together {total} for who reads the smallest of each that is marked.")
    for line in _squares(weighed):
        screen.say(line)
    _legend(screen, weighed)


def _legend(screen: Screen, weighed: list[Weighed]) -> None:
    """What the marks, the levels and the names of lines mean."""
    screen.say("")
    cut = all(picture.source.slice for picture in weighed)
    screen.say("Marked is what a cut writes." if cut else "Marked is what a cut would write.")
    levels = {weight.level for picture in weighed for weight in picture.weights}
    screen.say(" ".join(text for level, text in MEANT.items() if level in levels))
    lines = "; ".join(
        f"{line.name}, {line.kilobits / 1000:g} Mbit/s after {line.wait:g} ms" for line in LINES
    )
    screen.say(f"Times are for lines so called: {lines}.")


def _better(better: Weight, chosen: Weight) -> str:
    """What would be smaller than what is asked for."""
    label, count = FORMATS[better.choice.format].label, kilobytes(better.bytes)
    saved = kilobytes(chosen.bytes - better.bytes)
    return f'As save = ["auto"] it would be {label} of {count}, {saved} less.'


def _squares(weighed: list[Weighed]) -> Iterator[str]:
    """What pictures would weigh together if CSS rounded their corners."""
    result = [(picture.name, picture.square) for picture in weighed if picture.square]
    if not result:
        return
    saved = kilobytes(sum(square.saved for _, square in result))
    yield ""
    if len(result) == 1:
        name, square = result[0]
        size = kilobytes(len(square.choice.data))
        yield (
            f"Only its rounded corners keep {name} from being a JPEG: with "
            f"border-radius: {_radii(square)} that would be {size}, {saved} less."
        )
        return
    yield (
        f"Only their rounded corners keep {len(result)} pictures from being JPEGs; with "
        f"border-radius they would be {saved} less together:"
    )
    for name, square in result:
        yield f"  {name}: {_radii(square)}, {kilobytes(square.saved)} less"


def _radii(square: Square) -> str:
    radii = square.radii[:1] if len(set(square.radii)) == 1 else square.radii
    return " ".join(f"{radius:g}px" for radius in radii)


def _missed(picture: Weighed) -> str:
    """The formats that reach a level at no setting."""
    by_format: dict[str, list[str]] = {}
    for name, level in picture.missed:
        by_format.setdefault(FORMATS[name].label, []).append(level)
    return "; ".join(f"{listed(levels, 'and')} for {name}" for name, levels in by_format.items())


def _row(weight: Weight) -> list[str]:
    choice = weight.choice
    loss = choice.loss or 0.0
    return [
        "*" if weight.is_chosen else "",
        FORMATS[choice.format].label,
        setting(weight),
        kilobytes(weight.bytes),
        weight.level,
        seen(loss),
        losing(loss),
        "kept" if weight.keeps_alpha else "",
        *(load_time(line, weight) for line in LINES),
    ]


def setting(weight: Weight) -> str:
    """What the file was encoded with, in words."""
    values = weight.choice.setting
    if "colors" in values:
        dithered = ", dithered" if "dither" in values else ""
        return f"{values['colors']} colours{dithered}"
    if "steps" in values:
        return f"lossless, in steps of {values['steps']}"
    return f"quality {values['quality']}" if "quality" in values else "lossless"


def losing(loss: float) -> str:
    """A visible loss as a number: 1 is the first that shows side by side."""
    return f"{loss:.2f}" if loss else "0"


def seen(loss: float) -> str:
    """What an eye makes of a visible loss."""
    if loss == 0:
        return "nothing"
    if loss <= LEVELS["clear"]:
        return "not seen"
    return "not seen on the page" if loss <= LEVELS["fair"] else "plainly seen"


def load_time(line: Connection, weight: Weight) -> str:
    """How long the file takes to come."""
    milliseconds = line.milliseconds(weight.bytes)
    return f"{milliseconds / 1000:.1f} s" if milliseconds >= 1000 else f"{milliseconds:.0f} ms"
