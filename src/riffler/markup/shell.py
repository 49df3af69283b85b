"""Pages -> their templates: one shell for what they share, and what each has of its own."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from html import escape

from riffler.markup.element import Element, Loop
from riffler.markup.page import Page
from riffler.markup.template import lines

SHELL = "_shell.html"

_HEAD = """\
<!doctype html>
<html lang="{{ site.language }}">
  <head>
    <meta charset="utf-8">
    <title>{% block title %}{% endblock %}</title>
    <meta name="viewport" content="width=device-width, initial-scale=1">
    {{ head() }}
  </head>
"""


@dataclass(frozen=True)
class Templates:
    """Elements by page in the order in which styles are wanted, and what writes templates of them.

    `texts` are written when they are asked for, since classes are given first.
    """

    shared: tuple[Element, ...]
    pages: tuple[tuple[Page, tuple[Element, ...]], ...]

    @property
    def roots(self) -> Iterator[tuple[str, Element]]:
        """Every element that stands by itself, with the page that it is of."""
        for page, _ in self.pages:
            yield page.name, page.body

    @property
    def loops(self) -> Iterator[Loop]:
        """Every outer loop."""
        for page, _ in self.pages:
            for one in page.body.walk():
                if one.loop is not None and not one.loop.is_inner:
                    yield one.loop

    @property
    def texts(self) -> list[tuple[str, str]]:
        """The templates by name."""
        return [(SHELL, _shell_text(self)), *(
            (f"{page.name}.html", _page_text(page, own)) for page, own in self.pages
        )]  # fmt: skip


def templates(pages: Sequence[Page]) -> Templates:
    """The templates of pages."""
    return Templates((), tuple((page, tuple(page.body.inner)) for page in pages))


def _shell_text(made: Templates) -> str:
    return _HEAD + '  <body{% block body %}{% endblock %}>\n    {% block page %}{% endblock %}\n  </body>\n</html>\n'


def _page_text(page: Page, own: Sequence[Element]) -> str:
    body = page.body
    classes = " ".join([*(f"piece-{name}" for name in page.pieces), *body.classes])
    said = [f'{{% extends "{SHELL}" %}}', ""]
    said.append(f"{{% block title %}}{escape(page.title, quote=False)}{{% endblock %}}")
    if classes:
        said.append(f'{{% block body %}} class="{classes}"{{% endblock %}}')
    said += ["", "{% block page %}", *lines(own), "{% endblock %}"]
    return "\n".join(said) + "\n"
