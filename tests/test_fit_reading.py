"""Both sides of a comparison: the pixels of a page, band by band, and a mockup, read once."""

from __future__ import annotations

import io
from pathlib import Path
from urllib.parse import quote

import numpy as np
import pytest
from PIL import Image
from playwright.sync_api import Browser

from making import Flat, write_ora, write_project
from planning import noise
from riffler.fit import expecting as module
from riffler.fit.browser import opened
from riffler.fit.camera import canvas
from riffler.fit.chromium import Chromium
from riffler.fit.expected import Expected
from riffler.fit.expecting import expected
from riffler.geometry import Box
from riffler.markup.area import Area
from riffler.markup.page_plan import areas_of
from riffler.reading.reading import Reading
from riffler.workspace import Opened, Workspace

FONTS = Path(module.__file__).parents[1] / "demo/fernhollow/fonts"

#: More than two bands high, its colours changing everywhere, something that stays where the window is.
HIGH = (
    "<!doctype html><title>t</title><style>* { margin: 0 } body { height: 2503px; "
    "background: linear-gradient(12deg, #33231a, #c8922e 40%, #3c5c2e) } p { font: 20px/200px serif } "
    "nav { position: fixed; inset: 0 0 auto; height: 40px; background: #fffaf0 }</style><nav></nav>"
    + "".join(f"<p>Row {n}</p>" for n in range(12))
)


@pytest.mark.parametrize("density", [1.0, 0.75, 1.25, 4 / 3, 1.5, 2.0])
def test_bands_are_the_page(browser: Browser, tmp_path: Path, density: float) -> None:
    page = tmp_path / "high.html"
    page.write_text(HIGH)
    with opened(Chromium(browser), page.as_uri(), 333, density) as window:
        (tab,) = browser.contexts[-1].pages
        data = tab.screenshot(full_page=True)
        whole = np.asarray(Image.open(io.BytesIO(data)).convert("RGBA"))
        on = canvas(333, 2503, density)
        assert (on.height, on.width) == whole.shape[:2]
        off = np.abs(window.camera.whole(on).astype(int) - whole)
        assert off.max() <= 1  # a browser rounds words between pixels now one way, now the other
        assert (off > 0).mean() < 0.001
        low = Box(5, on.height - 9, 20, 4)
        bands = list(window.camera.bands(on, [low]))
        assert [band.bottom for band, _ in bands] == [on.height]
        np.testing.assert_array_equal(window.camera.shot(low), whole[low.within(on)])


def test_what_has_no_ground_is_clear_meanwhile(browser: Browser, tmp_path: Path) -> None:
    page = tmp_path / "clear.html"
    page.write_text("<!doctype html><title>t</title><p style='background:#3c5c2e;width:9px'>.</p>")
    with opened(Chromium(browser), page.as_uri(), 200, 1.0) as window:
        with window.camera.on_nothing():
            assert window.camera.shot(Box(150, 0, 9, 9)).max() == 0
        assert window.camera.shot(Box(150, 0, 9, 9)).min() == 255


SHAPE = (
    '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 10 10"{0}><path d="M0 0h10v10H0z"/></svg>'
)

FILE = quote(SHAPE.format(' width="30" height="30"'))

#: Pictures in a room of 40 x 20 px, and the sides whose ratio they keep there.
ROOMY = [
    (SHAPE.format(' class="r"'), (10, 10)),
    (SHAPE.format(' class="r" preserveAspectRatio="none"'), (0, 0)),
    (f'<img class="r" src="data:image/svg+xml,{FILE}">', (30, 30)),
    ('<img class="r" src="p.png">', (0, 0)),
    ('<img class="r" src="p.png" style="object-fit: contain">', (8, 6)),
]


@pytest.mark.parametrize("body, kept", ROOMY)
def test_pictures_that_keep_their_ratio(
    browser: Browser, tmp_path: Path, body: str, kept: tuple[int, int]
) -> None:
    Image.new("RGB", (8, 6), "#3c5c2e").save(tmp_path / "p.png")
    page = tmp_path / "page.html"
    page.write_text(
        f"<!doctype html><title>t</title><style>.r {{ width: 40px; height: 20px }}</style>{body}"
    )
    with opened(Chromium(browser), page.as_uri(), 200, 1.0) as window:
        (picture,) = window.look().pictures
    assert picture.kept == kept
    assert picture.paint is not None
    assert picture.paint.width == pytest.approx(20 * kept[0] / kept[1] if kept[1] else 40, abs=1)


CUT = 'mockup = "../mockups/m.ora"\n[slice.photo]\nonly = ["photo"]\nalt = "x"\n'


def write(folder: Path) -> None:
    """A mockup of a photograph and a bar, and its cutlist."""
    write_project(folder, {"cuts/m.toml": CUT})
    picture = noise(3, 40, 30, 2.0)
    picture[..., 3] = 255
    write_ora(folder / "mockups/m.ora", (200, 100), [
        Flat("photo", (10, 10, 40, 30), pixels=picture), Flat("bar", (0, 60, 200, 20), (60, 92, 46, 255)),
        Flat("ground", (0, 0, 200, 100), (244, 234, 214, 255)),
    ])  # fmt: skip


def read(folder: Path, density: float | None = None, *, is_kept: bool = True) -> Expected:
    work = folder / ".riffler" if is_kept else None
    return expected(mockup_of(folder), density, work).wait()


def mockup_of(folder: Path) -> Opened:
    mockup = folder / "mockups/m.ora"
    return Workspace.around(mockup).open(mockup)


def test_a_mockup_is_read_once(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    """Again only where something changed that its things depend on, or what was kept is damaged."""
    read_anew: list[float] = []

    def spy(opened: Opened, reading: Reading) -> Area:
        read_anew.append(reading.density)
        return areas_of(opened, reading)

    monkeypatch.setattr(module, "areas_of", spy)
    write(tmp_path)
    first, again, anew = read(tmp_path), read(tmp_path), read(tmp_path, is_kept=False)
    assert read_anew == [1.0, 1.0]
    assert [(one.name, one.kind) for one in first.things] == [
        ("ground", "box"), ("photo", "picture"), ("bar", "box")
    ]  # fmt: skip
    assert again.things == first.things == anew.things
    assert again.looks.keys() == first.looks.keys() == {1}
    np.testing.assert_array_equal(again.looks[1], first.looks[1])
    np.testing.assert_array_equal(again.whole, anew.whole)
    read_anew.clear()

    read(tmp_path, 2.0)
    (tmp_path / "cuts/m.toml").write_text(f'{CUT}link = "#a"\n')
    read(tmp_path)
    picture = Flat("photo", (0, 60, 200, 21), (9, 9, 9, 255))
    write_ora(tmp_path / "mockups/m.ora", (200, 100), [picture])
    read(tmp_path)
    monkeypatch.setattr(module, "program", lambda: "another")
    read(tmp_path)
    assert read_anew == [2.0, 1.0, 1.0, 1.0]
    for entry in (tmp_path / ".riffler/cache").glob("??/*"):
        entry.write_bytes(entry.read_bytes()[:-5])
    read(tmp_path)
    assert len(read_anew) == 5


def test_new_typefaces_are_looked_at(tmp_path: Path) -> None:
    write(tmp_path)
    before = module.digest(mockup_of(tmp_path), 1.0)
    (tmp_path / "fonts").mkdir()
    (tmp_path / "fonts/own.ttf").write_bytes((FONTS / "figtree-400.ttf").read_bytes())
    assert module.digest(mockup_of(tmp_path), 1.0) != before
