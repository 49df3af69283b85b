"""The rooms of the code: who may import whom, who may speak to the terminal, how large things are."""

from __future__ import annotations

import ast
import re
from collections.abc import Iterator
from functools import cache
from pathlib import Path

import pytest

import riffler
from rooms import DOCUMENT, ROOMS, with_table

ROOT = Path(riffler.__file__).parent

#: What knows the terminal, by import or by its streams.
TERMINAL = {"typer", "rich"}
STREAMS = {"stdout", "stderr", "stdin"}

#: Rooms that may; and the processes that answer on their own standard output.
MAY_SPEAK = {"report", "cli"}
ANSWERS = {"render/svg_worker.py", "jobs/helping.py"}

#: The face and the way in are no rooms: they may import any.
NO_ROOMS = {"__init__", "__main__", "face"}

MOST_LINES, MOST_BRANCHES = 340, 15

MODULES = sorted(ROOT.rglob("*.py"))


def name_of(path: Path) -> str:
    return path.relative_to(ROOT).as_posix()


def room_of(path: Path) -> str:
    return path.relative_to(ROOT).parts[0].removesuffix(".py")


@cache
def imported(path: Path) -> tuple[str, ...]:
    """Every module that is imported, late imports and imports by name among them."""
    return tuple(imports(path))


def imports(path: Path) -> Iterator[str]:
    for node in ast.walk(ast.parse(path.read_text(encoding="utf-8"))):
        match node:
            case ast.Import():
                yield from (alias.name for alias in node.names)
            case ast.ImportFrom():
                assert node.level == 0, f"{name_of(path)}: relative import"
                yield from (f"{node.module}.{alias.name}" for alias in node.names)
            case (
                ast.Call(func=ast.Name(id="__import__" | "import_module"))
                | ast.Call(func=ast.Attribute(attr="import_module"))
            ):
                pytest.fail(f"{name_of(path)}, line {node.lineno}: import by a name in a string")


def rooms_imported(path: Path) -> set[str]:
    parts = (name.split(".") for name in imported(path))
    found = {names[1] for names in parts if names[0] == "riffler" and len(names) > 1}
    return found - {room_of(path), *dir(riffler)} | (found & set(ROOMS)) - {room_of(path)}


@pytest.mark.parametrize("room", ROOMS)
def test_a_room_imports_only_what_it_may(room: str) -> None:
    modules = [path for path in MODULES if room_of(path) == room]
    assert modules, "the table has a room that is not there"
    used = {other for path in modules for other in rooms_imported(path)}
    above = list(ROOMS)[: list(ROOMS).index(room)]
    assert set(ROOMS[room].may) <= set(above), "an arrow runs back up"
    assert used == set(ROOMS[room].may), "the table and the code differ"


def test_every_module_is_in_a_room() -> None:
    assert {room_of(path) for path in MODULES} - NO_ROOMS == set(ROOMS)
    assert len(MODULES) > 200


def spoken(path: Path) -> Iterator[str]:
    """Every way in which a module reaches the terminal."""
    tops = {name.split(".")[0] for name in imported(path)}
    yield from tops & TERMINAL
    for node in ast.walk(ast.parse(path.read_text(encoding="utf-8"))):
        match node:
            case ast.Call(func=ast.Name(id=("print" | "input") as name)):
                yield f"{name} in line {node.lineno}"
            case ast.Attribute(value=ast.Name(id="sys"), attr=stream) if stream in STREAMS:
                yield f"sys.{stream} in line {node.lineno}"


def test_only_two_rooms_know_the_terminal() -> None:
    quiet = [
        path for path in MODULES
        if room_of(path) not in MAY_SPEAK | NO_ROOMS and name_of(path) not in ANSWERS
    ]  # fmt: skip
    assert {name_of(path): found for path in quiet if (found := list(spoken(path)))} == {}


def test_the_document_shows_the_table() -> None:
    text = DOCUMENT.read_text(encoding="utf-8")
    assert with_table(text) == text, "python tests/rooms.py writes it"


#: The one door to the disk, the lock beside it, and a temporary folder of our own.
MAY_WRITE = {"files", "project/lock", "render/svg_drawing"}
WRITES = {"write_bytes", "write_text", "unlink", "rmdir", "rename", "touch", "symlink_to", "rmtree"}
WRITES |= {"hardlink_to", "removedirs", "copyfile", "copytree", "mkdtemp", "chmod", "makedirs"}


def test_nothing_writes_or_deletes_beside_the_guard() -> None:
    found = {
        (name_of(path), node.attr)
        for path in MODULES
        for node in ast.walk(ast.parse(path.read_text(encoding="utf-8")))
        if isinstance(node, ast.Attribute) and node.attr in WRITES
    }
    assert {
        (name, call) for name, call in found if name.removesuffix(".py") not in MAY_WRITE
    } == set()
    assert ("files.py", "unlink") in {(name.split("riffler/")[-1], call) for name, call in found}


#: What starts a process; and the libraries that do so for us, each in one module, by a whole path.
STARTS = re.compile(
    r"^(subprocess|multiprocessing|pty|_posixsubprocess|os|asyncio|concurrent\.futures)\."
    r"(Popen|run|call|check_\w+|getoutput|getstatusoutput|Process|Pool|fork\w*|exec\w*|spawn\w*|posix_spawn\w*"
    r"|system|popen|startfile|create_subprocess_\w+|ProcessPoolExecutor)$"
)
BY_LIBRARIES = {"pytesseract": "typeset/tesseract.py", "playwright": "fit/"}


def dotted(code: str) -> set[str]:
    """Every name with a dot in it."""
    found = set[str]()
    for node in ast.walk(ast.parse(code)):
        names = list[str]()
        while isinstance(node, ast.Attribute):
            names.append(node.attr)
            node = node.value
        if names and isinstance(node, ast.Name):
            found.add(".".join([node.id, *reversed(names)]))
    return found


def test_processes_start_in_one_place() -> None:
    for path in MODULES:
        name, used = name_of(path), {*dotted(path.read_text(encoding="utf-8")), *imported(path)}
        starts = sorted(filter(STARTS.match, used))
        assert not starts or name == "processes.py", f"{name} starts {starts} by itself"
        for library, place in BY_LIBRARIES.items():
            if any(one.split(".")[0] == library for one in imported(path)):
                assert name.startswith(place), f"{name} has {library}"
    for code in (
        "subprocess.run([])",
        "os.system('x')",
        "concurrent.futures.ProcessPoolExecutor()",
    ):
        assert any(map(STARTS.match, dotted(code))), code


def test_links_in_a_circle_lead_nowhere() -> None:
    """`Path.resolve` raises RuntimeError for them: `files.real` does not."""
    called = {name_of(path) for path in MODULES if ".resolve()" in path.read_text(encoding="utf-8")}
    assert called == set()


def branches(function: ast.AST) -> int:
    """Ways through a function, McCabe 1976: one, and one more for each place where it forks."""
    count = 1
    for node in ast.walk(function):
        match node:
            case (
                ast.If()
                | ast.IfExp()
                | ast.For()
                | ast.While()
                | ast.ExceptHandler()
                | ast.Assert()
            ):
                count += 1
            case ast.comprehension():
                count += 1 + len(node.ifs)
            case ast.BoolOp():
                count += len(node.values) - 1
            case ast.match_case():
                count += 1
    return count


def test_modules_and_functions_stay_small() -> None:
    lines = {name_of(path): len(path.read_text(encoding="utf-8").splitlines()) for path in MODULES}
    assert {name: count for name, count in lines.items() if count > MOST_LINES} == {}
    forked = {}
    for path in MODULES:
        for node in ast.walk(ast.parse(path.read_text(encoding="utf-8"))):
            if isinstance(node, ast.FunctionDef) and branches(node) > MOST_BRANCHES:
                forked[f"{name_of(path)}: {node.name}"] = branches(node)
    assert forked == {}
