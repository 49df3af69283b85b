"""Text and the ground it stands on -> where both are known and too alike. WCAG 2.2, 1.4.3."""

from __future__ import annotations

import re
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace

import tinycss2.color4

from riffler.hexcolor import hex_text
from riffler.proof.finding import PageFinding
from riffler.proof.folder import Folder
from riffler.proof.page_text import Node, Page
from riffler.proof.styles import Rule, Sheet

#: The least contrast of text, and of text that is large: in CSS pixels, plain and bold.
TEXT, LARGE, LARGE_PLAIN, LARGE_BOLD = 4.5, 3.0, 24.0, 18.66

#: Sizes of headings beside the text around them, where nobody says one. HTML, 15.3.6.
_SIZES = {"h1": 2.0, "h2": 1.5, "h3": 1.17, "h5": 0.83, "h6": 0.67, "small": 0.83}
_BOLD = {"h1", "h2", "h3", "h4", "h5", "h6", "b", "strong", "th"}

Color = tuple[float, float, float]


@dataclass(frozen=True)
class _Look:
    """What an element looks like, as far as it is known: None for what is not."""

    color: Color | None = (0.0, 0.0, 0.0)
    ground: Color | None = (1.0, 1.0, 1.0)
    size: float = 16.0
    is_bold: bool = False


def faint(folder: Folder) -> Iterator[PageFinding]:
    """Text that stands out too little, once for each pair of colours and class on a page."""
    for page in folder.pages:
        yield from _Cascade(_sheets(folder, page)).faint(page)


def _sheets(folder: Folder, page: Page) -> list[Sheet]:
    """The style sheets that a page links, and its own, in order."""
    linked = [
        reference.target
        for reference in folder.references
        if reference.file == page.file
        and reference.node is not None
        and reference.node.tag == "link"
    ]
    by_name = {sheet.file: sheet for sheet in folder.sheets}
    return [by_name[name] for name in (*linked, page.file) if name in by_name]


class _Cascade:
    """The rules of one page by tag and by class; looks that were found are remembered."""

    def __init__(self, sheets: Sequence[Sheet]) -> None:
        self._rules: dict[tuple[str, str], list[Rule]] = {}
        self._properties = {k: v for sheet in sheets for k, v in sheet.properties.items()}
        self._blurred = frozenset().union(*(sheet.blurred for sheet in sheets))
        for sheet in sheets:
            for rule in sheet.rules:
                self._rules.setdefault((rule.tag, rule.name), []).append(rule)
        self._known: dict[tuple[object, ...], _Look] = {}

    def faint(self, page: Page) -> Iterator[PageFinding]:
        """Every element with text of its own that can hardly be read."""
        looks: dict[int, _Look] = {}
        said: set[object] = set()
        for node in page.nodes:
            above = looks.get(id(node.parent), _Look())
            look = looks[id(node)] = self._look(node, above)
            if not node.text.strip() or look.color is None or look.ground is None:
                continue
            if node.tag in ("script", "style", "title", "noscript", "template"):
                continue
            ratio = _ratio(look.color, look.ground)
            is_large = look.size >= (LARGE_BOLD if look.is_bold else LARGE_PLAIN)
            key = (node.tag, node.classes, look)
            if ratio < (LARGE if is_large else TEXT) - 0.005 and key not in said:
                said.add(key)
                text = " ".join(node.text.split())[:40]
                message = (
                    f'"{text}" has a contrast of {ratio:.2f}, {LARGE if is_large else TEXT:g} is '
                    f"the least: {_hex(look.color)} on {_hex(look.ground)}."
                )
                about = f"{page.file} {'.'.join((node.tag, *node.classes))}"
                yield PageFinding("contrast", page.file, node.line, message, about)

    def _look(self, node: Node, above: _Look) -> _Look:
        style = node.attributes.get("style", "")
        key = (above, node.tag, node.classes, style)
        if key not in self._known:
            self._known[key] = self._find(node, above, style)
        return self._known[key]

    def _find(self, node: Node, above: _Look, style: str) -> _Look:
        scale = _SIZES.get(node.tag, 1.0)
        look = replace(above, size=above.size * scale, is_bold=above.is_bold or node.tag in _BOLD)
        rules = [
            rule
            for tag in ("", node.tag)
            for name in ("", *node.classes)
            for rule in self._rules.get((tag, name), ())
        ]
        rules.sort(key=lambda rule: rule.weight)
        declarations = [pair for rule in rules for pair in rule.declarations]
        declarations += [
            (declaration.lower_name, tinycss2.serialize(declaration.value).strip())
            for declaration in tinycss2.parse_declaration_list(style)
            if declaration.type == "declaration"
        ]
        for name, value in declarations:
            look = self._with(look, name, self._resolved(value), above)
        if self._blurred & {node.tag, "*", *node.classes}:
            look = replace(look, color=None, ground=None)
        return look

    def _resolved(self, value: str) -> str:
        """A value with custom properties of the root put in."""
        for _ in range(4):
            found = re.sub(
                r"var\(\s*(--[\w-]+)\s*(?:,([^()]*))?\)",
                lambda name: self._properties.get(name[1], (name[2] or "unknown").strip()),
                value,
            )
            if found == value:
                break
            value = found
        return value

    def _with(self, look: _Look, name: str, value: str, above: _Look) -> _Look:
        match name:
            case "color":
                return replace(look, color=above.color if value == "inherit" else _color(value))
            case "background" | "background-color":
                return replace(look, ground=_ground(value, look.ground))
            case "background-image" if value != "none":
                return replace(look, ground=None)
            case "grid-area":
                return replace(look, ground=None)
            case "position" if value in ("absolute", "fixed"):  # it may lie on anything
                return replace(look, ground=None)
            case "font-size":
                return replace(look, size=_size(value, above.size))
            case "font-weight":
                weight = {"bold": 700, "bolder": 700, "normal": 400}.get(value)
                number = weight or (int(value) if value.isdigit() else 400)
                return replace(look, is_bold=number >= 600)
        return look


def _ratio(first: Color, second: Color) -> float:
    """The contrast of two colours, 1..21. WCAG 2.2, "contrast ratio"."""
    lights = sorted(_light(color) + 0.05 for color in (first, second))
    return lights[1] / lights[0]


def _light(color: Color) -> float:
    """Relative luminance, 0..1. WCAG 2.2, its definition."""
    red, green, blue = (
        part / 12.92 if part <= 0.04045 else ((part + 0.055) / 1.055) ** 2.4 for part in color
    )
    return 0.2126 * red + 0.7152 * green + 0.0722 * blue


def _ground(value: str, before: Color | None) -> Color | None:
    """What a background leaves under text; None where it is no single colour."""
    if value in ("none", "transparent", "inherit", "initial"):
        return before
    if "url(" in value or "gradient(" in value or "unknown" in value:
        return None
    return _color(value)


def _color(value: str) -> Color | None:
    """An opaque colour, 0..1; None for any other."""
    color = tinycss2.color4.parse_color(value)
    if color is None or color == "currentcolor" or color.alpha != 1:
        return None
    red, green, blue = color.to("srgb").coordinates
    return red, green, blue


def _size(value: str, around: float) -> float:
    number = re.match(r"[\d.]+", value)
    if number is None:
        return around
    scale = {"px": 1.0, "rem": 16.0, "em": around, "%": around / 100, "pt": 4 / 3}
    unit = value[number.end() :]
    return float(number[0]) * scale.get(unit, 0.0) or around


def _hex(color: Color) -> str:
    return hex_text(*(round(255 * part) for part in color))
