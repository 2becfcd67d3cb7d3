"""A stand-in for a panel: it obeys the bytes it gets, and shows what a real one would show."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import replace

import numpy as np

from lesart.core.glass.bus.controller import EXPANDER
from lesart.core.glass.bus.interpreter import Interpreted, interpret
from lesart.core.glass.bus.transmissions import Transmission, both_memories, command_said, in_window
from lesart.core.glass.panels.colour_panel import ColourPanel
from lesart.core.glass.panels.frame import Frame
from lesart.core.glass.panels.ink_panel import InkPanel
from lesart.core.raw.bus_bytes import Words
from lesart.study.wires.panel_cells import memory_shape
from lesart.study.wires.panel_stream import DATA, PanelStream
from lesart.study.wires.traced_frames import frame_shown

MOST_KEPT = 1 << 21
"""Most bytes since the beginning, or since a colour panel's content was summed up: far more than hours of changes of
other panels."""
ANEW = "columns from to"


class StandInPanel:
    """Frames go in with ``take``; ``shown`` is the picture on its glass.

    ``stream`` says which panel it is, and where.
    """

    def __init__(self, stream: PanelStream) -> None:
        self.stream = stream
        self.taken = self.passed_by = 0
        self._parts: list[tuple[bytes, bool]] = []
        self._size = 0

    def take(self, frame: bytes) -> bool:
        """Take a transmission after its head; False where it is for another address, or too long to keep."""
        head, data = frame[0], frame[1:]
        is_mine = head == self.stream.address << 1 if self.stream.address is not None else head <= DATA
        panel = self.stream.panel
        is_all = isinstance(panel, ColourPanel) and panel.sends_all and len(data) >= panel.frame_size
        if is_all:  # nothing is left of what was before
            self._parts, self._size = [], 0
        if isinstance(panel, ColourPanel) and is_mine and self._begins_anew(panel, data, is_data=head == DATA):
            self._summed_up(panel)
        if not is_mine or self._size + len(data) > MOST_KEPT:
            self.passed_by += 1
            return False
        self._parts.append((data, head == DATA or self.stream.address is not None))
        self._size += len(data)
        self.taken += 1
        return True

    def _begins_anew(self, panel: ColourPanel, data: bytes, *, is_data: bool) -> bool:
        """True where a window begins, so that everything before can be summed up."""
        command = None if is_data or not data else self.stream.controller.find(data[0])
        return self._size + panel.frame_size > MOST_KEPT // 2 and command is not None and command.does == ANEW

    def _summed_up(self, panel: ColourPanel) -> None:
        """Replace all earlier bytes by the present content: colour pictures are many bytes."""
        obeyed, controller, end_s = self.obeyed(), self.stream.controller, float(len(self._parts))
        held = obeyed.memory(len(obeyed))[: obeyed.columns * obeyed.pages]
        if isinstance(panel, InkPanel):
            self._begin_with(both_memories(controller, panel.row_bytes, panel.height, bytes(held.tolist())))
            return
        does = {("light", 1): "light", ("light", 0): "dark", ("inverted", 1): "inverted", ("inverted", 0): "upright"}
        now = [does.get((what, obeyed.setting(what, end_s, -1))) for what in ("light", "inverted")]
        pixels = b"".join(value.to_bytes(panel.pixel_bytes, "big") for value in held.tolist())
        # All of its memory, outside the glass too.
        whole = replace(panel, offset=0, row_offset=0)
        said = [part for each in now if each for part in command_said(controller, controller.code_of(each))]
        said += [*in_window(whole, controller, (0, 0, obeyed.columns, obeyed.pages)), Transmission(pixels, True)]
        self._begin_with(said)

    def _begin_with(self, said: Iterable[Transmission]) -> None:
        """Forget all bytes but these."""
        self._parts = [(each.data, each.is_data) for each in said]
        self._size = sum(len(data) for data, _ in self._parts)

    def shown(self) -> Frame:
        """The frame that all bytes have lit."""
        obeyed = self.obeyed()
        return frame_shown(self.stream.panel, obeyed, len(obeyed), float(len(self._parts)))

    def obeyed(self) -> Interpreted:
        """The controller's interpretation. Times are the numbers of transmissions."""
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
