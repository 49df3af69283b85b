"""Pictures of pages -> sizes that are not the file's, texts that are missing or copied, weight."""

from __future__ import annotations

from collections.abc import Iterator

from riffler.proof.finding import PageFinding
from riffler.proof.folder import PICTURES, Folder
from riffler.proof.page_text import Node, Page

#: How far width and height may be off the file's ratio, as a share and in pixels.
RATIO, PIXELS = 0.01, 1.0

#: Pixels of a file for each that is shown, from which on it is too large.
TOO_LARGE = 2.01


def _shown(folder: Folder) -> Iterator[tuple[Page, Node, str]]:
    """Every `img` with the file that it shows."""
    pages, known = {page.file: page for page in folder.pages}, set(folder.files)
    for reference in folder.references:
        node = reference.node
        is_shown = node is not None and node.tag == "img" and reference.target in known
        if (
            is_shown
            and node
            and reference.target
            and reference.address == node.attributes.get("src")
        ):
            yield pages[reference.file], node, reference.target


def sizes(folder: Folder) -> Iterator[PageFinding]:
    """Attributes that are not the file's size nor its ratio, and files larger than is shown."""
    for page, node, file in _shown(folder):
        size, texts = folder.size(file), _said(node)
        if size is None or texts is None:
            continue
        width, height = texts
        wanted = width * size[1] / size[0]
        if abs(height - wanted) > max(PIXELS, RATIO * wanted):
            message = (
                f"{width:g} x {height:g} is not the shape of {file}, which is {size[0]:g} x "
                f"{size[1]:g}: height {wanted:.0f} would be."
            )
            yield PageFinding("picture-size", page.file, node.line, message, file)
        elif not file.endswith(".svg") and size[0] > TOO_LARGE * width:
            message = (
                f"{file} is {size[0]:g} px wide and shown {width:g} px wide: more than dense "
                "screens show."
            )
            yield PageFinding("picture-too-large", page.file, node.line, message, file)


def _said(node: Node) -> tuple[float, float] | None:
    try:
        return float(node.attributes["width"]), float(node.attributes["height"])
    except (KeyError, ValueError):
        return None


def texts(folder: Folder) -> Iterator[PageFinding]:
    """Alternative texts that are missing, and the same one on different pictures."""
    for page in folder.pages:
        seen: dict[str, tuple[str, int]] = {}
        for node in page.all("img"):
            alt, source = node.attributes.get("alt"), node.attributes.get("src", "")
            if alt is None:
                message = f'{source}: no alternative text; alt="" where it is mere decoration.'
                yield PageFinding("alt-missing", page.file, node.line, message, source)
                continue
            earlier, line = seen.setdefault(alt.strip(), (source, node.line))
            if alt.strip() and earlier != source:
                message = f'"{alt}" is the text of {earlier} too, in line {line}.'
                yield PageFinding("alt-repeated", page.file, node.line, message, source)


def repeated(folder: Folder) -> Iterator[PageFinding]:
    """A picture that comes twice in a list whose pictures and titles are otherwise different."""
    for page in folder.pages:
        for one_node in page.all("ul", "ol"):
            members = [node for node in one_node.children if node.tag == "li"]
            pictures = [_only(member) for member in members]
            known_nodes = [picture for picture in pictures if picture is not None]
            sources = [node.attributes.get("src", "") for node in known_nodes]
            if len(known_nodes) < 3 or len(known_nodes) < len(members) or len({*sources}) < 2:
                continue
            titles: dict[str, str] = {}
            for member, node, source in zip(members, known_nodes, sources, strict=True):
                title = titles.setdefault(source, member.words)
                if title != member.words and node.attributes.get("alt"):
                    message = f"{source} is shown a second time in this list, with other words."
                    yield PageFinding("picture-repeated", page.file, node.line, message, source)


def _only(member: Node) -> Node | None:
    """The only picture in a member of a list."""
    nodes = [node for node in member.walk() if node.tag == "img"]
    return nodes[0] if len(nodes) == 1 else None


def equal(folder: Folder) -> Iterator[PageFinding]:
    """Pictures with the same bytes, once for all that are equal."""
    by_size: dict[int, list[str]] = {}
    for name in folder.files:
        if name.lower().endswith(PICTURES):
            by_size.setdefault((folder.root / name).stat().st_size, []).append(name)
    for names in by_size.values():
        alike: dict[str, list[str]] = {}
        for name in names if len(names) > 1 else ():
            alike.setdefault(folder.digest(name), []).append(name)
        for first, *others in alike.values():
            if others:
                message = f"The same bytes as {', '.join(others)}."
                yield PageFinding("equal-pictures", first, None, message)
