"""What is asked of a mockup -> its numbers as data, in the unit that is wanted."""

from __future__ import annotations

import shlex
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from functools import cached_property
from typing import TYPE_CHECKING, Any

from riffler.errors import RifflerError
from riffler.geometry import Rect
from riffler.measure import document as documents
from riffler.measure.css import Css, css_of, size_of, words_css
from riffler.measure.distances import Between, Insets, Meeting, between
from riffler.measure.frame import Frame, frame_of
from riffler.measure.one import Inside, Measured, measured
from riffler.measure.things import NOWHERE, MeasuredThing, Things, mockup_of
from riffler.measure.units import Scale, Unit
from riffler.reading.look import reading_of
from riffler.reading.reading import Reading
from riffler.workspace import Workspace

if TYPE_CHECKING:  # it loads all that reading text needs
    from riffler.measure.texts import Said

#: The version of what `as_data` functions give.
VERSION = 1


@dataclass(frozen=True)
class Measuring:
    """A mockup that is measured: its things, where its content lies, how lengths are said."""

    things: Things
    reading: Reading
    frame: Frame
    scale: Scale
    language: str = "eng"

    def one(self, name: str) -> Measured:
        """The numbers of a thing."""
        return measured(self.things, self._placed(name), self.frame)

    def _placed(self, name: str) -> MeasuredThing:
        """The thing that is called so. Raises RifflerError for text that nobody can draw."""
        thing = self.things.named(name)
        if thing.box is NOWHERE:
            raise RifflerError(
                f'"{thing.name}" is not drawn: its typeface is missing.',
                "Put it into the project's fonts folder; --css tells its type without it.",
            )
        return thing

    def two(self, name: str, other_name: str) -> tuple[MeasuredThing, MeasuredThing, Between]:
        """Two things and what they have to do with each other."""
        thing, two = self._placed(name), self._placed(other_name)
        return thing, two, between(thing.box, two.box, self.scale.density)

    def css(self, name: str) -> tuple[MeasuredThing, Css]:
        """The style of a thing, of a slice by its only layer; of others the size alone."""
        thing = self.things.named(name)
        address = thing.layer or self.things.only_layer(thing)
        if address is None:
            return thing, Css(size_of(thing.box, self.scale))
        layer = self.things.opened.mockup.by_address[address]
        opened = self.things.opened
        if layer.words is None and self.reading.is_words(layer):
            from riffler.typeset.layers import learn  # it loads all that setting text needs

            learn(self.reading, opened.cutlist, opened.fonts, layer.address)
        found_css = css_of(self.reading, layer, thing.box, self.scale)
        if thing.layer is None:
            found_css = replace(found_css, of=found_css.of or address)
        elif found_css.refused:
            cut = f"As a slice: riffler mark NAME --only {shlex.quote(address)}"
            found_css = replace(found_css, refused=f"{found_css.refused} {cut}")
        if thing.box is NOWHERE:
            return thing, replace(
                found_css, notes=(*found_css.notes, "not drawn: its typeface is missing")
            )
        on = measured(self.things, thing, self.frame).on
        return thing, replace(found_css, notes=(*found_css.notes, *self._place(on)))

    def words(self, name: str) -> Said:
        """What a text says and how it is set: as the document or the cutlist has it, else read.

        A text is a layer, a slice of a single one, or a box of a picture. Raises RifflerError for
        what holds no words, and where they have to be read and Tesseract is not installed.
        """
        from riffler.measure.texts import words_of

        thing = self.things.named(name)
        address = thing.layer or self.things.only_layer(thing)
        layer = self.things.opened.mockup.by_address[address] if address else None
        return words_of(self.things.opened, self.reading, thing, layer, self.language)

    def _place(self, on: Inside | None) -> Iterator[str]:
        """Where a thing is in what it lies on, in words."""
        if on is not None:
            left, top = (
                self.scale.say(length, unit=True) for length in (on.insets.left, on.insets.top)
            )
            yield f"{left} from the left and {top} from the top of {on.name}"

    @cached_property
    def every(self) -> list[MeasuredThing]:
        """Every layer that shows, and every slice."""
        return [*self.things.layers, *self.things.slices]

    @cached_property
    def document(self) -> documents.Document:
        """The whole page."""
        return documents.document(self.reading, self.frame)


def measuring(
    workspace: Workspace,
    names: Sequence[str] = (),
    where: str | None = None,
    unit: Unit | None = None,
    base: float | None = None,
) -> Measuring:
    """Open what is to be measured. Raises RifflerError where no mockup, or several, are meant."""
    opened = mockup_of(workspace, names, where)
    reading = reading_of(opened)
    density = reading.density
    frame = frame_of(opened, density)
    measure = workspace.project.settings.measure if workspace.has_project else None
    scale = Scale(
        unit or (measure.unit if measure else "px"),
        density,
        base or (measure.base if measure else 16.0),
        opened.mockup.size.width / density,
        frame.width / density,
    )
    return Measuring(Things(opened), reading, frame, scale, workspace.language)


def one_as_data(measured: Measured, scale: Scale) -> dict[str, Any]:
    """A thing's numbers."""
    columns = measured.columns
    return {
        **thing_as_data(measured.thing, scale),
        "canvas": _insets(measured.canvas, scale),
        "on": _inside(measured.on, scale),
        "group": _inside(measured.group, scale),
        "beside": {
            side: {"name": near.name, "gap": scale.of(near.gap)}
            for side, near in measured.beside.items()
        },
        "share": None if measured.share is None else round(measured.share, 4),
        "columns": columns and {"first": columns.first, "last": columns.last, "of": columns.of},
    }


def two_as_data(
    first: MeasuredThing, second: MeasuredThing, between: Between, scale: Scale
) -> dict[str, Any]:
    """What two things have to do with each other."""
    return {
        "things": [thing_as_data(thing, scale) for thing in (first, second)],
        **{
            axis: {"gap": scale.of(apart.gap), "center": scale.of(apart.center)}
            for axis, apart in (("across", between.across), ("down", between.down))
        },
        "overlap": between.overlap and _box(between.overlap, scale),
        "inside": between.inside and _insets(between.inside, scale),
        "aligned": [_meeting(meeting, scale) for meeting in between.aligned],
        "missed": [_meeting(meeting, scale) for meeting in between.missed],
    }


def document_as_data(document: documents.Document, scale: Scale) -> dict[str, Any]:
    """The whole page."""
    return {
        "width": scale.of(document.width),
        "height": scale.of(document.height),
        "content": {"left": scale.of(document.frame.left), "width": scale.of(document.frame.width)},
        "rows": [
            {"name": row.name, "top": scale.of(row.top), "height": scale.of(row.height)}
            for row in document.rows
        ],
        "columns": [
            {
                "names": list(columns.names),
                "widths": [scale.of(width) for width in columns.widths],
                "gaps": [scale.of(gap) for gap in columns.gaps],
            }
            for columns in document.columns
        ],
    }


def css_as_data(thing: MeasuredThing, css: Css, scale: Scale) -> dict[str, Any]:
    """The style of a thing."""
    return {
        **thing_as_data(thing, scale),
        "of": css.of,
        "css": dict(css.declarations),
        "notes": list(css.notes),
        "refused": css.refused,
    }


def words_as_data(thing: MeasuredThing, text: Said, scale: Scale) -> dict[str, Any]:
    """What a text says and how it is set."""
    shape, type_ = text.shape, text.type
    return {
        **thing_as_data(thing, scale),
        "source": text.source,
        "lines": list(text.lines),
        "unsure": list(text.unsure),
        "css": dict(words_css(text.words, scale)) if text.words else {},
        "type": type_
        and {
            "family": type_.face.family,
            "weight": type_.face.weight,
            "score": round(type_.score, 3),
            "sure": type_.is_sure,
            "runners": [
                {
                    "family": candidate.face.family,
                    "weight": candidate.face.weight,
                    "score": round(candidate.score, 3),
                }
                for candidate in type_.runners
            ],
        },
        "shape": shape
        and {
            "small": scale.of(shape.small),
            "capital": None if shape.capital is None else scale.of(shape.capital),
            "stroke": scale.of(shape.stroke),
            "manner": shape.manner,
        },
        "line_step": None if text.line_step is None else scale.of(text.line_step),
    }


def thing_as_data(thing: MeasuredThing, scale: Scale) -> dict[str, Any]:
    """What a thing is, and its box."""
    return {"sort": str(thing.sort), "name": thing.name, "box": _box(thing.box, scale)}


def rows(things: Sequence[MeasuredThing], scale: Scale) -> Iterator[tuple[str, ...]]:
    """Things as lines of a table: sort, name, left, top, width, height."""
    for thing in things:
        box = thing.box
        lengths = (scale.say(length) for length in (box.x, box.y, box.width, box.height))
        yield str(thing.sort), thing.name, *lengths


def _box(box: Rect, scale: Scale) -> dict[str, float]:
    return {key: scale.of(getattr(box, key)) for key in ("x", "y", "width", "height")}


def _insets(insets: Insets, scale: Scale) -> dict[str, float]:
    return {side: scale.of(getattr(insets, side)) for side in ("left", "top", "right", "bottom")}


def _inside(inside: Inside | None, scale: Scale) -> dict[str, Any] | None:
    return None if inside is None else {"name": inside.name, **_insets(inside.insets, scale)}


def _meeting(meeting: Meeting, scale: Scale) -> dict[str, Any]:
    return {"line": meeting.line, "other": meeting.other, "off": scale.of(meeting.off)}
