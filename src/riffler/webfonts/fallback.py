"""A face -> a face of the system that takes its place until it is there, and nothing moves then.

CSS Fonts 5, section 4: `size-adjust`, `ascent-override`, `descent-override`, `line-gap-override`.
"""

from __future__ import annotations

from dataclasses import dataclass

from riffler.webfonts.facts import Facts, Manner
from riffler.webfonts.widths import BOLD, width_in, width_of_stand_in

#: The names under which systems have the faces that stand in: regular, bold, italic, both.
LOCALS: dict[Manner, tuple[str, ...]] = {
    "sans": ("Arial", "Liberation Sans", "Arimo", "Helvetica"),
    "serif": ("Times New Roman", "Liberation Serif", "Tinos", "Times"),
    "mono": ("Courier New", "Liberation Mono", "Cousine", "Courier"),
}

#: The generic words of the manners.
GENERIC: dict[Manner, str] = {"sans": "sans-serif", "serif": "serif", "mono": "monospace"}

#: What is measured where a project has no text yet: letters about as often as in running text.
USUAL = (
    "The quick brown fox jumps over the lazy dog, and then it is seen no more: all in all "
    "the hours that one spends on a page are not those one meant to, as is often so."
)


@dataclass(frozen=True)
class Fallback:
    """How a face of the system is drawn to take as much room; all as shares.

    `locals` are the names that it may have. The overrides are of the font size as it is adjusted.
    """

    locals: tuple[str, ...]
    generic: str
    size: float
    ascent: float
    descent: float
    line_gap: float


def fallback_of(facts: Facts, text: str = "") -> Fallback:
    """What stands in for a face, by the widths of the text that is set in it.

    Raises RifflerError for a damaged font.
    """
    face = facts.face
    known = "".join(letter for letter in text if ord(letter) in facts.characters)
    sample = known if len(known) >= 20 else USUAL
    theirs = width_of_stand_in(facts.manner, sample, face.weight, is_italic=face.is_italic)
    size = width_in(face.path, sample) / theirs if theirs else 1.0
    return adjusted(facts, size or 1.0, tuple(_locals(facts)))


def adjusted(facts: Facts, size: float, names: tuple[str, ...]) -> Fallback:
    """A face that is drawn `size` times as large, with the lines of another."""
    lengths = (facts.ascent / size, facts.descent / size, facts.line_gap / size)
    return Fallback(names, GENERIC[facts.manner], size, *lengths)


def _locals(facts: Facts) -> list[str]:
    is_bold = facts.face.weight >= BOLD
    styled = (" Bold" if is_bold else "") + (" Italic" if facts.face.is_italic else "")
    return [f"{name}{styled}" for name in LOCALS[facts.manner]]
