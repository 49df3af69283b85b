"""An open page -> the declarations that decide how an element looks, each with its file and line.

Read through the Chrome DevTools Protocol, domain CSS: matched styles. A declaration can be tried
with another value; the page is as before when the trial ends.
"""

from __future__ import annotations

import re
from collections.abc import Iterator, Mapping, Sequence
from contextlib import contextmanager
from dataclasses import dataclass, field
from typing import Any
from urllib.parse import unquote, urlsplit

from riffler.fit.tab import Tab

#: An element by its number.
_ELEMENT = "number => globalThis.riffler.elements[number]"

#: The selector, so to say, of what an element's own attribute says. CSS Style Attributes.
INLINE = "[style]"

_VARIABLE = re.compile(r"var\(\s*(--[\w-]+)")


@dataclass(frozen=True)
class Declaration:
    """A declaration as it is written. `line` counts from 1 in `file`, the page or a style sheet."""

    file: str
    line: int
    selector: str
    name: str
    value: str
    sheet: str = field(repr=False)
    body: str = field(repr=False)
    """All that stands between the braces, and where the declaration stands in it."""
    start: int = field(repr=False)
    end: int = field(repr=False)
    range: Mapping[str, int] = field(repr=False, hash=False, compare=False)

    @property
    def is_for_all(self) -> bool:
        """Whether its rule means everything, or the page as a whole."""
        return any(part.strip() in ("*", "html", "body") for part in self.selector.split(","))

    def written(self, value: str) -> str:
        """The rule's body with another value."""
        old = self.body[self.start : self.end]
        at = old.rfind(self.value)
        new = old[:at] + value + old[at + len(self.value) :] if at >= 0 else old
        return self.body[: self.start] + new + self.body[self.end :]


class Styles:
    """The style sheets of an open page."""

    def __init__(self, tab: Tab) -> None:
        self._tab, self._sheets = tab, dict[str, Mapping[str, Any]]()
        self._line = tab.session()
        self._line.on("CSS.styleSheetAdded", self._add)
        for domain in ("DOM", "CSS"):
            self._line.send(f"{domain}.enable")
        self._line.send("DOM.getDocument", {"depth": 0})
        self._known: dict[int, tuple[Declaration, ...]] = {}

    def _add(self, event: Mapping[str, Any]) -> None:
        self._sheets[event["header"]["styleSheetId"]] = event["header"]

    def of(self, element: int) -> tuple[Declaration, ...]:
        """The declarations for an element by its number, what holds last; `--names` it inherits."""
        if element not in self._known:
            self._known[element] = tuple(self._read(element))
        return self._known[element]

    def _read(self, element: int) -> Iterator[Declaration]:
        node = self._tab.node(self._line, _ELEMENT, element)
        if node is None:
            return
        matched = self._line.send("CSS.getMatchedStylesForNode", {"nodeId": node})
        own_declarations = [
            declaration
            for rule in matched.get("matchedCSSRules", ())
            for declaration in self._declared(rule)
        ]
        used = {
            name
            for declaration in own_declarations
            for name in _VARIABLE.findall(declaration.value)
        }
        for around in matched.get("inherited", ()):
            for rule in around.get("matchedCSSRules", ()):
                yield from (
                    declaration for declaration in self._declared(rule) if declaration.name in used
                )
        yield from own_declarations
        inline = matched.get("inlineStyle", {})
        if "range" in inline:
            said = {"origin": "regular", "selectorList": {"text": INLINE}, "style": inline}
            yield from self._declared({"rule": said})

    def _declared(self, match: Mapping[str, Any]) -> Iterator[Declaration]:
        rule = match["rule"]
        style = rule["style"]
        if rule.get("origin") != "regular" or "range" not in style:
            return
        header = self._sheets.get(style.get("styleSheetId", ""), {})
        for declaration in style["cssProperties"]:
            if (
                "range" not in declaration
                or declaration.get("disabled")
                or not declaration.get("parsedOk", True)
            ):
                continue
            start, end = (offset(style, declaration["range"], side) for side in ("start", "end"))
            yield Declaration(
                _file(header),
                declaration["range"]["startLine"] + 1 + round(header.get("startLine", 0)),
                rule["selectorList"]["text"],
                declaration["name"],
                _plain(declaration["value"]),
                style["styleSheetId"],
                style["cssText"],
                start,
                end,
                style["range"],
            )

    @contextmanager
    def trying(self, declaration: Declaration, value: str) -> Iterator[None]:
        """The page with another value of a declaration."""
        body = declaration.written(value)
        self._set(declaration, declaration.range, body)
        try:
            yield
        finally:
            now = range_of(declaration.range, body)
            self._set(declaration, now, declaration.body)

    def _set(self, declaration: Declaration, place: Mapping[str, int], text: str) -> None:
        edit = {"styleSheetId": declaration.sheet, "range": dict(place), "text": text}
        self._line.send("CSS.setStyleTexts", {"edits": [edit]})


def _plain(value: str) -> str:
    return value.removesuffix("!important").strip()


def offset(style: Mapping[str, Any], place: Mapping[str, int], side: str) -> int:
    """Where in a rule's body a place of its style sheet is."""
    line, column = place[f"{side}Line"], place[f"{side}Column"]
    first = style["range"]
    if line == first["startLine"]:
        return int(column - first["startColumn"])
    lines: Sequence[str] = style["cssText"].split("\n")
    before = lines[: line - first["startLine"]]
    return sum(len(item) + 1 for item in before) + int(column)


def range_of(begun: Mapping[str, int], body: str) -> dict[str, int]:
    """The range of a body that begins where another did."""
    lines = body.split("\n")
    last = len(lines[-1]) + (begun["startColumn"] if len(lines) == 1 else 0)
    return {
        "startLine": begun["startLine"],
        "startColumn": begun["startColumn"],
        "endLine": begun["startLine"] + len(lines) - 1,
        "endColumn": last,
    }


def _file(header: Mapping[str, Any]) -> str:
    """The path of a file, or the path of an address, without a query."""
    parts = urlsplit(str(header.get("sourceURL", "")))
    return unquote(parts.path) if parts.scheme in ("file", "http", "https") else ""
