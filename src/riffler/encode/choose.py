"""A picture, a format and a wish -> the smallest file that grants it."""

from __future__ import annotations

from riffler.color import Bytes
from riffler.encode import few_colors, search
from riffler.encode.choice import Choice
from riffler.encode.encoding import encode
from riffler.formats import FORMATS


def choose(
    straight: Bytes, format_name: str, quality: int | str, budget: int | None = None
) -> Choice:
    """The smallest file for a quality: a number, or a level of visible loss; or within a budget.

    straight: (H, W, 4) uint8, with no more transparency than the format holds. A budget in bytes
    that no setting meets gives the smallest file.
    """
    form = FORMATS[format_name]
    if not form.has_quality:
        if budget is not None:
            return few_colors.within(straight, form.name, budget)
        return few_colors.choose(straight, form.name, None if isinstance(quality, int) else quality)
    if budget is not None:
        return search.within(straight, form.name, budget)
    if isinstance(quality, int):
        return Choice(encode(straight, form.name, quality), form.name, {"quality": quality})
    return search.search(straight, form.name, quality)
