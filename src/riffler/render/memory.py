"""The C library's memory: what large pictures took goes back to the system."""

from __future__ import annotations

import contextlib
import ctypes
import sys
from functools import cache

#: Bytes from which a block is mapped by itself: most bands of work stay below.
MAPPED = 12_000_000

#: Bytes that may lie free at the end of a heap before they are given back: less, and what bands of
#: work take would come anew from the system each time.
KEPT = 48_000_000

#: The numbers of the parameters in glibc's malloc.h; mallopt(3).
_TRIM_THRESHOLD, _MMAP_THRESHOLD = -1, -3


@cache
def give_back_large_blocks() -> None:
    """Tells the C library to return every large block as soon as it is freed.

    By itself glibc raises the size from which it does so up to 32 MB after the first large block is
    freed, and keeps the holes that strips of layers leave: a third of the peak. Elsewhere nothing
    is done.
    """
    if sys.platform == "linux":
        with contextlib.suppress(OSError, AttributeError):  # another C library
            library = ctypes.CDLL(None)
            library.mallopt(_MMAP_THRESHOLD, MAPPED)
            library.mallopt(_TRIM_THRESHOLD, KEPT)
