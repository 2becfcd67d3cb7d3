"""The firmware's loop played, and all verdicts on it: each figure with its limit."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace
from functools import singledispatch

import numpy as np

from lesart.core.block import Bools
from lesart.core.dataclass_later import dataclass
from lesart.core.errors import LesartError
from lesart.core.glass.faces.face import CLEARED
from lesart.core.glass.faces.moving import window_of_picture
from lesart.core.glass.faces.partial_redraw import bytes_touched, frame_bytes
from lesart.core.glass.faces.redraw import drawing_of
from lesart.core.glass.panels.panel import Panel
from lesart.core.glass.panels.pixel_panel import PixelPanel
from lesart.core.glass.panels.segment_panel import ADDRESSED, DRIVER, NUMBERED, SegmentPanel
from lesart.core.notes import Note
from lesart.core.pace.freshness import Reach, freshness
from lesart.core.pace.judge import buses, counts, done_in_time, drawings, emptied, energy, reads
from lesart.core.pace.play import Played, play
from lesart.core.pace.pulses import Counting, missed
from lesart.core.pace.scan import DIMMER, on_camera, scan_verdicts
from lesart.core.pace.task import COUNT, INTERRUPT, NS, Loop, closed_longest
from lesart.core.pace.verdict import Verdict
from lesart.core.quantity import plain_number
from lesart.core.wire.currents import loads_of
from lesart.project.facts.bench import BATTERY
from lesart.project.model import Channel, Project
from lesart.study.bench import Bench
from lesart.study.intervals import lateness
from lesart.study.project_loop import COUNTED, loop_of, pulses_of
from lesart.study.tokens import Token, token_of

PLAYED_S = 10.0
SCREEN_RUNS = 60_000
"""Runs played for the screen: enough for slow readings, and few enough to judge an edit at once, however fast the
loop."""


@dataclass(frozen=True)
class Paced:
    """The loop, its play, the path of each channel to the glass, and every verdict."""

    loop: Loop
    played: Played
    reaches: tuple[Reach, ...]
    verdicts: tuple[Verdict, ...]
    traced: tuple[Verdict, ...] = ()
    """Verdicts on logic traces of panels, besides those on the loop."""

    @property
    def notes(self) -> tuple[Note, ...]:
        """Notes of unmet verdicts, each once."""
        return tuple(dict.fromkeys(each.note for each in (*self.verdicts, *self.traced) if each.note is not None))


def paced(project: Project, bench: Bench, length_s: float = PLAYED_S, most_runs: int = SCREEN_RUNS) -> Paced:
    """The loop played and judged; plays are cached by loop, and verdicts by project."""
    if bench.views:
        # Captures of lines that are listened to grow meanwhile.
        return _paced(project, bench, length_s, most_runs)
    return bench.once_known(_key(project, length_s), lambda: _paced(project, bench, length_s, most_runs))


def paced_at_hand(project: Project, bench: Bench) -> Paced | None:
    """The cached verdicts; None where there are none yet."""
    return paced(project, bench) if _key(project, PLAYED_S) in bench.recent and not bench.views else None


def verdicts_known(project: Project, bench: Bench) -> tuple[Verdict, ...]:
    """Verdicts of the played loop; else those that follow from times alone."""
    known = paced_at_hand(project, bench)
    return known.verdicts if known is not None else tuple(scans(project, None))


def _key(project: Project, length_s: float) -> tuple[str, Token, float]:
    return "paced", token_of(project), length_s


def _paced(project: Project, bench: Bench, length_s: float, most_runs: int) -> Paced:
    from lesart.study.wires.tracing import trace_verdicts

    loop = loop_of(project, bench)
    played = bench.once_known(("played", loop, length_s), lambda: play(loop, round(length_s * NS), most_runs))
    reaches = tuple(reach for reach in _reaches(project, bench) if _is_whole(loop, reach))
    limits = project.loop.limits
    verdicts = [
        *scans(project, played),
        *done_in_time(played),
        *buses(played, limits),
        *reads(played),
        *counts(played, lost_pulses(project, bench, played)),
    ]
    verdicts += [*drawings(played, _often(project)), *_emptied(project), *_counting(project, bench)]
    verdicts += _redraw_bytes(project)
    for reach in reaches:
        verdicts += freshness(played, reach, limits)
    verdicts += [*_resting(project, bench, reaches), *energy(played, limits), *_peak(project)]
    return Paced(loop, played, reaches, tuple(verdicts), tuple(trace_verdicts(project, bench)))


def _peak(project: Project) -> list[Verdict]:
    """The current of a battery with all its loads at their peak; Wire says where that is too much."""
    loads = [load for load in loads_of(project.hookup) if project.hookup.parts[load.rail.part].kind.name == BATTERY]
    return [Verdict(f"{load.rail.part}, all its parts at their peak", 1000 * load.all_peaks_a, "mA") for load in loads]


@singledispatch
def flashes(panel: Panel) -> int:
    """Number of parts that a panel's controller lights in turn; 0 with a constant backlight."""
    return 0


@flashes.register
def _(panel: PixelPanel) -> int:
    return panel.height if panel.is_self_lit else 0


@flashes.register
def _(panel: SegmentPanel) -> int:
    return panel.digits if panel.drive in (DRIVER, NUMBERED, ADDRESSED) else 0


def _closed_to(played: Played, name: str) -> str:
    """The task that keeps an interrupt waiting longest; empty where none does, or the task is no interrupt."""
    closed = closed_longest(played.loop)
    is_interrupt = any(task.name == name and task.runs == INTERRUPT for task in played.loop.tasks)
    return closed.name if closed is not None and is_interrupt else ""


def scans(project: Project, played: Played | None) -> list[Verdict]:
    """Verdicts on every scanned panel; without a play those that follow from times alone."""
    found: list[Verdict] = []
    for panel in project.panels.values():
        if panel.scan is None and panel.scan_hz and flashes(panel):
            period_ms = 1e3 / panel.scan_hz
            lit_ms = period_ms / flashes(panel)
            found.append(on_camera(panel.name, lit_ms, period_ms, project.loop.shutter_ms))
        if panel.scan is not None:
            runs = played.runs.get(f"scan {panel.name}", ()) if played is not None else ()
            closed = _closed_to(played, f"scan {panel.name}") if played is not None else ""
            judged = scan_verdicts(panel.name, panel.scan, panel.columns, project.loop.shutter_ms, runs, closed)
            # For digits in the hook-up that is reported there, with its parts.
            is_wired = ("panels", panel.name, "scan", "line_resistor") in project.homes
            found += [replace(each, note=None) if is_wired and each.name == DIMMER else each for each in judged]
    return found


def _often(project: Project) -> dict[str, float]:
    """Drawing rate of each panel: that of its first face."""
    return {name: faces[0].redraw_hz for name in project.panels if (faces := project.faces_on(name))}


def _redraw_bytes(project: Project) -> list[Verdict]:
    """For pixel panels: bytes of a frame, and those touched by changing items."""
    found = []
    for panel in project.panels.values():
        for face in project.faces_on(panel.name)[:1]:
            touched = [bytes_touched(panel, item) for item in face.items if item.reads]
            moving = [window for item in face.items if (window := window_of_picture(item, panel)) is not None]
            touched += [window.size for window in moving]
            whole = frame_bytes(panel)
            if whole:
                # Boxes that share a byte would send it twice: at most the whole frame.
                found += [
                    Verdict(f"{panel.name}, bytes a drawing", whole, "B", of=panel.name),
                    Verdict(f"{panel.name}, only what changes", min(sum(touched), whole), "B", of=panel.name),
                ]
    return found


def _resting(project: Project, bench: Bench, reaches: tuple[Reach, ...]) -> list[Verdict]:
    """Verdicts on how often the last digit of each field changes, as in Calm."""
    found = []
    for name in dict.fromkeys(reach.channel for reach in reaches):
        channel = project.channels[name]
        try:
            restless = bench.restless(channel.field, bench.run(project, channel).calm)
        except LesartError:
            continue
        # Without a limit: Fit says where it is too often, and what calms it.
        found.append(Verdict(f"last digit of {name}", restless, "/min", of=name))
    return found


def _emptied(project: Project) -> list[Verdict]:
    """Verdicts on character panels that are cleared first."""
    found = []
    for panel in project.panels.values():
        for face in project.faces_on(panel.name)[:1]:
            if panel.clear_ms and face.writes == CLEARED:
                found.append(emptied(panel.name, face.name, 1000 * drawing_of(face, panel).seconds, face.redraw_hz))
    return found


def gates(project: Project, bench: Bench) -> list[tuple[Channel, Counting, float]]:
    """Channels counted in a gate, with marks per turn, and mean turns per minute."""
    found = []
    for channel in project.channels.values():
        source = project.sources[channel.source]
        if source.decoding is None or source.decoding.kind.name != "gate count":
            continue
        for entry in channel.laws:
            if entry.kind.name == "gate rate":
                counting = Counting(float(entry.values["gate"]), float(entry.values["marks"]))
                found.append((channel, counting, _turns_per_min(project, bench, channel, counting)))
    return found


def _turns_per_min(project: Project, bench: Bench, channel: Channel, counting: Counting) -> float:
    """Turns per minute from the mean count of a gate; 0 where nothing was counted."""
    try:
        counted = bench.raw(project, channel).x
    except LesartError:
        return 0.0
    mean = float(np.nanmean(counted)) if np.isfinite(counted).any() else 0.0
    return mean * counting.step_per_min


def _counting(project: Project, bench: Bench) -> list[Verdict]:
    """Verdicts on the value of one pulse, and on the counting error at the capture's speed."""
    found = []
    for channel, counting, turns in gates(project, bench):
        worst = counting.errors_per_min(turns)[1]
        found += [
            Verdict(f"{channel.name}, one pulse", counting.step_per_min, "/min", of=channel.name),
            Verdict(f"{channel.name}, off at {plain_number(turns, 3)} /min", worst, "/min", of=channel.name),
        ]
    return found


def _reaches(project: Project, bench: Bench) -> list[Reach]:
    """The path of each channel to each panel that shows it."""
    found = []
    for panel in project.panels.values():
        is_scanned = panel.scan is not None and panel.columns > 1
        shows = "scan" if is_scanned else "draw"
        for name in dict.fromkeys(each for face in project.faces_on(panel.name) for each in face.channels):
            channel = project.channels[name]
            decoding = project.sources[channel.source].decoding
            if decoding is not None and decoding.kind.name in COUNTED:
                continue
            late = lateness(project, bench, channel)
            alarm_s = max((alarm.least_s for alarm in channel.alarms), default=None)
            found.append(
                Reach(
                    channel=name,
                    panel=panel.name,
                    read=f"read {channel.source}",
                    convert=f"convert {name}",
                    draw=f"{shows} {panel.name}",
                    lag_s=late.lag_s,
                    waits_s=late.waits_s,
                    stale_after_s=channel.field.stale_after_s,
                    alarm_s=alarm_s,
                    most_lag_s=channel.most_lag_s,
                )
            )
    return found


def _is_whole(loop: Loop, reach: Reach) -> bool:
    names = {task.name for task in loop.tasks}
    return {reach.read, reach.convert, reach.draw} <= names


def lost_pulses(project: Project, bench: Bench, played: Played) -> Mapping[str, Bools]:
    """Pulses of a capture that a polling loop would miss, by name of the task."""
    found: dict[str, Bools] = {}
    for task in played.loop.of(COUNT):
        channel = project.channels.get(task.of)
        pulses = pulses_of(project, bench, channel) if task.is_polled and channel is not None else None
        if pulses is None:
            continue
        # The trace is longer than the play: each pulse is moved to its place in a repeated play.
        rise, fall = (times % played.length_ns for times in pulses)
        whole = fall >= rise
        found[task.name] = missed(rise[whole], fall[whole], played.busy)
    return found
