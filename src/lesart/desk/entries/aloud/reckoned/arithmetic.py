"""Arithmetic with a reading as people say it: ``multiply by 2``, ``minus outside``, ``2x + 3``, ``0 to 5 V is 0 to 10
bar``. It becomes a straight line where it is linear, else a formula with units."""

from __future__ import annotations

import re
from collections.abc import Callable, Mapping
from dataclasses import replace
from fractions import Fraction

from lesart.core.block import Floats
from lesart.core.errors import LesartError, RequestError
from lesart.core.quantity import Quantity
from lesart.core.raw.spelled.unit_said import unit_said
from lesart.core.raw.spelled.unit_typed import quantity_typed
from lesart.core.units import Unit, parse_unit
from lesart.desk.entries.aloud.article import without_article
from lesart.desk.entries.aloud.reckoned.bit_fields import SIZES, bit_field
from lesart.desk.entries.aloud.reckoned.expressions import Reckoned, Scene, line, shown_in
from lesart.desk.entries.aloud.reckoned.ratios import by_ratio
from lesart.desk.entries.aloud.reckoned.results import unit_of_result
from lesart.desk.entries.aloud.reckoned.units_in_words import WHAT_IT_IS
from lesart.desk.entries.said.patterns import NO_UNIT, any_case

METRE, VOLT = parse_unit("m"), parse_unit("V")
_WORDS: tuple[tuple[str, str], ...] = (
    (r"(?:add|plus|\+|offset(?:\s+(?:of|by))?|(?:increased?|raised?)\s+by|sum\s+with)", "+"),
    (
        r"(?:subtract(?:\s+(?:the\s+|an?\s+)?(?:offset|zero|tare)(?:\s+of)?)?|tare(?:\s+(?:of|is|at))?|minus|-|−|less|(?:decreased?|reduced?|lowered)\s+by|take\s+(?:away|off)|(?:the\s+)?difference\s+"
        r"(?:to|from|with)|relative\s+to|compared\s+(?:to|with))",
        "-",
    ),
    (
        r"(?:multipl(?:y|ied)(?:\s+it)?\s+(?:by|with)|times|\*|×|x(?=\s?\d)|gain(?:\s+of)?|scaled?(?=\s+[-+]?[\d.]+$)|scaled?\s+by|"
        r"(?:a\s+)?factor(?:\s+of)?|product\s+with)",
        "*",
    ),
    (r"(?:divided?(?:\s+it)?\s+by|over|/|÷|(?:the\s+)?ratio\s+to)", "/"),
)
_ALONE: tuple[tuple[str, str], ...] = (
    (r"doubled?(?:\s+it)?|twice", "2 * x"),
    (r"halved?(?:\s+it)?|half(?:\s+of\s+it)?", "x / 2"),
    (r"invert(?:ed|\s+it)?|negated?(?:\s+it)?|(?:change|flip|reverse)\s+(?:its|the)\s+sign|opposite", "-x"),
    (r"(?:x\s+)?squared?|square(?:\s+(?:of\s+)?it)?", "x ** 2"),
    (r"reciprocal|inverse|one\s+over\s+(?:it|x)", "1 / x"),
    (r"(?:x\s+)?cubed?|cube(?:\s+(?:of\s+)?it)?", "x ** 3"),
    (r"(?:the\s+)?(?:square\s+root(?:\s+of\s+(?:it|x))?|root\s+of\s+(?:it|x))|sqrt(?:\(x\))?", "sqrt(x)"),
    (r"natural\s+log(?:arithm)?|ln", "ln(x)"),
    (r"log\s?10|log\s+base\s+10|decadic\s+log(?:arithm)?|common\s+log(?:arithm)?", "log10(x)"),
    (r"log\s?2|log\s+base\s+2|binary\s+log(?:arithm)?", "log2(x)"),
    (r"abs(?:olute)?(?:\s+value)?|magnitude|without\s+(?:its|the)\s+sign|rectif(?:y|ied)", "abs(x)"),
)
_OF_WHOLE: tuple[tuple[str, Callable[[list[int]], str]], ...] = (
    (
        r"(?:x\s*)?(?:%|mod(?:ulo|ulus)?|wrap(?:ped)?\s+(?:at|to))\s*(\d{1,9})",
        lambda n: f"x - {n[0]} * floor(x / {n[0]})",
    ),
    (r"(?:left\s+shift|shift(?:\s+it)?\s+left|<<)(?:\s+by)?\s*(\d{1,2})(?:\s+bits?)?", lambda n: f"x * {2 ** n[0]}"),
    (
        r"(?:Q\s*\d{1,2}\.|Q|\d{1,2}\.(?=\d{1,2}\s+fixed))(\d{1,2})(?:\s+(?:format|fixed(?:[\s-]+point)?))?",
        lambda n: f"x / {2 ** n[0]}",
    ),
    (r"bit\s+(\d{1,2})(?:\s+of\s+it)?", lambda n: f"floor(x / {2 ** n[0]}) - 2 * floor(x / {2 ** (n[0] + 1)})"),
    (
        r"(?:signed|(?:two'?s\s+complement|int)(?:\s+of)?)\s*(\d{1,2})(?:\s*-?\s*bits?)?|"
        r"(?:as\s+)?(?:an?\s+)?(\d{1,2})(?:\s*-?\s*bits?)\s+(?:signed(?:\s+integer)?|two'?s\s+complement)",
        lambda n: _signed(n[0]),
    ),
)
"""Operations on integers: a remainder, some of the bits, two's complement."""
WORD_BITS = 16
"""Bits of a register, in which fewer bits may be left-justified."""
_SWAPPED = re.compile(r"(?:swap|reverse)(?:ped)?\s+(?:the\s+)?bytes?|bytes?[\s-]+swap(?:ped)?", re.IGNORECASE)
_MASKED = re.compile(r"(?:bit\s*)?mask(?:ed)?\s+(?:with\s+|by\s+)?(?P<mask>0x[\da-f]{1,8}|\d{1,10})", re.IGNORECASE)
_ROUNDED = re.compile(
    r"(?:round(?:ed)?(?:\s+it)?\s+to|quanti[sz]ed?\s+(?:to|in)|(?:in\s+)?steps\s+of|snap(?:ped)?\s+to)\s+"
    r"(?:the\s+nearest\s+|steps\s+of\s+|multiples\s+of\s+)?(?P<step>\d{1,12}(?:\.\d{1,12})?)",
    re.IGNORECASE,
)
_REVERSED = re.compile(
    r"(?:invert|reverse|flip|mirror)(?:ed)?(?:\s+(?:it|the\s+range))?,?\s+(?:over\s+|from\s+|in\s+)?(?P<low>\d{1,12}(?:\.\d{1,9})?)\s*"
    r"(?:to|-|–|\.\.+|…)\s*(?P<high>\d{1,12}(?:\.\d{1,9})?)",
    re.IGNORECASE,
)
_SIGNED = re.compile(r"two'?s\s+complement|signed(?:\s+(?:number|integer|value)s?)?|int(?:eger)?", re.IGNORECASE)
_OF_SEVERAL = re.compile(
    r"(?:the\s+)?(?P<what>mean|average|sum|difference|product|lower|lowest|least|min(?:imum)?|higher|highest|greater|"
    r"greatest|max(?:imum)?)\s+(?:of|between)\s+(?P<names>.+)",
    re.IGNORECASE,
)
_NUMBER = r"[-−+]?\d[\d.]*(?:[eE][-+]?\d+)?"
_FROM = re.compile(
    r"(?:subtract(?:ed)?|take|taken|deduct(?:ed)?)\s+(?:it\s+)?from\s+"
    rf"(?P<whole>{_NUMBER}(?:\s*[^\W\d]\S*)?)",
    re.IGNORECASE,
)
_TANK = re.compile(
    rf"(?:(?:rain\s?)?water\s+)?(?:tank|cistern|well|barrel|container|reservoir|silo)[\s,:]+(?:(?:is|of|with|height|depth)\s+)*"
    rf"(?P<high>{_NUMBER}\s*[mc]?m)(?:\s+(?:high|deep|tall|height|depth))?(?:[\s,]+(?:and\s+|holds\s+|for\s+)?"
    rf"(?P<holds>{_NUMBER}\s*(?:L|lit(?:re|er)s?|m³|m3|gal(?:lons?)?)))?",
    re.IGNORECASE,
)
"""What a distance from its top down to the surface leaves in it."""
_SLOPE_AND_OFFSET = re.compile(
    r"(?:y\s*=\s*[am]\s*\*?\s*x\s*\+\s*[bc][\s,;:]+)?(?:(?:with|where)\s+)?"
    rf"(?:slope|gain|factor|a|m)\s*[=:]?\s*(?P<gain>{_NUMBER})[\s,;]+(?:and\s+)?"
    rf"(?:offset|intercept|b|c)\s*[=:]?\s*(?P<offset>{_NUMBER})(?P<unit>\s*[^\W\d]\S*|\s*[°%]\S*)?",
    re.IGNORECASE,
)
_RANGE = (
    rf"(?P<{{0}}a>{_NUMBER})\s*(?P<{{0}}u>[^\d\s.…:,;=>-]{{{{0,6}}}})\s*(?:to|\.\.+|…|-|–)\s*"
    rf"(?P<{{0}}b>{_NUMBER})\s*(?P<{{0}}v>[^\d\s,;=]*)"
)
_MAPS = re.compile(
    rf"(?:map(?:ped)?\s+|scale\s+)?(?:from\s+)?{_RANGE.format('i')}\s*(?:to|onto|=|->|=>|is|are|means?|gives?|into)\s*"
    rf"{_RANGE.format('o')}",
    re.IGNORECASE,
)
_POINT = (
    r"(?P<{0}i>{1}\s*[^\d\s,;=]*?)\s*(?P<{0}is>=|is|->|=>|→|:(?=\s)|means?|gives?|at)\s*"
    r"(?P<{0}o>{1}\s*[^\d\s,;=]*?)"
)
_POINTS = re.compile(
    rf"(?:[^\W\d]\w*[,:]?\s+){{0,3}}?(?:=\s*)?{_POINT.format('a', _NUMBER)}"
    rf"(?:\s*(?:[,;]|\band\b)\s*(?:and\s+)?|\s+){_POINT.format('b', _NUMBER)}",
    re.IGNORECASE,
)
Point = tuple[str, str]
_OF_ACID = re.compile(r"\bpH\s+(\d+(?:[.,]\d+)?)", re.IGNORECASE)
_CALL = re.compile(
    r"(?:(?:(?:int|long|float|double|auto|const|var|let)\s+)*(?P<name>[A-Za-z]\w*)\s*=\s*)?"
    rf"map(?:\(\s*\w+\s*,|\s)\s*(?P<a>{_NUMBER})[\s,]+(?P<b>{_NUMBER})[\s,]+(?P<c>{_NUMBER})[\s,]+(?P<d>{_NUMBER})\s*\)?\s*"
    r"(?P<unit>[^\s\d,;()=*/+-]*)",
    re.IGNORECASE,
)
_THEN = re.compile(
    r",?\s(?:and\s)?then\s|,\s(?:and\s)?|\s(?:and\s)?(?=(?:divided?\s+by|multipl(?:y|ied)\s+(?:by|with)|times|add|plus|"
    r"subtract|minus)\s)",
    re.IGNORECASE,
)
_OPERAND = re.compile(rf"{_NUMBER}(?:(?:\s*[*/]\s*{_NUMBER})+|\s*[^\W\d]{{0,6}})")
_WITH_UNIT = re.compile(r"\d\s*[^\W\d]")
_AMPLIFIED = re.compile(
    rf"(?:amplifier|amp|amplified|pre-?amp)(?:\s+(?:with|of|by|a|gain|factor)){{0,5}}\s+({_NUMBER})x?", re.IGNORECASE
)
_SHARE = re.compile(rf"(?:percent|per\s+cent|%|share)\s+of\s+(?P<whole>{_NUMBER})(?:\s*ct|\s*counts?)?", re.IGNORECASE)
_OTHER_UNIT = re.compile(
    r"(?:(?:convert(?:ed)?\s+)?(?:it\s+)?(?:shown\s+)?(?:to|into|in|as)\s+)?(?P<unit>[^\s\d]\S*)", re.IGNORECASE
)


def reckoned(
    typed: str, end: Unit, own: str, channels: Mapping[str, Unit], values: Callable[[], Floats]
) -> Reckoned | None:
    """None where nothing is reckoned.

    ``end`` is the unit in which the laws of the channel ``own`` end, ``channels`` are the units of all by name,
    ``values`` what its laws give, good ones: a formula holds as far as they go and more.

    Raises RequestError where units do not fit, with both.
    """
    said = typed.strip()
    if found := _MAPS.fullmatch(said):
        ends = [f"{found[side + place]} {_unit_of(found, side)}" for side in "io" for place in "ab"]
        return _through(typed, (ends[0], ends[2]), (ends[1], ends[3]), end)
    if found := _CALL.fullmatch(said):
        unit = WHAT_IT_IS.get(found["unit"].lower(), found["unit"])
        if not unit and found["name"] and (of_name := unit_of_result(found["name"], end)) is not None:
            unit = of_name.symbol.removesuffix("1")
        return _through(typed, (found["a"], f"{found['c']} {unit}"), (found["b"], f"{found['d']} {unit}"), end)
    if found := _SHARE.fullmatch(said):
        return _through(typed, ("0", "0 %"), (found["whole"], "100 %"), end)
    if found := _POINTS.fullmatch(_OF_ACID.sub(r"\1 pH", said)):
        points = ((found["ai"], found["ao"]), (found["bi"], found["bo"]))
        is_at = found["ais"].lower() == found["bis"].lower() == "at"
        return _through(typed, *_from_end(points, end, values if is_at else None), end)
    _not_another_unit(typed, end)
    scene = Scene(typed, end, own, channels, values)
    bare = without_article(said)
    for pattern, formula in _ALONE:
        if any_case(pattern).fullmatch(bare):
            return scene.by_formula(formula, {})
    if (field := bit_field(bare, scene)) is not None:
        return field
    for pattern, formula_of in _OF_WHOLE:
        if found := any_case(pattern).fullmatch(bare):
            return scene.by_formula(formula_of([int(each) for each in found.groups() if each]), {}, into=end)
    if (found := _ROUNDED.fullmatch(bare)) and float(found["step"]):
        return scene.by_formula(f"{found['step']} * floor(x / {found['step']} + 0.5)", {}, into=end)
    if (found := _REVERSED.fullmatch(bare)) and float(found["low"]) < float(found["high"]):
        return scene.by_formula(f"{found['low']} + {found['high']} - x", {}, into=end)
    if (tank := _TANK.fullmatch(bare)) is not None and end.same_dimension(METRE):
        return _filled(typed, tank, scene)
    if (found := _FROM.fullmatch(bare)) is not None:
        return scene.by_expression(f"{found['whole']} - x")
    if found := _MASKED.fullmatch(bare):
        return scene.by_expression(f"x & {found['mask']}")
    if _SWAPPED.fullmatch(bare) and _bits_of(values()) <= WORD_BITS:
        return scene.by_formula("256 * (x - 256 * floor(x / 256)) + floor(x / 256)", {}, into=end)
    if found := _AMPLIFIED.fullmatch(bare):  # undo a gain
        return scene.with_operand("/", found[1])
    if (ratio := by_ratio(bare, scene)) is not None:
        return ratio
    if (in_turn := _in_turn(bare)) is not None and not (scene.is_plain and _WITH_UNIT.search(in_turn)):
        return scene.by_expression(in_turn)
    if found := _SLOPE_AND_OFFSET.fullmatch(said):
        return scene.by_expression(f"{found['gain']} * x + {found['offset']}{found['unit'] or ''}".replace("+ -", "- "))
    if _SIGNED.fullmatch(bare):
        return scene.by_formula(_signed(_bits_of(values())), {}, into=end)
    for pattern, sign in _WORDS:
        if (begun := any_case(rf"{pattern}\s*(?=\S)").match(bare)) and (
            made := scene.with_operand(sign, bare[begun.end() :].strip())
        ):
            return made
    if found := _OF_SEVERAL.fullmatch(bare):
        return scene.of_several(found["what"].lower(), found["names"])
    return scene.by_expression(said) or scene.by_expression(_in_signs(said))


def _filled(typed: str, tank: re.Match[str], scene: Scene) -> Reckoned | None:
    """How high a tank is filled, or with how much, where all of its height holds the same."""
    if not tank["holds"]:
        made = scene.by_expression(f"{tank['high']} - x")
    else:
        made = _through(typed, ("0 m", tank["holds"]), (tank["high"], "0 L"), scene.end)
    return replace(made, told="; the distance is read from its top") if made is not None else None


def _in_signs(said: str) -> str:
    """``1.2 m minus distance`` with arithmetic signs."""
    for word, sign in (("minus", "-"), ("plus", "+"), ("times", "*"), ("divided by", "/"), ("over", "/")):
        said = re.sub(rf"\s{word}\s", f" {sign} ", said, flags=re.IGNORECASE)
    return said


def _in_turn(said: str) -> str | None:
    """``minus 0.5 then times 100`` and ``times 3.3 / 4095`` as one expression; None for a single operation with a
    number."""
    expression, steps = "x", [step.strip() for step in _THEN.split(" ".join(said.split()))]
    for step in steps:
        for pattern, sign in _WORDS:
            begun = any_case(rf"{pattern}\s*(?=\S)").match(step)
            if begun and _OPERAND.fullmatch(step[begun.end() :].strip()):
                operand = step[begun.end() :].strip()
                expression = f"({expression}) {sign} {f'({operand})' if sign in '+-' else operand}"
                break
        else:
            return None
    return expression if len(steps) > 1 or re.search(r"\d\s*[*/]\s*\d", said) else None


def _signed(bits: int) -> str:
    return f"x - {2**bits} if x >= {2 ** (bits - 1)} else x"


def _bits_of(x: Floats) -> int:
    """Bits of the smallest usual word that holds all of these integers, shape (n,)."""
    most = float(x.max(initial=0.0))
    return next((bits for bits in SIZES if most < 2**bits), SIZES[-1])


def _not_another_unit(typed: str, end: Unit) -> None:
    """Raises RequestError for a mere conversion to another unit, which is a matter of display and not a law."""
    found = _OTHER_UNIT.fullmatch(typed.strip())
    unit = unit_said(found["unit"]) if found else None
    is_other = unit is not None and unit.same_dimension(end) and not (unit.symbol == end.symbol == "ct")
    if unit is not None and is_other:
        raise shown_in(typed, unit)


def _from_end(points: tuple[Point, Point], end: Unit, values: Callable[[], Floats] | None) -> tuple[Point, Point]:
    """Each from what the laws end in, where it was said the other way round: ``7 pH at 1500 and 4 pH at 2030``.

    With ``values``, which the laws give, a number is what it reads *at* such a value: ``0 at 800, 100 at 400``; unless
    only the numbers before it are of those that came.
    """

    def fits(said: str) -> bool:
        try:
            quantity = quantity_typed(said, end)
        except LesartError:
            return False
        is_whole = quantity.value.denominator == 1 or end.symbol != "ct"  # no count is 7.35
        return is_whole and quantity.unit.same_dimension(end)

    begins, reads = ([fits(each[side]) for each in points] for side in (0, 1))
    is_turned = all(reads) and not any(begins)
    if values is not None and all(begins) and all(reads):
        is_turned = not (_have_come(points, 0, end, values()) and not _have_come(points, 1, end, values()))
    (a, b), (c, d) = points
    return ((b, a), (d, c)) if is_turned else points


def _have_come(points: tuple[Point, Point], side: int, end: Unit, values: Floats) -> bool:
    """True where some of the values lie between the two."""
    ends = [quantity_typed(each[side], end).to(end) for each in points]
    return bool(values.size) and float(values.max()) >= min(ends) and float(values.min()) <= max(ends)


def _unit_of(found: re.Match[str], side: str) -> str:
    said: str = found[f"{side}v"] or found[f"{side}u"]
    return WHAT_IT_IS.get(said.lower(), said)


def _through(typed: str, first: tuple[str, str], second: tuple[str, str], end: Unit) -> Reckoned | None:
    """A line through two points; None where they do not make one. An input without a unit is in ``end``."""
    try:
        inputs = [quantity_typed(each[0], end) for each in (first, second)]
        outputs = [quantity_typed(each[1], parse_unit("1")) for each in (first, second)]
    except LesartError:
        return None
    for each in (inputs, outputs):  # 0 and 5 V: the unit after the last is that of both
        if each[0].unit.symbol == "1" and each[1].unit.symbol != "1":
            each[0] = Quantity(each[0].value, each[1].unit)
    if end.symbol == "1":  # a column without a unit is in the stated one
        inputs = [Quantity(each.value, end) for each in inputs] if inputs[0].unit == inputs[1].unit else inputs
    if not inputs[0].unit.same_dimension(end):
        of_volts = end.symbol in NO_UNIT and inputs[0].unit.same_dimension(VOLT)
        remedy = "; begin with voltage, then type it again" if of_volts else ""
        raise RequestError(f'"{typed.strip()}": the laws end in {end}, and this begins with {inputs[0].unit}{remedy}.')
    span = inputs[1].to(inputs[0].unit) - inputs[0].to(inputs[0].unit)
    rise = outputs[1].to(outputs[0].unit) - outputs[0].to(outputs[0].unit)
    if not span or not rise:
        raise RequestError(f'"{typed.strip()}": two points of a line differ on both sides.')
    return line(inputs[0], outputs[0], Fraction(rise) / Fraction(span))
