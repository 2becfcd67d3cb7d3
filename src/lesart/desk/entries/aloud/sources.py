"""A column, a capture or a line as people say it, translated into what 2 Raw accepts.

``/dev/ttyUSB0 at 115200`` is ``line < text line /dev/ttyUSB0 115200``, ``modbus tcp 192.168.1.7 unit 3, holding
register 40001`` a register of a meter, ``the second column`` a channel of the capture.
"""

from __future__ import annotations

import re
from collections.abc import Callable, Collection
from os.path import isfile
from pathlib import Path, PurePosixPath

from lesart.core.errors import RequestError
from lesart.core.quantity import counted, plain_number
from lesart.core.raw.messages.bus_registers import BUS_TYPES
from lesart.core.raw.messages.registers import TYPES
from lesart.core.raw.spelled.unit_said import unit_said
from lesart.core.raw.spelled.unit_typed import quantity_typed
from lesart.core.units import parse_unit
from lesart.core.wire.entry import free_name
from lesart.desk.entries.aloud.article import without_article
from lesart.desk.entries.lines import is_line
from lesart.project.called import channel_called
from lesart.project.captures.capture import Capture
from lesart.project.model import Project
from lesart.project.new.format import ENDINGS

PORT = r"(?P<port>/dev/[\w./-]+|tty[A-Z]{1,5}\d{1,3}|COM\d{1,3}|rig/[\w./-]+)"
BAUD = r"(?P<baud>\d{3,7})\s*(?:baud|bd|bps)?"
_SERIAL = re.compile(
    r"(?:(?:serial|uart|usb|text)\s+)*(?:(?:port|line)\s+)?(?:(?:on|at|from)\s+)?"
    rf"(?:{BAUD}\s+(?:on|at|from)\s+)?{PORT}(?:[\s,]+(?:(?:at|with|@)\s*)?(?P<behind>\d{{3,7}})\s*(?:baud|bd|bps)?)?"
    r"(?:[\s,]+8N1)?",
    re.IGNORECASE,
)
_PORTLESS = re.compile(
    r"(?:(?:serial|uart|usb)\s+)*(?:serial|uart|usb)(?:\s+(?:port|line))?(?:[\s,]+(?:(?:at|with)\s+)?\d{3,7}(?:\s*baud)?)?",
    re.IGNORECASE,
)
_MODBUS = re.compile(
    r"modbus(?:[\s/-]*(?:tcp|ip|rtu))?(?:\s+meter)?(?:\s+(?:at|on|from))?\s+"
    r"(?P<place>(?!unit\b|slave\b|id\b|holding|input|register)[\w./:-]+)\b[\s,]*(?P<rest>.*)",
    re.IGNORECASE,
)
_UNIT = re.compile(
    r"\b(?:unit|slave|device|station|server|id)(?:\s+(?:id|address|number))?\s+(?P<unit>\d{1,3})\b", re.I
)
_OF_MODBUS = re.compile(
    r"\b(?:(?P<table>holding|input|coil|discrete)(?:\s+(?:registers?|inputs?|coils?))?|registers?)"
    r"(?:\s+(?:number|address))?\s+(?P<number>\d{1,6})\b",
    re.IGNORECASE,
)
_TYPE = re.compile(r"\b(?:as\s+)?(?P<type>u?int(?:8|16|24|32|64)|float(?:32|64)?)\b", re.IGNORECASE)
_BAUD = re.compile(rf"\b(?:at\s+)?{BAUD}", re.IGNORECASE)
_UDP = re.compile(r"udp(?:\s+text)?(?:\s+(?:on|at))?(?:\s+port)?\s+(?P<number>\d{1,5})", re.IGNORECASE)
_MQTT = re.compile(
    r"mqtt(?:\s+broker)?(?:\s+(?:at|on|from))?\s+(?P<host>(?!topic\b|under\b|on\b|at\b)[\w.-]+(?::\d{1,5})?)"
    r"(?:[\s,]+(?:(?:topic|under)\s+)?(?P<topic>\S+))?",
    re.IGNORECASE,
)
_BUS = re.compile(
    r"(?:i2c|i²c|two-wire)(?:\s+(?:bus|device|sensor|chip))?(?:\s+(?:at|on|address))*\s+(?P<rest>.*)", re.IGNORECASE
)
_ON_BUS = re.compile(r"\b(?:(?:on|at)\s+)?(?P<bus>/dev/[\w-]+|rig/[\w./-]+)")
_ADDRESS = re.compile(r"\b(?:(?:at|address)\s+)*(?P<address>0x[0-9a-f]{2})\b", re.IGNORECASE)
_REGISTER = re.compile(r"\b(?:register|reg)\s+(?P<register>0x[0-9a-f]{1,2})\b", re.IGNORECASE)
_COMPUTER = re.compile(r"(?:(?:this|my|the) )?(?:computer|laptop|pc)|cpu(?: load| temperature)?", re.IGNORECASE)
_COLUMN = re.compile(
    r"(?:the )?(?:column (?P<number>\d{1,3})|(?P<which>first|second|third|fourth|fifth|sixth|last) column)"
    r"(?:,? (?:in )?(?P<unit>\S+))?",
    re.IGNORECASE,
)
_BEFORE_COLUMN = re.compile(r"(?:use|take|read|show|add)?\s*(?:the\s+)?(?:column\s+)?", re.IGNORECASE)
_RATE = re.compile(
    r"(?:(?:the\s+)?(?:sampl(?:e|ing)\s+)?rate\s*(?:is|of|=|:)?\s*|sampled\s+(?:at\s+)?|at\s+)?"
    r"(?:(?P<hz>\d+(?:[.,]\d+)?\s*[mk]?Hz)|(?P<many>\d+(?:[.,]\d+)?)\s*(?:samples?|readings?|values?)\s*(?:per\s+|an?\s+|/\s*)s(?:ec(?:ond)?)?"
    r"|(?:one\s+)?every\s+(?P<every>\d+(?:[.,]\d+)?\s*(?:[mµu]?s|min|h)))",
    re.IGNORECASE,
)
_AS_NAMED = re.compile(
    r"(?:(?:use|take|read|add)\s+)?(?:the\s+)?(?:column\s+)?(?P<column>\S.*?)\s+(?:as|called|named)\s+"
    r"(?P<name>[^\W\d][\w ]{0,40})",
    re.IGNORECASE,
)
_TIME_IN = re.compile(
    r"(?:the\s+)?(?:time(?:\s+column)?|times|time\s?stamps?)\s+(?:is\s+in|are\s+in|in|is|are)\s+(?P<unit>[^\W\d]+)",
    re.IGNORECASE,
)
_WHICH = {"first": 1, "second": 2, "third": 3, "fourth": 4, "fifth": 5, "sixth": 6, "last": 0}
_FILE = re.compile(
    r"(?:(?:another|the|my)\s+)?(?:\w+\s+)?(?:(?:file|capture|recording|trace)\s+)?(?P<file>[\w./-]+\.\w{2,7})"
    r"(?:\s+as\s+(?P<decoder>.+))?",
    re.IGNORECASE,
)
_FILLING = re.compile(r"[\s,]+|\b(?:and|with|at|on|as|the)\b", re.IGNORECASE)
SECOND = parse_unit("s")
TABLE_OF = {4: "holding", 3: "input"}
"""Tables by the first digit of five- or six-digit register numbers, which count from 1."""
BUS = "/dev/i2c-1"
"""Default two-wire bus of small computers."""
Said = tuple[str, str]
"""A name for the channel, and the text after the sign."""


def source_plainly(typed: str, project: Project, source: str, capture: Capture | None, folder: Path) -> str | None:
    """``name < KIND …``, ``name < file`` or ``name = column unit``; None where it is none of them in plain words.

    A name may stand before a sign. Raises RequestError for a column that is not there, and for a line without its port.
    """
    name, sign, what = _parted(typed)
    if sign and (is_line(what) or isfile(folder / what.partition(" as ")[0].strip())):
        return None
    said = without_article(what)
    found = _file(said, folder) if sign != "=" else None
    found = found or next((each for rule in _LINES if (each := rule(said)) is not None), None)
    if found is not None:
        return f"{name or _free(found[0], project)} < {found[1]}"
    line = project.sources[source].line
    found = _more_of_meter(said) if line is not None and line.kind.is_modbus else None
    columns = list(capture.columns) if capture is not None else []
    if not sign and found is None and (named := _named_column(said, columns)) is not None:
        return f"{named[0]} = {named[1]}"
    found = found or (None if sign else _column(said, capture))
    return None if found is None else f"{name or _free(found[0], project)} = {found[1]}"


def column_called(said: str, columns: Collection[str]) -> str | None:
    """The column of that name, or the only one with that name and a unit; ``use column volts``."""
    bare = _BEFORE_COLUMN.sub("", said.strip(), count=1)
    return channel_called(said, columns) or (channel_called(bare, columns) if bare != said.strip() else None)


def rate_said(typed: str) -> str:
    """``sample rate 10 Hz`` and ``every 100 ms`` as a rate; empty for anything else."""
    found = _RATE.fullmatch(typed.strip())
    if found is None:
        return ""
    if found["hz"]:
        return found["hz"]
    if found["many"]:
        return f"{found['many'].replace(',', '.')} Hz"
    seconds = quantity_typed(found["every"], SECOND).to(SECOND)
    return f"{plain_number(1 / seconds, 9)} Hz" if seconds > 0 else ""


_TIME = r"(?P<time{0}>\d+(?:[.,]\d+)?\s*(?:m?s(?:ec(?:ond)?s?)?|min(?:ute)?s?|h(?:ou)?rs?|h))"
_SETTLES = re.compile(
    r"(?:(?:it\s+|sensor\s+)?(?:settles?|settled|settling|stabili[sz]es?|warm(?:s|ed)?(?:[\s-]?up)?|ready)(?:\s+(?:time|period))?"
    rf"(?:\s*[=:]|\s+(?:in|after|for|of|takes|is|within))*\s+{_TIME.format(1)}"
    rf"|(?:ignore|skip|drop|discard|throw\s+(?:out|away)|wait(?:\s+for)?|reject)\s+(?:the\s+)?(?:first\s+)?{_TIME.format(2)}"
    rf"|(?:the\s+)?first\s+{_TIME.format(3)}\s+(?:is|are)?\s*(?:invalid|bad|wrong|not\s+valid|no\s+readings?|unusable|ignored)"
    rf"|{_TIME.format(4)}\s+(?:warm[\s-]?up|settling|to\s+settle)(?:\s+time)?)"
    r"(?:\s+(?:after|from|at)\s+(?:power[\s-]?(?:up|on)|start(?:[\s-]?up)?|switching\s+on|reset))?",
    re.IGNORECASE,
)
_SPACED = re.compile(
    r"(?:(?:min(?:imum)?|least|shortest)\s+(?:interval|time|pause|gap)(?:\s+between\s+(?:readings|samples))?|(?:not|never|no)\s+"
    rf"(?:sooner|faster|more\s+often|oftener)\s+than)(?:\s*[=:]|\s+(?:every|of|is))*\s+{_TIME.format('')}",
    re.IGNORECASE,
)


def early_said(typed: str) -> tuple[str, str] | None:
    """When readings are too early: ``settles in 10 s`` or ``minimum interval 2 s``, as name and written value; None for
    anything else."""
    if found := _SETTLES.fullmatch(typed.strip()):
        return "settle", _seconds(next(filter(None, found.groups())))
    found = _SPACED.fullmatch(typed.strip())
    return ("least_interval", _seconds(found["time"])) if found else None


def _seconds(said: str) -> str:
    return str(quantity_typed(said, SECOND))


def says_column(typed: str) -> bool:
    """True for a column by its number. With ct after it, it is not a signal."""
    return _COLUMN.fullmatch(without_article(typed.strip())) is not None


def says_line(typed: str) -> bool:
    """True for a spoken line."""
    try:
        return any(rule(without_article(typed.strip())) is not None for rule in _LINES)
    except RequestError:
        return True  # nearly one; 2 Raw says what is missing


def _parted(typed: str) -> tuple[str, str, str]:
    """A name, its sign and the rest; no name where there is no sign."""
    match = re.fullmatch(r"([^<=]*)([<=])(.*)", typed.strip())
    return (match[1].strip(), match[2], match[3].strip()) if match else ("", "", typed.strip())


def _free(wanted: str, project: Project) -> str:
    return free_name((*project.channels, *project.sources), wanted)


def _named_column(said: str, columns: Collection[str]) -> Said | None:
    """``column a0 as temperature``: the name of a channel, and its column."""
    match = _AS_NAMED.fullmatch(said)
    column = column_called(match["column"], columns) if match else None
    return (match["name"].strip(), column) if match and column else None


def time_unit_said(typed: str) -> str:
    """``time is in ms`` as a unit; empty for anything else. Raises RequestError for a unit that is none of time."""
    found = _TIME_IN.fullmatch(typed.strip())
    unit = unit_said(found["unit"]) if found else None
    if unit is not None and not unit.same_dimension(SECOND):
        raise RequestError(f'"{typed.strip()}": {unit} is no unit of time; say s, ms, µs, min or h.')
    return unit.symbol if unit is not None else ""


def _column(said: str, capture: Capture | None) -> Said | None:
    """A column by its name, or by its number. Raises RequestError where there are fewer."""
    columns = list(capture.columns) if capture is not None else []
    if (called := column_called(said, columns)) is not None:
        return called, called
    match = _COLUMN.fullmatch(said)
    if match is None or not columns:
        return None
    place = int(match["number"]) if match["number"] else _WHICH[match["which"].lower()] or len(columns)
    if capture is not None and not 1 <= place <= len(columns):
        there = f"{counted(len(columns), 'column')}: {', '.join(columns)}"
        raise RequestError(f'"{said}" is not there; {capture.name} has {there}.')
    column = columns[place - 1]
    return column, f"{column} {match['unit'] or ''}".strip()


def _file(said: str, folder: Path) -> Said | None:
    """A file in the project's folder or in its captures; else a name with the extension of a capture."""
    match = _FILE.fullmatch(said)
    if match is None:
        return None
    file = match["file"]
    there = next((each for each in (file, f"captures/{file}") if isfile(folder / each)), None)
    if there is None and PurePosixPath(file).suffix.lower() not in (*ENDINGS, ".csv", ".txt", ".log", ".tsv"):
        return None
    decoder = f" as {match['decoder']}" if match["decoder"] else ""
    return PurePosixPath(file).stem, f"{there or file}{decoder}"


# Lines


def _serial(said: str) -> Said | None:
    match = _SERIAL.fullmatch(said)
    if match is None and _PORTLESS.fullmatch(said):
        raise RequestError(f'"{said}" does not say which port; write it like /dev/ttyUSB0 at 9600, or COM3 at 9600.')
    if match is None:
        return None
    name = PurePosixPath(match["port"]).name if match["port"].startswith("rig/") else "line"
    port = f"/dev/{match['port']}" if match["port"].startswith("tty") else match["port"]
    return name, f"text line {port} {match['behind'] or match['baud'] or ''}".strip()


def _modbus(said: str) -> Said | None:
    match = _MODBUS.fullmatch(said)
    if match is None:
        return None
    place = match["place"]
    how = "RTU" if re.fullmatch(PORT, place) else "TCP"
    rest, unit = _taken(_UNIT, match["rest"])
    rest, register = _taken(_OF_MODBUS, rest)
    rest, kind = _taken(_TYPE, rest)
    rest, baud = _taken(_BAUD, rest) if how == "RTU" else (rest, None)
    words = [f"Modbus {how}", place]
    words += [f"unit {unit['unit']}"] if unit else []
    words += [f"{baud['baud']} baud"] if baud else []
    words += [_register(register, kind)] if register else []
    left = _FILLING.sub(" ", rest).strip()
    return _name_of(register) if register else "meter", " ".join((*words, left)).strip()


def _more_of_meter(said: str) -> Said | None:
    """Another register of a meter that is already asked, and the unit after it."""
    match = _OF_MODBUS.match(said)
    if match is None:
        return None
    rest, kind = _taken(_TYPE, said[match.end() :])
    return _name_of(match), f"{_register(match, kind)} {_FILLING.sub(' ', rest).strip()}".strip()


def _register(match: re.Match[str], kind: re.Match[str] | None) -> str:
    table, number = match["table"], int(match["number"])
    digits = len(match["number"])
    leading = number // 10 ** (digits - 1)
    if digits >= 5 and leading in TABLE_OF and (table or TABLE_OF[leading]).lower() == TABLE_OF[leading]:
        table, number = TABLE_OF[leading], number - leading * 10 ** (digits - 1) - 1
    type_ = "" if kind is None else {"float": "float32"}.get(kind["type"].lower(), kind["type"].lower())
    return f"{(table or 'holding').lower()} {number} {type_ if type_ in TYPES else ''}".strip()


def _name_of(match: re.Match[str]) -> str:
    return f"register {match['number']}"


def _taken(pattern: re.Pattern[str], text: str) -> tuple[str, re.Match[str] | None]:
    """The text without the first match of the pattern, and the match."""
    match = pattern.search(text)
    return (text, None) if match is None else (f"{text[: match.start()]} {text[match.end() :]}", match)


def _udp(said: str) -> Said | None:
    match = _UDP.fullmatch(said)
    return None if match is None else ("udp", f"UDP text {match['number']}")


def _mqtt(said: str) -> Said | None:
    match = _MQTT.fullmatch(said)
    if match is None:
        return None
    topic = match["topic"] or ""
    last = topic.rpartition("/")[2]
    return last if last and last not in ("#", "+") else "mqtt", f"MQTT {match['host']} {topic}".strip()


def _bus(said: str) -> Said | None:
    match = _BUS.fullmatch(said)
    if match is None:
        return None
    rest, bus = _taken(_ON_BUS, match["rest"])
    rest, register = _taken(_REGISTER, rest)
    rest, address = _taken(_ADDRESS, rest)
    rest, kind = _taken(_TYPE, rest)
    if address is None:
        return None
    words = [BUS if bus is None else bus["bus"], address["address"], *([register["register"]] if register else [])]
    words += [kind["type"].lower()] if kind and kind["type"].lower() in BUS_TYPES else []
    left = _FILLING.sub(" ", rest).strip()
    return "sensor", " ".join(("two-wire bus", *words, left)).strip()


def _computer(said: str) -> Said | None:
    return ("computer", "this computer") if _COMPUTER.fullmatch(said) else None


_LINES: tuple[Callable[[str], Said | None], ...] = (_serial, _modbus, _udp, _mqtt, _bus, _computer)
