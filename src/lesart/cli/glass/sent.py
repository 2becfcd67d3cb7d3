"""``lesart glass --to``: a panel's own bytes, sent over time."""

from __future__ import annotations

import argparse
import time
from collections.abc import Sequence
from contextlib import closing
from dataclasses import dataclass

from lesart.cli.ended import ended_by_signals
from lesart.cli.printed.answer import print_json
from lesart.cli.record import lasting
from lesart.core.errors import RequestError
from lesart.core.glass.bus.transmissions import Transmission
from lesart.core.quantity import counted
from lesart.desk.deeds.lines import toggle_all
from lesart.desk.desk import Desk
from lesart.desk.picture import memory_at
from lesart.live.byte_line import FileLine, open_line
from lesart.study.wires.panel_stream import PanelStream, stream_of


@dataclass
class _Sent:
    """Statistics of what was sent."""

    drawings: int = 0
    transmissions: int = 0
    data: int = 0
    most: int = 0
    late_s: float = 0.0

    def took(self, transmissions: Sequence[Transmission]) -> None:
        """Count one more drawing."""
        size = sum(len(each.data) for each in transmissions)
        self.drawings += 1
        self.transmissions += len(transmissions)
        self.data += size
        self.most = max(self.most, size if self.drawings > 1 else 0)


def send(options: argparse.Namespace, desk: Desk, name: str) -> int:
    """Set the panel up, draw its face, then send changes at the firmware's drawing rate, until the capture or the time
    is over, or ctrl+c."""
    faces = desk.state.project.faces_on(name)
    if not faces:
        raise RequestError(f"{name} has no face that could be drawn.")
    stream = stream_of(desk.state.project, name, _address(options.address))
    lasts_s = lasting(options.lasts)
    every_s = 1.0 / max(face.redraw_hz for face in faces)
    line = open_line(options.to, options.baud, stream.address, replaces=options.force)
    sent = _Sent()
    with ended_by_signals() as ended, closing(line), closing(desk):
        _listen(options, desk)
        from_s, end_s = options.at or desk.view()[0], desk.view()[1]
        memory_at(desk, name)  # captures are read before the clock runs
        for each in stream.start():
            line.send(stream.head(each), each.data)
        began = time.monotonic()
        is_file = isinstance(line, FileLine)
        while not ended.wait(0.0):
            gone_s = sent.drawings * every_s
            moment = from_s + gone_s
            if gone_s >= lasts_s or (not options.live and moment > end_s):
                break
            if not is_file:
                ended.wait(max(gone_s - (time.monotonic() - began), 0.0))
                sent.late_s = max(sent.late_s, time.monotonic() - began - gone_s)
            if options.live:
                desk.hear()
            else:
                desk.put_cursor(moment)
            stream, transmissions = stream.after(memory_at(desk, name))
            for each in transmissions:
                line.send(stream.head(each), each.data)
            sent.took(transmissions)
    _say_sent(options, stream, sent)
    return 0


def _listen(options: argparse.Namespace, desk: Desk) -> None:
    """Listen to all lines."""
    if options.live:
        toggle_all(desk)
        if not any(source.line is not None for source in desk.state.project.sources.values()):
            raise RequestError(desk.state.message)


def _say_sent(options: argparse.Namespace, stream: PanelStream, sent: _Sent) -> None:
    found = {
        "panel": stream.panel.name,
        "to": options.to,
        "address": stream.address,
        "drawings": sent.drawings,
        "transmissions": sent.transmissions,
        "bytes": sent.data,
        "most_for_a_change": sent.most,
        "late_s": round(sent.late_s, 4),
    }
    if options.json:
        print_json(found)
        return
    at = f" at 0x{stream.address:02X}" if stream.address is not None else ""
    print(
        f"{counted(sent.drawings, 'drawing')} of {stream.panel.name}{at} sent to {options.to}: "
        f"{counted(sent.data, 'byte')} in {counted(sent.transmissions, 'transmission')}, "
        f"a change at most {counted(sent.most, 'byte')}; late by {1e3 * sent.late_s:.0f} ms at most"
    )


def _address(written: str | None) -> int | None:
    if written is None:
        return None
    try:
        found = int(written, 0)
    except ValueError:
        found = -1
    if not 0x08 <= found <= 0x77:
        raise RequestError(f"--address {written}: it is from 0x08 to 0x77, like 0x3C.")
    return found
