"""References in an SVG: outside ones taken out, inside ones counted before anything is drawn."""

from __future__ import annotations

import re
from collections.abc import Iterator

from lxml import etree

from riffler.errors import MockupError
from riffler.mockup.xml import drop, local_name

XLINK = "{http://www.w3.org/1999/xlink}href"

#: Elements that run, fetch, or draw what no renderer of pictures draws.
_NEVER = {"script", "foreignObject", "iframe", "audio", "video", "handler", "listener", "canvas"}

#: All up to the next bracket, or to the end where none closes: read once, however it is made.
_URL = re.compile(r"url\(([^)]*)(?:\)|$)")


_NAMED = re.compile(r"url\(\s*['\"]?#([^'\")\s]+)")


def href(element: etree._Element) -> str:
    """What the element refers to, in either spelling; empty when nothing."""
    return (element.get("href") or element.get(XLINK) or "").strip()


def named(value: str) -> str | None:
    """The id that a value such as `url(#glow)` begins with; None for any other value."""
    match = _NAMED.match(value)
    return match[1] if match else None


def targets(element: etree._Element) -> Iterator[str]:
    """The ids inside this file that the element itself refers to."""
    link = href(element)
    if link.startswith("#") and local_name(element) != "a":
        yield link[1:]
    for value in element.values():
        if "url(" in value:
            for url in map(_bare, _URL.findall(str(value))):
                if url.startswith("#"):
                    yield url[1:]


def remove_outside(root: etree._Element) -> int:
    """Take out scripts and every reference that leads out of the file; returns how many."""
    never = {element.tag for element in root.iterdescendants() if local_name(element) in _NEVER}
    removed = sum(element.tag in never for element in root.iter())
    for element in [e for e in root.iterdescendants() if e.tag in never]:
        drop(element)
    elements = (element for element in root.iter() if isinstance(element.tag, str))
    return removed + sum(map(_without_outside, elements))


def _without_outside(element: etree._Element) -> int:
    """Take out what of one element leads out of the file; returns how many such there were."""
    removed = 0
    for name in ("href", XLINK):
        link = (element.get(name) or "").strip()
        if link and not link.startswith(("#", "data:image/")) and local_name(element) != "a":
            del element.attrib[name]
            removed += 1
    for name, value in list(element.attrib.items()):
        if "url(" in value and _leads_outside(value):
            element.set(name, _URL.sub(_only_inside, str(value)))
            removed += 1
    return removed


def _leads_outside(value: str) -> bool:
    return any(not _bare(url).startswith("#") for url in _URL.findall(value))


def _only_inside(match: re.Match[str]) -> str:
    return match[0] if _bare(match[1]).startswith("#") else "none"


def _bare(url: str) -> str:
    """What stands in the brackets of an url() without quotes and space around it."""
    return url.strip().strip("'\"").strip()


def by_id(root: etree._Element) -> dict[str, etree._Element]:
    """Every element that has an id; the first one where an id is given twice."""
    elements: dict[str, etree._Element] = {}
    for element in root.iter():
        if isinstance(element.tag, str) and (name := element.get("id")):
            elements.setdefault(name, element)
    return elements


def _places(element: etree._Element) -> int:
    """How often a marker on the element is drawn, about: once for every point of the shape."""
    if not any(name.startswith("marker") for name in map(str, element.attrib)):
        return 1 + ("marker" in element.get("style", "")) * len(element.get("d", "")) // 4
    return 1 + len(element.get("d", "") + element.get("points", "")) // 4


def refuse_explosion(root: etree._Element, limit: int, what: str) -> None:
    """Raises MockupError when following every reference would draw more than `limit` elements."""
    known_elements = by_id(root)
    counts: dict[etree._Element, int] = {}
    under_way: set[etree._Element] = set()

    def count(element: etree._Element) -> int:
        if element in counts:
            return counts[element]
        if element in under_way:
            return 1  # a reference to what is around it: drawn once, or not at all
        under_way.add(element)
        total = 1 + sum(count(child) for child in element if isinstance(child.tag, str))
        total += _places(element) * sum(
            count(known_elements[name]) for name in targets(element) if name in known_elements
        )
        under_way.discard(element)
        counts[element] = total
        return total

    try:
        total = count(root)
    except RecursionError as error:
        raise MockupError(f"{what} refers to itself through too many steps.") from error
    if total > limit:
        raise MockupError(
            f"{what} grows to {total:,} elements when its references are followed, "
            f"more than the limit of {limit:,}.",
            "If that is meant, raise [limits] elements in riffler.toml.",
        )
