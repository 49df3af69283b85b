"""A project whose plan has one mistake of every kind, and nothing else wrong."""

from __future__ import annotations

from pathlib import Path

import numpy as np
from PIL import Image, ImageDraw, ImageFont
from scipy import ndimage

from making import Flat, Straight, write_ora, write_project

WIDTH, HEIGHT = 1240, 800


GROUND = Flat("ground", (0, 0, WIDTH, HEIGHT), (240, 236, 228, 255))


def noise(
    seed: int, width: int, height: int, reach: float = 1.0, *, wrap: bool = False
) -> Straight:
    """An opaque picture like a photo; features of about `reach` px, meeting at the edges or not."""
    chance = np.random.default_rng(seed)
    rough = chance.standard_normal((height, width, 3))
    soft = ndimage.gaussian_filter(rough, (reach, reach, 0), mode="wrap" if wrap else "reflect")
    soft = 128 + 50 * soft / soft.std()
    opaque = np.full((height, width, 1), 255.0)
    return np.dstack((soft, opaque)).clip(0, 255).astype(np.uint8)


def photo(name: str, x: int, y: int, width: int, height: int, seed: int = 0) -> Flat:
    pixels = noise(seed or 1 + x + 1000 * y, width, height)
    return Flat(name, (x, y, width, height), pixels=pixels)


def shape(name: str, x: int, y: int, color: str, *points: tuple[int, int]) -> Flat:
    """A filled polygon; without points a disc of 40 px."""
    picture = Image.new("RGBA", (40, 40))
    draw = ImageDraw.Draw(picture)
    if points:
        draw.polygon(points, fill=color)
    else:
        draw.ellipse((0, 0, 39, 39), fill=color)
    box = picture.getbbox()
    assert box is not None
    cropped = np.asarray(picture.crop(box))
    return Flat(name, (x + box[0], y + box[1], cropped.shape[1], cropped.shape[0]), pixels=cropped)


def text(name: str, x: int, y: int, words: str, size: int = 22) -> Flat:
    """Words as pixels, in one ink."""
    font = ImageFont.load_default(size)
    left, top, right, bottom = (int(side) for side in font.getbbox(words))
    picture = Image.new("RGBA", (right - left + 2, bottom - top + 2), (40, 30, 20, 0))
    ImageDraw.Draw(picture).text((1 - left, 1 - top), words, fill=(40, 30, 20), font=font)
    return Flat(name, (x, y, picture.width, picture.height), pixels=np.asarray(picture))


def rounded(name: str, x: int, y: int, width: int, height: int, radius: int) -> Flat:
    picture = Image.new("RGBA", (width, height))
    draw = ImageDraw.Draw(picture)
    draw.rounded_rectangle((0, 0, width - 1, height - 1), radius, fill=(80, 60, 120))
    return Flat(name, (x, y, width, height), pixels=np.asarray(picture))


def ramp(name: str, x: int, y: int, width: int, height: int) -> Flat:
    """A grey gradient from left to right."""
    line = np.linspace(40, 220, width).astype(np.uint8)
    pixels = np.dstack([np.tile(line, (height, 1))] * 3 + [np.full((height, width), 255, np.uint8)])
    return Flat(name, (x, y, width, height), pixels=pixels)


def stained(name: str, x: int, y: int, side: int) -> Flat:
    """A texture without a period, with a piece in it that would meet itself as a tile."""
    pixels = noise(5, 3 * side, 2 * side, 9.0).copy()
    pixels[40 : 40 + side, 60 : 60 + side] = noise(6, side, side, 9.0, wrap=True)
    return Flat(name, (x, y, 3 * side, 2 * side), pixels=pixels)


def layers() -> list[Flat]:
    """The first mockup; the second has nothing but the shared box, which differs, and the ground."""
    return [
        text("words", 520, 340, "Honey and hives"),
        photo("bubble", 440, 230, 60, 50),
        photo("gap", 20, 20, 203, 100),
        photo("overlap", 300, 20, 200, 100),
        photo("uneven", 560, 20, 200, 100),
        photo("sliver", 800, 20, 100, 100),
        photo("outside", 1140, 20, 100, 100),
        photo("beside", 20, 160, 100, 100),
        photo("cut-off", 200, 160, 100, 100),
        photo("invaded", 360, 160, 100, 100),
        rounded("curve", 560, 160, 200, 100, 30),
        ramp("seam", 800, 160, 200, 100),
        stained("stain", 20, 300, 120),
        photo("baked", 500, 300, 200, 100),
        Flat("brand", inside=[photo("art", 760, 300, 100, 60)]),
        photo("twin", 900, 300, 60, 60, seed=7),
        photo("twin", 980, 300, 60, 60, seed=7),
        photo("large", 1080, 300, 80, 60),
        *(
            shape(f"icon-{n}", 20 + 60 * n, 600, color)
            for n, color in enumerate(("#a33", "#3a3", "#33a"))
        ),
        shape("icon-3", 200, 600, "#aa3", (0, 0), (20, 0), (20, 20), (0, 20)),
        shape("mark-0", 300, 600, "#a3a"),
        shape("mark-1", 360, 600, "#3aa", (0, 0), (0, 39), (39, 39)),
        *(photo(f"plain-{n}", 440 + 100 * n, 600, 60, 60) for n in range(6)),
        photo("shared", 1100, 600, 60, 60, seed=11),
        GROUND,
    ]


def fine(name: str, x: int, y: int, width: int, height: int, more: str = "") -> str:
    return f'[slice."{name}"]\nin = "fine"\nat = [{x}, {y}, {width}, {height}]\n{more}'


PLAN = 'mockup = "../mockups/m.ora"\ninclude = ["_shared.toml"]\n[group.fine]\nalt = ""\n' + "".join((
    fine("gap-a", 20, 20, 100, 100), fine("gap-b", 123, 20, 100, 100),
    fine("overlap-a", 300, 20, 110, 100), fine("overlap-b", 400, 20, 100, 100),
    fine("uneven-a", 560, 20, 100, 100), fine("uneven-b", 660, 20, 100, 96),
    fine("sliver", 800, 20, 2, 100), fine("outside", 1140, 20, 110, 100),
    fine("beside", 20, 160, 101, 100),
    fine("shadow", 200, 160, 90, 100, 'only = ["cut-off"]\n'),
    fine("invaded", 360, 160, 100, 100),
    fine("panel", 560, 160, 200, 100, 'role = "panel"\ncaps = { top = 12, bottom = 32 }\n'),
    fine("ramp", 820, 180, 64, 64, 'only = ["seam"]\nrole = "tile"\nrepeat = "x"\n'),
    fine("stain", 80, 340, 120, 120, 'only = ["stain"]\nrole = "tile"\n'),
    fine("baked", 500, 300, 200, 100),
    fine("twin-a", 900, 300, 60, 60), fine("twin-b", 980, 300, 60, 60),
    fine("large", 1080, 300, 80, 60, 'sizes = ["1x", "2x"]\n'),
    '[group.icons]\nrole = "icon"\nalt = ""\n',
    *(f'[slice.icon-{n}]\nin = "icons"\nonly = ["icon-{n}"]\n' for n in range(4)),
    '[group.marks]\nrole = "icon"\nalt = ""\n',
    *(f'[slice.mark-{n}]\nin = "marks"\nonly = ["mark-{n}"]\n' for n in range(2)),
    fine("Bad_Name", 440, 600, 60, 60), fine("aux", 540, 600, 60, 60),
    fine("echo", 640, 600, 60, 60), fine("Echo", 740, 600, 60, 60),
    "[slice.silent]\nat = [840, 600, 60, 60]\n", fine("button-go", 940, 600, 60, 60),
))  # fmt: skip

SHARED = '[slice.everywhere]\nalt = ""\nat = [1100, 600, 60, 60]\n'

LETTER = """<svg xmlns="http://www.w3.org/2000/svg" width="200" height="100">
<rect id="ground" width="200" height="100" fill="#eee"/>
<text id="hello" x="20" y="60" font-family="Nowhere Serif" font-size="20">Hello</text></svg>"""

#: Every kind of finding, with the slice that it must be found in.
EXPECTED = {
    "gap": "gap-b", "overlap": "overlap-b", "uneven": "uneven-b", "sliver": "sliver",
    "outside": "outside", "beside": "beside", "cut-off": "shadow", "intruder": "invaded",
    "curve": "panel", "seam": "ramp", "small-tile": "stain", "baked-text": "baked", "unsliced": None,
    "twin": "twin-b", "enlarged": "large", "icon-size": "icon-3", "icon-centre": "mark-1",
    "name": "Bad_Name", "reserved": "aux", "clash": "Echo", "alt": "silent", "link": "button-go",
    "font": None, "differs": "everywhere",
}  # fmt: skip


def write_broken(root: Path) -> Path:
    """The project: two pages that share a slice, and a letter in a typeface that is missing."""
    texts = {
        "cuts/a.toml": PLAN,
        "cuts/b.toml": 'mockup = "../mockups/b.ora"\ninclude = ["_shared.toml"]\n',
        "cuts/c.toml": 'mockup = "../mockups/c.svg"\n',
        "cuts/_shared.toml": SHARED,
        "mockups/c.svg": LETTER,
    }
    write_project(root, texts)
    write_ora(root / "mockups/m.ora", (WIDTH, HEIGHT), layers())
    other = [photo("shared", 1100, 600, 60, 60, seed=12), GROUND]
    write_ora(root / "mockups/b.ora", (WIDTH, HEIGHT), other)
    return root
