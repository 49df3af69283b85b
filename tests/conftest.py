"""What tests share: the real program, and the example built once."""

from __future__ import annotations

import contextlib
import gc
import io
import os
import shutil
import signal
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable, Iterator, Sequence
from pathlib import Path

import numpy as np
import pytest
from hypothesis import settings
from PIL import Image
from playwright.sync_api import Browser, Page, sync_playwright

from riffler import processes
from riffler.__main__ import main
from riffler.jobs import runner

settings.register_profile("riffler", deadline=None)  # tests time nothing
settings.load_profile("riffler")

if signal.getsignal(signal.SIGINT) is signal.SIG_IGN:  # begun in the background of a shell
    signal.signal(signal.SIGINT, signal.default_int_handler)

if "PYTEST_XDIST_WORKER" in os.environ:  # the processors are taken: by a worker each
    runner._processors = lambda: 1

if "PYTEST_XDIST_WORKER" not in os.environ:  # notes are sealed with a secret of the tests' own
    os.environ["XDG_STATE_HOME"] = tempfile.mkdtemp(prefix="riffler-state-")

Run = Callable[..., subprocess.CompletedProcess[str]]


def run_riffler(
    *arguments: str | Path, cwd: Path, code: int = 0
) -> subprocess.CompletedProcess[str]:
    """Run the real program in a folder; its exit code must be `code`."""
    done = subprocess.run(
        [sys.executable, "-m", "riffler", *map(str, arguments)],
        cwd=cwd,
        capture_output=True,
        text=True,
        env={**os.environ, "NO_COLOR": "1", "COLUMNS": "100"},
        check=False,
    )
    assert done.returncode == code, f"exit {done.returncode}\n{done.stdout}\n{done.stderr}"
    assert "Traceback" not in done.stderr
    assert "Warning" not in done.stderr
    return done


def run_here(
    *arguments: str | Path, cwd: Path, code: int | None = 0
) -> subprocess.CompletedProcess[str]:
    """Run the program in this process, as a person would in a folder; ten times as fast.

    Its exit code must be `code`, unless that is None. Pages are not looked at while they are roughed
    out: tests have a browser of their own open in this process.
    """
    out, err = io.StringIO(), io.StringIO()
    before, said = Path.cwd(), sys.argv
    blind = ("--no-look",) if arguments[:1] == ("rough",) else ()
    sys.argv = ["riffler", *map(str, arguments), *blind]
    os.chdir(cwd)
    ended: object = 0
    try:
        with contextlib.redirect_stdout(out), contextlib.redirect_stderr(err):
            main()
    except SystemExit as end:
        ended = end.code or 0
    finally:
        os.chdir(before)
        sys.argv = said
        gc.unfreeze()
        signal.signal(signal.SIGINT, signal.default_int_handler)
    assert isinstance(ended, int)
    done = subprocess.CompletedProcess(arguments, ended, out.getvalue(), err.getvalue())
    assert code in (ended, None), f"exit {ended}\n{done.stdout}\n{done.stderr}"
    assert "Traceback" not in done.stderr
    return done


@pytest.fixture(autouse=True)
def _no_reader(monkeypatch: pytest.MonkeyPatch) -> None:
    """Tesseract of the machine is not there: what it reads is not the same everywhere."""
    find = processes.program

    def program(names: Sequence[str]) -> str | None:
        path = find(names)
        is_real = path is not None and not path.startswith(tempfile.gettempdir())
        return None if is_real and "tesseract" in names else path

    monkeypatch.setattr(processes, "program", program)


@pytest.fixture
def riffler(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> Run:
    """The program in the test's own folder unless told otherwise, without a process of its own."""
    monkeypatch.setenv("NO_COLOR", "1")
    monkeypatch.setenv("COLUMNS", "100")

    def run(*arguments: str | Path, cwd: Path = tmp_path, code: int | None = 0) -> object:
        return run_here(*arguments, cwd=cwd, code=code)

    return run  # type: ignore[return-value]


@pytest.fixture
def process(tmp_path: Path) -> Run:
    """The real program, in a process of its own."""

    def run(*arguments: str | Path, cwd: Path = tmp_path, code: int = 0) -> object:
        return run_riffler(*arguments, cwd=cwd, code=code)

    return run  # type: ignore[return-value]


@pytest.fixture(scope="session")
def built(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """The example, cut and built, once for all workers; not to be changed."""
    base = tmp_path_factory.getbasetemp()
    shared = base.parent if "PYTEST_XDIST_WORKER" in os.environ else base
    folder = shared / "built"
    try:
        folder.mkdir()
    except FileExistsError:  # another worker makes it
        until = time.monotonic() + 120
        while not (shared / "built.done").exists():
            assert time.monotonic() < until, "the example was never built"
            time.sleep(0.1)
        return folder / "fernhollow"
    run_riffler("demo", "fernhollow", cwd=folder)
    (shared / "built.done").touch()
    return folder / "fernhollow"


@pytest.fixture
def demo(built: Path, tmp_path: Path) -> Path:
    """A copy of the built example to change at will."""
    return Path(shutil.copytree(built, tmp_path / "fernhollow"))


@pytest.fixture(scope="session")
def browser() -> Iterator[Browser]:
    """Chromium as installed; without it the test fails."""
    path = os.environ.get("RIFFLER_CHROMIUM", "/usr/bin/chromium")
    with sync_playwright() as playwright:
        chromium = playwright.chromium.launch(executable_path=path, args=["--no-sandbox"])
        yield chromium
        _PAGES.clear()
        chromium.close()


#: Pages that stay open, by density: a new one takes half a second.
_PAGES: dict[float, Page] = {}


def shown(
    browser: Browser, page: str | Path, width: int, height: int, density: float = 1,
    *, is_clear: bool = False,
) -> np.ndarray:  # fmt: skip
    """What Chromium shows of a file, or of markup, with fonts and pictures: (H, W, 4) uint8."""
    if density not in _PAGES:
        _PAGES[density] = browser.new_page(device_scale_factor=density)
    tab = _PAGES[density]
    tab.set_viewport_size({"width": width, "height": height})
    if isinstance(page, Path):
        tab.goto(page.as_uri())
    else:
        tab.set_content(page)
    tab.evaluate("document.fonts.ready")
    tab.wait_for_function("[...document.images].every(image => image.complete)")
    data = tab.screenshot(omit_background=is_clear)
    return np.asarray(Image.open(io.BytesIO(data)).convert("RGBA"))
