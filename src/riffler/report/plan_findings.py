"""Findings -> their numbers on the drawing of a plan, and the list of them beside it."""

from __future__ import annotations

from collections.abc import Sequence

from riffler.geometry import Box, Rect
from riffler.plan.finding import Finding
from riffler.report.sheet_drawing import Sheet, Stroke, shortened, width_of, wrapped

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


def area_of(box: Box, paper: Rect, scale: float) -> Rect:
    """A box of the mockup as it lies on the sheet, on which `paper` is the whole mockup."""
    return Rect(
        paper.x + box.x * scale, paper.y + box.y * scale, box.width * scale, box.height * scale
    )


def numbered(
    findings: Sequence[tuple[int, Finding]], whole: set[Box], paper: Rect, scale: float
) -> list[tuple[int, Rect]]:
    """Where the numbers of the findings stand: at their places, beside each other if need be."""
    result: list[tuple[int, Rect]] = []
    for number, finding in findings:
        if finding.place is None:
            continue
        area = area_of(finding.place, paper, scale)
        x, y = area.x + area.width / 2, area.y + area.height / 2
        if (
            finding.place in whole
        ):  # about the whole slice: at its corner, so that it stays in sight
            x, y = area.x + area.width - 3, area.y + 3
        x = min(max(x, paper.x), paper.x + paper.width)
        wide = 15 if number < 10 else 20
        around = Rect(paper.x - 20, paper.y - 8, paper.width + 40, paper.height + 16)
        area = _free(
            Rect(x - wide / 2, y - 7.5, wide, 15), [other_area for _, other_area in result], around
        )
        result.append((number, area))
    return result


def _free(wanted: Rect, taken: Sequence[Rect], around: Rect) -> Rect:
    """The free place that is nearest to the wanted one."""
    steps = [
        (across * (wanted.width + 1), down * 16.0)
        for across in range(-9, 10)
        for down in range(-12, 13)
    ]
    for across, down in sorted(steps, key=lambda step: step[0] ** 2 + step[1] ** 2):
        area = Rect(wanted.x + across, wanted.y + down, wanted.width, wanted.height)
        if around.contains(area) and not any(area.meets(other_area) for other_area in taken):
            return area
    return wanted


def disc(sheet: Sheet, number: int, area: Rect) -> None:
    """The number of a finding."""
    sheet.area(area.x - 1, area.y - 1, area.width + 2, area.height + 2, PAPER, radius=8.5)
    sheet.area(area.x, area.y, area.width, area.height, ALARM, radius=7.5)
    sheet.text(
        area.x + area.width / 2, area.y + 11.3, str(number), SMALL, "#ffffff", anchor="middle"
    )


def write_list(sheet: Sheet, findings: Sequence[tuple[int, Finding]], roles: set[str]) -> None:
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
    if not findings:
        sheet.text(x, y + 6, "Nothing found.", 12, FAINT)
    messages = [wrapped(finding.message, NAME, width - 26, 3) for _, finding in findings]
    room = HEIGHT - MARGIN - y
    most = next((most for most in (3, 2, 1) if _height(messages, most) <= room), 0)
    for index, (number, finding) in enumerate(findings):
        if y > HEIGHT - MARGIN - 12 and index < len(findings) - 1:
            sheet.text(
                x + 26, y + 4, f"and {len(findings) - index} more: riffler survey", NAME, FAINT
            )
            return
        disc(sheet, number, Rect(x, y - 8, 15 if number < 10 else 20, 15))
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
