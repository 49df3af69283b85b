"""Pixels -> how they repeat: the period of a texture, the seam of a tile, how busy it looks."""

from __future__ import annotations

import numpy as np
import numpy.typing as npt

from riffler.color import LUMA, Pixels

#: Steps of 8 bits by which two pieces of a texture may differ on average and still be the same.
SAME = 1.2

#: The shortest period that is looked for, in pixels.
SHORTEST = 16

#: How far the pixels of a grain vary at the least, and its parts in light, in steps of 8 bits:
#: below that is noise that nobody sees, or a flat colour.
LEAST_GRAIN, UNEVEN = 0.7, 1.0

#: The same in a strip, and how often it has to be there.
SHORTEST_OF_STRIP, OFTEN = 4, 4

#: Rows, and up to twice as many, among which candidates are looked for.
ROWS = 128

Grey = npt.NDArray[np.float32]
"""(H, W) float32: luma in steps of 8 bits, 0..255."""


def grey(pixels: Pixels) -> Grey:
    """Luma in steps of 8 bits, on mid grey where it shows through; ITU-R BT.709, item 3.2.

    pixels: (H, W, 4) float32, premultiplied, 0..1.
    """
    return np.asarray(255 * (pixels[..., :3] @ LUMA + 0.5 * (1 - pixels[..., 3])))


def period(values: Grey) -> tuple[int, int] | None:
    """The shortest step (right, down) after which a texture is the same again; None without one.

    Candidates are the peaks of the autocorrelation along each axis (Wiener and Khinchin); each is
    checked against the pixels themselves. The step must fit into the picture one and a third times.
    """
    across, down = _period(values, SHORTEST), _period(values.T, SHORTEST)
    return (across, down) if across and down else None


def is_grain(values: Grey) -> bool:
    """Whether a picture is a texture that is alike everywhere: parts of it vary as all of it does.

    Each of 4 x 4 parts has the light of the whole and its spread: photographs, gradients and
    drawings have neither.
    """
    spread = float(values.std())
    if min(values.shape) < 4 * SHORTEST or spread < LEAST_GRAIN:
        return False
    parts = [part for rows in np.array_split(values, 4) for part in np.array_split(rows, 4, axis=1)]
    lights = [float(part.mean()) for part in parts]
    spreads = [float(part.std()) for part in parts]
    is_even = max(lights) - min(lights) <= max(UNEVEN, spread / 3)
    return is_even and max(spreads) - min(spreads) <= spread / 3


def strip_period(values: Grey) -> int | None:
    """The shortest step to the right after which a strip is the same again; None without one.

    It is there `OFTEN` times and more, since a strip says little each time.
    """
    step = _period(values, SHORTEST_OF_STRIP)
    return step if step and values.shape[1] >= OFTEN * step else None


def quick_length(least: int) -> int:
    """The shortest even length from so much on with no factors but 2, 3 and 5.

    SciPy knows it, too, and takes a quarter of a second to load, which `look` has not.
    """
    length = least + least % 2
    while True:
        rest = length
        for factor in (2, 3, 5):
            while rest % factor == 0:
                rest //= factor
        if rest == 1:
            return length
        length += 2


def _period(values: Grey, shortest: int) -> int | None:
    some = values[:: max(1, len(values) // ROWS)]
    centred = some - some.mean()
    if centred.std() < 0.3:
        return None
    width = values.shape[1]
    length = quick_length(2 * width)
    spectrum = (np.abs(np.fft.rfft(centred, length, axis=1)) ** 2).sum(axis=0)
    raw = np.fft.irfft(spectrum, length)[:width]
    longest = int(width * 0.75)
    lags = np.arange(shortest, longest)
    if not lags.size:
        return None
    likeness = raw[lags] / (width - lags) / (raw[0] / width)
    for lag in lags[np.argsort(-likeness, kind="stable")][:24]:
        if _change(some, lag) <= 2 * SAME and _change(values, lag) <= SAME:
            return _shortest(values, int(lag), shortest)
    return None


def _change(values: Grey, step: int) -> float:
    """How far pixels are in the mean from those a step to the right."""
    return float(np.abs(values[:, step:] - values[:, :-step]).mean())


def _shortest(values: Grey, lag: int, shortest: int) -> int:
    """The shortest whole part of a lag after which the texture is the same, too."""
    for parts in range(lag // shortest, 1, -1):
        step = lag // parts
        if lag % parts == 0 and _change(values, step) <= SAME:
            return step
    return lag


def seam(values: Grey, axis: int) -> tuple[float, float]:
    """How much a tile changes across its seam, and how much between neighbours inside.

    In steps of 8 bits; `axis` 1 is the seam between its right and its left edge. Inside it is the
    change that 95 % of the neighbouring columns stay under, so that a busy tile may change more.
    """
    turned = values if axis == 1 else values.T
    across = float(np.abs(turned[:, 0] - turned[:, -1]).mean())
    steps = np.abs(np.diff(turned, axis=1)).mean(axis=0)
    return across, float(np.quantile(steps, 0.95)) if steps.size else 0.0


def features(values: Grey) -> float:
    """How strong the features are that an eye would find again in every repeat of a tile.

    The spread, in steps of 8 bits, of what is left after blurring by a sixteenth of the tile: fine
    grain vanishes, a stain or a light corner stays. The blur goes on round the edges.
    """
    reach = max(1.0, min(values.shape) / 16)
    down, across = np.fft.fftfreq(values.shape[0]), np.fft.rfftfreq(values.shape[1])
    bell = np.exp(-2 * (np.pi * reach) ** 2 * (down[:, None] ** 2 + across**2))
    blurred = np.fft.irfft2(np.fft.rfft2(values) * bell, values.shape)
    return float(blurred.std())


def likeness(near: Grey, far: Grey) -> float:
    """Correlation of two pieces of equal shape, -1..1; 1 when neither varies."""
    a, b = near - near.mean(), far - far.mean()
    spread = float(np.sqrt((a**2).sum() * (b**2).sum()))
    if spread < 0.3 * near.size:
        return 1.0 if float(np.abs(near - far).mean()) <= SAME else 0.0
    return float((a * b).sum() / spread)
