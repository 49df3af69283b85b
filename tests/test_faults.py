"""What the machine does to us: full disks, kills, closed folders, pipes, folders that go away."""

from __future__ import annotations

import errno
import json
import os
import shutil
import signal
import subprocess
import sys
from collections.abc import Callable
from itertools import islice
from pathlib import Path

import pytest

from conftest import Run
from making import Flat, tree, write_ora, write_project
from riffler import files
from riffler.errors import RifflerError
from riffler.files import Edit, files_below, rewrite
from riffler.output import publish

CUTLIST = """\
# By hand
mockup = "../mockups/m.ora"
[defaults]
alt = ""
[slice.red]
only = ["red"]
[slice.base]
at = [0, 0, 40, 30]
"""


@pytest.fixture
def project(riffler: Run, tmp_path: Path) -> Path:
    """All is made; then a slice is renamed, one is saved otherwise, and a page is new."""
    page = "{{ inlay('base') }}"
    root = write_project(
        tmp_path / "p",
        {"cuts/m.toml": CUTLIST, "pages/index.html": page, "styles/a.css": "a {}"},
        [Flat("red", (10, 10, 30, 20), (255, 0, 0, 255)), Flat("base", (0, 0, 100, 80))],
    )
    riffler("cut", cwd=root)
    riffler("build", cwd=root)
    text = CUTLIST.replace("slice.red", "slice.rouge") + 'save = ["png", "gif"]\n'
    (root / "cuts/m.toml").write_text(text)
    (root / "pages/new.html").write_text(page)
    return root


def made(root: Path) -> dict[str, bytes]:
    """All files but those that may be deleted at any time."""
    hidden = (".riffler/cache", ".riffler/unchanged", ".riffler/lock")
    return {name: data for name, data in tree(root).items() if not name.startswith(hidden)}


class Fails:
    """Lets through so many touches of files, and then none: a disk that has just become full."""

    def __init__(self, after: int) -> None:
        self.left = after

    def instead(self, real: Callable[..., object]) -> Callable[..., object]:
        def touch(*given: object, **more: object) -> object:
            self.left -= 1
            if self.left < 0:
                raise OSError(errno.ENOSPC, os.strerror(errno.ENOSPC), str(given[0]))
            return real(*given, **more)

        return touch


@pytest.mark.parametrize(
    "command", ["cut", "build", "mark edge --guide-x 3", "mark rouge --remove"]
)
def test_a_disk_that_is_full_at_any_moment(
    riffler: Run, project: Path, tmp_path: Path, command: str
) -> None:
    if command == "build":
        riffler("cut", cwd=project)
    whole = Path(shutil.copytree(project, tmp_path / "whole"))
    riffler(*command.split(), cwd=whole)
    for after in range(60):
        root = Path(shutil.copytree(project, tmp_path / f"p{after}"))
        fails = Fails(after)
        with pytest.MonkeyPatch.context() as patch:
            patch.setattr(files, "_write_new", fails.instead(files._write_new))
            patch.setattr(Path, "replace", fails.instead(Path.replace))
            done = riffler(*command.split(), cwd=root, code=None)
        assert done.returncode in (0, 2)
        if done.returncode:
            assert "No space left on device" in done.stderr
        is_changed = tree(root / "cuts") == tree(whole / "cuts")
        assert is_changed or tree(root / "cuts") == tree(project / "cuts")
        if not (command.startswith("mark") and is_changed):
            riffler(*command.split(), cwd=root)
        assert made(root) == made(whole)
        if fails.left >= 0:
            return
    pytest.fail("it never ended")


def test_runs_killed_one_after_another_leave_nothing_behind(
    riffler: Run, project: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    def cut(save: str, name: str, after: int | None = None) -> None:
        """Cut one slice under a name, killed after so many files."""
        text = CUTLIST.replace("slice.base", f"slice.{name}") + f"save = {save}\n"
        (project / "cuts/m.toml").write_text(text)
        with monkeypatch.context() as patch:
            if after is not None:
                real = files.write_all
                patch.setattr(publish, "write_all", lambda files: real(islice(files, after)))
                patch.setattr(publish, "write_whole", Fails(0).instead(files.write_whole))
            riffler("cut", cwd=project, code=0 if after is None else 2)

    images = project / "out/images"
    cut('["png", "gif"]', "first", after=1)  # a file of the first one is there
    assert (images / "first.png").exists() or (images / "first.gif").exists()
    cut('["webp"]', "second", after=0)  # the next one has another plan, and writes nothing
    page = project / "out/index.html"
    page.write_text("by hand")
    cut('["png", "gif"]', "second", after=2)
    (images / "second.png").write_bytes((images / "second.gif").read_bytes())  # by hand, as it is
    cut('["jpeg"]', "third")
    names = {path.name for path in images.iterdir()}
    assert names == {"red.png", "third.jpg", "second.png"}, "what nobody made stays"
    assert page.read_text() == "by hand"
    assert not (project / ".riffler/journal.json").exists()
    ledger = json.loads((project / "out/ledger.json").read_bytes())
    assert {asset["file"] for asset in ledger["assets"] if asset["kind"] == "cut"} == {
        "images/red.png", "images/third.jpg",
    }  # fmt: skip


def test_a_file_that_was_half_changed_by_killed_runs_is_still_ours(
    riffler: Run, project: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    box = "[slice.base]\nat = [{}, 0, 40, 30]\n"
    head = CUTLIST.partition("[slice.base]")[0]
    for place in (5, 9):  # each is killed: one after the file is written, one before
        (project / "cuts/m.toml").write_text(head + box.format(place))
        with monkeypatch.context() as patch:
            if place == 9:
                patch.setattr(publish, "write_all", Fails(0).instead(files.write_all))
            patch.setattr(publish, "write_whole", Fails(0).instead(files.write_whole))
            riffler("cut", cwd=project, code=2)
    (project / "cuts/m.toml").write_text(head + box.format(1))
    riffler("cut", cwd=project)
    assert not (project / ".riffler/journal.json").exists()


def test_a_file_that_goes_away_while_it_is_edited(tmp_path: Path) -> None:
    edit = Edit(tmp_path / "a.toml", "a", "b")
    with pytest.raises(RifflerError, match="can't be read"):
        rewrite(lambda: edit, tmp_path)
    edit.file.write_text("other")
    with pytest.raises(RifflerError, match="being written by another program"):
        rewrite(lambda: edit, tmp_path)
    assert [path.name for path in tmp_path.iterdir()] == ["a.toml"]


def test_a_closed_folder_is_not_an_empty_one(riffler: Run, project: Path) -> None:
    before, real = made(project), os.scandir

    def closed(folder: str) -> object:
        if str(folder).endswith(("pages", "cuts")):
            raise PermissionError(errno.EACCES, "Permission denied", folder)
        return real(folder)

    with pytest.MonkeyPatch.context() as patch:
        patch.setattr(os, "scandir", closed)
        for command in ("cut", "survey", "build", "mark a --guide-x 3"):
            said = riffler(*command.split(), cwd=project, code=2).stderr
            assert "can't be read: Permission denied." in said
    assert made(project) == before


@pytest.mark.skipif(not hasattr(os, "mkfifo"), reason="pipes have names on Unix alone")
def test_a_pipe_is_no_file(riffler: Run, project: Path) -> None:
    for name in ("cuts/pipe.toml", "pages/pipe.html", "styles/pipe.css", "mockups/pipe.svg"):
        os.mkfifo(project / name)
    riffler("cut", cwd=project)
    riffler("build", cwd=project)
    assert not [path for path in files_below(project) if "pipe" in path.name]
    assert "a pipe or a device" in riffler("look", "mockups/pipe.svg", cwd=project, code=2).stderr
    for name in ("out/ledger.json", "out/index.html"):  # in the place of what was there
        (project / name).unlink(missing_ok=True)
        os.mkfifo(project / name)
        for command in ("cut", "build"):
            riffler(command, "-q", cwd=project, code=None)
    os.mkfifo(project / "out/fifo")
    (project / "riffler.toml").unlink()
    os.mkfifo(project / "riffler.toml")
    riffler("cut", cwd=project, code=2)


@pytest.mark.parametrize(
    "place, said",
    [
        ("slice", "name too long"),
        ("folder", "name too long"),
        ("mockup", "name too long"),
        ("include", "there is no file"),
    ],
)
def test_names_that_no_file_can_have(riffler: Run, project: Path, place: str, said: str) -> None:
    long, cutlist = "x" * 300, project / "cuts/m.toml"
    match place:
        case "slice":
            cutlist.write_text(cutlist.read_text().replace("slice.base", f"slice.{long}"))
        case "folder":
            (project / "riffler.toml").write_text(f'[folders]\nout = "{long}"\n')
        case "mockup":
            cutlist.write_text(f'mockup = "{long}"\n')
        case "include":
            cutlist.write_text('include = ["gone.toml"]\n' + cutlist.read_text())
    assert said in riffler("cut", cwd=project, code=2).stderr.lower()


@pytest.mark.skipif(sys.platform == "win32", reason="a folder in use can't be removed there")
def test_the_current_folder_is_gone(tmp_path: Path) -> None:
    folder = tmp_path / "gone"
    folder.mkdir()
    script = f"cd {folder} && rmdir {folder} && exec {sys.executable} -P -m riffler cut"
    done = subprocess.run(["sh", "-c", script], capture_output=True, text=True, check=False)
    assert (done.returncode, done.stderr) == (2, "riffler: The folder that you are in is gone.\n")


@pytest.mark.skipif(not hasattr(os, "fork"), reason="other systems know no such signal")
def test_ctrl_c_leaves_no_part_file(project: Path) -> None:
    """In a process of its own, in the middle of a write."""
    script = (
        "import os, signal, sys; from riffler.__main__ import main\n"
        "sys.argv = ['riffler', 'mark', 'edge', '--guide-x', '3']\n"
        "os.fsync = lambda file: os.kill(os.getpid(), signal.SIGINT)\n"
        "main()"
    )
    before = made(project)
    done = subprocess.run(
        [sys.executable, "-c", script],
        cwd=project, capture_output=True, text=True, check=False,
        preexec_fn=lambda: signal.signal(signal.SIGINT, signal.default_int_handler),
    )  # fmt: skip
    assert (done.returncode, done.stderr) == (130, "\nriffler: stopped; every file is whole.\n")
    assert made(project) == before


def test_a_start_that_was_stopped_is_finished(riffler: Run, tmp_path: Path) -> None:
    riffler("start", "site")
    whole = tree(tmp_path / "site")
    (tmp_path / "site/riffler.toml").unlink()
    (tmp_path / "site/pages/.index.html.999999999-0123abcd.riffler-part").write_text("<htm")
    riffler("start", "site")
    assert tree(tmp_path / "site") == whole
    (tmp_path / "site/riffler.toml").write_text("# mine")
    assert "not empty" in riffler("start", "site", code=2).stderr


STEERING = "\N{RIGHT-TO-LEFT OVERRIDE}gnp\x9b31m"


def test_signs_that_steer_are_shown(riffler: Run, tmp_path: Path) -> None:
    """A name or a word from a file, wherever it is printed or written."""
    text = f'<text id="a" y="20" font-size="16">{STEERING}</text>'
    svg = '<svg xmlns="http://www.w3.org/2000/svg" width="90" height="60">{}</svg>'
    (tmp_path / "m.svg").write_text(svg.format(text))
    said = riffler("look", "m.svg", "--json").stdout
    assert STEERING not in said
    assert STEERING in json.loads(said)["layers"][0]["words"]["lines"][0]
    riffler("draft", "m.svg")
    assert "\N{REPLACEMENT CHARACTER}gnp" in (tmp_path / "m.toml").read_text()
    root = write_project(
        tmp_path / "p", {"cuts/m.toml": CUTLIST.replace('alt = ""', f'alt = "{STEERING[:4]}"')}
    )
    write_ora(root / "mockups/m.ora", (100, 80), [Flat("red"), Flat("base", (0, 0, 100, 80))])
    riffler("cut", cwd=root)
    assert 'alt="&#x202e;gnp"' in riffler("inlay", "red", cwd=root).stdout
    riffler("mark", "red", "--alt", f"New {STEERING[:4]}", cwd=root)
    assert 'alt  = "New \\u202Egnp"' in (root / "cuts/m.toml").read_text()
