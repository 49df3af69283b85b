"""Tidying of vector files, by origin: bytes, what is seen of it, idempotence, time.

`python -m benchmarks.tidied FOLDER [COUNT]` fetches icon packages with npm into FOLDER (kept for the
next time), takes COUNT files of each, and holds every result against its source as resvg draws them.
"""

from __future__ import annotations

import gzip
import re
import subprocess
import sys
import tarfile
import time
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass
from pathlib import Path
from statistics import median

from lxml import etree

from riffler.mockup.svg.document import settle_namespaces
from riffler.mockup.xml import local_name, parse
from riffler.tidy.tidying import tidy
from riffler.vector.checked import tidied

#: Packages whose licence lets everybody use their drawings.
PACKAGES = (
    "@tabler/icons", "feather-icons", "bootstrap-icons", "heroicons", "ionicons", "remixicon",
    "devicon", "flag-icons", "openmoji", "open-iconic", "typicons.font", "@primer/octicons",
    "@fortawesome/fontawesome-free", "maki", "boxicons", "eva-icons", "css.gg",
    "cryptocurrency-icons", "@carbon/icons", "line-awesome", "@fluentui/svg-icons",
    "payment-icons", "circle-flags", "svg-country-flags", "@svg-maps/world",
)  # fmt: skip


#: Namespaces that drawing programs keep notes in.
EDITORS = re.compile(rb"xmlns:(?!xlink|svg\b|xml\b)\w+=|<!-- (Generator|Created)")


@dataclass(frozen=True)
class Line:
    """What became of one file."""

    file: str
    before: int
    after: int
    bare_zipped: int
    after_zipped: int
    mean: float
    share: float
    is_idempotent: bool
    seconds: float
    whole: float
    trouble: str = ""


def fetched(folder: Path, package: str) -> Path:
    """Where a package is, fetched when it is not there."""
    place = folder / re.sub(r"\W", "_", package)
    if not place.is_dir():
        place.mkdir(parents=True)
        subprocess.run(
            ["npm", "pack", "--silent", package], cwd=place, check=True, capture_output=True
        )
        for archive in place.glob("*.tgz"):
            with tarfile.open(archive) as file:
                file.extractall(place, filter="data")
            archive.unlink()
    return place


def chosen(place: Path, count: int) -> list[Path]:
    """Files evenly spread over a package."""
    files = sorted(path for path in place.rglob("*.svg") if _is_drawing(path.read_bytes()))
    return files[:: max(1, len(files) // count)][:count]


def _is_drawing(data: bytes) -> bool:
    """Whether it is one drawing: no font, and no file of many symbols."""
    return b"<font" not in data and data.count(b"<symbol") < 20


def bare(data: bytes) -> bytes:
    """A drawing with nothing but white space, comments, editors' namespaces and metadata taken out."""
    root = parse(data, "")
    settle_namespaces(root)
    for element in list(root.iter()):
        parent = element.getparent()
        if local_name(element) == "metadata" and parent is not None:
            parent.remove(element)
    for element in root.iter():
        for key in list(element.attrib):
            if str(key).startswith("{") and "xlink" not in str(key) and "XML" not in str(key):
                del element.attrib[key]
        if local_name(element) not in ("text", "tspan", "style", "title"):
            element.text = element.text if (element.text or "").strip() else None
            element.tail = element.tail if (element.tail or "").strip() else None
    etree.cleanup_namespaces(root)
    return etree.tostring(root)


def line(path: Path) -> Line:
    """Tidy one file and hold it against its source."""
    data = path.read_bytes()
    try:
        plain = bare(data)
        begun = time.perf_counter()
        tidy(data, path.name)
        seconds = time.perf_counter() - begun
        begun = time.perf_counter()
        one = tidied(data, path.name)
        whole = time.perf_counter() - begun
        text = one.text.encode()
        again = tidied(text, path.name).text.encode()
        trouble = "" if one.is_changed else "unchanged"
        return Line(
            str(path), len(data), len(text), len(gzip.compress(plain, 9, mtime=0)),
            len(gzip.compress(text, 9, mtime=0)), one.difference.mean, one.difference.share,
            again == text, seconds, whole, trouble,
        )  # fmt: skip
    except Exception as error:
        return Line(
            str(path),
            len(data),
            len(data),
            0,
            0,
            0,
            0,
            True,
            0,
            0,
            f"{type(error).__name__}: {error}",
        )


def report(lines: list[Line], what: str) -> str:
    """A row of the table."""
    good = [one for one in lines if one.after_zipped]
    if not good:
        return f"| {what} | {len(lines)} | no file |"
    saved = [1 - one.after / one.before for one in good]
    zipped = sum(one.after_zipped for one in good) / sum(one.bare_zipped for one in good)
    return (
        f"| {what} | {len(good)} | {median(saved):.0%} | {min(saved):.0%} | {1 - zipped:.1%} "
        f"| {max(one.mean for one in good):.3f} | {max(one.share for one in good):.2%} "
        f"| {1000 * median(one.seconds for one in good):.0f} | {1000 * max(one.seconds for one in good):.0f} |"
    )


def main(folder: str, count: str = "20") -> None:
    """Print the table, and every file that something is wrong with."""
    by_origin = {p: chosen(fetched(Path(folder), p), int(count)) for p in PACKAGES}
    print("| origin | files | median | worst | gzipped | mean | > 4/255 | ms median | ms worst |")
    print("| --- " * 9 + "|")
    everything: list[Line] = []
    with ProcessPoolExecutor(2) as pool:
        for package, files in by_origin.items():
            lines = list(pool.map(line, files))
            everything += lines
            print(report(lines, package), flush=True)
    print(report(everything, "all"))
    editors = [one for one in everything if EDITORS.search(Path(one.file).read_bytes())]
    print(report(editors, "of them with an editor's namespaces"))
    for one in everything:
        if one.trouble or not one.is_idempotent or one.after > one.before:
            print(
                one.file,
                one.before,
                one.after,
                "idempotent" if one.is_idempotent else "NOT IDEMPOTENT",
                one.trouble,
            )


if __name__ == "__main__":
    main(*sys.argv[1:])
