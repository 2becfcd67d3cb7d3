"""The pins of a board as its values list them."""

from __future__ import annotations

import re
from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lesart.core.wire.catalogue import KINDS
from lesart.core.wire.part import Part, PartKind
from lesart.core.wire.pinout import (
    ANALOG,
    SIGNAL,
    USES,
    counted_from_nothing,
    has_pinout,
    laid_out,
    pins_listed,
    pins_of,
    pins_written,
    use_met_by,
    where_else,
    with_pin,
)
from lesart.core.wire.role import ROLES, roles_meet
from tests.core.wire.hookups import findings, hookup

BOARDS = [name for name, kind in KINDS.items() if has_pinout(kind)]


def values_of(name: str, **said: str) -> dict[str, object]:
    return {**{each.name: each.default for each in KINDS[name].parameters}, **said}


def laid(name: str = "5 V board", **said: str) -> PartKind:
    kind, wrong = laid_out(KINDS[name], values_of(name, **said))
    assert not wrong, wrong
    return kind


def roles(kind: PartKind, pin: str) -> set[str]:
    found = kind.pin(pin)
    assert found is not None, [each.name for each in kind.pins]
    return set(found.roles)


@pytest.mark.parametrize("name", BOARDS)
def test_a_board_of_the_catalogue_is_as_its_own_values_say(name: str) -> None:
    assert laid(name).pins == KINDS[name].pins


@pytest.mark.parametrize(
    ("written", "names"),
    [
        ("p1-p3", ("p1", "p2", "p3")),
        ("D0-D2 A0", ("D0", "D1", "D2", "A0")),
        ("PA0-PA1, PB7", ("PA0", "PA1", "PB7")),
        ("1-3 9", ("p1", "p2", "p3", "p9")),
        ("D0 to D2", ("D0", "D1", "D2")),
        ("GPIO4–GPIO5 and GPIO21", ("GPIO4", "GPIO5", "GPIO21")),
        ("", ()),
    ],
)
def test_pins_are_listed_one_by_one_or_from_one_to_another(written: str, names: tuple[str, ...]) -> None:
    assert pins_listed(written) == names


@pytest.mark.parametrize(
    ("written", "says"),
    [
        ("D13-D0", '"D13-D0" must go from the lower number to the higher'),
        ("D0-A5", '"D0-A5" must go from one number to another, like "D0-D7"'),
        ("sda", '"sda" is not a pin; it must list pins as they are printed, like "D0-D13 A0"'),
        ("D1 D2 d1", "it names D1 twice"),
        ("p0-p99 a0-a99", "a board has at most 128 pins"),
    ],
)
def test_what_is_no_list_of_pins_is_told(written: str, says: str) -> None:
    with pytest.raises(ValueError, match=f"^{re.escape(says)}$"):
        pins_listed(written)


@given(st.lists(st.integers(0, 99), max_size=30, unique=True), st.sampled_from(("p", "D", "PA")))
def test_a_written_list_is_read_again(numbers: list[int], letters: str) -> None:
    names = tuple(f"{letters}{number}" for number in numbers)
    assert pins_listed(pins_written(names)) == names


def test_pins_are_called_as_they_are_printed() -> None:
    kind = laid(signal_pins="D0-D13", analog_pins="A0-A5", two_wire_pins="A4 A5", edge_pins="D2 D3")
    names = [pin.name for pin in kind.pins if pin.name not in ("in", "5V", "3V3", "gnd")]
    assert names == [*(f"D{number}" for number in range(14)), *(f"A{number}" for number in range(6))]
    assert roles(kind, "A4") == {"analog in", "two-wire data"}
    assert roles(kind, "A5") == {"analog in", "two-wire clock"}
    assert [name for name in names if "interrupt" in roles(kind, name)] == ["D2", "D3"]
    # What nobody has said goes by number: 4 to 7 time edges.
    assert [name for name in names if "capture" in roles(kind, name)] == ["D4", "D5", "D6", "D7"]


def test_figures_of_pins_stay_those_of_their_kind() -> None:
    """A pin that measures is read through what a converter accepts, a pin that puts out tolerates what it did."""
    was = {pin.name: pin for pin in KINDS["5 V board"].pins}
    kind = laid(signal_pins="p1-p20 a1", analog_pins="a1-a2 p20")
    for name in ("p1", "p17"):
        assert kind.pin(name) == replace(was["p1"], name=name, roles=kind.pin(name).roles)  # type: ignore[union-attr]
    assert kind.pin("a2") == was["a2"]
    both = kind.pin("p20")
    assert both is not None
    assert (both.tolerates_v, both.current_a, both.accepts_ohm) == (was["p1"].tolerates_v, was["p1"].current_a, 1e4)


def test_a_bus_that_nobody_said_is_nowhere_where_its_pins_are_not() -> None:
    kind = laid(signal_pins="D0-D13")
    assert not [pin.name for pin in kind.pins if {"two-wire data", "serial receive"} & set(pin.roles)]
    assert roles(kind, "D11") >= {"four-wire out"}


@pytest.mark.parametrize(
    ("said", "key", "says"),
    [
        (
            {"two_wire_pins": "p21 p22"},
            "two_wire_pins",
            "p21 is not one of its signal or analog pins, which are p1-p16 a1-a6",
        ),
        ({"two_wire_pins": "p1"}, "two_wire_pins", "it must name 2 pins, its data and clock, or be empty"),
        ({"four_wire_pins": "p1 p2"}, "four_wire_pins", "it must name 3 pins, its clock, out and in, or be empty"),
        (
            {"edge_pins": "foo"},
            "edge_pins",
            '"foo" is not a pin; it must list pins as they are printed, like "D0-D13 A0"',
        ),
        ({"signal_pins": "p9-p1"}, "signal_pins", '"p9-p1" must go from the lower number to the higher'),
    ],
)
def test_a_value_that_lists_no_pins_of_the_board_is_told(said: dict[str, str], key: str, says: str) -> None:
    kind, wrong = laid_out(KINDS["5 V board"], values_of("5 V board", **said))
    assert wrong == {key: says}
    assert kind is KINDS["5 V board"]


def test_all_are_all_signal_pins() -> None:
    kind = laid(edge_pins="all", signal_pins="p0-p30")
    with_edges = [pin.name for pin in kind.pins if "interrupt" in pin.roles]
    assert with_edges == [f"p{number}" for number in range(31)]


@pytest.mark.parametrize("role", ROLES)
def test_the_use_that_a_role_meets_is_one_it_works_with(role: str) -> None:
    met = use_met_by((role,))
    meets = [own for use in USES for own in use.roles if roles_meet((role,), (own,))]
    assert (met is None) == (not meets)
    assert met is None or met[0].roles[met[1]] == meets[0]


def test_counted_from_nothing_and_beyond_the_last() -> None:
    values = values_of("5 V board")
    assert counted_from_nothing(values, ANALOG) == {"analog_pins": "a0-a5"}
    assert counted_from_nothing(values, SIGNAL) == {"signal_pins": "p0-p16"}
    assert counted_from_nothing({**values, "analog_pins": "a0-a5"}, ANALOG) == {}
    assert with_pin(values, SIGNAL, "p21") == {"signal_pins": "p1-p21"}
    assert with_pin(values, SIGNAL, "p3") == {}


def test_the_note_on_a_wrong_pin_says_where_the_board_has_it() -> None:
    parts = {"node": "5 V board", "glass": "two-wire pixel display"}
    told = [
        note.text
        for note in findings(hookup(parts, "glass.data > node.p3; glass.supply > node.5V; glass.gnd > node.gnd"))
        if "does not work with" in note.text
    ]
    assert told == [
        "glass.data (two-wire data) does not work with node.p3 (digital, interrupt); the two-wire pins of node are p15 "
        "p16."
    ]


def test_a_board_whose_bus_nobody_said_is_asked_for_it() -> None:
    kind = laid(signal_pins="D0-D13")
    board = Part("node", kind, values_of("5 V board", signal_pins="D0-D13"))
    assert where_else(board, "D3", ("two-wire data",)) == (
        "the two-wire pins of node are not stated yet; + two-wire pins D0 D1 would state them"
    )
    assert where_else(board, "gnd", ("two-wire data",)) == ""
    assert where_else(board, "D3", ("ground",)) == ""
    assert pins_of(board.values, USES[2]) == tuple(f"D{number}" for number in range(1, 9))
