"""`riffler mark`: guides and slices from the terminal, written into the cutlist."""

from __future__ import annotations

import math
from typing import TYPE_CHECKING, Annotated, Any

import typer

from riffler.cli import completing
from riffler.cli.command import Command, DryRun
from riffler.errors import RifflerError
from riffler.report.screen import Screen

if TYPE_CHECKING:
    from riffler.plan.wish import Marked, Wish

#: Headings of the help, in the order in which people need them.
BOX, ROW, LOOKS, PAGE, GUIDES, EDIT = (
    "Where a slice is",
    "Rows of slices",
    "What shows in it",
    "What becomes of it",
    "Guides and grids",
    "The cutlist",
)


def _option(
    group: str, name: str, metavar: str, text: str, offer: completing.Offer | None = None
) -> Any:  # noqa: ANN401 - as Typer's own
    return typer.Option(
        name, metavar=metavar, help=text, rich_help_panel=group, autocompletion=offer
    )


def mark(
    screen: Screen,
    name: Annotated[
        str,
        typer.Argument(
            metavar="NAME", help="The guide, grid or slice.", autocompletion=completing.names
        ),
    ],
    at: Annotated[str, _option(BOX, "--at", "X,Y,W,H", "Place and size.")] = "",
    x: Annotated[str, _option(BOX, "--x", "LEFT,RIGHT", "Numbers, guides, cells, sums.")] = "",
    y: Annotated[str, _option(BOX, "--y", "TOP,BOTTOM", "The same, downwards.")] = "",
    around: Annotated[
        list[str] | None,
        _option(BOX, "--around", "LAYER", "Around what a layer paints.", completing.layers),
    ] = None,
    grow: Annotated[int | None, _option(BOX, "--grow", "PX", "More on every side.")] = None,
    like: Annotated[
        str, _option(ROW, "--like", "SLICE", "The box of another slice,", completing.slices)
    ] = "",
    by: Annotated[str, _option(ROW, "--by", "X,Y", "so far right and down from it,")] = "",
    nth: Annotated[int | None, _option(ROW, "--nth", "N", "or the n-th of its row.")] = None,
    times: Annotated[int | None, _option(ROW, "--times", "N", "Repeat the box,")] = None,
    step: Annotated[str, _option(ROW, "--step", "X,Y", "so far from each to the next.")] = "",
    only: Annotated[
        list[str] | None, _option(LOOKS, "--only", "LAYER", "Show it alone.", completing.layers)
    ] = None,
    show: Annotated[
        list[str] | None, _option(LOOKS, "--show", "LAYER", "Show it, too.", completing.layers)
    ] = None,
    hide: Annotated[
        list[str] | None, _option(LOOKS, "--hide", "LAYER", "Hide it.", completing.layers)
    ] = None,
    state: Annotated[
        str,
        _option(LOOKS, "--state", "STATE", "For the slice's state so called.", completing.states),
    ] = "",
    role: Annotated[
        str, _option(PAGE, "--role", "ROLE", "What becomes of it.", completing.roles)
    ] = "",
    save: Annotated[
        str, _option(PAGE, "--save", "FORMATS", "For example png,jpeg.", completing.formats)
    ] = "",
    alt: Annotated[str | None, _option(PAGE, "--alt", "TEXT", "Alternative text.")] = None,
    link: Annotated[
        str, _option(PAGE, "--link", "TARGET", "Page, address or #part.", completing.pages)
    ] = "",
    group: Annotated[
        str, _option(PAGE, "--group", "GROUP", "Whose settings it shares.", completing.groups)
    ] = "",
    settings: Annotated[
        list[str] | None, _option(PAGE, "--set", "KEY=VALUE", "Any other key, as TOML.")
    ] = None,
    guide_x: Annotated[str, _option(GUIDES, "--guide-x", "EDGE", "A guide down the mockup.")] = "",
    guide_y: Annotated[str, _option(GUIDES, "--guide-y", "EDGE", "A guide across it.")] = "",
    columns: Annotated[
        int | None, _option(GUIDES, "--columns", "N", "A grid of so many columns.")
    ] = None,
    rows: Annotated[int | None, _option(GUIDES, "--rows", "N", "A grid of so many rows.")] = None,
    gutter: Annotated[float, _option(GUIDES, "--gutter", "PX", "Between the cells.")] = 0,
    begin: Annotated[str, _option(GUIDES, "--from", "EDGE", "Where the grid begins.")] = "0",
    end: Annotated[str, _option(GUIDES, "--to", "EDGE", "Where the grid ends.")] = "",
    cutlist: Annotated[
        str | None,
        _option(EDIT, "--cutlist", "NAME", "The cutlist, of several.", completing.cutlists),
    ] = None,
    new_name: Annotated[
        str, _option(EDIT, "--rename", "NEW", "Call it so, wherever it is named.")
    ] = "",
    accept: Annotated[
        list[str] | None,
        _option(EDIT, "--accept", "KIND=WHY", "Silence a finding.", completing.findings),
    ] = None,
    remove: Annotated[
        bool,
        typer.Option("--remove", help="Take it out of the cutlist.", rich_help_panel=EDIT),
    ] = False,
    dry_run: DryRun = False,
) -> None:
    """Add or change a guide, a grid or a slice; nothing else in the cutlist changes.

    \b
    riffler mark nav-end --guide-y "nav-top + 56"
    riffler mark col --columns 12 --gutter 20 --from 0 --to 960
    riffler mark teaser --x col-1,col-4 --y nav-end,880 --alt "Hives at dusk"
    riffler mark badge --around cards/badge --grow 8
    riffler mark tab-visit --like tab-home --by 296,0 --link visit
    riffler mark teaser --rename opening
    """  # noqa: D301 - the sign keeps the lines apart
    from riffler.plan.mark import mark as write_mark
    from riffler.plan.wish import Wish
    from riffler.workspace import Workspace

    if sum(map(bool, (guide_x, guide_y, columns, rows))) > 1:
        raise RifflerError("A name is one thing: a guide, a grid or a slice.")
    if guide_x or guide_y:
        edge = {"at": _edge(guide_x or guide_y)}
        wish = Wish(name, "guide", edge, axis="x" if guide_x else "y", remove=remove)
    elif columns is not None or rows is not None:
        wish = _grid(name, columns, rows, gutter, begin, end)
    else:
        values = _slice_keys(
            at=at,
            x=x,
            y=y,
            around=around,
            like=like,
            by=by,
            grow=grow,
            times=times,
            step=step,
            only=only,
            show=show,
            hide=hide,
            role=role,
            group=group,
            alt=alt,
            link=link,
            save=save,
            settings=settings or [],
        )
        pairs = dict(map(_pair, accept or []))
        wish = Wish(name, "slice", values, state=state, accept=pairs, nth=nth, remove=remove)
    if new_name:
        _refuse_more(wish)
        _rename(screen, name, new_name, cutlist, is_dry=dry_run)
    else:
        _refuse_nothing(wish)
        _show(screen, write_mark(Workspace.here(), wish, cutlist, dry_run=dry_run), wish, dry_run)


COMMAND = Command(mark)


def _refuse_nothing(wish: Wish) -> None:
    """Raises RifflerError for a slice of which nothing is said."""
    if wish.kind == "slice" and not (wish.keys or wish.accept or wish.remove):
        raise RifflerError(
            f'Nothing is said of "{wish.name}".',
            "For example: --at 80,880,296,112, or --guide-x 80",
        )


def _refuse_more(wish: Wish) -> None:
    """Raises RifflerError for a new name beside anything else that is to change."""
    if wish != type(wish)(wish.name):
        raise RifflerError("A new name goes by itself.", "Rename first, then change the rest.")


def _rename(screen: Screen, name: str, new: str, cutlist: str | None, *, is_dry: bool) -> None:
    from riffler.plan.rename import rename
    from riffler.plan.wish import VERSION
    from riffler.report.marking import show_rename
    from riffler.site.mentions import follow
    from riffler.workspace import Workspace

    renamed = rename(Workspace.here(), name, new, follow, cutlist, dry_run=is_dry)
    if not screen.json(VERSION, renamed.as_data()):
        show_rename(screen, renamed, is_dry=is_dry)


def _grid(
    name: str, columns: int | None, rows: int | None, gutter: float, begin: str, end: str
) -> Wish:
    from riffler.plan.wish import Wish

    if not end:
        raise RifflerError("A grid needs an end.", "For example: --from 0 --to 960")
    keys: dict[str, Any] = {"axis": "y" if rows is not None else "x", "count": columns or rows}
    if gutter:
        keys["gutter"] = gutter
    return Wish(name, "grid", {**keys, "from": _edge(begin), "to": _edge(end)})


def _slice_keys(**values: Any) -> dict[str, Any]:  # noqa: ANN401
    """The options as a cutlist writes them, in the order in which a person would."""
    keys: dict[str, Any] = {"in": values["group"], "like": values["like"]}
    for key, count in (("by", 2), ("x", 2), ("y", 2), ("at", 4)):
        if values[key]:
            keys[key] = _edges(values[key], count, f"--{key}")
    keys["around"] = values["around"]
    keys["grow"] = values["grow"]
    if values["times"] is not None:
        across, down = _edges(values["step"] or "0,0", 2, "--step")
        steps = {"x": across, "y": down}
        keys["times"] = {"count": values["times"], **{k: v for k, v in steps.items() if v}}
    keys.update({key: values[key] for key in ("only", "show", "hide", "role")})
    keys["save"] = [form.strip() for form in values["save"].split(",")] if values["save"] else None
    for text in values["settings"]:
        key, value = _pair(text)
        keys[key] = _value(value)
    keys.update(alt=values["alt"], link=values["link"] or None)
    kept = {key: value for key, value in keys.items() if value not in (None, "", [])}
    if values["alt"] == "":
        kept["alt"] = ""
    return kept


def _edge(text: str) -> int | float | str:
    """A number where it is one; a guide, a cell or a sum as it is."""
    plain = text.strip()
    try:
        value = float(plain)
    except ValueError:
        return plain
    if not math.isfinite(value):
        raise RifflerError(f'"{plain}" is no number of pixels.')
    return int(value) if value == int(value) else value


def _edges(text: str, count: int, option: str) -> list[int | float | str]:
    parts = [_edge(part) for part in text.split(",")]
    if len(parts) != count:
        shown = ",".join(["X", "Y", "W", "H"][:count]) if count == 4 else "A,B"
        raise RifflerError(
            f'{option} "{text}" has {len(parts)} parts, not {count}.',
            f"Write it as {option} {shown}",
        )
    return parts


def _pair(text: str) -> tuple[str, str]:
    key, sign, value = text.partition("=")
    if not sign or not key.strip():
        raise RifflerError(f'"{text}" should be KEY=VALUE.')
    return key.strip(), value.strip()


def _value(text: str) -> Any:  # noqa: ANN401
    """A value as TOML; what is no TOML is text."""
    import tomllib

    try:
        return tomllib.loads(f"v = {text}")["v"]
    except tomllib.TOMLDecodeError:
        return text


def _show(screen: Screen, marked: Marked, wish: Wish, is_dry: bool) -> None:
    from riffler.plan.wish import VERSION
    from riffler.report.marking import show_mark

    if not screen.json(VERSION, marked.as_data()):
        show_mark(screen, marked, wish.name, is_dry=is_dry)
