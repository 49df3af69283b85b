"""What things are made of, whatever they are called -> families of siblings that are made alike."""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence
from dataclasses import astuple, dataclass

from riffler.mockup.model import Layer, drawings, is_drawing
from riffler.reading.judgement import Becomes
from riffler.reading.reading import Reading

#: One in so many parts of a thing may be another in one of its family: a badge, a missing line.
ODD = 3

#: One in so many may be odd, and at least one.
FEW = 4


@dataclass(frozen=True, order=True)
class Make:
    """How many texts, plain boxes and pictures a thing has, those of its other states as well."""

    texts: int
    boxes: int
    pictures: int

    @property
    def parts(self) -> int:
        """How many parts it has in all."""
        return self.texts + self.boxes + self.pictures

    def holds(self, other_make: Make) -> bool:
        """Whether it has at least as many parts of each kind."""
        pairs = zip(astuple(self), astuple(other_make), strict=True)
        return all(mine >= yours for mine, yours in pairs)

    def off(self, other_make: Make) -> int:
        """How many parts one of them has that the other has not."""
        pairs = zip(astuple(self), astuple(other_make), strict=True)
        return sum(abs(mine - yours) for mine, yours in pairs)


def make_of(reading: Reading, layer: Layer) -> Make:
    """What a layer or group has in it."""
    kinds = Counter(reading.judgement(part).becomes for part in drawings([layer]))
    texts, boxes = kinds[Becomes.WORDS], kinds[Becomes.CSS]
    return Make(texts, boxes, kinds.total() - texts - boxes - kinds[Becomes.NOTHING])


def families(reading: Reading, layers: Sequence[Layer]) -> list[list[Layer]]:
    """Siblings that are made alike, each family as listed; a few of one may be odd in a part.

    Groups that hold text or pictures are looked at, and text by itself.
    """
    makes: dict[Make, list[Layer]] = {}
    words: list[Layer] = []
    for layer in layers:
        if not layer.visible:
            continue
        if layer.is_group and not is_drawing(layer):
            makes.setdefault(make_of(reading, layer), []).append(layer)
        elif reading.is_words(layer):
            words.append(layer)
    result: list[list[Layer]] = [words] if len(words) > 1 else []
    left = dict(sorted(makes.items(), key=lambda item: (-len(item[1]), item[0])))
    order = {layer.address: number for number, layer in enumerate(layers)}
    while left:
        make, members = next(iter(left.items()))
        del left[make]
        room, most = max(1, len(members) // FEW), max(1, make.parts // ODD)
        for other_make in sorted(left, key=lambda other_make: make.off(other_make)):
            if make.off(other_make) <= most < make.parts and len(left[other_make]) <= room:
                room -= len(left[other_make])
                members = members + left.pop(other_make)
        result.append(sorted(members, key=lambda layer: order[layer.address]))
    return [family for family in result if len(family) > 1]
