"""Captures read, opened again, recorded and printed."""

from __future__ import annotations

import os
import subprocess
import sys
from collections.abc import Iterator
from datetime import datetime
from pathlib import Path

import numpy as np
from tools.bench.sides import Row, row

from lesart.core.glass.bus.transmissions import Transmission
from lesart.core.pace.edge_writer import four_wire, two_wire
from lesart.core.raw.edges import Edges, edges_of
from lesart.core.raw.lines.received import Received
from lesart.core.raw.source import Source
from lesart.live.record_file import RecordFile
from lesart.project.captures.capture_read import read_capture
from lesart.project.captures.kept_capture import keep, kept_capture
from lesart.project.new.trace import found_in_trace

LESART = Path(sys.executable).with_name("lesart")
PROJECT = """lesart = 1
name = "ten million"

[sources.year]
capture = "year.csv"
format = "csv"
header = 1
time = "t_s"
time_unit = "s"

[channels.air]
source = "year"
column = "codes"
raw_unit = "ct"
unit = "V"
lowest = "0 V"
highest = "3.3 V"

[[channels.air.law]]
kind = "converter"
bits = 16
reference = "3.3 V"

[[channels.air.calm]]
kind = "mean"
samples = 16
"""


def write_csv(path: Path, rows: int) -> None:
    """Times, codes, and a reading with decimals."""
    rng = np.random.default_rng(5)
    t = np.char.mod("%.3f", np.arange(rows) / 1000)
    codes = rng.integers(0, 65_536, rows).astype(str)
    celsius = np.char.mod("%.4f", 20 + rng.standard_normal(rows))
    with path.open("w") as file:
        file.write("t_s,codes,celsius\n")
        for start in range(0, rows, 100_000):
            part = slice(start, start + 100_000)
            file.write("".join(map("%s,%s,%s\n".__mod__, zip(t[part], codes[part], celsius[part], strict=True))))


def write_vcd(path: Path, edges: int) -> None:
    """Two lines that change every microsecond or so."""
    times = np.cumsum(np.random.default_rng(6).integers(200, 3000, edges)).tolist()
    with path.open("w") as file:
        file.write("$timescale 1 ns $end\n$var wire 1 ! pulses $end\n$var wire 1 % other $end\n")
        file.write("$enddefinitions $end\n#0\n0!\n0%\n")
        # Most changes are those of one line, which the pulse decoder measures.
        file.write("".join(f"#{at}\n{place % 2}{'!' if place % 8 < 6 else '%'}\n" for place, at in enumerate(times)))


def _source(**told: object) -> Source:
    return Source("year", "year.csv", header=1, time="t_s", **told)  # type: ignore[arg-type]


def capture_rows(work: Path, rows: int, rounds: int) -> Iterator[Row]:
    """CSV, opened again, and Parquet, beside reading the bytes and the fastest parser with a schema."""
    import polars

    path, source = work / "year.csv", _source()
    write_csv(path, rows)
    size = path.stat().st_size / 1e6
    schema = {"t_s": polars.Float64, "codes": polars.Float64, "celsius": polars.Float64}
    parser = {"polars with a schema": lambda: polars.read_csv(path, schema=schema)}
    yield row(
        f"CSV of {size:.0f} MB opened",
        lambda: read_capture(path, source),
        ("its bytes read", path.read_bytes),
        parser,
        rounds=rounds,
        remark="1.3 × the parser allowed",
    )
    keep(work, path, source, read_capture(path, source)).join()
    yield row(
        "the same opened again",
        lambda: kept_capture(work, path, source),
        rounds=rounds,
        remark="300 ms allowed",
    )
    table = work / "year.parquet"
    polars.read_csv(path, schema=schema).write_parquet(table)
    parquet = Source("year", table.name, format="parquet", time="t_s")
    yield row(
        f"Parquet of {table.stat().st_size / 1e6:.0f} MB opened",
        lambda: read_capture(table, parquet),
        ("its bytes read", table.read_bytes),
        {"polars": lambda: polars.read_parquet(table)},
        rounds=rounds,
    )


def trace_rows(work: Path, edges: int, rounds: int) -> Iterator[Row]:
    """A logic trace read, and decoded and printed by the command."""
    path = work / "trace.vcd"
    write_vcd(path, edges)
    source = Source("trace", path.name, format="vcd")
    yield row(
        f"VCD of {path.stat().st_size / 1e6:.0f} MB, {edges / 1e6:g} M edges",
        lambda: read_capture(path, source),
        ("its bytes read", path.read_bytes),
        rounds=rounds,
    )
    lines = unknown_lines(edges * 5 // 18)
    yield row(
        f"an unknown trace of {sum(map(len, lines.values())) / 1e6:.1f} M edges recognised, with its display",
        lambda: found_in_trace(lines),
        rounds=rounds,
        remark="2 s allowed",
    )
    command = [LESART, "decode", path, "--as", "pulse width", "--line", "pulses"]
    yield _printed("decode", command, rounds)


def unknown_lines(edges: int) -> dict[str, Edges]:
    """A display on four wires, a device on two, and pulses beside them, under names that say nothing."""
    dice = np.random.default_rng(7)
    share, told = edges // 3, []
    for place in range(share // 400):
        told.append((place * 1e-3, Transmission(bytes((0xB0 | place % 8, 0x00, 0x10)), False)))
        told.append((place * 1e-3 + 2e-4, Transmission(dice.integers(0, 256, 16).astype(np.uint8).tobytes(), True)))
    lasts = place * 1e-3 + 0.1
    found = {f"q{name[0]}": line for name, line in four_wire(told, 2e6, lasts).items()}
    asked = [(place * 2e-3, Transmission(bytes((0xF4, place % 256)), False)) for place in range(share // 90)]
    found |= {f"w{name[0]}": line for name, line in two_wire(asked, 0x76, 100e3, lasts + 1.0).items()}
    t = np.cumsum(dice.uniform(0.9e-4, 1.1e-4, share))
    return found | {"e": edges_of(t, np.arange(share) % 2 == 0, 0, 0.0, float(t[-1]))}


def printed_rows(work: Path, rows: int, rounds: int) -> Iterator[Row]:
    """A channel of a long capture read and printed; the capture is opened again for it."""
    if not (work / "year.csv").exists():
        write_csv(work / "year.csv", rows)
    (work / "lesart.toml").write_text(PROJECT, encoding="utf-8")
    yield _printed("read", [LESART, "read", work, "air"], rounds)


def _printed(name: str, command: list[str | Path], rounds: int) -> Row:
    printed = work_of(command)
    found = row(f"lesart {name}: {printed / 1e6:.1f} M rows printed", lambda: work_of(command), rounds=rounds)
    return Row(found.name, found.ours_s, remark=f"{printed / found.ours_s / 1e3:.0f} k rows/s, 500 wanted")


def work_of(command: list[str | Path]) -> int:
    """Lines that a command prints."""
    done = subprocess.run(command, stdout=subprocess.PIPE, check=False)
    return done.stdout.count(b"\n")


def record_rows(work: Path, rows: int, rounds: int) -> Iterator[Row]:
    """Rows of eight values recorded, beside the same as raw text forced to the disk each thousand rows."""
    batch = 1000
    values = [tuple(row_) for row_ in np.random.default_rng(7).integers(0, 4096, (batch, 8)).astype(float).tolist()]
    names = tuple(f"c{place}" for place in range(8))
    numbers = iter(range(10**6))

    def ours() -> None:
        path = work / f"recorded {next(numbers)}.csv"
        file = RecordFile(path, "bench", datetime.now().astimezone())
        for start in range(0, rows, batch):
            t = tuple(place / 1000 for place in range(start, start + batch))
            file.add(Received(names, t, tuple(values), (0,) * batch))
            file.write(start / 1000)
        file.close(rows / 1000)
        path.unlink()

    def raw() -> None:
        path = work / "raw.txt"
        with path.open("w") as file:
            for start in range(0, rows, batch):
                for place, each in enumerate(values):
                    file.write(f"{(start + place) / 1000:.6f},{','.join(map(str, map(int, each)))}\n")
                file.flush()
                os.fsync(file.fileno())
        path.unlink()

    found = row(f"{rows / 1e3:.0f} k rows recorded", ours, ("raw text, forced to disk", raw), rounds=rounds)
    yield Row(found.name, found.ours_s, found.floor, remark=f"{rows / found.ours_s / 1e3:.0f} k rows/s, 300 wanted")
