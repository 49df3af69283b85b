"""A site's icon -> a picture of where people meet it: tabs, bookmarks, a home screen."""

from __future__ import annotations

import io
from collections.abc import Iterator
from dataclasses import dataclass
from typing import TYPE_CHECKING

from riffler.icon.icon_files import TOUCH_FILE, Icons
from riffler.report.sheet_drawing import Sheet, Stroke, as_png, shortened, width_of

if TYPE_CHECKING:
    from PIL import Image

WIDTH, HEIGHT, MARGIN = 1280, 800, 40

PAPER, INK, FAINT = "#f3f1ec", "#26241f", "#7a756a"

#: Neutral neighbours, so that the icon is seen among others: a colour for each.
NEIGHBOURS = ("#6d8a74", "#8a7a9b", "#a5795c", "#5f7f97")


@dataclass(frozen=True)
class Scheme:
    """The colours of a browser's bars."""

    name: str
    bar: str
    tab: str
    field: str
    ink: str
    faint: str


LIGHT = Scheme("Light", "#dedbd3", "#f6f6f5", "#ffffff", "#2b2925", "#6b675e")
DARK = Scheme("Dark", "#232220", "#3a3834", "#2c2a27", "#efece5", "#aaa59a")


@dataclass(frozen=True)
class _Placed:
    """A picture on the sheet, laid on when the shapes are drawn."""

    x: float
    y: float
    picture: Image.Image


def drawn(icons: Icons, name: str) -> bytes:
    """The picture as a PNG of 1280 x 800; `name` is what the site is called."""
    sheet = Sheet(WIDTH, HEIGHT, PAPER)
    small = dict(_entries(icons))
    placed = [
        *_window(sheet, MARGIN, 76, LIGHT, small, name),
        *_window(sheet, MARGIN, 236, DARK, small, name),
        *_sizes(sheet, small),
        *_phone(sheet, 956, 76, icons, name),
    ]
    _figures(sheet, icons)
    sheet.text(MARGIN, 48, "The icon where it is met", 20, INK)
    image = sheet.to_image()
    for one_placed in placed:
        picture = one_placed.picture.convert("RGBA")
        image.paste(picture, (round(one_placed.x), round(one_placed.y)), picture)
    return as_png(image)


def _entries(icons: Icons) -> Iterator[tuple[int, Image.Image]]:
    """The pictures in favicon.ico by their sides, as another reader finds them."""
    from PIL import IcoImagePlugin, Image

    with Image.open(io.BytesIO(icons.files[0].data)) as file:
        assert isinstance(file, IcoImagePlugin.IcoImageFile)
        for side in icons.files[0].sides:
            yield side, file.ico.getimage((side, side)).convert("RGBA")


def _nearest(small: dict[int, Image.Image], side: int) -> Image.Image:
    """The picture of a side, or the next larger one reduced as a browser would."""
    from PIL import Image

    if side in small:
        return small[side]
    larger = min((s for s in small if s > side), default=max(small))
    return small[larger].resize((side, side), Image.Resampling.BILINEAR)


def _window(
    sheet: Sheet, x: float, y: float, scheme: Scheme, small: dict[int, Image.Image], name: str
) -> Iterator[_Placed]:
    """A row of tabs over a field for addresses and a row of bookmarks."""
    width = 876
    sheet.area(x, y, width, 132, scheme.bar, radius=10)
    icon = _nearest(small, 16)
    tabs = [("Notes", False), (name, True), ("Weather", False), (f"About {name}", False)]
    at = x + 12
    for number, (title, is_active) in enumerate(tabs):
        wide = 206
        if is_active:
            sheet.area(at, y + 10, wide, 36, scheme.tab, radius=8)
            sheet.area(at, y + 30, wide, 16, scheme.tab)
        elif number > 1:
            sheet.line(((at, y + 20), (at, y + 36)), Stroke(scheme.faint, 0.6))
        if is_active or number == 3:
            yield _Placed(at + 12, y + 20, icon)
        else:
            _neighbour(sheet, at + 12, y + 20, NEIGHBOURS[number % 4], number)
        ink = scheme.ink if is_active else scheme.faint
        sheet.text(at + 36, y + 33, shortened(title, 12, wide - 60), 12, ink)
        at += wide + 4
    sheet.area(x, y + 46, width, 44, scheme.tab)
    sheet.area(x + 96, y + 54, width - 200, 28, scheme.field, radius=14)
    sheet.text(x + 114, y + 72, "https://", 12, scheme.faint)
    for number in range(3):
        sheet.area(x + 16 + 26 * number, y + 64, 10, 8, scheme.faint, radius=2, opacity=0.6)
    sheet.area(x, y + 90, width, 42, scheme.tab, radius=10)
    sheet.area(x, y + 90, width, 12, scheme.tab)
    at = x + 16
    for number, title in enumerate(("Seeds", name, "Maps", "Recipes", "Library")):
        if number == 1:
            yield _Placed(at, y + 102, icon)
        else:
            _neighbour(sheet, at, y + 102, NEIGHBOURS[(number + 2) % 4], number)
        text = shortened(title, 12, 220)
        sheet.text(at + 24, y + 115, text, 12, scheme.ink)
        at += 24 + width_of(text, 12) + 28


def _neighbour(sheet: Sheet, x: float, y: float, color: str, number: int) -> None:
    """Somebody else's icon: a plain shape."""
    if number % 2:
        sheet.area(x, y, 16, 16, color, radius=8)
    else:
        sheet.area(x + 1, y + 1, 14, 14, color, radius=3)


def _sizes(sheet: Sheet, small: dict[int, Image.Image]) -> Iterator[_Placed]:
    """Each size as it is, on light and dark, and the smallest enlarged so that pixels show."""
    from PIL import Image

    y = 408
    sheet.text(MARGIN, y, "Its sizes, as they are", 14, INK)
    for row, scheme in enumerate((LIGHT, DARK)):
        top = y + 20 + row * 84
        sheet.area(MARGIN, top, 340, 72, scheme.tab, radius=8)
        at = MARGIN + 20.0
        for side, picture in sorted(small.items()):
            if side <= 64 and at + side < MARGIN + 330:
                yield _Placed(at, top + (60 - side) / 2, picture)
                sheet.text(at + side / 2, top + 66, str(side), 9, scheme.faint, anchor="middle")
                at += side + 22
    at = MARGIN + 372
    sheet.text(at, y, "16 px, enlarged", 14, INK)
    large = _nearest(small, 16).resize((156, 156), Image.Resampling.NEAREST)
    for column, scheme in enumerate((LIGHT, DARK)):
        left = at + column * 180
        sheet.area(left, y + 20, 168, 156, scheme.tab, radius=8)
        yield _Placed(left + 6, y + 20, large)
    at += 380
    if 32 in small:
        sheet.text(at, y, "32 px", 14, INK)
        sheet.area(at, y + 20, 112, 156, LIGHT.tab, radius=8)
        yield _Placed(at + 8, y + 50, small[32].resize((96, 96), Image.Resampling.NEAREST))


def _figures(sheet: Sheet, icons: Icons) -> None:
    """What was measured, in sentences."""
    judged = icons.judged
    thin = "no strokes" if judged.thinnest is None else f"thinnest stroke {judged.thinnest:g} px"
    safe = "inside" if judged.is_safe else "beyond"
    facts = (
        (f"{judged.stands_out_light:.0%}", "stands out from a light bar, 3 : 1 and more"),
        (f"{judged.stands_out_dark:.0%}", "stands out from a dark bar"),
        (f"{judged.survives:.0%}", f"of what it shows is left at 16 px; {thin}"),
        (f"{2 * judged.reach:.0%}", f"of the maskable icon's width: {safe} the safe 80 %"),
    )
    sheet.text(MARGIN, 632, "Measured", 14, INK)
    for number, (figure, meaning) in enumerate(facts):
        y = 664 + 28 * number
        sheet.text(MARGIN + 46, y, figure, 15, INK, anchor="end")
        sheet.text(MARGIN + 60, y, meaning, 12, FAINT)


def _phone(sheet: Sheet, x: float, y: float, icons: Icons, name: str) -> Iterator[_Placed]:
    """A home screen: the touch icon among others, and the maskable one under three masks."""
    from PIL import Image

    width, height = 284, 500
    sheet.area(x, y, width, height, "#3d4a44", radius=34)
    sheet.area(x + 10, y + 10, width - 20, height - 20, "#b9c6bd", radius=26)
    side, gap = 58, 22
    text = shortened(name if width_of(name, 10) <= side + 16 else name.split()[0], 10, side + 16)
    left = x + (width - 3 * side - 2 * gap) / 2
    touch = _file(icons, TOUCH_FILE).resize((side, side), Image.Resampling.LANCZOS)
    for number in range(9):
        column, row = number % 3, number // 3
        at, top = left + column * (side + gap), y + 60 + row * 92
        if number == 4:
            yield _Placed(at, top, _masked(touch, side * 0.22))
            sheet.text(at + side / 2, top + side + 16, text, 10, INK, anchor="middle")
        else:
            color = NEIGHBOURS[number % 4]
            sheet.area(at, top, side, side, color, radius=side * 0.22)
            sheet.area(at + 18, top + side + 10, side - 36, 4, FAINT, radius=2, opacity=0.5)
    masked = _file(icons, "icon-maskable-192.png")
    sheet.text(x, y + height + 36, "Under the masks of phones", 14, INK)
    for number, radius in enumerate((0.5, 0.32, 0.12)):
        cut = _masked(masked.resize((80, 80), Image.Resampling.LANCZOS), radius * 80)
        yield _Placed(x + number * 100, y + height + 52, cut)


def _file(icons: Icons, name: str) -> Image.Image:
    from PIL import Image

    data = next(file.data for file in icons.files if file.name == name)
    with Image.open(io.BytesIO(data)) as picture:
        return picture.convert("RGBA")


def _masked(picture: Image.Image, radius: float) -> Image.Image:
    """The picture with round corners, as a phone shows it."""
    from PIL import Image, ImageDraw

    wide, high = picture.size
    mask = Image.new("L", (wide * 4, high * 4))
    ImageDraw.Draw(mask).rounded_rectangle((0, 0, wide * 4 - 1, high * 4 - 1), radius * 4, fill=255)
    result = picture.copy()
    result.putalpha(mask.resize((wide, high), Image.Resampling.BOX))
    return result
