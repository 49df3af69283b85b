"""A site's icons -> the lines for the head of a page, in templates and in pages written by hand."""

from __future__ import annotations

import os
import re
from collections.abc import Callable, Sequence
from functools import partial
from pathlib import Path

from markupsafe import escape

from riffler.errors import Place, RifflerError, WrittenError
from riffler.files import BOM, Edit, as_typed, read_whole, real, rewrite
from riffler.output.asset import IconAsset

#: What stands around our lines in a page that is written by hand.
BEGIN, END = "<!-- icons -->", "<!-- end of icons -->"

_BLOCK = re.compile(rf"{re.escape(BEGIN)}.*?{re.escape(END)}", re.DOTALL)

#: What may hold something that looks like the end of a head, and is none.
_PASSIVE = re.compile(
    r"<!--.*?-->|<(script|style|title|noscript)\b.*?</\1\s*>", re.DOTALL | re.IGNORECASE
)
_HEAD_END = re.compile(r"([ \t]*)</head\s*>", re.IGNORECASE)

_TYPES = {"svg": "image/svg+xml", "ico": "", "png": "image/png", "webmanifest": ""}


def lines(
    icons: Sequence[IconAsset], address: Callable[[str], str], theme: str | None
) -> list[str]:
    """A `link` for each file that has one, HTML 4.6.7.9; `theme` is the colour around the page."""
    order = {"icon": 0, "apple-touch-icon": 1, "manifest": 2}
    ranked = sorted(icons, key=lambda icon: (order.get(icon.rel, 9), icon.format != "ico"))
    result = []
    for icon in ranked:
        if not icon.rel:
            continue
        sizes = " ".join(f"{side}x{side}" for side in icon.sizes)
        if icon.format == "svg":
            sizes = "any"
        values = {
            "rel": icon.rel,
            "href": address(icon.file),
            "type": _TYPES.get(icon.format, "") if icon.rel == "icon" else "",
            "sizes": sizes if icon.rel != "manifest" else "",
        }
        attributes = " ".join(
            f'{name}="{escape(value)}"' for name, value in values.items() if value
        )
        result.append(f"<link {attributes}>")
    if result and theme is not None:
        result.append(f'<meta name="theme-color" content="{escape(theme)}">')
    return result


def put_into(
    pages: Sequence[Path],
    icons: Sequence[IconAsset],
    folder: Path,
    theme: str | None,
    *,
    dry_run: bool = False,
) -> list[Path]:
    """Put the lines for icons in a folder into the heads of pages; returns those that changed.

    All are read before one is written. Raises RifflerError for one that can't be read, WrittenError
    for one without a head.
    """
    edits = [_edit(page, icons, folder, theme) for page in pages]
    changed = [edit for edit in edits if edit.before != edit.after]
    if not dry_run:
        for edit in changed:
            rewrite(partial(_edit, edit.file, icons, folder, theme), edit.file.parent)
    return [edit.file for edit in changed]


def check(pages: Sequence[Path]) -> None:
    """Raises as `put_into` does for pages that can't take lines, before any work is done."""
    for page in pages:
        _edit(page, (), page.parent, None)


def _edit(page: Path, icons: Sequence[IconAsset], folder: Path, theme: str | None) -> Edit:
    try:
        text = read_whole(page).decode().removeprefix(BOM)
    except UnicodeDecodeError as error:
        raise RifflerError(f"{as_typed(page)} is no text in UTF-8.") from error
    start = os.path.relpath(real(folder), real(page).parent).replace(os.sep, "/")

    def address(file: str) -> str:
        return file if start == "." else f"{start}/{file}"

    try:
        return Edit(page, text, inserted(text, lines(icons, address, theme)))
    except WrittenError as error:
        raise WrittenError(error.message, error.advice, Place(page)) from error


def inserted(page: str, texts: Sequence[str]) -> str:
    """A page with the lines at the end of its head, or in the place of those put there before.

    Nothing else in it changes. Raises WrittenError for a page without a head.
    """
    ending = "\r\n" if "\r\n" in page else "\n"
    if block := _BLOCK.search(page):
        begin = page.rfind("\n", 0, block.start()) + 1
        indent = page[begin : block.start()]
        indent = indent if not indent.strip() else ""
        return page[: block.start()] + _block(texts, indent, ending) + page[block.end() :]
    masked = _PASSIVE.sub(lambda match: " " * len(match[0]), page)
    head = _HEAD_END.search(masked)
    if head is None:
        raise WrittenError("There is no </head> in it.", "Icons are named in the head of a page.")
    starts_line = page[: head.start()].endswith(("\n", "\r")) or head.start() == 0
    indent = f"{head[1]}  " if starts_line else ""
    block_text = _block(texts, indent, ending)
    if starts_line:
        return f"{page[: head.start()]}{indent}{block_text}{ending}{page[head.start() :]}"
    return f"{page[: head.end(1)]}{block_text}{page[head.end(1) :]}"


def _block(texts: Sequence[str], indent: str, ending: str) -> str:
    return f"{ending}{indent}".join((BEGIN, *texts, END))
