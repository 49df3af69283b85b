"""Texts in pixels that nobody could set -> settings as they are seen, or as others are set."""

from __future__ import annotations

from dataclasses import replace

from riffler.geometry import Rect
from riffler.markup.inks import ASCENT, DESCENT
from riffler.markup.setting import SetLine, Setting, Type, usual_step
from riffler.mockup.model import Layer
from riffler.reading.layer_names import humanised
from riffler.reading.reading import Reading
from riffler.tokens.palette import apart

#: Small letters, capitals and stems in font sizes; letters are as high as others within this share.
SMALL, CAPITAL, ALIKE = 0.5, 0.72, 0.1


def liken(reading: Reading, settings: dict[str, Setting]) -> None:
    """Texts of no known face are set as those known ones whose letters are as high, and as dark."""
    by_address = reading.mockup.by_address
    known = [
        (seen.height, seen.color, setting)
        for address, setting in settings.items()
        if setting.type.family and (seen := reading.lettering(by_address[address]))
    ]
    for address, setting in settings.items():
        seen = reading.lettering(by_address[address]) if not setting.type.family else None
        alike = (
            []
            if seen is None
            else [
                (apart(color, seen.color), setting)
                for height, color, setting in known
                if abs(height - seen.height) <= ALIKE * seen.height
            ]
        )
        if not alike:
            continue
        _, one_setting = min(alike, key=lambda pair: pair[0])
        size = one_setting.type.size
        ink = reading.box(by_address[address])
        assert ink is not None
        first = ink.y / reading.density
        step = setting.step if setting.rows > 1 else one_setting.step
        settings[address] = replace(
            setting,
            type=replace(one_setting.type, color=seen.color if seen else one_setting.type.color),
            baseline=first + CAPITAL * size,
            step=step,
            ascent=one_setting.ascent,
            descent=one_setting.descent,
        )


def unread(
    reading: Reading, texts: tuple[str, ...], layer: Layer, ink: Rect | None
) -> Setting | None:
    """A text in pixels of which no face is known: its lines as high and far as they are seen."""
    text = reading.lettering(layer)
    if ink is None:
        return None
    density = reading.density
    seen = len(text.lines) if text else 1
    height = text.height / density if text else ink.height * 0.6
    size = float(max(8, round(height / SMALL)))
    lines = texts or (humanised(layer.name) or "Words",)
    step = text.line_step / density if text and text.line_step else usual_step(size)
    type_ = Type("", "sans-serif", size, 400, False, 0.0, text.color if text else "#000000")
    first = ink.y + (ink.height - step * (seen - 1)) if seen > 1 else ink.bottom
    baseline = first - (0.2 * size if ink.height / seen > 0.9 * size else 0)
    return Setting(
        tuple(SetLine(line, ink.x, ink.width) for line in lines),
        type_,
        "left",
        baseline,
        step,
        seen > 1,
        round(ASCENT * size),
        round(DESCENT * size),
        is_said=bool(texts),
        seen_lines=0 if texts else seen,
    )
