"""What firmware does repeatedly: tasks with a period, a duration and a way to run; the processor they run on."""

from __future__ import annotations

from lesart.core.dataclass_later import dataclass
from lesart.core.parameters import Parameter

NS = 1_000_000_000
"""Nanoseconds per second.

All times of a loop are whole nanoseconds, so that a play is exact and the same everywhere.
"""
LOOP, INTERRUPT, BACKGROUND = RUNS = ("in the loop", "by interrupt", "in background")
READ, COUNT, CONVERT, DRAW, SCAN, SEND, BLINK, WORK, WAIT = DOES = (
    "read",
    "count",
    "convert",
    "draw",
    "scan",
    "send",
    "blink",
    "work",
    "wait",
)
WORDS = {"8 bit": 150.0, "16 bit": 80.0, "32 bit": 40.0, "32 bit with float unit": 2.0}
"""Clocks per sum or product of 4-byte floats, by word size: about those of compilers' own routines.

Whoever has measured theirs sets it.
"""
WHOLE_WORDS = {"8 bit": 40.0, "16 bit": 15.0, "32 bit": 4.0, "32 bit with float unit": 4.0}
"""Clocks per integer operation of a pack, loads and stores included.

For 8 bits measured in a simulator of such a processor, over 18 channels: 9 to 85, mostly 35.
"""

SETTINGS = (
    Parameter("word", "word", "choice", "of the processor", "8 bit", choices=tuple(WORDS)),
    Parameter("clock", "clock", "quantity", "of the processor", "16 MHz", unit="Hz", lowest=0, above=True),
    Parameter("operation", "an operation", "quantity", "clocks; 0: as usual for the word", "0", lowest=0),
    Parameter(
        "whole_operation",
        "in whole numbers",
        "quantity",
        "clocks that an operation of the written pack takes; 0: as usual for the word",
        "0",
        lowest=0,
    ),
    Parameter("seed", "seed", "integer", "of what varies from time to time", 1, lowest=0, highest=999_999),
    Parameter(
        "most_bus",
        "most of a bus",
        "quantity",
        "share of time that is still well",
        "60 %",
        unit="%",
        lowest=0,
        above=True,
        highest=100,
    ),
    Parameter(
        "most_lag",
        "most lag",
        "quantity",
        "from the sensor to the glass, filters included",
        "2 s",
        unit="s",
        lowest=0,
        above=True,
    ),
    Parameter("active", "awake", "quantity", "current while the processor works", "12 mA", unit="mA", lowest=0),
    Parameter("idle", "idle", "quantity", "current while it waits", "12 mA", unit="mA", lowest=0),
    Parameter("shown", "displays", "quantity", "current of all displays", "0 mA", unit="mA", lowest=0),
    Parameter("others", "other parts", "quantity", "current of sensors and all else", "0 mA", unit="mA", lowest=0),
    Parameter("capacity", "battery", "quantity", "its capacity; 0: none", "0 mAh", unit="mAh", lowest=0),
    Parameter(
        "usable",
        "usable",
        "quantity",
        "share of it that cold and age leave",
        "100 %",
        unit="%",
        lowest=1,
        highest=100,
    ),
    Parameter(
        "shutter",
        "shutter",
        "quantity",
        "of a camera that looks at scanned digits",
        "20 ms",
        unit="ms",
        lowest=0,
        above=True,
        highest=1000,
    ),
)
TASK = (
    Parameter("does", "does", "choice", "what kind of work", WORK, choices=DOES),
    Parameter("runs", "runs", "choice", "in turn with others, before them, or beside them", LOOP, choices=RUNS),
    Parameter(
        "period",
        "every",
        "quantity",
        "from start to start; 0: in each turn of the loop",
        "100 ms",
        unit="ms",
        lowest=0,
        highest=86_400_000,
    ),
    Parameter("shortest", "takes", "quantity", "at least", "1 ms", unit="ms", lowest=0, highest=3_600_000),
    Parameter(
        "longest",
        "at most",
        "quantity",
        "as the shortest if left out",
        unit="ms",
        lowest=0,
        highest=3_600_000,
        optional=True,
    ),
    Parameter("priority", "priority", "integer", "of what is due the highest goes first", 5, lowest=1, highest=9),
    Parameter("bus", "bus", "text", "that it uses while it runs; empty: none", "", longest=40),
    Parameter(
        "data",
        "bytes",
        "integer",
        "that it sends; its time follows from them where none is said",
        0,
        lowest=0,
        highest=1_000_000,
    ),
    Parameter(
        "clock",
        "bus clock",
        "quantity",
        "at which it sends them",
        "100 kHz",
        unit="Hz",
        lowest=0,
        above=True,
        highest=100_000_000,
    ),
    Parameter(
        "closed",
        "interrupts wait",
        "flag",
        "no interrupt runs meanwhile, as where a program makes pulses by itself; of two of one kind the second is lost",
        False,
    ),
    Parameter("off", "left out", "flag", "it is not done at all", False),
)


@dataclass(frozen=True)
class Task:
    """``shortest_ns`` to ``longest_ns``: how long it takes, drawn evenly. ``of`` names its channel, source or panel.

    ``period_ns`` 0: it runs in each turn of the loop. ``data``: bytes that it moves.
    """

    name: str
    does: str
    period_ns: int
    shortest_ns: int
    longest_ns: int
    runs: str = LOOP
    priority: int = 5
    bus: str = ""
    of: str = ""
    data: int = 0
    closed: bool = False
    """True where no interrupt runs meanwhile."""
    wanted_s: float = 0.0
    """Least time from start to start that the sensor allows; 0 for none."""

    @property
    def is_polled(self) -> bool:
        """True where the loop polls a pin whenever it does nothing else.

        That is not a run of its own: see ``pulses``.
        """
        return self.does == COUNT and self.runs == LOOP

    @property
    def mean_ns(self) -> float:
        """Mean duration."""
        return (self.shortest_ns + self.longest_ns) / 2


@dataclass(frozen=True)
class Processor:
    """``clocks`` per operation on a 4-byte float, ``whole_clocks`` per integer operation."""

    clock_hz: float = 16e6
    clocks: float = WORDS["8 bit"]
    whole_clocks: float = WHOLE_WORDS["8 bit"]

    def takes_ns(self, operations: float) -> int:
        """Time for a number of float operations."""
        return round(operations * self.clocks / self.clock_hz * NS)

    def whole_takes_ns(self, operations: float) -> int:
        """Time for a number of integer operations."""
        return round(operations * self.whole_clocks / self.clock_hz * NS)


@dataclass(frozen=True)
class Loop:
    """All tasks, in their order in the loop."""

    tasks: tuple[Task, ...]
    processor: Processor = Processor()
    seed: int = 1

    def of(self, does: str) -> tuple[Task, ...]:
        """The tasks of a kind."""
        return tuple(task for task in self.tasks if task.does == does)


def closed_longest(loop: Loop) -> Task | None:
    """The task in the loop that keeps interrupts waiting longest; None where none does."""
    closed = [task for task in loop.tasks if task.closed and task.runs == LOOP]
    return max(closed, key=lambda task: task.longest_ns, default=None)
