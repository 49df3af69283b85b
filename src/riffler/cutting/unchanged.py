"""A project -> whether a run would only find what is there, told without opening a mockup.

After each whole run the hashes of all that it read are kept in the work folder, with those of what
it made. While both are the same there is nothing to do.
"""

from __future__ import annotations

import contextlib
import json
from collections.abc import Iterable
from pathlib import Path
from typing import Any, TypeAlias

from riffler import __version__
from riffler.errors import OutputError
from riffler.files import files_below, is_inside, sha256_of, write_whole
from riffler.output.ledger import Ledger
from riffler.output.publish import JOURNAL, Published
from riffler.plain import plain
from riffler.project.project import MARKER, Project

Hashes: TypeAlias = dict[str, str | None]

#: Below the work folder.
FILE = "unchanged.json"


def unchanged(project: Project) -> Published | None:
    """All as the last whole run left it; None when anything is different, or nobody can tell."""
    try:
        known = json.loads((project.work / FILE).read_bytes())
        ledger = Ledger.read(project.out)
        is_same = (
            known["version"] == __version__
            and not (project.work / JOURNAL).exists()
            and known["made"] == _made(ledger)
            and known["read"] == hashes(project, map(project.root.joinpath, known["mockups"]))
            and all(
                sha256_of(project.out / file) == hash_ for file, hash_ in known["made"]["files"]
            )
        )
    except (OSError, ValueError, KeyError, TypeError, OutputError):
        return None
    if not is_same:
        return None
    cut = [asset for asset in ledger.assets if asset.made_by == "cut"]
    return Published(unchanged=cut, words=list(ledger.words))


def remember(project: Project, mockups: Iterable[Path], read: Hashes) -> None:
    """Note what a whole run has `read` and made. Fonts of the system can't be noted.

    The hashes are those of before the run: what was saved anew meanwhile counts as changed.
    """
    path = project.work / FILE
    if project.settings.system_fonts:
        path.unlink(missing_ok=True)
        return
    known = {
        "version": __version__,
        "mockups": sorted({project.relative(mockup) for mockup in mockups}),
        "read": read,
        "made": _made(Ledger.read(project.out)),
    }
    with contextlib.suppress(OutputError):
        write_whole(path, json.dumps(known, indent=1).encode())


def hashes(project: Project, mockups: Iterable[Path]) -> Hashes:
    """The hash of every file that a run of these mockups reads, by its path in the project."""
    cuts = project.folder("cuts")
    paths = [
        project.root / MARKER,
        *(files_below(cuts) if cuts.is_dir() else ()),
        *project.fonts(),
    ]
    found = {path.relative_to(project.root).as_posix(): sha256_of(path) for path in paths}
    inside = (path for path in mockups if is_inside(path, project.root))
    return found | {project.relative(path): sha256_of(path) for path in inside}


def _made(ledger: Ledger) -> dict[str, Any]:
    """The files that were cut, with their hashes, and the regions of live text."""
    return {
        "files": sorted(
            [asset.file, asset.sha256] for asset in ledger.assets if asset.made_by == "cut"
        ),
        "words": [plain(region) for region in ledger.words],
    }
