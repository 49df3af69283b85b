"""The text of a cutlist and a change -> the text with nothing but that change in it.

Edits are made in the text, line by line, by the places of statements; a TOML library only says
where a value ends. The new text is checked whole, with the slice settled against the mockup, before
it is written.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any, TypeAlias

import tomlkit
from tomlkit.items import Item

from riffler.plain import spelled
from riffler.project.written import Statement, lines_of, statements

Value: TypeAlias = str | int | float | bool | Sequence["Value"] | Mapping[str, "Value"]
Path: TypeAlias = tuple[str, ...]

#: Tables in the order in which a person looks for them.
ORDER = ("page", "guides", "grid", "defaults", "group", "slice", "says", "accept")

#: A sign that is not shown, as TOML 1.0 escapes it.
ESCAPE = "\\u{:04X}"

#: The column from which a list is written over several lines.
WIDE = 96


def value_text(value: Value) -> str:
    """A value as a person writes it: `{ count = 3, x = 600 }`, `["a", "b"]`; lines as lines."""
    if isinstance(value, bool):
        return "true" if value else "false"
    if isinstance(value, str) and "\n" in value:
        lines = (tomlkit.string(line).as_string()[1:-1] for line in value.split("\n"))
        return '"""\n' + "\n".join(spelled(line, ESCAPE) for line in lines) + '"""'
    if isinstance(value, str):
        return _text(value)
    if isinstance(value, float) and value == int(value):
        return str(int(value))
    if isinstance(value, int | float):
        return str(value)
    return " ".join(_pieces(value))


def _text(value: str) -> str:
    """A text on one line."""
    return spelled(tomlkit.string(value).as_string(), ESCAPE)


def key_text(key: str) -> str:
    """A key, in quotes where it needs them."""
    return spelled(tomlkit.key(key).as_string(), ESCAPE) if key else '""'


def table_text(path: Path, keys: Mapping[str, Value]) -> str:
    """A whole table, its equals signs below one another."""
    return f"[{'.'.join(map(key_text, path))}]\n{keys_text(keys)}"


def keys_text(keys: Mapping[str, Value]) -> str:
    """Keys and values line by line, the equals signs below one another."""
    width = max((len(key_text(key)) for key in keys), default=0)
    return "".join(_line(key_text(key).ljust(width), value) for key, value in keys.items())


def _line(key: str, value: Value) -> str:
    line = f"{key} = {value_text(value)}"
    first, *others = _pieces(value)
    if len(line) <= WIDE or not others:
        return line + "\n"
    rows = [f"{key} = {first}"]
    indent = " " * (rows[0].index("[", len(key)) + 1)
    for text in others:
        if len(rows[-1]) + len(text) >= WIDE:
            rows.append(indent + text)
        else:
            rows[-1] += f" {text}"
    return "\n".join(rows) + "\n"


def _pieces(value: Value) -> list[str]:
    """A value's text, apart where TOML allows a new line: between what stands in a list."""
    if isinstance(value, Mapping):
        result = ["{"]
        for number, (key, inner) in enumerate(value.items()):
            first, *others = [_text(inner)] if isinstance(inner, str) else _pieces(inner)
            result[-1] += f"{',' if number else ''} {key_text(key)} = {first}"
            result += others
        result[-1] += " }"
        return result
    if isinstance(value, str) or not isinstance(value, Sequence):
        return [value_text(value)]
    result = [_text(item) if isinstance(item, str) else value_text(item) for item in value] or [""]
    last = len(result) - 1
    ends = ("" if number == last else "," for number in range(last + 1))
    result = [text + end for text, end in zip(result, ends, strict=True)]
    result[0] = f"[{result[0]}"
    result[-1] += "]"
    return result


class CutlistText:
    """A cutlist's text while it is edited, line by line; its line ends stay those it has."""

    def __init__(self, text: str) -> None:
        feeds = text.count("\n")
        self._end = "\r\n" if feeds and text.count("\r\n") == feeds else "\n"
        text = text.replace(self._end, "\n")
        if text and not text.endswith("\n"):
            text += "\n"
        self._lines = lines_of(text)

    @property
    def text(self) -> str:
        """The text as it is now."""
        return "".join(self._lines).replace("\n", self._end)

    def has(self, path: Path) -> bool:
        """Whether a table or key is written."""
        return any(statement.path[: len(path)] == path for statement in self._statements())

    def write(self, path: Path, value: Value) -> None:
        """Write a key: its new value in its old place, or a new line at the end of its table."""
        keys = (statement for statement in self._statements() if not statement.is_table)
        statement = next(
            (statement for statement in keys if statement.path[: len(path)] == path), None
        )
        if statement is not None:
            self._replace(statement, path, value)
        elif self.is_table(path[:-1]) or len(path) == 1:
            self._add_key(path, value)
        else:
            self.add_table(path[:-1], {path[-1]: value})

    def add_table(
        self, path: Path, keys: Mapping[str, Value], comment: str = "", after: Path | None = None
    ) -> None:
        """Write a new table where a person would: after another, or after the last of its kind.

        Tables inside it (states of a slice) stand right behind it, without an empty line.
        """
        above = "".join(f"# {line}".rstrip() + "\n" for line in lines_of(comment))
        block = lines_of(above + table_text(path, keys))
        is_inside = len(path) > 2 and path[0] == "slice"
        beside = path[:2] if is_inside else after
        at = self._place_for(path) if beside is None else self._end_of(beside)
        if is_inside:
            self._lines[at:at] = block
            return
        before = ["\n"] if at and self._lines[at - 1].strip() else []
        behind = ["\n"] if at < len(self._lines) and self._lines[at].strip() else []
        self._lines[at:at] = [*before, *block, *behind]

    def append(self, block: str) -> None:
        """Write more at the end, after an empty line."""
        if self._lines and self._lines[-1].strip():
            self._lines.append("\n")
        self._lines.extend(lines_of(block))

    def remove(self, path: Path) -> None:
        """Take a key out, or a table with all inside and the comment right above it."""
        gone = self._lines_of(path)
        if not gone:
            return
        if self.is_table(path):
            gone.update(self._comments_within(min(gone), max(gone)))
            top = min(gone)
            while top and self._lines[top - 1].lstrip().startswith("#"):
                top -= 1
                gone.add(top)
            end = max(gone) + 1
            if end < len(self._lines) and not self._lines[end].strip():
                gone.add(end)
            elif top and not self._lines[top - 1].strip():
                gone.add(top - 1)
        self._lines = [line for index, line in enumerate(self._lines) if index not in gone]

    def put_aside(self, path: Path, why: str) -> None:
        """Make comments of a table with all inside, below a line that says why."""
        marked = self._lines_of(path)
        for index in marked:
            self._lines[index] = f"# {self._lines[index]}"
        if marked:
            self._lines[min(marked) : min(marked)] = [f"# {why}\n"]

    def is_table(self, path: Path) -> bool:
        """Whether a table has a head of its own."""
        return any(
            statement.is_table and statement.path == path for statement in self._statements()
        )

    def _lines_of(self, path: Path) -> set[int]:
        """The lines of a key, or of a table with all inside, counted from 0."""
        return {
            index
            for statement in self._statements()
            if statement.path[: len(path)] == path
            for index in range(statement.first - 1, statement.last)
        }

    def _comments_within(self, first: int, last: int) -> set[int]:
        return set(range(first, last + 1)) - self._lines_of(())

    def _statements(self) -> list[Statement]:
        return list(statements(self.text))

    def _replace(self, statement: Statement, path: Path, value: Value) -> None:
        old = "".join(self._lines[statement.first - 1 : statement.last])
        item: Any = tomlkit.parse(old)
        for key in _parts_in(old, path):
            item = item[key]
        assert isinstance(item, Item)
        raw = item.as_string()
        start = old.index(raw, old.index("="))
        head, tail = old[:start], old[start + len(raw) :]
        text = value_text(value)
        comment = tail.lstrip(" ")
        if comment.startswith("#"):
            spare = len(raw) + len(tail) - len(comment) - len(text)
            tail = " " * max(2, spare if "\n" not in raw else 2) + comment
        self._lines[statement.first - 1 : statement.last] = lines_of(head + text + tail)

    def _add_key(self, path: Path, value: Value) -> None:
        siblings = [
            statement
            for statement in self._statements()
            if not statement.is_table
            and len(statement.path) == len(path)
            and statement.path[:-1] == path[:-1]
        ]
        width = max((self._column(statement) for statement in siblings), default=0)
        key = key_text(path[-1])
        line = _line(key.ljust(width), value)
        if siblings:
            at = siblings[-1].last
        elif len(path) == 1:
            at = next((statement.first - 1 for statement in self._statements()), len(self._lines))
        else:
            at = next(
                statement.last
                for statement in self._statements()
                if statement.is_table and statement.path == path[:-1]
            )
        self._lines[at:at] = lines_of(line)

    def _column(self, statement: Statement) -> int:
        """Where the equals sign of a statement stands, less the space before it."""
        return max(0, self._lines[statement.first - 1].index("=") - 1)

    def _end_of(self, path: Path) -> int:
        """The line after the last statement of a table and of all tables inside it."""
        return max(
            statement.last
            for statement in self._statements()
            if statement.path[: len(path)] == path
        )

    def _place_for(self, path: Path) -> int:
        """Where a new table goes: after the last of the same kind, or of an earlier kind."""
        rank = ORDER.index(path[0]) if path[0] in ORDER else len(ORDER)
        at, statements = 0, self._statements()
        for statement in statements:
            kind = statement.path[0]
            is_inside = statement.is_table or len(statement.path) > 1
            order = ORDER.index(kind) if kind in ORDER and is_inside else -1
            if order <= rank:
                at = max(at, statement.last)
        return at


def _parts_in(text: str, path: Path) -> Path:
    """The part of a full path that a single statement's own text spells out."""
    document: Any = tomlkit.parse(text)
    for start in range(len(path)):
        inner: Any = document
        for key in path[start:]:
            inner = inner.get(key) if isinstance(inner, Mapping) else None
        if inner is not None:
            return path[start:]
    raise KeyError(path)
