"""The project's own tools read their arguments: a mistyped one makes no file and no folder."""

from __future__ import annotations

import subprocess
import sys
from pathlib import Path

import pytest
from tools.bench.__main__ import PARTS, everything
from tools.bench.chain import FILTERS, alone
from tools.bench.floor import Floor
from tools.meanings import Meaning, different, lines_typed, meanings_of

from lesart.core import calm, law

ROOT = Path(__file__).resolve().parent.parent
TOOLS = sorted(
    path.parent.name if path.stem == "__main__" else path.stem
    for path in (ROOT / "tools").rglob("*.py")
    if 'if __name__ == "__main__"' in path.read_text(encoding="utf-8")
)


@pytest.mark.parametrize("tool", TOOLS)
@pytest.mark.parametrize(("arguments", "code"), [(["--hlep"], 2), pytest.param(["--help"], 0, marks=pytest.mark.long)])
def test_a_tool_reads_its_arguments(tool: str, arguments: list[str], code: int, tmp_path: Path) -> None:
    """``--help`` explains, an option that it does not have is refused, and neither leaves anything behind."""
    command = [sys.executable, "-m", f"tools.{tool}", *arguments]
    done = subprocess.run(
        command, cwd=tmp_path, env={"PYTHONPATH": str(ROOT)}, capture_output=True, text=True, timeout=60, check=False
    )
    assert done.returncode == code
    assert "usage: python -m tools" in done.stdout + done.stderr
    assert list(tmp_path.iterdir()) == []


def test_no_file_of_the_repository_is_named_like_an_option() -> None:
    """A name that begins with a dash came from an option that was taken for a path."""
    listed = subprocess.run(["git", "ls-files"], cwd=ROOT, capture_output=True, text=True, timeout=60, check=False)
    if listed.returncode == 0:
        assert [name for name in listed.stdout.splitlines() if name.startswith("-") or "/-" in name] == []


@pytest.mark.parametrize(
    "page", ["README.md", "docs/guide/first.md", "docs/guide/glass.md", "docs/how.md", "docs/newcomer.md"]
)
def test_pages_for_people_can_be_scanned(page: str) -> None:
    """No line is longer than what the eye takes in at once; the reference of the project file is for looking up."""
    lines = (ROOT / page).read_text(encoding="utf-8").splitlines()
    assert [line[:60] for line in lines if len(line) > 300] == []


def test_what_a_line_means_is_compared(tmp_path: Path) -> None:
    """What was refused before and is understood now is none of its lines, nor what means the same."""
    lines = ["NTC 10k 3950", "nothing of the kind", "x * 0.1 + 3"]
    now = meanings_of(lines, "law", tmp_path)
    assert list(now) == lines
    assert [each.refused for each in now.values()] == [False, True, False]
    assert any("beta" in each for each in now["NTC 10k 3950"].changed)
    assert list(different(now, now)) == []
    refused = Meaning(True, "no", ())
    assert list(different(now | {"NTC 10k 3950": refused}, now)) == []
    (told,) = different(now, now | {"x * 0.1 + 3": refused})
    assert told == f"'x * 0.1 + 3'\n  before: {now['x * 0.1 + 3'].says}\n  now:    no"
    (told,) = different(now, now | {"x * 0.1 + 3": now["NTC 10k 3950"]})
    assert "'x * 0.1 + 3'" in told
    assert "beta" in told


def test_every_line_that_a_test_types_is_had(tmp_path: Path) -> None:
    (tmp_path / "test_it.py").write_text('LINES = ("pt100 on A0", "x", "two\\nlines", 7)\n', encoding="utf-8")
    assert lines_typed(tmp_path) == ["pt100 on A0"]


WATCHED = {"start", "edits", "still", "large"}
"""Parts that start the program and wait for it."""


@pytest.mark.parametrize("part", [pytest.param(each, marks=[pytest.mark.long] * (each in WATCHED)) for each in PARTS])
def test_each_part_of_the_benchmark_runs(part: str, tmp_path: Path) -> None:
    """Of a hundredth of what it measures; a record of the core that has changed its shape ends it elsewhere too
    late."""
    (tmp_path / "work").mkdir()
    rows = list(everything(tmp_path / "work", Floor(), 100)[part]())
    assert rows
    assert all(row.ours_s > 0 or row.remark for row in rows), rows


def test_the_benchmark_measures_all_laws_and_filters_that_it_can() -> None:
    """Those that it leaves out are known by name."""
    assert set(law.KINDS) - {kind for kind, _ in alone()} == {
        "divider",
        "half of a divider",
        "shunt",
        "windowed RMS",
        "windowed peak",
        "windowed level",
        "strongest frequency",
    }
    assert {kind for kind, _ in FILTERS.values()} == set(calm.KINDS)
