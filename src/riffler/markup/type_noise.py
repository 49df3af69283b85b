"""Texts that are set nearly alike -> set alike: what was measured in pixels has noise.

A size half a pixel off, a colour one level off, a trace of letter spacing: the way in which most of
such texts are set explains the others, on all pages of a site.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence
from dataclasses import replace

from riffler.markup.area import Area
from riffler.markup.setting import Setting, Type
from riffler.tokens.palette import apart

#: How far sizes may be off, as a share; letter spacing, in CSS pixels; and colours, in Oklab.
SIZE, SPACING, COLOR = 0.04, 0.35, 0.012


def likened(pages: Sequence[tuple[Area, bool]]) -> list[Area]:
    """Pages whose texts are set in as few ways as explain all of them.

    Each is told with whether it says exactly how its texts are set: such a page stays as it is, and
    explains the others.
    """
    exact = {setting.type for page, is_exact in pages if is_exact for setting in page.words()}
    settings = [setting for page, _ in pages for setting in page.words() if setting.type.family]
    counts = Counter(setting.type for setting in settings)
    ranked = sorted(
        counts, key=lambda type_: (type_ not in exact, -counts[type_], type_.size % 1, str(type_))
    )
    samples = {setting.type: setting for setting in reversed(settings)}
    usual: dict[Type, Setting] = {}
    for type_ in ranked:
        known = (other for other in usual.values() if _is_near(type_, other.type))
        usual[type_] = next(known, samples[type_])
    return [page if is_exact else _set(page, usual) for page, is_exact in pages]


def _is_near(first: Type, second: Type) -> bool:
    """Whether two are one but for noise."""
    if (first.family, first.weight, first.is_italic) != (
        second.family,
        second.weight,
        second.is_italic,
    ):
        return False
    if abs(first.size - second.size) > SIZE * second.size:
        return False
    return (
        abs(first.spacing - second.spacing) <= SPACING and apart(first.color, second.color) <= COLOR
    )


def _set(area: Area, usual: dict[Type, Setting]) -> Area:
    setting = area.setting
    if setting is not None and (other := usual.get(setting.type)) and other.type != setting.type:
        step = setting.step if setting.is_step_known else other.step
        setting = replace(
            setting, type=other.type, step=step, ascent=other.ascent, descent=other.descent
        )
    return replace(area, setting=setting, parts=tuple(_set(part, usual) for part in area.parts))
