"""Pages -> what their heads lack, headings out of order, ids used twice, words still unsaid."""

from __future__ import annotations

from collections.abc import Iterator

from riffler.proof.finding import PageFinding
from riffler.proof.folder import Folder
from riffler.proof.page_text import left_open


def heads(folder: Folder) -> Iterator[PageFinding]:
    """A title, a language, a viewport and an icon on every page."""
    has_icon = "favicon.ico" in folder.files
    for page in folder.pages:
        html = page.all("html")
        if not any(node.words for node in page.all("title")):
            yield PageFinding("title", page.file, 1, "The page has no title.")
        if not html or not html[0].attributes.get("lang", "").strip():
            line = html[0].line if html else 1
            yield PageFinding("language", page.file, line, 'No language is said: <html lang="en">.')
        if not any(node.attributes.get("name") == "viewport" for node in page.all("meta")):
            message = "No viewport is said, so phones show the page as wide as a desk."
            yield PageFinding("viewport", page.file, 1, message)
        rels = [node.attributes.get("rel", "").lower().split() for node in page.all("link")]
        if not has_icon and not any("icon" in rel for rel in rels):
            yield PageFinding("favicon", page.file, 1, "The page has no icon.")


def headings(folder: Folder) -> Iterator[PageFinding]:
    """One `h1`, and no level left out on the way down."""
    for page in folder.pages:
        before, first = 0, None
        for node in page.all("h1", "h2", "h3", "h4", "h5", "h6"):
            level = int(node.tag[1])
            if level == 1:
                if first is not None:
                    message = f"There is an h1 already, in line {first}."
                    yield PageFinding(
                        "two-h1", page.file, node.line, message, f"{page.file} {node.words}"
                    )
                first = first or node.line
            if level > before + 1 and (before or level > 2):
                text = f"h{before}" if before else "the beginning of the page"
                message = f'"{node.words}" is an h{level} after {text}: h{before + 1} would follow.'
                yield PageFinding(
                    "heading-order", page.file, node.line, message, f"{page.file} {node.words}"
                )
            before = level


def ids(folder: Folder) -> Iterator[PageFinding]:
    """Ids that a page has twice."""
    for page in folder.pages:
        seen: dict[str, int] = {}
        for node in page.nodes:
            name = node.attributes.get("id")
            if name in seen:
                message = f'"{name}" is the id of the element in line {seen[name]} too.'
                yield PageFinding("id-twice", page.file, node.line, message, f"{page.file}#{name}")
            elif name:
                seen[name] = node.line


def unclosed(folder: Folder) -> Iterator[PageFinding]:
    """Elements that were left open, or ended twice."""
    for page in folder.pages:
        for line, message in left_open(page):
            yield PageFinding(
                "left-open",
                page.file,
                line,
                f"{message[:1].upper()}{message[1:]}.",
                f"{page.file} {message}",
            )


def unsaid(folder: Folder) -> Iterator[PageFinding]:
    """Words, links and texts that were left for a person to say."""
    for page in folder.pages:
        for node in page.nodes:
            what = node.attributes.get("data-unsaid")
            if what is not None:
                about = node.words or node.attributes.get("src", "") or node.tag
                message = f'Still to be said: {what or "words"} ("{about[:40]}").'
                yield PageFinding(
                    "unsaid", page.file, node.line, message, f"{page.file} {about[:40]}"
                )
