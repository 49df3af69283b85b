"""Files -> one archive with the same bytes on every run."""

from __future__ import annotations

import csv
import io
import zipfile
from collections.abc import Iterable, Iterator, Sequence

from riffler.cutsheet.content import CutSheet, SheetEntry, SheetPage
from riffler.files import is_inside, read_whole
from riffler.measure.units import Scale
from riffler.plain import formula_free
from riffler.project.places import FONT_ENDINGS, LEDGER
from riffler.project.project import Project
from riffler.project.target import OURS

#: What every file in the archive is dated: the earliest that the format can say.
DATE = (1980, 1, 1, 0, 0, 0)

#: The names of the page and of the list of all lengths in the archive.
PAGE, LIST = "cut-sheet.html", "lengths.csv"

#: What is told first, and as it is, so that an archive of ours is known for one.
FIRST = "README.txt"
ABOUT = f"""{OURS}. What is in here:

{PAGE}  open it in a browser: the mockups with every number, the assets, the styles
{LIST}     place and size of everything, for a spreadsheet
assets/         the files that were cut, with the record of what they are made of
fonts/          the typefaces, with their licences
"""


def archive(sheet: CutSheet, page: bytes, project: Project | None) -> bytes:
    """The sheet, every file that was cut, the ledger, a list of all lengths, and the fonts."""
    files = {FIRST: ABOUT.encode(), PAGE: page, LIST: lengths(sheet).encode()}
    if project is not None:
        files.update(_outputs(project, [asset.file for asset in sheet.assets]))
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED, compresslevel=6) as packed:
        for name in sorted(files):
            info = zipfile.ZipInfo(name, DATE)
            info.external_attr = 0o644 << 16
            info.compress_type = (
                zipfile.ZIP_DEFLATED if name != "README.txt" else zipfile.ZIP_STORED
            )
            info.create_system = 3
            packed.writestr(info, files[name])
    return out.getvalue()


def _outputs(project: Project, assets: Iterable[str]) -> Iterator[tuple[str, bytes]]:
    for file in assets:
        if is_inside(project.out / file, project.out):
            yield f"assets/{file}", read_whole(project.out / file)
    ledger = project.out / LEDGER
    if ledger.is_file():
        yield f"assets/{LEDGER}", read_whole(ledger)
    fonts = project.folder("fonts")
    for path in project.sources("fonts"):
        if path.suffix.lower() in FONT_ENDINGS or path.suffix.lower() in (".txt", ".md"):
            yield f"fonts/{path.relative_to(fonts).as_posix()}", read_whole(path)


def lengths(sheet: CutSheet) -> str:
    """Every thing with its place and size in CSS pixels; RFC 4180, with line feeds alone."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow(("page", "kind", "name", "left", "top", "width", "height"))
    for page in sheet.pages:
        for entry in page.entries:
            writer.writerow(_row(page, entry))
    return out.getvalue()


def _row(page: SheetPage, entry: SheetEntry) -> Sequence[str]:
    box, scale = entry.box, Scale("px", page.density)
    sides = (scale.say(length) for length in (box.x, box.y, box.width, box.height))
    return formula_free(page.name), entry.sort, formula_free(entry.address), *sides
