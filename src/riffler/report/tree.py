"""A mockup -> its layer tree as text: kind, size, place, what is unusual about each layer."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from rich.text import Text

from riffler.mockup import address
from riffler.mockup.model import LayerKind
from riffler.plain import clean
from riffler.reading.look import LayerLook
from riffler.report.screen import GAP

#: Longest piece of a text layer that the tree quotes.
QUOTE = 36

#: From this many unnamed shapes in a row on, they are listed as one line.
MANY = 4

_STYLES = {
    LayerKind.GROUP: "bold",
    LayerKind.WORDS: "green",
    LayerKind.VECTOR: "cyan",
    LayerKind.PIXELS: "yellow",
}

Row = tuple[Text, str, str, str, str]


def lines(layers: Sequence[LayerLook], *, show_all: bool = False) -> Iterator[Text]:
    """The tree, aligned; `show_all` lists unnamed shapes one by one."""
    rows = list(_rows(layers, "", True, show_all))
    widths = [max((len(row[column]) for row in rows), default=0) for column in range(4)]
    for name, kind, size, place, marks in rows:
        line = Text(GAP).append_text(name).append(" " * (widths[0] - len(name)) + GAP)
        line.append(kind.ljust(widths[1]) + GAP, style="dim")
        line.append(size.rjust(widths[2]) + GAP)
        line.append(place.rjust(widths[3]) + GAP)
        line.append(marks, style="magenta")
        line.rstrip()
        yield line


def _rows(
    layers: Sequence[LayerLook],
    stem: str,
    is_shown: bool,
    show_all: bool,
) -> Iterator[Row]:
    for run in _runs(layers, show_all):
        layer = run[0]
        is_last = run[-1] is layers[-1]
        branch = f"{stem}{'└' if is_last else '├'} "
        seen = is_shown and layer.visible
        if len(run) > 1:
            text = Text(f"{branch}{len(run)} unnamed shapes", style="dim")
            yield text, str(layer.kind), "", "", ""
            continue
        yield _row(layer, branch, seen)
        deeper = f"{stem}{'  ' if is_last else '│ '}"
        yield from _rows(layer.layers, deeper, seen, show_all)


def _runs(layers: Sequence[LayerLook], show_all: bool) -> Iterator[list[LayerLook]]:
    """The layers one by one, with long runs of unnamed shapes kept together."""
    run: list[LayerLook] = []
    for layer in (*layers, None):
        if layer is not None and not layer.name and layer.kind is LayerKind.VECTOR and not show_all:
            run.append(layer)
            continue
        if len(run) >= MANY:
            yield run
        else:
            yield from ([layer] for layer in run)
        run = []
        if layer is not None:
            yield [layer]


def _row(layer: LayerLook, branch: str, is_seen: bool) -> Row:
    box = layer.box
    name = Text().append(branch, style="dim")
    style = _STYLES[layer.kind] if is_seen else "dim"
    name.append(clean(address.last(layer.address)), style=style)
    size = f"{box.width} x {box.height}" if box else "empty"
    place = f"{box.x}, {box.y}" if box else ""
    return name, str(layer.kind), size, place, "  ".join(_marks(layer, is_seen))


def _marks(layer: LayerLook, is_seen: bool) -> Iterator[str]:
    if not layer.visible:
        yield "hidden"
    elif not is_seen:
        yield "in a hidden group"
    if layer.opacity < 1:
        yield f"{layer.opacity * 100:.3g} %"
    if layer.blend != "normal":
        yield layer.blend
    if layer.operator != "source-over":
        yield layer.operator
    if layer.isolated:
        yield "isolated"
    if layer.note:
        yield layer.note
    if layer.words is not None:
        text = clean(" / ".join(layer.words.lines))
        yield f"“{text if len(text) <= QUOTE else text[: QUOTE - 1] + '…'}”"
