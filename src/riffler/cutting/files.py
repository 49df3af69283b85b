"""A picture and how it is saved -> its files."""

from __future__ import annotations

from collections.abc import Iterator

from riffler.color import Pixels, is_opaque
from riffler.cutlist.resolved import QUALITY, Saving
from riffler.digests import digest_of, sha256
from riffler.encode.choice import Choice
from riffler.encode.original import Original, shared
from riffler.errors import SettingError
from riffler.formats import AUTO
from riffler.workspace import Workspace

#: Pixels up to which equal pictures are looked for: it takes longer the more there are.
SHARED = 60_000


def shared_files(
    workspace: Workspace, saving: Saving, pixels: Pixels, joints: frozenset[str]
) -> tuple[Choice, ...]:
    """The files of a picture; small ones that are equal are encoded once a run.

    Raises SettingError for one that nothing brings into its budget.
    """

    def made() -> tuple[Choice, ...]:
        return tuple(_within_budget(saving, pixels, joints))

    if pixels.shape[0] * pixels.shape[1] > SHARED:
        return made()
    digest = digest_of(saving, sorted(joints), pixels.shape, sha256(pixels.tobytes()))
    return workspace.once(digest, made)


def files_of(
    saving: Saving,
    pixels: Pixels,
    joints: frozenset[str] = frozenset(),
    originals: list[Original] | None = None,
) -> Iterator[Choice]:
    """The files of a picture; `originals` are those that files were made of before.

    pixels: (H, W, 4) float32, premultiplied, 0..1.
    """
    from riffler.encode.auto import best
    from riffler.encode.choose import choose
    from riffler.encode.encoding import prepared

    known_originals = [] if originals is None else originals

    def original(format_name: str) -> Original:
        """What a format is made of, shared by those of the same pixels."""
        known_originals.append(
            shared(known_originals, prepared(pixels, format_name, saving.ground), joints)
        )
        return known_originals[-1]

    if AUTO in saving.save:
        can_be_flat = saving.ground is not None or is_opaque(pixels)
        flat = original("jpeg") if can_be_flat else None
        yield from best(original("png"), flat, saving.quality or QUALITY, saving.budget)
        return
    for name in saving.save:
        choice = choose(original(name), name, saving.quality_of(name), saving.budget)
        if choice is not None:
            yield choice


def _within_budget(saving: Saving, pixels: Pixels, joints: frozenset[str]) -> Iterator[Choice]:
    for choice in files_of(saving, pixels, joints):
        if saving.budget is not None and len(choice.data) > saving.budget:
            height, width = pixels.shape[:2]
            raise SettingError(
                "budget",
                f"The smallest {choice.format} of {width} x {height} px has "
                f"{len(choice.data)} bytes, more than the budget of {saving.budget}.",
                "Allow as much, save it in another format, or at a smaller size.",
            )
        yield choice
