"""The files in `data/` -> what templates know as `data`."""

from __future__ import annotations

from riffler.project.project import Project
from riffler.project.written import Written


def read_data(project: Project) -> dict[str, object]:
    """What each TOML file says, by its name; `-` in it becomes `_`, as templates write names.

    Raises WrittenError for a file that is no TOML.
    """
    folder = project.folder("data")
    result: dict[str, object] = {}
    for path in project.sources("data"):
        if path.suffix != ".toml":
            continue
        name = "_".join(path.relative_to(folder).with_suffix("").parts).replace("-", "_")
        result[name] = Written.read(path).data
    return result
