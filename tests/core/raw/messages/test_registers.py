"""Registers of a Modbus device: fetched in few requests, read as the number they hold."""

from __future__ import annotations

import math
import struct

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lesart.core.raw.messages.registers import MOST, TABLES, TYPES, RegisterSpec, Request, requests_for, values_in

CODES = dict(zip(TYPES, "HhIifQqd", strict=True))


@pytest.mark.parametrize("kind", TYPES)
@pytest.mark.parametrize("swapped", [False, True])
@given(number=st.floats(-3e4, 3e4, width=32))
def test_a_number_packed_by_the_standard_comes_back(kind: str, swapped: bool, number: float) -> None:
    written = number if kind.startswith("float") else abs(int(number)) if kind[0] == "u" else int(number)
    data = struct.pack(">" + CODES[kind], written)
    words = struct.unpack(f">{len(data) // 2}H", data)
    spec = RegisterSpec("x", "input", 0, kind, word_swap=swapped)
    assert spec.words == len(words)
    found = spec.value(words[::-1] if swapped else words)
    # Of four bytes it is the shortest decimal that they are, which those bytes are again.
    assert found == written or (kind == "float32" and struct.pack(">f", found) == data)


def test_scale_and_offset_are_exact_where_a_step_is_a_part_of_a_whole() -> None:
    assert RegisterSpec("x", "holding", 0, scale=0.1).value([127]) == 12.7
    assert RegisterSpec("x", "holding", 0, "int16", scale=0.5, offset=-40).value([0xFFFE]) == -41.0
    assert RegisterSpec("x", "coil", 0).value([1]) == 1.0


def test_a_float_that_is_none_has_no_value() -> None:
    assert math.isnan(RegisterSpec("x", "input", 0, "float32").value([0x7FC0, 0]))
    assert RegisterSpec("x", "input", 0, "float32").value([0x41A0, 0xCCCD]) == 20.1


def test_neighbours_come_in_one_request_and_gaps_are_not_touched() -> None:
    registers = [
        RegisterSpec("a", "input", 0, "uint32"),
        RegisterSpec("b", "input", 2),
        RegisterSpec("c", "input", 4),
        RegisterSpec("d", "holding", 1),
        RegisterSpec("e", "input", 1),
    ]
    assert requests_for(registers) == (Request("holding", 1, 1), Request("input", 0, 3), Request("input", 4, 1))


SPECS = st.lists(
    st.builds(RegisterSpec, st.just("x"), st.sampled_from(TABLES), st.integers(0, 400), st.sampled_from(TYPES)),
    max_size=40,
)


@given(SPECS)
def test_requests_cover_every_register_and_nothing_else(registers: list[RegisterSpec]) -> None:
    requests = requests_for(registers)
    asked = [(request.table, request.address + place) for request in requests for place in range(request.count)]
    wanted = {(each.table, each.address + place) for each in registers for place in range(each.words)}
    assert set(asked) == wanted
    assert all(request.count <= MOST[request.table] for request in requests)
    replies = {request: [(request.address + place) & 1 for place in range(request.count)] for request in requests}
    assert not any(
        math.isnan(value)
        for each, value in zip(registers, values_in(registers, replies), strict=True)
        if each.type[0] != "f"
    )


def test_what_was_not_answered_has_no_value() -> None:
    registers = [RegisterSpec("a", "input", 0), RegisterSpec("b", "holding", 0)]
    assert values_in(registers, {Request("input", 0, 1): [5]}) == pytest.approx((5, math.nan), nan_ok=True)


@pytest.mark.parametrize(
    ("address", "count", "said"), [(7, 1, "holding 7"), (7, 2, "holding 7 to 8"), (0, 125, "holding 0 to 124")]
)
def test_a_request_says_its_first_and_its_last_register(address: int, count: int, said: str) -> None:
    assert Request("holding", address, count).says == said
