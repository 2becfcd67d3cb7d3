"""True, the leaf of calibrations: the adopted one, earlier ones, and the sensor's drift between them."""

from __future__ import annotations

import math
from datetime import date

from lesart.core.notes import Key
from lesart.core.quantity import beside_unit, counted
from lesart.core.step import Step
from lesart.core.true.correction import residuals
from lesart.core.true.history import Calibration, drift_between
from lesart.desk.workspace.context import Context, cut, decimals_for, label, number, span_of, text, value
from lesart.desk.workspace.true.fits import fit_series, signed
from lesart.study.views import Chart, Line, Series, Tone

TONES: tuple[Tone, ...] = ("ochre", "lapis", "text")
NAME = 15


def history_lines(context: Context) -> list[Line]:
    """One row per calibration, with the change since then."""
    channel = context.channel
    adopted = channel.adopted
    head = f"   {'calibration':<{NAME}}{'day':<11}{'fit':<14}{'n':>2}{'zero moved':>12}{'gain':>9}{'most':>8}"
    lines: list[Line] = [(label(head),)]
    lines += [(text(" ▌ ", "rubric"), *_calibration(context, adopted, (*channel.key("true"), "kind")))]
    for each in sorted(channel.calibrations, key=lambda kept: -(kept.day or 0)):
        place = ("channels", channel.name, "calibrations", each.name, "kind")
        lines.append((text("   "), *_calibration(context, each, place), *_moved(each, adopted)))
    if not channel.calibrations:
        lines += [
            (),
            (text("+", "ochre"), label(" puts the adopted one away under a name, so that new ones can be taken")),
        ]
        return lines
    return [
        *lines,
        *_pace(context),
        (),
        (
            text("a", "ochre"),
            label(" adopts the selected one, "),
            text("delete", "ochre"),
            label(" takes it away, "),
            text("+", "ochre"),
            label(" puts the adopted one away"),
        ),
    ]


def _calibration(context: Context, each: Calibration, place: Key) -> Line:
    day = date.fromordinal(each.day).isoformat() if each.day else "no date"
    used = sum(reference.used for reference in each.references)
    kind = value(context.project, place, title=f"fit of {each.name}")
    return (
        text(f"{cut(each.name, NAME - 1):<{NAME}}", "ochre"),
        label(f"{day:<11}"),
        kind,
        text(" " * max(14 - len(kind.text), 1)),
        text(f"{used:>2}"),
    )


def _moved(kept: Calibration, adopted: Calibration) -> Line:
    """The sensor's drift up to the adopted one."""
    found = drift_between(kept, adopted)
    if found is None:
        return (label(f"{'—':>12}{'—':>9}{'—':>8}"),)
    unit = str(adopted.correction.unit_in.step).removesuffix(" 1")
    decimals = decimals_for(max(abs(found.zero), abs(found.most) if math.isfinite(found.most) else 0.0, 1e-9) / 100)
    zero = beside_unit(signed(found.zero, decimals), unit)
    most = signed(found.most, decimals) if math.isfinite(found.most) else "—"
    return (text(f"{zero:>12}{signed(found.gain * 100, 2) + ' %':>9}{most:>8}"),)


def _pace(context: Context) -> list[Line]:
    """A sentence on how fast the zero drifts, and where it drifts most."""
    adopted = context.channel.adopted
    earlier = [each for each in context.channel.calibrations if each.day is not None and each.day < (adopted.day or 0)]
    before = max(earlier, key=lambda each: each.day or 0, default=None)
    found = drift_between(before, adopted) if before else None
    if found is None or before is None or found.zero_a_year is None:
        return []
    unit = str(adopted.correction.unit_in.step)
    said = f"{number(abs(found.zero_a_year), unit, 2)} a year"
    lines: list[Line] = [
        (),
        (
            label("   since "),
            text(before.name),
            label(f", {counted(found.days or 0, 'day')}: the zero moves by "),
            text(said),
        ),
    ]
    if math.isfinite(found.most):
        most = f"{number(found.most, unit, 2)} at {number(found.most_at, unit, 3)}"
        lines.append((label("   most of all it moved "), text(most)))
    return lines


def history_chart(context: Context) -> Chart | None:
    """The sensor's error by each calibration, over the indication."""
    channel = context.channel
    every = [channel.adopted, *channel.calibrations]
    drawn = [each for each in every if each.correction.covered is not None]
    ends = [edge for each in drawn for edge in each.correction.covered or ()]
    if not ends:
        return None
    room = (max(ends) - min(ends)) * 0.05 or 1.0
    low, high = min(ends) - room, max(ends) + room
    series = [Series("zero", [low, high], [0.0, 0.0], "faint")]
    for place, each in enumerate(drawn):
        tone: Tone = "verdigris" if each is every[0] else TONES[(place - 1) % len(TONES)]
        found = residuals(each.correction, each.references)
        series += fit_series(each.correction, low, high, each.name, tone)
        series.append(
            Series(
                each.name,
                [one.reference.indicated for one in found],
                [one.before for one in found],
                tone,
                "points" if each is every[0] else "rings",
            )
        )
    return Chart(
        title="calibrations",
        series=tuple(series),
        x_label=f"indicated / {channel.unit}",
        y_label=f"error / {channel.unit}",
        x_range=(low, high),
        y_range=span_of(series, 0.12),
        cursor=context.here[Step.LAW].value,
    )
