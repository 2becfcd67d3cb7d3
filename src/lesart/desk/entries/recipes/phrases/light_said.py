"""A photoresistor as people say it: by its resistance at 10 lx, or at another level of light."""

from __future__ import annotations

import math
import re

from lesart.core.errors import RequestError
from lesart.core.quantity import parse_quantity
from lesart.core.units import parse_unit
from lesart.desk.entries.recipes.phrases.counts_said import NUMBER

OHM = parse_unit("Ω")
R_TEN = re.compile(r"[,\s]*\bR\s?10\s*[=:]?\s+(?=\d)", re.IGNORECASE)
AT_LIGHT = re.compile(
    rf"(?P<ohms>(?<![\w.,]){NUMBER}\s*(?:[kMR]\d*)?\s*(?:Ω|ohms?)?)\s*(?:at|@)\s*(?P<light>{NUMBER})\s*(?:lux|lx)\b",
    re.IGNORECASE,
)
GAMMA_SAID = re.compile(r"\bgamma\s*(?:of|is|=)?\s*(?P<gamma>\d+(?:\.\d+)?)", re.IGNORECASE)
USUAL_GAMMA = 0.7
MOST_DECADES = 12
"""Farther from 10 lx no photoresistor is stated."""


def at_ten_lux(rest: str) -> str:
    """A photoresistor's resistance at 10 lx: ``R10 50k``, ``50k at 10 lux``, or from another light level by its γ."""
    rest = R_TEN.sub(", resistance = ", rest)
    found = AT_LIGHT.search(rest)
    if found is None:
        return rest
    gamma = GAMMA_SAID.search(rest)
    light_lx = float(found["light"].replace(",", "."))
    decades = math.log10(light_lx / 10) * float(gamma["gamma"] if gamma else USUAL_GAMMA) if light_lx > 0 else math.inf
    if abs(decades) > MOST_DECADES:
        raise RequestError(f'"{found[0].strip(" ,")}" gives no resistance at 10 lx; say it there, like 50k at 10 lux.')
    written = found["ohms"].strip()
    if decades:
        ohms = parse_quantity(re.sub(r"(?<=\d)$", " Ω", re.sub(r"\s*ohms?$", " Ω", written)), OHM).to(OHM)
        written = f"{ohms * 10**decades:.10g} Ω"
    return f"{rest[: found.start()]}, resistance = {written}, {rest[found.end() :]}"
