"""Scanned digits: refresh, duty and flicker, worked by hand."""

from __future__ import annotations

import re
from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lesart.core.glass.panels.scan import Scan
from lesart.core.notes import DOUBT, FAULT
from lesart.core.pace.play import Ran
from lesart.core.pace.scan import bands, inspect_scan, judge_scan, scan_verdicts
from lesart.core.pace.verdict import Verdict, tightest
from tests.figures import unsaid

KEY = ("panels", "stand", "scan")


@pytest.mark.parametrize(
    ("on_ms", "blank_ms", "digits", "period", "refresh", "duty", "steady", "mend"),
    [
        (6.0, 0.1, 4, 24.4, 40.98, 0.2459, False, 4.9),
        (4.9, 0.1, 4, 20.0, 50.0, 0.245, True, None),
        (2.0, 0.0, 4, 8.0, 125.0, 0.25, True, None),
        (10.0, 0.0, 1, 10.0, 100.0, 1.0, True, None),
        (1.0, 30.0, 4, 124.0, 8.06, 0.00806, False, None),  # the blanking alone is too long
        (0.5, 1.98, 10, 24.8, 40.32, 0.02016, False, 0.02),
    ],
)
def test_by_hand(
    on_ms: float,
    blank_ms: float,
    digits: int,
    period: float,
    refresh: float,
    duty: float,
    steady: bool,
    mend: float | None,
) -> None:
    """Period, refresh and duty from on-time, blanking and digit count."""
    verdict = judge_scan(Scan(on_ms, blank_ms, 50.0), digits)
    assert verdict.period_ms == pytest.approx(period)
    assert verdict.refresh_hz == pytest.approx(refresh, rel=1e-3)
    assert verdict.duty == pytest.approx(duty, rel=1e-3)
    assert verdict.steady is steady
    assert verdict.mend_on_time_ms == (None if mend is None else pytest.approx(mend))


@given(st.floats(0.01, 50), st.floats(0, 5), st.integers(1, 16), st.floats(30, 120))
def test_the_mend_mends(on_ms: float, blank_ms: float, digits: int, wanted: float) -> None:
    """What is proposed meets the wanted refresh, and a tenth of a millisecond more does not; what is not, cannot."""
    scan = Scan(on_ms, blank_ms, wanted)
    verdict = judge_scan(scan, digits)
    if verdict.mend_on_time_ms is not None:
        assert not judge_scan(Scan(verdict.mend_on_time_ms + 0.1 + 1e-9, blank_ms, wanted), digits).steady
        assert judge_scan(Scan(verdict.mend_on_time_ms, blank_ms, wanted), digits).refresh_hz >= wanted * (1 - 1e-12)
    elif not verdict.steady:
        assert digits * blank_ms * wanted >= 1000 * (1 - 1e-9)


def test_notes() -> None:
    """Flicker is a fault with the edit that mends it; near the limit a doubt; well above it nothing."""
    (fault,) = inspect_scan("stand", Scan(6.0, 0.1, 50.0), 4, KEY)
    assert fault.mark == FAULT
    assert (fault.unit, fault.limit) == ("Hz", 50.0)
    assert [(mend.key, mend.value) for mend in fault.mend] == [((*KEY, "on_time"), "4.9 ms")]
    (doubt,) = inspect_scan("stand", Scan(4.5, 0.1, 50.0), 4, KEY)
    assert doubt.mark == DOUBT
    assert not inspect_scan("stand", Scan(2.0, 0.1, 50.0), 4, KEY)
    (hopeless,) = inspect_scan("stand", Scan(1.0, 30.0, 50.0), 4, KEY)
    assert hopeless.mend == ()
    assert hopeless.remedy


def _light(on_ms: float, period_ms: float, shutter_ms: float, at_ms: float) -> float:
    """Lit time within a shutter that opens at a moment, added up in steps of a thousandth of a period."""
    step = period_ms / 1000
    moments = [at_ms + (place + 0.5) * step for place in range(round(shutter_ms / step))]
    return sum(step for moment in moments if moment % period_ms < on_ms)


@pytest.mark.parametrize(
    ("on_ms", "period_ms", "shutter_ms"), [(6, 24, 20), (2, 8, 20), (5, 20, 20), (1, 4, 10), (5, 20, 3), (9, 10, 33)]
)
def test_bands_by_brute_force(on_ms: float, period_ms: float, shutter_ms: float) -> None:
    """A line of a camera's picture for each hundredth of a period."""
    lines = [_light(on_ms, period_ms, shutter_ms, place * period_ms / 100) for place in range(100)]
    contrast = (max(lines) - min(lines)) / (max(lines) + min(lines))
    assert bands(on_ms, period_ms, shutter_ms) == pytest.approx(contrast, abs=0.01)


def test_a_shutter_of_whole_rounds_has_no_bands() -> None:
    """20 ms over rounds of 5 ms: each line sees four."""
    assert bands(1.0, 5.0, 20.0) == pytest.approx(0.0)


@given(st.floats(0.05, 0.9), st.floats(5.0, 40.0), st.floats(0.0, 1.0))
def test_what_keeps_bands_away(duty: float, shutter_ms: float, more: float) -> None:
    """From the refresh that the remedy names on, no camera sees bands, whatever the duty; nor with the shutter
    named."""
    slow = Scan(24.0 * duty, 24.0 * (1 - duty), 10.0)
    note = next(each for each in scan_verdicts("stand", slow, 1, shutter_ms, ()) if "camera" in each.name).note
    if note is None:
        return
    assert note.remedy is not None
    found = re.match(r"a refresh from ([\d.]+) Hz on(?:, or a shutter of ([\d.]+) ms)?", note.remedy)
    assert found is not None
    period_ms = 1000.0 / (float(found[1]) * 1.005 * (1 + more))
    fast = Scan(period_ms * duty, period_ms * (1 - duty), 10.0)
    assert next(each for each in scan_verdicts("stand", fast, 1, shutter_ms, ()) if "camera" in each.name).note is None
    assert float(found[2]) == pytest.approx(24.0)
    assert bands(24.0 * duty, 24.0, float(found[2])) == pytest.approx(0.0)


def test_the_least_that_keeps_bands_away_on_paper() -> None:
    """A line of the camera that is open for 16.7 ms sees five rounds at 300 Hz: 1 part in 11 at most. With half a round
    less it sees four or five flashes that are short enough, which is 1 part in 9."""
    note = next(
        each for each in scan_verdicts("stand", Scan(3.0, 3.0, 10.0), 4, 20.0, ()) if "camera" in each.name
    ).note
    assert note is not None
    assert note.remedy == "a refresh from 300 Hz on, or a shutter of 24 ms up to 40 pictures a second"
    assert unsaid(note) == ""
    short = 0.05 * 1000 / 270
    nearly = scan_verdicts("stand", Scan(short, 1000 / 270 - short, 10.0), 1, 20.0, ())
    assert next(each for each in nearly if "camera" in each.name).note is not None
    # A picture of the fastest camera is 16.7 ms, one of the slower ones 40 ms: so many whole rounds fit into it.
    for slot_ms, shutter in ((8.0, "16 ms"), (9.0, "9 ms"), (34.5, "34.5 ms up to 25 pictures a second"), (45.0, None)):
        slow = Scan(0.3 * slot_ms, 0.7 * slot_ms, 10.0)
        note = next(each for each in scan_verdicts("stand", slow, 1, 20.0, ()) if "camera" in each.name).note
        assert note is not None
        assert note.remedy == "a refresh from 300 Hz on" + (f", or a shutter of {shutter}" if shutter else "")


def _runs(starts_ms: list[float]) -> list[Ran]:
    return [Ran(round(at * 1e6), round(at * 1e6), round(at * 1e6) + 1000) for at in starts_ms]


def test_currents_and_ghosts() -> None:
    """(5 − 2) ÷ 100 Ω = 30 mA of 25; 8 segments 240 mA of 200; 10 µs of blanking where 20 are needed."""
    scan = Scan(2.0, 0.01, 50.0, resistor_ohm=100.0, line_limit_ma=200.0)
    found = {each.name: each for each in scan_verdicts("stand", scan, 4, 20.0, ())}
    segment, line = found["peak current, one segment"], found["peak current, a digit's line"]
    assert segment.figure == pytest.approx(30.0)
    assert not segment.ok
    assert segment.note is not None
    assert segment.note.mend[0].value == "120 Ω"
    assert line.figure == pytest.approx(240.0)
    assert line.note is not None
    assert line.note.mend[0].value == "120 Ω"
    # On for 2 of 8.04 ms: the mean is a quarter of the peak, nearly.
    assert found["mean current, one segment"].figure == pytest.approx(30.0 * 2.0 / 8.04)
    ghosts = found["blanking against ghosts"]
    assert ghosts.note is not None
    assert ghosts.note.mark == FAULT
    assert ghosts.note.mend[0].value == "20 µs"
    assert ghosts.note.text.startswith("stand: 10 µs of blanking is too short; a digit needs 20 µs to go dark")
    for verdict in found.values():
        assert verdict.note is None or unsaid(verdict.note) == "", verdict.name
    # A resistor that is one step smaller carries too much, both in a segment and in the line of all.
    smaller = {each.name: each for each in scan_verdicts("stand", replace(scan, resistor_ohm=110.0), 4, 20.0, ())}
    larger = {each.name: each for each in scan_verdicts("stand", replace(scan, resistor_ohm=120.0), 4, 20.0, ())}
    for name in (segment.name, line.name):
        assert not smaller[name].ok
        assert larger[name].ok


def test_uneven_digits() -> None:
    """Slots of 2, 2, 5, 2 ms and so on: the slowest round of four takes 11 ms."""
    starts = [0.0]
    for slot in (2, 2, 5, 2) * 4:
        starts.append(starts[-1] + slot)
    found = {each.name: each for each in scan_verdicts("stand", Scan(1.9, 0.1, 50.0), 4, 20.0, _runs(starts))}
    # (5 − 2) ÷ 2.75 on average.
    assert found["digits uneven by"].figure == pytest.approx(300 / 2.75)
    assert found["slowest round"].figure == pytest.approx(1000 / 11)
    note = found["digits uneven by"].note
    assert note is not None
    assert note.mend[0].value == "by interrupt"
    even = {
        each.name: each
        for each in scan_verdicts("stand", Scan(1.9, 0.1, 50.0), 4, 20.0, _runs([2.0 * at for at in range(20)]))
    }
    assert even["digits uneven by"].note is None


@given(st.floats(0.1, 100), st.one_of(st.none(), st.floats(0.1, 100)), st.booleans())
def test_margins(figure: float, limit: float | None, at_least: bool) -> None:
    """Met and with a margin that is not negative, or neither."""
    verdict = Verdict("any", figure, "Hz", limit, at_least)
    assert verdict.ok == (limit is None or (verdict.margin is not None and verdict.margin >= 0))


def test_the_tightest() -> None:
    """A fault goes before a doubt that is further off, then the least margin; what has no limit is none."""
    fault = Verdict("a", 9, "Hz", 10, True, inspect_scan("stand", Scan(6.0, 0.1, 50.0), 4, KEY)[0])
    doubt, near, far = Verdict("b", 99, "%", 1), Verdict("c", 9, "%", 10), Verdict("d", 1, "%", 10)
    assert tightest((far, near, doubt, fault)) is fault
    assert tightest((far, near, doubt)) is doubt
    assert tightest((far, near)) is near
    assert tightest((Verdict("e", 1, "%"),)) is None
