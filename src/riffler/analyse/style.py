"""What a style sheet would say of a drawing, as data; lengths in pixels of what was measured."""

from __future__ import annotations

from dataclasses import dataclass, replace


@dataclass(frozen=True)
class Stop:
    """A colour of a gradient, and where it stands: 0 at its beginning, 1 at its end."""

    position: float
    color: str


#: What fills a box of which only the border is drawn.
CLEAR = Stop(0.0, "#00000000")


@dataclass(frozen=True)
class Radii:
    """How far each corner is rounded; CSS Backgrounds and Borders 3, section 5."""

    top_left: float = 0.0
    top_right: float = 0.0
    bottom_right: float = 0.0
    bottom_left: float = 0.0

    @property
    def is_one(self) -> bool:
        """Whether one number says all of them."""
        return len({self.top_left, self.top_right, self.bottom_right, self.bottom_left}) == 1

    @property
    def listed(self) -> tuple[float, float, float, float]:
        """In the order in which CSS writes them."""
        return self.top_left, self.top_right, self.bottom_right, self.bottom_left

    def scaled(self, by: float) -> Radii:
        """In other pixels."""
        return Radii(*(radius * by for radius in self.listed))


#: Corners that are not rounded at all.
SQUARE = Radii()


#: The sides of a box, in the order in which CSS names them.
SIDES = ("top", "right", "bottom", "left")


@dataclass(frozen=True)
class Border:
    """A line of one colour all along the edge, inside it; `side` is the one that has it alone."""

    color: str
    width: float
    side: str | None = None

    @property
    def widths(self) -> tuple[float, float, float, float]:
        """Of each side, in the order in which CSS names them."""
        top, right, bottom, left = (
            self.width if self.side in (None, side) else 0.0 for side in SIDES
        )
        return top, right, bottom, left


@dataclass(frozen=True)
class Shadow:
    """A soft copy of the outline under it: how far right and down, how soft, of which colour.

    Of pixels it is read from how far it reaches on each side, so that offset and blur are rough,
    to a pixel or two, and `spread`, by how much it is larger on each side, is not told apart.
    One that `is_inner` falls into the box from its edges.
    """

    x: float
    y: float
    blur: float
    color: str
    spread: float = 0.0
    is_inner: bool = False

    def scaled(self, by: float) -> Shadow:
        """In other pixels."""
        lengths = {name: by * getattr(self, name) for name in ("x", "y", "blur", "spread")}
        return replace(self, **lengths)


@dataclass(frozen=True)
class Radial:
    """Where a radial gradient has its centre, in shares of the box, and whether rings are circles.

    It ends at the farthest corner, as CSS has it unless told otherwise; ellipses are as wide for
    their height as the one to the farthest sides.
    """

    x: float
    y: float
    is_circle: bool


@dataclass(frozen=True)
class Style:
    """A box as a style sheet draws it.

    `stops` are those of its gradient, one alone for a flat colour; `angle` is CSS's, in degrees,
    None for a flat colour and where it is `radial`. `radii` are None for an ellipse.
    """

    stops: tuple[Stop, ...]
    angle: int | None = None
    radii: Radii | None = SQUARE
    border: Border | None = None
    shadows: tuple[Shadow, ...] = ()
    opacity: float = 1.0
    blend: str = "normal"
    radial: Radial | None = None

    def scaled(self, by: float) -> Style:
        """The style with every length times `by`."""
        return replace(
            self,
            radii=self.radii and self.radii.scaled(by),
            border=self.border and replace(self.border, width=self.border.width * by),
            shadows=tuple(shadow.scaled(by) for shadow in self.shadows),
        )
