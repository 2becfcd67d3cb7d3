"""Equations of data sheets that say what is measured by what is wanted, solved for the latter.

``Vout = Vs * (0.018 * P + 0.04)`` of a pressure sensor, ``F = 8.1 * Q - 6`` of a flow meter: taken as they stand they
would be the law the other way round.
"""

from __future__ import annotations

import ast
import re
from collections.abc import Set

from lesart.core.dataclass_later import dataclass
from lesart.core.errors import RequestError
from lesart.core.quantity import beside_unit, plain_number
from lesart.core.raw.spelled.unit_said import unit_said
from lesart.core.units import parse_unit
from lesart.desk.entries.aloud.reckoned.volts_named import USUAL_V

VOLT = parse_unit("V")
VOLTS, HERTZ, COUNTS = "volts", "hertz", "counts"
_LEFT = (
    (VOLTS, r"V(?:[\s_]?(?:out|o))?|U(?:[\s_]?out)?|(?:output\s+)?volt(?:s|age)(?:\s+out)?|vout"),
    (HERTZ, r"F|freq(?:uency)?|(?:pulse\s+)?frequency|pulses?"),
    (COUNTS, r"counts?|adc|raw|LSB|digits?"),
)
_EQUATION = re.compile(
    rf"^(?:[A-Za-z][\w .-]*?[\s:,]+)?(?:{'|'.join(f'(?P<{name}>{pattern})' for name, pattern in _LEFT)})"
    r"(?:\s*\((?:in\s+)?m?(?:V|Hz|volts?|hertz)\))?\s*=\s*(?P<formula>[^=<>]+?)"
    r"(?:\s+\(?(?P<unit>[^\W\d_][^\s()]*|[°%µ]\S*)\)?)?\s*;?$",
    re.IGNORECASE,
)
_FLOW = re.compile(
    r"^(?:[A-Za-z][\w .-]*?[\s:,]+)?(?:Q|flow(?:\s+rate)?)\s*(?:\((?P<unit>L/\w+)\))?\s*=\s*"
    r"(?P<formula>[^=<>]*(?<![A-Za-z])(?P<hertz>[Ff]|freq(?:uency)?)(?![A-Za-z])[^=<>]*)$",
    re.IGNORECASE,
)
"""``Q = F / 7.5``, which is the law itself, of hertz."""
_NUMBER = r"\d+(?:[.,]\d+)?"
_SORT = r"(?:[A-Za-z][\w .-]*?[\s:,]+)?"
_ONE_POINT = re.compile(
    rf"^{_SORT}(?:(?P<volts>{_NUMBER})\s*(?P<milli>m)?V|"
    r"(?P<all>255|1023|1024|4095|4096|65535|65536)(?:\s*(?:counts?|ct))?)"
    rf"\s*(?:=|is|are|means?|at|→|->)\s*(?P<means>{_NUMBER})\s*(?P<unit>[^\W\d_][^\s,;=]*|[°%µ]\S*)(?:\s+saturation)?$",
    re.IGNORECASE,
)
_PER_INDEX = re.compile(
    rf"^{_SORT}(?P<volts>{_NUMBER})\s*(?P<milli>m)?V\s*(?:/|per)\s*(?:UVI|(?:UV\s*)?index)(?:\s+units?)?$",
    re.IGNORECASE,
)
_SUPPLY = re.compile(r"^V(?:s|cc|dd|ref|supply|in|s?upply)$", re.IGNORECASE)
WANTED = {
    "t": "°C",
    "temp": "°C",
    "temperature": "°C",
    "rh": "%",
    "humidity": "%",
    "i": "A",
    "current": "A",
    "q": "L/min",
    "flow": "L/min",
    "ph": "pH",
    "lux": "lx",
    "uvi": "1",
    "uv": "1",
    "ppm": "ppm",
    "p": "",
    "pressure": "",
    "b": "",
    "field": "",
    "a": "",
    "acceleration": "",
    "d": "",
    "distance": "",
    "h": "",
    "level": "",
    "force": "",
    "weight": "",
    "speed": "",
    "g": "gn",
}
"""What data sheets call quantities, and the unit of those that mostly have one."""
_OF_HERTZ = frozenset(("q", "flow"))
_TIMES = re.compile(r"(?<=[\d\w)])\s*[×·]\s*(?=[\w(])|(?<=[\w)])\s+x\s+(?=[\w(])")
_FACTOR = re.compile(r"(?<=\d)\s*(?=[A-Za-z(])|(?<=\))\s*(?=[A-Za-z(])")


@dataclass(frozen=True)
class Solved:
    """``by`` is what is measured: volts, hertz or counts are ``gain`` times what is wanted, and ``zero``; that is
    called ``name``, in ``unit``. ``taken`` tells what is taken for granted."""

    by: str
    gain: float
    zero: float
    name: str
    unit: str
    taken: str = ""

    def formula(self, reading: str) -> str:
        """What is wanted, of the reading."""
        sign = "+" if self.zero < 0 else "-"
        less = f"({reading} {sign} {abs(self.zero):.12g})" if self.zero else reading
        return f"{self.name} ({self.unit}) = {less} / {self.gain:.12g}"


def solved(typed: str, channels: Set[str]) -> Solved | None:
    """The equation solved; None for any other line, and where a channel is named in it.

    Raises RequestError where nobody can know the unit of what is wanted.
    """
    if (flow := _FLOW.match(typed.strip())) is not None and not channels & {"F", "f", "Q"}:
        line = _line_of(flow["formula"], flow["hertz"])
        return Solved(HERTZ, 1 / line[0], -line[1] / line[0], "flow", flow["unit"] or "L/min") if line else None
    if (point := _one_point(typed)) is not None:
        return point
    found = _EQUATION.match(typed.strip())
    if found is None:
        return None
    by = next(name for name, _ in _LEFT if found[name])
    text, behind = found["formula"], found["unit"] or ""
    is_factor = text.rstrip()[-1] in "+-−*/×·(^" or (by == VOLTS and behind in ("V", "mV"))
    if behind and (is_factor or unit_said(behind) is None):
        text, behind = f"{text} {behind}", ""
    tree = _tree(_without_units(text))
    names = {each.id for each in ast.walk(tree) if isinstance(each, ast.Name)} if tree is not None else set()
    supplies = {each for each in names if _SUPPLY.match(each)} if by == VOLTS else set()
    wanted = names - supplies
    if tree is None or len(wanted) != 1 or names & set(channels):
        return None
    (name,) = wanted
    if name.lower() not in WANTED or (by == HERTZ and name.lower() not in _OF_HERTZ):
        return None
    line = _line(tree.body, name, USUAL_V)
    if line is None or not line[0]:
        return None
    unit = behind or WANTED[name.lower()]
    if not unit:
        raise RequestError(f'"{typed.strip()}": say the unit of {name} behind it, like {typed.strip()} kPa.')
    supply = f"; {', '.join(sorted(supplies))} is taken as {plain_number(USUAL_V)} V" if supplies else ""
    return Solved(by, line[0], line[1], _called(name), unit, supply)


_ECHO = re.compile(
    r"^(?:(?:echo|duration|pulse|time|us|µs|microseconds)\s*)+/\s*(?P<by>5[789](?:\.\d+)?|14[789](?:\.\d+)?)"
    r"(?:\s*(?:in\s+)?(?P<unit>cm|in|inch(?:es)?))?\s*;?$",
    re.IGNORECASE,
)


def echo_said(typed: str) -> str:
    """``duration / 58``, microseconds there and back, as centimetres, or by 148 as inches; empty for other lines."""
    found = _ECHO.match(typed.strip())
    unit = ("cm" if found["by"].startswith("5") else "in") if found is not None else ""
    if found is None or (found["unit"] and not found["unit"].lower().startswith(unit)):
        return ""
    return f"distance ({unit}) = x / {found['by']}"


def _one_point(typed: str) -> Solved | None:
    """``1 V = 10 kPa``, ``0.1 V per UV index`` and ``1023 = 100 kPa``: through nothing at 0; None for other lines."""
    if (found := _PER_INDEX.match(typed.strip())) is not None:
        return Solved(VOLTS, _volts(found["volts"], found["milli"]), 0.0, "index", "1")
    found = _ONE_POINT.match(typed.strip())
    unit = unit_said(found["unit"]) if found is not None else None
    if found is None or unit is None or not float(found["means"].replace(",", ".")):
        return None
    means = float(found["means"].replace(",", "."))
    by, most = (VOLTS, _volts(found["volts"], found["milli"])) if found["volts"] else (COUNTS, float(found["all"] or 0))
    if not most or (by == VOLTS and unit.same_dimension(VOLT)):
        return None
    nothing = "0 V" if by == VOLTS else "0"
    return Solved(
        by, most / means, 0.0, "result", found["unit"], f"; {nothing} is taken as {beside_unit('0', found['unit'])}"
    )


def _volts(number: str, milli: str) -> float:
    return float(number.replace(",", ".")) * (1e-3 if milli else 1.0)


def _line_of(text: str, name: str) -> tuple[float, float] | None:
    """Slope, which is not 0, and offset of a text in ``name``; None for anything else."""
    tree = _tree(text)
    names = {each.id for each in ast.walk(tree) if isinstance(each, ast.Name)} if tree is not None else set()
    line = _line(tree.body, name, USUAL_V) if tree is not None and names == {name} else None
    return line if line is not None and line[0] else None


def _called(name: str) -> str:
    """A name that no unit is mistaken for."""
    return name if len(name) > 1 else "result"


def _without_units(text: str) -> str:
    """Volts as bare numbers, and without what they are for: ``20 mV/°C * T``."""
    text = re.sub(r"(?<=\d)\s*mV(?![A-Za-z])", " * 0.001", text)
    text = re.sub(r"(?<=\d)\s*V(?![A-Za-z])", "", text)
    return re.sub(r"(?<=\d)\s*/\s*(?:°\s*[CF]|[A-Za-z%]+)(?=\s*[*×·])", "", text)


def _tree(text: str) -> ast.Expression | None:
    factors = _FACTOR.sub(" * ", _TIMES.sub(" * ", text.replace("−", "-")))
    try:
        return ast.parse(factors.strip(), mode="eval")
    except (SyntaxError, ValueError, MemoryError, RecursionError):
        return None


def _line(node: ast.expr, name: str, supply: float) -> tuple[float, float] | None:
    """Slope and offset of an expression in ``name``; None for one that is no straight line."""
    if isinstance(node, ast.Constant) and isinstance(node.value, int | float):
        return 0.0, float(node.value)
    if isinstance(node, ast.Name):
        return (1.0, 0.0) if node.id == name else (0.0, supply)
    if isinstance(node, ast.UnaryOp) and isinstance(node.op, ast.USub | ast.UAdd):
        inner = _line(node.operand, name, supply)
        sign = -1.0 if isinstance(node.op, ast.USub) else 1.0
        return (sign * inner[0], sign * inner[1]) if inner is not None else None
    if not isinstance(node, ast.BinOp):
        return None
    one, other = _line(node.left, name, supply), _line(node.right, name, supply)
    return _joined(node.op, one, other) if one is not None and other is not None else None


def _joined(sign: ast.operator, one: tuple[float, float], other: tuple[float, float]) -> tuple[float, float] | None:
    if isinstance(sign, ast.Add):
        return one[0] + other[0], one[1] + other[1]
    if isinstance(sign, ast.Sub):
        return one[0] - other[0], one[1] - other[1]
    if isinstance(sign, ast.Mult) and not (one[0] and other[0]):
        return one[0] * other[1] + one[1] * other[0], one[1] * other[1]
    if isinstance(sign, ast.Div) and not other[0] and other[1]:
        return one[0] / other[1], one[1] / other[1]
    return None
