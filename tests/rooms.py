"""The rooms of the code: what goes in and comes out, and which rooms each may import.

The one table of it: `test_rooms.py` holds the code to it, and `python tests/rooms.py` writes it into
`docs/architecture.md`.
"""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import Path

DOCUMENT = Path(__file__).parents[1] / "docs/architecture.md"
BEGIN, END = "<!-- rooms: written by tests/rooms.py -->\n", "<!-- end of rooms -->\n"


@dataclass(frozen=True)
class Room:
    """What a room is for, and the rooms that it may import, from the top."""

    what: str
    may: tuple[str, ...] = ()


def _room(what: str, may: str = "") -> Room:
    return Room(what, tuple(may.split()))


#: From the top: a room may import from some of the rooms above it, and from itself.
ROOMS = {
    "geometry": _room("boxes, sizes and points; arithmetic and nothing else"),
    "errors": _room("what can go wrong for a person"),
    "formats": _room("the names of formats, and what each can hold"),
    "hexcolor": _room("colours as people write them"),
    "csslength": _room("numbers → numbers and lengths as CSS writes them"),
    "color": _room(
        "the one pixel type, and the way in and out of 8 bits",
        "hexcolor",
    ),
    "sides": _room("boxes → their sides as rows, to hold a box against all at once", "geometry"),
    "files": _room("the one way to write and delete files, whole or not at all", "errors"),
    "processes": _room("what is to run beside us → a process, started in the one isolated way"),
    "digests": _room("texts and files → SHA-256"),
    "plain": _room("results → what JSON holds, texts → what can be shown of them", "files"),
    "project": _room(
        "a folder with `riffler.toml` → a `Project`: settings, limits, places, its lock. `written` turns any "
        "TOML that people write into a checked model, with the line of every mistake",
        "errors formats hexcolor files",
    ),
    "mockup": _room(
        "a file → a `Mockup`: a tree of layers with addresses, words, fonts, and its `nature`. One "
        "reader a format: `openraster`, `svg/`, `flat`; `opening` picks by the first bytes",
        "geometry errors files digests project",
    ),
    "render": _room(
        "layers → pixels: one `Renderer` that remembers, over an `Engine` for pixels (`layered`) and "
        "one for vectors (`vector`)",
        "geometry sides errors color files processes digests project mockup",
    ),
    "analyse": _room(
        "boxes and pixels → findings: the column grid, fills, outlines, shadows, lettering, textures, "
        "what repeats",
        "geometry color render",
    ),
    "cutlist": _room(
        "a written cutlist → `ResolvedSlice`s: `model` says what may be written, `file` puts a cutlist "
        "and what it includes together, `roles` what becomes of a slice, `shown` which layers are on, "
        "`boxes` where it lies; `resolve` settles all of it. `editing` changes the text and nothing "
        "but what is meant",
        "geometry errors hexcolor files plain project mockup render",
    ),
    "workspace": _room(
        "a project, or none → mockups opened in the one way there is (`Workspace.open`); `prepare` → "
        "every cutlist with its mockup open and its slices resolved; `lying` what moved since a cut, "
        "`kept` the versions that were cut",
        "geometry errors files digests plain project mockup render cutlist",
    ),
    "encode": _room(
        "pixels → the bytes of a file: a `codec` a format, `visible` scores what is seen of a loss, "
        "`search` and `few_colors` find the smallest file under it, `auto` the formats",
        "formats color",
    ),
    "reading": _room(
        "a mockup → what is understood of it, as data: what each drawing is and why (`judgement`, with "
        "the measured style), words, things to click, rows, states, layout; `squares` are what icons of a vector were drawn on, `seats` the boxes of those in pixels; `look` is the first look",
        "geometry sides color mockup render analyse cutlist workspace",
    ),
    "typeset": _room(
        "text in pixels → what it says and how it was set: `ink` by lines, `tesseract` reads it, `proofreading` and "
        "`signs` hold it against letters, the "
        "face of which drawn letters (`glyphs`) lie best on it (`fit`, `choose`), or its `shape`; "
        "`layers` for texts of a mockup",
        "geometry errors color processes mockup analyse cutlist reading",
    ),
    "measure": _room(
        "a mockup → its numbers: `things` by name, `distances` between boxes, `frame` of the content, the `css` of a thing, in `units`; `answer` puts them together",
        "geometry errors csslength color project mockup analyse cutlist workspace reading typeset",
    ),
    "roles": _room(
        "a slice's box and role → its pictures, by one pure function a role; `joints` where they touch",
        "geometry sides color analyse cutlist",
    ),
    "tokens": _room(
        "mockups → the values that they use again and again: `gather` finds them, `collecting` makes "
        "equal ones one, `token_names` gives names, `grounds` the contrast of text; "
        "`custom_properties` and "
        "`interchange` write them, `pinning` keeps names",
        "geometry sides hexcolor color files plain project mockup render analyse workspace reading "
        "typeset measure roles",
    ),
    "output": _room(
        "made files → the output folder and its ledger: `asset` has the kinds of what is made, `publish` "
        "loses nothing that was written by hand",
        "geometry errors files digests plain project",
    ),
    "webfonts": _room(
        "font files → web fonts: `facts` of a face, what `using` it the mockups' text does, the `characters` that pages need, a `subset` of them, a `fallback` that takes as much room, and their `style_sheet`",
        "errors files plain project mockup workspace measure output",
    ),
    "cutsheet": _room(
        "a project → the data of its cut sheet: `gather` reads mockups, tokens and ledger, `thumbnails` "
        "draws, `packing` makes an archive",
        "geometry errors color files plain project mockup render analyse cutlist workspace reading "
        "measure tokens output webfonts",
    ),
    "jobs": _room(
        "tasks → results: what a `task` is, the `cache` of what earlier runs made, the `runner`, `helper` processes",
        "geometry errors color files processes digests plain project render workspace output",
    ),
    "sprite": _room(
        "pictures → one file for many: `packing` finds places, `sheet` draws and writes the CSS",
        "geometry errors formats color plain project workspace encode output jobs",
    ),
    "tidy": _room(
        "an SVG → a smaller one that looks the same: a module a pass, put in order by `tidying`; paths "
        "are read, simplified and written by `path_data`, `path_shape`, `path_text`",
        "errors digests project mockup",
    ),
    "vector": _room(
        "layers `taken` out of a vector mockup, tidied and `checked` against their source, "
        "made `for_page`; `slices`, `symbols` and `loader` plan tasks",
        "geometry errors formats color files plain project mockup render cutlist workspace roles "
        "output jobs sprite tidy",
    ),
    "icon": _room(
        "a mark, a file or `letters` → all files of a site's icon: `art` at any side, `icon_files` the set, "
        "`judged` what is left of it when small",
        "geometry errors hexcolor color files project mockup render cutlist workspace encode output "
        "jobs tidy vector",
    ),
    "cutting": _room(
        "a project → all that is made of its slices: `kinds` lists who plans tasks, `cut` plans, "
        "runs and publishes; `unchanged` tells when there is nothing to do; `weigh`, `single`, "
        "`watching`",
        "geometry errors formats color files digests plain project mockup analyse cutlist workspace "
        "encode reading roles output jobs sprite vector icon",
    ),
    "plan": _room(
        "`draft/` makes a cutlist of a reading; `mark` edits one; `survey` runs `checks/` (one module "
        "and one registration each) over `subject`s, and `finding` tells one mistake from another",
        "geometry errors formats color files plain project mockup render analyse cutlist workspace reading "
        "vector "
        "typeset roles output",
    ),
    "markup": _room(
        "mockups → the first templates, styles and data of their pages: `setting` knows how texts are "
        "set, `areas` what is where and which slice shows it (`type_noise`: texts set alike; "
        "`grouping`, `turning`, `evening`, `whole_pixels`, `wrap`, `fading`: what is meant by where things stand; `lifting` a bar upon the head), "
        "`zones`, `bands` and `elements` what it means (`tables`, `forms`, `controls`, `accordion`, `footers`, "
        "`runs`), `flow` how styles put it there (`rows`, `levels`, `lists`, `piles`), `same`, `twinning`, "
        "`absent` and `narrow` how a narrow mockup does, `marks` which page one is on, `loops`, `merging` and `row_fields` what repeats, `role_names` and `classes` what it is called, `sharing` what looks "
        "are one, `brevity` how few lines say it; `before` is what of the project is there, `shell` and `roughing` make files of it",
        "geometry sides errors formats files digests plain analyse cutlist project mockup workspace "
        "reading typeset measure tokens output webfonts",
    ),
    "site": _room(
        "templates, pieces and styles → pages; `images`, `stylesheet` and `inlay` write the HTML and CSS of one piece",
        "geometry errors formats csslength files plain project mockup cutlist workspace roles output sprite tidy vector",
    ),
    "proof": _room(
        "a folder of pages → what is wrong with it: `folder` reads pages, styles and names once, every other module is a kind of check, `proofread` runs them all",
        "errors hexcolor files digests",
    ),
    "fit": _room(
        "a page in a browser and a mockup → where they differ, what is at fault, what would be right: `expected` and `seen` are both sides, `pairing` matches them, `comparing` measures, `causes` tells roots from what follows, `remedies` tries values",
        "geometry errors hexcolor csslength color files processes digests plain project mockup render analyse cutlist workspace reading typeset tokens jobs markup",
    ),
    "mirror": _room(
        "pages that are roughed out → the same, looked at in a browser and mended before they are "
        "written: `stage` builds one with numbers, `standing` reads where all of it is, `deviations` how "
        "far that is off, `troubles` what goes wrong in other windows, `mending` and `shifting` what may put "
        "it right, `looking` tries it",
        "geometry errors files mockup workspace fit markup",
    ),
    "changes": _room(
        "two versions of a mockup → what changed: `version` has the drawings of one, `matching` says which is which, `comparing` what of each is another, `arrangement` what became of groups and names; `touching` what of a project that concerns, `following`, `rereading`, `calling`, `keeping` and `merging` what follows, `carrying` writes it and is never stopped in the middle",
        "geometry errors csslength color sides files digests plain project mockup analyse cutlist workspace reading typeset tokens output webfonts jobs cutting markup site mirror",
    ),
    "preview": _room(
        "a project → its pages in a browser on this machine: `refreshing` cuts and builds what "
        "changes, "
        "`server` answers, `overlay` lays the mockups over, `measuring` how they fit; `preview.js` is "
        "the page's part of it",
        "errors files processes cutlist project workspace measure cutting site",
    ),
    "report": _room(
        "results → what people look at: tables, trees, drawings, pages; shows, never computes",
        "geometry errors formats csslength color files plain project mockup render cutlist workspace encode reading measure tokens output webfonts cutsheet vector icon cutting plan markup site proof fit mirror changes",
    ),
    "cli": _room(
        "one thin module a command: parse, call the core, show the result. `command` has the "
        "options that all share",
        "errors formats files plain project cutlist workspace reading measure tokens output "
        "webfonts cutsheet tidy vector cutting plan markup site proof fit mirror changes preview report",
    ),
    "demo": _room("the shipped example, data only; `tools/draw_demo.py` draws its mockups"),
}  # fmt: skip


def table() -> str:
    """The rooms as the document shows them."""
    lines = ["| room | what goes in → what comes out |", "| --- | --- |"]
    lines += [f"| `{name}` | {room.what} |" for name, room in ROOMS.items()]
    return "\n".join(lines) + "\n"


def with_table(text: str) -> str:
    """The document with the table in its place."""
    head, _, rest = text.partition(BEGIN)
    _, _, tail = rest.partition(END)
    return head + BEGIN + table() + END + tail


if __name__ == "__main__":
    DOCUMENT.write_text(with_table(DOCUMENT.read_text(encoding="utf-8")), encoding="utf-8")
