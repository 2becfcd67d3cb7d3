"""``lesart hand``: one value at every step, the field's cells and codes, and the frame of a panel."""

from __future__ import annotations

import argparse
from collections.abc import Mapping
from dataclasses import replace
from pathlib import Path
from typing import Any, assert_never

from lesart.cli.hand.sure import sure_object, sure_said, sureness_of
from lesart.cli.printed.answer import exit_code, note_lines, note_object, number, print_json
from lesart.cli.project import channel_named, opened
from lesart.core.errors import LesartError, QuantityError, RequestError, UnitError
from lesart.core.fit.cells import Cell
from lesart.core.glass.panels.frame import CharacterFrame, Frame, PixelFrame, SegmentFrame
from lesart.core.glass.panels.panel import Panel
from lesart.core.glyphs.segments import lit_names
from lesart.core.pack.settings import FLOATS
from lesart.core.quantity import format_quantity
from lesart.core.raw.spelled.unit_typed import in_symbols, quantity_typed
from lesart.core.units import Unit
from lesart.desk.hand import HandResult, follow, given_between, raw_for_reading, raw_from_text
from lesart.desk.inspect_hand import inspect_hand
from lesart.project.model import Channel, Project
from lesart.project.tables.variants import FIRST


def run(options: argparse.Namespace) -> int:
    """Print the value at every step; 1 when a note on it is a fault."""
    folder, project = opened(options.project)
    channel = channel_named(project, options.channel, options.variant)
    plain = channel
    if channel.computed != FLOATS:
        from lesart.study.whole_bench import bench_at

        channel = bench_at(folder).as_computed(project, channel)
    readings: Mapping[str, float] = {}
    if channel.chain.reads:
        readings = _beside(folder, project, channel, options.beside)
        channel = replace(channel, chain=channel.chain.at(readings))
    elif options.beside:
        raise RequestError(f'--with "{options.beside[0]}": no law of {channel.name} reads another channel.')
    if options.raw is not None:
        raw = _raw(options.raw, channel)
    else:
        raw = raw_for_reading(channel, _typed(options.reading, channel.unit, "--reading"))
    if options.firmware:
        return _by_firmware(folder, project, plain, raw, readings, as_json=options.json)
    result = follow(project, channel, raw, options.panel)
    notes = inspect_hand(project, channel, result)
    sure = None
    if options.sure:
        # By the laws as stated: in integers they may be one table, without values to shift.
        standing = replace(plain, chain=plain.chain.at(readings)) if readings else plain
        sure = sureness_of(project, plain, standing, raw, _count_step(folder, project, plain))
    if options.json:
        more = {} if sure is None else {"sure": sure_object(sure, channel)}
        print_json(_object(channel, result) | more | {"notes": [note_object(note) for note in notes]})
    else:
        said = [] if sure is None else sure_said(sure, channel)
        print("\n".join([*_lines(result), *said, *note_lines(notes)]))
    return exit_code(notes)


def _by_firmware(
    folder: Path, project: Project, channel: Channel, raw: float, readings: Mapping[str, float], *, as_json: bool
) -> int:
    """The value in integers, as Pack writes them, without notes."""
    from lesart.cli.printed.firmware import firmware_lines, firmware_object, through_firmware

    form, vector = through_firmware(folder, project, channel, raw, readings)
    if as_json:
        print_json(firmware_object(form, vector))
    else:
        print("\n".join(firmware_lines(form, vector)))
    return 0


def _count_step(folder: Path, project: Project, channel: Channel) -> int:
    """The common step of counts in the channel's capture; 1 where it cannot be read."""
    from lesart.study.whole_bench import bench_at

    if channel.unit_raw.symbol != "ct":
        return 1
    bench = bench_at(folder)
    try:
        return bench.code_step(bench.raw(project, channel))
    except LesartError:
        return 1


def _beside(folder: Path, project: Project, channel: Channel, beside: list[str]) -> Mapping[str, float]:
    """Readings of the channels that it reads: as given, or at the end of their captures."""
    from lesart.study.whole_bench import bench_at

    given: dict[str, float] = {}
    for setting in beside:
        name, sign, written = setting.partition("=")
        if not sign or name not in channel.chain.reads:
            known = ", ".join(channel.chain.reads)
            raise RequestError(f'--with "{setting}": write it NAME=VALUE; {channel.name} reads {known}.')
        given[name] = _typed(written, project.channels[name].unit, f"--with {name}")
    if given.keys() >= set(channel.chain.reads):
        return given
    return {**bench_at(folder).readings_at(project, channel.chain.reads, float("inf")), **given}


def _raw(text: str, channel: Channel) -> float:
    """The raw value, also from a value in between, as a voltage at the pin.

    Raises RequestError; for a reading with the option that accepts it.
    """
    try:
        return _typed(text, channel.unit_raw, "--raw")
    except RequestError:
        if given_between(channel, text):
            return raw_from_text(channel, text)
        is_other = not channel.unit.same_dimension(channel.unit_raw)
        if is_other and in_symbols(text, channel.unit).endswith(channel.unit.symbol):
            raise RequestError(f'--raw "{text}" is a reading; --reading takes it.') from None
        raise


def _typed(text: str, unit: Unit, option: str) -> float:
    try:
        return quantity_typed(text, unit).to(unit)
    except (QuantityError, UnitError) as error:
        raise RequestError(f'{option} "{text}": {str(error).rstrip(".")}; give a number in {unit}.') from error


def _object(channel: Channel, result: HandResult) -> dict[str, Any]:
    steps = [
        {"step": each.step, "kind": each.kind, "value": number(each.value), "unit": each.unit, "mark": each.mark}
        for each in result.steps
    ]
    return {
        "channel": channel.name,
        "variant": channel.variant or FIRST,
        "steps": steps,
        "field": _field(result),
        "panel": _panel(result),
    }


def _field(result: HandResult) -> dict[str, Any] | None:
    """The field for scripts. Codes are those sent; null without a panel."""
    if result.shown is None:
        return None
    codes = [_sent(result.panel, cell) for cell in result.shown.cells]
    return {"text": result.shown.text, "cells": [str(cell) for cell in result.shown.cells], "codes": codes}


def _sent(panel: Panel | None, cell: Cell) -> int | None:
    code = None if panel is None else panel.code(cell)
    return None if panel is None or code is None else panel.sent_code(code)


def _panel(result: HandResult) -> dict[str, Any] | None:
    if result.panel is None or result.composed is None:
        return None
    return {"name": result.panel.name, "kind": result.panel.kind, "lit": lit_object(result.composed.frame)}


def lit_object(frame: Frame) -> list[Any]:
    """The frame for scripts.

    Segments: the lit ones of each digit, ``.`` for its point. Characters: rows of dots, ``#`` lit.
    """
    match frame:
        case SegmentFrame():
            return [lit_names(mask, frame.alphabet) for mask in frame.masks]
        case PixelFrame():
            width, height = frame.width, frame.height
        case CharacterFrame():
            width, height = 5 * len(frame.dots[0]), 8 * len(frame.dots)
        case _:
            assert_never(frame)
    return ["".join("#" if frame.lit(x, y) else "." for x in range(width)) for y in range(height)]


def _lines(result: HandResult) -> list[str]:
    from lesart.core.units import parse_unit

    lines = [
        f"{each.step:<6}{each.kind:<18}{format_quantity(each.value, parse_unit(each.unit), 9):>20}"
        f"{'' if each.mark is None else '   ' + each.mark}"
        for each in result.steps
    ]
    field = _field(result)
    if field is not None and result.shown is not None:
        codes = " ".join("--" if code is None else f"{code:02X}" for code in field["codes"])
        lines.append(f"{'fit':<6}{result.shown.state:<18}{'[' + field['text'] + ']':>20}   {codes}")
    panel = _panel(result)
    if panel is not None:
        lines.append(f"{'glass':<6}{panel['name']}, {panel['kind']}")
        if panel["kind"] == "segments":
            lines += [f"      digit {place}  {lit or 'dark'}" for place, lit in enumerate(panel["lit"], 1)]
        else:
            lines += [f"      {row}" for row in panel["lit"]]
    return lines
