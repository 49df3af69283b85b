"""A mockup -> a first cutlist: guides, slices with their states, and what CSS draws instead."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping
from typing import Any

from riffler.cutlist.model import SliceTable
from riffler.geometry import Box
from riffler.mockup.density import Density
from riffler.plan.draft import clicks, loose, pictures
from riffler.plan.draft.drafted import Draft
from riffler.plan.draft.elsewhere import Elsewhere
from riffler.plan.draft.patterns import word_patterns
from riffler.plan.draft.saving import is_fine
from riffler.plan.draft.state import Drafting
from riffler.reading import clickable, layer_names, layout
from riffler.reading import head as heads
from riffler.reading.density import likely as density_of
from riffler.reading.illustration import is_illustration
from riffler.reading.judgement import Becomes, Judgement
from riffler.reading.reading import Reading
from riffler.render.renderer import Renderer
from riffler.roles import words
from riffler.typeset.saying import SaidText
from riffler.workspace import Workspace


def draft(
    renderer: Renderer,
    *,
    density: float | None = None,
    elsewhere: Elsewhere | None = None,
    read: Callable[[Reading], Mapping[str, SaidText]] | None = None,
) -> Draft:
    """Write a first plan for a mockup. `elsewhere` are the slices that the project has already.

    `read` gives what texts in pixels say, by address.
    """
    renderer.warm()
    reading = Reading(renderer, 1.0)
    likely = Density(density) if density else density_of(reading)
    reading = reading.at(likely.value)
    says = read(reading) if read else {}
    is_page = not is_illustration(reading, reading.mockup.layers)
    clickables = clickable.find(reading) if is_page else clickable.Found()
    begun = Drafting(reading, clickables, elsewhere or Elsewhere(Workspace()), says)
    if not is_page:
        pictures.no_page(begun)
    head = heads.hero(reading, clickables.repeated) if is_page else None
    if is_page:
        begun.guides.collect()
    if head is not None:
        pictures.hero(begun, head)
    clicks.things_to_click(begun)
    pictures.flat_rows(begun)
    pictures.pictures(begun)
    pictures.tiles(begun)
    _live_text(begun)
    return Draft(
        reading,
        begun.found,
        why_density=likely.why,
        words=word_patterns(reading, says),
        guides=begun.guides.listed(),
        grid=begun.guides.grid(),
        groups=begun.groups,
        slices=tuple(sorted(begun.slices, key=lambda drafted: (drafted.box.y, drafted.box.x))),
        css=tuple(_styled(begun)),
        elsewhere=tuple(begun.elsewhere),
        says=says,
        is_fine=is_fine(reading),
    )


def _live_text(draft: Drafting) -> None:
    """Regions for the text that is not part of anything else."""
    reading = draft.reading
    grounds = [
        box
        for layer in reading.drawings()
        if reading.mockup.shows(layer)
        and reading.judgement(layer).becomes in (Becomes.CSS, Becomes.PICTURE)
        and (box := reading.box(layer))
    ]
    for region in loose.rows(draft, layout.regions(reading, draft.done, grounds)):
        addresses = [layer.address for layer in region.layers]
        text = " ".join(filter(None, map(draft.text, region.layers)))
        values: dict[str, Any] = {"around": addresses, "role": "words"}
        if region.column is not None:
            box = region.box
            values = {"at": [box.x, box.y, box.width, box.height], "role": "words"}
            text = draft.text(region.layers[0], region.column)
            name = draft.names.of_words(text)
        else:
            name = draft.names.of_all(region.layers)
        is_link = region.column is not None or layer_names.leads_somewhere(name)
        if is_link and (target := draft.target(text)):
            values["link"] = target
        why = f"{_quoted(text)} On {_ground(draft, region.box)}."
        draft.add(name, SliceTable(**values), why, tuple(addresses), region.box)


def _quoted(text: str) -> str:
    return f"“{text if len(text) <= 64 else text[:63] + '…'}”" if text else "Live text."


def _ground(draft: Drafting, box: Box) -> str:
    """The colour under the text in a box, or that there is more than one."""
    shown = draft.reading.mockup.drawn - draft.texts
    return words.ground(draft.reading.renderer.render(box, 1.0, shown)) or "a picture"


def _styled(draft: Drafting) -> Iterator[tuple[str, Judgement]]:
    """The drawings that no slice needs, with what a style sheet would say."""
    for layer in draft.reading.drawings():
        judgement = draft.reading.judgement(layer) if draft.is_open(layer) else None
        if judgement is not None and judgement.becomes is Becomes.CSS:
            yield layer.address, judgement
