"""What the shell offers when a name is begun: slices, layers, cutlists and the like.

Nothing is drawn for it, and whatever is wrong with the project is left for the command to say.
"""

from __future__ import annotations

import os
import re
from collections.abc import Callable, Iterable, Iterator
from typing import TYPE_CHECKING, TypeAlias, get_args

import typer

from riffler.errors import RifflerError

if TYPE_CHECKING:
    from riffler.cutlist.file import CutlistFile

Offer: TypeAlias = Callable[[typer.Context, str], list[str]]

#: What a word of the shell may hold without a sign before it.
_UNSAFE = re.compile(r"([^\w@%+=:,./-])")


def _offer(find: Callable[[typer.Context], Iterable[str]]) -> Offer:
    """A function as Typer asks for: of the names found those that begin like the word."""

    def offer(ctx: typer.Context, incomplete: str) -> list[str]:
        try:
            names = sorted(name for name in set(find(ctx)) if name.startswith(incomplete))
        except (RifflerError, OSError):
            return []
        if "bash" in os.environ.get("_RIFFLER_COMPLETE", ""):
            return [_UNSAFE.sub(r"\\\1", name) for name in names]
        return names

    return offer


def _files(ctx: typer.Context) -> list[CutlistFile]:
    """The cutlists that may be meant."""
    from riffler.plan.uses import cutlists_of
    from riffler.project.project import Project

    value = ctx.params.get("cutlist")
    return cutlists_of(Project.here(), value if isinstance(value, str) else None)


@_offer
def slices(ctx: typer.Context) -> Iterator[str]:
    """Slices as they are cut."""
    return (entry.name for file in _files(ctx) for entry in file.entries)


@_offer
def names(ctx: typer.Context) -> Iterator[str]:
    """Slices, guides, grids and groups as they are written."""
    for part in (part for file in _files(ctx) for part in file.parts):
        said_part = part.said
        for table in (
            said_part.slice,
            said_part.guides.x,
            said_part.guides.y,
            said_part.grid,
            said_part.group,
        ):
            yield from table


@_offer
def groups(ctx: typer.Context) -> Iterator[str]:
    """Groups whose settings slices share."""
    return (name for file in _files(ctx) for part in file.parts for name in part.said.group)


@_offer
def layers(ctx: typer.Context) -> Iterator[str]:
    """Layers of the mockup that is named, or of all that have cutlists."""
    from pathlib import Path

    from riffler.project.places import located
    from riffler.workspace import Workspace

    value = ctx.params.get("names") or ctx.params.get("mockup")
    if value:
        path = located(Path(value[0] if isinstance(value, list | tuple) else value))
        opened = [Workspace.around(path).open(path, None)]
        return (layer.address for one_opened in opened for layer in one_opened.mockup.walk())
    return _layers(ctx)


def _layers(ctx: typer.Context) -> Iterator[str]:
    """Layers of all mockups that have cutlists."""
    from riffler.workspace import Workspace

    workspace = Workspace.here()
    for file in _files(ctx):
        opened = workspace.open(file.mockup_path, file.cutlist.canvas, file)
        yield from (layer.address for layer in opened.mockup.walk())


@_offer
def things(ctx: typer.Context) -> Iterator[str]:
    """What can be measured: slices, guides, layers, the canvas."""
    for file in _files(ctx):
        yield from (entry.name for entry in file.entries)
        for part in file.parts:
            yield from (*part.said.guides.x, *part.said.guides.y)
    yield from _layers(ctx)
    yield "canvas"


@_offer
def cutlists(_: typer.Context) -> Iterator[str]:
    """Cutlists by name."""
    from riffler.project.project import Project

    return (path.stem for path in Project.here().cutlists())


@_offer
def roles(_: typer.Context) -> Iterable[str]:
    """What may become of a slice."""
    from riffler.cutlist.model import Role

    return get_args(Role)


@_offer
def states(_: typer.Context) -> Iterable[str]:
    """States that style sheets know."""
    from riffler.site.stylesheet import SELECTORS

    return SELECTORS


@_offer
def pages(_: typer.Context) -> Iterable[str]:
    """Pages that a link may lead to."""
    from riffler.project.project import Project

    return Project.here().pages()


def formats(ctx: typer.Context, incomplete: str) -> list[str]:
    """Formats, one after another with commas between."""
    from riffler.formats import AUTO, FORMATS, VECTOR

    done, comma, _ = incomplete.rpartition(",")
    return _offer(lambda _: (f"{done}{comma}{name}" for name in (*FORMATS, VECTOR, AUTO)))(
        ctx, incomplete
    )


@_offer
def findings(_: typer.Context) -> Iterable[str]:
    """Kinds of findings, to be silenced with a reason."""
    from riffler.plan.checks import KINDS

    return (f"{kind}=" for kind in KINDS)
