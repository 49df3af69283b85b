"""Pages that mean harm, in the browser of `fit`: nothing is fetched, nothing believed, it ends."""

from __future__ import annotations

import json
import re
import socket
import subprocess
import sys
import threading
from collections.abc import Iterator
from pathlib import Path

import pytest

from riffler.errors import RifflerError
from riffler.fit.said import PageSaid
from riffler.fit.seen import Node, hexadecimal, selector_of
from riffler.geometry import Rect

MOCKUP = (
    '<svg xmlns="http://www.w3.org/2000/svg" width="400" height="300">'
    '<rect id="a" x="20" y="20" width="90" height="90" fill="#c83214"/></svg>'
)
RIGHT = (
    "<style>body{margin:0}.a{position:absolute;left:20px;top:20px;width:90px;height:90px;"
    "background:#c83214}</style>"
)

#: Runs the program with other limits, or without a cell, which are said first.
PROGRAM = (
    "import sys; from riffler.fit import guard, chromium; exec(sys.argv.pop(1)); "
    "from riffler.__main__ import main; main()"
)


def fit(
    folder: Path, page: str, code: int | None = None, before: str = "", *more: str
) -> tuple[str, str]:  # fmt: skip
    """What the program says of a page, and what it complains of; it must end in time."""
    (folder / "m.svg").write_text(MOCKUP)
    (folder / "page.html").write_text(f"<!doctype html>{page}")
    done = subprocess.run(
        [sys.executable, "-c", PROGRAM, before, "fit", "page.html", "m.svg", "--density", "1", *more],
        cwd=folder, capture_output=True, text=True, timeout=60, check=False,
    )  # fmt: skip
    assert "Traceback" not in done.stderr
    assert done.returncode in ({0, 1, 2} if code is None else {code}), done.stderr
    return done.stdout, done.stderr


@pytest.fixture
def heard() -> Iterator[tuple[int, int, list[str]]]:
    """Another service of this machine, by TCP and UDP: the ports, and what it heard."""
    found: list[str] = []
    stream, packets = socket.create_server(("127.0.0.1", 0)), socket.socket(type=socket.SOCK_DGRAM)
    packets.bind(("127.0.0.1", 0))
    threading.Thread(target=_accept, args=(stream, found), daemon=True).start()
    threading.Thread(target=_receive, args=(packets, found), daemon=True).start()
    yield stream.getsockname()[1], packets.getsockname()[1], found
    stream.close()
    packets.close()


def _accept(stream: socket.socket, found: list[str]) -> None:
    while True:
        try:
            line, _ = stream.accept()
            found.append(line.recv(60).decode(errors="replace"))
            line.sendall(b"HTTP/1.1 200 OK\r\nContent-Length: 0\r\n\r\n")
            line.close()
        except OSError:
            return


def _receive(packets: socket.socket, found: list[str]) -> None:
    while True:
        try:
            found.append(packets.recv(60).hex())
        except OSError:
            return


ASKING = """
<link rel=preconnect href="http://127.0.0.1:{tcp}"><link rel=stylesheet href="http://127.0.0.1:{tcp}/css">
<img src="http://127.0.0.1:{tcp}/img"><iframe src="http://127.0.0.1:{tcp}/frame"></iframe>
<iframe srcdoc="<script>new WebSocket('ws://127.0.0.1:{tcp}/inner')</script>"></iframe>
<script>
for (const host of ["127.0.0.1", "localhost", "fernhollow.test"]) {{
  fetch(`http://${{host}}:{tcp}/fetch`, {{mode: "no-cors", keepalive: true}}).catch(() => 0);
  navigator.sendBeacon(`http://${{host}}:{tcp}/beacon`, "x");
  new WebSocket(`ws://${{host}}:{tcp}/ws`);
  new EventSource(`http://${{host}}:{tcp}/es`);
}}
new Worker(URL.createObjectURL(new Blob(['new WebSocket("ws://127.0.0.1:{tcp}/worker")'])));
for (const urls of ["stun:127.0.0.1:{udp}", "turn:127.0.0.1:{tcp}?transport=tcp"]) {{
  const line = new RTCPeerConnection({{iceServers: [{{urls, username: "a", credential: "b"}}]}});
  line.createDataChannel("x");
  line.createOffer().then(offer => line.setLocalDescription(offer));
}}
window.open("http://127.0.0.1:{tcp}/popup");
const until = Date.now() + 900; addEventListener("load", () => {{ while (Date.now() < until); }});
</script><div class=a></div>"""


@pytest.mark.parametrize("cell", ["", "chromium._cell = lambda: ()"], ids=["a cell", "a proxy"])
def test_nothing_is_asked_of_anybody(
    cell: str, heard: tuple[int, int, list[str]], tmp_path: Path
) -> None:
    tcp, udp, found = heard
    out, _ = fit(tmp_path, RIGHT + ASKING.format(tcp=tcp, udp=udp), None, cell)
    assert "1 of 1 fit" in out
    assert found == []


def test_a_page_reads_its_own_folder_alone(tmp_path: Path) -> None:
    (tmp_path / "wide.css").write_text(".a { width: 120px !important }")
    inner = tmp_path / "site"
    (inner / "styles").mkdir(parents=True)
    (inner / "styles/own.css").write_text(".a { height: 90px }")
    (inner / "link.css").symlink_to(tmp_path / "wide.css")
    links = ("../wide.css", "link.css", (tmp_path / "wide.css").as_uri(), "styles/own.css")
    page = "".join(f'<link rel=stylesheet href="{link}">' for link in links)
    page += "".join(f'<img src="//{host}.test/{host}.png" alt="">' for host in "abcdeb")
    out, err = fit(inner, f"{page}{RIGHT}<div class=a></div>", 0)
    assert "1 of 1 fit" in out
    assert re.findall(r"page.html asks (\w).test for \w.png: nothing is fetched", err) == [*"abc"]
    assert "asks for" in err
    assert "wide.css, beyond" in err


LIES = """<script>
Array.prototype.map = () => [null]; Map.prototype.get = () => 99999; Math.round = () => NaN;
Element.prototype.getBoundingClientRect = () => ({x: NaN, y: 1e999, width: "a", height: -5, bottom: {}});
const real = getComputedStyle; getComputedStyle = e => new Proxy(real(e), {get: () => "color(srgb 1e999 NaN none)"});
for (const side of ["scrollWidth", "scrollHeight"]) Object.defineProperty(Element.prototype, side, {get: () => "tall"});
Document.prototype.querySelectorAll = () => []; Promise.all = () => new Promise(() => {});
Object.defineProperty(document.fonts, "ready", {get: () => new Promise(() => {})});
HTMLImageElement.prototype.decode = () => new Promise(() => {});
</script>
<img name=body alt=""><img name=documentElement alt=""><img name=querySelectorAll alt=""><img name=fonts alt="">
<form><input name=id><input name=classList><input name=parentElement><input name=getBoundingClientRect>
<input name=closest><input name=checkVisibility><input name=localName></form>"""


def test_what_a_page_makes_of_its_language_is_not_seen(tmp_path: Path) -> None:
    out, _ = fit(tmp_path, f"{RIGHT}<div class=a></div>{LIES}", None, "", "--json")
    (said,) = json.loads(out)["pages"]
    assert [finding["thing"] for finding in said["findings"]] == []
    assert (said["things"], said["fitting"]) == (1, 1)


@pytest.mark.parametrize(
    ("page", "before", "says"),
    [
        ("<script>for(;;);</script>", "guard.ONCE = 1.0", "keeps the browser busy for more than 1 s"),
        ("<script>onload=()=>setTimeout(()=>{for(;;);})</script>", "guard.ONCE = 1.0", "busy"),
        ("<script>location.reload()</script>", "guard.ONCE = 1.0; guard.WAITED = 4", ""),
        ("<script>for(const a=[];;)a.push(new Float64Array(4e6).fill(1))</script>",
         "guard.MEMORY = 600_000_000", "takes more than 0.6 GB of memory"),
        ("<script>for(let n=5000,e=document.body;n--;)e=e.appendChild(document.createElement('p'))</script>", "", ""),
        ("<script>document.documentElement.remove()</script>", "", "shows nothing"),
        ("<script>onload=()=>{for(let i=0;i<40;i++)alert(i)}</script>", "", ""),
        ('<div style="width:9e6px;height:9e6px">x', "", "px high"),
    ],
    ids=["loop", "later", "reload", "memory", "deep", "nothing", "alerts", "huge"],
)  # fmt: skip
def test_every_page_comes_to_an_end(page: str, before: str, says: str, tmp_path: Path) -> None:
    _, err = fit(tmp_path, page, None, before)
    assert says in err


@pytest.mark.parametrize(
    ("who", "asked", "says"),
    [
        (1000, "sandbox no-sandbox", "this system gives it none"),
        (0, "no-sandbox", "root has none"),
    ],
)
def test_a_sandbox_is_asked_for_unless_there_is_none(
    who: int, asked: str, says: str, tmp_path: Path
) -> None:
    """A browser that has none and says so: it is asked again without, unless nobody could have it."""
    (tmp_path / "chrome").write_text(
        '#!/bin/sh\ncase "$*" in *--no-sandbox*) echo no-sandbox >> called;; '
        "*) echo sandbox >> called; echo 'No usable sandbox!' >&2;; esac\nexit 1\n"
    )
    (tmp_path / "chrome").chmod(0o755)
    before = (
        f"import os; os.environ['RIFFLER_CHROMIUM'] = {str(tmp_path / 'chrome')!r}; "
        f"os.geteuid = lambda: {who}; chromium._cell = lambda: ()"
    )
    _, err = fit(tmp_path, f"{RIGHT}<div class=a></div>", 2, before)
    assert (tmp_path / "called").read_text().split() == asked.split()
    assert f"runs without its sandbox, as {says}" in err
    assert "could not be started" in err


WHOLE = {"elements": [], "texts": [], "boxes": [], "pictures": [], "width": 9, "height": 9}


@pytest.mark.parametrize(
    "more",
    [
        {"width": float("nan")}, {"height": float("inf")}, {"width": -5}, {"width": None},
        {"height": "tall"}, {"elements": None}, {"texts": [None]}, {"width": 9e9},
        {"elements": [{"tag": "p", "classes": [], "id": {}, "parent": -1, "rect": [0, 0, 1, 1]}]},
        {"elements": [{"tag": "p", "classes": [], "id": "", "parent": 10**9, "rect": [0, 0, 1, 1]}]},
        {"pictures": [{"element": 0, "rect": [0, 0, -1, 1], "natural": [1, 1], "kept": [0, 0]}]},
    ],
)  # fmt: skip
def test_what_no_page_can_be_is_refused(more: dict[str, object]) -> None:
    assert PageSaid.of(WHOLE).width == 9
    with pytest.raises(RifflerError, match="can't be measured"):
        PageSaid.of({**WHOLE, **more})


def test_odd_values_stay_within_bounds() -> None:
    assert hexadecimal("color(srgb 1e999 NaN none)") == "#00000000"
    assert hexadecimal("rgb(999, -4, 3)") == "#ff0003"
    deep = tuple(Node("div", (), "", n - 1, Rect(0, 0, 1, 1)) for n in range(5000))
    assert selector_of(deep, 4999).count(">") < 20
