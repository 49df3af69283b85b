"""What can go wrong for a person: a sentence that says what and where, one that says what to do.

    RifflerError          wrong use or wrong input; exit code 2
    ├ MockupError         a mockup can't be read, or asks for more than the limits allow
    ├ AddressError        an address means no layer
    ├ WrittenError        a mistake in a file that a person wrote; knows its line
    ├ SettingError        a setting of a slice does not go; gets its line where the cutlist is known
    └ OutputError         something can't be written, or must not be overwritten

Anything else that is raised is a mistake of Riffler's own; exit code 3.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from pathlib import Path


@dataclass(frozen=True)
class Place:
    """A line of a file that somebody wrote, and the key in it that is meant."""

    path: Path
    line: int | None = None
    key: str = ""
    text: str = ""


class RifflerError(Exception):
    """Wrong use or wrong input. The command line shows it and ends with exit code 2."""

    def __init__(self, message: str, advice: str = "", place: Place | None = None) -> None:
        super().__init__(message)
        self.message = message
        self.advice = advice
        self.place = place


class MockupError(RifflerError):
    """A mockup that cannot be read, or asks for more than the limits allow."""


class AddressError(RifflerError):
    """A layer address that matches nothing."""


class WrittenError(RifflerError):
    """A mistake in a file that a person wrote: riffler.toml, a cutlist, a template."""


class SettingError(RifflerError):
    """A setting of a slice that does not go; whoever knows the cutlist adds the place."""

    def __init__(self, setting: str, message: str, advice: str = "") -> None:
        super().__init__(message, advice)
        self.setting = setting

    def __reduce__(self) -> tuple[object, ...]:
        return (SettingError, (self.setting, self.message, self.advice))


class OutputError(RifflerError):
    """Something that cannot be written, or must not be overwritten."""


#: Who says words to the person listens to this logger.
LOGGER = "riffler"


def tell(words: str) -> None:
    """Say something that a person should know and that ends nothing: it goes on all the same."""
    import logging  # nearly no run has anything to tell

    logging.getLogger(LOGGER).warning("%s", words)


#: From this likeness on (0..1) a word is a slip for another: `hovr`, `focused`.
LIKE = 0.75

#: From this likeness on (0..1) one suggestion is enough.
SURE = 0.85


def slip_of(word: str, known: Iterable[str]) -> str | None:
    """The known word that was most likely meant by one that is not known; None where none is."""
    import difflib

    return next(iter(difflib.get_close_matches(word, list(known), 1, LIKE)), None)


def nearest(word: str, known: Iterable[str], what: str = "") -> str:
    """Advice that names the known words most like `word`; all of them when they are few."""
    import difflib  # only mistakes need it

    words = list(dict.fromkeys(known))
    close = difflib.get_close_matches(word, words, n=3, cutoff=0.6)
    if close and difflib.SequenceMatcher(a=word, b=close[0]).ratio() >= SURE:
        close = close[:1]
    if close:
        return f"Did you mean {listed(close, 'or')}?"
    if what and 0 < len(words) <= 12:
        return f"{what} {listed(words, 'and')}."
    return ""


def listed(words: list[str], joined_by: str) -> str:
    """Words in quotes, the last joined by "and" or "or"."""
    return enumerated([f'"{word}"' for word in words], joined_by)


def enumerated(words: Sequence[str], joined_by: str = "and") -> str:
    """One thing after another as a sentence has them.

    >>> enumerated(["a script", "a page inside", "a link"])
    'a script, a page inside and a link'
    """
    *before, last = words
    return f"{', '.join(before)} {joined_by} {last}" if before else last
