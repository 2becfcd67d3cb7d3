"""``lesart pace`` and its timing diagram."""

from __future__ import annotations

import re
from pathlib import Path

import pytest

from tests.cli.spoken import read_json, refused, said

WITHOUT_TRACES = re.compile(r"\[panels\.\w+\.trace\]\n(?:\w+ = .*\n)+")


def test_verdicts(yard_once: Path, capsys: pytest.CaptureFixture[str]) -> None:
    """Faults first, each with figure, limit and remedy; 1 while there is a fault."""
    text = said(capsys, "pace", yard_once, code=1)
    assert re.match(r"† refresh of stand +41 Hz +50 Hz +−18 %  on-time 4.9 ms instead of 6 ms\n", text)
    found = read_json(said(capsys, "pace", yard_once, "--for", "60s", "--json", code=1))
    assert found["played_s"] == 60.0
    by_name = {each["name"]: each for each in found["verdicts"]}
    scan = next(each for each in found["tasks"] if each["name"] == "scan stand")
    assert (scan["runs"], scan["period_s"], scan["left_out"]) == ("by interrupt", 0.0061, 0)
    assert scan["rate_hz"] == pytest.approx(1 / 0.0061, rel=1e-3)
    refresh = by_name["refresh of stand"]
    assert list(refresh)[:5] == ["name", "figure", "unit", "limit", "ok"]
    assert (refresh["figure"], refresh["unit"], refresh["limit"], refresh["ok"]) == (
        pytest.approx(1000 / 24.4),
        "Hz",
        50.0,
        False,
    )
    assert by_name["two-wire bus in use"]["ok"]
    assert 20 < by_name["two-wire bus in use"]["figure"] < 30


def test_without_a_fault(yard: Path, capsys: pytest.CaptureFixture[str]) -> None:
    """0 once the on-time is shorter and the beam counted by interrupt; doubts are none."""
    path = yard / "lesart.toml"
    text = path.read_text().replace('on_time = "6 ms"', 'on_time = "2 ms"')
    text = text.replace('runs = "in the loop"', 'runs = "by interrupt"')
    path.write_text(WITHOUT_TRACES.sub("", text))
    assert "refresh of stand                        119 Hz" in said(capsys, "pace", yard)


@pytest.mark.parametrize(
    ("lasts", "says"), [("0 s", "from 0.001 to 3600 s"), ("2 h", "from 0.001 to 3600 s"), ("long", "long")]
)
def test_a_wrong_time(yard_once: Path, capsys: pytest.CaptureFixture[str], lasts: str, says: str) -> None:
    assert says in refused(capsys, "pace", yard_once, "--for", lasts)


def test_wrong_tasks(yard: Path, capsys: pytest.CaptureFixture[str]) -> None:
    """Every problem of the tables with its place."""
    path = yard / "lesart.toml"
    wrong = (
        '[loop.tasks.log]\nperiod = "fast"\nshortest = "3 ms"\n\n[loop.tasks.tick]\nperiod = "0 s"\nshortest = "0 ms"\n'
    )
    path.write_text(path.read_text().replace('[loop.tasks."count beam"]', f'{wrong}\n[loop.tasks."count beam"]'))
    said_ = refused(capsys, "pace", yard)
    assert "loop.tasks.log.period" in said_
    assert "loop.tasks.tick.period" in said_
    assert "what takes no time cannot run in each turn" in said_


@pytest.mark.parametrize("ending", ["svg", pytest.param("pdf", marks=pytest.mark.long)])
def test_timing_diagram(yard_once: Path, tmp_path: Path, capsys: pytest.CaptureFixture[str], ending: str) -> None:
    """A lane for each digit and task with what it takes, and the verdicts below."""
    path = tmp_path / f"pace.{ending}"
    said(capsys, "draw", yard_once, "pace", "-o", path)
    if ending == "pdf":
        assert path.read_bytes().startswith(b"%PDF")
        return
    text = path.read_text(encoding="utf-8")
    for words in ("digit 4", "draw door", "6 conversions", "% missed", "refresh of stand", "41 Hz", "−18 %"):
        assert words in text, words
    assert 'id="lane-digit 1"' in text


@pytest.mark.parametrize(("panel", "signals"), [("door", "clock, data"), ("stand", "d1, d2, d3, d4, a, b")])
def test_a_models_trace(
    yard_once: Path, tmp_path: Path, capsys: pytest.CaptureFixture[str], panel: str, signals: str
) -> None:
    """Written as VCD, which lesart reads like any other."""
    path = tmp_path / "model.vcd"
    assert signals in said(capsys, "trace", yard_once, panel, "-o", path, "--at", "1440", "--drawings", "2")
    listed = said(capsys, "decode", path)
    assert all(name in listed for name in signals.split(", "))
    if panel == "door":
        frames = said(capsys, "decode", path, "--as", "two-wire bus", "--json").splitlines()
        # An address and 16 letters for each of two rows, twice, each in a transmission.
        assert len(frames) == 68


@pytest.mark.parametrize(
    ("arguments", "says"),
    [
        (("roof",), 'panel "roof" is not in the project'),
        (("gate",), "driven direct, by lines and no bus"),
        (("lid", "--drawings", "0"), "from 1 to 1000"),
    ],
)
def test_no_models_trace(
    yard_once: Path, tmp_path: Path, capsys: pytest.CaptureFixture[str], arguments: tuple[str, ...], says: str
) -> None:
    assert says in refused(capsys, "trace", yard_once, *arguments, "-o", tmp_path / "x.vcd")


def test_each_figure_is_explained_where_that_is_asked(yard_once: Path, capsys: pytest.CaptureFixture[str]) -> None:
    """Its rule stands below it: of every one there is."""
    plain = said(capsys, "pace", yard_once, "--for", "1s", code=1).splitlines()
    told = said(capsys, "pace", yard_once, "--for", "1s", "--explain", code=1).splitlines()
    assert told[::2] == plain
    assert told[1] == "    1 ÷ (digits × (on-time + blanking)); limit: wanted of its scan"
    assert all(line.startswith("    ") for line in told[1::2])
