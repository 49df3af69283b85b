"""A project -> its faces on the web: which, why not, their files and their style sheet.

Web fonts are made by a command of their own, recorded in the ledger as pictures are; `head()` links
their style sheet when it is there. What stands in is measured against the widths of faces that
every system has, which ship as a table: the same bytes on every machine.
"""

from __future__ import annotations

import posixpath
from collections.abc import Sequence
from dataclasses import dataclass
from pathlib import Path
from typing import Any
from urllib.parse import quote

from riffler.errors import Place, RifflerError, WrittenError
from riffler.files import as_typed
from riffler.mockup.font_book import Face, FontBook
from riffler.mockup.model import Mockup
from riffler.output.asset import FontAsset, StyleAsset
from riffler.output.ledger import Ledger
from riffler.output.publish import Made, Published, described, publish
from riffler.project.lock import locked
from riffler.project.project import Project
from riffler.webfonts.characters import needed
from riffler.webfonts.facts import Facts, Permission, facts_of
from riffler.webfonts.fallback import fallback_of
from riffler.webfonts.style_sheet import FILE, WebFace, font_slug, style_sheet
from riffler.webfonts.subset import web_font
from riffler.webfonts.using import FaceUse, faces_used
from riffler.workspace import Workspace

#: The version of what `as_data` gives.
VERSION = 1

#: The folder of web fonts, below that of fonts.
FOLDER = "web"


@dataclass(frozen=True)
class Refused:
    """A face that is not put on the web, and why."""

    face: Face
    why: str


@dataclass(frozen=True)
class Web:
    """What was made; `refused` are faces that may not be on the web."""

    done: Published
    faces: tuple[WebFace, ...]
    refused: tuple[Refused, ...]

    @property
    def bytes(self) -> int:
        """Of all web fonts together."""
        return sum(asset.bytes for asset in self.done.assets if isinstance(asset, FontAsset))


def mockups_of(workspace: Workspace, paths: Sequence[Path]) -> list[Mockup]:
    """These mockups, or all that the project cuts. Raises RifflerError where that is none."""
    return [opened.mockup for opened in workspace.meant(paths)]


def fonts(workspace: Workspace, mockups: Sequence[Mockup]) -> list[FaceUse]:
    """What the text of these mockups uses."""
    return faces_used(mockups, workspace.fonts)


def web(
    workspace: Workspace, used: Sequence[FaceUse], mockups: Sequence[Mockup], *, force: bool = False
) -> Web:
    """Write the project's faces as web fonts, with their style sheet.

    Raises RifflerError, with nothing written, where there are none, for a damaged one, and where a
    file was changed by hand.
    """
    project = workspace.project
    _refuse_written(project)
    faces, refused = _faces(project)
    texts = {(use.face.path if use.face else None): use.text for use in used}
    settings = project.settings.web_fonts
    wanted = needed(project, mockups, settings.more)
    files: list[Made] = []
    web_faces: list[WebFace] = []
    for facts in faces:
        is_whole = facts.permission is Permission.WHOLE
        characters = None if is_whole else wanted & facts.characters
        asset = _font(project, facts, web_font(facts, wanted), {file.asset.file for file in files})
        files.append(asset)
        styles = project.settings.folders.styles
        url = quote(posixpath.relpath(asset.asset.file, styles), safe="/@")
        fallback = fallback_of(facts, texts.get(facts.face.path, ""))
        web_faces.append(WebFace(facts, url, characters, fallback))
    text = style_sheet(web_faces, settings.display)
    file = posixpath.join(project.settings.folders.styles, FILE)
    files.append(described(StyleAsset, project, file, text.encode(), made_by="fonts"))
    with locked(project):
        ledger = Ledger.read(project.out)
        answered = [asset for asset in ledger.assets if asset.made_by == "fonts"]
        published = publish(project, ledger, files, answered, force=force)
    return Web(published, tuple(web_faces), tuple(refused))


def _refuse_written(project: Project) -> None:
    """Raises WrittenError where a hand-written style sheet has the name of ours."""
    path = project.folder("styles") / FILE
    if path.exists():
        raise WrittenError(
            f"{FILE} is the name of the style sheet that is made from the fonts.",
            "Give the hand-written one another name.",
            Place(path),
        )


def _faces(project: Project) -> tuple[list[Facts], list[Refused]]:
    """The project's faces, each once. Raises RifflerError where there is none at all."""
    book = FontBook(project.fonts())
    if not book.faces():
        folder = as_typed(project.folder("fonts"))
        raise RifflerError(
            f"There is no font in {folder}.", "Put the files of your typefaces there."
        )
    known_faces: dict[tuple[str, int, bool], Face] = {}
    for face in book.faces():
        known_faces.setdefault((face.family, face.weight, face.is_italic), face)
    all_facts = [facts_of(face) for face in known_faces.values()]
    refused = [
        Refused(facts.face, facts.why)
        for facts in all_facts
        if facts.permission is Permission.REFUSED
    ]
    return [facts for facts in all_facts if facts.permission is not Permission.REFUSED], refused


def _font(project: Project, facts: Facts, data: bytes, taken: set[str]) -> Made:
    face = facts.face
    slant = "-italic" if face.is_italic else ""
    weight = "variable" if facts.weights else str(face.weight)
    name = f"{font_slug(face.family)}-{weight}{slant}"
    names = (name, *(f"{name}-{number}" for number in range(2, len(taken) + 3)))
    folder = posixpath.join(project.settings.folders.fonts, FOLDER)
    file = next(
        file for name in names if (file := posixpath.join(folder, f"{name}.woff2")) not in taken
    )
    return described(
        FontAsset,
        project,
        file,
        data,
        made_by="fonts",
        family=face.family,
        weight=facts.weight,
        style=facts.style,
        source=project.relative(face.path),
    )


def as_data(used: Sequence[FaceUse], web: Web | None) -> dict[str, Any]:
    """All of it, for programs."""
    return {
        "faces": [_use(use) for use in used],
        "web": web
        and {
            **web.done.as_data(),
            "faces": [
                {
                    "family": face.facts.face.family,
                    "weight": face.facts.weight,
                    "style": face.facts.style,
                    "url": face.url,
                    "characters": None if face.characters is None else len(face.characters),
                    "license": face.facts.license,
                    "size_adjust": round(face.fallback.size, 4),
                    "stand_in": face.fallback.locals[0],
                }
                for face in web.faces
            ],
            "refused": [
                {"family": refused.face.family, "weight": refused.face.weight, "why": refused.why}
                for refused in web.refused
            ],
        },
    }


def _use(use: FaceUse) -> dict[str, Any]:
    facts = use.facts
    return {
        "family": use.family,
        "weight": use.weight,
        "style": use.style,
        "words": use.words,
        "layers": list(use.layers),
        "found": use.found,
        "drawn_with": use.face and {"family": use.face.family, "weight": use.face.weight},
        "off": None if use.off is None else round(use.off, 4),
        "missing": use.missing,
        "embedding": facts and str(facts.permission),
        "license": facts.license if facts else "",
    }
