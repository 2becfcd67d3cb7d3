"""Variants: made, changed alone, compared, adopted, dropped; none ever changes another."""

from __future__ import annotations

import tomllib
from pathlib import Path
from typing import Any

import numpy as np
import pytest

from lesart.core.errors import ProjectError
from lesart.core.step import Step
from lesart.desk.deeds.variants import adopt_variant, drop_variant, new_variant, next_variant, rename_variant
from lesart.desk.desk import Desk
from lesart.desk.picture import context_of, picture_of, workspace_now
from lesart.project.check import check_project
from lesart.project.toml_lines import renamed_tables
from tests.conftest import MASS


def words(desk: Desk) -> str:
    """The lines of the workspace."""
    lines = workspace_now(desk).lines
    return "\n".join("".join(span.text for span in line) for line in lines)


def table(desk: Desk) -> dict[str, Any]:
    """The chosen channel's table."""
    found = tomllib.loads(desk.state.history.text)["channels"][desk.state.channel]
    assert isinstance(found, dict)
    return found


def calm_of(desk: Desk, variant: str = "") -> bytes:
    """The whole capture as a way of reading the channel has it, to the bit."""
    channel = desk.state.project.channels[MASS]
    way = next((each for each in channel.variants if each.variant == variant), channel)
    return desk.bench.run(desk.state.project, way).calm.x.tobytes()


def test_a_new_variant_is_as_the_one_it_was_made_from(desk: Desk) -> None:
    """And is looked at; nothing is copied until something is changed."""
    desk.open_step(Step.CALM)
    before = calm_of(desk)
    new_variant(desk)
    assert (desk.state.variant, desk.state.chosen.variant) == ("β", "β")
    assert table(desk)["variants"] == {"β": {}}
    assert calm_of(desk, "β") == before
    assert "median 5" in desk.state.chosen.says
    desk.turn(next_variant)
    assert desk.state.chosen.variant == ""
    desk.turn(next_variant)
    assert desk.state.chosen.variant == "β"


def test_a_change_in_one_is_in_it_alone(desk: Desk) -> None:
    """Values, entries, moves, tares and alarms; the channel stays to the bit, its glass follows what is looked at."""
    desk.open_step(Step.CALM)
    desk.put_cursor(1400.0)
    alpha, glass = calm_of(desk), context_of(desk).glasses
    own = dict(table(desk))
    new_variant(desk)
    desk.edit(("channels", MASS, "variants", "β", "calm", 2, "samples"), "64")
    assert not desk.state.message_is_fault, desk.state.message
    assert [entry["kind"] for entry in table(desk)["variants"]["β"]["calm"]] == [
        "reject range",
        "median",
        "mean",
        "hold",
    ]
    assert "law" not in table(desk)["variants"]["β"]
    assert calm_of(desk) == alpha
    assert calm_of(desk, "β") != alpha
    desk.add("deadband")
    assert desk.state.chosen.says.endswith("deadband 0.1 kg")
    desk.select(("channels", MASS, "variants", "β", "calm", 4, "width"))
    desk.move_entry(-1)
    assert [entry["kind"] for entry in table(desk)["variants"]["β"]["calm"]][3:] == ["deadband", "hold"]
    desk.open_step(Step.TRUE)
    desk.tare()
    assert table(desk)["variants"]["β"]["true"]["tare"].startswith("42.")
    assert len(table(desk)["variants"]["β"]["true"]["references"]) == 4
    assert context_of(desk).glasses != glass
    desk.open_step(Step.LAW)
    desk.edit(("channels", MASS, "variants", "β", "law", 1, "capacity"), "210 kg")
    assert table(desk)["variants"]["β"]["law"][1]["capacity"] == "210 kg"
    assert {key: value for key, value in table(desk).items() if key != "variants"} == own
    assert calm_of(desk) == alpha
    desk.turn(next_variant)
    assert context_of(desk).glasses == glass
    check_project(desk.state.history.text)


def test_entries_of_its_own_kind_are_told_what_that_kind_is(desk: Desk) -> None:
    """A filter where its channel has another: its values stand beside it and can be changed. None at all is none, and
    not those of the channel."""
    for place, name in ((0, MASS), (0, "brood probe")):
        desk.choose_channel(name)
        desk.open_step(Step.CALM)
        new_variant(desk)
        comments = [line for line in desk.state.history.text.splitlines() if "#" in line]
        calm = desk.state.chosen.key("calm")
        while desk.state.chosen.filters:
            desk.select((*calm, 0, desk.state.chosen.filters[0].kind.parameters[0].name))
            desk.take_away()
            assert not desk.state.message_is_fault, desk.state.message
        assert desk.state.chosen.says == "as measured"
        assert desk.state.project.channels[name].filters
        desk.add("median 5")
        desk.add("highest of the day")
        assert [line for line in desk.state.history.text.splitlines() if "#" in line] == comments
        shown = ["".join(span.text for span in line) for line in picture_of(desk).workspace.lines]
        assert any("median               samples 5" in line for line in shown), shown
        assert any("anew every 24 h" in line for line in shown), shown
        desk.edit((*calm, place, "samples"), "9")
        desk.edit((*calm, place + 1, "every"), "12 h")
        assert desk.state.chosen.says == "median 9, highest of 12 h"


def test_a_variant_of_a_variant(desk: Desk) -> None:
    """Made from the one looked at, with what that has of its own; then apart."""
    desk.open_step(Step.CALM)
    new_variant(desk)
    desk.edit(("channels", MASS, "variants", "β", "calm", 2, "samples"), "64")
    new_variant(desk)
    assert desk.state.variant == "γ"
    assert calm_of(desk, "γ") == calm_of(desk, "β")
    desk.edit(("channels", MASS, "variants", "γ", "calm", 2, "samples"), "2")
    assert table(desk)["variants"]["β"]["calm"][2]["samples"] == 64
    assert table(desk)["variants"]["γ"]["calm"][2]["samples"] == 2


def test_adopt_and_drop(desk: Desk) -> None:
    """What is adopted becomes the channel and is not a variant any more; undo brings both back; α cannot be dropped."""
    desk.open_step(Step.CALM)
    before = desk.state.history.text
    adopt_variant(desk)
    assert "is the channel itself" in desk.state.message
    drop_variant(desk)
    assert "cannot be dropped" in desk.state.message
    new_variant(desk)
    desk.edit(("channels", MASS, "variants", "β", "calm", 2, "samples"), "64")
    beta = calm_of(desk, "β")
    adopt_variant(desk)
    assert not desk.state.message_is_fault, desk.state.message
    assert desk.state.variant == ""
    assert "variants" not in table(desk)
    assert calm_of(desk) == beta
    assert len(table(desk)["true"]["references"]) == 4
    for _ in range(3):
        desk.undo()
    assert desk.state.history.text == before
    new_variant(desk)
    drop_variant(desk)
    assert "dropped: hive 2 mass β" in desk.state.message
    assert "variants" not in table(desk)
    desk.turn(next_variant)
    assert "has no variant yet; V makes one" in desk.state.message


def test_they_stand_beside_each_other(desk: Desk) -> None:
    """In the margin with their readings; on their leaf with figures, the cells and the traces of each."""
    desk.open_step(Step.CALM)
    new_variant(desk)
    desk.edit(("channels", MASS, "variants", "β", "calm", 2, "samples"), "128")
    desk.choose_leaf("variants")
    shown = words(desk)
    alpha = next(line for line in shown.splitlines() if line.startswith("   α"))
    beta = next(line for line in shown.splitlines() if line.startswith(" ▌ β"))
    # Sixteen and 128 samples at 10 Hz behind a median of five: 0.75 + 0.2 s and 6.35 + 0.2 s.
    assert "0.95 s" in alpha
    assert "6.5 s" in beta or "6.6 s" in beta
    noise = [float(line.split()[2 if "▌" in line else 1]) for line in (alpha, beta)]
    assert noise[1] < noise[0] / 2
    assert shown.count("[") == 0
    picture = picture_of(desk)
    margin = "\n".join("".join(span.text for span in line) for line in picture.variants)
    assert "○ α" in margin
    assert "● β" in margin
    assert margin.count("kg") == 2
    assert (picture.channel, picture.variant) == ("hive 2 mass", "β")
    chart = picture.workspace.chart
    assert chart is not None
    assert [each.name for each in chart.series] == ["α", "β"]


@pytest.mark.parametrize(
    ("added", "says"),
    [
        ('[channels."hive 2 mass".variants."β"]\nunit = "g"\n', 'variants.β.unit = "g"; this key is not known here'),
        ('[[channels."hive 2 mass".variants."β".calm]]\nkind = "median"\nsamples = 4\n', "variants.β.calm[0]"),
        (
            '[[channels."hive 2 mass".variants."β".law]]\nkind = "linear"\ninput = "0 ct"\noutput = "0 V"\nslope = "1 V/ct"\n',
            "variants.β: law 1 gives V, but the channel's unit takes kg",
        ),
        ('[channels."hive 2 mass"]\nvariants = 3\n', ""),
    ],
)
def test_a_wrong_variant_is_told_at_its_place(yard: Path, added: str, says: str) -> None:
    """With the value and what would be right."""
    text = (yard / "lesart.toml").read_text(encoding="utf-8")
    with pytest.raises(ProjectError) as caught:
        check_project(f"{text}\n{added}")
    assert says in str(caught.value)


def test_edits_outside_variants_cost_nothing_more(desk: Desk) -> None:
    """The channel's own sections are edited where they are."""
    desk.open_step(Step.CALM)
    new_variant(desk)
    desk.turn(next_variant)
    desk.edit(("channels", MASS, "calm", 2, "samples"), "8")
    assert table(desk)["calm"][2]["samples"] == 8
    assert table(desk)["variants"] == {"β": {}}
    # A variant that states no filters of its own follows its channel's.
    assert np.frombuffer(calm_of(desk, "β")).tobytes() == calm_of(desk)


def test_a_variant_may_have_a_field_of_its_own_down_to_the_glass(desk: Desk) -> None:
    """What the item on the face states itself stays; what the channel states is the variant's where it says so."""
    desk.put_cursor(1400.0)
    desk.open_step(Step.FIT)
    before = {glass.name: glass.frame for glass in context_of(desk).glasses}
    new_variant(desk)
    desk.edit(("channels", MASS, "variants", "β", "fit", "sign"), "always")
    assert not desk.state.message_is_fault, desk.state.message
    assert table(desk)["variants"]["β"]["fit"]["sign"] == "always"
    assert table(desk)["fit"].get("sign", "minus only") == "minus only"
    after = {glass.name: glass.frame for glass in context_of(desk).glasses}
    assert after["stand"] != before["stand"] or after["door"] != before["door"]
    assert "+" in picture_of(desk).thread[5].value.text
    desk.open_step(Step.CALM)
    desk.choose_leaf("variants")
    cells = words(desk).split("the field at the cursor")[1].splitlines()
    assert "+" not in next(line for line in cells if "α" in line)[:24]
    assert "+" in next(line for line in cells if "β" in line)[:24]
    desk.turn(next_variant)
    assert {glass.name: glass.frame for glass in context_of(desk).glasses} == before


def test_a_variant_is_renamed_with_all_its_tables_and_their_comments(desk: Desk) -> None:
    """What a person wrote beside a header stays; a name that is taken is refused and nothing changes."""
    desk.open_step(Step.CALM)
    new_variant(desk)
    desk.edit(("channels", MASS, "variants", "β", "calm", 2, "samples"), "64")
    new_variant(desk)
    assert desk.state.variant == "γ"
    rename_variant(desk, "β")
    assert desk.state.message_is_fault
    assert "β" in desk.state.message
    rename_variant(desk, " slow ")
    assert desk.state.chosen.variant == "slow"
    assert list(table(desk)["variants"]) == ["β", "slow"]
    assert [entry.get("samples") for entry in table(desk)["variants"]["slow"]["calm"]][2] == 64
    desk.undo()
    assert list(table(desk)["variants"]) == ["β", "γ"]


def test_only_headers_change_when_a_table_is_renamed() -> None:
    """In whatever way they are written; what stands behind them stays."""
    text = "[a.b] # mine ]\nx = 1\n\n[[ a . b . list ]]   # [old]\ny = 'b'\n[a.'b'.c]\nz = 2\n[a.bc]\n"
    renamed = renamed_tables(text, ("a", "b"), "new one")
    assert renamed is not None
    assert tomllib.loads(renamed) == {"a": {"new one": {"x": 1, "list": [{"y": "b"}], "c": {"z": 2}}, "bc": {}}}
    assert renamed.splitlines()[0].endswith("# mine ]")
    assert renamed.splitlines()[3].endswith("# [old]")
    assert renamed_tables("a = {b = 1}", ("a", "b"), "c") is None


def test_what_is_wrong_with_a_variant_alone_is_said_of_it(desk: Desk) -> None:
    """And leads to it; what holds for the channel too is said once."""
    alpha = [note.text for note in desk.notes]
    desk.open_step(Step.CALM)
    new_variant(desk)
    assert [note.text for note in desk.notes] == alpha
    assert all("β" in note.ways for note in desk.notes if note.channel == MASS)
    desk.edit(("channels", MASS, "variants", "β", "true", "kind"), "none")
    desk.turn(next_variant)
    own = [note for note in desk.notes if note.ways == ("β",)]
    assert own
    assert all(note.text.startswith(f"{MASS} β") for note in own)
    desk.go_to_note(desk.notes.index(own[0]))
    assert desk.state.chosen.variant == "β"
    gone = [note for note in desk.notes if note.channel == MASS and note.ways == ("",) and note.step == Step.TRUE]
    assert gone, "what holds for the channel alone is no longer said of the variant"
