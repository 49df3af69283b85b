"""Tasks: plain data that can be sent anywhere, cached by all that counts and nothing else."""

from __future__ import annotations

import dataclasses
import json
import pickle
import subprocess
import sys
from collections.abc import Callable, Iterator
from concurrent.futures import Future
from functools import partial
from pathlib import Path
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as some

from making import Flat, tree, write_ora, write_project
from planning import noise
from riffler.cutlist.resolved import Saving
from riffler.cutlist.roles import PICTURE, Hero, Icon, Picture, Tile
from riffler.cutting.cut import cut
from riffler.cutting.kinds import KINDS
from riffler.cutting.regions import FindGround, RegionGround
from riffler.cutting.slices import Cut, CutPicture
from riffler.encode.choice import Choice
from riffler.errors import SettingError, WrittenError
from riffler.geometry import Box, Size
from riffler.icon.icon_files import MakeIcons
from riffler.jobs import helper
from riffler.jobs.cache import Cache
from riffler.jobs.runner import AHEAD, Workers, finished, run
from riffler.jobs.task import Drawing, Task, fingerprint
from riffler.project.project import Project
from riffler.project.sealed import read_note, write_note
from riffler.sprite.sheet import SpriteFile, SpriteSheets
from riffler.vector.slices import SaveVector
from riffler.workspace import MockupKey, Workspace
from riffler.workspace.prepare import Wanted, known_names, prepare, read_cutlists

CUTLIST = """\
mockup = "../mockups/m.ora"
[slice.box]
at = [0, 0, 40, 30]
save = ["png", "webp"]
[slice.box.state.hover]
show = ["lid"]
[slice.mark]
only = ["red"]
sizes = ["1x", "2x"]
[slice.text]
at = [0, 40, 60, 20]
role = "words"
"""

LAYERS = [
    Flat("lid", (0, 0, 40, 30), (0, 0, 255, 255), more={"visibility": "hidden"}),
    Flat("red", (10, 10, 20, 20), (200, 30, 30, 255)),
    Flat("paper", (0, 0, 100, 80), (240, 230, 210, 255)),
]


@pytest.fixture
def project(tmp_path: Path) -> Path:
    files = {"cuts/m.toml": CUTLIST, "riffler.toml": '[favicon]\nslice = "mark"\n'}
    return write_project(tmp_path / "p", files, LAYERS)


def planned(root: Path) -> tuple[Workspace, list[Task[Any]]]:
    workspace = Workspace(Project.at(root))
    files = read_cutlists(workspace.project)
    wanted = Wanted(workspace, prepare(workspace, files), frozenset(known_names(files)))
    return workspace, [task for plan in KINDS for task in plan(wanted)]


def test_every_kind_plans_its_tasks(project: Path) -> None:
    _, tasks = planned(project)
    assert [(type(task.operation).__name__, task.slice) for task in tasks] == [
        ("CutPicture", "box"), ("CutPicture", "box"), ("CutPicture", "mark"),
        ("CutPicture", "mark"), ("FindGround", "text"), ("MakeIcons", "mark"),
    ]  # fmt: skip


def test_a_task_makes_the_same_in_another_process(project: Path) -> None:
    workspace, tasks = planned(project)
    here = [task.operation.run(workspace) for task in tasks]
    program = (
        "import pickle, sys\n"
        "workspace, tasks = pickle.load(sys.stdin.buffer)\n"
        "results = [task.operation.run(workspace) for task in tasks]\n"
        "sys.stdout.buffer.write(pickle.dumps(results))\n"
    )
    sent = pickle.dumps((workspace, tasks))
    assert len(sent) < 20_000  # no pixels and no open file go with them
    done = subprocess.run([sys.executable, "-c", program], input=sent, capture_output=True)
    assert done.returncode == 0, done.stderr.decode()
    assert pickle.loads(done.stdout) == here


def drawing(path: Path, **said: object) -> Drawing:
    usual: dict[str, Any] = {
        "mockup": MockupKey(path), "box": Box(0, 0, 40, 30), "scale": 1.0,
        "shown": frozenset({"red", "paper"}),
    }  # fmt: skip
    return Drawing(**{**usual, **said})


@pytest.mark.parametrize(
    "change",
    [
        {"box": Box(0, 0, 20, 20)},
        {"outer": Size(50, 50)},
        {"role": Icon(Size(60, 60))},
        {"role": Icon(Size(60, 60), "weight")},
        {"role": Tile("x", 4)},
        {"role": Hero(Size(90, 60), "left")},
        {"saving": Saving(("jpeg",))},
        {"saving": Saving(quality=70)},
        {"saving": Saving(budget=900)},
        {"saving": Saving(ground=(1.0, 1.0, 1.0))},
    ],
)
def test_every_field_of_an_operation_counts(project: Path, change: dict[str, Any]) -> None:
    workspace = Workspace(Project.at(project))
    plain = CutPicture(
        drawing(project / "mockups/m.ora"), Box(0, 0, 40, 30), Size(40, 30), Picture(), Saving()
    )
    changed = dataclasses.replace(plain, **change)
    assert fingerprint(plain, workspace) == fingerprint(dataclasses.replace(plain), workspace)
    assert fingerprint(changed, workspace) != fingerprint(plain, workspace)


def test_operations_of_two_kinds_are_two_though_they_say_the_same(project: Path) -> None:
    workspace, place = Workspace(Project.at(project)), drawing(project / "mockups/m.ora")
    kinds = [dataclasses.make_dataclass(name, ["drawing"], frozen=True) for name in ("A", "B")]
    assert len({fingerprint(kind(place), workspace) for kind in kinds}) == 2


@pytest.mark.parametrize(
    "said, is_same",
    [
        ({"box": Box(1, 0, 40, 30)}, False),
        ({"scale": 2.0}, False),
        ({"shown": frozenset({"paper"})}, False),
        ({"shown": frozenset({"red", "paper", "lid"})}, False),
    ],
)
def test_a_drawing_counts_by_what_is_drawn(
    project: Path, said: dict[str, Any], is_same: bool
) -> None:
    workspace, path = Workspace(Project.at(project)), project / "mockups/m.ora"
    first = fingerprint(FindGround(drawing(path)), workspace)
    assert (fingerprint(FindGround(drawing(path, **said)), workspace) == first) is is_same
    # the same layers in another file, beside one that is far away: nothing else is drawn
    copy = write_ora(project / "copy.ora", (100, 80), [Flat("far", (90, 70, 5, 5)), *LAYERS])
    assert fingerprint(FindGround(drawing(copy)), workspace) == first
    # another operation on the same drawing is another thing
    assert fingerprint(SaveVector(drawing(path), PICTURE, 1.0, "a", "drawn"), workspace) != first


RESULTS = some.one_of(
    some.builds(RegionGround, some.text(max_size=9)),
    some.builds(
        SpriteSheets, some.tuples(some.builds(SpriteFile)), some.builds(Size), some.just(())
    ),
    some.builds(
        Cut,
        some.lists(
            some.builds(
                Choice,
                some.binary(max_size=40),
                some.sampled_from(["png", "webp"]),
                some.dictionaries(
                    some.text("abc", min_size=1), some.integers() | some.text() | some.floats(0, 1)
                ),
                some.none() | some.floats(0, 1),
                some.integers(1, 9),
            ),
            max_size=3,
        ).map(tuple),
        some.builds(Size, some.integers(1, 99), some.integers(1, 99)),
        some.builds(Box, some.integers(-9, 9), some.integers(-9, 9), some.just(1), some.just(2)),
    ),
)


@given(RESULTS)
@settings(max_examples=60)
def test_the_cache_gives_back_what_it_was_given(
    tmp_path_factory: pytest.TempPathFactory, result: object
) -> None:
    cache = Cache(tmp_path_factory.mktemp("cache"))
    cache.put("ab" * 32, result)
    assert cache.get("ab" * 32, type(result)) == result
    assert cache.get("cd" * 32, type(result)) is None


@pytest.mark.parametrize(
    "spoil",
    [
        lambda data: data[:-1],
        lambda data: data + b"x",
        lambda data: data.replace(b"files", b"filed"),
        lambda data: data.replace(b'"width": 4', b'"width": "four"'),
        lambda data: b"[" * 5000,
        lambda data: b"",
        lambda data: b"\xff\xfe" + data,
        lambda data: data.replace(b"#bytes", b"bytes#"),
    ],
)
def test_what_is_damaged_counts_as_missing(tmp_path: Path, spoil: Callable[[bytes], bytes]) -> None:
    cache, key = Cache(tmp_path), "ab" * 32
    cache.put(key, Cut((Choice(b"data", "png"),), Size(4, 4), Box(0, 0, 4, 4)))
    path = tmp_path / "ab" / key[2:]
    sealed, noted = path.read_bytes(), read_note(path)
    assert noted is not None
    for write in (
        partial(write_note, path, spoil(noted)),
        partial(path.write_bytes, spoil(sealed)),
    ):
        write()
        assert cache.get(key, Cut) is None


def test_what_is_kept_is_not_made_again(project: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    first = cut(Workspace(Project.at(project)))
    for kind in (CutPicture, FindGround, MakeIcons):
        monkeypatch.setattr(kind, "run", lambda *_: pytest.fail("made again"))
    again = cut(Workspace(Project.at(project)))
    assert again.written == []
    assert sorted(a.file for a in again.unchanged) == sorted(a.file for a in first.written)
    # the box of one slice moves: that one is made again, and nothing else
    text = (project / "cuts/m.toml").read_text()
    (project / "cuts/m.toml").write_text(text.replace("[0, 40, 60, 20]", "[0, 50, 60, 20]"))
    monkeypatch.setattr(FindGround, "run", lambda *_: RegionGround("#123456"))
    moved = cut(Workspace(Project.at(project)))
    assert (moved.written, [region.ground for region in moved.words]) == ([], ["#123456"])


@pytest.mark.parametrize("workers", [1, 5])
def test_results_come_in_the_order_of_the_tasks(project: Path, workers: int) -> None:
    workspace, tasks = planned(project)
    many = tasks * 4
    results = list(run(workspace, Cache(project / ".riffler/cache"), many, workers))
    assert results == [task.operation.run(workspace) for task in many]


def test_work_is_begun_only_a_little_ahead() -> None:
    begun: list[int] = []
    with Workers(2) as pool:

        def numbers() -> Iterator[tuple[int, Future[int]]]:
            for number in range(100):
                begun.append(number)
                yield number, finished(number)

        for number, result in pool.in_order(numbers()):
            assert number == result
            assert len(begun) <= number + 2 * AHEAD + 2  # what waits for two workers, and the next


def test_a_setting_that_does_not_go_is_told_at_its_line(project: Path) -> None:
    text = CUTLIST.replace('save = ["png", "webp"]', 'only = ["red"]\nsave = ["jpeg"]')
    (project / "cuts/m.toml").write_text(text.replace("40, 30]", "15, 15]"))
    with pytest.raises(Exception, match="JPEG has no transparency") as caught:
        cut(Workspace(Project.at(project)))
    place = caught.value.place  # type: ignore[attr-defined]
    assert (place.line, place.key) == (5, "slice.box.save")
    assert not (project / "out").exists()
    sent = pickle.loads(pickle.dumps(SettingError("save", "No.", "Do.")))
    assert (sent.setting, sent.message, sent.advice) == ("save", "No.", "Do.")


def test_the_cache_holds_nothing_that_could_run(project: Path) -> None:
    cut(Workspace(Project.at(project)))
    entries = [p for p in (project / ".riffler/cache").rglob("*") if p.is_file()]
    assert len(entries) > 5
    for path in entries:
        noted = read_note(path)
        assert noted is not None, "somebody else's"
        json.loads(noted.partition(b"\n")[0])


def long_project(root: Path, more: str = "") -> Workspace:
    """A project with more pictures that take long than are made in one process."""
    shots = [Flat(f"s{n}", (n * 300, 0, 256, 256), pixels=noise(n, 256, 256)) for n in range(5)]
    plan = 'mockup = "../mockups/m.ora"\n[defaults]\nsave = ["jpeg"]\nquality = "fair"\n'
    plan += "".join(f'[slice.s{n}]\nat = [{n * 300}, 0, 256, 256]\nalt = ""\n' for n in range(5))
    project = write_project(root, {"cuts/m.toml": plan + more})
    write_ora(project / "mockups/m.ora", (1500, 256), shots)
    return Workspace(Project.at(project))


def test_processes_make_what_threads_make(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    alone, helped, left = (long_project(tmp_path / name) for name in ("alone", "helped", "left"))
    cut(alone, workers=1)
    asked: list[str] = []
    run_there = helper.Helper._asked

    def noted(self: helper.Helper, operation: CutPicture) -> tuple[bool, Any]:
        asked.append("asked")
        answer = run_there(self, operation)
        asked.append("answered")
        return answer

    monkeypatch.setattr(helper.Helper, "_asked", noted)
    cut(helped, workers=2)
    assert asked.count("answered") == asked.count("asked") >= 1
    monkeypatch.setattr(helper, "_START", "pass")  # one that ends at once
    cut(left, workers=2)
    images = [tree(one.project.root / "out") for one in (alone, helped, left)]
    assert images[0] == images[1] == images[2]
    assert len(images[0]) == 6


def test_what_is_wrong_in_another_process_is_said_at_its_line(tmp_path: Path) -> None:
    workspace = long_project(tmp_path / "p", 'quality = "exact"\n')
    with pytest.raises(WrittenError, match="at any setting") as raised:
        cut(workspace, workers=3)
    assert raised.value.place is not None
    assert raised.value.place.text == 'save = ["jpeg"]'
