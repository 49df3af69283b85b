"""The process that does operations for another: pickled ones come in, pickled results go out.

It ends when the other side closes the pipe, however that comes about. Started by `helper`.
"""

from __future__ import annotations

import contextlib
import os
import pickle
import sys
from typing import BinaryIO


def main() -> None:
    """Take requests from standard input, and answer on what standard output was."""
    answers = os.fdopen(os.dup(sys.stdout.fileno()), "wb")
    os.dup2(sys.stderr.fileno(), sys.stdout.fileno())  # whatever prints can't garble an answer
    with contextlib.suppress(EOFError, BrokenPipeError, KeyboardInterrupt):
        serve(sys.stdin.buffer, answers)


def serve(requests: BinaryIO, answers: BinaryIO) -> None:
    """First the workspace, then operations, each answered by whether it worked and what it gave.

    Raises EOFError when there are no more.
    """
    workspace = pickle.load(requests)  # noqa: S301 - from the process that started this one
    while True:
        operation = pickle.load(requests)  # noqa: S301
        try:
            answer = True, operation.run(workspace)
        except Exception as error:
            answer = False, error
        pickle.dump(answer, answers)
        answers.flush()
