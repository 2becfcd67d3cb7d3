"""Lines at the desk: what is said is followed, held, recorded, and computed as it would be from a file."""

from __future__ import annotations

import shutil
from collections.abc import Iterator
from datetime import datetime
from pathlib import Path

import numpy as np
import pytest

from lesart.core.block import Mark
from lesart.core.raw.lines.received import Received
from lesart.core.step import Step
from lesart.desk.deeds.lines import toggle_all, toggle_listening, toggle_recording
from lesart.desk.desk import Desk
from lesart.desk.picture import look
from lesart.live.rig.rig import Rig
from lesart.study.bench import Bench
from lesart.study.views import Picture
from tests.conftest import MASS
from tests.live.waiting import wait_for

HIVE, PRESSURE = "hive 1 mass", "pressure"
NOW = datetime(2026, 5, 14, 8)


@pytest.fixture
def rig(yard: Path) -> Iterator[Rig]:
    rig = Rig(yard / "rig", rate_hz=100.0)
    rig.start()
    yield rig
    rig.stop()


@pytest.fixture
def live(desk: Desk, rig: Rig) -> Iterator[Desk]:
    """The scale of hive 1, listened to in Raw."""
    desk.choose_channel(HIVE)
    desk.open_step(Step.RAW)
    toggle_listening(desk)
    wait_for(lambda: rows(desk) > 20, "rows came")
    yield desk
    desk.lines.close()


def rows(desk: Desk, source: str = "hive 1") -> int:
    desk.hear()
    view = desk.bench.views.get(source)
    return len(view.capture.t) if view is not None else 0


def words(picture: Picture) -> str:
    return "\n".join("".join(span.text for span in line) for line in picture.workspace.lines)


def test_what_is_said_now_stands_in_the_thread_and_in_raw(live: Desk) -> None:
    picture = look(live)
    assert (picture.capture, picture.playing) == ("rig/scale, 115200 baud", "▶ live")
    raw, calm = picture.thread[1].value.text, picture.thread[4].value.text
    assert abs(float(raw.replace(" ", "").removesuffix("ct")) - 412_000) < 12_000
    assert abs(float(calm.removesuffix(" kg")) - 38.5) < 1
    assert "serial text line" in words(picture)
    assert "o leaves  r records" in words(picture)


def test_the_cursor_is_now_until_it_is_held_and_goes_on_when_followed_again(live: Desk) -> None:
    first = live.shown.cursor_s
    wait_for(lambda: (live.hear(), live.shown.cursor_s)[1] > first + 0.2, "it moved on")
    live.move_cursor(-5)
    held = live.state.cursor_s
    assert look(live).playing == "‖ held"
    before = rows(live)
    wait_for(lambda: rows(live) > before + 10, "more came")
    assert look(live).cursor == look(live).cursor
    assert live.state.cursor_s == held
    live.toggle_play()
    assert live.shown.cursor_s > held + 0.1
    assert look(live).playing == "▶ live"


def test_zooming_says_how_many_of_the_last_seconds_are_seen(live: Desk) -> None:
    live.zoom(1)
    start, end = live.view()
    assert end - start == pytest.approx(15.0)
    live.zoom(-10)
    start, end = live.view()
    assert end - start == pytest.approx(60.0)


def test_a_reference_is_taken_at_what_is_said_now(live: Desk) -> None:
    """The indication is that of the last seconds, wherever the cursor of files stands."""
    wait_for(lambda: rows(live) > 120, "more came")
    live.open_step(Step.TRUE)
    look(live)
    live.add("38 kg")
    (reference,) = live.state.project.tables["channels"][HIVE]["true"]["references"]
    assert reference["true"] == "38 kg"
    assert abs(float(reference["indicated"].split()[0]) - 38.4) < 0.2
    assert reference["count"] > 50


def test_other_channels_stay_where_the_cursor_is(live: Desk) -> None:
    """A file of another day does not run with the clock of a line."""
    row = next(row for row in look(live).channels if row.name == MASS)
    live.choose_channel(MASS)
    assert next(row for row in look(live).channels if row.name == MASS).value == row.value


def test_a_chain_that_follows_gives_the_same_as_one_run_over_the_file(live: Desk, tmp_path: Path) -> None:
    """To the bit, over laws and filters, however the line was cut into looks."""
    toggle_recording(live, NOW)
    for _ in range(6):
        before = rows(live)
        wait_for(lambda before=before: rows(live) > before + 7, "more came")  # type: ignore[misc]
        look(live)
    toggle_recording(live, NOW)
    live.hear()
    project = live.state.project
    channel = project.channels[HIVE]
    followed = live.bench.run(project, channel)
    batch = Bench(live.folder).run(project, channel)
    first = int(np.searchsorted(followed.calm.t, batch.calm.t[0]))
    count = len(batch.calm)
    assert count > 40
    for step in ("raw", "law"):
        live_block, file_block = followed.blocks[step], batch.blocks[step]
        assert live_block.t[first : first + count].tobytes() == file_block.t.tobytes()
        assert live_block.x[first : first + count].tobytes() == file_block.x.tobytes()
    # A filter remembers what came before the recording; after its eight samples it has forgotten.
    assert followed.calm.x[first + 8 : first + count].tobytes() == batch.calm.x[8:].tobytes()


def test_what_stands_for_no_reading_is_none_on_a_line_too(live: Desk) -> None:
    """From when it is said, over all that came, and in what is still to come; the filters follow."""
    column = live.bench.capture(live.state.project.sources[live.state.chosen.source]).columns[live.state.chosen.column]
    value = float(column.x[-3])
    live.add(f"{value:.0f} is no reading")
    assert not live.state.message_is_fault, live.state.message
    for _ in range(3):
        before = rows(live)
        wait_for(lambda before=before: rows(live) > before + 7, "more came")  # type: ignore[misc]
        look(live)
    channel = live.state.chosen
    run = live.bench.run(live.state.project, channel)
    said = live.bench.capture(live.state.project.sources[live.state.chosen.source]).columns[channel.column].x
    assert np.array_equal(run.blocks[Step.RAW].mark == int(Mark.MISSING), said == value)
    again = run.blocks[Step.RAW]
    for link in channel.chain.links:
        _, again = link.run(link.stage.initial(), again)
    assert again.x.tobytes() == run.calm.x.tobytes()


def test_a_recording_becomes_the_capture_and_undo_brings_the_one_before_back(live: Desk) -> None:
    before = live.state.project.sources["hive 1"].capture
    toggle_recording(live, NOW)
    assert live.state.message == "recording hive 1 into captures/hive-1-20260514-080000.csv; r ends it"
    assert "● recording" in look(live).playing
    already = rows(live)
    wait_for(lambda: rows(live) > already + 10, "more came")
    toggle_listening(live)
    assert "Recorded" in live.state.message
    assert live.state.project.sources["hive 1"].capture == "captures/hive-1-20260514-080000.csv"
    assert "hive-1-20260514-080000.csv" in look(live).capture
    assert live.state.unsaved
    live.undo()
    assert live.state.project.sources["hive 1"].capture == before


def test_what_was_not_recorded_can_be_looked_at_when_the_line_is_left(live: Desk) -> None:
    toggle_listening(live)
    assert "was not recorded" in live.state.message
    count = rows(live)
    assert count > 20
    assert "rows not recorded can be looked at" in words(look(live))
    live.move_cursor(0)
    assert look(live).thread[1].value.text.endswith("ct")


def test_trouble_silence_and_losses_are_notes(desk: Desk, rig: Rig) -> None:
    toggle_all(desk)
    assert "Listening to hive 1 and mast" in desk.state.message
    wait_for(lambda: rows(desk) > 20, "rows came")
    rig.fault("noise", 0.5)
    wait_for(
        lambda: any("garbage since listening began" in note.text for note in desk.notes if desk.hear() is None),
        "losses",
    )
    rig.fault("silence", 30.0)
    wait_for(
        lambda: any("hive 1: nothing came for" in note.text for note in desk.notes if desk.hear() is None), "silence"
    )
    rig.stop()
    wait_for(
        lambda: any("is not there" in note.text for note in desk.notes if desk.hear() is None), "the plug was pulled"
    )
    fault = next(note for note in desk.notes if "is not there" in note.text)
    assert (fault.mark, fault.step) == ("†", "raw")
    toggle_all(desk)
    assert not desk.lines.any


def test_a_change_of_the_line_opens_it_anew(live: Desk) -> None:
    live.edit(("sources", "hive 1", "line", "port"), "nowhere")
    wait_for(lambda: "nowhere is not there" in words(look(live)), "it was opened anew")
    live.undo()
    wait_for(lambda: rows(live) > 10, "it is heard again")


def test_a_line_whose_source_goes_is_left(live: Desk) -> None:
    live.take_away()
    assert not live.lines.any


def test_a_channel_of_a_file_has_nothing_to_listen_to(desk: Desk) -> None:
    for deed in (toggle_listening, lambda desk: toggle_recording(desk, NOW)):
        deed(desk)
        assert desk.state.message.startswith(f"{MASS} comes from a file, captures/hive-2-morning.csv, and has no line")


def test_a_folder_that_takes_no_recording_is_said(live: Desk) -> None:
    shutil.rmtree(live.folder / "captures")
    (live.folder / "captures").write_text("in the way")
    toggle_recording(live, NOW)
    assert live.state.message_is_fault
    assert "cannot be made" in live.state.message


def test_the_demo_brings_its_rig(yard: Path, desk: Desk) -> None:
    desk.lines.with_rig = True
    desk.choose_channel(PRESSURE)
    toggle_listening(desk)
    wait_for(lambda: rows(desk, "mast") > 2, "the mast answered")
    assert (yard / "rig" / "mast").is_symlink()
    desk.lines.close()
    assert not (yard / "rig" / "mast").exists()


def test_few_rows_of_odd_values_are_drawn(desk: Desk) -> None:
    """Two samples far apart lie both beyond the middle of all; a line begins with two samples."""
    desk.choose_channel(HIVE)
    desk.open_step(Step.RAW)
    listening = _Silent(desk)
    listening.say(Received(("count",), (1.0,), ((4e5,),), (1,)))
    assert "how often" not in words(look(desk))
    listening.say(Received(("count",), (2.0,), ((1e300,),), (1,)))
    assert "how often" in words(look(desk))
    desk.lines.close()


class _Silent:
    """A line that says what a test lets it say."""

    def __init__(self, desk: Desk) -> None:
        desk.lines.listen(desk.state.project.sources["hive 1"])
        self._listening = desk.lines._open["hive 1"]

    def say(self, heard: Received) -> None:
        self._listening._take(heard)


# Lines that are typed


@pytest.mark.parametrize(
    ("typed", "line", "column"),
    [
        ("roof < text line /dev/serial 9600", {"kind": "text line", "port": "/dev/serial", "baud": 9600}, "1"),
        ("load < this computer", {"kind": "this computer"}, "load"),
        (
            "dust < serial frames /dev/serial 9600 begins 42 4d length 32 bytes 7 to 8",
            {
                "kind": "serial frames",
                "port": "/dev/serial",
                "baud": 9600,
                "begins": "42 4D",
                "length": 32,
                "fields": [{"name": "dust", "first_bit": 48, "bits": 16}],
            },
            "dust",
        ),
        (
            "far < serial frames /dev/serial begins FF",
            {
                "kind": "serial frames",
                "port": "/dev/serial",
                "begins": "FF",
                "fields": [{"name": "far", "first_bit": 8, "bits": 16}],
            },
            "far",
        ),
        (
            "gust < Modbus RTU rig/mast unit 7 input 10 float32",
            {
                "kind": "Modbus RTU",
                "port": "rig/mast",
                "unit": 7,
                "registers": [{"name": "gust", "table": "input", "address": 10, "type": "float32"}],
            },
            "gust",
        ),
        (
            "gust < modbus tcp mast.local:1502 holding 2",
            {
                "kind": "Modbus TCP",
                "host": "mast.local",
                "tcp_port": 1502,
                "registers": [{"name": "gust", "table": "holding", "address": 2}],
            },
            "gust",
        ),
        ("roof < UDP text 5005", {"kind": "UDP text", "udp_port": 5005}, "1"),
        ("roof < MQTT 10.0.0.4 yard/roof", {"kind": "MQTT", "host": "10.0.0.4", "topic": "yard/roof"}, "1"),
        ("roof < mqtt broker:1884", {"kind": "MQTT", "host": "broker", "tcp_port": 1884}, "1"),
        (
            "gust < two-wire bus /dev/i2c-1 0x76 0xFA int16",
            {
                "kind": "two-wire bus",
                "bus": "/dev/i2c-1",
                "address": "0x76",
                "registers": [{"name": "gust", "register": "0xFA", "type": "int16"}],
            },
            "gust",
        ),
    ],
)
def test_a_line_is_typed(desk: Desk, typed: str, line: dict[str, object], column: str) -> None:
    desk.open_step(Step.RAW)
    desk.add(typed)
    name = typed.partition(" ")[0]
    assert desk.state.message.startswith(f"added: {name} from")
    assert desk.state.project.tables["sources"][name]["line"] == line
    assert desk.state.project.channels[name].column == column
    desk.choose_channel(name)
    assert f"{name}" in words(look(desk)) or "nothing is recorded yet" in words(look(desk))


def test_of_a_line_of_frames_what_counts_stands_in_raw_and_more_fields_are_typed(desk: Desk) -> None:
    """A sum has no polynomial, a known length no rest that ends it; a CRC has one."""
    desk.open_step(Step.RAW)
    desk.add("dust < serial frames /dev/serial 9600 begins 42 4D length 32 bytes 7 to 8")
    desk.edit(("sources", "dust", "line", "check"), "sum-16")
    desk.choose_channel("dust")
    shown = words(look(desk))
    assert "frames of bytes over a serial port" in shown
    assert ("polynomial" in shown, "rest " in shown, "unchecked" in shown, "low byte first" in shown) == (
        False, False, True, True,
    )  # fmt: skip
    desk.edit(("sources", "dust", "line", "check"), "CRC-8")
    shown = words(look(desk))
    assert ("polynomial" in shown, "low byte first" in shown) == (True, False)
    desk.add("fine = bytes 5 to 6 µg/m³")
    line = desk.state.project.sources["dust"].line
    assert line is not None
    assert [each.name for each in line.registers] == ["dust", "fine"]
    assert desk.state.project.channels["fine"].unit.symbol == "µg/m³"
    desk.add("all = bytes 1 to 32")
    assert "256; it must be a whole number from 1 to 64" in desk.state.message


@pytest.mark.parametrize(
    ("typed", "said"),
    [
        ("roof < text line", "lacks where it is"),
        ("roof < text line p fast", '"fast" is not a baud rate'),
        ("roof < text line p 5", "baud = 5; it must be a whole number from 50"),
        (
            "dust < serial frames p begins 4",
            '"begins 4" does not say where a frame ends; write NAME < serial',
        ),
        ("dust < serial frames p bytes 5 to 4", '"bytes 5 to 4" are not bytes of a frame; they are counted from 1'),
        (
            "dust < serial frames p begins 42 4D length 2",
            "length = 2; what it begins with, a value and its check take 3",
        ),
        ("gust < Modbus RTU p unit 7", "does not say which register"),
        ("gust < Modbus RTU p unit 300 input 0", "unit = 300; it must be a whole number from 1 to 247"),
        ("roof < UDP text here", '"here" is not a port; write NAME < UDP text PORT'),
        ("gust < two-wire bus /dev/i2c-1 76", '"76" does not say which device and register'),
        ("gust < two-wire bus /dev/i2c-1 0x99", "it must be a number from 0x00 to 0x7F"),
        ("mast < this computer", 'There is a source "mast" already'),
    ],
)
def test_a_line_typed_wrong_says_what_would_be_right(desk: Desk, typed: str, said: str) -> None:
    desk.open_step(Step.RAW)
    text = desk.state.history.text
    desk.add(typed)
    assert said in desk.state.message
    assert desk.state.history.text == text


def test_another_register_of_a_device_is_typed(desk: Desk, rig: Rig) -> None:
    desk.open_step(Step.RAW)
    desk.choose_channel(PRESSURE)
    desk.add("period = holding 1 uint16 ms")
    assert desk.state.project.channels["period"].unit.symbol == "ms"
    desk.choose_channel("period")
    toggle_listening(desk)
    wait_for(lambda: look(desk).thread[1].value.text == "1000 ms", "the register was read")
    desk.lines.close()
