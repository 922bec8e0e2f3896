# make demo    the application with its demo desk (PORT=8000)
# make test    everything CI checks
# make wheel   one file to install anywhere
SHELL := /bin/bash
PORT ?= 8000
PYTHON := .venv/bin/python
UV := .uv/bin/uv
STATIC := zephyrant/site/static/index.html
MANAGE := $(PYTHON) manage.py
# A module is compiled once, not by every process that starts.
unexport PYTHONDONTWRITEBYTECODE
LOCAL := ZEPHYRANT_HTTPS=off
QUIET := $(LOCAL) ZEPHYRANT_LOG=off
# The browser tests share a file with the server they drive; in memory where the machine has a place.
TEST_DATABASE := $(if $(wildcard /dev/shm/.),/dev/shm,build)/zephyrant-test-$(shell id -u)
BROWSER_TESTS := $(patsubst tests/browser/test_%.py,browser-%,$(wildcard tests/browser/test_*.py))
DEMO := $(LOCAL) ZEPHYRANT_DEMO=on ZEPHYRANT_DATA=build/demo

.PHONY: texts demo test setup production dev check check-far check-workbooks mutants core coverage one browser bench bench-cluster fuzz load shots schemas lock chromium clean wheel

setup: .venv/installed web/node_modules/.installed web/src/api/schema.ts $(STATIC)

# What sets things up says so, and stands apart from what it sets up.
.uv/bin/uv: requirements/dev.txt
	@echo "Fetching the installer ..."
	@python3.11 -m venv .uv 2>/dev/null || python3 -m venv .uv
	@.uv/bin/pip install --quiet --disable-pip-version-check uv==$$(sed -n 's/^uv==\([0-9.]*\).*/\1/p' requirements/dev.txt)
	@touch $@

# Development has all that production has.
.venv/installed: .uv/bin/uv requirements/dev.txt requirements/app.txt pyproject.toml
	@echo "Installing Python packages, those of development among them ..."
	@$(UV) venv --quiet --allow-existing --python python3.11 .venv
	@$(UV) pip sync --quiet --python .venv/bin/python --require-hashes requirements/dev.txt
	@$(UV) pip install --quiet --python .venv/bin/python --no-deps --editable .
	@touch .venv/installed .venv/production

.venv/production: .uv/bin/uv requirements/app.txt pyproject.toml
	@echo "Installing Python packages ..."
	@$(UV) venv --quiet --allow-existing --python python3.11 .venv
	@$(UV) pip sync --quiet --python .venv/bin/python --require-hashes requirements/app.txt
	@$(UV) pip install --quiet --python .venv/bin/python --no-deps --editable .
	@touch $@

web/node_modules/.installed: web/package-lock.json
	@echo "Installing what builds and checks the screen ..."
	@cd web && npm ci --no-fund --no-audit --loglevel=error
	@touch web/node_modules/.installed web/node_modules/.production

web/node_modules/.production: web/package-lock.json
	@echo "Installing what builds the screen ..."
	@cd web && npm ci --omit=dev --no-fund --no-audit --loglevel=error
	@touch $@

# The API's types are generated from its schema, which `make check` holds against the code; what is
# built needs them not.
web/src/api/schema.ts: docs/openapi.json web/node_modules/.installed
	@cd web && npm run --silent client >/dev/null
	@touch $@

WEB_SOURCES := $(shell find web/src web/public -type f ! -name schema.ts 2>/dev/null) web/index.html web/vite.config.ts
web/dist/index.html: web/node_modules/.production $(WEB_SOURCES)
	@echo "Building the screen ..."
	@cd web && npx vite build --logLevel error
	@touch $@

$(STATIC): .venv/production web/dist/index.html $(wildcard zephyrant/desk/static/desk/*)
	@echo "Collecting and packing what browsers fetch ..."
	@$(LOCAL) $(MANAGE) collectstatic --noinput --clear --ignore '*.map' --ignore 'redoc*' -v0
	@touch $@

# The application with its demo desk, on what production needs and nothing that develops it.
demo: production
	@.venv/bin/zephyrant demo --data build/demo --bind 127.0.0.1:$(PORT)

production: .venv/production $(STATIC)

# One file that installs anywhere: pip install 'dist/zephyrant-....whl[desk]'
wheel: production
	@echo "Packing the wheel ..."
	@rm -rf dist && $(UV) build --quiet --wheel --out-dir dist .
	@cp requirements/app.txt dist/requirements.txt && cp requirements/cluster.txt dist/requirements-cluster.txt && ls -s --block-size=K dist/*

dev: setup
	@mkdir -p build/demo
	@$(DEMO) $(MANAGE) migrate -v0 && $(DEMO) $(MANAGE) lay_demo
	@trap 'kill 0' EXIT; $(DEMO) $(MANAGE) runserver 8000 & $(DEMO) $(MANAGE) work_tables & cd web && npx vite

schemas: .venv/installed web/node_modules/.installed
	$(LOCAL) $(MANAGE) write_schemas
	$(MAKE) --no-print-directory web/src/api/schema.ts

check: setup
	.venv/bin/ruff format --check .
	.venv/bin/ruff check .
	.venv/bin/mypy
	.venv/bin/lint-imports --no-cache >/dev/null || .venv/bin/lint-imports --no-cache
	cd web && npx tsc --noEmit && npx eslint --cache --cache-location node_modules/.cache/eslint --max-warnings 0 . && npx prettier --check --log-level warn src
	$(LOCAL) $(MANAGE) makemigrations --check --dry-run -v0
	ZEPHYRANT_HTTPS=on ZEPHYRANT_DEMO=off ZEPHYRANT_SECRET_KEY=$$(head -c 64 /dev/urandom | base64 -w0) $(MANAGE) check --deploy --fail-level WARNING
	$(LOCAL) $(MANAGE) write_schemas --check
	$(PYTHON) -m tools.texts --check

chromium:
	@command -v chromium >/dev/null || (apt-get update -qq && apt-get install -y -qq chromium >/dev/null)

core: setup
	# The longest first, so that nothing waits for it at the end, and those that mostly wait for a
	# server among those that mostly work.
	$(QUIET) $(MANAGE) test --testrunner tests.in_order.InOrder --parallel 4 tests.command.test_wheel tests.cluster tests.desk.test_schema_holds tests.loans.test_against_oracle tests.desk.test_under_attack tests.desk.test_real_server tests.desk.test_clients tests.loans.test_asked tests.loans tests.command tests.texts tests.library tests.tables tests.outlets tests.desk

# Which lines of the core its own tests reach; what watches them doubles their time.
coverage: setup
	@rm -rf build/coverage && mkdir -p build/coverage
	$(QUIET) .venv/bin/coverage run manage.py test tests.loans --parallel 2
	@.venv/bin/coverage combine -q && .venv/bin/coverage report

# One module of tests, one class or one test: make one TEST=tests.loans.test_schedule
one: setup
	$(QUIET) $(MANAGE) test $(TEST)

# Each file of browser tests has a database and a browser of its own, two at a time. What failed is
# told once more at the end, where it is looked for.
browser: setup chromium
	@rm -rf build/browser && mkdir -p build/browser
	@$(MAKE) --no-print-directory -k -j2 --output-sync=target $(BROWSER_TESTS) || (cat build/browser/*.failed; exit 1)

browser-%:
	@mkdir -p build/browser
	@$(QUIET) ZEPHYRANT_TEST_DATABASE=$(TEST_DATABASE)-$*.sqlite3 $(MANAGE) test tests.browser.test_$* --noinput >build/browser/$*.log 2>&1 \
		&& { echo $*: $$(grep "^Ran" build/browser/$*.log); } || { mv build/browser/$*.log build/browser/$*.failed; cat build/browser/$*.failed; exit 1; }

test: check core browser

# Random documents by the thousand against the oracle, new examples of every law, servers killed two
# hundred times; workbooks recalculated by LibreOffice.
check-far: setup
	ZEPHYRANT_FAR=$(or $(FAR),6000) $(QUIET) $(MANAGE) test tests.loans tests.desk.test_real_server --parallel 2

check-workbooks: setup
	@command -v soffice >/dev/null || (apt-get update -qq && apt-get install -y -qq --no-install-recommends libreoffice-calc >/dev/null)
	$(LOCAL) $(PYTHON) -m tools.workbooks

# Changes to the core that no test notices; hours, not minutes.
mutants: setup
	$(LOCAL) $(PYTHON) -m tools.mutants $(MODULES)

# The API against its schema, many requests an operation; fifty analysts at once, none of whom loses
# anything.
fuzz: setup
	ZEPHYRANT_FUZZ=$(or $(EXAMPLES),200) $(QUIET) $(MANAGE) test tests.desk.test_schema_holds

load: setup
	$(PYTHON) -m tools.load $(or $(ANALYSTS),50) $(or $(SECONDS),120)

bench: setup chromium
	$(LOCAL) $(PYTHON) -m tools.bench_bounded
	$(LOCAL) $(PYTHON) -m tools.bench
	$(LOCAL) $(PYTHON) -m tools.bench_visits

# Tapes on two workers of this machine, ten million rows among them: some twenty minutes.
bench-cluster: setup
	$(LOCAL) $(PYTHON) -m tools.bench_cluster $(ROWS)

shots: setup chromium
	$(DEMO) $(PYTHON) -m tools.shots

# The catalogue of all texts, from which a translation begins: make texts LANGUAGE=de
texts: setup
	$(PYTHON) -m tools.texts $(LANGUAGE)

examples: setup
	$(LOCAL) $(PYTHON) -m tools.examples

lock: .uv/bin/uv
	$(UV) pip compile --quiet --generate-hashes --no-header --no-emit-index-url \
		--python-version 3.11 --extra desk pyproject.toml -o requirements/app.txt
	$(UV) pip compile --quiet --generate-hashes --no-header --no-emit-index-url \
		--python-version 3.11 -c requirements/app.txt --extra cluster pyproject.toml -o requirements/cluster.txt
	$(UV) pip compile --quiet --generate-hashes --no-header --no-emit-index-url \
		--python-version 3.11 -c requirements/app.txt -c requirements/cluster.txt --extra desk --extra cluster \
		pyproject.toml requirements/dev.in -o requirements/dev.txt

clean:
	rm -rf .venv .uv build data dist web/dist web/node_modules zephyrant/site/static
