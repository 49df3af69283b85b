"""A project's folder -> what a run would only find as it is, told without reading its settings.

After each whole run the hashes of all that it read are kept in the work folder, with those of what
it made. While both are the same there is nothing to do. Nothing here loads more than it needs: this
is asked first, every time.
"""

from __future__ import annotations

import contextlib
import json
import time
from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass
from pathlib import Path
from typing import TYPE_CHECKING, Any, TypeAlias

from riffler import __version__
from riffler.digests import is_settled, sha256_of
from riffler.errors import RifflerError
from riffler.files import files_below, is_inside, read_whole, real, remove, sweep
from riffler.plain import parse_json
from riffler.project.places import FONT_ENDINGS, JOURNAL, LEDGER, MARKER, VERSIONS, WORK
from riffler.project.sealed import read_note, write_note

if TYPE_CHECKING:
    from riffler.project.project import Project

#: Below the work folder.
FILE = "unchanged.json"

Note: TypeAlias = tuple[str, int, int, int]
"""Hash, size, time of the last change and of hashing, in nanoseconds."""

Notes: TypeAlias = dict[str, Note]


@dataclass(frozen=True)
class Unchanged:
    """All as the last whole run left it: the output folder, and what `Published.as_data` says."""

    out: Path
    data: Mapping[str, list[Any]]


def unchanged(root: Path) -> Unchanged | None:
    """What is there, when a run would only find that; None when anything is different."""
    try:
        known = parse_json(read_note(root / WORK / FILE) or b"")
        if known["version"] != __version__ or not _is_ended(root / WORK):
            return None
        out = root / known["out"]
        cut, words = _recorded(parse_json(read_whole(out / LEDGER)))
        files = [(root / path, note) for path, note in known["read"].items()]
        files += [(out / path, note) for path, note in known["made"].items()]
        is_same = (
            {asset["file"] for asset in cut} == set(known["made"])
            and words == known["words"]
            and set(_read(root, known["folders"], known["mockups"])) == set(known["read"])
            and all(_is_same(path, note) for path, note in files)
            and all(asset["sha256"] == known["made"][asset["file"]][0] for asset in cut)
        )
    except (OSError, RifflerError, ValueError, KeyError, TypeError):
        return None  # the cut says what is wrong
    data = {"written": [], "unchanged": cut, "removed": [], "words": words}
    return Unchanged(out, data) if is_same else None


def _is_ended(work: Path) -> bool:
    """Whether the last run came to its end, and kept what it cut."""
    return (work / VERSIONS).is_dir() and not (work / JOURNAL).exists()


def remember(project: Project, mockups: Iterable[Path], read: Notes) -> None:
    """Note what a whole run has `read` and made. Fonts of the system can't be noted.

    The notes are those of before the run: what was saved anew meanwhile counts as changed.
    """
    path = project.work / FILE
    if project.settings.system_fonts:
        remove(path, project.work)
        return
    folders = project.settings.folders
    with contextlib.suppress(RifflerError, OSError, ValueError):
        cut, words = _recorded(parse_json(read_whole(project.out / LEDGER)))
        known = {
            "version": __version__,
            "out": folders.out,
            "folders": {"cuts": folders.cuts, "fonts": folders.fonts},
            "mockups": _inside(project.root, mockups),
            "read": read,
            "made": {asset["file"]: _note(project.out / asset["file"]) for asset in cut},
            "words": words,
        }
        sweep(project.work, is_deep=False)
        write_note(path, json.dumps(known, indent=1).encode())


def notes(project: Project, mockups: Iterable[Path]) -> Notes:
    """A note of every file that a run of these mockups reads, by its path in the project."""
    folders = {"cuts": project.settings.folders.cuts, "fonts": project.settings.folders.fonts}
    paths = _read(project.root, folders, _inside(project.root, mockups))
    there = (path for path in paths if (project.root / path).is_file())  # the cut says what is not
    return {path: _note(project.root / path) for path in there}


def _recorded(ledger: Mapping[str, Any]) -> tuple[list[dict[str, Any]], list[Any]]:
    """What the ledger says was cut: files, and regions of live text."""
    return [asset for asset in ledger["assets"] if asset["made_by"] == "cut"], ledger["words"]


def _read(root: Path, folders: Mapping[str, str], mockups: Iterable[str]) -> Iterator[str]:
    """The paths of all that a run reads: settings, cutlists, fonts, mockups."""
    yield MARKER
    for path in files_below(root / folders["cuts"]):
        yield path.relative_to(root).as_posix()
    for path in files_below(root / folders["fonts"]):
        if path.suffix.lower() in FONT_ENDINGS:
            yield path.relative_to(root).as_posix()
    yield from mockups


def _inside(root: Path, mockups: Iterable[Path]) -> list[str]:
    paths = {real(path) for path in mockups if is_inside(path, root)}
    return sorted(path.relative_to(root).as_posix() for path in paths)


def _note(path: Path) -> Note:
    stat, now = path.stat(), time.time_ns()
    return sha256_of(path) or "", stat.st_size, stat.st_mtime_ns, now


def _is_same(path: Path, note: Note) -> bool:
    """Whether a file has the bytes of its note; hashed only where its time does not tell."""
    known, size, changed, hashed = note
    stat = path.stat()
    if (stat.st_size, stat.st_mtime_ns) == (size, changed) and is_settled(changed, hashed):
        return True
    return sha256_of(path) == known
