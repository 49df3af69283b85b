"""Mutates .ora and .svg files and feeds them to `look` and `cut`: no traceback, no hang, no leak.

    python -m benchmarks.fuzz [COUNT] [SEED]

Each file is opened, listed and drawn in a worker process with a limit on memory and time. Anything
but a clear RifflerError or success is written to benchmarks/.cache/found/ and reported.
"""

from __future__ import annotations

import io
import multiprocessing
import random
import re
import resource
import socket
import sys
import tempfile
import time
import zipfile
import zlib
from multiprocessing.connection import Connection
from pathlib import Path

from hypothesis import HealthCheck, Phase, given, seed, settings
from hypothesis import strategies as st

#: What a file may take; the first file of a worker may take longer, since it loads everything.
SECONDS, MEGABYTES = 5.0, 500

DEMO = Path(__file__).parent.parent / "src/riffler/demo/fernhollow/mockups"
FOUND = Path(__file__).parent / ".cache/found"

#: Pieces that are likely to hurt when they land somewhere.
SPICE = [
    b"<", b">", b'"', b"&", b"&#0;", b"\x00", b"-", b"1e9", b"-1e38", b"nan", b"inf", b"1e-30", b"99999999999",
    b"%", b"url(#a)", b"url(file:///etc/passwd)", b'href="#a"', b'xlink:href="#honey"', b"../../x",
    b"<g>", b"</g>", b"<use href='#honey'/>", b"<text>", b"<svg width='1e9' height='1e9'>",
    b'transform="scale(1e30)"', b'transform="rotate(nan)"', b"filter='url(#soft-shadow)'",
    b'viewBox="0 0 0 0"', b'opacity="-4"', b'font-size="1e20"', b'stroke-dasharray="0.0001"',
    b'stroke="red" stroke-width="1e12"', b"<![CDATA[", b"<!DOCTYPE x [<!ENTITY a 'b'>]>", b"\xff\xfe",
    b'stdDeviation="1e9"', b"composite-op='svg:hue'", b'x="-2147483648"', b'visibility="hidden"',
]  # fmt: skip


def mutated(chance: random.Random, data: bytes) -> bytes:
    """Some bytes flipped, cut, repeated, or spiced."""
    out = bytearray(data)
    for _ in range(chance.choice((1, 1, 2, 4, 12))):
        at = chance.randrange(len(out) or 1)
        match chance.randrange(6):
            case 0:
                out[at : at + 1] = bytes([chance.randrange(256)])
            case 1:
                del out[at : at + chance.choice((1, 8, 200))]
            case 2:
                out[at:at] = chance.choice(SPICE)
            case 3:
                end = at + chance.choice((4, 40, 400))
                out[at:at] = out[at:end] * chance.choice((1, 2, 20))
            case 4:
                number = chance.choice((b"0", b"-1", b"1e9", b"1e-9", b"65536", b"4294967296"))
                digits = [i for i in range(at, min(len(out), at + 300)) if 48 <= out[i] <= 57]
                if digits:
                    out[digits[0] : digits[0] + 1] = number
            case 5:
                del out[at:]
    return bytes(out)


def small_ora() -> dict[str, bytes]:
    """The example's stack with tiny layers: quick to open, and every line of it real."""
    with zipfile.ZipFile(DEMO / "home.ora") as archive:
        stack = archive.read("stack.xml")
        names = [name for name in archive.namelist() if name.startswith("data/")]
    from PIL import Image

    out = io.BytesIO()
    Image.new("RGBA", (20, 10), (200, 100, 50, 128)).save(out, "PNG")
    return {
        "mimetype": b"image/openraster",
        "stack.xml": stack,
        **{name: out.getvalue() for name in names},
    }


def respoken(chance: random.Random, data: bytes) -> bytes:
    """Some attribute values swapped for others or for nonsense: still sound XML, mostly."""
    values = list(re.finditer(rb'="([^"<>]*)"', data))
    for match in sorted(
        chance.sample(values, min(len(values), chance.choice((1, 3, 10, 40)))),
        key=lambda m: -m.start(),
    ):
        wild = [
            b"",
            b"nan",
            b"1e9",
            b"-1e38",
            b"0",
            b"none",
            b"inherit",
            b"url(#honey)",
            b"100%",
            b"1e-20",
        ]
        new = chance.choice(wild) if chance.random() < 0.5 else chance.choice(values)[1]
        data = data[: match.start(1)] + new + data[match.end(1) :]
    return data


def mutant(chance: random.Random) -> tuple[str, bytes]:
    """A damaged file with its ending."""
    if chance.random() < 0.5:
        change = respoken if chance.random() < 0.7 else mutated
        return ".svg", change(chance, (DEMO / "hives.svg").read_bytes())
    files = small_ora()
    for name in chance.sample(sorted(files), chance.choice((0, 1, 1, 2))):
        files[name] = mutated(chance, files[name])
    if chance.random() < 0.5:
        change = respoken if chance.random() < 0.7 else mutated
        files["stack.xml"] = change(chance, files["stack.xml"])
    out = io.BytesIO()
    with zipfile.ZipFile(
        out, "w", chance.choice((zipfile.ZIP_STORED, zipfile.ZIP_DEFLATED))
    ) as archive:
        for name, data in files.items():
            archive.writestr(name, data)
    packed = out.getvalue()
    return ".ora", mutated(chance, packed) if chance.random() < 0.3 else packed


def refuse_network(*_: object) -> None:
    raise AssertionError("something asked for the network")


def work(pipe: Connection) -> None:
    """Open, list and draw each file that comes down the pipe; send back what happened."""
    from riffler.errors import RifflerError
    from riffler.geometry import Box
    from riffler.mockup.opening import open_mockup
    from riffler.render.renderer import open_renderer

    socket.socket.connect = refuse_network  # type: ignore[method-assign]
    while True:
        path = Path(pipe.recv())
        try:
            mockup = open_mockup(path)
            renderer = open_renderer(mockup)
            for address in list(mockup.by_address)[:6]:
                renderer.painted_box(address)
            renderer.render(mockup.box & Box(0, 0, 400, 400), 1.0, mockup.drawn)
            said = "drawn"
        except RifflerError as error:
            said = "refused" if error.message else "silent"
        except BaseException as error:
            said = f"{type(error).__name__}: {error}"
        own, drawing = (
            resource.getrusage(who).ru_maxrss
            for who in (resource.RUSAGE_SELF, resource.RUSAGE_CHILDREN)
        )
        peak = max(own, drawing) / 1000
        pipe.send((said, peak))


class Worker:
    """A process that is replaced when it hangs or dies."""

    def __init__(self) -> None:
        context = multiprocessing.get_context("spawn")
        self.pipe, far = context.Pipe()
        self.process = context.Process(target=work, args=(far,), daemon=True)
        self.process.start()

    def ask(self, path: Path) -> tuple[str, float]:
        self.pipe.send(str(path))
        try:
            if self.pipe.poll(SECONDS):
                said, peak = self.pipe.recv()
                return str(said), float(peak)
        except EOFError:
            return "died", 0.0
        self.process.kill()
        return f"took over {SECONDS:g} s", 0.0


class Tally:
    """What came of the files so far."""

    def __init__(self, folder: Path, number: int) -> None:
        self.folder, self.seed = folder, number
        self.worker = self._ready()
        self.counts: dict[str, int] = {}
        self.slowest = self.highest = 0.0

    def _ready(self) -> Worker:
        """A worker that has loaded what it needs, so that only the files are timed."""
        warm = self.folder / "warm.svg"
        warm.write_text('<svg xmlns="http://www.w3.org/2000/svg" width="9" height="9"/>')
        for _ in range(3):
            worker = Worker()
            if worker.ask(warm)[0] == "drawn":
                return worker
        raise RuntimeError("no worker starts")

    def feed(self, ending: str, data: bytes) -> None:
        path = self.folder / f"m{ending}"
        path.write_bytes(data)
        began = time.perf_counter()
        said, peak = self.worker.ask(path)
        self.slowest = max(self.slowest, time.perf_counter() - began)
        self.highest = max(self.highest, peak)
        kind = said.partition(":")[0]
        self.counts[kind] = self.counts.get(kind, 0) + 1
        if said not in ("drawn", "refused") or peak > MEGABYTES:
            FOUND.mkdir(parents=True, exist_ok=True)
            kept = FOUND / f"{self.seed}-{zlib.crc32(data):08x}{ending}"
            kept.write_bytes(data)
            print(f"{kept.name}: {said[:150]}, peak {peak:.0f} MB", flush=True)
            self.worker.process.kill()
            self.worker = self._ready()


def main(count: int = 2000, number: int = 1) -> int:
    """Feed `count` files; returns how many were findings."""
    with tempfile.TemporaryDirectory() as folder:
        tally = Tally(Path(folder), number)

        @seed(number)
        @settings(
            max_examples=count,
            database=None,
            deadline=None,
            phases=[Phase.generate],
            suppress_health_check=list(HealthCheck),
        )
        @given(st.randoms(use_true_random=True))
        def each(chance: random.Random) -> None:
            tally.feed(*mutant(chance))

        each()
    total = sum(tally.counts.values())
    print(
        f"{total} files: {tally.counts}; slowest {tally.slowest:.2f} s, highest peak {tally.highest:.0f} MB"
    )
    return total - sum(tally.counts.get(fine, 0) for fine in ("drawn", "refused"))


if __name__ == "__main__":
    sys.exit(1 if main(*(int(argument) for argument in sys.argv[1:3])) else 0)
