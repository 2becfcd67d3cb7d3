"""Polling registers of a Modbus device over a serial port or a network.

The protocol is a well-kept library's. Ours is the meaning of a missing or wrong answer.
"""

from __future__ import annotations

import contextlib
import logging
import math
import time
from collections.abc import Callable, Sequence
from pathlib import Path
from typing import Any

from pymodbus.client import ModbusSerialClient, ModbusTcpClient
from pymodbus.exceptions import ConnectionException, ModbusException

from lesart.core.block import Mark
from lesart.core.errors import LineError
from lesart.core.raw.lines.line import Line
from lesart.core.raw.lines.received import Event, Happened, Received, visible_bytes
from lesart.core.raw.messages.modbus import CHECK
from lesart.core.raw.messages.registers import RegisterSpec, Request, exception_says, requests_for, values_in
from lesart.live.ear import Clock, port_path
from lesart.live.port_trouble import PORT_ERRORS
from lesart.live.schedule import Due
from lesart.live.text_ear import PARITY, open_port

LATE_S = 2.0
"""How late a reply may come after a time-out; a slower device needs a longer time-out."""
FRAME_S = 0.02
_METHODS = {
    "holding": "read_holding_registers",
    "input": "read_input_registers",
    "coil": "read_coils",
    "discrete": "read_discrete_inputs",
}
# The library also logs what it reports to us, which would clutter a full screen.
logging.getLogger("pymodbus").addHandler(logging.NullHandler())
logging.getLogger("pymodbus").propagate = False


class NoAnswer(Exception):
    """What came instead of an answer: reported as an event, and as the mark of the missing values."""

    def __init__(self, what: Happened, says: str, mark: Mark = Mark.MISSING) -> None:
        super().__init__(says)
        self.what, self.says, self.mark = what, says, mark


class Asker:
    """A connection, for one request at a time."""

    def __init__(self, line: Line, folder: Path) -> None:
        self._line, self._folder = line, folder
        self._client: Any = None
        self._came = b""

    @property
    def is_serial(self) -> bool:
        """True where it uses a serial port."""
        return self._line.kind.name == "Modbus RTU"

    def open(self) -> None:
        """Raises LineError."""
        line = self._line
        if self.is_serial:
            # Opened once by ourselves: the library only says that it failed, not why.
            open_port(line, self._folder, line["timeout"]).close()
            self._client = ModbusSerialClient(
                port_path(line["port"], self._folder),
                baudrate=line["baud"],
                parity=PARITY[line["parity"]],
                stopbits=line["stop_bits"],
                timeout=line["timeout"],
                retries=0,
                trace_packet=self._trace,
            )
        else:
            self._client = ModbusTcpClient(
                line["host"], port=line["tcp_port"], timeout=line["timeout"], retries=0, trace_packet=self._trace
            )
        if not self._client.connect():
            where = line.says
            self.close()
            raise LineError(f"nothing takes a connection at {where}")

    def close(self) -> None:
        """Let the connection go."""
        if self._client is not None:
            with contextlib.suppress(OSError):
                self._client.close()
            self._client = None

    def _trace(self, sending: bool, data: bytes) -> bytes:
        """Trace received bytes, to tell silence from a wrong reply."""
        self._came = b"" if sending else data
        return data

    def ask(self, unit: int, request: Request) -> Sequence[int]:
        """The words or bits of a request. Raises NoAnswer, or LineError when the connection is gone."""
        method = getattr(self._client, _METHODS[request.table])
        self._came = b""
        try:
            reply = method(request.address, count=request.count, device_id=unit)
        except ConnectionException as error:
            raise LineError("the connection is gone") from error
        except ModbusException as error:
            raise self._why_none(unit, request) from error
        except (*PORT_ERRORS, TypeError) as error:
            raise LineError("the port went away") from error
        if reply.isError():
            code = int(getattr(reply, "exception_code", 0))
            raise NoAnswer("exception", f"unit {unit}, {request.says}: {exception_says(code)}")
        words = reply.registers if request.table in ("holding", "input") else reply.bits
        if len(words) < request.count:
            says = f"unit {unit}, {request.says}: {len(words)} came where {request.count} were asked for"
            raise NoAnswer("garbage", says)
        return [int(word) for word in words[: request.count]]

    def wait_for_late(self, is_over: Callable[[], bool]) -> None:
        """A late reply on a serial line must not be taken for one to the next request, which it may well look like.

        It is waited for and thrown away. Over TCP replies carry the number of their request. Raises LineError.
        """
        until = time.monotonic() + LATE_S
        try:
            while self.is_serial and time.monotonic() < until and not is_over():
                if self._client.socket.in_waiting:
                    time.sleep(FRAME_S)
                    self._client.socket.reset_input_buffer()
                    return
                time.sleep(FRAME_S)
        except (*PORT_ERRORS, TypeError, AttributeError) as error:
            raise LineError("the port went away") from error

    def _why_none(self, unit: int, request: Request) -> NoAnswer:
        """Why there is no answer: nothing came, or something else."""
        who = f"unit {unit}, {request.says}"
        if not self._came:
            return NoAnswer("no reply", f"{who}: nothing came within {self._line['timeout']:g} s")
        wrong = CHECK.wrong(self._came) if self.is_serial else ""
        if wrong:
            return NoAnswer("checksum", f'{who}: "{visible_bytes(self._came)}", {wrong}', Mark.CHECKSUM)
        other = self._came[0] if self.is_serial else None
        if other is not None and other != unit:
            return NoAnswer("garbage", f"{who}: unit {other} answered")
        return NoAnswer("garbage", f'{who}: "{visible_bytes(self._came)}" is not an answer to that')


class ModbusEar:
    """Polls the registers of one unit."""

    def __init__(self, line: Line, folder: Path, clock: Clock, is_over: Callable[[], bool]) -> None:
        self._line, self._clock, self._is_over = line, clock, is_over
        self._asker = Asker(line, folder)
        self._registers = [each for each in line.registers if isinstance(each, RegisterSpec)]
        self._requests = requests_for(self._registers)
        self._columns = tuple(register.name for register in self._registers)
        self._due = Due(line["period"], clock)

    def open(self) -> None:
        """Raises LineError."""
        if not self._requests:
            raise LineError("no register is listed; add one under registers")
        self._asker.open()
        self._due.begin()

    def hear(self) -> Received:
        """One row when due: the values of all requests, without those unanswered."""
        if self._due.wait() is None:
            return Received(self._columns)
        replies: dict[Request, Sequence[int]] = {}
        events: list[Event] = []
        mark = Mark.MISSING
        for request in self._requests:
            try:
                replies[request] = self._asker.ask(self._line["unit"], request)
            except NoAnswer as error:
                events.append(Event(self._clock(), error.what, error.says))
                mark = error.mark
                if error.what == "no reply":
                    # A device that does not answer one request will not answer the others either.
                    self._asker.wait_for_late(self._is_over)
                    break
        now = self._clock()
        values = values_in(self._registers, replies)
        if any(map(math.isnan, values)) and not events:
            events.append(
                Event(now, "garbage", f"unit {self._line['unit']}: a float among the registers is not a number")
            )
        return Received(self._columns, (round(now, 6),), (values,), (int(mark),), tuple(events))

    def close(self) -> None:
        """Let the connection go."""
        self._asker.close()
