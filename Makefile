# make demo    the application with its demo desk (PORT=8000)
# make test    everything CI checks
SHELL := /bin/bash
PORT ?= 8000
PYTHON := .venv/bin/python
MANAGE := $(PYTHON) manage.py
LOCAL := ZEPHYRANT_HTTPS=off
QUIET := $(LOCAL) ZEPHYRANT_LOG=off
# The browser tests share a file with the server they drive; in memory where the machine has a place.
TEST_DATABASE := $(if $(wildcard /dev/shm/.),/dev/shm,build)/zephyrant-test-$(shell id -u)
BROWSER_TESTS := $(patsubst tests/browser/test_%.py,browser-%,$(wildcard tests/browser/test_*.py))
DEMO := $(LOCAL) ZEPHYRANT_DEMO=on ZEPHYRANT_DATA=build/demo

.PHONY: demo test setup production dev check check-far check-workbooks mutants core one browser bench fuzz load shots schemas lock chromium clean

setup: .venv/installed web/node_modules/.installed web/dist/index.html build/static/.collected

.venv/installed: requirements/dev.txt
	python3.11 -m venv .venv 2>/dev/null || python3 -m venv .venv
	.venv/bin/pip install --quiet uv==$$(sed -n 's/^uv==\([0-9.]*\).*/\1/p' requirements/dev.txt)
	.venv/bin/uv pip sync --quiet --python .venv/bin/python requirements/dev.txt
	@touch $@

web/node_modules/.installed: web/package-lock.json
	cd web && npm ci --no-fund --no-audit --loglevel=error
	@touch $@

# The API's types are generated from its schema, which `make check` holds against the code.
web/src/api/schema.ts: docs/openapi.json web/node_modules/.installed
	cd web && npm run --silent client >/dev/null
	@touch $@

WEB_SOURCES := $(shell find web/src web/public -type f 2>/dev/null) web/index.html web/vite.config.ts
web/dist/index.html: web/node_modules/.installed web/src/api/schema.ts $(WEB_SOURCES)
	cd web && npx vite build --logLevel warn
	@touch $@

build/static/.collected: .venv/installed web/dist/index.html
	$(LOCAL) $(MANAGE) collectstatic --noinput --clear -v0
	@touch $@

demo: setup
	@mkdir -p build/demo
	@$(DEMO) $(MANAGE) migrate -v0
	@$(DEMO) $(MANAGE) lay_demo
	@echo "Zephyrant's demo desk: http://127.0.0.1:$(PORT)/"
	@$(DEMO) ZEPHYRANT_BIND=127.0.0.1:$(PORT) .venv/bin/gunicorn -c zephyrant/site/serving.py --log-level warning

# What the desk needs to run for real, and nothing that develops it.
production: web/dist/index.html
	python3.11 -m venv .venv 2>/dev/null || python3 -m venv .venv
	.venv/bin/pip install --quiet --require-hashes -r requirements/app.txt
	$(LOCAL) ZEPHYRANT_DATA=build/data $(MANAGE) collectstatic --noinput --clear -v0

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

chromium:
	@command -v chromium >/dev/null || (apt-get update -qq && apt-get install -y -qq chromium >/dev/null)

core: setup
	# The longest first, so that nothing waits for it at the end; those mostly wait for a server.
	@rm -rf build/coverage && mkdir -p build/coverage
	$(QUIET) .venv/bin/coverage run manage.py test tests.desk.test_real_server tests.desk.test_under_attack tests.loans tests.desk --parallel 3
	@.venv/bin/coverage combine -q && .venv/bin/coverage report

# One module of tests, one class or one test: make one TEST=tests.loans.test_schedule
one: setup
	$(QUIET) $(MANAGE) test $(TEST)

# Each file of browser tests has a database and a browser of its own, two at a time.
browser: setup chromium
	$(MAKE) --no-print-directory -k -j2 --output-sync=target $(BROWSER_TESTS)

browser-%:
	$(QUIET) ZEPHYRANT_TEST_DATABASE=$(TEST_DATABASE)-$*.sqlite3 $(MANAGE) test tests.browser.test_$* --noinput

test: check core browser

# Random documents by the thousand against the oracle, new examples of every law; workbooks
# recalculated by LibreOffice.
check-far: setup
	ZEPHYRANT_FAR=$(or $(FAR),6000) $(QUIET) $(MANAGE) test tests.loans --parallel 2

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

shots: setup chromium
	$(DEMO) $(PYTHON) -m tools.shots

lock:
	.venv/bin/uv pip compile --quiet --generate-hashes --no-header --no-emit-index-url \
		--python-version 3.11 requirements/app.in -o requirements/app.txt
	.venv/bin/uv pip compile --quiet --generate-hashes --no-header --no-emit-index-url \
		--python-version 3.11 -c requirements/app.txt requirements/dev.in -o requirements/dev.txt

clean:
	rm -rf .venv build data web/dist web/node_modules
