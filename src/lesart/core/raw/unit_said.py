"""Units as people write them into names and behind numbers, each only where it can mean nothing else.

``temp_min`` is a lowest temperature, ``phase_a`` the first phase, ``accel_g`` an acceleration, ``Temp (F)`` no
capacitance: a letter is a unit where the quantity that the name speaks of has it.
"""

from __future__ import annotations

import re
from functools import lru_cache

from lesart.core.errors import UnitError
from lesart.core.units import Unit, parse_unit

_SPELLED = {
    "c": "°C",
    "f": "°F",
    "k": "K",
    "°": "°",
    "ºc": "°C",
    "ºf": "°F",
    "*c": "°C",
    "*f": "°F",
    "c°": "°C",
    "℃": "°C",
    "℉": "°F",
    "degc": "°C",
    "deg c": "°C",
    "deg. c": "°C",
    "degrees c": "°C",
    "celsius": "°C",
    "degree celsius": "°C",
    "degrees celsius": "°C",
    "degf": "°F",
    "deg f": "°F",
    "degrees f": "°F",
    "fahrenheit": "°F",
    "degk": "K",
    "kelvin": "K",
    "deg": "°",
    "degree": "°",
    "degrees": "°",
    "dps": "°/s",
    "deg/s": "°/s",
    "rads": "rad/s",
    "pct": "%",
    "percent": "%",
    "%rh": "%",
    "% rh": "%",
    "rh": "%",
    "rh%": "%",
    "% r.h.": "%",
    "%r.h.": "%",
    "% r.f.": "%",
    "%vol": "%",
    "lux": "lx",
    "ohm": "Ω",
    "ohms": "Ω",
    "kohm": "kΩ",
    "kohms": "kΩ",
    "mohm": "mΩ",
    "volt": "V",
    "volts": "V",
    "vdc": "V",
    "vac": "V",
    "millivolts": "mV",
    "millivolt": "mV",
    "amp": "A",
    "amps": "A",
    "ampere": "A",
    "milliamps": "mA",
    "watt": "W",
    "watts": "W",
    "hertz": "Hz",
    "pascal": "Pa",
    "hectopascal": "hPa",
    "mbar": "mbar",
    "millibar": "mbar",
    "meter": "m",
    "meters": "m",
    "metre": "m",
    "metres": "m",
    "inch": "in",
    "inches": "in",
    "feet": "ft",
    "gram": "g",
    "grams": "g",
    "kilogram": "kg",
    "kilograms": "kg",
    "sec": "s",
    "secs": "s",
    "second": "s",
    "seconds": "s",
    "milliseconds": "ms",
    "millis": "ms",
    "msec": "ms",
    "usec": "µs",
    "microseconds": "µs",
    "micros": "µs",
    "nsec": "ns",
    "minutes": "min",
    "mins": "min",
    "hours": "h",
    "hrs": "h",
    "days": "d",
    "count": "ct",
    "counts": "ct",
    "adc": "ct",
    "lsb": "ct",
    "raw": "ct",
    "cps": "ct/s",
    "cpm": "ct/min",
    "bpm": "1/min",
    "u/min": "rpm",
    "rev/min": "rpm",
    "r/min": "rpm",
    "1/min": "1/min",
    "mph": "mi/h",
    "kph": "km/h",
    "kmh": "km/h",
    "kt": "kn",
    "kts": "kn",
    "knots": "kn",
    "knot": "kn",
    "mps": "m/s",
    "lpm": "L/min",
    "m/s2": "m/s^2",
    "m/s/s": "m/s^2",
    "db(a)": "dB",
    "dba": "dB",
    "dbfs": "dB",
    "litre": "L",
    "litres": "L",
    "liter": "L",
    "liters": "L",
    "us/cm": "µS/cm",
    "ug/m3": "µg/m^3",
    "µg/m3": "µg/m^3",
    "µg/m³": "µg/m^3",
}
"""Spellings in small letters."""
_AS_WRITTEN = frozenset(
    [
        "V",
        "mV",
        "µV",
        "kV",
        "A",
        "mA",
        "µA",
        "W",
        "mW",
        "kW",
        "Wh",
        "kWh",
        "mWh",
        "Ah",
        "mAh",
        "Hz",
        "kHz",
        "MHz",
        "GHz",
        "Pa",
        "hPa",
        "kPa",
        "MPa",
        "bar",
        "mbar",
        "psi",
        "atm",
        "mmHg",
        "inHg",
        "Ω",
        "kΩ",
        "MΩ",
        "mΩ",
        "°C",
        "°F",
        "K",
        "°K",
        "lx",
        "klx",
        "ppm",
        "%",
        "‰",
        "dB",
        "rpm",
        "kg",
        "mg",
        "µg",
        "mm",
        "cm",
        "km",
        "µm",
        "nm",
        "mL",
        "ml",
        "min",
        "ms",
        "µs",
        "ns",
        "pF",
        "nF",
        "µF",
        "mH",
        "µH",
        "mT",
        "µT",
        "nT",
        "kn",
        "ft",
        "lb",
        "oz",
        "ct",
        "µS",
        "mS",
        "kN",
        "mN",
        "mV/V",
        "kB",
    ]
)
"""Units of two letters or more, or a sign, that are one behind any name."""
_SUFFIX = frozenset(
    [
        "ms",
        "us",
        "ns",
        "mv",
        "uv",
        "kv",
        "ma",
        "ua",
        "mw",
        "kw",
        "wh",
        "kwh",
        "mah",
        "hz",
        "khz",
        "mhz",
        "pa",
        "hpa",
        "kpa",
        "bar",
        "mbar",
        "psi",
        "ohm",
        "kohm",
        "degc",
        "degf",
        "pct",
        "percent",
        "lux",
        "lx",
        "ppm",
        "rpm",
        "kg",
        "mg",
        "mm",
        "cm",
        "km",
        "um",
        "ml",
        "db",
        "ct",
        "dps",
        "ppb",
        "volts",
        "amps",
        "watts",
        "millis",
        "micros",
        "seconds",
        "secs",
        "sec",
        "minutes",
        "hours",
        "celsius",
        "fahrenheit",
        "kelvin",
    ]
)
"""Of names with an underscore; those of one letter need the quantity's sense."""
_SENSES: tuple[tuple[str, dict[str, str]], ...] = (
    (
        r"temp|tmp|dew|ambient|indoor|outdoor|(?:^|[\W_])t\d*$|(?:^|[\W_])air$|chamber|probe|brood|thermo",
        {"c": "°C", "f": "°F", "k": "K"},
    ),
    (r"acc|gyro_?acc|(?:^|_)a[xyz]$|shock|vibration|imu", {"g": "gn", "m/s2": "m/s^2"}),
    (r"mass|weight|load|scale|gewicht|masse|hive", {"g": "g", "t": "t"}),
    (r"current|amp|curr|strom|(?:^|_)i\d*$|(?:^|_)i_|charge", {"a": "A"}),
    (r"volt|vbat|vcc|vin|vout|bat|supply|spannung|solar|(?:^|_)[uv]\d*$|lid|bus", {"v": "V"}),
    (r"power|(?:^|_)p\d*$|leistung|watt|solar", {"w": "W"}),
    (r"dist|height|alt|depth|level|range|length|width|hoehe|höhe|(?:^|_)[hdlxyz]\d*$|elev|pos", {"m": "m"}),
    (
        r"(?:^|_)t\d*$|time|zeit|uptime|elapsed|duration|interval|period|delay|age|stamp",
        {"s": "s", "h": "h", "min": "min", "d": "d"},
    ),
    (r"vol|tank|flow|water|fuel", {"l": "L"}),
    (r"force|kraft|(?:^|_)f\d*$", {"n": "N"}),
    (r"energy|work", {"j": "J"}),
    (r"cap|(?:^|_)c\d*$", {"f": "F"}),
    (r"field|mag", {"t": "T"}),
)
"""What a name speaks of, and units that one letter is with it."""
_BRACKETS = {"]": "[", ")": "(", ">": "<"}
_RATE = re.compile(r"(?:m|km|mi|mm|cm|ft|[lL]|m[lL]|ct|kg|°|rad|turn|1)/(?:s|min|h)(?:[2²]|\^2)?$")


@lru_cache(maxsize=2048)
def unit_said(text: str) -> Unit | None:
    """The unit that stands alone, in any usual spelling; None where it is none. One letter must be written rightly."""
    text = text.strip().rstrip(".;,").strip()
    if not text or len(text) > 20 or text[0].isdigit():
        return None
    spelled = _SPELLED.get(text.lower())
    if spelled is not None and not (len(text) == 1 and text not in "CF"):
        text = spelled
    for candidate in dict.fromkeys((text, _small_first(text))):
        try:
            return parse_unit(candidate)
        except UnitError:
            continue
    return None


def _small_first(text: str) -> str:
    """``HPA`` and ``KG`` are shouted, not other units; ``MV`` might be megavolts and is left as it is."""
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
        return _in_sense(name[:opens].strip(), name[opens + 1 : -1].strip())
    before, apart, behind = name.rpartition(" in ")
    if apart:
        return _in_sense(before, behind)
    if unit := _behind_blank(name):
        return unit
    if "/" in name and not name.endswith("/"):
        # ``p/hPa`` and ``wind / m/s``: what stands behind the first slash, if what stands before is no unit itself.
        before, _, behind = name.partition("/")
        # A name that is nothing but a rate is one; ``t/s`` and ``T/K`` are quantities in their units.
        return unit_said(name) if _RATE.match(name) else _in_sense(before.strip(), behind.strip())
    if "_" in name:
        before, _, suffix = name.rpartition("_")
        return _by_suffix(before, suffix)
    return unit_said(name) if name in _AS_WRITTEN or "°" in name else None


def speaks_of(name: str) -> bool:
    """Does a name speak of something that is measured, and not of time?"""
    lowered = name.strip().lower()
    return any("s" not in units and re.search(pattern, lowered) for pattern, units in _SENSES)


def _behind_blank(name: str) -> Unit | None:
    """``Pressure hPa``, ``wind m/s``, ``Temperature °C``: two letters or more, a sign, or a fraction."""
    before, _, last = name.rpartition(" ")
    if not before:
        return None
    if (
        (last in _AS_WRITTEN and (len(last) > 1 or last in "Ω%‰"))
        or last.startswith(("°", "%"))
        or last.lower() in ("lux", "ohm", "kohm", "volts", "amps", "rh", "%rh")
    ):
        return unit_said(last)
    if "/" in last and not last.startswith("/"):
        return unit_said(last)
    return None


def _in_sense(name: str, text: str) -> Unit | None:
    """A unit that stands in brackets: one letter by what the name speaks of, where it says."""
    letter = text.strip()
    if len(letter) == 1 or letter.lower() in ("g", "f", "c"):
        sensed = _sensed(name, letter.lower())
        if sensed is not None:
            return sensed
        if letter.lower() in ("c", "f"):
            return parse_unit("°C" if letter.lower() == "c" else "°F")
    return unit_said(letter)


def _by_suffix(before: str, suffix: str) -> Unit | None:
    lowered = suffix.lower()
    if lowered in _SUFFIX:
        return unit_said(lowered)
    if lowered in ("min", "s", "h", "d") or len(lowered) == 1:
        # Nothing but volts is written so; other letters count, name or turn things.
        return parse_unit("V") if lowered == "v" else _sensed(before, lowered)
    return unit_said(suffix) if suffix in _AS_WRITTEN else None


def _sensed(name: str, letter: str) -> Unit | None:
    lowered = name.lower()
    for pattern, units in _SENSES:
        if letter in units and re.search(pattern, lowered):
            return parse_unit(units[letter])
    return None
