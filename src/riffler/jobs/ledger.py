"""The ledger: the record of every file we made. `ledger.schema.json` is its shape."""

from __future__ import annotations

import json
from collections.abc import Iterable, Mapping
from dataclasses import asdict, dataclass, field, replace
from pathlib import Path
from typing import Any

from riffler.errors import OutputError
from riffler.files import as_typed
from riffler.geometry import Box, Size

#: The shape's version; a ledger of another version is made anew.
VERSION = 3

FILE = "ledger.json"


@dataclass(frozen=True)
class Asset:
    """One file that we made, and all that is known of it.

    `file` is below the output folder; `url` is how pages name it. `css` is its size on the page
    in CSS pixels, `place` its box in the mockup in mockup pixels, `focal` the point that narrow
    windows keep in sight, in parts of its width and height, 0..1; `loss` what can be seen of it;
    `part` names one of a panel that was cut apart, `when` is the media query of a narrow mockup,
    `size` the size as the cutlist writes it.
    """

    file: str
    url: str
    role: str
    made_by: str
    bytes: int
    sha256: str
    slice: str = ""
    state: str = ""
    part: str = ""
    when: str = ""
    size: str = ""
    format: str = ""
    pixels: Size | None = None
    css: tuple[float, float] | None = None
    mockup: str = ""
    place: Box | None = None
    focal: tuple[float, float] | None = None
    density: float | None = None
    setting: Mapping[str, int | float | str] = field(default_factory=dict)
    loss: float | None = None

    def as_json(self) -> dict[str, Any]:
        """The asset as the ledger writes it."""
        data = asdict(self)
        if self.css is not None:
            data["css"] = {"width": _number(self.css[0]), "height": _number(self.css[1])}
        if self.focal is not None:
            data["focal"] = {"x": round(self.focal[0], 4), "y": round(self.focal[1], 4)}
        if self.density is not None:
            data["density"] = _number(self.density)
        data["setting"] = dict(sorted(self.setting.items()))
        return data

    @classmethod
    def from_json(cls, data: Mapping[str, Any]) -> Asset:
        """An asset as the ledger writes it. Raises KeyError or TypeError for another shape."""
        known = dict(data)
        if known["pixels"]:
            known["pixels"] = Size(**known["pixels"])
        if known["css"]:
            known["css"] = (known["css"]["width"], known["css"]["height"])
        if known["place"]:
            known["place"] = Box(**known["place"])
        if known["focal"]:
            known["focal"] = (known["focal"]["x"], known["focal"]["y"])
        return cls(**known)


@dataclass(frozen=True)
class Region:
    """A slice that is no picture: a box for live text, and the colour under it.

    `place` is its box in mockup pixels, `css` its size in CSS pixels.
    """

    slice: str
    mockup: str
    place: Box
    css: tuple[float, float]
    ground: str
    when: str = ""

    def as_json(self) -> dict[str, Any]:
        """The region as the ledger writes it."""
        data = asdict(self)
        data["css"] = {"width": _number(self.css[0]), "height": _number(self.css[1])}
        return data

    @classmethod
    def from_json(cls, data: Mapping[str, Any]) -> Region:
        """A region as the ledger writes it. Raises KeyError or TypeError for another shape."""
        css = (data["css"]["width"], data["css"]["height"])
        return cls(**{**data, "place": Box(**data["place"]), "css": css})


@dataclass(frozen=True)
class Ledger:
    """Every file below the output folder, in one order, and the regions of live text."""

    assets: tuple[Asset, ...] = ()
    words: tuple[Region, ...] = ()

    @classmethod
    def read(cls, out: Path) -> Ledger:
        """The ledger in an output folder; empty when there is none.

        Raises OutputError for a file that is no ledger.
        """
        path = out / FILE
        try:
            data = json.loads(path.read_bytes())
            if data["ledger"] != VERSION:
                return cls()
            return cls(
                tuple(Asset.from_json(asset) for asset in data["assets"]),
                tuple(Region.from_json(region) for region in data["words"]),
            )
        except FileNotFoundError:
            return cls()
        except (ValueError, KeyError, TypeError, OSError) as error:
            raise OutputError(
                f"{as_typed(path)} can't be read as a ledger.",
                f"Delete {as_typed(out)}; riffler cut and riffler build make all of it again.",
            ) from error

    def to_bytes(self) -> bytes:
        """The ledger as it is written: sorted by file, with one line feed at the end."""
        assets = [asset.as_json() for asset in sorted(self.assets, key=lambda one: one.file)]
        words = [one.as_json() for one in sorted(self.words, key=lambda r: (r.slice, r.when))]
        data = {"ledger": VERSION, "assets": assets, "words": words}
        text = json.dumps(data, indent=2, ensure_ascii=False)
        return (text + "\n").encode()

    @property
    def by_file(self) -> dict[str, Asset]:
        """The assets under their files."""
        return {asset.file: asset for asset in self.assets}

    def of_slice(self, name: str) -> list[Asset]:
        """The pictures of a slice, at rest first, then states by name."""
        found = [a for a in self.assets if a.slice == name and a.made_by == "cut" and a.pixels]
        return sorted(found, key=lambda asset: (asset.state, asset.when))

    def replaced(self, old: Iterable[Asset], new: Iterable[Asset]) -> Ledger:
        """The ledger without the old assets and with the new ones."""
        gone = {asset.file for asset in old}
        added = tuple(new)
        gone.update(asset.file for asset in added)
        kept = (asset for asset in self.assets if asset.file not in gone)
        return replace(self, assets=(*kept, *added))


def _number(value: float) -> int | float:
    """A whole number without a fraction, so that 480.0 is written 480."""
    return int(value) if value == int(value) else value
