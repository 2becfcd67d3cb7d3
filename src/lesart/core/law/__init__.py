"""Law: raw values become a physical quantity. One module a conversion; ``KINDS`` is the list of them all."""

from lesart.core.law.air.atmosphere import ALTITUDE, REDUCED
from lesart.core.law.air.felt import APPARENT, WIND_CHILL
from lesart.core.law.air.humidity import ABSOLUTE, DEFICIT, DEW_POINT
from lesart.core.law.axes import DIRECTION, LENGTH, TILT
from lesart.core.law.bridge import BRIDGE_CONVERTER, LOAD_CELL
from lesart.core.law.compensation import COMPENSATION
from lesart.core.law.converter import CONVERTER, LOOP
from lesart.core.law.curve import POLYNOMIAL, TABLE
from lesart.core.law.divider import DIVIDER, HALF, RATIOMETRIC, SHUNT
from lesart.core.law.formula import FORMULA
from lesart.core.law.linear import LINEAR
from lesart.core.law.over_time.change import CHANGE
from lesart.core.law.over_time.totals import RISE, SUM, TOTAL
from lesart.core.law.power import LOGARITHM, POWER, ROOT
from lesart.core.law.record import LawKind
from lesart.core.law.resistive import BETA, BY_POINTS, PLATINUM, THERMISTOR
from lesart.core.law.thermocouple import THERMOCOUPLE
from lesart.core.law.timed import ECHO, GATE, INTERVAL, TICKS
from lesart.core.law.whole_steps import WHOLE_STEPS
from lesart.core.law.window import LEVEL, PEAK, RMS, STRONGEST

KINDS: dict[str, LawKind] = {
    kind.name: kind
    for kind in (
        CONVERTER,
        BRIDGE_CONVERTER,
        LOAD_CELL,
        LINEAR,
        TABLE,
        POLYNOMIAL,
        POWER,
        ROOT,
        LOGARITHM,
        DIVIDER,
        HALF,
        RATIOMETRIC,
        SHUNT,
        LOOP,
        THERMISTOR,
        BETA,
        BY_POINTS,
        PLATINUM,
        THERMOCOUPLE,
        TICKS,
        ECHO,
        GATE,
        INTERVAL,
        ALTITUDE,
        REDUCED,
        DEW_POINT,
        ABSOLUTE,
        DEFICIT,
        WIND_CHILL,
        APPARENT,
        LENGTH,
        TILT,
        DIRECTION,
        RMS,
        PEAK,
        LEVEL,
        STRONGEST,
        TOTAL,
        SUM,
        RISE,
        CHANGE,
        COMPENSATION,
        WHOLE_STEPS,
        FORMULA,
    )
}
"""By the name that stands as ``kind`` in the project file."""
