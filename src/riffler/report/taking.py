"""What followed a new version, or would -> lines for the terminal, a patch, and data."""

from __future__ import annotations

import difflib
from collections.abc import Iterator, Sequence
from typing import TYPE_CHECKING, Any

from riffler.files import as_typed
from riffler.plain import clean, plain
from riffler.report.screen import Screen
from riffler.report.wording import plural, short

if TYPE_CHECKING:
    from riffler.changes.following import PutAside
    from riffler.changes.refreshing import Refreshed
    from riffler.changes.taking import Taken
    from riffler.files import Edit

#: Letters of a line in dispute that are shown, and lines of it.
LONG, LINES = 90, 3


def show(screen: Screen, taken: Taken, refreshed: Refreshed | None, *, is_new: bool = True) -> None:
    """What was edited and made again, and what is left; without `refreshed` it was a dry run.

    `is_new` says whether there was a new version at all.
    """
    if not is_new and not (refreshed and (refreshed.written or refreshed.removed)):
        screen.line("Nothing changed.")
        return
    if refreshed is None:
        screen.pass_on(patch(taken))
    for line in (
        *(_made(taken, refreshed) if refreshed else ()),
        *_open_ends(taken),
        *_by_hand(taken),
    ):
        screen.line(line)
    if refreshed is not None and not (taken.left or taken.disputes):
        screen.say("The project follows the new version.")


def _made(taken: Taken, refreshed: Refreshed) -> Iterator[str]:
    """What was edited, and what was made again."""
    for edit in taken.edits:
        yield f"  {as_typed(edit.file)}: {_counted(edit)}"
    for edit in taken.new:
        yield f"  {as_typed(edit.file)}: new"
    for path, key, name in taken.let_go:
        yield f'  {as_typed(path)}, {clean(key)}: "{clean(name)}" is gone, and named no more'
    for text in taken.reread:
        was = f' instead of "{clean(_in_a_line(text.was))}"' if text.was else ", a new text"
        says = f'reads "{clean(_in_a_line(text.now))}"{was}'
        yield f"  {as_typed(text.file)}, says.{clean(text.layer)}: {says}"
    for aside in taken.put_aside:
        yield from _aside(aside, taken)
    if refreshed.written or refreshed.removed:
        gone = f", {len(refreshed.removed)} gone" if refreshed.removed else ""
        yield f"  {plural(len(refreshed.written), 'file')} made again{gone}."


def _in_a_line(text: str) -> str:
    """A text in one line that is not too long."""
    return short(" ".join(text.split()), LONG // 2)


def _aside(aside: PutAside, taken: Taken) -> Iterator[str]:
    """A slice that is cut no more, and the lines that showed it."""
    what = f"state {aside.state} of {aside.slice}" if aside.state else f"slice {aside.slice}"
    why = f'"{clean(aside.layer)}" is gone, and it showed nothing else'
    yield f"  {as_typed(aside.file)}, {clean(what)}: a comment now, since {why}"
    for mention in taken.shown_by.get(aside.slice, ()) if not aside.state else ():
        yield f"      was in {as_typed(mention.file)}:{mention.line}"


def _by_hand(taken: Taken) -> Iterator[str]:
    """Lines that a person wrote, and that say what is another now."""
    if taken.by_hand:
        yield "Written by hand, and as it was:"
    for mention in taken.by_hand:
        yield f"  {as_typed(mention.file)}:{mention.line}  {clean(mention.text[:LONG])}"


def patch(taken: Taken) -> str:
    """The edits as a unified diff."""
    parts: list[str] = []
    for edit in (*taken.edits, *taken.new):
        name = as_typed(edit.file)
        parts += _lines(edit, f"a/{name}", f"b/{name}")
    return "".join(line if line.endswith("\n") else f"{line}\n" for line in parts)


def _counted(edit: Edit) -> str:
    """How many lines came and went."""
    signs = [line[0] for line in _lines(edit)[2:]]
    came, gone = signs.count("+"), signs.count("-")
    if came == gone:
        return f"{plural(came, 'line')} changed"
    return f"{plural(came, 'line')} new, {gone} gone"


def _open_ends(taken: Taken) -> Iterator[str]:
    """What is left to a person, with both sides of what is in dispute."""
    if taken.left:
        yield "Left to you, undecided:"
        for leftover in taken.left:
            yield f"  {as_typed(leftover.file)}, {clean(leftover.what)}: {clean(leftover.why)}"
    if taken.disputes:
        yield "Yours stays where both changed:"
        for path, dispute in taken.disputes:
            yield f"  {as_typed(path)}:{dispute.line}"
            yield from _side("yours", dispute.mine)
            yield from _side("theirs", dispute.theirs)


def _side(name: str, text: str) -> Iterator[str]:
    lines = [line.strip() for line in text.splitlines() if line.strip()] or ["(nothing)"]
    for number, line in enumerate(lines[:LINES]):
        yield f"      {name if not number else '':6}  {clean(short(line, LONG))}"
    if len(lines) > LINES:
        yield f"              and {plural(len(lines) - LINES, 'line')} more"


def as_data(taken: Taken, refreshed: Refreshed | None) -> dict[str, Any]:
    """What is printed as JSON."""
    return {
        "is_dry": refreshed is None,
        "edited": [
            {"file": as_typed(edit.file), "patch": "".join(_lines(edit))}
            for edit in (*taken.edits, *taken.new)
        ],
        "left": plain(taken.left),
        "let_go": [
            {"file": as_typed(path), "key": key, "layer": name} for path, key, name in taken.let_go
        ],
        "put_aside": [
            {**plain(aside), "shown_by": plain(taken.shown_by.get(aside.slice, ()))}
            for aside in taken.put_aside
        ],
        "reread": plain(taken.reread),
        "by_hand": plain(taken.by_hand),
        "disputes": [
            {"file": as_typed(path), **plain(dispute)} for path, dispute in taken.disputes
        ],
        "written": [asset.file for asset in refreshed.written] if refreshed else [],
        "removed": [asset.file for asset in refreshed.removed] if refreshed else [],
    }


def _lines(edit: Edit, old: str = "", new: str = "") -> Sequence[str]:
    before, after = (text.splitlines(keepends=True) for text in (edit.before, edit.after))
    return list(difflib.unified_diff(before, after, old, new))
