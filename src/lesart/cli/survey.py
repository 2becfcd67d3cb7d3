"""``lesart survey``: who answers on a bus, and what that means."""

from __future__ import annotations

import argparse
import sys
from collections.abc import Iterator, Sequence
from dataclasses import replace
from pathlib import Path
from typing import Any

from lesart.cli.printed.answer import over, print_json
from lesart.cli.project import opened
from lesart.core.errors import CaptureError, RequestError
from lesart.core.quantity import whole_number
from lesart.core.raw.decode import KINDS
from lesart.core.raw.lines.line import Line, byte_of
from lesart.core.raw.messages.survey import Asked, Survey, Verdict, judge, shown
from lesart.core.raw.silence import survey_in
from lesart.core.raw.spelled.unit_typed import quantity_typed
from lesart.core.units import parse_unit
from lesart.core.visible import visible
from lesart.live.byte_line import KERNEL_BUS
from lesart.project.captures.traces.vcd_read import read_vcd
from lesart.project.folder.files import is_socket
from lesart.project.model import Project
from lesart.project.new.trace import lines_for
from lesart.project.tables.sources import check_source

SECOND = parse_unit("s")


def run(options: argparse.Namespace) -> int:
    """Survey and judge; 1 where something is wrong."""
    project = opened(options.project)[1] if options.project else None
    is_trace = Path(options.where).suffix.lower() == ".vcd"
    survey = _of_trace(options, project) if is_trace else _of_wires(options, project) or _of_line(options, project)
    verdicts = judge(survey)
    if options.json:
        print_json(_object(survey, verdicts))
    else:
        for each in survey.answered:
            name = survey.expected.get(each.address, "")
            print(visible(f"{shown(survey.bus, each.address):>5}  {name or 'answers'}" + _beside(each)))
        for verdict in verdicts:
            print(f"{verdict.mark} {verdict.text}" + (f" Remedy: {verdict.remedy}." if verdict.remedy else ""))
    return int(any(verdict.mark == "†" for verdict in verdicts))


def _beside(asked: Asked) -> str:
    times = f", {asked.answered} of {asked.asked} times" if asked.asked > 1 else ""
    return times + (f", {asked.says}" if asked.says else "")


def _object(survey: Survey, verdicts: Sequence[Verdict]) -> dict[str, Any]:
    return {
        "bus": survey.bus,
        "answered": [
            {
                "address": each.address,
                "asked": each.asked,
                "answered": each.answered,
                "name": survey.expected.get(each.address),
            }
            for each in survey.answered
        ],
        "asked": len(survey.asked),
        "verdicts": [{"mark": each.mark, "text": each.text, "remedy": each.remedy or None} for each in verdicts],
    }


def _of_trace(options: argparse.Namespace, project: Project | None) -> Survey:
    """Survey a two-wire bus in a trace: the named signals, else those that behave like one, or are named so."""
    lines = read_vcd(Path(options.where)).lines
    names = list(lines)
    pair, how = options.line, ""
    if len(pair) != 2:
        roles, how = lines_for(KINDS["two-wire bus"], lines)
        pair = list(roles.values())
    if len(pair) == 2 and how:
        print(visible(f"reads clock = {pair[0]}, data = {pair[1]} ({how})"), file=sys.stderr)
    if len(pair) < 2 or any(name not in lines for name in pair):
        known = ", ".join(names) or "none of one bit"
        raise CaptureError(f"{options.where}: a two-wire bus needs --line CLOCK --line DATA; the signals are {known}.")
    expected = _expected(options)
    if project is not None:
        expected |= {part.address: part.name for part in project.hookup.parts.values() if part.address is not None}
    return replace(survey_in(lines[pair[0]], lines[pair[1]]), expected=expected)


def _of_wires(options: argparse.Namespace, project: Project | None) -> Survey | None:
    """Survey the two-wire bus of this computer, or of a source, by reading a byte from every address; None where it is
    not one."""
    source = project.sources.get(options.where) if project is not None else None
    if source is not None and source.line is not None and "bus" in dict(source.line.values):
        where, expected = str(source.line["bus"]), {byte_of(source.line["address"], 0x7F): source.name}
    elif KERNEL_BUS.fullmatch(options.where) or is_socket(Path(options.where)):
        where, expected = options.where, {}
    else:
        return None
    from lesart.live.bus_ear import FIRST, LAST, asked_bus

    folder = options.project if project is not None else Path()
    asked = asked_bus(where, folder)
    return Survey(
        "two-wire bus", tuple(_told(asked, LAST - FIRST + 1, quiet=options.json)), expected | _expected(options)
    )


def _of_line(options: argparse.Namespace, project: Project | None) -> Survey:
    """Survey a Modbus line: that of a source of the project, a port, or HOST:PORT."""
    folder, expected = Path(), _expected(options)
    if project is not None:
        folder = options.project
        source = project.sources.get(options.where)
        if source is None or source.line is None or not source.line.kind.is_modbus:
            with_one = [each.name for each in project.sources.values() if each.line and each.line.kind.is_modbus]
            known = ", ".join(with_one) or "none"
            raise RequestError(f'source "{options.where}" has no Modbus line; those with one are {known}.')
        line = source.line
        expected |= {source.line["unit"]: source.name}
    else:
        line = _line(options)
    timeout_s = quantity_typed(options.timeout, SECOND).to(SECOND)
    if not 0.005 <= timeout_s <= 60:
        raise RequestError(f'--timeout "{options.timeout}"; it must be from 5 ms to 60 s.')
    from lesart.live.survey import asked_line

    units = _units(options.units)
    asked = asked_line(line, folder, units, timeout_s)
    return Survey("Modbus", tuple(_told(asked, len(units), quiet=options.json)), expected)


def _expected(options: argparse.Namespace) -> dict[int, str]:
    expected = {}
    for each in options.expect:
        try:
            expected[int(each, 0)] = "the expected one"
        except ValueError as error:
            raise RequestError(f'--expect "{each}"; it must be an address like 7 or 0x27.') from error
    return expected


def _told(asked: Iterator[Asked], count: int, *, quiet: bool) -> Iterator[Asked]:
    """Show progress on a terminal."""
    for place, each in enumerate(asked, 1):
        if not quiet and sys.stderr.isatty():
            over(f"asked {place} of {count} ")
            if place == count:
                print(file=sys.stderr)
        yield each


def _line(options: argparse.Namespace) -> Line:
    host, colon, port = options.where.rpartition(":")
    if colon and port.isdecimal() and not options.where.startswith("/"):
        table: dict[str, Any] = {"kind": "Modbus TCP", "host": host, "tcp_port": whole_number(port) or port}
    else:
        table = {"kind": "Modbus RTU", "port": options.where, "baud": options.baud, "parity": options.parity}
    source, problems = check_source("survey", {"line": table})
    if source is None or source.line is None:
        raise RequestError(f"{problems[0]}".removeprefix("sources.survey.line."))
    return source.line


def _units(written: str) -> list[int]:
    """Units from ``1-20`` or ``3`` or ``1-5,9``. Raises RequestError."""
    units: list[int] = []
    for part in written.split(","):
        low, _, high = part.strip().partition("-")
        first, last = whole_number(low), whole_number(high or low)
        if first is None or last is None or not 1 <= first <= last <= 247:
            raise RequestError(f'--units "{written[:40]}"; write units from 1 to 247 as 1-20 or 3,5,9.')
        units += range(first, last + 1)
    return units
