"""A long line that is one picture -> lines as a person would write it, the same to a browser."""

from __future__ import annotations

import re
from collections.abc import Iterator

#: The most columns of a line before it is wrapped.
WIDE = 100

_ATTRIBUTE = r'\s[^\s=">/]+(?:="[^"]*")?'

#: A picture alone on its line, in a link or not.
_PICTURE = re.compile(
    rf"( *)((?:<a(?:{_ATTRIBUTE})*>)?<picture>)((?:<source(?:{_ATTRIBUTE})*>)*)"
    rf"(<img(?:{_ATTRIBUTE})*>)</picture>(</a>)?"
)
_SOURCE = re.compile(rf"<source(?:{_ATTRIBUTE})*>")

#: A tag alone on its line, in a link or not, whose attributes may go on in the next one.
_TAG = re.compile(
    rf"( *)(<a(?:{_ATTRIBUTE})*>)?(<img|<source)((?:{_ATTRIBUTE})+)>((?:</picture>)?(?:</a>)?)"
)


def wrapped(line: str) -> Iterator[str]:
    """The line, or the lines that it is better read as: a source each, attributes below each other.

    White space comes in only where it does not show: in tags, and next to some that is there. A
    link gets none at its end, where it would be underlined.
    """
    if len(line) <= WIDE:
        yield line
    elif match := _PICTURE.fullmatch(line):
        indent, head, sources, image, link = match.groups()
        yield f"{indent}{head}"
        for source in _SOURCE.findall(sources):
            yield from _filled(f"{indent}  {source}")
        if link:
            yield from _filled(f"{indent}  {image}</picture>{link}")
        else:
            yield from _filled(f"{indent}  {image}")
            yield f"{indent}</picture>"
    else:
        yield from _filled(line)


def _filled(line: str) -> Iterator[str]:
    """A tag with as many attributes on each line as have room."""
    match = _TAG.fullmatch(line)
    if match is None or len(line) <= WIDE:
        yield line
        return
    indent, link, name, attributes, end = match.groups()
    row = f"{indent}{link or ''}{name}"
    more = indent + " " * (3 if link else len(name))
    parts = [part.strip() for part in re.findall(_ATTRIBUTE, attributes)]
    parts[-1] += f">{end}"
    for part in parts:
        if len(row) + 1 + len(part) > WIDE and row.strip() != name:
            yield row
            row = more
        *whole, row = _candidates(f"{row} {part}")
        yield from whole
    yield row


def _candidates(row: str) -> list[str]:
    """A line, or where it ends in a `srcset` that is too long, one for each of its candidates."""
    head, quote, text = row.partition(' srcset="')
    if not quote or len(row) <= WIDE:
        return [row]
    first, *rest = re.split(r"(?<=,) ", text)
    beneath = " " * len(head + quote)
    return [f"{head}{quote}{first}", *(f"{beneath}{candidate}" for candidate in rest)]
