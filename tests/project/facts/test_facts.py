"""A fact stated once is taken by all; stated twice and differently it is one note, and its remedy takes the home's."""

from __future__ import annotations

import pytest

from lesart.core.errors import ProjectError
from lesart.core.notes import FAULT, Key, Note
from lesart.core.parameters import Parameter
from lesart.core.quantity import parse_quantity
from lesart.core.units import parse_unit
from lesart.demo.yard import project_text
from lesart.project.check import check_project
from lesart.project.facts.compare import inspect_facts
from lesart.project.facts.homes import parameter_of
from lesart.project.model import Project
from lesart.project.text import Editor
from lesart.project.toml_values import value_at
from tests.project.facts.benches import BENCH

TEXTS = {"bench": BENCH, "yard": project_text()}
PROJECTS = {name: check_project(text) for name, text in TEXTS.items()}


def section(key: Key) -> str:
    """The table that a key stands in, in a word."""
    return next((str(part) for part in reversed(key[:-1]) if part in ("law", "scan", "trace")), str(key[0]))


EVERY = [(name, key) for name, project in PROJECTS.items() for key in project.homes]
HOMES = list({(section(key), key[-1]): (name, key) for name, key in reversed(EVERY)}.values())
"""One of each kind."""
COMPARED = [each for each in HOMES if PROJECTS[each[0]].homes[each[1]].compared]
ALL_THERE_ARE = {
    ("law", "gate"),
    ("law", "clock"),
    ("law", "prescaler"),
    ("law", "bits"),
    ("law", "reference"),
    ("law", "excitation"),
    ("law", "supply"),
    ("law", "sensor"),
    ("law", "resistance"),
    ("panels", "digits"),
    ("panels", "drive"),
    ("panels", "clock"),
    ("trace", "address"),
    ("scan", "forward"),
    ("scan", "supply"),
    ("scan", "resistor"),
    ("scan", "line_resistor"),
    ("sums", "forward"),
    ("sums", "current"),
    ("sums", "duty"),
    ("sums", "supply"),
    ("sums", "resistance"),
    ("sums", "capacity"),
    ("sums", "usable"),
    ("sums", "voltage"),
    ("sums", "awake"),
    ("sums", "clock"),
    ("loop", "capacity"),
    ("loop", "usable"),
    ("loop", "shown"),
    ("loop", "others"),
    ("loop", "active"),
    ("loop", "idle"),
}


def named(each: tuple[str, Key]) -> str:
    return f"{each[0]} {'.'.join(map(str, each[1]))}"


def other_than(project: Project, key: Key) -> str | int:
    """Another value that the parameter takes: half as much again, the next choice."""
    parameter, home = parameter_of(project.tables, key), project.homes[key]
    assert parameter is not None
    if parameter.kind == "choice":
        return next(each for each in parameter.choices if each != home.written)
    if parameter.kind == "integer":
        return int(home.written) + (1 if int(home.written) < (parameter.highest or 99) else -1)
    if parameter.kind == "text":
        return "0x3C"
    return larger(parameter, str(home.written).split(" ±")[0])


def larger(parameter: Parameter, written: str) -> str:
    value = 1.1 * parse_quantity(written, parse_unit(parameter.unit)).to(parse_unit(parameter.unit))
    return f"{value:.9g} {parameter.unit}".removesuffix(" 1")


def kind_of(project: Project, key: Key) -> str:
    parameter = parameter_of(project.tables, key)
    assert parameter is not None
    return parameter.kind


def stated(name: str, key: Key, value: str | int) -> tuple[str, list[Note]]:
    text = Editor().with_value(TEXTS[name], key, value)
    return text, list(inspect_facts(check_project(text)))


def test_every_kind_of_fact_is_tried() -> None:
    """One that is added has to be here."""
    assert {(section(key), str(key[-1])) for _, key in HOMES} == ALL_THERE_ARE


@pytest.mark.parametrize("name", TEXTS)
def test_facts_stated_once_agree(name: str) -> None:
    """Nothing is said of them, and nothing of them is written where they are taken."""
    project = PROJECTS[name]
    assert list(inspect_facts(project)) == []
    taken = [key for key in project.homes if value_at(project.tables, key) is None]
    assert len(taken) > 10
    for key in taken:
        assert value_at(project.stated, key) == project.homes[key].written


@pytest.mark.parametrize("each", COMPARED, ids=named)
def test_stated_again_and_differently_it_is_one_note(each: tuple[str, Key]) -> None:
    """With both places and both values; the remedy takes the home's, and nothing is left to say."""
    name, key = each
    project, value = PROJECTS[name], other_than(PROJECTS[name], each[1])
    text, found = stated(name, key, value)
    (note,) = found
    assert note.place == key
    assert note.is_fault is project.homes[key].certain
    if kind_of(project, key) in ("integer", "quantity"):
        assert note.figure is not None
        assert note.limit is not None
        assert note.figure != pytest.approx(note.limit)
    assert project.homes[key].says in note.text
    assert str(value).split(" ")[0].rstrip("0.") in note.text
    mended = Editor().mended(text, note.mend)
    again = check_project(mended)
    assert list(inspect_facts(again)) == []
    assert value_at(again.stated, key) == project.homes[key].written


@pytest.mark.parametrize("each", COMPARED, ids=named)
def test_stated_again_and_the_same_it_is_none(each: tuple[str, Key]) -> None:
    """On purpose, or from before."""
    name, key = each
    assert stated(name, key, PROJECTS[name].homes[key].written)[1] == []


@pytest.mark.parametrize("each", [each for each in HOMES if each not in COMPARED], ids=named)
def test_what_was_measured_is_better_than_a_sum(each: tuple[str, Key]) -> None:
    """Currents as catalogues have them are no fault of a person who measured; only a ratio of a bridge counts."""
    name, key = each
    assert stated(name, key, other_than(PROJECTS[name], key))[1] == []


def test_a_rail_is_nominal() -> None:
    """One that was measured to within its tolerance is no other; beyond that it is."""
    key = ("channels", "room", "law", 1, "supply")
    assert stated("bench", key, "3.31 V")[1] == []
    assert [note.mark for note in stated("bench", key, "3.4 V")[1]] == [FAULT]


def test_a_resistor_that_is_nowhere() -> None:
    """The law reckons with one that no connection runs through."""
    text = BENCH.replace(', through = "fix"', "")
    (note,) = [note for note in inspect_facts(check_project(text)) if "fix" in note.text]
    assert note.place == ("channels", "room", "law", 1, "part")


def test_without_a_hook_up_a_divider_hangs_on_the_reference() -> None:
    """What the converter compares with is what usually feeds it."""
    text = BENCH.replace('kind = "converter"', 'kind = "converter"\nreference = "5 V"')
    text = text.replace('{ pin = "board.a1", to = "board.3V3", through = "fix" },', "")
    project = check_project(text.replace('part = "ntc"\n', ""))
    home = project.homes[("channels", "room", "law", 1, "supply")]
    assert (home.written, home.key) == ("5 V", ("channels", "room", "law", 0, "reference"))


def test_a_board_with_a_reference_of_its_own() -> None:
    """Then the rail is not meant, and a difference is certain."""
    text = BENCH.replace('kind = "3.3 V board"', 'kind = "3.3 V board"\nreference = "1.1 V"')
    project = check_project(text)
    assert value_at(project.stated, ("channels", "room", "law", 0, "reference")) == "1.1 V"
    assert value_at(project.stated, ("channels", "room", "law", 1, "supply")) == "3.3 V ± 2 %"


@pytest.mark.parametrize("drive", ["direct", "shift registers", "two-line driver", "numbered driver"])
def test_digits_that_are_held_and_lit_in_turn(drive: str) -> None:
    """Both are said of one panel; the remedy leaves one."""
    text = TEXTS["yard"].replace("digits = 4\ncolour", f'digits = 4\ndrive = "{drive}"\ncolour')
    found = [note for note in inspect_facts(check_project(text)) if note.place == ("panels", "stand", "drive")]
    assert [note.mark for note in found] == [FAULT]
    mended = Editor().mended(text, found[0].mend)
    assert list(inspect_facts(check_project(mended))) == []


def test_a_sensor_on_the_other_side() -> None:
    """The resistor at the ground: the sensor leads to the rail, which feeds both."""
    text = BENCH.replace('{ pin = "ntc.2", to = "board.gnd" }', '{ pin = "ntc.2", to = "board.5V" }')
    text = text.replace('to = "board.3V3", through = "fix"', 'to = "board.gnd", through = "fix"')
    project = check_project(text)
    place = ("channels", "room", "law", 1)
    assert value_at(project.stated, (*place, "sensor")) == "to supply"
    assert str(value_at(project.stated, (*place, "supply"))).startswith("5 V")


@pytest.mark.parametrize("written", ["3", '"x"', "[1, 2]", "[{a = 1}]", "true"])
def test_what_is_no_table_is_told_where_it_is_read(written: str) -> None:
    """Facts are filled into tables only; a mistake of another kind has its own sentence, and no other."""
    for old, new, place in (
        ("[panels.seg.scan]\n", f"scan = {written}\n", "panels.seg.scan"),
        ('name = "bench"\n', f'name = "bench"\nloop = {written}\n', "loop"),
        ('[panels.lid.trace]\ncapture = "lid.vcd"\naddress = "0x3D"\n', f"trace = {written}\n", "panels.lid.trace"),
    ):
        assert old in BENCH
        with pytest.raises(ProjectError) as caught:
            check_project(BENCH.replace(old, new, 1))
        assert {problem.place for problem in caught.value.problems} == {place}
