"""Damaged, hostile and absurd files: exit code 2, one clear message, nothing written."""

from __future__ import annotations

import itertools
import shutil
import struct
import zipfile
import zlib
from collections.abc import Callable, Iterator
from pathlib import Path

import pytest

from conftest import Run
from making import Flat, tree, write_ora, write_project
from riffler import processes
from riffler.errors import MockupError
from riffler.mockup.opening import open_mockup
from riffler.render import svg_process
from riffler.render.renderer import open_renderer
from riffler.render.svg_process import Draughtsman
from riffler.tidy.tidying import tidy
from riffler.vector.checked import tidied

SVG = '<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" width="40" height="40">{}</svg>'


def stack(layers: str, size: str = 'w="10" h="10"') -> bytes:
    return f"<image {size}><stack>{layers}</stack></image>".encode()


def png_claiming(width: int, height: int) -> bytes:
    header = struct.pack(">IIBBBBB", width, height, 8, 6, 0, 0, 0)
    chunk = struct.pack(">I", 13) + b"IHDR" + header
    crc = struct.pack(">I", zlib.crc32(b"IHDR" + header))
    return b"\x89PNG\r\n\x1a\n" + chunk + crc + b"\0\0\0\x10IDAT"


def truncated(path: Path) -> None:
    write_ora(path, (10, 10), [Flat("a")])
    path.write_bytes(path.read_bytes()[:-40])


def bomb(path: Path) -> None:
    with zipfile.ZipFile(path, "w", zipfile.ZIP_DEFLATED) as archive:
        archive.writestr("mimetype", "image/openraster")
        archive.writestr("stack.xml", stack('<layer src="a.png"/>'))
        with archive.open("a.png", "w") as member:
            member.write(png_claiming(10, 10))
            for _ in range(450):
                member.write(bytes(1_000_000))


def damaged_layer(path: Path) -> None:
    write_ora(
        path,
        (10, 10),
        [],
        stack=stack('<layer name="a" src="a.png"/>'),
        **{"a.png": png_claiming(10, 10)},
    )


def use_bomb(path: Path) -> None:
    levels = "".join(
        f'<g id="l{n}">' + f'<use xlink:href="#l{n - 1}"/>' * 10 + "</g>" for n in range(1, 9)
    )
    body = f'<defs><rect id="l0" width="1" height="1"/>{levels}</defs><use xlink:href="#l8"/>'
    path.write_text(SVG.format(body))


def entity_bomb(path: Path) -> None:
    entities = '<!ENTITY a0 "ha">' + "".join(
        f'<!ENTITY a{n} "{f"&a{n - 1};" * 10}">' for n in range(1, 10)
    )
    path.write_text(f"<!DOCTYPE svg [{entities}]>" + SVG.format("<text>&a9;</text>"))


def outside_entity(path: Path) -> None:
    path.write_text(
        '<!DOCTYPE svg [<!ENTITY secret SYSTEM "file:///etc/hostname">]>'
        + SVG.format("<text>&secret;</text>")
    )


def deep(path: Path) -> None:
    path.write_text(SVG.format("<g>" * 300 + "</g>" * 300))


def ora(**files: bytes) -> Callable[[Path], object]:
    return lambda path: write_ora(path, (10, 10), [], **files)


def raw(data: bytes) -> Callable[[Path], object]:
    return lambda path: path.write_bytes(data)


def styled(sheet: str, body: str = "<rect/>") -> Callable[[Path], object]:
    return raw(SVG.format(f"<style>{sheet}</style>{body}").encode())


#: What took minutes: each is long in one way, and says nothing wrong.
LONG = (
    f'<rect width="1{" " * 100_000}!"/>',
    f'<rect width="{"1" * 100_000}!"/>',
    f'<rect width="4" height="4" fill="url({" " * 9_000}"/>',
    f'<rect fill="{"url(" * 20_000}"/>',
    f'<text font-weight="{"9" * 5_000}">a</text><text font-weight="²">b</text>',
    '<x:a xmlns:x="urn:x"/>abcdefghijk' * 20_000 + "<rect/>",
    '<g style="visibility:hidden">' * 60 + '<rect style="visibility:hidden"/>' * 200 + "</g>" * 60,
    '<rect id="r" width="9" height="9"/>' * 1_500,
)


@pytest.mark.parametrize("body", LONG)
def test_long_drawings_are_read(tmp_path: Path, body: str) -> None:
    (tmp_path / "m.svg").write_text(SVG.format(body))
    mockup = open_mockup(tmp_path / "m.svg")
    renderer = open_renderer(mockup)
    boxes = [renderer.own_box(layer.address) for layer in mockup.walk()]
    assert len(boxes) == len(list(mockup.walk())) >= 1


@pytest.mark.parametrize(
    "name, make, says",
    [
        ("m.ora", truncated, "cut short or damaged"),
        ("m.ora", ora(stack=stack('<layer src="../../etc/passwd"/>')), "outside the archive"),
        ("m.ora", ora(stack=stack('<layer src="/etc/passwd"/>')), "outside the archive"),
        ("m.ora", ora(stack=stack('<layer name="x" src="gone.png"/>')), "not in the archive"),
        ("m.ora", ora(stack=b"<image w='10' h='10'>"), "not sound XML"),
        ("m.ora", ora(stack=stack("", 'w="x" h="10"')), "not a number"),
        ("m.ora", ora(stack=stack("", 'w="1000000000" h="1000000000"')), "limit of 200,000,000"),
        ("m.ora", ora(stack=stack("", 'w="0" h="10"')), "nothing to draw"),
        ("m.ora", ora(stack=stack("<stack>" * 100 + "</stack>" * 100)), "nested more than 64"),
        ("m.ora", ora(stack=stack('<layer src="a.png"/>' * 5001), **{"a.png": png_claiming(1, 1)}), "5001 layers"),
        ("m.ora", ora(stack=stack('<layer src="a.png"/>'), **{"a.png": png_claiming(10**5, 10**5)}), "claims 100000 x 100000"),
        ("m.ora", damaged_layer, "damaged"),
        ("m.ora", bomb, "unpacks to more than"),
        ("m.svg", outside_entity, "leads out of the file"),
        ("m.svg", entity_bomb, "not sound XML"),
        ("m.svg", use_bomb, "elements when its references are followed"),
        ("m.svg", deep, "nested more than 64"),
        ("m.svg", raw(b"<svg"), "not sound XML"),
        ("m.svg", raw(SVG.format("<g/>" * 700_000).encode()), "more elements"),
        ("m.svg", styled("* " * 12 + "{fill:red}"), "style sheet"),
        ("m.svg", styled("*{fill:red}" * 6000), "style sheet"),
        ("m.svg", styled("*{fill:red}" * 2000, "<g/>" * 200), "style sheet"),
        ("m.svg", raw(b"<html/>"), "no SVG"),
        ("m.png", raw(png_claiming(10**5, 10**5)), "limit of 200,000,000"),
        ("m.png", raw(png_claiming(10, 10)), "damaged"),
        ("m.png", raw(b""), "is empty"),
        ("m.psd", raw(b"8BPS\0\1" + bytes(99)), "OpenRaster (.ora)"),
        ("m.pdf", raw(b"%PDF-1.7" + bytes(99)), "SVG with layer names"),
        ("m.txt", raw(b"hello there"), "damaged picture, or none"),
    ],
)  # fmt: skip
def test_bad_mockups(
    riffler: Run, tmp_path: Path, name: str, make: Callable[[Path], object], says: str
) -> None:
    make(tmp_path / name)
    before = tree(tmp_path)
    done = riffler("cut", name, "-o", "out.png", code=2)
    assert says in done.stderr
    assert done.stderr.startswith("riffler: ")
    assert done.stderr.count("riffler:") == 1
    assert not done.stdout
    assert tree(tmp_path) == before


def test_missing_mockups_name_the_nearest(riffler: Run, tmp_path: Path) -> None:
    write_ora(tmp_path / "home.ora", (10, 10), [Flat("a")])
    assert 'Did you mean "home.ora"' in riffler("look", "hoem.ora", code=2).stderr
    assert "is a folder" in riffler("look", tmp_path, code=2).stderr


def test_nothing_outside_is_read_or_fetched(riffler: Run, tmp_path: Path) -> None:
    (tmp_path / "secret.svg").write_text(SVG.format('<rect width="40" height="40" fill="red"/>'))
    shutil.copy(tmp_path / "secret.svg", tmp_path / "sub.svg")
    body = "".join(
        f'<image width="40" height="40" xlink:href="{where}"/><use href="{where}#a"/>'
        f'<rect width="9" height="9" fill="url({where}#p)"/>'
        for where in ("secret.svg", f"file://{tmp_path}/secret.svg", "http://127.0.0.1:9/x.svg")
    )
    style = (
        '<style>@import url("http://127.0.0.1:9/x.css"); rect { fill: url("secret.svg#p") }</style>'
    )
    (tmp_path / "m.svg").write_text(SVG.format(style + body + "<script>alert(1)</script>"))
    riffler("cut", "m.svg", "-o", "out.png")
    from PIL import Image

    with Image.open(tmp_path / "out.png") as picture:
        colors = picture.convert("RGBA").getcolors() or []
    assert all(color[3] == 0 for _, color in colors)  # type: ignore[index]


def test_limits_are_set_in_the_project(process: Run, tmp_path: Path) -> None:
    project = write_project(
        tmp_path / "p", {"riffler.toml": "[limits]\nseconds = 0.2\ndepth = 200\n"}
    )
    blurs = '<feGaussianBlur stdDeviation="300"/>' * 500
    body = f'<filter id="f">{blurs}</filter><rect width="40" height="40" filter="url(#f)"/>'
    big = SVG.format(body).replace('"40"', '"1000"')
    (project / "mockups/slow.svg").write_text(big)
    (project / "mockups/deep.svg").write_text(SVG.format("<g>" * 190 + "</g>" * 190))
    error = process("cut", "mockups/slow.svg", "-o", "x.png", cwd=project, code=2).stderr
    assert "takes more than 0.2 s to draw" in error
    assert "[limits] seconds" in error
    assert not (project / "x.png").exists()
    process("look", "mockups/deep.svg", cwd=project)


def test_the_renderer_is_started_again_after_it_had_to_be_ended() -> None:
    blurs = '<feGaussianBlur stdDeviation="300"/>' * 500
    body = f'<filter id="f">{blurs}</filter><rect width="40" height="40" filter="url(#f)"/>'
    draughtsman = Draughtsman()
    with pytest.raises(MockupError, match=r"more than 0\.2 s"):
        draughtsman.draw(SVG.format(body).replace('"40"', '"1000"'), [], "it", 0.2)
    assert draughtsman.draw(SVG.format(""), [], "it", 2.0).startswith(b"\x89PNG")
    with pytest.raises(MockupError, match="can't be drawn"):
        draughtsman.draw("<svg", [], "it", 2.0)
    assert draughtsman.draw(SVG.format(""), [], "it", 2.0).startswith(b"\x89PNG")


@pytest.mark.parametrize(
    ("ticks", "says"),
    [
        ((n // 20 for n in itertools.count()), None),  # a busy machine: a little at a time
        (itertools.chain([0], itertools.repeat(10**6)), None),  # a pause of the machine
        (itertools.count(0, 10**6), "more than 3 s"),
        (itertools.repeat(7), "more than 3 s"),  # it stands still
    ],
)
def test_a_drawing_is_ended_by_what_it_uses_not_by_the_clock(
    monkeypatch: pytest.MonkeyPatch, ticks: Iterator[int], says: str | None
) -> None:
    monkeypatch.setattr(svg_process, "LOOK", 1e-3)
    monkeypatch.setattr(svg_process, "PATIENCE", 30 if says is None else 1e-3)
    monkeypatch.setattr(svg_process, "CHARGED", 1.5 if says is None else 1e9)
    monkeypatch.setattr(processes, "spent", lambda _: next(ticks))
    draughtsman = Draughtsman()
    blurs = '<feGaussianBlur stdDeviation="9"/>' * 9
    body = f'<filter id="f">{blurs}</filter><rect width="40" height="40" filter="url(#f)"/>'
    drawing = SVG.format(body).replace('"40"', '"900"')
    if says is None:
        assert draughtsman.draw(drawing, [], "it", 3.0).startswith(b"\x89PNG")
    else:
        with pytest.raises(MockupError, match=says):
            draughtsman.draw(drawing, [], "it", 3.0)


def test_nothing_is_drawn_once_the_run_is_over() -> None:
    draughtsman = Draughtsman()
    assert draughtsman.draw(SVG.format(""), [], "it", 2.0).startswith(b"\x89PNG")
    draughtsman._close()
    with pytest.raises(MockupError):
        draughtsman.draw(SVG.format(""), [], "it", 2.0)
    assert draughtsman._process is None


#: Where numbers stand in a drawing; `{}` is one of them.
NUMBERED = (
    '<path d="M1 {} L3 4 5 6Z"/>', '<path d="M1 2A5 {} 7 0 1 8 9Q1 2 {} 4"/>', '<path d="M1 2l3 4" stroke-width="{}" stroke="red"/>',
    '<g transform="scale({0})"><g transform="scale({0})"><path d="M1 2h3v{0}z"/></g></g>', '<path transform="rotate({})" d="M1 2h3v3z"/>',
    '<rect width="{0}" height="2" rx="{0}"/>', '<polygon points="1,2 {},4 5,6"/>', '<circle r="{0}" cx="-{0}"/>',
    '<filter id="f"><feGaussianBlur stdDeviation="2 {}"/></filter><rect width="9" height="9" filter="url(#f)"/>',
    '<svg viewBox="0 0 {} 9"><rect width="9" height="9"/></svg>', '<text x="{0}" font-size="{0}">a</text>',
    '<linearGradient id="g" x2="{0}"><stop offset="{0}"/></linearGradient><rect width="9" height="9" fill="url(#g)"/>',
)  # fmt: skip


@pytest.mark.parametrize("number", ["1e999", "-1e999", "1e308", "1e155", "1e-400", "9" * 400])
def test_numbers_beyond_all_are_no_mistake_of_ours(number: str, tmp_path: Path) -> None:
    for inside in NUMBERED:
        text = f'<svg xmlns="http://www.w3.org/2000/svg" width="90" height="60">{inside.format(number, number)}</svg>'
        tidy(text.encode(), "m.svg")
        path = tmp_path / "m.svg"
        path.write_text(text)
        renderer = open_renderer(open_mockup(path))
        for address in renderer.mockup.by_address:
            renderer.rough_box(address)
            renderer.exact_box(address)


@pytest.mark.parametrize(
    "size", ['width="3" height="1e20"', 'viewBox="0 0 1e25 1e-5"', 'viewBox="0 0 1e-300 1e20"']
)
def test_drawings_that_are_lines_are_refused(size: str) -> None:
    text = f'<svg xmlns="http://www.w3.org/2000/svg" {size}><rect width="9" height="9"/></svg>'
    with pytest.raises(MockupError, match="no picture can be drawn of it"):
        tidied(text.encode(), "m.svg")
