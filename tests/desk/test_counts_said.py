"""What one count is worth, as data sheets say it, held against its arithmetic; and a letter by what a channel is
called."""

from __future__ import annotations

from pathlib import Path

import pytest

from lesart.desk.entries.recipes.which import with_article
from lesart.desk.hand import follow
from tests.desk.test_recipes import opened


@pytest.mark.parametrize(
    ("line", "raw", "reading", "unit"),
    [
        ("131 LSB/(°/s)", 655, 5.0, "°/s"),
        ("8.75 mdps per digit", 4000, 35000.0, "m°/s"),
        ("1090 LSB/gauss", 545, 0.5, "Gs"),
        ("±8 gauss 16 bit", 8192, 2.0, "Gs"),
        ("±2 g, 16 bits", 8192, 0.5, "gn"),
        ("16384 LSB/g", 8192, 0.5, "gn"),
        ("3.9 mg/LSB", 1000, 3.9, "gn"),
        ("420 counts per gram", 840, 2.0, "g"),
        ("0.5 mg per count", 1000, 500.0, "mg"),
        ("256 LSB = 1 °C", 6400, 25.0, "°C"),
        ("40 hPa per 1000 counts", 25_000, 1000.0, "hPa"),
        ("1/64 kPa per count", 6400, 100.0, "kPa"),
        ("0.1 °C units", 215, 21.5, "°C"),
        ("a value is in 1/16 °C", 344, 21.5, "°C"),
        ("centidegrees", 2150, 21.5, "°C"),
        ("151 cpm per µSv/h", 302, 2.0, "µSv/h"),
        ("0.0625 °C/LSB, 2048 at zero", 2064, 1.0, "°C"),
        ("0.0625 °C per bit, offset -50 °C", 1600, 50.0, "°C"),
        ("420 counts per gram, tare 8400", 9240, 2.0, "g"),
        ("420 counts per gram, offset 8400 counts", 9240, 2.0, "g"),
        ("offset 8400 LSB, 420 LSB per gram", 9240, 2.0, "g"),
        ("420 counts per gram, 8400 counts offset", 9240, 2.0, "g"),
        ("420 counts per gram, offset 20 g", 840, 22.0, "g"),
        ("340 LSB/°C offset 36.53", 3400, 46.53, "°C"),
        ("a tilt sensor 1024 counts per g, zero 2048", 3072, 1.0, "gn"),
    ],
)
def test_a_count_is_worth_what_the_data_sheet_says(
    line: str, raw: float, reading: float, unit: str, tmp_path: Path
) -> None:
    desk = opened(tmp_path, raw)
    desk.add(with_article(line))
    assert not desk.state.message_is_fault, desk.state.message
    channel = desk.state.chosen
    assert str(channel.unit) == unit
    assert follow(desk.state.project, channel, raw).reading.value == pytest.approx(reading, rel=1e-9, abs=1e-9)
    desk.close()


@pytest.mark.parametrize(
    ("column", "line", "raw", "reading", "unit"),
    [
        ("ax", "4 mg per digit", 500, 2.0, "gn"),
        ("accel_y", "9.8 LSB/g", 49, 5.0, "gn"),
        ("mag_x", "6842 LSB/G", 3421, 0.5, "Gs"),
        ("temp1", "100 counts per degree", 2150, 21.5, "°C"),
        ("tilt", "100 counts per degree", 2150, 21.5, "°"),
        ("weight", "16384 LSB/g", 8192, 0.5, "gn"),
    ],
)
def test_a_letter_means_what_the_channel_is_called(
    column: str, line: str, raw: int, reading: float, unit: str, tmp_path: Path
) -> None:
    """g of an acceleration is none of a weight; but no scale has a power of two for each gram."""
    desk = opened(tmp_path, raw, column)
    desk.add(line)
    assert not desk.state.message_is_fault, desk.state.message
    assert str(desk.state.chosen.unit) == unit
    assert follow(desk.state.project, desk.state.chosen, raw).reading.value == pytest.approx(reading, rel=1e-9)
    desk.close()


@pytest.mark.parametrize(
    ("line", "raw", "reading"),
    [
        ("16384 LSB/g, signed 16 bits", 65_536 - 8192, -0.5),
        ("16384 LSB/g, 16 bits signed", 8192, 0.5),
        ("16384 LSB/g int16_t", 65_536 - 8192, -0.5),
        ("1000 LSB/g, signed 12 bit", 4096 - 500, -0.5),
        ("an accelerometer, 16384 LSB/g, two's complement", 65_536 - 8192, -0.5),
        ("±2 g, 16 bits", 65_536 - 8192, -0.5),
        ("±8 gauss 16 bit signed", 65_536 - 8192, -2.0),
        ("0.01 °C per count, signed 16 bits", 65_536 - 5536, -55.36),
        ("0.01 °C per count, signed", 65_536 - 5536, -55.36),
        ("0.1 Pa per count, signed 24 bits", 2**24 - 1_000_000, -100_000.0),
        ("0.1 Pa per count, signed", 2**24 - 1_000_000, -100_000.0),
        ("0.01 °C per count, unsigned 16 bits", 65_536 - 5536, 600.0),
        # It has its sign already.
        ("16384 LSB/g, signed 16 bits", -8192, -0.5),
    ],
)
def test_a_sign_that_is_said_is_given_back(line: str, raw: int, reading: float, tmp_path: Path) -> None:
    """Registers are often read as whole numbers without their sign; 65 036 of sixteen bits is -500."""
    desk = opened(tmp_path, raw)
    desk.add(with_article(line))
    assert not desk.state.message_is_fault, desk.state.message
    channel = desk.state.chosen
    assert len(channel.laws) == (1 if raw < 0 or "unsigned" in line else 2)
    assert follow(desk.state.project, channel, raw).reading.value == pytest.approx(reading, rel=1e-9)
    desk.close()


def test_values_that_so_many_bits_do_not_hold_are_told(tmp_path: Path) -> None:
    desk = opened(tmp_path, 60_000)
    most = f"{desk.bench.raw(desk.state.project, desk.state.chosen).x.max():.0f}"
    desk.add("1000 LSB/g, signed 12 bits")
    assert desk.state.message == f"Raw values reach {most}, which 12 bits cannot hold."
    assert not desk.state.chosen.laws
    desk.close()


@pytest.mark.parametrize(
    "line",
    [
        "0.1 g per count",
        "16384 LSB/g",
        "±8 gauss 16 bit",
        "0.2 mm per tip",
        "1000 imp/kWh",
        "200 steps/rev, 8 mm lead",
        "encoder 2400 cpr wheel diameter 65 mm",
    ],
)
@pytest.mark.parametrize(
    "tail",
    [" twice", " squared", ", inverted", ", mirrored", " in mm", " in °F", " per hour", " not", ", times 3", " ± 2"],
)
def test_no_word_that_changes_a_count_is_dropped(line: str, tail: str, tmp_path: Path) -> None:
    """Taken or refused; never as if it had not been said."""
    desk = opened(tmp_path, 500)
    before = desk.state.history.text
    desk.add(line)
    without = desk.state.history.text
    desk.undo()
    desk.add(f"{line}{tail}")
    assert desk.state.message_is_fault or desk.state.history.text not in (before, without), desk.state.message
    desk.close()


@pytest.mark.parametrize(
    ("line", "said"),
    [
        (
            "5 µV per count, 0.1 ohm fuse",
            '"0.1 ohm fuse" says nothing of a count; it takes step = 0.1 °C, zero = 0 ct, offset = 0, signed = 0.',
        ),
        ("0.1 °C per count, offset 3 bar", "The offset here is in °C, not 3 bar."),
        (
            "420 counts per gram, offset 8400",
            '"offset 8400" can be counts that come off, zero 8400, or what is added to the reading, offset 8400 gram; '
            "say which.",
        ),
        (
            "340 LSB/°C, offset -521",
            '"offset -521" can be counts that come off, zero -521, or what is added to the reading, offset -521 °C; '
            "say which.",
        ),
    ],
)
def test_nothing_that_is_said_of_a_count_is_lost(line: str, said: str, tmp_path: Path) -> None:
    """What has a figure is taken or refused."""
    desk = opened(tmp_path, 500)
    before = desk.state.history.text
    desk.add(line)
    assert desk.state.message_is_fault
    assert desk.state.message == said
    assert desk.state.history.text == before
    desk.close()


@pytest.mark.parametrize("line", ["1e-320 g per 99999999 counts", "0 g per count", "1e999 g per count", "0 LSB/g"])
def test_steps_of_nothing_are_sentences(line: str, tmp_path: Path) -> None:
    """What is too small or too large for a number changes nothing."""
    desk = opened(tmp_path, 500)
    before = desk.state.history.text
    desk.add(line)
    assert desk.state.message_is_fault
    assert desk.state.history.text == before
    desk.close()
