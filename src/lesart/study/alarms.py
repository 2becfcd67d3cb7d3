"""Alarms of a channel over its capture: what each did, and which are on at a given time."""

from __future__ import annotations

from dataclasses import replace

from lesart.core.block import Block
from lesart.core.calm.alarm import AlarmFacts, alarm_facts
from lesart.core.fit.field import Reading
from lesart.project.model import Channel
from lesart.study.bench import Bench
from lesart.study.run import Run


def facts_of_alarm(bench: Bench, channel: Channel, block: Block, index: int) -> AlarmFacts:
    """What one of a channel's alarms did over its capture, cached."""
    return bench.once_for(f"alarm {index}", channel, block, lambda: alarm_facts(channel.alarms[index], block))


def with_alarms(bench: Bench, channel: Channel, run: Run, reading: Reading, cursor_s: float) -> Reading:
    """The reading with the names of the alarms that are on at the cursor."""
    if not channel.alarms:
        return reading
    index = run.index_at(cursor_s)
    on = tuple(
        alarm.name
        for place, alarm in enumerate(channel.alarms)
        if index >= 0 and facts_of_alarm(bench, channel, run.calm, place).on[index]
    )
    return replace(reading, alarms=on)
