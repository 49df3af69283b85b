"""A page that is roughed out -> the same as one file, every element with a number.

Pictures that are still to be cut are empty drawings of their size; links lead nowhere.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from html import escape
from pathlib import Path

from riffler.geometry import Rect
from riffler.markup.area import Piece
from riffler.markup.classes import Rule
from riffler.markup.element import Code, Element, Lengths, is_running
from riffler.markup.looks import Inherited
from riffler.markup.stylesheet import PageGround, color_names, face_rule, text
from riffler.markup.template import VOID, words
from riffler.mirror.instances import Instance
from riffler.mockup.font_book import Face

#: The attribute that has an element's number.
NUMBER = "data-n"

#: Attributes that decide how much room an element takes.
_KEPT = ("type", "colspan", "rows", "value", "placeholder", "open", "checked")

#: How much larger a box may be than the picture that shows it, in CSS pixels.
NEAR = 4

#: A drawing of a size with nothing on it.
_EMPTY = "data:image/svg+xml,<svg xmlns='http://www.w3.org/2000/svg' width='{}' height='{}'/>"


@dataclass(frozen=True)
class Scene:
    """A page to be looked at: what is on it, how its body is set, and the faces of its letters.

    `width` is that of the mockup, in CSS pixels.
    """

    page: Instance
    usual: Inherited
    width: float
    lengths: Lengths
    faces: tuple[Face, ...] = ()


def page_text(scene: Scene) -> str:
    """The page, with an empty style sheet for its faces and one for all else."""
    head = "<meta charset=utf-8><style></style><style></style>"
    return f"<!doctype html>{head}{_element(scene.page)}"


def faces_text(scene: Scene, fonts: Mapping[Path, str]) -> str:
    """The rules for the faces of the page; `fonts` are the addresses of their files."""
    return "".join(face_rule(face, fonts[face.path]) for face in scene.faces)


def styles_text(scene: Scene) -> str:
    """All rules of the page, for its elements by their numbers."""
    rules, pieces = [], []
    for instance in scene.page.walk():
        ruled, name = instance.ruled, f".e{instance.number}"
        rules.append(Rule(name, instance.css, {}, ruled.narrow, ruled.mockups))
        if css := _shown(instance):
            pieces.append(f"{name} {{ {css} }}")
    ground = PageGround(scene.usual, "")
    names = color_names(rules, ground)
    page = text(rules, names, ground, (), scene.lengths, scene.width)
    return "\n".join((*pieces, page))


def _piece(instance: Instance) -> Piece | None:
    """The slice that shows it in the window of the page."""
    area = instance.area or instance.shown.area
    return area.piece if area else None


def _shown(instance: Instance) -> str:
    """What the class of a slice says of the room that an element takes."""
    piece, area = _piece(instance), instance.area or instance.shown.area
    if piece is None or area is None:
        return ""
    height = f"height: {piece.paint.height:g}px"
    if instance.shown.tag == "img":
        return f"width: 100%; {height}; object-fit: cover" if piece.fills_its_frame else ""
    if not _is_around(area.box, piece.paint):
        return ""
    return height if piece.fills_its_frame else f"width: {piece.paint.width:g}px; {height}"


def _is_around(box: Rect, paint: Rect) -> bool:
    """Whether a slice shows a whole box, and no tile of it."""
    return max(abs(box.width - paint.width), abs(box.height - paint.height)) <= NEAR


def _element(instance: Instance) -> str:
    element, number = instance.shown, instance.number
    attributes = {"class": f"e{number}", NUMBER: str(number)}
    for name in _KEPT:
        value = element.attributes.get(name)
        if value is not None and not isinstance(value, Code):
            attributes[name] = value
    if element.tag == "a":
        attributes["href"] = "#"
    if element.tag == "img":
        size = _size(_piece(instance))
        attributes |= {"width": str(size[0]), "height": str(size[1]), "src": _EMPTY.format(*size)}
    start = "".join(f' {name}="{escape(value)}"' for name, value in attributes.items())
    if element.tag in VOID:
        return f"<{element.tag}{start}>"
    inside = {id(inner.shown): inner for inner in instance.inner}
    if not inside or is_running(element):
        parts = [
            _element(inside[id(one)]) if isinstance(one, Element) else words(one)
            for one in element.content
            if not isinstance(one, Code)
        ]
        return f"<{element.tag}{start}>{''.join(parts)}</{element.tag}>"
    lines = "\n".join(_element(inner) for inner in instance.inner)
    return f"<{element.tag}{start}>\n{lines}\n</{element.tag}>"


def _size(piece: Piece | None) -> tuple[int, int]:
    """How large the file of a slice is shown, in CSS pixels, without the room around it."""
    if piece is None:
        return 0, 0
    above, right, below, left = piece.room
    return round(piece.paint.width - left - right), round(piece.paint.height - above - below)
