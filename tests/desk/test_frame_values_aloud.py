"""Values in frames of bytes, said at ``+`` in 2 Raw: each is read out of the frames as a person would by hand."""

from __future__ import annotations

import struct
from pathlib import Path

import numpy as np
import pytest

from lesart.core.step import Step
from lesart.desk.desk import Desk
from lesart.desk.opening import open_desk
from lesart.project.new.make import make_project
from tests.warm import open_warm

COUNT = 40
TEMP = [-50 + 7 * k for k in range(COUNT)]
PRESSURE = [1000 + k for k in range(COUNT)]
FLOAT = [20.5 + k / 4 for k in range(COUNT)]
FRAMES = [
    b"\x42\x4d" + struct.pack(">h", TEMP[k]) + struct.pack("<H", PRESSURE[k]) + bytes([k]) + struct.pack(">f", FLOAT[k])
    for k in range(COUNT)
]
SAID = [
    ("bytes 3 to 4 signed", TEMP, "1"),
    ("bytes 3-4 int16", TEMP, "1"),
    ("bytes 3 and 4, two's complement", TEMP, "1"),
    ("bytes 3 to 4 unsigned", [x % 65536 for x in TEMP], "1"),
    ("the bytes 3 to 4 signed / 10 °C", [x / 10 for x in TEMP], "°C"),
    ("bytes 3 to 4 signed, divided by 10, in °C", [x / 10 for x in TEMP], "°C"),
    ("bytes 3..4 signed x 0.1 °C", [x / 10 for x in TEMP], "°C"),
    ("bytes 3 to 4 int16, 0.1 °C per count", [x / 10 for x in TEMP], "°C"),
    ("bytes 3 to 4 signed / 10 - 40 °C", [x / 10 - 40 for x in TEMP], "°C"),
    ("bytes 3 to 4 signed / 10 plus 5", [x / 10 + 5 for x in TEMP], "1"),
    ("bytes 5 and 6, little endian", PRESSURE, "1"),
    ("bytes 5 to 6 low byte first hPa", PRESSURE, "hPa"),
    ("bytes 6 to 5", PRESSURE, "1"),
    ("bytes 5 to 6 uint16 LSB first", PRESSURE, "1"),
    ("byte 7", list(range(COUNT)), "1"),
    ("seventh byte %", list(range(COUNT)), "%"),
    ("first two bytes", [0x424D] * COUNT, "1"),
    ("bits 16 to 31 signed", TEMP, "1"),
    ("16 bits from bit 16 with sign", TEMP, "1"),
    ("bit 55", [k & 1 for k in range(COUNT)], "1"),
    ("bytes 8 to 11 float", FLOAT, "1"),
    ("bytes 8 to 11, floating point, °C", FLOAT, "°C"),
]


@pytest.fixture(scope="module")
def folder(tmp_path_factory: pytest.TempPathFactory) -> Path:
    made = tmp_path_factory.mktemp("frames")
    (made / "log.hex").write_text("".join(f"{k / 2} {frame.hex(' ')}\n" for k, frame in enumerate(FRAMES)))
    make_project(made / "log.hex", made / "log")
    return made / "log"


@pytest.fixture
def desk(folder: Path) -> Desk:
    found = open_desk(folder)
    found.open_step(Step.RAW)
    return found


@pytest.mark.parametrize("named", ["", "probe = "])
@pytest.mark.parametrize(("line", "values", "unit"), SAID)
def test_a_value_is_read_as_it_is_said(named: str, line: str, values: list[float], unit: str, desk: Desk) -> None:
    """With its unit, and limits around all that came."""
    desk.add(f"{named}{line}")
    assert not desk.state.message_is_fault, desk.state.message
    channel = desk.state.project.channels["probe" if named else "value"]
    block = desk.bench.raw(desk.state.project, channel)
    assert np.allclose(block.x, values, rtol=1e-12, atol=1e-9)
    assert channel.unit_raw.symbol == unit
    assert channel.lowest <= min(values) <= max(values) <= channel.highest
    desk.undo()
    desk.close()


@pytest.mark.parametrize(
    ("line", "said"),
    [
        ("bytes 0 to 1", '"bytes 0 to 1" are not bytes of a frame; they are counted from 1, like bytes 5 to 6.'),
        ("bytes 3 to 4 uint32", '"bytes 3 to 4" are 16 bits, and uint32 has 32; say one of them.'),
        ("bytes 11 to 12", '"bytes 11 to 12" reaches beyond its frames, which have 11 bytes.'),
        ("bytes 3 to 4 / 0", '"/ 0" leaves nothing; divide by 10, or take it times 0.1.'),
        (
            "bytes 9 to 11 float",
            '"bytes 9 to 11" are 24 bits, and a floating-point number has 32 or 64; say where its 4 or 8 bytes are.',
        ),
        (
            "byte 7 floating point",
            '"byte 7" is 8 bits, and a floating-point number has 32 or 64; say where its 4 or 8 bytes are.',
        ),
        (
            "bytes 3 to 4 signed, unsigned",
            '"signed" contradicts what comes before or behind it; say one of them.',
        ),
        (
            "bytes 3 to 4 uint16 signed",
            '"signed" contradicts what comes before or behind it; say one of them.',
        ),
        (
            "bytes 3 to 4, low byte first, big endian",
            '"big endian" contradicts what comes before or behind it; say one of them.',
        ),
        ("bits 9 to 4", '"bits 9 to 4" run back; they are counted from 0, the highest of the first byte.'),
        (
            "byte 3 upside down",
            '"upside down" behind "byte 3" is not understood; say signed, low byte first, float, / 10, - 40, and a unit.',
        ),
    ],
)
def test_what_does_not_fit_is_told(line: str, said: str, desk: Desk) -> None:
    desk.add(line)
    assert (desk.state.message_is_fault, desk.state.message) == (True, said)
    desk.close()


def test_a_decoded_trace_has_frames_too(yard: Path) -> None:
    """The yard's air answers forty bits; what is told of them in the project is told again."""
    desk = open_warm(yard)
    desk.choose_channel("yard air")
    desk.open_step(Step.RAW)
    desk.add("again = bytes 3 to 4, sign bit, / 10 °C")
    assert not desk.state.message_is_fault, desk.state.message
    project = desk.state.project
    known, again = (desk.bench.raw(project, project.channels[name]) for name in ("yard air", "again"))
    assert np.array_equal(known.x, again.x, equal_nan=True)
    desk.close()


def test_of_a_table_bytes_are_no_column(yard: Path) -> None:
    desk = open_warm(yard)
    desk.open_step(Step.RAW)
    desk.add("x = bytes 3 to 4")
    assert '"bytes 3 to 4" is not a column' in desk.state.message
    desk.close()


def test_bits_at_a_voltage_are_no_place_in_a_frame(desk: Desk) -> None:
    """They are a converter's, and here nothing says whose."""
    before = desk.state.history.text
    desk.add("10 bits at 5 V")
    assert desk.state.message_is_fault
    assert desk.state.history.text == before
    desk.close()
