"""An SVG -> the PNG that the renderer makes of it, in a process that may be ended.

SVG is drawn in a process of its own, with limits on processor time and memory. The renderer is
native code: damaged drawings have made it abort, and a short file of filters can keep it busy for
hours. Then that process ends, and the run with a message. One process serves the whole run; it
costs about 0.1 s once.
"""

from __future__ import annotations

import atexit
import json
import os
import selectors
import signal
import threading
from collections.abc import Sequence
from pathlib import Path

from riffler import processes
from riffler.errors import MockupError
from riffler.render import svg_worker
from riffler.render.svg_worker import ANSWER, LENGTH

#: The signal of a process that has used up its processor time, where there is one.
SIGPROF = int(getattr(signal, "SIGPROF", 0))

#: On a busy machine a drawing may take so many times its processor time. Where the system counts
#: that, the clock is for what stands still alone, in all that time; elsewhere it is all there is.
PATIENCE = 30.0 if SIGPROF else 4.0

#: Seconds from one look at what a drawing has used to the next, and how many times that counts at
#: the most: when a whole machine pauses, all of the pause is charged to whoever runs.
LOOK, CHARGED = 0.25, 1.5

#: So many times its time the process may use before it ends itself, should nobody look.
UNSEEN = 4

#: Ticks of the system in a second. POSIX.1, sysconf.
TICKS = os.sysconf("SC_CLK_TCK") if hasattr(os, "sysconf") else 100


class Draughtsman:
    """The process that draws, started at the first drawing and again after it had to be ended."""

    def __init__(self) -> None:
        self._process: processes.Process | None = None
        self._lock, self._is_over = threading.Lock(), False
        atexit.register(self._close)

    def draw(self, svg: str, font_files: Sequence[str], what: str, seconds: float) -> bytes:
        """PNG bytes. Raises MockupError when it can't be drawn, or not in that many seconds."""
        with self._lock:
            try:
                is_picture, data = self._ask(svg, font_files, seconds)
            except (OSError, EOFError, TimeoutError) as error:
                if self._end() == -SIGPROF or isinstance(error, TimeoutError):
                    raise MockupError(
                        f"{what} takes more than {seconds:g} s to draw a part of.",
                        "If that is meant, raise [limits] seconds in riffler.toml.",
                    ) from error
                raise MockupError(
                    f"{what} makes the renderer fail.",
                    "It is damaged, or asks for more memory than a drawing may take.",
                ) from error
            except BaseException:
                self._end()
                raise
        if not is_picture:
            raise MockupError(f"{what} can't be drawn: {data.decode('utf-8', 'replace')}.")
        return data

    def _ask(self, svg: str, font_files: Sequence[str], seconds: float) -> tuple[bool, bytes]:
        process = self._running()
        assert process.stdin is not None
        spent = processes.spent(process.pid)
        own = seconds if spent is None else UNSEEN * seconds
        values = {"svg_string": svg, "font_files": list(font_files), "seconds": own}
        request = json.dumps(values).encode()
        process.stdin.write(LENGTH.pack(len(request)) + request)
        process.stdin.flush()
        is_picture, length = ANSWER.unpack(self._read(process, ANSWER.size, seconds, spent))
        return is_picture, self._read(process, length, seconds, spent)

    def _read(
        self, process: processes.Process, count: int, seconds: float, spent: int | None
    ) -> bytes:
        """Exactly `count` bytes, of a process that had `spent` so many ticks before.

        Raises TimeoutError for one that uses more processor time than `seconds` meanwhile, or
        stands still for `PATIENCE` times as long.
        """
        assert process.stdout is not None
        parts = bytearray()
        used = still = 0.0
        with selectors.DefaultSelector() as selector:
            selector.register(process.stdout, selectors.EVENT_READ)
            while len(parts) < count:
                if not selector.select(LOOK):
                    before, spent = spent, processes.spent(process.pid)
                    worked = (spent or 0) - (before or 0)
                    used += min(worked / TICKS, CHARGED * LOOK)
                    still = 0.0 if worked else still + LOOK
                    if used > seconds or still > PATIENCE * seconds:
                        raise TimeoutError
                    continue
                part = os.read(process.stdout.fileno(), count - len(parts))
                if not part:
                    raise EOFError
                parts += part
        return bytes(parts)

    def _running(self) -> processes.Process:
        if self._is_over:  # a thread may draw on while the run ends
            raise EOFError
        if self._process is None or self._process.poll() is not None:
            renderer = processes.holding("resvg_py")
            self._process = processes.start(str(Path(svg_worker.__file__)), *renderer, bufsize=0)
        return self._process

    def _close(self) -> None:
        """End the process at once: the run is over, whatever another thread does."""
        self._is_over = True
        if (process := self._process) is not None:
            process.kill()
            self._end()

    def _end(self) -> int:
        """End the process; returns the code it ended with."""
        process, self._process = self._process, None
        if process is None:
            return 0
        return processes.end(process, 0.2)


#: One process draws for all renderers of a run.
DRAUGHTSMAN = Draughtsman()
