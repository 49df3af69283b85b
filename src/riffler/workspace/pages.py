"""Mockups of a project -> the pages that they are of, by name."""

from __future__ import annotations

from collections.abc import Sequence

from riffler.cutlist.naming import sound
from riffler.workspace.workspace import Opened

#: Mockups that are called so are those of the first page.
HOME = ("home", "index", "start", "main", "landing", "homepage")


def page_of(opened: Opened, every: Sequence[Opened]) -> str:
    """The page that a mockup is of; one for a narrow window is of the same page as the wide one."""
    stems = [sound(one.mockup.path.stem) for one in every]
    home = next((stem for stem in stems if stem in HOME), stems[0])
    stem = sound(opened.mockup.path.stem)
    if opened.cutlist and opened.cutlist.label:
        stem = stem.removesuffix(f"-{opened.cutlist.label}").removesuffix("-narrow")
    return "index" if stem == home else stem
