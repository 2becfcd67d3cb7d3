"""A part's own compensation as its data sheet prints it: integer statements, one after another.

``v = (x >> 3) - (t1 << 1); fine = v * t2 >> 11; (fine * 5 + 128) >> 8`` with named integer constants. ``>>`` rounds
down, ``/`` truncates toward zero; every value must fit the stated width. No floats are used, so this is what the small
processor computes, to the last bit.
"""

from __future__ import annotations

import ast
from collections.abc import Callable, Mapping, Sequence
from functools import cached_property
from typing import Any

import numpy as np
import numpy.typing as npt

from lesart.core.block import Bools, Floats
from lesart.core.dataclass_later import dataclass
from lesart.core.law.formula import in_ascii, place_of
from lesart.core.law.record import Argument, Beside, LawKind
from lesart.core.parameters import ChannelName, Parameter
from lesart.core.quantity import Quantity
from lesart.core.syntax import statements_of
from lesart.core.units import Unit, parse_unit

COUNT = parse_unit("ct")
WIDTHS = ("16", "32", "64")
LONGEST, MOST_NODES = 1500, 600
SHOWN = 20
"""Characters of the mistake that a sentence shows."""
INPUT, OTHER = "x", "beside"
FUNCTIONS = {"min": 2, "max": 2, "abs": 1}
"""Functions, and how many values each takes."""
OPERATORS: tuple[type[ast.operator], ...] = (
    ast.Add,
    ast.Sub,
    ast.Mult,
    ast.Div,
    ast.FloorDiv,
    ast.RShift,
    ast.LShift,
)
COMPARISONS: tuple[type[ast.cmpop], ...] = (ast.Lt, ast.LtE, ast.Gt, ast.GtE, ast.Eq, ast.NotEq)
Whole = npt.NDArray[np.int64]
Valued = tuple[Whole, Bools]
"""Values, and where all steps so far fitted the width."""


class StepsError(ValueError):
    """A mistake in a step, counted from 1; ``at`` is the text from the mistake on."""

    def __init__(self, why: str, step: int = 0, at: str = "") -> None:
        place = f'step {step}, at "{at[:SHOWN]}"' if step else "steps"
        super().__init__(f"{place}: {why}")


@dataclass(frozen=True)
class Assigned:
    """``name`` takes the value of ``expression``; the last one is the result, whatever its name."""

    name: str
    expression: ast.expr


def parse_steps(text: str, constants: Mapping[str, int]) -> tuple[Assigned, ...]:
    """The steps in order. Raises StepsError at the first character that does not fit."""
    rows = [row for line in in_ascii(text).replace(";", "\n").split("\n") if (row := line.strip())]
    plain = "\n".join(rows)
    try:
        body = statements_of(plain).body
    except (SyntaxError, ValueError, MemoryError, RecursionError) as error:
        step = min(max(getattr(error, "lineno", 1) or 1, 1), max(len(rows), 1))
        raise StepsError("it breaks off or is wrong", step, rows[step - 1] if rows else text) from error
    if not body:
        raise StepsError("there is none; write one like (x * 5 + 128) >> 8")
    if (parts := sum(1 for each in body for _ in ast.walk(each))) > MOST_NODES:
        raise StepsError(f"{parts} parts are too many; {MOST_NODES} are the most")
    known = {INPUT, OTHER, *constants}
    found = []
    for place, each in enumerate(body):
        match each:
            case ast.Assign(targets=[ast.Name(id=name)], value=value):
                pass
            case ast.Expr(value=value) if place == len(body) - 1:
                name = ""
            case _:
                why = "it must be a name, = and whole numbers; the last step may be these alone"
                raise StepsError(why, each.lineno, rows[each.lineno - 1])
        _allowed(value, known, rows)
        if name in constants or name == INPUT:
            raise StepsError(f'"{name}" is given and cannot be worked out', each.lineno, rows[each.lineno - 1])
        known.add(name)
        found.append(Assigned(name, value))
    return tuple(found)


def _allowed(node: ast.expr, known: set[str], rows: Sequence[str]) -> None:
    match node:
        case ast.BinOp(op=op):
            why = "" if isinstance(op, OPERATORS) else "only + - * / >> and << are taken"
            if isinstance(op, ast.RShift | ast.LShift) and not _is_shift(node.right):
                why = "a shift is by a plain number from 0 to 62"
        case ast.UnaryOp(op=op):
            why = "" if isinstance(op, ast.USub | ast.UAdd) else "only + and - may come before a value"
        case ast.Compare(ops=ops, comparators=others):
            why = "" if len(others) == 1 and isinstance(ops[0], COMPARISONS) else "only two values are compared"
        case ast.IfExp():
            why = ""
        case ast.Constant(value=value):
            is_whole = isinstance(value, int) and not isinstance(value, bool) and abs(value) < 2**63
            why = "" if is_whole else f"{value!r} is not a whole number"
        case ast.Name(id=name):
            why = "" if name in known else f'"{name}" is not known here; there are {", ".join(sorted(known - {""}))}'
        case ast.Call(func=ast.Name(id=name), args=arguments, keywords=[]):
            why = (
                ""
                if FUNCTIONS.get(name) == len(arguments)
                else "only min and max of two values and abs of one are taken"
            )
        case _:
            why = "these are not whole-number steps"
    if why:
        row = rows[node.lineno - 1]
        raise StepsError(why, node.lineno, row[place_of(node, row) :])
    for child in ast.iter_child_nodes(node):
        if isinstance(child, ast.expr) and not (isinstance(node, ast.Call) and child is node.func):
            _allowed(child, known, rows)


def _is_shift(node: ast.expr) -> bool:
    return isinstance(node, ast.Constant) and isinstance(node.value, int) and 0 <= node.value <= 62


@dataclass(frozen=True)
class WholeSteps:
    """``step`` × the integer result, in ``unit_out``; NaN where a value exceeds ``bits`` bits or is divided by 0.

    Inputs are rounded to whole counts first. Inverse by bisection over counts, where the result is monotone.
    """

    text: str
    constants: tuple[tuple[str, int], ...]
    bits: int
    step: float
    unit_out: Unit
    lowest: int
    highest: int
    unit_in: Unit = COUNT

    @cached_property
    def steps(self) -> tuple[Assigned, ...]:
        """The parsed steps."""
        return parse_steps(self.text, dict(self.constants))

    def valid(self, *others: Floats) -> tuple[Floats | float, Floats | float]:
        return float(self.lowest), float(self.highest)

    def forward(self, x: Floats, *others: Floats) -> Floats:
        result, fits = self.result(x, *others)
        return np.where(fits, result * self.step, np.nan)

    def result(self, x: Floats, *others: Floats) -> Valued:
        """The integer result, and where nothing overflowed on the way."""
        inputs = np.broadcast_arrays(x, *others)
        values: dict[str, Valued] = {}
        for name, value in self.constants:
            values[name] = np.array(value, np.int64), np.array(True)
        for name, each in zip((INPUT, OTHER), inputs, strict=False):
            count = _whole(each)
            values[name] = self._fitted(count, count.astype(np.float64), np.isfinite(each))
        found = values[INPUT]
        for assigned in self.steps:
            found = self._worked(assigned.expression, values)
            values[assigned.name] = found
        shape = np.shape(inputs[0])
        return np.broadcast_to(found[0], shape), np.broadcast_to(found[1], shape)

    def _worked(self, node: ast.expr, values: Mapping[str, Valued]) -> Valued:
        match node:
            case ast.Constant(value=value):
                return np.array(value, np.int64), np.array(True)
            case ast.Name(id=name):
                return values[name]
            case ast.UnaryOp(op=op, operand=operand):
                a, fits = self._worked(operand, values)
                return self._fitted(-a, -a.astype(np.float64), fits) if isinstance(op, ast.USub) else (a, fits)
            case ast.IfExp(test=test, body=body, orelse=other):
                parts = [self._worked(each, values) for each in (test, body, other)]
                yes = parts[0][0] != 0
                chosen = np.where(yes, parts[1][0], parts[2][0])
                return chosen, parts[0][1] & np.where(yes, parts[1][1], parts[2][1])
            case ast.Compare(left=left, ops=[op], comparators=[right]):
                (a, fits_a), (b, fits_b) = self._worked(left, values), self._worked(right, values)
                return _COMPARED[type(op)](a, b).astype(np.int64), fits_a & fits_b
            case ast.Call(func=ast.Name(id=name), args=arguments):
                return self._called(name, [self._worked(each, values) for each in arguments])
            case ast.BinOp(left=left, op=op, right=right):
                (a, fits_a), (b, fits_b) = self._worked(left, values), self._worked(right, values)
                return self._combined(op, a, b, fits_a & fits_b)
        raise AssertionError(f"not allowed: {ast.dump(node)}")

    def _called(self, name: str, given: list[Valued]) -> Valued:
        fits = given[0][1] if len(given) == 1 else given[0][1] & given[1][1]
        if name == "abs":
            return self._fitted(np.abs(given[0][0]), np.abs(given[0][0].astype(np.float64)), fits)
        return (np.minimum if name == "min" else np.maximum)(given[0][0], given[1][0]), fits

    def _combined(self, op: ast.operator, a: Whole, b: Whole, fits: Bools) -> Valued:
        wide_a, wide_b = a.astype(np.float64), b.astype(np.float64)
        with np.errstate(over="ignore", divide="ignore", invalid="ignore"):
            match op:
                case ast.Add():
                    return self._fitted(a + b, wide_a + wide_b, fits)
                case ast.Sub():
                    return self._fitted(a - b, wide_a - wide_b, fits)
                case ast.Mult():
                    return self._fitted(a * b, wide_a * wide_b, fits)
                case ast.LShift():
                    return self._fitted(a << b, wide_a * 2.0**wide_b, fits)
                case ast.RShift():
                    return a >> b, fits
                case _:
                    safe = np.where(b == 0, 1, b)
                    cut = np.sign(a) * np.sign(safe) * (np.abs(a) // np.abs(safe))
                    return cut, fits & (b != 0)

    def _fitted(self, value: Whole, size: Floats, fits: Bools) -> Valued:
        """Where a value fits the width.

        ``size`` is the value as a float, which never wraps; for 64 bits exact to a part in 2^52.
        """
        if self.bits == 64:
            return value, fits & (np.abs(size) < 2.0**63)
        top = 1 << (self.bits - 1)
        return value, fits & (np.abs(size) < 2.0**62) & (value >= -top) & (value < top)

    def inverse(self, y: Floats, *others: Floats) -> Floats:
        y = np.asarray(y, np.float64)
        low, high = np.full(y.shape, float(self.lowest)), np.full(y.shape, float(self.highest))
        ends = self.forward(low, *others), self.forward(high, *others)
        rises = ends[1] >= ends[0]
        between = (y >= np.minimum(*ends)) & (y <= np.maximum(*ends))
        while (high - low > 1).any():
            middle = np.floor(0.5 * (low + high))
            beyond = (self.forward(middle, *others) > y) == rises
            low, high = np.where(beyond, low, middle), np.where(beyond, middle, high)
        nearer = np.abs(self.forward(high, *others) - y) < np.abs(self.forward(low, *others) - y)
        return np.where(between, np.where(nearer, high, low), np.nan)

    def slope(self, x: Floats, *others: Floats) -> Floats:
        """Slope over some counts to either side: that of the integer form is a staircase."""
        reach = max((self.highest - self.lowest) / 512, 1.0)
        low, high = np.maximum(np.rint(x) - reach, self.lowest), np.minimum(np.rint(x) + reach, self.highest)
        return np.asarray((self.forward(high, *others) - self.forward(low, *others)) / (high - low))


_COMPARED: dict[type[ast.cmpop], Callable[[Any, Any], Any]] = {
    ast.Lt: np.less,
    ast.LtE: np.less_equal,
    ast.Gt: np.greater,
    ast.GtE: np.greater_equal,
    ast.Eq: np.equal,
    ast.NotEq: np.not_equal,
}


def _whole(x: Floats) -> Whole:
    return np.rint(np.where(np.isfinite(x), np.clip(x, -(2.0**53), 2.0**53), 0.0)).astype(np.int64)


def _constants(written: str) -> tuple[tuple[str, int], ...]:
    found: dict[str, int] = {}
    for each in (part for part in written.replace(";", ",").split(",") if part.strip()):
        name, sign, value = (piece.strip() for piece in each.replace("−", "-").partition("="))
        if not sign or not name.isidentifier() or name in (INPUT, OTHER) or name in FUNCTIONS:
            raise ValueError(f'constants "{each.strip()[:30]}" must be a name, = and a whole number, like t1 = 27504')
        try:
            found[name] = int(value, 0)
        except ValueError as error:
            raise ValueError(f'constants "{each.strip()[:30]}" is not a whole number') from error
        if abs(found[name]) >= 2**62:
            raise ValueError(f"constant {name} does not fit 63 bits")
    return tuple(found.items())


def _steps(values: dict[str, Any]) -> Beside:
    step: Quantity = values["step"]
    if step.value == 0:
        raise ValueError("step must not be 0")
    if not values["lowest"] < values["highest"]:
        raise ValueError("lowest must be below highest")
    constants = _constants(values["constants"])
    parse_steps(values["steps"], dict(constants))
    given = values["beside"]
    if not isinstance(given, ChannelName):
        if given.unit.symbol not in ("1", "ct"):
            raise ValueError(f"beside must be a count or a channel of counts, not {given}")
        given = float(given.value)
    law = WholeSteps(
        text=values["steps"],
        constants=constants,
        bits=int(values["bits"]),
        step=float(step.value),
        unit_out=step.unit,
        lowest=values["lowest"],
        highest=values["highest"],
    )
    return Beside(law, (Argument("beside", COUNT, given),))


WHOLE_STEPS = LawKind(
    name="whole-number steps",
    title="a part's own steps in whole numbers",
    formula="name = whole numbers with + - * / >> <<; …; the last one × step is the reading",
    source="whole-number arithmetic of a given width, as data sheets print it",
    example="1000 ct, steps (x * t1 >> 10) - 4000, t1 = 6553, step 0.01 °C → 23.99 °C",
    parameters=(
        Parameter(
            "steps",
            "steps",
            "text",
            'separated by ;, the last one is the result: "v = (x >> 3) - t1; (v * t2 + 128) >> 8"',
            longest=LONGEST,
        ),
        Parameter(
            "constants", "constants", "text", 'whole numbers by name: "t1 = 27504, t2 = -26435"', "", longest=1000
        ),
        Parameter(
            "beside",
            "beside",
            "any quantity",
            "the channel of a second count, such as another quantity's fine value; 0: there is none",
            "0",
            channel=True,
            longest=60,
        ),
        Parameter("bits", "bits", "choice", "width that every value must fit, its sign included", "64", choices=WIDTHS),
        Parameter("step", "step", "any quantity", "what one step of the result is, e.g. 0.01 °C"),
        Parameter("lowest", "lowest", "integer", "count it holds from", 0, lowest=-(2**31), highest=2**31 - 1),
        Parameter("highest", "highest", "integer", "count it holds to", 65_535, lowest=-(2**31), highest=2**31 - 1),
    ),
    build=_steps,
    start=lambda unit_in, unit_out: {"steps": "x", "step": f"1 {unit_out}".removesuffix(" 1")},
)
