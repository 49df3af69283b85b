"""What a codec is: a format as an object that knows how its files are made and chosen.

A *codec* has the name of its format, makes a file at a setting (`encode`), and finds the smallest
one that grants a wish (`choose`): a quality by number, a level of visible loss, or a budget in
bytes. There are two families. A *codec with a quality* (`LossyCodec`: JPEG, WebP, AVIF) says where
a search for a level begins, settles for a picture what else it has to choose, and then makes quick
files while `search` looks around and the best one in the end. A codec without any (PNG, GIF) has
fewer colours to offer (`few_colors`). `codecs.CODECS` lists them all; a new format is a class here
or in a module beside it, and a line there.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from enum import Enum
from typing import Protocol

from riffler.color import Bytes
from riffler.encode.choice import Choice
from riffler.encode.encoding import decoded
from riffler.encode.visible import Reference


class Codec(Protocol):
    """How files of one format are made. straight: (H, W, 4) uint8, what the format can hold."""

    @property
    def name(self) -> str:
        """The format's."""
        ...

    def encode(self, straight: Bytes, quality: int) -> bytes:
        """A file with all effort; `quality`, 1..100, is for codecs that have one."""
        ...

    def choose(self, straight: Bytes, quality: int | str, budget: int | None = None) -> Choice:
        """The smallest file for a quality or a level; or the best one within a budget in bytes."""
        ...

    def ladder(self, straight: Bytes) -> Iterator[bytes]:
        """Files at settings from poor to good, made quickly."""
        ...


@dataclass(frozen=True)
class Try:
    """A file that was tried, and what is seen of its loss, 0..1."""

    data: bytes
    loss: float


def tried(reference: Reference, data: bytes) -> Try:
    """A file held against the picture that it was made of."""
    return Try(data, reference.loss(decoded(data)))


class Effort(Enum):
    """What all effort does for a file that was made quickly."""

    NOTHING = "nothing"
    BYTES = "fewer bytes"
    """The same pixels."""
    PIXELS = "other pixels"


@dataclass(frozen=True)
class Settled:
    """A codec with all but the quality settled for a picture, the first try, and its cost."""

    codec: LossyCodec
    first: Try
    encodes: int


class LossyCodec(Protocol):
    """A codec with a quality, 1..100."""

    @property
    def name(self) -> str:
        """The format's."""
        ...

    @property
    def begins(self) -> Mapping[str, int]:
        """The quality at which a search for a level begins: about where it lies for photos."""
        ...

    @property
    def effort(self) -> Effort:
        """What the best file has over a quick one."""
        ...

    @property
    def setting(self) -> Mapping[str, str]:
        """What was settled beside the quality, as the ledger says it."""
        ...

    def settled(self, straight: Bytes, reference: Reference, quality: int) -> Settled:
        """The codec as it serves a picture best, tried at a quality."""
        ...

    def quick(self, straight: Bytes, quality: int) -> bytes:
        """A file to be looked at: about as many bytes, about the same pixels, in less time."""
        ...

    def best(self, straight: Bytes, quality: int) -> bytes:
        """A file to keep."""
        ...
