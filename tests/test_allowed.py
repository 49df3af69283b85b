"""What a drawing may hold: nothing that an HTML parser would run, fetch, or leave the drawing for."""

from __future__ import annotations

from pathlib import Path

import html5lib
import pytest
from hypothesis import given, settings
from hypothesis import strategies as some
from playwright.sync_api import Browser, Error, Route

from conftest import Run
from riffler.errors import RifflerError
from riffler.mockup.svg.allowed import declarations_allowed, sheet_allowed, value_allowed
from riffler.mockup.svg.names import ELEMENTS
from riffler.tidy.tidying import Tidying
from riffler.vector.for_page import ForPage
from riffler.vector.tidied import make

RUN = "document.documentElement.setAttribute('data-ran', 1)"

#: Where a drawing would fetch from; `{}` is what it is called by.
AWAY = "http://fernhollow.test/{}"

WHOLE = '<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" viewBox="0 0 90 90" width="90" height="90"{}>{}<path id="p" d="M1 1h60v60z"/></svg>'

#: What stands in a drawing, and must not be there, run, lead away or be fetched afterwards.
INSIDE = {
    "a script": f"<script>{RUN}</script>",
    "in capitals": f"<SCRIPT>{RUN}</SCRIPT>",
    "of HTML": f'<h:script xmlns:h="http://www.w3.org/1999/xhtml">{RUN}</h:script>',
    "after what ends a drawing": f'<p/><IFRAME src="javascript:parent.{RUN}"/>',
    "a picture of HTML": f'<img src="{AWAY.format("img")}" onerror="{RUN}"/>',
    "a page inside": f'<foreignObject width="9" height="9"><body xmlns="http://www.w3.org/1999/xhtml" onload="{RUN}"/></foreignObject>',
    "words that are markup": f"<title><b>&lt;/title&gt;</b>&lt;script&gt;{RUN}&lt;/script&gt;</title>",
    "text that ends data": f"<text>]]&gt;&lt;script&gt;{RUN}&lt;/script&gt;</text>",
    "a link": f'<a href="javascript:{RUN}"><rect width="50" height="50"/></a>',
    "a link in pieces": f'<a href="java&#9;script:{RUN}"><rect width="50" height="50"/></a>',
    "a link in capitals": f'<a HREF="javascript:{RUN}"><rect width="50" height="50"/></a>',
    "a second link": f'<a href="#p" xlink:href="javascript:{RUN}"><rect width="50" height="50"/></a>',
    "a link that is set": f'<a href="#p"><rect width="50" height="50"/><set attributeName="href" to="javascript:{RUN}"/></a>',
    "set in capitals": f'<a href="#p"><rect width="50" height="50"/><SET ATTRIBUTENAME="href" to="javascript:{RUN}"/></a>',
    "set with a blank": f'<a href="#p"><rect width="50" height="50"/><set attributeName=" href" to="javascript:{RUN}"/></a>',
    "when it moves": f'<rect width="9" height="9"><animate onbegin="{RUN}" attributeName="x" dur="1s"/></rect>',
    "another page at once": '<meta http-equiv="refresh" content="0;url=about:blank"/>',
    "another base": f'<base href="{AWAY.format("base")}"/><image href="x.png" width="9" height="9"/>',
    "a form": f'<form action="javascript:{RUN}"><button>x</button></form>',
    "a picture elsewhere": f'<image width="9" height="9" href="{AWAY.format("image")}"/>',
    "a picture that is set": f'<image width="9" height="9" href="#p"><set attributeName="href" to="{AWAY.format("set")}"/></image>',
    "another drawing": f'<use href="{AWAY.format("use")}#a"/>',
    "paint": f'<rect width="9" height="9" fill="URL({AWAY.format("paint")}#a)"/>',
    "escaped paint": rf'<rect width="9" height="9" mask="\75rl({AWAY.format("escaped")})"/>',
    "a style": f'<rect width="9" height="9" style="mask-image:image-set(\'{AWAY.format("set")}\' 1x)"/>',
    "an animated style": rf'<rect width="9" height="9"><set attributeName="mask" to="u\72l({AWAY.format("smil")})"/></rect>',
    "an import": f'<style>@import "{AWAY.format("import")}";@media all{{a{{b:c}}}}</style>',
    "an escaped import": rf'<style>@\69mport "{AWAY.format("import2")}";@media all{{a{{b:c}}}}</style>',
    "an import in an import": f'<style>@im@import;port "{AWAY.format("import3")}";@media all{{a{{b:c}}}}</style>',
    "a background": rf'<style>@media all{{svg{{background:\75rl({AWAY.format("ground")})}}}}</style>',
    "a font": f'<style>@font-face{{font-family:q;src:url({AWAY.format("font")})}}text{{font-family:q}}</style><text y="9">q</text>',
    "a sheet that ends": f"<style>@media all{{a{{b:c}}}}&lt;/style&gt;&lt;script&gt;{RUN}&lt;/script&gt;</style>",
    "a handler of the whole": f'" onload="{RUN}',
    "of the whole in capitals": f'" ONLOAD="{RUN}',
}  # fmt: skip

#: Every way in which a drawing is written.
WAYS = (
    (Tidying(), None),
    (Tidying(keeps_names=True), ForPage("x", has_hooks=True, title="</title><script>1</script>")),
    (Tidying(rewrites=False, keeps_names=True), None),
    (Tidying(), ForPage("x", paint="custom", title="")),
)


def note(asked: list[str], route: Route) -> None:
    """Keep what was asked for, and answer nothing."""
    asked.append(route.request.url)
    route.abort()


def drawing(inner: str) -> str:
    return WHOLE.format(inner[1:] + '"', "") if inner.startswith('"') else WHOLE.format("", inner)


@pytest.mark.parametrize("name", INSIDE)
def test_only_what_draws_is_in_a_drawing(name: str) -> None:
    for tidying, page in WAYS:
        text = make(drawing(INSIDE[name]).encode(), "x.svg", tidying, page).text
        assert "fernhollow.test" not in text.replace("&lt;", "")
        root = html5lib.parse(f"<!doctype html><body>{text}", treebuilder="lxml").getroot()
        body = [one for one in root.iter() if isinstance(one.tag, str)][2:]
        html = [one.tag for one in body if "svg" not in one.tag.partition("}")[0]]
        assert html == ["{http://www.w3.org/1999/xhtml}body"], "the parser left the drawing"
        for one in body[1:]:
            assert one.tag.partition("}")[2] in ELEMENTS
            assert not [key for key in one.attrib if str(key).lower().startswith("on")]
            links = [str(value) for key, value in one.attrib.items() if "href" in str(key).lower()]
            assert not [link for link in links if "script" in link]


def test_nothing_of_it_runs_or_is_fetched_in_a_browser(
    browser: Browser, riffler: Run, tmp_path: Path
) -> None:
    """All together, alone, in a page, as a loading mark and as symbols; and the sources do."""
    for number, inner in enumerate(INSIDE.values()):
        (tmp_path / f"{number}.svg").write_text(drawing(inner))
        riffler("vector", f"{number}.svg", "-o", f"made/{number}.svg")
    together = "".join(inner for inner in INSIDE.values() if not inner.startswith('"'))
    (tmp_path / "all.svg").write_text(drawing(together))
    riffler("loader", "all.svg", "-o", "made", "--name", "l")
    riffler("sprite", "all.svg", "--symbols", "-o", "made")
    made = [path.read_text() for path in sorted((tmp_path / "made").glob("*.[sh]*"))]
    assert len(made) > len(INSIDE)
    assert ran_and_asked(browser, made) == (0, set())
    ran, asked = ran_and_asked(browser, list(map(drawing, INSIDE.values())))
    assert ran > 6, "the inputs are harmless"
    assert len(asked) > 4


def ran_and_asked(browser: Browser, texts: list[str]) -> tuple[int, set[str]]:
    """How many of these do something to the page that they stand in, and what they ask for."""
    asked, ran, tab = list[str](), 0, None
    for text in texts:
        if tab is None:  # what something has started can go on for a while: a new one after it
            tab = browser.new_page()
            tab.route("**/*fernhollow.test/**", lambda route: note(asked, route))
        does = False
        try:
            tab.set_content(f"<!doctype html><body>{text}", wait_until="load")
            tab.mouse.click(20, 14)
            tab.wait_for_timeout(20)
            does = bool(tab.evaluate("document.documentElement.dataset.ran"))
            does |= tab.url != "about:blank"
        except Error:  # it left the page meanwhile
            does = True
        if does:
            ran += 1
            tab.close()
            tab = None
    if tab is not None:
        tab.close()
    return ran, {url.rpartition("/")[2].partition("#")[0] for url in asked}


@pytest.mark.parametrize(
    ("value", "stays"),
    [
        ("url(#a)", True), ("url( '#a' )", True), ("URL(#a) red", True), ("rgb(1 2 3 / .4)", True),
        ("var(--x, #fff)", True), ("color-mix(in oklab, red, oklch(.7 .1 50))", True),
        ("translate(1e-3, -2) scale(.5)", True), ("url(a.svg#b)", False), (r"\75rl(//a)", False),
        (r"u\000072 l(//a)", False), ("URL(//a)", False), ('image-set("a" 1x)', False),
        ('-webkit-image-set("a" 1x)', False), ('image("a")', False), ('src("a")', False),
        ("cross-fade(url(//a), red)", False), ("url(#a) url(b)", False), ("url('#a", False),
        ("var(--x, url(//a))", False), ("element(#a)", False), ("attr(x url)", False), ("url()", False),
    ],
)  # fmt: skip
def test_values_refer_to_parts_of_the_file(value: str, stays: bool) -> None:
    assert value_allowed(value) is stays
    assert (value in declarations_allowed(f"fill:red;mask:{value}")) is stays


@pytest.mark.parametrize(
    ("sheet", "kept", "fetches"),
    [
        ("@media all{a{fill:red}}", "@media all{a{fill:red}}", False),
        ("@charset 'x';@namespace url(http://www.w3.org/2000/svg);a{fill:red}", "a{fill:red}", False),
        ("a{fill:red;mask:url(x);stroke:blue}", "a{fill:red;stroke:blue;}", True),
        ("@supports(x:y){a{fill:red}b{mask:image-set('x')}}", "@supports(x:y){a{fill:red}b{}}", True),
        ("@font-face{font-family:q;src:url(data:font/woff2;base64,AA) format('woff2')}", None, False),
        ("@font-face{font-family:q;src:url(q.woff2)}", "@font-face{font-family:q;}", True),
        ("@import url(data:text/css,a);b{c:d}", "b{c:d}", True),
        ("@keyframes k{to{rotate:9deg}}a:not(.b):hover{fill:red}", None, False),
        ("a{b{mask:url(x);fill:red}}", "a{b{fill:red;}}", True),
    ],
)  # fmt: skip
def test_style_sheets_hold_nothing_that_is_fetched(
    sheet: str, kept: str | None, fetches: bool
) -> None:
    calm, told = sheet_allowed(sheet)
    assert (calm.replace(" ", ""), told) == ((kept or sheet).replace(" ", ""), fetches)
    assert sheet_allowed(calm) == (calm, False)


WORDS = ("url(", "\\75rl(", "@import", "image-set(", "'x'", '"', ")", "{", "}", ";", "a", ":", "/*", "*/", "\\", "//a", " ", "@media", "#b")  # fmt: skip


@settings(max_examples=60)
@given(some.lists(some.sampled_from(WORDS), max_size=14).map("".join))
def test_what_was_taken_out_leaves_nothing_together(text: str) -> None:
    calm, _ = sheet_allowed(text)
    assert sheet_allowed(calm) == (calm, False)
    source = drawing(f"<style>{text.replace('<', '&lt;')}</style>").encode()
    try:
        once = make(source, "x.svg").text
    except RifflerError:
        return
    assert make(once.encode(), "x.svg").removed == ()
