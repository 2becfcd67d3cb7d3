"""What can be drawn: a chart, a lit panel, the hook-up sheet, the calibration sheet or a timing diagram."""

from __future__ import annotations

from lesart.core.dataclass_later import dataclass
from lesart.core.notes import Note
from lesart.core.wire.faults.inspect import inspect_hookup
from lesart.core.wire.hookup import Hookup
from lesart.core.wire.sums import Sum
from lesart.project.model import Project
from lesart.study.timing import Timing
from lesart.study.views import Chart, Glass


@dataclass(frozen=True)
class Sheet:
    """A hook-up with its sums and faults."""

    hookup: Hookup
    sums: tuple[Sum, ...]
    faults: tuple[Note, ...]


@dataclass(frozen=True)
class CalibrationSheet:
    """The references of a channel and their fit; tables with their headings first."""

    chart: Chart
    head: tuple[str, ...]
    points: tuple[tuple[str, ...], ...]
    fits: tuple[tuple[str, ...], ...]


Subject = Chart | Glass | Sheet | CalibrationSheet | Timing


def hookup_sheet(project: Project) -> Sheet | None:
    """The hook-up sheet of a project; None while it has no parts."""
    if not project.hookup.parts:
        return None
    faults = tuple(note for note in inspect_hookup(project.hookup) if note.is_fault)
    return Sheet(project.hookup, tuple(project.sums.values()), faults)
