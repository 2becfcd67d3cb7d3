"""A signal as people say it, translated into what recipes accept.

``temperature in °C`` is finished already, ``0.2794 mm per tip`` is a count of so much, anything with 4 to 20 mA is a
current loop, and ``10k pull-down`` is the fixed resistor with the sensor at the other end.
"""

from __future__ import annotations

import re
from collections.abc import Callable, Collection
from functools import partial

from lesart.core.quantity import parse_quantity
from lesart.core.raw.spelled.unit_said import unit_said
from lesart.core.units import parse_unit
from lesart.core.usual import REFERENCES
from lesart.desk.entries.recipes.kinds.referenced import compared
from lesart.desk.entries.recipes.phrases.called import CALLED
from lesart.desk.entries.recipes.phrases.counts_said import (
    COUNTS_PER,
    NUMBER,
    PER_COUNT,
    WORD,
    counted,
    finished,
    of_full_scale,
)
from lesart.desk.entries.recipes.phrases.light_said import at_ten_lux
from lesart.desk.entries.recipes.phrases.platinum_said import platinum_plainly
from lesart.desk.entries.recipes.phrases.program_names import by_program_names
from lesart.desk.entries.said.modifiers import CHANGES
from lesart.desk.entries.said.patterns import begins_with

OHM, VOLT, AMPERE = parse_unit("Ω"), parse_unit("V"), parse_unit("A")
ARTICLE = re.compile(r"^(?:it is |it's )?(?:an? |the )?", re.IGNORECASE)

# What it is: of the whole phrase

SPENT = re.compile(r"\becho(?:es)?\b", re.IGNORECASE)
IN_SPENT = re.compile(r"\s+in\s+(?:µs|us|microseconds)\b")
"""A time as an answer, which is not a reading yet."""
EVERY_LOOP = re.compile(r"\b4\s*(?:mA\s*)?(?:to|[-–…]|\.\.+)\s*20\s*mA\b", re.IGNORECASE)
"""Words about a current loop that all of them share."""
ON_LOOPS = re.compile(
    r"\b(?:current loop|loop|signal|input|level|pressure|temperature|flow|humidity|distance|weight|sensor|probe|"
    r"transmitter|transducer|RTD|Pt\d+)\b",
    re.IGNORECASE,
)
ADJECTIVES = re.compile(
    r"^(?:analog(?:ue)?|digital|linear|rotary|slide|capacitive|resistive|submersible|waterproof|ordinary|simple|small|"
    r"ultrasonic(?= echo)|bicycle|kitchen|bathroom|postal|cheap|raw|DC|lithium|lead|car|NTC(?= thermistor)|"
    r"\d+(?:[.,]\d+)? ?V(?= (?:\w+ )?(?:battery|lipo|cell|panel)))\s+",
    re.IGNORECASE,
)
OVER_RANGES = re.compile(
    rf"(?:{WORD}\s+){{1,3}}(?:sensor|probe|transmitter|transducer)[,:]?\s+(?=.*\d\s*V\b)"
    rf"(?=(?:.*\d\s*[^\s\d]*\s*(?:-|–|…|to)\s*\d){{2}})",
    re.IGNORECASE,
)
OF_KNOB = re.compile(r"(?:potentiometer|pot|knob|slider|fader|trimmer|joystick)\s+in\s+(?:%|per\s?cent)", re.IGNORECASE)
"""A share of its turn, and not a reading that is finished."""
PIN = re.compile(
    r"[\s,;]+(?:on|at|to|into)\s+(?:the\s+)?(?:(?:board'?s?|analog(?:ue)?|digital)\s+)?(?:(?:pin|input)\s+)?"
    r"(?P<pin>(?:A|D|IO|GP|ADC)\d{1,2}|GPIO\s?\d{1,2}|P[A-H]\d{1,2}|(?:(?<=pin\s)|(?<=input\s)|(?<=analog\s))\d{1,2})\b(?![.,]\d)",
    re.IGNORECASE,
)
"""Words about its pin, which belong in 1 Wire."""


# Of a kind

PAIR = re.compile(
    r"\b(?:(?:type[\s-]*)?(?P<first>[BEJKNRST])[\s-]*(?:type)?\s+)?thermo\s?couple\b"
    r"(?:\s*,?\s*(?:of\s+)?(?:type[\s=-]*)?(?P<last>[BEJKNRST])\b(?:[\s-]*type)?)?(?!\s*\w*\s*=)",
    re.IGNORECASE,
)
OF_PAIR = re.compile(r"\b(?:in|its)\s+(?:mV|millivolts|V)\b|\b(?:amplifier|module|probe)\b", re.IGNORECASE)
OF_DEGREE = re.compile(r"\d\s*[mµ]?V\s*(?:/|per\b)", re.IGNORECASE)
"""An amplifier with an output in millivolts per degree."""
PER_HERTZ = re.compile(
    rf"(?P<step>(?<![\w.,]){NUMBER}\s*[^\s\d,;=]+)\s*(?:\bper\s+|/\s*)"
    r"(?:Hz\b|hertz\b|pulses?\s*(?:\bper\s+|\ba\s+|/\s*)s(?:ec(?:ond)?)?\b)",
    re.IGNORECASE,
)
"""The value of one pulse per second; a plain pulse is counted."""
IS_HERTZ = re.compile(
    r"\b(?:1|one)\s*(?:Hz|hertz|pulses?\s*(?:per\s+|a\s+|/\s*)s(?:ec(?:ond)?)?)\s*(?:=|is|are|means|gives|for)\s*"
    rf"(?P<step>{NUMBER}\s*[^\s\d,;=]+)",
    re.IGNORECASE,
)
PER_TURN = re.compile(
    r"\b(?:\d+|one|two)\s+pulses?\s*(?:per|a|/)\s*(?:rev(?:olution)?|turn|rotation)\b,?", re.IGNORECASE
)
"""Beside what a hertz is worth it changes nothing."""
BY_RATIO = re.compile(
    rf"\bdivided\s+by\s+(?P<behind>{NUMBER})(?![\w:])|(?<!gauge\s)\b(?:ratio|factor)\s*(?:of\s*)?(?P<before>{NUMBER})(?!\w)"
    rf"|(?<![\w.,:])(?:1\s*:\s*(?P<parts>{NUMBER})|(?P<other>{NUMBER})\s*:\s*1)(?!\w)",
    re.IGNORECASE,
)
OF_STRAIN = re.compile(r"strain\b", re.IGNORECASE)
"""Its factor is that of the gauges."""
OF_RATIO = re.compile(
    r"\b(?:voltage|divided|divider|battery|lipo|cell|solar|panel|supply|\d+(?:[.,]\d+)? ?V(?= (?:battery|supply)))\b",
    re.IGNORECASE,
)
OHMS = re.compile(r"\d\s*(?:[kM]\d*)?(?:Ω|ohms?\b|[kM]\b)", re.IGNORECASE)
MAGNETS = re.compile(
    r"^(?:hall(?:[\s-]effect)?|reed|magnetic)\s+(?:sensor|switch|contact)(?=.*\bmagnets?\b)", re.IGNORECASE
)


PH_BEFORE = re.compile(rf"\bpH\s+(?P<low>{NUMBER})\s*(?:-|–|…|to)\s*(?P<high>{NUMBER})(?![\w.,]*\w)", re.IGNORECASE)
"""The one unit that people put before its range."""


def plainly(typed: str, recipes: Collection[str] = ()) -> str:
    """The phrase with what it is put as recipes are called; as it was where nothing is to be put otherwise.

    Only after an article, or where it begins with a number: a law may have such values too. ``recipes`` are the names
    before which an adjective says nothing.
    """
    typed = units_behind(typed)
    typed = platinum_plainly(typed)
    bare = ARTICLE.sub("", typed.strip())
    if bare == typed.strip() and not bare[:1].isdigit():
        return typed
    bare = PIN.sub("", bare).strip(" ,;")
    if SPENT.search(bare):
        return _without_adjectives(f"a {IN_SPENT.sub('', bare)}", IN_SPENT.sub("", bare), recipes)
    if found := _of_its_kind(bare):
        return found
    if EVERY_LOOP.search(bare):
        said = re.sub(r"\s+(?:is|are|means?|gives?|=|->)\s+", ", ", EVERY_LOOP.sub(" ", bare))
        return f"a current loop {ON_LOOPS.sub(' ', said)}"
    is_named = any(bare.lower().startswith(each.lower()) for each in recipes if " in " in each)
    found = counted(bare) or of_full_scale(bare) or ("" if is_named or OF_KNOB.match(bare) else finished(bare))
    return found or _without_adjectives(f"a {bare}", bare, recipes)


def _of_its_kind(bare: str) -> str:
    """A signal named by its kind or by a ratio: ``a type K thermocouple``, ``2.4 km/h per Hz``, a battery ``divided by
    4``, a ``hall sensor with 2 magnets``."""
    if said := compared(bare):
        return said
    if (found := PAIR.search(bare)) and not (PER_COUNT.search(bare) or COUNTS_PER.search(bare)):
        if OF_DEGREE.search(bare):
            return f"a thermometer in volts {PAIR.sub(' ', OF_PAIR.sub(' ', bare))}"
        letter = (found["first"] or found["last"] or "").upper()
        rest = f"{bare[: found.start()]} {bare[found.end() :]}"
        return f"a thermocouple {f', type = {letter}' if letter else ''}, {OF_PAIR.sub(' ', rest)}"
    if found := PER_HERTZ.search(bare) or IS_HERTZ.search(bare):
        rest = PER_TURN.sub(" ", f"{bare[: found.start()]} {bare[found.end() :]}")
        rest = re.sub(rf"^(?:{WORD}\s*){{0,3}}", "", rest.strip(" ,"))
        return f"pulses giving {found['step']}, {rest}".strip(" ,")
    if (found := BY_RATIO.search(bare)) and not OF_STRAIN.match(bare):
        ratio = found["behind"] or found["before"] or found["parts"] or found["other"]
        rest = OF_RATIO.sub(" ", f"{bare[: found.start()]} {bare[found.end() :]}")
        return f"a voltage divided by, ratio = {ratio}, {rest}".strip(" ,") if not OHMS.search(rest) else ""
    if MAGNETS.search(bare):
        return f"a wheel's pulses {MAGNETS.sub(' ', bare, count=1)}"
    return ""


def _without_adjectives(typed: str, bare: str, recipes: Collection[str]) -> str:
    known = {each.lower() for each in (*recipes, *CALLED)}
    rest = bare
    while not any(begins_with(name).match(rest) for name in known):
        shorter = ADJECTIVES.sub("", rest, count=1)
        if shorter == rest:
            return _by_its_ranges(bare) or typed
        rest = shorter
    return typed if rest == bare else f"a {rest}"


def _by_its_ranges(bare: str) -> str:
    """``a humidity sensor 0-3 V, 0-100 %``: anything that maps one voltage range to a range."""
    return f"a sensor in volts {bare[found.end() :]}" if (found := OVER_RANGES.match(bare)) else ""


# What is known of it: of what comes after the name

RESISTANCE = rf"{NUMBER}\s*(?:[kMR]\d*\s*)?(?:Ω|ohms?)?"
ENDS_OF_HALF = {"down": "to supply", "up": "to ground"}
"""Position of the sensor by the direction in which the fixed resistor pulls."""
BETA = re.compile(r"(?:\b(?:[Bb]|[Bb]eta)|β)\s*(?:25/\d\d\s*)?(?:(?:value|of|is)\s*)*=?\s*(?=\d{4}\b)")
"""β as data sheets of thermistors print it."""
AT_25 = re.compile(
    r"\s*(?:(?:\bat|@)\s*)?\b25\s*(?:°\s*C?|C|degrees?(?:\s+C)?)(?![\w/])|\s*(?:\bat|@)\s*25(?=\s*(?:$|,))",
    re.IGNORECASE,
)
"""The temperature for which the resistance of a thermistor is stated."""
R_25 = re.compile(r"\bR[\s_]?25(?:\s*[=:]\s*|\b)(?!\s*/)", re.IGNORECASE)
_VOLTS = rf"{NUMBER}\s*V\b(?!\s*/)"
TO_RAIL = re.compile(
    rf"(?<![\w.=])(?P<ohms>{RESISTANCE})\s*(?:resistor\s+)?to\s+(?:the\s+)?(?P<rail>{_VOLTS}|(?:supply|rail|v?cc|vdd)\b)"
    rf"|(?<!=)(?<!= )\bto\s+(?P<alone>{_VOLTS})",
    re.IGNORECASE,
)
"""The rail that one half of a divider goes to."""
HALF_TO_GROUND = re.compile(
    rf"(?<![\w.=])(?P<fixed>{RESISTANCE})\s*(?:resistor\s+)?to\s+(?:the\s+)?(?:ground|gnd|0\s*V)\b", re.IGNORECASE
)
AT_CURRENT = re.compile(
    rf"(?P<volts>{NUMBER}\s*mV)\s*(?:at|for|=|/|,)?\s*(?P<amps>{NUMBER}\s*A)(?!\w)"
    rf"|(?P<before>{NUMBER}\s*A)\s*(?:at|for|=|/|,)?\s*(?P<behind>{NUMBER}\s*mV)(?!\w)"
)
"""``75 mV at 50 A``, as shunts are marked."""
OF_SOURCE = re.compile(rf"(?<![\w.=]){NUMBER}\s*V(?![\w/])")
MOST_REFERENCE_V = 6.0
"""Higher voltages of a converter are those of instruments, and not of what a divider is on."""
NOTHING_AT = re.compile(
    rf"(?<![\w.,-])(?:0|zero)\s*(?P<of>{WORD}|[°%]\s*[CF]?)?\s*(?:at|=|is)\s*(?P<volts>{NUMBER}\s*m?V)\b", re.IGNORECASE
)
"""``0 A at 2.5 V``, the zero the other way round."""
IN_BRACKETS = re.compile(r"(?<=\s)\((?P<said>[^()]*\d[^()]*)\)")
EXCITED = re.compile(
    rf"(?:\bexcit(?:ation|ed)(?:\s+(?:voltage|of|is|by|with|at))*\s*=?\s*{NUMBER}\s*V\b|{NUMBER}\s*V\s+excitation\b)",
    re.IGNORECASE,
)
"""The supply of a bridge, which its converter compares with: it cancels."""
PULLS = re.compile(
    rf"(?<!=)\b(?P<before>{RESISTANCE})\s*-?\s*(?:resistor\s+)?pull-?\s?(?P<way>up|down)(?:\s+resistor)?\b(?!\s+(?:of\s+)?\d)"
    rf"|\bpull-?\s?(?P<way_first>up|down)(?:\s+resistor)?\s+(?:of\s+)?(?P<behind>{RESISTANCE})(?![\w.])",
    re.IGNORECASE,
)
SERIES = re.compile(
    rf"\b(?:(?P<fixed>{RESISTANCE})\s*(?:in\s+)?series\b(?:\s+resistor)?"
    rf"|(?:with|and|through)\s+(?:an?\s+)?(?P<beside>{RESISTANCE})\s*(?:fixed\s+)?resistor\b"
    rf"|(?:in\s+)?series(?:\s+(?:with|resistor|of|is))*\s*[=:]?\s*(?:an?\s+)?(?P<behind>{RESISTANCE})(?![\w.]))",
    re.IGNORECASE,
)
"""The other half of its divider."""
OF_REFERENCE = re.compile(
    rf"(?:(?:with|and|over)\s+)?(?:an?\s+)?(?P<fixed>{RESISTANCE})\s*(?:Ω|ohms?)\s+reference\b", re.IGNORECASE
)
TWO_RESISTORS = re.compile(rf"({NUMBER}\s*[kMΩR]\d*(?:Ω|ohms?)?)\s*[/:+]\s*(?={NUMBER}\s*[kMΩR])")
"""``100k/33k``."""
VOLTS_PER = re.compile(
    rf"(?P<volts>{NUMBER}\s*[mµ]?V)\s+per\s+(?P<unit>degrees?(?:\s+(?:C|Celsius)\b)?|{WORD})", re.IGNORECASE
)
AT_ZERO = re.compile(
    rf"(?P<volts>{NUMBER}\s*m?V)\s+(?:offset\s+)?(?:at|for)\s+"
    rf"(?:pH\s*=?\s*7(?:[.,]0+)?|0\s*(?:°\s*C|degrees?(?:\s+C)?|%|(?P<of>{WORD}))?|zero|no\s+\w+|rest)(?![\w.])",
    re.IGNORECASE,
)
"""The zero of a sensor: ``500 mV at 0 °C``, ``2.5 V at pH 7``."""
HERTZ_PER = re.compile(
    rf"(?:\bF\s*=\s*)?(?P<hertz>{NUMBER})\s*(?:Hz\s*(?:\bper\b|/)\s*\(?(?:L/min|LPM)\)?|\*?\s*Q\b)", re.IGNORECASE
)
"""``F = 7.5 Q``, as flow meters print it: hertz at one litre per minute."""
AMPLIFIED = re.compile(rf",?\s*\bamplified\s+(?:by\s+)?(?P<gain>{NUMBER})(?:\s*(?:times|x))?\b", re.IGNORECASE)
UP_TO = re.compile(rf"\b0\s*(?:V\s*)?(?:-|–|…|to)\s*(?P<volts>{NUMBER}\s*V)\b")
"""The upper end of a converter's range, which is its reference."""
IN_DEGREES = re.compile(r"(?<=\d)\s*(?:degrees?|deg)\b(?!\s*[CF]\b)", re.IGNORECASE)
OVER_TRAVEL = re.compile(
    r"\b(?:of\s+)?(?:travel|stroke|throw)(?:\s+of)?\b|\b(?:linear|log(?:arithmic)?|rotary|turning)\b", re.IGNORECASE
)
AT_CENTRE = re.compile(
    r"[\s,]*\b(?:cent(?:re|er)(?:ed|d)?|mid(?:dle|point)?|neutral|rests?)(?:\s+(?:is|at|of|on))?\s*=?\s*(?P<middle>127|128|511|512|2047|2048)\b,?",
    re.IGNORECASE,
)
"""The middle of a stick, which is the middle of its converter."""
SAID_BITS = re.compile(r"\b(\d{1,2})\s*-?\s*bits?\b", re.IGNORECASE)
COLD = re.compile(r",?\s*\b(?:the\s+)?cold[\s-]junction\s*(?:is\s+|at\s+|of\s+|=\s*)?", re.IGNORECASE)
EITHER_WAY = re.compile(rf"(?:±|\+/?-)\s*(?P<most>{NUMBER}\s*[^\s\d,;]+)(?!\s*(?:/|per\b))")
"""The half span of a symmetric range."""
INFIX = re.compile(r"(?<![\w.])(\d)[vV](\d{1,2})(?![\w.])")
IN_CELSIUS = re.compile(rf"((?:to|-|–|…|\.\.)\s*[-−+]?{NUMBER})\s*(?:degrees?\s*)?C\b")
EXTREMES = {"dry": "from", "wet": "to", "empty": "from", "full": "to", "air": "from", "water": "to"}
"""The ends of a share in words; a moisture sensor reads 0 % in air and 100 % in water."""
IN_EXTREMES = re.compile(rf"\b(?:in\s+)?({'|'.join(EXTREMES)})\b", re.IGNORECASE)
_VALUE = rf"(?P<value>(?<![\w.,]){NUMBER}\s*(?:m?V|ct|counts?)?)"
NONE_OR_ALL = (
    re.compile(rf"{_VALUE}\s*(?:=|is|means)\s*(?P<share>0|100)\s*%", re.IGNORECASE),
    re.compile(rf"(?<![\w.,])(?P<share>0|100)\s*%\s*(?:=|is|at|:)\s*{_VALUE}", re.IGNORECASE),
)
"""``1.4 V = 100 %``, ``0 % at 620``."""
OF_REGISTER = re.compile(
    r"(?:\bpot(?:entiometer)?\b\s*,?\s*)?(?:from\s+)?\b0\s*(?:to|[-–…]|\.\.+)\s*(?P<most>255|1023|4095|16383|65535)\b(?:\s*(?:ct|counts?)\b)?"
    r"(?:\s*(?:=|is|means|for|to|over|->|→)\s*(?:from\s+)?0\s*(?:to|[-–…]|\.\.+)\s*360\s*(?:°|deg(?:rees?)?)?)?",
    re.IGNORECASE,
)
"""All counts of a converter, for a whole turn."""
TWO_BUFFERS = re.compile(
    rf"(?:\bpH\s*)?(?<![\w.,])(?P<one>\d+(?:\.\d+)?)(?:\s*pH)?\s*(?:at|=|is)\s*(?P<one_v>{NUMBER}\s*m?V)\s*"
    rf"(?:,|;|and)\s*(?:and\s+)?(?:pH\s*)?(?P<two>\d+(?:\.\d+)?)(?:\s*pH)?\s*(?:at|=|is)\s*(?P<two_v>{NUMBER}\s*m?V)",
    re.IGNORECASE,
)
"""A probe in two buffer solutions: ``7 at 2.5 V, 4 at 3.04 V``."""
AT_SEVEN = re.compile(
    rf"(?:^|[\s,])=?\s*(?:pH\s*)?7(?:[.,]0+)?\s*(?:at|=|is)\s*(?P<volts>{NUMBER}\s*m?V)", re.IGNORECASE
)
OF_NERNST_V = -0.05916
"""Slope of a glass electrode at 25 °C, in V/pH. Source: R·T·ln 10 ÷ F."""


def known_plainly(rest: str, words: Collection[str]) -> str:
    """What is known of a signal, in the ``words`` of its questions."""
    rest = TWO_RESISTORS.sub(r"\1 ", EVERY_LOOP.sub(" ", units_behind(rest)))
    rest = by_program_names(rest, words)
    if "beta" in words:
        rest = AT_25.sub(" ", R_25.sub(", ", BETA.sub("beta=", rest)))
    if "upper" in words and "from" not in words:
        rest = _without_source(rest)
    if {"slope", "zero"} <= set(words):
        rest = NOTHING_AT.sub(r"\g<volts> at 0 \g<of>", rest)
    rest = IN_BRACKETS.sub(r", \g<said>, ", rest)
    if "shunt" in words:
        rest = AT_CURRENT.sub(_shunt_of, rest, count=1)
    if "sensitivity" in words:
        rest = EXCITED.sub(" ", rest)
    if "gamma" in words:
        rest = at_ten_lux(rest)
    if "low" in words:
        rest = IN_CELSIUS.sub(r"\1 °C", rest)
    if {"low", "resistance"} <= set(words):
        rest = OVER_TRAVEL.sub(" ", IN_DEGREES.sub("°", rest))
        rest = AT_CENTRE.sub(partial(_at_centre, bits=SAID_BITS.search(rest)), rest)
    if "cold" in words:
        rest = COLD.sub(", cold = ", rest)
    if "most" in words:
        rest = EITHER_WAY.sub(r", most = \g<most>, ", rest)
    rest = VOLTS_PER.sub(_per_unit, rest)
    rules: tuple[tuple[str, re.Pattern[str], Callable[[re.Match[str]], str]], ...] = (
        ("zero", AT_ZERO, _at_zero),
        ("sensor", PULLS, _pulled),
        ("fixed", OF_REFERENCE, lambda found: f", fixed = {found['fixed'].strip()} Ω, "),
        ("fixed", SERIES, lambda found: f", fixed = {next(filter(None, found.groups())).strip()}, "),
        ("marks", HERTZ_PER, lambda found: f", marks = {60 * float(found['hertz'].replace(',', '.')):.12g}, "),
    )
    for word, pattern, put in rules:
        rest = pattern.sub(put, rest) if word in words else rest
    if "sensor" in words:
        rest = _rails(rest)
    if "gain" in words:
        rest = AMPLIFIED.sub(r", gain = \g<gain>, ", rest)
    if "reference" in words and not {"from", "low"} & set(words):
        rest = UP_TO.sub(_up_to, rest)
    if {"gain", "slope", "zero"} <= set(words):
        rest = AT_SEVEN.sub(r", zero = \g<volts>, ", TWO_BUFFERS.sub(_buffered, rest, count=1), count=1)
    if "bits" in words and len(words) == 1:
        rest = OF_REGISTER.sub(lambda found: f", bits = {int(found['most']).bit_length()}, ", rest)
    if "from" in words and "low" not in words:
        for pattern in NONE_OR_ALL:
            rest = pattern.sub(_shared, rest)
        rest = IN_EXTREMES.sub(lambda found: EXTREMES[found[1].lower()], rest)
        rest = re.sub(r"\b(from|to)\s*(?=,\s*\1\s*=)", "", rest)  # in air 3.1 V = 0 % says it twice
    return rest


def _up_to(found: re.Match[str]) -> str:
    """The reference of a converter; what a battery reaches is none."""
    is_reference = float(found["volts"].rstrip("V ").replace(",", ".")) < MOST_REFERENCE_V
    return f", reference = {found['volts']}, " if is_reference else " "


def _without_source(rest: str) -> str:
    """Without what a battery has, said before its divider: no converter's reference, unless it usually is one and no
    other voltage follows."""
    found = re.match(rf"[\s,]*(?P<volts>{OF_SOURCE.pattern})", rest)
    if found is None:
        return rest
    volts = f"{float(found['volts'].rstrip(' V').replace(',', '.')):g} V"
    is_reference = volts in REFERENCES and len(OF_SOURCE.findall(rest)) == 1 and float(volts[:-2]) < MOST_REFERENCE_V
    return rest if is_reference else f" {rest[found.end() :]}"


def _at_zero(found: re.Match[str]) -> str:
    """The zero, unless the word behind it changes something: ``at 0 twice`` is left as it is, and refused."""
    return found[0] if CHANGES.fullmatch(found["of"] or "") else f", zero = {found['volts']}, "


def units_behind(said: str) -> str:
    """``3v3`` as ``3.3 V``, and ``pH 0-14`` as ``0-14 pH``."""
    return PH_BEFORE.sub(r"\g<low>-\g<high> pH", INFIX.sub(r"\1.\2 V", said))


def _shunt_of(found: re.Match[str]) -> str:
    """The resistance of a shunt by its inscription; as it was where its current is none."""
    volts = parse_quantity(found["volts"] or found["behind"], VOLT).to(VOLT)
    amps = parse_quantity(found["amps"] or found["before"], AMPERE).to(AMPERE)
    return f", shunt = {volts / amps:.10g} Ω, " if amps else found[0]


def _at_centre(found: re.Match[str], bits: re.Match[str] | None) -> str:
    """The middle of a converter as its number of bits; as it was where other bits are stated."""
    of_middle = (int(found["middle"]) + 1).bit_length()
    if bits is not None:
        return " " if int(bits[1]) == of_middle else found[0]
    return f", bits = {of_middle}, "


def _rails(rest: str) -> str:
    """``10k to 5 V`` and ``10k to ground`` of a half: which of both is the fixed resistor, and what the rail has."""
    grounded = HALF_TO_GROUND.search(rest)
    rest = HALF_TO_GROUND.sub(r", fixed = \g<fixed>, sensor = to supply, ", rest, count=1)

    def put(found: re.Match[str]) -> str:
        rail = found["rail"] or found["alone"]
        volts = f", reference = {rail}, " if rail[:1].isdigit() else ", "
        ohms = (found["ohms"] or "").strip()
        if grounded or not ohms:
            return f"{ohms}{volts}"
        return f", fixed = {ohms}, sensor = to ground{volts}"

    return TO_RAIL.sub(put, rest, count=1)


def _buffered(found: re.Match[str]) -> str:
    """Two buffers as the voltage at pH 7 and the gain behind a probe with the usual slope; as it was where both are of
    one pH or one voltage."""
    (low, low_v), (high, high_v) = (
        (float(found[each]), parse_quantity(found[f"{each}_v"], VOLT).to(VOLT)) for each in ("one", "two")
    )
    if low == high or low_v == high_v:
        return found[0]
    slope = (high_v - low_v) / (high - low)
    return f", zero = {low_v + slope * (7 - low):.10g} V, gain = {slope / OF_NERNST_V:.10g}, "


def _shared(found: re.Match[str]) -> str:
    word = "from" if found["share"] == "0" else "to"
    return f", {word} = {found['value'].strip()}, "


def _per_unit(found: re.Match[str]) -> str:
    """``10 mV per degree``: for a voltage, a degree of temperature."""
    unit = "°C" if found["unit"].lower().startswith("degree") else unit_said(found["unit"])
    return found[0] if unit is None else f"{found['volts']}/{unit}"


def _pulled(found: re.Match[str]) -> str:
    way = (found["way"] or found["way_first"]).lower()
    return f", fixed = {(found['before'] or found['behind']).strip()}, sensor = {ENDS_OF_HALF[way]}, "
