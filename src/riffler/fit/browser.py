"""A page, by file or by an address on this machine -> what an installed Chromium shows of it.

Nothing is fetched from anywhere else; animations stand still, fonts and lazy pictures are waited
for. The page may do what it likes: every question to it has a limit, and what it says is checked.
"""

from __future__ import annotations

import contextlib
from collections.abc import Iterator, Sequence
from contextlib import contextmanager
from dataclasses import replace
from pathlib import Path
from typing import TYPE_CHECKING
from urllib.parse import unquote, urlsplit

import numpy as np

from riffler.color import Bytes
from riffler.errors import RifflerError
from riffler.files import as_typed, real
from riffler.fit.asked_for import AskedFor
from riffler.fit.camera import Camera, canvas
from riffler.fit.chromium import Chromium
from riffler.fit.likeness import inked
from riffler.fit.said import PageSaid, WidthSaid
from riffler.fit.seen import Node, SeenPage, SeenPicture, boxes_of, nodes_of, texts_of
from riffler.fit.tab import Tab, script
from riffler.geometry import Box, Rect
from riffler.project.limits import DEFAULT_LIMITS

if TYPE_CHECKING:
    from playwright.sync_api import Page

#: This machine's own names.
LOOPBACK = ("127.0.0.1", "localhost", "::1")

#: The height of windows, in CSS pixels, unless the mockup is lower.
HIGH = 900

#: The highest page that is looked at, in CSS pixels.
HIGHEST = 32_000

#: Pictures that touch are drawn by themselves in so many turns at the most.
TURNS = 12

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

#: Adds a style sheet; waits for all that loads, and says how high the page is then.
_STYLED = "text => globalThis.riffler.styled(text)"
_SETTLED = """async () => {
  const {doc} = globalThis.riffler;
  for (const image of doc.images) image.loading = "eager";
  await doc.fonts.ready;
  await Promise.all([...doc.images].map(image => image.decode().catch(() => null)));
  for (const one of doc.getAnimations()) {
    try { one.finish(); } catch { one.cancel(); }  // one without an end
  }
  scrollTo(0, 0);
  return doc.documentElement ? doc.documentElement.scrollHeight : 0;
}"""

#: Pixels around a picture's box that are looked at, too.
BEYOND = 2


def address_of(text: str) -> str:
    """The address of a page that is named by a file or an address on this machine.

    Raises RifflerError for another machine's, or a file that is not there.
    """
    if "://" in text:
        parts = urlsplit(text)
        if parts.scheme in ("http", "https") and parts.hostname in LOOPBACK:
            return text
        raise RifflerError(
            f"{text} is not on this machine.", "Pages are read from files, or from 127.0.0.1."
        )
    path = Path(text)
    if not path.is_file():
        raise RifflerError(f"There is no page {as_typed(path)}.")
    return real(path).as_uri()


def name_of(address: str) -> str:
    """What a page is called: the end of its address."""
    path = unquote(urlsplit(address).path)
    return path.rstrip("/").rpartition("/")[2] or address


class Window:
    """One page open at a width; made by `opened`."""

    def __init__(self, tab: Tab, density: float) -> None:
        self.tab, self._density = tab, density
        self._session = tab.session()
        self.camera = Camera(self._session, density)

    def nodes(self) -> tuple[Node, ...]:
        """The elements of the page, numbered for scripts to come."""
        return nodes_of(self._said())

    def at_width(self) -> WidthSaid:
        """What goes wrong at the width of the window, of elements by their numbers."""
        return WidthSaid.of(self.tab.ask(script("widths.js")))

    def _said(self) -> PageSaid:
        return PageSaid.of(self.tab.ask(script("page.js")))

    def resize(self, width: int) -> None:
        """Make the window as wide, in CSS pixels."""
        size = {"width": width, "height": HIGH, "deviceScaleFactor": self._density, "mobile": False}
        self._session.send("Emulation.setDeviceMetricsOverride", size)

    def look(self) -> SeenPage:
        """All that the page shows, with its pixels and those of each picture alone."""
        data = self._said()
        width, height = data.width, data.height
        on = canvas(width, height, self._density)
        if on.area > DEFAULT_LIMITS.pixels:
            raise RifflerError(f"The page is {width} x {height} px large, too large to look at.")
        if not on:
            raise RifflerError("The page shows nothing: it has no width or no height.")
        pictures = [
            SeenPicture(picture.element, Rect(*picture.rect), picture.natural, picture.kept)
            for picture in data.pictures
        ]
        return SeenPage(
            nodes_of(data),
            texts_of(data),
            boxes_of(data),
            tuple(self._alone(pictures, on)),
            width,
            height,
            self._density,
            self.camera.whole(on),
            tuple((one.element, Rect(*one.rect), one.text) for one in data.hidden),
        )

    def _alone(self, pictures: Sequence[SeenPicture], canvas: Box) -> list[SeenPicture]:
        """Pictures with what they paint where nothing lies on them."""
        found_pictures = list(pictures)
        around = [_around(picture, self._density) & canvas for picture in pictures]
        for turn in _turns(around):
            visible = ", ".join(
                f'[data-riffler-picture="{n}"], [data-riffler-picture="{n}"] *' for n in turn
            )
            style = f"{ALONE} {visible} {{ visibility: visible !important; }}"
            self.tab.ask(_STYLED, style)
            shown = {n: np.zeros((around[n].height, around[n].width, 4), np.uint8) for n in turn}
            with self.camera.on_nothing():
                for on, band in self.camera.bands(canvas, [around[n] for n in turn]):
                    for n, pixels in shown.items():
                        part = around[n] & on
                        pixels[part.within(around[n])] = band[part.within(on)]
            self.tab.ask("() => globalThis.riffler.unstyled()")
            for n, pixels in shown.items():
                at = around[n].x, around[n].y
                found_pictures[n] = _painted(pictures[n], pixels, at, self._density)
        return found_pictures


def _around(picture: SeenPicture, density: float) -> Box:
    """The pixels of a page in which a picture is looked for."""
    on = picture.box.scaled(density).outward()
    return Box(on.x - BEYOND, on.y - BEYOND, on.width + 2 * BEYOND, on.height + 2 * BEYOND)


def _turns(around: Sequence[Box]) -> list[list[int]]:
    """Pictures in turns in which none reaches into what is looked at of another."""
    turns: list[list[int]] = []
    for number, box in enumerate(around):
        for turn in turns:
            if not any(box.meets(around[other]) for other in turn):
                turn.append(number)
                break
        else:
            if len(turns) < TURNS:
                turns.append([number])
    return turns


def _painted(
    picture: SeenPicture, pixels: Bytes, at: tuple[int, int], density: float
) -> SeenPicture:
    """A picture with the pixels that it alone paints, which begin at x, y."""
    sides = inked(pixels[..., 3])
    if sides is None:
        return picture
    x, y, right, bottom = sides
    paint = Rect(at[0] + x, at[1] + y, right - x, bottom - y).scaled(1 / density)
    return replace(picture, paint=paint, pixels=pixels, at=at, density=density)


@contextmanager
def opened(
    chromium: Chromium, address: str, width: float, density: float, height: float = HIGH
) -> Iterator[Window]:
    """A page at a width in CSS pixels. Raises RifflerError where it does not open."""
    from playwright.sync_api import Error

    guard, is_open = chromium.guard, False
    try:
        with guard.page(), _context(chromium, address, width, density, height) as page:
            with guard.asking():
                page.goto(address, wait_until="load")
            is_open = True
            tab = Tab(page, guard)
            tab.ask(script("world.js"))
            _settle(tab)
            yield Window(tab, density)
    except Error as error:
        if guard.reason:
            raise RifflerError(
                f"{name_of(address)} {guard.reason}: it was not measured.",
                "A script without an end does this, or one that makes more and more.",
            ) from error
        if is_open:
            raise RifflerError(f"{name_of(address)} did not stay open.") from error
        is_file = urlsplit(address).scheme == "file"
        advice = "Is it an HTML page?" if is_file else "Does anything answer there?"
        raise RifflerError(f"{name_of(address)} did not open.", advice) from error


@contextmanager
def _context(
    chromium: Chromium, address: str, width: float, density: float, height: float
) -> Iterator[Page]:
    """An empty page in a profile of its own, in which only `AskedFor` answers."""
    from playwright.sync_api import Error

    with chromium.guard.asking():
        context = chromium.browser.new_context(
            viewport={"width": round(width), "height": round(min(height, HIGH))},
            device_scale_factor=density,
            reduced_motion="reduce",
            service_workers="block",
            locale="en",
            accept_downloads=False,
        )
        context.set_default_timeout(0)  # the guard counts
        context.route("**/*", AskedFor(address).answer)
        page = context.new_page()
        page.on("crash", chromium.guard.crashed)
    try:
        yield page
    finally:
        with contextlib.suppress(Error), chromium.guard.asking():
            context.close()


def _settle(tab: Tab) -> None:
    """Everything loaded, nothing moving."""
    tab.ask(_STYLED, STILL)
    height = tab.ask(_SETTLED)
    if isinstance(height, int | float) and height > HIGHEST:
        raise RifflerError(f"The page is {height:g} px high; {HIGHEST} is the most.")
