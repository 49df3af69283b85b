"""Files that a person names -> a sprite or a file of symbols, without a project."""

from __future__ import annotations

from collections.abc import Sequence
from pathlib import Path

from riffler.errors import RifflerError
from riffler.geometry import Box
from riffler.jobs.task import Drawing
from riffler.plain import slug
from riffler.project.sprite_settings import Sprite
from riffler.sprite.sheet import CLASS, MakeSprite, SpriteSheets, style_sheet
from riffler.workspace import Workspace


def names_of(paths: Sequence[Path]) -> list[str]:
    """What each file is called in classes and ids. Raises RifflerError for two of one name."""
    names = [slug(path.stem) for path in paths]
    twice = next((name for name in names if names.count(name) > 1), None)
    if twice is not None:
        raise RifflerError(f'Two of the files would be called "{twice}".', "Rename one of them.")
    return names


def sprite(
    workspace: Workspace, paths: Sequence[Path], name: str, how: Sprite, density: float
) -> dict[str, bytes]:
    """The files of a sprite of pictures, by their names, the style sheet last.

    `density` is how many of the files' pixels a CSS pixel is.
    """
    names, drawings = names_of(paths), []
    for path in paths:
        opened = workspace.open(path)
        mockup = opened.mockup
        drawings.append(Drawing(opened.key, mockup.box, 1.0, mockup.drawn))
    sheets = MakeSprite(tuple(drawings), (density,) * len(drawings), how).run(workspace)
    return files_of(sheets, name, names, how)


def files_of(
    sheets: SpriteSheets, name: str, names: Sequence[str], how: Sprite
) -> dict[str, bytes]:
    """The sheets and their style sheet, side by side in a folder."""
    result, addresses = {}, {}
    for file in sheets.files:
        mark = "" if file.size == "1x" else f"@{file.size}"
        addresses[file.size] = f"{CLASS}{name}{mark}.{how.save}"
        result[addresses[file.size]] = file.data
    members: dict[str, Box] = dict(zip(names, sheets.places, strict=True))
    text = style_sheet(name, addresses, sheets.css, members, ".")
    return {**result, f"{CLASS}{name}.css": text.encode()}
