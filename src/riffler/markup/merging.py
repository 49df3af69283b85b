"""Elements made alike -> one element, and in rows of data what is different in each."""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence
from typing import TypeAlias

from riffler.markup.area import Shape
from riffler.markup.element import Code, Element, Loop, is_running, printing
from riffler.markup.fields import identifier, variable
from riffler.markup.likeness import (
    aligned,
    all_looks,
    difference,
    have_enough,
    is_positioned,
    keep_lines,
    keep_width,
    look_name,
    painted_alike,
    usual_css,
)
from riffler.markup.row_fields import Row, RowFields

Look: TypeAlias = tuple[tuple[str, str | None], ...]

#: What a thing is painted with.
PAINTED = ("background", "color", "border", "box-shadow", "border-radius", "opacity", "font-weight")

#: What tells two looks of one thing apart; all else of a style is where it stands.
LOOKS = (*PAINTED, "margin-block-start")

#: Elements whose members are made alike.
LISTS = ("ul", "tbody")

#: What lays out a grid.
_TRACKS = ("display", "grid-template-columns", "gap", "column-gap", "flex-wrap")

#: What a link to the page that one is on is told by.
CURRENT = '[aria-current="page"]'


class Merging:
    """Members of one list made one; `each` is what a template calls the row of one."""

    def __init__(self, each: str, *, is_menu: bool = False) -> None:
        self._each, self._is_menu = each, is_menu
        self._fields = RowFields(each)
        self._around: list[tuple[Element, list[str]]] = []

    def all(self, members: Sequence[Element], rows: Sequence[Row]) -> Element | None:
        """One element for all; None where they have too little in common."""
        are_running = all(map(is_running, members)) and len({*map(_shape, members)}) == 1
        for member in members if not are_running else ():
            if is_running(member):  # the others have plain words
                member.content = [member.text]
        first = max(members, key=lambda element: sum(1 for _ in element.walk()))
        if len({element.tag for element in members}) > 1:
            return None
        made_element = Element(
            first.tag, first.area, first.name, text=first.text, made_of=list(members)
        )
        self._looks(made_element, members, rows)
        self._fields.attributes(made_element, members, rows)
        if are_running:
            return self._running(made_element, members, rows)
        if made_element.tag in LISTS and all(element.inner for element in members):
            return self._inner_loop(made_element, members, rows)
        if first.tag == "img":
            self._fields.picture(made_element, members, rows)
            return made_element
        if not first.inner:
            self._fields.words(made_element, members, rows)
            return made_element
        return self._children(made_element, first, members, rows)

    def _running(
        self, element: Element, members: Sequence[Element], rows: Sequence[Row]
    ) -> Element | None:
        """Texts with links and strong words in them, part by part."""
        content: list[Element | str] = []
        for parts in zip(*(member.content for member in members), strict=True):
            runs = [part for part in parts if isinstance(part, Element)]
            if runs:
                merged = self.all(runs, rows)
                if merged is None:
                    return None
                content.append(merged)
            else:
                content += self._fields.said(element, [str(part) for part in parts], rows)
        element.content = content
        return element

    def _children(
        self, element: Element, first: Element, members: Sequence[Element], rows: Sequence[Row]
    ) -> Element | None:
        """What is in members, part by part; some of them may lack one."""
        columns = [aligned(first.inner, element.inner) for element in members]
        if not have_enough(columns, members):
            return None
        content: list[Element | str] = []
        for number in range(len(first.inner)):
            have = [
                (part, row)
                for column, row in zip(columns, rows, strict=True)
                if (part := column[number]) is not None
            ]
            is_optional = len(have) < len(members)
            before = set(self._fields.names)
            inner = self.all([part for part, _ in have], [row for _, row in have])
            if inner is None:
                return None
            if is_optional:
                self._make_optional(inner, [row for _, row in have], rows, before)
            content.append(inner)
        element.content = content
        if element.css.get("display") == "grid" and any(
            one_element.condition for one_element in element.inner
        ):
            for number, one in enumerate(element.inner):
                one.css["grid-column"] = str(number + 1)
                one.narrow["grid-column"] = "auto"
        return element

    def _make_optional(
        self, element: Element, having: Sequence[Row], rows: Sequence[Row], before: set[str]
    ) -> None:
        """Show an element only in those rows that have it."""
        fields = sorted(self._fields.names - before)
        if not fields:
            fields = [self._fields.add(f"has_{element.name}", [True] * len(having), having)]
        for row in rows:
            for field in fields:
                row.setdefault(field, False if field.startswith("has_") else "")
        texts = [field for field in fields if any(row.get(field) for row in having)]
        element.condition = f"{self._each}.{(texts or fields)[0]}"

    def _looks(self, element: Element, members: Sequence[Element], rows: Sequence[Row]) -> None:
        """What members look like: most of them so, others by a class of their own."""
        element.css = usual_css([member.css for member in members])
        element.narrow = usual_css([member.narrow for member in members])
        if any(map(is_positioned, members)):
            element.css.setdefault("position", "relative")
        fullest = max(members, key=lambda element: len(element.inner))
        if "grid-template-columns" in fullest.css:  # it has a column for everything
            for key in _TRACKS:
                element.css[key] = fullest.css.get(key, "")
        element.looks = all_looks(members)
        seen = [tuple((key, element.css.get(key)) for key in LOOKS) for element in members]
        usual, _ = Counter(seen).most_common(1)[0]
        element.css |= {key: value or "" for key, value in usual}
        element.css = {key: value for key, value in element.css.items() if value}
        self._sizes(element, members, rows)
        keep_lines(element, members)
        keep_width(element, members)
        self._twin(element, members)
        self._odd_looks(element, rows, seen, usual)

    def _twin(self, element: Element, members: Sequence[Element]) -> None:
        """How they lie in the narrow mockup, and how all that look usual are painted there."""
        pairs = [(member, member.twin) for member in members if member.twin is not None]
        twins = [twin for _, twin in pairs]
        if not twins:
            return
        css = painted_alike(PAINTED, element, pairs)
        element.twin = Element(element.tag, twins[0].area, css=css)
        keep_lines(element.twin, twins)
        keep_width(element.twin, twins)

    def _odd_looks(
        self, element: Element, rows: Sequence[Row], seen: Sequence[Look], usual: Look
    ) -> None:
        """Members that look otherwise: the one that is current, or by a class."""
        odd = [look for look in dict.fromkeys(seen) if look != usual]
        if not odd or self._as_around(element, seen, usual):
            return
        is_one = len(odd) == 1 and seen.count(odd[0]) == 1
        is_link = element.tag == "a" and self._is_menu
        if is_one and is_link and CURRENT not in element.looks:
            element.looks[CURRENT] = difference(dict(odd[0]), dict(usual))
            return
        self._by_class(element, rows, seen, odd)

    def _by_class(
        self, element: Element, rows: Sequence[Row], seen: Sequence[Look], odd: Sequence[Look]
    ) -> None:
        """Members that look otherwise have a class for it, which their row says."""
        usual = next(look for look in seen if look not in odd)
        names: dict[Look, str] = {usual: ""}
        is_current = CURRENT in element.looks and len(odd) == 1 == seen.count(odd[0])
        for look in odd:
            names[look] = look_name(dict(look), dict(usual), set(names.values()))
            css = difference(dict(look), dict(usual))
            if is_current:  # it is drawn as the one that is shown
                names[look], css = "current", element.looks.pop(CURRENT) | css
            element.looks[f".{names[look]}"] = css
        field = f"{identifier(element.name)}_look"
        said = [names[look] for look in seen]
        element.attributes["look"] = self._fields.code(field, said, rows)
        self._around.append((element, said))

    def _as_around(self, element: Element, seen: Sequence[Look], usual: Look) -> bool:
        """Whether those that look otherwise are in members that do: then those say it."""
        for around, names in self._around:
            if len(names) != len(seen):
                continue
            by_name: dict[str, set[Look]] = {}
            for name, look in zip(names, seen, strict=True):
                by_name.setdefault(name, set()).add(look)
            if any(len(looks) > 1 for looks in by_name.values()) or by_name.get("") != {usual}:
                continue
            element.within = around
            for name, (look,) in by_name.items():
                if name:
                    element.looks[f"within:{name}"] = difference(dict(look), dict(usual))
            return True
        return False

    def _sizes(self, element: Element, members: Sequence[Element], rows: Sequence[Row]) -> None:
        """Boxes of several lengths say theirs in the page."""
        if (
            element.area is None
            or element.area.shape is not Shape.BOX
            or "--size" in str(element.css)
        ):
            return
        for key in ("width", "height"):
            values = [member.css.get(key, "") for member in members]
            if len(set(values)) > 1 and all(values):
                field = self._fields.code("size", values, rows)
                element.css[key] = "var(--size)"
                element.attributes["style"] = Code(f"--size: {printing(field)}")
                return

    def _inner_loop(
        self, element: Element, members: Sequence[Element], rows: Sequence[Row]
    ) -> Element | None:
        """Lists in members of a list: a loop over a field of each."""
        lists: list[list[Row]] = [[{} for _ in member.inner] for member in members]
        field = self._fields.code(element.name, lists, rows)
        inner_rows = [row for inner in lists for row in inner]
        each = variable(element.name)
        each = f"{each}_in" if each == self._each else each
        elements = [inner for member in members for inner in member.inner]
        merged = Merging(each).all(elements, inner_rows)
        if merged is None:
            return None
        element.content = [merged]
        element.loop = Loop(field, each, (), is_inner=True)
        return element


def _shape(element: Element) -> tuple[str, ...]:
    """What a running text is made of, in order: words, or elements in them by their tags."""
    return tuple(one.tag if isinstance(one, Element) else "" for one in element.content)
