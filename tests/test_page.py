"""The built page in a real browser: everything lies where the mockup has it."""

from __future__ import annotations

from pathlib import Path

from playwright.sync_api import Browser


def test_the_home_page_lies_on_the_mockup(built: Path, browser: Browser) -> None:
    page = browser.new_page(viewport={"width": 960, "height": 1320})
    page.goto((built / "out/index.html").as_uri())
    places = {
        ".banner img": (0, 0, 960, 440),
        "nav": (0, 440, 960, 56),
        ".piece-tab-workshops": (336, 440, 148, 56),
        ".intro": (40, 540, 560, 228),
        ".button": (72, 700, 168, 44),
        ".jars li >> nth=0": (40, 858, 280, 304),
        ".jars li >> nth=1": (340, 858, 280, 304),
        ".jars li >> nth=2": (640, 858, 280, 304),
        ".jars img >> nth=0": (104, 894, 152, 178),
        "footer": (0, 1208, 960, 112),
    }
    for selector, (x, y, width, height) in places.items():
        box = page.locator(selector).bounding_box()
        assert box is not None, selector
        for side, value in (("x", x), ("y", y), ("width", width), ("height", height)):
            assert abs(box[side] - value) <= 2, (selector, side, box)  # type: ignore[literal-required]
    images = "[...document.images].every(image => image.complete && image.naturalWidth > 0)"
    page.evaluate("document.querySelectorAll('[loading]').forEach(i => i.loading = 'eager')")
    page.wait_for_function(images)
    assert page.locator("h1").inner_text() == "Fernhollow Apiary"
    page.locator(".piece-tab-hives").click()
    assert page.title().startswith("Adopt a hive")
    assert page.locator("[aria-current]").inner_text() == "Hives"
