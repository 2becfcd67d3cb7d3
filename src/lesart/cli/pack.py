"""``lesart pack``: channels in integers, written for firmware, compiled and compared."""

from __future__ import annotations

import argparse
from dataclasses import replace
from pathlib import Path
from typing import Any

from lesart.cli.printed.answer import print_json, quantity_of
from lesart.cli.project import channel_named, opened
from lesart.core.errors import RequestError
from lesart.core.pack.machine import Machine
from lesart.core.pack.settings import PackSettings
from lesart.core.pack.written.files import channel_summary
from lesart.core.quantity import counted, format_quantity
from lesart.live.printed_lines import is_live, printed_lines
from lesart.project.folder.files import read_whole
from lesart.project.model import Project
from lesart.study.packing.compared import Compared, compared
from lesart.study.packing.compiled import (
    Compiled,
    Sizes,
    compiled_and_run,
    other_compilers,
    sizes_for,
)
from lesart.study.packing.folder import check_pack_folder, stale_files, write_pack
from lesart.study.packing.made import Pack, PackedChannel, packed
from lesart.study.whole_bench import bench_at

PATIENCE_S = 20.0
"""A device that is silent for this long has finished, or never started."""
WITHOUT = "no C compiler is here; build test_pack.c elsewhere, and hand what it prints to --compare"


def run(options: argparse.Namespace) -> int:
    """1 where a channel is left out, the firmware differs from its model, or the pack is older than the project."""
    folder, project = opened(options.project)
    names = [channel_named(project, name).name for name in options.channel]
    if options.to is not None:
        check_pack_folder(options.to)
    pack = packed(project, bench_at(folder), _settings(project, options), names)
    if not pack.channels:
        raise RequestError(*pack.left_out.values() or [f"{project.name}: there is no channel to pack."])
    if options.check:
        return _checked(pack, options)
    if options.compare is not None:
        return _compared(project, pack, options)
    files = pack.files
    if options.to is not None:
        write_pack(options.to, files)
    done = None if options.no_compile else compiled_and_run(files)
    sizes = [] if options.no_compile else [sizes_for(each, files) for each in other_compilers()]
    if options.json:
        print_json(_object(pack, done, sizes, options))
    else:
        print("\n".join(_lines(pack, done, sizes, options)))
    differs = (done is not None and not done.ok) or any(each.ran not in ("", "equal") for each in sizes)
    return int(bool(pack.left_out) or differs)


def _settings(project: Project, options: argparse.Namespace) -> PackSettings:
    own = project.pack
    machine = Machine(
        int(options.word) if options.word else own.machine.word,
        own.machine.multiplier and not options.no_multiplier,
        own.machine.divider and not options.no_divider,
    )
    share = own.share if options.within is None else _share(options.within)
    return replace(own, machine=machine, share=share)


def _share(written: str) -> float:
    return quantity_of(written, "--within", "%", lowest=5, highest=100) / 100


def _checked(pack: Pack, options: argparse.Namespace) -> int:
    where = _folder(options, "--check")
    stale = stale_files(where, pack.files)
    if options.json:
        print_json({"folder": str(where), "as_the_project": not stale, "differ": list(stale)})
    elif stale:
        print(
            f"{where}: {', '.join(stale[:5])}{' …' if len(stale) > 5 else ''} not as the project gives; pack it again."
        )
    else:
        print(f"{where}: as the project gives it.")
    return int(bool(stale))


def _folder(options: argparse.Namespace, option: str) -> Path:
    if options.to is None:
        raise RequestError(f"{option} needs --to FOLDER, where the pack is.")
    return Path(options.to)


def _compared(project: Project, pack: Pack, options: argparse.Namespace) -> int:
    if is_live(options.compare):
        lines = printed_lines(options.compare, options.baud, PATIENCE_S)
        found = compared(pack, lines, ends_early=True)
    else:
        text = read_whole(Path(options.compare)).decode("utf-8", "replace")
        found = compared(pack, text.splitlines())
    if options.json:
        print_json(
            {"rows": found.rows, "wanted": found.wanted, "difference": found.difference or None, "unread": found.unread}
        )
    else:
        print("\n".join([_said_of(found.rows, found.wanted, found.difference), *_as_if(project, pack, found, options)]))
    return int(not found.ok)


def _as_if(project: Project, pack: Pack, found: Compared, options: argparse.Namespace) -> list[str]:
    """For each channel whose law differs: the one statement that would explain the device's results."""
    from lesart.study.why.device import why_device

    lines = []
    bench = bench_at(opened(options.project)[0])
    for each in pack.channels:
        rows = found.laws.get(each.form.wanted.title, ())
        why = why_device(project, bench, each.form, rows) if rows else None
        if why is not None and why.answers:
            explained = why.answers[0].explanation.sentence
            lines.append(f"{each.form.wanted.title}, why: {explained}.")
    return lines


def _said_of(rows: int, wanted: int, difference: str) -> str:
    if difference:
        return difference
    if rows < wanted:
        return (
            f"{rows} of {counted(wanted, 'row')} are there came and are equal; the device has not printed the others."
        )
    return f"equal in all {counted(rows, 'row')}"


def _object(pack: Pack, done: Compiled | None, sizes: list[Sizes], options: argparse.Namespace) -> dict[str, Any]:
    channels = [
        channel_summary(each.form, len(each.vectors))
        | {
            "followed_readings": each.followed.readings,
            "followed_worst": each.followed.worst,
            "followed_otherwise": each.followed.otherwise,
        }
        for each in pack.channels
    ]
    return {
        "project": pack.title,
        "word": pack.settings.machine.word,
        "folder": str(options.to) if options.to is not None else None,
        "files": sorted(pack.files),
        "channels": channels,
        "left_out": dict(pack.left_out),
        "not_drawn": list(pack.undrawn.values()),
        "compiled": None if done is None else {"compiler": done.compiler, "ok": done.ok, "says": done.says},
        "sizes": [
            {"target": each.target, "code": each.code, "data": each.data, "says": each.says, "ran": each.ran}
            for each in sizes
        ],
    }


def _lines(pack: Pack, done: Compiled | None, sizes: list[Sizes], options: argparse.Namespace) -> list[str]:
    lines = [_line(each) for each in pack.channels]
    lines += [f"left out: {said}" for said in pack.left_out.values()]
    lines += [f"not drawn: {said}" for said in pack.undrawn.values()]
    if options.to is not None:
        lines.append(f"written: {counted(len(pack.files), 'file')} into {options.to}")
    if done is not None:
        lines.append(done.says if done.ok else f"† {done.says}")
    elif not options.no_compile:
        lines.append(WITHOUT)
    return [*lines, *(f"for {each.target}: {each.said}" for each in sizes)]


def _line(channel: PackedChannel) -> str:
    form = channel.form
    worst = format_quantity(form.law.agreement.worst, form.law_unit, 2)
    return (
        f"{form.wanted.title:<20} {form.law.form.says:<32} worst {worst:<12} "
        f"{form.memory_bytes:>5} B  tables {form.table_bytes:>5} B  {form.operations:>4} operations"
    )
