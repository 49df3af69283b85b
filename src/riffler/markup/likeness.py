"""Members of a list -> how far they are alike: parts in order, looks, and the widths they share."""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Iterable, Sequence

from riffler.markup.element import BREAK, Element
from riffler.markup.extents import hugs
from riffler.markup.fields import free
from riffler.markup.places import LEAST
from riffler.markup.setting import widest
from riffler.tokens.palette import hue

#: The share of its parts that members of a list must have in common.
COMMON = 0.6


def usual_css(every: Sequence[dict[str, str]]) -> dict[str, str]:
    """The declarations that most members have."""
    result = {}
    for key in dict.fromkeys(key for css in every for key in css):
        values = Counter(css.get(key) for css in every)
        value, _ = max(values.items(), key=lambda pair: pair[1])
        if value is not None:
            result[key] = value
    return result


def keep_lines(element: Element, members: Sequence[Element]) -> None:
    """The most that a text may take so that none of several begins new lines elsewhere."""
    settings = [
        element.area.setting for element in members if element.area and element.area.setting
    ]
    if len(settings) < len(members) or all(len(setting.lines) < 2 for setting in settings):
        return
    needed = max(setting.width for setting in settings)
    too_wide = min(setting.next_words for setting in settings)
    has_width = any("max-width" in element.css for element in members)
    element.css.pop("max-width", None)
    if needed + LEAST < too_wide:
        if has_width:
            element.css["max-width"] = f"{widest(needed, too_wide):g}px"
            if element.css.get("text-align") == "center":
                element.css["margin-inline"] = "auto"
        return
    for one_element, setting in zip(members, settings, strict=True):
        one_element.content = [BREAK.join(line.text for line in setting.lines)]


def keep_width(element: Element, members: Sequence[Element]) -> None:
    """Labels of several lengths in boxes of one width: the width is meant."""
    areas = [element.area for element in members]
    if not all(area is not None and hugs(area) for area in areas) or "width" not in element.css:
        return
    widths = [area.box.width for area in areas if area]
    texts = [setting.width for area in areas if area for setting in area.words()]
    if max(widths) - min(widths) <= 1 and texts and max(texts) - min(texts) > 2:
        element.css |= {"width": f"{round(widths[0])}px", "text-align": "center"}
        element.css.pop("padding-inline", None)


def aligned(wanted: Sequence[Element], elements: Sequence[Element]) -> list[Element | None]:
    """For each wanted element the one that is given in its place, in order, or None."""
    result: list[Element | None] = []
    other_elements = list(elements)
    spare = len(wanted) - len(elements)
    for element in wanted:
        if other_elements and (
            _alike(element, other_elements[0])
            and (spare <= 0 or _is_same(element, other_elements[0]))
        ):
            result.append(other_elements.pop(0))
        elif spare > 0:
            result.append(None)
            spare -= 1
        else:
            result.append(other_elements.pop(0) if other_elements else None)
    return result


def _alike(first: Element, second: Element) -> bool:
    return first.tag == second.tag


def _is_same(first: Element, second: Element) -> bool:
    """Whether two are the same part of members, by what they are called and how they are set."""
    if first.tag != second.tag or first.name != second.name:
        return False
    a, b = first.area, second.area
    if a is None or b is None:
        return True
    if a.setting is not None and b.setting is not None:
        return (a.setting.type.size, a.setting.type.weight) == (
            b.setting.type.size,
            b.setting.type.weight,
        )
    return (a.shape, a.ground is None, len(a.parts)) == (b.shape, b.ground is None, len(b.parts))


def have_enough(columns: Sequence[Sequence[Element | None]], members: Sequence[Element]) -> bool:
    """Whether all that is in members has its place, and most places are filled."""
    filled = [sum(element is not None for element in column) for column in columns]
    if any(count < len(member.inner) for count, member in zip(filled, members, strict=True)):
        return False
    return sum(filled) >= COMMON * len(columns[0]) * len(members)


def difference(look: dict[str, str | None], usual: dict[str, str | None]) -> dict[str, str]:
    """The declarations that make a usual look another, in a box of the same size."""
    initial = {"background": "none", "box-shadow": "none", "border-radius": "0"}
    css = {
        key: value or initial.get(key, "inherit")
        for key, value in look.items()
        if value != usual.get(key)
    }
    if "border" in css and not look["border"]:
        del css["border"]
        css["border-color"] = "transparent"
    elif "border" in css and not usual.get("border") and not look.get("box-shadow"):
        width, _, color = css.pop("border").split(" ", 2)
        css["box-shadow"] = f"inset 0 0 0 {width} {color}"
    return css


def look_name(look: dict[str, str | None], usual: dict[str, str | None], taken: set[str]) -> str:
    """What a look is called: by the colour that makes it another."""
    for key in ("background", "color", "border"):
        value = look.get(key)
        color = re.search(r"#[0-9a-f]{6}", value or "")
        if value != usual.get(key) and color:
            return free(hue(color[0]), taken)
    return free("other", taken)


def is_positioned(element: Element) -> bool:
    """Whether other things are placed by it, and it is not only nudged itself."""
    return "position" in element.css and "top" not in element.css


def painted_alike(
    names: Iterable[str], element: Element, pairs: Sequence[tuple[Element, Element]]
) -> dict[str, str]:
    """What members have in common in the narrow mockup; `pairs` are members and their twins.

    Of what things are painted with, by these names, it is what all have there that have it here as
    the element that was made of them; it stays as it is where these don't agree.
    """
    css: dict[str, str | None] = {**usual_css([twin.css for _, twin in pairs])}
    for name in names:
        usual = element.css.get(name)
        values = {twin.css.get(name) for member, twin in pairs if member.css.get(name) == usual}
        css[name] = values.pop() if len(values) == 1 else usual
    return {name: value for name, value in css.items() if value}


def all_looks(members: Sequence[Element]) -> dict[str, dict[str, str]]:
    """The states of all members; where several have one, as the member with the most has it."""
    looks: dict[str, dict[str, str]] = {}
    for member in sorted(members, key=lambda member: -len(member.looks)):
        looks |= {state: css for state, css in member.looks.items() if state not in looks}
    return looks
