"""Pictures that touch: a step between their files that the mockup does not have."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np
import numpy.typing as npt

from riffler.color import Bytes, to_bytes
from riffler.errors import RifflerError
from riffler.files import is_inside, read_whole
from riffler.formats import FORMATS, MODERN
from riffler.geometry import Box
from riffler.output.asset import CutAsset
from riffler.plan.check import Check
from riffler.plan.finding import Finding
from riffler.plan.subject import Subject
from riffler.render.decode import decode
from riffler.roles.joints import Joint, joints

#: Pixels on either side of a joint that are averaged, and along it.
DEEP, ALONG = 4, 8

#: A step that shows, of 255, and the part of a joint along which it may be larger.
STEP, PART = 3.0, 0.05

#: How far pixels of the mockup may lie apart around a joint for a step to show there, of 255.
CALM = 12

#: A file this far from the mockup beside a joint, of 255 in the mean, shows another version of it.
OTHER = 8.0

Strip = npt.NDArray[np.float64]
"""(N, deep, 3) float64: what lies along one side of a joint, from the line on, 0..255."""


def _look(subject: Subject) -> Iterator[Finding]:
    """Every two pictures cut as seen that touch, as browsers of today and of old show them."""
    files = {slice_.name: _files(subject, slice_.name) for slice_ in subject.seen}
    shown: dict[str, Bytes | None] = {}
    for joint in joints(slice_ for slice_ in subject.seen if files[slice_.name]):
        first, second = (files[seated.slice.name] for seated in (joint.first, joint.second))
        pairs = {(first[end].file, second[end].file): (first[end], second[end]) for end in (0, -1)}
        steps = (_step(subject, joint, pair, shown) for pair in pairs.values())
        found = max((step for step in steps if step is not None), default=0.0)
        if found > STEP:
            yield _finding(subject, joint, found)


def _files(subject: Subject, name: str) -> list[CutAsset]:
    """The files of a slice at rest, as large as its box; first what fewest programs read."""
    assets = [
        asset
        for asset in subject.ledger.of_slice(name)
        if (asset.state, asset.part, asset.when) == (None, None, None)
        and asset.pixels == asset.place.size
    ]
    order = {form: number for number, form in enumerate(MODERN)}
    return sorted(assets, key=lambda asset: order.get(asset.format, len(order)))


def _step(
    subject: Subject,
    joint: Joint,
    pair: tuple[CutAsset, CutAsset],
    shown: dict[str, Bytes | None],
) -> float | None:
    """The step between two files that the mockup does not have; None where nothing can be said."""
    sides = []
    for asset, seated, is_first in zip(
        pair, (joint.first, joint.second), (True, False), strict=True
    ):
        if asset.file not in shown:
            shown[asset.file] = _pixels(subject, asset)
        pixels, box = shown[asset.file], _beside(joint, is_first=is_first) & seated.part.box
        if pixels is None or asset.place != seated.part.box:
            return None
        drawn = to_bytes(subject.renderer.render(box, 1.0, seated.slice.rest.shown))
        made_pixels = pixels[box.within(asset.place)]
        wanted, there = (
            _from_line(values, joint, is_first=is_first) for values in (drawn, made_pixels)
        )
        if np.abs(wanted - there).mean() > OTHER:
            return None  # the mockup has changed since
        sides.append((wanted, there))
    (first, one_made), (second, other_made) = sides
    far = _along(np.ptp(np.concatenate((first, second), axis=1), axis=1).max(axis=1))
    off = _along((one_made - first).mean(axis=1) - (other_made - second).mean(axis=1))
    seen = np.abs(off).mean(axis=1)[far <= CALM]
    return float(np.quantile(seen, 1 - PART)) if seen.size else None


def _pixels(subject: Subject, asset: CutAsset) -> Bytes | None:
    """What a file shows; None for one that is not there any more, or not what was made."""
    path = subject.out / asset.file
    try:
        if not is_inside(path, subject.out):
            return None
        kinds = (FORMATS[asset.format].name.upper(),)
        pixels = decode(read_whole(path), asset.file, subject.limits, kinds)
    except (RifflerError, KeyError):
        return None
    is_whole = pixels.shape[:2] == (asset.pixels.height, asset.pixels.width)
    return pixels if is_whole and pixels[..., 3].min() == 255 else None


def _beside(joint: Joint, *, is_first: bool) -> Box:
    """What lies along one side of a joint."""
    begin, long = joint.line - DEEP * is_first, joint.stop - joint.start
    if joint.side == "right":
        return Box(begin, joint.start, DEEP, long)
    return Box(joint.start, begin, long, DEEP)


def _from_line(pixels: Bytes, joint: Joint, *, is_first: bool) -> Strip:
    """What lies along one side of a joint, from the line on."""
    lines = pixels if joint.side == "right" else pixels.transpose(1, 0, 2)
    return np.asarray(lines[:, ::-1, :3] if is_first else lines[..., :3], np.float64)


def _along(values: npt.NDArray[np.float64]) -> npt.NDArray[np.float64]:
    """Means of so many neighbours along a joint, or of all where there are fewer."""
    count = min(ALONG, len(values))
    sums = np.cumsum(np.concatenate((np.zeros_like(values[:1]), values)), axis=0)
    return np.asarray((sums[count:] - sums[:-count]) / count)


def _finding(subject: Subject, joint: Joint, step: float) -> Finding:
    first, second = joint.first.slice, joint.second.slice
    where = "on its left" if joint.side == "right" else "above it"
    return subject.finding(
        "joint",
        second,
        f'Its file and that of "{first.name}" {where} meet with a step of {step:.0f} of 255, which '
        "the mockup does not have.",
        'Name a level instead of a number, for example quality = "fair", for both; or save them '
        'as "png".',
        about=(joint.side, *first.entry.keys),
        place=joint.place,
        pixels=joint.stop - joint.start,
        others=(first.name,),
    )


CHECK = Check(
    "joints",
    {"joint": "two pictures that touch, whose files meet with a step"},
    each=_look,
)
