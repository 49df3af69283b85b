"""Tokens -> the format in which design tools hand them on.

Design Tokens Format Module 2025.10 and Color Module 2025.10, Design Tokens Community Group, W3C.
"""

from __future__ import annotations

from typing import Any

from riffler.analyse.style import Shadow
from riffler.plain import to_json
from riffler.project.target import OURS
from riffler.tokens.palette import alpha
from riffler.tokens.token import Sort, Token, Tokens, Type

#: What the sorts are called there.
_TYPES = {
    Sort.COLOR: "color",
    Sort.TYPE: "typography",
    Sort.SPACE: "dimension",
    Sort.RADIUS: "dimension",
    Sort.SHADOW: "shadow",
    Sort.WIDTH: "dimension",
}

#: A line height where the mockup says none, and the radius of what is round.
_LINE, _ROUND = 1.2, 9999.0


def interchange(found_tokens: Tokens) -> str:
    """The tokens as JSON, a group for each sort."""
    groups: dict[str, Any] = {"$description": f"{OURS} from {', '.join(found_tokens.mockups)}"}
    for sort in Sort:
        if tokens := found_tokens.of(sort):
            each = {token.name: _token(token) for token in tokens}
            groups[sort] = {"$type": _TYPES[sort], **each}
    return to_json(groups) + "\n"


def _token(token: Token) -> dict[str, Any]:
    used = len(token.places)
    values: dict[str, Any] = {
        "$value": _value(token),
        "$description": f"{' and '.join(token.roles)}, {used} time{'s' if used > 1 else ''}",
    }
    if isinstance(token.value, Type) and token.value.style != "normal":
        values["$extensions"] = {"riffler": {"fontStyle": token.value.style}}
    return values


def _value(token: Token) -> object:
    match token.value:
        case Type() as value:
            return {
                "fontFamily": list(value.families),
                "fontSize": _dimension(value.size),
                "fontWeight": max(1, min(1000, value.weight)),
                "letterSpacing": _dimension(value.letter_spacing),
                "lineHeight": _LINE if value.line_height is None else value.line_height,
            }
        case tuple() as shadows:
            each = [_shadow(shadow) for shadow in shadows]
            return each[0] if len(each) == 1 else each
        case float() as length:
            return _dimension(length)
        case str() as text:
            return _dimension(_ROUND) if token.sort is Sort.RADIUS else _color(text)


def _dimension(length: float) -> dict[str, Any]:
    return {"value": int(length) if length == int(length) else length, "unit": "px"}


def _color(color: str) -> dict[str, Any]:
    components = [round(int(color[at : at + 2], 16) / 255, 4) for at in (1, 3, 5)]
    return {
        "colorSpace": "srgb",
        "components": components,
        "alpha": round(alpha(color), 4),
        "hex": color[:7],
    }


def _shadow(shadow: Shadow) -> dict[str, Any]:
    lengths = {
        "offsetX": shadow.x,
        "offsetY": shadow.y,
        "blur": shadow.blur,
        "spread": shadow.spread,
    }
    values = {key: _dimension(at) for key, at in lengths.items()}
    inner = {"inset": True} if shadow.is_inner else {}
    return {"color": _color(shadow.color), **values, **inner}
