"""A signal described by figures alone, translated into a recipe: ``0.5-4.5 V is 0-10 bar``, ``10 mV per degree``, ``300
wet 800 dry``, ``3.3 V reference``, ``type K``."""

from __future__ import annotations

import re
from collections.abc import Callable
from functools import partial

from lesart.core.errors import RequestError
from lesart.core.quantity import parse_quantity
from lesart.core.raw.spelled.unit_said import unit_said
from lesart.core.units import Unit, parse_unit, ratio_symbol
from lesart.desk.entries.recipes.kinds.currents import by_current
from lesart.desk.entries.recipes.kinds.powers import by_power
from lesart.desk.entries.recipes.kinds.strained import strained
from lesart.desk.entries.recipes.phrases.aloud import ARTICLE, AT_25, NOTHING_AT, TWO_BUFFERS, units_behind
from lesart.desk.entries.recipes.phrases.called import CALLED
from lesart.desk.entries.recipes.phrases.converter_said import with_converter, without_half
from lesart.desk.entries.recipes.phrases.counts_said import counted
from lesart.desk.entries.recipes.phrases.pulses_said import echoed, metered
from lesart.desk.entries.recipes.phrases.ranges_said import TO, by_points, over_divider, ranged
from lesart.desk.entries.recipes.phrases.shares_said import of_pot, of_sender, shared
from lesart.desk.entries.said.modifiers import CHANGES
from lesart.desk.entries.said.patterns import UNIT, begins_with

SECOND, HERTZ, OHM, VOLT, AMPERE = (parse_unit(each) for each in ("s", "Hz", "Ω", "V", "A"))
BRIEFLY = (SECOND, HERTZ, VOLT, OHM)
"""Units of raw values that a few figures may be of."""
BY_FIGURES = re.compile(r"\s*(?:(?:map(?:ped)?|scaled?|from|between)\s+)*(?:[-+−±.]?\d)", re.IGNORECASE)
"""Figures alone are a line, of a column of volts."""
_NUMBER = r"[-−+]?\d+(?:[.,]\d+)?"
_EITHER_WAY = re.compile(r"±\s*(\d+(?:[.,]\d+)?)")
_FROM = re.compile(
    r"(?:the\s+)?(?:lux|light|brightness|temp(?:erature)?|pressure|distance|weight|speed|flow|humidity|angle|position)\s+"
    r"(?:from|of|with|by|using)\s+(?:an?\s+|the\s+)?",
    re.IGNORECASE,
)
_CHARGE = re.compile(
    rf"(?:(?:battery|lipo|lithium|cell|pack)\s+){{1,2}}(?:from\s+)?(?P<from>{_NUMBER})\s*V?{TO}(?P<to>{_NUMBER})\s*V",
    re.IGNORECASE,
)
_BITS = re.compile(r"(?:an?\s+)?(?P<bits>\d{1,2})\s*-?\s*bits?(?:\s+(?:adc|converter))?", re.IGNORECASE)
_BITS_FIRST = re.compile(
    rf"(?:an?\s+)?(?P<bits>\d{{1,2}})\s*-?\s*bits?(?:\s+(?:adc|converter))?[\s,]+(?:(?:at|with|and|over)\s+)?"
    rf"(?P<volts>{_NUMBER}\s*V)(?:\s+(?:v?ref|reference|supply|adc|converter))?",
    re.IGNORECASE,
)
_SLOPE = re.compile(
    rf"(?P<volts>{_NUMBER}\s*[mµu]?V)\s*(?:/\s*|\bper\s+(?-i:an?\s+)?)(?P<many>\d+(?:\.\d+)?\s*)?"
    rf"(?P<per>\([^\W\d]*°?[^\W\d]*/[^\W\d]+[²³23]?\)|degrees?(?:\s+(?:C|Celsius))?|°\s?[CF]|{UNIT})(?!\w)",
    re.IGNORECASE,
)
_ZERO = re.compile(
    rf"(?P<zero>{_NUMBER}\s*m?V)\s*(?:offset(?:\s+at\s+0\s*(?P<of_offset>{UNIT}))?|zero|(?:at|for|is|=)\s+(?:zero|0)(?:\s*(?P<of>{UNIT}))?|(?:at|for|with|in)?\s*no\s+[^\W\d]+)"
    rf"|(?:offset|zero|centred|centered|midpoint)\s*(?:of|is|at|on|around|=|:)?\s*(?P<other>{_NUMBER}\s*m?V)",
    re.IGNORECASE,
)
_ADDED_BEFORE = re.compile(rf"(?P<zero>{_NUMBER}\s*m?V)\s*\+\s*(?={_NUMBER}\s*[mµu]?V\s*(?:/|per\b))", re.IGNORECASE)
_ADDED_BEHIND = re.compile(rf"(?<=[/\w°%])\s*\+\s*(?P<zero>{_NUMBER}\s*m?V)$", re.IGNORECASE)
_GAIN = re.compile(
    r"[\s,]*(?:(?:with|and|an?|amplifier)\s+)*(?:gain|amplified)(?:\s+(?:of|by|is))?\s*=?\s*(?P<gain>\d+(?:[.,]\d+)?)"
    r"(?:\s*(?:x|times))?(?![\w.])",
    re.IGNORECASE,
)
_PER_VOLT = re.compile(
    rf"(?<![\w.,])(?P<many>\d+(?:[.,]\d+)?)\s*(?P<unit>(?!m?V\b){UNIT})\s*(?:/|\bper\b)\s*(?:1\s*|an?\s+)?(?:V|volt)\b",
    re.IGNORECASE,
)
_RANGE_EITHER_WAY = re.compile(r"(?:±|\+/?-)\s*(?P<most>\d+(?:[.,]\d+)?\s*[^\W\d]+)(?=\s*,)")
"""How far it measures, beside its slope."""
_AMPLIFIED = re.compile(r"\bthermocouple\b", re.IGNORECASE)
AMPLIFIER_HOW = "say what its amplifier gives at 0 °C too, like 5 mV/°C, 0 V at 0 °C, or 5 mV/°C, 1.25 V at 0 °C"
_ELSEWHERE = re.compile(
    rf"(?P<there>{_NUMBER}\s*m?V)\s*(?:at|@|for)\s*(?P<at>{_NUMBER})\s*(?P<unit>{UNIT})(?![\w/])", re.IGNORECASE
)
"""The voltage at another reading than 0: ``600 mV at 25 °C``."""
_OF_BETA = re.compile(r"(?:\b(?:b|beta)|β)\s*(?:25/\d\d\s*)?(?:value\s*)?(?:=|of|is)?\s*\d{4}(?!\d)", re.IGNORECASE)
_STEP = re.compile(
    rf"(?:[^\W\d][\w-]*[,:]?\s+){{0,3}}?(?:(?:1|one)\s+)?lsb(?:\s+size)?(?:\s+(?:of|is))?\s*[=:]?\s*(?P<step>{_NUMBER}\s*(?=[^\W\d]|[°%Ωµ]){UNIT})",
    re.IGNORECASE,
)
_CLAMP = (
    r"(?:ct(?:[\s-]+clamp)?|(?:split[\s-]core\s+)?current[\s-]+(?:clamp|transformer|sensor))[\s,:]*(?:of\s+|with\s+)?"
)
_BURDENED = re.compile(
    rf"{_CLAMP}(?:(?P<turns>{_NUMBER})\s*(?::\s*1|turns)|1\s*:\s*(?P<turns_behind>{_NUMBER})|(?P<in>{_NUMBER}\s*A)\s*(?:/|:|to|->|=)?\s*"
    rf"(?P<out>{_NUMBER}\s*mA))[\s,]*(?:(?:with|and|a|its|over|burden|resistor|of)\s+)*(?P<ohms>\d+(?:[.,]\d+)?)\s*(?:Ω|ohms?|R)"
    r"(?:\s+(?:burden|resistor))*",
    re.IGNORECASE,
)
_RATIO_FIRST = re.compile(
    rf"(?P<in>{_NUMBER}\s*A)\s*(?:/|:|to|->)\s*(?P<out>{_NUMBER}\s*mA)\s+(?:ct|(?:split[\s-]core\s+)?current[\s-]+"
    r"(?:clamp|transformer|sensor))[\s,]*(?P<rest>.+)",
    re.IGNORECASE,
)
_TO_VOLTS = re.compile(
    rf"{_CLAMP}(?P<in>{_NUMBER}\s*A)\s*(?:/|:|to|->|=|gives|is)?\s*(?P<volts>{_NUMBER}\s*m?V)", re.IGNORECASE
)
_BETWEEN = re.compile(
    r"^[\s,;:]*(?:(?:with|and|from|on|a|an|the|of|at|zero|current|hall|effect|sensor|module|probe|clamp|output|light|uv|index|wind|speed|"
    r"dust|gas|microphone|mic|sound|force|load|vibration|radiation|irradiance|solar|pyranometer|sensitivity|oxygen|torque|analog(?:ue)?|linear|"
    r"pressure|temperature|thermometer|humidity|level|weight|diode|transistor|silicon|junction|thermocouple|amplifier|amplified|gyro|gyroscope|accelerometer|capacitive|relative|air|soil|infra-?red|type\s+[BEJKNRST]|[BEJKNRST]\s+type)\b[\s,;:]*)*$",
    re.IGNORECASE,
)
_CALLED_SO = re.compile(
    r"[\s,;:]*(?:(?!(?:amplif|gain|divid|through|via|over|behind|with|into|times|by|and|or|of|to|from|on|at|in)\w*\b)"
    r"[^\W\d][\w-]*(?:[\s,;:]+|$)){0,3}$",
    re.IGNORECASE,
)
"""Whatever else it is called, in two or three words."""
_GIVES = re.compile(
    r"(?:the\s+)?(?:sensor|probe|transmitter|transducer|it|output)\s+(?:gives?|outputs?|reads?|says?|has|is|measures|"
    r"ranges?)\s+",
    re.IGNORECASE,
)
_REFERENCE = re.compile(
    rf"(?:(?P<volts>{_NUMBER}\s*V)(?:\s+(?:v?ref|reference|supply|adc|converter|full\s+scale))?"
    rf"|(?:v?ref|reference|full\s+scale)(?:\s+(?:of|is))?\s*[=:]?\s*(?P<behind>{_NUMBER}\s*V))"
    r"(?:[\s,]+(?P<bits>\d{1,2})\s*-?\s*bits?)?",
    re.IGNORECASE,
)
_VOLT_ALONE = re.compile(
    r"(?:(?:convert\s+)?(?:it\s+)?(?:in|to|into|as)\s+)?(?:V|mV|volts?|millivolts?)", re.IGNORECASE
)
_PAIR = re.compile(
    r"(?:type[\s-]*(?P<letter>[BEJKNRST])|(?P<first>[BEJKNRST])[\s-]*type)(?:\s+(?:probe|sensor))?"
    rf"(?:[\s,]+(?:with\s+)?(?:an?\s+|the\s+)?(?:cold[\s-]?junction|reference\s+junction|cold|ambient)(?:\s+(?:at|of|is|=))?\s*"
    rf"(?P<cold>{_NUMBER})\s*(?:°?\s*C|degrees?)?)?",
    re.IGNORECASE,
)
_SHUNT = re.compile(
    rf"current(?:\s+(?:over|through|across|with|by))?\s+(?:an?\s+|the\s+)?(?P<ohms>{_NUMBER}\s*(?:m?Ω|m?ohms?|milliohms?|R))\s+"
    r"(?:shunt|resistor)[\s,]*(?P<rest>.*)",
    re.IGNORECASE,
)
_TURNS = re.compile(
    r"(?:rpm|(?:rev(?:olution)?s?|turns?)(?:\s+(?:per|a)\s+|/)min(?:ute)?)\b\s*(?:from|of|with|,)?\s*(?P<rest>(?!\s*=).*)",
    re.IGNORECASE,
)
_RANGE_ALONE = re.compile(
    rf"(?:from\s+)?(?P<low>{_NUMBER})\s*(?:%|°|deg(?:rees?)?)?{TO}(?P<high>{_NUMBER})\s*(?P<unit>%|°|deg(?:rees?)?)",
    re.IGNORECASE,
)
"""The full range of a converter."""
_ACID = re.compile(r"(?:an?\s+)?pH(?:\s+(?:probe|electrode|sensor|meter))?[\s,:]+(?P<rest>.*)", re.IGNORECASE)
_VOLTS_IN_BUFFER = re.compile(
    rf"(?P<volts>{_NUMBER}\s*m?V)\s*(?:at|in|=|is|for|@)\s*pH\s*(?P<ph>\d+(?:[.,]\d+)?)(?![\w.,]*\w)", re.IGNORECASE
)
"""``2.5 V at pH 7``, the other way round."""
_AT_NEUTRAL = re.compile(r"(?<=mV/pH)\s+at\s+(?:pH\s*)?7(?:[.,]0+)?\b", re.IGNORECASE)
_OF_AIR = re.compile(r"%\s*(?:RH|r\.\s?h\.)(?![\w])", re.IGNORECASE)
_SHARE_ALONE = re.compile(r"(?:(?:in|to|as)\s+)?(?:%|per\s?cent(?:age)?)", re.IGNORECASE)


def said_briefly(typed: str, raw: Unit) -> str:
    """The recipe line for a channel with raw values in ``raw``; empty where the figures do not give one."""
    said = re.sub(r"(?<=\d)\s*per\s?cent\b", " %", typed, flags=re.IGNORECASE)
    if said.count("±") == 2:  # ±10 V is ±50 mm; one alone is a measuring range
        said = _EITHER_WAY.sub(r"-\1 to \1", said)
    said = _OF_AIR.sub("%", _GIVES.sub("", units_behind(said.strip()), count=1))
    rules: tuple[Callable[[str], str], ...] = (
        _of_sensor,
        _by_beta,
        _clamped,
        _stepped,
        ranged,
        _sloped,
        _charged,
        partial(shared, raw=raw),
        _paired,
        _over_shunt,
    )
    if raw.symbol == "ct":
        rules = (of_sender, *rules)
    if raw.symbol in ("ct", "1"):
        rules = (_of_acid, by_points, _by_its_curve, *rules, _on_converter, _turning, metered)
    if raw.same_dimension(VOLT):
        rules = (_of_acid, *(() if BY_FIGURES.match(typed) else (by_points,)), _by_its_curve, *rules)
    if raw.same_dimension(OHM):
        rules = (_by_its_curve, of_sender, of_pot, *rules)
    if raw.same_dimension(HERTZ):
        rules = (*rules, _turning, metered, counted)
    if raw.symbol in ("ct", "1") or raw.same_dimension(SECOND):
        rules = (*rules, echoed)

    def by_rules(phrase: str) -> str:
        return next((found for rule in rules if (found := rule(phrase))), "")

    def with_its_converter(phrase: str) -> str:
        return by_rules(without_half(phrase)) or with_converter(phrase, by_rules)

    return with_its_converter(said) or over_divider(said, with_its_converter)


def _by_its_curve(said: str) -> str:
    """A strain gauge, a resistance by points of its curve, or a current over a resistor."""
    bare = ARTICLE.sub("", said)
    return strained(bare) or by_power(bare) or by_current(bare)


def _sloped(said: str) -> str:
    """Volts per unit of what it measures, and the voltage at its zero if stated, which may be added to it."""
    said = NOTHING_AT.sub(r"\g<volts> at 0 \g<of>", said)
    said = _ADDED_BEFORE.sub(r"\g<zero> zero, ", _ADDED_BEHIND.sub(r", \g<zero> zero", said))
    reach = _RANGE_EITHER_WAY.search(said)
    said = _PER_VOLT.sub(_turned, _RANGE_EITHER_WAY.sub(" ", said, count=1), count=1)
    slope = _SLOPE.search(said)
    if slope is None:
        return ""
    rest = f"{said[: slope.start()]} {said[slope.end() :]}"
    zero = _ZERO.search(rest)
    elsewhere = _ELSEWHERE.search(rest) if zero is None else None
    if elsewhere is not None:
        rest = f"{rest[: elsewhere.start()]} {rest[elsewhere.end() :]}"
    if zero is not None:
        rest = f"{rest[: zero.start()]} {rest[zero.end() :]}"
        if any(CHANGES.fullmatch(of or "") for of in (zero["of"], zero["of_offset"])):
            return ""  # at 0 twice
    gain = _GAIN.search(rest)
    rest = _GAIN.sub(" ", rest, count=1)
    if _BETWEEN.match(rest) is None and (_CALLED_SO.match(rest) is None or CHANGES.search(rest)):
        return ""
    if zero is None and elsewhere is None and _AMPLIFIED.search(rest):
        raise RequestError(f'"{said}": {AMPLIFIER_HOW}.')
    is_degree = slope["per"].lower().startswith("degree")
    unit = unit_said("°C" if is_degree else slope["per"].strip("()"))
    if unit is None:
        return ""
    at = f", zero = {zero['zero'] or zero['other']}" if zero is not None else ""
    # A volt per kelvin or per degree Fahrenheit alone begins at 0 of it.
    is_from_zero = unit.symbol in ("K", "°F") and zero is None and elsewhere is None
    called = "thermometer in volts" if unit.is_temperature and not is_from_zero else "sensor giving"
    millivolts = 1000 * parse_quantity(slope["volts"], VOLT).to(VOLT) / (float(slope["many"] or 1) or 1)
    millivolts *= float(gain["gain"].replace(",", ".")) if gain else 1.0
    if elsewhere is not None:
        if (of := unit_said(elsewhere["unit"] or "°C")) is None or of != unit:
            return ""
        there = parse_quantity(elsewhere["there"], VOLT).to(VOLT)
        at = f", zero = {1000 * there - millivolts * float(elsewhere['at'].replace(',', '.')):.10g} mV"
    written = f"{slope['volts']}/{unit}"
    if gain or slope["many"] or "/" in str(unit):
        written = f"{millivolts:.10g} {ratio_symbol(parse_unit('mV'), unit)}"
    most = f", most = {reach['most']}" if reach and called == "sensor giving" else ""
    return f"a {called} {written}{at}{most}"


def _turned(found: re.Match[str]) -> str:
    """``100 lx per V`` as the volts for each lux."""
    many = float(found["many"].replace(",", "."))
    return f"{1000 / many:.12g} mV/{found['unit']}" if many and unit_said(found["unit"]) is not None else found[0]


def _of_sensor(said: str) -> str:
    """``lux from an LDR 10k``: the sensor says what it reads."""
    found = _FROM.match(said)
    rest = said[found.end() :] if found else ""
    return f"a {rest}" if any(begins_with(name).match(rest) for name in CALLED) else ""


def _by_beta(said: str) -> str:
    """``b 3435 25C 10k``: only a thermistor has a β."""
    if _OF_BETA.search(said) is None or re.match(r"(?:an?\s+)?(?:\S+\s+)?(?:ntc|thermistor)\b", said, re.IGNORECASE):
        return ""
    return f"a thermistor half, {AT_25.sub(' ', said)}"


def _clamped(said: str) -> str:
    """A current transformer with a burden resistor, or with one built in: volts per ampere.

    Raises RequestError for one without turns or without a current.
    """
    if found := _BURDENED.fullmatch(said):
        turns = found["turns"] or found["turns_behind"]
        above, below = (turns, "1") if turns else (found["in"], found["out"])
        ratio = (float(above.replace(",", ".")), 1.0) if turns else (_in_amperes(above), _in_amperes(below))
        if not (ratio[0] > 0 and ratio[1] > 0):
            raise RequestError(
                f'"{said}": a transformer of 0 gives nothing; say its ratio, like 2000:1 or 100 A / 50 mA.'
            )
        ohms = parse_quantity(found["ohms"] + " Ω", OHM).to(OHM)
        return f"a sensor giving {1000 * ohms * ratio[1] / ratio[0]:.10g} mV/A"
    if found := _RATIO_FIRST.fullmatch(said):
        return _clamped(f"ct {found['in']} / {found['out']}, {found['rest']}")
    if found := _TO_VOLTS.fullmatch(said):
        volts, amperes = parse_quantity(found["volts"], VOLT).to(VOLT), _in_amperes(found["in"])
        if not amperes > 0:
            raise RequestError(f'"{said}": a transformer of 0 A gives nothing; say its ratio, like 30 A / 1 V.')
        return f"a sensor giving {1000 * volts / amperes:.10g} mV/A"
    return ""


def _in_amperes(said: str) -> float:
    return parse_quantity(said, AMPERE).to(AMPERE)


def _stepped(said: str) -> str:
    """``LSB 0.125 mV``."""
    found = _STEP.fullmatch(said)
    return f"a count of {found['step']}" if found else ""


def _charged(said: str) -> str:
    """A battery from empty to full."""
    found = _CHARGE.fullmatch(said)
    if found is None:
        return ""
    return f"a sensor in volts from {found['from']} V to {found['to']} V, 0 to 100 %"


def _of_acid(said: str) -> str:
    """A glass electrode by its voltages in two buffer solutions, or by its slope, which is that ``at pH 7``."""
    said = _VOLTS_IN_BUFFER.sub(r"\g<ph> at \g<volts>", said)
    if _AT_NEUTRAL.search(said):
        return _of_acid_slope(said)
    found = _ACID.match(said)
    return f"a pH probe, {found['rest']}" if found and TWO_BUFFERS.search(found["rest"]) else ""


def _of_acid_slope(said: str) -> str:
    found = _ACID.match(said)
    return f"a pH probe, {_AT_NEUTRAL.sub(' ', found['rest'])}" if found else ""


def _paired(said: str) -> str:
    found = _PAIR.fullmatch(said)
    if found is None:
        return ""
    cold = f", cold = {found['cold']} °C" if found["cold"] else ""
    return f"a thermocouple of type {(found['letter'] or found['first']).upper()}{cold}"


def _over_shunt(said: str) -> str:
    found = _SHUNT.fullmatch(said)
    return f"a current over a shunt {found['ohms']}, {found['rest']}".rstrip(" ,") if found else ""


def _on_converter(said: str) -> str:
    if _VOLT_ALONE.fullmatch(said):
        return "a voltage on a converter"
    if _SHARE_ALONE.fullmatch(said):
        return "a share"
    if (turned := _RANGE_ALONE.fullmatch(said)) is not None:
        unit = unit_said(turned["unit"])
        whole = f"{turned['low']} {unit} to {turned['high']} {unit}"
        return "a share" if whole == "0 % to 100 %" else f"a knob, {whole}"
    if (first := _BITS_FIRST.fullmatch(said)) is not None:
        return f"a voltage on a converter of {first['bits']} bits, reference = {first['volts']}"
    if (alone := _BITS.fullmatch(said)) is not None:
        return f"a voltage on a converter of {alone['bits']} bits"
    found = _REFERENCE.fullmatch(said)
    if found is None:
        return ""
    bits = f" of {found['bits']} bits" if found["bits"] else ""
    return f"a voltage on a converter{bits}, reference = {found['volts'] or found['behind']}"


def _turning(said: str) -> str:
    found = _TURNS.fullmatch(said)
    return f"a wheel's pulses, {found['rest']}".rstrip(" ,") if found else ""
