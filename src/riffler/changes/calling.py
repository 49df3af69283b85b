"""Files as they would be roughed out now -> the same, with what they call things as it was called.

Names of classes, data and colours are numbered as they come: one thing more, and many are called
otherwise. What stands in lines, rules and values that are the same but for names is the same thing,
and keeps the name that people have written to; other things get names that nothing had.
"""

from __future__ import annotations

import re
from collections import Counter, defaultdict
from collections.abc import Collection, Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass
from enum import Enum
from itertools import count
from pathlib import PurePosixPath
from typing import TypeAlias

from riffler.changes.merging import in_order
from riffler.site.stylesheet import CLASS


class Kind(Enum):
    """What is called by a name."""

    CLASS = "class"
    DATA = "data"
    COLOR = "color"


Names: TypeAlias = dict[Kind, dict[str, str]]
"""By kind: what a thing is called now, and what it was called."""

Votes: TypeAlias = dict[Kind, Counter[tuple[str, str]]]

#: How much more a line counts of a page that shows what it showed.
SAME_PAGE = 1000

#: The value of an attribute or an argument that names classes, and what a template puts into it.
_CLASSES = re.compile(r"""\bclass="([^"]*)\"""")
_CODE = re.compile(r"\{[{%].*?[%}]\}")
_CLASS_NAME = re.compile(rf"(?<![\w-])(?!{CLASS})[a-z][\w-]*")

#: A list of data in a template, and a row of data that names a class.
_LIST = re.compile(r"\bdata\.(\w+)\.list\b")
_LOOK = re.compile(r'^(?:\w+_)?look = "([^"]*)"', re.MULTILINE)

#: What stands before the braces of a rule, a class in it, and a custom property.
_HEAD = re.compile(r"^[^{}@;:][^{};]*\{", re.MULTILINE)
_SELECTED = re.compile(rf"\.((?!{CLASS})[a-z][\w-]*)")
_PROPERTY = re.compile(r"--([a-z][\w-]*)")
_VALUE = re.compile(r"^ +--([a-z][\w-]*): (.*);$", re.MULTILINE)


@dataclass(frozen=True)
class Named:
    """A name in a text, with its place."""

    kind: Kind
    name: str
    start: int
    end: int


def called_as_before(
    before: Mapping[str, str], now: Mapping[str, str], same: Collection[str]
) -> dict[str, str]:
    """The files of `now` with the names that things have in `before`.

    Both are texts by their paths; `same` are those of pages whose mockups did not change.
    """
    names = _names(before, now, same)
    return {_renamed_file(name, names): renamed(name, text, names) for name, text in now.items()}


def _names(before: Mapping[str, str], now: Mapping[str, str], same: Collection[str]) -> Names:
    votes: Votes = {kind: Counter() for kind in Kind}
    for name in now.keys() & before.keys():
        weight = SAME_PAGE if name in same else 1
        for first, second in _alike(*(units(name, side[name]) for side in (before, now))):
            for was, is_now in zip(first, second, strict=True):
                votes[was.kind][is_now.name, was.name] += weight
    for kind, said in ((Kind.COLOR, _values), (Kind.DATA, _lists)):
        was_said, is_said = said(before), said(now)
        for value in was_said.keys() & is_said.keys():
            votes[kind][is_said[value], was_said[value]] += SAME_PAGE
    was_known, is_known = _known(before), _known(now)
    return {kind: _settled(votes[kind], was_known[kind], is_known[kind]) for kind in Kind}


def _values(files: Mapping[str, str]) -> dict[str, str]:
    """The names of custom properties by their values, as far as one value has one name."""
    pairs = (pair for text in files.values() for pair in _VALUE.findall(text))
    return _by_value(pairs)


def _lists(files: Mapping[str, str]) -> dict[str, str]:
    """The names of data by what it holds, but for names in it."""
    return _by_value(
        (PurePosixPath(file).stem, "".join(line for line, _ in units(file, text)))
        for file, text in files.items()
        if file.endswith(".toml")
    )


def _by_value(pairs: Iterable[tuple[str, str]]) -> dict[str, str]:
    names: dict[str, set[str]] = defaultdict(set)
    for name, value in pairs:
        names[value].add(name)
    return {value: called.pop() for value, called in names.items() if len(called) == 1}


def _known(files: Mapping[str, str]) -> dict[Kind, list[str]]:
    """The names of each kind, in the order in which they come; one may be there several times."""
    names: dict[Kind, list[str]] = defaultdict(list)
    for file, text in sorted(files.items()):
        for one in names_in(file, text):
            names[one.kind].append(one.name)
    return names


def _settled(
    votes: Counter[tuple[str, str]], before: Sequence[str], now: Sequence[str]
) -> dict[str, str]:
    """One name for each thing and one thing for each name, most votes first."""
    names: dict[str, str] = {}
    taken: set[str] = set()
    by_votes = sorted(votes.items(), key=lambda pair: (-pair[1], pair[0][0] != pair[0][1], pair[0]))
    for (called, was_called), _ in by_votes:
        if called not in names and was_called not in taken:
            names[called] = was_called
            taken.add(was_called)
    left = [called for called in dict.fromkeys(now) if called not in names]
    for called in left:
        is_free = called not in taken
        names[called] = called if is_free else free(called, {*before, *taken, *left})
        taken.add(names[called])
    return names


def free(name: str, taken: Collection[str]) -> str:
    """A name that nothing has, like another."""
    stem = re.sub(r"-\d+$", "", name)
    return next(new for number in count(2) if (new := f"{stem}-{number}") not in taken)


def names_in(file: str, text: str) -> Iterator[Named]:
    """Every name in a text, in order of their places."""
    ending = PurePosixPath(file).suffix
    found = {".html": _in_template, ".toml": _in_data, ".css": _in_styles}.get(ending)
    return iter(sorted(found(text), key=lambda named: named.start)) if found else iter(())


def _in_template(text: str) -> Iterator[Named]:
    for match in _CLASSES.finditer(text):
        yield from _class_names(match[1], match.start(1))
    for match in _LIST.finditer(text):
        yield Named(Kind.DATA, match[1].replace("_", "-"), *match.span(1))


def _in_data(text: str) -> Iterator[Named]:
    for match in _LOOK.finditer(text):
        yield from _class_names(match[1], match.start(1))


def _class_names(value: str, start: int) -> Iterator[Named]:
    plain = _CODE.sub(lambda code: " " * len(code[0]), value)
    for match in _CLASS_NAME.finditer(plain):
        yield Named(Kind.CLASS, match[0], start + match.start(), start + match.end())


def _in_styles(text: str) -> Iterator[Named]:
    for head in _HEAD.finditer(text):
        for match in _SELECTED.finditer(head[0]):
            at = head.start()
            yield Named(Kind.CLASS, match[1], at + match.start(1), at + match.end(1))
    for match in _PROPERTY.finditer(text):
        yield Named(Kind.COLOR, match[1], *match.span(1))


Unit: TypeAlias = tuple[str, tuple[Named, ...]]
"""A line or a rule with its names left out, and these."""


def units(file: str, text: str) -> list[Unit]:
    """A template line by line, a style sheet rule by rule, without the indents of lines."""
    named = list(names_in(file, text))
    result, at = list[Unit](), 0
    parts = re.split(r"(?<=^\}\n)", text, flags=re.MULTILINE) if file.endswith(".css") else []
    for part in parts or text.splitlines(keepends=True):
        end = at + len(part)
        own = tuple(one for one in named if at <= one.start < end)
        left, begin = [], at
        for one in own:
            left += [text[begin : one.start], f"\0{one.kind.value}\0"]
            begin = one.end
        left.append(text[begin:end])
        result.append(("".join(left).strip(), own))
        at = end
    return result


def _alike(
    before: Sequence[Unit], now: Sequence[Unit]
) -> Iterator[tuple[tuple[Named, ...], tuple[Named, ...]]]:
    """Lines or rules that differ by names alone: in their order, and those there are once."""
    sides = [[text for text, _ in side] for side in (before, now)]
    paired = set(in_order(sides[0], sides[1]))
    once = [_once(texts) for texts in sides]
    paired |= {(once[0][text], once[1][text]) for text in once[0].keys() & once[1].keys()}
    for first, second in sorted(paired):
        yield before[first][1], now[second][1]


def _once(texts: Iterable[str]) -> dict[str, int]:
    """The texts that there are once, with their numbers."""
    numbers: dict[str, list[int]] = defaultdict(list)
    for number, text in enumerate(texts):
        numbers[text].append(number)
    return {text: found[0] for text, found in numbers.items() if len(found) == 1}


def renamed(file: str, text: str, names: Names) -> str:
    """A file with other names for what it calls so; its path stays."""
    parts, at = [], 0
    for one in names_in(file, text):
        new = names[one.kind].get(one.name, one.name)
        is_code = one.kind is Kind.DATA
        parts += [text[at : one.start], new.replace("-", "_") if is_code else new]
        at = one.end
    return "".join((*parts, text[at:]))


def _renamed_file(file: str, names: Names) -> str:
    """The path of a file of data goes with the name of what it holds."""
    path = PurePosixPath(file)
    if path.suffix != ".toml":
        return file
    return str(path.with_stem(names[Kind.DATA].get(path.stem, path.stem)))
