"""A face -> its characters that pages need, as WOFF2."""

from __future__ import annotations

import io
import logging
from collections.abc import Iterable

from riffler.webfonts.facts import Facts, Permission, opened


def web_font(facts: Facts, characters: Iterable[int]) -> bytes:
    """The face as WOFF2 with these characters, or whole where its file wants that.

    What it does with its letters (kerning, joining, figures of several kinds) stays, hints too, so
    that it is drawn the same. Equal input gives equal bytes. Raises RifflerError for a damaged one.
    """
    from fontTools.ttLib.woff2 import WOFF2FlavorData

    with opened(facts.face.path) as font:
        font.recalcTimestamp = False
        if facts.permission is Permission.ALLOWED:
            _options(font, characters)
        font.flavor = "woff2"
        font.flavorData = WOFF2FlavorData()
        out = io.BytesIO()
        font.save(out)
        return out.getvalue()


def _options(font: object, characters: Iterable[int]) -> None:
    from fontTools import subset

    logging.getLogger("fontTools.subset").setLevel(logging.ERROR)
    options = subset.Options()
    options.layout_features = ["*"]
    options.recalc_timestamp = False
    options.notdef_outline = True
    options.name_IDs = ["*"]  # who made it, and under which licence, goes with it
    subsetter = subset.Subsetter(options)
    subsetter.populate(unicodes=sorted(characters))
    subsetter.subset(font)


def ranges(characters: Iterable[int]) -> str:
    """Characters as `unicode-range` says them. CSS Fonts 4, section 4.5."""
    runs: list[list[int]] = []
    for code in sorted(characters):
        if runs and code == runs[-1][1] + 1:
            runs[-1][1] = code
        else:
            runs.append([code, code])
    return ", ".join(f"U+{a:X}" if a == b else f"U+{a:X}-{b:X}" for a, b in runs)
