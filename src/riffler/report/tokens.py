"""Tokens -> tables of names, values and places, what is nearly the same, what is hard to read."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from pathlib import Path

from riffler.files import as_typed
from riffler.measure.units import Scale
from riffler.report.screen import Column, Screen
from riffler.report.wording import plural
from riffler.tokens.pinning import Pinned
from riffler.tokens.spelling import ROUND, spelled
from riffler.tokens.token import Place, Sort, Token, Tokens

#: What the sorts are called, and what one of each is.
HEADINGS = {
    Sort.COLOR: "Colours",
    Sort.TYPE: "Type",
    Sort.SPACE: "Spaces",
    Sort.RADIUS: "Radii",
    Sort.SHADOW: "Shadows",
    Sort.WIDTH: "Widths",
}

#: So many values of a sort, pairs and contrasts are shown, and places of one value.
SHOWN, PLACES = 16, 2


def show(screen: Screen, found_tokens: Tokens, scale: Scale, *, show_all: bool) -> None:
    """Every sort in a table, then what a person should look at."""
    several = len(found_tokens.mockups) > 1
    for sort in (sort for sort in Sort if found_tokens.of(sort)):
        tokens = found_tokens.of(sort)
        screen.say(f"{HEADINGS[sort]}")
        shown = tokens if show_all else tokens[:SHOWN]
        columns = (
            Column("name", style="bold"),
            Column("value"),
            Column("uses", is_right=True),
            Column("as"),
            Column("where"),
        )
        screen.table(columns, (_row(token, scale, show_all, several) for token in shown))
        _left(screen, len(tokens) - len(shown), "value")
        screen.say("")
    _near(screen, found_tokens, show_all=show_all)
    _contrast(screen, found_tokens, show_all=show_all, several=several)
    for sort, name in found_tokens.unused:
        screen.say(f"riffler.toml calls a {sort} {name}: no mockup has it now.")


def _row(token: Token, scale: Scale, show_all: bool, several: bool) -> tuple[str, ...]:
    value = spelled(token.sort, token.value, scale)
    value = "round" if value == ROUND else value
    if token.pinned is not None:
        value += f" (riffler.toml: {token.pinned})"
    where = _where(token.places, show_all=show_all, several=several)
    return token.name, value, str(len(token.places)), ", ".join(token.roles), where


def _where(places: Sequence[Place], *, show_all: bool, several: bool) -> str:
    names = list(dict.fromkeys((place.mockup, place.layer) for place in places))
    shown = names if show_all else [name for name in names if name[0] == names[0][0]][:PLACES]
    more = len(names) - len(shown)
    told, last = [], ""
    for mockup, layer in shown:
        told.append(f"{mockup}: {layer}" if several and mockup != last else layer)
        last = mockup
    return ", ".join(told) + (f" and {more} more" if more else "")


def _left(screen: Screen, count: int, what: str) -> None:
    if count > 0:
        screen.say(f"  and {plural(count, what)} more: --all")


def _near(screen: Screen, tokens: Tokens, *, show_all: bool) -> None:
    pairs = tokens.near if show_all else tokens.near[:SHOWN]
    if not pairs:
        return
    screen.say("Nearly the same, so one of each two is probably a slip")
    columns = [Column("usual", style="bold"), Column("slip", style="bold")]
    columns += [Column("where the slip is")]
    several = len(tokens.mockups) > 1
    rows = [
        (
            _called(pair.usual),
            _called(pair.slip),
            _where(pair.slip.places, show_all=show_all, several=several),
        )
        for pair in pairs
    ]
    screen.table(columns, rows)
    _left(screen, len(tokens.near) - len(pairs), "pair")
    screen.say("")


def _called(token: Token) -> str:
    name = token.name if token.sort is Sort.COLOR else token.sort
    return f"{name} {spelled(token.sort, token.value)}, {len(token.places)}x"


def _contrast(screen: Screen, tokens: Tokens, *, show_all: bool, several: bool) -> None:
    faint = [contrast for contrast in tokens.contrast if not contrast.is_enough]
    enough = len(tokens.contrast) - len(faint)
    listed = list(tokens.contrast) if show_all else faint[:SHOWN]
    if faint:
        screen.say("Text too faint for its ground: WCAG 2.2, level AA")
    elif enough:
        screen.say(f"All text stands out from its ground: {plural(enough, 'pair')} of colours.")
    if listed:
        columns = [
            Column("text"),
            Column("ground"),
            Column("contrast", is_right=True),
            Column("needed", is_right=True),
            Column("where"),
        ]
        screen.table(
            columns,
            (
                (
                    contrast.color,
                    contrast.ground,
                    f"{contrast.ratio:.2f}",
                    f"{contrast.needed:g}",
                    _where(contrast.places, show_all=show_all, several=several),
                )
                for contrast in listed
            ),
        )
    if faint and not show_all:
        _left(screen, len(faint) - len(listed), "pair")


def show_written(screen: Screen, written: Sequence[Path], pinned: Pinned | None) -> None:
    """What was written where, and what to do next."""
    for line in _written(written, pinned):
        screen.say(line)


def _written(written: Sequence[Path], pinned: Pinned | None) -> Iterator[str]:
    if written or pinned:
        yield ""
    for path in written:
        yield f"Wrote {as_typed(path)}."
    if pinned:
        count = plural(pinned.count, "name") if pinned.count else "no new name"
        yield f"{as_typed(pinned.file)} keeps {count}: change them there as you like."
