"""The unit of a result by its name: ``kPa = …``, ``tempC = …``, ``voltage = …``; and names that say the quantity but
not the unit."""

from __future__ import annotations

import re
from collections.abc import Mapping

from lesart.core.raw.spelled.unit_said import unit_in_name, unit_said
from lesart.core.units import Unit, parse_unit

PLAIN = parse_unit("1")
IN_ONE: tuple[tuple[str, str], ...] = (
    (r"temp|tmp|dew|t\d*$", "°C"),
    (r"volt|v(?:bat|cc|dd|in|out)|bat(?:tery)?|supply|[uv]\d*$", "V"),
    (r"current|i\d*$", "A"),
    (r"resistance|r\d*$|r[sx]$", "Ω"),
    (r"freq", "Hz"),
    (r"angle|heading|pitch|roll|yaw", "°"),
    (r"illuminance|light", "lx"),
    (r"(?:rel(?:ative)?\W)?humid|(?:soil\W)?moist|rh$|percentage|soc$", "%"),
    (r"ph$|acidity", "pH"),
    (r"co2|tds", "ppm"),
    (r"turbid", "NTU"),
)
"""Beginnings of names of quantities with one usual unit."""
IN_ANY: Mapping[str, str] = {
    "pressure": "kPa",
    "weight": "g",
    "mass": "g",
    "load": "kg",
    "force": "N",
    "torque": "N·m",
    "power": "W",
    "energy": "Wh",
    "distance": "cm",
    "dist": "cm",
    "length": "cm",
    "level": "cm",
    "height": "cm",
    "depth": "cm",
    "range": "cm",
    "altitude": "m",
    "speed": "km/h",
    "wind": "km/h",
    "wind speed": "km/h",
    "flow": "L/min",
    "flow rate": "L/min",
    "volume": "L",
    "acceleration": "m/s^2",
}
"""Quantities whose numbers mean nothing without a unit, and an example of one."""
OF_NONE = frozenset(
    [
        *(
            "y",
            "x",
            "it",
            "out",
            "output",
            "result",
            "reading",
            "value",
            "val",
            "raw",
            "corrected",
            "calibrated",
            "new",
        ),
        *("input", "measurement", "signal", "sensor", "answer", "adc", "count", "counts"),
    ]
)
"""Generic names: the unit stays the same."""
OF_ITSELF = (*("reading", "value", "val", "raw", "input", "signal", "sensor", "adc", "counts", "count", "measurement"),)
OF_QUANTITIES = (
    ("m", ("distance", "height", "level")),
    ("V", ("voltage", "volts")),
    ("°C", ("temperature", "temp")),
    ("Pa", ("pressure",)),
    ("Hz", ("frequency", "freq")),
)
"""Quantities by a unit of theirs: what a reading is called where it may be one."""
_NUMBERED = re.compile(r"[a-ln-z]\d$")
"""``t2`` is the second temperature, not a square tonne; m2 is an area."""
LETTERS = frozenset("gmWNLJK")
"""One-letter units that are not also symbols of quantities, as v, i, r and t are."""
INDICES = frozenset(["uv", "uvi", "uv index", "aqi", "iaq", "index", "air quality index"])
"""Names of numbers without a unit, whatever they look like."""


def unit_of_result(what: str, end: Unit) -> Unit | None:
    """The unit of a result named ``what`` and made from a reading in ``end``: 1 where the name says that it has none or
    an unknown one, None where the name says nothing."""
    word = " ".join(what.split()).lower()
    if word in OF_NONE:
        return None
    if " " in word and what.split()[-1] in LETTERS:
        return parse_unit(what.split()[-1])
    if word in INDICES:
        return PLAIN
    if word in IN_ANY:
        return end if parse_unit(IN_ANY[word]).same_dimension(end) else PLAIN
    is_written = (len(word) > 1 or not word.isalpha() or what.strip() in LETTERS) and not _NUMBERED.match(word)
    if said := (unit_said(what) if is_written else None) or unit_in_name(what):
        return said
    unit = next((parse_unit(symbol) for pattern, symbol in IN_ONE if re.match(pattern, word)), None)
    return end if unit is not None and unit.same_dimension(end) else unit


def may_be_of_another_kind(what: str) -> bool:
    """True for a name whose unit nobody can know."""
    return " ".join(what.split()).lower() not in OF_NONE


def what_would_tell(what: str) -> str:
    """A sentence for a result whose name says the quantity but not the unit; else empty."""
    word = " ".join(what.split()).lower()
    unit = IN_ANY.get(word)
    told = f", {unit} = … would give it one" if unit else ""
    return "" if word in INDICES else f"; {what.strip()} has no unit yet{told}"
