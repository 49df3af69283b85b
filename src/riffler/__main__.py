"""`python -m riffler`, and the `riffler` program."""

from __future__ import annotations

import gc
import os
import sys


def main() -> None:
    """Run the command line; the version alone is printed without loading any of it."""
    if sys.argv[1:] == ["--version"]:
        from riffler import __version__

        sys.stdout.write(f"riffler {__version__}\n")
        return
    # Slices are worked on side by side, each by one thread: sums never depend on the machine.
    os.environ.setdefault("OPENBLAS_NUM_THREADS", "1")
    # Looking for plugins reads the metadata of every installed package; there are none for us.
    os.environ.setdefault("PYDANTIC_DISABLE_PLUGINS", "1")
    from riffler.cli.app import app

    try:
        app(prog_name="riffler")
    finally:
        gc.freeze()  # or the end would look through all objects once more: 0.1 s after large cuts


if __name__ == "__main__":
    main()
