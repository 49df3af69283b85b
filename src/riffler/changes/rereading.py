"""Texts in pixels that say something else in a new version -> the cutlist that says so too.

A cutlist keeps what texts in pixels say. Those that were read, and are others now, are read again;
so are new ones. What a person wrote there in other words is theirs, and stays.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from difflib import SequenceMatcher
from pathlib import Path

from riffler.changes.change import Change, ChangeKind
from riffler.changes.comparison import Changed
from riffler.changes.following import Followed, Left
from riffler.cutlist.editing import CutlistText
from riffler.cutlist.file import CutlistFile
from riffler.markup.setting import letters_of
from riffler.mockup.model import LayerKind
from riffler.typeset.saying import read_texts
from riffler.typeset.tesseract import is_here

#: How alike the letters are that a cutlist says and that are read of its layer, at least, 0..1.
ALIKE = 0.6


@dataclass(frozen=True)
class Reread:
    """What a layer of pixels says now, and what it said in a cutlist: empty for a new one."""

    file: Path
    layer: str
    was: str
    now: str


def reread(file: CutlistFile, changed: Changed, followed: Followed) -> list[Reread]:
    """Write into the texts of a cutlist that followed what its texts in pixels say now.

    What can't be known is left to a person.
    """
    says = file.cutlist.says
    if not says:
        return []
    wanted = dict(_others(file, changed, followed))
    wanted |= {address: "" for address in _new(changed) if address not in wanted}
    if not wanted:
        return []
    if not is_here():
        why = "it reads otherwise now, and Tesseract is not installed here"
        followed.left += [
            Left(file.path, f"says.{address}", why) for address, was in wanted.items() if was
        ]
        return []
    version, result = changed.new, list[Reread]()
    known = {layer.address for layer in version.reading.drawings()} - wanted.keys()
    faces = version.opened.fonts.own_faces()
    read = read_texts(version.reading, version.language, known, faces)
    for address, was in wanted.items():
        if address in read and read[address].text != was:
            path = _place(file, followed, address)
            text = CutlistText(followed.texts[path])
            text.write(("says", address), read[address].text)
            for name in _called(file, was):
                text.write(("slice", name, "alt"), read[address].text)
            followed.texts[path] = text.text
            result.append(Reread(path, address, was, read[address].text))
    return result


def _others(file: CutlistFile, changed: Changed, followed: Followed) -> Iterator[tuple[str, str]]:
    """The addresses of texts that were read and say something else, and what they said."""
    for change in changed.changes:
        if change.kind is not ChangeKind.WORDS:
            continue
        for old, new in change.pairs:
            was = file.cutlist.says.get(old or "")
            if was is None or new is None:
                continue
            if _was_read(change, was):
                yield new, was
            else:
                why = "the layer says something else, and what stands here is in words of yours"
                followed.left.append(Left(file.path, f"says.{new}", why))


def _was_read(change: Change, was: str) -> bool:
    """Whether a cutlist says what is read of a layer, as far as that is known."""
    text = next((aspect.was for aspect in change.aspects if aspect.what == "text"), None)
    if text is None:
        return True
    letters = letters_of(text), letters_of(was)
    return SequenceMatcher(None, *letters, autojunk=False).ratio() >= ALIKE


def _new(changed: Changed) -> Iterator[str]:
    """The addresses of texts in pixels that the older version had not."""
    known = changed.new.mockup.by_address
    for change in changed.changes:
        for _, new in change.pairs if change.kind is ChangeKind.ADDED else ():
            for layer in known[new].walk() if new in known else ():
                if layer.kind is LayerKind.PIXELS:
                    yield layer.address


def _called(file: CutlistFile, words: str) -> Iterator[str]:
    """The slices of one picture whose alternative text is what a text says: its title beside it."""
    for entry in file.entries if words else ():
        if entry.table.alt == words and entry.part.written.path == file.path:
            yield entry.keys[1]


def _place(file: CutlistFile, followed: Followed, address: str) -> Path:
    """The file of a cutlist that says what a layer says, or the first."""
    places = (
        path for path, text in followed.texts.items() if CutlistText(text).has(("says", address))
    )
    return next(places, file.path)
