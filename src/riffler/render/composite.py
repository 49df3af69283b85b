"""One picture laid over another. W3C Compositing and Blending Level 1, sections 5.1 and 9.1."""

from __future__ import annotations

import numpy as np

from riffler.color import Pixels
from riffler.render.blend import MODES

#: Operators that change the backdrop also where the source is empty.
CLEARING = frozenset({"destination-in", "destination-atop"})


def composite(
    backdrop: Pixels, source: Pixels, blend: str = "normal", operator: str = "source-over"
) -> None:
    """Lay `source` over `backdrop` in place; both (H, W, 4) premultiplied and of one shape."""
    if blend != "normal":
        source = mixed(backdrop, source, blend)
    alpha = source[..., 3:]
    match operator:
        case "source-over":  # co = cs + cb (1 - as)
            backdrop *= 1 - alpha
            backdrop += source
        case "plus-lighter":  # co = min(1, cs + cb)
            backdrop += source
            np.minimum(backdrop, 1, out=backdrop)
        case "destination-in":  # co = cb as
            backdrop *= alpha
        case "destination-out":  # co = cb (1 - as)
            backdrop *= 1 - alpha
        case "source-atop":  # co = cs ab + cb (1 - as)
            behind = backdrop[..., 3:].copy()
            backdrop *= 1 - alpha
            backdrop += source * behind
        case "destination-atop":  # co = cs (1 - ab) + cb as
            over = source * (1 - backdrop[..., 3:])
            backdrop *= alpha
            backdrop += over
        case _:
            raise ValueError(f"unknown operator {operator}")


def mixed(backdrop: Pixels, source: Pixels, blend: str) -> Pixels:
    """The source with its colours blended into the backdrop, ready to be composited.

    Section 5.1: Cs = (1 - ab) Cs + ab B(Cb, Cs), here multiplied by the source's alpha.
    """
    over, behind = source[..., 3:], backdrop[..., 3:]
    blended = MODES[blend](_straight(backdrop), _straight(source))
    result = source * (1 - behind)
    result[..., :3] += over * behind * blended
    result[..., 3:] = over
    return result


def _straight(pixels: Pixels) -> Pixels:
    """Colours that are not premultiplied; black where nothing is painted."""
    alpha = pixels[..., 3:]
    colors = np.zeros_like(pixels[..., :3])
    np.divide(pixels[..., :3], alpha, out=colors, where=alpha > 0)
    return np.minimum(colors, 1, out=colors)
