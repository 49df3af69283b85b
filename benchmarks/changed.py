"""Pages that are known, changed in known ways -> how many of the changes are found and named right.

    python -m benchmarks.changed [--only PAGE ...] [--format svg|ora] [--single N] [--seed N] [--show]

Each page of `benchmarks/pages` is drawn as it is and again with edits: one alone, a dozen, and twenty
together with half of all layers called otherwise. Every edit has its numbers; what is found beyond the
edits is false, and so is anything found between a page and itself.
"""

from __future__ import annotations

import argparse
import copy
import os
import re
import tempfile
from collections import Counter
from collections.abc import Callable, Iterator
from dataclasses import dataclass, replace
from pathlib import Path
from random import Random
from typing import Any

from playwright.sync_api import Browser, sync_playwright

from benchmarks.pages import art
from benchmarks.pages.site import PAGES, Page
from benchmarks.pages.things import Look, Shadow, Text, Thing, box, words
from benchmarks.pages.write import FONTS, MESS, _settle, _svg, _write
from riffler.changes.change import Change, ChangeKind
from riffler.changes.comparison import changed
from riffler.geometry import Rect
from riffler.mockup.model import Mockup
from riffler.workspace import Workspace

#: CSS pixels by which a distance that is found may be off.
NEAR = 1.0


@dataclass(frozen=True)
class Edit:
    """What was done to a thing: kind, id, and numbers where there are some."""

    kind: ChangeKind
    id: str
    by: tuple[float, ...] = ()
    what: str = ""


def _leaves(page: Page) -> list[Thing]:
    return [thing for top in page.things for thing in top.walk() if thing.kind != "group"]


def _on_canvas(page: Page, thing: Thing) -> bool:
    r = thing.rect
    return 20 < r.x < page.width - 150 and 20 < r.y < page.height - 60


def _shift(thing: Thing, dx: float, dy: float) -> None:
    r = thing.rect
    thing.rect = Rect(r.x + dx, r.y + dy, r.width, r.height)
    if thing.is_placed:
        for key, by in (("x", dx), ("y", dy)):
            thing.body = re.sub(rf' {key}="(-?[\d.]+)"', _placed(key, by), thing.body)


def _placed(key: str, by: float) -> Callable[[re.Match[str]], str]:
    return lambda found: f' {key}="{float(found[1]) + by:g}"'


def _moved(thing: Thing, chance: Random) -> Edit | None:
    dx, dy = chance.choice([(6, -4), (1, 0), (0, 12), (-9, 3), (40, 25), (0, -1)])
    _shift(thing, dx, dy)
    return Edit(ChangeKind.MOVED, thing.id, (dx, dy))


def _resized(thing: Thing, chance: Random) -> Edit | None:
    if thing.kind != "css-box" or min(thing.rect.width, thing.rect.height) < 12:
        return None
    dw, dh = chance.choice([(12, 8), (-8, 0), (0, 10), (20, 20)])
    r = thing.rect
    if r.width + dw < 10 or r.height + dh < 10:
        return None
    thing.rect = Rect(r.x, r.y, r.width + dw, r.height + dh)
    return Edit(ChangeKind.RESIZED, thing.id, (dw, dh))


def _recoloured(thing: Thing, chance: Random) -> Edit | None:
    color = chance.choice(["#c2185b", "#2f6f4f", "#304f8f", "#7a5c00"])
    if thing.text:
        thing.text = replace(thing.text, color=color)
    elif thing.look and not thing.look.stops and thing.look.fill.startswith("#"):
        thing.look.fill = color
    elif thing.kind == "icon" and "fill=" in thing.body and 'fill="none"' not in thing.body:
        old = re.search(r'fill="(#[0-9a-f]{6})"', thing.body)
        if not old:
            return None
        thing.body = thing.body.replace(old[1], color)
    else:
        return None
    return Edit(ChangeKind.RECOLOURED, thing.id)


def _restyled(thing: Thing, chance: Random) -> Edit | None:
    look, r = thing.look, thing.rect
    if look is None or min(r.width, r.height) < 40:
        return None
    what = chance.choice(["radius", "border", "shadow", "gradient"])
    if what == "radius":
        radius = 14.0 if look.radius[0] != 14 else 4.0
        look.radius = (radius,) * 4
    elif what == "border":
        look.border = (2.0, "#903020") if look.border is None else None
    elif what == "shadow":
        look.shadow = Shadow(0, 6, 18, "#201008", 0.4) if look.shadow is None else None
    else:
        if look.stops or not look.fill.startswith("#"):
            return None
        look.stops = ((0.0, "#f0c060"), (1.0, "#905020"))
    return Edit(ChangeKind.RESTYLED, thing.id, what=what)


def _words(thing: Thing, chance: Random) -> Edit | None:
    if thing.text is None or len("".join(thing.text.lines)) < 4:
        return None
    *most, last = thing.text.lines
    parts = last.split()
    parts[-1] = chance.choice(["tomorrow", "meadow", "thimble"])
    thing.text = replace(thing.text, lines=(*most, " ".join(parts)))
    return Edit(ChangeKind.WORDS, thing.id)


def _type(thing: Thing, chance: Random) -> Edit | None:
    if thing.text is None or len("".join(thing.text.lines)) < 4:
        return None
    if chance.random() < 0.5:
        thing.text = replace(thing.text, weight=400 if thing.text.weight >= 600 else 700)
        return Edit(ChangeKind.TYPE, thing.id, what="weight")
    thing.text = replace(thing.text, size=thing.text.size + chance.choice([2, 4]))
    return Edit(ChangeKind.TYPE, thing.id, what="size")


def _redrawn(thing: Thing, chance: Random) -> Edit | None:
    if thing.kind != "icon" or not thing.body.startswith("<g transform"):
        return None
    scale = re.search(r"scale\(([\d.]+)\)", thing.body)
    fill = re.search(r"#[0-9a-f]{6}", thing.body)
    if not scale or not fill:
        return None
    other = chance.choice(sorted(art.ICONS))
    body = art.ICONS[other].format(ink=fill[0], soft="#ffffff")
    new = f'<g transform="scale({scale[1]})">{body}</g>'
    if new == thing.body:
        return None
    thing.body = new
    return Edit(ChangeKind.REDRAWN, thing.id)


def _toggled(thing: Thing, chance: Random) -> Edit | None:
    del chance
    if thing.is_placed or thing.kind in ("picture", "icon"):
        return None
    thing.hidden = not thing.hidden
    return Edit(ChangeKind.HIDDEN if thing.hidden else ChangeKind.SHOWN, thing.id)


EDITS: list[Callable[[Thing, Random], Edit | None]] = [
    _moved, _moved, _resized, _recoloured, _recoloured, _restyled, _words, _type, _redrawn, _toggled,
]  # fmt: skip


def _siblings(page: Page, thing: Thing) -> list[Thing]:
    return thing.parent.children if thing.parent else page.things


def _arranged(page: Page, thing: Thing, chance: Random, groups: list[Thing]) -> Edit | None:
    """One removed, put into another group, or laid over the one above it."""
    siblings = _siblings(page, thing)
    what = chance.choice(["removed", "regrouped", "reordered"])
    if what == "removed":
        siblings.remove(thing)
        return Edit(ChangeKind.REMOVED, thing.id)
    if what == "regrouped":
        others = [one for one in groups if one is not thing.parent and len(one.children) > 1]
        if not others or len(siblings) < 3:
            return None
        other = chance.choice(others)
        siblings.remove(thing)
        other.children.append(thing)
        thing.parent = other
        return Edit(ChangeKind.REGROUPED, thing.id)
    at = siblings.index(thing)
    if at + 1 >= len(siblings) or len(siblings) < 4:
        return None
    siblings[at], siblings[at + 1] = siblings[at + 1], siblings[at]
    return Edit(ChangeKind.REORDERED, thing.parent.id if thing.parent else "")


def _pushed(page: Page, chance: Random) -> tuple[list[Edit], set[str]]:
    """All below some line 24 px lower, the canvas too."""
    line = page.height * chance.choice([0.4, 0.55, 0.7])
    low = [one for one in _leaves(page) if one.rect.y >= line]
    for one in low:
        _shift(one, 0, 24)
    page_now = replace(page, height=page.height + 24)
    page.__dict__.update(page_now.__dict__)
    shown = [one for one in low if not one.hidden]
    return [Edit(ChangeKind.MOVED, one.id, (0, 24)) for one in shown], {one.id for one in low}


def edited(
    page: Page, count: int, chance: Random, *, renames: bool, pushes: bool
) -> tuple[Page, list[Edit]]:
    """A copy of a settled page with so many edits, each on another thing."""
    new = copy.deepcopy(page)
    done: list[Edit] = []
    used: set[str] = set()
    if pushes:
        done, used = _pushed(new, chance)
    groups = [one for top in new.things for one in top.walk() if one.kind == "group"]
    tries = 0
    kept = len(done)
    while len(done) - kept < count and tries < 50 * count:
        tries += 1
        thing = chance.choice(_leaves(new))
        if (
            thing.id in used
            or thing.id.startswith("added")
            or not _on_canvas(new, thing)
            or not thing.path
        ):
            continue
        is_big = thing.rect.width > 0.8 * new.width
        kind = chance.random()
        if kind < 0.75 and not (thing.hidden or is_big):
            edit = chance.choice(EDITS)(thing, chance)
        elif kind < 0.9 and not thing.hidden:
            siblings = {id(one) for one in _siblings(new, thing)}
            edit = _arranged(new, thing, chance, groups)
            used |= {one.id for one in _leaves(new) if edit and edit.kind is ChangeKind.REORDERED
                     and id(one) in siblings}  # fmt: skip
        elif kind >= 0.9:
            edit = _added(new, chance, len(done))
            done += [edit]
            continue
        else:
            continue
        if edit is not None:
            done.append(edit)
            used.add(thing.id)
    if renames:
        done += _renamed(new, chance)
    return new, done


def _added(page: Page, chance: Random, number: int) -> Edit:
    x, y = chance.randrange(40, page.width - 260), chance.randrange(40, page.height - 120)
    if chance.random() < 0.5:
        look = Look("#d81b60", radius=(10.0,) * 4)
        thing = box(f"new-{number}", Rect(x, y, 90 + number * 3, 34 + number), look)
    else:
        thing = words(f"note-{number}", x, y, Text((f"Fresh today {number}",), 17, "#402010"))
    thing.id = f"added-{number}"
    thing.path = [(thing.name, 1)]
    page.things.append(thing)
    return Edit(ChangeKind.ADDED, thing.id)


def _renamed(page: Page, chance: Random) -> Iterator[Edit]:
    every = [one for top in page.things for one in top.walk() if not one.id.startswith("added")]
    for number, thing in enumerate(chance.sample(every, len(every) // 2)):
        thing.path = [*thing.path[:-1], (chance.choice(MESS).format(n=f"{number} b"), 1)]
        yield Edit(ChangeKind.RENAMED, thing.id)


def _ids(page: Page, mockup: Mockup) -> dict[str, str]:
    """The id of each layer by its address: both are listed from the top of the stack."""
    ids: dict[str, str] = {}

    def go(things: list[Thing], layers: Any) -> None:  # noqa: ANN401
        for thing, layer in zip(reversed(things), layers, strict=True):
            ids[layer.address] = thing.id
            if thing.kind == "group":
                go(thing.children, layer.children)

    go(page.things, mockup.layers)
    return ids


def _found(
    change: Change, old: dict[str, str], new: dict[str, str]
) -> Iterator[tuple[ChangeKind, str, Change]]:
    """A change as edits are written down, each thing of several by itself."""
    if change.kind is ChangeKind.REORDERED:
        yield change.kind, old.get(change.old or "", ""), change
        return
    for one, other in change.pairs:
        ident = old.get(one or "") or new.get(other or "")
        if ident is not None:
            yield change.kind, ident, change


def _fits(edit: Edit, change: Change) -> bool:
    match edit.kind:
        case ChangeKind.MOVED:
            return max(abs(change.dx - edit.by[0]), abs(change.dy - edit.by[1])) <= NEAR
        case ChangeKind.RESIZED:
            return max(abs(change.dw - edit.by[0]), abs(change.dh - edit.by[1])) <= NEAR
    return True


def score(
    edits: list[Edit], found: list[tuple[ChangeKind, str, Change]]
) -> tuple[list[Edit], list[tuple[ChangeKind, str, Change]]]:
    """The edits that were missed or named wrong, and what was found that nobody did."""
    missed = []
    left = list(found)
    for edit in edits:
        hit = next(
            (one for one in left if one[:2] == (edit.kind, edit.id) and _fits(edit, one[2])), None
        )
        if hit is None:
            missed.append(edit)
        else:
            left.remove(hit)
    is_known = {(edit.kind, edit.id) for edit in edits}
    pushed = {edit.id for edit in edits if edit.kind is ChangeKind.MOVED and edit.by == (0, 24)}
    false = [
        one for one in left
        if one[0] is not ChangeKind.PAGE and one[:2] not in is_known
        and not (one[0] is ChangeKind.MOVED and (pushed and abs(one[2].dy - 24) < NEAR))
    ]  # fmt: skip
    return missed, false


def main() -> None:
    """Print a line a comparison, and the sums."""
    parser = argparse.ArgumentParser()
    parser.add_argument("--only", nargs="*")
    parser.add_argument("--format", nargs="*", default=["svg", "ora"])
    parser.add_argument("--single", type=int, default=2)
    parser.add_argument("--seed", type=int, default=1)
    parser.add_argument("--show", action="store_true")
    args = parser.parse_args()
    sums: Counter[str] = Counter()
    by_kind: Counter[tuple[str, bool]] = Counter()
    with sync_playwright() as playwright, tempfile.TemporaryDirectory() as name:
        browser = playwright.chromium.launch(
            executable_path=os.environ.get("RIFFLER_CHROMIUM", "/usr/bin/chromium"),
            args=["--no-sandbox"],
        )
        for number, make in enumerate(PAGES):
            if args.only and make.__name__.rstrip("_") not in args.only:
                continue
            _page(browser, Path(name), number, make, args, sums, by_kind)
        browser.close()
    print(
        f"{sums['edits'] - sums['missed']} of {sums['edits']} edits found and named right, "
        f"{sums['false']} false, in {sums['pairs']} comparisons; {sums['own']} between equal files"
    )
    for kind in ChangeKind:
        right, wrong = by_kind[kind.value, True], by_kind[kind.value, False]
        if right + wrong:
            print(f"  {kind.value:12} {right}/{right + wrong}")


def _page(
    browser: Browser, folder: Path, number: int, make: Callable[[Random], Page], args: argparse.Namespace,
    sums: Counter[str], by_kind: Counter[tuple[str, bool]],
) -> None:  # fmt: skip
    chance = Random(f"{args.seed} {make.__name__} changes")
    page = make(chance)
    density = 2 if number % 3 == 2 else 1
    _settle(page, chance, 0.6 * (number % 2), MESS)
    cases = [(12, False, False), (20, True, False), (6, number % 2 == 0, True)]
    cases += [(1, single % 2 == 1, False) for single in range(args.single)]
    old = _drawn(browser, folder / "old", page, density, args.format)
    for count, renames, pushes in cases:
        new, edits = edited(page, count, chance, renames=renames, pushes=pushes)
        new = replace(new, name=page.name)
        files = _drawn(browser, folder / "new", new, density, args.format)
        for ending in args.format:
            missed, false, ids = _compared(old[ending], files[ending], page, new, edits)
            sums.update(edits=len(edits), missed=len(missed), false=len(false), pairs=1)
            for edit in edits:
                by_kind[edit.kind.value, edit not in missed] += 1
            print(
                f"{page.name:9} {ending}  {len(edits) - len(missed)}/{len(edits)}  false {len(false)}",
                flush=True,
            )
            if args.show:
                for edit in missed:
                    print("    missed", edit, ids.get(edit.id, ""))
                for kind, ident, change in false:
                    print("    false ", kind.value, ident, change.old, "->", change.new, change.aspects,
                          (change.dx, change.dy, change.dw, change.dh), change.where)  # fmt: skip
    for ending in args.format:
        opened = _open(old[ending])
        sums.update(own=len(changed(opened[0], opened[1], _open(old[ending])[1]).changes))


def _drawn(
    browser: Browser, folder: Path, page: Page, density: int, endings: list[str]
) -> dict[str, Path]:
    folder.mkdir(parents=True, exist_ok=True)
    (folder / "fonts").mkdir(exist_ok=True)
    for font in FONTS.glob("*.ttf"):
        (folder / "fonts" / font.name).write_bytes(font.read_bytes())
    if "ora" in endings:
        tab = browser.new_page(
            viewport={"width": page.width, "height": page.height}, device_scale_factor=density
        )
        _write(folder, page, density, tab, is_messy=False)
        tab.close()
    else:
        (folder / f"{page.name}.svg").write_text(_svg(page, page.things), encoding="utf-8")
    return {ending: folder / f"{page.name}.{ending}" for ending in ("svg", "ora")}


def _open(path: Path) -> tuple[Workspace, Any]:
    workspace = Workspace.around(path)
    return workspace, workspace.open(path)


def _compared(
    old: Path, new: Path, page: Page, now: Page, edits: list[Edit]
) -> tuple[list[Edit], list[tuple[ChangeKind, str, Change]], dict[str, str]]:
    workspace, before = _open(old)
    after = workspace.open(new)
    result = changed(workspace, before, after)
    was, is_ = _ids(page, before.mockup), _ids(now, after.mockup)
    found = [one for change in result.changes for one in _found(change, was, is_)]
    missed, false = score(edits, found)
    names = {ident: address for address, ident in was.items()}
    return missed, false, names


if __name__ == "__main__":
    main()
