"""The program as a person meets it: help, look, start, demo, exit codes."""

from __future__ import annotations

import json
import os
import subprocess
import sys
from pathlib import Path

import pytest

from conftest import Run
from making import tree
from riffler import __version__


@pytest.fixture
def riffler(process: Run) -> Run:
    """Here every run is a process: it is the whole program that counts."""
    return process


def test_help_version_and_completion(riffler: Run) -> None:
    assert riffler("--version").stdout == f"riffler {__version__}\n"
    overview = riffler("--help").stdout
    for name in ("start", "look", "cut", "inlay", "rough", "build", "check", "demo"):
        assert f"\n  {name} " in overview
        assert "Usage: riffler" in riffler(name, "--help").stdout
    assert "..." not in overview.partition("Commands:")[2]
    done = subprocess.run(
        [Path(sys.executable).parent / "riffler"],
        env={**os.environ, "_RIFFLER_COMPLETE": "complete_bash", "COMP_WORDS": "riffler c", "COMP_CWORD": "1"},
        capture_output=True,
        text=True,
        check=True,
    )  # fmt: skip
    assert sorted(done.stdout.split()) == ["changes", "check", "cut"]


def test_wrong_use_is_two(riffler: Run) -> None:
    assert "No such command" in riffler("slize", code=2).stderr
    assert "No such option" in riffler("cut", "--wrong", code=2).stderr
    assert "riffler start" in riffler("build", code=2).stderr


def test_heavy_libraries_load_only_when_needed() -> None:
    code = (
        "import sys; from riffler.cli.app import app\n"
        "print([m for m in ('numpy', 'PIL', 'lxml', 'rich', 'pydantic', 'jinja2') if m in sys.modules])"
    )
    done = subprocess.run([sys.executable, "-c", code], capture_output=True, text=True, check=True)
    assert done.stdout == "[]\n"


def test_look_lists_both_mockups(riffler: Run, built: Path) -> None:
    home = riffler("look", built / "mockups/home.ora", cwd=built).stdout
    assert home.startswith("mockups/home.ora: 1920 x 2640 px, density 2, 70 layers.\n")
    assert "│ │ └ glow " in home
    assert home.count("hidden") == 8  # four glows, three markers, the button's other plate
    hives = riffler("look", built / "mockups/hives.svg", cwd=built).stdout
    assert "“Adopt a hive”" in hives
    assert "45 unnamed shapes" in hives
    assert "45 unnamed" not in riffler("look", "--all", built / "mockups/hives.svg").stdout
    data = json.loads(riffler("look", "--json", built / "mockups/hives.svg", cwd=built).stdout)
    footer = data["layers"][0]
    assert footer["address"] == "footer"
    band = footer["layers"][-1]
    assert band["box"] == {"x": 0, "y": 1028, "width": 960, "height": 112}
    words = next(one for one in footer["layers"] if one["address"] == "footer/words")["words"]
    assert words["lines"] == ["Fernhollow Apiary, Mill Lane"]
    assert (words["families"], words["size"], words["color"]) == (["Figtree"], 16, "#e9d9bd")


def test_start_makes_a_project_that_builds(riffler: Run, tmp_path: Path) -> None:
    riffler("start", "site")
    assert "nothing to cut" in riffler("cut", cwd=tmp_path / "site").stdout
    assert "Open out/index.html" in riffler("build", cwd=tmp_path / "site").stdout
    assert (tmp_path / "site/.gitignore").read_text().splitlines()[1:] == ["/out/", "/.riffler/"]
    settings = tmp_path / "site/riffler.toml"
    settings.write_text(settings.read_text().replace("title =", "name ="))
    said = riffler("build", cwd=tmp_path / "site", code=2).stderr
    assert "pages/404.html, line 2: There is no site.title." in said
    assert 'under [site]: title = "..."' in said
    page = (tmp_path / "site/out/index.html").read_text()
    assert "<h1>A new site</h1>" in page
    assert "not empty" in riffler("start", "site", code=2).stderr
    (tmp_path / "file").write_text("x")
    assert "is a file" in riffler("start", "file", code=2).stderr


def test_demo_refuses_what_is_not_its_own(riffler: Run, tmp_path: Path, demo: Path) -> None:
    (demo / "cuts/hives.toml").write_text((demo / "cuts/hives.toml").read_text() + "# mine\n")
    again = riffler("demo", demo).stdout
    assert (demo / "cuts/hives.toml").read_text().endswith("# mine\n")
    assert "Wrote 0 of" in again
    (tmp_path / "mine").mkdir()
    (tmp_path / "mine/notes.txt").write_text("x")
    assert "not empty" in riffler("demo", "mine", code=2).stderr
    assert tree(tmp_path / "mine") == {"notes.txt": b"x"}


def test_settings_are_checked(riffler: Run, tmp_path: Path) -> None:
    for text, says in (
        ('url-prefx = "/"', '"url-prefix"'),
        ('[folders]\nout = "../elsewhere"', "inside the project"),
        ('[folders]\nout = "/tmp"', "inside the project"),
        ("[limits]\npixels = 0", "greater than 0"),
        ('url-prefix = "javascript:"', "should begin with"),
    ):
        (tmp_path / "riffler.toml").write_text(text)
        assert says in riffler("build", code=2).stderr
    (tmp_path / "riffler.toml").write_text("")
    outside = tmp_path.parent / f"{tmp_path.name}-outside"
    outside.mkdir()
    (tmp_path / "out").symlink_to(outside)
    assert "leads out of the project" in riffler("build", code=2).stderr
    assert not list(outside.iterdir())
