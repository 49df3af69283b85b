"""A draft and a cutlist that is there -> what the cutlist lacks, and its text with that."""

from __future__ import annotations

from dataclasses import replace

from riffler.cutlist.editing import CutlistText
from riffler.cutlist.file import CutlistFile
from riffler.cutlist.resolved import ResolvedSlice
from riffler.plan.draft.drafted import Draft, DraftedSlice
from riffler.plan.draft.drafted import written as values_of
from riffler.plan.draft.text import slice_text
from riffler.typeset.layers import written

#: A slice that covers so much of a drafted one, and the other way round, is the same.
SAME = 0.8


def lacking(drafted: Draft, known_slices: list[ResolvedSlice]) -> Draft:
    """The draft without what the cutlist covers; what is new there has a name of its own."""
    taken = {slice_.name for slice_ in known_slices} | {
        slice_.entry.keys[1] for slice_ in known_slices
    }
    other_drafted_slices: list[DraftedSlice] = []
    called: dict[str, str] = {}
    for new in drafted.slices:
        if any(_covers(slice_, new) for slice_ in known_slices):
            continue
        name, number = new.name, 2
        while name in taken:
            name, number = f"{new.name}-{number}", number + 1
        taken.add(name)
        called[new.name] = name
        other_drafted_slices.append(replace(new, name=name))
    return replace(drafted, slices=tuple(new.leaning(called) for new in other_drafted_slices))


def _covers(known_resolved: ResolvedSlice, new: DraftedSlice) -> bool:
    """Whether a slice does what a drafted one would: it is that one changed, renamed, or replaced.

    Replaced it is by a larger one of its kind in which the same layers show.
    """
    shared = (new.box & known_resolved.box).area
    if new.name in (known_resolved.name, known_resolved.entry.keys[1]) and shared:
        return True
    if shared < SAME * new.box.area or (new.table.role == "words") == known_resolved.role.has_files:
        return False
    if shared >= SAME * known_resolved.box.area:
        return True
    is_text = new.table.role == "words" and new.table.link is None
    return is_text or not known_resolved.rest.shown.isdisjoint(new.layers)


def added(existing: CutlistFile, drafted: Draft) -> str:
    """The cutlist's text with the drafted slices behind it, and the guides and groups they use."""
    text = CutlistText(existing.written.text)
    tables = [new.table for new in drafted.slices]
    for axis, guides in drafted.guides.items():
        used = {edge for table in tables for edge in (getattr(table, axis) or ())}
        for name, value in guides.items():
            if name in used and not text.has(("guides", axis, name)):
                text.write(("guides", axis, name), value)
    for name, (group, _) in drafted.groups.items():
        if any(table.in_ == name for table in tables) and not text.has(("group", name)):
            text.add_table(("group", name), values_of(group))
    for new in drafted.slices:
        text.append(slice_text(new))
    return _with_words(text, existing, drafted).text


def _with_words(text: CutlistText, existing: CutlistFile, drafted: Draft) -> CutlistText:
    """The text with what texts in pixels say that it does not say yet."""
    known = {layer.address for layer, _ in written(drafted.reading, existing)}
    for address, said in drafted.says.items():
        if address not in known:
            text.write(("says", address), said.text)
    return text
