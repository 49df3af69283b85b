"""A drawing -> a digest of what it paints, wherever it lies and whatever it is called."""

from __future__ import annotations

import re
from functools import lru_cache

from lxml import etree

from riffler.digests import digest_of
from riffler.mockup.svg import hull, lengths, references, style
from riffler.mockup.svg.document import KEY, SvgDocument, is_aside
from riffler.mockup.xml import local_name, split_name

#: What an element is called, where it stands, and whether it shows: not what it paints.
_APART = {"id", "class", "display", "visibility", "transform", "x", "y", "cx", "cy", KEY}

#: What decides how a shape is painted and may be said by the groups around it.
_INHERITED = (
    "fill",
    "fill-opacity",
    "fill-rule",
    "stroke",
    "stroke-width",
    "stroke-opacity",
    "font-family",
    "font-size",
    "font-weight",
    "font-style",
    "letter-spacing",
    "text-anchor",
)

#: What a group does to the paint of all inside it.
_EFFECTS = ("clip-path", "mask", "filter")

_URL = re.compile(r"url\(\s*['\"]?#([^'\")\s]+)['\"]?\s*\)")


def placed(document: SvgDocument, element: etree._Element) -> str:
    """Where a drawing lies: equal digests of equal paint mean the same place."""
    matrix = hull.own_matrix(document, element)
    shifts = [
        (one_element.get("x"), one_element.get("y"), one_element.get("transform"))
        for one_element in element.iter()
    ]
    values = [element.get(key) for key in sorted(_APART - {"id", "class", KEY})]
    return digest_of(None if matrix is None else [*matrix], values, shifts)


def essence(document: SvgDocument, element: etree._Element) -> str:
    """Equal digests mean equal paint, moved at the most; paint that is equal may have two."""
    matrix = hull.own_matrix(document, element)
    around = [
        _said(document, name, value)
        for outer in element.iterancestors()
        for name in _EFFECTS
        if (value := style.own(outer, name)) not in (None, "none")
    ]
    inherited = [_said(document, name, style.inherited(element, name)) for name in _INHERITED]
    scale = [round(value, 4) for value in matrix[:4]] if matrix is not None else None
    return digest_of(_described(document, element, is_outer=True), scale, inherited, around)


def _described(
    document: SvgDocument,
    element: etree._Element,
    within: frozenset[str] = frozenset(),
    *,
    is_outer: bool = False,
) -> list[object]:
    """An element as its name, attributes, text and children; `within` are ids being followed."""
    texts: list[object] = [local_name(element)]
    if local_name(element) == "text":
        return _text(document, element)
    for key in sorted(map(str, element.attrib)):
        is_called = key in ("id", KEY) or split_name(key)[1] == "label"
        if not (is_called or (is_outer and key in _APART)):
            texts.append((key, _said(document, key, str(element.attrib[key]), within)))
    texts.append((element.text or "").strip())
    texts += [
        ([] if is_aside(child) else _described(document, child, within), _after(child))
        for child in element
        if not is_aside(child) or _after(child)
    ]
    return texts


def _text(document: SvgDocument, text: etree._Element) -> list[object]:
    """A text with the places of its lines counted from the first."""
    texts: list[object] = ["text"]
    first: dict[str, float] = {}
    for inner in text.iter():
        if is_aside(inner):
            texts.append(_after(inner))  # the text around it goes on behind it
            continue
        for key in sorted(map(str, inner.attrib)):
            value = str(inner.attrib[key])
            if key in ("x", "y") and (place := lengths.length(value)) is not None:
                texts.append((key, round(place - first.setdefault(key, place), 2)))
            elif key not in _APART and split_name(key)[1] != "label":
                texts.append((key, _said(document, key, value)))
        tail = "" if inner is text else _after(inner)
        texts.append((local_name(inner), (inner.text or "").strip(), tail))
    return texts


def _after(element: etree._Element) -> str:
    return (element.tail or "").strip()


def _said(
    document: SvgDocument, key: str, value: str | None, within: frozenset[str] = frozenset()
) -> str:
    """A value, with what it refers to in the place of its name there."""
    if not value:
        return ""
    if key in ("href", references.XLINK):
        if value.startswith("#"):
            return _followed(document, value[1:], within)
        return _digested(value) if len(value) > 200 else value
    if "url(" in value:
        return _URL.sub(lambda match: _followed(document, match[1], within), value)
    return value


def _followed(document: SvgDocument, name: str, within: frozenset[str]) -> str:
    element = document.known.get(name)
    if element is None or name in within:
        return "nothing"
    return digest_of(_described(document, element, within | {name}))


@lru_cache(maxsize=256)
def _digested(value: str) -> str:
    return digest_of(value)
