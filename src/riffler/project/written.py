"""TOML that people write -> checked models, with every mistake traced to its line."""

from __future__ import annotations

import re
import tomllib
import types
import typing
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field
from functools import cached_property
from pathlib import Path
from typing import Any, TypeVar

from pydantic import BaseModel, ValidationError
from pydantic_core import ErrorDetails

from riffler.errors import AddressError, Place, RifflerError, WrittenError, nearest
from riffler.files import BOM, as_typed, read_whole

Model = TypeVar("Model", bound=BaseModel)
Keys = Sequence[str | int]

#: A file that people write is a page or two; more than this is not one.
LARGEST = 4_000_000

#: Tables and lists within one another; what may be written needs six.
DEEPEST = 50

_PLAINER = {
    "missing": "is missing",
    "string_type": "should be text in quotes",
    "list_type": "should be a list in square brackets",
    "tuple_type": "should be a list in square brackets",
    "dict_type": "should be a table",
    "model_type": "should be a table",
    "bool_type": "should be true or false",
    "int_type": "should be a whole number",
    "greater_than": "should be greater than {gt}",
    "too_short": "should have {min_length} entries, not {actual_length}",
    "too_long": "should have {max_length} entries, not {actual_length}",
}


def kebab(name: str) -> str:
    """`url_prefix` in Python is `url-prefix` in TOML."""
    return name.replace("_", "-")


@dataclass(frozen=True)
class Written:
    """A TOML file: its text, what it says, and where it says it."""

    path: Path
    text: str
    data: dict[str, Any] = field(repr=False)

    @classmethod
    def read(cls, path: Path) -> Written:
        """Read and parse. Raises WrittenError with the line when it isn't TOML."""
        if not path.exists():
            raise WrittenError(f"{as_typed(path)}: the file isn't there.")
        raw = read_whole(path)
        if len(raw) > LARGEST:
            raise WrittenError(f"{as_typed(path)}: {len(raw)} bytes are too many for this file.")
        try:
            text = raw.decode("utf-8").removeprefix(BOM)
        except UnicodeDecodeError as error:
            line = raw[: error.start].count(b"\n") + 1
            raise WrittenError("This is not UTF-8 text.", place=Place(path, line)) from error
        return cls.of(path, text)

    @classmethod
    def of(cls, path: Path, text: str) -> Written:
        """Parse a text that is, or will be, in this file. Raises WrittenError as `read` does."""
        try:
            data = tomllib.loads(text)
            if _is_deeper(data, DEEPEST):
                raise RecursionError
            return cls(path, text, data)
        except RecursionError as error:
            raise WrittenError("Lists are nested too deeply.", place=Place(path)) from error
        except tomllib.TOMLDecodeError as error:
            match = re.search(r"(.*?) \(at line (\d+), column \d+\)$", str(error))
            line = int(match[2]) if match else text.rstrip().count("\n") + 1
            said_text = match[1] if match else str(error).removesuffix(" (at end of document)")
            raise WrittenError(
                f"This is not TOML: {said_text[0].lower()}{said_text[1:]}.",
                place=Place(path, line, text=_line(lines_of(text), line)),
            ) from error

    @cached_property
    def _rows(self) -> list[str]:
        return lines_of(self.text)

    @cached_property
    def _lines(self) -> dict[tuple[str, ...], int]:
        """The first line of every table and key."""
        lines: dict[tuple[str, ...], int] = {}
        for statement in statements(self.text):
            for length in range(1, len(statement.path) + 1):
                lines.setdefault(statement.path[:length], statement.first)
        return lines

    def place(self, keys: Keys) -> Place:
        """Where `keys` is said; the nearest table above it when it is not said at all."""
        names = tuple(key for key in keys if isinstance(key, str))
        line = next(
            (
                self._lines[names[:length]]
                for length in range(len(names), 0, -1)
                if names[:length] in self._lines
            ),
            None,
        )
        return Place(self.path, line, ".".join(names), _line(self._rows, line) if line else "")

    def mistake(self, keys: Keys, message: str, advice: str = "") -> WrittenError:
        """An error at `keys`, ready to raise."""
        return WrittenError(message, advice, self.place(keys))

    def check(self, model: type[Model]) -> Model:
        """The data as `model`. Raises WrittenError for the first mistake in the file."""
        try:
            return model.model_validate(self.data)
        except ValidationError as error:
            mistakes = [self._explained(model, details) for details in error.errors()]
            mistakes.sort(key=lambda mistake: (mistake.place and mistake.place.line) or 0)
            raise mistakes[0] from error

    def _explained(self, model: type[BaseModel], details: ErrorDetails) -> WrittenError:
        keys = details["loc"]
        while keys and _is_branch(keys[-1]):
            keys = keys[:-1]
        name = next((key for key in reversed(keys) if isinstance(key, str)), "")
        if details["type"] == "extra_forbidden":
            known_keys = _keys_at(model, keys[:-1])
            return self.mistake(
                keys, f'"{name}" is not a key here.', nearest(name, known_keys, "Known keys are")
            )
        plain = _PLAINER.get(details["type"])
        if plain is None:
            text = details["msg"].removeprefix("Value error, ").removeprefix("Input ")
            return self.mistake(keys, f"{name}: {text}.".replace("..", "."))
        return self.mistake(keys, f"{name} {plain.format(**details.get('ctx', {}))}.")


def _is_branch(key: str | int) -> bool:
    """Whether Pydantic put this in a location to name a branch of a union, not a key."""
    return isinstance(key, str) and ("[" in key or key in ("str", "int", "float", "bool"))


def _is_deeper(data: dict[str, Any], most: int) -> bool:
    """Whether tables and lists lie in one another more than so often."""
    level: list[Any] = [data]
    for _ in range(most):
        inside = (v.values() if isinstance(v, dict) else v for v in level)
        level = [v for values in inside for v in values if isinstance(v, dict | list)]
    return bool(level)


@dataclass(frozen=True)
class Mention:
    """A line of a file that people write, counted from 1, which means something."""

    file: Path
    line: int
    text: str


def lines_of(text: str) -> list[str]:
    """The lines of a file that people write, with their ends: a line feed, and no other sign.

    TOML 1.0 and HTML know no others, though Unicode does.
    """
    return re.findall(r"[^\n]*\n|[^\n]+", text)


def _line(lines: Sequence[str], number: int) -> str:
    return lines[number - 1].rstrip() if 0 < number <= len(lines) else ""


#: A text in quotes, or a comment, as a regular expression; TOML 1.0.
QUOTED = (
    r'"""(?:\\.|[^"\\]|"{1,2}(?!"))*"{3,5}'
    r"|'''(?:[^']|'{1,2}(?!'))*'{3,5}"
    r'|"(?:\\.|[^"\\\n])*"'
    r"|'[^'\n]*'"
    r"|#[^\n]*"
)

#: What matters for where a statement ends: texts, comments, brackets, line ends.
_TOKEN = re.compile(rf"{QUOTED}|[^\[\]{{}}\n#\"']+|.", re.DOTALL)


@dataclass(frozen=True)
class Statement:
    """A `[table]` or a `key = value`: first and last line, counted from 1, and its full path."""

    first: int
    last: int
    path: tuple[str, ...]
    is_table: bool


def statements(text: str) -> Iterator[Statement]:
    """Every table and key in valid TOML, in file order; a key once for each path inside it."""
    table: tuple[str, ...] = ()
    number = 1
    for said_text in _said(text):
        first, number = number, number + said_text.count("\n")
        is_table = said_text.lstrip().startswith("[")
        for path in _paths(tomllib.loads(said_text)):
            table = path if is_table else table
            last = max(first, number - 1) if said_text.endswith("\n") else number
            yield Statement(first, last, path if is_table else table + path, is_table)


def _said(text: str) -> Iterator[str]:
    """The text of each table and key, with its line's end; empty lines and comments by themselves.

    A statement goes on over a line's end while a bracket or a text of several lines is open.
    """
    begun, at, depth = 0, 0, 0
    while at < len(text):
        token = _TOKEN.match(text, at)
        assert token is not None  # one sign at least
        at = token.end()
        if token[0] in ("[", "{"):
            depth += 1
        elif token[0] in ("]", "}"):
            depth -= 1
        elif token[0] == "\n" and depth == 0:
            yield text[begun:at]
            begun = at
    if begun < at:
        yield text[begun:]


def _paths(data: object) -> Iterator[tuple[str, ...]]:
    """Every path through the tables of `data`, shortest first; lists count as their last table."""
    if isinstance(data, list) and data and isinstance(data[-1], dict):
        data = data[-1]
    if isinstance(data, dict):
        for key, value in data.items():
            inner = list(_paths(value))
            yield from ((key, *path) for path in inner) if inner else [(key,)]


def _keys_at(model: type[BaseModel], keys: Keys) -> list[str]:
    """The keys that `model` knows at a path into it."""
    here: object = model
    for key in keys:
        here = _inside(here, str(key))
    here = _models(here)
    if isinstance(here, type) and issubclass(here, BaseModel):
        return [f.alias or name for name, f in here.model_fields.items()]
    return []


def _inside(annotation: object, key: str) -> object:
    """The annotation of what stands under `key`: a table's values are all alike."""
    if typing.get_origin(annotation) is dict:
        return typing.get_args(annotation)[1]
    model = _models(annotation)
    if isinstance(model, type) and issubclass(model, BaseModel):
        return {f.alias or n: f.annotation for n, f in model.model_fields.items()}.get(key)
    return annotation


def _models(annotation: object) -> object:
    """The model inside `dict[str, M]`, `list[M]`, `M | None`; the annotation itself otherwise."""
    origin = typing.get_origin(annotation)
    if origin in (dict, list, tuple, typing.Union, types.UnionType):
        for inner in reversed(typing.get_args(annotation)):
            found = _models(inner)
            if isinstance(found, type) and issubclass(found, BaseModel):
                return found
    return annotation


class said_at:  # noqa: N801 - reads as a statement
    """Gives errors that know no place the place of a key in a file."""

    def __init__(self, written: Written, keys: Keys) -> None:
        self._written, self._keys = written, keys

    def __enter__(self) -> None:
        return None

    def __exit__(self, kind: object, error: BaseException | None, trace: object) -> None:
        if isinstance(error, AddressError | WrittenError) and error.place is None:
            assert isinstance(error, RifflerError)
            raise self._written.mistake(self._keys, error.message, error.advice) from error
