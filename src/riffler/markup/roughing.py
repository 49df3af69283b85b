"""A project's mockups -> the first templates, styles and data of its pages."""

from __future__ import annotations

import re
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass, replace
from html import unescape
from pathlib import Path

from riffler.cutlist.sound_names import sound
from riffler.cutlist.targets import page_of as page_in
from riffler.errors import RifflerError, nearest
from riffler.files import as_typed
from riffler.markup.before import Before, Landmark, as_it_is
from riffler.markup.classes import Classes, Rule
from riffler.markup.element import Element, Lengths
from riffler.markup.loops import data_text, name_data
from riffler.markup.page_plan import Laid, Page, page_of, plans
from riffler.markup.shell import Templates, blocks_of, templates
from riffler.markup.stylesheet import PageGround, color_names, rules_text, text
from riffler.markup.template import lines
from riffler.mockup.font_book import Face
from riffler.project.places import PAGE_STYLES
from riffler.workspace import Opened, Workspace
from riffler.workspace.pages import HOME

#: The version of what is told as JSON.
VERSION = 1

#: The longest name of a page that its classes begin with.
SHORT = 12

#: A tag of HTML.
_TAG = re.compile(r"</?[a-z][^<>]*>")

#: The style sheet of what pages share; what one page has alone stands in one of its own.
STYLES = "site.css"


@dataclass(frozen=True)
class Roughed:
    """What was roughed out: files below the project with their text, and what to know of them.

    `unsaid` counts words, links and alternative texts that are still to be said; `missing` are
    pictures without a slice, `unused` slices without a place, `lost` texts of the mockup that stand
    in no file, `hidden` ones that a narrow mockup leaves out, `only` what it alone shows, by page.
    `before` is what was there, and `mockups` are the files that each page was made of, by its name:
    the wide one first.
    """

    files: tuple[tuple[str, str], ...]
    pages: tuple[str, ...]
    unsaid: int
    missing: tuple[tuple[str, str], ...]
    unused: tuple[tuple[str, str], ...]
    lost: tuple[tuple[str, str], ...]
    hidden: tuple[tuple[str, str], ...]
    only: tuple[tuple[str, str], ...]
    before: Before
    mockups: dict[str, tuple[Path, ...]]


def rough(
    workspace: Workspace,
    paths: Sequence[Path],
    lengths: Lengths,
    part: str | None = None,
    before: Before | None = None,
    look: Callable[[Laid], None] | None = None,
) -> Roughed:
    """Rough out pages for these mockups, or for every one that has a cutlist.

    With `before` it is done as when that was there, whatever is there now; each page is shown to
    `look`, which may mend it.

    A shell that somebody wrote is kept, and the pages fill its blocks. Of a `part`, by its element
    or class, there are its lines and rules alone. Raises RifflerError where there is no such part.
    """
    before = before or as_it_is(workspace.project)
    if part is not None:  # it is called as it was when nothing was there
        before = replace(
            before, shell=None, data=frozenset(), has_index=False, classes=frozenset(), landmarks={}
        )
    wide, narrow = _mockups(workspace, paths)
    named = _named(wide, before)
    known = {*(name for name, _ in named), *before.pages}

    def page_named(link: str) -> str | None:
        page = page_in(link)
        return link if page is None or page in known else None

    pages: list[Page] = []
    small = _by_page(named, narrow)
    for plan in plans(named, small, is_added=before.shell is not None):
        usual = pages[0].usual if pages else None
        was = before.set_like.get(plan.name)
        pages.append(page_of(plan, page_named, lengths, usual, look, was))
    made_templates = templates(pages, None if before.shell is None else blocks_of(before.shell))
    _keep_below(pages, made_templates, before)
    name_data(made_templates.elements, set(before.data))
    classes = _classes(made_templates, pages, before.classes)
    files = tuple(_files(workspace, made_templates, classes, lengths, before))
    if part is not None:
        files = (("", _part(pages, classes, part)),)
    drawn = {
        name: tuple(one.mockup.path for one in (opened, small.get(name)) if one)
        for name, opened in named
    }
    before = replace(before, set_like={page.name: page.set_like for page in pages})
    return _told(files, pages, before, drawn)


def _told(
    files: tuple[tuple[str, str], ...],
    pages: Sequence[Page],
    before: Before,
    mockups: dict[str, tuple[Path, ...]],
) -> Roughed:
    return Roughed(
        files,
        tuple(page.name for page in pages),
        sum(content.count("unsaid") for _, content in files),
        tuple((page.name, address) for page in pages for address in page.missing),
        tuple((page.name, name) for page in pages for name in page.unused),
        tuple(_lost(files, pages)),
        tuple((page.name, text) for page in pages for text in page.unlike.hidden),
        tuple((page.name, name) for page in pages for name in page.unlike.only),
        before,
        mockups,
    )


def _lost(files: Sequence[tuple[str, str]], pages: Sequence[Page]) -> Iterator[tuple[str, str]]:
    """Texts that a mockup says and none of the files does, by page: a mistake of ours."""
    whole = "\n".join(text for _, text in files)
    said = _letters(_TAG.sub("", whole)) + _letters(whole)  # words may stand in attributes
    for page in pages:
        yield from ((page.name, text) for text in page.texts if _letters(text) not in said)


def _letters(text: str) -> str:
    """A text by its letters and figures alone, however a file spells and breaks the rest."""
    return "".join(filter(str.isalnum, unescape(text).replace("\\n", " ")))


def _mockups(workspace: Workspace, paths: Sequence[Path]) -> tuple[list[Opened], list[Opened]]:
    """The mockups that become pages, and all narrow ones that there are.

    Raises RifflerError for one that nobody has planned.
    """
    narrow = [opened for opened in workspace.every() if opened.cutlist and opened.cutlist.label]
    all_opened = [
        opened for opened in workspace.meant(paths) if not (opened.cutlist and opened.cutlist.label)
    ]
    if not all_opened:
        name = as_typed(narrow[0].mockup.path) if narrow else "this"
        raise RifflerError(f"{name} is for narrow windows.", "Rough out the wide mockup with it.")
    for opened in all_opened:
        if opened.cutlist is None:
            name = as_typed(opened.mockup.path)
            raise RifflerError(f"{name} has no cutlist yet.", f"First: riffler draft {name}")
    return all_opened, narrow


def _by_page(named: Sequence[tuple[str, Opened]], narrow: Sequence[Opened]) -> dict[str, Opened]:
    """Narrow mockups by the page that they are of: the one with the most slices of theirs."""

    def shared(first: Opened, second: Opened) -> int:
        return len(_slices(first) & _slices(second))

    all_opened: dict[str, Opened] = {}
    for opened in narrow:
        page, wide = max(named, key=lambda pair: shared(pair[1], opened))
        if shared(wide, opened):
            all_opened.setdefault(page, opened)
    return all_opened


def _slices(opened: Opened) -> set[str]:
    return set(opened.cutlist.by_name) if opened.cutlist else set()


def _named(mockups: Sequence[Opened], before: Before) -> list[tuple[str, Opened]]:
    """Mockups with the pages that they become: the one called so, or the first, is the index."""
    stems = [sound(opened.mockup.path.stem) for opened in mockups]
    home = next((stem for stem in stems if stem in HOME), "" if before.has_index else stems[0])
    all_opened: dict[str, Opened] = {}
    for stem, opened in zip(stems, mockups, strict=True):
        name = "index" if stem == home else stem
        while name in all_opened:
            name += "-2"
        all_opened[name] = opened
    return sorted(all_opened.items(), key=lambda pair: pair[0] != "index")


def _classes(templates: Templates, pages: Sequence[Page], taken: frozenset[str]) -> Classes:
    """Every rule; elements get their classes, those of further pages after the page's name."""
    is_single, first = len(pages) == 1 and not templates.is_added, pages[0]
    classes = Classes(is_single=is_single, taken=taken)
    for page in pages:
        if page.ground and (page.ground != first.ground or templates.is_added):
            page.body.css["background"] = page.ground
    classes.share([*templates.elements])
    for name, root in templates.roots:
        is_first = name in ("", first.name) and not templates.is_added
        classes.assign(root, name, "" if is_first else _short(name))
    return classes


def _short(page: str) -> str:
    """A page's name before the names of its classes: a word of it."""
    return page[:SHORT].partition("-")[0] if len(page) > SHORT else page


def _files(
    workspace: Workspace, templates: Templates, classes: Classes, lengths: Lengths, before: Before
) -> Iterator[tuple[str, str]]:
    project, pages = workspace.project, templates.pages
    folders, first = project.settings.folders, pages[0]
    for name, content in templates.texts:
        yield f"{folders.pages}/{name}", content
    for loop in templates.loops:
        yield f"{folders.data}/{loop.data}.toml", data_text(loop)
    rules = list(classes.rules.values())
    ground, names = PageGround(first.usual, first.ground), dict[str, str]()
    if not templates.is_added:
        shared = [rule for rule in rules if rule.is_shared]
        rules = [rule for rule in rules if not rule.is_shared]
        names = color_names([*shared, *rules], ground)
        faces = [] if before.has_web_fonts else _faces(workspace, pages)
        sheet = text(shared, names, ground, faces, lengths, first.width, rules)
        yield f"{folders.styles}/{STYLES}", sheet
    for page in pages:
        own = [*_standing(page, templates, before, lengths)]
        own += [rule for rule in rules if page.name in rule.pages]
        if own:
            file = f"{folders.styles}/{PAGE_STYLES}/{page.name}.css"
            yield file, rules_text(own, names, page.width)


def _standing(page: Page, templates: Templates, before: Before, lengths: Lengths) -> Iterator[Rule]:
    """How the header of a shell stands on a page that is added, if otherwise than there."""
    for own, landmark in _kept("header", page, templates, before):
        css, narrow = landmark.on(own, lengths)
        if css:
            yield Rule(landmark.selector, css, narrow=narrow, pages={page.name})


def _keep_below(pages: Sequence[Page], templates: Templates, before: Before) -> None:
    """Keep the footer of a shell as far down on pages that are added as it was drawn there."""
    for page in pages:
        for own, landmark in _kept("footer", page, templates, before):
            if place := page.body.inner.index(own):
                landmark.keep_below(page.body.inner[place - 1], own)


def _kept(
    tag: str, page: Page, templates: Templates, before: Before
) -> Iterator[tuple[Element, Landmark]]:
    """The header, or the footer, that a page would have, and that of a shell that stands there."""
    landmark = before.landmarks.get(tag)
    for own in page.body.inner if landmark else ():
        if landmark and own.tag == tag and own not in templates.fills[page.name].get(tag, ()):
            yield own, landmark


def _part(pages: Sequence[Page], classes: Classes, part: str) -> str:
    """The template and the rules of one part. Raises RifflerError where there is none."""
    elements = [element for page in pages for element in page.body.walk()]
    found_element = next(
        (element for element in elements if part in (element.tag, *element.classes)), None
    )
    if found_element is None:
        names = dict.fromkeys(
            name for element in elements for name in (element.tag, *element.classes)
        )
        raise RifflerError(f'There is no part "{part}".', nearest(part, list(names), "Parts are"))
    inside = {
        name
        for element in found_element.walk()
        for name in (element.tag, *(f".{c}" for c in element.classes))
    }
    rules = [rule for rule in classes.rules.values() if rule.selector in inside]
    return "\n".join((*lines([found_element]), "", rules_text(rules, {})))


def _faces(workspace: Workspace, pages: Sequence[Page]) -> list[tuple[Face, str]]:
    """The faces of the project that the pages are set in, with their addresses."""
    faces: dict[Path, Face] = {}
    for page in pages:
        for family, weight, is_italic in sorted(page.families):
            face = workspace.fonts.nearest(family, weight, is_italic=is_italic)
            if face is not None and not face.is_system:
                faces.setdefault(face.path, face)
    root = workspace.project.root
    return [
        (face, f"../{path.relative_to(root).as_posix()}")
        for path, face in sorted(faces.items())
        if path.is_relative_to(root)
    ]
