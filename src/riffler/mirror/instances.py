"""The elements of a page, loops and all -> each as often as the page will show it.

What a loop repeats has one set of rules, and a place on the page for every row of its data.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from riffler.markup.area import Area
from riffler.markup.element import Element
from riffler.markup.likeness import difference
from riffler.markup.merging import LOOKS
from riffler.markup.setting import Setting


@dataclass(eq=False)
class Instance:
    """A thing on the page: `shown` has its words and its place, `ruled` what styles say of it.

    Of a page in the window of its narrow mockup, the place and the rules are those of the twins.
    `number` is its own on the page, in the order of the markup, from 0 for the body.
    """

    shown: Element
    ruled: Element
    inner: list[Instance]
    is_narrow: bool
    number: int = 0

    @property
    def css(self) -> dict[str, str]:
        """What styles say of it, with what tells it from others made alike."""
        if self.shown is self.ruled:
            return self.ruled.css
        own = self.shown.css
        mine, usual = ({name: css.get(name) for name in LOOKS} for css in (own, self.ruled.css))
        sizes = {
            name: own[name]
            for name, value in self.ruled.css.items()
            if value == "var(--size)" and name in own
        }
        return {**self.ruled.css, **difference(mine, usual), **sizes}

    @property
    def rules(self) -> Element | None:
        """The element whose declarations put it where it is; None where there is none."""
        return self.ruled.twin if self.is_narrow else self.ruled

    @property
    def area(self) -> Area | None:
        """Its place in the mockup."""
        meant = self.shown.twin if self.is_narrow else self.shown
        return meant.area if meant else None

    @property
    def words(self) -> Setting | None:
        """How its words are set in the mockup."""
        meant = self.shown.twin if self.is_narrow else self.shown
        return meant.words if meant else None

    @property
    def laid(self) -> Instance:
        """The one that its area belongs to: itself, or the only one in it."""
        return self if self.area is not None or not self.inner else self.inner[0].laid

    def walk(self) -> Iterator[Instance]:
        """It and all in it."""
        yield self
        for instance in self.inner:
            yield from instance.walk()


def instance_of(body: Element, *, is_narrow: bool) -> Instance:
    """A page as it will be shown."""
    page = _instance(body, body, is_narrow=is_narrow)
    for number, instance in enumerate(page.walk()):
        instance.number = number
    return page


def _instance(shown: Element, ruled: Element, *, is_narrow: bool) -> Instance:
    """A part of a page by the rules of what it was made a part of."""
    inner = [
        _instance(part, element, is_narrow=is_narrow)
        for element in ruled.inner
        for part in _parts(shown, element)
    ]
    return Instance(shown, ruled, inner, is_narrow)


def _parts(shown: Element, element: Element) -> list[Element]:
    """What an element stands for in what is shown around it."""
    if not element.made_of:
        return [element]
    own = {id(part) for part in shown.inner}
    if id(element) in own:  # nothing is left there of what it is made of
        return element.made_of
    return [part for part in element.made_of if id(part) in own]
