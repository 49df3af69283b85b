"""The page as a tree of rows, columns and things -> text, and a drawing of their boxes."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from rich.text import Text

from riffler.files import as_typed
from riffler.geometry import Box, Rect
from riffler.plain import clean
from riffler.project.target import Target
from riffler.reading.judgement import Certainty
from riffler.reading.part import PagePart, PartKind
from riffler.render.renderer import Renderer
from riffler.report.dimmed import dimmed
from riffler.report.labels import placed
from riffler.report.screen import GAP, Screen
from riffler.report.sheet_drawing import ASCENT, Sheet, Stroke, as_png, width_of
from riffler.report.wording import plural

#: What holds others and is nothing by itself.
FRAMES = {PartKind.PAGE, PartKind.ROWS, PartKind.COLUMNS, PartKind.PILE}

#: How the outline of each kind is drawn.
STROKES = {
    PartKind.BOX: Stroke("#7d7768", 1.0, (4.0, 3.0)),
    PartKind.WORDS: Stroke("#5b45c2", 1.0, (5.0, 3.0)),
    PartKind.PICTURE: Stroke("#0b6e7d", 1.6),
    PartKind.ICON: Stroke("#2f7436", 1.6, (2.0, 2.0)),
    PartKind.TILE: Stroke("#a85a00", 1.6, (9.0, 3.0, 2.0, 3.0)),
    PartKind.HEAD: Stroke("#8a3a1c", 2.4),
    PartKind.CARD: Stroke("#a01d68", 1.8),
    PartKind.ITEM: Stroke("#a01d68", 1.2, (6.0, 3.0)),
    PartKind.TAB: Stroke("#b0480f", 1.6),
    PartKind.BUTTON: Stroke("#b0480f", 1.6),
    PartKind.LOGO: Stroke("#8a3a1c", 1.6),
}

#: The sheet, its rim, the line of names at its head, and words on it.
WIDTH, HEIGHT, MARGIN, HEAD, NAME = 1280, 800, 28, 78, 10

PAPER, INK, FAINT, RIM = "#f7f5f0", "#26241f", "#7a756a", "#cfc9bc"

Row = tuple[Text, str, str, str]


def show(screen: Screen, page: PagePart) -> None:
    """The tree: what stands under and beside one another, and why each thing is what it is."""
    things = sum(part.kind not in FRAMES for part in _walk(page))
    screen.say(f"{plural(things, 'thing')} on {page.box.width} x {page.box.height} px.")
    screen.say("")
    rows = list(_rows(page.parts, ""))
    widths = [max((len(row[column]) for row in rows), default=0) for column in range(3)]
    for name, size, place, why in rows:
        line = Text(GAP).append_text(name).append(" " * (widths[0] - len(name)) + GAP)
        line.append(size.rjust(widths[1]) + GAP).append(place.rjust(widths[2]) + GAP)
        line.append(why, style="dim")
        line.rstrip()
        screen.line(line)


def _walk(part: PagePart) -> Iterator[PagePart]:
    yield part
    for inner in part.parts:
        yield from _walk(inner)


def _rows(parts: Sequence[PagePart], stem: str) -> Iterator[Row]:
    for part in parts:
        is_last = part is parts[-1]
        name = Text(f"{stem}{'└' if is_last else '├'} ", style="dim")
        name.append(part.kind, style="dim" if part.kind in FRAMES else "bold")
        if part.layers:
            name.append(f"  {clean(part.called)}")
        size, place = f"{part.box.width} x {part.box.height}", f"{part.box.x}, {part.box.y}"
        yield name, size, place, _why(part)
        yield from _rows(part.parts, f"{stem}{'  ' if is_last else '│ '}")


def _why(part: PagePart) -> str:
    if part.kind in FRAMES:
        return ""
    texts = [part.reason] if part.reason else []
    if part.count > 1:
        steps = " and ".join(
            f"{step} px {way}"
            for step, way in zip(part.step, ("right", "down"), strict=True)
            if step
        )
        texts.append(f"the next {steps}" if steps else "of several widths")
    if part.certainty not in (None, Certainty.SURE):
        texts.append(f"({part.certainty})")
    return ", ".join(texts).replace(", (", " (")


def draw(renderer: Renderer, page: PagePart, target: Target) -> None:
    """Every thing's box over the mockup, as .png or .svg. Raises RifflerError as `Target` does."""
    target.check((".png", ".svg"), (renderer.mockup.path,))
    drawn = sheet(renderer, page)
    is_svg = target.path.suffix.lower() == ".svg"
    target.write(drawn.to_svg() if is_svg else as_png(drawn.to_image()))


def sheet(renderer: Renderer, page: PagePart) -> Sheet:
    """The drawing itself."""
    canvas = renderer.mockup.size
    scale = min((WIDTH - 2 * MARGIN) / canvas.width, (HEIGHT - HEAD - MARGIN) / canvas.height)
    width, height = round(canvas.width * scale), round(canvas.height * scale)
    drawn = Sheet(WIDTH, HEIGHT, PAPER)
    left, top = round((WIDTH - width) / 2), HEAD
    drawn.picture(left, top, dimmed(renderer, width, height))
    drawn.frame(left - 0.5, top - 0.5, width + 1, height + 1, Stroke(RIM))
    things = [part for part in _walk(page) if part.kind not in FRAMES]

    def on_sheet(box: Box) -> Rect:
        box = box & page.box
        return Rect(
            left + box.x * scale, top + box.y * scale, box.width * scale, box.height * scale
        )

    areas = [on_sheet(part.box) for part in things]
    _head(drawn, renderer, things)
    for part, area in zip(things, areas, strict=True):
        _outline(drawn, part, area)
        for other_area in (on_sheet(one_part.box) for one_part in part.others):
            thin = Stroke(STROKES[part.kind].color, 0.7)
            drawn.frame(other_area.x, other_area.y, other_area.width, other_area.height, thin)
    _names(drawn, things, areas, Rect(left, top, width, height))
    return drawn


def _outline(drawn: Sheet, part: PagePart, area: Rect) -> None:
    """The box of a thing."""
    stroke = STROKES[part.kind]
    if part.kind is not PartKind.BOX:
        drawn.area(area.x, area.y, area.width, area.height, stroke.color, opacity=0.08)
    drawn.frame(area.x, area.y, area.width, area.height, stroke)


def _names(drawn: Sheet, things: Sequence[PagePart], areas: Sequence[Rect], paper: Rect) -> None:
    """What each thing is, where there is room; words and plain boxes tell by their outlines."""
    named = [
        (part, area)
        for part, area in zip(things, areas, strict=True)
        if part.kind not in (PartKind.WORDS, PartKind.BOX)
    ]
    names = [
        (f"{part.kind} x {part.count}" if part.count > 1 else str(part.kind),) for part, _ in named
    ]
    for label in placed(names, [area for _, area in named], NAME, (), paper):
        color, at = STROKES[named[label.index][0].kind].color, label.area
        drawn.area(at.x, at.y, at.width, at.height, PAPER, radius=2, opacity=0.88)
        drawn.text(at.x + 4, at.y + at.height / 2 + NAME * ASCENT / 2, label.text, NAME, color)


def _head(drawn: Sheet, renderer: Renderer, things: Sequence[PagePart]) -> None:
    """The file, and what each outline means."""
    name = as_typed(renderer.mockup.path)
    drawn.text(MARGIN, 34, name, 17, INK)
    text = f"{renderer.mockup.size.width} x {renderer.mockup.size.height} px, as it is understood"
    drawn.text(MARGIN + width_of(name, 17) + 14, 34, text, 12, FAINT)
    x = float(MARGIN)
    used = {part.kind for part in things}
    for kind, stroke in STROKES.items():
        if kind in used:
            drawn.line(((x, 57), (x + 20, 57)), stroke)
            drawn.text(x + 26, 61, kind, 11, INK)
            x += 26 + width_of(kind, 11) + 18
