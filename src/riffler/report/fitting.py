"""How well pages fit their mockups -> lines for the terminal, data, and a patch."""

from __future__ import annotations

import difflib
import io
from collections.abc import Sequence
from pathlib import Path
from typing import TYPE_CHECKING, Any

from riffler.files import as_typed
from riffler.plain import clean
from riffler.report.screen import Screen
from riffler.report.wording import plural

if TYPE_CHECKING:
    from riffler.fit.fault import Difference, Placed
    from riffler.fit.fitting import Finding, Fit
    from riffler.fit.remedies import Remedy
    from riffler.fit.widths import Trouble
    from riffler.geometry import Rect

#: Findings of a page that are shown unless all are wanted.
SHOWN = 20

#: Letters of a text or a value that are shown.
LONG = 60


def show(screen: Screen, fits: Sequence[Fit], within: float, *, every: bool) -> None:
    """The findings of each page, the worst first, and a verdict a page."""
    for number, one in enumerate(fits):
        if number:
            screen.say("")
        screen.line(f"{one.page} and {as_typed(one.mockup)}, {one.width:g} px wide")
        shown = one.findings if every else one.findings[:SHOWN]
        for finding in shown:
            screen.line(f"  {clean(name_of(finding))}: {clean(', '.join(phrases(finding)))}")
            for line in causes(finding, one):
                screen.line(f"      {clean(line)}")
        left = len(one.findings) - len(shown)
        if left:
            screen.say(f"  And {plural(left, 'finding')} more: --all")
        screen.line(verdict(one, within))
        if one.accepted:
            screen.say(f"{plural(len(one.accepted), 'finding')} accepted in riffler.toml.")
    if any(one.findings for one in fits):
        key = next(one.findings[0].key for one in fits if one.findings)
        screen.say("One that is meant: riffler.toml, [fit.accept]")
        screen.say(f'  "{clean(key)}" = "why"')


def show_widths(screen: Screen, found: Sequence[Trouble], widths: Sequence[int]) -> None:
    """What breaks at some widths, by width."""
    for width in widths:
        here = [one for one in found if one.width == width]
        for one in here:
            by = f" by {one.by:g} px" if one.kind != "columns did not fall" else ""
            screen.line(f"{clean(one.page)} at {width} px: {one.kind}{by}: {clean(one.selector)}")
        if not here:
            screen.say(f"At {width} px: nothing breaks.")


def verdict(fit: Fit, within: float) -> str:
    """A page in one sentence."""
    said = f"{fit.fitting} of {fit.count} fit within {within:g} px"
    moved = [one for one in fit.findings if one.off > 0]
    if moved:
        worst = max(moved, key=lambda one: one.off)
        said += f"; the worst: {name_of(worst)}, {_distance(worst.off)} off"
    return f"{said}."


def name_of(finding: Finding) -> str:
    """What a thing is called: a text by its words, others by the end of their layer's address."""
    thing = finding.placed.thing
    if thing.setting is not None and thing.setting.is_said:
        return f'"{_short(thing.setting.text)}"'
    return thing.name.rpartition("/")[2] or thing.kind


def _short(text: str) -> str:
    return text if len(text) <= LONG else f"{text[: LONG - 1]}…"


def causes(finding: Finding, fit: Fit) -> list[str]:
    """What follows from it, and the declaration that would put it right or the element."""
    lines = []
    if finding.also:
        lines.append(f"and {plural(len(finding.also), 'other')} the same way")
    if finding.root.followers:
        count = len(finding.root.followers)
        lines.append(f"{plural(count, 'other')} only {'follow' if count > 1 else 'follows'}")
    if finding.remedy is not None:
        settled = _settled(finding.remedy, fit)
        lines.append(f"{_place(finding.remedy)}  {_short_rule(finding.remedy)}{settled}")
    elif finding.selector:
        lines.append(f"at {finding.selector}")
    return lines


def _settled(remedy: Remedy, fit: Fit) -> str:
    if remedy.right is None:
        return ""
    return f"   (then {remedy.right} of {fit.count} lie right)"


def _place(remedy: Remedy) -> str:
    one = remedy.declaration
    return f"{as_typed(_from_here(one.file))}:{one.line}" if one.file else f"line {one.line}"


def _from_here(file: str) -> Path:
    path = Path(file)
    return path.relative_to(Path.cwd()) if path.is_relative_to(Path.cwd()) else path


def _short_rule(remedy: Remedy) -> str:
    one = remedy.declaration
    selector = one.selector.split(",")[0].strip()
    return f"{selector} {{ {one.name}: {_short(one.value)} }}  ->  {_short(remedy.value)}"


def phrases(finding: Finding) -> list[str]:
    """What is wrong with a thing, each in some words."""
    return [_phrase(one, finding.placed) for one in finding.faults]


def _phrase(one: Difference, placed: Placed) -> str:
    wanted, found = _short(one.wanted), _short(one.found)
    plain = {
        "missing": "missing",
        "swapped": f"in the place of {one.wanted.rpartition('/')[2]}",
        "another picture": "shows another picture",
        "words": f'reads "{found}"' if not wanted else f'reads "{found}" instead of "{wanted}"',
        "line breaks": _breaks(one),
        "stretched": f"stretched to {found}",
        "covered": "covered by something that is not on it in the mockup",
        "moved": _moved(placed),
        "size": _resized(placed),
        "gap": f"{found} of ground shows between it and {_end(wanted)}",
        "overlap": f"lies {found} over {_end(wanted)}",
        "page length": f"{found} high instead of {wanted}",
        "state": _state(one),
    }
    if one.fault.value in plain:
        return plain[one.fault.value]
    if one.fault.value == "font" and not wanted:
        return f"set in another font or weight than {found}"
    if one.fault.value == "colour" and not wanted:
        return "in other colours"
    return f"{one.fault.value} {_once(found)} instead of {_once(wanted)}"


def _end(name: str) -> str:
    return name.rpartition("/")[2]


def _state(one: Difference) -> str:
    """What a state shows; `wanted` is its name, and its colour where it has another."""
    name, _, color = one.wanted.partition(": ")
    return f"in {name} {one.found} instead of {color}" if color else f"in {name} {one.found}"


def _once(said: str) -> str:
    """Four equal corners as one."""
    parts = said.removesuffix(" px").split()
    equal = said.endswith(" px") and len(parts) == 4 and len(set(parts)) == 1
    return f"{parts[0]}px" if equal else said


def _breaks(one: Difference) -> str:
    counts = [
        int(said) if said.isdigit() else said.count(" / ") + 1 for said in (one.wanted, one.found)
    ]
    if counts[0] == counts[1]:
        return "lines break elsewhere"
    return f"{plural(counts[1], 'line')} instead of {counts[0]}"


def _moved(placed: Placed) -> str:
    down = f"{_distance(placed.dy)} too {'low' if placed.dy > 0 else 'high'}"
    across = f"{_distance(placed.dx)} too far {'right' if placed.dx > 0 else 'left'}"
    said = [(abs(placed.dy), down), (abs(placed.dx), across)]
    return ", ".join(text for by, text in said if by > 0.5)


def _resized(placed: Placed) -> str:
    across = f"{_distance(placed.dw)} too {'wide' if placed.dw > 0 else 'narrow'}"
    down = f"{_distance(placed.dh)} too {'tall' if placed.dh > 0 else 'short'}"
    return ", ".join(text for by, text in ((placed.dw, across), (placed.dh, down)) if abs(by) > 0.5)


def _distance(by: float) -> str:
    by = abs(by)
    return f"{round(by):g} px" if abs(by - round(by)) < 0.1 else f"{by:.1f} px"


def as_data(fits: Sequence[Fit], within: float, found: Sequence[Trouble] = ()) -> dict[str, Any]:
    """What is printed as JSON."""
    return {
        "within": within,
        "pages": [
            {
                "page": one.page,
                "mockup": as_typed(one.mockup),
                "width": one.width,
                "density": one.wanted.density,
                "things": one.count,
                "fitting": one.fitting,
                "wanted_height": one.wanted.height,
                "height": one.seen.height,
                "findings": [_finding(finding) for finding in one.findings],
                "accepted": [
                    {**_finding(finding), "reason": reason} for finding, reason in one.accepted
                ],
            }
            for one in fits
        ],
        "widths": [
            {
                "page": one.page,
                "width": one.width,
                "kind": one.kind,
                "element": one.selector,
                "by": one.by,
            }
            for one in found
        ],
    }


def _finding(one: Finding) -> dict[str, Any]:
    placed = one.placed
    data: dict[str, Any] = {
        "key": one.key,
        "thing": placed.thing.name,
        "kind": placed.thing.kind.value,
        "layers": list(placed.thing.layers),
        "at": _box(placed.thing.box),
        "element": one.selector,
        "faults": [
            {"fault": each.fault.value, "wanted": each.wanted, "found": each.found}
            for each in one.faults
        ],
        "says": ", ".join(phrases(one)),
        **{name: round(getattr(placed, name), 2) for name in ("dx", "dy", "dw", "dh")},
        "also": [{"thing": other.thing.name, "at": _box(other.thing.box)} for other in one.also],
        "followers": [
            {
                "thing": other.thing.name,
                "at": _box(other.thing.box),
                "dx": round(other.dx, 2),
                "dy": round(other.dy, 2),
                "dw": round(other.dw, 2),
                "dh": round(other.dh, 2),
            }
            for other in one.root.followers
        ],
    }
    if one.remedy is not None:
        declaration = one.remedy.declaration
        data["remedy"] = {
            "file": as_typed(_from_here(declaration.file)),
            "line": declaration.line,
            "selector": declaration.selector,
            "property": declaration.name,
            "value": declaration.value,
            "right": one.remedy.value,
            "fits_then": one.remedy.right,
        }
    return data


def _box(box: Rect) -> dict[str, float]:
    sides = {"x": box.x, "y": box.y, "width": box.width, "height": box.height}
    return {name: round(value, 2) for name, value in sides.items()}


def patch(fits: Sequence[Fit]) -> str:
    """The remedies as a patch that `git apply` takes, from the current folder."""
    edits: dict[str, list[Remedy]] = {}
    for one in fits:
        for finding in one.findings:
            remedy = finding.remedy
            if remedy is not None and Path(remedy.declaration.file).is_file():
                edits.setdefault(remedy.declaration.file, []).append(remedy)
    return "".join(_patched(Path(file), remedies) for file, remedies in sorted(edits.items()))


def _patched(path: Path, remedies: Sequence[Remedy]) -> str:
    text = path.read_bytes().decode(errors="surrogateescape")
    before = list(io.StringIO(text, newline="\n"))  # whatever a line ends with stays
    after = list(before)
    for remedy in remedies:
        one, at = remedy.declaration, remedy.declaration.line - 1
        begin = after[at].find(one.name) if at < len(after) else -1
        found = after[at].find(one.value, begin) if begin >= 0 else -1
        if found >= 0:
            line = after[at]
            after[at] = line[:found] + remedy.value + line[found + len(one.value) :]
    name = as_typed(_from_here(str(path)))
    return "".join(difflib.unified_diff(before, after, f"a/{name}", f"b/{name}"))
