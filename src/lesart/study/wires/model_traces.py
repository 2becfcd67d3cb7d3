"""The model as a logic trace: what the lines of a panel would do while its face is drawn, or its digits scanned."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from functools import singledispatch

from lesart.core.dataclass_later import dataclass
from lesart.core.errors import RequestError
from lesart.core.glass.bus.controller import Controller
from lesart.core.glass.bus.transmissions import Transmission, transmissions_for
from lesart.core.glass.faces.face import face_at
from lesart.core.glass.faces.redraw import DRIVER_HZ, SLOT_HZ
from lesart.core.glass.panels.character_panel import CharacterPanel
from lesart.core.glass.panels.lamp_panel import LampPanel
from lesart.core.glass.panels.panel import Panel
from lesart.core.glass.panels.pixel_panel import PixelPanel
from lesart.core.glass.panels.segment_panel import DRIVER, SegmentPanel
from lesart.core.glass.panels.transfer import FOUR_WIRE
from lesart.core.glass.panels.transfer import PARALLEL as SIDE_BY_SIDE
from lesart.core.pace.edge_writer import evenly, four_wire, one_line, parallel, scanned, two_wire
from lesart.core.pace.trace import FOUR, LINES, ONE, PARALLEL, TWO, is_scanned
from lesart.core.raw.edges import Edges
from lesart.project.model import Project
from lesart.study.bench import Bench
from lesart.study.wires.tracing import composed, controller_of, told_by_line

ADDRESS, OF_DIGITS = 0x3C, 0x70
"""Default address of panels on two wires, and of digit drivers there."""
"""The default."""
NO_BUS = ("direct", "scanned")
SHORTEST_US = 0.1
"""Shortest write, for one stated to take no time."""
LEAD_S = 0.01
"""Idle time at the beginning of a trace: a change at its very start could not be told from the initial level."""

Spoil = Callable[[int, tuple[Transmission, ...]], Sequence[Transmission]]
"""A distortion of the bytes of a drawing, by its number."""


def _as_it_is(place: int, told: tuple[Transmission, ...]) -> Sequence[Transmission]:
    return told


def bus_trace(
    project: Project, bench: Bench, name: str, moments_s: Sequence[float], spoil: Spoil = _as_it_is
) -> dict[str, Edges]:
    """Its face drawn at times of the captures; the trace begins ``LEAD_S`` before the first. Raises RequestError."""
    panel = project.panels[name]
    if is_scanned(panel):
        raise RequestError(f"{name} is scanned and has no bus.")
    wires = wires_of(panel)
    controller, address = _controller(project, name)
    controller = controller if wires.how in (TWO, LINES) else told_by_line(controller)
    told: list[tuple[float, Transmission]] = []
    if isinstance(panel, SegmentPanel) and panel.is_shifted:
        return _through_registers(project, bench, panel, moments_s)
    for place, moment in enumerate(moments_s):
        faces = project.faces_on(name)
        if not faces:
            raise RequestError(f"{name} has no face that could be drawn.")
        face, since_s = face_at(faces, moment)
        memory = composed(project, bench, face, panel, moment, since_s)
        try:
            sent = transmissions_for(panel, controller, memory)
        except KeyError as error:
            raise RequestError(f"{controller.name} has no command {error} by which {name} could be drawn.") from error
        told += [(LEAD_S + moment - moments_s[0], each) for each in spoil(place, sent)]
    end_s = LEAD_S + moments_s[-1] - moments_s[0] + _every(moments_s)
    if wires.how == PARALLEL:
        return parallel(told, wires.lines, 1.0 / wires.clock_hz, end_s)
    if wires.how == FOUR:
        return four_wire(told, wires.clock_hz, end_s)
    if wires.how == ONE and panel.bus is not None:
        return one_line(told, wires.clock_hz, panel.bus.rest_s, end_s)
    if wires.how == LINES:
        return two_wire(told, None, wires.clock_hz, end_s, lowest_first=True)
    return two_wire(told, address, wires.clock_hz, end_s)


def _through_registers(
    project: Project, bench: Bench, panel: SegmentPanel, moments_s: Sequence[float]
) -> dict[str, Edges]:
    """Digit after digit, each with its segments, for as long as the drawings last. Raises RequestError."""
    faces = project.faces_on(panel.name)
    if not faces or panel.scan is None:
        raise RequestError(f"{panel.name} has no face that could be shown.")
    slot_s = (panel.scan.on_time_ms + panel.scan.blanking_ms) / 1e3
    lasts_s = moments_s[-1] - moments_s[0] + _every(moments_s)
    told = []
    for place in range(int(lasts_s / slot_s)):
        moment = moments_s[0] + place * slot_s
        face, since_s = face_at(faces, moment)
        masks = panel.lit(composed(project, bench, face, panel, moment, since_s)).masks
        digit = panel.wiring.digits[place % panel.digits]
        told.append((LEAD_S + place * slot_s, Transmission(panel.slot(digit, masks[digit]), True)))
    return four_wire(told, SLOT_HZ, LEAD_S + lasts_s)


@dataclass(frozen=True)
class Wires:
    """``how`` bytes come: by two wires, by four, by one, or by parallel ``lines``; bits or strobes per second."""

    how: str = FOUR
    clock_hz: float = DRIVER_HZ
    lines: int = 8


@singledispatch
def wires_of(panel: Panel) -> Wires:
    """The wires of its bytes. Raises RequestError where it has lines and no bus."""
    return Wires()


@wires_of.register
def _(panel: SegmentPanel) -> Wires:
    if panel.drive in NO_BUS:
        raise RequestError(f"{panel.name} is driven {panel.drive}, by lines and no bus.")
    if panel.bus is not None:
        return Wires(TWO, panel.clock_hz)
    return Wires(LINES) if panel.drive == DRIVER else Wires()


@wires_of.register
def _(panel: CharacterPanel) -> Wires:
    if panel.bus is not None:
        return Wires(TWO, panel.bus.clock_hz)
    # On four lines half the time of a write, as two halves make one.
    lines = 4 if panel.hookup == "4 lines" else 8
    return Wires(PARALLEL, 8 / lines * 1e6 / max(panel.write_us, SHORTEST_US), lines)


@wires_of.register
def _(panel: PixelPanel) -> Wires:
    return Wires({FOUR_WIRE: FOUR, SIDE_BY_SIDE: PARALLEL}.get(panel.bus.kind, TWO), panel.bus.clock_hz)


@wires_of.register
def _(panel: LampPanel) -> Wires:
    return Wires(ONE, panel.bus.clock_hz)


def _every(moments_s: Sequence[float]) -> float:
    """Seconds between drawings; a tenth of a second for a single one."""
    return moments_s[-1] - moments_s[-2] if len(moments_s) > 1 else 0.1


def _controller(project: Project, name: str) -> tuple[Controller, int]:
    """The controller of its trace if it has one, else the default at the default address."""
    trace = project.traces.get(name)
    own = trace.values["controller"] if trace is not None and not trace.is_digits else ""
    controller = controller_of(project, project.panels[name], own)
    address = trace.address if trace is not None and not trace.is_digits else None
    return controller, usual_address(project.panels[name]) if address is None else address


def usual_address(panel: Panel) -> int:
    """The default address on two wires."""
    return OF_DIGITS if isinstance(panel, SegmentPanel) else ADDRESS


def digits_trace(
    project: Project,
    bench: Bench,
    name: str,
    moment_s: float,
    lasts_s: float,
    spoil: Callable[[list[tuple[float, float, int, int]]], list[tuple[float, float, int, int]]] = list,
) -> Mapping[str, Edges]:
    """Lines ``d1`` and on for digits, and one for each segment by its name, ``dp`` for the point.

    Raises RequestError where the panel is not scanned or has no face.
    """
    panel = project.panels[name]
    if not isinstance(panel, SegmentPanel) or panel.scan is None or not is_scanned(panel):
        raise RequestError(f"{name} is not scanned.")
    faces = project.faces_on(name)
    if not faces:
        raise RequestError(f"{name} has no face that could be shown.")
    face, since_s = face_at(faces, moment_s)
    masks = panel.lit(composed(project, bench, face, panel, moment_s, since_s)).masks
    order = panel.wiring.order
    bits = [sum(1 << place for place, each in enumerate(order) if _lights(panel, mask, each)) for mask in masks]
    slots = spoil(evenly(panel.scan.on_time_ms / 1e3, panel.scan.blanking_ms / 1e3, bits, lasts_s))
    late = [(start + LEAD_S, end + LEAD_S, digit, lit) for start, end, digit, lit in slots]
    digits, segments = scanned(late, panel.digits, len(order), lasts_s + 2 * LEAD_S)
    names = {".": "dp", ":": "colon"}
    return {
        **{f"d{place}": line for place, line in enumerate(digits, 1)},
        **{names.get(each, each): line for each, line in zip(order, segments, strict=True)},
    }


def _lights(panel: SegmentPanel, mask: int, name: str) -> bool:
    """True where a mask lights the segment of a line."""
    one = panel.wiring.order.index(name)
    bits = panel.wiring.bits(mask)
    return bool(bits >> one & 1) == bool(panel.wiring.lit_by)
