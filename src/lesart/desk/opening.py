"""Ways to begin: a project in a folder, with unsaved work of a killed run; the demo; a new project from a capture."""

from __future__ import annotations

from os.path import exists
from pathlib import Path

from lesart.core.errors import ProjectError, RequestError
from lesart.desk.desk import Desk
from lesart.desk.history import History
from lesart.desk.project_file import project_to_open
from lesart.desk.project_folders import make_yard, take_up
from lesart.desk.state import State
from lesart.project.assets.named import Assets
from lesart.project.folder.files import is_device
from lesart.project.folder.session import Session, Unsaved
from lesart.project.folder.store import FILE, keep_aside, project_folder, read_text
from lesart.project.new.format import bare_name
from lesart.study.whole_bench import bench_at


def open_desk(path: Path) -> Desk:
    """Open the project in a folder, with the unsaved work of a run that was killed.

    Raises StorageError when there is no project, ProjectError with all its problems when it is broken.
    """
    took_up = take_up(path)
    folder = project_folder(path)
    desk = _desk_over(folder, Session(folder))
    if took_up:
        desk.say(took_up)
    _take_unsaved(desk)
    return desk


def look_at(path: Path, *, keeps: bool = True) -> Desk:
    """The project in a folder as saved, for a command that changes nothing; ``keeps`` caches long captures to open
    sooner. Raises as ``open_desk``."""
    return _desk_over(project_folder(path), None, keeps=keeps)


def _desk_over(folder: Path, session: Session | None, *, keeps: bool = True) -> Desk:
    saved = read_text(folder / FILE)
    project = project_to_open(saved, assets=Assets(folder))
    state = State(project, History((saved,)), saved, next(iter(project.channels)), next(iter(project.panels), ""))
    desk = Desk(folder, state, bench_at(folder, keeps=keeps), session)
    if project.about:
        desk.say(project.about)
    start, end = desk.view()
    desk.put_cursor(start + (end - start) / 5)
    desk.move_cursor(0)
    return desk


def _take_unsaved(desk: Desk) -> None:
    """Take up unsaved work of killed runs: the last one comes back as an edit over the saved file, so that undo leads
    to what was saved; others, and what does not fit, are kept under names of their own."""
    session = desk.filed.session
    if session is None:
        return
    found = []
    left_behind = session.left_behind(desk.state.saved)
    last = next((left for left in left_behind if left.text is not None and left.fits), None)
    # Those that are only kept come first: the last one may be written over one of them.
    for left in sorted(left_behind, key=lambda each: each is last):
        found.append(_taken_up(desk, session, left, is_last=left is last))
        session.forget(left)
    if found:
        desk.say(" ".join(said for said, _ in reversed(found)), fault=any(bad for _, bad in found))


def _taken_up(desk: Desk, session: Session, left: Unsaved, *, is_last: bool) -> tuple[str, bool]:
    """What happens to unsaved work, in a sentence, and whether something is wrong with it. Raises StorageError."""
    if left.text is None:
        return f"Unsaved work of an earlier run is no longer text; it is in {session.set_aside(left)}.", True
    if not left.fits:
        where = _aside(desk, "earlier", left.text)
        return f"Unsaved work over an older {FILE} was found; it is kept in {where}.", False
    if not is_last:
        return f"Unsaved work of another run is kept in {_aside(desk, 'earlier', left.text)}.", False
    try:
        desk.take_up(left.text, "unsaved work of the last run")
    except ProjectError as error:
        where = _aside(desk, "broken", left.text)
        return f"Unsaved work could not be restored ({str(error.problems[0]).rstrip('.')}); it is in {where}.", True
    return "Unsaved work of the last run is back; ctrl+s saves it, ctrl+z returns to the saved file.", False


def _aside(desk: Desk, name: str, text: str) -> Path:
    return keep_aside(desk.folder, name, text).relative_to(desk.folder)


def open_demo(folder: Path) -> Desk:
    """The linden yard; its files are made when the folder has none. Raises StorageError."""
    if not exists(folder / FILE):
        make_yard(folder)
    desk = open_desk(folder)
    desk.lines.with_rig = True
    return desk


def folder_for(capture: Path) -> Path:
    """Default folder of a project from a capture: one with its name, here."""
    return Path(bare_name(capture) or "project")


def open_new(capture: Path) -> Desk:
    """A new project from a capture. Raises CaptureError, StorageError, or RequestError for a port."""
    from lesart.project.new.make import make_project

    if is_device(capture):
        raise RequestError(f"{capture} is a port, not a file; lesart new {capture} listens to it and makes a project.")
    return open_desk(make_project(capture, folder_for(capture)).folder)
