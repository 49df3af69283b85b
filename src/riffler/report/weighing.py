"""Weighed pictures -> the table that people read, and the data."""

from __future__ import annotations

from riffler.cutting.weigh import LINES, Line, Square, Weighed, Weight
from riffler.encode.choice import LEVELS
from riffler.errors import listed
from riffler.formats import FORMATS
from riffler.report.screen import Column, Screen
from riffler.report.wording import kilobytes, pixels, plural

_COLUMNS = (
    Column("", style="bold green"), Column("format", style="bold"), Column("setting"),
    Column("bytes", True), Column("level"), Column("seen"), Column("loss", True),
    Column("transparency"),
    *(Column(line.name, True) for line in LINES),
)  # fmt: skip

#: What the levels promise, to be read after "the smallest file of".
MEANT = {
    "exact": '"exact", which loses nothing',
    "clear": '"clear", which nobody tells from the mockup side by side',
    "fair": '"fair", whose loss nobody sees on the page',
}


def show(screen: Screen, weighed: list[Weighed]) -> None:
    """A table for each picture, the chosen file marked, and the sum of the chosen ones."""
    for number, picture in enumerate(weighed):
        if number:
            screen.say("")
        size = pixels(picture.source.size.width, picture.source.size.height)
        screen.line(f"{picture.name}: {size} px")
        screen.table(_COLUMNS, [_row(weight) for weight in picture.weights])
        if picture.square is not None:
            screen.say(_square(picture.square))
        if picture.missed:
            screen.say(f"Out of reach: {_missed(picture)}.")
    if len(weighed) > 1:
        total = kilobytes(sum(picture.chosen.bytes for picture in weighed))
        screen.say("")
        screen.say(f"Together {total} as marked, in {plural(len(weighed), 'file')}.")
    lines = "; ".join(
        f"{line.name}, {line.kilobits / 1000:g} Mbit/s after {line.wait:g} ms" for line in LINES
    )
    screen.say("")
    levels = sorted({picture.source.level for picture in weighed}, key=list(LEVELS).index)
    screen.say(f"Marked is the smallest file of {' or '.join(MEANT[level] for level in levels)}.")
    screen.say(f"Times are for lines so called: {lines}.")


def _square(square: Square) -> str:
    """What a picture would weigh if CSS rounded its corners."""
    radii = square.radii[:1] if len(set(square.radii)) == 1 else square.radii
    said = " ".join(f"{radius:g}px" for radius in radii)
    size = len(square.choice.data)
    return (
        f"Only its rounded corners need transparency: a JPEG of {kilobytes(size)} and "
        f"border-radius: {said} save {kilobytes(square.saved)} where neither WebP nor AVIF is read."
    )


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
    said = weight.choice.setting
    if "colors" in said:
        return f"{said['colors']} colours"
    if "steps" in said:
        return f"lossless, in steps of {said['steps']}"
    return f"quality {said['quality']}" if "quality" in said else "lossless"


def losing(loss: float) -> str:
    """A visible loss as a number: 1 is the first that shows side by side."""
    return f"{loss:.2f}" if loss else "0"


def seen(loss: float) -> str:
    """What an eye makes of a visible loss."""
    if loss == 0:
        return "nothing"
    if loss <= LEVELS["clear"]:
        return "by nobody"
    return "not on the page" if loss <= LEVELS["fair"] else "plainly"


def load_time(line: Line, weight: Weight) -> str:
    """How long the file takes to come."""
    milliseconds = line.milliseconds(weight.bytes)
    return f"{milliseconds / 1000:.1f} s" if milliseconds >= 1000 else f"{milliseconds:.0f} ms"
