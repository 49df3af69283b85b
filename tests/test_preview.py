"""The preview: what it serves and to whom, and that an open page has every change at once."""

from __future__ import annotations

import asyncio
import http.client
import os
import signal
import subprocess
import sys
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path

import pytest
from playwright.sync_api import Browser, Page

from riffler.cutlist.file import CutlistFile
from riffler.preview import overlays
from riffler.project.project import Project


@pytest.fixture
def address(demo: Path) -> Iterator[tuple[str, subprocess.Popen[str]]]:
    """The preview of a copy of the example, on a port of its own."""
    running = subprocess.Popen(
        [sys.executable, "-m", "riffler", "preview", "--port", "0"], cwd=demo,
        stdout=subprocess.PIPE, stderr=subprocess.PIPE, text=True,
        env={**os.environ, "PYTHONUNBUFFERED": "1"},
    )  # fmt: skip
    assert running.stdout is not None
    line = running.stdout.readline()
    assert line.startswith("http://127.0.0.1:"), running.communicate()
    yield line.split()[0], running
    if running.poll() is None:
        running.send_signal(signal.SIGINT)
        running.communicate(timeout=20)


def asked(address: str, path: str, method: str = "GET", **headers: str) -> tuple[int, str]:
    """The status and the text of an answer; the path goes out as it is."""
    line = http.client.HTTPConnection(address.split("/")[2], timeout=10)
    said = {name.replace("_", "-"): value for name, value in headers.items()}
    line.putrequest(method, path, skip_host="Host" in said)
    for name, value in said.items():
        line.putheader(name, value)
    line.endheaders()
    answer = line.getresponse()
    text = answer.read().decode("utf-8", "replace")
    line.close()
    return answer.status, text


def test_only_pages_and_only_to_this_machine(
    address: tuple[str, subprocess.Popen[str]], demo: Path
) -> None:
    place, running = address
    status, text = asked(place, "/")
    assert status == 200
    assert '<script src="/_riffler/preview.js" data-after="' in text
    assert text.count("defer></script></body>") == 1
    assert "_riffler" not in (demo / "out/index.html").read_text()
    assert asked(place, "/styles/site.css") == (200, (demo / "out/styles/site.css").read_text())
    (demo / "secret.txt").write_text("secret")
    (demo / "out/link.txt").symlink_to(demo / "secret.txt")
    for path in (
        "/../secret.txt", "/%2e%2e/secret.txt", "/images/../../secret.txt", "/..%2fsecret.txt",
        "//secret.txt", "/link.txt", "/gone.html", "/_riffler/mockup/..%2f..%2fsecret.txt",
    ):  # fmt: skip
        status, text = asked(place, path)
        assert (status, "secret" in text.lower().replace("secret.txt", "")) == (404, False), path
    for refused in (
        {"Host": "evil.example"}, {"Host": "127.0.0.1.evil.example:80"},
        {"Origin": "http://evil.example"}, {"Sec_Fetch_Site": "cross-site"},
        {"Sec_Fetch_Site": "same-site"}, {"Origin": "null"},
    ):  # fmt: skip
        assert asked(place, "/", **refused)[0] == 403, refused
    assert [asked(place, "/", method)[0] for method in ("POST", "PUT", "DELETE")] == [403] * 3
    assert '"name":"home.ora"' in asked(place, "/_riffler/mockups?page=index")[1]
    (demo / "out/a#b.html").write_text("<p>hash</p>")
    (demo / "out/latin.html").write_bytes(b"<p>caf\xe9</p>")
    os.mkfifo(demo / "out/pipe.html")
    (demo / "out/round").symlink_to("round")
    odd = {
        "/a%23b.html": 200, "/latin.html": 200, "/pipe.html": 404, "/round": 404, "/%00": 404,
        f"/{'a' * 3000}": 404, "/%ff": 404, "/_riffler/mockup/%00": 404,
        "/_riffler/mockup/gone.ora": 404, "/_riffler/fits?page=--help": 200,
        **{f"/_riffler/{of}?after={said}": 400 for of in ("events", "news")
           for said in ("abc", "-1", "1e9", "9" * 5000)},
    }  # fmt: skip
    assert {path: asked(place, path)[0] for path in odd} == odd
    (demo / "cuts/home.toml").write_text("x = = ")
    assert asked(place, "/_riffler/mockup/home.ora")[0] == 404
    running.send_signal(signal.SIGINT)
    out, err = running.communicate(timeout=20)
    assert running.returncode == 0
    assert "Traceback" not in out + err


def test_many_pages_share_one_line(
    address: tuple[str, subprocess.Popen[str]], demo: Path, browser: Browser
) -> None:
    """A browser keeps six connections to a host: as many tabs as one likes, and files for all."""
    place, _ = address
    context = browser.new_context()
    tabs = [context.new_page() for _ in range(7)]
    for tab in tabs:
        tab.goto(place, timeout=10_000)
    styles = demo / "styles/site.css"
    for size in ("31px", "33px"):  # the tab with the line goes; another takes it over
        styles.write_text(f"{styles.read_text()}\nh2 {{ font-size: {size}; }}\n")
        for tab in tabs:
            wait(tab, f"getComputedStyle(document.querySelector('h2')).fontSize === '{size}'")
        tabs.pop(0).close()
    context.close()


def test_a_picture_is_drawn_once_however_many_ask(
    demo: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    drawn: list[str] = []

    def draw(_: Project, file: CutlistFile) -> bytes:
        drawn.append(file.mockup_path.name)
        return f"{len(drawn)}".encode()

    monkeypatch.setattr(overlays, "drawn", draw)

    async def ask(names: list[str]) -> list[bytes | None]:
        kept = overlays.Pictures(demo)
        first = await asyncio.gather(*(kept.get(name) for name in names))
        os.utime(demo / "mockups/home.ora", (1, 1))
        return [*first, await kept.get("home.ora")]

    names = ["home.ora"] * 9 + ["gone.ora", "hives.svg", "home.ora"]
    with ThreadPoolExecutor(1) as elsewhere:  # Playwright has a loop in this thread
        found = elsewhere.submit(asyncio.run, ask(names)).result()
    assert found == [b"1"] * 9 + [None, b"2", b"1", b"3"]
    assert drawn == ["home.ora", "hives.svg", "home.ora"]


def wait(page: Page, condition: str) -> None:
    page.wait_for_function(condition, timeout=20_000)


def test_an_open_page_has_every_change(
    address: tuple[str, subprocess.Popen[str]], demo: Path, browser: Browser
) -> None:
    place, _ = address
    page = browser.new_page(viewport={"width": 1000, "height": 700})
    page.goto(place)
    page.evaluate("window.same = true; scrollTo(0, 300)")
    styles = demo / "styles/site.css"
    styles.write_text(styles.read_text() + "\nh2 { font-size: 31px; }\n")
    wait(page, "getComputedStyle(document.querySelector('h2')).fontSize === '31px'")
    assert page.evaluate("[window.same, scrollY]") == [True, 300]  # swapped, not loaded anew
    template = demo / "pages/index.html"
    text = template.read_text()
    template.write_text(text.replace('inlay("smoker"', 'inlay("smokr"'))
    told = "document.querySelector('#riffler-preview').shadowRoot.querySelector('.wrong')"
    wait(page, f"{told}.textContent.includes('There is no slice \"smokr\"')")
    assert page.evaluate(f"{told}.textContent").startswith("index.html, line 17:")
    template.write_text(text.replace("Keep bees, without", "Keep bees, and without"))
    wait(page, "document.querySelector('h2').textContent.includes('and without')")
    wait(page, "document.querySelector('#riffler-preview')")
    wait(page, f"!{told}.classList.contains('shown')")
    page.keyboard.press("m")
    laid = "document.querySelector('#riffler-mockup').shadowRoot"
    shadow = "document.querySelector('#riffler-preview').shadowRoot"
    wait(page, f"{laid}.querySelector('img').naturalWidth === 1920")
    box = page.evaluate(
        f"(b => [b.x, b.y, b.width])({laid}.querySelector('img').getBoundingClientRect())"
    )
    assert box == [20, -page.evaluate("scrollY"), 960]
    assert page.evaluate(f"{laid}.querySelectorAll('.marks div').length") > 12
    for of in ("guides", "grid"):
        page.evaluate(f"{shadow}.querySelector('[data-marks={of}]').click()")
    marks = f"{laid}.querySelector('.guides .x').getBoundingClientRect().x"
    assert page.evaluate(marks) == 20  # the guide of the content's left side
    page.keyboard.press("m")
    wait(page, f"{laid}.querySelector('.over').hidden")


def test_a_changed_picture_is_shown_before_it_is_cut(
    address: tuple[str, subprocess.Popen[str]], demo: Path, browser: Browser
) -> None:
    place, _ = address
    page = browser.new_page(viewport={"width": 1000, "height": 700})
    page.goto(place)
    shown: list[str] = []
    page.on(
        "response",
        lambda got: shown.append(got.headers["content-type"]) if "/smoker." in got.url else None,
    )
    width = page.evaluate("document.querySelector('.smoker').naturalWidth")
    cutlist = demo / "cuts/home.toml"
    text = cutlist.read_text()
    only = 'only = ["tools/smoker", "tools/smoke"]'
    cutlist.write_text(text.replace(only, f"{only}\ngrow = 30"))
    wait(page, f"document.querySelector('.smoker')?.naturalWidth > {width}")
    for _ in range(400):  # the best encoding takes its time on a busy machine
        page.wait_for_timeout(100)
        if "image/avif" in shown:
            break
    assert shown[0] == "image/png"  # for a moment, in the place of the file that is not made yet
    assert "image/avif" in shown
    cutlist.write_text(text.replace(only, 'only = ["tools/smokr"]'))
    told = "document.querySelector('#riffler-preview')?.shadowRoot.querySelector('.wrong')"
    wait(page, f"{told}?.textContent.includes('smokr')")
    page.close()


def test_steps_through_widths(address: tuple[str, subprocess.Popen[str]], browser: Browser) -> None:
    page = browser.new_page(bypass_csp=True, viewport={"width": 1500, "height": 700})
    page.goto(address[0] + "hives.html")
    page.keyboard.press("w")
    page.wait_for_url("**/_riffler/widths?page=%2Fhives.html")
    wait(page, "document.querySelector('[aria-pressed=true]') !== null")
    seen = []
    for _ in range(5):
        seen.append(page.evaluate("document.querySelector('iframe').contentWindow.innerWidth"))
        page.keyboard.press("w")
    assert seen == [960, 1440, 375, 600, 960]
    page.keyboard.press("Escape")
    page.wait_for_url("**/hives.html")
    page.close()
    page.close()


def test_the_bar_tells_how_well_the_page_fits_and_again_after_a_change(
    address: tuple[str, subprocess.Popen[str]], demo: Path, browser: Browser
) -> None:
    place, _ = address
    page = browser.new_page(viewport={"width": 960, "height": 700})
    page.goto(f"{place}hives.html?mockup")
    told = page.locator("#riffler-preview .fit li").first
    told.wait_for(timeout=60_000)
    assert told.inner_text() == "47 of 47 fit within 1 px"
    styles = demo / "styles/site.css"
    text = styles.read_text()
    assert ".gifts h2" in text
    styles.write_text(text + "\n.plans h2 { position: relative; left: 7px; }\n")
    page.wait_for_function(
        """() => document.querySelector("#riffler-preview").shadowRoot.querySelector(".fit")
          .textContent.startsWith("46 of 47")""", timeout=60_000,
    )  # fmt: skip
    said = page.locator("#riffler-preview .fit").inner_text()
    assert "title: 7 px too far right" in said
    page.close()
