"""The sample rate, where the lines above the rows state it and no column has the times: ``# sample rate: 50 Hz``."""

from __future__ import annotations

import re
from collections.abc import Sequence
from itertools import pairwise

from lesart.core.dataclass_later import dataclass
from lesart.core.errors import UnitError
from lesart.core.raw.moments.read import UNIT_S
from lesart.core.raw.spelled.unit_said import unit_said
from lesart.core.units import parse_unit
from lesart.core.visible import visible

HERTZ = parse_unit("Hz")
_FIGURE = r"(?P<figure>\d+(?:[.,]\d+)?(?:[eE][+-]?\d+)?)"
_UNIT = r"(?:[\s,;|\"]{0,4}(?P<unit>[A-Za-zµ]{1,12}(?:/s(?:ec)?)?)(?![A-Za-z/])|(?!\s{0,4}[A-Za-zµ]))"
_BEFORE = r"^[\W\d_]{0,8}"
_SAMPLES = r"(?:\b(?:output\s+)?(?:sampl\w{0,4}|scan\w{0,4}|log\w{0,4}|acquisition|record\w{0,3}|data)[ _\-]{1,3})"
_IN = r"[\s_]{0,2}[(\[]?(?P<within>[A-Za-zµ]{1,3}(?:/s)?)?[)\]]?[\s:=,;|\"]{1,6}"
RATE = re.compile(rf"(?:{_SAMPLES}(?:rate|frequency|freq)|{_BEFORE}(?:rate|fs|f_s|odr)){_IN}{_FIGURE}{_UNIT}", re.I)
INTERVAL = re.compile(
    rf"(?:{_SAMPLES}(?:interval|step|every)|\b(?:sampl\w{{0,4}}|scan\w{{0,4}}|log\w{{0,4}})[ _\-]period|"
    rf"\bsampl\w{{0,4}}[ _\-]time|{_BEFORE}(?:interval|period|dt|time\s(?:step|interval))|"
    rf"\b(?:x|time|horizontal)[ _\-](?:increment|interval)){_IN}{_FIGURE}{_UNIT}",
    re.I,
)
STEP = re.compile(r"(?:x[ _-]?|time[ _-]?)?(?:increment|incr)|dt|sampl\w{0,4}[ _-](?:interval|period)", re.I)
"""Headers of a cell with the time step below."""
PER_SECOND = {"sps": 1.0, "s/s": 1.0, "ksps": 1e3, "ks/s": 1e3, "msps": 1e6, "ms/s": 1e6}
"""Spellings of samples per second."""


@dataclass(frozen=True)
class HeadRate:
    """``rate_hz`` as stated by the line or the cells ``where``."""

    rate_hz: float
    where: str

    @property
    def says(self) -> str:
        """A sentence on it."""
        return f'no column is a time; the rate is taken from the lines above, "{visible(self.where)[:60]}"'


def rate_in_head(lines: Sequence[str], rows: Sequence[Sequence[str]]) -> HeadRate | None:
    """The rate from the lines above the first row of numbers, and their cells; None where not stated."""
    for line in lines:
        for pattern, is_rate in ((RATE, True), (INTERVAL, False)):
            match = pattern.search(line)
            rate_hz = _rate_of(match, is_rate=is_rate) if match else 0.0
            if rate_hz > 0:
                return HeadRate(rate_hz, line.strip())
    for above, below in pairwise(rows):
        for name, cell in zip(above, below, strict=False):
            step_s = _figure(cell)
            if step_s > 0 and STEP.fullmatch(name.strip()):
                return HeadRate(1 / step_s, f"{name} {cell}")
    return None


def _rate_of(match: re.Match[str], *, is_rate: bool) -> float:
    """The rate in hertz; 0 where its unit does not fit.

    Without a unit a rate is in hertz and an interval in seconds.
    """
    figure, said = _figure(match["figure"]), (match["within"] or match["unit"] or "").strip()
    if is_rate:
        return figure * (PER_SECOND[said.lower()] if said.lower() in PER_SECOND else _hertz(said))
    unit = unit_said(said) if said else parse_unit("s")
    in_s = UNIT_S.get(unit.symbol, 0.0) if unit is not None else 0.0
    return 1 / (figure * in_s) if figure * in_s > 0 else 0.0


def _hertz(said: str) -> float:
    if not said:
        return 1.0
    try:
        unit = parse_unit({"hz": "Hz", "khz": "kHz", "mhz": "MHz"}.get(said.lower(), said))
    except UnitError:
        return 0.0
    return float(unit.scale / HERTZ.scale) if unit.same_dimension(HERTZ) else 0.0


def _figure(cell: str) -> float:
    try:
        return float(cell.strip().strip('"').replace(",", "."))
    except ValueError:
        return 0.0
