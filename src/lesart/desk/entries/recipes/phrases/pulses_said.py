"""Times and counts described by figures alone: an echo, a meter's pulses, the marks of a wheel."""

from __future__ import annotations

import math
import re

from lesart.core.errors import RequestError
from lesart.core.law.timed import SOUND_AT_ZERO_M_S, ZERO_K
from lesart.core.quantity import beside_unit
from lesart.core.raw.spelled.unit_said import unit_said
from lesart.core.raw.spelled.unit_typed import quantity_typed
from lesart.core.units import parse_unit
from lesart.desk.entries.recipes.phrases.aloud import HERTZ_PER
from lesart.desk.entries.recipes.phrases.counts_said import NUMBER

METRE = parse_unit("m")
COLDEST_C, HOTTEST_C = -40, 60
MOST_OFF = 0.75
"""Of the speed of sound; slower is half of it."""
_ECHO = re.compile(
    r"(?:distance\s+(?:from|of|by)\s+(?:an?\s+)?echo|ultrasonic(?:\s+(?:distance|echo|time))?|time\s+of\s+flight|tof|"
    r"(?:echo|round[\s-]trip)\s+time|(?:u|µ)s\s+(?:to|into)\s+[mc]?m|microseconds\s+(?:to|into)\s+(?:centi)?met(?:re|er)s|"
    r"(?:58(?:\.\d+)?\s*(?:u|µ)s|29(?:\.\d+)?\s*(?:u|µ)s)\s*(?:per|/)\s*cm)",
    re.IGNORECASE,
)
"""58 µs per centimetre is there and back."""
_SOUND = re.compile(r"speed\s+of\s+sound(?:\s+(?:of|is|=))?\s*(?P<speed>\d{3}(?:\.\d+)?)(?:\s*m/s)?", re.IGNORECASE)
_OF_METER = re.compile(
    r"(?:kwh|energy|electric(?:ity)?|power)\s+meter[\s,]+(?:with\s+|of\s+)?(?P<pulses>\d{2,6})\s*"
    r"(?:imp(?:ulse)?s?|pulses?|blinks|flashes)(?:\s*(?:/|per)\s*kWh)?",
    re.IGNORECASE,
)
_WHEEL = re.compile(
    rf"(?:wheel|tyre|tire|bicycle|bike)(?:'s)?[\s,]+(?:speed[\s,]+)?(?:(?:circumference|(?P<across>diameter))(?:\s+of)?\s+"
    rf"(?P<size>{NUMBER}\s*[mck]?m)|(?P<size_before>{NUMBER}\s*[mck]?m)\s+(?:circumference|(?P<across_behind>diameter)))"
    r"(?:[\s,]+(?:with\s+|and\s+)?(?P<marks>\d{1,4})\s*(?:ppr|cpr|teeth|slots?|holes?|magnets?|spokes?|"
    r"(?:pulses?|marks?)(?:\s+(?:per|a)\s+(?:turn|rev(?:olution)?))?))?",
    re.IGNORECASE,
)
"""One pulse per turn, as from a magnet on a spoke, or several."""
_SIZE = re.compile(
    rf"(?:(?:bicycle|bike|cart|robot)\s+)?(?:wheel|tyre|tire)[\s,:]+(?:of\s+)?(?P<size>{NUMBER}\s*[mck]?m)",
    re.IGNORECASE,
)
_MICROS = r"(?:µs|μs|us|usec|microseconds?)"
_LENGTH = r"(?P<unit>mm|cm|m|in|inch(?:es)?)"
_SAID_OF = r"(?:(?:ultrasonic|echo|distance|sonar|range|sensor)[\s,]+){0,3}"
_HALF = r"(?P<half>\s*(?:/\s*2|divided\s+by\s+(?:2|two)|halved))?"
_THERE_AND_BACK = re.compile(
    rf"{_SAID_OF}(?P<way>{NUMBER})(?P<halved>\s*/\s*2)?\s*{_LENGTH}\s*(?:per|a|/)\s*{_MICROS}{_HALF}", re.IGNORECASE
)
_MICROS_EACH = re.compile(
    rf"{_SAID_OF}(?P<micros>{NUMBER})\s*{_MICROS}\s*(?:per|a|/)\s*(?:an?\s+)?{_LENGTH}{_HALF}", re.IGNORECASE
)
"""``0.0172 cm per µs``, ``148 µs per inch``."""
_OF_FLOW = re.compile(
    r"(?:(?:water\s+)?flow(?:\s+(?:meter|sensor))?[\s,]+)?(?P<pulses>\d{1,6})\s*(?:pulses?|imp(?:ulse)?s?|ticks?)\s*(?:per|a|/)\s*"
    r"(?:L|lit(?:er|re))(?:\s+(?:water\s+)?flow(?:\s+(?:meter|sensor))?)?",
    re.IGNORECASE,
)
_HERTZ_EACH = re.compile(
    rf"(?:[^\W\d][\w-]*[,:]?\s+){{0,3}}?(?P<hertz>{NUMBER})\s*Hz\s*(?:per\s+(?:an?\s+)?|/\s*)\(?(?P<unit>(?!L/min|LPM|min|s\b|h\b)[^\s\d,;=()]+[23²³]?)\)?",
    re.IGNORECASE,
)
_TIPS = re.compile(
    rf"(?:rain(?:fall)?\s+(?:gauge|sensor|bucket)|tipping\s+bucket)[\s,:]+(?:of\s+)?(?P<tip>{NUMBER}\s*(?:mm|in(?:ch(?:es)?)?))"
    r"(?:\s*(?:per|a|/)\s*(?:tip|pulse))?",
    re.IGNORECASE,
)
_MARKS_FIRST = re.compile(
    rf"(?:encoder|motor|hall(?:\s+sensor)?)[\s,]+(?:with\s+)?(?P<marks>\d{{1,5}})\s*(?:ppr|cpr|pulses?\s*(?:per|a|/)\s*"
    rf"(?:rev(?:olution)?|turn))[\s,]+(?:on\s+an?\s+|with\s+an?\s+)?(?:wheel\s+(?:of\s+)?(?P<size>{NUMBER}\s*[mc]?m)|"
    rf"(?P<size_before>{NUMBER}\s*[mc]?m)\s+wheel)(?:\s+(?:diameter|(?P<round>circumference)))?",
    re.IGNORECASE,
)
"""An encoder on a wheel, whose diameter is meant unless said otherwise."""
_MARKED = re.compile(
    r"(?:(?:encoder|disc|disk|gear|(?:tooth(?:ed)?\s+)?wheel|hall(?:\s+sensor)?|(?:fan\s+)?tach(?:o(?:meter)?)?|fan|motor|rpm)[\s,]+)?(?:with\s+)?(?P<marks>\d{1,5})[\s-]*(?:ppr|cpr|teeth|tooth|slots?|holes?|"
    r"magnets?|spokes?|blades?|pulses?\s*(?:per|a|/)\s*(?:rev(?:olution)?|turn|rotation))(?:\s+(?:encoder|disc|disk|gear|wheel|"
    r"fan))?(?:[\s,]+rpm)?|(?:ppr|cpr)\s*=?\s*(?P<behind>\d{1,5})",
    re.IGNORECASE,
)


def echoed(said: str) -> str:
    """An echo time there and back; a stated speed of sound gives the temperature of the air."""
    if _ECHO.fullmatch(said):
        return "a time of an echo"
    speed_m_s = _speed_of(said)
    if not speed_m_s:
        return ""
    celsius = ZERO_K * ((speed_m_s / SOUND_AT_ZERO_M_S) ** 2 - 1)
    return f"a time of an echo in air of {celsius:.6g} °C" if COLDEST_C <= celsius <= HOTTEST_C else ""


def _speed_of(said: str) -> float:
    """The stated speed of sound, or what comes of a distance per microsecond there and back; 0 for neither."""
    if found := _SOUND.fullmatch(said):
        return float(found["speed"])
    if found := _THERE_AND_BACK.fullmatch(said):
        metres = quantity_typed(f"{found['way']} {found['unit']}", METRE).to(METRE)
        micros = 1.0
    elif found := _MICROS_EACH.fullmatch(said):
        metres, micros = quantity_typed(f"1 {found['unit']}", METRE).to(METRE), float(found["micros"].replace(",", "."))
    else:
        return 0.0
    one_way = metres / micros * 1e6 if micros else 0.0
    # 0.0343 cm per µs is how fast sound is; 0.0172 is half of that, for an echo goes both ways.
    is_halved = found["half"] or found.groupdict().get("halved")
    return one_way if is_halved or one_way > SOUND_AT_ZERO_M_S * MOST_OFF else 2 * one_way


def metered(said: str) -> str:
    """Pulses per kilowatt hour or per turn, or hertz per litre per minute.

    Raises RequestError for the size of a wheel, which may be across it or around it.
    """
    if found := _SIZE.fullmatch(said):
        size = found["size"]
        raise RequestError(
            f'"{said}": across it or around it? wheel diameter {size} is one, wheel circumference {size} the other.'
        )
    if found := _OF_METER.fullmatch(said):
        return f"a count of {1 / float(found['pulses']):.12g} kWh" if float(found["pulses"]) else ""
    if found := _WHEEL.fullmatch(said):
        is_across = found["across"] or found["across_behind"]
        size = quantity_typed(found["size"] or found["size_before"], METRE).to(METRE) * (math.pi if is_across else 1.0)
        size /= int(found["marks"] or 1) or 1
        return f"pulses giving {size:.10g} m/s"
    if found := _MARKS_FIRST.fullmatch(said):
        across = "circumference" if found["round"] else "diameter"
        return metered(f"wheel {across} {found['size'] or found['size_before']}, {found['marks']} ppr")
    if found := _TIPS.fullmatch(said):
        return f"a count of {found['tip']}"
    if (found := _HERTZ_EACH.fullmatch(said)) and (unit := unit_said(found["unit"])) is not None:
        hertz = float(found["hertz"].replace(",", "."))
        return f"pulses giving {beside_unit(f'{1 / hertz:.12g}', unit.symbol)}" if hertz else ""
    if found := _OF_FLOW.fullmatch(said):
        return f"pulses of a flow, {found['pulses']} pulses per litre"
    if found := _MARKED.fullmatch(said):
        return f"a wheel's pulses, marks = {found['marks'] or found['behind']}"
    return f"pulses of a flow, {said}" if HERTZ_PER.fullmatch(said) else ""
