"""Calm: filters that steady a reading, and what each costs. ``KINDS`` is the list of them all."""

from lesart.core.calm.circular import CIRCULAR_MEAN
from lesart.core.calm.exponential import EXPONENTIAL
from lesart.core.calm.extremes import HIGHEST, LOWEST
from lesart.core.calm.gates import DEADBAND, DECIMATE, REJECT_MARK, REJECT_RATE, SETTLING_GATE
from lesart.core.calm.hold import HOLD
from lesart.core.calm.low_pass import LOW_PASS
from lesart.core.calm.record import FilterKind
from lesart.core.calm.reject import REJECT_RANGE
from lesart.core.calm.time_constant import TIME_CONSTANT
from lesart.core.calm.tracking import TRACKING
from lesart.core.calm.trimmed import TRIMMED_MEAN
from lesart.core.calm.windowed import MEAN, MEDIAN

KINDS: dict[str, FilterKind] = {
    kind.name: kind
    for kind in (
        REJECT_RANGE,
        REJECT_RATE,
        REJECT_MARK,
        MEDIAN,
        MEAN,
        TRIMMED_MEAN,
        CIRCULAR_MEAN,
        EXPONENTIAL,
        TIME_CONSTANT,
        LOW_PASS,
        TRACKING,
        DEADBAND,
        HOLD,
        SETTLING_GATE,
        HIGHEST,
        LOWEST,
        DECIMATE,
    )
}
"""By the name that stands as ``kind`` in the project file."""
