"""HTML as templates leave it -> HTML as a person would indent it, every word untouched."""

from __future__ import annotations

from dataclasses import dataclass, field
from html.parser import HTMLParser
from itertools import chain

from riffler.site.wrapping import wrapped

#: Spaces for each element that a line stands in.
INDENT = 2

#: Elements without an end tag. HTML, section 13.1.2.
VOID = frozenset("area base br col embed hr img input link meta source track wbr".split())

#: Elements whose white space is content, or whose text is of another language.
VERBATIM = frozenset({"pre", "textarea", "script", "style"})

_ENDS_PARAGRAPH = (
    "p div ul ol dl h1 h2 h3 h4 h5 h6 section article aside header footer nav main figure "
    "form table pre hr"
).split()

#: Start tags that end an open element of these names by themselves. HTML, section 13.1.2.4.
IMPLIED_ENDS = {
    "li": {"li"},
    "dt": {"dt", "dd"},
    "dd": {"dt", "dd"},
    "option": {"option"},
    "tr": {"tr", "td", "th"},
    "td": {"td", "th"},
    "th": {"td", "th"},
    **{name: {"p"} for name in _ENDS_PARAGRAPH},
}


@dataclass
class _Line:
    """What a line of the page means for indentation."""

    depth: int = 0
    follows: int | None = None  # the line it continues: a tag or comment over many lines
    is_verbatim: bool = False
    opens: bool = False
    closes: bool = False


@dataclass
class _Reader(HTMLParser):
    """Notes for every line how deep it stands."""

    text: str
    lines: list[_Line] = field(default_factory=list)
    stack: list[str] = field(default_factory=list)

    def __post_init__(self) -> None:
        super().__init__(convert_charrefs=False)
        self.raw = self.text.split("\n")
        self.lines = [_Line() for _ in self.raw]
        self.seen = 0
        self.feed(self.text)
        self.close()
        self._reach(len(self.raw))

    def handle_starttag(self, tag: str, attrs: object) -> None:  # noqa: ARG002
        line = self._line()
        while self.stack and self.stack[-1] in IMPLIED_ENDS.get(tag, ()):
            self.stack.pop()
        self._begin(line)
        self._continue(line, (self.get_starttag_text() or "").count("\n"))
        if tag not in VOID:
            self.stack.append(tag)
            self.lines[line].opens = True

    def handle_startendtag(self, tag: str, attrs: object) -> None:  # noqa: ARG002
        line = self._line()
        self._begin(line)
        self._continue(line, (self.get_starttag_text() or "").count("\n"))

    def handle_endtag(self, tag: str) -> None:
        line = self._line()
        self._reach(line)
        is_first = not self.raw[line][: self.getpos()[1]].strip()
        if not is_first or tag in VERBATIM:
            self._begin(line)
        if tag in self.stack:
            while self.stack.pop() != tag:
                pass
        if is_first:
            self.lines[line].closes = True
        self._begin(line)
        if not is_first and self.lines[line].depth >= len(self.stack):
            self.lines[line].opens = False

    def handle_comment(self, data: str) -> None:
        line = self._line()
        self._begin(line)
        self._continue(line, data.count("\n"))

    def _line(self) -> int:
        return self.getpos()[0] - 1

    def _reach(self, line: int) -> None:
        """Settle the depth of the lines of text before `line`."""
        is_verbatim = any(tag in VERBATIM for tag in self.stack)
        for index in range(self.seen, min(line, len(self.lines))):
            self.lines[index].depth = len(self.stack)
            self.lines[index].is_verbatim = is_verbatim
        self.seen = max(self.seen, line)

    def _begin(self, line: int) -> None:
        """Settle the depth of `line` itself, if this is the first thing on it."""
        if line >= self.seen:
            self._reach(line)
            self.lines[line].depth = len(self.stack)
            self.lines[line].is_verbatim = any(tag in VERBATIM for tag in self.stack)
            self.seen = line + 1

    def _continue(self, line: int, count: int) -> None:
        self._reach(line)
        for index in range(line + 1, min(line + 1 + count, len(self.lines))):
            self.lines[index].follows = line
            self.seen = max(self.seen, index + 1)


def tidy(page: str) -> str:
    """The page with each line indented by the elements it stands in, and no stray blank lines.

    Inside `pre`, `textarea`, `script` and `style` nothing is touched; comments move as a whole. A
    picture that is a long line by itself becomes several.
    """
    reader = _Reader(page.replace("\r\n", "\n"))
    shifts: list[int] = []
    result: list[tuple[str, _Line]] = []
    following = [*reader.lines[1:], _Line()]
    for raw, line, after in zip(reader.raw, reader.lines, following, strict=True):
        was = len(raw) - len(raw.lstrip())
        wanted = was + shifts[line.follows] if line.follows is not None else INDENT * line.depth
        shifts.append(wanted - was)
        if line.is_verbatim:
            result.append((raw, line))
        else:
            text = raw.lstrip() if after.is_verbatim else raw.strip()
            result.append((" " * max(0, wanted) + text if text else "", line))
    kept = _without_stray_blanks(result)
    lines = (wrapped(text) if _may_wrap(line) else (text,) for text, line in kept)
    return "\n".join(chain.from_iterable(lines)) + "\n"


def _may_wrap(line: _Line) -> bool:
    return not line.is_verbatim and line.follows is None


def _without_stray_blanks(lines: list[tuple[str, _Line]]) -> list[tuple[str, _Line]]:
    """Single blank lines where a person put them: not in pairs, not inside the ends of elements."""
    kept: list[tuple[str, _Line]] = []
    for text, line in lines:
        is_loose = line.follows is None and not line.is_verbatim
        if is_loose and line.closes:
            _drop_blanks(kept)
        after_opening = not kept or not kept[-1][0] or kept[-1][1].opens
        if text or not is_loose or not after_opening:
            kept.append((text, line))
    while kept and not kept[-1][0]:
        kept.pop()
    return kept


def _drop_blanks(lines: list[tuple[str, _Line]]) -> None:
    """Take blank lines off the end, but for those that are content."""
    while lines and not lines[-1][0] and not lines[-1][1].is_verbatim:
        lines.pop()
