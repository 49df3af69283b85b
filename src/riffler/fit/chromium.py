"""An installed Chromium -> the same running, with no network and in its own sandbox.

Everything that a page asks for is answered by us (`asked_for`), or by nobody: the browser stands in
a network namespace of its own where the system gives one, and its proxy refuses everything.
"""

from __future__ import annotations

import os
import socket
from collections.abc import Iterator, Sequence
from contextlib import contextmanager
from dataclasses import dataclass, field
from functools import cache
from pathlib import Path
from typing import TYPE_CHECKING

from riffler import processes
from riffler.errors import RifflerError, tell
from riffler.fit.guard import Guard

if TYPE_CHECKING:
    from playwright.sync_api import Browser, BrowserType

#: Names under which Chromium is installed; an environment variable goes before.
NAMES, VARIABLE = ("chromium", "chromium-browser", "google-chrome", "chrome"), "RIFFLER_CHROMIUM"

#: What a browser says that finds no way to keep its pages apart from the system.
NO_SANDBOX = "No usable sandbox"

#: What is said of a browser without a sandbox.
BARE = "Chromium runs without its sandbox, as {}: look only at pages that you trust."

#: Colours as they are; no name leads anywhere, and nothing goes past the proxy.
ARGUMENTS = (
    "--force-color-profile=srgb",
    "--host-resolver-rules=MAP * ~NOTFOUND",
    "--proxy-bypass-list=<-loopback>",
    "--disable-quic",
    "--force-webrtc-ip-handling-policy=disable_non_proxied_udp",
    "--webrtc-ip-handling-policy=disable_non_proxied_udp",
)

#: Commands after which another runs without any network; of root, and of everybody.
CELLS = (("unshare", "--net"), ("unshare", "--user", "--map-current-user", "--net"))


@dataclass(frozen=True)
class Chromium:
    """A browser that runs, and who watches it."""

    browser: Browser
    guard: Guard = field(default_factory=Guard)


@contextmanager
def browsing(*, is_ours: bool = False) -> Iterator[Chromium]:
    """A Chromium that is installed here. Raises RifflerError where there is none.

    Where it runs without its sandbox that is said, unless all that it will show is ours.
    """
    try:
        from playwright.sync_api import sync_playwright
    except ImportError as error:
        raise RifflerError(
            "Looking at pages needs a browser, and Playwright to drive it.",
            'Install both: pip install "riffler[browser]", and Chromium from your system.',
        ) from error
    with _refusing() as proxy, sync_playwright() as playwright, Guard() as guard:
        browser = _launched(
            playwright.chromium, [*ARGUMENTS, f"--proxy-server={proxy}"], is_ours=is_ours
        )
        try:
            yield Chromium(browser, guard)
        finally:
            with guard.asking():
                browser.close()


@contextmanager
def _refusing() -> Iterator[str]:
    """The address of a proxy that refuses everything: a port that nobody else can listen on."""
    with socket.socket() as taken:
        taken.bind(("127.0.0.1", 0))
        yield f"http://127.0.0.1:{taken.getsockname()[1]}"


def _launched(chromium: BrowserType, arguments: Sequence[str], *, is_ours: bool) -> Browser:
    """The browser, in its sandbox unless that is impossible, which is said."""
    from playwright.sync_api import Error

    program = os.environ.get(VARIABLE) or processes.program(NAMES)
    path, environment = _in_a_cell(program)

    def launch(*, has_sandbox: bool) -> Browser:
        return chromium.launch(
            executable_path=path,
            args=list(arguments),
            env=environment,
            chromium_sandbox=has_sandbox,
        )

    try:
        if not is_root():
            try:
                return launch(has_sandbox=True)
            except Error as error:
                if NO_SANDBOX not in str(error):
                    raise
        why = "root has none" if is_root() else "this system gives it none"
        if not is_ours:
            tell(BARE.format(why))
        return launch(has_sandbox=False)
    except Error as error:
        raise RifflerError(
            "Chromium could not be started.",
            f"Install it, or name its program: {VARIABLE}=/usr/bin/chromium riffler fit",
        ) from error


def is_root() -> bool:
    """Whether this runs as root, for whom Chromium has no sandbox."""
    return hasattr(os, "geteuid") and os.geteuid() == 0


def _in_a_cell(program: str | None) -> tuple[str | None, dict[str, str | float | bool]]:
    """What is to be started, and its environment: the program in a cell where there are any."""
    environment: dict[str, str | float | bool] = dict(os.environ)
    cell = Path(__file__).with_name("cell")
    if program is None or not os.access(cell, os.X_OK):
        return program, environment
    environment |= {
        "RIFFLER_BROWSER": program,
        "RIFFLER_CELL": " ".join(_cell()),
    }
    return str(cell), environment


@cache
def _cell() -> tuple[str, ...]:
    """The command for a cell that this system gives; none where it gives none."""
    program = processes.program(["unshare"])
    commands = ((str(program), *options) for _, *options in CELLS if program)
    return next((command for command in commands if processes.works([*command, "true"])), ())
