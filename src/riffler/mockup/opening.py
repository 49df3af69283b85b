"""Any mockup file -> a Mockup, by its first bytes rather than by its name."""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path
from typing import TYPE_CHECKING

from riffler.errors import MockupError, nearest
from riffler.files import as_typed, beside
from riffler.mockup.flat import READABLE
from riffler.mockup.model import Mockup
from riffler.project.limits import DEFAULT_LIMITS, Limits

if TYPE_CHECKING:
    from riffler.mockup.archive import Archive

#: How much of a file is looked at to tell what it is.
HEAD = 4096

_PIXELS = (
    "Save it from there as OpenRaster (.ora): layers, groups, opacity, offsets and blend modes "
    "stay; text becomes pixels, and layer effects should be merged first."
)
_VECTORS = (
    "Save it from there as SVG with layer names: shapes, text and groups stay; "
    "effects that SVG lacks become pictures."
)

#: First bytes of programs' own formats, where in the file they stand, and what to save instead.
_OWN_FORMATS = (
    (0, b"8BPS", "a layered pixel file in a program's own format", _PIXELS),
    (0, b"gimp xcf", "a layered pixel file in a program's own format", _PIXELS),
    (0, b"fig-", "a design file in a program's own format", _VECTORS),
    (0, b"%PDF-", "a page description", _VECTORS),
    (0, b"%!PS", "a page description", _VECTORS),
    (0, b"\xc5\xd0\xd3\xc6", "a page description", _VECTORS),
    (8, b"CDR", "a vector file in a program's own format", _VECTORS),
    (0, b"\x00\xffKA\x08\x00", "a design file in a program's own format", _VECTORS),
    (0, b"GIF8", "a GIF", "Save it as PNG: nothing is lost."),
    (0, b"BM", "a bitmap", "Save it as PNG: nothing is lost."),
    (4, b"ftyp", "a photo or film container", "Save it as PNG or JPEG."),
)


def open_mockup(path: Path, limits: Limits = DEFAULT_LIMITS, canvas: str | None = None) -> Mockup:
    """Read a mockup's tree. The file is opened for reading only, and closed again.

    Raises MockupError when it is missing, unsound, unknown, or beyond the limits, and when it has
    no canvas of that name.
    """
    mockup = _read(path, limits)
    if canvas is None:
        return mockup
    chosen = next(
        (known_canvas for known_canvas in mockup.canvases if known_canvas.name == canvas), None
    )
    if chosen is None:
        names = [known_canvas.name for known_canvas in mockup.canvases]
        advice = nearest(canvas, names, "Its canvases are") or "It is a single canvas."
        raise MockupError(f'{as_typed(path)} has no canvas "{canvas}".', advice)
    return replace(mockup, size=chosen.box.size, origin=(chosen.box.x, chosen.box.y))


def _read(path: Path, limits: Limits) -> Mockup:
    head = _head(path)
    if head.startswith(b"PK\x03\x04") or path.suffix.lower() == ".ora":
        from riffler.mockup import openraster
        from riffler.mockup.archive import Archive

        archive = Archive(path, limits.unpacked)
        _refuse_other_archive(archive)
        return openraster.read(archive, limits)
    if _looks_like_svg(head) or path.suffix.lower() in (".svg", ".svgz"):
        from riffler.mockup import svg

        return svg.read(path, limits)
    for offset, magic, what, advice in _OWN_FORMATS:
        if head[offset:].startswith(magic):
            raise MockupError(f"{as_typed(path)} is {what}, which is not read.", advice)
    from riffler.mockup import flat

    return flat.read(path, limits)


def _head(path: Path) -> bytes:
    if path.is_dir():
        raise MockupError(f"{as_typed(path)} is a folder, not a mockup.", READABLE)
    if path.exists() and not path.is_file():
        raise MockupError(f"{as_typed(path)} is no file, but a pipe or a device.", READABLE)
    try:
        with path.open("rb") as file:
            head = file.read(HEAD)
    except FileNotFoundError as error:
        raise MockupError(f"{as_typed(path)}: there is no such file.", beside(path)) from error
    except OSError as error:
        raise MockupError(f"{as_typed(path)} can't be read: {error.strerror}.") from error
    except ValueError as error:  # a zero byte
        raise MockupError(f"{as_typed(path)} can't be read: {error}.") from error
    if not head:
        raise MockupError(f"{as_typed(path)} is empty.")
    return head


def _looks_like_svg(head: bytes) -> bool:
    start = head.lstrip(b"\xef\xbb\xbf\xff\xfe\x00 \t\r\n")
    return start.startswith((b"<?xml", b"<svg", b"<!DOCTYPE svg", b"<!--")) or b"<svg" in head


def _refuse_other_archive(archive: Archive) -> None:
    """Raises MockupError for the packed formats of other programs, and for no sound archive."""
    names, path = set(archive.names()), archive.path
    kind = archive.read("mimetype", 64) if "mimetype" in names else b""
    if "document.json" in names and "meta.json" in names:
        raise MockupError(
            f"{as_typed(path)} is a design file in a program's own format, which is not read.",
            _VECTORS,
        )
    if kind.startswith(b"application/x-"):
        raise MockupError(
            f"{as_typed(path)} is a layered file in a program's own format, which is not read.",
            _PIXELS,
        )
