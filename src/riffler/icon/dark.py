"""An SVG icon -> the same with colours of its own where the scheme is dark. CSS Media Queries 5."""

from __future__ import annotations

from collections.abc import Mapping

import numpy as np
from lxml import etree

from riffler.color import contrast
from riffler.hexcolor import parse_hex
from riffler.icon.judged import BARS, ENOUGH
from riffler.mockup.svg.document import NAMESPACE
from riffler.project.icon_settings import Favicon
from riffler.tidy.colors import shortest
from riffler.tidy.drawing import Drawing
from riffler.tidy.writing import text_of
from riffler.vector.for_page import painted

#: How much lighter a colour is made in a step, in parts of the way to white.
STEP = 0.06


def with_dark(text: str, how: Favicon, stands_out: float) -> str:
    """The icon with a style sheet for dark schemes, where one is said or needed.

    `stands_out` is the part of it that a dark bar leaves visible. `[favicon] dark` says which
    colours become which; else those too faint on a dark bar are made lighter, when without them
    less than half of the icon is left.
    """
    root = etree.fromstring(text.encode())
    colors = list(dict.fromkeys(color for _, _, color in painted(root)))
    if how.dark == "auto":
        changed = _lightened(colors) if stands_out < 0.5 else {}
    elif how.dark == "same":
        changed = {}
    else:
        changed = {shortest(old): shortest(new) for old, new in how.dark.items()}
    rules = "".join(_rules(root, changed))
    if not rules:
        return text
    style = etree.Element(f"{{{NAMESPACE}}}style")
    style.text = f"@media(prefers-color-scheme:dark){{{rules}}}"
    root.insert(0, style)
    return text_of(Drawing(root))


def _rules(root: etree._Element, changed: Mapping[str, str]) -> list[str]:
    """A rule for each colour that changes, wherever it paints."""
    result = dict.fromkeys(
        (key, str(element.get(key)), color) for element, key, color in painted(root)
    )
    return [
        f'[{key}="{text}"]{{{key}:{changed[color]}}}'
        for key, text, color in result
        if color in changed and text != "None"
    ]


def _lightened(colors: list[str]) -> dict[str, str]:
    """Colours too faint on a dark bar, each as far on its way to white as it takes."""
    result = {}
    for color in colors:
        rgb = _rgb(color)
        if rgb is None or _contrast(rgb) >= ENOUGH:
            continue
        share = 0.0
        while _contrast(light := _toward_white(rgb, share)) < ENOUGH and share < 1:
            share += STEP
        result[color] = shortest(f"rgb({', '.join(str(round(255 * part)) for part in light)})")
    return result


def _toward_white(rgb: tuple[float, ...], share: float) -> tuple[float, ...]:
    return tuple(part + share * (1 - part) for part in rgb)


def _rgb(color: str) -> tuple[float, ...] | None:
    """A colour as three numbers, 0..1; None for what is none."""
    if (result := parse_hex(color)) is not None:
        return result
    import tinycss2.color3

    parsed = tinycss2.color3.parse_color(color)
    return tuple(parsed[:3]) if isinstance(parsed, tuple) else None


def _contrast(rgb: tuple[float, ...]) -> float:
    """With a dark bar."""
    return float(contrast(np.array(rgb, np.float32), np.array(BARS["dark"], np.float32)))
