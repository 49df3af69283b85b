"""A mockup's file -> a cutlist's file: where it goes, and what an existing one lacks."""

from __future__ import annotations

import os
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from pathlib import Path
from typing import TYPE_CHECKING, Any

from riffler.analyse.repetition import Lattice, lattices
from riffler.cutlist.editing import CutlistText
from riffler.cutlist.file import CutlistFile
from riffler.cutlist.model import Times
from riffler.cutlist.resolve import resolve
from riffler.cutlist.resolved import ResolvedSlice
from riffler.cutlist.sound_names import media_query, sound
from riffler.errors import OutputError, RifflerError
from riffler.files import Edit, as_typed, real, rewrite, write_whole
from riffler.geometry import Box
from riffler.plain import plain
from riffler.plan.draft.drafted import Draft, DraftedSlice, written
from riffler.plan.draft.elsewhere import Elsewhere
from riffler.plan.draft.questions import Question, questions
from riffler.plan.draft.state import times_of
from riffler.plan.draft.text import slice_text, text_of
from riffler.plan.draft.whole import draft
from riffler.project.lock import locked
from riffler.reading.wording import reason
from riffler.workspace import Opened, Workspace
from riffler.workspace.workspace import cutlists_for

if TYPE_CHECKING:
    from riffler.plan.draft.saying import Progress

#: The version of what `as_data` gives.
VERSION = 2

#: A slice that covers so much of a drafted one, and the other way round, is the same.
SAME = 0.8


@dataclass(frozen=True)
class DraftFile:
    """What became of a draft: the file, its text, and what the mockup leaves open.

    `is_added` says that the slices went into a cutlist that was there.
    """

    path: Path
    text: str
    draft: Draft
    questions: list[Question]
    mockup: Path
    is_added: bool

    def as_data(self) -> dict[str, Any]:
        """The draft as commands report it."""
        draft = self.draft
        return {
            "mockup": plain(self.mockup),
            "file": plain(self.path),
            "density": draft.density,
            "why_density": draft.why_density,
            "guides": plain(draft.guides),
            "slices": [values for new in draft.slices for values in _as_data(new)],
            "css": [
                {
                    "layer": address,
                    "why": reason(judgement, draft.density),
                    "style": plain(judgement.style),
                }
                for address, judgement in draft.css
            ],
            "questions": plain(self.questions),
        }


def _as_data(new: DraftedSlice) -> Iterator[dict[str, Any]]:
    """A slice as data; one whose boxes stand at several steps is said once for each run of them."""
    values: dict[str, Any] = plain(new)
    del values["table"]
    for box, times in _runs(new):
        keys = {**new.keys, "times": written(times)} if times else new.keys
        yield {**values, "box": plain(box), "keys": plain(keys), "states": plain(new.states)}


def _runs(new: DraftedSlice) -> Iterator[tuple[Box, Times | None]]:
    """The boxes of a slice by the first of those at equal steps, with how often and how far."""
    times = new.table.times
    if times is None or not (times.right or times.down):
        yield new.box, None
        return
    boxes = [new.box.moved(*times.offset(index)) for index in range(times.total)]
    left = set(range(len(boxes)))
    for run in lattices(boxes, 1):
        left -= set(run.members)
        yield boxes[run.members[0]], times_of(run, len(run.members), same=times.same)
    for index in sorted(left):
        yield boxes[index], times_of(Lattice((index,), 1, (0, 0)), 1, same=times.same)


def draft_mockup(
    workspace: Workspace,
    path: Path,
    *,
    output: Path | None = None,
    add: bool = False,
    canvas: str | None = None,
    density: float | None = None,
    when: str | None = None,
    dry_run: bool = False,
    read: Progress | None = None,
) -> DraftFile:
    """Draft a cutlist for a mockup, and write it unless it is a dry run.

    `when` is the media query of a narrow mockup, which has slices of the others' names alone.
    With `read`, which is told how far it is, texts in pixels are read and kept in it.

    Raises OutputError when there is a cutlist already and nothing is to be added to it,
    RifflerError for a media query that is none.
    """
    if when is not None:
        _refuse_other(when)
    target = output or _target(workspace, path, canvas)
    existing = _existing(workspace, path, target) if add else None
    opened = workspace.open(path, canvas, existing)
    if target.exists() and existing is None and not dry_run:
        raise OutputError(
            f"There is a cutlist {as_typed(target)} already, so nothing was written.",
            "Use --add to add what it lacks, or -o to write another file.",
        )
    files = _others(workspace, target if existing is None else existing.path)
    if existing is not None:
        target, density = existing.path, existing.cutlist.density
    workspace.refuse_too_many(opened.mockup)
    drafted = _drafted(workspace, opened, files, density or opened.density, when)
    if read:  # it loads all that reading needs
        from riffler.plan.draft.saying import with_words

        drafted = with_words(drafted, workspace.language, read)
    if existing is None:
        named = Path(os.path.relpath(real(path), real(target.parent))).as_posix()
        text = text_of(drafted, named, canvas, when)
        if not dry_run:
            write_whole(target, text.encode(), is_new=True)
    else:
        added = _add(workspace, existing, opened, drafted, dry_run=dry_run)
        drafted, text = added.draft, added.after
    has_narrow = bool(when) or any(file.cutlist.when for file in files)
    asked = questions(drafted, workspace.fonts, has_narrow=has_narrow)
    return DraftFile(target, text, drafted, asked, path, existing is not None)


@dataclass(frozen=True)
class _Added(Edit):
    """A cutlist before and after the drafted slices that it lacked."""

    draft: Draft


def _add(
    workspace: Workspace, existing: CutlistFile, opened: Opened, drafted: Draft, *, dry_run: bool
) -> _Added:
    """Add what a cutlist lacks, as it is by now: a person may have saved it while we drafted."""

    def added() -> _Added:
        now = CutlistFile.read(existing.path)
        lacking = _lacking(drafted, _resolved(now, opened))
        return _Added(now.path, now.written.text, _added(now, lacking), lacking)

    if dry_run:
        return added()
    project = workspace.project if workspace.has_project else None
    with locked(project):
        return rewrite(added, project.root if project else existing.path.parent)


def _refuse_other(when: str) -> None:
    try:
        media_query(when)
    except ValueError as error:
        raise RifflerError(f"when: {error}.") from error


def _drafted(
    workspace: Workspace,
    opened: Opened,
    files: Sequence[CutlistFile],
    density: float | None,
    when: str | None,
) -> Draft:
    """What a mockup of its own would be cut into; or one that is narrow, beside the wide ones."""
    if when is None:
        return draft(opened.renderer, density=density, elsewhere=Elsewhere(workspace, files))
    return _shared(draft(opened.renderer, density=density, elsewhere=Elsewhere(workspace)), files)


def _shared(drafted: Draft, files: Sequence[CutlistFile]) -> Draft:
    """The slices of the draft that a wide mockup has as well, as often: it says what they mean."""
    counts = {
        name: table.times.total if table.times else 1
        for file in files
        if not file.cutlist.when
        for part in file.parts
        for name, table in part.said.slice.items()
    }
    slices = tuple(
        replace(new, table=new.table.model_copy(update={"alt": None, "alts": None}))
        for new in drafted.slices
        if counts.get(new.name) == (new.table.times.total if new.table.times else 1)
    )
    names = {new.name for new in slices}
    return replace(
        drafted,
        slices=tuple(
            drafted_slice for drafted_slice in slices if drafted_slice.table.like in {None, *names}
        ),
    )


def _target(workspace: Workspace, path: Path, canvas: str | None) -> Path:
    name = sound(f"{path.stem} {canvas}" if canvas else path.stem) + ".toml"
    return (workspace.project.folder("cuts") if workspace.has_project else Path()) / name


def _existing(workspace: Workspace, path: Path, target: Path) -> CutlistFile | None:
    """The cutlist to add to: the one that was named, or the project's for this mockup."""
    if target.exists():
        file = CutlistFile.read(target)
        if real(file.mockup_path) != real(path):
            raise RifflerError(f"{as_typed(target)} is the cutlist of another mockup.")
        return file
    files = cutlists_for(workspace.project, path) if workspace.has_project else ()
    return files[0] if files else None


def _others(workspace: Workspace, own_path: Path) -> list[CutlistFile]:
    """The other cutlists of the project."""
    paths = workspace.project.cutlists() if workspace.has_project else []
    return [CutlistFile.read(path) for path in paths if real(path) != real(own_path)]


def _resolved(file: CutlistFile, opened: Opened) -> list[ResolvedSlice]:
    return list(resolve(file, opened.renderer))


def _lacking(drafted: Draft, known_slices: list[ResolvedSlice]) -> Draft:
    """The draft without what the cutlist covers; what is new there has a name of its own."""
    taken = {slice_.name for slice_ in known_slices} | {
        slice_.entry.keys[1] for slice_ in known_slices
    }
    other_drafted_slices: list[DraftedSlice] = []
    called: dict[str, str] = {}
    for new in drafted.slices:
        if any(_covers(slice_, new) for slice_ in known_slices):
            continue
        name, number = new.name, 2
        while name in taken:
            name, number = f"{new.name}-{number}", number + 1
        taken.add(name)
        called[new.name] = name
        other_drafted_slices.append(replace(new, name=name))
    return replace(drafted, slices=tuple(_following(new, called) for new in other_drafted_slices))


def _following(new: DraftedSlice, called: Mapping[str, str]) -> DraftedSlice:
    """The slice, leaning on others by the names that they have now."""
    like = new.table.like
    if like is None or called.get(like, like) == like:
        return new
    return replace(new, table=new.table.model_copy(update={"like": called[like]}))


def _covers(known_resolved: ResolvedSlice, new: DraftedSlice) -> bool:
    """Whether a slice does what a drafted one would: it is that one changed, renamed, or replaced.

    Replaced it is by a larger one of its kind in which the same layers show.
    """
    shared = (new.box & known_resolved.box).area
    if new.name in (known_resolved.name, known_resolved.entry.keys[1]) and shared:
        return True
    if shared < SAME * new.box.area or (new.table.role == "words") == known_resolved.role.has_files:
        return False
    if shared >= SAME * known_resolved.box.area:
        return True
    is_text = new.table.role == "words" and new.table.link is None
    return is_text or not known_resolved.rest.shown.isdisjoint(new.layers)


def _added(existing: CutlistFile, drafted: Draft) -> str:
    """The cutlist's text with the drafted slices behind it, and the guides and groups they use."""
    text = CutlistText(existing.written.text)
    tables = [new.table for new in drafted.slices]
    for axis, guides in drafted.guides.items():
        used = {edge for table in tables for edge in (getattr(table, axis) or ())}
        for name, value in guides.items():
            if name in used and not text.has(("guides", axis, name)):
                text.write(("guides", axis, name), value)
    for name, (group, _) in drafted.groups.items():
        if any(table.in_ == name for table in tables) and not text.has(("group", name)):
            text.add_table(("group", name), written(group))
    for new in drafted.slices:
        text.append(slice_text(new))
    return text.text
