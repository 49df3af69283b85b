"""Weighed pictures -> one page, with everything in it, to compare the files on by eye."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from riffler.color import to_bytes
from riffler.cutting.sources import AROUND
from riffler.cutting.weigh import LINES, Weighed, Weight
from riffler.encode import png
from riffler.formats import FORMATS
from riffler.project.target import Target
from riffler.report.standalone import data_url, policy_of, templates
from riffler.report.weighing import load_time, losing, seen, setting
from riffler.report.wording import kilobytes

#: The page, beside this module.
TEMPLATE = "weigh.html"

#: What each level promises, as a sentence; and what to say of a file that holds none.
PROMISES = {
    "exact": "Nothing is lost.",
    "clear": "Nobody tells it from the mockup side by side.",
    "fair": "What is lost is not seen on the page.",
}
BELOW = "It is what was asked for by a number."


@dataclass(frozen=True)
class _Card:
    """One file as the page shows it. `share` is its part of the largest, in percent.

    `is_first` marks the smallest that is taken.
    """

    label: str
    setting: str
    level: str
    bytes: str
    share: float
    seen: str
    loss: str
    times: tuple[str, ...]
    is_chosen: bool
    is_first: bool
    url: str
    against: str

    @property
    def name(self) -> str:
        """What it is called above its picture."""
        return f"{self.label}, {self.setting}, {self.bytes}"


@dataclass(frozen=True)
class _Level:
    """A level with the place of its smallest file among all cards."""

    name: str
    promise: str
    at: int
    card: _Card


def write(weighed: Sequence[Weighed], target: Target) -> None:
    """Write the page; it needs no network and no other file."""
    pictures = [_picture(picture) for picture in weighed]
    lines = [(line.name, f"{line.kilobits / 1000:g} Mbit/s") for line in LINES]
    text = (
        templates()
        .get_template(TEMPLATE)
        .render(pictures=pictures, lines=lines, policy=policy_of(TEMPLATE))
    )
    target.write(text.encode())


def _picture(picture: Weighed) -> dict[str, object]:
    """A picture as the page shows it."""
    cards, source = list(_cards(picture)), picture.source
    around = source.around
    return {
        "name": picture.name,
        "width": source.size.width,
        "height": source.size.height,
        "cards": cards,
        "levels": list(_levels(cards)),
        "taken": list(_taken(cards)),
        "around": None if around is None else _url("png", png.encode(to_bytes(around), effort=0)),
        "margin": AROUND,
        "joints": sorted(source.joints),
    }


def _levels(cards: Sequence[_Card]) -> Iterator[_Level]:
    """Every level that has files, each with its smallest."""
    for at, card in enumerate(cards):
        if at == 0 or card.level != cards[at - 1].level:
            yield _Level(card.level, PROMISES.get(card.level, BELOW), at, card)


def _taken(cards: Sequence[_Card]) -> Iterator[_Level]:
    """What a cut writes beside the smallest files of the levels."""
    smallest = [level.at for level in _levels(cards)]
    for at, card in enumerate(cards):
        if card.is_chosen and at not in smallest:
            yield _Level("cut", f"What a cut writes: {card.seen}.", at, card)


def _cards(picture: Weighed) -> Iterator[_Card]:
    largest = max(weight.bytes for weight in picture.weights)
    mockups: dict[bytes, str] = {}
    for weight in picture.weights:
        straight = picture.source.prepared(weight.choice.format)
        key = straight.tobytes()
        if key not in mockups:
            mockups[key] = _url("png", png.encode(straight, effort=0))
        yield _card(weight, largest, mockups[key], is_first=weight is picture.chosen)


def _card(weight: Weight, largest: int, against: str, *, is_first: bool) -> _Card:
    loss = weight.choice.loss or 0.0
    return _Card(
        label=FORMATS[weight.choice.format].label,
        setting=setting(weight),
        level=weight.level,
        bytes=kilobytes(weight.bytes),
        share=round(100 * weight.bytes / largest, 1),
        seen=seen(loss),
        loss=losing(loss),
        times=tuple(load_time(line, weight) for line in LINES),
        is_chosen=weight.is_chosen,
        is_first=is_first,
        url=_url(weight.choice.format, weight.choice.data),
        against=against,
    )


def _url(format_name: str, data: bytes) -> str:
    return data_url(f"image/{format_name}", data)
