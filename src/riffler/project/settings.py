"""What riffler.toml may say; every key has a default, and the file may be empty."""

from __future__ import annotations

import re
from pathlib import Path, PurePosixPath
from typing import Annotated, Any, Literal

from pydantic import (
    AfterValidator,
    BaseModel,
    BeforeValidator,
    ConfigDict,
    Field,
    PositiveFloat,
    StringConstraints,
)

from riffler.project import saving
from riffler.project.icon_settings import Favicon
from riffler.project.limits import Limits
from riffler.project.sprite_settings import Loader, Name, Sprite, Symbols
from riffler.project.written import kebab


def _inside(folder: str) -> str:
    path = PurePosixPath(folder)
    if not folder or path.is_absolute() or ".." in path.parts or "\\" in folder or path.parts == ():
        raise ValueError(f'"{folder}" should be a folder inside the project')
    return str(path)


def _prefix(url: str) -> str:
    if url and not re.fullmatch(r"(https?://[^\s\"'<>]+|/[^\s\"'<>]*)", url):
        raise ValueError(f'"{url}" should begin with "/" or be a whole address')
    return url if not url or url.endswith("/") else url + "/"


def _color(text: str) -> str:
    digits = text.removeprefix("#").lower()
    if not re.fullmatch(r"#([0-9a-fA-F]{3,4}|[0-9a-fA-F]{6}|[0-9a-fA-F]{8})", text):
        raise ValueError(f'"{text}" should be a colour like "#c8862a"')
    digits = digits if len(digits) > 4 else "".join(digit * 2 for digit in digits)
    return f"#{digits.removesuffix('ff') if len(digits) == 8 else digits}"


def _length(value: object) -> str:
    match = re.fullmatch(r"(\d+(?:\.\d+)?)(px)?", str(value))
    if isinstance(value, bool) or not match:
        raise ValueError(f'"{value}" should be a length like 24 or "24px"')
    return f"{float(match[1]):g}px"


def _radius(value: object) -> str:
    return "9999px" if value == "round" else _length(value)


Folder = Annotated[str, AfterValidator(_inside)]


class _Table(BaseModel):
    model_config = ConfigDict(extra="forbid", frozen=True, alias_generator=kebab, defer_build=True)


class Folders(_Table):
    """Where things lie, below the project's folder; images and styles below `out`."""

    cuts: Folder = "cuts"
    pages: Folder = "pages"
    styles: Folder = "styles"
    data: Folder = "data"
    scripts: Folder = "scripts"
    fonts: Folder = "fonts"
    out: Folder = "out"
    images: Folder = "images"


class Measure(_Table):
    """How lengths are said: `base` is the size of a rem, in CSS pixels."""

    unit: Literal["px", "rem", "vw", "%"] = "px"
    base: PositiveFloat = 16.0


#: What a value may be called: the end of a custom property's name.
Called = Annotated[str, StringConstraints(pattern=r"^[a-z0-9]+(-[a-z0-9]+)*$", max_length=60)]

Color = Annotated[str, AfterValidator(_color)]
Length = Annotated[str, BeforeValidator(_length)]
Radius = Annotated[str, BeforeValidator(_radius)]


class Tokens(_Table):
    """What values that come again are called, by what they are; each as CSS writes it."""

    color: dict[Called, Color] = Field(default_factory=dict)
    type: dict[Called, str] = Field(default_factory=dict)
    space: dict[Called, Length] = Field(default_factory=dict)
    radius: dict[Called, Radius] = Field(default_factory=dict)
    shadow: dict[Called, str] = Field(default_factory=dict)
    width: dict[Called, Length] = Field(default_factory=dict)


class WordSettings(_Table):
    """What words in pixels are written in, as Tesseract calls languages: `eng`, `deu+eng`."""

    language: Annotated[str, StringConstraints(pattern=r"^[A-Za-z_]+(\+[A-Za-z_]+)*$")] = "eng"


class WebFonts(_Table):
    """How fonts go to the web: when text shows, and characters that are kept beside the needed."""

    display: Literal["auto", "block", "swap", "fallback", "optional"] = "swap"
    more: str = ""


#: Why a finding is meant to be so.
Reason = Annotated[str, StringConstraints(strip_whitespace=True, min_length=1)]


class Check(_Table):
    """Findings of `riffler check` that are meant, by their keys, each with its reason."""

    accept: dict[str, Reason] = Field(default_factory=dict)


class FitSettings(_Table):
    """Findings of `riffler fit` that are meant, by their keys, each with its reason."""

    accept: dict[str, Reason] = Field(default_factory=dict)


class Settings(_Table):
    """riffler.toml as a whole."""

    folders: Folders = Folders()
    url_prefix: Annotated[str, AfterValidator(_prefix)] = ""
    system_fonts: bool = False
    defaults: saving.Settings = saving.Settings()
    favicon: Favicon | None = None
    sprite: dict[Name, Sprite] = Field(default_factory=dict)
    symbols: dict[Name, Symbols] = Field(default_factory=dict)
    loader: dict[Name, Loader] = Field(default_factory=dict)
    measure: Measure = Measure()
    tokens: Tokens = Tokens()
    web_fonts: WebFonts = WebFonts()
    words: WordSettings = WordSettings()
    check: Check = Check()
    fit: FitSettings = FitSettings()
    site: dict[str, Any] = Field(default_factory=dict)
    limits: Limits = Limits()

    def icon_files(self, root: Path) -> list[Path]:
        """The files that the icon is made of, beside slices; `root` is the project's folder."""
        if self.favicon is None:
            return []
        named = [self.favicon.file, *self.favicon.art.values()]
        return [root / file for file in named if file is not None]
