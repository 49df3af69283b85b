"""Files: written whole or not at all, hashed, and named as the person would name them."""

from __future__ import annotations

import contextlib
import errno
import hashlib
import os
import re
import secrets
import stat
from collections.abc import Callable, Iterator, Sequence
from pathlib import Path
from typing import Any, Protocol, TypeVar

from riffler.errors import OutputError, RifflerError, nearest

#: Ending of a file that is being written. Before it stand the number of the process that writes and
#: some chance: no run meets the files of another, and a killed one's are known by its number.
ASIDE = ".riffler-part"

#: What some editors put before the text of a file. Unicode 15, section 23.8.
BOM = "\ufeff"

#: Looks at a hand-written file before we give up, when another program writes it meanwhile.
TRIES = 5

Edited = TypeVar("Edited", bound="Edit")

_ASIDE = re.compile(r"\..+\.(\d+)-[0-9a-f]{8}\.riffler-part")


def write_whole(
    path: Path,
    data: bytes,
    *,
    within: Path | None = None,
    is_new: bool = False,
    is_lasting: bool = True,
) -> None:
    """Write `data` beside `path`, then rename: readers see the old file or the new one.

    The file that is there keeps its rights, and one that is to be read only is refused. A link is
    followed where it leads to something `within` a folder, and stays a link; without that folder
    the link itself is replaced. `is_new` refuses a name that is taken, in the moment of naming.
    What is to last is on the disk before its name is. Raises OutputError when it can't be written,
    with what was there untouched.
    """
    target = path.resolve() if within and path.is_symlink() else path
    if within is not None and not is_inside(target, within):
        raise OutputError(f"{as_typed(path)} leads out of {as_typed(within)}: nothing was written.")
    aside = target.with_name(f".{_short(path.name)}.{os.getpid()}-{secrets.token_hex(4)}{ASIDE}")
    try:
        mode = _mode(target)
        try:
            _write_new(aside, data, mode, is_lasting=is_lasting)
        except FileNotFoundError:
            target.parent.mkdir(parents=True, exist_ok=True)
            _write_new(aside, data, mode, is_lasting=is_lasting)
        if is_new:
            _refuse_taken(target)
        aside.replace(target)
        if is_lasting:
            _settle(target.parent)
    except OSError as error:
        raise OutputError(
            f"{as_typed(path)} can't be written: {error.strerror or error}.",
            "What was there before is untouched. Free some space or change the rights, then again.",
        ) from error
    finally:
        with contextlib.suppress(OSError):
            aside.unlink(missing_ok=True)


class Edit(Protocol):
    """A hand-written file and its text, as it was read and as it is to be."""

    @property
    def file(self) -> Path:
        """Which one."""
        ...

    @property
    def before(self) -> str:
        """The text that was read."""
        ...

    @property
    def after(self) -> str:
        """The text to write."""
        ...


def rewrite(edit: Callable[[], Edited], within: Path) -> Edited:
    """Write a hand-written file anew as `edit` says; a byte-order mark stays.

    `edit` is asked again when somebody saved the file meanwhile. Raises OutputError as
    `write_whole` does, and when that never ends.
    """
    for _ in range(TRIES):
        edited = edit()
        raw = edited.file.read_bytes()
        mark = BOM.encode() if raw.startswith(BOM.encode()) else b""
        if raw[len(mark) :] == edited.before.encode():
            if edited.after != edited.before:
                write_whole(edited.file, mark + edited.after.encode(), within=within)
            return edited
    raise OutputError(f"{as_typed(edited.file)} is being written by another program.", "Try again.")


def _short(name: str) -> str:
    """As much of a name as leaves room for the rest of a part file's; file systems allow 255."""
    return name.encode()[:160].decode(errors="ignore")


def _refuse_taken(path: Path) -> None:
    if path.exists() or path.is_symlink():
        raise FileExistsError(errno.EEXIST, "there is one already")


def _mode(target: Path) -> int | None:
    """The rights of the file that is there; None for a new one. Raises OSError if it is read-only.

    Rights are asked for as they are written down: who runs as root may write anything.
    """
    try:
        mode = stat.S_IMODE(target.stat().st_mode)
    except FileNotFoundError:
        return None
    if not mode & 0o222:
        raise PermissionError(errno.EACCES, "it is read-only")
    return mode


def _write_new(path: Path, data: bytes, mode: int | None, *, is_lasting: bool) -> None:
    """Write a file that must not be there yet, not even as a link."""
    flags = os.O_WRONLY | os.O_CREAT | os.O_EXCL | getattr(os, "O_NOFOLLOW", 0)
    with open(os.open(path, flags, 0o666), "wb") as file:  # noqa: PTH123 - a number, not a path
        file.write(data)
        if is_lasting:
            file.flush()
            os.fsync(file.fileno())
        if mode is not None and hasattr(os, "fchmod"):
            os.fchmod(file.fileno(), mode)


def _settle(folder: Path) -> None:
    """See a folder's names onto the disk, where the system can."""
    with contextlib.suppress(OSError, AttributeError):
        number = os.open(folder, os.O_RDONLY | os.O_DIRECTORY)
        try:
            os.fsync(number)
        finally:
            os.close(number)


def sweep(folder: Path) -> None:
    """Remove what killed runs left half-written below a folder; that of others who run stays."""
    for path in files_below(folder):
        found = _ASIDE.fullmatch(path.name)
        if found is not None and not path.is_symlink() and not _runs(int(found[1])):
            path.unlink(missing_ok=True)


def _runs(process: int) -> bool:
    """Whether a process of this number runs, as far as can be told."""
    try:
        os.kill(process, 0)
    except ProcessLookupError:
        return False
    except (OSError, OverflowError):
        return True
    return True


def remove(path: Path, folder: Path) -> None:
    """Remove a file that lies in `folder`, and the folders inside it that are then empty.

    Nothing happens to what only seems to lie there by way of a link.
    """
    if not is_inside(path.parent, folder):
        return
    path.unlink(missing_ok=True)
    with contextlib.suppress(OSError):
        for parent in path.parents:
            if parent == folder or not parent.is_relative_to(folder):
                return
            parent.rmdir()


def refuse_link(folder: Path) -> None:
    """Raises OutputError for a folder of ours that is a link: what is kept there may be deleted."""
    if folder.is_symlink():
        raise OutputError(
            f"{as_typed(folder)} is a link, and what is kept there is deleted at times.",
            "Remove the link; a folder is made in its place.",
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
