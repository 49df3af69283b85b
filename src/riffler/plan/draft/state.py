"""A draft while it is written: what is named, what is taken care of, what is in the way."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from riffler.analyse.repetition import Lattice
from riffler.cutlist.model import Common, SliceTable, Times
from riffler.cutlist.sound_names import sound
from riffler.geometry import Box, union
from riffler.mockup.model import Layer
from riffler.plan.draft.drafted import DraftedSlice
from riffler.plan.draft.elsewhere import Elsewhere
from riffler.plan.draft.guides import Guides
from riffler.plan.draft.naming import Names
from riffler.reading import layer_names
from riffler.reading.clickable import Found
from riffler.reading.intruders import intruders
from riffler.reading.reading import Reading
from riffler.reading.wording import reason


class Drafting:
    """What the parts of a draft share. `done` are the addresses of drawings taken care of."""

    def __init__(self, reading: Reading, clickables: Found, elsewhere: Elsewhere) -> None:
        self.reading, self.found, self._others = reading, clickables, elsewhere
        self.names = Names(reading.mockup, elsewhere.names)
        self.guides = Guides(reading, self.names)
        self.groups: dict[str, tuple[Common, str]] = {}
        self.slices: list[DraftedSlice] = []
        self.elsewhere: list[str] = []
        self.done: set[str] = set()
        self.texts = {layer.address for layer in reading.drawings() if reading.is_words(layer)}

    def add(
        self, name: str, table: SliceTable, why: str, layers: tuple[str, ...], box: Box
    ) -> bool:
        """Take a slice in; a part of every page that is cut already is only noted.

        Returns whether it became a slice.
        """
        self.done.update(layers)
        is_one = table.times is None or table.times.same
        times = 1 if is_one or table.times is None else table.times.total
        if self.names.is_elsewhere(name, times):
            is_click = table.link is not None or table.links is not None
            if is_click and self._is_on_every_page(name if is_one else f"{name}-1", table, box):
                self.elsewhere.append(name)
                return False
            page = sound(self.reading.mockup.path.stem)
            name = self.names.free(f"{name}-{page}", times=times)
        self.slices.append(DraftedSlice(name, table, why, layers, box))
        return True

    def _is_on_every_page(self, name: str, table: SliceTable, box: Box) -> bool:
        """Whether a slice of another page shows the same as this one would."""
        mockup, density = self.reading.mockup, self.reading.density
        shown = mockup.drawn - self.texts
        if table.only is not None:
            shown = frozenset[str]().union(*map(mockup.alone, table.only))
        if (table.only or table.around) and density == int(density):
            box = box.aligned(int(density)) & mockup.box
        return self._others.shows(name, self.reading.renderer.render(box, 1 / density, shown))

    def hidden_in(self, box: Box, hidden: Sequence[str] = ()) -> dict[str, Any]:
        """The key that hides words, marks of states and neighbours in a box cut as seen.

        Nothing where only words are to hide: the cutlist's defaults do that.
        """
        shown = self.reading.mockup.drawn - self.texts - set(hidden)
        strangers = [intruder.layer.address for intruder in intruders(self.reading, box, shown)]
        others = [*hidden, *strangers]
        return {"hide": ["kind:words", *others]} if others else {}

    def reason(self, layer: Layer) -> str:
        """Why a drawing becomes what it becomes."""
        return reason(self.reading.judgement(layer), self.reading.density)

    def painted(self, layers: Sequence[Layer]) -> Box:
        """The box of all that some layers paint."""
        return union(box for box in map(self.reading.painted, layers) if box)

    def is_open(self, layer: Layer) -> bool:
        """Whether a drawing shows and nothing takes care of it yet."""
        return layer.address not in self.done and self.reading.mockup.shows(layer)

    def target(self, layer: Layer) -> str:
        """A guess at where a thing leads: its name, or its words where the name says nothing."""
        plain = self.names.plain(layer).removeprefix("tab-")
        if layer_names.tokens(plain) <= layer_names.BUTTON | layer_names.LINK | layer_names.VAGUE:
            texts = (
                below.words.text
                for below in layer.walk()
                if below.words is not None and below.visible
            )
            plain = sound(next(texts, plain))
        return "index" if plain in ("home", "start") else plain


def times_of(lattice: Lattice, count: int, *, same: bool = False) -> Times:
    """How a cutlist says the steps of a lattice, or the places where there is no step."""
    values: dict[str, Any] = {}
    if lattice.places:
        lists = zip(("right", "down"), zip(*lattice.places, strict=True), strict=True)
        values.update({key: [*places] for key, places in lists if any(places)})
    else:
        values["count"] = count
        values.update(
            {key: step for key, step in zip(("x", "y"), lattice.step, strict=True) if step}
        )
        if 1 < lattice.columns < count:
            values["columns"] = lattice.columns
    if same:
        values["same"] = True
    return Times(**values)
