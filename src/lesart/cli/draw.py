"""``lesart draw``: a chart or a panel as a drawing."""

from __future__ import annotations

import argparse
import math
from datetime import datetime

from lesart.cli.printed.exported import before_work, write_out
from lesart.cli.project import channel_named
from lesart.cli.record import lasting
from lesart.core.errors import RequestError
from lesart.core.quantity import counted
from lesart.core.step import Step
from lesart.desk.desk import Desk
from lesart.desk.opening import look_at
from lesart.desk.picture import context_of, workspace_now
from lesart.desk.sheets.calibration import calibration_of
from lesart.desk.sheets.report_pages import report_pages
from lesart.desk.workspace.pace.pace import timing_of
from lesart.draw.paper import bound, drawing
from lesart.project.points_csv import points_csv
from lesart.study.drawable import Subject, hookup_sheet
from lesart.study.drawing import draw_subject, life_size
from lesart.study.lit.true_pixels import MOST_DOT, moving_file, picture_file
from lesart.study.views import Glass

ENDINGS = (".svg", ".pdf")
MOST_PICTURES = 600


def run(options: argparse.Namespace) -> int:
    """Write the drawing and say where it is."""
    ending = options.output.suffix.lower()
    own = {"sheet": (*ENDINGS, ".csv"), "glass": (*ENDINGS, ".png", ".gif"), "report": (".pdf",)}
    endings = own.get(options.view, ENDINGS)
    if ending not in endings:
        *first, last = endings
        said = f"{', '.join(first)} or {last}" if first else last
        raise RequestError(f"-o {options.output}: a drawing of {options.view} ends in {said}.")
    if not 1 <= options.dot <= MOST_DOT:
        raise RequestError(f"--dot {options.dot}: a dot has from 1 to {MOST_DOT} pixels.")
    desk = look_at(options.project)
    before_work(options, desk.folder)
    if options.view == "report":
        return _report(options, desk)
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
    desk.open_step({"sheet": Step.TRUE, "face": Step.GLASS}.get(options.view) or Step(options.view))
    subject: Subject | None
    if options.view == "wire":
        subject = hookup_sheet(desk.state.project)
    elif options.view == "sheet":
        subject = calibration_of(desk, f"{datetime.now():%Y-%m-%d}")
    elif options.view in ("glass", "face"):
        subject = next(iter(context_of(desk).glasses), None)
    elif options.view == "pace":
        subject = timing_of(context_of(desk))
    else:
        subject = workspace_now(desk).chart
    if subject is None:
        raise RequestError(f"there is nothing to draw: {_why_nothing(options.view, desk)}")
    if isinstance(subject, Glass) and ending in (".png", ".gif"):
        content = picture_file(subject, options.dot) if ending == ".png" else _moving(options, desk, subject)
        write_out(options, content, desk.folder)
        print(f"Drawn: {options.output}")
        return 0
    if options.view == "face" and isinstance(subject, Glass):
        return _life_size(options, desk, subject)
    of = {"wire": "hook-up", "pace": "timing"}.get(options.view, desk.state.channel)
    write_out(options, draw_subject(subject, ending, f"{desk.state.project.name} · {of}"), desk.folder)
    print(f"Drawn: {options.output}")
    return 0


def _why_nothing(view: str, desk: Desk) -> str:
    """Why there is nothing to draw, and what would help."""
    channel = desk.state.channel
    said = {
        "pace": "the loop has no task; + in 8 Pace adds one.",
        "wire": "the hook-up has no part; + in 1 Wire adds one.",
        "true": f"{channel} has no references; + in 4 True takes the first.",
        "glass": "the project has no panel; + in 7 Glass adds one.",
    }
    said |= {"sheet": said["true"], "face": said["glass"]}
    problem = "" if view in ("pace", "wire", "glass", "face") else context_of(desk).problem
    return problem or said.get(view, f"{channel} has no samples.")


def _life_size(options: argparse.Namespace, desk: Desk, glass: Glass) -> int:
    """The panel at its own size."""
    if not glass.dot_mm:
        raise RequestError(f"{glass.name}: its size is not known; give its pitch or the height of its digits.")
    write_out(options, drawing(life_size(glass), options.output.suffix), desk.folder)
    print(f"Drawn: {options.output}, to be printed at 100 %")
    return 0


def _report(options: argparse.Namespace, desk: Desk) -> int:
    """Everything in one file."""
    pages = list(report_pages(desk, f"{datetime.now():%Y-%m-%d}"))
    write_out(options, bound(pages), desk.folder)
    print(f"Drawn: {options.output}, {counted(len(pages), 'page')}")
    return 0


def _moving(options: argparse.Namespace, desk: Desk, first: Glass) -> bytes:
    """The face from the cursor on as an animated picture, at the firmware's drawing rate."""
    project, from_s = desk.state.project, desk.state.cursor_s
    faces = project.faces_on(first.name)
    lasts_s = lasting(options.lasts)
    every_s = 1.0 / max((face.redraw_hz for face in faces), default=1.0)
    count = max(math.ceil(lasts_s / every_s - 1e-9), 1)
    if count > MOST_PICTURES:
        raise RequestError(
            f"--for {options.lasts}: that is {count} pictures, drawn {1 / every_s:g} times a second; "
            f"at most {MOST_PICTURES} go into one file."
        )
    shown: list[tuple[Glass, float]] = []
    for place in range(count):
        desk.put_cursor(from_s + place * every_s)
        glass = next(each for each in context_of(desk).glasses if each.name == first.name)
        if shown and shown[-1][0] == glass:
            shown[-1] = (glass, shown[-1][1] + every_s)
        else:
            shown.append((glass, every_s))
    return moving_file([glass for glass, _ in shown], [each for _, each in shown], options.dot)
