"""A project -> answers to a browser on this machine, and to no other.

Only the output folder is served, only to be read. Requests for other hosts' names are refused, so
that no other site can read ours by a name that leads here; so is what another site's page asks for.
"""

from __future__ import annotations

import asyncio
import json
import posixpath
import re
from base64 import b64encode
from collections.abc import AsyncIterator, Callable
from dataclasses import asdict
from hashlib import sha256
from importlib import resources
from pathlib import Path
from urllib.parse import urlsplit

import anyio
from starlette.applications import Starlette
from starlette.exceptions import HTTPException
from starlette.middleware import Middleware
from starlette.requests import Request
from starlette.responses import (
    FileResponse,
    HTMLResponse,
    JSONResponse,
    Response,
    StreamingResponse,
)
from starlette.routing import Route
from starlette.types import ASGIApp, Receive, Scope, Send

from riffler.errors import RifflerError
from riffler.files import is_inside
from riffler.preview.news import News
from riffler.preview.overlay import laid_over
from riffler.preview.overlays import Pictures, pieces
from riffler.project.project import Project

#: Where what is not of the site is answered.
OWN = "/_riffler"

#: Names of this machine, and seconds after which a silent line is kept open by a word.
HOSTS, BEAT = ("127.0.0.1", "localhost", "[::1]"), 10.0

_SAFE = {
    "Cache-Control": "no-store",
    "X-Content-Type-Options": "nosniff",
    "Cross-Origin-Resource-Policy": "same-origin",
    "X-Frame-Options": "SAMEORIGIN",
}


class OnlyHere:
    """Refuses what does not come from a page of ours, or wants more than to read."""

    def __init__(self, app: ASGIApp) -> None:
        self._app = app

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Pass a request on, or refuse it."""
        if scope["type"] != "http":
            await self._app(scope, receive, send)
            return
        request = Request(scope)
        refusal = _refusal(request)
        answer: ASGIApp = Response(refusal, 403, _SAFE) if refusal else self._app
        await answer(scope, receive, send)


def _refusal(request: Request) -> str:
    """Why a request is refused; empty for one that is answered."""
    if request.method not in ("GET", "HEAD"):
        return "This server only shows.\n"
    host = request.headers.get("host", "")
    if host.rpartition(":")[0] not in HOSTS and host not in HOSTS:
        return "This server answers to this machine's own names only.\n"
    origin = request.headers.get("origin")
    if origin and urlsplit(origin).netloc != host:
        return "This server answers to its own pages only.\n"
    if request.headers.get("sec-fetch-site", "none") not in ("none", "same-origin"):
        return "This server answers to its own pages only.\n"
    return ""


def application(project: Project, news: News, look_at: Callable[[str], None]) -> Starlette:
    """What answers: pages with the script of the preview, their files, news, mockups.

    `look_at` is told a page when somebody asks how well it fits, which is measured then.
    """
    pictures = Pictures(project.root)

    async def file(request: Request) -> Response:
        path = request.scope["path"]
        early = news.early.get(path.lstrip("/"))
        if early is not None:
            return Response(early, 200, _SAFE, "image/png")
        return await anyio.to_thread.run_sync(_file, project, news, path)

    async def events(request: Request) -> Response:
        return StreamingResponse(_events(news, _last(request)), 200, _SAFE, "text/event-stream")

    async def since(request: Request) -> Response:
        return JSONResponse(news.after(_last(request)), headers=_SAFE)

    async def fits(request: Request) -> Response:
        look_at(request.query_params.get("page", "index"))
        return JSONResponse(dict(news.fits), headers=_SAFE)

    async def mockups(request: Request) -> Response:
        page = request.query_params.get("page", "index")
        return await anyio.to_thread.run_sync(_mockups, project, page)

    async def mockup(request: Request) -> Response:
        try:
            data = await pictures.get(request.path_params["name"])
        except RifflerError as error:  # the page shows it as a mistake
            return Response(error.message, 404, _SAFE)
        if data is None:
            return Response("There is no such mockup.\n", 404, _SAFE)
        length = {"Content-Length": str(len(data))}
        return StreamingResponse(pieces(data), 200, _SAFE | length, "image/png")

    return Starlette(
        routes=[
            Route(f"{OWN}/events", events),
            Route(f"{OWN}/news", since),
            Route(f"{OWN}/fits", fits),
            Route(f"{OWN}/mockups", mockups),
            Route(f"{OWN}/mockup/{{name}}", mockup),
            Route(f"{OWN}/preview.js", _script),
            Route(f"{OWN}/widths", _widths),
            Route("/{path:path}", file),
        ],
        middleware=[Middleware(OnlyHere)],
    )


def _file(project: Project, news: News, path: str) -> Response:
    """A file of the output; a page with our script in it."""
    name = posixpath.normpath(path.lstrip("/")) if path.strip("/") else "index.html"
    target = _found(project.out, name)
    if target is None:
        return _missing(project, news)
    if target.suffix != ".html":
        return FileResponse(target, headers=_SAFE)
    return HTMLResponse(_with_script(target.read_bytes(), news), headers=_SAFE)


def _found(out: Path, name: str) -> Path | None:
    """The file of the output that is meant; None where there is none, or none that may be shown."""
    try:
        target = out / name
        if target.is_dir():
            target = target / "index.html"
        is_there = not name.startswith(("..", "/")) and target.is_file() and is_inside(target, out)
    except (OSError, ValueError, RuntimeError):  # a name too long, a zero byte, links in a circle
        return None
    return target if is_there else None


def _missing(project: Project, news: News) -> Response:
    page = _found(project.out, "404.html")
    text = page.read_bytes() if page else b"<p>There is no such page.</p>"
    return HTMLResponse(_with_script(text, news), 404, _SAFE)


def _with_script(page: bytes, news: News) -> bytes:
    """A page with our script at its end, which is told the last news that the page has."""
    script = f'<script src="{OWN}/preview.js" data-after="{news.count}" defer></script>'.encode()
    head, end, tail = page.rpartition(b"</body>")
    return head + script + end + tail if end else page + script


def _last(request: Request) -> int:
    """The number of the last news that somebody has. Raises HTTPException for no number."""
    value = request.query_params.get("after", "0") or "0"
    if not re.fullmatch(r"[0-9]{1,15}", value):
        raise HTTPException(400, "after is the number of the last news.\n", _SAFE)
    return int(value)


def _script(request: Request) -> Response:
    del request
    return Response(_own("preview.js"), 200, _SAFE, "text/javascript")


def _widths(request: Request) -> Response:
    del request
    page = _own("widths.html")
    script = page.partition("<script>")[2].partition("</script>")[0]
    digest = b64encode(sha256(script.encode()).digest()).decode()
    policy = (
        "default-src 'none'; style-src 'unsafe-inline'; img-src data:; connect-src 'self'; "
        f"frame-src 'self'; script-src 'sha256-{digest}'; base-uri 'none'; form-action 'none'"
    )
    return HTMLResponse(page, headers=_SAFE | {"Content-Security-Policy": policy})


def _own(name: str) -> str:
    return resources.files("riffler.preview").joinpath(name).read_text(encoding="utf-8")


async def _events(news: News, last: int) -> AsyncIterator[str]:
    """News as server-sent events. HTML, 9.2."""
    if last > news.count:  # of a preview that ran before: the page is to be loaded anew
        anew = {"number": last + 1, "files": ["index.html"], "mistake": ""}
        yield f"data: {json.dumps(anew)}\n\n"
        return
    with news.listening() as event:
        while not news.is_over:
            event.clear()
            result = news.after(last)
            for item in result:
                last = int(str(item["number"]))
                yield f"id: {last}\ndata: {json.dumps(item)}\n\n"
            if not result:
                try:
                    await asyncio.wait_for(event.wait(), BEAT)
                except TimeoutError:
                    yield ": here\n\n"


def _mockups(project: Project, page: str) -> Response:
    try:
        overlays = laid_over(Project.at(project.root), page)
    except RifflerError as error:
        return JSONResponse({"mistake": error.message, "mockups": []}, headers=_SAFE)
    return JSONResponse(
        {"mistake": "", "mockups": [asdict(laid) for laid in overlays]}, headers=_SAFE
    )
