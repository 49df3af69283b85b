"""A new version carried through a project: cutlists follow, hand edits win, nothing is lost."""

from __future__ import annotations

import json
import re
import shutil
import threading
from collections.abc import Callable, Iterator
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from conftest import Run
from making import Flat, tree, write_ora, write_project
from riffler.changes import carrying
from riffler.changes.addresses import addressed
from riffler.changes.calling import called_as_before
from riffler.changes.comparison import Changed, changed
from riffler.changes.merging import merged
from riffler.markup import remembered
from riffler.project.project import Project
from riffler.project.sealed import read_note, write_note
from riffler.workspace import Workspace

GREY = (90, 90, 90, 255)


def _layers(**moved: tuple[int, int, int, int]) -> list[Flat]:
    """A page in large squares; `moved` says where a layer is instead, by its name."""
    places = {
        "mark": (20, 10, 40, 20), "tab": (100, 0, 80, 40), "glow": (100, 0, 80, 40),
        "photo": (20, 60, 160, 90), "one": (20, 180, 60, 60), "two": (100, 180, 60, 60),
        "three": (180, 180, 60, 60), "band": (0, 260, 300, 40),
    } | moved  # fmt: skip
    colors = {name: (20 * n, 255 - 20 * n, 40, 255) for n, name in enumerate(places)}
    lay = {name: Flat(name, box, colors[name]) for name, box in places.items()}
    lay["glow"] = Flat("glow", places["glow"], colors["glow"], more={"visibility": "hidden"})
    return [
        Flat("head", inside=[lay["mark"], Flat("nav", inside=[lay["glow"], lay["tab"]])]), lay["photo"],
        Flat("cards", inside=[lay["one"], lay["two"], lay["three"]]), lay["band"],
        Flat("ground", (0, 0, 300, 340), (250, 250, 240, 255)),
    ]  # fmt: skip


CUTLIST = """\
# What is cut of the page.
mockup = "../mockups/m.ora"

[guides.x]
left = 20            # the margin
[guides.y]
top   = 0
cards = 180          # the row begins
below = "cards + 60"

[slice.photo]        # the large one
x    = ["left", 180]
y    = [60, 150]
alt  = "Hives"

[slice.card]
x     = ["left", 80]
y     = ["cards", "below"]
times = { count = 3, x = 80 }
alts  = ["a", "b", "c"]

[slice.tab]
at   = [100, 0, 80, 40]
alt  = ""
link = "index"
hide = ["head/mark"]
[slice.tab.state.hover]
show = ["head/nav/glow"]

[slice.mark]
only = ["head/mark"]
alt  = ""
"""


def _project(riffler: Run, root: Path, cutlist: str = CUTLIST) -> Path:
    write_project(root, {"cuts/m.toml": cutlist, "pages/index.html": "<p>x</p>"})
    write_ora(root / "mockups/m.ora", (300, 340), _layers())
    riffler("cut", cwd=root)
    return root


def _kept(root: Path) -> dict[str, bytes]:
    """All files of a project but those that may be deleted any time."""
    return {name: body for name, body in tree(root).items() if ".riffler/cache/" not in name}


def _renamed(layers: list[Flat], old: str, new: str) -> list[Flat]:
    return [
        Flat(
            new if one.name == old else one.name, one.box, one.color,
            inside=None if one.inside is None else _renamed(list(one.inside), old, new), more=one.more,
        )
        for one in layers
    ]  # fmt: skip


def _without(layers: list[Flat], name: str) -> list[Flat]:
    return [
        Flat(one.name, one.box, one.color,
             inside=None if one.inside is None else _without(list(one.inside), name), more=one.more)
        for one in layers if one.name != name
    ]  # fmt: skip


ROW = {"one": (20, 204, 60, 60), "two": (100, 204, 60, 60), "three": (180, 204, 60, 60)}

#: What became of the mockup, and the lines of the cutlist that go and come.
FOLLOWED: dict[str, tuple[list[Flat], dict[str, str]]] = {
    "a box by its guide and its own edge": (
        _layers(photo=(20, 70, 170, 90)),
        {'x    = ["left", 180]': 'x    = ["left", 190]', "y    = [60, 150]": "y    = [70, 160]"},
    ),
    "a row by its guide": (
        _layers(**ROW),
        {"cards = 180          # the row begins": "cards = 204          # the row begins"},
    ),
    "one of two that share a guide": (
        _layers(photo=(26, 60, 160, 90)),
        {'x    = ["left", 180]': 'x    = ["left + 6", 186]'},
    ),
    "both that share a guide": (
        _layers(photo=(26, 60, 160, 90), one=(26, 180, 60, 60), two=(106, 180, 60, 60),
                three=(186, 180, 60, 60)),
        {'x    = ["left", 180]': 'x    = ["left", 186]', 'x     = ["left", 80]': 'x     = ["left", 86]',
         "left = 20            # the margin": "left = 26            # the margin"},
    ),
    "a place and a size": (
        _layers(tab=(110, 4, 90, 40), glow=(110, 4, 90, 40)),
        {"at   = [100, 0, 80, 40]": "at   = [110, 4, 90, 40]"},
    ),
    "what leans on a sum": (
        _layers(one=(20, 180, 60, 66), two=(100, 180, 60, 66), three=(180, 180, 60, 66)),
        {'y     = ["cards", "below"]': 'y     = ["cards", "below + 6"]'},
    ),
    "layers that are called otherwise": (
        _renamed(_renamed(_layers(), "glow", "lit"), "mark", "logo"),
        {'hide = ["head/mark"]': 'hide = ["head/logo"]', 'show = ["head/nav/glow"]': 'show = ["head/nav/lit"]',
         'only = ["head/mark"]': 'only = ["head/logo"]'},
    ),
    "a group that is called otherwise": (
        _renamed(_layers(), "head", "top"),
        {'hide = ["head/mark"]': 'hide = ["top/mark"]', 'show = ["head/nav/glow"]': 'show = ["top/nav/glow"]',
         'only = ["head/mark"]': 'only = ["top/mark"]'},
    ),
    "what nothing is cut of": (_layers(band=(0, 270, 300, 40)), {}),
}  # fmt: skip


@pytest.mark.parametrize("name", FOLLOWED)
def test_a_cutlist_follows_line_by_line(name: str, riffler: Run, tmp_path: Path) -> None:
    root = _project(riffler, tmp_path / "p")
    layers, lines = FOLLOWED[name]
    write_ora(root / "mockups/m.ora", (300, 340), layers)
    wanted = CUTLIST
    for old, new in lines.items():
        assert old in wanted
        wanted = wanted.replace(old, new)
    patch = riffler("changes", "--take", "--dry-run", cwd=root).stdout
    assert {line[1:] for line in patch.splitlines() if line[0] == "-" and line[:3] != "---"} == set(
        lines
    )
    assert (root / "cuts/m.toml").read_text() == CUTLIST
    riffler("changes", "--take", cwd=root)
    assert (root / "cuts/m.toml").read_text() == wanted
    assert "Nothing changed." in riffler("changes", cwd=root).stdout
    assert "nothing found" in riffler("survey", cwd=root).stdout
    ledger = tree(root / "out")
    riffler("cut", cwd=root)
    assert tree(root / "out") == ledger


def test_a_slice_without_layers_is_set_aside(riffler: Run, tmp_path: Path) -> None:
    root = _project(riffler, tmp_path / "p")
    write_ora(root / "mockups/m.ora", (300, 340), _without(_layers(), "mark"))
    data = json.loads(riffler("changes", "--take", "--json", "--dry-run", cwd=root).stdout)
    (aside,) = data["put_aside"]
    assert (aside["slice"], aside["state"], aside["layer"]) == ("mark", None, "head/mark")
    said = riffler("changes", "--take", cwd=root).stdout
    assert 'slice.tab.hide: "head/mark" is gone, and named no more' in said
    assert 'slice mark: a comment now, since "head/mark" is gone' in said
    cutlist = (root / "cuts/m.toml").read_text()
    block = CUTLIST[CUTLIST.index("[slice.mark]") :].splitlines()
    assert cutlist.splitlines()[-len(block) :] == [f"# {line}" for line in block]
    assert not list((root / "out").rglob("mark*"))
    assert list((root / "out").rglob("photo*"))


def test_what_shows_a_slice_without_layers_is_set_aside(riffler: Run, tmp_path: Path) -> None:
    root = _project(riffler, tmp_path / "p")
    page = root / "pages/index.html"
    page.write_text('<p>{{ inlay("mark", alt="") }}</p>\n{{ inlay("photo") }}\n')
    riffler("build", cwd=root)
    write_ora(root / "mockups/m.ora", (300, 340), _without(_layers(), "mark"))
    said = riffler("changes", "--take", cwd=root, code=1).stdout
    assert 'pages/index.html, line 1: "mark" is gone: it is a comment now' in said
    assert page.read_text() == '<p>{# inlay("mark", alt="") #}</p>\n{{ inlay("photo") }}\n'
    assert "<p></p>" in (root / "out/index.html").read_text()


def test_a_slice_that_data_still_names_stands_in_the_way(riffler: Run, tmp_path: Path) -> None:
    root = _project(riffler, tmp_path / "p")
    (root / "pages/index.html").write_text('<p>\n{{ inlay("ma" ~ "rk") }}\n')
    riffler("build", cwd=root)
    write_ora(root / "mockups/m.ora", (300, 340), _without(_layers(), "mark"))
    before = _kept(root)
    said = riffler("changes", "--take", cwd=root, code=2).stderr
    assert "pages/index.html, line 2" in said
    assert '"mark"' in said
    assert _kept(root) == before, "a part of it was written"


def test_layers_that_are_gone_are_no_mistake_of_the_cutlist(riffler: Run, tmp_path: Path) -> None:
    said = 'words = ["head/mark"]\n[page]\nleave = ["head/mark"]\n[says]\n"head/mark" = "M"\n'
    cutlist = CUTLIST.replace("\n\n[guides.x]", f"\n{said}[guides.x]", 1)
    root = _project(riffler, tmp_path / "p", cutlist)
    write_ora(root / "mockups/m.ora", (300, 340), _without(_layers(), "mark"))
    assert "mark: gone" in riffler("changes", cwd=root, code=1).stdout
    said = riffler("changes", "--take", cwd=root).stdout
    for key in ("words", "page.leave", "says.head/mark", "slice.tab.hide"):
        assert f'{key}: "head/mark" is gone, and named no more' in said
    riffler("cut", cwd=root)


def test_a_row_of_which_one_went_its_own_way_is_left(riffler: Run, tmp_path: Path) -> None:
    root = _project(riffler, tmp_path / "p")
    write_ora(root / "mockups/m.ora", (300, 340), _layers(three=(200, 180, 60, 60)))
    data = json.loads(riffler("changes", "--take", "--json", cwd=root, code=1).stdout)
    assert (data["is_dry"], data["edited"]) == (False, [])
    assert [(one["what"], one["why"][:21]) for one in data["left"]] == [
        ("slice card-3", "it leans on another s")
    ]


def test_another_size_is_left(riffler: Run, tmp_path: Path) -> None:
    root = _project(riffler, tmp_path / "p")
    write_ora(root / "mockups/m.ora", (600, 680), _layers())
    said = riffler("changes", "--take", cwd=root, code=1).stdout
    assert "draft it anew" in said
    assert (root / "cuts/m.toml").read_text() == CUTLIST


def test_what_two_mockups_share_stays(riffler: Run, tmp_path: Path) -> None:
    shared = '[slice.photo]\nat = [20, 60, 160, 90]\nalt = ""\n'
    root = write_project(tmp_path / "p", {
        "cuts/m.toml": 'mockup = "../mockups/m.ora"\ninclude = ["_all.toml"]\n',
        "cuts/n.toml": 'mockup = "../mockups/n.ora"\ninclude = ["_all.toml"]\n',
        "cuts/_all.toml": shared,
    })  # fmt: skip
    for name in ("m", "n"):
        write_ora(root / f"mockups/{name}.ora", (300, 340), _layers())
    riffler("cut", cwd=root)
    write_ora(root / "mockups/m.ora", (300, 340), _layers(photo=(20, 66, 160, 90)))
    said = riffler("changes", "--take", cwd=root, code=1).stdout
    assert "slice photo: it is shared with another mockup" in said
    assert (root / "cuts/_all.toml").read_text() == shared


def _pair(tmp_path: Path, old: list[Flat], new: list[Flat]) -> Changed:
    paths = [write_ora(tmp_path / f"{n}.ora", (300, 340), one) for n, one in enumerate((old, new))]
    workspace = Workspace.around(paths[0])
    return changed(workspace, workspace.open(paths[0]), workspace.open(paths[1]))


ASIDE = '# Not cut: "band" is gone, and nothing else of it shows.\n'


@pytest.mark.parametrize(
    ("said", "wanted", "lost"),
    [
        ('hide = ["cards/*"]', 'hide = ["items/*"]', ""),
        ('hide = ["**/one"]', 'hide = ["**/one"]', ""),
        ('hide = ["kind:words"]', 'hide = ["kind:words"]', ""),
        ('words = ["cards/one", "mark"]', 'words = ["items/one"]', "let go"),
        ('show = ["band#2"]', 'show = ["band"]', ""),
        ('show = ["band"]', "", "let go"),
        ('[page]\nleave = ["band#2", "cards/one"]', '[page]\nleave = ["band", "items/one"]', ""),
        ('only = ["band"]', 'only = ["band"]', "needed"),
        (
            '[slice.a]\nonly = ["band"]\n[slice.a.state.hover]\nshow = ["band"]',
            f'{ASIDE}# [slice.a]\n# only = ["band"]\n# [slice.a.state.hover]\n# show = ["band"]',
            "aside",
        ),
        (
            '[slice.a]\nonly = ["photo"]\n[slice.a.state.hover]\nonly = ["band"]',
            f'[slice.a]\nonly = ["photo"]\n{ASIDE}# [slice.a.state.hover]\n# only = ["band"]',
            "aside",
        ),
        (
            '[slice.a]\ntimes = { around = ["photo", "band"] }\nalts = ["p", "b"]\nlinks = ["p", "b"]',
            '[slice.a]\ntimes = { around = ["photo"] }\nalts = ["p"]\nlinks = ["p"]',
            "let go",
        ),
        ('[says]\n"cards/one" = "Six"', '[says]\n"items/one" = "Six"', ""),
        ('[says]\nmark = "M"\n"cards/one" = "a"', '[says]\n"items/one" = "a"', "let go"),
        ('only = ["band", "photo"]', 'only = ["photo"]', "let go"),
        ("# only = 1\nonly = ['cards/two'] # why", '# only = 1\nonly = ["items/two"] # why', ""),
        ('alt = "cards/one"', 'alt = "cards/one"', ""),
    ],
)
def test_addresses_follow_names_and_numbers(
    said: str, wanted: str, lost: str, tmp_path: Path
) -> None:
    """The first of two bands is gone, so that the second one is called as it was."""
    bands = [Flat("band", (0, 300, 300, 9), (1, 2, 3, 255)), *_layers()]
    new = _renamed(_without(_layers(), "mark"), "cards", "items")
    done = addressed(said + "\n", _pair(tmp_path, bands, new))
    assert done.text == (wanted + "\n" if wanted else "")
    found = {"let go": done.let_go, "needed": done.needed, "aside": done.put_aside}
    assert [key for key, names in found.items() if names] == ([lost] if lost else [])


# By three ways.

LINES = st.lists(st.sampled_from(["a\n", "b\n", "c\n", "  color: red;\n", "}\n"]), max_size=12).map(
    "".join
)


@given(LINES, LINES)
def test_one_side_alone_is_taken_whole(base: str, other: str) -> None:
    assert merged(base, base, other).text == other
    assert merged(base, other, base).text == other
    assert merged(base, other, other).text == other
    assert not merged(base, base, other).disputes


@given(LINES, LINES, LINES)
def test_what_a_person_wrote_is_still_there(base: str, mine: str, theirs: str) -> None:
    """Every line that the person put in is in the result, as often at least."""
    done = merged(base, mine, theirs)
    for line in set(mine.splitlines()):
        added = mine.splitlines().count(line) - base.splitlines().count(line)
        gone = max(0, base.splitlines().count(line) - theirs.splitlines().count(line))
        kept_ones = done.text.splitlines().count(line)
        assert kept_ones >= min(added, mine.splitlines().count(line)) - gone * (added <= 0)


@pytest.mark.parametrize(
    ("base", "mine", "theirs", "text", "disputes"),
    [
        ("<p>One two</p>\n", '<p class="x">One two</p>\n', "<p>One three</p>\n", '<p class="x">One three</p>\n', 0),
        ("<p>One two</p>\n", "<p>One four</p>\n", "<p>One three</p>\n", "<p>One four</p>\n", 1),
        ("a\nb\nc\n", "a\nmine\nb\nc\n", "a\nb\nC\n", "a\nmine\nb\nC\n", 0),
        ("a\nb\nc\n", "a\nc\n", "a\nB\nc\n", "a\nc\n", 1),
        ("a\nb\n", "a\r\nB\r\n", "A\nb\n", "A\r\nB\r\n", 0),
        (".a {\n  color: #111111;\n  top: 1px;\n}\n", ".a {\n  color: #111111;\n  top: 2px;\n}\n",
         ".a {\n  color: #222222;\n  top: 1px;\n}\n", ".a {\n  color: #222222;\n  top: 2px;\n}\n", 0),
        ("a\n", "a", "b\n", "a", 1),
        ("a\nz\n", "a\nmine\nz\n", "A\nB\nz\n", "A\nB\nmine\nz\n", 0),
        ("<p>one two</p>\n", "<p>one two three</p>\n", "<p>one TWO</p>\n", "<p>one TWO three</p>\n", 0),
        # what is put into another element takes a person's lines with it
        ("<a>\n  b\n</a>\n", "<a>\n  B\n</a>\n", "<div>\n  <a>\n    b\n  </a>\n</div>\n",
         "<div>\n  <a>\n    B\n  </a>\n</div>\n", 0),
        ("<div>\n  <a>\n    b\n  </a>\n</div>\n", "<div>\n  <a>\n    b\n    mine\n  </a>\n</div>\n",
         "<a>\n  b\n</a>\n", "<a>\n  b\n  mine\n</a>\n", 0),
        ("a\n  b\n", "a\n    b\n", "a\n  b\nc\n", "a\n    b\nc\n", 0),
        ("<p>one two</p>\n", "<p>one TWO</p>\n", "<p>one not two</p>\n", "<p>one not TWO</p>\n", 0),
    ],
)  # fmt: skip
def test_both_sides_in_one_text(
    base: str, mine: str, theirs: str, text: str, disputes: int
) -> None:
    done = merged(base, mine, theirs)
    assert done.text == text
    assert len(done.disputes) == disputes
    for one in done.disputes:
        assert one.mine in mine
        assert one.theirs in theirs


# Names.

BEFORE = {
    "pages/index.html": (
        '<h1 class="title">One</h1>\n<ul class="cards">\n{% for card in data.cards.list %}\n'
        '<p class="note{% if card.look %} {{ card.look }}{% endif %}">x</p>\n</ul>\n'
    ),
    "pages/about.html": '<h1 class="title">Us</h1>\n<p class="note-2">We</p>\n',
    "data/cards.toml": '[[list]]\nlook = "dark"\nlabel = "A"\n',
    "styles/site.css": (
        ":root {\n  --ink: #111111;\n}\n.title {\n  color: var(--ink);\n}\n\n.note-2 {\n  top: 1px;\n}\n"
    ),
}  # fmt: skip


@pytest.mark.parametrize(
    ("now", "wanted"),
    [
        ({"pages/index.html": {'"title"': '"title-2"'}, "pages/about.html": {'"title"': '"title-2"'},
          "styles/site.css": {".title": ".title-2"}}, {}),
        ({"pages/index.html": {'"note{': '"note-2{'}, "pages/about.html": {'"note-2"': '"note"'},
          "styles/site.css": {".note-2": ".note"}}, {}),  # two that changed their names
        ({"pages/index.html": {"data.cards.list": "data.cards_2.list"}, "data/cards.toml": "data/cards-2.toml"}, {}),
        ({"data/cards.toml": {'"dark"': '"darker"'}}, {}),
        ({"styles/site.css": {"--ink": "--black"}}, {}),
        # what is new has a name that nothing had
        ({"pages/index.html": {'<ul class="cards">': '<p class="note-2">new</p>\n<ul class="cards">'},
          "pages/about.html": {'"note-2"': '"note-3"'}, "styles/site.css": {".note-2": ".note-3"}},
         {"pages/index.html": {'<ul class="cards">': '<p class="note-3">new</p>\n<ul class="cards">'}}),
        ({"pages/index.html": {">One<": ">Two<"}}, {"pages/index.html": {">One<": ">Two<"}}),
    ],
)  # fmt: skip
def test_what_is_the_same_keeps_its_name(
    now: dict[str, dict[str, str] | str], wanted: dict[str, dict[str, str]]
) -> None:
    """`now` and `wanted` are BEFORE but for texts that are others, or the path of a file."""

    def changed_files(changes: dict[str, dict[str, str] | str]) -> dict[str, str]:
        files = {}
        for name, text in BEFORE.items():
            change = changes.get(name, {})
            for old, new in change.items() if isinstance(change, dict) else ():
                assert old in text
                text = text.replace(old, new)
            files[change if isinstance(change, str) else name] = text
        return files

    same = ["pages/about.html"]
    assert called_as_before(BEFORE, changed_files(now), same) == changed_files({**wanted})


# What was roughed out.

FONTS = Path(__file__).parents[1] / "src/riffler/demo/fernhollow/fonts"

DRAWING = (
    '<svg xmlns="http://www.w3.org/2000/svg" width="900" height="640">'
    '<rect width="900" height="640" fill="#f6ecd8"/>'
    '<g id="top"><rect width="900" height="80" fill="#33231a"/>'
    '<text x="50" y="50" font-family="Fraunces" font-size="26" font-weight="600" fill="#fbf4e4">Fernhollow</text></g>'
    '<text x="50" y="160" font-family="Fraunces" font-size="44" font-weight="600" fill="#3a2618">Honey of the year</text>'
    '<text x="50" y="210" font-family="Figtree" font-size="18" fill="#59412a">Poured by hand, sealed with wax.</text>'
    '<g id="box"><rect x="50" y="260" width="360" height="200" rx="12" fill="#fffaf0"/>'
    '<text x="80" y="310" font-family="Figtree" font-size="20" font-weight="600" fill="#3a2618">Clover</text>'
    '<text x="80" y="345" font-family="Figtree" font-size="16" fill="#6b5136">Light and mild</text></g>'
    '<g id="foot"><rect y="560" width="900" height="80" fill="#33231a"/>'
    '<text x="50" y="606" font-family="Figtree" font-size="14" fill="#e9d9bd">Mill Lane</text></g></svg>'
)  # fmt: skip

NEW = (
    DRAWING.replace("Honey of the year", "Honey of this year").replace("Light and mild", "Light, and mild")
    .replace('rx="12" fill="#fffaf0"', 'rx="12" fill="#f0f6ff"').replace('fill="#59412a"', 'fill="#804020"')
)  # fmt: skip


@pytest.fixture(scope="module")
def roughed_once(tmp_path_factory: pytest.TempPathFactory) -> Path:
    from conftest import run_here

    root = write_project(tmp_path_factory.mktemp("carried") / "p", {"riffler.toml": ""})
    (root / "mockups/m.ora").unlink()
    (root / "fonts").mkdir()
    for font in FONTS.glob("*.ttf"):
        shutil.copy(font, root / "fonts")
    (root / "mockups/home.svg").write_text(DRAWING)
    for command in (("draft", "mockups/home.svg"), ("rough",), ("cut",), ("build",)):
        run_here(*command, cwd=root)
    return root


@pytest.fixture
def site(roughed_once: Path, tmp_path: Path) -> Path:
    """A project that was roughed out, cut and built."""
    return Path(shutil.copytree(roughed_once, tmp_path / "site"))


def _by_hand(site: Path) -> None:
    """What a person does with what was roughed out."""
    page, styles, cuts = (
        site / "pages/index.html",
        site / "styles/pages/index.css",
        site / "cuts/home.toml",
    )
    page.write_text(page.read_text().replace("<h1", '<!-- mine -->\n  <h1 id="claim"'))
    styles.write_text(styles.read_text() + "\n.mine {\n  color: rebeccapurple;\n}\n")
    cuts.write_text("# mine\n" + cuts.read_text())


def test_words_and_colours_come_into_what_was_roughed_out(riffler: Run, site: Path) -> None:
    _by_hand(site)
    (site / "mockups/home.svg").write_text(NEW)
    said = riffler("changes", "--take", cwd=site).stdout
    page, styles = (
        (site / name).read_text() for name in ("pages/index.html", "styles/pages/index.css")
    )
    assert re.search(r'<!-- mine -->\s+<h1 id="claim"[^>]*>Honey of this year</h1>', page)
    assert "Light, and mild" in page
    assert "#f0f6ff" in styles
    assert "#fffaf0" not in styles
    assert styles.endswith(".mine {\n  color: rebeccapurple;\n}\n")
    assert (site / "cuts/home.toml").read_text().startswith("# mine\n")
    assert "The project follows the new version." in said
    assert "Honey of this year" in (site / "out/index.html").read_text()
    assert "Nothing changed." in riffler("changes", cwd=site).stdout
    (site / "mockups/home.svg").write_text(NEW.replace("this year", "next year"))
    riffler("changes", "--take", cwd=site)
    assert "Honey of next year</h1>" in (site / "pages/index.html").read_text()


def test_a_hand_edit_of_the_same_words_wins(riffler: Run, site: Path) -> None:
    page = site / "pages/index.html"
    mine = page.read_text().replace("Honey of the year</h1>", "Honey, mostly</h1>")
    page.write_text(mine)
    (site / "mockups/home.svg").write_text(NEW)
    said = riffler("changes", "--take", cwd=site, code=1).stdout
    assert "Honey, mostly</h1>" in page.read_text()
    assert "Light, and mild" in page.read_text()
    assert "Yours stays where both changed:" in said
    line = mine.splitlines().index(next(one for one in mine.splitlines() if "mostly" in one)) + 1
    assert f"pages/index.html:{line}" in said
    assert re.search(r"yours\s+.*Honey, mostly", said)
    assert re.search(r"theirs\s+.*Honey of this year", said)


def test_a_dry_run_says_the_same_as_a_patch_and_writes_nothing(riffler: Run, site: Path) -> None:
    _by_hand(site)
    (site / "mockups/home.svg").write_text(NEW)
    before = tree(site)
    patch = riffler("changes", "--take", "--dry-run", cwd=site).stdout
    assert tree(site) == before
    assert "+  background: #f0f6ff;" in patch
    riffler("changes", "--take", cwd=site)
    for name in ("pages/index.html", "styles/pages/index.css"):
        gone = [
            line[1:] for line in patch.splitlines() if line.startswith("-") and line[:3] != "---"
        ]
        now = (site / name).read_text().splitlines()
        assert not [line for line in gone if line in now and before[name].decode().count(line) == 1]


def test_files_that_a_person_took_away_stay_away(riffler: Run, site: Path) -> None:
    (site / "pages/index.html").unlink()
    (site / "pages/other.html").write_text("<p>mine</p>\n")
    (site / "mockups/home.svg").write_text(NEW)
    data = json.loads(riffler("changes", "--take", "--json", cwd=site, code=1).stdout)
    assert [one["file"] for one in data["left"]] == ["pages/index.html"]
    assert not (site / "pages/index.html").exists()


def _points(monkeypatch: pytest.MonkeyPatch) -> Iterator[Callable[[int], None]]:
    """Stops what writes before its n-th file."""
    from riffler import files

    whole = files._aside
    count = 0

    def stopped_at(stop: int) -> None:
        nonlocal count
        count = 0

        def aside(*arguments: object, **named: object) -> object:
            nonlocal count
            count += "/riffler-" not in str(arguments[0])  # a copy, or the secret
            if count == stop:
                raise KeyboardInterrupt
            return whole(*arguments, **named)  # type: ignore[arg-type]

        monkeypatch.setattr(files, "_aside", aside)

    yield stopped_at
    monkeypatch.setattr(files, "_aside", whole)


def test_who_is_stopped_anywhere_can_go_on(
    riffler: Run, site: Path, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    _by_hand(site)
    (site / "mockups/home.svg").write_text(NEW)
    straight = Path(shutil.copytree(site, tmp_path / "straight"))
    riffler("changes", "--take", cwd=straight)
    names = (
        "pages/index.html",
        "styles/pages/index.css",
        "cuts/home.toml",
        "out/index.html",
        ".riffler/roughed.json",
    )
    wanted = {name: (straight / name).read_bytes() for name in names}
    for stop in range(1, 40, 2):
        here = Path(shutil.copytree(site, tmp_path / f"stopped-{stop}"))
        for stopped_at in _points(monkeypatch):
            stopped_at(stop)
            ended = riffler("changes", "--take", cwd=here, code=None).returncode
        mine = (here / "styles/pages/index.css").read_text()
        assert "rebeccapurple" in mine
        if ended == 0:
            break
        assert ended == 130
        riffler("changes", "--take", cwd=here)
        assert {name: (here / name).read_bytes() for name in names} == wanted
        assert not (here / ".riffler/taking.json").exists()
        shutil.rmtree(here)
    else:
        pytest.fail("it was stopped every time")
    assert stop > 8


def test_what_is_saved_meanwhile_stays(
    riffler: Run, roughed_once: Path, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    for stopped_at in _points(monkeypatch):
        for stop in range(2, 40):  # until it is between two files
            site = Path(shutil.copytree(roughed_once, tmp_path / f"{stop}"))
            (site / "mockups/home.svg").write_text(NEW)
            stopped_at(stop)
            riffler("changes", "--take", cwd=site, code=130)
            if "#f0f6ff" in (site / "styles/pages/index.css").read_text():
                break
    assert carrying.is_stopped(Project.at(site))
    page = site / "pages/index.html"
    mine = "<p>mine alone</p>\n"
    page.write_text(mine)
    said = riffler("changes", "--take", cwd=site, code=2).stderr
    assert "pages/index.html: changed meanwhile, and left as it is." in said
    assert page.read_text() == mine
    assert "#f0f6ff" in (site / "styles/pages/index.css").read_text()
    assert not carrying.is_stopped(Project.at(site))


def _change(file: object, after: object = "x", **more: object) -> dict[str, object]:
    """A record that writes one file anew."""
    change = {"file": file, "before": "", "after": after, "is_new": True}
    return {"shape": 2, "mockups": {}, "files": [change], "runs": None, **more}


#: Records that are not obeyed, whoever sealed them.
WRONG: dict[str, object] = {
    "of another shape": {"shape": 1, "mockups": {}, "files": [], "runs": None},
    "no object": [],
    "a file that is no text": _change(5),
    "no texts": _change("pages/new.html", 2),
    "runs that are none": _change("pages/new.html", runs=5),
    "runs of other files": _change("pages/new.html", runs='{"shape": 2, "runs": [{}]}'),
    "mockups in a list": _change("pages/new.html", mockups=[["mockups/home.svg", "1"]]),
    "half a pair": _change("pages/new.html", "\ud800"),
    "a zero byte": _change("pages/new\0.html"),
    "beyond the project": _change("../outside.html"),
    "beyond it by a page": _change("pages/../../outside.html"),
    "through the output": _change("out/../pages/new.html"),
    "a hidden folder": _change("pages/.git/config.html"),
    "a hidden file": _change(".git/config"),
    "a mockup": _change("mockups/home.svg"),
    "by way of a link": _change("pages/away/new.html"),
    "settings": _change("riffler.toml"),
    "a script": _change("scripts/new.js"),
    "a folder": _change("cuts"),
}


@pytest.mark.parametrize("name", WRONG)
def test_a_record_that_is_wrong_is_put_aside_with_a_word(
    name: str, site: Path, riffler: Run, tmp_path: Path
) -> None:
    (tmp_path / "away").mkdir()
    (site / "pages/away").symlink_to(tmp_path / "away")
    taking, before = site / ".riffler/taking.json", tree(tmp_path, hidden=False)
    write_note(taking, json.dumps(WRONG[name]).encode(), is_here=True)
    said = riffler("changes", "--take", cwd=site).stderr
    assert "taking.json is not what this machine noted" in said
    assert (tree(tmp_path, hidden=False), taking.exists()) == (before, False)
    assert "taking.json" not in riffler("changes", "--take", cwd=site).stderr


@pytest.mark.parametrize("how", ["no seal", "another's seal", "a copy", "of another project"])
def test_only_what_this_machine_noted_here_is_obeyed(
    how: str, site: Path, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    here, taking = site, site / ".riffler/taking.json"
    record = json.dumps(_change("pages/new.html")).encode()
    if how == "another's seal":
        with monkeypatch.context() as patch:
            patch.setenv("XDG_STATE_HOME", str(tmp_path / "theirs"))
            write_note(taking, record, is_here=True)
    else:
        write_note(taking, record, is_here=True)
    if how == "no seal":
        taking.write_bytes(record)
    if how == "a copy":
        here = Path(shutil.copytree(site, tmp_path / "copy"))
    if how == "of another project":
        here = tmp_path / "other"
        shutil.copytree(site, here, ignore=shutil.ignore_patterns(".riffler"))
        write_note(here / ".riffler/lying.json", b"{}")
        shutil.copy(taking, here / ".riffler")
    assert not carrying.resume(Project.at(here))
    assert not (here / "pages/new.html").exists()
    if here is not site:  # where it was noted it counts
        assert carrying.resume(Project.at(site))
        assert (site / "pages/new.html").read_text() == "x"


def test_what_was_roughed_out_is_remembered(site: Path) -> None:
    (run,) = remembered.runs(Project.at(site))
    assert run.mockups == ("mockups/home.svg",)
    assert run.unit == "px"
    assert run.files["pages/index.html"] == (site / "pages/index.html").read_text()
    assert run.before.shell is None
    notes = site / ".riffler/roughed.json"
    sound = read_note(notes) or b""
    others = [sound.replace(b"pages/index.html", name) for name in
              (b"../index.html", b"out/index.html", b"pages/.index.html", b"pages/index.js")]  # fmt: skip
    for damaged in (b"", b"[]", *others, sound.replace(b"mockups/home", b"../home")):
        assert damaged != sound
        write_note(notes, damaged)
        assert remembered.runs(Project.at(site)) == []
        assert not notes.exists()


@pytest.mark.parametrize("identity", ["none", "damaged"])
def test_many_who_note_first_are_all_obeyed(
    identity: str, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    """None of them puts an identity or a secret aside under which another has sealed its notes."""
    for trial in range(20):
        monkeypatch.setenv("XDG_STATE_HOME", str(tmp_path / f"state-{trial}"))
        work = tmp_path / f"{trial}/.riffler"
        work.mkdir(parents=True)
        if identity == "damaged":
            (work / "identity").write_bytes(b"\0" * 32)
        gate = threading.Barrier(4)

        def note(name: str, work: Path = work, gate: threading.Barrier = gate) -> None:
            gate.wait()
            write_note(work / name, name.encode())

        with ThreadPoolExecutor(4) as pool:
            list(pool.map(note, "abcd"))
        assert [read_note(work / name) for name in "abcd"] == [b"a", b"b", b"c", b"d"]
