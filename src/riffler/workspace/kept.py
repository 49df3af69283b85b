"""The versions of mockups that were last cut <-> the work folder, part by part.

An archive is kept by its members and a drawing by the pictures inside it, each under its own hash:
what did not change from one version to the next is there once. The merged picture of an archive is
left out, since it changes with everything. Of each mockup the last two versions are kept.
"""

from __future__ import annotations

import contextlib
import json
import re
import tempfile
import zipfile
import zlib
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass
from io import BytesIO
from pathlib import Path
from typing import Any, TypeAlias

from riffler.digests import digest_of, sha256, sha256_of
from riffler.errors import RifflerError
from riffler.files import files_below, is_inside, remove, write_whole
from riffler.mockup.openraster import MERGED
from riffler.plain import parse_json, plain
from riffler.project.places import VERSIONS
from riffler.project.project import Project

#: The number of the shape of what is noted, and how many versions of a mockup are kept.
SHAPE, MOST = 1, 2

#: Pictures inside a drawing, as data: addresses of some length.
_PICTURES = re.compile(rb"(data:[^\"'()\s<>]{2000,})")

#: What an archive holds that is drawn from the rest.
_DRAWN = (MERGED, "Thumbnails/")

Part: TypeAlias = tuple[str, str]
"""The name of a member of an archive, empty for a piece of a drawing, and the hash of its bytes."""


@dataclass(frozen=True)
class Kept:
    """A version of a mockup: the hash of its file, how it is put together, its parts in order."""

    sha256: str
    is_archive: bool
    parts: tuple[Part, ...]


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
    """The kept versions of a mockup, the last one first."""
    try:
        said = parse_json(_note(project, path).read_bytes())
        if said["shape"] != SHAPE:
            return []
        return [_read(one) for one in said["kept"]]
    except (RifflerError, OSError, ValueError, TypeError, KeyError):
        return []


def before(project: Project, path: Path, *, earlier: bool = False) -> Kept | None:
    """The version that was last cut, or with `earlier` the one before the last that differs."""
    found = versions(project, path)
    if not earlier:
        return found[0] if found else None
    now = sha256_of(path)
    return next((one for one in found if one.sha256 != now), None)


@contextlib.contextmanager
def restored(project: Project, path: Path, kept: Kept) -> Iterator[Path]:
    """A kept version as a file of the same name, for as long as it is looked at.

    Raises RifflerError where parts of it are gone or damaged.
    """
    pieces = []
    for name, digest in kept.parts:
        try:
            data = zlib.decompress(_part(project, digest).read_bytes())
        except (OSError, zlib.error):
            data = b""
        if sha256(data) != digest:
            raise RifflerError(
                f"The version of {path.name} that was kept is damaged.",
                "riffler cut --force keeps the one that is there now.",
            )
        pieces.append((name, data))
    with tempfile.TemporaryDirectory(prefix="riffler-") as folder:
        whole = Path(folder) / path.name
        write_whole(whole, _joined(kept, pieces), is_lasting=False)
        yield whole


def _keep(project: Project, path: Path) -> None:
    known = versions(project, path)
    data = path.read_bytes()
    digest = sha256(data)
    if known and known[0].sha256 == digest:
        return
    is_archive, pieces = _pieces(data)
    parts = []
    for name, piece in pieces:
        of_piece = sha256(piece)
        parts.append((name, of_piece))
        place = _part(project, of_piece)
        if not place.is_file():
            level = 0 if is_archive and name.endswith(".png") else 6
            write_whole(place, zlib.compress(piece, level), within=project.work, is_lasting=False)
    now = Kept(digest, is_archive, tuple(parts))
    kept = [now, *(one for one in known if one.sha256 != digest)][:MOST]
    said = {"shape": SHAPE, "file": path.name, "kept": plain(kept)}
    text = json.dumps(said, indent=1).encode()
    write_whole(_note(project, path), text, within=project.work, is_lasting=False)


def _pieces(data: bytes) -> tuple[bool, list[tuple[str, bytes]]]:
    """The parts of a file: members of an archive, or a drawing cut at the pictures inside it."""
    if zipfile.is_zipfile(BytesIO(data)):
        with zipfile.ZipFile(BytesIO(data)) as archive:
            names = [name for name in archive.namelist() if not name.startswith(_DRAWN)]
            return True, [(name, archive.read(name)) for name in dict.fromkeys(names)]
    return False, [("", piece) for piece in _PICTURES.split(data) if piece]


def _joined(kept: Kept, pieces: Sequence[tuple[str, bytes]]) -> bytes:
    if not kept.is_archive:
        return b"".join(piece for _, piece in pieces)
    whole = BytesIO()
    with zipfile.ZipFile(whole, "w", zipfile.ZIP_STORED) as archive:
        for name, piece in pieces:
            archive.writestr(zipfile.ZipInfo(name), piece)
    return whole.getvalue()


def _prune(project: Project) -> None:
    """Remove the parts that no kept version has."""
    folder = project.work / VERSIONS
    used = set()
    for note in sorted(folder.glob("*.json")):
        said = parse_json(note.read_bytes())
        used |= {digest for one in said["kept"] for _, digest in one["parts"]}
    for path in files_below(folder / "parts"):
        if path.name not in used:
            remove(path, folder)


def _note(project: Project, path: Path) -> Path:
    name = digest_of(project.relative(path))[:12]
    return project.work / VERSIONS / f"{path.stem[:40]}-{name}.json"


def _part(project: Project, digest: str) -> Path:
    return project.work / VERSIONS / "parts" / digest


def _read(said: dict[str, Any]) -> Kept:
    parts = tuple((str(name), str(digest)) for name, digest in said["parts"])
    if not all(re.fullmatch(r"[0-9a-f]{64}", digest) for _, digest in parts):
        raise ValueError
    return Kept(str(said["sha256"]), bool(said["is_archive"]), parts)
