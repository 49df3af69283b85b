"""Elements that look alike -> one rule for how they look; what is left of each is its place.

Buttons, headings and fields of a site look the same wherever they stand: what they look like is
said once, and each says where it is. One that differs in little says that too.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass, field

from riffler.markup.brevity import Css
from riffler.markup.element import Element
from riffler.markup.fields import free
from riffler.markup.merging import PAINTED

#: What says how something looks, wherever it stands; and what does of a thing with room around
#: its words.
LOOK = (
    *PAINTED,
    *("border-color", "font-family", "font-size", "font-style", "line-height", "letter-spacing"),
)
_ROOM = ("padding", "padding-top", "padding-bottom", "padding-inline", "padding-left")

#: What headings are called by how deep they are.
_TITLES = {"h1": "page-title", "h2": "section-title"}
_SMALL = ("h3", "h4", "h5", "h6")

_FIELDS = ("input", "select", "textarea")

#: Texts that have one look in a site, by their names.
_SAID = ("kicker", "lead", "note")

#: The fewest declarations that a rule must spare, and in how many elements of it may differ.
FEWEST, OTHERWISE = 3, 2


@dataclass(eq=False)
class Shared:
    """A look that several elements have: what it is called, what styles say of it."""

    name: str
    css: Css
    looks: dict[str, Css]
    narrow: Css = field(default_factory=dict)
    mockups: dict[str, Css] = field(default_factory=dict)


@dataclass(eq=False)
class _Group:
    """Elements of one kind that look alike."""

    kind: str
    css: Css
    looks: dict[str, Css]
    members: list[Element]

    def is_like(self, other: _Group) -> bool:
        """Whether elements of another group look the same."""
        return (self.kind, self.css, self.looks) == (other.kind, other.css, other.looks)

    def takes(self, other: _Group) -> bool:
        """Whether elements that look otherwise can say so in a few declarations."""
        if (other.kind, other.looks) != (self.kind, self.looks) or not {*self.css} <= {*other.css}:
            return False
        differing = [name for name, value in other.css.items() if self.css.get(name) != value]
        return len(differing) <= OTHERWISE and "font-size" not in differing


def share(elements: Iterable[Element], taken: Iterable[str]) -> list[tuple[Shared, list[Element]]]:
    """The looks that several elements have, with these; they keep what they do not share.

    No look has a name that is `taken`.
    """
    names, result = {*taken}, list[tuple[Shared, list[Element]]]()
    for group in _joined(_groups(elements)):
        if (len(group.members) - 1) * len(group.css) < FEWEST:
            continue
        name = free(_called(group), names)
        names.add(name)
        result.append((_taken_out(name, group), group.members))
    return result


def _called(group: _Group) -> str:
    """What the look of a group is called: that of titles by how deep most of them are."""
    if group.kind != "title":
        return group.kind
    (tag, _), *_ = Counter(member.tag for member in group.members).most_common(1)
    return _TITLES.get(tag, "small-title")


def _groups(elements: Iterable[Element]) -> list[_Group]:
    """Elements by their kind and how they look."""
    groups: list[_Group] = []
    for element in elements:
        kind = _kind(element)
        if not kind or element.within is not None:
            continue
        css = {name: value for name, value in element.css.items() if _is_look(name, value, kind)}
        own = _Group(kind, css, element.looks, [element])
        alike = next((group for group in groups if group.is_like(own)), None)
        if alike is None:
            groups.append(own)
        else:
            alike.members.append(element)
    return groups


def _kind(element: Element) -> str:
    """What is the same wherever it stands; empty for other elements."""
    if element.tag in _TITLES or element.tag in _SMALL:
        return "title"
    if element.tag in _FIELDS:
        return "" if element.attributes.get("type") == "checkbox" else "field"
    if element.name in _SAID and element.words:
        is_label = element.tag == "span" and element.name == "note"
        return "field-label" if is_label else element.name
    is_plate = any(name in element.css for name in ("background", "border", "box-shadow"))
    return "button" if element.tag in ("a", "button") and is_plate and element.words else ""


def _is_look(name: str, value: str, kind: str) -> bool:
    if name in LOOK:
        return True
    has_room = kind in ("button", "field")
    return has_room and (name in _ROOM or (name, value) == ("width", "fit-content"))


def _joined(groups: Sequence[_Group]) -> Iterator[_Group]:
    """Groups, the largest first, with those that differ from one in little."""
    rest = sorted(groups, key=lambda group: -len(group.members))
    while rest:
        group, *others = rest
        if len(group.members) > 1:
            joining = [other for other in others if group.takes(other)]
            group.members.extend(member for other in joining for member in other.members)
            others = [other for other in others if other not in joining]
        yield group
        rest = others


def _taken_out(name: str, group: _Group) -> Shared:
    """A look of its own, without which its elements are left."""
    shared = Shared(name, {**group.css, **_common([element.css for element in group.members])}, {})
    shared.looks, first = group.looks, group.members[0]
    for element in group.members:
        element.css = _without(element.css, shared.css)
        element.looks = {}
    own = {name for element in group.members for name in element.css}
    free_to = [name for name in shared.css if name not in own]
    shared.narrow = _common([element.narrow for element in group.members], free_to)
    for when in first.mockups:
        if css := _common([element.mockups.get(when, {}) for element in group.members], free_to):
            shared.mockups[when] = css
    for element in group.members:
        element.narrow = _without(element.narrow, shared.narrow)
        for when, css in shared.mockups.items():
            element.mockups[when] = _without(element.mockups[when], css)
        element.mockups = {when: css for when, css in element.mockups.items() if css}
    return shared


def _common(every: Sequence[Css], names: Sequence[str] | None = None) -> Css:
    """The declarations that all have; of sides of a box all, or none.

    Only those of `names`, where these are given.
    """
    first, *others = every
    result = {
        name: value
        for name, value in first.items()
        if (names is None or name in names) and all(css.get(name) == value for css in others)
    }
    for family in ("margin", "padding"):
        sides = [{n: css[n] for n in css if n.startswith(family)} for css in every]
        if any(side != sides[0] for side in sides):
            result = {name: value for name, value in result.items() if not name.startswith(family)}
    return result


def _without(css: Css, shared: Css) -> Css:
    return {name: value for name, value in css.items() if shared.get(name) != value}
