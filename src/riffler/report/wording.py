"""Names, numbers and sizes -> as people read them."""

from __future__ import annotations


def kilobytes(count: int) -> str:
    """Bytes as people read them: kB are 1000 bytes."""
    if count < 1000:
        return f"{count} B"
    return f"{count / 1000:,.1f} kB" if count < 10_000_000 else f"{count / 1_000_000:,.1f} MB"


def plural(count: int, noun: str) -> str:
    """`1 file`, `3 files`."""
    if count == 1:
        return f"1 {noun}"
    return f"{count} {noun[:-1]}ies" if noun.endswith("y") else f"{count} {noun}s"


def pixels(width: float, height: float) -> str:
    """`480 x 132`, with fractions only where there are any."""
    return f"{width:g} x {height:g}"


def short(text: str, most: int) -> str:
    """A text of so many signs at the most; dots stand for what is left out at its end."""
    return text if len(text) <= most else f"{text[: most - 1]}…"
