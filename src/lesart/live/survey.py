"""Asking each unit of a Modbus line whether it is there. Any answer counts, even an exception."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import replace
from pathlib import Path

from lesart.core.raw.lines.line import Line
from lesart.core.raw.messages.registers import Request
from lesart.core.raw.messages.survey import Asked
from lesart.live.modbus_ear import Asker, NoAnswer

QUESTION = Request("holding", 0, 1)
TIMEOUT_S = 0.1
"""Time-out for a missing unit; nearly every device answers sooner."""
GATEWAY_SAYS_NOBODY = ("exception 10", "exception 11")


def asked_line(line: Line, folder: Path, units: Sequence[int], timeout_s: float = TIMEOUT_S) -> Iterator[Asked]:
    """One unit after the other, each result as soon as known. Raises LineError where the line cannot be opened."""
    values = tuple((name, timeout_s if name == "timeout" else value) for name, value in line.values)
    asker = Asker(replace(line, values=values), folder)
    asker.open()
    try:
        for unit in units:
            yield _asked(asker, unit)
    finally:
        asker.close()


def _asked(asker: Asker, unit: int) -> Asked:
    try:
        asker.ask(unit, QUESTION)
    except NoAnswer as error:
        if error.what == "exception" and not any(says in error.says for says in GATEWAY_SAYS_NOBODY):
            return Asked(unit, answered=1, says=error.says.partition(": ")[2])
        return Asked(unit, garbled=int(error.what in ("checksum", "garbage")), says=error.says.partition(": ")[2])
    return Asked(unit, answered=1)
