# Two commands do all set-up on a machine that has Python 3.11 or newer, make and git:
#   make demo   installs into .venv and opens the linden yard, full-screen
#   make test   installs what the tests need and runs linters and all tests
PYTHON ?= python3
VENV   := .venv
BENCH  := .venv-bench
MUTANTS := .venv-mutants
# Of a test with many cases make test runs a tenth, another one at each commit; make proof runs all of them.
DRAWN_BY := $(shell git rev-parse --short HEAD 2> /dev/null || echo none)
BIN    := $(VENV)/bin
PIP    := $(BIN)/python -m pip --disable-pip-version-check --quiet

.PHONY: demo test lint types contracts unit proof shots reference bench bench-short fuzz stress mutants meanings site wheel
.PHONY: versions endure lock clean

demo: $(VENV)/.run
	$(BIN)/lesart demo linden-yard

# The checker of types needs one processor for most of a minute, at the end of which the tests are under way already.
test: $(VENV)/.test
	@$(MAKE) --no-print-directory -j2 lint types contracts unit

lint: $(VENV)/.test
	$(BIN)/ruff check src tests tools
	$(BIN)/ruff format --check src tests tools

types: $(VENV)/.test
	$(BIN)/mypy

contracts: $(VENV)/.test
	$(BIN)/lint-imports --no-logo 2>/dev/null || $(BIN)/lint-imports

unit: $(VENV)/.test
	@sh tools/need-tmux
	@# Read by one before all workers read them: making them ready takes half a minute the first time.
	@PYTHONDONTWRITEBYTECODE= $(BIN)/python -m pytest --collect-only > /dev/null 2>&1 || true
	PYTHONDONTWRITEBYTECODE= $(BIN)/python -m pytest -n auto --dist worksteal --drawn-by=$(DRAWN_BY)

# Every case of every test, those that go over all there is key by key too, and a hundred examples of each property.
proof: $(VENV)/.test
	PYTHONDONTWRITEBYTECODE= $(BIN)/python -m pytest -n auto --dist worksteal -m '' --hypothesis-profile=proof

# One picture of each main view, from demo data, in a terminal window under a virtual X server.
shots: $(VENV)/.run
	$(BIN)/python -m tools.shots docs/screenshots

# New versions of everything. Needs uv; the files hold versions and hashes, no addresses.
lock:
	uv pip compile pyproject.toml --extra build --extra lock --universal --python-version 3.11 --generate-hashes \
	  --no-emit-index-url --no-header --no-annotate --quiet --upgrade -o requirements.lock
	uv pip compile pyproject.toml --extra build --extra lock --extra test --universal --python-version 3.11 --generate-hashes \
	  --no-emit-index-url --no-header --no-annotate --quiet --upgrade -o requirements-test.lock
	uv pip compile pyproject.toml --extra build --extra lock --extra bench --universal --python-version 3.11 --generate-hashes \
	  --no-emit-index-url --no-header --no-annotate --quiet --upgrade -o requirements-bench.lock
	uv pip compile pyproject.toml --extra build --extra lock --extra test --extra mutants --universal --python-version 3.11 \
	  --generate-hashes --no-emit-index-url --no-header --no-annotate --quiet --upgrade -o requirements-mutants.lock

# Both locks hold all that runs; the tests need no second installation. What is installed is compiled when it is first
# imported: most of it never is, and all of it takes half a minute.
define INTO_VENV
	$(PYTHON) -c 'import sys; sys.exit(sys.version_info < (3, 11) and "Lesart needs Python 3.11 or newer; this is " + sys.version.split()[0] + ". Name another with make PYTHON=python3.12 demo")'
	test -x $(BIN)/python || $(PYTHON) -m venv $(VENV)
	$(PIP) install --no-compile --require-hashes -r $(1)
	$(PIP) install --no-deps --no-build-isolation -e .
	$(BIN)/python -m compileall -q -j 0 src
	touch $(VENV)/.run
endef

$(VENV)/.run: requirements.lock pyproject.toml
	$(call INTO_VENV,requirements.lock)

$(VENV)/.test: requirements-test.lock pyproject.toml
	$(call INTO_VENV,requirements-test.lock)
	touch $@

clean:
	rm -rf $(VENV) $(BENCH) $(MUTANTS) build dist

# Pages of the guide that are made from the program's own records: project file, commands, keys, theory, jobs.
reference: $(VENV)/.run
	$(BIN)/python -m tools.reference docs

# Absurd input for every place that takes any, for ten minutes: only a sentence may come of it.
fuzz: $(VENV)/.test
	$(BIN)/python -m tools.fuzz

# What every line that a test types means, beside what it meant at another commit: make meanings BEFORE=HEAD~20
meanings: $(VENV)/.test
	$(BIN)/python -m tools.meanings $(BEFORE)

# Random keys, texts and sizes of window in a real terminal, for ten minutes: the program must go on.
stress: $(VENV)/.test
	@sh tools/need-tmux
	$(BIN)/python -m tools.stress

# Figures of speed, beside plain loops in C and what one would write with other libraries, which only this needs.
bench: $(BENCH)/.done
	PYTHONDONTWRITEBYTECODE= $(BENCH)/bin/python -m tools.bench docs/performance.md

# The ratios of a change beside those that stand there, in less than a minute.
bench-short: $(BENCH)/.done
	PYTHONDONTWRITEBYTECODE= $(BENCH)/bin/python -m tools.bench --short

$(BENCH)/.done: requirements-bench.lock pyproject.toml
	test -x $(BENCH)/bin/python || $(PYTHON) -m venv $(BENCH)
	$(BENCH)/bin/python -m pip --disable-pip-version-check --quiet install --require-hashes -r requirements-bench.lock
	$(BENCH)/bin/python -m pip --disable-pip-version-check --quiet install --no-deps --no-build-isolation -e .
	$(BENCH)/bin/python -m compileall -q src
	touch $@

# Small changes of the core at places drawn by chance: is there a test that notices? About half an hour.
mutants: $(MUTANTS)/.done
	$(MUTANTS)/bin/python -m tools.mutants

$(MUTANTS)/.done: requirements-mutants.lock pyproject.toml
	test -x $(MUTANTS)/bin/python || $(PYTHON) -m venv $(MUTANTS)
	$(MUTANTS)/bin/python -m pip --disable-pip-version-check --quiet install --require-hashes -r requirements-mutants.lock
	$(MUTANTS)/bin/python -m pip --disable-pip-version-check --quiet install --no-deps --no-build-isolation -e .
	touch $@

# The guide as a site, in build/site; a broken link is an error.
site: $(VENV)/.test
	$(BIN)/python -m mkdocs build --strict --quiet

# The wheel, tried: in a fresh environment, from another folder.
wheel: $(VENV)/.run
	rm -rf dist build/wheel
	$(BIN)/python -m pip --disable-pip-version-check --quiet wheel --no-deps --no-build-isolation -w dist .
	$(PYTHON) -m venv build/wheel
	build/wheel/bin/python -m pip --disable-pip-version-check --quiet install --require-hashes -r requirements.lock
	build/wheel/bin/python -m pip --disable-pip-version-check --quiet install --no-deps dist/*.whl
	sh tools/try-wheel build/wheel/bin

# All tests on every Python that is supported and is here; the others are named.
versions:
	sh tools/each-version

# Two hours of a fast line, every key over ten million samples, two hundred kills: a quarter of an hour.
endure: $(VENV)/.run
	$(BIN)/python -m tools.endure
