PORT ?= 8017
PYTHON ?= python3
VENV := .venv
BIN := $(VENV)/bin
PIP := $(BIN)/pip install --quiet --disable-pip-version-check
PIP_AUDIT := 2.10.1
COSMIC_RAY := 8.7.0
AQUACROP := 3.1.0
LOCK := $(VENV)/tools/bin/uv pip compile pyproject.toml -c constraints.txt --generate-hashes --quiet \
	--python-version 3.11 --universal --no-annotate --custom-compile-command "make lock"

.PHONY: demo test fuzz torture mutate effort crowding occasional coverage lock audit-deps screenshots css css-check bench loc lint browser-installed

demo: $(VENV)/.app
	$(BIN)/euhydra demo --port $(PORT)

test: $(VENV)/.test browser-installed css-check lint
	$(BIN)/python -m pytest -n 2 --dist worksteal

# The property tests with new examples.
fuzz: $(VENV)/.test
	HYPOTHESIS_PROFILE=explore $(BIN)/python -m pytest -n 2 tests/audit tests/core tests/reference tests/web

lint: $(VENV)/.test assets/node_modules/.installed
	$(BIN)/ruff check src tests scripts
	$(BIN)/mypy
	$(BIN)/lint-imports
	cd assets && npm run --silent lint && npm run --silent test

screenshots: $(VENV)/.test browser-installed
	$(BIN)/python scripts/screenshots.py docs/screenshots

# What a person does for six goals, in clicks, keys and seconds by a model.
effort: $(VENV)/.test browser-installed
	$(BIN)/python scripts/effort.py

# What each view puts on its first screen at once; ends with 1 where it is too much.
crowding: $(VENV)/.test browser-installed
	$(BIN)/python scripts/crowding.py

# What is promised of the file and of every address, at length: about three hours.
torture: $(VENV)/.test
	$(BIN)/python -W ignore tests/torture/torture.py $(PART) $(SHARE)

# Small changes of the heart, one at a time: do its tests notice? About an hour for 500 of them.
mutate: $(VENV)/.test $(VENV)/.tools
	$(VENV)/tools/bin/pip install --quiet --disable-pip-version-check cosmic-ray==$(COSMIC_RAY)
	$(BIN)/python scripts/mutate.py $(PARTS)

# Another kind of model of the same tomato, in an environment of its own: not in the suite.
occasional: $(VENV)/.test
	$(PYTHON) -m venv $(VENV)/occasional
	$(VENV)/occasional/bin/pip install --quiet --disable-pip-version-check aquacrop==$(AQUACROP)
	$(BIN)/python -W ignore tests/occasional/against_aquacrop.py $(VENV)/occasional/bin/python

# What of the code the suite runs, without its browser tests.
coverage: $(VENV)/.test
	NUMBA_DISABLE_JIT=0 $(BIN)/python -m coverage run -m pytest tests/audit tests/core tests/reference tests/store tests/web
	$(BIN)/python -m coverage combine --quiet
	$(BIN)/python -m coverage report --skip-covered --sort=cover

bench: $(VENV)/.test browser-installed
	$(BIN)/python tests/benchmarks/bench.py

loc:
	$(PYTHON) scripts/loc.py

# The committed CSS, fonts and scripts, built anew.
css: assets/node_modules/.installed $(VENV)/.test
	cd assets && npm run --silent build
	$(BIN)/python scripts/paper_fonts.py src/euhydra/web/papers

# Fails when the committed files are not what the sources build.
css-check: assets/node_modules/.installed $(VENV)/.test
	cd assets && npm run --silent check
	$(BIN)/python scripts/paper_fonts.py --check src/euhydra/web/papers

# Not "npm ci": it asks for the native builds of every platform, which not every registry has.
assets/node_modules/.installed: assets/package-lock.json
	@command -v npm >/dev/null || scripts/need.sh nodejs npm
	cd assets && npm install --no-save --no-audit --no-fund --loglevel=error
	@touch $@

$(VENV)/.app: pyproject.toml requirements.lock
	@$(PYTHON) -m venv $(VENV) 2>/dev/null || (scripts/need.sh python3-venv && $(PYTHON) -m venv $(VENV))
	$(PIP) --require-hashes -r requirements.lock
	$(PIP) --no-deps -e .
	$(BIN)/python -c "from euhydra.core.season.warming import warm; warm()"  # compiled once, kept on the disk
	@touch $@

$(VENV)/.test: $(VENV)/.app requirements-test.lock
	$(PIP) --require-hashes -r requirements-test.lock
	@touch $@

# The locks anew, from what pyproject.toml asks for and constraints.txt pins, with every file's hash.
lock: $(VENV)/.tools
	$(LOCK) -o requirements.lock
	$(LOCK) --extra test -o requirements-test.lock

# Known faults of what is installed, where a database of them can be reached; else it says so.
audit-deps: $(VENV)/.tools
	$(PYTHON) scripts/audit_deps.py $(VENV)/tools/bin/pip-audit

$(VENV)/.tools: $(VENV)/.app
	$(PYTHON) -m venv $(VENV)/tools
	$(VENV)/tools/bin/pip install --quiet --disable-pip-version-check uv==0.13.9 pip-audit==$(PIP_AUDIT)
	@touch $@

browser-installed:
	@command -v chromium-headless-shell >/dev/null || scripts/need.sh chromium-headless-shell || \
	command -v chromium >/dev/null || scripts/need.sh chromium
