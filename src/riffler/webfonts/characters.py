"""A project -> every character that its pages may show, and those that may come tomorrow."""

from __future__ import annotations

import html
import re
from collections.abc import Iterable, Iterator
from pathlib import Path

from riffler.files import read_whole
from riffler.mockup.model import Mockup
from riffler.project.project import Project

#: What a text may need on the next day: letters, figures and signs of plain text, and the quotes,
#: dashes and signs that a careful person types.
COMMON = frozenset([*range(0x20, 0x7F), *map(ord, "\xa0£©®°·×éÉ–—‘’“”•…€")])

#: Files with text that pages show, and the largest that is one.
ENDINGS, LARGEST = (".html", ".css", ".js", ".toml", ".svg", ".txt", ".md"), 4_000_000

#: A character as style sheets and scripts escape it.
_ESCAPED = re.compile(r"\\(?:u\{?)?([0-9a-fA-F]{2,6})")


def needed(project: Project, mockups: Iterable[Mockup], more: str = "") -> frozenset[int]:
    """The characters of templates, data, styles, settings and of the mockups' own words."""
    result = set(COMMON) | {ord(letter) for letter in more}
    for text in (*_texts(project), *(words for mockup in mockups for words in words_of(mockup))):
        result.update(map(ord, text))
    return frozenset(code for code in result if code >= 0x20 and not 0x7F <= code < 0xA0)


def words_of(mockup: Mockup) -> Iterator[str]:
    """The texts of a mockup."""
    return (layer.words.text for layer in mockup.walk() if layer.words is not None)


def _texts(project: Project) -> Iterator[str]:
    for path in _files(project):
        raw = read_whole(path)
        if len(raw) <= LARGEST:
            text = raw.decode("utf-8", "replace").replace("\ufffd", "")
            yield html.unescape(text)
            codes = (int(code, 16) for code in _ESCAPED.findall(text))
            yield "".join(chr(code) for code in codes if 0xA0 <= code < 0x110000)


def _files(project: Project) -> Iterator[Path]:
    yield project.written.path
    for name in ("pages", "styles", "cuts", "data"):
        for path in project.sources(name):
            if path.suffix.lower() in ENDINGS:
                yield path
