"""Laws that are integers at the desk already: converted operation by operation, exact to the bit."""

from __future__ import annotations

import ast
from collections.abc import Callable, Mapping
from fractions import Fraction
from typing import Any

import numpy as np

from lesart.core.block import Block
from lesart.core.chain import Link
from lesart.core.law.compensation import DOWN, Compensation
from lesart.core.law.record import Fixed
from lesart.core.law.stage import BesideStage, LawStage
from lesart.core.law.whole_steps import INPUT, OTHER, WholeSteps
from lesart.core.pack.law_forms.form import Form
from lesart.core.pack.law_forms.straight import line_form
from lesart.core.pack.machine import Machine, Scale
from lesart.core.pack.program.whole import (
    Whole,
    down,
    equal,
    least,
    most,
    neither,
    pick,
    quotient,
    whole,
)

STRAIGHT = 1e-9
"""Relative difference allowed between two intervals of a line."""


def exact_form(
    links: tuple[Link, ...], raw: Whole, other: Whole | None, scale: Scale, budget: float, machine: Machine
) -> Form | None:
    """The first law's own whole numbers, then one line to steps of the reading; None where the first law is none of
    these, what follows is no line, or a value on the way could be wider than the machine allows.

    ``raw`` and ``other`` stand for counts themselves.
    """
    result = _result(links, raw, other)
    if result is None or any(part.bits > machine.wide for part in result.walk()):
        return None
    step = _law_of(links[0]).step
    line = _line(links[1:], step)
    if line is None:
        return None
    gain, offset = line
    form = line_form(result, gain / scale.step, (offset - scale.zero) / scale.step, budget, machine)
    if form is None:
        return None
    return Form(form.value, "the part's own whole numbers, then one line", f"of its result {form.equation}")


def _law_of(link: Link) -> Any:
    stage = link.stage
    if isinstance(stage, BesideStage):
        return stage.beside.law
    if isinstance(stage, LawStage):
        return stage.law.law if isinstance(stage.law, Fixed) else stage.law
    return None


def _result(links: tuple[Link, ...], raw: Whole, other: Whole | None) -> Whole | None:
    if not links or links[0].scale != 1.0 or links[0].offset != 0.0:
        return None
    stage, law = links[0].stage, _law_of(links[0])
    if isinstance(stage, LawStage) and isinstance(stage.law, Fixed) and stage.law.others:
        other = whole(round(stage.law.others[0]))
    make = _MADE.get(type(law))
    try:
        return None if make is None or other is None else make(law, raw, other)
    except ValueError:  # a division by what may be zero, as far as intervals can tell
        return None


def _line(links: tuple[Link, ...], step: float) -> tuple[Fraction, Fraction] | None:
    """The following links as a line: gain per step of the result, and offset; None where they are not linear."""
    counts = np.array([-1000.0, 0.0, 1000.0])
    block = Block(counts, counts * step, np.zeros(3, np.uint8))
    for link in links:
        _, block = link.run(link.stage.initial(), block)
    low, middle, high = block.x.tolist()
    if not np.isfinite(block.x).all() or abs((high - middle) - (middle - low)) > STRAIGHT * abs(high - low):
        return None
    gain = (Fraction(high) - Fraction(low)) / 2000
    return gain, Fraction(middle)


def _of_rows(law: Compensation, raw: Whole, other: Whole) -> Whole:
    """Horner's rule, as ``Compensation`` has it."""
    u, v = raw - law.subtract, other - law.subtract_beside

    def shifted(value: Whole, bits: int) -> Whole:
        return down(value, bits) if law.rounds == DOWN else quotient(value, 1 << bits) if bits else value

    def horner(row: tuple[int, ...]) -> Whole:
        total: Whole = whole(row[-1])
        for each in row[-2::-1]:
            total = shifted(total * v, law.shift_beside) + each
        return total

    total = horner(law.rows[-1])
    for row in law.rows[-2::-1]:
        total = shifted(total * u, law.shift) + horner(row)
    return total


def _of_steps(law: WholeSteps, raw: Whole, other: Whole) -> Whole:
    values: dict[str, Whole] = {name: whole(value) for name, value in law.constants}
    values |= {INPUT: raw, OTHER: other}
    found = raw
    for assigned in law.steps:
        found = _of_node(assigned.expression, values)
        values[assigned.name] = found
    return found


def _of_node(node: ast.expr, values: Mapping[str, Whole]) -> Whole:
    match node:
        case ast.Constant(value=int(number)):
            return whole(number)
        case ast.Name(id=name):
            return values[name]
        case ast.UnaryOp(op=op, operand=operand):
            value = _of_node(operand, values)
            return 0 - value if isinstance(op, ast.USub) else value
        case ast.IfExp(test=test, body=body, orelse=orelse):
            condition = neither(equal(_of_node(test, values), 0))
            return pick(condition, _of_node(body, values), _of_node(orelse, values))
        case ast.Compare(left=left, ops=[op], comparators=[right]):
            return pick(_COMPARED[type(op)](_of_node(left, values), _of_node(right, values)), 1, 0)
        case ast.Call(func=ast.Name(id=name), args=arguments):
            given = [_of_node(each, values) for each in arguments]
            if name == "abs":
                return most(given[0], 0 - given[0])
            return (least if name == "min" else most)(given[0], given[1])
        case ast.BinOp(left=left, op=op, right=right):
            return _COMBINED[type(op)](_of_node(left, values), _of_node(right, values))
    raise AssertionError(f"not allowed: {ast.dump(node)}")


_COMBINED: dict[type[ast.operator], Callable[[Whole, Whole], Whole]] = {
    ast.Add: lambda a, b: a + b,
    ast.Sub: lambda a, b: a - b,
    ast.Mult: lambda a, b: a * b,
    ast.Div: quotient,
    ast.FloorDiv: quotient,
    ast.RShift: lambda a, b: down(a, b.low),
    ast.LShift: lambda a, b: a * (1 << b.low),
}
_COMPARED: dict[type[ast.cmpop], Callable[[Whole, Whole], Whole]] = {
    ast.Lt: lambda a, b: a < b,
    ast.LtE: lambda a, b: a <= b,
    ast.Gt: lambda a, b: a > b,
    ast.GtE: lambda a, b: a >= b,
    ast.Eq: equal,
    ast.NotEq: lambda a, b: neither(equal(a, b)),
}
_MADE: dict[type, Callable[[Any, Whole, Whole], Whole]] = {Compensation: _of_rows, WholeSteps: _of_steps}
