"""What a mockup says of its density: pixels in it for each CSS pixel, and by what it is told.

No single sign is sure: a resolution is set by a program, a width may be that of a large screen.
Each gives a density some weight, and the heaviest wins.
"""

from __future__ import annotations

import re
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from statistics import median

from riffler.mockup.model import Mockup

#: Pixels per inch that mean one pixel per CSS pixel in drawing programs.
USUAL_RESOLUTION = 72.0

#: Densities that mockups are drawn at.
USUAL = (1.0, 1.5, 2.0, 3.0, 4.0)

#: The size of running text on a page, in CSS pixels, and the height of its letters without stems.
TEXT, LETTER = 16.0, 7.8

#: Widths of small screens, in CSS pixels, by the densities that they have: at such a number of
#: pixels nobody draws a page for a large one.
NARROW = {
    2.0: (320, 360, 375, 390, 393, 412, 414, 428, 430),
    3.0: (360, 375, 390, 393, 412, 414, 428, 430),
}

#: The narrowest page, in CSS pixels, and lines of text from which their letters say anything.
NARROWEST, FEWEST_LINES = 320, 5

_IN_NAME = re.compile(r"@(\d(?:\.\d)?)x|[-_ ](\d)x$|[-_ ](retina|hidpi)\b", re.IGNORECASE)


@dataclass(frozen=True)
class Sign:
    """One sign of a density, how much it counts, and the words for it."""

    density: float
    weight: int
    why: str


@dataclass(frozen=True)
class Density:
    """Mockup pixels per CSS pixel, and why; no reason where nothing tells."""

    value: float
    why: str = ""


def signs(mockup: Mockup) -> list[Sign]:
    """What the file itself says, without a look at its pixels."""
    found_signs = []
    if mockup.resolution and (likely := mockup.resolution[0] / USUAL_RESOLUTION) in USUAL:
        weight = 3 if likely != 1 else 1
        found_signs.append(
            Sign(likely, weight, f"saved at {mockup.resolution[0]:g} pixels per inch")
        )
    if match := _IN_NAME.search(mockup.path.stem):
        named = float(match[1] or match[2] or 2)
        if named in USUAL:
            found_signs.append(Sign(named, 4, f'its name says "{match[0].strip()}"'))
    for density, widths in NARROW.items():
        if mockup.size.width / density in widths:
            wide = f"{mockup.size.width / density:g}"
            found_signs.append(Sign(density, 2, f"as wide as a screen of {wide} at {density:g}"))
    sizes = [
        words.size
        for layer in mockup.walk()
        if (words := layer.words) is not None
        for _ in range(sum(map(len, words.lines)))
    ]
    if sizes:
        size = median(sizes)
        found_signs.append(Sign(nearest(size / TEXT), 3, f"most of its text is {size:.3g} px high"))
    return found_signs


def nearest(ratio: float) -> float:
    """The density that a length speaks for which is so many times the usual one.

    Text is set from 12 to 24 px, so that a little more than the usual is still density 1.
    """
    return 1.0 if ratio < 1.7 else 2.0 if ratio < 3.1 else 3.0


def by_edges(edges: Iterable[int]) -> Sign | None:
    """What the edges of boxes say: at density 2 hardly any lies on an odd pixel."""
    places = sorted(set(edges))
    if len(places) < 12:
        return None
    odd = sum(place % 2 for place in places)
    return (
        Sign(1.0, 4, f"{odd} of {len(places)} edges on odd pixels")
        if 8 * odd > len(places)
        else None
    )


def by_letters(heights: Sequence[float], width: int) -> Sign | None:
    """What the heights of small letters in pixels say; most lines of a page are running text.

    `width` is the canvas's: no page is narrower than the smallest screen.
    """
    if len(heights) < FEWEST_LINES:
        return None
    height = sorted(heights)[len(heights) // 3]
    density = nearest(height / LETTER)
    if width < NARROWEST * density:
        return None
    return Sign(density, 3, f"its small letters are {height:.3g} px high")


def settled(signs: Sequence[Sign]) -> Density:
    """The density that most speaks for, 1 when nothing does."""
    weights: dict[float, int] = {}
    for sign in signs:
        weights[sign.density] = weights.get(sign.density, 0) + sign.weight
    if not weights:
        return Density(1.0)
    best = max(sorted(weights), key=lambda density: weights[density])
    return Density(best, "; ".join(sign.why for sign in signs if sign.density == best))
