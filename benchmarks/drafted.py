"""Drafts of generated pages, held against what the pages were made of.

    python -m benchmarks.drafted FOLDER [--seed 1] [--nameless] [--only PAGE ...]

Writes the pages into FOLDER, drafts each in both formats, and prints recall and precision for each
kind of thing, what is told of boxes that CSS draws, and the grids. A box counts within two CSS
pixels, so that a thing that is part of a larger picture is not found.
"""

from __future__ import annotations

import argparse
import json
import re
import shutil
import subprocess
import sys
from collections import Counter, defaultdict
from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any, NamedTuple

from benchmarks.pages.write import write_all

#: How far a box may be off on each edge, and a repeated one beyond its row, in CSS pixels.
NEAR, LOOSE = 2.0, 6.0

KINDS = (
    "picture",
    "icon",
    "tile",
    "words",
    "button",
    "tab",
    "card",
    "rows",
    "logo",
    "hero",
    "state",
)

Thing = Mapping[str, Any]


class Edges(NamedTuple):
    """A box in CSS pixels."""

    left: float
    top: float
    right: float
    bottom: float

    @classmethod
    def of(cls, box: Mapping[str, float], by: float = 1.0) -> Edges:
        """The edges of a box as JSON says it, its pixels divided."""
        x, y = box["x"] / by, box["y"] / by
        return cls(x, y, x + box["width"] / by, y + box["height"] / by)

    def is_near(self, other: Edges, far: float = NEAR) -> bool:
        """Whether all edges are about the same."""
        return all(abs(mine - yours) <= far for mine, yours in zip(self, other, strict=True))

    def is_within(self, other: Edges, far: float = NEAR) -> bool:
        """Whether it reaches hardly beyond the other."""
        return (
            self.left >= other.left - far and self.top >= other.top - far
            and self.right <= other.right + far and self.bottom <= other.bottom + far
        )  # fmt: skip

    def share(self, other: Edges) -> float:
        """What both cover, of what any of them does."""
        wide = min(self.right, other.right) - max(self.left, other.left)
        high = min(self.bottom, other.bottom) - max(self.top, other.top)
        both = max(0.0, wide) * max(0.0, high)
        areas = ((e.right - e.left) * (e.bottom - e.top) for e in (self, other))
        return both / (sum(areas) - both)


@dataclass
class Slice:
    """A drafted slice: what it is, where it is shown, and the things whose drawings it cuts."""

    name: str
    sort: str
    boxes: list[Edges]
    things: set[str]
    states: set[str]
    why: str
    is_file: bool
    is_hit: bool = False


@dataclass
class Score:
    """Found and wanted of each kind; right and drafted of each sort; facts told rightly."""

    recall: dict[str, Counter[bool]] = field(default_factory=lambda: defaultdict(Counter))
    precision: dict[str, Counter[bool]] = field(default_factory=lambda: defaultdict(Counter))
    facts: dict[str, Counter[bool]] = field(default_factory=lambda: defaultdict(Counter))
    missed: list[str] = field(default_factory=list)

    def add(self, other: Score) -> None:
        """Count what another page has."""
        for mine, yours in (
            (self.recall, other.recall), (self.precision, other.precision), (self.facts, other.facts),
        ):  # fmt: skip
            for kind, counted in yours.items():
                mine[kind].update(counted)
        self.missed += other.missed


class Page:
    """The truth of one page and what was drafted of it."""

    def __init__(self, truth: Mapping[str, Any], drafted: Mapping[str, Any], form: str) -> None:
        self.truth = truth
        self.things: dict[str, Thing] = {thing["id"]: thing for thing in truth["things"]}
        self.density = truth["page"]["density"] if form == "ora" else 1
        self.by_address: dict[str, str] = {
            _address(t["layer"][form]): t["id"] for t in truth["things"]
        }
        self.slices = [self._slice(one) for one in drafted["slices"]]
        self.css = {self._id(one["layer"]): one["why"] for one in drafted["css"]}
        self.score = Score()

    def _id(self, address: str) -> str:
        """The thing that a layer is, or is part of."""
        while address and address not in self.by_address:
            address = re.sub(r"(?:^|/)(?:\\.|[^/\\])*$", "", address)
        return self.by_address.get(address, "")

    def _slice(self, said: Mapping[str, Any]) -> Slice:
        keys, times = said["keys"], said["keys"].get("times") or {}
        count = times.get("count", 1)
        columns = times.get("columns") or (count if times.get("x") else 1)
        first = Edges.of(said["box"], self.density)
        steps = [
            (
                n % columns * times.get("x", 0) / self.density,
                n // columns * times.get("y", 0) / self.density,
            )
            for n in range(count)
        ]
        boxes = [
            Edges(first.left + x, first.top + y, first.right + x, first.bottom + y)
            for x, y in steps
        ]
        role = keys.get("role", "picture")
        sort = role
        if role == "icon" or keys.get("in") == "icons":
            sort = "icon"
        elif said["states"] or ("link" in keys and not times):
            sort = "click"
        things = {self._id(layer) for layer in said["layers"]} - {""}
        return Slice(
            said["name"], sort, boxes, things, set(said["states"]), said["why"], role != "words"
        )

    def judge(self) -> Score:
        """Count everything."""
        for thing in self.things.values():
            if thing["hidden"]:
                if thing["state"]:
                    self._state(thing)
            elif thing["kind"] in ("picture", "icon"):
                self._picture(thing)
            elif thing["kind"] == "tile":
                of_it = [
                    one for one in self.slices if one.sort == "tile" and thing["id"] in one.things
                ]
                self._count("tile", thing, of_it)
            elif thing["kind"] == "words" and not self._is_in(thing, ("button", "tab")):
                self._words(thing)
            elif thing["kind"] == "css-box":
                self._box(thing)
            if thing["role"] in ("button", "tab", "logo", "hero"):
                self._role(thing)
        for repetition in self.truth["repetitions"]:
            self._repeated([self.things[member] for member in repetition["members"]])
        for one in self.slices:
            self.score.precision[one.sort][one.is_hit or self._is_some(one)] += 1
        return self.score

    def _count(self, kind: str, thing: Thing, found: Iterable[Slice]) -> None:
        hits = list(found)
        for one in hits:
            one.is_hit = True
        self.score.recall[kind][bool(hits)] += 1
        if not hits:
            self.score.missed.append(
                f"{kind}: {thing['name']} at {thing.get('seen') or thing['rect']}"
            )

    def _near(self, thing: Thing) -> Iterator[Slice]:
        places = [
            Edges.of(box) for key in ("seen", "rect", "whole_seen") if (box := thing.get(key))
        ]
        for one in self.slices:
            if any(box.is_near(place) for box in one.boxes for place in places):
                yield one

    def _picture(self, thing: Thing) -> None:
        found = [one for one in self._near(thing) if one.is_file]
        if found or not (thing["kind"] == "icon" and self._is_in(thing, ("button", "tab"))):
            self._count(thing["kind"], thing, found)

    def _words(self, thing: Thing) -> None:
        seen = Edges.of(thing["seen"])
        found = [
            one for one in self.slices
            if one.sort in ("words", "click")
            and (thing["id"] in one.things or any(seen.is_within(box) for box in one.boxes))
        ]  # fmt: skip
        self._count("words", thing, found)

    def _role(self, thing: Thing) -> None:
        role, inside = (
            thing["role"],
            [t for t in self.things.values() if self._is_under(t, thing["id"])],
        )
        found = list(self._near(thing))
        if role == "logo":
            art = {t["id"] for t in inside if t["kind"] in ("icon", "picture")}
            found += [one for one in self.slices if art & one.things]
        if role == "hero":
            whole = Edges.of(thing["rect"])
            found += [one for one in self.slices if one.is_file and one.boxes[0].share(whole) > 0.9]
        self._count(role, thing, found)

    def _state(self, thing: Thing) -> None:
        state, owner = thing["state"], self.things[thing["parent"]]
        found = [
            one for one in self.slices
            if (state in one.states or state in one.why.lower())
            and (thing["id"] in one.things or one in list(self._near(owner)))
        ]  # fmt: skip
        self._count("state", thing, found)

    def _repeated(self, members: list[Thing]) -> None:
        first = members[0]
        if first["role"] in ("tab", "button") or first["kind"] in ("picture", "icon"):
            return

        def shows(one: Slice, member: Thing) -> bool:
            rect, whole = (Edges.of(member[key]) for key in ("rect", "whole_seen"))
            return any(
                box.is_within(rect, LOOSE) or box.is_near(rect, LOOSE) or box.is_near(whole, LOOSE)
                for box in one.boxes
            )

        kind = "card" if first["role"] == "card" else "rows"
        found = [
            one for one in self.slices
            if len(one.boxes) >= len(members) and all(shows(one, member) for member in members)
        ]  # fmt: skip
        self._count(kind, first, found)

    def _box(self, thing: Thing) -> None:
        facts, look = self.score.facts, thing["css"]
        said = self.css.get(thing["id"])
        in_words = any(thing["id"] in one.things and not one.is_file for one in self.slices)
        facts["called CSS"][said is not None or in_words] += 1
        if said is None:
            return
        flat, rounded = (
            re.search(r"flat colour (#\w{6})", said),
            re.search(r"rounded ([\d. ]+) px", said),
        )
        if look["background"].startswith("#") and not look["gradient"]:
            facts["colour"][bool(flat) and _is_color(flat[1], look["background"])] += 1  # type: ignore[index]
        if any(look["radius"]):
            radii = [float(radius) for radius in rounded[1].split()] if rounded else []
            radii = radii * 4 if len(radii) == 1 else radii
            wanted = zip(radii, look["radius"], strict=False)
            facts["corners"][len(radii) == 4 and all(abs(a - b) <= 1 for a, b in wanted)] += 1
        if look["border"]:
            line = re.search(r"border ([\d.]+) px (#\w{6})", said)
            facts["border"][bool(line) and abs(float(line[1]) - look["border"][0]) <= 0.5] += 1  # type: ignore[index]
        if look["shadow"]:
            facts["shadow"]["shadow" in said] += 1
        if look["gradient"]:
            angle = re.search(r"gradient at (\d+) degrees", said)
            wanted_angle = float(look["gradient"]["css"].split("deg")[0])
            facts["gradient"][bool(angle) and abs(float(angle[1]) - wanted_angle) <= 3] += 1  # type: ignore[index]

    def _is_some(self, one: Slice) -> bool:
        """Whether a slice that no count has asked for is of something all the same."""
        if one.sort == "words":
            return any(self.things[thing]["kind"] == "words" for thing in one.things)
        return any(
            one in list(self._near(thing)) for thing in self.things.values() if thing["role"]
        )

    def _is_in(self, thing: Thing, roles: tuple[str, ...]) -> bool:
        parent = self.things.get(thing["parent"])
        return parent is not None and (parent["role"] in roles or self._is_in(parent, roles))

    def _is_under(self, thing: Thing, other: str) -> bool:
        while thing["parent"]:
            if thing["parent"] == other:
                return True
            thing = self.things[thing["parent"]]
        return False


def _is_color(said: str, wanted: str) -> bool:
    return all(
        abs(int(said[at : at + 2], 16) - int(wanted[at : at + 2], 16)) <= 4 for at in (1, 3, 5)
    )


def _address(path: list[list[Any]]) -> str:
    """A layer's address as the program prints it: names with the number among those of one name."""
    parts = []
    for name, number in path:
        plain = re.sub(r"([\\/])", r"\\\1", name)
        parts.append(plain if number == 1 else f"{plain}#{number}")
    return "/".join(parts)


def drafted(folder: Path, mockup: Path, density: int) -> dict[str, Any]:
    """What the program drafts of a mockup, in a project of its own with the pages' fonts."""
    project = folder / "project"
    if not project.exists():
        _run("start", project.name, cwd=folder)
        for font in (folder / "fonts").iterdir():
            shutil.copy(font, project / "fonts")
    copy = project / "mockups" / mockup.name
    shutil.copy(mockup, copy)
    said = _run("draft", f"mockups/{mockup.name}", "--json", "--density", str(density), cwd=project)
    found: dict[str, Any] = json.loads(said)
    return found


def _run(*arguments: str, cwd: Path) -> str:
    command = [sys.executable, "-m", "riffler", *arguments]
    done = subprocess.run(command, cwd=cwd, capture_output=True, text=True, check=True)
    return str(done.stdout)


def main() -> None:
    """Write, draft, count, print."""
    parser = argparse.ArgumentParser()
    parser.add_argument("folder", type=Path)
    parser.add_argument("--seed", type=int, default=1)
    parser.add_argument("--nameless", action="store_true", help="call everything Layer N")
    parser.add_argument("--only", nargs="*")
    options = parser.parse_args()
    write_all(options.folder, options.seed, options.only, nameless=options.nameless)
    total = Score()
    for file in sorted(options.folder.glob("*.truth.json")):
        truth = json.loads(file.read_text(encoding="utf-8"))
        for form in ("ora", "svg"):
            mockup = file.with_name(f"{truth['page']['name']}.{form}")
            density = truth["page"]["density"] if form == "ora" else 1
            score = Page(truth, drafted(options.folder, mockup, density), form).judge()
            for missed in score.missed:
                print(f"{mockup.name}: {missed}")
            total.add(score)
    for title, counts in (
        ("found of", {kind: total.recall[kind] for kind in KINDS}),
        ("right of slices drafted as", total.precision), ("told rightly:", total.facts),
    ):  # fmt: skip
        for kind, counted in counts.items():
            share = 100 * counted[True] / max(1, counted.total())
            print(f"{title} {kind:10} {counted[True]:5} / {counted.total():<5} {share:5.1f} %")


if __name__ == "__main__":
    main()
