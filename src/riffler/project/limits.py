"""What a mockup may ask for before it is refused; every limit can be raised in riffler.toml."""

from __future__ import annotations

from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field, PositiveFloat, PositiveInt

from riffler.project.written import kebab


class Limits(BaseModel):
    """Bounds that honest mockups stay well within and hostile files do not."""

    model_config = ConfigDict(extra="forbid", frozen=True, alias_generator=kebab, defer_build=True)

    #: Canvas or layer, width times height. A 1920 x 20000 page is 38 million; 8-bit RGBA of
    #: 200 million is 800 MB, as much as a working machine should be asked for at once.
    pixels: PositiveInt = 200_000_000

    #: Pixels of one picture that is made. Of each, 16 bytes are in memory, some of them twice.
    picture: PositiveInt = 50_000_000

    #: Layers and groups in one mockup. The busiest real pages have some hundreds.
    layers: PositiveInt = 5_000

    #: Drawings that a draft looks at one by one, each for two to five milliseconds.
    drawings: PositiveInt = 1_500

    #: Groups within groups. Drawing programs stop being usable long before this; beyond 200 the
    #: walk through the tree would exceed Python's own limit.
    depth: Annotated[int, Field(gt=0, le=200)] = 64

    #: Bytes of one packed file once unpacked; a 200-layer page has layers of up to 50 MB.
    unpacked: PositiveInt = 400_000_000

    #: Elements of a vector mockup after every `use` is followed; 100 000 draw in a few seconds.
    elements: PositiveInt = 100_000

    #: Seconds of processor time for one layer or piece of a vector mockup; most take tenths, a
    #: dozen soft shadows at three times their size take two.
    seconds: PositiveFloat = 3.5


DEFAULT_LIMITS = Limits()
