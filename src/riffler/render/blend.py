"""Blend modes: backdrop and source colours -> mixed colours. W3C Compositing and Blending 1.

Every function takes `backdrop` and `source` as (..., 3) float arrays of colours that are not
premultiplied, 0..1, and returns B(backdrop, source) of section 10 in the same shape.
"""

from __future__ import annotations

from collections.abc import Callable
from typing import TypeAlias

import numpy as np
import numpy.typing as npt

Colors: TypeAlias = npt.NDArray[np.float32]
"""(..., 3) float32: straight red, green, blue, 0..1."""

Blend: TypeAlias = Callable[[Colors, Colors], Colors]


# 10.1 Separable blend modes


def _multiply(backdrop: Colors, source: Colors) -> Colors:
    return backdrop * source


def _screen(backdrop: Colors, source: Colors) -> Colors:
    return backdrop + source - backdrop * source


def _overlay(backdrop: Colors, source: Colors) -> Colors:
    return _hard_light(source, backdrop)


def _darken(backdrop: Colors, source: Colors) -> Colors:
    return np.minimum(backdrop, source)


def _lighten(backdrop: Colors, source: Colors) -> Colors:
    return np.maximum(backdrop, source)


def _color_dodge(backdrop: Colors, source: Colors) -> Colors:
    room = 1 - source
    divided = np.divide(backdrop, room, out=np.ones_like(backdrop), where=room > 0)
    return np.where(backdrop <= 0, 0, np.minimum(1, divided))


def _color_burn(backdrop: Colors, source: Colors) -> Colors:
    divided = np.divide(1 - backdrop, source, out=np.ones_like(backdrop), where=source > 0)
    return np.where(backdrop >= 1, 1, 1 - np.minimum(1, divided))


def _hard_light(backdrop: Colors, source: Colors) -> Colors:
    return np.where(
        source <= 0.5, _multiply(backdrop, 2 * source), _screen(backdrop, 2 * source - 1)
    )


def _soft_light(backdrop: Colors, source: Colors) -> Colors:
    dark = ((16 * backdrop - 12) * backdrop + 4) * backdrop
    curve = np.where(backdrop <= 0.25, dark, np.sqrt(np.maximum(backdrop, 0)))
    return np.where(
        source <= 0.5,
        backdrop - (1 - 2 * source) * backdrop * (1 - backdrop),
        backdrop + (2 * source - 1) * (curve - backdrop),
    )


def _difference(backdrop: Colors, source: Colors) -> Colors:
    distance: Colors = np.abs(backdrop - source)
    return distance


def _exclusion(backdrop: Colors, source: Colors) -> Colors:
    return backdrop + source - 2 * backdrop * source


# 10.2 Non-separable blend modes

_LUMINOSITY = np.array((0.3, 0.59, 0.11), np.float32)


def _lum(color: Colors) -> Colors:
    light: Colors = (color * _LUMINOSITY).sum(axis=-1, keepdims=True)
    return light


def _sat(color: Colors) -> Colors:
    spread: Colors = color.max(axis=-1, keepdims=True) - color.min(axis=-1, keepdims=True)
    return spread


def _clip_color(color: Colors) -> Colors:
    light = _lum(color)
    low, high = color.min(axis=-1, keepdims=True), color.max(axis=-1, keepdims=True)
    color = np.where(
        low < 0, light + (color - light) * light / np.maximum(light - low, 1e-9), color
    )
    above = (color - light) * (1 - light) / np.maximum(high - light, 1e-9)
    return np.where(high > 1, light + above, color)


def _set_lum(color: Colors, light: Colors) -> Colors:
    return _clip_color(color + (light - _lum(color)))


def _set_sat(color: Colors, saturation: Colors) -> Colors:
    """Min becomes 0, max the saturation, and the middle keeps its share: linear in between."""
    spread = _sat(color)
    lifted = (color - color.min(axis=-1, keepdims=True)) * saturation
    scaled: Colors = np.divide(lifted, spread, out=np.zeros_like(color), where=spread > 0)
    return scaled


def _hue(backdrop: Colors, source: Colors) -> Colors:
    return _set_lum(_set_sat(source, _sat(backdrop)), _lum(backdrop))


def _saturation(backdrop: Colors, source: Colors) -> Colors:
    return _set_lum(_set_sat(backdrop, _sat(source)), _lum(backdrop))


def _color(backdrop: Colors, source: Colors) -> Colors:
    return _set_lum(source, _lum(backdrop))


def _luminosity(backdrop: Colors, source: Colors) -> Colors:
    return _set_lum(backdrop, _lum(source))


#: Every mode but `normal`, by its CSS name.
MODES: dict[str, Blend] = {
    "multiply": _multiply,
    "screen": _screen,
    "overlay": _overlay,
    "darken": _darken,
    "lighten": _lighten,
    "color-dodge": _color_dodge,
    "color-burn": _color_burn,
    "hard-light": _hard_light,
    "soft-light": _soft_light,
    "difference": _difference,
    "exclusion": _exclusion,
    "hue": _hue,
    "saturation": _saturation,
    "color": _color,
    "luminosity": _luminosity,
}
