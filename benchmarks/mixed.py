"""Runs of the program side by side, in every order of their touches that chance brings.

    python -m benchmarks.mixed [ORDERS] [SEED]

Before each touch of a file in the project, reading included, a run waits for its turn; who is next
is drawn by lot. Whatever the order, nothing may be lost and nothing be taken for changed by hand.
"""

from __future__ import annotations

import contextlib
import os
import random
import re
import select
import shutil
import sys
import tempfile
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from pathlib import Path

from benchmarks.killed import Findings, cut, redrawn, replan, rewrite
from benchmarks.staged import (
    Ended,
    Touch,
    drawn,
    hand_written,
    made,
    project,
    run,
    start,
    wait,
    warm,
)

#: Seconds after which a run that says nothing is computing, or waits for another.
SILENCE = 0.03

#: What each touch of a run says to the one who orders them, and the answer.
READY, GO = b".", b"!"

#: A line that a person adds with an editor while runs are under way.
SAVED = "# Added in an editor.\n"


@dataclass(frozen=True)
class Case:
    """Runs to mix; what must be there after them, and after `last`, one more run."""

    runs: tuple[str, ...]
    before: Callable[[Path], object] = Path.exists
    lines: tuple[str, ...] = ()
    last: tuple[str, ...] = ("cut -q", "build -q")
    codes: tuple[int, ...] = ()
    is_saved: bool = False
    is_by_hand: bool = True


#: Codes of runs of which one may find that nothing is left to do, or that it comes too late.
ANY = (-1,)


def marks(count: int) -> tuple[str, ...]:
    return tuple(f"mark g{number} --guide-x {10 * number}" for number in range(count))


def lines(count: int) -> tuple[str, ...]:
    return tuple(f"g{number} = {10 * number}" for number in range(count))


def remade(root: Path) -> None:
    """Both plan and pages changed after all was made."""
    rewrite(root)
    replan(root)


CASES = (
    Case(("cut -q", "cut -q")),
    Case(("cut -q", "cut -q"), replan),
    Case(("cut -q", "build -q"), remade),
    Case(("cut -q", "cut sun -q", "build -q", "cut -q"), remade),
    Case(("build -q", "build -q", "build -q", "build -q"), rewrite),
    Case(("cut --force -q", "cut -q", "survey -q", "build -q"), remade),
    Case(marks(2), lines=lines(2)),
    Case(marks(4), lines=lines(4)),
    Case(marks(2), lines=(*lines(2), SAVED), is_saved=True),
    Case(("draft --add mockups/page.ora", *marks(1)), lines=("[slice.lake]", *lines(1))),
    Case(("draft --add mockups/page.ora",), lines=("[slice.lake]", SAVED), is_saved=True),
    Case(("draft --add mockups/page.ora", *marks(2), "cut -q"), cut, ("[slice.lake]", *lines(2))),
    Case(("draft mockups/page.ora -o cuts/new.toml",) * 2, lines=("[slice.lake]",), last=(), codes=(0, 2)),
    Case(("rough -q", "rough -q"), drawn, is_by_hand=False),
    Case(("rough -q", "cut -q"), drawn, is_by_hand=False),
    Case(("changes --take -q", "cut -q"), redrawn, is_by_hand=False, codes=ANY),
    Case(("changes --take -q", "changes --take -q"), redrawn, is_by_hand=False, codes=ANY),
    Case(
        ("favicon -q", "cut -q", "fonts --web -q"), drawn, is_by_hand=False,
        last=("cut -q", "build -q", "fonts --web -q"),
    ),
)  # fmt: skip


class Turns:
    """Several runs, each held before its next touch until it is let go."""

    def __init__(self, case: Case, root: Path, chance: random.Random) -> None:
        self._case, self._root, self._chance = case, root, chance
        self._runs: dict[int, tuple[int, int, Path]] = {}  # where it says: its number, its answers
        for index, words in enumerate(case.runs):
            said = root.parent / f"said-{index}.txt"
            say, hear = os.pipe(), os.pipe()
            held = _waiting(say[1], hear[0], is_saved=case.is_saved)
            number = start(words, root, said, held, reads=True)
            os.close(say[1])
            os.close(hear[0])
            self._runs[say[0]] = (number, hear[1], said)

    def finish(self) -> list[Ended]:
        """Let them go on in turns until all have ended; a person saves somewhere between."""
        ready: set[int] = set()
        ended = []
        saves = self._chance.randrange(5, 60) if self._case.is_saved else 0
        turn = 0
        while self._runs:
            turn += 1
            if turn == saves:
                self._save()
            for end in self._heard(ready):
                if os.read(end, 1) == READY:
                    ready.add(end)
                else:
                    ended.append(self._ended(end))
            if ready:
                chosen = self._chance.choice(sorted(ready))
                ready.remove(chosen)
                with contextlib.suppress(BrokenPipeError):
                    os.write(self._runs[chosen][1], GO)
        if saves >= turn:
            self._save()
        return ended

    def _heard(self, ready: set[int]) -> Iterator[int]:
        """Ends with news, until all are ready or none has any more."""
        while waiting := [end for end in self._runs if end not in ready]:
            news = select.select(waiting, [], [], SILENCE)[0]
            if not news:
                return
            yield from news

    def _ended(self, end: int) -> Ended:
        number, answers, said = self._runs.pop(end)
        os.close(end)
        os.close(answers)
        return wait(number, said)

    def _save(self) -> None:
        """As an editor does: read, write beside, rename."""
        path = self._root / "cuts/page.toml"
        beside = path.with_name(".page.toml.swp")
        beside.write_text(SAVED + path.read_text())
        beside.replace(path)


def _waiting(say: int, hear: int, *, is_saved: bool) -> Callable[[Touch], None]:
    """Wait before each touch.

    Between the last look at a file and its renaming lies an instant in which an editor that knows
    nothing of locks may save; it is left out where one does.
    """
    import threading

    turn = threading.Lock()

    def meet(touch: Touch) -> None:
        if is_saved and touch[:2] == ("os.rename", "cuts/page.toml"):
            return
        with turn:
            os.write(say, READY)
            os.read(hear, 1)

    return meet


def mix(case: Case, folder: Path, chance: random.Random, findings: Findings) -> None:
    """One order of one case."""
    root = _fresh(case, folder)
    names = " | ".join(case.runs)
    before = hand_written(root)
    ended = Turns(case, root, chance).finish()
    codes = sorted(end.code for end in ended)
    is_right = (
        max(codes) <= 2 if case.codes == ANY else codes == sorted(case.codes or (0,) * len(codes))
    )
    if not is_right or any("Traceback" in end.said for end in ended):
        findings.say(names, f"ended with {[(end.code, end.said[-300:]) for end in ended]}")
    text = "".join(path.read_text() for path in sorted((root / "cuts").glob("*.toml")))
    own = ("# Written by hand.", "# the green one") if case.is_by_hand else ()
    for line in (*case.lines, *own):
        if line not in re.sub(" +=", " =", text):
            findings.say(names, f"lost {line!r}")
    after = hand_written(root)
    for path in before:
        is_followed = any("--take" in words for words in case.runs)
        if after.get(path) != before[path] and not path.startswith("cuts/") and not is_followed:
            findings.say(names, f"{path} changed")
    _compare(case, root, names, findings)


def _fresh(case: Case, folder: Path) -> Path:
    ready, root = folder / f"ready-{CASES.index(case)}", folder / "p"
    if not ready.exists():
        case.before(project(ready))
    shutil.rmtree(root, ignore_errors=True)
    shutil.copytree(ready, root)
    return root


def _compare(case: Case, root: Path, names: str, findings: Findings) -> None:
    """A further run succeeds, and makes what one alone makes of the same sources."""
    alone = root.parent / "alone" / root.name  # some things are called by the project's folder
    shutil.rmtree(alone, ignore_errors=True)
    shutil.copytree(root, alone, ignore=shutil.ignore_patterns("out", ".riffler"))
    for words in case.last:
        for place in (root, alone):
            end = run(words, place)
            if end.code:
                findings.say(names, f"then {words} in {place}: {end.code}, {end.said[-300:]}")
    one, other = made(root), made(alone)
    if case.last and one != other:
        odd = sorted(path for path in one.keys() | other.keys() if one.get(path) != other.get(path))
        findings.say(names, f"not as one run alone makes it: {odd}")


def _each(count: int, seed: int) -> Iterator[tuple[Case, random.Random]]:
    for case in CASES:
        for number in range(count):
            yield case, random.Random(f"{seed} {number}")


def main(count: int = 20, seed: int = 1) -> int:
    """Mix each case `count` times; returns how many findings there were."""
    warm()
    findings = Findings()
    with tempfile.TemporaryDirectory() as name:
        for case, chance in _each(count, seed):
            mix(case, Path(name).resolve(), chance, findings)
    print(f"{len(CASES)} mixes of 1 to 4 runs, {count} orders each: {findings.count} findings")
    return findings.count


if __name__ == "__main__":
    sys.exit(1 if main(*(int(argument) for argument in sys.argv[1:3])) else 0)
