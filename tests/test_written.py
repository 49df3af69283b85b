"""TOML that people write: the line of every key, whatever way it is written."""

from __future__ import annotations

from pathlib import Path

import pytest

from riffler.errors import RifflerError, WrittenError, nearest
from riffler.mockup.font_book import FontBook
from riffler.project.settings import Settings
from riffler.project.written import Written, statements

TEXT = '''\
# a comment = 1
mockup = "a.ora"
words = [
  "x = 1",   # not a key
  "y",
]

[guides.x]
left = 0
"odd name" = 4

[slice.banner]
at = [
  1, 2,
  3, 4 ]
alt = """
x = 3
"""
state.hover.show = ["a"]
in = { deep = { er = 1 } }

[[list]]
name = "one"
[slice."b-c".state]
current = {}
'''


@pytest.mark.parametrize(
    "keys, line",
    [
        (("mockup",), 2),
        (("words",), 3),
        (("words", 1), 3),
        (("guides", "x", "left"), 9),
        (("guides", "x", "odd name"), 10),
        (("slice", "banner"), 12),
        (("slice", "banner", "at"), 13),
        (("slice", "banner", "at", 2), 13),
        (("slice", "banner", "alt"), 16),
        (("slice", "banner", "state", "hover", "show"), 19),
        (("slice", "banner", "in", "deep", "er"), 20),
        (("list",), 22),
        (("slice", "b-c", "state", "current"), 25),
        (("slice", "banner", "missing"), 12),
        (("nothing",), None),
    ],
)
def test_the_line_of_a_key(tmp_path: Path, keys: tuple[str | int, ...], line: int | None) -> None:
    (tmp_path / "a.toml").write_text(TEXT)
    place = Written.read(tmp_path / "a.toml").place(keys)
    assert place.line == line
    assert place.key == ".".join(key for key in keys if isinstance(key, str))
    if line is not None:
        assert place.text == TEXT.splitlines()[line - 1].rstrip()


@pytest.mark.parametrize(
    "data, says",
    [
        (b'a = "\xff"', "not UTF-8"),
        (b"a = [1", "not TOML"),
        (b"a = 1\na = 2\n", "not TOML"),
        (b"x" * 4_000_001, "too many"),
        (b"a = " + b"[" * 3000 + b"]" * 3000, "too deeply"),
        (b"folders = 3", "should be a table"),
        (b"system-fonts = 3", "system-fonts"),
        (b"[folders]\nimage = 'x'", '"image" is not a key here'),
        (b"[favicon]", "a slice, a file or letters"),
    ],
)
def test_what_is_no_settings_file(tmp_path: Path, data: bytes, says: str) -> None:
    (tmp_path / "a.toml").write_bytes(data)
    with pytest.raises(WrittenError) as caught:
        Written.read(tmp_path / "a.toml").check(Settings)
    assert says in caught.value.message
    with pytest.raises(RifflerError, match="isn't there"):
        Written.read(tmp_path / "b.toml")


def test_advice_names_what_is_near() -> None:
    assert nearest("smokr", ["smoker", "smoke", "tools"]) == 'Did you mean "smoker"?'
    assert nearest("tab", ["table", "tabby", "zz"]) == 'Did you mean "table" or "tabby"?'
    assert nearest("zz", ["a", "b", "c"], "Guides are") == 'Guides are "a", "b" and "c".'
    assert nearest("zz", ["a"]) == ""
    assert nearest("zz", [str(n) for n in range(20)], "Keys are") == ""


def test_what_stands_in_for_a_missing_font(built: Path) -> None:
    book = FontBook(tuple(sorted((built / "fonts").glob("*.ttf"))))
    assert {(face.family, face.weight, face.is_italic) for face in book.faces()} == {
        ("Figtree", 400, False),
        ("Figtree", 600, False),
        ("Fraunces", 400, True),
        ("Fraunces", 600, False),
    }
    assert book.choose(["fraunces", "serif"]) == ("Fraunces", True)
    assert book.choose(["Gone", "Fraunces", "Figtree"]) == ("Fraunces", False)
    assert book.choose(["Gone"]) == ("Figtree", False)
    assert FontBook().choose(["Gone"]) == ("", False)
    broken = built.parent / "broken.ttf"
    broken.write_bytes(b"no font")
    assert FontBook((broken,)).faces() == ()


def test_a_long_list_ends_where_it_ends() -> None:
    rows = "".join(f"{text},  # ]\n" for text in ("'['", '"#"', r'"\\"', r'"\"]"', "[']']") * 1000)
    said = list(statements(f"a = [\n{rows}]\n\nb = '''\n]\n''''\nc = 1"))
    assert [(one.first, one.last, one.path) for one in said] == [
        (1, 5002, ("a",)),
        (5004, 5006, ("b",)),
        (5007, 5007, ("c",)),
    ]
