"""What nobody can see: hidden, empty and colourless things."""

from __future__ import annotations

from lxml import etree

from riffler.mockup.svg import lengths
from riffler.mockup.svg.references import by_id
from riffler.mockup.xml import local_name
from riffler.tidy.drawing import Drawing, computed, drop
from riffler.tidy.properties import ANIMATIONS, GRAPHICS, SHAPES

#: For each shape the lengths without which nothing is drawn; SVG 2, section 10.
_NEEDED = {
    "rect": ("width", "height"), "image": (), "circle": ("r",), "ellipse": (), "line": (),
    "path": ("d",), "polyline": ("points",), "polygon": ("points",),
}  # fmt: skip


def drop_hidden(drawing: Drawing) -> None:
    """Drop graphics that paint nothing, wherever nothing else needs them."""
    if drawing.has_sheet:
        return
    used = drawing.references()
    kept = drawing.moving() | drawing.reused()
    kept |= {element for name, element in by_id(drawing.root).items() if name in used}
    for element in reversed(list(drawing.elements())):  # from the leaves
        if element is drawing.root or element in kept or local_name(element) not in GRAPHICS:
            continue
        if any(inner in kept for inner in element.iter()):
            continue
        if _paints_nothing(element):
            drop(element)


def _paints_nothing(element: etree._Element) -> bool:
    name = local_name(element)
    is_clip = any(local_name(around) == "clipPath" for around in element.iterancestors())
    if element.get("display") == "none" or (not is_clip and _is_zero(element.get("opacity"))):
        return True
    if any(local_name(child) in ANIMATIONS for child in element):
        return False
    if name in ("g", "a", "switch"):
        return len(element) == 0 and element.get("filter", "none") == "none"
    if name in ("use", "image"):
        return not element.get("href")
    if name == "text":
        return not "".join(str(part) for part in element.itertext()).strip() and len(element) == 0
    if name not in SHAPES:
        return False
    for key in _NEEDED[name]:
        said = element.get(key)
        if said is None or said.strip() in ("", "none", "0"):
            return True
    if computed(element, "visibility") in ("hidden", "collapse"):
        return True
    if is_clip or any(
        computed(element, f"marker-{end}") != "none" for end in ("start", "mid", "end")
    ):
        return False
    has_fill = computed(element, "fill") != "none" and not _is_zero(
        computed(element, "fill-opacity")
    )
    has_stroke = (
        computed(element, "stroke") != "none"
        and not _is_zero(computed(element, "stroke-width"))
        and not _is_zero(computed(element, "stroke-opacity"))
    )
    return not has_stroke and (not has_fill or name == "line") and element.get("filter") is None


def _is_zero(text: str | None) -> bool:
    return text is not None and lengths.length(text, whole=1.0) == 0
