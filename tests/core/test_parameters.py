"""Parameters: one record checks the file, and says what would be right."""

from __future__ import annotations

import re

import pytest

from lesart.core.parameters import Parameter, read_table, shown
from tests.registry import every_parameter

VOLTAGE = Parameter("reference", "reference", "quantity", "", unit="V", lowest=0, above=True)
COUNT = Parameter("samples", "samples", "integer", "", 5, lowest=1, highest=9)
CHOICE = Parameter("align", "align", "choice", "", "left", choices=("left", "right"))
FLAG = Parameter("used", "used", "flag", "", True)
UNIT = Parameter("unit", "unit", "unit", "", "kg")
TEXT = Parameter("text", "text", "text", "", "", longest=3)

WRONG = [
    (VOLTAGE, "0 V", "above 0 V"),
    (VOLTAGE, "5", "no unit"),
    (VOLTAGE, 5, "no unit"),
    (VOLTAGE, "5 A", "cannot be converted"),
    (VOLTAGE, True, "number with its unit"),
    (VOLTAGE, ["5 V"], "number with its unit"),
    (VOLTAGE, None, "missing"),
    (COUNT, 0, "from 1 to 9"),
    (COUNT, 10, "from 1 to 9"),
    (COUNT, "5", "whole number"),
    (COUNT, 2.0, "whole number"),
    (COUNT, True, "whole number"),
    (CHOICE, "middle", '"left", "right"'),
    (CHOICE, 1, '"left", "right"'),
    (FLAG, "yes", "true or false"),
    (FLAG, 1, "true or false"),
    (UNIT, "kilo", "not a unit"),
    (UNIT, 3, "a unit"),
    (TEXT, "four", "at most 3"),
    (TEXT, 5, "a text"),
]


@pytest.mark.parametrize(("parameter", "written", "says"), WRONG)
def test_a_wrong_value_is_one_problem(parameter: Parameter, written: object, says: str) -> None:
    """It names the place, the value as written and what would be right; the value is left out."""
    table = {} if written is None else {parameter.name: written}
    values, problems = read_table([parameter], table, "channels.x")
    assert parameter.name not in values
    (problem,) = problems
    assert problem.place == f"channels.x.{parameter.name}"
    assert says in problem.wanted
    assert str(problem).endswith(".")
    if written is not None:
        assert shown(written) in str(problem)


def test_all_problems_at_once() -> None:
    """Three wrong values are three problems, and the right one is read."""
    values, problems = read_table(
        [VOLTAGE, COUNT, CHOICE, FLAG], {"reference": "x", "samples": 0, "align": "up", "used": False}, "p"
    )
    assert len(problems) == 3
    assert values == {"used": False}


def test_a_wrong_key_names_the_right_one() -> None:
    """A misspelt key would silently do nothing, so it is a problem; keys of one's own start with x_."""
    _, (problem,) = read_table([COUNT], {"sampels": 5, "x_sampels": 5}, "p")
    assert "did you mean samples?" in str(problem)
    assert problem.place == "p.sampels"


def test_defaults_go_the_same_way() -> None:
    """A default is read like a written value."""
    values, problems = read_table([COUNT, CHOICE, UNIT], {}, "p")
    assert not problems
    assert (values["samples"], values["align"], values["unit"].symbol) == (5, "left", "kg")


def test_a_table_must_be_one() -> None:
    """Something else in its place is one problem."""
    _, (problem,) = read_table([COUNT], [1, 2], "p")
    assert "table" in problem.wanted


def test_control_characters_are_shown() -> None:
    """A value from outside cannot move the cursor of whoever reads the sentence."""
    assert "\x1b" not in shown("a\x1b[31mb")
    assert "\\x1b" in shown("a\x1b[31mb")


def every_own() -> list[Parameter]:
    """All parameters of the program, each once."""
    return sorted(set(every_parameter()) - {VOLTAGE, COUNT, CHOICE, FLAG, UNIT, TEXT}, key=repr)


def test_every_default_can_be_read() -> None:
    found = every_own()
    assert len(found) > 300
    for parameter in found:
        if parameter.default is not None:
            parameter.read(parameter.default)


def test_every_example_would_be_taken() -> None:
    """What a sentence says would be right is right."""
    for parameter in every_own():
        if parameter.kind not in ("quantity", "any quantity"):
            continue
        written = re.search(r'like (?:"(?P<text>[^"]+)"|(?P<number>[-\d.e]+))', parameter.wanted)
        assert written is not None, parameter
        parameter.read(written["text"] or float(written["number"]))


def test_limits_hold_on_both_sides() -> None:
    """A limit itself is taken, unless it says above; the next number beyond it is refused, with the sentence."""
    for parameter in every_own():
        unit = "" if parameter.kind == "integer" or parameter.unit == "1" else f" {parameter.unit}"
        for limit, beyond in ((parameter.lowest, -1.0), (parameter.highest, 1.0)):
            if limit is None or parameter.kind not in ("quantity", "integer"):
                continue
            step = 1 if parameter.kind == "integer" else max(abs(limit), 1e-6) * 1e-9
            at, out, within = (number_of(parameter, limit + step * share, unit) for share in (0.0, beyond, -beyond))
            with pytest.raises(ValueError, match=re.escape(parameter.wanted)):
                parameter.read(out)
            if parameter.above and beyond < 0:
                with pytest.raises(ValueError, match=re.escape(parameter.wanted)):
                    parameter.read(at)
                parameter.read(within)
            else:
                parameter.read(at)


def number_of(parameter: Parameter, value: float, unit: str) -> int | str | float:
    """As the project file writes it."""
    if parameter.kind == "integer":
        return int(value)
    return f"{value!r}{unit}" if unit else value


def test_of_many_choices_those_are_named_that_are_near() -> None:
    """All of few; of many the likeliest, or the first of them, and how many there are."""
    few = Parameter("p", "p", "choice", "", choices=("red", "green"))
    assert few.refused("blue") == few.wanted == 'it must be one of "red", "green"'
    names = tuple(f"{colour} {number}" for colour in ("red", "green", "blue") for number in range(1, 8))
    many = Parameter("p", "p", "choice", "", choices=names)
    assert many.refused("?") == 'it must be one of 21, such as "red 1", "red 2" and "blue 7"'
    assert many.refused("green 44").startswith('it must be one of 21, of which "green 4"')
    assert many.refused("teal") == 'it must be one of 21, such as "red 1", "red 2" and "blue 7"'
    other = Parameter("p", "p", "choice", "", choices=(*names, "bridge converter"))
    assert other.refused("bridge") == 'it must be one of 22, of which "bridge converter" is nearest'
    with pytest.raises(ValueError, match='of which "blue 7"'):
        many.read("blue 77")
