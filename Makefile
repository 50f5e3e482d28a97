# Two commands do everything on a fresh machine: make demo, make test.
SHELL := /bin/bash
PY := .venv/bin/python
unexport PYTHONDONTWRITEBYTECODE
unexport PYTHONPATH
export HOST ?= 127.0.0.1
export PORT ?= 8000
export LYNXWORT_TLS := $(TLS)

.PHONY: demo serve test check bench soak loc shots assets lock schema pictures units catalogue backup restore validation docs wheel coverage licences

.venv/runtime: requirements/runtime.lock pyproject.toml
	python3 -m venv .venv
	$(PY) -m pip install --quiet --require-hashes -r requirements/runtime.lock
	echo '$(CURDIR)/src' > $$($(PY) -c 'import sysconfig; print(sysconfig.get_paths()["purelib"])')/lynxwort.pth
	touch $@

.venv/dev: requirements/dev.lock .venv/runtime
	$(PY) -m pip install --quiet --require-hashes -r requirements/dev.lock
	touch $@

/usr/bin/chromium:
	apt-get update -qq
	apt-get install -y -qq --no-install-recommends chromium fonts-liberation

demo serve: .venv/runtime
	$(PY) -m lynxwort $@

# a back-up of the whole installation, also while it is served; to put one back, Lynxwort must be stopped
backup: .venv/runtime
	$(PY) -m lynxwort backup $(FILE)

restore: .venv/runtime
	$(PY) -m lynxwort restore $(FILE)

# the kernels are compiled first, so that both workers find them
test: .venv/dev /usr/bin/chromium
	NUMBA_CACHE_DIR=$(CURDIR)/.data/numba LYNXWORT_DATA=$(CURDIR)/.data/check $(PY) manage.py warm
	$(PY) -m pytest -n 2 --dist worksteal

check: .venv/dev
	$(PY) -m ruff check .
	$(PY) -m ruff format --check .
	LYNXWORT_DATA=$(CURDIR)/.data/check MYPYPATH=src $(PY) -m mypy
	.venv/bin/lint-imports
	.venv/bin/djlint src/lynxwort/web --lint --quiet
	$(PY) tools/build_assets.py --check
	$(PY) tools/schema.py --check
	$(PY) tools/pictures.py --check
	$(PY) tools/units.py --check
	$(PY) tools/catalogue.py --check
	$(PY) tools/licences.py
	LYNXWORT_DATA=$(CURDIR)/.data/check $(PY) manage.py makemigrations --check --dry-run

bench: .venv/dev /usr/bin/chromium
	$(PY) $(if $(filter plans,$(PART)),tools/bench_plans.py $(AGAINST),$(if $(AGAINST),tools/against.py $(AGAINST),tools/bench.py))

# the long runs; PART=ranges,uploads,load,kills,steps,hostile,odd,trials,plans,club,edges
soak: .venv/dev
	$(PY) tools/soak.py

# every outside check with its source, from what the tests did
validation: .venv/dev
	$(PY) tools/validation.py

# the docs as a site, into .data/site
docs: .venv/dev
	NO_MKDOCS_2_WARNING=1 .venv/bin/mkdocs build --quiet

# what pip installs, into dist
wheel: .venv/dev
	$(PY) -m build --no-isolation --wheel

# how much of the core its own tests go through
coverage: .venv/dev
	$(PY) -m pytest -n 2 --cov=lynxwort.core --cov-report=term:skip-covered tests/core

licences: .venv/dev
	$(PY) tools/licences.py

loc:
	@python3 tools/loc.py

shots: .venv/dev /usr/bin/chromium
	$(PY) tools/shots.py
	$(PY) tools/moving.py

assets: .venv/dev
	$(PY) tools/build_assets.py

schema: .venv/dev
	$(PY) tools/schema.py

pictures: .venv/dev
	$(PY) tools/pictures.py

units: .venv/dev
	$(PY) tools/units.py

# uv only resolves; pip installs. No host name or local path reaches the locks.
lock:
	python3 -m venv .venv-lock && .venv-lock/bin/pip install --quiet uv
	cd requirements && for f in runtime dev; do ../.venv-lock/bin/uv pip compile --quiet --generate-hashes --python-version 3.11 --no-emit-index-url --no-emit-find-links --strip-extras $$f.in -o $$f.lock; done

catalogue: .venv/dev
	$(PY) tools/catalogue.py
