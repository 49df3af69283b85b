"""Files: written whole or not at all, hashed, and named as the person would name them."""

from __future__ import annotations

import contextlib
import errno
import os
import re
import stat
from collections.abc import Callable, Iterable, Iterator
from dataclasses import dataclass
from pathlib import Path
from typing import TypeVar

from riffler.errors import OutputError, RifflerError, nearest

#: Ending of a file that is being written. Before it stand the number of the process that writes and
#: some chance: no run meets the files of another, and a killed one's are known by its number.
ASIDE = ".riffler-part"

#: What some editors put before the text of a file. Unicode 15, section 23.8.
BOM = "\ufeff"

#: Looks at a hand-written file before we give up, when another program writes it meanwhile.
TRIES = 5

Edited = TypeVar("Edited", bound="Edit")

#: What this process is writing.
_parts: set[Path] = set()

_ASIDE = re.compile(r"\..+\.(\d+)-[0-9a-f]{8}\.riffler-part")


def write_whole(
    path: Path,
    data: bytes,
    *,
    within: Path | None = None,
    is_new: bool = False,
    is_lasting: bool = True,
    is_private: bool = False,
) -> None:
    """Write `data` beside `path`, then rename: readers see the old file or the new one.

    The file that is there keeps its rights, and one that is to be read only is refused. A link is
    followed where it leads to something `within` a folder, and stays a link; without that folder
    the link itself is replaced. `is_new` refuses a name that is taken, in the moment of naming.
    What is to last is on the disk before its name is; what is private only its owner reads. Raises
    OutputError when it can't be written, with what was there untouched.
    """
    target = _target(path, within)
    with _aside(path, target, data, is_lasting=is_lasting, is_private=is_private) as aside:
        if is_new:
            _name_new(aside, target)
        else:
            aside.replace(target)
        if is_lasting:
            _settle(target.parent)
            sweep(target.parent, is_deep=False)


def write_all(files: Iterable[tuple[Path, bytes]]) -> None:
    """Write many files as `write_whole` does; their folders are brought to the disk once, last."""
    folders = set()
    for path, data in files:
        with _aside(path, path, data, is_lasting=True) as aside:
            aside.replace(path)
        folders.add(path.parent)
    for folder in folders:
        _settle(folder)


def _target(path: Path, within: Path | None) -> Path:
    """The file that is meant. Raises OutputError for one outside of where it must be."""
    target = real(path) if within and path.is_symlink() else path
    if within is not None and not is_inside(target, within):
        raise OutputError(f"{as_typed(path)} leads out of {as_typed(within)}: nothing was written.")
    return target


@contextlib.contextmanager
def _aside(
    path: Path, target: Path, data: bytes, *, is_lasting: bool, is_private: bool = False
) -> Iterator[Path]:
    """A file beside the target that has the data; gone at the end if it has not been renamed.

    Raises OutputError, under the name `path`, for whatever the system objects to meanwhile.
    """
    short = path.name.encode()[:160].decode(errors="ignore")  # of the 255 that file systems allow
    aside = target.with_name(f".{short}.{os.getpid()}-{os.urandom(4).hex()}{ASIDE}")
    _parts.add(aside)
    try:
        old = _old(target)
        if old is None:
            target.parent.mkdir(parents=True, exist_ok=True)
        _write_new(aside, data, old, is_lasting=is_lasting, is_private=is_private)
        yield aside
    except OSError as error:
        raise OutputError(
            f"{as_typed(path)} can't be written: {error.strerror or error}.",
            "What was there before is untouched. Free some space or change the rights, then again.",
        ) from error
    finally:
        with contextlib.suppress(OSError):
            aside.unlink(missing_ok=True)
        _parts.discard(aside)


def _name_new(aside: Path, target: Path) -> None:
    """Give a file a name that nothing has, in one step where the file system has such a step."""
    try:
        target.hardlink_to(aside)
    except FileExistsError as error:
        raise FileExistsError(errno.EEXIST, "there is one already") from error
    except OSError:
        if os.path.lexists(target):
            raise FileExistsError(errno.EEXIST, "there is one already") from None
        aside.replace(target)


@dataclass(frozen=True)
class Edit:
    """A hand-written file, its text as it was read and as it is to be."""

    file: Path
    before: str
    after: str


def rewrite(edit: Callable[[], Edited], within: Path) -> Edited:
    """Write a hand-written file anew as `edit` says; a byte-order mark, owner and rights stay.

    `edit` is asked again when somebody saved the file meanwhile, which is looked at right before
    the new text takes the old one's name. Raises OutputError as `write_whole` does, when the file
    is gone, and when that never ends.
    """
    for _ in range(TRIES):
        edited = edit()
        if edited.after == edited.before:
            return edited
        target = _target(edited.file, within)
        raw = read_whole(edited.file)
        mark = BOM.encode() if raw.startswith(BOM.encode()) else b""
        data = mark + edited.after.encode()
        with _aside(edited.file, target, data, is_lasting=True) as aside:
            if read_whole(edited.file) == mark + edited.before.encode():
                aside.replace(target)
                _settle(target.parent)
                sweep(target.parent, is_deep=False)
                return edited
    raise OutputError(f"{as_typed(edited.file)} is being written by another program.", "Try again.")


def read_whole(path: Path) -> bytes:
    """What is in a file. Raises RifflerError when it can't be read; a pipe or a device is none."""
    try:
        if not stat.S_ISREG(path.stat().st_mode):
            raise OSError(errno.EINVAL, "it is no file")
        return path.read_bytes()
    except OSError as error:
        raise RifflerError(f"{as_typed(path)} can't be read: {error.strerror}.") from error


def _old(target: Path) -> os.stat_result | None:
    """The file that is there; None for a new one. Raises OSError if it is read-only.

    Rights are asked for as they are written down: who runs as root may write anything.
    """
    try:
        old = target.stat()
    except FileNotFoundError:
        return None
    if not old.st_mode & 0o222:
        raise PermissionError(errno.EACCES, "it is read-only")
    return old


def _write_new(
    path: Path, data: bytes, old: os.stat_result | None, *, is_lasting: bool, is_private: bool
) -> None:
    """Write a file that must not be there yet, not even as a link."""
    flags = os.O_WRONLY | os.O_CREAT | os.O_EXCL | getattr(os, "O_NOFOLLOW", 0)
    with open(os.open(path, flags, 0o600 if is_private else 0o666), "wb") as file:  # noqa: PTH123 - a number, not a path
        file.write(data)
        if is_lasting:
            file.flush()
            os.fsync(file.fileno())
        if old is not None and hasattr(os, "fchmod"):
            with contextlib.suppress(OSError):  # only root may give files away
                os.fchown(file.fileno(), old.st_uid, old.st_gid)
            os.fchmod(file.fileno(), stat.S_IMODE(old.st_mode))


def _settle(folder: Path) -> None:
    """See a folder's names onto the disk, where the system can."""
    with contextlib.suppress(OSError, AttributeError):
        number = os.open(folder, os.O_RDONLY | os.O_DIRECTORY)
        try:
            os.fsync(number)
        finally:
            os.close(number)


def discard() -> None:
    """Remove what this process is writing and has not named yet: it is about to end."""
    for aside in tuple(_parts):
        with contextlib.suppress(OSError):
            aside.unlink(missing_ok=True)


def sweep(folder: Path, *, is_deep: bool) -> None:
    """Remove what killed runs left half-written in a folder, and deep in it if so wanted.

    What others who run are writing stays.
    """
    for path in files_below(folder) if is_deep else sorted(folder.glob(f".*{ASIDE}")):
        match = _ASIDE.fullmatch(path.name)
        if match is not None and not path.is_symlink() and not _runs(int(match[1])):
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


def set_aside(path: Path) -> Path | None:
    """Give a file another name beside it, in the place of an older such; None where it can't be."""
    try:
        return path.replace(path.with_name(f"{path.name}.aside"))
    except OSError:
        return None


def remove(path: Path, folder: Path) -> None:
    """Remove a file that lies in `folder`, and the folders inside it that are then empty.

    Nothing happens to what only seems to lie there, by a link. Raises OutputError where it can't.
    """
    if not is_inside(path.parent, folder):
        return
    try:
        path.unlink(missing_ok=True)
    except OSError as error:
        raise OutputError(f"{as_typed(path)} can't be removed: {error.strerror}.") from error
    with contextlib.suppress(OSError):
        for parent in path.parents:
            if parent == folder or not parent.is_relative_to(folder):
                return
            parent.rmdir()


def beside(path: Path) -> str:
    """Advice for a missing file: the nearest names in its folder."""
    folder = path.parent
    return nearest(path.name, sorted(file.name for file in folder.glob("*")))


def as_typed(path: Path) -> str:
    """The path as a person in this folder would type it: relative where it lies below."""
    try:
        return str(real(path).relative_to(real(Path.cwd()))) or "."
    except ValueError:
        return str(path)


def is_inside(path: Path, folder: Path) -> bool:
    """Whether `path`, its links followed, lies in `folder`; links in a circle lead nowhere."""
    return real(path).is_relative_to(real(folder))


def real(path: Path) -> Path:
    """The path from the root, its links followed; one in a circle stays, and leads nowhere."""
    return Path(os.path.realpath(path))  # `Path.resolve` raises for a circle before Python 3.13


def files_below(folder: Path) -> Iterator[Path]:
    """Every file below `folder`, in one order on every machine; pipes and devices are none.

    Raises RifflerError for a folder that can't be read: it is not the same as an empty one.
    """

    def refuse(error: OSError) -> None:
        if not isinstance(error, FileNotFoundError):
            place = as_typed(Path(error.filename))
            raise RifflerError(f"{place} can't be read: {error.strerror}.") from error

    for current, folders, names in os.walk(folder, onerror=refuse):
        folders.sort()
        for name in sorted(names):
            path = os.path.join(current, name)  # noqa: PTH118 - many files
            if stat.S_IFMT(os.lstat(path).st_mode) in (stat.S_IFREG, stat.S_IFLNK):
                yield Path(path)
