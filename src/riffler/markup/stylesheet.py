"""Rules -> the text of a style sheet that a person goes on with."""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass
from itertools import starmap

from riffler.markup.brevity import Css, brief, gathered
from riffler.markup.classes import NARROW, Rule
from riffler.markup.element import Lengths
from riffler.markup.looks import Inherited, stack_of
from riffler.measure.css import family, quoted
from riffler.mockup.font_book import Face
from riffler.project.starting import at_hand
from riffler.tokens.palette import name_of
from riffler.webfonts.style_sheet import font_slug

#: The order in which people write declarations; others stand behind.
ORDER = (
    "content",
    "position",
    "top",
    "right",
    "bottom",
    "left",
    "order",
    "display",
    "flex-direction",
    "flex-wrap",
    "flex",
    "grid-area",
    "grid-column",
    "grid-template-columns",
    "grid-template-rows",
    "align-content",
    "align-items",
    "justify-content",
    "place-items",
    "justify-self",
    "gap",
    "column-gap",
    "row-gap",
    "width",
    "min-width",
    "max-width",
    "height",
    "min-height",
    "max-height",
    "object-fit",
    "object-position",
    "margin",
    "margin-block",
    "margin-top",
    "margin-inline",
    "margin-right",
    "margin-bottom",
    "margin-left",
    "border",
    "border-radius",
    "padding",
    "padding-block",
    "padding-top",
    "padding-inline",
    "padding-right",
    "padding-bottom",
    "padding-left",
    "background",
    "box-shadow",
    "color",
    "font-family",
    "font-size",
    "font-style",
    "font-weight",
    "line-height",
    "letter-spacing",
    "text-align",
    "white-space",
)

#: What holds before anything of the mockup: our own, and no more than these pages need.
BASE = """\
*,
*::before,
*::after {
  box-sizing: border-box;
  margin: 0;
}

h1,
h2,
h3,
h4,
h5,
h6,
th {
  font: inherit;
  overflow-wrap: break-word;
}

ul {
  padding: 0;
  list-style: none;
}

th,
td {
  padding: 0;
}

a {
  color: inherit;
  text-decoration: none;
}

img {
  display: block;
  max-width: 100%;
  height: auto;
}

picture {
  display: contents;
}

source {
  display: none;
}

button,
input,
select,
textarea {
  border: 0;
  padding: 0;
  background: none;
  color: inherit;
  font: inherit;
}

::placeholder {
  color: inherit;
  opacity: 1;
}

:focus-visible {
  outline: 2px solid;
  outline-offset: 2px;
}
"""

#: What lets words wrap that are held to the lines of the mockup.
WRAPPING = (("white-space", "normal"), ("min-width", "0"))

_COLOR = re.compile(r"#[0-9a-f]{6}(?:[0-9a-f]{2})?\b")


@dataclass(frozen=True)
class PageGround:
    """The body of the pages: how it is set, and its colour."""

    body: Inherited
    color: str


def text(
    rules: Sequence[Rule],
    names: Mapping[str, str],
    ground: PageGround,
    faces: Sequence[tuple[Face, str]],
    lengths: Lengths,
    width: float,
    own: Sequence[Rule] = (),
) -> str:
    """The style sheet that all pages link; `own` are the rules of single ones, in other files.

    `names` are of colours, `faces` are font files with their addresses from it.
    """
    root, body = _root(names, [*rules, *own], ground), _body(ground, names, lengths)
    page = rules_text(rules, names, width)
    return "\n".join([*starmap(face_rule, faces), root, BASE, body, page, at_hand()])


def rules_text(rules: Sequence[Rule], names: Mapping[str, str], width: float = 1280) -> str:
    """Rules in order, and at the end what holds for narrow windows; `names` are of colours.

    `width` is that of the mockups, for which the rules themselves hold.
    """
    narrow_to = int(min(NARROW, width - 40))
    parts = [text for rule in rules for text in _rules(rule, names)]
    for widest, is_sooner in ((round(width) - 1, True), (narrow_to, False)):
        chosen = {
            rule.selector: css
            for rule in rules
            if (css := _narrow(rule.narrow, is_sooner=is_sooner))
        }
        if chosen:
            parts.append(_media(f"(max-width: {widest}px)", chosen, names))
    for when in dict.fromkeys(when for rule in rules for when in rule.mockups):
        chosen = {rule.selector: rule.mockups[when] for rule in rules if when in rule.mockups}
        parts.append(_media(when, chosen, names))
    return "\n".join(parts)


def _narrow(narrow: Css, *, is_sooner: bool) -> Css:
    """What holds as soon as windows are narrower than the mockup, or what only narrow ones need.

    What stands beside one another wraps where it no longer has room, and words do.
    """
    return {key: value for key, value in narrow.items() if _wraps(key, value) == is_sooner}


def _wraps(key: str, value: str) -> bool:
    is_grid = key == "grid-template-columns" and "auto-fill" in value
    return is_grid or key == "flex-wrap" or (key, value) in WRAPPING


def _media(when: str, rules: Mapping[str, Css], names: Mapping[str, str]) -> str:
    """Rules that hold for some windows."""
    together = gathered({selector: brief(css) for selector, css in rules.items()})
    inner = "\n".join(_rule(selector, css, names) for selector, css in together.items())
    indented = "\n".join(f"  {line}" if line else "" for line in inner.splitlines())
    return f"@media {when} {{\n{indented}\n}}\n"


def face_rule(face: Face, url: str) -> str:
    """The rule for a face at an address."""
    return (
        f"@font-face {{\n  font-family: {family(face.family)};\n"
        + ("  font-style: italic;\n" if face.is_italic else "")
        + f"  font-weight: {face.weight};\n  font-display: swap;\n"
        f"  src: url({quoted(url)});\n}}\n"
    )


def color_names(rules: Iterable[Rule], ground: PageGround) -> dict[str, str]:
    """The names of custom properties for colours that are used more than once."""
    return dict(_colors(rules, ground))


def _colors(rules: Iterable[Rule], ground: PageGround) -> Iterator[tuple[str, str]]:
    used: Counter[str] = Counter()
    for rule in rules:
        for css in (rule.css, *rule.looks.values()):
            for value in css.values():
                used.update(_COLOR.findall(value))
    yield ground.body.type.color, "ink"
    taken = {"ink"}
    if ground.color and ground.color != ground.body.type.color:
        yield ground.color, "paper"
    for color, count in used.items():
        if count > 1 and color not in (ground.body.type.color, ground.color):
            name = name_of(color)
            while name in taken:
                name += "-2"
            taken.add(name)
            yield color, name


def _families(rules: Iterable[Rule], ground: PageGround) -> list[str]:
    texts = [stack_of(ground.body.type)]
    texts += [rule.css["font-family"] for rule in rules if "font-family" in rule.css]
    return list(dict.fromkeys(texts))


def _root(names: Mapping[str, str], rules: Sequence[Rule], ground: PageGround) -> str:
    lines = [f"  --{name}: {color};" for color, name in names.items()]
    for stack in _families(rules, ground):
        name = stack.split(",")[0].strip('"')
        lines.append(f"  --{font_slug(name)}: var(--font-{font_slug(name)}, {stack});")
    return ":root {\n" + "\n".join(lines) + "\n}\n"


def _body(ground: PageGround, names: Mapping[str, str], lengths: Lengths) -> str:
    type_ = ground.body.type
    css: Css = {}
    if ground.color:
        css["background"] = ground.color
    css |= {
        "color": type_.color,
        "font-family": stack_of(type_),
        "font-size": lengths.say(type_.size),
        "font-weight": str(type_.weight),
        "line-height": lengths.say(ground.body.step),
    }
    if type_.weight == 400:
        del css["font-weight"]
    return _rule("body", css, names)


def _rules(rule: Rule, names: Mapping[str, str]) -> Iterator[str]:
    if rule.css:
        yield _rule(rule.selector, brief(rule.css, is_first=True), names)
    same: dict[tuple[tuple[str, str], ...], list[str]] = {}
    for ending, css in rule.looks.items():
        if css:
            look = ending.removeprefix("within:")
            selector = (
                f"{rule.within}.{look} {rule.selector}"
                if look != ending
                else rule.selector + ending
            )
            same.setdefault(tuple(css.items()), []).append(selector)
    for css_items, selectors in same.items():
        yield _rule(",\n".join(selectors), dict(css_items), names)


def _rule(selector: str, css: Css, names: Mapping[str, str]) -> str:
    ordered = sorted(css.items(), key=lambda pair: ORDER.index(pair[0]) if pair[0] in ORDER else 99)
    lines = []
    for name, value in ordered:
        text = _COLOR.sub(lambda match: _named(match[0], names), value)
        if name == "font-family":
            text = f"var(--{font_slug(text.split(',')[0].strip(chr(34)))})"
        lines.append(f"  {name}: {text};")
    return f"{selector} {{\n" + "\n".join(lines) + "\n}\n"


def _named(color: str, names: Mapping[str, str]) -> str:
    return f"var(--{names[color]})" if color in names else color
