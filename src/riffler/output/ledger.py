"""The ledger: the record of every file we made. `ledger.schema.json` is its shape."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, fields, replace
from functools import cache
from pathlib import Path, PurePosixPath
from typing import Any, get_args, get_type_hints

from riffler.errors import OutputError
from riffler.files import as_typed, read_whole
from riffler.output.asset import KINDS, Asset, CutAsset, OtherAsset, Region
from riffler.output.older import from_third
from riffler.plain import adapter_of, parse_json, plain, to_json
from riffler.project.places import LEDGER

#: The shape's version. The one before is read, still older ones are made anew.
VERSION = 4


@dataclass(frozen=True)
class Ledger:
    """Every file below the output folder, in one order, and the regions of live text."""

    assets: tuple[Asset, ...] = ()
    words: tuple[Region, ...] = ()

    @classmethod
    def read(cls, out: Path) -> Ledger:
        """The ledger in an output folder; empty when there is none, or one too old to read.

        Raises OutputError for a file that is no ledger, and for one of a later version.
        """
        path = out / LEDGER
        if not path.exists():
            return cls()
        written = read_whole(path)
        try:
            data = parse_json(written)
            version = int(data["ledger"])
            if version == VERSION - 1:
                data = from_third(data)
            elif version < VERSION:
                return cls()
            elif version > VERSION:
                raise _unreadable(path, "a later version wrote it")
            regions = (adapter_of(Region).validate_python(region) for region in data["words"])
            assets = [_checked(path, asset) for asset in data["assets"]]
            return cls(tuple(assets), tuple(regions))
        except (ValueError, KeyError, TypeError) as error:
            raise _unreadable(path, "it is damaged") from error

    def to_bytes(self) -> bytes:
        """The ledger as it is written: sorted by file, with one line feed at the end."""
        assets = sorted(self.assets, key=lambda asset: asset.file)
        regions = sorted(self.words, key=lambda region: (region.slice, region.when or ""))
        data = {
            "ledger": VERSION,
            "assets": [as_written(asset) for asset in assets],
            "words": [plain(region, sparse=True) for region in regions],
        }
        return (to_json(data) + "\n").encode()

    @property
    def by_file(self) -> dict[str, Asset]:
        """The assets under their files."""
        return {asset.file: asset for asset in self.assets}

    def of_slice(self, name: str) -> list[CutAsset]:
        """The pictures of a slice, at rest first, then states by name."""
        pictures = (asset for asset in self.assets if isinstance(asset, CutAsset))
        assets = [asset for asset in pictures if asset.slice == name]
        return sorted(assets, key=lambda asset: (asset.state or "", asset.when or ""))

    def replaced(self, old: Iterable[Asset], new: Iterable[Asset]) -> Ledger:
        """The ledger without the old assets and with the new ones."""
        gone = {asset.file for asset in old}
        added = tuple(new)
        gone.update(asset.file for asset in added)
        assets = (asset for asset in self.assets if asset.file not in gone)
        return replace(self, assets=(*assets, *added))


def as_written(asset: Asset) -> dict[str, Any]:
    """An asset as the ledger writes it: what is not known of it is left out."""
    values: dict[str, Any] = plain(asset, sparse=True)
    values = {"kind": values.pop("kind"), **values}
    if isinstance(asset, OtherAsset):
        del values["facts"]
        values.update(asset.facts)
    return values


def _asset(data: Mapping[str, Any]) -> Asset:
    """An asset of any kind. Raises ValueError or KeyError for another shape or place."""
    if not _is_below(data["file"]):
        raise ValueError(f"{data['file']} is not below the output folder")
    kind = _by_name().get(data["kind"])
    if kind is not None:
        return adapter_of(kind).validate_python(data)
    common = {field.name for field in fields(Asset)}
    known = {key: value for key, value in data.items() if key in common}
    facts = {key: value for key, value in data.items() if key not in common}
    return adapter_of(OtherAsset).validate_python({**known, "facts": facts})


def _is_below(file: str) -> bool:
    """Whether a path that a ledger names stays where we write, on every system."""
    path = PurePosixPath(file)
    is_plain = not set(file) & set("\\:\0") and not path.is_absolute()
    return is_plain and ".." not in path.parts and path.name != ""


@cache
def _by_name() -> dict[str, type[Asset]]:
    return {get_args(get_type_hints(kind)["kind"])[0]: kind for kind in KINDS}


def _checked(path: Path, data: Mapping[str, Any]) -> Asset:
    """An asset as it is written. Raises OutputError that names it."""
    try:
        return _asset(data)
    except (ValueError, KeyError, TypeError) as error:
        named = f' of "{data["file"]}"' if isinstance(data, dict) and "file" in data else ""
        raise _unreadable(path, f"the entry{named} is not one that we wrote") from error


def _unreadable(path: Path, why: str) -> OutputError:
    return OutputError(
        f"{as_typed(path)} can't be read as a ledger: {why}.",
        f"Delete {as_typed(path)}; riffler cut and riffler build write it again.",
    )
