"""The ledger: there and back, kinds that are not known, ledgers of earlier and later versions."""

from __future__ import annotations

import json
from dataclasses import fields
from pathlib import Path
from typing import Any, get_args, get_type_hints

import jsonschema
import pytest
from hypothesis import given, settings
from hypothesis import strategies as some

import riffler
import write_schema
from conftest import Run
from making import Flat, tree, write_project
from riffler.errors import OutputError
from riffler.geometry import Box, CssSize, Point, Size
from riffler.output.asset import (
    KINDS,
    Asset,
    CopyAsset,
    CutAsset,
    FontAsset,
    IconAsset,
    LoaderAsset,
    OtherAsset,
    PageAsset,
    Region,
    SpriteAsset,
    StyleAsset,
    SymbolsAsset,
)
from riffler.output.ledger import Ledger

SCHEMA = json.loads(
    (Path(riffler.__file__).parent / "output/ledger.schema.json").read_text(encoding="utf-8")
)

SIDES = some.integers(1, 9000)
BOXES = some.builds(Box, some.integers(-99, 9000), some.integers(-99, 9000), SIDES, SIDES)
HALVES = some.integers(1, 9000).map(lambda number: number / 2)
NAMES = some.text("abc-0", min_size=1, max_size=6).map(lambda text: f"a{text}")

COMMON: dict[str, Any] = {
    "url": NAMES,
    "bytes": some.integers(0, 10**7),
    "sha256": some.just("0f" * 32),
    "made_by": some.sampled_from(["cut", "build"]),
}

PICTURE: dict[str, Any] = {
    "slice": NAMES, "format": some.sampled_from(["png", "jpeg"]), "mockup": NAMES, "place": BOXES,
    "density": some.sampled_from([1.0, 1.5, 2.0]),
}  # fmt: skip

ASSETS = some.one_of(
    some.builds(
        CutAsset, **COMMON, **PICTURE,
        role=some.sampled_from(["picture", "icon", "tile"]),
        pixels=some.builds(Size, SIDES, SIDES), css=some.builds(CssSize, HALVES, HALVES),
        state=some.none() | NAMES, part=some.none() | some.just("middle"),
        when=some.none() | NAMES, size=some.none() | some.just("2x"),
        focal=some.none() | some.builds(Point, some.floats(0, 1), some.floats(0, 1)),
        setting=some.dictionaries(NAMES, some.integers(0, 9) | NAMES, max_size=2),
        loss=some.none() | some.floats(0, 1), file=NAMES,
    ),
    some.builds(IconAsset, **COMMON, **PICTURE, rel=some.just("icon"), file=NAMES,
                sizes=some.lists(SIDES, min_size=1, max_size=3).map(tuple)),
    some.builds(PageAsset, **COMMON, template=NAMES, file=NAMES),
    some.builds(StyleAsset, **COMMON, file=NAMES),
    some.builds(CopyAsset, **COMMON, use=some.sampled_from(["style", "font"]), source=NAMES,
                file=NAMES),
    some.builds(FontAsset, **COMMON, family=NAMES, weight=some.just("400"), source=NAMES,
                style=some.sampled_from(["normal", "italic"]), file=NAMES),
    some.builds(SpriteAsset, **COMMON, name=NAMES, format=some.just("png"), file=NAMES,
                pixels=some.builds(Size, SIDES, SIDES), css=some.builds(Size, SIDES, SIDES),
                size=some.just("2x"), members=some.dictionaries(NAMES, BOXES, max_size=2)),
    some.builds(SymbolsAsset, **COMMON, name=NAMES, file=NAMES,
                members=some.dictionaries(NAMES, some.builds(CssSize, HALVES, HALVES), max_size=2)),
    some.builds(LoaderAsset, **COMMON, name=NAMES, dots=some.integers(0, 9), text=NAMES, file=NAMES),
    some.builds(OtherAsset, **COMMON, kind=some.just("scroll"), file=NAMES,
                facts=some.dictionaries(some.just("of"), NAMES)),
)  # fmt: skip

REGIONS = some.builds(
    Region, NAMES, NAMES, BOXES, some.builds(CssSize, HALVES, HALVES), some.just("#0a0b0c"),
    some.none() | NAMES,
)  # fmt: skip


@given(some.lists(ASSETS, max_size=5, unique_by=lambda a: a.file), some.lists(REGIONS, max_size=3))
@settings(max_examples=80)
def test_there_and_back(
    tmp_path_factory: pytest.TempPathFactory, assets: list[Asset], regions: list[Region]
) -> None:
    ledger = Ledger(tuple(assets), tuple(regions))
    out = tmp_path_factory.mktemp("out")
    (out / "ledger.json").write_bytes(ledger.to_bytes())
    back = Ledger.read(out)
    assert back.by_file == ledger.by_file
    assert set(map(repr, back.words)) == set(map(repr, ledger.words))
    assert back.to_bytes() == ledger.to_bytes()
    written = json.loads(ledger.to_bytes())
    jsonschema.Draft202012Validator(SCHEMA).validate(written)
    text = ledger.to_bytes().decode()
    assert "null" not in text  # what is not known is left out
    assert '""' not in text


def test_the_schema_is_what_the_classes_say() -> None:
    assert write_schema.FILE.read_text(encoding="utf-8") == write_schema.text()
    for kind in KINDS:  # each is known by name, and by nothing but its own keys
        name = get_args(get_type_hints(kind)["kind"])[0]
        assert set(SCHEMA["$defs"][name]["properties"]) == {field.name for field in fields(kind)}
    with pytest.raises(TypeError, match="slice"):
        CutAsset(**{field.name: None for field in fields(CutAsset) if field.name != "slice"})  # type: ignore[arg-type]


def test_what_a_run_answers_for_is_replaced() -> None:
    def page(name: str, words: int = 1) -> PageAsset:
        return PageAsset(
            file=name, url=name, bytes=words, sha256="0f" * 32, made_by="build", template=name
        )

    ledger = Ledger((page("a"), page("b"), page("c")))
    after = ledger.replaced([page("a")], [page("b", 7), page("d")])
    assert {asset.file: asset.bytes for asset in after.assets} == {"b": 7, "c": 1, "d": 1}


@pytest.mark.parametrize(
    "data, says",
    [
        (b"", "can't be read as a ledger: "),
        (b"[]", "can't be read as a ledger: "),
        (b"{}", "can't be read as a ledger: "),
        (b"[" * 9000, "can't be read as a ledger: "),
        (b'{"ledger": 5, "assets": [], "words": []}', "a later version wrote it"),
        (b'{"ledger": 4, "assets": [{}], "words": []}', "can't be read as a ledger: "),
        (
            b'{"ledger": 4, "assets": [{"kind": "page"}], "words": []}',
            "can't be read as a ledger: ",
        ),
        (b'{"ledger": 4, "assets": [], "words": [{}]}', "can't be read as a ledger: "),
    ],
)
def test_what_is_no_ledger_is_refused(tmp_path: Path, data: bytes, says: str) -> None:
    (tmp_path / "ledger.json").write_bytes(data)
    with pytest.raises(OutputError, match=says.replace(".", r"\.")) as caught:
        Ledger.read(tmp_path)
    assert "riffler cut and riffler build write it again" in caught.value.advice


CUTLIST = """\
mockup = "../mockups/m.ora"
[slice.box]
at = [0, 0, 40, 30]
alt = ""
[slice.box.state.hover]
hide = ["all"]
[slice.text]
at = [0, 40, 60, 20]
role = "words"
"""


@pytest.fixture
def built(riffler: Run, tmp_path: Path) -> Path:
    files = {
        "cuts/m.toml": CUTLIST, "riffler.toml": '[favicon]\nslice = "box"\n',
        "pages/index.html": '{{ head() }}\n{{ inlay("box") }}', "styles/site.css": "p { top: 0 }",
    }  # fmt: skip
    layers = [Flat("all", (0, 0, 50, 80)), Flat("ground", (0, 0, 100, 80), (9, 90, 9, 255))]
    root = write_project(tmp_path / "p", files, layers)
    riffler("cut", cwd=root)
    riffler("build", cwd=root)
    return root


def as_third(ledger: dict[str, Any]) -> dict[str, Any]:
    """The same as version 3 wrote it: one record with empty text for what is not so."""
    keys = (
        "file url role made_by bytes sha256 slice state part when size format pixels css mockup place "
        "focal density setting loss"
    ).split()
    texts = {"slice", "state", "part", "when", "size", "format", "mockup"}
    roles = {"icon": "favicon", "page": "page", "style": "style"}
    records = []
    for asset in ledger["assets"]:
        if asset["kind"] == "icon" and asset["format"] != "ico":
            continue  # there was one icon then
        known = {"role": roles.get(asset["kind"], asset.get("use", "")), "setting": {}, **asset}
        records.append({key: known.get(key, "" if key in texts else None) for key in keys})
    words = [{"when": "", **region} for region in ledger["words"]]
    return {"ledger": 3, "assets": records, "words": words}


def test_a_ledger_of_the_version_before_is_read(riffler: Run, built: Path) -> None:
    path = built / "out/ledger.json"
    now, whole = json.loads(path.read_bytes()), tree(built / "out")
    kinds = [
        asset["kind"] for asset in now["assets"] if asset.get("format") in (None, "ico", "png")
    ]
    assert set(kinds) == {"icon", "cut", "page", "style", "copy"}
    path.write_text(json.dumps(as_third(now)))
    old = Ledger.read(built / "out")
    assert {a.file: (a.kind, a.slice) for a in old.assets if a.made_by == "cut"} == {
        asset["file"]: (asset["kind"], asset["slice"])
        for asset in now["assets"]
        if asset["made_by"] == "cut" and (asset["kind"], asset["format"]) != ("icon", "png")
        and asset["kind"] + asset["format"] not in ("iconsvg", "iconwebmanifest")
    }  # fmt: skip
    # what a person changed meanwhile is still seen, and nothing else is in the way
    page = built / "out/index.html"
    page.write_text("mine")
    assert "index.html was changed by hand" in riffler("build", cwd=built, code=2).stderr
    assert page.read_text() == "mine"
    page.write_bytes(whole["index.html"])
    riffler("cut", cwd=built)
    riffler("build", cwd=built)
    assert tree(built / "out") == whole


def test_a_ledger_too_old_to_read_is_made_anew(riffler: Run, built: Path) -> None:
    whole = tree(built / "out")
    (built / "out/ledger.json").write_text('{"ledger": 2, "assets": [], "words": []}')
    (built / "out/images/box.png").write_bytes(b"mine")
    assert "box.png was changed by hand" in riffler("cut", cwd=built, code=2).stderr
    assert (built / "out/images/box.png").read_bytes() == b"mine"
    riffler("cut", "--force", cwd=built)
    riffler("build", cwd=built)
    assert tree(built / "out") == whole


def test_kinds_that_are_not_known_stay(riffler: Run, built: Path) -> None:
    path = built / "out/ledger.json"
    data = json.loads(path.read_bytes())
    extra = {
        "kind": "scroll", "file": "scroll.txt", "url": "scroll.txt", "made_by": "unroll",
        "bytes": 2, "sha256": "0f" * 32, "length": {"ells": 7},
    }  # fmt: skip
    data["assets"].append(extra)
    path.write_text(json.dumps(data))
    (built / "cuts/m.toml").write_text(CUTLIST.replace("40, 30]", "44, 30]"))
    riffler("cut", cwd=built)
    riffler("build", cwd=built)
    after = json.loads(path.read_bytes())["assets"]
    assert [asset for asset in after if asset["kind"] == "scroll"] == [extra]


def test_the_head_says_what_the_ledger_says_of_icons(riffler: Run, built: Path) -> None:
    page = built / "out/index.html"
    assert (
        '<link rel="icon" href="favicon.ico" sizes="16x16 20x20 24x24 32x32 48x48">'
        in page.read_text()
    )
    path = built / "out/ledger.json"
    data = json.loads(path.read_bytes())
    icon = next(asset for asset in data["assets"] if asset["kind"] == "icon")
    data["assets"].append({**icon, "file": "touch.png", "rel": "apple-touch-icon", "sizes": [180]})
    path.write_text(json.dumps(data))
    riffler("build", cwd=built)
    assert '<link rel="apple-touch-icon" href="touch.png" sizes="180x180">' in page.read_text()
    (built / "riffler.toml").write_text("")
    riffler("cut", cwd=built)
    riffler("build", cwd=built)
    assert "<link rel=" in page.read_text()
    assert "icon" not in page.read_text()
