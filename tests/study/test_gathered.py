"""Notes of one thing at several places become one note with its places."""

from __future__ import annotations

from datetime import date

from lesart.core.notes import DOUBT, FAULT, REMARK, Mend, Note
from lesart.core.step import Step
from lesart.desk.desk import Desk
from lesart.study.gathered import gathered, listed


def restless(channel: str, panel: str, times: int = 28) -> Note:
    return Note(
        DOUBT,
        Step.FIT,
        channel,
        f"{channel} on {panel}: the last digit changes {times} times a minute.",
        figure=times,
        remedy="show 0 decimals",
        mend=(Mend(("channels", channel, "fit", "decimals"), 0),),
        panel=panel,
    )


def marked(channel: str, mark: str = REMARK) -> Note:
    return Note(mark, Step.RAW, channel, f"{channel}: 4 of 120 samples are marked.")


def test_a_field_on_three_panels() -> None:
    """One note, one edit, three places."""
    (note,) = gathered([restless("mass", name) for name in ("stand", "door", "lid")])
    assert note.text == "mass on stand, door and lid: the last digit changes 28 times a minute."
    assert note.mend == (Mend(("channels", "mass", "fit", "decimals"), 0),)
    assert note.panels == ("stand", "door", "lid")
    assert note.channels == ("mass",)
    assert [each.text for each in note.of] == [restless("mass", name).text for name in ("stand", "door", "lid")]


def test_other_figures_stay_apart() -> None:
    """What is not the same is not said at once."""
    notes = [restless("mass", "stand"), restless("mass", "door", 30), restless("air", "lid", 31), marked("mass")]
    assert gathered(notes) == notes


def test_channels_of_one_source() -> None:
    """Two and three are named, more stand in brackets and lead nowhere."""
    two = gathered([marked("a"), marked("b")])
    assert [note.text for note in two] == ["a and b: 4 of 120 samples are marked."]
    assert two[0].channels == ("a", "b")
    (five,) = gathered([marked(name) for name in "abcde"])
    assert five.text == "5 channels (a, b, c, d, e): 4 of 120 samples are marked."
    assert five.channels == ()
    assert len(gathered([marked("a"), marked("b", FAULT)])) == 2


def test_two_fields_of_one_panel() -> None:
    """The same sentence once."""
    (note,) = gathered([restless("air", "door"), restless("air", "door")])
    assert note.text == restless("air", "door").text


def test_two_channels_each_on_the_same_panels() -> None:
    """First the panels, then the channels."""
    (note,) = gathered([restless(name, panel) for name in ("x", "y") for panel in ("mast", "lid")])
    assert note.text == "x and y on mast and lid: the last digit changes 28 times a minute."
    assert len(note.mend) == 2


def test_a_list_as_one_says_it() -> None:
    """With an and before the last."""
    assert listed(["a"]) == "a"
    assert listed(["a", "b"]) == "a and b"
    assert listed(["a", "b", "c"]) == "a, b and c"


def test_the_yard_says_each_thing_once(desk: Desk) -> None:
    """No two of its notes differ in their channel or panel only, and none is lost."""
    from lesart.study.inspect import inspect_project

    notes = inspect_project(desk.state.project, desk.bench, date.today())

    def bare(note: Note) -> str:
        return note.text.partition(": ")[2]

    said = [(note.mark, note.step, bare(note), note.remedy) for note in notes if note.channel]
    assert len(said) == len(set(said))
    assert len(notes) <= 32
