"""Decoding from the shell: signals, frames and bits of a file, and registers beside the frame each came with."""

from __future__ import annotations

import csv
import io
import json
from pathlib import Path

import pytest

from tests.cli.spoken import refused, said
from tests.core.raw.messages.test_modbus import with_crc

AIR_TRACE_ARGUMENTS = ("--as", "bits by length", "--set", "shortest=5 µs", "--set", "check=sum")


def test_decode_lists_signals_and_frames(yard_once: Path, capsys: pytest.CaptureFixture[str]) -> None:
    """Without a decoder the signals; with one a line a frame, fields by name, 1 because some are broken."""
    trace = yard_once / "captures/yard-air.vcd"
    listed = list(csv.reader(io.StringIO(said(capsys, "decode", trace))))
    assert listed[0] == ["signal", "edges", "lasts_s"]
    assert (listed[1][0], listed[1][2]) == ("air", "7200.0")
    fields = ("--field", "humidity=0,16,scale=0.1", "--field", "temperature=16,16,sign-bit,scale=0.1")
    rows = list(csv.reader(io.StringIO(said(capsys, "decode", trace, *AIR_TRACE_ARGUMENTS, *fields, code=1))))
    assert rows[0] == ["t", "kind", "bytes", "mark", "why", "humidity", "temperature"]
    assert len(rows) == 121
    assert rows[1][2:] == ["03 0c 00 72 81", "", "", "78.0", "11.4"]
    assert rows[18][2:5] == ["", "missing", "no bit came: there was no answer"]


def test_decode_json_and_bits(yard_once: Path, capsys: pytest.CaptureFixture[str]) -> None:
    """One object a line; bits with their margins."""
    trace = yard_once / "captures/yard-air.vcd"
    lines = said(capsys, "decode", trace, *AIR_TRACE_ARGUMENTS, "--json", code=1).splitlines()
    first = json.loads(lines[0])
    assert list(first) == ["t", "kind", "bytes", "mark", "why"]
    bits = [
        json.loads(line)
        for line in said(capsys, "decode", trace, *AIR_TRACE_ARGUMENTS, "--bits", "--json", code=1).splitlines()
    ]
    assert "".join(str(bit["value"]) for bit in bits[:16]) == f"{0x030C:016b}"
    assert all(0 < bit["margin"] < 1 for bit in bits)
    beam = yard_once / "captures/gate-beam.vcd"
    counted = said(capsys, "decode", beam, "--as", "gate count", "--set", "gate=60 s", "--set", "shortest=1 ms")
    assert counted.splitlines()[0] == "t,kind,value,mark"


def test_decode_says_what_would_be_right(yard_once: Path, capsys: pytest.CaptureFixture[str]) -> None:
    trace = yard_once / "captures/yard-air.vcd"
    assert "there are pulse width, pulse interval, gate count" in refused(capsys, "decode", trace, "--as", "magic")
    assert "decode.baud = -1" in refused(capsys, "decode", trace, "--as", "serial bytes", "--set", "baud=-1")
    assert "write it KEY=VALUE" in refused(capsys, "decode", trace, "--as", "serial bytes", "--set", "baud")
    assert "write it NAME=FIRST,BITS" in refused(capsys, "decode", trace, "--as", "bits by length", "--field", "a")
    assert 'line = "tx"; the signals' in refused(
        capsys, "decode", trace, "--as", "serial bytes", "--line", "tx", "--set", "baud=9600"
    )


@pytest.mark.parametrize("name", ["t", "kind", "bytes", "mark", "why"])
def test_a_field_never_takes_the_place_of_a_column(
    name: str, yard_once: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    """Each row's time and frame are there whatever the fields are called."""
    trace = yard_once / "captures/yard-air.vcd"
    answer = refused(capsys, "decode", trace, *AIR_TRACE_ARGUMENTS, "--field", f"{name}=16,16,scale=0.1")
    assert answer == (
        f'lesart: --field "{name}=16,16,scale=0.1": the column {name} already exists; give the field another name.\n'
    )


def dump(path: Path, bodies: list[bytes]) -> Path:
    """Frames with their check, 20 ms apart."""
    lines = [f"{0.02 * place:.2f}  {with_crc(body).hex(' ')}" for place, body in enumerate(bodies)]
    path.write_text("\n".join(lines) + "\n")
    return path


def test_registers_stand_beside_the_reply_that_brought_them(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    """Each reply's registers are its own bytes; a request has none. One that nobody answered is missing where the next
    request shows it."""
    asks = bytes.fromhex("0103001e0002")
    told = [(190, 187), (191, 65535), (0, 1)]
    replies = [b"\x01\x03\x04" + b"".join(number.to_bytes(2, "big") for number in pair) for pair in told]
    path = dump(tmp_path / "field.hex", [asks, replies[0], asks, asks, replies[1], asks, replies[2]])
    text = said(capsys, "decode", path, "--set", "messages=Modbus RTU", "--json")
    rows = [json.loads(line) for line in text.splitlines()]
    assert len(rows) == 7
    for row in rows:
        found = (row["unit 1 holding 30"], row["unit 1 holding 31"])
        body = bytes.fromhex(row["bytes"])
        is_reply = body[2] == 4 and len(body) == 9
        assert found == ((body[3] << 8 | body[4], body[5] << 8 | body[6]) if is_reply else (None, None))
    assert [place for place, row in enumerate(rows) if row["unit 1 holding 30"] is not None] == [1, 4, 6]


def test_two_units_in_one_dump(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    """A row has only what its frame brought, as text too: nothing for the other unit."""
    bodies = ["010300000001", "0103020007", "020400050001", "0204020009"]
    path = dump(tmp_path / "two.hex", [bytes.fromhex(body) for body in bodies])
    rows = list(csv.reader(io.StringIO(said(capsys, "decode", path, "--set", "messages=Modbus RTU"))))
    assert rows[0][5:] == ["unit 1 holding 0", "unit 2 input 5"]
    assert [row[5:] for row in rows[1:]] == [["", ""], ["7.0", ""], ["", ""], ["", "9.0"]]


def test_settings_are_what_their_kind_takes(yard_once: Path, capsys: pytest.CaptureFixture[str]) -> None:
    """A whole number is one only where a whole number is wanted: a text of digits stays a text."""
    trace = yard_once / "captures/yard-air.vcd"
    assert 'decode.check = "7"' in refused(capsys, "decode", trace, "--as", "bits by length", "--set", "check=7")
    assert "decode.baud" in refused(capsys, "decode", trace, "--as", "serial bytes", "--set", "baud=9.5e3.1")
    for written in ("9600", "0x2580", "0b10010110000000"):
        said(capsys, "decode", trace, "--as", "serial bytes", "--set", f"baud={written}", "--json", code=1)
