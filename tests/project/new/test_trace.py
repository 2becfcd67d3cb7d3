"""One command makes a project of an unknown trace: its sensors are channels, its displays panels with their traces."""

from __future__ import annotations

import json
import random
from pathlib import Path

import numpy as np
import pytest

from lesart.cli.main import main
from lesart.core.raw.edges import Edges, without_glitches
from lesart.project.captures.capture import Capture
from lesart.project.captures.traces.vcd_write import vcd_text
from lesart.project.check import check_project
from lesart.project.model import Project
from lesart.project.new.make import Made, make_project
from lesart.project.new.trace import sentence_of
from lesart.study.bench import Bench
from lesart.study.wires.last_picture import last_frame
from tests.core.raw.lines.test_text_line import NAMES, moment
from tests.core.raw.traces import TwoWire, by_length, glitched, uart
from tests.core.raw.unknown import SENDERS


def made_of(folder: Path, lines: dict[str, Edges], name: str = "probe.vcd") -> tuple[Made, Project, dict[str, Capture]]:
    path = folder / name
    path.write_text(vcd_text(lines, 1e-8, "bench"))
    made = make_project(path, folder / "made")
    project = check_project((made.folder / "lesart.toml").read_text(encoding="utf-8"))
    bench = Bench(made.folder, keeps=False)
    return made, project, {name: bench.capture(source) for name, source in project.sources.items()}


def test_a_sensor_of_forty_bits_becomes_two_channels(tmp_path: Path) -> None:
    """Its values in tenths, which is a guess that the project says to be one; a wrong sum is marked."""
    frames = [bytes((2, 100 + k, 0, 200 + k, (2 + 100 + k + 200 + k) & 0xFF)) for k in range(12)]
    frames[5] = frames[5][:4] + b"\x00"
    made, project, captures = made_of(tmp_path, {"q": by_length(frames).edges()})
    assert made.channels == ("sensor value 1", "sensor value 2")
    (capture,) = captures.values()
    np.testing.assert_allclose(capture.columns["value 1"].x[:3], [61.2, 61.3, 61.4])
    np.testing.assert_allclose(capture.columns["value 2"].x[:3], [20.0, 20.1, 20.2])
    assert capture.bad_count == 1
    assert ("sources", "sensor", "fields", 0, "scale") in project.assumed


def test_text_on_a_serial_line_becomes_its_numbers_by_name(tmp_path: Path) -> None:
    said = [f"T={20 + k / 4} H={50 + k}\r\n".encode() for k in range(9)]
    made, project, captures = made_of(tmp_path, {"q": uart([b"boot v1.2\r\n", *said], 9600).edges()})
    assert made.channels == ("T", "H")
    (capture,) = captures.values()
    assert capture.columns["T"].x.tolist() == [20 + k / 4 for k in range(9)]
    assert next(iter(project.sources.values())).decoding.messages == "text lines"  # type: ignore[union-attr]


def test_sentences_on_a_serial_line_become_columns_with_units(tmp_path: Path) -> None:
    told = ["\r\n".join(moment(k)).encode() + b"\r\n" for k in range(6)]
    made, project, captures = made_of(tmp_path, {"q": uart(told, 9600, gap_bits=4000).edges()})
    assert made.channels == NAMES
    (capture,) = captures.values()
    assert capture.columns["height"].x.tolist() == [545.4 + k for k in range(6)]
    units = {name: channel.unit_raw.symbol for name, channel in project.channels.items()}
    assert (units["height"], units["speed over ground"], units["latitude"]) == ("m", "kn", "°")


def test_lines_that_take_turns_all_give_their_values(tmp_path: Path) -> None:
    """One in ten is enough; a line that comes once is something that is said."""
    told = [f"T={20 + k / 4} C\r\n".encode() + (f"H={50 + k} %\r\n".encode() if k % 5 == 0 else b"") for k in range(20)]
    told.insert(7, b"free heap=31744\r\n")
    made, _, captures = made_of(tmp_path, {"q": uart(told, 9600).edges()})
    assert made.channels == ("T", "H")
    (capture,) = captures.values()
    assert capture.columns["H"].x.tolist() == [50, 55, 60, 65]


def test_each_device_that_is_read_on_two_wires_is_a_source(tmp_path: Path) -> None:
    bus = TwoWire()
    for k in range(8):
        for address, data in ((0x76, bytes((0x10, k, 0x20, k))), (0x40, bytes((k, 1)))):
            bus.start().byte(address << 1).byte(0xF7).start().byte(address << 1 | 1)
            for place, byte in enumerate(data, 1):
                bus.byte(byte, acknowledged=place < len(data))
            bus.stop()
    made, project, captures = made_of(tmp_path, {"q": bus.data.edges(), "r": bus.clock.edges()})
    assert list(project.sources) == ["0x40", "0x76"]
    assert made.channels == ("0x40", "0x76 bytes 1 and 2", "0x76 bytes 3 and 4")
    assert captures["0x76"].columns["bytes 3 and 4"].x.tolist() == [0x2000 + k for k in range(8)]


def test_a_display_and_a_sensor_on_one_probe(tmp_path: Path, yard_once: Path) -> None:
    """The picture on the glass is that of the yard's own trace; the sensor beside it is a channel."""
    from lesart.project.captures.traces.vcd_read import read_vcd

    lid = read_vcd(yard_once / "captures/lid-bus.vcd").lines
    frames = [bytes((2, k, 0, 9, (11 + k) & 0xFF)) for k in range(6)]
    lines = {"w": lid["data"], "e": by_length(frames).edges(), "u": lid["clock"]}
    made, project, _ = made_of(tmp_path, lines)
    assert made.panels == ("pixels",)
    assert [source.decoding.kind.name for source in project.sources.values()] == ["bits by length"]  # type: ignore[union-attr]
    yard = check_project((yard_once / "lesart.toml").read_text(encoding="utf-8"))
    want = last_frame(yard, Bench(yard_once, keeps=False), "lid")
    assert last_frame(project, Bench(made.folder, keeps=False), "pixels") == want


def test_a_display_behind_slow_edges_shows_the_same(tmp_path: Path, yard_once: Path) -> None:
    """One edge in a hundred was seen twice; what is too short goes into the trace of the panel as well."""
    from lesart.project.captures.traces.vcd_read import read_vcd

    lid = read_vcd(yard_once / "captures/lid-bus.vcd").lines
    made, project, captures = made_of(tmp_path, glitched({"w": lid["data"], "u": lid["clock"]}, random.Random(4)))
    assert made.panels == ("pixels",)
    yard = check_project((yard_once / "lesart.toml").read_text(encoding="utf-8"))
    want = last_frame(yard, Bench(yard_once, keeps=False), "lid")
    assert last_frame(project, Bench(made.folder, keeps=False), "pixels") == want
    shortest = project.traces["pixels"].values["shortest"]
    assert 0 < shortest < 2.5e-6
    # How busy the bus is counts what is meant.
    (capture,) = captures.values()
    meant = len(without_glitches(lid["clock"], shortest)[0])
    assert sum(block.x.sum() for block in capture.columns.values()) == pytest.approx(meant / 2, rel=0.02)


def test_levels_in_rows_are_a_trace_too(tmp_path: Path) -> None:
    """Transitions with their times, and samples at a steady rate: what they talk is found as in any trace."""
    bus = TwoWire()
    for k in range(6):
        bus.start().byte(0x76 << 1 | 1).byte(0x12).byte(k, acknowledged=False).stop()
    clock, data = bus.clock.edges(), bus.data.edges()
    moments = np.unique(np.concatenate(([0.0], clock.t, data.t)))
    rows = [
        f"{t:.9f},{d},{c}" for t, c, d in zip(moments, clock.level_at(moments), data.level_at(moments), strict=True)
    ]
    (tmp_path / "a.csv").write_text("Time (s),D0,D1\n" + "\n".join(rows) + "\n")
    made = make_project(tmp_path / "a.csv", tmp_path / "a")
    assert made.talks[0].kind == "two-wire bus"
    assert dict(made.talks[0].lines) == {"clock": "D1", "data": "D0"}
    assert made.channels == ("0x76",)
    project = check_project((made.folder / "lesart.toml").read_text(encoding="utf-8"))
    capture = Bench(made.folder, keeps=False).capture(project.sources["0x76"])
    assert capture.columns["bytes 1 and 2"].x.tolist() == [0x1200 + k for k in range(6)]


def test_switches_that_somebody_logged_are_no_trace(tmp_path: Path) -> None:
    rows = [f"{10 * k},{k // 7 % 2},{k // 11 % 2}" for k in range(60)]
    (tmp_path / "a.csv").write_text("t,door,pump\n" + "\n".join(rows) + "\n")
    made = make_project(tmp_path / "a.csv", tmp_path / "a")
    assert (made.talks, made.channels) == ((), ("door", "pump"))


@pytest.mark.parametrize("name", SENDERS)
def test_every_talk_becomes_a_project_that_opens(tmp_path: Path, name: str) -> None:
    """Each with a channel at least, whose source reads what was recognised; and --json says what that was."""
    dice = random.Random(11)
    unknown = SENDERS[name](dice)
    path = tmp_path / "probe.vcd"
    path.write_text(vcd_text(unknown.lines, 1e-8, "bench"))
    made = make_project(path, tmp_path / "made")
    project = check_project((made.folder / "lesart.toml").read_text(encoding="utf-8"))
    assert project.channels
    for channel in project.channels.values():
        capture = Bench(made.folder, keeps=False).capture(project.sources[channel.source])
        assert capture.column(channel.column, "c").usable.any()
    assert made.talks[0].kind == unknown.kind


def test_the_command_says_what_it_found_and_shows_the_glass(
    yard_once: Path, tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    assert main(["new", str(yard_once / "captures/lid-bus.vcd"), str(tmp_path / "lid")]) == 0
    lines = capsys.readouterr().out.splitlines()
    assert lines[0].endswith("lid-bus.vcd: a trace of 2 signals. Channels: clock edges.")
    assert lines[1].startswith("clock, data: two-wire bus, 99 % sure: ")
    assert lines[2].startswith("  a display of 128×64 pixels at 0x3C, 99 % sure: ")
    picture = lines[4:-1]
    assert len(picture) == 33
    assert sum(row.count("█") for row in picture) > 200
    assert main(["new", str(yard_once / "captures/stand-digits.vcd"), str(tmp_path / "stand"), "--json"]) == 0
    told = json.loads(capsys.readouterr().out)
    assert told["talks"][0]["kind"] == "scanned digits"
    assert told["displays"][0] | {"sure": 0, "why": ""} == {
        "panel": "digits",
        "kind": "segments",
        "digits": 4,
        "common": "cathode",
        "sure": 0,
        "why": "",
    }


def test_what_each_line_is_for_is_said_where_its_name_says_otherwise(tmp_path: Path) -> None:
    dice = random.Random(2)
    said = []
    for names in ({"data": "D0", "clock": "D1"}, {"data": "data", "clock": "clock"}):
        lines = SENDERS["two-wire bus"](dice).lines
        path = tmp_path / "probe.vcd"
        path.write_text(vcd_text({name: lines[role] for role, name in names.items()}, 1e-8, "bench"))
        said.append(sentence_of(make_project(path, tmp_path / names["data"]).talks[0]).partition(":")[0])
    assert said == ["clock D1, data D0", "clock, data"]


def test_decode_and_survey_say_which_signals_they_read(
    yard_once: Path, tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    """Data first in the file, under names that say nothing: they are found all the same; a still line is said to be."""
    bus = TwoWire().start().byte(0x76 << 1).byte(0xF7).stop()
    path = tmp_path / "a.vcd"
    still = uart([], 9600).edges(1.0)
    path.write_text(vcd_text({"q": bus.data.edges(), "r": bus.clock.edges(), "s": still}, 1e-8))
    assert main(["decode", str(path), "--as", "two-wire bus"]) == 0
    told = capsys.readouterr()
    assert told.err.splitlines()[0].startswith("reads clock = r, data = q (")
    assert "write 0x76,f7" in told.out
    assert main(["survey", str(path)]) == 0
    assert capsys.readouterr().err.startswith("reads clock = r, data = q (")
    assert main(["decode", str(path), "--as", "serial bytes", "--line", "s"]) == 0
    told = capsys.readouterr()
    assert "s never changes: it is high from the first moment to the last, so serial bytes finds nothing" in told.err
