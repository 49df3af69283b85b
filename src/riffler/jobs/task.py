"""What a task is, and the fingerprint that tells its operation from every other."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, fields, is_dataclass
from typing import Protocol, TypeVar

from riffler.color import Pixels
from riffler.digests import digest_of
from riffler.geometry import Box, Scale
from riffler.output.publish import Product
from riffler.workspace import MockupKey, Workspace

#: Goes into every fingerprint: raised when the same input is to give other bytes than before.
VERSION = 10

Result_co = TypeVar("Result_co", covariant=True)
Result = TypeVar("Result")


@dataclass(frozen=True)
class Drawing:
    """Layers of a mockup in a box, at a scale: all that there is to draw."""

    mockup: MockupKey
    box: Box
    scale: Scale
    shown: frozenset[str]

    def pixels(self, workspace: Workspace) -> Pixels:
        """As `Renderer.render` gives them."""
        return workspace.renderer(self.mockup).render(self.box, self.scale, self.shown)

    def fingerprint(self, workspace: Workspace) -> str:
        """A digest of what would be drawn; nothing is decoded for it."""
        return workspace.renderer(self.mockup).fingerprint(self.box, self.scale, self.shown)


class Operation(Protocol[Result_co]):
    """What is to be done: a frozen dataclass, all of whose fields are plain data that counts."""

    @property
    def drawing(self) -> Drawing | None:
        """What is drawn for it; None where it is of no mockup."""
        ...

    @property
    def is_long(self) -> bool:
        """Whether it takes so long that it may be done in another process."""
        ...

    def run(self, workspace: Workspace) -> Result_co:
        """Do it. Raises SettingError where a setting of the slice does not go."""
        ...


class Task(Protocol[Result]):
    """An operation, the slice that it is for, and what becomes of its result.

    `result` is the class of the result, a frozen dataclass.
    """

    @property
    def slice(self) -> str | None:
        """The slice that it makes something of; None where it is of no single one."""
        ...

    @property
    def operation(self) -> Operation[Result]:
        """What is to be done."""
        ...

    @property
    def result(self) -> type[Result]:
        """The class of the result, by which the cache reads it."""
        ...

    def products(self, result: Result, workspace: Workspace) -> Iterable[Product]:
        """What the result is to the project: files with their assets, regions of live text."""
        ...


def fingerprint(operation: Operation[object], workspace: Workspace) -> str:
    """A digest of an operation: equal ones give equal results, wherever the drawing is from."""
    kind = type(operation)
    values = (getattr(operation, field.name) for field in fields(kind))  # type: ignore[arg-type]
    texts = (_said(value, workspace) for value in values)
    return digest_of(VERSION, kind.__module__, kind.__qualname__, *texts)


def _said(value: object, workspace: Workspace) -> str:
    """A field of an operation: drawings by what would be drawn, all else as it is."""
    if isinstance(value, Drawing):
        return value.fingerprint(workspace)
    if isinstance(value, tuple):
        return f"({', '.join(_said(inner, workspace) for inner in value)})"
    if is_dataclass(value) and not isinstance(value, type):
        inner = (_said(getattr(value, field.name), workspace) for field in fields(value))
        return f"{type(value).__qualname__}({', '.join(inner)})"
    return repr(value)
