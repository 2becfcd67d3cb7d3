"""``lesart decode``: what is in a trace, as CSV or as one JSON object a line."""

from __future__ import annotations

import argparse
import csv
import json
import math
import re
import sys
from collections.abc import Iterable, Iterator
from pathlib import Path
from typing import Any

from lesart.cli.answer import needs_escapes
from lesart.core.block import Block, mark_word
from lesart.core.errors import Problem, RequestError
from lesart.core.quantity import whole_number
from lesart.core.raw.decode import KINDS, Decoded
from lesart.core.raw.frames import ByteFrame
from lesart.core.raw.source import DECODE, Source
from lesart.core.visible import visible
from lesart.project.captures.capture import Capture
from lesart.project.captures.capture_read import read_capture
from lesart.project.captures.vcd_read import Trace, read_vcd
from lesart.project.tables.sources import check_source, line_parameters

COLUMNS = ("t", "kind", "bytes", "mark", "why")
"""Of every frame."""
SIGNS = {"signed": "two's complement", "sign-bit": "sign bit", "unsigned": "none"}


def run(options: argparse.Namespace) -> int:
    """List the signals, or print what is decoded; 1 when a frame is broken."""
    path: Path = options.file
    is_trace = path.suffix.lower() == ".vcd"
    if is_trace and options.kind is None:
        _list(read_vcd(path), as_json=options.json)
        return 0
    capture = read_capture(path, _source(path, options, is_trace))
    rows = _bits(capture.decoded) if options.bits and capture.decoded else _rows(capture)
    _print(rows, as_json=options.json)
    for name, figure in (capture.decoded.found if capture.decoded else {}).items():
        print(f"{name}: {figure:.6g}", file=sys.stderr)
    return int(any(frame.mark for frame in _frames(capture)))


def _list(trace: Trace, *, as_json: bool) -> None:
    rows: list[dict[str, Any]] = [
        {"signal": name, "edges": len(line), "lasts_s": line.end_s} for name, line in trace.lines.items()
    ]
    rows += [{"signal": name, "changes": len(block), "lasts_s": None} for name, block in trace.values.items()]
    _print(rows, as_json=as_json)


def _source(path: Path, options: argparse.Namespace, is_trace: bool) -> Source:
    """The source that the arguments describe, read as a project would. Raises RequestError with its problems."""
    decode = _written(dict(_pair(each) for each in options.set), options.kind)
    if is_trace:
        if options.kind not in KINDS:
            raise RequestError(f'--as "{options.kind}" is not a decoder; there are {", ".join(KINDS)}.')
        decode |= {"kind": options.kind, **_lines(path, options)}
    fields = [_field(each) for each in options.field]
    table = {"capture": path.name, "format": "vcd" if is_trace else "hex", "decode": decode, "fields": fields}
    source, problems = check_source("file", table)
    if source is None:
        raise RequestError("\n".join(_said(problem) for problem in problems))
    return source


def _lines(path: Path, options: argparse.Namespace) -> dict[str, str]:
    """Signals by what each is for: those named, else one of that name, else in the order of the file."""
    kind, names = KINDS[options.kind], list(read_vcd(path).lines)
    wanted = [parameter.name for parameter in line_parameters(kind)]
    if options.line:
        return dict(zip(wanted, options.line, strict=False))
    by_name = {role: role for role in wanted if role in names}
    if len(by_name) >= kind.needed:
        return by_name
    return dict(zip(wanted[: kind.needed], names, strict=False))


def _pair(written: str) -> tuple[str, str]:
    key, sign, value = written.partition("=")
    if not sign:
        raise RequestError(f'--set "{written}": write it KEY=VALUE, like baud=9600.')
    return key, value


def _written(decode: dict[str, Any], kind: str | None) -> dict[str, Any]:
    """Texts of the command line as the project file would have them, by what each key takes."""
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
        raise RequestError(f'--field "{written}": the column {name} is there already; give the field another name.')
    table: dict[str, Any] = {"name": name, "first_bit": int(parts[0]), "bits": int(parts[1])}
    for part in parts[2:]:
        key, sign, value = part.partition("=")
        if part in SIGNS:
            table["sign"] = SIGNS[part]
        elif part == "low-first":
            table["order"] = "low first"
        elif sign and key in ("scale", "offset"):
            table[key] = value
        else:
            raise RequestError(
                f'--field "{written}": "{part}" is none of {", ".join(SIGNS)}, low-first, scale=, offset=.'
            )
    return table


def _said(problem: Problem) -> str:
    return str(Problem(problem.place.removeprefix("sources.file."), problem.value, problem.wanted))


def _frames(capture: Capture) -> tuple[ByteFrame, ...]:
    return (capture.decoded.frames or ()) if capture.decoded else ()


def _rows(capture: Capture) -> Iterator[dict[str, Any]]:
    """A row a frame with its fields, or a row a value."""
    frames = _frames(capture)
    if capture.decoded is not None and capture.decoded.frames is None:
        for name, block in capture.columns.items():
            yield from _values(name, block)
        return
    values = {name: _by_frame(capture.decoded, name, block) for name, block in capture.columns.items()}
    for place, frame in enumerate(frames):
        row: dict[str, Any] = {
            "t": frame.t,
            "kind": frame.says or "frame",
            "bytes": frame.data.hex(" "),
            "mark": mark_word(frame.mark),
            "why": frame.why or None,
        }
        yield row | {name: found.get(place) for name, found in values.items()}


def _by_frame(decoded: Decoded | None, name: str, block: Block) -> dict[int, float | None]:
    """A column's values by the place of the frame that each came with: every frame gives one, or some do."""
    places = decoded.from_frame.get(name) if decoded is not None else None
    return dict(zip(places or range(len(block)), map(_number, block.x.tolist()), strict=True))


def _values(name: str, block: Block) -> Iterator[dict[str, Any]]:
    for t, x, mark in zip(block.t.tolist(), block.x.tolist(), block.mark.tolist(), strict=True):
        yield {"t": t, "kind": name, "value": _number(x), "mark": mark_word(mark)}


def _bits(decoded: Decoded) -> Iterator[dict[str, Any]]:
    if decoded.bits is None:
        return
    bits = decoded.bits
    columns = (bits.t.tolist(), bits.end.tolist(), bits.value.tolist(), bits.margin.tolist())
    for t, end, value, margin in zip(*columns, strict=True):
        yield {"t": t, "end": end, "kind": "bit", "value": value, "margin": _number(margin)}


def _number(value: float) -> float | None:
    return float(value) if math.isfinite(value) else None


def _print(rows: Iterable[dict[str, Any]], *, as_json: bool) -> None:
    """Control characters of a file are shown, never sent on."""
    table = None
    escapes = needs_escapes()
    for row in rows:
        if as_json:
            print(json.dumps(row, ensure_ascii=escapes, allow_nan=False))
            continue
        if table is None:
            table = csv.writer(sys.stdout, lineterminator="\n")
            table.writerow(visible(name) for name in row)
        table.writerow("" if value is None else visible(str(value)) for value in row.values())
