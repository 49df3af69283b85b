"""A thing at fault on an open page -> the declaration that is, and the value that puts it right.

Values are not guessed: each is put in, everything is measured again, and the one is proposed with
which least is off.
"""

from __future__ import annotations

import json
import re
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from itertools import takewhile
from pathlib import Path
from urllib.parse import unquote, urlsplit

from riffler.fit.causes import Root
from riffler.fit.declarations import INLINE, Declaration, Styles
from riffler.fit.fault import PLACE, Difference, Fault, Placed
from riffler.fit.seen import SeenPage
from riffler.fit.tab import Tab
from riffler.fit.values import (
    CARRIERS,
    HIDING,
    INHERITED,
    ROOM,
    instead,
    lengths,
    wider,
)

_IMG, _COMMENT = re.compile(r"<img\b[^>]*>", re.IGNORECASE), re.compile(r"<!--.*?-->", re.DOTALL)

#: Elements around and before a thing whose declarations are tried; trials of one root.
REACH, TRIALS = 5, 90

#: Lengths tried for one root; how far from whole one may be measured, and is tried as whole, too.
WAYS, NEARLY, PERHAPS = 4, 0.15, 0.35

#: CSS pixels by which all must lie better with a broken number where a whole one stood.
UNEVEN = 2.0

#: The share of what is off with a root and its followers that a value must put right.
MENDED = 0.9

#: What all of a page is in: a value there is none for a single thing.
_WHOLE = ("html", "body")

#: Where all elements are now, and what is written in them; CSS pixels from the page's corner.
_RECTS = """() => JSON.stringify(globalThis.riffler.elements.map(e => {
  const own = globalThis.riffler.of(e).getBoundingClientRect();
  const range = globalThis.riffler.doc.createRange();
  range.selectNodeContents(e);
  const inner = range.getBoundingClientRect();  // a field has none
  return [own, inner.width || inner.height ? inner : own]
    .flatMap(b => [b.x + scrollX, b.y + scrollY, b.right + scrollX, b.bottom + scrollY]);
}))"""

Edges = Sequence[float]


@dataclass(frozen=True)
class Remedy:
    """A declaration and the value that would be right; `right` things then lie where they should.

    `right` is None for what no measuring settles, like colours.
    """

    declaration: Declaration
    value: str
    right: int | None = None


@dataclass(frozen=True)
class PageSource:
    """What a page is written as, and where."""

    path: str
    text: str

    @classmethod
    def of(cls, address: str) -> PageSource | None:
        """The source of a page that is a file."""
        parts = urlsplit(address)
        if parts.scheme != "file":
            return None
        path = unquote(parts.path)
        text = Path(path).read_text(encoding="utf-8", errors="replace")
        return cls(path, _COMMENT.sub(lambda match: re.sub(r"[^\n]", " ", match[0]), text))


class Remedies:
    """Finds remedies on a page that is open as it was seen.

    What is off by no more than `within` CSS pixels lies right.
    """

    def __init__(
        self,
        tab: Tab,
        seen: SeenPage,
        placed: Sequence[Placed],
        source: PageSource | None,
        within: float,
    ) -> None:
        self._source = source
        self._tab, self._seen, self._styles = tab, seen, Styles(tab)
        self._placed = [
            one_placed
            for one_placed in placed
            if one_placed.element >= 0 and seen.nodes[one_placed.element].tag not in _WHOLE
        ]
        self._within = within
        self._still = sum(one_placed.off <= within for one_placed in placed) - sum(
            placed.off <= within for placed in self._placed
        )
        self._before = _rects(tab)
        self._good: list[tuple[Remedy, Sequence[Edges]]] = []

    def of(self, root: Root) -> Remedy | None:
        """What would put a root right; None where no single declaration does."""
        if root.placed.element < 0:
            return self._shown(root.placed)
        for difference in root.placed.differences:
            if difference.fault in CARRIERS:
                return self._said(root.placed, difference)
            if difference.fault is not Fault.BREAKS and difference.fault is not Fault.STRETCHED:
                return None
        remedy = self._attribute(root.placed) or self._tried(root)
        return remedy and self._written(remedy)

    def _written(self, remedy: Remedy) -> Remedy | None:
        """A remedy with its place in the page where an attribute says it; None for no one place."""
        declaration = remedy.declaration
        if declaration.selector != INLINE:
            return remedy
        if self._source is None or self._source.text.count(declaration.body) != 1:
            return None
        line = self._source.text.count("\n", 0, self._source.text.index(declaration.body)) + 1
        return replace(remedy, declaration=replace(declaration, file=self._source.path, line=line))

    def _shown(self, placed: Placed) -> Remedy | None:
        """What would show a thing that is on the page, and hidden there."""
        for element in self._around(self._seen.hidden_as(placed.thing.box, placed.thing.setting)):
            for declaration in reversed(self._styles.of(element)):
                if declaration.name not in HIDING:
                    continue
                hides, shows = HIDING[declaration.name]
                if declaration.value == hides:
                    return self._written(Remedy(declaration, shows))
        return None

    def _around(self, element: int) -> Iterator[int]:
        """An element and those that it is in, but for the page as a whole."""
        return takewhile(
            lambda around: self._seen.nodes[around].tag not in _WHOLE, self._seen.around(element)
        )

    def _attribute(self, placed: Placed) -> Remedy | None:
        """The width or height that a picture's tag says."""
        if self._seen.nodes[placed.element].tag != "img" or self._source is None:
            return None
        same = [n for n, node in enumerate(self._seen.nodes) if node.tag == "img"]
        tags = list(_IMG.finditer(self._source.text))
        at = same.index(placed.element)
        if at >= len(tags):
            return None
        box = self._seen.nodes[placed.element].box
        for name, more, side in (
            ("width", placed.dw, box.width),
            ("height", placed.dh, box.height),
        ):
            match = re.search(rf"\b{name}=[\"']?(\d+)", tags[at][0])
            if abs(more) > PLACE and match and abs(float(match[1]) - side) < 1:
                line = self._source.text.count("\n", 0, tags[at].start() + match.start()) + 1
                selector = self._seen.selector(placed.element)
                declaration = Declaration(
                    self._source.path, line, f"<img> {selector}", name, match[1], "", "", 0, 0, {}
                )
                return Remedy(declaration, f"{round(side - more):g}")
        return None

    def _said(self, placed: Placed, difference: Difference) -> Remedy | None:
        """The declaration that says what the mockup says otherwise."""
        is_part = difference.element >= 0
        for element in self._around(difference.element if is_part else placed.element):
            if is_part and element == placed.element:  # what it inherits is that of all the words
                return None
            for name in CARRIERS[difference.fault]:
                for declaration in reversed(self._styles.of(element)):
                    if declaration.name != name:
                        continue
                    value = instead(declaration.value, difference)
                    if value is not None and value != declaration.value:
                        return self._written(Remedy(declaration, value))
            if difference.fault not in INHERITED:
                return None
        return None

    def _tried(self, root: Root) -> Remedy | None:
        """The declaration of room with whose other value most lies right."""
        concerned = [root.placed, *root.followers]
        off = self._off(self._before, concerned)
        for remedy, rects in self._good:  # what puts another right may put this one right, too
            if self._off(rects, concerned) <= off * (1 - MENDED):
                return remedy
        others = self._off(self._before, self._placed) - off
        best, least = None, others + off * (1 - MENDED)
        after: Sequence[Edges] = ()
        for trial, (declaration, value) in enumerate(self._ideas(root)):
            if trial >= TRIALS:
                break
            with self._styles.trying(declaration, value):
                rects = _rects(self._tab)
            left = self._off(rects, self._placed)
            left += UNEVEN if "." in value and "." not in declaration.value else 0.0
            if left < least or (left <= least and best is None):
                right = self._still + sum(self._lies(placed, rects) for placed in self._placed)
                best, least, after = Remedy(declaration, value, right), left, rects
                if left <= others + PLACE:
                    break
        if best is not None:
            self._good.append((best, after))
        return best

    def _off(self, rects: Sequence[Edges], placed: Sequence[Placed]) -> float:
        """How far all edges of things are off together, by how their elements moved since."""
        total = 0.0
        for one_placed in placed:
            for edge in _edges(
                one_placed, self._before[one_placed.element], rects[one_placed.element]
            ):
                total += abs(edge) if abs(edge) > PLACE else 0.0
        return total

    def _lies(self, placed: Placed, rects: Sequence[Edges]) -> bool:
        """Whether a thing is not off by more than counts, where its element moved since."""
        edges = _edges(placed, self._before[placed.element], rects[placed.element])
        return max(map(abs, edges)) <= self._within

    def _ideas(self, root: Root) -> Iterator[tuple[Declaration, str]]:
        """Declarations to try, the nearest first, with other values."""
        placed, ways = root.placed, _ways([root.placed, *root.followers])
        tried = set()
        for element in self._near(placed.element):
            for declaration in reversed(self._styles.of(element)):
                place = (declaration.sheet, declaration.line, declaration.start, declaration.name)
                if place in tried or not ROOM.fullmatch(declaration.name) or declaration.is_for_all:
                    continue
                tried.add(place)
                if any(d.fault is Fault.BREAKS for d in placed.differences):
                    yield from wider(declaration, placed.thing.setting)
                for way in ways:
                    yield from lengths(declaration, way)

    def _near(self, element: int) -> Iterator[int]:
        """An element, what stands before it, and the same of those around it."""
        nodes = self._seen.nodes
        for _ in range(REACH):
            if element < 0:
                return
            yield element
            parent = nodes[element].parent
            beside = [n for n in range(element - 1, parent, -1) if nodes[n].parent == parent]
            yield from beside[:1]
            element = parent


def _rects(tab: Tab) -> Sequence[Edges]:
    """Where all elements are, and what is in them; as text, which comes over in half the time."""
    rects: Sequence[Edges] = json.loads(tab.ask(_RECTS))
    return rects


def _edges(placed: Placed, was: Edges, now: Edges) -> tuple[float, ...]:
    """How far the edges of a thing are off now; of a text where it is aligned, and its height."""
    moved = [b - a for a, b in zip(was, now, strict=True)]
    if not placed.is_of_type:
        left, top, right, bottom = moved[:4]
        return (
            placed.dx + left,
            placed.dy + top,
            placed.dx + placed.dw + right,
            placed.dy + placed.dh + bottom,
        )
    left, top, right, bottom = moved[4:]
    align = placed.thing.setting.align if placed.thing.setting else "left"
    across = {"left": left, "right": right, "center": (left + right) / 2}[align]
    return (placed.dx + across, placed.dy + top, placed.dy + placed.dh + bottom)


def _ways(placed: Sequence[Placed]) -> list[float]:
    """By how much things are off, those at fault first; what may be whole pixels first as such."""
    result = list[float]()
    for one_placed in placed:
        for way in sorted(
            (one_placed.dx, one_placed.dy, one_placed.dw, one_placed.dh), key=abs, reverse=True
        ):
            whole = float(round(way))
            texts = [whole] if abs(way - whole) < PERHAPS else []
            texts += [round(way, 2)] if abs(way - whole) >= NEARLY else []
            result += [way for way in texts if abs(way) > PLACE and way not in result]
    return result[:WAYS]
