"""XML bytes -> a tree, with nothing fetched, no file opened and no entity exploding."""

from __future__ import annotations

import re

from lxml import etree

from riffler.errors import MockupError

#: Larger than this and no drawing: embedded pictures included.
LARGEST = 200_000_000

#: Tags and equals signs at the most: what a tree of them takes is many times what the text does.
MOST_TAGS, MOST_ATTRIBUTES = 600_000, 2_000_000

_OUTSIDE = re.compile(rb"<!ENTITY\s+(?:%\s+)?([^\s>]+)\s+(?:SYSTEM|PUBLIC)\b")


def parse(data: bytes, what: str) -> etree._Element:
    """The root element of a document called `what` in errors.

    Entities that stand for plain text inside the file are replaced. Raises MockupError for broken
    XML and for entities that lead out of the file or multiply.
    """
    if len(data) > LARGEST:
        raise MockupError(f"{what} is {len(data):,} bytes of XML, more than is read.")
    if data.count(b"<") > MOST_TAGS or data.count(b"=") > MOST_ATTRIBUTES:
        raise MockupError(f"{what} has more elements or attributes than are read.")
    declares_entities = b"<!ENTITY" in data or b"\x00" in data[:200]
    parser = etree.XMLParser(
        resolve_entities="internal",
        no_network=True,
        load_dtd=False,
        dtd_validation=False,
        huge_tree=not declares_entities,  # long embedded pictures; the bound on entities otherwise
        remove_comments=True,
        remove_pis=True,
    )
    try:
        root = etree.fromstring(data, parser)
    except etree.XMLSyntaxError as error:
        if declared := _OUTSIDE.search(data):
            raise _leads_outside(declared[1].decode("ascii", "replace"), what) from error
        raise MockupError(f"{what} is not sound XML: {_plain(error)}.") from error
    _refuse_outside_entities(root, what)
    return root


def _refuse_outside_entities(root: etree._Element, what: str) -> None:
    dtd = root.getroottree().docinfo.internalDTD
    for entity in dtd.iterentities() if dtd is not None else ():
        if entity.system_url is not None:
            raise _leads_outside(str(entity.name), what)


def _leads_outside(name: str, what: str) -> MockupError:
    return MockupError(
        f'{what} has an entity "{name}" that leads out of the file.',
        "Save the drawing without external entities.",
    )


def _plain(error: etree.XMLSyntaxError) -> str:
    text = str(error.msg or "it is empty")
    return text[0].lower() + text[1:].rstrip(".")


def split_name(name: str) -> tuple[str, str]:
    """The namespace and the local name of an element or attribute, as lxml writes them.

    A namespace may hold any sign, a local name no brace. Namespaces in XML 1.0, section 2.

    >>> split_name("{a}b}path"), split_name("d")
    (('a}b', 'path'), ('', 'd'))
    """
    namespace, _, local = name.rpartition("}")
    return namespace[1:], local


def local_name(element: etree._Element) -> str:
    """The element's name without its namespace; empty for anything that is no element."""
    tag = element.tag
    return tag[tag.rfind("}") + 1 :] if isinstance(tag, str) else ""


def namespace_of(element: etree._Element) -> str:
    """The element's namespace; empty for none, and for anything that is no element."""
    return split_name(element.tag)[0] if isinstance(element.tag, str) else ""


def drop(element: etree._Element) -> None:
    """Take an element out; text that follows it stays."""
    parent = element.getparent()
    if parent is None:
        return
    if element.tail and element.tail.strip():
        before = element.getprevious()
        if before is not None:
            before.tail = (before.tail or "") + element.tail
        else:
            parent.text = (parent.text or "") + element.tail
    parent.remove(element)
