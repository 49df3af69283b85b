"""Layers -> names for their slices: one style, each used once."""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable, Iterable, Sequence

from riffler.cutlist.sound_names import sound
from riffler.mockup.model import Layer, Mockup
from riffler.reading import layer_names

#: Words of a text that make a name, and what guides are called where no layer says anything.
WORDS, EDGE = 3, "edge"


class Names:
    """Gives names out. `taken` belong to other cutlists of the project, `text` reads a layer."""

    def __init__(
        self,
        mockup: Mockup,
        taken: Iterable[str] = (),
        text: Callable[[Layer], str] = lambda layer: layer.words.text if layer.words else "",
    ) -> None:
        self._mockup, self._text = mockup, text
        self._elsewhere = set(taken)
        self._given: set[str] = set()
        self._common = Counter(layer.name for layer in mockup.walk() if layer.name)

    def plain(self, layer: Layer) -> str:
        """The layer's own name in sound style."""
        return layer_names.own_name(layer)

    def of(
        self, layer: Layer, kind: str = "", what: str = "", among: int = 1, times: int = 1
    ) -> str:
        """A name for the layer's slice: its own, with the group's where that says too little.

        A name says too little where more layers have it than are `among` this slice's. `times` is
        as in `free`.
        `kind` goes in front when the name does not hold it. `what` it is stands for a name that a
        program gave, with what is written on it or the group that says something.
        """
        if not layer_names.says_something(layer):
            return self._by_what_it_is(layer, kind or what or str(layer.kind), times)
        name = self.plain(layer)
        if kind in ("tab", "button") and kind not in layer_names.tokens(name):
            name = f"{kind}-{name}"
        elif self._is_vague(layer, among):
            around = next(iter(self._mockup.ancestors(layer.address)), None)
            if around is not None and layer_names.says_something(around):
                name = f"{name}-{self.plain(around)}"
        return self.free(name, times=times)

    def _by_what_it_is(self, layer: Layer, what: str, times: int = 1) -> str:
        """A name for what nobody named; no other cutlist's, whose slice of that name is another."""
        text = _short(next(filter(None, map(self._text, layer.walk())), ""))
        around = (
            up for up in self._mockup.ancestors(layer.address) if layer_names.says_something(up)
        )
        group = next((self.plain(up) for up in around), "")
        parts = (what, text) if text else (group, what)
        return self.free("-".join(part for part in parts if part), is_new=True, times=times)

    def of_all(self, layers: Sequence[Layer]) -> str:
        """A name for several layers together: that of the one with the shortest clear name."""
        clear = [
            layer
            for layer in layers
            if not self._is_vague(layer) and layer_names.says_something(layer)
        ]
        return self.of(min(clear or layers[:1], key=lambda layer: len(layer.name)), what="words")

    def of_words(self, text: str) -> str:
        """A name for a part of a text."""
        short = _short(text)
        return self.free(f"words-{short}" if short else "words", is_new=True)

    def of_row(self, parent: Layer | None, members: Sequence[Layer], kind: str) -> str:
        """A name for one of a row: by the group that holds it, what they are called, or are."""
        times, plain = len(members), layer_names.singular(kind)
        if parent is None or not layer_names.says_something(parent):
            return self.free(plain, is_new=True, times=times)
        name = layer_names.singular(self.plain(parent))
        if name in self._given and all(map(layer_names.says_something, members)):
            called = {self.plain(member).rstrip("-0123456789") for member in members}
            name = called.pop() if len(called) == 1 else name
        return self.free(name, times=times)

    def outermost(self, layer: Layer) -> str:
        """The name of the outermost group around a layer: the part of the page it stands in."""
        layers = (layer, *self._mockup.ancestors(layer.address))
        texts = [self.plain(layer) for layer in layers if layer_names.says_something(layer)]
        return texts[-1] if texts else EDGE

    def around(self, layers: Sequence[Layer]) -> str:
        """The name of the innermost group around all of them, or of the first one."""
        for group in self._mockup.ancestors(layers[0].address):
            inside = {below.address for below in group.walk()}
            is_said = layer_names.says_something(group)
            if is_said and all(layer.address in inside for layer in layers):
                return self.plain(group)
        return self.plain(layers[0]) if layer_names.says_something(layers[0]) else EDGE

    def free(self, name: str, *, is_new: bool = False, times: int = 1) -> str:
        """The name, with a number behind it when it is given already in this cutlist.

        With `is_new` the names of other cutlists count as given. A slice that is repeated so many
        `times` takes as many more, each with its number.
        """
        taken = self._given | self._elsewhere if is_new else self._given
        fresh, number = name, 2
        while not taken.isdisjoint(names := _all(fresh, times)):
            fresh, number = f"{name}-{number}", number + 1
        self._given |= names
        return fresh

    def is_elsewhere(self, name: str, times: int = 1) -> bool:
        """Whether another cutlist of the project has a slice so called, or one of so many."""
        return not self._elsewhere.isdisjoint(_all(name, times))

    def _is_vague(self, layer: Layer, among: int = 1) -> bool:
        is_common = self._common[layer.name] > among
        return not layer.name or is_common or sound(layer.name) in layer_names.VAGUE


def _short(text: str) -> str:
    """The first words of a text, as a name; empty where there are none."""
    return "-".join(sound(text).split("-")[:WORDS]) if text.strip() else ""


def _all(name: str, times: int) -> set[str]:
    """A name with those of the slices that it stands for."""
    return {name, *(f"{name}-{number}" for number in range(1, times + 1) if times > 1)}
