"""Value change dumps: what any conforming writer may write, and what a broken one does."""

from __future__ import annotations

from pathlib import Path

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from lesart.core.block import Mark
from lesart.core.errors import CaptureError
from lesart.core.raw.edges import Edges
from lesart.project.captures.capture_read import read_capture
from lesart.project.captures.traces import vcd_read
from lesart.project.captures.traces.vcd_read import read_vcd
from lesart.project.captures.traces.vcd_write import fine_tick_s, vcd_text
from lesart.project.tables.sources import check_source
from tests.core.raw.traces import random_edges, uart

WAYWARD = """$date today $end
$version by hand $end
$comment scopes, codes and blanks as the standard allows them; b1 # 1! in a comment are none $end
$timescale
    10 ns
$end
$scope module top $end
$scope task inner $end
$var wire 1 b gate $end
$var reg 1 # door [3] $end
$upscope $end
$var wire 4 b1 level $end
$var real 64 # mass $end
$var wire 1 ! spare $end
$upscope $end
$enddefinitions $end
#100
$dumpvars
xb
0#
bxxxx b1
r0 #
$end
#150 1b   1#
b101 b1
#160
$comment #999 0b $end
b0 b1
r-2.5 #
0b
#170 $dumpoff xb x# $end
#180
$dumpon 1b 0# $end
#200
"""


def written(folder: Path, text: str) -> Path:
    path = folder / "a.vcd"
    path.write_text(text, encoding="utf-8")
    return path


def test_what_the_standard_allows(tmp_path: Path) -> None:
    """Codes that look like vectors and stamps, several changes a line, comments, blocks, a scale of 10 ns.

    The codes b and # stand for a wire and for a real at once, as they may not; both are read as what is written.
    """
    trace = read_vcd(written(tmp_path, WAYWARD))
    gate = trace.lines["inner.gate"]
    assert gate.t == pytest.approx([500e-9, 600e-9, 700e-9, 800e-9])
    assert (gate.first, gate.level.tolist()) == (2, [1, 0, 2, 1])
    assert gate.end_s == pytest.approx(1e-6)
    door = trace.lines["inner.door[3]"]
    assert (door.first, door.level.tolist()) == (0, [1, 2, 0])
    level, mass = trace.values["level"], trace.values["mass"]
    assert level.t == pytest.approx([0, 500e-9, 600e-9])
    assert level.mark.tolist() == [Mark.MISSING, 0, 0]
    assert level.x[1:].tolist() == [5, 0]
    assert mass.x.tolist() == [0, -2.5]
    assert len(trace.lines["spare"]) == 0


@given(st.integers(0, 10**6), st.lists(st.integers(0, 60), min_size=1, max_size=5), st.sampled_from([1e-9, 1e-6, 1e-5]))
def test_what_is_written_is_read(
    tmp_path_factory: pytest.TempPathFactory, seed: int, counts: list[int], tick: float
) -> None:
    lines = {f"line {place}": _on_ticks(random_edges(seed + place, count), tick) for place, count in enumerate(counts)}
    trace = read_vcd(written(tmp_path_factory.mktemp("v"), vcd_text(lines, tick).replace("line ", "line_")))
    for name, edges in lines.items():
        again = trace.lines[name.replace(" ", "_")]
        assert again.level.tolist() == edges.level.tolist()
        assert again.t == pytest.approx(edges.t, abs=1e-3 * tick)
        assert again.first == edges.first


@pytest.mark.parametrize(("clock_hz", "tick_s"), [(1e5, 1e-8), (1e7, 1e-8), (1.6e7, 1e-9), (4e7, 1e-9), (4e8, 1e-10)])
def test_a_fast_clock_is_written_on_a_finer_scale(tmp_path: Path, clock_hz: float, tick_s: float) -> None:
    """Its edges, and those of data that change in the middle of a bit, stay apart and in their order."""
    half_s = 0.5 / clock_hz
    times = (np.arange(64) + 1) * half_s
    clock = Edges(times, np.tile(np.array([1, 0], np.uint8), 32), 0, 0.0, 66 * half_s)
    data = Edges(times[1::4] + 0.5 * half_s, np.tile(np.array([1, 0], np.uint8), 8), 0, 0.0, 66 * half_s)
    lines = {"clock": clock, "data": data}
    assert fine_tick_s(lines) == tick_s
    trace = read_vcd(written(tmp_path, vcd_text(lines, fine_tick_s(lines))))
    assert set(trace.lines["clock"].t.tolist()) & set(trace.lines["data"].t.tolist()) == set()
    found = np.searchsorted(trace.lines["clock"].t, trace.lines["data"].t)
    assert found.tolist() == np.searchsorted(clock.t, data.t).tolist()


def _on_ticks(edges: Edges, tick: float) -> Edges:
    """Edges at least a tick apart, the first one a tick after the start."""
    return Edges((np.arange(len(edges)) * 3 + 1.0) * tick, edges.level, edges.first, 0.0, 3.0 * (len(edges) + 1) * tick)


CODE = st.text(st.characters(min_codepoint=33, max_codepoint=126), min_size=1, max_size=4).filter(
    lambda code: not code.startswith("$")
)


@given(st.lists(CODE, min_size=1, max_size=40, unique=True), st.data())
@settings(max_examples=60)
def test_any_codes_and_any_pieces(
    tmp_path_factory: pytest.TempPathFactory, codes: list[str], data: st.DataObject
) -> None:
    """Every printable code tells its line apart, wherever the body is cut into pieces."""
    vectors = codes[::3]
    changes: dict[str, list[tuple[int, int]]] = {code: [] for code in codes}
    text = ["$timescale 1 us $end", "$scope module m $end"]
    text += [f"$var wire {4 if code in vectors else 1} {code} s{place} $end" for place, code in enumerate(codes)]
    text += ["$upscope $end", "$enddefinitions $end", "#0"]
    for tick in range(1, 40):
        text.append(f"#{tick}")
        code = data.draw(st.sampled_from(codes))
        value = tick % 16 if code in vectors else 1 - (changes[code][-1][1] if changes[code] else 0)
        changes[code].append((tick, value))
        text.append(f"b{value:b} {code}" if code in vectors else f"{value}{code}")
    path = written(tmp_path_factory.mktemp("v"), "\n".join(text) + "\n")
    usual, vcd_read.PIECE = vcd_read.PIECE, 64
    try:
        trace = read_vcd(path)
    finally:
        vcd_read.PIECE = usual
    for place, code in enumerate(codes):
        if code in vectors:
            block = trace.values[f"s{place}"]
            assert (
                list(zip((block.t * 1e6).round().astype(int).tolist(), block.x.tolist(), strict=True)) == changes[code]
            )
        else:
            edges = trace.lines[f"s{place}"]
            assert (
                list(zip((edges.t * 1e6).round().astype(int).tolist(), edges.level.tolist(), strict=True))
                == changes[code]
            )


def test_a_second_of_serial_bytes_survives_the_file(tmp_path: Path) -> None:
    line = uart([b"42.5 kg\r\n"] * 20, 9600)
    trace = read_vcd(written(tmp_path, vcd_text({"sent": line.edges()}, 1e-6)))
    assert trace.lines["sent"].t == pytest.approx(line.edges().t, abs=1e-6)


HEAD = "$timescale 1 ns $end\n$var wire 1 ! a $end\n$enddefinitions $end\n"
BROKEN = [
    ("", "it is not a VCD file, or was cut off"),
    ("t,v\n1,2\n", "it is not a VCD file, or was cut off"),
    ("$timescale 1 ns $end\n$var wire 1 ! a $end\n$enddef", "it is not a VCD file, or was cut off"),
    ("$timescale 1 ns $end\n$enddefinitions $end\n#0\n", "its header names no signal"),
    ("$timescale 3 parsec $end\n$var wire 1 ! a $end\n$enddefinitions $end\n#0\n", "it may be 1, 10 or 100 of s, ms"),
    ("$timescale 1 ns $end\n$var wire one ! a $end\n$enddefinitions $end\n#0\n", "has no width in bits"),
    (HEAD, "no time stamp follows the header"),
]


@pytest.mark.parametrize(("text", "says"), BROKEN, ids=[row[1] for row in BROKEN])
def test_broken_files_say_what_is_wrong(tmp_path: Path, text: str, says: str) -> None:
    with pytest.raises(CaptureError, match=says):
        read_vcd(written(tmp_path, text))


def test_a_body_that_lacks_what_the_header_promises_and_time_that_runs_back(tmp_path: Path) -> None:
    """Read as far as it goes; times never run back."""
    trace = read_vcd(
        written(
            tmp_path,
            HEAD.replace("$end\n$enddef", "$end\n$var wire 1 @ b $end\n$enddef")
            + "#0\n0!\n#50\n1!\n#20\n0!\n#9x\n1!\n#70\n0!",
        )
    )
    assert trace.lines["a"].t.tolist() == sorted(trace.lines["a"].t.tolist())
    assert trace.lines["a"].level.tolist()[-1] == 0
    assert len(trace.lines["b"]) == 0


@given(st.binary(max_size=400))
def test_garbage_behind_a_header_never_raises_anything_else(
    tmp_path_factory: pytest.TempPathFactory, body: bytes
) -> None:
    path = tmp_path_factory.mktemp("v") / "g.vcd"
    path.write_bytes(HEAD.encode() + b"#0\n" + body)
    try:
        trace = read_vcd(path)
    except CaptureError as error:
        assert b"$dumpports" in body, error
        return
    assert (np.diff(trace.lines["a"].t) >= 0).all()


def test_stamps_that_run_back_are_counted_and_a_dump_of_ports_is_said(tmp_path: Path) -> None:
    """A pulse that comes of such a stamp is held at the latest time, and nobody is left to wonder."""
    head = "$timescale 1 us $end\n$var wire 1 ! a $end\n$enddefinitions $end\n"
    (tmp_path / "a.vcd").write_text(head + "#0\n0!\n#10\n1!\n#5\n0!\n#20\n1!\n")
    assert read_vcd(tmp_path / "a.vcd").steps_back == 1
    ports = "$timescale 1 us $end\n$var port 1 ! a $end\n$enddefinitions $end\n#0\n$dumpports\npD 6 6 !\n$end\n#9\npU 6 6 !\n"
    (tmp_path / "b.vcd").write_text(ports)
    with pytest.raises(CaptureError, match="it is an extended dump of ports; write a plain one"):
        read_vcd(tmp_path / "b.vcd")


def test_an_open_line_floats_high(tmp_path: Path) -> None:
    """Where nobody ever drives it high, z is what the pull-up makes of it; beside a driven high it is unknown."""
    head = '$timescale 1 us $end\n$var wire 1 ! sda $end\n$var wire 1 " bus $end\n$enddefinitions $end\n'
    (tmp_path / "a.vcd").write_text(head + '#0\nz!\n0"\n#10\n0!\n1"\n#20\nz!\nz"\n#30\n0!\n0"\n')
    lines = read_vcd(tmp_path / "a.vcd").lines
    assert (lines["sda"].first, lines["sda"].level.tolist()) == (1, [0, 1, 0])
    assert (lines["bus"].first, lines["bus"].level.tolist()) == (0, [1, 2, 0])


@pytest.mark.parametrize(("name", "called"), [(".", "trace.."), ("a.", "a.")])
def test_a_signal_whose_name_is_nothing_but_a_point_has_one(tmp_path: Path, name: str, called: str) -> None:
    """It is read by a decoder as any other."""
    path = tmp_path / "odd.vcd"
    path.write_text(
        f"$timescale 1 us $end\n$scope module trace $end\n$var wire 1 ! {name} $end\n$upscope $end\n"
        "$enddefinitions $end\n#0\n0!\n#10\n1!\n#20\n0!\n#30\n1!\n#40\n0!\n"
    )
    assert list(read_vcd(path).lines) == [called]
    decode = {"kind": "gate count", "line": called, "gate": "10 us"}
    source, problems = check_source("s", {"capture": "odd.vcd", "format": "vcd", "decode": decode})
    assert source is not None, problems
    assert len(read_capture(path, source).columns) == 1
