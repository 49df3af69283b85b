"""A font file -> what is to be known of its face before it goes to the web."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from enum import StrEnum
from pathlib import Path
from typing import Any, Literal, TypeAlias

from fontTools.pens.boundsPen import BoundsPen
from fontTools.ttLib import TTFont

from riffler.errors import RifflerError
from riffler.files import as_typed
from riffler.mockup.font_book import Face

Manner: TypeAlias = Literal["sans", "serif", "mono"]

#: The largest font file that is read, in bytes.
LARGEST = 40_000_000

#: OpenType 1.9, `OS/2`: bits of `fsType`; the one of `fsSelection` that says which metrics hold.
_RESTRICTED, _PRINT, _EDITABLE, _WHOLE, _BITMAPS = 2, 4, 8, 0x100, 0x200
_TYPOGRAPHIC = 1 << 7

#: Names in a font: who may do what with it, and where that is written; OpenType 1.9, `name`.
_LICENSE, _LICENSE_URL = 13, 14

#: How wide the capital I of a face is, in font sizes, from which it has serifs.
WITH_SERIFS = 0.2


class Permission(StrEnum):
    """What a font's file allows of being put into documents. OpenType 1.9, `fsType`."""

    ALLOWED = "allowed"
    WHOLE = "whole only"
    REFUSED = "not allowed"


@dataclass(frozen=True)
class Facts:
    """A face; lengths are shares of the font size.

    `weights` is the range of a variable face. `ascent`, `descent` and `line_gap` are those that
    browsers lay out lines with. `license` is what the file says of it, `why` why it is not used.
    """

    face: Face
    weights: tuple[int, int] | None
    ascent: float
    descent: float
    line_gap: float
    manner: Manner
    permission: Permission
    why: str
    license: str
    characters: frozenset[int]

    @property
    def style(self) -> str:
        """As CSS says it."""
        return "italic" if self.face.is_italic else "normal"

    @property
    def weight(self) -> str:
        """As `@font-face` says it: one number, or the range of a variable face."""
        low, high = self.weights or (self.face.weight, self.face.weight)
        return str(low) if low == high else f"{low} {high}"


@contextmanager
def opened(path: Path) -> Iterator[Any]:
    """A font that is open. Raises RifflerError for a file that is damaged, or none."""
    try:
        if path.stat().st_size > LARGEST:
            raise RifflerError(f"{as_typed(path)} is too large for a font.")
        with TTFont(path, lazy=True, fontNumber=0) as font:
            yield font
    except RifflerError:
        raise
    except Exception as error:  # its parts may be damaged in any way
        raise RifflerError(f"{as_typed(path)} can't be read as a font: {error}.") from error


def facts_of(face: Face) -> Facts:
    """What the file says of its face. Raises RifflerError for a damaged one."""
    with opened(face.path) as font:
        units = font["head"].unitsPerEm
        shape, line = font["OS/2"], font["hhea"]
        ascent, descent, gap = line.ascent, -line.descent, line.lineGap
        if shape.fsSelection & _TYPOGRAPHIC or not (ascent or descent):
            ascent, descent, gap = shape.sTypoAscender, -shape.sTypoDescender, shape.sTypoLineGap
        permission, why = _permission(shape.fsType)
        return Facts(
            face,
            _weights(font),
            ascent / units,
            descent / units,
            max(0, gap) / units,
            _manner(font, units),
            permission,
            why,
            _license(font),
            frozenset(font.getBestCmap() or ()),
        )


def _permission(bits: int) -> tuple[Permission, str]:
    """The least that bits 1 to 3 restrict holds, where several are set."""
    if bits & _BITMAPS:
        return Permission.REFUSED, "its file allows bitmaps alone"
    if bits & _RESTRICTED and not bits & (_PRINT | _EDITABLE):
        return Permission.REFUSED, "its file forbids embedding"
    if bits & _PRINT and not bits & _EDITABLE:
        return Permission.REFUSED, "its file allows looking and printing alone"
    if bits & _WHOLE:
        return Permission.WHOLE, "its file forbids to take characters out"
    return Permission.ALLOWED, ""


def _license(font: Any) -> str:  # noqa: ANN401 - fontTools has no types
    names = (font["name"].getDebugName(number) for number in (_LICENSE_URL, _LICENSE))
    return next((" ".join(name.split()) for name in names if name and name.strip()), "")


def _weights(font: Any) -> tuple[int, int] | None:  # noqa: ANN401
    if "fvar" not in font:
        return None
    axes = (axis for axis in font["fvar"].axes if axis.axisTag == "wght")
    return next(((int(axis.minValue), int(axis.maxValue)) for axis in axes), None)


def _manner(font: Any, units: int) -> Manner:  # noqa: ANN401
    """By whether all letters are as wide, and by how wide a capital I is: serifs make it so."""
    if font["post"].isFixedPitch:
        return "mono"
    name = (font.getBestCmap() or {}).get(ord("I"))
    if name is None:
        return "sans"
    glyphs = font.getGlyphSet()
    pen = BoundsPen(glyphs)
    glyphs[name].draw(pen)
    wide = pen.bounds[2] - pen.bounds[0] if pen.bounds else 0
    return "serif" if wide / units > WITH_SERIFS else "sans"
