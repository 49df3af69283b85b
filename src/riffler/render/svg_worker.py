"""The process that draws SVG: requests on standard input, pictures on standard output.

It runs apart because the renderer is native code: a hostile drawing can keep it busy for hours or
make it abort, and then only this process goes. Started by `svg_process`; knows nothing of Riffler.
"""

from __future__ import annotations

import contextlib
import json
import signal
import struct
import sys
from typing import BinaryIO

#: Before each message: its length in bytes. Before each answer also whether it is a picture.
LENGTH = struct.Struct(">I")
ANSWER = struct.Struct(">?I")

#: CSS pixels in an inch, by which lengths in pt, mm and in count. CSS Values 3, section 6.2.
DPI = 96.0

#: Address space of this process, in bytes; a page drawn in pieces needs a tenth of it.
MEMORY = 500_000_000


def main(requests: BinaryIO, answers: BinaryIO) -> None:
    """Answer every request until the other side closes the pipe."""
    _limit_memory()
    import resvg_py

    while head := requests.read(LENGTH.size):
        request = json.loads(requests.read(LENGTH.unpack(head)[0]))
        _allow(request.pop("seconds"))
        try:
            data = resvg_py.svg_to_bytes(skip_system_fonts=True, dpi=DPI, **request)
            is_picture = True
        except KeyboardInterrupt:
            return
        except BaseException as error:  # the renderer's panics are no Exceptions
            is_picture, data = False, str(error).encode()
        _allow(0)
        answers.write(ANSWER.pack(is_picture, len(data)) + data)
        answers.flush()


def _allow(seconds: float) -> None:
    """End this process after so much processor time; 0 takes the limit away."""
    with contextlib.suppress(AttributeError):  # not on every system: the other side has a clock
        signal.setitimer(signal.ITIMER_PROF, seconds)


def _limit_memory() -> None:
    with contextlib.suppress(ImportError, OSError, ValueError):
        import resource

        resource.setrlimit(resource.RLIMIT_AS, (MEMORY, MEMORY))


if __name__ == "__main__":
    sys.path.extend(sys.argv[1:])
    main(sys.stdin.buffer, sys.stdout.buffer)
