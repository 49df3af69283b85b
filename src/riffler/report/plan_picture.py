"""A surveyed page -> the drawing of its plan: dimmed mockup, slices, guides, numbered findings."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from riffler.cutlist.resolved import ResolvedSlice
from riffler.cutlist.roles import Tile
from riffler.files import as_typed
from riffler.geometry import Rect
from riffler.plan.finding import Finding
from riffler.plan.subject import Subject
from riffler.project.target import Target
from riffler.report.dimmed import dimmed
from riffler.report.labels import Label, placed, spread
from riffler.report.plan_findings import (
    BESIDE,
    FAINT,
    GUIDE,
    HEAD,
    HEIGHT,
    INK,
    LIST,
    MARGIN,
    NAME,
    PAPER,
    RIM_LEFT,
    RIM_TOP,
    ROLES,
    SMALL,
    WIDTH,
    area_of,
    disc,
    numbered,
    write_list,
)
from riffler.report.sheet_drawing import ASCENT, Sheet, Stroke, as_png, shortened, width_of
from riffler.report.wording import plural


@dataclass(frozen=True)
class _Shown:
    """A slice on the sheet: what may be written at it, the fullest first, its box, the slice."""

    names: tuple[str, ...]
    area: Rect
    slice: ResolvedSlice


def write(subject: Subject, findings: Sequence[Finding], target: Target) -> None:
    """Draw the plan to a .png or .svg.

    Raises RifflerError for another ending, or a file that may not be written over.
    """
    target.check((".png", ".svg"), (subject.mockup.path,))
    sheet = draw(subject, findings)
    is_svg = target.path.suffix.lower() == ".svg"
    target.write(sheet.to_svg() if is_svg else as_png(sheet.to_image()))


def draw(subject: Subject, findings: Sequence[Finding]) -> Sheet:
    """The whole sheet. `findings` keep the numbers that the survey gave them."""
    sheet = Sheet(WIDTH, HEIGHT, PAPER)
    findings_shown = [
        (number, finding)
        for number, finding in enumerate(findings, start=1)
        if _is_here(subject, finding)
    ]
    _head(sheet, subject, len(findings_shown))
    room_x = WIDTH - 2 * MARGIN - LIST - RIM_LEFT - 2 * BESIDE
    room_y = HEIGHT - HEAD - RIM_TOP - MARGIN
    scale = min(room_x / subject.canvas.width, room_y / subject.canvas.height)
    width, height = subject.canvas.width * scale, subject.canvas.height * scale
    left = MARGIN + RIM_LEFT + BESIDE + (room_x - width) / 2
    paper = Rect(round(left), HEAD + RIM_TOP, round(width), round(height))
    sheet.picture(paper.x, paper.y, dimmed(subject.renderer, round(width), round(height)))
    sheet.frame(paper.x - 0.5, paper.y - 0.5, paper.width + 1, paper.height + 1, Stroke(GUIDE))
    _guides(sheet, subject, paper, scale)
    shown = [
        _Shown(_names(slice_), area_of(slice_.box & subject.canvas, paper, scale), slice_)
        for slice_ in subject.slices
    ]
    for each_shown in sorted(shown, key=lambda item: -item.area.width * item.area.height):
        _outline(sheet, each_shown)
    discs = numbered(findings_shown, {each_shown.slice.box for each_shown in shown}, paper, scale)
    _labels(
        sheet,
        [each_shown for each_shown in shown if each_shown.names],
        paper,
        [area for _, area in discs],
    )
    for number, area in discs:
        disc(sheet, number, area)
    write_list(sheet, findings_shown, {each_shown.slice.role.name for each_shown in shown})
    return sheet


def _is_here(subject: Subject, finding: Finding) -> bool:
    names = {resolved.name for resolved in subject.slices}
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
    text = (
        f"{file.cutlist.mockup}, {size}{density}: {plural(len(subject.slices), 'slice')}, {found}"
    )
    sheet.text(MARGIN + width_of(name, 17) + 14, 30, text, 12, FAINT)


def _names(slice_: ResolvedSlice) -> tuple[str, ...]:
    """What is written at a slice: its name, with its states; a row is named at its first box."""
    times = slice_.entry.table.times
    name = slice_.name
    if times is not None and times.total > 1:
        if slice_.entry.index:
            return ()
        name = f"{slice_.entry.keys[1]} x {times.total}"
    states = [state.name for state in slice_.states if state.name]
    return (f"{name} +{' +'.join(states)}", name) if states else (name,)


def _outline(sheet: Sheet, shown: _Shown) -> None:
    area, stroke = shown.area, ROLES[shown.slice.role.name]
    sheet.area(area.x, area.y, area.width, area.height, stroke.color, opacity=0.10)
    if isinstance(shown.slice.role, Tile):
        _hatch(sheet, area, stroke.color)
    inset = stroke.width / 2
    sheet.frame(
        area.x + inset,
        area.y + inset,
        max(0.0, area.width - stroke.width),
        max(0.0, area.height - stroke.width),
        stroke,
    )
    for index in range(len(shown.slice.states) - 1):
        x = area.x + area.width - 7 - 6 * index
        sheet.area(x, area.y + area.height - 7, 4, 4, stroke.color, radius=2)


def _hatch(sheet: Sheet, area: Rect, color: str) -> None:
    """Slanting lines across a tile, which goes on beyond its box."""
    step = 9.0
    start = area.x - area.height
    while start < area.x + area.width:
        x, x_end = max(start, area.x), min(start + area.height, area.x + area.width)
        if x_end > x:
            y, y_end = area.y + area.height - (x - start), area.y + area.height - (x_end - start)
            sheet.line(((x, y), (x_end, y_end)), Stroke(color, 0.6))
        start += step


def _guides(sheet: Sheet, subject: Subject, paper: Rect, scale: float) -> None:
    hair = Stroke(GUIDE, 0.7, (1.5, 2.5))
    across = _positions(subject, "y")
    wanted = [paper.y + at * scale for _, at in across]
    for (name, at), y in zip(across, spread(wanted, 12, paper.y, HEIGHT - MARGIN), strict=True):
        edge = paper.y + at * scale
        end = MARGIN + RIM_LEFT
        sheet.line(((end, y), (end + 10, edge), (paper.x + paper.width, edge)), hair)
        sheet.text(
            end - 4, y + 3.5, shortened(name, SMALL, RIM_LEFT - 6), SMALL, FAINT, anchor="end"
        )
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
    result = [(name, ruler.position(name)) for name in ruler.guides]
    for name, grid in ruler.grids.items():
        cells = range(1, grid.count + 1)
        result.extend((f"{name}-{number}", ruler.cell(name, number)[0]) for number in cells)
    return sorted(result, key=lambda item: item[1])


def _labels(sheet: Sheet, shown: Sequence[_Shown], paper: Rect, taken: Sequence[Rect]) -> None:
    """Names at their boxes where there is room; the others beside the page, joined by a line."""
    boxes = [each_shown.area for each_shown in shown]
    labels = placed([each_shown.names for each_shown in shown], boxes, NAME, taken, paper)
    for label in labels:
        _label(sheet, shown[label.index], label)
    done = {label.index for label in labels}
    rest = [index for index in range(len(shown)) if index not in done]
    middle = paper.x + paper.width / 2
    for side in ("left", "right"):
        own = [
            index
            for index in rest
            if (boxes[index].x + boxes[index].width / 2 < middle) == (side == "left")
        ]
        own.sort(key=lambda index: boxes[index].y + boxes[index].height / 2)
        wanted = [boxes[index].y + boxes[index].height / 2 for index in own]
        for index, y in zip(own, spread(wanted, 13, paper.y + 6, HEIGHT - MARGIN), strict=True):
            _beside(sheet, shown[index], y, paper, side)


def _label(sheet: Sheet, shown: _Shown, label: Label) -> None:
    area, color = label.area, ROLES[shown.slice.role.name].color
    if label.is_apart:
        x = min(max(area.x + 8, shown.area.x + 3), shown.area.x + shown.area.width - 3)
        below = area.y > shown.area.y
        start = area.y if below else area.y + area.height
        end = shown.area.y + shown.area.height if below else shown.area.y
        sheet.line(((x, start), (x, end)), Stroke(color, 0.8))
    sheet.area(area.x, area.y, area.width, area.height, PAPER, radius=2, opacity=0.88)
    sheet.text(area.x + 4, area.y + area.height / 2 + NAME * ASCENT / 2, label.text, NAME, color)


def _beside(sheet: Sheet, shown: _Shown, y: float, paper: Rect, side: str) -> None:
    area, color = shown.area, ROLES[shown.slice.role.name].color
    name = shortened(shown.names[-1], NAME, BESIDE - 22)
    is_left = side == "left"
    edge, out = (paper.x, -1) if is_left else (paper.x + paper.width, 1)
    near = area.x if is_left else area.x + area.width
    middle = area.y + area.height / 2
    points = ((edge + 19 * out, y), (edge + 6 * out, middle), (near, middle))
    sheet.line(points, Stroke(color, 0.7))
    anchor = "end" if is_left else "start"
    sheet.text(edge + 22 * out, y + 4, name, NAME, color, anchor=anchor)
