"""The preview with 20 open pages, 100 saves and 60 pictures asked for at once.

python -m benchmarks.previewed [TABS] [SAVES] [PICTURES]

On a copy of the example, in Chromium: how long a page takes meanwhile, from when a style sheet is
saved until every open page has it, and the most memory of the preview.
"""

from __future__ import annotations

import http.client
import os
import shutil
import signal
import statistics
import subprocess
import sys
import tempfile
import threading
import time
from pathlib import Path

from playwright.sync_api import sync_playwright

#: Seconds between two saves of somebody who works fast.
PAUSE = 0.2


def asked(port: int, path: str) -> tuple[int, int, float]:
    """The status of an answer, its bytes, and the seconds that it took."""
    began = time.perf_counter()
    line = http.client.HTTPConnection("127.0.0.1", port, timeout=120)
    line.request("GET", path)
    answer = line.getresponse()
    count = len(answer.read())
    line.close()
    return answer.status, count, time.perf_counter() - began


def peak(process: int) -> float:
    """The most memory of a process so far, in megabytes. proc(5), VmHWM."""
    status = Path(f"/proc/{process}/status").read_text()
    return int(status.partition("VmHWM:")[2].split()[0]) / 1024


def main(tabs: int = 20, saves: int = 100, pictures: int = 60) -> None:
    """Print what was measured."""
    program = os.environ.get("RIFFLER_CHROMIUM", "/usr/bin/chromium")
    with tempfile.TemporaryDirectory() as name, sync_playwright() as playwright:
        riffler = str(Path(sys.executable).parent / "riffler")
        subprocess.run([riffler, "demo", "p"], cwd=name, check=True, capture_output=True)
        root = Path(name) / "p"
        preview = subprocess.Popen(
            [riffler, "preview", "--port", "0"], cwd=root, stdout=subprocess.PIPE, text=True,
            env={**os.environ, "PYTHONUNBUFFERED": "1"},
        )  # fmt: skip
        assert preview.stdout is not None
        port = int(preview.stdout.readline().split()[0].rstrip("/").rpartition(":")[2])
        browser = playwright.chromium.launch(executable_path=program, args=["--no-sandbox"])
        context = browser.new_context()
        opened = []
        for _ in range(tabs):
            began = time.perf_counter()
            page = context.new_page()
            page.goto(f"http://127.0.0.1:{port}/")
            opened.append((page, time.perf_counter() - began))
        print(f"{tabs} tabs: the slowest loaded in {max(took for _, took in opened):.2f} s")
        waits: list[float] = []
        over = threading.Event()

        def visit() -> None:
            while not over.wait(0.05):
                waits.append(asked(port, "/hives.html")[2])

        visitor = threading.Thread(target=visit)
        visitor.start()
        answers: list[tuple[int, int, float]] = []
        askers = [
            threading.Thread(
                target=lambda: answers.append(asked(port, "/_riffler/mockup/home.ora"))
            )
            for _ in range(pictures)
        ]
        for asker in askers:
            asker.start()
        for asker in askers:
            asker.join()
        slowest = max(took for *_, took in answers)
        assert {status for status, *_ in answers} == {200}
        print(f"{pictures} pictures at once: all in {slowest:.2f} s; pages meanwhile "
              f"{max(waits):.3f} s at most")  # fmt: skip
        del waits[:]
        styles = root / "styles/site.css"
        text, first = styles.read_text(), opened[0][0]
        seen = []
        for number in range(saves):
            beside = styles.with_name(".site.css.swp")
            beside.write_text(f"{text}\nh2 {{ order: {number + 1}; }}\n")
            began = time.perf_counter()
            beside.replace(styles)
            first.wait_for_function(
                f"getComputedStyle(document.querySelector('h2')).order == '{number + 1}'"
            )
            seen.append(time.perf_counter() - began)
            time.sleep(max(0.0, PAUSE - seen[-1]))
        for page, _ in opened:
            page.wait_for_function(
                f"getComputedStyle(document.querySelector('h2')).order == '{saves}'"
            )
        over.set()
        visitor.join()
        print(f"{saves} saves: in an open page after {statistics.median(seen):.3f} s (median), "
              f"{max(seen):.3f} s at most; pages meanwhile {statistics.median(waits):.3f} s (median), "
              f"{max(waits):.3f} s at most")  # fmt: skip
        print(f"most memory {peak(preview.pid):.0f} MB")
        began = time.perf_counter()
        preview.send_signal(signal.SIGINT)
        preview.wait()
        print(f"Ctrl-C with all of them open: over in {time.perf_counter() - began:.2f} s")
        browser.close()
        shutil.rmtree(root, ignore_errors=True)


if __name__ == "__main__":
    main(*(int(argument) for argument in sys.argv[1:4]))
