"""Weighed pictures -> one page, with everything in it, to compare the files on by eye."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from riffler.cutting.weigh import LINES, Weighed, Weight
from riffler.encode import png
from riffler.formats import FORMATS
from riffler.project.target import Target
from riffler.report.page import data_url, policy_of, templates
from riffler.report.weighing import load_time, losing, seen, setting
from riffler.report.wording import kilobytes

#: The page, beside this module.
TEMPLATE = "weigh.html"

#: What stands above the files of each level.
GROUPS = {
    "exact": "Exact: nothing is lost",
    "clear": "Clear: nobody tells side by side",
    "fair": "Fair: nobody sees it on the page",
}


@dataclass(frozen=True)
class _Card:
    """One file as the page shows it. `share` is its part of the largest, in percent."""

    label: str
    setting: str
    level: str
    bytes: str
    share: float
    seen: str
    loss: str
    times: tuple[tuple[str, str], ...]
    is_chosen: bool
    url: str
    against: str


def write(weighed: Sequence[Weighed], target: Target) -> None:
    """Write the page; it needs no network and no other file."""
    pictures = [
        {
            "name": picture.name,
            "width": picture.source.size.width, "height": picture.source.size.height,
            "cards": list(_cards(picture)),
        }
        for picture in weighed
    ]  # fmt: skip
    text = (
        templates()
        .get_template(TEMPLATE)
        .render(pictures=pictures, groups=GROUPS, policy=policy_of(TEMPLATE))
    )
    target.write(text.encode())


def _cards(picture: Weighed) -> Iterator[_Card]:
    largest = max(weight.bytes for weight in picture.weights)
    mockups: dict[bytes, str] = {}
    for weight in picture.weights:
        straight = picture.source.prepared(weight.choice.format)
        key = straight.tobytes()
        if key not in mockups:
            mockups[key] = _url("png", png.encode(straight, effort=0))
        yield _card(weight, largest, mockups[key])


def _card(weight: Weight, largest: int, against: str) -> _Card:
    loss = weight.choice.loss or 0.0
    return _Card(
        label=FORMATS[weight.choice.format].label,
        setting=setting(weight),
        level=weight.level,
        bytes=kilobytes(weight.bytes),
        share=round(100 * weight.bytes / largest, 1),
        seen=seen(loss),
        loss=losing(loss),
        times=tuple((line.name, load_time(line, weight)) for line in LINES),
        is_chosen=weight.is_chosen,
        url=_url(weight.choice.format, weight.choice.data),
        against=against,
    )


def _url(format_name: str, data: bytes) -> str:
    return data_url(f"image/{format_name}", data)
