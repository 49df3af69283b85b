"""Pages -> layered mockups in two formats, and what is true of them as JSON.

Layers of pixels are drawn by a browser, one by one; the truth is what the pages were made of.
"""

from __future__ import annotations

import io
import itertools
import json
import os
import zipfile
from collections import Counter
from collections.abc import Sequence
from pathlib import Path
from random import Random
from typing import TYPE_CHECKING, Any
from xml.sax.saxutils import quoteattr

import numpy as np
from PIL import Image

from benchmarks.pages.site import PAGES, Page
from benchmarks.pages.things import Thing, written
from riffler.geometry import Rect

FONTS = Path(__file__).parents[2] / "src" / "riffler" / "demo" / "fernhollow" / "fonts"

if TYPE_CHECKING:
    from playwright.sync_api import Page as BrowserPage

#: What people's programs call things that nobody named.
MESS = ("Layer {n}", "Rectangle {n}", "Group {n} copy", "Gruppe {n} – neu", "Frame/{n}", "img {n}")


def write_all(
    folder: Path, seed: int = 1, only: list[str] | None = None, *, nameless: bool = False
) -> None:
    """Every page as .ora and .svg with its truth; every second one has messy names, or all none."""
    from playwright.sync_api import sync_playwright

    folder.mkdir(parents=True, exist_ok=True)
    (folder / "fonts").mkdir(exist_ok=True)
    for font in FONTS.glob("*.ttf"):
        (folder / "fonts" / font.name).write_bytes(font.read_bytes())
    chromium = os.environ.get("RIFFLER_CHROMIUM", "/usr/bin/chromium")
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=chromium, args=["--no-sandbox"])
        for number, make in enumerate(PAGES):
            chance = Random(f"{seed} {make.__name__}")
            page = make(chance)
            if only and page.name not in only:
                continue
            density = 2 if number % 3 == 2 else 1
            spoilt = 1.0 if nameless else 0.6 * (number % 2)
            _settle(page, chance, spoilt, ("Layer {n}",) if nameless else MESS)
            tab = browser.new_page(
                viewport={"width": page.width, "height": page.height}, device_scale_factor=density
            )
            _write(folder, page, density, tab, is_messy=spoilt > 0)
            tab.close()
        browser.close()


def _settle(page: Page, chance: Random, spoilt: float, mess: Sequence[str]) -> None:
    """Give things their ids, parents and places in the stack; spoil that share of the names."""
    numbers, ids = itertools.count(1), itertools.count()

    def settle(things: list[Thing], parent: Thing | None, path: list[tuple[str, int]]) -> None:
        seen = Counter[str]()
        for thing in reversed(things):  # from the top of the stack
            thing.id, thing.parent = f"n{next(ids)}", parent
            name = thing.name
            if chance.random() < spoilt:
                name = chance.choice(mess).format(n=next(numbers))
            seen[name] += 1
            thing.path = [*path, (name, seen[name])]
            settle(thing.children, thing, thing.path)

    settle(page.things, None, [])


def _write(folder: Path, page: Page, density: int, tab: BrowserPage, *, is_messy: bool) -> None:
    faces = "".join(_face(font) for font in sorted(FONTS.glob("*.ttf")))
    tab.set_content(f"<style>{faces}*{{margin:0}}svg{{display:block}}</style><div id=d></div>")
    tab.evaluate("document.fonts.ready")
    layers: dict[str, bytes] = {}
    seen: dict[str, Rect] = {}
    everything = [thing for top in page.things for thing in top.walk()]
    for thing in everything:
        if thing.kind == "group":
            continue
        tab.evaluate("s => { document.getElementById('d').innerHTML = s }", _svg(page, [thing]))
        shot = np.asarray(
            Image.open(io.BytesIO(tab.screenshot(omit_background=True))).convert("RGBA")
        )
        found = _painted(shot)
        x, y, right, bottom = found
        seen[thing.id] = Rect(*(edge / density for edge in (x, y, right - x, bottom - y)))
        file = io.BytesIO()
        Image.fromarray(shot[y:bottom, x:right]).save(file, "PNG", compress_level=1)
        layers[thing.id] = file.getvalue()
    tab.evaluate("s => { document.getElementById('d').innerHTML = s }", _svg(page, page.things))
    merged = tab.screenshot()
    (folder / f"{page.name}.svg").write_text(_svg(page, page.things), encoding="utf-8")
    _write_ora(folder / f"{page.name}.ora", page, density, layers, seen, merged)
    truth = _truth(page, density, everything, seen, is_messy=is_messy)
    (folder / f"{page.name}.truth.json").write_text(json.dumps(truth, indent=1), encoding="utf-8")


def _face(font: Path) -> str:
    import base64

    family = "Fraunces" if "fraunces" in font.name else "Figtree"
    weight = "".join(filter(str.isdigit, font.stem)) or "400"
    style = "italic" if "italic" in font.name else "normal"
    data = base64.b64encode(font.read_bytes()).decode()
    return (
        f"@font-face{{font-family:{family};font-weight:{weight};font-style:{style};"
        f"src:url(data:font/ttf;base64,{data})}}"
    )


def _svg(page: Page, things: list[Thing]) -> str:
    """Things on the canvas; alone ones are shown even where the page hides them."""
    ids = itertools.count()
    is_alone = things is not page.things

    def go(thing: Thing) -> str:
        hidden = ' display="none"' if thing.hidden and not is_alone else ""
        title = f"<title>{thing.path[-1][0].replace('&', '&amp;')}</title>"
        body = written(thing, ids)
        if thing.kind == "group":
            return f"<g>{title}{''.join(map(go, thing.children))}</g>"
        if thing.kind in ("css-box", "words", "tile"):  # the name stands in the shape itself
            defs, _, shape = body.rpartition("</defs>")
            defs += "</defs>" if defs else ""
            if shape.endswith("/>"):
                tag = shape[1:].split()[0]
                shape = f"{shape[:-2]}{hidden}>{title}</{tag}>"
            else:
                shape = shape.replace(">", f"{hidden}>{title}", 1)
            return defs + shape
        if thing.is_placed:
            defs, _, shape = body.rpartition("</defs>")
            defs += "</defs>" if defs else ""
            return f"{defs}{shape[:-2]}>{title}</image>"
        return body.replace(">", f">{title}", 1)

    inside = "".join(map(go, things))
    return (
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{page.width}" height="{page.height}"'
        f' viewBox="0 0 {page.width} {page.height}">{inside}</svg>\n'
    )


def _painted(shot: np.ndarray[Any, Any]) -> tuple[int, int, int, int]:
    rows, columns = (np.flatnonzero(shot[..., 3].any(axis=axis)) for axis in (1, 0))
    return int(columns[0]), int(rows[0]), int(columns[-1]) + 1, int(rows[-1]) + 1


def _write_ora(
    path: Path,
    page: Page,
    density: int,
    layers: dict[str, bytes],
    seen: dict[str, Rect],
    merged: bytes,
) -> None:
    def go(thing: Thing) -> str:
        name = quoteattr(thing.path[-1][0])
        shown = ' visibility="hidden"' if thing.hidden else ""
        if thing.kind == "group":
            return f"<stack name={name}>{''.join(map(go, reversed(thing.children)))}</stack>"
        x, y = round(seen[thing.id].x * density), round(seen[thing.id].y * density)
        return f'<layer name={name} src="data/{thing.id}.png" x="{x}" y="{y}"{shown}/>'

    size = f'w="{page.width * density}" h="{page.height * density}"'
    stack = f'<image version="0.0.3" {size}><stack>{"".join(map(go, reversed(page.things)))}</stack></image>'
    with zipfile.ZipFile(path, "w", zipfile.ZIP_STORED) as archive:
        archive.writestr("mimetype", "image/openraster")
        archive.writestr("stack.xml", stack)
        archive.writestr("mergedimage.png", merged)
        for name, data in layers.items():
            archive.writestr(f"data/{name}.png", data)


def _truth(
    page: Page, density: int, everything: list[Thing], seen: dict[str, Rect], *, is_messy: bool
) -> dict[str, Any]:
    grid: dict[str, Any] = {"left": page.left, "right": page.right, "columns": page.columns}
    if page.columns and page.gutter is not None:
        grid["gutter"] = page.gutter
    repetitions: dict[tuple[str, str], list[str]] = {}
    for thing in everything:
        if thing.rep:
            above = thing.parent.id if thing.parent else ""
            repetitions.setdefault((thing.rep, above), []).append(thing.id)
    return {
        "page": {
            "name": page.name, "width": page.width, "height": page.height, "density": density,
            "messy": is_messy, "grid": grid,
        },
        "things": [_thing(thing, seen) for thing in everything],
        "repetitions": [
            {"group": name, "parent": above, "members": members}
            for (name, above), members in repetitions.items()
            if len(members) > 2
        ],
    }  # fmt: skip


def _thing(thing: Thing, seen: dict[str, Rect]) -> dict[str, Any]:
    whole = [seen[part.id] for part in thing.walk() if part.id in seen and not part.hidden]
    own = seen.get(thing.id)
    path = [list(step) for step in thing.path]
    rect = own if thing.kind == "words" and own else thing.rect
    said: dict[str, Any] = {
        "id": thing.id, "name": thing.name, "kind": thing.kind, "role": thing.role,
        "rep": thing.rep, "tag": "a" if thing.role in ("button", "tab", "logo") else "div",
        "parent": thing.parent.id if thing.parent else None, "rect": vars(rect),
        "hidden": thing.hidden, "state": thing.state, "in_page": True,
        "layer": {"ora": path, "svg": path}, "whole_seen": vars(_around(whole)) if whole else None,
    }  # fmt: skip
    if thing.kind == "group":
        said["group"] = {"ora": path, "svg": path}
    if own:
        said |= {"paint": vars(own), "seen": vars(own)}
    if thing.look:
        look = thing.look
        said["css"] = {
            "background": look.fill, "radius": list(look.radius),
            "gradient": {"css": f"{look.angle:g}deg {look.stops}"} if look.stops else None,
            "border": list(look.border) if look.border else None,
            "shadow": [vars(look.shadow)] if look.shadow else [],
        }  # fmt: skip
    if thing.tile:
        across, down, repeat = thing.tile
        said["tile"] = {"width": across, "height": down, "repeat": repeat}
    return said


def _around(rects: list[Rect]) -> Rect:
    left, top = min(r.x for r in rects), min(r.y for r in rects)
    right, bottom = max(r.x + r.width for r in rects), max(r.y + r.height for r in rects)
    return Rect(left, top, right - left, bottom - top)


if __name__ == "__main__":
    import sys

    write_all(Path(sys.argv[1]), int(sys.argv[2]) if len(sys.argv) > 2 else 1, sys.argv[3:] or None)
