"""A drawing -> the smallest one that is drawn alike: tidied, and held against what it was."""

from __future__ import annotations

import copy
from dataclasses import dataclass, field, replace

import numpy as np
from lxml import etree
from numpy.typing import NDArray

from riffler.color import Bytes
from riffler.errors import MockupError
from riffler.geometry import Size
from riffler.mockup.font_book import FontBook
from riffler.mockup.svg import lengths
from riffler.mockup.svg.document import measure
from riffler.project.limits import DEFAULT_LIMITS, Limits
from riffler.render.pruning import name_fonts
from riffler.render.svg_drawing import draw
from riffler.render.vector import NO_FONTS
from riffler.tidy.drawing import Drawing, sound
from riffler.tidy.tidying import FINENESS, USUAL, Tidying, tidy
from riffler.tidy.writing import text_of

#: How many times its own size a drawing is looked at.
SCALES = (1.0, 4.0)

#: Pixels of the largest picture that is drawn to compare, and of what is drawn at once.
MOST_PIXELS, PIECE = 16_000_000, 1_050_000

#: Elements of a drawing from which pieces are larger, and so many times at the most.
MANY, LARGER = 1_500, 4

#: What may differ: in the mean, and in all pixels but a share of them, of 255.
MEAN, MOST, SHARE = 0.1, 4, 0.001


@dataclass(frozen=True)
class DrawingDifference:
    """How two drawings differ, in colours times alpha, 0..255.

    In the mean of all channels, and the share of pixels of which one differs by more than `MOST`.
    """

    mean: float = 0.0
    share: float = 0.0

    @property
    def is_seen(self) -> bool:
        """Whether it is more than may be."""
        return self.mean > MEAN or self.share > SHARE

    def __or__(self, other_difference: DrawingDifference) -> DrawingDifference:
        return DrawingDifference(
            max(self.mean, other_difference.mean), max(self.share, other_difference.share)
        )


#: Nothing is seen at all.
SAME = DrawingDifference()


@dataclass(frozen=True)
class Checked:
    """A tidied drawing that was held against its source.

    `is_changed` is False where nothing smaller could be drawn alike: the text is the source's.
    """

    text: str
    difference: DrawingDifference
    removed: tuple[str, ...] = ()
    is_changed: bool = True


@dataclass
class _Judge:
    """The source as it is drawn, at every scale."""

    source: etree._Element
    what: str
    limits: Limits
    fonts: FontBook
    drawn: dict[float, Bytes] = field(default_factory=dict)

    def difference(self, text: str) -> DrawingDifference:
        """How far a text is drawn unlike the source."""
        found_difference = DrawingDifference()
        twin = etree.fromstring(text.encode())
        for scale in self.scales:
            if scale not in self.drawn:
                self.drawn[scale] = drawn_at(self.source, scale, self.what, self.limits, self.fonts)
            found_difference |= compared(
                self.drawn[scale], drawn_at(twin, scale, self.what, self.limits, self.fonts)
            )
            if found_difference.is_seen:
                break
        return found_difference

    @property
    def scales(self) -> tuple[float, ...]:
        """At which scales, so that no picture is too large."""
        width, height, _ = measure(self.source)
        most = (MOST_PIXELS / max(1.0, width * height)) ** 0.5
        if not 0 < max(width, height) * most < MOST_PIXELS:  # a line, or no number at all
            raise MockupError(
                f"{self.what} is {width:g} x {height:g} px large: no picture can be drawn of it.",
                "Say another width, height or viewBox.",
            )
        return tuple(dict.fromkeys(min(scale, most) for scale in SCALES))


def tidied(
    data: bytes,
    what: str,
    tidying: Tidying = USUAL,
    limits: Limits = DEFAULT_LIMITS,
    *,
    fonts: FontBook = NO_FONTS,
    refuses: bool = False,
) -> Checked:
    """The smallest tidied drawing that is drawn as its source is.

    Where rounding is seen, digits are added; where that does not help, paths are not put together.
    Raises MockupError for a file that is unsound or beyond the limits.
    """
    source, removed = sound(data, what, limits, refuses=refuses)
    is_as_ours = not removed and text_of(Drawing(source)).encode() == data
    if tidying.largest is None and is_as_ours and _is_tidied(data, what, tidying, limits):
        return Checked(data.decode(), SAME)
    best = _best(_Judge(source, what, limits, fonts), data, tidying)
    if best is not None and (removed or len(best.text.encode()) <= len(data)):
        return replace(best, removed=removed)
    bare = etree.tostring(source, encoding="unicode")
    return Checked(bare if removed else _text(data) or bare, SAME, removed, is_changed=False)


def _text(data: bytes) -> str:
    """A file as text; empty for one in another encoding than UTF-8."""
    try:
        return data.decode()
    except UnicodeDecodeError:
        return ""


def _best(judge: _Judge, data: bytes, tidying: Tidying) -> Checked | None:
    """The coarsest tidying that is not seen; None when there is none."""
    for step in _ladder(tidying):
        text = _tidied_text(data, judge.what, step, judge.limits)
        difference = judge.difference(text)
        if not difference.is_seen:
            return Checked(text, difference)
    return None


def _is_tidied(data: bytes, what: str, tidying: Tidying, limits: Limits) -> bool:
    """Whether a drawing is what one of the steps leaves as it is.

    Then its numbers are those of an earlier time: rounding them again would add to what was left
    out before.
    """
    *steps, still = _ladder(tidying)
    if _tidied_text(data, what, still, limits).encode() != data:
        return False
    return any(_tidied_text(data, what, step, limits).encode() == data for step in steps)


def _tidied_text(data: bytes, what: str, step: Tidying, limits: Limits) -> str:
    """A tidied text; its ids have no part of its own where only that makes it longer."""
    text = tidy(data, what, step, limits).text
    if len(text.encode()) <= len(data):
        return text
    return tidy(data, what, replace(step, is_bound=True), limits).text


def _ladder(tidying: Tidying) -> list[Tidying]:
    """How to tidy, from the coarsest: each step gives something up."""
    finer = [replace(tidying, fineness=step) for step in range(len(FINENESS))]
    unfolded = [replace(step, folds=False) for step in finer[::3]]
    return [*finer, *unfolded, replace(tidying, rewrites=False)]


def drawn_at(
    root: etree._Element, scale: float, what: str, limits: Limits, fonts: FontBook
) -> Bytes:
    """A drawing at so many times its size, in bands: (H, W, 4) straight RGBA."""
    twin = copy.deepcopy(root)
    name_fonts(twin, fonts)
    width, height, _ = measure(twin)
    x, y, across, down = lengths.view_box(twin.get("viewBox")) or (0.0, 0.0, width, height)
    size = Size(max(1, round(width * scale)), max(1, round(height * scale)))
    twin.set("width", str(size.width))
    many = sum(1 for _ in twin.iter()) // MANY  # each piece is read whole, however little it shows
    rows = max(1, min(size.height, PIECE * min(LARGER, 1 + many) // size.width))
    bands = []
    for top in range(0, size.height, rows):
        count = min(rows, size.height - top)
        twin.set("height", str(count))
        if count < size.height:
            first, share = y + down * top / size.height, down * count / size.height
            twin.set("viewBox", f"{x} {first!r} {across} {share!r}")
            twin.set("preserveAspectRatio", "none")
        elif twin.get("viewBox") is None:
            twin.set("viewBox", f"{x} {y} {across} {down}")
        bands.append(draw(twin, fonts, what, limits))
    return np.concatenate(bands)


def compared(first: Bytes, second: Bytes) -> DrawingDifference:
    """How far two pictures of one size are apart."""
    if first.shape != second.shape:
        return DrawingDifference(255.0, 1.0)
    a, b = (np.ascontiguousarray(pixels).view(np.uint32)[..., 0] for pixels in (first, second))
    differs = a != b  # most pixels are equal, and only the others are looked at
    here, there = (_premultiplied(pixels[differs]) for pixels in (first, second))
    apart = np.abs(here - there)
    beyond = np.count_nonzero(apart.max(axis=1, initial=0) > MOST + 0.5)
    return DrawingDifference(float(apart.sum()) / first.size, float(beyond / a.size))


def _premultiplied(pixels: Bytes) -> NDArray[np.float32]:
    """Colours times alpha, (n, 4), 0..255."""
    straight = pixels.astype(np.float32)
    straight[:, :3] *= straight[:, 3:] / 255
    return straight
