"""What earlier runs made, under words for all that it was made from; it may be deleted any time."""

from __future__ import annotations

import contextlib
import json
from collections.abc import Sequence
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

from riffler.encode.choice import Choice
from riffler.errors import OutputError
from riffler.files import write_whole
from riffler.geometry import Box
from riffler.render.known import KnownBoxes

#: Goes into every word: raised when the same input is to give other bytes than before.
VERSION = 4

#: Below the work folder.
FOLDER, BOXES = "cache", "boxes.json"


@dataclass(frozen=True)
class Entry:
    """Files that one picture became, with its size in pixels and its place in the mockup."""

    choices: tuple[Choice, ...]
    width: int
    height: int
    place: Box


@dataclass
class Cache:
    """A folder of entries. Damaged ones count as missing, and a full disk only means no cache."""

    folder: Path
    used: set[str] = field(default_factory=set)

    def get(self, word: str) -> Entry | None:
        """What is kept under a word; None when nothing sound is."""
        self.used.add(word)
        try:
            raw = self._path(word).read_bytes()
            head, _, body = raw.partition(b"\n")
            known = json.loads(head)
            return _entry(known, body)
        except (OSError, ValueError, KeyError, TypeError):
            return None

    def put(self, word: str, entry: Entry) -> None:
        """Keep an entry under a word."""
        self.used.add(word)
        head = {
            "width": entry.width,
            "height": entry.height,
            "place": [entry.place.x, entry.place.y, entry.place.width, entry.place.height],
            "files": [
                {
                    "bytes": len(one.data), "format": one.format, "setting": dict(one.setting),
                    "loss": one.loss, "encodes": one.encodes,
                }
                for one in entry.choices
            ],
        }  # fmt: skip
        body = b"".join(one.data for one in entry.choices)
        with contextlib.suppress(OutputError):
            write_whole(self._path(word), json.dumps(head).encode() + b"\n" + body)

    def boxes(self) -> KnownBoxes:
        """The painted boxes that earlier runs found."""
        try:
            known = json.loads((self.folder / BOXES).read_bytes())
            boxes = {word: Box(*box) if box else None for word, box in known.items()}
            return KnownBoxes(boxes)
        except (OSError, ValueError, TypeError, AttributeError):
            return KnownBoxes()

    def keep_boxes(self, boxes: KnownBoxes) -> None:
        """Write the painted boxes that this run used."""
        kept = {word: boxes.boxes[word] for word in sorted(boxes.used)}
        listed = {
            word: [box.x, box.y, box.width, box.height] if box else None
            for word, box in kept.items()
        }
        data = json.dumps(listed).encode()
        path = self.folder / BOXES
        with contextlib.suppress(OSError, OutputError):
            if not path.exists() or path.read_bytes() != data:
                write_whole(path, data)

    def prune(self) -> None:
        """Drop the entries that this run did not ask for."""
        with contextlib.suppress(OSError):
            for path in self.folder.glob("??/*"):
                if path.parent.name + path.name not in self.used:
                    path.unlink(missing_ok=True)

    def _path(self, word: str) -> Path:
        return self.folder / word[:2] / word[2:]


def _entry(known: dict[str, Any], body: bytes) -> Entry:
    """Raises ValueError or KeyError for an entry that is not whole."""
    choices: list[Choice] = []
    at = 0
    files: Sequence[dict[str, Any]] = known["files"]
    for file in files:
        data = body[at : at + file["bytes"]]
        if len(data) != file["bytes"]:
            raise ValueError("cut short")
        at += len(data)
        choices.append(Choice(data, file["format"], file["setting"], file["loss"], file["encodes"]))
    if at != len(body):
        raise ValueError("too long")
    return Entry(tuple(choices), known["width"], known["height"], Box(*known["place"]))
