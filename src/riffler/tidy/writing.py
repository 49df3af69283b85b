"""A tree -> SVG text with nothing between its elements. XML 1.0, section 2.4 and 3.1."""

from __future__ import annotations

from collections.abc import Iterator

from lxml import etree

from riffler.mockup.svg.document import NAMESPACE
from riffler.mockup.xml import local_name
from riffler.tidy.drawing import Drawing

#: Attributes in the order in which they are written: alike files compress better.
_FIRST = (
    "width",
    "height",
    "viewBox",
    "id",
    "class",
    "fill",
    "fill-rule",
    "stroke",
    "stroke-width",
    "stroke-linecap",
    "stroke-linejoin",
    "transform",
)
_LAST = ("d", "points")

#: How every drawing begins that we write.
BEGIN = f'<svg xmlns="{NAMESPACE}"'

_XML = "{http://www.w3.org/XML/1998/namespace}"


def text_of(drawing: Drawing) -> str:
    """The drawing as text."""
    return "".join(_parts(drawing.root, is_root=True))


def _parts(element: etree._Element, *, is_root: bool = False) -> Iterator[str]:
    name = local_name(element)
    yield BEGIN if is_root else f"<{name}"
    for key in sorted(map(str, element.attrib), key=_order):
        value = _escaped(str(element.get(key))).replace('"', "&quot;")
        yield f' {key.replace(_XML, "xml:")}="{value}"'
    inner = [child for child in element if isinstance(child.tag, str)]
    if not inner and not element.text:
        yield "/>"
    else:
        yield f">{_escaped(element.text or '')}"
        for child in inner:
            yield from _parts(child)
        yield f"</{name}>"
    if not is_root and element.tail:
        yield _escaped(element.tail)


def _order(key: str) -> tuple[int, str]:
    if key in _FIRST:
        return _FIRST.index(key), key
    return (len(_FIRST) + 1 + _LAST.index(key) if key in _LAST else len(_FIRST)), key


def _escaped(text: str) -> str:
    return text.replace("&", "&amp;").replace("<", "&lt;").replace("]]>", "]]&gt;")
