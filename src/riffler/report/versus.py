"""Two pictures of one thing -> a page that shows where they differ, with all in it."""

from __future__ import annotations

import io
from collections.abc import Mapping, Sequence
from typing import Any

import numpy as np
from PIL import Image

from riffler.color import Bytes, from_bytes, oklab, on_ground
from riffler.project.target import Target
from riffler.report.standalone import data_url, policy_of, templates

#: The page, beside this module.
TEMPLATE = "versus.html"

#: Oklab's distance that is shown as bright as can be, and the colours from nothing to that.
BRIGHT = 0.35
RAMP = ((38, 33, 28), (163, 84, 15), (255, 214, 130), (255, 255, 255))


def write(
    pages: Sequence[Mapping[str, Any]],
    sides: tuple[str, str],
    values: Mapping[str, str],
    target: Target,
) -> None:
    """Write the page; it needs no network and no other file.

    Each of `pages` has what `pictures` gives, its `name`, `against`, `verdict` and `findings`, each
    of those with `marks`; `sides` are what both pictures are called; `values` has the `title`, what
    an `item` is called, and what to say of `nothing`.
    """
    page = (
        templates()
        .get_template(TEMPLATE)
        .render(pages=pages, sides=sides, policy=policy_of(TEMPLATE), **values)
    )
    target.write(page.encode())


def pictures(first: Bytes, second: Bytes, density: float) -> dict[str, str]:
    """Both pictures and how they differ as addresses of data, and their size in CSS pixels.

    first, second: (H, W, 4) uint8, straight RGBA, at so many pixels per CSS pixel.
    """
    wanted, pixels = _same_size(first, second)
    return {
        "width": f"{pixels.shape[1] / density:g}",
        "height": f"{pixels.shape[0] / density:g}",
        "wanted": _url(wanted),
        "found": _url(pixels),
        "difference": _url(difference(wanted, pixels)),
    }


def _same_size(first: Bytes, second: Bytes) -> tuple[Bytes, Bytes]:
    """Two pictures on white, as large as the larger of them."""
    height, width = (max(a, b) for a, b in zip(first.shape[:2], second.shape[:2], strict=True))
    pictures = []
    for pixels in (first, second):
        whole = np.full((height, width, 3), 255, np.uint8)
        flat = on_ground(from_bytes(pixels), (1.0, 1.0, 1.0))[..., :3]
        whole[: pixels.shape[0], : pixels.shape[1]] = flat
        pictures.append(whole)
    return pictures[0], pictures[1]


def difference(first: Bytes, second: Bytes) -> Bytes:
    """How far apart two pictures are in Oklab, from dark to bright. Both (H, W, 3) uint8."""
    shown = np.empty_like(first)
    for top in range(0, first.shape[0], 512):  # in floats it is four times as large
        rows = slice(top, top + 512)
        far = np.linalg.norm(oklab(first[rows]) - oklab(second[rows]), axis=2) / BRIGHT
        stops = np.linspace(0, 1, len(RAMP))
        for channel in range(3):
            levels = [stop[channel] for stop in RAMP]
            shown[rows, :, channel] = np.interp(np.minimum(far, 1), stops, levels)
    return shown


def _url(pixels: Bytes) -> str:
    data = io.BytesIO()
    Image.fromarray(pixels).save(data, "PNG", compress_level=6)
    return data_url("image/png", data.getvalue())
