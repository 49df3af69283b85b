"""Gradients, clips and the like: only those that are used, each of them once."""

from __future__ import annotations

import copy
import re

from lxml import etree

from riffler.mockup.svg.references import by_id, href
from riffler.mockup.xml import drop, local_name
from riffler.tidy.drawing import Drawing
from riffler.tidy.properties import RESOURCES

GRADIENTS = ("linearGradient", "radialGradient")

#: What a gradient takes from the one that it refers to; SVG 2, section 14.2.
_TAKEN = {
    "gradientUnits",
    "gradientTransform",
    "spreadMethod",
    "x1",
    "y1",
    "x2",
    "y2",
    "cx",
    "cy",
    "r",
    "fx",
    "fy",
    "fr",
}


def settle(drawing: Drawing) -> None:
    """Drop unused definitions, make equal ones one, put lent colours where they are borrowed."""
    if drawing.has_sheet:
        return
    _lend(drawing)
    _make_one(drawing)
    _drop_unused(drawing)


def _drop_unused(drawing: Drawing) -> None:
    used = drawing.used()
    for element in reversed(list(drawing.elements())):
        name, parent = local_name(element), element.getparent()
        if parent is None or (name not in RESOURCES and local_name(parent) != "defs"):
            continue
        if name in ("style", "script", "title", "font-face"):
            continue
        if any(inner.get("id") in used for inner in element.iter() if isinstance(inner.tag, str)):
            continue
        if name in RESOURCES or not drawing.keeps_names:
            drop(element)


def _make_one(drawing: Drawing) -> None:
    """Let all references lead to the first of equal definitions."""
    first: dict[bytes, str] = {}
    renamed: dict[str, str] = {}
    for element in list(drawing.elements()):
        name = element.get("id")
        if name is None or local_name(element) not in (
            *GRADIENTS,
            "clipPath",
            "filter",
            "mask",
            "pattern",
        ):
            continue
        twin = copy.deepcopy(element)
        twin.tail = None
        del twin.attrib["id"]
        canonical = etree.tostring(twin, method="c14n")
        if (known := first.setdefault(canonical, name)) != name:
            renamed[name] = known
            drop(element)
    if renamed:
        rename(drawing.root, renamed)


def rename(root: etree._Element, names: dict[str, str]) -> None:
    """Let every reference to one of these ids lead to its new name."""

    def new(match: re.Match[str]) -> str:
        return f"url(#{names.get(match[1], match[1])})"

    for element in root.iter():
        if not isinstance(element.tag, str):
            continue
        for key, value in element.attrib.items():
            if "url(" in value:
                element.set(key, re.sub(r"url\(\s*['\"]?#([^'\")\s]+)['\"]?\s*\)", new, str(value)))
        link = href(element)
        if link.startswith("#") and link[1:] in names and local_name(element) != "a":
            element.set("href", f"#{names[link[1:]]}")
        for key in ("aria-labelledby", "aria-describedby"):
            if (said_value := element.get(key)) is not None:
                element.set(key, " ".join(names.get(part, part) for part in said_value.split()))
        for key in ("begin", "end"):
            if (said_value := element.get(key)) is not None:
                begun = re.sub(
                    r"([^\s;.]+)(\.[a-z])", lambda m: names.get(m[1], m[1]) + m[2], said_value
                )
                element.set(key, begun)


def _lend(drawing: Drawing) -> None:
    """Put a gradient that only one other refers to into that one."""
    known_elements, used = by_id(drawing.root), drawing.references()
    for element in list(drawing.elements()):
        name = href(element).removeprefix("#")
        lender = known_elements.get(name)
        if local_name(element) not in GRADIENTS or lender is None or lender is element:
            continue
        is_alone = len(used.get(name, ())) == 1 and href(lender) != f"#{name}"
        if is_alone and local_name(lender) in GRADIENTS:
            _take(element, lender)
            drop(lender)


def _take(element: etree._Element, lender: etree._Element) -> None:
    """Let a gradient say itself what it took from another."""
    for key, value in lender.attrib.items():
        if key in _TAKEN and element.get(key) is None:
            element.set(key, value)
    if not any(local_name(child) == "stop" for child in element):
        element.extend(list(lender))
    element.attrib.pop("href", None)
    if href(lender):
        element.set("href", href(lender))
