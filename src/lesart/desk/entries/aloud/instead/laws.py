"""Requests to 3 Law by another name, or for what is not a law: what does it instead."""

from __future__ import annotations

import re

from lesart.core.raw.spelled.unit_said import unit_said
from lesart.core.units import Unit, parse_unit
from lesart.desk.entries.aloud.instead.asked import Asks, first_of
from lesart.desk.entries.aloud.readings import QUANTITIES
from lesart.desk.entries.aloud.reckoned.tabled import BY_LEVELS, POSITIONS_HOW
from lesart.desk.entries.said.patterns import any_case

ALSO: Asks = (
    (r"dew-?point", "dew point"),
    (r"wind-?chill", "wind chill"),
    (r"vpd|vapor pressure deficit|vapou?r[- ]pressure[- ]deficit", "vapour pressure deficit"),
    (r"(?:water|moisture) (?:content|in)(?: the)? air|abs(?:olute)? hum(?:idity)?", "absolute humidity"),
    (
        r"(?:it )?feels[- ]like(?: temperature)?|heat[- ]index|humidex|felt(?: temperature)?",
        "apparent temperature",
    ),
    (r"sea[- ]level pressure|reduced pressure|qff|qnh", "sea-level pressure"),
    (r"pressure (?:at|reduced to) sea[- ]level", "sea-level pressure"),
    (r"height above sea(?: level)?|elevation|barometric (?:height|altitude)", "altitude"),
    (r"look-?up(?: table)?|lut|(?:calibration )?curve|characteristic|interpolat(?:e|ion)", "table"),
    (r"steinhart(?:[- ]hart)?", "thermistor"),
    (r"true rms|rms(?: value)?|root mean square|effective value", "windowed RMS"),
    (r"envelope|amplitude", "windowed peak"),
    (r"per second|slope over time", "change over time"),
    (r"(?:main|dominant) frequency", "strongest frequency"),
)
"""Other names of laws at the beginning of a line."""

OF_AIR = (
    *("dew point", "wind chill", "absolute humidity", "vapour pressure deficit", "apparent temperature", "altitude"),
    "sea-level pressure",
)
_OF = r"(?:(?:relative|air|outside|absolute|barometric)\s+)*(?:pressure|humidity|rh|temp(?:erature)?|wind(?:\s+speed)?)"
_MADE_OF = re.compile(
    rf"^\s+(?:from|of|by|out\s+of|with|using)\s+(?:the\s+)?{_OF}(?:\s*(?:,|and|&|/)\s*{_OF})*(?=$|[\s,])", re.IGNORECASE
)
_SEA_LEVEL = re.compile(r"(sea[\s-]level)(?:\s+(?:pressure|of|is|at|=))*\s+(\d{3,4}(?:\.\d+)?)\s*$", re.IGNORECASE)
_COEFFICIENT = re.compile(r"\s+(?=[abc]\s*=)", re.IGNORECASE)
_FROM = re.compile(r"^\s+(?:from|at)\s+(?=\d)", re.IGNORECASE)
_CURVE = (
    "its curve is on its data sheet: type its points, volts and what they mean, like 0.4 V = 0 ppm, 2 V = 500 ppm, "
    "3 V = 1000 ppm"
)
ASKS: Asks = (
    (
        r"(?:re)?scale[ds]?\s+(?:to|from|between)\b|normali[sz]e|(?:map|range)\s+to\b|full\s+scale$",
        "say from what to what, like map 0..1023 to 0..100 %; percent takes its whole register",
    ),
    (
        r"clamp|clip|saturate|limit(?:ed)?\b|constrain|cap\b|if\s+(?:above|below|over|under|more|less|greater)\b|"
        r"(?:min|max)(?:imum)?\s+(?:of\s+)?\d|(?:not|never)\s+(?:below|above|under|over|less|more)\b",
        "a clamped reading hides what is wrong; lowest and highest mark what is beyond, and min(max(x, 0), 100) clamps "
        "it all the same",
    ),
    (r"(?:to\s+|in\s+)?(?:db|decibels?|dbv|dbm|dbfs)\b", "say against what, like dB = 20 * log10(x / 0.775)"),
    (
        r"(?:\d\s+cell\s+)?(?:battery|lithium|lipo|lead)(?:\s+battery)?\s+(?:percent|level|charge|state)|state\s+of\s+charge|soc\b",
        "begin with its volts, like battery 100k/22k; then 3.3 V = 0 %, 4.2 V = 100 % is a line, and a table follows "
        "its curve",
    ),
    (
        r"(?:ir|infra-?red|optical)\s+(?:distance|rang|proximity)\w*",
        "type two points of its curve, like infrared distance 2.5 V at 20 cm, 0.4 V at 150 cm",
    ),
    (
        r"(?:fsr|force(?:[\s-]sens(?:ing|itive))?(?:\s+(?:sensor|resistor))?)\b",
        "say a point of its curve or two, like force sensor 30k at 100 g, 6k at 1 kg, 10k to ground",
    ),
    (
        r"(?:flex|bend|stretch)(?:\s+(?:sensor|cord))?\b",
        "say what it has at both ends, like flex sensor 25k flat, 100k at 90°, 47k to ground",
    ),
    (
        r"(?:gas|air\s+quality|smoke|alcohol|co2?|voc|methane|propane|hydrogen|ammonia)(?:\s+(?:sensor|detector))?\b",
        "say its curve, like gas sensor ppm = 110 * (Rs/R0)^-2.5, R0 = 10k, load 10k; or volts and what they mean, "
        "like 0.4 V = 0 ppm, 2 V = 500 ppm, 3 V = 1000 ppm",
    ),
    (
        r"photo[\s-]?(?:diode|transistor)\b",
        "say its current and what turns that into volts, like photodiode 10 nA/lx, 100k",
    ),
    (
        r"(?:tds|turbidity|dust|uv(?:\s+index)?|leak|conductivity|ec|orp|oxygen|pulse\s+rate|heart\s+rate)\b",
        _CURVE,
    ),
    (
        r"(?:rain(?:-?fall)?|tipping\s+bucket|precipitation)(?:\s+(?:gauge|sensor|meter))?$",
        "say what a tip is worth, like 0.2 mm per tip; then rain since midnight",
    ),
    (r"geiger|radiation|cpm\b", "a pulse is a count: change over time says how many come in a minute, in 1/min"),
    (
        r"(?:(?:sound|noise|audio)(?:\s+(?:level|pressure))?|loudness|volume|microphone)(?:\s+(?:sensor|meter|in\s+db))?$",
        "begin with voltage; then windowed level, or windowed RMS, makes a level of it",
    ),
    (
        r"(?:2|two|single|one|multi)[\s-]?point|calibrat|two\s+points",
        "what it should read is a reference: + in 4 True takes it",
    ),
    (r"lsb\b|resolution|step\s+size", "say what a count is worth, like 0.0625 °C per count"),
    (r"log(?:arithm)?(?:\(x\)|\s+of\s+(?:it|x))?$", "ln(x) is the natural logarithm, log10(x) and log2(x) the others"),
    (
        r"peak[\s-](?:to[\s-])?peak|p-?p\b|swing\b",
        "windowed peak gives half of it for a symmetrical wave; times 2 makes the whole",
    ),
    (
        r"(?:(?:ct|current)[\s-]+(?:clamp|transformer)|ct\b)",
        "say its ratio and its burden, like current clamp 100 A 50 mA burden 33 ohm, or 30 A 1 V; then windowed RMS",
    ),
    (
        r"(?:scale|calibration)\s+factor\b",
        "some programs divide by it, some multiply; say which, like divide by 420, and the zero before it, like tare "
        "8388607",
    ),
    (BY_LEVELS.pattern, POSITIONS_HOW),
    (
        r"(?:strain\s+)?gauge\s+factor|strain\s+gauge|(?:full|half|quarter)[\s-]bridge",
        "say its factor and its bridge, like strain gauge, gauge factor 2.1, quarter bridge; one under a weight is a "
        "load cell, like load cell 5 kg",
    ),
    (r"beaufort", "no law has steps; a table with Beaufort's numbers does, and a field shows words for ranges"),
    (r"(?:reverse|flip|mirror)", "100 - x reverses a percentage, and invert changes the sign"),
)
OF_COUNTS: Asks = (
    ("°C", "like ntc 10k, Pt1000, 10 mV/°C or 0.0625 °C per count"),
    ("lx", "like light sensor, or 0.5 lx per count"),
    ("Pa", "like 0.5-4.5 V is 0-10 bar, 4-20 mA 0-10 bar or 0.1 hPa per count"),
    ("A", "like shunt 0.1 ohm, 66 mV/A or 1 mA per count"),
    ("kg", "like load cell 5 kg, or 0.1 g per count"),
    ("m", "like time of an echo, or 1 mm per count"),
    ("Ω", "like 1 Ω per count"),
    ("pH", "like pH probe"),
    ("m/s", "like pulses giving 2.4 km/h per Hz, or 0.1 m/s per count"),
    ("L/min", "like flow meter 450 pulses per litre, or 0.1 L/min per count"),
    ("%", "like empty 120 full 880, percent, or 0.5-4.5 V is 0-100 %"),
    ("Hz", "like rpm"),
)


WORDS = {
    **QUANTITIES,
    "light": "lx",
    "brightness": "lx",
    "flow": "L/min",
    "humidity": "%",
    "moisture": "%",
    "level": "%",
    "hot": "°C",
    "thermometer": "°C",
    "force": "N",
}
"""Usual units of quantities."""


def called_law(typed: str) -> str:
    """The line with the law's own name instead of another one, and without its obvious inputs: ``dew point from
    humidity``."""
    said = typed.strip()
    for pattern, name in (*ALSO, *((re.escape(name), name) for name in OF_AIR)):
        if found := any_case(rf"(?:the\s+)?(?:{pattern})(?=$|[\s,])").match(said):
            if name == "thermistor":
                rest_of = _COEFFICIENT.sub(", ", said[found.end() :])
                return f"{name}{rest_of}"
            rest = _SEA_LEVEL.sub(r"\1 \2 hPa", _MADE_OF.sub("", said[found.end() :], count=1))
            return f"{name}{_FROM.sub(' ', rest)}"
    return typed


def done_otherwise(typed: str, end: Unit) -> str:
    """How it is done; empty where it is not recognised. ``end`` is the unit in which the laws end."""
    said = re.sub(r"^(?:please|the|an?|in|to|as|convert(?:ed)?\s+to)\s+", "", typed.strip(), flags=re.IGNORECASE)
    bare = said.lower()
    if asked := first_of(ASKS, bare):
        return asked
    unit = unit_said(said)
    if (symbol := WORDS.get(bare.split()[-1] if bare else "")) is not None and len(bare.split()) < 3:
        unit = parse_unit(symbol)
    if unit is not None and end.symbol in ("ct", "1"):
        how = next((says for symbol, says in OF_COUNTS if parse_unit(symbol).same_dimension(unit)), "")
        how = how or f"like 0.1 {unit} per count"
        return f"how counts become {unit} is not stated yet; say what gives it, {how}"
    return ""
