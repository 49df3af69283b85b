"""Style sheets inside an SVG -> style attributes, so that a pruned copy looks the same.

SVG 2, section 6: presentation attributes, then rules by specificity and order, then `style`.

Style sheets inside an SVG are settled into `style` attributes when the file is read, so that a
pruned copy looks the same whatever its selectors said.

`cssselect` finds what selectors in an SVG mean; it is small and well kept, and knows the whole
grammar.
"""

from __future__ import annotations

import time
from collections.abc import Sequence
from functools import lru_cache
from typing import TYPE_CHECKING

import tinycss2
import tinycss2.color3
from lxml import etree

from riffler.errors import MockupError
from riffler.mockup.xml import local_name

if TYPE_CHECKING:
    from cssselect import GenericTranslator
    from cssselect.parser import Selector

Declarations = dict[str, tuple[str, bool]]
"""Property -> its value and whether it is `!important`."""

#: Properties whose value is a colour.
COLORED = ("fill", "stroke", "stop-color", "flood-color", "lighting-color", "color")

#: What such a value may begin with, beside the names of colours; SVG 2, section 13.2.
COLOR_FUNCTIONS = {"rgb", "rgba", "hsl", "hsla", "url"}
KEYWORDS = {"none", "currentcolor", "inherit", "transparent", "context-fill", "context-stroke"}
IGNORED = ("whitespace", "comment")

#: More rules than this in a drawing are no style sheet but an attack.
MOST_RULES = 5_000


#: Pairs of an element and a rule that matches it, selectors in a chain, and seconds of processor
#: time for all of them, beyond which the same holds.
MOST_MATCHES, LONGEST_CHAIN, MOST_SECONDS = 200_000, 10, 2.0


def settle(root: etree._Element, what: str) -> None:
    """Turn every `style` element into `style` attributes, and drop the elements.

    Raises MockupError, which names `what`, for a style sheet that takes too long to match.
    """
    sheets = [element for element in root.iter() if local_name(element) == "style"]
    if sheets:
        _settle_sheets(root, sheets, what)
    _drop_unknown_colors(root)


def _settle_sheets(root: etree._Element, sheets: Sequence[etree._Element], what: str) -> None:
    text = "\n".join("".join(str(part) for part in sheet.itertext()) for sheet in sheets)
    for sheet in sheets:
        parent = sheet.getparent()
        if parent is not None:
            parent.remove(sheet)
    styled: dict[etree._Element, Declarations] = {}
    for element, declarations in _matched(root, text, what):
        _merge(styled.setdefault(element, {}), declarations)
    for element, declarations in styled.items():
        _merge(declarations, declared(element.get("style", "")))
        element.set("style", _as_text(declarations))


def _drop_unknown_colors(root: etree._Element) -> None:
    """Take out what no browser of the renderer's age knows, so that what was said before counts.

    A declaration that is not understood is ignored; CSS Syntax 3, section 9.
    """
    for element in root.iter():
        if not isinstance(element.tag, str):
            continue
        for name in COLORED:
            if (value := element.get(name)) is not None and not _is_known_color(value):
                del element.attrib[name]
        if any(name in element.get("style", "") for name in COLORED):
            element.set("style", _as_text(declared(element.attrib["style"])))


@lru_cache(4096)
def _is_known_color(text: str) -> bool:
    """Whether a value of a colour property is one that the renderer understands."""
    nodes = [n for n in tinycss2.parse_component_value_list(text) if n.type not in IGNORED]
    first = nodes[0] if nodes else None
    if first is None:
        return False
    if first.type == "function":
        return first.lower_name in COLOR_FUNCTIONS
    if first.type == "ident":
        return first.lower_value in KEYWORDS or tinycss2.color3.parse_color(first) is not None
    return first.type in ("hash", "url")


def own(element: etree._Element, name: str) -> str | None:
    """A property as the element itself says it: `style` first, then the attribute."""
    if name in (style := element.get("style", "")):
        result = declared(style).get(name)
        if result is not None:
            return result[0]
    return element.get(name)


def has(element: etree._Element, effect: str) -> bool:
    """Whether the element itself says an effect: a clip, a mask, a filter."""
    return own(element, effect) not in (None, "none")


def inherited(element: etree._Element, name: str) -> str | None:
    """A property as the element or the nearest one around it says it."""
    this_element: etree._Element | None = element
    while this_element is not None:
        value = own(this_element, name)
        if value is not None and value != "inherit":
            return value
        this_element = this_element.getparent()
    return None


def without(element: etree._Element, *names: str) -> None:
    """Take properties off the element, wherever it says them."""
    for name in names:
        element.attrib.pop(name, None)
    if "style" in element.attrib:
        kept = {n: v for n, v in declared(element.attrib["style"]).items() if n not in names}
        element.set("style", _as_text(kept))


def _as_text(declarations: Declarations) -> str:
    """Declarations as a `style` attribute; what is important was settled with the style sheets."""
    return ";".join(f"{name}:{value}" for name, (value, _) in declarations.items())


@lru_cache(4096)
def declared(text: str) -> Declarations:
    """What a `style` says; the same for every element that says the same, and not to be changed."""
    result: Declarations = {}
    for node in tinycss2.parse_declaration_list(text, skip_comments=True, skip_whitespace=True):
        if node.type == "declaration":
            value = tinycss2.serialize(node.value).strip()
            if node.lower_name not in COLORED or _is_known_color(value):
                result[node.lower_name] = (value, node.important)
    return result


def _merge(into: Declarations, later: Declarations) -> None:
    for name, (value, important) in later.items():
        if important or not into.get(name, ("", False))[1]:
            into[name] = (value, important)


def _matched(
    root: etree._Element, text: str, what: str
) -> list[tuple[etree._Element, Declarations]]:
    """Elements with the declarations that match them, weakest first."""
    from cssselect import SelectorError, parse

    translator = _translator()
    result: list[tuple[tuple[int, int, int], int, etree._Element, Declarations]] = []
    rules = tinycss2.parse_stylesheet(text, skip_comments=True, skip_whitespace=True)
    begun = time.thread_time()
    if len(rules) > MOST_RULES:
        raise _too_much(what)
    for order, rule in enumerate(rules):
        if rule.type != "qualified-rule":
            continue  # @media, @font-face and @import: nothing here may depend on a window or a net
        declarations = declared(tinycss2.serialize(rule.content))
        try:
            selectors = parse(tinycss2.serialize(rule.prelude))
            paths = [(s.specificity(), translator.selector_to_xpath(s)) for s in selectors]
        except (SelectorError, RecursionError):
            continue
        if any(_chain(selector) > LONGEST_CHAIN for selector in selectors):
            raise _too_much(what)
        for specificity, path in paths:
            result.extend(
                (specificity, order, element, declarations)
                for element in root.getroottree().xpath(path)
                if isinstance(element, etree._Element)
            )
            if len(result) > MOST_MATCHES or time.thread_time() > begun + MOST_SECONDS:
                raise _too_much(what)
    result.sort(key=lambda match: match[:2])
    return [(element, declarations) for *_, element, declarations in result]


def _chain(selector: Selector) -> int:
    """How many selectors stand in a chain: 2 for `g rect`."""
    length, here = 1, selector.parsed_tree
    while (before := getattr(here, "selector", None)) is not None:
        length += hasattr(here, "combinator")
        here = before
    return length


def _too_much(what: str) -> MockupError:
    return MockupError(
        f"{what}: its style sheet has more rules, or rules that match more, than can be followed.",
        "Let the drawing program write presentation attributes instead.",
    )


def _translator() -> GenericTranslator:
    """A translator of selectors that asks for an element's name in any namespace."""
    from cssselect import GenericTranslator
    from cssselect.parser import Element
    from cssselect.xpath import XPathExpr

    class AnyNamespace(GenericTranslator):
        def xpath_element(self, selector: Element) -> XPathExpr:
            path = XPathExpr(element="*")
            if selector.element:
                path.add_condition(f"local-name() = {self.xpath_literal(selector.element)}")
            return path

    return AnyNamespace()
