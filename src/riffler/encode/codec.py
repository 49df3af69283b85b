"""What a codec is: a format as an object that knows how its files are made and chosen.

A *codec* has the name of its format, makes a file at a setting (`encode`), and finds the smallest
one that grants a wish (`choose`): a quality by number, a level of visible loss, or a budget in
bytes. There are two families. A *codec with a quality* (`LossyCodec`: JPEG, WebP, AVIF) says where
a search for a level begins, settles for a picture what else it has to choose, and then makes quick
files while `search` looks around and the best one in the end. A codec without any (PNG, GIF) has
fewer colours to offer (`few_colors`). `choose.CODECS` lists them all; a new format is a class here
or in a module beside it, and a line there.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass
from typing import Protocol

from riffler.color import Bytes
from riffler.encode.choice import Choice
from riffler.encode.encoding import decoded
from riffler.encode.original import Original


class Codec(Protocol):
    """How files of one format are made. `straight` and originals hold what the format can."""

    @property
    def name(self) -> str:
        """The format's."""
        ...

    def encode(self, straight: Bytes, quality: int) -> bytes:
        """A file with all effort; `quality`, 1..100, is for codecs that have one."""
        ...

    def choose(
        self, original: Original, quality: int | str, budget: int | None = None
    ) -> Choice | None:
        """The smallest file for a quality or a level; or the best one within a budget in bytes.

        None for a level that no setting reaches.
        """
        ...

    def ladder(self, original: Original) -> Iterator[Rung]:
        """What settings from poor to good give, found out quickly."""
        ...


@dataclass(frozen=True)
class Try:
    """A file that was tried, and what is seen of its loss."""

    data: bytes
    loss: float


@dataclass(frozen=True)
class Rung:
    """What a setting gives: bytes and visible loss; no `data` where pieces have told both."""

    size: int
    loss: float
    data: bytes | None = None


def rungs(original: Original, tries: Callable[[Original, int], Try], count: int) -> Iterator[Rung]:
    """The files that `tries` makes of a picture at settings 0 to `count`, from poor to good.

    Of a large picture pieces are tried, and all of it at the last setting alone: by as much as that
    is larger than its pieces and loses more, the others are taken to be.
    """
    small = original.small
    if small is original:
        files = (tries(original, number) for number in range(count))
        yield from (Rung(len(file.data), file.loss, file.data) for file in files)
        return
    pieces = [tries(small, number) for number in range(count)]
    whole, last = tries(original, count - 1), pieces[-1]
    larger = len(whole.data) / len(last.data)
    worse = whole.loss / last.loss if whole.loss and last.loss else 1.0
    for piece in pieces:
        yield Rung(round(larger * len(piece.data)), worse * piece.loss)


@dataclass(frozen=True)
class Traits:
    """What a search counts on in a codec with a quality.

    Every search begins with the quality `begins`, between those that levels mostly end with; its
    loss usually goes with the power `falls` of how coarsely it quantises. Qualities less than a
    `step` apart give the same file. Another variant is taken when it is smaller by more than
    `lead`, as a logarithm. One that `is_local` codes blocks without their neighbours, so that
    pieces lose what the whole does; one that `has_quick` has files to look at that take less time
    than those to keep.
    """

    begins: int
    falls: float
    step: int = 1
    lead: float = 0.02
    is_local: bool = False
    has_quick: bool = False


class LossyCodec(Protocol):
    """A codec with a quality, 1..100. Two are equal when they make the same files."""

    @property
    def name(self) -> str:
        """The format's."""
        ...

    @property
    def traits(self) -> Traits:
        """What a search counts on."""
        ...

    @property
    def setting(self) -> Mapping[str, str]:
        """What was settled beside the quality, as the ledger says it."""
        ...

    def variants(self, original: Original) -> list[LossyCodec]:
        """The codec with all but the quality settled, in the ways that may serve a picture best.

        The first one is taken unless another is smaller by more than its lead.
        """
        ...

    def quick(self, straight: Bytes, quality: int) -> bytes:
        """A file to be looked at, with the pixels of the one to keep."""
        ...

    def best(self, straight: Bytes, quality: int) -> bytes:
        """A file to keep."""
        ...


def tried(original: Original, codec: LossyCodec, quality: int, *, is_quick: bool) -> Try:
    """A file held against the picture that it was made of; each is made and judged once."""
    is_other = is_quick and codec.traits.has_quick

    def find() -> Try:
        data = (codec.quick if is_other else codec.best)(original.filled, quality)
        known = original.known((codec, quality, not is_other)) if codec.traits.has_quick else None
        loss = known.loss if isinstance(known, Try) else original.reference.loss(decoded(data))
        return Try(data, loss)

    return original.once((codec, quality, is_other), find)


def files_of(original: Original, codec: LossyCodec) -> dict[int, Try]:
    """The files that a codec has made of a picture to keep, by quality."""
    kept_files = ((quality, original.known((codec, quality, False))) for quality in range(1, 101))
    return {quality: file for quality, file in kept_files if isinstance(file, Try)}
