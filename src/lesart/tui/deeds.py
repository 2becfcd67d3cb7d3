"""What keys let the desk do, each imported in the desk's own thread, so that nothing heavy is imported before the first
picture."""

from __future__ import annotations

from collections.abc import Callable
from datetime import datetime
from pathlib import Path
from typing import TYPE_CHECKING, Any, Literal

if TYPE_CHECKING:
    from lesart.desk.desk import Desk

Way = Literal["left", "right", "up", "down"]


def open_folder(path: Path) -> Desk:
    """Open a project folder."""
    from lesart.desk import opening

    return opening.open_desk(path)


def open_demo() -> Desk:
    """Open the linden yard, in the folder where Lesart was started."""
    from lesart.desk import opening

    return opening.open_demo(Path("linden-yard"))


def jobs_by_name() -> dict[str, str]:
    """Titles of worked jobs by the name of their folder. Takes a moment: not for the screen's thread."""
    from lesart.demo.jobs.listed import JOBS

    return {job.folder: job.title for job in JOBS}


def open_job(name: str) -> Desk:
    """Open a worked job, in the folder where Lesart was started."""
    from lesart.desk import opening, project_folders

    return opening.open_desk(project_folders.make_job(name, Path(name)))


def open_new(path: Path) -> Desk:
    """Make and open a new project from a capture."""
    from lesart.desk import opening

    return opening.open_new(path)


def with_typed(desk: Desk, deed: Callable[[Desk, str], Any], typed: str) -> None:
    """A deed on typed text; an absurdly long line is refused by its length."""
    from lesart.core.errors import RequestError
    from lesart.desk.entries.typed_values import not_too_long

    try:
        not_too_long(typed)
    except RequestError as error:
        desk.say(str(error), fault=True)
    else:
        deed(desk, typed)


def remember_project(desk: Desk) -> None:
    """Remember a project for the welcome page."""
    from lesart.project.folder import remembered

    remembered.remember_project(desk.folder)


def remember_look(*, light: bool) -> None:
    """Remember the look for the next run."""
    from lesart.project.folder import remembered

    remembered.remember_look(light=light)


def remember_walk(stop: int) -> None:
    """Remember the stop of the walk."""
    from lesart.project.folder import remembered

    remembered.remember_walk(stop)


def walk_waits_at() -> int:
    """The stop at which the walk was left."""
    from lesart.project.folder import remembered

    return remembered.remembered().walk


def move_value(desk: Desk, by: int) -> None:
    """Select another value of the workspace."""
    from lesart.desk import picture

    picture.move_value(desk, by)


def nudge_value(desk: Desk, direction: int) -> None:
    """Step the selected value up or down."""
    from lesart.desk import picture

    picture.nudge_value(desk, direction)


def try_out(desk: Desk, deed: Callable[[Desk], None] | None) -> None:
    """Preview a deed; without one show the present state."""
    from lesart.desk import trial

    trial.try_out(desk, deed)


def search(desk: Desk) -> None:
    """Show everything that can be found."""
    from lesart.desk.deeds import finding

    finding.search(desk)


def find(desk: Desk, typed: str) -> None:
    """Go to what has that name."""
    from lesart.desk.deeds import finding

    finding.find(desk, typed)


def ask_why(desk: Desk, typed: str) -> None:
    """Ask what the channel should read, and what explains that it does not."""
    from lesart.desk.deeds import why

    why.ask_why(desk, typed)


def go_home(desk: Desk) -> None:
    """Go to a value's home, or to the limit of a note."""
    from lesart.desk.deeds import home

    home.go_home(desk)


def toggle_listening(desk: Desk) -> None:
    """Listen to the line of the chosen channel, or leave it."""
    from lesart.desk.deeds import lines

    lines.toggle_listening(desk)


def toggle_all(desk: Desk) -> None:
    """Listen to all lines, or leave them."""
    from lesart.desk.deeds import lines

    lines.toggle_all(desk)


def toggle_recording(desk: Desk) -> None:
    """Record the line of the chosen channel, or stop."""
    from lesart.desk.deeds import lines

    lines.toggle_recording(desk, datetime.now())


def toggle_survey(desk: Desk) -> None:
    """Ask who answers on a line."""
    from lesart.desk.deeds import lines

    lines.toggle_survey(desk)


def next_variant(desk: Desk) -> None:
    """Look at the next variant of the channel."""
    from lesart.desk.deeds import variants

    desk.turn(variants.next_variant)


def new_variant(desk: Desk) -> None:
    """Add a variant like the one looked at."""
    from lesart.desk.deeds import variants

    variants.new_variant(desk)


def drop_variant(desk: Desk) -> None:
    """Remove the variant looked at."""
    from lesart.desk.deeds import variants

    variants.drop_variant(desk)


def rename(desk: Desk, name: str) -> None:
    """Rename what is looked at."""
    from lesart.desk.deeds import naming

    naming.rename(desk, name)


def copy(desk: Desk, name: str) -> None:
    """Copy what is looked at."""
    from lesart.desk.deeds import naming

    naming.copy(desk, name)


def adopt(desk: Desk) -> None:
    """Adopt the variant or calibration looked at."""
    from lesart.desk.deeds import adopting

    adopting.adopt(desk)


def move(desk: Desk, way: Way, by: Literal["", "cell"] = "") -> None:
    """Move the selected item, or the current dot."""
    from lesart.desk.deeds import glass

    glass.move(desk, way, by)


def snap(desk: Desk, way: Way) -> None:
    """Snap the selected item to the next line."""
    from lesart.desk.deeds import glass

    glass.snap(desk, way)


def align(desk: Desk) -> None:
    """Align the selected item left, centred, right."""
    from lesart.desk.deeds import glass

    glass.align(desk)


def space_evenly(desk: Desk) -> None:
    """Space items equally."""
    from lesart.desk.deeds import glass

    glass.space_evenly(desk)


def look_closely(desk: Desk) -> None:
    """Look closely at the item's pixels, or at the whole panel."""
    from lesart.desk.deeds import glass

    desk.turn(glass.look_closely)


def look_from_behind(desk: Desk) -> None:
    """Look at see-through panels from behind, or from the front."""
    from lesart.desk.deeds import glass

    desk.turn(glass.look_from_behind)


def next_place(desk: Desk) -> None:
    """Go to the next field of the channel in Fit; else to the next face of the panel."""
    from lesart.desk.deeds import glass

    desk.turn(glass.next_place)


def next_pattern(desk: Desk) -> None:
    """Show the next test pattern on the panel in front."""
    from lesart.desk.deeds import glass

    desk.turn(glass.next_pattern)


def turn_over(desk: Desk) -> None:
    """Toggle a dot of a glyph, before and after, or kept figures of Pace."""
    from lesart.desk.deeds import turning

    turning.turn_over(desk)


def lit_line(desk: Desk, name: str) -> None:
    """Take in which segment is lit now."""
    from lesart.desk.deeds import glass

    glass.lit_line(desk, name)


def join_by_role(desk: Desk) -> None:
    """Join all open pins."""
    from lesart.desk.deeds import hookup

    hookup.join_by_role(desk)


def write_sum(desk: Desk) -> None:
    """Write the result of the selected sum into the hook-up."""
    from lesart.desk.deeds import hookup

    hookup.write_sum(desk)
