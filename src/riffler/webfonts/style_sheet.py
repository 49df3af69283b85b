"""Faces and what stands in for them -> `@font-face` rules. CSS Fonts 4, section 4."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass

from riffler.measure.css import family
from riffler.plain import slug
from riffler.webfonts.facts import Facts
from riffler.webfonts.fallback import GENERIC, Fallback
from riffler.webfonts.subset import ranges

#: The style sheet's name in the folder of styles.
FILE = "typefaces.css"


@dataclass(frozen=True)
class WebFace:
    """A face as it goes to the web; `url` is how the style sheet names its file.

    `characters` are None where it is whole.
    """

    facts: Facts
    url: str
    characters: frozenset[int] | None
    fallback: Fallback


def style_sheet(faces: Sequence[WebFace], display: str) -> str:
    """All faces, what stands in for each, and a custom property with the list of each family."""
    return "\n".join(_lines(faces, display)) + "\n"


def _lines(faces: Sequence[WebFace], display: str) -> Iterator[str]:
    yield "/* Made by riffler fonts --web: use the lists below as font-family. */"
    yield ""
    yield ":root {"
    for name, inside in _families(faces).items():
        manner = inside[0].facts.manner
        listed = f"{family(name)}, {family(stand_in(name))}, {GENERIC[manner]}"
        yield f"  --font-{font_slug(name)}: {listed};"
    yield "}"
    for face in faces:
        yield ""
        yield from _face(face, display)
    for face in faces:
        yield ""
        yield from _fallback(face)


def _families(faces: Iterable[WebFace]) -> dict[str, list[WebFace]]:
    web_faces: dict[str, list[WebFace]] = {}
    for face in faces:
        web_faces.setdefault(face.facts.face.family, []).append(face)
    return web_faces


def stand_in(name: str) -> str:
    """The family that stands in for another."""
    return f"{name} stand-in"


def font_slug(family: str) -> str:
    """A family's name as the end of a custom property's, and of a file's."""
    return slug(family, "text")


def _face(face: WebFace, display: str) -> Iterator[str]:
    facts = face.facts
    yield "@font-face {"
    yield f"  font-family: {family(facts.face.family)};"
    yield f"  font-style: {facts.style};"
    yield f"  font-weight: {facts.weight};"
    yield f"  font-display: {display};"
    yield f'  src: url("{face.url}") format("woff2");'
    if face.characters is not None:
        yield f"  unicode-range: {ranges(face.characters)};"
    yield "}"


def _fallback(face: WebFace) -> Iterator[str]:
    facts, fallback = face.facts, face.fallback
    sources = ", ".join(f'local("{name}")' for name in fallback.locals)
    yield "@font-face {"
    yield f"  font-family: {family(stand_in(facts.face.family))};"
    yield f"  font-style: {facts.style};"
    yield f"  font-weight: {facts.weight};"
    yield f"  src: {sources};"
    for name, share in (
        ("size-adjust", fallback.size),
        ("ascent-override", fallback.ascent),
        ("descent-override", fallback.descent),
        ("line-gap-override", fallback.line_gap),
    ):
        yield f"  {name}: {100 * share:.4g}%;"
    yield "}"
