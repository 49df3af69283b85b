"""A mockup and some layers -> one picture file, without a project and without a cutlist."""

from __future__ import annotations

from collections.abc import Sequence
from pathlib import Path

from riffler.cutlist.resolved import QUALITY
from riffler.cutlist.shown import switched
from riffler.encode.choice import LOSSLESS
from riffler.encode.choose import choose
from riffler.encode.encoding import holds, prepared
from riffler.errors import RifflerError, nearest
from riffler.files import as_typed, refuse_over, sha256, write_whole
from riffler.formats import FORMATS
from riffler.geometry import Box, union
from riffler.jobs.bench import fonts_of
from riffler.jobs.ledger import Asset
from riffler.mockup import address
from riffler.mockup.opening import open_mockup
from riffler.project.limits import DEFAULT_LIMITS
from riffler.project.project import Project
from riffler.render.renderer import Renderer, open_renderer

#: File endings that mean a format, its own and the other usual ones.
ENDINGS = {form.extension: form.name for form in FORMATS.values()} | {"jpeg": "jpeg"}


def cut_one(path: Path, only: Sequence[str], out: Path, *, project: Project | None) -> Asset:
    """Cut layers of a mockup, on transparency, or without `only` all of it as drawn, to `out`.

    The box is what the layers paint; the format comes from the ending of `out`. Raises
    RifflerError when a layer isn't there or paints nothing, or the ending is of no format.
    """
    form = FORMATS[_format_of(out)]
    limits = project.settings.limits if project else DEFAULT_LIMITS
    renderer = open_renderer(open_mockup(path, limits), fonts_of(project), limits)
    mockup = renderer.mockup
    refuse_over(out, path)
    shown = switched(mockup, mockup.drawn, only=only or None)
    box = _painted(renderer, only) if only else mockup.box
    pixels = renderer.render(box, 1.0, shown)
    if not holds(pixels, form.name):
        raise RifflerError(
            form.trouble,
            "Write to a .png instead.",
        )
    choice = choose(
        prepared(pixels, form.name), form.name, QUALITY if form.has_quality else LOSSLESS
    )
    data = choice.data
    write_whole(out, data)
    return Asset(
        file=as_typed(out),
        url="",
        role="picture",
        made_by="cut",
        bytes=len(data),
        sha256=sha256(data),
        format=form.name,
        pixels=box.size,
        setting=choice.setting,
        loss=choice.loss,
        place=box,
    )


def _format_of(out: Path) -> str:
    ending = out.suffix.lower().removeprefix(".")
    if ending not in ENDINGS:
        raise RifflerError(
            f'"{out.name}" does not end like a picture that can be written.',
            nearest(ending, ENDINGS, "Endings are"),
        )
    return ENDINGS[ending]


def _painted(renderer: Renderer, only: Sequence[str]) -> Box:
    found = (renderer.painted_box(layer) for layer in address.find_all(renderer.mockup, only))
    box = union(one for one in found if one) & renderer.mockup.box
    if not box:
        raise RifflerError("These layers paint nothing on the canvas.")
    return box
