"""Pictures of a vector mockup -> how they are saved: shapes as vectors, photographs finely."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any, cast

from riffler.errors import RifflerError
from riffler.geometry import Box
from riffler.mockup.model import Layer
from riffler.mockup.svg.document import SvgDocument
from riffler.mockup.svg.hull import own_matrix
from riffler.mockup.svg.images import density_of
from riffler.mockup.xml import local_name
from riffler.plan.draft.state import Drafting
from riffler.reading.judgement import Becomes
from riffler.reading.reading import Reading
from riffler.vector.taken import taken

#: Larger drawings, in bytes, are lighter as pixels.
HEAVY = 60_000

#: Pixels of a picture for one of the page from which it is fine enough for twice as many.
FINE = 1.5


def saved(draft: Drafting, layers: Sequence[Layer], box: Box) -> dict[str, Any]:
    """The key that says that a vector file holds them, being shapes alone and not too many.

    Nothing where formats are chosen by what is seen.
    """
    reading = draft.reading
    if not reading.mockup.is_vector:
        return {}
    shown = frozenset().union(*(reading.mockup.alone(layer.address) for layer in layers))
    try:
        size = len(taken(reading.renderer, shown, box, reading.density))
    except RifflerError:
        return {}
    return {"save": ["svg"]} if size <= HEAVY else {}


def is_fine(reading: Reading) -> bool:
    """Whether most pictures in a drawing have pixels enough for screens of two for one."""
    mockup = reading.mockup
    if not mockup.is_vector:
        return False
    layers = [
        layer for layer in reading.drawings() if reading.judgement(layer).becomes is Becomes.PICTURE
    ]
    document = cast("SvgDocument", mockup.source)
    elements = (document.elements.get(layer.source) for layer in layers)
    images = [
        inner
        for element in elements
        if element is not None
        for inner in element.iter()
        if isinstance(inner.tag, str) and local_name(inner) == "image"
    ]
    fine = []
    for image in images:
        matrix = own_matrix(document, image)
        fine.append(1.0 if matrix is None else density_of(image) / (abs(matrix[0]) or 1.0))
    return 2 * sum(density >= FINE for density in fine) > len(fine)
