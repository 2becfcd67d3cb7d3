"""What every line that a test types means now, beside what it meant at another commit.

Run by ``make meanings BEFORE=COMMIT``. A change that reads one more line may read others differently, which no test
tells that has only the new one: lines that were understood before and are refused or mean something else now are
printed, to be looked at one by one.
"""

from __future__ import annotations

import argparse
import ast
import difflib
import json
import os
import random
import subprocess
import sys
import tempfile
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import asdict, dataclass
from pathlib import Path

ROOT = Path(__file__).parent.parent
LONGEST_S = 3600.0
MOST_UNDONE = 5
"""A line makes few changes, each of which is undone before the next one."""


@dataclass(frozen=True)
class Meaning:
    """Whether a line was refused, what was said, and the changed lines of the project; empty where there are none."""

    refused: bool
    says: str
    changed: tuple[str, ...]


def lines_typed(tests: Path) -> list[str]:
    """Every text in the tests that could be typed, in order."""
    found: set[str] = set()
    for path in tests.rglob("*.py"):
        for node in ast.walk(ast.parse(path.read_text(encoding="utf-8"))):
            if isinstance(node, ast.Constant) and isinstance(node.value, str):
                found |= {node.value} if 1 < len(node.value.strip()) < 120 and "\n" not in node.value else set()
    return sorted(found)


def meanings_of(lines: Sequence[str], step: str, folder: Path) -> dict[str, Meaning]:
    """Each line typed at + in a step of a new project of whole counts, and undone."""
    from lesart.core.step import Step
    from lesart.desk.opening import open_desk
    from lesart.project.new.make import make_project

    log = folder / "probe.csv"
    log.write_text("counts\n" + "".join(f"{500 + place * place % 11}\n" for place in range(400)), encoding="utf-8")
    make_project(log, folder / "probe")
    desk, found = open_desk(folder / "probe"), {}
    for line in lines:
        desk.open_step(Step[step.upper()])
        before = desk.state.history.text
        desk.add(line)
        changes = difflib.unified_diff(before.splitlines(), desk.state.history.text.splitlines(), n=0, lineterm="")
        changed = tuple(each for each in changes if each[:2] not in ("--", "++", "@@"))
        found[line] = Meaning(desk.state.message_is_fault, desk.state.message, changed)
        for _ in range(MOST_UNDONE):
            if desk.state.history.text == before:
                break
            desk.undo()
    desk.close()
    return found


def different(before: Mapping[str, Meaning], now: Mapping[str, Meaning]) -> Iterator[str]:
    """Lines that were understood before, and mean something else now."""
    for line, meaning in before.items():
        if meaning.refused or (other := now.get(line)) is None or other.changed == meaning.changed:
            continue
        parts = difflib.ndiff(meaning.changed, other.changed)
        change = " ".join(part for part in parts if part[0] in "+-")
        yield f"{line!r}\n  before: {meaning.says}\n  now:    {other.says}" + (
            f"\n  {change}" if not other.refused else ""
        )


def at_side(source: Path, lines: Sequence[str], step: str) -> dict[str, Meaning]:
    """The meanings by the sources of one side, in a program of its own."""
    with tempfile.TemporaryDirectory(prefix="lesart-meanings-") as folder:
        asked = Path(folder) / "lines.json"
        asked.write_text(json.dumps(lines), encoding="utf-8")
        command = [sys.executable, "-m", "tools.meanings", "--of", str(asked), "--step", step]
        environment = {**os.environ, "PYTHONPATH": f"{source}:{ROOT}"}
        done = subprocess.run(
            command, cwd=folder, env=environment, capture_output=True, text=True, timeout=LONGEST_S, check=False
        )
        if done.returncode:
            raise SystemExit(f"{source}: {done.stderr.strip().splitlines()[-1]}")
        return {
            line: Meaning(**{**each, "changed": tuple(each["changed"])})
            for line, each in json.loads(done.stdout).items()
        }


def main(arguments: Sequence[str] | None = None) -> int:
    parser = argparse.ArgumentParser(prog="python -m tools.meanings", description=__doc__, allow_abbrev=False)
    parser.add_argument("before", nargs="?", default="HEAD~1", help="the commit to compare with")
    parser.add_argument("--step", default="", help="in one step only, such as law; default: in each")
    parser.add_argument("--share", type=float, default=1.0, help="of all lines, drawn by chance")
    parser.add_argument("--seed", type=int, default=1, help="of the draw")
    parser.add_argument("--of", help=argparse.SUPPRESS)
    options = parser.parse_args(arguments)
    if options.of:
        with tempfile.TemporaryDirectory(prefix="lesart-meanings-") as folder:
            found = meanings_of(json.loads(Path(options.of).read_text(encoding="utf-8")), options.step, Path(folder))
        print(json.dumps({line: asdict(meaning) for line, meaning in found.items()}))
        return 0
    from lesart.core.step import Step

    lines = lines_typed(ROOT / "tests/desk")
    lines = random.Random(options.seed).sample(lines, max(round(options.share * len(lines)), 1))
    with tempfile.TemporaryDirectory(prefix="lesart-before-") as folder:
        tree = Path(folder) / "before"
        subprocess.run(["git", "worktree", "add", "--detach", "-q", str(tree), options.before], cwd=ROOT, check=True)
        try:
            for step in [options.step] if options.step else [each.name.lower() for each in Step]:
                told = list(different(at_side(tree / "src", lines, step), at_side(ROOT / "src", lines, step)))
                print("".join(f"{each}\n" for each in told), end="")
                print(f"{step}: {len(lines)} lines, {len(told)} that were understood mean something else", flush=True)
        finally:
            subprocess.run(["git", "worktree", "remove", "--force", str(tree)], cwd=ROOT, check=True)
    return 0


if __name__ == "__main__":
    sys.exit(main())
