"""What a person names -> drawings to tidy, and where their files go."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from riffler.cutlist.shown import painted_by, switched
from riffler.errors import RifflerError
from riffler.files import as_typed
from riffler.mockup import address
from riffler.mockup.svg.document import read_bytes
from riffler.plain import slug
from riffler.tidy.tidying import Tidying
from riffler.vector.for_page import ForPage
from riffler.vector.outlines import outlined
from riffler.vector.taken import taken
from riffler.vector.tidied import VectorFile, make
from riffler.workspace import Workspace

#: Of what is printed as JSON.
VERSION = 1

#: In the place of a file: it goes to standard output.
NOWHERE = Path("-")


@dataclass(frozen=True)
class DrawingSource:
    """A drawing to tidy: its text, what it is called, and what it is in messages."""

    data: bytes
    name: str
    what: str


def gather(
    workspace: Workspace, paths: Sequence[Path], only: Sequence[str], *, is_each: bool
) -> list[DrawingSource]:
    """The drawings: whole files, or layers of one mockup. Raises RifflerError as these do."""
    if not only and not is_each:
        return [DrawingSource(read_bytes(path), slug(path.stem), as_typed(path)) for path in paths]
    opened = workspace.open(paths[0])
    mockup = opened.mockup
    wanted = list(only) or [layer.address for layer in mockup.layers if layer.visible]
    alone = [[item] for item in sorted(address.find_all(mockup, wanted))] if is_each else [wanted]
    if is_each:
        order = {layer.address: place for place, layer in enumerate(mockup.walk())}
        alone.sort(key=lambda names: order[names[0]])
    sources, density = [], opened.density or 1.0
    for layers, name in zip(alone, _names([names[0] for names in alone], paths[0]), strict=True):
        box = painted_by(opened.renderer, layers)
        shown = switched(mockup, mockup.drawn, only=layers)
        parts = sorted(address.find_all(mockup, layers))
        data = taken(opened.renderer, shown, box, density, parts)
        sources.append(DrawingSource(data, name, f"{as_typed(paths[0])}, {', '.join(layers)}"))
    return sources


def _names(layers: Sequence[str], mockup: Path) -> list[str]:
    """What each file is called: after its layer, with the group around it where names are equal."""
    last = [slug(address.clean(address.last(layer))) for layer in layers]
    if len(set(last)) < len(last):
        around = [layer.removesuffix(address.last(layer)).rstrip("/") for layer in layers]
        last = [
            f"{slug(address.clean(address.last(group)))}-{name}" if group else name
            for group, name in zip(around, last, strict=True)
        ]
    seen = dict[str, int]()
    names = []
    for name in last:
        seen[name] = seen.get(name, 0) + 1
        names.append(name if seen[name] == 1 else f"{name}-{seen[name]}")
    return names or [slug(mockup.stem)]


def places(sources: Sequence[DrawingSource], output: Path | None) -> list[Path]:
    """The file of each drawing; none when nothing is to be written. Raises RifflerError."""
    if output is None:
        return []
    if output == NOWHERE:
        if len(sources) > 1:
            raise RifflerError("Only one drawing can be printed.", "Name a folder: -o FOLDER")
        return []
    if output.is_dir() or (output.suffix.lower() != ".svg" and len(sources) > 1):
        names = [source.name for source in sources]
        twice = next((name for name in names if names.count(name) > 1), None)
        if twice is not None:
            raise RifflerError(
                f"Two of these would be {as_typed(output / twice)}.svg.", "Write them one by one."
            )
        return [output / f"{name}.svg" for name in names]
    if len(sources) > 1:
        raise RifflerError("Several drawings don't go into one file.", "Name a folder: -o FOLDER")
    return [output]


def make_one(
    workspace: Workspace,
    source: DrawingSource,
    tidying: Tidying,
    page: ForPage,
    *,
    refuses: bool,
    outlines: bool,
) -> VectorFile:
    """Tidy one of them. Raises MockupError for a drawing that is unsound."""
    data = outlined(source.data, source.what, workspace) if outlines else source.data
    return make(
        data, source.what, tidying, page, workspace.limits, fonts=workspace.fonts, refuses=refuses
    )


def style_sheet(files: Sequence[VectorFile]) -> str:
    """The rules of all files, with the colours of those that have custom properties."""
    colors = [pair for file in files for pair in file.colors]
    root = "".join(f"  {name}: {color};\n" for name, color in colors)
    return (f":root {{\n{root}}}\n" if root else "") + "".join(file.styles for file in files)


def as_data(
    sources: Sequence[DrawingSource], files: Sequence[VectorFile], written: Sequence[Path]
) -> dict[str, Any]:
    """What is printed as JSON."""
    return {
        "files": [
            {
                "source": source.what,
                "name": source.name,
                "file": as_typed(written[index]) if index < len(written) else None,
                "bytes": {"before": file.before, "after": file.after},
                "gzipped": {"before": file.zipped_before, "after": file.zipped_after},
                "difference": {
                    "mean": round(file.difference.mean, 4),
                    "beyond_4": round(file.difference.share, 6),
                },
                "removed": list(file.removed),
                "colors": dict(file.colors),
            }
            for index, (source, file) in enumerate(zip(sources, files, strict=True))
        ]
    }
