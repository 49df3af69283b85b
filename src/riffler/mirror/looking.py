"""A page that is roughed out -> the same, seen in a browser and mended until it stands right."""

from __future__ import annotations

import tempfile
from collections.abc import Callable, Iterator, Mapping, Sequence
from contextlib import ExitStack, contextmanager
from dataclasses import dataclass, field
from pathlib import Path

from riffler.errors import RifflerError
from riffler.files import read_whole, write_whole
from riffler.fit.browser import Window, opened
from riffler.fit.chromium import Chromium, browsing
from riffler.markup.page_plan import Laid
from riffler.mirror.deviations import Deviation, deviations, weight
from riffler.mirror.instances import Instance, instance_of
from riffler.mirror.mending import Mend, for_absent, for_lines, for_trouble
from riffler.mirror.shifting import Shifts
from riffler.mirror.stage import Scene, faces_text, page_text, styles_text
from riffler.mirror.standing import Stand, stands
from riffler.mirror.troubles import Trouble, troubles
from riffler.mockup.font_book import Face
from riffler.workspace import Workspace

#: Times that a page is mended at the most, and mends that are tried one by one.
TURNS, SINGLE = 8, 16

#: By how much less all must be off for something to be left out.
HIDING = 40.0

#: Windows that a page is looked at in, beside those of its mockups, in CSS pixels.
WIDTHS = (320, 375, 480, 600, 768, 960, 1280, 1600)

#: Writes one of the two style sheets of the page, and waits until its letters are there.
_STYLED = """async ([number, text]) => {
  document.querySelectorAll("style")[number].textContent = text;
  await document.fonts.ready;
}"""


@dataclass(frozen=True)
class Seen:
    """How a page stood in a window of a mockup's width: of so many things these were off.

    `troubles` are what goes wrong in other windows, `hidden` all texts that are left out there;
    `failed` says why it could not be looked at.
    """

    page: str
    width: float
    things: int
    off: tuple[Deviation, ...]
    troubles: tuple[Trouble, ...] = ()
    hidden: tuple[str, ...] = ()
    failed: str = ""


@dataclass
class Mirror:
    """Shows pages to an open browser; `seen` is what came of it, by page and width."""

    chromium: Chromium
    workspace: Workspace
    folder: Path
    seen: dict[tuple[str, float], Seen] = field(default_factory=dict)

    def look(self, laid: Laid) -> None:
        """Mend a page until it stands right, at the width of its mockup and of its narrow one."""
        widest = laid.narrow.widest if laid.narrow else 0
        self._mend(laid, laid.width, [width for width in WIDTHS if width > widest])
        if laid.narrow is not None:
            windows = [width for width in WIDTHS if width <= widest]
            self._mend(laid, laid.narrow.area.box.width, windows, is_narrow=True)
        laid.redeclare()

    def _mend(
        self, laid: Laid, width: float, windows: Sequence[int], *, is_narrow: bool = False
    ) -> None:
        page = instance_of(laid.body, is_narrow=is_narrow)
        faces = tuple(self._faces(laid))
        scene = Scene(page, laid.usual, laid.width, laid.lengths, faces)
        when = laid.narrow.when if laid.narrow and is_narrow else ""
        try:
            with self._staged(scene, width) as window:
                mending = _Mending(window, scene, width, when, laid.redeclare)
                things, off = mending.done()
                left = mending.settled(windows)
            hidden = tuple(_hidden(page, when)) if when else ()
            seen = Seen(laid.name, width, things, tuple(off), tuple(left), hidden)
        except RifflerError as error:
            seen = Seen(laid.name, width, 0, (), failed=error.message)
        self.seen[laid.name, width] = seen

    def _faces(self, laid: Laid) -> Iterator[Face]:
        """The faces of the project's files that the page is set in."""
        found_faces: dict[Path, Face] = {}
        for family, weight_, is_italic in sorted(laid.types):
            face = self.workspace.fonts.nearest(family, weight_, is_italic=is_italic)
            if face is not None and not face.is_system:
                found_faces.setdefault(face.path, face)
        yield from found_faces.values()

    @contextmanager
    def _staged(self, scene: Scene, width: float) -> Iterator[Window]:
        """A page open in a window of a width, with no rules but those for its faces."""
        fonts: dict[Path, str] = {}
        for number, face in enumerate(scene.faces):
            fonts[face.path] = f"{number}{face.path.suffix}"
            font = self.folder / fonts[face.path]
            write_whole(font, read_whole(face.path), is_lasting=False)
        path = self.folder / "page.html"
        write_whole(path, page_text(scene).encode(), is_lasting=False)
        with opened(self.chromium, path.as_uri(), width, 1.0) as window:
            window.tab.ask(_STYLED, [0, faces_text(scene, fonts)])
            yield window


class _Mending:
    """A page of which all rules may change; `restyled` is called when some did."""

    def __init__(
        self, window: Window, scene: Scene, width: float, when: str, restyled: Callable[[], None]
    ) -> None:
        self._window, self._scene, self._restyled = window, scene, restyled
        self._width, self._when = round(width), when
        self._refused: set[tuple[int, str]] = set()

    def done(self) -> tuple[int, list[Deviation]]:
        """Mend the page as far as that goes: how many things it has, and what is still off."""
        seen = self._look()
        for _ in range(TURNS):
            before = self._weight(seen)
            for mends in self._mends(seen):
                seen = self._tried(mends, seen)
                if self._weight(seen) < before:
                    break
            else:
                break
        every = list(deviations(self._scene.page, seen))
        return len(every), [deviation for deviation in every if deviation.is_off]

    def settled(self, windows: Sequence[int]) -> list[Trouble]:
        """Mend what goes wrong in other windows, as far as that goes; what still does."""
        least = self._weight(self._look())
        found_troubles, tried = self._troubles(windows), 0
        around = _around(self._scene.page)
        for trouble in found_troubles:
            for mend in for_trouble(around[id(trouble.instance)], trouble):
                if trouble not in found_troubles or tried >= SINGLE:
                    break
                if mend.key in self._refused:
                    continue
                tried += 1
                if (better := self._better(mend, windows, found_troubles, least)) is not None:
                    found_troubles, least = better
        return found_troubles

    def _better(
        self, mend: Mend, windows: Sequence[int], before: Sequence[Trouble], least: float
    ) -> tuple[list[Trouble], float] | None:
        """What goes wrong with a mend, and how much is off; None, with all as before, for no less.

        `least` is how much is off without it: nothing moves in the window of the mockup.
        """
        undo, is_better = mend.put(), False
        try:
            after = self._weight(self._look())
            left = self._troubles(windows) if after <= least + 1 else before
            is_better = len(left) < len(before)
            return (list(left), after) if is_better else None
        finally:
            if not is_better:
                self._refused.add(mend.key)
                undo()

    def _troubles(self, windows: Sequence[int]) -> list[Trouble]:
        """What goes wrong in windows of these widths, by the rules that were looked at last."""
        found_troubles = []
        for width in windows:
            self._window.resize(width)
            found_troubles += troubles(self._scene.page, stands(self._window), width)
        self._window.resize(self._width)
        return found_troubles

    def _look(self) -> Mapping[int, Stand]:
        """Where everything stands by the rules as they are now."""
        self._restyled()
        self._window.tab.ask(_STYLED, [1, styles_text(self._scene)])
        return stands(self._window)

    def _weight(self, seen: Mapping[int, Stand]) -> float:
        return weight(deviations(self._scene.page, seen))

    def _mends(self, seen: Mapping[int, Stand]) -> Iterator[list[Mend]]:
        """What may put it right, what matters most first; each kind by itself."""
        page, lengths = self._scene.page, self._scene.lengths
        off = list(deviations(page, seen))
        if self._when:
            yield list(for_absent(page, seen, self._when))
        yield list(for_lines(off, lengths))
        for is_final in (False, True):
            yield list(Shifts(page, seen, off, lengths, is_final=is_final).mends())
        yield list(Shifts(page, seen, off, lengths, is_final=True).across())

    def _tried(self, mends: Sequence[Mend], seen: Mapping[int, Stand]) -> Mapping[int, Stand]:
        """Where everything stands with all of these mends, or with those that make it better."""
        mends = [mend for mend in mends if mend.key not in self._refused]
        if not mends:
            return seen
        after = self._with(mends, seen)
        if after is not None:
            return after
        for mend in mends[:SINGLE] if len(mends) > 1 else ():
            after = self._with([mend], seen)
            if after is None:
                self._refused.add(mend.key)
            seen = after or seen
        return seen

    def _with(self, mends: Sequence[Mend], seen: Mapping[int, Stand]) -> Mapping[int, Stand] | None:
        """Where everything stands with these mends, if that is better; else all is as before."""
        undo = [mend.put() for mend in mends]
        is_better = False
        try:
            after = self._look()
            least = HIDING if any(mend.mockups for mend in mends) else 1
            is_better = self._weight(after) < self._weight(seen) - least
            return after if is_better else None
        finally:
            if not is_better:
                for take_back in reversed(undo):
                    take_back()


def _around(page: Instance) -> dict[int, list[Instance]]:
    """By the identity of each thing it and all that holds it, from the inside."""
    result: dict[int, list[Instance]] = {id(page): [page]}
    for instance in page.walk():
        for inner in instance.inner:
            result[id(inner)] = [inner, *result[id(instance)]]
    return result


def _hidden(instance: Instance, when: str) -> Iterator[str]:
    """The texts that a narrow page leaves out."""
    is_hidden = instance.ruled.mockups.get(when, {}).get("display") == "none"
    for inner in instance.walk() if is_hidden else ():
        if inner.shown.words is not None:
            yield inner.shown.words.text
    for inner in () if is_hidden else instance.inner:
        yield from _hidden(inner, when)


@contextmanager
def mirror(workspace: Workspace) -> Iterator[Mirror]:
    """Something to show the pages of a project to. Raises RifflerError where no browser is."""
    with (
        browsing(is_ours=True) as chromium,
        tempfile.TemporaryDirectory(prefix="riffler-", ignore_cleanup_errors=True) as folder,
    ):
        yield Mirror(chromium, workspace, Path(folder))


@dataclass(frozen=True)
class View:
    """What pages are shown to, if it is wanted and there; `missing` says why it is not."""

    mirror: Mirror | None
    missing: str = ""

    @property
    def look(self) -> Callable[[Laid], None] | None:
        """Looks at a page and mends it."""
        return self.mirror.look if self.mirror else None

    @property
    def seen(self) -> list[Seen]:
        """How the pages stood in the end."""
        return list(self.mirror.seen.values()) if self.mirror else []


@contextmanager
def looked_at(workspace: Workspace, *, is_wanted: bool) -> Iterator[View]:
    """A mirror for the pages of a project, where one is wanted and a browser is installed."""
    with ExitStack() as stack:
        view = View(None)
        if is_wanted:
            try:
                view = View(stack.enter_context(mirror(workspace)))
            except RifflerError as error:
                view = View(None, error.message)
        yield view
