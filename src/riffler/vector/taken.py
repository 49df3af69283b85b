"""Layers of a vector mockup -> an SVG of its own, at the origin, with a view box."""

from __future__ import annotations

from collections.abc import Sequence

from lxml import etree

from riffler.errors import RifflerError
from riffler.geometry import Box
from riffler.mockup import address
from riffler.mockup.svg import lengths
from riffler.mockup.svg.document import KEY, NAMESPACE
from riffler.mockup.xml import local_name
from riffler.render.renderer import Renderer
from riffler.tidy.numbers import short

#: The attribute that tells the name of an element's layer, until it has become a class.
LAYER = "data-layer"

#: What of the mockup's own root says how it lies, and not how it looks.
_PLACING = ("x", "y", "width", "height", "viewBox", "preserveAspectRatio", "overflow", "id", KEY)


def taken(
    renderer: Renderer,
    shown: frozenset[str],
    box: Box,
    density: float,
    names: Sequence[str] = (),
) -> bytes:
    """The layers that are shown in a box, as a file as large as they are on the page.

    `density` is mockup pixels per CSS pixel; `names` are the layers whose parts keep their
    names, all when none is given. Raises RifflerError for a mockup of pixels, and for layers that
    are pictures.
    """
    outer = renderer.copied(box, shown)
    if outer is None:
        raise RifflerError(
            "A vector file takes vector layers, and this mockup has pixels.",
            'Save it as "png" or "webp".',
        )
    picture = next((e for e in outer.iter() if local_name(e) == "image"), None)
    if picture is not None:
        name = address.clean(address.last(picture.get(KEY, "")))
        raise RifflerError(
            f'"{name}" is a picture of pixels inside the drawing, which no vector file gains from.',
            'Save it as "png" or "webp".',
        )
    size = box.on_page(density)
    root = etree.Element(f"{{{NAMESPACE}}}svg", nsmap={None: NAMESPACE})
    root.set("width", short(size.width, 3))
    root.set("height", short(size.height, 3))
    root.set("viewBox", f"0 0 {box.width} {box.height}")
    x, y = renderer.mockup.origin
    group = etree.SubElement(root, f"{{{NAMESPACE}}}g")
    group.set("transform", f"translate({-box.x - x} {-box.y - y})")
    for child in list(outer):
        group.append(_opened(child) if local_name(child) == "svg" else child)
    for element in root.iter():
        key = element.attrib.pop(KEY, None)
        if key is not None and (not names or any(_is_in(str(key), name) for name in names)):
            element.set(LAYER, address.last(str(key)))
    return etree.tostring(root)


def _is_in(key: str, layer: str) -> bool:
    return key == layer or key.startswith(f"{layer}/")


def _opened(inner: etree._Element) -> etree._Element:
    """The mockup's own root as a group, where its view box only moves and enlarges."""
    if inner.get("preserveAspectRatio", "xMidYMid meet") not in ("xMidYMid meet", "xMidYMid"):
        return inner
    width, height = (lengths.length(inner.get(key)) or 0.0 for key in ("width", "height"))
    box = lengths.view_box(inner.get("viewBox")) or (0.0, 0.0, width, height)
    if not (width and height):
        return inner
    unit = min(width / box[2], height / box[3])
    left, top = (width - box[2] * unit) / 2, (height - box[3] * unit) / 2
    inner.tag = f"{{{NAMESPACE}}}g"
    for key in _PLACING:
        inner.attrib.pop(key, None)
    moved = f"translate({left!r} {top!r}) " if abs(left) + abs(top) > 1e-6 else ""
    scaled = f"scale({unit!r}) " if abs(unit - 1) > 1e-9 else ""
    shifted = f"translate({-box[0]!r} {-box[1]!r})" if box[0] or box[1] else ""
    if transform := (moved + scaled + shifted).strip():
        inner.set("transform", transform)
    return inner
