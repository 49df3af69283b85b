"""Elements and where a browser puts them -> how far each is from where the mockup has it."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass

from riffler.geometry import Rect
from riffler.markup.area import Area, Shape
from riffler.markup.extents import has_ground, height_of, left_of, right_of, top_of
from riffler.markup.setting import Setting
from riffler.mirror.instances import Instance
from riffler.mirror.standing import Stand

#: What is off by no more than this is where it should be, in CSS pixels.
NEAR = 1.5

#: How much longer a line may be than in the mockup and still end with the same word, in CSS pixels.
LINE = 6

#: What being off by more than this counts no more for, in CSS pixels; and a wrong break of a line.
MOST = 20.0


@dataclass(frozen=True)
class Deviation:
    """How far something is off: to the right and down, by how many lines it is too long.

    Of what has edges `wider` and `higher` say how much larger it is, of words `spare` how much room
    they have beside their longest line. CSS pixels.
    """

    instance: Instance
    across: float = 0.0
    down: float = 0.0
    lines: int = 0
    is_broken: bool = False
    wider: float = 0.0
    higher: float = 0.0
    spare: float = 0.0

    @property
    def weight(self) -> float:
        """How bad it is; nothing for what is near enough."""
        off = sum(min(abs(side), MOST) for side in self._sides if abs(side) > NEAR / 2)
        return off + MOST * (self.is_broken or self.lines != 0)

    @property
    def _sides(self) -> tuple[float, ...]:
        return self.across, self.down, self.wider, self.higher

    @property
    def is_unlike(self) -> bool:
        """Whether a text or a picture takes more or less room than it should."""
        is_box = self.instance.words is None and self.instance.inner
        return not is_box and (self.lines != 0 or abs(self.higher) > NEAR)

    @property
    def is_off(self) -> bool:
        """Whether anybody would see it."""
        return self.is_broken or self.lines != 0 or any(abs(side) > NEAR for side in self._sides)


def deviations(page: Instance, stands: Mapping[int, Stand]) -> Iterator[Deviation]:
    """How far every text, picture and box with edges is off, in the order of the markup."""
    for instance in page.walk():
        stand = stands.get(instance.number)
        if stand is None or not stand.box.width:
            continue
        if instance.words is not None:
            if stand.lines:
                yield _of_words(instance, instance.words, stand)
        elif instance.area is not None and _is_seen(instance.area):
            yield _of_box(instance, instance.area, stand.box)


def _is_seen(area: Area) -> bool:
    return area.shape is Shape.PICTURE or has_ground(area)


def _of_words(instance: Instance, setting: Setting, stand: Stand) -> Deviation:
    first = stand.lines[0]
    middle = first.y + first.height / 2
    lines = len(stand.lines) - setting.rows
    pairs = zip(stand.lines, setting.lines, strict=False)
    is_broken = setting.rows > 1 and any(abs(line.width - own.width) > LINE for line, own in pairs)
    return Deviation(
        instance,
        first.x - setting.lines[0].x,
        middle - setting.box.y - setting.step / 2,
        lines,
        is_broken=is_broken and setting.is_said,
        spare=stand.box.width - setting.width,
    )


def _of_box(instance: Instance, area: Area, box: Rect) -> Deviation:
    """Of a box its edges: a picture has those of its file."""
    width = right_of(area) - left_of(area)
    return Deviation(
        instance,
        box.x - left_of(area),
        box.y - top_of(area),
        wider=box.width - width,
        higher=box.height - height_of(area),
    )


def weight(deviations: Iterable[Deviation]) -> float:
    """How bad all of them are together."""
    return sum(deviation.weight for deviation in deviations)
