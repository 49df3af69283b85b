"""Things where they stand on pages: whether they keep their quality whatever lies around them.

    python -m benchmarks.context [SEED] [KIND...]

Icons in bands of 1 to 60 times their area, soft shadows, calm gradients, blocks of text, photographs
with round corners; each is saved in every format at `clear` and `fair`, and judged where it is
drawn alone: SSIMULACRA2 of a tight crop, and the error that stays after a mean over 7 px, of 255, at
the 99.5th percentile; the worse of white and dark grey where anything shows through.
"""

from __future__ import annotations

import statistics
import sys
from collections import defaultdict
from collections.abc import Callable, Iterator
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass
from itertools import pairwise, product

import numpy as np
from PIL import Image, ImageChops, ImageDraw, ImageFilter, ImageFont
from scipy import ndimage

from benchmarks.corpora import INKS, WORDS, Straight, icon, photo, thin
from benchmarks.measured import GROUNDS, doubled, formats, laid, similar
from riffler.color import from_bytes
from riffler.encode.choose import choose
from riffler.encode.encoding import decoded, prepared
from riffler.encode.original import Original

#: What is wanted: SSIMULACRA2 at least, and error after the mean at most, by level.
WANTED = {"clear": (80.0, 1.5), "fair": (65.0, 2.5)}

#: How many times its own area the canvas of an icon has.
AREAS = (1, 2, 6, 20, 60)

#: A mean over so many pixels each way, and the share of a crop that may err by more.
ACROSS, SHARE = 7, 0.995

Box = tuple[int, int, int, int]


@dataclass(frozen=True)
class Thing:
    """A picture with something in it: where that stands alone, and what it is called."""

    kind: str
    name: str
    picture: Straight
    box: Box


@dataclass(frozen=True)
class Verdict:
    """What a file of a thing is worth: SSIMULACRA2, error after the mean, our own loss, bytes."""

    thing: str
    kind: str
    format: str
    level: str
    similar: float
    band: float
    loss: float
    bytes: int

    @property
    def holds(self) -> bool:
        """Whether it is what the level says."""
        alike, stays = WANTED[self.level]
        return self.similar >= alike and self.band <= stays


def icons(chance: np.random.Generator) -> Iterator[Thing]:
    """One icon in ever larger canvases, on white, on a colour, and on nothing."""
    small = (thin if chance.random() < 0.5 else icon)(chance)
    drawing = Image.fromarray(small)
    box = drawing.getchannel("A").getbbox() or (0, 0, *drawing.size)
    color = str(chance.choice(INKS[:1] + INKS[2:]))
    for ground in ("#ffffff", color, "#00000000"):
        for area in AREAS:
            side = np.sqrt(area) * np.array((1.6, 1 / 1.6)) ** (area > 1)
            width, height = (round(float(n) * drawing.width) for n in side)
            canvas = Image.new("RGBA", (max(width, drawing.width), max(height, drawing.height)))
            canvas.paste(ground, (0, 0, *canvas.size))
            x, y = (int(chance.integers(0, a - drawing.width + 1)) for a in canvas.size)
            canvas.alpha_composite(drawing, (x, y))
            where = (box[0] + x, box[1] + y, box[2] + x, box[3] + y)
            yield Thing("icons", ground, np.asarray(canvas), where)


def shadows(chance: np.random.Generator) -> Iterator[Thing]:
    """A card with a soft shadow, on nothing or on a light or dark ground."""
    width, height = (int(chance.integers(*range_)) for range_ in ((180, 420), (120, 280)))
    blur, reach = float(chance.uniform(6, 24)), 60
    size = (width + 2 * reach, height + 2 * reach)
    card = (reach, reach, reach + width, reach + height)
    radius = int(chance.integers(0, 18))
    cast = Image.new("L", size)
    pen = ImageDraw.Draw(cast)
    pen.rounded_rectangle(card, radius, fill=int(chance.integers(60, 150)))
    cast = ImageChops.offset(cast, 0, int(chance.integers(4, 14)))
    cast = cast.filter(ImageFilter.GaussianBlur(blur))
    ink = str(chance.choice(["#000000", "#2a1d12", "#1d2438"]))
    for ground in ("#00000000", "#f4efe4", "#232a33"):
        canvas = Image.new("RGBA", size, ground)
        shade = Image.new("RGBA", size, ink)
        shade.putalpha(cast)
        canvas.alpha_composite(shade)
        ImageDraw.Draw(canvas).rounded_rectangle(card, radius, fill=str(chance.choice(INKS)))
        yield Thing("shadows", ground, np.asarray(canvas), (0, 0, *size))


def gradients(chance: np.random.Generator) -> Iterator[Thing]:
    """Calm gradients: light and dark, linear and radial, with a label on them, some see-through."""
    width, height = (int(chance.integers(*range_)) for range_ in ((240, 900), (90, 320)))
    down, across = np.mgrid[:height, :width].astype(float)
    for is_dark in (False, True):
        low, high = (12, 60) if is_dark else (150, 250)
        ends = chance.uniform(low, high, (2, 3))
        for is_radial in (False, True):
            if is_radial:
                far = np.hypot((across - width * 0.4) / width, (down - height * 0.3) / height)
            else:
                turn = chance.uniform(0, np.pi)
                far = np.cos(turn) * across / width + np.sin(turn) * down / height
            share = ((far - far.min()) / np.ptp(far))[..., None]
            colors = ends[0] * (1 - share) + ends[1] * share
            alpha = np.full((height, width, 1), 255.0)
            if chance.random() < 0.3:
                alpha = 255 * (1 - share * chance.uniform(0.3, 1))
            picture = np.dstack((colors, alpha)).round().clip(0, 255).astype(np.uint8)
            drawn = Image.fromarray(picture)
            face = ImageFont.load_default(int(chance.integers(18, 40)))
            ink = "#fbf4e4" if is_dark else "#3a2618"
            ImageDraw.Draw(drawn).text((24, 20), str(chance.choice(WORDS)), fill=ink, font=face)
            name = f"{'dark' if is_dark else 'light'} {'radial' if is_radial else 'linear'}"
            yield Thing("gradients", name, np.asarray(drawn), (0, 0, width, height))


def texts(chance: np.random.Generator) -> Iterator[Thing]:
    """A block of text in a wide band."""
    ground, ink = (str(color) for color in chance.permutation(INKS)[:2])
    face = ImageFont.load_default(int(chance.integers(12, 22)))
    lines = "\n".join(" ".join(chance.choice(WORDS, 6)) for _ in range(5))
    for width, height in ((420, 200), (1200, 400)):
        canvas = Image.new("RGBA", (width, height), ground)
        pen = ImageDraw.Draw(canvas)
        at = (int(chance.integers(10, 40)), int(chance.integers(10, 60)))
        pen.multiline_text(at, lines, fill=ink, font=face)
        box = tuple(round(n) for n in pen.multiline_textbbox(at, lines, font=face))
        yield Thing("texts", f"{width}", np.asarray(canvas), box)  # type: ignore[arg-type]


def photos(chance: np.random.Generator) -> Iterator[Thing]:
    """A photograph with round corners, alone and in a wide band."""
    straight = photo(chance)
    height, width = straight.shape[:2]
    mask = Image.new("L", (4 * width, 4 * height))
    ImageDraw.Draw(mask).rounded_rectangle((0, 0, *mask.size), 4 * int(chance.integers(6, 24)), 255)
    picture = Image.fromarray(straight)
    picture.putalpha(mask.resize((width, height), Image.Resampling.BOX))
    yield Thing("photos", "alone", np.asarray(picture), (0, 0, width, height))
    band = Image.new("RGBA", (3 * width, height + 80), "#ffffff")
    band.alpha_composite(picture, (width, 40))
    box = (width, 40, 2 * width, 40 + height)
    yield Thing("photos", "band", np.asarray(band), box)


KINDS: dict[str, tuple[Callable[[np.random.Generator], Iterator[Thing]], int]] = {
    "icons": (icons, 8), "shadows": (shadows, 4), "gradients": (gradients, 3),
    "texts": (texts, 3), "photos": (photos, 4),
}  # fmt: skip


def things(seed: int, kind: str) -> Iterator[tuple[str, Thing]]:
    """All things of a kind for a seed, each with the name of what it is the same as."""
    draw, count = KINDS[kind]
    for number in range(count):
        for thing in draw(np.random.default_rng((seed, number, len(kind)))):
            yield f"{kind} {number} {thing.name}", thing


def band(one: Straight, other: Straight) -> float:
    """The error that stays after a mean over 7 px: (H, W, 3) each."""
    off = one.astype(np.float64) - other
    mean = ndimage.uniform_filter(off, (ACROSS, ACROSS, 0), mode="nearest")
    return float(np.quantile(np.abs(mean).max(axis=2), SHARE))


@dataclass(frozen=True)
class Joints:
    """A bar cut into slices, saved in a format at a level: the largest step where they touch."""

    name: str
    format: str
    level: str
    step: float
    bytes: int


def bars(seed: int) -> Iterator[tuple[str, Straight, list[int]]]:
    """Six bars: a gradient down, a light across, some grain, marks here and there; and where to cut."""
    for number in range(6):
        chance = np.random.default_rng((seed, number, 99))
        height, count = int(chance.integers(48, 120)), int(chance.integers(3, 7))
        edges = [0, *np.cumsum(chance.integers(90, 200, count)).tolist()]
        down, across = np.mgrid[:height, : edges[-1]].astype(float)
        low, rise = chance.uniform(20, 200, 3), chance.uniform(-60, 60, 3)
        light = (down / height)[..., None] * rise + (across / edges[-1])[..., None] * 18
        grain = chance.normal(0, chance.choice([0, 0, 1.5]), (*down.shape, 1))
        drawn = Image.fromarray((low + light + grain).clip(0, 255).astype(np.uint8)).convert("RGBA")
        pen = ImageDraw.Draw(drawn)
        for edge in edges[:-1]:
            box = (edge + 30, height / 3, edge + 60, 2 * height / 3)
            pen.ellipse(box, fill=str(chance.choice(INKS)))
        yield f"bar {number}", np.asarray(drawn), edges


def joined(seed: int) -> Iterator[Joints]:
    """What every format makes of the slices of a bar, put side by side again."""
    for name, bar, edges in bars(seed):
        for form, level in product(("png", "jpeg", "webp", "avif"), WANTED):
            shown, size = bar.copy(), 0
            for first, last in pairwise(edges):
                sides = {"left"} if first else set()
                sides |= {"right"} if last < edges[-1] else set()
                part = np.ascontiguousarray(bar[:, first:last])
                choice = choose(Original(part, None, frozenset(sides)), form, level)
                if choice is None:
                    break
                shown[:, first:last] = decoded(choice.data)
                size += len(choice.data)
            else:
                off = shown[..., :3].astype(float) - bar[..., :3]
                far = ndimage.uniform_filter1d(off, ACROSS, axis=0, mode="nearest")
                steps = [
                    np.abs(far[:, x : x + 4].mean(axis=1) - far[:, x - 4 : x].mean(axis=1)).max()
                    for x in edges[1:-1]
                ]
                yield Joints(name, form, level, float(max(steps)), size)


def judged(named: tuple[str, Thing]) -> list[Verdict]:
    """Every file of a thing at both levels, that loses anything."""
    name, thing = named
    x0, y0, x1, y1 = thing.box
    grounds = GROUNDS[:1] if thing.picture[..., 3].min() == 255 else GROUNDS
    found = []
    for form in formats(thing.picture):
        picture = prepared(from_bytes(thing.picture), form)
        for level in WANTED:
            choice = choose(picture, form, level)
            if choice is None or not choice.loss:
                continue
            shown = decoded(choice.data)
            pairs = [
                [laid(one[y0:y1, x0:x1], ground) for one in (thing.picture, shown)]
                for ground in grounds
            ]
            alike = min(similar(*map(doubled, pair)) for pair in pairs)
            stays = max(band(*pair) for pair in pairs)
            size = len(choice.data)
            found.append(Verdict(name, thing.kind, form, level, alike, stays, choice.loss, size))
    return found


def main(seed: int = 1, *kinds: str) -> None:
    """A table by kind and level, the worst files, and how one thing differs over its canvases."""
    if not kinds or "bars" in kinds:
        _say_joints(list(joined(seed)))
    every = [pair for kind in kinds or KINDS if kind in KINDS for pair in things(seed, kind)]
    if not every:
        return
    with ProcessPoolExecutor(2) as pool:
        verdicts = [one for found in pool.map(judged, every, chunksize=1) for one in found]
    print(f"{'':10} {'':6} files holds  similar: least median  band: most median     bytes")
    for kind in KINDS:
        for level in WANTED:
            some = [one for one in verdicts if (one.kind, one.level) == (kind, level)]
            if some:
                alike, bands = [o.similar for o in some], [o.band for o in some]
                print(
                    f"{kind:10} {level:6} {len(some):5} {sum(o.holds for o in some):5}"
                    f"  {min(alike):14.1f} {statistics.median(alike):6.1f}"
                    f"  {max(bands):10.2f} {statistics.median(bands):6.2f}"
                    f"  {sum(o.bytes for o in some):8}"
                )
    print("\nworst")
    for one in sorted((o for o in verdicts if not o.holds), key=lambda o: o.similar)[:25]:
        print(
            f"  {one.thing:24} {one.format:5} {one.level:6} {one.similar:6.1f} {one.band:5.2f}"
            f" loss {one.loss:.2f} {one.bytes:7} B"
        )
    same = defaultdict(list)
    for one in verdicts:
        if one.kind == "icons":
            same[one.thing, one.format, one.level].append(one.similar)
    spread = sorted((max(found) - min(found), key) for key, found in same.items() if len(found) > 1)
    print("\none icon over its canvases, points between best and worst:")
    if spread:
        print(
            f"  median {statistics.median(s for s, _ in spread):.1f}, over 5: "
            f"{sum(s > 5 for s, _ in spread)} of {len(spread)}, most:",
            spread[-4:],
        )


def _say_joints(found: list[Joints]) -> None:
    """The largest steps by format and level, of how many bars."""
    for form, level in product(("png", "jpeg", "webp", "avif"), WANTED):
        steps = [one.step for one in found if (one.format, one.level) == (form, level)]
        most = f"step of at most {max(steps):.2f}" if steps else "out of reach"
        print(f"joints of {len(steps)} bars, {form:5} {level:6} {most}")


if __name__ == "__main__":
    main(*(int(word) if word.isdigit() else word for word in sys.argv[1:]))  # type: ignore[arg-type]
