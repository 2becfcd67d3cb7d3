"""Lines in 3 Law for a reading that has its unit already: each reads what it says, or is sent where it belongs."""

from __future__ import annotations

from pathlib import Path

import pytest

from lesart.core.step import Step
from lesart.desk.desk import Desk
from lesart.desk.opening import open_desk
from lesart.project.new.make import make_project
from tests.desk.unit_lines import SHOWN, UNIT_LINES

LINES = [(column, line) for column, lines in UNIT_LINES.items() for line in lines]
IN_ANOTHER = [(column, line) for column, lines in SHOWN.items() for line in lines]


def opened(folder: Path, column: tuple[str, float]) -> Desk:
    """A project of one column that hardly moves, in 3 Law."""
    name, value = column
    rows = "\n".join(f"{k},{value if k != 30 else value * 1.0001}" for k in range(60))
    (folder / "log.csv").write_text(f"t_s,{name}\n{rows}\n")
    desk = open_desk(make_project(folder / "log.csv", folder / "made").folder)
    desk.open_step(Step.LAW)
    return desk


@pytest.mark.parametrize(("column", "line"), LINES, ids=[f"{column[0]}: {line}" for column, line in LINES])
def test_a_line_reads_what_it_says(column: tuple[str, float], line: str, tmp_path: Path) -> None:
    desk = opened(tmp_path, column)
    value, unit = UNIT_LINES[column][line]
    desk.add(line)
    assert not desk.state.message_is_fault, desk.state.message
    assert str(desk.state.chosen.unit) == unit
    assert desk.bench.run(desk.state.project, desk.state.chosen).blocks[Step.TRUE].x[0] == pytest.approx(
        value, rel=2e-4
    )
    desk.close()


@pytest.mark.parametrize(("column", "line"), IN_ANOTHER, ids=[f"{column[0]}: {line}" for column, line in IN_ANOTHER])
def test_another_unit_is_a_matter_of_the_field(column: tuple[str, float], line: str, tmp_path: Path) -> None:
    """Factors that are rounded are recognised too: with 0.5556 it read 25 °F."""
    desk = opened(tmp_path, column)
    before = desk.state.history.text
    desk.add(line)
    assert desk.state.message == (
        f'"{line}": in which unit a reading is shown is a rule of its field; U goes through them, and + in 6 Fit takes '
        f"in {SHOWN[column][line]}."
    )
    assert desk.state.history.text == before
    desk.close()


@pytest.mark.parametrize(
    ("line", "says"),
    [
        ("volts = adc * 5 / 1023", "is of counts, adc, and sig_V ends in V already; write x for what it reads."),
        (
            "float amps = (adc - 512) * 0.0488;",
            "is of counts, adc, and sig_V ends in V already; write x for what it reads.",
        ),
    ],
)
def test_a_formula_of_counts_is_none_of_volts(line: str, says: str, tmp_path: Path) -> None:
    desk = opened(tmp_path, ("sig_V", 2.4))
    before = desk.state.history.text
    desk.add(line)
    assert desk.state.message == f'"{line}" {says}'
    assert desk.state.history.text == before
    desk.close()


def test_counts_of_dry_soil_are_no_volts(tmp_path: Path) -> None:
    """800 V of a column of volts would be read as any share."""
    desk = opened(tmp_path, ("sig_V", 2.4))
    desk.add("dry 880, wet 400")
    assert desk.state.message == "sig_V is in V; this begins with ct. Its raw unit is a value in 2 Raw."
    desk.close()
