"""A mockup -> a contact sheet: every layer by itself on a checkerboard, with its name."""

from __future__ import annotations

import math
from typing import TYPE_CHECKING

from riffler.color import Pixels, to_bytes
from riffler.cutlist.shown import switched
from riffler.errors import RifflerError
from riffler.geometry import Box
from riffler.mockup.model import Layer, drawings
from riffler.project.target import Target
from riffler.render.renderer import Renderer
from riffler.report.sheet_drawing import as_png

if TYPE_CHECKING:
    from PIL import Image
    from PIL.ImageFont import FreeTypeFont, ImageFont

    Font = FreeTypeFont | ImageFont

#: Sheet and cells, in pixels.
WIDTH, COLUMNS, GAP, MARGIN = 1280, 6, 16, 32
PICTURE_HEIGHT, CAPTION = 128, 44
SQUARE = 8

#: Layers on one sheet at most: beyond this a sheet is no help to anyone.
MOST = 400

PAPER, INK, FAINT, RIM = "#f3f1ec", "#26241f", "#7a756a", "#cfc9bc"

#: The squares under layers, and under layers so pale that they would vanish on light ones.
LIGHT_BOARD, DARK_BOARD = ("#ffffff", "#e9e6df"), ("#5b5750", "#67635b")
PALE = 0.62


def write(renderer: Renderer, target: Target) -> None:
    """Draw the sheet to a PNG.

    Raises RifflerError for another ending, a file that may not be written over, or too many layers.
    """
    target.check((".png",), (renderer.mockup.path,))
    target.write(as_png(sheet(renderer)))


def sheet(renderer: Renderer) -> Image.Image:
    """Every layer that holds paint, in listed order, six to a row; hidden ones are marked.

    A group of nothing but unnamed shapes is one drawing to a person, and so it is here.
    """
    from PIL import Image, ImageDraw, ImageFont

    layers = list(drawings(renderer.mockup.layers))
    if len(layers) > MOST:
        raise RifflerError(f"{len(layers)} layers are too many for one sheet.")
    width = (WIDTH - 2 * MARGIN - (COLUMNS - 1) * GAP) // COLUMNS
    height = PICTURE_HEIGHT + CAPTION
    rows = max(1, math.ceil(len(layers) / COLUMNS))
    picture = Image.new("RGB", (WIDTH, 2 * MARGIN + rows * (height + GAP) - GAP), PAPER)
    draw = ImageDraw.Draw(picture)
    name_font, note_font = ImageFont.load_default(14), ImageFont.load_default(12)
    for index, layer in enumerate(layers):
        x = MARGIN + (width + GAP) * (index % COLUMNS)
        y = MARGIN + (height + GAP) * (index // COLUMNS)
        box = renderer.painted_box(layer.address)
        picture.paste(_cell(renderer, layer, box, width), (x, y))
        draw.rectangle((x, y, x + width - 1, y + PICTURE_HEIGHT - 1), outline=RIM)
        name = _shortened(_last_two(layer.address), name_font, width)
        draw.text((x, y + PICTURE_HEIGHT + 6), name, fill=INK, font=name_font)
        draw.text((x, y + PICTURE_HEIGHT + 25), _note(layer, box), fill=FAINT, font=note_font)
    return picture


def _cell(renderer: Renderer, layer: Layer, box: Box | None, width: int) -> Image.Image:
    """One layer as large as fits, never enlarged, in the middle of a checkerboard."""
    from PIL import Image

    wanted = box and box & renderer.mockup.box
    if not wanted:
        return _checkerboard(width, PICTURE_HEIGHT, LIGHT_BOARD)
    inner_width, inner_height = width - 2 * SQUARE, PICTURE_HEIGHT - 2 * SQUARE
    scale = min(1.0, inner_width / wanted.width, inner_height / wanted.height)
    shown = switched(renderer.mockup, frozenset(), only=[layer.address])
    pixels = renderer.render(wanted, scale, shown)
    cell = _checkerboard(width, PICTURE_HEIGHT, DARK_BOARD if _is_pale(pixels) else LIGHT_BOARD)
    drawn = Image.fromarray(to_bytes(pixels).copy(order="C"), "RGBA")
    cell.paste(drawn, ((width - drawn.width) // 2, (PICTURE_HEIGHT - drawn.height) // 2), drawn)
    return cell


def _is_pale(pixels: Pixels) -> bool:
    """Whether the layer would hardly be seen on a light ground."""
    covered = float(pixels[..., 3].sum())
    light = float(pixels[..., :3].sum()) / 3
    return covered > 0 and light / covered > PALE


def _checkerboard(width: int, height: int, squares: tuple[str, str]) -> Image.Image:
    from PIL import Image, ImageDraw

    board = Image.new("RGB", (width, height), squares[0])
    draw = ImageDraw.Draw(board)
    for x in range(0, width, SQUARE):
        for y in range(0, height, SQUARE):
            if (x + y) // SQUARE % 2:
                draw.rectangle((x, y, x + SQUARE - 1, y + SQUARE - 1), fill=squares[1])
    return board


def _last_two(address: str) -> str:
    """The layer's name with that of the group around it."""
    parts = address.replace("\\/", "\0").split("/")
    return "/".join(parts[-2:]).replace("\0", "\\/")


def _note(layer: Layer, box: Box | None) -> str:
    size = f"{box.width} x {box.height}" if box else "empty"
    return f"{size}{'' if layer.visible else ', hidden'}"


def _shortened(text: str, font: Font, width: int) -> str:
    """The end of a name that is too long for its cell: the end tells layers apart."""
    while font.getlength(text) > width and len(text) > 2:
        text = "…" + text[2:]
    return text
