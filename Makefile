# Everything from a fresh clone, with only Python 3.11, make and git.
#   make demo   the example: cut, built, ready to open
#   make test   ruff, mypy and pytest
#   make bench  benchmarks, by hand

PYTHON ?= $(shell command -v python3.11 || command -v python3)
VENV   := .venv
BIN    := $(VENV)/bin
PIP    := $(BIN)/python -m pip install --quiet --disable-pip-version-check
CHROMIUM := $(shell command -v chromium || command -v chromium-browser || command -v google-chrome)
export RIFFLER_CHROMIUM ?= $(or $(CHROMIUM),/usr/bin/chromium)

.PHONY: demo test lint bench clean mockups

demo: $(VENV)/.installed
	$(BIN)/riffler demo

test: $(VENV)/.tested chromium lint
	$(BIN)/python -m pytest -n 2

lint: $(VENV)/.tested
	$(BIN)/ruff check .
	$(BIN)/ruff format --check .
	$(BIN)/mypy

bench: $(VENV)/.tested
	$(PIP) --editable ".[bench]"
	$(BIN)/python -m benchmarks.run
	$(BIN)/python -m benchmarks.formats

mockups: $(VENV)/.tested
	$(BIN)/python tools/draw_demo.py

$(BIN)/python:
	$(PYTHON) -m venv $(VENV)

$(VENV)/.installed: pyproject.toml | $(BIN)/python
	$(PIP) --editable .
	touch $@

$(VENV)/.tested: pyproject.toml | $(BIN)/python
	$(PIP) --editable ".[test]"
	touch $@ $(VENV)/.installed

# Some tests look at pages in a real browser.
.PHONY: chromium
chromium:
ifeq ($(CHROMIUM),)
	@echo "Installing Chromium for the tests that look at pages"
	@run=$$(command -v sudo || true); [ "$$(id -u)" = 0 ] && run=; \
	$$run apt-get update -qq && $$run env DEBIAN_FRONTEND=noninteractive apt-get install -y -qq chromium >/dev/null
endif

clean:
	rm -rf $(VENV) fernhollow .mypy_cache .ruff_cache .pytest_cache .hypothesis
