"""What riffler.toml may say; every key has a default, and the file may be empty."""

from __future__ import annotations

import re
from pathlib import PurePosixPath
from typing import Annotated, Any, Literal

from pydantic import AfterValidator, BaseModel, ConfigDict, Field, PositiveFloat

from riffler.project import saving
from riffler.project.limits import Limits
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


Folder = Annotated[str, AfterValidator(_inside)]


class _Table(BaseModel):
    model_config = ConfigDict(extra="forbid", frozen=True, alias_generator=kebab)


class Folders(_Table):
    """Where things lie, below the project's folder; images and styles below `out`."""

    cuts: Folder = "cuts"
    pages: Folder = "pages"
    styles: Folder = "styles"
    fonts: Folder = "fonts"
    out: Folder = "out"
    images: Folder = "images"


class Favicon(_Table):
    """The slice that becomes favicon.ico."""

    slice: str


class Measure(_Table):
    """How lengths are said: `base` is the size of a rem, in CSS pixels."""

    unit: Literal["px", "rem", "vw", "%"] = "px"
    base: PositiveFloat = 16.0


class Settings(_Table):
    """riffler.toml as a whole."""

    folders: Folders = Folders()
    url_prefix: Annotated[str, AfterValidator(_prefix)] = ""
    system_fonts: bool = False
    defaults: saving.Settings = saving.Settings()
    favicon: Favicon | None = None
    measure: Measure = Measure()
    site: dict[str, Any] = Field(default_factory=dict)
    limits: Limits = Limits()
