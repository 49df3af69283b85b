"""Text in a drawing -> the outlines of its letters, as HarfBuzz lays them out."""

from __future__ import annotations

from lxml import etree

from riffler.errors import MockupError
from riffler.mockup.font_book import FontBook
from riffler.mockup.svg.document import NAMESPACE
from riffler.mockup.svg.lettering import outline_of
from riffler.mockup.svg.shapes import UnmeasuredError
from riffler.mockup.xml import local_name, parse
from riffler.tidy.properties import OF_TEXT
from riffler.workspace import Workspace


def outlined(data: bytes, what: str, workspace: Workspace) -> bytes:
    """The drawing with paths for its texts.

    Raises MockupError where only a browser lays the letters out: on a path, from right to left, in
    a font that is not there.
    """
    root = parse(data, what)
    for text in [e for e in root.iter() if local_name(e) == "text"]:
        _outline(text, what, workspace.fonts)
    return etree.tostring(root)


def _outline(text: etree._Element, what: str, fonts: FontBook) -> None:
    try:
        runs = list(outline_of(text, fonts))
    except UnmeasuredError as error:
        words = " ".join("".join(str(part) for part in text.itertext()).split())
        raise MockupError(
            f'{what}: "{words[:40]}" can\'t be turned into outlines: its letters are set in a way '
            "that only a browser knows, or its font is not there.",
            "Put the font into fonts/, or leave the text as it is.",
        ) from error
    group = etree.Element(f"{{{NAMESPACE}}}g")
    for key, value in text.attrib.items():
        if key not in ("x", "y", "dx", "dy", "rotate", *OF_TEXT):
            group.set(key, value)
    group.tail = text.tail
    for data, element in runs:
        path = etree.SubElement(group, f"{{{NAMESPACE}}}path")
        path.set("d", data)
        for key in ("fill", "stroke", "fill-opacity", "opacity", "style"):
            if element is not text and element.get(key) is not None:
                path.set(key, str(element.get(key)))
    parent = text.getparent()
    if parent is not None:
        parent.replace(text, group)
