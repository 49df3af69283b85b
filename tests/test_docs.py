"""What there is is written down: keys, kinds of findings, commands, options, units, modules."""

from __future__ import annotations

import re
from collections.abc import Iterator
from pathlib import Path

import pytest
from pydantic import BaseModel

from riffler.cli.app import COMMANDS
from riffler.cutlist.model import Cutlist, SliceTable, StateTable
from riffler.measure.units import UNITS
from riffler.plan.checks import KINDS
from riffler.project.settings import Settings

ROOT = Path(__file__).parents[1]
DOCS = {
    path.name: path.read_text(encoding="utf-8") for path in sorted((ROOT / "docs").glob("*.md"))
}
PROOF = ROOT / "src/riffler/proof"


def keys_of(*models: type[BaseModel]) -> Iterator[str]:
    for model in models:
        for name, field in model.model_fields.items():
            yield field.alias or name


def kinds_of_pages() -> Iterator[str]:
    for path in sorted(PROOF.glob("*.py")):
        yield from re.findall(r'PageFinding\(\s*"([a-z0-9-]+)"', path.read_text(encoding="utf-8"))


@pytest.mark.parametrize(
    ("file", "words"),
    [
        ("cutlist.md", list(keys_of(Cutlist, SliceTable, StateTable))),
        ("cutlist.md", sorted(KINDS)),
        ("templates.md", list(keys_of(Settings))),
        ("roughing.md", sorted(set(kinds_of_pages()))),
        ("measuring.md", list(UNITS)),
    ],
    ids=["keys", "findings of plans", "settings", "findings of pages", "units"],
)
def test_all_is_written_down(file: str, words: list[str]) -> None:
    assert words
    missing = [
        word
        for word in words
        if not re.search(rf"(?<![\w-]){re.escape(word)}(?![\w-])", DOCS[file])
    ]
    assert missing == []


@pytest.mark.parametrize("name", sorted(COMMANDS))
def test_every_command_is_in_the_tour_with_options_that_it_has(name: str) -> None:
    rows = DOCS["tour.md"].splitlines()
    row = next(line for line in rows if line.startswith(f"| `riffler {name}"))
    parameters = COMMANDS[name].with_options.params
    has = {option for one in parameters for option in (*one.opts, *one.secondary_opts)}
    assert set(re.findall(r"`(--?[a-z-]+)", row)) - has == set()


def test_modules_that_documents_name_are_there() -> None:
    texts = {**DOCS, "CONTRIBUTING.md": (ROOT / "CONTRIBUTING.md").read_text(encoding="utf-8")}
    for name, text in texts.items():
        for path in re.findall(r"`([a-z_]+/[a-z_/]+\.py)`", text):
            places = (ROOT / path, ROOT / "src" / path, ROOT / "src/riffler" / path)
            assert any(place.exists() for place in places), f"{name}: {path}"


def test_pictures_and_pages_that_documents_show_are_there() -> None:
    for path in (ROOT / "README.md", ROOT / "CONTRIBUTING.md", *(ROOT / "docs").glob("*.md")):
        text = path.read_text(encoding="utf-8")
        for target in re.findall(r"\]\(([^)#:]+)", text):
            assert (path.parent / target).exists(), f"{path.name}: {target}"
