"""A mockup -> what `look` shows of it, for people and for programs."""

from __future__ import annotations

from typing import Any

from riffler.files import as_typed
from riffler.geometry import Box
from riffler.mockup.model import Layer
from riffler.render.renderer import Renderer
from riffler.report import tree
from riffler.report.screen import Screen, pixels, plural

#: The version of the JSON shape.
VERSION = 1


def show_tree(screen: Screen, renderer: Renderer, *, every: bool) -> None:
    """The canvas in one line, then the tree."""
    mockup = renderer.mockup
    count = plural(len(mockup.by_address), "layer")
    size = pixels(mockup.size.width, mockup.size.height)
    screen.say(f"{as_typed(mockup.path)}: {size} px, {count}.")
    if mockup.canvases:
        names = ", ".join(f'"{canvas.name}"' for canvas in mockup.canvases)
        screen.say(f"Canvases: {names}.")
    screen.say("")
    for line in tree.lines(mockup, lambda layer: renderer.own_box(layer.address), every=every):
        screen.line(line)


def as_json(renderer: Renderer) -> dict[str, Any]:
    """The mockup as data: sizes in mockup pixels, layers from the top of the stack."""
    mockup = renderer.mockup
    return {
        "look": VERSION,
        "mockup": as_typed(mockup.path),
        "size": {"width": mockup.size.width, "height": mockup.size.height},
        "canvases": [
            {"name": canvas.name, "box": box_as_json(canvas.box)} for canvas in mockup.canvases
        ],
        "layers": [_layer(renderer, layer) for layer in mockup.layers],
    }


def box_as_json(box: Box | None) -> dict[str, int] | None:
    """A box as every report writes it."""
    if box is None:
        return None
    return {"x": box.x, "y": box.y, "width": box.width, "height": box.height}


def _layer(renderer: Renderer, layer: Layer) -> dict[str, Any]:
    data: dict[str, Any] = {
        "address": layer.address,
        "name": layer.name,
        "kind": str(layer.kind),
        "visible": layer.visible,
        "opacity": layer.opacity,
        "blend": layer.blend,
        "operator": layer.operator,
        "isolated": layer.isolated,
        "box": box_as_json(renderer.own_box(layer.address)),
    }
    if layer.words is not None:
        data["words"] = {
            "lines": list(layer.words.lines),
            "families": list(layer.words.families),
            "size": layer.words.size,
            "weight": layer.words.weight,
            "style": layer.words.style,
            "letter_spacing": layer.words.letter_spacing,
            "line_step": layer.words.line_step,
            "anchor": layer.words.anchor,
            "color": layer.words.color,
        }
    data["layers"] = [_layer(renderer, child) for child in layer.children]
    return data
