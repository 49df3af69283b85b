"""Sizes and counts that a mockup claims, held against the limits before anything is read."""

from __future__ import annotations

from collections.abc import Iterable

from riffler.errors import MockupError
from riffler.geometry import Size
from riffler.mockup.model import Layer
from riffler.project.limits import Limits


def refuse_size(size: Size, limits: Limits, what: str) -> None:
    """Raises MockupError for an empty picture, or one beyond the limit on pixels."""
    if size.width < 1 or size.height < 1:
        raise MockupError(f"{what} is {size.width} x {size.height} px: nothing to draw.")
    if size.width * size.height > limits.pixels:
        raise MockupError(
            f"{what} claims {size.width} x {size.height} px, "
            f"more than the limit of {limits.pixels:,} pixels.",
            "If that is meant, raise [limits] pixels in riffler.toml.",
        )


def refuse_many(layers: Iterable[Layer], limits: Limits, what: str) -> None:
    """Raises MockupError when there are more layers than the limit."""
    count = sum(1 for layer in layers for _ in layer.walk())
    if count > limits.layers:
        raise MockupError(
            f"{what}: {count} layers are more than the limit of {limits.layers}.",
            "If that is meant, raise [limits] layers in riffler.toml.",
        )
