"""An SVG tree -> the same with nothing in it but what draws: elements, attributes, values.

A drawing of ours is put into pages, where an HTML parser reads it: it takes names in any letters
(`<SCRIPT>`, `HREF`), and leaves the drawing at an element of its own (`<p>`). So whatever is not on
the list of SVG 2, by its exact name in SVG's namespace, goes; so does every value, however it is
spelled, that leads out of the file. HTML, 13.2.6.5; CSS Values 4, section 4.5.

Drawings by a list: what is not known goes, before any pass sees it.
"""

from __future__ import annotations

import re
from collections.abc import Iterable, Iterator, Sequence
from functools import lru_cache
from typing import Any

import tinycss2
from lxml import etree

from riffler.mockup.svg import references
from riffler.mockup.svg.document import NAMESPACE
from riffler.mockup.svg.names import (
    ANIMATABLE,
    ANIMATIONS,
    ATTRIBUTES,
    ELEMENTS,
    FUNCTIONS,
    IDLE,
    RULES,
)
from riffler.mockup.xml import drop, local_name, namespace_of, split_name

#: The attributes of XML itself that mean something in a drawing.
OF_XML = tuple(f"{{http://www.w3.org/XML/1998/namespace}}{name}" for name in ("space", "lang"))

#: Words for assistive technology, and data that scripts of a page may want.
_OPEN = re.compile(r"(aria|data)-[a-z0-9]+(?:[-_.][a-z0-9]+)*")

#: Where a link may lead, which is followed only by who clicks it.
_HARMLESS = re.compile(r"(https?:|mailto:|tel:|[#/.]|[^:]*$)")

#: Transforms and colours in numbers, which refer to nothing.
_PLAIN = re.compile(
    r"\s*(?:(?:matrix|translate|scale|rotate|skew[XY]|rgba?|hsla?)\s*\([-+\d.eE,\s%]*\)[\s,]*)+"
)

#: Pictures that a drawing may hold: no one of them runs or fetches, as a picture.
_PICTURE = re.compile(r"data:image/(?:png|jpeg|jpg|gif|webp|avif|svg\+xml)[;,]", re.IGNORECASE)

#: Fonts that a style sheet may hold.
_FONT = re.compile(r"data:(?:font/|application/(?:x-)?font)", re.IGNORECASE)

#: Elements whose text is for people: anything in them is read as HTML in a page.
_WORDS = ("title", "desc")

#: Times that a style sheet is read again: what was taken out may leave together what it parted.
READINGS = 8


def only_allowed(root: etree._Element) -> list[str]:
    """Take out of a drawing all that is not on the list; returns what that was, for a person.

    What drawing programs keep for themselves goes without a word.
    """
    removed: list[str] = []
    for element in [e for e in root.iter() if isinstance(e.tag, str)]:
        if element is root or element.getparent() is not None:
            removed += _settled(element, is_root=element is root)
    return list(dict.fromkeys(removed))


def _settled(element: etree._Element, *, is_root: bool) -> Iterator[str]:
    """Take out what an element must not say, or the element; yields what that was."""
    name = local_name(element)
    if not is_root and (why := _refused(element, name)) is not None:
        drop(element)
        if why:
            yield why
        return
    for key in list(map(str, element.attrib)):
        if (text := _refused_attribute(element, key)) is not None:
            del element.attrib[key]
            if text:
                yield text
    if name in ANIMATIONS and element.get("attributeName", "x") not in ANIMATABLE:
        yield "an animated link"
        drop(element)
    if name == "style":
        calm, fetches = sheet_allowed("".join(str(part) for part in element.itertext()))
        set_text(element, calm)
        if fetches:
            yield "a style sheet that fetches"
    elif name in _WORDS:
        set_text(element, "".join(str(part) for part in element.itertext()))


def _refused(element: etree._Element, name: str) -> str | None:
    """What an element is called that must go, empty for what says nothing; None for one to stay."""
    like = name.lower()
    if like in ("script", "handler", "listener"):
        return "a script"
    if like == "foreignobject":
        return "a page inside it"
    if namespace_of(element) != NAMESPACE:
        return ""
    if name in ("metadata", "cursor"):
        return ""
    if name in ("use", "feImage") and references.href(element).startswith("data:"):
        return "a reference that leads outside"
    return None if name in ELEMENTS else "an element that SVG does not have"


def _refused_attribute(element: etree._Element, key: str) -> str | None:
    """Why an attribute is refused; None where it is allowed."""
    name = split_name(key)[1]
    if name.lower().startswith("on"):
        return "event handlers"
    if key in ("href", references.XLINK):
        return _refused_link(element, str(element.attrib[key]).strip())
    if key not in ATTRIBUTES and key not in OF_XML and not _OPEN.fullmatch(key):
        return "a reference that leads outside" if name.lower() == "href" else ""
    value = str(element.attrib[key])
    if key == "style":
        return _refused_style(element, value)
    return None if value_allowed(value) else "a reference that leads outside"


def _refused_style(element: etree._Element, style: str) -> str | None:
    """What is to be said of a `style` that stays in part."""
    calm = declarations_allowed(style)
    if calm != style:
        element.set("style", calm)
    return None if calm else "a reference that leads outside"


def _refused_link(element: etree._Element, link: str) -> str | None:
    name = local_name(element)
    if name == "a":
        return None if _HARMLESS.match(link) else "a link that runs something"
    if link.startswith("#") or not link:
        return None
    if name == "image" and _PICTURE.match(link):
        return None
    return "a reference that leads outside"


@lru_cache(4096)
def value_allowed(value: str) -> bool:
    r"""Whether a value of CSS refers to nothing but parts of the file.

    >>> value_allowed("url(#a)"), value_allowed("\\75rl(//a.test/b)"), value_allowed("red")
    (True, False, True)
    """
    if ("(" not in value and "\\" not in value) or _PLAIN.fullmatch(value):
        return True
    return _are_allowed(tinycss2.parse_component_value_list(value))


def _are_allowed(nodes: Iterable[Any], *, is_font: bool = False) -> bool:
    return all(_is_allowed(node, is_font=is_font) for node in nodes)


def _is_allowed(node: Any, *, is_font: bool) -> bool:  # noqa: ANN401 - tinycss2 has no types
    if node.type == "url":
        return _is_inside(node.value, is_font=is_font)
    if node.type == "function":
        if node.lower_name == "url":
            texts = [
                inner for inner in node.arguments if inner.type not in ("whitespace", "comment")
            ]
            return all(
                inner.type == "string" and _is_inside(inner.value, is_font=is_font)
                for inner in texts
            )
        known = node.lower_name in FUNCTIONS or (is_font and node.lower_name in ("format", "tech"))
        return known and _are_allowed(node.arguments, is_font=is_font)
    if node.type in ("() block", "[] block", "{} block"):
        return _are_allowed(node.content, is_font=is_font)
    return node.type not in ("error", "at-keyword")


def _is_inside(address: str, *, is_font: bool) -> bool:
    bare = address.strip()
    return bare.startswith("#") or bool(is_font and _FONT.match(bare))


def declarations_allowed(style: str) -> str:
    """A `style` attribute without declarations that lead outside; the same text where all stay."""
    if "(" not in style and "\\" not in style and "@" not in style:
        return style
    nodes = tinycss2.parse_blocks_contents(style, skip_comments=True, skip_whitespace=True)
    kept = [node for node in nodes if node.type == "declaration" and _are_allowed(node.value)]
    return style if len(kept) == len(nodes) else _serialized(kept)


def sheet_allowed(text: str) -> tuple[str, bool]:
    """A style sheet without all that leads outside, and whether there was any.

    It is read again until nothing changes: taking something out may put other things together.
    """
    fetches = False
    for _ in range(READINGS):
        sheet = _Sheet()
        calm = sheet.read(text)
        fetches = fetches or sheet.fetches
        if calm == text:
            return text, fetches
        text = calm
    return "", True


class _Sheet:
    """A style sheet while it is read; `fetches` tells that something led outside."""

    def __init__(self) -> None:
        self.fetches = False

    def read(self, text: str) -> str:
        """The sheet with what may stay; the same text where all does."""
        return self._kept(tinycss2.parse_stylesheet(text, skip_comments=True), text)

    def _kept(self, nodes: Sequence[Any], text: str) -> str:
        """Rules as text: as it was where all stay as they are."""
        kept = [node if node.type == "whitespace" else self._rule(node) for node in nodes]
        if all(new is old for new, old in zip(kept, nodes, strict=True)):
            return text
        return _serialized([rule for rule in kept if rule is not None])

    def _rule(self, node: Any) -> Any:  # noqa: ANN401
        """A rule that may stay: itself, or without some of what is in it; None for another."""
        if node.type == "qualified-rule":
            return self._with_content(node) if _are_selectors(node.prelude) else None
        if node.type != "at-rule" or node.lower_at_keyword in IDLE:
            return None
        name = node.lower_at_keyword.removeprefix("-webkit-")
        if name not in RULES or node.content is None or not _are_allowed(node.prelude):
            self.fetches = True
            return None
        if name == "font-face":
            return self._with_content(node, is_font=True)
        inner = tinycss2.parse_rule_list(node.content, skip_comments=True)
        before = tinycss2.serialize(node.content)
        after = self._kept(inner, before)
        return node if after == before else _Rewritten(f"{_head(node)}{{{after}}}")

    def _with_content(self, node: Any, *, is_font: bool = False) -> Any:  # noqa: ANN401
        inner = tinycss2.parse_blocks_contents(node.content, skip_comments=True)
        kept = [self._inner(one, is_font=is_font) for one in inner]
        if all(new is old for new, old in zip(kept, inner, strict=True)):
            return node
        text = _serialized([one for one in kept if one is not None])
        return _Rewritten(f"{_head(node)}{{{text}}}")

    def _inner(self, node: Any, *, is_font: bool) -> Any:  # noqa: ANN401
        """A declaration, or a rule within a rule, that may stay."""
        if node.type in ("qualified-rule", "at-rule"):
            return self._rule(node)
        if node.type != "declaration":
            return node if node.type == "whitespace" else None
        if _are_allowed(node.value, is_font=is_font):
            return node
        self.fetches = True
        return None


def _are_selectors(nodes: Iterable[Any]) -> bool:
    """Whether a prelude holds nothing that is fetched: functions are those of selectors."""
    return all(node.type not in ("url", "error", "at-keyword") for node in nodes)


def _head(node: Any) -> str:  # noqa: ANN401
    prelude: str = tinycss2.serialize(node.prelude)
    return f"@{node.at_keyword}{prelude}" if node.type == "at-rule" else prelude


class _Rewritten:
    """A rule that lost some of what was in it, as text."""

    def __init__(self, text: str) -> None:
        self._text = text

    def serialize(self) -> str:
        """As nodes of tinycss2 do."""
        return self._text


def _serialized(nodes: Iterable[Any]) -> str:
    parts = []
    for node in nodes:
        text = node.serialize()
        is_declaration = getattr(node, "type", "") == "declaration"
        parts.append(f"{text};" if is_declaration and not text.endswith(";") else text)
    return "".join(parts)


def set_text(element: etree._Element, text: str) -> None:
    """Let an element hold nothing but a text."""
    for child in list(element):
        element.remove(child)
    element.text = text
