"""Files: written whole or not at all, hashed, and named as the person would name them."""

from __future__ import annotations

import contextlib
import hashlib
import os
from collections.abc import Iterator, Sequence
from pathlib import Path
from typing import Any

from riffler.errors import OutputError, RifflerError, nearest

#: Ending of a file that is being written; a killed run may leave one behind, the next removes it.
ASIDE = ".riffler-part"


def write_whole(path: Path, data: bytes) -> None:
    """Write `data` beside `path`, then rename: readers see the old file or the new one.

    Raises OutputError when the disk is full or the folder can't be written.
    """
    aside = path.with_name(f".{path.name}{ASIDE}")
    try:
        try:
            aside.write_bytes(data)
        except FileNotFoundError:
            path.parent.mkdir(parents=True, exist_ok=True)
            aside.write_bytes(data)
        aside.replace(path)
    except OSError as error:
        with contextlib.suppress(OSError):
            aside.unlink(missing_ok=True)
        raise OutputError(
            f"{as_typed(path)} can't be written: {error.strerror or error}.",
            "What was there before is untouched. Free some space or change the rights, then again.",
        ) from error


def refuse_over(path: Path, mockup: Path) -> None:
    """Raises OutputError when writing to `path` would write over the mockup."""
    if path.resolve() == mockup.resolve() or (path.exists() and path.samefile(mockup)):
        raise OutputError(
            f"That would write over the mockup {as_typed(mockup)}.", "Name another file."
        )


def refuse_ending(path: Path, endings: Sequence[str]) -> None:
    """Raises RifflerError when a file to write does not end as what is written to it."""
    if path.suffix.lower() not in endings:
        raise RifflerError(f'"{path}" should end in {" or ".join(endings)}.')


def beside(path: Path) -> str:
    """Advice for a missing file: the nearest names in its folder."""
    if not path.parent.is_dir():
        return ""
    return nearest(path.name, sorted(other.name for other in path.parent.iterdir()))


def sha256(data: bytes) -> str:
    """Hexadecimal SHA-256 of the bytes (FIPS 180-4)."""
    return hashlib.sha256(data).hexdigest()


def digest_of(*values: object) -> str:
    """A short text that tells values from others: equal ones give equal digests. FIPS 180-4."""
    return sha256("\0".join(map(str, values)).encode())


def sha256_of(path: Path) -> str | None:
    """Hexadecimal SHA-256 of a file; None when it isn't there."""
    try:
        with path.open("rb") as file:
            return hashlib.file_digest(file, "sha256").hexdigest()
    except OSError:
        return None


def parse_json(data: bytes) -> Any:  # noqa: ANN401 - whatever it says
    """What a file of ours says. Raises ValueError for anything that is no JSON, or too deep."""
    import json

    try:
        return json.loads(data)
    except RecursionError as error:
        raise ValueError("nested too deeply") from error


def as_typed(path: Path) -> str:
    """The path as a person in this folder would type it: relative where it lies below."""
    try:
        return str(path.resolve().relative_to(Path.cwd().resolve())) or "."
    except ValueError:
        return str(path)


def is_inside(path: Path, folder: Path) -> bool:
    """Whether `path`, its links followed, lies in `folder`."""
    return path.resolve().is_relative_to(folder.resolve())


def files_below(folder: Path) -> Iterator[Path]:
    """Every file below `folder`, in one order on every machine."""
    for current, folders, names in os.walk(folder):
        folders.sort()
        for name in sorted(names):
            yield Path(current) / name
