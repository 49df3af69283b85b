"""Elements -> the text of a template, as a person would write and indent it."""

from __future__ import annotations

import re
from collections.abc import Iterator, Sequence
from html import escape

from riffler.markup.element import BREAK, SWITCHES, Code, Element, is_running

#: Attributes that are no HTML: what the writing needs to know.
_OWN = ("of", "alt", "unsaid", "look", "piece")

#: Elements that have no end. HTML, 13.1.2.
VOID = ("img", "hr", "input", "br")

INDENT = "  "

#: A brace that begins code, comments or what is printed, or may with what is put behind it.
_OPENING = re.compile(r"\{(?=[{%#]|$)")


def lines(elements: Sequence[Element | str], depth: int = 0) -> Iterator[str]:
    """The lines of elements, indented."""
    for element in elements:
        if isinstance(element, str):
            yield INDENT * depth + element
            continue
        inner = [*_element(element, depth + bool(element.condition))]
        if element.condition:
            yield f"{INDENT * depth}{{% if {element.condition} %}}"
            yield from inner
            yield f"{INDENT * depth}{{% endif %}}"
        else:
            yield from inner


def _element(element: Element, depth: int) -> Iterator[str]:
    space = INDENT * depth
    if element.tag == "img":
        yield space + _call(element)
        return
    start = f"<{element.tag}{_attributes(element)}>"
    if element.tag in VOID:
        yield space + start
        return
    end = f"</{element.tag}>"
    if element.loop is not None:
        data = element.loop.data
        source = data if element.loop.is_inner else f"data.{data.replace('-', '_')}.list"
        yield space + start
        yield f"{space}{INDENT}{{% for {element.loop.each} in {source} %}}"
        yield from lines(element.content, depth + 1)
        yield f"{space}{INDENT}{{% endfor %}}"
        yield space + end
    elif not element.inner or is_running(element):
        yield f"{space}{start}{_words(element)}{end}"
    elif len(element.content) == 1 and _is_short(element):
        (inner,) = lines(element.content)
        yield f"{space}{start}{inner}{end}"
    else:
        yield space + start
        yield from lines(element.content, depth + 1)
        yield space + end


def _is_short(element: Element) -> bool:
    """Whether an element holds one other that takes a single line."""
    (inner,) = element.inner
    return not inner.inner and inner.loop is None and not inner.condition


def words(text: str, *, quote: bool = False) -> str:
    """Words as a template and HTML both take them for words: where they break, HTML breaks them.

    `quote` is for attributes. A brace that could begin code of a template is spelled as a character
    reference. HTML, 13.1.4.

    >>> words("{{ a }} & {b}")
    '&#123;{ a }} &amp; {b}'
    """
    said_text = _OPENING.sub("&#123;", escape(text, quote=quote))
    return said_text if quote else said_text.replace(BREAK, "<br>")


def _words(element: Element) -> str:
    texts = []
    for one in element.content:
        if isinstance(one, Element):
            end = "" if one.tag in VOID else f"{_words(one)}</{one.tag}>"
            texts.append(f"<{one.tag}{_attributes(one)}>{end}")
        else:
            texts.append(one if isinstance(one, Code) else words(one))
    return "".join(texts)


def _call(element: Element) -> str:
    values = dict(element.attributes)
    piece = element.area.piece if element.area else None
    name = values.get("of") or f'"{piece.name if piece else ""}"'
    arguments = [name]
    if "alt" in values:
        arguments.append(f"alt={values['alt']}")
    classes = _classes(element)
    if classes:
        arguments.append(f'class="{classes}"')
    if "narrow_to" in values:
        arguments.append(f"narrow_to={values['narrow_to']}")
    arguments.append("link=false")
    if "unsaid" in values or (piece and piece.alt is None and "of" not in values):
        arguments.append("unsaid=true")
    return f"{{{{ inlay({', '.join(arguments)}) }}}}"


def _classes(element: Element) -> str:
    return " ".join(element.classes)


def _attributes(element: Element) -> str:
    texts = []
    classes = _classes(element)
    if piece := element.attributes.get("piece"):
        classes += f"{' ' if classes else ''}piece-{{{{ {piece} }}}}"
    if look := element.attributes.get("look"):
        classes += f"{{% if {look} %}} {{{{ {look} }}}}{{% endif %}}"
    if classes:
        texts.append(f'class="{classes}"')
    condition = ""
    for name, value in element.attributes.items():
        if name in _OWN:
            continue
        if name == "data-unsaid" and isinstance(value, Code):
            condition = f'{{% if {value[3:-3]} %}} data-unsaid="link"{{% endif %}}'
        elif name in SWITCHES:
            is_on = value == name
            condition += f" {name}" if is_on else f"{{% if {value} %}} {name}{{% endif %}}"
        elif name == "current":
            condition += f'{{% if {value} %}} aria-current="page"{{% endif %}}'
        else:
            text = value if isinstance(value, Code) else words(value, quote=True)
            texts.append(f'{name}="{text}"')
    return "".join(f" {item}" for item in texts) + condition
