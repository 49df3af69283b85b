"""A declaration as it is written -> the same with another value."""

from __future__ import annotations

import math
import re
from collections.abc import Iterator

from riffler.fit.declarations import Declaration
from riffler.fit.fault import Difference, Fault
from riffler.fit.seen import hexadecimal
from riffler.markup.setting import Setting

#: Properties that carry each kind of fault that a value of its own mends.
CARRIERS = {
    Fault.COLOR: ("color", "background-color", "background", "fill"),
    Fault.GRADIENT: ("background-image", "background"),
    Fault.TYPE_SIZE: ("font-size", "font"),
    Fault.WEIGHT: ("font-weight", "font"),
    Fault.FAMILY: ("font-family", "font"),
    Fault.STYLE: ("font-style", "font"),
    Fault.SPACING: ("letter-spacing",),
    Fault.LINE_HEIGHT: ("line-height", "font"),
    Fault.RADIUS: ("border-radius",),
    Fault.BORDER: ("border", "border-width", "border-color"),
    Fault.SHADOW: ("box-shadow",),
}

#: Faults whose property an element takes over from those around it.
INHERITED = frozenset(
    {
        Fault.COLOR,
        Fault.TYPE_SIZE,
        Fault.WEIGHT,
        Fault.FAMILY,
        Fault.STYLE,
        Fault.SPACING,
        Fault.LINE_HEIGHT,
    }
)


#: By property the value that hides an element, and one that shows it.
HIDING = {
    "visibility": ("hidden", "visible"),
    "display": ("none", "revert"),
    "opacity": ("0", "1"),
}

#: Properties that make room.
ROOM = re.compile(
    r"(margin|padding|inset|gap|(row|column)-gap|(min-|max-)?(width|height|inline-size|block-size)|"
    r"top|right|bottom|left|translate|transform|flex|flex-basis|background-position|--.*)"
    r"(-(top|right|bottom|left|block|inline)(-(start|end))?)?"
)

_LENGTH = re.compile(r"(?<![\w#.-])(-?\d*\.?\d+)(px|rem|em)?(?![\w%.-])")
_COLOR = re.compile(r"#[0-9a-fA-F]{3,8}\b|rgba?\([^)]*\)|\b[a-z]{3,20}\b")


def wider(declaration: Declaration, setting: Setting | None) -> Iterator[tuple[Declaration, str]]:
    """A declaration of a width at which lines break as they should, or that leaves it to them."""
    if declaration.name in ("width", "max-width") and setting is not None:
        for step in (20, 10, 5, 1):
            width = math.ceil(setting.width / step) * step
            if setting.width <= width < setting.next_words:
                yield declaration, f"{width}px"
                break
    if declaration.name in ("width", "max-width"):
        yield declaration, "auto" if declaration.name == "width" else "none"


def lengths(declaration: Declaration, way: float) -> Iterator[tuple[Declaration, str]]:
    """A declaration with each of its lengths shorter by what is off; by twice that; or longer."""
    for match in _LENGTH.finditer(declaration.value):
        number, unit = float(match[1]), match[2] or ""
        if unit == "" and number != 0:
            continue
        by = 16 if unit in ("rem", "em") else 1
        for times in (1, 2, -1):
            length = number - times * way / by
            text = f"{round(length, 4):g}{unit or 'px'}"
            yield (
                declaration,
                declaration.value[: match.start()] + text + declaration.value[match.end() :],
            )


def instead(value: str, difference: Difference) -> str | None:
    """A value with what is there said as it should be; None where it does not say what is there."""
    wanted, found = difference.wanted, difference.found
    if difference.fault in (Fault.COLOR, Fault.BORDER) and wanted.startswith("#"):
        for match in _COLOR.finditer(value):
            if (match[0].startswith("#") and _long(match[0]) == found) or _is_rgb(match[0], found):
                return value[: match.start()] + wanted + value[match.end() :]
        return None
    if difference.fault is Fault.RADIUS:
        return _short(wanted)
    if difference.fault is Fault.GRADIENT:
        return _restopped(value, wanted.split(", "), found.split(", "))
    if difference.fault in (Fault.SHADOW, Fault.BORDER):
        return None
    at = value.find(found.removesuffix("px") if found.endswith("px") else found)
    if at < 0:
        return None
    old = found if value.startswith(found, at) else found.removesuffix("px")
    return value[:at] + wanted + value[at + len(old) :]


def _restopped(value: str, wanted: list[str], result: list[str]) -> str | None:
    """A gradient with the stops that are other colours put right."""
    if len(wanted) != len(result):
        return None
    stops = [
        match
        for match in _COLOR.finditer(value)
        if match[0][0] == "#" or match[0].startswith("rgb")
    ]
    if [_said(match[0]) for match in stops] != result:
        return None
    for match, right, now in reversed(list(zip(stops, wanted, result, strict=True))):
        if right != now:
            value = value[: match.start()] + right + value[match.end() :]
    return value


def _said(color: str) -> str:
    return _long(color) if color.startswith("#") else hexadecimal(color)


def _is_rgb(text: str, current: str) -> bool:
    return text.startswith("rgb") and hexadecimal(text) == current


def _long(color: str) -> str:
    """A colour with all its digits."""
    digits = color[1:]
    return "#" + ("".join(2 * digit for digit in digits) if len(digits) < 5 else digits).lower()


def _short(radii: str) -> str:
    """Four equal corners as one."""
    parts = radii.removesuffix(" px").split()
    texts = [f"{part}px" if part != "0" else "0" for part in parts]
    return texts[0] if len(set(texts)) == 1 else " ".join(texts)
