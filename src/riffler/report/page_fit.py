"""How well pages fit their mockups -> lines for the terminal, data, and a patch."""

from __future__ import annotations

import difflib
import io
from collections.abc import Sequence
from pathlib import Path
from typing import TYPE_CHECKING, Any

from riffler.files import as_typed
from riffler.plain import clean
from riffler.report import page_widths
from riffler.report.screen import Screen
from riffler.report.wording import plural, short

if TYPE_CHECKING:
    from riffler.fit.fault import Difference, Placed
    from riffler.fit.page_fit import FitFinding, PageFit
    from riffler.fit.remedies import Remedy
    from riffler.fit.widths import Trouble
    from riffler.geometry import Rect

#: Findings of a page that are shown unless all are wanted.
SHOWN = 20

#: Things that may be missing and are told one by one: more are not built yet.
FEW = 3

#: Letters of a text or a value that are shown.
LONG = 60


def show(screen: Screen, fits: Sequence[PageFit], within: float, *, show_all: bool) -> None:
    """The findings of each page, the worst first, and a verdict a page."""
    for number, fit in enumerate(fits):
        if number:
            screen.say("")
        screen.line(f"{fit.page} and {as_typed(fit.mockup)}, {fit.width:g} px wide")
        _show_findings(screen, fit, show_all=show_all)
        screen.line(verdict(fit, within))
        if fit.accepted:
            screen.say(f"{plural(len(fit.accepted), 'finding')} accepted in riffler.toml.")
    if any(fit.findings for fit in fits):
        key = next(fit.findings[0].key for fit in fits if fit.findings)
        screen.say("One that is meant: riffler.toml, [fit.accept]")
        screen.say(f'  "{clean(key)}" = "why"')


def _show_findings(screen: Screen, fit: PageFit, *, show_all: bool) -> None:
    lacking = [] if show_all else _lacking(fit.findings)
    rest = [finding for finding in fit.findings if finding not in lacking]
    shown = rest if show_all else rest[:SHOWN]
    for finding in shown:
        screen.line(f"  {clean(name_of(finding))}: {clean(', '.join(phrases(finding)))}")
        for line in causes(finding, fit):
            screen.line(f"      {clean(line)}")
    if lacking:
        many = plural(len(lacking), "thing")
        screen.line(f"  {many} of the mockup are not on the page yet: --all")
    if left := len(rest) - len(shown):
        screen.say(f"  And {plural(left, 'finding')} more: --all")


def _lacking(findings: Sequence[FitFinding]) -> Sequence[FitFinding]:
    """What the page has nowhere, where that is so much that it is not built yet."""
    lacking = [finding for finding in findings if finding.placed.is_missing]
    return lacking if len(lacking) > FEW else []


def verdict(fit: PageFit, within: float) -> str:
    """A page in one sentence."""
    text = f"{fit.fitting} of {fit.count} fit within {within:g} px"
    moved = [finding for finding in fit.findings if finding.off > 0]
    if moved:
        worst = max(moved, key=lambda finding: finding.off)
        text += f"; the worst: {name_of(worst)}, {_distance(worst.off)} off"
    return f"{text}."


def name_of(finding: FitFinding) -> str:
    """What a thing is called: a text by its words, others by the end of their layer's address."""
    thing = finding.placed.thing
    if thing.setting is not None and thing.setting.is_said:
        return f'"{_short(thing.setting.text)}"'
    return thing.name.rpartition("/")[2] or thing.kind


def _short(text: str) -> str:
    return short(text, LONG)


def causes(finding: FitFinding, fit: PageFit) -> list[str]:
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


def _settled(remedy: Remedy, fit: PageFit) -> str:
    if remedy.right is None:
        return ""
    return f"   (then {remedy.right} of {fit.count} lie right)"


def _place(remedy: Remedy) -> str:
    declaration = remedy.declaration
    return (
        f"{as_typed(_from_here(declaration.file))}:{declaration.line}"
        if declaration.file
        else f"line {declaration.line}"
    )


def _from_here(file: str) -> Path:
    path = Path(file)
    return path.relative_to(Path.cwd()) if path.is_relative_to(Path.cwd()) else path


def _short_rule(remedy: Remedy) -> str:
    declaration = remedy.declaration
    selector = declaration.selector.split(",")[0].strip()
    rule = f"{selector} {{ {declaration.name}: {_short(declaration.value)} }}"
    return f"{rule}  ->  {_short(remedy.value)}"


def phrases(finding: FitFinding) -> list[str]:
    """What is wrong with a thing, each in some words."""
    return [_phrase(difference, finding.placed) for difference in finding.faults]


def _phrase(difference: Difference, placed: Placed) -> str:
    wanted, found = _short(difference.wanted), _short(difference.found)
    plain = {
        "missing": "missing",
        "swapped": f"in the place of {difference.wanted.rpartition('/')[2]}",
        "another picture": "shows another picture",
        "words": f'reads "{found}"' if not wanted else f'reads "{found}" instead of "{wanted}"',
        "line breaks": _breaks(difference),
        "stretched": f"stretched to {found}",
        "covered": "covered by something that is not on it in the mockup",
        "moved": _moved(placed),
        "size": _resized(placed),
        "link": "plain words instead of a link",
        "gap": f"{found} of ground shows between it and {_end(wanted)}",
        "overlap": f"lies {found} over {_end(wanted)}",
        "page length": f"{found} high instead of {wanted}",
        "state": _state(difference),
    }
    if difference.fault.value in plain:
        return plain[difference.fault.value]
    if difference.fault.value == "font" and not wanted:
        return f"set in another font or weight than {found}"
    if difference.fault.value == "colour" and not wanted:
        return "in other colours"
    return f"{difference.fault.value} {_once(found)} instead of {_once(wanted)}"


def _end(name: str) -> str:
    return name.rpartition("/")[2]


def _state(difference: Difference) -> str:
    """What a state shows; `wanted` is its name, and its colour where it has another."""
    name, _, color = difference.wanted.partition(": ")
    return (
        f"in {name} {difference.found} instead of {color}"
        if color
        else f"in {name} {difference.found}"
    )


def _once(text: str) -> str:
    """Four equal corners as one."""
    parts = text.removesuffix(" px").split()
    equal = text.endswith(" px") and len(parts) == 4 and len(set(parts)) == 1
    return f"{parts[0]}px" if equal else text


def _breaks(difference: Difference) -> str:
    counts = [
        int(text) if text.isdigit() else text.count(" / ") + 1
        for text in (difference.wanted, difference.found)
    ]
    if counts[0] == counts[1]:
        return "lines break elsewhere"
    return f"{plural(counts[1], 'line')} instead of {counts[0]}"


def _moved(placed: Placed) -> str:
    down = f"{_distance(placed.dy)} too {'low' if placed.dy > 0 else 'high'}"
    across = f"{_distance(placed.dx)} too far {'right' if placed.dx > 0 else 'left'}"
    texts = [(abs(placed.dy), down), (abs(placed.dx), across)]
    return ", ".join(text for by, text in texts if by > 0.5)


def _resized(placed: Placed) -> str:
    across = f"{_distance(placed.dw)} too {'wide' if placed.dw > 0 else 'narrow'}"
    down = f"{_distance(placed.dh)} too {'tall' if placed.dh > 0 else 'short'}"
    return ", ".join(text for by, text in ((placed.dw, across), (placed.dh, down)) if abs(by) > 0.5)


def _distance(by: float) -> str:
    by = abs(by)
    return f"{round(by):g} px" if abs(by - round(by)) < 0.1 else f"{by:.1f} px"


def as_data(
    fits: Sequence[PageFit], within: float, troubles: Sequence[Trouble] = ()
) -> dict[str, Any]:
    """What is printed as JSON."""
    return {
        "within": within,
        "pages": [
            {
                "page": fit.page,
                "mockup": as_typed(fit.mockup),
                "width": fit.width,
                "density": fit.wanted.density,
                "things": fit.count,
                "fitting": fit.fitting,
                "wanted_height": fit.wanted.height,
                "height": fit.seen.height,
                "findings": [_finding(finding) for finding in fit.findings],
                "accepted": [
                    {**_finding(finding), "reason": reason} for finding, reason in fit.accepted
                ],
            }
            for fit in fits
        ],
        "widths": list(map(page_widths.as_data, troubles)),
    }


def _finding(finding: FitFinding) -> dict[str, Any]:
    placed = finding.placed
    data: dict[str, Any] = {
        "key": finding.key,
        "thing": placed.thing.name,
        "kind": placed.thing.kind.value,
        "layers": list(placed.thing.layers),
        "at": _box(placed.thing.box),
        "element": finding.selector,
        "faults": [
            {
                "fault": difference.fault.value,
                "wanted": difference.wanted,
                "found": difference.found,
            }
            for difference in finding.faults
        ],
        "says": ", ".join(phrases(finding)),
        **{name: round(getattr(placed, name), 2) for name in ("dx", "dy", "dw", "dh")},
        "also": [
            {"thing": other_placed.thing.name, "at": _box(other_placed.thing.box)}
            for other_placed in finding.also
        ],
        "followers": [
            {
                "thing": other_placed.thing.name,
                "at": _box(other_placed.thing.box),
                "dx": round(other_placed.dx, 2),
                "dy": round(other_placed.dy, 2),
                "dw": round(other_placed.dw, 2),
                "dh": round(other_placed.dh, 2),
            }
            for other_placed in finding.root.followers
        ],
    }
    if finding.remedy is not None:
        declaration = finding.remedy.declaration
        data["remedy"] = {
            "file": as_typed(_from_here(declaration.file)),
            "line": declaration.line,
            "selector": declaration.selector,
            "property": declaration.name,
            "value": declaration.value,
            "right": finding.remedy.value,
            "fits_then": finding.remedy.right,
        }
    return data


def _box(box: Rect) -> dict[str, float]:
    sides = {"x": box.x, "y": box.y, "width": box.width, "height": box.height}
    return {name: round(value, 2) for name, value in sides.items()}


def patch(fits: Sequence[PageFit]) -> str:
    """The remedies as a patch that `git apply` takes, from the current folder."""
    edits: dict[str, list[Remedy]] = {}
    for fit in fits:
        for finding in fit.findings:
            remedy = finding.remedy
            if remedy is not None and Path(remedy.declaration.file).is_file():
                edits.setdefault(remedy.declaration.file, []).append(remedy)
    return "".join(_patched(Path(file), remedies) for file, remedies in sorted(edits.items()))


def _patched(path: Path, remedies: Sequence[Remedy]) -> str:
    text = path.read_bytes().decode(errors="surrogateescape")
    before = list(io.StringIO(text, newline="\n"))  # whatever a line ends with stays
    after = list(before)
    for remedy in remedies:
        declaration, at = remedy.declaration, remedy.declaration.line - 1
        begin = after[at].find(declaration.name) if at < len(after) else -1
        found = after[at].find(declaration.value, begin) if begin >= 0 else -1
        if found >= 0:
            line = after[at]
            after[at] = line[:found] + remedy.value + line[found + len(declaration.value) :]
    name = as_typed(_from_here(str(path)))
    return "".join(difflib.unified_diff(before, after, f"a/{name}", f"b/{name}"))
