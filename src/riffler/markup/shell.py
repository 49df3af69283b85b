"""Pages -> their templates: one shell with what they share, whose blocks each page fills."""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field

from riffler.markup.element import Code, Element, Loop
from riffler.markup.page_plan import Page
from riffler.markup.template import INDENT, lines, words

SHELL = "_shell.html"

#: The block of all that is in the body.
WHOLE = "page"

_HEAD = """\
<!doctype html>
<html lang="{{ site.language }}">
  <head>
    <meta charset="utf-8">
    <title>{% block title %}{% endblock %}</title>
    <meta name="viewport" content="width=device-width, initial-scale=1">
    {{ head() }}
  </head>
"""

_CLASS = "{% block class %}{% endblock %}"

#: How fields of data begin that are words.
SAYING = ("label", "title", "text", "lead", "note", "figure", "eyebrow")

#: What stands at the top of a page, in this order; what else does is kept together.
LANDMARKS = ("header", "main", "footer")


@dataclass(frozen=True)
class Slot:
    """A place in the shell: elements that all pages share, or a block that each fills.

    `around` holds the slots of an element that is shared but for parts of it.
    """

    name: str
    shared: Element | None = None
    around: Element | None = None
    slots: tuple[Slot, ...] = ()


@dataclass
class Templates:
    """The slots of the shell, and by page what fills its blocks.

    `is_added` says that the shell is there already, and these are more pages; `has_odd` that some
    pages fill all of the body.
    """

    pages: tuple[Page, ...]
    slots: tuple[Slot, ...]
    fills: dict[str, dict[str, list[Element]]] = field(default_factory=dict)
    is_added: bool = False
    has_odd: bool = False

    @property
    def roots(self) -> Iterator[tuple[str, Element]]:
        """Every element that is written, with the only page that has it; none where all do."""
        first = self.pages[0]
        for page in self.pages:
            yield page.name, _alone(page.body)
            if page is first and not self.is_added:
                yield from self._of(self.slots, first)
            else:
                for filled in self.fills[page.name].values():
                    yield from ((page.name, element) for element in filled)

    def _of(self, slots: Sequence[Slot], page: Page) -> Iterator[tuple[str, Element]]:
        """What a page shows, in the order of the shell."""
        for slot in slots:
            if slot.around is not None:
                yield "", _alone(slot.around)
                yield from self._of(slot.slots, page)
            elif slot.shared is not None:
                yield "", slot.shared
            else:
                own = self.fills[page.name].get(slot.name, ())
                yield from ((page.name, element) for element in own)

    @property
    def loops(self) -> Iterator[Loop]:
        """Every outer loop that is written."""
        for element in self.elements:
            if element.loop is not None and not element.loop.is_inner:
                yield element.loop

    @property
    def elements(self) -> Iterator[Element]:
        """Every element that is written, in order."""
        for _, root in self.roots:
            yield from root.walk()

    @property
    def texts(self) -> list[tuple[str, str]]:
        """The templates by name; classes have been given by then."""
        inner = [*self._shell(self.slots, 2)]
        if self.has_odd:
            inner = [f"{INDENT * 2}{{% block {WHOLE} %}}", *inner, f"{INDENT * 2}{{% endblock %}}"]
        body = [f"  <body{_CLASS}>", *inner, "  </body>", "</html>"]
        shell = _HEAD + "\n".join(body) + "\n"
        own = [] if self.is_added else [(SHELL, shell)]
        return [*own, *((f"{page.name}.html", self._page(page)) for page in self.pages)]

    def _shell(self, slots: Sequence[Slot], depth: int) -> Iterator[str]:
        space = INDENT * depth
        for slot in slots:
            if slot.around is not None:
                start, end = _tags(slot.around)
                yield space + start
                yield from self._shell(slot.slots, depth + 1)
                yield space + end
            elif slot.shared is not None:
                yield from lines([slot.shared], depth)
            else:
                yield f"{space}{{% block {slot.name} %}}{{% endblock %}}"

    def _page(self, page: Page) -> str:
        classes = " ".join([*(f"piece-{name}" for name in page.pieces), *page.body.classes])
        title = words(page.title or page.name)
        texts = [f'{{% extends "{SHELL}" %}}', "", f"{{% block title %}}{title}{{% endblock %}}"]
        if classes:
            texts.append(f'{{% block class %}} class="{classes}"{{% endblock %}}')
        for name, elements in self.fills[page.name].items():
            texts += ["", f"{{% block {name} %}}", *lines(elements), "{% endblock %}"]
        return "\n".join(texts) + "\n"


def _alone(element: Element) -> Element:
    """An element without what is in it, which is written elsewhere; classes are given to both."""
    return Element(
        element.tag,
        element.area,
        element.name,
        element.attributes,
        css=element.css,
        looks=element.looks,
        narrow=element.narrow,
        mockups=element.mockups,
        classes=element.classes,
    )


def _tags(element: Element) -> tuple[str, str]:
    (line,) = lines([_alone(element)])
    start, _, end = line.partition("</")
    return start, f"</{end}"


def blocks_of(shell: str) -> frozenset[str]:
    """The blocks that a shell leaves open."""
    return frozenset(re.findall(r"\{%-?\s*block\s+(\w+)", shell))


def templates(pages: Sequence[Page], known: frozenset[str] | None = None) -> Templates:
    """The templates of pages. Where there is a shell, its `known` blocks are filled."""
    made_templates = Templates(
        tuple(pages), (), {page.name: {} for page in pages}, known is not None
    )
    if known is not None:
        for page in pages:
            made_templates.fills[page.name] = dict(_for_blocks(page, known))
        return made_templates
    regular = _regular(pages)
    for page in pages:
        if page not in regular:
            made_templates.fills[page.name] = {WHOLE: page.body.inner}
    if regular:
        made_templates.has_odd = len(regular) < len(pages)
        made_templates.slots = tuple(
            _slots(made_templates, regular, [p.body.inner for p in regular], "")
        )
    else:
        made_templates.slots = (Slot(WHOLE),)
    return made_templates


def _regular(pages: Sequence[Page]) -> list[Page]:
    """The pages that have the landmarks which most of them have, where those are all they have."""
    tags = {page.name: tuple(element.tag for element in page.body.inner) for page in pages}
    usual, _ = Counter(tags.values()).most_common(1)[0]
    is_alone = list(tags.values()).count(usual) == 1 < len(pages)
    if is_alone or "main" not in usual or not {*usual} <= {*LANDMARKS}:
        return []
    return [page for page in pages if tags[page.name] == usual]


def _for_blocks(page: Page, known: frozenset[str]) -> Iterator[tuple[str, list[Element]]]:
    """What of a page goes into which block of a shell that is there; all into one if it must."""
    has_main = any(element.tag == "main" for element in page.body.inner)
    if "main" not in known or (page.body.inner and not has_main):
        yield (WHOLE if WHOLE in known else "main"), page.body.inner
        return
    for element in page.body.inner:
        if element.tag == "header":
            for number, inner in enumerate(element.inner):
                if (name := _name("banner", number)) in known:
                    yield name, [inner]
        elif element.tag in known:
            yield element.tag, [element]


def _slots(
    templates: Templates, pages: Sequence[Page], columns: Sequence[list[Element]], around: str
) -> Iterator[Slot]:
    """The slots for elements that stand at one place in all pages."""
    for number, elements in enumerate(zip(*columns, strict=True)):
        first = elements[0]
        name = first.tag if first.tag in LANDMARKS else _name(around, number)
        if first.tag == "main" or len({_words(element) for element in elements}) > 1:
            counts = {len(element.inner) for element in elements}
            if first.tag == "header" and counts != {1} and len(counts) == 1:
                inner = _slots(templates, pages, [element.inner for element in elements], "banner")
                yield Slot(name, around=first, slots=tuple(inner))
            else:
                for page, element in zip(pages, elements, strict=True):
                    templates.fills[page.name][name] = [element]
                yield Slot(name)
        else:
            best = _best(elements)
            _keep_apart(best, elements, columns, number)
            yield Slot(name, shared=best)


def _keep_apart(
    shared: Element, elements: Sequence[Element], columns: Sequence[list[Element]], number: int
) -> None:
    """What all pages share says how far it is below what only one has, unless that differs.

    Then each page says it of its own.
    """
    tops = [element.css.get("margin-top", "0") for element in elements]
    if len(set(tops)) == 1 or not number:
        return
    for column, element, top in zip(columns, elements, tops, strict=True):
        above = column[number - 1]
        above.css["margin-bottom"] = top
        for when, css in element.mockups.items():
            above.mockups.setdefault(when, {})["margin-bottom"] = css.pop("margin-top", top)
    shared.css.pop("margin-top", None)


def _name(around: str, number: int) -> str:
    return around if number == 0 else f"{around}_{number + 1}"


def _best(elements: Sequence[Element]) -> Element:
    """Of elements that say the same the one that has the most slices, links, lists and states."""

    def fullness(element: Element) -> tuple[int, int, int]:
        inner = [*element.walk()]
        pieces = sum(one.area is not None and one.area.piece is not None for one in inner)
        tags = sum(one.tag in ("a", "nav", "ul", "form") for one in inner)
        return pieces, tags, sum(len(one.looks) for one in inner)

    return max(elements, key=fullness)


def _words(element: Element) -> tuple[str, ...]:
    """What an element says, rows of its data too, in no order."""
    said_texts = []
    for one_element in element.walk():
        texts = (text for text in one_element.content if isinstance(text, str))
        said_texts += [text for text in texts if not isinstance(text, Code)]
        if one_element.loop is not None:
            rows = [
                value
                for row in one_element.loop.rows
                for key, value in row.items()
                if isinstance(value, str) and key.startswith(SAYING)
            ]
            said_texts += rows
    letters = ("".join(filter(str.isalnum, text)) for text in said_texts)
    return tuple(sorted(filter(None, letters)))
