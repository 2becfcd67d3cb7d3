"""The ear for a line, by its kind."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from lesart.core.raw.lines.line import Line
from lesart.live.ear import Clock, Ear


def ear_for(line: Line, folder: Path, clock: Clock, is_over: Callable[[], bool]) -> Ear:
    """The ear of a line. ``folder`` is the project's; a port that is a relative path stands in it.

    ``is_over`` ends what would wait for longer than a moment.
    """
    if line.kind.name == "text line":
        from lesart.live.text_ear import TextEar

        return TextEar(line, folder, clock)
    if line.kind.name == "serial frames":
        from lesart.live.frames_ear import FramesEar

        return FramesEar(line, folder, clock)
    if line.kind.name == "UDP text":
        from lesart.live.network_ear import UdpEar

        return UdpEar(line, clock)
    if line.kind.name == "MQTT":
        from lesart.live.network_ear import MqttEar

        return MqttEar(line, clock)
    if line.kind.name == "two-wire bus":
        from lesart.live.bus_ear import BusEar

        return BusEar(line, folder, clock)
    if line.kind.name == "this computer":
        from lesart.live.host_ear import HostEar

        return HostEar(line["period"], clock)
    from lesart.live.modbus_ear import ModbusEar  # its library takes a third of a second

    return ModbusEar(line, folder, clock, is_over)
