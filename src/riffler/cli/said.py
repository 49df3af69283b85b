"""What a command said, kept while nothing that it reads changes, and said again without the work.

For commands that change nothing that is there: `look`, `survey`, and `draft`, whose new cutlist is
written anew. Answers lie in the project's work folder, under a digest of the words typed and of
where they are shown; outside of a project nothing is kept. Nothing here loads more than it needs:
this is asked first.
"""

from __future__ import annotations

import contextlib
import io
import json
import os
import re
import stat
import sys
import time
from collections.abc import Iterator, Sequence
from pathlib import Path
from typing import TextIO

from riffler import __version__
from riffler.digests import digest_of, is_settled, program, sha256_of
from riffler.errors import RifflerError
from riffler.files import is_inside, real, remove, write_whole
from riffler.plain import parse_json
from riffler.project.places import LYING, WORK, root_of
from riffler.project.sealed import read_note, write_note

#: Commands that change nothing, with what makes them do more.
LOOKS: dict[str, frozenset[str]] = {
    "look": frozenset({"--picture"}),
    "survey": frozenset({"--picture"}),
    "draft": frozenset({"--add"}),
}

#: A draft writes nothing where one of these is said, and no file is.
DRY = frozenset({"--json", "--dry-run", "--questions"})

#: The ending of the one file that a draft writes.
WRITTEN = ".toml"

#: Folders in a project whose files no look depends on.
ASIDE = {WORK, ".git", ".hg", "node_modules", ".venv", "venv", "__pycache__"}

#: Files beyond which looking at each takes as long as the work; answers kept; the longest of them.
MOST_FILES, MOST_ANSWERS, LONGEST = 4_000, 32, 4_000_000

#: Where the system's typefaces are: a new one changes what is missing.
FONTS = ("/usr/share/fonts", "/usr/local/share/fonts", "~/.local/share/fonts", "~/.fonts")

#: All that our answers are made of: printed signs, ends of lines, colours.
_PRINTED = re.compile(
    r"(?:[^\x00-\x09\x0b-\x1f\x7f-\x9f\u202a-\u202e\u2066-\u2069]|\x1b\[[0-9;]*m)*"
)

#: Paths in a cutlist that lead out of its folder.
_CLIMBING = re.compile(r"""["']((?:\.\./|/)[^"'\n]*)["']""")

_PREFIX = "said-"

Note = tuple[int, int, str]
"""Size, time of the last change in nanoseconds, and the hash where the time does not tell."""


def only_looks(arguments: Sequence[str]) -> bool:
    """Whether a command changes nothing, so that its answer may be kept."""
    command, options = (
        (arguments[0] if arguments else ""),
        {part.split("=")[0] for part in arguments},
    )
    return command in LOOKS and not options & (LOOKS[command] | {"--verbose", "--help", "--schema"})


class Answer:
    """The place of one answer, and what it depends on. Outside of a project there is none."""

    def __init__(self, arguments: Sequence[str]) -> None:
        named = [Path(part) for part in arguments[1:] if not part.startswith("-")]
        self._named = [real(path) for path in named if path.is_file()]
        around = (path.parent for path in self._named)
        roots = (root_of(folder) for folder in (*around, Path.cwd()))
        self.root = next((root for root in roots if root), None)
        options = {part.split("=")[0] for part in arguments}
        is_dry = bool(DRY & options) and (
            "--json" not in options or not {"-o", "--output"} & options
        )
        self._writes = arguments[0] == "draft" and not is_dry
        stdout = sys.stdout
        width = os.get_terminal_size(stdout.fileno()).columns if stdout.isatty() else 0
        shown = [os.environ.get(key) for key in ("COLUMNS", "NO_COLOR", "FORCE_COLOR", "TERM")]
        self._key = digest_of(
            "said",
            __version__,
            program(),
            str(Path.cwd()),
            *arguments,
            width,
            stdout.encoding,
            *shown,
        )

    @property
    def path(self) -> Path:
        """Where it is kept."""
        assert self.root is not None
        return self.root / WORK / f"{_PREFIX}{self._key[:24]}.json"

    def said_again(self) -> int | None:
        """Say what is kept, where all is as it was, and write what was written; the exit code."""
        if self.root is None:
            return None
        try:
            noted = read_note(self.path)
            if noted is None:
                return None
            known = parse_json(noted)
            text, code = str(known["text"]), int(known["code"])
            if not _PRINTED.fullmatch(text) or not self._is_as_before(known["notes"], known["at"]):
                return None
            for name, content in known["wrote"].items():
                path = self.root / name
                if path.suffix != WRITTEN or path.exists() or not is_inside(path, self.root):
                    return None
                write_whole(path, content.encode())
        except (OSError, RifflerError, ValueError, KeyError, TypeError, AttributeError):
            return None
        try:
            sys.stdout.write(text)
            sys.stdout.flush()
        except BrokenPipeError:  # whoever reads has read enough
            os.dup2(os.open(os.devnull, os.O_WRONLY), sys.stdout.fileno())
        return code

    def _is_as_before(self, notes: dict[str, Note], at: int) -> bool:
        here = self.read()
        if {path: (size, changed) for path, (size, changed, _) in notes.items()} != here:
            return False
        fresh = (pair for pair in notes.items() if not is_settled(pair[1][1], at))
        return all(sha256_of(Path(path)) == hashed for path, (*_, hashed) in fresh)

    def keep(self, text: str, code: int, before: dict[str, tuple[int, int]], at: int) -> None:
        """Keep what was said, if what it depends on is what it was `before`, at that time."""
        if self.root is None or len(text) > LONGEST or not _PRINTED.fullmatch(text):
            return
        with contextlib.suppress(OSError, RifflerError, ValueError):
            wrote = self._written_since(before)
            if wrote is None:
                return
            notes = {
                path: (*known, sha256_of(Path(path)) if not is_settled(known[1], at) else "")
                for path, known in before.items()
            }
            values = {"text": text, "code": code, "at": at, "notes": notes, "wrote": wrote}
            write_note(self.path, json.dumps(values).encode())
            old = sorted(self.path.parent.glob(f"{_PREFIX}*.json"), key=lambda p: p.stat().st_mtime)
            for path in old[:-MOST_ANSWERS]:
                remove(path, self.path.parent)

    def _written_since(self, before: dict[str, tuple[int, int]]) -> dict[str, str] | None:
        """The one file that a draft has written, or none; None where anything else is different."""
        assert self.root is not None
        after = self.read()
        new = [Path(path) for path in after if path not in before]
        if {path: after.get(path) for path in before} != before:
            return None
        if len(new) != (1 if self._writes else 0) or any(path.suffix != WRITTEN for path in new):
            return None  # a draft that is not here lies beyond the project
        return {path.relative_to(self.root).as_posix(): path.read_text() for path in new}

    def read(self) -> dict[str, tuple[int, int]]:
        """Everything that an answer may depend on. Raises ValueError where that is too much."""
        return {path: _stat(path) for path in self._read()}

    def _read(self) -> Iterator[str]:
        assert self.root is not None
        yield from _files_of(self.root)
        if (lying := self.root / WORK / LYING).exists():
            yield str(lying)
        yield from (str(path) for path in self._named if self.root not in path.parents)
        for folder in FONTS:
            for current, _, _ in os.walk(Path(folder).expanduser()):
                yield current


def _files_of(root: Path) -> Iterator[str]:
    """The files of a project. Raises ValueError for too many, and for ways that lead out of it."""
    count = 0
    for current, folders, names in os.walk(root):
        folders[:] = sorted(folder for folder in folders if folder not in ASIDE)
        count += len(names)
        if count > MOST_FILES or any(Path(current, folder).is_symlink() for folder in folders):
            raise ValueError(current)
        for name in names:
            path = os.path.join(current, name)  # noqa: PTH118 - many files
            _stat(path)  # no pipe is opened
            if name.endswith(WRITTEN) and _leads_out(Path(path), root):
                raise ValueError(path)
            yield path


def _leads_out(path: Path, root: Path) -> bool:
    """Whether a cutlist names a file beyond the project, which nobody looks at here."""
    named = _CLIMBING.findall(path.read_text(encoding="utf-8", errors="replace"))
    there = (path.parent / name for name in named)
    return any(one.exists() and not is_inside(one, root) for one in there)


def _stat(path: str) -> tuple[int, int]:
    """Size and time. Raises ValueError for pipes and devices, which say nothing by these."""
    result = os.stat(path)  # noqa: PTH116 - many files
    if stat.S_IFMT(result.st_mode) not in (stat.S_IFREG, stat.S_IFDIR):
        raise ValueError(path)
    return result.st_size, result.st_mtime_ns


class Tee(io.TextIOBase):
    """Standard output that remembers what is written; for all else the one it stands for."""

    def __init__(self, stream: TextIO) -> None:
        self._stream = stream
        self.text = io.StringIO()

    def write(self, text: str) -> int:
        """As a stream does."""
        self.text.write(text)
        return self._stream.write(text)

    def flush(self) -> None:
        """As a stream does."""
        self._stream.flush()

    def isatty(self) -> bool:
        """As the stream behind it."""
        return self._stream.isatty()

    def fileno(self) -> int:
        """As the stream behind it."""
        return self._stream.fileno()

    @property
    def encoding(self) -> str:  # type: ignore[override]
        """As the stream behind it."""
        return self._stream.encoding


def answered(arguments: Sequence[str]) -> tuple[int | None, Answer | None]:
    """Say again what is kept; the exit code, or None and where the new answer may be kept."""
    if not only_looks(arguments):
        return None, None
    try:
        answer = Answer(arguments)
    except (OSError, ValueError, RifflerError):
        return None, None
    if answer.root is None:
        return None, None
    code = answer.said_again()
    return (None, answer) if code is None else (code, None)


@contextlib.contextmanager
def keeping(answer: Answer | None) -> Iterator[None]:
    """Keep what is said meanwhile, where the command ends well."""
    try:
        before = answer.read() if answer else {}
    except (OSError, ValueError):
        answer, before = None, {}
    if answer is None:
        yield
        return
    at, tee, stream = time.time_ns(), Tee(sys.stdout), sys.stdout
    sys.stdout = tee
    try:
        yield
    except SystemExit as ended:
        if ended.code in (None, 0, 1):
            answer.keep(tee.text.getvalue(), int(ended.code or 0), before, at)
        raise
    finally:
        sys.stdout = stream
