"""Judgements -> the words in which a person would give the reason."""

from __future__ import annotations

from riffler.analyse.style import CLEAR, Style
from riffler.reading.judgement import Evidence, Judgement

_PLAIN = {
    Evidence.TEXT: "text",
    Evidence.EMPTY: "empty",
    Evidence.VEIL: "a faint veil",
    Evidence.RICH: "photo, or as rich as one",
    Evidence.GLOW: "soft glow",
    Evidence.ART: "illustration",
}


def reason(judgement: Judgement, density: float) -> str:
    """Why a drawing becomes what it becomes, as the end of a sentence; lengths in CSS pixels."""
    match judgement.evidence:
        case Evidence.STYLE:
            assert judgement.style is not None
            return _style(judgement.style, density)
        case Evidence.PERIOD:
            assert judgement.period is not None
            across, down = judgement.period
            if judgement.repeat != "both":
                step, way = (across, "to the right") if judgement.repeat == "x" else (down, "down")
                return f"strip that repeats every {step} px {way}"
            return f"texture that repeats every {across} x {down} px"
        case Evidence.GRAIN:
            assert judgement.period is not None
            across, down = judgement.period
            return f"texture that is alike everywhere; {across} x {down} px of it will do"
        case Evidence.ODD_SHAPE:
            kind = "one colour" if judgement.is_flat else "one gradient"
            return f"odd shape in {kind}: vector or small picture"
        case Evidence.SHAPES:
            many = judgement.shapes
            return f"a drawing of {many} shapes" if many > 1 else "a drawing"
        case evidence:
            return _PLAIN[evidence]


def _style(style: Style, density: float) -> str:
    texts = [_fill(style)]
    if style.radii is None:
        texts.append("an ellipse")
    elif any(style.radii.listed):
        radii = style.radii.listed[:1] if style.radii.is_one else style.radii.listed
        texts.append(f"rounded {' '.join(_length(radius / density) for radius in radii)} px")
    if style.border is not None:
        place = f" {style.border.side}" if style.border.side else ""
        width = _length(style.border.width / density)
        texts.append(f"border{place} {width} px {style.border.color}")
    for shadow in style.shadows:
        lengths = [shadow.x, shadow.y, shadow.blur, *([shadow.spread] if shadow.spread else [])]
        places = " ".join(_length(length / density) for length in lengths)
        kind = "inner shadow" if shadow.is_inner else "shadow"
        texts.append(f"{kind} {places} px {shadow.color}")
    if style.opacity < 1:
        texts.append(f"opacity {style.opacity:.2g}")
    if style.blend != "normal":
        texts.append(f"blended with {style.blend}")
    return ", ".join(texts)


def _fill(style: Style) -> str:
    first, *other_stops = style.stops
    if first == CLEAR:
        return "no fill"
    if not other_stops:
        return f"flat colour {first.color}"
    if len(other_stops) == 1 and (first.position, other_stops[0].position) == (0, 1):
        stops = f"{first.color} to {other_stops[0].color}"
    else:
        stops = ", ".join(f"{stop.color} {100 * stop.position:.3g} %" for stop in style.stops)
    return f"gradient at {style.angle or 0} degrees, {stops}"


def _length(value: float) -> str:
    """A length as CSS is written by hand: whole unless it is clearly not."""
    return f"{round(value)}" if abs(value - round(value)) < 0.3 else f"{value:.1f}"
