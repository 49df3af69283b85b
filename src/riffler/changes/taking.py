"""A new version of mockups -> the project that follows it: cutlists, and what was roughed out.

All is worked out before anything is written, the new templates and styles in a copy of the project
that already has the new cutlists. `carrying` writes it.
"""

from __future__ import annotations

import re
from collections import defaultdict
from collections.abc import Collection, Iterator, Sequence
from contextlib import nullcontext
from dataclasses import dataclass, field, replace
from pathlib import Path

from riffler.changes.asked import Asked
from riffler.changes.calling import called_as_before
from riffler.changes.change import ChangeKind
from riffler.changes.comparison import Changed
from riffler.changes.copying import copied
from riffler.changes.following import Left, LetGo, PutAside, followed
from riffler.changes.keeping import kept
from riffler.changes.merging import Dispute, merged
from riffler.changes.rereading import Reread, reread
from riffler.changes.touching import shown_by
from riffler.cutlist.file import CutlistFile
from riffler.files import BOM, Edit, is_inside, read_whole, real, write_whole
from riffler.markup import remembered
from riffler.markup.element import Lengths
from riffler.markup.roughing import rough
from riffler.mirror.looking import mirror
from riffler.project.places import MARKER, PAGE_STYLES
from riffler.project.project import Project
from riffler.project.written import Mention
from riffler.workspace import Workspace
from riffler.workspace.workspace import cutlists_for

#: A call that shows a slice, on its own.
_CALL = r"""\{{\{{-?\s*(inlay\(\s*["']({})["'][^{{}}]*?)\s*-?\}}\}}"""


@dataclass
class Taken:
    """What is to become of the project's files, and what is left for a person.

    `disputes` are lines that both the person and the new version changed, by file: the person's
    stay. `new` are files that the new version has and the old one had not. `by_hand` are lines that
    nothing is merged into and that say what was changed. `mockups` are those that have a new
    version; `let_go` are layers that cutlists named and that are gone, `put_aside` slices that
    showed no others, `reread` what texts in pixels say now; `shown_by` are the lines that showed
    each of these, as they were.
    """

    edits: list[Edit] = field(default_factory=list)
    new: list[Edit] = field(default_factory=list)
    left: list[Left] = field(default_factory=list)
    disputes: list[tuple[Path, Dispute]] = field(default_factory=list)
    by_hand: list[Mention] = field(default_factory=list)
    runs: list[remembered.Run] = field(default_factory=list)
    mockups: list[Path] = field(default_factory=list)
    let_go: list[LetGo] = field(default_factory=list)
    put_aside: list[PutAside] = field(default_factory=list)
    reread: list[Reread] = field(default_factory=list)
    shown_by: dict[str, tuple[Mention, ...]] = field(default_factory=dict)


def planned(workspace: Workspace, asked: Sequence[Asked]) -> Taken:
    """Everything that follows the new versions, worked out; nothing is written."""
    project, taken = workspace.project, Taken(mockups=[request.files[1] for request in asked])
    if not asked:
        return taken
    shared = _shared(project)
    for request in asked:
        for file in cutlists_for(project, request.files[1]):
            _follow(file, request.changed, shared, taken)
    names = [slice_.slice for slice_ in taken.put_aside if not slice_.state]
    taken.shown_by = shown_by(project, names) if names else {}
    _merge(project, [request.files[1] for request in asked], taken)
    _set_aside(project, taken)
    runs = (*remembered.runs(project), *taken.runs)
    known_paths = {real(project.root / name) for run in runs for name in run.files}
    taken.by_hand = [
        mention
        for request in asked
        for mention in _old_lines(request)
        if real(mention.file) not in known_paths
    ]
    return taken


def _old_lines(asked: Asked) -> Iterator[Mention]:
    """Lines that say words or colours that are others now."""
    mentions = (
        mention
        for change, touch in zip(asked.changed.changes, asked.touched, strict=True)
        if change.kind in (ChangeKind.WORDS, ChangeKind.RECOLOURED)
        for mention in touch.lines
    )
    yield from dict.fromkeys(mentions)


def _follow(file: CutlistFile, changed: Changed, shared: frozenset[Path], taken: Taken) -> None:
    """One cutlist of a mockup, and what it includes."""
    outcome = followed(file, changed, shared)
    if file.path in outcome.texts:
        taken.reread += reread(file, changed, outcome)
    taken.put_aside += outcome.put_aside
    taken.left += outcome.left
    taken.let_go += outcome.let_go
    for where, text in outcome.texts.items():
        before = text_of(where)
        if text != before:
            taken.edits.append(Edit(where, before, text))


def _set_aside(project: Project, taken: Taken) -> None:
    """Make comments of what still shows slices that are gone: a person wrote to it."""
    names = [name for slice_ in taken.put_aside for name in slice_.names]
    calls = re.compile(_CALL.format("|".join(map(re.escape, names))))
    edits = {edit.file: edit for edit in taken.edits}
    for path in project.sources("pages") if names else ():
        if path.suffix != ".html":
            continue
        edit = edits.get(path)
        if edit is None:
            text = text_of(path)
            edit = Edit(path, text, text)
        for match in calls.finditer(edit.after):
            line = edit.after.count("\n", 0, match.start()) + 1
            why = f'"{match[2]}" is gone: it is a comment now'
            taken.left.append(Left(path, f"line {line}", why))
        after = calls.sub(r"{# \1 #}", edit.after)
        if after != edit.after:
            edits[path] = replace(edit, after=after)
    taken.edits = list(edits.values())


def _shared(project: Project) -> frozenset[Path]:
    """The files that cutlists of several mockups include, without links."""
    mockups: dict[Path, set[Path]] = defaultdict(set)
    for file in map(CutlistFile.read, project.cutlists()):
        for part in file.included:
            mockups[real(part.written.path)].add(real(file.mockup_path))
    return frozenset(path for path, of in mockups.items() if len(of) > 1)


def _merge(project: Project, mockups: Sequence[Path], taken: Taken) -> None:
    """What was roughed out of these mockups, as it would be now, merged into what it became."""
    changed = {real(path) for path in mockups}
    is_narrow = any(file.label for path in mockups for file in cutlists_for(project, path))
    for run in remembered.runs(project):
        own_paths = {real(project.root / name) for name in run.mockups}
        is_meant = is_narrow or own_paths & changed
        if not is_meant or not all(path.is_file() for path in own_paths):
            taken.runs.append(run)
            continue
        now = _roughed_again(project, run, taken.edits, changed)
        _merge_run(project, run, now, taken)
        taken.runs.append(replace(run, files=now))


def _roughed_again(
    project: Project, run: remembered.Run, edits: Sequence[Edit], changed: Collection[Path]
) -> dict[str, str]:
    """The files that would be roughed out now, in a copy of the project with its new cutlists.

    Things are called in them as they were.
    """
    with copied(project) as copy:
        copy_sources(project, copy)
        for edit in edits:
            place = copy / project.relative(edit.file)
            write_whole(place, edit.after.encode(), is_lasting=False)
        workspace = Workspace(Project.at(copy))
        paths = [copy / mockup for mockup in run.mockups]
        with mirror(workspace) if run.is_looked_at else nullcontext() as seen:
            look = seen.look if seen else None
            made = rough(workspace, paths, Lengths(run.unit), before=run.before, look=look)
        known = {real(copy / project.relative(path)) for path in changed}
        same = [
            name for name, of in made.mockups.items() if not known & {real(path) for path in of}
        ]
    folders = project.settings.folders
    files = [f"{folders.pages}/{page}.html" for page in same]
    files += [f"{folders.styles}/{PAGE_STYLES}/{page}.css" for page in same]
    return kept(run.files, called_as_before(run.files, dict(made.files), files), files)


def copy_sources(project: Project, copy: Path, more: Sequence[str] = ()) -> None:
    """Put all that roughing out reads into another folder, and what lies in `more` folders."""
    for path in _sources(project, more):
        write_whole(copy / project.relative(path), read_whole(path), is_lasting=False)


def _sources(project: Project, more: Sequence[str]) -> Iterator[Path]:
    """Settings, cutlists, fonts and mockups, and what lies in `more` of the `[folders]`."""
    paths = [project.root / MARKER, *project.settings.icon_files(project.root)]
    for name in ("cuts", "fonts", *more):
        paths += project.sources(name)
    paths += [CutlistFile.read(path).mockup_path for path in project.cutlists()]
    for path in dict.fromkeys(paths):
        if path.is_file() and is_inside(path, project.root):
            yield path


def _merge_run(project: Project, run: remembered.Run, now: dict[str, str], taken: Taken) -> None:
    """Every file of a run; what the new version has no use for stays, and is told."""
    for name in sorted(run.files.keys() - now.keys()):
        if (project.root / name).is_file():
            why = "the new version has no use for it"
            taken.left.append(Left(project.root / name, "the whole file", why))
    for name, theirs in now.items():
        path = project.root / name
        base = run.files.get(name)
        if base is None:
            if not path.exists():
                taken.new.append(Edit(path, "", theirs))
            continue
        if base == theirs:
            continue
        if not path.is_file():
            taken.left.append(Left(path, "the whole file", "it is there no more, and stays so"))
            continue
        mine = text_of(path)
        outcome = merged(base, mine, theirs)
        taken.disputes += [(path, dispute) for dispute in outcome.disputes]
        if outcome.text != mine:
            taken.edits.append(Edit(path, mine, outcome.text))


def text_of(path: Path) -> str:
    """The text of a file as `rewrite` compares it. Raises RifflerError where it can't be read."""
    return read_whole(path).decode().removeprefix(BOM)
