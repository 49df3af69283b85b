"""A project and a port -> the preview, until somebody ends it."""

from __future__ import annotations

import socket
from collections.abc import Callable
from types import FrameType

import uvicorn

from riffler.errors import RifflerError
from riffler.preview.measuring import Fitting
from riffler.preview.news import News
from riffler.preview.refreshing import Making
from riffler.preview.server import application
from riffler.project.project import Project

#: The machine itself, and nobody else.
LOOPBACK = "127.0.0.1"

#: Connections at once; who is one too many is told to come again.
MOST = 400


class _Server(uvicorn.Server):
    """Ends at once: who waits for news is told that there will be none."""

    def __init__(self, config: uvicorn.Config, news: News) -> None:
        super().__init__(config)
        self._news = news

    def handle_exit(self, sig: int, frame: FrameType | None) -> None:  # noqa: ARG002
        """As `uvicorn` calls it on a signal, which goes no further: `run` comes to its end."""
        self._news.end()
        self.force_exit = self.should_exit
        self.should_exit = True


def run(project: Project, port: int, begun: Callable[[str], None]) -> None:
    """Serve until Ctrl-C; `begun` is told the address. Raises RifflerError for a taken port."""
    news = News()
    fitting = Fitting(project.root, news)
    making = Making(project.root, news, fitting.ask)
    place = _bound(port)
    fitting.start()
    making.start()
    server = _Server(
        uvicorn.Config(
            application(project, news, fitting.look_at),
            log_level="critical",
            access_log=False,
            lifespan="off",
            timeout_graceful_shutdown=1,
            server_header=False,
            limit_concurrency=MOST,
        ),
        news,
    )
    begun(f"http://{LOOPBACK}:{place.getsockname()[1]}/")
    try:
        server.run(sockets=[place])
    except KeyboardInterrupt:  # it ended as it was asked to
        pass
    finally:
        making.end()
        fitting.end()
        place.close()


def _bound(port: int) -> socket.socket:
    place = socket.socket(socket.AF_INET, socket.SOCK_STREAM)
    place.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
    try:
        place.bind((LOOPBACK, port))
        place.listen(64)
    except OSError as error:
        place.close()
        raise RifflerError(
            f"Port {port} can't be used: {error.strerror}.", "Another: riffler preview --port 0"
        ) from error
    return place
