"""Areas with their landmarks -> elements: headings, lists, links, figures, in reading order."""

from __future__ import annotations

import json
from collections.abc import Callable, Sequence
from functools import partial

from riffler.cutlist.sound_names import sound
from riffler.markup.accordion import accordion, is_accordion, with_accordions
from riffler.markup.area import Area, Shape
from riffler.markup.class_names import label_of, member_name, name_of, name_of_text
from riffler.markup.contacts import contact_of
from riffler.markup.controls import is_search, search
from riffler.markup.element import BREAK, Element, as_link, not_said_twice, printing
from riffler.markup.extents import hugs
from riffler.markup.footers import are_links, are_pages, as_navigation, with_links
from riffler.markup.forms import (
    are_fields,
    as_form,
    check,
    field,
    gathered,
    holds_fields,
    is_check,
    is_field,
    is_labelled,
    labelled,
    with_labels,
    with_sending,
)
from riffler.markup.homeward import lead_home
from riffler.markup.role_names import name_by_role
from riffler.markup.runs import with_runs
from riffler.markup.sections import ALIKE, as_one, framed, put_into, with_captions
from riffler.markup.setting import Setting
from riffler.markup.tables import is_table, table
from riffler.markup.zones import RULE, Zones
from riffler.reading.part import PartKind
from riffler.workspace.pages import HOME

#: The deepest heading. HTML, 4.3.6.
DEEPEST = 6

_CLICKED = (PartKind.TAB, PartKind.BUTTON)


class Elements:
    """Makes the elements of one page. `page_of` gives the page that a link leads to, or None."""

    def __init__(self, zones: Zones, page_of: Callable[[str], str | None]) -> None:
        self._zones, self._page_of = zones, page_of
        self._is_in_head = self._is_in_footer = False
        assert zones.texts is not None
        self._texts = zones.texts

    def page(self, root: Area) -> Element:
        """The body with all in it."""
        body = Element("body", root, "page")
        body.content = [*self._inside(root, 2)]
        gathered(body)
        if not any(element.tag == "main" for element in body.walk()):
            put_into(body, "main", self._zones.mains)
        if not any(element.tag == "main" for element in body.walk()) and len(body.inner) == 1:
            body.content = [Element("main", None, "main", content=[*body.inner])]
        as_one(body, "header", self._zones.heads)
        as_one(body, "footer", self._zones.feet)
        for head in [element for element in body.walk() if element.tag == "header"]:
            lead_home(head, self._anchor)
        name_by_role(body)
        return body

    def _inside(self, area: Area, level: int) -> list[Element]:
        """The elements of what is in an area; `level` is that of its first heading."""
        elements: list[Element] = []
        parts = self._in_sections(area)
        if area.shape is Shape.STACK and not is_labelled(area):
            parts = with_links(parts) if self._is_in_footer else with_labels(parts)
            parts = with_accordions(parts)
        elif area.shape is Shape.ROW:
            parts = with_sending(parts)
        open_size = 0.0
        for part in parts:
            heading = self._texts.heading_size(part)
            if open_size and self._texts.largest_heading(part) >= ALIKE * open_size:
                level, open_size = level - 1, 0.0
            elements.append(self._of(part, level))
            if heading and area.shape is Shape.STACK:
                level, open_size = level + 1, heading
        return elements

    def _in_sections(self, area: Area) -> Sequence[Area]:
        """The parts of a main stack, those under one heading together; pictures with captions."""
        parts = list(area.parts)
        if area.shape is not Shape.STACK:
            return parts
        if area.kind is not PartKind.PICTURE:
            parts = with_captions(parts, self._texts.size)
        heads = [index for index, part in enumerate(parts) if self._texts.heading_size(part)]
        if self._zones.of(area) != "main" or len(heads) < 2:
            return parts
        areas: list[Area] = parts[: heads[0]]
        for start, end in zip(heads, [*heads[1:], len(parts)], strict=True):
            areas.append(framed(parts[start:end]) if end - start > 1 else parts[start])
        return areas

    def _of(self, area: Area, level: int) -> Element:
        """An element with all in it; what a header and a navigation say are no headings."""
        before = self._is_in_head, self._is_in_footer
        self._is_in_head = before[0] or self._zones.is_head(area)
        self._is_in_footer = before[1] or self._zones.of(area) == "footer"
        element = self._made(area, level)
        self._is_in_head, self._is_in_footer = before
        if element.tag == "p" and (tag := self._zones.of(area)) in ("header", "footer"):
            element.tag = tag
        return element

    def _made(self, area: Area, level: int) -> Element:
        match area.shape:
            case Shape.WORDS:
                return self._text(area, level)
            case Shape.PICTURE:
                return self._picture(area)
            case Shape.BOX:
                is_rule = area.box.height <= RULE < area.box.width / 8
                return Element("hr" if is_rule else "div", area, "rule" if is_rule else "bar")
            case Shape.LIST:
                return self._list(area, level)
        return self._holder(area, level)

    def _text(self, area: Area, level: int, *, is_label: bool = False) -> Element:
        setting = area.setting
        assert setting is not None
        may_head = not is_label and (not self._is_in_head or setting is self._texts.first)
        tag, is_heading = "p", may_head and self._texts.is_heading(setting)
        if is_heading:
            tag = "h1" if setting is self._texts.first else f"h{min(level, DEEPEST)}"
        name = name_of_text(area, setting, self._texts, is_heading=is_heading)
        element = Element(tag, area, name)
        self._say(element, setting)
        contact = None if is_label or area.link else contact_of(setting.text)
        looks_like_link = not is_label and not is_heading and self._texts.is_link(setting)
        if looks_like_link or (area.link or contact) is not None:
            self._as_anchor(element, area.link, contact, is_heading=is_heading)
        return element

    def _as_anchor(
        self, element: Element, link: str | None, contact: str | None, *, is_heading: bool
    ) -> None:
        """Make a link of a text, or put one into a heading."""
        if is_heading:
            element.content = [self._anchor(Element("a", content=element.content), link, contact)]
            return
        element.tag = "a"
        self._anchor(element, link, contact)

    def _say(self, element: Element, setting: Setting) -> None:
        """The words of a text: with breaks where its lines would not fall so by themselves."""
        element.text = setting.text
        breaks = setting.next_words < setting.width + 1
        between = BREAK if breaks else " "
        element.content = [between.join(line.text for line in setting.lines)]
        if setting.runs and element.tag not in ("a", "span"):
            element.content = [*with_runs(setting, between)]
        if not setting.is_said:
            element.attributes["data-unsaid"] = "words"

    def _anchor(self, element: Element, link: str | None, contact: str | None = None) -> Element:
        """Where a link leads; said to be open where nobody knows it.

        In a header and a footer one that is called like a page leads there; a `contact` is what
        its words say.
        """
        if contact:
            element.attributes["href"] = contact
            return element
        called = sound(element.text)
        if not link and called and (self._is_in_head or self._is_in_footer):
            link = "index" if called in HOME else called
            link = link if self._page_of(link) else None
        page = self._page_of(link) if link else None
        element.attributes["href"] = printing(f"link({json.dumps(page)})") if page else "#"
        if not page:
            element.attributes["data-unsaid"] = f"link to {link}" if link else "link"
        return element

    def _picture(self, area: Area) -> Element:
        element = Element("img", area, name_of(area))
        if area.piece is None:
            element.tag = "div"
            element.attributes["data-unsaid"] = "picture"
        if area is self._texts.drawn:
            return Element("h1", None, "title", content=[element])
        return element

    def _list(self, area: Area, level: int) -> Element:
        if are_fields(area):
            return self._fields(area, level)
        if is_accordion(area):
            return accordion(area, partial(self._holder, level=level))
        if is_table(area):
            return table(area, partial(self._text, level=level, is_label=True), member_name(area))
        is_navigation = self._zones.of(area) == "nav"
        called = member_name(area)
        is_pager = are_pages(area)
        leads = is_navigation or is_pager or (self._is_in_footer and are_links(area))
        items = [self._item(member, level, called, is_navigation=leads) for member in area.parts]
        is_plain = any(item.laid.tag == "div" and not item.laid.content for item in items)
        name = "links" if area.parts[0].setting is not None else name_of(area)
        element = Element("ul", area, "nav" if is_navigation else name)
        element.content = [*items]
        if is_plain:
            element.attributes["aria-hidden"] = "true"
        if is_pager:
            return Element("nav", None, "pager", {"aria-label": "Pages"}, [element])
        if is_navigation:
            element.name = "menu"
            return Element("nav", None, "nav", {"aria-label": "Main"}, [element])
        return element

    def _fields(self, area: Area, level: int) -> Element:
        """A row of fields with their labels; what holds it is the form."""
        fields = [self._holder(member, level) for member in area.parts]
        for element in fields:
            element.tag = element.tag if element.tag == "label" else "div"
        return Element("div", area, "fields", content=[*fields])

    def _item(self, member: Area, level: int, called: str, *, is_navigation: bool) -> Element:
        """A member of a list: its words or its link in it, or all that is in it."""
        if member.setting is not None or member.kind in _CLICKED or is_navigation:
            inner = self._of(member, level)
            if is_navigation and inner.tag != "a":
                inner = self._linked(inner, member)
            return Element("li", None, "item", content=[inner])
        element = self._holder(member, level) if member.parts else self._of(member, level)
        not_said_twice(element)
        own_name = name_of(member)
        for inner in element.walk():
            inner.tag = "div" if inner.tag == "section" else inner.tag
            if inner is not element and inner.name == own_name and inner.inner:
                inner.name = "line" if inner.area and inner.area.shape is Shape.ROW else "copy"
        if element.tag in ("div", "article", "p"):
            element.tag, element.name = "li", called
            return element
        return Element("li", None, "item", content=[element])

    def _linked(self, element: Element, area: Area) -> Element:
        if element.tag == "p" or element.tag == "div":
            as_link(element)
            return self._anchor(element, area.link)
        return element

    def _holder(self, area: Area, level: int) -> Element:
        """Something with things in it: what is clicked, a field, a frame, a landmark."""
        if is_field(area):
            return field(area)
        if is_search(area):
            return search(area)
        if is_check(area) and not self._is_in_head:
            label = Element("label", area, "check", content=[*self._inside(area, level)])
            return check(label, area)
        if is_labelled(area):
            return labelled(area, self._text(area.parts[0], level, is_label=True))
        element = self._empty(area)
        only = area.parts[0].setting if len(area.parts) == 1 else None
        if only is not None and (area.kind in _CLICKED or hugs(area)):
            element.label = only
            element.tag = self._text(area.parts[0], level, is_label=True).tag
            self._say(element, only)
        else:
            element.content = [*self._inside(area, level)]
        if area.kind in _CLICKED:
            self._click(element, area)
        elif area.kind is PartKind.CARD and area.link:
            self._link_card(element, area.link)
        if self._is_in_footer:
            as_navigation(element)
        return as_form(element) if holds_fields(area, element) else element

    def _empty(self, area: Area) -> Element:
        """The element of an area with nothing in it yet."""
        landmark = self._zones.element(area)
        name = f"site-{landmark}" if landmark in ("header", "footer") else name_of(area)
        return Element(landmark or self._holder_tag(area), area, name)

    def _click(self, element: Element, area: Area) -> None:
        """Make a link of something with all that is in it."""
        as_link(element)
        not_said_twice(element)
        self._anchor(element, area.link)
        self._label(element, area)

    def _label(self, element: Element, area: Area) -> None:
        """A sign alone says nothing to who listens: it gets a word, for a person to mend."""
        if not any(True for _ in area.words()):
            element.attributes |= {"aria-label": label_of(area), "data-unsaid": "label"}

    def _link_card(self, card: Element, link: str) -> None:
        """Lead from a card: by a link in it where there is one, or its heading."""
        elements = list(card.walk())
        if any(
            element.tag == "a" and element.attributes.get("href") != "#" for element in elements
        ):
            return
        anchor = next((element for element in elements if element.tag == "a"), None)
        if anchor is not None:
            anchor.attributes.pop("data-unsaid", None)
            self._anchor(anchor, link)

    def _holder_tag(self, area: Area) -> str:
        if area.kind is PartKind.PICTURE and area.shape is Shape.STACK:
            return "figure"
        if area.shape is not Shape.STACK or area.kind is PartKind.LOGO:
            return "div"
        heads = any(self._texts.heading_size(part) for part in area.parts[:2])
        return "section" if heads and len(area.parts) > 1 else "div"
