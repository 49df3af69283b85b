"""A value -> as a style sheet writes it, and as `riffler.toml` does."""

from __future__ import annotations

from dataclasses import replace

from riffler.analyse.declared import shadow_of
from riffler.measure.css import family
from riffler.measure.units import Scale
from riffler.tokens.token import Sort, Type, Value

#: What a value that is no length of its own is in CSS.
ROUND = "9999px"

_PX = Scale()


def spelled(sort: Sort, value: Value, scale: Scale = _PX) -> str:
    """As CSS writes it; `scale` says lengths, which are CSS pixels."""
    css = replace(scale.fine, density=1.0)
    match value:
        case Type():
            return _type(value, css)
        case tuple():
            return ", ".join(
                shadow_of(shadow, lambda length: css.say(length, unit=True)) for shadow in value
            )
        case float():
            return css.say(value, unit=True)
    return ROUND if sort is Sort.RADIUS else value


def _type(value: Type, scale: Scale) -> str:
    """The shorthand `font`. CSS Fonts 4, section 2.7."""
    style = "" if value.style == "normal" else f"{value.style} "
    height = "" if value.line_height is None else f"/{value.line_height:g}"
    families = ", ".join(family(name) for name in value.families)
    return f"{style}{value.weight} {scale.say(value.size, unit=True)}{height} {families}"
