"""Channels and sources added and removed in Raw: another column of the capture, or another file."""

from __future__ import annotations

from collections.abc import Sequence
from os.path import isfile
from pathlib import Path
from typing import Any

from lesart.core.block import Block
from lesart.core.dataclass_later import dataclass
from lesart.core.errors import RequestError, UnitError
from lesart.core.law.over_time.periods import lasting
from lesart.core.quantity import format_quantity, listed, parse_quantity
from lesart.core.raw.codes import stand_ins
from lesart.core.raw.decode import KINDS
from lesart.core.raw.lines.line import LINES
from lesart.core.raw.no_reading import no_reading_text, with_none_marked
from lesart.core.raw.source import EARLY, Source
from lesart.core.raw.spelled.unit_said import unit_in_name
from lesart.core.raw.talks.recognise import recognise
from lesart.core.units import parse_unit
from lesart.core.wire.entry import free_name
from lesart.desk.entries.aloud.instead.sources import done_otherwise
from lesart.desk.entries.edit_result import Edited
from lesart.desk.entries.frame_values import add_value
from lesart.desk.entries.lines import add_line, add_register, is_line
from lesart.project.assumed import with_said, without_assumed
from lesart.project.captures.capture import Capture
from lesart.project.captures.capture_read import read_capture
from lesart.project.captures.traces.vcd_read import read_vcd
from lesart.project.model import Channel, Project, Table
from lesart.project.new.format import format_of
from lesart.project.new.limits import written_limits
from lesart.project.new.source import source_table
from lesart.project.tables.sources import check_source
from lesart.project.text import Editor

HOW = (
    'say "column 2", "-127 is no reading", '
    '"captures/more.csv", "/dev/ttyUSB0 at 9600" or "modbus 192.168.1.7 unit 3, holding register 10", '
    'or write "name = column unit" for another channel, "name < file as decoder" for another capture, '
    f'"name < KIND …" for a line, which is {", ".join(LINES)}; of frames "bytes 3 to 4 signed / 10 °C"'
)


HERTZ = parse_unit("Hz")


@dataclass(frozen=True)
class _Where:
    """The context of an addition: the editor's text, the project and its folder."""

    editor: Editor
    text: str
    project: Project
    folder: Path


def add_entry(
    editor: Editor, text: str, project: Project, folder: Path, capture: Capture | None, source: str, typed: str
) -> Edited:
    """The text with what was typed at ``+`` in Raw. Raises RequestError or CaptureError with what would be right."""
    where = _Where(editor, text, project, folder)
    if "<" in typed:
        name, _, what = typed.partition("<")
        if is_line(what.strip()):
            return add_line(editor, text, _free_source(_free(name, project), project), what.strip())
        return _add_capture(where, _free(name, project), what.strip())
    if "=" in typed:
        name, _, what = typed.partition("=")
        what, free, of = what.strip(), _free(name, project), project.sources[source]
        register = add_register(editor, text, of, free, what) or add_value(editor, text, of, capture, free, what)
        if register is not None:
            return register
        return _add_channel(where, free, capture, source, what)
    free = free_name((*project.channels, *project.sources), "value")
    if (value := add_value(editor, text, project.sources[source], capture, free, typed)) is not None:
        return value
    if how := done_otherwise(typed):
        raise RequestError(f'"{typed.strip()}": {how}.')
    raise RequestError(f'"{typed}" is neither; {HOW}.')


def say_rate(editor: Editor, text: str, project: Project, source: str, rate: str) -> Edited:
    """The text with a sample rate. Raises RequestError where a column or a live line has the times."""
    of, key = project.sources[source], ("sources", source, "rate")
    if of.time:
        raise RequestError(
            f"Column {of.time} of {source} says when each sample came; a rate is for captures without one."
        )
    if of.line is not None or of.decoding is not None:
        raise RequestError(f"When each sample of {source} came is known; a rate is for captures without a time.")
    rate_hz = parse_quantity(rate, HERTZ).to(HERTZ)
    if not rate_hz > 0:
        raise RequestError(f"A rate of {rate} gives no sample at all; write one like 10 Hz, or every 100 ms.")
    text = with_said(editor, editor.with_value(text, key, rate), [key])
    return Edited(text, f"{source}: a sample every {lasting(1 / rate_hz)}", key)


def say_time_unit(editor: Editor, text: str, project: Project, source: str, unit: str) -> Edited:
    """The text with the unit of a column of times. Raises RequestError where no column has them."""
    of, key = project.sources[source], ("sources", source, "time_unit")
    if not of.time:
        raise RequestError(f"No column of {source} says when each sample came; its rate does, like sample rate 10 Hz.")
    if of.time_unit == unit:
        raise RequestError(f"{source}: column {of.time} is a time in {unit} already.")
    return Edited(editor.with_value(text, key, unit), f"{source}: column {of.time} is a time in {unit}", key)


def say_early(editor: Editor, text: str, source: str, name: str, written: str) -> Edited:
    """The text with a source's limit for readings that come too early."""
    key = ("sources", source, name)
    title = next(each.title for each in EARLY if each.name == name)
    return Edited(
        editor.with_value(text, key, written), f"{source}: {title} {written}; what comes sooner is marked", key
    )


def _free(name: str, project: Project) -> str:
    name = name.strip()
    if not name:
        raise RequestError(f"A channel needs a name; {HOW}.")
    if name in project.channels:
        raise RequestError(f'There is a channel "{name}" already; use another name.')
    return name


def _free_source(name: str, project: Project) -> str:
    if name in project.sources:
        raise RequestError(f'There is a source "{name}" already; use another name.')
    return name


def _add_channel(where: _Where, name: str, capture: Capture | None, source: str, what: str) -> Edited:
    if capture is None:
        raise RequestError("The capture of this channel cannot be read, so its columns are not known.")
    fit = [column for column in capture.columns if what == column or what.startswith(f"{column} ")]
    if not fit:
        known = ", ".join(capture.columns) or "none"
        raise RequestError(f'"{what}" is not a column; {capture.name} has {known}.')
    column = max(fit, key=len)
    same = next(
        (each for each in where.project.channels.values() if (each.source, each.column) == (source, column)), None
    )
    unit = what[len(column) :].strip() or (str(same.unit_raw) if same is not None else _unit(capture, column))
    entry = _channel(source, column, unit, capture.columns[column])
    key = ("channels", name)
    return Edited(where.editor.with_table(where.text, key, entry), f"added: {name}, column {column}", (*key, "column"))


def _unit(capture: Capture, column: str) -> str:
    """The unit by the decoder's column, or by its name; else a plain number."""
    said = capture.decoded.units.get(column) if capture.decoded else unit_in_name(column)
    return str(said) if said is not None else "1"


def _channel(source: str, column: str, unit: str, block: Block) -> dict[str, Any]:
    try:
        parse_unit(unit)
    except UnitError as error:
        raise RequestError(str(error)) from error
    none = tuple(stand_ins(block.x[block.usable], parse_unit(unit)))
    block = with_none_marked(block, none)
    limits = written_limits(block.x[block.usable], unit)
    told = {"no_reading": no_reading_text(none)} if none else {}
    return {"source": source, "column": column, "raw_unit": unit, **told, "unit": unit, **limits}


def _add_capture(where: _Where, name: str, what: str) -> Edited:
    """The text with a source of that name and a channel of its first column."""
    file, _, decoder = what.partition(" as ")
    path = where.folder / file.strip()
    _free_source(name, where.project)
    if not file.strip() or not isfile(path):
        raise RequestError(f'"{file.strip()}" is not in the project\'s folder; put it into captures first.')
    table = source_table(path, file.strip(), decoder.strip() or _talk_of(path))
    source, problems = check_source(name, without_assumed(table))
    if source is None:
        raise RequestError(f"{problems[0]}")
    capture = read_capture(path, source)
    column = next((column for column, block in capture.columns.items() if block.usable.any()), None)
    if column is None:
        known = ", ".join(capture.columns) or "no column"
        raise RequestError(
            f"{path.name}: it has {known} with a number in it; a trace needs a decoder, like {next(iter(KINDS))}."
        )
    text = _with_source(where, name, table)
    entry = _channel(name, column, _unit(capture, column), capture.columns[column])
    text = where.editor.with_table(text, ("channels", name), entry)
    return Edited(text, f"added: {name} from {path.name}, column {column}", ("channels", name, "column"))


def _talk_of(path: Path) -> str:
    """The likeliest decoder of a trace of edges; empty where nothing is recognised."""
    if format_of(path) != "vcd":
        return ""
    return next((talk.kind for talk in recognise(read_vcd(path).lines) if talk.kind in KINDS), "")


def _with_source(where: _Where, name: str, table: Table) -> str:
    plain = {key: value for key, value in table.items() if key not in ("decode", "fields", "registers")}
    text = where.editor.with_table(where.text, ("sources", name), plain)
    if "decode" in table:
        text = where.editor.with_table(text, ("sources", name, "decode"), table["decode"])
    for field in table.get("fields", ()):
        text = where.editor.with_entry(text, ("sources", name, "fields"), field)
    for register in table.get("registers", ()):
        text = where.editor.with_entry(text, ("sources", name, "registers"), register)
    return text


def say_no_reading(editor: Editor, text: str, channel: Channel, values: Sequence[float]) -> Edited:
    """The text with further raw values that mean no reading. Raises RequestError where all of them already do."""
    key = ("channels", channel.name, "no_reading")
    said = listed([format_quantity(value, channel.unit_raw, 9) for value in values])
    if set(values) <= set(channel.no_reading):
        raise RequestError(
            f"{channel.name}: {said} {'is' if len(values) == 1 else 'are'} taken for no reading already."
        )
    written = no_reading_text((*channel.no_reading, *values))
    stand = "stands" if len(values) == 1 else "stand"
    return Edited(editor.with_value(text, key, written), f"{said} {stand} for no reading", key)


def take_channel(editor: Editor, text: str, project: Project, channel: Channel) -> Edited:
    """Without a channel, and without its source where no other channel reads it.

    Raises RequestError for the last one, and for one that is shown or read: nothing else may go with it unseen.
    """
    shown = [face.name for face in project.faces.values() if channel.name in face.channels]
    readers = [other.name for other in project.channels.values() if channel.name in other.chain.reads]
    if shown or readers:
        faces = f"shown on face {' and '.join(shown)}" if shown else ""
        by = f"read by {' and '.join(readers)}" if readers else ""
        where = " in 7 Glass" if shown else ""
        raise RequestError(
            f"{channel.name} is {' and '.join(filter(None, (faces, by)))}; remove it there{where} first."
        )
    if len(project.channels) == 1:
        raise RequestError("This is the only channel; a project has at least one.")
    left = editor.without(text, ("channels", channel.name))
    others = [other.name for other in project.channels.values() if other.source == channel.source]
    if len(others) == 1:
        left = editor.without(left, ("sources", channel.source))
    return Edited(left, f"removed: {channel.name}")


def columns_of(capture: Capture, source: Source, project: Project) -> tuple[tuple[str, str], ...]:
    """Each column with the channel that reads it, if any."""
    readers = {channel.column: channel.name for channel in project.channels.values() if channel.source == source.name}
    return tuple(
        (column, readers.get(column, readers.get(str(place), ""))) for place, column in enumerate(capture.columns, 1)
    )
