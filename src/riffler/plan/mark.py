"""A name and what is said of it -> a guide, grid or slice, written into a cutlist with care."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from riffler.cutlist import sound_names
from riffler.cutlist.editing import CutlistText, Value
from riffler.cutlist.file import CutlistFile, Entry, WrittenPart
from riffler.cutlist.resolve import resolve_one
from riffler.errors import RifflerError, WrittenError, nearest
from riffler.files import as_typed, rewrite
from riffler.geometry import Box
from riffler.plan.checks import KINDS
from riffler.plan.uses import (
    cutlists_of,
    neighbour,
    refuse_loose_ends,
    refuse_taken,
    refuse_used,
)
from riffler.plan.wish import Marked, Wish
from riffler.project.lock import locked
from riffler.project.written import Written
from riffler.workspace import Workspace

#: The keys that say a box; those that a new one replaces.
BOX_KEYS = ("at", "x", "y", "around", "like", "by")


def mark(
    workspace: Workspace, wish: Wish, cutlist: str | None = None, *, dry_run: bool = False
) -> Marked:
    """Edit a cutlist so that the wish holds; nothing else in it changes.

    Raises RifflerError, with nothing written, when the cutlist would not be sound afterwards.
    """
    if dry_run:
        return _marked(workspace, wish, cutlist)
    with locked(workspace.project):
        return rewrite(lambda: _marked(workspace, wish, cutlist), workspace.project.root)


def _marked(workspace: Workspace, wish: Wish, cutlist: str | None) -> Marked:
    files = cutlists_of(workspace.project, cutlist)
    wish = _named(files, wish)
    file, part = _place_of(files, wish)
    text = CutlistText(part.written.text)
    entry = file.written_as(wish.name) if wish.kind == "slice" else None
    if wish.kind == "slice" and entry is None and not wish.remove:
        _refuse_name(wish.name)
        refuse_taken(cutlists_of(workspace.project, None), file, wish.name)
    if wish.remove and wish.kind != "slice":
        refuse_used(files, wish.name)
    if wish.remove:
        _remove(text, wish)
    elif wish.kind == "slice":
        _write_slice(file, text, wish, entry)
    elif wish.kind == "guide":
        text.write(("guides", wish.axis, wish.name), wish.keys["at"])
    elif text.has(("grid", wish.name)):
        for key, value in wish.keys.items():
            text.write(("grid", wish.name, key), value)
    else:
        text.add_table(("grid", wish.name), wish.keys)
    box = _checked(workspace, file, part, text.text, wish)
    return Marked(part.written.path, part.written.text, text.text, box)


def _refuse_name(name: str) -> None:
    if wrong := sound_names.fault(name):
        raise RifflerError(f'"{name}" {wrong}.', f'For example "{sound_names.sound(name)}".')


def _named(files: Sequence[CutlistFile], wish: Wish) -> Wish:
    """The wish to remove something, knowing whether it is a slice, a grid or a guide."""
    if not wish.remove:
        return wish
    parts = [part.said for file in files for part in file.parts]
    if not any(wish.name in part.slice for part in parts):
        if any(wish.name in part.grid for part in parts):
            return replace(wish, kind="grid")
        if any(wish.name in part.guides.x or wish.name in part.guides.y for part in parts):
            return replace(wish, kind="guide")
    return wish


def _place_of(files: Sequence[CutlistFile], wish: Wish) -> tuple[CutlistFile, WrittenPart]:
    """The cutlist to edit, and the file of it where the name is written, or is to be."""
    known = [(file, part) for file in files for part in file.parts if _has(part, wish)]
    if known:
        return known[0]
    row = next((entry for file in files if (entry := file.entry(wish.name))), None)
    if row is not None and wish.kind == "slice":
        raise RifflerError(
            f'"{wish.name}" is one of the row "{row.keys[1]}".', f"Change {row.keys[1]} instead."
        )
    if wish.remove:
        every = [name for file in files for name in _names(file, wish)]
        raise RifflerError(
            f'There is no {wish.kind} "{wish.name}".', nearest(wish.name, every, "There are")
        )
    return _home_of(files, wish)


def _home_of(files: Sequence[CutlistFile], wish: Wish) -> tuple[CutlistFile, WrittenPart]:
    """The cutlist of something new: that of the slice it is like, or the one there is."""
    alike = [file for file in files if file.entry(str(wish.keys.get("like")))]
    if len(alike or files) > 1:
        stems = ", ".join(file.path.stem for file in files)
        raise RifflerError(
            f'"{wish.name}" is new, and there are several cutlists.',
            f"Say which with --cutlist: {stems}.",
        )
    return (alike or files)[0], (alike or files)[0].own


def _has(part: WrittenPart, wish: Wish) -> bool:
    if wish.kind == "guide":
        return wish.name in getattr(part.said.guides, wish.axis or "x") or (
            not wish.axis and wish.name in part.said.guides.y
        )
    return wish.name in (part.said.grid if wish.kind == "grid" else part.said.slice)


def _names(file: CutlistFile, wish: Wish) -> list[str]:
    result: list[str] = []
    for part in file.parts:
        if wish.kind == "guide":
            result.extend((*part.said.guides.x, *part.said.guides.y))
        else:
            result.extend(part.said.grid if wish.kind == "grid" else part.said.slice)
    return result


def _remove(text: CutlistText, wish: Wish) -> None:
    match wish.kind:
        case "guide":
            for axis in (wish.axis,) if wish.axis else ("x", "y"):
                text.remove(("guides", axis, wish.name))
        case "grid":
            text.remove(("grid", wish.name))
        case _ if wish.state:
            text.remove(("slice", wish.name, "state", wish.state))
        case _:
            text.remove(("slice", wish.name))


def _write_slice(file: CutlistFile, text: CutlistText, wish: Wish, entry: Entry | None) -> None:
    path = ("slice", wish.name)
    keys = _keys(file, wish)
    if wish.state:
        inner = (*path, "state", wish.state)
        _refuse_name(wish.state)
        if text.has(inner):
            for key, value in keys.items():
                text.write((*inner, key), value)
        else:
            text.add_table(inner, keys)
    elif entry is None:
        text.add_table(path, keys, after=neighbour(file, text, keys))
    else:
        for key in _outdated(entry, set(keys)):
            text.remove((*path, key))
        for key, value in keys.items():
            text.write((*path, key), value)
    for kind, reason in wish.accept.items():
        if kind not in KINDS:
            raise RifflerError(
                f'There is no finding "{kind}".', nearest(kind, KINDS, "Findings are")
            )
        if text.has((*path, "accept")):
            text.write((*path, "accept", kind), reason)
        else:
            text.add_table((*path, "accept"), {kind: reason})


def _outdated(entry: Entry, new: set[str]) -> list[str]:
    """The keys of a slice's box that must go when these new ones say it otherwise."""
    keys = {key for key in BOX_KEYS if getattr(entry.table, key) is not None}
    if new & {"at", "around"}:
        stays = set()
    elif "like" in new:
        stays = {"by"}
    elif new & {"x", "y"}:
        stays = {"x", "y"} if {"x", "y"} <= keys | new else {"x", "y", "like", "by"}
    else:
        stays = keys
    return [key for key in BOX_KEYS if key in keys - stays - new]


def _keys(file: CutlistFile, wish: Wish) -> dict[str, Value]:
    """The keys to write, with the n-th of a row said as a cutlist says it."""
    keys = dict(wish.keys)
    if wish.nth is None:
        return keys
    like, step = keys.get("like"), keys.get("by")
    if not isinstance(like, str):
        raise RifflerError("--nth counts in a row.", "Say which: --like SLICE --nth 3")
    row = file.written_as(like)
    if row is not None and row.table.times is not None and not row.table.times.same:
        keys["like"] = f"{like}-{wish.nth}"
        return keys
    if not isinstance(step, Sequence) or isinstance(step, str):
        raise RifflerError(
            f'"{like}" is not repeated, so the step of the row is not known.',
            "Say it: --by 296,0",
        )
    keys["by"] = [_times(value, wish.nth - 1) for value in step]
    return keys


def _times(value: Value, count: int) -> Value:
    assert isinstance(value, int | float)
    return value * count


def _checked(
    workspace: Workspace, file: CutlistFile, part: WrittenPart, text: str, wish: Wish
) -> Box | None:
    """The box that the name gives now; None when it gives none. Raises WrittenError."""
    edited = Written.of(part.written.path, text)
    try:
        after = CutlistFile.read(file.path, file.base, {edited.path: edited})
        if wish.remove or wish.kind != "slice":
            refuse_loose_ends(after)
        if wish.kind == "guide" and not wish.remove:
            after.ruler("x" if wish.axis == "x" else "y").position(wish.name)
        if wish.kind == "grid" and not wish.remove:
            after.ruler("y" if wish.keys.get("axis") == "y" else "x").cell(wish.name, 1)
        entry = after.written_as(wish.name)
        if wish.kind != "slice" or entry is None:
            return None
        opened = workspace.open(after.mockup_path, after.cutlist.canvas, after)
        return resolve_one(after, opened.renderer, entry).box
    except WrittenError as error:
        raise RifflerError(
            f"{as_typed(part.written.path)} would not be sound, so it stays as it is: "
            f"{error.message}",
            error.advice,
        ) from error
