"""A file that a person tells a command to write: what is there and not ours is not written over."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from contextlib import suppress
from dataclasses import dataclass
from pathlib import Path

from riffler.errors import OutputError, RifflerError, WrittenError
from riffler.files import as_typed, real, write_whole
from riffler.project.project import Project
from riffler.project.written import Written

#: What our own pages and drawings say near their beginning, and how far in it is looked for.
OURS, NEAR = "Drawn by Riffler", 2_000


@dataclass(frozen=True)
class Target:
    """A file to write, which may be there already.

    What we drew earlier is drawn again; anything else only with `force`, and what people make
    (mockups, cutlists, pages, styles, fonts, settings) not even then.
    """

    path: Path
    force: bool = False

    def check(self, endings: Sequence[str] = (), sources: Sequence[Path] = ()) -> None:
        """Raises OutputError, or RifflerError for another ending, before any work is done.

        `sources` are the files that the work reads.
        """
        if endings and self.path.suffix.lower() not in endings:
            raise RifflerError(f'"{self.path}" should end in {" or ".join(endings)}.')
        name = as_typed(self.path)
        if self.path.is_dir():
            raise OutputError(f"{name} is a folder.", "Name a file.")
        if not self.path.exists():
            return
        if real(self.path) in map(real, (*sources, *self._by_hand())):
            raise OutputError(
                f"That would write over {name}, which is a source.", "Name another file."
            )
        if not self.force and not self._is_ours():
            raise OutputError(
                f"{name} is there already and was not drawn by Riffler, so it stays as it is.",
                "Name another file, or use --force to write over it.",
            )

    def write(self, data: bytes) -> None:
        """Write it; a link in its place is replaced, not followed. Raises OutputError."""
        write_whole(self.path, data)

    def _is_ours(self) -> bool:
        with suppress(OSError), self.path.open("rb") as file:
            return OURS.encode() in file.read(NEAR)
        return False

    def _by_hand(self) -> Iterator[Path]:
        """The file itself when people made it; the mockups of the project it lies in."""
        project = Project.around(self.path.parent)
        if project is None:
            return
        if project.is_by_hand(self.path):
            yield self.path
        for cutlist in project.cutlists():
            with suppress(WrittenError, KeyError, TypeError):  # the survey says what is wrong there
                yield cutlist.parent / Written.read(cutlist).data["mockup"]


def targets_in(
    folder: Path, files: Mapping[str, bytes], sources: Sequence[Path] = (), *, force: bool = False
) -> list[tuple[Target, bytes]]:
    """Files to write into a folder; those that are there as they will be may be written over.

    Raises OutputError before any work is done, as `Target.check` does.
    """
    if folder.exists() and not folder.is_dir():
        raise RifflerError(f"{as_typed(folder)} is no folder.", "Name a folder: -o DIR")
    result = [(Target(folder / name, force), data) for name, data in files.items()]
    for target, data in result:
        if not target.path.is_file() or target.path.read_bytes() != data:
            target.check(sources=sources)
    return result


def targets(
    paths: Mapping[str, Path | None], sources: Sequence[Path], *, force: bool
) -> list[Target]:
    """Files to write, by the endings that they must have. Raises RifflerError for a wrong one."""
    found_targets = []
    for ending, path in paths.items():
        if path is not None:
            found_targets.append(Target(path, force))
            found_targets[-1].check((ending,), sources)
    return found_targets
