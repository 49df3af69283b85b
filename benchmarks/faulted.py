"""Pages that fit, with one fault planted in each -> how many are found, named right, and once.

    python -m benchmarks.faulted [--only PAGE ...] [--each N] [--seed N] [--show]

The example's two pages and the ten of `tests/known_pages.py` are held against their mockups. On each,
things that lie right are chosen by chance, and one rule is added to the page that puts one of them
wrong: pictures moved, too wide, hidden or exchanged; colours a little off; corners, borders, shadows;
texts in another size, weight, family or colour, or wrapped; other words; a section pushed. A fault
counts when its thing is the one root that is told, with the right name and the right number; a value
that is proposed counts when it is written into the page and the page fits again.
"""

from __future__ import annotations

import argparse
import os
import re
import shutil
import subprocess
import sys
import tempfile
from collections import Counter
from collections.abc import Callable
from dataclasses import dataclass, replace
from pathlib import Path
from random import Random

import numpy as np
from playwright.sync_api import Browser, sync_playwright

sys.path.append(str(Path(__file__).parents[1] / "tests"))

from known_drawing import drawn
from known_pages import FONTS, PAGES, page
from riffler.fit.browser import opened
from riffler.fit.causes import roots
from riffler.fit.chromium import Chromium
from riffler.fit.comparing import compared
from riffler.fit.expected import Coming, ThingKind
from riffler.fit.expecting import expected
from riffler.fit.fault import Fault, Placed
from riffler.fit.page_fit import FitFinding, fit
from riffler.fit.pairing import paired
from riffler.workspace import Workspace

#: A selector of one element alone, by its place among others.
PATH = """n => {
  let one = globalThis.riffler.elements[n], parts = [];
  for (; one && one !== document.body; one = one.parentElement)
    parts.unshift(`${one.localName}:nth-child(${[...one.parentElement.children].indexOf(one) + 1})`);
  return ["body", ...parts].join(" > ");
}"""

STYLE = "n => { const c = getComputedStyle(globalThis.riffler.elements[n]); return Object.fromEntries(%s.map(k => [k, c[k]])); }"
KEYS = ["display", "position", "color", "backgroundColor", "backgroundImage", "borderTopLeftRadius", "fontSize",
        "fontWeight", "fontFamily", "width", "height", "boxShadow", "borderTopWidth", "transform"]  # fmt: skip


@dataclass(frozen=True)
class Planted:
    """A fault: the rule that makes it, what has to be told, and numbers where there are some."""

    name: str
    rule: str
    faults: tuple[Fault, ...]
    by: tuple[float, float] = (0.0, 0.0)


def _shade(color: str, by: int) -> str | None:
    """A computed colour, a little off."""
    found = re.fullmatch(r"rgb\((\d+), (\d+), (\d+)\)", color)
    if not found:
        return None
    levels = [int(one) for one in found.groups()]
    way = by if sum(levels) < 420 else -by
    return "#" + "".join(f"{min(255, max(0, level + way)):02x}" for level in levels)


def _moved(_: Placed, css: dict[str, str], chance: Random) -> Planted | None:
    if css["position"] != "static" or css["transform"] != "none":
        return None
    by, side = chance.choice([1, 2, 5, 30, -1, -5]), chance.choice(["left", "top"])
    at = (float(by), 0.0) if side == "left" else (0.0, float(by))
    return Planted(f"moved {by} {side}", f"position: relative; {side}: {by}px", (Fault.MOVED,), at)


def _wide(_: Placed, css: dict[str, str], chance: Random) -> Planted | None:
    width = float(css["width"].removesuffix("px") or 0) if css["width"].endswith("px") else 0
    if width < 20:
        return None
    by = chance.choice([4, 9, -6])
    return Planted(f"width {by}", f"width: {width + by}px; height: {css['height']}; max-width: none; flex: none",
                   (Fault.SIZE, Fault.STRETCHED, Fault.MOVED))  # fmt: skip


def _missing(one: Placed, css: dict[str, str], chance: Random) -> Planted | None:
    del one, css, chance
    return Planted("missing", "visibility: hidden", (Fault.MISSING,))


def _color(one: Placed, css: dict[str, str], chance: Random) -> Planted | None:
    del one
    color = _shade(css["color"], chance.choice([14, 26]))
    return color and Planted("ink", f"color: {color}", (Fault.COLOR,))  # type: ignore[return-value]


def _fill(one: Placed, css: dict[str, str], chance: Random) -> Planted | None:
    del one
    color = _shade(css["backgroundColor"], chance.choice([9, 18]))
    if color is None or css["backgroundImage"] != "none":
        return None
    return Planted("fill", f"background-color: {color}", (Fault.COLOR,))


def _radius(one: Placed, css: dict[str, str], chance: Random) -> Planted | None:
    if (
        min(one.thing.box.width, one.thing.box.height) < 30
        or "px" not in css["borderTopLeftRadius"]
    ):
        return None
    now = float(css["borderTopLeftRadius"].split("px")[0])
    if now > 0.4 * min(one.thing.box.width, one.thing.box.height):
        return None
    return Planted("corners", f"border-radius: {now + chance.choice([3, 8])}px", (Fault.RADIUS,))


def _shadow(one: Placed, css: dict[str, str], chance: Random) -> Planted | None:
    del chance
    if min(one.thing.box.width, one.thing.box.height) < 24 or css["boxShadow"] != "none":
        return None
    return Planted("shadow", "box-shadow: 0 3px 10px #0006", (Fault.SHADOW,))


def _size(one: Placed, css: dict[str, str], chance: Random) -> Planted | None:
    del one
    size = float(css["fontSize"].removesuffix("px"))
    return Planted(
        "type size", f"font-size: {size + chance.choice([1, 2, -1])}px", (Fault.TYPE_SIZE,)
    )


def _weight(one: Placed, css: dict[str, str], chance: Random) -> Planted | None:
    del one, chance
    weight = 400 if int(css["fontWeight"]) >= 600 else 600
    return Planted("weight", f"font-weight: {weight}", (Fault.WEIGHT, Fault.FAMILY))


def _family(one: Placed, css: dict[str, str], chance: Random) -> Planted | None:
    del one, chance
    family = "Figtree" if "Fraunces" in css["fontFamily"] else "Fraunces"
    return Planted("font", f"font-family: {family}", (Fault.FAMILY, Fault.WEIGHT))


def _wrapped(one: Placed, css: dict[str, str], chance: Random) -> Planted | None:
    del chance
    setting = one.thing.setting
    if (
        setting is None
        or len(setting.lines) != 1
        or " " not in setting.text
        or css["display"] == "inline"
    ):
        return None
    return Planted(
        "wrap",
        f"width: {0.75 * setting.width:.0f}px; box-sizing: content-box; flex: none",
        (Fault.BREAKS,),
    )


def _spaced(one: Placed, css: dict[str, str], chance: Random) -> Planted | None:
    del css, chance
    setting = one.thing.setting
    if setting is None or len(setting.text) < 8 or len(setting.lines) != 1:
        return None
    return Planted("spacing", "letter-spacing: 1px", (Fault.SPACING, Fault.BREAKS))


def _pushed(_: Placed, css: dict[str, str], chance: Random) -> Planted | None:
    if css["display"] not in ("block", "flex", "grid", "list-item") or css["position"] != "static":
        return None
    by = chance.choice([12, 24])
    return Planted(f"pushed {by}", f"margin-top: {by}px", (Fault.MOVED,), (0.0, float(by)))


#: What is done to things of each kind.
FAULTS: dict[ThingKind, list[Callable[[Placed, dict[str, str], Random], Planted | None]]] = {
    ThingKind.PICTURE: [_moved, _moved, _wide, _missing],
    ThingKind.WORDS: [_color, _size, _weight, _family, _wrapped, _spaced, _moved],
    ThingKind.BOX: [_fill, _radius, _shadow, _fill],
}


def _told(planted: Planted, one: Placed, finding: FitFinding) -> bool:
    """Whether a finding is of the thing, with the right name and number."""
    placed = finding.placed
    if placed.number != one.number and placed.element != one.element:
        return False
    names = {difference.fault for difference in finding.faults}
    if not names & set(planted.faults):
        return False
    if planted.faults == (Fault.MOVED,):
        return abs(placed.dx - planted.by[0]) < 0.6 and abs(placed.dy - planted.by[1]) < 0.6
    return True


def _wraps(browser: Browser, path: Path, broken: Path, selector: str, coming: Coming) -> bool:
    """Whether the browser itself breaks the text into more lines."""
    heights = []
    for each in (path, broken):
        with opened(
            Chromium(browser), each.as_uri(), coming.width, coming.density, coming.height
        ) as window:
            heights.append(window.tab.ask("s => document.querySelector(s).clientHeight", selector))
    return bool(heights[1] > heights[0])


def _went(
    browser: Browser, path: Path, broken: Path, selector: str, coming: Coming
) -> tuple[float, float]:
    """How far the browser itself has an element further right and down."""
    places = []
    for each in (path, broken):
        with opened(
            Chromium(browser), each.as_uri(), coming.width, coming.density, coming.height
        ) as window:
            places.append(window.tab.ask(
                "s => { const b = document.querySelector(s).getBoundingClientRect(); return [b.x, b.y] }", selector
            ))  # fmt: skip
    (x, y), (right, down) = places
    return right - x, down - y


def _is_mended(
    browser: Browser, path: Path, text: str, finding: FitFinding, coming: Coming
) -> bool | None:
    """Whether the page fits with the proposed value put in; None where none is proposed."""
    remedy = finding.remedy
    if remedy is None:
        return None
    one = remedy.declaration
    lines = text.splitlines(keepends=True)
    source = path if Path(one.file) == path or not one.file else Path(one.file)
    if source != path:
        return None
    line = lines[one.line - 1]
    if one.value and one.value not in line:
        return None
    at = line.rfind(one.value) if one.value else len(line)
    lines[one.line - 1] = line[:at] + remedy.value + line[at + len(one.value) :]
    path.write_text("".join(lines), encoding="utf-8")
    return not fit(Chromium(browser), path.as_uri(), coming).findings


def measured(
    browser: Browser, name: str, path: Path, coming: Coming, args: argparse.Namespace
) -> Counter[str]:
    """Plant faults in one page, one at a time."""
    sums: Counter[str] = Counter()
    chance = Random(f"{args.seed} {name} faults")
    text = path.read_text(encoding="utf-8")
    with opened(
        Chromium(browser), path.as_uri(), coming.width, coming.density, coming.height
    ) as window:
        seen = window.look()
        wanted = coming.wait()
        placed = compared(wanted, seen, paired(wanted, seen))
        wrong = {
            id_
            for root in roots(placed, seen)
            for id_ in (root.placed.number, *(f.number for f in root.followers))
        }
        right = [one for one in placed if one.number not in wrong and one.element > 0]
        shared = Counter(one.element for one in right)
        right = [one for one in right if shared[one.element] == 1]
        facts = {
            one.number: (
                window.tab.ask(PATH, one.element),
                window.tab.ask(STYLE % KEYS, one.element),
            )
            for one in right
        }
    before = {one.key for one in fit(Chromium(browser), path.as_uri(), coming).findings}
    sums["unchanged"] = len(before)
    tries = 0
    while sums["planted"] < args.each and tries < 40 * args.each:
        tries += 1
        kind = chance.choice([ThingKind.PICTURE, ThingKind.WORDS, ThingKind.BOX, ThingKind.WORDS])
        things = [one for one in right if one.thing.kind is kind]
        if not things:
            continue
        one = chance.choice(things)
        selector, css = facts[one.number]
        planted = chance.choice([*FAULTS[kind], _pushed])(one, css, chance)
        if planted is None:
            continue
        rule = ";\n  ".join(f"{each.strip()} !important" for each in planted.rule.split(";"))
        broken = path.with_name(f"{path.stem}.fault.html")
        faulty = text.replace(
            "</head>", f"<style>\n{selector} {{\n  {rule};\n}}\n</style>\n</head>", 1
        )
        if faulty == text:
            faulty = text.replace("</style>", f"\n{selector} {{\n  {rule};\n}}\n</style>", 1)
        broken.write_text(faulty, encoding="utf-8")
        page = fit(Chromium(browser), broken.as_uri(), coming)
        if np.array_equal(page.seen.shot, seen.shot):
            continue  # a weight that has no face, say
        found = [finding for finding in page.findings
                 if finding.key.partition(": ")[2] not in {key.partition(": ")[2] for key in before}]  # fmt: skip
        if planted.faults == (Fault.MOVED,):
            planted = replace(planted, by=_went(browser, path, broken, selector, coming))
            if max(map(abs, planted.by)) < 1:
                continue
        if planted.faults == (Fault.BREAKS,) and not _wraps(
            browser, path, broken, selector, coming
        ):
            continue
        mine = [finding for finding in found if _told(planted, one, finding)]
        sums["planted"] += 1
        sums["found"] += bool(mine)
        sums["alone"] += len(found) == 1 and bool(mine)
        if mine:
            is_mended = _is_mended(browser, broken, faulty, mine[0], coming)
            sums["proposed"] += is_mended is not None
            sums["mended"] += bool(is_mended)
        if args.show and not (mine and len(found) == 1):
            print(
                f"    {planted.name}: {one.thing.kind.value} {one.thing.name[-40:]} {{{planted.rule}}}"
            )
            for finding in found:
                p = finding.placed
                print(f"        {'*' if finding in mine else ' '} {p.thing.name[-40:]} {[d.fault.value for d in finding.faults]}"
                      f" {p.dx:.1f} {p.dy:.1f} {p.dw:.1f} {p.dh:.1f} +{len(finding.root.followers)}")  # fmt: skip
    return sums


def _example(folder: Path) -> list[tuple[str, Path, Path]]:
    """The example's pages, built, with their mockups."""
    subprocess.run(
        [sys.executable, "-m", "riffler", "demo", "fernhollow"],
        cwd=folder,
        check=True,
        capture_output=True,
    )
    root = folder / "fernhollow"
    return [("demo", root / "out/index.html", root / "mockups/home.ora"),
            ("hives", root / "out/hives.html", root / "mockups/hives.svg")]  # fmt: skip


def _known(browser: Browser, folder: Path, name: str) -> tuple[str, Path, Path]:
    place = folder / name
    (place / "fonts").mkdir(parents=True)
    fonts = (Path.cwd() / FONTS).resolve()
    for font in fonts.glob("*.ttf"):
        shutil.copy(font, place / "fonts")
    path = place / f"{name}.html"
    path.write_text(page(name, (place / "fonts").as_uri()), encoding="utf-8")
    probe = browser.new_page(viewport={"width": 1280, "height": 800})
    _, svg = drawn(probe, path)
    probe.close()
    (place / f"{name}.svg").write_text(svg, encoding="utf-8")
    return name, path, place / f"{name}.svg"


def main() -> None:
    """Print a line a page, and the sums."""
    parser = argparse.ArgumentParser()
    parser.add_argument("--only", nargs="*", default=["demo", "hives", *PAGES])
    parser.add_argument("--each", type=int, default=20)
    parser.add_argument("--seed", type=int, default=1)
    parser.add_argument("--show", action="store_true")
    args = parser.parse_args()
    sums: Counter[str] = Counter()
    with sync_playwright() as playwright, tempfile.TemporaryDirectory() as name:
        browser = playwright.chromium.launch(
            executable_path=os.environ.get("RIFFLER_CHROMIUM", "/usr/bin/chromium"),
            args=["--no-sandbox", "--force-color-profile=srgb"],
        )
        folder = Path(name)
        pages: list[tuple[str, Path, Path]] = []
        if {"demo", "hives"} & set(args.only):
            pages += [one for one in _example(folder) if one[0] in args.only]
        pages += [_known(browser, folder, one) for one in args.only if one in PAGES]
        for title, path, mockup in pages:
            workspace = Workspace.around(mockup)
            coming = expected(workspace.open(mockup))
            found = measured(browser, title, path, coming, args)
            sums += found
            _say(title, found)
        browser.close()
    _say("all", sums)


def _say(title: str, found: Counter[str]) -> None:
    print(
        f"{title:10} {found['found']}/{found['planted']} found and named right, {found['alone']} alone; "
        f"{found['mended']}/{found['proposed']} proposals mend; {found['unchanged']} on the unchanged page",
        flush=True,
    )


if __name__ == "__main__":
    main()
