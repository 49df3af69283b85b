"""A box as it was seen, and where else it may end -> its edges."""

from __future__ import annotations

from riffler.analyse.style import Style
from riffler.geometry import Rect
from riffler.tokens.palette import alpha

#: How much covers what nobody sees.
UNSEEN = 0.02


def fades(style: Style) -> bool:
    """Whether nothing is seen of a box at one of its edges."""
    is_linear = style.angle is not None and style.border is None
    return is_linear and min(alpha(style.stops[0].color), alpha(style.stops[-1].color)) <= UNSEEN


def snapped_to(box: Rect, other: Rect, near: float) -> Rect:
    """A box with those sides of another one that are so near."""
    pairs = zip(sides(box), sides(other), strict=True)
    left, top, right, bottom = (
        there if abs(side - there) <= near else side for side, there in pairs
    )
    return Rect(left, top, right - left, bottom - top)


def sides(box: Rect) -> tuple[float, float, float, float]:
    """Where a box begins across and down, and where it ends."""
    return box.x, box.y, box.right, box.bottom
