"""A drawing -> pixels, with the fonts that its text names."""

from __future__ import annotations

import atexit
import shutil
import tempfile
from functools import cache
from pathlib import Path

from lxml import etree

from riffler.color import Bytes
from riffler.digests import sha256_of
from riffler.mockup.font_book import FontBook
from riffler.mockup.svg import document as documents
from riffler.project.limits import Limits
from riffler.render.decode import decode
from riffler.render.svg_process import DRAUGHTSMAN


def draw(drawing: etree._Element, fonts: FontBook, what: str, limits: Limits) -> Bytes:
    """Straight RGBA of a drawing at the size it says. Raises MockupError when it can't be drawn."""
    svg = etree.tostring(drawing, encoding="unicode")
    paths = fonts_for(drawing, fonts)
    png = DRAUGHTSMAN.draw(svg, paths, what, limits.seconds)
    return decode(png, what, limits, ("PNG",))


def fonts_for(drawing: etree._Element, fonts: FontBook) -> list[str]:
    """The files of the families that a drawing's text names."""
    families = {
        str(element.get("font-family", "")).strip("'")
        for element in drawing.iter()
        if element.get("font-family")
    }
    files = {face.path for family in families for face in fonts.find(family)}
    return sorted(drawable(path) for path in files)


def font_hashes(drawing: etree._Element, fonts: FontBook) -> list[str | None]:
    """The hashes of those files."""
    return [_file_hash(path) for path in fonts_for(drawing, fonts)]


@cache
def _file_hash(path: str) -> str | None:
    """The hash of a font file; fonts do not change during a run."""
    return sha256_of(Path(path))


def draw_whole(data: bytes, what: str, limits: Limits) -> Bytes:
    """Straight RGBA of an SVG at its own size: a layer of a pixel mockup that is a drawing."""
    document = documents.from_bytes(data, what, limits)
    root = document.root
    size = documents.size_of(document)
    root.set("width", str(size.width))
    root.set("height", str(size.height))
    return draw(root, FontBook(), what, limits)


@cache
def drawable(path: Path) -> str:
    """A font file that the renderer reads: web fonts are unpacked into a folder that goes again."""
    if path.suffix.lower() != ".woff2":
        return str(path)
    from fontTools.ttLib import TTFont

    font = TTFont(path)
    font.flavor = None
    target = _font_folder() / f"{path.stem}.ttf"
    font.save(target)
    return str(target)


@cache
def _font_folder() -> Path:
    folder = tempfile.mkdtemp(prefix="riffler-fonts-")
    atexit.register(shutil.rmtree, folder, ignore_errors=True)
    return Path(folder)
