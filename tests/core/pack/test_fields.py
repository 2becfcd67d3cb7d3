"""Fields in whole numbers: the very cells that the desk shows, for every rule of a field that is carried."""

from __future__ import annotations

import math
import random
from fractions import Fraction
from pathlib import Path
from typing import Any

import pytest
from hypothesis import given as examples
from hypothesis import strategies as st

from lesart.core.block import Mark
from lesart.core.fit.cells import Cell
from lesart.core.fit.field import AS_FIT, Field, Reading
from lesart.core.fit.fill import fill
from lesart.core.fit.rounding import CUT, MODES
from lesart.core.pack.field_forms.field_form import field_form
from lesart.core.pack.field_forms.wanted import FieldWanted, last_place
from lesart.core.pack.machine import Machine, PackError, Scale
from lesart.core.pack.program.in_python import HELPERS, class_text, loaded, table_text
from lesart.core.pack.program.statements import Function
from tests.core.fit.fields import MARKS, field_of
from tests.core.pack.programs import filters_form, given_at, runs_in_c, vectors

REACH = 40_000


def code(cell: Cell) -> int:
    """Letter and marks in one number, so that a point in a wrong cell is seen."""
    if cell.code is not None:
        return cell.code | (0x4000 if cell.point else 0)
    return ord(cell.letter[0]) | (0x4000 if cell.point else 0) | (0x8000 if cell.colon else 0)


@st.composite
def carried(draw: st.DrawFn) -> Field:
    """Any field that is carried."""
    return field_of(
        width=draw(st.integers(1, 12)),
        decimals=draw(st.integers(0, 4)),
        align=draw(st.sampled_from(["left", "right", "centre"])),
        pad=draw(st.sampled_from(["blank", "zero"])),
        sign=draw(st.sampled_from(["minus only", "always", "never"])),
        round=draw(st.sampled_from(sorted(MODES))),
        unit_text=draw(st.sampled_from(["", "g", " kg"])),
        unit_place=draw(st.sampled_from(["behind", "before"])),
        overflow=draw(st.sampled_from(["-", "x"])),
        underflow=draw(st.sampled_from(["", "u"])),
        settling=draw(st.sampled_from(["", "s"])),
        decimals_are=draw(st.sampled_from(["fixed", "as many as fit"])),
        sent=draw(st.sampled_from(["as text", "digits as numbers"])),
        **draw(st.sampled_from(MARKS)),
    )


def model(form: Function) -> Any:
    text = [HELPERS, *(table_text(each) for each in form.tables), class_text("tried", "t", [("show", form)], form.kept)]
    return loaded("\n\n".join(text))["tried"]()


@examples(carried(), st.sampled_from(["", ".", ".:"]), st.sampled_from([0, 3, 6]), st.integers(0, 2**32))
def test_cells_are_those_of_the_desk(field: Field, joined: str, finer: int, seed: int) -> None:
    """Whatever the reading: numbers of every length, both signs, and numbers beside the places where it rounds."""
    scale = Scale(last_place(field) / (1 << finer))
    form = field_form(FieldWanted("ch", "field", "f", field, code, joined), scale, -REACH, REACH, 16.0, Machine(32))
    run, chance = model(form), random.Random(seed)
    numbers = [0, 1, -1, REACH, -REACH, *(sign * 10**power for power in range(5) for sign in (1, -1))]
    numbers += [chance.randint(-REACH, REACH) for _ in range(40)]
    for x in numbers:
        if not _is_told_apart(x, finer, field):
            continue
        shown = fill(field, Reading(float(scale.exactly(0.0) + x * scale.step)), joined=joined)
        run.show(x, 0, 0)
        assert run.field_cells == [code(cell) for cell in shown.cells], (x, shown.text)


def _is_told_apart(x: int, finer: int, field: Field) -> bool:
    """A tie of whole numbers is none of floats, which lie a little beside it; so is a whole place that is cut."""
    fewer = field.decimals if field.decimals_are == AS_FIT else 0
    return all(_is_apart(x, 10**left << finer, field) for left in range(fewer + 1))


def _is_apart(x: int, parts: int, field: Field) -> bool:
    """Of so many parts of what is rounded to."""
    rest = abs(x) % parts
    if field.round in ("down", "floor", CUT):
        return bool(rest) or field.decimals == 0
    return parts == 1 or 2 * rest != parts or field.decimals == 0


@pytest.mark.parametrize(("reading", "state", "text"), [
    (Reading(1.0, age_s=6.0), 5, "____"), (Reading(1.0, int(Mark.CHECKSUM)), 3, "===="),
    (Reading(1.0, int(Mark.SETTLING)), 4, "ssss"), (Reading(999.0), 1, "----"), (Reading(-999.0), 2, "uuuu"),
    (Reading(1.0, int(Mark.HELD)), 0, " 1.0"),
])  # fmt: skip
def test_a_field_says_why_it_shows_no_number(reading: Reading, state: int, text: str) -> None:
    field = field_of(width=4, decimals=1, stale_after="5 s", settling="s", underflow="u")
    form = field_form(
        FieldWanted("ch", "field", "f", field, code), Scale(Fraction(1, 80)), -100_000, 100_000, 2.0, Machine()
    )
    run = model(form)
    found = run.show(round(reading.value * 80), reading.mark, round(reading.age_s * 1000))
    assert found[1] == state
    assert "".join(map(chr, run.field_cells)) == text == fill(field, reading).text


def test_a_field_in_another_unit_shows_that(tmp_path: Path) -> None:
    """A reading in °C and a field in °F: within a last place of the desk, and nearly always the same."""
    field = field_of("°C", "°F", width=6, decimals=1)
    form = field_form(
        FieldWanted("ch", "field", "f", field, code), Scale(Fraction(1, 640)), -25_600, 64_000, 2.0, Machine()
    )
    run, same = model(form), 0
    for x in range(-25_600, 64_000, 97):
        run.show(x, 0, 0)
        shown = float("".join(map(chr, run.field_cells)))
        desk = float(fill(field, Reading(x / 640)).text)
        assert abs(shown - desk) < 0.11
        same += shown == desk
    assert same > 0.95 * len(range(-25_600, 64_000, 97))


def test_words_change_at_their_limits() -> None:
    field = field_of(width=4, shows="word", words="low < 5; ok < 43.3; full")
    form = field_form(
        FieldWanted("ch", "field", "f", field, code), Scale(Fraction(1, 640)), -64_000, 64_000, 2.0, Machine()
    )
    run = model(form)
    for x in (0, 3199, 3200, 27_711, 27_712, 60_000):
        run.show(x, 0, 0)
        assert "".join(map(chr, run.field_cells)) == fill(field, Reading(x / 640)).text


@pytest.mark.parametrize(("written", "said"), [
    ({"shows": "alarm"}, "shows alarm"), ({"sent": "as one byte"}, "sent as one byte"),
])  # fmt: skip
def test_what_is_not_carried_is_told(written: dict[str, str], said: str) -> None:
    wanted = FieldWanted("ch", "field", "door, field", field_of(**written), code)
    with pytest.raises(PackError, match=f"^door, field: .*{said}"):
        field_form(wanted, Scale(Fraction(1, 10)), -100, 100, 1.0, Machine())


def test_cells_in_c_are_those_of_the_model(tmp_path: Path) -> None:
    """With padding, groups, a sign and a unit, over both ends of the range."""
    fields = tuple(
        FieldWanted("mass", f"field{place}", f"field {place}", field_of(width=width, **written), code, joined)
        for place, (width, joined, written) in enumerate((
            (10, "", {"decimals": 2, "group": "blank", "sign": "always", "unit_text": " kg"}),
            (6, ".:", {"decimals": 1, "pad": "zero"}),
            (3, "", {"decimals": 0, "align": "left", "round": "half even"}),
            (4, ".", {"decimals": 2, "decimals_are": "as many as fit", "round": "half even"}),
            (5, "", {"decimals": 2, "decimals_are": "as many as fit", "round": "floor", "sent": "digits as numbers"}),
        ))
    )  # fmt: skip
    form = filters_form([])
    from dataclasses import replace

    from lesart.core.pack.channel_form import channel_form

    form = channel_form(replace(form.wanted, fields=fields))
    raws = [-20_000, -15_000, -9_999, -5, -4, 0, 4, 5, 1234, 14_999, 15_000, 20_000]
    made = vectors(form, given_at(raws, [0] * len(raws)))
    assert len({each.cells for each in made}) > 9
    assert runs_in_c(tmp_path, [(form, made)]) == "equal\n"


@pytest.mark.parametrize(
    ("unit", "shown", "decimals", "place"),
    [
        ("kg", "g", 0, Fraction(1, 1000)),
        ("g", "kg", 3, Fraction(1)),
        ("°C", "°F", 1, Fraction(1, 18)),
        ("m/s", "km/h", 1, Fraction(1, 36)),
        ("s", "min", 2, Fraction(60, 100)),
        ("hPa", "bar", 4, Fraction(1, 10)),
        ("°", "rad", 2, Fraction(18, 10) / Fraction(math.pi)),
    ],
)
def test_a_last_place_is_told_in_the_channel_s_own_unit(unit: str, shown: str, decimals: int, place: Fraction) -> None:
    field = field_of(unit, shown, decimals=decimals)
    assert float(last_place(field)) == pytest.approx(float(place), rel=1e-9)
