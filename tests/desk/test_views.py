"""The views: what every step shows, as data, without a terminal."""

from __future__ import annotations

import subprocess
import sys

import pytest

from lesart.core.notes import REMARK
from lesart.core.step import Step, step_at
from lesart.desk.desk import Desk
from lesart.desk.picture import picture_of, workspace_now
from lesart.desk.state import LEAVES
from lesart.desk.workspace.context import WIDTH
from lesart.study.views import Picture, numeral
from tests.conftest import AIR, MASS


def words(picture: Picture) -> str:
    """All lines of the workspace as text."""
    return "\n".join("".join(span.text for span in line) for line in picture.workspace.lines)


def at(desk: Desk, step: int) -> Picture:
    """The picture of a step by its number."""
    desk.open_step(step_at(step))
    return picture_of(desk)


@pytest.mark.parametrize(
    ("step", "says"),
    [
        (0, ["hive 2 mass", "lid air", "stand", "rig/mast"]),
        (1, ["bridge amplifier", "node.p13", "┤ stand resistors 270Ω ├", "†¹", "free on node: p19"]),
        (2, ["samples 72 000", "rate 10 Hz", "jitter 0 ms", "line    1514", "2 cells where 4 belong", "delimiter ,"]),
        (3, ["signed converter on a bridge", "capacity 200 kg", "one count is 0.0000926 kg"]),
        (4, ["10.000 kg", "+0.28", "fit line", "a guess beyond"]),
        (5, ["median ", "mean ", "×0.25", "0.75 s", "last digit changes"]),
        (6, ["film strip", "overflow text", "honest decimals 1", "width 4", "the last digit changes"]),
        (7, ["field of hive 2 mass", "over, padded", "drawn at 5 Hz"]),
        (8, ["digit 4", "refresh of stand", "41 Hz", "−18 %", "† ³", "count beam, missed"]),
        (9, ["Nothing can overflow", "all 16 777 216 raw numbers", "multiplier yes"]),
    ],
)
def test_every_step_says_what_it_should(desk: Desk, step: int, says: list[str]) -> None:
    """Evidence and values of each workspace, none of its lines too long for its place."""
    picture = at(desk, step)
    for each in says:
        assert each in words(picture), words(picture)
    if step == 0:
        assert "notes † 6  ‡ " in picture.workspace.subtitle
    for line in picture.workspace.lines:
        assert sum(len(span.text) for span in line) <= WIDTH + 2, "".join(span.text for span in line)


def test_the_thread_has_nine_steps(desk: Desk) -> None:
    """Values at the cursor with their units, and the numerals of the notes that speak of them."""
    picture = at(desk, 4)
    values = {step.name: step.value.text for step in picture.thread}
    assert list(values) == ["Wire", "Raw", "Law", "True", "Calm", "Fit", "Glass", "Pace", "Pack"]
    assert values["Raw"].endswith(" ct")
    assert values["Calm"] == "42.20 kg"
    assert (values["Fit"], values["Glass"], values["Pace"]) == (" 42.2", "stand r0 c0", "41 Hz")
    stand = [
        row.numeral for row in picture.notes if row.step == "Pace" and "mast" not in row.text and "beam" not in row.text
    ]
    assert stand[0] == numeral(3)
    assert picture.thread[7].notes == " ".join(stand)


@pytest.mark.parametrize(("step", "series"), [(2, "hive 2 mass"), (3, "law"), (4, "before"), (5, "after")])
def test_charts(desk: Desk, step: int, series: str) -> None:
    """Each has its series, its units on the axes and the cursor."""
    chart = at(desk, step).workspace.chart
    assert chart is not None
    assert series in [each.name for each in chart.series]
    assert "/" in chart.y_label
    cursor = chart.cursor
    if step == Step.LAW.number:
        # In Law the reading's way stands for it: from the raw value to the curve, and across.
        way = next(each for each in chart.series if each.name == "at the cursor")
        cursor = way.x[0]
    assert cursor is not None
    assert chart.x_range[0] <= cursor <= chart.x_range[1]
    for each in chart.series:
        assert len(each.x) == len(each.y) <= 2 * 600
        assert all(chart.y_range[0] <= y <= chart.y_range[1] for y in each.y), each.name


@pytest.mark.long
def test_every_channel_at_every_step_and_leaf(desk: Desk) -> None:
    """By its capture and by hand, no line too long: windows, channels beside, and those without a law too."""
    # Every second one: stations beside each other have much the same laws.
    for place, name in enumerate(list(desk.state.project.channels)[::2]):
        desk.choose_channel(name)
        for step in (None, *Step):
            if step in (Step.WIRE, Step.GLASS, Step.PACE) and place > 0:
                continue  # of the whole project, whichever channel is chosen
            for leaf in LEAVES.get(step, ("",)):
                desk.open_step(step)
                desk.choose_leaf(leaf)
                picture = picture_of(desk)
                assert picture.workspace.step is step
                long = [line for line in picture.workspace.lines if sum(len(span.text) for span in line) > WIDTH + 2]
                assert not long, (name, step, leaf, ["".join(span.text for span in line) for line in long])
        desk.take_hand("1")
        assert picture_of(desk).hand, name
        desk.take_hand("")


def test_marks_are_on_the_raw_chart(desk: Desk) -> None:
    """Missing, saturated and out-of-range samples each with their times; absurd ones stand at the edge, told so."""
    chart = at(desk, 2).workspace.chart
    assert chart is not None
    assert {word: len(times) for word, times in chart.bands} == {"missing": 16, "saturated": 9, "range": 2}
    assert chart.series[1].name == "off the scale"


def test_values_can_be_selected_in_reading_order(desk: Desk) -> None:
    """The first value is selected to begin with; what was selected in a step is remembered."""
    picture = at(desk, 3)
    keys = [span.edit.key for line in picture.workspace.lines for span in line if span.edit is not None]
    assert picture.workspace.selected == keys[0]
    assert len(set(keys)) == len(keys)
    desk.select(keys[5])
    at(desk, 5)
    assert at(desk, 3).workspace.selected == keys[5]


def test_fit_follows_the_panel_brought_forward(desk: Desk) -> None:
    """On the door the same reading has eight cells, its codes are characters and its unit stands behind it."""
    assert at(desk, 6).workspace.cells is not None
    desk.next_panel()
    picture = picture_of(desk)
    assert picture.glass[0].name == "door"
    assert "8 cells on door" in picture.workspace.subtitle
    cells = picture.workspace.cells
    assert cells is not None
    assert [caption[0].text for caption in cells.captions][-2:] == ["0x6B", "0x67"]


def test_a_bad_sample_is_not_a_number(desk: Desk) -> None:
    """Without the hold, a rejected sample shows its mark in the margin and the invalid text on the glass."""
    desk.edit(("channels", MASS, "calm", 3, "timeout"), "0.01 s")
    chart = at(desk, 2).workspace.chart
    assert chart is not None
    (missing,) = [times for word, times in chart.bands if word == "missing"]
    desk.put_cursor(missing[3])
    picture = picture_of(desk)
    assert picture.channels[0].value == "missing"
    assert picture.thread[5].value.text == "===="
    assert picture.thread[1].value.text == "missing"


def test_the_other_channel(desk: Desk) -> None:
    """A linear law in °C, no references, and a field in characters."""
    desk.move_channel(1)
    assert desk.state.channel == AIR
    assert "straight line" in words(at(desk, 3))
    assert "this reading is unverified" in words(at(desk, 4))
    assert workspace_now(desk).chart is None
    desk.move_channel(-1)
    assert desk.state.channel == MASS


def test_nothing_heavy_before_the_first_picture() -> None:
    """The screen's modules load no numerics, no plotting, no comment-keeping TOML: the desk's thread brings them."""
    code = "import lesart.tui.app, sys; print(sorted({'numpy', 'tomlkit', 'matplotlib', 'scipy'} & set(sys.modules)))"
    result = subprocess.run([sys.executable, "-c", code], capture_output=True, text=True, check=True)
    assert result.stdout.strip() == "[]"


def test_remarks_are_folded_behind_what_is_wrong(desk: Desk) -> None:
    """Into a line with their number for each step; N unfolds them, so does a note that is chosen among them."""
    rows = picture_of(desk).notes
    remarks = [note for note in desk.notes if note.mark == REMARK]
    assert [row.mark for row in rows if row.mark == REMARK] == [REMARK]
    assert len(rows) == len(desk.notes) - len(remarks) + 1
    assert rows[-1].text.startswith(f"{len(remarks)} remarks: Wire 1, Raw ")
    assert sum(int(part.split()[-1].rstrip(".")) for part in rows[-1].text.split(": ")[1].split(", ")) == len(remarks)
    desk.fold_remarks()
    assert len(picture_of(desk).notes) == len(desk.notes)
    desk.fold_remarks()
    desk.go_to_note(len(desk.notes) - 1)
    assert picture_of(desk).notes[-1].chosen


def test_notes_of_the_open_step_only(desk: Desk) -> None:
    """F lists them, n goes through them alone, and says so where there are none."""
    desk.open_step(Step.FIT)
    desk.filter_notes()
    wanted = [index for index, note in enumerate(desk.notes) if note.step == Step.FIT]
    picture = picture_of(desk)
    assert picture.notes_of == "Fit"
    assert [row.index for row in picture.notes] == wanted
    seen = []
    for _ in range(len(wanted) + 1):
        desk.next_note()
        seen.append(desk.state.note)
    assert seen == [*wanted, wanted[0]]
    desk.open_step(Step.CALM)
    desk.next_note()
    assert desk.state.message == "There are no notes on Calm; F lists those of all steps."
    desk.filter_notes()
    assert picture_of(desk).notes_of == ""
