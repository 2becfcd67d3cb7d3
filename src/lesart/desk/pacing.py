"""The loop that firmware for this project would run: made from what the project is, played, judged."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np

from lesart.core import calm, law
from lesart.core.block import Bools
from lesart.core.calm.record import Cost
from lesart.core.errors import LesartError
from lesart.core.glass.face import CLEARED
from lesart.core.glass.panel import CharacterPanel, Panel, PixelPanel, SegmentPanel
from lesart.core.glass.partial import bytes_touched
from lesart.core.notes import Note
from lesart.core.pace.drawing import drawing_of
from lesart.core.pace.judge import Reach, buses, counts, done_in_time, drawings, emptied, energy, freshness, reads
from lesart.core.pace.play import Played, play
from lesart.core.pace.pulses import Counting, Times, missed
from lesart.core.pace.scan import scan_verdicts
from lesart.core.pace.task import CONVERT, COUNT, DRAW, INTERRUPT, LOOP, NS, READ, SCAN, Loop, Task
from lesart.core.pace.verdict import Verdict
from lesart.core.parameters import read_table
from lesart.core.quantity import plain_number
from lesart.core.raw.edges import HIGH, Edges
from lesart.desk.bench import Bench
from lesart.desk.tracing import trace_verdicts
from lesart.project.loop import overrule, task_of_its_own
from lesart.project.model import Channel, Project
from lesart.project.text import value_at

PLAYED_S = 10.0
"""Played for the screen: a slow reading comes often enough, and an edit is judged at once."""
MS, US = NS // 1000, NS // 1_000_000
READ_NS = {"bits by length": 5 * MS, "pulse width": 10 * MS, "serial bytes": 2 * MS, "two-wire bus": MS}
"""What reading takes where nobody says, by how the sensor speaks: most of it is waiting for the line."""
ADC_NS, LINE_NS = 110 * US, 20 * MS
"""Of a converter; and of a device on a serial line or a network, which is asked and answers."""
SCAN_NS, EDGE_NS = 20 * US, 5 * US
"""What an interrupt takes that goes to the next digit, and one that counts an edge."""
LAW_OPERATIONS, CORRECTION_OPERATIONS = 10.0, 4.0
"""On 4-byte floats: about what a law takes with a logarithm in it, and a polynomial. A person overrules the time."""
COUNTED = ("gate count", "pulse interval")


@dataclass(frozen=True)
class Paced:
    """The loop, what was played of it, how each channel comes to the glass, and every verdict."""

    loop: Loop
    played: Played
    reaches: tuple[Reach, ...]
    verdicts: tuple[Verdict, ...]
    traced: tuple[Verdict, ...] = ()
    """On logic traces of panels, beside those on the loop."""

    @property
    def notes(self) -> tuple[Note, ...]:
        """Those of verdicts that are not met, each once."""
        return tuple(dict.fromkeys(each.note for each in (*self.verdicts, *self.traced) if each.note is not None))


def loop_of(project: Project, bench: Bench) -> Loop:
    """Reads, conversions, counts, drawings and scans that the project asks for, as a person has overruled them."""
    tasks = [*_reads(project, bench), *_converts(project, bench), *_panels(project)]
    usual = project.loop.usual
    usual.clear()
    said, found = project.loop.overruled, []
    for task in tasks:
        usual[task.name] = _written(task)
        changed = overrule(task, said.get(task.name, {}))
        if changed is not None:
            found.append(changed)
    for name in said.keys() - usual.keys():
        own = task_of_its_own(name, said[name])
        usual[name] = _written(own) if own is not None else {}
        if own is not None:
            found.append(own)
    return Loop(tuple(found), project.loop.processor, project.loop.seed)


def paced(project: Project, bench: Bench, length_s: float = PLAYED_S) -> Paced:
    """The loop played and judged; the same loop is played once, and the same project judged once."""
    if bench.views:
        # Captures of lines that are listened to grow meanwhile.
        return _paced(project, bench, length_s)
    return bench.once_known(_key(project, length_s), lambda: (project, _paced(project, bench, length_s)))[1]


def paced_at_hand(project: Project, bench: Bench) -> Paced | None:
    """What was judged already; None where it was not yet."""
    return paced(project, bench) if _key(project, PLAYED_S) in bench.recent and not bench.views else None


def verdicts_known(project: Project, bench: Bench) -> tuple[Verdict, ...]:
    """Those of the loop where it was played; else those that follow from times alone."""
    known = paced_at_hand(project, bench)
    return known.verdicts if known is not None else tuple(scans(project, None))


def _key(project: Project, length_s: float) -> tuple[str, int, float]:
    return "paced", id(project), length_s


def _paced(project: Project, bench: Bench, length_s: float) -> Paced:
    loop = loop_of(project, bench)
    played = bench.once_known(("played", loop, length_s), lambda: play(loop, round(length_s * NS)))
    reaches = tuple(reach for reach in _reaches(project, bench) if _is_whole(loop, reach))
    limits = project.loop.limits
    verdicts = [*scans(project, played), *done_in_time(played), *buses(played, limits), *reads(played),
                *counts(played, lost_pulses(project, bench, played))]  # fmt: skip
    verdicts += [*drawings(played, _often(project)), *_emptied(project), *_counting(project, bench)]
    verdicts += _redraw_bytes(project)
    for reach in reaches:
        verdicts += freshness(played, reach, limits)
    verdicts += [*_resting(project, bench, reaches), *energy(played, limits)]
    return Paced(loop, played, reaches, tuple(verdicts), tuple(trace_verdicts(project, bench)))


def scans(project: Project, played: Played | None) -> list[Verdict]:
    """Of every scanned panel; without a play what follows from its times alone."""
    found: list[Verdict] = []
    for panel in project.panels.values():
        if isinstance(panel, SegmentPanel) and panel.scan is not None:
            runs = played.runs.get(f"scan {panel.name}", ()) if played is not None else ()
            found += scan_verdicts(panel.name, panel.scan, panel.digits, project.loop.shutter_ms, runs)
    return found


def _often(project: Project) -> dict[str, float]:
    """How often each panel is drawn: as its first face is."""
    return {name: faces[0].redraw_hz for name in project.panels if (faces := project.faces_on(name))}


def _redraw_bytes(project: Project) -> list[Verdict]:
    """Of pixel panels: all of a frame, and what the boxes of items that change touch of it."""
    found = []
    for panel in project.panels.values():
        for face in project.faces_on(panel.name)[:1]:
            if isinstance(panel, PixelPanel):
                whole = panel.packing.size(panel.width, panel.height)
                # Boxes that share a byte would send it twice: it is the frame at most.
                moving = sum(bytes_touched(item, panel) for item in face.items if item.reads)
                found += [
                    Verdict(f"{panel.name}, bytes a drawing", whole, "B", of=panel.name),
                    Verdict(f"{panel.name}, only what changes", min(moving, whole), "B", of=panel.name),
                ]
    return found


def _resting(project: Project, bench: Bench, reaches: tuple[Reach, ...]) -> list[Verdict]:
    """How often the last digit of each field changes, as Calm says it too."""
    found = []
    for name in dict.fromkeys(reach.channel for reach in reaches):
        channel = project.channels[name]
        try:
            restless = bench.restless(channel.field, bench.run(project, channel).calm)
        except LesartError:
            continue
        # Without a limit: Fit says where it is too much, and what calms it.
        found.append(Verdict(f"last digit of {name}", restless, "/min", of=name))
    return found


def _emptied(project: Project) -> list[Verdict]:
    """Of panels of characters that are cleared first."""
    found = []
    for panel in project.panels.values():
        for face in project.faces_on(panel.name)[:1]:
            if isinstance(panel, CharacterPanel) and face.writes == CLEARED:
                found.append(emptied(panel.name, face.name, 1000 * drawing_of(face, panel).seconds, face.redraw_hz))
    return found


def gates(project: Project, bench: Bench) -> list[tuple[Channel, Counting, float]]:
    """Channels that are counted in a gate, with their marks, and turns a minute as they are on average."""
    found = []
    for channel in project.channels.values():
        source = project.sources[channel.source]
        if source.decoding is None or source.decoding.kind.name != "gate count":
            continue
        for table in value_at(project.tables, channel.key("law")) or []:
            if table.get("kind") == "gate rate":
                values, _ = read_table(law.KINDS["gate rate"].parameters, table, "", also=("kind",))
                counting = Counting(float(values["gate"]), float(values["marks"]))
                found.append((channel, counting, _turns_per_min(project, bench, channel, counting)))
    return found


def _turns_per_min(project: Project, bench: Bench, channel: Channel, counting: Counting) -> float:
    """From the mean count of a gate; 0 where nothing was counted."""
    try:
        counted = bench.raw(project, channel).x
    except LesartError:
        return 0.0
    mean = float(np.nanmean(counted)) if np.isfinite(counted).any() else 0.0
    return mean * counting.step_per_min


def _counting(project: Project, bench: Bench) -> list[Verdict]:
    """What one pulse is worth, and how far off counting is by that at the speed of the capture."""
    found = []
    for channel, counting, turns in gates(project, bench):
        worst = counting.errors_per_min(turns)[1]
        found += [
            Verdict(f"{channel.name}, one pulse", counting.step_per_min, "/min", of=channel.name),
            Verdict(f"{channel.name}, off at {plain_number(turns, 3)} /min", worst, "/min", of=channel.name),
        ]
    return found


def _written(task: Task) -> dict[str, str | int | bool]:
    """As the project file would have it."""
    return {
        "does": task.does, "runs": task.runs, "period": _time(task.period_ns), "shortest": _time(task.shortest_ns),
        "longest": _time(task.longest_ns), "priority": task.priority, "bus": task.bus,
        "data": task.data, "clock": "100 kHz",
        "off": False,
    }  # fmt: skip


def _time(ns: int) -> str:
    """In the unit that needs fewest digits."""
    for size, unit in ((NS, "s"), (MS, "ms")):
        if ns >= size:
            return f"{plain_number(ns / size, 4)} {unit}"
    return f"{plain_number(ns / US, 4)} µs"


def shown_channels(project: Project) -> list[Channel]:
    """Those that stand on a face, and those that they read."""
    names = [name for face in project.faces.values() for name in face.channels]
    found: dict[str, Channel] = {}
    for name in names:
        for each in (name, *project.channels[name].chain.reads):
            found[each] = project.channels[each]
    return list(found.values())


def _interval_ns(project: Project, bench: Bench, channel: Channel) -> int:
    """From reading to reading, as the capture has it; a second where it cannot be read."""
    try:
        interval_s = bench.timing(bench.raw(project, channel)).interval_s
    except LesartError:
        return NS
    return round(interval_s * NS) or NS


def _reads(project: Project, bench: Bench) -> list[Task]:
    """One for each source; pulses are counted and not read."""
    found: dict[str, Task] = {}
    for channel in shown_channels(project):
        source = project.sources[channel.source]
        kind = source.decoding.kind.name if source.decoding is not None else ""
        period = _interval_ns(project, bench, channel)
        if kind in COUNTED:
            name = f"count {source.name}"
            pulses = _pulses(project, bench, channel)
            between = pulses and int(np.median(np.diff(pulses[0]))) if pulses and len(pulses[0]) > 1 else 0
            found[name] = Task(name, COUNT, between or 100 * MS, EDGE_NS, EDGE_NS, INTERRUPT, 9, of=channel.name)
            continue
        takes = LINE_NS if source.line is not None and not kind else READ_NS.get(kind, ADC_NS)
        name = f"read {source.name}"
        bus = kind if kind == "two-wire bus" else ""
        found[name] = Task(name, READ, period, takes, takes, LOOP, 7, bus, source.name,
                           wanted_s=source.least_interval_s)  # fmt: skip
    return list(found.values())


def _converts(project: Project, bench: Bench) -> list[Task]:
    found = []
    for channel in shown_channels(project):
        takes = project.loop.processor.takes_ns(operations_of(project, channel, bench))
        found.append(Task(f"convert {channel.name}", CONVERT, _interval_ns(project, bench, channel), takes, takes, LOOP,
                          6, of=channel.name))  # fmt: skip
    return found


def operations_of(project: Project, channel: Channel, bench: Bench) -> float:
    """On each sample: of its laws, its correction and its filters."""
    laws = len(value_at(project.tables, channel.key("law")) or [])
    filters = sum(cost.operations for cost in _costs(project, channel, bench))
    return float(LAW_OPERATIONS * laws + CORRECTION_OPERATIONS + filters)


def _costs(project: Project, channel: Channel, bench: Bench) -> list[Cost]:
    interval_s = _interval_ns(project, bench, channel) / NS
    found = []
    for table in value_at(project.tables, channel.key("calm")) or []:
        kind = calm.KINDS[table["kind"]]
        values, _ = read_table(kind.parameters, table, "", also=("kind",))
        found.append(kind.cost(values, interval_s))
    return found


def _panels(project: Project) -> list[Task]:
    """Scanned digits by interrupt; every other panel drawn as often as its first face is."""
    found = []
    for panel in project.panels.values():
        if isinstance(panel, SegmentPanel) and panel.scan is not None and panel.digits > 1:
            period = round((panel.scan.on_time_ms + panel.scan.blanking_ms) * MS)
            found.append(Task(f"scan {panel.name}", SCAN, period, SCAN_NS, SCAN_NS, INTERRUPT, 8, of=panel.name))
            continue
        faces = project.faces_on(panel.name)
        if faces:
            found.append(_draw(panel, project, faces[0].redraw_hz))
    return found


def _draw(panel: Panel, project: Project, redraw_hz: float) -> Task:
    drawing = drawing_of(project.faces_on(panel.name)[0], panel)
    takes = round(drawing.seconds * NS)
    return Task(f"draw {panel.name}", DRAW, round(NS / redraw_hz), takes, takes, LOOP, 4, drawing.bus, panel.name,
                drawing.data)  # fmt: skip


def _reaches(project: Project, bench: Bench) -> list[Reach]:
    """Each channel's way to each panel that shows it."""
    found = []
    for panel in project.panels.values():
        is_scanned = isinstance(panel, SegmentPanel) and panel.scan is not None and panel.digits > 1
        shows = "scan" if is_scanned else "draw"
        for name in dict.fromkeys(each for face in project.faces_on(panel.name) for each in face.channels):
            channel = project.channels[name]
            decoding = project.sources[channel.source].decoding
            if decoding is not None and decoding.kind.name in COUNTED:
                continue
            interval_s = _interval_ns(project, bench, channel) / NS
            lag_s = sum(cost.delay_samples for cost in _costs(project, channel, bench)) * interval_s
            alarm_s = max((alarm.least_s for alarm in channel.alarms), default=None)
            found.append(Reach(name, panel.name, f"read {channel.source}", f"convert {name}", f"{shows} {panel.name}",
                               lag_s, channel.field.stale_after_s, alarm_s,
                               channel.most_lag_s))  # fmt: skip
    return found


def _is_whole(loop: Loop, reach: Reach) -> bool:
    names = {task.name for task in loop.tasks}
    return {reach.read, reach.convert, reach.draw} <= names


def lost_pulses(project: Project, bench: Bench, played: Played) -> Mapping[str, Bools]:
    """Which pulses of a capture a loop would miss that looks at the pin when it has time, by name of the task."""
    found: dict[str, Bools] = {}
    for task in played.loop.of(COUNT):
        channel = project.channels.get(task.of)
        pulses = _pulses(project, bench, channel) if task.is_polled and channel is not None else None
        if pulses is None:
            continue
        # The trace is longer than what was played: each pulse is put where it would stand in a play like this one.
        rise, fall = (times % played.length_ns for times in pulses)
        whole = fall >= rise
        found[task.name] = missed(rise[whole], fall[whole], played.busy)
    return found


def _pulses(project: Project, bench: Bench, channel: Channel) -> tuple[Times, Times] | None:
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
    return bench.once_known(("pulses", id(edges)), lambda: (edges, _rise_and_fall(edges)))[1]


def _rise_and_fall(edges: Edges) -> tuple[Times, Times]:
    t = np.rint(edges.t * NS).astype(np.int64)
    rises = np.flatnonzero(edges.level[:-1] == HIGH)
    return t[rises], t[rises + 1]
