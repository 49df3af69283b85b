"""Weighed pictures -> the table that people read, and the data."""

from __future__ import annotations

from riffler.cutting.weigh import LINES, Line, Weighed, Weight
from riffler.encode.choice import LEVELS
from riffler.formats import FORMATS
from riffler.report.screen import Column, Screen
from riffler.report.wording import kilobytes, pixels, plural

_COLUMNS = (
    Column("", style="bold green"), Column("format", style="bold"), Column("setting"),
    Column("bytes", True), Column("seen"), Column("loss", True), Column("transparency"),
    *(Column(line.name, True) for line in LINES),
)  # fmt: skip


def show(screen: Screen, weighed: list[Weighed]) -> None:
    """A table for each picture, the chosen file marked, and the sum of the chosen ones."""
    for number, picture in enumerate(weighed):
        if number:
            screen.say("")
        size = pixels(picture.source.size.width, picture.source.size.height)
        screen.line(f"{picture.name}: {size} px")
        screen.table(_COLUMNS, [_row(weight) for weight in picture.weights])
    if len(weighed) > 1:
        total = kilobytes(sum(picture.chosen.bytes for picture in weighed))
        screen.say("")
        screen.say(f"Together {total} as marked, in {plural(len(weighed), 'file')}.")
    lines = "; ".join(
        f"{line.name}, {line.kilobits / 1000:g} Mbit/s after {line.wait:g} ms" for line in LINES
    )
    screen.say("")
    screen.say("Marked is the smallest file that nobody tells from the mockup.")
    screen.say(f"Times are for lines so called: {lines}.")


def _row(weight: Weight) -> list[str]:
    choice = weight.choice
    loss = choice.loss or 0.0
    return [
        "*" if weight.is_chosen else "",
        FORMATS[choice.format].label,
        setting(weight),
        kilobytes(weight.bytes),
        seen(choice.felt),
        f"{loss:.4f}" if loss else "0",
        "kept" if weight.keeps_alpha else "",
        *(load_time(line, weight) for line in LINES),
    ]


def setting(weight: Weight) -> str:
    """What the file was encoded with, in words."""
    said = weight.choice.setting
    if "colors" in said:
        return f"{said['colors']} colours"
    return f"quality {said['quality']}" if "quality" in said else "lossless"


def seen(loss: float) -> str:
    """What an eye makes of a visible loss, as it is felt."""
    if loss == 0:
        return "nothing"
    if loss <= LEVELS["clear"]:
        return "by nobody"
    return "side by side" if loss <= LEVELS["fair"] else "plainly"


def load_time(line: Line, weight: Weight) -> str:
    """How long the file takes to come."""
    milliseconds = line.milliseconds(weight.bytes)
    return f"{milliseconds / 1000:.1f} s" if milliseconds >= 1000 else f"{milliseconds:.0f} ms"
