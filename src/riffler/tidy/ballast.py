"""What drawing programs leave in a file for themselves: notes, names, data, empty definitions."""

from __future__ import annotations

import re

from lxml import etree

from riffler.mockup.svg.references import XLINK
from riffler.mockup.xml import drop, local_name
from riffler.tidy.drawing import Drawing
from riffler.tidy.properties import DEFAULTS

#: Whether white space in text counts.
SPACE = "{http://www.w3.org/XML/1998/namespace}space"

#: Elements that say something about the drawing to programs.
NOTES = {"metadata", "cursor", "view"}

#: A description that a drawing program wrote about itself.
_BY_PROGRAM = re.compile(
    r"\s*(created|generated|exported|made) (with|by|using|in)\b", re.IGNORECASE
)


def take_out(drawing: Drawing) -> None:
    """Drop notes, titles of parts, attributes of other namespaces, and names that nothing uses."""
    _drop_notes(drawing)
    has_text = any(local_name(element) == "text" for element in drawing.elements())
    for element in drawing.elements():
        _drop_foreign(element)
        if not has_text:
            element.attrib.pop(SPACE, None)
        _settle_link(element)
        if not drawing.has_sheet and not drawing.keeps_names:
            _drop_hooks(element, drawing.kept)
    _drop_ids(drawing)
    if not has_text or drawing.root.get(SPACE) is None:
        _drop_white(drawing.root)


def _drop_foreign(element: etree._Element) -> None:
    """Drop attributes of drawing programs, and those that say nothing."""
    idle = [key for key, value in DEFAULTS.get(local_name(element), {}).items() if value == "*"]
    for key in map(str, element.attrib):
        if (key.startswith("{") and key not in (XLINK, SPACE)) or key in idle:
            del element.attrib[key]


def _drop_hooks(element: etree._Element, kept: str | None) -> None:
    """Drop what only scripts and style sheets of a page could want."""
    for key in map(str, element.attrib):
        if key == "class" or (key.startswith("data-") and key != kept):
            del element.attrib[key]


def _drop_notes(drawing: Drawing) -> None:
    root = drawing.root
    for element in list(drawing.elements()):
        name = local_name(element)
        if name in NOTES and not (name == "view" and drawing.keeps_names):
            drop(element)
        elif name in ("title", "desc"):
            text = "".join(str(part) for part in element.itertext())
            is_of_whole = element.getparent() is root
            if not is_of_whole or not text.strip() or _BY_PROGRAM.match(text):
                drop(element)


def _settle_link(element: etree._Element) -> None:
    """Say references in the way of today; SVG 2, section 16.1.5."""
    link = element.attrib.pop(XLINK, None)
    if link is not None and element.get("href") is None:
        element.set("href", str(link).strip())
    for key in ("title", "role", "type", "show", "actuate", "arcrole"):
        element.attrib.pop(f"{{http://www.w3.org/1999/xlink}}{key}", None)


def _drop_ids(drawing: Drawing) -> None:
    if drawing.keeps_names or drawing.has_sheet:
        return
    used = drawing.used()
    for element in drawing.elements():
        if (name := element.get("id")) is not None and name not in used:
            del element.attrib["id"]


#: Elements whose text is read.
_READ = {"text", "tspan", "textPath", "a", "title", "desc", "style", "tref"}


def _drop_white(root: etree._Element) -> None:
    """Take white space out that stands between elements which hold no text."""
    for element in root.iter():
        if not isinstance(element.tag, str):
            continue
        parent = element.getparent()
        if element.text and local_name(element) not in _READ:
            element.text = None
        if parent is not None and element.tail and local_name(parent) not in _READ:
            element.tail = None
