"""Drafts, edits and findings -> what people and programs read of them."""

from __future__ import annotations

from collections import Counter
from collections.abc import Mapping, Sequence
from pathlib import Path
from typing import Any

from rich.text import Text

from riffler.errors import RifflerError, nearest
from riffler.files import as_typed
from riffler.plan.drafted import DraftedSlice
from riffler.plan.drafting import Drafted
from riffler.plan.finding import Finding
from riffler.plan.mark import Marked
from riffler.plan.page import Page
from riffler.plan.questions import text_of
from riffler.plan.survey import Survey
from riffler.report.looking import box_as_json
from riffler.report.screen import Column, Screen, clean, pixels, plural

#: The version of the JSON shapes.
VERSION = 1

#: So many kinds of findings are listed in one line; more are only counted.
MOST = 6

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
        count = plural(len(done.questions), "question")
        screen.say(f"{count} open: riffler draft {done.mockup} --questions")
    if not is_dry:
        screen.say("Read it, then: riffler survey")


def _row(one: DraftedSlice) -> tuple[str, ...]:
    times, at = one.keys.get("times"), one.keys.get("at")
    name = f"{one.name} x {times['count']}" if isinstance(times, Mapping) else one.name
    size = pixels(one.box.width, one.box.height)
    if isinstance(at, list):
        size = f"{at[2]} x {at[3]}"
    icon = one.keys.get("in") == "icons"
    return (
        name,
        str(one.keys.get("role") or ("icon" if icon else "picture")),
        size,
        f"{one.box.x}, {one.box.y}",
        ", ".join(one.states),
        _origin(one.layers),
    )


def _origin(layers: Sequence[str]) -> str:
    """The layer that a slice comes from, or the innermost group around several."""
    if len(layers) < 2:
        return "".join(layers)
    parts = [address.split("/") for address in layers]
    shared = [one[0] for one in zip(*parts, strict=False) if len(set(one)) == 1]
    return "/".join(shared) or f"{layers[0]} and {len(layers) - 1} more"


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


def show_survey(screen: Screen, done: Survey, *, with_accepted: bool = False) -> None:
    """The findings with their numbers, grouped by cutlist, and one line that sums them up."""
    path = None
    for number, one in enumerate(done.findings, start=1):
        if one.said_at.path != path:
            if path is not None:
                screen.say("")
            path = one.said_at.path
            screen.line(Text(as_typed(path), style="bold"))
        screen.line(_headline(number, one))
        screen.line(Text(f"{'':5}{clean(one.message)}"))
        screen.line(Text(f"{'':5}{clean(one.advice)}", style="dim"))
    if done.findings:
        screen.say("")
    if with_accepted:
        for accepted in done.accepted:
            name = accepted.finding.slice or "the cutlist"
            screen.say(f"Accepted in {name}: {accepted.finding.kind}, “{accepted.reason}”")
    for name, kind in done.idle:
        screen.say(f"{name or 'The cutlist'} accepts {kind}, which is not found: it can go.")
    screen.say(_summary(done))


def _headline(number: int, one: Finding) -> Text:
    line = Text(f"{number:>3}  ")
    line.append(one.kind, style="bold yellow")
    line.append(f"  {one.slice}" if one.slice else "", style="bold")
    where = [f"line {one.said_at.line}"] if one.said_at.line else []
    if one.place is not None:
        where.append(f"at {one.place.x}, {one.place.y}")
    return line.append(f"  {', '.join(where)}" if where else "", style="dim")


def _summary(done: Survey) -> str:
    if not done.pages:
        return "There is no cutlist to survey. Begin with one: riffler draft MOCKUP"
    slices = plural(sum(len(page.slices) for page in done.pages), "slice")
    lists = plural(len(done.pages), "cutlist")
    accepted = f", {len(done.accepted)} accepted" if done.accepted else ""
    if not done.findings:
        return f"Surveyed {slices} in {lists}: nothing found{accepted}. Next: riffler cut"
    kinds = Counter(one.kind for one in done.findings).most_common()
    listed = ", ".join(f"{count} {kind}" for kind, count in kinds)
    if len(kinds) > MOST:
        listed = f"{len(kinds)} kinds"
    many = plural(len(done.findings), "finding")
    return f"Surveyed {slices} in {lists}: {many} ({listed}){accepted}."


def survey_as_json(done: Survey) -> dict[str, Any]:
    """The survey as data."""
    return {
        "survey": VERSION,
        "findings": [_finding(one) for one in done.findings],
        "accepted": [{**_finding(one.finding), "reason": one.reason} for one in done.accepted],
        "idle": [{"slice": name, "kind": kind} for name, kind in done.idle],
    }


def _finding(one: Finding) -> dict[str, Any]:
    return {
        "kind": one.kind,
        "slice": one.slice,
        "others": list(one.others),
        "file": as_typed(one.said_at.path),
        "line": one.said_at.line,
        "place": box_as_json(one.place),
        "pixels": one.pixels,
        "message": one.message,
        "advice": one.advice,
    }


def show_mark(screen: Screen, done: Marked) -> None:
    """The lines that went and came, with their numbers."""
    if screen.is_quiet:
        return
    for sign, number, line in done.lines:
        style = {"-": "red", "+": "green"}[sign]
        screen.line(Text(f"{number:>5} {sign} {clean(line)}".rstrip(), style=style))


def mark_as_json(done: Marked) -> dict[str, Any]:
    """The change as data."""
    return {
        "mark": VERSION,
        "file": as_typed(done.path),
        "lines": [{"sign": s, "line": number, "text": line} for s, number, line in done.lines],
        "box": box_as_json(done.box),
    }


def page_to_draw(done: Survey, cutlist: str | None) -> Page:
    """The page whose plan is drawn. Raises RifflerError when it is not said which."""
    pages = {page.bench.file.path.stem: page for page in done.pages}
    if cutlist is not None and Path(cutlist).stem not in pages:
        advice = nearest(cutlist, pages, "Cutlists are")
        raise RifflerError(f'There is no cutlist "{cutlist}".', advice)
    if cutlist is None and len(pages) != 1:
        raise RifflerError(
            "There are several cutlists, and a picture shows one." if pages
            else "There is no cutlist to draw.",
            f"Say which with --cutlist: {', '.join(pages)}." if pages else "",
        )  # fmt: skip
    return pages[Path(cutlist).stem if cutlist else next(iter(pages))]
