"""An expression of a reading: a straight line where it is linear, else a formula whose unit follows."""

from __future__ import annotations

import ast
import math
import re
from collections.abc import Callable, Mapping
from dataclasses import replace
from fractions import Fraction

import numpy as np

from lesart.core.block import Floats
from lesart.core.dataclass_later import dataclass
from lesart.core.errors import LesartError, RequestError
from lesart.core.law.formula import evaluated, in_ascii, parse_formula
from lesart.core.law.formula_units import Measure, measure_of_unit, measured
from lesart.core.law.formula_words import FUNCTIONS
from lesart.core.quantity import Quantity
from lesart.core.raw.spelled.unit_said import unit_said
from lesart.core.raw.spelled.unit_typed import quantity_typed
from lesart.core.units import Unit, conversion, parse_unit, ratio_symbol
from lesart.desk.entries.aloud.article import without_article
from lesart.desk.entries.aloud.reckoned.pasted import chosen, names_in, of_program, reading_named, simplified
from lesart.desk.entries.aloud.reckoned.results import (
    OF_ITSELF,
    OF_QUANTITIES,
    PLAIN,
    may_be_of_another_kind,
    unit_of_result,
    what_would_tell,
)
from lesart.desk.entries.aloud.reckoned.units_behind import (
    reading_by_its_unit,
    with_its_quantity,
    without_its_unit,
    without_units,
)
from lesart.desk.entries.said.patterns import NO_UNIT, any_case

REACH = 100.0
"""Times the greatest value, to either side: the valid range of a formula."""
USUAL = ("1", "V", "A", "W", "Wh", "Ah", "Ω", "Hz", "m", "m^2", "m^3", "m/s", "m/s^2", "kg", "N", "N·m", "Pa", "J", "s")
"""Usual units of a result that has none of the input units."""
ROUNDED = ("floor", "ceil", "round")
"""Functions that keep the unit."""
CORRECTED = (0.5, 2.0)
"""Relative change up to which a result is a correction of the same quantity."""
ROUGHLY = 2e-3
"""Share by which factors of a conversion between units may be rounded: 0.5556, 0.75006."""
LETTERS = "opqrtuvw"
"""Letters for other channels in a formula."""
_OF_VOLTS = re.compile(
    r"v|volts?|voltage|v_?(?:out|in|sens(?:or)?|adc|pin|meas(?:ured)?|read|a\d)|(?:adc|sensor|pin)_?v(?:olt(?:s|age)?)?",
    re.IGNORECASE,
)
_OF_COUNTS = re.compile(r"adc(?:_?(?:val(?:ue)?|count|raw|reading))?$|counts?$|analogRead", re.IGNORECASE)
_OF_ANOTHER = re.compile(rf"{_OF_VOLTS.pattern}|adc|counts?", re.IGNORECASE)
_NAMED = re.compile(r"(?P<what>[A-Za-z_µΩ°%][\w /·²³%°^()\[\]]{0,30}?)\s*=\s*(?=[^=])")
_DEGREES = re.compile(r"(?P<into>[CFK])\s*=\s*(?P<made>(?=[^A-Za-z]*(?P<of>[CFK])(?![\w.]))[^A-Za-z]*[CFK][^A-Za-z]*)")
_WHOLE = re.compile(r"\b0[xX][\da-fA-F]{1,16}\b|\b0[bB][01]{1,64}\b")
_THOUSANDS = re.compile(r"(?<![\w.])(\d+(?:\.\d+)?)\s?([kM])(?![A-Za-zΩ])")
_BEFORE = re.compile(r"(?<![\w.])(\d+(?:\.\d+)?)\s*(?=[A-Za-z_(])(?![eE][-+]?\d|(?:if|else|and|or)\b)")
_IF = re.compile(r"if\s+(?P<test>.+?),?\s+then\s+(?P<yes>.+?),?\s+else\s+(?P<no>.+)", re.IGNORECASE)


@dataclass(frozen=True)
class Reckoned:
    """A law by its kind, with its values as the project file has them."""

    kind: str
    values: Mapping[str, str]
    told: str = ""
    """A sentence after what was done."""


def shown_in(typed: str, unit: Unit) -> RequestError:
    return RequestError(
        f'"{typed.strip()}": in which unit a reading is shown is a rule of its field; U goes through them, and + in 6 '
        f"Fit takes in {unit}."
    )


def _is_bare(node: ast.AST) -> bool:
    """True for a logarithm, an exponential or a trigonometric function, perhaps with a factor or an offset."""
    match node:
        case ast.Expression(body=body):
            return _is_bare(body)
        case ast.UnaryOp(operand=operand):
            return _is_bare(operand)
        case ast.BinOp(left=left, right=right):
            return (_is_bare(left) and isinstance(right, ast.Constant)) or (
                _is_bare(right) and isinstance(left, ast.Constant)
            )
        case ast.Call(func=ast.Name(id=name)):
            return name in FUNCTIONS and FUNCTIONS[name].gives == "a number" and name not in ROUNDED
    return False


def _of_degrees(said: str) -> str:
    """``F = C * 1.8 + 32`` as a formula for a temperature, which such letters together mean; any other line
    unchanged."""
    found = _DEGREES.fullmatch(said.strip())
    if found is None or found["into"] == found["of"]:
        return said
    unit = found["into"] if found["into"] == "K" else f"°{found['into']}"
    return f"temperature {unit} = {found['made'].replace(found['of'], 'x')}"


def line(at: Quantity, gives: Quantity, gain: Fraction) -> Reckoned:
    """A line with ``gain`` in the units of output and input."""
    per = "" if at.unit.same_dimension(gives.unit) else ratio_symbol(gives.unit, at.unit)
    if not per and at.unit != gives.unit:
        gain = gain * gives.unit.scale / at.unit.scale
    slope = f"{float(gain):.15g} {per}".strip()
    return Reckoned("linear", {"input": _written(at), "output": _written(gives), "slope": slope})


def _written(quantity: Quantity) -> str:
    return f"{float(quantity.value):.15g} {quantity.unit}".removesuffix(" 1")


class OfVoltsError(RequestError):
    """A formula of a voltage where the laws end in counts."""


@dataclass(frozen=True)
class Scene:
    """What was typed, and what it may refer to."""

    typed: str
    end: Unit
    own: str
    channels: Mapping[str, Unit]
    values: Callable[[], Floats]

    def with_operand(self, sign: str, said: str) -> Reckoned | None:
        """``x`` with one number or one channel."""
        name = self._channel(said)
        if name is not None:
            unit = self.channels[name]
            if sign in "+-" and unit.dimension != self.end.dimension:
                raise RequestError(f'"{self.typed.strip()}": {name} is in {unit}, and the laws end in {self.end}.')
            return self.by_formula(f"x {sign} o", {"o": name})
        try:
            number = quantity_typed(said, parse_unit("1"))
        except LesartError:
            return None
        zero = Quantity(Fraction(0), self.end)
        if sign in "+-":
            way = 1 if sign == "+" else -1
            return line(zero, Quantity(Fraction(way * self._difference(number)), self.end), Fraction(1))
        if sign == "/" and not number.value:
            raise RequestError(f'"{self.typed.strip()}": nothing can be divided by 0.')
        if not number.value:
            raise RequestError(f'"{self.typed.strip()}": times 0 is always 0.')
        if number.unit.symbol == "1":
            return line(zero, zero, number.value if sign == "*" else 1 / number.value)
        if sign == "*" and self.is_plain:
            return line(zero, Quantity(Fraction(0), number.unit), number.value)  # so much a count
        return self.by_formula(f"x {sign} k", {}, f"k = {_written(number)}")

    @property
    def is_plain(self) -> bool:
        """True where its laws end in bare numbers, so that the expression gives them their meaning."""
        return self.end.symbol in NO_UNIT

    def _difference(self, number: Quantity) -> float:
        if number.unit.symbol == "1":
            return float(number.value)
        try:
            return number.difference_in(self.end)
        except LesartError as error:
            raise RequestError(f'"{self.typed.strip()}": {str(error).rstrip(".")}.') from error

    def of_several(self, what: str, names: str) -> Reckoned | None:
        """The mean, the sum, the maximum … of some channels."""
        said = [each for each in re.split(r"\s*,\s*(?:and\s+)?|\s+and\s+|\s*&\s*", names.strip()) if each]
        found = [self._channel(each, own=True) for each in said]
        if len(found) < 2 or len(found) > len(LETTERS) or None in found:
            return None
        letters = iter(LETTERS)
        called = {"x" if name == self.own else next(letters): str(name) for name in found}
        first, *others = called
        formula = {
            "m": f"{first} + ({' + '.join(f'{each} - {first}' for each in others)}) / {len(called)}",
            "s": " + ".join(called),
            "d": " - ".join(called),
            "p": " * ".join(called),
            "l": f"min({', '.join(called)})",
            "h": f"max({', '.join(called)})",
        }
        kind = "l" if what.startswith(("lo", "le", "min")) else "h" if what.startswith(("hi", "gr", "max")) else ""
        kind = kind or {"mean": "m", "average": "m", "sum": "s", "difference": "d", "product": "p"}[what]
        return self.by_formula(formula[kind], {name: each for name, each in called.items() if name != "x"})

    def _check_is_of_this(self, name: str) -> None:
        """Raises RequestError for a name of volts where the laws end in counts, since a formula of a data sheet begins
        with the voltage; and for one of counts where they end in something else."""
        if name.lower() == self.own.lower():
            return
        if self.is_plain and _OF_VOLTS.fullmatch(name):
            raise OfVoltsError(
                f'"{self.typed.strip()}" is of a voltage, {name}, and {self.own} ends in '
                f"{'ct' if self.end.symbol == 'ct' else 'plain numbers'}; begin with voltage, then "
                "type it again."
            )
        if not self.is_plain and _OF_COUNTS.match(name):
            raise RequestError(
                f'"{self.typed.strip()}" is of counts, {name}, and {self.own} ends in {self.end} already; write x for '
                "what it reads."
            )

    def by_expression(self, said: str) -> Reckoned | None:
        """``2x + 3``, ``inside - outside``, ``power = voltage * current``; None where it is not an expression, or
        refers to nothing here."""
        in_program = of_program(_of_degrees(said))
        named = _NAMED.match(in_program)
        text, called, letters = in_program[named.end() if named else 0 :], dict[str, str](), iter(LETTERS)
        text = chosen(_WHOLE.sub(lambda found: str(int(found[0], 0)), text))
        if choice := _IF.fullmatch(text.strip()):
            text = f"{choice['yes']} if {choice['test']} else {choice['no']}"
        into = self._meant(named["what"]) if named else None
        stands_for_it = self._only_unknown(text, is_reckoned=named is not None or in_program != said)
        spoken = [spelling for spelling, _ in self._spellings()]
        stands_for_it = stands_for_it or reading_by_its_unit(text, spoken, self.end)
        as_reading = stands_for_it
        if stands_for_it:
            text = re.sub(rf"(?<![\w.])(?<!\d ){re.escape(stands_for_it)}(?!\w)", "x", text)
        for spelling, name in self._spellings():
            pattern = rf"(?<![\w.]){re.escape(spelling)}(?![\w\u200b])"
            if not any_case(pattern).search(text):
                continue
            as_reading = spelling if name == self.own and _OF_ANOTHER.fullmatch(spelling) else as_reading
            letter = "x" if name == self.own else next(letters, "")
            if not letter:
                return None
            # Single letters cannot be other names: replacements are not searched again.
            text = any_case(pattern).sub(f" {letter}\u200b ", text)
            if letter != "x":
                called[letter] = name
        text = _THOUSANDS.sub(lambda found: f"({found[1]} * {1000 if found[2] == 'k' else 1_000_000})", text)
        if not named and (beside := with_its_quantity(text, self.end)) is not None:
            return self.with_operand(*beside)
        text, unit = without_units(text, {"x", *called}, self.end)
        if unit is not None and (into in (None, PLAIN) or _ends_with(said, unit)):
            into = unit
        text = text.replace("²", " ** 2 ").replace("³", " ** 3 ")
        text = _BEFORE.sub(r"\1 * ", text.replace("\u200b", "").replace("^", " ** "))
        text = simplified(re.sub(r"(?<=\()\s|\s(?=[),])", "", " ".join(text.split())))
        if not re.search(r"[-−+*/×·÷(<>&]", text):
            return None
        try:
            tree = parse_formula(text, ("x", *called))
        except (LesartError, ValueError):
            is_arithmetic = named is not None and re.search(r"[\w)]\s+[\w(]", text) is None
            strange = names_in(text, {"x", *called}) if is_arithmetic else ()
            # One name alone may be a signal's: F = 7.5 Q of a flow meter.
            if not strange or (len(strange) == 1 and not (called or re.search(r"\bx\b", text))):
                return None
            instead = "write x for the reading, and numbers for the others" if len(strange) > 1 else "write its number"
            raise RequestError(
                f'"{self.typed.strip()}": no channel is called {" or ".join(strange)}; {instead}, or a channel.'
            ) from None
        names = {node.id for node in ast.walk(tree) if isinstance(node, ast.Name)}
        if not names & {"x", *called}:
            return None
        self._check_is_of_this(as_reading)
        called = {name: each for name, each in called.items() if name in names}
        made = self.by_formula(text, called, into=into)
        if named and into is None and not called and self._is_of_another_kind(named["what"], made):
            made = self.by_formula(text, called, into=PLAIN)
        told = f"; {stands_for_it} is taken for the reading" if stands_for_it else ""
        if named and into is PLAIN and not called:
            told += what_would_tell(named["what"])
        return replace(made, told=told + made.told)

    def _meant(self, what: str) -> Unit | None:
        """The unit that a result's name says: that of the channel of that name, or the meaning of such a name."""
        word = what.strip().lower()
        known = [(name, name) for name in self.channels] + [(short, name) for name, short in self._bare().items()]
        if named := next((name for spelling, name in known if spelling.lower() == word), None):
            return None if named == self.own else self.channels[named]
        return unit_of_result(what, self.end)

    def _is_of_another_kind(self, what: str, made: Reckoned) -> bool:
        """True where a result is another quantity than its input, of unknown unit, and not a correction of it."""
        if self.is_plain or what.strip().lower() in [name.lower() for name in (*self.channels, *self._bare().values())]:
            return False
        gain = abs(float(made.values["slope"])) if made.kind == "linear" else math.inf
        return may_be_of_another_kind(what) and not CORRECTED[0] <= gain <= CORRECTED[1]

    def _only_unknown(self, text: str, *, is_reckoned: bool) -> str:
        """The one unknown name in a formula where no other refers to the reading; else empty."""
        spoken = [spelling for spelling, _ in self._spellings()]
        if any(any_case(rf"(?<![\w.]){re.escape(each)}(?![\w(])").search(text) for each in spoken):
            return ""
        return reading_named(text, spoken, may_be_a_word=is_reckoned)

    def by_formula(
        self, text: str, called: Mapping[str, str], constants: str = "", *, into: Unit | None = None
    ) -> Reckoned:
        """A linear function of ``x`` alone as a line; else a formula in the resulting unit."""
        if not called and not constants and (straight := self._as_line(text, into or self.end)) is not None:
            return straight
        units = {name: self.channels[channel] for name, channel in called.items()}
        names = [f"{name} = {channel} in {units[name]}" for name, channel in called.items()]
        told = {"formula": text, "names": "; ".join([*names, *([constants] if constants else [])]), **self._reach()}
        measures = {"x": measure_of_unit(self.end), **{name: measure_of_unit(unit) for name, unit in units.items()}}
        if constants:
            measures["k"] = measure_of_unit(quantity_typed(constants.removeprefix("k = "), self.end).unit)
        # As a data sheet's formula uses the numbers of a unit.
        of_numbers = {**told, "units": "plain numbers", "from": str(self.end), "to": str(into or self.end)}
        if into is not None and not called:
            return Reckoned("formula", of_numbers)
        try:
            found = measured(parse_formula(text, tuple(measures)), measures, in_ascii(text))
        except (LesartError, ValueError) as error:
            if called or constants:
                why = str(error).partition('": ')[2] or str(error)
                raise RequestError(f'"{self.typed.strip()}": {why.rstrip(".")}.') from error
            if into is None and _is_bare(parse_formula(text, ("x",))):
                of_numbers["to"] = "1"
            return Reckoned("formula", of_numbers)
        if self.is_plain and not called and not constants:
            return Reckoned("formula", {**of_numbers, "to": "1"})
        try:
            unit = self._unit(found, list(units.values()))
        except RequestError:
            if called or constants:
                raise
            return Reckoned(
                "formula", {**of_numbers, "to": "1"}, "; it takes the numbers alone, so the result has no unit"
            )
        return Reckoned("formula", {**told, "from": str(self.end), "to": unit})

    def _as_line(self, text: str, into: Unit) -> Reckoned | None:
        """The expression as a line, judged by its values at numbers near zero and far from it."""
        tree = parse_formula(text, ("x",))
        # Between steps of any size, too: a function that rounds is not a line.
        sizes = (math.pi / 10, 2.5, 7.0, 10 * math.e, 33.0, 1e3, 1e6)
        at = np.array([0.0, 1.0, *(sign * size for size in sizes for sign in (1.0, -1.0))])
        with np.errstate(all="ignore"):
            y = np.asarray(evaluated(tree, {"x": at}), np.float64) + 0.0 * at
        gain = (y.max() - y.min()) / 2e6  # between the two farthest, where rounding counts least
        gain = gain if y[1] > y[0] else -gain
        if not np.isfinite(y).all() or not gain or np.abs(y - (y[0] + gain * at)).max() > 1e-12 * np.abs(y).max():
            return None
        if into == self.end and self.end.is_temperature:
            for other in (parse_unit(each) for each in ("°C", "°F", "K")):
                scale, offset = conversion(self.end, other)
                if other != self.end and np.allclose((gain, y[0]), (scale, offset), rtol=ROUGHLY):
                    raise shown_in(self.typed, other)
        is_another = into != self.end and into.same_dimension(self.end) and not self.is_plain
        if is_another and np.allclose((gain, y[0]), conversion(self.end, into), rtol=ROUGHLY):
            raise shown_in(self.typed, into)
        zero = Quantity(Fraction(0), self.end)
        return line(zero, Quantity(Fraction(float(y[0])), into), Fraction(float(gain)))

    def _unit(self, found: Measure, units: list[Unit]) -> str:
        """Unit of the result: that of an input where possible, else a usual one. Raises RequestError."""
        known = [self.end, self.end.step, *units, *(parse_unit(each) for each in USUAL), *self._made_of(units)]
        fits = next((each for each in known if measure_of_unit(each) == found), None)
        fits = fits or next((each for each in known if found.fits(measure_of_unit(each))), None)
        if fits is None:
            raise RequestError(
                f'"{self.typed.strip()}" makes {found.says}, which nothing here is in; formula, formula = …, units = '
                "plain numbers takes the numbers alone."
            )
        return str(fits)

    def _made_of(self, units: list[Unit]) -> list[Unit]:
        """Products and quotients of two input units, absolute temperatures excluded."""
        plain = [each for each in (self.end, *units) if not each.is_temperature and each.symbol != "1"]
        ratios = [ratio_symbol(a, b) for a in plain for b in plain if a is not b]
        return [parse_unit(each) for each in (*(f"{each}^2" for each in plain if "/" not in each.symbol), *ratios)]

    def _reach(self) -> dict[str, str]:
        """Valid range: far beyond the values, since it is not a table."""
        x = self.values()
        far = f"{REACH * max(float(np.abs(x).max(initial=0.0)), 1.0):.2g}"
        far = f"{float(far):.15g} {self.end}".removesuffix(" 1")
        return {"lowest": f"-{far}", "highest": far}

    def _bare(self) -> dict[str, str]:
        """Names of channels without the unit at their end: ``temp`` for ``temp_c`` and for ``temp [°C]``."""
        bare = {name: without_its_unit(name, self.channels) for name in self.channels}
        # x is the reading, and an axis only among axes.
        is_axis = len(bare.get(self.own, "")) == 1
        return {name: name if short == "x" and not is_axis else short for name, short in bare.items()}

    def _may_be(self, unit: str) -> bool:
        """True where the reading may be of the quantity with that unit: bare numbers may be of any."""
        return self.is_plain or self.end.same_dimension(parse_unit(unit))

    def _channel(self, said: str, *, own: bool = False) -> str | None:
        """The channel of that name; its ``own`` only where allowed."""
        bare = without_article(said.strip()).lower()
        found = [name for spelling, name in self._spellings() if spelling.lower() == bare]
        found = [name for name in dict.fromkeys(found) if own or name != self.own]
        return found[0] if len(found) == 1 else None

    def _spellings(self) -> list[tuple[str, str]]:
        """All names as they may be typed, longest first: whole, or without the unit; ``x`` and ``it`` are its own."""
        bare = self._bare()
        counts = [each.lower() for each in bare.values()]
        known = [(name, name) for name in self.channels]
        known += [(short, name) for name, short in bare.items() if short and counts.count(short.lower()) == 1]
        known += [(each, self.own) for each in ("x", "it", "the reading")]
        # What a reading is called where no channel is called so: level = 100 - distance.
        called = {spelling.lower() for spelling, _ in known}
        own = [*OF_ITSELF, *(word for unit, words in OF_QUANTITIES if self._may_be(unit) for word in words)]
        known += [(each, self.own) for each in own if each not in called]
        usable = [each for each in dict.fromkeys(known) if each[0].lower() not in FUNCTIONS]
        return sorted(usable, key=lambda each: -len(each[0]))


def _ends_with(said: str, unit: Unit) -> bool:
    """True where the unit stands at the end, which is that of the result."""
    found = re.search(r"[^\s\d]+$", said.strip())
    return found is not None and unit_said(found[0]) == unit
