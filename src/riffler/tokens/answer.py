"""Mockups -> what they use again and again: tokens, near-duplicates, the contrast of text."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from pathlib import Path
from typing import Any, TypeAlias

from riffler.measure.frame import frame_of
from riffler.project.settings import Tokens as Written
from riffler.reading.look import reading_of
from riffler.reading.reading import Reading
from riffler.tokens import grounds
from riffler.tokens.collecting import collected, near_ones
from riffler.tokens.gather import gathered
from riffler.tokens.spelling import spelled
from riffler.tokens.token import Contrast, Place, Sighting, Sort, Token, Tokens
from riffler.tokens.token_names import Pins, named
from riffler.typeset.layers import learn
from riffler.workspace import Opened, Workspace

#: The version of what `as_data` gives.
VERSION = 1


#: Told what comes next, how many are done, of how many.
Progress: TypeAlias = Callable[[str, int, int], None]


def tokens(
    workspace: Workspace, paths: Sequence[Path] = (), progress: Progress | None = None
) -> Tokens:
    """The values of these mockups, or of all that the project cuts.

    Raises RifflerError where that is none.
    """
    return tokens_of(read(workspace, paths), pins_of(workspace), progress)


def read(workspace: Workspace, paths: Sequence[Path]) -> list[tuple[Opened, Reading]]:
    """The mockups that are meant, being read. Raises RifflerError for none, or too large ones."""
    opened = workspace.meant(paths)
    for one_opened in opened:
        workspace.refuse_too_many(one_opened.mockup)
    return [(one_opened, reading_of(one_opened)) for one_opened in opened]


def tokens_of(
    readings: Sequence[tuple[Opened, Reading]],
    pins: Mapping[Sort, Pins],
    progress: Progress | None = None,
) -> Tokens:
    """The values of mockups that are open, under a person's names where these are for them."""
    seen: list[Sighting] = []
    contrasts: list[Contrast] = []
    for done, (opened, reading) in enumerate(readings):
        if progress:
            progress(opened.mockup.path.name, done, len(readings))
        learn(reading, opened.cutlist, opened.fonts)
        seen += gathered(reading, frame_of(opened, reading.density))
        contrasts += grounds.contrasts(reading, opened.mockup.path.name)
    tokens, unused = named(collected(seen), pins)
    names = tuple(dict.fromkeys(opened.mockup.path.name for opened, _ in readings))
    return Tokens(
        names,
        tuple(tokens),
        tuple(near_ones(tokens)),
        grounds.gathered(iter(contrasts)),
        tuple(unused),
    )


def pins_of(workspace: Workspace) -> dict[Sort, Pins]:
    """The names that the project's settings have."""
    written = workspace.project.settings.tokens if workspace.has_project else Written()
    return {sort: getattr(written, sort) for sort in Sort}


def as_data(tokens: Tokens) -> dict[str, Any]:
    """All of it, for programs."""
    return {
        "mockups": list(tokens.mockups),
        "tokens": [_token(token) for token in tokens.tokens],
        "near": [
            {"usual": near.usual.name, "slip": near.slip.name, "sort": str(near.slip.sort)}
            for near in tokens.near
        ],
        "contrast": [
            {
                "color": contrast.color,
                "ground": contrast.ground,
                "ratio": contrast.ratio,
                "needed": contrast.needed,
                "enough": contrast.is_enough,
                "places": [_place(place) for place in contrast.places],
            }
            for contrast in tokens.contrast
        ],
        "unused": [{"sort": str(sort), "name": name} for sort, name in tokens.unused],
    }


def _token(token: Token) -> dict[str, Any]:
    return {
        "sort": str(token.sort),
        "name": token.name,
        "value": spelled(token.sort, token.value),
        "pinned": token.is_pinned,
        "uses": len(token.places),
        "places": [_place(place) for place in token.places],
    }


def _place(place: Place) -> dict[str, str]:
    return {"mockup": place.mockup, "layer": place.layer, "as": place.role}
