"""`python -m riffler`, and the `riffler` program."""

from __future__ import annotations

import errno
import gc
import os
import sys
from types import FrameType

#: What `riffler cut` may be called with to be answered before the command line is loaded.
PLAIN_CUT = {"-q", "--quiet", "--json"}


def main() -> None:
    """Run the command line; what is asked most often is answered without loading all of it."""
    # Slices are worked on side by side, each by one thread: sums never depend on the machine.
    os.environ.setdefault("OPENBLAS_NUM_THREADS", "1")
    # Looking for plugins reads the metadata of every installed package; there are none for us.
    os.environ.setdefault("PYDANTIC_DISABLE_PLUGINS", "1")
    _settle_output()
    try:
        if sys.argv[1:] == ["--version"]:
            from riffler import __version__

            sys.stdout.write(f"riffler {__version__}\n")
            sys.stdout.flush()
            return
        _end_on_interrupt()
        _refuse_no_folder()
        if _is_answered(sys.argv[1:]):
            return
        from riffler.cli.app import app

        app(prog_name="riffler")
    except OSError as error:
        if error.errno != errno.ENOSPC:
            raise
        sys.stderr.write("riffler: what it says can't be written: the disk is full.\n")
        sys.exit(2)
    finally:
        gc.freeze()  # or the end would look through all objects once more: 0.1 s after large cuts


def _end_on_interrupt() -> None:
    """Let Ctrl-C end the program where it is, unless it is ignored, as in some shells."""
    try:
        import signal

        if signal.getsignal(signal.SIGINT) is signal.default_int_handler:
            signal.signal(signal.SIGINT, _stop)
    except KeyboardInterrupt:  # it came while that was loading
        _stop()


def _stop(_: int = 0, __: FrameType | None = None) -> None:
    """End without a way back through imports, threads and native code, which may not survive it.

    Files are whole at every moment; what is being written beside them goes.
    """
    discard = getattr(sys.modules.get("riffler.files"), "discard", None)
    if discard is not None:  # it may just be loading
        discard()
    os.write(2, b"\nriffler: stopped; every file is whole.\n")
    os._exit(130)


def _refuse_no_folder() -> None:
    """Exit where the current folder has been removed, or may not be looked at."""
    try:
        os.getcwd()  # noqa: PTH109 - pathlib takes a moment to load
    except OSError as error:
        is_gone = isinstance(error, FileNotFoundError)
        why = "is gone" if is_gone else f"can't be used: {error.strerror}"
        sys.stderr.write(f"riffler: The folder that you are in {why}.\n")
        sys.exit(2)


def _settle_output() -> None:
    """Print signs that the terminal lacks as `?`, and nothing where the output is closed."""
    if sys.stdout is None:
        sys.stdout = open(os.devnull, "w", encoding="utf-8")  # noqa: PTH123, SIM115
    if hasattr(sys.stdout, "reconfigure"):
        sys.stdout.reconfigure(errors="replace")


def _is_answered(arguments: list[str]) -> bool:
    """Answer a plain `cut` when it would change nothing; whether it was one."""
    if arguments[:1] != ["cut"] or set(arguments[1:]) - PLAIN_CUT:
        return False
    from riffler.report.cuts import show_unchanged
    from riffler.report.screen import Screen

    is_quiet = bool({"-q", "--quiet"} & set(arguments))
    return show_unchanged(Screen("cut", is_quiet=is_quiet, is_json="--json" in arguments))


def _forget_folder() -> None:
    """`python -m` would import from the current folder, too: a project brings no code."""
    ours = os.path.dirname(os.path.dirname(os.path.abspath(__file__)))  # noqa: PTH100, PTH120
    if not sys.flags.safe_path and sys.path[0] != ours:
        del sys.path[0]


if __name__ == "__main__":
    _forget_folder()
    main()
