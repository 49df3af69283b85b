"""Changes of a mockup -> what of the project each touches: slices, guides, tokens, lines, pages."""

from __future__ import annotations

import html
import re
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass
from functools import cached_property
from pathlib import Path

from riffler.changes.change import Change, ChangeKind
from riffler.changes.comparison import Changed
from riffler.changes.version import Version
from riffler.cutlist.file import CutlistFile
from riffler.cutlist.resolve import resolve
from riffler.cutlist.resolved import ResolvedSlice
from riffler.errors import RifflerError
from riffler.geometry import Box
from riffler.plain import clean
from riffler.project.project import Project
from riffler.project.written import Mention, lines_of
from riffler.site.mentions import mentioned

#: Folders of what people write, with the endings of text in them.
SOURCES = {"pages": (".html", ".svg", ".xml", ".txt"), "styles": (".css",), "data": (".toml",)}

#: Mockup pixels between a guide and the edge that lies on it.
ON = 1.0

#: What only is said of a layer: nothing is drawn otherwise.
UNSEEN = (ChangeKind.RENAMED, ChangeKind.REGROUPED)

#: Lines of one kind that are named of one change at the most.
LINES = 12


@dataclass(frozen=True)
class Touched:
    """What a change touches, by name. `states` are those of the slices that alone show it."""

    slices: tuple[str, ...] = ()
    states: tuple[str, ...] = ()
    guides: tuple[str, ...] = ()
    tokens: tuple[str, ...] = ()
    lines: tuple[Mention, ...] = ()
    pages: tuple[str, ...] = ()


@dataclass(frozen=True)
class _Source:
    """A file that somebody wrote."""

    path: Path
    text: str

    @cached_property
    def lines(self) -> list[str]:
        return lines_of(self.text)

    def mention(self, line: int) -> Mention:
        """A line, counted from 1."""
        return Mention(self.path, line, clean(self.lines[line - 1].strip()))

    def found(self, pattern: re.Pattern[str]) -> Iterator[Mention]:
        for match in pattern.finditer(self.text):
            yield self.mention(self.text.count("\n", 0, match.start()) + 1)


@dataclass(frozen=True)
class Surroundings:
    """A project round a mockup: what is cut from it and what is written about it."""

    project: Project | None
    cutlists: tuple[CutlistFile, ...]
    version: Version
    page: str = ""

    @cached_property
    def slices(self) -> tuple[ResolvedSlice, ...]:
        """What is cut of it, as the older version resolves it; nothing that it does not know."""
        found_slices: list[ResolvedSlice] = []
        for file in self.cutlists:
            try:
                found_slices += resolve(file, self.version.renderer)
            except RifflerError:
                continue  # the cutlist was written for the newer version already
        return tuple(found_slices)

    @cached_property
    def guides(self) -> tuple[tuple[str, str, float], ...]:
        """Axis, name and place of every guide."""
        return tuple(guide for file in self.cutlists for guide in file.guides())

    @cached_property
    def sources(self) -> tuple[_Source, ...]:
        """Templates, styles and data."""
        return tuple(_sources(self.project)) if self.project else ()

    @cached_property
    def mentions(self) -> tuple[tuple[str, Mention], ...]:
        """Every slice that is named in templates and styles, with the line."""
        return tuple(_mentions(self.sources))


def _sources(project: Project) -> Iterator[_Source]:
    for name, endings in SOURCES.items():
        for path in project.sources(name):
            if path.suffix in endings:
                yield _Source(path, path.read_text("utf-8", errors="replace"))


def _mentions(sources: Iterable[_Source]) -> Iterator[tuple[str, Mention]]:
    for source in sources:
        yield from ((name, source.mention(line)) for name, line in mentioned(source.text))


def shown_by(project: Project, names: Iterable[str]) -> dict[str, tuple[Mention, ...]]:
    """The lines of templates and styles that name each of some slices."""
    mentions = list(_mentions(_sources(project)))
    return {
        name: tuple(dict.fromkeys(line for said, line in mentions if _is_named(said, [name])))
        for name in names
    }


def touched(changed: Changed, around: Surroundings) -> list[Touched]:
    """What each change touches, in their order."""
    return [_touched(change, changed, around) for change in changed.changes]


def _touched(change: Change, changed: Changed, around: Surroundings) -> Touched:
    slices, states = _cut(change, changed, around)
    lines = [
        *_words(change, around),
        *_colors(change, around),
        *(mention for name, mention in around.mentions if _is_named(name, slices)),
    ]
    unique = tuple(dict.fromkeys(lines))[:LINES]
    pages = dict.fromkeys(_pages(unique, around))
    if slices or not lines:
        pages = dict.fromkeys([*pages, *([around.page] if around.page and change.shows else [])])
    return Touched(
        slices,
        states,
        tuple(_guides(change, changed, around)),
        tuple(_tokens(change, around)),
        unique,
        tuple(pages),
    )


def _is_named(name: str, slices: Sequence[str]) -> bool:
    return any(
        slice_ == name or (name.endswith("-") and slice_.startswith(name)) for slice_ in slices
    )


def _cut(
    change: Change, changed: Changed, around: Surroundings
) -> tuple[tuple[str, ...], tuple[str, ...]]:
    """The slices that show a changed thing, and the states that alone do."""
    if change.kind in UNSEEN or change.kind is ChangeKind.PAGE:
        return (), ()
    places = ((change.was, changed.old.density), (change.now, changed.new.density))
    boxes = [box.scaled(by).outward() for box, by in places if box]
    if change.kind is ChangeKind.ADDED:
        names = [
            resolved.name for resolved in around.slices if _would_show(change, resolved, boxes)
        ]
        return tuple(dict.fromkeys(names)), ()
    slices, states = [], []
    for slice_ in around.slices:
        showing = _showing(change, slice_)
        if showing and _reaches(change, changed.old, slice_.box, boxes):
            slices.append(slice_.name)
            if len(showing) < len(slice_.states) or change.kind in (
                ChangeKind.SHOWN,
                ChangeKind.HIDDEN,
            ):
                states += [f"{slice_.name}.{name}" for name in showing if name]
    return tuple(dict.fromkeys(slices)), tuple(dict.fromkeys(states))


def _would_show(change: Change, resolved: ResolvedSlice, boxes: Iterable[Box]) -> bool:
    """Whether a slice shows what was added: one that shows whatever lies in its box."""
    return change.shows and not resolved.is_alone and any(map(resolved.box.meets, boxes))


def _showing(change: Change, resolved: ResolvedSlice) -> list[str | None]:
    """The states of a slice that show one of the things."""
    mine = {address for address, _ in change.pairs if address}
    return [state.name for state in resolved.states if state.shown & mine]


def _reaches(change: Change, old: Version, box: Box, boxes: Iterable[Box]) -> bool:
    """Whether a changed thing lies in a slice, each of several by itself."""
    if not change.others:
        return any(map(box.meets, boxes))
    rects = (old.rect_at(item) for item, _ in change.pairs)
    return any(rect and box.meets(rect.scaled(old.density).outward()) for rect in rects)


def _guides(change: Change, changed: Changed, around: Surroundings) -> Iterator[str]:
    """The guides on which an edge lay that lies elsewhere now."""
    if (
        change.kind not in (ChangeKind.MOVED, ChangeKind.RESIZED, ChangeKind.REMOVED)
        or not change.shows
    ):
        return
    by = changed.old.density
    edges: dict[str, set[float]] = {"x": set(), "y": set()}
    for first, second in change.pairs:
        was, now = changed.old.rect_at(first), changed.new.rect_at(second)
        for axis, ends in (("x", ("x", "right")), ("y", ("y", "bottom"))):
            for end in ends:
                if was and (now is None or abs(getattr(was, end) - getattr(now, end)) > 0.3):
                    edges[axis].add(getattr(was, end) * by)
    for axis, name, place in around.guides:
        if any(abs(place - edge) <= ON for edge in edges[axis]):
            yield f"{axis}.{name}"


def _words(change: Change, around: Surroundings) -> Iterator[Mention]:
    """Where words stand that are others now, or are gone."""
    if change.kind is ChangeKind.WORDS:
        texts = [aspect.was for aspect in change.aspects if aspect.what == "text"]
    elif change.kind is ChangeKind.REMOVED:
        things = (around.version.by_address.get(item) for item, _ in change.pairs if item)
        texts = [words.text for thing in things if thing and (words := thing.layer.words)]
    else:
        return
    for text in texts:
        if pattern := _as_written(text):
            for source in around.sources:
                yield from source.found(pattern)


def _as_written(text: str) -> re.Pattern[str] | None:
    """A text as markup writes it, over any lines; None for one too short to be looked for."""
    words = text.split()
    if sum(map(len, words)) < 2:
        return None
    each = (f"(?:{re.escape(word)}|{re.escape(html.escape(word, quote=False))})" for word in words)
    return re.compile(r"(?<!\w)" + r"\s+".join(each) + r"(?!\w)")


def _colors(change: Change, around: Surroundings) -> Iterator[Mention]:
    for pattern in _color_patterns(change):
        for source in around.sources:
            if source.path.suffix == ".css":
                yield from source.found(pattern)


def _color_patterns(change: Change) -> Iterator[re.Pattern[str]]:
    for aspect in change.aspects if change.kind is ChangeKind.RECOLOURED else ():
        if re.fullmatch(r"#[0-9a-f]{6}", aspect.was):
            yield re.compile(rf"{aspect.was}(?![0-9a-f])", re.IGNORECASE)


def _tokens(change: Change, around: Surroundings) -> Iterator[str]:
    """The custom properties whose value was the old colour."""
    for pattern in _color_patterns(change):
        named = re.compile(rf"--([\w-]+)\s*:\s*{pattern.pattern}", re.IGNORECASE)
        names = (match[1] for source in around.sources for match in named.finditer(source.text))
        yield from dict.fromkeys(names)


def _pages(lines: Iterable[Mention], around: Surroundings) -> Iterator[str]:
    """The pages that lines are on; what begins with an underscore is part of every one."""
    if around.project is None:
        return
    folder = around.project.folder("pages")
    for mention in lines:
        if mention.file.is_relative_to(folder) and not mention.file.name.startswith("_"):
            yield mention.file.stem
