"""A text with letters that are set otherwise -> its words with links and strong words in them."""

from __future__ import annotations

from collections.abc import Iterator

from riffler.markup.element import Element
from riffler.markup.setting import Setting
from riffler.mockup.model import TextRun

#: From this weight on above that of the text, words are strong.
STRONGER = 100

#: Text of this size and above, in CSS pixels, is no running text.
LARGE = 28


def with_runs(setting: Setting, between: str) -> Iterator[Element | str]:
    """The words of a text, its lines with something `between`, and what is in them.

    Letters that are underlined, or words that in running text have a colour of their own, are a
    link, which goes on in the next line; heavier ones are strong, slanted ones are stressed, and
    others are set otherwise.
    """
    last: Element | None = None
    plain = ""
    for number, line in enumerate(setting.lines):
        plain += between if number else ""
        done = 0
        for run in (run for run in setting.runs if run.line == number):
            plain += line.text[done : run.start]
            words, done = line.text[run.start : run.end], run.end
            element = _element(run, words, setting)
            if last is not None and not plain.strip() and _same(last, element):
                last.text, plain = last.text + plain + words, ""
                last.content = [last.text]
                continue
            if plain:
                yield plain
            last, plain = element, ""
            yield last
        plain += line.text[done:]
    if plain:
        yield plain


def _same(element: Element, other: Element) -> bool:
    return (element.tag, element.css) == (other.tag, other.css)


def _element(run: TextRun, words: str, setting: Setting) -> Element:
    type_ = setting.type
    css = {"color": run.color} if run.color != type_.color else {}
    if run.is_underlined:
        css["text-decoration"] = "underline"
    is_word = any(map(str.isalpha, words))  # a price in a colour leads nowhere
    if run.is_underlined or (css and type_.size < LARGE and is_word):
        attributes = {"href": "#", "data-unsaid": "link"}
        return Element("a", None, "link", attributes, [words], css, text=words)
    if run.weight >= type_.weight + STRONGER:
        css["font-weight"] = str(run.weight)
        return Element("strong", None, "strong", content=[words], css=css, text=words)
    if run.is_italic and not type_.is_italic:
        return Element("em", None, "em", content=[words], css=css, text=words)
    return Element("span", None, "mark", content=[words], css=css, text=words)
