"""Targets of links: which of them a browser would run."""

from __future__ import annotations

import re

#: Schemes whose addresses are programs, or pages of one's own; WHATWG HTML, section 7.4.2.
_ACTIVE = re.compile(r"(?:javascript|vbscript|data):", re.IGNORECASE)

#: Signs that browsers drop before and in a scheme; WHATWG URL, section 4.4.
_DROPPED = re.compile(r"[\x00-\x20]")


def is_code(target: str) -> bool:
    """Whether following a link to this address runs it."""
    return _ACTIVE.match(_DROPPED.sub("", target)) is not None
