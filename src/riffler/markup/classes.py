"""Elements with declarations -> the rules of a style sheet, in the order of the markup."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, field
from itertools import count
from typing import TypeAlias

from riffler.analyse.style import SIDES
from riffler.markup.element import Element

Css: TypeAlias = dict[str, str]

#: Elements that a page has once, which need no class.
ONCE = ("body", "header", "main", "footer", "h1")

#: Elements that lend no name to what is in them.
PLACES = ("body", "main")

#: The window's width, in CSS pixels, up to which what is said for narrow ones holds.
NARROW = 640


@dataclass
class Rule:
    """What a style sheet says of a selector, at rest, in its states and in narrow windows."""

    selector: str
    css: Css
    looks: dict[str, Css] = field(default_factory=dict)
    narrow: Css = field(default_factory=dict)
    mockups: dict[str, Css] = field(default_factory=dict)
    page: str = ""
    within: str = ""

    @property
    def said(self) -> tuple[object, ...]:
        """All that it says, to be compared."""
        return self.css, self.looks, self.narrow, self.mockups, self.within


class Classes:
    """Gives elements of several pages their classes: one name for what looks the same.

    Of a single page, what it has once is styled by its tag.
    """

    def __init__(self, *, is_single: bool) -> None:
        self.rules: dict[str, Rule] = {}
        self._once = ONCE if is_single else ()

    def assign(self, element: Element, page: str, around: str = "") -> None:
        """Give an element and all in it classes, after the class around it."""
        if element.classes:  # it has been here
            return
        has_own = "piece" not in element.attributes and element.tag != "img"
        if has_own and element.area is not None and element.area.piece is not None:
            element.classes.append(f"piece-{element.area.piece.name}")
        _settle(element)
        own = around
        if element.css or element.looks or element.narrow or element.mockups:
            own = self._name(element, page, around)
        elif element.name not in ("row", "stack", "item", "box", "rows") and element.name:
            own = around or element.name
        for inner in element.inner:
            self.assign(inner, page, own)

    def _name(self, element: Element, page: str, around: str) -> str:
        if element.tag in self._once:
            selector = element.tag
            rule = _rule(selector, element, page)
            known_rule = self.rules.get(selector)
            if known_rule is None or known_rule.said == rule.said:
                self.rules.setdefault(selector, rule)
                return "" if element.tag in PLACES else element.tag
        for name in _names(element, around):
            rule = _rule(f".{name}", element, page)
            if element.within is not None:
                rule.within = f".{element.within.classes[0]}"
            known_rule = self.rules.setdefault(rule.selector, rule)
            if known_rule is rule or known_rule.said == rule.said:
                element.classes.insert(0, name)
                return "" if element.tag in PLACES else name
        return around


def _rule(selector: str, element: Element, page: str) -> Rule:
    return Rule(selector, element.css, element.looks, element.narrow, element.mockups, page)


def _names(element: Element, around: str) -> Iterator[str]:
    """What a class may be called, the best name first."""
    base = element.name or element.tag
    if base == around:
        base = "picture" if element.tag == "img" else "words"
    joined = f"{around}-{base}" if around and not base.startswith(around) else base
    yield from (joined, base) if base in _PLAIN else (base, joined)
    yield from (f"{joined}-{number}" for number in count(2))


#: Names that say too little without what is around them.
_PLAIN = (
    "row",
    "stack",
    "item",
    "box",
    "rows",
    "title",
    "text",
    "note",
    "picture",
    "list",
    "figure",
    "rule",
    "bar",
    "lead",
    "scene",
    "icon",
    "link",
)


def _settle(element: Element) -> None:
    """Leave out what is said twice, and put what belongs together into one declaration."""
    css = element.css
    padding = [css.get(f"padding-{side}", "0") for side in SIDES]
    inline = css.get("padding-inline")
    if inline is not None:
        padding[1] = padding[3] = inline
    if sum(item != "0" for item in padding) > 1 and "padding" not in css:
        for side in SIDES:
            css.pop(f"padding-{side}", None)
        css.pop("padding-inline", None)
        css["padding"] = _short(padding)
    if (
        "padding" in css
        and "padding-inline" in element.narrow
        and css["padding"].split()[-1] == "0"
    ):
        element.narrow.pop("padding-inline")


def _short(sides: list[str]) -> str:
    top, right, bottom, left = sides
    if right != left:
        return " ".join(sides)
    if top != bottom:
        return f"{top} {right} {bottom}"
    return top if top == right else f"{top} {right}"
