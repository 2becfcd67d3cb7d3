"""The desk: deeds, undo, hand, notes, cursor, files. No terminal, no clock."""

from __future__ import annotations

from pathlib import Path

import numpy as np
import pytest

from lesart.core.errors import ProjectError, RequestError, StorageError
from lesart.core.notes import FAULT
from lesart.core.step import Step, step_at
from lesart.desk.desk import Desk
from lesart.desk.entries.edits import nudge_step
from lesart.desk.hand import follow, raw_for_reading, raw_from_text
from lesart.desk.history import History
from lesart.desk.opening import open_desk
from lesart.desk.picture import context_of, picture_of, workspace_now
from lesart.live.replay import SPEEDS, Replay
from lesart.project.check import check_project
from lesart.project.folder.store import FILE
from lesart.project.toml_values import value_at
from lesart.study.bench import bytes_of
from lesart.study.inspect import inspect_project
from tests.conftest import AIR, MASS, killed

CAPACITY = ("channels", MASS, "law", 1, "capacity")
DECIMALS = ("channels", MASS, "fit", "decimals")


def written(desk: Desk, key: tuple[str | int, ...]) -> object:
    """What stands in the present project."""
    return value_at(desk.state.project.tables, key)


def text_on(desk: Desk, name: str) -> str:
    """Lit segments of a panel as letters between digits."""
    from lesart.core.glyphs.segments import lit_names

    glass = next(glass for glass in context_of(desk).glasses if glass.name == name)
    return " ".join(lit_names(mask) or "-" for mask in glass.frame.masks)  # type: ignore[union-attr]


def test_an_edit_shows_on_the_glass_and_is_undone(desk: Desk) -> None:
    """Twice the capacity is twice the load; undo brings every segment back, redo takes it again."""
    before = text_on(desk, "stand")
    reading = desk.bench.run(desk.state.project, desk.state.chosen).reading_at(Step.LAW, desk.state.cursor_s).value
    desk.edit(CAPACITY, "400 kg")
    after = desk.bench.run(desk.state.project, desk.state.chosen).reading_at(Step.LAW, desk.state.cursor_s).value
    assert after == pytest.approx(2 * reading)
    changed = text_on(desk, "stand")
    assert changed != before
    assert desk.state.unsaved
    desk.undo()
    assert text_on(desk, "stand") == before
    assert not desk.state.unsaved
    desk.redo()
    assert text_on(desk, "stand") == changed


@pytest.mark.parametrize(
    ("key", "typed", "stands"),
    [
        (CAPACITY, "220", "220 kg"),
        (CAPACITY, "220kg", "220kg"),
        (CAPACITY, "4k7", "4700 g"),
        (CAPACITY, "0.2 t", "0.2 t"),
        (("channels", MASS, "law", 0, "reference"), "3V3", "3.3 V"),
        (("channels", MASS, "law", 0, "reference"), "4500 mV", "4500 mV"),
        (("channels", MASS, "law", 0, "gain"), "64", "64"),
        (DECIMALS, " 2 ", 2),
        (("channels", MASS, "calm", 3, "timeout"), "500 ms", "500 ms"),
        (("channels", MASS, "true", "references", 0, "used"), "no", False),
        (("channels", AIR, "law", 0, "slope"), "2.5", "2.5 mV/°C ± 0.5 %"),
        (("channels", AIR, "law", 0, "slope"), "2.5 ± 0.1", "2.5 mV/°C ± 0.1"),
        (("channels", AIR, "law", 0, "slope"), "2.5 ± 0", "2.5 mV/°C"),
        (("channels", AIR, "law", 0, "output"), "1 °C ± 0.3 °C", "1 °C ± 0.3 °C"),
        (("channels", "syrup below", "law", 0, "air"), "lid air", "lid air"),
        (("channels", "syrup below", "law", 0, "air"), "18", "18 °C"),
        (("panels", "door", "light"), "grey", "grey"),
        (("faces", "both", "items", 0, "text"), "scale", "scale"),
    ],
)
def test_typed_values(desk: Desk, key: tuple[str | int, ...], typed: str, stands: object) -> None:
    """A number without a unit gets the one that stood there; one with a unit stays as typed."""
    desk.edit(key, typed)
    assert not desk.state.message_is_fault, desk.state.message
    assert written(desk, key) == stands


@pytest.mark.parametrize(
    ("key", "typed", "says"),
    [
        (CAPACITY, "5 V", "mass or a force"),
        (CAPACITY, "heavy", '"heavy"'),
        (CAPACITY, "-3 kg", "above 0"),
        (CAPACITY, "", "nothing is not a number"),
        (DECIMALS, "2.5", "whole number"),
        (DECIMALS, "99", "from 0 to 9"),
        (("channels", MASS, "unit"), "V", "cannot be converted"),
        (("channels", MASS, "fit", "pad"), "dots", '"blank", "zero"'),
        (("channels", MASS, "calm", 1, "samples"), "4", "odd"),
        (("panels", "stand", "nothing"), "1", "not a value"),
        (("channels", MASS, "true", "references", 3, "indicated"), "-90 kg", "gain"),
    ],
)
def test_a_wrong_value_changes_nothing(desk: Desk, key: tuple[str | int, ...], typed: str, says: str) -> None:
    """The sentence says what would be right; text, history and glass are as they were."""
    before = (desk.state.history, text_on(desk, "stand"))
    desk.edit(key, typed)
    assert desk.state.message_is_fault
    assert says in desk.state.message
    assert (desk.state.history, text_on(desk, "stand")) == before


@pytest.mark.parametrize(
    ("step", "key", "direction", "stands"),
    [
        (3, CAPACITY, 1, "210 kg"),
        (3, CAPACITY, -1, "190 kg"),
        (6, DECIMALS, 1, 2),
        (6, DECIMALS, -1, 0),
        (5, ("channels", MASS, "calm", 1, "samples"), 1, 7),
        (6, ("channels", MASS, "fit", "round"), 1, "half even"),
        (4, ("channels", MASS, "true", "references", 0, "used"), 1, False),
        (8, ("panels", "stand", "scan", "on_time"), -1, "5.9 ms"),
        (3, ("channels", MASS, "law", 1, "zero"), 1, "0.1 mV/V ± 0.02 mV/V"),
    ],
)
def test_nudges(desk: Desk, step: int, key: tuple[str | int, ...], direction: int, stands: object) -> None:
    """A sensible step each: the next whole number, the next choice, a tenth of the leading figure."""
    desk.open_step(step_at(step))
    desk.select(key)
    desk.nudge(direction)
    assert not desk.state.message_is_fault, desk.state.message
    assert written(desk, key) == stands


def test_a_nudge_stops_at_the_end(desk: Desk) -> None:
    """Below no decimals there is nothing; without a selection the sentence says what to do."""
    desk.open_step(Step.FIT)
    desk.select(DECIMALS)
    for _ in range(3):
        desk.nudge(-1)
    assert written(desk, DECIMALS) == 0
    assert "from 0 to 9" in desk.state.message
    desk.open_step(Step.WIRE)
    desk.nudge(1)
    assert "tab" in desk.state.message
    assert [nudge_step(number) for number in (5.0, 200.0, 0.1, 0.0, -6.0)] == [0.1, 10.0, 0.01, 0.1, 0.1]


def test_saving_keeps_comments(desk: Desk, yard: Path) -> None:
    """Only the edited line differs in the saved file, and nothing is unsaved any more."""
    before = (yard / FILE).read_text().splitlines()
    desk.edit(CAPACITY, "250 kg")
    desk.keep_work()
    assert (yard / ".lesart" / "unsaved.toml").exists()
    desk.save()
    after = (yard / FILE).read_text().splitlines()
    assert [pair for pair in zip(before, after, strict=True) if pair[0] != pair[1]] == [
        ('capacity = "200 kg"', 'capacity = "250 kg"')
    ]
    assert not desk.state.unsaved
    assert not (yard / ".lesart" / "unsaved.toml").exists()


def test_unsaved_work_survives(desk: Desk, yard: Path) -> None:
    """Killed without saving: the next desk has the work, the file does not, and undo leads to the file."""
    desk.edit(CAPACITY, "250 kg")
    desk.keep_work()
    killed(desk)
    again = open_desk(yard)
    assert written(again, CAPACITY) == "250 kg"
    assert "ctrl+s" in again.state.message
    assert again.state.unsaved
    again.undo()
    assert written(again, CAPACITY) == "200 kg"


def test_a_change_from_outside_is_taken_in(desk: Desk, yard: Path) -> None:
    """It becomes an edit that can be undone; a broken one is refused with its problem and loses nothing."""
    desk.edit(DECIMALS, "2")
    path = yard / FILE
    path.write_text(path.read_text().replace('"200 kg"', '"300 kg"'))
    assert desk.look_outside()
    assert written(desk, CAPACITY) == "300 kg"
    assert "taken in" in desk.state.message
    assert not desk.look_outside()
    desk.undo()
    assert (written(desk, CAPACITY), written(desk, DECIMALS)) == ("200 kg", 2)
    for broken in ("lesart = ", "lesart = 1\n"):
        path.write_text(broken)
        assert desk.look_outside()
        assert "not taken in" in desk.state.message
        assert not desk.look_outside()
        desk.save()
        assert check_project(path.read_text()).channels
        assert broken in [aside.read_text() for aside in (yard / ".lesart").glob("outside-*.toml")]


def test_saving_over_someone_else_keeps_theirs(desk: Desk, yard: Path) -> None:
    """A file changed since it was read is kept aside before it is replaced."""
    desk.edit(DECIMALS, "2")
    (yard / FILE).write_text("# not mine\n")
    desk.save()
    (aside,) = (yard / ".lesart").glob("outside-*.toml")
    assert aside.read_text() == "# not mine\n"
    assert aside.name in desk.state.message


def test_a_folder_that_cannot_be_written(desk: Desk, yard: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    """Saving says why in a sentence; the work is still unsaved and there."""
    desk.edit(DECIMALS, "2")

    def refuse(*_: object) -> None:
        raise StorageError("lesart.toml: it cannot be written (Read-only file system); nothing was changed.")

    monkeypatch.setattr("lesart.desk.project_file.write_whole", refuse)
    desk.save()
    assert desk.state.message_is_fault
    assert "Read-only" in desk.state.message
    assert desk.state.unsaved


def test_notes_lead_to_their_place_and_mend(desk: Desk) -> None:
    """n goes to the flicker, m mends it; the note is gone and an undo brings it back."""
    for _ in range(3):
        desk.next_note()
    note = desk.notes[desk.state.note]
    assert (note.mark, note.step, desk.state.step, desk.state.panel) == (FAULT, Step.PACE, Step.PACE, "stand")
    desk.mend()
    assert written(desk, ("panels", "stand", "scan", "on_time")) == "4.9 ms"
    assert not any("refreshed at" in note.text for note in desk.notes)
    desk.mend()
    assert "n goes to the next" in desk.state.message
    desk.undo()
    assert any("refreshed at" in note.text for note in desk.notes)
    desk.go_to_note(next(index for index, note in enumerate(desk.notes) if note.step == Step.TRUE))
    desk.mend()
    assert "somebody has to do it: take a reference" in desk.state.message


def test_the_yard_has_the_notes_it_should(yard: Path, desk: Desk) -> None:
    """Extrapolation, restless digits and flicker are in the demo; wider ranges and finer digits add theirs."""
    said = " ".join(note.text for note in inspect_project(desk.state.project, desk.bench))
    for words in (
        "extrapolated",
        "last digit changes",
        "flicker",
        "16 of 72 000 samples are marked",
        "at an end of the conv",
    ):
        assert words in said
    desk.edit(("channels", MASS, "highest"), "1200 kg")
    desk.edit(("faces", "both", "items", 1, "decimals"), "5")
    said = " ".join(note.text for note in desk.notes)
    assert "1200 kg is in the channel's range and does not fit 4 cells" in said
    assert "one raw count is" in said


def test_the_cursor(desk: Desk) -> None:
    """By samples, by a tenth of the view, never out of the capture; the view follows."""
    desk.put_cursor(100.0)
    desk.move_cursor(3)
    assert desk.state.cursor_s == pytest.approx(100.3)
    desk.move_cursor(-5)
    assert desk.state.cursor_s == pytest.approx(99.8)
    desk.move_screen(1)
    assert desk.state.cursor_s == pytest.approx(99.8 + 719.99, abs=0.01)
    desk.put_cursor(1e9)
    assert desk.state.cursor_s == pytest.approx(7199.9)
    desk.move_cursor(10)
    assert desk.state.cursor_s == pytest.approx(7199.9)
    desk.put_cursor(-5.0)
    assert desk.state.cursor_s == 0.0


def test_the_view(desk: Desk) -> None:
    """Zoom keeps its centre, ends at all and at a few samples; pan stays inside; the cursor draws it along."""
    desk.put_cursor(3600.0)
    desk.zoom(2)
    low, high = desk.view()
    assert high - low == pytest.approx(7199.9 / 4)
    assert low <= 3600.0 <= high
    desk.pan(1e6)
    assert desk.view()[1] == pytest.approx(7199.9)
    desk.put_cursor(10.0)
    assert desk.view()[0] == pytest.approx(0.0)
    desk.zoom(40)
    assert desk.view()[1] - desk.view()[0] == pytest.approx(1.6)
    desk.zoom(-60)
    assert desk.state.view is None


def test_replay() -> None:
    """Time is an argument: a second at ×10 is ten of the capture, and the end pauses."""
    replay = Replay().toggled()
    for _ in range(3):
        replay = replay.faster(1)
    assert replay.speed == 10.0
    assert replay.advanced(5.0, 1.0, 100.0) == (replay, 15.0)
    stopped, cursor = replay.advanced(95.0, 1.0, 100.0)
    assert (stopped.playing, cursor) == (False, 100.0)
    assert stopped.advanced(5.0, 1.0, 100.0) == (stopped, 5.0)
    assert Replay().faster(-99).speed == SPEEDS[0]


def test_play_starts_again_at_the_end(desk: Desk) -> None:
    """Space at the end plays from the start; a tick moves the cursor."""
    desk.put_cursor(1e9)
    desk.toggle_play()
    assert desk.state.cursor_s == 0.0
    desk.tick(0.5)
    assert desk.state.cursor_s == pytest.approx(0.5)
    desk.toggle_play()
    desk.tick(0.5)
    assert desk.state.cursor_s == pytest.approx(0.5)


def test_hand(desk: Desk) -> None:
    """A raw value or a reading drives every step to the glass; letting go returns to the capture."""
    before = text_on(desk, "stand")
    desk.take_hand("12.34 kg")
    picture = picture_of(desk)
    assert "hand" in picture.hand
    assert text_on(desk, "stand") == "- bc abdeg. abcdg"
    assert [step.value.text for step in picture.thread][4] == "12.34 kg"
    desk.take_hand("nonsense")
    assert desk.state.message_is_fault
    assert "a reading like" in desk.state.message
    desk.take_hand("")
    assert text_on(desk, "stand") == before
    desk.take_hand("500000 ct")
    desk.choose_channel(AIR)
    assert desk.state.hand is None


def test_hand_by_hand(desk: Desk) -> None:
    """Each step of a raw value, worked out on paper."""
    project = desk.state.project
    result = follow(project, project.channels[MASS], 461_708.0)
    values = [(step.step, step.kind, step.unit, step.value) for step in result.steps]
    mv_per_v = 461_708 / 2**23 * 1000 / 128
    load = mv_per_v / 2 * 200
    gain, offset = project.channels[MASS].correction.gain, project.channels[MASS].correction.offset
    assert values[:4] == [
        ("raw", "value", "ct", 461_708.0),
        ("law", "bridge converter", "mV/V", pytest.approx(mv_per_v)),
        ("law", "load cell", "kg", pytest.approx(load)),
        ("true", "line", "kg", pytest.approx(load * gain + offset)),
    ]
    assert values[-1][3] == pytest.approx(load * gain + offset)
    assert result.panel is not None
    assert result.panel.name == "stand"
    out = follow(project, project.channels[MASS], 2.0**23 - 1)
    assert out.steps[1].mark == "saturated"
    assert out.shown is not None
    assert out.shown.state == "invalid"
    with pytest.raises(RequestError, match="stand, door"):
        follow(project, project.channels[MASS], 0.0, "roof")
    air = project.channels[AIR]
    assert raw_from_text(air, "25 °C") == pytest.approx(750.0)
    assert raw_from_text(air, "750") == 750.0
    assert raw_for_reading(project.channels[MASS], 10.0) == round(raw_for_reading(project.channels[MASS], 10.0))


def test_history_is_bounded_and_branches() -> None:
    """What was undone is forgotten by a new deed; very old texts go first."""
    history = History(("a",)).done("b", "1").done("c", "2")
    undone = history.undone()
    assert undone is not None
    assert (undone[0].text, undone[1]) == ("b", "2")
    branch = undone[0].done("d", "3")
    assert branch.redone() is None
    assert branch.texts == ("a", "b", "d")
    for number in range(2000):
        history = history.done(str(number), "x")
    assert len(history.texts) == 500
    assert len(history.deeds) == 499
    assert History(("a",)).undone() is None


def test_no_capture_is_a_note_not_a_crash(yard: Path) -> None:
    """The file is gone: every step still draws, and a fault says which file."""
    (yard / "captures" / "hive-2-morning.csv").unlink()
    desk = open_desk(yard)
    for step in range(10):
        desk.open_step(step_at(step))
        assert workspace_now(desk).lines
    assert any("hive-2-morning.csv" in note.text and note.mark == FAULT for note in desk.notes)
    desk.move_cursor(1)
    desk.zoom(1)
    desk.toggle_play()
    desk.tick(1.0)
    assert picture_of(desk).channels[0].value == "no capture"


def test_results_are_kept_by_what_they_depend_on(desk: Desk) -> None:
    """Changing the field runs no chain; changing a filter leaves law and correction as they are."""
    first = desk.bench.run(desk.state.project, desk.state.chosen).blocks
    desk.edit(DECIMALS, "0")
    second = desk.bench.run(desk.state.project, desk.state.chosen).blocks
    assert all(first[step] is second[step] for step in first)
    desk.edit(("channels", MASS, "calm", 2, "samples"), "8")
    third = desk.bench.run(desk.state.project, desk.state.chosen).blocks
    assert third["true"] is first["true"]
    assert third["calm"] is not first["calm"]
    whole = desk.state.chosen.chain
    _, blocks = whole.run(whole.initial(), first["raw"])
    np.testing.assert_array_equal(third["calm"].x, blocks[-1].x)
    np.testing.assert_array_equal(third["calm"].mark, blocks[-1].mark)


def test_broken_projects_do_not_open(yard: Path, tmp_path: Path) -> None:
    """All problems at once, or the missing folder, or no channel."""
    with pytest.raises(StorageError):
        open_desk(tmp_path / "nowhere")
    (yard / FILE).write_text("lesart = 1\n")
    with pytest.raises(ProjectError, match="there is none; add one under"):
        open_desk(yard)
    (yard / FILE).write_text("lesart = 2\nname = 3\n")
    with pytest.raises(ProjectError) as caught:
        open_desk(yard)
    assert len(caught.value.problems) == 2


def test_a_picture_of_what_did_not_change_computes_nothing_anew(desk: Desk, monkeypatch: pytest.MonkeyPatch) -> None:
    """However many channels there are: what is kept is bounded by its room, not by a number that they exceed."""
    picture_of(desk)
    for name in ("read_capture", "run_links", "envelope_of", "timing_of", "raw_facts", "noise_of", "_middle"):
        monkeypatch.setattr(f"lesart.study.bench.{name}", lambda *_, name=name: pytest.fail(f"{name} ran again"))
    picture_of(desk)


@pytest.mark.long
def test_old_results_make_room(desk: Desk, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr("lesart.study.bench.ROOM_BYTES", 4 << 20)
    for number in range(15):
        desk.edit(("channels", MASS, "law", 1, "sensitivity"), f"2.{number + 1} mV/V")
        picture_of(desk, wait_for_notes=False)
    held = sum(bytes_of(result) for result in desk.bench.kept.values())
    # A few are kept however large they are: those that the next picture needs.
    assert held < 60 << 20
