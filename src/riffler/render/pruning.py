"""A drawing and the layers that show -> a smaller drawing of just those, in one box.

Groups keep their clip, mask, filter, opacity and blend mode; what the copy refers to comes with it.

Effects in terms of a group's box (`objectBoundingBox` clips, masks, filters) need that box: hidden
layers inside such a group stay in the pruned copy, invisible.
"""

from __future__ import annotations

import copy
import re
from collections.abc import Iterator, Sequence

from lxml import etree

from riffler.geometry import Box, Size
from riffler.mockup.font_book import FontBook
from riffler.mockup.svg import style
from riffler.mockup.svg.document import KEY, LAYERS, NAMESPACE, SvgDocument
from riffler.mockup.svg.references import targets
from riffler.mockup.svg.text_element import families
from riffler.mockup.xml import local_name

#: What a group does to all inside it, in terms of the box around all inside it.
_EFFECTS = ("clip-path", "mask", "filter")

#: Resources whose contents inherit from where they stand, not from where they are used.
_INHERITING = {"clipPath", "mask", "pattern", "marker"}

_INHERITED = [
    "fill",
    "fill-opacity",
    "fill-rule",
    "stroke",
    "stroke-width",
    "stroke-opacity",
    "stroke-linecap",
    "stroke-linejoin",
    "stroke-dasharray",
    "stroke-dashoffset",
    "stroke-miterlimit",
    "color",
    "clip-rule",
    "font-family",
    "font-size",
    "font-style",
    "font-weight",
    "letter-spacing",
    "text-anchor",
    "paint-order",
]


class Pruner:
    """Makes pruned copies of one document; the document itself is never changed."""

    def __init__(self, document: SvgDocument, fonts: FontBook) -> None:
        self._document = document
        self._fonts = fonts
        self._children: dict[str | None, tuple[list[etree._Element], dict[str, int]]] = {}

    def pruned(
        self,
        shown: frozenset[str],
        box: Box,
        size: Size,
        *,
        without_filters: bool = False,
        is_copy: bool = False,
    ) -> etree._Element:
        """A drawing of `size` output pixels that shows `box` of the document.

        What lies beyond the canvas is drawn too. `without_filters` leaves out shadows and glows. A
        copy keeps which layer an element is, and the families that its text asks for.
        """
        outer = etree.Element(f"{{{NAMESPACE}}}svg", nsmap={None: NAMESPACE})
        outer.set("width", str(size.width))
        outer.set("height", str(size.height))
        outer.set("viewBox", f"{box.x} {box.y} {box.width} {box.height}")
        outer.set("preserveAspectRatio", "none")
        inner = self._shell(outer, self._document.root)
        inner.set("width", repr(self._document.width))
        inner.set("height", repr(self._document.height))
        inner.set("overflow", "visible")  # the renderer loses clipped groups in a clipped viewport
        for name in ("x", "y"):
            inner.attrib.pop(name, None)
        self._copy_children(self._document.root, inner, shown, ghosts=False)
        self._add_resources(outer, inner)
        if is_copy:
            return outer
        for element in outer.iter():
            element.attrib.pop(KEY, None)  # equal drawings are equal, whatever they are called
        if without_filters:
            for element in outer.iter():
                style.without(element, "filter")
        name_fonts(outer, self._fonts)
        return outer

    def _shell(self, parent: etree._Element, element: etree._Element) -> etree._Element:
        """The element without what is inside it, switched on."""
        shell = etree.SubElement(parent, element.tag, nsmap=element.nsmap)
        shell.attrib.update(element.attrib)
        style.without(shell, "display")
        return shell

    def _copy_children(
        self, group: etree._Element, into: etree._Element, shown: frozenset[str], *, ghosts: bool
    ) -> None:
        ghosts = ghosts or self._needs_box(group)
        for child in self._layers_in(group, None if ghosts else shown):
            if child.get(KEY) in shown:
                if _is_group(child) and next(iter(child), None) is not None:  # len() counts all
                    shell = self._shell(into, child)
                    self._copy_children(child, shell, shown, ghosts=ghosts)
                else:
                    into.append(_detached(child))
                    style.without(into[-1], "display")
            elif ghosts and style.own(child, "display") != "none":
                into.append(_detached(child))
                into[-1].set("visibility", "hidden")

    def _layers_in(
        self, group: etree._Element, shown: frozenset[str] | None
    ) -> Sequence[etree._Element]:
        """What is drawn in a group, in order: all, or without a search only what is shown."""
        place = group.get(KEY)
        if place not in self._children:
            layers = [child for child in group if local_name(child) in LAYERS]
            named = {child.get(KEY, ""): order for order, child in enumerate(layers)}
            self._children[place] = layers, named
        layers, named = self._children[place]
        if shown is None or len(shown) >= len(layers):
            return layers
        return [layers[order] for order in sorted(named[key] for key in shown if key in named)]

    def _needs_box(self, group: etree._Element) -> bool:
        """Whether the group has an effect that is measured by the box around all inside it."""
        for effect in _EFFECTS:
            if (text := style.own(group, effect)) in (None, "none"):
                continue
            match = re.search(r"#([^'\")\s]+)", str(text))
            resource = self._document.known.get(match[1]) if match else None
            if resource is None or _is_measured_by_box(resource):
                return True
        return False

    def _add_resources(self, outer: etree._Element, inner: etree._Element) -> None:
        """Copy what is referred to, and what that refers to, beside the layers."""
        known_elements, added = self._document.known, set[str]()
        waiting = _referred(inner)
        definitions = etree.SubElement(outer, f"{{{NAMESPACE}}}defs")
        while waiting:
            name = waiting.pop()
            if name in added or name not in known_elements:
                continue
            added.add(name)
            original = known_elements[name]
            holder = definitions
            if local_name(original) in _INHERITING and (around := _surroundings(original)):
                holder = etree.SubElement(definitions, f"{{{NAMESPACE}}}g", style=around)
            resource = _detached(original)
            holder.append(resource)
            waiting.extend(_referred(resource))
        if added:
            for element in inner.iter():
                if element.get("id") in added:
                    del element.attrib["id"]


def name_fonts(outer: etree._Element, fonts: FontBook) -> None:
    """Name the one family that each text is drawn with."""
    if next(outer.iter(f"{{{NAMESPACE}}}text"), None) is None:
        return
    for element in outer.iter():
        if not isinstance(element.tag, str):
            continue
        if (text := style.own(element, "font-family")) is not None and text != "inherit":
            style.without(element, "font-family")
            element.set("font-family", f"'{fonts.choose(families(text))[0]}'")
    if outer.get("font-family") is None:
        outer.set("font-family", f"'{fonts.choose(())[0]}'")


def _is_measured_by_box(resource: etree._Element) -> bool:
    """Whether a clip, mask or filter is sized by the box of what it is on. SVG 2, section 8.8.

    A mask's and a filter's region is so unless said otherwise; a clip only when it says so.
    """
    values = {key: resource.get(key) for key in ("maskUnits", "filterUnits", "clipPathUnits")}
    inner = {resource.get(key) for key in ("maskContentUnits", "primitiveUnits")}
    region = {"mask": values["maskUnits"], "filter": values["filterUnits"]}
    by_region = region.get(local_name(resource), "userSpaceOnUse") in (None, "objectBoundingBox")
    return by_region or "objectBoundingBox" in {*inner, values["clipPathUnits"]}


def _is_group(element: etree._Element) -> bool:
    return local_name(element) in ("g", "a", "svg")


def _detached(element: etree._Element) -> etree._Element:
    """A deep copy without the text that follows the element."""
    twin = copy.deepcopy(element)
    twin.tail = None
    return twin


def _referred(element: etree._Element) -> list[str]:
    return [
        name for inner in element.iter() if isinstance(inner.tag, str) for name in targets(inner)
    ]


def _surroundings(element: etree._Element) -> str:
    """What an element inherits, as a style attribute."""
    parent = element.getparent()
    if parent is None:
        return ""
    return ";".join(f"{name}:{value}" for name, value in _inherited(parent))


def _inherited(element: etree._Element) -> Iterator[tuple[str, str]]:
    for name in _INHERITED:
        if (value := style.inherited(element, name)) is not None:
            yield name, value
