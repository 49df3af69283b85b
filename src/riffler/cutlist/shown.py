"""Which layers show in a slice: the mockup's own visibility, then `only`, `show` and `hide`."""

from __future__ import annotations

from collections.abc import Sequence

from riffler.mockup import address
from riffler.mockup.model import Mockup


def switched(
    mockup: Mockup,
    start: frozenset[str],
    only: Sequence[str] | None = None,
    show: Sequence[str] | None = None,
    hide: Sequence[str] | None = None,
) -> frozenset[str]:
    """The layers that are on after the three keys, in that order.

    `only` begins with nothing and switches the named layers on, with what is visible inside them
    and the groups around them; `show` adds layers in the same way to what is on; `hide` switches
    off and wins. A layer paints when it and every group around it are on. Raises AddressError.
    """
    on = set(start) if only is None else set()
    for found in address.find_all(mockup, [*(only or ()), *(show or ())]):
        on.add(found)
        on.update(layer.address for layer in mockup.ancestors(found))
        on.update(layer.address for layer in mockup.visible_inside(mockup.by_address[found]))
    return frozenset(on - address.find_all(mockup, hide or ()))


def painting(mockup: Mockup, on: frozenset[str]) -> frozenset[str]:
    """The layers of `on` that every group around them lets through, groups included."""
    return frozenset(
        found for found in on if all(layer.address in on for layer in mockup.ancestors(found))
    )
