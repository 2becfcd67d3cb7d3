"""What a file leaves open is said where the reading is looked at, and a key settles it."""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path

from lesart.core.notes import DOUBT, REMARK
from lesart.desk.opening import open_desk
from lesart.desk.picture import picture_of
from lesart.project.captures.traces.vcd_write import vcd_text
from lesart.project.check import check_project
from lesart.project.new.make import make_project
from lesart.study.assumptions import inspect_assumed
from tests.core.raw.traces import by_length


def written(tmp_path: Path, *lines: str) -> Path:
    path = tmp_path / "log.csv"
    path.write_text("\n".join(lines) + "\n")
    return make_project(path, tmp_path / "made").folder


def test_an_assumed_rate_is_a_doubt_until_a_key_takes_it(tmp_path: Path) -> None:
    """It stands with the column that looks like a time, in the title of every screen, and goes when it is settled."""
    folder = written(tmp_path, "Datum,mass", *(f"2031w{k},{40 + k / 4}" for k in range(20)))
    desk = open_desk(folder)
    note = next(note for note in desk.notes if "is assumed" in note.text)
    assert note.mark == DOUBT
    assert (note.figure, note.unit, note.place) == (1.0, "Hz", ("sources", "capture", "rate"))
    assert '"Datum" looks like a time, but "2031w0" is not in a form that Lesart knows' in note.text
    assert "1 Hz assumed" in picture_of(desk).rate
    desk.state = replace(desk.state, note=desk.notes.index(note))
    desk.mend()
    assert not any("is assumed" in each.text for each in desk.notes)
    assert "assumed" not in picture_of(desk).rate
    desk.close()


def test_a_form_that_might_be_another_is_remarked(tmp_path: Path) -> None:
    folder = written(tmp_path, "t,mass", "03/04/2031 10:00,1", "03/05/2031 10:00,2")
    desk = open_desk(folder)
    texts = [note.text for note in desk.notes if note.mark == REMARK]
    assert 'capture: time as "day month year" is assumed.' in texts
    desk.close()


def test_a_clock_that_was_set_is_remarked(tmp_path: Path) -> None:
    """Samples every ten minutes through the night in which summer time ends are a steady row of them."""
    hours = [f"2031-10-26 {h:02}:{m:02}" for h in (0, 1, 2, 2, 3) for m in range(0, 60, 10)]
    folder = written(tmp_path, "t,mass", *(f"{each},{k}" for k, each in enumerate(hours)))
    desk = open_desk(folder)
    said = [note.text for note in desk.notes if "clock was set" in note.text]
    assert said == [
        "mass: at row 19 the clock was set back by an hour, as in summer time; the times go on as if it had not been."
    ]
    assert not any("has a time before" in note.text for note in desk.notes)
    desk.close()


def test_an_assumed_field_of_frames_is_named_by_its_own_name(tmp_path: Path) -> None:
    """Two fields of one sensor have two remarks, a choice stands in quotes, and one key takes all of a field."""
    frames = [bytes((2, 100 + k, 0, 200 + k, (2 + 100 + k + 200 + k) & 0xFF)) for k in range(12)]
    (tmp_path / "air.vcd").write_text(vcd_text({"q": by_length(frames).edges()}, 1e-8, "bench"))
    made = make_project(tmp_path / "air.vcd", tmp_path / "made")
    project = check_project((made.folder / "lesart.toml").read_text(encoding="utf-8"))
    assert [note.text for note in inspect_assumed(project)] == [
        "sensor, value 1: scale 0.1 is assumed.",
        'sensor, value 2: scale 0.1 and sign "sign bit" are assumed.',
    ]
