"""Tokens -> the lines of `riffler.toml` that keep their names."""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import Path

import tomlkit
from tomlkit.container import Container
from tomlkit.items import Table

from riffler.files import Edit, rewrite
from riffler.project.project import Project
from riffler.project.settings import Settings
from riffler.project.written import Written
from riffler.tokens.spelling import spelled
from riffler.tokens.token import Tokens


@dataclass(frozen=True)
class Pinned(Edit):
    """The settings before and after names are written into them, and how many are new."""

    count: int


def pin(project: Project, tokens: Tokens) -> Pinned:
    """Write the name of every token that a person has not named into `riffler.toml`.

    What is there stays as it is, comments too. Raises OutputError when it can't be written.
    """
    path = project.written.path
    return rewrite(lambda: _pinned(path, tokens), within=project.root)


def _pinned(path: Path, tokens: Tokens) -> Pinned:
    before = Written.read(path)
    document = tomlkit.parse(before.text)
    count = 0
    for token in tokens.tokens:
        table = _table(_table(document, "tokens", is_super=True), token.sort)
        if token.name not in table:
            table[token.name] = spelled(token.sort, token.value)
            count += 1
    after = tomlkit.dumps(document) if count else before.text
    Written.of(path, after).check(Settings)
    return Pinned(path, before.text, after, count)


def _table(within: Container | Table, name: str, *, is_super: bool = False) -> Table:
    if name not in within:
        within[name] = tomlkit.table(is_super)
    found = within[name]
    if isinstance(found, Table):
        return found
    within[name] = plain = tomlkit.table()  # it was written as { inline }
    plain.update(found)
    return plain
