"""The text of a page -> its elements with their lines, and all that it names.

Proofreading reads a page quickly, and asks a real HTML parser only where ends do not match
beginnings. Contrast is told from rules for single elements alone; what others paint is not known.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, field
from html.parser import HTMLParser

#: Elements without an end. HTML, 13.1.2.
VOID = frozenset("area base br col embed hr img input link meta source track wbr".split())

#: Elements whose end may be left out. HTML, 13.1.2.4.
OPTIONAL = frozenset(
    "li dt dd p rt rp optgroup option colgroup thead tbody tfoot tr td th body html head".split()
)

#: What ends a paragraph that it stands in, end tag or not. HTML, 13.1.2.4.
ENDS_P = frozenset(
    "address article aside blockquote details div dl fieldset figcaption figure footer form h1 h2 "
    "h3 h4 h5 h6 header hgroup hr main menu nav ol p pre search section table ul".split()
)


@dataclass(eq=False)
class Node:
    """An element: its attributes, its line, what it is in, its own text and that of all in it."""

    tag: str
    attributes: dict[str, str]
    line: int
    parent: Node | None = None
    text: str = ""
    children: list[Node] = field(default_factory=list)

    @property
    def classes(self) -> tuple[str, ...]:
        """Its classes."""
        return tuple(self.attributes.get("class", "").split())

    def walk(self) -> Iterator[Node]:
        """The element and all in it."""
        yield self
        for child in self.children:
            yield from child.walk()

    @property
    def words(self) -> str:
        """All text in it, on one line."""
        return " ".join(" ".join(node.text for node in self.walk()).split())


@dataclass(frozen=True)
class Page:
    """A page below a folder: its elements in order; `is_odd` when ends do not match beginnings."""

    file: str
    text: str
    nodes: tuple[Node, ...]
    is_odd: bool

    def all(self, *tags: str) -> list[Node]:
        """The elements of some kinds."""
        return [node for node in self.nodes if node.tag in tags]


class _Reader(HTMLParser):
    """Notes elements and where they are; ends that do not match make a page odd."""

    def __init__(self) -> None:
        super().__init__(convert_charrefs=True)
        self.nodes: list[Node] = []
        self.stack: list[Node] = []
        self.is_odd = False

    def handle_starttag(self, tag: str, attrs: list[tuple[str, str | None]]) -> None:
        parent = self.stack[-1] if self.stack else None
        if tag in ENDS_P and any(node.tag == "p" for node in self.stack):
            self.is_odd = True
        node = Node(tag, {k: v or "" for k, v in reversed(attrs)}, self.getpos()[0], parent)
        self.nodes.append(node)
        if parent is not None:
            parent.children.append(node)
        if tag not in VOID:
            self.stack.append(node)

    def handle_startendtag(self, tag: str, attrs: list[tuple[str, str | None]]) -> None:
        self.handle_starttag(tag, attrs)
        if tag not in VOID and self.stack:
            self.stack.pop()

    def handle_endtag(self, tag: str) -> None:
        if tag in VOID:
            self.is_odd = True
            return
        if self.stack and self.stack[-1].tag == tag:
            self.stack.pop()
            return
        self.is_odd = True
        if any(node.tag == tag for node in self.stack):
            while self.stack.pop().tag != tag:
                pass

    def handle_data(self, data: str) -> None:
        if self.stack:
            self.stack[-1].text += data


def read(file: str, text: str) -> Page:
    """A page. It is never refused: what is wrong with it is for others to say."""
    reader = _Reader()
    reader.feed(text)
    reader.close()
    is_odd = reader.is_odd or any(node.tag not in OPTIONAL for node in reader.stack)
    return Page(file, text, tuple(reader.nodes), is_odd or bool(reader.stack))


#: What html5lib says of elements that were left open or closed twice, as sentences.
_ERRORS = {
    "expected-closing-tag-but-got-eof": "the page ends while elements are open",
    "expected-one-end-tag-but-got-another": "</{gotName}> comes while <{expectedName}> is open",
    "unexpected-end-tag": "</{name}> ends nothing that is open",
    "end-tag-too-early": "</{name}> comes while elements in it are open",
    "end-tag-too-early-named": "</{gotName}> comes while <{expectedName}> is open",
    "adoption-agency-1.3": "</{name}> ends what began outside",
    "unexpected-start-tag-implies-end-tag": "<{startName}> begins while <{endName}> is open",
    "expected-named-closing-tag-but-got-eof": "<{name}> is never ended",
    "unexpected-end-tag-before-html": "</{name}> comes before the page",
    "no-p-element-in-scope": "</p> ends a paragraph that had ended",
}


#: What stands in sentences where the parser names nothing.
_NAMELESS = dict.fromkeys(("name", "gotName", "expectedName", "startName", "endName"), "")


def left_open(page: Page) -> Iterator[tuple[int, str]]:
    """Elements that were left open or ended twice, by line, as an HTML parser finds them.

    HTML, 13.2: parsing HTML documents.
    """
    if not page.is_odd:
        return
    import html5lib

    parser = html5lib.HTMLParser(tree=html5lib.getTreeBuilder("etree"))
    parser.parse(page.text)
    for (line, _), code, value in parser.errors:
        sentence = _ERRORS.get(code)
        if sentence is not None:
            yield line, sentence.format_map({**_NAMELESS, **value})
