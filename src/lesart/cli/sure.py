"""How sure a value is, without a screen: the budget of ``lesart hand --sure``."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING, Any

from lesart.cli.answer import number
from lesart.core.quantity import format_quantity
from lesart.project.model import Channel, Project

if TYPE_CHECKING:
    from lesart.core.law.budget import Budget

DRAWS, SEED = 1000, 20_260_517
"""As the Law step on the screen draws."""


@dataclass(frozen=True)
class Sure:
    """A budget and its check by draws, both in the channel's unit, of the tolerances and of half a count."""

    budget: Budget
    drawn_standard: float


def sureness_of(project: Project, channel: Channel, standing: Channel, raw: float) -> Sure:
    """Of a value given by hand: no capture is read, so noise is no part of it, nor are channels that its laws read."""
    import numpy as np

    from lesart.core.law.budget import budget_of, drawn
    from lesart.project.tolerances import tolerances_of

    tolerances = tolerances_of(project, channel, standing, {})
    count = abs(standing.chain.slope(raw)) if standing.unit_raw.symbol == "ct" else 0.0
    count = count if np.isfinite(count) else 0.0

    def evaluate(shares: Any) -> float:
        return tolerances.evaluate(raw, shares)

    budget = budget_of(evaluate, tolerances.doubts, count)
    spread, _ = drawn(evaluate, tolerances.doubts, DRAWS, np.random.default_rng(SEED), count)
    return Sure(budget, spread)


def sure_object(sure: Sure, channel: Channel) -> dict[str, Any]:
    """For scripts: half widths, standard uncertainty by the budget and as drawn, 95 of 100, and at worst."""
    shares = [{"name": share.name, "written": share.says, "half_width": number(share.half_width)}
              for share in sure.budget.shares]  # fmt: skip
    return {
        "reading": number(sure.budget.reading), "unit": channel.unit.symbol, "shares": shares,
        "standard": number(sure.budget.standard), "drawn_standard": number(sure.drawn_standard),
        "likely": number(sure.budget.likely), "worst": number(sure.budget.worst),
    }  # fmt: skip


def sure_said(sure: Sure, channel: Channel) -> list[str]:
    """A line for each share, the largest first, and one for all."""
    if not sure.budget.shares:
        return ["sure  nobody can say: no value of its laws is written with a tolerance, like 3.3 V ± 1 %"]
    lines = []
    for share in sure.budget.shares:
        width = f"± {format_quantity(abs(share.half_width), channel.unit, 2)}"
        lines.append(f"sure  {share.name:<18}{width:>20}   {share.says}")
    likely, worst = (format_quantity(value, channel.unit, 2) for value in (sure.budget.likely, sure.budget.worst))
    spreads = [format_quantity(value, channel.unit, 3) for value in (sure.budget.standard, sure.drawn_standard)]
    lines.append(f"sure  together ± {likely} 95 of 100 times, ± {worst} at worst; before correction")
    return [*lines, f"sure  σ {spreads[0]}, drawn {DRAWS} times σ {spreads[1]}"]
