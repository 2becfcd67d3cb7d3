"""A stand-in for a panel: it obeys the bytes that come, and shows what a real one would show."""

from __future__ import annotations

import numpy as np

from lesart.core.glass.bus.controller import EXPANDER
from lesart.core.glass.bus.interpreter import Interpreted, interpret
from lesart.core.glass.panels.frame import Frame
from lesart.core.raw.bus_bytes import Words
from lesart.study.wires.panel_stream import DATA, PanelStream
from lesart.study.wires.traced_frames import frame_shown
from lesart.study.wires.tracing import memory_shape

MOST_KEPT = 1 << 20
"""Bytes since it was begun with: far more than hours of changes."""


class StandInPanel:
    """Frames in with ``take``; ``shown`` is what its glass shows. ``stream`` says which panel it is, and where."""

    def __init__(self, stream: PanelStream) -> None:
        self.stream = stream
        self.taken = self.passed_by = 0
        self._parts: list[tuple[bytes, bool]] = []
        self._size = 0

    def take(self, frame: bytes) -> bool:
        """A transmission behind its head; False where it is for another address, or more than can be kept."""
        head, data = frame[0], frame[1:]
        is_mine = head == self.stream.address << 1 if self.stream.address is not None else head <= DATA
        if not is_mine or self._size + len(data) > MOST_KEPT:
            self.passed_by += 1
            return False
        self._parts.append((data, head == DATA or self.stream.address is not None))
        self._size += len(data)
        self.taken += 1
        return True

    def shown(self) -> Frame:
        """What all of it lit."""
        obeyed = self.obeyed()
        return frame_shown(self.stream.panel, obeyed, len(obeyed), float(len(self._parts)))

    def obeyed(self) -> Interpreted:
        """What its controller made of it. The moments are the numbers of the transmissions."""
        data = b"".join(part for part, _ in self._parts)
        sizes = [len(part) for part, _ in self._parts]
        numbers = np.repeat(np.arange(len(sizes)), sizes)
        by_line = np.repeat([is_data for _, is_data in self._parts] or [False], sizes or [0]).astype(bool)
        moments = numbers.astype(np.float64)
        starts = np.arange(len(sizes), dtype=np.float64)
        words = Words(moments, np.frombuffer(data, np.uint8), by_line, numbers, starts, starts)
        columns, pages, fill = memory_shape(self.stream.panel)
        controller = self.stream.controller
        if controller.told_by == EXPANDER:
            by_line[:] = True
        return interpret(controller, words, columns, pages, fill=fill)
