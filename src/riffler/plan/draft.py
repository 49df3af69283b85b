"""A mockup -> a first cutlist: guides, slices with their states, and what CSS draws instead."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import replace

from riffler.analyse.rows import row_boxes, row_edges
from riffler.cutlist.editing import Value
from riffler.cutlist.naming import sound
from riffler.geometry import Box, union
from riffler.mockup.model import Layer, drawings
from riffler.plan import called, clickable, layout
from riffler.plan.clickable import Clickable, Found, Row
from riffler.plan.drafted import Draft, DraftedSlice, Keys
from riffler.plan.guides import Guides
from riffler.plan.intruders import intruders
from riffler.plan.naming import Names
from riffler.plan.patterns import word_patterns
from riffler.plan.reading import Becomes, Reading
from riffler.plan.states import states_of
from riffler.render.renderer import Renderer
from riffler.roles import words


def draft(
    renderer: Renderer,
    *,
    density: float | None = None,
    taken: Iterable[str] = (),
) -> Draft:
    """Write a first plan for a mockup. `taken` are the slices that the project has already."""
    renderer.warm()
    reading = Reading(renderer, density or renderer.mockup.likely_density)
    found = clickable.find(reading)
    return _Drafting(reading, found, Names(reading.mockup, taken)).draft()


class _Drafting:
    """The draft while it is written: what is named, what is taken care of."""

    def __init__(self, reading: Reading, found: Found, names: Names) -> None:
        self._reading, self._found, self._names = reading, found, names
        self._guides = Guides(reading, names)
        self._groups: dict[str, Keys] = {}
        self._why: dict[str, str] = {}
        self._slices: list[DraftedSlice] = []
        self._done: set[str] = set()
        self._elsewhere: list[str] = []
        self._texts = {one.address for one in reading.drawings() if reading.is_words(one)}

    def draft(self) -> Draft:
        hero = layout.hero(self._reading)
        self._guides.collect()
        if hero is not None:
            self._hero(hero)
        for row in self._found.rows:
            if row.kind == "tabs":
                self._tabs(row)
        for one in self._found.clickables:
            if one.kind == "button" and one.layer.address not in self._done:
                self._button(one)
        for row in self._found.rows:
            if row.kind != "tabs":
                self._repeated(row)
        if self._is_flat():
            self._flat()
        self._pictures()
        self._tiles()
        self._words()
        return Draft(
            density=self._reading.density,
            words=word_patterns(self._reading),
            guides=self._guides.listed(),
            grid=self._guides.grid(),
            groups=self._groups,
            why=self._why,
            slices=tuple(sorted(self._slices, key=lambda one: (one.box.y, one.box.x))),
            css=tuple(self._css()),
            elsewhere=tuple(self._elsewhere),
            reading=self._reading,
            found=self._found,
        )  # fmt: skip

    def _add(self, one: DraftedSlice) -> None:
        """Take a slice in; a part of every page that is cut already is only noted."""
        self._done.update(one.layers)
        if not self._names.is_elsewhere(one.name):
            self._slices.append(one)
        elif "link" in one.keys:
            self._elsewhere.append(one.name)
        else:
            page = sound(self._reading.mockup.path.stem)
            self._slices.append(replace(one, name=self._names.free(f"{one.name}-{page}")))

    def _seen(self, box: Box, hidden: Sequence[str] = ()) -> list[str]:
        """What to hide in a box cut as seen: words, marks of states, neighbours that reach in."""
        mockup = self._reading.mockup
        shown = mockup.drawn - self._texts - set(hidden)
        strangers = [one.layer.address for one in intruders(self._reading, box, shown)]
        return [*hidden, *strangers]

    def _hero(self, layer: Layer) -> None:
        box = self._reading.renderer.solid_box(layer.address)
        assert box is not None
        box = box & self._reading.mockup.box
        inside = [one.address for one in drawings([layer]) if not self._reading.is_words(one)]
        keys = self._guides.span(box)
        if hide := self._seen(box):
            keys["hide"] = ["kind:words", *hide]
        keys["save"] = ["jpeg"]
        name = self._names.of(layer)
        keys["alt"] = called.humanised(name)
        self._add(DraftedSlice(name, keys, "The head of the page, without its words.",
                               tuple(inside), box))  # fmt: skip

    def _tabs(self, row: Row) -> None:
        first = row.boxes[0]
        leader = self._names.of(row.members[0], "tab")
        even = row.lattice.step != (0, 0)
        for index, (layer, box) in enumerate(zip(row.members, row.boxes, strict=True)):
            name = self._names.of(layer, "tab") if index else leader
            one = Clickable(layer, "tab", box)
            if index and even and not self._names.is_elsewhere(leader):
                keys: Keys = {"like": leader, "by": [box.x - first.x, box.y - first.y]}
            else:
                keys = self._guides.span(box)
            self._states_and_link(one, row.members, name, keys, "tab")
        for member in row.members:
            self._done.update(below.address for below in member.walk())

    def _states_and_link(
        self, one: Clickable, alike: Sequence[Layer], name: str, keys: Keys, what: str
    ) -> None:
        """A thing to click as a slice cut as seen, with its states."""
        states = states_of(self._reading, one, alike)
        hide = self._seen(one.box, states.hide_at_rest)
        if hide:
            keys["hide"] = ["kind:words", *hide]
        keys["alt"] = ""
        keys["link"] = self._target(one.layer)
        inside = tuple(below.address for below in one.layer.walk())
        shown: dict[str, Keys] = {
            state: {"show": list(layers)} for state, layers in states.show.items()
        }
        why = f"A {what}; its label is live text." if not self._slices_of(what) else ""
        self._add(DraftedSlice(name, keys, why, inside, one.box, shown))

    def _slices_of(self, what: str) -> bool:
        return any(one.why.startswith(f"A {what};") for one in self._slices)

    def _target(self, layer: Layer) -> str:
        """A guess at where it leads: its name, or its words where the name says nothing."""
        plain = self._names.plain(layer).removeprefix("tab-")
        if plain in called.BUTTON | called.LINK | called.VAGUE:
            said = (one.words.text for one in layer.walk() if one.words is not None and one.visible)
            plain = sound(next(said, plain))
        return "index" if plain in ("home", "start") else plain

    def _button(self, one: Clickable) -> None:
        shown = [part for part in drawings([one.layer]) if part.visible]
        drawn = [part for part in shown if not self._reading.is_words(part)]
        name = self._names.of(one.layer, "button")
        if any(self._reading.verdict(part).becomes is Becomes.PICTURE for part in drawn):
            self._states_and_link(one, (), name, self._guides.span(one.box), "button")
            self._done.update(below.address for below in one.layer.walk())
            return
        states = states_of(self._reading, one, ())
        plates = ", ".join(dict.fromkeys(self._reading.verdict(part).reason for part in drawn))
        why = [f"A button that CSS draws ({plates}): a region for its words."]
        for state, layers in states.show.items():
            parts = [self._reading.mockup.by_address[address] for address in layers]
            said = "; ".join(self._reading.verdict(part).reason for part in parts
                             if not part.is_group)  # fmt: skip
            why.append(f"{state}: {', '.join(layers)}{f' ({said})' if said else ''}")
        around = [part.address for part in drawn] or [one.layer.address]
        keys: Keys = {"around": around, "role": "words", "link": self._target(one.layer)}
        inside = tuple(below.address for below in one.layer.walk())
        self._add(DraftedSlice(name, keys, "\n".join(why), inside, one.box))

    def _repeated(self, row: Row) -> None:
        """A row of things alike as one region for live text, repeated."""
        name = called.singular(self._names.plain(row.parent)) if row.parent else row.kind[:-1]
        name = self._names.free(name)
        size = union(box.moved(row.boxes[0].x - box.x, row.boxes[0].y - box.y) for box in row.boxes)
        box = size & self._reading.mockup.box
        step_x, step_y = row.lattice.step
        times: dict[str, Value] = {"count": len(row.members)}
        times.update({key: step for key, step in (("x", step_x), ("y", step_y)) if step})
        if 1 < row.lattice.columns < len(row.members):
            times["columns"] = row.lattice.columns
        texts = tuple(
            one.address for member in row.members for one in drawings(member.children)
            if one.address in self._texts
        )  # fmt: skip
        listed = ", ".join(member.name for member in row.members)
        why = [f"{len(row.members)} {row.kind} alike: {listed}. A region for the words of each."]
        hidden = dict.fromkeys(
            child.name for member in row.members for child in member.children if not child.visible
        )
        if hidden:
            why.append(f"Hidden in them: {', '.join(hidden)}.")
        keys = {**self._guides.span(box), "role": "words", "times": times}
        if row.kind == "cards":
            keys["links"] = [self._target(member) for member in row.members]
        self._add(DraftedSlice(name, keys, "\n".join(why), texts, box))

    def _pictures(self) -> None:
        found = layout.pictures(self._reading, self._done)
        sizes = {one: self._painted(one) for one in found}
        alike: dict[str, list[tuple[Layer, ...]]] = {}
        for one in found:
            alike.setdefault(self._names.plain(one[0]), []).append(one)
        icons = {
            one for members in alike.values()
            if layout.are_icons(self._reading, [sizes[member] for member in members])
            for one in members
        }  # fmt: skip
        if icons:
            self._groups["icons"] = {"role": "icon", "alt": ""}
            self._why["icons"] = "Icons on one canvas, for decoration beside their words."
        for one in found:
            self._picture(one, sizes[one], is_icon=one in icons)

    def _painted(self, layers: Sequence[Layer]) -> Box:
        return union(box for box in map(self._reading.painted, layers) if box)

    def _picture(self, layers: tuple[Layer, ...], box: Box, *, is_icon: bool) -> None:
        verdict = self._reading.verdict(layers[0])
        is_logo = any(one.kind == "logo" and one.layer is layers[0]
                      for one in self._found.clickables)  # fmt: skip
        name = self._names.of(layers[0], "logo" if is_logo else "")
        keys: Keys = {"only": [layer.address for layer in layers]}
        if is_icon:
            keys = {"in": "icons", **keys}
        elif verdict.is_photo and self._is_opaque(layers, box):
            keys["save"] = ["jpeg"]
        if not is_icon:
            keys["alt"] = called.humanised(name)
        if is_logo:
            keys["link"] = "index"
        why = f"{'the logo: ' if is_logo else ''}{verdict.reason}."
        why = "" if is_icon else why[0].upper() + why[1:]
        self._add(DraftedSlice(name, keys, why, tuple(one.address for one in layers), box))

    def _is_opaque(self, layers: Sequence[Layer], box: Box) -> bool:
        shown: set[str] = set()
        for layer in layers:
            shown |= self._reading.mockup.alone(layer.address)
        piece = Box(box.x, box.y, box.width, 1)
        return (
            float(self._reading.renderer.render(piece, 1.0, frozenset(shown))[..., 3].min()) > 0.99
        )

    def _tiles(self) -> None:
        for layer in self._reading.drawings():
            verdict = self._reading.verdict(layer) if self._is_open(layer) else None
            box = self._reading.box(layer)
            if verdict is None or box is None or verdict.becomes is not Becomes.TILE:
                continue
            assert verdict.period is not None
            width, height = verdict.period
            x, y = self._open_corner(box, width, height)
            name = self._names.of(layer)
            keys: Keys = {
                "at": [x, y, width, height], "only": [layer.address],
                "role": "tile", "repeat": "both", "alt": "",
            }  # fmt: skip
            why = f"The ground: a {verdict.reason}."
            self._add(DraftedSlice(name, keys, why, (layer.address,), box))

    def _open_corner(self, ground: Box, width: int, height: int) -> tuple[int, int]:
        """Where a chunk of a texture lies that other slices cover least, from the top."""
        places = [
            Box(x, y, width, height)
            for y in range(ground.y, ground.bottom - height + 1, height)
            for x in range(ground.x, ground.right - width + 1, width)
        ]
        others = [one.box for one in self._slices]
        best = min(places, key=lambda place: sum((place & other).area for other in others))
        return best.x, best.y

    def _is_flat(self) -> bool:
        """Whether the mockup is a single picture, in which no layers can be told apart."""
        only = self._reading.drawings()
        return len(only) == 1 and only[0].box == self._reading.mockup.box

    def _flat(self) -> None:
        """The rows of a flat picture."""
        mockup = self._reading.mockup
        self._done.update(mockup.by_address)
        edges = row_edges(self._reading.renderer, mockup.drawn)
        for edge in edges:
            self._guides.add("y", edge, f"row-{edge}")
        for number, box in enumerate(row_boxes(mockup.box, edges), start=1):
            keys = {**self._guides.span(box), "alt": ""}
            why = "A flat picture: rows where it changes from side to side." if number == 1 else ""
            self._add(DraftedSlice(f"row-{number}", keys, why, (), box))

    def _is_open(self, layer: Layer) -> bool:
        return layer.address not in self._done and self._reading.mockup.shows(layer)

    def _words(self) -> None:
        grounds = [
            box
            for layer in self._reading.drawings()
            if self._reading.mockup.shows(layer)
            and self._reading.verdict(layer).becomes in (Becomes.CSS, Becomes.PICTURE)
            and (box := self._reading.box(layer))
        ]
        for region in layout.regions(self._reading, self._done, grounds):
            name = self._names.of_all(region.layers)
            keys: Keys = {"around": [layer.address for layer in region.layers], "role": "words"}
            addresses = tuple(layer.address for layer in region.layers)
            why = f"{self._quoted(region.layers)} On {self._ground(region.box)}."
            self._add(DraftedSlice(name, keys, why, addresses, region.box))

    def _quoted(self, layers: Sequence[Layer]) -> str:
        said = " ".join(" ".join(one.words.lines) for one in layers if one.words is not None)
        return f"“{said if len(said) <= 64 else said[:63] + '…'}”" if said else "Live text."

    def _ground(self, box: Box) -> str:
        """The colour under the text in a box."""
        shown = self._reading.mockup.drawn - self._texts
        return words.ground(self._reading.renderer.render(box, 1.0, shown))

    def _css(self) -> Iterable[tuple[str, str]]:
        """The drawings that no slice needs, with what a style sheet would say."""
        for layer in self._reading.drawings():
            if not self._reading.mockup.shows(layer) or layer.address in self._done:
                continue
            verdict = self._reading.verdict(layer)
            if verdict.becomes is Becomes.CSS:
                yield layer.address, verdict.reason
