PORT ?= 8017
PYTHON ?= python3
VENV := .venv
BIN := $(VENV)/bin

.PHONY: letters demo test fuzz torture screenshots css css-check bench loc lint browser-installed

demo: $(VENV)/.app letters
	$(BIN)/euhydra demo --port $(PORT)

test: $(VENV)/.test letters browser-installed css-check lint
	$(BIN)/python -m pytest -n 2 --dist worksteal

# The property tests with new examples.
fuzz: $(VENV)/.test
	HYPOTHESIS_PROFILE=explore $(BIN)/python -m pytest -n 2 tests/core tests/reference tests/web

lint: $(VENV)/.test
	$(BIN)/ruff check src tests scripts
	$(BIN)/mypy

screenshots: $(VENV)/.test letters browser-installed
	$(BIN)/python scripts/screenshots.py docs/screenshots

# What is promised of the file and of every address, at length: about three hours.
torture: $(VENV)/.test
	$(BIN)/python -W ignore tests/torture/torture.py $(PART) $(SHARE)

bench: $(VENV)/.test
	$(BIN)/python tests/benchmarks/bench.py

loc:
	$(PYTHON) scripts/loc.py

# The committed CSS, fonts and scripts, built anew.
css: assets/node_modules/.installed
	cd assets && npm run --silent build

# Fails when the committed files are not what the sources build.
css-check: assets/node_modules/.installed
	cd assets && npm run --silent check

# Not "npm ci": it asks for the native builds of every platform, which not every registry has.
assets/node_modules/.installed: assets/package-lock.json
	@command -v npm >/dev/null || scripts/need.sh nodejs npm
	cd assets && npm install --no-save --no-audit --no-fund --loglevel=error
	@touch $@

$(VENV)/.app: pyproject.toml constraints.txt
	@$(PYTHON) -m venv $(VENV) 2>/dev/null || (scripts/need.sh python3-venv && $(PYTHON) -m venv $(VENV))
	$(BIN)/pip install --quiet --disable-pip-version-check -c constraints.txt -e .
	@touch $@

$(VENV)/.test: $(VENV)/.app
	$(BIN)/pip install --quiet --disable-pip-version-check -c constraints.txt -e ".[test]"
	@touch $@

browser-installed:
	@command -v chromium >/dev/null || scripts/need.sh chromium

# What sets the letters of the PDFs; the app runs without it.
letters:
	@$(BIN)/python -c "import weasyprint" 2>/dev/null || \
	scripts/need.sh libpango-1.0-0 libpangoft2-1.0-0 libharfbuzz-subset0 || \
	echo "PDFs will not be made: Pango is missing."
