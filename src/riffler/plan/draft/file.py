"""A mockup's file -> a cutlist's file: where it goes, and what an existing one lacks."""

from __future__ import annotations

import os
from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import dataclass
from functools import partial
from pathlib import Path
from typing import Any

from riffler.analyse.repetition import Lattice, lattices
from riffler.cutlist.file import CutlistFile
from riffler.cutlist.model import Times
from riffler.cutlist.resolve import resolve
from riffler.cutlist.sound_names import media_query, sound
from riffler.errors import OutputError, RifflerError
from riffler.files import Edit, as_typed, real, rewrite, write_whole
from riffler.geometry import Box
from riffler.mockup.font_book import FontBook
from riffler.plain import plain
from riffler.plan.draft.drafted import Draft, DraftedSlice
from riffler.plan.draft.drafted import written as values_of
from riffler.plan.draft.elsewhere import Elsewhere
from riffler.plan.draft.lacking import added, lacking
from riffler.plan.draft.narrow import under_wide_names
from riffler.plan.draft.questions import Question, questions
from riffler.plan.draft.signs import signs_said
from riffler.plan.draft.state import times_of
from riffler.plan.draft.text import text_of
from riffler.plan.draft.whole import draft
from riffler.project.lock import locked
from riffler.reading.reading import Reading
from riffler.reading.wording import reason
from riffler.typeset.layers import texts_in_pixels, written
from riffler.typeset.saying import Progress, SaidText, read_texts
from riffler.typeset.tesseract import is_here
from riffler.workspace import Opened, Workspace
from riffler.workspace.workspace import cutlists_for

#: The version of what `as_data` gives.
VERSION = 2


@dataclass(frozen=True)
class DraftFile:
    """What became of a draft: the file, its text, and what the mockup leaves open.

    `is_added` says that the slices went into a cutlist that was there; `is_unread` that some text
    in pixels was not read.
    """

    path: Path
    text: str
    draft: Draft
    questions: list[Question]
    mockup: Path
    is_added: bool
    is_unread: bool = False

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
            "says": {address: plain(text) for address, text in draft.says.items()},
            "questions": plain(self.questions),
        }


def _as_data(new: DraftedSlice) -> Iterator[dict[str, Any]]:
    """A slice as data; one whose boxes stand at several steps is said once for each run of them."""
    values: dict[str, Any] = plain(new)
    del values["table"], values["boxes"]
    for box, times in _runs(new):
        keys = {**new.keys, "times": values_of(times)} if times else new.keys
        yield {**values, "box": plain(box), "keys": plain(keys), "states": plain(new.states)}


def _runs(new: DraftedSlice) -> Iterator[tuple[Box, Times | None]]:
    """The boxes of a slice by the first of those at equal steps, with how often and how far."""
    times = new.table.times
    if new.boxes:
        yield from ((box, None) for box in new.boxes)
        return
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
    read: bool | None = None,
    progress: Progress | None = None,
) -> DraftFile:
    """Draft a cutlist for a mockup, and write it unless it is a dry run.

    `when` is the media query of a narrow mockup, which has slices of the others' names alone.
    Texts in pixels are read and kept in it where Tesseract is installed; `read` says yes or no.

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
    language = _language(workspace, read)
    says = partial(_says, existing, language, workspace.fonts, progress)
    drafted = _drafted(workspace, opened, files, density or opened.density, when, says)
    is_unread = _is_unread(drafted, language, read)
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
    return DraftFile(target, text, drafted, asked, path, existing is not None, is_unread)


def _language(workspace: Workspace, read: bool | None) -> str | None:
    """What words in pixels are read in; None where they are not read."""
    return workspace.language if (is_here() if read is None else read) else None


def _says(
    existing: CutlistFile | None,
    language: str | None,
    fonts: FontBook,
    progress: Progress | None,
    reading: Reading,
) -> dict[str, SaidText]:
    """What texts in pixels say: as the cutlist has it, and as it is read in a `language`."""
    reading.tell(existing.cutlist.says if existing else ())
    texts = written(reading, existing)
    known = {layer.address: SaidText("\n".join(lines)) for layer, lines in texts}
    if language is None:
        return known
    signs = signs_said(reading, fonts.own_faces(), language)
    reading.tell(signs)
    known |= {address: SaidText(text) for address, text in signs.items()}
    return known | read_texts(reading, language, known, fonts.own_faces(), progress)


def _is_unread(drafted: Draft, language: str | None, read: bool | None) -> bool:
    """Whether some text in pixels was not read though nobody declined it."""
    if language is not None or read is not None:
        return False
    texts = (layer.address for layer in texts_in_pixels(drafted.reading))
    return any(address not in drafted.says for address in texts)


@dataclass(frozen=True)
class _Added(Edit):
    """A cutlist before and after the drafted slices that it lacked."""

    draft: Draft


def _add(
    workspace: Workspace, existing: CutlistFile, opened: Opened, drafted: Draft, *, dry_run: bool
) -> _Added:
    """Add what a cutlist lacks, as it is by now: a person may have saved it while we drafted."""

    def edited() -> _Added:
        now = CutlistFile.read(existing.path)
        new = lacking(drafted, list(resolve(now, opened.renderer)))
        return _Added(now.path, now.written.text, added(now, new), new)

    if dry_run:
        return edited()
    project = workspace.project if workspace.has_project else None
    with locked(project):
        return rewrite(edited, project.root if project else existing.path.parent)


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
    read: Callable[[Reading], Mapping[str, SaidText]],
) -> Draft:
    """What a mockup of its own would be cut into; or one that is narrow, beside the wide ones."""
    elsewhere = Elsewhere(workspace, files if when is None else ())
    drafted = draft(opened.renderer, density=density, elsewhere=elsewhere, read=read)
    return drafted if when is None else under_wide_names(drafted, workspace, files)


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
