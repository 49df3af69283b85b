"""Projects that live through five versions of their mockup -> what is lost on the way: nothing.

    python -m benchmarks.histories [--only NAME ...] [--seed N] [--kills N] [--show]

Each page of `tests/known_pages.py` is drawn, drafted, roughed out, cut and built. Then four times
somebody edits the templates, styles and cutlist by hand, the mockup changes (words, colours, sizes,
all below a line further down), and `riffler changes --take` carries it through. Asked each time: is
every hand edit still there, does the survey find nothing new, do as many things fit the new mockup
as fitted the old one, or as fit where the page is roughed out afresh. With `--kills` one version of each page is taken again and again, killed at
random moments and taken up, and must come out as it does when nobody disturbs it.
"""

from __future__ import annotations

import argparse
import json
import os
import re
import shutil
import signal
import subprocess
import sys
import tempfile
import time
from pathlib import Path
from random import Random
from typing import Any

from lxml import etree
from playwright.sync_api import Browser, sync_playwright

sys.path.append(str(Path(__file__).parents[1] / "tests"))

from known_drawing import drawn
from known_pages import FONTS, PAGES, page

SVG = "{http://www.w3.org/2000/svg}"
WORDS = ("meadow", "thimble", "orchard", "lantern", "harbour")
COLORS = ("#304f8f", "#7a5c00", "#2f6f4f", "#8a2c5a")


def _run(*args: str, cwd: Path, code: tuple[int, ...] = (0,)) -> str:
    done = subprocess.run(
        [sys.executable, "-m", "riffler", *args], cwd=cwd, capture_output=True, text=True
    )
    if done.returncode not in code:
        raise SystemExit(f"riffler {' '.join(args)} in {cwd}: {done.stdout}{done.stderr}")
    return done.stdout


def _begun(browser: Browser, name: str, folder: Path) -> Path:
    """A project of a known page, roughed out, cut and built."""
    project = folder / name
    _run("start", str(project), cwd=folder)
    fonts = (Path.cwd() / FONTS).resolve()
    for font in fonts.glob("*.ttf"):
        (project / "fonts" / font.name).write_bytes(font.read_bytes())
    source = folder / f"{name}.html"
    source.write_text(page(name, fonts.as_uri()), encoding="utf-8")
    probe = browser.new_page(viewport={"width": 1280, "height": 800})
    _, svg = drawn(probe, source)
    probe.close()
    (project / "mockups/index.svg").write_text(svg, encoding="utf-8")
    for command in (("draft", "mockups/index.svg"), ("rough",), ("cut",), ("build",)):
        _run(*command, cwd=project)
    return project


def _next_version(mockup: Path, chance: Random) -> list[str]:
    """Change a mockup as a designer might; says what was done."""
    tree = etree.parse(str(mockup))
    root = tree.getroot()
    said = []
    texts = [one for one in root.iter(f"{SVG}text") if len("".join(one.itertext()).split()) > 1]
    for text in chance.sample(texts, min(3, len(texts))):
        last = [one for one in text.iter() if (one.text or "").strip()][-1]
        words = (last.text or "").split()
        words[-1] = chance.choice(WORDS)[: len(words[-1])]  # a text keeps its room
        last.text = " ".join(words)
        said.append(f"words: {last.text}")
    fills = [
        one for one in root.iter(f"{SVG}rect") if re.fullmatch("#[0-9a-f]{6}", one.get("fill", ""))
    ]
    if fills:
        one = chance.choice(fills)
        said.append(f"fill {one.get('fill')}")
        one.set("fill", _shade(one.get("fill", ""), chance))
    if texts:
        one = chance.choice(texts)
        one.set("fill", chance.choice(COLORS))
        said.append("ink")
    if chance.random() < 0.6:
        said.append(_push(root, chance))
    tree.write(str(mockup), encoding="utf-8")
    return said


def _shade(color: str, chance: Random) -> str:
    levels = [int(color[at : at + 2], 16) for at in (1, 3, 5)]
    return "#" + "".join(
        f"{max(0, min(255, level + chance.choice((-14, -9, 9)))):02x}" for level in levels
    )


def _push(root: etree._Element, chance: Random) -> str:
    """All below a line that nothing lies across further down, the page longer."""
    height = float(root.get("height", "0"))
    lines = _clear_lines(root, height)
    if not lines:
        return "nothing pushed"
    line, by = chance.choice(lines), chance.choice((8, 16, 24))
    for one in root.iter():
        if not isinstance(one.tag, str):
            continue
        moves = one.get("transform") or ""
        if found := re.match(r"translate\(([-\d.]+)[ ,]+([-\d.]+)\)", moves):
            if float(found[2]) >= line:
                one.set(
                    "transform",
                    f"translate({found[1]} {float(found[2]) + by:g})" + moves[found.end() :],
                )
            continue
        if any((up.get("transform") or "").startswith("translate") for up in one.iterancestors()):
            continue
        for key in ("y", "cy"):
            value = one.get(key)
            if value is not None and re.fullmatch(r"-?[\d.]+", value) and float(value) >= line:
                one.set(key, f"{float(value) + by:g}")
    grounds = [one for one in root.iter(f"{SVG}rect")
               if float(one.get("height", 0)) >= height and float(one.get("y", 0)) == 0]  # fmt: skip
    for one in grounds:
        one.set("height", f"{height + by:g}")
    root.set("height", f"{height + by:g}")
    if (box := root.get("viewBox")) is not None:
        x, y, width, _ = box.split()
        root.set("viewBox", f"{x} {y} {width} {height + by:g}")
    return f"{by} px lower from {line:.0f}"


def _clear_lines(root: etree._Element, height: float) -> list[float]:
    """Where a page can be cut in two: nothing but its ground lies on both sides."""
    spans = []
    for one in root.iter(f"{SVG}rect", f"{SVG}image", f"{SVG}text", f"{SVG}tspan", f"{SVG}g"):
        if found := re.match(r"translate\(([-\d.]+)[ ,]+([-\d.]+)\)", one.get("transform") or ""):
            spans.append((float(found[2]), float(found[2]) + 160))
        elif one.get("y") is not None and not any(
            up.get("transform") for up in one.iterancestors()
        ):
            top, size = float(one.get("y", 0)), float(one.get("font-size") or 20)
            is_text = str(one.tag).endswith(("text", "tspan"))
            spans.append(
                (top - size, top + 8) if is_text else (top, top + float(one.get("height", 0)))
            )
    spans = [(top, end) for top, end in spans if end - top < 0.6 * height]
    lines = [end + 2 for _, end in spans if 0.15 * height < end < 0.9 * height]
    return sorted({line for line in lines if not any(top < line < end for top, end in spans)})


def _by_hand(project: Path, number: int, chance: Random) -> list[tuple[Path, str]]:
    """Edit as people do; what has to be there ever after."""
    kept = []
    styles = project / "styles/site.css"
    rule = f".by-hand-{number} {{\n  outline: {number}px solid rebeccapurple;\n}}\n"
    text = styles.read_text(encoding="utf-8")
    at = [found.end() for found in re.finditer(r"^}\n", text, re.MULTILINE)]
    place = chance.choice(at) if at else len(text)
    styles.write_text(f"{text[:place]}\n{rule}{text[place:]}", encoding="utf-8")
    kept.append((styles, rule))
    template = chance.choice(sorted((project / "pages").glob("*.html")))
    lines = template.read_text(encoding="utf-8").splitlines(keepends=True)
    places = [n for n, line in enumerate(lines) if re.match(r"\s*<(p|h\d|li|div|section)\b", line)]
    if places:
        where = chance.choice(places)
        lines[where] = re.sub(r"<(\w+)", rf'<\1 data-mine="{number}"', lines[where], count=1)
        template.write_text("".join(lines), encoding="utf-8")
        kept.append((template, f'data-mine="{number}"'))
    cutlist = project / "cuts/index.toml"
    note = f"# by hand, {number}\n"
    lines = cutlist.read_text(encoding="utf-8").splitlines(keepends=True)
    heads = [n for n, line in enumerate(lines) if line.startswith("[slice.")]
    lines.insert(chance.choice(heads) if heads else 0, note)
    cutlist.write_text("".join(lines), encoding="utf-8")
    kept.append((cutlist, note))
    return kept


def _findings(project: Path) -> int:
    return len(json.loads(_run("survey", "--json", cwd=project, code=(0, 1)))["findings"])


def _fit(project: Path) -> tuple[int, int]:
    data = json.loads(_run("fit", "--json", cwd=project, code=(0, 1)))
    return sum(one["fitting"] for one in data["pages"]), sum(one["things"] for one in data["pages"])


def history(browser: Browser, name: str, folder: Path, seed: int, *, show: bool) -> dict[str, Any]:
    """One project through five versions."""
    chance = Random(f"{seed} {name}")
    project = _begun(browser, name, folder)
    before, found = _fit(project), _findings(project)
    kept: list[tuple[Path, str]] = []
    lost, more, worse, disputes, left = 0, 0, 0, 0, 0
    fits, best = [before], []
    for number in range(1, 5):
        kept += _by_hand(project, number, chance)
        said = _next_version(project / "mockups/index.svg", chance)
        data = json.loads(_run("changes", "--take", "--json", cwd=project, code=(0, 1)))
        disputes, left = disputes + len(data["disputes"]), left + len(data["left"])
        gone = [(path, text) for path, text in kept if text not in path.read_text(encoding="utf-8")]
        lost += len(gone)
        now = _findings(project)
        more += max(0, now - found)
        found = now
        after = _fit(project)
        best.append(_fit(_afresh(project, folder)))
        wrong = [count - fitting for fitting, count in (after, fits[-1], best[-1])]
        worse += max(0, wrong[0] - max(wrong[1:]))
        fits.append(after)
        if show:
            print(
                f"    {number}: {'; '.join(said)}: fit {after[0]}/{after[1]}, survey {now}, gone {gone}"
            )
            for one in (*data["left"], *data["disputes"]):
                print("       ", {key: str(value)[:90] for key, value in one.items()})
    return {"kept": len(kept), "lost": lost, "more": more, "worse": worse, "fits": fits,
            "disputes": disputes, "left": left}  # fmt: skip


def _afresh(project: Path, folder: Path) -> Path:
    """The same mockup as a new project would have it: what fits there can fit at all."""
    fresh = folder / "afresh"
    shutil.rmtree(fresh, ignore_errors=True)
    _run("start", str(fresh), cwd=folder)
    for name in ("fonts", "mockups"):
        shutil.copytree(project / name, fresh / name, dirs_exist_ok=True)
    for command in (("draft", "mockups/index.svg"), ("rough",), ("cut",), ("build",)):
        _run(*command, cwd=fresh)
    return fresh


def _digests(project: Path) -> dict[str, bytes]:
    return {
        path.relative_to(project).as_posix(): path.read_bytes()
        for folder in ("pages", "styles", "cuts", "data", "out")
        for path in sorted((project / folder).rglob("*")) if path.is_file()
    }  # fmt: skip


def killed(project: Path, folder: Path, count: int, chance: Random) -> tuple[int, int]:
    """Take the next version, killed at random moments; how often that was, and what came out wrong."""
    _by_hand(project, 9, chance)
    _next_version(project / "mockups/index.svg", chance)
    straight = Path(shutil.copytree(project, folder / "straight"))
    begun = time.perf_counter()
    _run("changes", "--take", cwd=straight, code=(0, 1))
    whole = time.perf_counter() - begun
    wanted, wrong, hits = _digests(straight), 0, 0
    for number in range(count):
        here = Path(shutil.copytree(project, folder / f"killed-{number}"))
        for _ in range(2):
            child = subprocess.Popen(
                [sys.executable, "-m", "riffler", "changes", "--take"], cwd=here,
                stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL,
            )  # fmt: skip
            time.sleep(chance.uniform(0.15, 1.0) * whole)
            if child.poll() is None:
                child.send_signal(signal.SIGKILL)
                hits += 1
            child.wait()
        _run("changes", "--take", cwd=here, code=(0, 1))
        wrong += _digests(here) != wanted
        shutil.rmtree(here)
    shutil.rmtree(straight)
    return hits, wrong


def main() -> None:
    """Print a line a history, and the sums."""
    parser = argparse.ArgumentParser()
    parser.add_argument("--only", nargs="*", default=list(PAGES))
    parser.add_argument("--seed", type=int, default=1)
    parser.add_argument("--kills", type=int, default=0)
    parser.add_argument("--show", action="store_true")
    args = parser.parse_args()
    with sync_playwright() as playwright, tempfile.TemporaryDirectory() as name:
        browser = playwright.chromium.launch(
            executable_path=os.environ.get("RIFFLER_CHROMIUM", "/usr/bin/chromium"),
            args=["--no-sandbox"],
        )
        for one in args.only:
            found = history(browser, one, Path(name), args.seed, show=args.show)
            fits = " ".join(f"{fitting}/{count}" for fitting, count in found["fits"])
            print(
                f"{one:10} hand edits {found['kept'] - found['lost']}/{found['kept']}  findings +{found['more']}"
                f"  fit {fits} ({found['worse']} worse)  in dispute {found['disputes']}, left {found['left']}",
                flush=True,
            )
            if args.kills:
                chance = Random(f"{args.seed} {one} killed")
                hits, wrong = killed(Path(name) / one, Path(name), args.kills, chance)
                print(
                    f"           killed {hits} times, {wrong} of {args.kills} came out otherwise",
                    flush=True,
                )
        browser.close()


if __name__ == "__main__":
    main()
