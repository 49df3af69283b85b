"""Layers -> names for their slices: one style, each used once."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Sequence

from riffler.cutlist.naming import sound
from riffler.mockup.model import Layer, Mockup
from riffler.reading import layer_names


class Names:
    """Gives names out. `taken` belong to other cutlists of the project."""

    def __init__(self, mockup: Mockup, taken: Iterable[str] = ()) -> None:
        self._mockup = mockup
        self._elsewhere = set(taken)
        self._given: set[str] = set()
        self._common = Counter(layer.name for layer in mockup.walk() if layer.name)

    def plain(self, layer: Layer) -> str:
        """The layer's own name in sound style."""
        return sound(layer.name or str(layer.kind))

    def of(self, layer: Layer, kind: str = "") -> str:
        """A name for the layer's slice: its own, with the group's where that says too little.

        `kind` goes in front when the name does not hold it.
        """
        name = self.plain(layer)
        if kind in ("tab", "button") and kind not in layer_names.tokens(name):
            name = f"{kind}-{name}"
        elif self._is_vague(layer):
            around = next(iter(self._mockup.ancestors(layer.address)), None)
            if around is not None and around.name:
                name = f"{name}-{self.plain(around)}"
        return self.free(name)

    def of_all(self, layers: Sequence[Layer]) -> str:
        """A name for several layers together: that of the one with the shortest clear name."""
        clear = [layer for layer in layers if not self._is_vague(layer)]
        return self.of(min(clear or layers[:1], key=lambda layer: len(layer.name)))

    def outermost(self, layer: Layer) -> str:
        """The name of the outermost group around a layer: the part of the page it stands in."""
        *_, last = (layer, *self._mockup.ancestors(layer.address))
        return self.plain(last)

    def around(self, layers: Sequence[Layer]) -> str:
        """The name of the innermost group around all of them, or of the first one."""
        for group in self._mockup.ancestors(layers[0].address):
            inside = {below.address for below in group.walk()}
            if group.name and all(layer.address in inside for layer in layers):
                return self.plain(group)
        return self.plain(layers[0])

    def free(self, name: str) -> str:
        """The name, with a number behind it when it is given already in this cutlist."""
        fresh, number = name, 2
        while fresh in self._given:
            fresh, number = f"{name}-{number}", number + 1
        self._given.add(fresh)
        return fresh

    def is_elsewhere(self, name: str) -> bool:
        """Whether another cutlist of the project has a slice so layer_names."""
        return name in self._elsewhere

    def _is_vague(self, layer: Layer) -> bool:
        return (
            not layer.name or self._common[layer.name] > 1 or sound(layer.name) in layer_names.VAGUE
        )
