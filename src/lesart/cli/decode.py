"""``lesart decode``: the content of a trace, as CSV or as one JSON object per line."""

from __future__ import annotations

import argparse
import re
import sys
from collections.abc import Iterable, Iterator, Mapping
from pathlib import Path
from typing import Any

import numpy as np

from lesart.cli.printed.rows import Column, csv_line, print_csv, print_objects
from lesart.core.block import Block, Floats, mark_word
from lesart.core.errors import Problem, RequestError
from lesart.core.quantity import plain_number, whole_number
from lesart.core.raw.decode import KINDS, Decoded
from lesart.core.raw.edges import Edges
from lesart.core.raw.messages.frames import ByteFrame
from lesart.core.raw.source import DECODE, Source
from lesart.core.raw.talks.recognise import recognise
from lesart.core.raw.talks.talk import STILL
from lesart.core.visible import visible
from lesart.project.captures.capture import Capture
from lesart.project.captures.capture_read import read_capture
from lesart.project.captures.traces.vcd_read import Trace, read_vcd
from lesart.project.new.edges import trace_table
from lesart.project.new.trace import lines_for, lines_of, sentence_of, silent
from lesart.project.tables.sources import check_source

COLUMNS = ("t", "kind", "bytes", "mark", "why")
"""Columns of every frame."""
Table = dict[str, Column]
"""Columns of one length, by name."""
SIGNS = {"signed": "two's complement", "sign-bit": "sign bit", "unsigned": "none"}


def run(options: argparse.Namespace) -> int:
    """List the signals, or print what is decoded; 1 when a frame is broken."""
    path: Path = options.file
    table = trace_table(path, path.name)
    if table is not None and options.kind is None:
        _list(path, table, as_json=options.json)
        return 0
    capture = read_capture(path, _source(path, options, table))
    tables = _bits(capture.decoded) if options.bits and capture.decoded else _tables(capture)
    _print(tables, as_json=options.json)
    for name, figure in (capture.decoded.found if capture.decoded else {}).items():
        print(f"{name}: {plain_number(figure)}", file=sys.stderr)
    return int(any(frame.mark for frame in _frames(capture)))


def _list(path: Path, table: Mapping[str, Any], *, as_json: bool) -> None:
    """List the signals; their talks go to standard error, out of a script's way."""
    trace = read_vcd(path) if table.get("format") == "vcd" else Trace(lines_of(path, table), {})
    lasts = np.array([line.end_s for line in trace.lines.values()])
    edges = np.array([len(line) for line in trace.lines.values()])
    changes = np.array([len(block) for block in trace.values.values()])
    lines: Table = {"signal": list(trace.lines), "edges": edges, "lasts_s": lasts}
    values: Table = {"signal": list(trace.values), "changes": changes, "lasts_s": np.full(len(changes), np.nan)}
    _print([lines, values], as_json=as_json)
    for talk in recognise(trace.lines):
        if talk.kind != STILL:
            print(visible(f"{sentence_of(talk)}."), file=sys.stderr)


def _source(path: Path, options: argparse.Namespace, table: Mapping[str, Any] | None) -> Source:
    """The source that the arguments describe, read as a project would. Raises RequestError with its problems."""
    fields = [_field(each) for each in options.field]
    decode = _written(dict(_pair(each) for each in options.set), options.kind)
    if table is not None:
        if options.kind not in KINDS:
            raise RequestError(f'--as "{options.kind}" is not a decoder; there are {", ".join(KINDS)}.')
        decode = {"kind": options.kind, **_found(lines_of(path, table), options), **decode}
    told = {"capture": path.name, "format": "hex"} if table is None else table
    source, problems = check_source("file", {**told, "decode": decode, "fields": fields})
    if source is None:
        raise RequestError(*map(_said, problems))
    return source


def _found(lines: Mapping[str, Edges], options: argparse.Namespace) -> dict[str, Any]:
    """Signals by role, and parameters of the decoder: the named ones, else as recognised in the trace.

    The choice is reported, and why nothing may come of it.
    """
    kind = KINDS[options.kind]
    if options.line:
        named: dict[str, Any] = dict(zip(kind.lines, options.line, strict=False))
        how = ""
    else:
        named, how = lines_for(kind, lines)
        talk = next((each for each in recognise(lines) if each.kind == kind.name), None)
        named |= dict(talk.values) if talk is not None else {}
    told = ", ".join(f"{key} = {value}" for key, value in named.items())
    print(visible(f"reads {told}" + (f" ({how})" if how else "")), file=sys.stderr)
    if why := silent(kind, {role: str(name) for role, name in named.items()}, lines):
        print(visible(f"{why}."), file=sys.stderr)
    return named


def _pair(written: str) -> tuple[str, str]:
    key, sign, value = written.partition("=")
    if not sign:
        raise RequestError(f'--set "{written}": write it KEY=VALUE, like baud=9600.')
    return key, value


def _written(decode: dict[str, Any], kind: str | None) -> dict[str, Any]:
    """Texts of the command line as the project file would have them, by the type of each key."""
    own = KINDS[kind].parameters if kind in KINDS else ()
    kinds = {parameter.name: parameter.kind for parameter in (*own, *DECODE)}
    flags = {"true": True, "false": False}
    found = {}
    for key, value in decode.items():
        number = whole_number(value) if kinds.get(key) == "integer" else None
        found[key] = flags.get(value, value) if kinds.get(key) == "flag" else value if number is None else number
    return found


def _field(written: str) -> dict[str, Any]:
    name, sign, rest = written.partition("=")
    parts = [part.strip() for part in rest.split(",")]
    if not sign or len(parts) < 2 or not all(re.fullmatch(r"\d{1,5}", part) for part in parts[:2]):
        raise RequestError(f'--field "{written}": write it NAME=FIRST,BITS, like temperature=16,16,signed,scale=0.1.')
    if name in COLUMNS:
        raise RequestError(f'--field "{written}": the column {name} already exists; give the field another name.')
    table: dict[str, Any] = {"name": name, "first_bit": int(parts[0]), "bits": int(parts[1])}
    for part in parts[2:]:
        key, sign, value = part.partition("=")
        if part in SIGNS:
            table["sign"] = SIGNS[part]
        elif part == "low-first":
            table["order"] = "low first"
        elif part == "float":
            table["floating"] = True
        elif sign and key in ("scale", "offset"):
            table[key] = value
        else:
            raise RequestError(
                f'--field "{written}": "{part}" is none of {", ".join(SIGNS)}, float, low-first, scale=, offset=.'
            )
    return table


def _said(problem: Problem) -> str:
    return str(Problem(problem.place.removeprefix("sources.file."), problem.value, problem.wanted))


def _frames(capture: Capture) -> tuple[ByteFrame, ...]:
    return (capture.decoded.frames or ()) if capture.decoded else ()


def _tables(capture: Capture) -> Iterator[Table]:
    """Tables with a row per frame and its fields, or a row per value."""
    frames = _frames(capture)
    if capture.decoded is not None and capture.decoded.frames is None:
        for name, block in capture.columns.items():
            yield {"t": block.t, "kind": [name] * len(block), "value": block.x, "mark": _words(block.mark.tolist())}
        return
    table: Table = {
        "t": np.array([frame.t for frame in frames]),
        "kind": [frame.says or "frame" for frame in frames],
        "bytes": [frame.data.hex(" ") for frame in frames],
        "mark": _words([frame.mark for frame in frames]),
        "why": [frame.why or None for frame in frames],
    }
    values = {name: _by_frame(capture.decoded, name, block, len(frames)) for name, block in capture.columns.items()}
    yield {**table, **values}


def _words(marks: list[int]) -> list[str | None]:
    words = {mark: mark_word(mark) for mark in set(marks)}
    return [words[mark] for mark in marks]


def _by_frame(decoded: Decoded | None, name: str, block: Block, frames: int) -> Floats:
    """A column's values by frame index: from every frame, or from some."""
    places = decoded.from_frame.get(name) if decoded is not None else None
    values = np.full(frames, np.nan)
    values[list(places or range(len(block)))] = block.x
    return values


def _bits(decoded: Decoded) -> Iterator[Table]:
    if decoded.bits is not None:
        bits = decoded.bits
        kind = ["bit"] * len(bits.t)
        yield {"t": bits.t, "end": bits.end, "kind": kind, "value": bits.value, "margin": bits.margin}


def _print(tables: Iterable[Table], *, as_json: bool) -> None:
    """Print tables; the header is that of the first; control characters of a file are shown, never sent on."""
    begun = False
    for table in tables:
        if not len(next(iter(table.values()))):
            continue
        if as_json:
            print_objects(table)
            continue
        if not begun:
            print(csv_line(table))
        begun = True
        print_csv(table)
