"""What a run is about to write -> a note that outlives a kill: files of it are known as ours.

It is written before the first file and removed after the ledger. A run that finds one goes on from
there: what earlier runs meant to write stays noted until a ledger records it or it is gone.
"""

from __future__ import annotations

from collections.abc import Collection, Mapping
from dataclasses import dataclass
from pathlib import Path

from riffler.digests import sha256_of
from riffler.errors import RifflerError
from riffler.files import remove
from riffler.output.asset import Asset
from riffler.plain import adapter_of, parse_json, plain, to_json
from riffler.project.places import JOURNAL
from riffler.project.project import Project
from riffler.project.sealed import read_note, write_note


@dataclass(frozen=True)
class Intent:
    """A file that was to be written: by which command, and the digests that it may have."""

    made_by: str
    digests: tuple[str, ...]


@dataclass(frozen=True)
class Journal:
    """Files that runs which were killed may have left, by their paths below the output folder."""

    project: Project
    intents: Mapping[str, Intent]

    @classmethod
    def read(cls, project: Project) -> Journal:
        """The journal of a run that did not end; empty where there is none that counts."""
        try:
            noted = read_note(project.work / JOURNAL)
            data = parse_json(noted) if noted is not None else {}
            return cls(project, adapter_of(dict[str, Intent]).validate_python(data))
        except (RifflerError, OSError, ValueError):
            return cls(project, {})

    def digests(self, file: str) -> tuple[str, ...]:
        """What a file may have become in a run that was killed."""
        return self.intents[file].digests if file in self.intents else ()

    def leftovers(self, known: Collection[str], makers: Collection[str]) -> list[str]:
        """Files of these commands that stand as they were to be written, and that nobody knows."""
        return [
            file
            for file, intent in self.intents.items()
            if file not in known and intent.made_by in makers and self._is_left(file)
        ]

    def begun(self, coming: Collection[Asset]) -> Journal:
        """The journal of a run that is about to write these files, too."""
        new = {
            asset.file: Intent(asset.made_by, (asset.sha256, *self.digests(asset.file)))
            for asset in coming
        }
        return Journal(self.project, {**self.intents, **new})

    def ended(self, done: Collection[str]) -> Journal:
        """What stays noted after a run that took care of some files."""
        left = {
            file: intent
            for file, intent in self.intents.items()
            if file not in done and self._is_left(file)
        }
        return Journal(self.project, left)

    def write(self) -> None:
        """Write it, so that it outlives a crash; an empty one is removed."""
        path = self.project.work / JOURNAL
        if self.intents:
            write_note(path, to_json(plain(self.intents)).encode(), is_lasting=True)
        else:
            remove(path, self.project.work)

    def _is_left(self, file: str) -> bool:
        return sha256_of(self._place(file)) in self.intents[file].digests

    def _place(self, file: str) -> Path:
        return self.project.out / file
