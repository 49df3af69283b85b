"""Lists of elements made alike -> one element in a loop, and the rows of data that fill it."""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Sequence
from typing import TypeAlias

from riffler.markup.area import Shape
from riffler.markup.element import Element, Loop
from riffler.markup.places import LEAST, hugs, widest
from riffler.tokens.palette import hue

Row: TypeAlias = dict[str, object]
Look: TypeAlias = tuple[tuple[str, str | None], ...]

#: Names that templates know for something else, and words of Python that Jinja takes for its own.
TAKEN = {
    "data", "page", "site", "link", "inlay", "head", "sprite", "symbol", "loader", "loop",
    "if", "for", "in", "is", "not", "and", "or", "set", "block", "else", "self", "namespace",
    "range", "dict", "lipsum", "cycler", "joiner",
}  # fmt: skip

#: Names that every row has a meaning for already.
METHODS = {"items", "keys", "values", "get", "pop", "copy", "update", "clear", "setdefault"}

#: What tells two looks of one thing apart; all else of a style is where it stands.
LOOKS = ("background", "color", "border", "box-shadow", "border-radius", "opacity", "font-weight")

#: The share of its parts that members of a list must have in common.
COMMON = 0.6

_LINK = re.compile(r'\{\{ link\("(.*)"\) \}\}')


class Loops:
    """Puts the lists of a page into loops. `names` are those of files of data that are taken."""

    def __init__(self, names: set[str]) -> None:
        self._names = names

    def put(self, element: Element) -> None:
        """Every list in an element, the outer ones first."""
        for child in element.inner:
            if child.tag == "ul" and self._loop(child):
                continue
            self.put(child)

    def _loop(self, element: Element) -> bool:
        rows: list[Row] = [{} for _ in element.inner]
        each = _variable(element.name)
        merged = _Merging(each).all(element.inner, rows)
        if merged is None:
            return False
        name = _free(re.sub(r"-list$", "", element.name), self._names)
        self._names.add(name)
        element.content = [merged]
        element.loop = Loop(name, each, tuple(rows))
        return True


class _Merging:
    """Members of one list made one; `each` is what a template calls the row of one."""

    def __init__(self, each: str) -> None:
        self._each = each
        self._fields: set[str] = set()
        self._around: list[tuple[Element, list[str]]] = []

    def all(self, members: Sequence[Element], rows: Sequence[Row]) -> Element | None:
        """One element for all; None where they have too little in common."""
        first = max(members, key=lambda one: sum(1 for _ in one.walk()))
        if len({one.tag for one in members}) > 1:
            return None
        made = Element(first.tag, first.area, first.name, text=first.text)
        self._looks(made, members, rows)
        self._attributes(made, members, rows)
        if made.tag == "ul" and all(one.inner for one in members):
            return self._inner_loop(made, members, rows)
        if first.tag == "img":
            self._picture(made, members, rows)
            return made
        if not first.inner:
            self._words(made, members, rows)
            return made
        return self._children(made, first, members, rows)

    def _children(
        self, made: Element, first: Element, members: Sequence[Element], rows: Sequence[Row]
    ) -> Element | None:
        """What is in members, part by part; some of them may lack one."""
        columns = [_aligned(first.inner, one.inner) for one in members]
        matched = sum(one is not None for column in columns for one in column)
        if any(len([one for one in column if one is not None]) < len(member.inner)
               for column, member in zip(columns, members, strict=True)):  # fmt: skip
            return None
        if matched < COMMON * len(first.inner) * len(members):
            return None
        content: list[Element | str] = []
        for number in range(len(first.inner)):
            have = [(one, row) for column, row in zip(columns, rows, strict=True)
                    if (one := column[number]) is not None]  # fmt: skip
            is_optional = len(have) < len(members)
            before = set(self._fields)
            inner = self.all([one for one, _ in have], [row for _, row in have])
            if inner is None:
                return None
            if is_optional:
                self._make_optional(inner, [row for _, row in have], rows, before)
            content.append(inner)
        made.content = content
        if made.css.get("display") == "grid" and any(one.condition for one in made.inner):
            for number, one in enumerate(made.inner):
                one.css["grid-column"] = str(number + 1)
                one.narrow["grid-column"] = "auto"
        return made

    def _make_optional(
        self, element: Element, having: Sequence[Row], rows: Sequence[Row], before: set[str]
    ) -> None:
        """Show an element only in those rows that have it."""
        fields = sorted(self._fields - before)
        if not fields:
            field = self._field(f"has_{element.name}")
            for row in having:
                row[field] = True
            fields = [field]
        for row in rows:
            for field in fields:
                row.setdefault(field, False if field.startswith("has_") else "")
        texts = [field for field in fields if any(row.get(field) for row in having)]
        element.condition = f"{self._each}.{(texts or fields)[0]}"

    def _words(self, made: Element, members: Sequence[Element], rows: Sequence[Row]) -> None:
        texts = ["".join(str(one) for one in member.content) for member in members]
        if len(set(texts)) == 1:
            made.content = list(members[0].content)
            return
        field = self._field("label" if made.tag in ("a", "button") else made.name)
        for row, text in zip(rows, texts, strict=True):
            row[field] = text.replace("<br>", "\n")
        made.content = [f"{{{{ {self._each}.{field} }}}}"]
        if any("<br>" in text for text in texts):
            made.css["white-space"] = "pre-line"

    def _picture(self, made: Element, members: Sequence[Element], rows: Sequence[Row]) -> None:
        pieces = [one.area.piece for one in members if one.area and one.area.piece]
        if len(pieces) < len(members) or len({piece.name for piece in pieces}) == 1:
            return
        field = self._field("picture")
        alts = [piece.alt for piece in pieces]
        for row, piece in zip(rows, pieces, strict=True):
            row[field] = piece.name
        made.attributes["of"] = f"{self._each}.{field}"
        if None not in alts and set(alts) != {""}:
            field = self._field("alt")
            for row, alt in zip(rows, alts, strict=True):
                row[field] = alt
            made.attributes["alt"] = f"{self._each}.{field}"
        elif None in alts:
            made.attributes["unsaid"] = "true"

    def _attributes(self, made: Element, members: Sequence[Element], rows: Sequence[Row]) -> None:
        self._pieces(made, members, rows)
        keys = dict.fromkeys(key for one in members for key in one.attributes)
        for key in keys:
            values = [one.attributes.get(key, "") for one in members]
            if key == "data-unsaid":
                if all(values):
                    made.attributes[key] = values[0] if len(set(values)) == 1 else "link"
                continue
            if len(set(values)) == 1:
                made.attributes[key] = values[0]
                continue
            self._attribute(made, key, values, rows)

    def _pieces(self, made: Element, members: Sequence[Element], rows: Sequence[Row]) -> None:
        """The slices that members show as grounds, where each has its own."""
        names = [one.area.piece.name for one in members
                 if one.tag != "img" and one.area and one.area.piece]  # fmt: skip
        if len(names) == len(members) and len(set(names)) > 1:
            field = self._field("piece")
            for row, name in zip(rows, names, strict=True):
                row[field] = name
            made.attributes["piece"] = f"{self._each}.{field}"

    def _attribute(
        self, made: Element, key: str, values: Sequence[str], rows: Sequence[Row]
    ) -> None:
        """An attribute that differs becomes a field."""
        field = self._field({"href": "link", "style": "size"}.get(key, key))
        for row, value in zip(rows, values, strict=True):
            found = _LINK.fullmatch(value)
            row[field] = found[1] if found else value.removeprefix("--size: ")
        said = f"{self._each}.{field}"
        match key:
            case "href":
                made.attributes[key] = f"{{{{ link({said}) }}}}"
                if "#" in values:
                    made.attributes["data-unsaid"] = f"{{{{ {said} == '#' }}}}"
            case "style":
                made.attributes[key] = f"--size: {{{{ {said} }}}}"
            case _:
                made.attributes[key] = f"{{{{ {said} }}}}"

    def _looks(self, made: Element, members: Sequence[Element], rows: Sequence[Row]) -> None:
        """What members look like: most of them so, others by a class of their own."""
        for one in ("css", "narrow"):
            keys = dict.fromkeys(key for member in members for key in getattr(member, one))
            for key in keys:
                values = Counter(getattr(member, one).get(key) for member in members)
                value, _ = max(values.items(), key=lambda pair: pair[1])
                if key == "grid-template-columns":  # the fullest has a column for everything
                    value = max(members, key=lambda one: len(one.inner)).css.get(key)
                if value is not None:
                    getattr(made, one)[key] = value
        made.looks = max(members, key=lambda member: len(member.looks)).looks.copy()
        seen = [tuple((key, one.css.get(key)) for key in LOOKS) for one in members]
        usual, _ = Counter(seen).most_common(1)[0]
        made.css = {key: value for key, value in made.css.items() if key not in LOOKS}
        made.css |= {key: value for key, value in usual if value is not None}
        self._sizes(made, members, rows)
        _keep_lines(made, members)
        _keep_width(made, members)
        odd = [look for look in dict.fromkeys(seen) if look != usual]
        if not odd:
            return
        if made.tag == "a" and len(odd) == 1 and seen.count(odd[0]) == 1 and (
            '[aria-current="page"]' not in made.looks and made.name in ("tab", "button", "link")
        ):  # fmt: skip
            made.looks['[aria-current="page"]'] = _difference(dict(odd[0]), dict(usual))
            return
        if self._as_around(made, seen, usual):
            return
        field = self._field(f"{_identifier(made.name)}_look")
        names: dict[Look, str] = {usual: ""}
        for look in odd:
            names[look] = _look_name(dict(look), dict(usual), set(names.values()))
            made.looks[f".{names[look]}"] = _difference(dict(look), dict(usual))
        for row, look in zip(rows, seen, strict=True):
            row[field] = names[look]
        made.attributes["look"] = f"{self._each}.{field}"
        self._around.append((made, [names[look] for look in seen]))

    def _as_around(self, made: Element, seen: Sequence[Look], usual: Look) -> bool:
        """Whether those that look otherwise are in members that do: then those say it."""
        for around, names in self._around:
            if len(names) != len(seen):
                continue
            by_name: dict[str, set[Look]] = {}
            for name, look in zip(names, seen, strict=True):
                by_name.setdefault(name, set()).add(look)
            if any(len(looks) > 1 for looks in by_name.values()) or by_name.get("") != {usual}:
                continue
            made.within = around
            for name, (look,) in by_name.items():
                if name:
                    made.looks[f"within:{name}"] = _difference(dict(look), dict(usual))
            return True
        return False

    def _sizes(self, made: Element, members: Sequence[Element], rows: Sequence[Row]) -> None:
        """Boxes of several lengths say theirs in the page."""
        if made.area is None or made.area.shape is not Shape.BOX or "--size" in str(made.css):
            return
        for key in ("width", "height"):
            values = [member.css.get(key, "") for member in members]
            if len(set(values)) > 1 and all(values):
                field = self._field("size")
                for row, value in zip(rows, values, strict=True):
                    row[field] = value
                made.css[key] = "var(--size)"
                made.attributes["style"] = f"--size: {{{{ {self._each}.{field} }}}}"
                return

    def _inner_loop(
        self, made: Element, members: Sequence[Element], rows: Sequence[Row]
    ) -> Element | None:
        """Lists in members of a list: a loop over a field of each."""
        field = self._field(re.sub(r"-list$", "", made.name) + "s")
        inner_rows: list[Row] = []
        for member, row in zip(members, rows, strict=True):
            own: list[Row] = [{} for _ in member.inner]
            row[field] = own
            inner_rows.extend(own)
        each = _variable(made.name)
        each = f"{each}_in" if each == self._each else each
        every = [inner for member in members for inner in member.inner]
        merged = _Merging(each).all(every, inner_rows)
        if merged is None:
            return None
        made.content = [merged]
        made.loop = Loop(f"{self._each}.{field}", each, (), is_inner=True)
        return made

    def _field(self, name: str) -> str:
        field = _free(_identifier(name), self._fields, "_")
        self._fields.add(field)
        return field


def _keep_lines(made: Element, members: Sequence[Element]) -> None:
    """The most that a text may take so that none of several begins new lines elsewhere."""
    settings = [one.area.setting for one in members if one.area and one.area.setting]
    if len(settings) < len(members) or all(len(one.lines) < 2 for one in settings):
        return
    needed = max(one.width for one in settings)
    too_wide = min(one.next_words for one in settings)
    has_width = any("max-width" in one.css for one in members)
    made.css.pop("max-width", None)
    if needed + LEAST < too_wide:
        if has_width:
            made.css["max-width"] = f"{widest(needed, too_wide):g}px"
        return
    for one, setting in zip(members, settings, strict=True):
        one.content = ["<br>".join(line.text for line in setting.lines)]


def _keep_width(made: Element, members: Sequence[Element]) -> None:
    """Labels of several lengths in boxes of one width: the width is meant."""
    areas = [one.area for one in members]
    if not all(area is not None and hugs(area) for area in areas) or "width" not in made.css:
        return
    widths = [area.box.width for area in areas if area]
    texts = [setting.width for area in areas if area for setting in area.words()]
    if max(widths) - min(widths) <= 1 and texts and max(texts) - min(texts) > 2:
        made.css |= {"width": f"{round(widths[0])}px", "text-align": "center"}
        made.css.pop("padding-inline", None)


def _aligned(wanted: Sequence[Element], given: Sequence[Element]) -> list[Element | None]:
    """For each wanted element the one that is given in its place, in order, or None."""
    found: list[Element | None] = []
    rest = list(given)
    spare = len(wanted) - len(given)
    for one in wanted:
        if rest and (_alike(one, rest[0]) and (spare <= 0 or _is_same(one, rest[0]))):
            found.append(rest.pop(0))
        elif spare > 0:
            found.append(None)
            spare -= 1
        else:
            found.append(rest.pop(0) if rest else None)
    return found


def _alike(one: Element, other: Element) -> bool:
    return one.tag == other.tag


def _is_same(one: Element, other: Element) -> bool:
    """Whether two are the same part of members, by what they are called and how they are set."""
    if one.tag != other.tag or one.name != other.name:
        return False
    a, b = one.area, other.area
    if a is None or b is None:
        return True
    if a.setting is not None and b.setting is not None:
        return (a.setting.type.size, a.setting.type.weight) == (
            b.setting.type.size, b.setting.type.weight
        )  # fmt: skip
    return (a.shape, a.ground is None, len(a.parts)) == (b.shape, b.ground is None, len(b.parts))


def _difference(look: dict[str, str | None], usual: dict[str, str | None]) -> dict[str, str]:
    """The declarations that make a usual look another."""
    initial = {"background": "none", "box-shadow": "none", "border": "0", "border-radius": "0"}
    return {
        key: value or initial.get(key, "inherit")
        for key, value in look.items() if value != usual.get(key)
    }  # fmt: skip


def _look_name(look: dict[str, str | None], usual: dict[str, str | None], taken: set[str]) -> str:
    """What a look is called: by the colour that makes it another."""
    for key in ("background", "color", "border"):
        value = look.get(key)
        color = re.search(r"#[0-9a-f]{6}", value or "")
        if value != usual.get(key) and color:
            return _free(hue(color[0]), taken)
    return _free("other", taken)


def _singular(name: str) -> str:
    name = re.sub(r"-list$", "", name)
    return {"menu": "tab", "links": "entry"}.get(name, name)


def _identifier(name: str) -> str:
    plain = re.sub(r"\W+", "_", name).strip("_") or "one"
    return f"{plain}_one" if plain in METHODS else plain


def _variable(name: str) -> str:
    """The name of what a loop goes through."""
    plain = _identifier(_singular(name))
    return f"{plain}_one" if plain in TAKEN else plain


def _free(name: str, taken: set[str], sign: str = "-") -> str:
    """A name that is not taken: itself, or with a number behind it."""
    if name not in taken:
        return name
    number = next(n for n in range(2, len(taken) + 3) if f"{name}{sign}{n}" not in taken)
    return f"{name}{sign}{number}"
