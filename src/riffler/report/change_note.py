"""What changed between two versions of a mockup -> a short note in words, with questions."""

from __future__ import annotations

import textwrap
from collections.abc import Iterator, Sequence

from riffler.changes.asked import Asked
from riffler.changes.change import Change, ChangeKind
from riffler.changes.questions import questions
from riffler.plain import clean
from riffler.report.changes import ChangeEntry, entries, heading

#: Letters in a line.
WIDE = 88


def text(asked: Sequence[Asked]) -> str:
    """The note, as one can put it into a mail or a ticket."""
    parts = ["\n".join(_note(request)) for request in asked if request.changed.changes]
    return "\n\n".join(parts) + "\n" if parts else "Nothing changed.\n"


def _note(asked: Asked) -> Iterator[str]:
    yield f"Changes: {heading(asked)}"
    listed = list(entries(asked.changed, asked.touched))
    seen = [entry for entry in listed if any(map(_is_seen, entry.changes))]
    yield ""
    for number, entry in enumerate(seen, 1):
        yield from _item(f"{number}. ", f"{entry.name}: {entry.says}")
    unseen = len(listed) - len(seen)
    if unseen:
        yield from _item("   ", f"{unseen} more that nobody sees: names, order, hidden layers.")
    raised = list(_questions(asked, seen))
    if raised:
        yield ""
        yield "Questions"
        for line in raised:
            yield from _item("- ", line)


def _is_seen(change: Change) -> bool:
    return change.shows and change.kind not in (
        ChangeKind.RENAMED,
        ChangeKind.REGROUPED,
        ChangeKind.REORDERED,
    )


def _questions(asked: Asked, seen: Sequence[ChangeEntry]) -> Iterator[str]:
    changes = asked.changed.changes
    places = {
        id(change): number for number, entry in enumerate(seen, 1) for change in entry.changes
    }
    for question in questions(asked.changed, asked.touched, asked.narrow):
        number = places.get(id(changes[question.number])) if question.number >= 0 else None
        yield f"To {number}: {question.text}" if number else question.text


def _item(mark: str, text: str) -> list[str]:
    return textwrap.wrap(
        clean(text),
        WIDE,
        initial_indent=mark,
        subsequent_indent=" " * len(mark),
        break_long_words=False,
        break_on_hyphens=False,
    )
