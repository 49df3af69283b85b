"""Declarations -> the same said as a person says them: sides together, and rules alike once."""

from __future__ import annotations

from collections.abc import Mapping
from typing import TypeAlias

from riffler.analyse.style import SIDES

Css: TypeAlias = dict[str, str]

#: What says two sides at once. CSS Logical Properties 1, 4.2 and 4.4, as lines run from the left.
BOTH = {
    "margin-inline": ("margin-left", "margin-right"),
    "margin-block": ("margin-top", "margin-bottom"),
    "padding-inline": ("padding-left", "padding-right"),
    "padding-block": ("padding-top", "padding-bottom"),
}


def by_side(css: Mapping[str, str]) -> Css:
    """Declarations with each side by itself."""
    result: Css = {}
    for name, value in css.items():
        result |= dict.fromkeys(BOTH.get(name, (name,)), value)
    return result


def brief(css: Mapping[str, str], *, is_first: bool = False) -> Css:
    """Declarations with the sides of a margin or padding said together.

    What is said first of an element has sides that are 0 where nothing is said of them.

    >>> brief({"margin-top": "8px", "margin-inline": "auto"}, is_first=True)
    {'margin': '8px auto 0'}
    >>> brief({"padding-left": "4px", "padding-right": "4px"})
    {'padding-inline': '4px'}
    """
    margins = _together(dict(css), "margin", is_first=is_first)
    return _together(margins, "padding", is_first=is_first)


def _together(css: Css, what: str, *, is_first: bool) -> Css:
    names = [name for name in css if name.startswith(f"{what}-")]
    if what in css or not names or f"{what}-block-start" in names:
        return css
    sides = by_side({name: css[name] for name in names})
    values = [sides.get(f"{what}-{side}") for side in SIDES]
    if all(values) or (is_first and len(names) > 1):
        said = {what: short([value or "0" for value in values])}
    else:
        said = _in_pairs(what, sides)
    before = {name: value for name, value in css.items() if name not in names}
    return {**before, **said}


def _in_pairs(what: str, sides: Css) -> Css:
    """Sides, two by two where both are the same."""
    result = dict(sides)
    for pair in (f"{what}-inline", f"{what}-block"):
        first, second = BOTH[pair]
        if first in result and result[first] == result.get(second):
            result[pair] = result.pop(first)
            del result[second]
    return result


def short(sides: list[str]) -> str:
    """Four sides as CSS writes them, from the top to the right.

    >>> short(["1px", "0", "2px", "0"])
    '1px 0 2px'
    """
    top, right, bottom, left = sides
    if right != left:
        return " ".join(sides)
    if top != bottom:
        return f"{top} {right} {bottom}"
    return top if top == right else f"{top} {right}"


def gathered(rules: Mapping[str, Css]) -> dict[str, Css]:
    """Rules by selector, those that say the same as one with several, where the first stood."""
    alike: dict[tuple[tuple[str, str], ...], list[str]] = {}
    for selector, css in rules.items():
        alike.setdefault(tuple(sorted(css.items())), []).append(selector)
    return {",\n".join(selectors): rules[selectors[0]] for selectors in alike.values()}
