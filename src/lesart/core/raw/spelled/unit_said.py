"""Units as people write them into names and after numbers, each only where it can mean nothing else.

``temp_min`` is a lowest temperature, ``phase_a`` the first phase, ``accel_g`` an acceleration, ``Temp (F)`` not a
capacitance: a letter is a unit where the quantity that the name speaks of has that unit.
"""

from __future__ import annotations

import re
from collections.abc import Collection
from functools import lru_cache

from lesart.core.errors import UnitError
from lesart.core.raw.spelled.unit_spellings import AS_WRITTEN, SPELLED
from lesart.core.raw.spelled.units_of_names import QUOTIENTS, SENSES, SUFFIX
from lesart.core.units import Unit, parse_unit

IN_WORDS = frozenset(
    [
        *(
            "volt",
            "volts",
            "millivolt",
            "millivolts",
            "ampere",
            "amps",
            "milliamps",
            "watt",
            "watts",
            "ohm",
            "ohms",
            "kohm",
            "degc",
            "degf",
            "%rh",
            "rh",
            "celsius",
        ),
        *(
            "fahrenheit",
            "kelvin",
            "pascal",
            "hectopascal",
            "millibar",
            "lux",
            "percent",
            "hertz",
            "mv",
            "uv",
            "hz",
            "khz",
            "mbar",
            "hpa",
            "kpa",
            "psi",
            "kw",
            "kwh",
        ),
        *("mah", "rpm", "gpm", "ntu", "gauss", "bpm", "lpm"),
    ]
)
"""Names that are a unit and nothing else: a column Volt is in volts; a count or a second may be of anything."""
LETTERS = frozenset("CFKVAWNJTgmtLl")
"""Units of one letter, in their case; a name may end in any other letter, as *phase a* does."""
BEHIND_BLANK = IN_WORDS | {
    *("rh", "%rh", "amp", "degc", "degf", "pct", "dps", "lpm", "mps", "kph", "kmh", "mph", "knots", "gram", "grams"),
    *("meters", "metres", "litres", "liters", "ohms", "mbar", "hpa", "kpa", "psi", "rpm", "ppm", "kmh"),
}
BESIDE_MIN = frozenset({"max", "mean", "avg", "average", "median", "std"})
_IN_ONE = re.compile(r"(?:.*[a-z\d])?[Tt]emp(?:erature)?(?P<letter>[CF])")
"""``tempC`` and ``waterTempF``."""
DEGREES = frozenset({"deg", "degree", "degrees", "°"})
_WITH_CAPITAL = re.compile(
    r"(?=..)(?:[umkn]|h(?=Pa)|M(?=Hz|Pa|W|J))?(?:A|Hz|N|Pa|J|Wh|W|VA|V|F|H|Ah|T|Gs|L|K|Sv|Gy|Bq)|dBm|Nm"
)
"""Symbols that nothing but a unit is written like: ``mx_uT``, ``ec_mS``, ``rssi_dBm``."""
SPEEDS = re.compile(r"speed|veloc|wind|gust")
FLOWS = re.compile(r"flow|rate|pump|feed|dos|durchfluss")
CONDUCTS = re.compile(r"(?:^|_)ec\d*(?:_|$)|cond|salin")
_BRACKETS = {"]": "[", ")": "(", ">": "<"}
_RATE = re.compile(r"(?:m|km|mi|mm|cm|ft|[lL]|m[lL]|ct|kg|°|rad|turn|1)/(?:s|min|h)(?:[2²]|\^2)?$")


@lru_cache(maxsize=2048)
def unit_said(text: str) -> Unit | None:
    """The unit that a text alone means, in any usual spelling; None for anything else.

    A single letter must be in its right case.
    """
    text = text.strip().rstrip(";,").strip()
    text = text if text.lower() in SPELLED else text.rstrip(".").strip()
    spelled = SPELLED.get(text.lower())
    if not text or len(text) > 20 or (text[0].isdigit() and spelled is None):
        return None
    if spelled is not None and (len(text) > 1 or text in "CF" or not text.isascii()):
        text = spelled
    for candidate in dict.fromkeys((text, _small_first(text))):
        try:
            return parse_unit(candidate)
        except UnitError:
            continue
    return None


def _small_first(text: str) -> str:
    """``HPA`` and ``KG`` are just capitals, not other units; ``MV`` might be megavolts and is left as it is."""
    return {
        "HPA": "hPa",
        "hpa": "hPa",
        "KPA": "kPa",
        "kpa": "kPa",
        "pa": "Pa",
        "mv": "mV",
        "uv": "µV",
        "ma": "mA",
        "ua": "µA",
        "mw": "mW",
        "kw": "kW",
        "wh": "Wh",
        "kwh": "kWh",
        "mah": "mAh",
        "hz": "Hz",
        "khz": "kHz",
        "KG": "kg",
        "Kg": "kg",
        "RPM": "rpm",
        "PPM": "ppm",
        "LUX": "lx",
        "MM": "mm",
        "CM": "cm",
        "ML": "mL",
        "PSI": "psi",
        "db": "dB",
        "DB": "dB",
        "v": "V",
        "a": "A",
        "w": "W",
        "Nm": "N·m",
    }.get(text, text)


@lru_cache(maxsize=1024)
def unit_in_name(name: str) -> Unit | None:
    """The unit that a column's name ends in: ``mass [kg]``, ``Temp (F)``, ``p / hPa``, ``wind m/s``, ``I in mA``,
    ``dist_cm``; None where it ends in none."""
    name = " ".join(name.split())
    if not name:
        return None
    opens = name.rfind(_BRACKETS[name[-1]]) if name[-1] in _BRACKETS else -1
    if opens >= 0 and name[opens + 1 : -1].strip():
        before, within = name[:opens].strip(), name[opens + 1 : -1].strip()
        # The brackets may say which sensor it is, with the unit before them.
        return _in_sense(before, within) or (_behind_blank(before) if " " in within else None)
    before, apart, behind = name.rpartition(" in ")
    if apart:
        return _in_sense(before, behind)
    if unit := _behind_blank(name):
        return unit
    if "/" in name and not name.endswith("/"):
        # ``p/hPa`` and ``wind / m/s``: what comes after the first slash, if what stands before is no unit itself.
        before, _, behind = name.partition("/")
        # A name that is just a rate is a unit; ``t/s`` and ``T/K`` are quantities with their units.
        return unit_said(name) if _RATE.match(name) else _in_sense(before.strip(), behind.strip())
    if "_" in name:
        before, _, suffix = name.rpartition("_")
        return _by_suffix(before, suffix)
    if in_one := _IN_ONE.fullmatch(name):
        return parse_unit(f"°{in_one['letter']}")
    is_unit = name in AS_WRITTEN or "°" in name or name.lower() in IN_WORDS
    return unit_said(name) if is_unit and name != "MV" else None  # of a column millivolts, shouted


def unit_among(name: str, names: Collection[str]) -> Unit | None:
    """The same among a file's ``names``: after *probe A* and *probe B* a *probe C* is a third probe, not in °C, and
    next to *max* a *min* is the least."""
    if name.strip().lower() == "min" and any(other.strip().lower() in BESIDE_MIN for other in names):
        return None
    stem, letter = name[:-1], name[-1:]
    if stem[-1:] not in (" ", "_") or not letter.isalpha() or letter == "s":
        return unit_in_name(name)
    beside = (other for other in names if other != name and other[:-1] == stem and other[-1:].isalnum())
    return None if any(unit_in_name(other) is None for other in beside) else unit_in_name(name)


def speaks_of(name: str) -> bool:
    """True where a name speaks of a measured quantity other than time."""
    lowered = name.strip().lower()
    return any("s" not in units and re.search(pattern, lowered) for pattern, units in SENSES)


def unit_of_letter(name: str, letter: str) -> str:
    """The unit that a small ``letter`` is where a name speaks of such a quantity: ``gn`` for g in *accel x*; empty for
    none."""
    unit = _sensed(name, letter)
    return unit.symbol if unit else ""


def _behind_blank(name: str) -> Unit | None:
    """A unit after a blank: ``Pressure hPa``, ``wind m/s``, ``Temperature °C``, ``flow lpm``: two letters or more, a
    sign, or a fraction; a single letter in its right case where the name speaks of its quantity, as in ``temp C`` and
    ``mass g``."""
    before, _, last = name.rpartition(" ")
    if not before:
        return None
    if last in LETTERS:
        return _sensed(before, last.lower())
    if last.lower() in DEGREES:
        return degrees_of(before)
    if last[0] == "u" and f"µ{last[1:]}" in AS_WRITTEN:
        return parse_unit(f"µ{last[1:]}")
    if (
        (last in AS_WRITTEN and (len(last) > 1 or last in "Ω%‰"))
        or last.startswith(("°", "%"))
        or last.lower() in BEHIND_BLANK
    ):
        return unit_said(last)
    if "/" in last and not last.startswith("/"):
        return unit_said(last)
    return None


def _in_sense(name: str, text: str) -> Unit | None:
    """A unit in brackets: a single letter by the quantity that the name speaks of, if any."""
    letter = text.strip()
    if letter.lower() in DEGREES:
        return degrees_of(name)
    if len(letter) == 1 or letter.lower() in ("g", "f", "c"):
        sensed = _sensed(name, letter.lower())
        if sensed is not None:
            return sensed
        if letter.lower() in ("c", "f"):
            return parse_unit("°C" if letter.lower() == "c" else "°F")
    return unit_said(letter)


def _by_suffix(before: str, suffix: str) -> Unit | None:
    if _WITH_CAPITAL.fullmatch(suffix):
        return parse_unit(suffix)
    lowered = suffix.lower()
    if lowered in ("us", "ms") and CONDUCTS.search(before.lower()):
        return parse_unit("µS" if lowered == "us" else "mS")  # of anything else they are seconds, in either case
    if quotient := _quotient(before, lowered):
        return quotient
    if lowered in DEGREES:
        return degrees_of(before)
    if lowered in SUFFIX:
        return unit_said(lowered)
    if lowered in ("min", "s", "h", "d") or len(lowered) == 1:
        # Only volts are written so; other letters count, name or turn things.
        return parse_unit("V") if lowered == "v" else _sensed(before, lowered)
    return unit_said(suffix) if suffix in AS_WRITTEN else None


def _quotient(before: str, last: str) -> Unit | None:
    """``ec_us_cm``, ``flow_l_min`` and ``wind_m_per_s``; but ``level_l_min`` is a lowest level in litres."""
    if before.lower().endswith("_per"):
        over = before[:-4].rpartition("_")[2].lower()
        return unit_said(QUOTIENTS.get(f"{over}_{last}", f"{over}/{last}"))
    if last == "ms" and SPEEDS.search(before.lower()):
        return parse_unit("m/s")
    first, _, over = before.rpartition("_")
    unit = QUOTIENTS.get(f"{over.lower()}_{last}") if first else None
    is_clear = last != "min" and over.lower() not in ("l", "ml")  # a lowest level, a left side
    return parse_unit(unit) if unit and (is_clear or FLOWS.search(first.lower())) else None


def degrees_of(name: str) -> Unit | None:
    """Degrees of the angle that a name speaks of; None for a temperature, where they are one of two."""
    return None if _sensed(name, "c") else parse_unit("°")


def _sensed(name: str, letter: str) -> Unit | None:
    lowered = name.lower()
    for pattern, units in SENSES:
        if letter in units and re.search(pattern, lowered):
            return parse_unit(units[letter])
    return None
