"""Faces of text -> tables: what is used and what stands in, what went to the web."""

from __future__ import annotations

from collections.abc import Sequence

from riffler.errors import enumerated
from riffler.files import as_typed
from riffler.output.asset import FontAsset
from riffler.project.project import Project
from riffler.report.screen import Column, Screen
from riffler.report.wording import kilobytes, plural
from riffler.webfonts.facts import Permission
from riffler.webfonts.publishing import Web
from riffler.webfonts.style_sheet import FILE, font_slug
from riffler.webfonts.using import FaceUse

#: Where a face was found, and what is said of its permission.
FOUND = {"project": "in the project", "system": "on this system", None: "missing"}
WEB = {Permission.ALLOWED: "yes", Permission.WHOLE: "whole", Permission.REFUSED: "no"}

#: Letters that a face has not, as many as are shown.
LETTERS = 12


def show_used(screen: Screen, used: Sequence[FaceUse], *, is_project: bool) -> None:
    """What the text asks for, and what becomes of it."""
    if not used:
        screen.say("No layer holds live text, so no font is asked for.")
        return
    columns = [
        Column("family", style="bold"),
        Column("weight", is_right=True),
        Column("style"),
        Column("words", is_right=True),
        Column("found"),
        Column("drawn with"),
        Column("widths", is_right=True),
        Column("web"),
    ]
    screen.table(columns, [_row(use) for use in used])
    notes = [*_notes(used)]
    if is_project and any(use.facts for use in used):
        notes.append("riffler fonts --web makes web fonts of those in the project.")
    if notes:
        screen.say("")
    for note in notes:
        screen.say(note)


def _row(use: FaceUse) -> tuple[str, ...]:
    face = use.face
    is_itself = face is not None and (
        (face.family, face.weight, face.is_italic)
        == (use.family, use.weight, use.style != "normal")
    )
    drawn = "nothing" if face is None else "itself" if is_itself else _named(use)
    off = "not known" if use.off is None else f"{100 * use.off:+.1f} %"
    web = WEB[use.facts.permission] if use.facts else ""
    style = "" if use.style == "normal" else use.style
    return (
        use.family,
        str(use.weight),
        style,
        str(use.words),
        FOUND[use.found],
        drawn,
        "" if is_itself else off,
        web,
    )


def _named(use: FaceUse) -> str:
    face = use.face
    if face is None:
        return "nothing"
    return f"{face.family} {face.weight}{' italic' if face.is_italic else ''}"


def _notes(used: Sequence[FaceUse]) -> list[str]:
    notes = []
    missing = sorted({use.family for use in used if use.found is None})
    if missing:
        notes.append(f"Put the files of {enumerated(missing)} into the project's fonts folder.")
    foreign = sorted({use.family for use in used if use.found == "system"})
    if foreign:
        verb = "is" if len(foreign) == 1 else "are"
        notes.append(
            f"{enumerated(foreign)} {verb} on this system alone: others will not see it so."
        )
    for use in used:
        if use.missing:
            letters = " ".join(use.missing[:LETTERS])
            notes.append(f"{use.family} {use.weight} has no {letters}")
        if use.facts and use.facts.permission is Permission.REFUSED:
            notes.append(f"{use.family} {use.weight} may not be a web font: {use.facts.why}.")
    return list(dict.fromkeys(notes))


def show_web(screen: Screen, web: Web, project: Project) -> None:
    """What was written, how much smaller it is, and how it gets into pages."""
    font_assets = {asset.file: asset for asset in web.done.assets if isinstance(asset, FontAsset)}
    columns = [
        Column("face", style="bold"),
        Column("characters", is_right=True),
        Column("font", is_right=True),
        Column("web font", is_right=True),
        Column("stands in until then"),
        Column("license"),
    ]
    rows = []
    for face, asset in zip(web.faces, font_assets.values(), strict=True):
        facts = face.facts
        slant = " italic" if facts.face.is_italic else ""
        count = "all" if face.characters is None else str(len(face.characters))
        rows.append(
            (
                f"{facts.face.family} {facts.weight}{slant}",
                count,
                kilobytes(facts.face.path.stat().st_size),
                kilobytes(asset.bytes),
                f"{face.fallback.locals[0]} at {100 * face.fallback.size:.1f} %",
                facts.license,
            )
        )
    screen.table(columns, rows)
    for refused in web.refused:
        screen.say(f"{refused.face.family} {refused.face.weight} stays at home: {refused.why}.")
    screen.say("")
    folder = as_typed(project.out)
    count = plural(len(font_assets), "web font")
    verb = "Wrote" if web.done.written else "Unchanged:"
    screen.say(f"{verb} {count}, {kilobytes(web.bytes)}, and {FILE} in {folder}.")
    families = dict.fromkeys(face.facts.face.family for face in web.faces)
    lists = ", ".join(f"var(--font-{font_slug(family)})" for family in families)
    screen.say(f"In your styles: font-family: {lists}; head() links the style sheet.")
