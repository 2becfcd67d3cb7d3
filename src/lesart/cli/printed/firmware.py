"""One value through the firmware's integers, stage by stage."""

from __future__ import annotations

from collections.abc import Mapping
from pathlib import Path
from typing import Any

from lesart.core.block import Mark, mark_word
from lesart.core.pack.channel_form import ChannelForm
from lesart.core.pack.written.vectors import Given, Vector, vectors
from lesart.core.quantity import format_quantity
from lesart.project.model import Channel, Project
from lesart.study.packing.made import channel_packed_alone
from lesart.study.whole_bench import bench_at

MOST_SAMPLES = 5000
BEGINS_MS = 1000


def through_firmware(
    folder: Path, project: Project, channel: Channel, raw: float, beside: Mapping[str, float]
) -> tuple[ChannelForm, Vector]:
    """The result of each stage for a constant ``raw``. Raises PackError."""
    form = channel_packed_alone(project, bench_at(folder), channel, project.pack).form
    wanted = form.wanted
    number = min(max(round(wanted.raw.number(raw)), wanted.low), wanted.high)
    other, other_mark = 0, 0
    if wanted.beside is not None:
        value = beside.get(wanted.beside.title, float("nan"))
        known = value == value
        other = round(wanted.beside.scale.number(value)) if known else wanted.beside.low
        other = min(max(other, wanted.beside.low), wanted.beside.high)
        other_mark = 0 if known else int(Mark.MISSING)
    count = min(1 + channel.chain.memory_samples, MOST_SAMPLES)
    step_ms = max(round(wanted.interval_s * 1000), 1)
    given = (Given(number, 0, BEGINS_MS + place * step_ms, other, other_mark) for place in range(count))
    made = [each for each in vectors(form, given) if each.stages[-1].passes]
    return form, made[-1]


def firmware_object(form: ChannelForm, vector: Vector) -> dict[str, Any]:
    """For a script: every stage with its integer."""
    functions = (form.law.function, *form.calm)
    unit = form.wanted.chain.unit.symbol
    return {
        "channel": form.wanted.title,
        "word": form.wanted.machine.word,
        "raw_number": vector.given.raw,
        "step": float(form.scale.step),
        "stages": [
            {
                "place": function.place,
                "x": stage.x,
                "value": form.scale.value(stage.x),
                "unit": unit,
                "mark": mark_word(stage.mark),
            }
            for function, stage in zip(functions, vector.stages, strict=True)
        ],
        "fields": [
            {"place": function.place, "codes": list(codes)}
            for function, codes in zip(form.fields, vector.cells, strict=True)
        ],
    }


def firmware_lines(form: ChannelForm, vector: Vector) -> list[str]:
    """The same for a person."""
    unit = form.wanted.chain.unit
    title = f"{form.wanted.title}, "
    lines = [f"{'raw number':<34}{vector.given.raw:>12}"]
    for function, stage in zip((form.law.function, *form.calm), vector.stages, strict=True):
        says = "" if function is form.law.function else f" {function.says}"
        name = f"{function.place.removeprefix(title)}{says}"
        mark = f"   {mark_word(stage.mark)}" if stage.mark else ""
        lines.append(f"{name[:33]:<34}{stage.x:>12}{format_quantity(form.scale.value(stage.x), unit, 9):>20}{mark}")
    for function, codes in zip(form.fields, vector.cells, strict=True):
        lines.append(f"{function.place.removeprefix(title)[:33]:<34}{' '.join(f'{code:02X}' for code in codes)}")
    return lines
