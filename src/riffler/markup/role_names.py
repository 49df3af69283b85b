"""Elements whose layers say nothing -> names by their role: by what they hold.

Names come last, from the inside out: a section is called by the list in it, a list by what each of
its members has.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass

from riffler.markup.area import Area, Shape
from riffler.markup.class_names import is_figure
from riffler.markup.element import HEADINGS, Element
from riffler.markup.extents import has_ground, is_label
from riffler.markup.setting import Setting
from riffler.reading.layer_names import plural

#: Names that say no more than how something stands, and those of members that say no more than
#: that there are several.
VAGUE = ("box", "line", "copy", "scene", "section", "entry-part", "card-part", "item", "tile")
_MEMBERS = ("entry", "card", "box", "picture")

#: What holders are called that are no more than words where they are in others.
_WITHIN = ("article", "call")

#: Lists that a section is not called by.
_NOT = ("menu", "links", "fields", "buttons", "pages", "nav")

#: The longest sides of an icon and of a logo, in CSS pixels; how much wider than high a logo is,
#: and how much larger than what is said of it a figure is set.
ICON, LOGO, WIDER, LARGER = 96, 192, 1.4, 1.3

_LANDMARKS = ("header", "main", "footer", "nav")
_QUOTES = ('"', "“", "„", "«")


@dataclass(frozen=True)
class _Member:
    """What the fullest member of a list shows."""

    texts: Sequence[Setting]
    pictures: Sequence[Area]
    is_label: bool

    @property
    def largest(self) -> float:
        """The longest side of its pictures, in CSS pixels; 0 without any."""
        sides = (max(area.box.width, area.box.height) for area in self.pictures)
        return max(sides, default=0.0)

    @property
    def is_wide(self) -> bool:
        """Whether one of its pictures is as wide as logos are."""
        return any(area.box.width > WIDER * area.box.height for area in self.pictures)

    @property
    def is_numbered(self) -> bool:
        """Whether it begins with a number."""
        return len(self.texts) > 1 and is_figure(self.texts[0].text)

    @property
    def is_figure(self) -> bool:
        """Whether what it begins with is set much larger than the rest."""
        first, *others = self.texts
        return first.type.size > LARGER * max(text.type.size for text in others)


#: What a member of a list is called, by what it has: the first that is true.
_MEMBER_ROLES: tuple[tuple[str, Callable[[_Member], bool]], ...] = (
    ("", lambda member: member.is_label or not (member.texts or member.pictures)),
    ("photo", lambda member: not member.texts and member.largest > LOGO),
    ("logo", lambda member: not member.texts and member.is_wide),
    ("icon", lambda member: not member.texts),
    ("quote", lambda member: any(map(_quotes, member.texts))),
    ("card", lambda member: member.largest > ICON),
    ("feature", lambda member: bool(member.pictures) and len(member.texts) > 1),
    ("point", lambda member: bool(member.pictures)),
    ("figure", lambda member: member.is_numbered and member.is_figure),
    ("step", lambda member: member.is_numbered),
)


@dataclass(frozen=True)
class _Holder:
    """What something on a page holds."""

    element: Element
    inner: Sequence[Element]

    @property
    def tags(self) -> set[str]:
        """The tags of all that is in it."""
        return {element.tag for element in self.inner}

    @property
    def heads(self) -> bool:
        """Whether it begins with a heading of its own."""
        return any(element.tag in HEADINGS for element in self.element.inner)

    @property
    def listed(self) -> str:
        """What the only list in it is called; empty for none or several."""
        lists = [one for one in self.inner if one.tag == "ul" and one.name not in _NOT]
        return lists[0].name if len(lists) == 1 else ""

    @property
    def called(self) -> str:
        """What it is called by the list that it heads or wraps."""
        is_its_own = self.heads or len(self.element.inner) == 1
        return f"{self.listed}-section" if self.listed and is_its_own else ""

    @property
    def is_gallery(self) -> bool:
        """Whether all that it heads are lists of pictures."""
        below = [one for one in self.element.inner if one.tag not in ("p", *HEADINGS)]
        return len(below) > 1 and all(
            one.tag == "ul" and {inner.tag for inner in one.walk()} <= {"ul", "li", "img"}
            for one in below
        )

    @property
    def is_row(self) -> bool:
        """Whether a large picture stands beside words."""
        area = self.element.area
        pictures = [one.space for one in self.inner if one.tag == "img" and one.area]
        is_large = any(picture.box.width > LOGO for picture in pictures)
        is_row = area is not None and area.shape is Shape.ROW
        return is_row and is_large and bool(self.tags & {*HEADINGS})

    @property
    def is_call(self) -> bool:
        """Whether it is a title with a button, and set apart."""
        area = self.element.area
        is_apart = area is not None and (has_ground(area) or self.element.tag == "section")
        return self.heads and is_apart and any(one.name == "button" for one in self.inner)


#: What a holder is called, by what is in it: the first that is true.
_ROLES: tuple[tuple[str, Callable[[_Holder], bool]], ...] = (
    ("hero", lambda holder: "h1" in holder.tags and not holder.tags & {*_LANDMARKS}),
    ("form", lambda holder: holder.element.tag == "form"),
    ("aside", lambda holder: holder.element.tag == "aside"),
    ("contact", lambda holder: "form" in holder.tags and "label" in holder.tags),
    ("newsletter", lambda holder: "form" in holder.tags),
    ("story", lambda holder: "aside" in holder.tags or holder.is_row),
    ("table-section", lambda holder: "table" in holder.tags),
    ("", lambda holder: bool(holder.listed)),
    ("quote", lambda holder: any(one.words and _quotes(one.words) for one in holder.inner)),
    ("logos", lambda holder: len(holder.inner) > 2 and holder.tags == {"img"}),
    ("call", lambda holder: holder.is_call),
    ("logos-section", lambda holder: any(one.name == "logos" for one in holder.inner)),
    ("gallery", lambda holder: holder.is_gallery),
    ("article", lambda holder: holder.heads and len(holder.element.inner) > 2),
)


def name_by_role(body: Element) -> None:
    """Give everything on a page that is called by its shape alone the name of its role."""
    for element in body.inner:
        name_by_role(element)
    if body.tag == "ul":
        _name_list(body)
    elif body.name in VAGUE and body.tag not in ("label", "li"):
        holder = _Holder(body, [*body.walk()][1:])
        role = next((name for name, is_so in _ROLES if is_so(holder)), "") or holder.called
        body.name = role or body.name
        for element in holder.inner:
            if element.name == role or (element.name in _WITHIN and role not in ("", "story")):
                element.name = "copy"


def _name_list(element: Element) -> None:
    """Call a list and each of its members by what most of them have."""
    members = [member.laid for member in element.inner]
    is_vague = bool(members) and members[0].name in _MEMBERS and element.name not in _NOT
    role = _member_role([member.space for member in members]) if is_vague else ""
    if role:
        element.name = plural(role)
        for member in members:
            member.name = role


def _member_role(areas: Sequence[Area]) -> str:
    """What each of several things is called; empty where nothing tells."""
    fullest = max(areas, key=lambda area: len([*area.walk()]))
    leaves = [area for area in fullest.walk() if not area.parts]
    texts = [leaf.setting for leaf in leaves if leaf.setting is not None]
    pictures = [leaf for leaf in leaves if leaf.shape is Shape.PICTURE]
    seen = _Member(texts, pictures, is_label(fullest))
    return next((name for name, is_so in _MEMBER_ROLES if is_so(seen)), "")


def _quotes(setting: Setting) -> bool:
    """Whether a text begins with a quotation mark."""
    return setting.text.lstrip().startswith(_QUOTES)
