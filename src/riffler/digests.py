"""Texts and files -> short texts that tell them from others."""

from __future__ import annotations

import hashlib
import stat
from pathlib import Path

#: A file last written so long before it was looked at, in nanoseconds, has the same bytes while it
#: has the same size and time: no second change can have fallen into the same tick of its clock.
SETTLED = 2_000_000_000


def is_settled(changed: int, seen: int) -> bool:
    """Whether a file's time of change tells its bytes, to who looked at it at `seen`."""
    return changed < seen - SETTLED


def sha256(data: bytes) -> str:
    """Hexadecimal SHA-256 of the bytes (FIPS 180-4)."""
    return hashlib.sha256(data).hexdigest()


def digest_of(*values: object) -> str:
    """A short text that tells values from others: equal ones give equal digests. FIPS 180-4."""
    return sha256("\0".join(map(str, values)).encode())


def program() -> str:
    """Tells one state of the program from another, so that nothing kept survives a new one."""
    package = Path(__file__).parent
    result = [path.stat() for path in sorted(package.rglob("*.py"))]
    return digest_of("program", *((entry.st_size, entry.st_mtime_ns) for entry in result))


def sha256_of(path: Path) -> str | None:
    """Hexadecimal SHA-256 of a file; None when there is none. Raises OSError for other reasons."""
    try:
        if not stat.S_ISREG(path.stat().st_mode):
            return None  # who opens a pipe waits for somebody to write into it
        with path.open("rb") as file:
            return hashlib.file_digest(file, "sha256").hexdigest()
    except (FileNotFoundError, NotADirectoryError):
        return None
