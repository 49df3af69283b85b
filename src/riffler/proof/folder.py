"""A folder of pages, styles and pictures -> all that its files say and name, read once."""

from __future__ import annotations

import io
import posixpath
import re
from collections.abc import Iterator
from dataclasses import dataclass, field
from functools import cached_property
from pathlib import Path
from urllib.parse import unquote, urlsplit

from riffler.digests import sha256
from riffler.errors import RifflerError
from riffler.files import as_typed, files_below, is_inside, read_whole
from riffler.proof.page_text import Node, Page, read
from riffler.proof.styles import Sheet, read_sheet

#: Endings by what a file is.
PAGES, STYLES, SCRIPTS = (".html", ".htm"), (".css",), (".js", ".mjs")
PICTURES = (".png", ".jpg", ".jpeg", ".gif", ".webp", ".avif", ".svg", ".ico", ".bmp")

#: The largest file that is read as text, and the most files, before a folder is refused.
LARGEST, MOST = 20_000_000, 100_000

#: Attributes that name one file, by element, and those that name several.
_NAMING = {
    "a": ("href",),
    "link": ("href",),
    "img": ("src",),
    "script": ("src",),
    "source": ("src",),
    "iframe": ("src",),
    "video": ("src", "poster"),
    "audio": ("src",),
    "input": ("src",),
    "object": ("data",),
    "area": ("href",),
    "form": ("action",),
    "use": ("href", "xlink:href"),
    "image": ("href", "xlink:href"),
    "embed": ("src",),
    "track": ("src",),
}


@dataclass(frozen=True)
class Reference:
    """Something that a file names: the address as written, the file that it means, or none.

    `target` is below the folder; `part` is what follows `#`. `is_link` tells what is followed from
    what is loaded.
    """

    file: str
    line: int
    address: str
    target: str | None
    part: str = ""
    is_link: bool = False
    node: Node | None = None


@dataclass
class Folder:
    """All files of a folder, as paths with `/`, and what those that say something say."""

    root: Path
    files: tuple[str, ...]
    pages: tuple[Page, ...]
    sheets: tuple[Sheet, ...]
    prefix: str = ""
    _sizes: dict[str, tuple[float, float] | None] = field(default_factory=dict)

    @classmethod
    def open(cls, root: Path, prefix: str = "") -> Folder:
        """Read a folder. Raises RifflerError where there is none, and for one without end."""
        if not root.is_dir():
            raise RifflerError(f"There is no folder {as_typed(root)}.")
        paths = []
        for path in files_below(root):
            name = path.relative_to(root).as_posix()
            if not any(part.startswith(".") for part in name.split("/")) and is_inside(path, root):
                paths.append(name)
            if len(paths) > MOST:
                raise RifflerError(f"{as_typed(root)} has more than {MOST} files.")
        pages = tuple(read(name, read_text(root / name)) for name in paths if _ends(name, PAGES))
        sheets = [read_sheet(name, read_text(root / name)) for name in paths if _ends(name, STYLES)]
        sheets += [
            read_sheet(page.file, node.text, node.line)
            for page in pages
            for node in page.all("style")
        ]
        return cls(root, tuple(paths), pages, tuple(sheets), prefix)

    @cached_property
    def lowered(self) -> dict[str, str]:
        """Every file by its name in lower case."""
        return {name.lower(): name for name in self.files}

    @cached_property
    def references(self) -> tuple[Reference, ...]:
        """Everything that pages, styles and the manifest name."""
        return (*self._of_pages(), *self._of_styles(), *self._of_manifests())

    def _of_pages(self) -> Iterator[Reference]:
        for page in self.pages:
            base = next((node.attributes.get("href", "") for node in page.all("base")), "")
            for node in page.nodes:
                for name in _NAMING.get(node.tag, ()):
                    if name in node.attributes:
                        is_link = node.tag in ("a", "area", "form", "iframe")
                        address = node.attributes[name]
                        yield self._reference(page.file, node.line, address, base, is_link, node)
                for address in candidates(node.attributes.get("srcset", "")):
                    yield self._reference(page.file, node.line, address, base, False, node)
                for address in _urls(node.attributes.get("style", "")):
                    yield self._reference(page.file, node.line, address, base, False, node)

    def _of_styles(self) -> Iterator[Reference]:
        for sheet in self.sheets:
            for address, line in sheet.urls:
                yield self._reference(sheet.file, line, address, "", False, None)

    def _of_manifests(self) -> Iterator[Reference]:
        for name in self.files:
            if name.endswith(".webmanifest"):
                text = read_text(self.root / name)
                for match in re.finditer(r'"src"\s*:\s*"([^"]*)"', text):
                    line = text.count("\n", 0, match.start()) + 1
                    yield self._reference(name, line, match[1], "", False, None)

    def _reference(
        self, file: str, line: int, address: str, base: str, is_link: bool, node: Node | None
    ) -> Reference:
        """What an address means from a file; of other sites' nothing is known."""
        text = address.strip()
        if self.prefix and text.startswith(self.prefix):
            text = "/" + text.removeprefix(self.prefix)
        split = urlsplit(text) if not text.startswith("data:") else urlsplit("data:")
        if split.scheme or split.netloc or not text:
            return Reference(file, line, address, None, "", is_link, node)
        path = unquote(split.path)
        if not path:
            return Reference(file, line, address, file, unquote(split.fragment), is_link, node)
        around = posixpath.join(posixpath.dirname(file), base) if base else posixpath.dirname(file)
        joined = path.lstrip("/") if path.startswith("/") else posixpath.join(around, path)
        target = posixpath.normpath(joined) if joined else ""
        if path.endswith("/") or target in ("", "."):
            target = posixpath.normpath(posixpath.join(target, "index.html"))
        return Reference(file, line, address, target, unquote(split.fragment), is_link, node)

    def size(self, name: str) -> tuple[float, float] | None:
        """The size of a picture, in its own pixels; None where it has none that can be read."""
        if name not in self._sizes:
            self._sizes[name] = _size(self.root / name)
        return self._sizes[name]

    def digest(self, name: str) -> str:
        """What tells a file's bytes from others."""
        return sha256(read_whole(self.root / name))


def _ends(name: str, endings: tuple[str, ...]) -> bool:
    return name.lower().endswith(endings)


def read_text(path: Path) -> str:
    """A file of text. Raises RifflerError for one too large to be one."""
    if path.stat().st_size > LARGEST:
        raise RifflerError(f"{as_typed(path)} is too large to be read as text.")
    return read_whole(path).decode("utf-8", "replace")


def candidates(srcset: str) -> list[str]:
    """The addresses of a `srcset`. HTML, 4.8.4.2.2: a comma in an address ends none."""
    result, rest = [], " ".join(srcset.split())
    while rest := rest.lstrip(" ,"):
        address, _, rest = rest.partition(" ")
        result.append(address.rstrip(","))
        if not address.endswith(","):
            _, _, rest = rest.partition(",")
    return result


def _urls(css: str) -> list[str]:
    return [match[2] for match in re.finditer(r"url\(\s*(['\"]?)(.*?)\1\s*\)", css)]


def _size(path: Path) -> tuple[float, float] | None:
    if path.suffix.lower() == ".svg":
        return _svg_size(read_text(path)[:4000])
    from PIL import Image

    try:
        with Image.open(io.BytesIO(read_whole(path))) as image:
            return float(image.width), float(image.height)
    except Exception:  # damaged in any way: others say so
        return None


def _svg_size(text: str) -> tuple[float, float] | None:
    root = re.search(r"<svg\b[^>]*>", text)
    if root is None:
        return None
    sides = [re.search(rf'\s{side}="([\d.]+)(?:px)?"', root[0]) for side in ("width", "height")]
    if sides[0] and sides[1]:
        return float(sides[0][1]), float(sides[1][1])
    box = re.search(r'viewBox="[\d.eE+-]+[ ,]+[\d.eE+-]+[ ,]+([\d.]+)[ ,]+([\d.]+)"', root[0])
    return (float(box[1]), float(box[2])) if box else None
