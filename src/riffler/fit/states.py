"""Slices with states, and the page -> whether the page looks as they do, forced state by state.

A state is forced through the DevTools protocol, or by the attribute that means it; the pixels that
change are held against those that change in the mockup.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from contextlib import contextmanager
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from riffler.color import Bytes, to_bytes
from riffler.cutlist.resolved import ResolvedSlice, State
from riffler.fit.browser import Window
from riffler.fit.causes import Root
from riffler.fit.expected import Expected, ExpectedThing, ThingKind
from riffler.fit.fault import Difference, Fault, Placed
from riffler.fit.likeness import middle_color
from riffler.fit.seen import SeenPage
from riffler.geometry import Box, Rect

#: The pseudo-classes that mean a state. CSS Selectors 4, sections 9 and 12.
FORCED: Mapping[str, tuple[str, ...]] = {
    "hover": ("hover",),
    "active": ("hover", "active"),
    "focus": ("focus", "focus-visible"),
    "focus-visible": ("focus", "focus-visible"),
}

#: The attributes that mean a state. WAI-ARIA 1.2; HTML, 4.10.18.5.
ATTRIBUTES: Mapping[str, tuple[str, str]] = {
    "current": ("aria-current", "page"),
    "disabled": ("disabled", "disabled"),
    "selected": ("aria-selected", "true"),
    "checked": ("aria-checked", "true"),
}

#: Levels of 255 by which a pixel differs that changed; the share of a slice that changes at least.
CHANGED, SHARE = 12, 0.002

#: How much of what changes in the mockup changes on the page at least, and levels by which it may
#: differ more than the same pixels do at rest.
SOME, OFF = 0.1, 22.0

#: Notes what is clicked at a point and all that is around it; returns how many elements that are.
_FIND = """([x, y]) => {
  const {of, doc} = globalThis.riffler, chain = globalThis.riffler.chain = [];
  scrollTo(0, Math.max(0, y - innerHeight / 2));
  const at = doc.elementFromPoint(x - scrollX, y - scrollY);
  let one = at && (of(at).closest("a, button, summary, input, label, [role], [tabindex]") || at);
  for (; one; one = of(one).parentElement) chain.push(one);
  return chain.length;
}"""

#: Sets an attribute of what was found, or takes it away again; returns what it was.
_SET = """([name, value]) => {
  const one = globalThis.riffler.of(globalThis.riffler.chain[0]), was = one.getAttribute(name);
  value === null ? one.removeAttribute(name) : one.setAttribute(name, value);
  return was;
}"""

#: One of what was found, its number among all elements, whether it has an attribute.
_NODE = "number => globalThis.riffler.chain[number]"
_NUMBER = "() => globalThis.riffler.elements.indexOf(globalThis.riffler.chain[0])"
_HAS = "name => globalThis.riffler.of(globalThis.riffler.chain[0]).hasAttribute(name)"

#: Elements around what is clicked that are forced with it.
DEEP = 200

#: Milliseconds after which a state is looked at again while it is not as it should be.
WAITS = (0, 60, 150, 400, 900)

Colors = npt.NDArray[np.float64]
"""(H, W, 3) float64: red, green, blue, 0..255."""


@dataclass(frozen=True)
class _Shots:
    """A piece of the mockup or of the page at rest and in a state, equally large."""

    rest: Colors
    state: Colors

    @property
    def changes(self) -> npt.NDArray[np.bool_]:
        """The pixels that the state changes."""
        return np.asarray(np.abs(self.state - self.rest).max(axis=2) > CHANGED)


def states(
    window: Window, wanted: Expected, seen: SeenPage, placed: Sequence[Placed]
) -> Iterator[Root]:
    """What of slices' states the page does not show; what is missing at rest is not asked for."""
    missing = {one_placed.thing.name for one_placed in placed if one_placed.is_missing}
    asked = [
        (number, resolved, meant)
        for number, resolved in enumerate(wanted.slices)
        if resolved.name not in missing
        and (
            meant := [
                state
                for state in resolved.states[1:]
                if state.name in FORCED or state.name in ATTRIBUTES
            ]
        )
    ]
    if not asked:
        return
    forcing = _Forcing(window)
    for number, resolved, meant in asked:
        if differences := tuple(_differences(forcing, wanted, seen, resolved, meant)):
            box = Rect.of(resolved.box).scaled(1 / wanted.density)
            thing = ExpectedThing(resolved.name, ThingKind.PICTURE, box)
            lies = Placed(-2 - number, thing, box, forcing.element, differences=differences)
            yield Root(lies, is_carried=True)


class _Forcing:
    """An open page in which elements are put into states."""

    def __init__(self, window: Window) -> None:
        self.tab, self.camera = window.tab, window.camera
        self._line = self.tab.session()
        for domain in ("DOM", "CSS"):
            self._line.send(f"{domain}.enable")
        self._line.send("DOM.getDocument")
        self._nodes: list[int] = []

    def find(self, box: Rect) -> bool:
        """Look for what is clicked in the middle of a box; whether there is anything."""
        count = self.tab.ask(_FIND, [box.x + box.width / 2, box.y + box.height / 2])
        nodes = (self.tab.node(self._line, _NODE, number) for number in range(min(count, DEEP)))
        self._nodes = [node for node in nodes if node is not None]
        return bool(count)

    @property
    def element(self) -> int:
        """The number of what was found, as the page counts its elements."""
        return max(0, int(self.tab.ask(_NUMBER)))

    def is_in(self, state: str) -> bool:
        """Whether what was found is in a state that an attribute means."""
        return bool(self.tab.ask(_HAS, ATTRIBUTES[state][0]))

    @contextmanager
    def forced(self, state: str) -> Iterator[None]:
        """What was found in a state."""
        if state in ATTRIBUTES:
            name, value = ATTRIBUTES[state]
            was = self.tab.ask(_SET, [name, value])
            yield
            self.tab.ask(_SET, [name, was])
            return
        around = len(self._nodes) if "hover" in FORCED[state] else 1
        self._force(self._nodes[:around], FORCED[state])
        yield
        self._force(self._nodes[:around], ())

    def _force(self, nodes: Sequence[int], classes: Sequence[str]) -> None:
        for node in nodes:
            values = {"nodeId": node, "forcedPseudoClasses": [*classes]}
            self._line.send("CSS.forcePseudoState", values)


def _differences(
    forcing: _Forcing,
    wanted: Expected,
    seen: SeenPage,
    resolved: ResolvedSlice,
    states: Sequence[State],
) -> Iterator[Difference]:
    """What is wrong with the states of a slice, of which there are some."""
    shots = [(state, _of_mockup(wanted, resolved, state)) for state in states]
    shots = [(state, mine) for state, mine in shots if mine.changes.mean() >= SHARE]
    box = Rect.of(resolved.box).scaled(1 / wanted.density)
    if not shots or not forcing.find(box):
        return
    lasting = [state.name for state in resolved.states if state.name in ATTRIBUTES]
    if any(name is not None and forcing.is_in(name) for name in lasting):
        return  # on this page it is in one of its states at rest
    on = box.scaled(seen.density).outward()
    rest = _on_white(forcing.camera.shot(on))
    for state, mine in shots:
        if difference := _forced(forcing, state.name or "", mine, rest, on):
            yield difference


def _forced(forcing: _Forcing, name: str, mine: _Shots, rest: Colors, on: Box) -> Difference | None:
    """What is wrong with a state, while the page is in it; None where it looks as it should."""
    difference = None
    with forcing.forced(name):
        for wait in WAITS:  # a picture of a state is only loaded when that is on
            forcing.tab.wait(wait)
            difference = _judged(mine, _Shots(rest, _on_white(forcing.camera.shot(on))), name)
            if difference is None:
                break
    return difference


def _judged(mine: _Shots, that_shots: _Shots, name: str) -> Difference | None:
    changes = mine.changes
    if that_shots.rest.shape != mine.rest.shape:
        return None
    if (that_shots.changes & changes).sum() < SOME * changes.sum():
        return Difference(Fault.STATE, name, "nothing changes")
    state, rest = (
        float(np.abs(first - second)[changes].mean())
        for first, second in ((that_shots.state, mine.state), (that_shots.rest, mine.rest))
    )
    if state <= rest + OFF:
        return None
    colors = [middle_color(shots.state[changes]) for shots in (mine, that_shots)]
    return Difference(Fault.STATE, f"{name}: {colors[0]}", colors[1])


def _of_mockup(wanted: Expected, resolved: ResolvedSlice, state: State) -> _Shots:
    """The mockup in the box of a slice, with all that it shows, at rest and in the state."""
    drawn = wanted.renderer.mockup.drawn
    came, gone = state.shown - resolved.rest.shown, resolved.rest.shown - state.shown
    sides = ((drawn - came) | gone, (drawn | came) - gone)
    rest, other = (
        _on_white(to_bytes(wanted.renderer.render(resolved.box, 1.0, side))) for side in sides
    )
    return _Shots(rest, other)


def _on_white(pixels: Bytes) -> Colors:
    alpha = pixels[..., 3:].astype(np.float64) / 255
    return np.asarray(pixels[..., :3] * alpha + 255 * (1 - alpha), np.float64)
