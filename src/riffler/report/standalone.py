"""Pages that hold everything in themselves: their templates, and bytes as addresses."""

from __future__ import annotations

from base64 import b64encode
from hashlib import sha256
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


def policy(script: str) -> str:
    """What a page of ours may do: show what it holds, and run that one script. CSP 3.

    `script` is all that stands between its tags.
    """
    digest = b64encode(sha256(script.encode()).digest()).decode()
    return (
        "default-src 'none'; img-src data:; font-src data:; style-src 'unsafe-inline'; "
        f"script-src 'sha256-{digest}'; base-uri 'none'; form-action 'none'"
    )


def policy_of(template: str) -> str:
    """The policy of a page whose script stands in its template, with nothing put into it."""
    return policy(own(template).rpartition("<script>")[2].partition("</script>")[0])


def own(name: str) -> str:
    """A style or script of ours, as it is."""
    return resources.files("riffler.report").joinpath("pages", name).read_text("utf-8")


def data_url(kind: str, data: bytes) -> str:
    """Bytes as an address; `kind` is their media type. RFC 2397."""
    return f"data:{kind};base64,{b64encode(data).decode()}"
