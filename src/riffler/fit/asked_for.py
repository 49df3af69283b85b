"""What a page asks for -> what it gets: files of its own folder, or answers of its own server.

Everything else is refused, and files beyond the folder and other servers are told: the page is then
not shown as it would be. Nothing here follows a link out of the folder.
"""

from __future__ import annotations

from dataclasses import dataclass, field
from pathlib import Path
from typing import TYPE_CHECKING
from urllib.parse import SplitResult, unquote, urljoin, urlsplit

from riffler.errors import RifflerError, tell
from riffler.files import as_typed, is_inside, real
from riffler.plain import clean
from riffler.project.project import Project

if TYPE_CHECKING:
    from playwright.sync_api import APIResponse, Route

#: Redirections that are followed, on the page's own server; milliseconds that it may take.
REDIRECTS, PATIENCE = 5, 20_000

#: Other servers that are told of one page at the most.
MOST_TOLD = 3

#: Letters of a file's name that are shown.
LONGEST = 60


@dataclass
class AskedFor:
    """Answers what one page asks for: the page at `address`, a file or on this machine's server."""

    address: str
    refused: set[str] = field(default_factory=set)
    elsewhere: set[str] = field(default_factory=set)

    def __post_init__(self) -> None:
        self._parts = urlsplit(self.address)
        self._root = root_of(Path(unquote(self._parts.path))) if self._is_file else None

    @property
    def _is_file(self) -> bool:
        return self._parts.scheme == "file"

    def answer(self, route: Route) -> None:
        """Let a request through, answer it, or refuse it."""
        from playwright.sync_api import Error

        try:
            self._answer(route)
        except Error:  # the page is gone meanwhile, or its server
            route.abort()

    def _answer(self, route: Route) -> None:
        asked = urlsplit(route.request.url)
        if asked.scheme in ("data", "blob", "about"):
            route.continue_()
        elif self._root is not None and asked.scheme == "file" and not asked.netloc:
            self._file(route, Path(unquote(asked.path)), self._root)
        elif not self._is_file and self._is_own(route.request.url):
            self._from_server(route)
        else:
            route.abort()
            self._tell_elsewhere(asked)

    def _tell_elsewhere(self, asked: SplitResult) -> None:
        """Say once of each server that nothing is fetched from it."""
        host = asked.hostname or ""
        if host and host not in self.elsewhere and len(self.elsewhere) < MOST_TOLD:
            self.elsewhere.add(host)
            what = clean(Path(unquote(asked.path)).name or "a page")[:LONGEST]
            tell(f"{self._name} asks {host} for {what}: nothing is fetched from elsewhere.")

    @property
    def _name(self) -> str:
        """The page as it is called in messages."""
        return as_typed(Path(unquote(self._parts.path))) if self._is_file else self.address

    def _file(self, route: Route, path: Path, root: Path) -> None:
        if _is_in(path, root):
            route.continue_()
            return
        route.abort()
        if path.name not in self.refused and path.is_relative_to(root.parent):
            self.refused.add(path.name)
            where = as_typed(root)
            tell(f"{self._name} asks for {as_typed(path)}, beyond {where}: it was not loaded.")

    def _is_own(self, address: str) -> bool:
        """Whether an address is on the server of the page."""
        return urlsplit(address)[:2] == self._parts[:2]

    def _from_server(self, route: Route) -> None:
        """What the page's server answers; redirections to others are refused."""
        answer, address = _fetched(route, None), route.request.url
        for _ in range(REDIRECTS):
            if not 300 <= answer.status < 400 or "location" not in answer.headers:
                route.fulfill(response=answer)
                return
            address = urljoin(address, answer.headers["location"])
            if not self._is_own(address):
                break
            answer = _fetched(route, address)
        route.abort()


def _fetched(route: Route, address: str | None) -> APIResponse:
    return route.fetch(url=address, max_redirects=0, timeout=PATIENCE)


def _is_in(path: Path, root: Path) -> bool:
    try:
        return is_inside(path, root) and path.is_file()
    except (OSError, ValueError, RuntimeError):  # a zero byte, links in a circle
        return False


def root_of(page: Path) -> Path:
    """The folder that a page may read: its project's output, or else the one it lies in."""
    try:
        project = Project.around(page.parent)
    except RifflerError:
        project = None
    if project is not None and is_inside(page, project.out):
        return real(project.out)
    return real(page.parent)
