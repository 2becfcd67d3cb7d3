"""Captures of every format: read as written, spoiled ones said in a sentence, nothing dropped in silence."""

from __future__ import annotations

import json
import struct
from collections.abc import Sequence
from datetime import datetime, timedelta
from pathlib import Path

import numpy as np
import polars
import pytest
import scipy
from hypothesis import given
from hypothesis import strategies as st
from vcd import VCDWriter

from lesart.core.block import Mark
from lesart.core.errors import CaptureError, ProjectError
from lesart.core.raw.source import Source
from lesart.demo.traces import air_reading
from lesart.project.captures.capture_read import read_capture
from lesart.project.captures.traces.vcd_read import read_vcd
from lesart.project.captures.traces.vcd_write import vcd_text
from lesart.project.check import check_project
from lesart.study.bench import Bench
from tests.core.raw.traces import TwoWire, by_length, uart

# JSON Lines


def jsonl(folder: Path, text: str, **more: object) -> object:
    path = folder / "c.jsonl"
    path.write_text(text, encoding="utf-8")
    return read_capture(path, Source("s", "c.jsonl", format="json lines", **more))  # type: ignore[arg-type]


def test_json_lines_by_name_and_inner_names(tmp_path: Path) -> None:
    text = (
        '{"ms": 100, "mass": 42.5, "air": {"t": 12.5}}\n{"ms": 350, "mass": "n/a", "air": {"t": 12.6}}\n\n{"ms": 600}\n'
    )
    capture = jsonl(tmp_path, text, time="ms", time_unit="ms")
    assert list(capture.columns) == ["mass", "air.t"]  # type: ignore[attr-defined]
    assert capture.t == pytest.approx([0, 0.25, 0.5])  # type: ignore[attr-defined]
    mass = capture.columns["mass"]  # type: ignore[attr-defined]
    assert (mass.x[0], mass.mark.tolist()) == (42.5, [0, Mark.MISSING, Mark.MISSING])


def test_lines_that_are_none_are_named(tmp_path: Path) -> None:
    text = '{"x": 1}\n{"x": 2\n[3]\n{"x": 1e999}\n{"x": true}\n{"x": 4}\n'
    capture = jsonl(tmp_path, text)
    assert [(row.line, row.why) for row in capture.bad] == [  # type: ignore[attr-defined]
        (2, "it is not JSON, or was cut off"),
        (3, "it is not an object of names and numbers"),
    ]
    assert capture.columns["x"].mark.tolist() == [0, Mark.MISSING, Mark.MISSING, Mark.RANGE, 0, 0]  # type: ignore[attr-defined]


def test_moments_and_times_that_run_back(tmp_path: Path) -> None:
    text = "".join(json.dumps({"at": f"2026-05-14T08:00:{second:02d}Z", "x": second}) + "\n" for second in (0, 5, 3, 9))
    capture = jsonl(tmp_path, text, time="at", time_unit="ISO 8601")
    assert capture.t.tolist() == [0, 5, 5, 9]  # type: ignore[attr-defined]
    assert capture.steps_back == 1  # type: ignore[attr-defined]


@pytest.mark.parametrize(
    ("text", "says"), [("", "no line is an object"), ('{"a": 1}\n', 'time = "t"; the columns of c.jsonl are a')]
)
def test_json_lines_without_numbers_or_times(tmp_path: Path, text: str, says: str) -> None:
    with pytest.raises(CaptureError, match=says):
        jsonl(tmp_path, text, time="t")


# WAV


def wav(samples: Sequence[bytes], bits: int, *, coding: int = 1, channels: int = 1, extensible: bool = False) -> bytes:
    """A file written by hand, chunk by chunk."""
    body = b"".join(samples)
    form = struct.pack(
        "<HHIIHH",
        0xFFFE if extensible else coding,
        channels,
        8000,
        8000 * channels * bits // 8,
        channels * bits // 8,
        bits,
    )
    if extensible:
        form += struct.pack("<HHIH", 22, bits, 0, coding) + b"\0" * 14
    chunks = b"fmt " + struct.pack("<I", len(form)) + form + b"LIST" + struct.pack("<I", 3) + b"abc\0"
    chunks += b"data" + struct.pack("<I", len(body)) + body
    return b"RIFF" + struct.pack("<I", 4 + len(chunks)) + b"WAVE" + chunks


CODINGS = [
    (8, 1, "<B", [0, 128, 255], [-128, 0, 127]),
    (16, 1, "<h", [-32768, 0, 32767], [-32768, 0, 32767]),
    (32, 1, "<i", [-(1 << 31), 1], [-(1 << 31), 1]),
    (32, 3, "<f", [0.5, -1.25], [0.5, -1.25]),
    (64, 3, "<d", [0.1], [0.1]),
]


@pytest.mark.parametrize("extensible", [False, True])
@pytest.mark.parametrize(("bits", "coding", "letter", "numbers", "wanted"), CODINGS)
def test_every_coding(
    tmp_path: Path, bits: int, coding: int, letter: str, numbers: list[float], wanted: list[float], extensible: bool
) -> None:
    path = tmp_path / "a.wav"
    path.write_bytes(wav([struct.pack(letter, each) for each in numbers], bits, coding=coding, extensible=extensible))
    capture = read_capture(path, Source("s", "a.wav", format="wav"))
    assert capture.columns["1"].x.tolist() == wanted
    assert capture.t == pytest.approx(np.arange(len(wanted)) / 8000)


def test_24_bits_of_two_channels(tmp_path: Path) -> None:
    path = tmp_path / "a.wav"
    numbers = [-(1 << 23), (1 << 23) - 1, -1, 1]
    path.write_bytes(wav([(each & 0xFFFFFF).to_bytes(3, "little") for each in numbers], 24, channels=2))
    capture = read_capture(path, Source("s", "a.wav", format="wav"))
    assert [capture.columns[name].x.tolist() for name in "12"] == [[-(1 << 23), -1], [(1 << 23) - 1, 1]]


def test_a_wav_cut_off_gives_what_there_is(tmp_path: Path) -> None:
    path = tmp_path / "a.wav"
    path.write_bytes(wav([struct.pack("<h", 7)] * 100, 16)[:-51])
    capture = read_capture(path, Source("s", "a.wav", format="wav"))
    assert len(capture.columns["1"]) == 74
    assert capture.bad[0].why == "the file was cut off, 26 samples short"


@pytest.mark.parametrize(
    ("data", "says"),
    [
        (b"", "it is not a WAV file"),
        (b"RIFF____AVI ", "it is not a WAV file"),
        (b"RIFF____WAVE", "cut off before its first sample"),
        (wav([b"\0"], 8)[:20], "cut off"),
        (wav([b"\0\0"], 12), "12 bits, 1 channel at 8000 Hz cannot be read"),
        (wav([], 16), "cut off before its first sample"),
    ],
)
def test_broken_wavs_say_what_is_wrong(tmp_path: Path, data: bytes, says: str) -> None:
    path = tmp_path / "a.wav"
    path.write_bytes(data)
    with pytest.raises(CaptureError, match=says):
        read_capture(path, Source("s", "a.wav", format="wav"))


@given(st.binary(max_size=300))
def test_any_bytes_are_a_wav_or_a_sentence(tmp_path_factory: pytest.TempPathFactory, data: bytes) -> None:
    path = tmp_path_factory.mktemp("w") / "a.wav"
    path.write_bytes(b"RIFF\0\0\0\0WAVE" + data)
    try:
        read_capture(path, Source("s", "a.wav", format="wav"))
    except CaptureError as error:
        assert str(error).endswith(".")


# Frames and traces through a project

PROJECT = """lesart = 1
[sources.bus]
capture = "c.{ending}"
format = "{format}"
{decode}
[[sources.bus.fields]]
name = "speed"
first_bit = 24
sign = "two's complement"
scale = "0.01"
[channels.wind]
source = "bus"
column = "speed"
raw_unit = "m/s"
unit = "m/s"
lowest = "-5 m/s"
highest = "60 m/s"
"""
CRC = '[sources.bus.decode]\ncheck = "CRC-16"\npoly = "0x8005"\ninit = "0xFFFF"\nreflected = true\nlow_first = true\n'


def calm(folder: Path, text: str) -> object:
    project = check_project(text)
    return Bench(folder).raw(project, project.channels["wind"])


def test_a_dump_of_frames_with_a_crc(tmp_path: Path) -> None:
    """A reply of one register, -2.5 m/s; one with a wrong check; lines that are none. CRCs by the loop of the
    standard."""
    (tmp_path / "c.hex").write_text(
        "# meter 1\n0.5  01 03 02 FF 06 79 B6\n1.0: 01030200FA3807\n1.5 01 03 02 00 FA 38 08\nnoise\n2.0 0x01 zz\n"
    )
    block = calm(tmp_path, PROJECT.format(ending="hex", format="hex", decode=CRC))
    assert block.x[:2].tolist() == [-2.5, 2.5]  # type: ignore[attr-defined]
    assert block.mark.tolist() == [0, 0, Mark.CHECKSUM, Mark.MISSING, Mark.MISSING]  # type: ignore[attr-defined]
    assert block.t.tolist() == [0, 0.5, 1.0, 1.0, 1.5]  # type: ignore[attr-defined]


def test_frames_out_of_serial_bytes_in_a_trace(tmp_path: Path) -> None:
    frames = [bytes.fromhex("010302ff0679b6"), bytes.fromhex("01030200fa3807"), bytes.fromhex("01030200fa3808")]
    (tmp_path / "c.vcd").write_text(vcd_text({"rx": uart(frames, 19200).edges()}, 1e-7))
    decode = CRC.replace("check", 'kind = "serial bytes"\nline = "rx"\nbaud = 19200\ncheck')
    block = calm(tmp_path, PROJECT.format(ending="vcd", format="vcd", decode=decode))
    assert block.x[:2].tolist() == [-2.5, 2.5]  # type: ignore[attr-defined]
    assert block.mark.tolist() == [0, 0, Mark.CHECKSUM]  # type: ignore[attr-defined]


def test_a_trace_without_a_decoder_is_levels(tmp_path: Path) -> None:
    (tmp_path / "c.vcd").write_text(vcd_text(TwoWire().start().byte(0xEC).stop().lines, 1e-7))
    capture = read_capture(tmp_path / "c.vcd", Source("s", "c.vcd", format="vcd"))
    assert set(capture.columns) == {"clock", "data"}
    assert set(capture.columns["clock"].x.tolist()) == {0.0, 1.0}


def test_the_yard_s_air_comes_out_as_it_went_in(yard_once: Path) -> None:
    """Temperatures as they were made; four readings marked: two that never came, two with a spoiled bit."""
    project = check_project((yard_once / "lesart.toml").read_text(encoding="utf-8"))
    block = Bench(yard_once).raw(project, project.channels["yard air"])
    wanted = np.array([air_reading(minute)[1] for minute in range(120)])
    assert block.x[block.usable] == pytest.approx(wanted[block.usable])
    bad = {int(place): int(block.mark[place]) for place in np.flatnonzero(~block.usable)}
    assert bad == {17: Mark.MISSING, 63: Mark.MISSING, 41: Mark.CHECKSUM, 90: Mark.CHECKSUM}


def test_the_yard_s_entrance_counts_each_once(yard_once: Path) -> None:
    """Bounce and all, the counts are those of what passed."""
    from lesart.demo.traces import beam_times

    project = check_project((yard_once / "lesart.toml").read_text(encoding="utf-8"))
    block = Bench(yard_once).raw(project, project.channels["entrance"])
    passed, _ = np.histogram(beam_times(), np.arange(121) * 60.0)
    assert block.x.tolist() == passed[: len(block)].tolist()


def test_what_is_not_in_the_trace_is_said(tmp_path: Path) -> None:
    (tmp_path / "c.vcd").write_text(vcd_text({"rx": by_length([b"12345"]).edges()}, 1e-6))
    decode = '[sources.bus.decode]\nkind = "serial bytes"\nline = "tx"'
    with pytest.raises(CaptureError, match=r'sources.bus.decode.line = "tx"; the signals of c.vcd are rx'):
        calm(tmp_path, PROJECT.format(ending="vcd", format="vcd", decode=decode))


WRONG = [
    ('format = "vhd"', "sources.s.format", "it must be one of"),
    ('format = "wav"\nrate = "5 Hz"', "sources.s.rate", "not known here"),
    ('format = "vcd"\n[sources.s.decode]\nkind = "uart"', "sources.s.decode.kind", "it must be one of"),
    ('format = "vcd"\n[sources.s.decode]\nkind = "serial bytes"', "sources.s.decode.line", "missing"),
    ('format = "hex"\n[sources.s.decode]\ncheck = "CRC-8"\npoly = "0x131"', "sources.s.decode", "a number of 8 bits"),
    ('format = "vcd"\n[[sources.s.fields]]\nname = "a"', "sources.s.fields", "give it a decoder of frames"),
    ('format = "hex"\n[[sources.s.fields]]\nname = "a"\nbits = 65', "sources.s.fields[0].bits", "from 1 to 64"),
    (
        'format = "hex"\n[[sources.s.fields]]\nname = "a"\n[[sources.s.fields]]\nname = "a"',
        "sources.s.fields[1].name",
        "another one here has this name",
    ),
    ('[sources.s.decode]\nkind = "serial bytes"', "sources.s.decode.line", "missing"),
    ('format = "wav"\n[sources.s.decode]\nkind = "serial bytes"', "sources.s.decode", "not known here"),
]


@pytest.mark.parametrize(("text", "place", "says"), WRONG, ids=[row[1] for row in WRONG])
def test_wrong_sources_say_what_would_be_right(text: str, place: str, says: str) -> None:
    with pytest.raises(ProjectError) as caught:
        check_project(f'lesart = 1\n[sources.s]\ncapture = "c"\n{text}\n')
    assert [problem.place for problem in caught.value.problems] == [place]
    assert says in str(caught.value)


# Parquet


def test_parquet_with_gaps_and_moments(tmp_path: Path) -> None:
    """Nulls are missing, infinities out of range, texts no columns, moments seconds from the first."""
    start = datetime(2026, 5, 14, 8)
    frame = polars.DataFrame(
        {
            "at": [start, start + timedelta(milliseconds=250), None, start + timedelta(milliseconds=100)],
            "mass": [42.5, None, float("inf"), 42.6],
            "count": [1, 2, 3, 4],
            "who": ["a", "b", "c", "d"],
        }
    )
    frame.write_parquet(tmp_path / "c.parquet")
    capture = read_capture(tmp_path / "c.parquet", Source("s", "c.parquet", time="at", format="parquet"))
    assert list(capture.columns) == ["mass", "count"]
    assert capture.t == pytest.approx([0, 0.25, 0.25, 0.25])
    assert capture.steps_back == 1
    assert capture.columns["mass"].mark.tolist() == [0, Mark.MISSING, Mark.RANGE, 0]
    by_rate = read_capture(tmp_path / "c.parquet", Source("s", "c.parquet", rate_hz=4.0, format="parquet"))
    assert by_rate.t.tolist() == [0, 0.25, 0.5, 0.75]


@pytest.mark.parametrize("data", [b"", b"PAR1", b"t,x\n1,2\n", b"PAR1" + b"\0" * 40 + b"PAR1"])
def test_broken_parquet_is_a_sentence(tmp_path: Path, data: bytes) -> None:
    (tmp_path / "c.parquet").write_bytes(data)
    with pytest.raises(CaptureError, match="cannot be read as Parquet"):
        read_capture(tmp_path / "c.parquet", Source("s", "c.parquet", format="parquet"))


def test_parquet_without_numbers_or_the_time_asked_for(tmp_path: Path) -> None:
    polars.DataFrame({"who": ["a"]}).write_parquet(tmp_path / "c.parquet")
    with pytest.raises(CaptureError, match="no column holds numbers; its columns are who"):
        read_capture(tmp_path / "c.parquet", Source("s", "c.parquet", format="parquet"))
    polars.DataFrame({"x": [1]}).write_parquet(tmp_path / "c.parquet")
    with pytest.raises(CaptureError, match=r'sources.s.time = "t"; the columns of c.parquet are x'):
        read_capture(tmp_path / "c.parquet", Source("s", "c.parquet", time="t", format="parquet"))


# Written by others


@pytest.mark.parametrize("kind", ["uint8", "int16", "int32", "float32", "float64"])
def test_wav_as_another_library_writes_it(tmp_path: Path, kind: str) -> None:
    numbers = np.array([[0, 1], [100, 2], [50, 127]], kind)
    scipy.io.wavfile.write(tmp_path / "a.wav", 44_100, numbers)
    capture = read_capture(tmp_path / "a.wav", Source("s", "a.wav", format="wav"))
    shift = 128 if kind == "uint8" else 0
    for place in range(2):
        assert capture.columns[str(place + 1)].x.tolist() == (numbers[:, place].astype(float) - shift).tolist()
    assert capture.t == pytest.approx(np.arange(3) / 44_100)


@given(st.lists(st.integers(0, 3), min_size=1, max_size=60), st.sampled_from(["1 ns", "10 us", "100 ps"]))
def test_a_trace_as_another_library_writes_it(
    tmp_path_factory: pytest.TempPathFactory, changes: list[int], scale: str
) -> None:
    """Scopes, vectors and reals of its own style; the same edges come back."""
    path = tmp_path_factory.mktemp("v") / "a.vcd"
    wanted: dict[int, list[tuple[int, int]]] = {place: [] for place in range(3)}
    with path.open("w") as file, VCDWriter(file, timescale=scale, date="today") as writer:
        lines = [writer.register_var(f"yard.box{place}", "line", "wire", size=1, init=0) for place in range(3)]
        vector = writer.register_var("yard.box0", "word", "reg", size=8, init=0)
        for tick, which in enumerate(changes, 1):
            if which == 3:
                writer.change(vector, tick, tick)
                continue
            level = 1 - (wanted[which][-1][1] if wanted[which] else 0)
            writer.change(lines[which], tick, level)
            wanted[which].append((tick, level))
    trace = read_vcd(path)
    tick_s = {"1 ns": 1e-9, "10 us": 1e-5, "100 ps": 1e-10}[scale]
    for place in range(3):
        edges = trace.lines[f"box{place}.line"]
        ticks = (edges.t / tick_s).round().astype(int).tolist()
        assert list(zip(ticks, edges.level.tolist(), strict=True)) == wanted[place]
    word = trace.values["box0.word"]
    assert word.x[1:].tolist() == [tick for tick, which in enumerate(changes, 1) if which == 3]


def test_a_source_says_how_early_is_too_early(tmp_path: Path) -> None:
    """Marked by the source, whatever the format."""
    (tmp_path / "c.hex").write_text("".join(f"{second}.0 00 00 00 0{second} 00\n" for second in (0, 1, 2, 4, 6)))
    text = PROJECT.format(ending="hex", format="hex", decode="").replace(
        'format = "hex"', 'format = "hex"\nsettle = "2 s"\nleast_interval = "2 s"'
    )
    block = calm(tmp_path, text)
    assert block.mark.tolist() == [  # type: ignore[attr-defined]
        Mark.SETTLING,
        Mark.SETTLING | Mark.RATE,
        Mark.RATE,
        0,
        0,
    ]
