"""A draft while it is written: what is named, what is taken care of, what is in the way."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any

from riffler.analyse.repetition import Lattice
from riffler.cutlist.model import Common, SliceTable, Times
from riffler.cutlist.sound_names import sound
from riffler.geometry import Box, union
from riffler.mockup.model import Layer, drawings
from riffler.plan.draft.drafted import DraftedSlice
from riffler.plan.draft.elsewhere import Elsewhere
from riffler.plan.draft.guides import Guides
from riffler.plan.draft.naming import Names
from riffler.reading.clickable import Found
from riffler.reading.intruders import intruders
from riffler.reading.judgement import Becomes
from riffler.reading.reading import Reading
from riffler.reading.wording import reason
from riffler.typeset.layers import BESIDE
from riffler.typeset.saying import SaidText
from riffler.workspace.pages import page_named

#: Words of a thing to click of which the last ones may name a page.
FEW = 4

#: Letters that a title has at the least.
LETTERS = 3

#: What groups are called beside what is in them.
CONTENT = {"content", "contents", "section", "panel"}


class Drafting:
    """What the parts of a draft share. `done` are the addresses of drawings taken care of."""

    def __init__(
        self,
        reading: Reading,
        clickables: Found,
        elsewhere: Elsewhere,
        says: Mapping[str, SaidText] | None = None,
    ) -> None:
        self.reading, self.found, self._others = reading, clickables, elsewhere
        self._says = says or {}
        self._pages = elsewhere.pages(reading.mockup.path)
        self.names = Names(reading.mockup, elsewhere.names, self.text)
        self.guides = Guides(reading, self.names)
        self.groups: dict[str, tuple[Common, str]] = {}
        self.slices: list[DraftedSlice] = []
        self.elsewhere: list[str] = []
        self.done: set[str] = set()
        self.texts = {layer.address for layer in reading.drawings() if reading.is_words(layer)}

    def add(
        self,
        name: str,
        table: SliceTable,
        why: str,
        layers: tuple[str, ...],
        box: Box,
        *,
        boxes: tuple[Box, ...] = (),
        is_click: bool = False,
    ) -> bool:
        """Take a slice in; a thing to click on every page that is cut already is only noted.

        Returns whether it became a slice.
        """
        self.done.update(layers)
        is_one = table.times is None or table.times.same
        times = 1 if is_one or table.times is None else table.times.total
        if self.names.is_elsewhere(name, times):
            if is_click and self._is_on_every_page(name if is_one else f"{name}-1", table, box):
                self.elsewhere.append(name)
                return False
            page = sound(self.reading.mockup.path.stem)
            name = self.names.free(f"{name}-{page}", times=times)
        self.slices.append(DraftedSlice(name, table, why, layers, box, boxes))
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
        inside = {
            below.address
            for address in hidden
            for below in self.reading.mockup.by_address[address].walk()
        }
        strangers = (intruder.layer.address for intruder in intruders(self.reading, box, shown))
        others = [*hidden, *(address for address in strangers if address not in inside)]
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

    def text(self, layer: Layer, column: int | None = None) -> str:
        """What a text says, on one line; the part before, between or after wide gaps where asked.

        Empty where that is not known.
        """
        if layer.words is not None:
            return " ".join(layer.words.text.split())
        said = self._says.get(layer.address)
        if said is None:
            return ""
        if column is None:
            return " ".join(said.text.split())
        parts = [line.split(BESIDE) for line in said.text.split("\n")]
        return " ".join(part[column] for part in parts if column < len(part)).strip()

    def title(self, layer: Layer) -> str:
        """What the largest text of a thing says; empty where it has none, or it is not known.

        A price or a date is no title.
        """
        shown = [below for below in drawings([layer]) if below.visible]
        texts = [
            (self._height(below), said)
            for below in shown
            if sum(map(str.isalpha, said := self.text(below))) >= LETTERS
        ]
        return max(texts, key=lambda text: text[0], default=(0.0, ""))[1]

    def title_beside(self, layers: Sequence[Layer]) -> str:
        """The title of the thing in a row that a picture stands in alone; empty where none does."""
        for row in self.found.rows:
            for member in row.members if row.kind in ("cards", "items") else ():
                parts = list(drawings([member]))
                pictures = [part for part in parts if self._is_picture(part)]
                if pictures and set(pictures) == set(layers):
                    return self.title(member)
        return ""

    def _is_picture(self, layer: Layer) -> bool:
        return layer.visible and self.reading.judgement(layer).becomes is Becomes.PICTURE

    def _height(self, text: Layer) -> float:
        """How large a text is set: by its type, or the height of its first line."""
        if text.words is not None:
            return text.words.size
        lettering = self.reading.lettering(text)
        return lettering.lines[0].height if lettering else 0.0

    def leads_to(self, layer: Layer) -> str | None:
        """Where a thing leads: to the page that it is called as.

        By its words, or its name where these are not known. None where there is no such page.
        """
        name = self.names.plain(layer).removeprefix("tab-").removeprefix("button-")
        text = self.title(layer) or name
        return self.target(text) or self._part(text, layer)

    def _part(self, text: str, layer: Layer) -> str | None:
        """A part of the page whose group is called its content; None where there is none."""
        wanted = {*sound(text).split("-")}
        inside = {up.address for up in self.reading.mockup.ancestors(layer.address)}
        for group in self.reading.mockup.walk():
            named = {*sound(group.name).split("-")} if group.is_group and group.name else set()
            if named & CONTENT and named - CONTENT == wanted and group.address not in inside:
                return f"#{sound(text)}"
        return None

    def target(self, text: str) -> str | None:
        """The page of the project that is called as a text says; None where there is none.

        A few words may end with what the page is called: "See the menu".
        """
        name = page_named(text)
        if name in self._pages:
            return name
        pages = [page for page in self._pages if name.endswith(f"-{page}")]
        return max(pages, key=len) if pages and name.count("-") < FEW else None


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
