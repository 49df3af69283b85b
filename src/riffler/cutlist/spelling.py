"""TOML as a person wrote it -> every key and every text in it, with its place, to be respelled."""

from __future__ import annotations

import re
import tomllib
from collections.abc import Callable, Generator, Iterator
from dataclasses import dataclass
from typing import TypeAlias

from riffler.cutlist.editing import Path, key_text, value_text
from riffler.project.written import QUOTED

#: A text, a comment, a bare key or a part of a number, a line's end, white space, any other sign.
_TOKEN = re.compile(rf"{QUOTED}|[\w-]+|\n|[^\S\n]+|.", re.DOTALL)

#: What stands between a key and its equals sign.
_SPACE = re.compile(r" +(?==)")


@dataclass(frozen=True)
class Spelled:
    """A part of a key, `path` ending with it, or a text that stands under the key `path`."""

    said: str
    path: Path
    is_key: bool
    start: int
    end: int


#: Parts of a key as they come, and in the end the path that they make.
_Found: TypeAlias = Generator[Spelled, None, Path]


def respelled(text: str, change: Callable[[Spelled], str | None]) -> str:
    """The text with keys and texts as `change` says them, where it says them; nothing else moves.

    Equals signs stay in their column where there is room. The text is valid TOML 1.0.
    """
    parts, at = [], 0
    for word in spelled_in(text):
        new = change(word)
        if new is not None and new != word.said:
            said_text = key_text(new) if word.is_key else value_text(new)
            parts += [text[at : word.start], said_text]
            at = word.end
            if word.is_key and (space := _SPACE.match(text, at)):
                parts.append(" " * max(1, space.end() - word.start - len(said_text)))
                at = space.end()
    return "".join((*parts, text[at:]))


def spelled_in(text: str) -> Iterator[Spelled]:
    """Every part of a key and every text of a valid TOML file, in order."""
    tokens = _Tokens(text)
    table: Path = ()
    while tokens.now:
        if tokens.now == "[":
            table = yield from _header(tokens)
        elif tokens.now == "\n":
            tokens.step()
        else:
            yield from _statement(tokens, table)


class _Tokens:
    """The signs of a text that say something, one after another; "" after the last."""

    def __init__(self, text: str) -> None:
        self._text = text
        self.now, self.start, self.end = "", 0, 0
        self.step()

    def step(self) -> None:
        """Go to the next one; comments and white space are none."""
        while match := _TOKEN.match(self._text, self.end):
            self.now, self.start, self.end = match[0], match.start(), match.end()
            if self.now == "\n" or not (self.now.isspace() or self.now.startswith("#")):
                return
        self.now = ""

    def skip(self, *signs: str) -> None:
        """Go past all of these."""
        while self.now in signs:
            self.step()

    @property
    def text(self) -> str:
        """What a text in quotes says."""
        value = tomllib.loads(f"v = {self.now}")["v"]
        assert isinstance(value, str)
        return value


def _header(tokens: _Tokens) -> _Found:
    tokens.skip("[")
    path = yield from _key(tokens, (), "]")
    tokens.skip("]")
    return path


def _key(tokens: _Tokens, within: Path, end: str) -> _Found:
    """The parts of a key up to the sign that ends it; the whole path comes back."""
    path = within
    while tokens.now != end:
        if tokens.now != ".":
            text = tokens.text if tokens.now[0] in "\"'" else tokens.now
            path = (*path, text)
            yield Spelled(text, path, is_key=True, start=tokens.start, end=tokens.end)
        tokens.step()
    return path


def _statement(tokens: _Tokens, within: Path) -> Iterator[Spelled]:
    path = yield from _key(tokens, within, "=")
    tokens.step()
    yield from _value(tokens, path)


def _value(tokens: _Tokens, path: Path) -> Iterator[Spelled]:
    """The texts of a value, and the keys of tables in it."""
    if tokens.now in ("[", "{"):
        close, inside = ("]", _value) if tokens.now == "[" else ("}", _statement)
        tokens.step()
        tokens.skip(",", "\n")
        while tokens.now != close:
            yield from inside(tokens, path)
            tokens.skip(",", "\n")
        tokens.step()
    elif tokens.now[0] in "\"'":
        yield Spelled(tokens.text, path, is_key=False, start=tokens.start, end=tokens.end)
        tokens.step()
    else:
        while tokens.now not in ("", ",", "]", "}", "\n"):
            tokens.step()
