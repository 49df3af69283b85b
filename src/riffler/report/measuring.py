"""Numbers of a mockup -> lines of text to read, to paste, or to open as a spreadsheet."""

from __future__ import annotations

import csv
import io
from collections.abc import Iterable, Iterator, Sequence
from typing import TYPE_CHECKING

from riffler.measure.css import Css, words_css
from riffler.measure.distances import Between, Insets, Meeting
from riffler.measure.document import Document
from riffler.measure.one import Measured
from riffler.measure.things import MeasuredThing, Sort
from riffler.measure.units import Scale
from riffler.plain import formula_free
from riffler.report.screen import Column, Screen

if TYPE_CHECKING:  # it loads all that reading text needs
    from riffler.measure.texts import Said

#: The columns of a list of things.
HEADINGS = ("kind", "name", "left", "top", "width", "height")

#: So many rows, and sets of columns, are shown.
SHOWN = 16

#: What is not "a" thing.
ARTICLES = {Sort.CANVAS: "the"}

#: How shares that people know are said.
SHARES = {
    1.0: "all",
    0.75: "three quarters",
    0.6667: "two thirds",
    0.5: "half",
    0.3333: "a third",
    0.25: "a quarter",
}

_Lines = Iterable[tuple[str, str, str]]
"""What is told, the numbers, and what they are for."""


def show_one(screen: Screen, measured: Measured, scale: Scale) -> None:
    """A thing's numbers, line by line."""
    screen.say(_heading(measured.thing, scale))
    screen.say("")
    _lines(screen, _one(measured, scale))


def _heading(thing: MeasuredThing, scale: Scale) -> str:
    return f"{thing.name}: {ARTICLES.get(thing.sort, 'a')} {thing.sort}, in {_unit(scale)}."


def _unit(scale: Scale) -> str:
    """What lengths are said in, of which mockup pixels."""
    names = {
        "px": "CSS pixels",
        "rem": f"rem of {scale.base:g} px",
        "vw": f"vw of {scale.window:g} px",
        "%": f"per cent of the content width of {scale.content:g} px",
    }
    density = f" (density {scale.density:g})" if scale.density != 1 else ""
    return names[scale.unit] + density


def _one(measured: Measured, scale: Scale) -> Iterator[tuple[str, str, str]]:
    box, thing = measured.thing.box, measured.thing
    if thing.sort is Sort.GUIDE:
        upright = box.width == 0
        yield (
            "at",
            scale.say(box.x if upright else box.y),
            "from the left" if upright else "from the top",
        )
        return
    if thing.sort is not Sort.POINT:
        yield "size", f"{scale.say(box.width)} x {scale.say(box.height)}", ""
    if thing.sort is Sort.CANVAS:
        return
    yield "place", f"{scale.say(box.x)}, {scale.say(box.y)}", "from the left and the top"
    ends = f"{scale.say(measured.canvas.right)}, {scale.say(measured.canvas.bottom)}"
    yield "", ends, "from the right and the bottom"
    for what, inside in (("on", measured.on), ("in", measured.group)):
        if inside is not None and inside.insets != measured.canvas:
            yield (
                what,
                _sides(inside.insets, scale),
                f"inside {inside.name}, clockwise from the top",
            )
    for side, near in measured.beside.items():
        yield side, scale.say(near.gap), near.name
    if measured.share is not None:
        value = SHARES.get(round(measured.share, 4), f"{100 * measured.share:.3g} %")
        yield "share", value, "of the content width"
    if (span := measured.columns) is not None:
        numbers = f"{span.first}" if span.first == span.last else f"{span.first} to {span.last}"
        yield "columns", numbers, f"of {span.of}"


def _sides(insets: Insets, scale: Scale) -> str:
    """In the order of CSS, so that it can be pasted as a padding."""
    return " ".join(
        scale.say(side) for side in (insets.top, insets.right, insets.bottom, insets.left)
    )


def show_two(
    screen: Screen, first: MeasuredThing, second: MeasuredThing, between: Between, scale: Scale
) -> None:
    """How far two things are apart, and which of their lines agree."""
    screen.say(f"{first.name} and {second.name}, in {_unit(scale)}.")
    screen.say("")
    _lines(screen, _two(between, scale))


def _two(between: Between, scale: Scale) -> Iterator[tuple[str, str, str]]:
    for what, apart, way in (
        ("across", between.across, ("right", "left")),
        ("down", between.down, ("below", "above")),
    ):
        gap = f"overlap by {scale.say(-apart.gap)}" if apart.gap < 0 else scale.say(apart.gap)
        yield what, gap, "between the edges"
        where = f"{way[0] if apart.center > 0 else way[1]}, from middle to middle"
        yield "", scale.say(abs(apart.center)), where if apart.center else "from middle to middle"
    if between.overlap is not None:
        width, height = scale.say(between.overlap.width), scale.say(between.overlap.height)
        yield "shared", f"{width} x {height}", ""
    if between.inside is not None:
        yield "inside", _sides(between.inside, scale), "one in the other, clockwise from the top"
    if between.aligned:
        yield "in line", ", ".join(map(_told, between.aligned)), ""
    for meeting in between.missed:
        yield "misses", _told(meeting), f"by {scale.say(meeting.off)}"


def _told(meeting: Meeting) -> str:
    if meeting.line == meeting.other:
        return meeting.line
    return f"{meeting.line} of the first, {meeting.other} of the second"


def show_document(screen: Screen, document: Document, scale: Scale) -> None:
    """The whole page."""
    screen.say(f"The whole, in {_unit(scale)}.")
    screen.say("")
    _lines(screen, _document(document, scale))


def _document(document: Document, scale: Scale) -> Iterator[tuple[str, str, str]]:
    yield "size", f"{scale.say(document.width)} x {scale.say(document.height)}", ""
    left, width = scale.say(document.frame.left), scale.say(document.frame.width)
    count = len(document.frame.columns)
    yield "content", width, f"from {left}" + (f", {count} columns" if count else "")
    for number, row in enumerate(document.rows[:SHOWN]):
        what = "" if number else "rows"
        yield what, scale.say(row.height), f"{row.name}, from {scale.say(row.top)}"
    yield from _left(len(document.rows), "rows")
    for number, columns in enumerate(document.columns[:SHOWN]):
        widths = " : ".join(scale.say(width) for width in columns.widths)
        gaps = ", ".join(dict.fromkeys(scale.say(gap) for gap in columns.gaps))
        names = ", ".join(dict.fromkeys(columns.names))
        yield "" if number else "columns", widths, f"{names}; gaps {gaps}" if gaps else names
    yield from _left(len(document.columns), "sets of columns")


def _left(count: int, what: str) -> Iterator[tuple[str, str, str]]:
    """A row that says how many more there are than are shown, if any."""
    if count > SHOWN:
        yield "", "...", f"and {count - SHOWN} more {what}: --json"


def show_all(screen: Screen, rows: Iterable[Sequence[str]]) -> None:
    """Things below one another."""
    columns = [
        Column(HEADINGS[0]),
        Column(HEADINGS[1], style="bold"),
        *(Column(heading, is_right=True) for heading in HEADINGS[2:]),
    ]
    screen.table(columns, rows)


def show_csv(screen: Screen, rows: Iterable[Sequence[str]]) -> None:
    """Things as comma-separated values; RFC 4180, with line feeds alone.

    A name that a spreadsheet would take for a formula is not begun as one.
    """
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow(HEADINGS)
    for kind, name, *lengths in rows:
        writer.writerow([kind, formula_free(name), *lengths])
    for line in out.getvalue().splitlines():
        screen.line(line)


def show_css(screen: Screen, thing: MeasuredThing, css: Css) -> None:
    """The declarations, ready to paste; what is to be known of them as comments."""
    about = [f"{thing.name}, by {css.of}" if css.of else thing.name]
    about += [*css.notes, *([css.refused] if css.refused else [])]
    for line in about:
        screen.line(f"/* {line.replace('*/', '* /')} */")
    for prop, value in css.declarations:
        screen.line(f"{prop}: {value};")


#: Where the words of a text are from.
SOURCES = {
    "document": "as the document has it",
    "cutlist": "as the cutlist has it",
    "read": "read from its pixels",
}


def show_words(screen: Screen, thing: MeasuredThing, text: Said, scale: Scale) -> None:
    """What a text says, then how it is set, or what was measured of it."""
    screen.say(f"{thing.name}: {SOURCES[text.source]}.")
    screen.say("")
    for line in text.lines:
        screen.line(f"  {line}")
    screen.say("")
    if text.unsure:
        screen.say(f"  not sure: {', '.join(text.unsure)}")
    for prop, value in words_css(text.words, scale) if text.words else ():
        screen.line(f"  {prop}: {value};")
    for said_text in _type(text, scale):
        screen.say(f"  {said_text}")


def _type(text: Said, scale: Scale) -> Iterator[str]:
    """How sure the type is, and what else it could be; what is measured where none fits."""
    if (best := text.type) is not None:
        sure = "sure" if best.is_sure else "likely"
        yield f"{best.face.family} lies on {100 * best.score:.0f} % of the ink: {sure}."
        others = [
            f"{candidate.face.family} {candidate.face.weight} ({100 * candidate.score:.0f} %)"
            for candidate in best.runners
        ]
        if others:
            yield f"Next best: {', '.join(others)}."
    elif (shape := text.shape) is not None:
        yield "No font that is here fits. Measured:"
        yield f"small letters {scale.say(shape.small, unit=True)} high"
        if shape.capital is not None:
            yield f"capitals and stems {scale.say(shape.capital, unit=True)} high"
        yield f"strokes {scale.say(shape.stroke, unit=True)} thick, {shape.manner}"
        if text.line_step is not None:
            yield f"lines {scale.say(text.line_step, unit=True)} apart"


def _lines(screen: Screen, lines: _Lines) -> None:
    rows = list(lines)
    widths = [max((len(row[column]) for row in rows), default=0) for column in (0, 1)]
    for what, numbers, about in rows:
        screen.line(f"  {what.ljust(widths[0])}  {numbers.ljust(widths[1])}  {about}".rstrip())
