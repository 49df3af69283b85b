"""What is noted in a project's work folder <-> the same under a seal of this machine.

A work folder may come from anywhere, with a project by mail or out of a repository. What lies in it
is obeyed only when this machine noted it for this project: each note begins with a line that only
somebody with the secret in the user's state folder can write. HMAC-SHA-256, RFC 2104.
"""

from __future__ import annotations

import contextlib
import hashlib
import hmac
import os
import re
import secrets
import threading
from collections.abc import Callable
from functools import cache
from pathlib import Path
from typing import TypeVar

from riffler.errors import OutputError, RifflerError, tell
from riffler.files import as_typed, read_whole, real, set_aside, write_whole
from riffler.project.places import WORK

Read = TypeVar("Read")

#: The secret of this machine's user, in the state folder. XDG Base Directory Specification 0.8.
KEY_FILE = "riffler/seal"

#: What tells a project from others, in its work folder; a copy of the project keeps it.
IDENTITY = "identity"

#: An identity, a secret: so many bytes, written in hexadecimal.
_IDENTITY, _KEY = 16, 32

#: Bytes of a note beyond which nobody reads it: the largest are pictures of a whole page.
LARGEST = 400_000_000

#: Threads of a run make one secret and one identity; none puts aside what another has just made.
_ONE_AT_A_TIME = threading.Lock()

_HEAD = re.compile(rb"sealed ([0-9a-f]{64})\n")


def write_note(path: Path, body: bytes, *, is_here: bool = False, is_lasting: bool = False) -> None:
    """Write a note below a work folder, whole or not at all.

    `is_here` ties it to the project's place as well, so that it does not count in a copy. Raises
    OutputError where it can't be written.
    """
    work = _work_of(path)
    identity = _identity(work) or _new_identity(work)
    seal = _seal(path, body, identity, is_here=is_here)
    write_whole(path, b"sealed " + seal + b"\n" + body, within=work, is_lasting=is_lasting)


def read_note(path: Path, *, is_here: bool = False) -> bytes | None:
    """What a note says; None where there is none, or none that this machine made.

    Raises RifflerError and OSError where it can't be read.
    """
    try:
        if path.stat().st_size > LARGEST:
            return None
    except (FileNotFoundError, NotADirectoryError):
        return None
    data = read_whole(path)
    head, identity = _HEAD.match(data), _identity(_work_of(path))
    if head is None or not identity:
        return None
    body = data[head.end() :]
    is_ours = hmac.compare_digest(head[1], _seal(path, body, identity, is_here=is_here))
    return body if is_ours else None


def obeyed(path: Path, read: Callable[[bytes], Read], *, is_here: bool = False) -> Read | None:
    """What `read` makes of a note; None where there is none, or none that can be obeyed.

    Such a one is put out of the way, with a word to the person. `read` raises ValueError for it.
    """
    try:
        body = read_note(path, is_here=is_here)
        if body is not None:
            return read(body)
    except (RifflerError, OSError, ValueError):
        pass
    _refuse(path)
    return None


def _refuse(path: Path) -> None:
    why = "is not what this machine noted for this project"
    if (aside := set_aside(path)) is not None:
        tell(f"{as_typed(path)} {why}; it was not obeyed, and lies aside as {as_typed(aside)}.")


def _work_of(path: Path) -> Path:
    """The work folder that a note lies in, or the folder that stands for one."""
    return next((folder for folder in path.parents if folder.name == WORK), path.parent)


def _seal(path: Path, body: bytes, identity: bytes, *, is_here: bool) -> bytes:
    work = _work_of(path)
    place = os.fsencode(real(work)) if is_here else b""
    name = path.relative_to(work).as_posix().encode(errors="surrogateescape")
    told = hashlib.sha256(b"\0".join((name, identity, place))).digest()
    return hmac.new(_secret(_state()), told + body, "sha256").hexdigest().encode()


def _identity(work: Path) -> bytes:
    """What tells this project from others; empty where nothing does yet."""
    return _hexadecimal(work / IDENTITY, _IDENTITY)


def _new_identity(work: Path) -> bytes:
    """One that this run makes, or another that was faster: under that one its notes are sealed."""
    with _ONE_AT_A_TIME:
        for _ in range(2):
            with contextlib.suppress(OutputError):  # there is one
                write_whole(work / IDENTITY, secrets.token_hex(_IDENTITY).encode(), is_new=True)
            if identity := _identity(work):
                return identity
            set_aside(work / IDENTITY)  # damaged, or of another's making
    return b""


def _hexadecimal(path: Path, count: int) -> bytes:
    """The `count` bytes that a file holds in hexadecimal; empty where it does not."""
    try:
        data = read_whole(path) if path.stat().st_size == 2 * count else b""
    except (OSError, RifflerError):
        return b""
    return data if re.fullmatch(rb"[0-9a-f]+", data) else b""


def _state() -> Path:
    """The folder in which programs keep what is to last, of this user."""
    named = os.environ.get("XDG_STATE_HOME", "")
    if Path(named).is_absolute():
        return Path(named)
    with contextlib.suppress(RuntimeError):  # a user without a home
        return Path.home() / ".local/state"
    return Path(os.devnull)


def _secret(state: Path) -> bytes:
    """The secret of this machine's user, the same for all threads."""
    with _ONE_AT_A_TIME:
        return _kept_secret(state)


@cache
def _kept_secret(state: Path) -> bytes:
    """The secret, made when it is first asked for; of two runs that do so the first one makes it.

    Where it can't be kept it lasts as long as this run, and so do the notes under it.
    """
    path = state / KEY_FILE
    if known := _hexadecimal(path, _KEY):
        return known
    try:
        path.parent.mkdir(mode=0o700, parents=True, exist_ok=True)
        secret, is_new = secrets.token_hex(_KEY).encode(), not path.exists()
        write_whole(path, secret, is_new=is_new, is_private=True)
    except (OutputError, OSError):
        if not _hexadecimal(path, _KEY):  # nor has another run made it meanwhile
            tell(f"{path} can't be written: what is noted in {WORK} counts for this run alone.")
    return _hexadecimal(path, _KEY) or secrets.token_bytes(_KEY)
