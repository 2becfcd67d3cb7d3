"""A formula that a person writes: safe arithmetic on the input, named constants and other channels.

The text is parsed by Python's own grammar and then walked: any node not listed here is refused, with its place. Its
units are checked before use, and it is evaluated on whole arrays.
"""

from __future__ import annotations

import ast
import unicodedata
from collections.abc import Callable, Mapping
from functools import cached_property, partial
from typing import Any

import numpy as np

from lesart.core.block import Floats
from lesart.core.dataclass_later import dataclass
from lesart.core.errors import LesartError
from lesart.core.law.curve import root_by_halving
from lesart.core.law.formula_units import Measure, measure_of_unit, measured, scale_of
from lesart.core.law.formula_words import CHOSEN, COMPARED, CONSTANTS, FUNCTIONS, JOINED, FormulaError, Function
from lesart.core.law.record import Argument, Beside, LawKind
from lesart.core.parameters import ChannelName, Parameter, is_number
from lesart.core.quantity import counted, parse_quantity
from lesart.core.syntax import expression_of
from lesart.core.units import Unit, convert, parse_unit, ratio_symbol

LONGEST, MOST_NODES, MOST_NAMES = 400, 160, 8
GRID = 257
"""Grid of inputs in which a root is bracketed."""
LARGEST = 10**300
CHECKED, NUMBERS = "checked", "plain numbers"
ONE = parse_unit("1")
Env = Mapping[str, Floats]

_ARITHMETIC: dict[type[ast.operator], Callable[[Any, Any], Any]] = {
    ast.Add: np.add,
    ast.Sub: np.subtract,
    ast.Mult: np.multiply,
    ast.Div: np.divide,
    ast.Pow: np.power,
}
_COMPARISON: dict[type[ast.cmpop], Callable[[Any, Any], Any]] = {
    ast.Lt: np.less,
    ast.LtE: np.less_equal,
    ast.Gt: np.greater,
    ast.GtE: np.greater_equal,
    ast.Eq: np.equal,
    ast.NotEq: np.not_equal,
}


def parse_formula(text: str, names: tuple[str, ...]) -> ast.expr:
    """The syntax tree of a formula over ``names``. Raises FormulaError with the character where it fails."""
    if not text.strip():
        raise FormulaError("it is empty; write one like 2 * x + 1", text, 0)
    if len(text) > LONGEST:
        raise FormulaError(f"it has {len(text)} characters; {LONGEST} are the most", text, LONGEST)
    plain = in_ascii(text)
    odd = next((place for place, letter in enumerate(text) if not letter.isprintable()), None)
    if odd is not None:
        raise FormulaError(f"{text[odd]!r} is not part of a formula", ascii(text), odd)
    try:
        tree = expression_of(plain).body
    except SyntaxError as error:
        place = error.offset - 1 if error.offset else len(plain)
        raise FormulaError("the formula breaks off or is wrong here", plain, place) from error
    except (ValueError, MemoryError, RecursionError) as error:
        raise FormulaError("it cannot be read", plain, 0) from error
    count = sum(1 for _ in ast.walk(tree))
    if count > MOST_NODES:
        raise FormulaError(f"it has {counted(count, 'part')}; {MOST_NODES} are the most", plain, 0)
    _allowed(tree, names, plain)
    return tree


def in_ascii(text: str) -> str:
    """The text with arithmetic signs as the parser knows them, each in its place."""
    return text.translate(str.maketrans("−·×÷", "-**/"))


def place_of(node: ast.AST, text: str) -> int:
    """The character at which a node begins; the parser itself counts bytes."""
    return len(text.encode()[: getattr(node, "col_offset", 0)].decode(errors="ignore"))


def _allowed(node: ast.AST, names: tuple[str, ...], text: str) -> None:
    """Raises FormulaError at the first node that is not part of a formula."""
    match node:
        case ast.BinOp(op=op) if type(op) not in _ARITHMETIC:
            refused = "only + - * / and ** are taken"
        case ast.UnaryOp(op=op) if not isinstance(op, ast.UAdd | ast.USub | ast.Not):
            refused = "only + - and not may come before a value"
        case ast.BinOp() | ast.UnaryOp() | ast.BoolOp() | ast.IfExp():
            refused = ""
        case ast.Compare(ops=ops):
            refused = "" if all(type(op) in _COMPARISON for op in ops) else "only < <= > >= == and != compare"
        case ast.Constant(value=value):
            number = isinstance(value, int | float) and not isinstance(value, bool) and abs(value) < LARGEST
            refused = "" if number else f"{text[place_of(node, text) :][:20]} is not a number, or too large for one"
        case ast.Name(id=name):
            known = (*names, *CONSTANTS)
            refused = "" if name in known else f'"{name}" is not a name here; there are {", ".join(known)}'
        case ast.Call(func=ast.Name(id=name), args=arguments, keywords=keywords):
            refused = _call_refused(name, len(arguments), bool(keywords))
        case _:
            refused = "this is not arithmetic"
    if refused:
        raise FormulaError(refused, text, place_of(node, text))
    for child in ast.iter_child_nodes(node):
        if isinstance(child, ast.expr) and not (isinstance(node, ast.Call) and child is node.func):
            _allowed(child, names, text)


def _call_refused(name: str, count: int, has_names: bool) -> str:
    if name not in FUNCTIONS:
        return f'"{name}" is not a function here; there are {", ".join(FUNCTIONS)}'
    function: Function = FUNCTIONS[name]
    if has_names or not function.fewest <= count <= function.most:
        many = str(function.fewest) if function.fewest == function.most else f"{function.fewest} or more"
        return f"{name} takes {many} value{'' if many == '1' else 's'}"
    return ""


def evaluated(node: ast.expr, env: Env) -> Any:
    """The value of an allowed tree with arrays for its names; logic is 0 and 1."""
    match node:
        case ast.BinOp(left=left, op=op, right=right):
            return _ARITHMETIC[type(op)](evaluated(left, env), evaluated(right, env))
        case ast.UnaryOp(op=op, operand=operand):
            value = evaluated(operand, env)
            return np.logical_not(value) if isinstance(op, ast.Not) else -value if isinstance(op, ast.USub) else value
        case ast.BoolOp(op=op, values=values):
            each = [evaluated(value, env) for value in values]
            return (np.logical_and if isinstance(op, ast.And) else np.logical_or).reduce(np.broadcast_arrays(*each))
        case ast.Compare(left=left, ops=ops, comparators=comparators):
            sides = [evaluated(side, env) for side in (left, *comparators)]
            held = [_COMPARISON[type(op)](a, b) for op, a, b in zip(ops, sides, sides[1:], strict=False)]
            return np.logical_and.reduce(np.broadcast_arrays(*held))
        case ast.IfExp(test=test, body=body, orelse=other):
            condition = evaluated(test, env)
            return np.where(condition, evaluated(body, env), evaluated(other, env))
        case ast.Constant(value=value):
            return np.float64(value)  # type: ignore[arg-type]
        case ast.Name(id=name):
            return env[name] if name in env else np.float64(CONSTANTS[name])
        case ast.Call(func=ast.Name(id=name), args=arguments):
            return FUNCTIONS[name].compute(*(evaluated(argument, env) for argument in arguments))
    raise AssertionError(f"not allowed: {ast.dump(node)}")


@dataclass(frozen=True)
class Formula:
    """output = the formula's value; ``x`` is the input, ``names`` the constants with their values, ``beside`` channels.

    With ``is_checked`` all values are in the coherent SI unit, temperatures in kelvin, and the result is converted to
    ``unit_out``; else they are plain numbers in the units they are written in. Inverse by a bracketed root between
    ``lowest`` and ``highest``, the first where there are several; slope by central differences.
    """

    text: str
    unit_in: Unit
    unit_out: Unit
    constants: tuple[tuple[str, float], ...]
    beside: tuple[tuple[str, Unit], ...]
    is_checked: bool
    lowest: float
    highest: float

    @cached_property
    def _tree(self) -> ast.expr:
        return parse_formula(self.text, ("x", *(name for name, _ in (*self.constants, *self.beside))))

    def valid(self, *others: Floats) -> tuple[Floats | float, Floats | float]:
        return self.lowest, self.highest

    def forward(self, x: Floats, *others: Floats) -> Floats:
        env: dict[str, Floats] = {name: np.array(value) for name, value in self.constants}
        env["x"] = self._inside(x, self.unit_in)
        for (name, unit), value in zip(self.beside, others, strict=True):
            env[name] = self._inside(value, unit)
        with np.errstate(all="ignore"):
            found = np.asarray(evaluated(self._tree, env), np.float64)
        if self.is_checked:
            found = (found - float(self.unit_out.offset_k)) / scale_of(self.unit_out)
        wide: Floats = found + 0.0 * x
        return wide

    def _inside(self, value: Floats, unit: Unit) -> Floats:
        return value * scale_of(unit) + float(unit.offset_k) if self.is_checked else value

    def inverse(self, y: Floats, *others: Floats) -> Floats:
        y = np.atleast_1d(np.asarray(y, np.float64))
        grid = np.linspace(self.lowest, self.highest, GRID)
        found = np.full(y.shape, np.nan)
        for place, wanted in enumerate(y.tolist()):
            here = tuple(other[place : place + 1] if len(other) > 1 else other for other in others)
            off = self.forward(grid, *here) - wanted
            crossing = np.flatnonzero((off[:-1] <= 0) & (off[1:] >= 0) | (off[:-1] >= 0) & (off[1:] <= 0))
            if len(crossing):
                low, high = grid[crossing[0]], grid[crossing[0] + 1]
                found[place] = self._root(wanted, float(low), float(high), here)
        return found

    def _root(self, wanted: float, low: float, high: float, others: tuple[Floats, ...]) -> float:
        def of(x: Floats) -> Floats:
            return self.forward(x, *others)

        return float(root_by_halving(of, np.array([wanted]), np.array([low]), np.array([high]))[0])

    def slope(self, x: Floats, *others: Floats) -> Floats:
        step = 1e-6 * np.maximum(np.abs(x), 1e-3 * (self.highest - self.lowest))
        low, high = np.maximum(x - step, self.lowest), np.minimum(x + step, self.highest)
        slope: Floats = (self.forward(high, *others) - self.forward(low, *others)) / (high - low)
        return slope


@dataclass(frozen=True)
class _Names:
    constants: tuple[tuple[str, float], ...]
    arguments: tuple[Argument, ...]
    measures: dict[str, Measure]


def _names(written: str, checked: bool) -> _Names:
    """``k = 4.7 kΩ; t = yard air in °C``: constants with their units, channels with the unit they are taken in."""
    constants, arguments, measures = [], [], {}
    entries = [each for each in written.split(";") if each.strip()]
    if len(entries) > MOST_NAMES:
        raise ValueError(f"names has {len(entries)} entries; {MOST_NAMES} are the most")
    for entry in entries:
        name, sign, given = (part.strip() for part in entry.partition("="))
        if not sign or not name.isidentifier() or not given:
            raise ValueError(f'names: "{entry.strip()[:30]}" is not written like "k = 4.7 kΩ" or "t = yard air in °C"')
        if name == "x" or name in measures or name in FUNCTIONS or name in CONSTANTS or name in CHOSEN:
            raise ValueError(f'names: "{name}" is taken; choose another name')
        name = unicodedata.normalize("NFKC", name)  # as the parser reads it
        if is_number(given):
            quantity = _read(name, partial(parse_quantity, given, ONE))
            unit = quantity.unit
            value = float(quantity.value)
            constants.append((name, value * scale_of(unit) + float(unit.offset_k) if checked else value))
        else:
            channel, in_, symbol = given.rpartition(" in ")
            if not in_:
                raise ValueError(f'names: say in which unit channel "{given[:30]}" is taken: "{name} = {given} in °C"')
            unit = _read(name, partial(parse_unit, symbol.strip()))
            arguments.append(Argument(name, unit, ChannelName(channel.strip())))
        measures[name] = measure_of_unit(unit)
    return _Names(tuple(constants), tuple(arguments), measures)


def _read(name: str, read: Callable[[], Any]) -> Any:
    """The values of the names. Raises ValueError with the name whose value cannot be read."""
    try:
        return read()
    except LesartError as error:
        raise ValueError(f"names, {name}: {str(error).rstrip('.')}") from error


def _formula(values: dict[str, Any]) -> Beside:
    checked = values["units"] == CHECKED
    names = _names(values["names"], checked)
    unit_in, unit_out, text = values["from"], values["to"], values["formula"].strip()
    low, high = (_end(values[end], unit_in, end) for end in ("lowest", "highest"))
    if not low < high:
        raise ValueError("lowest must be below highest")
    tree = parse_formula(text, ("x", *names.measures))
    if checked:
        found = measured(tree, {"x": measure_of_unit(unit_in), **names.measures}, in_ascii(text))
        wanted = measure_of_unit(unit_out)
        if not found.fits(wanted):
            raise ValueError(f"formula gives {found.says}, and its result is to be in {unit_out}")
    law = Formula(
        text=text,
        unit_in=unit_in,
        unit_out=unit_out,
        constants=names.constants,
        beside=tuple((each.name, each.unit) for each in names.arguments),
        is_checked=checked,
        lowest=low,
        highest=high,
    )
    return Beside(law, names.arguments)


def _end(quantity: Any, unit: Unit, name: str) -> float:
    if quantity.unit.symbol == "1":
        return float(quantity.value)
    if not quantity.unit.same_dimension(unit):
        raise ValueError(f"{name} must be in {unit}, as the input, not {quantity}")
    return float(convert(float(quantity.value), quantity.unit, unit))


_WORDS = ", ".join((*FUNCTIONS, *CONSTANTS))


def _start(unit_in: Unit, unit_out: Unit) -> dict[str, str]:
    """Start values: ``x`` unchanged, or one of the wanted unit per input unit; a temperature counts from 0."""
    units = {"from": unit_in.symbol, "to": unit_out.symbol}
    if unit_in.same_dimension(unit_out):
        return {"formula": "x", "names": "", **units}
    given, names = "x", [f"per = 1 {ratio_symbol(unit_out, unit_in)}"]
    if unit_in.is_temperature:
        given, names = "(x - low)", [*names, f"low = 0 {unit_in}"]
    formula = f"{given} * per"
    if unit_out.is_temperature:
        formula, names = f"start + {formula}", [*names, f"start = 0 {unit_out}"]
    return {"formula": formula, "names": "; ".join(names), **units}


FORMULA = LawKind(
    name="formula",
    title="a formula of your own",
    formula=f"output = of x, the input: + - * / **, {COMPARED}, {JOINED}, a if c else b, {_WORDS}",
    source="whoever wrote it",
    example="2 V, formula x / r, names r = 10 Ω → 0.2 A",
    parameters=(
        Parameter("formula", "formula", "text", "of x, the input, and the names", longest=LONGEST),
        Parameter(
            "names",
            "names",
            "text",
            'constants and channels, "r = 4.7 kΩ; t = yard air in °C"',
            "",
            longest=LONGEST,
            names="formula",
        ),
        Parameter(
            "units",
            "units",
            "choice",
            "checked, or taken as plain numbers as a data sheet's formula does",
            CHECKED,
            choices=(CHECKED, NUMBERS),
        ),
        Parameter("from", "from", "unit", "unit of x", "1"),
        Parameter("to", "to", "unit", "unit of the result", "1"),
        Parameter("lowest", "lowest", "any quantity", "input it holds from; a bare number is in its unit", "0"),
        Parameter("highest", "highest", "any quantity", "input it holds to", "65535"),
    ),
    build=_formula,
    start=_start,
)
