"""Art -> all the files of a site's icon, and what can be said of them."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np

from riffler.color import Bytes, Pixels, from_bytes, to_bytes
from riffler.encode import png
from riffler.errors import RifflerError
from riffler.geometry import Size
from riffler.hexcolor import parse_hex
from riffler.icon import dark, ico, judged, letters, manifest
from riffler.icon.art import Art, centered, fitted, squared
from riffler.icon.judged import BARS, Judged
from riffler.jobs.task import Drawing
from riffler.project.icon_settings import Favicon
from riffler.render.decode import decode
from riffler.render.scaling import resized
from riffler.vector.tidied import make
from riffler.workspace import Workspace

#: Sides of the picture that phones ask for, and of those in the manifest.
TOUCH, SIDES = 180, (192, 512)

#: The large picture that small ones are judged by.
LARGE = 512

#: Names that browsers ask for by themselves, and our own.
ICO, TOUCH_FILE, SVG = "favicon.ico", "apple-touch-icon.png", "icon.svg"


@dataclass(frozen=True)
class IconFile:
    """A file of the set.

    `rel` is what a link to it says, empty for what only the manifest names; `sides` are those of
    the pictures in it, none for a drawing and for the manifest.
    """

    name: str
    data: bytes
    format: str
    rel: str
    sides: tuple[int, ...]


@dataclass(frozen=True)
class Icons:
    """The whole set, and what was found of it."""

    files: tuple[IconFile, ...]
    judged: Judged


@dataclass(frozen=True)
class MakeIcons:
    """Make the set of an art.

    `by_hand` are pictures that a person drew for a size, `fonts` the files that letters may be of,
    `name` is what the site is called.
    """

    drawing: Drawing | None
    how: Favicon
    by_hand: tuple[tuple[int, bytes], ...]
    fonts: tuple[str, ...]
    name: str

    @property
    def is_long(self) -> bool:
        """Never: icons are small."""
        return False

    def run(self, workspace: Workspace) -> Icons:
        """Make all files."""
        art = Art(self.drawing, self.how)
        pictures = {
            side: to_bytes(self._at(workspace, art, side)) for side in sorted(self.how.sizes)
        }
        large = art.at(workspace, LARGE)
        if not large[..., 3].any():
            raise RifflerError("The icon would be empty: what it is of paints nothing.")
        small = from_bytes(pictures[16]) if 16 in pictures else self._at(workspace, art, 16)
        light, dim = (judged.stands_out(small, bar) for bar in BARS.values())
        ground = self.how.ground or _ground(self.how, large)
        masked, reach = self._maskable(workspace, ground)
        svg = art.svg(workspace, LARGE)
        plain = art.svg(workspace, 16)
        thin = judged.thinnest(plain, 16) if plain else None
        found_judged = Judged(
            round(light, 3),
            round(dim, 3),
            round(judged.survives(small, large), 3),
            thin,
            round(reach, 4),
        )
        files = [IconFile(ICO, ico.pack(list(pictures.values())), "ico", "icon", tuple(pictures))]
        if svg is not None:
            tidied = make(
                squared(svg), "the icon", limits=workspace.limits, fonts=workspace.fonts
            ).text
            text = dark.with_dark(tidied, self.how, dim)
            files.append(IconFile(SVG, text.encode(), "svg", "icon", ()))
        touch = self._touch(workspace, ground)
        files.append(IconFile(TOUCH_FILE, png.encode(touch), "png", "apple-touch-icon", (TOUCH,)))
        files += self._for_manifest(workspace, art, large, masked, ground)
        return Icons(tuple(files), found_judged)

    def _at(self, workspace: Workspace, art: Art, side: int) -> Pixels:
        """The picture of a side: by hand, or made."""
        data = dict(self.by_hand).get(side)
        if data is None:
            return art.at(workspace, side)
        picture = decode(data, f"the art for {side} px", workspace.limits)
        if picture.shape[:2] != (side, side):
            height, width = picture.shape[:2]
            raise RifflerError(
                f"The art for {side} px is {width} x {height} px.", "Draw it at its own size."
            )
        return from_bytes(picture)

    def _for_manifest(
        self, workspace: Workspace, art: Art, large: Pixels, masked: Pixels, ground: str
    ) -> Iterator[IconFile]:
        entries = []
        for side in SIDES:
            is_made = side == LARGE and side not in dict(self.by_hand)
            picture = large if is_made else self._at(workspace, art, side)
            name = f"icon-{side}.png"
            yield IconFile(name, png.encode(to_bytes(picture), keep_alpha=True), "png", "", (side,))
            entries.append((name, side, "any"))
        for side in SIDES:
            picture = masked if side == LARGE else resized(masked, Size(side, side))
            name = f"icon-maskable-{side}.png"
            yield IconFile(name, png.encode(_opaque(picture)), "png", "", (side,))
            entries.append((name, side, "maskable"))
        data = manifest.manifest(self.how, self.name, entries, ground)
        yield IconFile(manifest.FILE, data, "webmanifest", "manifest", ())

    def _maskable(self, workspace: Workspace, ground: str) -> tuple[Pixels, float]:
        """The icon on its ground with all of it inside the safe zone, and how far it reaches."""
        front = self._front(workspace, LARGE)
        share = judged.SAFE / max(judged.reach(front), 1e-6)
        side = min(LARGE, int(LARGE * min(1.0, share) - 1) // 2 * 2)
        inner = centered(self._front(workspace, side), LARGE)
        return self._grounded(workspace, inner, LARGE, ground), judged.reach(inner)

    def _touch(self, workspace: Workspace, ground: str) -> Bytes:
        """The icon on an opaque ground with a margin: phones round its corners off."""
        side = round(TOUCH * (1 - 2 * self.how.margin) / 2) * 2
        inner = centered(self._front(workspace, side), TOUCH)
        return _opaque(self._grounded(workspace, inner, TOUCH, ground))

    def _front(self, workspace: Workspace, side: int) -> Pixels:
        """What stands on the ground: the art, of letters the letters alone."""
        if self.drawing is not None:
            return Art(self.drawing, self.how).at(workspace, side)
        alone = self.how.model_copy(update={"shape": "none"})
        return Art(None, alone).at(workspace, side)

    def _grounded(self, workspace: Workspace, inner: Pixels, side: int, ground: str) -> Pixels:
        """The art on its ground: of letters the colours of their shape, all over."""
        if self.drawing is None and self.how.shape != "none" and self.how.ground is None:
            update = {"shape": "square", "outline": None, "shadow": False, "raised": False}
            back = letters.drawing(self.how.model_copy(update=update), workspace.fonts, side)
            bare = letters.without_letters(back)
            plate = fitted(bare, side, workspace)
        else:
            plate = np.empty((side, side, 4), np.float32)
            plate[:] = (*(parse_hex(ground) or (1.0, 1.0, 1.0)), 1.0)
        result: Pixels = inner + (1 - inner[..., 3:]) * plate
        return result


def _opaque(pixels: Pixels) -> Bytes:
    straight = to_bytes(pixels)
    straight[..., 3] = 255
    return straight


def _ground(how: Favicon, large: Pixels) -> str:
    """White, or what letters stand on; dark where more of the icon stands out from that."""
    if how.letters is not None:
        return (how.gradient or [how.color])[-1]
    on_white = judged.stands_out(large, (1.0, 1.0, 1.0))
    dark_bar = BARS["dark"]
    if on_white >= 0.5 or judged.stands_out(large, dark_bar) <= on_white:
        return "#ffffff"
    return "#" + "".join(f"{round(255 * part):02x}" for part in dark_bar)
