"""Errors -> what a person reads: where, the line itself, and what to do."""

from __future__ import annotations

from rich.console import Console
from rich.text import Text

from riffler.errors import Place, RifflerError
from riffler.files import as_typed
from riffler.plain import clean, clean_lines


def show(error: RifflerError) -> None:
    """Print an error on standard error."""
    console = Console(stderr=True, highlight=False, soft_wrap=True, markup=False, emoji=False)
    message = Text().append("riffler: ", style="bold red")
    if error.place is not None:
        message.append(f"{clean(_where(error.place))}: ", style="bold")
    message.append(clean_lines(error.message))
    console.print(message)
    if error.place is not None and error.place.text.strip():
        gutter = f"  {error.place.line} | "
        console.print(
            Text().append(gutter, style="dim").append(clean(error.place.text.expandtabs(2)))
        )
    if error.advice:
        console.print(Text(f"  {clean_lines(error.advice)}"))


def show_word(words: str) -> None:
    """Print what a person should know and that ends nothing, on standard error."""
    console = Console(stderr=True, highlight=False, soft_wrap=True, markup=False, emoji=False)
    console.print(Text().append("riffler: ", style="bold yellow").append(clean_lines(words)))


def show_internal(error: BaseException) -> None:
    """Print our own mistake in one line on standard error."""
    console = Console(stderr=True, highlight=False, soft_wrap=True, markup=False, emoji=False)
    text = clean(str(error).splitlines()[0] if str(error) else "")
    console.print(
        Text()
        .append("riffler: ", style="bold red")
        .append(
            f"a mistake of Riffler's own ({type(error).__name__}: {text}). "
            "The same command with -v shows where."
        )
    )


def _where(place: Place) -> str:
    parts = [as_typed(place.path)]
    if place.line is not None:
        parts.append(f"line {place.line}")
    if place.key:
        parts.append(place.key)
    return ", ".join(parts)
