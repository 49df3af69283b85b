"""Names of pages and files -> the URLs that one page uses for them."""

from __future__ import annotations

import posixpath
from collections.abc import Collection
from dataclasses import dataclass
from urllib.parse import quote

from riffler.cutlist.targets import is_code, page_of
from riffler.errors import WrittenError, nearest

#: Signs that a path may hold as they are, beside letters and digits; RFC 3986, section 3.3.
KEPT = "/@"


@dataclass(frozen=True)
class Links:
    """How one file of the output names the others. `here` is its path below the output folder."""

    here: str
    prefix: str
    pages: Collection[str]

    def file(self, path: str) -> str:
        """The URL of a file below the output folder: after the prefix, or relative to here."""
        if self.prefix:
            return self.prefix + quote(path, safe=KEPT)
        return quote(posixpath.relpath(path, posixpath.dirname(self.here) or "."), safe=KEPT)

    def page(self, target: str) -> str:
        """The URL of a page by its name, a part of one (`visit#map`), or an address as it is.

        Raises WrittenError for a page that isn't there.
        """
        if is_code(target):
            raise WrittenError(f'"{target}" would run as code in the browser.', "Link to a page.")
        name = page_of(target)
        if name is None:
            return target
        if name not in self.pages:
            raise WrittenError(
                f'There is no page "{name}" to link to.',
                nearest(name, sorted(self.pages), "Pages are"),
            )
        _, mark, part = target.partition("#")
        return self.file(f"{name}.html") + mark + part
