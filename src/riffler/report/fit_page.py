"""Pages compared with their mockups -> one page that shows where they differ, with all in it."""

from __future__ import annotations

import io
from collections.abc import Iterator, Sequence
from typing import Any

import numpy as np
from PIL import Image

from riffler.color import Bytes, from_bytes, oklab, on_ground
from riffler.files import as_typed
from riffler.fit.fitting import Finding, Fit
from riffler.project.target import Target
from riffler.report.fitting import causes, name_of, phrases, verdict
from riffler.report.page import data_url, templates

#: The page, beside this module.
TEMPLATE = "fit.html"

#: Oklab's distance that is shown as bright as can be, and the colours from nothing to that.
BRIGHT = 0.35
RAMP = ((38, 33, 28), (163, 84, 15), (255, 214, 130), (255, 255, 255))

#: Things that follow are drawn for each root up to so many.
FOLLOWERS = 200


def write(fits: Sequence[Fit], within: float, target: Target) -> None:
    """Write the page; it needs no network and no other file."""
    pages = [_page(one, within) for one in fits]
    target.write(templates().get_template(TEMPLATE).render(pages=pages).encode())


def _page(fit: Fit, within: float) -> dict[str, Any]:
    mockup, shot = _same_size(fit.wanted.whole, fit.seen.shot)
    by = fit.wanted.density
    return {
        "name": fit.page, "mockup": as_typed(fit.mockup), "verdict": verdict(fit, within),
        "width": f"{shot.shape[1] / by:g}", "height": f"{shot.shape[0] / by:g}",
        "wanted": _url(mockup), "found": _url(shot), "difference": _url(difference(mockup, shot)),
        "findings": [
            {
                "number": number, "name": name_of(one), "says": ", ".join(phrases(one)),
                "causes": causes(one, fit), "marks": list(_marks(one)),
                "y": round(one.placed.thing.box.y),
            }
            for number, one in enumerate(fit.findings, 1)
        ],
        "accepted": [(name_of(one), reason) for one, reason in fit.accepted],
    }  # fmt: skip


def _marks(finding: Finding) -> Iterator[dict[str, Any]]:
    """Boxes where a thing should be and is, and lines from corner to corner."""
    followers = finding.root.followers[:FOLLOWERS]
    roots = (finding.placed, *finding.also)
    every = [*((one, "root") for one in roots), *((each, "follower") for each in followers)]
    for one, kind in every:
        found = None if one.is_missing else one.there
        yield {"kind": kind, "wanted": one.thing.box, "found": found}


def _same_size(one: Bytes, other: Bytes) -> tuple[Bytes, Bytes]:
    """Two pictures on white, as large as the larger of them."""
    height, width = (max(a, b) for a, b in zip(one.shape[:2], other.shape[:2], strict=True))
    made = []
    for pixels in (one, other):
        whole = np.full((height, width, 3), 255, np.uint8)
        flat = on_ground(from_bytes(pixels), (1.0, 1.0, 1.0))[..., :3]
        whole[: pixels.shape[0], : pixels.shape[1]] = flat
        made.append(whole)
    return made[0], made[1]


def difference(one: Bytes, other: Bytes) -> Bytes:
    """How far apart two pictures are in Oklab, from dark to bright. Both (H, W, 3) uint8."""
    shown = np.empty_like(one)
    for top in range(0, one.shape[0], 512):  # in floats it is four times as large
        rows = slice(top, top + 512)
        far = np.linalg.norm(oklab(one[rows]) - oklab(other[rows]), axis=2) / BRIGHT
        stops = np.linspace(0, 1, len(RAMP))
        for channel in range(3):
            levels = [stop[channel] for stop in RAMP]
            shown[rows, :, channel] = np.interp(np.minimum(far, 1), stops, levels)
    return shown


def _url(pixels: Bytes) -> str:
    data = io.BytesIO()
    Image.fromarray(pixels).save(data, "PNG", compress_level=6)
    return data_url("image/png", data.getvalue())
