"""Which layers show in a slice: the mockup's own visibility, then `only`, `show` and `hide`.

Which layers show is a set of addresses. A layer paints when it and every group around it are in the
set; `only` therefore keeps the opacity, clip and mask of the groups around a layer.
"""

from __future__ import annotations

from collections.abc import Sequence

from riffler.errors import RifflerError
from riffler.geometry import Box, union
from riffler.mockup import address
from riffler.mockup.model import Mockup
from riffler.render.renderer import Renderer


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
    for layer_address in address.find_all(mockup, [*(only or ()), *(show or ())]):
        on.add(layer_address)
        on.update(layer.address for layer in mockup.ancestors(layer_address))
        on.update(
            layer.address for layer in mockup.visible_inside(mockup.by_address[layer_address])
        )
    return frozenset(on - address.find_all(mockup, hide or ()))


def painted_by(renderer: Renderer, addresses: Sequence[str]) -> Box:
    """The box on the canvas that layers paint, shadows included.

    Raises AddressError where there are no such layers, RifflerError where they paint nothing.
    """
    found = (renderer.painted_box(item) for item in address.find_all(renderer.mockup, addresses))
    box = union(painted for painted in found if painted) & renderer.mockup.box
    if not box:
        raise RifflerError("These layers paint nothing on the canvas.")
    return box


def painting(mockup: Mockup, on: frozenset[str]) -> frozenset[str]:
    """The layers of `on` that every group around them lets through, groups included."""
    return frozenset(
        found for found in on if all(layer.address in on for layer in mockup.ancestors(found))
    )
