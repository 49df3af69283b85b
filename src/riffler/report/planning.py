"""Drafts, edits and findings -> what people and programs read of them."""

from __future__ import annotations

from typing import Any

from riffler.files import as_typed
from riffler.plan.drafting import Drafted
from riffler.plan.questions import text_of
from riffler.report.looking import box_as_json
from riffler.report.screen import Column, Screen, pixels, plural

#: The version of the JSON shapes.
VERSION = 1

_COLUMNS = (
    Column("slice", style="bold"), Column("role"), Column("size", True), Column("place", True),
    Column("states"), Column("from"),
)  # fmt: skip


def show_draft(screen: Screen, done: Drafted, *, is_dry: bool) -> None:
    """The drafted slices in a table, what CSS draws, and what to do next."""
    slices = done.draft.slices
    if slices and not screen.is_quiet:
        screen.table(_COLUMNS, [_row(one) for one in slices])
        screen.say("")
    if done.draft.css:
        kinds = plural(len(done.draft.css), "layer")
        screen.say(f"CSS draws {kinds} by itself; the cutlist says which and how.")
    if done.draft.elsewhere:
        names = ", ".join(done.draft.elsewhere)
        screen.say(f"Cut from another mockup already: {names}.")
    where = as_typed(done.path)
    if done.is_added and not slices:
        screen.say(f"{where} lacks nothing that could be drafted.")
        return
    verb = ("Would add" if is_dry else "Added") if done.is_added else (
        "Would write" if is_dry else "Wrote")  # fmt: skip
    what = plural(len(slices), "slice")
    screen.say(f"{verb} {what} to {where}." if done.is_added else f"{verb} {where}: {what}.")
    if done.questions:
        screen.say(f"{plural(len(done.questions), 'question')} open: riffler draft --questions")
    if not is_dry:
        screen.say("Read it, then: riffler survey")


def _row(one: Any) -> tuple[str, ...]:  # noqa: ANN401
    times = one.keys.get("times")
    name = f"{one.name} x {times['count']}" if times else one.name
    layers = one.keys.get("only") or one.keys.get("around") or one.layers[:1]
    more = f", {len(layers) - 1} more" if len(layers) > 1 else ""
    return (
        name,
        str(one.keys.get("role") or ("icon" if one.keys.get("in") == "icons" else "picture")),
        pixels(one.box.width, one.box.height),
        f"{one.box.x}, {one.box.y}",
        ", ".join(one.states),
        (layers[0] if layers else "") + more,
    )


def show_questions(screen: Screen, done: Drafted) -> None:
    """The questions as a letter."""
    if not done.questions:
        screen.say("The mockup leaves nothing open that could be asked.")
        return
    for line in text_of(done.questions, done.mockup).splitlines():
        screen.line(line)


def draft_as_json(done: Drafted) -> dict[str, Any]:
    """The draft as data."""
    return {
        "draft": VERSION,
        "mockup": done.mockup,
        "file": as_typed(done.path),
        "density": done.draft.density,
        "guides": done.draft.guides,
        "slices": [
            {
                "name": one.name, "box": box_as_json(one.box), "keys": one.keys,
                "states": one.states, "why": one.why, "layers": list(one.layers),
            }
            for one in done.draft.slices
        ],
        "css": [{"layer": address, "why": reason} for address, reason in done.draft.css],
        "questions": [{"about": one.about, "text": one.text} for one in done.questions],
    }  # fmt: skip
