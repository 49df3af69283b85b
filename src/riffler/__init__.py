"""From layered mockups to image files, measurements and hand-coded pages.

What the commands do, for programs: each function takes paths and plain values, and returns frozen
dataclasses. What goes wrong for a person is a `RifflerError`. In a copy of the example:

>>> import riffler
>>> opened = riffler.open("mockups/home.ora")
>>> opened.mockup.size, opened.density
(Size(width=1920, height=2640), 2.0)
>>> [layer.address for layer in riffler.look("mockups/home.ora").layers][:2]
['titles', 'footer']
>>> picture = riffler.draw(opened, only=["tools/smoker"])
>>> picture.shape, str(picture.dtype)
((538, 598, 4), 'uint8')
>>> riffler.open("mockups/gone.ora")
Traceback (most recent call last):
riffler.errors.MockupError: mockups/gone.ora: there is no such file.
"""

from __future__ import annotations

TYPE_CHECKING = False  # the name that type checkers know, without loading `typing`
if TYPE_CHECKING:
    from riffler.face import (
        Box,
        RifflerError,
        Size,
        cut,
        draft,
        draw,
        look,
        numbers,
        open,  # noqa: A004
        survey,
    )

__version__ = "0.1.0"

__all__ = [
    "Box",
    "RifflerError",
    "Size",
    "cut",
    "draft",
    "draw",
    "look",
    "numbers",
    "open",
    "survey",
]


def __getattr__(name: str) -> object:
    """A name of the face; what it needs is loaded when it is asked for."""
    if name not in __all__:
        raise AttributeError(f"module 'riffler' has no attribute {name!r}")
    from riffler import face

    return getattr(face, name)


def __dir__() -> list[str]:
    return sorted((*globals(), *__all__))
