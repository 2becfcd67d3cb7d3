"""A Modbus device of the rig: a bank of registers that answers requests, on a serial line or in a TCP frame.

Written independently of the client, so that the two can check each other. Source: Modbus application protocol,
functions 1 to 4, 6 and 16; Modbus over serial line for the RTU frame; Modbus messaging on TCP for the header of seven
bytes.
"""

from __future__ import annotations

import struct
from collections.abc import Callable, Mapping
from dataclasses import dataclass, field

from lesart.core.raw.messages.checksums import MODBUS
from lesart.live.rig.signals import weather

NO_FUNCTION, NO_ADDRESS, NO_VALUE = 1, 2, 3
Registers = Mapping[int, int]


@dataclass
class Bank:
    """``holding`` can be written; the rest is computed on request, by the time in seconds."""

    unit: int
    input_at: Callable[[float], Registers]
    coils_at: Callable[[float], Registers]
    holding: dict[int, int] = field(default_factory=dict)

    def answer(self, request: bytes, t: float) -> bytes:
        """The answer to a request without its frame: function and data in, function and data out."""
        function, body = request[0], request[1:]
        try:
            if function in (1, 2, 3, 4):
                address, count = struct.unpack(">HH", body)
                return self._read(function, address, count, t)
            if function == 6:
                return self._write_one(body)
            if function == 16:
                return self._write_many(body)
        except struct.error:
            return _failed(function, NO_VALUE)
        return _failed(function, NO_FUNCTION)

    def _read(self, function: int, address: int, count: int, t: float) -> bytes:
        most = 2000 if function in (1, 2) else 125
        if not 1 <= count <= most:
            return _failed(function, NO_VALUE)
        table = {1: self.coils_at(t), 2: self.coils_at(t), 3: self.holding, 4: self.input_at(t)}[function]
        wanted = range(address, address + count)
        if any(place not in table for place in wanted):
            return _failed(function, NO_ADDRESS)
        if function in (3, 4):
            data = b"".join(table[place].to_bytes(2, "big") for place in wanted)
        else:
            bits = sum(bool(table[place]) << (place - address) for place in wanted)
            data = bits.to_bytes((count + 7) // 8, "little")
        return bytes((function, len(data))) + data

    def _write_one(self, body: bytes) -> bytes:
        address, value = struct.unpack(">HH", body)
        if address not in self.holding:
            return _failed(6, NO_ADDRESS)
        self.holding[address] = value
        return b"\x06" + body

    def _write_many(self, body: bytes) -> bytes:
        address, count, length = struct.unpack(">HHB", body[:5])
        if not 1 <= count <= 123 or length != 2 * count or len(body) != 5 + length:
            return _failed(16, NO_VALUE)
        if any(place not in self.holding for place in range(address, address + count)):
            return _failed(16, NO_ADDRESS)
        for place, value in enumerate(struct.unpack(f">{count}H", body[5:]), address):
            self.holding[place] = value
        return b"\x10" + body[:4]


def _failed(function: int, code: int) -> bytes:
    return bytes((function | 0x80, code))


def rtu_answer(bank: Bank, frame: bytes, t: float) -> bytes | None:
    """The reply frame; None, for silence, where the request is for another unit or incomplete."""
    if len(frame) < 4 or frame[0] != bank.unit or MODBUS.of(frame[:-2]).to_bytes(2, "little") != frame[-2:]:
        return None
    data = frame[:1] + bank.answer(frame[1:-2], t)
    return data + MODBUS.of(data).to_bytes(2, "little")


def rtu_length(head: bytes) -> int | None:
    """The length of a request by its beginning; None while unknown. Unusual functions are taken as 8 bytes."""
    if len(head) < 2:
        return None
    if head[1] == 16:
        return 9 + head[6] if len(head) > 6 else None
    return 8


def tcp_answer(bank: Bank, frame: bytes, t: float) -> bytes | None:
    """The reply to a whole TCP frame. There is no gateway to other units here: no reply."""
    transaction, protocol, _, unit = struct.unpack(">HHHB", frame[:7])
    if protocol != 0 or unit != bank.unit:
        return None
    data = bank.answer(frame[7:], t)
    return struct.pack(">HHHB", transaction, 0, len(data) + 1, unit) + data


def mast(unit: int = 7) -> Bank:
    """The weather mast: pressure, wind and air in input registers, its place and a period in holding registers."""

    def inputs(t: float) -> Registers:
        now = weather(t)
        high, low = divmod(round(now.pressure_pa), 65_536)
        wind = struct.unpack(">HH", struct.pack(">f", now.wind_m_s))
        return {
            0: high,
            1: low,
            2: round(now.wind_from_deg * 10) % 3600,
            3: round(now.air_c * 10) & 0xFFFF,
            10: wind[0],
            11: wind[1],
        }

    def coils(t: float) -> Registers:
        return {0: int(weather(t).air_c < 3.0), 1: 1}

    return Bank(unit, inputs, coils, {0: unit, 1: 1000, 2: 412})
