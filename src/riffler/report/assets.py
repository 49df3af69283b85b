"""Assets -> the short table of what was cut."""

from __future__ import annotations

from riffler.formats import FORMATS
from riffler.jobs.ledger import Asset
from riffler.jobs.publish import Published
from riffler.report.screen import Column, Screen, kilobytes, pixels, plural

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


def show_cut(screen: Screen, published: Published, out: str, *, is_dry: bool) -> None:
    """The table of all files of a cut, and one line that sums it up."""
    changed = {asset.file for asset in published.written}
    assets = [*published.written, *published.unchanged]
    rows = [_row(asset, asset.file in changed) for asset in sorted(assets, key=_order)]
    if rows and not screen.is_quiet:
        screen.table(_COLUMNS, rows)
        screen.say("")
    total = kilobytes(sum(asset.bytes for asset in assets))
    verb = "Would write" if is_dry else "Wrote"
    removed = f", {'would remove' if is_dry else 'removed'} {len(published.removed)}"
    screen.say(
        f"{verb} {len(published.written)} of {plural(len(assets), 'file')} ({total}) in {out}"
        f"{removed if published.removed else ''}."
    )
    if published.words:
        regions = plural(len(published.words), "region")
        screen.say(f"Measured {regions} of live text: size, place and ground for the style sheet.")


def show_changed(screen: Screen, published: Published) -> None:
    """A line for each file that came or went, for who watches."""
    for asset in sorted(published.written, key=_order):
        size = f"{pixels(asset.pixels.width, asset.pixels.height)} px, " if asset.pixels else ""
        screen.say(f"wrote {asset.file}: {size}{kilobytes(asset.bytes)}")
    for asset in published.removed:
        screen.say(f"removed {asset.file}")
    same = len(published.unchanged)
    if not (published.written or published.removed):
        screen.say(f"nothing to write: {plural(same, 'file')} as they should be")


def _order(asset: Asset) -> tuple[str, str, str, str]:
    role = asset.role if asset.role == "favicon" else ""
    return asset.slice, asset.state, role, asset.file


def _row(asset: Asset, is_new: bool) -> list[str]:
    label = FORMATS[asset.format].label if asset.format in FORMATS else asset.format.upper()
    return [
        asset.slice,
        asset.state,
        pixels(asset.pixels.width, asset.pixels.height) if asset.pixels else "",
        pixels(*(round(side, 3) for side in asset.css)) if asset.css else "",
        label,
        kilobytes(asset.bytes),
        asset.file,
        "new" if is_new else "",
    ]
