"""Why a device computes something else than its pack: as if one statement of the project were different."""

from __future__ import annotations

from collections.abc import Sequence

from lesart.core.pack.channel_form import ChannelForm
from lesart.project.model import Project
from lesart.study.bench import Bench
from lesart.study.why.number import WhyNumber, why_number
from lesart.study.why.truth import Truth

FEWEST, MOST = 2, 8
"""Fewest and most rows: a single one is explained by anything."""
STEPS = 3.0
"""Steps that a device with other constants may be off by its own rounding."""


def why_device(project: Project, bench: Bench, form: ChannelForm, rows: Sequence[tuple[int, int]]) -> WhyNumber | None:
    """``rows``: raw numbers with the device's results, in steps. None where there are too few."""
    channel = project.channels[form.wanted.title]
    # At the ends of its range a device may be constant for another reason.
    inside = sorted(row for row in rows if form.law.first < row[0] < form.law.last)
    if len(inside) < FEWEST or channel.chain.reads:
        return None
    spread = inside[:: max(len(inside) // MOST, 1)]
    step = float(form.scale.step)
    tolerance = STEPS * step + 2 * form.law.agreement.worst
    truths = [Truth(form.wanted.raw.value(raw), form.scale.value(x), tolerance) for raw, x in spread]
    return why_number(project, bench, channel, truths)
