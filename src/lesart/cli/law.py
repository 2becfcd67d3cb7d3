"""``lesart law``: list all laws, or evaluate one, forwards or backwards."""

from __future__ import annotations

import argparse
import math
from typing import Any

import numpy as np

from lesart.cli.printed.answer import number, print_json
from lesart.core import law
from lesart.core.dataclass_later import dataclass
from lesart.core.errors import LesartError, RequestError
from lesart.core.law.record import Law, LawKind
from lesart.core.law.stage import LawStage, stage_of
from lesart.core.parameters import ChannelName, Parameter, read_table
from lesart.core.quantity import beside_unit, format_quantity, slope_unit_said
from lesart.core.raw.spelled.unit_typed import in_symbols, quantity_typed, whole_said
from lesart.core.units import Unit, parse_unit
from lesart.core.wire.catalogue import KINDS as PARTS
from lesart.core.wire.part import Part
from lesart.desk.entries.typed_values import meant


def run(options: argparse.Namespace) -> int:
    """List, explain or evaluate; 1 where a value is outside the law's range."""
    if options.kind is None:
        _list(as_json=options.json)
        return 0
    kind = _kind(options.kind)
    if not options.values:
        _explain(kind, as_json=options.json)
        return 0
    built = _built(kind, options.set)
    points = [_point(built, written, inverse=options.inverse) for written in options.values]
    if options.json:
        found = [{"x": number(each.x), "y": number(each.y), "slope": number(each.slope)} for each in points]
        unit_in, unit_out = built.unit_in.symbol, built.unit_out.symbol
        print_json({"kind": kind.name, "points": found, "unit_in": unit_in, "unit_out": unit_out})
    else:
        for each in points:
            print(_said(built, each, inverse=options.inverse))
    return int(not all(each.is_known for each in points))


@dataclass(frozen=True)
class _Point:
    """``x`` in, ``y`` out and the slope there; ``typed`` is the given one. NaN where unknown."""

    typed: float
    x: float
    y: float = math.nan
    slope: float = math.nan

    @property
    def is_known(self) -> bool:
        """True where the law has a result for it."""
        return math.isfinite(self.x) and math.isfinite(self.y)


def _said(built: Law, point: _Point, *, inverse: bool) -> str:
    """A line for a person: the result, or why there is none."""
    unit_in, unit_out = built.unit_in, built.unit_out
    typed = format_quantity(point.typed, unit_out if inverse else unit_in, 9)
    if point.is_known:
        of_slope = slope_unit_said(unit_out.symbol, unit_in.symbol)
        slope = beside_unit(f"{point.slope:.6g}".replace("-", "−"), of_slope)
        return f"{format_quantity(point.x, unit_in, 9)} → {format_quantity(point.y, unit_out, 9)}   slope {slope}"
    low, high = built.valid_in
    holds = f"{format_quantity(low, unit_in, 6)} to {format_quantity(high, unit_in, 6)}"
    if not math.isfinite(point.x):
        return f"{typed} → no input gives that; the law holds for {holds}"
    if low <= point.x <= high:
        return f"{typed} → no finite value, though it lies within {holds}, where the law holds"
    told = f"{format_quantity(point.x, unit_in, 9)} is " if inverse else ""
    return f"{typed} → {told}outside {holds}, where the law holds"


def _list(*, as_json: bool) -> None:
    if as_json:
        print_json({"kinds": [{"kind": name, "title": kind.title} for name, kind in law.KINDS.items()]})
        return
    width = max(map(len, law.KINDS))
    print("\n".join(f"{name:<{width}}  {kind.title}" for name, kind in law.KINDS.items()))


def _kind(name: str) -> LawKind:
    if name in law.KINDS:
        return law.KINDS[name]
    hint = meant(name, law.KINDS) or f"there are {', '.join(law.KINDS)}."
    raise RequestError(f'"{name}" is not a law; {hint}')


def _asked(kind: LawKind) -> tuple[Parameter, ...]:
    """Settable values: a law's own parameters, and those of a part in place of a part's name."""
    own = [parameter for parameter in kind.parameters if parameter.kind != "part"]
    for parameter in kind.parameters:
        if parameter.kind == "part":
            own += PARTS[parameter.choices[0]].parameters
    return tuple(own)


def _explain(kind: LawKind, *, as_json: bool) -> None:
    if as_json:
        parameters = [
            {"name": each.name, "help": each.help, "wanted": each.wanted, "default": each.default}
            for each in _asked(kind)
        ]
        told = {"kind": kind.name, "title": kind.title, "formula": kind.formula, "source": kind.source}
        print_json({**told, "example": kind.example, "parameters": parameters})
        return
    print(f"{kind.name}: {kind.title}\n  {kind.formula}\n  source: {kind.source}\n  example: {kind.example}")
    for parameter in _asked(kind):
        usual = "must be set" if parameter.default is None else f"default {parameter.default}"
        print(f"  --set {parameter.name}=…   {parameter.help}; {parameter.wanted} ({usual})")


def _built(kind: LawKind, settings: list[str]) -> Law:
    """The law with its values. Raises RequestError with every problem in them."""
    table: dict[str, Any] = {}
    asked = {parameter.name: parameter for parameter in _asked(kind)}
    for setting in settings:
        name, sign, written = setting.partition("=")
        if not sign:
            raise RequestError(f'--set "{setting}": write it NAME=VALUE, like reference=3.3V.')
        table[name] = _value(asked.get(name), written)
    values, problems = read_table(asked.values(), table, "")
    if problems:
        raise RequestError(*(f"{problem}".lstrip(".") for problem in problems))
    for parameter in kind.parameters:
        if parameter.kind == "part":
            part_kind = PARTS[parameter.choices[0]]
            own = {each.name: values[each.name] for each in part_kind.parameters}
            values[parameter.name] = Part(parameter.name, part_kind, own)
    named = next((name for name, value in values.items() if isinstance(value, ChannelName)), None)
    if named is not None:
        raise RequestError(f'--set {named}="{values[named]}": channels exist in a project only; give a number here.')
    try:
        stage = stage_of(kind.name, kind.build(values))
        if not isinstance(stage, LawStage):
            said = "it works on windows of a signal, on what came before or on channels, not on single values"
            raise RequestError(f"{kind.name}: {said}.")
        return stage.law
    except ValueError as error:
        raise RequestError(f"{kind.name}: {error}.") from error


def _value(parameter: Parameter | None, written: str) -> Any:
    if parameter is not None and parameter.kind == "flag" and written in ("true", "false"):
        return written == "true"
    number = whole_said(written)
    if parameter is not None and parameter.kind == "integer" and number is not None:
        return number
    if parameter is not None and parameter.kind == "quantity":
        written = in_symbols(written, parse_unit(parameter.unit))
    if parameter is not None and parameter.kind == "quantity" and _is_bare(written):
        # On a command line a bare number is in the parameter's unit; in a file it would be a label.
        return f"{written} {parameter.unit}".removesuffix(" 1")
    return written


def _is_bare(written: str) -> bool:
    try:
        float(written)
    except ValueError:
        return False
    return True


def _point(built: Law, written: str, *, inverse: bool) -> _Point:
    """x, y and slope of a value; NaN outside the law's range. Raises RequestError."""
    typed = _typed(written, built.unit_out if inverse else built.unit_in)
    with np.errstate(all="ignore"):
        x = float(built.inverse(np.array([typed]))[0]) if inverse else typed
        low, high = built.valid_in
        if not low <= x <= high:
            return _Point(typed, x)
        at = np.array([x])
        return _Point(typed, x, float(built.forward(at)[0]), float(built.slope(at)[0]))


def _typed(written: str, unit: Unit) -> float:
    try:
        return float(quantity_typed(written, unit).to(unit))
    except LesartError as error:
        raise RequestError(f'"{written}": {error}') from error
