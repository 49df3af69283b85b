"""What changed since the last cut -> its pictures at once, before they are encoded."""

from __future__ import annotations

import io
from collections import defaultdict
from pathlib import PurePosixPath

from riffler.color import Pixels, to_bytes
from riffler.cutting.pending import is_pending
from riffler.cutting.slices import plan
from riffler.jobs.cache import Cache
from riffler.output.ledger import Ledger
from riffler.project.places import CACHE
from riffler.roles.picture import stem_of
from riffler.workspace import Workspace
from riffler.workspace.prepare import Wanted, known_names, prepare, read_cutlists

#: Changed pictures beyond which the wait is no shorter so.
MOST = 12


def early(workspace: Workspace) -> dict[str, bytes]:
    """PNGs by the names of the files in the output that they stand for until those are cut.

    Nothing where a cut would make much anew. Raises RifflerError for mistakes in cutlists
    and mockups.
    """
    project = workspace.project
    files = read_cutlists(project)
    cache = Cache(project.work / CACHE)
    workspace.memory.add(cache.boxes())
    wanted = Wanted(workspace, prepare(workspace, files), frozenset(known_names(files)))
    known = _files_by_stem(Ledger.read(project.out))
    tasks = [task for task in plan(wanted) if is_pending(task, cache, workspace)]
    result: dict[str, bytes] = {}
    for task in tasks if len(tasks) <= MOST else ():
        names = known[stem_of(task.slice, task.state, task.label, task.part, task.size)]
        if names:
            data = as_png(task.operation.made(workspace).pixels)
            result |= dict.fromkeys(names, data)
    return result


def _files_by_stem(ledger: Ledger) -> dict[str, list[str]]:
    """The pictures that were cut, in all their formats."""
    result = defaultdict[str, list[str]](list)
    for asset in ledger.assets:
        if asset.made_by == "cut" and not asset.file.endswith(".svg"):
            result[PurePosixPath(asset.file).stem].append(asset.file)
    return result


def as_png(pixels: Pixels) -> bytes:
    """Pixels as a PNG that is quick to make, and large."""
    from PIL import Image

    out = io.BytesIO()
    Image.fromarray(to_bytes(pixels)).save(out, "PNG", compress_level=1)
    return out.getvalue()
