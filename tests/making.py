"""Small mockups and projects, drawn for one test each."""

from __future__ import annotations

import io
import zipfile
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from pathlib import Path
from xml.sax.saxutils import quoteattr

import numpy as np
import numpy.typing as npt
from PIL import Image

from riffler.encode.choice import Choice
from riffler.encode.choose import choose

Straight = npt.NDArray[np.uint8]


@dataclass(frozen=True)
class Flat:
    """A layer of one colour, or of given pixels; `inside` makes it a group, topmost first."""

    name: str = ""
    box: tuple[int, int, int, int] = (0, 0, 10, 10)
    color: tuple[int, int, int, int] = (0, 0, 0, 255)
    pixels: Straight | None = None
    inside: Sequence[Flat] | None = None
    more: Mapping[str, str] = field(default_factory=dict)


def png(pixels: Straight) -> bytes:
    out = io.BytesIO()
    Image.fromarray(pixels).save(out, "PNG")
    return out.getvalue()


def write_ora(path: Path, size: tuple[int, int], layers: Sequence[Flat], **more: bytes) -> Path:
    """An OpenRaster file of these layers, the topmost first."""
    files: dict[str, bytes] = {}
    stack = _lines(layers, files)
    image = f'<image version="0.0.6" w="{size[0]}" h="{size[1]}"><stack>{stack}</stack></image>'
    with zipfile.ZipFile(path, "w") as archive:
        archive.writestr("mimetype", "image/openraster")
        archive.writestr("stack.xml", more.pop("stack", image.encode()))
        for name, data in {**files, **more}.items():
            archive.writestr(name, data)
    return path


def _lines(layers: Sequence[Flat], files: dict[str, bytes]) -> str:
    lines = []
    for layer in layers:
        said = {"name": layer.name} if layer.name else {}
        said.update(layer.more)
        if layer.inside is not None:
            attributes = "".join(f" {key}={quoteattr(value)}" for key, value in said.items())
            lines.append(f"<stack{attributes}>{_lines(layer.inside, files)}</stack>")
            continue
        x, y, width, height = layer.box
        pixels = layer.pixels
        if pixels is None:
            pixels = np.full((height, width, 4), layer.color, np.uint8)
        source = f"data/{len(files)}.png"
        files[source] = png(pixels)
        said = {"src": source, "x": str(x), "y": str(y)} | said
        attributes = "".join(f" {key}={quoteattr(value)}" for key, value in said.items())
        lines.append(f"<layer{attributes}/>")
    return "".join(lines)


#: Settings with which a slice becomes one file that says what was cut.
PLAIN = '[defaults]\nsave = ["png"]\nquality = "clear"\n'


def chosen(straight: np.ndarray, name: str, wish: int | str, budget: int | None = None) -> Choice:
    """The file of a format that can grant a wish."""
    found = choose(straight, name, wish, budget)
    assert found is not None
    return found


def write_project(root: Path, files: Mapping[str, str], layers: Sequence[Flat] = ()) -> Path:
    """A project with these files, and mockups/m.ora of 100 x 80 px with these layers."""
    for folder in ("mockups", "cuts", "pages", "styles"):
        (root / folder).mkdir(parents=True, exist_ok=True)
    for name, text in {"riffler.toml": PLAIN, **files}.items():
        (root / name).write_text(text, encoding="utf-8")
    write_ora(root / "mockups/m.ora", (100, 80), layers or [Flat("all", (0, 0, 100, 80))])
    return root


def tree(root: Path, *, hidden: bool = True) -> dict[str, bytes]:
    """Every file below a folder with its bytes; if so wanted without what hidden folders hold."""
    return {
        path.relative_to(root).as_posix(): path.read_bytes()
        for path in sorted(root.rglob("*"))
        if path.is_file() and (hidden or not path.relative_to(root).as_posix().count("/."))
    }
