"""SVG bytes -> a cleaned document whose size is known and in which only `display` hides things.

One way to hide: `visibility` is turned into `display` on reading; the engine only knows `display`.
"""

from __future__ import annotations

import gzip
import zlib
from dataclasses import dataclass
from functools import cached_property
from pathlib import Path

from lxml import etree

from riffler.errors import MockupError
from riffler.files import as_typed
from riffler.geometry import Rect, Size
from riffler.mockup.bounds import refuse_size
from riffler.mockup.model import Canvas
from riffler.mockup.svg import lengths, references, style
from riffler.mockup.svg.filters import spell_out_shadows
from riffler.mockup.xml import LARGEST, drop, local_name, namespace_of, parse, split_name
from riffler.project.limits import Limits

NAMESPACE = "http://www.w3.org/2000/svg"

#: The attribute by which the renderer finds the element of a layer.
KEY = "data-riffler-layer"

#: Elements that paint something by themselves.
SHAPES = {"path", "rect", "circle", "ellipse", "line", "polyline", "polygon", "use"}

#: Elements that hold others and are a group to a person.
GROUPS = {"g", "a", "svg"}

#: Elements that are a layer.
LAYERS = SHAPES | GROUPS | {"text", "image"}

#: Size of a drawing that says neither width, height nor viewBox (CSS 2.2, section 10.3.2).
DEFAULT_SIZE = (300.0, 150.0)


@dataclass(frozen=True)
class SvgDocument:
    """A drawing that the vector engine can copy from. The tree is never changed after reading.

    `width` and `height` are those of the whole drawing in mockup pixels, with fractions;
    `unit` is how many mockup pixels one user unit of the root is long.
    """

    root: etree._Element
    width: float
    height: float
    unit: float
    known: dict[str, etree._Element]

    @cached_property
    def elements(self) -> dict[str, etree._Element]:
        """The element of every layer, by what the layer calls its source."""
        return {
            key: element for element in self.root.iter() if (key := element.get(KEY)) is not None
        }


def load(path: Path, limits: Limits) -> SvgDocument:
    """Read a file, clean and measure. Raises MockupError as `from_bytes` does."""
    return from_bytes(read_bytes(path), as_typed(path), limits)


def from_bytes(data: bytes, what: str, limits: Limits) -> SvgDocument:
    """Clean and measure a drawing. Raises MockupError when it is unsound or beyond the limits."""
    root = parse(data, what)
    if local_name(root) != "svg":
        raise MockupError(f"{what} is XML, but no SVG.")
    refuse_depth(root, limits.depth, what)
    settle_namespaces(root)
    style.settle(root, what)
    references.remove_outside(root)
    for element in list(root.iter(f"{{{NAMESPACE}}}switch")):
        _settle_switch(element)
    for element in list(root.iter(f"{{{NAMESPACE}}}filter")):
        spell_out_shadows(element)
    references.refuse_explosion(root, limits.elements, what)
    _settle_visibility(root)
    width, height, unit = measure(root)
    refuse_size(Rect(0, 0, width, height).outward().size, limits, f"{what}: the canvas")
    return SvgDocument(root, width, height, unit, references.by_id(root))


def canvases(document: SvgDocument) -> tuple[Canvas, ...]:
    """The `view` elements and top-level `svg` elements by name, in the order of the file."""
    found_canvases = []
    box = lengths.view_box(document.root.get("viewBox")) or (0.0, 0.0, 0.0, 0.0)
    for element in document.root:
        area = None
        if local_name(element) == "view":
            area = lengths.view_box(element.get("viewBox"))
        elif local_name(element) == "svg":
            sides = [lengths.length(element.get(k, "0")) for k in ("x", "y", "width", "height")]
            if None not in sides:
                area = tuple(side or 0.0 for side in sides)  # type: ignore[assignment]
        name = given_name(element)
        if area and area[2] > 0 and area[3] > 0 and name:
            x, y, width, height = (value * document.unit for value in area)
            left, top = box[0] * document.unit, box[1] * document.unit
            found_canvases.append(Canvas(name, Rect(x - left, y - top, width, height).outward()))
    return tuple(found_canvases)


def given_name(element: etree._Element) -> str:
    """What a person called it: a label in any namespace, a title, an ARIA label, the id."""
    labels = [value for key, value in element.attrib.items() if split_name(str(key))[1] == "label"]
    titles = [child.text for child in element if local_name(child) == "title"]
    candidates = [*labels, *titles, element.get("aria-label"), element.get("id")]
    return next((str(name).strip() for name in candidates if name and str(name).strip()), "")


def read_bytes(path: Path) -> bytes:
    """A file, unpacked where it is packed. Raises MockupError for one that can't be read."""
    try:
        data = path.read_bytes()
        if data.startswith(b"\x1f\x8b"):
            with gzip.open(path) as file:
                data = file.read(LARGEST + 1)
    except (OSError, EOFError, zlib.error) as error:
        why = getattr(error, "strerror", None) or error
        raise MockupError(f"{as_typed(path)} can't be read: {why}.") from error
    return data


def refuse_depth(root: etree._Element, limit: int, what: str) -> None:
    """Raises MockupError for groups nested deeper than the limit."""
    elements, depth = [root], 0
    while elements:
        depth += 1
        if depth > limit:
            raise MockupError(
                f"{what}: groups are nested more than {limit} deep.",
                "If that is meant, raise [limits] depth in riffler.toml.",
            )
        elements = [child for element in elements for child in element]


def settle_namespaces(root: etree._Element) -> None:
    """Take out what drawing programs keep for themselves; give elements of no namespace SVG's."""
    settle_no_namespace(root)
    for element in [e for e in root.iter() if isinstance(e.tag, str)]:
        if namespace_of(element) != NAMESPACE:
            drop(element)


def settle_no_namespace(root: etree._Element) -> None:
    """Give elements of no namespace SVG's."""
    for element in root.iter():
        if isinstance(element.tag, str) and not namespace_of(element):
            element.tag = f"{{{NAMESPACE}}}{element.tag}"


def is_aside(element: etree._Element) -> bool:
    """Whether it is said about what is drawn, and drawn itself by nothing. SVG 2, section 5.8."""
    return not isinstance(element.tag, str) or local_name(element) in ("title", "desc")


def _settle_switch(switch: etree._Element) -> None:
    """Keep the one child that is drawn, and make the switch a group. SVG 2, section 5.9."""
    chosen = None
    for child in list(switch):
        if is_aside(child):
            continue
        languages = child.get("systemLanguage", "en").replace(" ", "").split(",")
        fits = any(language.split("-")[0] == "en" for language in languages)
        if chosen is None and fits and not child.get("requiredExtensions"):
            chosen = child
            child.attrib.pop("systemLanguage", None)
        else:
            switch.remove(child)
    switch.tag = f"{{{NAMESPACE}}}g"


def _settle_visibility(root: etree._Element) -> None:
    """Say with `display: none` what `visibility` hides, so that there is one way to hide."""
    elements = [element for element in root.iter() if isinstance(element.tag, str)]
    values = {element: value for element in elements if (value := style.own(element, "visibility"))}
    if not values:
        return
    shows_inside = set[etree._Element | None]()
    for element in reversed(elements):  # from the leaves
        if element in shows_inside or values.get(element) == "visible":
            shows_inside.add(element.getparent())
    holds: dict[etree._Element | None, str] = {}
    for element in elements:  # from the root
        own = values.get(element, "inherit")
        holds[element] = holds.get(element.getparent(), "") if own == "inherit" else own
        is_hidden = holds[element] in ("hidden", "collapse") and element not in shows_inside
        if is_hidden and local_name(element) in LAYERS:
            style.without(element, "display")
            element.set("display", "none")
    for element in values:
        style.without(element, "visibility")


def measure(root: etree._Element) -> tuple[float, float, float]:
    """Width, height and the length of a user unit, all in mockup pixels. SVG 2, section 8.2."""
    box = lengths.view_box(root.get("viewBox"))
    whole = (box[2], box[3]) if box else DEFAULT_SIZE
    width = lengths.length(root.get("width"), whole=whole[0])
    height = lengths.length(root.get("height"), whole=whole[1])
    if box and width is None and height is not None:
        width = height * box[2] / box[3]
    if box and height is None and width is not None:
        height = width * box[3] / box[2]
    width = whole[0] if width is None else width
    height = whole[1] if height is None else height
    unit = min(width / box[2], height / box[3]) if box else 1.0
    return width, height, unit


def size_of(document: SvgDocument) -> Size:
    """The canvas in whole mockup pixels, rounded outward."""
    return Rect(0, 0, document.width, document.height).outward().size
