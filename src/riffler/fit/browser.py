"""A page, by file or by an address on this machine -> what an installed Chromium shows of it.

Playwright drives the browser. Nothing is fetched from anywhere else; animations stand still, fonts
and lazy pictures are waited for.
"""

from __future__ import annotations

import os
import re
import shutil
from collections.abc import Iterator, Sequence
from contextlib import contextmanager
from dataclasses import replace
from importlib import resources
from pathlib import Path
from typing import TYPE_CHECKING
from urllib.parse import unquote, urlsplit

import numpy as np

from riffler.color import Bytes
from riffler.errors import RifflerError
from riffler.files import as_typed
from riffler.fit.camera import Camera, canvas
from riffler.fit.likeness import inked
from riffler.fit.seen import Node, Seen, SeenPicture, boxes_of, nodes_of, texts_of
from riffler.geometry import Box, Rect
from riffler.project.limits import DEFAULT_LIMITS

if TYPE_CHECKING:
    from playwright.sync_api import Browser, Page

#: Names under which Chromium is installed; an environment variable goes before.
NAMES, VARIABLE = ("chromium", "chromium-browser", "google-chrome", "chrome"), "RIFFLER_CHROMIUM"

#: This machine's own names.
LOOPBACK = ("127.0.0.1", "localhost", "::1")

#: The height of windows, in CSS pixels, unless the mockup is lower.
HIGH = 900

#: The highest page that is looked at, in CSS pixels, and milliseconds to wait for it.
HIGHEST, PATIENCE = 32_000, 20_000

#: Pictures that lie on one another are drawn by themselves in so many turns at the most.
TURNS = 4

#: What stands still, and does not blink.
STILL = (
    "*, *::before, *::after { animation: none !important; transition: none !important; "
    "caret-color: transparent !important; scroll-behavior: auto !important; }"
)

#: All but the pictures of one turn is out of sight.
ALONE = """
html, body { background: none !important; }
body, body * { visibility: hidden !important; }
"""

#: Pixels around a picture's box that are looked at, too.
BEYOND = 2


@contextmanager
def browsing() -> Iterator[Browser]:
    """A Chromium that is installed here. Raises RifflerError where there is none."""
    try:
        from playwright.sync_api import Error, sync_playwright
    except ImportError as error:
        raise RifflerError(
            "Looking at pages needs a browser, and Playwright to drive it.",
            'Install both: pip install "riffler[browser]", and Chromium from your system.',
        ) from error
    with sync_playwright() as playwright:
        try:
            browser = playwright.chromium.launch(executable_path=_program(), args=_args())
        except Error as error:
            raise RifflerError(
                "Chromium could not be started.",
                f"Install it, or name its program: {VARIABLE}=/usr/bin/chromium riffler fit",
            ) from error
        try:
            yield browser
        finally:
            browser.close()


def _program() -> str | None:
    said = os.environ.get(VARIABLE)
    return said or next((found for name in NAMES if (found := shutil.which(name))), None)


def _args() -> list[str]:
    """Colours as they are, no other machine; as root, as in a container, there is no sandbox."""
    root = hasattr(os, "geteuid") and os.geteuid() == 0
    here = ", ".join(f"EXCLUDE {name}" for name in LOOPBACK)
    return ["--force-color-profile=srgb", f"--host-resolver-rules=MAP * ~NOTFOUND, {here}",
            *(["--no-sandbox"] if root else [])]  # fmt: skip


def address_of(said: str) -> str:
    """The address of a page that is named by a file or an address on this machine.

    Raises RifflerError for another machine's, or a file that is not there.
    """
    if "://" in said:
        parts = urlsplit(said)
        if parts.scheme in ("http", "https") and parts.hostname in LOOPBACK:
            return said
        raise RifflerError(
            f"{said} is not on this machine.", "Pages are read from files, or from 127.0.0.1."
        )
    path = Path(said)
    if not path.is_file():
        raise RifflerError(f"There is no page {as_typed(path)}.")
    return path.resolve().as_uri()


def name_of(address: str) -> str:
    """What a page is called: the end of its address."""
    path = unquote(urlsplit(address).path)
    return path.rstrip("/").rpartition("/")[2] or address


class Window:
    """One page open at a width; made by `opened`."""

    def __init__(self, page: Page, density: float) -> None:
        self.page, self._density = page, density
        self.camera = Camera(page, density)

    def nodes(self) -> tuple[Node, ...]:
        """The elements of the page, numbered for scripts to come."""
        return nodes_of(self.page.evaluate(script("page.js")))

    def look(self) -> Seen:
        """All that the page shows, with its pixels and those of each picture alone."""
        data = self.page.evaluate(script("page.js"))
        width, height = data["width"], data["height"]
        on = canvas(width, height, self._density)
        if on.area > DEFAULT_LIMITS.pixels:
            raise RifflerError(f"The page is {width} x {height} px large, too large to look at.")
        pictures = [
            SeenPicture(
                one["element"], Rect(*one["rect"]), tuple(one["natural"]), tuple(one["kept"])
            )
            for one in data["pictures"]
        ]
        return Seen(
            nodes_of(data), texts_of(data), boxes_of(data), tuple(self._alone(pictures, on)),
            width, height, self._density, self.camera.whole(on),
        )  # fmt: skip

    def _alone(self, pictures: Sequence[SeenPicture], canvas: Box) -> list[SeenPicture]:
        """Pictures with what they paint where nothing lies on them."""
        found = list(pictures)
        around = [_around(one, self._density) & canvas for one in pictures]
        for turn in _turns(pictures):
            visible = ", ".join(
                f'[data-riffler-picture="{n}"], [data-riffler-picture="{n}"] *' for n in turn
            )
            style = f"{ALONE} {visible} {{ visibility: visible !important; }}"
            tag = self.page.add_style_tag(content=style)
            shown = {n: np.zeros((around[n].height, around[n].width, 4), np.uint8) for n in turn}
            with self.camera.on_nothing():
                for on, band in self.camera.bands(canvas, [around[n] for n in turn]):
                    for n, pixels in shown.items():
                        part = around[n] & on
                        pixels[part.within(around[n])] = band[part.within(on)]
            tag.evaluate("element => element.remove()")
            for n, pixels in shown.items():
                at = around[n].x, around[n].y
                found[n] = _painted(pictures[n], pixels, at, self._density)
        return found


def _around(picture: SeenPicture, density: float) -> Box:
    """The pixels of a page in which a picture is looked for."""
    on = picture.box.scaled(density).outward()
    return Box(on.x - BEYOND, on.y - BEYOND, on.width + 2 * BEYOND, on.height + 2 * BEYOND)


def _turns(pictures: Sequence[SeenPicture]) -> list[list[int]]:
    """Pictures in turns in which none lies on another."""
    turns: list[list[int]] = []
    for number, one in enumerate(pictures):
        for turn in turns:
            if not any(one.box.meets(pictures[other].box) for other in turn):
                turn.append(number)
                break
        else:
            if len(turns) < TURNS:
                turns.append([number])
    return turns


def _painted(
    picture: SeenPicture, pixels: Bytes, at: tuple[int, int], density: float
) -> SeenPicture:  # fmt: skip
    """A picture with the pixels that it alone paints, which begin at x, y."""
    sides = inked(pixels[..., 3])
    if sides is None:
        return picture
    x, y, right, bottom = sides
    paint = Rect(at[0] + x, at[1] + y, right - x, bottom - y).scaled(1 / density)
    return replace(picture, paint=paint, pixels=pixels, at=at, density=density)


def script(name: str) -> str:
    """A script that runs in the page."""
    return resources.files("riffler.fit").joinpath(name).read_text(encoding="utf-8")


@contextmanager
def opened(
    browser: Browser, address: str, width: float, density: float, height: float = HIGH
) -> Iterator[Window]:  # fmt: skip
    """A page at a width in CSS pixels. Raises RifflerError where it does not open."""
    from playwright.sync_api import Error

    context = browser.new_context(
        viewport={"width": round(width), "height": round(min(height, HIGH))},
        device_scale_factor=density, reduced_motion="reduce", service_workers="block", locale="en",
    )  # fmt: skip
    try:
        context.set_default_timeout(PATIENCE)
        context.route(_elsewhere(urlsplit(address).netloc), lambda route: route.abort())
        page = context.new_page()
        try:
            page.goto(address, wait_until="load")
            _settle(page)
            yield Window(page, density)
        except Error as error:
            message = str(error).splitlines()[0].partition(": ")[2]
            raise RifflerError(f"{address} did not open: {message}") from error
    finally:
        context.close()


def _elsewhere(host: str) -> re.Pattern[str]:
    """What a page may not ask for: all that is neither a file nor of its own host."""
    own = rf"|https?://{re.escape(host)}(?:[/?#]|$)" if host else ""
    return re.compile(rf"^(?!(?:file|data|blob|about):{own})")


def _settle(page: Page) -> None:
    """Everything loaded, nothing moving."""
    page.add_style_tag(content=STILL)
    height = page.evaluate(
        """async () => {
          for (const image of document.images) image.loading = "eager";
          await document.fonts.ready;
          await Promise.all([...document.images].map(image => image.decode().catch(() => null)));
          for (const one of document.getAnimations()) {
            try { one.finish(); } catch { one.cancel(); }  // one without an end
          }
          scrollTo(0, 0);
          return document.documentElement.scrollHeight;
        }"""
    )
    if height > HIGHEST:
        raise RifflerError(f"The page is {height} px high; {HIGHEST} is the most.")
