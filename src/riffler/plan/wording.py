"""Judgements -> the words in which a person would give the reason."""

from __future__ import annotations

from riffler.analyse.style import Style
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
        case Evidence.ODD_SHAPE:
            kind = "one colour" if judgement.is_flat else "one gradient"
            return f"odd shape in {kind}: vector or small picture"
        case Evidence.SHAPES:
            return f"a drawing of {judgement.shapes} shapes"
        case evidence:
            return _PLAIN[evidence]


def _style(style: Style, density: float) -> str:
    first, last = style.stops[0].color, style.stops[-1].color
    said = [f"flat colour {first}"]
    if style.angle is not None:
        said = [f"gradient in one direction, {first} to {last}"]
    if style.radii is None:
        said.append("an ellipse")
    elif any(style.radii.listed):
        radii = style.radii.listed[:1] if style.radii.is_one else style.radii.listed
        said.append(f"rounded {' '.join(f'{radius / density:.0f}' for radius in radii)} px")
    if style.border is not None:
        said.append(f"border {style.border.color}")
    if style.shadows:
        said.append("plain shadow")
    if style.blend != "normal":
        said.append(f"blended with {style.blend}")
    return ", ".join(said)
