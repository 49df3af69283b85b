"""Pages that hold everything in themselves: their templates, and bytes as addresses."""

from __future__ import annotations

from base64 import b64encode
from importlib import resources

import jinja2
from markupsafe import Markup

from riffler.plain import clean_lines


def templates() -> jinja2.Environment:
    """The templates of our pages: what is put in is text, and an unknown name fails."""
    return jinja2.Environment(
        loader=jinja2.PackageLoader("riffler.report", "pages"),
        autoescape=True,
        undefined=jinja2.StrictUndefined,
        trim_blocks=True,
        lstrip_blocks=True,
        finalize=_shown,
    )


def _shown(value: object) -> object:
    """What is put into a page, with marks for signs that are not shown."""
    return clean_lines(value) if isinstance(value, str) and not isinstance(value, Markup) else value


def own(name: str) -> str:
    """A style or script of ours, as it is."""
    return resources.files("riffler.report").joinpath("pages", name).read_text("utf-8")


def data_url(kind: str, data: bytes) -> str:
    """Bytes as an address; `kind` is their media type. RFC 2397."""
    return f"data:{kind};base64,{b64encode(data).decode()}"
