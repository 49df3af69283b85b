"""A style sheet -> its rules for single elements, its classes, and what it names."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any

import tinycss2

#: What of an element decides how its text stands out.
KNOWN = (
    "color",
    "background",
    "background-color",
    "background-image",
    "font-size",
    "font-weight",
    "position",
    "grid-area",
)


@dataclass(frozen=True)
class Rule:
    """What a rule says of elements of a tag or a class: by property, with its weight and place.

    `tag` and `name` are empty for any. Rules with more in their selectors are none: what they
    select is not known from an element alone.
    """

    tag: str
    name: str
    declarations: tuple[tuple[str, str], ...]
    line: int

    @property
    def weight(self) -> int:
        """Its specificity. CSS Selectors 4, section 17."""
        return 10 * bool(self.name) + bool(self.tag)


@dataclass(frozen=True)
class Sheet:
    """A style sheet, or a `style` element: classes with their first lines, rules, addresses.

    `blurred` are classes and tags that longer selectors paint: what they have is not known.
    """

    file: str
    classes: dict[str, int]
    rules: tuple[Rule, ...]
    urls: tuple[tuple[str, int], ...]
    properties: dict[str, str]
    blurred: frozenset[str]


def read_sheet(file: str, text: str, first: int = 1) -> Sheet:
    """Read a style sheet that begins at a line of its file."""
    reader = _Reader(first - 1)
    reader.read(tinycss2.parse_stylesheet(text, skip_comments=True, skip_whitespace=True))
    return Sheet(
        file,
        reader.classes,
        tuple(reader.rules),
        tuple(reader.urls),
        reader.properties,
        frozenset(reader.blurred),
    )


class _Reader:
    def __init__(self, before: int) -> None:
        self._before = before
        self.classes: dict[str, int] = {}
        self.rules: list[Rule] = []
        self.urls: list[tuple[str, int]] = []
        self.properties: dict[str, str] = {}
        self.blurred: set[str] = set()

    def read(self, nodes: list[Any], *, is_always: bool = True) -> None:
        """Every rule, those for some windows too."""
        for node in nodes:
            if node.type == "at-rule":
                self._addresses(node.prelude)
                if node.content is not None and node.lower_at_keyword in (
                    "media",
                    "supports",
                    "layer",
                ):
                    inner = tinycss2.parse_rule_list(
                        node.content, skip_comments=True, skip_whitespace=True
                    )
                    self.read(inner, is_always=False)
                elif node.content is not None:
                    self._addresses(node.content)
            elif node.type == "qualified-rule":
                self._rule(node, is_always=is_always)

    def _rule(self, node: Any, *, is_always: bool) -> None:  # noqa: ANN401 - tinycss2 has no types
        self._addresses(node.content)
        self._classes(node.prelude)
        declarations = tuple(
            (declaration.lower_name, tinycss2.serialize(declaration.value).strip())
            for declaration in tinycss2.parse_declaration_list(
                node.content, skip_comments=True, skip_whitespace=True
            )
            if declaration.type == "declaration"
        )
        shown = tuple(pair for pair in declarations if pair[0] in KNOWN)
        for selector in _selectors(node.prelude):
            tag, name, is_simple = _simple(selector)
            if (tag, name) == ("", "root") and not is_simple:
                self.properties.update(pair for pair in declarations if pair[0].startswith("--"))
            elif is_simple and is_always:
                self.rules.append(Rule(tag, name, shown, node.source_line + self._before))
            elif shown:
                self.blurred.add(name or tag or "*")

    def _classes(self, prelude: list[Any]) -> None:
        dot = False
        for token in _flat(prelude):
            if dot and token.type == "ident":
                self.classes.setdefault(token.value, token.source_line + self._before)
            dot = token.type == "literal" and token.value == "."

    def _addresses(self, tokens: list[Any]) -> None:
        for token in _flat(tokens):
            if token.type == "url":
                self.urls.append((token.value, token.source_line + self._before))
            elif token.type == "function" and token.lower_name == "url":
                for argument in token.arguments:
                    if argument.type == "string":
                        self.urls.append((argument.value, argument.source_line + self._before))


def _flat(tokens: list[Any]) -> Iterator[Any]:
    """Tokens, those in brackets and functions too."""
    for token in tokens:
        yield token
        inner = getattr(token, "content", None) if "block" in token.type else None
        inner = inner or (token.arguments if token.type == "function" else None)
        if inner:
            yield from _flat(inner)


def _selectors(prelude: list[Any]) -> list[list[Any]]:
    result: list[list[Any]] = [[]]
    for token in prelude:
        if token.type == "literal" and token.value == ",":
            result.append([])
        else:
            result[-1].append(token)
    return result


def _simple(selector: list[Any]) -> tuple[str, str, bool]:
    """Tag and class of the element that is selected, and whether no more is asked of it."""
    text = tinycss2.serialize(selector).strip()
    last = text.replace(">", " ").replace("+", " ").replace("~", " ").split()[-1] if text else ""
    tag, _, rest = last.partition(".")
    name = rest.split(":")[0].split("[")[0].split(".")[0]
    is_simple = last == text and not set(rest + tag) & set(":[#.*")
    plain = tag.split(":")[0].split("[")[0].split("#")[0].lower()
    if plain == "" and tag.startswith(":root"):
        return "", "root", False
    return plain if plain != "*" else "", name, is_simple
