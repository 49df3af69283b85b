"""Faults put into the code on purpose, one at a time, and which of them no test sees. By hand.

    python -m benchmarks.planted [--near] [--seed SEED] [ROOM_OR_MODULE...]

Half of them move a number that decides something visible, by half or twice; the others are slips
of the pen. With a seed it is forty numbers by chance, half as large again. Each is put into a copy of the tree, where the tests of its room run first and then, if
they saw nothing, all of them (not with `--near`). What is not caught wants a row in a table test.
"""

from __future__ import annotations

import argparse
import ast
import math
import os
import random
import shutil
import subprocess
import sys
import tempfile
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path

ROOT = Path(__file__).parents[1]

#: Numbers up to which a statement is no table.
FEW = 4

#: The tests that look at a room first.
TESTS = {
    "analyse": "reading fitting raster levels",
    "changes": "changes carried taken",
    "cutlist": "cutlist addresses roles",
    "encode": "levels codecs choosing png",
    "fit": "fit fit_parts fit_reading",
    "geometry.py": "geometry measure",
    "icon": "icons",
    "jobs": "tasks",
    "markup": "rough markup",
    "measure": "measure",
    "mockup": "mockups vectors addresses",
    "output": "ledger faults cut",
    "plan": "survey findings draft mark",
    "proof": "check",
    "reading": "reading understanding draft",
    "render": "drawing extents blend",
    "roles": "roles levels",
    "site": "build page",
    "sprite": "vector_files",
    "tidy": "tidying tidied_drawn",
    "tokens": "tokens handover",
    "typeset": "typeset",
    "vector": "vector_files",
    "webfonts": "webfonts handover",
}


@dataclass(frozen=True)
class Planted:
    """A fault: the file, what stands there once, and what stands there instead."""

    file: str
    old: str
    new: str


NUMBERS = [
    Planted("markup/zones.py", "NAV_WORDS, NAV_LINKS = 3, 3", "NAV_WORDS, NAV_LINKS = 3, 6"),
    Planted("markup/flow.py", "DEEP = 64", "DEEP = 160"),
    Planted("markup/places.py", "COLUMNS, SPARE = 420, 8", "COLUMNS, SPARE = 420, 30"),
    Planted(
        "fit/of_pictures.py", "ELSE, SHARE, INK = 48, 0.06, 0.6", "ELSE, SHARE, INK = 48, 0.3, 0.6"
    ),
    Planted("fit/of_pictures.py", "STRETCHED = 0.015", "STRETCHED = 0.08"),
    Planted("fit/of_pixels.py", "RIM = 2", "RIM = 6"),
    Planted(
        "proof/contrast.py",
        "TEXT, LARGE, LARGE_PLAIN, LARGE_BOLD = 4.5,",
        "TEXT, LARGE, LARGE_PLAIN, LARGE_BOLD = 3.5,",
    ),
    Planted("proof/pictures.py", "TOO_LARGE = 2.01", "TOO_LARGE = 3.01"),
    Planted("changes/arrangement.py", "COMMON = 0.3", "COMMON = 0.8"),
    Planted("changes/of_boxes.py", "STOP, AT, TURN = 3,", "STOP, AT, TURN = 9,"),
    Planted("reading/arranging.py", "GUTTER, LEVEL, LINE = 12,", "GUTTER, LEVEL, LINE = 40,"),
    Planted("reading/bars.py", "FEWEST, LONGER = 4,", "FEWEST, LONGER = 9,"),
    Planted("plan/checks/neighbours.py", "UNEVEN = 8", "UNEVEN = 3"),
    Planted("plan/checks/outside.py", "SLIVER = 3", "SLIVER = 9"),
    Planted("tokens/palette.py", "ALIKE = 0.02", "ALIKE = 0.06"),
    Planted("encode/calm.py", "BAND, STEP, RISES = 1.33,", "BAND, STEP, RISES = 2.66,"),
    Planted(
        "encode/choice.py",
        "CLEAN, REAL_SHARE, REAL_BYTES = 0.3, 0.85, 1_000",
        "CLEAN, REAL_SHARE, REAL_BYTES = 0.3, 0.85, 4_000",
    ),
    Planted("typeset/tesseract.py", "CERTAIN = 60", "CERTAIN = 20"),
    Planted("roles/joints.py", "LEAST = 8", "LEAST = 40"),
    Planted("icon/judged.py", "ENOUGH = 3.0", "ENOUGH = 1.5"),
]

SLIPS = [
    Planted("geometry.py", "bool(other_box)\n        )", "True\n        )"),
    Planted(
        "cutlist/role_checks.py",
        "return box.x <= point.x <= box.right and",
        "return box.x < point.x <= box.right and",
    ),
    Planted("cutlist/resolve.py", "other_resolved.group == slice_.group", "True"),
    Planted(
        "mockup/address.py", "mockup.of_kind.get(kind, [])", "mockup.of_kind.get(kind, [])[:1]"
    ),
    Planted(
        "render/layered.py",
        "if layer.address not in shown or (layer.opacity == 0",
        "if layer.address not in shown or (layer.opacity <= 0.5",
    ),
    Planted("render/layered.py", "backdrop[rows.stop :] = 0", "backdrop[rows.stop + 1 :] = 0"),
    Planted(
        "output/publish.py", "if path.is_dir() or on_disk not in ours:", "if on_disk not in ours:"
    ),
    Planted(
        "output/journal.py", "if file not in done and self._is_left(file)", "if file not in done"
    ),
    Planted(
        "jobs/task.py",
        "return digest_of(VERSION, kind.__module__, kind.__qualname__, *texts)",
        "return digest_of(VERSION, kind.__module__, *texts)",
    ),
    Planted(
        "encode/choice.py",
        "return smallest if is_worth_a_loss(smallest, clean) else clean",
        "return smallest",
    ),
    Planted(
        "analyse/exact_edges.py",
        "math.sqrt(lacking / (1 - math.pi / 4))",
        "math.sqrt(lacking / (math.pi / 4))",
    ),
    Planted(
        "site/stylesheet.py",
        "return f'url(\"{links.file(asset.file)}\")'",
        'return f"url({links.file(asset.file)})"',
    ),
    Planted(
        "changes/merging.py",
        "return [*changed, *longer[len(base) :]]",
        "return [*longer[len(base) :], *changed]",
    ),
    Planted(
        "proof/outline.py",
        "if level > before + 1 and (before or level > 2):",
        "if level > before + 1 and before:",
    ),
    Planted(
        "measure/distances.py",
        "return _gap(start, end, other_start, other_end) < -least",
        "return _gap(start, end, other_start, other_end) < 0",
    ),
    Planted("tidy/fold.py", "or _is_turned_dashed(element, matrix)", ""),
    Planted("webfonts/characters.py", "set(COMMON) | ", ""),
    Planted(
        "sprite/sheet.py",
        'return f"-{length}px" if length else "0"',
        'return f"{length}px" if length else "0"',
    ),
    Planted("vector/for_page.py", "if layer else", "if not layer else"),
    Planted(
        "plan/finding.py", "for first, second in PRECEDENCE", "for second, first in PRECEDENCE"
    ),
]


def by_chance(seed: int, rooms: list[str], count: int = 40) -> list[Planted]:
    """Faults in numbers at the head of modules, no tables, each of them half as large again."""
    places = []
    for path in sorted((ROOT / "src/riffler").rglob("*.py")):
        text, file = path.read_text(encoding="utf-8"), str(path.relative_to(ROOT / "src/riffler"))
        if rooms and not file.startswith(tuple(rooms)):
            continue
        for statement in ast.parse(text).body:
            numbers = [
                (node, float(str(node.value)))
                for node in ast.walk(statement)
                if isinstance(node, ast.Constant) and type(node.value) in (int, float)
            ]
            if isinstance(statement, ast.Assign) and len(numbers) <= FEW:
                places += [(file, text, node, value) for node, value in numbers if value]
    faults = []
    for file, text, node, value in random.Random(seed).sample(places, count):
        line = text.splitlines()[node.lineno - 1]
        larger = round(1.5 * value, 4) if isinstance(node.value, float) else math.ceil(1.5 * value)
        new = f"{line[: node.col_offset]}{larger!r}{line[node.end_col_offset :]}"
        faults.append(Planted(file, line, new))
    return [fault for fault in faults if text_of(fault).count(fault.old) == 1]


def text_of(fault: Planted, root: Path = ROOT) -> str:
    """The module that a fault is for."""
    return (root / "src/riffler" / fault.file).read_text(encoding="utf-8")


def planted(fault: Planted, tree: Path) -> Iterator[None]:
    """A tree with the fault in it, and without it again."""
    path = tree / "src/riffler" / fault.file
    text = path.read_text(encoding="utf-8")
    if text.count(fault.old) != 1:
        raise ValueError(f"{fault.file} has this {text.count(fault.old)} times: {fault.old}")
    path.write_text(text.replace(fault.old, fault.new), encoding="utf-8")
    yield
    path.write_text(text, encoding="utf-8")


def is_caught(tree: Path, tests: list[str]) -> bool:
    """Whether a test fails."""
    path = os.pathsep.join(str(tree / folder) for folder in ("src", "tests", "tools"))
    command = [sys.executable, "-m", "pytest", "-q", "-x", "-n", "2", *tests]
    done = subprocess.run(
        command, cwd=tree, env={**os.environ, "PYTHONPATH": path}, capture_output=True, check=False
    )
    if done.returncode not in (0, 1, 2):  # 2: stopped at the first failure, by several workers
        raise RuntimeError(done.stdout.decode())
    return done.returncode != 0


def main() -> None:
    """Every fault in turn."""
    parser = argparse.ArgumentParser()
    parser.add_argument("--near", action="store_true")
    parser.add_argument("--seed", type=int)
    parser.add_argument("rooms", nargs="*")
    wish = parser.parse_args()
    every = [*NUMBERS, *SLIPS] if wish.seed is None else by_chance(wish.seed, wish.rooms)
    faults = [one for one in every if not wish.rooms or one.file.startswith(tuple(wish.rooms))]
    missed = 0
    with tempfile.TemporaryDirectory() as name:
        tree = Path(name) / "tree"
        aside = shutil.ignore_patterns(".git", ".venv", "__pycache__", ".cache")
        shutil.copytree(ROOT, tree, ignore=aside)
        if not wish.near and is_caught(tree, []):
            raise RuntimeError("the tests fail without any fault")
        for fault in faults:
            names = TESTS.get(fault.file.split("/")[0], "commands").split()
            near = [f"tests/test_{name}.py" for name in names]
            near = [test for test in near if (tree / test).exists()]
            for _ in planted(fault, tree):
                caught = is_caught(tree, near) or (not wish.near and is_caught(tree, []))
            print("caught" if caught else "MISSED", f"{fault.file}: {fault.new}", flush=True)
            missed += not caught
    print(f"{len(faults) - missed} of {len(faults)} caught")


if __name__ == "__main__":
    main()
