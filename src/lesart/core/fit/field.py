"""A field: a fixed number of cells and the rules that fill them."""

from __future__ import annotations

import math
from typing import Any

from lesart.core.dataclass_later import dataclass
from lesart.core.errors import UnitError
from lesart.core.fit.cells import split_cells
from lesart.core.fit.rounding import MODES
from lesart.core.fit.words import Words, read_words
from lesart.core.parameters import Parameter
from lesart.core.raw.spectrum import Bands
from lesart.core.units import Unit, Value, conversion, convert, parse_unit

WIDEST = 40
SHOWS = ("number", "word", "alarm", "elapsed", "clock")
FIXED, AS_FIT = "fixed", "as many as fit"
GROUPS = {"none": "", "blank": " ", "comma": ",", "point": ".", "apostrophe": "'"}
POINT_LETTERS = {"point": ".", "comma": ","}
TIMES = ("m:ss", "h:mm", "h:mm:ss", "mm:ss", "hh:mm", "hh:mm:ss", "d hh:mm")
SENT = ("as text", "digits as numbers", "as one byte")
BY_RANGE = "by range"

PARAMETERS = (
    Parameter("width", "width", "integer", "cells of the display it fills", 6, lowest=1, highest=WIDEST),
    Parameter("decimals", "decimals", "integer", "digits after the point", 1, lowest=0, highest=9),
    Parameter("align", "align", "choice", "where a short text goes", "right", choices=("right", "left", "centre")),
    Parameter("pad", "pad", "choice", "what fills cells in front of a number", "blank", choices=("blank", "zero")),
    Parameter("sign", "sign", "choice", "signs shown", "minus only", choices=("minus only", "always", "never")),
    Parameter(
        "round", "round", "choice", "what happens to digits that are not shown", "half away", choices=tuple(MODES)
    ),
    Parameter("unit_text", "unit text", "text", "shown after the number", "", longest=8),
    Parameter("unit", "shown in", "text", "unit of the field; empty for the channel's own", "", longest=20),
    Parameter("overflow", "overflow", "text", "for a number too wide; one character is repeated", "-", longest=WIDEST),
    Parameter("invalid", "invalid", "text", "for a sample marked bad; one character is repeated", "=", longest=WIDEST),
    Parameter(
        "stale",
        "stale",
        "text",
        "when nothing has come for a long time; one character is repeated",
        "_",
        longest=WIDEST,
    ),
    Parameter(
        "stale_after",
        "stale after",
        "quantity",
        "age from which a reading is stale",
        "5 s",
        unit="s",
        lowest=0,
        above=True,
    ),
    Parameter("restless", "restless over", "integer", "changes a minute before a note", 20, lowest=0),
    Parameter("shows", "shows", "choice", "what is shown there", "number", choices=SHOWS),
    Parameter(
        "decimals_are",
        "decimals are",
        "choice",
        "always this many, or at most this many",
        FIXED,
        choices=(FIXED, AS_FIT),
    ),
    Parameter("point", "decimal mark", "choice", "between units and tenths", "point", choices=tuple(POINT_LETTERS)),
    Parameter("group", "thousands", "choice", "what separates them", "none", choices=tuple(GROUPS)),
    Parameter(
        "prefix",
        "prefix",
        "choice",
        "k, M, m, µ in front of the unit, by how large the number is",
        "none",
        choices=("none", BY_RANGE),
    ),
    Parameter(
        "unit_place", "unit placed", "choice", "on which side of the number", "behind", choices=("behind", "before")
    ),
    Parameter("time", "time as", "choice", "how elapsed time and a clock are written", "h:mm:ss", choices=TIMES),
    Parameter("words", "words", "text", "for ranges, up to where each goes: low < 5; ok < 43; full", "", longest=400),
    Parameter("calm_word", "no alarm", "text", "when none is on, where alarms are shown", "ok", longest=WIDEST),
    Parameter(
        "underflow", "underflow", "text", "for a negative number too wide; empty as overflow", "", longest=WIDEST
    ),
    Parameter("settling", "settling", "text", "while a filter settles; empty shows the number", "", longest=WIDEST),
    Parameter("sent", "sent", "choice", "as letters, or as numbers are sent by mistake", SENT[0], choices=SENT),
)
SECOND = parse_unit("s")


@dataclass(frozen=True)
class Reading:
    """The input of a field: a value in the channel's unit, its mark, its age, and the names of the alarms that are
    on."""

    value: float
    mark: int = 0
    age_s: float = 0.0
    alarms: tuple[str, ...] = ()
    past: tuple[tuple[float, int, tuple[float, ...]], ...] = ()
    """Earlier readings: how many seconds, in how many steps, and the last good one of each step or NaN."""
    spectra: tuple[tuple[Bands, tuple[float, ...]], ...] = ()
    """Levels in dB of the channel's waveform, by bands of frequency."""
    text: str = ""
    """A text instead of a number: an address, a name, a date."""

    def past_of(self, span_s: float, steps: int) -> tuple[float, ...]:
        """Past readings over a span in a number of steps; NaN where none were given."""
        found = (values for span, count, values in self.past if (span, count) == (span_s, steps))
        return next(found, (math.nan,) * steps)

    def levels_of(self, bands: Bands) -> tuple[float, ...]:
        """Levels of bands; NaN where none were given."""
        return next((levels for given, levels in self.spectra if given == bands), (math.nan,) * bands.count)


@dataclass(frozen=True)
class Field:
    """Rules of a field. ``unit_in`` is the channel's, ``unit_shown`` the field's; they measure the same thing."""

    width: int
    decimals: int
    align: str
    pad: str
    sign: str
    round: str
    unit_text: str
    overflow: str
    invalid: str
    stale: str
    stale_after_s: float
    restless_per_min: int
    unit_in: Unit
    unit_shown: Unit
    shows: str = SHOWS[0]
    decimals_are: str = FIXED
    point: str = "point"
    group: str = "none"
    prefix: str = "none"
    unit_place: str = "behind"
    time: str = "h:mm:ss"
    words: Words = ()
    calm_word: str = "ok"
    underflow: str = ""
    settling: str = ""
    sent: str = SENT[0]

    def shown_value(self, value: Value) -> Value:
        """One value or an array, converted to the field's unit."""
        return convert(value, self.unit_in, self.unit_shown)

    @property
    def is_number(self) -> bool:
        """True where it shows digits of the reading itself, so that decimals mean something."""
        return self.shows == "number"


def build_field(values: dict[str, Any], unit_in: Unit, unit_shown: Unit) -> Field:
    """A field from values by parameter name.

    Raises ValueError with a clause where texts do not fit or rules contradict.
    """
    words = read_words(values["words"], unit_shown)
    texts = [(name, values[name]) for name in ("overflow", "invalid", "stale", "underflow", "settling")]
    texts += [("calm word", values["calm_word"])] if values["shows"] == "alarm" else []
    texts += [("word", word) for _, word in words] if values["shows"] == "word" else []
    for name, text in texts:
        if len(split_cells(text, joined=".:")) > values["width"]:
            raise ValueError(f'the {name} text "{text}" must fit {values["width"]} cells')
    _agree(values, unit_shown, words)
    return Field(
        width=values["width"],
        decimals=values["decimals"],
        align=values["align"],
        pad=values["pad"],
        sign=values["sign"],
        round=values["round"],
        unit_text=values["unit_text"],
        overflow=values["overflow"],
        invalid=values["invalid"],
        stale=values["stale"],
        stale_after_s=values["stale_after"],
        restless_per_min=values["restless"],
        unit_in=unit_in,
        unit_shown=unit_shown,
        shows=values["shows"],
        decimals_are=values["decimals_are"],
        point=values["point"],
        group=values["group"],
        prefix=values["prefix"],
        unit_place=values["unit_place"],
        time=values["time"],
        words=words,
        calm_word=values["calm_word"],
        underflow=values["underflow"],
        settling=values["settling"],
        sent=values["sent"],
    )


def _agree(values: dict[str, Any], unit: Unit, words: Words) -> None:
    """Raises ValueError where two rules cannot both hold."""
    if values["shows"] == "word" and not words:
        raise ValueError('shows is "word", so words must say which: low < 5; ok < 43; full')
    if values["shows"] in ("elapsed", "clock"):
        try:
            conversion(unit, SECOND)
        except UnitError as error:
            raise ValueError(f"only seconds, minutes or hours are shown as a time, not {unit}") from error
    if values["group"] == values["point"]:
        raise ValueError(f"thousands and decimal mark must differ, and both are a {values['point']}")
    if values["prefix"] == BY_RANGE and (unit.is_temperature or unit.symbol != unit.root):
        plain = f", like {unit.root}" if unit.root and unit.root != unit.symbol else ""
        raise ValueError(f"a prefix by range needs a unit that has none yet{plain}; shown in is {unit}")
