"""Where a project is and what lies in it, by name, without reading its settings."""

from __future__ import annotations

import os
from pathlib import Path

#: The file that makes a folder a project.
MARKER = "riffler.toml"

#: Cache and journal; can be deleted at any time.
WORK = ".riffler"

#: Results of earlier runs, in the work folder.
CACHE = "cache"

#: Who writes in the project, in the work folder.
LOCK = "lock"

#: What a run is about to write, kept in the work folder while it does.
JOURNAL = "journal.json"

#: Where layers lay at the last cut, in the work folder.
LYING = "lying.json"

#: The versions of mockups that were last cut, in the work folder.
VERSIONS = "versions"

#: What was roughed out, in the work folder.
ROUGHED = "roughed.json"

#: What is being roughed out, kept in the work folder until it is.
ROUGHING = "roughing.json"

#: The name that was last given, and what had it before.
RENAMED = "renamed.json"

#: What is being taken over from a new version of mockups, kept in the work folder until it is.
TAKING = "taking.json"

#: The record of what was made, in the output folder.
LEDGER = "ledger.json"

#: The version of what `riffler cut` and `riffler build` report: assets as the ledger has them.
CUTS = 2

#: Endings that hold a typeface.
FONT_ENDINGS = (".ttf", ".otf", ".woff2")


def located(path: Path) -> Path:
    """A file as it was typed; one that is not there as seen from the project's folder."""
    root = root_of(Path.cwd())
    if root is None or path.is_absolute() or path.exists() or not (root / path).is_file():
        return path
    return Path(os.path.relpath(root / path))


def root_of(folder: Path) -> Path | None:
    """The nearest project folder, looking upwards; None outside of any."""
    start = Path(os.path.realpath(folder))  # links in a circle are none of a project
    return next(
        (candidate for candidate in (start, *start.parents) if (candidate / MARKER).is_file()), None
    )


#: Below the styles, the folder of the style sheets that are linked by the page called like them.
PAGE_STYLES = "pages"
