"""What was cut or built -> the short tables of it."""

from __future__ import annotations

from pathlib import Path

from riffler.cutting.single import SingleCut
from riffler.files import as_typed
from riffler.formats import FORMATS
from riffler.output.asset import Asset, CopyAsset, CutAsset, IconAsset, PageAsset
from riffler.output.publish import Published
from riffler.report.screen import Column, Screen
from riffler.report.wording import kilobytes, pixels, plural

_CUT = (
    Column("slice", style="bold"),
    Column("state"),
    Column("pixels", is_right=True),
    Column("on the page", is_right=True),
    Column("format"),
    Column("bytes", is_right=True),
    Column("file"),
    Column(""),
)

_BUILT = (Column("file", style="bold"), Column("kind"), Column("bytes", True), Column(""))


def show_cut(screen: Screen, published: Published, out: Path, *, is_dry: bool) -> None:
    """The table of all files of a cut, and one line that sums it up."""
    changed = {asset.file for asset in published.written}
    rows = [_row(asset, asset.file in changed) for asset in sorted(published.assets, key=_order)]
    if rows and not screen.is_quiet:
        screen.table(_CUT, rows)
        screen.say("")
    total = kilobytes(sum(asset.bytes for asset in published.assets))
    _sum_up(screen, published, f" ({total})", out, is_dry=is_dry)
    if published.words:
        regions = plural(len(published.words), "region")
        screen.say(f"Measured {regions} of live text: size, place and ground for the style sheet.")


def show_build(screen: Screen, published: Published, out: Path, *, is_dry: bool) -> None:
    """The table of all files of a build, what became of them, and what to open."""
    changed = {asset.file for asset in published.written}
    assets = sorted(published.assets, key=lambda asset: (_ORDER.index(_use(asset)), asset.file))
    if assets and not screen.is_quiet:
        rows = [
            (asset.file, _use(asset), kilobytes(asset.bytes),
             "new" if asset.file in changed else "")
            for asset in assets
        ]  # fmt: skip
        screen.table(_BUILT, rows)
        screen.say("")
    _sum_up(screen, published, "", out, is_dry=is_dry)
    pages = [asset.file for asset in assets if isinstance(asset, PageAsset)]
    if pages and not is_dry:
        first = "index.html" if "index.html" in pages else pages[0]
        screen.say(f"Open {as_typed(out / first)} in a browser.")


def _sum_up(screen: Screen, published: Published, total: str, out: Path, *, is_dry: bool) -> None:
    verb, removed = ("Would write", "would remove") if is_dry else ("Wrote", "removed")
    gone = f", {removed} {len(published.removed)}" if published.removed else ""
    files = plural(len(published.assets), "file")
    screen.say(f"{verb} {len(published.written)} of {files}{total} in {as_typed(out)}{gone}.")


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


def show_single(screen: Screen, done: SingleCut, mockup: Path) -> None:
    """What was cut from a mockup by itself."""
    size = pixels(done.pixels.width, done.pixels.height)
    screen.say(
        f"Wrote {as_typed(done.file)}: {size} px, {kilobytes(done.bytes)}, "
        f"from {done.place.x}, {done.place.y} of {mockup}."
    )


#: What files of a build are for, in the order in which they are listed.
_ORDER = ("page", "style", "font")


def _use(asset: Asset) -> str:
    return asset.use if isinstance(asset, CopyAsset) else asset.kind


def _order(asset: Asset) -> tuple[str, str, bool, str]:
    state = asset.state if isinstance(asset, CutAsset) else None
    return asset.slice or "", state or "", isinstance(asset, IconAsset), asset.file


def _row(asset: Asset, is_new: bool) -> list[str]:
    state = (asset.state if isinstance(asset, CutAsset) else None) or ""
    form = asset.format if isinstance(asset, CutAsset | IconAsset) else asset.kind
    label = FORMATS[form].label if form in FORMATS else form.upper()
    return [
        asset.slice or "", state, _pixels(asset), _css(asset), label, kilobytes(asset.bytes),
        asset.file, "new" if is_new else "",
    ]  # fmt: skip


def _pixels(asset: Asset) -> str:
    return pixels(asset.pixels.width, asset.pixels.height) if isinstance(asset, CutAsset) else ""


def _css(asset: Asset) -> str:
    if not isinstance(asset, CutAsset):
        return ""
    return pixels(round(asset.css.width, 3), round(asset.css.height, 3))
