"""A draft -> the text of a cutlist, with the reasons as comments."""

from __future__ import annotations

from collections.abc import Mapping

from riffler.cutlist.editing import Value, key_text, keys_text, table_text, value_text
from riffler.plain import clean
from riffler.plan.draft.drafted import Draft, DraftedSlice, written
from riffler.reading.wording import reason
from riffler.typeset.saying import SaidText


def text_of(draft: Draft, mockup: str, canvas: str | None = None, when: str | None = None) -> str:
    """The whole cutlist, ready to edit. `mockup` is its path from the cutlist's folder."""
    head: dict[str, Value] = {"mockup": mockup}
    if canvas is not None:
        head["canvas"] = canvas
    if when is not None:
        head["when"] = when
    if draft.density != 1:
        head["density"] = draft.density
    if draft.words:
        head["words"] = list(draft.words)
    blocks = [
        "# A first cutlist, drafted from the mockup. Every number is in mockup pixels.\n"
        "# Rename, move and delete as you like: nothing writes over this file.\n"
        + (
            _comment(f"Density {draft.density:g}: {draft.why_density}.")
            if draft.why_density
            else ""
        )
        + keys_text(head)
    ]
    for axis, guides in draft.guides.items():
        if guides:
            blocks.append(table_text(("guides", axis), dict(guides)))
    if draft.grid is not None:
        blocks.append(table_text(("grid", "col"), written(draft.grid)))
    sizes = 'sizes = ["1x", "2x"]  # its pictures are that fine\n' if draft.is_fine else ""
    blocks.append("[defaults]\n" + 'hide = ["kind:words"]  # words stay live text\n' + sizes)
    for name, (group, why) in draft.groups.items():
        blocks.append(_comment(why) + table_text(("group", name), written(group)))
    blocks.extend(map(slice_text, draft.slices))
    if draft.says:
        blocks.append(
            "# What texts in pixels say, as they were read: mend what is wrong.\n[says]\n"
            + says_text(draft.says)
        )
    if draft.elsewhere:
        names = ", ".join(draft.elsewhere)
        blocks.append(_comment(f"Cut from another mockup of this project already: {names}."))
    if draft.css:
        blocks.append(_css(draft))
    return "\n".join(blocks)


def slice_text(drafted: DraftedSlice) -> str:
    """A slice with the reason above it and its states right behind it."""
    text = _comment(drafted.why) if drafted.why else ""
    text += table_text(("slice", drafted.name), drafted.keys)
    for state, keys in drafted.states.items():
        text += table_text(("slice", drafted.name, "state", state), keys)
    return text


def says_text(says: Mapping[str, SaidText]) -> str:
    """What layers say, line by line; words that were not sure are named above."""
    width = max(len(key_text(layer)) for layer in says)
    lines = []
    for layer, said in says.items():
        if said.unsure:
            lines.append(_comment(f"Not sure: {', '.join(said.unsure)}"))
        lines.append(f"{key_text(layer).ljust(width)} = {value_text(said.text)}\n")
    return "".join(lines)


def _comment(text: str) -> str:
    return "".join(f"# {clean(line)}\n" for line in text.split("\n"))


def _css(draft: Draft) -> str:
    width = max(len(address) for address, _ in draft.css)
    listed = "\n".join(
        f"  {address.ljust(width)}  {reason(judgement, draft.density)}"
        for address, judgement in draft.css
    )
    return _comment(f"Not cut, since CSS draws it:\n{listed}")
