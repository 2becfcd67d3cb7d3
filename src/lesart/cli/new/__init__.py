"""``lesart new``: a project from a capture."""

from __future__ import annotations

import argparse
from collections.abc import Sequence
from pathlib import Path
from typing import TYPE_CHECKING

from lesart.cli.printed.answer import print_json
from lesart.core.errors import RequestError
from lesart.core.notes import Note
from lesart.core.quantity import counted, rate_said
from lesart.core.visible import visible
from lesart.desk.opening import folder_for
from lesart.project.folder.files import is_device
from lesart.project.new.make import Made, make_project

if TYPE_CHECKING:
    from lesart.desk.desk import Desk


def run(options: argparse.Namespace) -> int:
    """Make it and say what was found; open it when asked."""
    if is_device(options.file):
        from lesart.cli.new.from_port import heard

        made = heard(options)
    else:
        made = make_project(
            options.file,
            options.folder or folder_for(options.file),
            options.kind or "",
            layout=options.layout,
            signals=options.line,
        )
    assumed = _said(made, options.what) if options.what else ()
    shape = made.shape
    if options.json:
        print_json(
            {
                "folder": str(made.folder),
                "format": made.format,
                "delimiter": shape.delimiter if shape else None,
                "decimal": shape.decimal if shape else None,
                "header": shape.header if shape else None,
                "time": made.time.column or None,
                "time_unit": made.time.unit if made.time.column else None,
                "clock": made.time.clock or None,
                "rate_is_assumed": made.assumes_rate,
                "rate_hz": made.rate_hz,
                "rows": made.rows,
                "bad_rows": made.bad_rows,
                "channels": list(made.channels),
                "said": list(made.said),
                **_trace_object(made),
                **({"assumed": [note.text for note in assumed]} if options.what else {}),
            }
        )
    elif not options.open:
        _say(options.file, made, assumed)
    if options.open:
        from lesart.cli.screen import show

        def opener() -> Desk:
            from lesart.desk.opening import open_desk

            return open_desk(made.folder)

        return show(opener, str(made.folder))
    return 0


def _said(made: Made, what: str) -> tuple[Note, ...]:
    """Apply a line that describes the first column; gives the assumptions.

    Raises RequestError; the folder then exists without it.
    """
    from lesart.core.step import Step
    from lesart.desk.entries.recipes.which import with_article
    from lesart.desk.opening import open_desk
    from lesart.study.assumptions import inspect_assumed

    desk = open_desk(made.folder)
    try:
        desk.open_step(Step.LAW)
        desk.add(with_article(what))
        if desk.state.message_is_fault:
            raise RequestError(f"{made.folder} is made, without --is: {desk.state.message}")
        desk.save()
        return tuple(inspect_assumed(desk.state.project))
    finally:
        desk.close()


def _say(file: Path, made: Made, assumed: Sequence[Note]) -> None:
    """Print what was found, and how to open it."""
    bad = f", {made.bad_rows} of them bad" if made.bad_rows else ""
    shape = made.shape
    if shape is not None:
        thousands = f', thousands "{shape.thousands}"' if shape.thousands != "none" else ""
        print(
            f'{file}: cells by "{shape.delimiter}", decimal "{shape.decimal}"{thousands}, '
            f"{counted(shape.header, 'header line')}."
        )
    noun = counted(made.rows, "sample" if shape is None else "row")
    if made.talks:
        signals = counted(sum(len(talk.signals) for talk in made.talks), "signal")
        lost = f"; {made.bad_rows} of {counted(made.rows, 'reading')} {'is' if made.bad_rows == 1 else 'are'} bad"
        print(f"{file}: a trace of {signals}{lost if made.bad_rows else ''}. Channels: {', '.join(made.channels)}.")
    begin = "" if shape else f"{file}: {made.format}, "
    if not made.talks:
        print(f"{begin}{noun}{bad}, {_time(made)}. Channels: {', '.join(made.channels)}.")
    for sentence in made.said:
        print(f"‡ {sentence}.")
    for sentence in made.heard:
        print(visible(f"{sentence}."))
    if made.panels:
        _show_panels(made)
    for note in assumed:
        print(f"{note.mark} {note.text}")
    print(f"lesart open {made.folder} shows it.")


def _trace_object(made: Made) -> dict[str, object]:
    """The talks of a trace and its displays, for scripts."""
    if not made.talks:
        return {}
    return {
        "talks": [
            {
                "kind": talk.kind,
                "lines": {role: name for role, name in talk.lines if name},
                "sure": round(talk.sure, 3),
                "why": talk.why,
                "values": dict(talk.values),
            }
            for talk in made.talks
        ],
        "displays": [
            {"panel": name, **display.panel, "sure": round(display.sure, 3), "why": display.why}
            for name, display in zip(made.panels, made.displays, strict=True)
        ],
    }


def _show_panels(made: Made) -> None:
    """Print the picture on each glass at the end of the trace."""
    from lesart.cli.project import opened
    from lesart.study.whole_bench import bench_at
    from lesart.study.wires.last_picture import printed

    folder, project = opened(made.folder)
    bench = bench_at(folder, keeps=False)
    for name in made.panels:
        print(f"{name}, {project.panels[name].says()}, at the end of the trace:")
        for row in printed(project, bench, name):
            print(f"  {row}".rstrip())


def _time(made: Made) -> str:
    """The source of the times, in words."""
    if made.assumes_rate:
        return "no time column, so 1 Hz is assumed"
    if not made.time.column:
        return rate_said(made.rate_hz)
    clock = f' with "{visible(made.time.clock)}"' if made.time.clock else ""
    return f'time "{visible(made.time.column)}"{clock} as {made.time.unit}, {rate_said(made.rate_hz)}'
