"""The files in `data/` -> what templates know as `data`."""

from __future__ import annotations

from riffler.errors import WrittenError
from riffler.files import files_below, is_inside
from riffler.project.project import Project
from riffler.project.written import Written


def read_data(project: Project) -> dict[str, object]:
    """What each TOML file says, by its name; `-` in it becomes `_`, as templates write names.

    Raises WrittenError for a file that is no TOML, or lies outside the project.
    """
    folder = project.folder("data")
    found: dict[str, object] = {}
    for path in files_below(folder) if folder.is_dir() else ():
        if path.suffix != ".toml":
            continue
        if not is_inside(path, project.root):
            raise WrittenError(f'"{path.name}" leads out of the project through a link.')
        name = "_".join(path.relative_to(folder).with_suffix("").parts).replace("-", "_")
        found[name] = Written.read(path).data
    return found
