"""What breaks, what is too much, what goes wrong in a window -> declarations that may mend it."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import dataclass, field

from riffler.markup.element import Element, Lengths, is_running
from riffler.markup.same import FIELDS
from riffler.markup.setting import widest
from riffler.mirror.deviations import Deviation
from riffler.mirror.instances import Instance
from riffler.mirror.standing import Stand
from riffler.mirror.troubles import Trouble, TroubleKind


@dataclass(frozen=True)
class Mend:
    """Declarations that may put an element right: at any width, and back in narrower windows.

    `mockups` are for windows of a narrow mockup, by its media query.
    """

    element: Element
    css: Mapping[str, str] = field(default_factory=dict)
    narrow: Mapping[str, str] = field(default_factory=dict)
    mockups: Mapping[str, dict[str, str]] = field(default_factory=dict)

    @property
    def key(self) -> tuple[int, str]:
        """What tells it from other mends."""
        return id(self.element), repr((self.css, self.narrow, self.mockups))

    def put(self) -> Callable[[], None]:
        """Declare it; calling the answer takes it back."""
        element = self.element
        css, narrow, mockups = element.css, element.narrow, element.mockups
        element.css, element.narrow = {**css, **self.css}, {**narrow, **self.narrow}
        element.mockups = {**mockups, **self.mockups}

        def undo() -> None:
            element.css, element.narrow, element.mockups = css, narrow, mockups

        return undo


def for_lines(deviations: Sequence[Deviation], lengths: Lengths) -> Iterator[Mend]:
    """Mends for texts that break where they should not, or go on where they should break."""
    for deviation in deviations:
        rules, setting = deviation.instance.rules, deviation.instance.words
        if rules is None or setting is None or not (deviation.lines or deviation.is_broken):
            continue
        if setting.rows == 1:
            yield Mend(rules, {"white-space": "nowrap"}, {"white-space": "normal"})
        elif setting.next_words >= setting.width + 1:
            width = lengths.say(widest(setting.width, setting.next_words))
            css = {"max-width": width}
            if deviation.lines > 0 or deviation.spare < 0:
                css["min-width"] = width
            yield Mend(rules, css, {"min-width": "0"} if "min-width" in css else {})


def for_absent(page: Instance, stands: Mapping[int, Stand], when: str) -> Iterator[Mend]:
    """Leaving out what a narrow mockup does not show, and stands on its page all the same."""
    for inner in page.inner:
        stand = stands.get(inner.number)
        if any(part.rules is not None for part in inner.walk()):
            yield from for_absent(inner, stands, when)
        elif any(part.shown.tag in FIELDS for part in inner.walk()):
            continue  # no form without its fields
        elif stand is not None and stand.box.height > 0 and not is_running(page.shown):
            yield Mend(inner.ruled, mockups={when: {"display": "none"}})


def for_trouble(around: Sequence[Instance], trouble: Trouble) -> Iterator[Mend]:
    """Mends for what goes wrong in a window, to be tried one by one, the nearest things first.

    `around` are the thing and all that holds it, from the inside.
    """
    instance = trouble.instance
    piece = instance.area.piece if instance.area else None
    if trouble.kind is TroubleKind.ENLARGED and piece is not None:
        yield from _in_windows(instance, {"max-width": f"{piece.paint.width:g}px"})
    if trouble.kind is TroubleKind.DISTORTED:
        yield from _in_windows(instance, {"height": "auto"})
    if trouble.kind in (TroubleKind.OUT, TroubleKind.OVER):
        for holder in around:
            for css in _looser(holder.rules.css if holder.rules else {}):
                yield from _in_windows(holder, css)


def _in_windows(instance: Instance, css: Mapping[str, str]) -> Iterator[Mend]:
    """Declarations for windows that are narrower than the mockup, or those of the narrow one."""
    if instance.rules is not None:
        yield Mend(instance.rules, css) if instance.is_narrow else Mend(instance.rules, {}, css)


def _looser(css: Mapping[str, str]) -> Iterator[dict[str, str]]:
    """What gives way where declarations hold something to its size or its line."""
    if css.get("white-space") == "nowrap":
        yield {"white-space": "normal"}
    if "min-width" in css:
        yield {"min-width": "0"}
    if css.get("display") == "flex" and css.get("flex-direction") != "column":
        yield {"flex-wrap": "wrap"}
    tracks = css.get("grid-template-columns", "")
    if "px" in tracks and "auto-fi" not in tracks:
        yield {"grid-template-columns": "minmax(0, 1fr)"}
    if "height" in css:
        yield {"height": "auto"}
    if css.get("flex") == "none" or "px" in css.get("width", ""):
        yield {"max-width": "100%", "flex": "0 1 auto"}
    yield from ({name: "0"} for name in ("margin-left", "margin-right") if name in css)
