"""Corpora of forty pictures each, always the same, by what they show."""

from __future__ import annotations

import math
from collections.abc import Callable

import numpy as np
import numpy.typing as npt
from PIL import Image, ImageDraw, ImageFilter, ImageFont
from scipy import ndimage

Straight = npt.NDArray[np.uint8]

COUNT = 40

INKS = ["#3a2618", "#fbf4e4", "#e2a32b", "#b8741a", "#4a3350", "#5d6b3f", "#2f2547", "#cf7358"]

WORDS = (
    "Fernhollow Apiary honey hives clover heather lime meadow smoker swarm colony letters".split()
)


def corpus(name: str) -> list[Straight]:
    """Straight RGBA pictures of a corpus: `interface`, `icons`, `photos`, `thin` and so on."""
    draw: dict[str, Callable[[np.random.Generator], Straight]] = {
        "interface": interface, "icons": icon, "photos": photo, "thin": thin, "lines": lines,
        "cloth": cloth, "gradients": gradient,
    }  # fmt: skip
    return [draw[name](np.random.default_rng((len(name), number))) for number in range(COUNT)]


def interface(chance: np.random.Generator) -> Straight:
    """A piece of flat interface: a bar of labels, rows or cards alike, few inks, two text sizes."""
    width, height = int(chance.integers(320, 960)), int(chance.integers(160, 480))
    ground, plate, ink, accent = (str(color) for color in chance.permutation(INKS)[:4])
    picture = Image.new("RGBA", (width, height), ground)
    draw = ImageDraw.Draw(picture)
    large, small = (ImageFont.load_default(size) for size in (int(chance.integers(18, 30)), 14))
    draw.rectangle((0, 0, width, 40), fill=accent)
    for number in range(width // 120):
        draw.text((20 + 120 * number, 12), str(chance.choice(WORDS)), fill=ground, font=small)
    columns, gap, radius = int(chance.integers(1, 4)), 16, int(chance.integers(0, 14))
    wide, high = (width - gap * (columns + 1)) // columns, int(chance.integers(70, 140))
    for y in range(56, height - high, high + gap):
        for column in range(columns):
            x = gap + column * (wide + gap)
            draw.rounded_rectangle((x, y, x + wide, y + high), radius, fill=plate, outline=accent)
            draw.text((x + 14, y + 10), str(chance.choice(WORDS)), fill=ink, font=large)
            for line in range((high - 50) // 20):
                words = " ".join(chance.choice(WORDS, max(1, wide // 110)))
                draw.text((x + 14, y + 44 + 20 * line), words, fill=ink, font=small)
    return np.asarray(picture)


def icon(chance: np.random.Generator) -> Straight:
    """A small drawing in one or two inks on transparency; some have a shadow, some a gradient."""
    side = int(chance.choice([24, 32, 48, 64, 96, 128]))
    large = side * 4
    picture = Image.new("RGBA", (large, large))
    draw = ImageDraw.Draw(picture)
    inks = [str(color) for color in chance.permutation(INKS)[: int(chance.integers(1, 3))]]
    for _ in range(int(chance.integers(1, 4))):
        color = str(chance.choice(inks))
        a, b = chance.integers(0, large // 2, 2), chance.integers(large // 2, large, 2)
        box = (int(a[0]), int(a[1]), int(b[0]), int(b[1]))
        shape = int(chance.integers(0, 4))
        if shape == 0:
            draw.ellipse(box, fill=color)
        elif shape == 1:
            draw.rounded_rectangle(box, large // 10, fill=color)
        elif shape == 2:
            draw.line(box, fill=color, width=large // 12)
        else:
            turns = [math.tau * n / 6 for n in range(6)]
            middle, reach = large / 2, large * 0.42
            draw.polygon(
                [(middle + reach * math.sin(t), middle + reach * math.cos(t)) for t in turns],
                fill=color,
            )
    small = picture.resize((side, side), Image.Resampling.LANCZOS)
    if chance.random() < 0.25:
        soft = small.getchannel("A").filter(ImageFilter.GaussianBlur(side / 16))
        shadow = Image.new("RGBA", small.size, (60, 40, 20, 0))
        shadow.putalpha(soft.point(lambda value: value // 3))
        small = Image.alpha_composite(shadow, small)
    if chance.random() < 0.25:
        pixels = np.asarray(small).copy()
        light = np.linspace(1.15, 0.7, side)[:, None, None]
        pixels[..., :3] = np.clip(pixels[..., :3] * light, 0, 255)
        return pixels
    return np.asarray(small)


def photo(chance: np.random.Generator) -> Straight:
    """Something like a photograph: 1/f spectra in three related channels, edges, sensor noise."""
    width, height = int(chance.integers(160, 420)), int(chance.integers(120, 300))
    down, across = np.fft.fftfreq(height)[:, None], np.fft.fftfreq(width)[None, :]
    falloff = np.maximum(np.hypot(down, across), 1 / max(width, height)) ** -chance.uniform(
        1.1, 1.7
    )

    def cloud() -> npt.NDArray[np.float64]:
        spectrum = np.fft.fft2(chance.standard_normal((height, width))) * falloff
        field = np.fft.ifft2(spectrum).real
        return np.asarray((field - field.mean()) / field.std())

    light = cloud()
    ridge = cloud() > chance.uniform(-0.5, 0.8)
    light = light + ridge * chance.uniform(0.4, 1.6)
    tints = [light + chance.uniform(0.1, 0.45) * cloud() for _ in range(3)]
    base, spread = chance.uniform(90, 160, 3), chance.uniform(25, 50)
    channels = [base[n] + spread * tint for n, tint in enumerate(tints)]
    noise = chance.normal(0, chance.uniform(0.5, 2.5), (height, width, 3))
    pixels = np.dstack(channels) + noise
    opaque = np.full((height, width, 1), 255.0)
    return np.dstack((pixels, opaque)).clip(0, 255).astype(np.uint8)


def thin(chance: np.random.Generator) -> Straight:
    """An icon of thin strokes in a colour, 16 to 96 px, on transparency or on a plate."""
    side = int(chance.choice([16, 20, 24, 32, 48, 64, 96]))
    large, width = side * 8, int(chance.uniform(1.2, 2.2) * 8 * max(1, side / 24))
    ink, plate = (str(color) for color in chance.permutation(["#ffffff", "#c0392b", *INKS])[:2])
    ground = plate if chance.random() < 0.6 else None
    picture = Image.new("RGBA", (large, large), ground or (0, 0, 0, 0))
    draw = ImageDraw.Draw(picture)
    a, b, c = (large * part for part in chance.uniform((0.1, 0.4, 0.55), (0.25, 0.5, 0.9)))
    draw.ellipse((a, a, large - a, large - a), outline=ink, width=width)
    draw.line((a, c, b, a, large - a, c), fill=ink, width=width)
    draw.rectangle((b, b, c, c), outline=ink, width=width)
    return np.asarray(picture.resize((side, side), Image.Resampling.BOX))


def lines(chance: np.random.Generator) -> Straight:
    """Line art in several colours on a plain ground."""
    width, height = 300, 220
    ground = str(chance.choice(["#ffffff", "#fbf4e4", "#20303a"]))
    picture = Image.new("RGBA", (width * 4, height * 4), ground)
    draw = ImageDraw.Draw(picture)
    for _ in range(26):
        points = [tuple(chance.uniform(0, 1, 2) * (width * 4, height * 4)) for _ in range(3)]
        draw.line(points, fill=str(chance.choice(INKS)), width=int(chance.integers(4, 12)))
    return np.asarray(picture.resize((width, height), Image.Resampling.BOX))


def cloth(chance: np.random.Generator) -> Straight:
    """A weave with noise, or paper: soft stains and grain."""
    down, across = np.mgrid[:192, :256]
    noise = chance.normal(0, 1, (192, 256))
    if chance.random() < 0.5:
        steps = chance.uniform(4, 7, 2)
        weave = np.sin(across * math.tau / steps[0]) * np.sin(down * math.tau / steps[1])
        light, tint = 128 + 30 * weave + 8 * noise, chance.uniform(0.6, 1.3, 3)
    else:
        stains = ndimage.gaussian_filter(chance.normal(0, 1, noise.shape), 20)
        light = 215 + 60 * stains + 8 * ndimage.gaussian_filter(noise, 1.2)
        tint = chance.uniform(0.75, 1.1, 3)
    pixels = light[..., None] * tint
    return np.dstack((pixels, np.full((192, 256), 255.0))).clip(0, 255).astype(np.uint8)


def gradient(chance: np.random.Generator) -> Straight:
    """Two colours into each other, dark or light; some are a glow that fades."""
    down, across = np.mgrid[:200, :320]
    turn = chance.uniform(0, math.tau)
    along = across / 320 * math.cos(turn) + down / 200 * math.sin(turn)
    share = ((along - along.min()) / np.ptp(along))[..., None]
    first, second = chance.uniform(0, 255, (2, 3))
    alpha = np.full((200, 320), 255.0)
    if chance.random() < 0.3:
        alpha = np.clip(1.5 - 1.5 * np.hypot(across - 160, down - 100) / 100, 0, 1) * 255
    pixels = np.dstack((first * (1 - share) + second * share, alpha))
    return (pixels + 0.5).clip(0, 255).astype(np.uint8)
