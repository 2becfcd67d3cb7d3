"""Which form each kind of filter has."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from lesart.core.calm.circular import CircularMean, OntoCircle
from lesart.core.calm.exponential import Exponential
from lesart.core.calm.extremes import Extreme
from lesart.core.calm.gates import Deadband, Decimate, RejectMark, RejectRate, SettlingGate
from lesart.core.calm.hold import Hold
from lesart.core.calm.low_pass import LowPass
from lesart.core.calm.reject import RejectRange
from lesart.core.calm.time_constant import TimeConstant
from lesart.core.calm.tracking import Tracking
from lesart.core.calm.trimmed import TrimmedMean
from lesart.core.calm.windowed import Mean, Median
from lesart.core.pack.calm_forms import by_weight, gates, ordered, windows
from lesart.core.pack.calm_forms.stage_form import Around
from lesart.core.pack.program.statements import Function

FORMS: dict[type, Callable[[Any, Around], Function]] = {
    RejectRange: gates.reject_range,
    RejectRate: gates.reject_rate,
    RejectMark: gates.reject_mark,
    Median: ordered.median,
    Mean: windows.mean,
    TrimmedMean: ordered.trimmed_mean,
    OntoCircle: windows.onto_circle,
    CircularMean: windows.circular_mean,
    Exponential: by_weight.exponential,
    TimeConstant: by_weight.time_constant,
    LowPass: by_weight.low_pass,
    Tracking: by_weight.tracking,
    Deadband: gates.deadband,
    Hold: gates.hold,
    Extreme: gates.extreme,
    SettlingGate: gates.settling_gate,
    Decimate: gates.decimate,
}
"""Forms by stage; a test makes sure that no kind of filter is missing."""


def filter_form(stage: object, around: Around) -> Function:
    """The form of a filter."""
    return FORMS[type(stage)](stage, around)
