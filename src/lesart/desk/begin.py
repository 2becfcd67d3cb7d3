"""Ways to begin: a project in a folder, with what a killed run left; the demo; a new project from a capture."""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path

from lesart.core.errors import ProjectError, RequestError
from lesart.desk.bench import Bench
from lesart.desk.desk import Desk
from lesart.desk.filed import project_to_open
from lesart.desk.history import History
from lesart.desk.state import State
from lesart.project.assets import Assets
from lesart.project.check import FILE
from lesart.project.new import make_project
from lesart.project.store import find_unsaved, keep_aside, project_folder, read_text, write_whole


def open_desk(path: Path) -> Desk:
    """Open the project in a folder, with the unsaved work of a run that was killed.

    Raises StorageError when there is no project, ProjectError with all its problems when it is broken.
    """
    folder = project_folder(path)
    saved = read_text(folder / FILE)
    project = project_to_open(saved, assets=Assets(folder))
    state = State(project, History((saved,)), saved, next(iter(project.channels)), next(iter(project.panels), ""))
    desk = Desk(folder, state, Bench(folder))
    start, end = desk.view()
    desk.put_cursor(start + (end - start) / 5)
    desk.move_cursor(0)
    _take_unsaved(desk)
    return desk


def _take_unsaved(desk: Desk) -> None:
    """Unsaved work comes back as an edit over the saved file, so that undo leads to what was saved."""
    found = find_unsaved(desk.folder, desk.state.saved)
    if found is None:
        return
    try:
        project = project_to_open(found.text, desk.state.project)
    except ProjectError as error:
        aside = keep_aside(desk.folder, "broken", found.text)
        desk.say(f"Unsaved work could not be taken up ({error.problems[0]}); it is in {aside.name}.", fault=True)
        return
    if not found.fits:
        aside = keep_aside(desk.folder, "earlier", found.text)
        desk.say(f"Unsaved work of an older {FILE} was found; it is kept in {desk.folder.name}/.lesart/{aside.name}.")
        return
    history = desk.state.history.done(found.text, "unsaved work of the last run")
    desk.state = replace(desk.state, project=project, history=history)
    desk.say("Unsaved work of the last run is back; ctrl+s saves it, ctrl+z returns to the saved file.")


def make_yard(folder: Path) -> None:
    """Write all files of the linden yard, the traces of its displays last: they are drawn from the others.

    Raises StorageError.
    """
    # Its signals are not needed where its files are there.
    from lesart.demo import spoiled
    from lesart.demo.yard import write_yard
    from lesart.desk.model_traces import bus_trace, digits_trace
    from lesart.project.vcd_write import vcd_text

    write_yard(folder)
    bench, project = Bench(folder), project_to_open(read_text(folder / FILE), assets=Assets(folder))
    lid = bus_trace(project, bench, "lid", spoiled.LID_MOMENTS_S,
                    lambda place, told: spoiled.one_page_wrong(told) if place == 2 else told)  # fmt: skip
    write_whole(folder / spoiled.LID_TRACE, vcd_text(lid, 1e-7, "lid"))
    stand = digits_trace(project, bench, "stand", spoiled.STAND_MOMENT_S, spoiled.STAND_LASTS_S, spoiled.uneven)
    write_whole(folder / spoiled.STAND_TRACE, vcd_text(stand, 1e-6, "stand"))


def open_demo(folder: Path) -> Desk:
    """The linden yard; its files are made when the folder has none. Raises StorageError."""
    if not (folder / FILE).exists():
        make_yard(folder)
    desk = open_desk(folder)
    desk.lines.with_rig = True
    return desk


def folder_for(capture: Path) -> Path:
    """Where a project from a capture goes when nobody says: a folder with its name, here."""
    return Path(capture.stem or "project")


def open_new(capture: Path) -> Desk:
    """A new project from a capture. Raises CaptureError, StorageError, or RequestError for a port."""
    if capture.is_char_device():
        raise RequestError(f"{capture} is a port, not a file; lesart new {capture} listens to it and makes a project.")
    return open_desk(make_project(capture, folder_for(capture)).folder)
