"""An SVG document -> the Mockup: every group and painting element is a layer."""

from __future__ import annotations

from pathlib import Path

from lxml import etree

from riffler.files import as_typed
from riffler.mockup import address
from riffler.mockup.bounds import refuse_many
from riffler.mockup.model import Layer, LayerKind, Mockup, Nature
from riffler.mockup.svg import style, text_element
from riffler.mockup.svg.document import (
    GROUPS,
    KEY,
    LAYERS,
    SvgDocument,
    canvases,
    given_name,
    load,
    size_of,
)
from riffler.mockup.svg.lengths import length
from riffler.mockup.xml import local_name
from riffler.project.limits import Limits


def read(path: Path, limits: Limits) -> Mockup:
    """Read the drawing's tree. Raises MockupError when it is unsound or beyond the limits."""
    document = load(path, limits)
    layers = _children(document, document.root, "")
    refuse_many(layers, limits, as_typed(path))
    views = canvases(document)
    return Mockup(path, size_of(document), layers, Nature.VECTOR, document, canvases=views)


def _children(document: SvgDocument, parent: etree._Element, at: str) -> tuple[Layer, ...]:
    """The layers in a group, the topmost first: SVG paints in the order of the file."""
    elements = [child for child in reversed(parent) if local_name(child) in LAYERS]
    ends = address.segments((given_name(child), _kind(child)) for child in elements)
    return tuple(
        _layer(document, element, address.join(at, end))
        for element, end in zip(elements, ends, strict=True)
    )


def _layer(document: SvgDocument, element: etree._Element, at: str) -> Layer:
    kind = _kind(element)
    element.set(KEY, at)
    return Layer(
        address=at,
        name=address.clean(given_name(element)),
        kind=kind,
        visible=style.own(element, "display") != "none",
        opacity=_opacity(element),
        blend=style.own(element, "mix-blend-mode") or "normal",
        isolated=style.own(element, "isolation") == "isolate",
        source=at,
        words=text_element.read(element, document.unit) if kind is LayerKind.WORDS else None,
        children=_children(document, element, at) if kind is LayerKind.GROUP else (),
    )


def _kind(element: etree._Element) -> LayerKind:
    match local_name(element):
        case "text":
            return LayerKind.WORDS
        case "image":
            return LayerKind.PIXELS
        case name if name in GROUPS:
            return LayerKind.GROUP
    return LayerKind.VECTOR


def _opacity(element: etree._Element) -> float:
    value = length(style.own(element, "opacity"), whole=1.0)
    return 1.0 if value is None else min(1.0, max(0.0, value))
