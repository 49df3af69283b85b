"""A cut sheet -> one page with everything in it, that asks for nothing else.

The cut sheet's list is its data: the page is a plain list, and the script reads that list. Nothing
is said twice, everything is there without scripts, and what comes from a mockup is text. A policy
in the page lets nothing run but that script, by its hash, and nothing be fetched.
"""

from __future__ import annotations

from collections.abc import Sequence

from markupsafe import Markup

from riffler.cutsheet.content import SAMPLE, CutSheet, SheetAsset, SheetEntry, SheetPicture
from riffler.geometry import Box, Rect
from riffler.measure.css import family
from riffler.measure.units import Scale
from riffler.report.standalone import data_url, own, policy, templates
from riffler.report.tokens import HEADINGS
from riffler.report.wording import kilobytes
from riffler.tokens.spelling import spelled
from riffler.tokens.token import Sort, Token

#: States of a slice that are shown.
LOOKS = 4

#: The page, its style and what makes it answer, beside this module.
TEMPLATE, STYLE, SCRIPT = "sheet.html", "sheet.css", "sheet.js"


def page(sheet: CutSheet) -> bytes:
    """The page. What comes from mockups is text in it; nothing runs but our own script."""
    environment = templates()
    environment.filters |= {
        "url": _url,
        "box": _box,
        "size": _size,
        "kilobytes": kilobytes,
        "spelled": _spelled,
        "family": _family,
        "looks": _looks,
        "font": _font,
    }
    script = own(SCRIPT).strip()
    tokens = sheet.tokens
    text = environment.get_template(TEMPLATE).render(
        sheet=sheet,
        slices=_by_slice(sheet),
        weight=kilobytes(sum(asset.bytes for asset in sheet.assets)),
        groups=[(str(sort), tokens.of(sort)) for sort in Sort if tokens.of(sort)],
        headings={str(sort): heading for sort, heading in HEADINGS.items()},
        faint=[contrast for contrast in tokens.contrast if not contrast.is_enough],
        style=Markup(own(STYLE).strip()),  # noqa: S704 - our own file
        script=Markup(script),  # noqa: S704 - our own file
        sample=SAMPLE,
        policy=policy(f"\n{script}\n"),
    )
    return text.encode()


def _by_slice(sheet: CutSheet) -> list[tuple[str, list[SheetAsset]]]:
    sheet_assets: dict[str, list[SheetAsset]] = {}
    for asset in sheet.assets:
        sheet_assets.setdefault(asset.slice, []).append(asset)
    return list(sheet_assets.items())


def _looks(assets: Sequence[SheetAsset]) -> list[SheetAsset]:
    """One file of each state, to look at."""
    states: dict[str, SheetAsset] = {}
    for asset in assets:
        if asset.thumbnail:
            states.setdefault(asset.state, asset)
    return list(states.values())[:LOOKS]


def _url(picture: SheetPicture) -> str:
    return data_url(f"image/{picture.format}", picture.data)


def _box(box: Box | Rect) -> str:
    return " ".join(f"{side:.7g}" for side in (box.x, box.y, box.width, box.height))


def _size(entry: SheetEntry, density: float) -> str:
    scale, box = Scale("px", density), entry.box
    if not box.width:
        return "not drawn"
    width, height, left, top = map(scale.say, (box.width, box.height, box.x, box.y))
    return f"{width} x {height} at {left}, {top}"


def _spelled(token: Token) -> str:
    return spelled(token.sort, token.value)


def _font(data: bytes) -> str:
    return data_url("font/woff2", data)


def _family(name: str) -> str:
    """A family as CSS writes it, which can't end the style sheet that it stands in."""
    return family(name).replace("<", "\\3c ")
