"""A line that just talks: numbers found whatever stands between them, and nothing believed without reason."""

from __future__ import annotations

import itertools
import math

import numpy as np
import pytest
from hypothesis import example, given
from hypothesis import strategies as st

from lesart.core.raw.lines.line_cells import line_cells
from lesart.core.raw.lines.line_names import spoken_names
from lesart.core.raw.lines.received import Received
from lesart.core.raw.lines.text_line import ALONE_S, LONGEST_LINE, QUIET_S, TextState, joined, take
from lesart.core.raw.timing import timing_of

NAN = math.nan


def heard(*lines: str, more: TextState | None = None) -> Received:
    """All lines at once, between two silences."""
    data = "".join(f"{line}\n" for line in lines).encode()
    state, first = take(joined(more or TextState(), 0.0), data, 1.0)
    _, then = take(state, b"", 1.1 + ALONE_S)
    assert not (first.t and then.t)
    return Received(
        then.columns, first.t + then.t, first.values + then.values, first.marks + then.marks, first.events + then.events
    )


@pytest.mark.parametrize(
    ("line", "columns", "values"),
    [
        ("42.5", ("column 1",), (42.5,)),
        ("1,2.5,-3e2", ("column 1", "column 2", "column 3"), (1, 2.5, -300)),
        ("1;2;3;", ("column 1", "column 2", "column 3"), (1, 2, 3)),
        ("1\t+2", ("column 1", "column 2"), (1, 2)),
        ("  1   2 ", ("column 1", "column 2"), (1, 2)),
        ("1|2", ("column 1", "column 2"), (1, 2)),
        ("0x1F 7", ("column 1", "column 2"), (31, 7)),
        ("23.5 °C, 45 %", ("column 1", "column 2"), (23.5, 45)),
        ("T=23.5 H=45.2", ("T", "H"), (23.5, 45.2)),
        ("temp: 23.5 °C; hum: 45 %", ("temp", "hum"), (23.5, 45)),
        ("Temp: 23.5 C  Hum: 45 %", ("Temp", "Hum"), (23.5, 45)),
        ("T=23.5C,H=-4%", ("T", "H"), (23.5, -4)),
        ("gas 2: 412 ppm", ("gas 2",), (412,)),
        ("Temperature 23.5 humidity 45", ("Temperature", "humidity"), (23.5, 45)),
        ("Distance is 12 cm", ("Distance",), (12,)),
        ("It is 12 degrees", ("column 1",), (12,)),
        ("V 3.3 A 0.5", ("V", "A"), (3.3, 0.5)),
        ("T 21.5 C, RH 40 %", ("T", "RH"), (21.5, 40)),
        ("[CH0] 512 [CH1] 498", ("CH0", "CH1"), (512, 498)),
        ("acc 0.1 -0.2 0.98", ("acc.1", "acc.2", "acc.3"), (0.1, -0.2, 0.98)),
        ("acc: [0.1, -0.2, 0.98]", ("acc.1", "acc.2", "acc.3"), (0.1, -0.2, 0.98)),
        ("Acc X: 1 Y: 2 Gyro X: 3 Y: 4", ("Acc X", "Acc Y", "Gyro X", "Gyro Y"), (1, 2, 3, 4)),
        ("S1 T=1 H=2 | S2 T=3 H=4", ("S1 T", "S1 H", "S2 T", "S2 H"), (1, 2, 3, 4)),
        ("[1200ms] volt 3.3 V", ("time", "volt"), (1200, 3.3)),
        ("Temp: 21.5 C (20, 23)", ("Temp",), (21.5,)),
        (">level:3.5", ("level",), (3.5,)),
        ("12:34:56, 23.5", ("column 1", "column 2"), (NAN, 23.5)),
        ("2026-05-14T08:00:00Z;7", ("column 1", "column 2"), (NAN, 7)),
        ("T: nan H: 45", ("T", "H"), (NAN, 45)),
        ("1,,3", ("column 1", "column 2", "column 3"), (1, NAN, 3)),
        ("--- 5", ("column 1", "column 2"), (NAN, 5)),
        ("23,4;56,5", ("column 1", "column 2"), (23.4, 56.5)),
        ("23,4\t56", ("column 1", "column 2"), (23.4, 56)),
        ("T=23,4 H=56,5", ("T", "H"), (23.4, 56.5)),
        ("1,2;3.5", ("column 1", "column 2"), (1, 3.5)),
        ('{"temp": 23.4, "ok": true, "acc": [1, 2]}', ("temp", "ok", "acc.1", "acc.2"), (23.4, 1, 1, 2)),
        ('{"bme": {"t": 21.5, "p": null}, "id": "a"}', ("bme.t", "bme.p"), (21.5, NAN)),
        ("\x1b[0;32mI (50) app: temp=23.4 hum=56\x1b[0m", ("temp", "hum"), (23.4, 56)),
        ("\x1b[33mTemp: 24.2 °C\x1b[0m", ("Temp",), (24.2,)),
        ("[12:00:01] INFO mass=4.5kg", ("mass",), (4.5,)),
        ("12:00:01.250 -> T=21.03 H=65.0", ("T", "H"), (21.03, 65)),
        ("23.4C 56% 1013.2hPa", ("column 1", "column 2", "column 3"), (23.4, 56, 1013.2)),
        ("\x1b[2J\x1b[H7,8", ("column 1", "column 2"), (7, 8)),
    ],
)
def test_numbers_are_found_whatever_stands_between(
    line: str, columns: tuple[str, ...], values: tuple[float, ...]
) -> None:
    found = heard(line)
    assert found.columns == columns
    assert found.values == (pytest.approx(values, nan_ok=True),)


def test_a_decimal_comma_is_told() -> None:
    state = TextState(decimal=",")
    assert heard("23,5;45,25", more=state).values == ((23.5, 45.25),)
    assert heard("T=23,5 H=4", more=state).values == ((23.5, 4),)


def test_names_come_from_the_project_the_line_or_a_line_of_words() -> None:
    assert heard("a,b", "1,2").columns == ("a", "b")
    assert heard("1,2", more=TextState(asked=("x", "y"))).columns == ("x", "y")
    assert heard("a,b", "1,2,3").columns == ("column 1", "column 2", "column 3")
    # One word is a greeting, no name.
    assert heard("Ready.", "1").columns == ("column 1",)


def test_what_is_no_row_is_a_row_without_values_and_is_shown() -> None:
    found = heard("1,2", "3,4,5", "6,x", "\x077,8", "9,10")
    assert found.values == (
        (1, 2),
        pytest.approx((NAN, NAN), nan_ok=True),
        pytest.approx((6, NAN), nan_ok=True),
        pytest.approx((NAN, NAN), nan_ok=True),
        (9, 10),
    )
    assert [event.what for event in found.events] == ["garbage"] * 3
    assert found.events[0].says == '"3,4,5": 3 values where 2 belong'
    assert "\\x077,8" in found.events[2].says
    assert all(event.says.isprintable() for event in found.events)


def test_a_number_no_display_means_is_not_read_as_one() -> None:
    """Python reads 1_0 as ten."""
    assert heard("1,2", "1_0,2").values[1] == pytest.approx((NAN, 2), nan_ok=True)


def test_a_row_may_come_in_several_lines() -> None:
    found = heard("T=1", "H=2", "T=3", "T=4", "H=5", more=TextState(asked=("T", "H")))
    assert found.values == ((1, 2), pytest.approx((3, NAN), nan_ok=True), (4, 5))


def test_a_name_that_is_new_is_said_with_its_remedy() -> None:
    found = heard("T=1", "T=1", "H=2")
    assert found.columns == ("T",)
    assert found.events[0].says == '"H=2": H where T belong; names can list all there are'


def test_a_line_joined_in_its_middle_is_not_believed() -> None:
    """The end of 812.50 is 2.50, which looks like a number."""
    state = joined(TextState(), 0.0)
    state, first = take(state, b"2.50\n812.", QUIET_S / 2)
    assert (first.t, first.events[0].what) == ((), "joined")
    _, second = take(state, b"75\n813\n", 0.2)
    assert second.values == ((812.75,), (813,))


def test_a_silence_before_a_line_says_that_it_is_whole() -> None:
    _, found = take(joined(TextState(), 0.0), b"812.50\n812\n", QUIET_S)
    assert found.values == ((812.5,), (812,))


def test_what_the_columns_are_is_believed_when_two_lines_agree() -> None:
    """The first line may be half noise; none of them is lost, and each keeps its time."""
    state, first = take(joined(TextState(), 0.0), b"co~nt=1 l=\n", 1.0)
    assert first.t == ()
    state, second = take(state, b"count=1 lid=2\n", 2.0)
    assert second.t == ()
    _, third = take(state, b"count=3 lid=4\n", 2.1)
    assert third.columns == ("count", "lid")
    assert (third.t, third.values[1:]) == ((1.0, 2.0, 2.1), ((1, 2), (3, 4)))
    assert all(map(math.isnan, third.values[0]))


def test_lines_that_never_agree_are_not_lost_in_silence() -> None:
    lines = [",".join("1" * count) for count in range(1, 20)]
    found = heard(*lines)
    assert found.t == ()
    assert [event.says for event in found.events] == [
        f'"{line}": no two of 16 lines have the same values' for line in lines[:3]
    ]


def test_the_line_of_a_slow_device_is_believed_alone() -> None:
    state, first = take(joined(TextState(), 0.0), b"42.5\n", 1.0)
    _, then = take(state, b"", 1.2 + ALONE_S)
    assert (first.t, then.t, then.values) == ((), (1.0,), ((42.5,),))


def test_quantities_that_come_in_turn_make_one_row() -> None:
    found = heard("T=1", "H=2", "T=3", "H=4", "T=5", "H=6")
    assert found.columns == ("T", "H")
    assert found.values == ((1, 2), (3, 4), (5, 6))


def test_a_pause_in_a_line_that_was_joined_in_its_middle_makes_it_no_more_whole() -> None:
    state, _ = take(joined(TextState(), 0.0), b"2", 0.01)
    _, found = take(state, b".50\n", 1.0)
    assert found.t == ()


def test_bytes_without_an_end_are_garbage_and_do_not_pile_up() -> None:
    state, _ = take(joined(TextState(), 0.0), b"1\n", 1.0)
    state, found = take(state, b"\xf7" * (LONGEST_LINE + 1), 1.1)
    assert state.rest == b""
    assert "is the baud rate right?" in found.events[0].says


def test_lines_read_together_came_one_after_another() -> None:
    """Ten bytes a line at a millisecond a byte."""
    state = joined(TextState(byte_s=1e-3), 0.0)
    _, found = take(state, b"123456789\n" * 3, 1.0)
    assert found.t == pytest.approx((0.98, 0.99, 1.0))


def test_times_rise_however_much_comes_at_once() -> None:
    state = joined(TextState(byte_s=1e-3), 0.0)
    state, first = take(state, b"1\n" * 500, 1.0)
    _, second = take(state, b"1\n" * 500, 1.0001)
    times = [*first.t, *second.t]
    assert all(after > before for before, after in itertools.pairwise(times))


LINES = st.lists(
    st.sampled_from(
        [b"1,2\n", b"3,4\r\n", b"x,5\n", b"hello\n", b"\n", b"6,7,8\n", b"\xff\xfe\x80\n", b"T=1 H=2\n", b"9,"]
    ),
    max_size=12,
)


@given(LINES, st.lists(st.integers(0, 80), max_size=6))
def test_cutting_the_bytes_anywhere_gives_the_same_rows(lines: list[bytes], cuts: list[int]) -> None:
    data = b"".join(lines)
    _, whole = take(joined(TextState(), 0.0), data, 1.0)
    state, values, events = joined(TextState(), 0.0), [], []
    places = sorted({min(cut, len(data)) for cut in cuts} | {0, len(data)})
    for start, end in itertools.pairwise(places):
        state, part = take(state, data[start:end], 1.0)
        values += [tuple(map(repr, row)) for row in part.values]
        events += [event.says for event in part.events]
    assert values == [tuple(map(repr, row)) for row in whole.values]
    assert events == [event.says for event in whole.events]


@given(st.lists(st.binary(max_size=60), max_size=8))
def test_no_bytes_raise_and_no_control_code_gets_through(parts: list[bytes]) -> None:
    state = joined(TextState(), 0.0)
    for place, part in enumerate(parts):
        state, found = take(state, part, 1.0 + place)
        assert all(len(row) == len(found.columns) for row in found.values)
        assert all(event.says.isprintable() for event in found.events)
        assert all(name.isprintable() for name in found.columns)


@pytest.mark.parametrize("cut", [0, 3])
def test_lines_handed_over_in_bunches_have_the_rate_of_the_device(cut: int) -> None:
    """A thousand lines a second, ten of them every ten milliseconds, whatever rate the adapter is told; some arrive in
    two pieces."""
    state, times = joined(TextState(asked=("x",), byte_s=2.5e-6), 0.0), []
    sent = b"".join(b"x=%04d\n" % number for number in range(1000))
    for read in range(100):
        data = sent[read * 70 - (cut if read else 0) : (read + 1) * 70 - cut]
        state, heard = take(state, data, 0.01 * (read + 1))
        times += heard.t
    timing = timing_of(np.array(times))
    assert timing.rate_hz == pytest.approx(1000, rel=0.05)
    assert timing.gaps == 0
    assert timing.samples >= 980


def test_a_burst_after_a_rest_is_as_long_as_its_bytes_take() -> None:
    """Nothing was sent between: the lines of one answer came one after another, at the rate of the line."""
    state = joined(TextState(asked=("x",), byte_s=1e-3), 0.0)
    state, _ = take(state, b"x=1\n", 1.0)
    _, heard = take(state, b"x=2\nx=3\n", 2.0)
    assert heard.t == (1.996, 2.0)


def test_units_behind_numbers_are_told_once() -> None:
    """For the recording, from which a project learns them; they are no fault of the line."""
    found = heard("T: 23.5 °C H: 56 %", "T: 23.6 °C H: 57 %")
    assert [(event.what, event.says) for event in found.events] == [("units", "T °C; H %")]
    assert found.values == ((23.5, 56), (23.6, 57))


def test_boot_lines_in_any_colour_name_no_column() -> None:
    """Noise of another baud rate, a greeting, levels of a log: the columns are those of the lines with numbers."""
    boot = ["\x1b[0;32mI (29) boot: chip ready\x1b[0m", "### boot v1.2 rst", "entry 0x400805e4"]
    rows = [f"\x1b[0;32mI ({50 + k}) app: temp={20 + k} hum=56\x1b[0m" for k in range(3)]
    found = heard(*boot, *rows)
    assert found.columns == ("temp", "hum")
    assert found.values == ((20, 56), (21, 56), (22, 56))


def sentence(text: str) -> str:
    """With its sum, by hand: all letters by exclusive or."""
    total = 0
    for letter in text:
        total ^= ord(letter)
    return f"${text}*{total:02X}"


def moment(k: int) -> list[str]:
    """What a receiver of positions says once a second, much of it twice."""
    place = f"4807.{380 + k}0,N,01131.{100 + k}0,W"
    return [
        sentence(f"GPRMC,1203{k:02d}.00,A,{place},{2 + k / 10:.1f},084.4,230394,,"),
        sentence("GPVTG,084.4,T,,M,002.4,N,004.4,K"),
        sentence(f"GPGGA,1203{k:02d}.00,{place},1,08,0.9,{545.4 + k:.1f},M,46.9,M,,"),
        sentence("GPGSV,2,1,08,01,40,083,46,02,17,308,41"),
        sentence(f"GPGLL,{place},1203{k:02d},A"),
    ]


NAMES = ("speed over ground", "course", "latitude", "longitude", "fix", "satellites", "spread", "height")


def test_sentences_of_one_moment_are_a_row() -> None:
    """48° 7.38′ is 48.123°, west is below zero; satellites in view are no reading, and what is said twice comes
    once."""
    found = heard(*(line for k in range(6) for line in moment(k)))
    assert found.columns == NAMES
    assert found.values[0] == pytest.approx((2.0, 84.4, 48 + 7.38 / 60, -(11 + 31.1 / 60), 1, 8, 0.9, 545.4))
    assert [row[-1] for row in found.values] == [545.4 + k for k in range(6)]
    assert not any(math.isnan(value) for row in found.values for value in row)
    (units,) = found.events
    assert (units.what, units.says) == (
        "units",
        "speed over ground kn; course °; latitude °; longitude °; fix 1; satellites 1; spread 1; height m",
    )


def test_a_sentence_whose_sum_is_wrong_says_nothing() -> None:
    """Its moment is a row without what it would have said."""
    lines = [line for k in range(6) for line in moment(k)]
    spoiled = lines.index(moment(3)[2])
    right = lines[spoiled][-2:]
    lines[spoiled] = lines[spoiled].replace("548.4", "548.5")
    found = heard(*lines)
    assert [row[-1] for row in found.values if not math.isnan(row[-1])] == [545.4, 546.4, 547.4, 549.4, 550.4]
    (said,) = [event.says for event in found.events if event.what == "garbage"]
    wrong = f"{int(right, 16) ^ ord('4') ^ ord('5'):02X}"
    assert said.endswith(f": its sum is {right} and should be {wrong}")


PIECES = st.sampled_from(
    [
        *"#:=[](),;|>-",
        "temp",
        "CH0",
        "C",
        "%",
        "°C",
        "is",
        "acc",
        "X",
        "12",
        "-0.5",
        "0x1F",
        "1e3",
        "nan",
        "\t",
        " ",
        "  ",
    ]
)


@example("[CH0] # and [CH1] 498")
@given(st.lists(PIECES, max_size=24).map("".join) | st.lists(PIECES, max_size=16).map(" ".join))
def test_names_are_as_many_as_numbers_and_distinct(line: str) -> None:
    """By signs, or by the words of a line that is spoken: a number sign in it stood for a number."""
    cells = line_cells(line)
    assert len(cells.units) == len(cells.values)
    for names in (cells.names, spoken_names(cells.words)):
        assert len(names) in (0, len(cells.values))
        assert len(set(names)) == len(names)
