"""``lesart draw``: a chart or a panel as a drawing."""

from __future__ import annotations

import argparse
from datetime import datetime

from lesart.cli.exported import write_out
from lesart.cli.project import channel_named
from lesart.core.errors import RequestError
from lesart.core.step import Step
from lesart.desk.calibration import calibration_of
from lesart.desk.opening import look_at
from lesart.desk.picture import context_of, picture_of
from lesart.desk.workspace.pace.pace import timing_of
from lesart.project.points_csv import points_csv
from lesart.study.drawable import Subject, hookup_sheet
from lesart.study.drawing import draw_subject


def run(options: argparse.Namespace) -> int:
    """Write the drawing and say where it is."""
    ending = options.output.suffix.lower()
    if ending not in (".svg", ".pdf") and (ending, options.view) != (".csv", "sheet"):
        raise RequestError(f"-o {options.output}: a drawing ends in .svg or .pdf.")
    desk = look_at(options.project)
    if options.channel is not None:
        desk.choose_channel(channel_named(desk.state.project, options.channel).name)
    if ending == ".csv":
        write_out(options, points_csv(desk.state.chosen), desk.folder)
        print(f"Written: {options.output}")
        return 0
    if options.panel is not None:
        if options.panel not in desk.state.project.panels:
            known = ", ".join(desk.state.project.panels) or "none"
            raise RequestError(f'panel "{options.panel}" is not in the project, which has {known}.')
        desk.choose_panel(options.panel)
    if options.at is not None:
        desk.put_cursor(options.at)
    desk.open_step(Step.TRUE if options.view == "sheet" else Step(options.view))
    subject: Subject | None
    if options.view == "wire":
        subject = hookup_sheet(desk.state.project)
    elif options.view == "sheet":
        subject = calibration_of(desk, f"{datetime.now():%Y-%m-%d}")
    elif options.view == "glass":
        subject = next(iter(context_of(desk).glasses), None)
    elif options.view == "pace":
        subject = timing_of(context_of(desk))
    else:
        subject = picture_of(desk).workspace.chart
    if subject is None:
        of = (
            "the loop; it has no task"
            if options.view == "pace"
            else "the hook-up; it has no part"
            if options.view == "wire"
            else f"{options.view} of {desk.state.channel}"
        )
        raise RequestError(f"there is nothing to draw for {of}.")
    of = {"wire": "hook-up", "pace": "timing"}.get(options.view, desk.state.channel)
    write_out(options, draw_subject(subject, ending, f"{desk.state.project.name} · {of}"), desk.folder)
    print(f"Drawn: {options.output}")
    return 0
