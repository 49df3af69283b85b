"""Numbers -> numbers and lengths as CSS writes them: no more digits than are wanted, no `-0`."""

from __future__ import annotations


def decimal(value: float, decimals: int = 3) -> str:
    """A number with so many decimals at the most.

    >>> decimal(1.50049), decimal(-0.0001), decimal(24)
    ('1.5', '0', '24')
    """
    text = f"{value:.{decimals}f}"
    text = text.rstrip("0").rstrip(".") if decimals else text
    return "0" if text == "-0" else text


def px(value: float, decimals: int = 3) -> str:
    """A length in CSS pixels: `1.5px`."""
    return f"{decimal(value, decimals)}px"
