"""Pages that are known, drawn as mockups -> how near the pages come that are roughed out of them.

    python -m benchmarks.roughed [--only NAME ...] [--unnamed] [--narrow] [--keep FOLDER] [--show]

A browser lays out each page of `tests/known_pages.py`; what it shows is written as a layered SVG, which is
drafted, roughed out, cut and built. The same browser then says where text lines, pictures and plates
lie in the built page, whether lines break as they did, and whether landmarks, headings, lists and the
order of reading are those of the page. `--unnamed` calls every layer "Layer N"; with `--narrow` each
page has a mockup for phones, too, and is compared with that at 375 px.
"""

from __future__ import annotations

import argparse
import json
import os
import subprocess
import sys
import tempfile
import time
from pathlib import Path
from typing import Any

from playwright.sync_api import Browser, sync_playwright

sys.path.append(str(Path(__file__).parents[1] / "tests"))

from known_drawing import WIDTHS, compared, drawn
from known_pages import FONTS, PAGES, page


def _run(*args: str, cwd: Path) -> None:
    done = subprocess.run(
        [sys.executable, "-m", "riffler", *args], cwd=cwd, capture_output=True, text=True
    )
    if done.returncode:
        raise SystemExit(f"riffler {' '.join(args)} in {cwd}: {done.stdout}{done.stderr}")


def measure(
    browser: Browser, name: str, folder: Path, *, is_unnamed: bool, is_narrow: bool
) -> dict[str, Any]:
    """Draw a page's mockup, rough it out, build it, and compare: the page for phones, if so."""
    fonts = (Path.cwd() / FONTS).resolve()
    source, project = folder / f"{name}.truth.html", folder / name
    probe = browser.new_page(viewport={"width": 1280, "height": 800})
    _run("start", str(project), cwd=folder)
    for font in fonts.glob("*.ttf"):
        (project / "fonts" / font.name).write_bytes(font.read_bytes())
    source.write_text(page(name, fonts.as_uri()), encoding="utf-8")
    wanted, svg = drawn(probe, source, is_unnamed=is_unnamed)
    (project / "mockups/index.svg").write_text(svg, encoding="utf-8")
    _run("draft", "mockups/index.svg", cwd=project)
    if is_narrow:
        source.write_text(page(name, fonts.as_uri(), is_narrow=True), encoding="utf-8")
        wanted, svg = drawn(probe, source, is_unnamed=is_unnamed)
        (project / "mockups/index-narrow.svg").write_text(svg, encoding="utf-8")
        when = ("--when", "(max-width: 600px)")
        _run("draft", "mockups/index-narrow.svg", *when, cwd=project)
    start = time.perf_counter()
    _run("rough", cwd=project)
    seconds = time.perf_counter() - start
    _run("cut", cwd=project)
    _run("build", cwd=project)
    found = compared(probe, wanted, project / "out/index.html")
    probe.screenshot(path=str(folder / f"{name}.png"), full_page=True)
    scrolls = []
    for width in WIDTHS:
        probe.set_viewport_size({"width": width, "height": 800})
        if probe.evaluate("document.documentElement.scrollWidth") > width:
            scrolls.append(width)
        if width == WIDTHS[0]:
            probe.screenshot(path=str(folder / f"{name}-{width}.png"), full_page=True)
    probe.close()
    return {**found, "scrolls": scrolls, "seconds": seconds}


def main() -> None:
    """Print a line a page, and the sums."""
    parser = argparse.ArgumentParser()
    parser.add_argument("--only", nargs="*", default=list(PAGES))
    parser.add_argument("--unnamed", action="store_true")
    parser.add_argument("--narrow", action="store_true")
    parser.add_argument("--keep", type=Path)
    parser.add_argument("--show", action="store_true")
    args = parser.parse_args()
    folder = args.keep or Path(tempfile.mkdtemp())
    folder.mkdir(parents=True, exist_ok=True)
    kinds = ("lines", "pictures", "plates", "landmarks", "headings", "lists", "order")
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(
            executable_path=os.environ.get("CHROMIUM", "/usr/bin/chromium"), args=["--no-sandbox"]
        )
        for name in args.only:
            found = measure(browser, name, folder, is_unnamed=args.unnamed, is_narrow=args.narrow)
            said = "  ".join(f"{kind} {found[kind][0]}/{found[kind][1]}" for kind in kinds)
            print(f"{name:10} {said}  scrolls {found['scrolls']}  {found['seconds']:.1f} s")
            if args.show:
                for key in ("wrong", "missing", "heads", "arts"):
                    print("   ", key, json.dumps(found[key])[:700])
        browser.close()


if __name__ == "__main__":
    main()
