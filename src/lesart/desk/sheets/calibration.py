"""The calibration sheet of a channel as data: residual chart, points, fit and covered range."""

from __future__ import annotations

import math

from lesart.core.quantity import beside_unit, counted, format_quantity, plain_number
from lesart.core.step import Step
from lesart.core.true.correction import residuals
from lesart.core.true.trust import judge
from lesart.desk.desk import Desk
from lesart.desk.picture import workspace_now
from lesart.project.model import Channel
from lesart.study.drawable import CalibrationSheet


def calibration_of(desk: Desk, date: str) -> CalibrationSheet | None:
    """The sheet of the chosen channel; None without a reference. ``date`` is printed as given."""
    channel = desk.state.chosen
    if not channel.references:
        return None
    step = desk.state.step
    desk.open_step(Step.TRUE)
    chart = workspace_now(desk).chart
    desk.open_step(step)
    if chart is None:
        return None
    return CalibrationSheet(chart, tuple(_head(channel, date)), _points(channel), _fits(channel))


def _head(channel: Channel, date: str) -> list[str]:
    """A few sentences over the table."""
    correction, unit = channel.correction, channel.unit
    lines = [f"{channel.name}, in {unit}", f"drawn {date}"]
    used = sum(reference.used for reference in channel.references)
    lines.append(f"{counted(len(channel.references), 'reference')}, {used} used; fit: {correction.kind}")
    if correction.curve is None and correction.kind != "none":
        offset = plain_number(correction.offset, 6)
        lines.append(
            f"true = {plain_number(correction.gain, 8)} × indicated + {beside_unit(offset, unit.symbol)}".replace(
                "+ −", "− "
            )
        )
    if correction.is_all_around:
        lines.append("known all around, as it comes round")
    elif correction.covered is not None:
        ends = correction.known
        # To a ten-thousandth of their span: finer figures would claim more than a fit knows.
        places = max(math.ceil(-math.log10((ends[1] - ends[0]) / 1e4)), 0) if ends[1] > ends[0] else 6
        low, high = (format_quantity(round(end, places), unit, 9) for end in ends)
        lines.append(f"known from {low} to {high}, a guess beyond")
    if correction.tare:
        lines.append(f"tare {format_quantity(correction.tare, unit.step, 5)}, subtracted after the fit")
    return lines


def _points(channel: Channel) -> tuple[tuple[str, ...], ...]:
    rows: list[tuple[str, ...]] = [("true", "±", "indicated", "before", "after", "spread", "n", "taken", "used")]
    for each in residuals(channel.correction, channel.references):
        known = each.reference
        rows.append(
            (
                plain_number(known.true, 6),
                plain_number(known.tolerance, 2) if known.tolerance else "—",
                plain_number(known.indicated, 7),
                _signed(each.before),
                _signed(each.after),
                plain_number(known.spread, 2) if known.spread else "—",
                str(known.count),
                known.taken,
                "yes" if known.used else "no",
            )
        )
    return tuple(rows)


def _fits(channel: Channel) -> tuple[tuple[str, ...], ...]:
    rows: list[tuple[str, ...]] = [("fits", "worst", "RMS", "left out", "")]
    for each in judge(channel.references, channel.unit, channel.correction.degree):
        figures = [
            plain_number(figure, 3) if math.isfinite(figure) else "—"
            for figure in (each.worst, each.rms, each.left_out)
        ]
        chosen = "chosen" if each.kind == channel.correction.kind else ""
        proposed = "proposed" if each.is_proposed else ""
        rows.append((each.kind, *figures, ", ".join(word for word in (chosen, proposed) if word)))
    return tuple(rows)


def _signed(amount: float) -> str:
    text = plain_number(amount, 3)
    return text if amount < 0 or text == "0" else f"+{text}"
