"""A small project, and runs of the program in it that report each touch of a file before it happens.

Python announces every opening, renaming and removing to its audit hooks, so no touch is missed,
whichever module it comes from. A run lives in a fork of this process: it starts at once.
"""

from __future__ import annotations

import io
import os
import re
import shutil
import signal
import sys
import zipfile
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from pathlib import Path
from typing import TypeAlias

from PIL import Image, ImageDraw

#: What touches a file, with the place of its path among the event's values.
TOUCHES = {
    "os.rename": 1, "os.remove": 0, "os.rmdir": 0, "os.mkdir": 0, "os.link": 1, "os.truncate": 0,
}  # fmt: skip

Touch: TypeAlias = tuple[str, str, int]
"""What happens, to which file (as seen from the project, without chance), for the how manieth time."""

CUTLIST = """\
# Written by hand.
mockup = "../mockups/page.ora"
density = 1

[defaults]
alt = "A shape"

[guides.x]
left = 20

[slice.sun]
only = ["sun"]
save = ["png", "webp"]

[slice.hill]   # the green one
only = ["hill"]

[slice.words]
role = "words"
at = [10, 100, 80, 30]
"""

PAGE = """\
<!doctype html>
<html lang="en"><title>{title}</title>
<link rel="stylesheet" href="styles/page.css">
<h1>{title}</h1>
{{{{ inlay('sun') }}}}
</html>
"""


def project(root: Path) -> Path:
    """A project with a mockup of four layers, a cutlist for two, two pages and a style sheet."""
    for folder in ("mockups", "cuts", "pages", "styles"):
        (root / folder).mkdir(parents=True)
    (root / "riffler.toml").write_text("# Settings\n")
    (root / "cuts/page.toml").write_text(CUTLIST)
    for name in ("index", "about"):
        (root / f"pages/{name}.html").write_text(PAGE.format(title=name.title()))
    (root / "styles/page.css").write_text("h1 { color: #333 }\n")
    (root / "mockups/page.ora").write_bytes(_mockup())
    return root


def drawing(title: str, leaf: int) -> str:
    """A page of vectors, with words and two shapes, one of them at that height."""
    return (
        '<svg xmlns="http://www.w3.org/2000/svg" width="800" height="500">'
        '<rect id="bar" width="800" height="60" fill="#333"/>'
        '<text id="logo" x="20" y="40" font-family="Figtree" font-size="22" fill="#fff">Apiary</text>'
        f'<text id="title" x="20" y="130" font-family="Figtree" font-size="32">{title}</text>'
        f'<path id="leaf" d="M500 {leaf}q 40 80 90 10 t 20 90z" fill="#3a3"/>'
        f'<path id="bee" d="M640 {leaf}q 40 80 90 10 t 20 90z" fill="#a33"/>'
        '<rect id="foot" y="440" width="800" height="60" fill="#222"/></svg>'
    )


def drawn(root: Path) -> None:
    """Instead of the project one of vectors, drafted, with a typeface and an icon."""
    shutil.rmtree(root)
    for folder in ("mockups", "cuts", "fonts"):
        (root / folder).mkdir(parents=True)
    (root / "riffler.toml").write_text('# Settings\n[favicon]\nslice = "leaf"\nground = "#fff"\n')
    (root / "mockups/home.svg").write_text(drawing("Hives at dusk", 150))
    fonts = Path(__file__).parents[1] / "src/riffler/demo/fernhollow/fonts"
    shutil.copy(fonts / "figtree-400.ttf", root / "fonts")
    run("draft mockups/home.svg -q", root)


def _mockup() -> bytes:
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w") as archive:
        archive.writestr(zipfile.ZipInfo("mimetype"), "image/openraster")
        stack = ""
        for name, (x, y), color in (
            ("sun", (20, 20), "#f0b429"), ("hill", (90, 40), "#5a7d3a"),
            ("lake", (30, 90), "#3a6f8f"), ("page", (0, 0), "#f7f1e3"),
        ):  # fmt: skip
            size = (200, 160) if name == "page" else (60, 40)
            picture = Image.new("RGBA", size)
            draw = ImageDraw.Draw(picture)
            draw.ellipse((0, 0, size[0], size[1]), fill=color)
            if name == "page":
                picture.paste(color, (0, 0, *size))
            data = io.BytesIO()
            picture.save(data, "PNG")
            archive.writestr(zipfile.ZipInfo(f"data/{name}.png"), data.getvalue())
            stack += f'<layer name="{name}" src="data/{name}.png" x="{x}" y="{y}" opacity="1" visibility="visible" composite-op="svg:src-over"/>'
        archive.writestr(
            zipfile.ZipInfo("stack.xml"), f'<image w="200" h="160"><stack>{stack}</stack></image>'
        )
    return out.getvalue()


@dataclass(frozen=True)
class Ended:
    """How a run ended: its exit code (minus a signal's number when killed), and what it said."""

    code: int
    said: str


def start(
    words: str, root: Path, said: Path, meet: Callable[[Touch], None], *, reads: bool = False
) -> int:
    """Begin a run in a fork; `meet` is called in it before each touch. Returns its number."""
    number = os.fork()
    if number:
        return number
    code = 3
    try:
        os.chdir(root)
        file = os.open(said, os.O_WRONLY | os.O_CREAT | os.O_TRUNC)
        os.dup2(file, 1)
        os.dup2(file, 2)
        sys.stdout, sys.stderr = (
            io.TextIOWrapper(io.FileIO(end, "w", closefd=False)) for end in (1, 2)
        )
        _listen(root, meet, reads=reads)
        code = _run(words.split())
    finally:
        sys.stdout.flush()
        sys.stderr.flush()
        os._exit(code)


def wait(number: int, said: Path) -> Ended:
    """The end of a run that was begun."""
    _, status = os.waitpid(number, 0)
    return Ended(os.waitstatus_to_exitcode(status), said.read_text(errors="replace"))


def run(words: str, root: Path, meet: Callable[[Touch], None] | None = None) -> Ended:
    """A whole run, from beginning to end."""
    said = root.parent / "said.txt"
    return wait(start(words, root, said, meet or void), said)


def _run(words: Sequence[str]) -> int:
    import traceback

    from riffler.__main__ import main

    sys.argv = ["riffler", *words]
    signal.signal(signal.SIGINT, signal.default_int_handler)
    try:
        main()
    except SystemExit as end:
        return end.code if isinstance(end.code, int) else 0
    except BaseException:
        traceback.print_exc()
        return 3
    return 0


def _listen(root: Path, meet: Callable[[Touch], None], *, reads: bool) -> None:
    seen: dict[tuple[str, str], int] = {}
    inside = str(root) + os.sep

    def hear(event: str, values: tuple[object, ...]) -> None:
        if event == "open":
            if not (reads or (isinstance(values[2], int) and values[2] & os.O_CREAT)):
                return
            path = values[0]
        elif event in TOUCHES:
            path = values[TOUCHES[event]]
        else:
            return
        if isinstance(path, str | os.PathLike):
            whole = str(Path(path).absolute())
            if whole.startswith(inside):
                short = re.sub(r"\d+-[0-9a-f]{8}", "#", whole[len(inside) :])
                seen[event, short] = seen.get((event, short), 0) + 1
                meet((event, short, seen[event, short]))

    sys.addaudithook(hear)

    real = os.fsync

    def announced(number: int) -> None:  # the one touch that Python does not announce
        hear("os.truncate", (Path(f"/proc/self/fd/{number}").readlink(),))
        real(number)

    os.fsync = announced  # type: ignore[assignment]


def void(_: object) -> None:
    """Nothing; for what is done for its effect."""


def warm() -> None:
    """Load what commands load, so that forks start with it."""
    import importlib
    import pkgutil

    import riffler

    for module in pkgutil.walk_packages(riffler.__path__, "riffler."):
        if not module.name.endswith(("__main__", "svg_worker")):
            importlib.import_module(module.name)


def hand_written(root: Path) -> dict[str, bytes]:
    """What a person wrote, by its path."""
    return _files(root, lambda path: path.parts[0] not in ("out", ".riffler"))


def made(root: Path) -> dict[str, bytes]:
    """All but the work folder, by its path, part files too."""
    return _files(root, lambda path: path.parts[0] != ".riffler" or "part" in path.suffix)


def _files(root: Path, wanted: Callable[[Path], bool]) -> dict[str, bytes]:
    return {
        path.relative_to(root).as_posix(): path.read_bytes()
        for path in sorted(root.rglob("*"))
        if path.is_file() and wanted(path.relative_to(root))
    }
