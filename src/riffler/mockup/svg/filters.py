"""Filters -> the same in steps that the renderer draws rightly.

It encodes the colour of `feDropShadow` twice where a filter asks for sRGB; in linear light its 8
bits are too few for dark colours. Filter Effects 1, section 9.14, says what the step stands for;
of what is blurred only the alpha counts, so that no colour space matters.

Drop shadows are spelled out in the steps that they stand for: the renderer encodes their colour
twice.
"""

from __future__ import annotations

from lxml import etree

from riffler.mockup.xml import local_name

#: Parts of a step that say how large it is: such a step is left alone.
_REGION = ("x", "y", "width", "height")

#: What names of ours begin with.
_OURS = "riffler-shadow"


def spell_out_shadows(element: etree._Element) -> None:
    """Replace each drop shadow of a filter by the steps that it is made of."""
    before = "SourceGraphic"
    for number, step in enumerate(
        [one_element for one_element in element if isinstance(one_element.tag, str)]
    ):
        if not step.get("result"):
            step.set("result", f"{_OURS}-{number}")
        if local_name(step) == "feDropShadow" and not any(step.get(key) for key in _REGION):
            _spell_out(element, step, step.get("in", before), number)
        before = step.get("result", "")


def _spell_out(element: etree._Element, step: etree._Element, source: str, number: int) -> None:
    soft, ink = f"{_OURS}-soft-{number}", f"{_OURS}-ink-{number}"
    flood = {key: step.get(key, "") for key in ("flood-color", "flood-opacity", "style")}
    steps: list[tuple[str, dict[str, str]]] = [
        ("feGaussianBlur", {"in": source, "stdDeviation": step.get("stdDeviation", "2")}),
        ("feOffset", {"dx": step.get("dx", "2"), "dy": step.get("dy", "2"), "result": soft}),
        ("feFlood", {key: value for key, value in flood.items() if value}),
        ("feComposite", {"in2": soft, "operator": "in", "result": ink}),
        ("feMerge", {"result": step.get("result", "")}),
    ]
    space = str(step.tag).removesuffix("feDropShadow")
    place = element.index(step)
    element.remove(step)
    for offset, (name, values) in enumerate(steps):
        made_element = etree.Element(f"{space}{name}")
        for key, value in {**values, "color-interpolation-filters": "sRGB"}.items():
            made_element.set(key, value)
        element.insert(place + offset, made_element)
    for name in (ink, source):
        etree.SubElement(made_element, f"{space}feMergeNode", {"in": name})
