"""A drawing in both versions -> what of it is another now."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace
from functools import partial
from typing import TypeAlias

from riffler.analyse.style import Radii, Style
from riffler.changes import of_art, of_boxes, of_words
from riffler.changes.change import Aspect, Change, ChangeKind
from riffler.changes.version import Both, Version, VersionThing
from riffler.geometry import Rect
from riffler.mockup.model import Layer

#: CSS pixels by which something moved or grew at the least, as a document says it and as pixels do.
SAID, SEEN = 0.05, 0.3

#: The share of its size by which the middle of what is drawn anew may lie elsewhere.
IN_PLACE = 0.25


Moves: TypeAlias = tuple[float, float, float, float]
"""How far something moved right and down, and grew across and down, in CSS pixels."""

STILL: Moves = (0.0, 0.0, 0.0, 0.0)


@dataclass(frozen=True)
class Compared:
    """What of a drawing changed: kinds with their aspects, and how far it moved and grew."""

    differences: tuple[tuple[ChangeKind, tuple[Aspect, ...]], ...] = ()
    by: Moves = STILL


def compared(
    old: Version, new: Version, first: VersionThing, second: VersionThing
) -> Iterator[Change]:
    """The changes of one pair."""
    is_same = (first.essence, first.placed, old.density) == (
        second.essence,
        second.placed,
        new.density,
    )
    result = list(laid(first.layer, second.layer))
    if is_same and not result:
        return
    was, now = _boxes(old, new, first, second)
    shows = old.shows(first) or new.shows(second)
    change = partial(Change, old=first.address, new=second.address, was=was, now=now, shows=shows)
    if not is_same:
        paint = _compared(old, new, first, second, was, now)
        result[:0] = paint.differences
        dx, dy, dw, dh = paint.by
        if any(paint.by):
            kind = ChangeKind.RESIZED if dw or dh else ChangeKind.MOVED
            yield change(kind, dx=dx, dy=dy, dw=dw, dh=dh)
    for kind, aspects in result:
        yield change(kind, aspects=aspects)


def laid(first: Layer, second: Layer) -> Iterator[tuple[ChangeKind, tuple[Aspect, ...]]]:
    """How a layer or a group is laid over what lies beneath, and whether it is switched on."""
    aspects = []
    if abs(first.opacity - second.opacity) > 0.004:
        aspects.append(Aspect("opacity", f"{first.opacity:.3g}", f"{second.opacity:.3g}"))
    if (first.blend, first.operator) != (second.blend, second.operator):
        aspects.append(Aspect("blend", _blend(first), _blend(second)))
    if aspects:
        yield ChangeKind.RESTYLED, tuple(aspects)
    if first.visible != second.visible:
        yield (ChangeKind.SHOWN if second.visible else ChangeKind.HIDDEN), ()


def _blend(layer: Layer) -> str:
    return layer.blend if layer.operator == "source-over" else layer.operator


def _boxes(
    old: Version, new: Version, first: VersionThing, second: VersionThing
) -> tuple[Rect | None, Rect | None]:
    """Where it lay and lies; of what paints the same, moved as far as its layer."""
    was, now = old.rect(first), new.rect(second)
    if (
        first.essence == second.essence
        and (before := old.stored(first))
        and (after := new.stored(second))
    ):
        if was is None or old.density != new.density:
            return was, now
        x, y = after.x - before.x, after.y - before.y
        return was, Rect(was.x + x, was.y + y, was.width, was.height)
    if old.style(first) is None and new.style(second) is None:
        return old.painted(first) or was, new.painted(second) or now
    return was, now


def _compared(
    old: Version,
    new: Version,
    first: VersionThing,
    second: VersionThing,
    was: Rect | None,
    now: Rect | None,
) -> Compared:
    if was is None or now is None:
        is_unseen = was is None and now is None
        return (
            _unseen(old, new, first, second) if is_unseen else Compared(((ChangeKind.REDRAWN, ()),))
        )
    is_exact = old.mockup.is_vector and new.mockup.is_vector
    least = SAID if is_exact else SEEN
    if first.essence == second.essence and old.density == new.density:
        return Compared((), _moved(was, now, least))
    both = Both(old, new, first, second, was, now)
    match old.is_words(first), new.is_words(second):
        case True, True:
            return _texts(both, least)
        case False, False:
            return _drawings(both, least)
    return Compared(((ChangeKind.REDRAWN, ()),), _moved(was, now, least))


def _unseen(old: Version, new: Version, first: VersionThing, second: VersionThing) -> Compared:
    """What paints nothing in both: texts whose font is not there, as the documents say them."""
    was, now = old.words(first), new.words(second)
    before, after = old.pen(first), new.pen(second)
    if was is None or now is None or before is None or after is None:
        return Compared()
    begun, begins = (Rect(pen.x, pen.y, 0.0, 0.0) for pen in (before, after))
    return Compared(tuple(of_words.said(was, now)), _moved(begun, begins, SAID))


def _texts(both: Both, least: float) -> Compared:
    """Texts: what is set otherwise takes other room, and has moved when its ends did."""
    result = tuple(of_words.differences(both))
    if any(kind is not ChangeKind.RECOLOURED for kind, _ in result):
        return Compared(result, of_words.moved(both))
    return Compared(result, _moved(both.was, both.now, least, is_text=least == SEEN))


def _drawings(both: Both, least: float) -> Compared:
    """Plain boxes by their styles, all else by its pixels."""
    styles = (
        _cornered(both.old.style(both.one), both.was),
        _cornered(both.new.style(both.other), both.now),
    )
    if styles[0] is not None and styles[1] is not None:
        is_exact = least == SAID
        texts = tuple(of_boxes.differences(styles[0], styles[1], is_exact=is_exact))
        if is_exact or not texts:
            return Compared(texts, _moved(both.was, both.now, least))
    result, shift = of_art.differences(both)
    if styles[0] is not None and styles[1] is not None:  # thin lines are lost in what is blurred
        result = (
            texts if result else tuple(pair for pair in texts if pair[0] is ChangeKind.RECOLOURED)
        )
    if (ChangeKind.REDRAWN, ()) in result and _is_in_place(both.was, both.now):
        return Compared(result)
    return Compared(result, _moved(both.was, both.now, least, shift))


def _moved(
    was: Rect,
    now: Rect,
    least: float,
    shift: tuple[float, float] | None = None,
    *,
    is_text: bool = False,
) -> Moves:
    """How far it moved and grew: nothing that is less than `least`.

    A `shift` that was found in the pixels counts where its size is the same.
    """
    by = [now.x - was.x, now.y - was.y, now.width - was.width, now.height - was.height]
    if is_text and max(abs(by[2]), abs(by[3])) <= 1:
        by[2:] = 0.0, 0.0
    result = [round(value, 2) if abs(value) >= least else 0.0 for value in by]
    if shift is not None and not (result[2] or result[3]):
        result[:2] = [round(value, 2) if abs(value) >= least else 0.0 for value in shift]
    return result[0], result[1], result[2], result[3]


def _cornered(style: Style | None, rect: Rect) -> Style | None:
    """A circle as a box with corners as round as can be: grown along one side it keeps those."""
    if style is None or style.radii is not None or abs(rect.width - rect.height) > SEEN:
        return style
    return replace(style, radii=Radii(*[rect.width / 2] * 4))


def _is_in_place(was: Rect, now: Rect) -> bool:
    """Whether what was drawn anew is about where it was: its own outline makes the rest."""
    across = abs(now.x + now.width / 2 - was.x - was.width / 2)
    down = abs(now.y + now.height / 2 - was.y - was.height / 2)
    return across <= IN_PLACE * was.width and down <= IN_PLACE * was.height
