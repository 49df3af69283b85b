"""The rooms of the code: who may import whom."""

from __future__ import annotations

import ast
from pathlib import Path

import riffler

ROOT = Path(riffler.__file__).parent

#: From the top: a room may import from the rooms above it and from itself.
ROOMS = (
    "geometry errors formats hexcolor color files project mockup render analyse cutlist encode roles icon jobs "
    "plan site report cli"
).split()

TERMINAL = {"typer", "rich"}


def imports(path: Path) -> set[str]:
    found: set[str] = set()
    for node in ast.walk(ast.parse(path.read_text(encoding="utf-8"))):
        if isinstance(node, ast.Import):
            found.update(alias.name for alias in node.names)
        elif isinstance(node, ast.ImportFrom) and node.module:
            assert node.level == 0, f"{path}: relative import"
            found.update({node.module, *(f"{node.module}.{alias.name}" for alias in node.names)})
    return found


def room_of(path: Path) -> str:
    return path.relative_to(ROOT).parts[0].removesuffix(".py")


def test_imports_between_rooms_go_upwards_and_only_two_know_the_terminal() -> None:
    modules = [path for path in ROOT.rglob("*.py") if room_of(path) not in ("__init__", "__main__")]
    assert len(modules) > 40
    wrong = []
    for path in modules:
        room = room_of(path)
        if room == "demo":
            continue
        allowed = ROOMS[: ROOMS.index(room) + 1]
        for name in imports(path):
            parts = name.split(".")
            if parts[0] == "riffler" and set(parts[1:2]) & (set(ROOMS) - set(allowed)):
                wrong.append(f"{path.relative_to(ROOT)} imports {name}")
            if parts[0] in TERMINAL and room not in ("report", "cli"):
                wrong.append(f"{path.relative_to(ROOT)} knows the terminal")
    assert not wrong
