"""A packed mockup on disk -> the bytes inside it, within limits and never outside the archive."""

from __future__ import annotations

import weakref
import zipfile
import zlib
from dataclasses import dataclass, field
from functools import cached_property
from pathlib import Path, PurePosixPath

from riffler.errors import MockupError
from riffler.files import as_typed

#: What reading a damaged or encrypted member raises.
_DAMAGE = (
    zipfile.BadZipFile,
    zlib.error,
    EOFError,
    NotImplementedError,
    RuntimeError,
    OSError,
    ValueError,
)


#: How members may be packed. OpenRaster 0.0.6, "File Layout": stored or deflated.
PACKED = (zipfile.ZIP_STORED, zipfile.ZIP_DEFLATED)


@dataclass(frozen=True)
class Archive:
    """A ZIP file that stays open for reading while anybody may still draw from it.

    `unpacked_limit` are the bytes to which a member may unpack, and by which all members that are
    read may be larger than they are packed.
    """

    path: Path
    unpacked_limit: int
    _grown: dict[str, int] = field(default_factory=dict, init=False, repr=False, compare=False)

    def names(self) -> list[str]:
        """What is in it. Raises MockupError when it is no ZIP, or cut short."""
        return self._file.namelist()

    def is_readable(self, name: str) -> bool:
        """Whether a member is packed in a way that is read."""
        return self._file.getinfo(name).compress_type in PACKED

    def checksum(self, name: str) -> str:
        """CRC-32 and size of a member as the archive's directory has them; no member is read."""
        info = self._file.getinfo(name)
        return f"{info.CRC:08x}-{info.file_size}"

    def read(self, name: str, at_most: int | None = None) -> bytes:
        """All of one member, or its first `at_most` bytes.

        Raises MockupError when it is missing, damaged, packed in another way than ours, or unpacks
        beyond the limit, which its directory says before it is read.
        """
        limit = self.unpacked_limit if at_most is None else at_most
        try:
            info = self._file.getinfo(name)
            if not self.is_readable(name):
                raise MockupError(
                    f'{as_typed(self.path)}: "{name}" is packed in a way that OpenRaster lacks.',
                    "Members are stored or deflated: save it again from the drawing program.",
                )
            self._refuse_growth(info, at_most)
            with self._file.open(name) as member:
                data = member.read(limit)
        except KeyError as error:
            raise MockupError(f'{as_typed(self.path)} has no "{name}" inside.') from error
        except _DAMAGE as error:
            raise MockupError(f'{as_typed(self.path)}: "{name}" is damaged: {error}.') from error
        return data

    def _refuse_growth(self, info: zipfile.ZipInfo, at_most: int | None) -> None:
        """Raises MockupError for a member that unpacks to too much, by itself or with the others.

        No more is ever unpacked than the directory says.
        """
        size = info.file_size if at_most is None else min(info.file_size, at_most)
        grown = max(size - info.compress_size, self._grown.get(info.filename, 0))
        self._grown[info.filename] = grown
        if max(size, sum(self._grown.values())) > self.unpacked_limit:
            raise MockupError(
                f'{as_typed(self.path)}: "{info.filename}" unpacks to more than '
                f"{self.unpacked_limit:,} bytes, with what was read before it.",
                "If that is meant, raise [limits] unpacked in riffler.toml.",
            )

    @cached_property
    def _file(self) -> zipfile.ZipFile:
        """The open file: reading the directory of a large one again each time takes longer."""
        try:
            file = zipfile.ZipFile(self.path)
        except OSError as error:
            raise MockupError(
                f"{as_typed(self.path)} can't be read: {error.strerror or error}."
            ) from error
        except _DAMAGE as error:
            raise MockupError(
                f"{as_typed(self.path)} is cut short or damaged: no whole archive.",
                "Save it again from the drawing program, or fetch it again.",
            ) from error
        weakref.finalize(self, file.close)  # also when all of it ends in a ring of references
        return file

    def found(self, name: str) -> str | None:
        """The member that a name in a stack means: its own, or the one that it leads to.

        Some programs write a slash or a dot before names, in the stack, the directory or both; as
        nothing is ever unpacked to a disk, that leads nowhere else. None when there is none.
        """
        if name in self._members.values():
            return name
        return self._members.get(_plain(name))

    @cached_property
    def _members(self) -> dict[str, str]:
        """Every member under its plain name; the first of two."""
        return {_plain(name): name for name in reversed(self.names())}

    def refuse_outside(self, name: str) -> None:
        """Raises MockupError for a name that would lead out of the archive."""
        path = PurePosixPath(name.replace("\\", "/"))
        if path.is_absolute() or ".." in path.parts or (path.parts and ":" in path.parts[0]):
            raise MockupError(f'{as_typed(self.path)}: "{name}" points outside the archive.')


def _plain(name: str) -> str:
    """A name in an archive without the slashes and dots before it."""
    parts = name.split("/")
    while len(parts) > 1 and parts[0] in ("", "."):
        parts = parts[1:]
    return "/".join(parts)
