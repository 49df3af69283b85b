"""Names of layers -> what people mean by them: a tab, a button, a state, the head of the page."""

from __future__ import annotations

import re
from functools import cache

from riffler.cutlist.sound_names import sound
from riffler.mockup.model import Layer

TAB = {"tab", "navitem"}
BUTTON = {"button", "btn", "cta"}
LOGO = {"logo", "logotype", "brand", "mark", "emblem"}
LINK = {"link", "more"}
BADGE = {"badge", "ribbon", "sticker"}
CARD = {"card", "teaser", "tile"}
NAVIGATION = {"nav", "navigation", "menu", "tabs"}
HERO = {"hero", "banner", "head", "header", "masthead", "cover", "billboard", "stage"}

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
    "title",
    "line",
    "label",
    "words",
    "text",
    "name",
    "price",
    "copy",
    "body",
    "icon",
    "image",
    "picture",
    "photo",
    "plate",
    "box",
    "background",
    "shape",
    "layer",
    "group",
    "inside",
    "share",
}


#: What programs put before a name and behind it, in the languages they speak: a kind, and "copy".
_HOLDER = (
    r"group|layer|frame|object|gruppe|ebene|rahmen|objekt|groupe|calque|cadre|grupo|capa|"
    r"gruppo|livello|camada|groep|laag|grupp|lager|warstwa|grupa"
)
_COPY = r"copy|kopie|kopia|copie|copia|neu"

#: What programs call things by themselves: a kind, a number, "copy".
_BY_ITSELF = re.compile(
    rf"({_HOLDER}|shape|path|vector|rect|rectangle|rechteck|ellipse|oval|circle|kreis|line|linie|"
    rf"polygon|star|image|img|bild|bitmap|g|use|text|texte|texto|tekst|form|forme|forma|pfad|trace|"
    rf"pixels|flache|bg|clip|mask|maske|{_COPY}|\d+)([ _-]*({_COPY}|\d+))*",
)

#: A name with something of a program's before or behind it: `group-loaves-copy-2`.
_DRESSED = re.compile(rf"(?:(?:{_HOLDER})-)?(?P<own>.*?)(?:-(?:{_COPY})(?:-\d+)?)*")


def says_something(layer: Layer) -> bool:
    """Whether a name is one that a person gave, not a program."""
    return _is_given(layer.name)


@cache
def _is_given(name: str) -> bool:
    plain = " ".join(sound(name).split("-")) if name else ""
    return bool(plain) and not _BY_ITSELF.fullmatch(plain)


def own_name(layer: Layer) -> str:
    """The name in sound style, without what a program put round it: `Group nav copy 2` is nav."""
    name = sound(layer.name or str(layer.kind))
    dressed = _DRESSED.fullmatch(name)
    own = dressed["own"] if dressed else ""
    return own if own and not own.isdigit() and not _BY_ITSELF.fullmatch(own) else name


def tokens(name: str) -> set[str]:
    """The parts of a name, in lower case and without numbers: `Tab Home 2` is tab and home."""
    return {part for part in re.split(r"[^a-z]+", sound(name)) if part}


def means(layer: Layer, words: set[str]) -> bool:
    """Whether a layer's name holds one of these words."""
    return bool(layer.name) and bool(tokens(layer.name) & words)


def leads_somewhere(name: str) -> bool:
    """Whether a name is that of something to click: `tab-home`, `link-2`, `read-more`."""
    parts = [part for part in sound(name).split("-") if part.isalpha()]
    if not parts or parts[0] in VAGUE:  # a text that is called after the group around it
        return False
    return bool({*parts} & (TAB | BUTTON | {"link"})) or parts[-1] == "more"


def state_of(layer: Layer) -> str | None:
    """The state that a layer is for, by its name; None when the name says none."""
    result = tokens(layer.name)
    return next((state for state, words in STATES.items() if result & words), None)


#: What is one, by what several are called that end in no s.
_SEVERAL = {"people": "person", "children": "child", "men": "man", "women": "woman"}


def singular(name: str) -> str:
    """`cards` becomes `card`, `stories` `story`, `boxes` `box`; other names stay."""
    if name in _SEVERAL:
        return _SEVERAL[name]
    if name.endswith("ies"):
        return name[:-3] + "y"
    if name.endswith(("xes", "ches", "shes")):
        return name[:-2]
    return name[:-1] if name.endswith("s") and not name.endswith("ss") else name


def plural(name: str) -> str:
    """`card` becomes `cards`, `story` `stories`, `box` `boxes`; what ends so already stays."""
    for several, one in _SEVERAL.items():
        if name in (several, one):
            return several
    if name.endswith("y") and name[-2:-1] not in "aeiou":
        return name[:-1] + "ies"
    if name.endswith(("x", "ch", "sh")):
        return name + "es"
    return name if name.endswith("s") else name + "s"


def humanised(name: str) -> str:
    """A layer's name as the beginning of an alternative text: `jar-clover` is `Jar clover`."""
    words = " ".join(part for part in sound(name).split("-") if not part.isdigit())
    return words[:1].upper() + words[1:]
