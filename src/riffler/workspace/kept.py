"""The versions of mockups that were last cut <-> the work folder, part by part.

An archive is kept by its members and a drawing by the pictures inside it, each under its own hash:
what did not change from one version to the next is there once. The merged picture of an archive is
left out, since it changes with everything. Of each mockup the last two versions are kept.

The cut version is kept by its parts: members of an archive and pictures in a drawing lie under
their own hashes, so that a version costs what changed. A preview's cuts keep nothing, or a mockup
saved while it runs would leave nothing to compare.
"""

from __future__ import annotations

import contextlib
import re
import tempfile
import zipfile
import zlib
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass
from io import BytesIO
from pathlib import Path
from typing import Literal, TypeAlias

from riffler.digests import digest_of, sha256, sha256_of
from riffler.errors import RifflerError
from riffler.files import files_below, is_inside, read_whole, remove, sweep, write_whole
from riffler.mockup.archive import Archive
from riffler.mockup.openraster import MERGED
from riffler.plain import adapter_of
from riffler.project.places import VERSIONS
from riffler.project.project import Project
from riffler.project.sealed import obeyed, write_note

#: The number of the shape of what is noted.
SHAPE: Literal[2] = 2

#: How many versions of a mockup are kept.
MOST = 2

#: Pictures inside a drawing, as data: addresses of some length.
_PICTURES = re.compile(rb"(data:[^\"'()\s<>]{2000,})")

#: The hash of a part, which is its name. FIPS 180-4.
_HASH = re.compile(r"[0-9a-f]{64}")

#: What an archive holds that is drawn from the rest.
_DRAWN = (MERGED, "Thumbnails/")

Part: TypeAlias = tuple[str, str, str]
"""The name of a member of an archive, empty for a piece of a drawing; the hash of its bytes; the
hash of these packed, as they are kept."""


@dataclass(frozen=True)
class Kept:
    """A version of a mockup: the hash of its file, how it is put together, its parts in order."""

    sha256: str
    is_archive: bool
    parts: tuple[Part, ...]


@dataclass(frozen=True)
class _Note:
    """The versions of a mockup as they are noted."""

    shape: Literal[2]
    file: str
    kept: tuple[Kept, ...]


def keep(project: Project, mockups: Iterable[Path]) -> None:
    """Keep these mockups as they are now; what can't be kept is not, and nothing is lost by it."""
    for path in dict.fromkeys(mockups):
        with contextlib.suppress(
            RifflerError, OSError, zipfile.BadZipFile, RuntimeError, zlib.error
        ):
            if is_inside(path, project.root):
                _keep(project, path)
    with contextlib.suppress(RifflerError, OSError):
        _prune(project)


def versions(project: Project, path: Path) -> list[Kept]:
    """The kept versions of a mockup, the last one first; none where the note is not ours."""
    return _noted(_note(project, path))


def _noted(note: Path) -> list[Kept]:
    """What a note says. One that is damaged, or of another's making, is put aside with a word."""
    return list(obeyed(note, _read) or ())


def _read(body: bytes) -> tuple[Kept, ...]:
    """The versions that are noted. Raises ValueError where a part is called by no hash."""
    versions = adapter_of(_Note).validate_json(body, strict=True).kept
    if not all(_HASH.fullmatch(raw) for version in versions for _, raw, _ in version.parts):
        raise ValueError("names a part by something else than its hash")
    return versions


def before(project: Project, path: Path, *, earlier: bool = False) -> Kept | None:
    """The version that was last cut, or with `earlier` the one before the last that differs."""
    found_versions = versions(project, path)
    if not earlier:
        return found_versions[0] if found_versions else None
    now = sha256_of(path)
    return next((version for version in found_versions if version.sha256 != now), None)


@contextlib.contextmanager
def restored(project: Project, path: Path, version: Kept) -> Iterator[Path]:
    """A kept version as a file of the same name, for as long as it is looked at.

    Raises RifflerError where parts of it are gone or damaged.
    """
    pieces = []
    for name, digest, packed in version.parts:
        data = _unpacked(_part(project, digest), packed)
        if data is None or sha256(data) != digest:
            raise RifflerError(
                f"The version of {path.name} that was kept is damaged.",
                "riffler cut --force keeps the one that is there now.",
            )
        pieces.append((name, data))
    with tempfile.TemporaryDirectory(prefix="riffler-", ignore_cleanup_errors=True) as folder:
        whole = Path(folder) / path.name
        write_whole(whole, _joined(version, pieces), is_lasting=False)
        yield whole


def _keep(project: Project, path: Path) -> None:
    known_versions = versions(project, path)
    data = path.read_bytes()
    digest = sha256(data)
    if known_versions and known_versions[0].sha256 == digest:
        return
    is_archive, pieces = _pieces(path, data, project.settings.limits.unpacked)
    there = {raw: packed for version in known_versions for _, raw, packed in version.parts}
    parts = []
    for name, piece in pieces:
        raw = sha256(piece)
        place = _part(project, raw)
        if raw not in there or not place.is_file():
            level = 0 if is_archive and name.endswith(".png") else 6
            data = zlib.compress(piece, level)
            there[raw] = sha256(data)
            write_whole(place, data, within=project.work, is_lasting=False)
        parts.append((name, raw, there[raw]))
    now = Kept(digest, is_archive, tuple(parts))
    kept_versions = [now, *(version for version in known_versions if version.sha256 != digest)][
        :MOST
    ]
    noted = adapter_of(_Note).dump_json(_Note(SHAPE, path.name, tuple(kept_versions)), indent=1)
    write_note(_note(project, path), noted)


def _pieces(path: Path, data: bytes, limit: int) -> tuple[bool, list[tuple[str, bytes]]]:
    """The parts of a file: members of an archive, or a drawing cut at the pictures inside it.

    Raises MockupError for an archive that unpacks beyond the limit.
    """
    if not zipfile.is_zipfile(BytesIO(data)):
        return False, [("", piece) for piece in _PICTURES.split(data) if piece]
    archive = Archive(path, limit)
    names = (name for name in archive.names() if not name.startswith(_DRAWN))
    return True, [
        (name, archive.read(name)) for name in dict.fromkeys(names) if archive.is_readable(name)
    ]


def _unpacked(place: Path, packed: str) -> bytes | None:
    """What is in a part whose bytes have a hash; None for others, which are not even unpacked."""
    try:
        data = read_whole(place)
        return zlib.decompress(data) if sha256(data) == packed else None
    except (RifflerError, OSError, zlib.error):
        return None


def _joined(version: Kept, pieces: Sequence[tuple[str, bytes]]) -> bytes:
    if not version.is_archive:
        return b"".join(piece for _, piece in pieces)
    whole = BytesIO()
    with zipfile.ZipFile(whole, "w", zipfile.ZIP_STORED) as archive:
        for name, piece in pieces:
            archive.writestr(zipfile.ZipInfo(name), piece)
    return whole.getvalue()


def _prune(project: Project) -> None:
    """Remove the parts that no kept version has."""
    folder = project.work / VERSIONS
    sweep(folder, is_deep=True)
    used = set()
    for note in sorted(folder.glob("*.json")):
        used |= {raw for version in _noted(note) for _, raw, _ in version.parts}
    for path in files_below(folder / "parts"):
        if path.name not in used:
            remove(path, folder)


def _note(project: Project, path: Path) -> Path:
    name = digest_of(project.relative(path))[:12]
    return project.work / VERSIONS / f"{path.stem[:40]}-{name}.json"


def _part(project: Project, digest: str) -> Path:
    return project.work / VERSIONS / "parts" / digest
