"""Calm, second leaf: what the filters do to a step, to each frequency, to a ramp and to a spike."""

from __future__ import annotations

import math

from lesart.core.calm.response import Response, respond
from lesart.core.chain import Chain
from lesart.core.step import Step
from lesart.desk.workspace.context import Context, label, number, span_of, text, wrapped
from lesart.study.bench import turn_of
from lesart.study.views import Chart, Line, Series

MAINS_HZ = (50.0, 60.0)
SIZE_OF_NOISE = 20.0
"""Test signals are this many times the noise, so that filters that ignore small changes do not ignore them."""
NEAR_HZ = 1e-3
STEP_SHOWN = 1.5
"""Of the time in which a step settles."""


def response_of(context: Context) -> Response | None:
    """The response of the channel's filters, cached while they and the capture stay the same; None without samples."""
    run, channel = context.run, context.channel
    if run is None or not len(run.blocks[Step.TRUE]):
        return None
    before = run.blocks[Step.TRUE]

    def compute() -> Response | None:
        interval = context.bench.timing(before).interval_s
        least, most = context.bench.middle(before)
        if not interval > 0:
            return None
        noise = context.bench.noise(context.bench.on_a_line(channel, before))
        size = max(SIZE_OF_NOISE * noise, 0.01 * (channel.highest - channel.lowest))
        if turn := turn_of(channel):  # a step of more than half a turn goes the other way
            size = min(size, turn / 8.0)
        links = tuple(link for link in channel.chain.links if link.step == Step.CALM)
        return respond(Chain(channel.unit, channel.unit, links), interval, 0.5 * (least + most), size)

    return context.in_time("response", channel, before, compute)


def response_lines(context: Context) -> list[Line]:
    """Figures of the response, and what the mains leaves."""
    found = response_of(context)
    if context.run is None or found is None:
        few = "…" if context.in_haste else "There are too few samples to say how often they come."
        return wrapped(context.problem or few, "faint")
    unit = context.channel.unit.symbol
    step = found.step
    interval = context.bench.timing(context.run.blocks[Step.TRUE]).interval_s
    half, is_assumed = 0.5 / interval, context.project.assumes_rate(context.channel.source)
    lines: list[Line] = [
        (
            label("a step: 10 to 90 % in "),
            text(number(step.rise_s, "s", 3)),
            label("   over by "),
            text(f"{number(round(100 * step.overshoot, 6), '', 2)} %"),
            label("   within 2 % after "),
            text(number(step.settles_s, "s", 3)),
        ),
        (
            label("a ramp of 1 "),
            label(f"{unit}/s is wrong by "),
            text(number(abs(found.ramp_lag_s), unit, 3)),
            label("   a lone spike leaves "),
            text(f"{number(100 * found.spike, '', 2)} %"),
            label(" of itself"),
        ),
        (
            label("71 % are left at "),
            text(number(found.frequencies.cutoff_hz, "Hz", 3)),
            label("   samples come at "),
            text(number(1 / interval, "Hz", 4)),
            *((text(" assumed", "ochre"),) if is_assumed else ()),
            label(", half of that is "),
            text(number(half, "Hz", 4)),
        ),
    ]
    return [*lines, *_mains(found, 1 / interval)]


def _mains(found: Response, rate_hz: float) -> list[Line]:
    """What is left of mains hum, and its alias where samples are too slow for it."""
    lines: list[Line] = []
    for mains in MAINS_HZ:
        seen = round(abs(mains - rate_hz * round(mains / rate_hz)), 6)
        as_what = "" if abs(seen - mains) < NEAR_HZ else f", seen as {number(seen, 'Hz', 3)}"
        if seen < NEAR_HZ:
            as_what = ", seen as an error that hardly moves"
        left = _gain_at(found, seen)
        lines.append(
            (
                label(f"mains of {mains:g} Hz{as_what}: "),
                text(f"{number(100 * left, '', 2)} %" if math.isfinite(left) else "—"),
                label(" left"),
            )
        )
    return lines


def _gain_at(found: Response, hz: float) -> float:
    """Gain between the measured frequencies, interpolated logarithmically; below them that of the lowest."""
    hz_tried, gain = found.frequencies.hz, found.frequencies.gain
    if hz <= hz_tried[0]:
        return float(gain[0])
    for place in range(1, len(hz_tried)):
        if hz <= hz_tried[place]:
            low, high = float(hz_tried[place - 1]), float(hz_tried[place])
            share = math.log(hz / low) / math.log(high / low)
            return float(gain[place - 1] + share * (gain[place] - gain[place - 1]))
    return float(gain[-1])


def response_chart(context: Context) -> Chart | None:
    """The step response, and next to it in the same frame the frequency response: both from 0 to 1."""
    found = response_of(context)
    if found is None or not len(found.step.y):
        return None
    settles = found.step.settles_s
    end = STEP_SHOWN * settles if math.isfinite(settles) and settles > 0 else float(found.step.t_s[-1])
    end = max(end, float(found.step.t_s[min(8, len(found.step.t_s) - 1)]))
    shown = found.step.t_s <= end
    t, y = found.step.t_s[shown].tolist(), found.step.y[shown].tolist()
    ideal = Series("step", [t[0], t[0], end], [0.0, 1.0, 1.0], "faint", "dots")
    out = Series("what comes out", [t[0], *t], [0.0, *y], "verdigris")
    low, high = span_of([ideal, out], 0.1)
    return Chart("response", (ideal, out), "seconds after the step", "step / 1", (0.0, end), (low, high))


def frequency_chart(context: Context) -> Chart | None:
    """The frequency response in decibels over decades, up to half the sample rate."""
    found = response_of(context)
    if found is None:
        return None
    hz, gain = found.frequencies.hz.tolist(), found.frequencies.gain.tolist()
    decades = [math.log10(each) for each in hz]
    decibels = [20 * math.log10(max(each, 1e-4)) if math.isfinite(each) else -80.0 for each in gain]
    line = Series("left of it", decades, decibels, "verdigris")
    third = Series("71 %", [decades[0], decades[-1]], [-3.01, -3.01], "faint")
    return Chart(
        "frequencies",
        (third, line),
        "Hz",
        "left of each frequency / dB",
        (decades[0], decades[-1]),
        span_of([line, third], 0.08),
        decades=True,
    )
