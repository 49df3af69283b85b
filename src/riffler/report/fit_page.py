"""Pages compared with their mockups -> one page that shows where they differ, with all in it."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from typing import Any

from riffler.files import as_typed
from riffler.fit.fitting import Finding, Fit
from riffler.project.target import Target
from riffler.report import versus
from riffler.report.fitting import causes, name_of, phrases, verdict

#: Things that follow are drawn for each root up to so many.
FOLLOWERS = 200


def write(fits: Sequence[Fit], within: float, target: Target) -> None:
    """Write the page; it needs no network and no other file."""
    pages = [_page(one, within) for one in fits]
    said = {"title": "Fit", "item": "finding", "nothing": "Everything fits."}
    versus.write(pages, ("Mockup", "Page"), said, target)


def _page(fit: Fit, within: float) -> dict[str, Any]:
    pictures = versus.pictures(fit.wanted.whole, fit.seen.shot, fit.wanted.density)
    against = f"against {as_typed(fit.mockup)}, {pictures['width']} px wide"
    return {
        **pictures,
        "name": fit.page,
        "against": against,
        "verdict": verdict(fit, within),
        "findings": [
            {
                "number": number,
                "name": name_of(one),
                "says": ", ".join(phrases(one)),
                "causes": causes(one, fit),
                "marks": list(_marks(one)),
                "y": round(one.placed.thing.box.y),
            }
            for number, one in enumerate(fit.findings, 1)
        ],
        "accepted": [(name_of(one), reason) for one, reason in fit.accepted],
    }


def _marks(finding: Finding) -> Iterator[dict[str, Any]]:
    """Boxes where a thing should be and is, and lines from corner to corner."""
    followers = finding.root.followers[:FOLLOWERS]
    roots = (finding.placed, *finding.also)
    every = [*((one, "root") for one in roots), *((each, "follower") for each in followers)]
    for one, kind in every:
        found = None if one.is_missing else one.there
        yield {"kind": kind, "wanted": one.thing.box, "found": found}
