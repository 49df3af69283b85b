"""Targets of links: the pages that they mean, and which of them a browser would run."""

from __future__ import annotations

import re

#: Schemes whose addresses are programs, or pages of one's own; WHATWG HTML, section 7.4.2.
_ACTIVE = re.compile(r"(?:javascript|vbscript|data):", re.IGNORECASE)

#: Signs that browsers drop before and in a scheme; WHATWG URL, section 4.4.
_DROPPED = re.compile(r"[\x00-\x20]")

#: A whole address, or one from the root of the site.
_ADDRESS = re.compile(r"[a-zA-Z][a-zA-Z0-9+.-]*:|/")


def page_of(target: str) -> str | None:
    """The name of the page that a target means; None for an address or a part of this page."""
    name = target.partition("#")[0]
    if _ADDRESS.match(target) or not name:
        return None
    return name.removesuffix(".html")


def is_code(target: str) -> bool:
    """Whether following a link to this address runs it."""
    return _ACTIVE.match(_DROPPED.sub("", target)) is not None
