"""A panel's own bytes over time: set-up, the whole face once, then changes."""

from __future__ import annotations

from dataclasses import replace

from lesart.core.dataclass_later import dataclass
from lesart.core.errors import RequestError
from lesart.core.glass.bus.changes import changes_for, start_for
from lesart.core.glass.bus.controller import Controller
from lesart.core.glass.bus.transmissions import Transmission
from lesart.core.glass.panels.panel import Memory, Panel
from lesart.core.glass.panels.transfer import TWO_WIRE
from lesart.core.pace.trace import is_scanned
from lesart.project.model import Project
from lesart.study.wires.model_traces import usual_address
from lesart.study.wires.tracing import controller_of, told_by_line

COMMANDS, DATA = 0, 1
"""Heads of a transmission without an address."""


@dataclass(frozen=True)
class PanelStream:
    """``address`` is None where the panel is not on two wires; ``shown`` is the content of the glass, None before
    anything."""

    panel: Panel
    controller: Controller
    address: int | None
    shown: Memory | None = None

    def start(self) -> tuple[Transmission, ...]:
        """The bytes that set it up."""
        return start_for(self.panel, self.controller)

    def after(self, memory: Memory) -> tuple[PanelStream, tuple[Transmission, ...]]:
        """The bytes that bring the glass to a memory.

        Raises RequestError where its controller has no commands for it.
        """
        if memory == self.shown:
            return self, ()
        try:
            sent = changes_for(self.panel, self.controller, self.shown, memory)
        except KeyError as error:
            raise RequestError(
                f"{self.controller.name} has no command {error} by which {self.panel.name} could be drawn."
            ) from error
        return replace(self, shown=memory), sent

    def head(self, transmission: Transmission) -> int:
        """The byte before a transmission."""
        if self.address is not None:
            return self.address << 1
        return DATA if transmission.is_data else COMMANDS


def stream_of(project: Project, name: str, address: int | None = None) -> PanelStream:
    """The stream of a panel with a bus. Raises RequestError."""
    panel = project.panels[name]
    if is_scanned(panel):
        raise RequestError(f"{name} is scanned: its lines are set in turn, and no bytes are sent to it.")
    trace = project.traces.get(name)
    own = trace.values["controller"] if trace is not None and not trace.is_digits else ""
    controller = controller_of(project, panel, own)
    if panel.bus is None or panel.bus.kind != TWO_WIRE:
        return PanelStream(panel, told_by_line(controller), None)
    known = trace.address if trace is not None and not trace.is_digits else None
    return PanelStream(
        panel, controller, next(each for each in (address, known, usual_address(panel)) if each is not None)
    )
