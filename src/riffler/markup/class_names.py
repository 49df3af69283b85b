"""Areas -> what their classes are called: by what their layers are called, or by what they are."""

from __future__ import annotations

import unicodedata

from riffler.cutlist.sound_names import sound
from riffler.markup.area import Area, Shape
from riffler.markup.headings import Texts
from riffler.markup.setting import Setting
from riffler.mockup import address
from riffler.mockup.model import Layer
from riffler.mockup.model import LayerKind as LayerKind
from riffler.reading.layer_names import VAGUE, humanised, own_name, plural, says_something, singular
from riffler.reading.part import PartKind

#: The longest name that is taken from a layer, and of how many words it is at the most.
LONGEST, WORDS = 20, 2

#: What frames are called by their shape.
_FRAMES = {Shape.STACK: "copy", Shape.ROW: "line", Shape.PILE: "scene", Shape.LIST: "list"}

#: Names of layers that a style sheet has other meanings for: of frames, grids and their columns.
_OTHERWISE = {
    *("row", "rows", "col", "cols", "column", "columns", "container", "grid", "wrap", "wrapper"),
    *("inner", "outer", "content", "section", "sheet", "page", "main", "stack", "list", "part"),
}


def name_of(area: Area) -> str:
    """The name of an area's class; it need not be the only one so called."""
    if area.kind in (PartKind.TAB, PartKind.BUTTON, PartKind.LOGO):
        return plural(area.kind) if area.shape is Shape.LIST else str(area.kind)
    if area.shape is Shape.LIST:
        return plural(member_name(area))
    name = _of_layer(area)
    if area.piece is not None and area.shape is Shape.PICTURE:
        return name or ("icon" if area.kind is PartKind.ICON else "picture")
    if name:
        return name
    if area.shape is Shape.STACK and area.is_frame:
        return _of_contents(area)
    return _FRAMES.get(area.shape, "box") if area.is_frame else str(area.kind)


def member_name(area: Area) -> str:
    """What one of a list is called: by a name that all have, or the group that they are in."""
    names = {_of_layer(part) for part in area.parts}
    if len(names) == 1 and (name := names.pop()):
        return singular(name)
    own = _of_layer(Area(Shape.STACK, area.box, parts=area.parts))
    if not own and area.kind is PartKind.ITEM:
        return "entry"
    return singular(own) if own else str(area.kind)


def _of_contents(area: Area) -> str:
    """What a section is called by what it shows."""
    inner = area.parts
    if any(part.setting and part.setting.text.lstrip()[:1] in '“„«"' for part in inner):
        return "quote"
    lists = [part for part in inner if part.shape is Shape.LIST]
    if len(lists) == 1 and len(member_name(lists[0])) < LONGEST:
        return f"{member_name(lists[0])}-part"
    return "copy"


def _of_layer(area: Area) -> str:
    """What its layer is called, or the group that it is in, where that says something."""
    layers = area.layers or tuple(one_area.layers[0] for one_area in area.walk() if one_area.layers)
    if not layers:
        return ""
    paths = [address.parts(layer) for layer in layers]
    if area.layers:
        return _sound(paths[0][-1], area) or (_sound(paths[0][-2], area) if paths[0][1:] else "")
    common = [names[0] for names in zip(*paths, strict=False) if len(set(names)) == 1]
    return _sound(common[-1], area) if common else ""


def _sound(called: str, area: Area) -> str:
    """A layer's name as a class; empty where it says nothing. Numbers at its end say nothing."""
    layer = Layer(called, called, LayerKind.GROUP)
    if not says_something(layer):
        return ""
    name = own_name(layer)
    parts = [part for part in name.split("-") if not part.isdigit()]
    name = "-".join(parts)
    if not name or name in VAGUE | _OTHERWISE or len(name) > LONGEST or not name[0].isalpha():
        return ""
    if len(parts) > WORDS or not name.replace("-", "").isalpha():
        return ""
    return singular(sound(name)) if area.kind in (PartKind.CARD, PartKind.ITEM) else sound(name)


def label_of(area: Area) -> str:
    """What something without words may be called aloud, until a person says it."""
    return humanised(_of_layer(area) or str(area.kind))


def name_of_text(area: Area, setting: Setting, texts: Texts, *, is_heading: bool) -> str:
    """The name of a text's class: what it is beside the body of the page."""
    if is_heading:
        return "title"
    if area.link is not None or texts.is_link(setting):
        return "link"
    text = setting.text
    if is_figure(text):
        return "price" if any(unicodedata.category(sign) == "Sc" for sign in text) else "figure"
    if text.isupper() and len(text) > 3:
        return "kicker"
    larger = setting.type.size / texts.size
    if larger > 1.05:
        return "lead"
    return "text" if larger > 0.95 else "note"


def is_figure(text: str) -> bool:
    """Whether a text has figures, and no more letters than these."""
    return sum(map(str.isdigit, text)) >= max(1, sum(map(str.isalpha, text)))
