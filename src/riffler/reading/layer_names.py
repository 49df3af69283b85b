"""Names of layers -> what people mean by them: a tab, a button, a state, the head of the page."""

from __future__ import annotations

import re

from riffler.cutlist.naming import sound
from riffler.mockup.model import Layer

TAB = {"tab", "navitem"}
BUTTON = {"button", "btn", "cta"}
LOGO = {"logo", "logotype", "brand", "mark", "emblem"}
LINK = {"link", "more"}
CARD = {"card", "teaser", "tile"}
NAVIGATION = {"nav", "navigation", "menu", "tabs"}
HERO = {"hero", "banner", "head", "header", "masthead", "cover", "billboard", "stage"}
ICON = {"icon", "symbol", "pictogram"}

#: What things to click are called.
CALLED = {"tab": TAB, "button": BUTTON | LINK, "logo": LOGO, "card": CARD}

#: Names of hidden layers and the state that each means. CSS Selectors 4 and WAI-ARIA name the rest.
STATES = {
    "hover": {"hover", "over", "rollover", "glow", "lit"},
    "current": {"current", "marker", "selected", "here", "chosen"},
    "active": {"active", "pressed", "down"},
    "focus": {"focus", "focused"},
    "disabled": {"disabled", "off", "inactive"},
}

#: Names that say nothing: what a layer is called after needs the group around it as well.
VAGUE = {
    "title", "line", "label", "words", "text", "name", "price", "copy", "body", "icon", "image",
    "picture", "photo", "plate", "box", "background", "shape", "layer", "group", "inside", "share",
}  # fmt: skip


#: What programs call things by themselves: a kind, a number, "copy".
_BY_ITSELF = re.compile(
    r"(layer|group|shape|path|vector|rect|rectangle|rechteck|ellipse|oval|line|polygon|star|frame|"
    r"image|img|bitmap|object|g|use|text|gruppe|ebene|form|pixels|flache|bg|clip|mask|copy|neu|\d+)"
    r"([ _-]*(copy|kopie|neu|\d+))*",
)


def says_something(layer: Layer) -> bool:
    """Whether a name is one that a person gave, not a program."""
    plain = " ".join(sound(layer.name).split("-")) if layer.name else ""
    return bool(plain) and not _BY_ITSELF.fullmatch(plain)


def tokens(name: str) -> set[str]:
    """The parts of a name, in lower case and without numbers: `Tab Home 2` is tab and home."""
    return {part for part in re.split(r"[^a-z]+", sound(name)) if part}


def means(layer: Layer, words: set[str]) -> bool:
    """Whether a layer's name holds one of these words."""
    return bool(layer.name) and bool(tokens(layer.name) & words)


def state_of(layer: Layer) -> str | None:
    """The state that a layer is for, by its name; None when the name says none."""
    found = tokens(layer.name)
    return next((state for state, words in STATES.items() if found & words), None)


def singular(name: str) -> str:
    """`cards` becomes `card`, `stories` `story`; other names stay."""
    if name.endswith("ies"):
        return name[:-3] + "y"
    return name[:-1] if name.endswith("s") and not name.endswith("ss") else name


def humanised(name: str) -> str:
    """A layer's name as the beginning of an alternative text: `jar-clover` is `Jar clover`."""
    words = " ".join(part for part in sound(name).split("-") if not part.isdigit())
    return words[:1].upper() + words[1:]
