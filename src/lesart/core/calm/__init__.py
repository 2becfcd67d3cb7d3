"""Calm: filters that steady a reading, and what each costs. ``KINDS`` is the list of them all."""

from lesart.core.calm.hold import HOLD
from lesart.core.calm.record import FilterKind
from lesart.core.calm.reject import REJECT_RANGE
from lesart.core.calm.window import MEAN, MEDIAN

KINDS: dict[str, FilterKind] = {kind.name: kind for kind in (REJECT_RANGE, MEDIAN, MEAN, HOLD)}
"""By the name that stands as ``kind`` in the project file."""
