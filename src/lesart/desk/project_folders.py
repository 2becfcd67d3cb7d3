"""Making folders of projects: the linden yard, and completing one whose making was killed."""

from __future__ import annotations

import os
from os.path import exists, isdir
from pathlib import Path

from lesart.core.errors import LesartError, StorageError
from lesart.desk.project_file import project_to_open
from lesart.project.assets.named import Assets
from lesart.project.captures.progress import tell
from lesart.project.folder.made import is_free, leftover_of, made_beside, workplace
from lesart.project.folder.store import FILE, OWN_FOLDER, read_text, write_whole
from lesart.study.whole_bench import bench_at

YARD = "the linden yard"


def make_yard(folder: Path) -> None:
    """Make all files of the linden yard in one step, or complete a half-made folder. Raises StorageError."""
    if is_free(folder):
        with made_beside(folder) as making:
            _write_yard(making)
        return
    if not is_half_a_yard(folder):
        raise StorageError(f"{folder}: it holds other files; name another folder, like lesart demo my-yard.")
    with workplace(folder) as making:
        _write_yard(making)
        _put_into(making, folder)


def make_wrong_yard(folder: Path) -> None:
    """Make the linden yard with a mistake at each of two stations, to be found. Raises StorageError."""
    from lesart.demo.yard import WRONG

    make_yard(folder)
    text = read_text(folder / FILE)
    for right, wrong in WRONG:
        text = text.replace(right, wrong, 1)
    write_whole(folder / FILE, text.encode())


def make_job(name: str, folder: Path) -> Path:
    """A job worked out, in a folder of its own, in one step; one that is there already stays as it is.

    Raises RequestError for a name that there is not, StorageError for a folder that holds something else.
    """
    from lesart.demo.jobs.job import job_files
    from lesart.demo.jobs.listed import job_named

    job = job_named(name)
    if exists(folder / FILE):
        return folder
    if not is_free(folder):
        raise StorageError(f"{folder}: it holds other files; name another folder, like lesart demo --job {name} mine.")
    with made_beside(folder) as making:
        for each, content in job_files(job).items():
            write_whole(making / each, content.encode())
    return folder


def _write_yard(folder: Path) -> None:
    """Write the yard, the traces of its displays last: they are drawn from the others."""
    # Its signals are not needed where its files are there.
    from lesart.demo import spoiled
    from lesart.demo.yard import FILES
    from lesart.project.captures.traces.vcd_write import vcd_text
    from lesart.study.wires.model_traces import bus_trace, digits_trace

    count = len(FILES) + 2
    for place, (name, made) in enumerate(FILES):
        tell(YARD, place, count, "Making")
        write_whole(folder / name, made())
    bench, project = bench_at(folder, keeps=False), project_to_open(read_text(folder / FILE), assets=Assets(folder))
    lid = bus_trace(
        project,
        bench,
        "lid",
        spoiled.LID_MOMENTS_S,
        lambda place, told: spoiled.one_page_wrong(told) if place == 2 else told,
    )
    write_whole(folder / spoiled.LID_TRACE, vcd_text(lid, 1e-7, "lid"))
    tell(YARD, count - 1, count, "Making")
    stand = digits_trace(project, bench, "stand", spoiled.STAND_MOMENT_S, spoiled.STAND_LASTS_S, spoiled.uneven)
    write_whole(folder / spoiled.STAND_TRACE, vcd_text(stand, 1e-6, "stand"))


def _put_into(made: Path, folder: Path) -> None:
    """Replace the files there, the project file last: until then it counts as half made."""
    names = sorted((name for name in _files(made) if "/" in name or name == FILE), key=lambda name: name == FILE)
    for name in names:
        (folder / name).parent.mkdir(parents=True, exist_ok=True)
        os.replace(made / name, folder / name)
    for name in _files(folder):
        if leftover_of(Path(name).name) is not None:
            (folder / name).unlink()


def _files(folder: Path) -> list[str]:
    """Files of a project by path, without Lesart's own."""
    found = (path.relative_to(folder) for path in folder.rglob("*") if not isdir(path))
    return [name.as_posix() for name in found if name.parts[0] != OWN_FOLDER]


def is_half_a_yard(folder: Path) -> bool:
    """True where a folder holds nothing but part of the yard's files, as left by a kill while making it."""
    from lesart.demo import spoiled

    if exists(folder / FILE) and exists(folder / spoiled.STAND_TRACE):
        return False  # the last one made is there
    from lesart.demo.yard import FILES, project_text

    known = {name for name, _ in FILES} | {spoiled.LID_TRACE, spoiled.STAND_TRACE}
    found = set(_files(folder))
    begun = {(Path(name).parent / (leftover_of(Path(name).name) or "")).as_posix() for name in found - known}
    if not found or not begun <= known:
        return False
    return FILE not in found or read_text(folder / FILE) == project_text()


def take_up(path: Path) -> str:
    """Make whole what is half made in a folder, and say so; nothing where there is nothing to do.

    Raises StorageError or CaptureError.
    """
    folder = path.parent if path.name == FILE else path
    if not isdir(folder):
        return ""
    if is_half_a_yard(folder):
        make_yard(folder)
        return "The linden yard was half made here; it is complete now."
    if exists(folder / FILE):
        return ""
    captures = [name for name in _files(folder) if leftover_of(Path(name).name) is None]
    if len(captures) != 1 or not captures[0].startswith("captures/"):
        return ""
    from lesart.project.new.make import make_project

    with workplace(folder) as work:
        try:
            made = make_project(folder / captures[0], work / folder.name)
        except LesartError as error:
            why = f"there is no {FILE} in it, and none can be made of its capture; {error}"
            raise StorageError(f"{path}: {why}") from error
        os.replace(made.folder / FILE, folder / FILE)
    return (
        f"There was a capture but no {FILE}: it is made now. Is {captures[0]} complete? Whatever was making it was "
        "stopped."
    )
