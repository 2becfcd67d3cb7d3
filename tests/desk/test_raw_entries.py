"""Channels and sources added and taken away in Raw."""

from __future__ import annotations

import json
import tomllib
from pathlib import Path

import numpy as np
import pytest

from lesart.core.notes import DOUBT, FAULT
from lesart.core.step import Step
from lesart.desk.desk import Desk
from lesart.desk.picture import workspace_now
from lesart.project.captures.traces.vcd_write import vcd_text
from tests.conftest import MASS
from tests.core.raw.traces import by_length, uart
from tests.figures import unsaid


@pytest.fixture
def raw(desk: Desk) -> Desk:
    """The yard with Raw open."""
    desk.open_step(Step.RAW)
    return desk


def words(desk: Desk) -> str:
    return "\n".join("".join(span.text for span in line) for line in workspace_now(desk).lines)


def test_what_the_capture_offers_is_told(raw: Desk) -> None:
    assert "columns: bridge_ct (hive 2 mass), lid_mv (lid air), brood_mv (brood probe)" in words(raw)


def test_another_column_becomes_a_channel(raw: Desk) -> None:
    """With its unit, and limits around what it holds."""
    raw.add("lid volts = lid_mv mV")
    channel = raw.state.project.channels["lid volts"]
    assert (channel.column, channel.unit_raw.symbol, channel.source) == ("lid_mv", "mV", "scale")
    block = raw.bench.raw(raw.state.project, channel)
    assert channel.lowest < block.x[block.usable].min() < block.x[block.usable].max() < channel.highest


def test_a_trace_becomes_a_source(raw: Desk, yard: Path) -> None:
    """Bits by length out of a file that was put there; its first field is a value to start from."""
    frames = [bytes((0, value, 0, 0, value)) for value in (20, 21, 22)]
    (yard / "captures/roof.vcd").write_text(vcd_text({"roof": by_length(frames).edges()}, 1e-6))
    raw.add("roof < captures/roof.vcd as bits by length")
    assert raw.state.message == "added: roof from roof.vcd, column value"
    block = raw.bench.raw(raw.state.project, raw.state.project.channels["roof"])
    assert block.x.tolist() == [20, 21, 22]
    raw.choose_channel("roof")
    assert "bits by pulse length" in words(raw)


def test_values_of_a_decoder_bring_their_unit(raw: Desk, yard: Path) -> None:
    (yard / "captures/tx.vcd").write_text(vcd_text({"tx": uart([b"UUU"], 1000).edges()}, 1e-5))
    raw.add("tx < captures/tx.vcd as pulse width")
    assert raw.state.project.channels["tx"].unit.symbol == "s"


@pytest.mark.parametrize("ending", ["jsonl", "csv"])
def test_other_files(raw: Desk, yard: Path, ending: str) -> None:
    path = yard / f"captures/more.{ending}"
    rows = [{"t": place / 10, "level": 5 + place} for place in range(30)]
    if ending == "csv":
        path.write_text("t;level\n" + "\n".join(f"{row['t']};{row['level']}".replace(".", ",") for row in rows) + "\n")
    else:
        path.write_text("\n".join(json.dumps({"level": row["level"]}) for row in rows))
    raw.add(f"cask < captures/more.{ending}")
    assert raw.state.message == f"added: cask from more.{ending}, column level"
    assert raw.bench.raw(raw.state.project, raw.state.project.channels["cask"]).x.tolist() == list(np.arange(5.0, 35.0))


@pytest.mark.parametrize(
    ("typed", "says"),
    [
        ("lid", "is neither; say"),
        ("= lid_mv", "A channel needs a name"),
        (f"{MASS} = lid_mv", "already; use another name"),
        ("x = lid", "is not a column; hive-2-morning.csv has bridge_ct, lid_mv, brood_mv"),
        ("x = lid_mv volts", "not a unit"),
        ("x < captures/none.csv", "is not in the project's folder"),
        ("scale < captures/yard-air.vcd", 'There is a source "scale" already'),
        ("x < lesart.toml", "no rows of numbers were found"),
        ("x < captures/yard-air.vcd as magic", "is not a decoder; there are pulse width"),
    ],
)
def test_what_cannot_be_added_says_what_would_be_right(raw: Desk, typed: str, says: str) -> None:
    before = raw.state.history.text
    raw.add(typed)
    assert says in raw.state.message
    assert raw.state.history.text == before


def test_a_channel_goes_with_its_source_and_comments_of_others_stay(raw: Desk) -> None:
    """What a face shows cannot go; undo brings back every letter."""
    before = raw.state.history.text
    raw.choose_channel("rain")
    raw.take_away()
    assert raw.state.message == "removed: rain"
    after = raw.state.history.text
    assert "bucket" not in raw.state.project.sources
    assert set(tomllib.loads(before)["channels"]) - set(tomllib.loads(after)["channels"]) == {"rain"}
    comments = [line for line in before.splitlines() if line.startswith("#")]
    assert [line for line in comments if line not in after] == []
    raw.choose_channel("yard humidity")
    raw.take_away()
    assert "yard air" in raw.state.project.sources
    raw.undo()
    raw.undo()
    assert raw.state.history.text == before
    raw.choose_channel(MASS)
    raw.take_away()
    assert raw.state.message == (
        "hive 2 mass is shown on face mass and both and lid; remove it there in 7 Glass first."
    )
    assert MASS in raw.state.project.channels


def test_how_often_each_value_comes(raw: Desk) -> None:
    raw.choose_channel("lid air")
    line = next(line for line in words(raw).splitlines() if line.startswith("how often"))
    bars = line.removeprefix("how often ").partition("  ")[0]
    assert len(bars) <= 44
    assert "█" in bars
    assert line.endswith("mV")


def said_of(desk: Desk, channel: str) -> list[str]:
    return [note.text for note in desk.notes if note.channel == channel and note.step == Step.RAW]


def test_a_trace_without_a_single_frame_is_a_fault(desk: Desk) -> None:
    """The sensor was asked for a millisecond; a decoder that wants fifty finds nobody."""
    desk.edit(("sources", "yard air", "decode", "start"), "50 ms")
    assert said_of(desk, "yard air") == [
        "yard air, yard humidity and dew point: no frame comes out of yard-air.vcd, read as bits by length."
    ]
    (note,) = [note for note in desk.notes if note.channel == "yard air" and note.step == Step.RAW]
    assert note.mark == FAULT
    desk.edit(("sources", "yard air", "decode", "start"), "500 µs")
    assert not any("comes out" in text for text in said_of(desk, "yard air"))


def test_a_bit_that_is_nearly_the_other_is_a_doubt(desk: Desk) -> None:
    """Said once for the trace, at the channel that comes first."""
    assert not any("margin" in note.text for note in desk.notes)
    desk.edit(("sources", "yard air", "decode", "threshold"), "69 µs")
    (note,) = [note for note in desk.notes if "margin" in note.text]
    assert (note.channel, note.mark, note.limit) == ("yard air", DOUBT, 20)
    assert unsaid(note) == ""


def test_a_trace_without_a_decoder_becomes_what_it_talks(raw: Desk, yard: Path) -> None:
    frames = [bytes((2, value, 0, 9, (11 + value) & 0xFF)) for value in (20, 21, 22)]
    (yard / "captures/roof.vcd").write_text(vcd_text({"q": by_length(frames).edges()}, 1e-6))
    raw.add("roof < captures/roof.vcd")
    assert raw.state.message == "added: roof from roof.vcd, column value"
    assert raw.state.project.sources["roof"].decoding.kind.name == "bits by length"  # type: ignore[union-attr]
