"""Elements with declarations -> the rules of a style sheet, in the order of the markup."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field
from itertools import count

from riffler.analyse.style import SIDES
from riffler.markup.brevity import Css, by_side, short
from riffler.markup.element import Element
from riffler.markup.sharing import share
from riffler.reading.layer_names import singular

#: Elements that a page has once, which need no class.
ONCE = ("body", "header", "main", "footer", "h1")

#: Elements that lend no name to what is in them.
PLACES = ("body", "main")

#: The window's width, in CSS pixels, up to which what is said for narrow ones holds.
NARROW = 640


@dataclass
class Rule:
    """What a style sheet says of a selector, at rest, in its states and in narrow windows.

    `pages` have it; the one without a name is what all share.
    """

    selector: str
    css: Css
    looks: dict[str, Css] = field(default_factory=dict)
    narrow: Css = field(default_factory=dict)
    mockups: dict[str, Css] = field(default_factory=dict)
    within: str = ""
    pages: set[str] = field(default_factory=set)

    @property
    def is_shared(self) -> bool:
        """Whether no single page has it."""
        return "" in self.pages or len(self.pages) > 1

    @property
    def said(self) -> tuple[object, ...]:
        """All that it says, to be compared."""
        return self.css, self.looks, self.narrow, self.mockups, self.within


class Classes:
    """Gives elements of several pages their classes: one name for what looks the same.

    Of a single page, what it has once is styled by its tag. Names that are `taken` by style sheets
    that are there already are given to nothing.
    """

    def __init__(self, *, is_single: bool, taken: frozenset[str] = frozenset()) -> None:
        self.rules: dict[str, Rule] = {}
        self._once, self._taken = (ONCE if is_single else ()), taken
        self._looks: dict[int, Rule] = {}

    def share(self, elements: Sequence[Element]) -> None:
        """Say once what several elements look like; each has that class beside its own."""
        for element in elements:
            _settle(element)
        for shared, alike in share(elements, self._taken):
            rule = Rule(f".{shared.name}", shared.css, shared.looks, shared.narrow, shared.mockups)
            self.rules[rule.selector] = rule
            self._looks |= {id(element): rule for element in alike}

    def assign(self, element: Element, page: str, around: str = "") -> None:
        """Give an element and all in it classes, after the class around it.

        `page` is the only one that has it, and empty for what all share.
        """
        if element.classes:  # it has been here
            return
        has_own = "piece" not in element.attributes and element.tag != "img"
        if has_own and element.area is not None and element.area.piece is not None:
            element.classes.append(f"piece-{element.area.piece.name}")
        _settle(element)
        own = element.name
        if element.css or element.looks or element.narrow or element.mockups:
            own = self._name(element, page, around)
        if id(element) in self._looks:
            rule = self._looks[id(element)]
            rule.pages.add(page)
            element.classes.insert(0, rule.selector[1:])
        lends = element.name and element.name not in PLAIN and element.tag not in PLACES
        for inner in element.inner:
            self.assign(inner, page, _lent(own, element) if lends else around)

    def _name(self, element: Element, page: str, around: str) -> str:
        if element.tag in self._once and id(element) not in self._looks:
            selector = element.tag
            rule = _rule(selector, element)
            known_rule = self.rules.setdefault(selector, rule)
            if known_rule.said == rule.said:
                known_rule.pages.add(page)
                return "" if element.tag in PLACES else element.tag
        for name in _names(element, around):
            if name in self._taken:
                continue
            rule = _rule(f".{name}", element)
            if element.within is not None:
                rule.within = f".{element.within.classes[0]}"
            known_rule = self.rules.setdefault(rule.selector, rule)
            if known_rule.said == rule.said:
                known_rule.pages.add(page)
                element.classes.insert(0, name)
                return "" if element.tag in PLACES else name
        return around


def _rule(selector: str, element: Element) -> Rule:
    return Rule(selector, element.css, element.looks, element.narrow, element.mockups)


def _lent(own: str, element: Element) -> str:
    """What an element is called in the names of what is in it: of one word, or two."""
    name = own if own and own.count("-") < 2 else element.name
    return name.removeprefix("site-").removesuffix("-section")


def _names(element: Element, around: str) -> Iterator[str]:
    """What a class may be called, the best name first, and none longer than `LONGEST`."""
    base = element.name or element.tag
    if base == around and element.tag == "ul":
        base = f"{singular(base)}-list"
    elif base == around or around.endswith(f"-{base}"):
        base = "picture" if element.tag == "img" else "copy"
    near = around.partition("-")[0]
    joined = [f"{name}-{base}" for name in (around, near) if name and not base.startswith(name)]
    joined = [name for name in joined if len(name) <= LONGEST] or [base]
    yield from (*joined, base) if base in PLAIN else (base, *joined)
    stem = joined[0][: LONGEST - 3].rstrip("-")
    yield from (f"{stem}-{number}" for number in count(2))


#: The longest name.
LONGEST = 24

#: Names that say too little without what is around them.
PLAIN = (
    "line",
    "copy",
    "item",
    "box",
    "title",
    "text",
    "note",
    "picture",
    "list",
    "figure",
    "price",
    "rule",
    "bar",
    "lead",
    "scene",
    "icon",
    "link",
    "links",
    "kicker",
    "head",
    "form",
    "section",
)


def _settle(element: Element) -> None:
    """Leave out what is said twice, and put what belongs together into one declaration."""
    css = element.css
    for name in [name for name in element.narrow if _is_said(name, element)]:
        del element.narrow[name]
    padding = [css.get(f"padding-{side}", "0") for side in SIDES]
    inline = css.get("padding-inline")
    if inline is not None:
        padding[1] = padding[3] = inline
    if sum(item != "0" for item in padding) > 1 and "padding" not in css:
        for side in SIDES:
            css.pop(f"padding-{side}", None)
        css.pop("padding-inline", None)
        css["padding"] = short(padding)
    if (
        "padding" in css
        and "padding-inline" in element.narrow
        and css["padding"].split()[-1] == "0"
    ):
        element.narrow.pop("padding-inline")


def _is_said(name: str, element: Element) -> bool:
    """Whether a side of narrow windows is what it is in all others."""
    family, _, side = name.partition("-")
    others = (family, f"{family}-block-start")
    if side not in SIDES or any(other in element.css for other in others):
        return False
    is_alone = f"{family}-inline" not in element.narrow
    return is_alone and by_side(element.css).get(name, "0") == element.narrow[name]
