"""A task as people say it, translated into what 8 Pace accepts; and values of the loop in a line.

``every second, log to the card for 30 ms`` is ``log to the card every 1 s takes 30 ms``, and ``5 times a second`` is
every 200 ms. A number with a unit that stays in the name is refused there: the task would get default times.
"""

from __future__ import annotations

import re
from collections.abc import Callable, Sequence

from lesart.core.errors import QuantityError, UnitError
from lesart.core.glass.panels.transfer import FOUR_WIRE, TWO_WIRE
from lesart.core.pace.task import SETTINGS
from lesart.core.quantity import parse_quantity
from lesart.core.raw.spelled.unit_typed import in_symbols
from lesart.core.units import parse_unit

SECOND = parse_unit("s")

NUMBER = r"\d+(?:[.,]\d+)?"
ONE_S = {"microsecond": 1e-6, "millisecond": 1e-3, "second": 1.0, "minute": 60.0, "hour": 3600.0, "day": 86400.0}
_TIME = rf"{NUMBER}\s*(?:[mµu]?s(?:ec(?:ond)?s?)?|m(?:illi|icro)seconds?|mins?|minutes?|h(?:ou)?rs?|h|days?)(?![\w/])"
_NAMED = rf"(?:{'|'.join(ONE_S)})(?!\w)"
_CLAUSES = "every|takes|at most|sends|over|by interrupt|in background"
AND = re.compile(rf"\s+and(?=\s+(?:{_CLAUSES})\b)")
FIRST = re.compile(rf"(every \S+ [^\s\d]+) (?!(?:{_CLAUSES})\b)(.+)$")
BREAKS_IN = re.compile(
    r"(?!.*\b(?:by interrupt|in background)\b)(?:\S+ ){0,4}?(?:interrupt|isr)(?:$| (?=every|takes))", re.IGNORECASE
)
"""A timer interrupt every 1 ms."""
SLOWEST_BUS_HZ = 1000.0
"""Below this frequency a rate is how often something is done."""
BITS_OF_BYTE = 10
"""On a serial line: the byte, a start bit and a stop bit."""


def task_plainly(typed: str) -> str:
    """The phrase in the words of 8 Pace; unchanged where nothing is recognised."""
    said = re.sub(
        r"^(?:(?:an? |the )?task\s+|an? |the )?(?:loop\s+(?=(?:delay|wait|pause)\b))?",
        "",
        typed.strip(),
        count=1,
        flags=re.IGNORECASE,
    )
    found = said = re.sub(r"\s*,(?=\s)", " ", _gathered(_in_bytes(said)))
    for pattern, put in RULES:
        found = pattern.sub(put, found)
    found = re.sub(r"\s+", " ", AND.sub("", _once(found))).strip()
    first = FIRST.match(found)
    found = f"{first[2]} {first[1]}" if first else found
    return f"{found} by interrupt" if BREAKS_IN.match(found) else found


def _once(said: str) -> str:
    """A single time is the duration; for waiting, in every pass of the loop."""
    if re.search(r"\btakes\b", said) or "sends" in said:
        return said
    alone = re.search(rf"(?<!every )(?<!most )(?<![\w.,])(?:{_TIME})", said)
    if alone is None:
        return said
    rest = f"{said[: alone.start()]} {said[alone.end() :]}".strip()
    waits = re.match(r"(?:delay|wait|pause)(?!\w)", rest, re.IGNORECASE)
    breaks_in = re.search(r"\b(?:interrupt|isr)\b", rest, re.IGNORECASE)
    if waits is not None:
        return f"{rest} takes {_written(alone[0])}" + ("" if "every" in rest else " every 0 ms")
    return f"{rest} takes {_written(alone[0])}" if breaks_in or re.search(r"\bevery\b", rest) else said


def _written(time: str) -> str:
    """``30 milliseconds`` as ``30 ms``, with the blank that clauses need."""
    return re.sub(r"(?<=\d)\s*(?=[^\W\d])", " ", in_symbols(time, SECOND), count=1)


def _every_s(seconds: float) -> str:
    for unit, size in (("h", 3600.0), ("min", 60.0), ("s", 1.0)):
        if seconds >= size and f"{seconds / size:.6g}" == f"{seconds / size:.12g}":
            return f" every {seconds / size:.12g} {unit} "
    return f" every {seconds * 1e3:.9g} ms " if seconds >= 1e-3 else f" every {seconds * 1e6:.9g} µs "


def _times_in(found: re.Match[str]) -> str:
    times = {"once": 1.0, "twice": 2.0}.get(found["times"].split()[0].lower())
    number = times or float(re.match(NUMBER, found["times"])[0].replace(",", "."))  # type: ignore[index]
    return _every_s(ONE_S[found["unit"].lower()] / number) if number else found[0]


def _at_rate(found: re.Match[str]) -> str:
    rate_hz = float(found["rate"].replace(",", ".")) * (1000.0 if found["kilo"] else 1.0)
    if rate_hz >= SLOWEST_BUS_HZ and re.search(
        r"\b(?:bytes?|over|bus|i2c|i²c|iic|twi|spi)\b", found.string, re.IGNORECASE
    ):
        return found[0]  # the clock of a bus
    return _every_s(1 / rate_hz) if rate_hz else found[0]


def _over_serial(found: re.Match[str]) -> str:
    """Duration over a serial line, ten bits per byte."""
    bauds = float(found["baud"].replace(" ", ""))
    if not bauds:
        return found[0]
    takes_ms = 1e3 * BITS_OF_BYTE * int(found["bytes"]) / bauds
    between = found.groupdict().get("between") or ""
    return f"{between} sends {found['bytes']} bytes takes {takes_ms:.9g} ms over serial line "


def _bus(found: re.Match[str]) -> str:
    name = found["bus"].lower()
    wires = FOUR_WIRE if "spi" in name or "four" in name else TWO_WIRE
    clock = f" at {found['clock']} {found['clock_unit']}" if found["clock"] else ""
    return f" over {wires} bus{clock} "


def _ranging(found: re.Match[str]) -> str:
    """``1 to 3 ms``: the unit of the end also applies to the beginning."""
    unit = found["unit"] or re.sub(NUMBER, "", found["last"], count=1).strip()
    first = f"{found['first']} {unit}"
    return f" takes {_written(first)} at most {_written(found['last'])} "


def _rule(pattern: str, put: Callable[[re.Match[str]], str]) -> tuple[re.Pattern[str], Callable[[re.Match[str]], str]]:
    return re.compile(pattern, re.IGNORECASE), put


_TAKING = r"(?:takes?|taking|lasts?|lasting|needs?|needing|costs?|costing|blocks?(?: for)?|blocking(?: for)?|for)"
_SENDING = r"(?:sends?|sending|writes?|writing|transmits?|transmitting|of)"
_BUS = r"(?P<bus>i2c|i²c|iic|twi|spi|two-wire|four-wire)(?:\s+bus)?"
_SENSED = r"(?:the\s+)?(?:sensor|probe|adc|converter|(?:(?:sensor|adc)(?:'s)?\s+)?(?:conversion|measurement))"
_APART = re.compile(
    r"(?:(?:over|on|via|through|to)\s+(?:the\s+|an?\s+)?)?(?:serial|uart|usart)(?:\s+(?:line|port))?\b", re.IGNORECASE
)
_BAUDS = re.compile(r",?\s*(?:\bat\s+)?\b(\d{3,8})\s*(?:bauds?|bit/s|bps)\b", re.IGNORECASE)
_LONG = re.compile(r",?\s*\b(\d{1,7})\s*bytes?\b", re.IGNORECASE)


def _in_bytes(said: str) -> str:
    """``50 characters at 115200`` is as many bytes and bauds on a serial line."""
    said = re.sub(r"(?<![\w.,])(\d{1,7})\s*(?:chars?|characters?|letters?)\b", r"\1 bytes", said, flags=re.IGNORECASE)
    if _APART.search(said) and not _BAUDS.search(said):
        said = re.sub(
            r"\bat\s+(\d{4,7})(?=\s*(?:,|$|\s(?:every|each|for)\b))", r"at \1 baud", said, flags=re.IGNORECASE
        )
    return said


def _gathered(said: str) -> str:
    """``over serial every second at 9600 baud, 40 bytes`` with what belongs together side by side."""
    line, bauds, long = _APART.search(said), _BAUDS.search(said), _LONG.search(said)
    if not (line and bauds and long) or re.search(
        r"serial\S*\s+(?:(?:line|port)\s+)?(?:at\s+)?\d", said, re.IGNORECASE
    ):
        return said
    rest = said
    for found in sorted((line, bauds, long), key=lambda each: -each.start()):
        rest = f"{rest[: found.start()]} {rest[found.end() :]}"
    rest = re.sub(r"\bsends?\s*$|\bof\s*$", "", rest.strip())
    return f"{rest} sends {long[1]} bytes over serial at {bauds[1]}"


RULES: Sequence[tuple[re.Pattern[str], Callable[[re.Match[str]], str]]] = (
    _rule(
        rf"^(?:blocking\s+)?(?P<word>delay|wait|pause)\s+(?:of|for)\s+(?P<time>{_TIME})$",
        lambda found: f"{found['word']} {found['time']}",
    ),
    _rule(
        rf"^{_SENSED}(?:\s+(?:time|takes?|needs?|is|of|lasts?))*\s+(?P<time>{_TIME})"
        r"(?:\s+(?:to\s+(?:convert|measure|answer)|(?:for\s+|per\s+|a\s+|each\s+)+(?:an?\s+)?(?:conversion|reading|measurement)))?$",
        lambda found: f"sampling takes {found['time']}",
    ),
    _rule(
        rf"^(?:the\s+)?(?P<what>display|screen|lcd|oled|tft|panel)\s+(?:takes?|needs?)\s+(?P<time>{_TIME})\s+"
        r"to\s+(?:redraw|refresh|draw|update)$",
        lambda found: f"{found['what']} refresh takes {found['time']}",
    ),
    _rule(rf"^(?={NUMBER}\s*(?:fps|frames?\s+(?:a|per|each)\s+second)$)", lambda found: "refresh at "),
    _rule(
        rf"^(?:frame\s?rate|fps)\s*(?:of|is|=|:)?\s*(?P<rate>{NUMBER})$", lambda found: f"refresh at {found['rate']} Hz"
    ),
    _rule(
        r"\b(?:over|on|via|through)\s+(?:an?\s+|the\s+)?(?:serial|uart|usart)(?:\s+(?:line|port))?\s+(?:at\s+)?"
        r"(?P<baud>\d{2,8})(?:\s*(?:bauds?|bit/s|bps))?(?!\w)(?P<between>.*?)\s(?P<bytes>\d{1,7})\s*(?:bytes?|B)(?!\w)",
        _over_serial,
    ),
    _rule(
        r"\bat\s+(?P<baud>\d{3,8})\s*(?:bauds?|bit/s|bps)(?!\w)(?P<between>.*?)\s(?P<bytes>\d{1,7})\s*(?:bytes?|B)(?!\w)",
        _over_serial,
    ),
    _rule(
        rf"\b(?:{_SENDING}\s+)?(?P<bytes>\d{{1,7}})\s*(?:bytes?|B)\s+(?:over|on|via|through)\s+(?:an?\s+|the\s+)?"
        r"(?:serial|uart|usart)(?:\s+(?:line|port))?\s+(?:at\s+)?(?P<baud>\d{2,8})(?:\s*(?:bauds?|bit/s|bps))?(?!\w)",
        _over_serial,
    ),
    _rule(
        r"\b(?P<times>once|twice|" + NUMBER + rf"\s*(?:times|x))\s+(?:a|an|per|each|every)\s+(?P<unit>{_NAMED})",
        _times_in,
    ),
    _rule(
        r"\b(?:in\s+|on\s+)?(?:every|each)\s+"
        r"(?:time\s+(?:through|round)\s+the\s+loop|turn(?:\s+of\s+the\s+loop)?|loop|pass)(?!\w)",
        lambda found: " every 0 ms ",
    ),
    _rule(rf"\b(?:every|each)\s+(?P<time>{_TIME})", lambda found: f" every {_written(found['time'])} "),
    _rule(
        rf"\b(?:every|each)\s+(?:half\s+(?:an?\s+)?|half\s+of\s+an?\s+)(?P<unit>{_NAMED})",
        lambda found: _every_s(ONE_S[found["unit"].lower()] / 2),
    ),
    _rule(
        rf"\b(?:every|each)\s+(?:other|second)\s+(?P<unit>{_NAMED})",
        lambda found: _every_s(ONE_S[found["unit"].lower()] * 2),
    ),
    _rule(r"(?<=\d)(?P<unit>\s?[mµu]?s)\s+each$", lambda found: found["unit"]),
    _rule(rf"\b(?:every|each)\s+(?P<unit>{_NAMED})", lambda found: _every_s(ONE_S[found["unit"].lower()])),
    _rule(
        rf"\b(?:over|on|via|through)\s+(?:an?\s+|the\s+)?{_BUS}"
        rf"(?:\s+(?:at\s+)?(?P<clock>{NUMBER})\s*(?P<clock_unit>[kM]Hz))?(?!\w)",
        _bus,
    ),
    _rule(
        rf"(?:\b(?:at|of|to|with)\s+(?:a\s+rate\s+of\s+)?)?(?<![\w.,])(?P<rate>{NUMBER})\s*"
        r"(?:(?P<kilo>k)?Hz|fps|k?sps|(?:frames?|samples?|readings?)(?:\s+(?:a|per|each)\s+|/)s(?:econd)?)(?!\w)",
        _at_rate,
    ),
    _rule(
        r"^(?P<word>delay|wait|pause)\s*\(?\s*(?P<ms>\d{1,6})\s*\)?\s*;?$",
        lambda found: f"{found['word']} {found['ms']} ms",
    ),
    _rule(
        rf"\b{_TAKING}\s+(?:about\s+|from\s+|between\s+)?(?P<first>{NUMBER})\s*(?P<unit>[mµu]?s|min)?\s*"
        rf"(?:to|and|[-–…])\s*(?P<last>{_TIME})",
        _ranging,
    ),
    _rule(
        rf"\b{_TAKING}\s+(?:about\s+|up to\s+|at most\s+)?(?P<time>{_TIME})",
        lambda found: f" takes {_written(found['time'])} ",
    ),
    _rule(
        rf"(?<!takes )\b(?:at most|up to|no more than|(?:at\s+)?worst(?:\s+case)?|max(?:imum)?)\s+(?P<time>{_TIME})",
        lambda found: f" at most {_written(found['time'])} ",
    ),
    _rule(
        rf"(?:\b{_SENDING}\s+)?(?<![\w.,])(?P<bytes>\d{{1,7}})\s*(?:bytes?|B)(?!\w)",
        lambda found: f" sends {found['bytes']} bytes ",
    ),
    _rule(
        r"\b(?:in|by|from|as|on|with)\s+(?:an?\s+|the\s+|its\s+)?(?:(?:timer|pin)\s+)?(?:interrupts?|isr)(?!\w)",
        lambda found: " by interrupt ",
    ),
    _rule(
        r"\b(?:in\s+the\s+background|(?:by|with|via|over)\s+DMA|on\s+the\s+other\s+core)(?!\w)",
        lambda found: " in background ",
    ),
)

CALLED = {
    **{each.title: each.name for each in SETTINGS if each.kind == "quantity"},
    **dict.fromkeys(
        ("processor", "cpu", "mcu", "microcontroller", "processor clock", "cpu clock", "mcu clock", "cpu speed"),
        "clock",
    ),
    **dict.fromkeys(("sleep", "deep sleep", "sleeping", "asleep", "standby", "idle current", "sleep current"), "idle"),
    **dict.fromkeys(("display", "backlight", "display current", "backlight current"), "shown"),
    **dict.fromkeys(("active", "active current", "awake current", "processor current"), "active"),
    **dict.fromkeys(("sensors", "sensor current"), "others"),
    "camera": "shutter",
    "capacity": "capacity",
    **dict.fromkeys(("lag", "max lag", "latency", "max latency"), "most_lag"),
}
"""Names of the loop's values."""
_NAMES = "|".join(sorted(map(re.escape, CALLED), key=len, reverse=True))
_SETTING = re.compile(
    rf"(?:an? |the )?(?P<name>{_NAMES})(?:\s+(?:draws?|takes?|is|of|at|has))?"
    rf"(?:\s+(?:at\s+most|up\s+to|under|below|within|no\s+more\s+than|less\s+than))?\s*[=:]?\s*"
    rf"(?P<value>{NUMBER}\s*[^\s\d]+)$",
    re.IGNORECASE,
)


_WITHIN = re.compile(
    rf"(?:(?:the\s+)?(?:display|screen|reading|value|it|number)\s+)?(?:should|must|has\s+to|may|shall)?\s*(?:follows?|reacts?|responds?|"
    rf"updates?|appears?|(?:be\s+)?(?:shown|visible|seen))\s+within\s+(?P<value>{_TIME})$",
    re.IGNORECASE,
)
"""How late a reading may be shown."""


_CELLS = re.compile(
    r"(?=.*\b(?:batter(?:y|ies)|cells?|aaa?|lipo|li-?ion|lithium|18650|14500|coin|accu|pack|power\s?bank)\b)"
    rf"(?!.*\bparallel\b)(?:[^\d\s]+\s+|\d+\s?[x×]\s?|\d{{5}}\s+){{1,5}}?(?P<value>{NUMBER}\s*m?Ah)$",
    re.IGNORECASE,
)
"""``2x AA 2500 mAh``: cells behind each other hold as much as one."""
_SHUTTER = re.compile(
    r"(?:camera|shutter|exposure)(?:\s+(?:shutter|speed|of|at))*\s+1/(?P<part>\d{1,5})(?:\s*s)?", re.IGNORECASE
)


def setting_said(typed: str) -> tuple[str, str] | None:
    """``battery 2000 mAh`` as a value of the loop; None for anything else."""
    if cells := _CELLS.fullmatch(typed.strip()):
        return "capacity", re.sub(r"(?<=[\d])\s*(?=[^\W\d])", " ", cells["value"], count=1).replace("mah", "mAh")
    if (shutter := _SHUTTER.fullmatch(typed.strip())) and int(shutter["part"]):
        return "shutter", f"{1e3 / int(shutter['part']):.4g} ms"
    if late := _WITHIN.match(typed.strip()):
        return "most_lag", in_symbols(late["value"], SECOND)
    found = _SETTING.match(typed.strip())
    if found is None:
        return None
    setting = next(each for each in SETTINGS if each.name == CALLED[found["name"].lower()])
    try:
        of_its_kind = parse_quantity(found["value"], parse_unit("1")).unit.same_dimension(parse_unit(setting.unit))
    except (QuantityError, UnitError):
        return None
    return (setting.name, found["value"]) if of_its_kind else None
