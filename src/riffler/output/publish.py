"""Made files -> the output folder: nothing written by hand is lost, and the ledger stays true.

Before the first file is written, a journal in the work folder says what every file will be. A run
that is killed leaves whole files that either the ledger or the journal knows to be ours; the next
one takes away those that it does not make again.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, field, replace
from pathlib import Path
from typing import Any, TypeAlias, TypeVar
from urllib.parse import quote

from riffler.digests import sha256, sha256_of
from riffler.errors import OutputError
from riffler.files import as_typed, is_inside, remove, sweep, write_all, write_whole
from riffler.output.asset import Asset, Region
from riffler.output.journal import Journal
from riffler.output.ledger import Ledger, as_written
from riffler.plain import plain
from riffler.project.places import LEDGER
from riffler.project.project import Project

Kind = TypeVar("Kind", bound=Asset)


@dataclass(frozen=True)
class Made:
    """A file that is made but not yet written."""

    asset: Asset
    data: bytes


Product: TypeAlias = Made | Region
"""What a task gives to the project: a file, or what is known of a box for live text."""


@dataclass(frozen=True)
class Pending:
    """A picture that a dry run did not make: its slice, state and size as they are written."""

    slice: str
    state: str | None = None
    size: str | None = None


@dataclass(frozen=True)
class Published:
    """What became of the files; `pending` is what a dry run would make."""

    written: list[Asset] = field(default_factory=list)
    unchanged: list[Asset] = field(default_factory=list)
    removed: list[Asset] = field(default_factory=list)
    words: list[Region] = field(default_factory=list)
    pending: list[Pending] = field(default_factory=list)

    @property
    def assets(self) -> list[Asset]:
        """All that is there now."""
        return [*self.written, *self.unchanged]

    def as_data(self) -> dict[str, list[dict[str, Any]]]:
        """The lists as commands report them."""
        return {
            "written": [as_written(asset) for asset in self.written],
            "unchanged": [as_written(asset) for asset in self.unchanged],
            "removed": [as_written(asset) for asset in self.removed],
            "words": [plain(region, sparse=True) for region in self.words],
            **({"pending": plain(self.pending, sparse=True)} if self.pending else {}),
        }


def described(
    kind: type[Kind],
    project: Project,
    file: str,
    data: bytes,
    *,
    made_by: str,
    **facts: Any,  # noqa: ANN401 - whatever the kind has
) -> Made:
    """A made file as an asset of a kind; `facts` are what else the ledger says of that kind."""
    asset = kind(
        file=file,
        url=project.settings.url_prefix + quote(file, safe="/@"),
        bytes=len(data),
        sha256=sha256(data),
        made_by=made_by,
        **facts,
    )
    return Made(asset, data)


def publish(
    project: Project,
    ledger: Ledger,
    files: Sequence[Made],
    replaced: Iterable[Asset],
    *,
    words: Iterable[Region] | None = None,
    force: bool = False,
    dry_run: bool = False,
) -> Published:
    """Write what is new, remove what is stale, record both.

    `ledger` is the project's, read under its lock, which is still held. `replaced` are its assets
    that this run answers for: those it did not make again are stale. `words` are all regions of
    live text from now on; None leaves them as they are. Raises OutputError, with nothing written,
    when a person changed a file meanwhile.
    """
    coming = {product.asset.file for product in files}
    replaced = list(replaced)
    stale = [asset for asset in replaced if asset.file not in coming]
    journal = Journal.read(project)
    if not force:
        _refuse_changed_by_hand(project, ledger, journal, files, stale)
    result = _compared(project, files, stale)
    if not dry_run:
        makers = {asset.made_by for asset in (*result.assets, *replaced)}
        left = journal.leftovers(coming | ledger.by_file.keys(), makers)
        gone = [*(asset.file for asset in result.removed), *left]
        words = ledger.words if words is None else tuple(words)
        after = replace(ledger.replaced(stale, result.assets), words=words)
        fresh = {asset.file for asset in result.written}
        new = [product for product in files if product.asset.file in fresh]
        _write(project, journal, new, gone, after)
    return result


def _compared(project: Project, files: Sequence[Made], stale: Sequence[Asset]) -> Published:
    """What is new, what stands there already, and what goes."""
    there = {product.asset.file for product in files if _is_there(project, product)}
    assets = [product.asset for product in files]
    return Published(
        written=[asset for asset in assets if asset.file not in there],
        unchanged=[asset for asset in assets if asset.file in there],
        removed=[asset for asset in stale if _place(project, asset.file).exists()],
    )


def _is_there(project: Project, product: Made) -> bool:
    """Whether the file is on disk as it was made."""
    return sha256_of(_place(project, product.asset.file)) == product.asset.sha256


def _refuse_changed_by_hand(
    project: Project,
    ledger: Ledger,
    journal: Journal,
    files: Sequence[Made],
    stale: Sequence[Asset],
) -> None:
    """Raises OutputError for files that are neither what we made nor what we are about to make."""
    coming = {product.asset.file: product.asset.sha256 for product in files}
    recorded = ledger.by_file
    result = []
    for file in [*coming, *(asset.file for asset in stale)]:
        path = _place(project, file)
        on_disk = sha256_of(path)
        known_asset = recorded.get(file)
        ours = {
            coming.get(file),
            *journal.digests(file),
            known_asset.sha256 if known_asset else None,
            None,
        }
        if path.is_dir() or on_disk not in ours:
            result.append(as_typed(path))
    if result:
        raise OutputError(
            f"{', '.join(result)} {'was' if len(result) == 1 else 'were'} changed by hand, "
            "so nothing was written.",
            "Keep the change by moving it to where it is made from, "
            "or use --force to write over it.",
        )


def _place(project: Project, file: str) -> Path:
    """Where a file of the output goes. Raises OutputError for one that leads out of its folder.

    A link in its place is replaced, not followed.
    """
    path = project.out / file
    if not is_inside(path.parent, project.out):
        raise OutputError(
            f"{as_typed(path)} leads out of {as_typed(project.out)} through a link.",
            "Remove the link; a folder is made in its place.",
        )
    return path


def _write(
    project: Project, journal: Journal, new: list[Made], gone: list[str], ledger: Ledger
) -> None:
    text = ledger.to_bytes()
    is_recorded = sha256_of(project.out / LEDGER) == sha256(text)
    if not (new or gone or journal.intents) and is_recorded:
        return
    sweep(project.out, is_deep=True)
    journal = journal.begun([product.asset for product in new])
    journal.write()
    write_all((_place(project, product.asset.file), product.data) for product in new)
    for file in gone:
        remove(project.out / file, project.out)
    write_whole(project.out / LEDGER, text)
    recorded = (
        asset.file for asset in ledger.assets if asset.sha256 in journal.digests(asset.file)
    )
    journal.ended({*recorded, *gone}).write()
