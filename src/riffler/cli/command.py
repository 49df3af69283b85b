"""What a command is, and the one place of the options that commands share.

A command is a function whose first parameter is the `Screen` that it shows its result on. The
options for quiet, JSON and verbose output are added here, and the screen is made of them, so that
they mean the same everywhere. A command returns an exit code, or None for 0.
"""

from __future__ import annotations

import inspect
from collections.abc import Callable
from dataclasses import dataclass
from functools import cached_property
from pathlib import Path
from typing import Annotated, Any

import typer
from typer.core import TyperCommand

from riffler.report.screen import Screen

#: Exit codes: findings, wrong use or input, our own mistake; Ctrl-C ends with 130.
FINDINGS, WRONG, OURS = 1, 2, 3

#: Heading of the options that every command has.
COMMON = "Output"

Mockup = Annotated[Path, typer.Argument(metavar="MOCKUP", help="OpenRaster, SVG or flat picture.")]
MaybeMockup = Annotated[
    Path | None, typer.Argument(metavar="MOCKUP", help="OpenRaster, SVG or flat picture.")
]
Mockups = Annotated[
    list[Path] | None,
    typer.Argument(metavar="MOCKUP", help="Mockups; of a project all that have a cutlist."),
]
Force = Annotated[bool, typer.Option("--force", help="Write over files that were changed by hand.")]
Over = Annotated[
    bool, typer.Option("--force", help="Write over the file that is there, if it is no source.")
]
Versus = Annotated[
    Path | None,
    typer.Option("--page", metavar="FILE.html", help="Write a page to compare them on."),
]
EveryFinding = Annotated[bool, typer.Option("--all", help="List every finding, however many.")]
DryRun = Annotated[
    bool, typer.Option("--dry-run", help="Say what would be written; write nothing.")
]


def _common(name: str, help: str, *more: str) -> Any:  # noqa: A002, ANN401 - Typer's own name
    return Annotated[bool, typer.Option(f"--{name}", *more, help=help, rich_help_panel=COMMON)]


#: The shared options by the names of their parameters.
_OPTIONS = {
    "json": _common("json", "Print the result as JSON, for programs."),
    "quiet": _common("quiet", "Say only what is asked for.", "-q"),
    "verbose": _common("verbose", "Show where Riffler itself went wrong, if it does.", "-v"),
}


@dataclass(frozen=True)
class Command:
    """A command with the shared options that it has; its name is the function's."""

    run: Callable[..., int | None]
    has_json: bool = True
    has_quiet: bool = True

    @property
    def name(self) -> str:
        """As it is typed."""
        return self.run.__name__

    @cached_property
    def with_options(self) -> Any:  # noqa: ANN401 - a command as Typer makes it
        """The command with all that it takes, as a part of the program."""
        app = typer.Typer(
            add_completion=False, rich_markup_mode=None, pretty_exceptions_enable=False
        )
        app.command(self.name, cls=Grouped)(self._callback())
        return typer.main.get_command(app)

    def _callback(self) -> Callable[..., None]:
        """The function with the shared options instead of the screen, as Typer reads it."""
        own_signature = inspect.signature(self.run, eval_str=True)
        names = [
            name
            for name, has_it in (
                ("json", self.has_json),
                ("quiet", self.has_quiet),
                ("verbose", True),
            )
            if has_it
        ]
        shared = [
            inspect.Parameter(
                name, inspect.Parameter.KEYWORD_ONLY, default=False, annotation=_OPTIONS[name]
            )
            for name in names
        ]

        def callback(**values: Any) -> None:  # noqa: ANN401 - whatever the command takes
            chosen = {name: values.pop(name) for name in names}
            code = self.run(_screen(self.name, **chosen), **values)
            if code:
                raise typer.Exit(code)

        kept_parameters = [
            parameter.replace(kind=inspect.Parameter.KEYWORD_ONLY)
            for parameter in list(own_signature.parameters.values())[1:]
        ]
        parameters = [*kept_parameters, *shared]
        callback.__signature__ = own_signature.replace(parameters=parameters)  # type: ignore[attr-defined]
        callback.__annotations__ = {
            parameter.name: parameter.annotation for parameter in parameters
        }
        callback.__doc__ = self.run.__doc__
        return callback


def _screen(
    command: str, *, json: bool = False, quiet: bool = False, verbose: bool = False
) -> Screen:
    """Where a command shows its result; `verbose` is read where errors are shown."""
    del verbose
    return Screen(command, is_quiet=quiet, is_json=json)


class Grouped(TyperCommand):
    """A command whose help lists options under headings, in the order in which they are said."""

    def format_options(self, ctx: Any, formatter: Any) -> None:  # noqa: ANN401 - Typer's signature
        """Write arguments first, then the options of each group."""
        groups: dict[str, list[tuple[str, str]]] = {"Arguments": []}
        for parameter in self.get_params(ctx):
            record = parameter.get_help_record(ctx)
            if record is None:
                continue
            is_argument = parameter.param_type_name == "argument"
            named = getattr(parameter, "rich_help_panel", None)
            is_help = not is_argument and "--help" in parameter.opts
            if is_argument:
                record = (record[0].partition(" <")[0], record[1])  # its type says little to people
            heading = "Arguments" if is_argument else named or (COMMON if is_help else "Options")
            groups.setdefault(heading, []).append(record)
        common = groups.pop(COMMON, [])
        for heading, records in (*groups.items(), (COMMON, common)):
            if records:
                with formatter.section(heading):
                    formatter.write_dl(records)
