"""References of a folder -> those that lead nowhere, files that nothing names, pages apart."""

from __future__ import annotations

from collections.abc import Iterator

from riffler.errors import nearest
from riffler.proof.finding import PageFinding
from riffler.proof.folder import PICTURES, SCRIPTS, STYLES, Folder, Reference

#: Files that browsers and searches ask for by themselves, or that our own tools read.
ASKED_FOR = (
    "favicon.ico",
    "robots.txt",
    "sitemap.xml",
    "ledger.json",
    "humans.txt",
    "404.html",
    "apple-touch-icon.png",
    "CNAME",
)

#: Pages that stand without a link: the first, and what is shown when another is missing.
FIRST = ("index.html", "index.htm", "404.html", "404.htm")


def dead(folder: Folder) -> Iterator[PageFinding]:
    """Links and files that are not there, and parts of pages that no element is called."""
    known = set(folder.files)
    names = {page.file: set(_names(folder, page.file)) for page in folder.pages}
    for reference in folder.references:
        if reference.target is None:
            continue
        if reference.target not in known:
            yield _missing(folder, reference)
        elif reference.part not in ("", "top", *names.get(reference.target, (reference.part,))):
            where = "here" if reference.target == reference.file else f"in {reference.target}"
            advice = nearest(reference.part, sorted(names[reference.target]), "Parts are")
            message = f'Nothing {where} is called "#{reference.part}". {advice}'.strip()
            about = f"{reference.target}#{reference.part}"
            yield PageFinding("dead-anchor", reference.file, reference.line, message, about)


def _names(folder: Folder, file: str) -> Iterator[str]:
    page = next(page for page in folder.pages if page.file == file)
    for node in page.nodes:
        yield node.attributes.get("id", "")
        if node.tag == "a":
            yield node.attributes.get("name", "")


def _missing(folder: Folder, reference: Reference) -> PageFinding:
    target = reference.target or ""
    kind = "dead-link" if reference.is_link else "missing-file"
    what = "page or file" if reference.is_link else "file"
    other = folder.lowered.get(target.lower())
    advice = f"It is {other}: capitals count." if other else nearest(target, folder.files)
    return PageFinding(
        kind,
        reference.file,
        reference.line,
        f'There is no {what} "{reference.address}". {advice}'.strip(),
        target,
    )


def unused(folder: Folder) -> Iterator[PageFinding]:
    """Pictures, styles, scripts and fonts that nothing names."""
    named = {reference.target for reference in folder.references}
    stems = {name.rpartition(".")[0] for name in named if name and name.endswith(PICTURES)}
    endings = (*PICTURES, *STYLES, *SCRIPTS, ".woff2", ".woff", ".ttf", ".otf")
    texts = [page.text for page in folder.pages]
    for name in folder.files:
        if name in named or name.rpartition("/")[2] in ASKED_FOR or not name.endswith(endings):
            continue
        if name.endswith(PICTURES) and name.rpartition(".")[0] in stems:
            continue  # another format of a picture that is used
        if any(name in text for text in texts):  # named in a way that is not known here
            continue
        yield PageFinding("unused-file", name, None, "No page and no style sheet uses this file.")


def orphans(folder: Folder) -> Iterator[PageFinding]:
    """Pages that no other page leads to."""
    if len(folder.pages) < 2:
        return
    linked = {
        reference.target
        for reference in folder.references
        if reference.is_link and reference.target != reference.file
    }
    for page in folder.pages:
        if page.file not in linked and page.file.rpartition("/")[2] not in FIRST:
            yield PageFinding("orphan-page", page.file, None, "No page leads here.")


def names(folder: Folder) -> Iterator[PageFinding]:
    """Names that are not lower case, that differ by case alone, and two endings for one thing."""
    lowered: dict[str, str] = {}
    for name in folder.files:
        if name.rpartition("/")[2] in ASKED_FOR:
            continue
        earlier = lowered.setdefault(name.lower(), name)
        if earlier != name:
            message = f"{earlier} is called the same but for capitals: some disks keep one of them."
            yield PageFinding("same-name", name, None, message)
        elif name != name.lower() or " " in name:
            message = "Names in lower case and without spaces work on every server."
            yield PageFinding("name", name, None, message)
    for item, earlier in ((".jpg", ".jpeg"), (".html", ".htm")):
        files = [
            [name for name in folder.files if name.lower().endswith(end)] for end in (item, earlier)
        ]
        if all(files):
            fewer = min(files, key=len)
            message = f"There are both {item} and {earlier}: one ending for one kind of file."
            yield PageFinding("mixed-endings", fewer[0], None, message, f"{item} {earlier}")
