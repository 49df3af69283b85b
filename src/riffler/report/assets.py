"""What was built or cut, as assets -> the short tables and lines of it."""

from __future__ import annotations

from collections.abc import Sequence
from pathlib import Path
from typing import TYPE_CHECKING

from riffler.files import as_typed
from riffler.output.asset import Asset, CopyAsset, CutAsset, PageAsset
from riffler.output.publish import Published
from riffler.report.cuts import listed, sum_up
from riffler.report.screen import Column, Screen
from riffler.report.wording import kilobytes, pixels, plural

if TYPE_CHECKING:  # it loads all that drawing needs
    from riffler.cutting.single import SingleCut

_BUILT = (Column("file", style="bold"), Column("kind"), Column("bytes", True), Column(""))


def show_build(screen: Screen, published: Published, out: Path, *, is_dry: bool) -> None:
    """The table of all files of a build, what became of them, and what to open."""
    changed = {asset.file for asset in published.written}
    assets = sorted(published.assets, key=lambda asset: (_ORDER.index(_use(asset)), asset.file))
    if assets and not screen.is_quiet:
        rows = [
            (
                asset.file,
                _use(asset),
                kilobytes(asset.bytes),
                "new" if asset.file in changed else "",
            )
            for asset in assets
        ]
        screen.table(_BUILT, rows)
        screen.say("")
    sum_up(screen, published.as_data(), "", out, is_dry=is_dry)
    pages = [asset.file for asset in assets if isinstance(asset, PageAsset)]
    if pages and not is_dry:
        first = "index.html" if "index.html" in pages else pages[0]
        screen.say(f"Open {as_typed(out / first)} in a browser.")


def show_stale(screen: Screen, names: Sequence[str]) -> None:
    """The slices whose files are not what a cut would make now."""
    if names:
        screen.say(f"Changed since they were cut: {listed(names)}.")
        screen.say("Next: riffler build --cut")


def show_changed(screen: Screen, published: Published) -> None:
    """A line for each file that came or went, for who watches."""
    for asset in sorted(published.written, key=_order):
        size = f"{_pixels(asset)} px, " if _pixels(asset) else ""
        screen.say(f"wrote {asset.file}: {size}{kilobytes(asset.bytes)}")
    for asset in published.removed:
        screen.say(f"removed {asset.file}")
    same = len(published.unchanged)
    if not (published.written or published.removed):
        screen.say(f"nothing to write: {plural(same, 'file')} as they should be")


def show_single(screen: Screen, single_cut: SingleCut, mockup: Path) -> None:
    """What was cut from a mockup by itself."""
    size = pixels(single_cut.pixels.width, single_cut.pixels.height)
    screen.say(
        f"Wrote {as_typed(single_cut.file)}: {size} px, {kilobytes(single_cut.bytes)}, "
        f"from {single_cut.place.x}, {single_cut.place.y} of {mockup}."
    )


#: What files of a build are for, in the order in which they are listed.
_ORDER = ("page", "style", "script", "font")


def _use(asset: Asset) -> str:
    return asset.use if isinstance(asset, CopyAsset) else asset.kind


def _order(asset: Asset) -> tuple[str, str, str]:
    state = asset.state if isinstance(asset, CutAsset) else None
    return asset.slice or "", state or "", asset.file


def _pixels(asset: Asset) -> str:
    return pixels(asset.pixels.width, asset.pixels.height) if isinstance(asset, CutAsset) else ""
