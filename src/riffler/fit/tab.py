"""An open page -> answers about it, each within a limit of time.

Asked through the DevTools protocol, in a world of our own: scripts of the page share its elements,
and nothing else. What the page makes of `Array` or of `getBoundingClientRect` is not seen there.
Chrome DevTools Protocol, Page.createIsolatedWorld.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from importlib import resources
from typing import TYPE_CHECKING, Any

from riffler.errors import RifflerError
from riffler.fit.guard import Guard

if TYPE_CHECKING:
    from playwright.sync_api import Page

#: What our world is called where somebody debugs it.
WORLD = "riffler"


class Session:
    """A line to an open page: what is said on it ends when the browser does not answer."""

    def __init__(self, page: Page, guard: Guard) -> None:
        self._guard = guard
        with guard.asking():
            self._cdp = page.context.new_cdp_session(page)

    def send(self, method: str, parameters: Mapping[str, Any] | None = None) -> dict[str, Any]:
        """Ask something of the DevTools protocol."""
        with self._guard.asking():
            answer: dict[str, Any] = self._cdp.send(method, dict(parameters or {}))
        return answer

    def on(self, event: str, handler: Callable[[Mapping[str, Any]], None]) -> None:
        """Calls `handler` with the parameters of each event of that name."""
        self._cdp.on(event, handler)


class Tab:
    """An open page with a world of ours in it, which is as long there as the page is."""

    def __init__(self, page: Page, guard: Guard) -> None:
        self._page, self._guard = page, guard
        self._session = self.session()
        frame = self._session.send("Page.getFrameTree")["frameTree"]["frame"]["id"]
        options = {"frameId": frame, "worldName": WORLD}
        self._world = self._session.send("Page.createIsolatedWorld", options)["executionContextId"]

    def session(self) -> Session:
        """Another line to the page."""
        return Session(self._page, self._guard)

    def ask(self, function: str, argument: object = None) -> Any:  # noqa: ANN401 - what it answers
        """What a function of JavaScript returns. Raises RifflerError where it goes wrong."""
        return self._call(self._session, function, argument, is_value=True).get("value")

    def node(self, session: Session, function: str, argument: object = None) -> int | None:
        """The number of an element, on a line on which the document was asked for."""
        result = self._call(session, function, argument, is_value=False)
        if "objectId" not in result:
            return None
        return int(session.send("DOM.requestNode", {"objectId": result["objectId"]})["nodeId"])

    def wait(self, milliseconds: float) -> None:
        """Let the page go on for a while."""
        with self._guard.asking():
            self._page.wait_for_timeout(milliseconds)

    def _call(
        self, session: Session, function: str, argument: object, *, is_value: bool
    ) -> dict[str, Any]:
        done = session.send(
            "Runtime.callFunctionOn",
            {
                "functionDeclaration": function,
                "executionContextId": self._world,
                "arguments": [{"value": argument}],
                "returnByValue": is_value,
                "awaitPromise": True,
            },
        )
        if "exceptionDetails" in done:
            value = done["exceptionDetails"].get("exception", {}).get("description", "")
            raise RifflerError(f"The page can't be looked at: {value.splitlines()[0][:120]}")
        result: dict[str, Any] = done["result"]
        return result


def script(name: str) -> str:
    """A script that runs in the page."""
    return resources.files("riffler.fit").joinpath(name).read_text(encoding="utf-8")
