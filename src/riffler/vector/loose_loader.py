"""A drawing that a person names -> the files of a loading mark, with a page that shows it."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from pydantic import ValidationError

from riffler.errors import RifflerError
from riffler.plain import slug
from riffler.project.sprite_settings import Loader
from riffler.vector.batch import DrawingSource
from riffler.vector.loader import CLASS, DOTS, filled, html, mark, style_sheet
from riffler.workspace import Workspace


@dataclass(frozen=True)
class MadeLoader:
    """The files by their names, and the lines for a page."""

    files: Mapping[str, bytes]
    html: str


def made(
    workspace: Workspace, source: DrawingSource, name: str | None, values: Mapping[str, Any]
) -> MadeLoader:
    """Make the mark. Raises RifflerError for settings that do not go."""
    try:
        how = Loader.model_validate(values)
    except ValidationError as error:
        first = error.errors()[0]
        said_wrong = values.get(str(first["loc"][0]))
        raise RifflerError(
            f"--{first['loc'][0]} can't be {said_wrong!r}.",
            "riffler loader --help says what it takes.",
        ) from error
    called = slug(name or source.name)
    svg = mark(source.data, f"{CLASS}{called}", source.what, workspace)
    lines = html(called, svg, DOTS if "dots" in how.move else 0, how.text)
    css = style_sheet(called, how)
    return MadeLoader(
        {
            f"{CLASS}{called}.svg": svg.encode(),
            f"{CLASS}{called}.css": css.encode(),
            f"{CLASS}{called}.html": page(called, css, svg, how).encode(),
        },
        lines,
    )


def page(name: str, css: str, svg: str, how: Loader) -> str:
    """A page that shows the mark as it is asked for, larger, and in every way that it can move."""
    ways = {"as asked for": how, "large": how}
    for move in ("turn", "pulse", "dots"):
        ways[move] = how.model_copy(update={"move": [move]})
    ways["turn and pulse"] = how.model_copy(update={"move": ["turn", "pulse"]})
    shown, styles = [], [css]
    for number, (title, loader) in enumerate(ways.items()):
        called = name if loader is how else f"{name}-{number}"
        if loader is not how:
            styles.append(style_sheet(called, loader))
        dots = DOTS if "dots" in loader.move else 0
        shown.append((title, html(called, svg, dots, loader.text)))
    return filled("loader.html", name=name, css="".join(styles), shown=shown)
