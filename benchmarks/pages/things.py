"""What a generated page is made of, and how each thing is written in SVG."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field
from html import escape
from typing import Literal

from riffler.geometry import Rect

Kind = Literal["group", "css-box", "words", "picture", "icon", "tile"]
Corners = tuple[float, ...]


@dataclass(frozen=True)
class Shadow:
    """As CSS writes it; `color` is opaque and `alpha` says how much is seen of it."""

    x: float
    y: float
    blur: float
    color: str
    alpha: float


@dataclass(frozen=True)
class Text:
    """Lines of text; the first baseline lies `size` below the top of its thing."""

    lines: tuple[str, ...]
    size: float
    color: str
    family: str = "Figtree"
    weight: int = 400
    anchor: str = "start"
    step: float = 1.5


@dataclass
class Look:
    """How a box is drawn: one colour or stops from the top, at an angle as CSS counts it."""

    fill: str = "#ffffff"
    stops: tuple[tuple[float, str], ...] = ()
    angle: float = 180.0
    radius: Corners = (0, 0, 0, 0)
    border: tuple[float, str] | None = None
    shadow: Shadow | None = None


@dataclass
class Thing:
    """One element of a page. `layer` and `id` are settled when the page is written."""

    name: str
    kind: Kind
    rect: Rect
    role: str = ""
    state: str = ""
    hidden: bool = False
    look: Look | None = None
    text: Text | None = None
    body: str = ""
    is_placed: bool = False
    tile: tuple[int, int, str] | None = None
    children: list[Thing] = field(default_factory=list)
    rep: str = ""
    id: str = ""
    parent: Thing | None = None
    path: list[tuple[str, int]] = field(default_factory=list)

    def add(self, *things: Thing) -> Thing:
        """Put things into the group, over those that are there."""
        self.children.extend(things)
        return self

    def walk(self) -> Iterator[Thing]:
        """The thing and all inside it, from the bottom of the stack."""
        yield self
        for child in self.children:
            yield from child.walk()


def group(name: str, rect: Rect, *children: Thing, role: str = "", rep: str = "") -> Thing:
    """Things that belong together."""
    return Thing(name, "group", rect, role=role, rep=rep, children=list(children))


def box(name: str, rect: Rect, look: Look, *, state: str = "", hidden: bool = False) -> Thing:
    """What CSS draws."""
    return Thing(name, "css-box", rect, look=look, state=state, hidden=hidden)


def words(name: str, x: float, y: float, text: Text) -> Thing:
    """Text whose first line begins, is centred or ends at x, its top at y."""
    height = text.size * (1 + text.step * (len(text.lines) - 1))
    return Thing(name, "words", Rect(x, y, 0, height), text=text)


def written(thing: Thing, ids: Iterator[int]) -> str:
    """The thing itself as SVG, without what is inside it; definitions stand before their use."""
    match thing.kind:
        case "css-box":
            assert thing.look
            return _box(thing.rect, thing.look, ids)
        case "words":
            assert thing.text
            return _words(thing.rect, thing.text)
        case "tile":
            assert thing.tile
            name = f"pattern{next(ids)}"
            across, down, _ = thing.tile
            r = thing.rect
            return (
                f'<defs><pattern id="{name}" patternUnits="userSpaceOnUse" x="{r.x:g}" y="{r.y:g}"'
                f' width="{across}" height="{down}">{thing.body}</pattern></defs>'
                f'<rect x="{r.x:g}" y="{r.y:g}" width="{r.width:g}" height="{r.height:g}"'
                f' fill="url(#{name})"/>'
            )
        case "picture" | "icon":
            if thing.is_placed:
                return thing.body
            return f'<g transform="translate({thing.rect.x:g} {thing.rect.y:g})">{thing.body}</g>'
    return ""


def _box(rect: Rect, look: Look, ids: Iterator[int]) -> str:
    definitions, paint, effect = "", look.fill, ""
    if look.stops:
        name = f"gradient{next(ids)}"
        definitions += _gradient(name, rect, look.stops, look.angle)
        paint = f"url(#{name})"
    if look.shadow:
        name, s = f"shadow{next(ids)}", look.shadow
        far = s.blur * 1.5 + abs(s.x) + abs(s.y) + 4
        definitions += (
            f'<filter id="{name}" filterUnits="userSpaceOnUse" x="{rect.x - far:g}"'
            f' y="{rect.y - far:g}" width="{rect.width + 2 * far:g}"'
            f' height="{rect.height + 2 * far:g}" color-interpolation-filters="sRGB">'
            f'<feDropShadow dx="{s.x:g}" dy="{s.y:g}" stdDeviation="{s.blur / 2:g}"'
            f' flood-color="{s.color}" flood-opacity="{s.alpha:g}"/></filter>'
        )
        effect = f' filter="url(#{name})"'
    width = look.border[0] if look.border else 0.0
    line = f' stroke="{look.border[1]}" stroke-width="{width:g}"' if look.border else ""
    inner = Rect(rect.x + width / 2, rect.y + width / 2, rect.width - width, rect.height - width)
    radii = tuple(max(0.0, radius - width / 2) if radius else 0.0 for radius in look.radius)
    shape = _outline(inner, radii)
    defs = f"<defs>{definitions}</defs>" if definitions else ""
    return f'{defs}<{shape} fill="{paint}"{line}{effect}/>'


def _outline(r: Rect, radii: Corners) -> str:
    if len(set(radii)) == 1:
        rounded = f' rx="{radii[0]:g}"' if radii[0] else ""
        return f'rect x="{r.x:g}" y="{r.y:g}" width="{r.width:g}" height="{r.height:g}"{rounded}'
    a, b, c, d = radii
    right, bottom = r.x + r.width, r.y + r.height
    return (
        f'path d="M{r.x + a:g} {r.y:g}H{right - b:g}A{b:g} {b:g} 0 0 1 {right:g} {r.y + b:g}'
        f"V{bottom - c:g}A{c:g} {c:g} 0 0 1 {right - c:g} {bottom:g}H{r.x + d:g}"
        f'A{d:g} {d:g} 0 0 1 {r.x:g} {bottom - d:g}V{r.y + a:g}A{a:g} {a:g} 0 0 1 {r.x + a:g} {r.y:g}Z"'
    )


def _gradient(name: str, r: Rect, stops: Sequence[tuple[float, str]], angle: float) -> str:
    """A gradient along the line that CSS draws it on (CSS Images 3, section 3.1.1)."""
    from math import cos, radians, sin

    across, down = sin(radians(angle)), -cos(radians(angle))
    half = (abs(r.width * across) + abs(r.height * down)) / 2
    x, y = r.x + r.width / 2, r.y + r.height / 2
    inside = "".join(f'<stop offset="{at:g}" stop-color="{color}"/>' for at, color in stops)
    return (
        f'<linearGradient id="{name}" gradientUnits="userSpaceOnUse" x1="{x - across * half:.3f}"'
        f' y1="{y - down * half:.3f}" x2="{x + across * half:.3f}" y2="{y + down * half:.3f}">'
        f"{inside}</linearGradient>"
    )


def _words(rect: Rect, text: Text) -> str:
    lines = "".join(
        f'<tspan x="{rect.x:g}" y="{rect.y + text.size + n * text.size * text.step:g}">'
        f"{escape(line)}</tspan>"
        for n, line in enumerate(text.lines)
    )
    return (
        f'<text font-family="{text.family}" font-size="{text.size:g}" font-weight="{text.weight}"'
        f' fill="{text.color}" text-anchor="{text.anchor}">{lines}</text>'
    )
