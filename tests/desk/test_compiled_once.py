"""Lines are read by thousands of patterns; none of them is compiled again for the next line, which would take longer
than all the rest."""

from __future__ import annotations

import re._compiler  # what compiles, and keeps nothing
from collections import Counter
from pathlib import Path
from typing import Any

import pytest

from lesart.core.step import Step
from tests.desk.test_recipes import opened

LINES = (
    "NTC 10k 3950 with 10k pullup on A0",
    "0.5-4.5 V is 0-10 bar",
    "x * 0.1 + 3",
    "moving average of 8",
    "alarm above 30",
    "two decimals and the unit",
    "16x2 lcd on two wires",
    "button on pin 7",
    "every 250 ms",
    "16 bit mcu without divider",
    "nothing of the kind",
    "distance cm = 27.86 * volts^-1.15",
)
AGAIN = 40
"""Patterns that may be compiled in a second round of all lines in all steps: of what is typed, not of tables."""


def test_a_second_round_compiles_next_to_nothing(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    desk = opened(tmp_path, 512)
    compiled: Counter[str] = Counter()
    compile_it = re._compiler.compile  # type: ignore[attr-defined]

    def counting(pattern: Any, *more: Any) -> Any:
        compiled[str(pattern)] += 1
        return compile_it(pattern, *more)

    for _ in range(2):
        compiled.clear()
        monkeypatch.setattr(re._compiler, "compile", counting)  # type: ignore[attr-defined]
        for step in Step:
            for line in LINES:
                desk.open_step(step)
                before = desk.state.history.text
                desk.add(line)
                while desk.state.history.text != before:
                    desk.undo()
        monkeypatch.undo()
    desk.close()
    assert compiled.total() <= AGAIN, compiled.most_common(12)
