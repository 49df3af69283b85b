"""SVG bytes -> the tree that passes work on, with nothing in it that runs or fetches."""

from __future__ import annotations

import re
from collections.abc import Iterator
from dataclasses import dataclass, field

import tinycss2
from lxml import etree

from riffler.errors import MockupError, enumerated
from riffler.mockup.svg import references, style
from riffler.mockup.svg.allowed import only_allowed, set_text
from riffler.mockup.svg.document import NAMESPACE, refuse_depth, settle_no_namespace
from riffler.mockup.svg.names import ANIMATIONS
from riffler.mockup.xml import local_name, parse
from riffler.project.limits import Limits
from riffler.tidy.properties import INHERITED, PAINTED, PRESENTATION, RESOURCES

#: Rules of a style sheet that depend on a window, a pointer or time: they can't be settled.
_LIVELY = re.compile(r"@(?:media|keyframes|-\w+-keyframes|supports|container|font-face)|:[a-z-]+")


#: Attributes that name elements in words: for who hears them, and by when these begin or end.
NAMING = frozenset({"aria-labelledby", "aria-describedby", "begin", "end"})

#: An element whose event a time goes by. SMIL 3.0, "event-value".
_OF_OTHERS = re.compile(r"([^\s;.]+)\.[a-z]")


@dataclass
class Drawing:
    """A tree under work. `digits` are those of coordinates in user units of the root.

    `has_sheet` tells that a style sheet stays in it, whose rules may want any name or attribute.
    `keeps_names` holds ids, classes and data that nothing in the file uses: the page may. `kept` is
    an attribute of data that stays. `folds` allows to take transforms into coordinates.
    """

    root: etree._Element
    digits: int = 3
    has_sheet: bool = False
    keeps_names: bool = False
    kept: str | None = None
    folds: bool = True
    removed: tuple[str, ...] = ()
    _wanted: dict[str, list[etree._Element]] | None = field(default=None, repr=False)

    def elements(self) -> Iterator[etree._Element]:
        """Every element, in the order of the file."""
        return (element for element in self.root.iter() if isinstance(element.tag, str))

    def references(self) -> dict[str, list[etree._Element]]:
        """For every id that is referred to, the elements that do."""
        elements: dict[str, list[etree._Element]] = {}
        for element in self.elements():
            for name in references.targets(element):
                elements.setdefault(name, []).append(element)
            for key in NAMING.intersection(element.keys()):
                value = str(element.get(key))
                is_time = key in ("begin", "end")
                names = _OF_OTHERS.findall(value) if is_time else value.split()
                for name in names:
                    elements.setdefault(name, []).append(element)
        return elements

    def used(self) -> set[str]:
        """Every id that something in the drawing refers to, or that pages do."""
        return {*self.references(), *self.for_pages()}

    def for_pages(self) -> set[str]:
        """The ids that pages refer to: all of a drawing that paints nothing by itself."""
        if any(map(_paints, self.root)):
            return set()
        return {name for element in self.elements() if (name := element.get("id"))}

    def reused(self) -> set[etree._Element]:
        """Elements that are drawn again elsewhere, where other things may be inherited."""
        known_elements = references.by_id(self.root)
        elements = set[etree._Element]()
        for name, users in self.references().items():
            if name in known_elements and any(
                local_name(user) in ("use", "mpath", "textPath", "feImage") for user in users
            ):
                elements.update(known_elements[name].iter())
        return elements

    def moving(self) -> set[etree._Element]:
        """Elements that are animated, or hold something that is."""
        known_elements = references.by_id(self.root)
        elements = set[etree._Element]()
        for element in self.elements():
            if local_name(element) not in ANIMATIONS:
                continue
            target = known_elements.get(references.href(element)[1:], element.getparent())
            while target is not None:
                elements.add(target)
                target = target.getparent()
        return elements


def _paints(element: etree._Element) -> bool:
    """Whether there is a shape in it that is drawn where it stands."""
    name = local_name(element)
    is_still = name in RESOURCES or element.get("display") == "none"
    return not is_still and (name in PAINTED or any(map(_paints, element)))


def read(data: bytes, what: str, limits: Limits) -> Drawing:
    """The drawing, its style sheets settled. Raises MockupError as `sound` does."""
    root, removed = sound(data, what, limits)
    drawing = Drawing(root, removed=removed)
    _settle_sheets(drawing, what)
    return drawing


def sound(
    data: bytes, what: str, limits: Limits, *, refuses: bool = False
) -> tuple[etree._Element, tuple[str, ...]]:
    """The tree without what runs or leads outside, and what that was.

    `refuses` raises MockupError for a drawing that has any; so does every file that is no sound SVG
    or is beyond the limits.
    """
    root = parse(data, what)
    if local_name(root) != "svg":
        raise MockupError(f"{what} is XML, but no SVG.")
    refuse_depth(root, limits.depth, what)
    settle_no_namespace(root)
    removed = tuple(only_allowed(root))
    if removed and refuses:
        raise MockupError(
            f"{what} has {enumerated(removed)}.", "Without --strict that is taken out."
        )
    references.refuse_explosion(root, limits.elements, what)
    return root, removed


def _settle_sheets(drawing: Drawing, what: str) -> None:
    """Turn style sheets into styles of elements, unless they say what only a browser can settle."""
    sheets = [e for e in drawing.elements() if local_name(e) == "style"]
    text = "".join("".join(str(part) for part in sheet.itertext()) for sheet in sheets)
    bare = re.sub(r"/\*.*?\*/|\{[^{}]*\}", " ", text, flags=re.DOTALL)
    if not _LIVELY.search(bare):
        style.settle(drawing.root, what)
        return
    drawing.has_sheet = True
    for sheet in sheets:
        set_text(sheet, _compact("".join(str(part) for part in sheet.itertext())))


def _compact(text: str) -> str:
    """A style sheet without comments and idle white space."""
    rules = tinycss2.parse_stylesheet(text, skip_comments=True, skip_whitespace=True)
    calm = re.sub(r"\s+", " ", tinycss2.serialize(rules))
    calm = re.sub(r"/\*.*?\*/", "", calm)
    return re.sub(r"\s*([{};,])\s*", r"\1", calm).replace(";}", "}").strip()


def svg(name: str) -> str:
    """The tag of an SVG element."""
    return f"{{{NAMESPACE}}}{name}"


def computed(element: etree._Element, name: str) -> str | None:
    """What a property is for an element, by attributes: its own, an inherited, the initial one."""
    this_element: etree._Element | None = element
    while this_element is not None:
        value = this_element.get(name)
        if value is not None and value != "inherit":
            return value
        if name not in INHERITED and value is None:
            break
        this_element = this_element.getparent()
    return PRESENTATION.get(name)


def says(element: etree._Element, *keys: str) -> bool:
    """Whether the element itself has one of these attributes."""
    return any(element.get(key) is not None for key in keys)


def is_in(element: etree._Element, *names: str) -> bool:
    """Whether the element lies in one of these."""
    return any(local_name(around) in names for around in element.iterancestors())


def is_marked(shape: etree._Element) -> bool:
    """Whether marks are drawn at its points."""
    return any(computed(shape, f"marker-{end}") != "none" for end in ("start", "mid", "end"))
