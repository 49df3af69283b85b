"""What nobody can see: hidden, empty and colourless things."""

from __future__ import annotations

from lxml import etree

from riffler.mockup.svg import lengths
from riffler.mockup.svg.names import ANIMATIONS
from riffler.mockup.svg.references import by_id
from riffler.mockup.xml import drop, local_name
from riffler.tidy.drawing import Drawing, computed, is_in, is_marked, says
from riffler.tidy.properties import GRAPHICS, SHAPES

#: For each shape the lengths without which nothing is drawn; SVG 2, section 10.
_NEEDED = {
    "rect": ("width", "height"),
    "image": (),
    "circle": ("r",),
    "ellipse": (),
    "line": (),
    "path": ("d",),
    "polyline": ("points",),
    "polygon": ("points",),
}


def drop_hidden(drawing: Drawing) -> None:
    """Drop graphics that paint nothing, wherever nothing else needs them."""
    if drawing.has_sheet:
        return
    used = drawing.used()
    elements = drawing.moving() | drawing.reused()
    elements |= {element for name, element in by_id(drawing.root).items() if name in used}
    for element in reversed(list(drawing.elements())):  # from the leaves
        if element is drawing.root or element in elements or local_name(element) not in GRAPHICS:
            continue
        if any(inner in elements for inner in element.iter()):
            continue
        if _paints_nothing(element):
            drop(element)


def _paints_nothing(element: etree._Element) -> bool:
    name, in_clip = local_name(element), is_in(element, "clipPath")
    if element.get("display") == "none" or (not in_clip and _is_zero(element.get("opacity"))):
        return True
    if any(local_name(child) in ANIMATIONS for child in element):
        return False
    if name in ("g", "a", "switch"):
        return len(element) == 0 and element.get("filter", "none") == "none"
    if name in ("use", "image"):
        return not element.get("href")
    if name == "text":
        return not "".join(str(part) for part in element.itertext()).strip() and len(element) == 0
    return name in SHAPES and (_is_nowhere(element) or (not in_clip and not _has_paint(element)))


def _is_nowhere(shape: etree._Element) -> bool:
    """Whether a shape has no outline, or is not to be seen."""
    needed = [(shape.get(key) or "").strip() for key in _NEEDED[local_name(shape)]]
    is_hidden = computed(shape, "visibility") in ("hidden", "collapse")
    return is_hidden or any(text in ("", "none", "0") for text in needed)


def _has_paint(shape: etree._Element) -> bool:
    """Whether something is drawn of an outline."""
    if is_marked(shape) or says(shape, "filter"):
        return True
    fill = (computed(shape, "fill"), computed(shape, "fill-opacity"))
    stroke = (computed(shape, "stroke"), computed(shape, "stroke-opacity"))
    is_filled, is_stroked = (
        paint != "none" and not _is_zero(opacity) for paint, opacity in (fill, stroke)
    )
    is_wide = not _is_zero(computed(shape, "stroke-width"))
    return (is_filled and local_name(shape) != "line") or (is_stroked and is_wide)


def _is_zero(text: str | None) -> bool:
    return text is not None and lengths.length(text, whole=1.0) == 0
