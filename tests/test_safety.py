"""What must not happen to a person's files: nothing lost, nothing written or deleted elsewhere."""

from __future__ import annotations

import json
import os
import shutil
import subprocess
import sys
import threading
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path

import pytest

from conftest import Run
from making import Flat, write_ora, write_project
from planning import photo
from riffler.digests import sha256_of
from riffler.errors import OutputError
from riffler.files import sweep, write_whole
from riffler.plan.draft import file as drafting
from riffler.plan.draft import whole
from riffler.plan.mark import mark
from riffler.plan.wish import Wish
from riffler.project import lock
from riffler.project.project import Project
from riffler.site import bounds
from riffler.workspace import Workspace

CUTLIST = """\
mockup = "../mockups/m.ora"
[defaults]
alt = "Red"
[slice.red]
only = ["red"]
"""
LAYERS = [Flat("red", (10, 10, 30, 20), (255, 0, 0, 255)), Flat("base", (0, 0, 90, 60))]


@pytest.fixture
def project(tmp_path: Path) -> Path:
    root = write_project(
        tmp_path / "p",
        {"cuts/m.toml": CUTLIST, "pages/index.html": "{{ inlay('red') }}", "styles/a.css": "a {}"},
        LAYERS,
    )
    (tmp_path / "precious").mkdir()
    (tmp_path / "precious/go.txt").write_text("precious")
    return root


def link(*place: str) -> Callable[[Path], None]:
    """A link at `place` in the project to what is precious outside."""

    def prepare(root: Path) -> None:
        path = root.joinpath(*place[:-1])
        path.parent.mkdir(exist_ok=True)
        shutil.rmtree(path, ignore_errors=True)
        path.symlink_to(root.parent / place[-1])

    return prepare  # fmt: skip


def lie(file: str) -> Callable[[Path], None]:
    """A ledger that says of a file anywhere that we made it."""

    def prepare(root: Path) -> None:
        path = root / "out/ledger.json"
        ledger = json.loads(path.read_text())
        named = root / "out" / file
        ledger["assets"].append({**ledger["assets"][0], "file": file, "sha256": sha256_of(named)})
        path.write_text(json.dumps(ledger))

    return prepare  # fmt: skip


def settings(text: str) -> Callable[[Path], None]:
    def prepare(root: Path) -> None:
        (root / "riffler.toml").write_text(text)

    return prepare  # fmt: skip


@pytest.mark.parametrize(
    ("prepare", "command", "said"),
    [
        (link(".riffler", "precious"), "cut", "is a link"),
        (link(".riffler", "cache", "precious"), "cut --force", "is a link"),
        (link("out", "images", "precious"), "cut --force", "leads out of out"),
        (link("styles", "b.css", "precious/go.txt"), "build", "styles/b.css leads out of"),
        (link("pages", "b.html", "precious/go.txt"), "build", "leads out of the project"),
        (lie("../../precious/go.txt"), "cut --force", "can't be read as a ledger"),
        (lie("../mockups/m.ora"), "cut", "can't be read as a ledger"),
        (lie("/etc/hostname"), "cut", "can't be read as a ledger"),
        (settings('[folders]\nout = "pages"'), "cut", "share files"),
        (settings('[folders]\nout = "."'), "cut --force", ""),
        (settings('[folders]\nout = "styles/out"'), "cut", "share files"),
        (settings('[folders]\nout = ".riffler/cache"'), "cut", "share files"),
        (link("cuts", "b.toml", "precious/go.txt"), "cut", "cuts/b.toml leads out of"),
        (link("data", "b.toml", "precious/go.txt"), "build", "data/b.toml leads out of"),
        (link("scripts", "b.js", "precious/go.txt"), "build", "scripts/b.js leads out of"),
    ],
)
def test_nothing_elsewhere_is_touched(
    riffler: Run, project: Path, prepare: Callable[[Path], None], command: str, said: str
) -> None:
    riffler("cut", cwd=project)
    prepare(project)
    before = {path: path.read_bytes() for path in sources(project)}
    assert said in riffler(*command.split(), cwd=project, code=2).stderr
    assert {path: path.read_bytes() for path in sources(project)} == before
    assert [path.name for path in (project.parent / "precious").rglob("*")] == ["go.txt"]


def sources(project: Path) -> list[Path]:
    folders = ("cuts", "mockups", "pages", "styles", "../precious")
    return sorted(path for name in folders for path in (project / name).iterdir())


def test_what_is_not_ours_is_not_written_over(riffler: Run, project: Path) -> None:
    (project / "notes.png").write_bytes(b"notes")
    (project / "notes.html").write_bytes(b"<p>notes</p>")
    riffler("cut", cwd=project)
    for command, target in (
        ("look mockups/m.ora --picture", "notes.png"),
        ("survey --picture", "notes.png"),
        ("weigh red --picture", "notes.png"),
        ("weigh red --page", "notes.html"),
        ("cut mockups/m.ora -o", "notes.png"),
        ("draft mockups/m.ora -o", "riffler.toml"),
    ):
        kept = (project / target).read_bytes()
        riffler(*command.split(), target, cwd=project, code=2)
        assert (project / target).read_bytes() == kept, command
    riffler("weigh", "red", "--page", "pages/index.html", "--force", cwd=project, code=2)
    riffler("look", "mockups/m.ora", "--picture", "notes.png", "--force", cwd=project)
    riffler("look", "mockups/m.ora", "--picture", "notes.png", cwd=project)  # ours by now
    riffler("weigh", "red", "--page", "new.html", cwd=project)
    riffler("weigh", "red", "--page", "new.html", cwd=project)
    assert "Drawn by Riffler" in (project / "new.html").read_text()
    (project / "cuts/bare.toml").write_text("")  # names no mockup
    said = riffler("weigh", "red", "--page", "new.html", cwd=project, code=2).stderr
    assert "mockup is missing" in said


@pytest.mark.skipif(not Path("/dev/full").exists(), reason="a device of Linux")
def test_output_that_cannot_be_written(project: Path) -> None:
    with Path("/dev/full").open("w") as full:
        command = [sys.executable, "-m", "riffler", "look", "mockups/m.ora"]
        done = subprocess.run(
            command, cwd=project, stdout=full, stderr=subprocess.PIPE, check=False
        )
    assert (done.returncode, done.stderr.count(b"disk is full")) == (2, 1)
    environment = {**os.environ, "PYTHONIOENCODING": "ascii"}
    said = subprocess.check_output(command, cwd=project, env=environment)
    assert b"? red" in said


def test_a_folder_brings_no_code(process: Run, tmp_path: Path) -> None:
    (tmp_path / "m.svg").write_text(
        '<svg xmlns="http://www.w3.org/2000/svg"><path d="M0 0h9v9z"/></svg>'
    )
    for name in ("resvg_py", "json", "PIL"):
        (tmp_path / f"{name}.py").write_text("open('ran', 'w')")
    process("look", "m.svg", cwd=tmp_path)
    assert not (tmp_path / "ran").exists()


@pytest.mark.parametrize("end", ["\n", "\r\n"])
def test_a_file_that_is_marked_stays_what_it_is(riffler: Run, project: Path, end: str) -> None:
    common = project / "common.toml"
    before = "\ufeff" + CUTLIST.replace("\n", end) + f'# was:\u2028alt = "old"{end}'
    common.write_bytes(before.encode())
    common.chmod(0o640)
    path = project / "cuts/m.toml"
    path.unlink()
    path.symlink_to("../common.toml")
    riffler("mark", "red", "--alt", "New", cwd=project)
    assert path.is_symlink()
    assert common.stat().st_mode & 0o777 == 0o640
    assert common.read_bytes().decode() == before.replace(
        f'only = ["red"]{end}', f'only = ["red"]{end}alt  = "New"{end}'
    )
    common.chmod(0o440)
    assert "read-only" in riffler("mark", "red", "--alt", "Two", cwd=project, code=2).stderr


@pytest.mark.parametrize(
    "said, says",
    [
        ('[grid.a]\ncount = 3\nfrom = "a-1"\nto = 90', '"a" -> "a"'),
        ('[grid.a]\ncount = 3\nfrom = "b-1"\nto = 90\n[grid.b]\ncount = 2\nfrom = 0\nto = "a-2"',
         '"a" -> "b" -> "a"'),
        ("[slice." + ".".join("a" * 900) + "]", "nested too deeply"),
        ("[guides.x]\na = 1\n" + "".join(f'g{n} = "g{n - 1} + g{n - 1}"\n' for n in range(1, 40)),
         "no guide \"g0\""),
        ('[slice.big]\nonly = ["red"]\nrole = "icon"\nframe = [14000, 14000]', "limit of 50,000,000"),
        ('[slice.a]\nat = [0, 0, 9, 9]\ntimes = { count = 400 }\n'
         + "".join(f"[slice.a.state.s{n}]\nshow = []\n" for n in range(9)), "slices and states"),
        ('[slice.b]\nat = [0, 0, 9, 9]\nhide = ["' + "*a" * 30 + 'b"]', "no layer"),
    ],
)  # fmt: skip
def test_cutlists_that_ask_too_much(riffler: Run, project: Path, said: str, says: str) -> None:
    axis = '\n[slice.use]\nx = ["a-1", "a-2"]\ny = [0, 9]\n' if "grid" in said else ""
    if "guides" in said:
        axis = '\n[slice.use]\nx = [0, "g39"]\ny = [0, 9]\n'
    (project / "cuts/m.toml").write_text(f"{CUTLIST}{said}{axis}")
    assert says in riffler("cut", cwd=project, code=2).stderr


def test_a_draft_of_too_many_drawings_is_refused(riffler: Run, tmp_path: Path) -> None:
    shapes = "".join(f'<path id="a{n}" d="M{n} 0h9v9z"/>' for n in range(4))
    svg = f'<svg xmlns="http://www.w3.org/2000/svg" width="90" height="60">{shapes}</svg>'
    (tmp_path / "m.svg").write_text(svg)
    for most, code in ((3, 2), (4, 0)):
        (tmp_path / "riffler.toml").write_text(f"[limits]\ndrawings = {most}")
        said = riffler("draft", "m.svg", "--dry-run", code=code).stderr
        assert ("4 drawings, too many" in said) is bool(code)


@pytest.mark.parametrize(
    ("line", "said"),
    [
        (r'link = " Java\tscript:alert(1)"', "would run as code"),
        ('link = "DATA:text/html,x"', "would run as code"),
        ('link = "/data:x"', ""),
        ('link = "index#data:"', ""),
        ('link = "indx"', 'Did you mean "index"?'),
        ('link = "to-come"', ""),
        ("[slice.red.state.hovr]\nshow = []", 'The state "hovr" is nearly "hover"'),
        ('[slice.red.state.open]\nonly = ["base"]', ""),
    ],
)
def test_links_and_states_that_do_nothing(
    riffler: Run, project: Path, line: str, said: str
) -> None:
    (project / "cuts/m.toml").write_text(f"{CUTLIST}{line}\n")
    assert said in riffler("survey", cwd=project, code=1 if said else 0).stdout


@pytest.mark.parametrize(
    "template, says",
    [
        ("{{ link(3) }}", "3 is no name"),
        ('{% include "index.html" %}', "leads back to itself"),
        ("{% macro f() %}{{ f() }}{% endmacro %}{{ f() }}", "leads back to itself"),
        ("{% for a in range(99999) %}{% for b in range(99999) %}{% endfor %}{% endfor %}", "not done"),
        ('{{ "x" * 10**10 }}', "MB"),
        ('{{ "%9999999999d" % 1 }}', "MB"),
        ("{% set n = namespace(x='x') %}{% for i in range(40) %}{% set n.x = n.x ~ n.x %}{% endfor %}", "MB"),
        ("{{ 9 ** 999999999 }}", "too large"),
        ('{{ link(" JAVA\\tscript:alert(1)") }}', "would run as code"),
        ("{{ inlay() }}", ": inlay() missing"),
    ],
)  # fmt: skip
def test_a_template_comes_to_an_end(
    riffler: Run, project: Path, monkeypatch: pytest.MonkeyPatch, template: str, says: str
) -> None:
    monkeypatch.setattr(bounds, "SECONDS", 1.0 if says == "not done" else 60.0)
    riffler("cut", cwd=project)
    (project / "pages/index.html").write_text(f"\n{template}")
    said = riffler("build", cwd=project, code=2).stderr
    assert says in said
    assert "pages/index.html, line 2" in said


def test_part_files_are_nobodys(tmp_path: Path) -> None:
    (tmp_path / "precious").write_text("precious")
    (tmp_path / ("a" * 255)).write_text("")
    for number in (os.getpid(), 999_999_999):
        (tmp_path / f".a.{number}-0123abcd.riffler-part").write_text("half")
    (tmp_path / ".a.riffler-part").symlink_to("precious")
    write_whole(tmp_path / "a", b"whole")
    write_whole(tmp_path / ("b" * 250), b"whole")
    sweep(tmp_path, is_deep=True)
    left = sorted(path.name for path in tmp_path.glob(".a*"))
    assert left == [f".a.{os.getpid()}-0123abcd.riffler-part", ".a.riffler-part"]
    assert (tmp_path / "precious").read_text() == "precious"
    with pytest.raises(OutputError, match="there is one already"):
        write_whole(tmp_path / "a", b"new", is_new=True)
    assert (tmp_path / "a").read_bytes() == b"whole"


def test_a_template_without_an_end_ends_in_a_thread_too(monkeypatch: pytest.MonkeyPatch) -> None:
    """As it is built in a preview."""
    monkeypatch.setattr(bounds, "SECONDS", 0.3)
    loop = "{% for i in range(99999) %}{% for j in range(99999) %}x{% endfor %}{% endfor %}"
    template = bounds.Environment().from_string(loop)

    def render() -> str:
        with bounds.bounded():
            return template.render()

    with ThreadPoolExecutor(1) as threads:
        with pytest.raises(bounds.TooMuchError, match=r"not done after 0\.3 s"):
            threads.submit(render).result()
        template = bounds.Environment().from_string("x")
        assert threads.submit(render).result() == "x"


def test_runs_take_turns(project: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    def guide(number: int) -> None:
        wish = Wish(f"g{number}", "guide", {"at": number}, axis="x")
        mark(Workspace(Project.at(project)), wish)

    threads = [threading.Thread(target=guide, args=(number,)) for number in range(6)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    text = (project / "cuts/m.toml").read_text()
    assert all(f"g{number} = {number}" in text for number in range(6))
    monkeypatch.setattr(lock, "PATIENCE", 0.0)
    with (
        lock.locked(Project.at(project)),
        pytest.raises(OutputError, match=rf"\(process {os.getpid()}\)"),
    ):
        guide(7)


def test_what_is_saved_while_we_draft_stays(project: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    path, real = project / "cuts/m.toml", whole.draft

    def slow(*given: object, **more: object) -> object:
        path.write_text(path.read_text() + "# a person's line\n")
        return real(*given, **more)  # type: ignore[arg-type]

    monkeypatch.setattr(drafting, "draft", slow)
    write_ora(project / "mockups/m.ora", (90, 60), [photo("photo new", 60, 5, 20, 20), *LAYERS])
    workspace = Workspace(Project.at(project))
    drafting.draft_mockup(workspace, project / "mockups/m.ora", add=True)
    assert "# a person's line\n" in path.read_text()
    assert "[slice.photo-new]" in path.read_text()
