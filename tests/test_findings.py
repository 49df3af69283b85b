"""Findings: one mistake is told once, two are told twice, and every check is registered."""

from __future__ import annotations

from pathlib import Path

import pytest

from conftest import Run
from making import Flat, write_ora, write_project
from planning import EXPECTED, photo
from riffler.errors import Place, RifflerError
from riffler.geometry import Box
from riffler.plan.checks import CHECKS, KINDS
from riffler.plan.finding import PRECEDENCE, Finding, distinct
from riffler.plan.survey import Survey, survey
from riffler.project.project import Project
from riffler.workspace import Workspace

HERE = Path("cuts/m.toml")


def finding(kind: str, name: str | None, key: object = "", **said: object) -> Finding:
    place = Place(said.pop("path", HERE), said.pop("line", 1))  # type: ignore[arg-type]
    about = (kind, place.path, name, key)
    return Finding(kind, name, "What.", "Do.", place, about, **said)  # type: ignore[arg-type]


def told(*found: Finding) -> list[tuple[str, str | None]]:
    return [(one.kind, one.slice) for one in distinct(found, list(KINDS))]


def test_every_check_is_registered_once_with_its_kinds() -> None:
    assert len({check.name for check in CHECKS}) == len(CHECKS)
    assert set(KINDS) - {"moved", "joint"} == set(EXPECTED)
    for check in CHECKS:
        assert (check.each is None) != (check.every is None), check.name
        assert check.kinds, check.name
    assert {kind for pair in PRECEDENCE for kind in pair} <= set(KINDS)
    order = {kind: index for index, kind in enumerate(KINDS)}
    assert len({first for first, _ in PRECEDENCE} & set(order)) > 10


def test_one_speaks_for_the_other_where_they_share_slice_and_place() -> None:
    near, far = Box(10, 10, 5, 5), Box(200, 10, 5, 5)
    beside = finding("beside", "a", place=near)
    assert told(beside, finding("gap", "b", place=near, others=("a",))) == [("beside", "a")]
    assert told(beside, finding("gap", "b", place=far, others=("a",))) == [
        ("beside", "a"), ("gap", "b"),
    ]  # fmt: skip
    assert told(beside, finding("gap", "b", place=near)) == [("beside", "a"), ("gap", "b")]
    elsewhere = finding("gap", "b", place=near, others=("a",), path=Path("cuts/n.toml"))
    assert told(beside, elsewhere) == [("beside", "a"), ("gap", "b")]
    assert told(finding("gap", "a", place=near), finding("alt", "a")) == [
        ("gap", "a"),
        ("alt", "a"),
    ]


def test_the_key_tells_mistakes_apart_and_not_the_words() -> None:
    assert told(finding("gap", "a", 1), finding("gap", "a", 1)) == [("gap", "a")]
    assert told(finding("gap", "a", 1), finding("gap", "a", 2)) == [("gap", "a"), ("gap", "a")]


def test_findings_are_told_in_the_order_of_the_file() -> None:
    found = [
        finding("alt", "z", line=9), finding("gap", "y", line=4), finding("name", "x", line=4),
        finding("font", None, path=Path("cuts/a.toml")),
    ]  # fmt: skip
    assert told(*found) == [("font", None), ("name", "x"), ("gap", "y"), ("alt", "z")]
    assert told(*reversed(found)) == told(*found)


def surveyed(tmp_path: Path, cutlist: str, layers: list[Flat]) -> Survey:
    text = f'mockup = "../mockups/m.ora"\n[defaults]\nalt = ""\n{cutlist}'
    root = write_project(tmp_path / "p", {"cuts/m.toml": text})
    write_ora(root / "mockups/m.ora", (600, 400), layers)
    return survey(Workspace(Project.at(root)))


GROUND = Flat("ground", (0, 0, 600, 400), (240, 236, 228, 255))


def test_two_distant_overlaps_of_one_slice_are_two(tmp_path: Path) -> None:
    layers = [photo("art", 0, 0, 600, 400), GROUND]
    cutlist = (
        "[slice.tall]\nat = [100, 0, 60, 400]\n"
        "[slice.top]\nat = [40, 20, 80, 80]\n[slice.low]\nat = [40, 300, 80, 80]\n"
    )
    found = surveyed(tmp_path, cutlist, layers).findings
    assert [(one.kind, one.slice, one.others, one.place) for one in found] == [
        ("overlap", "top", ("tall",), Box(100, 20, 20, 80)),
        ("overlap", "low", ("tall",), Box(100, 300, 20, 80)),
    ]
    cutlist = cutlist.replace("[slice.tall]", "[slice.zone]").replace("100, 0, 60", "100, 0, 60")
    swapped = cutlist.split("[slice.top]")
    found = surveyed(tmp_path, f"[slice.top]{swapped[1]}{swapped[0]}", layers).findings
    assert [(one.slice, one.others) for one in found] == [("zone", ("top",)), ("zone", ("low",))]


def test_a_row_tells_each_of_its_mistakes_once(tmp_path: Path) -> None:
    layers = [*(photo(f"p{n}", 20 + 150 * n, 40, 120, 90) for n in range(3)), GROUND]
    cutlist = "[slice.card]\nat = [20, 40, 121, 90]\ntimes = { count = 3, x = 150 }\n"
    found = surveyed(tmp_path, cutlist, layers).findings
    assert [(one.kind, one.slice) for one in found] == [("beside", "card-1")]
    both = "[slice.card]\nat = [21, 40, 120, 90]\ntimes = { count = 3, x = 150 }\n"
    found = surveyed(tmp_path, both, layers).findings
    assert [(one.kind, one.slice) for one in found] == [("beside", "card-1")] * 2  # left and right
    assert {one.place for one in found} == {Box(20, 40, 1, 90), Box(140, 40, 1, 90)}


def test_overlapping_neighbours_of_a_row_are_one_mistake(tmp_path: Path) -> None:
    layers = [photo("art", 0, 0, 600, 400), GROUND]
    cutlist = "[slice.card]\nat = [20, 40, 120, 90]\ntimes = { count = 4, x = 110 }\n"
    found = surveyed(tmp_path, cutlist, layers).findings
    assert [(one.kind, one.slice, one.others) for one in found] == [
        ("overlap", "card-2", ("card-1",))
    ]


def test_accepted_and_idle(tmp_path: Path, riffler: Run) -> None:
    layers = [photo("art", 0, 0, 600, 400), GROUND]
    cutlist = (
        "[slice.a]\nat = [100, 0, 60, 100]\n[slice.b]\nat = [150, 0, 60, 100]\n"
        '[slice.b.accept]\noverlap = "meant"\ngap = "never was"\n'
    )
    done = surveyed(tmp_path, cutlist, layers)
    assert done.findings == []
    assert [(one.finding.kind, one.reason) for one in done.accepted] == [("overlap", "meant")]
    assert [(one.slice, one.kind) for one in done.idle] == [("b", "gap")]
    data = done.as_data()
    assert data["idle"] == [{"slice": "b", "kind": "gap"}]
    assert data["accepted"][0]["reason"] == "meant"
    assert data["accepted"][0]["place"] == {"x": 150, "y": 0, "width": 10, "height": 100}
    assert set(data["accepted"][0]) == {
        "kind", "slice", "others", "file", "line", "place", "pixels", "message", "advice", "reason",
    }  # fmt: skip
    out = riffler("survey", cwd=tmp_path / "p").stdout
    assert "b accepts gap, which is not found: it can go." in out


@pytest.mark.parametrize(
    "names, asked, says",
    [
        (["m"], "x", 'There is no cutlist "x".'),
        (["m", "n"], None, "There are several cutlists"),
        ([], None, "There is no cutlist to draw."),
    ],
)
def test_a_picture_shows_one_cutlist(
    tmp_path: Path, names: list[str], asked: str | None, says: str
) -> None:
    files = {f"cuts/{name}.toml": 'mockup = "../mockups/m.ora"\n' for name in names}
    done = survey(Workspace(Project.at(write_project(tmp_path / "p", files))))
    with pytest.raises(RifflerError, match=says):
        done.subject(asked)
    if names:
        assert done.subject(names[0]).file.path.stem == names[0]


def test_a_soft_tile_and_a_hard_one_are_no_twins(riffler: Run, tmp_path: Path) -> None:
    tile = 'at = [0, 0, 64, 64]\nalt = ""\nrole = "tile"\nrepeat = "x"\n'
    plan = f'mockup = "../mockups/m.ora"\n[slice.hard]\n{tile}[slice.soft]\n{tile}'
    root = write_project(tmp_path / "p", {"cuts/m.toml": plan})
    write_ora(root / "mockups/m.ora", (128, 64), [photo("grain", 0, 0, 128, 64)])
    assert "twin" in riffler("survey", cwd=root, code=1).stdout
    (root / "cuts/m.toml").write_text(plan + "soften = 16\n")
    assert "twin" not in riffler("survey", cwd=root, code=1).stdout
