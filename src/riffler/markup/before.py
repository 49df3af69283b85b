"""A project as it is -> what of it decides how pages are roughed out into it."""

from __future__ import annotations

import re
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field

import tinycss2

from riffler.markup.brevity import Css
from riffler.markup.element import Element, Lengths, snapped
from riffler.markup.headings import BodyType
from riffler.markup.shell import SHELL
from riffler.output.asset import StyleAsset
from riffler.output.ledger import Ledger
from riffler.project.project import Project
from riffler.project.starting import is_as_started

#: A class in a selector.
_CLASS = re.compile(r"\.(-?[a-zA-Z_][\w-]*)(?=[^{}]*\{)")

#: What a shell has at the top of a page or at its end, with its class if it has one.
_LANDMARK = re.compile(r'<(header|footer)(?:\s+class="([\w-]+)[^"]*")?')

#: What takes a header out of the flow. CSS Positioned Layout 3, section 2.
OUT_OF_FLOW = ("absolute", "fixed")


@dataclass(frozen=True)
class Landmark:
    """The header or the footer of a shell: what selects it, and what rules for it alone say.

    `narrow` is what holds in some windows.
    """

    selector: str
    css: Css
    narrow: Css

    def on(self, own: Element, lengths: Lengths) -> tuple[Css, Css]:
        """How a header stands on a page with one of its `own`, in wide windows and in narrow ones.

        Empty where it stands there as in the shell.
        """
        is_upon = self.css.get("position") in OUT_OF_FLOW
        if own.space.is_upon == is_upon:
            return {}, {}
        if own.space.is_upon:
            css = {key: own.css[key] for key in ("position", "inset", "z-index")}
            return css, {"position": "static"}
        css = {"position": "static", "min-height": lengths.say(snapped(own.space.box.bottom))}
        if "background" in self.narrow:
            css["background"] = self.narrow["background"]
        return css, {}

    def keep_below(self, above: Element, own: Element) -> None:
        """Keep a footer as far below what stands above it as one of a page's `own` is.

        What is above says it where that is more: their margins are one. CSS 2.2, section 8.3.1.
        """
        top = own.css.get("margin-top", "0")
        if _number(top) > _number(self._above):
            above.css["margin-bottom"] = top

    @property
    def _above(self) -> str:
        """How far a footer is below what stands above it."""
        sides = (self.css.get(key, "").split() for key in ("margin-top", "margin-block", "margin"))
        return next((side[0] for side in sides if side), "0")


@dataclass(frozen=True)
class Before:
    """What of a project was there before pages were roughed out, as far as that decides them.

    The text of the shell, None without one; the names of pages and of data; whether the first page
    and web fonts are there; the classes that style sheets have rules for; the `landmarks` of the
    shell by tag. Of pages that this was done with before, `set_like` is how most letters were set.
    """

    shell: str | None
    pages: frozenset[str]
    data: frozenset[str]
    has_index: bool
    has_web_fonts: bool
    classes: frozenset[str] = frozenset()
    landmarks: dict[str, Landmark] = field(default_factory=dict)
    set_like: dict[str, BodyType] = field(default_factory=dict)


def as_it_is(project: Project) -> Before:
    """What is there now. What `riffler start` put there, untouched, is not."""
    folder = project.settings.folders.pages
    index = f"{folder}/index.html"
    shell, sheets = _written_shell(project), list(_sheets(project))
    return Before(
        shell,
        frozenset(project.pages()),
        frozenset(
            path.stem
            for path in project.sources("data")
            if path.suffix == ".toml" and path.parent == project.folder("data")
        ),
        (project.root / index).exists() and not is_as_started(project.root, index),
        _has_web_fonts(project),
        frozenset(name for sheet in sheets for name in _CLASS.findall(sheet)),
        dict(_landmarks(shell, sheets)),
    )


def _written_shell(project: Project) -> str | None:
    """The text of a shell that a person wrote, or that was roughed out before."""
    folder = project.settings.folders.pages
    path = project.folder("pages") / SHELL
    if not path.is_file() or is_as_started(project.root, f"{folder}/{SHELL}"):
        return None
    return path.read_text(encoding="utf-8")


def _sheets(project: Project) -> Iterator[str]:
    """The texts of the project's own style sheets."""
    for path in project.sources("styles"):
        if path.suffix == ".css" and not is_as_started(project.root, project.relative(path)):
            yield path.read_text(encoding="utf-8", errors="replace")


def _has_web_fonts(project: Project) -> bool:
    ledger = Ledger.read(project.out)
    return any(
        isinstance(asset, StyleAsset) and asset.made_by == "fonts" for asset in ledger.assets
    )


def _landmarks(shell: str | None, sheets: Sequence[str]) -> Iterator[tuple[str, Landmark]]:
    """The header and the footer of a shell, each by its tag."""
    rules = list(_rules(sheets)) if shell else []
    for tag, name in _LANDMARK.findall(shell or ""):
        selector = f".{name}" if name else tag
        css: Css = {}
        narrow: Css = {}
        for selectors, said, is_narrow in rules:
            if selector in selectors:
                (narrow if is_narrow else css).update(said)
        yield tag, Landmark(selector, css, narrow)


def _rules(sheets: Sequence[str]) -> Iterator[tuple[list[str], Css, bool]]:
    """Rules with their selectors and declarations, and whether they hold in some windows."""
    for sheet in sheets:
        for rule in tinycss2.parse_stylesheet(sheet, skip_comments=True, skip_whitespace=True):
            if rule.type == "qualified-rule":
                yield _selectors(rule.prelude), _declared(rule.content), False
            elif rule.type == "at-rule" and rule.lower_at_keyword == "media" and rule.content:
                for inner in tinycss2.parse_rule_list(rule.content, True, True):
                    if inner.type == "qualified-rule":
                        yield _selectors(inner.prelude), _declared(inner.content), True


def _selectors(prelude: Sequence[object]) -> list[str]:
    return [name.strip() for name in tinycss2.serialize(prelude).split(",")]


def _declared(content: Sequence[object]) -> Css:
    nodes = tinycss2.parse_blocks_contents(content, skip_comments=True, skip_whitespace=True)
    return {
        node.lower_name: tinycss2.serialize(node.value).strip()
        for node in nodes
        if node.type == "declaration"
    }


def _number(length: str) -> float:
    """A length without its unit; 0 for what is none."""
    number = re.match(r"-?[\d.]+", length)
    return float(number[0]) if number else 0.0
