"""Files as they would be roughed out now -> pages whose mockups did not change as they were.

What pages share is told anew each time, and a class may come to mean something else, or nothing.
Pages of which nothing changed keep their files, and the shared style sheet keeps the rules that
these need; what their classes have come to mean gets names of its own.
"""

from __future__ import annotations

import re
from collections.abc import Collection, Iterator, Mapping, Sequence
from dataclasses import dataclass
from pathlib import PurePosixPath

from riffler.changes.calling import Kind, Named, Names, free, names_in, renamed, units
from riffler.project.places import PAGE_STYLES

#: A rule at the top of a style sheet or in a media query, and such a query with all in it.
_RULE = re.compile(r"^( *)([^{}@;\n][^{};]*?)\{\n((?: +[\w-]+: [^;]*;\n)*) *\}\n", re.MULTILINE)
_MEDIA = re.compile(r"^@media ([^{]*)\{\n((?:  .*\n|\n)*)\}\n", re.MULTILINE)

#: A custom property where it is used, and where it is given a value.
_USED = re.compile(r"var\(--([\w-]+)")
_GIVEN = re.compile(r"^  --([\w-]+): .*;\n", re.MULTILINE)

_ROOT = ":root {\n"


@dataclass(frozen=True)
class _Rule:
    """A rule for one selector: the media query that it is in, empty for none, and what it says."""

    media: str
    selector: str
    body: str

    @property
    def text(self) -> str:
        """As it is written at the top of a sheet."""
        return f"{self.selector} {{\n{self.body}}}\n"


def kept(
    before: Mapping[str, str], now: Mapping[str, str], same: Collection[str]
) -> dict[str, str]:
    """The files of `now`, but those of pages whose mockups did not change as they were `before`.

    Both are texts by their paths, with things called as they were; `same` are the files of such
    pages.
    """
    own = _own(before, now, same)
    sheets = sorted(name for name in before.keys() & now.keys() if _is_shared_sheet(name))
    result = dict(now)
    if any(before[name] != now[name] for name in (*own, *sheets)):
        for sheet in sheets:
            result = _with_sheet(result, before, sheet, own)
    return result | own


def _own(
    before: Mapping[str, str], now: Mapping[str, str], same: Collection[str]
) -> dict[str, str]:
    """The files that stay: of pages that did not change, and what differs in names alone."""
    names = [
        name
        for name in before.keys() & now.keys()
        if name in same or (name.endswith(".html") and _is_alike(name, before, now))
    ]
    return {name: before[name] for name in sorted(names) if not _is_shared_sheet(name)}


def _with_sheet(
    now: Mapping[str, str], before: Mapping[str, str], sheet: str, own: Mapping[str, str]
) -> dict[str, str]:
    """Files with the rules in a sheet that own ones need; what is called so now is renamed."""
    was, is_now = list(_rules(before[sheet])), list(_rules(now[sheet]))
    used = {one.name for one in _names(own) if one.kind is Kind.CLASS}
    bites = sorted(name for name in used if [*_about(name, was)] != [*_about(name, is_now)])
    taken = {one.name for side in (before, now) for one in _names(side)}
    names: Names = {kind: {} for kind in Kind}
    for name in bites:
        names[Kind.CLASS][name] = free(name, taken)
        taken.add(names[Kind.CLASS][name])
    result = {name: renamed(name, text, names) for name, text in now.items()}
    needed = list(dict.fromkeys(rule for name in bites for rule in _about(name, was)))
    text = _with_rules(result[sheet], needed, was)
    texts = [*own.values(), *(rule.body for rule in needed)]
    return result | {sheet: _with_properties(text, before[sheet], texts)}


def _names(files: Mapping[str, str]) -> Iterator[Named]:
    return (one for name, text in files.items() for one in names_in(name, text))


def _is_shared_sheet(name: str) -> bool:
    path = PurePosixPath(name)
    return path.suffix == ".css" and path.parent.name != PAGE_STYLES


def _is_alike(name: str, before: Mapping[str, str], now: Mapping[str, str]) -> bool:
    """Whether a file is as it was but for what things in it are called."""
    texts = [[text for text, _ in units(name, side[name])] for side in (before, now)]
    return texts[0] == texts[1]


def _rules(text: str) -> Iterator[_Rule]:
    """Every rule of a sheet, each selector by itself."""
    at = 0
    for media in _MEDIA.finditer(text):
        yield from _in(text[at : media.start()], "")
        yield from _in(media[2], media[1].strip())
        at = media.end()
    yield from _in(text[at:], "")


def _in(text: str, media: str) -> Iterator[_Rule]:
    for rule in _RULE.finditer(text):
        body = re.sub(rf"^{rule[1]}", "", rule[3], flags=re.MULTILINE)
        for selector in _selectors(rule):
            yield _Rule(media, selector, body)


def _selectors(rule: re.Match[str]) -> list[str]:
    return [" ".join(selector.split()) for selector in rule[2].split(",")]


def _about(name: str, rules: Sequence[_Rule]) -> Iterator[_Rule]:
    """The rules that select a class."""
    selects = re.compile(rf"\.{re.escape(name)}(?![\w-])")
    return (rule for rule in rules if selects.search(rule.selector))


def _with_rules(text: str, rules: Sequence[_Rule], was: Sequence[_Rule]) -> str:
    """A sheet with more rules where they stood, those of a media query at the end of it."""
    for rule in rules:
        if not rule.media:
            at = _after(text, [other.selector for other in was[: was.index(rule)]])
            text = f"{text[:at]}\n{rule.text}{text[at:]}"
    for media in dict.fromkeys(rule.media for rule in rules if rule.media):
        inner = "\n".join(rule.text for rule in rules if rule.media == media)
        lines = "".join(f"  {line}" if line.strip() else line for line in inner.splitlines(True))
        there = next((one for one in _MEDIA.finditer(text) if one[1].strip() == media), None)
        if there is None:
            text += f"\n@media {media} {{\n{lines}}}\n"
        else:
            text = f"{text[: there.end(2)]}\n{lines}{text[there.end(2) :]}"
    return text


def _after(text: str, selectors: Sequence[str]) -> int:
    """Where the last of some rules ends that a sheet has; where its media queries begin if none."""
    media = _MEDIA.search(text)
    end = media.start() if media else len(text)
    ends = {
        selector: rule.end() for rule in _RULE.finditer(text[:end]) for selector in _selectors(rule)
    }
    return next((ends[selector] for selector in reversed(selectors) if selector in ends), end)


def _with_properties(text: str, before: str, texts: Sequence[str]) -> str:
    """A sheet with the custom properties that texts use and that only the older one gives."""
    used = {name for one in texts for name in _USED.findall(one)}
    given = {match[1] for match in _GIVEN.finditer(text)}
    lines = [match[0] for match in _GIVEN.finditer(before) if match[1] in used - given]
    return text.replace(_ROOT, _ROOT + "".join(lines), 1)
