"""The value of one count, as data sheets and makers state it: ``0.061 mg/LSB``, ``16384 counts per g``, ``±2 g, 16
bits``, ``hundredths of a degree``, ``1000 imp/kWh``; and where its zero is."""

from __future__ import annotations

import math
import re

from lesart.core.block import Floats
from lesart.core.errors import RequestError
from lesart.core.quantity import beside_unit, parse_quantity, plain_number
from lesart.core.quantity import counted as counted_as
from lesart.core.raw.spelled.bits_said import names_bits
from lesart.core.raw.spelled.unit_said import unit_of_letter, unit_said
from lesart.core.raw.spelled.unit_typed import quantity_typed
from lesart.core.units import parse_unit
from lesart.desk.entries.said.modifiers import CHANGES

NUMBER = r"\d+(?:[.,]\d+)?"
WORD = r"[^\W\d][\w-]*"
COUNT = r"(?:counts?|cts?|LSBs?|digits?|steps?|ticks?|cpm)"
_ONE = r"(?:counts?|ct|LSB|bit|digit|tip|pulse|click|tick|step|cpm)"
_UNIT = r"[^\s\d,;=]+[23²³]?"

PER_COUNT = re.compile(
    rf"(?<![\w.,/])(?P<step>(?:{NUMBER}(?:e-?\d+)?|1/\d+)\s*{_UNIT})\s*(?:\bper\s+|/\s*)(?:an?\s+)?"
    rf"(?:(?P<many>\d+)\s*{COUNT}|{_ONE})(?![\w/])",
    re.IGNORECASE,
)
"""The value of one or several counts, which may be tips of a bucket."""
COUNTS_PER = re.compile(
    rf"(?<![\w.,/])(?P<counts>\d+(?:\.\d+)?)\s*{COUNT}\s*(?:\bper\s+|/\s*)(?:an?\s+)?(?P<unit>[^\s\d,;=][^\s,;]*)",
    re.IGNORECASE,
)
"""Counts per unit."""
IS_COUNT = re.compile(
    rf"(?<![\w.,/])(?P<many>\d+|one|each|every|an?)\s+(?:{_ONE}|{COUNT})\s*"
    rf"(?:=|is|are|means?|equals?|stands?\s+for)\s*(?P<step>(?:{NUMBER}|1/\d+)\s*{_UNIT})",
    re.IGNORECASE,
)
METERED = re.compile(
    r"(?<![\w.,])(?P<counts>\d+(?:\.\d+)?)\s*(?:imp(?:ulse)?s?|pulses?|flashes|blinks|revs?|turns?)\s*"
    r"(?:\bper\s+|/\s*)(?:a\s+)?(?P<unit>k?Wh|m3|m³)(?!\w)",
    re.IGNORECASE,
)
"""Inscriptions of energy and gas meters."""
OF_GRAVITY = re.compile(r"\b(?:accelero\w*|acceleration|tilt|gravity)\b", re.IGNORECASE)
"""Words next to which g is not gram."""
_MOST = rf"(?:±|\+/?-)\s*({NUMBER})\s*([^\s\d,;]+)"
_BITS = r"(\d{1,2})\s*-?\s*bits?\b"
FULL_SCALE = (
    (re.compile(rf"{_MOST}[\s,]+(?:[^\W\d]+\s+){{0,3}}?{_BITS}", re.IGNORECASE), (1, 2, 3)),
    (re.compile(rf"\b{_BITS}\D{{0,24}}?{_MOST}", re.IGNORECASE), (2, 3, 1)),
)
"""``±2 g, 16 bits``: signed integers, as sensors with a bus give them."""
FINISHED = re.compile(
    rf"^(?:(?:(?:an? |the )?{WORD}(?:\.\d+)? ){{1,3}}?in|"
    r"(?:the )?(?:raw|value|reading|number|column|it)(?: value)? (?:is|are)(?: in)?) "
    r"(?P<unit>\S+)$",
    re.IGNORECASE,
)
SHARES = {"tenth": 0.1, "hundredth": 0.01, "thousandth": 0.001, "deci": 0.1, "centi": 0.01, "milli": 0.001}
_OPENED = rf"^(?:(?:an? |the )?{WORD} ){{0,3}}?"
_IN = r"(?:in |is in |are in |is |are )"
IN_SHARES = re.compile(
    rf"{_OPENED}{_IN}?(?:(?P<share>tenth|hundredth|thousandth)s of (?:an? )?(?P<unit>\S+)"
    r"|(?P<prefix>deci|centi|milli)-?(?P<of>degrees|g|°C|degrees C|celsius))$",
    re.IGNORECASE,
)
_STEP = rf"(?P<step>{NUMBER}|1/\d+)\s*(?P<unit>[^\s\d]+)"
IN_STEPS = (
    re.compile(rf"{_OPENED}{_IN}(?:steps of |units of )?{_STEP}(?: (?:units|steps))?$", re.IGNORECASE),
    re.compile(rf"{_OPENED}{_STEP} (?:units|steps)$", re.IGNORECASE),
)
TIMES = re.compile(
    rf"^(?:(?:an? |the )?{WORD} ){{0,3}}?(?:in )?(?P<unit>[^\s\d]+)\s*[x×*]\s*(?P<times>10+)$", re.IGNORECASE
)
_NO_VALUE = re.compile(
    r"(?:an?\s+)?(?:signed\s+|unsigned\s+)?\d{1,2}\s*-?\s*bits?\b(?:\s+(?:signed|unsigned|two'?s\s+complement))?|"
    rf"\b{WORD}\d+\b",
    re.IGNORECASE,
)
"""Figures that say nothing about the step: numbers of bits, and names."""
_ZERO = re.compile(
    rf"(?:\b(?:zero|tare)(?:\s+(?:at|is|of))?\s*=?\s*(?P<behind>-?{NUMBER})|(?<![\w.,])(?P<before>-?{NUMBER})(?:\s*{COUNT})?\s*"
    rf"(?:=|at|is|for)\s*(?:zero|0)(?![\w.]))(?:\s*{COUNT})?(?![\w°%.])",
    re.IGNORECASE,
)
_OFFSET = re.compile(rf"\boffset(?:\s+(?:of|is))?\s*=?\s*(?P<offset>[-+−]?{NUMBER}\s*[^\s\d,;]*)", re.IGNORECASE)
_OFFSET_OF_COUNTS = re.compile(
    rf"(?:\boffset(?:\s+(?:of|is))?\s*=?\s*(?P<behind>-?{NUMBER})\s*{COUNT}(?!\w)"
    rf"|(?<![\w.,])(?P<before>-?{NUMBER})\s*{COUNT}\s+offset\b)",
    re.IGNORECASE,
)
"""In counts it is what comes off them."""
_DETENTS = re.compile(
    r"(?:an?\s+)?(?:rotary|incremental|mechanical)?\s*encoder(?:\s+knob)?(?:\s+(?:with|of))?[\s,]+(?P<steps>\d{1,4})\s*"
    r"(?:steps?|detents?|clicks?|positions?)(?:\s*(?:per|/|a)\s*(?:rev(?:olution)?|turn))?",
    re.IGNORECASE,
)
"""A knob that clicks, whose counts are angles; pulses of an encoder are those of a speed."""
_PER_TURN = re.compile(
    r"(?<![\w.])(?P<counts>\d{1,6})\s*(?:(?:full\s+)?(?:steps?|counts?|ticks?|edges?)\s*(?:per\s+|/\s*)(?:an?\s+)?"
    r"(?:rev(?:olution)?|turn|rotation)|cpr)\b",
    re.IGNORECASE,
)
_SCREW = re.compile(
    rf"\b(?:lead|pitch)(?:\s+(?:of|is))?\s*=?\s*(?P<lead>{NUMBER})\s*(?P<unit>mm|cm|in)(?!\w)"
    rf"|(?<![\w.])(?P<behind>{NUMBER})\s*mm\s+(?:lead|pitch|per\s+(?:rev(?:olution)?|turn))",
    re.IGNORECASE,
)
_WHEEL = re.compile(
    rf"\b(?:wheel|pulley|drum|spool|roller)(?:\s+(?:diameter|dia|of|is|with))*\s*=?\s*(?P<diameter>{NUMBER})\s*"
    r"(?P<unit>mm|cm|m|in)(?!\w)",
    re.IGNORECASE,
)
_FINER = re.compile(
    r"(?<!\w)(?:1/(?P<share>\d{1,3})|(?P<many>\d{1,3})\s*x?)\s*(?:micro[\s-]?steps?(?:ping)?|stepping)\b", re.IGNORECASE
)
"""Microstepping of a motor."""
_SIGNED = re.compile(
    r"(?:as\s+|is\s+|in\s+)?(?:(?P<before>\d{1,2})[\s-]*bits?\s+)?(?<!un)(?:\bsigned|two'?s[\s-]+complement)\b"
    r"(?:\s+(?P<behind>\d{1,2})[\s-]*bits?\b)?|\bint(?P<of>8|16|32)(?:_t)?\b",
    re.IGNORECASE,
)
"""A number in two's complement, and its bits."""
_RESISTANCE = rf"{NUMBER}\s*[mk]?\s*(?:Ω|ohms?\b|R\b)"
_SHUNT = re.compile(
    rf"[\s,]*\b(?:(?:with|on|over|across|at|and)\s+)?(?:an?\s+|the\s+)?(?:(?P<before>{_RESISTANCE})[\s-]*(?:current[\s-]+)?shunt\b"
    rf"(?:\s+resistor)?|(?:current[\s-]+)?shunt(?:\s+(?:resistor|of|is|=))*\s*=?\s*(?P<behind>{_RESISTANCE}))",
    re.IGNORECASE,
)
"""The resistor on which a current makes the voltage that is counted."""
VOLT, OHM = parse_unit("V"), parse_unit("Ω")
REGISTERS = (16, 24, 32, 64)
AS_NEEDED = "1"
"""In place of a number of bits: those of the smallest register that holds all values."""
_FINE = 64
"""From this many counts per g, as a power of two, it is an accelerometer: scales never are."""


def counted(bare: str) -> str:
    """``a barometer, 0.1 hPa per count`` and ``16384 counts per m/s²`` as a value per count; empty for anything
    else."""
    if names_bits(bare):
        return ""
    shunt = _SHUNT.search(bare)
    bare = _SHUNT.sub(" ", bare)
    if (found := _DETENTS.fullmatch(bare.strip())) is not None and int(found["steps"]):
        return f"a count of {360 / int(found['steps']):.12g}°"
    if step := _travelled(bare):
        return f"a count of {step}"
    if (found := PER_COUNT.search(bare)) or (found := IS_COUNT.search(bare)):
        many = float(found["many"]) if (found["many"] or "").isdigit() else 1.0
        step = _step(found["step"], many)
    elif (found := METERED.search(bare)) or (found := COUNTS_PER.search(bare)):
        step = _step(f"1 {found['unit']}", float(found["counts"]))
    else:
        return ""
    if not step:
        return ""
    step = _through_shunt(step, shunt) if shunt is not None else step
    signed = _SIGNED.search(bare)
    bits = (signed["before"] or signed["behind"] or signed["of"] or AS_NEEDED) if signed else ""
    told = f", signed = {bits}" if bits else ""
    return f"a count of {_in_gravity(step, bare)}{_besides(bare, found)}{told}"


def _through_shunt(step: str, shunt: re.Match[str]) -> str:
    """The current that makes so many volts of a count on a shunt. Raises RequestError where a count is no voltage."""
    ohms = quantity_typed(shunt["before"] or shunt["behind"], OHM).to(OHM)
    value = parse_quantity(step, VOLT)
    if not (value.unit.same_dimension(VOLT) and ohms > 0):
        raise RequestError(f'"{shunt[0].strip(" ,")}" makes a current of a voltage, and a count is {step}.')
    return beside_unit(f"{value.to(VOLT) / ohms:.12g}", "A")


def of_full_scale(bare: str) -> str:
    """A symmetric full scale with a number of bits; empty for anything else."""
    pattern, places = FULL_SCALE[0] if FULL_SCALE[0][0].search(bare) else FULL_SCALE[1]
    found = pattern.search(bare)
    if found is None or re.search(r"\d\s*m?V\s*(?:/|per\b)", bare):
        return ""  # none, or so many millivolts for each of what it measures, up to so much
    most, unit, bits = (found[place] for place in places)
    meant = unit_said(unit)
    if meant is None or not 2 <= int(bits) <= 32:
        return ""
    each = float(most.replace(",", ".")) / 2 ** (int(bits) - 1)
    # A range symmetric about zero is not a weight.
    unit = "gn" if meant.symbol == "g" else meant.symbol
    signed = f", signed = {bits}"  # a range either way is in two's complement
    return f"a count of {beside_unit(f'{each:.12g}', unit)}{_besides(bare, found)}{signed}"


def bits_with_sign(told: int, x: Floats) -> int:
    """The bits of raw values in two's complement; 0 where they have their sign already.

    Raises RequestError for values that so many bits do not hold.
    """
    if x.size and float(x.min()) < 0:
        return 0
    most = float(x.max(initial=0.0))
    bits = told if told != int(AS_NEEDED) else next((each for each in REGISTERS if most < 2**each), REGISTERS[-1])
    if most >= 2**bits:
        raise RequestError(f"Raw values reach {plain_number(most, 12)}, which {counted_as(bits, 'bit')} cannot hold.")
    return bits


def finished(bare: str) -> str:
    """``humidity in %`` as a finished reading; ``hundredths of a degree`` as counts."""
    is_hot = re.search(r"temp|thermo", bare, re.IGNORECASE) is not None
    if found := IN_SHARES.match(bare):
        each, unit = SHARES[(found["share"] or found["prefix"]).lower()], found["unit"] or found["of"]
        is_hot = is_hot or found["of"] is not None  # a hundredth of an angle has no such name
        unit = "gn" if unit.lower() == "g" and found["of"] else unit
    elif found := IN_STEPS[0].match(bare) or IN_STEPS[1].match(bare):
        each, unit = _number(found["step"]), found["unit"]
    elif found := TIMES.match(bare):
        each, unit = 1 / int(found["times"]), found["unit"]
    elif found := FINISHED.match(bare):
        each, unit = 1.0, found["unit"]
    else:
        return ""
    if re.search(r"/\s*\d", unit):
        return ""  # a number by which something is to be divided is no unit
    unit = "°C" if is_hot and unit.lower() in ("degree", "degrees") else unit
    meant = unit_said(unit)
    if meant is None or not each:
        return ""
    return f"already in {meant}" if each == 1.0 else f"a count of {beside_unit(f'{each:.12g}', meant.symbol)}"


_G = re.compile(r"(?<=[\d\s/])(m?)G(?![\w²³])")
_OF_G = re.compile(
    r"/\s*m?G(?![\w²³])|\bper\s+m?G(?![\w²³])|(?<=\d)\s*m?G\s*(?:/|\bper\b)\s*(?:LSB|counts?|digits?|bits?|ct)\b",
)
_VOLTS_PER_G = re.compile(r"(?<=\d)\s*m?V\s*(?:/|\bper\b)\s*g(?![\w²³])")
"""Of an accelerometer: what weighs has volts for each volt that feeds it."""
_MAGNETIC = re.compile(r"\bhall\b|magnet|gauss|compass", re.IGNORECASE)


def as_named(typed: str, name: str) -> str:
    """The ``typed`` line with units as the ``name`` of a channel implies: g for an acceleration, G for a magnetic
    field, degrees for a temperature. Only where it states the value of a count.

    Raises RequestError for a capital G where neither says whether it is gauss or g.
    """
    typed = _with_gauss(typed, name)
    if _VOLTS_PER_G.search(typed) and unit_of_letter(f"{name} {typed}", "g") != "g":
        typed = re.sub(r"(?<=[\d\s/])g(?![\w²³])", "gn", typed)
    if not (PER_COUNT.search(typed) or COUNTS_PER.search(typed) or FULL_SCALE[0][0].search(typed)):
        return typed
    if unit_of_letter(name, "g") == "gn":
        typed = re.sub(r"(?<=[\d\s/])(m?)g(?![\w²³])", r"\1gn", typed, flags=re.IGNORECASE)
    if unit_of_letter(name, "c") == "°C":
        typed = re.sub(r"(?<=[\d\s/])(?:degrees?|deg|°)(?![\w°])(?!\s*[CF]\b)", "°C", typed, flags=re.IGNORECASE)
    return typed


def _with_gauss(typed: str, name: str) -> str:
    """The line with a capital G per count, or volts per G, as what it means: gauss, or g of accelerations."""
    if not _OF_G.search(typed):
        return typed
    said = f"{name} {typed}"
    if unit_of_letter(said, "t") == "T" or _MAGNETIC.search(said):
        return _G.sub(r"\1Gs", typed)
    if unit_of_letter(said, "g") == "gn":
        return _G.sub(r"\1gn", typed)
    raise RequestError(f'"{typed.strip()}": G can be gauss or the pull of the earth; write Gs or gn for it.')


def _travelled(bare: str) -> str:
    """The travel of a screw, a wheel or a drum per step: ``200 steps per rev, lead 8 mm``."""
    turn, screw, wheel = (pattern.search(bare) for pattern in (_PER_TURN, _SCREW, _WHEEL))
    if turn is None or not (screw or wheel):
        return ""
    finer = _FINER.search(bare)
    rest = bare
    for found in filter(None, (turn, screw or wheel, finer)):
        rest = rest.replace(found[0], " ")
    if re.search(r"\d", rest) or CHANGES.search(rest):
        return ""  # a gear, or what else: nothing of it may be lost
    counts = int(turn["counts"]) * int((finer["share"] or finer["many"]) if finer else 1)
    written, unit, turns = ("", "", 1.0)
    if screw:
        written, unit = screw["lead"] or screw["behind"], screw["unit"] or "mm"
    elif wheel:
        written, unit, turns = wheel["diameter"], wheel["unit"], math.pi
    goes = turns * _number(written)
    return beside_unit(f"{goes / counts:.12g}", unit) if counts and 0 < goes < math.inf else ""


def _number(said: str) -> float:
    above, _, below = said.replace(",", ".").partition("/")
    return float(above) / float(below or 1) if float(below or 1) else 0.0


def _step(said: str, many: float) -> str:
    """The stated value divided by ``many``, in an existing unit; empty where there is none."""
    found = re.fullmatch(
        rf"(?P<number>(?:{NUMBER}(?:e-?\d+)?|1/\d+))\s*\(?(?P<unit>{_UNIT})", said.strip(), re.IGNORECASE
    )
    unit = unit_said(found["unit"].removesuffix(")")) if found else None
    if found is None or unit is None or not 0 < many < math.inf or not _number(found["number"]):
        return ""
    return beside_unit(f"{_number(found['number']) / many:.12g}", re.sub(r"(?<=[^\W\d])([23])$", r"^\1", unit.symbol))


def _besides(bare: str, found: re.Match[str]) -> str:
    """What else is said of a count, as the recipe takes it: the position of its zero, an offset; and, so that it is
    refused, what changes a reading or has a figure. Names of sensors say nothing."""
    rest = _NO_VALUE.sub(" ", _SIGNED.sub(" ", f"{bare[: found.start()]}, {bare[found.end() :]}"))
    zero = _ZERO.search(rest) or _OFFSET_OF_COUNTS.search(rest)
    offset = _OFFSET.search(rest.replace(zero[0], " ") if zero else rest)
    if offset and "counts" in found.groupdict():
        _check_offset(offset, found)
    for each in (zero, offset):
        rest = rest.replace(each[0], " ") if each else rest
    told = [f", zero = {zero['behind'] or zero['before']}"] if zero else []
    told += [f", offset = {offset['offset'].strip().replace('−', '-').lstrip('+')}"] if offset else []
    others = (each.strip() for each in re.split(r"[,;]", rest))
    return "".join([*told, *(f", {each}" for each in others if re.search(r"\d", each) or CHANGES.search(each))])


def _check_offset(offset: re.Match[str], found: re.Match[str]) -> None:
    """Raises RequestError for a whole number without a unit beside counts per unit: it may be either."""
    said = offset["offset"].strip().replace("−", "-").lstrip("+")
    if re.fullmatch(r"-?0*[1-9]\d*", said):
        added = beside_unit(said, found["unit"])
        raise RequestError(
            f'"offset {said}" can be counts that come off, zero {said}, or what is added to the reading, '
            f"offset {added}; say which."
        )


def _in_gravity(step: str, bare: str) -> str:
    """``0.061 mg`` of an accelerometer as a standard acceleration of free fall."""
    found = re.fullmatch(r"(?P<number>[\d.,e-]+)\s*(?P<prefix>[mµ]?)g(?P<free>n?)", step)
    number = float(found["number"]) if found else 0.0
    if found is None or not number:
        return step
    is_even = not found["prefix"] and 1 / number >= _FINE and math.log2(1 / number).is_integer()
    of_chip = found["prefix"] == "m" and re.search(r"LSB|digit", bare, re.IGNORECASE) is not None
    if not (found["free"] or is_even or of_chip or OF_GRAVITY.search(bare)):
        return step
    return f"{number * {'': 1.0, 'm': 1e-3, 'µ': 1e-6}[found['prefix']]:.12g} gn"
