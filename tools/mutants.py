"""Mutants of the core: one small change each at a place drawn by chance, and whether any test notices it.

Run by ``make mutants``. Which tests run which line is recorded once; a mutant has only those that run its line. What
no test notices is printed with its line, to be killed by a better test or told to be the same program. What only this
needs is imported where it is used, so that ``--help`` works without it.
"""

from __future__ import annotations

import argparse
import ast
import os
import random
import re
import shutil
import subprocess
import sys
import tempfile
import threading
from collections import Counter, defaultdict
from collections.abc import Iterator, Mapping, Sequence
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from functools import cache
from pathlib import Path

ROOT = Path(__file__).parent.parent
CORE = ROOT / "src/lesart/core"
RECORD = ROOT / "build/mutants.coverage"
FAILING = RECORD.with_suffix(".failing")
"""Tests that fail without a change too, when lines are recorded: what notices nothing must not be taken to notice."""
NOT_HERE = ("tests/terminal", "tests/tui", "tests/test_wheel.py", "tests/test_patterns.py")
"""Tests of a program of its own, whose lines are not seen from here, and of screens, which compute nothing."""
MADE_PAGES = "tests/test_reference.py"
"""Pages made from records notice a record that says something else."""
LONGEST_S = 120.0
"""Tests that take longer with a mutant in them have noticed it."""
AT_ONCE = 60
"""So many tests go in a first run; a mutant that lives through them meets the rest."""

PASSED_OVER = ("core/RemoveDecorator", "core/ExceptionReplacer", "core/VariableInserter", "core/VariableReplacer")
"""Programs that do not even start, and changes that want to be told of what."""
SAME = re.compile(r"_(Eq_Is|NotEq_IsNot|Is_Eq|IsNot_NotEq)$")
"""Of words and of members of an enumeration these say the same."""
NEAREST, FURTHER = 120, 60
"""So many of those that run its line: the nearest to its step, and some of all others; what lives through them counts
as surviving."""

Place = tuple[int, int]


@cache
def _text(module: Path) -> str:
    """As it was when it was first looked at: who works on beside it changes nothing here."""
    return module.read_text()


@dataclass(frozen=True)
class Mutant:
    """The ``occurrence``-th place of an operator in a module, counted from 0; lines from 1."""

    module: Path
    operator: str
    occurrence: int
    line: int

    def source(self) -> str | None:
        """Of its module with the change in it."""
        from cosmic_ray.mutating import mutate_code
        from cosmic_ray.plugins import get_operator

        changed: str | None = mutate_code(_text(self.module), get_operator(self.operator)(), self.occurrence)
        return changed

    def __str__(self) -> str:
        was, now = _text(self.module).splitlines(), (self.source() or "").splitlines()
        changed = next((b for a, b in zip(was, now, strict=False) if a != b), "")
        return f"{self.module.relative_to(ROOT)}:{self.line}  {was[self.line - 1].strip()}  →  {changed.strip()}"


def _spans_without_effect(source: str) -> list[tuple[Place, Place]]:
    """Annotations: nothing evaluates them, so no change there is one."""
    spans = []
    for node in ast.walk(ast.parse(source)):
        for each in (getattr(node, "annotation", None), getattr(node, "returns", None)):
            if isinstance(each, ast.expr):
                end = each.end_lineno or each.lineno, each.end_col_offset or 0
                spans.append(((each.lineno, each.col_offset), end))
    return spans


def mutants_of(module: Path) -> Mapping[Place, list[Mutant]]:
    """All there are in a module, by where they stand."""
    from cosmic_ray.ast import ast_nodes, get_ast
    from cosmic_ray.plugins import get_operator, operator_names

    source = _text(module)
    lines = source.splitlines()
    nodes, silent = list(ast_nodes(get_ast(source))), _spans_without_effect(source)
    found: dict[Place, list[Mutant]] = defaultdict(list)
    for name in sorted(operator_names()):
        if name in PASSED_OVER or SAME.search(name):
            continue
        starts = (start for node in nodes for start, _ in get_operator(name)().mutation_positions(node))
        for occurrence, start in enumerate(starts):
            if not any(begin <= start < end for begin, end in silent) and not lines[start[0] - 1].startswith("@"):
                found[start].append(Mutant(module, name, occurrence, start[0]))
    return found


def drawn(count: int, seed: int, within: str) -> list[Mutant]:
    """Places by chance, and at each one of its changes."""
    chance = random.Random(seed)
    places = [
        changes
        for module in sorted(CORE.rglob("*.py"))
        if within in module.relative_to(ROOT).as_posix()
        for changes in mutants_of(module).values()
    ]
    chance.shuffle(places)
    return [chance.choice(changes) for changes in places[:count]]


def record() -> None:
    """Which tests run which lines of the core; takes several times as long as the tests."""
    RECORD.parent.mkdir(exist_ok=True)
    command = [sys.executable, "-m", "pytest", "-q", "-n", "auto", "-p", "no:cacheprovider", "--cov=lesart.core"]
    left_out = [f"--ignore={each}" for each in NOT_HERE]
    done = subprocess.run(
        [*command, "-rfE", "--cov-context=test", "--cov-report=", *left_out],
        cwd=ROOT,
        env={**os.environ, "COVERAGE_FILE": str(RECORD)},
        capture_output=True,
        text=True,
        check=False,
    )
    failing = re.findall(r"^(?:FAILED|ERROR) (.+?)(?: - .*)?$", done.stdout, re.MULTILINE)
    FAILING.write_text("\n".join(failing))
    print(f"recorded; {len(failing)} tests fail as it is: {', '.join(failing) or 'none'}", file=sys.stderr)


class Judge:
    """Runs mutants, each in a copy of the sources that no other has."""

    def __init__(self, folder: Path, copies: int) -> None:
        from coverage import CoverageData

        self._data = CoverageData(str(RECORD))
        self._data.read()
        self._failing = frozenset(FAILING.read_text().splitlines())
        self._copies = [folder / str(number) for number in range(copies)]
        self._lock = threading.Lock()
        for copy in self._copies:
            for name in ("src", "tests", "tools", "docs"):
                shutil.copytree(ROOT / name, copy / name, ignore=shutil.ignore_patterns("__pycache__"))
            for name in ("pyproject.toml", "Makefile", "README.md"):
                shutil.copy(ROOT / name, copy / name)

    def tests_of(self, mutant: Mutant) -> list[str]:
        """Node ids of the tests that run its line, those nearest to its step first."""
        at_line = self._data.contexts_by_lineno(str(mutant.module)).get(mutant.line, [])
        ids = {each.partition("|")[0] for each in at_line} - {""} - self._failing
        step = mutant.module.relative_to(CORE).parts[0].removesuffix(".py")
        mirror, own = f"tests/core/{step}/", f"/test_{mutant.module.stem}.py"
        if not ids:  # a line that runs when its module is loaded: what there is of its step
            return [mirror if (ROOT / mirror).is_dir() else "tests/core", MADE_PAGES]
        near = sorted(
            ids,
            key=lambda each: (own not in each, not each.startswith(mirror), not each.startswith("tests/core/"), each),
        )
        others = near[NEAREST:]
        return near[:NEAREST] + others[:: max(len(others) // FURTHER, 1)][:FURTHER]

    def survives(self, mutant: Mutant) -> bool:
        """Does every test pass?"""
        changed, tests = mutant.source(), self.tests_of(mutant)
        assert changed is not None
        with self._lock:
            copy = self._copies.pop()
        at = copy / mutant.module.relative_to(ROOT)
        try:
            at.write_text(changed)
            return all(self._passes(copy, tests[start : start + AT_ONCE]) for start in range(0, len(tests), AT_ONCE))
        finally:
            at.write_text(_text(mutant.module))
            with self._lock:
                self._copies.append(copy)

    @staticmethod
    def _passes(copy: Path, tests: Sequence[str]) -> bool:
        command = [sys.executable, "-m", "pytest", "-q", "-x", "-p", "no:cacheprovider", "-p", "no:randomly", *tests]
        environment = {**os.environ, "PYTHONPATH": f"{copy / 'src'}:{copy}", "PYTHONDONTWRITEBYTECODE": "1"}
        try:
            done = subprocess.run(
                command, cwd=copy, env=environment, capture_output=True, timeout=LONGEST_S, check=False
            )
        except subprocess.TimeoutExpired:
            return False
        return done.returncode == 0


def judged(mutants: Sequence[Mutant], copies: int) -> Iterator[tuple[Mutant, bool]]:
    """Each with whether it survives, as they come."""
    with tempfile.TemporaryDirectory(prefix="lesart-mutants-") as folder, ThreadPoolExecutor(copies) as pool:
        judge = Judge(Path(folder), copies)
        yield from zip(mutants, pool.map(judge.survives, mutants), strict=True)


def main(arguments: Sequence[str] | None = None) -> int:
    parser = argparse.ArgumentParser(prog="python -m tools.mutants", description=__doc__, allow_abbrev=False)
    parser.add_argument("--count", type=int, default=300, help="how many places are drawn")
    parser.add_argument("--seed", type=int, default=1, help="of the draw")
    parser.add_argument("--within", default="", help="only modules whose path has this in it, such as core/law")
    parser.add_argument("--copies", type=int, default=2, help="how many go at once")
    parser.add_argument("--again", action="store_true", help="record anew which tests run which lines")
    options = parser.parse_args(arguments)
    if options.again or not (RECORD.exists() and FAILING.exists()):
        record()
    tally: Counter[str] = Counter()
    survivors: Counter[str] = Counter()
    for number, (mutant, survives) in enumerate(
        judged(drawn(options.count, options.seed, options.within), options.copies), 1
    ):
        print(f"\r{number} of {options.count}", end="", file=sys.stderr, flush=True)
        step = mutant.module.relative_to(CORE).parts[0]
        tally[step] += 1
        if survives:
            survivors[step] += 1
            print(f"survives: {mutant}", flush=True)
    for step, count in sorted(tally.items()):
        print(f"{step}: {count} mutants, {survivors[step]} survive")
    total, alive = tally.total(), survivors.total()
    print(f"{total} mutants, {alive} survive: {100 * alive / max(total, 1):.1f} %")
    return 0


if __name__ == "__main__":
    sys.exit(main())
