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
from riffler.measure.things import NOWHERE, Thing, Things, mockup_of
from riffler.measure.units import Scale, Unit
from riffler.reading.look import reading_of
from riffler.reading.reading import Reading
from riffler.workspace import Workspace

if TYPE_CHECKING:  # it loads all that reading text needs
    from riffler.measure.words import Said

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

    def _placed(self, name: str) -> Thing:
        """The thing that is called so. Raises RifflerError for text that nobody can draw."""
        thing = self.things.named(name)
        if thing.box is NOWHERE:
            raise RifflerError(
                f'"{thing.name}" is not drawn: its typeface is missing.',
                "Put it into the project's fonts folder; --css tells its type without it.",
            )
        return thing

    def two(self, name: str, other: str) -> tuple[Thing, Thing, Between]:
        """Two things and what they have to do with each other."""
        one, two = self._placed(name), self._placed(other)
        return one, two, between(one.box, two.box, self.scale.density)

    def css(self, name: str) -> tuple[Thing, Css]:
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
        found = css_of(self.reading, layer, thing.box, self.scale)
        if thing.layer is None:
            found = replace(found, of=found.of or address)
        elif found.refused:
            cut = f"As a slice: riffler mark NAME --only {shlex.quote(address)}"
            found = replace(found, refused=f"{found.refused} {cut}")
        if thing.box is NOWHERE:
            return thing, replace(found, notes=(*found.notes, "not drawn: its typeface is missing"))
        on = measured(self.things, thing, self.frame).on
        return thing, replace(found, notes=(*found.notes, *self._place(on)))

    def words(self, name: str) -> Said:
        """What a text says and how it is set: as the document or the cutlist has it, else read.

        A text is a layer, a slice of a single one, or a box of a picture. Raises RifflerError for
        what holds no words, and where they have to be read and Tesseract is not installed.
        """
        from riffler.measure.words import words_of

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
    def every(self) -> list[Thing]:
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
    said = workspace.project.settings.measure if workspace.has_project else None
    scale = Scale(
        unit or (said.unit if said else "px"),
        density,
        base or (said.base if said else 16.0),
        opened.mockup.size.width / density,
        frame.width / density,
    )
    return Measuring(Things(opened), reading, frame, scale, workspace.language)


def one_as_data(found: Measured, scale: Scale) -> dict[str, Any]:
    """A thing's numbers."""
    columns = found.columns
    return {
        **thing_as_data(found.thing, scale),
        "canvas": _insets(found.canvas, scale),
        "on": _inside(found.on, scale),
        "group": _inside(found.group, scale),
        "beside": {
            side: {"name": near.name, "gap": scale.of(near.gap)}
            for side, near in found.beside.items()
        },
        "share": None if found.share is None else round(found.share, 4),
        "columns": columns and {"first": columns.first, "last": columns.last, "of": columns.of},
    }


def two_as_data(one: Thing, other: Thing, found: Between, scale: Scale) -> dict[str, Any]:
    """What two things have to do with each other."""
    return {
        "things": [thing_as_data(thing, scale) for thing in (one, other)],
        **{
            axis: {"gap": scale.of(apart.gap), "center": scale.of(apart.center)}
            for axis, apart in (("across", found.across), ("down", found.down))
        },
        "overlap": found.overlap and _box(found.overlap, scale),
        "inside": found.inside and _insets(found.inside, scale),
        "aligned": [_meeting(meeting, scale) for meeting in found.aligned],
        "missed": [_meeting(meeting, scale) for meeting in found.missed],
    }


def document_as_data(found: documents.Document, scale: Scale) -> dict[str, Any]:
    """The whole page."""
    return {
        "width": scale.of(found.width),
        "height": scale.of(found.height),
        "content": {"left": scale.of(found.frame.left), "width": scale.of(found.frame.width)},
        "rows": [
            {"name": row.name, "top": scale.of(row.top), "height": scale.of(row.height)}
            for row in found.rows
        ],
        "columns": [
            {
                "names": list(each.names),
                "widths": [scale.of(width) for width in each.widths],
                "gaps": [scale.of(gap) for gap in each.gaps],
            }
            for each in found.columns
        ],
    }


def css_as_data(thing: Thing, found: Css, scale: Scale) -> dict[str, Any]:
    """The style of a thing."""
    return {
        **thing_as_data(thing, scale),
        "of": found.of,
        "css": dict(found.declarations),
        "notes": list(found.notes),
        "refused": found.refused,
    }


def words_as_data(thing: Thing, found: Said, scale: Scale) -> dict[str, Any]:
    """What a text says and how it is set."""
    shape, type_ = found.shape, found.type
    return {
        **thing_as_data(thing, scale),
        "source": found.source,
        "lines": list(found.lines),
        "unsure": list(found.unsure),
        "css": dict(words_css(found.words, scale)) if found.words else {},
        "type": type_
        and {
            "family": type_.face.family,
            "weight": type_.face.weight,
            "score": round(type_.score, 3),
            "sure": type_.is_sure,
            "runners": [
                {"family": one.face.family, "weight": one.face.weight, "score": round(one.score, 3)}
                for one in type_.runners
            ],
        },
        "shape": shape
        and {
            "small": scale.of(shape.small),
            "capital": None if shape.capital is None else scale.of(shape.capital),
            "stroke": scale.of(shape.stroke),
            "manner": shape.manner,
        },
        "line_step": None if found.line_step is None else scale.of(found.line_step),
    }


def thing_as_data(thing: Thing, scale: Scale) -> dict[str, Any]:
    """What a thing is, and its box."""
    return {"sort": str(thing.sort), "name": thing.name, "box": _box(thing.box, scale)}


def rows(things: Sequence[Thing], scale: Scale) -> Iterator[tuple[str, ...]]:
    """Things as lines of a table: sort, name, left, top, width, height."""
    for thing in things:
        box = thing.box
        lengths = (scale.say(length) for length in (box.x, box.y, box.width, box.height))
        yield str(thing.sort), thing.name, *lengths


def _box(box: Rect, scale: Scale) -> dict[str, float]:
    return {key: scale.of(getattr(box, key)) for key in ("x", "y", "width", "height")}


def _insets(found: Insets, scale: Scale) -> dict[str, float]:
    return {side: scale.of(getattr(found, side)) for side in ("left", "top", "right", "bottom")}


def _inside(found: Inside | None, scale: Scale) -> dict[str, Any] | None:
    return None if found is None else {"name": found.name, **_insets(found.insets, scale)}


def _meeting(found: Meeting, scale: Scale) -> dict[str, Any]:
    return {"line": found.line, "other": found.other, "off": scale.of(found.off)}
