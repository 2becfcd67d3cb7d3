"""The open view as a drawing, made in a thread of its own: the plotting library takes a second to load."""

from __future__ import annotations

import re
import threading
from collections.abc import Callable
from datetime import datetime
from pathlib import Path

from lesart.core.errors import LesartError
from lesart.core.step import Step
from lesart.desk.desk import Desk
from lesart.desk.picture import context_of, workspace_now
from lesart.desk.sheets.calibration import calibration_of
from lesart.desk.workspace.pace.pace import timing_of
from lesart.desk.workspace.pace.trace import traced_timing
from lesart.project.exported import TakenError, check_free, write_export
from lesart.project.joins_csv import joins_csv
from lesart.project.points_csv import points_csv
from lesart.study.drawable import Subject, hookup_sheet
from lesart.study.views import Glass, Picture

FOLDER = "drawings"
_ALSO: dict[Step | None, str] = {
    Step.WIRE: ", or .csv for the connections",
    Step.TRUE: ", or .csv for the points",
    Step.GLASS: ", or .png",
}


def default_path(picture: Picture) -> str:
    """``drawings/hive-2-mass-true.svg``, in the project's folder."""
    step = picture.workspace.step
    if step is Step.WIRE:
        return f"{FOLDER}/{slug(picture.project)}-hook-up.svg"
    of_panel = step in (Step.GLASS, Step.PACE, Step.FIT, None)
    subject = picture.glass[0].name if of_panel and picture.glass else picture.channel
    return f"{FOLDER}/{slug(subject)}-{step or 'all'}.svg"


def slug(text: str) -> str:
    """A file name of letters, digits and dashes."""
    return re.sub(r"[^a-z0-9]+", "-", text.lower()).strip("-") or "view"


def export_view(desk: Desk, text: str, done: Callable[[str, bool], None], *, replaces: bool = False) -> None:
    """Draw the open view's chart, the hook-up, or else the panel brought forward, to a path in the project's folder.

    Says at once what is being drawn; ``done`` is called from another thread with a sentence and whether it is a fault.
    Where another file is there, whether it is to be replaced is asked first.
    """
    path = Path(text.strip()).expanduser()
    path = path if path.is_absolute() else desk.folder / path
    csv = path.suffix.lower() == ".csv" and desk.state.step in (Step.WIRE, Step.TRUE)
    png = path.suffix.lower() == ".png" and isinstance(_subject(desk), Glass)
    if not csv and not png and path.suffix.lower() not in (".svg", ".pdf"):
        also = _ALSO.get(desk.state.step, "")
        desk.say(f'"{text}" does not end in .svg or .pdf{also}; name it like {FOLDER}/view.svg.', fault=True)
        return
    try:
        check_free(path, desk.folder, replace=replaces)
        if csv:
            of = joins_csv(desk.state.project.hookup) if desk.state.step == Step.WIRE else points_csv(desk.state.chosen)
            write_export(path, of, desk.folder, replace=replaces)
            desk.say(f"Written: {path}.")
            return
    except TakenError:
        desk.ask(text.strip())
        return
    except LesartError as error:
        desk.say(str(error), fault=True)
        return
    subject = _subject(desk)
    if subject is None:
        desk.say("There is no chart and no panel to draw here.")
        return
    title = f"{desk.state.project.name} · {desk.state.channel}"
    desk.say(f"Drawing {path.name} …")

    def draw() -> None:
        from lesart.study.drawing import draw_subject

        try:
            write_export(path, draw_subject(subject, path.suffix, title), desk.folder, replace=replaces)
            done(f"Drawn: {path}.", False)
        except LesartError as error:
            done(str(error), True)

    # Not a daemon: leaving at once must not lose the drawing.
    threading.Thread(target=draw, name="draw").start()


def _subject(desk: Desk) -> Subject | None:
    """The data that the open view is drawn from."""
    workspace, context = workspace_now(desk), context_of(desk)
    if desk.state.step == Step.WIRE:
        return hookup_sheet(desk.state.project)
    subject: Subject | None = workspace.chart or next(iter(context.glasses), None)
    if desk.state.step == Step.TRUE:
        return calibration_of(desk, f"{datetime.now():%Y-%m-%d}") or subject
    if desk.state.step == Step.PACE and workspace.chart is None:
        return workspace.glass or traced_timing(context) or timing_of(context) or subject
    return subject
