"""Weighed pictures -> a drawing of what is seen of the loss at every number of bytes."""

from __future__ import annotations

import io
import logging
from collections.abc import Sequence
from typing import TYPE_CHECKING, Any

from riffler.cutting.weigh import Curve, Weighed
from riffler.encode.choice import LEVELS
from riffler.errors import RifflerError
from riffler.formats import FORMATS
from riffler.project.target import OURS, Target
from riffler.report.weighing import setting
from riffler.report.wording import kilobytes

if TYPE_CHECKING:
    from matplotlib.axes import Axes

#: Of each format.
COLORS = {
    "png": "#5d7a3a",
    "jpeg": "#b9651b",
    "webp": "#3b6a8f",
    "avif": "#7c4a77",
    "gif": "#8a8378",
}

PAPER, INK, DIM, LINE = "#fbf8f1", "#2d2821", "#7d7567", "#ddd5c5"

#: Pixels of one plot; and plots beside each other at the most.
WIDTH, HEIGHT, ACROSS = 960, 600, 2

#: The least loss that is drawn, far below what is seen, and the most, far above.
LOWEST, PLAIN = 0.05, 30.0

#: Pictures in one drawing at the most.
MOST = 12


def write(weighed: Sequence[Weighed], curves: Sequence[Sequence[Curve]], target: Target) -> None:
    """Draw a plot for each picture into one PNG. Raises RifflerError for too many of them."""
    if len(weighed) > MOST:
        raise RifflerError(f"A drawing holds {MOST} pictures, not {len(weighed)}.")
    target.write(_drawn(weighed, curves))


def _drawn(weighed: Sequence[Weighed], curves: Sequence[Sequence[Curve]]) -> bytes:
    logging.getLogger("matplotlib").setLevel(logging.ERROR)  # it tells of its first use otherwise
    from matplotlib import rc_context
    from matplotlib.figure import Figure
    from matplotlib.layout_engine import ConstrainedLayoutEngine

    across = min(ACROSS, len(weighed))
    down = -(-len(weighed) // across)
    style: Any = {
        "font.size": 11,
        "font.family": "DejaVu Sans",
        "axes.edgecolor": LINE,
        "text.color": INK,
        "xtick.color": DIM,
        "ytick.color": DIM,
    }
    with rc_context(style):
        size = (WIDTH * across / 100, HEIGHT * down / 100)
        layout = ConstrainedLayoutEngine(w_pad=0.25, h_pad=0.25)
        figure = Figure(size, dpi=100, facecolor=PAPER, layout=layout)
        axes = figure.subplots(down, across, squeeze=False).ravel()
        for picture, own_curves, axis in zip(weighed, curves, axes, strict=False):
            _plot(axis, picture, own_curves)
        for axis in axes[len(weighed) :]:
            axis.set_axis_off()
        out = io.BytesIO()
        figure.savefig(out, format="png", metadata={"Software": OURS})
    return out.getvalue()


def _plot(axis: Axes, picture: Weighed, curves: Sequence[Curve]) -> None:
    lines = {curve.format: _felt(curve) for curve in curves}
    points = [point for line in lines.values() for point in line]
    lossless = next(
        (w for w in picture.weights if w.level == "exact" and w.choice.format == "png"), None
    )
    sizes = [size for size, _ in points] + [weight.bytes for weight in picture.weights]
    losses = [loss for _, loss in points if loss > 0]
    low = max(LOWEST, min([*losses, LEVELS["clear"] / 4]))
    high = min(PLAIN, max([*losses, LEVELS["fair"] * 1.5]))
    axis.set(xscale="log", yscale="log", facecolor=PAPER)
    axis.set_xlim(min(sizes) / 1.25, max(sizes) * 1.6)
    axis.set_ylim(low / 1.4, high * 1.4)
    _levels(axis)
    for name, line in lines.items():
        if line:
            _curve(axis, name, line, low)
    if lossless is not None:
        _lossless(axis, lossless.bytes, high)
    _choice(axis, picture)
    _titles(axis, picture)


def _curve(axis: Axes, name: str, line: Sequence[tuple[int, float]], low: float) -> None:
    """The line of one format, with its name at the end that is in sight."""
    color, label = COLORS[name], FORMATS[name].label
    label += "" if FORMATS[name].has_quality else ", palette"
    axis.plot(*zip(*line, strict=True), color=color, lw=1.8, marker="o", ms=3.2)
    end = next((point for point in reversed(line) if point[1] >= low), line[0])
    axis.annotate(
        label,
        end,
        (7, 0),
        textcoords="offset points",
        color=color,
        va="center",
        weight="bold",
        fontsize=10,
    )


def _lossless(axis: Axes, size: int, high: float) -> None:
    """Where the lossless file lies, as a line that no loss crosses."""
    axis.axvline(size, color=COLORS["png"], lw=1, ls=(0, (4, 3)))
    axis.annotate(
        f"PNG, lossless, {kilobytes(size)}",
        (size, high * 1.4),
        (-5, -8),
        textcoords="offset points",
        rotation=90,
        ha="right",
        va="top",
        fontsize=9,
        color=COLORS["png"],
    )


def _felt(curve: Curve) -> list[tuple[int, float]]:
    """The points of a curve that lose anything, from small to large."""
    return sorted((size, loss) for size, loss in curve.points if loss > 0)


def _levels(axis: Axes) -> None:
    """Bands for what nobody sees side by side, and nobody on the page."""
    bottom, _ = axis.get_ylim()
    axis.axhspan(bottom, LEVELS["clear"], color="#e7ecd6", lw=0, zorder=0)
    axis.axhspan(LEVELS["clear"], LEVELS["fair"], color="#f5ead0", lw=0, zorder=0)
    for level, words in (("clear", "clear: not side by side"), ("fair", "fair: not on the page")):
        axis.annotate(
            words,
            (1, LEVELS[level]),
            (-8, -5),
            xycoords=("axes fraction", "data"),
            textcoords="offset points",
            ha="right",
            va="top",
            fontsize=9,
            color=DIM,
        )


def _choice(axis: Axes, picture: Weighed) -> None:
    chosen = picture.chosen
    loss = max(chosen.choice.loss or 0, axis.get_ylim()[0])
    axis.plot([chosen.bytes], [loss], "o", ms=13, mfc="none", mec=INK, mew=1.6, clip_on=False)
    label = f"{FORMATS[chosen.choice.format].label}, {setting(chosen)}: {kilobytes(chosen.bytes)}"
    axis.annotate(
        label,
        (chosen.bytes, loss),
        (0, -20),
        textcoords="offset points",
        ha="center",
        fontsize=10,
        weight="bold",
        bbox={"fc": PAPER, "ec": "none", "alpha": 0.85, "pad": 1.5},
    )


def _bytes(value: float) -> str:
    return f"{value:g} B" if value < 1000 else f"{value / 1000:g} kB"


def _titles(axis: Axes, picture: Weighed) -> None:
    from matplotlib.ticker import FuncFormatter, LogLocator, NullFormatter

    size = picture.source.size
    axis.set_title(picture.name, loc="left", weight="bold", fontsize=14, pad=12)
    axis.set_title(f"{size.width} x {size.height} px", loc="right", fontsize=10, color=DIM, pad=12)
    axis.set_xlabel("bytes in the file", color=DIM, fontsize=10)
    axis.set_ylabel("visible loss", color=DIM, fontsize=10)
    axis.xaxis.set_major_locator(LogLocator(10, (1, 2, 5)))
    axis.xaxis.set_major_formatter(FuncFormatter(lambda value, _: _bytes(value)))
    axis.yaxis.set_major_locator(LogLocator(10, (1, 2, 5)))
    axis.yaxis.set_major_formatter(FuncFormatter(lambda value, _: f"{value:g}"))
    axis.xaxis.set_minor_formatter(NullFormatter())
    axis.yaxis.set_minor_formatter(NullFormatter())
    axis.tick_params(length=0, which="both", labelsize=9)
    axis.spines[["top", "right"]].set_visible(False)
