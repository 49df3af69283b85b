"""A page at several widths -> what goes wrong there, for which no mockup is needed."""

from __future__ import annotations

from collections.abc import Container, Sequence
from dataclasses import dataclass

from riffler.fit.browser import name_of, opened
from riffler.fit.chromium import Chromium
from riffler.fit.seen import selector_of


@dataclass(frozen=True)
class Trouble:
    """What goes wrong on a page at a width: of which kind, where, and by how many CSS pixels."""

    page: str
    width: int
    kind: str
    selector: str
    by: float

    @property
    def key(self) -> str:
        """What it is accepted by."""
        return f"{self.page}: {self.selector}: {self.kind}"


def troubles(
    chromium: Chromium, address: str, widths: Sequence[int], accept: Container[str] = ()
) -> list[Trouble]:
    """Look at a page at each width; what is accepted, by key, is left out.

    Raises RifflerError where it does not open.
    """
    found_troubles, name = [], name_of(address)
    for width in widths:
        with opened(chromium, address, width, 1.0) as window:
            nodes = window.nodes()
            for trouble in window.troubles():
                selector = (
                    selector_of(nodes, trouble["element"]) if trouble["element"] >= 0 else "body"
                )
                found_troubles.append(
                    Trouble(name, width, trouble["kind"], selector, trouble["by"])
                )
    return [trouble for trouble in found_troubles if trouble.key not in accept]
