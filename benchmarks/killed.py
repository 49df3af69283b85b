"""Kills runs at every touch of a file, and at random: nothing may be lost, the next run mends all.

python -m benchmarks.killed [RANDOM] [SEED]
"""

from __future__ import annotations

import os
import random
import re
import shutil
import signal
import subprocess
import sys
import tempfile
import time
from collections import Counter
from collections.abc import Callable
from dataclasses import dataclass
from pathlib import Path
from typing import TypeAlias

from benchmarks.staged import (
    Touch,
    drawing,
    drawn,
    hand_written,
    made,
    project,
    run,
    void,
    warm,
)

#: What a traceback says of a run that had begun.
BEGUN = re.compile(r"riffler/__main__\.py\", line \d+, in main")


#: Files of a person by their paths, None for one that is not there.
Changed: TypeAlias = dict[str, bytes | None]


@dataclass(frozen=True)
class Case:
    """A run to kill; what a project needs before it, and which files of a person it changes."""

    words: str
    before: Callable[[Path], object] = Path.exists
    changes: tuple[str, ...] = ()


def cut(root: Path) -> None:
    run("cut -q", root)


def replan(root: Path) -> None:
    """One slice renamed, one saved otherwise: files to replace, to add and to remove."""
    cut(root)
    path = root / "cuts/page.toml"
    text = path.read_text().replace("[slice.hill]", "[slice.mound]")
    path.write_text(text.replace('["png", "webp"]', '["webp", "gif"]'))


def rewrite(root: Path) -> None:
    """Built once, then a page gone, one new, and the style sheet changed."""
    cut(root)
    run("build -q", root)
    (root / "pages/about.html").rename(root / "pages/contact.html")
    (root / "styles/page.css").write_text("h1 { color: #222 }\n")


def bare(root: Path) -> None:
    (root / "cuts/page.toml").unlink()


#: What is written by hand in a project that was roughed out.
ROUGHED = ("cuts/home.toml", "pages/_shell.html", "pages/index.html", "styles/site.css")


def roughed(root: Path) -> None:
    drawn(root)
    for words in ("rough -q", "cut -q", "build -q"):
        run(words, root)


def redrawn(root: Path) -> None:
    """Roughed out and built, then a new version of the mockup."""
    roughed(root)
    (root / "mockups/home.svg").write_text(drawing("Another title", 190))


CASES = (
    Case("cut -q"),
    Case("cut -q", replan),
    Case("build -q", cut),
    Case("build -q", rewrite),
    Case("mark lake --around lake", changes=("cuts/page.toml",)),
    Case("mark middle --guide-x 100", changes=("cuts/page.toml",)),
    Case("mark hill --remove", changes=("cuts/page.toml",)),
    Case("draft --add mockups/page.ora", changes=("cuts/page.toml",)),
    Case("draft mockups/page.ora", bare, changes=("cuts/page.toml",)),
    Case("look mockups/page.ora --picture page.png"),
    Case("rough -q", drawn),
    Case("changes --take -q", redrawn, changes=ROUGHED),
    Case("mark leaf --rename blatt", roughed, changes=(*ROUGHED, "riffler.toml")),
    Case("fonts --web -q", drawn),
    Case("favicon -q", drawn),
    Case("sheet --zip all.zip -q", drawn),
    Case("tokens --pin -q", drawn, changes=("riffler.toml",)),
)


class Findings:
    """What was wrong."""

    def __init__(self) -> None:
        self.count, self.not_met = 0, list[str]()

    def say(self, case: str, what: str) -> None:
        self.count += 1
        print(f"{case}: {what}", flush=True)


def kill_everywhere(case: Case, folder: Path, findings: Findings) -> int:
    """Kill a run at each of its touches in turn; returns how many those are."""
    root = folder / "p"
    touches = _touches(case, root)
    wanted, changed = made(root), _changed(case, root)
    for touch in touches:
        _fresh(case, root)
        before = hand_written(root)
        said = f"{case.words} at {touch}"

        def meet(now: Touch, stop: Touch = touch) -> None:
            if now == stop:
                os.kill(os.getpid(), signal.SIGKILL)

        if run(case.words, root, meet).code != -signal.SIGKILL:
            findings.not_met.append(said)  # threads come to a folder in any order
        _check_sources(root, before, changed, said, findings)
        is_done = _is_done(case, root, changed)
        again = run(case.words, root)
        if again.code != 0 and not is_done:
            findings.say(said, f"the next run ended with {again.code}: {again.said[-300:]}")
        found = made(root)
        if is_done and again.code:  # it wrote nothing, so it swept nothing
            found = {path: data for path, data in found.items() if not path.endswith("-part")}
        if found != wanted:
            odd = {
                path for path in found.keys() | wanted.keys() if found.get(path) != wanted.get(path)
            }
            findings.say(said, f"after the next run these differ: {sorted(odd)}")
    return len(touches)


def _fresh(case: Case, root: Path) -> None:
    ready = root.parent / f"ready-{CASES.index(case)}"
    if not ready.exists():
        case.before(project(ready))
    shutil.rmtree(root, ignore_errors=True)
    shutil.copytree(ready, root)


def _touches(case: Case, root: Path) -> list[Touch]:
    """Every touch of a run that is left alone."""
    _fresh(case, root)
    log = root.parent / "touches.txt"
    log.unlink(missing_ok=True)
    number = os.open(log, os.O_WRONLY | os.O_CREAT | os.O_APPEND)
    ended = run(case.words, root, lambda touch: void(os.write(number, f"{touch!r}\n".encode())))
    assert ended.code == 0, ended
    return [eval(line) for line in log.read_text().splitlines()]


def _changed(case: Case, root: Path) -> Changed:
    """The files of a person that a run changes, as they are now."""
    paths = ((name, root / name) for name in case.changes)
    return {name: path.read_bytes() if path.is_file() else None for name, path in paths}


def _is_done(case: Case, root: Path, changed: Changed) -> bool:
    return bool(case.changes) and _changed(case, root) == changed


def _check_sources(
    root: Path,
    before: dict[str, bytes],
    changed: Changed,
    said: str,
    findings: Findings,
) -> None:
    for path, data in before.items():
        now = (root / path).read_bytes() if (root / path).exists() else None
        if now != data and not (path in changed and now == changed[path]):
            findings.say(said, f"{path} is not what it was")


def kill_at_random(count: int, seed: int, folder: Path, findings: Findings) -> Counter[str]:
    """Whole processes, stopped by SIGKILL or Ctrl-C at random, from their very beginning."""
    chance = random.Random(seed)
    tally: Counter[str] = Counter()
    lasts: dict[Case, tuple[dict[str, bytes], Changed, float]] = {}
    for _ in range(count):
        case, root = chance.choice(CASES), folder / "p"
        if case not in lasts:
            _fresh(case, root)
            began = time.perf_counter()
            _spawn(case.words, root).communicate()
            lasts[case] = (
                made(root),
                _changed(case, root),
                time.perf_counter() - began,
            )
        wanted, changed, last = lasts[case]
        _fresh(case, root)
        before = hand_written(root)
        sign = chance.choice((signal.SIGKILL, signal.SIGINT))
        after = chance.uniform(0, 0.1) if chance.random() < 0.3 else chance.uniform(0, last * 1.05)
        process = _spawn(case.words, root)
        time.sleep(after)
        process.send_signal(sign)
        try:
            _, err = process.communicate(timeout=10)
        except subprocess.TimeoutExpired:
            process.kill()
            _, err = process.communicate()
            findings.say(case.words, f"hung after {sign.name} at {after:.3f} s")
        said = f"{case.words}, {sign.name} at {after:.3f} s"
        tally[f"{sign.name} {process.returncode}"] += 1
        has_begun = BEGUN.search(err) is not None
        if sign is signal.SIGINT and not has_begun and process.returncode in (1, -sign):
            tally["before our first line"] += 1  # Python itself was starting
        elif "Traceback" in err or process.returncode not in (0, 130, -signal.SIGKILL):
            findings.say(said, f"{process.returncode}: {err[-1500:]}")
        _check_sources(root, before, changed, said, findings)
        is_done = _is_done(case, root, changed)
        again = run(case.words, root)
        if (again.code != 0 and not is_done) or made(root) != wanted:
            findings.say(said, f"the next run: {again.code}, {again.said[-300:]}")
    return tally


def _spawn(words: str, root: Path) -> subprocess.Popen[str]:
    return subprocess.Popen(
        [Path(sys.executable).parent / "riffler", *words.split()],
        cwd=root, stdout=subprocess.PIPE, stderr=subprocess.PIPE, text=True,
        start_new_session=True,
    )  # fmt: skip


def main(count: int = 200, seed: int = 1) -> int:
    """Kill everywhere, then `count` times at random; returns how many findings there were."""
    warm()
    if signal.getsignal(signal.SIGINT) is signal.SIG_IGN:  # begun in the background of a shell
        signal.signal(signal.SIGINT, signal.default_int_handler)
    findings = Findings()
    with tempfile.TemporaryDirectory() as name:
        folder = Path(name).resolve()
        touches = {}
        for case in CASES:
            began = time.perf_counter()
            touches[case] = kill_everywhere(case, folder, findings)
            print(
                f"{case.words}: {touches[case]} touches, {time.perf_counter() - began:.0f} s",
                flush=True,
            )
        print(f"killed at {sum(touches.values())} touches")
        print(f"killed at random: {dict(kill_at_random(count, seed, folder, findings))}")
    print(f"not met a second time, and so not killed: {findings.not_met}")
    print(f"{findings.count} findings")
    return findings.count


if __name__ == "__main__":
    sys.exit(1 if main(*(int(argument) for argument in sys.argv[1:3])) else 0)
