"""Taking a new version: words in pixels are read again, and pages that did not change keep their files."""

from __future__ import annotations

from pathlib import Path

import pytest

from conftest import Run
from making import Flat, write_ora, write_project
from riffler.changes import rereading
from riffler.changes.change import Aspect, Change, ChangeKind
from riffler.changes.comparison import Changed
from riffler.changes.following import Followed
from riffler.changes.keeping import kept
from riffler.changes.version import Version
from riffler.cutlist.file import CutlistFile
from riffler.typeset.saying import SaidText
from riffler.workspace import Workspace

SAYS = """\
mockup = "../mockups/m.ora"

[slice.photo]
only = ["photo"]
alt = "Harbour"

[says]
name = "Harbour"
price = "Four pounds"
lead = "What I wrote"
"""


@pytest.mark.parametrize("is_here", [True, False])
def test_words_in_pixels_are_those_of_the_new_version(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch, is_here: bool
) -> None:
    root = write_project(tmp_path / "p", {"cuts/m.toml": SAYS})
    names = ("name", "price", "lead", "note", "photo")
    layers = [Flat(name, (10, 10 + 30 * n, 40, 20)) for n, name in enumerate(names)]
    path = write_ora(root / "mockups/m.ora", (200, 200), layers)
    file = CutlistFile.read(root / "cuts/m.toml")
    (opened,) = Workspace.around(path).meant([path])
    versions = Version(opened, 1.0), Version(opened, 1.0)
    changes = tuple(
        Change(ChangeKind.WORDS, name, name, aspects=(Aspect("text", was, now),))
        for name, was, now in (("name", "Harbor", "Meadow"), ("lead", "Drawn words", "Other words"))
    )
    added = Change(ChangeKind.ADDED, None, "note")
    changed = Changed(*versions, (), {}, (*changes, added))
    asked: list[set[str]] = []

    def read(*given: set[str]) -> dict[str, SaidText]:
        asked.append({*names} - given[2])
        return {"name": SaidText("Meadow"), "note": SaidText("New\nlines")}

    monkeypatch.setattr(rereading, "read_texts", read)
    monkeypatch.setattr(rereading, "is_here", lambda: is_here)
    followed = Followed({file.path: SAYS})
    result = rereading.reread(file, changed, followed)
    left = ["says.lead"] if is_here else ["says.lead", "says.name"]
    assert [one.what for one in followed.left] == left
    if not is_here:
        assert (result, asked, followed.texts) == ([], [], {file.path: SAYS})
        return
    assert asked == [{"name", "note"}]
    assert [(one.layer, one.was, one.now) for one in result] == [
        ("name", "Harbour", "Meadow"),
        ("note", "", "New\nlines"),
    ]
    wanted = SAYS.replace('"Harbour"', '"Meadow"') + 'note  = """\nNew\nlines"""\n'
    assert followed.texts == {file.path: wanted}


SHEET = """\
:root {
  --ink: #111111;
  --gold: #caa44a;
}

.title {
  color: var(--ink);
}

.card {
  border: 0;
}

@media (max-width: 640px) {
  .title,
  .card {
    margin: 0;
  }
}
"""

#: The class is another now, its colour gone, and what it was is in no rule.
NOW = (
    SHEET.replace("  --ink: #111111;\n", "")
    .replace("var(--ink)", "var(--gold)")
    .replace("  .title,\n", "")
)

KEPT = SHEET.replace(".card {", ".title-2 {\n  color: var(--gold);\n}\n\n.card {", 1).replace(
    "  .title,\n  .card {\n    margin: 0;\n  }\n",
    "  .card {\n    margin: 0;\n  }\n\n  .title {\n    margin: 0;\n  }\n",
)


def test_pages_that_did_not_change_keep_their_files_and_the_rules_that_these_need() -> None:
    before = {
        "pages/menu.html": '<p class="title">Wax</p>\n',
        "pages/index.html": '<h1 class="title">Honey</h1>\n<hr>\n',
        "styles/site.css": SHEET,
    }
    now = {
        "pages/menu.html": '<p class="lead">Wax</p>\n',
        "pages/index.html": '<h1 class="title">Honey and wax</h1>\n',
        "styles/site.css": NOW,
    }
    result = kept(before, now, ["pages/menu.html"])
    assert result["pages/menu.html"] == before["pages/menu.html"]
    assert result["pages/index.html"] == '<h1 class="title-2">Honey and wax</h1>\n'
    assert sorted(filter(None, result["styles/site.css"].split("\n"))) == sorted(
        filter(None, KEPT.split("\n"))
    )
    rules = [line for line in result["styles/site.css"].split("\n") if line.startswith((".", "@"))]
    assert rules[-2:] == [".card {", "@media (max-width: 640px) {"]
    assert kept(before, before, ["pages/menu.html"]) == before
    now["pages/menu.html"] = '<p class="lead">Tea</p>\n'
    assert kept(before, now, []) == now


def test_a_take_says_which_words_are_others(riffler: Run, tmp_path: Path) -> None:
    root = write_project(tmp_path / "p", {"cuts/m.toml": SAYS.partition("[says]")[0]})
    layers = [
        Flat("photo", (10, 10, 40, 20)),
        Flat("ground", (0, 0, 200, 200), (240, 230, 210, 255)),
    ]
    write_ora(root / "mockups/m.ora", (200, 200), layers)
    riffler("cut", cwd=root)
    write_ora(root / "mockups/m.ora", (200, 200), [Flat("photo", (30, 10, 40, 20)), layers[1]])
    told = riffler("changes", "--take", "--json", cwd=root).stdout
    assert '"reread": []' in told
