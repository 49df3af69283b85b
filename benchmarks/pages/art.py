"""Pictures for generated pages: icons of a few shapes, scenes, photographs of noise and light."""

from __future__ import annotations

import base64
import io
from random import Random

import numpy as np
from PIL import Image

from benchmarks.pages.things import Thing
from riffler.geometry import Rect

#: Icons on a field of 24 x 24, drawn by shapes without a name.
ICONS = {
    "bee": (
        '<ellipse cx="12" cy="14" rx="5" ry="7" fill="{ink}"/>'
        '<ellipse cx="7" cy="9" rx="5" ry="3" fill="{soft}" transform="rotate(30 7 9)"/>'
        '<ellipse cx="17" cy="9" rx="5" ry="3" fill="{soft}" transform="rotate(-30 17 9)"/>'
    ),
    "hive": (
        '<path d="M4 20V12Q4 3 12 3T20 12V20Z" fill="{ink}"/>'
        '<rect x="9" y="14" width="6" height="6" rx="3" fill="{soft}"/>'
    ),
    "jar": (
        '<rect x="5" y="8" width="14" height="14" rx="3" fill="{ink}"/>'
        '<rect x="7" y="2" width="10" height="4" rx="1" fill="{soft}"/>'
    ),
    "drop": '<path d="M12 2C16 9 19 12 19 16A7 6 0 0 1 5 16C5 12 8 9 12 2Z" fill="{ink}"/>',
    "leaf": (
        '<path d="M3 21C3 8 12 3 21 3C21 14 15 21 6 19Z" fill="{ink}"/>'
        '<path d="M3 21L15 9" stroke="{soft}" stroke-width="1.5" fill="none"/>'
    ),
    "sun": (
        '<circle cx="12" cy="12" r="5" fill="{ink}"/>'
        '<path d="M12 1V5M12 19V23M1 12H5M19 12H23M4 4L7 7M17 17L20 20M4 20L7 17M17 7L20 4"'
        ' stroke="{ink}" stroke-width="2"/>'
    ),
    "pin": (
        '<path d="M12 22C6 15 4 12 4 9A8 8 0 0 1 20 9C20 12 18 15 12 22Z" fill="{ink}"/>'
        '<circle cx="12" cy="9" r="3" fill="{soft}"/>'
    ),
    "star": (
        '<path d="M12 2L15 9L22 9.5L16.5 14L18.5 21L12 17L5.5 21L7.5 14L2 9.5L9 9Z" fill="{ink}"/>'
    ),
    "comb": '<path d="M12 2L20.5 7V17L12 22L3.5 17V7Z" fill="none" stroke="{ink}" stroke-width="3"/>',
    "arrow": '<path d="M4 12H18M12 5L19 12L12 19" stroke="{ink}" stroke-width="3" fill="none"/>',
}


def icon(name: str, kind: str, x: float, y: float, side: float, ink: str, soft: str) -> Thing:
    """One of the icons at a size."""
    body = ICONS[kind].format(ink=ink, soft=soft)
    scaled = f'<g transform="scale({side / 24:g})">{body}</g>'
    return Thing(name, "icon", Rect(x, y, side, side), role="icon", body=scaled)


def scene(name: str, rect: Rect, chance: Random) -> Thing:
    """A meadow of hills, a sun and hives: many shapes, edge to edge."""
    w, h = rect.width, rect.height
    sky = chance.choice(["#f6d9a0", "#cfe3ea", "#e8c7b0", "#dfe8c8"])
    parts = [f'<rect width="{w:g}" height="{h:g}" fill="{sky}"/>']
    x, y = chance.uniform(0.1, 0.9) * w, chance.uniform(0.15, 0.3) * h
    parts.append(f'<circle cx="{x:.1f}" cy="{y:.1f}" r="{h * 0.12:.1f}" fill="#fff3cf"/>')
    for n, color in enumerate(("#8fae6b", "#6f9655", "#4c7a45")):
        level = h * (0.5 + 0.17 * n)
        a, b = (level + chance.uniform(-0.12, 0.12) * h for _ in range(2))
        parts.append(
            f'<path d="M0 {level:.1f}C{w / 3:.1f} {a:.1f} {2 * w / 3:.1f} {b:.1f} {w:g} {level:.1f}'
            f'V{h:g}H0Z" fill="{color}"/>'
        )
    for _ in range(4):
        x, side = chance.uniform(0.05, 0.9) * w, h * chance.uniform(0.08, 0.16)
        parts.append(
            f'<rect x="{x:.1f}" y="{h - 1.6 * side:.1f}" width="{side:.1f}" height="{side:.1f}"'
            f' fill="{chance.choice(["#b5651d", "#d99a2b", "#f0e2c0"])}"/>'
        )
    return Thing(name, "picture", rect, body="".join(parts))


def photo(name: str, rect: Rect, chance: Random, clip: float = 0.0) -> Thing:
    """A photograph: light and grain, as a picture inside the drawing; `clip` rounds its corners."""
    make = np.random.default_rng(chance.randrange(1 << 30))
    high, wide = (max(2, round(side)) for side in (rect.height, rect.width))
    rough = make.uniform(0, 255, (max(2, high // 40), max(2, wide // 40), 3)).astype(np.uint8)
    large = np.asarray(
        Image.fromarray(rough).resize((wide, high), Image.Resampling.BICUBIC), np.float64
    )
    warm = np.array(chance.choice([[1.0, 0.8, 0.5], [0.7, 0.9, 0.6], [0.8, 0.7, 0.7]]))
    grain = make.normal(0, 7, (high, wide, 1))
    pixels = np.clip(large * warm * 0.8 + 30 + grain, 0, 255).astype(np.uint8)
    file = io.BytesIO()
    Image.fromarray(pixels).save(file, "PNG")
    data = base64.b64encode(file.getvalue()).decode()
    place = f'x="{rect.x:g}" y="{rect.y:g}" width="{rect.width:g}" height="{rect.height:g}"'
    link = f'preserveAspectRatio="none" href="data:image/png;base64,{data}"'
    body = f"<image {place} {link}/>"
    if clip:
        hole = f"hole-{name}-{round(rect.x)}-{round(rect.y)}"
        cut = f'<defs><clipPath id="{hole}"><rect {place} rx="{clip:g}"/></clipPath></defs>'
        body = f'{cut}<image {place} {link} clip-path="url(#{hole})"/>'
    return Thing(name, "picture", rect, body=body, is_placed=True)


def weave(name: str, rect: Rect, step: int, colors: tuple[str, str]) -> Thing:
    """A ground of crossing threads."""
    half = step / 2
    body = (
        f'<rect width="{step}" height="{step}" fill="{colors[0]}"/>'
        f'<rect width="{half:g}" height="{half:g}" fill="{colors[1]}"/>'
        f'<rect x="{half:g}" y="{half:g}" width="{half:g}" height="{half:g}" fill="{colors[1]}"/>'
        f'<circle cx="{half / 2:g}" cy="{half * 1.5:g}" r="{step / 8:g}" fill="{colors[1]}"/>'
    )
    return Thing(name, "tile", rect, role="tile", body=body, tile=(step, step, "repeat"))


def strip(name: str, rect: Rect, step: int, colors: tuple[str, str]) -> Thing:
    """An edging that repeats along one axis."""
    across = rect.width > rect.height
    w, h = (step, rect.height) if across else (rect.width, step)
    body = (
        f'<rect width="{w:g}" height="{h:g}" fill="{colors[0]}"/>'
        f'<path d="M0 {h:g}L{w / 2:g} 0L{w:g} {h:g}Z" fill="{colors[1]}"/>'
    )
    size = (int(w), int(h), "repeat-x" if across else "repeat-y")
    return Thing(name, "tile", rect, role="tile", body=body, tile=size)
