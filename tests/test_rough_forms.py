"""Roughing out what is opened, chosen and ticked: by what it is, and where it is drawn."""

from __future__ import annotations

import re
import tomllib
from pathlib import Path

import pytest
from lxml import html
from playwright.sync_api import Browser

from conftest import Run
from test_rough import draw, lines_of, plate, roughed, text

QUESTIONS = ("Is there parking nearby?", "Do you ship abroad?", "Can I bring a dog?")
ANSWER = "By post to all of the island, in straw, from March to October."

BORDER = ' stroke="#c8b48c"'


def sign(x: float, y: float, *, is_open: bool) -> str:
    """A minus where it is open, and a plus elsewhere."""
    lines = [f"M{x} {y} h16"] + [f"M{x + 8} {y - 8} v16"] * (not is_open)
    paths = [f'<path d="{line}" stroke="#b8741a" stroke-width="3"/>' for line in lines]
    return f"<g>{''.join(paths)}</g>"


def question(number: int) -> str:
    """One of a column of them; the second is open, and 40 px higher for it."""
    is_open = number == 1
    y, high = 200 + 64 * number + 40 * (number > 1), 96 if is_open else 56
    return (
        f'<g id="question-{number + 1}">{plate(60, y, 600, high, "#ffffff", 6, BORDER)}'
        + text(80, y + 34, QUESTIONS[number], weight=600)
        + sign(620, y + 28, is_open=is_open)
        + (text(80, y + 74, ANSWER) if is_open else "")
        + "</g>"
    )


FORM = (
    '<g id="letter">'
    + plate(60, 500, 600, 300, "#f1e4c8", 12)
    + text(84, 540, "What is it about?", 15, 600)
    + f'<g id="topic">{plate(84, 552, 260, 44, "#ffffff", 6, BORDER)}{text(98, 580, "Candles")}'
    + '<g id="arrow"><path d="M316 570 h12 l-6 8 z" fill="#b8741a"/><circle cx="322" cy="583" r="2" fill="#b8741a"/></g></g>'
    + text(84, 632, "Your name", 15, 600)
    + plate(84, 644, 260, 44, "#ffffff", 6, BORDER)
    + f'<g id="consent">{plate(84, 712, 20, 20, "#b8741a", 3)}'
    + '<g id="tick"><path d="M89 722 l4 4 l7 -8" fill="none" stroke="#ffffff" stroke-width="2.5"/></g></g>'
    + text(116, 728, "Send me the letter")
    + f'<g id="send">{plate(84, 746, 120, 40, "#33231a", 20)}{text(122, 771, "Send it", color="#ffffff")}</g>'
    + "</g>"
)


@pytest.fixture
def site(riffler: Run, tmp_path: Path) -> Path:
    """A page with questions and a form, drafted, roughed out and built."""
    heading = text(60, 120, "Before you come", 44, 600, family="Fraunces")
    inner = f'<g id="questions">{"".join(map(question, range(3)))}</g>{FORM}'
    drawing = plate(0, 0, 1000, 860, "#fbf4e4") + heading + inner
    root = draw(tmp_path / "site", drawing, (1000, 860))
    roughed(riffler, root)
    return root


def test_questions_open_and_close(site: Path, browser: Browser) -> None:
    page = html.parse(site / "out/index.html")
    opened = page.xpath("//details")
    assert [details.get("open") is not None for details in opened] == [False, True, False]
    heads = [" ".join(details[0].text_content().split()) for details in opened]
    assert heads == list(QUESTIONS)
    assert {details[0].tag for details in opened} == {"summary"}
    assert opened[1][1].text == ANSWER
    assert [len(details) for details in opened] == [1, 2, 1]
    rows = tomllib.loads((site / "data/questions.toml").read_text())["list"]
    assert [row["open"] for row in rows] == [False, True, False]
    assert {row["text"] for row in rows} == {"", ANSWER}
    template = (site / "pages/index.html").read_text()
    assert template.count("<details") == 1
    assert ANSWER not in template
    got = {line[0]: line[1:] for line in lines_of(browser, site / "out/index.html", 1000)}
    for number, words in enumerate(QUESTIONS):
        baseline = 234 + 64 * number + 40 * (number > 1)
        assert got[words] == pytest.approx((80, baseline), abs=1.6)
    tab = browser.new_page(viewport={"width": 1000, "height": 860})
    tab.goto((site / "out/index.html").as_uri())
    tab.click("summary >> nth=0")
    assert tab.evaluate("[...document.querySelectorAll('details')].map(d => d.open)") == [
        True, True, False,
    ]  # fmt: skip
    tab.close()


def test_a_form_has_what_is_chosen_and_ticked(site: Path, browser: Browser) -> None:
    page = html.parse(site / "out/index.html")
    (form,) = page.xpath("//form")
    (select,) = form.xpath(".//label/span/select")
    assert [option.text for option in select] == ["Candles"]
    assert "What is it about?" in select.getparent().getparent().text_content()
    (box,) = form.xpath(".//label//input[@type='checkbox']")
    assert box.get("checked") is not None
    assert "Send me the letter" in box.getparent().getparent().text_content()
    assert [button.text for button in form.xpath(".//button[@type='submit']")] == ["Send it"]
    tab = browser.new_page(viewport={"width": 1000, "height": 860})
    tab.goto((site / "out/index.html").as_uri())
    places = tab.evaluate(
        "[...document.querySelectorAll('select, [type=checkbox], [type=checkbox] + img')]"
        ".map(e => { const b = e.getBoundingClientRect(); return [b.x, b.y, b.width, b.height] })"
    )
    assert places[0] == pytest.approx([84, 552, 260, 44], abs=1.6)
    assert places[1] == pytest.approx([84, 712, 20, 20], abs=1.6)
    middle = [places[2][0] + places[2][2] / 2, places[2][1] + places[2][3] / 2]
    assert middle == pytest.approx([94, 722], abs=2.5)  # its ink is a little above
    seen = "getComputedStyle(document.querySelector('[type=checkbox] + img')).visibility"
    assert tab.evaluate(seen) == "visible"
    tab.click("[type=checkbox]")
    assert tab.evaluate(seen) == "hidden"  # what is not ticked shows no tick
    tab.close()
    styles = "".join(path.read_text() for path in site.glob("styles/**/*.css"))
    assert len(re.findall(r"^\.field \{", styles, re.MULTILINE)) <= 1
