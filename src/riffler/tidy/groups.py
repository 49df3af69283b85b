"""Groups that do nothing are opened; what neighbours say alike, a group says once."""

from __future__ import annotations

from collections.abc import Sequence

from lxml import etree

from riffler.mockup.svg.names import ANIMATIONS
from riffler.mockup.svg.references import by_id
from riffler.mockup.xml import local_name
from riffler.tidy.drawing import Drawing, says, svg
from riffler.tidy.properties import EFFECTS, GRAPHICS, INHERITED

#: What a new group costs: `<g ></g>`.
COST = 8

#: Elements between which nothing is drawn.
_SILENT = {"defs", "title", "desc", "style", "metadata"}


def unwrap(drawing: Drawing) -> None:
    """Open groups without attributes, and give those with one child's to the child."""
    if drawing.has_sheet:
        return
    held = _held(drawing)
    for group in reversed(list(drawing.elements())):
        parent = group.getparent()
        if (
            local_name(group) != "g"
            or parent is None
            or group in held
            or local_name(parent) == "switch"
        ):
            continue
        children = [child for child in group if isinstance(child.tag, str)]
        if len(children) == 1 and not (held & {group, children[0]}):
            _give(group, children[0])
        if not group.attrib:
            place = parent.index(group)
            for offset, child in enumerate(children):
                parent.insert(place + offset, child)
            parent.remove(group)


def _held(drawing: Drawing) -> set[etree._Element]:
    """Elements whose place in the tree matters to something else."""
    used = drawing.used()
    named = {element for name, element in by_id(drawing.root).items() if name in used}
    return named | drawing.moving()


#: What a group may hand to its only child: all that a shape can say for itself.
_GIVEN = {"transform", *EFFECTS, *INHERITED, "style", "vector-effect"}


def _give(group: etree._Element, child: etree._Element) -> None:
    """Give what a group says to its only child, where that is the same."""
    if not _may_give(group, child):
        return
    for key, value in list(group.attrib.items()):
        if key == "transform":
            inner = child.get("transform")
            child.set("transform", f"{value} {inner}" if inner else value)
        elif child.get(key) is None or key not in INHERITED:
            child.set(key, value)
        del group.attrib[key]


def _may_give(group: etree._Element, child: etree._Element) -> bool:
    """Whether effects and transforms come in the same order on the child.

    The transform of an element lies outside of its own clip, mask and gradients.
    """
    if local_name(child) not in GRAPHICS - {"svg"} or not _GIVEN.issuperset(group.attrib):
        return False
    if any(local_name(inner) in ANIMATIONS for inner in group):
        return False
    if says(group, *EFFECTS, "style") and says(child, *EFFECTS, "style", "transform"):
        return False
    is_bound = says(child, "clip-path", "mask", "filter", "style") or _has_url(child)
    return not (says(group, "transform") and is_bound)


def _has_url(element: etree._Element) -> bool:
    return any("url(" in str(element.get(key, "")) for key in ("fill", "stroke"))


def lift(drawing: Drawing) -> None:
    """Let groups say what all in them say, and make groups where that is shorter."""
    if drawing.has_sheet or drawing.keeps_names:
        return
    held = _held(drawing) | drawing.reused()
    for parent in reversed(list(drawing.elements())):
        if local_name(parent) not in ("svg", "g") or parent in held:
            continue
        children = [child for child in parent if isinstance(child.tag, str)]
        drawn = [child for child in children if local_name(child) not in _SILENT]
        is_free = all(local_name(c) in GRAPHICS and c not in held for c in drawn)
        if is_free and len(drawn) > (local_name(parent) == "svg"):
            _lift_all(parent, drawn)
        _gather(parent, children, held)


def _lift_all(parent: etree._Element, children: Sequence[etree._Element]) -> None:
    """Let a parent say what all of its children do."""
    for key, value in _common(children).items():
        own_value = parent.get(key)
        if own_value is not None and own_value != value and parent.getparent() is None:
            continue
        parent.set(key, value)
        for child in children:
            del child.attrib[key]


def _common(children: Sequence[etree._Element]) -> dict[str, str]:
    """The inherited properties that all say alike."""
    first, *other_elements = children
    return {
        str(key): str(value)
        for key, value in sorted(first.attrib.items())
        if key in INHERITED
        and all(other_element.get(key) == value for other_element in other_elements)
    }


def _gather(
    parent: etree._Element, children: Sequence[etree._Element], held: set[etree._Element]
) -> None:
    """Put runs of children that say the same into groups."""
    at = 0
    while at < len(children) - 1:
        run, common, best = [children[at]], _common(children[at : at + 1]), (0, 0)
        if not common or local_name(children[at]) not in GRAPHICS or children[at] in held:
            at += 1
            continue
        for child in children[at + 1 :]:
            common = {key: value for key, value in common.items() if child.get(key) == value}
            if not common or local_name(child) not in GRAPHICS or child in held:
                break
            run.append(child)
            saved = (len(run) - 1) * sum(len(key) + len(value) + 4 for key, value in common.items())
            best = max(best, (saved - COST, len(run)))
        saved, length = best
        if saved <= 0 or length == len(children):
            at += 1
            continue
        _group(parent, run[:length])
        at += length


def _group(parent: etree._Element, run: Sequence[etree._Element]) -> None:
    """A new group around a run, with what all of it says; into its only member if that is one."""
    group = etree.Element(svg("g"))
    parent.insert(parent.index(run[0]), group)
    for key, value in _common(run).items():
        group.set(key, value)
        for child in run:
            del child.attrib[key]
    group.extend(run)
