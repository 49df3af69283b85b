"""What was cut, as the ledger writes it -> the short table of it.

Begins with data rather than with assets, so that a run that finds nothing to do loads no more.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator, Mapping, Sequence
from pathlib import Path
from typing import Any, TypeAlias

from riffler.cutting.unchanged import unchanged
from riffler.files import as_typed
from riffler.formats import FORMATS, superseded
from riffler.project.places import CUTS, root_of
from riffler.report.screen import Column, Screen
from riffler.report.wording import kilobytes, pixels, plural

Written: TypeAlias = Mapping[str, Any]
"""An asset as the ledger writes it."""

#: Names that a sentence lists.
FEW = 6

_COLUMNS = (
    Column("slice", style="bold"),
    Column("state"),
    Column("pixels", is_right=True),
    Column("on the page", is_right=True),
    Column("format"),
    Column("bytes", is_right=True),
    Column("file"),
    Column(""),
)


def show_cut(
    screen: Screen, data: Mapping[str, Any], out: Path, *, is_dry: bool, is_all: bool = False
) -> None:
    """The table of the files that a cut wrote, or of all, what it sums up to, and what comes next.

    `data` is what `Published.as_data` gives.
    """
    if screen.json(CUTS, data):
        return
    if not any(data.values()):
        screen.say("There is nothing to cut: no slices in any cutlist.")
        return
    _list(screen, data, is_all=is_all)
    for asset in data["removed"]:
        screen.say(f"{'Would remove' if is_dry else 'Removed'} {asset['file']}.")
    assets = [*data["written"], *data["unchanged"]]
    total = kilobytes(sum(asset["bytes"] for asset in assets))
    sum_up(screen, data, f" ({total})", out, is_dry=is_dry)
    if pending := data.get("pending"):
        count = plural(len(pending), "picture")
        screen.say(f"Would make {count} anew: {listed([_named(one) for one in pending])}.")
    if data["words"]:
        regions = plural(len(data["words"]), "region")
        screen.say(f"Measured {regions} of live text: size, place and ground for the style sheet.")
    for line in _left_out(data):
        screen.say(line)
    if not is_dry and screen.command == "cut":
        screen.say("Next: riffler build")


def _left_out(data: Mapping[str, Any]) -> Iterator[str]:
    """What was asked for and serves nobody: formats out of reach, and those that are too large."""
    sizes: dict[tuple[str, str, str], Counter[str]] = {}
    without: dict[str, list[str]] = {}
    new = {_name(asset) for asset in data["written"]}
    for asset in [*data["written"], *data["unchanged"]]:
        if asset["kind"] != "cut" or _name(asset) not in new:
            continue
        name = asset["slice"]
        key = (name, asset.get("state", ""), asset.get("when", ""))
        sizes.setdefault(key, Counter())[asset["format"]] += asset["bytes"]
        for form in filter(None, asset["setting"].get("without", "").split(", ")):
            without.setdefault(form, []).append(name)
    for form, names in without.items():
        why = "is left out, for it loses too much at any setting"
        yield f"{FORMATS[form].label} {why}: {listed(names)}."
    larger: dict[tuple[str, str], list[str]] = {}
    for (name, _, _), result in sizes.items():
        for pair in superseded(result).items():
            larger.setdefault(pair, []).append(name)
    for (form, other), names in larger.items():
        label, wider = FORMATS[form].label, FORMATS[other].label
        yield f"Pages leave out the {label}, since the {wider} is no larger: {listed(names)}."


def _named(pending: Written) -> str:
    """A picture that is to be made, with what tells it from others of its slice."""
    more = [pending[key] for key in ("state", "size") if key in pending]
    return f"{pending['slice']} ({', '.join(more)})" if more else str(pending["slice"])


def listed(names: Sequence[str]) -> str:
    """Names, each once, the first few of them."""
    different = list(dict.fromkeys(names))
    more = f" and {len(different) - FEW} more" if len(different) > FEW else ""
    return ", ".join(different[:FEW]) + more


def _list(screen: Screen, data: Mapping[str, Any], *, is_all: bool) -> None:
    """The table of the files that are new, and of the others where all are wanted."""
    new = {asset["file"] for asset in data["written"]}
    listed = sorted([*data["written"], *(data["unchanged"] if is_all else ())], key=_order)
    if listed and not screen.is_quiet:
        screen.table(_COLUMNS, [_row(asset, asset["file"] in new) for asset in listed])
        screen.say("")


def show_unchanged(screen: Screen, *, is_all: bool = False) -> bool:
    """Show what a run would find as it is; whether it would find nothing else.

    Loads neither settings nor anything that draws: this is what people run most often.
    """
    root = root_of(Path.cwd())
    found_unchanged = unchanged(root) if root is not None else None
    if found_unchanged is not None:
        show_cut(screen, found_unchanged.data, found_unchanged.out, is_dry=False, is_all=is_all)
    return found_unchanged is not None


def sum_up(screen: Screen, data: Mapping[str, Any], total: str, out: Path, *, is_dry: bool) -> None:
    """How many files were written of how many, and where."""
    verb, removed = ("Would write", "would remove") if is_dry else ("Wrote", "removed")
    written, gone = len(data["written"]), len(data["removed"])
    files = plural(written + len(data["unchanged"]), "file")
    last = f", {removed} {gone}" if gone else ""
    screen.say(f"{verb} {written} of {files}{total} in {as_typed(out)}{last}.")


#: What files are called that are no pictures.
OTHERS = {"webmanifest": "JSON", "style": "CSS", "symbols": "SVG", "loader": "SVG"}


def _order(asset: Written) -> tuple[bool, str, str, str]:
    is_shared = asset["kind"] != "cut"  # of the whole site: after the slices
    return is_shared, "" if is_shared else _name(asset), asset.get("state", ""), asset["file"]


def _name(asset: Written) -> str:
    """The slice that a file is of, or what it is where it is of none."""
    return str(asset.get("slice") or asset.get("name") or asset["kind"])


def _row(asset: Written, is_new: bool) -> list[str]:
    form, drawn, css = asset.get("format", asset["kind"]), asset.get("pixels"), asset.get("css")
    return [
        _name(asset),
        asset.get("state", ""),
        pixels(drawn["width"], drawn["height"]) if drawn else "",
        pixels(round(css["width"], 3), round(css["height"], 3)) if css else "",
        FORMATS[form].label if form in FORMATS else OTHERS.get(form, form.upper()),
        kilobytes(asset["bytes"]),
        asset["file"],
        "new" if is_new else "",
    ]
