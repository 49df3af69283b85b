"""One template -> one page: what templates can call, and where their mistakes are."""

from __future__ import annotations

import posixpath
import re
import traceback
from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from pathlib import Path

import jinja2
from markupsafe import Markup, escape

from riffler.errors import Place, WrittenError, nearest
from riffler.files import files_below, is_inside
from riffler.output.asset import IconAsset, Region
from riffler.project.places import PAGE_STYLES
from riffler.project.project import Project
from riffler.site import heading, images, marks, pieces, stylesheet
from riffler.site.bounds import Environment, TooMuchError, bounded
from riffler.site.links import Links
from riffler.site.marks import Shared
from riffler.site.pieces import Piece
from riffler.site.tidy import tidy


@dataclass(frozen=True)
class Site:
    """All that pages are made of, read once: templates, pieces, styles, settings."""

    project: Project
    pieces: Mapping[str, Piece]
    written: tuple[str, ...]
    regions: tuple[Region, ...]
    styles: tuple[str, ...]
    icons: tuple[IconAsset, ...]
    own_styles: Mapping[str, str] = field(default_factory=dict)
    made_styles: tuple[str, ...] = ()
    shared: tuple[Shared, ...] = ()
    data: Mapping[str, object] = field(default_factory=dict)

    @property
    def pages(self) -> tuple[str, ...]:
        """The names of all pages: their paths below `pages` without the ending."""
        return self.project.pages()

    def links(self, page: str) -> Links:
        """How a file of the output names the others."""
        return Links(page, self.project.settings.url_prefix, self.pages)


#: What a mistake in a template raises.
_MISTAKES = (
    jinja2.TemplateError,
    TypeError,
    ValueError,
    ArithmeticError,
    LookupError,
    AttributeError,
    RuntimeError,
)


class _Templates(jinja2.FileSystemLoader):
    """Templates in a folder of a project, and nowhere else by way of a link."""

    def __init__(self, project: Project) -> None:
        super().__init__(project.folder("pages"))
        self._root = project.root

    def get_source(
        self, environment: jinja2.Environment, template: str
    ) -> tuple[str, str, Callable[[], bool]]:
        """The text of a template. Raises WrittenError for one that lies outside the project."""
        text, path, is_fresh = super().get_source(environment, template)
        if not is_inside(Path(path), self._root):
            raise WrittenError(
                "This leads out of the project through a link.", place=Place(Path(path))
            )
        return text, path, is_fresh


def environment(site: Site) -> Environment:
    """Templates below `pages`, where a name that is unknown is an error."""
    return Environment(
        loader=_Templates(site.project),
        autoescape=True,
        undefined=jinja2.StrictUndefined,
        trim_blocks=True,
        lstrip_blocks=True,
        keep_trailing_newline=False,
    )


def render(site: Site, templates: Environment, page: str) -> str:
    """The finished page. Raises WrittenError that names template and line."""
    folder = site.project.folder("pages")
    this_page = f"{page}.html"
    try:
        with bounded():
            used: dict[str, str] = {}
            text = templates.get_template(this_page).render(
                page=page, data=site.data, site=_about(site), **_calls(site, this_page, used)
            )
            return tidy(marks.with_symbols(text, used, site.project))
    except jinja2.TemplateSyntaxError as error:
        path = Path(error.filename) if error.filename else folder / this_page
        raise _at(
            path, error.lineno, _said(error.message or "The template is not sound")
        ) from error
    except jinja2.TemplateNotFound as error:
        known = [path.relative_to(folder).as_posix() for path in files_below(folder)]
        path, line = _last_line(error, folder, folder / this_page)
        raise _at(
            path, line, f'There is no template "{error.name}".', nearest(str(error.name), known)
        ) from error
    except WrittenError as error:
        if error.place is not None:
            raise
        path, line = _last_line(error, folder, folder / this_page)
        raise _at(path, line, error.message, error.advice) from error
    except (*_MISTAKES, TooMuchError) as error:
        path, line = _last_line(error.__cause__ or error, folder, folder / this_page)
        raise _about_site(_at(path, line, _said(str(error)))) from error


def _about(site: Site) -> dict[str, object]:
    """What templates know as `site`."""
    return {"language": "en", **site.project.settings.site}


def _about_site(error: WrittenError) -> WrittenError:
    """The error with what to do, where it is about a key of `site` that nobody has written."""
    name = re.search(r"has no attribute '(\w+)'", error.message)
    if name and error.place and re.search(rf"\bsite\.{name[1]}\b", error.place.text):
        advice = f'Write it into riffler.toml, under [site]: {name[1]} = "..."'
        return WrittenError(f"There is no site.{name[1]}.", advice, error.place)
    return error


def _said(text: str) -> str:
    """What Jinja or Python says of a mistake, as a sentence about what the template calls."""
    plain = text.replace("_calls.<locals>.", "").rstrip(".")
    begin = plain[:1] if "(" in plain.partition(" ")[0] else plain[:1].upper()
    return f"{begin}{plain[1:]}."


def _calls(site: Site, page_file: str, used: dict[str, str]) -> dict[str, Callable[..., str]]:
    """What a template can call; `page_file` is the page it becomes, `used` gets its symbols."""
    links = site.links(page_file)

    def inlay(name: str, **values: str | bool | int | None) -> Markup:
        known = {"class", "alt", "loading", "sizes", "link", "unsaid", "narrow_to"}
        for key in values:
            if key not in known:
                raise WrittenError(f'inlay() knows no "{key}".', nearest(key, known, "It knows"))
        piece = pieces.find(site.pieces, _name(name), site.written)
        alt = values.get("alt")
        return images.image(
            piece,
            links,
            css_class=str(values.get("class") or ""),
            alt=None if alt is None else str(alt),
            loading=str(values.get("loading") or ""),
            sizes=str(values.get("sizes") or ""),
            linked=values.get("link", True) is not False,
            may_be_unsaid=values.get("unsaid") is True,
            narrow_to=_pixels(values.get("narrow_to")),
        )

    def link(page: str) -> str:
        return links.page(_name(page))

    def head(description: str = "") -> Markup:
        return Markup("\n").join(
            (*about_lines(site, page_file, description), head_lines(site, links))
        )

    def sprite(name: str, alt: str = "", **values: str) -> Markup:
        return marks.sprite(site.shared, _name(name), alt, _class_of("sprite", values))

    def symbol(name: str, alt: str = "", **values: str) -> Markup:
        return marks.symbol(site.shared, _name(name), alt, _class_of("symbol", values), used)

    def loader(name: str) -> Markup:
        return marks.loader(site.shared, site.project, _name(name))

    return {
        "inlay": inlay,
        "link": link,
        "head": head,
        "sprite": sprite,
        "symbol": symbol,
        "loader": loader,
    }


def _pixels(value: str | bool | int | None) -> int | None:
    """A width of windows. Raises WrittenError for what is none."""
    if value is None or (type(value) is int and value > 0):
        return value
    raise WrittenError(
        f"inlay() has narrow_to={value!r}, which is no width.", "Say it in pixels: narrow_to=480."
    )


def _class_of(call: str, values: Mapping[str, str]) -> str:
    """What `class` says; in Python it is no name. Raises WrittenError for anything else."""
    for key in values:
        if key != "class":
            raise WrittenError(f'{call}() knows no "{key}".', "It knows alt and class.")
    return values.get("class", "")


def _name(value: object) -> str:
    if not isinstance(value, str):
        raise WrittenError(f"{value!r} is no name: it should stand in quotes.")
    return value


def about_lines(site: Site, this_page: str, description: str) -> list[Markup]:
    """What a page says of itself: a description, and its address where the site's is known."""
    values = _about(site)
    lines = []
    if words := description or str(values.get("description") or ""):
        lines.append(Markup('<meta name="description" content="{}">').format(words))
    if address := str(values.get("address") or ""):
        page = "" if this_page == "index.html" else this_page
        whole = Links(this_page, address.rstrip("/") + "/", site.pages).file(page)
        lines.append(Markup('<link rel="canonical" href="{}">').format(whole))
    return lines


def head_lines(site: Site, links: Links) -> Markup:
    """The lines for the head of a page: icons and made styles as the ledger has them, styles."""
    favicon = site.project.settings.favicon
    lines = heading.lines(site.icons, links.file, favicon.theme if favicon else None)
    own = filter(None, [site.own_styles.get(links.here.removesuffix(".html"))])
    hrefs = (escape(links.file(file)) for file in (*site.made_styles, *site.styles, *own))
    lines.extend(f'<link rel="stylesheet" href="{href}">' for href in hrefs)
    return Markup("\n".join(lines))  # noqa: S704 - every value in it is escaped


def style_files(project: Project) -> tuple[str, ...]:
    """The style sheets that a page links, below the output folder: the pieces, then by hand."""
    folder, paths = project.folder("styles"), project.sources("styles")
    by_hand = sorted(p.name for p in paths if p.parent == folder and p.suffix == ".css")
    names = [stylesheet.FILE, *by_hand]
    return tuple(posixpath.join(project.settings.folders.styles, name) for name in names)


def own_styles(project: Project) -> dict[str, str]:
    """The style sheets that one page alone links, by its name: `styles/pages/NAME.css`."""
    folder, styles = project.folder("styles") / PAGE_STYLES, project.settings.folders.styles
    names = [
        path.relative_to(folder).with_suffix("").as_posix()
        for path in project.sources("styles")
        if path.suffix == ".css" and path.is_relative_to(folder)
    ]
    return {name: posixpath.join(styles, PAGE_STYLES, f"{name}.css") for name in names}


def _last_line(error: BaseException, folder: Path, fallback: Path) -> tuple[Path, int | None]:
    """The innermost line of a template that the error passed through."""
    for frame in reversed(traceback.extract_tb(error.__traceback__)):
        path = Path(frame.filename)
        if path.is_relative_to(folder):
            return path, frame.lineno
    return fallback, None


def _at(path: Path, line: int | None, message: str, advice: str = "") -> WrittenError:
    text = ""
    if line is not None and path.is_file():
        lines = path.read_text(encoding="utf-8", errors="replace").split("\n")
        text = lines[line - 1] if line <= len(lines) else ""
    return WrittenError(message, advice, Place(path, line, text=text))
