"""An ear: what can be opened, listened to for a moment, and closed. One kind of line each."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path
from typing import Protocol

from lesart.core.raw.heard import Heard
from lesart.core.raw.line import Line

Clock = Callable[[], float]
"""Seconds since one began to listen."""


class Ear(Protocol):
    """All of it is called by one thread."""

    def open(self) -> None:
        """Raises LineError with a clause for a person: why it cannot be opened."""

    def hear(self) -> Heard:
        """What came within a moment, at most about a tenth of a second. Raises LineError when the line is gone."""

    def close(self) -> None:
        """Never raises."""


def ear_for(line: Line, folder: Path, clock: Clock, is_over: Callable[[], bool]) -> Ear:
    """The ear of a line. ``folder`` is the project's; a port that is a relative path stands in it.

    ``is_over`` ends what would wait for longer than a moment.
    """
    if line.kind.name == "text line":
        from lesart.live.text_ear import TextEar

        return TextEar(line, folder, clock)
    if line.kind.name == "this computer":
        from lesart.live.host_ear import HostEar

        return HostEar(line["period"], clock)
    from lesart.live.modbus_ear import ModbusEar  # its library takes a third of a second

    return ModbusEar(line, folder, clock, is_over)


def port_path(port: str, folder: Path) -> str:
    """A port as the operating system knows it: a relative path that is there is one in the project's folder."""
    inside = folder / port
    return str(inside) if not Path(port).is_absolute() and inside.exists() else port
