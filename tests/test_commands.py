"""What all commands share: JSON of one shape, quiet, help by groups, answers without loading much."""

from __future__ import annotations

import doctest
import io
import json
import os
import pickle
import subprocess
import sys
from collections.abc import Callable
from pathlib import Path

import pytest
from PIL import Image

import riffler as package
from conftest import Run
from making import Flat, tree, write_ora, write_project
from riffler import errors, face
from riffler.cutting.unchanged import unchanged
from riffler.errors import RifflerError

NAMES = "start look draft mark survey weigh cut inlay build demo".split()

CUTLIST = '[slice.box]\nat = [0, 0, 40, 30]\nalt = ""\n[slice.text]\nat = [0, 40, 60, 20]\nrole = "words"\n'


@pytest.fixture
def project(tmp_path: Path) -> Path:
    files = {
        "cuts/m.toml": 'mockup = "../mockups/m.ora"\n' + CUTLIST, "pages/index.html": "<p>x</p>\n",
    }  # fmt: skip
    layers = [Flat("all", (0, 0, 50, 80)), Flat("ground", (0, 0, 100, 80), (9, 90, 9, 255))]
    return write_project(tmp_path / "p", files, layers)


def test_the_face_does_what_its_examples_say(demo: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.chdir(demo)
    for module, examples in ((package, 7), (face, 6)):
        found = doctest.testmod(module, extraglobs={"riffler": package})
        assert (found.failed, found.attempted) == (0, examples)
    assert all(getattr(package, name) is not None for name in package.__all__)
    rooms = {path.name.removesuffix(".py") for path in Path(package.__file__).parent.iterdir()}
    assert not rooms & set(package.__all__), "a room would hide a name of the face"


@pytest.mark.parametrize(
    "command, keys",
    [
        (("cut",), {"written", "unchanged", "removed", "words"}),
        (("cut", "box"), {"written", "unchanged", "removed", "words"}),
        (("cut", "mockups/m.ora", "-o", "x.png"), {"written", "unchanged", "removed", "words"}),
        (("build",), {"written", "unchanged", "removed", "words"}),
        (("look", "mockups/m.ora"), {"mockup", "size", "density", "canvases", "merged", "layers"}),
        (("look", "mockups/m.ora", "--grid", "--fonts", "--at", "3,3"),
         {"mockup", "size", "density", "canvases", "at", "fonts", "grid"}),
        (("survey",), {"findings", "accepted", "idle", "advice"}),
        (("mark", "edge", "--guide-x", "5", "--dry-run"), {"file", "lines", "box"}),
        (("weigh", "box"), {"pictures"}),
        (("draft", "mockups/m.ora", "--dry-run"),
         {"mockup", "file", "density", "why_density", "guides", "slices", "css", "says",
          "questions"}),
    ],
)  # fmt: skip
def test_json_has_one_base_shape(
    riffler: Run, project: Path, command: tuple[str, ...], keys: set[str]
) -> None:
    done = riffler(*command, "--json", cwd=project)
    data = json.loads(done.stdout)
    assert list(data)[:2] == ["command", "version"]
    assert (data["command"], data["version"]) == (command[0], 4 if command[0] == "weigh" else 2)
    assert set(data) - {"command", "version"} == keys
    assert done.stderr == ""


def test_quiet_says_only_what_is_asked_for(riffler: Run, project: Path) -> None:
    for command in (("cut",), ("cut",), ("build",), ("survey",), ("mark", "e", "--guide-x", "5")):
        assert riffler(*command, "-q", cwd=project).stdout == "", command


@pytest.mark.parametrize("name", NAMES)
def test_help_goes_by_groups(riffler: Run, name: str) -> None:
    lines = riffler(name, "--help").stdout.splitlines()
    headings = [line for line in lines if line.endswith(":") and not line.startswith(" ")]
    assert headings[-1] == "Output:"
    last = lines[lines.index("Output:") + 1 :]
    assert [line.split()[0].strip(",") for line in last][-2:] == ["-v", "-h"]
    assert ("--json" in "".join(last)) is (name not in ("start", "demo", "inlay"))
    options = [line.split()[0] for line in lines if line.startswith("  -")]
    assert len(options) == len(set(options))
    if name == "mark":
        assert headings == [
            "Arguments:", "Where a slice is:", "Rows of slices:", "What shows in it:",
            "What becomes of it:", "Guides and grids:", "The cutlist:", "Options:", "Output:",
        ]  # fmt: skip


def loaded(code: str, cwd: Path) -> set[str]:
    """What of the heavy libraries a piece of program has loaded when it is done."""
    watched = ("typer", "pydantic", "rich", "numpy", "scipy", "PIL", "lxml", "jinja2", "matplotlib")
    program = (
        f"import sys\n{code}\nprint(*(n for n in {watched} if n in sys.modules), file=sys.stderr)"
    )
    done = subprocess.run(
        [sys.executable, "-c", program], cwd=cwd, capture_output=True, text=True, check=True
    )
    return set(done.stderr.split())


def test_what_is_asked_most_often_loads_least(riffler: Run, project: Path) -> None:
    run = "sys.argv = ['riffler', {}]\nfrom riffler.__main__ import main\nmain()"
    riffler("cut", cwd=project)
    assert loaded("import riffler", project) == set()
    assert loaded(run.format("'--version'"), project) == set()
    assert loaded(run.format("'cut'"), project) == set()
    help_ = "import contextlib\nwith contextlib.suppress(SystemExit):\n    "
    wanted = help_ + run.format("'--help'").replace("\n", "\n    ")
    assert loaded(wanted, project) <= {"typer"}


def test_a_plain_cut_answers_as_any_other(riffler: Run, project: Path) -> None:
    first = riffler("cut", cwd=project).stdout
    plain = riffler("cut", cwd=project).stdout
    nothing_new = first.replace("  new", "").replace("Wrote 1 of", "Wrote 0 of")
    assert riffler("cut", "--all", cwd=project).stdout == nothing_new
    table, _, rest = nothing_new.partition("\n\n")
    assert (table.count("\n"), rest) == (1, plain)
    slow = riffler("cut", "--workers", "1", cwd=project).stdout
    assert slow == plain
    (project / ".riffler/unchanged.json").unlink()
    assert riffler("cut", cwd=project).stdout == plain
    assert (
        json.loads(riffler("cut", "--json", cwd=project).stdout)["unchanged"][0]["slice"] == "box"
    )
    assert "Would write 0 of 1" in riffler("cut", "--dry-run", cwd=project).stdout
    assert riffler("cut", "-q", "--nonsense", cwd=project, code=2).stdout == ""


def touched(path: Path) -> None:
    os.utime(path, ns=(1, 1))


SVG = '<svg xmlns="http://www.w3.org/2000/svg" width="9" height="9"/>'


@pytest.mark.parametrize(
    "change, is_same",
    [
        (lambda root: None, True),
        (lambda root: touched(root / "mockups/m.ora"), True),  # the same bytes at another time
        (lambda root: (root / "pages/index.html").write_text("other"), True),  # not read by a cut
        (lambda root: (root / "mockups/other.svg").write_text(SVG), True),
        (lambda root: (root / "riffler.toml").write_text("# other"), False),
        (lambda root: (root / "cuts/m.toml").write_text("# other"), False),
        (lambda root: (root / "cuts/new.toml").write_text(""), False),
        (lambda root: write_ora(root / "mockups/m.ora", (100, 80), [Flat("b")]), False),
        (lambda root: (root / "mockups/m.ora").unlink(), False),
        (lambda root: (root / "out/images/box.png").write_bytes(b"mine"), False),
        (lambda root: (root / "out/images/box.png").unlink(), False),
        (lambda root: (root / "out/ledger.json").unlink(), False),
        (lambda root: (root / "out/ledger.json").write_text("[" * 9000), False),
        (lambda root: (root / ".riffler/journal.json").write_text("{}"), False),
        (lambda root: (root / ".riffler/unchanged.json").write_text("{}"), False),
        (lambda root: (root / ".riffler/unchanged.json").write_text("[" * 9000), False),
    ],
)
def test_what_counts_as_changed(
    riffler: Run, project: Path, change: Callable[[Path], object], is_same: bool
) -> None:
    riffler("cut", cwd=project)
    change(project)
    found = unchanged(project)
    assert (found is not None) is is_same
    if found is not None:
        assert found.out == project / "out"
        assert [asset["file"] for asset in found.data["unchanged"]] == ["images/box.png"]
        assert [region["slice"] for region in found.data["words"]] == ["text"]


def test_a_new_font_counts_as_changed(riffler: Run, project: Path, built: Path) -> None:
    riffler("cut", cwd=project)
    (project / "fonts").mkdir()
    (project / "fonts/notes.txt").write_text("x")
    assert unchanged(project) is not None
    (project / "fonts/figtree-400.ttf").write_bytes((built / "fonts/figtree-400.ttf").read_bytes())
    assert unchanged(project) is None
    riffler("build", cwd=project)  # writes the ledger anew, which is no change of what was cut
    riffler("cut", cwd=project)
    riffler("build", "--force", cwd=project)
    assert unchanged(project) is not None


def test_errors_are_one_tree_and_can_be_sent() -> None:
    kinds = [
        kind for kind in vars(errors).values()
        if isinstance(kind, type) and issubclass(kind, Exception)
    ]  # fmt: skip
    assert all(issubclass(kind, RifflerError) for kind in kinds)
    assert all(kind.__name__ in (errors.__doc__ or "") for kind in kinds)
    place = errors.Place(Path("a.toml"), 3, "slice.x", "x = 1")
    for kind in (RifflerError, errors.MockupError, errors.WrittenError, errors.OutputError):
        sent = pickle.loads(pickle.dumps(kind("No.", "Do.", place)))
        assert (type(sent), sent.message, sent.advice, sent.place) == (kind, "No.", "Do.", place)


def test_programs_get_what_commands_say(riffler: Run, project: Path) -> None:
    done = package.cut(project)
    assert (
        json.loads(riffler("cut", "--json", cwd=project).stdout)["unchanged"]
        == (done.as_data()["written"])
    )
    before = tree(project)
    drafted = package.draft(project / "mockups/m.ora", dry_run=True)
    assert tree(project) == before
    said = json.loads(riffler("draft", "mockups/m.ora", "--dry-run", "--json", cwd=project).stdout)
    assert said["slices"] == drafted.as_data()["slices"]
    picture = package.draw(package.open(project / "mockups/m.ora"), package.Box(45, 0, 10, 2))
    assert picture[0, :, 1].tolist() == [0] * 5 + [90] * 5
    empty = [Flat("empty", (0, 0, 5, 5), (0, 0, 0, 0))]
    opened = package.open(write_ora(project / "mockups/e.ora", (9, 9), empty))
    with pytest.raises(RifflerError, match="paint nothing"):
        package.draw(opened, only=["empty"])


def test_a_picture_to_standard_output(project: Path) -> None:
    command = [sys.executable, "-m", "riffler", "cut", "mockups/m.ora", "-o", "-"]
    data = subprocess.check_output(command, cwd=project)
    with Image.open(io.BytesIO(data)) as picture:
        assert (picture.format, picture.size) == ("PNG", (100, 80))
    assert not list(project.glob("-*"))
