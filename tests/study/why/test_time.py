"""A wrong time, and nothing at all: the loop played again, and the checks of the hook-up in their order."""

from __future__ import annotations

from pathlib import Path

import pytest

from lesart.core.errors import RequestError
from lesart.project.check import check_project
from lesart.project.folder.store import FILE, read_text
from lesart.project.model import Project
from lesart.project.text import Editor
from lesart.study.bench import Bench
from lesart.study.loop_verdicts import paced
from lesart.study.why.nothing import part_of, path_of, symptom
from lesart.study.why.of_time import SYMPTOMS, why_time


@pytest.fixture(scope="module")
def text(yard_once: Path) -> str:
    return read_text(yard_once / FILE)


@pytest.fixture(scope="module")
def yard(text: str) -> Project:
    return check_project(text)


@pytest.mark.long
def test_what_is_said_to_mend_mends(yard: Project, text: str, yard_once: Path) -> None:
    """Each change that is named is written into the file, and the loop played anew: the figure is the one that was told,
    and within its limit."""
    bench, tried = Bench(yard_once), 0
    for each in ("flickers",):
        for found in why_time(yard, bench, text, each):
            assert not found.verdict.ok
            for mend in found.mends[:2]:
                changed = text
                for key, value in mend.suspect.edits:
                    changed = Editor().with_value(changed, key, value)
                again = paced(check_project(changed), Bench(yard_once))
                now = next(
                    one for one in again.verdicts if (one.name, one.of) == (found.verdict.name, found.verdict.of)
                )
                assert now.ok
                assert now.figure == pytest.approx(mend.figure)
                tried += 1
    assert tried >= 2
    assert set(SYMPTOMS) == {"flickers", "lags", "missed", "freezes"}


@pytest.mark.long
def test_the_causes_are_named(yard: Project, text: str, yard_once: Path) -> None:
    """The filter that makes a reading late."""
    bench = Bench(yard_once)
    lags = why_time(yard, bench, text, "lags")
    assert [each.suspect.says for each in lags[0].causes] == ["the filter mean 16 of stand x"]
    assert why_time(yard, bench, text, "freezes") == []
    with pytest.raises(RequestError, match="it is one of flickers, lags, missed, freezes"):
        why_time(yard, bench, text, "hums")


@pytest.mark.long
def test_a_task_that_holds_all_up_is_the_cause(text: str, yard_once: Path) -> None:
    """A task of half a second in the loop: others are left out, and without it none is."""
    slow = text + '\n[loop.tasks."write card"]\ndoes = "work"\nperiod = "1 s"\nshortest = "700 ms"\n'
    found = why_time(check_project(slow), Bench(yard_once), slow, "freezes")
    assert found
    for each in found:
        assert "write card, which takes 700 ms" in [cause.suspect.says for cause in each.causes]


def test_checks_of_a_part_come_from_its_rails_to_what_it_does(yard: Project) -> None:
    """Those of other parts are left out; what was measured is judged."""
    path = path_of(yard, "air")
    keys = [each.check.key for each in path.stops]
    assert keys[0] == "air print"
    assert keys[-1] == "air moves"
    assert keys.index("node.3V3 volts") < keys.index("air.supply volts")
    assert not {"door.supply volts", "gate print", "stand.a lit", "amp moves"} & set(keys)
    assert [each.check.key for each in path.stops if each.judged is not None] == [
        "node.3V3 short", "ground", "node.3V3 volts",
    ]  # fmt: skip
    assert path.wrong is None
    assert path.next is not None
    assert path.next.check.key == "air print"


def test_a_wrong_measure_explains_the_silence(text: str) -> None:
    """And nothing behind it is asked for."""
    changed = Editor().with_value(text, ("wire", "measured", "air.supply volts"), "0.4 V")
    path = path_of(check_project(changed), "air")
    assert path.wrong is not None
    assert path.wrong.check.key == "air.supply volts"
    assert path.wrong.judged is not None
    assert path.wrong.judged.says.startswith("A broken connection")
    assert path.next is None


def test_every_part_has_its_path(yard: Project) -> None:
    """None of them speaks of a part that has nothing to do with it."""
    for part in yard.hookup.parts:
        stops = path_of(yard, part).stops
        fed = {each.check.part for each in stops} - {part, "", "node", "pack"}
        assert len(fed) <= 1, (part, fed)  # a sensor that hangs on its pin
    with pytest.raises(RequestError, match='part "moon" is not in the hook-up'):
        path_of(yard, "moon")
    with pytest.raises(RequestError, match="battery: which part it is read from is not said"):
        part_of(yard.channels["battery"])


@pytest.mark.parametrize(("rows", "said"), [
    ("", "no row follows"), ("4095\n" * 20, "it says 4095 ct all the time; the converter is at its upper end"),
    ("7\n" * 20, "it says 7 ct all the time."), ("y\ny\ny\n5\n", "are no numbers"),
    ("5\n9\n7\n", "it does say something, from 5 ct to 9 ct."),
])  # fmt: skip
def test_which_nothing_it_is(rows: str, said: str, tmp_path: Path) -> None:
    (tmp_path / "bench.csv").write_text(f"x\n{rows}")
    project = check_project(
        'lesart = 1\nname = "n"\n[sources.bench]\ncapture = "bench.csv"\nheader = 1\nrate = "10 Hz"\n'
        '[channels.c]\nsource = "bench"\ncolumn = "x"\nunit = "V"\nlowest = "0 V"\nhighest = "5 V"\n'
        '[[channels.c.law]]\nkind = "converter"\nbits = 12\nreference = "5 V"\n'
    )
    assert said in symptom(project, Bench(tmp_path), project.channels["c"])
