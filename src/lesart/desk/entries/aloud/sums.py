"""A bench sum as people ask for it.

``a resistor for a 2 V LED at 5 V, 20 mA``, ``12 V to 3.3 V``, ``battery 2000 mAh, awake 60 mA for 1 s every minute``:
words beside figures say which value each is, otherwise their dimension does.
"""

from __future__ import annotations

import re
from collections.abc import Mapping

from lesart.core.dataclass_later import dataclass
from lesart.core.errors import RequestError
from lesart.core.notes import Written
from lesart.core.raw.spelled.unit_typed import quantity_typed
from lesart.core.units import parse_unit
from lesart.core.wire.entry import free_name
from lesart.core.wire.sums import SUMS
from lesart.core.wire.sums.record import SumKind
from lesart.desk.entries.aloud.article import without_article
from lesart.desk.entries.aloud.figures import FIGURE, takes
from lesart.desk.entries.typed_values import as_written

_NUMBER = r"[-−]?\d+(?:[.,]\d+)?"
_VOLTS = rf"{_NUMBER}\s?m?V"
_OHMS = rf"{_NUMBER}\s?(?:[kM]?(?:Ω|\s?ohms?\b)|[kMR]\d*)"
_AMPS = rf"{_NUMBER}\s?[mµu]?A\b"
_TIME = r"\d+(?:[.,]\d+)?\s?(?:ms|s|sec(?:ond)?s?|min(?:ute)?s?|h|hours?|d|days?)\b"
_FROM_TO = r"\s*(?:to|and|-|–|\.\.\.?|…)\s*"

CALLED: tuple[tuple[str, str], ...] = (
    (r"self[- ]?heating", "self-heating"),
    (r"(?:series |current[- ]limiting )?resistor for\b(?=.*\b(?:led|lamp)s?\b)|(?:led|lamp) resistor", "lamp resistor"),
    (r"(?:resistor|half|divider) for\b(?=.*\b(?:ntc|thermistor)\b)", "thermistor half"),
    (r"(?:thermistor|ntc) (?:half|divider|resistor)", "thermistor half"),
    (r"(?:fixed )?(?:half|resistor) for\b(?=.*\bto\b)", "fixed half"),
    (r"(?:voltage )?divider(?: from| for)?", "divider"),
    (r"(?:best )?gain(?: for)?", "gain and reference"),
    (r"(?:current )?shunt(?: resistor)?(?: for)?", "shunt"),
    (r"(?:i2c |i²c )?pull[- ]?ups?(?: resistors?)?(?: for)?", "pull-ups"),
    (r"contrast(?: resistor)?(?: for)?", "contrast"),
    (r"how long (?:does|will|would)\b(?=.*\bbattery\b)|battery(?: (?:life|hours|time))?(?: of| for)?", "battery hours"),
    (r"anti[- ]?alias(?:ing)?(?: filter)?(?: for)?|rc filter(?: for)?", "anti-alias filter"),
    (r"debounc(?:e|ing)(?: filter)?(?: for| of)?", "debounce"),
)
"""Names of the sums, the surest first."""
_ASLEEP = r"(?:asleep|sleep(?:s|ing)?|standby|idle)"
_AWAKE = r"(?:awake|active|on|at|drawing)"
_ONE_OF = r"(?:\s+(?:at|current|of))*\s+"
ROLES: Mapping[str, tuple[tuple[str, tuple[str, ...]], ...]] = {
    "lamp resistor": (
        (rf"\b(?:at|on|from|supply(?: of)?)\s+(?:an?\s+)?({_VOLTS})|({_VOLTS})\s+supply", ("supply",)),
        (rf"(?:forward|vf)(?:\s+voltage)?(?:\s+of)?\s+({_VOLTS})", ("forward",)),
        (rf"({_VOLTS})(?=\s+(?:\w+\s+)?(?:led|lamp))", ("forward",)),
    ),
    "divider": ((rf"({_VOLTS})\s*(?:to|into|down to|for|→|->)\s*(?:an?\s+)?({_VOLTS})", ("highest", "most")),),
    "fixed half": ((rf"({_OHMS}){_FROM_TO}({_OHMS})", ("lowest", "highest")),),
    "thermistor half": (
        (rf"({_NUMBER})\s?(?:°?C)?{_FROM_TO}({_NUMBER}\s?°?C\b)", ("coldest", "hottest")),
        (r"\bbeta\s+(\d+)\s?K?\b", ("beta",)),
        (r"(\d+)[\s-]?bits?\b", ("bits",)),
    ),
    "self-heating": ((rf"({_OHMS})\s*(?:\w+\s+)?(?:with|and|over|behind)\s+(?:a\s+)?({_OHMS})", ("sensor", "fixed")),),
    "gain and reference": (
        (rf"({_NUMBER}\s?(?:m?V)?){_FROM_TO}({_VOLTS})", ("lowest", "highest")),
        (r"(\d+)[\s-]?bits?\b", ("bits",)),
    ),
    "battery hours": (
        (rf"\b{_ASLEEP}{_ONE_OF}({_AMPS})|({_AMPS})\s+(?:in\s+)?{_ASLEEP}", ("asleep",)),
        (rf"\b{_AWAKE}{_ONE_OF}({_AMPS})|({_AMPS})\s+(?:awake|active)", ("awake",)),
    ),
    "anti-alias filter": ((r"\b(?:sampled|sampling|at)(?:\s+at)?\s+(\d+(?:[.,]\d+)?\s?k?Hz)", ("rate",)),),
}
"""Words that identify values, before the others go by dimension."""
_PERIOD = rf"{_TIME}|second|minute|hour|day"
_SHARE = re.compile(rf"\bfor\s+({_TIME})\s+(?:every|each|per|in)\s+(?:an?\s+)?({_PERIOD})", re.IGNORECASE)
_WANTED = re.compile(rf"\b(?:for|to last|lasting)\s+({_TIME})", re.IGNORECASE)
SAYS_NOTHING = (
    "with of at and an a the for in on from over to into between by v band signal last lasts pin input bus i2c i²c "
    "adc led leds lamp red green blue white yellow amber ntc thermistor sensor battery cell converter contact button "
    "switch resistor"
)
_SMALL = frozenset(SAYS_NOTHING.split())
_NAMED = re.compile(r"\s+(?:called|named)\s+(?P<name>[^\d\W][\w -]*)$", re.IGNORECASE)


@dataclass(frozen=True)
class SumSaid:
    """A sum: its name, its kind, and the stated values by name."""

    name: str
    kind: SumKind
    values: Mapping[str, Written]


def sum_said(typed: str, taken: Mapping[str, object]) -> SumSaid | None:
    """The sum that is asked for; None where none is. Raises RequestError for figures that are not values of it."""
    named = _NAMED.search(typed)
    said = without_article(_NAMED.sub("", typed)).strip().rstrip("?").strip()
    found = _kind_in(said)
    if found is None:
        return None
    kind, rest = found
    name = named["name"].strip() if named else free_name(taken, kind.name)
    return SumSaid(name, kind, _values_in(rest, kind))


def _kind_in(said: str) -> tuple[SumKind, str] | None:
    for pattern, name in CALLED:
        if match := re.match(rf"(?:{pattern})(?![\w-])", said, re.IGNORECASE):
            return SUMS[name], said[match.end() :]
    if re.fullmatch(ROLES["divider"][0][0], said, re.IGNORECASE):
        return SUMS["divider"], said
    return None


def _values_in(rest: str, kind: SumKind) -> dict[str, Written]:
    """Values by the words beside them; others each for the first parameter of its dimension."""
    parameters = {each.name: each for each in kind.parameters}
    found: dict[str, Written] = {}
    if kind.name == "battery hours":
        rest = _times_in(rest, found)
    for pattern, names in ROLES.get(kind.name, ()):
        match = re.search(pattern, rest, re.IGNORECASE)
        if match is None:
            continue
        figures = [each for each in match.groups() if each is not None]
        rest = f"{rest[: match.start()]} {rest[match.end() :]}"
        for name, figure in zip(names, figures, strict=True):
            figure = (
                figure
                if re.search(r"[^\d.,\s−-]", figure) or parameters[name].kind != "quantity"
                else _like(figure, figures[-1])
            )
            found[name] = as_written(parameters[name], _plain(figure))
    for figure in FIGURE.findall(rest):
        parameter = next(
            (each for each in kind.parameters if each.name not in found and takes(each, _plain(figure))), None
        )
        if parameter is None:
            raise RequestError(f'"{figure.strip()}" says nothing of {kind.name}; {_asks(kind)}.')
        found[parameter.name] = as_written(parameter, _plain(figure))
    for word in re.split(r"[\s,;]+", FIGURE.sub(" ", rest)):
        if word and word.lower() not in _SMALL:
            raise RequestError(f'"{word}" says nothing of {kind.name}; {_asks(kind)}.')
    if "awake" in found and "asleep" not in found:
        found.setdefault("awake_share", "1")  # of what draws one current nothing says that it sleeps
    return found


def _times_in(rest: str, found: dict[str, Written]) -> str:
    """The awake time, its period and the wanted battery life, taken out of the text."""
    second = parse_unit("s")
    if share := _SHARE.search(rest):
        period = share[2] if share[2][0].isdigit() else f"1 {share[2]}"
        awake_s, period_s = (float(quantity_typed(each, second).to(second)) for each in (share[1], period))
        if not period_s > 0:
            raise RequestError(
                f'"{share[0].strip()}": a period of 0 never ends; say one like awake for 1 s every 60 s.'
            )
        found["awake_share"] = f"{awake_s / period_s:.6g}"
        rest = f"{rest[: share.start()]} {rest[share.end() :]}"
    if wanted := _WANTED.search(rest):
        found["wanted"] = str(quantity_typed(wanted[1], second))
        rest = f"{rest[: wanted.start()]} {rest[wanted.end() :]}"
    return rest


def _like(figure: str, other: str) -> str:
    """``0`` in ``0 to 60 mV`` with the unit of the other end."""
    return f"{figure.strip()} {re.sub(rf'^{_NUMBER}', '', other).strip()}"


def _plain(figure: str) -> str:
    """A number and a unit, also with ohms in words and temperatures without the degree sign."""
    figure = re.sub(r"\s*ohms?\b", " Ω", figure.strip(), flags=re.IGNORECASE)
    return re.sub(r"(?<=\d)\s?C$", " °C", figure)


def _asks(kind: SumKind) -> str:
    names = ", ".join(
        f"{each.title} ({each.unit})" if each.unit not in ("", "1") else each.title for each in kind.parameters
    )
    return f"it takes {names}"
