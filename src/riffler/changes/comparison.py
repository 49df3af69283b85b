"""Two versions of a mockup -> everything that changed between them.

Versions are matched, then compared: what paints like nothing else is the same thing wherever it
lies (`Renderer.essence`, a digest without place or name); what is painted several times alike, and
what is left, is paired by an assignment over place, name, content and neighbours, with the place
counted from where its group went. What a document says is compared to the last digit; what only
pixels tell may err by as much as measuring does.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from riffler.changes.arrangement import Arranged, arranged
from riffler.changes.change import Aspect, Change, ChangeKind
from riffler.changes.comparing import compared
from riffler.changes.gathering import gathered
from riffler.changes.matching import Pair, matched
from riffler.changes.version import Version, VersionThing
from riffler.geometry import Rect
from riffler.reading.density import at_a_glance
from riffler.reading.reading import Reading
from riffler.workspace import Opened, Workspace

#: The number of the result's shape as JSON.
VERSION = 1


@dataclass(frozen=True)
class Changed:
    """What changed from one version to the next. `there` leads from old addresses to new ones."""

    old: Version
    new: Version
    pairs: tuple[Pair, ...]
    there: dict[str, str]
    changes: tuple[Change, ...]


def changed(workspace: Workspace, old: Opened, new: Opened) -> Changed:
    """Compare two versions. Raises MockupError for a damaged one, or one of too many drawings."""
    for opened in (old, new):
        workspace.refuse_too_many(opened.mockup)
    before, after = _densities(old, new)
    versions = (
        Version(old, before, workspace.language),
        Version(new, after, workspace.language),
    )
    pairs = matched(*versions)
    match = Arranged(*versions, pairs)
    changes = [
        *_page(*versions),
        *(change for pair in pairs for change in compared(*versions, *pair)),
        *_gone(versions[0], match.there, ChangeKind.REMOVED),
        *_gone(versions[1], match.here, ChangeKind.ADDED),
        *arranged(*versions, match),
    ]
    return Changed(*versions, tuple(pairs), match.there, tuple(gathered(*versions, changes)))


def _densities(old: Opened, new: Opened) -> tuple[float, float]:
    """Mockup pixels per CSS pixel of both; one for both while their canvases are as wide."""
    density = new.density or old.density
    if density and old.mockup.size.width == new.mockup.size.width:
        return density, density
    after = new.density or at_a_glance(Reading(new.renderer, 1.0)).value
    if old.mockup.size.width == new.mockup.size.width:
        return after, after
    before = old.density or at_a_glance(Reading(old.renderer, 1.0)).value
    return before, after


def _page(old: Version, new: Version) -> Iterator[Change]:
    """The canvas, where it has another size."""
    was, now = old.page, new.page
    by = now.width - was.width, now.height - was.height
    if max(map(abs, by)) >= 0.5:
        texts = (f"{box.width:g} x {box.height:g}" for box in (was, now))
        aspects = (Aspect("size", *texts),)
        yield Change(ChangeKind.PAGE, None, None, was, now, aspects, dw=by[0], dh=by[1])


def _gone(version: Version, known: dict[str, str], kind: ChangeKind) -> Iterator[Change]:
    """What is in one version alone: whole groups as one, and drawings of groups that stay."""
    lone = [thing for thing in version.things if thing.address not in known]
    by_group: dict[str, list[VersionThing]] = {}
    for thing in lone:
        by_group.setdefault(_outermost(version, thing, known) or thing.address, []).append(thing)
    for address, things in by_group.items():
        box = Rect.around(box for thing in things if (box := version.rect(thing)))
        shows = any(version.shows(thing) for thing in things)
        rest = [thing.address for thing in things if thing.address != address]
        if kind is ChangeKind.ADDED:
            others = tuple((None, item) for item in rest)
            yield Change(kind, None, address, None, box, shows=shows, others=others)
        else:
            gone = tuple((item, None) for item in rest)
            yield Change(kind, address, None, box, None, shows=shows, others=gone)


def _outermost(version: Version, thing: VersionThing, known: dict[str, str]) -> str | None:
    """The largest group around a drawing that is in this version alone."""
    found = None
    for up in version.mockup.ancestors(thing.address):
        if up.address in known:
            break
        found = up.address
    return found
