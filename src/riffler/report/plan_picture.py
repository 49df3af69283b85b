"""A surveyed page -> the drawing of its plan: dimmed mockup, slices, guides, numbered findings."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from pathlib import Path
from typing import TYPE_CHECKING

import numpy as np

from riffler.color import on_ground
from riffler.cutlist.resolved import ResolvedSlice
from riffler.cutlist.roles import Tile
from riffler.files import as_typed, refuse_ending, refuse_over, write_whole
from riffler.geometry import Box
from riffler.plan.finding import Finding
from riffler.plan.subject import Subject
from riffler.report.labels import Area, Label, placed, spread
from riffler.report.sheet import ASCENT, Sheet, Stroke, shortened, width_of, wrapped
from riffler.report.wording import plural

if TYPE_CHECKING:
    from PIL import Image

#: The sheet and its parts, in pixels: head, guides' names, labels beside the page, list.
WIDTH, HEIGHT, MARGIN = 1280, 800, 20
HEAD, RIM_TOP, RIM_LEFT, BESIDE, LIST = 44, 40, 84, 128, 312

PAPER, INK, FAINT, GUIDE, ALARM = "#f4f2ee", "#211f1b", "#7d776c", "#a49c8d", "#c8202f"

#: How each role is drawn: colour, width, dashes. Patterns tell them apart without colour, too.
ROLES = {
    "picture": Stroke("#0b6e7d", 1.6),
    "hero": Stroke("#8a3a1c", 2.8),
    "icon": Stroke("#2f7436", 1.6, (2.0, 2.0)),
    "tile": Stroke("#a85a00", 1.6, (9.0, 3.0, 2.0, 3.0)),
    "panel": Stroke("#a01d68", 1.6, (12.0, 4.0)),
    "words": Stroke("#5b45c2", 1.2, (5.0, 3.0)),
}

NAME, SMALL = 11, 10

#: How much of the mockup's own colours is left.
DIMMED = 0.42


@dataclass(frozen=True)
class _Shown:
    """A slice on the sheet: what may be written at it, the fullest first, its box, the slice."""

    names: tuple[str, ...]
    area: Area
    slice: ResolvedSlice


def write(subject: Subject, findings: Sequence[Finding], path: Path) -> None:
    """Draw the plan to a .png or .svg. Raises RifflerError for another ending."""
    refuse_ending(path, (".png", ".svg"))
    refuse_over(path, subject.mockup.path)
    sheet = draw(subject, findings)
    write_whole(path, sheet.to_svg() if path.suffix.lower() == ".svg" else sheet.to_png())


def draw(subject: Subject, findings: Sequence[Finding]) -> Sheet:
    """The whole sheet. `findings` keep the numbers that the survey gave them."""
    sheet = Sheet(WIDTH, HEIGHT, PAPER)
    own = [
        (number, finding) for number, finding in enumerate(findings, start=1)
        if _is_here(subject, finding)
    ]  # fmt: skip
    _head(sheet, subject, len(own))
    room_x = WIDTH - 2 * MARGIN - LIST - RIM_LEFT - 2 * BESIDE
    room_y = HEIGHT - HEAD - RIM_TOP - MARGIN
    scale = min(room_x / subject.canvas.width, room_y / subject.canvas.height)
    width, height = subject.canvas.width * scale, subject.canvas.height * scale
    left = MARGIN + RIM_LEFT + BESIDE + (room_x - width) / 2
    paper = Area(round(left), HEAD + RIM_TOP, round(width), round(height))
    sheet.picture(paper.x, paper.y, _dimmed(subject, round(width), round(height)))
    sheet.frame(paper.x - 0.5, paper.y - 0.5, paper.width + 1, paper.height + 1, Stroke(GUIDE))
    _guides(sheet, subject, paper, scale)
    shown = [_Shown(_names(slice_), _area(slice_.box & subject.canvas, paper, scale), slice_)
             for slice_ in subject.slices]  # fmt: skip
    for each in sorted(shown, key=lambda item: -item.area.width * item.area.height):
        _outline(sheet, each)
    discs = _discs(own, {each.slice.box for each in shown}, paper, scale)
    _labels(sheet, [each for each in shown if each.names], paper, [area for _, area in discs])
    for number, area in discs:
        _disc(sheet, number, area)
    _list(sheet, own, {each.slice.role.name for each in shown})
    return sheet


def _is_here(subject: Subject, finding: Finding) -> bool:
    names = {each.name for each in subject.slices}
    return finding.slice in names or (
        not finding.slice and finding.said_at.path == subject.file.path
    )


def _head(sheet: Sheet, subject: Subject, count: int) -> None:
    file, mockup = subject.file, subject.mockup
    name = as_typed(file.path)
    sheet.text(MARGIN, 30, name, 17, INK)
    size = f"{mockup.size.width} x {mockup.size.height} px"
    density = f", density {subject.density:g}" if subject.density != 1 else ""
    found = plural(count, "finding") if count else "nothing found"
    said = (
        f"{file.cutlist.mockup}, {size}{density}: {plural(len(subject.slices), 'slice')}, {found}"
    )
    sheet.text(MARGIN + width_of(name, 17) + 14, 30, said, 12, FAINT)


def _dimmed(subject: Subject, width: int, height: int) -> Image.Image:
    """The mockup at the size of the sheet, its colours drawn back towards paper."""
    from PIL import Image

    mockup = subject.mockup
    bands = []
    for band in mockup.box.bands(max(64, 2_000_000 // mockup.size.width)):
        pixels = subject.renderer.render(band, 1.0, mockup.drawn)
        flat = on_ground(pixels, (1.0, 1.0, 1.0))[..., :3]
        rows = max(1, round(band.bottom * height / mockup.size.height)) - round(
            band.y * height / mockup.size.height
        )
        if rows > 0:
            piece = Image.fromarray(np.ascontiguousarray(flat), "RGB")
            bands.append(np.asarray(piece.resize((width, rows), Image.Resampling.BOX)))
    whole = np.concatenate(bands)[:height].astype(np.float32)
    grey = whole.mean(axis=2, keepdims=True)
    calm = grey + (whole - grey) * 0.6
    paper = np.array((244, 242, 238), np.float32)
    return Image.fromarray((paper + (calm - paper) * DIMMED).astype(np.uint8), "RGB")


def _names(slice_: ResolvedSlice) -> tuple[str, ...]:
    """What is written at a slice: its name, with its states; a row is named at its first box."""
    times = slice_.entry.table.times
    name = slice_.name
    if times is not None and times.count > 1:
        if slice_.entry.index:
            return ()
        name = f"{slice_.entry.keys[1]} x {times.count}"
    states = [state.name for state in slice_.states if state.name]
    return (f"{name} +{' +'.join(states)}", name) if states else (name,)


def _area(box: Box, paper: Area, scale: float) -> Area:
    return Area(
        paper.x + box.x * scale, paper.y + box.y * scale, box.width * scale, box.height * scale
    )


def _outline(sheet: Sheet, each: _Shown) -> None:
    area, stroke = each.area, ROLES[each.slice.role.name]
    sheet.area(area.x, area.y, area.width, area.height, stroke.color, opacity=0.10)
    if isinstance(each.slice.role, Tile):
        _hatch(sheet, area, stroke.color)
    inset = stroke.width / 2
    sheet.frame(
        area.x + inset, area.y + inset,
        max(0.0, area.width - stroke.width), max(0.0, area.height - stroke.width), stroke,
    )  # fmt: skip
    for index in range(len(each.slice.states) - 1):
        x = area.x + area.width - 7 - 6 * index
        sheet.area(x, area.y + area.height - 7, 4, 4, stroke.color, radius=2)


def _hatch(sheet: Sheet, area: Area, color: str) -> None:
    """Slanting lines across a tile, which goes on beyond its box."""
    step = 9.0
    start = area.x - area.height
    while start < area.x + area.width:
        x, x_end = max(start, area.x), min(start + area.height, area.x + area.width)
        if x_end > x:
            y, y_end = area.y + area.height - (x - start), area.y + area.height - (x_end - start)
            sheet.line(((x, y), (x_end, y_end)), Stroke(color, 0.6))
        start += step


def _guides(sheet: Sheet, subject: Subject, paper: Area, scale: float) -> None:
    hair = Stroke(GUIDE, 0.7, (1.5, 2.5))
    across = _positions(subject, "y")
    wanted = [paper.y + at * scale for _, at in across]
    for (name, at), y in zip(across, spread(wanted, 12, paper.y, HEIGHT - MARGIN), strict=True):
        edge = paper.y + at * scale
        end = MARGIN + RIM_LEFT
        sheet.line(((end, y), (end + 10, edge), (paper.x + paper.width, edge)), hair)
        sheet.text(end - 4, y + 3.5, shortened(name, SMALL, RIM_LEFT - 6), SMALL, FAINT,
                   anchor="end")  # fmt: skip
    ends = [-1e9, -1e9, -1e9]
    for name, at in _positions(subject, "x"):
        x = paper.x + at * scale
        wide = width_of(name, SMALL)
        row = next((row for row, end in enumerate(ends) if x - wide / 2 > end + 6), None)
        sheet.line(((x, paper.y - 4), (x, paper.y + paper.height)), hair)
        if row is not None:
            ends[row] = x + wide / 2
            sheet.text(x, paper.y - 7 - 11 * row, name, SMALL, FAINT, anchor="middle")


def _positions(subject: Subject, axis: str) -> list[tuple[str, float]]:
    ruler = subject.file.ruler("x" if axis == "x" else "y")
    found = [(name, ruler.position(name)) for name in ruler.guides]
    for name, grid in ruler.grids.items():
        cells = range(1, grid.count + 1)
        found.extend((f"{name}-{number}", ruler.cell(name, number)[0]) for number in cells)
    return sorted(found, key=lambda item: item[1])


def _labels(sheet: Sheet, shown: Sequence[_Shown], paper: Area, taken: Sequence[Area]) -> None:
    """Names at their boxes where there is room; the others beside the page, joined by a line."""
    boxes = [each.area for each in shown]
    found = placed([each.names for each in shown], boxes, NAME, taken, paper)
    for label in found:
        _label(sheet, shown[label.index], label)
    done = {label.index for label in found}
    rest = [index for index in range(len(shown)) if index not in done]
    middle = paper.x + paper.width / 2
    for side in ("left", "right"):
        own = [
            index for index in rest
            if (boxes[index].x + boxes[index].width / 2 < middle) == (side == "left")
        ]  # fmt: skip
        own.sort(key=lambda index: boxes[index].y + boxes[index].height / 2)
        wanted = [boxes[index].y + boxes[index].height / 2 for index in own]
        for index, y in zip(own, spread(wanted, 13, paper.y + 6, HEIGHT - MARGIN), strict=True):
            _beside(sheet, shown[index], y, paper, side)


def _label(sheet: Sheet, each: _Shown, label: Label) -> None:
    area, color = label.area, ROLES[each.slice.role.name].color
    if label.is_apart:
        x = min(max(area.x + 8, each.area.x + 3), each.area.x + each.area.width - 3)
        below = area.y > each.area.y
        start = area.y if below else area.y + area.height
        end = each.area.y + each.area.height if below else each.area.y
        sheet.line(((x, start), (x, end)), Stroke(color, 0.8))
    sheet.area(area.x, area.y, area.width, area.height, PAPER, radius=2, opacity=0.88)
    sheet.text(area.x + 4, area.y + area.height / 2 + NAME * ASCENT / 2, label.text, NAME, color)


def _beside(sheet: Sheet, each: _Shown, y: float, paper: Area, side: str) -> None:
    area, color = each.area, ROLES[each.slice.role.name].color
    name = shortened(each.names[-1], NAME, BESIDE - 22)
    is_left = side == "left"
    edge, out = (paper.x, -1) if is_left else (paper.x + paper.width, 1)
    near = area.x if is_left else area.x + area.width
    middle = area.y + area.height / 2
    points = ((edge + 19 * out, y), (edge + 6 * out, middle), (near, middle))
    sheet.line(points, Stroke(color, 0.7))
    anchor = "end" if is_left else "start"
    sheet.text(edge + 22 * out, y + 4, name, NAME, color, anchor=anchor)


def _discs(
    own: Sequence[tuple[int, Finding]], whole: set[Box], paper: Area, scale: float
) -> list[tuple[int, Area]]:
    """Where the numbers of the findings stand: at their places, beside each other if need be."""
    found: list[tuple[int, Area]] = []
    for number, finding in own:
        if finding.place is None:
            continue
        area = _area(finding.place, paper, scale)
        x, y = area.x + area.width / 2, area.y + area.height / 2
        if (
            finding.place in whole
        ):  # about the whole slice: at its corner, so that it stays in sight
            x, y = area.x + area.width - 3, area.y + 3
        x = min(max(x, paper.x), paper.x + paper.width)
        wide = 15 if number < 10 else 20
        around = Area(paper.x - 20, paper.y - 8, paper.width + 40, paper.height + 16)
        area = _free(Area(x - wide / 2, y - 7.5, wide, 15), [other for _, other in found], around)
        found.append((number, area))
    return found


def _free(wanted: Area, taken: Sequence[Area], around: Area) -> Area:
    """The free place that is nearest to the wanted one."""
    steps = [(across * (wanted.width + 1), down * 16.0)
             for across in range(-9, 10) for down in range(-12, 13)]  # fmt: skip
    for across, down in sorted(steps, key=lambda step: step[0] ** 2 + step[1] ** 2):
        area = Area(wanted.x + across, wanted.y + down, wanted.width, wanted.height)
        if around.holds(area) and not any(area.meets(other) for other in taken):
            return area
    return wanted


def _disc(sheet: Sheet, number: int, area: Area) -> None:
    sheet.area(area.x - 1, area.y - 1, area.width + 2, area.height + 2, PAPER, radius=8.5)
    sheet.area(area.x, area.y, area.width, area.height, ALARM, radius=7.5)
    sheet.text(area.x + area.width / 2, area.y + 11.3, str(number), SMALL, "#ffffff",
               anchor="middle")  # fmt: skip


def _list(sheet: Sheet, own: Sequence[tuple[int, Finding]], roles: set[str]) -> None:
    """What the outlines mean, then the findings in words."""
    x, y = WIDTH - MARGIN - LIST + 28, float(HEAD + RIM_TOP - 24)
    width = LIST - 28
    place = float(x)
    for role, stroke in ROLES.items():
        if role in roles:
            wide = 26 + width_of(role, NAME) + 14
            if place + wide > WIDTH - MARGIN + 14:
                place, y = x, y + 18
            sheet.line(((place, y), (place + 20, y)), stroke)
            sheet.text(place + 26, y + 4, role, NAME, INK)
            place += wide
    y += 30
    sheet.line(((x, y - 14), (x + width, y - 14)), Stroke(GUIDE, 0.7))
    if not own:
        sheet.text(x, y + 6, "Nothing found.", 12, FAINT)
    messages = [wrapped(finding.message, NAME, width - 26, 3) for _, finding in own]
    room = HEIGHT - MARGIN - y
    most = next((most for most in (3, 2, 1) if _height(messages, most) <= room), 0)
    for index, (number, finding) in enumerate(own):
        if y > HEIGHT - MARGIN - 12 and index < len(own) - 1:
            sheet.text(x + 26, y + 4, f"and {len(own) - index} more: riffler survey", NAME, FAINT)
            return
        _disc(sheet, number, Area(x, y - 8, 15 if number < 10 else 20, 15))
        sheet.text(x + 26, y + 3, finding.kind, 12, ALARM)
        name = shortened(finding.slice or "", NAME, width - 40 - width_of(finding.kind, 12))
        sheet.text(x + 34 + width_of(finding.kind, 12), y + 3, name, NAME, INK)
        for line in wrapped(finding.message, NAME, width - 26, most) if most else ():
            y += 14
            sheet.text(x + 26, y + 3, line, NAME, FAINT)
        y += 22


def _height(messages: Sequence[Sequence[str]], most: int) -> int:
    """How high the list is when each message takes at most so many lines."""
    return sum(22 + 14 * min(most, len(lines)) for lines in messages)
