# One command each. `make demo` and `make test` set up all they need; a second run of each starts in seconds.
SHELL := /bin/bash
.SHELLFLAGS := -eu -o pipefail -c
.DEFAULT_GOAL := help
MAKEFLAGS += --no-print-directory
export UV_PYTHON_DOWNLOADS := never
export PLAYWRIGHT_SKIP_BROWSER_DOWNLOAD := 1
# The matrices are small and two tests run at a time: more threads would only wait for each other.
export OPENBLAS_NUM_THREADS := 1

# Some images ask for no bytecode to be kept: every start would compile all modules anew, half of its time.
unexport PYTHONDONTWRITEBYTECODE

# Reach tables that core tests computed serve the browser's, and the next run while the rules are the same.
export ODD_SWAP_TEST_TABLES := $(CURDIR)/.stamps/tests.reach

BIN := .venv/bin
UV := $(BIN)/uv pip
STAMPS := .stamps
PORT ?= 8765
MINUTES ?= 20
SEED ?= 20
WEB_SOURCES := $(shell find web/src web/public -type f -not -path '*/api/openapi.json' -not -path '*/api/schema.d.ts') \
	web/index.html web/vite.config.ts web/svelte.config.js web/tsconfig.json
CORE := $(shell find src -name '*.py' -o -name '*.toml')

.PHONY: help demo test check python-lint python-types web-lint web-types build bench shots muscles requirements clean fast browser nightly judge fuzz

help: ## list the commands
	@grep -hE '^[a-z]+:.*##' $(MAKEFILE_LIST) | sed -E 's/:[^#]*## /\t/' | expand -t 14

$(STAMPS)/venv: requirements/uv.txt
	mkdir -p $(STAMPS)
	test -x $(BIN)/python || python3 -m venv .venv || { tools/debian.sh python3-venv && python3 -m venv .venv; }
	$(BIN)/python -m pip install --quiet --disable-pip-version-check --require-hashes -r requirements/uv.txt
	touch $@

$(STAMPS)/run: $(STAMPS)/venv requirements/run.txt pyproject.toml
	$(UV) install --quiet --python $(BIN)/python --require-hashes -r requirements/run.txt
	$(BIN)/python -m pip install --quiet --disable-pip-version-check --no-deps --no-build-isolation --editable .
	touch $@

$(STAMPS)/dev: $(STAMPS)/run requirements/dev.txt
	$(UV) install --quiet --python $(BIN)/python --require-hashes -r requirements/dev.txt
	touch $@

$(STAMPS)/npm: web/package-lock.json web/package.json web/.npmrc
	mkdir -p $(STAMPS)
	cd web && npm ci --silent --no-progress
	touch $@

web/src/lib/api/openapi.json: $(CORE) | $(STAMPS)/run
	$(BIN)/odd-swap openapi > $@.new && { cmp -s $@.new $@ && rm $@.new || mv $@.new $@; } && touch $@

# The packages come first: they wait for the network, and what Python needs is set up meanwhile.
web/src/lib/api/schema.d.ts: $(STAMPS)/npm web/src/lib/api/openapi.json
	cd web && npm run --silent types > /dev/null

web/dist/index.html: web/src/lib/api/schema.d.ts $(WEB_SOURCES)
	cd web && npm run --silent build > /dev/null
	touch $@

build: web/dist/index.html ## build the interface

demo: build ## serve the app with demo data (PORT=8765)
	@$(MAKE) -s $(STAMPS)/pango || true
	$(BIN)/odd-swap serve --demo --port $(PORT)

/usr/bin/chromium:
	tools/debian.sh chromium

# Cards are set in type by Pango; without it the app says so where somebody prints.
$(STAMPS)/pango:
	mkdir -p $(STAMPS)
	ldconfig -p | grep libpangoft2-1.0.so.0 > /dev/null || tools/debian.sh libpango-1.0-0 libpangoft2-1.0-0 libharfbuzz-subset0
	touch $@

# What takes long runs beside what takes long or waits for the network, and each tells its faults in one piece.
check: ## format, lint, types, layers
	@$(MAKE) -j3 --output-sync=target web-lint python-types web-types build python-lint

python-lint: $(STAMPS)/dev
	$(BIN)/ruff format --check --quiet .
	$(BIN)/ruff check --quiet .
	$(BIN)/lint-imports --no-cache > /dev/null || $(BIN)/lint-imports --no-cache

python-types: $(STAMPS)/dev
	$(BIN)/mypy

web-lint: web/src/lib/api/schema.d.ts
	cd web && npx --no-install eslint .
	cd web && npx --no-install prettier --check --log-level warn .

web-types: web/src/lib/api/schema.d.ts
	cd web && npm run --silent check

fast: $(STAMPS)/dev $(STAMPS)/pango web/dist/index.html ## core, API and drawing tests
	(cd web && npm run --silent test) & drawn=$$!; \
	$(BIN)/pytest -n 2 --dist worksteal -m "not browser and not nightly and not judge" tests && wait $$drawn

nightly: $(STAMPS)/dev $(STAMPS)/pango web/src/lib/api/schema.d.ts ## all core, API and drawing tests with all their examples
	cd web && npm run --silent lint:types
	$(BIN)/pytest -n 2 --dist worksteal -m "not browser and not judge" tests

judge: $(STAMPS)/dev ## a thousand offered set-ups, looked at by an outside engine
	$(BIN)/pytest -n 2 --dist worksteal -m judge tests

browser: $(STAMPS)/dev web/dist/index.html /usr/bin/chromium ## tests that drive the real interface
	$(BIN)/pytest -n 2 --dist worksteal -m browser tests/browser

test: ## every check: format and types, core, then the browser
	@$(MAKE) check
	@$(MAKE) fast
	@$(MAKE) browser

fuzz: $(STAMPS)/dev ## ask the service what its document allows and what not (MINUTES=20 SEED=20)
	$(BIN)/python tools/fuzz.py $(MINUTES) $(SEED)

bench: $(STAMPS)/dev ## speed, side by side with a general-purpose engine
	PYTHONPATH=tools $(BIN)/python bench/run.py
	$(BIN)/python bench/remap.py

shots: $(STAMPS)/dev build /usr/bin/chromium ## refresh docs/screenshots from the demo data
	$(BIN)/python tools/shots.py

muscles: $(STAMPS)/dev ## rebuild the muscle table from the open dataset
	$(BIN)/python tools/build_muscle_table.py

requirements: $(STAMPS)/venv ## pin requirements/*.in
	for n in uv run dev; do $(UV) compile --quiet --generate-hashes --no-header --no-annotate --python-version 3.11 \
		requirements/$$n.in -o requirements/$$n.txt; done

clean: ## remove everything that the other commands made, but not the database
	rm -rf .venv .stamps web/node_modules web/dist web/src/lib/api/openapi.json web/src/lib/api/schema.d.ts
