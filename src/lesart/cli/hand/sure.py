"""How sure a value is, without a screen: the budget of ``lesart hand --sure``."""

from __future__ import annotations

import math
from typing import TYPE_CHECKING, Any

from lesart.cli.printed.answer import number
from lesart.core.dataclass_later import dataclass
from lesart.core.quantity import format_quantity
from lesart.project.model import Channel, Project

if TYPE_CHECKING:
    from lesart.core.law.budget import Budget, Simulated

DRAWS, SEED = 1000, 20_260_517
"""As the Law step on the screen draws."""


@dataclass(frozen=True)
class Sure:
    """A budget and its check by draws, both in the channel's unit, of the tolerances and of half a count."""

    budget: Budget
    simulated: Simulated


def sureness_of(project: Project, channel: Channel, standing: Channel, raw: float, count_step: int = 1) -> Sure:
    """The budget of a value given by hand, without noise and without channels that its laws read.

    ``count_step`` is the common step of counts in its capture.
    """
    import numpy as np

    from lesart.core.law.budget import budget_of, simulated
    from lesart.core.one_count import one_count
    from lesart.project.facts.tolerances import counts_pulses, tolerances_of

    tolerances = tolerances_of(project, channel, standing, {})
    count = one_count(standing.chain, raw, count_step) if standing.unit_raw.symbol == "ct" else 0.0
    count = count if np.isfinite(count) else 0.0

    def evaluate(shares: Any) -> float:
        return tolerances.evaluate(raw, shares)

    is_pulse = counts_pulses(project, channel)
    budget = budget_of(evaluate, tolerances.doubts, count, is_pulse=is_pulse)
    found = simulated(evaluate, tolerances.doubts, DRAWS, np.random.default_rng(SEED), count, is_pulse=is_pulse)
    return Sure(budget, found)


def sure_object(sure: Sure, channel: Channel) -> dict[str, Any]:
    """For scripts: half widths, standard uncertainty by the budget and as drawn, 95 of 100, and at worst."""
    shares = [
        {"name": share.name, "written": share.says, "half_width": number(share.half_width)}
        for share in sure.budget.shares
    ]
    return {
        "reading": number(sure.budget.reading),
        "unit": channel.unit.symbol,
        "shares": shares,
        "standard": number(sure.budget.standard),
        "drawn_standard": number(sure.simulated.standard),
        "likely": number(sure.budget.likely),
        "worst": number(sure.budget.worst),
    }


def sure_said(sure: Sure, channel: Channel) -> list[str]:
    """A line per share, the largest first, and one for the total."""
    if not sure.budget.shares:
        return ["sure  not known: no value of its laws is written with a tolerance, like 3.3 V ± 1 %"]
    lines = []
    for share in sure.budget.shares:
        width, says = f"± {format_quantity(abs(share.half_width), channel.unit, 2)}", share.says
        if share.cancels:
            width, says = "cancels", f"{says}, one and the same in both"
        if not math.isfinite(share.half_width):
            width, says = "not known", f"{says}; its ends lie outside the range in which the laws hold"
        lines.append(f"sure  {share.name:<18}{width:>20}   {says}")
    if math.isfinite(sure.budget.likely):
        likely, worst = (format_quantity(value, channel.unit, 2) for value in (sure.budget.likely, sure.budget.worst))
        lines.append(f"sure  combined ± {likely} (95 % coverage), ± {worst} at worst; before correction")
    else:
        lines.append("sure  combined: not known, because one of them is not")
    budget = (
        f"σ {format_quantity(sure.budget.standard, channel.unit, 3)}, "
        if lines and math.isfinite(sure.budget.standard)
        else ""
    )
    if math.isfinite(sure.simulated.standard):
        simulated = f"simulated {DRAWS} times σ {format_quantity(sure.simulated.standard, channel.unit, 3)}"
    else:
        simulated = f"simulated {DRAWS} times, {sure.simulated.lost} left the range in which the laws hold"
    return [*lines, f"sure  {budget}{simulated}"]
