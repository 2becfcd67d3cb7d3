"""How sure a reading is, at the desk: its budget, its decimals, and what other channels bring along."""

from __future__ import annotations

import math
import re
from pathlib import Path

import numpy as np
import pytest

from lesart.core.notes import DOUBT
from lesart.core.step import Step
from lesart.desk.desk import Desk
from lesart.desk.entries.recipes.kinds.signals import SIGNALS
from lesart.desk.picture import workspace_now
from lesart.study.sureness import sureness_in_the_middle
from lesart.study.views import numeral
from tests.conftest import AIR
from tests.desk.test_recipes import READS, opened


def words(desk: Desk) -> str:
    """The lines of the workspace."""
    lines = workspace_now(desk).lines
    return "\n".join("".join(span.text for span in line) for line in lines)


def test_how_sure_the_battery_is(desk: Desk) -> None:
    """The slope's 1.6 % and the reference's 1 % are most of it, in that order; one decimal is honest, three are
    shown."""
    desk.open_step(Step.LAW)
    desk.choose_channel("battery")
    desk.choose_leaf("how sure")
    shown = words(desk)
    assert re.search(r"█ +7\d %  slope  5.7 ± 1.6 %", shown)
    assert re.search(r"2\d %  reference  3.3 V ± 1 %", shown)
    assert "resolved 1   certain 0   shown 3" in shown
    assert "simulated 1000 times" in shown
    assert "one raw count is 0.00459 V over the whole range" in shown
    middle = sureness_in_the_middle(desk.state.project, desk.state.chosen, desk.bench)
    assert middle is not None
    volts = middle.budget.reading
    assert middle.off == pytest.approx(2 * volts * math.hypot(0.016, 0.01) / math.sqrt(3), rel=1e-6)


def test_what_another_channel_is_unsure_of_is_carried(desk: Desk) -> None:
    """The tank's air is given a tolerance by giving the yard's air a law with one: half a degree is 0.09 % of sound."""
    desk.choose_channel("yard air")
    desk.open_step(Step.LAW)
    desk.add("linear °C")
    desk.edit(("channels", "yard air", "law", 0, "output"), "0 °C ± 0.5 °C")
    tank = desk.state.project.channels["syrup below"]
    middle = sureness_in_the_middle(desk.state.project, tank, desk.bench)
    assert middle is not None
    share = next(share for share in middle.budget.shares if share.name == "yard air")
    air = desk.bench.readings_at(desk.state.project, ["yard air"], 300.0)["yard air"]
    assert abs(share.half_width) == pytest.approx(middle.budget.reading * 0.25 / (air + 273.15), rel=0.02)


def test_a_reading_surer_than_its_decimals(desk: Desk) -> None:
    """The lid's probe is good to a degree, and its field shows tenths."""
    note = next(note for note in desk.notes if "uncertainty" in note.text and note.channel == AIR)
    assert note.text.startswith(
        "lid air on door and lid: the last digit shows 0.1 °C, but the uncertainty is ± 1.2 °C, "
    )
    assert note.text.endswith('mostly from "point, output".')
    assert (note.mark, note.limit) == (DOUBT, pytest.approx(0.1))
    # ± 1 °C, and 0.5 % of the degrees above zero: twice the root of both, or both at their worst where that is less.
    middle = sureness_in_the_middle(desk.state.project, desk.state.project.channels[AIR], desk.bench)
    assert middle is not None
    celsius = middle.budget.reading
    root, worst = 2 * math.hypot(1.0, 0.005 * celsius) / math.sqrt(3), 1.0 + 0.005 * celsius
    assert abs(root - worst) > 1e-3
    assert note.figure == pytest.approx(min(root, worst), rel=1e-4)
    # It is said for the median reading, and not for that in the middle of the time.
    block = desk.bench.run(desk.state.project, desk.state.project.channels[AIR]).blocks[Step.TRUE]
    assert celsius == pytest.approx(float(np.median(block.x[block.usable])), abs=0.02)


def test_a_count_is_not_the_same_over_the_range(desk: Desk) -> None:
    """Of a thermistor on a converter it grows towards both ends: at 25 °C 4·T² ÷ (β·4096), coarser at −20 and 60 °C."""
    text = desk.state.history.text.replace(
        'column = "brood_mv"\npart = "brood"\nraw_unit = "mV"',
        ('column = "brood_mv"\npart = "brood"\nraw_unit = "ct"'),
        1,
    )
    text = text.replace(
        '[[channels."brood probe".law]]\nkind = "half of a divider"',
        '[[channels."brood probe".law]]\nkind = "converter"\nreference = "3.3 V ± 1 %"\n\n'
        '[[channels."brood probe".law]]\nkind = "half of a divider"',
        1,
    )
    (desk.folder / "lesart.toml").write_text(text)
    assert desk.look_outside()
    desk.open_step(Step.LAW)
    desk.choose_channel("brood probe")
    desk.take_hand("2048 ct")
    desk.choose_leaf("how sure")
    found = re.search(r"one raw count is (\S+) °C here, over the range (\S+) °C to (\S+) °C", words(desk))
    assert found is not None, words(desk)
    here, least, most = map(float, found.groups())
    assert here == pytest.approx(4 * 298.15**2 / (3950 * 4096), rel=2e-3)
    ohm = 10e3 * math.exp(3950 * (1 / 253.15 - 1 / 298.15))
    cold = 253.15**2 * (ohm + 10e3) ** 2 / (3950 * ohm * 10e3 * 4096)
    assert least <= here <= most
    assert most == pytest.approx(cold, rel=0.02)


def test_the_leaf_how_sure_carries_the_notes_that_it_shows_the_reason_of(desk: Desk) -> None:
    """By what the note is, and not by a word of its sentence: every such note of a channel, and no other."""
    tried = 0
    for name in desk.state.project.channels:
        desk.choose_channel(name)
        desk.open_step(Step.LAW)
        (leaf,) = (each for each in workspace_now(desk).leaves if each.name == "how sure")
        about = [
            number for number, note in enumerate(desk.notes, 1) if note.channel == name and "uncertain" in note.text
        ]
        assert leaf.notes == " ".join(map(numeral, about)), name
        tried += len(about)
    assert tried > 0


@pytest.mark.parametrize("name", SIGNALS)
def test_a_number_that_may_be_nothing_at_all_ends_nothing(name: str, tmp_path: Path) -> None:
    """A tolerance of the whole number: what is divided by may be 0, and what must be above 0 may not."""
    desk = opened(tmp_path, READS[name][0])
    desk.add(SIGNALS[name].begins)
    channel = desk.state.chosen
    asked = [
        ((*channel.key("law"), index, parameter.name), str(entry.written.get(parameter.name, parameter.default)))
        for index, entry in enumerate(channel.laws)
        for parameter in entry.kind.parameters
        if parameter.toleranced and "±" not in str(entry.written.get(parameter.name, parameter.default))
    ]
    for key, number in asked:
        desk.edit(key, f"{number} ± 100 %")
        if desk.state.message_is_fault:
            continue  # of 0 there is no share
        sure = sureness_in_the_middle(desk.state.project, desk.state.chosen, desk.bench)
        assert sure is None or not sure.budget.likely < 0
        desk.undo()
    assert asked or not any(each.toleranced for entry in channel.laws for each in entry.kind.parameters)
    desk.close()
