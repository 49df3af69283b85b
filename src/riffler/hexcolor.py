"""Colours as people write them <-> numbers, without loading what pixels need."""

from __future__ import annotations


def parse_hex(text: str) -> tuple[float, float, float] | None:
    """`#rgb` or `#rrggbb` as three numbers in 0..1; None for anything else."""
    digits = text.removeprefix("#")
    if not text.startswith("#") or len(digits) not in (3, 6):
        return None
    if len(digits) == 3:
        digits = "".join(digit * 2 for digit in digits)
    try:
        red, green, blue = bytes.fromhex(digits)
    except ValueError:
        return None
    return red / 255, green / 255, blue / 255


def hex_text(red: int, green: int, blue: int, alpha: int = 255) -> str:
    """Whole numbers 0..255 as `#rrggbb`, with two more digits unless it is opaque."""
    text = f"#{red:02x}{green:02x}{blue:02x}"
    return text if alpha == 255 else f"{text}{alpha:02x}"
