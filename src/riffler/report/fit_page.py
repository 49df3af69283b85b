"""Pages compared with their mockups -> one page that shows where they differ, with all in it."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from typing import Any

from riffler.files import as_typed
from riffler.fit.page_fit import FitFinding, PageFit
from riffler.project.target import Target
from riffler.report import versus
from riffler.report.page_fit import causes, name_of, phrases, verdict

#: Things that follow are drawn for each root up to so many.
FOLLOWERS = 200


def write(fits: Sequence[PageFit], within: float, target: Target) -> None:
    """Write the page; it needs no network and no other file."""
    pages = [_page(fit, within) for fit in fits]
    values = {"title": "Fit", "item": "finding", "nothing": "Everything fits."}
    versus.write(pages, ("Mockup", "Page"), values, target)


def _page(fit: PageFit, within: float) -> dict[str, Any]:
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
                "name": name_of(finding),
                "says": ", ".join(phrases(finding)),
                "causes": causes(finding, fit),
                "marks": list(_marks(finding)),
                "y": round(finding.placed.thing.box.y),
            }
            for number, finding in enumerate(fit.findings, 1)
        ],
        "accepted": [(name_of(finding), reason) for finding, reason in fit.accepted],
    }


def _marks(finding: FitFinding) -> Iterator[dict[str, Any]]:
    """Boxes where a thing should be and is, and lines from corner to corner."""
    followers = finding.root.followers[:FOLLOWERS]
    roots = (finding.placed, *finding.also)
    every = [
        *((placed, "root") for placed in roots),
        *((placed, "follower") for placed in followers),
    ]
    for placed, kind in every:
        rect = None if placed.is_missing else placed.there
        yield {"kind": kind, "wanted": placed.thing.box, "found": rect}
