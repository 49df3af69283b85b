"""What commands that only look have said: kept, said again, and forgotten when anything changes."""

from __future__ import annotations

import json
import os
from collections.abc import Callable
from pathlib import Path

import pytest

import planning
from conftest import Run
from making import Flat, write_ora, write_project
from riffler.cli.said import only_looks
from riffler.project.sealed import read_note, write_note


@pytest.fixture
def project(tmp_path: Path) -> Path:
    root = tmp_path / "site"
    write_project(root, {})
    paint(root, 20)
    (root / "cuts/m.toml").write_text(
        'mockup = "../mockups/m.ora"\n[slice.sun]\nat = [15, 15, 40, 40]\nalt = ""\n'
    )
    return root


def paint(root: Path, x: int) -> None:
    sun = planning.shape("sun", x, 20, "#e0a030")
    write_ora(
        root / "mockups/m.ora",
        (120, 90),
        [sun, Flat("ground", (0, 0, 120, 90), (250, 245, 235, 255))],
    )


def kept(root: Path) -> list[Path]:
    return sorted((root / ".riffler").glob("said-*.json"))


COMMANDS = [
    ("look", "mockups/m.ora"), ("look", "mockups/m.ora", "--json"), ("look", "mockups/m.ora", "--boxes"),
    ("survey",), ("survey", "--json"), ("draft", "mockups/m.ora", "--json"),
]  # fmt: skip


@pytest.mark.parametrize("command", COMMANDS, ids=" ".join)
def test_the_second_answer_is_the_first(
    project: Path, riffler: Run, command: tuple[str, ...]
) -> None:
    first = riffler(*command, cwd=project, code=None)
    assert first.returncode in (0, 1)
    (answer,) = kept(project)
    before = answer.stat().st_mtime_ns
    again = riffler(*command, cwd=project, code=None)
    assert (again.stdout, again.returncode) == (first.stdout, first.returncode)
    assert answer.stat().st_mtime_ns == before  # it was said, and not worked out and kept anew


def append(path: Path) -> None:
    path.write_text(path.read_text() + "# later\n")


CHANGES: list[tuple[str, Callable[[Path], object]]] = [
    ("a layer moved", lambda root: paint(root, 30)),
    ("a cutlist edited", lambda root: append(root / "cuts/m.toml")),
    ("a file of fonts", lambda root: (root / "cuts/new.ttf").write_bytes(b"none")),
    ("settings", lambda root: append(root / "riffler.toml")),
    ("a file gone", lambda root: (root / "cuts/m.toml").unlink()),
]


@pytest.mark.parametrize(("what", "change"), CHANGES, ids=[name for name, _ in CHANGES])
def test_any_change_in_the_project_ends_what_was_kept(
    project: Path, riffler: Run, what: str, change: Callable[[Path], object]
) -> None:
    riffler("look", "mockups/m.ora", "--json", cwd=project)
    (answer,) = kept(project)
    known = json.loads(read_note(answer) or b"")
    write_note(answer, json.dumps({**known, "text": f"still said after {what}\n"}).encode())
    assert "still said" in riffler("look", "mockups/m.ora", "--json", cwd=project).stdout
    change(project)
    assert "still said" not in riffler("look", "mockups/m.ora", "--json", cwd=project).stdout


def test_a_change_within_the_same_moment_is_seen_by_its_bytes(project: Path, riffler: Run) -> None:
    cutlist = project / "cuts/m.toml"
    riffler("survey", cwd=project, code=None)
    stat, text = cutlist.stat(), cutlist.read_text()
    cutlist.write_text(text.replace("[15, 15, 40, 40]", "[95, 15, 40, 40]"))
    os.utime(cutlist, ns=(stat.st_atime_ns, stat.st_mtime_ns))
    assert cutlist.stat().st_size == stat.st_size
    assert "outside" in riffler("survey", "--json", cwd=project, code=1).stdout


def test_what_lies_beyond_the_project_is_not_relied_on(project: Path, riffler: Run) -> None:
    away = project.parent / "away"
    away.mkdir()
    (project / "mockups/m.ora").rename(away / "m.ora")
    (project / "more").symlink_to(away)
    riffler("look", "more/m.ora", cwd=project)
    assert kept(project) == []
    (project / "more").unlink()
    cutlist = project / "cuts/m.toml"
    cutlist.write_text(cutlist.read_text().replace("../mockups/", "../../away/"))
    riffler("survey", cwd=project, code=None)
    assert kept(project) == []


@pytest.mark.parametrize(
    "spoilt",
    [
        {"text": "\x1b]0;owned\x07\n"}, {"text": "\u202egnp\n"}, {"notes": {}}, {"code": "none"},
        {"wrote": {"../away.toml": "x = 1\n"}}, {"wrote": {"pages/index.html": "x"}},
    ],
    ids=str,
)  # fmt: skip
def test_answers_that_are_not_ours_are_not_said(
    project: Path, riffler: Run, spoilt: dict[str, object]
) -> None:
    first = riffler("look", "mockups/m.ora", cwd=project).stdout
    (answer,) = kept(project)
    known = json.loads(read_note(answer) or b"")
    write_note(answer, json.dumps({**known, **spoilt}).encode())
    assert riffler("look", "mockups/m.ora", cwd=project).stdout == first
    assert not (project.parent / "away.toml").exists()
    assert not (project / "pages/index.html").exists()


def test_a_draft_is_written_again_but_never_over_a_cutlist(project: Path, riffler: Run) -> None:
    cutlist = project / "cuts/m.toml"
    cutlist.unlink()
    first = riffler("draft", "mockups/m.ora", cwd=project).stdout
    text = cutlist.read_text()
    cutlist.unlink()
    assert riffler("draft", "mockups/m.ora", cwd=project).stdout == first
    assert cutlist.read_text() == text
    cutlist.write_text("# mine\n")
    riffler("draft", "mockups/m.ora", cwd=project, code=2)
    assert cutlist.read_text() == "# mine\n"


@pytest.mark.parametrize(
    ("command", "expected"),
    [
        ("look a.ora", True), ("look a.ora --picture=b.png", False), ("look a.ora --picture b.png", False),
        ("survey", True), ("survey --picture p.svg", False), ("draft a.ora", True),
        ("draft a.ora --add", False), ("draft --schema", False), ("cut", False), ("", False),
    ],
)  # fmt: skip
def test_which_commands_only_look(command: str, expected: bool) -> None:
    assert only_looks(command.split()) is expected
