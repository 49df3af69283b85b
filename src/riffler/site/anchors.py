"""Built pages -> links to parts of them that no element is called."""

from __future__ import annotations

import re
from collections.abc import Mapping
from pathlib import Path

from riffler.cutlist.targets import page_of
from riffler.errors import Place, WrittenError, nearest
from riffler.files import read_whole
from riffler.site.templates import Site

_CALL = re.compile(r"""\blink\(\s*["']([^"'\n]*#[^"'\n]+)["']\s*\)""")
_ID = re.compile(r"""<(?:[^<>]*\sid|a\s[^<>]*?name)=["']?([^"'\s>]+)""")


def refuse_dead(site: Site, texts: Mapping[str, str]) -> None:
    """Raises WrittenError where a template links to a part that its page does not have.

    Links that are put together while a page is made are for `riffler check` to find.
    """
    ids = {page: set(_ID.findall(text)) for page, text in texts.items()}
    for path in site.project.sources("pages"):
        if path.suffix != ".html":
            continue
        for number, line in enumerate(read_whole(path).decode("utf-8", "replace").splitlines(), 1):
            for target in _CALL.findall(line):
                _refuse(target, ids, path, number, line)


def _refuse(target: str, ids: Mapping[str, set[str]], path: Path, number: int, line: str) -> None:
    page, (_, _, part) = page_of(target), target.partition("#")
    if page is not None and page in ids and part not in {*ids[page], "top"}:
        raise WrittenError(
            f'Nothing in the page "{page}" is called "#{part}".',
            nearest(part, sorted(ids[page]), "Parts are"),
            Place(path, number, text=line.rstrip()),
        )
