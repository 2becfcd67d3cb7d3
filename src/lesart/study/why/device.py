"""Why a device computes something else than its pack: as if one statement of the project were otherwise."""

from __future__ import annotations

from collections.abc import Sequence

from lesart.core.pack.channel_form import ChannelForm
from lesart.project.model import Project
from lesart.study.bench import Bench
from lesart.study.why.number import WhyNumber, why_number
from lesart.study.why.truth import Truth

FEWEST, MOST = 2, 8
"""Rows: of one anything explains."""
STEPS = 3.0
"""Of the firmware's, that a device which computes with other constants may still be off by its own rounding."""


def why_device(project: Project, bench: Bench, form: ChannelForm, rows: Sequence[tuple[int, int]]) -> WhyNumber | None:
    """``rows``: raw numbers with what the device made of them, in steps. None where there are too few to tell."""
    channel = project.channels[form.wanted.title]
    # At the ends of its range a device may stand still for another reason.
    inside = sorted(row for row in rows if form.law.first < row[0] < form.law.last)
    if len(inside) < FEWEST or channel.chain.reads:
        return None
    spread = inside[:: max(len(inside) // MOST, 1)]
    step = float(form.scale.step)
    tolerance = STEPS * step + 2 * form.law.agreement.worst
    truths = [Truth(form.wanted.raw.value(raw), form.scale.value(x), tolerance) for raw, x in spread]
    return why_number(project, bench, channel, truths)
