"""Traces that a general hardware simulator writes: its own header, names, time scale and order of changes.

The senders are circuits, clocked as circuits are; nothing of ours has a part in what they write.
"""

from __future__ import annotations

import random
import warnings
from collections.abc import Callable
from pathlib import Path
from typing import Any

import pytest

from lesart.core.raw.talks.recognise import recognise
from lesart.project.captures.traces.vcd_read import read_vcd
from lesart.project.check import check_project
from lesart.project.new.make import make_project
from lesart.study.bench import Bench

hdl = pytest.importorskip("myhdl", reason="the hardware simulator cannot be installed here")


def simulated(folder: Path, bench: Callable[[], Any], steps: int) -> Path:
    """Run a bench for so many nanoseconds and trace it."""
    with warnings.catch_warnings():
        warnings.simplefilter("ignore")
        top = bench()
        top.config_sim(trace=True, directory=str(folder), filename="probe", timescale="1ns")
        top.run_sim(steps, quiet=1)
        top.quit_sim()
    return folder / "probe.vcd"


@pytest.fixture
def letters() -> bytes:
    return b"T=21.5 H=60\r\nT=21.6 H=61\r\nT=21.7 H=62\r\n"


def test_a_transmitter_of_serial_bytes(tmp_path: Path, letters: bytes) -> None:
    """A shift register clocked at 115 200 baud: its text becomes two channels."""
    bit = round(1e9 / 115_200)

    @hdl.block
    def bench() -> Any:
        txd = hdl.Signal(bool(1))
        load = hdl.Signal(hdl.intbv(0)[10:])

        @hdl.instance
        def send() -> Any:
            yield hdl.delay(30 * bit)
            for place, byte in enumerate(letters):
                load.next = 0x200 | byte << 1
                yield hdl.delay(1)
                for number in range(10):
                    txd.next = bool(load[number])
                    yield hdl.delay(bit)
                if byte == 10 or place == len(letters) - 1:
                    yield hdl.delay(40 * bit)

        return send

    path = simulated(tmp_path, bench, (12 * len(letters) + 300) * bit)
    made = make_project(path, tmp_path / "made")
    assert made.talks[0].kind == "serial bytes"
    assert dict(made.talks[0].values) == {"baud": 115_200}
    project = check_project((made.folder / "lesart.toml").read_text(encoding="utf-8"))
    capture = Bench(made.folder, keeps=False).capture(next(iter(project.sources.values())))
    assert {name: block.x.tolist() for name, block in capture.columns.items()} == {
        "T": [21.5, 21.6, 21.7],
        "H": [60, 61, 62],
    }


@pytest.mark.parametrize("mode", [0, 1, 2, 3])
def test_a_master_on_four_wires(tmp_path: Path, mode: int) -> None:
    """Each mode, its data registered by the clock edge before the one that reads them."""
    dice = random.Random(mode)
    words = [dice.randrange(256) for _ in range(24)]
    idle, first = bool(mode >= 2), mode in (1, 3)

    @hdl.block
    def bench() -> Any:
        sck, cs_n, mosi, miso = (hdl.Signal(bool(level)) for level in (idle, 1, 0, 0))

        @hdl.instance
        def master() -> Any:
            yield hdl.delay(5000)
            for start in range(0, len(words), 4):
                cs_n.next = 0
                yield hdl.delay(500)
                for word in words[start : start + 4]:
                    for place in range(7, -1, -1):
                        if not first:
                            mosi.next = bool(word >> place & 1)
                        yield hdl.delay(250)
                        sck.next = not idle
                        if first:
                            mosi.next = bool(word >> place & 1)
                        yield hdl.delay(250)
                        sck.next = idle
                yield hdl.delay(500)
                cs_n.next = 1
                yield hdl.delay(4000)

        @hdl.always(sck.posedge)
        def slave() -> None:
            miso.next = not mosi

        return master, slave

    path = simulated(tmp_path, bench, 200_000)
    talk = next(each for each in recognise(read_vcd(path).lines) if each.line("data").endswith("mosi"))
    assert talk.kind == "four-wire serial"
    assert dict(talk.values) == {"mode": mode}
    assert talk.line("clock").endswith("sck")
    assert talk.line("select").endswith("cs_n")
    project = check_project((make_project(path, tmp_path / "made").folder / "lesart.toml").read_text(encoding="utf-8"))
    bench_ = Bench(tmp_path / "made", keeps=False)
    captures = [bench_.capture(source) for source in project.sources.values()]
    data = [[frame.data for frame in capture.decoded.frames or ()] for capture in captures if capture.decoded]
    assert [bytes(words[start : start + 4]) for start in range(0, 24, 4)] in data


def test_an_encoder_and_a_pulse_of_varying_width(tmp_path: Path) -> None:
    @hdl.block
    def bench() -> Any:
        a, b, echo = (hdl.Signal(bool(0)) for _ in range(3))

        @hdl.instance
        def turn() -> Any:
            for step in range(200):
                yield hdl.delay(1000)
                place = step % 4 if step < 120 else (-step) % 4
                a.next = place in (1, 2)
                b.next = place in (2, 3)

        @hdl.instance
        def answer() -> Any:
            for place in range(40):
                echo.next = 1
                width = 300 + 70 * (place % 9)
                yield hdl.delay(width)
                echo.next = 0
                yield hdl.delay(5000 - width)

        return turn, answer

    talks = recognise(read_vcd(simulated(tmp_path, bench, 210_000)).lines)
    assert {talk.kind for talk in talks} == {"quadrature", "pulse width"}
