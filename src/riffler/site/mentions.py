"""A template or a style sheet -> the same with a slice called otherwise, wherever it is named."""

from __future__ import annotations

import re
from collections.abc import Iterator

from riffler.cutlist.sound_names import NewName
from riffler.site.stylesheet import CLASS, PROPERTIES

#: `inlay("card")`; with a sign behind it that joins texts, the first half of a name in a row.
_INLAY = re.compile(r"""(?P<head>\binlay\(\s*["'])(?P<name>[^"'\n]*)(?=["'](?P<half>\s*~)?)""")

#: The class of a piece, in HTML, CSS or a template; a number may follow from the template.
_CLASS = re.compile(
    rf"""(?P<head>(?<![\w-]){CLASS})(?P<name>[\w-]+)(?P<half>(?=\{{\{{|["']\s*~))?"""
)

#: The size or place of a piece as a custom property.
_PROPERTY = re.compile(
    rf"(?P<head>(?<![\w-])--)(?P<name>[\w-]+)(?=-(?:{'|'.join(PROPERTIES)})(?![\w-]))"
)

#: What a template computes, and a text in it.
_CODE = re.compile(r"\{[{%].*?[%}]\}", re.DOTALL)
_TEXT = re.compile(r"""(?<!=)["']([^"'\n]*)["']""")


def follow(text: str, names: NewName) -> tuple[str, list[int]]:
    """The text with the new name in calls of `inlay`, classes and custom properties.

    The lines that come with it, counted from 1, may mean the slice, or not: they have the old name
    as a text of the template's code, or put names together that begin as it does.
    """

    def renamed(match: re.Match[str]) -> str:
        text = match["name"]
        if match.groupdict().get("half") is None:
            return match["head"] + names.members.get(text, text)
        is_row = names.count is not None and text == f"{names.old}-"
        return match["head"] + (f"{names.new}-" if is_row else text)

    for pattern in (_INLAY, _CLASS, _PROPERTY):
        text = pattern.sub(renamed, text)
    halves = (
        match
        for pattern in (_INLAY, _CLASS)
        for match in pattern.finditer(text)
        if match["half"] is not None and names.old.startswith(match["name"])
    )
    places = [*(match.start() for match in halves), *_texts(text, {names.old, *names.members})]
    return text, sorted({text.count("\n", 0, place) + 1 for place in places})


def mentioned(text: str) -> Iterator[tuple[str, int]]:
    """The slices that a template or a style sheet names, each with a line, counted from 1.

    Of a row that it puts together there is the half that is written, with its hyphen.
    """
    for pattern in (_INLAY, _CLASS, _PROPERTY):
        for match in pattern.finditer(text):
            yield match["name"], text.count("\n", 0, match.start()) + 1


def _texts(text: str, wanted: set[str]) -> Iterator[int]:
    """Where the code of a template has one of these texts."""
    for code in _CODE.finditer(text):
        for match in _TEXT.finditer(code[0]):
            if match[1] in wanted:
                yield code.start() + match.start()
