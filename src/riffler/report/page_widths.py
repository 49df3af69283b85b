"""What breaks on pages at other widths -> lines for the terminal, and data."""

from __future__ import annotations

from collections.abc import Sequence
from typing import TYPE_CHECKING, Any

from riffler.plain import clean
from riffler.report.screen import Screen

if TYPE_CHECKING:
    from riffler.fit.widths import Trouble


def show(screen: Screen, troubles: Sequence[Trouble], widths: Sequence[int]) -> None:
    """What breaks at some widths: each cause once, with the widths at which it is seen."""
    for trouble in troubles:
        at = _joined(list(trouble.widths))
        screen.line(f"{clean(trouble.page)} at {at} px: {_trouble(trouble)}")
    seen = {width for trouble in troubles for width in trouble.widths}
    if calm := [width for width in widths if width not in seen]:
        screen.say(f"At {_joined(calm)} px nothing breaks.")


def _joined(widths: Sequence[int]) -> str:
    *most, last = map(str, widths)
    return f"{', '.join(most)} and {last}" if most else last


def _trouble(trouble: Trouble) -> str:
    text = f"{clean(trouble.selector)} {trouble.kind}"
    if trouble.other:
        text += f" ({clean(trouble.other)})"
    if trouble.count > 1:
        text += f", {trouble.count} times"
    if trouble.most is not None:
        most = " at the most" if len(set(trouble.widths.values())) > 1 else ""
        text += f", by {trouble.most:g} px{most}"
    return text


def as_data(trouble: Trouble) -> dict[str, Any]:
    """What is printed as JSON."""
    return {
        "page": trouble.page,
        "kind": trouble.kind,
        "element": trouble.selector,
        "other": trouble.other or None,
        "count": trouble.count,
        "at": [{"width": width, "by": by} for width, by in trouble.widths.items()],
    }
