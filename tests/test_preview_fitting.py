"""Which pages a preview measures, in which order, and what becomes of what is measured."""

from __future__ import annotations

import threading
import time
from pathlib import Path

import pytest

from riffler.preview import measuring
from riffler.preview.measuring import Fitting
from riffler.preview.news import News


@pytest.fixture
def measured(monkeypatch: pytest.MonkeyPatch) -> list[str]:
    """Pages in the order in which they are measured; the one called `slow` waits to be ended."""
    found: list[str] = []

    def measure(self: Fitting, page: str) -> dict[str, object] | None:
        found.append(page)
        if page == "slow":
            self._asked.wait(5)
            return None
        return {page: {"fitting": len(found), "things": 9, "findings": [], "more": 0}}

    monkeypatch.setattr(Fitting, "_measured", measure)
    monkeypatch.setattr(measuring, "QUIET", 0.02)
    return found


def told(news: News, count: int) -> list[str]:
    """The pages of which news tell, as soon as there are so many."""
    until = time.monotonic() + 5
    while news.count < count:
        assert time.monotonic() < until
        time.sleep(0.005)
    return [page for item in news.items for page in item["fits"]]  # type: ignore[attr-defined]


def test_pages_are_measured_as_they_are_looked_at(measured: list[str]) -> None:
    news = News()
    fits = Fitting(Path(), news)
    fits.start()
    fits.ask()
    fits.look_at("index")
    assert told(news, 1) == ["index"]
    fits.look_at("hives")
    assert told(news, 3) == ["index", "hives", "index"]
    fits.look_at("index")  # is known: only its turn comes first
    fits.ask()
    assert told(news, 5)[3:] == ["index", "hives"]
    assert news.fits.keys() == {"index", "hives"}
    fits.end()
    assert measured == ["index", "hives", "index", "index", "hives"]


def test_what_changes_meanwhile_is_measured_anew(measured: list[str]) -> None:
    news = News()
    fits = Fitting(Path(), news)
    fits.look_at("slow")
    fits.start()
    until = threading.Event()
    while not measured:
        until.wait(0.01)
    fits.look_at("index")
    assert told(news, 1) == ["index"]
    assert measured[:2] == ["slow", "index"]
    fits.end()


@pytest.mark.parametrize("page", ["--page=out.html", "../index", "a b", "", "-x", "a/b"])
def test_only_names_of_pages_are_measured(measured: list[str], page: str) -> None:
    fits = Fitting(Path(), News())
    fits.look_at(page)
    assert fits._pages == []
    assert not fits._asked.is_set()
    assert measured == []


def test_only_the_last_pages_are_measured_again() -> None:
    fits = Fitting(Path(), News())
    for n in range(6):
        fits.look_at(f"page-{n}")
    assert fits._pages == ["page-5", "page-4", "page-3", "page-2"]
