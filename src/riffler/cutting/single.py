"""A mockup and some layers -> one picture file, without a project and without a cutlist."""

from __future__ import annotations

import builtins
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from pathlib import Path

from riffler.cutlist.resolved import QUALITY, Saving
from riffler.cutlist.roles import Picture
from riffler.cutlist.shown import painted_by, switched
from riffler.cutting.slices import CutPicture
from riffler.digests import sha256
from riffler.encode.choice import LOSSLESS
from riffler.errors import RifflerError, SettingError, nearest
from riffler.formats import FORMATS
from riffler.geometry import Box, Size
from riffler.jobs.task import Drawing
from riffler.project.target import Target
from riffler.workspace import Workspace

#: File endings that mean a format, its own and the other usual ones.
ENDINGS = {form.extension: form.name for form in FORMATS.values()} | {"jpeg": "jpeg"}


#: In the place of a file: what is made is for standard output.
NOWHERE = Path("-")


@dataclass(frozen=True)
class SingleCut:
    """One picture that was written: as an asset of the ledger, for who has no ledger."""

    file: Path
    format: str
    bytes: int
    sha256: str
    pixels: Size
    place: Box
    setting: Mapping[str, int | float | str]
    loss: float | None
    data: builtins.bytes = field(repr=False)


def cut_one(
    workspace: Workspace, path: Path, only: Sequence[str], out: Path, *, force: bool = False
) -> SingleCut:
    """Cut layers of a mockup, on transparency, or without `only` all of it as drawn, to `out`.

    The box is what the layers paint; the format comes from the ending of `out`. To `NOWHERE`
    nothing is written: the data of a PNG is in the result. Raises RifflerError when a layer isn't
    there or paints nothing, or the ending is of no format.
    """
    form, target = FORMATS[_format_of(out)], Target(out, force)
    opened = workspace.open(path)
    mockup = opened.mockup
    if out != NOWHERE:
        target.check(sources=(path,))
    shown = switched(mockup, mockup.drawn, only=only or None)
    box = painted_by(opened.renderer, only) if only else mockup.box
    saving = Saving((form.name,), QUALITY if form.has_quality else LOSSLESS)
    drawing = Drawing(opened.key, box, 1.0, shown)
    try:
        cut = CutPicture(drawing, box, box.size, Picture(), saving).run(workspace)
    except SettingError as error:
        raise RifflerError(error.message, "Write to a .png instead.") from error
    choice = cut.files[0]
    if out != NOWHERE:
        target.write(choice.data)
    return SingleCut(
        file=out,
        format=form.name,
        bytes=len(choice.data),
        sha256=sha256(choice.data),
        pixels=cut.size,
        place=cut.place,
        setting=choice.setting,
        loss=choice.loss,
        data=choice.data,
    )


def _format_of(out: Path) -> str:
    if out == NOWHERE:
        return "png"
    ending = out.suffix.lower().removeprefix(".")
    if ending not in ENDINGS:
        raise RifflerError(
            f'"{out.name}" does not end like a picture that can be written.',
            nearest(ending, ENDINGS, "Endings are"),
        )
    return ENDINGS[ending]
