"""A draft -> what people read of it: its slices, and the questions as a letter."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from riffler.files import as_typed
from riffler.plain import clean
from riffler.plan.draft.drafted import Draft, DraftedSlice
from riffler.plan.draft.file import DraftFile
from riffler.plan.draft.questions import Question
from riffler.report.screen import Column, Screen
from riffler.report.wording import pixels, plural

_COLUMNS = (
    Column("slice", style="bold"),
    Column("role"),
    Column("size", True),
    Column("place", True),
    Column("states"),
    Column("from"),
)


#: Questions that somebody answers; more are asked for.
ASKED = 12


def show_draft(screen: Screen, draft: DraftFile, *, is_dry: bool) -> None:
    """The drafted slices in a table, what CSS draws, and what to do next."""
    slices = draft.draft.slices
    if slices and not screen.is_quiet:
        screen.table(_COLUMNS, [_row(new, draft.draft) for new in slices])
        screen.say("")
    for line in _beside(draft):
        screen.say(line)
    where = as_typed(draft.path)
    if draft.is_added and not slices:
        screen.say(f"{where} lacks nothing that could be drafted.")
        return
    verb = (
        ("Would add" if is_dry else "Added")
        if draft.is_added
        else ("Would write" if is_dry else "Wrote")
    )
    what = plural(len(slices), "slice")
    screen.say(f"{verb} {what} to {where}." if draft.is_added else f"{verb} {where}: {what}.")
    if draft.questions:
        count = plural(len(draft.questions), "question")
        screen.say(f"{count} open: riffler draft {as_typed(draft.mockup)} --questions")
    if not is_dry:
        screen.say("Read it, then: riffler survey")


def _beside(draft: DraftFile) -> Iterator[str]:
    """What is known beside the slices: what CSS draws, what was read, what is cut elsewhere."""
    if draft.draft.css:
        kinds = plural(len(draft.draft.css), "layer")
        yield f"CSS draws {kinds} by itself; the cutlist says which and how."
    if draft.draft.says and not draft.is_added:
        yield _read(draft.draft)
    if draft.is_unread:
        yield "Words in pixels were not read: Tesseract reads them where it is installed."
    if draft.draft.elsewhere:
        yield f"Cut from another mockup already: {', '.join(draft.draft.elsewhere)}."


def _read(draft: Draft) -> str:
    """How many texts in pixels were read, and what was not sure."""
    unsure = [clean(word) for said in draft.says.values() for word in said.unsure]
    doubt = f"; not sure of {', '.join(unsure[:ASKED])}" if unsure else ""
    return f"{plural(len(draft.says), 'text')} in pixels read, and kept in [says]{doubt}."


def _row(new: DraftedSlice, draft: Draft) -> tuple[str, ...]:
    table = new.table
    name = f"{new.name} x {table.times.total}" if table.times else new.name
    size = f"{table.at[2]} x {table.at[3]}" if table.at else pixels(new.box.width, new.box.height)
    group = draft.groups[table.in_][0] if table.in_ and table.in_ in draft.groups else None
    role = table.role or (group.role if group else None) or "picture"
    place = f"{new.box.x}, {new.box.y}"
    return name, role, size, place, ", ".join(table.state), _origin(new.layers)


def _origin(layers: Sequence[str]) -> str:
    """The layer that a slice comes from, or the innermost group around several."""
    if len(layers) < 2:
        return "".join(layers)
    parts = [address.split("/") for address in layers]
    shared = [names[0] for names in zip(*parts, strict=False) if len(set(names)) == 1]
    return "/".join(shared) or f"{layers[0]} and {len(layers) - 1} more"


def show_questions(screen: Screen, draft: DraftFile, *, show_all: bool = False) -> None:
    """The questions as a letter: the first of them, which weigh most, unless `show_all` one."""
    if not draft.questions:
        screen.say("The mockup leaves nothing open that could be asked.")
        return
    asked = draft.questions if show_all else draft.questions[:ASKED]
    for line in _letter(asked, as_typed(draft.mockup)):
        screen.line(line)
    if len(asked) < len(draft.questions):
        screen.line("")
        more = len(draft.questions) - len(asked)
        screen.say(f"{more} more: riffler draft {as_typed(draft.mockup)} --questions --all")


def _letter(asked: Sequence[Question], mockup: str) -> Iterator[str]:
    """The questions as a letter: numbered, under what they are about."""
    yield from (f"Questions about {mockup}", "")
    about = ""
    for number, question in enumerate(asked, start=1):
        if question.about != about:
            if about:
                yield ""
            about = question.about
            yield about[0].upper() + about[1:]
        yield f"{number:>3}. {question.text}"
