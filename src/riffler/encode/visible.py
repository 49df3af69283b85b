"""Two pictures -> what an eye sees of their difference: 0 for none, 1 for the first that shows.

What is drawn counts, wherever it stands: each thing on flat ground is looked at by itself
(`things`), as a whole and window by window (`views`), so that an icon is judged alike on a small
and on a large canvas. Beside that stand bands and joints, looked for everywhere (`calm`). The worst
of all is the loss.

What is transparent is laid on white and on near black, and the worse of the two counts. Of large
pictures pieces are judged, and those where another picture differs most.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from functools import cached_property

import numpy as np

from riffler.color import Bytes, is_solid
from riffler.encode.seats import Seat
from riffler.encode.things import drawn, things
from riffler.encode.tiles import Place, corner, different, painted, stacked, telling, tiles, worst
from riffler.encode.views import Pooled, scales_of, times

#: Red, green and blue of the grounds that transparent pictures are laid on.
GROUNDS = (255, 30)

#: Around things, and above and below pieces, so that a file's blocks are judged whole and nothing
#: is smeared across the seams, in pixels.
MARGIN = 16

#: The loss of what can't be compared: opaque where the other is not.
UNLIKE = 200.0

#: Pixels beyond which pieces are judged, their side, and how many there are at the most.
PIECES_FROM, PIECE, PIECES = 250_000, 128, 12

#: Things that are looked at one by one at the most, and places where a large picture differs most.
THINGS, WORST = 12, 4


class Reference:
    """A picture that others are compared with; its side of the work is done once."""

    def __init__(
        self,
        straight: Bytes,
        whole: Reference | None = None,
        joints: frozenset[str] = frozenset(),
    ) -> None:
        """straight: (H, W, 4) uint8, a picture, or the `pieces` of a `whole` one.

        `joints` are the sides at which other pictures go on. One that `is_large` is judged at some
        `places` of one size, with the weights for these numbers of `scales`; so many times `larger`
        is all that is drawn in it than its pieces.
        """
        self.larger = 1.0
        self._straight = straight
        self._is_opaque = is_solid(straight)
        self._drawn = drawn(straight)
        self._joints = joints
        self.grounds = GROUNDS[:1] if self._is_opaque else GROUNDS
        if whole is None:
            box = painted(straight, MARGIN)
            lengths = [line.stop - line.start for line in box]
            self.is_large = lengths[0] * lengths[1] > PIECES_FROM and min(lengths) >= PIECE
            self.scales = scales_of(*lengths)
            self.things = things(self._drawn)
            self.places = self._tiles() if self.is_large else [box]
            self._scales = [self._scales_at(place) for place in self.places]
        else:
            self.is_large, self.scales = False, whole.scales
            tops = range(MARGIN, len(straight), PIECE + 2 * MARGIN)
            self.places = [(slice(top, top + PIECE), slice(0, PIECE)) for top in tops]
            pairs = zip(whole.places, self.places, strict=True)
            self.things = [
                _moved(thing, tile, place)
                for tile, place in pairs
                for thing in _inside(whole.things, tile)
            ]
            self._scales = whole._scales
        self._is_pieces = whole is not None
        self._seats: dict[tuple[int, int], Seat] = {}

    def pieces(self) -> Bytes:
        """The places that are judged below one another, each with what lies above and below it."""
        return stacked(self._straight, self.places, MARGIN)

    def loss(self, straight: Bytes) -> float:
        """What is seen of the difference to another picture of the same size, 0 or more."""
        if np.array_equal(straight, self._straight):
            return 0.0
        is_clear = not self._straight[..., 3].any()
        if is_clear or (self._is_opaque and not is_solid(straight)):
            return UNLIKE
        laid = ((_on(straight, ground), ground) for ground in self.grounds)
        return max(seat.loss(*pair) for pair in laid for seat in self._looked_at(*pair))

    def maps(self, straight: Bytes) -> list[Pooled]:
        """All that is seen of another picture before anything is weighed, on each ground."""
        seat = Seat(self._laid, self._drawn, [], self.places, self.scales)
        return [seat.view(ground).maps(_on(straight, ground)) for ground in self.grounds]

    @cached_property
    def _laid(self) -> dict[int, Bytes]:
        """The picture on each ground, (H, W, 3)."""
        return {ground: _on(self._straight, ground) for ground in self.grounds}

    def _tiles(self) -> list[Place]:
        """Where a large picture is looked at: a part of the squares in which anything is drawn."""
        shape = self._straight.shape[:2]
        every = different(tile for thing in self.things for tile in tiles(thing, PIECE, shape))
        marked = [tile for tile in every if self._drawn[tile].any()] or every
        chosen = telling(self._straight, marked, PIECES)
        self.larger = len(marked) / len(chosen) * PIECE / (PIECE + 2 * MARGIN)
        return chosen

    def _scales_at(self, place: Place) -> tuple[int, ...]:
        """The numbers of scales of the smallest thing that reaches into a place."""
        found = (
            scales_of(*(line.stop - line.start for line in thing))
            for thing in self.things
            if all(a.start < b.stop and b.start < a.stop for a, b in zip(thing, place, strict=True))
        )
        return min(found, default=self.scales)

    @cached_property
    def _always(self) -> list[Seat]:
        """Whatever is looked at by itself: all of it, pieces, and things."""
        height, width = self._straight.shape[:2]
        whole = (slice(0, height), slice(0, width))
        if self.things == [whole] and not (self.is_large or self._is_pieces):
            return [self._seat(whole, self._joints)]
        seats = []
        if not self._is_pieces:
            seats.append(Seat(self._laid, self._drawn, [whole], [], self.scales, 1, self._joints))
        alone = self.things
        if self.is_large or self._is_pieces:
            alone = [pair for tile in self.places for pair in _inside(self.things, tile)]
            seats += self._tiled()
        if self.is_large and self.things != [whole]:
            large = [thing for thing in self.things if thing not in alone][:THINGS]
            seats += [Seat(self._laid, self._drawn, [thing], [], self.scales) for thing in large]
        return seats + [self._seat(thing) for thing in alone[:THINGS]]

    def _tiled(self) -> Iterator[Seat]:
        """The places of a large picture together, and by the scales that they are judged at."""
        yield Seat(self._laid, self._drawn, self.places, [], self.scales)
        pairs = list(zip(self.places, self._scales, strict=True))
        for scales in sorted(set(self._scales)):
            alike = [place for place, group in pairs if group == scales]
            yield Seat(self._laid, self._drawn, [], alike, scales)

    def _seat(self, thing: Place, joints: frozenset[str] = frozenset()) -> Seat:
        """A thing by itself, with its margin where there is room."""
        height, width = (line.stop - line.start for line in thing)
        rows, columns = (
            slice(max(0, line.start - MARGIN), min(side, line.stop + MARGIN))
            for line, side in zip(thing, self._drawn.shape, strict=True)
        )
        scales, enlarged = scales_of(height, width), times(height, width)
        return Seat(self._laid, self._drawn, [thing], [(rows, columns)], scales, enlarged, joints)

    def _looked_at(self, rgb: Bytes, ground: int) -> Iterator[Seat]:
        """All seats for another picture; of a large one those, too, where it differs most."""
        yield from self._always
        if not self.is_large:
            return
        for tile in worst(self._laid[ground], rgb, PIECE, WORST):
            if tile in self.places:
                continue
            key = corner(tile)
            if key not in self._seats:
                scales = self._scales_at(tile)
                self._seats[key] = Seat(self._laid, self._drawn, [], [tile], scales)
            yield self._seats[key]


def loss(reference: Bytes, other_pixels: Bytes) -> float:
    """What is seen of the difference between two pictures of one size."""
    return Reference(reference).loss(other_pixels)


def _inside(every: Sequence[Place], tile: Place) -> list[Place]:
    """The things that lie in a tile whole, with room around them."""
    return [
        thing
        for thing in every
        if all(
            line.start >= whole.start and line.stop <= whole.stop
            for line, whole in zip(thing, tile, strict=True)
        )
    ]


def _moved(thing: Place, tile: Place, place: Place) -> Place:
    """A thing of a tile where that tile lies elsewhere."""
    rows, columns = (
        slice(line.start + new.start - old.start, line.stop + new.start - old.start)
        for line, old, new in zip(thing, tile, place, strict=True)
    )
    return rows, columns


def _on(straight: Bytes, ground: int) -> Bytes:
    """Straight RGBA over an opaque grey, (H, W, 3) uint8, as a browser lays it down."""
    if is_solid(straight):
        return straight[..., :3]
    alpha = straight[..., 3:].astype(np.float32) / 255
    mixed = straight[..., :3] * alpha + np.float32(ground) * (1 - alpha)
    return (mixed + 0.5).astype(np.uint8)
