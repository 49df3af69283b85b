"""What earlier runs made, under fingerprints of what made it; it may be deleted any time."""

from __future__ import annotations

import contextlib
import json
import re
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any, TypeVar

from riffler.errors import OutputError, RifflerError
from riffler.files import remove, sweep
from riffler.geometry import Box
from riffler.plain import adapter_of, parse_json
from riffler.project.sealed import read_note, write_note
from riffler.render.boxes import BoxMemory

Result = TypeVar("Result")

#: Boxes of layers, below the cache's folder.
BOXES = "boxes.json"

#: What entries are called: an SHA-256, its first two digits as a folder.
_ENTRY = re.compile(r"[0-9a-f]{64}")

#: Stands in an entry's head for bytes, which follow it in order.
BYTES = "#bytes"


@dataclass
class Cache:
    """A folder of results. Damaged ones count as missing, and a full disk only means no cache.

    An entry is a line of JSON and the bytes of its files behind it: nothing that could run. One
    that another machine made counts as missing, too. With `is_only_read` nothing is kept.
    """

    folder: Path
    used: set[str] = field(default_factory=set)
    is_only_read: bool = False

    def get(self, fingerprint: str, kind: type[Result]) -> Result | None:
        """The result of a kind that is kept; None when nothing sound is."""
        self.used.add(fingerprint)
        try:
            noted = read_note(self._path(fingerprint))
            if noted is None:
                return None
            head, _, body = noted.partition(b"\n")
            value: Result = adapter_of(kind).validate_python(_joined(parse_json(head), body))
        except (RifflerError, OSError, ValueError, KeyError, TypeError):
            return None
        return value

    def has(self, fingerprint: str) -> bool:
        """Whether something is kept, sound or not."""
        return self._path(fingerprint).exists()

    def put(self, fingerprint: str, result: object) -> None:
        """Keep a result, a frozen dataclass."""
        self.used.add(fingerprint)
        if self.is_only_read:
            return
        parts: list[bytes] = []
        head = _split(adapter_of(type(result)).dump_python(result), parts)
        data = json.dumps(head).encode() + b"\n" + b"".join(parts)
        path = self._path(fingerprint)
        with contextlib.suppress(OutputError, OSError):
            write_note(path, data)
            sweep(path.parent, is_deep=False)  # a run that was killed here was about to write it

    def boxes(self) -> BoxMemory:
        """The boxes of layers that earlier runs found."""
        try:
            noted = read_note(self.folder / BOXES)
            known = parse_json(noted) if noted is not None else {}
            return BoxMemory(adapter_of(dict[str, Box | None]).validate_python(known))
        except (RifflerError, OSError, ValueError, TypeError):
            return BoxMemory()

    def keep_boxes(self, memory: BoxMemory) -> None:
        """Write the boxes that this run used."""
        if self.is_only_read:
            return
        kept = {digest: memory.boxes[digest] for digest in sorted(memory.used)}
        data = json.dumps(adapter_of(dict[str, Box | None]).dump_python(kept)).encode()
        path = self.folder / BOXES
        with contextlib.suppress(OSError, RifflerError):
            if read_note(path) != data:
                write_note(path, data)

    def prune(self) -> None:
        """Drop the entries that this run did not ask for."""
        with contextlib.suppress(OSError):
            sweep(self.folder, is_deep=True)
            for path in self.folder.glob("??/*"):
                entry = path.parent.name + path.name
                if _ENTRY.fullmatch(entry) and entry not in self.used:
                    remove(path, self.folder)

    def _path(self, fingerprint: str) -> Path:
        return self.folder / fingerprint[:2] / fingerprint[2:]


def _split(value: Any, parts: list[bytes]) -> Any:  # noqa: ANN401 - whatever JSON can hold
    """The value with the length of bytes in their place; the bytes go to `parts`."""
    if isinstance(value, bytes):
        parts.append(value)
        return {BYTES: len(value)}
    if isinstance(value, dict):
        return {key: _split(inner, parts) for key, inner in value.items()}
    if isinstance(value, list | tuple):
        return [_split(inner, parts) for inner in value]
    return value


def _joined(head: Any, body: bytes) -> Any:  # noqa: ANN401
    """The other way round. Raises ValueError when the bytes are not those that the head says."""
    at = 0

    def join(value: Any) -> Any:  # noqa: ANN401
        nonlocal at
        if isinstance(value, dict):
            if BYTES in value:
                at += value[BYTES]
                return body[at - value[BYTES] : at]
            return {key: join(inner) for key, inner in value.items()}
        return [join(inner) for inner in value] if isinstance(value, list) else value

    whole = join(head)
    if at != len(body):
        raise ValueError("not as long as its head says")
    return whole
