"""This computer itself as a source: load, memory, disk, and temperature if available."""

from __future__ import annotations

from typing import Any

import psutil

from lesart.core.raw.lines.received import Received
from lesart.live.ear import Clock
from lesart.live.schedule import Due

COLUMNS = ("load", "memory", "disk")
UNITS = {"load": "%", "memory": "%", "disk": "%", "temperature": "°C"}
"""Units of the columns; ``temperature`` is only one of them where the computer has a readable sensor."""


class HostEar:
    """A reading every ``period_s``."""

    def __init__(self, period_s: float, clock: Clock) -> None:
        self._period_s, self._due = period_s, Due(period_s, clock)
        self._columns: tuple[str, ...] = COLUMNS

    def open(self) -> None:
        """Open; the load is that since the last reading, so the first one comes after a period."""
        psutil.cpu_percent(interval=None)
        self._columns = COLUMNS if _temperature_c() is None else (*COLUMNS, "temperature")
        self._due.begin(after_s=self._period_s)

    def hear(self) -> Received:
        """One row when due."""
        now = self._due.wait()
        if now is None:
            return Received(self._columns)
        values = [psutil.cpu_percent(interval=None), psutil.virtual_memory().percent, psutil.disk_usage("/").percent]
        if len(self._columns) > len(COLUMNS):
            temperature = _temperature_c()
            values.append(float("nan") if temperature is None else temperature)
        return Received(self._columns, (round(now, 6),), (tuple(map(float, values)),), (1,))

    def close(self) -> None:
        """Nothing to close."""


def _temperature_c() -> float | None:
    """The first temperature sensor; many computers, and containers, have none."""
    sensors: dict[str, list[Any]] = getattr(psutil, "sensors_temperatures", dict)()
    return next((float(entry.current) for entries in sensors.values() for entry in entries), None)
