"""The program: every command by name, and what becomes of errors.

What the system refuses is the person's to know: an `OSError` that nobody explained ends in one
sentence with the file's name and exit code 2; a folder that can't be read is never taken for an
empty one.

A command is read when it runs: what the others take costs a fifth of a start.
"""

from __future__ import annotations

import errno
import logging
import os
import sys
from pathlib import Path
from typing import Annotated, Any

import typer
from typer.core import TyperGroup

from riffler import __version__
from riffler.cli import (
    build,
    changes,
    check,
    cut,
    demo,
    draft,
    favicon,
    fit,
    fonts,
    inlay,
    loader,
    look,
    mark,
    measure,
    preview,
    rough,
    sheet,
    sprite,
    start,
    survey,
    tokens,
    vector,
    weigh,
)
from riffler.cli.command import OURS, WRONG
from riffler.errors import LOGGER, RifflerError


class Program(TyperGroup):
    """Runs a command and turns what it raises into a message and an exit code.

    Reading what a command takes is what loading the program costs: only the one that runs is read.
    """

    def list_commands(self, ctx: Any) -> list[str]:  # noqa: ANN401, ARG002 - Typer's own signature
        """The commands in the order of the work."""
        return list(COMMANDS)

    def get_command(self, ctx: Any, cmd_name: str) -> Any:  # noqa: ANN401 - Typer's own signature
        """The command of that name; None for no name of one, for which all are told apart."""
        for name in [cmd_name] if cmd_name in COMMANDS else COMMANDS:
            self.commands[name] = COMMANDS[name].with_options
        return super().get_command(ctx, cmd_name)

    def invoke(self, ctx: Any) -> Any:  # noqa: ANN401 - Typer's own signature
        """Run the command. Raises Exit with the code of what went wrong."""
        _listen()
        try:
            done = super().invoke(ctx)
            sys.stdout.flush()
            return done
        except RifflerError as error:
            from riffler.report.mistakes import show

            show(error)
            raise typer.Exit(WRONG) from error
        except (typer.Exit, typer.Abort, BrokenPipeError):
            raise
        except Exception as error:
            if type(error).__module__.startswith("typer"):
                raise  # wrong use of the command line, which Typer explains itself
            if isinstance(error, OSError) and error.errno == errno.ENOSPC:
                raise  # of standard output; what we write to files says so itself
            if isinstance(error, OSError) and error.filename is not None:
                _system_refuses(error)
                raise typer.Exit(WRONG) from error
            _own_mistake(error)
            raise typer.Exit(OURS) from error


def _listen() -> None:
    """Show what the core tells while it works."""
    logger = logging.getLogger(LOGGER)
    logger.handlers, logger.propagate = [_Told()], False


class _Told(logging.Handler):
    """Shows words, each once; what shows them is loaded when there is one."""

    def __init__(self) -> None:
        super().__init__()
        self._shown: set[str] = set()

    def emit(self, record: logging.LogRecord) -> None:
        """As `logging` calls it."""
        from riffler.report.mistakes import show_word

        words = record.getMessage()
        if words not in self._shown:
            self._shown.add(words)
            show_word(words)


def _system_refuses(error: OSError) -> None:
    """Show what the system does not allow; whoever knew better what it is for said so already."""
    from riffler.files import as_typed
    from riffler.report.mistakes import show

    place = as_typed(Path(os.fsdecode(error.filename)))
    show(RifflerError(f"{place} can't be used: {error.strerror or error}."))


def _own_mistake(error: Exception) -> None:
    if {"-v", "--verbose"} & set(sys.argv):
        import traceback

        traceback.print_exc()
        return
    from riffler.report.mistakes import show_internal

    show_internal(error)


def _version(wanted: bool) -> None:
    if wanted:
        typer.echo(f"riffler {__version__}")
        raise typer.Exit


app = typer.Typer(
    cls=Program,
    no_args_is_help=True,
    rich_markup_mode=None,
    pretty_exceptions_enable=False,
    context_settings={"help_option_names": ["-h", "--help"], "max_content_width": 100},
)


@app.callback()
def riffler(
    version: Annotated[
        bool,
        typer.Option("--version", callback=_version, is_eager=True, help="Print the version."),
    ] = False,
) -> None:
    """From layered mockups to image files, measurements and hand-coded pages.

    Inside a project no argument is needed for the usual thing. To see the whole job done:
    riffler demo
    """
    del version


#: By name, in the order of the work.
COMMANDS = {
    module.COMMAND.name: module.COMMAND
    for module in (
        start,
        look,
        measure,
        tokens,
        fonts,
        draft,
        mark,
        survey,
        weigh,
        cut,
        favicon,
        vector,
        sprite,
        loader,
        inlay,
        rough,
        build,
        check,
        fit,
        changes,
        preview,
        sheet,
        demo,
    )
}
