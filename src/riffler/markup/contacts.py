"""A text that is a telephone number or an e-mail address -> where it leads. RFC 3966, RFC 6068."""

from __future__ import annotations

import re

#: A number of a telephone as people write it, and the fewest figures of one that says no country.
_NUMBER = re.compile(r"\+?[0-9(][0-9 ()/.\u2013-]+[0-9]")
FEWEST, MOST = 9, 15

_MAIL = re.compile(r"[\w.+-]+@[\w-]+(\.[\w-]+)*\.[a-z]{2,}", re.IGNORECASE)


def contact_of(text: str) -> str | None:
    """The address that a text is by itself; None where it is none, or a number of another kind."""
    text = text.strip()
    if _MAIL.fullmatch(text):
        return f"mailto:{text}"
    figures = "".join(filter(str.isdigit, text))
    if not _NUMBER.fullmatch(text) or not text.startswith(("+", "0", "(0")):
        return None
    fewest = FEWEST - 2 if text.startswith("+") else FEWEST
    is_number = fewest <= len(figures) <= MOST
    return f"tel:{'+' if text.startswith('+') else ''}{figures}" if is_number else None
