"""The loop that firmware for this project would run: every task with its period, duration and way to run."""

from __future__ import annotations

from collections.abc import Mapping

import numpy as np

from lesart.core.errors import LesartError
from lesart.core.glass.faces.redraw import SLOT_HZ, drawing_of
from lesart.core.glass.panels.lamp_panel import LampPanel
from lesart.core.glass.panels.panel import Panel
from lesart.core.glass.panels.segment_panel import SegmentPanel
from lesart.core.pace.pulses import Times
from lesart.core.pace.task import CONVERT, COUNT, DRAW, INTERRUPT, LOOP, NS, READ, SCAN, WORK, Loop, Task
from lesart.core.quantity import plain_number
from lesart.core.ranked import median
from lesart.core.raw.edges import HIGH, Edges
from lesart.project.model import Channel, Project
from lesart.project.tables.loop import overrule, task_of_its_own
from lesart.study.bench import Bench
from lesart.study.intervals import lateness, raw_interval_s
from lesart.study.tokens import token_of
from lesart.study.written_pack import written_operations

MS, US = NS // 1000, NS // 1_000_000
READ_NS = {"bits by length": 5 * MS, "pulse width": 10 * MS, "serial bytes": 2 * MS, "two-wire bus": MS}
"""Default time of a read, by kind of line: most of it is waiting for the line."""
ADC_NS, LINE_NS = 110 * US, 20 * MS
"""Default time of a converter, and of a request on a serial line or a network."""
SCAN_NS, EDGE_NS = 20 * US, 5 * US
"""Default time of the scan interrupt, and of one that counts an edge."""
LAW_OPERATIONS, CORRECTION_OPERATIONS = 10.0, 4.0
"""Estimated operations on 4-byte floats of a law with a logarithm, and of a polynomial.

A person can overrule the time.
"""
COUNTED = ("gate count", "pulse interval")


def loop_of(project: Project, bench: Bench, packed: Mapping[str, int] | None = None) -> Loop:
    """Reads, conversions, counts, drawings and scans that the project asks for, as a person has overruled them.

    ``packed`` are operations on whole numbers by channel; those of the pack that is written where it is not stated.
    """
    tasks = [*_reads(project, bench), *_converts(project, bench, packed), *_panels(project)]
    usual = project.loop.usual
    usual.clear()
    said, found = project.loop.overruled, []
    for task in tasks:
        usual[task.name] = _written(task)
        changed = overrule(task, said.get(task.name, {}))
        if changed is not None:
            found.append(changed)
    for name in [each for each in said if each not in usual]:
        own = task_of_its_own(name, said[name])
        usual[name] = _written(own) if own is not None else {}
        if own is not None:
            found.append(own)
    return Loop(tuple(found), project.loop.processor, project.loop.seed)


def _written(task: Task) -> dict[str, str | int | bool]:
    """A task as the project file would have it."""
    return {
        "does": task.does,
        "runs": task.runs,
        "period": _time(task.period_ns),
        "shortest": _time(task.shortest_ns),
        "longest": _time(task.longest_ns),
        "priority": task.priority,
        "bus": task.bus,
        "data": task.data,
        "clock": "100 kHz",
        "closed": task.closed,
        "off": False,
    }


def _time(ns: int) -> str:
    """A time in the unit that needs fewest digits."""
    for size, unit in ((NS, "s"), (MS, "ms")):
        if ns >= size:
            return f"{plain_number(ns / size, 4)} {unit}"
    return f"{plain_number(ns / US, 4)} µs"


def shown_channels(project: Project) -> list[Channel]:
    """Channels on a face, and those that they read."""
    names = [name for face in project.faces.values() for name in face.channels]
    found: dict[str, Channel] = {}
    for name in names:
        for each in (name, *project.channels[name].chain.reads):
            found[each] = project.channels[each]
    return list(found.values())


def interval_ns(project: Project, bench: Bench, channel: Channel) -> int:
    """Nanoseconds between readings in the capture; one second where it cannot be read."""
    return round(raw_interval_s(project, bench, channel) * NS) or NS


def _reads(project: Project, bench: Bench) -> list[Task]:
    """A read task for each source; pulses are counted instead."""
    found: dict[str, Task] = {}
    for channel in shown_channels(project):
        source = project.sources[channel.source]
        kind = source.decoding.kind.name if source.decoding is not None else ""
        period = interval_ns(project, bench, channel)
        if kind in COUNTED:
            name = f"count {source.name}"
            pulses = pulses_of(project, bench, channel)
            between = pulses and int(median(np.diff(pulses[0]))) if pulses and len(pulses[0]) > 1 else 0
            found[name] = Task(
                name=name,
                does=COUNT,
                period_ns=between or 100 * MS,
                shortest_ns=EDGE_NS,
                longest_ns=EDGE_NS,
                runs=INTERRUPT,
                priority=9,
                of=channel.name,
            )
            continue
        takes = LINE_NS if source.line is not None and not kind else READ_NS.get(kind, ADC_NS)
        name = f"read {source.name}"
        bus = kind if kind == "two-wire bus" else ""
        found[name] = Task(
            name=name,
            does=READ,
            period_ns=period,
            shortest_ns=takes,
            longest_ns=takes,
            runs=LOOP,
            priority=7,
            bus=bus,
            of=source.name,
            wanted_s=source.least_interval_s,
        )
    return list(found.values())


def _converts(project: Project, bench: Bench, packed: Mapping[str, int] | None) -> list[Task]:
    found = []
    for channel in shown_channels(project):
        known = written_operations(project, bench, channel) if packed is None else packed.get(channel.name)
        takes = conversion_ns(project, channel, bench, known)
        found.append(
            Task(
                name=f"convert {channel.name}",
                does=CONVERT,
                period_ns=interval_ns(project, bench, channel),
                shortest_ns=takes,
                longest_ns=takes,
                runs=LOOP,
                priority=6,
                of=channel.name,
            )
        )
    return found


def conversion_ns(project: Project, channel: Channel, bench: Bench, packed: int | None) -> int:
    """Conversion time of a raw sample: by its operations in a pack, or an estimate."""
    if packed is not None:
        return project.loop.processor.whole_takes_ns(packed)
    return project.loop.processor.takes_ns(operations_of(project, channel, bench))


def operations_of(project: Project, channel: Channel, bench: Bench) -> float:
    """Mean operations per raw sample: of its laws, and where they give a value, of its correction and filters."""
    late = lateness(project, bench, channel)
    behind_laws = CORRECTION_OPERATIONS + late.cost.operations
    return LAW_OPERATIONS * len(channel.laws) + late.readings_a_sample * behind_laws


def _panels(project: Project) -> list[Task]:
    """Panel tasks: scanned digits by interrupt; every other panel at the drawing rate of its first face."""
    found = []
    for panel in project.panels.values():
        if panel.scan is not None and panel.columns > 1:
            period = round((panel.scan.on_time_ms + panel.scan.blanking_ms) * MS)
            takes = SCAN_NS + _shifted_ns(panel)
            found.append(
                Task(
                    name=f"scan {panel.name}",
                    does=SCAN,
                    period_ns=period,
                    shortest_ns=takes,
                    longest_ns=takes,
                    runs=INTERRUPT,
                    priority=8,
                    of=panel.name,
                )
            )
            continue
        faces = project.faces_on(panel.name)
        if faces:
            found += _draw(panel, project, faces[0].redraw_hz)
    return found


def _shifted_ns(panel: Panel) -> int:
    """Time to shift one digit into registers."""
    if not isinstance(panel, SegmentPanel) or not panel.is_shifted:
        return 0
    return round(8 * len(panel.slot(0, 0)) / SLOT_HZ * NS)


def _draw(panel: Panel, project: Project, redraw_hz: float) -> list[Task]:
    """The drawing of a panel, which waits until it shows; now and then a whole change takes longer than a quick one."""
    drawing = drawing_of(project.faces_on(panel.name)[0], panel)
    takes = round((drawing.seconds + drawing.changes_s) * NS)
    draw = Task(
        name=f"draw {panel.name}",
        does=DRAW,
        period_ns=round(NS / redraw_hz),
        shortest_ns=takes,
        longest_ns=takes,
        runs=LOOP,
        priority=4,
        bus=drawing.bus,
        of=panel.name,
        data=drawing.data,
        # Their pulses would be too long with anything in between.
        closed=isinstance(panel, LampPanel),
    )
    change = panel.change
    if not change.quick_s or not change.quick_ones:
        return [draw]
    longer = round((change.whole_s - change.quick_s) * NS)
    return [
        draw,
        Task(
            name=f"renew {panel.name}",
            does=WORK,
            period_ns=draw.period_ns * (change.quick_ones + 1),
            shortest_ns=longer,
            longest_ns=longer,
            runs=LOOP,
            priority=4,
            of=panel.name,
        ),
    ]


def pulses_of(project: Project, bench: Bench, channel: Channel) -> tuple[Times, Times] | None:
    """Rising and falling edges of a counted line, in nanoseconds; None where there is no trace."""
    source = project.sources[channel.source]
    if source.decoding is None:
        return None
    try:
        lines = bench.capture(source).lines
    except LesartError:
        return None
    edges = lines.get(dict(source.decoding.lines).get("line", ""))
    if edges is None or not len(edges):
        return None
    return bench.once_known(("pulses", token_of(edges)), lambda: _rise_and_fall(edges))


def _rise_and_fall(edges: Edges) -> tuple[Times, Times]:
    t = np.rint(edges.t * NS).astype(np.int64)
    rises = np.flatnonzero(edges.level[:-1] == HIGH)
    return t[rises], t[rises + 1]
